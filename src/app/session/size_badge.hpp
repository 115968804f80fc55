// How art goes into the cells of the level, in a word.
#pragma once

#include <QString>

#include "level/sheet.hpp"

namespace vic::app {

class Session;

// How the sheet is drawn in the chosen level: "×½", "×2", "does not go into 16", "2 × 2"; empty where it is drawn as it
// is.
QString sizeBadge(const Session& session, level::SheetId sheet);

// "½", "1/3" …
QString partOf(int n);

} // namespace vic::app
