#include "app/shell/finder.hpp"

#include <QEvent>
#include <QKeyEvent>
#include <QLineEdit>
#include <QObject>
#include <QStringList>
#include <QVBoxLayout>
#include <QWidget>
#include <algorithm>
#include <cstddef>
#include <utility>

#include "app/parts/picture_list.hpp"

namespace vic::app {

Finder::Finder(QWidget* parent) : QFrame(parent, Qt::Popup) {
    setObjectName("finder");
    setFixedSize(360, 380);
    setStyleSheet("#finder { background: palette(base); border: 1px solid palette(mid); }");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(10, 10, 10, 10);
    field_ = new QLineEdit(this);
    field_->setObjectName("finderField");
    field_->setPlaceholderText(tr("Find a command, sheet, tile, material, layer or mark"));
    field_->installEventFilter(this);
    list_ = new PictureList("finderList", tr("Found"), this);
    list_->setFocusPolicy(Qt::NoFocus);
    column->addWidget(field_);
    column->addWidget(list_, 1);
    connect(field_, &QLineEdit::textChanged, this, &Finder::filter);
    connect(list_, &PictureList::picked, this, &Finder::go);
}

void Finder::open(std::vector<Findable> all, QPoint topRight) {
    all_ = std::move(all);
    field_->clear();
    filter();
    move(topRight - QPoint(width(), 0));
    show();
    field_->setFocus();
}

void Finder::filter() {
    const QStringList words = field_->text().split(' ', Qt::SkipEmptyParts);
    std::vector<PictureRow> rows;
    for (std::size_t i = 0; i < all_.size() && rows.size() < 200; ++i) {
        const Findable& f = all_[i];
        const QString text = f.name + " " + f.kind;
        if (!std::all_of(words.begin(), words.end(),
                         [&](const QString& w) { return text.contains(w, Qt::CaseInsensitive); }))
            continue;
        rows.push_back({static_cast<quint32>(i), f.key.isEmpty()
                                                     ? tr("%1   ·   %2").arg(f.name, f.kind)
                                                     : tr("%1   ·   %2   ·   %3").arg(f.name, f.kind, f.key)});
    }
    const auto first = rows.empty() ? std::nullopt : std::optional(rows.front().id);
    list_->setRows(std::move(rows));
    list_->setCurrent(first);
}

void Finder::go(std::size_t row) {
    const auto action = all_[row].go;
    hide();
    action();
}

bool Finder::eventFilter(QObject* object, QEvent* event) {
    if (event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Down || key == Qt::Key_Up) {
            list_->step(key == Qt::Key_Down ? 1 : -1);
            return true;
        }
        if (key == Qt::Key_Return || key == Qt::Key_Enter) {
            if (const auto current = list_->current()) go(*current);
            return true;
        }
    }
    return QFrame::eventFilter(object, event);
}

} // namespace vic::app
