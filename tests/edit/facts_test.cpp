// What is said of cells is laid, turned, copied, kept and handed over like all else that lies in cells.
#include <catch2/catch.hpp>
#include <memory>
#include <string>

#include "base/error.hpp"
#include "base/files.hpp"
#include "edit/clips.hpp"
#include "edit/hand_text.hpp"
#include "edit/import_stamp.hpp"
#include "edit/levels.hpp"
#include "edit/lift.hpp"
#include "edit/notes.hpp"
#include "edit/reshape.hpp"
#include "edit/stroke.hpp"
#include "join/resolve.hpp"
#include "level/facts.hpp"
#include "parcel/build.hpp"
#include "picture/compose.hpp"
#include "store/format.hpp"
#include "store/project_files.hpp"
#include "store/stamp_text.hpp"
#include "support/make.hpp"
#include "vicinum_level.hpp"
#include "walk/world.hpp"

using namespace vic;
using namespace vic::edit;

namespace {

struct Ores {
    make::Small small{{20, 12}};
    level::NoteId ore = 0, ground = 0;
    level::LayerId layer = 0;

    Ores() {
        level::NoteKind number;
        number.name = "Ore";
        number.type = level::NoteType::number;
        small.project = add_note_kind(small.project, number);
        ore = small.project.note_kinds.back().id;
        level::NoteKind word;
        word.name = "Ground";
        word.type = level::NoteType::choice;
        word.choices = {"soft", "hard"};
        small.project = add_note_kind(small.project, word);
        ground = small.project.note_kinds.back().id;
        layer = add(ore);
    }
    level::LayerId add(level::NoteId note) {
        const level::LayerId id = small.project.next_id++;
        level::Level next = add_layer(small.level(), id, "Facts", level::LayerKind::facts, small.front);
        next.edit(id).facts()->set_note(note);
        small.set(std::move(next));
        return id;
    }
    void lay(const Hand& hand, const Box& box) {
        const join::Rules rules(small.project);
        small.set(edit::lay(small.project, rules, small.level(), layer, hand, level::Region(box)).level);
    }
    [[nodiscard]] const level::Facts& facts() const { return *small.level().layer(layer)->facts(); }
    [[nodiscard]] Hand hand(int value) const {
        Hand h;
        h.holds = held::Fact{ore, value};
        return h;
    }
};

} // namespace

TEST_CASE("values are laid, erased, picked up and named", "[edit][facts]") {
    Ores p;
    p.lay(p.hand(5), {2, 2, 4, 3});
    p.lay(p.hand(-2), {5, 4, 3, 3});
    CHECK(p.facts().value({2, 2}) == 5);
    CHECK(p.facts().value({5, 4}) == -2);
    CHECK_FALSE(p.facts().value({1, 1}));
    Hand eraser;
    eraser.holds = held::Eraser{};
    p.lay(eraser, {2, 2, 1, 1});
    CHECK_FALSE(p.facts().value({2, 2}));
    const auto picked = pick(p.small.project, p.small.level(), {5, 4}, p.layer);
    REQUIRE(picked);
    CHECK(picked->hand.holds == Held(held::Fact{p.ore, -2}));
    // Not from elsewhere: nothing of it is seen.
    const auto below = pick(p.small.project, p.small.level(), {5, 4}, p.small.ground);
    CHECK_FALSE((below && below->hand.is<held::Fact>()));
    CHECK(name_at(p.small.project, *p.small.level().layer(p.layer), {3, 3}).english() == "Ore: 5");
    CHECK(fact_name(p.small.project, p.ground, 1).english() == "Ground: hard");
    // Its home is a layer of its note; others do not take it, nor does that take tiles.
    const Hand hard{held::Fact{p.ground, 1}};
    CHECK(target_of(p.small.project, p.small.level(), hard, p.layer, false).obstacle == Obstacle::wrong_kind);
    const level::LayerId other = p.add(p.ground);
    CHECK(target_of(p.small.project, p.small.level(), hard, p.layer, false).layer == other);
    CHECK(target_of(p.small.project, p.small.level(), p.hand(1), p.small.ground, false).layer == p.layer);
    CHECK(target_of(p.small.project, p.small.level(), Hand{held::Tile{1}}, p.layer, true).obstacle ==
          Obstacle::wrong_kind);
    CHECK(hands_from_text(hands_to_text({p.hand(7)}), p.small.project) == std::vector<Hand>{p.hand(7)});
}

