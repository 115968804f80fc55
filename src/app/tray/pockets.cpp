#include "app/tray/pockets.hpp"

#include <QFont>
#include <QMouseEvent>
#include <QPaintEvent>
#include <QPainter>
#include <QPen>
#include <QPixmap>
#include <QPointF>
#include <QRectF>
#include <QStringList>
#include <algorithm>
#include <cstddef>
#include <cstdint>

#include "app/parts/tokens.hpp"
#include "app/tray/hand_card.hpp"
#include "base/turn.hpp"
#include "level/cell.hpp"

namespace vic::app {

Pockets::Pockets(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("pockets");
    setAccessibleName(tr("Pockets"));
    setFixedHeight(30);
    setToolTip(
        tr("<b>Pockets</b>&nbsp;&nbsp;1 – 9<br>An empty pocket keeps the Hand, a full one gives it back; right click "
           "puts the Hand in"));
}

void Pockets::use(int index) {
    const edit::Hand& kept = hands_[static_cast<std::size_t>(index)];
    if (kept.kind == edit::Hand::Kind::empty)
        keep(index);
    else
        session_.setHand(kept);
}

void Pockets::keep(int index) {
    hands_[static_cast<std::size_t>(index)] = session_.hand();
    update();
}

QString Pockets::packed() const {
    QStringList all;
    for (const auto& h : hands_) {
        QStringList spread;
        for (const edit::SpreadItem& i : h.spread)
            spread << QString("%1/%2/%3/%4").arg(i.material).arg(i.tile).arg(i.turn.code).arg(i.weight);
        all << QStringList{QString::number(static_cast<int>(h.kind)),
                           QString::number(h.material),
                           QString::number(h.tile),
                           QString::number(h.prop),
                           QString::number(h.turn.code),
                           QString::number(h.size),
                           QString::number(h.round),
                           QString::number(h.share_empty),
                           QString::number(h.seed),
                           spread.join(','),
                           QString::number(h.stamp ? h.stamp->id : 0)}
                   .join(':');
    }
    return all.join(' ');
}

void Pockets::unpack(const QString& text) {
    const QStringList all = text.split(' ', Qt::SkipEmptyParts);
    for (std::size_t i = 0; i < hands_.size(); ++i) {
        hands_[i] = {};
        if (static_cast<qsizetype>(i) >= all.size()) continue;
        const QStringList parts = all[static_cast<qsizetype>(i)].split(':');
        if (parts.size() < 6) continue;
        edit::Hand h;
        h.kind = static_cast<edit::Hand::Kind>(std::clamp(parts[0].toInt(), 0, 6));
        h.material = static_cast<level::MaterialId>(parts[1].toUInt());
        h.tile = parts[2].toUInt();
        h.prop = parts[3].toUInt();
        h.turn.code = static_cast<std::uint8_t>(parts[4].toUInt() & 7U);
        h.size = std::clamp(parts[5].toInt(), 1, 16);
        if (parts.size() > 10) {
            h.round = parts[6].toInt() != 0;
            h.share_empty = std::clamp(parts[7].toInt(), 0, 99);
            h.seed = parts[8].toUInt();
            for (const QString& one : parts[9].split(',', Qt::SkipEmptyParts)) {
                const QStringList of = one.split('/');
                if (of.size() == 4)
                    h.spread.push_back({static_cast<level::MaterialId>(of[0].toUInt()), of[1].toUInt(),
                                        Turn{static_cast<std::uint8_t>(of[2].toUInt() & 7U)},
                                        std::clamp(of[3].toInt(), 0, 1000)});
            }
            if (h.kind == edit::Hand::Kind::stamp) h.stamp = session_.project().stamp(parts[10].toUInt());
        }
        // What was only copied does not outlive the window.
        if ((h.kind == edit::Hand::Kind::stamp && !h.stamp) || (h.kind == edit::Hand::Kind::spread && h.spread.empty()))
            h = {};
        hands_[i] = h;
    }
    update();
}

void Pockets::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Tokens t = tokensOf(this);
    QFont font = this->font();
    font.setPixelSize(9);
    p.setFont(font);
    const double step = width() / 9.0;
    for (int i = 0; i < 9; ++i) {
        const QRectF r(i * step, 1, step - 4, 28);
        const auto& hand = hands_[static_cast<std::size_t>(i)];
        p.setPen(QPen(t.line, 1));
        p.setBrush(t.card);
        p.drawRoundedRect(r.adjusted(0.5, 0.5, -0.5, -0.5), 5, 5);
        if (session_.isOpen() && hand.kind != edit::Hand::Kind::empty) {
            const QPixmap picture = handPicture(session_.project(), hand, 16);
            p.drawPixmap(QPointF(r.center().x() - 8, r.top() + 9), picture);
        }
        p.setPen(t.quiet);
        p.drawText(r.adjusted(3, 0, 0, 0), Qt::AlignLeft | Qt::AlignTop, QString::number(i + 1));
    }
}

void Pockets::mousePressEvent(QMouseEvent* event) {
    const int index = std::clamp(static_cast<int>(event->position().x() * 9 / std::max(1, width())), 0, 8);
    if (event->button() == Qt::RightButton)
        keep(index);
    else
        use(index);
}

} // namespace vic::app
