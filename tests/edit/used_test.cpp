// What a level is made of, and who decides what blocks.
#include <algorithm>
#include <catch2/catch.hpp>
#include <map>

#include "edit/free_blockers.hpp"
#include "edit/own_word.hpp"
#include "edit/reshape.hpp"
#include "edit/sheets.hpp"
#include "edit/used.hpp"
#include "level/standing.hpp"
#include "outline/trace.hpp"
#include "support/hands.hpp"
#include "support/make.hpp"

using namespace vic;
using edit::Blocking;
using edit::Used;
using edit::UsedKind;

namespace {

struct Site : make::Small {
    level::Level level;
    Site() : Small({40, 30}) {
        level = Small::level();
        level.edit(props).props() = level::Props();
        const join::Rules rules(project);
        level = edit::lay(project, rules, level, ground, make::material(1), level::Region(Box{2, 2, 10, 5})).level;
        level.edit(front).grid().set({20, 20}, level::Cell(9, {}, true), 0);
        level.edit(front).grid().set({21, 20}, level::Cell(9, {}, true), 0);
        level.edit(props).props().put({5000, prop, {300, 200}});
    }
    [[nodiscard]] Used of(UsedKind kind, std::uint32_t id) const {
        for (const Used& used : edit::used_in(project, level))
            if (used.kind == kind && used.id == id) return used;
        return {};
    }
};

} // namespace

TEST_CASE("what is used is counted, with what it says and whether its layer listens", "[edit][used]") {
    Site s;
    s.level.edit(s.ground).tiles()->solid = false;
    s.level.edit(s.front).tiles()->solid = true;
    CHECK(s.of(UsedKind::material, 1).count == 50);
    CHECK(s.of(UsedKind::material, 1).heard == 0);
    CHECK(s.of(UsedKind::tile, 9).count == 2);
    CHECK(s.of(UsedKind::tile, 9).heard == 2);
    CHECK(s.of(UsedKind::prop, s.prop).count == 1);
    // All at once.
    const std::vector<Used> all = edit::used_in(s.project, s.level);
    for (const Blocking blocking : {Blocking::full, Blocking::nothing, Blocking::as_drawn}) {
        const level::Project p = edit::with_blocking(s.project, all, blocking);
        for (const Used& used : edit::used_in(p, s.level)) {
            if (blocking == Blocking::as_drawn)
                CHECK((used.blocking == Blocking::as_drawn || used.blocking == Blocking::full));
            else
                CHECK(used.blocking == blocking);
        }
    }
    // Of one alone: the others stay.
    const level::Project p = edit::with_blocking(s.project, {s.of(UsedKind::tile, 9)}, Blocking::one_way);
    CHECK(level::TileTable(p).find(9).tile->shape == level::TileShape::one_way_north);
    CHECK(p.material(1)->joins == s.project.material(1)->joins);
    // Its layer is made to listen.
    const level::Level heard = edit::with_layers_blocking(s.project, s.level, {s.of(UsedKind::material, 1)});
    CHECK(heard.layer(s.ground)->solid());
    CHECK_FALSE(s.level.layer(s.ground)->solid());
    // Where it is.
    CHECK(edit::where_used(s.project, s.level, s.of(UsedKind::material, 1)) == level::Region(Box{2, 2, 10, 5}));
}

TEST_CASE("counted again and again it is as if counted once", "[edit][used]") {
    Site s;
    edit::UsedCounter counter;
    make::Random random(3);
    for (int i = 0; i < 60; ++i) {
        if (random.flip(0.4))
            s.level.edit(s.front).grid().set({random.below(40), random.below(30)},
                                             level::Cell(static_cast<level::TileId>(1 + random.below(12)), {}, true),
                                             random.flip() ? 1 : 0);
        else if (random.flip(0.3))
            s.level.edit(s.ground).tiles()->solid = random.flip();
        else if (random.flip(0.3))
            s.level.edit(s.props).props().put({s.project.next_id++, s.prop, {random.below(600), random.below(400)}});
        else
            s.project = edit::with_blocking(s.project, edit::used_in(s.project, s.level),
                                            random.flip() ? Blocking::full : Blocking::nothing);
        CHECK(counter.used_in(s.project, s.level) == edit::used_in(s.project, s.level));
    }
}

