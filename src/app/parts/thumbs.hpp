// Small pictures of sheets, tiles, materials and props, always in whole pixels.
#pragma once

#include <QPixmap>
#include <QSize>
#include <string>

#include "base/geometry.hpp"
#include "base/turn.hpp"
#include "level/cell.hpp"
#include "level/prop.hpp"

namespace vic::level {
class PropKinds;
struct Level;
struct Material;
struct Project;
struct PropKind;
struct Sheet;
struct Stamp;
class TileTable;
} // namespace vic::level

namespace vic::app {

// The table of the project's tiles, made anew only when its sheets have changed; for the window's thread alone.
const level::TileTable& tilesOf(const level::Project& project);
// Likewise of its kinds of props.
const level::PropKinds& propKindsOf(const level::Project& project);
// Both as they are in the level.
const level::TileTable& tilesOf(const level::Project& project, const level::Level& level);
const level::PropKinds& propKindsOf(const level::Project& project, const level::Level& level);

QPixmap sheetThumb(const level::Sheet& sheet, int side);
QPixmap tileThumb(const level::Project& project, level::TileId tile, int side, Turn turn = {});
// How the material looks where it ends: its north-west corner, from its own cases.
QPixmap materialThumb(const level::Project& project, const level::Material& material, int side);
QPixmap propThumb(const level::Project& project, const level::PropKind& kind, int side, const level::Look& look = {});
// A part of a level, its middle where it is too large.
QPixmap levelThumb(const level::Project& project, const level::Level& level, const Box& cells, QSize size);
// What a step changed in the level: the part of it, as it is afterwards. `before` may be null.
QPixmap stepThumb(const level::Project* before, const level::Project& after, const std::string& level, QSize size);
QPixmap stampThumb(const level::Project& project, const level::Stamp& stamp, int side);

} // namespace vic::app
