// Recipes carried out: areas, passes, how many, clumps, what was done by hand.
#include <algorithm>
#include <catch2/catch.hpp>
#include <cmath>
#include <map>
#include <set>

#include "base/error.hpp"
#include "edit/plant.hpp"
#include "edit/recipe_text.hpp"
#include "edit/reshape.hpp"
#include "edit/sheets.hpp"
#include "edit/stroke.hpp"
#include "level/standing.hpp"
#include "plant/area.hpp"
#include "plant/bed.hpp"
#include "plant/grow.hpp"
#include "store/project_files.hpp"
#include "support/hands.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::plant;
using level::AreaJoin;
using level::AreaOf;
using level::AreaTerm;
using level::Covers;
using plant_test::Bed;

namespace {

double nearest(const std::vector<level::Prop>& all, const level::Prop& p) {
    double out = 1e9;
    for (const level::Prop& q : all)
        if (!(q.at == p.at)) out = std::min(out, std::hypot(q.at.x - p.at.x, q.at.y - p.at.y));
    return out;
}

} // namespace

TEST_CASE("distances are those that one gets by looking at every other sample", "[plant][area]") {
    make::Random random(2);
    for (int round = 0; round < 30; ++round) {
        const Size size{1 + random.below(30), 1 + random.below(30)};
        std::vector<std::uint8_t> set(static_cast<std::size_t>(size.area()));
        for (auto& s : set) s = random.flip(0.1 + 0.03 * round) ? 1 : 0;
        const std::vector<float> away = distances(set, size);
        for (int y = 0; y < size.h; ++y)
            for (int x = 0; x < size.w; ++x) {
                const auto at = [&](int u, int v) { return set[static_cast<std::size_t>(v * size.w + u)] != 0; };
                double least = std::numeric_limits<double>::infinity();
                for (int v = 0; v < size.h; ++v)
                    for (int u = 0; u < size.w; ++u)
                        if (at(u, v) != at(x, y)) least = std::min(least, std::hypot(u - x, v - y));
                const double is = away[static_cast<std::size_t>(y * size.w + x)];
                if (std::isinf(least))
                    REQUIRE(std::isinf(is));
                else
                    REQUIRE(is == Approx(at(x, y) ? -least : least));
            }
        // As far as one asks, on the sides that one asks for.
        for (const int within : {1, 4, 11, 60})
            for (const int sides : {1, 2, 3}) {
                const std::vector<float> some = distances_within(set, size, within, sides & 1, sides & 2);
                int wrong = 0;
                for (std::size_t i = 0; i < some.size(); ++i) {
                    const bool known = std::abs(away[i]) <= static_cast<float>(within) &&
                                       (away[i] < 0 ? (sides & 1) != 0 : (sides & 2) != 0);
                    wrong += known ? some[i] != away[i] : !std::isinf(some[i]) || (some[i] < 0) != (set[i] != 0);
                }
                CHECK(wrong == 0);
            }
    }
}

TEST_CASE("passes run in order, each off the feet of those before", "[plant]") {
    Bed b;
    b.pass({{b.tree}}, 40);
    b.pass({{b.stone}}).covers = {Covers::How::part, 30};
    b.pass({{b.herb}});
    const Grown all = b.grown();
    REQUIRE(all.passes.size() == 3);
    for (const PassGrown& p : all.passes) CHECK(p.count > 10);
    CHECK(all.passes[0].nearest >= 40);
    const level::PropKinds kinds(b.project);
    int off_bed = 0, on_feet = 0;
    for (std::size_t i = 0; i < all.props.size(); ++i) {
        off_bed += b.on_bed(all.props[i].at) ? 0 : 1;
        for (std::size_t k = 0; k < i; ++k) {
            if (all.props[i].pass == all.props[k].pass) continue;
            const Box foot = kinds.foot_box(all.props[k]);
            const Point middle{foot.x + foot.w / 2, foot.y + foot.h / 2};
            const double wide = kinds.find(all.props[i].kind)->foot.w;
            on_feet +=
                std::hypot(middle.x - all.props[i].at.x, middle.y - all.props[i].at.y) < (foot.w + wide) / 2 - 1e-9 ? 1
                                                                                                                    : 0;
        }
    }
    CHECK(off_bed == 0);
    CHECK(on_feet == 0);
    // However far apart from each other: off others it is feet that count.
    level::Planting& sparse = b.recipe();
    sparse.passes[2].apart = 150;
    CHECK(b.grown().passes[2].count > 8);
    sparse.passes[2].apart = 0;
    // Without the stones the trees stand where they did, and herbs take their room.
    b.recipe().passes[1].muted = true;
    const Grown less = b.grown();
    CHECK(less.passes[0].count == all.passes[0].count);
    CHECK(less.passes[1].count == 0);
    CHECK(less.passes[2].count > all.passes[2].count);
    CHECK(std::equal(all.props.begin(), all.props.begin() + all.passes[0].count, less.props.begin()));
}

