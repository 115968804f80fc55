// Changes to how materials join: petals, order cards, doubts, joining anew, stepping variants; and the file.
#include "edit/joins.hpp"

#include <catch2/catch.hpp>

#include "edit/sheets.hpp"
#include "edit/stroke.hpp"
#include "findings/check.hpp"
#include "join/resolve.hpp"
#include "store/format.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::edit;
using join::kE;
using join::kN;
using join::kNE;
using level::JoinKind;

namespace {

level::Level painted(const make::Small& small, const Box& box, level::MaterialId material) {
    Hand hand{held::Material{material}};
    return lay(small.project, join::Rules(small.project), small.level(), small.ground, hand, box_cells(box)).level;
}

std::set<std::string> codes(const level::Project& p) {
    std::set<std::string> out;
    for (const auto& f : findings::check(p)) out.insert(f.code);
    return out;
}

} // namespace

TEST_CASE("a petal changes what it says and nothing else", "[joins]") {
    CHECK(with_petal(JoinKind::edges, kN, 2) == (kN | kE));
    CHECK(with_petal(JoinKind::edges, kN | kE, 0) == kE);
    CHECK(with_petal(JoinKind::full, kN | kE, 1) == (kN | kNE | kE));
    CHECK(with_petal(JoinKind::full, kN, 1) == kN); // a corner beside an open side says nothing
    CHECK(with_petal(JoinKind::corners, 0, 1) == join::of_corners(kNE));
    CHECK(with_petal(JoinKind::corners, 255, 1) == join::of_corners(join::kCorners & ~kNE));
    for (const JoinKind kind : {JoinKind::edges, JoinKind::corners, JoinKind::full})
        for (const join::Mask m : join::cases(kind))
            for (int bit = 0; bit < 8; ++bit) {
                const auto& all = join::cases(kind);
                const join::Mask to = with_petal(kind, m, bit);
                CHECK(std::binary_search(all.begin(), all.end(), to));
                if (kind != JoinKind::full) CHECK((to == m) == !join::told_apart(kind, unsigned(bit)));
            }
}

TEST_CASE("a tile moves to another case, and counts as looked at", "[joins]") {
    make::Small small;
    const level::TileId tile = small.project.material(1)->joins.cases.at(255).front().tile;
    const level::Project p = move_tile(small.project, 1, tile, kN);
    const auto& set = p.material(1)->joins;
    CHECK_FALSE(set.cases.contains(255));
    REQUIRE(set.cases.at(kN).size() == 2);
    CHECK(set.cases.at(kN).back().tile == tile);
    CHECK(set.accepted == std::vector<level::TileId>{tile});
}

TEST_CASE("what the art speaks against is doubtful until it is accepted", "[joins]") {
    make::Small small;
    const level::Sheet& sheet = *small.project.sheets.front();
    const auto reading = join::read_joins(tile_pictures(sheet), JoinKind::full);
    CHECK(doubtful_tiles(sheet, small.project.material(1)->joins, reading).empty());
    level::Project p = change_set(small.project, 1, [](level::JoinSet& s) { std::swap(s.cases[0], s.cases[kN]); });
    auto doubts = doubtful_tiles(sheet, p.material(1)->joins, reading);
    REQUIRE(doubts.size() == 2);
    CHECK(doubts[0].mask == 0);
    CHECK(doubts[0].why.english().find("open to the east, south and west") != std::string::npos);
    p = accept_tile(p, 1, doubts[0].tile);
    CHECK(doubtful_tiles(sheet, p.material(1)->joins, reading).size() == 1);
    p = accept_tile(p, 1, doubts[0].tile);
    CHECK(p.material(1)->joins.accepted.size() == 1);
}

