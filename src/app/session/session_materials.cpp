// Materials that are made of a sheet, with what the art says of them.

#include <QString>
#include <cstdint>
#include <utility>

#include "app/parts/blocking_words.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "base/text.hpp"
#include "edit/blocking.hpp"
#include "edit/hand.hpp"
#include "edit/sheets.hpp"
#include "edit/templates.hpp"
#include "join/mask.hpp"
#include "join/read_joins.hpp"
#include "level/level.hpp"
#include "level/material.hpp"
#include "level/project.hpp"

namespace vic::app {

void Session::makeMaterial(level::SheetId id, level::JoinKind kind) {
    const level::Sheet* sheet = project().sheet(id);
    if (!sheet || !sheet->image) return;
    if (kind == level::JoinKind::plain) return addMaterial(id, kind, {});
    joins_.withReading(id, kind, [this, id, kind](const JoinReadings::Reading& read) {
        const level::Sheet* now = project().sheet(id);
        const level::OrderCard* card = now ? edit::template_of(project(), *now, kind) : nullptr;
        if (!card) return addMaterial(id, kind, *read);
        const join::JoinReading drawn = edit::reading_by_template(*card, *now, *read);
        addMaterial(id, kind, drawn);
        const auto all = join::cases(kind).size();
        QString text = tr("Drawn on the template: %1 of %2 cases").arg(drawn.tiles.size()).arg(all);
        if (!drawn.doubtful.empty())
            text += translated(say_count(static_cast<std::int64_t>(drawn.doubtful.size()),
                                         " · one looks like another case: %1", " · %n look like other cases, first: %1",
                                         drawn.doubtful.front().why));
        emit said(text, false);
    });
}

void Session::makeMaterial(level::SheetId id) {
    const level::Sheet* sheet = project().sheet(id);
    for (const level::JoinKind kind : {level::JoinKind::full, level::JoinKind::edges, level::JoinKind::corners})
        if (sheet && edit::template_of(project(), *sheet, kind)) return makeMaterial(id, kind);
    joins_.withKind(id, [this, id](level::JoinKind kind) { makeMaterial(id, kind); });
}

void Session::addMaterial(level::SheetId id, level::JoinKind kind, const join::JoinReading& read) {
    const level::Sheet* sheet = project().sheet(id);
    if (project().free_material() == 0) return emit said(tr("A project has at most 255 materials"), true);
    level::MaterialId added = 0;
    QString name = QString::fromStdString(sheet->name);
    if (!name.isEmpty()) name[0] = name[0].toUpper();
    level::Project next = edit::add_material(project(), *sheet, kind, read, name.toStdString(), added);
    // What its tiles are in the way of is proposed with it, where nothing was said of them before.
    edit::ProposedBlocking blocks;
    const level::Material& made = *next.material(added);
    if (level() && edit::blocking_of(next, made) == edit::Blocking::nothing)
        blocks = edit::proposed_blocking(next, made, level()->view);
    if (blocks.blocking != edit::Blocking::nothing) next = edit::with_blocking(std::move(next), added, blocks.blocking);
    choice_.material = added;
    choice_.joinCase = join::canonical(255, kind);
    apply(tr("Make the material %1").arg(name), std::move(next));
    edit::Hand hand{edit::held::Material{added}};
    setHand(hand);
    setStage(Stage::join);
    const QString way =
        blocks.blocking == edit::Blocking::nothing
            ? QString()
            : tr(" · it %1: %2 (B changes it)").arg(blockingWord(blocks.blocking), translated(blocks.reason));
    emit said(
        (kind == level::JoinKind::plain
             ? tr("%1 is a plain material: its tiles are variants").arg(name)
             : translated(say_count(static_cast<std::int64_t>(read.tiles.size()),
                                    "Read one tile of %1: missing cases %2, doubtful tiles %3",
                                    "Read %n tiles of %1: missing cases %2, doubtful tiles %3", name.toStdString(),
                                    read.missing.size(), derived_.joinsRead().doubtful.size())) +
                   (read.others.empty() ? QString() : tr(" · Tab: the other way round"))) +
            way,
        false);
}

} // namespace vic::app
