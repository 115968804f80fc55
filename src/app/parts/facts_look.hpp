// How the values of cells are seen: a colour each, and a short word.
#pragma once

#include <QColor>
#include <QPixmap>
#include <QString>

#include "level/facts.hpp"
#include "level/notes.hpp"

namespace vic::app {

// The more, the darker; below zero another colour. Of choices, yes and no each has one of its own.
QColor factColour(const level::NoteKind* kind, int value);
// "5", "yes", "rich"; with no kind, or a value that it does not have, the number.
QString factWord(const level::NoteKind* kind, int value);
// The word on its colour, in a square of `side` pixels.
QPixmap factSign(const level::NoteKind* kind, int value, int side);

} // namespace vic::app
