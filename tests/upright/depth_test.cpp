// What levels, pieces and props say of three dimensions: kept by the files, moved with storeys; pieces that fit.
#include <bit>
#include <set>

#include "edit/open_floor.hpp"
#include "edit/overlay.hpp"
#include "scene/fits.hpp"
#include "store/format.hpp"
#include "store/project_files.hpp"
#include "support/make.hpp"
#include "upright/made_tower.hpp"

using namespace upright_test;

TEST_CASE("light, sight, heights of storeys, bodies and how things stand are saved and loaded", "[store][upright]") {
    make::Folder dir;
    make::Small small({16, 12});
    level::Level level = small.level();
    level.light = {7 * 60 + 30, 3100, 12};
    level.sight = {55, 0, 270};
    level.storey_heights = {{0, 128}, {3, 70}};
    level.walker.upright = {70, 190, 170, 20, 30, 350, 0, 250};
    level.marks.push_back({77, "Up", level::MarkKind::note, {1, 1, 1, 1}, {}, {}, 0, 3});
    small.set(level);
    level::PropKind kind = *small.project.prop_kinds.front();
    kind.stands = level::Stands::crossed;
    small.project.put(kind);
    make::save_with_pictures(small.project, dir.path());
    const level::Project back = store::load(dir.path());
    const level::Level& read = *back.levels.front();
    CHECK(read.light == level.light);
    CHECK(read.sight == level.sight);
    CHECK(read.storey_heights == level.storey_heights);
    CHECK(read.walker.upright == level.walker.upright);
    CHECK(read.marks.back().storey == 3);
    CHECK(back.prop_kind(kind.id)->stands == level::Stands::crossed);
    // What is as in a new level is not written.
    level = small.level();
    level.light = {};
    level.sight = {};
    level.storey_heights.clear();
    level.walker.upright = {};
    const std::string text = store::level_to_text(level);
    for (const char* word : {"light", "sight", "storey_heights", "upright"}) {
        INFO(word);
        CHECK(text.find(word) == std::string::npos);
    }
}

TEST_CASE("what a piece blocks is kept with its kit, in all its turns", "[edit][kits][upright]") {
    Tower tower;
    const auto piece = [&](const level::Project& p, const std::string& name) {
        for (const level::KitPiece& k : p.sheet(tower.kit->sheet)->kit->pieces)
            if (k.name == name) return k;
        return level::KitPiece();
    };
    level::Project p = edit::with_piece_blocking(tower.project, tower.tile("Stair"), level::PieceBlocks::ramp);
    p = edit::with_piece_blocking(std::move(p), tower.tile("Post"), level::PieceBlocks::another, "Wall");
    int turns = 0;
    for (const level::KitPiece& k : p.sheet(tower.kit->sheet)->kit->pieces)
        if (k.name == "Stair") {
            CHECK(k.blocks == level::PieceBlocks::ramp);
            ++turns;
        }
    CHECK(turns == 4);
    CHECK(piece(p, "Post").as == "Wall");
    CHECK(piece(p, "Wall").blocks == level::PieceBlocks::mesh);
    // Also when the kit is read again.
    const edit::PutKit again =
        edit::put_kit(p, tower.kit->sheet, "House", "h.png", "h.obj", tower.kit->file, tower.kit->read,
                      kit::draw_sheet(tower.kit->file, tower.kit->read, 16), 16, {});
    CHECK(piece(again.project, "Stair").blocks == level::PieceBlocks::ramp);
    CHECK(piece(again.project, "Post").as == "Wall");
    CHECK(edit::with_piece_blocking(tower.project, 999, level::PieceBlocks::box).sheets == tower.project.sheets);
}

TEST_CASE("heights and marks go along with their storeys", "[edit][storeys][upright]") {
    Tower tower;
    level::Level level = edit::with_storey_height(tower.level, 0, 128);
    level = edit::with_storey_height(level, 1, 80);
    const scene::Storeys storeys(tower.kits, level.storey_heights);
    CHECK(storeys.low(0) == 0);
    CHECK(storeys.low(1) == 2);
    CHECK(storeys.low(2) == 3.25);
    CHECK(storeys.low(4) == 3.25 + 3);
    CHECK(storeys.at(1.99) == 0);
    CHECK(storeys.at(2) == 1);
    CHECK(storeys.at(-1) == 0);
    std::uint32_t next = 9000;
    const level::Level doubled = edit::with_storey_above(level, 0, true, next);
    CHECK(doubled.storey_heights == std::map<int, int>{{0, 128}, {1, 128}, {2, 80}});
    CHECK(doubled.marks[1].storey == 2);
    const level::Level moved = edit::moved_storey(level, 0, true);
    CHECK(moved.storey_heights == std::map<int, int>{{0, 80}, {1, 128}});
    CHECK(moved.marks[1].storey == 0);
    const level::Level without = edit::without_storey(level, 0);
    CHECK(without.storey_heights == std::map<int, int>{{0, 80}});
    CHECK(without.marks[1].storey == 0);
    CHECK(edit::with_storey_height(level, 0, 0).storey_heights == std::map<int, int>{{1, 80}});
    // What is merged stands as high: the wall below ends where the floor above begins to be.
    tower.level = level;
    tower.lay(tower.below, {10, 1}, "Wall");
    tower.lay(tower.above, {10, 1}, "Floor");
    const upright::Survey survey = tower.survey();
    const auto [first, last] = survey.ground->column({10 * 8 + 4, 8 + 4});
    REQUIRE(last - first == 2);
    CHECK(survey.ground->places()[first].height == 96); // between the wall's top and the floor
    CHECK(survey.ground->places()[first].head == 28);
    CHECK(survey.ground->places()[first + 1].height == 128);
}

