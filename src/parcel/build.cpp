#include "parcel/build.hpp"

#include <fcntl.h>
#include <linux/fs.h>
#include <sys/syscall.h>
#include <unistd.h>

#include <algorithm>
#include <regex>
#include <set>

#include "base/error.hpp"
#include "join/resolve.hpp"
#include "level/block.hpp"
#include "level/standing.hpp"
#include "outline/surfaces.hpp"
#include "parcel/atlas.hpp"
#include "parcel/things.hpp"
#include "parcel/walking.hpp"
#include "sheet/cut.hpp"
#include "sheet/png.hpp"
#include "store/format.hpp"
#include "store/format_lay.hpp"

namespace vic::parcel {

using namespace level;
using store::Json;
using store::to_json;

namespace {

constexpr int kAtlasSide = 16384;

// The level as it is seen: what shows through the rims of materials that lie over others gets layers of its own.
Level with_underlays(const Project& project, const Level& level) {
    const join::Rules rules(project);
    if (!rules.any_over()) return level;
    Level out = level;
    out.layers.clear();
    for (std::size_t i = 0; i < level.layers.size(); ++i) {
        const Layer& layer = *level.layers[i];
        if (const TileCells* tiles = layer.tiles()) {
            Layer below;
            below.content = TileCells{join::underlay(rules, tiles->grid, layer.cells(), layer.id), false, tiles->grain};
            if (below.grid().count() > 0) {
                below.id = 0x40000000U + layer.id; // above all ids that a project gives out
                below.name = layer.name + ", below";
                below.shown = layer.shown;
                below.opacity = layer.opacity;
                below.tint = layer.tint;
                below.parallax = layer.parallax;
                below.shift = layer.shift;
                below.storey = layer.storey;
                below.by_feet = layer.by_feet; // so that what is sorted together stays so
                out.layers.push_back(std::make_shared<const Layer>(std::move(below)));
                if (static_cast<int>(i) < level.plane) ++out.plane;
            }
        }
        out.layers.push_back(level.layers[i]);
    }
    return out;
}

Used used_by(const Project& project, const Level& level) {
    Used out;
    out.table = TileTable(project, level);
    out.props = level::PropKinds(project, level);
    const TileTable& table = out.table;
    std::vector<bool> seen(project.next_tile, false);
    out.cell.resize(project.next_tile, level.cell);
    std::vector<bool> own(project.next_tile, false);
    std::set<PropKindId> kinds;
    const level::PropKinds& props = out.props;
    for (const level::LayerRef& layer : level.layers) {
        const Size size = level.lattice_of(*layer).cell;
        if (layer->tiles())
            each_cell(layer->grid(), layer->cells(), [&](Point, Cell cell, MaterialId) {
                if (cell.tile() >= seen.size()) return;
                seen[cell.tile()] = true;
                Size& largest = out.cell[cell.tile()];
                if (!own[cell.tile()] || largest.w < size.w) largest = size;
                own[cell.tile()] = true;
            });
        for (const Prop& prop : layer->props())
            props.each_piece(prop, [&](const level::Piece& piece) { kinds.insert(piece.kind->id); });
    }
    for (const Mark& m : level.marks)
        if (m.figure != 0) kinds.insert(m.figure);
    // An animated tile brings those whose pictures it shows.
    std::vector<TileId> frames;
    for (TileId id = 1; id < seen.size(); ++id)
        if (const TileRef ref = table.find(id); seen[id] && ref.tile)
            for (const TileFrame& f : ref.tile->frames) frames.push_back(f.tile);
    for (const TileId id : frames)
        if (id < seen.size()) seen[id] = true;
    out.index.resize(project.next_tile, 0);
    for (TileId id = 1; id < seen.size(); ++id) {
        const TileRef ref = table.find(id);
        if (!seen[id] || !ref.tile || !ref.sheet->image) continue;
        out.tiles.push_back(ref);
        out.index[id] = static_cast<std::uint32_t>(out.tiles.size());
    }
    for (const PropKindId id : kinds) {
        const PropKind* kind = props.find(id);
        const Sheet* sheet = kind ? project.sheet(kind->sheet) : nullptr;
        if (sheet && sheet->image) out.kinds.push_back(kind);
    }
    return out;
}

// The least box of cells that hold something, and their bits for the parcel, little-endian.
Box cells_plane(const Layer& layer, const Used& used, std::string& bytes) {
    Box box;
    each_cell(layer.grid(), layer.cells(), [&](Point at, Cell cell, MaterialId) {
        if (cell.tile() < used.index.size() && used.index[cell.tile()]) box = united(box, {at.x, at.y, 1, 1});
    });
    bytes.assign(static_cast<std::size_t>(box.size().area()) * 4, '\0');
    each_cell(layer.grid(), box, [&](Point at, Cell cell, MaterialId) {
        const std::uint32_t index = cell.tile() < used.index.size() ? used.index[cell.tile()] : 0;
        if (!index) return;
        const std::uint32_t bits = index | (std::uint32_t{cell.turn().code} << 24);
        const std::size_t i = (static_cast<std::size_t>(at.y - box.y) * static_cast<std::size_t>(box.w) +
                               static_cast<std::size_t>(at.x - box.x)) *
                              4;
        for (std::size_t b = 0; b < 4; ++b) bytes[i + b] = static_cast<char>((bits >> (8 * b)) & 255U);
    });
    return box;
}
Json marks_json(const Project& project, const Level& level, const Used& used) {
    Json out = Json::array();
    for (const Mark& m : level.marks) {
        out.push_back({{"id", m.id},
                       {"name", m.name},
                       {"kind", store::mark_words().at(static_cast<std::size_t>(m.kind))},
                       {"cells", to_json(m.cells)}});
        if (m.storey != 0) out.back()["storey"] = m.storey;
        const auto figure =
            std::find_if(used.kinds.begin(), used.kinds.end(), [&](const PropKind* k) { return k->id == m.figure; });
        if (figure != used.kinds.end()) out.back()["figure"] = figure - used.kinds.begin();
        if (m.colour) out.back()["colour"] = to_json(*m.colour);
        if (!m.notes.empty()) out.back()["notes"] = notes_json(project, m.notes);
    }
    return out;
}

Json sides_json(const Project& project, const Level& level) {
    Json out = Json::array();
    for (const level::LevelSide& side : level.sides) {
        out.push_back({{"kind", store::side_kind_words().at(static_cast<std::size_t>(side.kind))}});
        if (side.kind == level::SideKind::leads && project.level(side.to)) out.back()["to"] = side.to;
    }
    return out;
}

// The values that occur, and for each cell of the least box that has any which of them it is, plus one.
Json facts_json(const Layer& layer, const NoteKind& kind, std::map<std::string, std::string>& out) {
    std::map<int, std::uint32_t> places;
    Box box;
    each_cell(layer.grid(), layer.cells(), [&](Point at, Cell cell, MaterialId) {
        const auto value = level::Facts::value_of(cell);
        if (!value || !level::fact_value(kind, *value)) return;
        places[*value] = 0;
        box = united(box, {at.x, at.y, 1, 1});
    });
    Json values = Json::array();
    for (auto& [value, place] : places) {
        values.push_back(to_json(*level::fact_value(kind, value)));
        place = static_cast<std::uint32_t>(values.size());
    }
    std::string bytes(static_cast<std::size_t>(box.size().area()) * 4, '\0');
    each_cell(layer.grid(), box, [&](Point at, Cell cell, MaterialId) {
        const auto value = level::Facts::value_of(cell);
        const auto place = value ? places.find(*value) : places.end();
        if (place == places.end()) return;
        const std::size_t i = (static_cast<std::size_t>(at.y - box.y) * static_cast<std::size_t>(box.w) +
                               static_cast<std::size_t>(at.x - box.x)) *
                              4;
        for (std::size_t b = 0; b < 4; ++b) bytes[i + b] = static_cast<char>((place->second >> (8 * b)) & 255U);
    });
    const std::string name = "facts-" + std::to_string(layer.id) + ".u32";
    if (!box.empty()) out[name] = std::move(bytes);
    return {{"id", layer.id},
            {"name", layer.name},
            {"note", kind.name},
            {"values", std::move(values)},
            {"cells", {{"file", name}, {"box", to_json(box)}}}};
}

// What the first version of the format cannot tell: readers of it refuse the parcel rather than show it wrong.
bool needs_second(const Level& level) {
    return level.lattice != LatticeKind::square ||
           std::any_of(level.layers.begin(), level.layers.end(), [](const auto& l) { return l->grain().own(); });
}

// Likewise of the third: backdrops that are placed, scaled or stepped back; props that are animated, or lie flat where
// others stand up.
bool needs_fourth(const Project& project, const Level& level) {
    const level::PropKinds kinds(project);
    bool flat = false; // or animated
    for (const level::LayerRef& l : level.layers) {
        const bool sorts = l->by_feet && level.view == level::View::from_above;
        for (const Prop& prop : l->props())
            kinds.each_piece(prop, [&](const level::Piece& piece) {
                flat = flat || (sorts && piece.kind->flat) || piece.kind->frames > 1;
            });
    }
    for (const Mark& m : level.marks)
        if (const PropKind* kind = m.figure == 0 ? nullptr : project.prop_kind(m.figure))
            flat = flat || kind->frames > 1;
    return flat || std::any_of(level.layers.begin(), level.layers.end(), [](const level::LayerRef& l) {
               if (!l->backdrop() || l->backdrop()->sheet == 0) return false;
               level::Backdrop plain;
               plain.sheet = l->backdrop()->sheet;
               plain.tint = l->backdrop()->tint;
               return *l->backdrop() != plain;
           });
}

// Likewise of the fifth: surfaces along outlines, props whose order was said by hand.
bool needs_sixth(const Project& project, const Level& level) {
    if (outline::any_surfaces(project)) return true;
    const level::PropKinds kinds(project);
    bool out = false;
    for (const level::LayerRef& l : level.layers)
        for (const Prop& prop : l->props())
            kinds.each_piece(prop, [&](const level::Piece& piece) { out = out || piece.look.ahead != 0; });
    return out;
}

void put_backdrop(Json& j, const level::Backdrop& backdrop, const Level& level, Size picture) {
    const level::Wash wash = level::wash_of(backdrop, level);
    j["tint"] = to_json(wash.times);
    if (backdrop.steps_back != 0) j["plus"] = to_json(Rgba{wash.plus.r, wash.plus.g, wash.plus.b, 255});
    if (!backdrop.repeats() || backdrop.across != backdrop.down) j["repeats"] = {backdrop.across, backdrop.down};
    const Box box = backdrop.box(picture);
    if (box != box_of(picture)) j["place"] = to_json(box);
    if (backdrop.smooth) j["smooth"] = true;
}

// Likewise of the second: props that are turned, scaled, tinted or of a shape of their own, tiles sorted by feet.
bool needs_third(const Project& project, const Level& level) {
    const level::PropKinds kinds(project, level);
    bool out = std::any_of(level.layers.begin(), level.layers.end(), [&](const level::LayerRef& l) {
        return l->by_feet && level.view == level::View::from_above && l->tiles();
    });
    for (const level::LayerRef& layer : level.layers)
        for (const Prop& prop : layer->props())
            kinds.each_piece(prop, [&](const level::Piece& piece) {
                level::Look plain;
                plain.mirrored = piece.look.mirrored;
                out = out || piece.look != plain || piece.wash.changes() || piece.from ||
                      (piece.kind->blocks && piece.kind->shape != level::TileShape::full);
            });
    return out;
}

// One paragraph per sheet that the level shows anything of.
std::string credits_text(const Project& project, const Level& level, const Used& used) {
    std::set<SheetId> shown;
    for (const TileRef& ref : used.tiles) shown.insert(ref.sheet->id);
    for (const PropKind* kind : used.kinds) shown.insert(kind->sheet);
    for (const level::LayerRef& layer : level.layers)
        if (layer->backdrop()) shown.insert(layer->backdrop()->sheet);
    std::string out = "Art in \"" + level.name + "\"\n";
    const auto line = [&](const char* what, const std::string& text) {
        if (text.empty()) return;
        out += std::string("  ") + what + ": ";
        // A text of several lines keeps to its paragraph.
        for (const char c : text) out += c == '\n' ? std::string("\n    ") : std::string(1, c);
        out += "\n";
    };
    for (const auto& sheet : project.sheets) {
        if (!shown.contains(sheet->id)) continue;
        out += "\n" + sheet->name + "\n";
        if (sheet->credits.empty()) out += "  no credits are recorded\n";
        line("by", sheet->credits.author);
        line("licence", sheet->credits.licence);
        line("source", sheet->credits.source);
        line("note", sheet->credits.note);
    }
    return out;
}

bool is_parcel(const fs::path& dir) {
    std::error_code trouble;
    const fs::path file = dir / "level.json";
    if (!fs::is_regular_file(file, trouble)) return false;
    try {
        return read_file(file).find("\"vicinum-parcel\"") != std::string::npos;
    } catch (const InputError&) {
        return false;
    }
}

} // namespace

// Whether a file of this name is one that parcels have. What else lies beside them is not ours.
bool is_of_parcel(const std::string& name) {
    static const std::regex names(
        R"(level\.json|level\.glb|atlas\.png|CREDITS\.txt|cells-\d+\.u32|facts-\d+\.u32|backdrop-\d+\.png|piece-\d+-\d+-\d+\.png)");
    return std::regex_match(name, names);
}

// What an engine or its user keeps beside the parcel's files goes along into the new folder: as links to the same
// files, so that nothing is copied and the old folder stays whole until it has been exchanged.
void carry_along(const fs::path& from, const fs::path& to) {
    for (const auto& entry : fs::directory_iterator(from)) {
        const fs::path there = to / entry.path().filename();
        if (is_of_parcel(entry.path().filename().string()) || fs::exists(fs::symlink_status(there))) continue;
        fs::copy(entry.path(), there,
                 fs::copy_options::recursive | fs::copy_options::create_hard_links | fs::copy_options::copy_symlinks);
    }
}

std::map<std::string, std::string> files(const Project& project, const Level& as_laid) {
    const Level level = with_underlays(project, as_laid);
    const Used used = used_by(project, level);
    std::vector<Image> pictures;
    for (const TileRef& ref : used.tiles) {
        const Lattice lattice{level.lattice, used.cell[ref.tile->id]};
        pictures.push_back(resampled(sheet::tile_art(*ref.sheet, *ref.tile), level::picture_size(*ref.tile, lattice),
                                     ref.sheet->smooth));
    }
    for (const PropKind* kind : used.kinds) // those in pieces have files of their own
        pictures.push_back(kind->piece ? Image({1, 1}) : strip_of(project, *kind));
    const auto atlas = pack(pictures, kAtlasSide);
    if (!atlas)
        throw InputError(say("The tiles and props of \"%1\" do not fit into one atlas", level.name),
                         "levels/" + level.id + ".json", "", "Use fewer or smaller pictures in this level");

    std::map<std::string, std::string> out;
    Json j{{"format", "vicinum-parcel"},
           {"version", needs_sixth(project, level)    ? 6
                       : props_block(project, level)  ? 5
                       : needs_fourth(project, level) ? 4
                       : needs_third(project, level)  ? 3
                       : needs_second(level)          ? 2
                                                      : 1},
           {"id", level.id},
           {"name", level.name},
           {"view", store::view_words().at(static_cast<std::size_t>(level.view))},
           {"size", to_json(level.size)},
           {"cell", to_json(level.cell)},
           {"lattice", store::lattice_words().at(static_cast<std::size_t>(level.lattice))},
           {"unit", project.unit},
           {"ground", to_json(level.ground)},
           {"frame", to_json(level.frame)},
           {"plane", level.plane}};
    j["walker"] = walker_json(level.walker);
    j["atlas"] = {{"file", "atlas.png"}, {"size", to_json(atlas->image.size())}, {"extrude", 1}};
    j["tiles"] = tiles_json(project, used, *atlas);
    for (const NoteKind& kind : project.note_kinds)
        if (kind.type == level::NoteType::side) j["side_notes"].push_back(kind.name);
    j["prop_kinds"] = kinds_json(project, used, *atlas, out);
    j["layers"] = Json::array();
    int plane = 0;
    for (std::size_t i = 0; i < level.layers.size(); ++i) {
        const Layer& layer = *level.layers[i];
        if (layer.blockers()) continue; // all of them is in the outlines
        if (layer.facts()) {            // nothing of them is seen
            if (const NoteKind* kind = project.note_kind(layer.facts()->note()))
                j["facts"].push_back(facts_json(layer, *kind, out));
            continue;
        }
        const LayerKind kind = layer.has_props() ? LayerKind::props : layer.kind(); // planted or placed is one
        Json l{{"id", layer.id},
               {"name", layer.name},
               {"kind", store::layer_kind_words().at(static_cast<std::size_t>(kind))},
               {"shown", layer.shown},
               {"opacity", layer.opacity / 100.0}};
        const Layer plain;
        if (layer.by_feet && level.view == level::View::from_above && !layer.backdrop()) l["by_feet"] = true;
        if (layer.storey > 0) l["storey"] = layer.storey;
        if (layer.tint != plain.tint && !layer.backdrop()) l["tint"] = to_json(layer.tint);
        if (layer.parallax != plain.parallax) l["parallax"] = {layer.parallax.x / 100.0, layer.parallax.y / 100.0};
        if (layer.shift != plain.shift)
            l["shift"] = {layer.shift.x * level.cell.w / 2, layer.shift.y * level.cell.h / 2};
        if (layer.tiles()) {
            const std::string name = "cells-" + std::to_string(layer.id) + ".u32";
            const Box box = cells_plane(layer, used, out[name]);
            l["solid"] = layer.solid();
            if (layer.solid() && !layer.collision_class.empty()) l["collision_class"] = layer.collision_class;
            l["cells"] = {{"file", name}, {"box", to_json(box)}};
            if (layer.grain().own()) l["cell"] = to_json(level.lattice_of(layer).cell);
        } else if (layer.has_props()) {
            l["props"] = props_json(project, layer, used);
        } else {
            const Sheet* sheet = project.sheet(layer.backdrop()->sheet);
            if (!sheet || !sheet->image) continue; // a backdrop without a picture shows nothing
            const std::string name = "backdrop-" + std::to_string(sheet->id) + ".png";
            out[name] = sheet::encode_png(*sheet->image);
            l["image"] = name;
            put_backdrop(l, *layer.backdrop(), level, sheet->image->size());
        }
        if (static_cast<int>(i) < level.plane) ++plane;
        j["layers"].push_back(std::move(l));
    }
    j["plane"] = plane;
    const TileTable tiles(project, level);
    const level::PropKinds props(project, level);
    const outline::Kinds things{tiles, props};
    if (props_block(project, level)) j["props_merged"] = true;
    std::vector<level::Notes> surfaces;
    put_blocking(j, project, level, things, surfaces);
    put_walking(j, project, level, things, surfaces);
    j["marks"] = marks_json(project, level, used);
    store::put_depth(j, level);
    if (level.sides != level::LevelSides{}) j["sides"] = sides_json(project, level);
    out["CREDITS.txt"] = credits_text(project, level, used);
    out["atlas.png"] = sheet::encode_png(atlas->image);
    out["level.json"] = store::json_lines(j);
    return out;
}

fs::path place(const fs::path& project, const fs::path& to, const std::string& level) {
    std::error_code trouble;
    const fs::path whole = fs::absolute(to / level, trouble);
    for (fs::path above = whole; above.has_relative_path(); above = above.parent_path())
        if (fs::equivalent(above, project, trouble))
            (void)inside(project, whole.lexically_relative(above).string(), project.string(), "the place for parcels");
    return to / level;
}

Built build(const Project& project, const Level& level, const fs::path& dir,
            const std::map<std::string, std::string>& more) {
    auto content = files(project, level);
    content.insert(more.begin(), more.end());
    std::error_code trouble;
    const fs::file_status found = fs::symlink_status(dir, trouble);
    if (fs::is_symlink(found))
        throw InputError("The place for the parcel is a link", dir.string(), "",
                         "Choose the folder itself that it leads to, or another place");
    const bool there = fs::exists(found);
    if (there && !(fs::is_directory(dir, trouble) && (fs::is_empty(dir, trouble) || is_parcel(dir))))
        throw InputError("The place for the parcel holds something else", dir.string(), "",
                         "Choose an empty or a new folder, so that nothing of yours is replaced");
    const fs::path beside = dir.string() + ".part-" + std::to_string(::getpid());
    fs::remove_all(beside, trouble);
    fs::create_directories(beside, trouble);
    if (trouble)
        throw InputError(say("The folder cannot be made: %1", trouble.message()), beside.string(), "",
                         "Choose a place where you may write");
    Built out{dir, 0, 0};
    try {
        for (const auto& [name, bytes] : content) {
            write_file(beside / name, bytes);
            ++out.files;
            out.bytes += bytes.size();
        }
        if (there) carry_along(dir, beside);
        flush_folder(beside);
        const unsigned how = there ? RENAME_EXCHANGE : RENAME_NOREPLACE;
        if (::syscall(SYS_renameat2, AT_FDCWD, beside.c_str(), AT_FDCWD, dir.c_str(), how) != 0) {
            // A file system without an exchange: two renames, the old one kept until the new one is there.
            const fs::path old = dir.string() + ".old-" + std::to_string(::getpid());
            if (there) fs::rename(dir, old);
            fs::rename(beside, dir);
            fs::remove_all(old, trouble);
        }
    } catch (const fs::filesystem_error& e) {
        fs::remove_all(beside, trouble);
        throw InputError(say("The parcel cannot be put in place: %1", e.what()), dir.string(), "",
                         "Check who may write there");
    } catch (const InputError&) {
        fs::remove_all(beside, trouble);
        throw;
    }
    fs::remove_all(beside, trouble); // after an exchange this is the old parcel
    flush_folder(dir.has_parent_path() ? dir.parent_path() : fs::path("."));
    return out;
}

} // namespace vic::parcel
