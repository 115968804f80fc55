#include "app/cut/sheet_list.hpp"

#include <QHBoxLayout>
#include <QLabel>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <utility>
#include <vector>

#include "app/parts/panel.hpp"
#include "app/parts/thumbs.hpp"
#include "app/parts/translated.hpp"
#include "app/session/size_badge.hpp"
#include "base/text.hpp"
#include "edit/clash.hpp"
#include "edit/replace.hpp"
#include "level/project.hpp"

namespace vic::app {

SheetList::SheetList(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 12, 0, 0);
    column->setSpacing(6);
    auto* head = new QHBoxLayout;
    head->setContentsMargins(12, 0, 8, 0);
    head->addWidget(label(tr("Sheets"), "heading"));
    head->addStretch();
    auto* add = toolButton(this, "addSheet", {}, tr("+ add, or drop"), {}, "link");
    describe(add, tr("Add a sheet"), "Ctrl+Shift+A", tr("Choose a PNG; dropping it on the window does the same"));
    connect(add, &QToolButton::clicked, this, &SheetList::addAsked);
    head->addWidget(add);
    column->addLayout(head);
    list_ = new CardList(this);
    list_->setObjectName("sheetList");
    list_->setAccessibleName(tr("Sheets"));
    column->addWidget(list_, 1);
    connect(list_, &CardList::chosen, &session_, &Session::setSheet);
    connect(list_, &CardList::renamed, this, [this](quint32 id, const QString& name) {
        level::Project p = session_.project();
        const level::Sheet* s = p.sheet(id);
        if (!s || name.isEmpty() || name.toStdString() == s->name) return refresh();
        if (const Text taken = edit::name_taken_by_sheet(p, name.toStdString(), id); !taken.empty()) {
            emit session_.said(translated(taken), true);
            return refresh();
        }
        level::Sheet changed = *s;
        changed.name = name.toStdString();
        p.put(std::move(changed));
        session_.apply(tr("Rename a sheet"), std::move(p));
    });
}

void SheetList::refresh() {
    std::vector<Card> cards;
    for (const auto& s : session_.project().sheets) {
        // What follows from the sheet alone is kept for as long as it is the same; counting many tiles takes its time.
        SheetLook& known = known_[s->id];
        if (known.of != s) {
            known.of = s;
            known.picture = sheetThumb(*s, 40);
            const auto drawn = std::count_if(s->tiles.begin(), s->tiles.end(), [](const auto& t) { return !t.blank; });
            known.under =
                s->tiles.size() == 1 ? tr("one picture") : tr("%1 px · %2 tiles").arg(s->cut.tile.w).arg(drawn);
        }
        Card card;
        card.id = s->id;
        card.picture = known.picture;
        card.title = QString::fromStdString(s->name);
        card.under = known.under;
        if (!s->image)
            card.state = tr("file lost"), card.looks = true;
        else if (session_.library().fileGone(s->id))
            card.state = tr("file gone from disk"), card.looks = true;
        else if (!s->accepted)
            card.state = tr("new: waits for you"), card.looks = true;
        else if (const QString badge = sizeBadge(session_, s->id); !badge.isEmpty())
            card.state = badge, card.looks = edit::clash_of(session_.project(), *session_.level(), s->id).has_value();
        cards.push_back(card);
    }
    list_->setCards(cards, session_.sheetId());
}

} // namespace vic::app
