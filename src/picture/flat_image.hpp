// What was drawn on a canvas, as a picture without anything see-through.
#pragma once

#include "base/image.hpp"
#include "picture/compose.hpp"

namespace vic::picture {

inline Image flat_image(const Canvas& canvas) {
    Image out(canvas.box.size());
    std::size_t i = 0;
    for (int y = 0; y < out.height(); ++y)
        for (int x = 0; x < out.width(); ++x, ++i) {
            const std::uint32_t p = canvas.pixels[i];
            out.set(x, y,
                    {static_cast<std::uint8_t>(p >> 16), static_cast<std::uint8_t>(p >> 8),
                     static_cast<std::uint8_t>(p), 255});
        }
    return out;
}

} // namespace vic::picture
