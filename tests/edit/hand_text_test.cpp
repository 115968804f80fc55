// Hands that are kept as text come back as they were, as far as their things are still there.
#include "edit/hand_text.hpp"
#include "edit/clips.hpp"

#include <catch2/catch.hpp>

#include "base/error.hpp"
#include "store/stamp_text.hpp"
#include "support/hands.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::edit;

TEST_CASE("Hands of every kind come back from text as they were", "[hand]") {
    make::Small small;
    level::Stamp stamp;
    stamp.size = {2, 2};
    stamp.layers.push_back({small.ground, "Ground", level::StampTiles{level::Grid({2, 2})}});
    small.project = keep_stamp(small.project, stamp, "Kept");
    const level::TileId tile = small.project.sheets.front()->tiles.front().id;
    std::vector<Hand> hands(9);
    hands[0].holds = held::Material{1};
    hands[0].size = 5;
    hands[0].round = true;
    hands[1].holds = held::Tile{tile};
    hands[1].turn = Turn{6};
    hands[2].holds = held::Spread{{{1, 0, Turn{}, 30}, {0, tile, Turn{3}, 70}}};
    hands[2].share_empty = 40;
    hands[2].seed = 77;
    hands[3].holds = held::Stamp{small.project.stamps.front(), true};
    hands[4] = blocker_hand(level::TileShape::slope_se);
    hands[5].holds = held::Prop{small.prop};
    hands[6].holds = held::Eraser{};
    const std::string text = hands_to_text(hands);
    CHECK(hands_from_text(text, small.project) == hands);

    // Of a project that has none of these things only the eraser and the blocker are left.
    const auto rest = hands_from_text(text, level::Project());
    for (std::size_t i = 0; i < rest.size(); ++i) CHECK((rest[i] == Hand{}) == (i != 4 && i != 6));
    CHECK_THROWS_AS(hands_from_text("1:2:3", small.project), InputError);
    CHECK_THROWS_AS(hands_from_text("[{\"kind\":\"wand\"}]", small.project), InputError);
}

TEST_CASE("What was copied comes back from the clipboard's text, and nothing else does", "[hand]") {
    const store::Copied copied{"/a \"b\"/ü", "{\n  \"name\": \"x\"\n}"};
    const store::Copied back = store::copied_from_text(store::copied_to_text(copied));
    CHECK(back.project == copied.project);
    CHECK(back.stamp == copied.stamp);
    for (const char* bad : {"", "[]", "{}", "{\"project\": 3, \"stamp\": \"\"}", "no json"})
        CHECK_THROWS_AS(store::copied_from_text(bad), InputError);
}
