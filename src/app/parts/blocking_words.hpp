// How the window says what a material is in the way of.
#pragma once

#include <QString>

#include "edit/blocking.hpp"

namespace vic::app {

QString blockingWord(edit::Blocking blocking); // goes on from a name: "blocks as drawn"

} // namespace vic::app
