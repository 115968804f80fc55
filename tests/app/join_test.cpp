// Jobs in Join: from a dropped sheet to painting, tiles composed, readings corrected and accepted, patches, cards.
#include "app/window.hpp"

#include <QAction>
#include <QApplication>
#include <QComboBox>
#include <QImage>
#include <QInputDialog>
#include <QLabel>
#include <QMenu>
#include <QObject>
#include <QPoint>
#include <QPointF>
#include <QPushButton>
#include <QSlider>
#include <QSpinBox>
#include <QString>
#include <QTest>
#include <QTimer>
#include <QToolButton>
#include <QWidget>

#include "app/join/join_centre.hpp"
#include "app/join/proof_view.hpp"
#include "app/parts/card_list.hpp"
#include "app/parts/tokens.hpp"
#include "app/session/session.hpp"
#include "app/sheet/sheet_view.hpp"
#include "app/shell/workline.hpp"
#include "base/files.hpp"
#include "edit/joins.hpp"
#include "edit/tiles.hpp"
#include "join/mask.hpp"
#include "join/resolve.hpp"
#include "level/cell.hpp"
#include "level/grid.hpp"
#include "level/level.hpp"
#include "level/material.hpp"
#include "level/sheet.hpp"
#include "sheet/png.hpp"

using namespace app_test;
using level::JoinKind;

namespace {

void drop_sheet(Window& w, const std::vector<join::Mask>& masks, const char* name) {
    const auto file = w.folder.path() / (std::string(name) + ".png");
    write_file(file, sheet::encode_png(make::sheet(make::tiles(masks, 16, make::Style::outlined, 3), 4, {1, 1}, {2, 2},
                                                   {255, 0, 255, 255})));
    w.drop(QString::fromStdString(file.string()));
}

int have(Window& w) { return join::coverage(w.session().material()->joins).have; }

QAction* action_of(const char* menu, const QString& name) {
    QAction* found = nullptr;
    (void)QTest::qWaitFor(
        [&] {
            for (QWidget* top : QApplication::topLevelWidgets())
                if (top->objectName() == menu && top->isVisible())
                    for (QAction* a : static_cast<QMenu*>(top)->actions())
                        if (a->objectName().startsWith(name)) found = a;
            return found != nullptr;
        },
        2000);
    REQUIRE(found);
    return found;
}

void choose(Window& w, QAction* action) {
    auto* menu = static_cast<QMenu*>(action->parent());
    w.clickAt(menu, menu->actionGeometry(action).center());
    settle();
}

} // namespace

TEST_CASE("a dropped sheet of five tiles is a full set and painted with in five actions", "[app][join]") {
    Window w;
    using namespace join;
    drop_sheet(w, {0, kN | kS, kE | kW, kSides, 255}, "dyke"); // 1 drop
    w.key(Qt::Key_Return);                                     // 2 take the cut
    w.click("readJoins");                                      // 3 read its joins
    REQUIRE(w.session().stage() == Stage::join);
    CHECK(have(w) == 5);
    CHECK(w.find<QToolButton>("leastToDraw")->text() == "nothing more to draw");
    w.key(Qt::Key_C); // 4 compose what is missing
    CHECK(have(w) == 47);
    const level::Sheet& derived = *w.session().project().sheets.back();
    CHECK(derived.composed.size() == 42);
    CHECK(w.find<StageButton>("stage-join")->state() == "all joined");
    w.key(Qt::Key_3, Qt::ControlModifier);
    w.view()->setCamera(2, QPointF(20.0 * 16, 20.0 * 16));
    w.clickCell({20, 20}); // 5 paint
    CHECK(w.session().activeLayer()->grid().cell({20, 20}).tile() != 0);
    // The derived sheet follows its source: a new picture of it on the disk changes what is composed.
    const auto before = w.session().project().sheets.back()->image;
    const level::Sheet* source = nullptr;
    for (const auto& s : w.session().project().sheets)
        if (s->name == "dyke") source = s.get();
    REQUIRE(source);
    Image art = *source->image;
    for (int y = 0; y < art.height(); ++y)
        for (int x = 0; x < art.width(); ++x)
            if (art.at(x, y) == Rgba{70, 150, 140, 255}) art.set(x, y, {150, 70, 140, 255});
    write_file(w.session().document().dir() / source->file, sheet::encode_png(art));
    REQUIRE(QTest::qWaitFor([&] { return w.session().project().sheets.back()->image != before; }, 5000));
    int purple = 0;
    for (const Rgba c : w.session().project().sheets.back()->image->pixels()) purple += c == Rgba{150, 70, 140, 255};
    CHECK(purple > 1000);
    w.key(Qt::Key_S, Qt::ControlModifier);
    w.restart();
    CHECK(w.session().project().sheets.back()->composed.size() == 42);
    CHECK(*w.session().project().sheets.back()->image != *before);
}

