#include "app/thumbs.hpp"

#include <QPainter>
#include <cmath>

#include "app/signs.hpp"
#include "join/proof.hpp"
#include "sheet/cut.hpp"

namespace vic::app {

namespace {

QImage artOf(const level::Project& project, level::TileId id, Turn turn = {}) {
    const auto ref = tilesOf(project).find(id);
    QImage art = ref.tile && ref.sheet->image ? toQImage(sheet::tile_art(*ref.sheet, *ref.tile)) : QImage();
    if (turn.code != 0 && !art.isNull()) {
        QTransform transform;
        transform.rotate(90 * turn.quarters());
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
            art = QImage(tile.width() * kCells, tile.height() * kCells, QImage::Format_ARGB32);
            art.fill(Qt::transparent);
        }
        QPainter p(&art);
        p.drawImage(x * tile.width(), y * tile.height(), tile);
    }
    return framed(art, side);
}

QPixmap propThumb(const level::Project& project, const level::PropKind& kind, int side, bool mirrored) {
    const level::Sheet* s = project.sheet(kind.sheet);
    if (!s || !s->image) return framed({}, side);
    return framed(toQImage(cropped(*s->image, kind.box)).mirrored(mirrored, false), side);
}

} // namespace vic::app
