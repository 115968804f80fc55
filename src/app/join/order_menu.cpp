#include "app/join/order_menu.hpp"

#include <QAction>
#include <QInputDialog>
#include <QLineEdit>
#include <QMenu>
#include <QObject>
#include <QPoint>
#include <QString>
#include <QWidget>
#include <cstdint>

#include "app/join/case_panel.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "base/text.hpp"
#include "edit/joins.hpp"
#include "edit/sheets.hpp"
#include "level/material.hpp"
#include "level/order_card.hpp"
#include "level/project.hpp"
#include "level/sheet.hpp"

namespace vic::app {

void showOrderMenu(Session& session, level::SheetId shown, QWidget* under) {
    const level::Material* m = session.material();
    const level::Sheet* s = session.project().sheet(shown);
    if (!m || !s) return;
    auto* menu = new QMenu(under);
    menu->setObjectName("orderMenu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    auto* keep = menu->addAction(CasePanel::tr("Keep this sheet's order as a card …"));
    keep->setObjectName("keepOrder");
    QObject::connect(keep, &QAction::triggered, under, [&session, under, sheet = s->id] {
        const level::Material* now = session.material();
        const level::Sheet* of = session.project().sheet(sheet);
        if (!now || !of) return;
        bool ok = false;
        const QString name =
            QInputDialog::getText(under, CasePanel::tr("Keep the order of a sheet"), CasePanel::tr("Name of the card:"),
                                  QLineEdit::Normal, QString::fromStdString(of->name), &ok)
                .trimmed();
        if (!ok) return;
        if (const Text wrong = edit::card_trouble(session.project(), sheet, *now, name.toStdString()); !wrong.empty())
            return emit session.said(translated(wrong), true);
        session.apply(CasePanel::tr("Keep an order card"),
                      edit::keep_order(session.project(), sheet, *now, name.toStdString()));
        emit session.said(CasePanel::tr("Kept the order as the card %1").arg(name), false);
    });
    menu->addSeparator();
    int fits = 0;
    for (const level::OrderCard& card : session.project().order_cards) {
        if (card.kind != m->joins.kind || !edit::card_fits(card, *s)) continue;
        ++fits;
        auto* lay = menu->addAction(CasePanel::tr("Lay %1 over this sheet").arg(QString::fromStdString(card.name)));
        lay->setObjectName(QString("layOrder-%1").arg(card.id));
        QObject::connect(lay, &QAction::triggered, under, [&session, sheet = s->id, id = card.id] {
            const level::Material* now = session.material();
            const level::Sheet* of = session.project().sheet(sheet);
            for (const level::OrderCard& c : session.project().order_cards)
                if (c.id == id && now && of && edit::card_fits(c, *of)) {
                    const auto read = edit::reading_by_card(c, *of);
                    const auto lay = [material = now->id, sheet, read](level::Project p) {
                        const level::Sheet* from = p.sheet(sheet);
                        if (!from || !p.material(material)) return p;
                        return edit::rejoin(edit::read_into(p, material, *from, read));
                    };
                    session.applyJoined({CasePanel::tr("Lay an order card"), lay, {}, {}});
                    emit session.said(translated(say_count(static_cast<std::int64_t>(read.tiles.size()),
                                                           "One tile serves its case by the card",
                                                           "%n tiles serve their cases by the card")),
                                      false);
                    return;
                }
        });
    }
    if (fits == 0) menu->addAction(CasePanel::tr("No card of this layout and kind yet"))->setEnabled(false);
    menu->popup(under->mapToGlobal(QPoint(0, under->height())));
}

} // namespace vic::app
