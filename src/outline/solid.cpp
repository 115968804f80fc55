#include "outline/solid.hpp"

#include <cstring>

namespace vic::outline {

using level::TileShape;

SolidCode code_of(TileShape shape) {
    switch (shape) {
        case TileShape::none:
            return kOpen;
        case TileShape::full:
            return kFull;
        case TileShape::slope_ne:
            return kSlopeNE;
        case TileShape::slope_se:
            return kSlopeSE;
        case TileShape::slope_sw:
            return kSlopeSW;
        case TileShape::slope_nw:
            return kSlopeNW;
        case TileShape::one_way_north:
            return 16;
        case TileShape::one_way_east:
            return 32;
        case TileShape::one_way_south:
            return 64;
        case TileShape::one_way_west:
            return 128;
    }
    return kOpen;
}

SolidCode merged(SolidCode a, SolidCode b) {
    const Solid sa = solid_of(a);
    const Solid sb = solid_of(b);
    const Solid both = sa == kOpen || sa == sb ? sb : sb == kOpen ? sa : kFull;
    return static_cast<SolidCode>(both | ((a | b) & 0xF0));
}

int read_solid(const level::Level& level, const level::TileTable& tiles, const Box& cells, SolidCode* out,
               std::size_t stride) {
    for (int y = 0; y < cells.h; ++y)
        std::memset(out + static_cast<std::size_t>(y) * stride, 0, static_cast<std::size_t>(cells.w));
    int shapes = 0;
    for (const level::LayerRef& layer : level.layers) {
        if (layer->kind != level::LayerKind::tiles || !layer->solid) continue;
        // Neighbouring cells mostly hold the same tile; the last answer saves the look-up.
        std::uint32_t last_bits = 0;
        SolidCode last = kOpen;
        level::each_cell(layer->grid, cells, [&](Point at, level::Cell cell, level::MaterialId) {
            if (cell.bits != last_bits) {
                last_bits = cell.bits;
                last = code_of(tiles.shape(cell));
            }
            if (last == kOpen) return;
            SolidCode& code =
                out[static_cast<std::size_t>(at.y - cells.y) * stride + static_cast<std::size_t>(at.x - cells.x)];
            code = merged(code, last);
            ++shapes;
        });
    }
    return shapes;
}

} // namespace vic::outline