TEST_CASE("how many: a share of full, of the area, on a hundred cells, and evenly", "[plant]") {
    Bed b; // 1200 cells
    b.pass({{b.herb}}, 6);
    const int full = b.grown().passes[0].count;
    level::Pass& pass = b.recipe().passes[0];
    pass.covers = {Covers::How::part, 25};
    CHECK(b.grown().passes[0].count == Approx(full * 0.25).epsilon(0.1));
    pass.covers = {Covers::How::per_cells, 50};
    const Grown some = b.grown();
    CHECK(some.passes[0].count == Approx(600).epsilon(0.12));
    pass.covers = {Covers::How::area, 10};
    CHECK(b.grown().passes[0].covers == Approx(0.10).epsilon(0.12));
    pass.covers = {Covers::How::per_cells, 50};
    pass.even = true;
    const Grown even = b.grown();
    CHECK(even.passes[0].count == Approx(600).epsilon(0.12));
    CHECK(even.passes[0].nearest > 1.5 * some.passes[0].nearest);
}

TEST_CASE("clumps: in groups, no more in one than asked, of one kind", "[plant]") {
    Bed b;
    level::Pass& pass = b.pass({{b.herb}, {b.stone}}, 8);
    pass.clumps = {60, 160, 0, true};
    const Grown grown = b.grown();
    REQUIRE(grown.props.size() > 60);
    // Those near to each other are of one kind.
    int same = 0, other = 0;
    for (const level::Prop& p : grown.props)
        for (const level::Prop& q : grown.props)
            if (!(p.at == q.at) && std::hypot(p.at.x - q.at.x, p.at.y - q.at.y) < 20)
                (p.kind == q.kind ? same : other) += 1;
    CHECK(same > 50 * std::max(1, other));
    std::set<level::PropKindId> kinds;
    for (const level::Prop& p : grown.props) kinds.insert(p.kind);
    CHECK(kinds.size() == 2);
    // Most of the bed stays empty.
    b.recipe().passes[0].clumps = {};
    CHECK(b.grown().props.size() > 3 * grown.props.size());
    b.recipe().passes[0].clumps = {60, 160, 5, false};
    const Grown few = b.grown();
    CHECK(few.props.size() < grown.props.size() / 2);
    for (const level::Prop& p : few.props) {
        int around = 0;
        for (const level::Prop& q : few.props) around += std::hypot(p.at.x - q.at.x, p.at.y - q.at.y) < 30;
        REQUIRE(around <= 10); // those of two clumps at most
    }
}