TEST_CASE("missing and doubtful cases are gone through and mended by keys", "[app][join]") {
    Window w;
    w.stage("stage-join");
    auto* list = w.find<CardList>("materialList");
    w.clickAt(list->viewport(), list->cardCentre(2));
    REQUIRE(w.session().material()->name == "Brine");
    const auto id = w.session().materialId();
    CHECK_FALSE(w.find<QToolButton>("nextDoubtfulButton")->isEnabled());
    // Two cases swapped in the table: the art speaks against both.
    w.session().apply("x", edit::change_set(w.session().project(), id, [](level::JoinSet& s) {
                          std::swap(s.cases[join::kN], s.cases[join::kS]);
                          s.cases.erase(join::kE);
                      }));
    CHECK(w.find<QLabel>("casesAside")->text() == "46 have a tile · 1 missing · 2 doubtful");
    w.key(Qt::Key_N);
    CHECK(w.session().joinCase() == join::kE);
    CHECK(w.reading().contains("missing"));
    w.session().setCase(0);
    w.key(Qt::Key_D);
    CHECK(w.session().joinCase() == join::kN);
    CHECK(w.reading().contains("by its art it is open to the north, east and west"));
    // The right one is the best candidate; a click mends the table.
    auto* best = w.find<QPushButton>("candidate-0");
    const level::TileId wrong = w.session().material()->joins.cases.at(join::kN).front().tile;
    w.clickAt(best, best->rect().center());
    settle();
    CHECK(w.session().material()->joins.cases.at(join::kN).front().tile != wrong);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.key(Qt::Key_Return); // or it is right as it is
    CHECK(w.session().derived().joinsRead().doubtful.size() == 1);
    CHECK(w.session().joinCase() == join::kS);
    w.key(Qt::Key_Return);
    CHECK(w.session().derived().joinsRead().doubtful.empty());
    CHECK(w.session().material()->joins.accepted.size() == 2);
    // The missing one is composed by its row.
    w.key(Qt::Key_N);
    auto* composed = w.find<QPushButton>("candidate-0");
    CHECK(composed->text().contains("composed"));
    w.clickAt(composed, composed->rect().center());
    settle();
    CHECK(have(w) == 47);
    CHECK(w.session().project().sheets.back()->composed.size() == 1);
}

