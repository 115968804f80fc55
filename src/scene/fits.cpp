#include "scene/fits.hpp"

#include <algorithm>
#include <utility>

namespace vic::scene {

namespace {

constexpr std::array<Point, 4> kBeside{{{0, -1}, {1, 0}, {0, 1}, {-1, 0}}};

int in_vain(const Fits::Sides& sides) {
    return static_cast<int>(std::count(sides.missed.begin(), sides.missed.end(), true));
}

} // namespace

Joint joint_of(const std::vector<std::shared_ptr<const LoadedKit>>& kits, std::size_t kit, std::size_t piece, Turn turn,
               int side) {
    int own = (side + 4 - turn.quarters()) % 4;
    if (turn.mirrored() && own % 2 != 0) own = 4 - own;
    const kit::PieceReading& read = kits[kit]->read.pieces[piece];
    const auto i = static_cast<std::size_t>(own);
    return {kit, read.couplings[i], read.mirrored[i] != turn.mirrored()};
}

bool closes(const std::vector<std::shared_ptr<const LoadedKit>>& kits, const Joint& a, const Joint& b) {
    if (a.kit != b.kit || a.coupling == 0 || a.coupling != b.coupling) return false;
    const auto& all = kits[a.kit]->read.couplings;
    const auto number = static_cast<std::size_t>(a.coupling) - 1;
    return number < all.size() && (all[number].symmetric || a.mirrored != b.mirrored);
}

Fits::Fits(const level::Project& project, const std::vector<std::shared_ptr<const LoadedKit>>& kits) : kits_(kits) {
    const level::TileTable tiles(project);
    for (std::size_t k = 0; k < kits.size(); ++k)
        for (const auto& [tile, piece] : kits[k]->piece_of)
            if (kits[k]->read.pieces[piece].cells == Size{1, 1} && tiles.find(tile).tile)
                single_.emplace(tile, Known{k, piece});
}

std::array<Joint, 4> Fits::beside(const level::Layer& layer, Point cell) const {
    std::array<Joint, 4> out{};
    if (!layer.tiles()) return out;
    for (std::size_t side = 0; side < 4; ++side) {
        const Point there = cell + kBeside[side];
        if (!layer.cells().contains(there)) continue;
        const level::Cell is = layer.grid().cell(there);
        const auto known = single_.find(is.tile());
        if (known != single_.end())
            out[side] =
                joint_of(kits_, known->second.kit, known->second.piece, is.turn(), static_cast<int>(side + 2) % 4);
    }
    return out;
}

Fits::Sides Fits::sides(const std::array<Joint, 4>& beside, const Known& known, Turn turn) const {
    Sides out;
    for (std::size_t side = 0; side < 4; ++side) {
        const Joint own = joint_of(kits_, known.kit, known.piece, turn, static_cast<int>(side));
        out.closed[side] = closes(kits_, own, beside[side]);
        out.missed[side] = !out.closed[side] && beside[side].coupling != 0;
        if (own.coupling != 0 && !out.closed[side]) ++out.open;
    }
    return out;
}

Fits::Sides Fits::sides(const level::Layer& layer, Point cell, level::TileId tile, Turn turn) const {
    const auto known = single_.find(tile);
    return known == single_.end() ? Sides{} : sides(beside(layer, cell), known->second, turn);
}

std::vector<const level::Layer*> Fits::layers_for(const level::Level& level, level::LayerId on) {
    std::vector<const level::Layer*> out;
    for (const level::LayerRef& layer : level.layers)
        if (layer->overlay_of() == on && on != 0) out.push_back(layer.get());
    if (const level::Layer* const own = level.layer(on)) out.push_back(own);
    return out;
}

std::vector<Fit> Fits::at(const level::Layer& layer, Point cell) const {
    const std::array<Joint, 4> around = beside(layer, cell);
    std::vector<Fit> out;
    if (std::all_of(around.begin(), around.end(), [](const Joint& j) { return j.coupling == 0; })) return out;
    for (const auto& [tile, known] : single_) {
        std::vector<std::array<std::pair<int, bool>, 4>> had; // joints of turns that are listed
        for (std::uint8_t quarters = 0; quarters < 4; ++quarters) {
            const Turn turn{quarters};
            const Sides fit = sides(around, known, turn);
            const auto closed = static_cast<int>(std::count(fit.closed.begin(), fit.closed.end(), true));
            if (closed == 0 || in_vain(fit) > 0) continue;
            std::array<std::pair<int, bool>, 4> joints;
            for (std::size_t side = 0; side < 4; ++side) {
                const Joint j = joint_of(kits_, known.kit, known.piece, turn, static_cast<int>(side));
                joints[side] = {j.coupling, j.mirrored};
            }
            if (std::find(had.begin(), had.end(), joints) != had.end()) continue;
            had.push_back(joints);
            out.push_back({tile, turn, closed, fit.open});
        }
    }
    std::stable_sort(out.begin(), out.end(), [](const Fit& a, const Fit& b) { return a.open < b.open; });
    return out;
}

std::optional<Turn> Fits::turn_for(const level::Layer& layer, Point cell, level::TileId tile, Turn turn) const {
    const auto known = single_.find(tile);
    if (known == single_.end()) return std::nullopt;
    const std::array<Joint, 4> around = beside(layer, cell);
    std::optional<Turn> best;
    std::pair<int, int> least{100, 100}; // sides in vain or open, and quarters from the turn that is wanted
    for (int by = 0; by < 4; ++by) {
        const Turn now{static_cast<std::uint8_t>((turn.code & 4) | ((turn.code + by) & 3))};
        const Sides fit = sides(around, known->second, now);
        const auto closed = std::count(fit.closed.begin(), fit.closed.end(), true);
        if (closed == 0 || in_vain(fit) > 0) continue;
        const std::pair<int, int> is{fit.open, std::min(by, 4 - by)};
        if (is < least) least = is, best = now;
    }
    return best;
}

} // namespace vic::scene
