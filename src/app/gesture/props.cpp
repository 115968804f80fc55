// Props: placed, dragged, removed; marks that lie there are dragged and removed with them.

#include <QCoreApplication>
#include <QGuiApplication>
#include <QKeyEvent>
#include <QPainter>
#include <QPalette>
#include <QPen>
#include <QString>
#include <cstdint>
#include <memory>
#include <optional>
#include <utility>

#include "app/gesture/gesture.hpp"
#include "app/parts/camera.hpp"
#include "app/parts/tokens.hpp"
#include "app/session/session.hpp"
#include "base/geometry.hpp"
#include "edit/levels.hpp"
#include "edit/stroke.hpp"
#include "level/level.hpp"
#include "level/project.hpp"
#include "picture/compose.hpp"

namespace vic::app {

namespace {

class Props : public Gesture {
  public:
    using Gesture::Gesture;
    bool takes(const Pointer& at) const override {
        return session().stage() == Stage::dress && (at.left() || at.button != Qt::MiddleButton);
    }
    bool press(const Pointer& at) override;
    void move(const Pointer& at) override;
    void release(const Pointer& at) override;
    void cancel() override { drag_.reset(); }
    bool preview(const Pointer& at) override;
    void paint(QPainter& painter, const std::optional<Pointer>& at) const override;
    Sentence sentence(const Pointer& at) const override;
    bool key(const QKeyEvent& event) override;

