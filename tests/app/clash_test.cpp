// Art of another size than the level's cells: said where it is seen, settled in one action.
#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QListView>
#include <cmath>

#include "app/lay/size_clash.hpp"
#include "app/window.hpp"
#include "edit/clash.hpp"
#include "join/mask.hpp"
#include "sheet/cut.hpp"
#include "store/project_files.hpp"

using namespace app_test;

namespace {

Image set_of_47(int side) {
    const auto masks = join::cases(level::JoinKind::full);
    return make::sheet(make::tiles(masks, side, make::Style::outlined, 7), 8, {}, {});
}

bool asks(Window& w) { return w.find<SizeClash>("sizeClash")->isVisible(); }

// A project from the side whose cells are of 16 px, with the set read as a material, in the Hand, in Lay.
void with_set_of(Window& w, int side) {
    w.click("startSide");
    w.drop(put(w, "Ground.png", set_of_47(16)));
    settle();
    w.key(Qt::Key_Return);
    w.drop(put(w, "Moss brick.png", set_of_47(side)));
    settle();
    w.key(Qt::Key_Return);
    REQUIRE(w.session().sheet()->accepted);
    w.click("readJoins");
    REQUIRE(w.session().material());
    w.key(Qt::Key_3, Qt::ControlModifier);
    REQUIRE(w.session().hand().is<edit::held::Material>());
}

} // namespace

TEST_CASE("a set of 32 px in a level of 16 px: one key, and its cells become 32 px", "[app][clash]") {
    Window w(false);
    with_set_of(w, 32);
    REQUIRE(asks(w));
    CHECK_THAT(w.reading().toStdString(), Catch::Contains("drawn at ½ of its size"));
    CHECK(w.find<QComboBox>("traySheets")->findText("Moss brick · ×½") >= 0);
    w.picture("clash");
    w.key(Qt::Key_Return);
    CHECK(w.level().cell == Size{32, 32});
    CHECK_FALSE(asks(w));
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.level().cell == Size{16, 16});
    CHECK(asks(w));
}

TEST_CASE("where something lies the tiles go over several cells, on a layer of their own", "[app][clash]") {
    Window w(false);
    with_set_of(w, 32);
    w.key(Qt::Key_Escape); // later
    CHECK_FALSE(asks(w));
    CHECK(w.session().hand().is<edit::held::Material>());
    w.view()->setCamera(2, QPointF(10.0 * 16, 10.0 * 16));
    w.hover({10, 10});
    REQUIRE_SOON(w.reading().contains("would be drawn at ½") && w.reading().contains("Lays"));
    w.clickCell({2, 2});
    w.key(Qt::Key_Escape); // the Hand is empty
    w.pickMaterial("Moss brick");
    REQUIRE(asks(w));
    REQUIRE(w.window->findChild<QWidget*>("clashCells") == nullptr); // the level is not empty
    w.click("clashLayer");
    CHECK_FALSE(asks(w));
    const level::Layer own = w.layer("Moss brick");
    CHECK(own.grain() == level::Grain{1, 2});
    CHECK(own.solid());
    CHECK(w.session().activeLayerId() == own.id);
    // What is laid there covers two by two cells, blocks, and is drawn pixel by pixel.
    w.dragCells({{4, 5}, {8, 5}});
    CHECK(w.layer("Moss brick").grid().bounds() == Box{4, 5, 5, 1});
    w.picture("clash-layer");
    // A tile of the first sheet goes back to a layer that has its cells.
    w.key(Qt::Key_Escape);
    w.session().setHand({edit::held::Tile{w.session().project().sheets[0]->tiles[3].id}});
    CHECK_FALSE(w.session().activeLayer()->grain().own());
    CHECK_FALSE(asks(w));
    // And back again by the material alone.
    w.pickMaterial("Moss brick");
    CHECK(w.session().activeLayerId() == own.id);
    // It is kept.
    w.key(Qt::Key_S, Qt::ControlModifier);
    settle();
    const level::Project kept = store::load(w.session().document().dir());
    CHECK(kept.levels[0]->layer(own.id)->grain() == level::Grain{1, 2});
}

TEST_CASE("any size will do, as the designer decides, and says so in Cut", "[app][clash]") {
    Window w(false);
    with_set_of(w, 32);
    w.click("clashDrawn");
    CHECK_FALSE(asks(w));
    CHECK(w.session().project().sheets[1]->any_size);
    w.key(Qt::Key_1, Qt::ControlModifier);
    w.session().setSheet(w.session().project().sheets[1]->id);
    auto* box = w.find<QCheckBox>("sheetAnySize");
    CHECK(box->isChecked());
    w.click("sheetAnySize");
    w.key(Qt::Key_3, Qt::ControlModifier);
    CHECK(asks(w));
}

