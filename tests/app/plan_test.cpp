// Levels that follow a picture, in the window.
#include "app/window.hpp"

#include <QImage>
#include <QLabel>
#include <QTest>
#include <memory>
#include <string>
#include <vector>

#include "app/lay/plan_keys.hpp"
#include "app/lay/plan_panel.hpp"
#include "app/session/session.hpp"
#include "app/sheet/sheet_view.hpp"
#include "base/files.hpp"
#include "base/image.hpp"
#include "level/level.hpp"
#include "level/project.hpp"
#include "plan/read_plan.hpp"
#include "sheet/png.hpp"

using namespace vic;
using namespace vic::app;
using namespace app_test;

namespace {

void empty_level(Window& w, const char* name, Size cells) {
    level::Project p = w.session().project();
    level::Level fresh = level::make_level(p, name, cells, {16, 16}, level::View::from_above);
    const std::string id = fresh.id;
    p.put(std::move(fresh));
    w.session().apply(name, std::move(p));
    w.session().setLevel(id);
}

} // namespace

TEST_CASE("a colour of a plan is given a tile out of any sheet", "[app][plan]") {
    Window w;
    w.stage("stage-lay");
    const fs::path picture = w.folder / "dots.png";
    Image dots({8, 8}, Rgba{10, 10, 10, 255});
    for (int i = 0; i < 8; ++i) dots.set(i, i, {250, 250, 20, 255});
    write_file(picture, sheet::encode_png(dots));
    empty_level(w, "Dots", {8, 8});
    w.find<PlanPanel>("planPanel")->begin(QString::fromStdString(picture.string()));
    REQUIRE(w.find<PlanKeys>("planKeys")->model()->rowCount() == 2);
    REQUIRE(w.find<QWidget>("planPanel")->isVisible());
    // The dots are the rarer colour.
    w.mean(1, "a tile…");
    auto* popup = w.find<QWidget>("tilePicker");
    REQUIRE(QTest::qWaitFor([&] { return popup->isVisible(); }, 2000));
    w.choose("pickerSheets", "Crust");
    auto* sheet = w.find<SheetView>("pickerSheet");
    w.clickAt(sheet, sheet->tileCentre(2));
    REQUIRE(QTest::qWaitFor([&] { return !popup->isVisible(); }, 2000));
    level::TileId wanted = 0;
    for (const auto& s : w.session().project().sheets)
        if (s->name == "Crust") wanted = s->tiles[2].id;
    REQUIRE(QTest::qWaitFor(
        [&] {
            return w.view()->shown().layer(w.layer("Ground").id)->grid().cell({3, 3}).tile() == wanted;
        },
        2000));
    w.click("planLay");
    CHECK(w.layer("Ground").grid().cell({5, 5}).tile() == wanted);
    CHECK(w.layer("Ground").grid().cell({5, 4}).empty());
    CHECK(w.rowText(w.find<PlanKeys>("planKeys"), 1) == "Salt crust 3");
}

TEST_CASE("a pixel of a plan that means nothing is crossed where it lies", "[app][plan]") {
    Window w;
    w.stage("stage-lay");
    // More colours than a plan can have: one that fills it, and a pixel each of 343.
    Image many({20, 20}, Rgba{10, 10, 10, 255});
    for (int i = 0; i < 343; ++i) {
        const auto part = [](int step) { return static_cast<std::uint8_t>(39 + 36 * step); };
        many.set(i % 20, i / 20, {part(i % 7), part(i / 7 % 7), part(i / 49), 255});
    }
    const fs::path picture = w.folder / "many.png";
    write_file(picture, sheet::encode_png(many));
    empty_level(w, "Many", {20, 20});
    w.find<PlanPanel>("planPanel")->begin(QString::fromStdString(picture.string()));
    const level::Plan* plan = nullptr;
    REQUIRE_SOON((plan = w.view()->shown().plan ? &*w.view()->shown().plan : nullptr) != nullptr);
    std::vector<Point> unknown, known;
    for (int y = 0; y < 20; ++y)
        for (int x = 0; x < 20; ++x)
            (plan->laid[static_cast<std::size_t>(y * 20 + x)] == level::kNoKey ? unknown : known).push_back({x, y});
    REQUIRE_FALSE(unknown.empty());
    REQUIRE(known.size() > 50);
    CHECK(w.find<QLabel>("planResult")->text().contains(QString("%1 pixel").arg(unknown.size())));
    w.view()->fit();
    settle();
    const QImage seen = w.view()->grab().toImage();
    const auto vermilion = [&](Point cell) {
        const QPoint c = w.view()->cellCentre(cell);
        int red = 0;
        for (int y = -6; y <= 6; ++y)
            for (int x = -6; x <= 6; ++x) {
                const QColor p = seen.pixelColor(c + QPoint(x, y));
                red += p.red() > 180 && p.green() < 110 && p.blue() < 90;
            }
        return red;
    };
    for (const Point at : unknown) {
        INFO(at.x << ", " << at.y);
        CHECK(vermilion(at) >= 8);
    }
    CHECK(vermilion({6, 19}) == 0);
    w.picture("plan-unknown");
}
