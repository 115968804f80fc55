#include <catch2/catch.hpp>

#include "edit/document.hpp"
#include "edit/fill.hpp"
#include "edit/levels.hpp"
#include "edit/sheets.hpp"
#include "edit/stroke.hpp"
#include "picture/compose.hpp"
#include "store/project_files.hpp"
#include "support/hands.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::edit;
using level::LayerKind;

namespace {} // namespace

TEST_CASE("undo and redo go through every state and back", "[document]") {
    make::Small small;
    Document doc(small.project, "/nowhere");
    make::Random random(2);
    std::vector<ProjectState> states{doc.state()};
    for (int i = 0; i < 40; ++i) {
        level::Project p = doc.project();
        p.name = "state " + std::to_string(i);
        doc.apply("step " + std::to_string(i), std::move(p));
        states.push_back(doc.state());
    }
    std::size_t at = states.size() - 1;
    for (int i = 0; i < 300; ++i) {
        if (random.flip()) {
            CHECK(doc.can_undo() == (at > 0));
            if (at > 0) CHECK(doc.undo_name() == "step " + std::to_string(at - 1));
            doc.undo();
            at -= at > 0;
        } else {
            CHECK(doc.can_redo() == (at + 1 < states.size()));
            doc.redo();
            at += at + 1 < states.size();
        }
        REQUIRE(doc.state() == states[at]);
    }
    while (doc.can_undo()) doc.undo();
    level::Project p = doc.project();
    doc.apply("another way", p);
    CHECK_FALSE(doc.can_redo());
    CHECK(doc.unsaved());
}

TEST_CASE("steps with one merge key are one step", "[document]") {
    make::Small small;
    Document doc(small.project, "/nowhere");
    const auto before = doc.state();
    for (int i = 0; i < 10; ++i) doc.apply("slide", doc.project(), "opacity");
    doc.apply("other", doc.project(), "else");
    doc.undo();
    CHECK(doc.can_undo());
    doc.undo();
    CHECK(doc.state() == before);
    // After an undo nothing is merged into the past.
    doc.apply("slide", doc.project(), "opacity");
    doc.undo();
    doc.apply("slide", doc.project(), "opacity");
    doc.undo();
    CHECK(doc.state() == before);
}

TEST_CASE("a document knows whether it is saved", "[document]") {
    make::Folder dir;
    make::Small small;
    make::save_with_pictures(small.project, dir.path());
    Document doc = Document::open(dir.path());
    CHECK_FALSE(doc.unsaved());
    level::Project p = doc.project();
    p.name = "Changed";
    doc.apply("rename", p);
    CHECK(doc.unsaved());
    doc.undo();
    CHECK_FALSE(doc.unsaved());
    doc.redo();
    doc.save();
    CHECK_FALSE(doc.unsaved());
    CHECK(store::load(dir.path()).name == "Changed");
    doc.undo();
    CHECK(doc.unsaved());
}

TEST_CASE("lines have no gap and boxes no hole", "[stroke]") {
    make::Random random(1);
    for (int i = 0; i < 200; ++i) {
        const Point a{random.below(40) - 20, random.below(40) - 20}, b{random.below(40) - 20, random.below(40) - 20};
        const auto cells = line_cells(a, b);
        CHECK(cells.front() == a);
        CHECK(cells.back() == b);
        CHECK(static_cast<int>(cells.size()) == std::max(std::abs(a.x - b.x), std::abs(a.y - b.y)) + 1);
        for (std::size_t k = 1; k < cells.size(); ++k)
            CHECK(std::max(std::abs(cells[k].x - cells[k - 1].x), std::abs(cells[k].y - cells[k - 1].y)) == 1);
    }
    CHECK(pencil_cells({5, 5}, 1) == std::vector<Point>{{5, 5}});
    CHECK(pencil_cells({5, 5}, 3).size() == 9);
    CHECK(pencil_cells({5, 5}, 3).front() == Point{4, 4});
    CHECK(pencil_cells({5, 5}, 2).front() == Point{5, 5});
}

