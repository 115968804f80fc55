#include "app/tray/pockets.hpp"

#include <QFont>
#include <QMouseEvent>
#include <QPaintEvent>
#include <QPainter>
#include <QPen>
#include <QPixmap>
#include <QPointF>
#include <QRectF>
#include <QString>
#include <QWidget>
#include <algorithm>
#include <cstddef>
#include <vector>

#include "app/parts/tokens.hpp"
#include "app/session/session.hpp"
#include "app/tray/hand_card.hpp"
#include "base/error.hpp"
#include "edit/hand_text.hpp"
#include "edit/stroke.hpp"

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
    if (kept.is<edit::held::Nothing>())
        keep(index);
    else
        session_.setHand(kept);
}

void Pockets::keep(int index) {
    hands_[static_cast<std::size_t>(index)] = session_.hand();
    update();
}

QString Pockets::packed() const { return QString::fromStdString(edit::hands_to_text({hands_.begin(), hands_.end()})); }

void Pockets::unpack(const QString& text) {
    hands_ = {};
    if (!text.isEmpty()) {
        try {
            const std::vector<edit::Hand> kept = edit::hands_from_text(text.toStdString(), session_.project());
            std::copy_n(kept.begin(), std::min(kept.size(), hands_.size()), hands_.begin());
        } catch (const InputError&) {
            // Kept by an earlier version: they are empty again, and nothing else is lost.
        }
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
        if (session_.isOpen() && !hand.is<edit::held::Nothing>()) {
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
