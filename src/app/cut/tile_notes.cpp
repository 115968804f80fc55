#include "app/cut/tile_notes.hpp"

#include <QColor>
#include <QColorDialog>
#include <QComboBox>
#include <QDialog>
#include <QDialogButtonBox>
#include <QDoubleValidator>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLayoutItem>
#include <QLineEdit>
#include <QLocale>
#include <QMenu>
#include <QPixmap>
#include <QPoint>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <optional>
#include <string>

#include "app/parts/panel.hpp"
#include "app/parts/translated.hpp"
#include "base/image.hpp"
#include "base/text.hpp"
#include "edit/notes.hpp"
#include "edit/sheets.hpp"
#include "level/sheet.hpp"

namespace vic::app {

namespace {
constexpr int kNameWidth = 78;
} // namespace

TileNotes::TileNotes(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    turns_ = new QComboBox(this);
    turns_->setObjectName("tileTurns");
    turns_->addItem(tr("any way"), uint(level::kAllTurns));
    turns_->addItem(tr("turned, not mirrored"), uint(level::kQuarterTurns));
    turns_->addItem(tr("mirrored, not turned"), uint(level::kMirrorOnly));
    turns_->addItem(tr("only as drawn"), uint(level::kNoTurns));
    turns_->setToolTip(tr("What the Hand may do with it: some art has light or lettering that must not turn"));
    addField(column, tr("May be laid"), turns_, kNameWidth);
    connect(turns_, &QComboBox::activated, this, [this] {
        const auto mask = static_cast<std::uint8_t>(turns_->currentData().toUInt());
        change(tr("Turns of tiles"), [mask](level::Tile& t) {
            t.turns = t.is_block() ? static_cast<std::uint8_t>(mask & level::kMirrorOnly) : mask; // what stands up
        });
    });
    tags_ = new QLineEdit(this);
    tags_->setObjectName("tileTags");
    tags_->setPlaceholderText(tr("shore, wet"));
    tags_->setToolTip(tr("Words between commas; Find looks for them, the engine gets them"));
    addField(column, tr("Tags"), tags_, kNameWidth);
    connect(tags_, &QLineEdit::editingFinished, this, [this] {
        if (!tags_->isModified()) return;
        tags_->setModified(false);
        change(tr("Tags of tiles"),
               [tags = edit::parse_tags(tags_->text().toStdString())](level::Tile& t) { t.tags = tags; });
    });
    auto* head = new QHBoxLayout;
    head->addWidget(label(tr("Notes"), "heading"));
    head->addStretch();
    auto* add = toolButton(this, "addNote", {}, tr("+ note"), {}, "link");
    describe(add, tr("Add a note"), {}, tr("A value for the game, of one type in the whole project"));
    connect(add, &QToolButton::clicked, this, &TileNotes::addKind);
    head->addWidget(add);
    column->addLayout(head);
    rows_ = new QVBoxLayout;
    rows_->setSpacing(6);
    column->addLayout(rows_);
}

void TileNotes::change(const QString& name, const std::function<void(level::Tile&)>& what) {
    if (session_.tiles().empty()) return;
    session_.apply(name, edit::change_tiles(session_.project(), session_.tiles(), what));
}

void TileNotes::addKind() {
    QDialog dialog(this);
    dialog.setObjectName("noteDialog");
    dialog.setWindowTitle(tr("Add a note"));
    auto* form = new QFormLayout(&dialog);
    auto* name = new QLineEdit(&dialog);
    name->setObjectName("noteName");
    form->addRow(tr("Name"), name);
    auto* type = new QComboBox(&dialog);
    type->setObjectName("noteType");
    type->addItems({tr("text"), tr("number"), tr("yes or no"), tr("colour"), tr("choice"), tr("side of the tile")});
    form->addRow(tr("Holds"), type);
    auto* choices = new QLineEdit(&dialog);
    choices->setObjectName("noteChoices");
    choices->setPlaceholderText(tr("stone, wood, wet"));
    choices->setEnabled(false);
    form->addRow(tr("Choices"), choices);
    connect(type, &QComboBox::currentIndexChanged, choices,
            [choices](int i) { choices->setEnabled(i == static_cast<int>(level::NoteType::choice)); });
    auto* trouble = label({}, "warning", &dialog);
    form->addRow(trouble);
    auto* buttons = new QDialogButtonBox(&dialog);
    auto* ok = buttons->addButton(tr("Add"), QDialogButtonBox::AcceptRole);
    ok->setObjectName("noteAdd");
    setRole(ok, "primary");
    dialog.setMinimumWidth(320);
    buttons->addButton(tr("Cancel"), QDialogButtonBox::RejectRole);
    form->addRow(buttons);
    level::NoteKind kind;
    connect(buttons, &QDialogButtonBox::rejected, &dialog, &QDialog::reject);
    connect(buttons, &QDialogButtonBox::accepted, &dialog, [&] {
        kind.name = name->text().trimmed().toStdString();
        kind.type = static_cast<level::NoteType>(type->currentIndex());
        kind.choices.clear();
        if (kind.type == level::NoteType::choice)
            for (const QString& c : choices->text().split(',', Qt::SkipEmptyParts))
                if (const std::string text = c.trimmed().toStdString();
                    !text.empty() && std::find(kind.choices.begin(), kind.choices.end(), text) == kind.choices.end())
                    kind.choices.push_back(text);
        const Text wrong = edit::note_trouble(session_.project(), kind);
        trouble->setText(translated(wrong));
        if (wrong.empty()) dialog.accept();
    });
    if (dialog.exec() != QDialog::Accepted) return;
    session_.apply(tr("Add the note %1").arg(QString::fromStdString(kind.name)),
                   edit::add_note_kind(session_.project(), kind));
}

QWidget* TileNotes::editorOf(const level::NoteKind& kind) {
    const auto set = [this, id = kind.id, name = QString::fromStdString(kind.name)](const level::NoteValue& value) {
        change(tr("Note %1").arg(name), [id, value](level::Tile& t) { t.notes[id] = value; });
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
                    change(tr("Remove a note"), [id](level::Tile& t) { t.notes.erase(id); });
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
            change(tr("Remove a note"), [id](level::Tile& t) { t.notes.erase(id); });
        else
            set(choices[static_cast<std::size_t>(i - 1)]);
    });
    box->setObjectName(objectName);
    return box;
}