TEST_CASE("areas: near, clear of, within, without, of pictures and of what was painted", "[plant][area]") {
    Bed b;
    b.lay(2, {28, 10, 2, 30}); // a creek
    b.pass({{b.herb}}, 6);
    const auto near_creek = [&](Point p) { return p.x >= 28 * 16 - 32 - 4 && p.x < 30 * 16 + 32 + 4; };
    SECTION("within two cells of the creek, on the bed") {
        b.recipe().area.push_back({.of = AreaOf::material, .material = 2, .to = 32});
        const Grown g = b.grown();
        REQUIRE(g.props.size() > 50);
        for (const auto& p : g.props) REQUIRE((b.on_bed(p.at) && near_creek(p.at)));
    }
    SECTION("clear of it, said by the pass") {
        b.recipe().passes[0].where = {{.of = AreaOf::material, .join = AreaJoin::without, .material = 2, .to = 32}};
        const Grown g = b.grown();
        REQUIRE(g.props.size() > 50);
        for (const auto& p : g.props) REQUIRE_FALSE((p.at.x >= 28 * 16 - 28 && p.at.x < 30 * 16 + 28));
    }
    SECTION("on any layer a material counts where nothing lies over it") {
        b.recipe().area = {{.of = AreaOf::material, .material = 1}};
        const Grown all = b.grown();
        const join::Rules rules(b.project);
        level::Layer boards;
        boards.id = 990;
        boards.name = "Boards";
        boards.content = level::empty_content(level::LayerKind::tiles, b.level.size);
        b.level.layers.insert(b.level.layers.begin() + 1, std::make_shared<const level::Layer>(boards));
        ++b.level.plane;
        b.level = edit::lay(b.project, rules, b.level, 990, make::material(2), level::Region(Box{10, 20, 40, 3})).level;
        const Grown less = b.grown();
        CHECK(less.props.size() < all.props.size());
        for (const auto& p : less.props) REQUIRE_FALSE((p.at.y >= 20 * 16 && p.at.y < 23 * 16));
        b.recipe().area[0].layer = b.ground;
        CHECK(b.grown().props.size() == all.props.size());
    }
    SECTION("well inside the bed, and its rim") {
        b.recipe().area[0].to = -48;
        for (const auto& p : b.grown().props)
            REQUIRE((p.at.x >= 10 * 16 + 46 && p.at.y >= 10 * 16 + 46 && p.at.y < 40 * 16 - 46));
        b.recipe().area[0].from = -16;
        b.recipe().area[0].to = 0;
        const Grown rim = b.grown();
        REQUIRE(rim.props.size() > 50);
        for (const auto& p : rim.props)
            REQUIRE((p.at.x < 12 * 16 || p.at.x >= 48 * 16 || p.at.y < 12 * 16 || p.at.y >= 38 * 16 ||
                     (p.at.x >= 26 * 16 && p.at.x < 32 * 16)));
    }
    SECTION("what is painted, softly") {
        b.recipe().area.clear();
        edit::dab(b.recipe(), b.level.cell, {400, 300}, 120, 0, 100, edit::PlantBrush::plant);
        const Grown soft = b.grown();
        int in = 0, out = 0;
        for (const auto& p : soft.props) {
            const double d = std::hypot(p.at.x - 400, p.at.y - 300);
            REQUIRE(d < 126);
            (d < 60 ? in : out) += 1;
        }
        CHECK(in > 40);
        CHECK(out < 3 * in); // the ring is three times as large, and thin
        edit::dab(b.recipe(), b.level.cell, {400, 300}, 40, 100, 100, edit::PlantBrush::clear);
        for (const auto& p : b.grown().props) REQUIRE(std::hypot(p.at.x - 400, p.at.y - 300) > 34);
    }
    SECTION("marks, placed props, earlier passes, and what blocks") {
        b.level.marks = {{900, "here", level::MarkKind::note, {20, 20, 2, 2}}};
        b.recipe().area = {{.of = AreaOf::marks, .to = 40}};
        for (const auto& p : b.grown().props)
            REQUIRE((p.at.x >= 320 - 44 && p.at.x < 352 + 44 && p.at.y >= 320 - 44 && p.at.y < 352 + 44));
        b.level.edit(b.Small::props).props() = level::Props({{901, b.stone, {640, 400}}});
        b.recipe().area = {{.of = AreaOf::props, .kind = b.stone, .to = 30}};
        const Grown around = b.grown();
        REQUIRE(around.props.size() > 5);
        for (const auto& p : around.props) REQUIRE(std::hypot(p.at.x - 640, p.at.y - 400) < 50);
        level::Planting& recipe = b.recipe();
        recipe.area = {{.of = AreaOf::everywhere}};
        recipe.passes.insert(recipe.passes.begin(), level::Pass{});
        recipe.passes[0].kinds = {{b.tree}};
        recipe.passes[0].apart = 200;
        recipe.passes[1].where = {{.of = AreaOf::pass, .pass = 0, .to = 24}};
        const Grown under = b.grown();
        for (const auto& p : under.props)
            if (p.pass == 2) {
                std::vector<level::Prop> trees;
                for (const auto& t : under.props)
                    if (t.pass == 1) trees.push_back(t);
                REQUIRE(nearest(trees, p) < 32);
            }
    }
    SECTION("a picture's brightness") {
        Image grey({60, 50});
        for (int y = 0; y < 50; ++y)
            for (int x = 0; x < 60; ++x) grey.set(x, y, x < 30 ? Rgba{0, 0, 0, 255} : Rgba{255, 255, 255, 255});
        level::SheetId sheet = 0;
        b.project = edit::add_sheet(b.project, "sheets/grey.png", grey, "Grey", {{16, 16}, {}, {}, 1}, true, sheet);
        b.recipe().area.push_back({.of = AreaOf::picture, .sheet = sheet});
        const Grown g = b.grown();
        REQUIRE(g.props.size() > 50);
        for (const auto& p : g.props) REQUIRE(p.at.x >= 480);
    }
}