TEST_CASE("laying joins the neighbours and says how many", "[stroke]") {
    make::Small small;
    const join::Rules rules(small.project);
    const Point one[] = {{10, 10}};
    Laid laid = lay(small.project, rules, small.level(), small.ground, make::material(1), one);
    CHECK(laid.joined == 0);
    CHECK(laid.touched == Box{9, 9, 3, 3});
    const Point next[] = {{11, 10}};
    laid = lay(small.project, rules, laid.level, small.ground, make::material(1), next);
    CHECK(laid.joined == 1);
    CHECK(small.level().layer(small.ground)->grid().count() == 0); // the level it was given is as it was
    const Point outside[] = {{-1, 0}, {40, 5}};
    laid = lay(small.project, rules, laid.level, small.ground, make::material(1), outside);
    CHECK(laid.touched.empty());
}

TEST_CASE("pinned cells stay when their material is painted over them", "[stroke]") {
    make::Small small;
    const join::Rules rules(small.project);
    level::Level level = small.level();
    const Point spot[] = {{10, 10}};
    level = lay(small.project, rules, level, small.ground, make::laying(3, {2}), spot).level;
    const level::Cell pinned = level.layer(small.ground)->grid().cell({10, 10});
    CHECK(pinned.pinned());
    CHECK(pinned.turn().code == 2);
    CHECK(level.layer(small.ground)->grid().material({10, 10}) == 1); // the tile serves the rock: neighbours join it
    level = lay(small.project, rules, level, small.ground, make::material(1), box_cells({8, 8, 5, 5})).level;
    CHECK(level.layer(small.ground)->grid().cell({10, 10}) == pinned);
    // The middle of the left neighbour's mask is full: it joins the pinned cell.
    CHECK(level.layer(small.ground)->grid().cell({9, 10}).tile() ==
          small.project.material(1)->joins.cases.at(255).front().tile);
    level = lay(small.project, rules, level, small.ground, make::material(2), spot).level;
    CHECK_FALSE(level.layer(small.ground)->grid().cell({10, 10}).pinned());
    level = lay(small.project, rules, level, small.ground, make::eraser(), spot).level;
    CHECK(level.layer(small.ground)->grid().cell({10, 10}).empty());
}

TEST_CASE("what is laid goes home, and obstacles are named", "[stroke]") {
    make::Small small;
    level::Level level = small.level();
    CHECK(target_of(small.project, level, make::material(1), small.ground, false).layer == small.ground);
    level::Material rock = *small.project.material(1);
    rock.homes = {99999, small.front};
    small.project.put(rock);
    Target t = target_of(small.project, level, make::material(1), small.ground, false);
    CHECK(t.layer == small.front);
    CHECK(t.went_home);
    CHECK(target_of(small.project, level, make::material(1), small.ground, true).layer == small.ground);
    CHECK(target_of(small.project, level, make::laying(3), small.ground, false).layer ==
          small.front); // a tile goes where its material does
    small.project = change_tiles(small.project, {3}, [&](level::Tile& one) { one.homes = {small.ground}; });
    CHECK(target_of(small.project, level, make::laying(3), small.front, false).layer == small.ground);

    level.edit(small.front).locked = true;
    CHECK(target_of(small.project, level, make::material(1), small.ground, false).obstacle == Obstacle::locked);
    level.edit(small.front).locked = false;
    level.edit(small.front).shown = false;
    CHECK(target_of(small.project, level, make::material(1), small.ground, false).obstacle == Obstacle::hidden);
    CHECK(target_of(small.project, level, make::material(2), small.props, false).obstacle == Obstacle::wrong_kind);
    CHECK(target_of(small.project, level, make::material(2), 12345, false).obstacle == Obstacle::no_layer);
    Hand prop{held::Prop{small.prop}};
    t = target_of(small.project, level, prop, small.ground, false);
    CHECK(t.layer == small.props);
    CHECK(t.obstacle == Obstacle::none);
}