void TileNotes::rebuild() {
    builtFor_ = session_.project().note_kinds;
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
                       tr("Take it off these tiles, or out of the project"), "link");
        name->setFixedWidth(kNameWidth);
        name->setStyleSheet("text-align: left; padding-left: 0;");
        connect(name, &QToolButton::clicked, this, [this, name, kind] {
            QMenu menu;
            menu.addAction(tr("Take it off the chosen tiles"), this, [this, id = kind.id] {
                change(tr("Remove a note"), [id](level::Tile& t) { t.notes.erase(id); });
            });
            const QString everywhere = translated(say_count(edit::noted(session_.project(), kind.id),
                                                            "Remove the note from the project (one tile has it)",
                                                            "Remove the note from the project (%n tiles have it)"));
            menu.addAction(everywhere, this, [this, kind] {
                session_.apply(tr("Remove the note %1").arg(QString::fromStdString(kind.name)),
                               edit::remove_note_kind(session_.project(), kind.id));
            });
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

void TileNotes::show(const level::NoteKind& kind, QWidget* editor, const std::vector<const level::Tile*>& chosen) {
    const auto value = [&](const level::Tile& t) {
        const auto at = t.notes.find(kind.id);
        return at == t.notes.end() ? std::optional<level::NoteValue>() : at->second;
    };
    const auto first = value(*chosen.front());
    const bool same =
        std::all_of(chosen.begin(), chosen.end(), [&](const level::Tile* t) { return value(*t) == first; });
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

void TileNotes::refresh() {
    const auto chosen = session_.chosenTiles();
    if (builtFor_ != session_.project().note_kinds) rebuild();
    const level::Tile& first = *chosen.front();
    const auto all = [&](auto get) {
        return std::all_of(chosen.begin(), chosen.end(), [&](const level::Tile* t) { return get(*t) == get(first); });
    };
    if (!tags_->hasFocus() || !tags_->isModified()) {
        const bool same = all([](const level::Tile& t) { return t.tags; });
        tags_->setText(same ? QString::fromStdString(edit::tags_text(first.tags)) : QString());
        tags_->setPlaceholderText(same ? tr("shore, wet") : tr("several"));
    }
    const bool sameTurns = all([](const level::Tile& t) { return t.turns; });
    turns_->setCurrentIndex(sameTurns ? turns_->findData(uint(first.turns)) : -1);
    for (const level::NoteKind& kind : builtFor_) show(kind, editors_.at(kind.id), chosen);
}

} // namespace vic::app
