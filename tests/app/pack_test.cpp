// A pack of art as a page: some of it is taken, the rest is left.
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QStackedWidget>

#include "app/parts/picture_list.hpp"
#include "app/shell/pack_page.hpp"
#include "app/window.hpp"
#include "base/files.hpp"
#include "join/mask.hpp"

using namespace app_test;

namespace {

// Sixty pictures in three folders: sets of tiles, things, and a text that says whose they are.
QString sixty(Window& w) {
    for (int i = 0; i < 20; ++i) {
        const auto masks = join::cases(level::JoinKind::edges);
        put(w, "Fen/grounds/ground " + std::to_string(i) + ".png",
            make::sheet(make::tiles(masks, 16, make::Style::textured, static_cast<unsigned>(i)), 4, {}, {}));
        put(w, "Fen/things/thing " + std::to_string(i) + ".png",
            make::tile(255, 20 + i, make::Style::see_through, static_cast<unsigned>(i)));
        put(w, "Fen/more/odd " + std::to_string(i) + ".png",
            make::tile(255, 30 + i, make::Style::see_through, static_cast<unsigned>(100 + i)));
    }
    write_file(w.folder / "Fen" / "License.txt", "Art by Ida Sund\nCC0 1.0\n");
    return QString::fromStdString((w.folder / "Fen").string());
}

bool shows(Window& w) { return w.find<PackPage>("packPage")->isVisible(); }

} // namespace

TEST_CASE("of a pack of sixty pictures twelve are taken, with their credits", "[app][pack]") {
    Window w(false);
    w.drop(sixty(w));
    REQUIRE(shows(w));
    CHECK(w.session().project().name == "Fen");
    auto* list = w.find<PictureList>("packList");
    CHECK(list->count() == 60);
    CHECK_FALSE(w.find<QPushButton>("packTake")->isEnabled());
    CHECK_THAT(w.find<QLabel>("packUnder")->text().toStdString(),
               Catch::Contains("60 pictures") && Catch::Contains("CC0"));
    REQUIRE_SOON(!w.find<QLabel>("packUnder")->text().contains("read"));
    // What the page does not show is not commanded.
    w.key(Qt::Key_Return);
    CHECK(shows(w));
    w.clickRow(list, "ground 3");
    w.clickRow(list, "ground 3"); // not, after all
    w.clickRow(list, "ground 4");
    w.clickRow(list, "ground 5");
    w.find<QLineEdit>("packSearch")->setText("things 1");
    CHECK(list->count() == 11); // 1, 10 … 19
    w.clickRow(list, "thing 19");
    w.click("packAll");
    w.click("packAll");
    CHECK(w.find<QPushButton>("packTake")->text().contains("2 of 60"));
    w.click("packAll"); // eleven of them
    w.clickRow(list, "thing 1");
    w.find<QLineEdit>("packSearch")->clear();
    CHECK(w.find<QPushButton>("packTake")->text() == "Take 12 of 60");
    w.picture("pack");
    w.click("packTake");
    CHECK_FALSE(shows(w));
    settle();
    // Two sheets of tiles, and one of the ten things.
    const level::Project& p = w.session().project();
    REQUIRE(p.sheets.size() == 3);
    CHECK(p.prop_kinds.size() == 10);
    for (const auto& s : p.sheets) {
        CHECK(s->credits.author == "Ida Sund");
        CHECK(s->credits.licence == "CC0 1.0");
    }
}

TEST_CASE("a pack that is left leaves nothing, and a flat folder needs no page", "[app][pack]") {
    Window w(false);
    w.click("startAbove");
    w.drop(sixty(w));
    REQUIRE(shows(w));
    w.find<PackPage>("packPage")->setFocus();
    w.key(Qt::Key_Escape);
    CHECK_FALSE(shows(w));
    settle();
    CHECK(w.session().project().sheets.empty());
    w.key(Qt::Key_3, Qt::ControlModifier); // commands are there again
    CHECK(w.session().stage() == Stage::lay);
    w.drop(QString::fromStdString((w.folder / "Fen" / "things").string()));
    settle();
    CHECK_FALSE(shows(w));
    CHECK(w.session().project().prop_kinds.size() == 20);
}
