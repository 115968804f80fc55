// Planting as a designer works it: areas, passes, brushes, what is done by hand, seeds, making props of it.
#include <QApplication>
#include <QCheckBox>
#include <QClipboard>
#include <QComboBox>
#include <QGuiApplication>
#include <QLabel>
#include <QListView>
#include <QMenu>
#include <QMessageBox>
#include <QPushButton>
#include <QScrollArea>
#include <QSpinBox>
#include <QTest>
#include <QTimer>
#include <QToolButton>
#include <algorithm>
#include <cmath>
#include <set>

#include "app/dress/pass_card.hpp"
#include "app/dress/planting_panel.hpp"
#include "app/parts/card_list.hpp"
#include "app/window.hpp"
#include "edit/plant.hpp"

using namespace app_test;

namespace {

// The demo in Dress, with a planting of its own in front.
struct Planting : Window {
    level::LayerId id = 0;
    Planting() {
        stage("stage-dress");
        click("addLayer");
        clickEntry(shownMenu("addLayerMenu"), "Planting");
        id = session().activeLayerId();
        (*this)->activateWindow();
    }
    MainWindow* operator->() { return window.get(); }
    const level::Layer& layer() { return *level().layer(id); }
    const level::Planting& recipe() { return layer().planted()->recipe; }
    std::vector<level::Prop> props() { return layer().props().all(); }
    // Into sight first, as one scrolls.
    template <class T>
    T* seen(const char* name) {
        T* found = find<T>(name);
        for (QWidget* w = found; w; w = w->parentWidget())
            if (auto* area = qobject_cast<QScrollArea*>(w)) area->ensureWidgetVisible(found, 0, 60);
        settle();
        return found;
    }
    void pick(const char* combo, const QString& text) {
        seen<QComboBox>(combo);
        choose(combo, text);
        settle();
    }
    void number(const char* field, const char* text) {
        type(seen<QSpinBox>(field), text);
        settle();
    }
    void addPass(const char* prop) { pick("addPass", prop); }
};

double nearest(const std::vector<level::Prop>& props) {
    double out = 1e9;
    for (std::size_t i = 0; i < props.size(); ++i)
        for (std::size_t k = 0; k < i; ++k)
            out = std::min(out, std::hypot(props[i].at.x - props[k].at.x, props[i].at.y - props[k].at.y));
    return out;
}

} // namespace

TEST_CASE("a planting grows where its panel says, and anew with every change", "[app][planting]") {
    Planting w;
    CHECK(w.find<QWidget>("plantingPanel")->isVisible());
    w.pick("areaAdd", "Marsh");
    w.addPass("Reeds");
    REQUIRE(w.props().size() > 10);
    CHECK(w.find<QLabel>("plantingCount")->text().contains(QString::number(w.props().size())));
    CHECK(w.find<QLabel>("plantingKinds")->text().startsWith(QString("Reeds %1 · pictures").arg(w.props().size())));
    const level::MaterialId marsh = w.recipe().area[0].material;
    for (const level::Prop& p : w.props())
        CHECK(std::any_of(w.level().layers.begin(), w.level().layers.end(), [&](const auto& l) {
            return l->tiles() && l->grid().material(w.level().geometry().cell_at(p.at)) == marsh;
        }));
    const std::size_t dense = w.props().size();
    w.number("plantApart-0", "60");
    CHECK(w.props().size() < dense);
    CHECK(nearest(w.props()) >= 60);
    w.picture("planting-pass");
    // One undo for each step; the recipe comes back with what grew of it.
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.props().size() == dense);
    // Another seed out of six.
    const auto had = w.props();
    w.click("plantSeeds");
    auto* card = qobject_cast<QWidget*>(QApplication::activePopupWidget());
    REQUIRE(card);
    auto* third = card->findChild<QToolButton*>("seed-3");
    REQUIRE(third);
    if (const QByteArray to = qgetenv("VICINUM_PICTURES"); !to.isEmpty()) card->grab().save(to + "/zz-seeds.png");
    const QString promised = third->text();
    w.clickAt(third, third->rect().center());
    settle();
    CHECK(promised.endsWith(QString::number(w.props().size())));
    CHECK(w.props() != had);
    CHECK(w.recipe().seed != 1);
}

