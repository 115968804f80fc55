#include "app/section/slab.hpp"

#include <QAction>
#include <QFont>
#include <QFontMetrics>
#include <QKeyEvent>
#include <QMenu>
#include <QMouseEvent>
#include <QPaintEvent>
#include <QPainter>
#include <QPainterPath>
#include <QPen>
#include <QPointF>
#include <QPolygonF>
#include <QRect>
#include <QRectF>
#include <QVBoxLayout>
#include <cstddef>
#include <cstdint>
#include <map>

#include "app/parts/facts_look.hpp"
#include "app/parts/tokens.hpp"
#include "app/section/section_panel.hpp"
#include "app/session/session.hpp"
#include "base/geometry.hpp"
#include "base/image.hpp"
#include "level/cell.hpp"
#include "level/grid.hpp"
#include "level/level.hpp"
#include "sheet/cut.hpp"

namespace vic::app {

namespace {

constexpr int kPlane = 26;

QColor meanColour(const Image& image) {
    std::uint64_t r = 0, g = 0, b = 0, n = 0;
    for (const Rgba c : image.pixels()) {
        if (c.a < 128) continue;
        r += c.r, g += c.g, b += c.b, ++n;
    }
    if (n == 0) return "#B8AC94";
    return QColor(static_cast<int>(r / n), static_cast<int>(g / n), static_cast<int>(b / n));
}

} // namespace

Slab::Slab(Session& session, SectionPanel& panel, level::LayerId layer)
    : session_(session), panel_(panel), layer_(layer) {
    setObjectName(layer ? QString("slab-%1").arg(layer) : "slab-walker");
    setFocusPolicy(Qt::TabFocus);
    setAccessibleName(tr("The walker's plane"));
    setFixedHeight(layer ? kClosed : kPlane);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, kClosed + 2, 12, 12);
    column->setSpacing(0);
}

void Slab::refresh() {
    const level::Layer* layer = session_.level() ? session_.level()->layer(layer_) : nullptr;
    if (layer) setAccessibleName(QString::fromStdString(layer->name));
    const bool open = layer && session_.activeLayerId() == layer_;
    if (open && !drawer_) openDrawer();
    if (!open && drawer_) closeDrawer();
    if (drawer_) drawer_->refresh();
    update();
}

// As high as what is in it.
void Slab::openDrawer() {
    drawer_ = new LayerDrawer(session_, layer_, this);
    layout()->addWidget(drawer_);
    setMinimumHeight(0);
    setMaximumHeight(QWIDGETSIZE_MAX);
    drawer_->show();
}

// An edit in it may still be under way.
void Slab::closeDrawer() {
    drawer_->hide();
    drawer_->deleteLater();
    drawer_ = nullptr;
    setFixedHeight(kClosed);
}

QColor Slab::colour(const level::Layer& layer) const {
    if (layer.backdrop()) {
        const level::Sheet* s = session_.project().sheet(layer.backdrop()->sheet);
        return s && s->image ? meanColour(*s->image) : QColor("#C9BFA8");
    }
    if (layer.blockers()) return paper().ink.lighter(220);
    if (layer.facts()) return factColour(session_.project().note_kind(layer.facts()->note()), 4);
    if (layer.has_props()) {
        if (layer.props().empty()) return "#B8AC94";
        const auto* kind = session_.project().prop_kind(layer.props().begin()->kind);
        const level::Sheet* s = kind ? session_.project().sheet(kind->sheet) : nullptr;
        return s && s->image ? meanColour(cropped(*s->image, kind->box)) : QColor("#A85C4A");
    }
    // The colour of the first chunk's commonest tile stands for the layer.
    std::map<level::TileId, int> tally;
    const Size chunks = layer.grid().chunks();
    for (int y = 0; y < chunks.h && tally.empty(); ++y)
        for (int x = 0; x < chunks.w && tally.empty(); ++x)
            if (const level::Chunk* chunk = layer.grid().chunk({x, y}))
                for (std::size_t i = 0; i < chunk->cells.size(); i += 7)
                    if (const auto id = chunk->cells[i].tile()) ++tally[id];
    level::TileId best = 0;
    for (const auto& [id, n] : tally)
        if (best == 0 || n > tally[best]) best = id;
    for (const auto& s : session_.project().sheets)
        for (const auto& tile : s->tiles)
            if (tile.id == best && s->image) return meanColour(sheet::tile_art(*s, tile));
    return "#D8CEB9";
}

