// The contrast lens in the window.
#include <QTest>
#include <algorithm>

#include "app/window.hpp"

using namespace app_test;

namespace {

void untilMeasured(Window& w) {
    for (int i = 0; i < 400 && w.view()->contrast().measuring(); ++i) QTest::qWait(10);
    settle();
}

} // namespace

TEST_CASE("the contrast lens tells by colour what blocks, and frames what looks otherwise than it is",
          "[app][dress][contrast]") {
    Window w;
    w.stage("stage-dress");
    w.session().setLevel("pump-cellar");
    w.view()->setCamera(2, {40.0 * 16, 22.0 * 16});
    settle();
    w.key(Qt::Key_U, Qt::ShiftModifier);
    REQUIRE(w.view()->contrast().on());
    untilMeasured(w);
    w.picture("contrast-cellar");
    // Brick is of the colour of what blocks, the wall behind is grey.
    const QImage seen = w.view()->grab().toImage();
    const auto at = [&](Point cell) { return seen.pixelColor(w.view()->cellCentre(cell) + QPoint(3, 3)); };
    const QColor brick = at({32, 26}), wall = at({50, 15});
    CHECK(brick.red() > brick.green() + 10);
    CHECK(std::abs(wall.red() - wall.green()) <= 3);
    CHECK(std::abs(wall.red() - wall.blue()) <= 3);
    // The pumps are large and whole, and nothing stops one at them.
    const auto& doubts = w.view()->contrast().doubts();
    const level::Layer& pipes = w.layer("Pipes");
    int pumps = 0;
    for (const picture::Doubt& d : doubts) {
        const level::Prop* prop = pipes.props().find(d.prop);
        if (!prop || d.layer != pipes.id) continue;
        pumps += w.session().project().prop_kind(prop->kind)->name == "Brine pump" &&
                 d.what == picture::Doubt::What::looks_usable;
    }
    CHECK(pumps == 3);
    w.hover({46, 25});
    CHECK(w.reading().contains("Brine pump"));
    CHECK(w.reading().contains("looks usable and is not"));
    // It is said that they block: the lens follows.
    level::Project p = w.session().project();
    for (const auto& k : w.session().project().prop_kinds)
        if (k->name == "Brine pump") {
            level::PropKind kind = *k;
            kind.blocks = true;
            p.put(kind);
        }
    w.session().apply("Pumps block", p);
    settle();
    untilMeasured(w);
    w.hover({46, 25});
    CHECK_FALSE(w.reading().contains("looks usable"));
    w.key(Qt::Key_U, Qt::ShiftModifier);
    CHECK_FALSE(w.view()->contrast().on());
    const QColor again = w.view()->grab().toImage().pixelColor(w.view()->cellCentre({50, 15}) + QPoint(3, 3));
    CHECK(again != wall);
}
