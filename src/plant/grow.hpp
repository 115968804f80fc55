// A planting's recipe carried out: pass after pass, each seeing what the earlier ones planted.
#pragma once

#include <cstdint>
#include <vector>

#include "base/text.hpp"
#include "level/project.hpp"
#include "plant/scatter.hpp"

namespace vic::plant {

inline constexpr std::size_t kAskBeyond = 100'000; // so many grow without a word
inline constexpr std::size_t kMostGrown = 4'000'000;

// What came of a pass. Pixels of the level; distances between the places of its own props.
struct PassGrown {
    int count = 0;
    double nearest = 0; // of any two; 0 where there are not two
    double mean = 0;    // from each to the one nearest to it
    double alike = 0;   // of two that look the same; 0 where no two do
    double covers = 0;  // share of its area that lies under their feet, 0 .. 1
    double area = 0;    // square pixels of its area, weighted by its strength
    Text says;          // why nothing or little grows; else empty
};

struct Grown {
    std::vector<level::Prop> props; // without ids, pass by pass
    std::vector<PassGrown> passes;  // as many as the recipe has; of muted ones nothing
    std::size_t wanted = 0;         // where that is more than `most`: about how many it would be, and nothing grew
};

// What the recipe of the layer gives on the level as it is, around what the layer's props of pass 0 are: those were
// placed or changed by hand, and are not among the results. Same project, level and recipe, same result.
Grown grow(const level::Project& project, const level::Level& level, level::LayerId layer,
           const level::Planting& recipe, std::size_t most = kAskBeyond, bool threads = true);

// About how many more would stand if the recipe's area became that of `then`: as many as stand on as much of it now, on
// the average of what grew. Only pixels in `where` are looked at.
int would_come(const level::Project& project, const level::Level& level, level::LayerId layer,
               const level::Planting& now, const level::Planting& then, const std::vector<PassGrown>& grown,
               const Box& where);

// How far apart the props of a kind are kept where nobody says: as wide as its foot. 1/16 pixels.
int apart_of_foot(const level::PropKind& kind);

} // namespace vic::plant
