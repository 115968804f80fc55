#include "edit/blocking.hpp"

#include <algorithm>
#include <set>
#include <string>
#include <utility>
#include <vector>

#include "edit/sheets.hpp"
#include "level/material.hpp"
#include "level/telling.hpp"
#include "outline/from_art.hpp"
#include "sheet/cut.hpp"

namespace vic::edit {

namespace {

using level::TileShape;

constexpr double kDeviation = 1;     // pixels that a shape may lie off the art
constexpr double kSeeThrough = 0.02; // share of a material's pixels from which on its rim is see-through
constexpr double kThin = 0.45;       // of a tile's height, from the top, that a ledge keeps within

std::set<level::TileId> tiles_of(const level::Material& material) {
    std::set<level::TileId> out;
    const auto add = [&](const level::Cases& cases) {
        for (const auto& [mask, variants] : cases)
            for (const level::Variant& v : variants) out.insert(v.tile);
    };
    add(material.joins.cases);
    for (const auto& [other, cases] : material.joins.pairs) add(cases);
    return out;
}

// Calls each(sheet, tile) for the material's tiles.
template <class Each>
void each_tile(const level::Project& project, const level::Material& material, const Each& each) {
    const std::set<level::TileId> tiles = tiles_of(material);
    for (const auto& sheet : project.sheets)
        for (const level::Tile& tile : sheet->tiles)
            if (tiles.contains(tile.id)) each(*sheet, tile);
}

// What is seen of a material's tiles, all together.
struct CellLook {
    double pixels = 0, open = 0; // open: see-through
    double r = 0, g = 0, b = 0;  // the mean of the others
    double lowest = 0;           // the mean over the tiles of how far down anything is, 0 .. 1
    int tiles = 0;
};

CellLook look_at(const level::Project& project, const level::Material& material) {
    CellLook out;
    each_tile(project, material, [&](const level::Sheet& sheet, const level::Tile& tile) {
        if (!sheet.image || tile.blank) return;
        const Image art = sheet::tile_art(sheet, tile);
        int lowest = 0;
        for (int y = 0; y < art.height(); ++y)
            for (int x = 0; x < art.width(); ++x) {
                const Rgba p = art.at(x, y);
                ++out.pixels;
                if (p.a < 128) {
                    ++out.open;
                    continue;
                }
                out.r += p.r;
                out.g += p.g;
                out.b += p.b;
                lowest = y + 1;
            }
        out.lowest += static_cast<double>(lowest) / art.height();
        ++out.tiles;
    });
    const double seen = std::max(1.0, out.pixels - out.open);
    out.r /= seen;
    out.g /= seen;
    out.b /= seen;
    out.lowest /= std::max(1, out.tiles);
    return out;
}

// Blue or blue-green, and not grey.
bool is_watery(const CellLook& look) {
    return look.b > 1.15 * look.r && look.b + look.g > 2.3 * look.r && look.b > 0.8 * look.g && look.b > 50;
}

} // namespace

Blocking blocking_of(TileShape shape) {
    if (shape == TileShape::none) return Blocking::nothing;
    if (shape == TileShape::full) return Blocking::full;
    if (shape == TileShape::opens) return Blocking::opens;
    return level::is_one_way(shape) ? Blocking::one_way : Blocking::as_drawn;
}

void give(const level::Project& project, level::Tile& tile, Blocking blocking) {
    if (blocking == Blocking::mixed) return;
    // What is drawn of a kit's piece is seen from above: the shape that its body has at a walker's height is better.
    const auto of_kit = [&](const auto& sheet) {
        return sheet->kit && std::any_of(sheet->tiles.begin(), sheet->tiles.end(),
                                         [&](const level::Tile& t) { return t.id == tile.id; });
    };
    if (blocking == Blocking::as_drawn && blocking_of(tile.shape) == Blocking::as_drawn &&
        std::any_of(project.sheets.begin(), project.sheets.end(), of_kit))
        return;
    tile.polygons.clear();
    tile.shape = TileShape::none;
    if (tile.blank || blocking == Blocking::nothing) return;
    if (blocking == Blocking::opens) tile.shape = TileShape::opens;
    if (blocking == Blocking::full) tile.shape = TileShape::full;
    if (blocking == Blocking::one_way) tile.shape = TileShape::one_way_north;
    if (blocking != Blocking::as_drawn) return;
    for (const auto& sheet : project.sheets) {
        const bool here = std::any_of(sheet->tiles.begin(), sheet->tiles.end(),
                                      [&](const level::Tile& t) { return t.id == tile.id; });
        if (!here || !sheet->image) continue;
        outline::ArtShape read = outline::shape_from_art(sheet::tile_art(*sheet, tile), kDeviation);
        tile.shape = level::named_shape(read.polygons);
        tile.polygons = std::move(read.polygons);
    }
}

Blocking blocking_of(const level::Project& project, const level::Material& material) {
    std::set<Blocking> all;
    each_tile(project, material, [&](const level::Sheet&, const level::Tile& tile) {
        if (!tile.blank) all.insert(blocking_of(tile.shape));
    });
    if (all.empty()) return Blocking::nothing;
    if (all.size() == 1) return *all.begin();
    // As drawn: full where a tile is full.
    const bool drawn =
        !all.contains(Blocking::one_way) && all.contains(Blocking::as_drawn) && !all.contains(Blocking::nothing);
    return drawn ? Blocking::as_drawn : Blocking::mixed;
}

level::Project with_blocking(level::Project project, level::MaterialId id, Blocking blocking) {
    const level::Material* material = project.material(id);
    if (!material || blocking == Blocking::mixed) return project;
    const std::set<level::TileId> tiles = tiles_of(*material);
    const std::vector<level::TileId> all(tiles.begin(), tiles.end());
    const level::Project before = project;
    return change_tiles(std::move(project), all, [&](level::Tile& tile) { give(before, tile, blocking); });
}

ProposedBlocking proposed_blocking(const level::Project& project, const level::Material& material, level::View view) {
    const CellLook look = look_at(project, material);
    if (look.tiles == 0) return {Blocking::nothing, say("it has no tiles yet")};
    if (view == level::View::from_the_side) {
        if (look.lowest < kThin) return {Blocking::one_way, say("it is a thin ledge")};
        if (look.open > kSeeThrough * look.pixels) return {Blocking::as_drawn, say("its rim is see-through")};
        return {Blocking::full, say("it fills its tiles")};
    }
    if (const std::string word = level::telling_word(material.name); !word.empty())
        return {Blocking::full, say("its name says “%1”", word)};
    if (is_watery(look)) return {Blocking::full, say("it looks like water")};
    return {Blocking::nothing, say("seen from above one walks on it")};
}

} // namespace vic::edit
