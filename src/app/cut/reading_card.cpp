#include "app/cut/reading_card.hpp"

#include <QFont>
#include <QFontMetrics>
#include <QPaintEvent>
#include <QPainter>
#include <QPen>
#include <QRect>
#include <QRectF>
#include <QWidget>
#include <algorithm>

#include "app/gesture/gesture.hpp"
#include "app/parts/tokens.hpp"

namespace vic::app {

ReadingCard::ReadingCard(const QString& title, const QString& reason, bool first, QWidget* parent)
    : QAbstractButton(parent), reason_(reason), first_(first) {
    setText(title);
    setAccessibleName(title);
    setAccessibleDescription(reason);
    setFocusPolicy(Qt::TabFocus);
    setCursor(Qt::PointingHandCursor);
    setToolTip(tr("<b>%1</b><br>%2<br>Click to take it").arg(title.toHtmlEscaped(), reason.toHtmlEscaped()));
}

QSize ReadingCard::sizeHint() const {
    QFont bold = font();
    bold.setWeight(QFont::DemiBold);
    QFont small = font();
    small.setPixelSize(11);
    return {std::min(270, std::max(QFontMetrics(bold).horizontalAdvance(text()),
                                   QFontMetrics(small).horizontalAdvance(reason_)) +
                              24),
            44};
}

void ReadingCard::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Tokens t = tokensOf(this);
    p.setPen(QPen(hasFocus() ? t.brine : first_ ? t.vermilion : underMouse() ? t.quiet : t.line, first_ ? 2 : 1));
    p.setBrush(t.card);
    p.drawRoundedRect(QRectF(rect()).adjusted(1, 1, -1, -1), 6, 6);
    QFont font = this->font();
    font.setWeight(QFont::DemiBold);
    p.setFont(font);
    p.setPen(t.ink);
    p.drawText(QRect(12, 5, width() - 20, 18), Qt::AlignLeft | Qt::AlignVCenter,
               QFontMetrics(font).elidedText(text(), Qt::ElideRight, width() - 20));
    font.setPixelSize(11);
    font.setWeight(QFont::Normal);
    p.setFont(font);
    p.setPen(t.quiet);
    p.drawText(QRect(12, 23, width() - 20, 15), Qt::AlignLeft | Qt::AlignVCenter,
               QFontMetrics(font).elidedText(reason_, Qt::ElideRight, width() - 20));
}

} // namespace vic::app
