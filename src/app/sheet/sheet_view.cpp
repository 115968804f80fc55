#include "app/sheet/sheet_view.hpp"

#include <QBrush>
#include <QColor>
#include <QEvent>
#include <QFont>
#include <QLineF>
#include <QMouseEvent>
#include <QPaintEvent>
#include <QPainter>
#include <QPen>
#include <QResizeEvent>
#include <QSizePolicy>
#include <QString>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>
#include <map>
#include <utility>

#include "app/parts/glyphs.hpp"
#include "app/parts/tokens.hpp"
#include "app/parts/translated.hpp"
#include "app/session/play_clock.hpp"
#include "base/files.hpp"
#include "base/turn.hpp"
#include "level/material.hpp"

namespace vic::app {

SheetView::SheetView(Session& session, Use use, QWidget* parent) : QWidget(parent), session_(session), use_(use) {
    setMouseTracking(true);
    setFocusPolicy(use == Use::cut ? Qt::StrongFocus : Qt::NoFocus);
    setAccessibleName(tr("Sheet"));
    QSizePolicy policy(QSizePolicy::Expanding, use == Use::cut ? QSizePolicy::Expanding : QSizePolicy::Preferred);
    policy.setHeightForWidth(use != Use::cut);
    setSizePolicy(policy);
    connect(&session_.playClock(), &PlayClock::ticked, this, [this] {
        const level::Sheet* s = isVisible() ? sheet() : nullptr;
        if (!s) return;
        std::vector<level::TileId> now;
        for (const level::Tile& tile : s->tiles)
            if (!tile.frames.empty()) now.push_back(level::frame_at(tile, session_.playClock().now()));
        if (now == playing_) return;
        playing_ = std::move(now);
        update();
    });
}

const level::Sheet* SheetView::sheet() const { return session_.isOpen() ? session_.project().sheet(sheet_) : nullptr; }

void SheetView::setSheet(level::SheetId id) {
    const bool other = sheet_ != id;
    sheet_ = id;
    const level::Sheet* s = sheet();
    if (!s || imageOf_ != s->image) {
        imageOf_ = s ? s->image : nullptr;
        image_ = imageOf_ ? toQImage(*imageOf_) : QImage();
    }
    if (other) {
        shownCut_.reset();
        islands_.clear();
        kinds_.clear();
        moved_.reset();
        setEnlarged(enlarged_);
    }
    update();
}

void SheetView::setShownCut(std::optional<level::Cut> cut) {
    shownCut_ = cut;
    update();
}

void SheetView::setChosen(const std::set<level::TileId>& tiles) {
    chosen_ = tiles;
    update();
}

void SheetView::fit() {
    fitted_ = true;
    if (image_.isNull()) return;
    if (use_ == Use::cut) {
        const double room = std::min((width() - 80.0) / image_.width(), (height() - 80.0) / image_.height());
        zoom_ = room >= 1 ? std::clamp(std::floor(room), 1.0, 8.0) : std::max(room, 1.0 / 16);
        origin_ = QPointF(std::floor((width() - image_.width() * zoom_) / 2),
                          std::floor((height() - image_.height() * zoom_) / 2));
    } else if (enlarged_ > 0) {
        zoom_ = enlarged_;
        origin_ = {};
    } else {
        zoom_ = std::min(width() / double(image_.width()), height() / double(image_.height()));
        if (zoom_ >= 1) zoom_ = std::floor(zoom_ * 2) / 2;
        origin_ = QPointF(std::floor((width() - image_.width() * zoom_) / 2),
                          std::floor((height() - image_.height() * zoom_) / 2));
    }
    update();
}

void SheetView::setEnlarged(int times) {
    enlarged_ = times;
    if (times > 0)
        setMinimumSize(image_.size() * times);
    else
        setMinimumSize(0, 0);
    fit();
    updateGeometry();
}

QSize SheetView::sizeHint() const {
    if (enlarged_ > 0 && !image_.isNull()) return image_.size() * enlarged_;
    return {240, use_ == Use::cut ? 240 : heightForWidth(240)};
}

int SheetView::heightForWidth(int width) const {
    if (image_.isNull()) return 60;
    if (enlarged_ > 0) return image_.height() * enlarged_;
    double z = width / double(image_.width());
    if (z >= 1) z = std::floor(z * 2) / 2;
    return std::clamp(static_cast<int>(std::ceil(image_.height() * z)), 24, 300);
}

QRectF SheetView::place(const Box& b) const {
    return {origin_.x() + b.x * zoom_, origin_.y() + b.y * zoom_, b.w * zoom_, b.h * zoom_};
}

Point SheetView::pixelAt(QPointF at) const {
    return {static_cast<int>(std::floor((at.x() - origin_.x()) / zoom_)),
            static_cast<int>(std::floor((at.y() - origin_.y()) / zoom_))};
}

const level::Tile* SheetView::tileAt(QPointF at) const {
    const level::Sheet* s = sheet();
    if (!s) return nullptr;
    const Point p = pixelAt(at);
    if (use_ != Use::joins)
        for (const level::Tile& t : s->tiles)
            if (t.is_block() && blockTag(t).contains(at)) return &t;
    for (const level::Tile& t : s->tiles)
        if (!t.is_block() && t.box.contains(p)) return &t;
    return nullptr;
}

QRectF SheetView::blockTag(const level::Tile& block) const {
    const QRectF r = place(block.box);
    return {r.left(), r.top(), std::min(34.0, r.width()), std::min(16.0, r.height())};
}

void SheetView::paintBlocks(QPainter& p, const level::Sheet& s) {
    const Tokens t = tokensOf(this);
    QFont font = this->font();
    font.setPixelSize(10);
    p.setFont(font);
    for (const level::Tile& tile : s.tiles) {
        if (!tile.is_block()) continue;
        const QRectF r = place(tile.box);
        if (!r.intersects(QRectF(rect()))) continue;
        p.setBrush(Qt::NoBrush);
        p.setPen(QPen(QColor("#22302D"), 4));
        p.drawRect(r);
        p.setPen(QPen(t.ochre, 2));
        p.drawRect(r);
        const QRectF tag = blockTag(tile);
        p.fillRect(tag, t.ochre);
        p.setPen(QColor("#22302D"));
        p.drawText(tag, Qt::AlignCenter, QString("%1 × %2").arg(tile.block.cells.w).arg(tile.block.cells.h));
    }
}

QPoint SheetView::tileCentre(std::size_t index) const {
    const level::Sheet* s = sheet();
    if (!s || index >= s->tiles.size()) return {};
    const level::Tile& t = s->tiles[index];
    return (t.is_block() ? blockTag(t) : place(t.box)).center().toPoint();
}

SheetView::Petal SheetView::petal(const QRectF& r, unsigned bit) {
    const double d = std::clamp(r.width() / 7, 2.0, 6.0);
    const Point n = join::kNeighbour[bit];
    return {{r.center().x() + n.x * (r.width() / 2 - d * 0.8), r.center().y() + n.y * (r.height() / 2 - d * 0.8)}, d};
}

QPoint SheetView::petalCentre(std::size_t index, unsigned bit) const {
    const level::Sheet* s = sheet();
    return s && index < s->tiles.size() ? petal(place(s->tiles[index].box), bit).at.toPoint() : QPoint();
}

std::optional<SheetView::PetalHit> SheetView::petalAt(QPointF at) const {
    const level::Material* m = session_.material();
    const level::Tile* tile = tileAt(at);
    if (!m || !tile || m->joins.kind == level::JoinKind::plain) return std::nullopt;
    for (const auto& [mask, variants] : m->joins.cases)
        for (const auto& v : variants) {
            if (v.tile != tile->id || v.turn != Turn{}) continue;
            for (unsigned i = 0; i < 8; ++i) {
                if (!join::told_apart(m->joins.kind, i)) continue;
                const Petal p = petal(place(tile->box), i);
                if (QLineF(p.at, at).length() <= p.across / 2 + 1.5) return PetalHit{tile->id, mask, int(i)};
            }
        }
    return std::nullopt;
}

void SheetView::paintPetals(QPainter& p, const level::Sheet& s) {
    const level::Material* m = session_.material();
    if (!m || m->joins.kind == level::JoinKind::plain) return;
    std::map<level::TileId, const level::Tile*> here;
    for (const level::Tile& tile : s.tiles) here[tile.id] = &tile;
    const Tokens t = tokensOf(this);
    std::set<level::TileId> doubtful;
    for (const auto& d : session_.derived().joinsRead().doubtful) doubtful.insert(d.tile);
    p.setRenderHint(QPainter::Antialiasing);
    const auto hit = petalAt(pointer_);
    for (const auto& [mask, variants] : m->joins.cases) {
        for (const auto& v : variants) {
            const auto found = here.find(v.tile);
            if (found == here.end() || v.turn != Turn{}) continue;
            const QRectF r = place(found->second->box);
            if (doubtful.contains(v.tile)) {
                p.setPen(QPen(t.ochre, 2));
                p.setBrush(Qt::NoBrush);
                p.drawRect(r.adjusted(1, 1, -1, -1));
            }
            for (unsigned i = 0; i < 8; ++i) {
                if (!join::told_apart(m->joins.kind, i)) continue;
                const Petal at = petal(r, i);
                const bool on = mask & (1U << i);
                const bool under = underMouse() && hit && hit->tile == v.tile && hit->bit == int(i);
                p.setPen(under ? QPen(t.vermilion, 2) : QPen(QColor("#22302D"), 0.8));
                p.setBrush(on ? QBrush(QColor("#FBF8F1")) : QBrush(QColor(34, 48, 45, 130)));
                p.drawEllipse(at.at, at.across / 2 + (under ? 1 : 0), at.across / 2 + (under ? 1 : 0));
            }
        }
    }
    p.setRenderHint(QPainter::Antialiasing, false);
}

// Where one tile ends and the next begins, and which one a click would take.
void SheetView::paintLines(QPainter& p, const level::Sheet& s) {
    for (const level::Tile& tile : s.tiles) {
        const QRectF r = place(tile.box);
        if (tile.is_block() || r.width() < 10 || !r.intersects(QRectF(rect()))) continue;
        p.fillRect(QRectF(std::round(r.right()) - 1, r.top(), 1, r.height()), QColor(20, 16, 10, 70));
        p.fillRect(QRectF(r.left(), std::round(r.bottom()) - 1, r.width(), 1), QColor(20, 16, 10, 70));
    }
    const level::Tile* pointed = underMouse() ? tileAt(pointer_) : nullptr;
    if (!pointed || pointed->is_block()) return;
    const QRectF r = place(pointed->box);
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(QColor("#FBF8F1"), 3));
    p.drawRect(r);
    p.setPen(QPen(tokensOf(this).ink, 1));
    p.drawRect(r);
}

