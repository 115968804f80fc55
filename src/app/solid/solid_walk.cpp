// The view in three dimensions as the game shows it and as one walks in it: through the walker's eyes, over what is
// wet, with what a click would close.
#include <QEvent>
#include <QKeyEvent>
#include <QLocale>
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "app/parts/tokens.hpp"
#include "app/session/session.hpp"
#include "app/session/tool.hpp"
#include "app/solid/colours.hpp"
#include "app/solid/solid_view.hpp"
#include "app/view/level_view.hpp"
#include "app/view/soak_lens.hpp"
#include "outline/solid.hpp"
#include "scene/fits.hpp"

namespace vic::app {

namespace {

constexpr float kOver = 0.02F; // cells by which what is wet lies over its floor

} // namespace

// Where the frame lies in the widget: as large as it fits.
QRectF SolidView::gameFrame() const {
    const Size frame = session_.level()->frame;
    const double scale = std::min(width() / double(std::max(1, frame.w)), height() / double(std::max(1, frame.h)));
    const QSizeF size(frame.w * scale, frame.h * scale);
    return {(width() - size.width()) / 2, (height() - size.height()) / 2, size.width(), size.height()};
}

render::Matrix SolidView::gameMatrix() const {
    const Size pixels{width(), height()};
    if (stroll_.on() && look_ != Look::game) {
        const QVector3D eye = stroll_.eye();
        return render::eyes_matrix({eye.x(), eye.y(), eye.z()}, stroll_.heading(), stroll_.down(), pixels);
    }
    const level::Level& level = *session_.level();
    const Box frame = view_.framePixels();
    render::Vec3 middle{
        (static_cast<float>(frame.x) + static_cast<float>(frame.w) / 2) / static_cast<float>(level.cell.w), 0,
        (static_cast<float>(frame.y) + static_cast<float>(frame.h) / 2) / static_cast<float>(level.cell.h)};
    if (stroll_.on()) { // the frame goes along, and is as high as he is
        const auto foot = stroll_.foot();
        middle = {static_cast<float>(foot[0]), static_cast<float>(foot[1]), static_cast<float>(foot[2])};
    }
    return render::game_matrix(level, middle, gameFrame().height() / std::max(1, level.frame.h), pixels);
}

// What lies beside the frame the game does not show.
void SolidView::hideBeside(QPainter& p) const {
    if (look_ != Look::game || !session_.level()) return;
    const QRegion beside = QRegion(rect()) - gameFrame().toRect();
    for (const QRect& r : beside) p.fillRect(r, tokensOf(this).ink);
}

// From where the level is soaked, up to the storey that one works on.
void SolidView::takeWet() {
    const auto& floors = view_.soak().floors();
    const std::pair now(view_.soak().turn(), storey());
    if (now == wetOf_) return;
    wetOf_ = now;
    wetPlaces_ = 0;
    std::array<std::vector<float>, 2> out;
    const auto put = [&](bool lost, float x, float y, float z, float wide, float deep) {
        for (const auto& [dx, dz] :
             {std::pair{0.0F, 0.0F}, {0.0F, deep}, {wide, 0.0F}, {wide, 0.0F}, {0.0F, deep}, {wide, deep}})
            out[lost ? 1 : 0].insert(out[lost ? 1 : 0].end(), {x + dx, y, z + dz});
    };
    if (floors) {
        const upright::Ground& ground = *floors->of->survey->ground;
        const double above = storeys().low(now.second + 1) - 1.0 / outline::kUnit;
        const auto& places = ground.places();
        const auto side = static_cast<float>(ground.side()) / outline::kUnit;
        for (std::size_t i = 0; i < places.size(); ++i) {
            const double height = places[i].height / double(outline::kUnit);
            if (!floors->soaked.at(i) || height > above) continue;
            ++wetPlaces_;
            put(floors->soaked.wet[i] == upright::Wet::no_way_back, static_cast<float>(places[i].x) * side,
                static_cast<float>(height) + kOver, static_cast<float>(places[i].y) * side, side, side);
        }
    } else if (view_.soak().on()) {
        // Of flat art the ground, run by run.
        const walk::Soaked& flat = view_.soak().soaked();
        const float side = 1.0F / static_cast<float>(std::max(1, flat.grain));
        for (int y = 0; y < flat.samples.h; ++y)
            for (int x = 0, from = 0; x <= flat.samples.w; ++x) {
                if (x < flat.samples.w && flat.at({x, y})) continue;
                if (x > from)
                    put(false, static_cast<float>(from) * side, kOver, static_cast<float>(y) * side,
                        static_cast<float>(x - from) * side, side);
                wetPlaces_ += x - from;
                from = x + 1;
            }
    }
    QColor brine = tokensOf(this).brine, vermilion = tokensOf(this).vermilion;
    brine.setAlphaF(0.42F);
    vermilion.setAlphaF(0.42F);
    scene_->set_wash(vec4(brine), vec4(vermilion));
    scene_->set_wet(out[0], out[1]);
}

// The sides of a piece in the Hand that would close with what stands beside it.
void SolidView::drawFits(const render::Matrix& seen) {
    const edit::Hand& hand = session_.hand();
    if (session_.stage() != Stage::lay || !pointed_ || !session_.level() || !hand.is<edit::held::Tile>() ||
        session_.tool() != Tool::pencil)
        return;
    const render::Kits kits = bodies_.all();
    const scene::Fits fits(session_.project(), kits);
    const auto layers = scene::Fits::layers_for(*session_.level(), session_.activeLayerId());
    if (layers.empty()) return;
    // As the click would lay it: where it closes, else where the Hand would put it.
    const level::Layer* layer = layers.back();
    scene::Fit as{hand.tile(), hand.turn};
    for (const level::Layer* const l : layers)
        if (const auto fit = fits.turned(*l, *pointed_, hand.tile(), hand.turn)) {
            layer = l;
            as = *fit;
            break;
        }
    const auto y = static_cast<float>(plane() + storeys().height(storey()) / 3);
    constexpr float kMiddles[4][2] = {{0.5F, 0}, {1, 0.5F}, {0.5F, 1}, {0, 0.5F}};
    std::vector<render::Vec3> closed, missed;
    for (const scene::Fits::Side& s : fits.sides(*layer, *pointed_, as.tile, as.turn).all) {
        const auto& middle = kMiddles[s.side];
        const render::Vec3 at{static_cast<float>(s.cell.x) + middle[0], y, static_cast<float>(s.cell.y) + middle[1]};
        if (s.closed) closed.push_back(at);
        if (s.missed) missed.push_back(at);
    }
    scene_->draw_dots(seen, closed, vec3(tokensOf(this).brine));
    scene_->draw_dots(seen, missed, vec3(tokensOf(this).vermilion));
}

void SolidView::toggleWalk() {
    if (stroll_.on()) return stroll_.end();
    walk(view_.pointedPlace());
}

void SolidView::walk(std::optional<QPointF> place) {
    if (!session_.level()) return;
    const level::Mark* const start = session_.level()->first_mark(level::MarkKind::start);
    const Box at = start ? start->cells : Box{session_.level()->size.w / 2, session_.level()->size.h / 2, 1, 1};
    const QPointF from = place ? *place : QPointF(at.x + at.w / 2.0, at.y + at.h / 2.0);
    const double height = place || !start ? plane() : storeys().low(start->storey);
    stroll_.begin(from, height, look_ == Look::through ? -camera_.round : 0);
    view_.setFocus();
    follow();
}

// In the look of the game he is seen as that shows him.
void SolidView::follow() {
    stroll_.seenFrom(look_ == Look::game && session_.level()
                         ? std::optional(static_cast<float>(session_.level()->sight.turn))
                         : std::nullopt);
    if (!stroll_.on()) return;
    emit session_.said(
        stroll_.seenByGame()
            ? tr("The arrow keys walk, Space jumps; Esc ends it")
            : tr("Up and Down walk, Left and Right turn, Space jumps, the middle button looks round; Esc "
                 "ends it"),
        false);
}

// He himself, where he is seen: as high and wide as he is.
void SolidView::drawWalker(const render::Matrix& seen) {
    if (!stroll_.on() || !stroll_.seenByGame() || !session_.level()) return;
    const auto foot = stroll_.foot();
    const auto x = static_cast<float>(foot[0]), y = static_cast<float>(foot[1]), z = static_cast<float>(foot[2]);
    const float high = stroll_.tall();
    const float half = high * static_cast<float>(session_.level()->walker.upright.wide) /
                       static_cast<float>(std::max(1, session_.level()->walker.upright.tall)) / 2;
    const render::Vec3 colour = vec3(tokensOf(this).vermilion);
    scene_->draw_body(seen, {x - half, y, z - half}, {x + half, y + high, z + half}, colour);
    // Where he looks.
    const double way = double{stroll_.heading()} * 3.14159265358979 / 180;
    const float ahead = half * 1.6F;
    scene_->draw_dots(seen,
                      {{x + static_cast<float>(std::sin(way)) * ahead, y + high * 0.85F,
                        z - static_cast<float>(std::cos(way)) * ahead}},
                      colour);
}

bool SolidView::eventFilter(QObject* watched, QEvent* event) {
    if (watched != &view_ || !stroll_.on()) return QWidget::eventFilter(watched, event);
    const auto kind = event->type();
    if (kind != QEvent::KeyPress && kind != QEvent::KeyRelease && kind != QEvent::ShortcutOverride)
        return QWidget::eventFilter(watched, event);
    auto* key = static_cast<QKeyEvent*>(event); // NOLINT: what kind it is was asked
    const bool his = key->modifiers() == Qt::NoModifier || key->modifiers() == Qt::KeypadModifier;
    if (!his || (key->key() != Qt::Key_Escape && !SolidStroll::isKey(key->key())))
        return QWidget::eventFilter(watched, event);
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