TEST_CASE("tops of what blocks, from the side", "[plant][area]") {
    Bed b;
    for (const auto& l : b.level.layers)
        if (l->id == b.ground) b.level.edit(l->id).tiles()->solid = true;
    b.recipe().area = {{.of = AreaOf::tops}};
    b.pass({{b.herb}}, 10);
    const Grown g = b.grown();
    REQUIRE(g.props.size() > 10);
    for (const auto& p : g.props) {
        const Point cell = b.level.geometry().cell_at(p.at);
        REQUIRE(b.level.layer(b.ground)->grid().material(cell) == 0);
        REQUIRE(b.level.layer(b.ground)->grid().material(cell + Point{0, 1}) == 1);
        REQUIRE(p.at.y >= cell.y * 16 + 12);
    }
}

TEST_CASE("small at the rim and large inside, turned and tinted as the pass says", "[plant]") {
    Bed b;
    level::Pass& pass = b.pass({{b.stone}}, 10);
    pass.rim = 40;
    pass.rim_wide = 64;
    pass.least_turn = -100;
    pass.most_turn = 100;
    pass.least_light = -20;
    pass.most_light = 0;
    pass.opacity = 50;
    const Grown g = b.grown();
    double inner = 0, outer = 0;
    int inside = 0, outside = 0;
    for (const auto& p : g.props) {
        const int d = std::min({p.at.x - 160, 800 - p.at.x, p.at.y - 160, 640 - p.at.y});
        if (d > 70) inner += p.look.scale, ++inside;
        if (d < 16) outer += p.look.scale, ++outside;
        REQUIRE((p.look.turn <= 100 || p.look.turn >= 3500));
        REQUIRE((p.look.light >= -20 && p.look.light <= 0));
        REQUIRE(p.look.opacity == 50);
    }
    CHECK(inner / inside > 95);
    CHECK(outer / outside < 65);
}

TEST_CASE("what is done by hand survives a thousand changes and runs", "[plant][hand]") {
    Bed b;
    b.pass({{b.tree}}, 40);
    b.pass({{b.herb}}, 12);
    b.plant();
    make::Random random(4);
    std::map<level::PropId, level::Prop> kept;
    std::vector<Point> gone;
    for (int step = 0; step < 1000; ++step) {
        const std::vector<level::Prop> all = b.props();
        level::Level next = b.level;
        const level::Prop p = all[static_cast<std::size_t>(random.below(static_cast<int>(all.size())))];
        const int what = random.below(4);
        if (what == 0) {
            level::Prop moved = p;
            moved.at = moved.at + Point{random.below(21) - 10, random.below(21) - 10};
            next.edit(b.layer).props().put(moved);
        } else if (what == 1) {
            level::Prop swapped = p;
            swapped.kind = b.stone;
            next.edit(b.layer).props().put(swapped);
        } else if (what == 2 && all.size() > 100) {
            next.edit(b.layer).props().remove(p.id);
        } else {
            next.edit(b.layer).props().put(
                {b.project.next_id++, b.herb, {200 + random.below(500), 200 + random.below(300)}});
        }
        edit::keep_by_hand(b.project, b.level, next);
        for (const level::Prop& q : next.layer(b.layer)->props())
            if (q.pass == 0) kept[q.id] = q;
        if (what == 2 && all.size() > 100) {
            if (p.pass != 0) gone.push_back(p.at);
            kept.erase(p.id);
        }
        b.level = std::move(next);
        if (step % 50 == 0) b.plant();
    }
    b.plant();
    const std::vector<level::Prop> all = b.props();
    CHECK(kept.size() > 300);
    for (const auto& [id, p] : kept) {
        const level::Prop* is = b.level.layer(b.layer)->props().find(id);
        REQUIRE(is);
        REQUIRE(*is == p);
    }
    REQUIRE(gone.size() > 50);
    for (const level::Prop& p : all)
        if (p.pass != 0)
            for (const Point g : gone) REQUIRE_FALSE(p.at == g);
    // Forgotten, it is as it was in the beginning.
    b.level = edit::forget_by_hand(b.level, b.layer);
    b.plant();
    Bed fresh;
    fresh.pass({{fresh.tree}}, 40);
    fresh.pass({{fresh.herb}}, 12);
    fresh.plant();
    const auto places = [](const std::vector<level::Prop>& props) {
        std::set<std::tuple<int, int, level::PropKindId>> out;
        for (const auto& p : props) out.insert({p.at.x, p.at.y, p.kind});
        return out;
    };
    CHECK(places(b.props()) == places(fresh.props()));
}

