// What holds in one level alone, what rides along when ground is moved, and what is drawn in front by hand.
#include <algorithm>
#include <catch2/catch.hpp>

#include "edit/areas.hpp"
#include "edit/clips.hpp"
#include "edit/dress.hpp"
#include "edit/free_blockers.hpp"
#include "edit/probes.hpp"
#include "edit/used.hpp"
#include "level/standing.hpp"
#include "outline/areas.hpp"
#include "outline/movers.hpp"
#include "outline/trace.hpp"
#include "picture/blit.hpp"
#include "store/format.hpp"
#include "support/hands.hpp"
#include "support/make.hpp"

using namespace vic;
using edit::Blocking;
using edit::Used;
using edit::UsedKind;

namespace {

struct Plot : make::Small {
    level::Level level;
    Plot() : Small({24, 16}) {
        level = Small::level();
        level.edit(props).props() = level::Props();
        const join::Rules rules(project);
        level = edit::lay(project, rules, level, ground, make::material(1), level::Region(Box{2, 2, 10, 5})).level;
        level.edit(props).props().put({5000, prop, {300, 200}});
    }
    [[nodiscard]] Used of(UsedKind kind, std::uint32_t id) const {
        for (const Used& used : edit::used_in(project, level))
            if (used.kind == kind && used.id == id) return used;
        FAIL("not used");
        return {};
    }
    [[nodiscard]] int blocked(const level::Level& of) const {
        const level::TileTable tiles(project, of);
        const level::PropKinds kinds(project, of);
        std::int64_t area = 0;
        for (const auto& o : outline::outlines(outline::trace(of, {tiles, kinds}))) area += outline::area2(o);
        return static_cast<int>(area / 2 / 64 / 64);
    }
};

} // namespace

TEST_CASE("what things are in one level alone is theirs there and nowhere else", "[edit][here]") {
    Plot s;
    const level::Level elsewhere = s.level;
    CHECK(s.blocked(s.level) >= 50);
    const std::vector<Used> walls{s.of(UsedKind::material, 1)};
    s.level = edit::with_blocking_here(s.project, s.level, walls, Blocking::nothing);
    CHECK(s.of(UsedKind::material, 1).here);
    CHECK(s.of(UsedKind::material, 1).blocking == Blocking::nothing);
    CHECK(s.blocked(s.level) == s.blocked(elsewhere) - 50);
    CHECK_FALSE(edit::decided_at(s.project, s.level, {4, 4}).blocks);
    CHECK(edit::decided_at(s.project, elsewhere, {4, 4}).blocks);
    // The tables that are asked tell the same as a project in which it was said.
    const level::Project said = level::as_in(s.project, s.level);
    const level::TileTable one(said), other(s.project, s.level);
    for (level::TileId id = 1; id < s.project.next_tile; ++id) {
        if (!one.find(id).tile) continue;
        CHECK(one.find(id).tile->shape == other.find(id).tile->shape);
    }
    // It is written down, and read.
    const level::Level read = store::level_from_text(store::level_to_text(s.level), "level", s.project);
    CHECK(read.here == s.level.here);
    // What the project says as well is said nowhere twice; taken back it is as it was.
    CHECK(edit::with_blocking_here(s.project, s.level, walls, Blocking::full).here.empty());
    CHECK(edit::as_in_project(s.project, s.level, walls).here.empty());
    CHECK(s.blocked(edit::as_in_project(s.project, s.level, walls)) == s.blocked(elsewhere));
}

