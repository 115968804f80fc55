#include "app/shell/start_cards.hpp"

#include <QColor>
#include <QFont>
#include <QFontMetrics>
#include <QHBoxLayout>
#include <QLabel>
#include <QPaintEvent>
#include <QPainter>
#include <QPainterPath>
#include <QPen>
#include <QPointF>
#include <QPolygonF>
#include <QPushButton>
#include <QRect>
#include <QRectF>
#include <QVBoxLayout>

#include "app/parts/panel.hpp"
#include "app/parts/tokens.hpp"

namespace vic::app {

namespace {

constexpr int kAboveHeight = 112; // pixels of a picture above its text
constexpr int kBesideWidth = 86;
constexpr int kRound = 8;

} // namespace

StartCard::StartCard(const QString& title, const QString& under, Picture picture, QWidget* parent)
    : QAbstractButton(parent), under_(under), where_(picture) {
    setText(title);
    setAccessibleName(title);
    setAccessibleDescription(under);
    setCursor(Qt::PointingHandCursor);
    setFocusPolicy(Qt::StrongFocus);
    setAttribute(Qt::WA_Hover);
    if (where_ == Picture::above)
        setFixedSize(266, kAboveHeight + 54);
    else
        setFixedHeight(72);
}

void StartCard::setPicture(const QPixmap& picture) {
    picture_ = picture;
    update();
}

void StartCard::setWaits(const QString& text, bool waits) {
    line_ = text;
    waits_ = waits;
    setAccessibleDescription(under_ + ", " + text);
    update();
}

QRect StartCard::pictureBox() const {
    return where_ == Picture::above ? QRect(1, 1, width() - 2, kAboveHeight)
                                    : QRect(12, 10, kBesideWidth, height() - 20);
}

void StartCard::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Tokens t = tokensOf(this);
    const QRectF all = QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5);
    p.setPen(Qt::NoPen);
    p.setBrush(t.card);
    p.drawRoundedRect(all, kRound, kRound);
    const QRect box = pictureBox();
    p.save();
    QPainterPath clip;
    clip.addRoundedRect(where_ == Picture::above ? all : QRectF(box), where_ == Picture::above ? kRound : 5,
                        where_ == Picture::above ? kRound : 5);
    p.setClipPath(clip);
    p.fillRect(box, t.outside);
    const QSizeF size = picture_.deviceIndependentSize();
    p.drawPixmap(box.topLeft() + QPoint(static_cast<int>((box.width() - size.width()) / 2),
                                        static_cast<int>((box.height() - size.height()) / 2)),
                 picture_);
    p.restore();
    const bool on = hasFocus() || underMouse();
    p.setPen(QPen(hasFocus() ? t.vermilion : on ? t.quiet : t.line, hasFocus() ? 2 : 1));
    p.setBrush(Qt::NoBrush);
    p.drawRoundedRect(hasFocus() ? all.adjusted(0.5, 0.5, -0.5, -0.5) : all, kRound, kRound);
    const int left = where_ == Picture::above ? 13 : box.right() + 14;
    int top = where_ == Picture::above ? kAboveHeight + 8 : line_.isEmpty() ? height() / 2 - 19 : height() / 2 - 27;
    const auto write = [&](const QString& text, const QColor& ink, int pixels, QFont::Weight weight) {
        QFont font = this->font();
        font.setPixelSize(pixels);
        font.setWeight(weight);
        p.setFont(font);
        p.setPen(ink);
        const QRect line(left, top, width() - left - 12, 18);
        p.drawText(line, Qt::AlignLeft | Qt::AlignVCenter,
                   QFontMetrics(font).elidedText(text, Qt::ElideRight, line.width()));
        top += 19;
    };
    if (where_ == Picture::above && !under_.isEmpty()) {
        // The project and its level on one line.
        const QString title = text();
        write(title + " · " + under_, t.ink, 13, QFont::DemiBold);
    } else {
        write(text(), t.ink, 13, QFont::DemiBold);
        if (!under_.isEmpty()) write(under_, t.quiet, 12, QFont::Normal);
    }
    if (!line_.isEmpty()) write(line_, waits_ ? t.ochre : t.quiet, 12, QFont::Normal);
}

