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

// Whether pictures may well be the tiles of one sheet: at least two, all squares of one size, of at most
// kMostEven pixels a side.
inline constexpr int kMostEven = 256;
bool are_even(const std::vector<NamedPicture>& pictures);
// The same of parts, which must lie in the rows of pack_even() besides.
bool are_even(const std::vector<level::Part>& parts);

// Such pictures in rows of eight without gaps, in the order of their names, in which 2 comes before 10. As with
// pack_pictures() what was there keeps its place; what is new comes behind it.
std::optional<Packed> pack_even(std::vector<NamedPicture> pictures, const std::vector<level::Part>& before = {},
                                const Image& before_image = {});

} // namespace vic::sheet
