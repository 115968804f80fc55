// Collision classes and those whom they stop.
#pragma once

#include <string>
#include <vector>

#include "outline/trace.hpp"

namespace vic::outline {

// The classes of what can block in the level, sorted: those of its layers on which tiles or blockers block, of what
// stands and blocks, and of tiles and free blockers that name one; "" for what has none.
std::vector<std::string> classes_in(const level::Level& level, const Kinds& kinds);

// Whether anything in the level is of a class that the mover passes.
bool passes_any(const level::Level& level, const Kinds& kinds, const level::Mover& mover);

// What stops the mover. It must outlive the call.
Trace trace_for(const level::Level& level, const Kinds& kinds, const level::Mover& mover);

} // namespace vic::outline
