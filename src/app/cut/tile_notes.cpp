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

#include "app/parts/note_dialog.hpp"
#include "app/parts/note_rows.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/translated.hpp"
#include "base/image.hpp"
#include "base/text.hpp"
#include "edit/notes.hpp"
#include "edit/sheets.hpp"
#include "level/sheet.hpp"

namespace vic::app {

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
    addField(column, tr("May be laid"), turns_, kNoteNames);
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
    addField(column, tr("Tags"), tags_, kNoteNames);
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
    rows_ = new NoteRows(
        [this](const QString& name, const std::function<void(level::Notes&)>& what) {
            change(name, [&](level::Tile& t) { what(t.notes); });
        },
        [this](QMenu& menu, const level::NoteKind& kind) { offerRemoval(menu, kind); }, this);
    column->addWidget(rows_);
}

void TileNotes::change(const QString& name, const std::function<void(level::Tile&)>& what) {
    if (session_.tiles().empty()) return;
    session_.apply(name, edit::change_tiles(session_.project(), session_.tiles(), what));
}

void TileNotes::addKind() {
    const auto kind = askNoteKind(this, session_.project());
    if (!kind) return;
    session_.apply(tr("Add the note %1").arg(QString::fromStdString(kind->name)),
                   edit::add_note_kind(session_.project(), *kind));
}

void TileNotes::offerRemoval(QMenu& menu, const level::NoteKind& kind) {
    const QString everywhere = translated(say_count(edit::noted(session_.project(), kind.id),
                                                    "Remove the note from the project (one thing has it)",
                                                    "Remove the note from the project (%n things have it)"));
    QAction* surface = menu.addAction(tr("Of surfaces: outlines are told apart by it"));
    surface->setCheckable(true);
    surface->setChecked(kind.surface);
    connect(surface, &QAction::triggered, this, [this, id = kind.id](bool on) {
        level::Project p = session_.project();
        for (level::NoteKind& k : p.note_kinds)
            if (k.id == id) k.surface = on;
        session_.apply(tr("What a note is of"), std::move(p));
    });
    menu.addAction(everywhere, this, [this, kind] {
        session_.apply(tr("Remove the note %1").arg(QString::fromStdString(kind.name)),
                       edit::remove_note_kind(session_.project(), kind.id));
    });
}

void TileNotes::refresh() {
    const auto chosen = session_.chosenTiles();
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
    std::vector<const level::Notes*> notes;
    for (const level::Tile* t : chosen) notes.push_back(&t->notes);
    rows_->refresh(session_.project().note_kinds, notes);
}

} // namespace vic::app
