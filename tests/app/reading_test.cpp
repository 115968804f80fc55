// The reading line tells what the click does: random clicks, and each of its words held against what happened.
#include "app/window.hpp"

#include <QApplication>
#include <QEvent>
#include <QMouseEvent>
#include <QPoint>
#include <QPointF>
#include <QRegularExpression>
#include <QString>
#include <QStringList>
#include <QTest>

#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "app/view/level_view.hpp"
#include "edit/overlay.hpp"
#include "edit/sheets.hpp"
#include "edit/stroke.hpp"
#include "level/cell.hpp"
#include "level/grid.hpp"
#include "level/level.hpp"
#include "level/sheet.hpp"

using namespace app_test;

namespace {

// What stands between two words of the sentence; empty where they do not.
QString part(const QString& text, const char* pattern) {
    const auto match = QRegularExpression(pattern).match(text);
    return match.hasMatch() ? match.captured(1) : QString();
}

// Of all layers the cells that differ, by layer.
std::map<level::LayerId, std::set<Point>> changes(const level::Level& a, const level::Level& b) {
    std::map<level::LayerId, std::set<Point>> out;
    for (const level::LayerRef& l : b.layers) {
        const level::Layer* was = a.layer(l->id);
        const level::Grid before = was ? was->grid() : level::Grid(l->grid().size());
        for (const Box& box : level::differences(before, l->grid()))
            for (const Point p : edit::box_cells(box))
                if (before.cell(p) != l->grid().cell(p) || before.material(p) != l->grid().material(p))
                    out[l->id].insert(p);
    }
    return out;
}

} // namespace

