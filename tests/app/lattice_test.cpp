// Isometric levels, blockers, plantings and layers with cells of their own, in the window.
#include "app/window.hpp"

#include <QAction>
#include <QApplication>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QObject>
#include <QPushButton>
#include <QSpinBox>
#include <QString>
#include <QTest>
#include <QTimer>
#include <QToolButton>
#include <QWidget>

#include "app/join/join_centre.hpp"
#include "app/join/proof_view.hpp"
#include "app/session/session.hpp"
#include "edit/stroke.hpp"
#include "level/cell.hpp"
#include "level/level.hpp"
#include "level/notes.hpp"
#include "level/shape.hpp"
#include "level/sheet.hpp"

using namespace app_test;

namespace {

// Fills in the next level form that opens, by keys, and says yes.
void fill_form(const std::function<void(QWidget*)>& how, bool yes = true) {
    auto* timer = new QTimer;
    QObject::connect(timer, &QTimer::timeout, timer, [timer, how, yes] {
        for (QWidget* top : QApplication::topLevelWidgets())
            if (top->isVisible() && top->objectName() == "levelForm") {
                timer->stop();
                timer->deleteLater();
                how(top);
                QTest::mouseClick(top->findChild<QPushButton*>(yes ? "levelFormOk" : "levelFormCancel"),
                                  Qt::LeftButton);
                return;
            }
    });
    timer->start(20);
}

void add_layer(Window& w, const char* text) {
    w.click("addLayer");
    QMenu* menu = nullptr;
    REQUIRE(QTest::qWaitFor(
        [&] {
            for (QWidget* top : QApplication::topLevelWidgets())
                if (top->objectName() == "addLayerMenu" && top->isVisible()) menu = static_cast<QMenu*>(top);
            return menu != nullptr;
        },
        2000));
    for (QAction* a : menu->actions())
        if (a->text() == text) QTest::mouseClick(menu, Qt::LeftButton, {}, menu->actionGeometry(a).center());
    settle();
    (*w).activateWindow();
}

void choose(Window& w, const char* box, const QString& text) {
    auto* combo = w.find<QComboBox>(box);
    const int index = combo->findText(text);
    INFO(text.toStdString());
    REQUIRE(index >= 0);
    combo->setFocus();
    QTest::keyClick(combo, Qt::Key_Home);
    for (int i = 0; i < index; ++i) QTest::keyClick(combo, Qt::Key_Down);
    if (combo->currentIndex() == index) emit combo->activated(index);
    settle();
}

void go_to(Window& w, const char* level) {
    w.session().setLevel(level);
    w.view()->fit();
    settle();
}

} // namespace

TEST_CASE("A new isometric level is asked for in one line or by its fields", "[lattice]") {
    Window w;
    fill_form([&](QWidget* form) {
        auto* name = form->findChild<QLineEdit*>("levelFormName");
        name->selectAll();
        QTest::keyClicks(name, "Loft 12x10 isometric");
        CHECK(form->findChild<QSpinBox*>("levelFormW")->value() == 12);
        CHECK(form->findChild<QToolButton*>("latticeIsometric")->isChecked());
        CHECK_FALSE(form->findChild<QToolButton*>("viewSide")->isEnabled());
        CHECK(form->findChild<QSpinBox*>("levelFormCellH")->value() * 2 ==
              form->findChild<QSpinBox*>("levelFormCellW")->value());
        type(form->findChild<QSpinBox*>("levelFormCellW"), "32");
        type(form->findChild<QSpinBox*>("levelFormCellH"), "16");
    });
    w.key(Qt::Key_N, Qt::ControlModifier);
    (*w).activateWindow();
    settle();
    REQUIRE(w.level().name == "Loft");
    CHECK(w.level().size == Size{12, 10});
    CHECK(w.level().geometry() == Lattice{LatticeKind::isometric, {32, 16}});

    // Painting: the pencil, a rectangle and the fill go by diamonds, and the reading line says which.
    w.pickMaterial("Store floor");
    w.hover({3, 4});
    CHECK(w.view()->reading().text.contains("cell 3, 4"));
    w.click("toolRectangle");
    w.dragCells({{2, 3}, {4, 5}, {6, 7}});
    const level::Layer* laid = nullptr;
    for (const auto& l : w.level().layers)
        if (l->kind() == level::LayerKind::tiles && l->grid().count() > 0) laid = l.get();
    REQUIRE(laid);
    CHECK(laid->grid().bounds() == Box{2, 3, 5, 5});
    CHECK(laid->grid().count() == 25);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.session().document().undo_name() == "Add a level");

    // Nobody asked for a change, nothing changes.
    const auto before = w.session().document().state();
    fill_form([](QWidget* form) { CHECK_FALSE(form->findChild<QPushButton*>("levelFormOk")->isEnabled()); }, false);
    (*w).findChild<QAction*>("cellSize")->trigger();
    (*w).activateWindow();
    CHECK(w.session().document().state() == before);
}