TEST_CASE("an order card serves another sheet of the layout, and only such a one", "[joins]") {
    make::Small small;
    const level::Material rock = *small.project.material(1);
    const level::SheetId first = small.project.sheets.front()->id;
    CHECK(card_trouble(small.project, first, rock, "").english() == "An order card needs a name");
    CHECK_FALSE(card_trouble(small.project, small.project.sheets[1]->id, rock, "Rock").empty());
    level::Project p = keep_order(small.project, first, rock, "Rock");
    CHECK_FALSE(card_trouble(p, first, rock, "Rock").empty());
    // The same layout in another style, in which nothing need be read.
    level::SheetId other = 0;
    p = add_sheet(std::move(p), "sheets/other.png",
                  make::sheet(make::tiles(join::cases(JoinKind::full), 16, make::Style::noisy, 50), 8, {}, {}), "Other",
                  {{16, 16}, {}, {}, 1}, true, other);
    const level::OrderCard& card = p.order_cards.front();
    CHECK(card.layout == Size{8, 6});
    CHECK(std::count(card.masks.begin(), card.masks.end(), std::nullopt) == 1);
    REQUIRE(card_fits(card, *p.sheet(other)));
    CHECK_FALSE(card_fits(card, *p.sheets[1]));
    const auto reading = reading_by_card(card, *p.sheet(other));
    CHECK(reading.missing.empty());
    CHECK(reading.doubled.empty());
    level::MaterialId added = 0;
    p = add_material(p, *p.sheet(other), JoinKind::full, reading, "Other", added);
    for (const auto& [mask, variants] : p.material(added)->joins.cases) {
        REQUIRE(variants.size() == 1);
        const auto& a = p.sheets.front()->tiles;
        const auto& b = p.sheet(other)->tiles;
        for (std::size_t i = 0; i < b.size(); ++i)
            if (b[i].id == variants.front().tile) CHECK(a[i].id == rock.joins.cases.at(mask).front().tile);
    }
}

TEST_CASE("joining anew says how many cells change, and leaves pinned ones unless asked", "[joins]") {
    make::Small small;
    small.set(painted(small, {4, 4, 8, 6}, 1));
    CHECK(rejoin_part(small.project, small.id, small.level().cells(), false).cells == 0);
    CHECK(rejoin_part(small.project, "nowhere", small.level().cells(), false).cells == 0);
    // Two cells put wrong: one only in the file, one pinned by hand.
    level::Level level = small.level();
    auto& grid = level.edit(small.ground).grid();
    grid.set({5, 5}, level::Cell(3), 1);
    grid.set({9, 7}, level::Cell(3, {}, true), 1);
    small.set(level);
    const Rejoined again = rejoin_part(small.project, small.id, level.cells(), false);
    CHECK(again.cells == 1);
    const auto& mended = again.project.level(small.id)->layer(small.ground)->grid();
    CHECK(mended.cell({5, 5}).tile() == small.project.material(1)->joins.cases.at(255).front().tile);
    CHECK(mended.cell({9, 7}).pinned());
    CHECK(rejoin_part(small.project, small.id, {6, 6, 10, 10}, false).cells == 0); // not in that part
    const Rejoined all = rejoin_part(small.project, small.id, level.cells(), true);
    CHECK(all.cells == 2);
    CHECK_FALSE(all.project.level(small.id)->layer(small.ground)->grid().cell({9, 7}).pinned());
    level.edit(small.ground).locked = true;
    small.set(level);
    CHECK(rejoin_part(small.project, small.id, level.cells(), true).cells == 0);
}

TEST_CASE("the cells of a case are counted in a level", "[joins]") {
    make::Small small;
    small.set(painted(small, {4, 4, 8, 6}, 1));
    CHECK(cells_of_case(small.project, &small.level(), 1, 255) == 6 * 4);
    CHECK(cells_of_case(small.project, &small.level(), 1, 255 & ~(join::kNW | kN | kNE)) == 6);
    CHECK(cells_of_case(small.project, &small.level(), 1, 0) == 0);
    CHECK(cells_of_case(small.project, nullptr, 1, 0) == -1);
}

TEST_CASE("a cell's variant is stepped round and pinned", "[joins]") {
    make::Small small;
    small.set(painted(small, {4, 4, 8, 6}, 2));
    level::Level level = small.level();
    const auto& tiles = small.project.material(2)->joins.cases.at(255);
    REQUIRE(tiles.size() == 4);
    const level::TileId was = level.layer(small.ground)->grid().cell({6, 6}).tile();
    std::set<level::TileId> seen;
    for (int i = 0; i < 4; ++i) {
        const auto stepped = step_variant(small.project, level, small.ground, {6, 6}, 1);
        REQUIRE(stepped);
        CHECK(stepped->of == 4);
        level = stepped->level;
        const level::Cell now = level.layer(small.ground)->grid().cell({6, 6});
        CHECK(now.pinned());
        CHECK(now.tile() == tiles[static_cast<std::size_t>(stepped->variant - 1)].tile);
        seen.insert(now.tile());
    }
    CHECK(seen.size() == 4);
    CHECK(level.layer(small.ground)->grid().cell({6, 6}).tile() == was);
    CHECK(step_variant(small.project, level, small.ground, {6, 6}, -1)->variant !=
          step_variant(small.project, level, small.ground, {6, 6}, 1)->variant);
    CHECK_FALSE(step_variant(small.project, level, small.ground, {30, 20}, 1));
    small.set(painted(small, {20, 4, 5, 5}, 1));
    CHECK_FALSE(step_variant(small.project, small.level(), small.ground, {22, 6}, 1)); // only one tile
}

