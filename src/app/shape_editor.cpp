#include "app/shape_editor.hpp"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QVBoxLayout>
#include <cmath>

#include "app/panel.hpp"
#include "app/signs.hpp"
#include "app/spoken.hpp"
#include "app/tokens.hpp"
#include "edit/sheets.hpp"
#include "outline/from_art.hpp"
#include "sheet/cut.hpp"

namespace vic::app {

using level::Polygon;
using level::Polygons;
using level::TileShape;

namespace {

constexpr double kReach = 7; // pixels within which a corner or a line is taken

double distance(QPointF p, QPointF a, QPointF b) {
    const QPointF d = b - a;
    const double length = QPointF::dotProduct(d, d);
    const double t = length > 0 ? std::clamp(QPointF::dotProduct(p - a, d) / length, 0.0, 1.0) : 0.0;
    const QPointF q = p - a - t * d;
    return std::hypot(q.x(), q.y());
}

// As they stand side by side: what one walks on, what one meets with the head, what lets pass one way. The wedges lie
// in pairs that make a slope.
const std::vector<TileShape> kRows[3] = {
    {TileShape::none, TileShape::full, TileShape::half_south, TileShape::half_north, TileShape::half_west,
     TileShape::half_east},
    {TileShape::slope_se, TileShape::slope_sw, TileShape::thin_se, TileShape::thick_se, TileShape::thick_sw,
     TileShape::thin_sw, TileShape::one_way_north, TileShape::one_way_south},
    {TileShape::slope_ne, TileShape::slope_nw, TileShape::thin_ne, TileShape::thick_ne, TileShape::thick_nw,
     TileShape::thin_nw, TileShape::one_way_west, TileShape::one_way_east}};

} // namespace

QString shapeName(level::TileShape shape) {
    switch (shape) {
        case TileShape::none:
            return ShapeEditor::tr("None");
        case TileShape::full:
            return ShapeEditor::tr("Full");
        case TileShape::half_north:
            return ShapeEditor::tr("Upper half");
        case TileShape::half_east:
            return ShapeEditor::tr("Right half");
        case TileShape::half_south:
            return ShapeEditor::tr("Lower half");
        case TileShape::half_west:
            return ShapeEditor::tr("Left half");
        case TileShape::slope_ne:
            return ShapeEditor::tr("Slope, mass north-east");
        case TileShape::slope_se:
            return ShapeEditor::tr("Slope, mass south-east");
        case TileShape::slope_sw:
            return ShapeEditor::tr("Slope, mass south-west");
        case TileShape::slope_nw:
            return ShapeEditor::tr("Slope, mass north-west");
        case TileShape::one_way_north:
            return ShapeEditor::tr("One-way top");
        case TileShape::one_way_east:
            return ShapeEditor::tr("One-way right");
        case TileShape::one_way_south:
            return ShapeEditor::tr("One-way bottom");
        case TileShape::one_way_west:
            return ShapeEditor::tr("One-way left");
        case TileShape::thin_se:
            return ShapeEditor::tr("Ramp up, thin end");
        case TileShape::thick_se:
            return ShapeEditor::tr("Ramp up, thick end");
        case TileShape::thick_sw:
            return ShapeEditor::tr("Ramp down, thick end");
        case TileShape::thin_sw:
            return ShapeEditor::tr("Ramp down, thin end");
        case TileShape::thin_ne:
            return ShapeEditor::tr("Ceiling down, thin end");
        case TileShape::thick_ne:
            return ShapeEditor::tr("Ceiling down, thick end");
        case TileShape::thick_nw:
            return ShapeEditor::tr("Ceiling up, thick end");
        case TileShape::thin_nw:
            return ShapeEditor::tr("Ceiling up, thin end");
        default:
            return {};
    }
}

QPixmap shapeSign(level::TileShape shape, const Tokens& t, int side) {
    QPixmap pixmap(side, side);
    pixmap.fill(Qt::transparent);
    QPainter p(&pixmap);
    p.scale(side / 20.0, side / 20.0);
    p.setPen(QPen(t.faint, 1, Qt::DotLine));
    p.drawRect(2, 2, 16, 16);
    p.setRenderHint(QPainter::Antialiasing);
    p.setBrush(t.line);
    p.setPen(QPen(t.ink, 1.4, Qt::SolidLine, Qt::SquareCap, Qt::MiterJoin));
    for (const Polygon& polygon : level::polygons_of(shape)) {
        QPolygonF corners;
        for (const Point c : polygon) corners << QPointF(2.5 + c.x, 2.5 + c.y);
        p.drawPolygon(corners);
    }
    if (level::is_one_way(shape)) {
        p.translate(10, 10);
        p.rotate(90.0 * level::one_way_side(shape));
        p.setPen(QPen(t.ink, 2, Qt::SolidLine, Qt::FlatCap));
        p.drawLine(QPointF(-8, -7), QPointF(8, -7));
        p.setPen(QPen(t.ink, 1.4));
        p.drawLine(QPointF(0, 6), QPointF(0, -3));
        p.drawLine(QPointF(0, -3), QPointF(-3, 0));
        p.drawLine(QPointF(0, -3), QPointF(3, 0));
    }
    return pixmap;
}

ShapeBoard::ShapeBoard(QWidget* parent) : QWidget(parent) {
    setObjectName("shapeBoard");
    setFixedSize(244, 212);
    setMouseTracking(true);
    setFocusPolicy(Qt::ClickFocus);
    describe(this, tr("Drawing board"), {},
             tr("Drag a corner; a click on a line adds one, a double click or Delete takes one away. Dragging over "
                "nothing adds a box"));
}

void ShapeBoard::show(const QImage& art, const Polygons& polygons) {
    art_ = art;
    if (!held_) polygons_ = polygons;
    if (lit_ && (lit_->part >= polygons_.size() || lit_->corner >= polygons_[lit_->part].size())) lit_.reset();
    update();
}

QRectF ShapeBoard::board() const { return {(width() - 192) / 2.0, 10, 192, 192}; }

QPointF ShapeBoard::at(Point corner) const {
    return board().topLeft() + QPointF(corner.x, corner.y) * board().width() / level::kShapeSide;
}

Point ShapeBoard::cornerAt(QPointF p) const {
    const QPointF q = (p - board().topLeft()) * level::kShapeSide / board().width();
    return {std::clamp(qRound(q.x()), 0, level::kShapeSide), std::clamp(qRound(q.y()), 0, level::kShapeSide)};
}

std::optional<ShapeBoard::Hit> ShapeBoard::hit(QPointF p) const {
    std::optional<Hit> best;
    double nearest = kReach;
    for (std::size_t i = 0; i < polygons_.size(); ++i)
        for (std::size_t k = 0; k < polygons_[i].size(); ++k) {
            const QPointF a = at(polygons_[i][k]), b = at(polygons_[i][(k + 1) % polygons_[i].size()]);
            const double corner = std::hypot(p.x() - a.x(), p.y() - a.y());
            // A corner is meant before the lines that meet there.
            if (corner <= kReach && (!best || best->line || corner < nearest)) {
                nearest = corner;
                best = Hit{i, k, false};
            } else if ((!best || best->line) && distance(p, a, b) < nearest) {
                nearest = distance(p, a, b);
                best = Hit{i, k, true};
            }
        }
    return best;
}

void ShapeBoard::remove(const Hit& which) {
    Polygon& part = polygons_[which.part];
    if (part.size() > 3)
        part.erase(part.begin() + static_cast<std::ptrdiff_t>(which.corner));
    else
        polygons_.erase(polygons_.begin() + static_cast<std::ptrdiff_t>(which.part));
    lit_.reset();
    held_.reset();
    update();
    emit drawn(polygons_);
}

void ShapeBoard::mousePressEvent(QMouseEvent* e) {
    const auto what = hit(e->position());
    if (e->button() == Qt::RightButton) {
        if (what && !what->line) remove(*what);
        return;
    }
    if (e->button() != Qt::LeftButton) return;
    if (e->type() == QEvent::MouseButtonDblClick) {
        if (what && !what->line) remove(*what);
        return;
    }
    before_ = polygons_;
    if (!what) {
        boxFrom_ = cornerAt(e->position());
        return;
    }
    held_ = what;
    if (what->line) {
        Polygon& part = polygons_[what->part];
        part.insert(part.begin() + static_cast<std::ptrdiff_t>(what->corner) + 1, cornerAt(e->position()));
        held_ = Hit{what->part, what->corner + 1, false};
    }
    lit_ = held_;
    update();
}

void ShapeBoard::mouseMoveEvent(QMouseEvent* e) {
    if (held_) {
        polygons_[held_->part][held_->corner] = cornerAt(e->position());
    } else if (boxFrom_) {
        const Point to = cornerAt(e->position());
        polygons_ = before_;
        const int x0 = std::min(boxFrom_->x, to.x), x1 = std::max(boxFrom_->x, to.x);
        const int y0 = std::min(boxFrom_->y, to.y), y1 = std::max(boxFrom_->y, to.y);
        if (x0 < x1 && y0 < y1) polygons_.push_back({{x0, y0}, {x1, y0}, {x1, y1}, {x0, y1}});
    } else {
        lit_ = hit(e->position());
    }
    update();
}

void ShapeBoard::mouseReleaseEvent(QMouseEvent* e) {
    if (e->button() != Qt::LeftButton || (!held_ && !boxFrom_)) return;
    const bool box = boxFrom_.has_value();
    held_.reset();
    boxFrom_.reset();
    if (polygons_ == before_) return update();
    const Text trouble = box && polygons_.empty() ? Text() : level::shape_trouble(polygons_);
    if (!trouble.empty()) {
        polygons_ = before_;
        lit_.reset();
        emit refused(trouble);
    } else {
        emit drawn(polygons_);
    }
    update();
}

void ShapeBoard::leaveEvent(QEvent*) {
    if (!held_) lit_.reset();
    update();
}

void ShapeBoard::keyPressEvent(QKeyEvent* e) {
    if ((e->key() == Qt::Key_Delete || e->key() == Qt::Key_Backspace) && lit_ && !lit_->line) return remove(*lit_);
    QWidget::keyPressEvent(e);
}

void ShapeBoard::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Tokens t = tokensOf(this);
    const QRectF b = board();
    p.fillRect(rect(), t.outside);
    p.fillRect(b, QColor("#DCD5C4"));
    p.drawImage(b, art_);
    p.fillRect(b, QColor(244, 240, 230, 90)); // the art steps back a little, so that the lines can be seen
    for (int i = 1; i < level::kShapeSide; ++i) {
        const QColor line(20, 16, 10, i % 8 == 0 ? 90 : i % 4 == 0 ? 50 : 22);
        const double v = std::round(i * b.width() / level::kShapeSide);
        p.fillRect(QRectF(b.left() + v, b.top(), 1, b.height()), line);
        p.fillRect(QRectF(b.left(), b.top() + v, b.width(), 1), line);
    }
    p.setRenderHint(QPainter::Antialiasing);
    const bool right = held_ || boxFrom_ ? polygons_.empty() || level::shape_trouble(polygons_).empty() : true;
    const QColor dark("#22302D"), light("#FBF8F1"); // the board's ground is light in either look
    const QColor ink = right ? dark : t.vermilion;
    for (const Polygon& part : polygons_) {
        QPolygonF corners;
        for (const Point c : part) corners << at(c);
        p.setPen(QPen(light, 4));
        p.setBrush(QColor(ink.red(), ink.green(), ink.blue(), 90));
        p.drawPolygon(corners);
        p.setPen(QPen(ink, 2));
        p.setBrush(Qt::NoBrush);
        p.drawPolygon(corners);
    }
    for (std::size_t i = 0; i < polygons_.size(); ++i)
        for (std::size_t k = 0; k < polygons_[i].size(); ++k) {
            const bool lit = lit_ && !lit_->line && lit_->part == i && lit_->corner == k;
            const double side = lit ? 5 : 3.5;
            p.setPen(QPen(lit ? t.vermilion : dark, 1.5));
            p.setBrush(light);
            p.drawRect(QRectF(at(polygons_[i][k]) - QPointF(side, side), QSizeF(2 * side, 2 * side)));
        }
    if (polygons_.empty() && !boxFrom_) {
        p.setPen(dark);
        p.drawText(b, Qt::AlignCenter, tr("Drag to draw a box,\nor take it from the art"));
    }
}

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
    connect(board_, &ShapeBoard::refused, this, [this](const Text& why) { emit session_.said(spoken(why), true); });
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

void ShapeEditor::follow(const std::vector<const level::Tile*>& chosen) {
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