TEST_CASE("A new level may be like another, and as large as so many pixels", "[lattice]") {
    Window w;
    QString said;
    const level::Level was = w.level();
    fill_form([&](QWidget* form) {
        auto* name = form->findChild<QLineEdit*>("levelFormName");
        name->selectAll();
        QTest::keyClicks(name, "North pans");
        auto* like = form->findChild<QComboBox*>("levelFormLike");
        like->setFocus();
        while (like->currentText() != QString::fromStdString(was.name)) QTest::keyClick(like, Qt::Key_Down);
        type(form->findChild<QSpinBox*>("levelFormW"), "1000 px");
        type(form->findChild<QSpinBox*>("levelFormH"), "30");
        said = form->findChild<QLabel*>("levelFormSays")->text();
    });
    w.key(Qt::Key_N, Qt::ControlModifier);
    (*w).activateWindow();
    settle();
    REQUIRE(w.level().name == "North pans");
    CHECK(w.level().size == Size{63, 30});
    CHECK(said == "1008 × 480 px: 3.1 × 2.1 frames of 320 × 224 px");
    REQUIRE(w.level().layers.size() == was.layers.size());
    for (std::size_t i = 0; i < was.layers.size(); ++i) CHECK(w.level().layers[i]->name == was.layers[i]->name);
    // What is at home there is at home here.
    w.pickMaterial("Marsh");
    w.view()->setCamera(2, QPointF(20.0 * 16, 15.0 * 16));
    w.clickCell({20, 15});
    CHECK(w.layer("Marsh").grid().count() == 1);
}

TEST_CASE("The lattice of a level is changed with the consequences said first", "[lattice]") {
    Window w;
    QString said;
    fill_form([&](QWidget* form) {
        QTest::mouseClick(form->findChild<QToolButton*>("latticeIsometric"), Qt::LeftButton);
        said = form->findChild<QLabel*>("levelFormSays")->text();
    });
    (*w).findChild<QAction*>("cellSize")->trigger();
    (*w).activateWindow();
    settle();
    CHECK(said.contains("become diamonds"));
    CHECK(w.level().geometry() == Lattice{LatticeKind::isometric, {16, 8}});
    CHECK(w.reading() == said.toHtmlEscaped());
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.level().geometry() == Lattice{LatticeKind::square, {16, 16}});
}

TEST_CASE("In the salt store one selects, moves, mirrors and picks up by diamonds", "[lattice]") {
    Window w;
    go_to(w, "salt-store");
    const auto wall = [&](Point p) { return w.layer("Walls").grid().cell(p); };
    REQUIRE_FALSE(wall({12, 5}).empty());
    // What stands up is picked up by the cell it stands in.
    w.clickCell({12, 5}, Qt::LeftButton, Qt::AltModifier);
    CHECK(w.session().hand().tile() == wall({12, 5}).tile());
    CHECK(w.session().activeLayerId() == w.layer("Walls").id);
    // Aslant it is mirrored, not turned.
    w.key(Qt::Key_Period);
    CHECK(w.reading().contains("only be mirrored"));
    w.key(Qt::Key_Slash);
    w.clickCell({9, 9});
    CHECK(wall({9, 9}).turn() == Lattice::kChangedOver);
    // The crates as a selection, moved.
    w.key(Qt::Key_S);
    w.dragCells({{12, 5}, {13, 6}});
    CHECK(w.session().selection().count() == 4);
    w.dragCells({{12, 5}, {11, 7}, {10, 8}});
    CHECK(wall({12, 5}).empty());
    CHECK_FALSE(wall({10, 8}).empty());
    CHECK_FALSE(wall({11, 9}).empty());
    // The fill is shown before the click; where the crates stood the yard went along with them.
    w.key(Qt::Key_Escape);
    w.key(Qt::Key_Escape);
    w.pickMaterial("Store yard");
    w.key(Qt::Key_F, Qt::ShiftModifier);
    w.hover({18, 10});
    INFO(w.view()->reading().text.toStdString());
    CHECK(w.view()->reading().text.contains("356 cells in view"));
    // Bound and Walk take the diamonds from the same cells.
    w.stage("stage-bound");
    settle();
    w.stage("stage-walk");
    settle();
    CHECK((*w).findChild<QWidget*>("parcelView")->isVisible());
}