void Slab::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const level::Layer* layer = session_.level() ? session_.level()->layer(layer_) : nullptr;
    if (!layer) return paintWalker(p);
    const bool active = session_.activeLayerId() == layer_;
    paintCard(p, active);
    paintBlock(p, *layer);
    paintWords(p, *layer, active);
}

// The walker's plane.
void Slab::paintWalker(QPainter& p) const {
    const Tokens t = tokensOf(this);
    const QString text = tr("the walker is here");
    QFont font = this->font();
    font.setPixelSize(11);
    font.setWeight(QFont::DemiBold);
    p.setFont(font);
    const int w = QFontMetrics(font).horizontalAdvance(text) + 12;
    const double y = height() / 2.0;
    QPen dash(t.vermilion, 2, Qt::CustomDashLine, Qt::FlatCap);
    dash.setDashPattern({3, 1.6});
    p.setPen(dash);
    p.drawLine(QPointF(12, y), QPointF(width() / 2.0 - w / 2.0, y));
    p.drawLine(QPointF(width() / 2.0 + w / 2.0, y), QPointF(width() - 12, y));
    p.setPen(t.vermilion);
    p.drawText(rect(), Qt::AlignCenter, text);
}

void Slab::paintCard(QPainter& p, bool active) const {
    const Tokens t = tokensOf(this);
    if (active) {
        p.setPen(QPen(t.vermilion, 1));
        p.setBrush(t.card);
        p.drawRoundedRect(QRectF(rect()).adjusted(6.5, 1.5, -6.5, -1.5), 10, 10);
    }
    if (lit_) { // what is under the pointer goes here
        QColor glow = t.vermilion;
        glow.setAlpha(30);
        p.setPen(QPen(t.vermilion, 1.5));
        p.setBrush(glow);
        p.drawRoundedRect(QRectF(6.5, 1.5, width() - 13, kClosed - 3), 10, 10);
    }
    if (hasFocus()) {
        p.setPen(QPen(t.brine, 1));
        p.setBrush(Qt::NoBrush);
        p.drawRoundedRect(QRectF(rect()).adjusted(8.5, 3.5, -8.5, -3.5), 8, 8);
    }
}

// A thin block seen from the front and above.
void Slab::paintBlock(QPainter& p, const level::Layer& l) const {
    const level::Layer* layer = &l;
    const Tokens t = tokensOf(this);
    const QPointF o(14, 13);
    const QColor top = layer->shown ? colour(*layer) : t.line;
    const QPolygonF face{o + QPointF(16, 0), o + QPointF(58, 0), o + QPointF(42, 20), o + QPointF(0, 20)};
    const QPolygonF front{o + QPointF(0, 20), o + QPointF(42, 20), o + QPointF(42, 26), o + QPointF(0, 26)};
    const QPolygonF side{o + QPointF(42, 20), o + QPointF(58, 0), o + QPointF(58, 6), o + QPointF(42, 26)};
    p.setPen(Qt::NoPen);
    p.setOpacity(layer->shown ? 1.0 : 0.6);
    p.setBrush(top);
    p.drawPolygon(face);
    p.setBrush(top.darker(140));
    p.drawPolygon(front);
    p.setBrush(top.darker(165));
    p.drawPolygon(side);
    if (layer->blocks()) {
        p.save();
        QPainterPath path;
        path.addPolygon(face);
        p.setClipPath(path);
        p.setPen(QPen(t.dark ? t.window : t.ink, 1));
        for (int x = -24; x < 70; x += 7) p.drawLine(o + QPointF(x, 21), o + QPointF(x + 21, 0));
        p.restore();
    }
    p.setOpacity(1);
}

