#include "edit/props.hpp"

#include <catch2/catch.hpp>
#include <set>

#include "edit/levels.hpp"
#include "level/standing.hpp"
#include "picture/compose.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::edit;

namespace {

// A small project whose one level has props of two kinds in it, some mirrored, far enough apart not to overlap.
struct Placed {
    make::Small small;
    level::PropKindId other = 0;
    Placed() {
        level::Project& p = small.project;
        other = p.next_id++;
        const level::PropKind* post = p.prop_kind(small.prop);
        p.put(level::PropKind{other, "Stone", post->sheet, {20, 4, 12, 10}, {6, 9}, {2, 6, 8, 4}, false});
        level::Level l = *p.levels.front();
        int x = 60;
        for (const bool mirrored : {false, true})
            for (const level::PropKindId kind : {small.prop, other}) {
                l = add_prop(l, small.props, {p.next_id++, kind, {x, 120}, {mirrored}});
                x += 70;
            }
        p.put(std::move(l));
    }
    [[nodiscard]] static Image look(const level::Project& p) { return picture::render(p, *p.levels.front(), 1); }
};

} // namespace

TEST_CASE("a prop's pivot and foot may change, its picture in the level stays where it is", "[props]") {
    Placed placed;
    const Image before = Placed::look(placed.small.project);
    for (int preset = 0; preset < 9; ++preset) {
        level::PropKind k = *placed.small.project.prop_kind(placed.small.prop);
        k.pivot = pivot_preset(k.box.size(), preset % 3, preset / 3);
        const level::Project after = change_kind(placed.small.project, k);
        CHECK(after.prop_kind(k.id)->pivot == k.pivot);
        CHECK(Placed::look(after) == before);
    }
    CHECK(pivot_preset({10, 20}, 0, 0) == Point{0, 0});
    CHECK(pivot_preset({10, 20}, 1, 2) == Point{5, 19});
    CHECK(pivot_preset({10, 20}, 2, 1) == Point{9, 10});
}

TEST_CASE("islands become props once each, with names of their own", "[props]") {
    make::Small small;
    const level::SheetId sheet = small.project.sheets.front()->id;
    const std::vector<Box> boxes{{0, 0, 16, 32}, {32, 0, 10, 10}, {48, 16, 16, 16}};
    const auto taken = take_islands(small.project, sheet, boxes, "Post");
    CHECK(taken.added.size() == 2); // the first is a prop already
    CHECK(taken.project.prop_kinds.size() == 3);
    std::set<std::string> names;
    for (const auto& k : taken.project.prop_kinds) names.insert(k->name);
    CHECK(names.size() == 3);
    CHECK(take_islands(taken.project, sheet, boxes, "Post").added.empty());
    for (const auto id : taken.added) {
        const level::PropKind& k = *taken.project.prop_kind(id);
        CHECK(Box{0, 0, k.box.w, k.box.h}.contains(k.pivot));
        CHECK(Box{0, 0, k.box.w, k.box.h}.contains(k.foot));
    }
}

TEST_CASE("merged props stand where both stood, and what was cut from the sheet is seen in place", "[props]") {
    Placed placed;
    const level::Project& p = placed.small.project;
    const level::Project merged = merge_kinds(p, {placed.small.prop, placed.other});
    CHECK(merged.prop_kinds.size() == 1);
    const level::PropKind& k = *merged.prop_kind(placed.small.prop);
    CHECK(k.box == Box{0, 0, 32, 32});
    CHECK(edit::placed(merged, k.id) == 4);
    // The old pictures are parts of the new one, at the same places.
    const std::vector<level::Prop> old = p.levels.front()->layer(placed.small.props)->props().all();
    const std::vector<level::Prop> now = merged.levels.front()->layer(placed.small.props)->props().all();
    REQUIRE(old.size() == now.size());
    for (std::size_t i = 0; i < old.size(); ++i) {
        const level::PropKind& was = *p.prop_kind(old[i].kind);
        const Box small_box = level::Placing(was, old[i].at, old[i].look).around(box_of(was.drawn()));
        const Box big_box = level::Placing(k, now[i].at, now[i].look).around(box_of(k.drawn()));
        CHECK(big_box.contains(small_box));
        const int left = small_box.x - big_box.x;
        CHECK(left == (old[i].look.mirrored ? k.box.right() - was.box.right() : was.box.x - k.box.x));
        CHECK(small_box.y - big_box.y == was.box.y - k.box.y);
    }
}

TEST_CASE("a split prop looks in the level as it did whole", "[props]") {
    Placed placed;
    const Image before = Placed::look(placed.small.project);
    const level::PropKind k = *placed.small.project.prop_kind(placed.small.prop);
    const std::vector<Box> parts{{k.box.x, k.box.y, k.box.w, 12},
                                 {k.box.x, k.box.y + 12, 7, k.box.h - 12},
                                 {k.box.x + 7, k.box.y + 12, k.box.w - 7, k.box.h - 12}};
    const level::Project split = split_kind(placed.small.project, k.id, parts);
    CHECK(split.prop_kinds.size() == 4);
    CHECK(split.levels.front()->layer(placed.small.props)->props().size() == 8);
    CHECK(Placed::look(split) == before);
    std::set<level::PropId> ids;
    for (const auto& prop : split.levels.front()->layer(placed.small.props)->props()) ids.insert(prop.id);
    CHECK(ids.size() == 8);
}

TEST_CASE("removing a prop's kind removes what stands of it and nothing else", "[props]") {
    Placed placed;
    const level::Project gone = remove_kinds(placed.small.project, {placed.small.prop});
    CHECK(gone.prop_kinds.size() == 1);
    CHECK(edit::placed(gone, placed.small.prop) == 0);
    CHECK(edit::placed(gone, placed.other) == 2);
}