TEST_CASE("all that a set says comes back from the file, and nonsense is refused with its place", "[joins]") {
    make::Small small;
    level::Project p = change_set(small.project, 1, [](level::JoinSet& s) {
        s.turns = level::kQuarterTurns;
        s.lively = 35;
        s.same = {2};
        s.priority = 7;
        s.over = true;
        s.accepted = {3, 9};
        s.cases[kN].push_back({5, 40, {3}});
        s.pairs[2][255] = {{6, 100, {}}};
    });
    p = keep_order(p, p.sheets.front()->id, *p.material(1), "Order");
    p.levels.clear();
    const std::string text = store::project_to_text(p);
    std::vector<std::string> ids;
    const level::Project back = store::project_from_text(text, "project.json", ids);
    CHECK(*back.material(1) == *p.material(1));
    CHECK(back.order_cards == p.order_cards);
    CHECK(store::project_to_text(back) == text);
    const auto refused = [&](const std::string& from, const std::string& to) {
        std::string bad = text;
        const auto at = bad.find(from);
        INFO(from);
        REQUIRE(at != std::string::npos);
        bad.replace(at, from.size(), to);
        try {
            store::project_from_text(bad, "project.json", ids);
        } catch (const InputError& e) {
            return e.where.english() + ": " + e.problem.english();
        }
        return std::string("taken");
    };
    CHECK(refused("[5,40,3]", "[5,40,8]").find("8") != std::string::npos);
    CHECK(refused("[5,40,3]", "[5,-1,3]") != "taken");
    CHECK(refused("[5,40,3]", "[99999,40]").find("Tile 99999 was never given out") != std::string::npos);
    CHECK(refused("[5,40,3]", "[5]").find("A variant is") != std::string::npos);
    CHECK(refused("\"mask\":255", "\"mask\":2").find("no case of the kind") != std::string::npos);
    CHECK(refused("\"mask\":255", "\"mask\":256") != "taken");
    CHECK(refused("\"turns\": 15", "\"turns\": 14").find("as it is drawn") != std::string::npos);
    CHECK(refused("\"layout\": [8,6]", "\"layout\": [8,7]").find("48 places for 56 tiles") != std::string::npos);
}

TEST_CASE("rules that name what is gone, weigh nothing or go in a circle are findings, and nothing breaks", "[joins]") {
    make::Small small;
    const auto with = [&](const std::function<void(level::JoinSet&)>& change) {
        return change_set(small.project, 1, change);
    };
    const auto before = codes(small.project);
    CHECK_FALSE(before.contains("joins-tile-gone"));
    CHECK(codes(with([](level::JoinSet& s) { s.cases[kN] = {{40000, 100, {}}}; })).contains("joins-tile-gone"));
    CHECK(codes(with([](level::JoinSet& s) { s.cases[kN] = {{5, 0, {}}, {6, 0, {}}}; })).contains("joins-no-weight"));
    CHECK(codes(with([](level::JoinSet& s) { s.same = {1}; })).contains("joins-circular"));
    CHECK(codes(with([](level::JoinSet& s) { s.same = {77}; })).contains("joins-material-gone"));
    CHECK(codes(with([](level::JoinSet& s) {
              s.same = {2};
              s.pairs[2][255] = {{5, 100, {}}};
          })).contains("joins-circular"));
    // Three that count each other in a circle but not back; back as well is sound.
    level::Project p = small.project;
    level::Material third = *p.material(1);
    third.id = 3;
    third.name = "Third";
    p.put(third);
    const auto same = [&](level::MaterialId id, std::vector<level::MaterialId> others) {
        p = change_set(p, id, [&](level::JoinSet& s) { s.same = others; });
    };
    same(1, {2});
    same(2, {3});
    same(3, {1});
    CHECK(codes(p).contains("joins-circular"));
    same(1, {2, 3});
    same(2, {1, 3});
    same(3, {1, 2});
    CHECK_FALSE(codes(p).contains("joins-circular"));
    // A case with weights that are all nothing is painted with the nearest that exists.
    level::Project none = with([](level::JoinSet& s) {
        for (auto& [mask, variants] : s.cases)
            if (mask != 255)
                for (auto& v : variants) v.weight = 0;
    });
    const join::Rules rules(none);
    CHECK(rules.choose(1, kN, 3, 3, 0).tile() == none.material(1)->joins.cases.at(255).front().tile);
    CHECK(rules.missing(1, kN));
}