TEST_CASE("a wrong cell in the proof is clicked and mended; a petal corrects a reading", "[app][join]") {
    Window w;
    w.stage("stage-join");
    auto* list = w.find<CardList>("materialList");
    w.clickAt(list->viewport(), list->cardCentre(2));
    const auto id = w.session().materialId();
    const join::Mask mask = 255 & ~join::kNE;
    const auto right = w.session().material()->joins.cases.at(mask);
    w.session().apply("x", edit::change_set(w.session().project(), id,
                                            [&](level::JoinSet& s) { s.cases[mask] = s.cases[join::kN]; }));
    auto* proof = w.find<ProofView>("proof");
    w.click("seams");
    CHECK(proof->worstSeam() > 0.2);
    CHECK(w.find<QLabel>("proofAside")->text().contains("worst seam of all pairs"));
    w.clickAt(proof, proof->cellCentre(proof->firstCell(mask)));
    auto* best = w.find<QPushButton>("candidate-0");
    w.clickAt(best, best->rect().center());
    settle();
    CHECK(w.session().material()->joins.cases.at(mask) == right);
    CHECK(proof->worstSeam() < 0.2);
    // The petal of the tile: its north-east corner joins after all.
    auto* sheet = w.find<SheetView>("joinSheetView");
    std::size_t index = 0;
    const auto& tiles = w.session().project().sheet(sheet->sheetId())->tiles;
    while (tiles[index].id != right.front().tile) ++index;
    w.clickAt(sheet, sheet->petalCentre(index, 1));
    CHECK_FALSE(w.session().material()->joins.cases.contains(mask));
    CHECK(w.session().material()->joins.cases.at(255).back().tile == right.front().tile);
    CHECK(w.session().joinCase() == 255);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.session().material()->joins.cases.at(mask) == right);
}

TEST_CASE("the free patch is painted on, and the proof of pairs is larger", "[app][join]") {
    Window w;
    w.stage("stage-join");
    auto* free = w.find<ProofView>("freePatch");
    w.clickAt(free, free->cellCentre({2, 2}));
    QTest::mousePress(free, Qt::LeftButton, {}, free->cellCentre({4, 4}));
    for (const Point p : {Point{5, 4}, Point{6, 4}}) QTest::mouseMove(free, free->cellCentre(p));
    QTest::mouseRelease(free, Qt::LeftButton, {}, free->cellCentre({6, 4}));
    CHECK(free->grid().count() == 4);
    CHECK(free->grid().cell({5, 4}).tile() == w.session().material()->joins.cases.at(join::kE | join::kW).front().tile);
    w.clickAt(free, free->cellCentre({2, 2}), Qt::RightButton);
    CHECK(free->grid().count() == 3);
    auto* proof = w.find<ProofView>("proof");
    const auto small = proof->patch().size.area();
    w.click("proofPairs");
    CHECK(proof->patch().size.area() > 4 * small);
    CHECK_FALSE(free->isVisible());
    w.click("proofCases");
    CHECK(proof->patch().size.area() == small);
    CHECK(free->grid().count() == 3);
    w.click("newPatch");
    CHECK(free->grid().count() == 0);
}

TEST_CASE("a material stands up as a whole, and again lies flat", "[app][join][feet]") {
    Window w;
    w.stage("stage-join");
    const level::MaterialId marsh = [&] {
        for (const auto& m : w.session().project().materials)
            if (m->name == "Marsh") return m->id;
        return level::MaterialId(0);
    }();
    w.session().setMaterial(marsh);
    settle();
    w.picture("join-stands");
    w.choose("standsUp", "stands up, 2 rows");
    CHECK(edit::stands_up(w.session().project(), marsh) == 2);
    int up = 0;
    for (const auto& s : w.session().project().sheets)
        if (s->name == "Marsh")
            for (const level::Tile& t : s->tiles) up += t.rise > 0;
    CHECK(up >= 47);
    w.choose("standsUp", "lies flat");
    CHECK(edit::stands_up(w.session().project(), marsh) == 0);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(edit::stands_up(w.session().project(), marsh) == 2);
}

