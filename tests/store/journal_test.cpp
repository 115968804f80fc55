// The journal gives back every step that was written, and of a torn or hostile one the steps before.
#include "store/journal.hpp"

#include <catch2/catch.hpp>
#include <string>
#include <vector>

#include "base/error.hpp"
#include "base/files.hpp"
#include "edit/document.hpp"
#include "edit/stroke.hpp"
#include "join/resolve.hpp"
#include "store/format.hpp"
#include "store/project_files.hpp"
#include "support/make.hpp"

using namespace vic;
using store::JournalStep;

namespace {

store::ProjectRef ref(level::Project p) { return std::make_shared<const level::Project>(std::move(p)); }

// Both hold the same: what a save would write of them is the same, and every cell in memory is.
void check_same(const level::Project& a, const level::Project& b) {
    CHECK(store::texts(a) == store::texts(b));
    REQUIRE(a.levels.size() == b.levels.size());
    for (std::size_t i = 0; i < a.levels.size(); ++i)
        for (std::size_t l = 0; l < a.levels[i]->layers.size(); ++l)
            if (a.levels[i]->layers[l]->has_cells())
                CHECK(a.levels[i]->layers[l]->grid() == b.levels[i]->layers[l]->grid());
}

// A project on the disk and a hundred random changes of it, journalled.
struct Story {
    make::Folder dir;
    make::Small small = make::rich(11);
    std::vector<store::ProjectRef> states;
    fs::path file = dir / ".vicinum" / "journal";

    explicit Story(int steps) {
        make::save_with_pictures(small.project, dir.path());
        states.push_back(ref(store::load(dir.path())));
        make::Random random(5);
        store::JournalWriter writer(file, 77);
        for (int i = 0; i < steps; ++i) {
            states.push_back(ref(changed(*states.back(), random, i)));
            JournalStep step;
            step.name = "Step " + std::to_string(i);
            step.when = 1000 + i;
            step.before = states[states.size() - 2];
            step.after = states.back();
            writer.write(step);
        }
        writer.flush();
    }

    level::Project changed(const level::Project& before, make::Random& random, int i) const {
        level::Project p = before;
        const level::Level& level = *p.levels[static_cast<std::size_t>(random.below(int(p.levels.size())))];
        const join::Rules rules(p);
        switch (random.below(8)) {
            case 0: {
                level::Material m = *p.materials[0];
                m.name = "Material " + std::to_string(i);
                p.put(std::move(m));
                return p;
            }
            case 1: {
                level::Level l = level;
                l.name = "Level " + std::to_string(i);
                p.put(std::move(l));
                return p;
            }
            case 2: {
                if (p.levels.size() > 3) {
                    p.remove_level(p.levels.back()->id);
                    return p;
                }
                level::Level l = level;
                l.id = p.free_level_id("copy");
                p.put(std::move(l));
                return p;
            }
            default: {
                const edit::Hand hand{edit::held::Material{static_cast<level::MaterialId>(1 + random.below(2))}};
                const Box box{random.below(level.size.w), random.below(level.size.h), 1 + random.below(5),
                              1 + random.below(5)};
                const bool erase = random.below(4) == 0;
                p.put(edit::lay(p, rules, level, small.ground, erase ? edit::Hand{edit::held::Eraser{}} : hand,
                                level::Region(intersection(box, level.cells())))
                          .level);
                return p;
            }
        }
    }
};

} // namespace

TEST_CASE("a journal gives back every state", "[store][journal]") {
    const Story story(100);
    const auto head = store::journal_head(story.file);
    REQUIRE(head);
    CHECK(head->mark == 77);
    CHECK(head->steps == 100);
    CHECK(head->last == 1099);
    CHECK_FALSE(head->torn);
    store::JournalReader reader(story.file, ref(store::load(story.dir.path())), story.dir.path());
    for (std::size_t i = 1; i < story.states.size(); ++i) {
        const auto step = reader.next();
        REQUIRE(step);
        CHECK(step->name == "Step " + std::to_string(i - 1));
        check_same(*step->after, *story.states[i]);
    }
    CHECK_FALSE(reader.next());
    CHECK_FALSE(reader.torn());
}

TEST_CASE("steps go on from where one went in the history", "[store][journal]") {
    make::Folder dir;
    make::save_with_pictures(make::rich(11).project, dir.path());
    edit::Document document = edit::Document::open(dir.path());
    const auto base = document.state();
    {
        store::JournalWriter writer(dir / "journal", 1);
        document.set_listener([&](const edit::Document::Told& told) {
            JournalStep step;
            step.kind = told.went ? JournalStep::Kind::go : JournalStep::Kind::apply;
            step.name = told.name;
            step.merge = told.merge;
            step.place = static_cast<std::int64_t>(told.place);
            step.before = told.before;
            step.after = document.state();
            writer.write(step);
        });
        make::Random random(9);
        const Story story(0);
        for (int i = 0; i < 80; ++i) {
            if (random.below(3) == 0)
                random.flip() ? document.undo() : document.redo();
            else if (random.below(9) == 0)
                document.go_to(static_cast<std::size_t>(random.below(int(document.history().size()))));
            else
                document.apply("Step", story.changed(document.project(), random, i), random.flip(0.3) ? "merge" : "");
        }
        document.set_listener({});
    }
    edit::Document again(*base, dir.path());
    store::JournalReader reader(dir / "journal", base, dir.path());
    CHECK(again.replay(reader) > 60);
    CHECK(again.now() == document.now());
    REQUIRE(again.history().size() == document.history().size());
    for (std::size_t i = 0; i < again.history().size(); ++i)
        check_same(*again.history()[i].state, *document.history()[i].state);
}