TEST_CASE("A layer of blockers puts a blocker into the Hand, and its outlines follow", "[lattice]") {
    Window w;
    add_layer(w, "Blockers");
    REQUIRE(w.session().activeLayer()->kind() == level::LayerKind::blockers);
    CHECK(w.session().hand().is<edit::held::Blocker>());
    const level::LayerId id = w.session().activeLayerId();
    const auto lies = [&](Point p) { return w.level().layer(id)->blockers()->shape(p); };
    w.view()->lookAt({40, 30});
    w.clickCell({40, 30});
    CHECK(lies({40, 30}) == level::TileShape::full);
    CHECK(w.session().document().undo_name() == "Lay blockers on Blockers");
    w.click("blocker-3"); // a slope
    w.key(Qt::Key_Period);
    w.hover({42, 30});
    CHECK(w.view()->reading().text.contains("a blocker"));
    w.clickCell({42, 30});
    CHECK(lies({42, 30}) == level::turned(static_cast<level::TileShape>(3), turned_right(Turn{})));
    w.clickCell({40, 30}, Qt::RightButton);
    CHECK(lies({40, 30}) == level::TileShape::none);
    // Alt+click picks a blocker up where one is at work on them.
    w.clickCell({42, 30}, Qt::LeftButton, Qt::AltModifier);
    REQUIRE(w.session().hand().is<edit::held::Blocker>());
    CHECK(w.session().hand() == edit::blocker_hand(lies({42, 30})));
    // The class goes to the layer; materials do not.
    auto* name = w.find<QLineEdit>("layerClass");
    name->setFocus();
    QTest::keyClicks(name, "rim");
    QTest::keyClick(name, Qt::Key_Return);
    settle();
    CHECK(w.level().layer(id)->collision_class == "rim");
    w.activate("Clay");
    CHECK(w.session().hand().is<edit::held::Nothing>());
}

TEST_CASE("A layer with cells of its own is laid on by those cells", "[lattice]") {
    Window w;
    w.activate("Marsh");
    const Size had = w.layer("Marsh").grid().size();
    w.view()->lookAt({20, 22});
    choose(w, "layerFiner", "8 × 8 px");
    REQUIRE(w.layer("Marsh").grain() == level::Grain{2, 1});
    CHECK(w.layer("Marsh").grid().size() == Size{had.w * 2, had.h * 2});
    // What was done is told, and gives way to what a click would do once one has gone on.
    CHECK(w.reading().contains("becomes 2 × 2"));
    w.hover({40, 44});
    CHECK(w.reading().contains("becomes 2 × 2"));
    REQUIRE_SOON(!w.reading().contains("becomes 2 × 2"));
    w.hover({42, 44});
    INFO(w.reading().toStdString());
    CHECK(w.reading().contains("cell 42, 44"));
    w.pickMaterial("Marsh");
    w.click("toolEraser");
    Point free{-1, -1};
    for (int y = 40; y < 80 && free.x < 0; ++y)
        for (int x = 60; x < 100 && free.x < 0; ++x)
            if (w.layer("Marsh").grid().material({x, y}) == 0 && w.layer("Marsh").grid().material({x + 1, y}) == 0)
                free = {x, y};
    REQUIRE(free.x >= 0);
    w.view()->lookAt({free.x / 2, free.y / 2});
    w.click("toolPencil");
    w.hover(free);
    CHECK(w.view()->reading().text.contains(QString("cell %1, %2").arg(free.x).arg(free.y)));
    w.clickCell(free);
    CHECK(w.layer("Marsh").grid().material(free) != 0);
    CHECK(w.layer("Marsh").grid().material(free + Point{1, 0}) == 0);
    // Selected, moved and taken back, all in its cells.
    w.key(Qt::Key_S);
    w.dragCells({free, free + Point{1, 1}});
    CHECK(w.session().selection().count() == 4);
    w.dragCells({free, free + Point{4, 0}});
    CHECK(w.layer("Marsh").grid().material(free + Point{4, 0}) != 0);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    // On another layer its Hand says where it has to go.
    w.activate("Clay");
    CHECK(w.session().selection().empty());
    w.click("toolPencil");
    w.hover({free.x / 2, free.y / 2});
    CHECK(w.view()->reading().text.contains("has cells of its own"));
    // And back to the level's cells.
    w.activate("Marsh");
    choose(w, "layerFiner", "of the level");
    CHECK(w.layer("Marsh").grid().size() == had);
}

TEST_CASE("Several layers are looked at alone", "[lattice]") {
    Window w;
    w.activate("Marsh");
    w.click("layerSolo");
    settle();
    w.activate("Clay");
    w.click("layerSolo");
    settle();
    for (const auto& l : w.session().seen(w.level()).layers)
        CHECK(l->shown == (l->name == "Marsh" || l->name == "Clay"));
    w.key(Qt::Key_Q, Qt::ShiftModifier);
    CHECK_FALSE(w.session().anyAlone());
}

TEST_CASE("The proof of a material that is drawn aslant lies aslant", "[lattice]") {
    Window w;
    w.session().setStage(Stage::join);
    for (const auto& m : w.session().project().materials)
        if (m->name == "Store floor") w.session().setMaterial(m->id);
    settle();
    auto* proof = w.find<ProofView>("proof");
    CHECK(proof->cellCentre({1, 0}).y() > proof->cellCentre({0, 0}).y());
    const Point lone = proof->firstCell(0);
    REQUIRE(lone.x >= 0);
    w.clickAt(proof, proof->cellCentre(lone));
    CHECK(w.session().joinCase() == 0);
    CHECK(proof->worstSeam() < 0.5);
}
