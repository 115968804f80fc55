// What fits among pieces of several cells, side of a cell by side of a cell; and what they take the place of.
#include <catch2/catch.hpp>
#include <map>
#include <set>
#include <tuple>

#include "edit/hand.hpp"
#include "edit/stroke.hpp"
#include "edit/swap_pieces.hpp"
#include "kit/taken_kit.hpp"
#include "level/block.hpp"
#include "scene/fits.hpp"
#include "support/make.hpp"

namespace {

using namespace vic;
using Arm = std::pair<Point, int>; // a cell and a side of it

constexpr std::array<Point, 4> kBeside{{{0, -1}, {1, 0}, {0, 1}, {-1, 0}}};

struct Wide {
    kit_test::Kit made;
    std::map<std::string, std::set<Arm>> arms; // that reach the sides of the piece's cells
    std::shared_ptr<scene::LoadedKit> kit = std::make_shared<scene::LoadedKit>();
    level::Project project;
    level::Level level;
    std::vector<std::shared_ptr<const scene::LoadedKit>> kits;
    level::LayerId layer = 0;

    Wide() {
        made.first_bit = -1;
        piece("Straight", {{{0, 0}, 5}});
        piece("Bend", {{{0, 0}, 3}});
        piece("Cross", {{{0, 0}, 15}});
        piece("End", {{{0, 0}, 1}});
        piece("Gate", {{{0, 0}, 10}, {{1, 0}, 10}});
        piece("Bay", {{{0, 0}, 11}, {{1, 0}, 10}});
        piece("Angle", {{{0, 0}, 14}, {{1, 0}, 8}, {{0, 1}, 5}});
        kit::Told told;
        told.width = 2;
        told.height = 3;
        project = kit_test::taken(made, *kit, told);
        kits = {kit};
        level = level::make_level(project, "Wide", {9, 9}, {16, 16}, level::View::from_above);
        for (const level::LayerRef& l : level.layers)
            if (l->tiles() && layer == 0) layer = l->id;
    }
    // Arms by cell; those between cells of the piece join them.
    void piece(const std::string& name, const std::map<Point, unsigned>& cells) {
        Size size;
        for (const auto& [cell, sides] : cells) size = {std::max(size.w, cell.x + 1), std::max(size.h, cell.y + 1)};
        kit::Body whole;
        whole.name = name;
        whole.nodes = {name};
        for (const auto& [cell, sides] : cells) {
            made.wall(name, sides);
            const kit::Body one = made.bodies.back();
            made.bodies.pop_back();
            const kit::Vec off{(cell.x - (size.w - 1) / 2.0) * made.width, 0,
                               (cell.y - (size.h - 1) / 2.0) * made.width};
            const auto first = static_cast<std::uint32_t>(whole.mesh.points.size());
            for (const kit::Vec v : one.mesh.points) whole.mesh.points.push_back(v + off);
            for (auto t : one.mesh.triangles) {
                for (auto& corner : t) corner += first;
                whole.mesh.triangles.push_back(t);
            }
            for (int side = 0; side < 4; ++side)
                if (sides >> side & 1U && !cells.contains(cell + kBeside[static_cast<std::size_t>(side)]))
                    arms[name].insert({cell, side});
        }
        made.bodies.push_back(std::move(whole));
    }
    [[nodiscard]] level::TileId tile(const std::string& name, int turn = 0) const {
        for (const auto& [tile, piece] : kit->piece_of) {
            const auto turned = kit->turn_of.find(tile);
            if (kit->file.bodies[piece].name == name && (turned == kit->turn_of.end() ? 0 : turned->second) == turn)
                return tile;
        }
        FAIL("no piece " << name);
        return 0;
    }
    [[nodiscard]] Box under(level::TileId tile, Point at, Turn turn) const {
        return level::cells_under(*level::TileTable(project).find(tile).tile, at, turn);
    }
    // The arms of a piece as it is laid, found by turning its cells one quarter after the other.
    [[nodiscard]] std::set<Arm> laid(level::TileId tile, Point at, Turn turn) const {
        const std::size_t piece = kit->piece_of.at(tile);
        const auto drawn = kit->turn_of.find(tile);
        std::set<Arm> all = arms.at(kit->file.bodies[piece].name);
        Size size = kit->read.pieces[piece].cells;
        const auto right = [&] {
            std::set<Arm> next;
            for (const auto& [cell, side] : all) next.insert({{size.h - 1 - cell.y, cell.x}, (side + 1) % 4});
            all = next;
            std::swap(size.w, size.h);
        };
        const auto over = [&] {
            std::set<Arm> next;
            for (const auto& [cell, side] : all)
                next.insert({{size.w - 1 - cell.x, cell.y}, side % 2 == 0 ? side : 4 - side});
            all = next;
        };
        for (int i = 0; drawn != kit->turn_of.end() && i < drawn->second; ++i) right();
        if (turn.mirrored()) over();
        for (int i = 0; i < turn.quarters(); ++i) right();
        std::set<Arm> out;
        for (const auto& [cell, side] : all) out.insert({under(tile, at, turn).corner() + cell, side});
        return out;
    }
    struct Lying {
        Box cells;
        std::set<Arm> arms;
    };
    [[nodiscard]] const level::Layer& tiles() const { return *level.layer(layer); }
    // Pieces that lie apart, at random.
    std::vector<Lying> scatter(make::Random& random) {
        level.edit(layer).grid() = level::Grid(level.size);
        std::vector<Lying> out;
        std::vector<level::TileId> all;
        for (const auto& [tile, piece] : kit->piece_of) all.push_back(tile);
        for (int i = 0; i < 60; ++i) {
            const level::TileId tile = all[static_cast<std::size_t>(random.below(static_cast<int>(all.size())))];
            const bool block = level::TileTable(project).find(tile).tile->is_block();
            const Turn turn{static_cast<std::uint8_t>(random.below(2) * 4 + (block ? 0 : random.below(4)))};
            const Point at{random.below(9), random.below(9)};
            const Box here = under(tile, at, turn);
            if (intersection(here, level.cells()) != here) continue;
            if (std::any_of(out.begin(), out.end(),
                            [&](const Lying& l) { return !intersection(l.cells, here).empty(); }))
                continue;
            level.edit(layer).grid().set(at, level::Cell(tile, turn, true), 0);
            out.push_back({here, laid(tile, at, turn)});
        }
        return out;
    }
};

struct Expected {
    std::set<Arm> closed, missed;
    int open = 0;
};
Expected expected(const std::vector<Wide::Lying>& lying, const Box& cells, const std::set<Arm>& own) {
    Expected out;
    std::set<Arm> others;
    for (const Wide::Lying& l : lying)
        if (intersection(l.cells, cells).empty()) others.insert(l.arms.begin(), l.arms.end());
    for (int y = cells.y; y < cells.bottom(); ++y)
        for (int x = cells.x; x < cells.right(); ++x)
            for (int side = 0; side < 4; ++side) {
                const Point there = Point{x, y} + kBeside[static_cast<std::size_t>(side)];
                if (cells.contains(there)) continue;
                const Arm arm{{x, y}, side};
                const bool beside = others.contains({there, (side + 2) % 4});
                if (own.contains(arm) && beside) out.closed.insert(arm);
                if (!own.contains(arm) && beside) out.missed.insert(arm);
                out.open += own.contains(arm) && !beside;
            }
    return out;
}

} // namespace

