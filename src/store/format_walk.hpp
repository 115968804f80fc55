// The parts of the files that say who walks and what tells: walkers, movers, areas, probes, proofs.
#pragma once

#include <cstdint>
#include <set>
#include <string>
#include <vector>

#include "level/project.hpp"
#include "store/fields.hpp"

namespace vic::store {

const std::vector<std::string>& area_means_words(); // in the order of level::AreaMeans

// Only what differs from a plain walker is written beside its size, speed and jump.
Json walker_json(const level::Walker& walker);
level::Walker read_walker(const Field& f);

// The project's kinds of areas and its movers. `ids`: those that are taken.
void put_tables(Json& j, const level::Project& project);
void read_tables(const Field& root, level::Project& project, std::set<std::uint32_t>& ids);

// "tells": one of the project's kinds of areas.
level::AreaKindId read_tells(const Field& f, const level::Project& project);
std::string read_class(const Field& f); // its collision class; "" without one

// What tiles and kinds of props are in this level alone. What says it of a thing that is gone, or is drawn
// beyond the box that a kind has by now, is passed over.
void put_parts_here(Json& j, const level::Level& level);
void read_parts_here(const Field& root, const level::Project& project, level::Level& level);

// A level's probes and proofs.
void put_tries(Json& j, const level::Level& level);
void read_tries(const Field& root, level::Level& level);

} // namespace vic::store
