// What of a piece blocks: its box, its hull, a ramp, or what another piece fills.
#include <LinearMath/btConvexHullComputer.h>

#include <algorithm>
#include <cmath>
#include <utility>

#include "scene/scene.hpp"

namespace vic::scene {

namespace {

using Place = std::array<float, 3>;

void add(Model& out, const Place& a, const Place& b, const Place& c) {
    for (const Place& p : {a, b, c}) out.corners.push_back({p, {}, {}});
    out.parts[0].count += 3;
}

// Places, and faces of them as closed lines, counter-clockwise from outside.
Model of_faces(const std::vector<Place>& places, const std::vector<std::vector<std::size_t>>& faces) {
    Model out;
    if (places.empty()) return out;
    out.parts.push_back({0, 0, -1});
    out.least = out.most = places[0];
    for (const Place& p : places)
        for (std::size_t axis = 0; axis < 3; ++axis) {
            out.least[axis] = std::min(out.least[axis], p[axis]);
            out.most[axis] = std::max(out.most[axis], p[axis]);
        }
    for (const std::vector<std::size_t>& face : faces)
        for (std::size_t i = 2; i < face.size(); ++i) add(out, places[face[0]], places[face[i - 1]], places[face[i]]);
    return out;
}

Model box_model(const Model& of) {
    std::vector<Place> places;
    for (std::size_t i = 0; i < 8; ++i)
        places.push_back(
            {i & 1 ? of.most[0] : of.least[0], i & 2 ? of.most[1] : of.least[1], i & 4 ? of.most[2] : of.least[2]});
    return of_faces(places, {{0, 4, 6, 2}, {1, 3, 7, 5}, {0, 1, 5, 4}, {2, 6, 7, 3}, {0, 2, 3, 1}, {4, 5, 7, 6}});
}

Model hull_model(const Model& of) {
    std::vector<float> coordinates;
    for (const Model::Corner& c : of.corners) coordinates.insert(coordinates.end(), c.at.begin(), c.at.end());
    btConvexHullComputer hull;
    hull.compute(coordinates.data(), 3 * sizeof(float), static_cast<int>(of.corners.size()), 0, 0);
    std::vector<Place> places;
    for (int i = 0; i < hull.vertices.size(); ++i)
        places.push_back({static_cast<float>(hull.vertices[i].x()), static_cast<float>(hull.vertices[i].y()),
                          static_cast<float>(hull.vertices[i].z())});
    std::vector<std::vector<std::size_t>> faces;
    for (int i = 0; i < hull.faces.size(); ++i) {
        const btConvexHullComputer::Edge* const first = &hull.edges[hull.faces[i]];
        std::vector<std::size_t>& face = faces.emplace_back();
        for (const btConvexHullComputer::Edge* edge = first;;) {
            face.push_back(static_cast<std::size_t>(edge->getSourceVertex()));
            edge = edge->getNextEdgeOfFace();
            if (edge == first) break;
        }
    }
    return of_faces(places, faces);
}

// On which side a piece is highest, by the middle height of the corners near it: 0 north, 1 east, 2 south, 3 west.
std::size_t highest_side(const Model& of) {
    std::array<double, 4> sum{}, count{};
    const float near_x = (of.most[0] - of.least[0]) / 4, near_z = (of.most[2] - of.least[2]) / 4;
    for (const Model::Corner& c : of.corners) {
        const std::array<bool, 4> at{c.at[2] <= of.least[2] + near_z, c.at[0] >= of.most[0] - near_x,
                                     c.at[2] >= of.most[2] - near_z, c.at[0] <= of.least[0] + near_x};
        for (std::size_t side = 0; side < 4; ++side)
            if (at[side]) sum[side] += double{c.at[1]}, ++count[side];
    }
    std::size_t best = 0;
    double most = -1e9;
    for (std::size_t side = 0; side < 4; ++side) {
        const std::size_t across = (side + 2) % 4;
        const double rises = sum[side] / std::max(1.0, count[side]) - sum[across] / std::max(1.0, count[across]);
        if (rises > most + 1e-6) most = rises, best = side;
    }
    return best;
}

Model ramp_model(const Model& of) {
    const std::size_t high = highest_side(of);
    const Place a = of.least, b = of.most;
    // Round the foot from the north-western corner; the upper edge lies over two of them.
    const std::array<std::pair<float, float>, 4> foot{{{a[0], a[2]}, {b[0], a[2]}, {b[0], b[2]}, {a[0], b[2]}}};
    std::vector<Place> places;
    for (std::size_t i = 0; i < 4; ++i) { // from where the high side begins
        const auto& [x, z] = foot[(high + i) % 4];
        places.push_back({x, a[1], z});
    }
    places.push_back({places[0][0], b[1], places[0][2]});
    places.push_back({places[1][0], b[1], places[1][2]});
    return of_faces(places, {{0, 1, 2, 3}, {0, 4, 5, 1}, {3, 2, 5, 4}, {0, 3, 4}, {1, 5, 2}});
}

} // namespace

Model blocking_model_of(const LoadedKit& kit, std::size_t piece) {
    const auto own = kit.blocking.find(piece);
    if (own == kit.blocking.end()) return model_of(kit, piece);
    if (own->second.blocks == level::PieceBlocks::another) return model_of(kit, own->second.as);
    if (own->second.blocks == level::PieceBlocks::node) return model_of(kit, piece, own->second.node, true);
    Model model = model_of(kit, piece);
    if (model.corners.empty()) return model;
    switch (own->second.blocks) {
        case level::PieceBlocks::box:
            return box_model(model);
        case level::PieceBlocks::hull:
            return hull_model(model);
        case level::PieceBlocks::ramp:
            return ramp_model(model);
        case level::PieceBlocks::nothing:
            return {};
        default:
            return model;
    }
}

} // namespace vic::scene
