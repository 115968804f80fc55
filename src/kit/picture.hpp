// Pictures of a kit's finishes, from the kinds that files of kits bring.
#pragma once

#include <string>
#include <string_view>

#include "base/image.hpp"

namespace vic::kit {

// PNG, or JPEG by libjpeg-turbo; by what the bytes are, not by a name. Throws InputError naming `file` for what is
// neither, is damaged, or is larger than sheet::kMostSide or kMostPixels: looked at before any memory is taken.
Image decode_picture(std::string_view bytes, const std::string& file);

} // namespace vic::kit
