// The Cut stage by mouse and keys: islands, pulled lines, nudges.
#include "app/window.hpp"

#include <QApplication>
#include <QImage>
#include <QLabel>
#include <QPoint>
#include <QPushButton>
#include <QRect>
#include <QSpinBox>
#include <QString>
#include <QTest>

#include "app/sheet/sheet_view.hpp"
#include "edit/props.hpp"
#include "join/mask.hpp"
#include "level/level.hpp"
#include "level/material.hpp"
#include "sheet/cut.hpp"
#include "sheet/png.hpp"

using namespace app_test;

namespace {

Image loose_things() {
    Image image({120, 60});
    const auto fill = [&](const Box& b, Rgba c) {
        for (int y = b.y; y < b.bottom(); ++y)
            for (int x = b.x; x < b.right(); ++x) image.set(x, y, c);
    };
    fill({6, 6, 20, 30}, {90, 60, 40, 255});
    fill({40, 8, 24, 10}, {60, 90, 40, 255});
    fill({40, 20, 24, 14}, {60, 90, 80, 255}); // two pixels below: the same thing
    fill({80, 10, 12, 26}, {60, 40, 90, 255});
    fill({110, 50, 2, 1}, {1, 1, 1, 255}); // a speck
    return image;
}

QString put(Window& w, const char* name, const Image& image) {
    write_file(w.folder / name, sheet::encode_png(image));
    return QString::fromStdString((w.folder / name).string());
}

std::vector<level::PropKind> kinds(Window& w) {
    std::vector<level::PropKind> out;
    for (const auto& k : w.session().project().prop_kinds)
        if (k->sheet == w.session().sheetId()) out.push_back(*k);
    return out;
}

void clickImage(SheetView* view, Point pixel, Qt::KeyboardModifiers modifiers = {}) {
    QTest::mouseClick(view, Qt::LeftButton, modifiers, view->placeOf(pixel) + QPoint(1, 1));
}

void dragImage(SheetView* view, Point from, Point to) {
    const QPoint a = view->placeOf(from) + QPoint(1, 1);
    const QPoint b = view->placeOf(to) + QPoint(1, 1);
    QTest::mousePress(view, Qt::LeftButton, {}, a);
    QTest::mouseMove(view, (a + b) / 2);
    QTest::mouseMove(view, b);
    QTest::mouseRelease(view, Qt::LeftButton, {}, b);
}

} // namespace

TEST_CASE("islands: found, adjusted live, taken, merged, split, moved, drawn, removed, and all taken back", "[cut]") {
    Window w;
    w.drop(put(w, "things.png", loose_things()));
    auto* view = w.find<SheetView>("sheetView");
    w.click("modeIslands");
    auto* count = w.find<QLabel>("islandCount");
    CHECK(count->text() == "3 islands, one speck");
    auto* gap = w.find<QSpinBox>("joinGap");
    gap->setFocus();
    gap->selectAll();
    QTest::keyClicks(gap, "0");
    QTest::keyClick(gap, Qt::Key_Return);
    CHECK(count->text() == "4 islands, one speck");
    gap->selectAll();
    QTest::keyClicks(gap, "2");
    QTest::keyClick(gap, Qt::Key_Return);
    CHECK(count->text() == "3 islands, one speck");
    w.click("takeIslands");
    REQUIRE(kinds(w).size() == 3);
    CHECK(kinds(w)[1].box == Box{40, 8, 24, 26});
    CHECK_FALSE(w.find<QPushButton>("takeIslands")->isEnabled());

    // The middle one falls into its two parts, which are merged again with J.
    clickImage(view, {50, 12});
    w.click("splitKind");
    CHECK(kinds(w).size() == 4);
    clickImage(view, {50, 12});
    clickImage(view, {50, 28}, Qt::ControlModifier);
    view->setFocus();
    QTest::keyClick(view, Qt::Key_J);
    REQUIRE(kinds(w).size() == 3);
    CHECK(kinds(w)[1].box == Box{40, 8, 24, 26});

    // Moved by dragging, nudged by a key.
    clickImage(view, {85, 20});
    dragImage(view, {85, 20}, {87, 23});
    CHECK(kinds(w)[2].box == Box{82, 13, 12, 26});
    QTest::keyClick(view, Qt::Key_Left);
    CHECK(kinds(w)[2].box == Box{81, 13, 12, 26});

    // The pivot by a preset, then pulled by its cross.
    w.click("pivot-4");
    CHECK(kinds(w)[2].pivot == edit::pivot_preset({12, 26}, 1, 1));
    dragImage(view, {81 + 6, 13 + 13}, {81 + 6, 13 + 20});
    CHECK(kinds(w)[2].pivot == Point{6, 20});

    dragImage(view, {5, 45}, {30, 55});
    REQUIRE(kinds(w).size() == 4);
    CHECK(kinds(w)[3].box.size() == Size{26, 11});
    QTest::keyClick(view, Qt::Key_Delete);
    CHECK(kinds(w).size() == 3);
    while (kinds(w).size() != 0) w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.session().sheet() != nullptr);
}

