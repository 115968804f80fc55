// The own word of cells: that one may walk there, or may not, whatever lies in them.
#pragma once

#include <string>

#include "level/project.hpp"
#include "level/region.hpp"

namespace vic::edit {

enum class OwnWord : std::uint8_t { none, may_walk, may_not_walk };

// The layer of blockers that such words are written on: the frontmost of the storey, if nothing of it in front of that
// can block or open; 0 where there is none.
level::LayerId own_word_layer(const level::Level& level, int storey = 0);
// The one of the storey that `active` lies on; of the lowest where there is none.
int storey_of(const level::Level& level, level::LayerId active);

// The cells with that word from now on; `none` takes theirs back. The layer is made in front of all others of the
// storey where there is none, with the id `next_id`, which is then one more. Nothing changes where it is locked.
level::Level with_own_word(const level::Level& level, const level::Region& cells, OwnWord word,
                           const std::string& layer_name, std::uint32_t& next_id, int storey = 0);
// It is made likewise, empty, unless it is there; the level's id of it.
level::LayerId make_own_word_layer(level::Level& level, const std::string& layer_name, std::uint32_t& next_id,
                                   int storey);

// What the cell says itself, on that layer.
OwnWord own_word_of(const level::Level& level, Point cell, int storey = 0);

} // namespace vic::edit
