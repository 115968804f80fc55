// What a parcel says of surfaces, of outlines with fewer corners, of what holds in one level alone, and of an order
// that was said by hand.
#include <algorithm>
#include <catch2/catch.hpp>

#include "base/files.hpp"
#include "edit/used.hpp"
#include "parcel/build.hpp"
#include "support/make.hpp"
#include "vicinum_level.hpp"

using namespace vic;

namespace {

// A floor of two kinds of ground, 32 px to a cell.
struct Floors : make::Small {
    level::NoteId grip = 0;
    Floors() : Small({20, 12}) {
        level::Level level = Small::level();
        level.cell = {32, 32};
        level.edit(props).props().clear();
        level::Sheet sheet = *project.sheets[1];
        grip = project.next_id++;
        level::NoteKind kind;
        kind.id = grip;
        kind.name = "grip";
        kind.surface = true;
        project.note_kinds = {kind};
        for (level::Tile& t : sheet.tiles) t.shape = level::TileShape::full;
        sheet.tiles[1].notes[grip] = std::string("slippery");
        project.put(sheet);
        for (int x = 0; x < 20; ++x)
            level.edit(ground).grid().set({x, 8}, level::Cell(sheet.tiles[x < 9 ? 0 : 1].id, {}, true), 0);
        set(level);
    }
    vicinum::Level built() {
        make::Folder dir;
        parcel::build(project, level(), dir / "p");
        return vicinum::load(dir / "p");
    }
};

std::size_t corners(const vicinum::Level& level) {
    std::size_t out = 0;
    for (const auto& o : level.outlines) out += o.points.size();
    return out;
}

} // namespace

TEST_CASE("an engine is told edge by edge what the ground is like", "[parcel][surfaces]") {
    Floors f;
    const vicinum::Level built = f.built();
    REQUIRE(built.surfaces.size() == 2);
    CHECK(built.surfaces[0].empty());
    CHECK(built.surfaces[1] == nlohmann::json{{"grip", "slippery"}});
    REQUIRE(built.outlines.size() == 1);
    const vicinum::Outline& o = built.outlines[0];
    REQUIRE(o.points.size() == 6);
    REQUIRE(o.surfaces.size() == 6);
    CHECK(o.surfaces[0] == 0);
    CHECK(o.surfaces[1] == 1);
    CHECK(o.points[1].x == 9 * vicinum::kUnit);
    // It is one mass all the same.
    CHECK(built.blocked(8.9, 8.5));
    CHECK(built.blocked(9.1, 8.5));
    // Without such a note the parcel is as it was before there were any.
    f.project.note_kinds[0].surface = false;
    const vicinum::Level plain = f.built();
    CHECK(plain.outlines[0].points.size() == 4);
    CHECK(plain.outlines[0].surfaces.empty());
    CHECK(plain.surfaces.size() == 1);
}

TEST_CASE("a parcel whose edges name surfaces that are not there is refused", "[parcel][surfaces]") {
    Floors f;
    auto files = parcel::files(f.project, f.level());
    make::Folder dir;
    std::filesystem::create_directories(dir / "p");
    for (const auto& [name, bytes] : files) write_file(dir / "p" / name, bytes);
    CHECK_NOTHROW(vicinum::load(dir / "p"));
    auto j = nlohmann::json::parse(files["level.json"]);
    CHECK(j["version"] == 6);
    const auto with = [&](const char* at, const nlohmann::json& value) {
        auto other = j;
        other["outlines"][0][at] = value;
        write_file(dir / "p" / "level.json", other.dump());
    };
    with("surfaces", {0, 1, 1, 9, 0, 0});
    CHECK_THROWS(vicinum::load(dir / "p"));
    with("surfaces", {0, 1});
    CHECK_THROWS(vicinum::load(dir / "p"));
    with("surfaces", {0, 0, 0, 0, 0, 0}); // then there is a corner on a straight run for nothing
    CHECK_THROWS(vicinum::load(dir / "p"));
}

TEST_CASE("with a deviation outlines have fewer corners and stop nobody who was not stopped", "[parcel][simplify]") {
    Floors f;
    f.project.note_kinds.clear();
    level::Sheet sheet = *f.project.sheets[1];
    // A rim as it is drawn: three steps up, three down.
    sheet.tiles[0].shape = level::TileShape::drawn;
    sheet.tiles[0].polygons = {
        {{0, 6}, {3, 6}, {3, 4}, {6, 4}, {6, 3}, {10, 3}, {10, 4}, {13, 4}, {13, 6}, {16, 6}, {16, 16}, {0, 16}}};
    sheet.tiles[1].notes.clear();
    f.project.put(sheet);
    const vicinum::Level exact = f.built();
    f.project.deviation = 10;
    const vicinum::Level fewer = f.built();
    CHECK(corners(fewer) * 2 < corners(exact));
    for (int y = 0; y < 12 * 16; ++y)
        for (int x = 0; x < 20 * 16; ++x) {
            const double px = x / 16.0 + 0.013, py = y / 16.0 + 0.017;
            if (fewer.blocked(px, py)) REQUIRE(exact.blocked(px, py));
        }
}

TEST_CASE("what a level alone says of its things is what its parcel says", "[parcel][here]") {
    Floors f;
    const vicinum::Level before = f.built();
    CHECK(before.blocked(3.5, 8.5));
    level::Level level = f.level();
    for (const edit::Used& used : edit::used_in(f.project, level))
        level = edit::with_blocking_here(f.project, std::move(level), {used}, edit::Blocking::nothing);
    f.set(level);
    const vicinum::Level after = f.built();
    CHECK(after.outlines.empty());
    for (const vicinum::Tile& t : after.tiles) CHECK(t.shape == "none");
}

TEST_CASE("what was said to be in front is so in the engine's order", "[parcel][order]") {
    Floors f;
    f.project.note_kinds.clear();
    level::Level level = f.level();
    level.edit(f.props).by_feet = true;
    level.edit(f.props).props().put({500, f.prop, {100, 120}, {}});
    level.edit(f.props).props().put({501, f.prop, {104, 124}, {}});
    f.set(level);
    const auto order = [&] {
        const vicinum::Level built = f.built();
        const vicinum::Layer* layer = nullptr;
        for (const auto& l : built.layers)
            if (!l.props.empty()) layer = &l;
        REQUIRE(layer);
        REQUIRE(layer->props.size() == 2);
        const auto foot = [&](const vicinum::Prop& p) { return built.foot_line(*layer, p); };
        CHECK(foot(layer->props[0]) < foot(layer->props[1])); // as they are listed
        return layer->props[1].id;
    };
    CHECK(order() == 501);
    level::Prop first = *level.layer(f.props)->props().find(500);
    first.look.ahead = 9;
    level.edit(f.props).props().put(first);
    f.set(level);
    CHECK(order() == 500);
}
