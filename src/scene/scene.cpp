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
    out.file = kit::open_kit(file, source.whole);
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
                out.blocking[found->second] = {piece.blocks, as == by_key.end() ? 0 : as->second,
                                               piece.blocks == level::PieceBlocks::node ? piece.as : std::string()};
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

// The triangles of one node alone, or of all but that.
namespace {
Model model_of(const kit::KitFile& file, const kit::KitReading& read, std::size_t piece, const std::string& node,
               bool alone) {
    Model out;
    const kit::Body& body = file.bodies[piece];
    const kit::Mesh mesh = kit::as_read(body, read, piece);
    const kit::Vec corner = kit::corner_of(mesh, read, piece);
    const double cell = read.module.width > 0 ? read.module.width : 1;
    std::vector<std::size_t> order;
    for (std::size_t i = 0; i < mesh.triangles.size(); ++i) {
        const bool of_it = i < mesh.node.size() && mesh.node[i] < body.nodes.size() && body.nodes[mesh.node[i]] == node;
        if (node.empty() || of_it == alone) order.push_back(i);
    }
    std::stable_sort(order.begin(), order.end(),
                     [&](std::size_t a, std::size_t b) { return mesh.finish[a] < mesh.finish[b]; });
    for (const std::size_t i : order) {
        kit::Vec at[3];
        for (std::size_t k = 0; k < 3; ++k) at[k] = (mesh.points[mesh.triangles[i][k]] - corner) * (1 / cell);
        const kit::Vec across = kit::cross(at[1] - at[0], at[2] - at[0]);
        const double length = std::sqrt(kit::dot(across, across));
        if (length < 1e-15) continue;
        const int finish = mesh.finish[i] < file.finishes.size() ? mesh.finish[i] : -1;
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
} // namespace

Model model_of(const LoadedKit& kit, std::size_t piece, const std::string& node, bool alone) {
    return model_of(kit.file, kit.read, piece, node, alone);
}

Model model_of(const kit::KitFile& file, const kit::KitReading& read, std::size_t piece) {
    return model_of(file, read, piece, {}, false);
}

Model model_of(const LoadedKit& kit, std::size_t piece) {
    const auto own = kit.blocking.find(piece);
    return model_of(kit, piece, own == kit.blocking.end() ? std::string() : own->second.node, false);
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

Turn turn_of(const LoadedKit& kit, level::TileId tile, Turn laid) {
    const auto turned = kit.turn_of.find(tile);
    return turned == kit.turn_of.end() ? laid : with(laid, turned->second);
}

namespace {

// The place of a prop's piece: where its picture is, but that it turns about the corner of its pivot's pixel, so that
// it comes to lie on the lattice by quarters; as high as it stands, and leaning about its pivot.
Placing free_placing(const level::Piece& piece, const level::PropOwn& own, Size cells, Size cell, double low) {
    const Size drawn = piece.kind->drawn();
    const Point middle = piece.kind->drawn_pivot();
    // A cell of the model is so many pixels of the picture.
    const double w = double(drawn.w) / std::max(1, cells.w), h = double(drawn.h) / std::max(1, cells.h);
    const double scale = piece.look.scale / 100.0, side = piece.look.mirrored ? -scale : scale;
    constexpr double kTenth = 3.14159265358979 / 1800;
    const bool quarter = piece.look.turn % 900 == 0;
    const double c = std::cos(piece.look.turn * kTenth), s = std::sin(piece.look.turn * kTenth);
    const double cosine = quarter ? std::round(c) : c, sine = quarter ? std::round(s) : s;
    const double turned[3][4] = {{cosine * side * w / cell.w, 0, -sine * scale * h / cell.w,
                                  (piece.at.x - cosine * side * middle.x + sine * scale * middle.y) / cell.w},
                                 {0, scale, 0, low + own.up / 64.0},
                                 {sine * side * w / cell.h, 0, cosine * scale * h / cell.h,
                                  (piece.at.y - sine * side * middle.x - cosine * scale * middle.y) / cell.h}};
    // What looked up looks along `up` (Rodrigues' rotation about the line that is level with both).
    double up[3] = {std::tan(own.lean.x * kTenth), 1, std::tan(own.lean.y * kTenth)};
    const double length = std::sqrt(up[0] * up[0] + 1 + up[2] * up[2]);
    for (double& v : up) v /= length;
    const double k = 1 / (1 + up[1]);
    const double lean[3][3] = {{1 - up[0] * up[0] * k, up[0], -up[0] * up[2] * k},
                               {-up[0], up[1], -up[2]},
                               {-up[0] * up[2] * k, up[2], 1 - up[2] * up[2] * k}};
    const double pivot[3] = {double(piece.at.x) / cell.w, turned[1][3], double(piece.at.y) / cell.h};
    Placing out{};
    for (std::size_t row = 0; row < 3; ++row)
        for (std::size_t column = 0; column < 4; ++column) {
            double sum = column == 3 ? pivot[row] : 0;
            for (std::size_t i = 0; i < 3; ++i)
                sum += lean[row][i] * (turned[i][column] - (column == 3 ? pivot[i] : 0));
            out[row][column] = static_cast<float>(sum);
        }
    return out;
}

// The cells over which a piece stands whose own are so many.
Box cells_over(const Placing& at, Size cells) {
    float least[2] = {1e9F, 1e9F}, most[2] = {-1e9F, -1e9F};
    for (const float x : {0.0F, static_cast<float>(cells.w)})
        for (const float z : {0.0F, static_cast<float>(cells.h)})
            for (std::size_t i = 0; i < 2; ++i) {
                const auto& row = at[i * 2];
                const float v = row[0] * x + row[2] * z + row[3];
                least[i] = std::min(least[i], v);
                most[i] = std::max(most[i], v);
            }
    const int x = static_cast<int>(std::floor(least[0])), y = static_cast<int>(std::floor(least[1]));
    return {x, y, static_cast<int>(std::ceil(most[0])) - x, static_cast<int>(std::ceil(most[1])) - y};
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
                           with(cell.turn(), found->second.turn), layer->storey, layer->id, layer->shift});
        });
    }
    if (std::none_of(project.prop_kinds.begin(), project.prop_kinds.end(), [](const auto& k) { return k->body != 0; }))
        return out;
    const Storeys storeys(kits, level.storey_heights);
    const level::PropKinds kinds(project);
    for (const level::LayerRef& layer : level.layers) {
        if (!layer->shown || !layer->has_props() || layer->storey > highest) continue;
        for (const level::Prop& prop : layer->props())
            kinds.each_piece(prop, [&](const level::Piece& piece) {
                const auto found = pieces.find(piece.kind->body);
                if (piece.kind->body == 0 || found == pieces.end()) return;
                const auto& [kit, which, turn] = found->second;
                Placed p{kit, which, {}, {}, layer->storey, layer->id, {}};
                const Size cells = kits[kit]->read.pieces[which].cells;
                p.free = free_placing(piece, prop.of_its_own(), cells, level.cell, storeys.low(layer->storey));
                p.cells = cells_over(*p.free, cells);
                p.prop = prop.id;
                out.push_back(p);
            });
    }
    return out;
}

