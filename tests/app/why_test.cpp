// Pointing at a cell of a level that looks wrong.
#include "app/window.hpp"

#include <QLabel>
#include <QPushButton>
#include <QTest>

#include "edit/joins.hpp"
#include "join/mask.hpp"
#include "level/grid.hpp"
#include "level/material.hpp"

using namespace app_test;

TEST_CASE("one key on a cell that looks wrong: its case, why, and mended by the rule or alone", "[app][why]") {
    Window w;
    w.stage("stage-lay");
    w.view()->setCamera(2, QPointF(20.0 * 16, 20.0 * 16));
    w.activate("Marsh");
    w.pickMaterial("Marsh");
    w.dragCells({{17, 17}, {18, 17}, {19, 17}});
    w.dragCells({{17, 18}, {18, 18}, {19, 18}});
    w.dragCells({{17, 19}, {18, 19}, {19, 19}});
    const auto id = w.layer("Marsh").grid().material({18, 18});
    // The rule goes wrong: the inside serves the north-west corner.
    const join::Mask corner = join::kE | join::kSE | join::kS;
    const auto cases = w.session().project().material(id)->joins.cases;
    const auto right = cases.at(corner).front().tile;
    w.session().apply("Wrong", edit::change_set(w.session().project(), id, [&](level::JoinSet& set) {
                          set.cases[corner] = {{cases.at(255).front().tile, 100, {}}};
                      }));
    REQUIRE(w.layer("Marsh").grid().cell({17, 17}).tile() != right);
    const auto others = w.layer("Marsh").grid();

    w.hover({17, 17});
    w.key(Qt::Key_Y);
    auto* card = w.find<QWidget>("whyCard");
    REQUIRE_SOON(card->isVisible());
    CHECK(w.find<QLabel>("whyVerdict")->text().startsWith("The rule is to be suspected"));
    // A long name is not cut off, and what stood there for another cell is gone.
    card->hide();
    level::Project named = w.session().project();
    level::Material long_name = *named.material(id);
    long_name.name = "Marsh with reeds and sedges between the outer dykes";
    named.put(long_name);
    w.session().apply("Name", std::move(named));
    w.hover({17, 17});
    w.key(Qt::Key_Y);
    REQUIRE_SOON(card->isVisible());
    CHECK(card->findChildren<QPushButton*>("mend-0").size() == 1);
    auto* title = card->findChild<QLabel*>("whyTitle");
    REQUIRE(title);
    CHECK(title->height() >= title->heightForWidth(title->width()));
    SECTION("the rule is mended wherever it occurs") {
        QTest::mouseClick(w.find<QPushButton>("mend-0"), Qt::LeftButton);
        settle();
        CHECK_FALSE(card->isVisible());
        CHECK(w.layer("Marsh").grid().cell({17, 17}).tile() == right);
        CHECK_FALSE(w.layer("Marsh").grid().cell({17, 17}).pinned());
        w.key(Qt::Key_Z, Qt::ControlModifier);
        CHECK(w.layer("Marsh").grid() == others);
    }
    SECTION("or this cell alone") {
        QTest::mouseClick(w.find<QPushButton>("pin-0"), Qt::LeftButton);
        settle();
        CHECK(w.layer("Marsh").grid().cell({17, 17}).tile() == right);
        CHECK(w.layer("Marsh").grid().cell({17, 17}).pinned());
        CHECK(level::differences(w.layer("Marsh").grid(), others).size() == 1);
        CHECK(w.session().project().material(id)->joins.cases.at(corner).front().tile != right);
    }
}
