#include "app/walk/setting_sign.hpp"

#include <QLineF>
#include <QPaintEvent>
#include <QPainter>
#include <QPainterPath>
#include <QPen>
#include <QPointF>
#include <QRectF>

#include "app/parts/tokens.hpp"

namespace vic::app {

namespace {

class Sign {
  public:
    explicit Sign(const Tokens& tokens) : tokens_(tokens), out_(46, 28) {
        out_.fill(Qt::transparent);
        painter_.begin(&out_);
        painter_.setRenderHint(QPainter::Antialiasing);
    }
    QPixmap done() {
        painter_.end();
        return out_;
    }
    void ground(double from, double to, double y = 24.5) {
        painter_.setPen(QPen(tokens_.ink, 1.5));
        painter_.drawLine(QLineF(from, y, to, y));
    }
    void wall(double x, double from, double to) {
        painter_.setPen(QPen(tokens_.ink, 1.5));
        painter_.drawLine(QLineF(x, from, x, to));
    }
    // By the middle of his foot.
    void walker(double x, double y, bool faint = false) {
        QColor colour = tokens_.vermilion;
        if (faint) colour.setAlpha(90);
        painter_.setPen(Qt::NoPen);
        painter_.setBrush(colour);
        painter_.drawRect(QRectF(x - 2.5, y - 8, 5, 8));
    }
    void way(const QPainterPath& path) {
        painter_.setBrush(Qt::NoBrush);
        painter_.setPen(QPen(tokens_.ink, 1.2, Qt::DotLine));
        painter_.drawPath(path);
        const QPointF end = path.currentPosition();
        const double angle = path.angleAtPercent(1);
        painter_.setPen(QPen(tokens_.ink, 1.2));
        for (const double turn : {150.0, -150.0}) {
            QLineF barb(end, end + QPointF(4, 0));
            barb.setAngle(angle + turn);
            painter_.drawLine(barb);
        }
    }
    void arc(QPointF from, QPointF over, QPointF to) {
        QPainterPath path(from);
        path.quadTo(over, to);
        way(path);
    }
    void line(QPointF from, QPointF to) {
        QPainterPath path(from);
        path.lineTo(to);
        way(path);
    }
    QPainter& painter() { return painter_; }

  private:
    const Tokens& tokens_;
    QPixmap out_;
    QPainter painter_;
};

void drawInAir(Sign& s, Setting setting) {
    switch (setting) {
        case Setting::least_jump: // two jumps of one walker: let go early, and held
            s.ground(2, 44);
            s.arc({8, 22}, {14, 8}, {20, 22});
            s.arc({8, 22}, {22, -14}, {38, 22});
            s.walker(8, 24);
            break;
        case Setting::wall_jump:
            s.wall(8, 2, 26);
            s.ground(8, 44);
            s.arc({12, 18}, {24, -6}, {38, 20});
            s.walker(12, 20);
            break;
        case Setting::gravity: // the same jump, soon and late at its height
            s.ground(2, 44);
            s.arc({8, 22}, {16, -16}, {24, 22});
            s.walker(8, 24);
            s.line({36, 6}, {36, 20});
            break;
        case Setting::fastest:
            s.walker(23, 12);
            s.line({17, 2}, {17, 24});
            s.line({23, 14}, {23, 24});
            s.line({29, 2}, {29, 24});
            break;
        case Setting::grace_edge: // past the edge, and still up
            s.ground(2, 20);
            s.arc({28, 22}, {34, -4}, {42, 12});
            s.walker(16, 24, true);
            s.walker(28, 24);
            break;
        case Setting::grace_landing:
            s.ground(2, 44);
            s.walker(14, 16);
            s.line({14, 17}, {14, 23});
            s.arc({14, 22}, {24, -8}, {38, 20});
            break;
        default:
            break;
    }
}

void drawElsewhere(Sign& s, Setting setting, const Tokens& t) {
    QPainter& p = s.painter();
    switch (setting) {
        case Setting::run:
            s.ground(2, 44);
            s.walker(10, 24, true);
            s.walker(18, 24, true);
            s.walker(28, 24);
            s.line({33, 18}, {43, 18});
            break;
        case Setting::climb:
            p.setPen(QPen(t.ink, 1.2));
            p.drawLine(QLineF(17, 2, 17, 26));
            p.drawLine(QLineF(29, 2, 29, 26));
            for (int y = 6; y < 26; y += 5) p.drawLine(QLineF(17, y, 29, y));
            s.walker(23, 20);
            s.line({36, 22}, {36, 6});
            break;
        case Setting::swim: {
            QColor water = t.brine;
            water.setAlpha(90);
            p.fillRect(QRectF(2, 8, 42, 18), water);
            p.setPen(QPen(t.brine, 1.5));
            p.drawLine(QLineF(2, 8, 44, 8));
            s.walker(16, 21);
            s.line({22, 17}, {40, 12});
            break;
        }
        case Setting::foot: {
            p.setPen(QPen(t.ink, 1.2, Qt::DotLine));
            p.setBrush(Qt::NoBrush);
            p.drawRect(QRectF(16.5, 2.5, 13, 22));
            p.fillRect(QRectF(16.5, 17, 13, 8), t.vermilion);
            break;
        }
        case Setting::ways:
            s.walker(23, 18);
            for (int k = 0; k < 8; ++k) {
                QLineF ray(QPointF(23, 14), QPointF(23, 14) + QPointF(1, 0));
                ray.setAngle(45.0 * k);
                ray.setLength(k % 2 == 0 ? 12 : 11);
                p.setPen(QPen(t.ink, 1.2, k % 2 == 0 ? Qt::SolidLine : Qt::DotLine));
                const QPointF from = ray.pointAt(0.6);
                p.drawLine(QLineF(from, ray.p2()));
            }
            break;
        default:
            break;
    }
}

QPixmap drawn(Setting setting, const Tokens& tokens) {
    Sign sign(tokens);
    drawInAir(sign, setting);
    drawElsewhere(sign, setting, tokens);
    return sign.done();
}

} // namespace

SettingSign::SettingSign(Setting setting, QWidget* parent) : QWidget(parent), setting_(setting) {
    setFixedSize(46, 28);
}

void SettingSign::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.drawPixmap(0, 0, drawn(setting_, tokensOf(this)));
}

} // namespace vic::app
