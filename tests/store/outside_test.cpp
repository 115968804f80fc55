// Projects that somebody else changes meanwhile, saves that are stopped, folders that go.
#include <catch2/catch.hpp>
#include <filesystem>
#include <string>

#include "base/files.hpp"
#include "edit/document.hpp"
#include "store/project_files.hpp"
#include "support/make.hpp"

using namespace vic;

namespace {

edit::Document opened(const make::Folder& dir) {
    make::save_with_pictures(make::rich(7).project, dir.path());
    return edit::Document::open(dir.path());
}

void rename_level(edit::Document& document, const std::string& name) {
    level::Project next = document.project();
    level::Level changed = *next.levels[0];
    changed.name = name;
    next.put(std::move(changed));
    document.apply("Rename", std::move(next));
}

} // namespace

TEST_CASE("what others changed since it was opened is not written over", "[store][outside]") {
    make::Folder dir;
    edit::Document document = opened(dir);
    CHECK(document.seen().changed(dir.path()).empty());
    rename_level(document, "Ours");
    document.save();
    CHECK(document.seen().changed(dir.path()).empty()); // what was written here is no change from outside

    // The same bytes anew are none either, as after going forth and back between two states of the files.
    const std::string file = "levels/" + document.project().levels[0]->id + ".json";
    const std::string text = read_file(dir / file);
    write_file(dir / file, text);
    CHECK(document.seen().changed(dir.path()).empty());

    write_file(dir / file, text + "\n");
    CHECK(document.seen().changed(dir.path()) == std::vector{file});
    rename_level(document, "Ours again");
    try {
        document.save();
        FAIL("it was written over");
    } catch (const store::ChangedOutside& e) {
        CHECK(e.files() == std::vector{file});
    }
    CHECK(read_file(dir / file) == text + "\n");
    CHECK(document.unsaved());

    fs::remove(dir / file);
    CHECK(document.seen().changed(dir.path()) == std::vector{file});
}

TEST_CASE("two windows: the second to save is told of the first", "[store][outside]") {
    make::Folder dir;
    edit::Document one = opened(dir);
    edit::Document other = edit::Document::open(dir.path());
    rename_level(one, "One's");
    one.save();
    rename_level(other, "Other's");
    CHECK_THROWS_AS(other.save(), store::ChangedOutside);
    CHECK(store::load(dir.path()).levels[0]->name == "One's");
}

TEST_CASE("a project whose folder went is not written in parts", "[store][outside]") {
    make::Folder dir;
    edit::Document document = opened(dir);
    rename_level(document, "Ours");
    for (const auto& entry : fs::directory_iterator(dir.path())) fs::remove_all(entry);
    CHECK_THROWS_AS(document.save(), store::ProjectGone);
    CHECK(fs::is_empty(dir.path()));
    fs::remove(dir.path());
    CHECK_THROWS_AS(document.save(), store::ProjectGone);
    CHECK_FALSE(fs::exists(dir.path()));
}

TEST_CASE("a save that is stopped before it decides has changed nothing", "[store][outside]") {
    make::Folder dir;
    edit::Document document = opened(dir);
    rename_level(document, "Ours");
    level::Project next = document.project();
    next.name = "Renamed";
    document.apply("Rename the project", std::move(next));
    for (int at = 0;; ++at) {
        int asked = 0;
        const edit::Document::Saving saving = document.saving();
        try {
            saving.write([&] { return asked++ == at; });
        } catch (const store::SaveStopped&) {
            CHECK(store::load(dir.path()).levels[0]->name != "Ours");
            CHECK(document.seen().changed(dir.path()).empty());
            continue;
        }
        REQUIRE(at >= 3); // before each file and at the last moment
        document.saved(saving);
        break;
    }
    CHECK_FALSE(document.unsaved());
    CHECK(store::load(dir.path()).levels[0]->name == "Ours");
    CHECK(store::load(dir.path()).name == "Renamed");
}
