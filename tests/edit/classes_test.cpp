// Collision classes that tiles, props and blockers name: what blocks by class, who is stopped, and that it is kept.
#include <algorithm>
#include <catch2/catch.hpp>
#include <set>

#include "edit/areas.hpp"
#include "edit/classes.hpp"
#include "edit/levels.hpp"
#include "edit/sheets.hpp"
#include "level/standing.hpp"
#include "outline/movers.hpp"
#include "outline/trace.hpp"
#include "parcel/build.hpp"
#include "store/format.hpp"
#include "support/make.hpp"

using namespace vic;
using edit::Used;
using edit::UsedKind;

namespace {

Used used_of(const level::Project& project, const level::Level& level, UsedKind kind, std::uint32_t id) {
    for (const Used& used : edit::used_in(project, level))
        if (used.kind == kind && used.id == id) return used;
    FAIL("not used");
    return {};
}

// A level of full and open cells on three layers, with blockers on the cells and free ones as large as cells.
struct Heap : make::Small {
    level::Level level;
    level::LayerId words = 0;
    explicit Heap(unsigned seed) : Small({20, 14}) {
        make::Random random(seed);
        level = Small::level();
        level.edit(props).props() = level::Props();
        const std::string names[] = {"", "", "stone", "planks"};
        std::vector<level::TileId> tiles{10, 11, 12, 13, 14};
        project = edit::change_tiles(std::move(project), tiles, [&](level::Tile& t) {
            t.shape = t.id == 14 ? level::TileShape::opens : level::TileShape::full;
            t.collision_class = names[static_cast<std::size_t>(random.below(4))];
        });
        words = project.next_id++;
        level = edit::add_layer(level, words, "Words", level::LayerKind::blockers, front);
        for (const level::LayerId id : {ground, front}) {
            level.edit(id).tiles()->solid = random.below(4) > 0;
            level.edit(id).collision_class = names[static_cast<std::size_t>(random.below(4))];
            for (int i = 0; i < 120; ++i)
                level.edit(id).grid().set({random.below(20), random.below(14)},
                                          level::Cell(static_cast<level::TileId>(10 + random.below(5))), 0);
        }
        level.edit(words).collision_class = names[static_cast<std::size_t>(random.below(4))];
        for (int i = 0; i < 12; ++i)
            level.edit(words).blockers()->set({random.below(20), random.below(14)},
                                              random.flip() ? level::TileShape::full : level::TileShape::opens);
        std::vector<level::FreeBlocker> free;
        for (level::BlockerId i = 1; i < 9; ++i) {
            const Point at{random.below(18) * 64, random.below(12) * 64};
            level::FreeBlocker b;
            b.id = i;
            b.points = {at, at + Point{128, 0}, at + Point{128, 64}, at + Point{0, 64}};
            b.opens = i == 3;
            b.collision_class = names[static_cast<std::size_t>(random.below(4))];
            free.push_back(std::move(b));
        }
        level.edit(words).blockers()->set_free(std::move(free));
    }
    // Cell by cell, layer by layer, from back to front.
    [[nodiscard]] std::vector<std::uint8_t> one_by_one(const std::set<std::string>& of) const {
        std::vector<std::uint8_t> out(20 * 14);
        const level::TileTable table(project);
        const auto put = [&](Point at, bool opens, const std::string& own, const level::Layer& layer) {
            auto& cell = out[static_cast<std::size_t>(at.y * 20 + at.x)];
            if (opens)
                cell = 0;
            else if (of.contains(own.empty() ? layer.collision_class : own))
                cell = 1;
        };
        for (const level::LayerRef& layer : level.layers) {
            for (int y = 0; y < 14; ++y)
                for (int x = 0; x < 20; ++x) {
                    if (layer->tiles()) {
                        const level::Tile* t = table.find(layer->grid().cell({x, y}).tile()).tile;
                        if (t && t->shape != level::TileShape::none &&
                            (layer->solid() || t->shape == level::TileShape::opens))
                            put({x, y}, t->shape == level::TileShape::opens, t->collision_class, *layer);
                    } else if (layer->blockers() && layer->blockers()->shape({x, y}) != level::TileShape::none) {
                        put({x, y}, layer->blockers()->shape({x, y}) == level::TileShape::opens, {}, *layer);
                    }
                }
            if (!layer->blockers()) continue;
            for (const auto& b : layer->blockers()->free())
                for (int i = 0; i < 2; ++i)
                    put({b.points[0].x / 64 + i, b.points[0].y / 64}, b.opens, b.collision_class, *layer);
        }
        return out;
    }
};

} // namespace

TEST_CASE("what blocks by class is what names it, or whose layer does", "[edit][classes]") {
    int named = 0;
    for (unsigned seed = 1; seed <= 40; ++seed) {
        const Heap heap(seed);
        const level::TileTable tiles(heap.project);
        const level::PropKinds kinds(heap.project);
        outline::Kinds of{tiles, kinds};
        const std::set<std::string> all{"", "stone", "planks"};
        CHECK(outline::full_cells(heap.level, of) == heap.one_by_one(all));
        const auto classes = outline::classes_in(heap.level, of);
        for (const std::string& name : all) {
            of.collision_class = &name;
            const auto expected = heap.one_by_one({name});
            CHECK(outline::full_cells(heap.level, of) == expected);
            // Whatever blocks is of a class that is told.
            if (std::any_of(expected.begin(), expected.end(), [](auto c) { return c != 0; })) {
                CHECK(std::count(classes.begin(), classes.end(), name) == 1);
                named += !name.empty();
            }
        }
        of.collision_class = nullptr;
        const std::vector<std::string> passes{"planks"};
        of.passes = &passes;
        CHECK(outline::full_cells(heap.level, of) == heap.one_by_one({"", "stone"}));
    }
    CHECK(named > 20);
}