TEST_CASE("picking up gives what lies there, of the active layer first", "[stroke]") {
    make::Small small;
    const join::Rules rules(small.project);
    level::Level level = small.level();
    const Point a[] = {{5, 5}}, b[] = {{6, 5}};
    level = lay(small.project, rules, level, small.ground, make::material(1), a).level;
    level = lay(small.project, rules, level, small.front, make::laying(7, {3}), a).level;
    level = lay(small.project, rules, level, small.ground, make::material(2), b).level;
    CHECK(pick(small.project, level, {5, 5}, 0)->hand == make::laying(7, {3}));
    CHECK(pick(small.project, level, {5, 5}, small.ground)->hand == make::material(1));
    CHECK(pick(small.project, level, {6, 5}, small.front)->layer == small.ground);
    CHECK_FALSE(pick(small.project, level, {20, 20}, small.ground));
    level.edit(small.front).shown = false;
    CHECK(pick(small.project, level, {5, 5}, 0)->hand == make::material(1));
    CHECK(name_at(small.project, *level.layer(small.ground), {6, 5}).english() == "Sand");
    CHECK(name_at(small.project, *level.layer(small.front), {5, 5}).english() == "tile 7");
    CHECK(name_at(small.project, *level.layer(small.ground), {30, 20}).empty());
}

TEST_CASE("moving entries of the Section keeps all layers and the plane's place among them", "[levels]") {
    make::Small small;
    make::Random random(7);
    level::Level level = small.level();
    for (std::uint32_t i = 0; i < 4; ++i)
        level = add_layer(level, 600 + i, "L", LayerKind::tiles, i % 2 ? small.ground : small.front);
    const auto ids = [](const level::Level& l) {
        std::vector<level::LayerId> out;
        for (const SectionEntry e : section_order(l)) out.push_back(e.layer);
        return out;
    };
    for (int i = 0; i < 300; ++i) {
        auto wanted = ids(level);
        const int from = random.below(static_cast<int>(wanted.size())),
                  to = random.below(static_cast<int>(wanted.size()));
        const auto moved = wanted[static_cast<std::size_t>(from)];
        wanted.erase(wanted.begin() + from);
        wanted.insert(wanted.begin() + to, moved);
        level = move_entry(level, from, to);
        REQUIRE(ids(level) == wanted);
    }
}

TEST_CASE("a new layer comes in front of the active one, on its side of the walker", "[levels]") {
    make::Small small; // ground, props | front
    level::Level level = add_layer(small.level(), 600, "A", LayerKind::tiles, small.ground);
    CHECK(level.index_of(600) == 1);
    CHECK(level.plane == 3);
    level = add_layer(small.level(), 600, "A", LayerKind::tiles, small.props);
    CHECK(level.index_of(600) == 2);
    CHECK(level.plane == 3);
    level = add_layer(small.level(), 600, "A", LayerKind::tiles, small.front);
    CHECK(level.index_of(600) == 3);
    CHECK(level.plane == 2);
    level = add_layer(small.level(), 600, "Sky", LayerKind::backdrop, 0);
    CHECK(level.index_of(600) == 0);
    CHECK(level.plane == 3);
    level = remove_layer(level, 600);
    CHECK(level.plane == 2);
    CHECK(level.layers.size() == 3);
    CHECK(remove_layer(level, 4711).layers.size() == 3);
}

