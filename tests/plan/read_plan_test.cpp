#include "plan/read_plan.hpp"

#include <catch2/catch.hpp>

#include "base/error.hpp"
#include "sheet/png.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::plan;

namespace {

const std::vector<Rgba> kPalette{{200, 180, 150, 255}, {40, 90, 120, 255}, {90, 120, 60, 255}, {150, 60, 45, 255}};

// Blobs of the palette, and which of them each pixel is.
struct Painted {
    Image picture;
    std::vector<std::uint8_t> keys;
};
Painted painted(make::Random& random, int side) {
    Painted out{Image({side, side}, kPalette[0]), std::vector<std::uint8_t>(static_cast<std::size_t>(side * side), 0)};
    for (int i = 0; i < 9; ++i) {
        const auto key = static_cast<std::uint8_t>(random.below(4));
        const Box box = intersection({random.below(side), random.below(side), 3 + random.below(9), 3 + random.below(9)},
                                     {0, 0, side, side});
        for (int y = box.y; y < box.bottom(); ++y)
            for (int x = box.x; x < box.right(); ++x) {
                out.picture.set(x, y, kPalette[key]);
                out.keys[static_cast<std::size_t>(y * side + x)] = key;
            }
    }
    return out;
}

} // namespace

TEST_CASE("the colours of a plan are found with their counts", "[plan]") {
    make::Random random(4);
    for (int round = 0; round < 12; ++round) {
        const Painted p = painted(random, 32);
        const auto found = colours(p.picture, 24);
        std::int64_t all = 0;
        for (const Colour& c : found) {
            std::int64_t own = 0;
            for (const Rgba pixel : p.picture.pixels()) own += pixel == c.colour;
            CHECK(own == c.count);
            all += c.count;
        }
        CHECK(all == 32 * 32);
        CHECK(assigned(p.picture, kPalette, 0, false) == p.keys);
    }
}

TEST_CASE("the noise of compression and smoothed edges are snapped to the colours that are meant", "[plan]") {
    make::Random random(9);
    std::int64_t wrong = 0;
    std::int64_t pixels = 0;
    for (int round = 0; round < 12; ++round) {
        Painted p = painted(random, 48);
        Image noisy = p.picture;
        for (int y = 0; y < 48; ++y)
            for (int x = 0; x < 48; ++x) {
                Rgba c = p.picture.at(x, y);
                if (random.flip(0.35) && x > 0 && !(p.picture.at(x - 1, y) == c)) { // a smoothed edge
                    const Rgba o = p.picture.at(x - 1, y);
                    const auto mixed = [](int a, int b) { return static_cast<std::uint8_t>((a * 3 + b * 2) / 5); };
                    c = {mixed(c.r, o.r), mixed(c.g, o.g), mixed(c.b, o.b), 255};
                }
                const auto shaken = [&](int v) {
                    return static_cast<std::uint8_t>(std::clamp(v + random.below(13) - 6, 0, 255));
                };
                noisy.set(x, y, {shaken(c.r), shaken(c.g), shaken(c.b), 255});
            }
        CHECK(colours(noisy, 24).size() <= colours(p.picture, 24).size() + 1);
        const auto got = assigned(noisy, kPalette, 24);
        for (std::size_t i = 0; i < got.size(); ++i) wrong += got[i] != p.keys[i];
        pixels += static_cast<std::int64_t>(got.size());
    }
    CHECK(double(wrong) / double(pixels) < 0.01);
}

TEST_CASE("what noise moved further is still the colour that a person sees", "[plan]") {
    make::Random random(11);
    std::int64_t wrong = 0, unknown = 0, pixels = 0;
    for (int round = 0; round < 6; ++round) {
        Painted p = painted(random, 48);
        Image noisy = p.picture;
        for (int y = 0; y < 48; ++y)
            for (int x = 0; x < 48; ++x) {
                const Rgba c = p.picture.at(x, y);
                // The sum of four evens is nearly normal, here with a deviation of 20.
                const auto shaken = [&](int v) {
                    int sum = 0;
                    for (int i = 0; i < 4; ++i) sum += random.below(35) - 17;
                    return static_cast<std::uint8_t>(std::clamp(v + sum, 0, 255));
                };
                noisy.set(x, y, {shaken(c.r), shaken(c.g), shaken(c.b), 255});
            }
        const auto got = assigned(noisy, kPalette, 24);
        for (std::size_t i = 0; i < got.size(); ++i) {
            unknown += got[i] == level::kNoKey;
            wrong += got[i] != level::kNoKey && got[i] != p.keys[i];
        }
        pixels += static_cast<std::int64_t>(got.size());
    }
    WARN(pixels << " pixels, " << unknown << " unknown, " << wrong << " wrong");
    CHECK(double(unknown) / double(pixels) < 0.02);
    CHECK(double(wrong) / double(pixels) < 0.02);
}

TEST_CASE("a colour of its own is never taken for an edge, and a strange one stays unknown", "[plan]") {
    Image p({12, 12}, kPalette[0]);
    for (int y = 0; y < 12; ++y)
        for (int x = 6; x < 12; ++x) p.set(x, y, kPalette[1]);
    // A spot in the very middle between the two.
    const Rgba middle{120, 135, 135, 255};
    for (int y = 4; y < 7; ++y)
        for (int x = 5; x < 8; ++x) p.set(x, y, middle);
    CHECK(colours(p, 24).size() == 3);
    const Rgba strange{255, 0, 255, 255};
    p.set(0, 0, strange);
    const auto got = assigned(p, {kPalette[0], kPalette[1]}, 24);
    CHECK(got[0] == level::kNoKey);
    CHECK(got[1] == 0);
    CHECK(distance({1, 2, 3, 0}, {200, 9, 9, 10}) == 0); // both see-through
    CHECK(distance({1, 2, 3, 0}, {1, 2, 3, 255}) > 441);
}

TEST_CASE("a plan that is drawn bottom up is turned over, and one of absurd size is refused", "[plan]") {
    Image p({2, 3});
    p.set(0, 2, kPalette[1]);
    CHECK(upright(p, true).at(0, 0) == kPalette[1]);
    CHECK(upright(p, false).at(0, 2) == kPalette[1]);
    CHECK(read_picture(sheet::encode_png(p), "small.png").size() == Size{2, 3});
    try {
        read_picture(sheet::encode_png(Image({1500, 2}, kPalette[0])), "large.png");
        FAIL("a plan of 1500 pixels was taken");
    } catch (const InputError& e) {
        CHECK(e.file == "large.png");
        CHECK(e.problem.english().find("1500") != std::string::npos);
        CHECK_FALSE(e.remedy.empty());
    }
    CHECK_THROWS_AS(read_picture("no picture", "x.png"), InputError);
}