TEST_CASE("who decides is who blocks: against the codes that outlines are traced from", "[edit][used]") {
    make::Random random(12);
    for (int round = 0; round < 20; ++round) {
        Site s;
        s.level.edit(s.props).props() = level::Props();
        s.project = edit::change_tiles(s.project, {5, 9, 12}, [&](level::Tile& t) {
            t.polygons.clear();
            t.shape = static_cast<level::TileShape>(random.below(level::kTileShapes - 1));
        });
        for (const level::LayerId id : {s.ground, s.front}) {
            s.level.edit(id).tiles()->solid = random.flip(0.6);
            for (int i = 0; i < 150; ++i)
                s.level.edit(id).grid().set(
                    {random.below(40), random.below(30)},
                    level::Cell(std::array{5U, 9U, 12U}[static_cast<std::size_t>(random.below(3))], {}, true), 0);
        }
        const level::TileTable tiles(s.project);
        std::vector<outline::SolidCode> codes(40 * 30);
        outline::Forms forms;
        outline::read_solid(s.level, tiles, s.level.cells(), codes.data(), 40, forms);
        int wrong = 0, blocked = 0, deaf = 0;
        for (int y = 0; y < 30; ++y)
            for (int x = 0; x < 40; ++x) {
                const edit::Decided d = edit::decided_at(s.project, s.level, {x, y});
                const bool blocks = codes[static_cast<std::size_t>(y * 40 + x)] != outline::kOpen;
                wrong += d.blocks != blocks || d.says.empty();
                blocked += blocks;
                if (d.by == edit::Decided::By::layer_open) {
                    ++deaf;
                    level::Level heard = s.level;
                    heard.edit(d.layer).tiles()->solid = true;
                    wrong += !edit::decided_at(s.project, heard, {x, y}).blocks;
                }
            }
        CHECK(wrong == 0);
        CHECK(blocked + deaf > 50);
    }
}

TEST_CASE("a prop that blocks is who decides, over its foot", "[edit][used]") {
    Site s;
    level::PropKind kind = *s.project.prop_kind(s.prop);
    kind.blocks = true;
    s.project.put(kind);
    const level::PropKinds kinds(s.project);
    const Box foot = kinds.foot_box(s.level.layer(s.props)->props().all().front());
    const Point cell = s.level.geometry().cell_at({foot.x + foot.w / 2, foot.y + foot.h / 2});
    const edit::Decided d = edit::decided_at(s.project, s.level, cell);
    CHECK(d.by == edit::Decided::By::prop);
    CHECK(d.blocks);
    CHECK(d.layer == s.props);
    CHECK_FALSE(edit::decided_at(s.project, s.level, {cell.x + 6, cell.y}).blocks);
    CHECK(edit::decided_at(s.project, s.level, {-1, 3}).says.empty());
}

TEST_CASE("what lies above and opens decides: a bridge, a cell's own word, a board that one placed", "[edit][used]") {
    Site s;
    s.level.edit(s.ground).tiles()->solid = true;
    s.level.edit(s.front).tiles()->solid = false; // what opens is heard all the same
    const Point cell{4, 4};
    CHECK(edit::decided_at(s.project, s.level, cell).blocks);
    s.level.edit(s.front).grid().set(cell, level::Cell(12, {}, true), 0);
    s.project = edit::change_tiles(s.project, std::vector<level::TileId>{12},
                                   [](level::Tile& t) { t.shape = level::TileShape::opens; });
    CHECK(s.of(UsedKind::tile, 12).blocking == Blocking::opens);
    CHECK(s.of(UsedKind::tile, 12).heard == 1);
    edit::Decided d = edit::decided_at(s.project, s.level, cell);
    CHECK(d.opens);
    CHECK_FALSE(d.blocks);
    CHECK(d.layer == s.front);
    const auto open = [&](Point at) {
        const level::TileTable tiles(s.project);
        const level::PropKinds kinds(s.project);
        outline::SolidCode code = 0;
        outline::Forms forms;
        outline::read_solid(s.level, {tiles, kinds}, {at.x, at.y, 1, 1}, &code, 1, forms);
        return code == outline::kOpen;
    };
    CHECK(open(cell));
    CHECK_FALSE(open({5, 4}));
    // The cells' own word has the last one, whichever it is, and is taken back.
    std::uint32_t next = s.project.next_id;
    for (const auto word : {edit::OwnWord::may_not_walk, edit::OwnWord::may_walk, edit::OwnWord::none}) {
        s.level = edit::with_own_word(s.level, level::Region(Box{4, 4, 2, 1}), word, "Own words", next);
        CHECK(edit::own_word_of(s.level, cell) == word);
        CHECK(open(cell) == (word != edit::OwnWord::may_not_walk));
        CHECK(open({5, 4}) == (word == edit::OwnWord::may_walk));
        d = edit::decided_at(s.project, s.level, {5, 4});
        CHECK(d.opens == (word == edit::OwnWord::may_walk));
        CHECK((d.by == edit::Decided::By::blocker) == (word != edit::OwnWord::none));
    }
    CHECK(next == s.project.next_id + 1);
    CHECK(s.level.layers.back()->id == s.project.next_id);
    // A locked layer keeps its words.
    s.level.edit(s.level.layers.back()->id).locked = true;
    const level::Level locked =
        edit::with_own_word(s.level, level::Region(Box{4, 4, 2, 1}), edit::OwnWord::may_not_walk, "Own words", next);
    CHECK(edit::own_word_of(locked, cell) == edit::OwnWord::none);
    // A board on the water.
    level::PropKind board = *s.project.prop_kind(s.prop);
    board.foot = box_of(board.box.size());
    s.project.put(board);
    s.project = edit::with_blocking(s.project, std::vector<Used>{{UsedKind::prop, s.prop, 1}}, Blocking::opens);
    s.level.edit(s.props).props().put({6000, s.prop, {7 * 16 + 8, 5 * 16 + 15}});
    d = edit::decided_at(s.project, s.level, {7, 5});
    CHECK(d.opens);
    CHECK(d.by == edit::Decided::By::prop);
}

