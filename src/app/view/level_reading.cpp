// The sentence of the reading line: what the next click will do.

#include <QString>
#include <QStringList>
#include <vector>

#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "app/view/level_view.hpp"
#include "base/geometry.hpp"
#include "base/text.hpp"
#include "edit/levels.hpp"
#include "edit/overlay.hpp"
#include "edit/stroke.hpp"
#include "level/level.hpp"
#include "level/project.hpp"
#include "level/stamp.hpp"

namespace vic::app {

namespace {

QString bold(const QString& text) { return "<b>" + text.toHtmlEscaped() + "</b>"; }

// "Clay, Brine and others": three at most.
QString listed(const QStringList& names) {
    constexpr int kMost = 3;
    if (names.size() > kMost)
        return LevelView::tr("%1 and others").arg(QStringList(names.mid(0, kMost - 1)).join(", "));
    if (names.size() < 2) return names.join("");
    return LevelView::tr("%1 and %2").arg(QStringList(names.mid(0, names.size() - 1)).join(", "), names.back());
}

} // namespace

QString LevelView::sentence(bool& warns) const {
    warns = false;
    if (!session_.isOpen() || !session_.level()) return {};
    const level::Level level = session_.work();
    const level::Project& project = session_.project();
    if (trial_) return tr("This is what the plan would lay: nothing is changed yet");
    if (!pointer_ || !area().contains(pointer_->toPoint())) return {};
    const Point cell = cellAt(*pointer_);
    const QString at = tr("cell %1, %2").arg(cell.x).arg(cell.y);
    if (session_.tool() == Tool::measure && laysCells(session_.stage()))
        return measure_ ? measured() : tr("Drag to measure · %1").arg(at);
    if (!level.cells().contains(cell) && !marquee_ && !moving_)
        return level.grows ? tr("Beyond the edge: the level grows to here when something is laid")
                           : tr("Outside the level");
    if (session_.stage() == Stage::dress) return dressSentence(warns, at);
    if (!laysCells(session_.stage())) return at;
    const edit::Hand hand = effectiveHand(Qt::NoButton, modifiers_);
    if (session_.tool() == Tool::select || session_.tool() == Tool::lasso ||
        (session_.tool() == Tool::pick && marquee_))
        return selectSentence(cell, at);
    if (session_.tool() == Tool::pick || (modifiers_ & Qt::AltModifier)) {
        const auto found = edit::pick(project, level, cell, pickedFirst());
        if (!found) return tr("Nothing to pick up in %1").arg(at);
        const level::Layer* layer = level.layer(found->layer);
        return tr("Picks up %1 from %2, %3")
            .arg(bold(translated(edit::name_at(project, *layer, cell))), bold(QString::fromStdString(layer->name)), at);
    }
    if (hand.kind == edit::Hand::Kind::empty || hand.kind == edit::Hand::Kind::prop)
        return tr("The Hand is empty · %1 · pick a material or a tile from the Tray, or Alt+click what lies here")
            .arg(at);
    if (hand.kind == edit::Hand::Kind::stamp) {
        const level::Stamp& s = *hand.stamp;
        const QString what = s.name.empty() ? tr("what was copied") : QString::fromStdString(s.name);
        warns = noLayer_ > 0;
        if (noLayer_ == static_cast<int>(s.layers.size()))
            return tr("%1 has no layer here that could take it: it is locked, hidden or missing").arg(bold(what));
        QString text = tr("Lays %1, %2 × %3 cells, %4").arg(bold(what)).arg(s.size.w).arg(s.size.h).arg(at);
        text += hand.pins ? tr(" · as it was taken") : tr(" · joins anew at its rim");
        if (noLayer_ > 0) text += tr(" · %1 of its layers are locked, hidden or missing").arg(noLayer_);
        return text;
    }
    return laySentence(hand, warns, cell, at);
}

QString LevelView::dressSentence(bool& warns, const QString& at) const {
    const level::Level& level = *session_.level();
    const level::Project& project = session_.project();
    if (session_.tool() != Tool::props) return tr("Places a mark in %1").arg(at);
    if (session_.hand().kind == edit::Hand::Kind::prop) {
        const edit::Target target = edit::target_of(project, level, session_.hand(), session_.activeLayerId(), false);
        const level::Layer* layer = level.layer(target.layer);
        warns = target.obstacle != edit::Obstacle::none;
        const QString on = layer ? QString::fromStdString(layer->name) : QString();
        if (target.obstacle == edit::Obstacle::wrong_kind)
            return tr("This level has no layer for props: add one in the Section");
        if (target.obstacle == edit::Obstacle::locked) return tr("%1 is locked: nothing is placed").arg(bold(on));
        if (target.obstacle == edit::Obstacle::hidden) return tr("%1 is hidden: nothing is placed").arg(bold(on));
        return tr("Places %1 on %2, %3 · Shift for a free place")
            .arg(bold(QString::fromStdString(project.prop_kind(session_.hand().prop)->name)), bold(on), at);
    }
    if (const auto hit = edit::prop_at(project, level, pixelAt(*pointer_)))
        return tr("%1 on %2 · drag moves it, right button removes it")
            .arg(bold(QString::fromStdString(project.prop_kind(hit->prop.kind)->name)),
                 QString::fromStdString(level.layer(hit->layer)->name));
    return at;
}

QString LevelView::laySentence(const edit::Hand& hand, bool& warns, Point cell, const QString& at) const {
    const level::Level level = session_.work();
    const level::Project& project = session_.project();
    const bool erases = hand.kind == edit::Hand::Kind::eraser;
    const bool stay = (modifiers_ & Qt::ControlModifier) != 0 || erases;
    const edit::Target target = targetOf(hand, stay);
    const level::Layer* layer = level.layer(target.layer);
    const QString on = layer ? QString::fromStdString(layer->name) : QString();
    warns = target.obstacle != edit::Obstacle::none;
    switch (target.obstacle) {
        case edit::Obstacle::no_layer:
            return tr("No layer is chosen in the Section");
        case edit::Obstacle::locked:
            return tr("%1 is locked: nothing is laid").arg(bold(on));
        case edit::Obstacle::hidden:
            return tr("%1 is hidden: show it first, nothing is laid").arg(bold(on));
        case edit::Obstacle::wrong_kind:
            return layer->kind == level::LayerKind::blockers
                       ? tr("%1 takes blockers only: choose its slab in the Section to lay some").arg(bold(on))
                   : hand.kind == edit::Hand::Kind::blocker
                       ? tr("%1 takes no blockers: add a layer of blockers in the Section").arg(bold(on))
                       : tr("%1 takes no tiles: choose a tile layer in the Section").arg(bold(on));
        case edit::Obstacle::subdivision:
            return tr("%1 has cells of its own: choose its slab in the Section to lay there").arg(bold(on));
        case edit::Obstacle::none:
            break;
    }
    if (stayedOut_ > 0) {
        warns = true;
        return tr("The overlay of %1 is locked or hidden: what would go there is not laid").arg(bold(on));
    }
    // A tip of several cells is told by all of them.
    std::vector<Point> tip{cell};
    if (session_.tool() == Tool::pencil || session_.tool() == Tool::line || session_.tool() == Tool::eraser) {
        tip = edit::pencil_cells(cell, hand.size, hand.round);
        std::erase_if(tip, [&](Point p) { return !level.cells().contains(p); });
    }
    if (tip.size() > 1) return tipSentence(hand, target, tip, at);
    const QString there = translated(edit::name_at(project, *layer, cell));
    QString text;
    if (erases && onOverlay_ > 0) {
        text = tr("Removes what lies over %1, %2").arg(bold(on), at);
    } else if (erases) {
        text = there.isEmpty() ? tr("Nothing of %1 lies in %2").arg(bold(on), at)
                               : tr("Removes %1 from %2, %3").arg(bold(there), bold(on), at);
    } else {
        const QString what = nameOf(hand);
        if (session_.tool() == Tool::replace)
            text = translated(say_count(
                filled_, "Replaces one cell in view with %1 on %2, and all others like it; Shift only that one",
                "Replaces %n cells in view with %1 on %2, and all others like them; Shift only those",
                bold(what).toStdString(), bold(on).toStdString()));
        else if (session_.tool() == Tool::fill)
            text = translated(say_count(
                filled_, "Fills one cell in view with %1 on %2, and all that hangs together with it; Shift only that",
                "Fills %n cells in view with %1 on %2, and all that hangs together with them; Shift only those",
                bold(what).toStdString(), bold(on).toStdString()));
        else if (hand.kind == edit::Hand::Kind::material && hand.size == 1 &&
                 edit::stays(layer->grid.cell(cell), layer->grid.material(cell), hand.material))
            return tr("%1 on %2, %3 was laid by hand and stays: the right button takes it away")
                .arg(bold(there), bold(on), at);
        else
            text = tr("Lays %1 on %2, %3").arg(bold(what), bold(on), at);
        text += wayOf(hand, target);
        if (onOverlay_ > 0)
            text += tr(" · over %1, which stays").arg(there.isEmpty() ? tr("what lies there") : there.toHtmlEscaped());
        else if (!there.isEmpty() && there != what && session_.tool() != Tool::replace)
            text += tr(" · replaces %1").arg(there.toHtmlEscaped());
        text += homeOf(target);
    }
    return text + joinsOf();
}

QString LevelView::nameOf(const edit::Hand& hand) const {
    if (hand.kind == edit::Hand::Kind::tile) return translated(edit::tile_name(session_.project(), hand.tile));
    if (hand.kind == edit::Hand::Kind::blocker) return tr("a blocker");
    if (hand.kind == edit::Hand::Kind::spread) return tr("one of %1").arg(hand.spread.size());
    const auto* m = session_.project().material(hand.material);
    return m ? QString::fromStdString(m->name) : QString();
}

QString LevelView::wayOf(const edit::Hand& hand, const edit::Target& target) const {
    QString text;
    if (target.went_home) text += tr(" (its home; Ctrl lays on the active layer)");
    if (hand.share_empty > 0) text += tr(" · leaves %1 % as they are").arg(hand.share_empty);
    return text;
}

QString LevelView::homeOf(const edit::Target& target) const {
    const auto& home = session_.proposedHome();
    if (target.went_home || !home) return {};
    return tr(" · H makes %1 its home: %2")
        .arg(bold(QString::fromStdString(session_.work().layer(home->layer)->name)), translated(home->why));
}

QString LevelView::joinsOf() const {
    if (joined_ == 0) return {};
    return joined_ == 1 ? tr(" · joins 1 neighbour") : tr(" · joins %1 neighbours").arg(joined_);
}

QString LevelView::tipSentence(const edit::Hand& hand, const edit::Target& target, const std::vector<Point>& tip,
                               const QString& at) const {
    const level::Level level = session_.work();
    const level::Project& project = session_.project();
    const level::Layer& layer = *level.layer(target.layer);
    const QString on = bold(QString::fromStdString(layer.name));
    const QString where = tr("%1 cells around %2").arg(tip.size()).arg(at);
    const bool erases = hand.kind == edit::Hand::Kind::eraser;
    const edit::Under under = edit::under(project, level, target.layer, hand, tip);
    const QString what = nameOf(hand);
    QStringList names;
    for (const Text& name : under.gives_way)
        if (erases || translated(name) != what) names << translated(name).toHtmlEscaped();
    if (erases) {
        if (names.isEmpty() && onOverlay_ == 0) return tr("Nothing of %1 lies in the %2").arg(on, where);
        if (onOverlay_ > 0)
            return tr("Removes what lies over %1 in %2 of the %3").arg(on).arg(onOverlay_).arg(where) +
                   (names.isEmpty() ? QString() : tr(" · elsewhere %1").arg(listed(names))) + joinsOf();
        return tr("Removes %1 from %2, %3").arg("<b>" + listed(names) + "</b>", on, where) + joinsOf();
    }
    QString text = tr("Lays %1 on %2, %3").arg(bold(what), on, where) + wayOf(hand, target);
    if (onOverlay_ > 0)
        text += tr(" · %1 of them over what lies there, which stays").arg(onOverlay_);
    else if (!names.isEmpty())
        text += tr(" · replaces %1").arg(listed(names));
    if (under.stays > 0)
        text += translated(
            say_count(under.stays, " · one that was laid by hand stays", " · %n that were laid by hand stay"));
    return text + homeOf(target) + joinsOf();
}

void LevelView::say() {
    bool warns = false;
    const QString text = sentence(warns);
    if (text == reading_.text && warns == reading_.warns) return;
    reading_ = {text, warns};
    emit readingChanged();
}

} // namespace vic::app
