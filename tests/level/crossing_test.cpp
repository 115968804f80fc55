// Which of two is in front, where feet do not tell.
#include <catch2/catch.hpp>
#include <set>

#include "findings/check.hpp"
#include "level/crossing.hpp"
#include "level/standing.hpp"
#include "support/make.hpp"

using namespace vic;

namespace {

struct Yard : make::Small {
    level::Level level;
    Yard() : Small({60, 60}) {
        level = Small::level();
        level.view = level::View::from_above;
        level.edit(props).props() = level::Props();
        level.edit(props).by_feet = true;
    }
    // A picture as large, with a foot of all its width; `pivot` pixels above the foot's lower edge.
    level::PropKindId kind(Size size, int deep, int pivot = 0) {
        level::PropKind k = *project.prop_kind(prop);
        k.id = project.next_id++;
        k.factor = 1;
        k.flat = false;
        k.box = {0, 0, size.w, size.h};
        k.foot = {0, size.h - deep, size.w, deep};
        k.pivot = {size.w / 2, size.h - 1 - pivot};
        k.blocks = false;
        k.shape = level::TileShape::full;
        k.polygons.clear();
        project.put(k);
        return k.id;
    }
    level::PropId put(level::PropKindId kind, Point at, int turn = 0) {
        level::Prop p{project.next_id++, kind, at};
        p.look.turn = static_cast<std::int16_t>(turn);
        level.edit(props).props().put(p);
        return p.id;
    }
};

} // namespace

TEST_CASE("what stands behind by its foot and in front by its pivot is told", "[crossing][feet]") {
    Yard y;
    const auto wall = y.kind({40, 30}, 4), post = y.kind({6, 20}, 4), high = y.kind({40, 40}, 4, 30);
    y.put(wall, {200, 200});
    y.put(post, {200, 220});
    CHECK(level::crossings(y.project, y.level).empty());
    // Its pivot lies far up: it is drawn first though its foot is in front.
    const auto odd = y.put(high, {200, 180});
    const auto found = level::crossings(y.project, y.level);
    REQUIRE(found.size() == 1);
    CHECK(std::set{found[0].one, found[0].other}.contains(odd));
    const auto findings = findings::check(y.project, y.level);
    CHECK(std::count_if(findings.begin(), findings.end(), [](const auto& f) { return f.code == "order-untold"; }) == 1);
    // Nobody sorts them: nothing to tell.
    y.level.edit(y.props).by_feet = false;
    CHECK(level::crossings(y.project, y.level).empty());
}

TEST_CASE("one that reaches both further back and further to the front crosses", "[crossing][feet]") {
    Yard y;
    const auto beam = y.kind({80, 30}, 8), post = y.kind({10, 24}, 6);
    const auto turned = y.put(beam, {300, 300}, 450); // from the upper left to the lower right
    const level::PropKinds kinds(y.project);
    const Box foot = kinds.foot_box({1, beam, {300, 300}, y.level.layer(y.props)->props().find(turned)->look});
    const auto on_it = y.put(post, {foot.x + foot.w / 2, foot.y + foot.h / 2 + 2});
    const auto found = level::crossings(y.project, y.level);
    REQUIRE(found.size() == 1);
    CHECK(std::set{found[0].one, found[0].other} == std::set{turned, on_it});
    // Beside it the foot tells, whichever way the line goes.
    Yard z;
    const auto beam_z = z.kind({80, 30}, 8), post_z = z.kind({10, 24}, 6);
    z.put(beam_z, {300, 300}, 450);
    z.put(post_z, {foot.right() + 20, foot.y});
    CHECK(level::crossings(z.project, z.level).empty());
}

TEST_CASE("crossings are those that one finds by looking at all pairs", "[crossing][feet]") {
    make::Random random(8);
    Yard y;
    const std::vector<level::PropKindId> kinds{y.kind({40, 30}, 4), y.kind({8, 24}, 4), y.kind({30, 40}, 6, 20),
                                               y.kind({60, 20}, 6)};
    for (int i = 0; i < 200; ++i)
        y.put(kinds[static_cast<std::size_t>(random.below(4))], {random.below(600), random.below(600)},
              random.flip() ? random.below(3600) : 0);
    const auto all = level::crossings(y.project, y.level, 100000);
    // The same pairs, two by two alone.
    const std::vector<level::Prop> props = y.level.layer(y.props)->props().all();
    std::set<std::pair<level::PropId, level::PropId>> pairs, wanted;
    for (const auto& c : all) pairs.insert(std::minmax(c.one, c.other));
    for (std::size_t i = 0; i < props.size(); ++i)
        for (std::size_t k = 0; k < i; ++k) {
            level::Level two = y.level;
            two.edit(y.props).props() = level::Props();
            two.edit(y.props).props().put(props[i]);
            two.edit(y.props).props().put(props[k]);
            if (!level::crossings(y.project, two).empty()) wanted.insert(std::minmax(props[i].id, props[k].id));
        }
    CHECK(pairs.size() > 10);
    CHECK(pairs == wanted);
}
