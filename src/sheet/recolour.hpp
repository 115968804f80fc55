// Pictures in other colours.
#pragma once

#include <string>
#include <vector>

#include "base/image.hpp"
#include "level/sheet.hpp"

namespace vic::sheet {

// The colour changed: one that is exchanged becomes that for which it is; any other gets another hue, saturation and
// lightness (as of HSL: Joblove and Greenberg, "Color spaces for computer graphics", SIGGRAPH 1978). Alpha stays.
Rgba recoloured(Rgba colour, const level::Recolour& by);
Image recoloured(const Image& image, const level::Recolour& by);

// The commonest colours of a picture that are not see-through, the most frequent first, at most `most`.
std::vector<Rgba> common_colours(const Image& image, const std::vector<Box>& of, std::size_t most);

} // namespace vic::sheet
