// Kits of boxes, made for tests: walls by their sides, floors, and whatever is put beside them.
#pragma once

#include <cmath>
#include <string>
#include <utility>
#include <vector>

#include "kit/body.hpp"
#include "kit/read_kit.hpp"

namespace kit_test {

using namespace vic;
using namespace vic::kit;

// A kit as one would make it, with what is to be read of it.
struct Kit {
    double width = 2, height = 3, thick = 0.2;
    Origin origin = Origin::middle;
    int first_bit = 0, step = 1; // of the codes; no codes where first_bit is below 0
    bool open = false;           // walls without their ends and lids: with rims
    std::vector<Body> bodies;

    // A box in a cell whose middle is 0, 0.
    void put(const std::string& name, Vec least, Vec most, Vec off = {}) {
        const double c = origin == Origin::corner ? width / 2 : 0;
        Body body;
        body.name = name;
        body.nodes = {name};
        add(body.mesh, least + off + Vec{c, 0, c}, most + off + Vec{c, 0, c});
        bodies.push_back(std::move(body));
    }
    // Without the faces that lie in the cell's sides, where it is open.
    void add(Mesh& mesh, Vec a, Vec b) const {
        const double c = origin == Origin::corner ? width / 2 : 0, h = width / 2;
        const auto quad = [&](Vec p, Vec q, Vec r, Vec s) {
            const auto first = static_cast<std::uint32_t>(mesh.points.size());
            const Vec middle = (p + q + r + s) * 0.25;
            const bool side =
                std::abs(std::abs(middle.x - c) - h) < 0.02 || std::abs(std::abs(middle.z - c) - h) < 0.02;
            if (open && side) return;
            for (const Vec v : {p, q, r, s}) mesh.points.push_back(v);
            mesh.triangles.push_back({first, first + 1, first + 2});
            mesh.triangles.push_back({first, first + 2, first + 3});
        };
        quad({a.x, a.y, a.z}, {a.x, b.y, a.z}, {b.x, b.y, a.z}, {b.x, a.y, a.z});
        quad({a.x, a.y, b.z}, {b.x, a.y, b.z}, {b.x, b.y, b.z}, {a.x, b.y, b.z});
        quad({a.x, a.y, a.z}, {a.x, a.y, b.z}, {a.x, b.y, b.z}, {a.x, b.y, a.z});
        quad({b.x, a.y, a.z}, {b.x, b.y, a.z}, {b.x, b.y, b.z}, {b.x, a.y, b.z});
        quad({a.x, a.y, a.z}, {b.x, a.y, a.z}, {b.x, a.y, b.z}, {a.x, a.y, b.z});
        quad({a.x, b.y, a.z}, {a.x, b.y, b.z}, {b.x, b.y, b.z}, {b.x, b.y, a.z});
    }
    // A wall from the middle to the sides whose bits are set: north 1, east 2, south 4, west 8.
    void wall(const std::string& name, unsigned sides) {
        const double t = thick / 2, h = width / 2;
        put(name, {-t, 0, -t}, {t, height, t});
        Body& body = bodies.back();
        const double c = origin == Origin::corner ? h : 0;
        const auto arm = [&](Vec a, Vec b) { add(body.mesh, a + Vec{c, 0, c}, b + Vec{c, 0, c}); };
        if (sides & 1U) arm({-t, 0, -h}, {t, height, -t});
        if (sides & 2U) arm({t, 0, -t}, {h, height, t});
        if (sides & 4U) arm({-t, 0, t}, {t, height, h});
        if (sides & 8U) arm({-h, 0, -t}, {-t, height, t});
    }
    [[nodiscard]] int code(unsigned sides) const {
        int out = 0;
        for (int side = 0; side < 4; ++side)
            if (sides >> side & 1U) out |= 1 << (((first_bit + step * side) % 4 + 4) % 4);
        return out;
    }
    void all_walls() {
        for (unsigned sides = 0; sides < 16; ++sides)
            wall(first_bit < 0 ? "Wall " + std::string(1, static_cast<char>('a' + sides))
                               : "wall_" + std::to_string(code(sides)),
                 sides);
    }
    void floors(int count) {
        for (int i = 0; i < count; ++i)
            put("Floor " + std::string(1, static_cast<char>('a' + i)), {-width / 2, -0.1, -width / 2},
                {width / 2, 0, width / 2});
    }
    // As a file: an object for each piece.
    [[nodiscard]] std::string obj() const {
        std::string out;
        std::size_t first = 1;
        for (const Body& body : bodies) {
            out += "o " + body.name + "\n";
            for (const Vec v : body.mesh.points)
                out += "v " + std::to_string(v.x) + " " + std::to_string(v.y) + " " + std::to_string(v.z) + "\n";
            for (const auto& t : body.mesh.triangles) {
                out += "f";
                for (const std::uint32_t corner : t) out += " " + std::to_string(first + corner);
                out += "\n";
            }
            first += body.mesh.points.size();
        }
        return out;
    }
    [[nodiscard]] KitFile file() const {
        KitFile out;
        out.bodies = bodies;
        for (Body& b : out.bodies) {
            b.mesh.finish.assign(b.mesh.triangles.size(), 0);
            b.mesh.node.assign(b.mesh.triangles.size(), 0);
        }
        out.finishes.push_back({"brick", {150, 80, 60, 255}, -1, false, false});
        return out;
    }
};

} // namespace kit_test
