#include "app/parts/finding_sign.hpp"

#include <QPainter>
#include <QPen>
#include <QPointF>
#include <QPolygonF>

#include "app/parts/tokens.hpp"

namespace vic::app {

// One for each severity, so that colour is never the only sign.
QPixmap findingSign(findings::Severity severity, const Tokens& t) {
    QPixmap pixmap(48, 48);
    pixmap.setDevicePixelRatio(2);
    pixmap.fill(Qt::transparent);
    QPainter p(&pixmap);
    p.setRenderHint(QPainter::Antialiasing);
    if (severity == findings::Severity::error) {
        p.setPen(QPen(t.vermilion, 2));
        p.drawEllipse(QPointF(12, 12), 7, 7);
        p.drawLine(QPointF(7.5, 16.5), QPointF(16.5, 7.5));
    } else if (severity == findings::Severity::warning) {
        p.setPen(QPen(t.ochre, 2, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        p.drawPolygon(QPolygonF{QPointF(12, 4), QPointF(20, 19), QPointF(4, 19)});
    } else {
        p.setPen(QPen(t.quiet, 2));
        p.drawEllipse(QPointF(12, 12), 4, 4);
    }
    return pixmap;
}

} // namespace vic::app
