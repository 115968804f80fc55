#include "edit/fill.hpp"

#include <array>
#include <cstring>

#include "base/wide.hpp"

namespace vic::edit {

using namespace level;

namespace {

// What a cell holds as one number, so that alike cells have the same.
std::uint64_t content(Alike alike, Cell c, MaterialId m) {
    switch (alike) {
        case Alike::content:
            return m != 0 && !c.pinned() ? std::uint64_t{m} << 32 : std::uint64_t{c.bits & 0x07FFFFFFU};
        case Alike::tile:
            return c.tile();
        case Alike::material:
            // Tiles that belong to no material are told apart by themselves.
            return m != 0 ? std::uint64_t{m} << 32 : std::uint64_t{c.tile()};
    }
    return 0;
}

// Of a row of a chunk, the cells whose content is the wanted one: the same as content(), but bytes first, without a
// branch, so that the compiler finds many at a time; then eight of them to eight bits.
VIC_WIDE std::uint64_t alike_row(const Cell* cells, const MaterialId* materials, std::uint64_t wanted) {
    const auto wanted_tile = static_cast<std::uint32_t>(wanted);
    const auto wanted_own = static_cast<std::uint32_t>(wanted >> 32);
    std::array<std::uint8_t, kChunk> alike;
    for (std::size_t x = 0; x < kChunk; ++x) {
        const std::uint32_t own = materials[x];
        const std::uint32_t painted = 0U - static_cast<std::uint32_t>((own != 0) & ((cells[x].bits >> 27 & 1U) == 0));
        const std::uint32_t tile = cells[x].bits & 0x07FFFFFFU & ~painted;
        alike[x] = static_cast<std::uint8_t>((tile == wanted_tile) & ((own & painted) == wanted_own));
    }
    std::uint64_t bits = 0;
    for (std::size_t x = 0; x < kChunk; x += 8) {
        std::uint64_t eight;
        std::memcpy(&eight, &alike[x], 8);
        bits |= ((eight * 0x0102040810204080ULL) >> 56) << x;
    }
    return bits;
}

// The cells of a chunk that are like a given one on every layer of a level.
class Open {
  public:
    Open(const Level& level, LayerId layer, Point at, const FillOptions& options, const Region* bound)
        : alike_(options.alike), bound_(bound && !bound->empty() ? bound : nullptr) {
        const Layer* of = level.layer(layer);
        for (const LayerRef& l : level.layers)
            if (l->has_cells() &&
                (l->id == layer || (options.all_layers && l->shown && of && l->grain() == of->grain())))
                wanted_.push_back({&l->grid(), content(alike_, l->grid().cell(at), l->grid().material(at))});
    }
    [[nodiscard]] bool any() const { return !wanted_.empty(); }

    Region::Rows operator()(Point chunk) const {
        Region::Rows open;
        open.fill(~std::uint64_t{0});
        if (bound_) {
            const Region::Rows* rows = bound_->rows(chunk);
            if (!rows) return {};
            open = *rows;
        }
        for (const auto& [grid, wanted] : wanted_) {
            const Chunk* c = grid->chunk(chunk);
            if (!c) {
                if (wanted != 0) return {};
                continue;
            }
            for (std::size_t y = 0; y < kChunk; ++y) {
                if (open[y] == 0) continue;
                const Cell* cells = &c->cells[y * kChunk];
                const MaterialId* materials = &c->materials[y * kChunk];
                std::uint64_t bits = 0;
                if (alike_ == Alike::content)
                    bits = alike_row(cells, materials, wanted);
                else
                    for (std::size_t x = 0; x < kChunk; ++x)
                        bits |= std::uint64_t{content(alike_, cells[x], materials[x]) == wanted} << x;
                open[y] &= bits;
            }
        }
        return open;
    }

  private:
    struct Wanted {
        const Grid* grid;
        std::uint64_t content;
    };
    Alike alike_;
    const Region* bound_;
    std::vector<Wanted> wanted_;
};

} // namespace

Region fill_cells(const Level& level, LayerId layer, Point at, const Box& within, const FillOptions& options,
                  const Region* bound) {
    const Box box = intersection(within, level.cells());
    const Open open(level, layer, at, options, bound);
    if (!open.any() || !box.contains(at)) return {};
    return flood(at, options.corners, box, open);
}

Region alike_cells(const Level& level, LayerId layer, Point at, const Box& within, const FillOptions& options,
                   const Region* bound) {
    const Box box = intersection(within, level.cells());
    const Open open(level, layer, at, options, bound);
    Region out;
    if (!open.any() || !box.contains(at)) return out;
    for (int cy = box.y / kChunk; cy <= (box.bottom() - 1) / kChunk; ++cy)
        for (int cx = box.x / kChunk; cx <= (box.right() - 1) / kChunk; ++cx) out.put({cx, cy}, open({cx, cy}));
    out.keep(box);
    return out;
}

} // namespace vic::edit
