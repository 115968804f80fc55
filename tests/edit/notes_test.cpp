#include "edit/notes.hpp"

#include <catch2/catch.hpp>

#include "base/error.hpp"
#include "base/files.hpp"
#include "edit/sheets.hpp"
#include "parcel/build.hpp"
#include "store/format.hpp"
#include "support/make.hpp"
#include "vicinum_level.hpp"

using namespace vic;
using namespace vic::edit;
using level::NoteType;

namespace {

level::Project noted_project() {
    make::Small small;
    level::Project p = small.project;
    p = add_note_kind(p, {0, "says", NoteType::text, {}});
    p = add_note_kind(p, {0, "ore", NoteType::number, {}});
    p = add_note_kind(p, {0, "burns", NoteType::yes_no, {}});
    p = add_note_kind(p, {0, "glow", NoteType::colour, {}});
    p = add_note_kind(p, {0, "step", NoteType::choice, {"stone", "wood", "wet"}});
    p = add_note_kind(p, {0, "drains", NoteType::side, {}});
    const auto id = [&](std::size_t i) { return p.note_kinds[i].id; };
    return change_tiles(p, {p.sheets.front()->tiles[3].id}, [&](level::Tile& t) {
        t.tags = {"shore", "wet"};
        t.turns = level::kMirrorOnly;
        t.notes = {{id(0), std::string("\"Mind\nthe step\"")},
                   {id(1), 5.5},
                   {id(2), false},
                   {id(3), Rgba{1, 2, 3, 128}},
                   {id(4), std::string("wet")},
                   {id(5), std::string("east")}};
    });
}

} // namespace

TEST_CASE("tags, turns and notes of every type come back from the file", "[notes]") {
    level::Project p = noted_project();
    p.levels.clear(); // levels have files of their own
    std::vector<std::string> ids;
    const level::Project back = store::project_from_text(store::project_to_text(p), "project.json", ids);
    CHECK(back.note_kinds == p.note_kinds);
    const level::Tile& was = p.sheets.front()->tiles[3];
    const level::Tile& now = back.sheets.front()->tiles[3];
    CHECK(now.tags == was.tags);
    CHECK(now.turns == was.turns);
    CHECK(now.notes == was.notes);
    CHECK(store::project_to_text(back) == store::project_to_text(p));
}

TEST_CASE("a note of another type than its kind is refused with its place", "[notes]") {
    const level::Project p = noted_project();
    const std::string good = store::project_to_text(p);
    std::vector<std::string> ids;
    const auto refused = [&](const std::string& from, const std::string& to) {
        std::string text = good;
        const auto at = text.find(from);
        REQUIRE(at != std::string::npos);
        text.replace(at, from.size(), to);
        try {
            store::project_from_text(text, "project.json", ids);
        } catch (const InputError& e) {
            return e.where.english() + ": " + e.problem.english();
        }
        return std::string("taken");
    };
    const auto key = [&](std::size_t i) { return "\"" + std::to_string(p.note_kinds[i].id) + "\":"; };
    CHECK(refused(key(1) + "5.5", key(1) + "\"many\"").find("This is not a number") != std::string::npos);
    CHECK(refused(key(4) + "\"wet\"", key(4) + "\"ice\"").find("is none of: stone, wood, wet") != std::string::npos);
    CHECK(refused(key(5) + "\"east\"", key(5) + "\"up\"").find("is none of: north, east, south, west") !=
          std::string::npos);
    CHECK(refused(key(2) + "false", "\"9999\":false").find("The project has no note 9999") != std::string::npos);
    CHECK(refused("\"name\":\"ore\"", "\"name\":\"says\"").find("Two notes are called") != std::string::npos);
    CHECK(refused("[\"stone\",\"wood\",\"wet\"]", "[]").find("nothing to choose") != std::string::npos);
}

TEST_CASE("tags and notes reach the parcel by name", "[notes]") {
    level::Project p = noted_project();
    level::Level l = *p.levels.front();
    l.edit(l.layers.front()->id).grid().set({1, 1}, level::Cell(p.sheets.front()->tiles[3].id, {}, true), 0);
    const auto parcel = store::parse_json(parcel::files(p, l).at("level.json"), "level.json");
    const auto& tile = parcel["tiles"][0];
    CHECK(tile["tags"] == store::Json({"shore", "wet"}));
    CHECK(tile["notes"]["ore"] == 5.5);
    CHECK(tile["notes"]["glow"] == "#01020380");
    CHECK(tile["notes"]["burns"] == false);
    CHECK(tile["notes"]["step"] == "wet");
}