TEST_CASE("a floor is opened: its pieces go, what is of no kit stays", "[edit][upright]") {
    Tower tower;
    const level::Level open = edit::with_floor_open(tower.project, tower.level, 1, {{6, 3}, {7, 3}});
    CHECK(open.layer(tower.above)->grid().cell({6, 3}).empty());
    CHECK(open.layer(tower.above)->grid().cell({7, 3}).empty());
    CHECK_FALSE(open.layer(tower.above)->grid().cell({8, 3}).empty());
    CHECK(open.layer(tower.below)->grid() == tower.level.layer(tower.below)->grid());
    level::Level locked = tower.level;
    locked.edit(tower.above).locked = true;
    CHECK(edit::with_floor_open(tower.project, locked, 1, {{6, 3}}).layer(tower.above)->grid() ==
          tower.level.layer(tower.above)->grid());
}

namespace {

// Walls by the sides on which they go on: what closes with what is known without couplings.
struct Walls : Tower {
    std::map<std::string, unsigned> sides;
    Walls() {
        made = {};
        made.first_bit = -1;
        for (const unsigned s : {1U, 5U, 3U, 11U, 15U}) {
            const std::string name = "Wall " + std::to_string(s) + "x";
            made.wall(name, s);
            sides[name] = s;
        }
        // A door: a straight wall with an opening.
        made.wall("Door", 5);
        sides["Door"] = 5;
        project = kit_test::taken(made, *kit);
        level = level::make_level(project, "Walls", {7, 7}, {16, 16}, level::View::from_above);
        below = 0;
        for (const level::LayerRef& l : level.layers)
            if (l->tiles() && below == 0) below = l->id;
    }
    static unsigned turned(unsigned sides, int quarters) {
        for (int i = 0; i < quarters; ++i) sides = (sides << 1 & 15U) | sides >> 3;
        return sides;
    }
};

} // namespace

TEST_CASE("what fits is what closes on all sides on which neighbours couple", "[scene][fits]") {
    Walls w;
    make::Random random(4);
    const scene::Fits fits(w.project, w.kits);
    std::vector<std::string> names;
    for (const auto& [name, sides] : w.sides) names.push_back(name);
    int some = 0;
    for (int round = 0; round < 200; ++round) {
        level::Grid& grid = w.level.edit(w.below).grid();
        std::array<unsigned, 4> beside{};
        const Point at{3, 3};
        const Point by[] = {{0, -1}, {1, 0}, {0, 1}, {-1, 0}};
        unsigned wanted = 0;
        for (unsigned side = 0; side < 4; ++side) {
            grid.set(at + by[side], {}, 0);
            if (random.flip(0.35)) continue;
            const std::string& name = names[static_cast<std::size_t>(random.below(static_cast<int>(names.size())))];
            const int turn = random.below(4);
            grid.set(at + by[side], level::Cell(w.tile(name), {static_cast<std::uint8_t>(turn)}, true), 0);
            beside[side] = Walls::turned(w.sides[name], turn);
            if (beside[side] >> (side + 2) % 4 & 1U) wanted |= 1U << side;
        }
        std::set<std::pair<std::string, unsigned>> expected, found;
        for (const auto& [name, sides] : w.sides)
            for (int turn = 0; turn < 4; ++turn)
                if (const unsigned s = Walls::turned(sides, turn); wanted != 0 && (s & wanted) == wanted)
                    expected.insert({name, s});
        const level::Layer& layer = *w.level.layer(w.below);
        const auto list = fits.at(layer, at);
        for (std::size_t i = 0; i < list.size(); ++i) {
            const std::string& name = w.kit->file.bodies[w.kit->piece_of.at(list[i].tile)].name;
            const unsigned s = Walls::turned(w.sides[name], list[i].turn.quarters());
            CHECK(found.insert({name, s}).second);
            CHECK(list[i].closed == std::popcount(s & wanted));
            CHECK(list[i].open == std::popcount(s & ~wanted));
            if (i > 0) CHECK(list[i - 1].open <= list[i].open);
        }
        CHECK(found == expected);
        some += expected.empty() ? 0 : 1;
        // The Hand's piece is turned so that the fewest sides stay open; of two ways the one that is nearer.
        for (int turn = 0; turn < 4; ++turn) {
            const auto best = fits.turned(layer, at, w.tile("Door"), {static_cast<std::uint8_t>(turn)});
            const bool can = wanted != 0 && ((5U & wanted) == wanted || (10U & wanted) == wanted);
            REQUIRE(best.has_value() == can);
            if (!can) continue;
            CHECK((Walls::turned(5, best->turn.quarters()) & wanted) == wanted);
            CHECK((best->turn.quarters() == turn || std::abs(best->turn.quarters() - turn) != 2));
        }
    }
    CHECK(some > 100);
}

