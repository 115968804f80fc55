// Props chosen, moved, aligned, copied; placed by snapping; ensembles made, opened and taken apart.
#include "edit/dress.hpp"

#include <algorithm>
#include <catch2/catch.hpp>
#include <random>

#include "base/error.hpp"
#include "edit/ensemble.hpp"
#include "edit/levels.hpp"
#include "edit/notes.hpp"
#include "edit/placing.hpp"
#include "edit/props.hpp"
#include "level/standing.hpp"
#include "picture/compose.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::edit;

namespace {

struct Yard : make::Small {
    Yard() : Small({40, 30}) {}
    level::PropId put(Point at, level::Look look = {}) {
        level::Level l = level();
        const level::PropId id = project.next_id++;
        l.edit(props).props().put({id, prop, at, look});
        project.put(std::move(l));
        return id;
    }
    const level::Prop& get(level::PropId id) {
        const level::Prop* p = find_prop(level(), id);
        REQUIRE(p);
        return *p;
    }
    void take(level::Level l) { project.put(std::move(l)); }
};

Chosen of(std::initializer_list<level::PropId> ids) {
    Chosen c;
    c.props = ids;
    return c;
}

} // namespace

TEST_CASE("a box and a line choose by feet, and only what may be chosen", "[dress]") {
    Yard s;
    const auto a = s.put({100, 100}), b = s.put({200, 100}), c = s.put({300, 200});
    CHECK(chosen_in(s.project, s.level(), {90, 80, 130, 40}).props == std::set<level::PropId>{a, b});
    const level::Spots round{{80, 80}, {120, 80}, {120, 120}, {80, 120}};
    CHECK(chosen_within(s.project, s.level(), round).props == std::set<level::PropId>{a});
    CHECK(all_alike(s.level(), of({c})).props.size() == 3);
    level::Level locked = s.level();
    locked.edit(s.props).locked = true;
    CHECK(chosen_in(s.project, locked, {0, 0, 640, 480}).props.empty());
    s.take(group(s.level(), of({a, b}), 77));
    CHECK(with_groups(s.level(), of({a})).props == std::set<level::PropId>{a, b});
    CHECK(with_groups(s.level(), of({c})).props == std::set<level::PropId>{c});
    level::PropKind tagged = *s.project.prop_kind(s.prop);
    tagged.tags = {"post"};
    s.project.put(tagged);
    CHECK(all_tagged(s.project, s.level(), "post").props.size() == 3);
    CHECK(all_tagged(s.project, s.level(), "pos").props.empty());
}

TEST_CASE("what is spaced evenly has gaps that differ by a pixel at most, and its ends stay", "[dress]") {
    std::mt19937 cast(11);
    for (int round = 0; round < 60; ++round) {
        Yard s;
        Chosen all;
        for (int i = 0; i < 3 + round % 5; ++i) {
            level::Look look;
            look.scale = static_cast<std::int16_t>(50 + cast() % 150);
            all.props.insert(s.put({static_cast<int>(20 + cast() % 600), static_cast<int>(20 + cast() % 400)}, look));
        }
        for (const bool upright : {false, true}) {
            const level::PropKinds kinds(s.project);
            const auto boxes = [&](const level::Level& l) {
                std::vector<Box> out;
                for (const level::Prop* p : props_of(l, all)) out.push_back(kinds.box(*p));
                std::stable_sort(out.begin(), out.end(), [&](const Box& a, const Box& b) {
                    return upright ? 2 * a.y + a.h < 2 * b.y + b.h : 2 * a.x + a.w < 2 * b.x + b.w;
                });
                return out;
            };
            const auto before = boxes(s.level());
            const level::Level spaced = distribute(s.project, s.level(), all, upright);
            const auto after = boxes(spaced);
            const auto from = [&](const Box& b) { return upright ? b.y : b.x; };
            const auto to = [&](const Box& b) { return upright ? b.bottom() : b.right(); };
            int least = 100000, most = -100000;
            for (std::size_t i = 0; i + 1 < after.size(); ++i) {
                least = std::min(least, from(after[i + 1]) - to(after[i]));
                most = std::max(most, from(after[i + 1]) - to(after[i]));
            }
            // Where pictures overlap heavily their order may change; gaps are told of those that lie one after another.
            if (least >= 0) {
                CHECK(most - least <= 1);
                CHECK(from(after.front()) == from(before.front()));
                CHECK(to(after.back()) == to(before.back()));
            }
        }
    }
}

