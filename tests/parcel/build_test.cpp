#include <sys/stat.h>

#include <catch2/catch.hpp>
#include <functional>

#include "base/files.hpp"
#include "edit/stroke.hpp"
#include "outline/trace.hpp"
#include "parcel/atlas.hpp"
#include "parcel/build.hpp"
#include "sheet/cut.hpp"
#include "sheet/png.hpp"
#include "support/hands.hpp"
#include "support/make.hpp"
#include "vicinum_level.hpp"

using namespace vic;

namespace {

make::Small painted(unsigned seed) {
    make::Small small({60, 45});
    make::Random random(seed);
    const join::Rules rules(small.project);
    level::Level level = small.level();
    for (int i = 0; i < 14; ++i) {
        const edit::Hand hand = make::material(1 + random.below(2));
        level =
            edit::lay(small.project, rules, level, small.ground, hand,
                      edit::box_cells({random.below(55), random.below(40), 2 + random.below(9), 2 + random.below(7)}))
                .level;
    }
    level.edit(small.front).grid().set({7, 9}, level::Cell(4, {6}, true), 0);
    level.edit(small.props).props() =
        level::Props({{500, small.prop, {100, 120}, {false}}, {501, small.prop, {90, 60}, {true}}});
    level.marks = {{502, "Start", level::MarkKind::start, {1, 1, 1, 1}}};
    small.set(level);
    return small;
}

} // namespace

TEST_CASE("a parcel read back is the level", "[parcel]") {
    make::Folder dir;
    const make::Small small = painted(1);
    const auto built = parcel::build(small.project, small.level(), dir / "place");
    const vicinum::Level back = vicinum::load(built.dir);
    CHECK(back.name == "Place");
    CHECK(back.size.x == 60);
    REQUIRE(back.layers.size() == 3);
    const Image atlas = sheet::read_png(built.dir / back.atlas);
    const level::TileTable tiles(small.project);
    for (std::size_t l = 0; l < 3; ++l) {
        const level::Layer& layer = *small.level().layers[l];
        if (layer.kind() != level::LayerKind::tiles) continue;
        CHECK(back.layers[l].id == layer.id);
        for (int y = 0; y < 45; ++y)
            for (int x = 0; x < 60; ++x) {
                const level::Cell mine = layer.grid().cell({x, y});
                const vicinum::Cell theirs = back.layers[l].cell(x, y);
                REQUIRE(theirs.empty() == mine.empty());
                if (mine.empty()) continue;
                const vicinum::Tile& t = back.tiles[theirs.tile()];
                REQUIRE(t.id == mine.tile());
                CHECK(theirs.quarters() == mine.turn().quarters());
                CHECK(theirs.mirrored() == mine.turn().mirrored());
            }
    }
    // Each tile's picture stands in the atlas, its edge pixels once more around it.
    for (const auto& t : back.tiles) {
        const auto ref = tiles.find(t.id);
        const Image art = sheet::tile_art(*ref.sheet, *ref.tile);
        for (int y = -1; y <= 16; ++y)
            for (int x = -1; x <= 16; ++x)
                REQUIRE(atlas.at(t.atlas.x + x, t.atlas.y + y) == art.at(std::clamp(x, 0, 15), std::clamp(y, 0, 15)));
    }
    const level::PropKinds props(small.project);
    const auto outlines = outline::outlines(outline::trace(small.level(), {tiles, props}));
    REQUIRE(back.outlines.size() == outlines.size());
    for (std::size_t i = 0; i < outlines.size(); ++i) {
        CHECK(back.outlines[i].hole == outlines[i].hole);
        REQUIRE(back.outlines[i].points.size() == outlines[i].points.size());
    }
    // Props come in drawing order.
    REQUIRE(back.layers[1].props.size() == 2);
    CHECK(back.layers[1].props[0].id == 501);
    CHECK(back.layers[1].props[0].mirrored);
    CHECK(back.prop_kinds[0].blocks);
    CHECK(back.marks[0].kind == "start");
}

