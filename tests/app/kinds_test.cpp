// Sheets of edges and of corners: the kind is proposed from the art, taken with one click, and painted with.
#include "app/window.hpp"

#include <QAction>
#include <QImage>
#include <QLabel>
#include <QMenu>
#include <QPointF>
#include <QPushButton>
#include <QString>
#include <QToolButton>

#include "base/files.hpp"
#include "join/mask.hpp"
#include "level/material.hpp"
#include "sheet/png.hpp"

using namespace app_test;
using level::JoinKind;

namespace {

// The 16 cases of corners, of one ground on another; the red of both varies.
Image corners_sheet(int side, Rgba inside, Rgba outside) {
    std::vector<Image> tiles;
    make::Random random(5);
    for (const join::Mask mask : join::cases(JoinKind::corners)) {
        Image tile({side, side});
        for (int y = 0; y < side; ++y)
            for (int x = 0; x < side; ++x) {
                const bool east = 2 * x >= side, south = 2 * y >= side;
                const join::Mask bit = east ? (south ? join::kSE : join::kNE) : (south ? join::kSW : join::kNW);
                Rgba c = mask & bit ? inside : outside;
                if (c.a != 0) c.r = static_cast<std::uint8_t>(c.r + random.below(24));
                tile.set(x, y, c);
            }
        tiles.push_back(std::move(tile));
    }
    return make::sheet(tiles, 4, {1, 1}, {2, 2}, {255, 0, 255, 255});
}

} // namespace

TEST_CASE("a sheet of corners becomes a material of corners, painted with at once", "[app][join][kind]") {
    Window w;
    const auto file = w.folder.path() / "drift.png";
    write_file(file, sheet::encode_png(corners_sheet(16, {170, 120, 60, 255}, {})));
    w.drop(QString::fromStdString(file.string()));
    w.key(Qt::Key_Return);
    REQUIRE(w.session().sheet()->accepted);
    REQUIRE(w.session().sheet()->tiles.size() == 16);
    auto* read = w.find<QPushButton>("readJoins");
    REQUIRE(read->isVisible());
    CHECK(read->text().endsWith(": corners"));
    w.click("readJoins");
    REQUIRE(w.session().material());
    CHECK(w.session().material()->joins.kind == JoinKind::corners);
    CHECK(join::coverage(w.session().material()->joins).have >= 15); // nothing joined at all is a blank tile
    CHECK(w.session().joinCase() == 255);
    // Taken for another kind by hand, from the same place.
    w.stage("stage-cut");
    auto* menu = w.find<QMenu>("joinKinds");
    for (QAction* a : menu->actions())
        if (a->objectName() == QString("joinKind-%1").arg(static_cast<int>(JoinKind::edges))) a->trigger();
    settle();
    CHECK(w.session().material()->joins.kind == JoinKind::edges);
    w.key(Qt::Key_Z, Qt::ControlModifier);

    w.stage("stage-lay");
    w.pickMaterial("Drift");
    w.view()->setCamera(2, QPointF(20.0 * 16, 20.0 * 16));
    w.activate("Marsh");
    w.dragCells({{18, 18}, {19, 18}, {20, 18}});
    w.dragCells({{18, 19}, {19, 19}, {20, 19}});
    w.dragCells({{18, 20}, {19, 20}, {20, 20}});
    const auto& grid = w.layer("Marsh").grid();
    const level::Material& m = *w.session().project().material(grid.material({19, 19}));
    CHECK(m.name == "Drift");
    const auto serves = [&](Point cell, join::Mask mask) {
        for (const auto& v : m.joins.cases.at(mask))
            if (v.tile == grid.cell(cell).tile()) return true;
        return false;
    };
    CHECK(serves({19, 19}, 255));
    CHECK(serves({18, 18}, join::of_corners(join::kSE)));
    CHECK(serves({20, 20}, join::of_corners(join::kNW)));
}

TEST_CASE("joins are read while one goes on working, and not taken of tiles that have changed", "[app][join][kind]") {
    Window w;
    // Enough tiles to take a moment: the 47 cases many times over.
    std::vector<Image> tiles;
    for (unsigned i = 0; i < 12; ++i)
        for (Image& tile : make::tiles(join::cases(JoinKind::full), 32, make::Style::noisy, i)) tiles.push_back(tile);
    const auto file = w.folder.path() / "fen.png";
    write_file(file, sheet::encode_png(make::sheet(tiles, 24, {0, 0}, {2, 2}, {255, 0, 255, 255})));
    w.drop(QString::fromStdString(file.string()));
    w.key(Qt::Key_Return);
    REQUIRE(w.session().sheet()->tiles.size() >= 12 * 47);
    const auto id = w.session().sheetId();
    const auto materials = w.session().project().materials.size();
    const auto read = [&](JoinKind kind) { w.session().makeMaterial(id, kind); };
    const auto& jobs = w.session().jobs();

    read(JoinKind::edges);
    CHECK(jobs.state().name.contains("Fen", Qt::CaseInsensitive));
    CHECK(w.session().project().materials.size() == materials); // the window has not waited
    w.session().jobs().stopNamed();
    settle();
    CHECK(w.session().project().materials.size() == materials);

    read(JoinKind::edges);
    read(JoinKind::edges); // asked twice, made once
    level::Sheet other = *w.session().project().sheet(id);
    other.tiles.pop_back();
    level::Project next = w.session().project();
    next.put(other);
    w.session().apply("x", std::move(next));
    settle();
    CHECK(w.session().project().materials.size() == materials);

    read(JoinKind::edges);
    read(JoinKind::edges);
    settle();
    CHECK(w.session().project().materials.size() == materials + 1);
    CHECK(w.session().stage() == Stage::join);
    CHECK(w.session().derived().joinsRead().known);
}

TEST_CASE("of two grounds that meet either may be the material: one key takes the other reading", "[app][join][kind]") {
    Window w;
    const auto file = w.folder.path() / "moss.png"; // on gravel, both opaque
    write_file(file, sheet::encode_png(corners_sheet(24, {60, 130, 50, 255}, {140, 130, 120, 255})));
    w.drop(QString::fromStdString(file.string()));
    w.key(Qt::Key_Return);
    w.session().makeMaterial(w.session().sheetId(), JoinKind::corners);
    settle();
    REQUIRE(w.session().stage() == Stage::join);
    CHECK(w.reading().contains("Tab"));
    const auto cases = [&] { return w.session().material()->joins.cases; };
    const auto first = cases();
    const auto inside = first.at(255).front().tile;
    REQUIRE(w.find<QPushButton>("otherWay")->isVisible());
    // Both stand as painted patches until one of them is taken.
    auto* ways = w.find<QWidget>("twoWays");
    REQUIRE(ways->isVisible());
    const auto picture = [&](const char* name) {
        auto* b = w.find<QToolButton>(name);
        return b->icon().pixmap(b->iconSize()).toImage();
    };
    CHECK(picture("waysNow") != picture("waysOther"));
    w.picture("two-ways");
    const QImage other = picture("waysOther");
    w.key(Qt::Key_Tab);
    CHECK(picture("waysNow") == other);
    w.click("waysNow");
    CHECK_FALSE(ways->isVisible());
    CHECK(cases().size() == first.size());
    CHECK(cases().at(0).front().tile == inside);
    CHECK(w.session().derived().joinsRead().doubtful.empty());
    w.click("otherWay"); // and back
    CHECK(cases() == first);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(cases() == first);
}
