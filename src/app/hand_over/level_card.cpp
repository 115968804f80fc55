#include "app/hand_over/level_card.hpp"

#include <QFont>
#include <QFontMetrics>
#include <QPaintEvent>
#include <QPainter>
#include <QPainterPath>
#include <QPen>
#include <QPointF>
#include <QRect>
#include <QRectF>
#include <QSizeF>
#include <QWidget>

#include "app/parts/tokens.hpp"

namespace vic::app {

LevelCard::LevelCard(const QPixmap& picture, const QString& name, QWidget* parent)
    : QAbstractButton(parent), picture_(picture) {
    setText(name);
    setAccessibleName(name);
    setCursor(Qt::PointingHandCursor);
    setFocusPolicy(Qt::TabFocus);
    setFixedSize(sizeHint());
}

void LevelCard::setUnder(const QString& text, bool looks) {
    under_ = text;
    looks_ = looks;
    setAccessibleDescription(text);
    update();
}

void LevelCard::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Tokens t = tokensOf(this);
    p.setPen(QPen(hasFocus() ? t.brine : underMouse() ? t.quiet : t.line, 1));
    p.setBrush(t.card);
    p.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 10, 10);
    const QRectF frame(8, 8, width() - 16.0, 138);
    QPainterPath path;
    path.addRoundedRect(frame, 6, 6);
    p.save();
    p.setClipPath(path);
    p.fillRect(frame, t.outside);
    const QSizeF size = QSizeF(picture_.size()).scaled(frame.size(), Qt::KeepAspectRatio);
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    p.drawPixmap(QRectF(frame.center() - QPointF(size.width() / 2, size.height() / 2), size), picture_,
                 QRectF(picture_.rect()));
    p.restore();
    QFont font = this->font();
    font.setWeight(QFont::DemiBold);
    p.setFont(font);
    p.setPen(t.ink);
    p.drawText(QRect(12, 150, width() - 24, 20), Qt::AlignLeft | Qt::AlignVCenter,
               QFontMetrics(font).elidedText(text(), Qt::ElideRight, width() - 24));
    font.setPixelSize(11);
    font.setWeight(QFont::Normal);
    p.setFont(font);
    p.setPen(looks_ ? t.ochre : t.quiet);
    p.drawText(QRect(12, 169, width() - 24, 16), Qt::AlignLeft | Qt::AlignVCenter,
               QFontMetrics(font).elidedText(under_, Qt::ElideRight, width() - 24));
}

} // namespace vic::app