TEST_CASE("values go along when the level is turned, extended and copied from", "[edit][facts]") {
    Ores p;
    p.lay(p.hand(5), {2, 3, 1, 1});
    p.lay(p.hand(9), {4, 3, 2, 1});
    const join::Rules rules(p.small.project);
    const level::Level quarter = turned(p.small.project, rules, p.small.level(), Turn{1});
    CHECK(quarter.layer(p.layer)->facts()->value({12 - 1 - 3, 2}) == 5);
    CHECK(quarter.layer(p.layer)->facts()->cells().count() == 3);
    const level::Level back = turned(p.small.project, rules, quarter, Turn{3});
    CHECK(*back.layer(p.layer)->facts() == p.facts());
    const level::Level wide = extended(rules, p.small.level(), {3, 1, 0, 0});
    CHECK(wide.layer(p.layer)->facts()->value({5, 4}) == 5);
    const level::Stamp stamp = take(p.small.level(), level::Region(Box{2, 3, 4, 1}), {p.layer});
    const edit::Stamped laid =
        edit::stamp(p.small.project, rules, p.small.level(), turned(p.small.project, stamp, Turn{1}),
                    {.at = {10, 5}, .fallback = p.layer, .only = p.layer, .pins = false});
    CHECK(laid.level.layer(p.layer)->facts()->value({10, 5}) == 5);
    CHECK(laid.level.layer(p.layer)->facts()->value({10, 7}) == 9);
    // On values of another note they would mean something else.
    const level::LayerId other = p.add(p.ground);
    const edit::Stamped none = edit::stamp(p.small.project, rules, p.small.level(), stamp,
                                           {.at = {10, 5}, .fallback = other, .only = other, .pins = false});
    CHECK(none.level.layer(other)->facts()->cells().count() == 0);
    const level::Stamp again = store::stamp_from_text(store::stamp_to_text(stamp), "stamp", p.small.project);
    CHECK(again.layers == stamp.layers);
}

TEST_CASE("values are no stroke to be lifted among tiles, and keep their note in another project", "[edit][facts]") {
    Ores p;
    const level::Project before = p.small.project;
    p.lay(p.hand(5), {2, 3, 4, 1});
    CHECK_FALSE(stroke_of(before, p.small.project)); // no stroke that could go to another layer
    // Copied from there to a project that has no such note, one that has, and one whose note of the name is another.
    make::Folder from, to;
    make::save_with_pictures(p.small.project, from.path());
    const std::string text = store::stamp_to_text(take(p.small.level(), level::Region(Box{2, 3, 4, 1}), {p.layer}));
    const auto note_of = [](const level::StampLayer& l) { return std::get<level::Facts>(l.content).note(); };
    make::Small bare;
    make::save_with_pictures(bare.project, to.path());
    const ImportedStamp came = import_stamp(bare.project, to.path(), from.path(), text);
    REQUIRE(came.project.note_kinds.size() == 1);
    CHECK(came.project.note_kinds[0].name == "Ore");
    CHECK(note_of(came.stamp.layers[0]) == came.project.note_kinds[0].id);
    CHECK(std::get<level::Facts>(came.stamp.layers[0].content).value({0, 0}) == 5);
    const ImportedStamp again = import_stamp(came.project, to.path(), from.path(), text);
    CHECK(again.project.note_kinds == came.project.note_kinds);
    level::Project other = bare.project;
    level::NoteKind text_note;
    text_note.name = "Ore";
    other = add_note_kind(other, text_note);
    CHECK(note_of(import_stamp(other, to.path(), from.path(), text).stamp.layers[0]) == 0);
}

TEST_CASE("a note that goes takes its values along, on tiles, marks and cells", "[edit][facts]") {
    Ores p;
    p.lay(p.hand(5), {2, 3, 2, 1});
    level::Level level = place_mark_over(p.small.level(), 500, level::MarkKind::note, "Vein", Box{1, 1, 3, 2});
    level = change_mark(level, 500, [&](level::Mark& m) { m.notes[p.ore] = 4.0; });
    p.small.set(level);
    CHECK(noted(p.small.project, p.ore) == 3);
    const level::Project without = remove_note_kind(p.small.project, p.ore);
    const level::Level& left = *without.level(p.small.id);
    CHECK(left.marks.back().notes.empty());
    CHECK(left.layer(p.layer)->facts()->cells().count() == 0);
    CHECK(left.layer(p.layer)->facts()->note() == 0);
    // And can be read again.
    make::Folder dir;
    make::save_with_pictures(without, dir.path());
    CHECK(store::texts(store::load(dir.path())) == store::texts(without));
}

TEST_CASE("values, marks and sides come back from the disk, and strange ones are refused", "[edit][facts][store]") {
    const make::Small small = make::rich(5);
    make::Folder dir;
    make::save_with_pictures(small.project, dir.path());
    const level::Project again = store::load(dir.path());
    const level::Level& level = *again.level(small.id);
    CHECK(level.sides == small.level().sides);
    CHECK(level.marks == small.level().marks);
    CHECK(*level.layer(96)->facts() == *small.level().layer(96)->facts());
    const std::string cells = read_file(dir / "levels" / (small.id + ".cells"));
    const auto with = [&](const std::string& line) {
        std::string text = cells;
        const auto at = text.find("layer 96\n");
        REQUIRE(at != std::string::npos);
        const auto first = at + 9, end = text.find('\n', first);
        text.replace(first, end - first, line);
        write_file(dir / "levels" / (small.id + ".cells"), text);
        return [&] { store::load(dir.path()); };
    };
    CHECK_NOTHROW(with("0 0 6")());
    CHECK_THROWS_AS(with("0 0 1000002")(), InputError); // between the values above and below zero
    CHECK_THROWS_AS(with("0 0 6~1")(), InputError);     // a material
}

