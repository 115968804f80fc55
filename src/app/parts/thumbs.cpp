#include "app/parts/thumbs.hpp"

#include <QImage>
#include <QPainter>
#include <QPoint>
#include <QPointF>
#include <QRect>
#include <QRectF>
#include <QSizeF>
#include <QTransform>
#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <map>
#include <memory>
#include <vector>

#include "app/parts/glyphs.hpp"
#include "base/image.hpp"
#include "base/lattice.hpp"
#include "base/match.hpp"
#include "join/mask.hpp"
#include "join/resolve.hpp"
#include "level/level.hpp"
#include "level/material.hpp"
#include "level/project.hpp"
#include "level/sheet.hpp"
#include "level/stamp.hpp"
#include "picture/art.hpp"
#include "picture/compose.hpp"
#include "sheet/cut.hpp"
#include "sheet/isometric.hpp"

namespace vic::app {

namespace {

// Whether a sheet is drawn aslant; looked at once for as long as the project has it.
bool drawnIsometric(const level::Project& project, const level::Sheet* sheet) {
    static std::vector<std::shared_ptr<const level::Sheet>> of;
    static std::map<const level::Sheet*, bool> known;
    if (of != project.sheets) {
        of = project.sheets;
        known.clear();
    }
    const auto [found, fresh] = known.try_emplace(sheet, false);
    if (fresh && sheet) found->second = sheet::is_isometric(*sheet);
    return found->second;
}

QImage artOf(const level::Project& project, level::TileId id, Turn turn = {}) {
    const auto ref = tilesOf(project).find(id);
    QImage art = ref.tile && ref.sheet->image ? toQImage(sheet::tile_art(*ref.sheet, *ref.tile)) : QImage();
    if (turn.code != 0 && !art.isNull()) {
        QTransform transform;
        // Aslant there is no other side to show, only left and right.
        if (!drawnIsometric(project, ref.sheet)) transform.rotate(90 * turn.quarters());
        if (turn.mirrored()) transform.scale(-1, 1);
        art = art.transformed(transform);
    }
    return art;
}

// As large as it fits by whole steps, in the middle.
QPixmap framed(const QImage& art, int side) {
    QPixmap out(side, side);
    out.fill(Qt::transparent);
    if (art.isNull()) return out;
    const double room = std::min(double(side) / art.width(), double(side) / art.height());
    const double scale = room >= 1 ? std::floor(room) : room;
    QPainter p(&out);
    p.setRenderHint(QPainter::SmoothPixmapTransform, room < 1);
    const QSizeF size(art.width() * scale, art.height() * scale);
    p.drawImage(QRectF(QPointF(std::floor((side - size.width()) / 2), std::floor((side - size.height()) / 2)), size),
                art);
    return out;
}

} // namespace

const level::TileTable& tilesOf(const level::Project& project) {
    static std::vector<std::shared_ptr<const level::Sheet>> of; // keeps what the table points into
    static level::TileTable table;
    if (of != project.sheets) {
        of = project.sheets;
        table = level::TileTable(project);
    }
    return table;
}

const level::PropKinds& propKindsOf(const level::Project& project) {
    static std::vector<std::shared_ptr<const level::PropKind>> of; // keeps what the table points into
    static level::PropKinds kinds;
    if (of != project.prop_kinds) {
        of = project.prop_kinds;
        kinds = level::PropKinds(project);
    }
    return kinds;
}

const level::TileTable& tilesOf(const level::Project& project, const level::Level& level) {
    if (level.here.tiles.empty()) return tilesOf(project);
    static std::vector<std::shared_ptr<const level::Sheet>> of;
    static std::map<level::TileId, level::PartHere> here;
    static level::TileTable table;
    if (of != project.sheets || here != level.here.tiles) {
        of = project.sheets;
        here = level.here.tiles;
        table = level::TileTable(project, level);
    }
    return table;
}

const level::PropKinds& propKindsOf(const level::Project& project, const level::Level& level) {
    if (level.here.props.empty()) return propKindsOf(project);
    static std::vector<std::shared_ptr<const level::PropKind>> of;
    static std::map<level::PropKindId, level::PartHere> here;
    static level::PropKinds kinds;
    if (of != project.prop_kinds || here != level.here.props) {
        of = project.prop_kinds;
        here = level.here.props;
        kinds = level::PropKinds(project, level);
    }
    return kinds;
}

QPixmap sheetThumb(const level::Sheet& sheet, int side) {
    QPixmap out(side, side);
    out.fill(Qt::transparent);
    if (!sheet.image) return out;
    // The upper left part at full size says more than the whole made tiny.
    const Image part = cropped(*sheet.image, intersection({0, 0, side, side}, box_of(sheet.image->size())));
    QPainter p(&out);
    p.drawImage(0, 0, toQImage(part));
    return out;
}

QPixmap tileThumb(const level::Project& project, level::TileId tile, int side, Turn turn) {
    return framed(artOf(project, tile, turn), side);
}

QPixmap materialThumb(const level::Project& project, const level::Material& material, int side) {
    const join::Rules rules(project);
    // Three by three cells from the corner inwards.
    constexpr int kCells = 3;
    QImage art;
    Lattice lattice;
    Point corner;
    for (int i = 0; i < kCells * kCells; ++i) {
        const int x = i % kCells;
        const int y = i / kCells;
        join::Mask mask = 255;
        if (x == 0) mask &= static_cast<join::Mask>(~(join::kSW | join::kW | join::kNW));
        if (y == 0) mask &= static_cast<join::Mask>(~(join::kNW | join::kN | join::kNE));
        const level::Cell cell = rules.choose(material.id, mask, x, y, 3);
        const QImage tile = artOf(project, cell.tile(), cell.turn());
        if (tile.isNull()) continue;
        if (art.isNull()) {
            // Diamonds are half as high as wide; what stands up reaches above them.
            const bool isometric = drawnIsometric(project, tilesOf(project).find(cell.tile()).sheet);
            lattice = isometric
                          ? Lattice{LatticeKind::isometric, {tile.width(), std::min(tile.height(), tile.width() / 2)}}
                          : Lattice{LatticeKind::square, {tile.width(), tile.height()}};
            const Box all = lattice.box({0, 0, kCells, kCells});
            const int above = tile.height() - lattice.cell.h;
            corner = {-all.x, -all.y + above};
            art = QImage(all.w, all.h + above, QImage::Format_ARGB32);
            art.fill(Qt::transparent);
        }
        QPainter p(&art);
        const Point at = lattice.corner({x, y}) + corner;
        p.drawImage(at.x, at.y + lattice.cell.h - tile.height(), tile);
    }
    return framed(art, side);
}

namespace {

// Kept between pictures; for the window's thread alone.
picture::Art& artFor(const level::Project& project) {
    static picture::Art art;
    art.update(project);
    return art;
}

} // namespace

QPixmap propThumb(const level::Project& project, const level::PropKind& kind, int side, const level::Look& look) {
    const bool plain = look == level::Look{} && !kind.is_ensemble();
    const level::Sheet* s = project.sheet(kind.sheet);
    if (plain) return framed(s && s->image ? toQImage(cropped(*s->image, kind.box)) : QImage(), side);
    return framed(toQImage(picture::prop_picture(project, artFor(project), {1, kind.id, {}, look})), side);
}

namespace {

QImage drawn(const level::Project& project, const level::Level& level, const Box& pixels) {
    picture::Art& art = artFor(project);
    picture::Canvas canvas(pixels);
    picture::draw(project, level, art, canvas, pixels);
    QImage out(pixels.w, pixels.h, QImage::Format_RGB32);
    for (int y = 0; y < pixels.h; ++y)
        std::copy_n(&canvas.pixels[static_cast<std::size_t>(y) * static_cast<std::size_t>(pixels.w)], pixels.w,
                    reinterpret_cast<std::uint32_t*>(out.scanLine(y)));
    return out;
}

} // namespace

QPixmap levelThumb(const level::Project& project, const level::Level& level, const Box& cells, QSize size) {
    constexpr int kMost = 28; // cells a side that are still told apart
    Box box = intersection(cells.grown(1), level.cells());
    if (box.empty()) return {};
    // As wide as the picture is.
    const auto fitted = [&](int have, int want, int all) { return std::clamp(want, std::min(have, all), all); };
    const double ratio = double(size.width()) / size.height();
    Size wanted{std::min(box.w, kMost), std::min(box.h, kMost)};
    wanted.w = fitted(wanted.w, static_cast<int>(std::lround(wanted.h * ratio)), level.size.w);
    wanted.h = fitted(wanted.h, static_cast<int>(std::lround(wanted.w / ratio)), level.size.h);
    const auto corner = [](int from, int have, int want, int all) {
        return std::clamp(from + (have - want) / 2, 0, all - want);
    };
    box = {corner(box.x, box.w, wanted.w, level.size.w), corner(box.y, box.h, wanted.h, level.size.h), wanted.w,
           wanted.h};
    const QImage art = drawn(project, level, level.geometry().box(box));
    return QPixmap::fromImage(
        art.scaled(size, Qt::KeepAspectRatioByExpanding, Qt::SmoothTransformation).copy(QRect(QPoint(0, 0), size)));
}

QPixmap stepThumb(const level::Project* before, const level::Project& after, const std::string& id, QSize size) {
    const level::Level* level = after.level(id);
    const level::Level* was = before ? before->level(id) : nullptr;
    if (before)
        for (const auto& l : after.levels)
            if (before->level(l->id) != l.get()) {
                level = l.get();
                was = before->level(l->id);
                break;
            }
    if (!level) return {};
    Box cells;
    if (was && was != level)
        for (const Box& box : level::difference(*was, *level, after).cells) cells = united(cells, box);
    if (cells.empty()) cells = {level->size.w / 2 - 8, level->size.h / 2 - 5, 16, 10};
    return levelThumb(after, *level, intersection(cells, level->cells()), size);
}

QPixmap stampThumb(const level::Project& project, const level::Stamp& stamp, int side) {
    level::Level level;
    level.size = stamp.size;
    level.cell = stamp.cell;
    level.lattice = stamp.lattice;
    level.ground = {190, 180, 160, 255};
    level::LayerId id = 0;
    level::PropId prop = 0;
    for (const level::StampLayer& from : stamp.layers) {
        const auto slab = std::make_shared<level::Layer>();
        slab->id = ++id;
        slab->content = match(
            from.content,
            [](const level::StampTiles& tiles) -> level::LayerContent {
                return level::TileCells{tiles.grid, false, tiles.grain};
            },
            [](const level::Blockers& blockers) -> level::LayerContent { return blockers; },
            [](const level::Facts& facts) -> level::LayerContent { return facts; },
            [&](const level::StampProps& taken) -> level::LayerContent {
                level::PlacedProps placed;
                for (level::Prop p : taken.props) {
                    p.id = ++prop; // a stamp's have none
                    placed.props.put(p);
                }
                return placed;
            });
        level.layers.push_back(slab);
    }
    constexpr int kMost = 24;
    const Size cells{std::min(stamp.size.w, kMost), std::min(stamp.size.h, kMost)};
    Box pixels = level.geometry().box(box_of(cells));
    if (level.lattice != LatticeKind::square)
        pixels = intersection(picture::extent(project, level), {pixels.x, pixels.y - pixels.h, pixels.w, 2 * pixels.h});
    return framed(drawn(project, level, pixels), side);
}

} // namespace vic::app
