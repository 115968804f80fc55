#include "app/cut/frames_editor.hpp"

#include <QAbstractItemView>
#include <QHBoxLayout>
#include <QIcon>
#include <QKeySequence>
#include <QLabel>
#include <QListView>
#include <QListWidget>
#include <QListWidgetItem>
#include <QPixmap>
#include <QPushButton>
#include <QSignalBlocker>
#include <QSpinBox>
#include <QString>
#include <QVBoxLayout>
#include <algorithm>
#include <cstddef>
#include <set>
#include <string>

#include "app/parts/panel.hpp"
#include "app/parts/thumbs.hpp"
#include "edit/sheets.hpp"
#include "edit/tiles.hpp"
#include "level/sheet.hpp"

namespace vic::app {

FramesEditor::FramesEditor(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 6);
    column->setSpacing(6);
    make_ = new QPushButton(this);
    make_->setObjectName("makeFrames");
    describe(make_, tr("Animate the first with these"), "Shift+F",
             tr("The tile that was chosen first shows all of them in turn, in the order in which they were chosen"));
    make_->setShortcut(QKeySequence(Qt::SHIFT | Qt::Key_F));
    connect(make_, &QPushButton::clicked, this, [this] {
        const std::vector<level::TileId> tiles = session_.tiles();
        if (tiles.size() < 2) return;
        session_.apply(tr("Animate a tile"), edit::animate(session_.project(), tiles, 150));
        session_.setTiles({tiles.front()});
        emit session_.said(tr("%1 frames, played here, in the Tray and in the level").arg(tiles.size()), false);
    });
    column->addWidget(make_);
    fields_ = new QWidget(this);
    auto* inner = new QVBoxLayout(fields_);
    inner->setContentsMargins(0, 0, 0, 0);
    inner->setSpacing(6);
    addHeading(inner, tr("Animation"), &sum_);
    sum_->setObjectName("framesSum");
    frames_ = new QListWidget(fields_);
    frames_->setObjectName("frames");
    frames_->setAccessibleName(tr("Frames"));
    frames_->setViewMode(QListView::IconMode);
    frames_->setFlow(QListView::LeftToRight);
    frames_->setWrapping(false);
    frames_->setMovement(QListView::Static);
    frames_->setSelectionMode(QAbstractItemView::ExtendedSelection);
    frames_->setIconSize({32, 32});
    frames_->setGridSize({44, 52});
    frames_->setFixedHeight(66);
    frames_->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    inner->addWidget(frames_);
    auto* under = new QHBoxLayout;
    under->setSpacing(6);
    duration_ = new QSpinBox(fields_);
    duration_->setObjectName("frameMs");
    duration_->setRange(10, 60000);
    duration_->setSingleStep(10);
    duration_->setSuffix(tr(" ms"));
    duration_->setKeyboardTracking(false);
    describe(duration_, tr("How long"), {}, tr("Of the chosen frames; of all where none is chosen"));
    connect(duration_, &QSpinBox::valueChanged, this, &FramesEditor::setDuration);
    under->addWidget(duration_, 1);
    stop_ = new QPushButton(tr("Still again"), fields_);
    stop_->setObjectName("stopFrames");
    describe(stop_, tr("Still again"), {}, tr("The tile shows its own picture only"));
    connect(stop_, &QPushButton::clicked, this, [this] {
        session_.apply(tr("A tile still again"),
                       edit::change_tiles(session_.project(), {tile_}, [](level::Tile& t) { t.frames.clear(); }));
    });
    under->addWidget(stop_);
    inner->addLayout(under);
    column->addWidget(fields_);
    connect(frames_, &QListWidget::itemSelectionChanged, this, [this] {
        const auto chosen = frames_->selectedItems();
        const QSignalBlocker quiet(duration_);
        if (!chosen.isEmpty()) duration_->setValue(chosen.front()->data(Qt::UserRole).toInt());
    });
}

void FramesEditor::setDuration(int ms) {
    std::set<int> rows;
    for (const QListWidgetItem* item : frames_->selectedItems()) rows.insert(frames_->row(item));
    session_.apply(tr("How long a frame is shown"), edit::time_frames(session_.project(), tile_, rows, ms),
                   "frame-" + std::to_string(tile_));
}

void FramesEditor::refresh(const std::vector<const level::Tile*>& chosen) {
    if (chosen.empty()) return;
    const bool alike = std::all_of(chosen.begin(), chosen.end(),
                                   [&](const auto* t) { return t->block.cells == chosen.front()->block.cells; });
    make_->setVisible(chosen.size() > 1 && chosen.size() <= level::kMostFrames && alike);
    make_->setText(tr("Animate the first with these %1").arg(chosen.size()));
    const level::Tile& first = *chosen.front();
    const bool one = chosen.size() == 1 && !first.frames.empty();
    fields_->setVisible(one);
    setVisible(make_->isVisibleTo(this) || one);
    if (!one) return;
    std::set<int> rows;
    if (tile_ == first.id)
        for (const QListWidgetItem* item : frames_->selectedItems()) rows.insert(frames_->row(item));
    tile_ = first.id;
    const QSignalBlocker quietList(frames_), quietNumber(duration_);
    frames_->clear();
    int all = 0;
    for (const level::TileFrame& f : first.frames) {
        const QPixmap picture = tileThumb(session_.project(), f.tile, 32);
        QIcon both(picture);
        both.addPixmap(picture, QIcon::Selected);
        auto* item = new QListWidgetItem(both, QString::number(f.ms), frames_);
        item->setData(Qt::UserRole, f.ms);
        item->setSelected(rows.contains(frames_->row(item)));
        all += f.ms;
    }
    const auto shown = rows.empty() || *rows.begin() >= static_cast<int>(first.frames.size()) ? 0 : *rows.begin();
    duration_->setValue(first.frames[static_cast<std::size_t>(shown)].ms);
    sum_->setText(tr("%1 frames · %2 s").arg(first.frames.size()).arg(all / 1000.0, 0, 'f', 2));
}

} // namespace vic::app
