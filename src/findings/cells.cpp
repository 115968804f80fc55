#include "findings/cells.hpp"

#include <algorithm>
#include <set>

#include "level/block.hpp"

namespace vic::findings {

using namespace level;

bool operator==(const CellFaults& a, const CellFaults& b) {
    const auto same = [](const auto& x, const auto& y) {
        return x.first == y.first && x.second.count == y.second.count && x.second.first == y.second.first;
    };
    return a.gone == b.gone && a.first_gone == b.first_gone && a.missing.size() == b.missing.size() &&
           std::equal(a.missing.begin(), a.missing.end(), b.missing.begin(), same);
}

void CellChecker::follow(const Project& project) {
    if (!rules_ || sheets_ != project.sheets || materials_ != project.materials) {
        known_.clear();
        sheets_ = project.sheets;
        materials_ = project.materials;
        there_.assign(project.next_tile, 0);
        for (const auto& sheet : sheets_)
            for (const Tile& tile : sheet->tiles)
                if (tile.id < there_.size()) there_[tile.id] = 1;
        rules_ = std::make_unique<join::Rules>(project);
        open_.fill(0);
        for (const auto& material : materials_) {
            kinds_[material->id] = material->joins.kind;
            open_[material->id] = material->joins.kind != JoinKind::plain && !rules_->complete(material->id);
        }
    }
    std::set<std::pair<std::string, LayerId>> there;
    for (const auto& level : project.levels)
        for (const LayerRef& layer : level->layers) there.insert({level->id, layer->id});
    std::erase_if(known_, [&](const auto& k) { return !there.contains(k.first); });
}

CellFaults CellChecker::chunk_faults(const Grid& grid, Point at) const {
    CellFaults out;
    each_run(grid, {at.x * kChunk, at.y * kChunk, kChunk, kChunk},
             [&](const Chunk& chunk, Point first, std::size_t index, int count) {
                 for (int k = 0; k < count; ++k) {
                     const Cell cell = chunk.cells[index + static_cast<std::size_t>(k)];
                     const MaterialId material = chunk.materials[index + static_cast<std::size_t>(k)];
                     if ((cell.bits == 0 && material == 0) || under_block(cell)) continue;
                     const bool there = cell.tile() < there_.size() && there_[cell.tile()];
                     if (there && !open_[material]) continue;
                     const Point own{first.x + k, first.y};
                     if (!there && out.gone++ == 0) out.first_gone = own;
                     if (!open_[material] || cell.pinned()) continue;
                     const join::Around around = join::around(grid, own);
                     if (!rules_->missing(around)) continue;
                     CellFaults::Case& found =
                         out.missing[{material, join::canonical(rules_->mask(around), kinds_[material])}];
                     if (found.count++ == 0) found.first = own;
                 }
             });
    return out;
}

CellFaults CellChecker::of(const std::string& level, const Layer& layer) {
    LayerFaults& known = known_[{level, layer.id}];
    const Grid& grid = layer.grid();
    looked_at_ = 0;
    const auto look = [&](Point chunk) {
        looked_at_ += std::int64_t{kChunk} * kChunk;
        CellFaults faults = chunk_faults(grid, chunk);
        if (faults.none())
            known.faults.erase({chunk.y, chunk.x});
        else
            known.faults[{chunk.y, chunk.x}] = std::move(faults);
    };
    if (known.grid.size() != grid.size()) {
        known.faults.clear();
        for (int cy = 0; cy < grid.chunks().h; ++cy)
            for (int cx = 0; cx < grid.chunks().w; ++cx)
                if (grid.chunk({cx, cy})) look({cx, cy});
    } else {
        std::set<std::pair<int, int>> again;
        for (const Box& box : differences(known.grid, grid)) {
            const Box wider = intersection({box.x - 1, box.y - 1, box.w + 2, box.h + 2}, box_of(grid.size()));
            for (int cy = wider.y / kChunk; cy <= (wider.bottom() - 1) / kChunk; ++cy)
                for (int cx = wider.x / kChunk; cx <= (wider.right() - 1) / kChunk; ++cx) again.insert({cy, cx});
        }
        for (const auto& [cy, cx] : again) look({cx, cy});
    }
    known.grid = grid;
    CellFaults out;
    for (const auto& [chunk, faults] : known.faults) {
        if (out.gone == 0) out.first_gone = faults.first_gone;
        out.gone += faults.gone;
        for (const auto& [key, found] : faults.missing) {
            CellFaults::Case& all = out.missing[key];
            if (all.count == 0) all.first = found.first;
            all.count += found.count;
        }
    }
    return out;
}

} // namespace vic::findings
