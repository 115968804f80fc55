// What looks otherwise than it is to a walker.
#include "findings/looks.hpp"

#include <algorithm>
#include <catch2/catch.hpp>

#include "support/make.hpp"

using namespace vic;
using namespace vic::findings;

namespace {

struct Place : make::Small {
    level::Level level;
    explicit Place(level::View view = level::View::from_above) : Small({20, 14}, view) {
        level = Small::level();
        level.edit(props).props() = level::Props();
    }
    void lay(level::LayerId layer, const Box& cells, level::MaterialId material, level::TileId tile) {
        for (int y = cells.y; y < cells.bottom(); ++y)
            for (int x = cells.x; x < cells.right(); ++x)
                level.edit(layer).grid().set({x, y}, level::Cell(tile), material);
    }
    [[nodiscard]] std::vector<std::string> codes() const {
        std::vector<std::string> out;
        for (const Leak& leak : looks(project, level)) {
            const Finding f = finding_of(level, leak);
            CHECK_FALSE(leak.brief.empty());
            CHECK(f.severity == Severity::hint);
            CHECK(f.cell.has_value());
            out.push_back(f.code);
        }
        return out;
    }
};
using Codes = std::vector<std::string>;

} // namespace

TEST_CASE("a shape that no layer hears is found, unless the ground blocks all the same", "[findings][looks]") {
    Place p;
    p.lay(p.ground, {2, 2, 4, 2}, 1, 1);
    CHECK(p.codes() == Codes{});
    p.level.edit(p.ground).tiles()->solid = false;
    CHECK(p.codes() == Codes{"solid-unheard"});
    // On one layer heard, it is meant on the other.
    p.lay(p.front, {2, 8, 4, 2}, 1, 1);
    p.level.edit(p.front).tiles()->solid = true;
    CHECK(p.codes() == Codes{});
    p.level.edit(p.front).tiles()->solid = false;
    level::Layer own;
    own.id = 4000;
    level::Blockers b(p.level.size);
    for (int y = 2; y < 10; ++y)
        for (int x = 2; x < 6; ++x) b.set({x, y}, level::TileShape::full);
    own.content = b;
    p.level.layers.push_back(std::make_shared<const level::Layer>(own));
    CHECK(p.codes() == Codes{});
}

TEST_CASE("ground without a shape is found in levels from the side, water is not ground", "[findings][looks]") {
    Place p(level::View::from_the_side);
    level::Material m = *p.project.material(2);
    p.lay(p.ground, {2, 2, 4, 2}, 2, p.project.sheets[1]->tiles[0].id);
    const auto with = [&](const char* name) {
        m.name = name;
        p.project.put(m);
        return p.codes();
    };
    CHECK(with("Brick wall") == Codes{"looks-solid"});
    CHECK(with("Mossy ground") == Codes{"looks-solid"});
    CHECK(with("Groundwater") == Codes{});
    CHECK(with("Water") == Codes{});
    CHECK(with("Moss") == Codes{});
    p.level.view = level::View::from_above;
    CHECK(with("Brick wall") == Codes{});
}

TEST_CASE("a door of which the game is told nothing is found, one with a mark or an area is not", "[findings][looks]") {
    Place p;
    level::PropKind kind = *p.project.prop_kind(p.prop);
    kind.name = "Cellar door";
    kind.notes.clear();
    kind.areas.clear();
    p.project.put(kind);
    p.level.edit(p.props).props().put({500, p.prop, {100, 100}});
    p.level.edit(p.props).props().put({501, p.prop, {160, 100}});
    CHECK(p.codes() == Codes{"looks-usable"}); // once for the kind
    level::Level other = p.level;
    std::swap(other, p.level);
    for (const level::PropId id : {500U, 501U}) {
        level::Prop named = *p.level.layer(p.props)->props().find(id);
        named.set_own({"To the cellar", {}, {}});
        p.level.edit(p.props).props().put(named);
    }
    CHECK(p.codes() == Codes{});
    std::swap(other, p.level);
    kind.areas.push_back({"door", {0, 0, 4, 4}});
    p.project.put(kind);
    CHECK(p.codes() == Codes{});
    kind.areas.clear();
    kind.name = "Doorstep";
    p.project.put(kind);
    CHECK(p.codes() == Codes{});
}

TEST_CASE("a gap in a thin row of blockers is found, a dent in a mass and a gate with a mark are not",
          "[findings][looks]") {
    Place p;
    level::Layer own;
    own.id = 4000;
    own.name = "Fence";
    level::Blockers b(p.level.size);
    for (int x = 1; x < 12; ++x) b.set({x, 5}, level::TileShape::full);
    own.content = b;
    p.level.layers.push_back(std::make_shared<const level::Layer>(own));
    const auto set = [&](Point at, level::TileShape shape) { p.level.edit(4000).blockers()->set(at, shape); };
    CHECK(p.codes() == Codes{});
    set({6, 5}, level::TileShape::none);
    CHECK(p.codes() == Codes{"blocker-gap"});
    p.level.marks.push_back({700, "Gate", level::MarkKind::note, {6, 5, 1, 1}});
    CHECK(p.codes() == Codes{});
    p.level.marks.clear();
    set({7, 5}, level::TileShape::none); // two cells wide: a way
    CHECK(p.codes() == Codes{});
    set({7, 5}, level::TileShape::full);
    for (int x = 1; x < 12; ++x) set({x, 6}, level::TileShape::full);
    CHECK(p.codes() == Codes{});
    // Upright rows, too.
    for (int x = 1; x < 12; ++x)
        for (const int y : {5, 6}) set({x, y}, level::TileShape::none);
    for (int y = 1; y < 12; ++y)
        if (y != 6) set({15, y}, level::TileShape::full);
    CHECK(p.codes() == Codes{"blocker-gap"});
}
