#include "app/tray/hand_card.hpp"

#include <QFont>
#include <QFontMetrics>
#include <QPaintEvent>
#include <QPainter>
#include <QPen>
#include <QPoint>
#include <QRect>
#include <QRectF>
#include <QString>
#include <QTextLayout>
#include <algorithm>
#include <cstddef>
#include <utility>
#include <vector>

#include "app/parts/facts_look.hpp"
#include "app/parts/glyphs.hpp"
#include "app/parts/shape_sign.hpp"
#include "app/parts/thumbs.hpp"
#include "app/parts/tokens.hpp"
#include "app/parts/translated.hpp"
#include "app/session/size_badge.hpp"
#include "base/lattice.hpp"
#include "base/match.hpp"
#include "base/turn.hpp"
#include "edit/clash.hpp"
#include "edit/clips.hpp"
#include "edit/stroke.hpp"
#include "level/cell.hpp"
#include "level/level.hpp"
#include "level/material.hpp"
#include "level/project.hpp"
#include "level/sheet.hpp"

namespace vic::app {

namespace {

// Four of the things it chooses from.
QPixmap spreadPicture(const level::Project& project, const edit::held::Spread& spread, int side) {
    QPixmap out(side, side);
    out.fill(Qt::transparent);
    QPainter p(&out);
    const int half = side / 2;
    for (std::size_t i = 0; i < std::min<std::size_t>(4, spread.items.size()); ++i) {
        const edit::SpreadItem& item = spread.items[i];
        const auto* m = project.material(item.material);
        p.drawPixmap(static_cast<int>(i % 2) * half, static_cast<int>(i / 2) * half,
                     m ? materialThumb(project, *m, half - 1) : tileThumb(project, item.tile, half - 1, item.turn));
    }
    return out;
}

QPixmap stampPicture(const level::Project& project, const level::Stamp& stamp, Turn handTurn, int side) {
    const Turn turn = Lattice{stamp.lattice, stamp.cell}.of_places(handTurn);
    return stampThumb(project, turn.code == 0 ? stamp : edit::turned(project, stamp, turn), side);
}

} // namespace

QPixmap handPicture(const level::Project& project, const edit::Hand& hand, int side) {
    return match(
        hand.holds, [](const edit::held::Nothing&) { return QPixmap(); },
        [](const edit::held::Eraser&) { return QPixmap(); },
        [&](const edit::held::Material& held) {
            const auto* m = project.material(held.id);
            return m ? materialThumb(project, *m, side) : QPixmap();
        },
        [&](const edit::held::Tile& t) { return tileThumb(project, t.id, side, hand.turn); },
        [&](const edit::held::Prop& held) {
            const auto* k = project.prop_kind(held.kind);
            return k ? propThumb(project, *k, side, held.look) : QPixmap();
        },
        [&](const edit::held::Spread& s) { return spreadPicture(project, s, side); },
        [&](const edit::held::Stamp& s) { return stampPicture(project, *s.stamp, hand.turn, side); },
        [&](const edit::held::Blocker& b) { return shapeSign(level::turned(b.shape, hand.turn), paper(), side); },
        [&](const edit::held::Fact& f) { return factSign(project.note_kind(f.note), f.value, side); });
}

QString handName(const level::Project& project, const edit::Hand& hand) {
    const auto named = [](const auto* thing) {
        return thing ? QString::fromStdString(thing->name) : HandCard::tr("Empty");
    };
    return match(
        hand.holds, [](const edit::held::Nothing&) { return HandCard::tr("Empty"); },
        [](const edit::held::Eraser&) { return HandCard::tr("Empty"); },
        [&](const edit::held::Material& m) { return named(project.material(m.id)); },
        [&](const edit::held::Tile& t) { return translated(edit::tile_name(project, t.id)); },
        [&](const edit::held::Prop& k) { return named(project.prop_kind(k.kind)); },
        [](const edit::held::Spread& s) { return HandCard::tr("Spread of %1").arg(s.items.size()); },
        [&](const edit::held::Stamp& s) {
            return s.stamp->name.empty() ? HandCard::tr("Copied") : named(s.stamp.get());
        },
        [](const edit::held::Blocker&) { return HandCard::tr("Blocker"); },
        [&](const edit::held::Fact& f) { return translated(edit::fact_name(project, f.note, f.value)); });
}

namespace {

constexpr int kHigh = 132, kLow = 34; // pixels

// A long name goes on in a second line, and ends there.
std::pair<QString, QString> inTwoLines(const QString& name, const QFont& font, int width) {
    QTextLayout layout(name, font);
    layout.beginLayout();
    QTextLine line = layout.createLine();
    line.setLineWidth(width);
    layout.endLayout();
    return {name.left(line.textLength()).trimmed(),
            QFontMetrics(font).elidedText(name.mid(line.textLength()).trimmed(), Qt::ElideRight, width)};
}

// What kind of thing it holds, in a word.
QString kindOfHand(const Session& session) {
    const edit::Hand& hand = session.hand();
    const level::Project& project = session.project();
    QString kind;
    if (hand.is<edit::held::Material>()) {
        const auto* m = project.material(hand.material());
        kind = m && m->joins.kind == level::JoinKind::plain ? HandCard::tr("plain, by chance")
                                                            : HandCard::tr("joins by itself");
    } else if (hand.is<edit::held::Tile>()) {
        const level::Tile* block = session.blockInHand();
        kind = block ? HandCard::tr("a block of %1 × %2").arg(block->block.cells.w).arg(block->block.cells.h)
                     : HandCard::tr("a tile, pinned");
    } else if (const auto* blocker = hand.as<edit::held::Blocker>()) {
        kind = shapeName(level::turned(blocker->shape, hand.turn));
    } else if (hand.is<edit::held::Fact>()) {
        kind = HandCard::tr("said of cells");
    } else if (hand.is<edit::held::Spread>()) {
        kind = HandCard::tr("by chance, steady");
    } else if (hand.is<edit::held::Stamp>()) {
        kind = HandCard::tr("%1 × %2 cells").arg(hand.stamp()->size.w).arg(hand.stamp()->size.h);
    } else {
        kind = HandCard::tr("a prop");
    }
    return kind;
}

// The kind on the left, and how its size goes into the cells on the right; that alone where both have no room.
void paintKind(QPainter& p, const QRect& line, const QString& kind, const QString& badge, const Tokens& t) {
    const QFont usual = p.font();
    const QFontMetrics metrics(usual);
    const bool both = metrics.horizontalAdvance(kind) + 8 + metrics.horizontalAdvance(badge) <= line.width();
    if (badge.isEmpty() || both) p.drawText(line, Qt::AlignLeft | Qt::AlignVCenter, kind);
    p.setPen(t.ochre);
    if (metrics.horizontalAdvance(badge) > line.width()) {
        QFont small = p.font();
        small.setPixelSize(10);
        p.setFont(small);
    }
    p.drawText(line, (both ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter, badge);
    p.setFont(usual);
    p.setPen(t.quiet);
}

} // namespace

HandCard::HandCard(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("handCard");
    setFixedHeight(kHigh);
}

void HandCard::refresh() {
    if (!session_.isOpen()) return;
    // What is chosen in Dress needs the room that an empty Hand does not.
    const bool low =
        session_.hand().is<edit::held::Nothing>() && session_.stage() == Stage::dress && !session_.chosen().empty();
    setFixedHeight(low ? kLow : kHigh);
    setAccessibleName(tr("Hand: %1").arg(handName(session_.project(), session_.hand())));
    update();
}

void HandCard::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Tokens t = tokensOf(this);
    p.setPen(QPen(t.line, 1));
    p.setBrush(t.card);
    p.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 10, 10);
    if (!session_.isOpen()) return;
    const edit::Hand& hand = session_.hand();
    const level::Project& project = session_.project();
    if (height() == kLow) {
        p.setPen(t.quiet);
        p.drawText(rect().adjusted(12, 0, -12, 0), Qt::AlignLeft | Qt::AlignVCenter, tr("Empty"));
        return;
    }
    const QRect box(11, 14, 102, 102);
    paintChequer(p, box, t.window, t.panel);
    p.drawPixmap(box.topLeft() + QPoint(3, 3), handPicture(project, hand, 96));
    QFont font = this->font();
    const int x = 124;
    const int w = width() - x - 12;
    font.setPixelSize(14);
    font.setWeight(QFont::DemiBold);
    p.setFont(font);
    p.setPen(hand.is<edit::held::Nothing>() ? t.quiet : t.ink);
    const auto [first, second] = inTwoLines(handName(project, hand), font, w);
    p.drawText(QRect(x, 12, w, 20), Qt::AlignLeft | Qt::AlignVCenter, first);
    if (!second.isEmpty()) p.drawText(QRect(x, 29, w, 18), Qt::AlignLeft | Qt::AlignVCenter, second);
    const int below = second.isEmpty() ? 0 : 16; // how far the rest moves down
    font.setPixelSize(12);
    font.setWeight(QFont::Normal);
    p.setFont(font);
    p.setPen(t.quiet);
    if (hand.is<edit::held::Nothing>()) {
        p.drawText(QRect(x, 34 + below, w, 84), Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap,
                   tr("Pick something from the Tray, or Alt+click it in the level."));
        return;
    }
    const QString kind = kindOfHand(session_);
    paintKind(p, QRect(x, 32 + below, w, 16), kind, sizeBadge(session_, edit::sheet_of(project, hand)), t);
    std::vector<std::pair<QString, QString>> rows;
    if (!hand.is<edit::held::Prop>() && !hand.is<edit::held::Stamp>())
        rows.emplace_back(tr("Size"), hand.round ? tr("%1, round").arg(hand.size) : QString("%1 × %1").arg(hand.size));
    if (hand.is<edit::held::Tile>() || hand.is<edit::held::Prop>() || hand.is<edit::held::Stamp>()) {
        const auto* prop = hand.as<edit::held::Prop>();
        const double degrees = prop ? prop->look.turn / 10.0 : hand.turn.quarters() * 90;
        const bool mirrored = prop ? prop->look.mirrored : hand.turn.mirrored();
        QString turn = degrees == 0 ? (mirrored ? QString() : tr("as drawn")) : QString("%1°").arg(degrees);
        if (mirrored) turn += turn.isEmpty() ? tr("mirrored") : tr(", mirrored");
        if (prop && prop->look.scale != 100) turn += tr(" · %1 %").arg(prop->look.scale);
        rows.emplace_back(tr("Turn"), turn);
    }
    if (hand.is<edit::held::Stamp>()) {
        rows.emplace_back(tr("Layers"), QString::number(hand.stamp()->layers.size()));
    } else if (session_.level()) {
        const auto target = edit::target_of(project, *session_.level(), hand, session_.activeLayerId(), false);
        const level::Layer* layer = session_.level()->layer(target.layer);
        rows.emplace_back(target.went_home ? tr("Home") : tr("Layer"),
                          layer ? QString::fromStdString(layer->name) : tr("none"));
    }
    int y = 54 + below;
    for (const auto& [name, value] : rows) {
        p.setPen(t.quiet);
        p.drawText(QRect(x, y, w, 18), Qt::AlignLeft | Qt::AlignVCenter, name);
        p.setPen(t.ink);
        const int room = w - QFontMetrics(font).horizontalAdvance(name) - 8;
        p.drawText(QRect(x, y, w, 18), Qt::AlignRight | Qt::AlignVCenter,
                   QFontMetrics(font).elidedText(value, Qt::ElideRight, room));
        y += 20;
    }
}

} // namespace vic::app
