#include "app/gesture/choose_props.hpp"

#include <QCoreApplication>
#include <QGuiApplication>
#include <QKeyEvent>
#include <QPainter>
#include <QPalette>
#include <QPen>
#include <QPointF>
#include <QPolygonF>
#include <QString>
#include <algorithm>
#include <cmath>
#include <memory>
#include <set>
#include <utility>

#include "app/parts/camera.hpp"
#include "app/parts/tokens.hpp"
#include "app/session/kit_bodies.hpp"
#include "app/session/session.hpp"
#include "app/session/tool.hpp"
#include "edit/levels.hpp"
#include "edit/resting.hpp"
#include "edit/stroke.hpp"
#include "level/project.hpp"
#include "level/standing.hpp"

namespace vic::app {

namespace {

constexpr int kTolerance = 6;      // pixels of the screen within which a prop snaps to others
constexpr int kMostOutlined = 400; // chosen props that are outlined one by one

QPolygonF onScreen(const Camera& camera, const level::Spots& spots) {
    const QPointF corner = camera.onScreen(Point{0, 0});
    QPolygonF out;
    for (const level::Spot& s : spots) out << corner + QPointF(s.x, s.y) * camera.zoom();
    return out;
}

} // namespace

bool ChooseProps::takes(const Pointer& at) const {
    return session().stage() == Stage::dress && (at.left() || at.button != Qt::MiddleButton);
}

QString ChooseProps::nameOf(const level::Prop& prop) const {
    if (!prop.of_its_own().name.empty()) return QString::fromStdString(prop.of_its_own().name);
    const level::PropKind* kind = session().project().prop_kind(prop.kind);
    return kind ? QString::fromStdString(kind->name) : QString();
}

bool ChooseProps::press(const Pointer& at) {
    if (!at.left()) {
        removeAt(at);
        return false;
    }
    const level::Level level = session().dressed();
    edit::Chosen hit;
    level::Prop grip;
    if (const auto prop = edit::prop_at(session().project(), level, pixelAt(at))) {
        const level::PropKind* kind = session().project().prop_kind(prop->prop.kind);
        if (at.twice && session().ensemble() == 0 && kind && kind->is_ensemble()) {
            session().openEnsemble(prop->prop.id);
            return false;
        }
        grip = prop->prop;
        hit.props.insert(grip.id);
        hit = edit::with_groups(level, hit);
    } else if (const level::Mark* mark = edit::mark_at(level, cellAt(at))) {
        hit.marks.insert(mark->id);
    }
    if (hit.empty()) {
        using Mode = Drawn::Mode;
        const Point pixel = pixelAt(at);
        drawn_ = Drawn{at.shift() ? Mode::add : at.alt() ? Mode::remove : Mode::fresh, pixel, pixel, {}};
        return true;
    }
    edit::Chosen now = session().chosen();
    const bool had = std::includes(now.props.begin(), now.props.end(), hit.props.begin(), hit.props.end()) &&
                     std::includes(now.marks.begin(), now.marks.end(), hit.marks.begin(), hit.marks.end());
    if (at.shift()) {
        for (const level::PropId id : hit.props) had ? void(now.props.erase(id)) : void(now.props.insert(id));
        for (const level::MarkId id : hit.marks) had ? void(now.marks.erase(id)) : void(now.marks.insert(id));
        session().setChosen(now);
        return false;
    }
    if (!had) now = hit;
    session().setChosen(now);
    begin(at, now, grip);
    return true;
}

void ChooseProps::begin(const Pointer& at, const edit::Chosen& chosen, const level::Prop& grip) {
    drag_ = Drag{};
    drag_->chosen = drag_->shownChosen = chosen;
    drag_->grip = grip;
    drag_->from = pixelAt(at);
    drag_->copies = at.alt();
    drag_->level = session().dressed();
    drag_->spot.prop = grip;
}

ChooseProps::Spot ChooseProps::spotFor(const level::Prop& wanted, const std::set<level::PropId>& kept,
                                       bool free) const {
    const level::Level level = session().dressed();
    const ToolOptions& o = session().options();
    Spot out{wanted, {}, {}};
    if (!free && o.lattice != edit::Lattices::free) {
        const level::PropKind* const kind = session().project().prop_kind(wanted.kind);
        out.prop.at = kind && kind->body != 0 ? edit::on_lattice(level, wanted.at, o.lattice, *kind, wanted.look.turn)
                                              : edit::on_lattice(level, wanted.at, o.lattice);
    } else if (!free && o.toProps) {
        const int tolerance = std::max(1, static_cast<int>(kTolerance / camera().zoom()));
        edit::Snapped snapped = edit::to_props(session().project(), level, wanted, kept, tolerance);
        out.prop.at = snapped.at;
        out.lines = std::move(snapped.lines);
    }
    const level::LayerId layer = layerOf(level, wanted);
    edit::Resting rests =
        edit::resting(session().project(), level, session().bodies().models(), layer, out.prop, kept, o.rests);
    out.prop = std::move(rests.prop);
    rests.under.insert(kept.begin(), kept.end());
    const level::Layer* const on = level.layer(layer);
    const edit::Ground ground(session().project(), level, rests.under, on ? on->storey : 0);
    if (o.drops && !free) out.prop = edit::on_ground(ground, out.prop);
    out.stand = ground.stand(out.prop);
    // What blocks below it is what it stands on.
    if (rests.on_top && out.stand.way == edit::InTheWay::blocks) out.stand = {};
    return out;
}

// Of one that is placed, else where it would be.
level::LayerId ChooseProps::layerOf(const level::Level& level, const level::Prop& prop) const {
    for (const level::LayerRef& layer : level.layers)
        if (layer->has_props() && layer->props().find(prop.id)) return layer->id;
    return edit::target_of(session().project(), level, session().hand(), session().dressedLayer(), false).layer;
}

void ChooseProps::move(const Pointer& at) {
    if (drawn_) {
        drawn_->last = pixelAt(at);
        const QPointF place = camera().placeAt(at.place);
        drawn_->line.push_back({place.x(), place.y()});
        board_.drawAgain();
        return;
    }
    const level::Level before = session().dressed();
    const Point wanted = pixelAt(at) - drag_->from;
    drag_->by = wanted;
    const bool still = wanted == Point{};
    if (drag_->grip.id != 0 && !still) {
        level::Prop there = drag_->grip;
        there.at = there.at + wanted;
        const std::set<level::PropId> kept = drag_->copies ? std::set<level::PropId>{} : drag_->chosen.props;
        drag_->spot = spotFor(there, kept, at.shift());
        drag_->by = drag_->spot.prop.at - drag_->grip.at;
    }
    if (drag_->copies && !still) {
        edit::Copied copied = edit::copy_chosen(before, drag_->chosen, drag_->by, session().project().next_id);
        drag_->level = std::move(copied.level);
        drag_->shownChosen = std::move(copied.chosen);
        drag_->nextId = copied.next_id;
    } else {
        drag_->level = edit::move_chosen(before, drag_->chosen, drag_->by);
        const level::Prop& spot = drag_->spot.prop;
        const bool other =
            spot.look != drag_->grip.look || spot.of_its_own() != drag_->grip.of_its_own(); // it tilts, or is lifted
        if (!still && drag_->chosen.props.size() == 1 && other)
            drag_->level =
                edit::change_props(session().project(), std::move(drag_->level), drag_->chosen, [&](level::Prop& p) {
                    p.look = spot.look;
                    p.own = spot.own;
                });
    }
    board_.show(drag_->level);
    if (drag_->spot.stand.way != edit::InTheWay::nothing) board_.hinder({drag_->grip.id, drag_->spot.stand.other});
    board_.drawAgain();
}

void ChooseProps::release(const Pointer&) {
    if (drawn_) {
        const edit::Chosen chosen = drawnChosen();
        drawn_.reset();
        session().setChosen(chosen);
        return;
    }
    const Drag drag = *std::exchange(drag_, std::nullopt);
    const level::Level before = session().dressed();
    const bool moved =
        !level::difference(before, drag.level, session().project()).cells.empty() || before.marks != drag.level.marks;
    if (!moved) return;
    const QString name = drag.copies                 ? tr("Copy what is chosen")
                         : drag.chosen.size() > 1    ? tr("Move what is chosen")
                         : drag.chosen.props.empty() ? tr("Move a mark")
                                                     : tr("Move a prop");
    if (session().applyDressed(name, drag.level, {}, drag.nextId) && drag.copies && session().ensemble() == 0)
        session().setChosen(drag.shownChosen);
}

void ChooseProps::cancel() {
    drag_.reset();
    drawn_.reset();
}

edit::Chosen ChooseProps::drawnChosen() const {
    const level::Level level = session().dressed();
    const level::Project& project = session().project();
    const bool click = drawn_->from == drawn_->last && drawn_->line.size() < 2;
    edit::Chosen found;
    if (!click)
        found = goesRound_ ? edit::chosen_within(project, level, drawn_->line) : edit::chosen_in(project, level, box());
    found = edit::with_groups(level, std::move(found));
    if (drawn_->mode == Drawn::Mode::fresh) return found;
    edit::Chosen all = session().chosen();
    for (const level::PropId id : found.props)
        drawn_->mode == Drawn::Mode::add ? void(all.props.insert(id)) : void(all.props.erase(id));
    for (const level::MarkId id : found.marks)
        drawn_->mode == Drawn::Mode::add ? void(all.marks.insert(id)) : void(all.marks.erase(id));
    return all;
}

void ChooseProps::removeAt(const Pointer& at) {
    const level::Level level = session().dressed();
    if (const auto hit = edit::prop_at(session().project(), level, pixelAt(at))) {
        session().applyDressed(tr("Remove a prop"), edit::remove_prop(level, hit->prop.id));
    } else if (const level::Mark* mark = edit::mark_at(level, cellAt(at))) {
        session().applyDressed(tr("Remove the mark %1").arg(QString::fromStdString(mark->name)),
                               edit::remove_mark(level, mark->id));
    }
}

void ChooseProps::removeChosen() {
    const edit::Chosen chosen = session().chosen();
    const level::Mark* mark = session().mark();
    const QString name = mark                 ? tr("Remove the mark %1").arg(QString::fromStdString(mark->name))
                         : chosen.size() == 1 ? tr("Remove a prop")
                                              : tr("Remove what is chosen");
    if (session().applyDressed(name, edit::remove_chosen(session().dressed(), chosen))) session().setChosen({});
}

void ChooseProps::nudge(Point by) {
    session().applyDressed(tr("Nudge what is chosen"), edit::move_chosen(session().dressed(), session().chosen(), by),
                           "nudge");
}

bool ChooseProps::putAway() {
    if (drawn_ || drag_) return false;
    if (!session().chosen().empty()) {
        session().setChosen({});
        return true;
    }
    if (session().ensemble() == 0) return false;
    session().openEnsemble(0);
    return true;
}

bool ChooseProps::key(const QKeyEvent& event) {
    // Not a key of the window: fields end with it.
    if (event.key() == Qt::Key_Return || event.key() == Qt::Key_Enter) {
        const level::Prop* prop = edit::find_prop(*session().level(), session().prop());
        const level::PropKind* kind = prop ? session().project().prop_kind(prop->kind) : nullptr;
        if (session().ensemble() == 0 && (!kind || !kind->is_ensemble())) return false;
        session().openEnsemble(session().ensemble() != 0 ? 0 : prop->id);
        return true;
    }
    if (session().chosen().empty()) return false;
    const bool cells = (event.modifiers() & Qt::ShiftModifier) != 0;
    const Size step = cells ? session().level()->cell : Size{1, 1};
    switch (event.key()) {
        case Qt::Key_Delete:
        case Qt::Key_Backspace:
            removeChosen();
            return true;
        case Qt::Key_Left:
            nudge({-step.w, 0});
            return true;
        case Qt::Key_Right:
            nudge({step.w, 0});
            return true;
        case Qt::Key_Up:
            nudge({0, -step.h});
            return true;
        case Qt::Key_Down:
            nudge({0, step.h});
            return true;
        default:
            return false;
    }
}

void ChooseProps::paintFeet(QPainter& p, const level::Level& level, const level::Prop& prop, bool inTheWay) const {
    const Tokens t = tokensOf(QGuiApplication::palette());
    QColor wash = t.vermilion;
    wash.setAlpha(90);
    p.setPen(QPen(t.vermilion, inTheWay ? 2 : 1, inTheWay ? Qt::SolidLine : Qt::DashLine));
    p.setBrush(inTheWay ? QBrush(wash) : QBrush(Qt::NoBrush));
    level::PropKinds(session().project()).each_piece(prop, [&](const level::Piece& piece) {
        if (!piece.kind->foot.empty()) p.drawPolygon(onScreen(camera(), level::foot_of(piece, level.geometry())));
    });
    p.setBrush(Qt::NoBrush);
    paintFront(p, prop);
}

// Where a piece of a kit looks: an arrow from its foot's edge, which is the lower one of its picture.
void ChooseProps::paintFront(QPainter& p, const level::Prop& prop) const {
    constexpr double kLong = 14, kHead = 5; // pixels of the screen
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(tokensOf(QGuiApplication::palette()).vermilion, 2, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    level::PropKinds(session().project()).each_piece(prop, [&](const level::Piece& piece) {
        if (piece.kind->body == 0) return;
        const Box foot = piece.kind->drawn_foot();
        const level::Placing placing = piece.placing();
        const double x = foot.x + foot.w / 2.0;
        const level::Spot edge = placing.in_level({x, double(foot.bottom())}),
                          before = placing.in_level({x, foot.bottom() - 1.0});
        const double length = std::hypot(edge.x - before.x, edge.y - before.y);
        if (length <= 0) return;
        const QPointF way((edge.x - before.x) / length, (edge.y - before.y) / length), aside(-way.y(), way.x());
        const QPointF from = camera().onScreen(Point{0, 0}) + QPointF(edge.x, edge.y) * camera().zoom();
        const QPointF tip = from + way * kLong;
        p.drawLine(from, tip);
        p.drawPolyline(QPolygonF({tip - way * kHead + aside * kHead, tip, tip - way * kHead - aside * kHead}));
    });
    p.restore();
}

void ChooseProps::paintProp(QPainter& p, const level::Level& level, level::PropId id, bool chosen) const {
    const level::Prop* prop = id == 0 ? nullptr : edit::find_prop(level, id);
    if (!prop) return;
    const Tokens t = tokensOf(QGuiApplication::palette());
    const level::PropKinds kinds(session().project());
    const Box box = kinds.box(*prop);
    if (box.empty()) return;
    p.setPen(QPen(chosen ? t.vermilion : t.card, chosen ? 2 : 1));
    p.setBrush(Qt::NoBrush);
    p.drawRoundedRect(camera().onScreen(box).adjusted(-1, -1, 1, 1), 3, 3);
}

// In the quiet colour of what only measures, over dark and light alike.
void ChooseProps::paintLines(QPainter& p, const std::vector<edit::SnapLine>& lines) const {
    const Tokens t = tokensOf(QGuiApplication::palette());
    for (const edit::SnapLine& line : lines) {
        const Point from = line.upright ? Point{line.at, line.from} : Point{line.from, line.at};
        const Point to = line.upright ? Point{line.at, line.to} : Point{line.to, line.at};
        const QPointF a = camera().onScreen(from), b = camera().onScreen(to);
        p.setPen(QPen(t.card, 3));
        p.drawLine(a, b);
        p.setPen(QPen(t.vermilion, 1, line.gap ? Qt::SolidLine : Qt::DashLine));
        p.drawLine(a, b);
        if (!line.gap) continue;
        const QPointF across = line.upright ? QPointF(4, 0) : QPointF(0, 4);
        p.drawLine(a - across, a + across);
        p.drawLine(b - across, b + across);
        const QString length = QString("%1").arg(std::abs(line.to - line.from));
        p.drawText((a + b) / 2 + QPointF(4, -4), length);
    }
}

void ChooseProps::paint(QPainter& p, const std::optional<Pointer>& at) const {
    const level::Level level = drag_ ? drag_->level : session().dressed();
    const edit::Chosen& chosen = drag_ ? drag_->shownChosen : session().chosen();
    const Tokens t = tokensOf(QGuiApplication::palette());
    if (const level::Prop* whole =
            session().ensemble() != 0 ? edit::find_prop(*session().level(), session().ensemble()) : nullptr) {
        p.setPen(QPen(t.brine, 2, Qt::DashLine));
        p.setBrush(Qt::NoBrush);
        const Box box = level::PropKinds(session().project()).box(*whole);
        p.drawRoundedRect(camera().onScreen(box).adjusted(-6, -6, 6, 6), 6, 6);
    }
    if (at && !drag_ && !drawn_)
        if (const auto hit = edit::prop_at(session().project(), level, pixelAt(*at));
            hit && !chosen.props.contains(hit->prop.id)) {
            paintProp(p, level, hit->prop.id, false);
            paintFeet(p, level, hit->prop, false);
        }
    if (chosen.props.size() <= kMostOutlined)
        for (const level::PropId id : chosen.props) {
            paintProp(p, level, id, true);
            if (const level::Prop* prop = edit::find_prop(level, id))
                paintFeet(p, level, *prop,
                          drag_ && id == drag_->grip.id && drag_->spot.stand.way != edit::InTheWay::nothing);
        }
    if (drag_) paintLines(p, drag_->spot.lines);
    for (const level::Mark& m : level.marks) {
        if (!chosen.marks.contains(m.id) || chosen.size() < 2) continue; // a single one is shown by the view
        p.setPen(QPen(t.vermilion, 2));
        p.setBrush(Qt::NoBrush);
        camera().drawCells(p, level.geometry(), m.cells);
    }
    if (!drawn_) return;
    p.setPen(QPen(t.brine, 1.5));
    QColor wash = t.brine;
    wash.setAlpha(30);
    p.setBrush(wash);
    if (goesRound_)
        p.drawPolygon(onScreen(camera(), drawn_->line));
    else
        p.drawRect(camera().onScreen(box()));
}

QString ChooseProps::inTheWay(const level::Level& level, const edit::Stand& stand) const {
    switch (stand.way) {
        case edit::InTheWay::nothing:
            return {};
        case edit::InTheWay::another:
            if (const level::Prop* other = edit::find_prop(level, stand.other))
                return tr("its foot stands in %1").arg(bold(nameOf(*other)));
            return tr("its foot stands in another");
        case edit::InTheWay::blocks:
            return tr("its foot stands in what blocks");
        case edit::InTheWay::beyond:
            return tr("its foot stands off the level");
    }
    return {};
}

Sentence ChooseProps::sentence(const Pointer& at) const {
    if (drag_) {
        const QString by = tr("%1, %2 px").arg(drag_->by.x).arg(drag_->by.y);
        const QString what = drag_->copies ? tr("Copies what is chosen to %1").arg(by)
                                           : tr("Moves what is chosen by %1 · Shift for a free place").arg(by);
        if (drag_->spot.stand.way == edit::InTheWay::nothing) return {what};
        return {
            tr("%1 · %2 · K moves it to the nearest free place").arg(what, inTheWay(drag_->level, drag_->spot.stand)),
            true};
    }
    if (drawn_) {
        const edit::Chosen would = drawnChosen();
        return {tr("Chooses %1 props and %2 marks").arg(would.props.size()).arg(would.marks.size())};
    }
    if (const auto outside = beyond(at)) return *outside;
    const level::Level level = session().dressed();
    if (const auto hit = edit::prop_at(session().project(), level, pixelAt(at))) {
        const level::PropKind* kind = session().project().prop_kind(hit->prop.kind);
        const QString more =
            kind && kind->is_ensemble() && session().ensemble() == 0 ? tr(" · a double click opens it") : QString();
        return {tr("%1 on %2 · drag moves it, Alt copies it, right button removes it%3")
                    .arg(bold(nameOf(hit->prop)), QString::fromStdString(level.layer(hit->layer)->name), more)};
    }
    const QString place = placeName(at);
    if (session().ensemble() != 0) return {tr("Drag to choose parts · Esc leaves the ensemble · %1").arg(place)};
    if (session().tool() == Tool::props) return {place};
    return {tr("Drag to choose · Shift adds, Alt takes away · %1").arg(place)};
}

std::unique_ptr<Gesture> makeChoose(Board& board) { return std::make_unique<ChooseProps>(board, false); }
std::unique_ptr<Gesture> makeChooseRound(Board& board) { return std::make_unique<ChooseProps>(board, true); }

} // namespace vic::app