TEST_CASE("removing a prop that stands in a level asks once more", "[cut]") {
    Window w;
    w.stage("stage-cut");
    const auto& p = w.session().project();
    const level::PropKind* used = nullptr;
    for (const auto& k : p.prop_kinds)
        if (edit::placed(p, k->id) > 0) used = k.get();
    REQUIRE(used);
    const level::PropKind k = *used;
    w.session().setSheet(k.sheet);
    w.click("modeIslands");
    auto* view = w.find<SheetView>("sheetView");
    clickImage(view, {k.box.x + k.box.w / 2, k.box.y + k.box.h / 2});
    REQUIRE(view->kinds().size() == 1);
    const std::size_t before = w.session().project().prop_kinds.size();
    w.click("removeKinds");
    CHECK(w.session().project().prop_kinds.size() == before);
    CHECK(w.notice().contains("stand in levels"));
    w.click("removeKinds");
    CHECK(w.session().project().prop_kinds.size() == before - 1);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.session().project().prop_kinds.size() == before);
    CHECK(edit::placed(w.session().project(), k.id) > 0);
}

TEST_CASE("lines are pulled in the picture and nudged by keys, one step of history each", "[cut]") {
    Window w;
    const auto tiles = make::tiles(join::cases(level::JoinKind::full), 16, make::Style::outlined, 5);
    w.drop(put(w, "lattice.png", make::sheet(tiles, 8, {}, {})));
    auto* view = w.find<SheetView>("sheetView");
    REQUIRE(w.session().sheet()->cut.tile == Size{16, 16});
    QApplication::processEvents();
    // The second grip of the upper rim, at the first tile's right edge: from 16 to 12.
    const QPoint rim = view->placeOf({16, 0});
    const QPoint grip(rim.x(), rim.y() - 25);
    const QPoint to(view->placeOf({12, 0}).x(), grip.y());
    QTest::mouseMove(view, grip);
    QTest::mousePress(view, Qt::LeftButton, {}, grip);
    QTest::mouseMove(view, to + QPoint(4, 0));
    QTest::mouseMove(view, to);
    CHECK(w.find<QSpinBox>("tileWidth")->value() == 12); // shown while it is pulled
    CHECK(w.session().sheet()->cut.tile == Size{16, 16});
    QTest::mouseRelease(view, Qt::LeftButton, {}, to);
    CHECK(w.session().sheet()->cut.tile == Size{12, 16});
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.session().sheet()->cut.tile == Size{16, 16});

    view->setFocus();
    QTest::keyClick(view, Qt::Key_Right);
    QTest::keyClick(view, Qt::Key_Down);
    CHECK(w.session().sheet()->cut.margin == Point{1, 1});
    QTest::keyClick(view, Qt::Key_Right, Qt::ShiftModifier);
    CHECK(w.session().sheet()->cut.tile == Size{17, 16});
    QTest::keyClick(view, Qt::Key_Down, Qt::AltModifier);
    CHECK(w.session().sheet()->cut.spacing == Point{0, 1});
    QTest::keyClick(view, Qt::Key_Up, Qt::AltModifier);
    QTest::keyClick(view, Qt::Key_Up, Qt::AltModifier); // no negative gap
    CHECK(w.session().sheet()->cut.spacing == Point{0, 0});
}

