// A journal that is told of everything that happens to a document leads to the same states when it is read.
#include "edit/trail.hpp"

#include <catch2/catch.hpp>
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
        trail = edit::Trail(document.place(), 0);
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

TEST_CASE("undo beyond the last save is a step of its own", "[edit][trail]") {
    Told t;
    for (const char* name : {"a", "b"}) t.name(name);
    t.save();
    for (const char* name : {"c", "d"}) t.name(name);
    t.document.go_to(1);
    const edit::Document again = t.again();
    CHECK(again.project().name == "a");
    CHECK(names(again) == std::vector<std::string>{"", "There and back"});
    // A stroke from there goes on behind them.
    t.name("e");
    CHECK(t.again().project().name == "e");
    CHECK(names(t.again()).size() == 3);
    t.document.undo();
    CHECK(t.again().project().name == "a");
    // Forth again to where one was, and on from there: the way is gone.
    t.document.undo();
    t.name("f");
    t.document.undo();
    CHECK(t.again().project().name == "Small");
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
        // The steps that can still be undone are those since the last way that the journal has as a step.
        const auto there = names(t.document), back = names(again);
        for (std::size_t k = 0; k < t.document.now() && k < again.now(); ++k) {
            const std::string& name = back[again.now() - k];
            if (name == "There and back") break;
            CHECK(name.substr(0, 9) == there[t.document.now() - k].substr(0, 9));
        }
    }
}
