// What laying says before it is done.

#include <QCoreApplication>
#include <QString>
#include <QStringList>
#include <optional>
#include <vector>

#include "app/gesture/gesture.hpp"
#include "app/gesture/lay.hpp"
#include "app/gesture/tools.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "base/geometry.hpp"
#include "base/text.hpp"
#include "edit/overlay.hpp"
#include "edit/stroke.hpp"
#include "level/level.hpp"
#include "level/project.hpp"

namespace vic::app {

namespace {

// "Clay, Brine and others": three at most.
QString listed(const QStringList& names) {
    constexpr int kMost = 3;
    if (names.size() > kMost) return Gesture::tr("%1 and others").arg(QStringList(names.mid(0, kMost - 1)).join(", "));
    if (names.size() < 2) return names.join("");
    return Gesture::tr("%1 and %2").arg(QStringList(names.mid(0, names.size() - 1)).join(", "), names.back());
}

} // namespace

Sentence LayGesture::sentence(const Pointer& at) const {
    if (const auto outside = beyond(at)) return *outside;
    const edit::Hand hand = handFor(at.button);
    const QString where = placeName(at);
    if (hand.is<edit::held::Nothing>() || hand.is<edit::held::Prop>())
        return {tr("The Hand is empty · %1 · pick a material or a tile from the Tray, or Alt+click what lies here")
                    .arg(where)};
    const level::Level level = session().work();
    const edit::Target target = targetOf(hand, stays(hand, at));
    const level::Layer* layer = level.layer(target.layer);
    if (const auto obstacle = this->obstacle(hand, target, layer)) return *obstacle;
    const QString on = QString::fromStdString(layer->name);
    if (found_.stayedOut > 0)
        return {tr("The overlay of %1 is locked or hidden: what would go there is not laid").arg(bold(on)), true};
    if (const Fitted fit = fitted(hand, target.layer, cellAt(at)); fit.swaps) {
        const level::Layer& there = *level.layer(fit.layer);
        const level::TileId had = there.grid().cell(cellAt(at)).tile();
        const QString what = bold(nameOf(hand)), place = bold(QString::fromStdString(there.name));
        const QString closes = tr("turned so that it closes with what stands beside it");
        return {had == 0 || had == hand.tile()
                    ? tr("Lays %1 on %2, %3 · %4").arg(what, place, where, closes)
                    : tr("Lays %1 on %2 for %5, %3 · %4")
                          .arg(what, place, where, closes, translated(edit::tile_name(session().project(), had)))};
    }
    // A tip of several cells is told by all of them.
    std::vector<Point> cells = tip(cellAt(at));
    std::erase_if(cells, [&](Point p) { return !level.cells().contains(p); });
    return {cells.size() > 1 ? tipSentence(hand, target, cells, where)
                             : cellSentence(hand, target, *layer, cellAt(at), where)};
}

std::optional<Sentence> LayGesture::obstacle(const edit::Hand& hand, const edit::Target& target,
                                             const level::Layer* layer) const {
    const QString on = bold(layer ? QString::fromStdString(layer->name) : QString());
    switch (target.obstacle) {
        case edit::Obstacle::no_layer:
            return Sentence{tr("No layer is chosen in the Section"), true};
        case edit::Obstacle::locked:
            return Sentence{tr("%1 is locked: nothing is laid").arg(on), true};
        case edit::Obstacle::hidden:
            return Sentence{tr("%1 is hidden: show it first, nothing is laid").arg(on), true};
        case edit::Obstacle::wrong_kind:
            return Sentence{
                layer->blockers() ? tr("%1 takes blockers only: choose its slab in the Section to lay some").arg(on)
                : layer->facts()  ? tr("%1 takes values only: choose its slab in the Section to lay some").arg(on)
                : hand.is<edit::held::Blocker>()
                    ? tr("%1 takes no blockers: add a layer of blockers in the Section").arg(on)
                    : tr("%1 takes no tiles: choose a tile layer in the Section").arg(on),
                true};
        case edit::Obstacle::own_cells:
            return Sentence{tr("%1 has cells of its own: choose its slab in the Section to lay there").arg(on), true};
        case edit::Obstacle::none:
            break;
    }
    return std::nullopt;
}

QString LayGesture::deed(const QString& what, const QString& on, const QString& at) const {
    return tr("Lays %1 on %2, %3").arg(what, on, at);
}

QString LayGesture::cellSentence(const edit::Hand& hand, const edit::Target& target, const level::Layer& layer,
                                 Point cell, const QString& at) const {
    const QString on = bold(QString::fromStdString(layer.name));
    const QString there = translated(edit::name_at(session().project(), layer, cell));
    if (hand.is<edit::held::Eraser>()) {
        if (found_.onOverlay > 0) return tr("Removes what lies over %1, %2").arg(on, at) + joinsOf();
        if (there.isEmpty()) return tr("Nothing of %1 lies in %2").arg(on, at) + joinsOf();
        return tr("Removes %1 from %2, %3").arg(bold(there), on, at) + joinsOf();
    }
    const QString what = nameOf(hand);
    const bool keeps = hand.is<edit::held::Material>() && hand.size == 1 &&
                       edit::stays(layer.grid().cell(cell), layer.grid().material(cell), hand.material());
    // A fill is about more than this cell.
    const bool alone = (kindOf(session().tool()).options & ToolKind::alike) == 0;
    if (keeps && alone)
        return tr("%1 on %2, %3 was laid by hand and stays: the right button takes it away").arg(bold(there), on, at);
    QString text = deed(bold(what), on, at);
    text += wayOf(hand, target);
    if (found_.onOverlay > 0)
        text += tr(" · over %1, which stays").arg(there.isEmpty() ? tr("what lies there") : there.toHtmlEscaped());
    else if (!there.isEmpty() && there != what && tellsWhatGivesWay())
        text += tr(" · replaces %1").arg(there.toHtmlEscaped());
    return text + homeOf(target) + joinsOf();
}

QString LayGesture::nameOf(const edit::Hand& hand) const {
    if (hand.is<edit::held::Tile>()) return translated(edit::tile_name(session().project(), hand.tile()));
    if (hand.is<edit::held::Blocker>()) return tr("a blocker");
    if (const auto* fact = hand.as<edit::held::Fact>())
        return translated(edit::fact_name(session().project(), fact->note, fact->value));
    if (hand.is<edit::held::Spread>()) return tr("one of %1").arg(hand.as<edit::held::Spread>()->items.size());
    const auto* m = session().project().material(hand.material());
    return m ? QString::fromStdString(m->name) : QString();
}

QString LayGesture::wayOf(const edit::Hand& hand, const edit::Target& target) const {
    QString text;
    if (target.went_home) text += tr(" (its home; Ctrl lays on the active layer)");
    if (hand.share_empty > 0) text += tr(" · leaves %1 % as they are").arg(hand.share_empty);
    return text;
}

QString LayGesture::homeOf(const edit::Target& target) const {
    const auto& home = session().derived().proposedHome();
    if (target.went_home || !home) return {};
    return tr(" · H makes %1 its home: %2")
        .arg(bold(QString::fromStdString(session().work().layer(home->layer)->name)), translated(home->why));
}

QString LayGesture::joinsOf() const {
    if (found_.joined == 0) return {};
    return found_.joined == 1 ? tr(" · joins 1 neighbour") : tr(" · joins %1 neighbours").arg(found_.joined);
}

QString LayGesture::tipSentence(const edit::Hand& hand, const edit::Target& target, const std::vector<Point>& tip,
                                const QString& at) const {
    const level::Level level = session().work();
    const level::Project& project = session().project();
    const QString on = bold(QString::fromStdString(level.layer(target.layer)->name));
    const QString where = tr("%1 cells around %2").arg(tip.size()).arg(at);
    const bool erases = hand.is<edit::held::Eraser>();
    const edit::Under under = edit::under(project, level, target.layer, hand, tip);
    const QString what = nameOf(hand);
    QStringList names;
    for (const Text& name : under.gives_way)
        if (erases || translated(name) != what) names << translated(name).toHtmlEscaped();
    if (erases) {
        if (names.isEmpty() && found_.onOverlay == 0) return tr("Nothing of %1 lies in the %2").arg(on, where);
        if (found_.onOverlay > 0)
            return tr("Removes what lies over %1 in %2 of the %3").arg(on).arg(found_.onOverlay).arg(where) +
                   (names.isEmpty() ? QString() : tr(" · elsewhere %1").arg(listed(names))) + joinsOf();
        return tr("Removes %1 from %2, %3").arg("<b>" + listed(names) + "</b>", on, where) + joinsOf();
    }
    QString text = tr("Lays %1 on %2, %3").arg(bold(what), on, where) + wayOf(hand, target);
    if (found_.onOverlay > 0)
        text += tr(" · %1 of them over what lies there, which stays").arg(found_.onOverlay);
    else if (!names.isEmpty())
        text += tr(" · replaces %1").arg(listed(names));
    if (under.stays > 0)
        text += translated(
            say_count(under.stays, " · one that was laid by hand stays", " · %n that were laid by hand stay"));
    return text + homeOf(target) + joinsOf();
}

} // namespace vic::app