TEST_CASE("sides of several cells couple cell by cell", "[kit][fits]") {
    const Wide w;
    REQUIRE(w.kit->read.couplings.size() == 1);
    for (std::size_t i = 0; i < w.kit->file.bodies.size(); ++i) {
        const kit::PieceReading& piece = w.kit->read.pieces[i];
        std::set<Arm> found;
        for (int side = 0; side < 4; ++side) {
            const auto s = static_cast<std::size_t>(side);
            const int length = side % 2 == 0 ? piece.cells.w : piece.cells.h;
            for (int k = 0; k < length; ++k) {
                if (scene::joint_of(w.kits, 0, i, {}, side, k).coupling == 0) continue;
                // From left to right as it is seen from outside.
                const Point cell = side == 0   ? Point{piece.cells.w - 1 - k, 0}
                                   : side == 1 ? Point{piece.cells.w - 1, piece.cells.h - 1 - k}
                                   : side == 2 ? Point{k, piece.cells.h - 1}
                                               : Point{0, k};
                found.insert({cell, side});
            }
            CHECK((piece.couplings[s] != 0) ==
                  std::any_of(found.begin(), found.end(), [&](const Arm& a) { return a.second == side; }));
        }
        INFO(w.kit->file.bodies[i].name);
        CHECK(found == w.arms.at(w.kit->file.bodies[i].name));
    }
}