TEST_CASE("walls of a kit go over its floors as one, and meet there", "[edit][overlay][upright]") {
    Walls w;
    level::Material walls;
    walls.id = w.project.free_material();
    walls.name = "Wall";
    walls.joins.kind = level::JoinKind::edges;
    walls.joins.turns = 0x0F;
    for (const auto& [name, sides] : w.sides)
        if (name != "Door")
            walls.joins
                .cases[static_cast<std::uint8_t>(sides == 1    ? 1
                                                 : sides == 5  ? 17
                                                 : sides == 3  ? 5
                                                 : sides == 11 ? 69
                                                               : 85)]
                .push_back({w.tile(name), 100, {}});
    const level::MaterialId wall = walls.id;
    w.project.put(walls);
    // A floor of plain tiles below.
    level::Level level = w.level;
    level.edit(w.below).storey = 2;
    level.edit(w.below).tiles()->solid = true;
    for (int y = 1; y < 6; ++y)
        for (int x = 1; x < 6; ++x)
            level.edit(w.below).grid().set({x, y}, level::Cell(w.tile("Wall 15x"), {}, true), 0);
    const level::Grid floor = level.layer(w.below)->grid();
    const join::Rules rules(w.project);
    level::Region rim;
    for (int i = 0; i < 7; ++i) // partly beyond the floor
        for (const Point p : {Point{i, 1}, Point{i, 5}}) rim.add(p);
    edit::Hand hand{edit::held::Material{wall}};
    const edit::LaidOver laid = edit::lay_over(w.project, rules, level, {.layer = w.below, .hand = hand, .cells = rim});
    CHECK(laid.level.layer(w.below)->grid() == floor);
    REQUIRE(laid.overlay != 0);
    const level::Grid& over = laid.level.layer(laid.overlay)->grid();
    for (int x = 0; x < 7; ++x) CHECK(over.material({x, 1}) == wall);
    CHECK(laid.on_overlay == rim.count());
    CHECK(laid.level.layer(laid.overlay)->storey == 2);
    CHECK(laid.level.layer(laid.overlay)->solid());
    // The next stroke goes there, too, though nothing lies below it; with `replaces` none does.
    level::Region more;
    for (int y = 1; y < 6; ++y) more.add(Point{0, y});
    const edit::LaidOver next =
        edit::lay_over(w.project, rules, laid.level, {.layer = w.below, .hand = hand, .cells = more});
    CHECK(next.level.layer(laid.overlay)->grid().material({0, 3}) == wall);
    const edit::LaidOver replaced =
        edit::lay_over(w.project, rules, level, {.layer = w.below, .hand = hand, .cells = rim, .replaces = true});
    CHECK(replaced.overlay == 0);
    CHECK(replaced.level.layer(w.below)->grid().material({3, 1}) == wall);
}

TEST_CASE("props stand facing the eye, fixed as they are laid, or crossed", "[scene][upright]") {
    make::Small small({8, 8});
    level::Level level = small.level();
    level.edit(small.props).props() = level::Props();
    level::Look look;
    look.turn = level::kFullTurn / 4;
    level.edit(small.props).props().put({1, small.prop, {40, 60}, look});
    level::PropKind kind = *small.project.prop_kind(small.prop);
    kind.flat = false;
    const auto cards = [&](level::Stands stands) {
        kind.stands = stands;
        small.project.put(kind);
        static level::PropKinds kinds;
        kinds = level::PropKinds(small.project);
        return scene::cards_in(kinds, level, scene::Storeys({}), 0);
    };
    auto all = cards(level::Stands::facing);
    REQUIRE(all.size() == 1);
    CHECK_FALSE(all[0].turned);
    all = cards(level::Stands::fixed);
    REQUIRE(all.size() == 1);
    CHECK(*all[0].turned == Approx(1.5707963));
    all = cards(level::Stands::crossed);
    REQUIRE(all.size() == 2);
    CHECK(*all[1].turned == Approx(3.1415926));
    CHECK(all[1].foot == all[0].foot);
}
