// Cells of a byte each, as a level whose rows they are, as the codes that tracing asks for.
#pragma once

#include <algorithm>
#include <cstdint>
#include <vector>

#include "outline/trace.hpp"

// The compiler may take many at once, so that it is tracing that is timed and not what feeds it.
__attribute__((optimize("O3"))) inline void widen(const std::uint8_t* from, int count, vic::outline::SolidCode* to) {
    for (int i = 0; i < count; ++i) to[i] = from[i];
}

// `cells`: `side` rows of as many; it must outlive what comes back.
inline vic::outline::SolidSource source_of(const std::vector<std::uint8_t>& cells, int side) {
    return [&cells, side](const vic::Box& box, vic::outline::SolidCode* out, std::size_t stride, vic::outline::Forms&) {
        const int x0 = std::max(0, box.x), x1 = std::min(side, box.right());
        for (int y = 0; y < box.h; ++y) {
            vic::outline::SolidCode* const line = out + static_cast<std::size_t>(y) * stride;
            const int py = box.y + y;
            if (py < 0 || py >= side || x0 >= x1) {
                std::fill_n(line, box.w, vic::outline::SolidCode{0});
                continue;
            }
            std::fill_n(line, x0 - box.x, vic::outline::SolidCode{0});
            widen(cells.data() + static_cast<std::size_t>(py) * static_cast<std::size_t>(side) + x0, x1 - x0,
                  line + (x0 - box.x));
            std::fill_n(line + (x1 - box.x), box.right() - x1, vic::outline::SolidCode{0});
        }
        return 0;
    };
}
