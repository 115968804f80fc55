#include "app/commands/lay_commands.hpp"

#include <QApplication>
#include <QClipboard>
#include <QCursor>
#include <QIcon>
#include <QMenu>
#include <QMimeData>
#include <algorithm>
#include <cstddef>
#include <memory>
#include <string>
#include <utility>

#include "app/gesture/tools.hpp"
#include "app/parts/thumbs.hpp"
#include "app/parts/translated.hpp"
#include "app/session/kit_bodies.hpp"
#include "app/session/session.hpp"
#include "app/view/level_view.hpp"
#include "base/error.hpp"
#include "base/files.hpp"
#include "edit/clips.hpp"
#include "edit/homes.hpp"
#include "edit/import_stamp.hpp"
#include "edit/kits.hpp"
#include "edit/plans.hpp"
#include "edit/reshape.hpp"
#include "edit/stroke.hpp"
#include "level/level.hpp"
#include "level/project.hpp"
#include "level/region.hpp"
#include "level/sheet.hpp"
#include "level/stamp.hpp"
#include "scene/fits.hpp"
#include "sheet/png.hpp"
#include "store/stamp_text.hpp"

namespace vic::app {

namespace {

constexpr const char* kStampMime = "application/x-vicinum-stamp";

} // namespace

LayCommands::LayCommands(Session& session, LevelView& view, QObject* parent)
    : QObject(parent), session_(session), view_(view) {}

bool LayCommands::anySelected() {
    if (!session_.isOpen() || !session_.level()) return false;
    if (!session_.selection().empty()) return true;
    emit session_.said(tr("Nothing is selected: S draws a box, Shift+W goes round it"), false);
    return false;
}

void LayCommands::selectAll() {
    if (session_.level()) session_.setSelection(level::Region(session_.work().cells()));
}

void LayCommands::selectAlike(edit::Alike alike) {
    const auto cell = view_.pointedCell();
    if (!session_.level() || !cell) return;
    const auto found = edit::pick(session_.project(), session_.seen(session_.work()), *cell, session_.activeLayerId());
    if (!found) return emit session_.said(tr("Nothing lies under the pointer"), false);
    edit::FillOptions options;
    options.alike = alike;
    session_.setSelection(edit::alike_cells(session_.work(), found->layer, *cell, session_.work().cells(), options));
}

void LayCommands::grow(bool outwards) {
    if (!anySelected()) return;
    session_.setSelection(outwards ? session_.selection().grown(true)
                                   : session_.selection().shrunk(true, session_.work().cells()));
}

void LayCommands::copy() {
    if (!anySelected()) return;
    const level::Stamp stamp =
        edit::take(session_.seen(session_.work()), session_.selection(), session_.selectedLayers());
    if (stamp.layers.empty()) return emit session_.said(tr("Nothing lies in what is selected"), false);
    auto* data = new QMimeData;
    data->setData(kStampMime, QByteArray::fromStdString(store::copied_to_text(
                                  {session_.document().dir().string(), store::stamp_to_text(stamp)})));
    QApplication::clipboard()->setMimeData(data);
    emit session_.said(tr("Copied %1 × %2 cells").arg(stamp.size.w).arg(stamp.size.h), false);
}

void LayCommands::cut() {
    if (!anySelected()) return;
    copy();
    remove();
}

void LayCommands::paste() {
    if (!session_.isOpen() || !session_.level()) return;
    const QMimeData* data = QApplication::clipboard()->mimeData();
    if (!data || !data->hasFormat(kStampMime))
        return emit session_.said(tr("Nothing was copied: select cells and press Ctrl+C"), false);
    try {
        const store::Copied copied = store::copied_from_text(data->data(kStampMime).toStdString());
        const std::string& from = copied.project;
        const std::string& text = copied.stamp;
        level::Stamp stamp;
        QString brought;
        if (fs::path(from) == session_.document().dir()) {
            stamp = store::stamp_from_text(text, tr("what was copied").toStdString(), session_.project());
        } else {
            edit::ImportedStamp all = edit::import_stamp(session_.project(), session_.document().dir(), from, text);
            stamp = std::move(all.stamp);
            brought = translated(all.says);
            if (all.changed) session_.apply(tr("Bring along what is pasted"), std::move(all.project));
        }
        edit::Hand hand{edit::held::Stamp{std::make_shared<const level::Stamp>(std::move(stamp))}};
        session_.setTool(Tool::pencil);
        session_.setHand(hand);
        if (!brought.isEmpty()) emit session_.said(brought, false);
    } catch (const InputError& e) {
        emit session_.said(translated(e), true);
    }
}

void LayCommands::remove() {
    if (!anySelected()) return;
    session_.applyWork(tr("Remove what is selected"),
                       edit::cleared(session_.project(), session_.derived().rules(), session_.work(),
                                     session_.selection(), session_.selectedLayers()));
}

void LayCommands::turn(Turn (*how)(Turn)) {
    const bool selects = (kindOf(session_.tool()).options & ToolKind::selects) != 0;
    if (selects && !session_.selection().empty()) {
        const level::Level level = session_.work();
        const Turn turn = level.geometry().of_places(how(Turn{}));
        if (!edit::can_turn(level, turn))
            return emit session_.said(tr("Cells that are not square can only be mirrored"), false);
        const auto layers = session_.selectedLayers();
        const Box box = session_.selection().bounds();
        const level::Stamp had = edit::take(session_.seen(level), session_.selection(), layers);
        const level::Stamp turned = edit::turned(session_.project(), had, turn);
        // Around its middle.
        const Point corner{box.x + (box.w - turned.size.w) / 2, box.y + (box.h - turned.size.h) / 2};
        const level::Level without =
            edit::cleared(session_.project(), session_.derived().rules(), level, session_.selection(), layers);
        const edit::Stamped laid =
            edit::stamp(session_.project(), session_.derived().rules(), without, turned, {.at = corner});
        level::Region cells;
        session_.selection().each(
            [&](Point p) { cells.add(corner + edit::turned_place(turn, p - box.corner(), box.size())); });
        session_.applyWork(how == mirrored ? tr("Mirror what is selected") : tr("Turn what is selected"), laid.level,
                           laid.next_id);
        session_.setSelection(std::move(cells));
        return;
    }
    edit::Hand hand = session_.hand();
    if (hand.is<edit::held::Tile>()) {
        const level::TileRef ref = tilesOf(session_.project()).find(hand.tile());
        if (session_.level() && session_.level()->lattice != LatticeKind::square && how != mirrored)
            return emit session_.said(tr("A tile that is seen aslant can only be mirrored"), false);
        if (how != mirrored)
            if (const level::TileId other = edit::turned_piece(session_.project(), hand.tile(), how == turned_right)) {
                hand.holds = edit::held::Tile{other};
                return session_.setHand(hand);
            }
        const Turn next = allowed_turn(ref.tile ? ref.tile->turns : level::kAllTurns, hand.turn, how);
        if (next == hand.turn)
            emit session_.said(
                tr("%1 may not be turned like that").arg(translated(edit::tile_name(session_.project(), hand.tile()))),
                false);
        hand.turn = next;
    } else {
        hand.turn = how(hand.turn);
    }
    if (hand.is<edit::held::Stamp>() && session_.level() && !edit::can_turn(*session_.level(), hand.turn))
        return emit session_.said(tr("Cells that are not square can only be mirrored"), false);
    if (hand.is<edit::held::Tile>() || hand.is<edit::held::Stamp>() || hand.is<edit::held::Blocker>())
        session_.setHand(hand);
}

void LayCommands::keepStamp() {
    if (session_.hand().is<edit::held::Stamp>() && session_.selection().empty()) {
        if (session_.hand().stamp()->id == 0) stampIntoTray(tr("Stamp"));
        return;
    }
    if (!anySelected()) return;
    level::Stamp stamp = edit::take(session_.seen(session_.work()), session_.selection(), session_.selectedLayers());
    if (stamp.layers.empty()) return emit session_.said(tr("Nothing lies in what is selected"), false);
    edit::Hand hand{edit::held::Stamp{std::make_shared<const level::Stamp>(std::move(stamp))}};
    session_.setHand(hand);
    session_.setTool(Tool::pencil);
    stampIntoTray(tr("Stamp"));
}

void LayCommands::stampIntoTray(const QString& name) {
    edit::Hand hand = session_.hand();
    if (!hand.is<edit::held::Stamp>()) return;
    level::Stamp stamp =
        hand.turn.code == 0 ? *hand.stamp() : edit::turned(session_.project(), *hand.stamp(), hand.turn);
    stamp.id = 0;
    stamp.nine = stamp.size == Size{3, 3} && stamp.layers.size() == 1;
    level::Project p = edit::keep_stamp(session_.project(), std::move(stamp), name.toStdString());
    const auto kept = p.stamps.back();
    session_.apply(tr("Keep a stamp"), std::move(p));
    hand.holds = edit::held::Stamp{session_.project().stamp(kept->id)};
    hand.turn = {};
    session_.setHand(hand);
    emit session_.said(tr("Kept as %1 in the Tray").arg(QString::fromStdString(kept->name)), false);
}

void LayCommands::toActiveLayer() {
    if (!anySelected() || !session_.activeLayer()) return;
    const level::LayerId to = session_.activeLayerId();
    if (session_.activeLayer()->locked || !session_.activeLayer()->shown)
        return emit session_.said(
            tr("%1 is locked or hidden").arg(QString::fromStdString(session_.activeLayer()->name)), true);
    level::Project p = session_.project();
    level::Level level = *session_.level();
    std::int64_t cells = 0;
    for (const level::LayerId from : edit::concerned(session_.seen(level), 0, true)) {
        if (from == to || level.layer(from)->kind() != session_.activeLayer()->kind()) continue;
        edit::Stamped moved = edit::moved_to(p, session_.derived().rules(), level, session_.selection(), from, to);
        level = std::move(moved.level);
        p.next_id = moved.next_id;
        cells += moved.cells + moved.props;
    }
    const QString name = QString::fromStdString(session_.activeLayer()->name);
    session_.applyLevel(tr("Move what is selected to %1").arg(name), std::move(level), p.next_id);
    emit session_.said(tr("Moved to %1: %2").arg(name).arg(cells), false);
}

void LayCommands::thinOut() {
    if (!anySelected() || !session_.activeLayer()) return;
    if (!session_.activeLayer()->has_cells() || session_.activeLayer()->locked)
        return emit session_.said(
            tr("%1 is locked or has no tiles").arg(QString::fromStdString(session_.activeLayer()->name)), true);
    edit::Laid thin = edit::thinned(session_.project(), session_.derived().rules(), session_.work(),
                                    session_.activeLayerId(), session_.selection(), thinShare_, ++thinSeed_);
    session_.applyWork(tr("Thin out by %1 %").arg(thinShare_), thin.level);
}

void LayCommands::castAgain() {
    edit::Hand hand = session_.hand();
    ++hand.seed;
    session_.setHand(hand);
    if (session_.selection().empty() || !edit::lays_cells(hand)) return;
    const edit::Target target =
        edit::target_of(session_.project(), session_.seen(session_.work()), hand, session_.activeLayerId(), false);
    if (target.obstacle != edit::Obstacle::none) return emit session_.said(view_.reading().text, true);
    edit::Laid cast = edit::rerolled(session_.project(), session_.derived().rules(), session_.work(), target.layer,
                                     session_.selection(), hand);
    session_.applyWork(tr("Cast again"), cast.level);
}

void LayCommands::makeHome() {
    if (!session_.level()) return;
    const auto home = session_.derived().proposedHome();
    if (!home) return emit session_.said(tr("It has a home already, or there is none to propose"), false);
    session_.apply(tr("Give a home"),
                   edit::set_home(session_.project(), *session_.level(), session_.hand(), home->layer));
    emit session_.said(tr("%1 is its home now").arg(QString::fromStdString(session_.level()->layer(home->layer)->name)),
                       false);
}

void LayCommands::stepVariant(int by) {
    const auto cell = view_.pointedCell();
    if (!session_.level() || !cell || view_.stroking()) return;
    const level::Level work = session_.work();
    // The active layer, if something painted lies there, else the frontmost that has it.
    const level::Layer* found = nullptr;
    const auto look = [&](const level::Layer* layer) {
        if (layer && layer->tiles() && layer->shown && layer->grid().material(*cell) != 0) found = layer;
    };
    for (const level::LayerRef& slab : work.layers) look(slab.get());
    look(work.layer(session_.activeLayerId()));
    if (!found) return emit session_.said(tr("There is nothing painted here"), false);
    const QString on = QString::fromStdString(found->name);
    if (found->locked) return emit session_.said(tr("%1 is locked").arg(on), true);
    const auto stepped = edit::step_variant(session_.project(), work, found->id, *cell, by);
    if (!stepped) return emit session_.said(tr("There is only one tile for this place"), false);
    session_.applyWork(tr("Variant of a cell"), stepped->level);
    emit session_.said(tr("Variant %1 of %2, pinned on %3").arg(stepped->variant).arg(stepped->of).arg(on), false);
}

void LayCommands::whatFits() {
    const auto cell = view_.pointedCell();
    if (!session_.level() || !cell || view_.stroking()) return;
    const level::Level work = session_.work();
    const auto kits = session_.bodies().all();
    const scene::Fits fits(session_.project(), kits);
    std::vector<scene::Fit> all;
    for (const level::Layer* const layer : scene::Fits::layers_for(work, session_.activeLayerId()))
        if (all.empty()) all = fits.at(*layer, *cell);
    if (all.empty()) return emit session_.said(tr("No piece beside this cell couples with one that is there"), false);
    constexpr std::size_t kMost = 24;
    auto* menu = new QMenu(&view_);
    menu->setObjectName("fitsMenu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    for (std::size_t i = 0; i < std::min(all.size(), kMost); ++i) {
        const scene::Fit fit = all[i];
        const QString open =
            fit.open == 0 ? QString()
                          : "  · " + translated(say_count(fit.open, "one side stays open", "%n sides stay open"));
        menu->addAction(QIcon(tileThumb(session_.project(), fit.tile, 24, fit.turn)),
                        translated(edit::tile_name(session_.project(), fit.tile)) + open, this, [this, fit] {
                            edit::Hand hand = session_.hand();
                            hand.holds = edit::held::Tile{fit.tile};
                            hand.turn = fit.turn;
                            session_.setHand(hand);
                            session_.setTool(Tool::pencil);
                        });
    }
    menu->popup(QCursor::pos());
}

void LayCommands::zoomToSelection() {
    if (session_.selection().empty())
        view_.fit();
    else
        view_.zoomTo(session_.selection().bounds());
}

void LayCommands::turnLevel(Turn seen) {
    if (!session_.level()) return;
    const Turn turn = session_.level()->geometry().of_places(seen);
    if (!edit::can_turn(*session_.level(), turn))
        return emit session_.said(tr("Cells that are not square can only be mirrored"), true);
    session_.setSelection({});
    session_.applyLevel(turn.mirrored() ? tr("Mirror the level") : tr("Turn the level"),
                        edit::turned(session_.project(), session_.derived().rules(), *session_.level(), turn));
    view_.fit();
}

void LayCommands::extendLevel(const edit::Edges& by) {
    if (!session_.level() || by == edit::Edges{}) return;
    session_.setSelection({});
    const Size had = session_.level()->size;
    session_.applyLevel(tr("Another size of the level"),
                        edit::extended(session_.derived().rules(), *session_.level(), by));
    const Size now = session_.level()->size;
    emit session_.said(tr("%1 × %2 cells, was %3 × %4").arg(now.w).arg(now.h).arg(had.w).arg(had.h), false);
}

void LayCommands::cropToContent() {
    if (!session_.level()) return;
    const Box had = edit::content(*session_.level());
    if (had.empty()) return emit session_.said(tr("The level is empty"), false);
    const Size all = session_.level()->size;
    extendLevel({-had.x, -had.y, had.right() - all.w, had.bottom() - all.h});
}

void LayCommands::cropToSelection() {
    if (!anySelected()) return;
    const Box box = session_.selection().bounds();
    const Size all = session_.level()->size;
    extendLevel({-box.x, -box.y, box.right() - all.w, box.bottom() - all.h});
}

void LayCommands::setGrows(bool on) {
    if (!session_.level()) return;
    level::Level next = *session_.level();
    next.grows = on;
    session_.applyLevel(on ? tr("Let the level grow") : tr("Keep the level's size"), std::move(next));
}

void LayCommands::setCells(Size cell, LatticeKind kind) {
    if (!session_.level()) return;
    const Lattice had = session_.level()->geometry();
    if (had == Lattice{kind, cell}) return;
    edit::Rescaled next = edit::rescaled(session_.project(), *session_.level(), cell, kind);
    session_.applyLevel(kind == had.kind ? tr("Another cell size") : tr("Another lattice"), std::move(next.level));
    if (kind != had.kind) view_.fit();
    emit session_.said(translated(next.says), false);
}

void LayCommands::duplicateLayer() {
    const level::Layer* layer = session_.activeLayer();
    if (!layer) return;
    std::uint32_t next = session_.project().next_id;
    const level::LayerId id = next;
    level::Level level = edit::duplicate_layer(
        *session_.level(), layer->id, tr("%1 copy").arg(QString::fromStdString(layer->name)).toStdString(), next);
    session_.applyLevel(tr("Duplicate a layer"), std::move(level), next);
    session_.setActiveLayer(id);
}

void LayCommands::mergeDown() {
    const level::Layer* layer = session_.activeLayer();
    if (!layer) return;
    const int below = session_.level()->index_of(layer->id) - 1;
    edit::Merged merged =
        edit::merged_down(session_.project(), session_.derived().rules(), *session_.level(), layer->id);
    if (!merged.done)
        return emit session_.said(tr("Below it lies no layer of the same kind that is open and lies as it does"), true);
    const level::LayerId to = session_.level()->layers[static_cast<std::size_t>(below)]->id;
    session_.applyLevel(tr("Merge down"), std::move(merged.level));
    if (merged.stayed > 0)
        emit session_.said(tr("%1 see-through cells lie over something and stay on their layer").arg(merged.stayed),
                           false);
    else
        session_.setActiveLayer(to);
}

void LayCommands::planPicture(const QString& file) {
    if (!session_.level() || file.isEmpty()) return;
    try {
        const edit::Drawn drawn = edit::drawn_plan(session_.project(), *session_.level());
        write_file(file.toStdString(), sheet::encode_png(drawn.picture));
        emit session_.said(tr("Written: %1, %2 colours").arg(file).arg(drawn.keys.size()), false);
    } catch (const InputError& e) {
        emit session_.said(translated(e), true);
    }
}

} // namespace vic::app
