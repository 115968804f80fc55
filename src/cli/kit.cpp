// What a kit of pieces says of how they fit, without a window.
#include <cmath>
#include <cstdio>

#include "base/error.hpp"
#include "cli/commands.hpp"
#include "kit/open_kit.hpp"
#include "kit/read_kit.hpp"
#include "mass/write_glb.hpp"
#include "render/level_picture.hpp"
#include "sheet/png.hpp"
#include "store/project_files.hpp"

namespace vic::cli {

namespace {

// Tenths of a millimetre.
double in_tenths(double v) { return std::round(v * 1e4) / 1e4; }

Json piece_json(const kit::Body& body, const kit::PieceReading& piece, const kit::KitReading& read) {
    static constexpr const char* sides[4] = {"north", "east", "south", "west"};
    Json out{{"name", body.name},
             {"triangles", body.mesh.triangles.size()},
             {"cells", {piece.cells.w, piece.cells.h}},
             {"storeys", piece.storeys},
             {"fills", piece.fills}};
    if (piece.shift != kit::Vec{})
        out["shift"] = {in_tenths(piece.shift.x), in_tenths(piece.shift.y), in_tenths(piece.shift.z)};
    if (piece.over > 0) out["over"] = in_tenths(piece.over);
    for (std::size_t side = 0; side < 4; ++side) {
        if (piece.out[side] > 0) out["out"][sides[side]] = in_tenths(piece.out[side]);
        const auto name = [&](int coupling, bool mirrored) {
            if (coupling == 0) return std::string();
            const kit::Coupling& c = read.couplings[static_cast<std::size_t>(coupling - 1)];
            return c.symmetric ? c.name : c.name + (mirrored ? "-" : "+");
        };
        if (piece.couplings[side] == 0) continue;
        Json& told = out["couplings"][sides[side]];
        if (piece.joints[side].empty()) told = name(piece.couplings[side], piece.mirrored[side]);
        for (const kit::PieceReading::Joint& j : piece.joints[side]) told.push_back(name(j.coupling, j.mirrored));
    }
    if (piece.code) {
        out["code"] = *piece.code;
        out["variant"] = piece.variant;
    }
    return out;
}

} // namespace

Outcome read_kit(const std::string& path) {
    const kit::KitFile file = kit::open_kit(path);
    const kit::KitReading read = kit::read_kit(file.bodies);
    Outcome out;
    out.json = {{"module", {in_tenths(read.module.width), in_tenths(read.module.width), in_tenths(read.module.height)}},
                {"origin", read.origin == kit::Origin::corner ? "corner" : "middle"},
                {"up", read.z_up ? "z" : "y"},
                {"confidence", std::round(read.sure * 100) / 100},
                {"pieces", Json::array()},
                {"couplings", Json::array()},
                {"codes", Json::array()},
                {"reasons", Json::array()},
                {"doubts", Json::array()}};
    for (std::size_t i = 0; i < file.bodies.size(); ++i)
        out.json["pieces"].push_back(piece_json(file.bodies[i], read.pieces[i], read));
    for (const kit::Coupling& c : read.couplings)
        out.json["couplings"].push_back({{"name", c.name}, {"sides", c.sides}, {"symmetric", c.symmetric}});
    for (const kit::Codes& c : read.codes) {
        if (!c.taken) continue;
        out.json["codes"].push_back({{"stem", c.stem},
                                     {"corners", c.corners},
                                     {"bit_of_side", c.bit_of_side},
                                     {"inverted", c.inverted},
                                     {"agree", c.agree},
                                     {"of", c.of}});
        if (c.bit_of_corner) out.json["codes"].back()["bit_of_corner"] = *c.bit_of_corner;
    }
    for (const Text& t : read.reasons) out.json["reasons"].push_back(t.english());
    for (const Text& t : file.doubts) out.json["doubts"].push_back(t.english());
    out.text = std::to_string(file.bodies.size()) + " pieces, " + std::to_string(read.couplings.size()) + " couplings";
    for (const Text& t : read.reasons) out.text += "\n" + t.english();
    for (const Text& t : file.doubts) out.text += "\n" + t.english();
    return out;
}

Outcome bodies(const std::string& dir, const std::string& id, const std::string& to) {
    const level::Project project = store::load(dir);
    const level::Level& level = level_of(project, id, dir);
    const auto kits = scene::load_kits(project, dir);
    const std::string bytes = mass::level_glb(project, level, kits);
    if (bytes.empty())
        throw InputError("No piece of a kit stands in the level", dir, say("level %1", level.id),
                         "Choose a level with pieces of a kit");
    write_file(to, bytes);
    const auto placed = scene::placed_in(project, level, kits, level::kMostStorey);
    const mass::Mass mass = mass::merged(placed, kits, scene::Storeys(kits, level.storey_heights));
    const mass::Shell shell = mass::shell_of(mass);
    Outcome out;
    std::size_t outlines = 0;
    for (const mass::Slab& slab : mass.slabs) outlines += slab.outlines->size();
    out.json = {{"file", to},
                {"bytes", bytes.size()},
                {"pieces", mass.pieces},
                {"not_closed", mass.open},
                {"slabs", mass.slabs.size()},
                {"outlines", outlines},
                {"polygons", shell.polygons},
                {"triangles", shell.triangles.size()}};
    out.text = to + ": " + std::to_string(mass.pieces) + " pieces merged into " + std::to_string(outlines) +
               " outlines in " + std::to_string(mass.slabs.size()) + " slabs, " + std::to_string(shell.polygons) +
               " polygons";
    if (mass.open > 0) out.text += "; " + std::to_string(mass.open) + " pieces are not closed, and block in part only";
    return out;
}

Outcome render_depth(const level::Project& project, const level::Level& level, const std::string& dir,
                     const std::string& to, const Depth& depth) {
    if (level.view != level::View::from_above || !level.geometry().square())
        throw InputError("Only levels seen from above, on squares, are drawn in three dimensions", dir,
                         say("level %1", level.id), "Draw it with --look plan");
    render::PictureOf how;
    int w = 0, h = 0;
    char rest = 0;
    if (std::sscanf(depth.size.c_str(), "%dx%d%c", &w, &h, &rest) != 2 || w < 1 || h < 1 || w > 4096 || h > 4096)
        throw InputError(say("\"%1\" is no size", depth.size), to, "--size", "Two numbers up to 4096, as 1280x800");
    how.pixels = {w, h};
    how.highest = depth.storey;
    how.turn = static_cast<float>(depth.turn);
    how.look = depth.look == "front"     ? render::Look::front
               : depth.look == "through" ? render::Look::through
               : depth.look == "game"    ? render::Look::game
                                         : render::Look::aslant;
    const Image image = render::level_picture(project, level, scene::load_kits(project, dir), how);
    write_file(to, sheet::encode_png(image));
    Outcome out;
    out.json = {{"file", to}, {"width", image.width()}, {"height", image.height()}, {"look", depth.look}};
    out.text = "drew " + to;
    return out;
}

} // namespace vic::cli
