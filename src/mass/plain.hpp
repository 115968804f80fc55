// What blocks in a level of kit pieces and is none of them: flat tiles, props, drawn blockers, cells' own words.
#pragma once

#include <memory>
#include <vector>

#include "mass/merge.hpp"
#include "mass/shell.hpp"

namespace vic::mass {

inline constexpr int kFlatHigh = 128; // 1/64 cells; how high what is flat is taken to be: nobody gets over it

// Apart from what is merged there is the plane at height 0, which carries everywhere in the level.
struct Plain {
    Size cells;
    std::vector<Slab> blocked; // one of each storey on which anything blocks, from its floor, as high as it at most
};
// That of a level. What lies behind a storey's pieces is open where they carry over it, as a jetty over water: where
// `merged`, what the level's pieces fill, ends no more than half of kFlatHigh above the storey. What lies in front of
// them, as a blocker drawn across a jetty, blocks all the same.
Plain plain_of(const level::Project& project, const level::Level& level,
               const std::vector<std::shared_ptr<const scene::LoadedKit>>& kits, const Mass& merged);

// As a closed body.
Shell raised(const Slab& slab);

} // namespace vic::mass