TEST_CASE("props are placed, hit where they are opaque, moved and removed", "[levels]") {
    make::Small small;
    level::Level level = add_prop(small.level(), small.props, {900, small.prop, {100, 100}, {false}});
    level = add_prop(level, small.props, {901, small.prop, {100, 104}, {false}});
    const auto hit = prop_at(small.project, level, {100, 98});
    REQUIRE(hit);
    CHECK(hit->prop.id == 901); // stands further down, so in front
    CHECK(hit->layer == small.props);
    CHECK_FALSE(prop_at(small.project, level, {300, 300}));
    level = move_prop(level, 901, {300, 300});
    CHECK(prop_at(small.project, level, {100, 98})->prop.id == 900);
    CHECK(prop_at(small.project, level, {300, 299})->prop.id == 901);
    level::Level locked = level;
    locked.edit(small.props).locked = true;
    CHECK_FALSE(prop_at(small.project, locked, {100, 98}));
    level = remove_prop(level, 900);
    CHECK(prop_count(level) == 1);
    CHECK(snapped(level, {100, 100}) == Point{104, 111});
    CHECK(snapped(level, {-1, -1}) == Point{-8, -1});
}

TEST_CASE("marks are placed, moved within the level and removed; there is one start", "[levels]") {
    make::Small small;
    level::Level level = place_mark(small.level(), 900, level::MarkKind::start, "Start", {3, 4});
    level = place_mark(level, 901, level::MarkKind::exit, "Exit", {9, 9});
    level = place_mark(level, 902, level::MarkKind::exit, "Other", {10, 9});
    level = place_mark(level, 903, level::MarkKind::start, "Start", {5, 6});
    REQUIRE(level.marks.size() == 3);
    CHECK(level.first_mark(level::MarkKind::start)->id == 903);
    CHECK(mark_at(level, {5, 6})->id == 903);
    CHECK(mark_at(level, {3, 4}) == nullptr);
    level = move_mark(level, 901, {100, -7});
    CHECK(mark_at(level, {39, 0})->id == 901);
    level = remove_mark(level, 901);
    CHECK(mark_at(level, {39, 0}) == nullptr);
    CHECK(remove_mark(level, 12345).marks == level.marks);
}

TEST_CASE("a prop's pivot and foot are proposed from its lowest pixels", "[sheets]") {
    Image image({40, 40});
    for (int y = 4; y < 30; ++y)
        for (int x = 12; x < 20; ++x) image.set(x, y, {9, 9, 9, 255});
    for (int x = 4; x < 34; ++x) image.set(x, 8, {9, 9, 9, 255}); // arms, high up
    level::Sheet s;
    s.id = 1;
    s.image = std::make_shared<const Image>(image);
    const level::PropKind k = propose_prop(s, {0, 0, 40, 40}, 5, "Post");
    CHECK(k.pivot == Point{16, 29});
    CHECK(k.foot.x == 12);
    CHECK(k.foot.w == 8);
    CHECK(k.foot.bottom() == 30);
    const level::PropKind blank = propose_prop(s, {36, 36, 4, 4}, 6, "Nothing");
    CHECK(blank.foot.w == 4);
}

TEST_CASE("a sheet is added, cut anew and read without losing what was said of its tiles", "[sheets]") {
    level::Project p;
    level::SheetId id = 0;
    const auto& masks = join::cases(level::JoinKind::full);
    p = add_sheet(std::move(p), "sheets/a.png",
                  make::sheet(make::tiles(masks, 16, make::Style::outlined, 1), 8, {}, {}), "A", {{32, 32}, {}, {}, 1},
                  false, id);
    CHECK(p.sheet(id)->tiles.size() == 12);
    p = recut_sheet(std::move(p), id, {{16, 16}, {}, {}, 1}, true);
    CHECK(p.sheet(id)->accepted);
    REQUIRE(p.sheet(id)->tiles.size() == 48);
    CHECK(p.sheet(id)->tiles[47].blank);
    level::MaterialId m = 0;
    const auto reading = join::read_joins(tile_pictures(*p.sheet(id)), level::JoinKind::full);
    p = add_material(p, *p.sheet(id), level::JoinKind::full, reading, "A", m);
    CHECK(join::coverage(p.material(m)->joins).have == 47);
    for (std::size_t i = 0; i < masks.size(); ++i)
        CHECK(p.material(m)->joins.cases.at(masks[i]).front().tile == p.sheet(id)->tiles[i].id);
    level::MaterialId other = 0;
    p = add_material(p, *p.sheet(id), level::JoinKind::plain, {}, "A", other);
    CHECK(p.material(other)->name == "A 2");
    CHECK(p.material(other)->joins.cases.at(255).size() == 47); // blank ones are no variants
    p = set_case(std::move(p), m, 0, {});
    CHECK(join::coverage(p.material(m)->joins).have == 46);
}

