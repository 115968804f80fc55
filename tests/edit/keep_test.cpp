// History as a list, and keep-points.
#include <catch2/catch.hpp>

#include "base/files.hpp"
#include "edit/document.hpp"
#include "edit/levels.hpp"
#include "edit/stroke.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::edit;

namespace {

level::Project with_box(const level::Project& project, const make::Small& small, Box box) {
    Hand hand{held::Material{1}};
    level::Project out = project;
    out.put(lay(out, join::Rules(out), *out.level(small.id), small.ground, hand, box_cells(box)).level);
    return out;
}

} // namespace

TEST_CASE("any state of the history can be gone to, and the list stays the same", "[history]") {
    make::Small small;
    make::Folder dir;
    Document doc(small.project, dir.path());
    std::vector<ProjectState> states{doc.state()};
    for (int i = 0; i < 8; ++i) {
        doc.apply("Step " + std::to_string(i), with_box(doc.project(), small, {i * 4, i, 3, 3}));
        states.push_back(doc.state());
    }
    make::Random random(2);
    for (int i = 0; i < 40; ++i) {
        const auto place = static_cast<std::size_t>(random.below(9));
        doc.go_to(place);
        CHECK(doc.now() == place);
        CHECK(doc.state() == states[place]);
        const auto list = doc.history();
        REQUIRE(list.size() == 9);
        for (std::size_t k = 0; k < 9; ++k) {
            CHECK(list[k].state == states[k]);
            CHECK(list[k].name == (k == 0 ? "" : "Step " + std::to_string(k - 1)));
        }
    }
}

TEST_CASE("a keep-point is on disk at once, survives the history, and is gone back to as a step", "[history]") {
    make::Small small;
    make::Folder dir;
    make::save_with_pictures(small.project, dir.path());
    Document doc = Document::open(dir.path());
    doc.apply("A box", with_box(doc.project(), small, {2, 2, 5, 5}));
    const ProjectState kept = doc.state();
    doc.keep("Before the flood");
    doc.apply("More", with_box(doc.project(), small, {20, 2, 5, 5}));
    level::Project without = doc.project();
    level::Level level = *without.level(small.id);
    without.put(remove_layer(level, small.front));
    without.next_id += 5;
    doc.apply("Remove a layer", without);
    doc.save();

    Document again = Document::open(dir.path());
    REQUIRE(again.keep_points().size() == 1);
    CHECK(again.keep_points()[0].name == "Before the flood");
    CHECK_FALSE(again.unsaved());
    again.go_back(0);
    CHECK(again.undo_name() == "Before the flood");
    const level::Level& back = *again.project().level(small.id);
    CHECK(back.layer(small.front));
    CHECK(back.layer(small.ground)->grid() == kept->level(small.id)->layer(small.ground)->grid());
    CHECK(again.project().next_id == without.next_id); // numbers are never given out twice
    CHECK(again.project().sheets[0]->image);           // the pictures are the project's
    again.undo();
    CHECK_FALSE(again.project().level(small.id)->layer(small.front));
    // A damaged one is passed over; another is forgotten.
    again.keep("Second");
    CHECK(again.keep_points().size() == 2);
    write_file(dir.path() / ".vicinum" / "kept" / again.keep_points()[1].id / "kept.json", "{");
    CHECK(Document::open(dir.path()).keep_points().size() == 1);
    again.forget(0);
    CHECK(Document::open(dir.path()).keep_points().empty());
}
