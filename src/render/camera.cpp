#include "render/camera.hpp"

#include <algorithm>
#include <cmath>
#include <glm/glm.hpp>
#include <glm/gtc/matrix_transform.hpp>
#include <glm/gtc/type_ptr.hpp>

namespace vic::render {

namespace {

constexpr float kFar = 4000; // cells
constexpr float kSeen = 68;  // degrees from top to bottom, through the walker's eyes

Matrix out_of(const glm::mat4& m) {
    Matrix out{};
    std::copy_n(glm::value_ptr(m), 16, out.begin());
    return out;
}

glm::mat4 turned(const glm::mat4& m, float down, float round) {
    const glm::mat4 tilted = glm::rotate(m, glm::radians(down), glm::vec3(1, 0, 0));
    return glm::rotate(tilted, glm::radians(round), glm::vec3(0, 1, 0));
}

float shape_of(Size pixels) {
    return static_cast<float>(std::max(1, pixels.w)) / static_cast<float>(std::max(1, pixels.h));
}

} // namespace

Camera camera_at(Look look, const Box& cells) {
    Camera out;
    out.look = look;
    const auto reach = static_cast<float>(std::max({cells.w, cells.h, 6}));
    out.at = {static_cast<float>(cells.x) + static_cast<float>(cells.w) / 2, look == Look::through ? 0.8F : 0,
              static_cast<float>(cells.y) + static_cast<float>(cells.h) / 2};
    out.round = look == Look::aslant ? 45.0F : 0.0F;
    out.down = look == Look::aslant ? 35.0F : look == Look::front ? 8.0F : 4.0F;
    out.away = reach * (look == Look::through ? 0.9F : 1.2F);
    return out;
}

Matrix matrix_of(const Camera& c, Size pixels) {
    const float shape = shape_of(pixels);
    glm::mat4 m(1);
    if (c.look == Look::through) {
        m = glm::perspective(glm::radians(60.0F), shape, std::max(0.05F, c.away / 100), c.away * 2 + 400);
        m = glm::translate(m, glm::vec3(0, 0, -c.away));
    } else {
        const float h = c.away / 2, w = h * shape;
        m = glm::ortho(-w, w, -h, h, -kFar, kFar);
    }
    m = turned(m, c.down, -c.round);
    return out_of(glm::translate(m, -glm::vec3(c.at[0], c.at[1], c.at[2])));
}

Matrix eyes_matrix(const Vec3& eye, float turn, float down, Size pixels) {
    const glm::mat4 m = glm::perspective(glm::radians(kSeen), shape_of(pixels), 0.02F, 600.0F);
    return out_of(glm::translate(turned(m, down, turn), -glm::vec3(eye[0], eye[1], eye[2])));
}

Matrix game_matrix(const level::Level& level, const Vec3& middle, double scale, Size pixels) {
    const float frame_high = static_cast<float>(level.frame.h) / static_cast<float>(level.cell.h);
    // As high as the whole picture is, in cells.
    const float seen = static_cast<float>(pixels.h / std::max(1e-6, scale)) / static_cast<float>(level.cell.h);
    glm::mat4 m(1);
    float away = 0;
    if (level.sight.lens == 0) {
        const float h = seen / 2, w = h * shape_of(pixels);
        m = glm::ortho(-w, w, -h, h, -kFar, kFar);
    } else {
        away = frame_high / 2 / std::tan(glm::radians(static_cast<float>(level.sight.lens)) / 2);
        m = glm::perspective(2 * std::atan(seen / 2 / away), shape_of(pixels), away / 50, away * 4 + 400);
    }
    m = glm::translate(m, glm::vec3(0, 0, -away));
    m = turned(m, static_cast<float>(level.sight.tilt), static_cast<float>(level.sight.turn));
    return out_of(glm::translate(m, -glm::vec3(middle[0], middle[1], middle[2])));
}

std::optional<scene::Ray> ray_at(const Matrix& matrix, double x, double y, Size pixels) {
    if (pixels.w < 1 || pixels.h < 1) return std::nullopt;
    const glm::dmat4 m(glm::make_mat4(matrix.data()));
    if (std::abs(glm::determinant(m)) < 1e-300) return std::nullopt;
    const glm::dmat4 back = glm::inverse(m);
    const double sx = 2 * x / pixels.w - 1, sy = 1 - 2 * y / pixels.h;
    const auto place = [&](double z) {
        const glm::dvec4 p = back * glm::dvec4(sx, sy, z, 1);
        return glm::dvec3(p) / p.w;
    };
    const glm::dvec3 from = place(-1), way = place(1) - from;
    return scene::Ray{{from.x, from.y, from.z}, {way.x, way.y, way.z}};
}

std::array<double, 2> seen_at(const Matrix& matrix, const Vec3& cells, Size pixels) {
    const glm::vec4 p = glm::make_mat4(matrix.data()) * glm::vec4(cells[0], cells[1], cells[2], 1);
    return {(double{p.x} / double{p.w} + 1) / 2 * pixels.w, (1 - double{p.y} / double{p.w}) / 2 * pixels.h};
}

} // namespace vic::render
