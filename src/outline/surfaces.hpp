// What the ground is like that one walks on: notes that go along with what blocks, told along its outlines.
#pragma once

#include <cstdint>
#include <vector>

#include "level/notes.hpp"
#include "outline/trace.hpp"

namespace vic::outline {

// Whether any note of the project is one of surfaces (level::NoteKind::surface).
bool any_surfaces(const level::Project& project);

// Outlines whose edges are told apart by the notes of what blocks there.
struct Surfaced {
    std::vector<Outline> outlines; // with corners on straight runs, too, where the surface changes
    // For each outline, for each of its edges (from corner i to the next): its number among `surfaces`.
    std::vector<std::vector<std::uint32_t>> of;
};
// The frontmost that blocks right inside an edge is asked: a tile, a prop with its own notes before those of its kind,
// what was drawn free of the lattice. On lines that are neither straight nor at 45° a change is told to a whole unit.
// `surfaces`: those that came up, no two the same, the first of nothing; new ones are added at its end.
Surfaced with_surfaces(const level::Project& project, const level::Level& level, const Kinds& kinds,
                       std::vector<Outline> outlines, std::vector<level::Notes>& surfaces);

// Likewise one-way edges.
struct SurfacedEdges {
    std::vector<OneWayEdge> edges;
    std::vector<std::uint32_t> of;
};
SurfacedEdges with_surfaces(const level::Project& project, const level::Level& level, const Kinds& kinds,
                            const std::vector<OneWayEdge>& edges, std::vector<level::Notes>& surfaces);

} // namespace vic::outline
