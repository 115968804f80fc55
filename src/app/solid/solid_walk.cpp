// The view in three dimensions as the game shows it and as one walks in it: through the walker's eyes, over what is
// wet, with what a click would close.
#include <QEvent>
#include <QKeyEvent>
#include <QLocale>
#include <QOpenGLFunctions>
#include <algorithm>
#include <cmath>

#include "app/parts/tokens.hpp"
#include "app/session/session.hpp"
#include "app/session/tool.hpp"
#include "app/solid/solid_view.hpp"
#include "app/view/level_view.hpp"
#include "app/view/soak_lens.hpp"
#include "outline/solid.hpp"
#include "scene/fits.hpp"

namespace vic::app {

namespace {

constexpr float kSeen = 68;    // degrees from top to bottom, through the walker's eyes
constexpr float kOver = 0.02F; // cells by which what is wet lies over its floor

} // namespace

// Where the frame lies in the widget: as large as it fits.
QRectF SolidView::gameFrame() const {
    const Size frame = session_.level()->frame;
    const double scale = std::min(width() / double(std::max(1, frame.w)), height() / double(std::max(1, frame.h)));
    const QSizeF size(frame.w * scale, frame.h * scale);
    return {(width() - size.width()) / 2, (height() - size.height()) / 2, size.width(), size.height()};
}

QMatrix4x4 SolidView::gameMatrix() const {
    const float wide = static_cast<float>(std::max(1, width())), high = static_cast<float>(std::max(1, height()));
    QMatrix4x4 out;
    if (stroll_.on()) {
        out.perspective(kSeen, wide / high, 0.02F, 600);
        out.rotate(stroll_.down(), 1, 0, 0);
        out.rotate(stroll_.heading(), 0, 1, 0);
        out.translate(-stroll_.eye());
        return out;
    }
    const level::Level& level = *session_.level();
    const Box frame = view_.framePixels();
    const auto cell_w = static_cast<float>(level.cell.w), cell_h = static_cast<float>(level.cell.h);
    const float frame_high = static_cast<float>(level.frame.h) / cell_h;
    const float seen = frame_high * high / static_cast<float>(std::max(1.0, gameFrame().height())); // cells
    const auto radians = [](float degrees) { return degrees * 3.14159265F / 180; };
    float away = 0;
    if (level.sight.lens == 0) {
        const float h = seen / 2, w = h * wide / high;
        out.ortho(-w, w, -h, h, -4000, 4000);
    } else {
        away = frame_high / 2 / std::tan(radians(static_cast<float>(level.sight.lens)) / 2);
        out.perspective(2 * std::atan(seen / 2 / away) / radians(1), wide / high, away / 50, away * 4 + 400);
    }
    out.translate(0, 0, -away);
    out.rotate(static_cast<float>(level.sight.tilt), 1, 0, 0);
    out.rotate(static_cast<float>(level.sight.turn), 0, 1, 0);
    out.translate(-(static_cast<float>(frame.x) + static_cast<float>(frame.w) / 2) / cell_w, 0,
                  -(static_cast<float>(frame.y) + static_cast<float>(frame.h) / 2) / cell_h);
    return out;
}

// What lies beside the frame the game does not show.
void SolidView::hideBeside() {
    if (stroll_.on() || look_ != Look::game || !session_.level()) return;
    const double ratio = devicePixelRatioF();
    const QRect frame = QRectF(gameFrame().topLeft() * ratio, gameFrame().size() * ratio).toRect();
    const int w = static_cast<int>(width() * ratio), h = static_cast<int>(height() * ratio);
    QOpenGLFunctions* const gl = context()->functions();
    const QColor colour = tokensOf(this).ink;
    gl->glEnable(GL_SCISSOR_TEST);
    gl->glClearColor(colour.redF(), colour.greenF(), colour.blueF(), 1);
    const QRect beside[] = {{0, 0, w, frame.top()},
                            {0, frame.bottom() + 1, w, h - frame.bottom() - 1},
                            {0, 0, frame.left(), h},
                            {frame.right() + 1, 0, w - frame.right() - 1, h}};
    for (const QRect& r : beside) {
        if (r.width() <= 0 || r.height() <= 0) continue;
        gl->glScissor(r.x(), h - r.y() - r.height(), r.width(), r.height());
        gl->glClear(GL_COLOR_BUFFER_BIT);
    }
    gl->glDisable(GL_SCISSOR_TEST);
}

// From where the level is soaked, on the storey that one works on.
void SolidView::takeWet(const std::shared_ptr<const DrawnMass>& mass) {
    const WetOf now{mass, mass ? view_.soak().from() : std::nullopt, storey()};
    if (now == wetOf_) return;
    const bool poured = now.from && now.from != wetOf_.from;
    if (poured) pouredOn_ = plane();
    std::size_t everywhere = 0; // places, above the active storey, too
    wetOf_ = now;
    wetPlaces_ = 0;
    std::array<std::vector<float>, 2> out;
    if (mass && now.from) {
        const upright::Ground& ground = *mass->survey->ground;
        const auto from = ground.near(*now.from, static_cast<int>(std::lround(pouredOn_ * outline::kUnit)));
        const upright::Soaked soaked = upright::soak(ground, from);
        const scene::Storeys all = storeys();
        const double above = all.low(now.storey + 1) - 1.0 / outline::kUnit;
        const auto& places = ground.places();
        const auto side = static_cast<float>(ground.side()) / outline::kUnit;
        for (std::size_t i = 0; i < places.size(); ++i) {
            const double height = places[i].height / double(outline::kUnit);
            everywhere += soaked.at(i) ? 1 : 0;
            if (!soaked.at(i) || height > above) continue;
            ++wetPlaces_;
            const float x = static_cast<float>(places[i].x) * side, z = static_cast<float>(places[i].y) * side;
            const float y = static_cast<float>(height) + kOver;
            std::vector<float>& to = out[soaked.wet[i] == upright::Wet::no_way_back ? 1 : 0];
            for (const auto& [dx, dz] :
                 {std::pair{0.0F, 0.0F}, {0.0F, side}, {side, 0.0F}, {side, 0.0F}, {0.0F, side}, {side, side}})
                to.insert(to.end(), {x + dx, y, z + dz});
        }
    }
    if (poured) {
        const double metres = mass->survey->metres, side = mass->survey->ground->side() / double(outline::kUnit);
        emit session_.said(wetPlaces_ == 0 ? tr("There is no room for the walker to stand")
                                           : tr("%1 m² of floors are wet; red: no way back from there")
                                                 .arg(QLocale().toString(std::lround(static_cast<double>(everywhere) *
                                                                                     side * side * metres * metres))),
                           false);
    }
    QColor brine = tokensOf(this).brine, vermilion = tokensOf(this).vermilion;
    brine.setAlphaF(0.42F);
    vermilion.setAlphaF(0.42F);
    scene_->setWash(brine, vermilion);
    scene_->setWet(out[0], out[1]);
}

// The sides of a piece in the Hand that would close with what stands beside it.
void SolidView::drawFits(const QMatrix4x4& seen) {
    const edit::Hand& hand = session_.hand();
    if (session_.stage() != Stage::lay || !pointed_ || !session_.level() || !hand.is<edit::held::Tile>() ||
        session_.tool() != Tool::pencil)
        return;
    const Kits kits = bodies_.all();
    const scene::Fits fits(session_.project(), kits);
    const auto layers = scene::Fits::layers_for(*session_.level(), session_.activeLayerId());
    const auto closes = std::find_if(layers.begin(), layers.end(), [&](const level::Layer* l) {
        return fits.turn_for(*l, *pointed_, hand.tile(), hand.turn).has_value();
    });
    if (layers.empty()) return;
    const level::Layer* const layer = closes == layers.end() ? layers.back() : *closes;
    const Turn turn = fits.turn_for(*layer, *pointed_, hand.tile(), hand.turn).value_or(hand.turn);
    const scene::Fits::Sides sides = fits.sides(*layer, *pointed_, hand.tile(), turn);
    const auto x = static_cast<float>(pointed_->x), z = static_cast<float>(pointed_->y);
    const auto y = static_cast<float>(plane() + storeys().height(storey()) / 3);
    const QVector3D middles[] = {{x + 0.5F, y, z}, {x + 1, y, z + 0.5F}, {x + 0.5F, y, z + 1}, {x, y, z + 0.5F}};
    std::vector<QVector3D> closed, missed;
    for (std::size_t side = 0; side < 4; ++side) {
        if (sides.closed[side]) closed.push_back(middles[side]);
        if (sides.missed[side]) missed.push_back(middles[side]);
    }
    scene_->drawDots(seen, closed, tokensOf(this).brine);
    scene_->drawDots(seen, missed, tokensOf(this).vermilion);
}

void SolidView::toggleWalk() {
    if (stroll_.on()) return stroll_.end();
    if (!session_.level()) return;
    const level::Mark* const start = session_.level()->first_mark(level::MarkKind::start);
    const auto place = view_.pointedPlace();
    const Box at = start ? start->cells : Box{session_.level()->size.w / 2, session_.level()->size.h / 2, 1, 1};
    const QPointF from = place ? *place : QPointF(at.x + at.w / 2.0, at.y + at.h / 2.0);
    const double height = place || !start ? plane() : storeys().low(start->storey);
    stroll_.begin(from, height, look_ == Look::through ? -round_ : 0);
    view_.setFocus();
    emit session_.said(
        tr("Up and Down walk, Left and Right turn, Space jumps, the middle button looks round; Esc ends it"), false);
}

bool SolidView::eventFilter(QObject* watched, QEvent* event) {
    if (watched != &view_ || !stroll_.on()) return QOpenGLWidget::eventFilter(watched, event);
    const auto kind = event->type();
    if (kind != QEvent::KeyPress && kind != QEvent::KeyRelease && kind != QEvent::ShortcutOverride)
        return QOpenGLWidget::eventFilter(watched, event);
    auto* key = static_cast<QKeyEvent*>(event); // NOLINT: what kind it is was asked
    const bool his = key->modifiers() == Qt::NoModifier || key->modifiers() == Qt::KeypadModifier;
    if (!his || (key->key() != Qt::Key_Escape && !SolidStroll::isKey(key->key())))
        return QOpenGLWidget::eventFilter(watched, event);
    event->accept();
    if (kind == QEvent::ShortcutOverride || key->isAutoRepeat()) return true;
    if (key->key() == Qt::Key_Escape) {
        if (kind == QEvent::KeyPress) stroll_.end();
    } else {
        stroll_.key(key->key(), kind == QEvent::KeyPress);
    }
    return true;
}

} // namespace vic::app
