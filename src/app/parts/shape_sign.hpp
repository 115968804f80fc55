// The named shapes that a tile or a blocker may have, in words and as signs.
#pragma once

#include <QPixmap>
#include <QString>

#include "app/parts/tokens.hpp"
#include "level/shape.hpp"

namespace vic::app {

struct Tokens;

// A shape's name, and its sign: how it fills a cell, with a rim, in a square of `side` pixels.
QString shapeName(level::TileShape shape);
QPixmap shapeSign(level::TileShape shape, const Tokens& t, int side = 20);

} // namespace vic::app
