#include "app/view/soak_lens.hpp"

#include <QColor>
#include <QImage>
#include <QLineF>
#include <QLocale>
#include <QPainter>
#include <QPen>
#include <QRectF>
#include <QStringList>
#include <QTransform>
#include <algorithm>
#include <cmath>
#include <cstdint>
#include <exception>
#include <limits>
#include <map>
#include <utility>

#include "app/parts/camera.hpp"
#include "app/parts/glyphs.hpp"
#include "app/parts/thumbs.hpp"
#include "app/parts/tokens.hpp"
#include "app/parts/translated.hpp"
#include "app/session/jobs.hpp"
#include "app/session/kit_bodies.hpp"
#include "app/session/session.hpp"
#include "level/project.hpp"
#include "level/standing.hpp"
#include "scene/scene.hpp"

namespace vic::app {

namespace {

const char* const kJob = "soak";
constexpr std::int64_t kAtOnce = 160 * 160; // cells of a level that is soaked while one paints

// The line over which one gets out, in 1/64 cells.
std::pair<Point, Point> line_of(const walk::Soaked::OpenRim& rim, Size cells) {
    const int right = cells.w * outline::kUnit, bottom = cells.h * outline::kUnit;
    switch (rim.side) {
        case 0:
            return {{rim.from, 0}, {rim.to, 0}};
        case 1:
            return {{right, rim.from}, {right, rim.to}};
        case 2:
            return {{rim.from, bottom}, {rim.to, bottom}};
        default:
            return {{0, rim.from}, {0, rim.to}};
    }
}

QString onSide(int side) {
    switch (side) {
        case 0:
            return SoakLens::tr("in the north");
        case 1:
            return SoakLens::tr("in the east");
        case 2:
            return SoakLens::tr("in the south");
        default:
            return SoakLens::tr("in the west");
    }
}

// Between two heights of a storey: of several places over one another any that is wet counts.
upright::Wet wetBetween(const SoakLens::Floors& floors, std::pair<int, int> heights, Point sample) {
    const upright::Ground& ground = *floors.of->survey->ground;
    upright::Wet out = upright::Wet::dry;
    const auto [first, last] = ground.column(sample);
    for (std::size_t i = first; i < last; ++i) {
        const int height = ground.places()[i].height;
        if (height < heights.first || height >= heights.second) continue;
        if (floors.soaked.at(i) && out != upright::Wet::reached) out = floors.soaked.wet[i];
    }
    return out;
}

QString inCells(int units) { return QLocale().toString(double(units) / outline::kUnit, 'f', 2); }

} // namespace

SoakLens::SoakLens(Session& session) : session_(session) {
    const auto again = [this] {
        if (on() && session_.level()) follow(*session_.level(), true);
    };
    connect(&session_.mass(), &MergedMass::changed, this, again);
    connect(&session_.bodies(), &KitBodies::changed, this, again);
}

void SoakLens::pour(std::optional<Point> from, const level::Level& level) {
    from_ = from;
    asked_ = from.has_value();
    ++turn_;
    floors_.reset();
    if (from_) {
        const level::Mark* start = level.first_mark(level::MarkKind::start);
        const level::Layer* active = session_.activeLayer();
        const int storey = start && *from_ == walk::start_of(level) ? start->storey : active ? active->storey : 0;
        pouredOn_ = static_cast<int>(
            std::lround(scene::Storeys(session_.bodies().all(), level.storey_heights).low(storey) * outline::kUnit));
        return follow(level, true);
    }
    session_.jobs().stop(kJob);
    soaked_ = {};
    of_ = {};
    emit soakedAnew(true);
}

bool SoakLens::hasPieces() {
    const Pieces now{session_.levelRef(), session_.bodies().all()};
    if (now == piecesOf_) return pieces_;
    piecesOf_ = now;
    pieces_ = now.level && !now.kits.empty() &&
              !scene::placed_in(session_.project(), *now.level, now.kits, level::kMostStorey).empty();
    return pieces_;
}

void SoakLens::takeFloors() {
    const auto mass = session_.mass().surveyed(session_.bodies().all());
    if (!mass || (floors_ && floors_->of == mass && floors_->from == from_)) return;
    const upright::Ground& ground = *mass->survey->ground;
    ++turn_;
    floors_ = Floors{mass, from_, upright::soak(ground, ground.near(*from_, pouredOn_))};
    tell(true);
}

std::pair<int, int> SoakLens::heights() const {
    const level::Level* level = session_.level();
    const level::Layer* active = session_.activeLayer();
    const int storey = active ? active->storey : 0;
    const scene::Storeys all(session_.bodies().all(), level ? level->storey_heights : std::map<int, int>{});
    const auto low = [&](int of) { return static_cast<int>(std::lround(all.low(of) * outline::kUnit)); };
    return {storey == 0 ? std::numeric_limits<int>::min() : low(storey) - 1, low(storey + 1) - 1};
}

upright::Wet SoakLens::wetAt(Point sample) const { return wetBetween(*floors_, heights(), sample); }

void SoakLens::follow(const level::Level& level, bool settled) {
    if (!on()) return;
    if (hasPieces()) {
        soaked_ = {};
        of_ = {};
        return takeFloors();
    }
    floors_.reset();
    const level::Project& project = session_.project();
    const bool atOnce = level.size.area() <= kAtOnce;
    if (!atOnce && !settled) return;
    Of of{from_,       level.layers, project.sheets, project.prop_kinds, level.walker,
          level.sides, level.here,   level.size,     level.cell};
    if (of == of_) return;
    of_ = std::move(of);
    if (atOnce) return take(walk::soak(level, {tilesOf(project, level), propKindsOf(project, level)}, *from_), settled);
    session_.jobs().start<walk::Soaked>(
        kJob, tr("Soaking the level"),
        [state = session_.document().state(), level, from = *from_](Jobs::Progress&) {
            const level::TileTable tiles(*state, level);
            const level::PropKinds kinds(*state, level);
            return walk::soak(level, {tiles, kinds}, from);
        },
        [this](walk::Soaked& soaked) { take(std::move(soaked), true); },
        [this](const std::exception& e) { emit session_.said(translated(e), true); });
}

void SoakLens::take(walk::Soaked soaked, bool settled) {
    soaked_ = std::move(soaked);
    ++turn_;
    wetCells_ = soaked_.cells().count();
    tell(settled);
}

void SoakLens::tell(bool settled) {
    emit soakedAnew(settled);
    if (settled) asked_ = false;
}

void SoakLens::paintWet(QPainter& p, const Camera& camera, const Lattice& lattice) const {
    const upright::Ground* const ground = floors_ ? floors_->of->survey->ground.get() : nullptr;
    const int g = ground ? outline::kUnit / ground->side() : soaked_.grain;
    const QTransform cells = camera.cellsToScreen(lattice);
    const QRectF view = cells.inverted().mapRect(QRectF(camera.area())); // in cells
    const Box seen = intersection(
        spanning({static_cast<int>(std::floor(view.left() * g)), static_cast<int>(std::floor(view.top() * g))},
                 {static_cast<int>(std::ceil(view.right() * g)), static_cast<int>(std::ceil(view.bottom() * g))}),
        box_of(ground ? ground->samples() : soaked_.samples));
    if (seen.empty()) return;
    // No more samples than there are pixels.
    const int step = std::max(1, static_cast<int>(1 / std::max(1e-6, std::sqrt(std::abs(cells.determinant())) / g)));
    QImage image((seen.w + step - 1) / step, (seen.h + step - 1) / step, QImage::Format_ARGB32_Premultiplied);
    const auto ink = [](QColor wet) {
        wet.setAlpha(118);
        return qPremultiply(wet.rgba());
    };
    const std::pair<int, int> between = ground ? heights() : std::pair(0, 0); // once for all samples
    const QRgb wet = ink(paper().brine), lost = ink(paper().vermilion);
    for (int y = 0; y < image.height(); ++y) {
        auto* row = reinterpret_cast<QRgb*>(image.scanLine(y));
        for (int x = 0; x < image.width(); ++x) {
            const Point sample{seen.x + x * step, seen.y + y * step};
            const upright::Wet is = ground               ? wetBetween(*floors_, between, sample)
                                    : soaked_.at(sample) ? upright::Wet::reached
                                                         : upright::Wet::dry;
            row[x] = is == upright::Wet::dry ? 0 : is == upright::Wet::reached ? wet : lost;
        }
    }
    p.save();
    p.setClipRect(camera.area());
    p.setTransform(QTransform::fromScale(1.0 / g, 1.0 / g) * cells, true);
    p.drawImage(QRectF(seen.x, seen.y, image.width() * step, image.height() * step), image);
    p.restore();
}

void SoakLens::paintFrom(QPainter& p, const QTransform& units) const {
    p.setPen(QPen(paper().card, 2));
    p.setBrush(paper().brine);
    p.drawEllipse(units.map(QPointF(from_->x, from_->y)), 6, 6);
}

void SoakLens::paint(QPainter& p, const Camera& camera, const Lattice& lattice) const {
    if (!on() || (soaked_.grain == 0 && !floors_)) return;
    paintWet(p, camera, lattice);
    const QTransform cells = camera.cellsToScreen(lattice);
    p.save();
    p.setClipRect(camera.area());
    p.setRenderHint(QPainter::Antialiasing);
    const QTransform units = QTransform::fromScale(1.0 / outline::kUnit, 1.0 / outline::kUnit) * cells;
    const QColor red = paper().vermilion, card = paper().card;
    for (const auto& rim : soaked_.rims) {
        const auto [a, b] = line_of(rim, of_.size);
        const QLineF line(units.map(QPointF(a.x, a.y)), units.map(QPointF(b.x, b.y)));
        p.setPen(QPen(card, 7, Qt::SolidLine, Qt::FlatCap));
        p.drawLine(line);
        p.setPen(QPen(red, 4, Qt::SolidLine, Qt::FlatCap));
        p.drawLine(line);
    }
    for (const auto& narrow : soaked_.narrow) {
        const QRectF place = units.mapRect(QRectF(narrow.place.x, narrow.place.y, narrow.place.w, narrow.place.h));
        if (!place.intersects(QRectF(camera.area()))) continue;
        const QRectF ring = place.adjusted(-5, -5, 5, 5);
        p.setBrush(Qt::NoBrush);
        p.setPen(QPen(card, 5));
        p.drawRoundedRect(ring, 6, 6);
        p.setPen(QPen(red, 2.5));
        p.drawRoundedRect(ring, 6, 6);
        if (lattice.cell.w * camera.zoom() >= 12)
            paintTag(p, ring.topRight() + QPointF(4, -2), tr("%1 cells wide").arg(inCells(narrow.width)), red, card);
    }
    const QColor mark = paper().ink;
    for (const auto& dead : soaked_.dead_ends) {
        const QRectF end = cells.mapRect(QRectF(dead.end.x, dead.end.y, 1, 1));
        if (!end.intersects(QRectF(camera.area()))) continue;
        const double r = std::clamp(end.width() / 4, 3.0, 9.0);
        p.setPen(QPen(card, 4));
        p.setBrush(Qt::NoBrush);
        p.drawRect(QRectF(end.center() - QPointF(r, r), QSizeF(2 * r, 2 * r)));
        p.setPen(QPen(mark, 1.5));
        p.drawRect(QRectF(end.center() - QPointF(r, r), QSizeF(2 * r, 2 * r)));
        p.drawLine(end.center() - QPointF(r, r), end.center() + QPointF(r, r));
        p.drawLine(end.center() - QPointF(r, -r), end.center() + QPointF(r, -r));
        if (lattice.cell.w * camera.zoom() >= 12)
            paintTag(p, end.center() + QPointF(r + 4, -r), tr("dead end, %1 cells").arg(dead.length), mark, card);
    }
    paintFrom(p, units);
    p.restore();
}

QString SoakLens::reading(Point at) const {
    if (!on()) return {};
    if (floors_) {
        const int side = floors_->of->survey->ground->side();
        const upright::Wet wet = wetAt({floor_div(at.x, side), floor_div(at.y, side)});
        return wet == upright::Wet::reached ? tr("Wet: one gets here")
               : wet == upright::Wet::dry   ? tr("Dry: one does not get here")
                                            : tr("Wet: one gets here, and not back");
    }
    if (soaked_.grain == 0) return {};
    for (const auto& narrow : soaked_.narrow)
        if (narrow.place.grown(outline::kUnit / 4).contains(at))
            return tr("One gets through here, where it is <b>%1 cells</b> wide").arg(inCells(narrow.width));
    for (const auto& rim : soaked_.rims) {
        const auto [a, b] = line_of(rim, of_.size);
        if (spanning(a, b).grown(outline::kUnit).contains(at))
            return tr("One gets out here, %1, and nothing leads on").arg(onSide(rim.side));
    }
    const Point cell{floor_div(at.x, outline::kUnit), floor_div(at.y, outline::kUnit)};
    for (const auto& dead : soaked_.dead_ends)
        if (dead.cells.contains(cell))
            return tr("Wet, in a dead end: one goes <b>%1 cells</b>, and nothing is there").arg(dead.length);
    const int side = outline::kUnit / soaked_.grain;
    return soaked_.at({floor_div(at.x, side), floor_div(at.y, side)}) ? tr("Wet: one gets here")
                                                                      : tr("Dry: one does not get here");
}

QString SoakLens::summary() const {
    if (floors_) {
        const upright::Survey& survey = *floors_->of->survey;
        if (!floors_->soaked.from) return tr("There is no room for the walker to stand");
        const auto wet = std::count_if(floors_->soaked.wet.begin(), floors_->soaked.wet.end(),
                                       [](upright::Wet w) { return w != upright::Wet::dry; });
        const double side = survey.ground->side() * survey.metres / outline::kUnit;
        return tr("%1 m² of floors are wet; red: no way back from there")
            .arg(QLocale().toString(std::lround(static_cast<double>(wet) * side * side)));
    }
    if (soaked_.shut_in) return tr("There is no room for the walker here: all stays dry");
    const QLocale locale;
    QStringList out{tr("%1 cells are wet").arg(locale.toString(wetCells_))};
    std::vector<int> sides;
    for (const auto& rim : soaked_.rims)
        if (sides.empty() || sides.back() != rim.side) sides.push_back(rim.side);
    QStringList names;
    for (const int side : sides) names << onSide(side);
    if (!names.isEmpty()) out << tr("it runs out %1").arg(names.join(", "));
    if (!soaked_.narrow.empty())
        out << (soaked_.narrow.size() == 1 ? tr("through a narrow place, %1 cells wide")
                                           : tr("through %2 narrow places, the narrowest %1 cells wide"))
                   .arg(inCells(soaked_.narrow.front().width))
                   .arg(soaked_.narrow.size());
    if (!soaked_.dead_ends.empty())
        out << (soaked_.dead_ends.size() == 1 ? tr("a dead end") : tr("%1 dead ends").arg(soaked_.dead_ends.size()));
    if (names.isEmpty() && soaked_.narrow.empty()) out << tr("it leaks nowhere");
    return out.join(" · ");
}

} // namespace vic::app
