// Why a painted cell shows the tile that it shows, what else would fit there, and whether the rule or the drawing is to
// be suspected where it looks wrong.
//
// Own method. The tiles of the material's own sheets are judged at their seams with what lies around the cell (see
// join::candidates()). Where another fits clearly better than the one that is there, the rule is suspected; where the
// seams show and none fits better, the drawing is.
#pragma once

#include <cstdint>
#include <optional>
#include <vector>

#include "join/resolve.hpp"
#include "join/seams.hpp"
#include "level/level.hpp"
#include "level/project.hpp"
#include "level/region.hpp"

namespace vic::edit {

struct Why {
    level::MaterialId material = 0;
    level::Cell cell;
    join::Mask mask = 0;  // the cell's case
    bool missing = false; // the case has no tile: another one stands in
    int variant = 0;      // which of the case's tiles it is, 1 .. of; 0 where it is none of them
    int of = 0;
    double seam = 0; // how much its worst seam shows, 0 .. 1
    double fit = 0;  // how well it fits here, 0 .. 1; as of the others
    enum class Suspect : std::uint8_t { nothing, rule, drawing };
    Suspect suspect = Suspect::nothing;
    std::vector<join::Candidate> others; // that fit, best first, at most three; none of plain materials
};

// Nothing where the cell is not painted. Takes some tenths of a second where the sheet has hundreds of tiles.
std::optional<Why> why(const level::Project& project, const join::Rules& rules, const level::Layer& layer, Point cell);

// The cells within `box` that show the same case of the material as the rules choose it; they change when its tile
// does.
level::Region cells_of(const join::Rules& rules, const level::Layer& layer, const Box& box, level::MaterialId material,
                       level::JoinKind kind, join::Mask mask);

// The level with the tile laid in the cell by hand, pinned.
level::Level pin(const level::Level& level, level::LayerId layer, Point cell, const level::Variant& variant);

} // namespace vic::edit
