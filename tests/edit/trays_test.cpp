#include <catch2/catch.hpp>

#include "base/error.hpp"
#include "edit/sheets.hpp"
#include "edit/trays.hpp"
#include "store/project_files.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::edit;
using Kind = level::TrayItem::Kind;

TEST_CASE("a tray holds its things first, then its sheets and tags, each once", "[trays]") {
    make::Small small;
    small.project = change_tiles(small.project, {2, 3, 50}, [](level::Tile& t) { t.tags = {"shore"}; });
    level::OwnTray tray;
    tray.name = "Dry season";
    tray.folder = " Ponds / /Seasons ";
    tray.items = {{Kind::prop, small.prop}, {Kind::tile, 50}, {Kind::material, 1}, {Kind::tile, 999999}};
    tray.sheets = {small.project.sheets[1]->id, 777777};
    tray.tags = {"shore"};
    const level::Project p = put_tray(small.project, tray);
    REQUIRE(p.trays.size() == 1);
    CHECK(p.trays[0].folder == "Ponds/Seasons");
    CHECK(p.trays[0].id != 0);
    const auto content = tray_content(p, p.trays[0]);
    REQUIRE(content.size() >= 3 + 2);
    CHECK(content[0] == level::TrayItem{Kind::prop, small.prop});
    CHECK(content[1] == level::TrayItem{Kind::tile, 50});
    CHECK(content[2] == level::TrayItem{Kind::material, 1});
    CHECK(std::set<level::TrayItem>(content.begin(), content.end()).size() == content.size());
    for (const level::Tile& t : p.sheets[1]->tiles)
        CHECK((std::find(content.begin(), content.end(), level::TrayItem{Kind::tile, t.id}) != content.end()) ==
              !t.blank);
    CHECK(std::find(content.begin(), content.end(), level::TrayItem{Kind::tile, 3}) != content.end());
    CHECK(std::find(content.begin(), content.end(), level::TrayItem{Kind::tile, 999999}) == content.end());
}

TEST_CASE("trays have names of their own in their folder", "[trays]") {
    make::Small small;
    level::OwnTray tray;
    CHECK(tray_trouble(small.project, tray).english().find("name") != std::string::npos);
    tray.name = "Flood";
    tray.folder = "Seasons";
    level::Project p = put_tray(small.project, tray);
    CHECK(tray_trouble(p, tray).english().find("already, in Seasons") != std::string::npos);
    tray.folder = "Elsewhere";
    CHECK(tray_trouble(p, tray).empty());
    // A tray may keep its own name when it is changed.
    level::OwnTray changed = p.trays[0];
    changed.colour = {1, 2, 3, 255};
    CHECK(tray_trouble(p, changed).empty());
    p = put_tray(p, changed);
    REQUIRE(p.trays.size() == 1);
    CHECK(p.trays[0].colour == Rgba{1, 2, 3, 255});
    CHECK(remove_tray(p, p.trays[0].id).trays.empty());
}

TEST_CASE("trays are saved with the project", "[trays][store]") {
    make::Small small;
    level::OwnTray tray;
    tray.name = "Überflutung";
    tray.folder = "Jahr/Winter";
    tray.colour = {24, 118, 111, 255};
    tray.sheets = {small.project.sheets[1]->id};
    tray.tags = {"nass", "salzig"};
    tray.items = {{Kind::material, 2}, {Kind::tile, 4}, {Kind::prop, small.prop}};
    small.project = put_tray(small.project, tray);
    make::Folder dir;
    make::save_with_pictures(small.project, dir / "p");
    CHECK(store::load(dir / "p").trays == small.project.trays);
}

TEST_CASE("things are found by name, tag and sheet", "[trays]") {
    make::Small small;
    small.project = change_tiles(small.project, {7}, [](level::Tile& t) {
        t.name = "Sluice left";
        t.tags = {"water"};
    });
    const auto find = [&](const std::string& word, std::size_t most = 100) {
        return find_things(
            small.project, [&](const std::string& text) { return text.find(word) != std::string::npos; }, most);
    };
    CHECK(find("Sluice") == std::vector<level::TrayItem>{{Kind::tile, 7}});
    CHECK(find("water") == std::vector<level::TrayItem>{{Kind::tile, 7}});
    CHECK(find("Rock").front() == level::TrayItem{Kind::material, 1});
    CHECK(find(small.project.prop_kind(small.prop)->name).front() == level::TrayItem{Kind::prop, small.prop});
    CHECK(find("no such thing").empty());
    CHECK(find("", 5).size() == 5);
    // By the sheet's name: those with a name of their own first.
    const auto sheet = find(small.project.sheets[0]->name);
    CHECK(std::find(sheet.begin(), sheet.end(), level::TrayItem{Kind::tile, 8}) != sheet.end());
}