TEST_CASE("aligned props share a side or a middle, those of a group stay as they are to one another", "[dress]") {
    Yard s;
    const auto a = s.put({100, 100}), b = s.put({140, 130}), c = s.put({260, 220});
    s.take(group(s.level(), of({a, b}), 5));
    const Point way = s.get(b).at - s.get(a).at;
    const level::PropKinds kinds(s.project);
    for (const Align how : {Align::left, Align::middle, Align::right, Align::top, Align::centre, Align::bottom}) {
        const level::Level l = align(s.project, s.level(), of({a, b, c}), how);
        CHECK(find_prop(l, b)->at - find_prop(l, a)->at == way);
        const Box lot = united(kinds.box(*find_prop(l, a)), kinds.box(*find_prop(l, b)));
        const Box one = kinds.box(*find_prop(l, c));
        switch (how) {
            case Align::left:
                CHECK(lot.x == one.x);
                break;
            case Align::right:
                CHECK(lot.right() == one.right());
                break;
            case Align::top:
                CHECK(lot.y == one.y);
                break;
            case Align::bottom:
                CHECK(lot.bottom() == one.bottom());
                break;
            case Align::middle:
                CHECK(std::abs(2 * lot.x + lot.w - 2 * one.x - one.w) <= 2);
                break;
            case Align::centre:
                CHECK(std::abs(2 * lot.y + lot.h - 2 * one.y - one.h) <= 2);
                break;
        }
    }
}

TEST_CASE("scales and turns stay within what a kind allows; scales go by whole numbers first", "[dress]") {
    Yard s;
    level::PropKind k = *s.project.prop_kind(s.prop);
    k.least = 50;
    k.most = 300;
    k.lit = true;
    s.project.put(k);
    const auto a = s.put({100, 100});
    s.take(change_props(s.project, s.level(), of({a}), [](level::Prop& p) {
        p.look.scale = 1200;
        p.look.turn = 450;
    }));
    CHECK(s.get(a).look.scale == 300);
    CHECK(s.get(a).look.turn == 0);
    CHECK(next_scale(k, 100, 1) == 150);
    CHECK(next_scale(k, 150, 1) == 200);
    CHECK(next_scale(k, 200, 3) == 300);
    CHECK(next_scale(k, 100, -1) == 75);
    CHECK(next_scale(k, 100, -9) == 50);
}

TEST_CASE("a free place is the nearest where no foot stands in another's", "[dress][ground]") {
    std::mt19937 cast(5);
    for (int round = 0; round < 20; ++round) {
        Yard s;
        for (int i = 0; i < 12; ++i)
            s.put({static_cast<int>(150 + cast() % 120), static_cast<int>(150 + cast() % 120)});
        const level::Prop wanted{
            0x7FFFFFFF, s.prop, {static_cast<int>(160 + cast() % 100), static_cast<int>(160 + cast() % 100)}};
        const Ground ground(s.project, s.level(), {});
        const auto free = ground.nearest_free(wanted, 128);
        REQUIRE(free);
        level::Prop there = wanted;
        there.at = *free;
        CHECK(ground.stand(there).way == InTheWay::nothing);
        // Nothing on the raster it looks at is nearer.
        const int far =
            (free->x - wanted.at.x) * (free->x - wanted.at.x) + (free->y - wanted.at.y) * (free->y - wanted.at.y);
        for (int y = -64; y <= 64; y += 2)
            for (int x = -64; x <= 64; x += 2) {
                if (x * x + y * y >= far) continue;
                there.at = wanted.at + Point{x, y};
                CHECK(ground.stand(there).way != InTheWay::nothing);
            }
    }
    Yard s;
    const Ground ground(s.project, s.level(), {});
    CHECK(ground.stand({1, s.prop, {-50, 20}}).way == InTheWay::beyond);
}