TEST_CASE("a side turns with the tile, here and in the engine, as its pixels do", "[notes]") {
    level::Project p = noted_project();
    const level::NoteKind& drains = p.note_kinds.back();
    level::Level l = *p.levels.front();
    const level::TileId id = p.sheets.front()->tiles[3].id;
    for (std::uint8_t code = 0; code < 8; ++code)
        l.edit(l.layers.front()->id).grid().set({code, 1}, level::Cell(id, {code}, true), 0);
    make::Folder folder;
    for (const auto& [name, bytes] : parcel::files(p, l)) write_file(folder / name, bytes);
    const vicinum::Level engine = vicinum::load(folder.path());
    // The middle pixel of each side of a picture of 5 × 5.
    const Point middle[4] = {{2, 0}, {4, 2}, {2, 4}, {0, 2}};
    for (std::uint8_t code = 0; code < 8; ++code)
        for (std::size_t side = 0; side < 4; ++side) {
            std::size_t shown = 4;
            for (std::size_t i = 0; i < 4; ++i)
                if (source_pixel({code}, middle[i], 5) == middle[side]) shown = i;
            INFO("turn " << int(code) << ", side " << side);
            REQUIRE(shown < 4);
            CHECK(turned(drains, level::side_words()[side], {code}) == level::NoteValue(level::side_words()[shown]));
            if (side == 1)
                CHECK(engine.note(engine.layers.front().cell(code, 1), "drains") == level::side_words()[shown]);
        }
    CHECK(engine.note(engine.layers.front().cell(5, 1), "step") == "wet"); // all else stays as it is
    CHECK(engine.note(engine.layers.front().cell(5, 1), "nothing").is_null());
    CHECK(engine.note(vicinum::Cell{}, "drains").is_null());
}

TEST_CASE("a note that goes takes its values along, and no other", "[notes]") {
    const level::Project p = noted_project();
    const auto ore = p.note_kinds[1].id;
    CHECK(noted(p, ore) == 1);
    const level::Project gone = remove_note_kind(p, ore);
    CHECK(gone.note_kinds.size() == 5);
    CHECK(noted(gone, ore) == 0);
    CHECK(gone.sheets.front()->tiles[3].notes.size() == 5);
    CHECK(note_trouble(p, {0, "", NoteType::text, {}}).english() == "A note needs a name");
    CHECK(note_trouble(p, {0, "ore", NoteType::text, {}}).english() == "There is a note \"ore\" already");
    CHECK(note_trouble(p, {ore, "ore", NoteType::number, {}}).empty());
    CHECK_FALSE(note_trouble(p, {0, "kind", NoteType::choice, {}}).empty());
    for (const level::NoteKind& k : p.note_kinds) CHECK(level::fits(k, level::first_value(k)));
    CHECK_FALSE(level::fits(p.note_kinds[4], std::string("ice")));
}

TEST_CASE("tags are taken from what one types", "[notes]") {
    CHECK(parse_tags(" wet , shore,,wet, old stone ") == std::vector<std::string>{"old stone", "shore", "wet"});
    CHECK(parse_tags("").empty());
    CHECK(parse_tags(" , ").empty());
    CHECK(tags_text({"a", "b c"}) == "a, b c");
    CHECK(parse_tags(tags_text({"a", "b c"})) == std::vector<std::string>{"a", "b c"});
}

TEST_CASE("turning goes on to the next turn that a tile allows", "[turn]") {
    CHECK(allowed_turn(level::kNoTurns, {}, turned_right) == Turn{});
    CHECK(allowed_turn(level::kNoTurns, {}, mirrored) == Turn{});
    CHECK(allowed_turn(level::kMirrorOnly, {}, mirrored).code == 4);
    CHECK(allowed_turn(level::kMirrorOnly, {}, turned_right) == Turn{});
    CHECK(allowed_turn(level::kQuarterTurns, {}, turned_right).code == 1);
    CHECK(allowed_turn(0b00000101, {}, turned_right).code == 2); // half a turn only
    for (int mask = 1; mask < 256; mask += 2)
        for (std::uint8_t code = 0; code < 8; ++code) {
            if (!((mask >> code) & 1)) continue;
            for (auto* next : {&turned_left, &turned_right, &mirrored})
                CHECK(((mask >> allowed_turn(static_cast<std::uint8_t>(mask), {code}, *next).code) & 1));
        }
}
