#include "app/solid/solid_view.hpp"

#include <QCoreApplication>
#include <QEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QSurfaceFormat>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>
#include <utility>

#include "app/parts/thumbs.hpp"
#include "app/parts/tokens.hpp"
#include "app/session/session.hpp"
#include "app/solid/colours.hpp"
#include "app/view/level_view.hpp"
#include "picture/compose.hpp"

namespace vic::app {

namespace {

constexpr float kNearest = 2, kFurthest = 4000; // cells from the eye to where it looks
constexpr float kTurned = 0.4F;                 // degrees a pixel
constexpr qint64 kSlow = 40;     // milliseconds a picture: from then on it is half as large while one moves
constexpr int kWheelRests = 180; // milliseconds

} // namespace

SolidView::SolidView(Session& session, LevelView& view)
    : QWidget(&view), session_(session), view_(view), bodies_(session.bodies()), mass_(session.mass()) {
    setObjectName("solidView");
    setAccessibleName(tr("The level in three dimensions"));
    setAttribute(Qt::WA_OpaquePaintEvent);
    setMouseTracking(true);
    nears_.setSingleShot(true);
    nears_.setInterval(kWheelRests);
    connect(&nears_, &QTimer::timeout, this, qOverload<>(&QWidget::update)); // as fine as it can be again
    setFocusProxy(&view);
    connect(&view_, &LevelView::shownChanged, this, &SolidView::stale);
    connect(&session_, &Session::changed, this, &SolidView::stale);
    connect(&session_, &Session::stageChanged, this, qOverload<>(&QWidget::update));
    connect(&mass_, &MergedMass::changed, this, qOverload<>(&QWidget::update));
    connect(&view_.soak(), &SoakLens::soakedAnew, this, qOverload<>(&QWidget::update));
    connect(&stroll_, &SolidStroll::moved, this, [this] {
        if (std::exchange(strolled_, stroll_.on()) != stroll_.on()) stale();
        update();
    });
    connect(&session_, &Session::opened, &stroll_, &SolidStroll::end);
    view_.installEventFilter(this);
    connect(&bodies_, &KitBodies::changed, this, [this] {
        came_ = true;
        stale();
    });
}

SolidView::~SolidView() {
    if (!scene_) return;
    context_.makeCurrent(&surface_);
    scene_.reset();
    context_.doneCurrent();
}

void SolidView::stale() {
    stale_ = groundStale_ = true;
    if (isVisible()) update();
}

int SolidView::storey() const {
    const level::Layer* layer = session_.level() ? session_.level()->layer(session_.activeLayerId()) : nullptr;
    return layer ? layer->storey : 0;
}

// What is above the active storey is cut away while one works; the game, and who walks, sees all.
int SolidView::highest() const { return look_ == Look::game || stroll_.on() ? level::kMostStorey : storey(); }

scene::Storeys SolidView::storeys() const {
    return scene::Storeys(bodies_.all(), session_.level() ? session_.level()->storey_heights : std::map<int, int>{});
}

double SolidView::plane() const { return storeys().low(storey()); }

void SolidView::look(Look how) {
    if (!scene_) begin();
    if (!scene_) return;
    if ((look_ == Look::game) != (how == Look::game)) stale();
    look_ = how;
    follow();
    // At all that stands, or where nothing does at the whole level.
    Box stands;
    if (session_.level())
        for (const scene::Placed& p :
             scene::placed_in(session_.project(), view_.shown(), bodies_.all(), level::kMostStorey))
            stands = united(stands, p.cells);
    framed_ = !stands.empty();
    const Box cells = !stands.empty() ? stands : session_.level() ? session_.level()->cells() : Box{0, 0, 10, 10};
    camera_ = render::camera_at(how, cells);
    update();
}

level::Light SolidView::light() const { return session_.level() ? session_.level()->light : level::Light{}; }

render::Matrix SolidView::matrix() const {
    if (stroll_.on() || look_ == Look::game) return gameMatrix();
    return render::matrix_of(camera_, {width(), height()});
}

QPointF SolidView::placeOf(QPointF cells) const {
    return seenPlace({static_cast<float>(cells.x()), static_cast<float>(plane()), static_cast<float>(cells.y())});
}

QPointF SolidView::seenPlace(const render::Vec3& cells) const {
    const auto seen = render::seen_at(matrix(), cells, {width(), height()});
    return {seen[0], seen[1]};
}

void SolidView::begin() {
    QSurfaceFormat format;
    format.setVersion(3, 3);
    format.setProfile(QSurfaceFormat::CoreProfile);
    surface_.setFormat(format);
    surface_.create();
    context_.setFormat(format);
    if (!context_.create() || !context_.makeCurrent(&surface_)) {
        trouble_ = tr("no context of OpenGL");
    } else {
        scene_ = std::make_unique<render::Renderer>();
        trouble_ = QString::fromStdString(scene_->initialize());
        if (!trouble_.isEmpty()) scene_.reset();
        context_.doneCurrent();
    }
    if (!trouble_.isEmpty()) emit troubled(trouble_);
}

// Pieces that stand are told anew whenever another level is shown; what lies flat is drawn again with them.
void SolidView::take() {
    if (!stale_ || !session_.level()) return;
    stale_ = false;
    const render::Kits kits = bodies_.all();
    // In the plan what is above the active storey is hidden.
    const level::Level& level = highest() == level::kMostStorey ? *session_.level() : view_.shown();
    scene_->set_kits(kits);
    const auto placed = scene::placed_in(session_.project(), level, kits, highest());
    pieces_ = static_cast<int>(placed.size());
    if (std::exchange(came_, false) && !framed_ && pieces_ > 0) look(look_);
    scene_->set_pieces(placed, storeys());
    takeCards(level);
    if (!std::exchange(groundStale_, false) || view_.stroking()) return;
    scene_->set_ground(render::ground_of(session_.project(), level, kits, session_.derived().art()), level.size);
}

// Props that stand up, by their pictures.
void SolidView::takeCards(const level::Level& level) {
    const level::PropKinds& kinds = propKindsOf(session_.project());
    picture::Art& art = session_.derived().art();
    art.update(session_.project());
    const auto cards = scene::cards_in(kinds, level, storeys(), highest());
    standing_ = static_cast<int>(cards.size());
    scene_->set_cards(
        render::cards_of(cards, [&](const level::PropKind& kind) { return render::card_picture(art, kind); }));
}

// What is above the active storey is cut away, as its pieces are.
void SolidView::takeMass() {
    const bool bound = session_.stage() == Stage::bound, wet = view_.soak().on();
    takeWet();
    if (stroll_.on() && session_.level()) stroll_.follow(mass_.walked(bodies_.all()), session_.level()->walker.upright);
    // What is wet is seen without stripes.
    const bool hatched = bound && !wet && !stroll_.on();
    const auto mass = hatched ? mass_.of(bodies_.all()) : nullptr;
    const auto surveyed = hatched ? mass_.surveyed(bodies_.all()) : nullptr;
    if (mass == drawnMass_ && surveyed == drawnFlat_ && storey() == drawnStorey_) return;
    drawnMass_ = mass;
    drawnFlat_ = surveyed;
    drawnStorey_ = storey();
    std::vector<float> faces, lines;
    const auto add = [&](const std::vector<DrawnMass::Storey>& storeys) {
        for (std::size_t i = 0; i < storeys.size() && static_cast<int>(i) <= drawnStorey_; ++i) {
            faces.insert(faces.end(), storeys[i].faces.begin(), storeys[i].faces.end());
            lines.insert(lines.end(), storeys[i].lines.begin(), storeys[i].lines.end());
        }
    };
    if (mass) add(mass->storeys);
    if (surveyed) add(surveyed->flat);
    scene_->set_mass(faces, lines);
}

void SolidView::setSection(double share) {
    section_ = share;
    update();
}

std::optional<float> SolidView::sectionAlong(const render::Vec3& toEye) const {
    if (section_ <= 0 || stroll_.on() || !session_.level()) return std::nullopt;
    const auto w = static_cast<float>(session_.level()->size.w), h = static_cast<float>(session_.level()->size.h);
    float least = 1e9F, most = -1e9F;
    for (const auto& [x, z] : {std::pair{0.0F, 0.0F}, {w, 0.0F}, {0.0F, h}, {w, h}}) {
        const float along = x * toEye[0] + z * toEye[2];
        least = std::min(least, along);
        most = std::max(most, along);
    }
    return most + (least - most) * static_cast<float>(section_);
}

bool SolidView::roughly() const { return (dragged_ || nears_.isActive()) && fineTook_ > kSlow; }

void SolidView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    if (!scene_ || !context_.makeCurrent(&surface_)) return p.fillRect(rect(), tokensOf(this).outside);
    draw();
    context_.doneCurrent();
    p.setRenderHint(QPainter::SmoothPixmapTransform, picture_.width() < width());
    p.drawImage(rect(), picture_);
    hideBeside(p);
}

