// Pictures from and to PNG, by libpng.
#pragma once

#include <string>
#include <string_view>

#include "base/files.hpp"
#include "base/image.hpp"

namespace vic::sheet {

inline constexpr int kMostSide = 16384;              // pixels a side
inline constexpr std::int64_t kMostPixels = 1 << 26; // 67 million, 256 MiB in memory

// Any PNG: grey, RGB, palette, with or without alpha, 1 to 16 bits (16 are rounded to 8), interlaced or not.
// Throws InputError naming `file` for what is no PNG, is damaged or cut off, or is larger than the limits above; the
// limits are checked before any memory is taken.
Image decode_png(std::string_view bytes, const std::string& file);
Image read_png(const fs::path& file);

// 8-bit RGBA; the same picture gives the same bytes. The picture must not be empty.
std::string encode_png(const Image& image);

} // namespace vic::sheet