TEST_CASE("seen from the side a prop drops onto the ground and tilts on a slope", "[dress][ground]") {
    Yard s;
    level::Level l = s.level();
    l.view = level::View::from_the_side;
    level::Layer blockers;
    blockers.id = s.project.next_id++;
    blockers.content = level::empty_content(level::LayerKind::blockers, l.size);
    for (int x = 0; x < 40; ++x) blockers.grid().set({x, 20}, level::Blockers::cell_of(level::TileShape::full), 0);
    for (int x = 0; x < 6; ++x)
        for (int y = 20 - x; y <= 20; ++y)
            blockers.grid().set(
                {20 + x, y},
                level::Blockers::cell_of(y == 20 - x ? level::TileShape::slope_se : level::TileShape::full), 0);
    l.layers.push_back(std::make_shared<const level::Layer>(std::move(blockers)));
    s.take(l);
    const Ground ground(s.project, s.level(), {});
    const level::PropKinds kinds(s.project);
    level::Prop prop{1, s.prop, {100, 60}};
    prop.at = ground.dropped(prop);
    CHECK(kinds.foot_box(prop).bottom() == 20 * 16);
    CHECK(ground.stand(prop).way == InTheWay::nothing);
    CHECK(ground.tilt(prop) == 0);
    // From within the ground it comes up.
    level::Prop deep = prop;
    deep.at.y += 12;
    CHECK(ground.stand(deep).way == InTheWay::blocks);
    CHECK(ground.dropped(deep).y == prop.at.y);
    // The slope rises to the right by 45°.
    level::Prop slope{1, s.prop, {23 * 16, 60}};
    CHECK(ground.tilt(slope) == level::kFullTurn - 450);
}

TEST_CASE("free props snap to edges, middles and equal distances", "[dress]") {
    Yard s;
    s.put({100, 100});
    s.put({160, 100});
    const level::PropKinds kinds(s.project);
    const Box left = kinds.box(s.get(s.project.next_id - 2));
    const Box right = kinds.box(s.get(s.project.next_id - 1));
    // As far from the second as that is from the first.
    level::Prop third{0x7FFFFFFF, s.prop, {222, 103}};
    const Snapped at = to_props(s.project, s.level(), third, {}, 5);
    third.at = at.at;
    CHECK(kinds.box(third).x - right.right() == right.x - left.right());
    CHECK(kinds.box(third).y == right.y);
    CHECK(at.lines.size() == 2);
    // Nothing is near.
    const level::Prop alone{0x7FFFFFFF, s.prop, {500, 400}};
    CHECK(to_props(s.project, s.level(), alone, {}, 5).at == alone.at);
    // The parts of cells hold the whole ones.
    for (int x = 0; x < 200; x += 7) {
        const Point whole = on_lattice(s.level(), {x, 3 * x}, Lattices::cells);
        CHECK(on_lattice(s.level(), whole, Lattices::halves) == whole);
        CHECK(on_lattice(s.level(), whole, Lattices::quarters) == whole);
    }
}

TEST_CASE("places along a line are as far apart as asked", "[dress]") {
    const std::vector<level::Spot> line{{0, 0}, {100, 0}, {100, 100}};
    const auto straight = places_along(line, 15, false);
    CHECK(straight.size() == 14); // 200 / 15, and the first
    CHECK(straight[7].x == Approx(100));
    CHECK(straight[7].y == Approx(5));
    const auto curve = places_along(line, 15, true);
    for (std::size_t i = 0; i + 1 < curve.size(); ++i) {
        const double d = std::hypot(curve[i + 1].x - curve[i].x, curve[i + 1].y - curve[i].y);
        CHECK(d <= 15.01);
        CHECK(d > 12);
    }
    CHECK(places_along({}, 5, true).empty());
    CHECK(places_along({{3, 4}}, 5, true).size() == 1);
    CHECK(facing({0, 0}, {10, 0}, false) == 2700);
    CHECK(facing({0, 0}, {0, 10}, false) == 0);
    CHECK(facing({0, 0}, {-10, 0}, false) == 900);
    CHECK(facing({0, 0}, {10, 1}, true) == 2757);
}

