// Lenses. That for pixels: every tile that is drawn so that a pixel of its art is no whole number of pixels of the
// level.

#include <QColor>
#include <QPainter>
#include <QPen>
#include <QPointF>
#include <QRect>
#include <QRectF>
#include <QString>
#include <map>

#include "app/session/session.hpp"
#include "app/view/level_view.hpp"
#include "base/geometry.hpp"
#include "level/grid.hpp"
#include "level/level.hpp"
#include "level/project.hpp"
#include "sheet/cut.hpp"

namespace vic::app {

namespace {

sheet::Honest honestOf(const level::TileRef& ref, const Lattice& lattice) {
    if (!ref.tile) return {};
    const int scale = ref.sheet->cut.scale;
    return sheet::honest_in({ref.tile->box.w / scale, ref.tile->box.h / scale},
                            level::picture_size(*ref.tile, lattice));
}

} // namespace

void LevelView::setHonesty(bool on) {
    honesty_ = on;
    redraw(camera_.area());
    update();
    emit readingChanged();
}

// Hatched in ochre with a frame: a warning, and not by its colour alone.
void LevelView::paintDishonest(QPainter& p, const QRect& part) {
    const level::Level& level = pages_.level();
    const level::TileTable tiles(session_.project());
    const Box shown = spanning(camera_.pixelAt(part.topLeft()), camera_.pixelAt(part.bottomRight()));
    const QColor ochre(0xE0, 0xA6, 0x40);
    for (const level::LayerRef& layer : level.layers) {
        if (!layer->tiles() || !layer->shown) continue;
        const Lattice own = level.lattice_of(*layer);
        std::map<level::TileId, bool> known;
        level::each_cell(layer->grid(), own.cells_in(shown), [&](Point at, level::Cell cell, level::MaterialId) {
            if (cell.tile() == 0) return;
            const auto [found, fresh] = known.try_emplace(cell.tile(), true);
            if (fresh) found->second = honestOf(tiles.find(cell.tile()), own).is;
            if (found->second) return;
            const QRectF r = camera_.around(own, {at.x, at.y, 1, 1});
            p.fillRect(r, QBrush(QColor(ochre.red(), ochre.green(), ochre.blue(), 150), Qt::BDiagPattern));
            p.setPen(QPen(ochre, 1));
            p.setBrush(Qt::NoBrush);
            if (r.width() > 6) p.drawRect(r.adjusted(0.5, 0.5, -0.5, -0.5));
        });
    }
}

void LevelView::setContrast(bool on) {
    if (!session_.level()) return;
    contrast_.setOn(on, pages_.level());
    redraw(camera_.area());
    update();
    emit readingChanged();
}

void LevelView::setHeat(bool on) {
    heat_ = on;
    update();
}

void LevelView::setAfar(bool on) {
    if (on == afar() || pages_.empty()) return;
    if (!on) {
        const auto [zoom, middle] = *std::exchange(afar_, std::nullopt);
        return setCamera(zoom, middle);
    }
    const auto now = std::pair(zoom(), centre());
    fit();
    setCamera(std::min(zoom(), now.first) / 2, centre());
    afar_ = now;
}

// From straw to vermilion: one that is seen once more nearby, and one in a heap of its like.
void LevelView::paintHeat(QPainter& p) {
    const level::Level& level = pages_.level();
    const int at = level.index_of(session_.activeLayerId());
    if (at < 0 || !level.layers[static_cast<std::size_t>(at)]->has_props()) return;
    p.save();
    p.setClipRect(camera_.area());
    p.setRenderHint(QPainter::Antialiasing);
    for (const plant::Lively::Heat& h :
         session_.derived().lively(level, level.layers[static_cast<std::size_t>(at)]).heat) {
        const QPointF middle = camera_.onScreen(h.middle);
        const double r = std::max(3.0, h.radius * zoom() * 0.8);
        if (!QRectF(camera_.area()).adjusted(-r, -r, r, r).contains(middle)) continue;
        const QColor from(0xF2, 0xC8, 0x4B), to(0xC2, 0x35, 0x1D);
        const auto part = [&](int a, int b) { return static_cast<int>(a + (b - a) * h.hot); };
        p.setPen(QPen(QColor(0x22, 0x1C, 0x12, 150), 1));
        p.setBrush(QColor(part(from.red(), to.red()), part(from.green(), to.green()), part(from.blue(), to.blue()),
                          90 + static_cast<int>(110 * h.hot)));
        p.drawEllipse(middle, r, r);
    }
    p.restore();
}

QString LevelView::contrastThere() const {
    return place_ && camera_.area().contains(place_->toPoint()) ? contrast_.reading(camera_.pixelAt(*place_))
                                                                : QString();
}

QString LevelView::honestyThere() const {
    const auto cell = pointedCell();
    const level::Level* level = session_.level();
    if (!honesty_ || !cell || !level) return {};
    const level::TileTable tiles(session_.project());
    const Point pixel = grain().box({cell->x, cell->y, 1, 1}).corner();
    // The frontmost first.
    for (auto it = level->layers.rbegin(); it != level->layers.rend(); ++it) {
        const level::Layer& layer = **it;
        if (!layer.tiles() || !layer.shown) continue;
        const Lattice own = level->lattice_of(layer);
        const Point at = own.cell_at(pixel);
        if (!layer.cells().contains(at) || layer.grid().cell(at).tile() == 0) continue;
        const level::TileRef ref = tiles.find(layer.grid().cell(at).tile());
        const sheet::Honest honest = honestOf(ref, own);
        if (honest.is) continue;
        const Size place = level::picture_size(*ref.tile, own);
        const int art = ref.tile->box.w / ref.sheet->cut.scale;
        return honest.below.empty()
                   ? tr("%1 px of art in %2 px: whole at %3 px").arg(art).arg(place.w).arg(honest.above.w)
                   : tr("%1 px of art in %2 px: whole at %3 or %4 px")
                         .arg(art)
                         .arg(place.w)
                         .arg(honest.below.w)
                         .arg(honest.above.w);
    }
    return {};
}

} // namespace vic::app
