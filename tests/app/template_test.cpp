// A template is given out, drawn on, and comes back.
#include <QApplication>
#include <QFileDialog>
#include <QImage>
#include <QInputDialog>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QSpinBox>
#include <QTest>
#include <QTimer>

#include "app/window.hpp"
#include "base/files.hpp"
#include "join/mask.hpp"
#include "join/template_picture.hpp"
#include "sheet/png.hpp"

using namespace app_test;

namespace {

// Answers the question for the size, and then where to save.
void answer(int side, const QString& file) {
    auto* timer = new QTimer(qApp);
    timer->setInterval(50);
    QObject::connect(timer, &QTimer::timeout, timer, [=, tries = 0]() mutable {
        if (++tries > 100) return timer->deleteLater();
        QWidget* top = QApplication::activeModalWidget();
        if (auto* size = qobject_cast<QInputDialog*>(top)) {
            size->setIntValue(side);
            size->accept();
        } else if (auto* files = qobject_cast<QFileDialog*>(top)) {
            auto* field = files->findChild<QLineEdit*>("fileNameEdit");
            if (!field) return;
            timer->deleteLater();
            field->setText(file);
            static_cast<QDialog*>(files)->done(QDialog::Accepted);
        }
    });
    timer->start();
}

} // namespace

TEST_CASE("a template that was drawn on is known when it comes back, case by case", "[app][template]") {
    Window w(false);
    w.click("startAbove");
    settle();
    w.key(Qt::Key_2, Qt::ControlModifier);
    const fs::path file = w.folder / "edges.png";
    answer(20, QString::fromStdString(file.string()));
    w.click("addMaterial");
    clickEntry(shownMenu("newMaterialMenu"), "A template to draw on");
    clickEntry(shownMenu("templateMenu"), "Edges: 16 cases…");
    REQUIRE_SOON(fs::exists(file));
    (*w).activateWindow();
    REQUIRE(w.session().project().order_cards.size() == 1);
    Image picture = sheet::read_png(file);
    REQUIRE(picture.size() == Size{80, 80});
    // The artist draws all cases but one.
    const auto masks = join::template_masks(level::JoinKind::edges);
    for (std::size_t i = 0; i < 15; ++i) {
        const Image tile = make::tile(*masks[i], 20, make::Style::outlined, 5);
        for (int y = 0; y < 20; ++y)
            for (int x = 0; x < 20; ++x)
                picture.set(static_cast<int>(i) % 4 * 20 + x, static_cast<int>(i) / 4 * 20 + y, tile.at(x, y));
    }
    write_file(file, sheet::encode_png(picture));
    w.drop(QString::fromStdString(file.string()));
    REQUIRE_SOON(w.session().project().sheets.size() == 1);
    settle();
    CHECK(w.session().sheet()->cut.tile == Size{20, 20});
    CHECK(w.session().sheet()->accepted);
    w.picture("template-back");
    w.key(Qt::Key_M);
    REQUIRE_SOON(w.session().project().materials.size() == 1);
    const level::JoinSet& joins = w.session().project().materials[0]->joins;
    CHECK(joins.kind == level::JoinKind::edges);
    CHECK(joins.cases.size() == 15);
    for (std::size_t i = 0; i < 15; ++i)
        CHECK(joins.cases.at(*masks[i]).front().tile == w.session().sheet()->tiles[i].id);
    CHECK(w.reading().contains("Drawn on the template: 15 of 16 cases"));
    CHECK_FALSE(w.find<QWidget>("twoWays")->isVisible()); // nothing to be asked
    w.picture("template-joins");
    // It lies as it was drawn for.
    w.key(Qt::Key_3, Qt::ControlModifier);
    settle();
}