TEST_CASE("an ensemble looks as what it was made of, opened and taken apart, too", "[dress][ensemble]") {
    Yard s;
    level::Look turned;
    turned.turn = 300;
    turned.tint = {200, 180, 255, 255};
    const auto a = s.put({100, 100}), b = s.put({130, 110}, turned), c = s.put({115, 140});
    const Image before = picture::render(s.project, s.level(), 1);
    MadeEnsemble made = make_ensemble(s.project, s.level().id, of({a, b, c}), "Stall");
    CHECK(made.project.prop_kind(made.kind)->parts.size() == 3);
    CHECK(made.project.level(s.level().id)->layer(s.props)->props().size() == 1);
    CHECK(picture::render(made.project, *made.project.level(s.level().id), 1) == before);
    const level::Level open = opened(made.project, *made.project.level(s.level().id), made.prop);
    CHECK(picture::render(made.project, open, 1) == before);
    CHECK(open.layer(kPartsLayer)->props().size() == 3);
    const TakenApart apart = take_apart(made.project, s.level().id, of({made.prop}));
    CHECK(apart.chosen.props.size() == 3);
    CHECK(picture::render(apart.project, *apart.project.level(s.level().id), 1) == before);
    CHECK_THROWS_AS(make_ensemble(s.project, s.level().id, of({a}), "One"), InputError);
}

TEST_CASE("what is changed in an opened ensemble is changed in all its copies, or in one alone", "[dress][ensemble]") {
    for (const int turn : {0, 900, 1800, 333}) {
        Yard s;
        const auto a = s.put({100, 100}), b = s.put({130, 110});
        MadeEnsemble made = make_ensemble(s.project, s.level().id, of({a, b}), "Stall");
        s.project = made.project;
        level::Level l = s.level();
        level::Look look;
        look.turn = static_cast<std::int16_t>(turn);
        look.scale = 200;
        look.mirrored = turn == 900;
        const level::PropId copy = s.project.next_id++;
        l.edit(s.props).props().put({copy, made.kind, {400, 300}, look});
        s.take(l);
        // Nothing changed: nothing changes.
        CHECK(
            closed(s.project, opened(s.project, s.level(), copy), s.level().id, copy, false).prop_kinds.back()->parts ==
            s.project.prop_kind(made.kind)->parts);
        level::Level open = opened(s.project, s.level(), copy);
        open = change_props(s.project, open, of({kFirstPart + 1}), [](level::Prop& p) {
            p.look.tint = {255, 0, 0, 255};
        });
        open = move_chosen(open, of({kFirstPart + 2}), {8, 0});
        const level::Project all = closed(s.project, open, s.level().id, copy, false);
        const level::PropKind& kind = *all.prop_kind(made.kind);
        CHECK(kind.parts[0].look.tint == Rgba{255, 0, 0, 255});
        CHECK(kind.parts[0].at == s.project.prop_kind(made.kind)->parts[0].at);
        CHECK(kind.parts[1].at != s.project.prop_kind(made.kind)->parts[1].at);
        // It stands where it was dragged to.
        const level::Prop* now = find_prop(*all.level(s.level().id), copy);
        const auto pieces = level::PropKinds(all).pieces(*now);
        const Point wanted = open.layer(kPartsLayer)->props().find(kFirstPart + 2)->at;
        CHECK(std::abs(pieces[1].at.x - wanted.x) <= 1);
        CHECK(std::abs(pieces[1].at.y - wanted.y) <= 1);
        // The same for this copy alone: tint here, place for all; and a part away.
        open = remove_prop(open, kFirstPart + 2);
        const level::Project one = closed(s.project, open, s.level().id, copy, true);
        CHECK(one.prop_kind(made.kind)->parts.size() == 2);
        CHECK(one.prop_kind(made.kind)->parts[0].look.tint == level::Look{}.tint);
        const level::PropKinds kinds(one);
        CHECK(kinds.pieces(*find_prop(*one.level(s.level().id), copy)).size() == 1);
        CHECK(kinds.pieces(*find_prop(*one.level(s.level().id), made.prop)).size() == 2);
        // No part left is refused, nothing changed.
        open = remove_prop(open, kFirstPart + 1);
        CHECK_THROWS_AS(closed(s.project, open, s.level().id, copy, false), InputError);
    }
}

TEST_CASE("an ensemble within itself is refused, and one goes with its last part", "[dress][ensemble]") {
    Yard s;
    const auto a = s.put({100, 100}), b = s.put({130, 110});
    MadeEnsemble made = make_ensemble(s.project, s.level().id, of({a, b}), "Stall");
    s.project = made.project;
    level::Level open = opened(s.project, s.level(), made.prop);
    open.edit(kPartsLayer).props().put({5, made.kind, {120, 100}});
    CHECK_THROWS_AS(closed(s.project, open, s.level().id, made.prop, false), InputError);
    const level::Project gone = remove_kinds(s.project, {s.prop});
    CHECK(gone.prop_kinds.size() == s.project.prop_kinds.size() - 2);
    CHECK(gone.level(s.level().id)->layer(s.props)->props().empty());
}

