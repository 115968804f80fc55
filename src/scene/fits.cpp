#include "scene/fits.hpp"

#include <algorithm>
#include <utility>

#include "level/block.hpp"

namespace vic::scene {

namespace {

constexpr std::array<Point, 4> kBeside{{{0, -1}, {1, 0}, {0, 1}, {-1, 0}}};

// The cells of a box along a side, from left to right as it is seen from outside.
std::vector<Point> along_side(const Box& box, int side) {
    std::vector<Point> out;
    if (side % 2 == 0)
        for (int x = box.x; x < box.right(); ++x) out.push_back({x, side == 0 ? box.y : box.bottom() - 1});
    else
        for (int y = box.y; y < box.bottom(); ++y) out.push_back({side == 1 ? box.right() - 1 : box.x, y});
    if (side == 0 || side == 1) std::reverse(out.begin(), out.end());
    return out;
}

int closed_of(const Fits::Sides& sides) {
    return static_cast<int>(std::count_if(sides.all.begin(), sides.all.end(), [](const auto& s) { return s.closed; }));
}

// Something closes, and nothing couples in vain.
bool fits(const Fits::Sides& sides) {
    return closed_of(sides) > 0 &&
           std::none_of(sides.all.begin(), sides.all.end(), [](const auto& s) { return s.missed; });
}

} // namespace

Joint joint_of(const std::vector<std::shared_ptr<const LoadedKit>>& kits, std::size_t kit, std::size_t piece, Turn turn,
               int side, int along) {
    int own = (side + 4 - turn.quarters()) % 4;
    if (turn.mirrored() && own % 2 != 0) own = 4 - own;
    const kit::PieceReading& read = kits[kit]->read.pieces[piece];
    const auto i = static_cast<std::size_t>(own);
    const auto& joints = read.joints[i];
    if (joints.empty()) return {kit, read.couplings[i], read.mirrored[i] != turn.mirrored()};
    const std::size_t k = static_cast<std::size_t>(along) % joints.size();
    const auto& joint = joints[turn.mirrored() ? joints.size() - 1 - k : k];
    return {kit, joint.coupling, joint.mirrored != turn.mirrored()};
}

bool closes(const std::vector<std::shared_ptr<const LoadedKit>>& kits, const Joint& a, const Joint& b) {
    if (a.kit != b.kit || a.coupling == 0 || a.coupling != b.coupling) return false;
    const auto& all = kits[a.kit]->read.couplings;
    const auto number = static_cast<std::size_t>(a.coupling) - 1;
    return number < all.size() && (all[number].symmetric || a.mirrored != b.mirrored);
}

Fits::Fits(const level::Project& project, const std::vector<std::shared_ptr<const LoadedKit>>& kits)
    : kits_(kits), tiles_(project) {
    for (std::size_t k = 0; k < kits.size(); ++k)
        for (const auto& [id, piece] : kits[k]->piece_of)
            if (const level::Tile* const tile = tiles_.find(id).tile) {
                const auto known = known_.emplace(id, Known{k, piece, tile->is_block()}).first;
                tiles_of_[known->second].push_back(id);
            }
}

Fits::Stands Fits::laid(level::TileId tile, Point at, Turn turn) const {
    const auto known = known_.find(tile);
    if (known == known_.end()) return {};
    return {&known->second, level::cells_under(*tiles_.find(tile).tile, at, turn),
            turn_of(*kits_[known->second.kit], tile, turn)};
}

const Fits::Stands& Fits::standing(const level::Layer& layer, Point cell, Around& around) const {
    const auto [found, fresh] = around.try_emplace(cell);
    if (!fresh || !layer.tiles() || !layer.cells().contains(cell)) return found->second;
    const level::LaidBlock block = level::block_at(tiles_, layer.grid(), cell);
    const level::Cell is = block.tile ? block.cell : layer.grid().cell(cell);
    found->second = laid(is.tile(), block.tile ? block.at : cell, is.turn());
    return found->second;
}

Joint Fits::joint(const Stands& stands, Point cell, int side) const {
    const Box& box = stands.cells;
    const int along = side == 0   ? box.right() - 1 - cell.x
                      : side == 1 ? box.bottom() - 1 - cell.y
                      : side == 2 ? cell.x - box.x
                                  : cell.y - box.y;
    return joint_of(kits_, stands.what->kit, stands.what->piece, stands.turn, side, along);
}

Fits::Sides Fits::sides(const level::Layer& layer, const Stands& stands, Around& around) const {
    Sides out;
    for (int side = 0; side < 4; ++side)
        for (const Point cell : along_side(stands.cells, side)) {
            const Point there = cell + kBeside[static_cast<std::size_t>(side)];
            const Stands& other = standing(layer, there, around);
            // Not with what goes where this one comes, nor from within a larger one.
            const bool meets =
                other.what && intersection(other.cells, stands.cells).empty() && !other.cells.contains(cell);
            const Joint own = joint(stands, cell, side), beside = meets ? joint(other, there, (side + 2) % 4) : Joint{};
            const bool closed = closes(kits_, own, beside);
            out.all.push_back({cell, side, closed, !closed && beside.coupling != 0});
            if (own.coupling != 0 && !closed) ++out.open;
        }
    return out;
}

Fits::Sides Fits::sides(const level::Layer& layer, Point cell, level::TileId tile, Turn turn) const {
    Around around;
    const Stands stands = laid(tile, cell, turn);
    return stands.what ? sides(layer, stands, around) : Sides{};
}

std::vector<const level::Layer*> Fits::layers_for(const level::Level& level, level::LayerId on) {
    std::vector<const level::Layer*> out;
    for (const level::LayerRef& layer : level.layers)
        if (layer->overlay_of() == on && on != 0) out.push_back(layer.get());
    if (const level::Layer* const own = level.layer(on)) out.push_back(own);
    return out;
}

std::vector<std::pair<level::TileId, Turn>> Fits::ways(const Known& known, level::TileId tile, bool mirrored) const {
    std::vector<std::pair<level::TileId, Turn>> out;
    const auto code = static_cast<std::uint8_t>(mirrored ? 4 : 0);
    if (known.block)
        for (const level::TileId other : tiles_of_.at(known)) out.emplace_back(other, Turn{code});
    else
        for (std::uint8_t quarters = 0; quarters < 4; ++quarters)
            out.emplace_back(tile, Turn{static_cast<std::uint8_t>(code | quarters)});
    return out;
}

std::vector<Fit> Fits::at(const level::Layer& layer, Point cell) const {
    std::vector<Fit> out;
    Around around;
    for (const auto& [known, tiles] : tiles_of_) {
        std::vector<std::pair<Box, std::vector<Joint>>> had; // of ways that are listed
        for (const auto& [tile, turn] : ways(known, tiles.front(), false)) {
            const Stands stands = laid(tile, cell, turn);
            if (intersection(stands.cells, layer.cells()) != stands.cells) continue;
            const Sides round = sides(layer, stands, around);
            if (!fits(round)) continue;
            std::vector<Joint> joints;
            for (const Side& s : round.all) joints.push_back(joint(stands, s.cell, s.side));
            if (std::find(had.begin(), had.end(), std::pair(stands.cells, joints)) != had.end()) continue;
            had.emplace_back(stands.cells, std::move(joints));
            out.push_back({tile, turn, closed_of(round), round.open});
        }
    }
    std::stable_sort(out.begin(), out.end(), [](const Fit& a, const Fit& b) { return a.open < b.open; });
    return out;
}

std::optional<Fit> Fits::turned(const level::Layer& layer, Point cell, level::TileId tile, Turn turn) const {
    const auto known = known_.find(tile);
    if (known == known_.end()) return std::nullopt;
    const int wanted = turn_of(*kits_[known->second.kit], tile, turn).quarters();
    Around around;
    std::optional<Fit> best;
    std::pair<int, int> least{1 << 20, 4}; // sides that stay open, and quarters from the turn that is wanted
    for (const auto& [other, way] : ways(known->second, tile, turn.mirrored())) {
        const Stands stands = laid(other, cell, way);
        if (intersection(stands.cells, layer.cells()) != stands.cells) continue;
        const Sides round = sides(layer, stands, around);
        if (!fits(round)) continue;
        const int by = (stands.turn.quarters() - wanted + 4) % 4;
        const std::pair<int, int> is{round.open, std::min(by, 4 - by)};
        if (is < least) least = is, best = Fit{other, way, closed_of(round), round.open};
    }
    return best;
}

} // namespace vic::scene
