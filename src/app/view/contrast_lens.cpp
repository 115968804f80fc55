#include "app/view/contrast_lens.hpp"

#include <QColor>
#include <QPainter>
#include <QPen>
#include <QRectF>
#include <QStringList>
#include <algorithm>
#include <cstdint>
#include <exception>

#include "app/parts/camera.hpp"
#include "app/parts/tokens.hpp"
#include "app/parts/translated.hpp"
#include "app/session/derived.hpp"
#include "app/session/jobs.hpp"
#include "app/session/session.hpp"
#include "level/project.hpp"

namespace vic::app {

namespace {

const char* const kJob = "contrast";

std::uint32_t grey_of(std::uint32_t p) {
    return (((p >> 16) & 255U) * 54 + ((p >> 8) & 255U) * 183 + (p & 255U) * 19) >> 8;
}

// A colour as bright as the grey: its own darker down to black, or paler up to white.
std::uint32_t as_bright(const QColor& colour, std::uint32_t grey) {
    const auto own = static_cast<std::uint32_t>((colour.red() * 54 + colour.green() * 183 + colour.blue() * 19) >> 8);
    const auto part = [&](int c) {
        const auto v = static_cast<std::uint32_t>(c);
        if (grey <= own) return own == 0 ? 0U : v * grey / own;
        return v + (255 - v) * (grey - own) / (255 - own);
    };
    return 0xFF000000U | (part(colour.red()) << 16) | (part(colour.green()) << 8) | part(colour.blue());
}

struct Shades {
    std::uint32_t of[256];
    explicit Shades(const QColor& colour) {
        for (std::uint32_t i = 0; i < 256; ++i) of[i] = as_bright(colour, i);
    }
};

} // namespace

ContrastLens::ContrastLens(Session& session)
    : session_(session), open_(session.derived().art()), scenery_(session.derived().art()) {}

void ContrastLens::setOn(bool on, const level::Level& level) {
    on_ = on;
    if (on_) {
        show(level);
        return measure(level);
    }
    session_.jobs().stop(kJob);
    doubts_.clear();
    measured_ = {};
}

void ContrastLens::show(const level::Level& level) {
    if (!on_) return;
    const auto& state = session_.document().state();
    open_.show(state, blocking_.of(*state, level), false);
    scenery_.show(state, either_.of(*state, level), false);
}

bool ContrastLens::measuring() const { return session_.jobs().running(kJob); }

void ContrastLens::measure(const level::Level& level) {
    if (!on_) return;
    const auto& project = *session_.document().state();
    const Of of{level.layers, project.sheets, project.prop_kinds, level.here};
    if (of == measured_) return;
    measured_ = of;
    using Doubts = std::vector<picture::Doubt>;
    session_.jobs().start<Doubts>(
        kJob, {},
        [state = session_.document().state(), level](Jobs::Progress&) { return picture::doubts(*state, level); },
        [this](Doubts& found) {
            doubts_ = std::move(found);
            emit measured();
        },
        [this](const std::exception& e) { emit session_.said(translated(e), true); });
}

void ContrastLens::prepare(int small, const Box& pixels) {
    open_.prepare(small, pixels);
    scenery_.prepare(small, pixels);
}

const QImage& ContrastLens::page(Pages& pages, int small, int x, int y, const QRect& wanted) {
    static const Shades grey(QColor(0x80, 0x80, 0x80)), blocks(paper().vermilion), usable(paper().brine);
    if (image_.isNull()) image_ = QImage(Pages::kSide, Pages::kSide, QImage::Format_RGB32);
    const QRect part = wanted.intersected(QRect(0, 0, Pages::kSide, Pages::kSide));
    const QImage& all = pages.page(small, x, y, part);
    const QImage& open = open_.page(small, x, y, part);
    const QImage& scenery = scenery_.page(small, x, y, part);
    for (int row = part.top(); row <= part.bottom(); ++row) {
        const auto line = [row](const QImage& i) {
            return reinterpret_cast<const std::uint32_t*>(i.constScanLine(row));
        };
        const std::uint32_t *a = line(all), *o = line(open), *s = line(scenery);
        auto* to = reinterpret_cast<std::uint32_t*>(image_.scanLine(row));
        for (int i = part.left(); i <= part.right(); ++i) {
            const Shades& shades = a[i] != o[i] ? blocks : a[i] != s[i] ? usable : grey;
            to[i] = shades.of[std::min(255U, grey_of(a[i]))];
        }
    }
    return image_;
}

// What looks usable in ochre and whole; what blends, in ochre dots; a tile that lies open, hatched besides.
void ContrastLens::paint(QPainter& p, const Camera& camera) const {
    if (!on_) return;
    const QColor ochre(0xE0, 0xA6, 0x40), under(0x22, 0x1C, 0x12);
    p.save();
    p.setClipRect(camera.area());
    p.setBrush(Qt::NoBrush);
    for (const picture::Doubt& d : doubts_) {
        const QRectF r = camera.onScreen(d.pixels).adjusted(-1.5, -1.5, 1.5, 1.5);
        if (!r.intersects(QRectF(camera.area()))) continue;
        if (d.what == picture::Doubt::What::lies_open) {
            QColor wash = ochre;
            wash.setAlpha(140);
            p.fillRect(r, QBrush(wash, Qt::FDiagPattern));
        }
        p.setPen(QPen(under, 4));
        p.drawRect(r);
        const bool dots = d.what == picture::Doubt::What::blends;
        p.setPen(QPen(ochre, 2, dots ? Qt::DotLine : Qt::SolidLine));
        p.drawRect(r);
    }
    p.restore();
}

QString ContrastLens::reading(Point pixel) const {
    if (!on_) return {};
    const level::Level* level = session_.level();
    // The smallest that lies there is meant.
    const picture::Doubt* best = nullptr;
    for (const picture::Doubt& d : doubts_)
        if (d.pixels.contains(pixel) && (!best || d.pixels.size().area() < best->pixels.size().area())) best = &d;
    if (!best || !level || !level->layer(best->layer)) return {};
    const level::Layer& layer = *level->layer(best->layer);
    QString name = QString::fromStdString(layer.name);
    if (const level::Prop* prop = best->prop == 0 ? nullptr : layer.props().find(best->prop))
        if (const level::PropKind* kind = session_.project().prop_kind(prop->kind))
            name = QString::fromStdString(kind->name);
    switch (best->what) {
        case picture::Doubt::What::looks_usable:
            return tr("<b>%1</b> looks usable and is not: %2 % bright, as what blocks here")
                .arg(name)
                .arg(best->bright);
        case picture::Doubt::What::blends:
            return tr("<b>%1</b> blends into its ground: %2 % bright on %3 %")
                .arg(name)
                .arg(best->bright)
                .arg(best->around);
        case picture::Doubt::What::lies_open:
            return tr("These tiles block elsewhere and not on <b>%1</b>").arg(name);
    }
    return {};
}

QString ContrastLens::summary() const {
    int count[3] = {};
    for (const picture::Doubt& d : doubts_) ++count[static_cast<int>(d.what)];
    QStringList out;
    if (count[0] > 0) out << tr("%n look usable and are not", nullptr, count[0]);
    if (count[1] > 0) out << tr("%n blend into their ground", nullptr, count[1]);
    if (count[2] > 0) out << tr("%n runs of tiles block elsewhere only", nullptr, count[2]);
    const QString colours = tr("Vermilion blocks, teal is usable, grey is scenery");
    return colours + " · " + (out.isEmpty() ? tr("nothing looks otherwise than it is") : out.join(", "));
}

} // namespace vic::app