TEST_CASE("turns, liveliness, rank and what counts as the same are set beside the table", "[app][join]") {
    Window w;
    w.stage("stage-join");
    REQUIRE(w.session().material()->name == "Clay");
    const auto joins = [&]() -> const level::JoinSet& { return w.session().material()->joins; };
    auto* lively = w.find<QSlider>("lively");
    REQUIRE(lively->isVisible());
    const QString before = w.find<QLabel>("repetition")->text();
    lively->setFocus();
    w.key(Qt::Key_Home);
    CHECK(joins().lively == 0);
    CHECK(w.find<QLabel>("repetition")->text() != before);
    auto* turns = w.find<QComboBox>("setTurns");
    turns->setFocus();
    QTest::keyClick(turns, Qt::Key_End);
    QTest::keyClick(turns, Qt::Key_Return);
    emit turns->activated(turns->currentIndex());
    CHECK(joins().turns == level::kAllTurns);
    type(w.find<QSpinBox>("priority"), "4");
    CHECK(joins().priority == 4);
    w.click("liesOver");
    CHECK(joins().over);
    const auto other = w.session().project().materials[2]->id;
    auto* meets = w.find<QToolButton>(QString("meets-%1").arg(other).toUtf8().constData());
    for (QAction* a : meets->menu()->actions())
        if (a->text() == "counts as the same") a->trigger();
    settle();
    CHECK(joins().same == std::vector<level::MaterialId>{other});
    w.key(Qt::Key_S, Qt::ControlModifier);
    const level::JoinSet saved = joins();
    w.restart();
    CHECK(w.session().project().materials[0]->joins == saved);
}

TEST_CASE("a material has tiles of its own where it meets another, read from a sheet by its menu", "[app][join]") {
    Window w;
    w.stage("stage-join");
    auto* list = w.find<CardList>("materialList");
    w.clickAt(list->viewport(), list->cardCentre(2));
    REQUIRE(w.session().material()->name == "Brine");
    const auto brine = w.session().materialId();
    const auto marsh = w.session().project().materials[3]->id;
    const auto menu = [&](const QString& text, const QString& sheet = {}) {
        auto* meets = w.find<QToolButton>(QString("meets-%1").arg(marsh).toUtf8().constData());
        for (QAction* a : meets->menu()->actions()) {
            if (a->text() == text && sheet.isEmpty()) a->trigger();
            if (a->menu() && !sheet.isEmpty())
                for (QAction* s : a->menu()->actions())
                    if (s->text() == sheet) s->trigger();
        }
        settle();
    };
    const level::Sheet* creek = nullptr;
    for (const auto& s : w.session().project().sheets)
        if (s->name == "Creek") creek = s.get();
    REQUIRE(creek);
    menu({}, "Creek");
    REQUIRE(w.session().material()->joins.pairs.contains(marsh));
    CHECK(w.session().material()->joins.pairs.at(marsh).size() == 47);
    CHECK(w.reading().contains("missing cases 0"));
    // Brine painted against marsh takes the creek's tiles, against nothing its own.
    level::Level level = w.level();
    level::LayerId pans = 0;
    for (const auto& l : level.layers)
        if (l->name == "Pans") pans = l->id;
    auto& grid = level.edit(pans).grid();
    for (int x = 60; x < 66; ++x) grid.set({x, 2}, {}, x < 63 ? brine : marsh);
    w.session().applyLevel("x", level);
    w.click("rejoin");
    choose(w, action_of("rejoinMenu", "rejoinLevel"));
    (*w).activateWindow();
    const auto of_creek = [&](Point p) {
        const level::TileId tile = w.level().layer(pans)->grid().cell(p).tile();
        return std::any_of(creek->tiles.begin(), creek->tiles.end(), [&](const auto& t) { return t.id == tile; });
    };
    CHECK(of_creek({62, 2}));
    CHECK_FALSE(of_creek({60, 2}));
    menu("counts as the same");
    CHECK(w.session().material()->joins.pairs.empty());
    CHECK(w.session().material()->joins.same == std::vector<level::MaterialId>{marsh});
    CHECK_FALSE(of_creek({62, 2}));
    menu("ends here");
    CHECK(w.session().material()->joins.same.empty());
}