Model at_its_place(Model model, const Placing& at) {
    const auto moved = [&](const std::array<float, 3>& p, bool place) {
        std::array<float, 3> out{};
        for (std::size_t i = 0; i < 3; ++i)
            out[i] = at[i][0] * p[0] + at[i][1] * p[1] + at[i][2] * p[2] + (place ? at[i][3] : 0);
        return out;
    };
    const auto minor = [&](std::size_t a, std::size_t b) { return at[1][a] * at[2][b] - at[1][b] * at[2][a]; };
    const bool mirrored = at[0][0] * minor(1, 2) - at[0][1] * minor(0, 2) + at[0][2] * minor(0, 1) < 0;
    for (std::size_t i = 0; i < model.corners.size(); ++i) {
        Model::Corner& c = model.corners[i];
        c.at = moved(c.at, true);
        c.normal = moved(c.normal, false);
        const float length =
            std::sqrt(c.normal[0] * c.normal[0] + c.normal[1] * c.normal[1] + c.normal[2] * c.normal[2]);
        for (float& v : c.normal) v = length > 0 ? v / length : v;
        for (std::size_t axis = 0; axis < 3; ++axis) {
            model.least[axis] = i == 0 ? c.at[axis] : std::min(model.least[axis], c.at[axis]);
            model.most[axis] = i == 0 ? c.at[axis] : std::max(model.most[axis], c.at[axis]);
        }
    }
    if (mirrored)
        for (std::size_t i = 0; i + 2 < model.corners.size(); i += 3) std::swap(model.corners[i], model.corners[i + 1]);
    return model;
}

Placing placing_of(const Placed& placed, Size model_cells, const Storeys& storeys) {
    if (placed.free) return *placed.free;
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
    const float mx = static_cast<float>(placed.cells.x) + static_cast<float>(placed.cells.w + placed.half.x) / 2;
    const float mz = static_cast<float>(placed.cells.y) + static_cast<float>(placed.cells.h + placed.half.y) / 2;
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
                kinds.each_piece(prop, [&](const level::Piece& piece) {
                    any = any || !piece.kind->flat || pieces.contains(piece.kind->body);
                });
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

level::Level without_pieces(const level::Project& project, const level::Level& level,
                            const std::vector<std::shared_ptr<const LoadedKit>>& kits) {
    level::Level out = level;
    const auto pieces = pieces_of(kits);
    for (const level::LayerRef& layer : level.layers) take_pieces(*layer, pieces, out);
    const level::PropKinds kinds(project);
    const auto is_piece = [&](const level::Prop& prop) {
        bool any = false;
        kinds.each_piece(prop, [&](const level::Piece& piece) { any = any || pieces.contains(piece.kind->body); });
        return any;
    };
    for (const level::LayerRef& layer : level.layers)
        if (layer->has_props() && std::any_of(layer->props().begin(), layer->props().end(), is_piece))
            out.edit(layer->id).props().remove_if(is_piece);
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
                if (piece.kind->flat || piece.kind->body != 0) return;
                const level::PropOwn& own = prop.of_its_own();
                const level::Stands stands = own.stands.value_or(piece.kind->stands);
                level::Piece upright = piece;
                upright.look.turn = 0;
                const Box box = upright.box(), foot = upright.foot_box();
                const float x = static_cast<float>(foot.x) + static_cast<float>(foot.w) / 2;
                const auto y = static_cast<float>(foot.bottom());
                Card card;
                card.kind = piece.kind;
                card.prop = prop.id;
                card.mirrored = piece.look.mirrored;
                card.foot = {x / cell_w, static_cast<float>(storeys.low(layer->storey) + own.up / 64.0), y / cell_h};
                card.stands = stands;
                card.left = (x - static_cast<float>(box.x)) / cell_w;
                card.right = (static_cast<float>(box.right()) - x) / cell_w;
                card.top = (y - static_cast<float>(box.y)) / cell_h;
                card.bottom = (static_cast<float>(box.bottom()) - y) / cell_h;
                card.wash = piece.wash;
                if (stands == level::Stands::facing) {
                    out.push_back(card);
                    return;
                }
                constexpr float kQuarter = 1.57079633F;
                card.turned = static_cast<float>(piece.look.turn) * 4 * kQuarter / level::kFullTurn;
                out.push_back(card);
                if (stands == level::Stands::fixed) return;
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