TEST_CASE("a marsh edge in six passes: 15 actions", "[app][planting][journey]") {
    Planting w; // "+ layer", Planting
    int actions = 2;
    // Where nothing grows yet.
    level::Level bare = w.level();
    for (const level::LayerRef& l : w.level().layers)
        if (l->planted() && l->id != w.id) bare.edit(l->id).shown = false;
    w.session().applyLevel("Bare", bare);
    w.view()->setCamera(2, {74.0 * 16, 22.0 * 16});
    w.pick("areaAdd", "Marsh"), ++actions;
    const struct {
        const char* prop;
        const char* field;
        const char* value;
    } passes[] = {{"Alder", "plantApart-0", "110"},
                  {"Stone", "plantApart-1", "90"},
                  {"Tall reeds", "plantClumps-2", "70"},
                  {"Sea lavender", "plantClumps-3", "60"},
                  {"Sedge", "plantApart-4", "22"}};
    for (const auto& pass : passes) {
        w.addPass(pass.prop), ++actions;
        w.number(pass.field, pass.value), ++actions;
    }
    w.addPass("Twigs"), ++actions;
    w.number("plantApart-5", "40"), ++actions;
    CHECK(actions == 15);
    REQUIRE(w.recipe().passes.size() == 6);
    std::set<int> grown;
    for (const level::Prop& p : w.props()) grown.insert(p.pass);
    CHECK(grown.size() >= 5);
    CHECK(w.props().size() > 100);
    // A pass in the middle opened, as it is worked on.
    auto* card = w.seen<PassCard>("pass-2");
    w.clickAt(card, {30, 14});
    w.seen<QSpinBox>("plantClumps-2");
    w.picture("planting");
}

TEST_CASE("its area is painted, thinned and cleared with a soft tip", "[app][planting]") {
    Planting w;
    w.addPass("Reeds");
    w.number("plantApart-0", "12");
    const std::size_t everywhere = w.props().size();
    CHECK(everywhere > 1000);
    w.view()->setFocus();
    w.view()->setCamera(2, {20.0 * 16, 16.0 * 16});
    w.key(Qt::Key_A, Qt::ShiftModifier);
    CHECK(w.session().tool() == Tool::plantArea);
    // The first stroke makes it the painted area.
    edit::Hand hand = w.session().hand();
    hand.size = 8;
    w.session().setHand(hand);
    w.dragCells({{14, 12}, {26, 12}});
    REQUIRE(w.recipe().area.size() == 1);
    CHECK(w.recipe().area[0].of == level::AreaOf::painted);
    const std::size_t painted = w.props().size();
    REQUIRE(painted > 20);
    CHECK(painted < everywhere / 4);
    for (const level::Prop& p : w.props()) CHECK(std::abs(p.at.y - 12 * 16 - 8) <= 68);
    w.hover({20, 14});
    w.picture("planting-area");
    // Half of it.
    w.key(Qt::Key_T);
    w.dragCells({{14, 12}, {26, 12}});
    const std::size_t thin = w.props().size();
    CHECK(thin < painted * 3 / 4);
    CHECK(thin > painted / 4);
    // What stays had been there.
    w.dragCells({{20, 12}, {26, 12}}, Qt::RightButton);
    CHECK(w.props().size() < thin);
    for (const level::Prop& p : w.props())
        CHECK_FALSE((p.at.x > 21 * 16 && p.at.x < 28 * 16 && std::abs(p.at.y - 12 * 16 - 8) < 24));
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.props().size() == thin);
}

