// Plantings under change: carried out into a layer, and what is done to their props by hand.
#pragma once

#include "level/project.hpp"
#include "level/region.hpp"
#include "plant/grow.hpp"

namespace vic::edit {

// The layer's recipe carried out (plant/grow.hpp): what grew before goes, what was placed or changed by hand stays. A
// prop that comes again at its place keeps its id.
struct Planted {
    level::Level level;
    std::uint32_t next_id = 0; // of the project afterwards
    int count = 0;             // that grew
    std::vector<plant::PassGrown> passes;
    std::size_t wanted = 0; // more than `most`: about so many; nothing is changed then
};
Planted planted(const level::Project& project, const level::Level& level, level::LayerId layer,
                std::size_t most = plant::kAskBeyond);

// After a change by hand, `now`, of a level that was `before`: props of plantings that differ are by hand from now on,
// and stay; where one was taken away, and is not there any more, none comes again. Recipes that changed as well are
// left alone. Returns whether `now` was changed.
bool keep_by_hand(const level::Project& project, const level::Level& before, level::Level& now);

// Forgets what was done to a planting by hand: what was changed or added goes, what was taken may come again.
level::Level forget_by_hand(const level::Level& level, level::LayerId layer);

// Only that one: a prop that is kept, or something that was taken away.
level::Level forget_kept(const level::Level& level, level::LayerId layer, level::PropId prop);
level::Level forget_taken(const level::Level& level, level::LayerId layer, const level::TakenAway& taken);

// The layer as one of props that were placed: what grew stays where it is, and the recipe is gone.
level::Level frozen(const level::Level& level, level::LayerId layer);

// Passes in another order, and without one: what looks at a pass, or does not mind it, follows it, and no pass looks
// ahead. The indices must be those of passes.
void swap_passes(level::Planting& recipe, std::size_t one, std::size_t other);
void remove_pass(level::Planting& recipe, std::size_t index);

// What a brush does to a recipe's area: plants there; takes some of it away, of what is there a share that the strength
// tells; takes all away.
enum class PlantBrush : std::uint8_t { plant, thin, clear };
// A dab with its middle there, soft from the middle on (0) to hard (100). Pixels; on a level with such cells. The
// recipe's area becomes the painted one where it has no terms.
void dab(level::Planting& recipe, Size cell, Point at, int radius, int hardness, int strength, PlantBrush brush);

} // namespace vic::edit