TEST_CASE("a floor of several cells couples with floors of one", "[kit][fits]") {
    kit_test::Kit made;
    made.put("One", {-1, -0.1, -1}, {1, 0, 1});
    made.put("Two", {-2, -0.1, -1}, {2, 0, 1});
    made.put("Thick", {-1, -0.3, -1}, {1, 0, 1});
    kit::Told told;
    told.width = 2;
    told.height = 3;
    const kit::KitReading read = kit::read_kit(made.file().bodies, told);
    REQUIRE(read.pieces.size() == 3);
    const int one = read.pieces[0].couplings[0];
    CHECK(one != 0);
    CHECK(read.pieces[2].couplings[0] != one);
    REQUIRE(read.pieces[1].joints[0].size() == 2);
    for (const std::size_t side : {0U, 2U})
        for (const auto& joint : read.pieces[1].joints[side]) CHECK(joint.coupling == one);
    for (const std::size_t side : {1U, 3U}) CHECK(read.pieces[1].couplings[side] == one);
}

TEST_CASE("what fits among pieces of several cells is what closes side by side", "[scene][fits]") {
    Wide w;
    make::Random random(8);
    const scene::Fits fits(w.project, w.kits);
    const level::TileTable tiles(w.project);
    int some = 0, wide = 0;
    for (int round = 0; round < 60; ++round) {
        const auto lying = w.scatter(random);
        const Point at{1 + random.below(7), 1 + random.below(7)};
        using Look = std::tuple<int, int, int, int, std::set<Arm>>;
        std::set<std::pair<std::size_t, Look>> wanted, found;
        std::map<std::pair<level::TileId, int>, int> open; // of those that fit
        for (const auto& [tile, piece] : w.kit->piece_of)
            for (std::uint8_t code = 0; code < 8; ++code) {
                const bool block = tiles.find(tile).tile->is_block();
                if (block && code % 4 != 0) continue;
                const Turn turn{code};
                const Box cells = w.under(tile, at, turn);
                if (intersection(cells, w.level.cells()) != cells) continue;
                const std::set<Arm> own = w.laid(tile, at, turn);
                const Expected is = expected(lying, cells, own);
                const scene::Fits::Sides sides = fits.sides(w.tiles(), at, tile, turn);
                std::set<Arm> closed, missed;
                for (const auto& s : sides.all) {
                    if (s.closed) closed.insert({s.cell, s.side});
                    if (s.missed) missed.insert({s.cell, s.side});
                }
                CHECK(closed == is.closed);
                CHECK(missed == is.missed);
                CHECK(sides.open == is.open);
                if (is.closed.empty() || !is.missed.empty()) continue;
                open[{tile, code}] = is.open;
                if (code < 4) wanted.insert({piece, Look{cells.x, cells.y, cells.w, cells.h, own}});
            }
        for (const scene::Fit& fit : fits.at(w.tiles(), at)) {
            const Box cells = w.under(fit.tile, at, fit.turn);
            const Look look{cells.x, cells.y, cells.w, cells.h, w.laid(fit.tile, at, fit.turn)};
            CHECK(found.insert({w.kit->piece_of.at(fit.tile), look}).second);
            wide += cells.w + cells.h > 2;
        }
        CHECK(found == wanted);
        some += wanted.empty() ? 0 : 1;
        // The Hand's piece is laid so that the fewest sides stay open.
        for (const char* const name : {"Gate", "Bay", "Straight"})
            for (const std::uint8_t code : std::initializer_list<std::uint8_t>{0, 4}) {
                const auto fit = fits.turned(w.tiles(), at, w.tile(name), Turn{code});
                int least = 1 << 20;
                for (const auto& [way, is] : open)
                    if (w.kit->piece_of.at(way.first) == w.kit->piece_of.at(w.tile(name)) && (way.second & 4) == code)
                        least = std::min(least, is);
                REQUIRE(fit.has_value() == (least < 1 << 20));
                if (!fit) continue;
                CHECK(fit->open == least);
                CHECK(fit->turn.mirrored() == (code == 4));
                CHECK(open.contains({fit->tile, fit->turn.code}));
            }
    }
    CHECK(some > 30);
    CHECK(wide > 30);
}