TEST_CASE("after a rule has changed the levels are joined anew, pinned cells excepted", "[sheets]") {
    make::Small small;
    const join::Rules rules(small.project);
    const Point spots[] = {{5, 5}};
    small.set(lay(small.project, rules, small.level(), small.ground, make::material(1), spots).level);
    const Point pin[] = {{20, 20}};
    small.set(lay(small.project, rules, small.level(), small.ground, make::laying(1), pin).level);
    CHECK(small.level().layer(small.ground)->grid().cell({5, 5}).tile() == 1);
    small.project = rejoin(set_case(small.project, 1, 0, {{30, 100, {}}}));
    CHECK(small.level().layer(small.ground)->grid().cell({5, 5}).tile() == 30);
    CHECK(small.level().layer(small.ground)->grid().cell({20, 20}).tile() == 1);
    const auto before = small.project.levels[0];
    small.project = rejoin(small.project);
    CHECK(small.project.levels[0] == before); // nothing to do, nothing changed
}

TEST_CASE("a duplicate's layers name one another, and are home to what the others are", "[levels]") {
    make::Small small;
    level::Level now = small.level();
    now.edit(small.front).tiles()->overlay_of = small.ground;
    small.set(now);
    level::Material m = *small.project.materials[0];
    m.homes = {small.ground};
    small.project.put(m);
    const level::Level copy = duplicate(small.project, small.level(), "Place");
    CHECK(copy.layers[2]->overlay_of() == copy.layers[0]->id);
    CHECK(small.project.materials[0]->homes == std::vector<level::LayerId>{small.ground, copy.layers[0]->id});
    CHECK(level::home_in(copy, small.project.materials[0]->homes) == copy.layers[0]->id);
}

TEST_CASE("a level like another has its layers and nothing on them", "[levels]") {
    make::Small rich = make::rich(5);
    const level::Level& old = rich.level();
    const level::Level made = level_like(rich.project, old, "Another", {12, 7});
    CHECK(made.size == Size{12, 7});
    CHECK(made.cell == old.cell);
    CHECK(made.walker == old.walker);
    CHECK(made.frame == old.frame);
    CHECK(made.marks.empty());
    CHECK_FALSE(made.plan);
    REQUIRE(made.layers.size() == old.layers.size());
    for (std::size_t i = 0; i < made.layers.size(); ++i) {
        CHECK(made.layers[i]->name == old.layers[i]->name);
        CHECK(made.layers[i]->kind() == old.layers[i]->kind());
        CHECK_FALSE(old.layer(made.layers[i]->id));
        CHECK(made.layers[i]->props().empty());
        if (made.layers[i]->tiles()) CHECK(made.layers[i]->grid().size() == made.layers[i]->grain().cells({12, 7}));
    }
    rich.project.put(made);
    const make::Folder folder;
    make::save_with_pictures(rich.project, folder.path()); // it can be written, and read
    CHECK(store::load(folder.path()).levels.size() == rich.project.levels.size());
}