TEST_CASE("cells are joined anew with their number said first; a variant is stepped under the pointer", "[app][join]") {
    Window w;
    const level::Layer& ground = w.layer("Clay");
    Point at{-1, -1};
    level::each_cell(ground.grid(), w.level().cells(), [&](Point p, level::Cell c, level::MaterialId m) {
        const level::Material* material = w.session().project().material(m);
        if (at.x < 0 && material && !c.pinned() && p.x > 3 && p.y > 3 &&
            join::serving(material->joins, 255).size() > 2 && join::neighbourhood(ground.grid(), p, true) == 255)
            at = p;
    });
    REQUIRE(at.x >= 0);
    w.view()->setCamera(2, QPointF(at.x * 16.0, at.y * 16.0));
    const level::Cell was = w.layer("Clay").grid().cell(at);
    w.activate("Clay");
    w.hover(at);
    w.key(Qt::Key_V);
    const level::Cell now = w.layer("Clay").grid().cell(at);
    CHECK(now.tile() != was.tile());
    CHECK(now.pinned());
    CHECK(w.reading().contains("pinned"));
    w.key(Qt::Key_V, Qt::ShiftModifier);
    CHECK(w.layer("Clay").grid().cell(at).tile() == was.tile());
    w.key(Qt::Key_V);
    w.stage("stage-join");
    w.click("rejoin");
    QAction* level = action_of("rejoinMenu", "rejoinLevel");
    CHECK_FALSE(level->isEnabled());
    CHECK(level->text().contains(": 0 cells"));
    QAction* pinned = action_of("rejoinMenu", "rejoinPinned");
    CHECK_FALSE(pinned->text().contains(": 0 cells"));
    choose(w, pinned);
    (*w).activateWindow();
    CHECK(w.layer("Clay").grid().cell(at) == was);
}

TEST_CASE("a cell whose case is missing is marked in the level until the case has a tile", "[app][join]") {
    Window w;
    w.stage("stage-lay");
    w.pickMaterial("Brine");
    w.activate("Pans");
    w.view()->setCamera(3, QPointF(20.0 * 16, 20.0 * 16));
    w.clickCell({20, 20});
    const auto vermilion = [&] {
        settle();
        const QImage shot = w.view()->grab().toImage();
        const QPoint middle = w.view()->cellCentre({20, 20});
        int n = 0;
        for (int y = middle.y() - 23; y <= middle.y() + 23; ++y)
            for (int x = middle.x() + 10; x <= middle.x() + 23; ++x) n += shot.pixelColor(x, y) == paper().vermilion;
        return n;
    };
    w.hover({24, 24});
    CHECK(vermilion() == 0);
    const auto id = w.session().activeLayer()->grid().material({20, 20});
    REQUIRE(id != 0);
    const join::Mask mask = join::canonical(
        w.session().derived().rules().mask(join::around(w.session().activeLayer()->grid(), {20, 20})), JoinKind::full);
    w.session().apply("x",
                      edit::change_set(w.session().project(), id, [&](level::JoinSet& s) { s.cases.erase(mask); }));
    CHECK(vermilion() > 10);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(vermilion() == 0);
}

TEST_CASE("the order of a sheet is kept as a card and laid over another", "[app][join]") {
    Window w;
    w.stage("stage-join");
    auto* list = w.find<CardList>("materialList");
    w.clickAt(list->viewport(), list->cardCentre(2));
    auto* timer = new QTimer(qApp);
    QObject::connect(timer, &QTimer::timeout, timer, [timer] {
        for (QWidget* top : QApplication::topLevelWidgets())
            if (auto* dialog = qobject_cast<QInputDialog*>(top); dialog && dialog->isVisible()) {
                dialog->setTextValue("Pans");
                dialog->accept();
                timer->deleteLater();
                return;
            }
    });
    timer->start(20);
    w.click("orderCards");
    choose(w, action_of("orderMenu", "keepOrder"));
    REQUIRE(QTest::qWaitFor([&] { return w.session().project().order_cards.size() == 1; }, 3000));
    (*w).activateWindow();
    // Cases lost and wrong come back with the card.
    const auto good = w.session().material()->joins.cases;
    w.session().apply("x", edit::change_set(w.session().project(), w.session().materialId(), [](level::JoinSet& s) {
                          s.cases.erase(0);
                          std::swap(s.cases[join::kN], s.cases[join::kS]);
                      }));
    w.click("orderCards");
    choose(w, action_of("orderMenu", "layOrder-"));
    CHECK(w.session().material()->joins.cases == good);
}
