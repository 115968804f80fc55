// vicinum-shots PROJECT OUT [NAME]: pictures of the main views on the demo project, for the documentation.
#include <QAction>
#include <QApplication>
#include <QDir>
#include <QPoint>
#include <QPointF>
#include <QSettings>
#include <QString>
#include <QStringList>
#include <QTemporaryDir>
#include <QTest>
#include <QToolButton>

#include "app/join/join_centre.hpp"
#include "app/join/proof_view.hpp"
#include "app/lay/plan_panel.hpp"
#include "app/session/session.hpp"
#include "app/sheet/sheet_view.hpp"
#include "app/shell/main_window.hpp"
#include "app/view/level_view.hpp"
#include "edit/sheets.hpp"
#include "edit/stroke.hpp"
#include "level/cell.hpp"
#include "level/level.hpp"
#include "level/project.hpp"
#include "level/region.hpp"
#include "level/shape.hpp"
#include "level/sheet.hpp"
#include "player/parcel_view.hpp"

using namespace vic;
using namespace vic::app;

namespace {

class Shots {
  public:
    Shots(QString project, QString out, QString only) : out_(std::move(out)), only_(std::move(only)) {
        QDir().mkpath(out_);
        window.show();
        if (!window.openProject(project)) qFatal("the demo project cannot be opened");
        // Another size of the window, to look at: VICINUM_SHOT_SIZE=1024x700.
        const QStringList size = qEnvironmentVariable("VICINUM_SHOT_SIZE", "1280x800").split('x');
        window.resize(size[0].toInt(), size[1].toInt());
        QTest::qWait(400);
    }

    void hand(const char* name) {
        edit::Hand h;
        for (const auto& m : window.session().project().materials)
            if (m->name == name) h.holds = edit::held::Material{m->id};
        for (const auto& k : window.session().project().prop_kinds)
            if (k->name == name) h.holds = edit::held::Prop{k->id};
        window.session().setHand(h);
    }

    void layer(const char* name) {
        for (const level::LayerRef& l : window.session().level()->layers)
            if (l->name == name) window.session().setActiveLayer(l->id);
    }

    void pointAt(Point cell) {
        // What was said before gives way once the pointer has gone on and there was time to read it.
        QTest::mouseMove(window.levelView(), window.levelView()->cellCentre(cell + Point{1, 0}));
        QTest::qWait(1300);
        const QPoint at = window.levelView()->cellCentre(cell);
        QTest::mouseMove(window.levelView(), at);
    }

    void take(const QString& name) {
        QTest::qWait(350);
        if (only_.isEmpty() || only_ == name) window.grab().save(out_ + "/" + name + ".png");
    }

    MainWindow window;

  private:
    QString out_, only_;
};

} // namespace

