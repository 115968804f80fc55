// The props of a layer against a plain list of them.
#include "level/props.hpp"

#include <algorithm>
#include <catch2/catch.hpp>
#include <map>
#include <set>

#include "support/make.hpp"

using namespace vic;
using namespace vic::level;

namespace {

std::vector<Prop> listed(const std::map<PropId, Prop>& all) {
    std::vector<Prop> out;
    for (const auto& [id, p] : all) out.push_back(p);
    return out;
}

struct Both {
    Props props;
    std::map<PropId, Prop> plain;

    void step(make::Random& random) {
        const auto id = static_cast<PropId>(random.below(400) + 1);
        if (random.below(4) == 0) {
            CHECK(props.remove(id) == (plain.erase(id) == 1));
            return;
        }
        const Prop p{id,
                     static_cast<PropKindId>(random.below(5) + 1),
                     {static_cast<int>(random.below(6000)) - 1500, static_cast<int>(random.below(6000)) - 1500},
                     {random.below(2) == 0}};
        props.put(p);
        plain[id] = p;
    }
};

} // namespace

TEST_CASE("props are those that were put and not removed", "[props]") {
    make::Random random(7);
    Both both;
    CHECK(both.props.empty());
    for (int i = 0; i < 4000; ++i) {
        both.step(random);
        if (i % 97 != 0) continue;
        REQUIRE(both.props.all() == listed(both.plain));
        REQUIRE(both.props.size() == both.plain.size());
        for (PropId id = 0; id <= 401; ++id) {
            const Prop* found = both.props.find(id);
            REQUIRE((found != nullptr) == both.plain.contains(id));
            if (found) REQUIRE(*found == both.plain.at(id));
        }
        CHECK(Props(listed(both.plain)) == both.props);
    }
    for (PropId id = 0; id <= 401; ++id) both.props.remove(id);
    CHECK(both.props.empty());
    CHECK(both.props.begin() == both.props.end());
}

TEST_CASE("props in a box of pixels are those whose pivot is there", "[props]") {
    make::Random random(11);
    Both both;
    for (int i = 0; i < 600; ++i) both.step(random);
    for (int i = 0; i < 200; ++i) {
        const Box box{static_cast<int>(random.below(6000)) - 1500, static_cast<int>(random.below(6000)) - 1500,
                      static_cast<int>(random.below(1400)), static_cast<int>(random.below(1400))};
        std::set<PropId> found, wanted;
        both.props.each_in(box, [&](const Prop& p) { CHECK(found.insert(p.id).second); });
        for (const auto& [id, p] : both.plain)
            if (box.contains(p.at)) wanted.insert(id);
        REQUIRE(found == wanted);
    }
}

TEST_CASE("the difference of two states is what was changed, and an old state stays as it was", "[props]") {
    make::Random random(13);
    Both both;
    for (int i = 0; i < 600; ++i) both.step(random);
    for (int round = 0; round < 50; ++round) {
        const Both before = both;
        const int steps = static_cast<int>(random.below(5));
        for (int i = 0; i < steps; ++i) both.step(random);
        std::set<PropId> found;
        Props::differences(before.props, both.props, [&](const Prop* a, const Prop* b) {
            for (const Prop* p : {a, b})
                if (p) found.insert(p->id);
        });
        std::set<PropId> wanted;
        for (PropId id = 0; id <= 401; ++id) {
            const bool a = before.plain.contains(id);
            const bool b = both.plain.contains(id);
            if (a != b || (a && before.plain.at(id) != both.plain.at(id))) wanted.insert(id);
        }
        REQUIRE(found == wanted);
        REQUIRE(before.props.all() == listed(before.plain));
        CHECK((before.props == both.props) == wanted.empty());
    }
}

TEST_CASE("a step over very many props holds on to little", "[props]") {
    std::vector<Prop> many;
    for (PropId i = 1; i <= 100000; ++i)
        many.push_back({i, 1, {static_cast<int>(i * 7919 % 13000), static_cast<int>(i * 104729 % 13000)}, {false}});
    const Props before(many);
    Props after = before;
    after.put({5000, 1, {6000, 6000}, {true}});
    CHECK(after.unshared(before) < 64 * 1024);
    CHECK(before.unshared(Props()) > 100000 * sizeof(Prop));
    std::size_t changed = 0;
    Props::differences(before, after, [&](const Prop*, const Prop*) { ++changed; });
    CHECK(changed <= 2);
}
