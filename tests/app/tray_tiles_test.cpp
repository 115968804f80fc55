// Choosing among tiles: arranged, flowing, used; what is known of one.
#include <QAction>
#include <QComboBox>
#include <QMenu>
#include <QSettings>

#include "app/parts/picture_list.hpp"
#include "app/sheet/sheet_view.hpp"
#include "app/tray/tile_chooser.hpp"
#include "app/window.hpp"
#include "edit/sheets.hpp"

using namespace app_test;

TEST_CASE("tiles are chosen without gaps, or among those that the level uses", "[app][tray]") {
    QSettings().remove("tray/order");
    Window w;
    w.stage("stage-lay");
    w.click("trayTiles");
    w.choose("traySheets", "Clay");
    w.choose("trayOrder", "without gaps");
    auto* list = w.find<PictureList>("trayFlow");
    REQUIRE(list->isVisible());
    const level::Sheet* clay = w.session().project().sheet(w.find<SheetView>("traySheet")->sheetId());
    REQUIRE(clay);
    int filled = 0;
    for (const auto& t : clay->tiles) filled += !t.blank;
    CHECK(list->count() == filled);
    const level::TileId third = clay->tiles[2].id;
    QRect place = list->visualRect(list->model()->index(2, 0));
    w.clickAt(list->viewport(), place.center());
    CHECK(w.session().hand().tile() == third);
    w.choose("traySize", "300 %");
    place = list->visualRect(list->model()->index(0, 0));
    CHECK(place.width() >= 3 * clay->cut.tile.w);
    w.picture("tray-flow");
    // Only those that lie in the level.
    w.choose("trayOrder", "used in this level");
    const auto counts = edit::tile_counts(w.level());
    int used = 0;
    for (const auto& t : clay->tiles) used += !t.blank && counts.contains(t.id);
    REQUIRE(used > 0);
    REQUIRE_SOON(list->count() == used);
    // It is remembered.
    w.restart();
    w.click("trayTiles");
    CHECK(w.find<QComboBox>("trayOrder")->currentText() == "used in this level");
    w.choose("trayOrder", "as on the sheet");
    CHECK(w.find<SheetView>("traySheet")->isVisibleTo(w.find<QWidget>("tileChooser")));
}

TEST_CASE("the right button says what is known of a tile", "[app][tray]") {
    Window w;
    w.stage("stage-lay");
    w.click("trayTiles");
    w.choose("traySheets", "Clay");
    auto* sheet = w.find<SheetView>("traySheet");
    const level::TileId tile = w.session().project().sheet(sheet->sheetId())->tiles[1].id;
    w.clickAt(sheet, sheet->tileCentre(1), Qt::RightButton);
    auto* menu = w.find<QMenu>("tileMenu");
    REQUIRE(menu->isVisible());
    QStringList texts;
    for (const QAction* a : menu->actions()) texts << a->text();
    const QString all = texts.join("\n");
    CHECK(all.contains("px of Clay"));
    CHECK(all.contains("Clay: "));
    CHECK(all.contains("blocks nothing")); // ground of a level from above
    CHECK(tileFacts(w.session(), tile, 3).last() == "lies in 3 cells of this level");
    for (QAction* a : menu->actions())
        if (a->text() == "Show it in Cut") a->trigger();
    CHECK(w.session().stage() == Stage::cut);
    CHECK(w.session().tiles() == std::vector<level::TileId>{tile});
}