void SolidView::draw() {
    const bool rough = roughly();
    take();
    takeMass();
    QElapsedTimer took; // without what is taken anew, which is done once a change
    took.start();
    scene_->set_hatch(vec3(tokensOf(this).ink));
    const int turn = session_.level() ? session_.level()->sight.turn : 0;
    const float round = (look_ == Look::game ? static_cast<float>(-turn)
                         : stroll_.on()      ? -stroll_.heading()
                                             : camera_.round) *
                        3.14159265F / 180;
    const render::Vec3 toEye{std::sin(round), 0, std::cos(round)};
    scene_->set_eye(toEye);
    cut_ = {toEye, sectionAlong(toEye)};
    scene_->set_section(cut_.second);
    const render::Matrix seen = matrix();
    const QSize pixels = size() * devicePixelRatioF();
    const Size whole{pixels.width(), pixels.height()};
    scene_->draw(seen, light(), vec3(tokensOf(this).outside), whole, rough);
    const bool props = session_.stage() == Stage::dress;
    if (props && session_.level() && !stroll_.on()) drawProps(seen);
    if (!props && pointed_ && !stroll_.on() && session_.level() && session_.level()->cells().contains(*pointed_)) {
        const auto low = static_cast<float>(plane());
        const auto high = low + static_cast<float>(storeys().height(storey()));
        const Lattice own = session_.workLattice(); // its cells may lie aside
        const auto x = static_cast<float>(pointed_->x) +
                       static_cast<float>(own.origin.x) / static_cast<float>(own.cell.w),
                   z = static_cast<float>(pointed_->y) +
                       static_cast<float>(own.origin.y) / static_cast<float>(own.cell.h);
        scene_->draw_box(seen, {x, low, z}, {x + 1, high, z + 1}, vec3(tokensOf(this).vermilion));
    }
    if (!stroll_.on()) drawFits(seen);
    drawWalker(seen);
    const Size drawn = scene_->drawn();
    if (picture_.size() != QSize(drawn.w, drawn.h)) picture_ = QImage(drawn.w, drawn.h, QImage::Format_RGB32);
    scene_->read({reinterpret_cast<std::uint32_t*>(picture_.bits()), static_cast<std::size_t>(drawn.area())});
    if (!rough) fineTook_ = took.elapsed();
}

void SolidView::mousePressEvent(QMouseEvent* event) {
    view_.setFocus();
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
    if (stroll_.on() && look_ != Look::game) {
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
    camera_.round -= static_cast<float>(pixels.x()) * kTurned;
    camera_.down = std::clamp(camera_.down + static_cast<float>(pixels.y()) * kTurned,
                              look_ == Look::through ? -60.0F : 1.0F, 89.0F);
}

// What was under the pointer stays there.
void SolidView::moveBy(QPointF pixels) {
    const QPointF middle(width() / 2.0, height() / 2.0);
    const auto from = cellsAt(middle + pixels), to = cellsAt(middle);
    if (!from || !to) return;
    camera_.at[0] += static_cast<float>(to->x() - from->x());
    camera_.at[2] += static_cast<float>(to->y() - from->y());
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
    nears_.start();
    camera_.away = std::clamp(camera_.away * static_cast<float>(std::pow(0.88, event->angleDelta().y() / 120.0)),
                              kNearest, kFurthest);
    const auto after = cellsAt(event->position());
    if (before && after) {
        camera_.at[0] += static_cast<float>(before->x() - after->x());
        camera_.at[2] += static_cast<float>(before->y() - after->y());
    }
    update();
}

} // namespace vic::app
