// The second project of Pell Saltern: levels of kit pieces, in cells of 32 pixels.
#pragma once

#include "base/files.hpp"

namespace pell {

// "Pump House", of two storeys and a roof with quays and jetties round it; "Salt Maze", laid from a small picture; and
// "Reed Bank", flat art that stands.
void make_houses(const vic::fs::path& dir);

} // namespace pell
