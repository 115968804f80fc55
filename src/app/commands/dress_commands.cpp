#include "app/commands/dress_commands.hpp"

#include <algorithm>
#include <set>
#include <utility>
#include <vector>

#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "base/error.hpp"
#include "edit/ensemble.hpp"
#include "edit/levels.hpp"
#include "edit/placing.hpp"
#include "edit/props.hpp"
#include "level/project.hpp"
#include "level/standing.hpp"

namespace vic::app {

DressCommands::DressCommands(Session& session, QObject* parent) : QObject(parent), session_(session) {}

bool DressCommands::anyChosen() {
    if (session_.level() && !session_.chosen().props.empty()) return true;
    emit session_.said(tr("Choose props first: S, then a click or a box"), false);
    return false;
}

void DressCommands::apply(const QString& name, const level::Level& next, const std::string& merge) {
    session_.applyDressed(name, next, merge);
}

void DressCommands::changeLook(const QString& name, const std::function<void(level::Look&)>& what,
                               const std::string& merge) {
    if (!session_.level()) return;
    if (session_.hand().is<edit::held::Prop>()) {
        edit::Hand hand = session_.hand();
        auto& held = *hand.as<edit::held::Prop>();
        what(held.look);
        if (const level::PropKind* kind = session_.project().prop_kind(held.kind))
            held.look = edit::allowed(*kind, held.look);
        return session_.setHand(hand);
    }
    if (!anyChosen()) return;
    std::string step = merge;
    if (!step.empty())
        for (const level::PropId id : session_.chosen().props) step += "," + std::to_string(id);
    apply(name,
          edit::change_props(session_.project(), session_.dressed(), session_.chosen(),
                             [&](level::Prop& p) { what(p.look); }),
          step);
}

void DressCommands::turn(int tenths) {
    const edit::Chosen& chosen = session_.chosen();
    const auto lit = [&](level::PropKindId id) {
        const level::PropKind* kind = session_.project().prop_kind(id);
        return kind && kind->lit;
    };
    if (session_.hand().is<edit::held::Prop>()) {
        if (lit(session_.hand().prop()))
            return emit session_.said(tr("Light is painted into it: it is only mirrored"), false);
    } else if (session_.level()) {
        const level::Level level = session_.dressed();
        const auto props = edit::props_of(level, chosen);
        if (!props.empty() &&
            std::all_of(props.begin(), props.end(), [&](const level::Prop* p) { return lit(p->kind); }))
            return emit session_.said(tr("Light is painted into it: it is only mirrored"), false);
    }
    changeLook(
        tr("Turn props"), [&](level::Look& l) { l.turn = level::turned_by(l.turn, tenths); }, "turn");
}

void DressCommands::scale(int steps) {
    if (session_.hand().is<edit::held::Prop>()) {
        const level::PropKind* kind = session_.project().prop_kind(session_.hand().prop());
        if (kind)
            changeLook(tr("Scale props"), [&](level::Look& l) {
                l.scale = static_cast<std::int16_t>(edit::next_scale(*kind, l.scale, steps));
            });
        return;
    }
    if (!anyChosen()) return;
    apply(tr("Scale props"),
          edit::change_props(session_.project(), session_.dressed(), session_.chosen(),
                             [&](level::Prop& p) {
                                 if (const level::PropKind* kind = session_.project().prop_kind(p.kind))
                                     p.look.scale =
                                         static_cast<std::int16_t>(edit::next_scale(*kind, p.look.scale, steps));
                             }),
          "scale");
}

void DressCommands::mirror() {
    changeLook(tr("Mirror props"), [](level::Look& l) {
        l.mirrored = !l.mirrored;
        l.turn = level::turned_by(0, -l.turn); // as one sees it now
    });
}

void DressCommands::reset() {
    changeLook(tr("Props as they are drawn"), [](level::Look& l) { l = edit::usual_look(); });
}

void DressCommands::nextVariant(int by) {
    if (!session_.level()) return;
    const auto next = [&](level::PropKindId id) {
        const auto all = edit::variants_of(session_.project(), id);
        const auto at = std::find(all.begin(), all.end(), id) - all.begin();
        const auto n = std::ssize(all);
        return all[static_cast<std::size_t>(((at + by) % n + n) % n)];
    };
    if (session_.hand().is<edit::held::Prop>()) {
        edit::Hand hand = session_.hand();
        hand.as<edit::held::Prop>()->kind = next(hand.prop());
        return session_.setHand(hand);
    }
    if (!anyChosen()) return;
    apply(tr("Another variant"), edit::change_props(session_.project(), session_.dressed(), session_.chosen(),
                                                    [&](level::Prop& p) { p.kind = next(p.kind); }));
}

void DressCommands::chooseAll() {
    if (!session_.level()) return;
    edit::Chosen all;
    const level::Level level = session_.dressed();
    for (const level::LayerRef& layer : level.layers)
        if (layer->shown && !layer->locked)
            for (const level::Prop& p : layer->props()) all.props.insert(p.id);
    for (const level::Mark& m : level.marks) all.marks.insert(m.id);
    session_.setChosen(std::move(all));
}

void DressCommands::chooseAlike() {
    if (anyChosen()) session_.setChosen(edit::all_alike(session_.dressed(), session_.chosen()));
}

void DressCommands::chooseTagged() {
    if (!anyChosen()) return;
    const level::Level level = session_.dressed();
    edit::Chosen out;
    for (const level::Prop* p : edit::props_of(level, session_.chosen()))
        if (const level::PropKind* kind = session_.project().prop_kind(p->kind))
            for (const std::string& tag : kind->tags) {
                const edit::Chosen tagged = edit::all_tagged(session_.project(), level, tag);
                out.props.insert(tagged.props.begin(), tagged.props.end());
            }
    if (out.empty()) return emit session_.said(tr("What is chosen has no tags"), false);
    session_.setChosen(std::move(out));
}

void DressCommands::group(bool on) {
    if (!anyChosen()) return;
    if (on && session_.chosen().props.size() < 2)
        return emit session_.said(tr("A group is of two props or more"), false);
    const std::uint32_t id = on ? session_.project().next_id : 0;
    session_.applyDressed(on ? tr("Group props") : tr("Ungroup props"),
                          edit::group(session_.dressed(), session_.chosen(), id), {}, on ? id + 1 : 0);
}

void DressCommands::align(edit::Align how) {
    if (anyChosen())
        apply(tr("Align props"), edit::align(session_.project(), session_.dressed(), session_.chosen(), how));
}

void DressCommands::distribute(bool upright) {
    if (!anyChosen()) return;
    if (session_.chosen().props.size() < 3)
        return emit session_.said(tr("Choose three props or more to space them evenly"), false);
    apply(tr("Space props evenly"),
          edit::distribute(session_.project(), session_.dressed(), session_.chosen(), upright));
}

void DressCommands::order(edit::Order how) {
    if (!anyChosen()) return;
    const level::Level was = session_.dressed();
    const level::Level next = edit::in_order(session_.project(), was, session_.chosen(), how);
    const bool same = next.layers == was.layers;
    if (!same)
        apply(how == edit::Order::in_front ? tr("Props in front")
              : how == edit::Order::behind ? tr("Props behind")
                                           : tr("Props in the order in which they stand"),
              next);
    if (same && how == edit::Order::in_front) emit session_.said(tr("Nothing is drawn over it"), false);
    if (same && how == edit::Order::behind) emit session_.said(tr("It is drawn over nothing"), false);
}

void DressCommands::replaceByHand() {
    if (!anyChosen()) return;
    if (!session_.hand().is<edit::held::Prop>())
        return emit session_.said(tr("Take the prop from the Tray that is to stand there"), false);
    apply(tr("Replace props"),
          edit::replace_kind(session_.project(), session_.dressed(), session_.chosen(), session_.hand().prop()));
}

void DressCommands::toActiveLayer() {
    if (!anyChosen() || session_.ensemble() != 0 || !session_.activeLayer()) return;
    const level::Layer& to = *session_.activeLayer();
    const QString name = QString::fromStdString(to.name);
    if (!std::holds_alternative<level::PlacedProps>(to.content) || to.locked || !to.shown)
        return emit session_.said(tr("%1 holds no props, or is locked or hidden").arg(name), true);
    apply(tr("Move what is chosen to %1").arg(name), edit::to_layer(session_.dressed(), session_.chosen(), to.id));
}

void DressCommands::pushFree() {
    if (!anyChosen()) return;
    const auto [level, moved, stuck] = edit::push_free(session_.project(), session_.dressed(), session_.chosen().props);
    if (moved > 0) apply(tr("Push to a free place"), level);
    if (stuck > 0) return emit session_.said(tr("For %1 there is no free place near").arg(stuck), true);
    emit session_.said(moved > 0 ? tr("Pushed to a free place: %1").arg(moved) : tr("Nothing is in the way"), false);
}

void DressCommands::drop() {
    if (!anyChosen()) return;
    const level::Level level = session_.dressed();
    const edit::Ground ground(session_.project(), level, session_.chosen().props);
    apply(tr("Drop onto the ground"), edit::change_props(session_.project(), level, session_.chosen(),
                                                         [&](level::Prop& p) { p = edit::on_ground(ground, p); }));
}

void DressCommands::copyBeside() {
    if (!session_.level() || session_.chosen().empty()) return void(anyChosen());
    const level::Level level = session_.dressed();
    edit::Copied copied = edit::copy_chosen(level, session_.chosen(), {level.cell.w, 0}, session_.project().next_id);
    if (session_.applyDressed(tr("Copy what is chosen"), copied.level, {}, copied.next_id) && session_.ensemble() == 0)
        session_.setChosen(std::move(copied.chosen));
}

void DressCommands::makeEnsemble(const QString& name) {
    if (!anyChosen() || session_.ensemble() != 0) return;
    try {
        edit::MadeEnsemble made =
            edit::make_ensemble(session_.project(), session_.level()->id, session_.chosen(), name.toStdString());
        session_.apply(tr("Make the ensemble %1").arg(name), std::move(made.project));
        session_.setProp(made.prop);
        emit session_.said(tr("%1 is in the Tray; a double click on a copy opens it").arg(name), false);
    } catch (const InputError& e) {
        emit session_.said(translated(e), true);
    }
}

void DressCommands::takeApart() {
    if (!anyChosen() || session_.ensemble() != 0) return;
    edit::TakenApart apart = edit::take_apart(session_.project(), session_.level()->id, session_.chosen());
    if (apart.chosen.empty()) return emit session_.said(tr("No ensemble is chosen"), false);
    session_.apply(tr("Take an ensemble apart"), std::move(apart.project));
    session_.setChosen(std::move(apart.chosen));
}

void DressCommands::openEnsemble() {
    if (session_.ensemble() != 0) return session_.openEnsemble(0);
    if (!session_.level()) return;
    const level::Prop* prop = edit::find_prop(*session_.level(), session_.prop());
    const level::PropKind* kind = prop ? session_.project().prop_kind(prop->kind) : nullptr;
    if (!kind || !kind->is_ensemble()) return emit session_.said(tr("Choose one ensemble to open it"), false);
    session_.openEnsemble(prop->id);
}

} // namespace vic::app