TEST_CASE("the atlas holds what is used and nothing else", "[parcel]") {
    make::Folder dir;
    make::Small small;
    level::Level level = small.level();
    level.edit(small.ground).grid().set({0, 0}, level::Cell(3), 0);
    level.edit(small.ground).grid().set({1, 0}, level::Cell(9), 0);
    level.edit(small.ground).grid().set({2, 0}, level::Cell(60000), 0); // gone
    small.set(level);
    parcel::build(small.project, small.level(), dir / "a");
    const vicinum::Level back = vicinum::load(dir / "a");
    REQUIRE(back.tiles.size() == 2);
    CHECK(back.tiles[0].id == 3);
    CHECK(back.prop_kinds.empty());
    CHECK(back.layers[0].cell(2, 0).empty());
    CHECK(back.layers[0].box.w == 2);
}

TEST_CASE("the same project gives the same bytes", "[parcel]") {
    CHECK(parcel::files(painted(2).project, painted(2).level()) ==
          parcel::files(painted(2).project, painted(2).level()));
    // Also after going through the disk.
    make::Folder a;
    const make::Small small = painted(2);
    parcel::build(small.project, small.level(), a / "p");
    const auto once = make::contents(a / "p");
    parcel::build(small.project, small.level(), a / "p");
    CHECK(make::contents(a / "p") == once);
    CHECK(once == parcel::files(small.project, small.level()));
}

TEST_CASE("a parcel is put in place whole and leaves nothing beside it", "[parcel]") {
    make::Folder dir;
    make::Small small = painted(3);
    parcel::build(small.project, small.level(), dir / "p");
    level::Level level = small.level();
    level.layers.erase(level.layers.begin()); // fewer files than before
    level.plane = 1;
    small.set(level);
    parcel::build(small.project, small.level(), dir / "p");
    CHECK(make::contents(dir / "p") == parcel::files(small.project, small.level()));
    int entries = 0;
    for ([[maybe_unused]] const auto& e : fs::directory_iterator(dir.path())) ++entries;
    CHECK(entries == 1);
}

TEST_CASE("what an engine keeps beside the parcel's files is still there after the next build", "[parcel]") {
    make::Folder dir;
    make::Small small = painted(1);
    const fs::path to = dir / "place";
    parcel::build(small.project, small.level(), to);
    write_file(to / "level.json.cache", "the engine's");
    fs::create_directories(to / "notes" / "deep");
    write_file(to / "notes" / "deep" / "mine.txt", "mine");
    fs::create_symlink("level.json", to / "link");
    write_file(to / "cells-4711.u32", "of a layer that is no more");
    level::Level next = small.level();
    next.name = "Changed";
    small.set(next);
    parcel::build(small.project, small.level(), to);
    CHECK(vicinum::load(to).name == "Changed");
    CHECK(read_file(to / "level.json.cache") == "the engine's");
    CHECK(read_file(to / "notes" / "deep" / "mine.txt") == "mine");
    CHECK(fs::read_symlink(to / "link") == "level.json");
    CHECK_FALSE(fs::exists(to / "cells-4711.u32")); // the parcel's own
    CHECK(std::distance(fs::directory_iterator(dir.path()), {}) == 1);
}

TEST_CASE("a folder of something else is never replaced", "[parcel]") {
    make::Folder dir;
    const make::Small small = painted(4);
    fs::create_directories(dir / "mine");
    write_file(dir / "mine/notes.txt", "keep");
    write_file(dir / "file", "keep");
    CHECK_THROWS_AS(parcel::build(small.project, small.level(), dir / "mine"), InputError);
    CHECK_THROWS_AS(parcel::build(small.project, small.level(), dir / "file"), InputError);
    CHECK(read_file(dir / "mine/notes.txt") == "keep");
    fs::create_directories(dir / "empty");
    CHECK(parcel::build(small.project, small.level(), dir / "empty").files == 5);
}

