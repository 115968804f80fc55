// What a level uses, and how a parcel tells of it: tiles, kinds of props, placed props. Parts of build().
#pragma once

#include <cstdint>
#include <map>
#include <string>
#include <vector>

#include "level/project.hpp"
#include "level/standing.hpp"
#include "parcel/atlas.hpp"
#include "store/fields.hpp"

namespace vic::parcel {

using store::Json;

// What a level uses, numbered as the parcel numbers it: tiles by id, props by id.
struct Used {
    level::TileTable table; // as they are in the level
    level::PropKinds props;
    std::vector<level::TileRef> tiles;
    std::vector<std::uint32_t> index; // by tile id: 1 + place in `tiles`, 0 where unused or gone
    std::vector<const level::PropKind*> kinds;
    std::vector<Size> cell; // pixels, by tile id: the largest cells that it lies in
};

// By name.
Json notes_json(const level::Project& project, const level::Notes& notes);
Json tiles_json(const level::Project& project, const Used& used, const Atlas& atlas);
// The frames of a kind beside each other, as large as they are in the level.
Image strip_of(const level::Project& project, const level::PropKind& kind);
// Pictures in pieces go into `out`, as files.
Json kinds_json(const level::Project& project, const Used& used, const Atlas& atlas,
                std::map<std::string, std::string>& out);
// Placed props as the pictures they show: an ensemble is its parts, which have its id.
Json props_json(const level::Project& project, const level::Layer& layer, const Used& used);

} // namespace vic::parcel