TEST_CASE("the reading line is what happens", "[app][reading]") {
    Window w;
    w.stage("stage-lay");
    w.view()->setCamera(2, QPointF(22 * 16, 17 * 16));
    make::Random random(23);
    std::vector<level::TileId> tiles; // see-through ones and others
    for (const auto& sheet : w.session().project().sheets)
        for (const level::Tile& t : sheet->tiles)
            if (!t.blank && !t.is_block() && (sheet->name == "Crust" || sheet->name == "Clay")) tiles.push_back(t.id);
    REQUIRE(tiles.size() > 8);
    std::vector<level::MaterialId> materials;
    for (const auto& m : w.session().project().materials)
        if (!m->joins.over) materials.push_back(m->id);
    int warned = 0, laid = 0, over = 0, replaced = 0, removed = 0, joined = 0;
    for (int i = 0; i < 300; ++i) {
        // Any layer, now and then locked or hidden; any thing in the Hand.
        std::vector<level::LayerId> layers;
        for (const level::LayerRef& l : w.level().layers) layers.push_back(l->id);
        w.session().setActiveLayer(layers[static_cast<std::size_t>(random.below(static_cast<int>(layers.size())))]);
        level::Level state = w.level();
        for (const level::LayerId id : layers) {
            state.edit(id).locked = random.flip(0.12);
            state.edit(id).shown = !random.flip(0.12);
        }
        w.session().applyLevel("Locked and hidden", state);
        edit::Hand hand;
        if (random.flip(0.45)) {
            hand.holds = edit::held::Material{
                materials[static_cast<std::size_t>(random.below(static_cast<int>(materials.size())))]};
        } else {
            hand.holds =
                edit::held::Tile{tiles[static_cast<std::size_t>(random.below(static_cast<int>(tiles.size())))]};
        }
        w.session().setHand(hand);
        w.session().setTool(random.flip(0.75) ? Tool::pencil : Tool::eraser);
        const Qt::KeyboardModifiers modifiers = random.flip(0.3) ? Qt::ControlModifier : Qt::NoModifier;
        const Point cell{14 + random.below(8), 12 + random.below(5)};
        const QPoint at = w.view()->cellCentre(cell);
        QMouseEvent move(QEvent::MouseMove, QPointF(at), w.view()->mapToGlobal(QPointF(at)), Qt::NoButton, Qt::NoButton,
                         modifiers);
        QApplication::sendEvent(w.view(), &move);
        const Sentence reading = w.view()->reading();
        const QString text = reading.text;
        const level::Level before = w.level();
        QTest::mouseClick(w.view(), Qt::LeftButton, modifiers, at);
        const level::Level after = w.level();
        const auto changed = changes(before, after);
        INFO(i << ": " << text.toStdString());
        if (reading.warns) {
            ++warned;
            CHECK(changed.empty());
            CHECK(after.layers == before.layers);
            continue;
        }
        const auto named = [&](const level::Level& level, level::LayerId id) {
            const level::Layer* l = level.layer(id);
            return l ? translated(edit::name_at(w.session().project(), *l, cell)) : QString();
        };
        const auto by_name = [&](const QString& name) {
            for (const level::LayerRef& l : before.layers)
                if (QString::fromStdString(l->name) == name) return l->id;
            FAIL("no layer " << name.toStdString());
            return level::LayerId{0};
        };
        if (text.startsWith("Lays")) {
            ++laid;
            const level::LayerId on = by_name(part(text, "on <b>([^<]*)</b>"));
            const bool over_it = text.contains(" · over ");
            const level::LayerId to = over_it ? edit::overlay_of(after, on) : on;
            REQUIRE(to != 0);
            CHECK(named(after, to) == part(text, "^Lays <b>([^<]*)</b>"));
            for (const auto& [id, cells] : changed) CHECK(id == to);
            over += over_it;
            const QString gone = part(text, " · replaces ([^·]*)").trimmed();
            if (over_it) {
                CHECK(named(after, on) == part(text, " · over ([^,]*), which stays"));
            } else if (!gone.isEmpty()) {
                CHECK(named(before, on) == gone);
                ++replaced;
            } else {
                CHECK((named(before, on).isEmpty() || named(before, on) == named(after, on)));
            }
            int neighbours = 0;
            for (const auto& [id, cells] : changed) neighbours += static_cast<int>(cells.size() - cells.count(cell));
            CHECK(neighbours == part(text, "joins (\\d+) neighbour").toInt());
            joined += neighbours > 0;
        } else if (text.startsWith("Removes what lies over")) {
            ++removed;
            const level::LayerId on = by_name(part(text, "over <b>([^<]*)</b>"));
            CHECK(named(after, edit::overlay_of(after, on)).isEmpty());
            for (const auto& [id, cells] : changed) CHECK(id == edit::overlay_of(before, on));
        } else if (text.startsWith("Removes")) {
            ++removed;
            const level::LayerId on = by_name(part(text, "from <b>([^<]*)</b>"));
            CHECK(named(before, on) == part(text, "^Removes <b>([^<]*)</b>"));
            CHECK(named(after, on).isEmpty());
            for (const auto& [id, cells] : changed) CHECK(id == on);
        } else if (text.contains("was laid by hand and stays")) {
            CHECK(changed.empty());
            CHECK(named(before, by_name(part(text, "on <b>([^<]*)</b>"))) == part(text, "^<b>([^<]*)</b>"));
        } else {
            INFO("a sentence that the test does not know");
            CHECK(text.startsWith("Nothing of"));
            CHECK(changed.empty());
        }
    }
    // All of it came up.
    INFO(warned << ' ' << laid << ' ' << over << ' ' << replaced << ' ' << removed << ' ' << joined);
    CHECK(warned >= 20);
    CHECK(laid >= 50);
    CHECK(over >= 5);
    CHECK(replaced >= 10);
    CHECK(removed >= 5);
    CHECK(joined >= 10);
}

