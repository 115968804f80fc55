#include "app/view/level_view.hpp"

#include <QResizeEvent>
#include <QSizeF>
#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstring>

#include "app/gesture/tools.hpp"
#include "app/session/session.hpp"
#include "picture/compose.hpp"

namespace vic::app {

LevelView::LevelView(Session& session, QWidget* parent)
    : QWidget(parent),
      session_(session),
      pages_(session.derived().art()),
      contrast_(session),
      soak_(session),
      reach_(session),
      liveTry_(session),
      common_(commonGestures(*this)) {
    for (const ToolKind& kind : allTools()) tools_.emplace_back(kind.tool, kind.make(*this));
    setObjectName("levelView");
    setAccessibleName(tr("Level"));
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(320, 240);
    setAttribute(Qt::WA_OpaquePaintEvent);
    connect(&session_, &Session::changed, this, &LevelView::refresh);
    connect(&session_.playClock(), &PlayClock::ticked, this, &LevelView::tick);
    const auto again = [this] {
        preview();
        say();
        update();
    };
    connect(&session_, &Session::handChanged, this, again);
    connect(&session_, &Session::selectionChanged, this, again);
}

LevelView::~LevelView() = default;

QRect LevelView::wholeArea() const {
    return quiet_ ? rect() : QRect(kRuler, kRuler, width() - kRuler, height() - kRuler);
}

void LevelView::setCamera(double zoom, QPointF centre) {
    const double zoomBefore = camera_.zoom();
    const QPointF before = camera_.origin();
    camera_.look(zoom, centre);
    const bool sameZoom = zoomBefore == camera_.zoom();
    if (!sameZoom || !scroll((before - camera_.origin()) * camera_.zoom())) redraw(camera_.area());
    preview();
    say();
    update();
    emit cameraChanged();
}

// Moves what is drawn by whole screen pixels and draws only what came into view. False where that cannot be done.
bool LevelView::scroll(QPointF by) {
    const double ratio = frame_.devicePixelRatio();
    const QPoint d(static_cast<int>(std::lround(by.x() * ratio)), static_cast<int>(std::lround(by.y() * ratio)));
    const QRect a = camera_.area();
    if (frame_.isNull() || ratio != std::floor(ratio) || std::abs(d.x()) >= a.width() * ratio ||
        std::abs(d.y()) >= a.height() * ratio || QPointF(d) / ratio != QPointF(std::round(by.x()), std::round(by.y())))
        return false;
    const int r = static_cast<int>(ratio);
    const QRect all(a.topLeft() * r, a.size() * r);
    const QRect from = all.intersected(all.translated(-d));
    const QRect to = from.translated(d);
    const auto bytes = static_cast<std::size_t>(from.width()) * 4;
    for (int i = 0; i < from.height(); ++i) {
        const int row = d.y() > 0 ? from.height() - 1 - i : i; // so that no row is written before it is read
        std::memmove(frame_.scanLine(to.top() + row) + to.left() * 4,
                     frame_.constScanLine(from.top() + row) + from.left() * 4, bytes);
    }
    const QPoint s = d / r;
    if (s.x() != 0) redraw(QRect(s.x() > 0 ? a.left() : a.right() + 1 + s.x(), a.top(), std::abs(s.x()), a.height()));
    if (s.y() != 0) redraw(QRect(a.left(), s.y() > 0 ? a.top() : a.bottom() + 1 + s.y(), a.width(), std::abs(s.y())));
    return true;
}

void LevelView::zoomStep(int by, QPointF at) {
    const Camera::View next = camera_.stepped(by, at);
    if (next.zoom != camera_.zoom()) setCamera(next.zoom, next.centre);
}

void LevelView::fit() {
    const level::Level* level = session_.level();
    if (!level) return;
    const Box px = picture::extent(session_.project(), *level);
    setCamera(camera_.fitting(px, 16), QPointF(px.x + px.w / 2.0, px.y + px.h / 2.0));
}

void LevelView::zoomTo(const Box& cells) {
    if (cells.empty()) return;
    const Box px = grain().box(cells);
    setCamera(camera_.fitting(px, 8), QPointF(px.x + px.w / 2.0, px.y + px.h / 2.0));
}

Lattice LevelView::grain() const { return session_.workLattice(); }

QPoint LevelView::cellCentre(Point cell) const { return camera_.onScreen(grain().box(cell)).center().toPoint(); }

Point LevelView::cellAt(QPointF place) const { return grain().cell_at(camera_.pixelAt(place)); }

void LevelView::lookAt(Point cell) {
    const Lattice::Pixels p = geometry().pixel_of({cell.x + 0.5, cell.y + 0.5});
    setCamera(std::max(zoom(), 1.0), QPointF(p.x, p.y));
}

void LevelView::lookAtAll(const Box& cells) {
    const Box px = geometry().box(cells);
    const double fits = camera_.fitting(px, 8);
    setCamera(std::min(std::max(zoom(), 1.0), fits), QPointF(px.x + px.w / 2.0, px.y + px.h / 2.0));
}

Box LevelView::seenCells() const { return intersection(camera_.seenOf(geometry()), pages_.level().cells()); }

std::optional<Point> LevelView::pointedCell() const {
    if (!place_ || (!covered_ && !camera_.area().contains(place_->toPoint()))) return std::nullopt;
    return cellAt(*place_);
}

std::optional<Point> LevelView::pointedLevelCell() const {
    if (!place_ || (!covered_ && !camera_.area().contains(place_->toPoint()))) return std::nullopt;
    return geometry().cell_at(camera_.pixelAt(*place_));
}

void LevelView::setTrial(std::optional<level::Level> level) {
    trial_ = std::move(level);
    preview();
    redraw(camera_.area()); // what its plan does not know is marked, also where no cell changes
    say();
    update();
}

void LevelView::setMarked(level::Region cells) {
    marked_ = std::move(cells);
    update();
}

void LevelView::setLattice(bool on) {
    lattice_ = on;
    redraw(camera_.area());
    update();
}

void LevelView::setOutlines(bool on) {
    outlines_ = on;
    update();
}

void LevelView::setBounds(Bounds shown) {
    bounds_ = shown;
    if (session_.level()) refresh();
    update();
    emit boundsChanged();
}

void LevelView::setUnmerged(bool on) {
    unmerged_ = on;
    update();
    emit boundsChanged();
}

void LevelView::setFrameGuide(bool on) {
    frameGuide_ = on;
    update();
}

void LevelView::setQuiet(bool on) {
    const QPointF kept = centre();
    quiet_ = on;
    camera_.setArea(wholeArea());
    setCamera(zoom(), kept);
    redraw(camera_.area());
}

// Where the walker begins is where one looks first, but not at what lies beside the level: of what is smaller than the
// view all is seen, in its middle.
QPointF LevelView::firstLook(const level::Level& level) const {
    const Box px = picture::extent(session_.project(), level);
    QPointF look(px.x + px.w / 2.0, px.y + px.h / 2.0);
    if (const level::Mark* start = level.first_mark(level::MarkKind::start)) {
        const Point corner = level.geometry().corner(start->cells.corner());
        look = QPointF(corner.x, corner.y);
    }
    const auto within = [](double at, double from, double length, double seen) {
        return length <= seen ? from + length / 2 : std::clamp(at, from + seen / 2, from + length - seen / 2);
    };
    const QSizeF seen = QSizeF(camera_.area().size()) / zoom();
    return {within(look.x(), px.x, px.w, seen.width()), within(look.y(), px.y, px.h, seen.height())};
}

void LevelView::refresh() {
    const level::Level* level = session_.isOpen() ? session_.level() : nullptr;
    if (!level) {
        update();
        return;
    }
    const bool other = cameraOf_ != level->id;
    if (other) {
        if (active_) active_->cancel();
        active_ = nullptr;
        for (const auto& [tool, gesture] : tools_) gesture->putAway();
    }
    if (!stroking()) {
        show(trial_ ? *trial_ : *level);
        contrast_.measure(pages_.level());
        soak_.follow(pages_.level(), true);
        reach_.follow(pages_.level(), true);
    }
    if (other || cellOf_ != level->cell) {
        afar_.reset();
        if (!other && level->cell.w > cellOf_.w) { // about as many cells as before
            const double wider = double(level->cell.w) / cellOf_.w / zoom();
            const QRect area = camera_.area();
            camera_.look(camera_.fitting({0, 0, int(area.width() * wider), int(area.height() * wider)}, zoom()), {});
        }
        cameraOf_ = level->id;
        cellOf_ = level->cell;
        const double fits = camera_.fitting(picture::extent(session_.project(), *level), 4);
        if (fits > zoom()) camera_.look(fits, {});
        setCamera(zoom(), firstLook(*level));
    }
    preview();
    say();
    update();
}

void LevelView::show(const level::Level& as_it_is) {
    const level::Level level = session_.seen(as_it_is);
    hindered_.reset();
    const bool toned = session_.stage() == Stage::bound && bounds_ != Bounds::art;
    const auto changed = pages_.show(session_.document().state(), level, toned);
    contrast_.show(level);
    soak_.follow(level, false);
    reach_.follow(level, false);
    if (!stroking()) liveTry_.follow(level);
    // Which cases are missing may change without any cell, and is told of a cell by its neighbours, too.
    const bool rules = marksOf_ != session_.project().materials;
    marksOf_ = session_.project().materials;
    const bool grained = drawnGrain_ != grain(); // its lines are drawn
    drawnGrain_ = grain();
    if (!changed || rules || grained) {
        redraw(camera_.area());
    } else {
        for (const Box& changedCells : *changed)
            redraw(camera_.around(geometry(), changedCells.grown(1)).toAlignedRect());
        if (changed->empty()) return;
    }
    update();
    emit shownChanged();
}

void LevelView::tick() {
    if (!isVisible() || !session_.isOpen() || pages_.empty()) return;
    if (contrast_.on()) return; // its pages are told apart pixel by pixel
    const auto drawn = pages_.tick(session_.playClock().now(), seenCells());
    for (const Box& cells : drawn) redraw(camera_.around(geometry(), cells).toAlignedRect());
    if (!drawn.empty()) update();
}

void LevelView::resizeEvent(QResizeEvent* event) {
    // The middle stays where it is: over several sizes that of the first, so that rounding does not add up.
    if (camera_.origin() != settledAt_ || zoom() != settledZoom_) middle_ = centre();
    camera_.setArea(wholeArea());
    if (event->oldSize().isValid()) {
        camera_.move(middle_ - centre());
        camera_.roundOrigin();
    }
    settledAt_ = camera_.origin();
    settledZoom_ = zoom();
    frame_ = QImage(size() * devicePixelRatioF(), QImage::Format_RGB32);
    frame_.setDevicePixelRatio(devicePixelRatioF());
    redraw(camera_.area());
    emit cameraChanged();
}

} // namespace vic::app
