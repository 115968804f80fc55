// Collision classes and those whom they stop.
#pragma once

#include <string>
#include <vector>

#include "outline/trace.hpp"

namespace vic::outline {

// The classes of the level's layers on which anything can block, sorted; "" for those that name none.
std::vector<std::string> classes_in(const level::Level& level);

// Whether the level has a layer of a class that the mover passes.
bool passes_any(const level::Level& level, const level::Mover& mover);

// What stops the mover. It must outlive the call.
Trace trace_for(const level::Level& level, const Kinds& kinds, const level::Mover& mover);

} // namespace vic::outline