TEST_CASE("the reading line tells of all the cells under a large tip", "[app][reading]") {
    Window w;
    w.stage("stage-lay");
    w.view()->setCamera(2, QPointF(22 * 16, 17 * 16));
    make::Random random(31);
    std::vector<level::MaterialId> materials;
    for (const auto& m : w.session().project().materials)
        if (!m->joins.over) materials.push_back(m->id);
    int replaced = 0, several = 0, removed = 0, stayed = 0;
    for (int i = 0; i < 120; ++i) {
        std::vector<level::LayerId> layers;
        for (const level::LayerRef& l : w.level().layers)
            if (l->kind() == level::LayerKind::tiles) layers.push_back(l->id);
        w.session().setActiveLayer(layers[static_cast<std::size_t>(random.below(static_cast<int>(layers.size())))]);
        edit::Hand hand{edit::held::Material{
            materials[static_cast<std::size_t>(random.below(static_cast<int>(materials.size())))]}};
        hand.size = 1 + random.below(5);
        hand.round = random.flip();
        const level::LayerId on = w.session().activeLayerId();
        if (random.flip(0.3)) { // something that was laid by hand lies about
            level::Level with = w.level();
            const Point at{14 + random.below(8), 12 + random.below(5)};
            with.edit(on).grid().set(at, level::Cell(1 + static_cast<unsigned>(random.below(40)), Turn{}, true),
                                     hand.material());
            w.session().applyLevel("By hand", with);
        }
        w.session().setHand(hand);
        const bool erases = random.flip(0.25);
        w.session().setTool(erases ? Tool::eraser : Tool::pencil);
        const Point cell{14 + random.below(8), 12 + random.below(5)};
        const QPoint at = w.view()->cellCentre(cell);
        QMouseEvent move(QEvent::MouseMove, QPointF(at), w.view()->mapToGlobal(QPointF(at)), Qt::NoButton, Qt::NoButton,
                         Qt::ControlModifier);
        QApplication::sendEvent(w.view(), &move);
        const QString text = w.view()->reading().text;
        const level::Level before = w.level();
        QTest::mouseClick(w.view(), Qt::LeftButton, Qt::ControlModifier, at);
        const level::Level after = w.level();
        INFO(i << ": " << text.toStdString());
        const std::vector<Point> tip = edit::pencil_cells(cell, hand.size, hand.round);
        if (tip.size() == 1) {
            CHECK_FALSE(text.contains("cells around"));
            continue;
        }
        CHECK(text.contains(QString("%1 cells around cell %2, %3").arg(tip.size()).arg(cell.x).arg(cell.y)));
        // What went, by its names; what stays, by its number.
        std::set<QString> gone;
        int stays = 0;
        const level::Layer& was = *before.layer(on);
        const level::Layer& is = *after.layer(on);
        for (const Point p : tip) {
            const QString had = translated(edit::name_at(w.session().project(), was, p));
            const bool same =
                was.grid().cell(p) == is.grid().cell(p) && was.grid().material(p) == is.grid().material(p);
            const QString now = translated(edit::name_at(w.session().project(), is, p));
            if (erases) CHECK((now.isEmpty() || text.contains("what lies over")));
            if (!had.isEmpty() && had != now) gone.insert(had);
            stays += !erases && same && was.grid().cell(p).pinned() && was.grid().material(p) == hand.material();
        }
        if (text.contains("what lies over")) { // that is told by the number of cells
            std::int64_t went = 0;
            for (const auto& [id, cells] : changes(before, after))
                if (id == edit::overlay_of(before, on))
                    for (const Point p : tip) went += static_cast<std::int64_t>(cells.count(p));
            CHECK(went == part(text, "in (\\d+) of the").toInt());
            continue;
        }
        const QString told = part(text, erases ? "^Removes <b>([^<]*)</b>" : " · replaces ([^·]*)").trimmed();
        QStringList names = told.split(QRegularExpression(", | and "), Qt::SkipEmptyParts);
        const bool more = names.removeAll("others") > 0;
        if (more)
            CHECK(gone.size() > 3);
        else
            CHECK(std::set<QString>(names.begin(), names.end()) == gone);
        for (const QString& name : names) CHECK(gone.contains(name));
        const QString kept = part(text, " · (one that was laid by hand stays|\\d+ that were laid by hand stay)");
        CHECK((kept.startsWith("one") ? 1 : kept.section(' ', 0, 0).toInt()) == stays);
        replaced += !erases && !gone.empty();
        several += gone.size() > 1;
        removed += erases && !gone.empty();
        stayed += stays > 0;
    }
    INFO(replaced << ' ' << several << ' ' << removed << ' ' << stayed);
    CHECK(replaced >= 15);
    CHECK(several >= 8);
    CHECK(removed >= 8);
    CHECK(stayed >= 5);
}
