#include "app/parts/note_rows.hpp"

#include <QColor>
#include <QColorDialog>
#include <QComboBox>
#include <QDoubleValidator>
#include <QHBoxLayout>
#include <QLayoutItem>
#include <QLineEdit>
#include <QLocale>
#include <QMenu>
#include <QPixmap>
#include <QPoint>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>
#include <QVariant>
#include <algorithm>
#include <cstdint>
#include <optional>
#include <string>
#include <utility>

#include "app/parts/glyphs.hpp"
#include "app/parts/panel.hpp"
#include "base/image.hpp"

namespace vic::app {

NoteRows::NoteRows(Change change, More more, QWidget* parent)
    : QWidget(parent), change_(std::move(change)), more_(std::move(more)), rows_(new QVBoxLayout(this)) {
    rows_->setContentsMargins(0, 0, 0, 0);
    rows_->setSpacing(6);
}

QWidget* NoteRows::editorOf(const level::NoteKind& kind) {
    const auto set = [this, id = kind.id, name = QString::fromStdString(kind.name)](const level::NoteValue& value) {
        change_(tr("Note %1").arg(name), [id, value](level::Notes& notes) { notes[id] = value; });
    };
    const QString objectName = "note-" + QString::fromStdString(kind.name);
    switch (kind.type) {
        case level::NoteType::text: {
            auto* edit = new QLineEdit(this);
            connect(edit, &QLineEdit::editingFinished, this, [edit, set] {
                if (!edit->isModified()) return;
                edit->setModified(false);
                set(edit->text().toStdString());
            });
            edit->setObjectName(objectName);
            return edit;
        }
        case level::NoteType::number: {
            auto* edit = new QLineEdit(this);
            edit->setValidator(new QDoubleValidator(edit));
            connect(edit, &QLineEdit::editingFinished, this, [edit, set] {
                if (!edit->isModified()) return;
                edit->setModified(false);
                bool good = false;
                const double v = QLocale().toDouble(edit->text(), &good);
                if (good) set(v);
            });
            edit->setObjectName(objectName);
            return edit;
        }
        case level::NoteType::yes_no: {
            auto* box = new QComboBox(this);
            box->addItems({tr("not said"), tr("yes"), tr("no")});
            connect(box, &QComboBox::activated, this, [this, set, id = kind.id](int i) {
                if (i == 0)
                    change_(tr("Remove a note"), [id](level::Notes& notes) { notes.erase(id); });
                else
                    set(i == 1);
            });
            box->setObjectName(objectName);
            return box;
        }
        case level::NoteType::colour: {
            auto* button = new QPushButton(this);
            connect(button, &QPushButton::clicked, this, [this, button, set] {
                const QColor c = QColorDialog::getColor(button->property("colour").value<QColor>(), this, tr("Colour"));
                if (!c.isValid()) return;
                const auto part = [](int v) { return static_cast<std::uint8_t>(v); };
                set(Rgba{part(c.red()), part(c.green()), part(c.blue()), part(c.alpha())});
            });
            button->setObjectName(objectName);
            return button;
        }
        case level::NoteType::choice:
        case level::NoteType::side:
            break;
    }
    auto* box = new QComboBox(this);
    box->addItem(tr("not said"));
    const bool side = kind.type == level::NoteType::side;
    if (side) {
        box->addItems({tr("north"), tr("east"), tr("south"), tr("west")});
        box->setToolTip(tr("Of the tile as drawn; it turns with the tile"));
    }
    const auto choices =
        side ? std::vector<std::string>(level::side_words().begin(), level::side_words().end()) : kind.choices;
    if (!side)
        for (const std::string& c : choices) box->addItem(QString::fromStdString(c));
    connect(box, &QComboBox::activated, this, [this, set, id = kind.id, choices](int i) {
        if (i == 0)
            change_(tr("Remove a note"), [id](level::Notes& notes) { notes.erase(id); });
        else
            set(choices[static_cast<std::size_t>(i - 1)]);
    });
    box->setObjectName(objectName);
    return box;
}

void NoteRows::rebuild(const std::vector<level::NoteKind>& kinds) {
    builtFor_ = kinds;
    editors_.clear();
    while (QLayoutItem* item = rows_->takeAt(0)) {
        if (item->widget()) {
            item->widget()->hide();
            item->widget()->deleteLater();
        }
        delete item;
    }
    for (const level::NoteKind& kind : builtFor_) {
        auto* line = new QWidget(this);
        auto* row = new QHBoxLayout(line);
        row->setContentsMargins(0, 0, 0, 0);
        row->setSpacing(8);
        auto* name =
            toolButton(line, "noteMenu-" + QString::fromStdString(kind.name), {}, QString::fromStdString(kind.name),
                       tr("Take it off here, or out of the project"), "link");
        name->setFixedWidth(kNoteNames);
        name->setStyleSheet("text-align: left; padding-left: 0;");
        connect(name, &QToolButton::clicked, this, [this, name, kind] {
            QMenu menu;
            menu.addAction(tr("Take it off"), this, [this, id = kind.id] {
                change_(tr("Remove a note"), [id](level::Notes& notes) { notes.erase(id); });
            });
            if (more_) more_(menu, kind);
            menu.exec(name->mapToGlobal(QPoint(0, name->height())));
        });
        row->addWidget(name);
        QWidget* editor = editorOf(kind);
        editor->setAccessibleName(QString::fromStdString(kind.name));
        row->addWidget(editor, 1);
        editors_[kind.id] = editor;
        rows_->addWidget(line);
    }
}

void NoteRows::show(const level::NoteKind& kind, QWidget* editor, const std::vector<const level::Notes*>& chosen) {
    const auto value = [&](const level::Notes& notes) {
        const auto at = notes.find(kind.id);
        return at == notes.end() ? std::optional<level::NoteValue>() : at->second;
    };
    const auto first = value(*chosen.front());
    const bool same =
        std::all_of(chosen.begin(), chosen.end(), [&](const level::Notes* notes) { return value(*notes) == first; });
    if (auto* edit = qobject_cast<QLineEdit*>(editor)) {
        if (edit->hasFocus() && edit->isModified()) return;
        QString text;
        if (same && first && kind.type == level::NoteType::number)
            text = QLocale().toString(std::get<double>(*first), 'g', 12);
        else if (same && first)
            text = QString::fromStdString(std::get<std::string>(*first));
        edit->setText(text);
        edit->setPlaceholderText(same ? tr("not said") : tr("several"));
    } else if (auto* box = qobject_cast<QComboBox*>(editor)) {
        int index = 0;
        if (same && first && kind.type == level::NoteType::yes_no) index = std::get<bool>(*first) ? 1 : 2;
        if (same && first && kind.type == level::NoteType::side) {
            const auto& words = level::side_words();
            const auto at = std::find(words.begin(), words.end(), std::get<std::string>(*first));
            index = static_cast<int>(at - words.begin()) + 1;
        }
        if (same && first && kind.type == level::NoteType::choice)
            index = box->findText(QString::fromStdString(std::get<std::string>(*first)));
        box->setCurrentIndex(same ? index : -1);
    } else if (auto* button = qobject_cast<QPushButton*>(editor)) {
        const Rgba c = same && first ? std::get<Rgba>(*first) : std::get<Rgba>(level::first_value(kind));
        const QColor colour(c.r, c.g, c.b, c.a);
        button->setProperty("colour", colour);
        QPixmap swatch(14, 14);
        swatch.fill(same && first ? colour : Qt::transparent);
        button->setIcon(swatch);
        button->setText(!same ? tr("several") : first ? colour.name() : tr("not said"));
    }
}

void NoteRows::refresh(const std::vector<level::NoteKind>& kinds, const std::vector<const level::Notes*>& chosen) {
    if (builtFor_ != kinds) rebuild(kinds);
    for (const level::NoteKind& kind : builtFor_) show(kind, editors_.at(kind.id), chosen);
}

} // namespace vic::app