TEST_CASE("smaller art gets a layer of finer cells", "[app][clash]") {
    Window w(false);
    w.click("startSide");
    w.drop(put(w, "Ground.png", set_of_47(32)));
    settle();
    w.key(Qt::Key_Return);
    REQUIRE(w.level().cell == Size{32, 32});
    w.drop(put(w, "Pebbles.png", set_of_47(16)));
    settle();
    w.key(Qt::Key_Return);
    w.key(Qt::Key_3, Qt::ControlModifier);
    w.session().setHand({edit::held::Tile{w.session().project().sheets[1]->tiles[5].id}});
    REQUIRE(asks(w));
    CHECK_THAT(w.reading().toStdString(), Catch::Contains("enlarged ×2"));
    w.click("clashLayer");
    CHECK(w.layer("Pebbles").grain() == level::Grain{2, 1});
    w.view()->setCamera(1, QPointF(4.0 * 32, 4.0 * 32));
    w.dragCells({{3, 3}, {5, 3}});
    CHECK(w.layer("Pebbles").grid().bounds().w >= 2);
}

TEST_CASE("the lens marks what is drawn so that pixels are not whole", "[app][clash]") {
    Window w(false);
    with_set_of(w, 24); // 24 px in cells of 16
    w.click("clashDrawn");
    w.view()->setCamera(2, QPointF(10.0 * 16, 10.0 * 16));
    w.dragCells({{6, 6}, {12, 6}});
    w.hover({9, 6});
    const auto ochre = [&] {
        const QImage image = w.view()->grab().toImage();
        const QPoint middle = w.view()->cellCentre({7, 6});
        int n = 0;
        for (int y = -17; y < 17; ++y)
            for (int x = -17; x < 17; ++x) {
                const QColor c = image.pixelColor(middle + QPoint(x, y));
                n += c.red() > 190 && c.green() > 130 && c.blue() < 110;
            }
        return n;
    };
    CHECK(ochre() == 0);
    w.key(Qt::Key_U);
    CHECK(ochre() > 20);
    CHECK_THAT(w.view()->honestyThere().toStdString(), Catch::Contains("24 px of art in 16 px: whole at 24 px"));
    w.picture("honesty");
    w.key(Qt::Key_U);
    CHECK(ochre() == 0);
    CHECK(w.view()->honestyThere().isEmpty());
}

TEST_CASE("in an isometric level it is the widths of diamonds that are settled", "[app][clash]") {
    const auto diamonds = [](int wide) {
        std::vector<Image> tiles;
        for (int i = 0; i < 8; ++i) {
            Image tile({wide, wide / 2 + 4}, {});
            for (int y = 0; y < wide / 2; ++y)
                for (int x = 0; x < wide; ++x)
                    if (std::abs(2.0 * x + 1 - wide) / wide + std::abs(4.0 * y + 2 - wide) / wide <= 1)
                        for (int down = 0; down <= 4; ++down)
                            tile.set(
                                x, y + down,
                                {static_cast<std::uint8_t>(60 + 20 * i), 120, static_cast<std::uint8_t>(40 + x), 255});
            tiles.push_back(tile);
        }
        return make::sheet(tiles, 4, {}, {});
    };
    Window w(false);
    w.click("startIsometric");
    w.drop(put(w, "Yard.png", diamonds(32)));
    settle();
    w.key(Qt::Key_Return);
    REQUIRE(w.session().sheet()->accepted);
    w.drop(put(w, "Large yard.png", diamonds(64)));
    settle();
    w.key(Qt::Key_Return);
    REQUIRE(w.session().sheet()->cut.tile.w == 64);
    w.key(Qt::Key_3, Qt::ControlModifier);
    settle();
    const Size before = w.level().cell;
    REQUIRE(before.w == 32);
    w.session().setHand({edit::held::Tile{w.session().sheet()->tiles[0].id}});
    settle();
    REQUIRE(asks(w));
    w.picture("clash-aslant");
    REQUIRE(w.window->findChild<QWidget*>("clashLayer") == nullptr);
    w.click("clashCells");
    CHECK(w.level().cell == Size{64, 64 * before.h / before.w});
    CHECK_FALSE(asks(w));
}