TEST_CASE("what is over the line is marked, and marks can be put away", "[cut]") {
    Window w;
    auto tiles = make::tiles(join::cases(level::JoinKind::full), 16, make::Style::textured, 5);
    Image image = make::sheet(tiles, 8, {1, 1}, {2, 2}, {255, 0, 255, 255});
    w.drop(put(w, "clean.png", image));
    auto* view = w.find<SheetView>("sheetView");
    const QImage clean = view->grab().toImage();
    w.click("showOver");
    CHECK(view->grab().toImage() == clean); // nothing to mark
    w.click("showOver");
    for (int y = 0; y < 16; ++y) image.set(1 + 2 * 18 + 16, 1 + 18 + y, {5, 5, 5, 255});
    w.drop(put(w, "bleeding.png", image));
    const QImage marked = view->grab().toImage();
    w.click("showOver");
    const QImage plain = view->grab().toImage();
    CHECK(plain != marked);
    // The mark frames the cell that bleeds, and only it.
    const QPoint corner = view->placeOf({1 + 2 * 18, 1 + 18});
    const QPoint end = view->placeOf({1 + 2 * 18 + 16, 1 + 18 + 16});
    const QRect cell = QRect(corner, end).adjusted(-3, -3, 3, 3);
    for (int y = 0; y < plain.height(); y += 2)
        for (int x = 0; x < plain.width(); x += 2)
            if (!cell.contains(x, y) && plain.pixel(x, y) != marked.pixel(x, y)) FAIL("marked at " << x << ", " << y);
}

TEST_CASE("a folder of pictures becomes one sheet, and what stands in the level follows when the folder changes",
          "[cut]") {
    Window w;
    const auto dir = w.folder / "Loose things";
    std::filesystem::create_directories(dir);
    const auto picture = [&](const char* name, Size size, std::uint8_t red) {
        write_file(dir / name, sheet::encode_png(Image(size, {red, 80, 60, 255})));
    };
    picture("barrow.png", {24, 18}, 100);
    picture("cask.png", {14, 20}, 120);
    picture("pole.png", {4, 40}, 140);
    w.drop(QString::fromStdString(dir.string()));
    REQUIRE(kinds(w).size() == 3);
    CHECK(w.session().sheet()->name == "Loose things");
    CHECK(w.session().sheet()->parts.size() == 3);
    const auto before = kinds(w);
    const auto sheets = w.session().project().sheets.size();

    picture("cask.png", {20, 26}, 121);
    picture("adze.png", {9, 9}, 160);
    std::filesystem::remove(dir / "pole.png");
    w.drop(QString::fromStdString(dir.string()));
    CHECK(w.session().project().sheets.size() == sheets);
    const auto after = kinds(w);
    REQUIRE(after.size() == 4);
    for (const auto& k : before) {
        const auto now = std::find_if(after.begin(), after.end(), [&](const auto& a) { return a.id == k.id; });
        REQUIRE(now != after.end());
        CHECK(now->name == k.name);
        CHECK(now->box.size() == (k.name == "cask" ? Size{20, 26} : k.box.size()));
        CHECK(w.session().sheet()->image->at(now->box.x, now->box.y).r == (k.name == "cask"   ? 121
                                                                           : k.name == "pole" ? 140
                                                                                              : 100));
    }
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(kinds(w) == before);
    w.key(Qt::Key_S, Qt::ControlModifier);
    w.restart();
    w.session().setSheet(w.session().project().sheets.back()->id);
    CHECK(kinds(w) == before);

    std::filesystem::create_directories(w.folder / "empty");
    w.drop(QString::fromStdString((w.folder / "empty").string()));
    CHECK(w.notice().contains("no PNG pictures"));
}
