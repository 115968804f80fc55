// The proof in Join.

#include "app/join/proof_view.hpp"

#include <QColor>
#include <QEvent>
#include <QMouseEvent>
#include <QPaintEvent>
#include <QPainter>
#include <QPen>
#include <QPointF>
#include <QSize>
#include <algorithm>
#include <cstddef>
#include <memory>
#include <utility>

#include "app/parts/tokens.hpp"
#include "join/resolve.hpp"
#include "join/seams.hpp"
#include "level/level.hpp"
#include "level/project.hpp"
#include "level/sheet.hpp"
#include "picture/compose.hpp"
#include "sheet/isometric.hpp"

namespace vic::app {

namespace {
constexpr Size kFree{10, 9};      // cells of the free patch
constexpr Size kField{12, 9};     // of a plain material, all its own
constexpr double kShowing = 0.06; // seam errors from which on they are drawn
} // namespace

ProofView::ProofView(Session& session, Mode mode, QWidget* parent) : QWidget(parent), session_(session), mode_(mode) {
    setObjectName(mode == Mode::free ? "freePatch" : "proof");
    setAccessibleName(mode == Mode::free ? tr("Free patch") : tr("Proof"));
    setMouseTracking(true);
}

// Whole multiples of the art's pixels, where the art is not large already.
int ProofView::side() const {
    const int cell = session_.isOpen() && session_.level() ? session_.level()->cell.w : 16;
    const int least = mode_ == Mode::pairs ? 16 : 32;
    return zoom_ * (cell >= least ? least : least / cell * cell);
}

void ProofView::setZoom(int zoom) {
    if (zoom_ == zoom) return;
    zoom_ = zoom;
    if (!patch_.size.empty()) fitSize();
    update();
}

Lattice ProofView::lattice() const {
    return isometric_ ? Lattice{LatticeKind::isometric, {2 * side(), side()}}
                      : Lattice{LatticeKind::square, {side(), side()}};
}

void ProofView::fitSize() {
    const Box all = lattice().box(box_of(patch_.size));
    corner_ = {-all.x, -all.y};
    setFixedSize(all.w, all.h);
}

Point ProofView::cellAt(QPoint at) const { return lattice().cell_at(Point{at.x(), at.y()} - corner_); }

QPolygonF ProofView::shapeOf(Point cell, double inset) const {
    const auto at = [&](double x, double y) {
        const Lattice::Pixels p = lattice().pixel_of({cell.x + x, cell.y + y});
        return QPointF(p.x + corner_.x, p.y + corner_.y);
    };
    const double in = inset / side(), out = 1 - in;
    return {{at(in, in), at(out, in), at(out, out), at(in, out)}};
}

namespace {

// Whether the first sheet that has a case's tile is drawn aslant.
bool drawn_isometric(const level::Project& project, const level::Material& material) {
    for (const auto& [mask, variants] : material.joins.cases)
        for (const level::Variant& v : variants)
            for (const auto& sheet : project.sheets)
                for (const level::Tile& t : sheet->tiles)
                    if (t.id == v.tile) return sheet::is_isometric(*sheet);
    return false;
}

} // namespace

QImage patchPicture(Session& session, const level::Project& project, const level::Grid& grid,
                    std::optional<Size> aslant) {
    level::Level level;
    level.id = "proof";
    level.size = grid.size();
    level.cell = session.level() ? session.level()->cell : Size{16, 16};
    if (aslant) {
        level.lattice = LatticeKind::isometric;
        level.cell = *aslant;
    }
    level.ground = {203, 176, 131, 255};
    level::Layer layer;
    layer.id = 1;
    layer.grid() = grid;
    level.layers.push_back(std::make_shared<const level::Layer>(std::move(layer)));
    picture::Canvas canvas(level.pixels());
    picture::draw(project, level, session.derived().art(), canvas, canvas.box);
    return QImage(reinterpret_cast<const uchar*>(canvas.pixels.data()), canvas.box.w, canvas.box.h,
                  QImage::Format_RGB32)
        .copy();
}

void ProofView::newPatch() {
    if (mode_ == Mode::free)
        free_ = {};
    else
        ++seed_;
    madeFor_.reset();
    patch_ = {};
    refresh();
}

void ProofView::setMode(Mode mode) {
    mode_ = mode;
    madeFor_.reset();
    patch_ = {};
    clicked_ = {-1, -1};
    refresh();
}

void ProofView::setHeat(bool on) {
    heat_ = on;
    madeFor_.reset();
    refresh();
}

double ProofView::worstSeam() const {
    double worst = 0;
    for (const Seam& s : seams_) worst = std::max(worst, s.error);
    return worst;
}

std::array<level::Cell, 4> ProofView::around(join::Mask mask) const {
    Point at = clicked_;
    if (!box_of(patch_.size).contains(at) || grid_.material(at) == 0 || maskAt(at) != mask) at = firstCell(mask);
    std::array<level::Cell, 4> out{};
    if (at.x < 0) return out;
    for (unsigned i = 0; i < 4; ++i) out[i] = grid_.cell(at + join::kNeighbour[2 * i]);
    return out;
}

void ProofView::refresh() {
    const level::Material* m = session_.material();
    if (!m) {
        picture_ = {};
        setFixedSize(mode_ == Mode::free ? QSize(1, 1) : QSize(560, 288));
        update();
        return;
    }
    if (madeFor_ && madeOf_ == m->id && madeFor_->sheets == session_.project().sheets &&
        madeFor_->material(m->id) == m) {
        update();
        return;
    }
    const bool plain = m->joins.kind == level::JoinKind::plain;
    if (patch_.cells.empty() || kind_ != m->joins.kind) {
        kind_ = m->joins.kind;
        if (free_.cells.empty()) free_ = {kFree, std::vector<std::uint8_t>(static_cast<std::size_t>(kFree.area()), 0)};
        if (mode_ == Mode::free)
            patch_ = free_;
        else if (plain) // of one case there is nothing to prove but how its variants lie beside each other
            patch_ = {kField, std::vector<std::uint8_t>(static_cast<std::size_t>(kField.area()), 1)};
        else
            patch_ = join::make_proof(kind_, seed_, mode_ == Mode::pairs ? join::ProofOf::pairs : join::ProofOf::cases);
        clicked_ = {-1, -1};
    }
    isometric_ = drawn_isometric(session_.project(), *m);
    fitSize();
    madeFor_ = session_.document().state();
    madeOf_ = m->id;
    grid_ = join::paint_proof(patch_, session_.project(), m->id);
    seams_.clear();
    if (heat_) {
        join::Seams seams(session_.project());
        for (int y = 0; y < patch_.size.h; ++y)
            for (int x = 0; x < patch_.size.w; ++x)
                for (const int to : {1, 2}) {
                    const Point p{x, y};
                    const Point q = p + (to == 1 ? Point{1, 0} : Point{0, 1});
                    if (grid_.cell(p).empty() || grid_.cell(q).empty()) continue;
                    if (const double e = seams.error(grid_.cell(p), grid_.cell(q), to); e >= kShowing)
                        seams_.push_back({p, to, e});
                }
    }
    const Size own = lattice().cell;
    picture_ = patchPicture(session_, session_.project(), grid_,
                            isometric_ ? std::optional(Size{own.w / zoom_, own.h / zoom_}) : std::nullopt);
    update();
}

join::Mask ProofView::maskAt(Point cell) const {
    return join::canonical(join::neighbourhood(grid_, cell, false), kind_);
}

int ProofView::cellsOfCase(join::Mask mask) const {
    int n = 0;
    for (int y = 0; y < patch_.size.h; ++y)
        for (int x = 0; x < patch_.size.w; ++x) n += grid_.material({x, y}) != 0 && maskAt({x, y}) == mask;
    return n;
}

Point ProofView::firstCell(join::Mask mask) const {
    for (int y = 0; y < patch_.size.h; ++y)
        for (int x = 0; x < patch_.size.w; ++x)
            if (grid_.material({x, y}) != 0 && maskAt({x, y}) == mask) return {x, y};
    return {-1, -1};
}

QPoint ProofView::cellCentre(Point cell) const { return shapeOf(cell, 0).boundingRect().center().toPoint(); }

void ProofView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Tokens t = tokensOf(this);
    if (picture_.isNull()) {
        p.setPen(t.quiet);
        p.drawText(rect(), Qt::AlignCenter | Qt::TextWordWrap,
                   tr("No material yet.\nCut a sheet, then read its joins: the button waits there on the right."));
        return;
    }
    const int s = side();
    p.drawImage(rect(), picture_);
    const level::Material* m = session_.material();
    if (heat_) paintHeat(p);
    if (mode_ == Mode::free && std::count(free_.cells.begin(), free_.cells.end(), 1) == 0) {
        p.setPen(QColor("#4A3C26"));
        p.drawText(rect().adjusted(24, 0, -24, 0), Qt::AlignCenter | Qt::TextWordWrap,
                   tr("Paint here:\nthe left button lays, the right one takes away"));
    }
    if (!m || kind_ == level::JoinKind::plain) return;
    p.setRenderHint(QPainter::Antialiasing);
    for (int y = 0; y < patch_.size.h; ++y)
        for (int x = 0; x < patch_.size.w; ++x) {
            if (grid_.material({x, y}) == 0) continue;
            const join::Mask mask = maskAt({x, y});
            const QPolygonF rim = shapeOf({x, y}, 1);
            if (session_.derived().rules().missing(m->id, mask)) {
                QColor wash = t.vermilion;
                wash.setAlpha(110);
                p.setBrush(wash);
                p.setPen(QPen(paper().vermilion, 2));
                p.drawPolygon(rim);
                p.setBrush(Qt::NoBrush);
                const QPolygonF c = shapeOf({x, y}, s * 0.33);
                p.drawLine(c[0], c[2]);
                p.drawLine(c[1], c[3]);
            }
            if (mask == session_.joinCase()) {
                p.setBrush(Qt::NoBrush);
                p.setPen(QPen(QColor("#FBF8F1"), 4));
                p.drawPolygon(rim);
                p.setPen(QPen(paper().vermilion, 2));
                p.drawPolygon(rim);
            }
        }
    if (hover_.x >= 0 && grid_.material(hover_)) {
        p.setPen(QPen(QColor("#FBF8F1"), 2));
        p.setBrush(Qt::NoBrush);
        p.drawPolygon(shapeOf(hover_, 1));
    }
}

