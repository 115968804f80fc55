// What a Renderer is made of. Only for src/render.
#pragma once

#include <array>
#include <map>
#include <optional>
#include <utility>
#include <vector>

#include "render/gl.hpp"
#include "render/renderer.hpp"

namespace vic::render {

struct Renderer::Inside {
    struct Shape {
        Vertices vertices;
        Buffer corners, instances, order;
        std::vector<scene::Model::Part> parts;
        float most = 0;        // how high it is
        int count = 0;         // instances
        bool closed = false;   // see scene::is_closed()
        bool mirrored = false; // some of them
    };
    struct CardShape {
        Vertices vertices;
        Buffer stand;
        Texture picture;
        int count = 0;
    };
    Shape& shape_of(std::size_t kit, std::size_t piece);
    static int put(Vertices& vertices, Buffer& buffer, const std::vector<float>& corners);
    [[nodiscard]] Matrix light_of(const Vec3& sun) const;
    [[nodiscard]] Vec4 cut() const;
    void draw_shadows(const level::Light& light, const Matrix& from);
    void draw_shapes(bool shadows, bool rough = false);
    void draw_ground();
    void draw_cards(const Matrix& view, const Matrix& from, const level::Light& light, bool shadows);
    void draw_mass(const Matrix& view, bool rough);
    void draw_wet(const Matrix& view);

    Kits kits;
    std::map<std::pair<std::size_t, std::size_t>, Shape> shapes;
    std::map<std::pair<std::size_t, int>, Texture> pictures; // by kit, and picture of it
    std::map<std::uint64_t, CardShape> cards;
    Vec3 to_the_eye{0, 0, 1}; // level
    Texture white, ground;
    Program lit, depth, line, hatched, dot, card, card_depth;
    Vertices ground_vertices, line_vertices, mass_vertices, edge_vertices;
    Buffer ground_corners, ground_place, line_corners, mass_corners, edge_corners;
    int mass_count = 0, edge_count = 0;   // corners
    std::array<Vertices, 2> wet_vertices; // reached, and those without a way back
    std::array<Buffer, 2> wet_corners;
    std::array<int, 2> wet_count{};
    std::array<Vec4, 2> wash{};
    Vec3 hatch{};
    std::optional<float> section;
    Vec3 background{};
    Owned<end_frame> shadow_frame;
    Owned<end_texture> shadow_picture;
    Frame fine, rough; // what is drawn into; kept while its size is the same
    Frame plain;       // with one sample of a pixel, to be read
    Frame* drawn = nullptr;
    std::optional<level::Light> shadows_of; // by which light the shadows are; none where they are stale
    Size cells{1, 1};
    float height = 1; // cells: of the highest piece
    int calls = 0;
};

} // namespace vic::render