void SheetView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Tokens t = tokensOf(this);
    if (use_ == Use::cut) p.fillRect(rect(), t.outside);
    const level::Sheet* s = sheet();
    if (!s || image_.isNull()) {
        p.setPen(use_ == Use::cut ? QColor("#EAE4D6") : t.quiet);
        const QString text = s ? translated(s->trouble)
                               : tr("Drop a PNG of tiles anywhere on the window.\nVicinum reads how it is cut and "
                                    "proposes it; you decide.");
        p.drawText(rect().adjusted(24, 24, -24, -24), Qt::AlignCenter | Qt::TextWordWrap, text);
        return;
    }
    const QRectF whole = place(box_of(imageOf_->size()));
    p.setClipRect(rect());
    paintChequer(p, whole, t.dark ? QColor("#333D3A") : QColor("#CFC8B8"),
                 t.dark ? QColor("#2B3431") : QColor("#C3BBA9"));
    p.drawImage(whole, image_);
    // Animated tiles play in their place.
    for (const level::Tile& tile : s->tiles) {
        if (tile.frames.empty() || shownCut_) continue;
        const level::TileId now = level::frame_at(tile, session_.playClock().now());
        for (const level::Tile& frame : s->tiles)
            if (frame.id == now && now != tile.id && place(tile.box).intersects(QRectF(rect()))) {
                paintChequer(p, place(tile.box), t.dark ? QColor("#333D3A") : QColor("#CFC8B8"),
                             t.dark ? QColor("#2B3431") : QColor("#C3BBA9"));
                p.drawImage(place(tile.box), image_, QRectF(frame.box.x, frame.box.y, frame.box.w, frame.box.h));
            }
    }
    if (use_ == Use::cut && mode_ == Mode::islands) {
        paintIslands(p);
        if (rubber_ && !moved_) {
            p.setPen(QPen(t.vermilion, 1, Qt::DashLine));
            p.drawRect(QRectF(*rubber_, pointer_).normalized());
        }
        return;
    }
    if (use_ == Use::cut) {
        paintMarks(p, *s);
        paintGrips(p);
    }
    if (use_ == Use::pick) paintLines(p, *s);
    if (use_ == Use::joins)
        paintPetals(p, *s);
    else if (!shownCut_)
        paintBlocks(p, *s);
    p.setBrush(Qt::NoBrush);
    for (const level::Tile& tile : s->tiles) {
        if (!chosen_.contains(tile.id)) continue;
        const QRectF r = place(tile.box);
        p.setPen(QPen(QColor("#FBF8F1"), 4));
        p.drawRect(r);
        p.setPen(QPen(t.vermilion, 2));
        p.drawRect(r);
    }
    if (rubber_) {
        p.setPen(QPen(boxing_ ? t.vermilion : t.brine, 1, Qt::DashLine));
        p.drawRect(QRectF(*rubber_, pointer_).normalized());
    }
}