TEST_CASE("free blockers go along when a level is extended, cropped and turned", "[edit][used]") {
    Site s;
    level::Layer layer;
    layer.id = s.project.next_id++;
    level::Blockers blockers(s.level.size);
    blockers.set_free({{1, {{100, 130}, {900, 200}, {400, 700}}, 0, false, 0, "A", {}},
                       {2, {{1200, 300}, {1500, 900}, {1900, 900}}, 33, false, 0, "B", {}}});
    layer.content = blockers;
    s.level.layers = {std::make_shared<const level::Layer>(layer)};
    s.level.plane = 0;
    const join::Rules rules(s.project);
    const level::TileTable tiles(s.project);
    const auto outlines = [&](const level::Level& level) { return outline::outlines(outline::trace(level, tiles)); };
    const auto before = outlines(s.level);
    const level::Level more = edit::extended(rules, s.level, {3, 2, 1, 5});
    auto moved = outlines(more);
    for (auto& o : moved)
        for (Point& p : o.points) p = p - Point{3 * 64, 2 * 64};
    CHECK(moved == before);
    CHECK(outlines(edit::extended(rules, more, {-3, -2, -1, -5})) == before);
    level::Level round = s.level;
    for (int i = 0; i < 4; ++i) {
        round = edit::turned(s.project, rules, round, Turn{1});
        std::int64_t area = 0, expected = 0;
        for (const auto& o : outlines(round)) area += outline::area2(o);
        for (const auto& o : before) expected += outline::area2(o);
        CHECK(std::abs(area - expected) < 2 * 64 * 20); // lines are rounded anew
    }
    CHECK(round.layer(layer.id)->blockers()->free() == blockers.free());
}

TEST_CASE("free blockers are drawn onto the words of cells, counted, found and taken away", "[edit][used]") {
    Site s;
    std::uint32_t next = s.project.next_id;
    const level::FreeBlocker box{0, {{64, 64}, {200, 64}, {200, 130}, {64, 130}}, 0, false, 0, {}, {}};
    level::Level level = edit::with_free_blocker(s.level, s.ground, box, "Own words", next);
    REQUIRE(level.layers.back()->blockers());
    CHECK(next == s.project.next_id + 2);
    level::FreeBlocker line = box;
    line.points = {{300, 300}, {600, 310}};
    line.width = 20;
    level = edit::with_free_blocker(level, s.ground, line, "Own words", next);
    CHECK(level.layers.size() == s.level.layers.size() + 1);
    const auto used = edit::used_in(s.project, level);
    const auto it = std::find_if(used.begin(), used.end(), [](const Used& u) { return u.kind == UsedKind::blockers; });
    REQUIRE(it != used.end());
    CHECK(it->count == 2);
    CHECK(edit::where_used(s.project, level, *it).contains({1, 1}));
    CHECK(edit::where_used(s.project, level, *it).contains({7, 4}));
    CHECK(edit::decided_at(s.project, level, {2, 1}).by == edit::Decided::By::blocker);
    // Found by what they cover, and no further.
    const auto hit = edit::free_blocker_at(level, {450, 305});
    REQUIRE(hit);
    CHECK_FALSE(edit::free_blocker_at(level, {450, 330}));
    CHECK(edit::free_blocker_at(level, {64, 64}));
    CHECK_FALSE(edit::free_blocker_at(level, {200, 64}));
    level = edit::without_free_blocker(level, *hit);
    CHECK(level.layers.back()->blockers()->free().size() == 1);
    CHECK_FALSE(edit::free_blocker_at(level, {450, 305}));
    CHECK(edit::snapped({23, 25}, 16) == Point{16, 32});
    CHECK(edit::snapped({-9, -7}, 16) == Point{-16, 0});
    // What cannot be one is refused with its reason.
    level::FreeBlocker crossed = box;
    crossed.points = {{0, 0}, {100, 100}, {100, 0}, {0, 100}};
    CHECK_FALSE(level::blocker_trouble(crossed).empty());
    CHECK_FALSE(level::blocker_trouble({0, {{5, 5}, {5, 5}}, 8, false, 0, {}, {}}).empty());
    CHECK_FALSE(level::blocker_trouble({0, {{5, 5}, {9, 5}, {7, 5}}, 0, false, 0, {}, {}}).empty());
    CHECK(level::blocker_trouble(box).empty());
}
