#include "app/cut/cut_words.hpp"

#include <algorithm>

#include "app/cut/cut_centre.hpp"
#include "level/sheet.hpp"

namespace vic::app {

QString cutTitle(const level::Cut& cut) {
    QString text = CutCentre::tr("%1 × %2").arg(cut.tile.w).arg(cut.tile.h);
    if (cut.spacing.x || cut.spacing.y)
        text += cut.spacing.x == cut.spacing.y
                    ? CutCentre::tr(", gaps %1").arg(cut.spacing.x)
                    : CutCentre::tr(", gaps %1 and %2").arg(cut.spacing.x).arg(cut.spacing.y);
    if (cut.margin.x || cut.margin.y)
        text += cut.margin.x == cut.margin.y ? CutCentre::tr(", margin %1").arg(cut.margin.x)
                                             : CutCentre::tr(", margin %1 and %2").arg(cut.margin.x).arg(cut.margin.y);
    if (cut.scale > 1) text += CutCentre::tr(", enlarged ×%1").arg(cut.scale);
    return text;
}

QString tileText(const level::Sheet& sheet, std::size_t tile, int columns) {
    const level::Tile& t = sheet.tiles[tile];
    const int i = static_cast<int>(tile);
    return CutCentre::tr("Tile %1%2 · column %3, row %4 · %5 × %6 px at %7, %8 · Shift+drag cuts a prop")
        .arg(i)
        .arg(t.name.empty() ? QString()
                            : CutCentre::tr(" <b>%1</b>").arg(QString::fromStdString(t.name).toHtmlEscaped()))
        .arg(i % std::max(1, columns))
        .arg(i / std::max(1, columns))
        .arg(t.box.w)
        .arg(t.box.h)
        .arg(t.box.x)
        .arg(t.box.y);
}

} // namespace vic::app
