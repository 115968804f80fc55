#include "app/solid/solid_view.hpp"

#include <QCoreApplication>
#include <QEvent>
#include <QMouseEvent>
#include <QSurfaceFormat>
#include <QVector4D>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>
#include <utility>

#include "app/parts/thumbs.hpp"
#include "app/parts/tokens.hpp"
#include "app/session/session.hpp"
#include "app/view/level_view.hpp"
#include "picture/compose.hpp"

namespace vic::app {

namespace {

constexpr float kNearest = 2, kFurthest = 4000; // cells from the eye to where it looks
constexpr int kMostGround = 4096;               // pixels a side of what lies flat
constexpr float kTurned = 0.4F;                 // degrees a pixel

} // namespace

SolidView::SolidView(Session& session, LevelView& view)
    : QOpenGLWidget(&view), session_(session), view_(view), bodies_(session.bodies()), mass_(session.mass()) {
    setObjectName("solidView");
    setAccessibleName(tr("The level in three dimensions"));
    QSurfaceFormat format;
    format.setVersion(3, 3);
    format.setProfile(QSurfaceFormat::CoreProfile);
    format.setDepthBufferSize(24);
    setFormat(format);
    setMouseTracking(true);
    setFocusProxy(&view);
    connect(&view_, &LevelView::shownChanged, this, &SolidView::stale);
    connect(&session_, &Session::changed, this, &SolidView::stale);
    connect(&session_, &Session::stageChanged, this, qOverload<>(&QWidget::update));
    connect(&mass_, &MergedMass::changed, this, qOverload<>(&QWidget::update));
    connect(&view_.soak(), &SoakLens::soakedAnew, this, qOverload<>(&QWidget::update));
    connect(&stroll_, &SolidStroll::moved, this, qOverload<>(&QWidget::update));
    connect(&session_, &Session::opened, &stroll_, &SolidStroll::end);
    view_.installEventFilter(this);
    connect(&bodies_, &KitBodies::changed, this, [this] {
        came_ = true;
        stale();
    });
}

SolidView::~SolidView() {
    if (!context()) return;
    makeCurrent();
    scene_.reset();
    doneCurrent();
}

void SolidView::stale() {
    stale_ = groundStale_ = true;
    if (isVisible()) update();
}

int SolidView::storey() const {
    const level::Layer* layer = session_.level() ? session_.level()->layer(session_.activeLayerId()) : nullptr;
    return layer ? layer->storey : 0;
}

scene::Storeys SolidView::storeys() const {
    return scene::Storeys(bodies_.all(), session_.level() ? session_.level()->storey_heights : std::map<int, int>{});
}

double SolidView::plane() const { return storeys().low(storey()); }

void SolidView::look(Look how) {
    look_ = how;
    // At all that stands, or where nothing does at the whole level.
    Box stands;
    if (session_.level())
        for (const scene::Placed& p :
             scene::placed_in(session_.project(), view_.shown(), bodies_.all(), level::kMostStorey))
            stands = united(stands, p.cells);
    framed_ = !stands.empty();
    const Box cells = !stands.empty() ? stands : session_.level() ? session_.level()->cells() : Box{0, 0, 10, 10};
    const float reach = static_cast<float>(std::max({cells.w, cells.h, 6}));
    at_ = {static_cast<float>(cells.x) + static_cast<float>(cells.w) / 2, 0,
           static_cast<float>(cells.y) + static_cast<float>(cells.h) / 2};
    round_ = how == Look::aslant ? 45.0F : 0.0F;
    down_ = how == Look::aslant ? 35.0F : how == Look::front ? 8.0F : 4.0F;
    away_ = how == Look::through ? reach * 0.9F : reach * 1.2F;
    if (how == Look::through) at_.setY(0.8F);
    update();
}

Sun SolidView::sun() const {
    const level::Light light = session_.level() ? session_.level()->light : level::Light{};
    return {light.minute / 60.0, light.warmth, light.fog};
}

// From cells to what is seen, -1 .. 1.
QMatrix4x4 SolidView::matrix() const {
    if (stroll_.on() || look_ == Look::game) return gameMatrix();
    const float wide = static_cast<float>(std::max(1, width())), high = static_cast<float>(std::max(1, height()));
    QMatrix4x4 out;
    if (look_ == Look::through) {
        out.perspective(60, wide / high, std::max(0.05F, away_ / 100), away_ * 2 + 400);
    } else {
        const float h = away_ / 2, w = h * wide / high;
        out.ortho(-w, w, -h, h, -kFurthest, kFurthest);
    }
    out.translate(0, 0, look_ == Look::through ? -away_ : 0.0F);
    out.rotate(down_, 1, 0, 0);
    out.rotate(-round_, 0, 1, 0);
    out.translate(-at_);
    return out;
}

std::optional<QPointF> SolidView::cellsAt(QPointF place) const {
    bool can = false;
    const QMatrix4x4 back = matrix().inverted(&can);
    if (!can || width() < 1 || height() < 1) return std::nullopt;
    const auto x = static_cast<float>(2 * place.x() / width() - 1),
               y = static_cast<float>(1 - 2 * place.y() / height());
    const QVector3D a = back.map(QVector3D(x, y, -1)), b = back.map(QVector3D(x, y, 1)), way = b - a;
    const scene::Ray ray{{a.x(), a.y(), a.z()}, {way.x(), way.y(), way.z()}};
    const auto met = scene::on_storey(ray, plane());
    if (!met) return std::nullopt;
    return QPointF((*met)[0], (*met)[1]);
}

QPointF SolidView::placeOf(QPointF cells) const {
    const QVector3D seen = matrix().map(
        QVector3D(static_cast<float>(cells.x()), static_cast<float>(plane()), static_cast<float>(cells.y())));
    return {(double{seen.x()} + 1) / 2 * width(), (1 - double{seen.y()}) / 2 * height()};
}

void SolidView::initializeGL() {
    scene_ = std::make_unique<GlScene>();
    trouble_ = scene_->initialize();
    if (trouble_.isEmpty()) return;
    scene_.reset();
    emit troubled(trouble_);
}

void SolidView::resizeGL(int, int) {}

// Pieces that stand are told anew whenever another level is shown; what lies flat is drawn again with them.
void SolidView::take() {
    if (!stale_ || !session_.level()) return;
    stale_ = false;
    const Kits kits = bodies_.all();
    const level::Level& level = view_.shown();
    scene_->setKits(kits);
    const auto placed = scene::placed_in(session_.project(), level, kits, storey());
    pieces_ = static_cast<int>(placed.size());
    if (std::exchange(came_, false) && !framed_ && pieces_ > 0) look(look_);
    scene_->setPieces(placed, storeys());
    takeCards(level);
    if (!std::exchange(groundStale_, false) || view_.stroking()) return;
    const level::Level flat = scene::flat_of(session_.project(), level, kits);
    const Box all = flat.pixels();
    if (all.size().area() > kMostGround * kMostGround || std::max(all.w, all.h) > 2 * kMostGround) {
        QImage plain(1, 1, QImage::Format_RGB32);
        plain.fill(QColor(level.ground.r, level.ground.g, level.ground.b));
        return scene_->setGround(plain, level.size);
    }
    picture::Canvas canvas(all);
    picture::draw(session_.project(), flat, session_.derived().art(), canvas, canvas.box);
    scene_->setGround(
        QImage(reinterpret_cast<const uchar*>(canvas.pixels.data()), canvas.box.w, canvas.box.h, QImage::Format_RGB32)
            .copy(),
        level.size);
}

// Props that stand up, by their pictures.
void SolidView::takeCards(const level::Level& level) {
    const level::PropKinds& kinds = propKindsOf(session_.project());
    picture::Art& art = session_.derived().art();
    art.update(session_.project());
    std::map<std::uint64_t, Cards> out;
    standing_ = 0;
    for (const scene::Card& card : scene::cards_in(kinds, level, storeys(), storey())) {
        Cards& kind = out[card.kind->id];
        if (kind.stand.empty())
            if (const picture::Art::Picture* picture = art.prop(*card.kind, false))
                kind.picture = QImage(reinterpret_cast<const uchar*>(picture->pixels.data()), picture->size.w,
                                      picture->size.h, QImage::Format_ARGB32_Premultiplied)
                                   .copy();
        const auto part = [](std::uint8_t v) { return static_cast<float>(v) / 255; };
        kind.stand.push_back(
            {{card.foot[0], card.foot[1], card.foot[2]},
             {card.left, card.right, card.top, card.bottom},
             {part(card.wash.times.r), part(card.wash.times.g), part(card.wash.times.b), 1},
             card.mirrored ? 1.0F : 0.0F,
             {card.turned ? std::cos(*card.turned) : 0.0F, card.turned ? std::sin(*card.turned) : 0.0F}});
        ++standing_;
    }
    scene_->setCards(std::move(out));
}

// What is above the active storey is cut away, as its pieces are.
void SolidView::takeMass() {
    const bool bound = session_.stage() == Stage::bound, wet = view_.soak().on();
    const auto all = bound || wet || stroll_.on() ? mass_.of(bodies_.all()) : nullptr;
    takeWet(wet ? all : nullptr);
    if (session_.level()) stroll_.follow(all, session_.level()->walker.upright);
    const auto mass = bound && !wet && !stroll_.on() ? all : nullptr; // what is wet is seen without stripes
    if (mass == drawnMass_ && storey() == drawnStorey_) return;
    drawnMass_ = mass;
    drawnStorey_ = storey();
    std::vector<float> faces, lines;
    for (std::size_t i = 0; mass && i < mass->storeys.size() && static_cast<int>(i) <= drawnStorey_; ++i) {
        const DrawnMass::Storey& s = mass->storeys[i];
        faces.insert(faces.end(), s.faces.begin(), s.faces.end());
        lines.insert(lines.end(), s.lines.begin(), s.lines.end());
    }
    scene_->setMass(faces, lines);
}

void SolidView::paintGL() {
    if (!scene_) return;
    take();
    takeMass();
    scene_->setHatch(tokensOf(this).ink);
    const int turn = session_.level() ? session_.level()->sight.turn : 0;
    const float round = (stroll_.on()          ? -stroll_.heading()
                         : look_ == Look::game ? static_cast<float>(-turn)
                                               : round_) *
                        3.14159265F / 180;
    scene_->setEye({std::sin(round), 0, std::cos(round)});
    const QMatrix4x4 seen = matrix();
    const double ratio = devicePixelRatioF();
    const QSize pixels = size() * ratio;
    scene_->draw(seen, sun(), tokensOf(this).outside, pixels, dragged_.has_value());
    if (pointed_ && !stroll_.on() && session_.level() && session_.level()->cells().contains(*pointed_)) {
        const auto low = static_cast<float>(plane());
        const auto high = low + static_cast<float>(storeys().height(storey()));
        const auto x = static_cast<float>(pointed_->x), z = static_cast<float>(pointed_->y);
        scene_->drawBox(seen, {x, low, z}, {x + 1, high, z + 1}, tokensOf(this).vermilion);
    }
    if (!stroll_.on()) drawFits(seen);
    scene_->show(pixels);
    hideBeside();
}

// The same press, at the place of the level view that shows what is under the pointer here.
void SolidView::pass(QMouseEvent* event) {
    const auto cells = cellsAt(event->position());
    if (!cells) return;
    const QPointF place = view_.placeOf(*cells);
    QMouseEvent there(event->type(), place, view_.mapToGlobal(place), event->button(), event->buttons(),
                      event->modifiers());
    QCoreApplication::sendEvent(&view_, &there);
    pointed_ = Point{static_cast<int>(std::floor(cells->x())), static_cast<int>(std::floor(cells->y()))};
    update();
}

void SolidView::mousePressEvent(QMouseEvent* event) {
    if (event->button() == Qt::MiddleButton) {
        dragged_ = event->position();
        turns_ = (event->modifiers() & Qt::ShiftModifier) == 0;
        return;
    }
    pass(event);
}

void SolidView::mouseDoubleClickEvent(QMouseEvent* event) { pass(event); }

void SolidView::mouseMoveEvent(QMouseEvent* event) {
    if (!dragged_) return pass(event);
    const QPointF by = event->position() - *dragged_;
    dragged_ = event->position();
    if (stroll_.on()) {
        stroll_.turnBy(static_cast<float>(by.x()) * kTurned, static_cast<float>(by.y()) * kTurned);
        return update();
    }
    if (look_ == Look::game) return; // that is the level's
    if (turns_)
        turnBy(by);
    else
        moveBy(by);
    update();
}

void SolidView::mouseReleaseEvent(QMouseEvent* event) {
    if (event->button() == Qt::MiddleButton && dragged_) {
        dragged_.reset();
        update(); // as fine as it can be again
        return;
    }
    pass(event);
}

void SolidView::leaveEvent(QEvent* event) {
    pointed_.reset();
    QCoreApplication::sendEvent(&view_, event);
    update();
}

void SolidView::turnBy(QPointF pixels) {
    round_ -= static_cast<float>(pixels.x()) * kTurned;
    down_ = std::clamp(down_ + static_cast<float>(pixels.y()) * kTurned, look_ == Look::through ? -60.0F : 1.0F, 89.0F);
}

// What was under the pointer stays there.
void SolidView::moveBy(QPointF pixels) {
    const QPointF middle(width() / 2.0, height() / 2.0);
    const auto from = cellsAt(middle + pixels), to = cellsAt(middle);
    if (!from || !to) return;
    at_ += QVector3D(static_cast<float>(to->x() - from->x()), 0, static_cast<float>(to->y() - from->y()));
}

// To the pointer: what is under it stays there.
void SolidView::wheelEvent(QWheelEvent* event) {
    if ((event->modifiers() & Qt::ControlModifier) != 0) { // the size of the tip, as everywhere
        QCoreApplication::sendEvent(&view_, event);
        return;
    }
    event->accept();
    if (stroll_.on() || look_ == Look::game) return;
    const auto before = cellsAt(event->position());
    away_ =
        std::clamp(away_ * static_cast<float>(std::pow(0.88, event->angleDelta().y() / 120.0)), kNearest, kFurthest);
    const auto after = cellsAt(event->position());
    if (before && after)
        at_ += QVector3D(static_cast<float>(before->x() - after->x()), 0, static_cast<float>(before->y() - after->y()));
    update();
}

} // namespace vic::app
