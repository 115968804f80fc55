#include "app/cut/block_editor.hpp"

#include <QHBoxLayout>
#include <QKeySequence>
#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>
#include <QSpinBox>
#include <QString>
#include <QVBoxLayout>
#include <algorithm>
#include <string>
#include <utility>

#include "app/parts/panel.hpp"
#include "app/parts/translated.hpp"
#include "base/geometry.hpp"
#include "edit/sheets.hpp"
#include "edit/tiles.hpp"
#include "level/project.hpp"
#include "level/sheet.hpp"
#include "sheet/cut.hpp"

namespace vic::app {

BlockEditor::BlockEditor(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 6);
    column->setSpacing(6);
    make_ = new QPushButton(this);
    make_->setObjectName("makeBlock");
    describe(make_, tr("Make a block"), "Shift+B", tr("These cells are laid as one, with a foot to stand on"));
    make_->setShortcut(QKeySequence(Qt::SHIFT | Qt::Key_B));
    connect(make_, &QPushButton::clicked, this, [this] {
        edit::MadeBlock made = edit::make_block(session_.project(), session_.sheetId(), session_.tiles());
        if (!made.trouble.empty()) {
            emit session_.said(translated(made.trouble), true);
            if (made.tile) session_.setTiles({made.tile});
            return;
        }
        session_.apply(tr("Make a block"), std::move(made.project));
        session_.setTiles({made.tile});
        emit session_.said(tr("A block: pick it in the Tray by its tag, and lay it as one"), false);
    });
    column->addWidget(make_);

    fields_ = new QWidget(this);
    auto* inner = new QVBoxLayout(fields_);
    inner->setContentsMargins(0, 0, 0, 0);
    inner->setSpacing(6);
    addHeading(inner, tr("Block"), &size_);
    buildNumbers(inner);
    apart_ = new QPushButton(tr("Take it apart"), fields_);
    apart_->setObjectName("blockApart");
    describe(apart_, tr("Take the block apart"), {},
             tr("Its cells stay tiles. Where it is used, that is listed before it is done"));
    connect(apart_, &QPushButton::clicked, this, [this] {
        const auto tiles = session_.tiles();
        if (tiles.empty()) return;
        level::Project p = session_.project();
        for (const auto id : tiles) p = edit::remove_block(std::move(p), id);
        session_.setTiles({});
        session_.propose(tr("Take a block apart"), std::move(p));
    });
    inner->addWidget(apart_);
    column->addWidget(fields_);
}

void BlockEditor::buildNumbers(QVBoxLayout* inner) {
    const QString names[5] = {tr("Pivot cell"), {}, tr("Moved"), {}, tr("Stands up")};
    static const char* ids[5] = {"blockPivotX", "blockPivotY", "blockRight", "blockDown", "blockStands"};
    const QString helps[5] = {tr("Which of its columns lies where it is laid"),
                              tr("Which of its rows lies where it is laid"),
                              tr("Sixteenths of a cell by which the picture is moved to the right"),
                              tr("Sixteenths of a cell by which the picture is moved down"),
                              tr("Rows above the foot: they block nothing, and it stands before what is behind it")};
    QWidget* pair = nullptr;
    for (std::size_t i = 0; i < 5; ++i) {
        auto* number = new QSpinBox(fields_);
        number->setObjectName(ids[i]);
        number->setKeyboardTracking(false);
        number->setToolTip(helps[i]);
        if (i == 2 || i == 3) {
            number->setRange(-64, 64);
            number->setSuffix(tr(" / 16"));
        }
        if (i == 0) number->setPrefix(tr("column "));
        if (i == 1) number->setPrefix(tr("row "));
        if (i == 4) number->setSuffix(tr(" of its rows"));
        if (i == 4) {
            addField(inner, names[i], number, 78);
        } else if (i % 2 == 0) {
            pair = new QWidget(fields_);
            auto* row = new QHBoxLayout(pair);
            row->setContentsMargins(0, 0, 0, 0);
            row->setSpacing(6);
            row->addWidget(number);
            addField(inner, names[i], pair, 78);
        } else {
            pair->layout()->addWidget(number);
        }
        numbers_[i] = number;
        connect(number, &QSpinBox::valueChanged, this, [this, i](int v) { setNumber(i, v); });
    }
}

void BlockEditor::setNumber(std::size_t which, int v) {
    const auto set = [&](level::Tile& t) {
        if (!t.is_block()) return;
        int* const fields[5] = {&t.block.pivot.x, &t.block.pivot.y, &t.block.offset.x, &t.block.offset.y,
                                &t.block.stands};
        *fields[which] = v;
        t.block = edit::fitted(t.block);
    };
    session_.apply(tr("How a block stands"), edit::change_tiles(session_.project(), session_.tiles(), set),
                   "block-" + std::to_string(which) + "-" + std::to_string(session_.tiles().front()));
}

void BlockEditor::refresh() {
    const auto chosen = session_.chosenTiles();
    const level::Sheet* s = session_.sheet();
    if (chosen.empty() || !s || !s->image) return;
    const level::Tile& first = *chosen.front();
    const bool blocks = std::all_of(chosen.begin(), chosen.end(), [](const auto* t) { return t->is_block(); });
    const bool none = std::none_of(chosen.begin(), chosen.end(), [](const auto* t) { return t->is_block(); });
    Box cells;
    for (const auto* t : chosen) cells = united(cells, sheet::block_cells(s->cut, s->image->size(), t->box));
    make_->setVisible(none && cells.size().area() > 1);
    make_->setText(tr("Make a block of %1 × %2").arg(cells.w).arg(cells.h));
    fields_->setVisible(blocks);
    setVisible(make_->isVisibleTo(this) || blocks);
    if (!blocks) return;
    size_->setText(tr("%1 × %2 cells").arg(first.block.cells.w).arg(first.block.cells.h));
    numbers_[0]->setRange(0, first.block.cells.w - 1);
    numbers_[1]->setRange(0, first.block.cells.h - 1);
    numbers_[4]->setRange(0, first.block.cells.h - 1);
    const int values[5] = {first.block.pivot.x, first.block.pivot.y, first.block.offset.x, first.block.offset.y,
                           first.block.stands};
    for (std::size_t i = 0; i < 5; ++i) {
        const QSignalBlocker quiet(numbers_[i]);
        numbers_[i]->setValue(values[i]);
    }
}

} // namespace vic::app
