// Many single pictures as one sheet.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/image.hpp"
#include "level/sheet.hpp"

namespace vic::sheet {

struct NamedPicture {
    std::string name; // no two the same
    Image image;      // not empty
};

struct Packed {
    Image image;
    std::vector<level::Part> parts; // in name order
};

// The pictures on one sheet, a see-through pixel between them. Parts of `before` that come again in the same size keep
// their place; those that do not come again keep place and pixels (from `before_image`), so that nothing that was
// placed is lost; one that comes in another size gets a new place. The same pictures give the same sheet, in whatever
// order they come. Nothing where the sheet would be larger than kMostSide.
std::optional<Packed> pack_pictures(std::vector<NamedPicture> pictures, const std::vector<level::Part>& before = {},
                                    const Image& before_image = {});

} // namespace vic::sheet