TEST_CASE("things name a class from the list of what is used, and their files keep it", "[edit][classes][store]") {
    make::Small s({24, 16});
    level::Level level = s.level();
    level.edit(s.ground).tiles()->solid = true;
    level.edit(s.ground).grid().set({3, 3}, level::Cell(10), 1);
    level.edit(s.ground).grid().set({5, 3}, level::Cell(49, {}, true), 0);
    level.edit(s.props).props() = level::Props({{90, s.prop, {100, 100}}});
    level = edit::add_layer(level, 700, "Words", level::LayerKind::blockers, s.front);
    level.edit(700).blockers()->set({9, 9}, level::TileShape::full);
    level::FreeBlocker corner;
    corner.id = 1;
    corner.points = {{0, 0}, {64, 0}, {64, 64}};
    level.edit(700).blockers()->set_free({corner});
    s.set(level);
    const auto used = [&](UsedKind kind, std::uint32_t id) { return used_of(s.project, s.level(), kind, id); };
    const std::vector<Used> rock{used(UsedKind::material, 1)}, post{used(UsedKind::prop, s.prop)},
        words{used(UsedKind::blockers, 700)};
    CHECK(edit::class_of(s.project, s.level(), rock) == "");
    s.project = edit::with_class(s.project, s.id, rock, "stone");
    s.project = edit::with_class(s.project, s.id, post, "wood");
    s.project = edit::with_class(s.project, s.id, words, "fence");
    CHECK(edit::class_of(s.project, s.level(), rock) == "stone");
    CHECK(edit::class_of(s.project, s.level(), {rock[0], post[0]}) == std::nullopt);
    CHECK(edit::class_of(s.project, s.level(), words) == "fence");
    CHECK(s.level().layer(700)->collision_class == "fence");
    CHECK(edit::classes_of(s.project) == std::vector<std::string>{"fence", "stone", "wood"});
    // Letters stay whole where a name is too long.
    std::string loud;
    for (int i = 0; i < 80; ++i) loud += "ß";
    CHECK(edit::class_of(edit::with_class(s.project, s.id, rock, loud), s.level(), rock)->size() == 128);

    const level::TileTable tiles(s.project);
    const level::PropKinds kinds(s.project);
    CHECK(outline::classes_in(s.level(), {tiles, kinds}) == std::vector<std::string>{"", "fence", "stone", "wood"});
    CHECK(outline::passes_any(s.level(), {tiles, kinds}, {"Shots", {"wood"}}));
    CHECK_FALSE(outline::passes_any(s.level(), {tiles, kinds}, {"Shots", {"glass"}}));

    level::Level next = s.level();
    std::vector<level::FreeBlocker> free = next.layer(700)->blockers()->free();
    free[0].collision_class = "wire";
    next.edit(700).blockers()->set_free(free);
    s.set(next);
    std::vector<std::string> ids;
    const level::Project read = store::project_from_text(store::project_to_text(s.project), "project", ids);
    CHECK(*read.prop_kind(s.prop) == *s.project.prop_kind(s.prop));
    CHECK(level::TileTable(read).find(10).tile->collision_class == "stone");
    const level::Level again = store::level_from_text(store::level_to_text(s.level()), "level", s.project);
    CHECK(again.layer(700)->blockers()->free() == free);
    CHECK(edit::decided_at(s.project, s.level(), {0, 0}).collision_class == "wire");
    CHECK(edit::decided_at(s.project, s.level(), {9, 9}).collision_class == "fence");
    CHECK(edit::decided_at(s.project, s.level(), {3, 3}).collision_class == "stone");
    CHECK(edit::decided_at(s.project, s.level(), {3, 3}).thing->kind == UsedKind::material);
}

TEST_CASE("backdrops are listed among what is used, as nothing to a walker", "[edit][used][classes]") {
    make::Small s({24, 16});
    level::Level level = s.level();
    level = edit::add_layer(level, 700, "Sky", level::LayerKind::backdrop, 0);
    level.edit(700).backdrop()->sheet = s.project.sheets[0]->id;
    s.set(level);
    const Used sky = used_of(s.project, s.level(), UsedKind::backdrop, 700);
    CHECK(sky.count == 1);
    CHECK(sky.blocking == edit::Blocking::nothing);
    CHECK(edit::said_by(s.project, sky) == edit::Blocking::nothing);
    CHECK_FALSE(sky.unheard());
    // Nothing of it can be changed to block.
    CHECK(edit::with_blocking(s.project, {sky}, edit::Blocking::full).prop_kinds == s.project.prop_kinds);
    CHECK(edit::classes_of(edit::with_class(s.project, s.id, {sky}, "stone")).empty());
    CHECK(edit::class_of(s.project, s.level(), {sky}) == std::nullopt);
    CHECK(edit::where_used(s.project, s.level(), sky).empty());
}