TEST_CASE("a journal that is cut off anywhere loses its tail only", "[store][journal]") {
    const Story story(12);
    const std::string bytes = read_file(story.file);
    const auto base = ref(store::load(story.dir.path()));
    make::Random random(3);
    for (int i = 0; i < 60; ++i) {
        std::string cut = bytes.substr(0, static_cast<std::size_t>(random.below(int(bytes.size()))));
        if (i % 3 == 0) cut += std::string(50, 'x'); // and something else was there on the disk
        write_file(story.file, cut);
        try {
            store::JournalReader reader(story.file, base, story.dir.path());
            std::size_t n = 0;
            while (const auto step = reader.next()) check_same(*step->after, *story.states[++n]);
            CHECK(n < story.states.size());
            const auto head = store::journal_head(story.file);
            CHECK(head->steps == static_cast<int>(n));
        } catch (const InputError&) {
            CHECK(cut.size() < 200); // not even its head is whole
        }
    }
}

TEST_CASE("a hostile journal is refused step by step", "[store][journal]") {
    const Story story(3);
    const auto base = ref(store::load(story.dir.path()));
    const auto with = [&](const std::string& record) {
        write_file(story.file, store::journal_frame(R"({"format":"vicinum-journal","version":1,"mark":1})") +
                                   store::journal_frame(record));
        store::JournalReader reader(story.file, base, story.dir.path());
        const bool any = reader.next().has_value();
        CHECK(reader.torn() != any);
        return any;
    };
    CHECK(with(R"({"do":"apply","when":1,"name":"x"})"));
    CHECK(with(R"({"do":"go","when":1,"place":3})"));
    CHECK(with(R"({"do":"back","when":1,"name":"x"})"));
    CHECK_FALSE(with(R"({"do":"back","when":1})"));
    CHECK_FALSE(with(R"({"do":"burn","when":1})"));
    CHECK_FALSE(with(R"({"do":"apply","when":-1,"name":"x"})"));
    CHECK_FALSE(with(R"({"do":"apply","when":1,"name":"x","numbers":[1]})"));
    CHECK_FALSE(with(R"({"do":"apply","when":1,"name":"x","levels":[{"id":"a"}]})"));
    CHECK_FALSE(with(R"({"do":"apply","when":1,"name":"x","project":{"format":"vicinum-project"}})"));
    const std::string level = store::level_to_text(*base->levels[0]);
    const std::string id = base->levels[0]->id;
    const auto cells = [&](const std::string& box, const std::string& rows) {
        return with(R"({"do":"apply","when":1,"name":"x","levels":[{"id":")" + id + R"(","level":)" + level +
                    R"(,"cells":[{"box":)" + box + R"(,"text":")" + rows + R"("}]}]})");
    };
    const std::string layer = std::to_string(story.small.ground);
    CHECK(cells("[0,0,2,2]", "vicinum-cells 2\\nlayer " + layer + "\\n0 0 ~1\\nend\\n"));
    CHECK_FALSE(cells("[0,0,99999,2]", "vicinum-cells 2\\nend\\n"));
    CHECK_FALSE(cells("[0,0,2,2]", "vicinum-cells 2\\nlayer " + layer + "\\n0 0 9999999\\nend\\n"));
    CHECK_FALSE(cells("[0,0,2,2]", "vicinum-cells 2\\nlayer " + layer + "\\n0 7 ~1\\nend\\n"));
    CHECK_FALSE(cells("[0,0,2,2]", "vicinum-cells 2\\nlayer 424242\\nend\\n"));
    // What stands behind a refused step is not read.
    write_file(story.file, "no journal at all");
    CHECK_THROWS_AS(store::JournalReader(story.file, base, story.dir.path()), InputError);
    CHECK_THROWS_AS(store::journal_head(story.file), InputError);
    fs::remove(story.file);
    CHECK_FALSE(store::journal_head(story.file));
}

TEST_CASE("a journal is begun in the place of a link, not through it", "[store][journal]") {
    make::Folder dir;
    write_file(dir / "theirs", "theirs");
    fs::create_directories(dir / ".vicinum");
    fs::create_symlink(dir / "theirs", dir / ".vicinum" / "journal");
    fs::create_symlink(dir / "theirs", dir / ".vicinum" / "journal.begun");
    store::JournalWriter writer(dir / ".vicinum" / "journal", 1);
    store::JournalStep step;
    step.kind = store::JournalStep::Kind::go;
    writer.write(step);
    CHECK(read_file(dir / "theirs") == "theirs");
    CHECK_FALSE(fs::is_symlink(dir / ".vicinum" / "journal"));
}