TEST_CASE("a duplicated level shares nothing by id", "[levels]") {
    make::Small small;
    level::Level level = add_prop(small.level(), small.props, {900, small.prop, {10, 10}, {false}});
    level.marks = {{901, "Start", level::MarkKind::start, {1, 1, 1, 1}}};
    small.project.next_id = 1000;
    small.set(level);
    const level::Level copy = duplicate(small.project, small.level(), "Place");
    CHECK(copy.id == "place-2");
    CHECK(copy.layers[0]->id != level.layers[0]->id);
    CHECK(copy.layers[1]->props().all()[0].id >= 1000);
    CHECK(copy.marks[0].id >= 1000);
    CHECK(copy.marks[0].cells == level.marks[0].cells);
}

TEST_CASE("a fill takes what hangs together and holds the same, as a flood cell by cell does", "[fill]") {
    make::Small small({40, 30});
    make::Random random(19);
    for (int round = 0; round < 30; ++round) {
        level::Level level = small.level();
        auto& grid = level.edit(small.ground).grid();
        for (int y = 0; y < 30; ++y)
            for (int x = 0; x < 40; ++x) {
                const int what = random.below(5);
                if (what < 2) grid.set({x, y}, {}, 1);
                if (what == 2) grid.set({x, y}, level::Cell(7, {2}, true), 1); // by hand: its tile counts
            }
        join::resolve(join::Rules(small.project), grid, level.cells(), small.ground);
        const Point at{random.below(40), random.below(30)};
        const bool corners = random.flip();
        const Box within = random.flip() ? level.cells() : Box{5, 4, 25, 20};
        const auto same = [&](Point p) {
            const level::Cell a = grid.cell(at), b = grid.cell(p);
            const bool painted = grid.material(at) && !a.pinned();
            if (painted) return grid.material(p) == grid.material(at) && !b.pinned();
            return !(grid.material(p) && !b.pinned()) && a.tile() == b.tile() && a.turn() == b.turn();
        };
        std::set<Point> wanted;
        std::vector<Point> open;
        if (within.contains(at)) open.push_back(at);
        while (!open.empty()) {
            const Point p = open.back();
            open.pop_back();
            if (!within.contains(p) || !same(p) || !wanted.insert(p).second) continue;
            for (unsigned i = 0; i < 8; ++i)
                if (corners || i % 2 == 0) open.push_back(p + join::kNeighbour[i]);
        }
        const auto cells = fill_cells(level, small.ground, at, within, {Alike::content, corners, false}).cells();
        CHECK(std::set<Point>(cells.begin(), cells.end()) == wanted);
        CHECK(cells.size() == wanted.size()); // each once
    }
}

TEST_CASE("a line keeps to the lattice's directions, an ellipse to its box", "[fill]") {
    for (int dy = -9; dy <= 9; ++dy)
        for (int dx = -9; dx <= 9; ++dx) {
            const Point end = straight_end({3, 4}, {3 + dx, 4 + dy});
            const int ex = std::abs(end.x - 3), ey = std::abs(end.y - 4);
            CHECK((ex == 0 || ey == 0 || ex == ey));
            CHECK(std::max(ex, ey) == std::max(std::abs(dx), std::abs(dy)));
            CHECK((end.x - 3) * dx >= 0);
            CHECK((end.y - 4) * dy >= 0);
        }
    for (const Size size : {Size{1, 1}, Size{2, 2}, Size{9, 5}, Size{30, 21}}) {
        const auto cells = ellipse_cells({4, 6, size.w, size.h});
        std::set<Point> in(cells.begin(), cells.end());
        Box box;
        for (const Point p : cells) {
            box = united(box, {p.x, p.y, 1, 1});
            // The same seen from the other end, both ways.
            CHECK(in.contains({2 * 4 + size.w - 1 - p.x, p.y}));
            CHECK(in.contains({p.x, 2 * 6 + size.h - 1 - p.y}));
        }
        CHECK(box == Box{4, 6, size.w, size.h});
        const double area = 3.14159265 * size.w * size.h / 4;
        CHECK(std::abs(double(cells.size()) - area) <= 0.12 * area + 1);
    }
}