TEST_CASE("what is moved, taken and added by hand stays when it grows again", "[app][planting]") {
    Planting w;
    w.pick("areaAdd", "Marsh");
    w.addPass("Barrel");
    w.number("plantApart-0", "60");
    // One whose picture the middle of a cell lies in.
    const auto all = w.props();
    const auto found = std::find_if(all.begin() + 3, all.end(), [](const level::Prop& p) {
        return p.at.x % 16 >= 4 && p.at.x % 16 <= 12 && p.at.y % 16 >= 10;
    });
    REQUIRE(found != all.end());
    const level::Prop one = *found, other = all.front();
    w.view()->setFocus();
    w.view()->setCamera(2, QPointF(one.at.x, one.at.y));
    w.key(Qt::Key_S);
    const Point cell{one.at.x / 16, one.at.y / 16};
    w.drag(cell, cell + Point{5, 3});
    const level::Prop* moved = w.layer().props().find(one.id);
    REQUIRE(moved);
    REQUIRE_FALSE(moved->at == one.at);
    CHECK(moved->pass == 0);
    const Point at = moved->at;
    w.session().setProp(other.id);
    w.view()->setFocus();
    w.key(Qt::Key_Delete);
    CHECK_FALSE(w.layer().props().find(other.id));
    w.session().setChosen({});
    settle();
    CHECK(w.find<QLabel>("plantingHand")->text().startsWith("1 kept by hand, 1 taken away"));
    w.click("plantAgain");
    settle();
    REQUIRE(w.layer().props().find(one.id));
    CHECK(w.layer().props().find(one.id)->at == at);
    for (const level::Prop& p : w.props()) CHECK_FALSE(p.at == other.at);
    // Each is listed, shown where it is, and forgotten by itself.
    auto* kept = w.find<CardList>("keptList");
    CHECK_FALSE(kept->isVisible());
    w.click("plantingKept");
    REQUIRE_SOON(kept->isVisible() && kept->cards().size() == 2);
    CHECK(kept->cards()[0].title == "Barrel");
    CHECK(kept->cards()[1].title == "Taken away");
    w.clickAt(kept->viewport(), kept->cardCentre(1));
    CHECK(w.view()->seenCells().contains(Point{at.x / 16, at.y / 16}));
    w.picture("planting-hand");
    w.clickAt(kept->viewport(), kept->cardCentre(2));
    CHECK(w.find<QToolButton>("plantingForget")->text() == "forget it");
    w.click("plantingForget");
    settle();
    CHECK(kept->cards().size() == 1);
    CHECK(w.recipe().taken.empty());
    REQUIRE(w.layer().props().find(one.id));
    CHECK(w.layer().props().find(one.id)->at == at);
    w.click("plantingForget");
    settle();
    CHECK_FALSE(w.find<QLabel>("plantingHand")->isVisible());
    const auto places = [&] {
        std::set<std::pair<int, int>> out;
        for (const level::Prop& p : w.props()) out.insert({p.at.x, p.at.y});
        return out;
    };
    CHECK(places().contains({one.at.x, one.at.y}));
    CHECK(places().contains({other.at.x, other.at.y}));
    // Plain props out of it.
    const std::size_t count = w.props().size();
    w.click("plantFreeze");
    settle();
    CHECK(w.layer().kind() == level::LayerKind::props);
    CHECK(w.layer().props().size() == count);
    CHECK(w.find<QWidget>("plantingPanel")->isHidden());
}

TEST_CASE("far too many are asked for first, and nothing is changed", "[app][planting]") {
    Planting w;
    w.addPass("Reeds");
    w.number("plantApart-0", "40");
    const auto before = w.props();
    bool asked = false;
    answerNext([&](QWidget* top) {
        auto* box = qobject_cast<QMessageBox*>(top);
        if (!box) return false;
        asked = box->text().contains("props would grow");
        box->reject();
        return true;
    });
    w.number("plantApart-0", "2");
    REQUIRE_SOON(asked);
    CHECK(w.props() == before);
    CHECK(w.recipe().passes[0].apart == 40);
}

