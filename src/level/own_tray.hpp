// Trays of the designer's own making: what belongs together, from whatever sheets it comes.
#pragma once

#include <cstdint>
#include <string>
#include <vector>

#include "base/image.hpp"
#include "level/sheet.hpp"

namespace vic::level {

using OwnTrayId = std::uint32_t;

struct TrayItem {
    enum class Kind : std::uint8_t { material, tile, prop };
    Kind kind = Kind::tile;
    std::uint32_t id = 0; // of a material, tile or kind of prop
    auto operator<=>(const TrayItem&) const = default;
};

struct OwnTray {
    OwnTrayId id = 0;
    std::string name;              // no two trays of a folder have the same
    std::string folder;            // "Shore/Plants"; may be empty
    Rgba colour{};                 // its mark; see-through for none
    std::vector<SheetId> sheets;   // all tiles of these
    std::vector<std::string> tags; // all tiles with any of these
    std::vector<TrayItem> items;   // and these, in this order, first
    bool operator==(const OwnTray&) const = default;
};

} // namespace vic::level
