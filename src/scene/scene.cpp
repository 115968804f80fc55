#include "scene/scene.hpp"

#include <algorithm>
#include <cmath>
#include <utility>

#include "kit/open_kit.hpp"
#include "level/block.hpp"

namespace vic::scene {

namespace {

constexpr double kPlainStorey = 1.5; // cells, where nothing tells a height

std::array<float, 3> floats(kit::Vec v) {
    return {static_cast<float>(v.x), static_cast<float>(v.y), static_cast<float>(v.z)};
}

} // namespace

LoadedKit load_kit(const level::Sheet& sheet, const fs::path& file) {
    LoadedKit out;
    const level::KitSource& source = *sheet.kit;
    out.sheet = sheet.id;
    out.file = kit::open_kit(file);
    kit::Told told;
    told.width = source.width;
    told.height = source.height;
    told.z_up = source.z_up;
    told.turn = source.turn;
    told.origin = source.corner ? kit::Origin::corner : kit::Origin::middle;
    out.read = kit::read_kit(out.file.bodies, told);
    std::map<std::string, std::size_t> by_key;
    for (std::size_t i = 0; i < out.file.bodies.size(); ++i) by_key.emplace(kit::key_of(out.file.bodies[i]), i);
    for (const level::KitPiece& piece : source.pieces)
        if (const auto found = by_key.find(piece.name); found != by_key.end()) {
            if (out.piece_of.emplace(piece.tile, found->second).second && piece.turn != 0)
                out.turn_of.emplace(piece.tile, piece.turn);
            if (piece.blocks == level::PieceBlocks::mesh) continue;
            const auto as = by_key.find(piece.as);
            if (piece.blocks != level::PieceBlocks::another || as != by_key.end())
                out.blocking[found->second] = {piece.blocks, as == by_key.end() ? 0 : as->second};
        }
    return out;
}

std::vector<std::shared_ptr<const LoadedKit>> load_kits(const level::Project& project, const fs::path& dir) {
    std::vector<std::shared_ptr<const LoadedKit>> out;
    for (const auto& sheet : project.sheets)
        if (sheet->kit)
            out.push_back(
                std::make_shared<const LoadedKit>(load_kit(*sheet, inside(dir, sheet->kit->file, dir.string(), {}))));
    return out;
}

Model model_of(const LoadedKit& kit, std::size_t piece) {
    Model out;
    const kit::Mesh mesh = kit::as_read(kit.file.bodies[piece], kit.read, piece);
    const kit::Vec corner = kit::corner_of(mesh, kit.read, piece);
    const double cell = kit.read.module.width > 0 ? kit.read.module.width : 1;
    std::vector<std::size_t> order(mesh.triangles.size());
    for (std::size_t i = 0; i < order.size(); ++i) order[i] = i;
    std::stable_sort(order.begin(), order.end(),
                     [&](std::size_t a, std::size_t b) { return mesh.finish[a] < mesh.finish[b]; });
    for (const std::size_t i : order) {
        kit::Vec at[3];
        for (std::size_t k = 0; k < 3; ++k) at[k] = (mesh.points[mesh.triangles[i][k]] - corner) * (1 / cell);
        const kit::Vec across = kit::cross(at[1] - at[0], at[2] - at[0]);
        const double length = std::sqrt(kit::dot(across, across));
        if (length < 1e-15) continue;
        const int finish = mesh.finish[i] < kit.file.finishes.size() ? mesh.finish[i] : -1;
        if (out.parts.empty() || out.parts.back().finish != finish)
            out.parts.push_back({static_cast<int>(out.corners.size()), 0, finish});
        for (std::size_t k = 0; k < 3; ++k) {
            Model::Corner c{floats(at[k]), floats(across * (1 / length)), {}};
            if (!mesh.uv.empty()) c.uv = mesh.uv[mesh.triangles[i][k]];
            for (std::size_t axis = 0; axis < 3; ++axis) {
                out.least[axis] = out.corners.empty() ? c.at[axis] : std::min(out.least[axis], c.at[axis]);
                out.most[axis] = out.corners.empty() ? c.at[axis] : std::max(out.most[axis], c.at[axis]);
            }
            out.corners.push_back(c);
        }
        out.parts.back().count += 3;
    }
    return out;
}

Storeys::Storeys(const std::vector<std::shared_ptr<const LoadedKit>>& kits, const std::map<int, int>& told)
    : plain_(kPlainStorey), low_{0} {
    const auto tells = std::find_if(kits.begin(), kits.end(), [](const auto& kit) {
        return kit->read.module.width > 0 && kit->read.module.height > 0;
    });
    if (tells != kits.end()) plain_ = (*tells)->read.module.height / (*tells)->read.module.width;
    const int last = told.empty() ? -1 : told.rbegin()->first;
    for (int storey = 0; storey <= last; ++storey) {
        const auto own = told.find(storey);
        low_.push_back(low_.back() + (own == told.end() ? plain_ : own->second / 64.0));
    }
}

double Storeys::low(int storey) const {
    const int known = static_cast<int>(low_.size()) - 1;
    return storey <= known ? low_[static_cast<std::size_t>(std::max(0, storey))]
                           : low_.back() + (storey - known) * plain_;
}

int Storeys::at(double height) const {
    int storey = 0;
    while (storey < level::kMostStorey && low(storey + 1) <= height) ++storey;
    return storey;
}

namespace {

// By tile: which kit, which of its pieces, and by how many quarters that is turned.
struct Shows {
    std::size_t kit, piece;
    int turn;
};
std::map<level::TileId, Shows> pieces_of(const std::vector<std::shared_ptr<const LoadedKit>>& kits) {
    std::map<level::TileId, Shows> out;
    for (std::size_t k = 0; k < kits.size(); ++k)
        for (const auto& [tile, piece] : kits[k]->piece_of) {
            const auto turned = kits[k]->turn_of.find(tile);
            out.emplace(tile, Shows{k, piece, turned == kits[k]->turn_of.end() ? 0 : turned->second});
        }
    return out;
}

// A tile that shows its piece turned, as it is laid: mirroring what is turned to the right is turning what is mirrored
// to the left.
Turn with(Turn laid, int quarters) {
    const int own = laid.mirrored() ? 4 - quarters : quarters;
    return {static_cast<std::uint8_t>((laid.code & 4) | ((laid.code + own) & 3))};
}

} // namespace

std::vector<Placed> placed_in(const level::Project& project, const level::Level& level,
                              const std::vector<std::shared_ptr<const LoadedKit>>& kits, int highest) {
    std::vector<Placed> out;
    const auto pieces = pieces_of(kits);
    const level::TileTable tiles(project);
    for (const level::LayerRef& layer : level.layers) {
        if (!layer->shown || !layer->tiles() || layer->grain().finer != 1 || layer->storey > highest) continue;
        level::each_cell(layer->grid(), layer->cells(), [&](Point at, level::Cell cell, level::MaterialId) {
            const auto found = pieces.find(cell.tile());
            const level::Tile* tile = found == pieces.end() ? nullptr : tiles.find(cell.tile()).tile;
            if (!tile) return;
            out.push_back({found->second.kit, found->second.piece, level::cells_under(*tile, at, cell.turn()),
                           with(cell.turn(), found->second.turn), layer->storey, layer->id});
        });
    }
    return out;
}

Placing placing_of(const Placed& placed, Size model_cells, const Storeys& storeys) {
    // About the middle of its cells: mirrored first, then turned to the right.
    const float w = static_cast<float>(model_cells.w) / 2, h = static_cast<float>(model_cells.h) / 2;
    float xx = placed.turn.mirrored() ? -1.0F : 1.0F, xz = 0, zx = 0, zz = 1;
    for (int i = 0; i < placed.turn.quarters(); ++i) {
        const float a = xx, b = xz;
        xx = -zx;
        xz = -zz;
        zx = a;
        zz = b;
    }
    const float mx = static_cast<float>(placed.cells.x) + static_cast<float>(placed.cells.w) / 2;
    const float mz = static_cast<float>(placed.cells.y) + static_cast<float>(placed.cells.h) / 2;
    const auto up = static_cast<float>(storeys.low(placed.storey));
    return {{{xx, 0, xz, mx - xx * w - xz * h}, {0, 1, 0, up}, {zx, 0, zz, mz - zx * w - zz * h}}};
}

namespace {

void take_pieces(const level::Layer& layer, const std::map<level::TileId, Shows>& pieces, level::Level& out) {
    if (!layer.tiles()) return;
    std::vector<Point> taken;
    level::each_cell(layer.grid(), layer.cells(), [&](Point at, level::Cell cell, level::MaterialId) {
        if (pieces.contains(cell.tile())) taken.push_back(at);
    });
    if (taken.empty()) return;
    level::Grid& grid = out.edit(layer.id).grid();
    for (const Point at : taken) grid.set(at, {}, 0);
}

} // namespace

level::Level flat_of(const level::Project& project, const level::Level& level,
                     const std::vector<std::shared_ptr<const LoadedKit>>& kits) {
    level::Level out = level;
    const auto pieces = pieces_of(kits);
    const level::PropKinds kinds(project);
    for (const level::LayerRef& layer : level.layers) {
        if (layer->storey > 0) {
            if (layer->shown) out.edit(layer->id).shown = false;
            continue;
        }
        if (layer->has_props()) {
            const auto stands = [&](const level::Prop& prop) {
                bool any = false;
                kinds.each_piece(prop, [&](const level::Piece& piece) { any = any || !piece.kind->flat; });
                return any;
            };
            if (std::any_of(layer->props().begin(), layer->props().end(), stands))
                out.edit(layer->id).props().remove_if(stands);
            continue;
        }
        take_pieces(*layer, pieces, out);
    }
    return out;
}

level::Level without_pieces(const level::Level& level, const std::vector<std::shared_ptr<const LoadedKit>>& kits) {
    level::Level out = level;
    const auto pieces = pieces_of(kits);
    for (const level::LayerRef& layer : level.layers) take_pieces(*layer, pieces, out);
    return out;
}

std::vector<Card> cards_in(const level::PropKinds& kinds, const level::Level& level, const Storeys& storeys,
                           int highest) {
    std::vector<Card> out;
    const auto cell_w = static_cast<float>(level.cell.w), cell_h = static_cast<float>(level.cell.h);
    for (const level::LayerRef& layer : level.layers) {
        if (!layer->shown || !layer->has_props() || layer->storey > highest) continue;
        for (const level::Prop& prop : layer->props())
            kinds.each_piece(prop, [&](const level::Piece& piece) {
                if (piece.kind->flat) return;
                level::Piece upright = piece;
                upright.look.turn = 0;
                const Box box = upright.box(), foot = upright.foot_box();
                const float x = static_cast<float>(foot.x) + static_cast<float>(foot.w) / 2;
                const auto y = static_cast<float>(foot.bottom());
                Card card;
                card.kind = piece.kind;
                card.mirrored = piece.look.mirrored;
                card.foot = {x / cell_w, static_cast<float>(storeys.low(layer->storey)), y / cell_h};
                card.left = (x - static_cast<float>(box.x)) / cell_w;
                card.right = (static_cast<float>(box.right()) - x) / cell_w;
                card.top = (y - static_cast<float>(box.y)) / cell_h;
                card.bottom = (static_cast<float>(box.bottom()) - y) / cell_h;
                card.wash = piece.wash;
                if (piece.kind->stands == level::Stands::facing) {
                    out.push_back(card);
                    return;
                }
                constexpr float kQuarter = 1.57079633F;
                card.turned = static_cast<float>(piece.look.turn) * 4 * kQuarter / level::kFullTurn;
                out.push_back(card);
                if (piece.kind->stands == level::Stands::fixed) return;
                *card.turned += kQuarter;
                out.push_back(card);
            });
    }
    return out;
}

std::optional<std::array<double, 2>> on_storey(const Ray& ray, double height) {
    if (std::abs(ray.way[1]) < 1e-9) return std::nullopt;
    const double t = (height - ray.from[1]) / ray.way[1];
    if (t < 0) return std::nullopt;
    return std::array{ray.from[0] + t * ray.way[0], ray.from[2] + t * ray.way[2]};
}

} // namespace vic::scene