int main(int argc, char** argv) {
    QTemporaryDir settings;
    QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, settings.path());
    qputenv("XDG_CACHE_HOME", settings.path().toUtf8());
    QApplication app(argc, argv);
    QApplication::setOrganizationName("vicinum");
    QApplication::setApplicationName("vicinum-shots");
    const QStringList a = QApplication::arguments();
    if (a.size() < 3) qFatal("usage: vicinum-shots PROJECT OUT [NAME]");
    Shots s(a[1], a[2], a.size() > 3 ? a[3] : QString());
    Session& session = s.window.session();

    session.setStage(Stage::lay);
    s.layer("Pans");
    s.hand("Brine");
    s.window.levelView()->setCamera(2, QPointF(15.0 * 16, 29.0 * 16));
    s.pointAt({16, 22});
    s.take("lay");

    session.setStage(Stage::dress);
    s.layer("Props");
    s.hand("Wind pump");
    s.window.levelView()->setCamera(2, QPointF(72.0 * 16, 26.0 * 16));
    s.pointAt({63, 29});
    s.take("dress");
    session.setHand({});

    session.setStage(Stage::bound);
    s.layer("Pans");
    s.window.levelView()->setCamera(2, QPointF(16.0 * 16, 28.0 * 16));
    s.window.levelView()->setSoak(true);
    s.pointAt({9, 29});
    s.take("bound");
    s.window.levelView()->setSoak(false);

    session.setStage(Stage::join);
    session.setMaterial(2);
    session.setCase(247);
    // Something painted on the free patch.
    auto* free = s.window.findChild<ProofView*>("freePatch");
    for (int y = 1; y < 8; ++y)
        for (int x = 1; x < 9; ++x)
            if ((x < 4 || y > 4 || (x + y) % 5 == 0) && !(x == 2 && y == 3))
                QTest::mouseClick(free, Qt::LeftButton, {}, free->cellCentre({x, y}));
    s.take("join");

    session.setStage(Stage::cut);
    session.setSheet(session.project().sheets[1]->id);
    s.take("cut");
    for (const auto& sheet : session.project().sheets)
        if (sheet->name == "Slopes") session.setSheet(sheet->id);
    // A slope with its foot cut away, as one would draw it by hand.
    const level::TileId slope = session.sheet()->tiles[1].id;
    session.apply("Shape of tiles", edit::change_tiles(session.project(), {slope}, [](level::Tile& t) {
                      t.shape = level::TileShape::drawn;
                      t.polygons = {{{16, 3}, {16, 16}, {5, 16}, {3, 13}, {9, 7}}};
                  }));
    session.setTiles({slope});
    s.take("cut-shape");
    session.undo();
    session.setTiles({});
    for (const auto& sheet : session.project().sheets)
        if (sheet->name == "Saltworks props") session.setSheet(sheet->id);
    QTest::mouseClick(s.window.findChild<QToolButton*>("modeIslands"), Qt::LeftButton);
    auto* islands = s.window.findChild<SheetView*>("sheetView");
    const Box pump = session.project().prop_kinds.front()->box;
    QTest::mouseClick(islands, Qt::LeftButton, {}, islands->placeOf({pump.x + pump.w / 2, pump.y + pump.h / 2}));
    s.take("cut-islands");
    QTest::mouseClick(s.window.findChild<QToolButton*>("modeLattice"), Qt::LeftButton);

    session.setLevel("pump-cellar");
    session.setStage(Stage::walk);
    auto* walk = s.window.findChild<player::ParcelView*>();
    QTest::keyPress(walk, Qt::Key_Right);
    QTest::qWait(900);
    s.take("walk");
    QTest::keyRelease(walk, Qt::Key_Right);

    session.setLevel("brine-pans");
    session.setStage(Stage::handOver);
    QTest::qWait(500);
    s.take("hand-over");

    // A sheet that was just dropped, with its proposals.
    session.library().addPicture(a[1] + "/to-add/gravel.png");
    s.take("cut-reading");
    session.undo();

    session.setStage(Stage::lay);
    session.setHand({});
    session.setTool(Tool::pencil);
    // The store on diamonds.
    session.setLevel("salt-store");
    session.setStage(Stage::lay);
    s.layer("Floor");
    s.hand("Store floor");
    s.window.levelView()->setCamera(2, QPointF(-20, 150));
    s.pointAt({12, 15});
    s.take("lay-isometric");
    session.setLevel("brine-pans");

    // A level from a picture, before it is laid.
    {
        level::Project p = session.project();
        level::Level north = level::make_level(p, "North pans", {32, 32}, {16, 16}, level::View::from_above);
        const std::string id = north.id;
        p.put(std::move(north));
        session.apply("North pans", std::move(p));
        session.setLevel(id);
        auto* plan = s.window.findChild<PlanPanel*>();
        plan->begin(a[1] + "/to-add/north-pans.png");
        s.window.levelView()->fit();
        s.take("plan");
        plan->leave();
        session.undo();
        session.setLevel("brine-pans");
    }

    session.setStage(Stage::lay);
    s.window.levelView()->setCamera(2, QPointF(50.0 * 16, 20.0 * 16));
    s.window.findChild<QAction*>("look")->trigger();
    s.hand("Boardwalk");
    s.pointAt({47, 20});
    s.take("lay-slate");
    s.window.findChild<QAction*>("look")->trigger();
    // Closed, and what it looks like the next time.
    session.setLevel("brine-pans");
    session.setStage(Stage::lay);
    s.window.levelView()->setCamera(2, QPointF(24.0 * 16, 20.0 * 16));
    if (session.document().unsaved()) session.save();
    s.window.findChild<QAction*>("closeProject")->trigger();
    s.take("start");
    return 0;
}
