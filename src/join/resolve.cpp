#include "join/resolve.hpp"

#include <array>
#include <bit>
#include <cstring>

#include "base/chance.hpp"

namespace vic::join {

using level::Cell;
using level::Grid;
using level::kChunk;
using level::MaterialId;

namespace {

// How badly a tile drawn for `have` stands in for `want`: a wrong side shows more than a wrong corner.
int misfit(Mask have, Mask want) {
    const auto wrong = static_cast<unsigned>(have ^ want);
    return 3 * std::popcount(wrong & kSides) + std::popcount(wrong & kCorners);
}

int total_weight(const std::vector<level::Variant>& variants) {
    int sum = 0;
    for (const auto& v : variants) sum += std::max(v.weight, 0);
    return sum;
}

} // namespace

Rules::Rules(const level::Project& project) : table_(256 * 256, 0), missing_(256 * 256, 0), beyond_same_(256, 0) {
    for (const auto& material : project.materials) {
        const auto& set = material->joins;
        beyond_same_[material->id] = set.beyond_is_same;
        // One entry per case that has tiles.
        std::vector<std::pair<Mask, std::uint32_t>> served;
        for (const auto& [mask, variants] : set.cases) {
            const int total = total_weight(variants);
            if (total <= 0) continue;
            if (variants.size() == 1) {
                served.emplace_back(mask, variants.front().tile);
                continue;
            }
            served.emplace_back(mask, kMany | static_cast<std::uint32_t>(choices_.size()));
            choices_.push_back({static_cast<std::uint32_t>(variants.size()), static_cast<std::uint32_t>(total)});
            std::uint32_t sum = 0;
            for (const auto& v : variants) {
                sum += static_cast<std::uint32_t>(std::max(v.weight, 0));
                choices_.push_back({sum, v.tile});
            }
        }
        for (int m = 0; m < 256; ++m) {
            const Mask want = canonical(static_cast<Mask>(m), set.kind);
            const std::size_t at = (std::size_t{material->id} << 8) | static_cast<std::size_t>(m);
            int best = 1000;
            for (const auto& [have, entry] : served) {
                const int miss = misfit(have, want);
                if (miss <= best) { // of equals the one that joins more
                    best = miss;
                    table_[at] = entry;
                }
            }
            missing_[at] = best != 0;
        }
    }
}

Cell Rules::choose(MaterialId m, Mask mask, int x, int y, std::uint32_t seed) const {
    std::uint32_t entry = table_[(std::size_t{m} << 8) | mask];
    if (entry & kMany) {
        const Choice* list = &choices_[entry & ~kMany];
        const std::uint32_t pick =
            scaled(cell_hash(seed, static_cast<std::uint32_t>(x), static_cast<std::uint32_t>(y)), list->tile);
        const std::uint32_t count = list->up_to;
        const Choice* choice = list + 1;
        for (std::uint32_t i = 1; i < count && pick >= choice->up_to; ++i) ++choice;
        entry = choice->tile;
    }
    return Cell(entry);
}

void Rules::join_row(const MaterialId* above, const MaterialId* here, const MaterialId* below, int count, int x0, int y,
                     std::uint32_t seed, Cell* cells) const {
    // The comparisons stand in a loop of their own over a small buffer, so that the compiler makes vector code of them.
    constexpr int kPart = 256;
    std::array<std::uint8_t, kPart> masks;
    for (int from = 0; from < count; from += kPart) {
        const int n = std::min(kPart, count - from);
        const MaterialId* a = above + from;
        const MaterialId* h = here + from;
        const MaterialId* b = below + from;
        for (int i = 0; i < n; ++i) {
            const MaterialId c = h[i];
            masks[static_cast<std::size_t>(i)] =
                static_cast<std::uint8_t>((a[i] == c ? kN : 0) | (a[i + 1] == c ? kNE : 0) | (h[i + 1] == c ? kE : 0) |
                                          (b[i + 1] == c ? kSE : 0) | (b[i] == c ? kS : 0) | (b[i - 1] == c ? kSW : 0) |
                                          (h[i - 1] == c ? kW : 0) | (a[i - 1] == c ? kNW : 0));
        }
        for (int i = 0; i < n; ++i) {
            if (h[i] == 0 || cells[from + i].pinned()) continue;
            const std::uint32_t entry = table_[(std::size_t{h[i]} << 8) | masks[static_cast<std::size_t>(i)]];
            cells[from + i] = (entry & kMany) ? choose(h[i], masks[static_cast<std::size_t>(i)], x0 + from + i, y, seed)
                                              : Cell(entry);
        }
    }
}

Mask neighbourhood(const Grid& grid, Point at, bool beyond_is_same) {
    const MaterialId own = grid.material(at);
    Mask mask = 0;
    for (unsigned i = 0; i < 8; ++i) {
        const Point p = at + kNeighbour[i];
        const bool same = box_of(grid.size()).contains(p) ? grid.material(p) == own : beyond_is_same;
        if (same) mask = static_cast<Mask>(mask | (1U << i));
    }
    return mask;
}

void resolve(const Rules& rules, Grid& grid, const Box& cells, std::uint32_t seed) {
    const Box box = intersection(cells, box_of(grid.size()));
    if (box.empty()) return;
    constexpr int kStride = kChunk + 2;
    std::array<MaterialId, static_cast<std::size_t>(kStride) * kStride> plane;
    std::array<Cell, static_cast<std::size_t>(kChunk) * kChunk> fresh;
    const Box inner = box_of(grid.size()).grown(-1);
    for (int cy = box.y / kChunk; cy <= (box.bottom() - 1) / kChunk; ++cy) {
        for (int cx = box.x / kChunk; cx <= (box.right() - 1) / kChunk; ++cx) {
            const level::Chunk* chunk = grid.chunk({cx, cy});
            if (!chunk) continue;
            const Box part = intersection(box, {cx * kChunk, cy * kChunk, kChunk, kChunk});
            grid.read_materials(part.grown(1), plane.data(), kStride);
            bool changed = false;
            for (int y = part.y; y < part.bottom(); ++y) {
                const std::size_t row = static_cast<std::size_t>(y - part.y + 1) * kStride + 1;
                const auto first = static_cast<std::size_t>((y - cy * kChunk) * kChunk + (part.x - cx * kChunk));
                Cell* line = &fresh[first];
                std::memcpy(line, &chunk->cells[first], static_cast<std::size_t>(part.w) * sizeof(Cell));
                rules.join_row(&plane[row - kStride], &plane[row], &plane[row + kStride], part.w, part.x, y, seed,
                               line);
                // At the level's edge it depends on the material what lies beyond; few cells, done one by one.
                const bool edge_row = y < inner.y || y >= inner.bottom();
                for (int x = part.x; x < part.right(); ++x) {
                    if (!edge_row && x >= inner.x && x < inner.right()) {
                        x = std::max(x, std::min(part.right(), inner.right()) - 1);
                        continue;
                    }
                    const MaterialId m = grid.material({x, y});
                    if (m == 0 || line[x - part.x].pinned()) continue;
                    line[x - part.x] =
                        rules.choose(m, neighbourhood(grid, {x, y}, rules.beyond_is_same(m)), x, y, seed);
                }
                changed = changed ||
                          std::memcmp(line, &chunk->cells[first], static_cast<std::size_t>(part.w) * sizeof(Cell)) != 0;
            }
            if (!changed) continue;
            level::Chunk& out = grid.edit({cx, cy});
            for (int y = part.y; y < part.bottom(); ++y) {
                const auto first = static_cast<std::size_t>((y - cy * kChunk) * kChunk + (part.x - cx * kChunk));
                std::memcpy(&out.cells[first], &fresh[first], static_cast<std::size_t>(part.w) * sizeof(Cell));
            }
        }
    }
}

} // namespace vic::join