TEST_CASE("a recipe is copied and grows on another layer as well", "[app][planting]") {
    Planting w;
    w.pick("areaAdd", "Marsh");
    w.addPass("Reeds");
    w.number("plantApart-0", "30");
    const level::Planting recipe = w.recipe();
    w.click("recipeCopy");
    w.click("addLayer");
    clickEntry(shownMenu("addLayerMenu"), "Planting");
    w.id = w.session().activeLayerId();
    CHECK(w.props().empty());
    w.click("recipePaste");
    settle();
    CHECK(w.recipe() == recipe);
    CHECK(w.props().size() > 20);
    QGuiApplication::clipboard()->setText("no recipe");
    w.click("recipePaste");
    CHECK((w.reading() + w.notice()).contains("no recipe of a planting"));
    CHECK(w.recipe() == recipe);
}

TEST_CASE("why nothing grows is told at its pass", "[app][planting]") {
    Planting w;
    w.addPass("Reeds");
    w.number("plantWeight-0-0", "0");
    CHECK(w.props().empty());
    auto* card = w.find<PassCard>("pass-0");
    const auto labels = card->findChildren<QLabel*>();
    CHECK(std::any_of(labels.begin(), labels.end(), [](QLabel* l) { return l->text() == "All its weights are 0"; }));
}

TEST_CASE("repetition is seen as heat, and all of it from afar", "[app][planting][lively]") {
    Planting w;
    w.addPass("Thrift");
    w.number("plantApart-0", "14");
    w.view()->setCamera(2, {76.0 * 16, 20.0 * 16});
    settle();
    const QString says = w.find<QLabel>("plantingLively")->text();
    CHECK(says.contains("alike from"));
    CHECK(says.contains("covered"));
    const QImage plain = w.view()->grab().toImage();
    w.click("plantingHeat");
    CHECK(w.view()->showsHeat());
    const QImage hot = w.view()->grab().toImage();
    CHECK(hot != plain);
    w.picture("planting-heat");
    // Warm where they stand, and nowhere else.
    int off = 0, on = 0;
    const std::vector<level::Prop> props = w.props();
    for (int y = 40; y < hot.height() - 140; y += 3)
        for (int x = 40; x < hot.width() - 140; x += 3) {
            if (hot.pixel(x, y) == plain.pixel(x, y)) continue;
            const Point cell = w.view()->cellAt({double(x), double(y)});
            const bool near = std::any_of(props.begin(), props.end(), [&](const level::Prop& p) {
                return std::abs(p.at.x / 16 - cell.x) <= 2 && std::abs(p.at.y / 16 - cell.y) <= 2;
            });
            ++(near ? on : off);
        }
    CHECK(on > 200);
    CHECK(off == 0);
    w.view()->setFocus();
    w.key(Qt::Key_O, Qt::ShiftModifier);
    CHECK_FALSE(w.view()->showsHeat());
    w.click("plantingAfar");
    CHECK(w.view()->zoom() < 0.5);
    w.picture("planting-afar");
    w.view()->setFocus();
    w.key(Qt::Key_Home, Qt::ShiftModifier);
    CHECK(w.view()->zoom() == 2);
    CHECK(std::abs(w.view()->centre().x() - 76 * 16) < 2);
}

TEST_CASE("ground patches are planted: props of tiles that lie flat", "[app][planting][tiles]") {
    Window w;
    w.stage("stage-cut");
    for (const auto& s : w.session().project().sheets)
        if (s->name == "Crust") {
            w.session().setSheet(s->id);
            w.session().setTiles({s->tiles[0].id, s->tiles[1].id, s->tiles[4].id});
        }
    settle();
    w.picture("cut-props-of-tiles");
    w.click("propsOfTiles");
    int flat = 0;
    for (const auto& k : w.session().project().prop_kinds)
        flat += k->flat && (k->name == "Salt crust 1" || k->name == "Salt crust 2" || k->name == "Pebbles");
    CHECK(flat == 3);
    w.stage("stage-dress");
    w.click("addLayer");
    clickEntry(shownMenu("addLayerMenu"), "Planting");
    w.choose("addPass", "Salt crust 1");
    settle();
    const level::Layer& layer = *w.session().activeLayer();
    CHECK(layer.props().size() > 100);
}
