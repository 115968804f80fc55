#include "store/format_kit.hpp"

#include <algorithm>
#include <set>

#include "level/sheet.hpp"

namespace vic::store {

namespace {

constexpr double kMostModule = 1000; // metres
constexpr int kMostCells = 1024;     // of a piece each way

const std::vector<std::string>& piece_blocks_words() {
    static const std::vector<std::string> words{"mesh", "box", "hull", "ramp", "another", "nothing", "node"};
    return words;
}

} // namespace

Json kit_json(const level::KitSource& kit) {
    Json j{{"file", kit.file}, {"module", {kit.width, kit.height}}, {"pieces", Json::array()}};
    if (kit.z_up) j["up"] = "z";
    if (kit.corner) j["origin"] = "corner";
    if (kit.turn != 0) j["turn"] = kit.turn;
    if (kit.whole) j["whole"] = true;
    for (const level::KitPiece& p : kit.pieces) {
        Json piece{{"name", p.name}, {"tile", p.tile}};
        if (p.cells != Size{1, 1}) piece["cells"] = to_json(p.cells);
        if (p.storeys != 1) piece["storeys"] = p.storeys;
        if (p.turn != 0) piece["turn"] = p.turn;
        if (p.blocks != level::PieceBlocks::mesh)
            piece["blocks"] = piece_blocks_words()[static_cast<std::size_t>(p.blocks)];
        if (level::names_another(p.blocks)) piece["as"] = p.as;
        j["pieces"].push_back(std::move(piece));
    }
    return j;
}

level::KitSource read_kit_source(const Field& f, const std::vector<level::Tile>& tiles) {
    level::KitSource out;
    out.file = f["file"].text();
    if (out.file.empty()) f["file"].refuse("A kit needs its file");
    const auto module = f["module"].list(2);
    if (module.size() != 2) f["module"].refuse("Two lengths are wanted: of a cell, and of a storey");
    out.width = module[0].real(1e-3, kMostModule);
    out.height = module[1].real(0, kMostModule);
    static const std::vector<std::string> ups{"y", "z"}, origins{"middle", "corner"};
    out.z_up = f.has("up") && f["up"].word(ups) == 1;
    out.corner = f.has("origin") && f["origin"].word(origins) == 1;
    if (f.has("turn")) out.turn = f["turn"].number(0, 3);
    if (f.has("whole")) out.whole = f["whole"].yes();
    std::set<level::TileId> there;
    for (const level::Tile& t : tiles) there.insert(t.id);
    for (const Field& p : f["pieces"].list(level::kMostKitPieces)) {
        level::KitPiece piece;
        piece.name = p["name"].text();
        piece.tile = static_cast<level::TileId>(p["tile"].integer(1, UINT32_MAX));
        if (p.has("cells")) piece.cells = p["cells"].size(1, kMostCells);
        if (p.has("storeys")) piece.storeys = p["storeys"].number(1, kMostCells);
        if (p.has("turn")) piece.turn = p["turn"].number(0, 3);
        if (p.has("blocks")) piece.blocks = static_cast<level::PieceBlocks>(p["blocks"].word(piece_blocks_words()));
        if (level::names_another(piece.blocks)) piece.as = p["as"].text();
        if (there.contains(piece.tile)) out.pieces.push_back(std::move(piece));
    }
    return out;
}

} // namespace vic::store