TEST_CASE("no link decides where a parcel is written", "[parcel]") {
    make::Folder dir;
    make::Small small = painted(1);
    const fs::path project = dir / "project", elsewhere = dir / "elsewhere";
    fs::create_directories(project / "own");
    fs::create_directories(elsewhere);
    // One that lies in the project, at any depth.
    fs::create_directory_symlink(elsewhere, project / "built");
    fs::create_directory_symlink(elsewhere, project / "own" / "deep");
    CHECK_THROWS_AS(parcel::place(project, project / "built", small.id), InputError);
    CHECK_THROWS_AS(parcel::place(project, project / "own" / "deep" / "new", small.id), InputError);
    CHECK(parcel::place(project, project / "own", small.id) == project / "own" / small.id);
    // One of the user's own, outside of the project, he may well have made; but it stays what it is.
    CHECK(parcel::place(project, dir / "elsewhere", small.id) == elsewhere / small.id);
    fs::create_directory_symlink(elsewhere, dir / "link");
    CHECK(parcel::place(project, dir / "link", small.id) == dir / "link" / small.id);
    CHECK_THROWS_AS(parcel::build(small.project, small.level(), dir / "link"), InputError);
    CHECK(fs::is_symlink(dir / "link"));
    CHECK(fs::is_empty(elsewhere));
}

TEST_CASE("pictures in an atlas do not overlap, edges included", "[atlas]") {
    make::Random random(5);
    for (int round = 0; round < 40; ++round) {
        std::vector<Image> pictures;
        for (int i = random.below(60); i >= 0; --i)
            pictures.emplace_back(Size{1 + random.below(40), 1 + random.below(50)},
                                  Rgba{static_cast<std::uint8_t>(i), 1, 2, 255});
        const auto atlas = parcel::pack(pictures, 16384);
        REQUIRE(atlas);
        for (std::size_t i = 0; i < pictures.size(); ++i) {
            CHECK(atlas->places[i].size() == pictures[i].size());
            CHECK(box_of(atlas->image.size()).contains(atlas->places[i].grown(1)));
            for (std::size_t j = 0; j < i; ++j)
                REQUIRE(intersection(atlas->places[i].grown(1), atlas->places[j].grown(1)).empty());
            CHECK(cropped(atlas->image, atlas->places[i]) == pictures[i]);
        }
    }
    CHECK_FALSE(parcel::pack({Image({100, 100})}, 64));
    CHECK(parcel::pack({}, 64)->image.size().area() > 0);
}

TEST_CASE("a damaged parcel is refused by the runtime", "[runtime]") {
    make::Folder dir;
    const make::Small small = painted(6);
    parcel::build(small.project, small.level(), dir / "p");
    const std::string good = read_file(dir / "p/level.json");
    CHECK_NOTHROW(vicinum::load(dir / "p"));
    const auto refused = [&](const std::string& from, const std::string& to) {
        std::string text = good;
        const auto at = text.find(from);
        REQUIRE(at != std::string::npos);
        write_file(dir / "p/level.json", text.replace(at, from.size(), to));
        INFO(to);
        CHECK_THROWS_AS(vicinum::load(dir / "p"), std::runtime_error);
    };
    refused("vicinum-parcel", "other");
    refused("\"version\": 5", "\"version\": 9");
    refused("\"atlas.png\"", "\"../atlas.png\"");
    refused("\"kind\": \"tiles\"", "\"kind\": \"clouds\"");
    refused("\"ground\": \"#", "\"ground\": \"zz");
    refused("{", "");
    write_file(dir / "p/level.json", good.substr(0, good.size() / 3));
    CHECK_THROWS_AS(vicinum::load(dir / "p"), std::runtime_error);
    write_file(dir / "p/level.json", good);
    for (const auto& [name, bytes] : make::contents(dir / "p")) {
        if (!name.ends_with(".u32") || bytes.empty()) continue;
        write_file(dir / "p" / name, bytes.substr(4));
        CHECK_THROWS_AS(vicinum::load(dir / "p"), std::runtime_error);
        std::string high = bytes;
        high[0] = high[1] = high[2] = '\xff';
        write_file(dir / "p" / name, high);
        CHECK_THROWS_AS(vicinum::load(dir / "p"), std::runtime_error);
        write_file(dir / "p" / name, bytes);
    }
    CHECK_THROWS_AS(vicinum::load(dir / "nowhere"), std::runtime_error);
}