TEST_CASE("one placed by hand pushes the planting aside, and it flows back", "[plant][hand]") {
    Bed b;
    b.pass({{b.herb}}, 8);
    b.plant();
    const std::vector<level::Prop> before = b.props();
    level::Level next = b.level;
    next.edit(b.layer).props().put({1900, b.tree, {480, 400}});
    edit::keep_by_hand(b.project, b.level, next);
    b.level = next;
    b.plant();
    const level::PropKinds kinds(b.project);
    const Box foot = kinds.foot_box(*b.level.layer(b.layer)->props().find(1900));
    for (const level::Prop& p : b.props())
        if (p.id != 1900) REQUIRE_FALSE(foot.contains(p.at));
    CHECK(b.props().size() < before.size());
    // Most of the rest is where it was, with its id.
    int stayed = 0;
    for (const level::Prop& p : before)
        if (const level::Prop* is = b.level.layer(b.layer)->props().find(p.id)) stayed += *is == p;
    CHECK(stayed > static_cast<int>(before.size()) * 9 / 10);
    b.level.edit(b.layer).props().remove(1900);
    b.plant();
    CHECK(b.props().size() == before.size());
}

TEST_CASE("frozen it is plain props, in the same places", "[plant]") {
    Bed b;
    b.pass({{b.herb}}, 20);
    b.plant();
    const level::Level cold = edit::frozen(b.level, b.layer);
    REQUIRE(std::holds_alternative<level::PlacedProps>(cold.layer(b.layer)->content));
    CHECK(cold.layer(b.layer)->props().size() == b.props().size());
    for (const level::Prop& p : cold.layer(b.layer)->props()) CHECK(p.pass == 0);
}

TEST_CASE("what cannot grow says why, and too many are not planted by a slip", "[plant]") {
    Bed b;
    b.pass({});
    b.pass({{b.herb, 0}});
    b.pass({{999}});
    b.pass({{b.herb}}).where = {{.of = AreaOf::marks}};
    b.pass({{b.herb}}, 1000);
    const Grown g = b.grown();
    const auto says = [&](std::size_t i) { return g.passes[i].says.english(); };
    CHECK(says(0) == "It has no props yet");
    CHECK(says(1) == "All its weights are 0");
    CHECK(says(2) == "Its props are gone from the project");
    CHECK(says(3) == "Its area is empty");
    CHECK(says(4) == "They are further apart than the area is wide");
    CHECK(g.passes[4].count == 1);
    b.recipe().passes.clear();
    b.pass({{b.herb}}, 1);
    const Grown many = b.grown();
    CHECK(many.props.empty());
    CHECK(many.wanted > kAskBeyond);
    CHECK(b.grown(kMostGrown).props.size() > kAskBeyond);
    // Nothing is changed.
    const level::Level before = b.level;
    const edit::Planted p = edit::planted(b.project, b.level, b.layer);
    CHECK(p.wanted > kAskBeyond);
    CHECK(p.level.layer(b.layer)->props().size() == before.layer(b.layer)->props().size());
}

TEST_CASE("a recipe comes back from the disk, and moves with its level", "[plant][store]") {
    Bed b;
    level::Pass& pass = b.pass({{b.tree, 30, 50}, {b.herb}});
    pass.covers = {Covers::How::area, 12};
    pass.clumps = {50, 120, 7, true};
    pass.even = true;
    pass.ignores = 0;
    pass.where = {{.of = AreaOf::frame, .join = AreaJoin::without, .to = 90, .falloff = 20}};
    pass.least_scale = 80;
    pass.most_scale = 130;
    pass.rim = 60;
    pass.rim_wide = 48;
    pass.least_turn = -150;
    pass.most_turn = 150;
    pass.mirrors = false;
    pass.least_light = -10;
    pass.most_light = 15;
    pass.opacity = 50;
    pass.tint = {1, 2, 3, 255};
    b.pass({{b.stone}}).ignores = 1;
    b.recipe().passes[1].where = {{.of = AreaOf::pass, .pass = 0, .from = 3, .to = std::nullopt}};
    b.recipe().passes[1].minds_placed = false;
    b.recipe().passes[1].muted = true;
    b.recipe().taken = {{{300, 200}, 9}};
    b.recipe().seed = 77;
    edit::dab(b.recipe(), b.level.cell, {300, 300}, 70, 30, 100, edit::PlantBrush::plant);
    edit::dab(b.recipe(), b.level.cell, {340, 300}, 30, 30, 60, edit::PlantBrush::thin);
    b.plant();
    b.set(b.level);
    make::Folder folder;
    store::save(b.project, folder / "p");
    const level::Project back = store::load(folder / "p");
    const level::Level& read = *back.level(b.id);
    CHECK(read.layer(b.layer)->planted()->recipe == b.recipe());
    CHECK(read.layer(b.layer)->props().all() == b.props());
    // Four cells more to the left and two above: all of it lies so much further.
    const join::Rules rules(b.project);
    const level::Level wider = edit::extended(rules, b.level, {.left = 4, .top = 2});
    const level::Planting& moved = wider.layer(b.layer)->planted()->recipe;
    CHECK(moved.painted.at({(300 + 64) / 4, (300 + 32) / 4}) == b.recipe().painted.at({300 / 4, 300 / 4}));
    CHECK(moved.taken[0].at == Point{364, 232});
}