// Seams that show, the worse the more.
void ProofView::paintHeat(QPainter& p) {
    p.setRenderHint(QPainter::Antialiasing, isometric_);
    for (const Seam& seam : seams_) {
        QColor hot = paper().vermilion;
        hot.setAlphaF(static_cast<float>(std::clamp(0.25 + 2.5 * seam.error, 0.0, 1.0)));
        p.setPen(QPen(hot, seam.error > 0.2 ? 6 : 4, Qt::SolidLine, Qt::FlatCap));
        const QPolygonF cell = shapeOf(seam.cell, 0);
        // The side's ends stay free, so that seams are told apart.
        const QPointF a = cell[seam.side == 1 ? 1 : 3], b = cell[2];
        const QPointF in = (b - a) * (2.0 / side());
        p.drawLine(a + in, b - in);
    }
}

void ProofView::dab(Point cell) {
    if (!box_of(patch_.size).contains(cell)) return;
    std::uint8_t& c = free_.cells[static_cast<std::size_t>(cell.y * free_.size.w + cell.x)];
    if (c == painting_) return;
    c = static_cast<std::uint8_t>(painting_);
    patch_ = free_;
    madeFor_.reset();
    refresh();
    emit painted();
}

void ProofView::mousePressEvent(QMouseEvent* event) {
    const Point cell = cellAt(event->pos());
    if (mode_ == Mode::free && (event->button() == Qt::LeftButton || event->button() == Qt::RightButton) &&
        event->modifiers() == Qt::NoModifier && session_.material()) {
        painting_ = event->button() == Qt::LeftButton ? 1 : 0;
        return dab(cell);
    }
    if (!box_of(patch_.size).contains(cell) || grid_.material(cell) == 0) return;
    clicked_ = cell;
    session_.setCase(maskAt(cell));
}

void ProofView::mouseReleaseEvent(QMouseEvent*) { painting_ = -1; }

void ProofView::mouseMoveEvent(QMouseEvent* event) {
    const Point cell = cellAt(event->pos());
    if (cell == hover_) return;
    hover_ = cell;
    if (painting_ >= 0) dab(cell);
    const bool on = box_of(patch_.size).contains(cell) && grid_.material(cell) != 0;
    emit cellHovered(cell, on ? maskAt(cell) : -1);
    update();
}

void ProofView::leaveEvent(QEvent*) {
    hover_ = {-1, -1};
    emit cellHovered(hover_, -1);
    update();
}

} // namespace vic::app