void SheetView::mousePressEvent(QMouseEvent* event) {
    pointer_ = event->position();
    if (event->button() == Qt::MiddleButton && use_ == Use::cut) {
        pan_ = event->position();
        return;
    }
    if (event->button() == Qt::RightButton && use_ == Use::pick) {
        if (const level::Tile* t = tileAt(event->position()); t && !t->blank)
            emit tileAsked(t->id, event->globalPosition().toPoint());
        return;
    }
    if (event->button() != Qt::LeftButton) return;
    if (use_ == Use::cut && mode_ == Mode::islands) return pressIsland(event);
    if (use_ == Use::cut) {
        grip_ = gripAt(event->position());
        if (grip_) return;
        rubber_ = event->position();
        boxing_ = (event->modifiers() & Qt::ShiftModifier) != 0;
        return;
    }
    if (use_ == Use::joins && event->modifiers() == Qt::NoModifier)
        if (const auto hit = petalAt(event->position())) {
            emit petalClicked(hit->tile, hit->mask, hit->bit);
            return;
        }
    if (use_ == Use::pick) rubber_ = event->position();
    if (const level::Tile* t = tileAt(event->position()); t && !t->blank) emit tileClicked(t->id, event->modifiers());
}

void SheetView::mouseMoveEvent(QMouseEvent* event) {
    if (pan_) {
        origin_ += event->position() - *pan_;
        origin_ = QPointF(std::round(origin_.x()), std::round(origin_.y()));
        pan_ = event->position();
        fitted_ = false;
    }
    pointer_ = event->position();
    if (grip_) {
        const level::Cut cut = pulled(*grip_, pointer_);
        setShownCut(cut);
        emit cutPulled(cut, false);
        return;
    }
    if (moved_) {
        const level::PropKind* k = session_.project().prop_kind(moved_->id);
        const Point by = pixelAt(pointer_) - pixelAt(*rubber_);
        if (k && pivoting_) {
            moved_->pivot = pixelAt(pointer_) - k->box.corner();
        } else if (k) {
            moved_->box.x = std::clamp(k->box.x + by.x, 0, imageOf_->width() - k->box.w);
            moved_->box.y = std::clamp(k->box.y + by.y, 0, imageOf_->height() - k->box.h);
        }
        return update();
    }
    if (use_ == Use::cut && mode_ == Mode::lattice) {
        const auto grip = gripAt(pointer_);
        setCursor(!grip ? Qt::ArrowCursor : grip->across ? Qt::SplitHCursor : Qt::SplitVCursor);
    }
    const level::Tile* t = mode_ == Mode::lattice ? tileAt(pointer_) : nullptr;
    emit tileHovered(t ? t->id : 0);
    update();
}

