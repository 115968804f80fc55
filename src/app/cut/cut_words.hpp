// Cuts and tiles in words.
#pragma once

#include <QString>
#include <cstddef>

namespace vic::level {
struct Cut;
struct Sheet;
} // namespace vic::level

namespace vic::app {

QString cutTitle(const level::Cut& cut); // "16 × 16, gaps 1"
// A tile of a sheet with so many columns, for the reading line (rich text).
QString tileText(const level::Sheet& sheet, std::size_t tile, int columns);

} // namespace vic::app
