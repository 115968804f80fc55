#include "outline/solids.hpp"

#include "outline/convex.hpp"
#include "outline/rectangles.hpp"

namespace vic::outline {

Solids solids(const level::Level& level, const Kinds& kinds, level::EngineShapes shapes) {
    using level::EngineShapes;
    Solids out;
    if (shapes == EngineShapes::outlines) return out;
    if (shapes == EngineShapes::parts) {
        out.parts = convex_parts(outlines(trace(level, kinds)));
        return out;
    }
    const std::vector<std::uint8_t> full = full_cells(level, kinds);
    if (shapes == EngineShapes::rectangles)
        out.boxes = fewest_rectangles(level.size, full);
    else
        for (int y = 0; y < level.size.h; ++y)
            for (int x = 0; x < level.size.w; ++x)
                if (full[static_cast<std::size_t>(y) * static_cast<std::size_t>(level.size.w) +
                         static_cast<std::size_t>(x)] != 0)
                    out.boxes.push_back({x, y, 1, 1});
    // The rest is traced as if the whole cells were open.
    const SolidSource rest = [&](const Box& cells, SolidCode* codes, std::size_t stride, Forms& forms) {
        const int count = read_solid(level, kinds, cells, codes, stride, forms);
        for (int y = 0; y < cells.h; ++y)
            for (int x = 0; x < cells.w; ++x)
                if (SolidCode& code = codes[static_cast<std::size_t>(y) * stride + static_cast<std::size_t>(x)];
                    solid_of(code) == kFull)
                    code = kOpen;
        forms.bends.clear(); // beside a box they are corners
        return count;
    };
    out.parts = convex_parts(outlines(trace(level.size, rest)));
    return out;
}

} // namespace vic::outline
