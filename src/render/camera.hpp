// From where a level is looked at in three dimensions. Lengths are in cells, angles in degrees.
#pragma once

#include <array>
#include <optional>

#include "level/level.hpp"
#include "scene/hit.hpp"

namespace vic::render {

using Vec3 = std::array<float, 3>;
using Vec4 = std::array<float, 4>;
using Matrix = std::array<float, 16>; // column by column: from cells to what is seen, -1 .. 1

enum class Look : std::uint8_t { aslant, front, through, game }; // game: by the level's own sight and frame

// The eye looks at a place from so far away.
struct Camera {
    Look look = Look::aslant;
    Vec3 at{};
    float away = 20;
    float round = 45; // to the right, from looking to the north
    float down = 35;
};
// That has all of the cells in view.
Camera camera_at(Look look, const Box& cells);
// In pixels, at least 1 each way. Not for Look::game.
Matrix matrix_of(const Camera& camera, Size pixels);
// Through the eyes of one who stands there: `turn` to the right from the north.
Matrix eyes_matrix(const Vec3& eye, float turn, float down, Size pixels);
// As the game shows the level, with the frame's middle over that place; `scale` is how many pixels of the picture one
// of the frame is.
Matrix game_matrix(const level::Level& level, const Vec3& middle, double scale, Size pixels);

// The line of sight through a place of the picture; nothing where the matrix leads nowhere.
std::optional<scene::Ray> ray_at(const Matrix& matrix, double x, double y, Size pixels);
// Where in the picture a place is seen, in pixels.
std::array<double, 2> seen_at(const Matrix& matrix, const Vec3& cells, Size pixels);

} // namespace vic::render