TEST_CASE("names that lead out of a parcel are refused by the runtime on any system", "[runtime]") {
    make::Folder dir;
    const make::Small small = painted(1);
    parcel::build(small.project, small.level(), dir / "place");
    const std::string good = read_file(dir / "place" / "level.json");
    const std::string name = "\"atlas.png\"";
    for (const char* bad : {"../x", "..\\\\x", "C:x", "a/b", "..", ".", "", "a\\u0000b"}) {
        std::string json = good;
        json.replace(json.find(name), name.size(), "\"" + std::string(bad) + "\"");
        write_file(dir / "place" / "level.json", json);
        INFO(bad);
        CHECK_THROWS(vicinum::load(dir / "place"));
    }
}

TEST_CASE("what an engine must not be given is refused by the runtime, with its file and place", "[runtime]") {
    make::Folder dir;
    const make::Small small = painted(6);
    parcel::build(small.project, small.level(), dir / "p");
    const nlohmann::json good = nlohmann::json::parse(read_file(dir / "p/level.json"));
    REQUIRE(good["outlines"].size() > 0);
    using nlohmann::json;
    std::string deep(200000, '[');
    deep += std::string(200000, ']');
    const std::vector<std::pair<std::string, std::function<void(json&)>>> bad{
        {"a frame of nothing",
         [](json& j) {
             j["frame"] = {0, 0};
         }},
        {"a huge frame",
         [](json& j) {
             j["frame"] = {2147483648LL, 16};
         }},
        {"a level of more cells than there are numbers",
         [](json& j) {
             j["size"] = {100000000000LL, 4};
         }},
        {"cells of no size",
         [](json& j) {
             j["cell"] = {16, 0};
         }},
        {"half a cell",
         [](json& j) {
             j["cell"] = {16.5, 16};
         }},
        {"two points at one place", [](json& j) { j["outlines"][0]["points"] = {0, 0, 64, 0, 64, 0, 0, 64}; }},
        {"a point between two", [](json& j) { j["outlines"][0]["points"] = {0, 0, 32, 0, 64, 0, 0, 64}; }},
        {"two points",
         [](json& j) {
             j["outlines"][0]["points"] = {0, 0, 64, 0};
         }},
        {"half a point", [](json& j) { j["outlines"][0]["points"].push_back(3); }},
        {"an outline far away", [](json& j) { j["outlines"][0]["points"] = {0, 0, 64, 0, 2000000000, 64}; }},
        {"a one-way edge of no length",
         [](json& j) {
             j["one_way"].push_back({{"from", {0, 0}}, {"to", {0, 0}}, {"side", "north"}});
         }},
        {"an edge with no side",
         [](json& j) {
             j["one_way"].push_back({{"from", {0, 0}}, {"to", {64, 0}}, {"side", "up"}});
         }},
        {"a tile outside the atlas",
         [](json& j) {
             j["tiles"][0]["box"] = {4000, 0, 16, 16};
         }},
        {"a tile without an area", [](json& j) { j["tiles"][0]["box"][2] = 0; }},
        {"a tile before the atlas", [](json& j) { j["tiles"][0]["box"][0] = -1; }},
        {"a prop without a size", [](json& j) { j["prop_kinds"][0]["box"][3] = 0; }},
        {"a walker of no size",
         [](json& j) {
             j["walker"]["size"] = {0, 0};
         }},
        {"a walker that is text", [](json& j) { j["walker"]["speed"] = "fast"; }},
        {"a plane in front of everything", [](json& j) { j["plane"] = 99; }},
        {"a negative id", [](json& j) { j["tiles"][0]["id"] = -1; }},
        {"a layer that is not an object", [](json& j) { j["layers"][0] = 7; }},
        {"a colour of letters", [](json& j) { j["ground"] = "#gggggg"; }},
        {"a picture elsewhere", [](json& j) { j["atlas"]["file"] = "..\\x.png"; }},
    };
    for (const auto& [name, spoil] : bad) {
        INFO(name);
        json j = good;
        spoil(j);
        write_file(dir / "p/level.json", j.dump());
        try {
            vicinum::load(dir / "p");
            FAIL("loaded");
        } catch (const std::runtime_error& e) {
            CHECK(std::string(e.what()).find("level.json: ") != std::string::npos);
        }
    }
    json notes = good;
    notes["tiles"][0]["notes"] = "HERE";
    std::string text = notes.dump();
    text.replace(text.find("\"HERE\""), 6, "{\"a\":" + deep + "}");
    write_file(dir / "p/level.json", text);
    CHECK_THROWS_WITH(vicinum::load(dir / "p"), Catch::Contains("nested"));
    fs::remove(dir / "p/level.json");
    REQUIRE(::mkfifo((dir / "p/level.json").c_str(), 0600) == 0);
    CHECK_THROWS_WITH(vicinum::load(dir / "p"), Catch::Contains("regular file"));
}

