// Placing and scaling a backdrop.
#pragma once

#include "level/level.hpp"

namespace vic::edit {

// To what a backdrop is fitted, its sides' ratio kept: it fills the frame; it is as high as what is seen of its layer;
// as wide; or it stays as large as it is and its lower edge comes to the floor: where the walker starts in a level from
// the side, else the lower edge of what is seen.
enum class Fit : std::uint8_t { frame, height, width, floor };
level::Backdrop fitted(const level::Level& level, const level::Layer& layer, Size picture, Fit to); // a backdrop's

// Its picture as large as that: a share of its own size, about a point that stays where it is on it.
level::Backdrop drawn_at_scale(const level::Backdrop& backdrop, Size picture, double by, Point about);
// How large it is drawn, 1 for as it is.
double scale_of(const level::Backdrop& backdrop, Size picture);
// A scale that is wished for by hand: the nearest whole number, or a whole part (1/2, 1/3, 1/4) where it is no more
// than a tenth off; otherwise itself.
double whole_scale(double wished);

} // namespace vic::edit
