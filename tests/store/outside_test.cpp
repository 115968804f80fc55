// Projects that somebody else changes meanwhile, saves that are stopped, folders that go.
#include <catch2/catch.hpp>
#include <filesystem>
#include <string>

#include "base/files.hpp"
#include "edit/document.hpp"
#include "store/project_files.hpp"
#include "support/documents.hpp"
#include "support/make.hpp"

using namespace vic;

namespace {

edit::Document opened(const make::Folder& dir) {
    make::save_with_pictures(make::rich(7).project, dir.path());
    return edit::Document::open(dir.path());
}

} // namespace

TEST_CASE("what others changed since it was opened is not written over", "[store][outside]") {
    make::Folder dir;
    edit::Document document = opened(dir);
    CHECK(document.seen().changed(dir.path()).empty());
    make::rename_level(document, 0, "Ours");
    document.save();
    CHECK(document.seen().changed(dir.path()).empty()); // what was written here is no change from outside

    // The same bytes anew are none either, as after going forth and back between two states of the files.
    const std::string file = "levels/" + document.project().levels[0]->id + ".json";
    const std::string text = read_file(dir / file);
    write_file(dir / file, text);
    CHECK(document.seen().changed(dir.path()).empty());

    write_file(dir / file, text + "\n");
    CHECK(document.seen().changed(dir.path()) == std::vector{file});
    make::rename_level(document, 0, "Ours again");
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
    make::rename_level(one, 0, "One's");
    one.save();
    make::rename_level(other, 0, "Other's");
    CHECK_THROWS_AS(other.save(), store::ChangedOutside);
    CHECK(store::load(dir.path()).levels[0]->name == "One's");
}

TEST_CASE("a project whose folder went is not written in parts", "[store][outside]") {
    make::Folder dir;
    edit::Document document = opened(dir);
    make::rename_level(document, 0, "Ours");
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
    make::rename_level(document, 0, "Ours");
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
