#include "app/join/case_list.hpp"

#include <QColor>
#include <QFont>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPaintEvent>
#include <QPainter>
#include <QPen>
#include <QPointF>
#include <QRectF>
#include <QResizeEvent>
#include <algorithm>
#include <cstddef>

#include "app/parts/panel.hpp"
#include "app/parts/thumbs.hpp"
#include "app/parts/tokens.hpp"
#include "app/parts/translated.hpp"
#include "level/material.hpp"

namespace vic::app {

CaseList::CaseList(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("cases");
    setAccessibleName(tr("Cases"));
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
}

void CaseList::layOut() {
    constexpr int kStep = 42, kTile = 36, kLeft = 74;
    places_.clear();
    titles_.clear();
    const level::Material* m = session_.material();
    height_ = 0;
    if (m && m->joins.kind != level::JoinKind::plain) {
        const bool corners = m->joins.kind == level::JoinKind::corners;
        const auto joined = [corners](join::Mask mask) {
            return corners ? join::joined_corners(mask) : join::joined_sides(mask);
        };
        const QString titles[3] = {corners ? tr("none, one or\ntwo corners") : tr("alone, one\nor two sides"),
                                   corners ? tr("three\ncorners") : tr("three\nsides"),
                                   corners ? tr("four\ncorners") : tr("four\nsides")};
        const int columns = std::max(1, (width() - kLeft) / kStep);
        int y = 0;
        for (int group = 0; group < 3; ++group) {
            std::vector<join::Mask> masks;
            for (const join::Mask mask : join::cases(m->joins.kind)) {
                const int sides = joined(mask);
                if ((group == 0 && sides <= 2) || (group == 1 && sides == 3) || (group == 2 && sides == 4))
                    masks.push_back(mask);
            }
            std::stable_sort(masks.begin(), masks.end(),
                             [&](join::Mask a, join::Mask b) { return joined(a) < joined(b); });
            titles_.emplace_back(titles[group], QRect(0, y, kLeft - 6, kTile));
            for (std::size_t i = 0; i < masks.size(); ++i)
                places_.emplace_back(masks[i], QRect(kLeft + static_cast<int>(i) % columns * kStep,
                                                     y + static_cast<int>(i) / columns * kStep, kTile, kTile));
            y += (static_cast<int>(masks.size()) + columns - 1) / columns * kStep + 6;
        }
        height_ = y;
    }
    setMinimumHeight(height_);
    updateGeometry();
}

QSize CaseList::sizeHint() const { return {700, height_}; }

void CaseList::refresh() {
    layOut();
    update();
}

void CaseList::setToDraw(const std::vector<join::Mask>& masks) {
    toDraw_ = {masks.begin(), masks.end()};
    update();
}

void CaseList::resizeEvent(QResizeEvent*) { layOut(); }

QPoint CaseList::caseCentre(join::Mask mask) const {
    for (const auto& [m, r] : places_)
        if (m == mask) return r.center();
    return {};
}

void CaseList::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Tokens t = tokensOf(this);
    const level::Material* m = session_.material();
    if (!m) return;
    QFont font = this->font();
    font.setPixelSize(11);
    p.setFont(font);
    p.setPen(t.quiet);
    for (const auto& [text, r] : titles_) p.drawText(r, Qt::AlignLeft | Qt::AlignVCenter, text);
    std::set<join::Mask> doubtful;
    for (const auto& d : session_.derived().joinsRead().doubtful) doubtful.insert(d.mask);
    for (const auto& [mask, r] : places_) {
        const auto variants = join::serving(m->joins, mask);
        const bool own = m->joins.cases.contains(mask);
        const bool have = !variants.empty();
        if (have) {
            p.setPen(QPen(own ? t.brine : t.faint, 2));
            p.setBrush(t.window);
            p.drawRect(QRectF(r).adjusted(1, 1, -1, -1));
            p.drawPixmap(r.adjusted(2, 2, -2, -2),
                         tileThumb(session_.project(), variants.front().tile, 32, variants.front().turn));
            if (variants.size() > 1) {
                p.setPen(Qt::NoPen);
                p.setBrush(QColor("#22302D"));
                p.drawEllipse(QPointF(r.right() - 6, r.bottom() - 6), 7, 7);
                p.setPen(QColor("#FBF8F1"));
                QFont tiny = font;
                tiny.setPixelSize(9);
                p.setFont(tiny);
                p.drawText(QRectF(r.right() - 13, r.bottom() - 13, 14, 14), Qt::AlignCenter,
                           QString::number(variants.size()));
                p.setFont(font);
            }
        } else {
            QPen dash(t.vermilion, 2, Qt::CustomDashLine);
            dash.setDashPattern({2, 2});
            p.setPen(dash);
            p.setBrush(t.card);
            p.drawRect(QRectF(r).adjusted(1, 1, -1, -1));
            // Where the case joins, as a key: what is missing should be readable.
            p.setPen(Qt::NoPen);
            p.setBrush(t.faint);
            for (unsigned i = 0; i < 8; ++i)
                if (mask & (1U << i))
                    p.drawEllipse(
                        QPointF(r.center()) + QPointF(join::kNeighbour[i].x * 9.0, join::kNeighbour[i].y * 9.0), 2.4,
                        2.4);
        }
        if (doubtful.contains(mask)) {
            p.setPen(QPen(t.window, 1));
            p.setBrush(t.ochre);
            p.drawEllipse(QPointF(r.right() - 4, r.top() + 5), 4.5, 4.5);
        }
        if (toDraw_.contains(mask)) {
            p.setPen(QPen(t.ink, 2));
            p.setBrush(Qt::NoBrush);
            p.drawLine(r.left() + 4, r.bottom() - 2, r.right() - 4, r.bottom() - 2);
            p.drawLine(r.left() + 4, r.bottom() - 5, r.left() + 9, r.bottom() - 5);
        }
        if (mask == session_.joinCase()) {
            p.setBrush(Qt::NoBrush);
            p.setPen(QPen(t.vermilion, 2));
            p.drawRect(QRectF(r).adjusted(-2, -2, 2, 2));
        }
    }
}

void CaseList::mousePressEvent(QMouseEvent* event) {
    for (const auto& [mask, r] : places_)
        if (r.contains(event->pos())) return session_.setCase(mask);
}

void CaseList::mouseMoveEvent(QMouseEvent* event) {
    for (const auto& [mask, r] : places_) {
        if (!r.contains(event->pos())) continue;
        const level::Material* m = session_.material();
        QString text = translated(join::describe(mask, m ? m->joins.kind : level::JoinKind::full));
        for (const auto& d : session_.derived().joinsRead().doubtful)
            if (d.mask == mask) text += "\n" + tr("Doubtful: %1").arg(translated(d.why));
        if (toDraw_.contains(mask)) text += "\n" + tr("One of those to draw");
        return setToolTip(text);
    }
    setToolTip({});
}

void CaseList::keyPressEvent(QKeyEvent* event) {
    const int by = event->key() == Qt::Key_Right ? 1 : event->key() == Qt::Key_Left ? -1 : 0;
    if (by == 0) return QWidget::keyPressEvent(event);
    for (std::size_t i = 0; i < places_.size(); ++i)
        if (places_[i].first == session_.joinCase())
            return session_.setCase(
                places_[(i + places_.size() + static_cast<std::size_t>(by)) % places_.size()].first);
}

} // namespace vic::app