void SheetView::mouseReleaseEvent(QMouseEvent* event) {
    pan_.reset();
    if (grip_) {
        const level::Cut cut = pulled(*grip_, event->position());
        grip_.reset();
        setShownCut({});
        emit cutPulled(cut, true);
        return;
    }
    if (!rubber_) return;
    if (mode_ == Mode::islands) return releaseIsland(event);
    const QRectF r = QRectF(*rubber_, event->position()).normalized();
    const bool dragged = r.width() > 4 || r.height() > 4;
    rubber_.reset();
    const level::Sheet* s = sheet();
    if (s && dragged && boxing_) {
        const Point a = pixelAt(r.topLeft());
        const Point b = pixelAt(r.bottomRight());
        const Box box = intersection(spanning(a, b), box_of(imageOf_->size()));
        if (!box.empty()) emit boxDrawn(box);
    } else if (s && dragged) {
        std::vector<level::TileId> inside;
        for (const level::Tile& t : s->tiles)
            if (!t.blank && !t.is_block() && place(t.box).intersects(r)) inside.push_back(t.id);
        emit tilesDragged(inside);
    } else if (use_ == Use::pick) {
        // It was taken as it was pressed.
    } else if (const level::Tile* t = tileAt(event->position())) {
        emit tileClicked(t->id, event->modifiers());
    } else {
        emit tilesDragged({});
    }
    update();
}