TEST_CASE("a kind of prop blocks, tells and is let alone in one level", "[edit][here]") {
    Plot s;
    const std::vector<Used> it{s.of(UsedKind::prop, s.prop)};
    const bool blocks = s.project.prop_kind(s.prop)->blocks;
    const level::Level other =
        edit::with_blocking_here(s.project, s.level, it, blocks ? Blocking::nothing : Blocking::full);
    REQUIRE(other.here.props.contains(s.prop));
    CHECK(level::PropKinds(s.project, other).find(s.prop)->blocks != blocks);
    CHECK(s.project.prop_kind(s.prop)->blocks == blocks);
    CHECK(store::level_from_text(store::level_to_text(other), "level", s.project).here == other.here);
    // What was drawn for a larger picture is forgotten when that is cut smaller; the level opens all the same.
    level::Level drawn = s.level;
    const Size size = s.project.prop_kind(s.prop)->box.size();
    drawn.here.props[s.prop] = {level::TileShape::drawn, {{{0, 0}, {size.w, 0}, {size.w, size.h}}}, 0};
    CHECK(store::level_from_text(store::level_to_text(drawn), "level", s.project).here == drawn.here);
    level::Project smaller = s.project;
    level::PropKind cut = *smaller.prop_kind(s.prop);
    cut.box.w -= 2;
    smaller.put(cut);
    CHECK(store::level_from_text(store::level_to_text(drawn), "level", smaller).here.empty());
    // It tells, here alone: with its whole picture, and blocks nothing.
    level::Project knows = s.project;
    const level::AreaKindId water = edit::add_area_kind(knows, "Water", level::AreaMeans::water);
    const level::Project told = edit::with_telling(level::as_in(knows, s.level), it, water);
    const level::Level wet = edit::said_here(knows, s.level, it, told);
    REQUIRE(wet.here.props.at(s.prop).tells == water);
    CHECK(outline::told_outlines(knows, s.level, water).empty());
    CHECK(outline::told_outlines(knows, wet, water) == outline::told_outlines(told, s.level, water));
    CHECK(outline::told_outlines(knows, wet, water).size() == 1);
    CHECK(level::PropKinds(knows, wet).find(s.prop)->areas == level::as_in(knows, wet).prop_kind(s.prop)->areas);
    CHECK(store::level_from_text(store::level_to_text(wet), "level", knows).here == wet.here);
    CHECK(edit::told_by(level::as_in(knows, wet), it) == water);
    CHECK(edit::as_in_project(knows, wet, it).here.empty());
    // And the other way round: it tells nothing here, though it does everywhere else.
    const level::Project everywhere = edit::with_telling(knows, it, water);
    const level::Level dry =
        edit::said_here(everywhere, s.level, it, edit::with_telling(level::as_in(everywhere, s.level), it, 0));
    CHECK(dry.here.props.at(s.prop).telling);
    CHECK(outline::told_outlines(everywhere, dry, water).empty());
    CHECK(store::level_from_text(store::level_to_text(dry), "level", everywhere).here == dry.here);
    level::Project listed = knows;
    listed.put(wet);
    CHECK(edit::without_area_kind(listed, water).level(wet.id)->here.props.at(s.prop).tells == 0);
    // A kind that is gone takes with it what was said of it.
    level::Project without = s.project;
    std::erase_if(without.prop_kinds, [&](const auto& k) { return k->id == s.prop; });
    level::Level bare = other;
    for (const level::LayerRef& l : other.layers)
        if (l->has_props()) bare.edit(l->id).props().clear();
    CHECK(store::level_from_text(store::level_to_text(bare), "level", without).here.empty());
}

TEST_CASE("marks and probes ride along when the ground that they stand on is moved", "[edit][clips]") {
    Plot s;
    s.level.marks = {{900, "Here", level::MarkKind::note, {3, 3, 1, 1}},
                     {901, "Far", level::MarkKind::exit, {20, 12, 1, 1}}};
    s.level.probes = {{1, {3 * 64 + 32, 4 * 64}, true}, {2, {20 * 64, 12 * 64}, false}};
    const join::Rules rules(s.project);
    const level::Region cells(Box{2, 2, 4, 4});
    const auto layers = edit::concerned(s.level, 0, true);
    const auto moved = edit::moved(s.project, rules, s.level, cells, layers, {5, 6}, true);
    CHECK(moved.level.marks[0].cells == Box{8, 9, 1, 1});
    CHECK(moved.level.marks[1].cells == Box{20, 12, 1, 1});
    CHECK(moved.level.probes[0].at == Point{8 * 64 + 32, 10 * 64});
    CHECK(moved.level.probes[1].at == Point{20 * 64, 12 * 64});
    // Only as far as the level reaches; and not at all where only what lies on one layer is moved.
    CHECK(edit::moved(s.project, rules, s.level, cells, layers, {-9, 0}, true).level.marks[0].cells == Box{0, 3, 1, 1});
    CHECK(edit::moved(s.project, rules, s.level, cells, layers, {5, 6}).level.marks == s.level.marks);
}

