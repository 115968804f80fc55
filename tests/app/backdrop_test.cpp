// Backdrops: made from a picture, placed and scaled with the mouse, checked for seams and gaps, seen in the frame as
// the game shows them, and in the player.
#include <QApplication>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QSpinBox>
#include <QTest>
#include <QToolButton>
#include <algorithm>
#include <cmath>

#include "app/window.hpp"
#include "edit/backdrop.hpp"
#include "level/backdrop.hpp"
#include "parcel/build.hpp"
#include "picture/backdrop.hpp"
#include "player/parcel_view.hpp"
#include "store/project_files.hpp"
#include "vicinum_level.hpp"
#include "walk/world.hpp"

using namespace app_test;

namespace {

// Hills under a sky; they come round after `waves` whole waves.
Image hills(Size size, double waves) {
    Image out(size);
    for (int y = 0; y < size.h; ++y)
        for (int x = 0; x < size.w; ++x) {
            const double edge = size.h * (0.55 + 0.2 * std::sin(2 * 3.14159265 * waves * x / size.w));
            const auto sky = static_cast<std::uint8_t>(150 + y / 2);
            out.set(x, y,
                    y > edge ? Rgba{static_cast<std::uint8_t>(40 + x % 7), 90, 60, 255} : Rgba{120, sky, 220, 255});
        }
    return out;
}

struct Backed : Window {
    explicit Backed(double waves = 2) {
        drop(put(*this, "hills.png", hills({160, 96}, waves)));
        if (find<QPushButton>("takeCut")->text() != "Make it a backdrop")
            click("what-backdrop");
        else
            key(Qt::Key_Return);
        stage("stage-dress");
        key(Qt::Key_S);
        view()->setCamera(1, {400, 240});
    }
    const level::Backdrop& backdrop() { return *session().activeLayer()->backdrop(); }
    QPoint at(Point pixel) {
        return view()->cellCentre({0, 0}) + (QPointF(pixel.x - 8, pixel.y - 8) * view()->zoom()).toPoint();
    }
    void dragPixels(Point from, Point to, Qt::KeyboardModifiers with = {}) {
        const auto move = [&](QPointF place, Qt::MouseButtons held) {
            QMouseEvent event(QEvent::MouseMove, place, view()->mapToGlobal(place), Qt::NoButton, held, with);
            QApplication::sendEvent(view(), &event);
        };
        move(at(from), Qt::NoButton);
        QTest::mousePress(view(), Qt::LeftButton, with, at(from));
        for (int i = 1; i <= 4; ++i) move(at(from) + QPointF(at(to) - at(from)) * i / 4, Qt::LeftButton);
        QTest::mouseRelease(view(), Qt::LeftButton, with, at(to));
        settle();
    }
};

} // namespace

TEST_CASE("a repeating back wall, tinted, that steps back and goes along by half: five actions", "[app][backdrop]") {
    Window w;
    w.drop(put(w, "hills.png", hills({160, 96}, 2))); // 1
    if (w.find<QPushButton>("takeCut")->text() != "Make it a backdrop")
        w.click("what-backdrop");
    else
        w.key(Qt::Key_Return);        // 2
    w.choose("backdropTint", "dusk"); // 3
    w.slide("backdropStepsBack", 40); // 4
    auto* x = w.find<QSpinBox>("layerParallaxX");
    type(x, "50"); // 5
    const level::Layer& layer = *w.session().activeLayer();
    REQUIRE(layer.backdrop());
    CHECK(layer.backdrop()->across);
    CHECK(layer.backdrop()->tint == Rgba{176, 160, 190, 255});
    CHECK(layer.backdrop()->steps_back == 40);
    CHECK(layer.parallax == Point{50, 100});
    CHECK(w.level().layers.front()->id == layer.id);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.session().activeLayer()->parallax == Point{100, 100});
}

TEST_CASE("a backdrop is dragged, and scaled by a corner to whole numbers", "[app][backdrop]") {
    Backed w;
    w.hover({20, 12});
    CHECK(w.view()->reading().text.contains("Drags the backdrop"));
    w.dragPixels({400, 240}, {431, 262}, Qt::ShiftModifier);
    CHECK(w.backdrop().at == Point{31, 22});
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.backdrop().at == Point{});
    // It snaps to the level's rim, where it may.
    w.dragPixels({400, 240}, {403, 244});
    CHECK(w.backdrop().at == Point{});
    w.dragPixels({400, 240}, {430, 270});
    CHECK(w.backdrop().at == Point{30, 30});
    // The corner of the copy under the pointer; the one across from it stays.
    const Box copy{30 + 160 * 2, 30 + 96 * 2, 160, 96};
    w.dragPixels({copy.right() - 2, copy.bottom() - 2}, {copy.right() + 156, copy.bottom() + 93});
    CHECK(w.backdrop().drawn == Size{320, 192});
    CHECK(w.backdrop().at == copy.corner());
    w.picture("backdrop-scaled");
    const double before = edit::scale_of(w.backdrop(), {160, 96});
    w.dragPixels({copy.x + 318, copy.y + 190}, {copy.x + 370, copy.y + 225}, Qt::ShiftModifier);
    const double after = edit::scale_of(w.backdrop(), {160, 96});
    CHECK(after > before);
    CHECK(std::abs(after - std::round(after)) > 0.05);
}