void SheetView::wheelEvent(QWheelEvent* event) {
    if (use_ == Use::pick && event->modifiers() & Qt::ControlModifier && event->angleDelta().y() != 0) {
        emit enlargeAsked(event->angleDelta().y() > 0 ? 1 : -1);
        return event->accept();
    }
    if (use_ != Use::cut || image_.isNull()) return event->ignore();
    static constexpr double steps[] = {1.0 / 16, 1.0 / 8, 0.25, 0.5, 1, 2, 3, 4, 5, 6, 8, 12, 16, 24};
    int at = 0;
    for (int i = 0; i < static_cast<int>(std::size(steps)); ++i)
        if (std::abs(steps[i] - zoom_) < std::abs(steps[at] - zoom_)) at = i;
    at = std::clamp(at + (event->angleDelta().y() > 0 ? 1 : -1), 0, static_cast<int>(std::size(steps)) - 1);
    const QPointF fixed = (event->position() - origin_) / zoom_;
    zoom_ = steps[at];
    origin_ = event->position() - fixed * zoom_;
    origin_ = QPointF(std::round(origin_.x()), std::round(origin_.y()));
    fitted_ = false;
    update();
    event->accept();
}

void SheetView::resizeEvent(QResizeEvent*) {
    if (fitted_ || use_ != Use::cut) fit();
}

void SheetView::leaveEvent(QEvent*) {
    emit tileHovered(0);
    update();
}

} // namespace vic::app
