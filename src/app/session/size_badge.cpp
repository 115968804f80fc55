#include "app/session/size_badge.hpp"

#include <QCoreApplication>

#include "app/session/session.hpp"
#include "edit/clash.hpp"
#include "level/level.hpp"
#include "level/project.hpp"

namespace vic::app {

QString partOf(int n) { return n == 2 ? QString("½") : QString("1/%1").arg(n); }

QString sizeBadge(const Session& session, level::SheetId id) {
    const level::Level* level = session.level();
    const level::Sheet* sheet = session.project().sheet(id);
    if (!level || !sheet) return {};
    if (const auto clash = edit::clash_of(session.project(), *level, id)) {
        if (clash->larger) return "×" + partOf(clash->larger);
        if (clash->smaller) return QString("×%1").arg(clash->smaller);
        const Size cell = clash->cell;
        return QCoreApplication::translate("SizeBadge", "does not go into %1")
            .arg(cell.w == cell.h ? QString::number(cell.w) : QString("%1 × %2").arg(cell.w).arg(cell.h));
    }
    for (const level::Tile& t : sheet->tiles)
        for (const level::LayerId home : t.homes)
            if (const level::Layer* l = level->layer(home); l && l->grain().wider > 1)
                return QString("%1 × %1").arg(l->grain().wider);
    return {};
}

} // namespace vic::app
