#include "app/view/reach_lens.hpp"

#include <QColor>
#include <QLineF>
#include <QLocale>
#include <QPainter>
#include <QPainterPath>
#include <QPen>
#include <QRectF>
#include <QTransform>
#include <algorithm>
#include <array>
#include <exception>
#include <utility>

#include "app/parts/camera.hpp"
#include "app/parts/glyphs.hpp"
#include "app/parts/tokens.hpp"
#include "app/parts/translated.hpp"
#include "app/session/jobs.hpp"
#include "app/session/session.hpp"
#include "findings/leaks.hpp"
#include "outline/solid.hpp"

namespace vic::app {

namespace {

using outline::kUnit;
using walk::Gets;

const char* const kReachJob = "reach";
constexpr std::int64_t kReachedAtOnce = 96 * 64; // cells of a level that is looked at while one paints
constexpr int kBand = kUnit * 3 / 4;             // how high the band over a surface is, 1/64 cells

QColor with_alpha(QColor colour, int alpha) {
    colour.setAlpha(alpha);
    return colour;
}

} // namespace

void ReachLens::setOn(bool on, const level::Level& level) {
    on_ = on && level.view == level::View::from_the_side;
    if (on_) return follow(level, true);
    session_.jobs().stop(kReachJob);
    of_ = {};
    ghost_.clear();
    moved_.clear();
    take(nullptr);
}

void ReachLens::follow(const level::Level& level, bool settled) {
    if (!on_) return;
    if (level.view != level::View::from_the_side) return setOn(false, level);
    const level::Project& project = session_.project();
    const bool atOnce = level.size.area() <= kReachedAtOnce;
    Of of{level.layers, level.marks, project.sheets, project.prop_kinds, project.area_kinds,
          level.walker, level.sides, level.here,     level.size};
    if (of == of_) return;
    if (followed(of, level)) {
        of_ = std::move(of);
        return take(reach_);
    }
    if (!atOnce && !settled) return;
    of_ = std::move(of);
    at_ = level;
    if (atOnce) return take(std::make_shared<walk::Reach>(project, level));
    session_.jobs().start<std::shared_ptr<walk::Reach>>(
        kReachJob, tr("Looking where the walker gets to"),
        [state = session_.document().state(), level](Jobs::Progress&) {
            return std::make_shared<walk::Reach>(*state, level);
        },
        [this](std::shared_ptr<walk::Reach>& reach) { take(std::move(reach)); },
        [this](const std::exception& e) {
            take(nullptr); // what is known is not of this level
            emit session_.said(translated(e), true);
        });
}

// Whether what is known could follow a change of cells; then it has.
bool ReachLens::followed(const Of& of, const level::Level& level) {
    if (!reach_ || session_.jobs().running(kReachJob)) return false;
    Of before = of_;
    before.layers = of.layers;
    if (!(before == of)) return false;
    const auto difference = level::difference(at_, level, session_.project());
    if (difference.everything || !reach_->follow(session_.project(), level, difference.cells)) return false;
    at_ = level;
    return true;
}

void ReachLens::take(std::shared_ptr<walk::Reach> reach) {
    reach_ = std::move(reach);
    ledge_.reset();
    halo_.clear();
    point(std::exchange(pointed_, std::nullopt));
    emit reachedAnew();
}

void ReachLens::point(std::optional<Point> place) {
    pointed_ = place;
    const auto ledge = reach_ && place ? reach_->ledge_under(*place) : std::nullopt;
    if (ledge == ledge_) return;
    ledge_ = ledge;
    halo_ = ledge_ ? reach_->landings(*ledge_) : std::vector<walk::Strip>{};
}

void ReachLens::setGhost(std::vector<Point> filled, std::vector<Point> moved) {
    ghost_ = std::move(filled);
    moved_ = std::move(moved);
}

void ReachLens::paintStrips(QPainter& p, const Camera& camera, const Lattice& lattice) const {
    const QTransform units = QTransform::fromScale(1.0 / kUnit, 1.0 / kUnit) * camera.cellsToScreen(lattice);
    std::array<QPainterPath, 3> bands, tops;
    for (QPainterPath& b : bands) b.setFillRule(Qt::WindingFill);
    std::vector<QRectF> crossed;
    const QRectF area(camera.area());
    for (const walk::Strip& s : reach_->strips()) {
        const bool flat = s.to - s.from > kUnit / 4; // the steps of slopes are as wide as their samples
        const int left = s.from - (flat ? 0 : 3), right = s.to + (flat ? 0 : 3);
        const QRectF band = units.mapRect(QRectF(left, s.y - kBand, right - left, kBand));
        if (!band.intersects(area)) continue;
        const auto gets = static_cast<std::size_t>(reach_->ledges()[s.ledge].gets);
        bands[gets].addRect(band);
        tops[gets].moveTo(band.bottomLeft());
        tops[gets].lineTo(band.bottomRight());
        if (reach_->ledges()[s.ledge].gets == Gets::not_reached && flat) crossed.push_back(band);
    }
    const QColor inks[3] = {paper().brine, paper().ochre, paper().ochre};
    for (std::size_t i = 0; i < 3; ++i) {
        p.fillPath(bands[i], with_alpha(inks[i], 96));
        p.setPen(QPen(inks[i], 3, Qt::SolidLine, Qt::FlatCap));
        p.drawPath(tops[i]);
    }
    const double cell = lattice.cell.w * camera.zoom();
    if (cell < 8) return;
    p.setPen(QPen(paper().ochre, 1.6));
    for (const QRectF& band : crossed) {
        const int count = std::max(1, static_cast<int>(band.width() / cell));
        const double d = std::min(4.0, cell / 5);
        for (int i = 0; i < count; ++i) {
            const QPointF at(band.left() + (i + 0.5) * band.width() / count, band.center().y());
            p.drawLine(at + QPointF(-d, -d), at + QPointF(d, d));
            p.drawLine(at + QPointF(-d, d), at + QPointF(d, -d));
        }
    }
}

// Where he lands in one go, and from which ledge.
void ReachLens::paintHalo(QPainter& p, const Camera& camera, const Lattice& lattice) const {
    if (!ledge_) return;
    const QTransform units = QTransform::fromScale(1.0 / kUnit, 1.0 / kUnit) * camera.cellsToScreen(lattice);
    const auto lines = [&](const std::vector<walk::Strip>& strips, const QColor& colour, double width) {
        QPainterPath path;
        for (const walk::Strip& s : strips) {
            path.moveTo(units.map(QPointF(s.from - 4, s.y)));
            path.lineTo(units.map(QPointF(s.to + 4, s.y)));
        }
        p.setPen(QPen(paper().card, width + 3, Qt::SolidLine, Qt::RoundCap));
        p.drawPath(path);
        p.setPen(QPen(colour, width, Qt::SolidLine, Qt::RoundCap));
        p.drawPath(path);
    };
    lines(halo_, paper().brine, 5);
    std::vector<walk::Strip> mine;
    for (const walk::Strip& s : reach_->strips())
        if (s.ledge == *ledge_) mine.push_back(s);
    lines(mine, paper().ink, 2);
    const walk::Ledge& ledge = reach_->ledges()[*ledge_];
    if (ledge.gets != Gets::not_reached || mine.empty()) return;
    if (const auto lack = reach_->lack_of(*ledge_))
        paintTag(p, units.map(QPointF(mine.front().from, mine.front().y)) + QPointF(0, -34),
                 translated(findings::lack_text(*lack)), paper().ochre, paper().card);
}

void ReachLens::paint(QPainter& p, const Camera& camera, const Lattice& lattice) const {
    if (!on_ || !reach_) return;
    p.save();
    p.setClipRect(camera.area());
    p.setRenderHint(QPainter::Antialiasing);
    paintStrips(p, camera, lattice);
    paintHalo(p, camera, lattice);
    const auto paintGhost = [&](const QPainterPath& path, const QBrush& brush) {
        p.setBrush(brush);
        p.setPen(QPen(paper().card, 4));
        p.drawPath(path);
        p.setPen(QPen(paper().brine, 2, Qt::DashLine));
        p.drawPath(path);
    };
    const auto pathOf = [&](const std::vector<Point>& cells) {
        QPainterPath path;
        for (const Point c : cells) {
            QPainterPath one;
            // A little into its neighbours, so that no line stays between them.
            one.addRect(camera.cellsToScreen(lattice).mapRect(QRectF(c.x, c.y, 1, 1)).adjusted(-0.1, -0.1, 0.1, 0.1));
            path = path.united(one);
        }
        return path;
    };
    if (!moved_.empty()) paintGhost(pathOf(moved_), Qt::NoBrush);
    if (!ghost_.empty()) paintGhost(pathOf(ghost_), QBrush(with_alpha(paper().brine, 150), Qt::BDiagPattern));
    p.restore();
}

QString ReachLens::reading(Point at) const {
    if (!on_ || !reach_) return {};
    const auto ledge = reach_->ledge_under(at);
    if (!ledge) return tr("Nothing to stand on below");
    const walk::Ledge& l = reach_->ledges()[*ledge];
    if (l.gets == Gets::not_reached) {
        const auto lack = reach_->lack_of(*ledge);
        return lack ? tr("<b>Out of reach</b>: %1").arg(translated(findings::lack_text(*lack)))
                    : tr("<b>Out of reach</b>");
    }
    return l.gets == Gets::reached
               ? (l.to.size() == 1
                      ? tr("Reached · one other ledge from here in one go")
                      : tr("Reached · %n other ledges from here in one go", nullptr, static_cast<int>(l.to.size())))
               : tr("Reached, and <b>no way back</b> to the start or on to an exit");
}

QString ReachLens::summary() const {
    if (!reach_) return {};
    if (!reach_->begins()) return tr("There is nothing to stand on at the start");
    const QLocale locale;
    return tr("%1 of %2 cells that one can stand on are reached")
        .arg(locale.toString(static_cast<qlonglong>(reach_->reachable())),
             locale.toString(static_cast<qlonglong>(reach_->standable())));
}

} // namespace vic::app
