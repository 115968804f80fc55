// What others changed meanwhile, side by side with what is open.
#include "edit/outside.hpp"

#include <catch2/catch.hpp>
#include <string>

#include "base/files.hpp"
#include "edit/document.hpp"
#include "store/project_files.hpp"
#include "support/documents.hpp"
#include "support/make.hpp"

using namespace vic;

namespace {

std::string named(const std::string& name) { return name + " (ours)"; }

// A project with two levels, open twice.
struct Both {
    make::Folder dir;
    edit::Document ours, theirs;
    Both() : ours(make(dir)), theirs(edit::Document::open(dir.path())) {}

    static edit::Document make(const make::Folder& dir) {
        level::Project p = make::rich(7).project;
        level::Level second = *p.levels[0];
        second.id = "second";
        second.name = "Second";
        p.put(std::move(second));
        make::save_with_pictures(p, dir.path());
        return edit::Document::open(dir.path());
    }
};

} // namespace

TEST_CASE("what changed on one side only is taken from there", "[edit][outside]") {
    Both b;
    make::rename_level(b.theirs, 1, "Their second");
    b.theirs.save();
    make::rename_level(b.ours, 0, "Our first");
    make::rename_material(b.ours, "Our clay");
    const edit::Outside outside = edit::read_outside(b.ours.saving());
    REQUIRE(outside.units.size() == 1);
    CHECK(outside.units[0].level == "second");
    CHECK_FALSE(outside.conflict());
    const edit::ProjectState all = edit::settled(b.ours.state(), outside, {}, named);
    CHECK(all->levels[0]->name == "Our first");
    CHECK(all->levels[1]->name == "Their second");
    CHECK(all->materials[0]->name == "Our clay");
    CHECK(all->levels[0] == b.ours.project().levels[0]); // shared, not read anew

    // Taken over as a step: undo brings back what was, and a save writes both.
    b.ours.take_over(outside, all, "Taken over");
    CHECK(b.ours.unsaved());
    b.ours.save();
    CHECK(store::load(b.dir.path()).levels[1]->name == "Their second");
    b.ours.undo();
    CHECK(b.ours.project().levels[1]->name == "Second");
    CHECK(b.ours.project().levels[0]->name == "Our first");
}

TEST_CASE("without changes of our own the disk is what is open", "[edit][outside]") {
    Both b;
    make::rename_material(b.theirs, "Their clay");
    b.theirs.save();
    const edit::Outside outside = edit::read_outside(b.ours.saving());
    REQUIRE(outside.units.size() == 1);
    CHECK(outside.units[0].level.empty());
    b.ours.take_over(outside, edit::settled(b.ours.state(), outside, {}, named), "Taken over");
    CHECK(b.ours.project().materials[0]->name == "Their clay");
    CHECK_FALSE(b.ours.unsaved());
    CHECK(edit::read_outside(b.ours.saving()).units.empty());
}

TEST_CASE("a level that both changed stands side by side", "[edit][outside]") {
    Both b;
    make::rename_level(b.theirs, 0, "Theirs");
    b.theirs.save();
    make::rename_level(b.ours, 0, "Ours");
    const edit::Outside outside = edit::read_outside(b.ours.saving());
    REQUIRE(outside.conflict());
    CHECK_FALSE(outside.whole());
    const std::string id = b.ours.project().levels[0]->id;
    const auto with = [&](edit::Keep keep) { return edit::settled(b.ours.state(), outside, {{id, keep}}, named); };
    CHECK(with(edit::Keep::theirs)->levels[0]->name == "Theirs");
    CHECK(with(edit::Keep::ours)->levels[0]->name == "Ours");
    const edit::ProjectState both = with(edit::Keep::both);
    REQUIRE(both->levels.size() == 3);
    CHECK(both->levels[0]->name == "Theirs");
    CHECK(both->levels[2]->name == "Ours (ours)");
    CHECK(both->levels[2]->id != id);
    b.ours.take_over(outside, both, "Taken over");
    b.ours.save();
    CHECK(store::load(b.dir.path()).levels.size() == 3);
}

TEST_CASE("where both changed the materials, one side is taken as a whole", "[edit][outside]") {
    Both b;
    make::rename_material(b.theirs, "Their clay");
    make::rename_level(b.theirs, 1, "Their second");
    b.theirs.save();
    make::rename_material(b.ours, "Our clay");
    const edit::Outside outside = edit::read_outside(b.ours.saving());
    REQUIRE(outside.whole());
    const edit::ProjectState ours = edit::settled(b.ours.state(), outside, {{"", edit::Keep::ours}}, named);
    CHECK(ours == b.ours.state());
    CHECK(edit::settled(b.ours.state(), outside, {{"", edit::Keep::both}}, named) == outside.disk);
    const edit::ProjectState theirs = edit::settled(b.ours.state(), outside, {}, named);
    CHECK(theirs->materials[0]->name == "Their clay");
    CHECK(theirs->levels[1]->name == "Their second");
    // Ours is then what is saved, over theirs, as was asked for.
    b.ours.take_over(outside, ours, "Taken over");
    b.ours.save();
    CHECK(store::load(b.dir.path()).materials[0]->name == "Our clay");
    CHECK(store::load(b.dir.path()).levels[1]->name == "Second");
}

TEST_CASE("levels that came or went on the disk", "[edit][outside]") {
    Both b;
    level::Project next = b.theirs.project();
    level::Level third = *next.levels[0];
    third.id = "third";
    next.put(std::move(third));
    next.remove_level("second");
    b.theirs.apply("Levels", std::move(next));
    b.theirs.save();
    make::rename_material(b.ours, "Our clay"); // the list of levels is no change of the rest
    const edit::Outside outside = edit::read_outside(b.ours.saving());
    CHECK_FALSE(outside.conflict());
    const edit::ProjectState all = edit::settled(b.ours.state(), outside, {}, named);
    REQUIRE(all->levels.size() == 2);
    CHECK(all->level("third"));
    CHECK_FALSE(all->level("second"));
    CHECK(all->materials[0]->name == "Our clay");

    make::rename_level(b.ours, 1, "Our second");
    const edit::Outside gone = edit::read_outside(b.ours.saving());
    REQUIRE(gone.conflict());
    CHECK(edit::settled(b.ours.state(), gone, {{"second", edit::Keep::ours}}, named)->level("second"));
    CHECK_FALSE(edit::settled(b.ours.state(), gone, {{"second", edit::Keep::theirs}}, named)->level("second"));
}
