// What blocks as a drawing for print and for looking at elsewhere.
#pragma once

#include <string>
#include <vector>

#include "level/level.hpp"
#include "outline/trace.hpp"

namespace vic::outline {

// An SVG 1.1 picture in pixels of the level: the outlines as one path (class "blocks"), the one-way edges as another
// (class "one-way"), each with a title. `art`: where a picture of the level's pixels is to be had that lies under them,
// as a URL; empty: none.
std::string svg(const level::Level& level, const std::vector<Outline>& outlines, const std::vector<OneWayEdge>& one_way,
                const std::string& art = {});

} // namespace vic::outline
