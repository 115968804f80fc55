// Where meshes are open, and what of them lies in a plane. Only for src/kit.
#pragma once

#include <array>
#include <compare>
#include <utility>
#include <vector>

#include "kit/body.hpp"

namespace vic::kit {

struct Bounds {
    Vec least, most; // all 0 for a mesh without points
};
Bounds bounds_of(const Mesh& mesh);

inline double along(Vec v, int axis) { return axis == 0 ? v.x : axis == 1 ? v.y : v.z; }

// With z, that was up, turned to y.
Mesh turned_up(Mesh mesh);

struct Edge {
    Vec from, to;
};
// The edges that one triangle alone has; points within a tenth of a millimetre are one.
std::vector<Edge> open_edges(const Mesh& mesh);

// The planes across an axis in which open edges go round something, 5 cm long together or more: where along it, sorted.
std::vector<double> rim_planes(const std::vector<Edge>& open, int axis);

// Lines in a plane, in whole millimetres: along it and up; each from its lesser end, sorted, those that go on straight
// as one.
using Profile = std::vector<std::array<int, 4>>;
// The open edges in a plane across `axis`, or where there are none the outlines of the faces that lie in it. `aside`
// and `up` are added to places; `turned`: seen from the other side.
Profile profile_of(const Mesh& mesh, const std::vector<Edge>& open, int axis, double plane, double aside, double up,
                   bool turned);
Profile mirrored(const Profile& profile);
// What of it lies between two places along it, about the middle of these; without upright lines at the two, which are
// not where a longer side goes on. All of it where nothing else lies there.
Profile part_of(const Profile& profile, int from, int to);

} // namespace vic::kit
