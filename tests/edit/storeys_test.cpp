// Storeys: layers that are added, doubled, moved and taken away as one.
#include "edit/storeys.hpp"

#include <algorithm>
#include <catch2/catch.hpp>
#include <set>

#include "edit/levels.hpp"
#include "store/format.hpp"
#include "support/make.hpp"

using namespace vic;

namespace {

std::vector<std::pair<std::string, int>> names(const level::Level& level) {
    std::vector<std::pair<std::string, int>> out;
    for (const level::LayerRef& layer : level.layers) out.emplace_back(layer->name, layer->storey);
    return out;
}

using Names = std::vector<std::pair<std::string, int>>;

} // namespace

TEST_CASE("a storey is added, doubled, moved and taken away with all its layers", "[edit][storeys]") {
    make::Small s({16, 12});
    level::Level level = s.level();
    level.edit(s.ground).grid().set({3, 4}, level::Cell(10), 1);
    level.edit(s.props).props() = level::Props({{90, s.prop, {100, 100}}});
    level.edit(s.front).tiles()->overlay_of = s.ground;
    std::uint32_t next = 5000;
    CHECK(edit::storeys_of(level) == std::vector<int>{0});

    // Empty: a layer of tiles for each.
    const level::Level empty = edit::with_storey_above(level, 0, false, next);
    CHECK(names(empty) == Names{{"Ground", 0}, {"Props", 0}, {"In front", 0}, {"Ground", 1}, {"In front", 1}});
    CHECK(empty.layers[3]->grid().cell({3, 4}).empty());
    CHECK(empty.layers[4]->overlay_of() == empty.layers[3]->id);

    // As it is, with ids of its own.
    const level::Level doubled = edit::with_storey_above(level, 0, true, next);
    REQUIRE(doubled.layers.size() == 6);
    CHECK(doubled.layers[3]->grid().cell({3, 4}) == level.layers[0]->grid().cell({3, 4}));
    CHECK(doubled.layers[4]->props().size() == 1);
    std::set<std::uint32_t> ids;
    for (const level::LayerRef& layer : doubled.layers) {
        CHECK(ids.insert(layer->id).second);
        for (const level::Prop& prop : layer->props()) CHECK(ids.insert(prop.id).second);
    }
    CHECK(doubled.layers[5]->overlay_of() == doubled.layers[3]->id);
    // Between two: the upper one goes up.
    const level::Level three = edit::with_storey_above(doubled, 0, false, next);
    CHECK(edit::storeys_of(three) == std::vector<int>{0, 1, 2});
    CHECK(three.layers.back()->storey == 2);

    // Moved, and back.
    const level::Level moved = edit::moved_storey(three, 1, true);
    CHECK(moved.layers[3]->storey == 1);
    CHECK(moved.layers[4]->kind() == level::LayerKind::props); // that had been on storey 2
    CHECK(names(edit::moved_storey(moved, 2, false)) == names(three));
    CHECK(names(edit::moved_storey(three, 2, true)) == names(three));
    CHECK(names(edit::moved_storey(three, 0, false)) == names(three));

    // Taken away: what is above comes down.
    CHECK(names(edit::without_storey(three, 1)) == names(doubled));
    CHECK(names(edit::without_storey(level, 0)) == names(level));
    // The walker's plane stays between the same layers.
    CHECK(edit::without_storey(three, 1).plane == doubled.plane);
    CHECK(three.layers[static_cast<std::size_t>(three.plane)]->name ==
          doubled.layers[static_cast<std::size_t>(doubled.plane)]->name);

    // Kept in its file.
    const level::Level read = store::level_from_text(store::level_to_text(three), "level", s.project);
    CHECK(names(read) == names(three));
}

TEST_CASE("on a storey those above are not seen, and those below faintly", "[edit][storeys]") {
    make::Small s({16, 12});
    std::uint32_t next = 5000;
    level::Level level = edit::with_storey_above(s.level(), 0, true, next);
    level = edit::with_storey_above(level, 1, true, next);
    const level::Level seen = edit::seen_from_storey(level, 1);
    for (std::size_t i = 0; i < seen.layers.size(); ++i) {
        CHECK(seen.layers[i]->shown == (level.layers[i]->shown && level.layers[i]->storey <= 1));
        CHECK(seen.layers[i]->opacity == (level.layers[i]->storey < 1 ? 40 : 100));
    }
    // There is an end to them.
    for (int i = 2; i < 100; ++i) level = edit::with_storey_above(level, edit::storeys_of(level).back(), false, next);
    CHECK(edit::storeys_of(level).back() == level::kMostStorey);
}