QString Slab::words(const level::Layer& layer) const {
    const auto kind = [&] {
        if (layer.overlay_of() != 0) return tr("overlay");
        if (layer.grain().own()) {
            const int side = session_.level()->lattice_of(layer).cell.w;
            return (layer.solid() ? tr("tiles · %1 px · block") : tr("tiles · %1 px")).arg(side);
        }
        switch (layer.kind()) {
            case level::LayerKind::tiles:
                return layer.solid() ? tr("tiles · block") : tr("tiles");
            case level::LayerKind::props:
                return tr("props · %1").arg(layer.props().size());
            case level::LayerKind::planting:
                return tr("planting · %1").arg(layer.props().size());
            case level::LayerKind::blockers:
                return tr("blockers");
            case level::LayerKind::facts: {
                const auto* note = session_.project().note_kind(layer.facts()->note());
                return note ? tr("facts · %1").arg(QString::fromStdString(note->name)) : tr("facts of no note");
            }
            case level::LayerKind::backdrop:
                return tr("backdrop");
        }
        return QString();
    };
    QString text = kind();
    if (layer.storey > 0) text += tr(" · storey %1").arg(layer.storey);
    if (session_.isAlone(layer_)) text += tr(" · alone");
    if (!layer.shown) text += tr(" · hidden");
    if (layer.locked) text += tr(" · locked");
    if (layer.opacity < 100) text += tr(" · %1 %").arg(layer.opacity);
    return text;
}

void Slab::paintWords(QPainter& p, const level::Layer& l, bool active) const {
    const level::Layer* layer = &l;
    const Tokens t = tokensOf(this);
    QFont font = this->font();
    font.setPixelSize(13);
    font.setWeight(active ? QFont::DemiBold : QFont::Medium);
    p.setFont(font);
    p.setPen(layer->shown ? t.ink : t.quiet);
    const int x = 80;
    p.drawText(QRect(x, 9, width() - x - 10, 18), Qt::AlignLeft | Qt::AlignVCenter,
               QFontMetrics(font).elidedText(QString::fromStdString(layer->name), Qt::ElideRight, width() - x - 12));
    const QString under = words(l);
    font.setPixelSize(11);
    font.setWeight(QFont::Normal);
    p.setFont(font);
    p.setPen(!layer->shown || layer->locked ? t.ochre : t.quiet);
    p.drawText(QRect(x, 27, width() - x - 10, 16), Qt::AlignLeft | Qt::AlignVCenter,
               QFontMetrics(font).elidedText(under, Qt::ElideRight, width() - x - 12));
}

void Slab::setLit(bool on) {
    if (lit_ == on) return;
    lit_ = on;
    update();
}

void Slab::mousePressEvent(QMouseEvent* event) {
    grip_ = event->pos();
    dragging_ = false;
    if (event->button() == Qt::RightButton && layer_) showMenu(event->globalPosition().toPoint());
}

void Slab::showMenu(QPoint globalPos) {
    session_.setActiveLayer(layer_);
    auto* menu = new QMenu(&panel_);
    menu->setObjectName("slabMenu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    for (QAction* a : panel_.menuActions()) menu->addAction(a);
    menu->popup(globalPos);
}

void Slab::mouseMoveEvent(QMouseEvent* event) {
    if (!(event->buttons() & Qt::LeftButton)) return;
    if (!dragging_ && (event->pos() - grip_).manhattanLength() < 8) return;
    dragging_ = true;
    setCursor(Qt::ClosedHandCursor);
    panel_.showDrop(panel_.dropIndex(event->globalPosition().toPoint()));
}

void Slab::mouseReleaseEvent(QMouseEvent* event) {
    if (dragging_) {
        dragging_ = false;
        panel_.showDrop(-1);
        const int to = panel_.dropIndex(event->globalPosition().toPoint());
        panel_.dropped(index_, to);
    } else if (layer_ && event->button() == Qt::LeftButton) {
        session_.setActiveLayer(layer_);
    }
}

void Slab::keyPressEvent(QKeyEvent* event) {
    // Alt+Up and Alt+Down carry the slab; Enter opens it.
    const bool up = event->key() == Qt::Key_Up, down = event->key() == Qt::Key_Down;
    if ((up || down) && (event->modifiers() & Qt::AltModifier))
        panel_.dropped(index_, index_ + (up ? 1 : -1));
    else if (layer_ && (event->key() == Qt::Key_Return || event->key() == Qt::Key_Space))
        session_.setActiveLayer(layer_);
    else
        QWidget::keyPressEvent(event);
}

} // namespace vic::app