  private:
    struct Drag {
        bool mark = false;
        std::uint32_t id = 0;
        Point grip; // from the pointer to what is dragged, in pixels, of marks in cells
        level::Level level;
    };
    void place(const Pointer& at);
    void remove(const Pointer& at);
    [[nodiscard]] edit::Target where() const {
        return edit::target_of(session().project(), *session().level(), session().hand(), session().activeLayerId(),
                               false);
    }
    [[nodiscard]] bool places() const { return session().hand().is<edit::held::Prop>(); }
    // Where a prop comes to stand: free with Shift.
    [[nodiscard]] Point standing(const Pointer& at) const {
        return at.shift() ? pixelAt(at) : edit::snapped(*session().level(), pixelAt(at));
    }
    std::optional<Drag> drag_;
};

bool Props::press(const Pointer& at) {
    if (!at.left()) {
        remove(at);
        return false;
    }
    if (places()) {
        place(at);
        return false;
    }
    const level::Level& level = *session().level();
    const Point pixel = pixelAt(at);
    const Point cell = cellAt(at);
    if (const auto hit = edit::prop_at(session().project(), level, pixel)) {
        session().setProp(hit->prop.id);
        drag_ = Drag{false, hit->prop.id, hit->prop.at - pixel, *session().level()};
        return true;
    }
    if (const level::Mark* mark = edit::mark_at(level, cell)) {
        drag_ = Drag{true, mark->id, mark->cells.corner() - cell, level};
        session().setMark(mark->id);
        return true;
    }
    session().setProp(0);
    return false;
}

void Props::place(const Pointer& at) {
    const edit::Target to = where();
    if (to.obstacle != edit::Obstacle::none) return emit session().said(sentence(at).text, true);
    level::Project p = session().project();
    level::Level next =
        edit::add_prop(*session().level(), to.layer,
                       {p.next_id++, session().hand().prop(), standing(at), session().hand().turn.mirrored()});
    const QString name = QString::fromStdString(p.prop_kind(session().hand().prop())->name);
    p.put(std::move(next));
    session().apply(tr("Place %1").arg(name), std::move(p));
}

void Props::remove(const Pointer& at) {
    const level::Level& level = *session().level();
    const auto hit = edit::prop_at(session().project(), level, pixelAt(at));
    if (hit) {
        session().applyLevel(tr("Remove a prop"), edit::remove_prop(level, hit->prop.id));
    } else if (const level::Mark* mark = edit::mark_at(level, cellAt(at))) {
        session().applyLevel(tr("Remove the mark %1").arg(QString::fromStdString(mark->name)),
                             edit::remove_mark(level, mark->id));
    }
}

void Props::move(const Pointer& at) {
    const level::Level& before = *session().level();
    if (drag_->mark) {
        drag_->level = edit::move_mark(before, drag_->id, cellAt(at) + drag_->grip);
    } else {
        const Point pixel = pixelAt(at) + drag_->grip;
        drag_->level = edit::move_prop(before, drag_->id, at.control() ? edit::snapped(before, pixel) : pixel);
    }
    board_.show(drag_->level);
    board_.drawAgain();
}

void Props::release(const Pointer&) {
    const Drag drag = *std::exchange(drag_, std::nullopt);
    const level::Level& before = *session().level();
    if (!level::difference(before, drag.level, session().project()).cells.empty() || before.marks != drag.level.marks)
        session().applyLevel(drag.mark ? tr("Move a mark") : tr("Move a prop"), drag.level);
}

bool Props::preview(const Pointer& at) {
    if (!places()) return false;
    const edit::Target to = where();
    if (to.obstacle != edit::Obstacle::none) return false;
    board_.show(edit::add_prop(*session().level(), to.layer,
                               {0xFFFFFFFFU, session().hand().prop(), standing(at), session().hand().turn.mirrored()}));
    return true;
}

void Props::paint(QPainter& p, const std::optional<Pointer>& at) const {
    const level::Level& level = board_.shown();
    const level::PropId chosen = session().prop();
    level::PropId lit = chosen;
    if (at)
        if (const auto hit = edit::prop_at(session().project(), level, pixelAt(*at))) lit = hit->prop.id;
    const Tokens t = tokensOf(QGuiApplication::palette());
    for (const level::PropId id : {lit, chosen}) {
        const level::Prop* prop = id == 0 ? nullptr : edit::find_prop(level, id);
        const level::PropKind* kind = prop ? session().project().prop_kind(prop->kind) : nullptr;
        if (!kind || (id == lit && lit != chosen && !at)) continue;
        p.setPen(QPen(id == chosen ? t.vermilion : t.card, id == chosen ? 2 : 1));
        p.setBrush(Qt::NoBrush);
        p.drawRoundedRect(camera().onScreen(picture::prop_box(*prop, *kind)).adjusted(-1, -1, 1, 1), 3, 3);
        p.setPen(QPen(t.vermilion, 1, Qt::DashLine));
        p.drawPolygon(camera().footShape(level.geometry(), picture::foot_box(*prop, *kind)));
    }
}

Sentence Props::sentence(const Pointer& at) const {
    if (const auto outside = beyond(at)) return *outside;
    const level::Level& level = *session().level();
    const level::Project& project = session().project();
    if (places()) {
        const edit::Target to = where();
        const level::Layer* layer = level.layer(to.layer);
        const QString on = bold(layer ? QString::fromStdString(layer->name) : QString());
        if (to.obstacle == edit::Obstacle::wrong_kind)
            return {tr("This level has no layer for props: add one in the Section"), true};
        if (to.obstacle == edit::Obstacle::locked) return {tr("%1 is locked: nothing is placed").arg(on), true};
        if (to.obstacle == edit::Obstacle::hidden) return {tr("%1 is hidden: nothing is placed").arg(on), true};
        return {
            tr("Places %1 on %2, %3 · Shift for a free place")
                .arg(bold(QString::fromStdString(project.prop_kind(session().hand().prop())->name)), on, placeName(at)),
            to.obstacle != edit::Obstacle::none};
    }
    if (const auto hit = edit::prop_at(project, level, pixelAt(at)))
        return {tr("%1 on %2 · drag moves it, right button removes it")
                    .arg(bold(QString::fromStdString(project.prop_kind(hit->prop.kind)->name)),
                         QString::fromStdString(level.layer(hit->layer)->name))};
    return {placeName(at)};
}

bool Props::key(const QKeyEvent& event) {
    if (event.key() != Qt::Key_Delete && event.key() != Qt::Key_Backspace) return false;
    if (const level::Mark* mark = session().mark()) {
        session().applyLevel(tr("Remove the mark %1").arg(QString::fromStdString(mark->name)),
                             edit::remove_mark(*session().level(), mark->id));
        return true;
    }
    if (session().prop() == 0) return false;
    session().applyLevel(tr("Remove a prop"), edit::remove_prop(*session().level(), session().prop()));
    session().setProp(0);
    return true;
}

} // namespace

std::unique_ptr<Gesture> makeProps(Board& board) { return std::make_unique<Props>(board); }

} // namespace vic::app
