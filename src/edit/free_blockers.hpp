// Blockers that lie free of the lattice: drawn, found and taken away.
#pragma once

#include <functional>
#include <optional>
#include <string>

#include "level/project.hpp"

namespace vic::edit {

// The level with one more, on `active` where that is a layer of blockers, else where cells have their own words; that
// layer is made where there is none. Its id is given here. Nothing changes where the layer is locked; ids are taken
// from `next_id` on. The blocker must be one: see blocker_trouble().
level::Level with_free_blocker(const level::Level& level, level::LayerId active, level::FreeBlocker blocker,
                               const std::string& layer_name, std::uint32_t& next_id);

struct FreeHit {
    level::LayerId layer = 0;
    level::BlockerId id = 0;
    bool operator==(const FreeHit&) const = default;
};
// The frontmost that covers a place (1/64 cells) on a layer that is not locked.
std::optional<FreeHit> free_blocker_at(const level::Level& level, Point units);
// As `change` leaves it; its id stays. What would be none (blocker_trouble()) changes nothing.
level::Level change_free_blocker(const level::Level& level, const FreeHit& hit,
                                 const std::function<void(level::FreeBlocker&)>& change);
level::Level without_free_blocker(const level::Level& level, const FreeHit& hit);

// The nearest place on a lattice of `step` units each way, 1 .. 64.
Point snapped(Point units, int step);

} // namespace vic::edit
