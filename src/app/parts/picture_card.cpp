#include "app/parts/picture_card.hpp"

#include <QFont>
#include <QFontMetrics>
#include <QPaintEvent>
#include <QPainter>
#include <QPen>
#include <QRect>
#include <QRectF>
#include <QWidget>
#include <algorithm>

#include "app/parts/tokens.hpp"

namespace vic::app {

namespace {

constexpr int kHeight = 84;
constexpr int kMargin = 10;

} // namespace

PictureCard::PictureCard(const QString& title, const QString& under, bool first, QWidget* parent)
    : QAbstractButton(parent), under_(under), first_(first) {
    setText(title);
    setAccessibleName(title);
    setAccessibleDescription(under);
    setFocusPolicy(Qt::TabFocus);
    setCursor(Qt::PointingHandCursor);
    setAttribute(Qt::WA_Hover);
    setToolTip(QString("<b>%1</b><br>%2").arg(title.toHtmlEscaped(), under.toHtmlEscaped()));
    setFixedHeight(kHeight);
}

void PictureCard::setPicture(const QPixmap& picture) {
    picture_ = picture;
    update();
}

QSize PictureCard::sizeHint() const { return {260, kHeight}; }
QSize PictureCard::minimumSizeHint() const { return {150, kHeight}; }

void PictureCard::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Tokens t = tokensOf(this);
    p.setPen(QPen(hasFocus() ? t.brine : first_ ? t.vermilion : underMouse() ? t.quiet : t.line, first_ ? 2 : 1));
    p.setBrush(t.card);
    p.drawRoundedRect(QRectF(rect()).adjusted(1, 1, -1, -1), 6, 6);
    const int side = picture_.isNull() ? 0 : picture_.width();
    p.drawPixmap(kMargin, (height() - side) / 2, picture_);
    const int left = kMargin + side + (side ? kMargin : 0);
    const int width = this->width() - left - 6;
    QFont bold = font();
    bold.setWeight(QFont::DemiBold);
    QFont small = font();
    small.setPixelSize(11);
    constexpr int kWrap = Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap;
    const auto room = [&](const QFont& of, const QString& text) {
        return QFontMetrics(of).boundingRect(QRect(0, 0, width, 200), kWrap, text).height();
    };
    const int titleHeight = std::min(room(bold, text()), 36);
    const int underHeight = std::min(room(small, under_), height() - 12 - titleHeight - 2);
    int top = (height() - titleHeight - underHeight - 2) / 2;
    p.setFont(bold);
    p.setPen(t.ink);
    p.drawText(QRect(left, top, width, titleHeight), kWrap, text());
    top += titleHeight + 2;
    p.setFont(small);
    p.setPen(t.quiet);
    p.drawText(QRect(left, top, width, underHeight), kWrap, under_);
}

} // namespace vic::app