TEST_CASE("a wide gate takes the place of the wall under it, which comes back when it goes", "[edit][fits]") {
    Wide w;
    level::Material walls;
    walls.id = w.project.free_material();
    walls.name = "Wall";
    walls.joins.kind = level::JoinKind::edges;
    walls.joins.turns = 0x0F;
    walls.joins.cases[17] = {{w.tile("Straight"), 100, {}}};
    walls.joins.cases[1] = {{w.tile("End"), 100, {}}};
    w.project.put(walls);
    const join::Rules rules(w.project);
    edit::Hand hand;
    hand.holds = edit::held::Material{walls.id};
    std::vector<Point> row;
    for (int x = 1; x < 8; ++x) row.push_back({x, 4});
    const level::Level painted = edit::lay(w.project, rules, w.level, w.layer, hand, row).level;
    const level::TileId gate = w.tile("Gate");
    const Box under = w.under(gate, {4, 4}, {});
    REQUIRE(under.w == 2);
    level::Region here;
    here.add(Point{4, 4});
    const level::Level swapped = edit::with_pieces_swapped(w.project, rules, painted, w.layer, here, gate, {});
    const level::Grid& grid = swapped.layer(w.layer)->grid();
    for (const Point p : row) {
        CHECK(grid.material(p) == walls.id);
        if (p == Point{4, 4})
            CHECK(grid.cell(p).tile() == gate);
        else if (under.contains(p))
            CHECK(grid.cell(p).empty());
        else
            CHECK(grid.cell(p) == painted.layer(w.layer)->grid().cell(p));
    }
    // Nothing joins it away, and what is pushed in at its other end makes it go.
    level::Grid again = grid;
    join::resolve(rules, again, swapped.cells(), w.layer);
    CHECK(again == grid);
    const Point other{under.x == 4 ? 5 : under.x, 4};
    level::Region there;
    there.add(other);
    const level::Level cross =
        edit::with_pieces_swapped(w.project, rules, swapped, w.layer, there, w.tile("Cross"), {});
    CHECK(cross.layer(w.layer)->grid().cell(other).tile() == w.tile("Cross"));
    CHECK(cross.layer(w.layer)->grid().cell({4, 4}) == painted.layer(w.layer)->grid().cell({4, 4}));
    // Erased where it is touched, the wall comes back beside that.
    hand.holds = edit::held::Eraser{};
    const level::Level erased = edit::lay(w.project, rules, swapped, w.layer, hand, std::vector<Point>{{4, 4}}).level;
    CHECK(erased.layer(w.layer)->grid().material({4, 4}) == 0);
    CHECK(erased.layer(w.layer)->grid().material(other) == walls.id);
    CHECK_FALSE(erased.layer(w.layer)->grid().cell(other).pinned());
    // At the level's rim there is no room for it.
    level::Region rim;
    rim.add(Point{under.x == 4 ? 8 : 0, 4});
    const level::Level beyond = edit::with_pieces_swapped(w.project, rules, painted, w.layer, rim, gate, {});
    CHECK(beyond.layer(w.layer)->grid() == painted.layer(w.layer)->grid());
}
