#include "app/cut/frames_editor.hpp"

#include <QAbstractItemView>
#include <QHBoxLayout>
#include <QItemSelectionModel>
#include <QKeySequence>
#include <QLabel>
#include <QListView>
#include <QPixmap>
#include <QPushButton>
#include <QSpinBox>
#include <QString>
#include <QVBoxLayout>
#include <algorithm>
#include <cstddef>
#include <set>
#include <string>
#include <utility>

#include "app/parts/panel.hpp"
#include "app/parts/picture_list.hpp"
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
    frames_ = new PictureList("frames", tr("Frames"), fields_);
    frames_->layInBoxes({44, 52}, {42, 50}, 0);
    frames_->setDraw({32, 32}, [this](quint32 i) {
        return i < frames().size() ? tileThumb(session_.project(), frames()[i].tile, 32) : QPixmap();
    });
    frames_->setFlow(QListView::LeftToRight);
    frames_->setWrapping(false);
    frames_->setSelectionMode(QAbstractItemView::ExtendedSelection);
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
    describe(duration_, tr("How long"), {}, tr("Of the chosen frames; of all where none is chosen"));
    ofRows_.bindInt(
        duration_, [this] { return shownDuration(); }, [this](int ms) { setDuration(ms); });
    under->addWidget(duration_, 1);
    stop_ = new QPushButton(tr("Still again"), fields_);
    stop_->setObjectName("stopFrames");
    describe(stop_, tr("Still again"), {}, tr("The tile shows its own picture only"));
    connect(stop_, &QPushButton::clicked, this, [this] {
        session_.apply(tr("A tile still again"), edit::change_tiles(session_.project(), session_.tiles(),
                                                                    [](level::Tile& t) { t.frames.clear(); }));
    });
    under->addWidget(stop_);
    inner->addLayout(under);
    column->addWidget(fields_);
    connect(frames_->selectionModel(), &QItemSelectionModel::selectionChanged, this, [this] { ofRows_.refresh(); });
    bind();
}

// Of the one tile that is chosen; none where several are or it stands still.
const std::vector<level::TileFrame>& FramesEditor::frames() const {
    static const std::vector<level::TileFrame> none;
    const auto tiles = session_.chosenTiles();
    return tiles.size() == 1 ? tiles.front()->frames : none;
}

std::set<int> FramesEditor::chosenRows() const {
    std::set<int> rows;
    for (const QModelIndex& index : frames_->selectionModel()->selectedIndexes())
        if (index.row() < static_cast<int>(frames().size())) rows.insert(index.row());
    return rows;
}

int FramesEditor::shownDuration() const {
    if (frames().empty()) return duration_->value();
    const auto rows = chosenRows();
    return frames()[rows.empty() ? 0 : static_cast<std::size_t>(*rows.begin())].ms;
}

void FramesEditor::setDuration(int ms) {
    if (frames().empty()) return;
    const level::TileId tile = session_.tiles().front();
    session_.apply(tr("How long a frame is shown"), edit::time_frames(session_.project(), tile, chosenRows(), ms),
                   "frame-" + std::to_string(tile));
}

void FramesEditor::bind() {
    bound_.bindShown(make_, [this] {
        const auto tiles = session_.chosenTiles();
        return tiles.size() > 1 && tiles.size() <= level::kMostFrames &&
               std::all_of(tiles.begin(), tiles.end(),
                           [&](const auto* t) { return t->block.cells == tiles.front()->block.cells; });
    });
    bound_.follow([this] { make_->setText(tr("Animate the first with these %1").arg(session_.tiles().size())); });
    bound_.bindShown(fields_, [this] { return !frames().empty(); });
    bound_.bindShown(this, [this] { return !make_->isHidden() || !frames().empty(); });
    bound_.follow([this] {
        std::vector<PictureRow> rows;
        int all = 0;
        for (const level::TileFrame& f : frames()) {
            rows.push_back({static_cast<quint32>(rows.size()), QString::number(f.ms)});
            all += f.ms;
        }
        frames_->setRows(std::move(rows));
        sum_->setText(tr("%1 frames · %2 s").arg(frames().size()).arg(all / 1000.0, 0, 'f', 2));
    });
}

void FramesEditor::refresh() {
    if (const auto now = session_.tiles(); now != of_) {
        of_ = now;
        frames_->clearSelection();
    }
    frames_->redraw();
    bound_.refresh();
    ofRows_.refresh();
}

} // namespace vic::app
