#include "app/cut/shape_editor.hpp"

#include <QDoubleSpinBox>
#include <QEvent>
#include <QHBoxLayout>
#include <QImage>
#include <QLabel>
#include <QPushButton>
#include <QString>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <utility>

#include "app/parts/glyphs.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/shape_sign.hpp"
#include "app/parts/tokens.hpp"
#include "app/parts/translated.hpp"
#include "base/text.hpp"
#include "edit/sheets.hpp"
#include "level/project.hpp"
#include "level/sheet.hpp"
#include "outline/from_art.hpp"
#include "sheet/cut.hpp"

namespace vic::app {

using level::Polygon;
using level::Polygons;
using level::TileShape;

namespace {

// As they stand side by side: what one walks on, what one meets with the head, what lets pass one way. The wedges lie
// in pairs that make a slope.
const std::vector<TileShape> kRows[3] = {
    {TileShape::none, TileShape::full, TileShape::half_south, TileShape::half_north, TileShape::half_west,
     TileShape::half_east, TileShape::opens},
    {TileShape::slope_se, TileShape::slope_sw, TileShape::thin_se, TileShape::thick_se, TileShape::thick_sw,
     TileShape::thin_sw, TileShape::one_way_north, TileShape::one_way_south},
    {TileShape::slope_ne, TileShape::slope_nw, TileShape::thin_ne, TileShape::thick_ne, TileShape::thick_nw,
     TileShape::thin_nw, TileShape::one_way_west, TileShape::one_way_east}};

} // namespace

ShapeEditor::ShapeEditor(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(3);
    QLabel* aside = nullptr;
    addHeading(column, tr("Shape"), &aside);
    aside->setText(tr("turns with the tile"));
    const auto add = [&](QHBoxLayout* row, QToolButton* b) {
        b->setCheckable(true);
        b->setFixedSize(28, 28);
        b->setIconSize({20, 20});
        b->setStyleSheet("padding: 0");
        row->addWidget(b);
    };
    for (const auto& shapes : kRows) {
        auto* row = new QHBoxLayout;
        row->setSpacing(2);
        for (const TileShape shape : shapes) {
            auto* b = toolButton(this, QString("shape-%1").arg(static_cast<int>(shape)), {}, {}, {}, "tool");
            describe(b, shapeName(shape), {}, tr("What the chosen tiles block"));
            add(row, b);
            connect(b, &QToolButton::clicked, this, [this, shape] { give(shape, {}); });
            shapes_[shape] = b;
        }
        if (&shapes == &kRows[0]) {
            draw_ = toolButton(this, "shapeDraw", "pencil", {}, {}, "tool");
            describe(draw_, tr("Draw the shape"), {}, tr("Corners on a lattice of 1/16 cell, or from the art"));
            add(row, draw_);
            connect(draw_, &QToolButton::clicked, this, [this] { drawing_->setVisible(draw_->isChecked()); });
        }
        row->addStretch();
        column->addLayout(row);
    }
    paintSigns();
    drawing_ = new QWidget(this);
    auto* inner = new QVBoxLayout(drawing_);
    inner->setContentsMargins(0, 4, 0, 4);
    inner->setSpacing(6);
    board_ = new ShapeBoard(drawing_);
    inner->addWidget(board_);
    auto* row = new QHBoxLayout;
    fromArt_ = new QPushButton(tr("From the art"), drawing_);
    fromArt_->setObjectName("shapeFromArt");
    describe(fromArt_, tr("From the art"), {},
             tr("The outline of what is not see-through, each tile its own, with as few corners as the number allows"));
    connect(fromArt_, &QPushButton::clicked, this, &ShapeEditor::fromArt);
    deviation_ = new QDoubleSpinBox(drawing_);
    deviation_->setObjectName("shapeDeviation");
    deviation_->setRange(0.5, 32);
    deviation_->setSingleStep(0.5);
    deviation_->setDecimals(1);
    deviation_->setValue(1);
    deviation_->setSuffix(tr(" px off"));
    describe(deviation_, tr("Deviation"), {}, tr("How far the shape may be from the art's outline"));
    row->addWidget(fromArt_, 1);
    row->addWidget(deviation_);
    inner->addLayout(row);
    count_ = label({}, "quiet", drawing_);
    count_->setObjectName("shapeCount");
    inner->addWidget(count_);
    column->addWidget(drawing_);
    drawing_->hide();
    connect(board_, &ShapeBoard::drawn, this, [this](Polygons polygons) {
        const TileShape shape = level::named_shape(polygons);
        give(shape, polygons);
    });
    connect(board_, &ShapeBoard::refused, this, [this](const Text& why) { emit session_.said(translated(why), true); });
}

void ShapeEditor::paintSigns() {
    const Tokens t = tokensOf(this);
    for (const auto& [shape, button] : shapes_) button->setIcon(shapeSign(shape, t));
}

void ShapeEditor::changeEvent(QEvent* event) {
    if (event->type() == QEvent::StyleChange || event->type() == QEvent::PaletteChange) paintSigns();
    QWidget::changeEvent(event);
}

void ShapeEditor::give(TileShape shape, const Polygons& polygons) {
    if (session_.tiles().empty()) return;
    session_.apply(tr("Shape of tiles"),
                   edit::change_tiles(session_.project(), session_.tiles(), [&](level::Tile& tile) {
                       tile.shape = shape;
                       tile.polygons = polygons;
                   }));
}

void ShapeEditor::fromArt() {
    const level::Sheet* sheet = session_.sheet();
    if (!sheet || !sheet->image || session_.tiles().empty()) return;
    double worst = 0;
    int none = 0;
    level::Project project = edit::change_tiles(session_.project(), session_.tiles(), [&](level::Tile& tile) {
        outline::ArtShape read = outline::shape_from_art(sheet::tile_art(*sheet, tile), deviation_->value());
        worst = std::max(worst, read.deviation);
        tile.shape = level::named_shape(read.polygons);
        tile.polygons = std::move(read.polygons);
        none += tile.shape == TileShape::none;
    });
    session_.apply(tr("Shapes from the art"), std::move(project));
    const int n = static_cast<int>(session_.tiles().size());
    QString text = tr("Shapes taken from the art: %1, at most %2 px off").arg(n - none).arg(worst, 0, 'f', 1);
    if (none) text += tr("; without art to take one from: %1").arg(none);
    emit session_.said(text, false);
}

void ShapeEditor::refresh() {
    const auto chosen = session_.chosenTiles();
    if (chosen.empty()) return;
    const level::Tile& first = *chosen.front();
    const bool one = std::all_of(chosen.begin(), chosen.end(), [&](const level::Tile* t) {
        return t->shape == first.shape && t->polygons == first.polygons;
    });
    for (const auto& [shape, button] : shapes_) button->setChecked(one && first.shape == shape);
    const bool drawn =
        std::any_of(chosen.begin(), chosen.end(), [](const level::Tile* t) { return t->shape == TileShape::drawn; });
    if (drawn) draw_->setChecked(true);
    drawing_->setVisible(draw_->isChecked());
    Polygons polygons = first.shape == TileShape::drawn ? first.polygons : level::polygons_of(first.shape);
    const level::Sheet* sheet = session_.sheet();
    const QImage art = sheet && sheet->image ? toQImage(sheet::tile_art(*sheet, first)) : QImage();
    int corners = 0;
    for (const Polygon& p : polygons) corners += static_cast<int>(p.size());
    const int parts = outline::convex_count(polygons);
    QString text = !corners     ? tr("blocks nothing solid")
                   : parts == 1 ? tr("%1 corners · convex").arg(corners)
                                : tr("%1 corners · %2 convex parts").arg(corners).arg(parts);
    if (chosen.size() > 1) text = tr("shown: the first · ") + text;
    count_->setText(text);
    board_->show(art, polygons);
}

} // namespace vic::app