TEST_CASE("the drawer places, repeats and fits a backdrop, and says what is wrong with it", "[app][backdrop]") {
    Backed w(1.75);
    auto* says = w.find<QLabel>("backdropSays");
    REQUIRE(says->isVisible());
    CHECK(says->text().contains("Left and right do not meet"));
    CHECK(says->text().contains("Top and bottom do not meet"));
    w.picture("backdrop-seams");
    w.click("backdropAcross");
    w.click("backdropDown");
    CHECK_FALSE(w.backdrop().repeats());
    const Box all = w.level().pixels();
    CHECK(says->text().contains(QString("%1 px on the right").arg(all.w - 160)));
    CHECK(says->text().contains(QString("%1 px below").arg(all.h - 96)));
    w.click("backdropFit");
    clickEntry(qobject_cast<QMenu*>(QApplication::activePopupWidget()), "the level's height");
    CHECK(w.backdrop().box({160, 96}).h == all.h);
    CHECK_FALSE(says->text().contains("below"));
    w.click("backdropFit");
    clickEntry(qobject_cast<QMenu*>(QApplication::activePopupWidget()), "the level's width");
    CHECK_FALSE(says->text().contains("right"));
    type(w.find<QSpinBox>("backdropX"), "12");
    CHECK(says->text().contains("12 px on the left"));
    w.picture("backdrop-gap");
    w.click("backdropSmooth");
    CHECK(w.backdrop().smooth);
    // All of it comes back from the disk.
    const level::Backdrop was = w.backdrop();
    w.key(Qt::Key_S, Qt::ControlModifier);
    w.reopen();
    CHECK(*w.level().layers.front()->backdrop() == was);
}

TEST_CASE("while the frame is dragged it shows what the game shows, and the player agrees", "[app][backdrop]") {
    Backed w;
    level::Level next = w.level();
    level::Layer& layer = next.edit(w.session().activeLayerId());
    layer.parallax = {50, 80};
    layer.opacity = 90;
    *layer.backdrop() = {layer.backdrop()->sheet, {255, 220, 190, 255}, true, false, {13, 40}, {200, 130}, false, 30};
    for (auto& l : next.layers)
        if (l->tiles()) next.edit(l->id).opacity = 60;
    next.frame_at = Point{320, 192};
    next.marks.clear();
    w.session().applyLevel("far", next);
    picture::Art art;
    picture::Canvas frame({320, 192, next.frame.w, next.frame.h});
    picture::draw_frame(w.session().project(), w.level(), art, frame);
    // The player, its frame around a walker who stands in the middle of ours.
    level::Mark start{90000,
                      "start",
                      level::MarkKind::start,
                      {(320 + next.frame.w / 2) / 16, (192 + next.frame.h / 2) / 16 + 1, 1, 1}};
    level::Level played = w.level();
    played.marks = {start};
    parcel::build(w.session().project(), played, w.folder / "parcel");
    const vicinum::Level built = vicinum::load(w.folder / "parcel");
    CHECK(built.layers.front().kind == "backdrop");
    CHECK_FALSE(built.layers.front().repeats_down);
    player::ParcelView view;
    view.setMinimumSize(1, 1);
    view.resize(next.frame.w, next.frame.h);
    view.load(QString::fromStdString((w.folder / "parcel").string()), false);
    const QImage shown = view.grab().toImage();
    const vicinum::Rect box = walk::frame_around(built, view.world().foot(), built.frame);
    REQUIRE((box.w == next.frame.w && box.h == next.frame.h));
    picture::Canvas same({box.x, box.y, box.w, box.h});
    picture::draw_frame(w.session().project(), w.level(), art, same);
    int off = 0;
    for (int y = 0; y < box.h; ++y)
        for (int x = 0; x < box.w; ++x) {
            const QRgb a = shown.pixel(x, y), b = same.pixels[static_cast<std::size_t>(y * box.w + x)];
            off += std::abs(qRed(a) - qRed(b)) > 3 || std::abs(qGreen(a) - qGreen(b)) > 3 ||
                   std::abs(qBlue(a) - qBlue(b)) > 3;
        }
    CHECK(off < 1500); // the walker stands there
    // In the window, while it is dragged.
    w.view()->setCamera(2, {480, 304});
    const QPoint tag = w.at({320, 192}) + QPoint(12, 8); // by which it is dragged
    QTest::mousePress(w.view(), Qt::LeftButton, {}, tag);
    QTest::mouseMove(w.view(), tag + QPoint(32, 0));
    settle();
    const Point corner = *w.level().frame_at;
    picture::Canvas there({corner.x, corner.y, next.frame.w, next.frame.h});
    picture::draw_frame(w.session().project(), w.level(), art, there);
    // How many of its pixels, one in 64, the window shows otherwise than the game would.
    const auto others = [&] {
        const QImage all = w.view()->grab().toImage();
        int out = 0;
        for (int y = 32; y < next.frame.h - 8; y += 8)
            for (int x = 8; x < next.frame.w - 8; x += 8)
                out += (all.pixel(w.at(corner + Point{x, y}) + QPoint(1, 1)) & 0xFFFFFFU) !=
                       (there.pixels[static_cast<std::size_t>(y * next.frame.w + x)] & 0xFFFFFFU);
        return out;
    };
    CHECK(others() < 40); // the figure stands there
    w.picture("backdrop-frame");
    QTest::mouseRelease(w.view(), Qt::LeftButton, {}, tag + QPoint(32, 0));
    settle();
    CHECK(others() > 200);
}
