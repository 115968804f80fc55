// What the ground is like along outlines.
#include <catch2/catch.hpp>

#include "outline/surfaces.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::outline;

namespace {

// Two tiles of the plain sheet that block, one of which is slippery.
struct Ground : make::Small {
    level::NoteId note = 0;
    level::TileId dry = 0, ice = 0;
    level::Level level;
    explicit Ground(Size cells = {20, 12}) : Small(cells) {
        note = project.next_id++;
        level::NoteKind kind;
        kind.id = note;
        kind.name = "grip";
        kind.surface = true;
        project.note_kinds.push_back(kind);
        level::Sheet sheet = *project.sheets[1];
        dry = sheet.tiles[0].id;
        ice = sheet.tiles[1].id;
        for (level::Tile& t : sheet.tiles) t.shape = level::TileShape::full;
        for (level::Tile& t : sheet.tiles)
            if (t.id == ice) t.notes[note] = std::string("slippery");
        project.put(sheet);
        level = Small::level();
        level.edit(props).props() = level::Props();
    }
    void lay(Point at, level::TileId tile) { level.edit(ground).grid().set(at, level::Cell(tile, {}, true), 0); }
    Surfaced told(std::vector<level::Notes>& surfaces) {
        const level::TileTable tiles(project, level);
        const level::PropKinds kinds(project, level);
        return with_surfaces(project, level, {tiles, kinds}, outlines(trace(level, {tiles, kinds})), surfaces);
    }
};

} // namespace

TEST_CASE("a run is cut where the surface changes, and nowhere else", "[outline][surfaces]") {
    Ground g;
    for (int x = 2; x < 12; ++x) g.lay({x, 5}, x < 6 ? g.dry : g.ice);
    std::vector<level::Notes> surfaces;
    const Surfaced told = g.told(surfaces);
    REQUIRE(told.outlines.size() == 1);
    CHECK(told.outlines[0].points == std::vector<Point>{{2 * 64, 5 * 64},
                                                        {6 * 64, 5 * 64},
                                                        {12 * 64, 5 * 64},
                                                        {12 * 64, 6 * 64},
                                                        {6 * 64, 6 * 64},
                                                        {2 * 64, 6 * 64}});
    CHECK(told.of[0] == std::vector<std::uint32_t>{0, 1, 1, 1, 0, 0});
    REQUIRE(surfaces.size() == 2);
    CHECK(surfaces[0].empty());
    CHECK(std::get<std::string>(surfaces[1].at(g.note)) == "slippery");
    // A note that is not of surfaces cuts nothing.
    g.project.note_kinds[0].surface = false;
    surfaces.clear();
    const Surfaced plain = g.told(surfaces);
    CHECK(plain.outlines[0].points.size() == 4);
    CHECK(surfaces.size() == 1);
}

TEST_CASE("every edge is of the tile right inside it", "[outline][surfaces]") {
    make::Random random(12);
    for (int round = 0; round < 40; ++round) {
        Ground g({6 + random.below(20), 6 + random.below(12)});
        for (int y = 0; y < g.level.size.h; ++y)
            for (int x = 0; x < g.level.size.w; ++x)
                if (random.flip(0.6)) g.lay({x, y}, random.flip() ? g.dry : g.ice);
        std::vector<level::Notes> surfaces;
        const Surfaced told = g.told(surfaces);
        std::int64_t cells = 0;
        for (std::size_t i = 0; i < told.outlines.size(); ++i) {
            const auto& points = told.outlines[i].points;
            REQUIRE(told.of[i].size() == points.size());
            for (std::size_t k = 0; k < points.size(); ++k) {
                const Point a = points[k], b = points[(k + 1) % points.size()];
                const int length = std::abs(b.x - a.x) + std::abs(b.y - a.y);
                const Point way{(b.x > a.x) - (b.x < a.x), (b.y > a.y) - (b.y < a.y)}, in{-way.y, way.x};
                for (int s = 32; s < length; s += 64, ++cells) {
                    const Point at = a + Point{way.x * s + in.x * 8, way.y * s + in.y * 8};
                    const level::Cell cell =
                        g.level.layer(g.ground)->grid().cell({floor_div(at.x, 64), floor_div(at.y, 64)});
                    REQUIRE(cell.tile() != 0);
                    REQUIRE((told.of[i][k] != 0) == (cell.tile() == g.ice));
                }
                // What goes straight on is of another surface.
                const Point c = points[(k + 2) % points.size()];
                if (std::int64_t{b.x - a.x} * (c.y - b.y) == std::int64_t{b.y - a.y} * (c.x - b.x))
                    REQUIRE(told.of[i][k] != told.of[i][(k + 1) % points.size()]);
            }
        }
        REQUIRE(cells > 0);
    }
}

TEST_CASE("what lies in front decides, one-way edges are told apart, and what is drawn free of the lattice",
          "[surfaces]") {
    Ground g;
    // A blocker drawn over the left half of a run of ice says nothing: there one does not slip.
    for (int x = 2; x < 12; ++x) g.lay({x, 5}, g.ice);
    level::Layer own;
    own.id = g.project.next_id++;
    level::Blockers blockers(g.level.size);
    level::FreeBlocker box;
    box.id = 1;
    box.points = {{2 * 64, 5 * 64}, {7 * 64, 5 * 64}, {7 * 64, 6 * 64}, {2 * 64, 6 * 64}};
    blockers.set_free({box});
    own.content = blockers;
    g.level.layers.push_back(std::make_shared<const level::Layer>(own));
    std::vector<level::Notes> surfaces;
    Surfaced told = g.told(surfaces);
    REQUIRE(told.outlines.size() == 1);
    CHECK(told.outlines[0].points[1] == Point{7 * 64, 5 * 64});
    CHECK(told.of[0][0] == 0);
    CHECK(told.of[0][1] == 1);
    // With a note of its own it says that.
    auto free = blockers.free();
    free[0].notes[g.note] = std::string("soft");
    g.level.edit(own.id).blockers()->set_free(free);
    surfaces.clear();
    told = g.told(surfaces);
    CHECK(surfaces.size() == 3);
    CHECK(std::get<std::string>(surfaces[told.of[0][0]].at(g.note)) == "soft");
    // One-way edges.
    Ground ledge;
    level::Sheet sheet = *ledge.project.sheets[1];
    for (level::Tile& t : sheet.tiles) t.shape = level::TileShape::one_way_north;
    ledge.project.put(sheet);
    for (int x = 2; x < 8; ++x) ledge.lay({x, 5}, x < 5 ? ledge.dry : ledge.ice);
    const level::TileTable tiles(ledge.project, ledge.level);
    const level::PropKinds kinds(ledge.project, ledge.level);
    surfaces.clear();
    const auto edges = one_way_edges(trace(ledge.level, {tiles, kinds}));
    REQUIRE(edges.size() == 1);
    const SurfacedEdges cut = with_surfaces(ledge.project, ledge.level, {tiles, kinds}, edges, surfaces);
    REQUIRE(cut.edges.size() == 2);
    CHECK(cut.edges[0] == OneWayEdge{{2 * 64, 5 * 64}, {5 * 64, 5 * 64}, 0});
    CHECK(cut.of == std::vector<std::uint32_t>{0, 1});
}
