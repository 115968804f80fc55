#include "app/bound/save_drawing.hpp"

#include <QBuffer>
#include <QByteArray>
#include <QColor>
#include <QCoreApplication>
#include <QImage>
#include <QPainter>
#include <QPainterPath>
#include <QPen>
#include <string>
#include <vector>

#include "app/parts/glyphs.hpp"
#include "app/parts/thumbs.hpp"
#include "app/session/session.hpp"
#include "base/error.hpp"
#include "base/files.hpp"
#include "level/project.hpp"
#include "outline/svg.hpp"
#include "picture/compose.hpp"

namespace vic::app {

namespace {

constexpr int kMostSide = 16384;

// The level's pixels; what reaches beyond them is cut.
QImage artOf(const level::Project& project, const level::Level& level) {
    const Box box = level.pixels();
    const Box all = picture::extent(project, level);
    const QImage whole = toQImage(picture::render(project, level, 1));
    return whole.copy(box.x - all.x, box.y - all.y, box.w, box.h);
}

QByteArray pngOf(const QImage& image) {
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    image.save(&buffer, "PNG");
    return bytes;
}

void paintSection(QImage& image, const level::Level& level, const std::vector<outline::Outline>& outlines,
                  const std::vector<outline::OneWayEdge>& edges) {
    const Lattice lattice = level.geometry();
    const Box box = level.pixels();
    const auto place = [&](Point units) {
        const Lattice::Pixels p =
            lattice.pixel_of({units.x / double(outline::kUnit), units.y / double(outline::kUnit)});
        return QPointF(p.x - box.x, p.y - box.y);
    };
    QPainterPath path;
    for (const outline::Outline& o : outlines) {
        QPolygonF corners;
        for (const Point c : o.points) corners << place(c);
        path.addPolygon(corners);
        path.closeSubpath();
    }
    path.setFillRule(Qt::OddEvenFill);
    QPainter p(&image);
    p.setRenderHint(QPainter::Antialiasing, !lattice.square());
    const QColor ink("#22302D");
    p.fillPath(path, QColor(ink.red(), ink.green(), ink.blue(), 64));
    p.strokePath(path, QPen(ink, 1));
    p.setPen(QPen(QColor("#C2452D"), 2));
    for (const outline::OneWayEdge& e : edges) p.drawLine(place(e.from), place(e.to));
}

} // namespace

void saveDrawing(Session& session, LevelView::Bounds shown, const QString& file) {
    const level::Project& project = session.project();
    const level::Level& level = *session.level();
    const bool art = shown != LevelView::Bounds::section, section = shown != LevelView::Bounds::art;
    const bool large = level.pixels().w > kMostSide || level.pixels().h > kMostSide;
    const bool drawn = file.endsWith(".svg", Qt::CaseInsensitive);
    if (large && (!drawn || art))
        throw InputError(say("The level is larger than %1 pixels", kMostSide), file.toStdString(), "",
                         "Save what blocks alone, as SVG");
    std::vector<outline::Outline> outlines;
    std::vector<outline::OneWayEdge> edges;
    if (section) {
        const outline::Trace& trace = session.derived().trace(level);
        outlines = outline::outlines(trace);
        edges = outline::one_way_edges(trace);
    }
    QImage picture;
    if (art) {
        picture = artOf(project, level).convertToFormat(QImage::Format_ARGB32_Premultiplied);
    } else if (!drawn) {
        picture = QImage(level.pixels().w, level.pixels().h, QImage::Format_ARGB32_Premultiplied);
        picture.fill(Qt::white);
    }
    if (drawn) {
        const std::string under =
            art ? "data:image/png;base64," + pngOf(picture).toBase64().toStdString() : std::string();
        write_file(file.toStdString(), outline::svg(level, outlines, edges, under));
        return;
    }
    if (section) paintSection(picture, level, outlines, edges);
    write_file(file.toStdString(), pngOf(picture).toStdString());
}

} // namespace vic::app