TEST_CASE("credits of what the level shows, and of nothing else, go with the parcel", "[parcel]") {
    make::Small small;
    level::Sheet full = *small.project.sheets.front();
    full.credits = {"Ada Marsh", "CC BY 4.0", "drawn for us\nin two parts", "the second part is older"};
    small.project.put(full);
    const auto empty = parcel::files(small.project, small.level());
    CHECK(empty.at("CREDITS.txt") == "Art in \"Place\"\n");
    level::Level l = small.level();
    l.edit(small.ground).grid().set({2, 2}, level::Cell(full.tiles[3].id, {}, true), 0);
    const auto files = parcel::files(small.project, l);
    CHECK(files.at("CREDITS.txt") ==
          "Art in \"Place\"\n\nFull\n  by: Ada Marsh\n  licence: CC BY 4.0\n  source: drawn for us\n    in two parts\n"
          "  note: the second part is older\n");
}

TEST_CASE("solid shapes come along where the project asks for them", "[parcel]") {
    make::Folder dir;
    make::Small small = painted(6);
    parcel::build(small.project, small.level(), dir / "p");
    vicinum::Level back = vicinum::load(dir / "p");
    CHECK(back.parts.empty());
    CHECK(back.boxes.empty());
    const auto area = [](const vicinum::Level& level) {
        double out = 0;
        for (const auto& part : level.parts)
            for (std::size_t i = 0; i < part.size(); ++i) {
                const auto a = part[i], b = part[(i + 1) % part.size()];
                out += (double(a.x) * b.y - double(b.x) * a.y) / 2 / 64 / 64;
            }
        for (const auto& box : level.boxes) out += double(box.w) * box.h;
        return out;
    };
    double areas[4] = {};
    for (const auto shapes :
         {level::EngineShapes::parts, level::EngineShapes::rectangles, level::EngineShapes::cells}) {
        small.project.engine_shapes = shapes;
        parcel::build(small.project, small.level(), dir / "p");
        back = vicinum::load(dir / "p");
        areas[static_cast<std::size_t>(shapes)] = area(back);
        CHECK(back.boxes.empty() == (shapes == level::EngineShapes::parts));
        CHECK(area(back) > 10);
    }
    CHECK(std::abs(areas[1] - areas[2]) < 0.2);
    CHECK(areas[2] == areas[3]);
    // One that is bent inwards is refused.
    std::string text = read_file(dir / "p/level.json");
    const auto at = text.find("\"parts\": [");
    REQUIRE(at != std::string::npos);
    text.insert(at + 10, "[0, 0, 64, 0, 10, 10, 0, 64],");
    write_file(dir / "p/level.json", text);
    CHECK_THROWS_AS(vicinum::load(dir / "p"), std::runtime_error);
}
