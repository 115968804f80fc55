#include "edit/kits.hpp"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <map>
#include <set>
#include <utility>

#include "edit/blocking.hpp"
#include "edit/props.hpp"
#include "edit/replace.hpp"
#include "edit/sheets.hpp"
#include "join/mask.hpp"
#include "level/depth.hpp"
#include "level/limits.hpp"
#include "mass/sections.hpp"
#include "outline/solid.hpp"
#include "scene/scene.hpp"

namespace vic::edit {

using namespace level;

namespace {

constexpr double kStands = 0.5; // metres up to which one steps over a piece

bool has_opening(const std::string& name) {
    std::string lower;
    for (const char c : name) lower += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    for (const char* word : {"door", "window", "gate", "arch", "opening"})
        if (lower.find(word) != std::string::npos) return true;
    return false;
}

// What names begin with alike, without what parts words; "" where that is nothing.
std::string common_name(const std::vector<std::string>& names) {
    if (names.empty()) return {};
    std::size_t n = names[0].size();
    for (const std::string& name : names) {
        std::size_t k = 0;
        while (k < std::min(n, name.size()) && name[k] == names[0][k]) ++k;
        n = k;
    }
    // A word that was cut is none.
    const auto word = [&](std::size_t at) {
        return std::any_of(names.begin(), names.end(), [&](const std::string& name) {
            return at < name.size() && std::isalnum(static_cast<unsigned char>(name[at])) != 0;
        });
    };
    std::string out = names[0].substr(0, n);
    if (n > 0 && word(n) && std::isalpha(static_cast<unsigned char>(out.back())) != 0)
        while (!out.empty() && std::isalpha(static_cast<unsigned char>(out.back())) != 0) out.pop_back();
    while (!out.empty() && std::isalnum(static_cast<unsigned char>(out.back())) == 0 &&
           static_cast<unsigned char>(out.back()) < 0x80)
        out.pop_back();
    return out;
}

std::string tidied(std::string name) {
    const auto parts = [](char c) { return c == '_' || c == '-' || c == ' ' || c == '.'; };
    while (!name.empty() && parts(name.back())) name.pop_back();
    while (!name.empty() && parts(name.front())) name.erase(name.begin());
    for (char& c : name)
        if (c == '_') c = ' ';
    if (!name.empty() && name[0] >= 'a' && name[0] <= 'z') name[0] = static_cast<char>(name[0] - 'a' + 'A');
    return name;
}

constexpr join::Mask kSideMask[4] = {join::kN, join::kE, join::kS, join::kW};
constexpr join::Mask kCornerMask[4] = {join::kNE, join::kSE, join::kSW, join::kNW};

// The least of the masks that quarter turns make of it.
join::Mask turned_least(join::Mask mask) {
    join::Mask out = mask;
    for (std::uint8_t q = 1; q < 4; ++q) out = std::min(out, join::turned(mask, {q}));
    return out;
}

} // namespace

std::uint8_t mask_of(const kit::Codes& codes, int number) {
    const auto bits = codes.corners ? codes.bit_of_corner : std::nullopt;
    const auto is_set = [&](int bit) { return ((number >> bit) & 1) != (codes.inverted ? 1 : 0); };
    int mask = 0;
    for (std::size_t i = 0; i < 4; ++i) {
        if (is_set(codes.bit_of_side[i])) mask |= kSideMask[i];
        if (bits && is_set((*bits)[i])) mask |= kCornerMask[i];
    }
    return join::canonical(static_cast<join::Mask>(mask), bits ? JoinKind::full : JoinKind::edges);
}

std::vector<KitMaterial> kit_materials(const kit::KitFile& file, const kit::KitReading& read) {
    std::vector<KitMaterial> out;
    const auto single = [&](std::size_t i) { return read.pieces[i].cells == Size{1, 1}; };
    for (std::size_t c = 0; c < read.codes.size(); ++c) {
        const kit::Codes& codes = read.codes[c];
        if (!codes.taken) continue;
        KitMaterial m;
        m.name = tidied(codes.stem);
        m.kind = codes.corners && codes.bit_of_corner ? JoinKind::full : JoinKind::edges;
        for (std::size_t i = 0; i < file.bodies.size(); ++i) {
            const auto& code = read.pieces[i].code;
            if (code && single(i) && read.pieces[i].codes == static_cast<int>(c))
                m.pieces.push_back({i, mask_of(codes, *code)});
        }
        m.turns = true;
        if (!m.pieces.empty()) out.push_back(std::move(m));
    }
    for (std::size_t c = 0; c < read.couplings.size(); ++c) {
        const int number = static_cast<int>(c) + 1;
        KitMaterial m;
        std::set<join::Mask> apart;
        std::vector<std::string> names;
        for (std::size_t i = 0; i < file.bodies.size(); ++i) {
            const kit::PieceReading& piece = read.pieces[i];
            if (piece.code || !single(i) || has_opening(file.bodies[i].name)) continue;
            int mask = 0;
            bool others = false;
            for (std::size_t side = 0; side < 4; ++side) {
                if (piece.couplings[side] == number) mask |= kSideMask[side];
                others = others || (piece.couplings[side] != 0 && piece.couplings[side] != number);
            }
            if (mask == 0 || others) continue;
            m.pieces.push_back({i, static_cast<join::Mask>(mask)});
            apart.insert(turned_least(static_cast<join::Mask>(mask)));
            names.push_back(file.bodies[i].name);
        }
        const bool all_round = apart == std::set<join::Mask>{join::kSides};
        if (m.pieces.empty() || (!all_round && apart.size() < 2)) continue;
        if (all_round) {
            m.kind = JoinKind::plain;
            for (auto& p : m.pieces) p.mask = 255;
        } else {
            m.turns = true;
            // One that stands alone has no side that couples; it is of those that are named alike.
            const std::string stem = common_name(names);
            for (std::size_t i = 0; i < file.bodies.size() && !stem.empty(); ++i) {
                const auto& couplings = read.pieces[i].couplings;
                if (!read.pieces[i].code && single(i) && !has_opening(file.bodies[i].name) &&
                    std::all_of(couplings.begin(), couplings.end(), [](int n) { return n == 0; }) &&
                    file.bodies[i].name.starts_with(stem))
                    m.pieces.push_back({i, 0});
            }
        }
        m.name = tidied(common_name(names));
        if (m.name.empty()) m.name = "Coupling " + read.couplings[c].name;
        out.push_back(std::move(m));
    }
    return out;
}

std::vector<std::pair<std::string, Box>> kit_places(const Sheet& sheet) {
    std::vector<std::pair<std::string, Box>> out;
    if (!sheet.kit) return out;
    for (const KitPiece& piece : sheet.kit->pieces)
        for (const Tile& t : sheet.tiles)
            if (t.id == piece.tile) out.emplace_back(kit::turned_key(piece.name, piece.turn), t.box);
    return out;
}

TileId turned_piece(const Project& project, TileId tile, bool right) {
    for (const auto& sheet : project.sheets) {
        if (!sheet->kit) continue;
        const auto& pieces = sheet->kit->pieces;
        const auto here = std::find_if(pieces.begin(), pieces.end(), [&](const KitPiece& p) { return p.tile == tile; });
        if (here == pieces.end()) continue;
        const int turn = (here->turn + (right ? 1 : 3)) % 4;
        const auto there = std::find_if(pieces.begin(), pieces.end(), [&](const KitPiece& p) {
            return p.name == here->name && p.turn == turn && p.tile != tile;
        });
        return there == pieces.end() ? 0 : there->tile;
    }
    return 0;
}

std::vector<TileId> facing_pieces(const Project& project, TileId tile) {
    std::vector<TileId> out(4, 0);
    for (const auto& sheet : project.sheets) {
        const KitPiece* const piece = piece_of(*sheet, tile);
        if (!piece || piece->cells == Size{1, 1}) continue;
        for (const KitPiece& p : sheet->kit->pieces)
            if (p.name == piece->name) out[static_cast<std::size_t>(p.turn)] = p.tile;
        if (std::find(out.begin(), out.end(), 0U) == out.end()) return out;
    }
    return {};
}

kit::Told told_of(const KitSource& source) {
    kit::Told out;
    out.width = source.width;
    out.height = source.height;
    out.z_up = source.z_up;
    out.origin = source.corner ? kit::Origin::corner : kit::Origin::middle;
    out.turn = source.turn;
    return out;
}

Project with_piece_blocking(Project project, TileId tile, PieceBlocks blocks, const std::string& as) {
    for (const auto& sheet : project.sheets) {
        const KitPiece* const piece = piece_of(*sheet, tile);
        if (!piece) continue;
        Sheet changed = *sheet;
        for (KitPiece& p : changed.kit->pieces)
            if (p.name == piece->name) {
                p.blocks = blocks;
                p.as = names_another(blocks) ? as : std::string();
            }
        project.put(std::move(changed));
        break;
    }
    return project;
}

const KitPiece* piece_of(const Sheet& sheet, TileId tile) {
    if (!sheet.kit) return nullptr;
    const auto& pieces = sheet.kit->pieces;
    const auto found = std::find_if(pieces.begin(), pieces.end(), [&](const KitPiece& p) { return p.tile == tile; });
    return found == pieces.end() ? nullptr : &*found;
}

namespace {

// Props of pieces whose pictures lie elsewhere now.
void follow_pieces(Project& project, SheetId id) {
    const Sheet& sheet = *project.sheet(id);
    std::vector<PropKind> moved;
    for (const auto& kind : project.prop_kinds) {
        if (kind->sheet != id || kind->body == 0) continue;
        const auto tile =
            std::find_if(sheet.tiles.begin(), sheet.tiles.end(), [&](const Tile& t) { return t.id == kind->body; });
        if (tile == sheet.tiles.end() || tile->box == kind->box) continue;
        PropKind changed = *kind;
        if (tile->box.size() != kind->box.size()) {
            // As it would be made now.
            const PropKind fresh = prop_of_tile(sheet, *tile, kind->id, kind->name);
            changed.pivot = fresh.pivot;
            changed.foot = fresh.foot;
            changed.shape = fresh.shape;
            changed.polygons = fresh.polygons;
        }
        changed.box = tile->box;
        moved.push_back(std::move(changed));
    }
    for (PropKind& kind : moved) project.put(std::move(kind)); // they stand where they stood
}

// What of a piece a walker runs into becomes the shape of its tile: a door is open below its lintel. False where that
// is more than a shape may have.
bool stand_in_the_way(Tile& tile, const kit::KitFile& kit, const kit::KitReading& read, std::size_t i, int turn) {
    constexpr std::size_t kMostCut = 50'000; // triangles
    const double cell = read.module.width;
    if (cell <= 0 || kit.bodies[i].mesh.triangles.size() > kMostCut) return false;
    const auto units = [&](int centimetres) {
        return static_cast<int>(std::lround(centimetres / 100.0 / cell * outline::kUnit));
    };
    const Upright body;
    Polygons shape =
        mass::seen_between(mass::sections_of(scene::model_of(kit, read, i)), units(body.step), units(body.tall));
    const Size size = read.pieces[i].cells;
    for (Polygon& polygon : shape)
        for (Point& p : polygon) {
            const auto part = [](int at, int cells) {
                const double share = double(at) * level::kShapeSide / (cells * outline::kUnit);
                return std::clamp(static_cast<int>(std::lround(share)), 0, level::kShapeSide);
            };
            p = {part(p.x, size.w), part(p.y, size.h)};
        }
    shape = level::turned(shape, Turn{static_cast<std::uint8_t>(turn & 3)});
    const TileShape named = level::named_shape(shape);
    if (named == TileShape::none || (named == TileShape::drawn && !level::shape_trouble(shape).empty())) return false;
    tile.shape = named;
    tile.polygons = std::move(shape);
    return true;
}

} // namespace

PutKit put_kit(Project project, SheetId id, const std::string& name, const std::string& file, const std::string& source,
               const kit::KitFile& kit, const kit::KitReading& read, const kit::Drawn& drawn, int side,
               const std::vector<KitMaterial>& materials) {
    PutKit out;
    std::map<std::string, TileId> known;
    std::map<std::string, std::pair<PieceBlocks, std::string>> blocking;
    const bool fresh = id == 0;
    const Cut cut{{side, side}, {}, {}, 1};
    if (fresh) {
        project = add_sheet(std::move(project), file, drawn.image, name, cut, true, id);
    } else {
        if (project.sheet(id)->kit)
            for (const KitPiece& p : project.sheet(id)->kit->pieces) {
                known.emplace(kit::turned_key(p.name, p.turn), p.tile);
                blocking.emplace(p.name, std::pair(p.blocks, p.as));
            }
        project = replace_image(std::move(project), id, std::make_shared<const Image>(drawn.image), file);
        project = recut_sheet(std::move(project), id, cut, true);
    }
    KitSource kept{source,
                   read.module.width,
                   read.module.height,
                   read.z_up,
                   read.turn,
                   kit.whole,
                   read.origin == kit::Origin::corner,
                   {}};
    struct Made {
        std::size_t piece;
        int turn;
    };
    std::map<TileId, Made> made; // pieces that are new
    const auto put = [&](std::size_t i, const Box& place, int turn) {
        if (place.empty() || kept.pieces.size() >= kMostKitPieces) return;
        Size size = read.pieces[i].cells;
        if (turn % 2 != 0) std::swap(size.w, size.h);
        KitPiece piece;
        piece.name = kit::key_of(kit.bodies[i]);
        piece.cells = size;
        piece.storeys = read.pieces[i].storeys;
        piece.turn = turn;
        std::vector<TileId> cells;
        for (const Tile& t : project.sheet(id)->tiles)
            if (!t.is_block() && place.contains(t.box.corner())) cells.push_back(t.id);
        if (cells.size() == 1) {
            piece.tile = cells.front();
        } else if (cells.size() > 1) {
            MadeBlock block = make_block(std::move(project), id, cells);
            project = std::move(block.project);
            piece.tile = block.tile;
        }
        if (piece.tile == 0) return;
        if (const auto said = blocking.find(piece.name); said != blocking.end()) {
            piece.blocks = said->second.first;
            piece.as = said->second.second;
        }
        const auto before = known.find(kit::turned_key(piece.name, turn));
        if (before == known.end() || before->second != piece.tile) made.emplace(piece.tile, Made{i, turn});
        kept.pieces.push_back(std::move(piece));
    };
    for (std::size_t i = 0; i < kit.bodies.size(); ++i) {
        put(i, drawn.places[i], 0);
        for (int turn = 1; turn < 4; ++turn) put(i, drawn.turned[i][static_cast<std::size_t>(turn - 1)], turn);
    }
    Sheet sheet = *project.sheet(id);
    sheet.kit = std::move(kept);
    project.put(std::move(sheet));
    std::vector<TileId> tiles;
    for (const auto& [tile, piece] : made) tiles.push_back(tile);
    const Project as_it_is = project;
    project = change_tiles(std::move(project), tiles, [&](Tile& t) {
        const auto [i, turn] = made.at(t.id);
        t.name = kit::key_of(kit.bodies[i]);
        if (turn != 0) t.name += ", " + std::to_string(turn * 90) + "°";
        if (read.pieces[i].top >= kStands && t.shape == TileShape::none && !stand_in_the_way(t, kit, read, i, turn))
            give(as_it_is, t, Blocking::as_drawn);
    });
    out.fresh =
        static_cast<int>(std::count_if(made.begin(), made.end(), [](const auto& m) { return m.second.turn == 0; }));
    for (const KitMaterial& wanted : materials) {
        const MaterialId free = fresh ? project.free_material() : 0;
        if (free == 0) break;
        Material m;
        m.id = free;
        m.name = free_material_name(project, wanted.name.empty() ? name : wanted.name);
        m.joins.kind = wanted.kind;
        m.joins.lively = 60;
        if (wanted.turns) m.joins.turns = 0x0F;
        for (const KitMaterial::Serves& s : wanted.pieces)
            for (const auto& [tile, piece] : made)
                if (piece.piece == s.piece && piece.turn == 0) m.joins.cases[s.mask].push_back({tile, 100, {}});
        if (m.joins.cases.empty()) continue;
        out.materials.push_back(free);
        project.put(std::move(m));
    }
    follow_pieces(project, id);
    if (fresh && read.things) {
        TakenIslands taken = props_of_tiles(std::move(project), id, tiles);
        project = std::move(taken.project);
        out.things = std::move(taken.added);
    }
    out.project = std::move(project);
    out.sheet = id;
    return out;
}

} // namespace vic::edit
