// A journal that is told of everything that happens to a document leads to the same states when it is read.
#include "edit/trail.hpp"

#include <catch2/catch.hpp>
#include <chrono>
#include <memory>
#include <random>
#include <string>
#include <vector>

#include "base/files.hpp"
#include "edit/document.hpp"
#include "store/journal.hpp"
#include "store/project_files.hpp"
#include "support/make.hpp"

using namespace vic;

namespace {

// A document whose journal is kept; what was saved last is what the journal goes on from.
struct Told {
    make::Folder dir;
    edit::Document document = make(dir);
    edit::ProjectState base = document.state();
    edit::Trail trail;
    std::unique_ptr<store::JournalWriter> writer;
    int files = 0;

    Told() {
        save();
        document.set_listener([this](const edit::Document::Told& told) {
            writer->write(trail.record(told, document.state(), "There and back"));
        });
    }
    static edit::Document make(const make::Folder& dir) {
        make::save_with_pictures(make::rich(7).project, dir.path());
        return edit::Document::open(dir.path());
    }
    void save() {
        base = document.state();
        trail = edit::Trail(document.place());
        writer = std::make_unique<store::JournalWriter>(file(++files), 1);
    }
    [[nodiscard]] fs::path file(int n) const { return dir.path() / ("journal-" + std::to_string(n)); }
    void name(const std::string& name, const std::string& merge = {}) {
        level::Project next = document.project();
        next.name = name;
        document.apply("Name it " + name, std::move(next), merge);
    }
    // What the next start brings back.
    [[nodiscard]] edit::Document again() const {
        writer->flush();
        edit::Document out(*base, dir.path());
        if (!fs::exists(file(files))) return out;
        store::JournalReader reader(file(files), out.state(), dir.path());
        out.replay(reader);
        CHECK_FALSE(reader.torn());
        return out;
    }
};

std::vector<std::string> names(const edit::Document& document) {
    std::vector<std::string> out;
    for (const auto& past : document.history()) out.push_back(past.name);
    return out;
}

} // namespace

TEST_CASE("what is undone beyond the last save comes back step by step", "[edit][trail]") {
    Told t;
    for (const char* name : {"a", "b"}) t.name(name);
    t.save();
    for (const char* name : {"c", "d"}) t.name(name);
    t.document.go_to(0);
    edit::Document again = t.again();
    CHECK(again.project().name == "Small");
    CHECK(names(again) == names(t.document));
    for (const char* name : {"a", "b", "c", "d"}) {
        again.redo();
        CHECK(again.project().name == name);
    }
    // Forth again, beyond the save too, and on from there: what was undone is gone.
    t.document.go_to(3);
    CHECK(t.again().project().name == "c");
    CHECK(t.again().redo_name() == "Name it d");
    t.document.go_to(1);
    t.name("e");
    again = t.again();
    CHECK(again.project().name == "e");
    CHECK(names(again) == std::vector<std::string>{"", "Name it a", "Name it e"});
    t.document.undo();
    CHECK(t.again().project().name == "a");
}

TEST_CASE("what was undone before the last save is done again by its name", "[edit][trail]") {
    Told t;
    for (const char* name : {"a", "b"}) t.name(name);
    t.document.go_to(0);
    t.save();
    t.document.go_to(2);
    CHECK(names(t.again()) == names(t.document));
    t.document.go_to(1);
    CHECK(names(t.again()) == names(t.document));
    CHECK(t.again().project().name == "a");
}

TEST_CASE("a journal begins with the history that leads from the disk", "[edit][trail]") {
    Told t;
    const auto start = t.document.state();
    for (const char* name : {"a", "b", "c", "d"}) t.name(name);
    const auto disk = t.document.history()[2].state;
    // Steps that were done, or undone, while a save ran.
    const auto begun_at = [&](std::size_t place, bool whole) {
        t.document.go_to(place);
        t.base = disk;
        t.writer = std::make_unique<store::JournalWriter>(t.file(++t.files), 1);
        t.writer->write(t.trail.begin(t.document, disk, whole, "Earlier"));
        return t.again();
    };
    CHECK(names(begun_at(4, false)) == std::vector<std::string>{"", "Name it c", "Name it d"});
    CHECK(begun_at(1, false).project().name == "a");
    CHECK(names(begun_at(1, false)) == std::vector<std::string>{"", "Name it b"});
    edit::Document again = begun_at(1, true);
    CHECK(names(again) == names(t.document));
    CHECK(again.now() == 1);
    again.go_to(4);
    CHECK(again.project().name == "d");
    CHECK(again.history()[1].when == edit::Moment(std::chrono::duration_cast<std::chrono::seconds>(
                                         t.document.history()[1].when.time_since_epoch())));
    // And goes on.
    t.document.undo();
    CHECK(t.again().project().name == start->name);
    // What is on the disk is no part of the history: others changed it.
    auto other = std::make_shared<level::Project>(*disk);
    other->name = "theirs";
    t.base = other;
    t.writer = std::make_unique<store::JournalWriter>(t.file(++t.files), 1);
    t.writer->write(t.trail.begin(t.document, other, false, "Earlier"));
    CHECK(names(t.again()) == std::vector<std::string>{"", "Earlier"});
    CHECK(t.again().project().name == start->name);
}

TEST_CASE("a step that becomes one with a saved one is a step of the journal", "[edit][trail]") {
    Told t;
    t.name("a", "slider");
    t.save();
    for (const char* name : {"b", "c"}) t.name(name, "slider");
    CHECK(t.document.history().size() == 2);
    CHECK(names(t.again()) == std::vector<std::string>{"", "Name it b"});
    CHECK(t.again().project().name == "c");
}

TEST_CASE("whatever is done, the journal brings back the state", "[edit][trail]") {
    const unsigned seed = GENERATE(1U, 2U);
    std::mt19937 rng(seed);
    Told t;
    int redone = 0;
    for (int i = 0; i < 80; ++i) {
        INFO(seed << ", step " << i);
        switch (rng() % 8) {
            case 0:
            case 1:
                t.name("n" + std::to_string(i));
                break;
            case 2:
                t.name("m" + std::to_string(i), "slider");
                break;
            case 3:
                t.document.undo();
                break;
            case 4:
                t.document.redo();
                break;
            case 5:
                t.document.go_to(rng() % t.document.history().size());
                break;
            case 6:
                if (rng() % 6 == 0) t.save();
                break;
            default:
                t.document.set_budget(rng() % 3 == 0 ? 1 : std::size_t{1} << 30);
                break;
        }
        if (i % 4 != 0) continue;
        const edit::Document again = t.again();
        CHECK(store::texts(again.project()) == store::texts(t.document.project()));
        // Beside it lie the same states and steps, but for those beyond a way that the journal has as a step.
        const auto there = t.document.history(), back = again.history();
        for (std::size_t k = 0; k <= t.document.now() && k <= again.now(); ++k) {
            const auto &a = there[t.document.now() - k], &b = back[again.now() - k];
            CHECK(a.state->name == b.state->name);
            if (b.name == "There and back") break;
        }
        for (std::size_t k = 1; t.document.now() + k < there.size() && again.now() + k < back.size(); ++k) {
            const auto &a = there[t.document.now() + k], &b = back[again.now() + k];
            if (b.name == "There and back") break;
            CHECK(a.name.substr(0, 9) == b.name.substr(0, 9));
            CHECK(a.state->name == b.state->name);
            ++redone;
        }
    }
    CHECK(redone > 2);
}
