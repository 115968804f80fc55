// What the panel of a case does with readings of the sheet.
#include <QString>
#include <cstdint>

#include "app/join/case_panel.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "app/sheet/sheet_view.hpp"
#include "base/text.hpp"
#include "edit/joins.hpp"
#include "edit/sheets.hpp"
#include "level/material.hpp"
#include "level/project.hpp"
#include "level/sheet.hpp"

namespace vic::app {

// The chosen material is read so from the sheet; `read` is of what `all` owns.
void CasePanel::takeReading(const QString& name, level::SheetId from, const JoinReadings::Reading& all,
                            const join::JoinReading& read, bool afresh) {
    const auto take = [id = session_.materialId(), from, all, &read, afresh](level::Project p) {
        const level::Sheet* sheet = p.sheet(from);
        if (!sheet || !p.material(id)) return p;
        return edit::rejoin(edit::read_into(p, id, *sheet, read, afresh));
    };
    session_.applyJoined({name, take, {}, {}});
}

void CasePanel::readAgain() {
    const level::Sheet* s = session_.project().sheet(sheet_->sheetId());
    const level::Material* m = session_.material();
    if (!s || !s->image || !m || m->joins.kind == level::JoinKind::plain) return;
    const auto take = [this, id = m->id, from = s->id](const JoinReadings::Reading& read) {
        const level::Project& p = session_.project();
        const level::Material* of = p.material(id);
        const level::Sheet* sheet = p.sheet(from);
        if (!of || !sheet) return;
        takeReading(tr("Read the joins of %1").arg(QString::fromStdString(of->name)), from, read, *read, false);
        emit session_.said(
            translated(say_count(
                static_cast<std::int64_t>(read->tiles.size()), "Read one tile: missing cases %1, doubtful tiles %2",
                "Read %n tiles: missing cases %1, doubtful tiles %2", read->missing.size(), read->doubtful.size())),
            false);
    };
    session_.joins().withReading(s->id, m->joins.kind, take);
}

void CasePanel::otherWay() {
    const level::Material* m = session_.material();
    if (!m || plain()) return;
    const auto take = [this, id = m->id](const JoinReadings::Reading& read) {
        const level::Project& p = session_.project();
        const level::Material* of = p.material(id);
        const level::Sheet* sheet = of ? p.sheet(edit::main_sheet(p, of->joins)) : nullptr;
        if (!sheet || read->others.empty()) return;
        const join::JoinReading& other = read->others.front();
        const join::JoinReading& now = edit::fits_better(*sheet, of->joins, other, *read) ? *read : other;
        takeReading(tr("Read %1 the other way round").arg(QString::fromStdString(of->name)), sheet->id, read, now,
                    true);
        emit session_.said(
            translated(say_count(static_cast<std::int64_t>(now.tiles.size()),
                                 "Read the other way round: one tile, missing cases %1",
                                 "Read the other way round: %n tiles, missing cases %1", now.missing.size())),
            false);
    };
    session_.joins().withReading(edit::main_sheet(session_.project(), m->joins), m->joins.kind, take);
}

} // namespace vic::app