QPixmap drawingOf(edit::Beginning beginning, QSize size, double ratio) {
    QPixmap out(size * ratio);
    out.setDevicePixelRatio(ratio);
    QPainter p(&out);
    p.setRenderHint(QPainter::Antialiasing);
    const QColor sand(0xC9, 0xA5, 0x6A), dyke(0x8A, 0x5A, 0x44), water(0x5F, 0xAA, 0xA2), night(0x2C, 0x3B, 0x3B);
    const QColor marsh(0x5C, 0x6B, 0x4C), figure(0xC4, 0x45, 0x2D), line(0x2A, 0x24, 0x20);
    const double w = size.width(), h = size.height();
    const auto stands = [&](double x, double foot) {
        p.setPen(QPen(figure, 2.5));
        p.drawLine(QPointF(x, foot - 11), QPointF(x, foot));
        p.setPen(Qt::NoPen);
        p.setBrush(figure);
        p.drawEllipse(QPointF(x, foot - 13), 3.5, 3.5);
    };
    switch (beginning) {
        case edit::Beginning::from_above:
            p.fillRect(QRectF(0, 0, w, h), sand);
            p.fillRect(QRectF(w * 0.12, h * 0.16, w * 0.46, h * 0.5), line);
            p.fillRect(QRectF(w * 0.12 + 2, h * 0.16 + 2, w * 0.46 - 4, h * 0.5 - 4), water);
            p.fillRect(QRectF(0, h * 0.82, w, 4), dyke);
            stands(w * 0.8, h * 0.72);
            break;
        case edit::Beginning::from_the_side:
            p.fillRect(QRectF(0, 0, w, h), night);
            p.fillRect(QRectF(0, h * 0.78, w, h * 0.22), dyke);
            p.fillRect(QRectF(w * 0.36, h * 0.56, w * 0.26, h * 0.22), dyke);
            p.fillRect(QRectF(w * 0.74, h * 0.36, w * 0.26, 4), sand);
            stands(w * 0.48, h * 0.56);
            break;
        case edit::Beginning::isometric: {
            p.fillRect(QRectF(0, 0, w, h), marsh);
            const auto diamond = [&](double part, const QColor& fill) {
                p.setPen(QPen(line, 1.5));
                p.setBrush(fill);
                p.drawPolygon(QPolygonF{QPointF(w / 2, h / 2 - h * part), QPointF(w / 2 + w * part, h / 2),
                                        QPointF(w / 2, h / 2 + h * part), QPointF(w / 2 - w * part, h / 2)});
            };
            diamond(0.42, sand);
            diamond(0.2, water);
            stands(w * 0.74, h * 0.56);
            break;
        }
    }
    return out;
}

DropArea::DropArea(QWidget* parent) : QWidget(parent) {
    setObjectName("dropArea");
    setMinimumHeight(196);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(20, 80, 20, 16);
    column->setSpacing(8);
    auto* what = label(tr("Drop a sheet, pictures, a folder or a project here"), "title", this);
    auto* then = label(tr("The picture is read: its tiles, its gaps, how tiles meet. The level takes its cells."),
                       "quiet", this);
    for (QLabel* l : {what, then}) {
        l->setAlignment(Qt::AlignHCenter);
        l->setWordWrap(true);
        column->addWidget(l);
    }
    column->addSpacing(6);
    auto* row = new QHBoxLayout;
    row->setSpacing(8);
    row->addStretch();
    auto* picture = new QPushButton(tr("Choose a picture…"), this);
    picture->setObjectName("startPicture");
    setRole(picture, "primary");
    auto* project = new QPushButton(tr("Open a project…"), this);
    project->setObjectName("startOpen");
    connect(picture, &QPushButton::clicked, this, &DropArea::pictureAsked);
    connect(project, &QPushButton::clicked, this, &DropArea::projectAsked);
    for (QPushButton* b : {picture, project}) row->addWidget(b);
    row->addStretch();
    column->addLayout(row);
    column->addStretch();
}

void DropArea::setLit(bool lit) {
    lit_ = lit;
    update();
}

void DropArea::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Tokens t = tokensOf(this);
    QPen edge(lit_ ? t.brine : t.faint, 2, Qt::DashLine);
    edge.setDashPattern({4, 3});
    p.setPen(edge);
    p.setBrush(t.card);
    p.drawRoundedRect(QRectF(rect()).adjusted(1, 1, -1, -1), 12, 12);
    // A sheet of tiles of which one comes out.
    const QRectF sheet(width() / 2.0 - 20, 26, 40, 40);
    p.setPen(QPen(t.line, 1.5));
    for (const double part : {1.0 / 3, 2.0 / 3}) {
        p.drawLine(QPointF(sheet.left(), sheet.top() + sheet.height() * part),
                   QPointF(sheet.right(), sheet.top() + sheet.height() * part));
        p.drawLine(QPointF(sheet.left() + sheet.width() * part, sheet.top()),
                   QPointF(sheet.left() + sheet.width() * part, sheet.bottom()));
    }
    p.setPen(QPen(t.ink, 2));
    p.setBrush(Qt::NoBrush);
    p.drawRoundedRect(sheet, 4, 4);
    const double tile = sheet.width() / 3;
    p.fillRect(QRectF(sheet.left() + tile + 1, sheet.top() + tile + 1, tile - 2, tile - 2),
               lit_ ? t.brine : t.vermilion);
}

StartWay::StartWay(QWidget* parent) : QWidget(parent) { setFixedHeight(44); }

void StartWay::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Tokens t = tokensOf(this);
    const QString names[] = {tr("Cut"), tr("Join"), tr("Lay"), tr("Dress"), tr("Bound"), tr("Walk"), tr("Hand over")};
    constexpr int kStops = 7;
    const double from = 34, to = width() - 34.0;
    p.setPen(QPen(t.line, 2));
    p.drawLine(QPointF(from, 10), QPointF(to, 10));
    QFont font = this->font();
    font.setPixelSize(12);
    p.setFont(font);
    for (int i = 0; i < kStops; ++i) {
        const QPointF dot(from + (to - from) * i / (kStops - 1), 10);
        p.setPen(QPen(t.faint, 2));
        p.setBrush(t.window);
        p.drawEllipse(dot, 6, 6);
        p.setPen(t.quiet);
        p.drawText(QRectF(dot.x() - 34, 22, 68, 18), Qt::AlignCenter, names[i]);
    }
}

} // namespace vic::app