TEST_CASE("variants stand by their chances, always the same at a place", "[dress]") {
    Yard s;
    level::PropKind other = *s.project.prop_kind(s.prop);
    other.id = s.project.next_id++;
    other.name = "Other post";
    other.variant_of = s.prop;
    other.chance = 300;
    s.project.put(other);
    int others = 0;
    for (int y = 0; y < 60; ++y)
        for (int x = 0; x < 60; ++x) {
            const level::PropKindId k = variant_at(s.project, s.prop, {x * 7, y * 5});
            CHECK(k == variant_at(s.project, s.prop, {x * 7, y * 5}));
            others += k == other.id;
        }
    CHECK(others > 3600 * 0.72);
    CHECK(others < 3600 * 0.78);
    CHECK(variant_at(s.project, other.id, {1, 1}) == other.id);
}

TEST_CASE("a note that goes is gone from props, kinds and parts", "[dress]") {
    Yard s;
    s.project = add_note_kind(s.project, {0, "Eggs", level::NoteType::number, {}});
    const level::NoteId note = s.project.note_kinds.back().id;
    const auto a = s.put({100, 100}), b = s.put({130, 110});
    s.take(change_props(s.project, s.level(), of({a}), [&](level::Prop& p) {
        level::PropOwn own;
        own.notes[note] = 3.0;
        p.set_own(own);
    }));
    MadeEnsemble made = make_ensemble(s.project, s.level().id, of({a, b}), "Nest");
    CHECK(noted(made.project, note) == 1);
    const level::Project without = remove_note_kind(made.project, note);
    CHECK(noted(without, note) == 0);
    CHECK(without.prop_kind(made.kind)->parts[0].notes.empty());
}

TEST_CASE("what stands in something is pushed apart, and nothing else moves", "[dress][ground]") {
    Yard s;
    const auto a = s.put({200, 200}), b = s.put({200, 200}), c = s.put({201, 202}), alone = s.put({400, 300});
    const Pushed pushed = push_free(s.project, s.level(), {a, b, c, alone});
    CHECK(pushed.moved == 2); // the last stands free once the others are gone
    CHECK(pushed.stuck == 0);
    CHECK(find_prop(pushed.level, alone)->at == Point{400, 300});
    const Ground ground(s.project, pushed.level, {});
    for (const auto id : {a, b, c, alone}) CHECK(ground.stand(*find_prop(pushed.level, id)).way == InTheWay::nothing);
}

TEST_CASE("a row leaves out what stands in another, and turns along its way", "[dress]") {
    Yard s;
    s.put({200, 100});
    const std::vector<level::Spot> places{{100, 100}, {200, 100}, {300, 100}, {-40, 100}};
    const Row row = row_of(s.project, s.level(), s.props, {0, s.prop, {}}, places, {false, true}, 5000);
    CHECK(row.count == 2);
    CHECK(row.obstructed == 2);
    CHECK(row.next_id == 5002);
    CHECK(find_prop(row.level, 5000)->at == Point{100, 100});
    CHECK(find_prop(row.level, 5001)->look.turn == 0); // to the right, as it is drawn
    const Row down = row_of(s.project, s.level(), s.props, {0, s.prop, {}}, {{50, 50}, {50, 150}}, {false, true}, 1000);
    CHECK(find_prop(down.level, 1001)->look.turn == 900);
}

TEST_CASE("what is drawn in a foot is its shape", "[dress]") {
    Yard s;
    level::PropKind k = *s.project.prop_kind(s.prop);
    const level::Polygons shape = shape_in_foot(s.project, k);
    REQUIRE_FALSE(shape.empty());
    const Image& art = *s.project.sheet(k.sheet)->image;
    int drawn = 0;
    for (int y = k.foot.y; y < k.foot.bottom(); ++y)
        for (int x = k.foot.x; x < k.foot.right(); ++x) drawn += art.at(k.box.x + x, k.box.y + y).a >= 128;
    double area = 0;
    for (const level::Polygon& p : shape) area += static_cast<double>(level::area2(p)) / 2;
    CHECK(std::abs(area - drawn) <= 0.2 * drawn + 4);
    k.foot = {};
    CHECK(shape_in_foot(s.project, k).empty());
}