TEST_CASE("a recipe goes as text to another project, by names", "[plant][recipe]") {
    Bed b;
    level::Pass& pass = b.pass({{b.tree, 30, 50}, {b.herb}});
    pass.where = {{.of = AreaOf::props, .join = AreaJoin::without, .kind = b.stone, .to = 20}};
    b.pass({{b.stone}}, 30).where = {{.of = AreaOf::pass, .pass = 0, .to = 60}};
    const std::string text = edit::recipe_text(b.project, b.level, b.recipe());
    CHECK(edit::recipe_of(b.project, b.level, text) == b.recipe());
    // There trees have another number, and there are no stones.
    Bed other;
    level::PropKind tree = *other.project.prop_kind(other.tree);
    std::erase_if(other.project.prop_kinds, [&](const auto& k) { return k->id == other.tree || k->id == other.stone; });
    tree.id = 850;
    other.project.put(tree);
    const level::Planting there = edit::recipe_of(other.project, other.level, text);
    REQUIRE(there.passes.size() == 2);
    REQUIRE(there.passes[0].kinds.size() == 2);
    CHECK(there.passes[0].kinds[0] == level::PlantKind{850, 30, 50});
    CHECK(there.passes[0].where.empty());
    CHECK(there.passes[1].kinds.empty());
    CHECK(there.passes[1].where.size() == 1);
    CHECK(there.area == b.recipe().area);
    other.recipe() = there;
    CHECK(other.grown().passes[0].count > 10);
    // Without its material it does not grow everywhere.
    level::Project bare = other.project;
    bare.materials.clear();
    const level::Planting nowhere = edit::recipe_of(bare, other.level, text);
    REQUIRE(nowhere.area.size() == 1);
    CHECK(nowhere.area[0].of == AreaOf::painted);
    for (const char* bad : {"", "[1]", "{}", "{\"format\":\"vicinum-recipe\",\"version\":1}",
                            "{\"format\":\"vicinum-recipe\",\"version\":9,\"recipe\":{}}"})
        CHECK_THROWS_AS(edit::recipe_of(b.project, b.level, bad), InputError);
}

TEST_CASE("what looks at a pass follows it when the order changes or one goes", "[plant][order]") {
    const auto named = [](const char* name) {
        level::Pass p;
        p.name = name;
        return p;
    };
    level::Planting recipe;
    recipe.passes = {named("trees"), named("stones"), named("herbs"), named("twigs")};
    recipe.passes[2].where = {{.of = AreaOf::pass, .pass = 0, .to = 30}};
    recipe.passes[3].where = {{.of = AreaOf::pass, .pass = 2, .to = 9}};
    recipe.passes[3].ignores = 0b110; // stones and herbs
    level::Planting swapped = recipe;
    edit::swap_passes(swapped, 0, 1);
    CHECK(swapped.passes[0].name == "stones");
    CHECK(swapped.passes[2].where[0].pass == 1);
    CHECK(swapped.passes[3].where[0].pass == 2);
    CHECK(swapped.passes[3].ignores == 0b101);
    // Herbs before the trees can look at them no more; twigs still find the herbs.
    level::Planting ahead = recipe;
    edit::swap_passes(ahead, 0, 2);
    CHECK(ahead.passes[0].where.empty());
    REQUIRE(ahead.passes[3].where.size() == 1);
    CHECK(ahead.passes[3].where[0].pass == 0);
    level::Planting less = recipe;
    edit::remove_pass(less, 0);
    CHECK(less.passes[1].where.empty());
    CHECK(less.passes[2].where[0].pass == 1);
    CHECK(less.passes[2].ignores == 0b011);
}
