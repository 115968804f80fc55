#include "outline/movers.hpp"

#include <algorithm>
#include <set>

namespace vic::outline {

namespace {

// Of tiles that block and name a class, each tile looked at once.
void add_of_tiles(const level::Layer& layer, const level::TileTable& tiles, std::set<std::string>& out) {
    std::set<level::TileId> seen;
    level::TileId last = 0;
    level::each_cell(layer.grid(), layer.cells(), [&](Point, level::Cell cell, level::MaterialId) {
        if (cell.tile() == last || !seen.insert(last = cell.tile()).second) return;
        const level::Tile* tile = tiles.find(cell.tile()).tile;
        if (tile && tile->shape != level::TileShape::none && tile->shape != level::TileShape::opens &&
            !tile->collision_class.empty())
            out.insert(tile->collision_class);
    });
}

} // namespace

std::vector<std::string> classes_in(const level::Level& level, const Kinds& kinds) {
    std::set<std::string> out;
    for (const level::LayerRef& layer : level.layers) {
        if (layer->blocks()) out.insert(layer->collision_class);
        if (layer->tiles() && layer->blocks() && kinds.tiles->any_class()) add_of_tiles(*layer, *kinds.tiles, out);
        if (const level::Blockers* blockers = layer->blockers())
            for (const level::FreeBlocker& free : blockers->free())
                if (!free.collision_class.empty() && !free.opens && free.tells == 0) out.insert(free.collision_class);
        if (!kinds.props) continue;
        std::set<const level::PropKind*> seen;
        for (const level::Prop& prop : layer->props())
            kinds.props->each_piece(prop, [&](const level::Piece& piece) {
                if (!seen.insert(piece.kind).second || !piece.kind->blocks ||
                    piece.kind->shape == level::TileShape::opens)
                    return;
                const std::string& own = piece.kind->collision_class;
                out.insert(own.empty() ? layer->collision_class : own);
            });
    }
    return {out.begin(), out.end()};
}

bool passes_any(const level::Level& level, const Kinds& kinds, const level::Mover& mover) {
    const auto classes = classes_in(level, kinds);
    return std::any_of(classes.begin(), classes.end(), [&](const std::string& name) {
        return std::binary_search(mover.passes.begin(), mover.passes.end(), name);
    });
}

Trace trace_for(const level::Level& level, const Kinds& kinds, const level::Mover& mover) {
    Kinds of = kinds;
    of.passes = &mover.passes;
    return trace(level, of);
}

} // namespace vic::outline
