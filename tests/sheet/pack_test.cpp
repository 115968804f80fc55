#include "sheet/pack.hpp"

#include <catch2/catch.hpp>
#include <map>

#include "support/make.hpp"

using namespace vic;
using namespace vic::sheet;

namespace {

std::vector<NamedPicture> pictures(make::Random& random, int count, int from = 0) {
    std::vector<NamedPicture> out;
    for (int i = 0; i < count; ++i)
        out.push_back({"thing-" + std::to_string(from + i), Image({4 + random.below(40), 4 + random.below(50)},
                                                                  {static_cast<std::uint8_t>(1 + random.below(250)),
                                                                   static_cast<std::uint8_t>(i), 9, 255})});
    return out;
}

void sound(const Packed& p, const std::vector<NamedPicture>& of) {
    for (std::size_t i = 0; i < p.parts.size(); ++i) {
        CHECK(box_of(p.image.size()).contains(p.parts[i].box));
        for (std::size_t k = i + 1; k < p.parts.size(); ++k)
            CHECK(intersection(p.parts[i].box.grown(1), p.parts[k].box).empty());
    }
    for (const NamedPicture& n : of) {
        const auto part = std::find_if(p.parts.begin(), p.parts.end(), [&](const auto& q) { return q.name == n.name; });
        REQUIRE(part != p.parts.end());
        CHECK(cropped(p.image, part->box) == n.image);
    }
}

} // namespace

TEST_CASE("many pictures lie on one sheet apart from one another, the same in whatever order they come", "[pack]") {
    make::Random random(3);
    for (const int count : {1, 2, 7, 60}) {
        auto all = pictures(random, count);
        const auto first = pack_pictures(all);
        REQUIRE(first);
        CHECK(first->parts.size() == all.size());
        sound(*first, all);
        std::shuffle(all.begin(), all.end(), random.engine);
        CHECK(pack_pictures(all)->image == first->image);
    }
}

TEST_CASE("pictures that come, go and change leave all others where they were", "[pack]") {
    make::Random random(5);
    auto all = pictures(random, 30);
    auto packed = *pack_pictures(all);
    for (int round = 0; round < 12; ++round) {
        const Packed before = packed;
        std::map<std::string, Box> was;
        for (const auto& part : before.parts) was[part.name] = part.box;
        const std::string resized = all[1].name;
        const auto gone = all.front();
        all.erase(all.begin());
        all[0].image = Image({3 + random.below(60), 3 + random.below(60)}, {7, 7, 7, 255});
        const auto more = pictures(random, 2, 100 + round * 2);
        all.insert(all.end(), more.begin(), more.end());
        packed = *pack_pictures(all, before.parts, before.image);
        sound(packed, all);
        for (const auto& part : packed.parts)
            if (was.contains(part.name) && part.name != resized) CHECK(part.box == was.at(part.name));
        // What went is still there, for what was placed of it.
        CHECK(cropped(packed.image, was.at(gone.name)) == gone.image);
    }
}

TEST_CASE("too much for one sheet is not packed", "[pack]") {
    CHECK_FALSE(pack_pictures({{"wide", Image({20000, 2})}}));
}

TEST_CASE("squares of one size are packed in rows, in the order in which a person counts", "[pack]") {
    const auto picture = [](std::uint8_t red) { return Image({20, 20}, {red, 0, 0, 255}); };
    std::vector<sheet::NamedPicture> pictures;
    for (const int n : {10, 2, 1, 9, 11}) pictures.push_back({"road " + std::to_string(n), picture(std::uint8_t(n))});
    REQUIRE(sheet::are_even(pictures));
    const auto first = sheet::pack_even(pictures);
    REQUIRE(first);
    CHECK(first->image.size() == Size{100, 20});
    CHECK(sheet::are_even(first->parts));
    for (int i = 0; const int n : {1, 2, 9, 10, 11}) CHECK(first->image.at(20 * i++, 0).r == n);
    // What comes later lies behind; what went keeps place and pixels.
    pictures.erase(pictures.begin());
    pictures.push_back({"a bend", picture(77)});
    for (int n = 20; n < 26; ++n) pictures.push_back({"x" + std::to_string(n), picture(std::uint8_t(n))});
    const auto then = sheet::pack_even(pictures, first->parts, first->image);
    REQUIRE(then);
    CHECK(then->image.size() == Size{160, 40});
    CHECK(then->image.at(60, 0).r == 10);
    CHECK(then->image.at(100, 0).r == 77);
    CHECK(then->parts.size() == 12);
    for (const level::Part& part : first->parts)
        CHECK(std::find(then->parts.begin(), then->parts.end(), part) != then->parts.end());
    pictures.push_back({"odd", Image({20, 21})});
    CHECK_FALSE(sheet::are_even(pictures));
}