TEST_CASE("the engine gets values, marks and sides as they are", "[edit][facts][parcel]") {
    Ores p;
    p.lay(p.hand(5), {2, 3, 2, 1});
    p.lay(p.hand(-3), {4, 5, 1, 1});
    level::Level level = place_mark_over(p.small.level(), 500, level::MarkKind::note, "Vein", Box{1, 1, 3, 2});
    level = change_mark(level, 500, [&](level::Mark& m) {
        m.notes = {{p.ore, 4.0}, {p.ground, std::string("soft")}};
        m.colour = Rgba{10, 20, 30, 255};
    });
    level.sides[1] = {level::SideKind::blocks, {}};
    level.sides[3] = {level::SideKind::leads, p.small.id};
    p.small.set(level);
    make::Folder dir;
    parcel::build(p.small.project, p.small.level(), dir / "there");
    const vicinum::Level loaded = vicinum::load(dir / "there");
    REQUIRE(loaded.facts.size() == 1);
    const vicinum::Facts& facts = loaded.facts.front();
    CHECK(facts.note == "Ore");
    for (int y = 0; y < 12; ++y)
        for (int x = 0; x < 20; ++x) {
            const auto value = p.facts().value({x, y});
            REQUIRE((facts.value(x, y) != nullptr) == value.has_value());
            if (value) CHECK(*facts.value(x, y) == double(*value));
        }
    const vicinum::Mark& mark = loaded.marks.back();
    CHECK(mark.notes["Ore"] == 4.0);
    CHECK(mark.notes["Ground"] == "soft");
    REQUIRE(mark.colour);
    CHECK(mark.colour->g == 20);
    CHECK(loaded.sides[0].kind == "open");
    CHECK(loaded.sides[1].kind == "blocks");
    CHECK(loaded.sides[3].to == p.small.id);
    // Nothing of it is seen.
    level::Project bare = p.small.project;
    level::Level plain = p.small.level();
    plain = remove_layer(plain, p.layer);
    CHECK(picture::render(bare, plain, 1).pixels() == picture::render(p.small.project, p.small.level(), 1).pixels());
    // A parcel that was tampered with is refused.
    std::string bytes = read_file(dir / "there" / ("facts-" + std::to_string(p.layer) + ".u32"));
    bytes[0] = 9;
    write_file(dir / "there" / ("facts-" + std::to_string(p.layer) + ".u32"), bytes);
    CHECK_THROWS_AS(vicinum::load(dir / "there"), std::runtime_error);
}

TEST_CASE("a side that blocks stops the walker, one that leads on lets it go and says so", "[walk][sides]") {
    const auto view = GENERATE(level::View::from_above, level::View::from_the_side);
    make::Small small({10, 8}, view);
    level::Level level = place_mark(small.level(), 500, level::MarkKind::start, "Start", {5, 5});
    // From the side it needs something to stand on: the lower side.
    level.sides[2] = {level::SideKind::blocks, {}};
    const auto go = [&](const std::string& script) {
        small.set(level);
        make::Folder dir;
        parcel::build(small.project, small.level(), dir / "there");
        const vicinum::Level loaded = vicinum::load(dir / "there");
        return walk::play(loaded, walk::parse_script(script, "script"));
    };
    const walk::Try open = go("300 right");
    CHECK(open.fell_out);
    CHECK_FALSE(open.left_by);
    level.sides[1] = {level::SideKind::blocks, {}};
    const walk::Try stopped = go("300 right");
    CHECK_FALSE(stopped.fell_out);
    CHECK(stopped.end.x < 10);
    CHECK(stopped.end.x > 9);
    CHECK(stopped.end.y < 8.1);
    level.sides[3] = {level::SideKind::leads, "next"};
    const walk::Try left = go("300 left");
    CHECK(left.left_by == 3);
    CHECK_FALSE(left.fell_out);
    CHECK(left.end.x < 0.01);
    CHECK(left.ticks < 300);
    // Turned, the sides go along.
    const join::Rules rules(small.project);
    const level::Level quarter = turned(small.project, rules, small.level(), Turn{1});
    CHECK(quarter.sides[2].kind == level::SideKind::blocks); // was east
    CHECK(quarter.sides[0].kind == level::SideKind::leads);  // was west
}