TEST_CASE("what is drawn in front is said by hand, by as little as does it, and taken back", "[edit][order]") {
    make::Random random(8);
    for (int round = 0; round < 40; ++round) {
        Plot s;
        level::Props& props = s.level.edit(s.props).props();
        props.clear();
        for (level::PropId id = 1; id <= 12; ++id)
            props.put({id, s.prop, {100 + random.below(30), 100 + random.below(30)}});
        const level::PropKinds kinds(s.project);
        const auto order = [&](const level::Level& of) {
            std::vector<level::PropId> out;
            for (const auto& shown : picture::props_in(kinds, *of.layer(s.props), {0, 0, 1000, 1000}, 0))
                out.push_back(shown.piece.prop);
            return out;
        };
        edit::Chosen chosen;
        chosen.props = {static_cast<level::PropId>(1 + random.below(12)),
                        static_cast<level::PropId>(1 + random.below(12))};
        const auto before = order(s.level);
        for (const edit::Order how : {edit::Order::in_front, edit::Order::behind}) {
            const level::Level next = edit::in_order(s.project, s.level, chosen, how);
            const auto after = order(next);
            // Against all that they meet; the others keep their order, and the chosen theirs.
            for (const level::PropId id : chosen.props)
                for (level::PropId other = 1; other <= 12; ++other) {
                    if (chosen.props.contains(other)) continue;
                    const auto &a = *s.level.layer(s.props)->props().find(id),
                               &b = *s.level.layer(s.props)->props().find(other);
                    if (intersection(kinds.box(a), kinds.box(b)).empty()) continue;
                    const auto at = std::find(after.begin(), after.end(), id),
                               there = std::find(after.begin(), after.end(), other);
                    CHECK((at > there) == (how == edit::Order::in_front));
                }
            const auto rest = [&](std::vector<level::PropId> ids, bool mine) {
                std::erase_if(ids, [&](level::PropId id) { return chosen.props.contains(id) != mine; });
                return ids;
            };
            CHECK(rest(after, false) == rest(before, false));
            CHECK(rest(after, true) == rest(before, true));
            CHECK(edit::in_order(s.project, next, chosen, how).layers == next.layers); // no further
            CHECK(order(edit::in_order(s.project, next, chosen, edit::Order::as_they_stand)) == before);
            CHECK(store::level_from_text(store::level_to_text(next), "level", s.project).layer(s.props)->props() ==
                  next.layer(s.props)->props());
        }
    }
}

TEST_CASE("areas and movers are changed wherever they are named", "[edit][areas]") {
    Plot s;
    const level::AreaKindId water = edit::add_area_kind(s.project, "Water", level::AreaMeans::water);
    s.project = edit::with_telling(s.project, {s.of(UsedKind::prop, s.prop)}, water);
    level::AreaKind kind = *s.project.area_kind(water);
    kind.name = "Brine";
    kind.colour = {1, 2, 3, 255};
    CHECK(edit::area_kind_trouble(s.project, kind).empty());
    const level::Project after = edit::change_area_kind(s.project, kind);
    CHECK(after.area_kind(water)->name == "Brine");
    CHECK(after.prop_kind(s.prop)->areas.front().name == "Brine");
    CHECK(edit::told_by(after, {s.of(UsedKind::prop, s.prop)}) == water);
    edit::add_area_kind(s.project, "Brine", level::AreaMeans::tells);
    CHECK_FALSE(edit::area_kind_trouble(s.project, kind).empty());
    kind.name.clear();
    CHECK_FALSE(edit::area_kind_trouble(s.project, kind).empty());
    // Movers.
    edit::add_mover(s.project, "Shots");
    s.project = edit::with_stopping(s.project, "Shots", "glass", false);
    s.level.walker.mover = "Shots";
    s.set(s.level);
    const level::Project renamed = edit::rename_mover(s.project, "Shots", "Arrows");
    CHECK(renamed.mover("Shots") == nullptr);
    CHECK(renamed.mover("Arrows")->passes == std::vector<std::string>{"glass"});
    CHECK(renamed.level(s.id)->walker.mover == "Arrows");
}

TEST_CASE("a drawn blocker is named, comes to tell, and is never made into nothing", "[edit][free]") {
    Plot s;
    const level::AreaKindId water = edit::add_area_kind(s.project, "Water", level::AreaMeans::water);
    std::uint32_t next = s.project.next_id;
    level::FreeBlocker box;
    box.points = {{0, 640}, {64, 640}, {64, 704}, {0, 704}};
    s.level = edit::with_free_blocker(s.level, 0, box, "Own", next);
    const level::Layer& layer = *s.level.layers.back();
    const edit::FreeHit hit{layer.id, layer.blockers()->free().front().id};
    const int blocks = s.blocked(s.level);
    const level::Level named = edit::change_free_blocker(s.level, hit, [&](level::FreeBlocker& b) {
        b.name = "Ditch";
        b.tells = water;
        b.id = 77;
    });
    const level::FreeBlocker& now = named.layer(hit.layer)->blockers()->free().front();
    CHECK(now.id == hit.id);
    CHECK(now.name == "Ditch");
    CHECK(s.blocked(named) == blocks - 1);
    const level::Level same = edit::change_free_blocker(s.level, hit, [](level::FreeBlocker& b) { b.points.clear(); });
    CHECK(same.layers == s.level.layers);
}
