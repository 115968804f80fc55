#include "join/compose_sheet.hpp"

#include <map>

#include "sheet/cut.hpp"
#include "sheet/inspect.hpp"
#include "sheet/recolour.hpp"

namespace vic::join {

using level::Project;
using level::Sheet;
using level::Tile;
using level::TileId;

namespace {

constexpr int kColumns = 8;

Box place_of(std::size_t i, Size tile) {
    return {static_cast<int>(i) % kColumns * tile.w, static_cast<int>(i) / kColumns * tile.h, tile.w, tile.h};
}

// Draws all tiles of a derived sheet; null where a source is gone.
std::shared_ptr<const Image> picture_of(const Project& project, const Sheet& sheet) {
    if (sheet.recolour) {
        const Sheet* of = project.sheet(sheet.recolour->of);
        if (!of || !of->image) return nullptr;
        return std::make_shared<const Image>(sheet::recoloured(*of->image, *sheet.recolour));
    }
    const level::TileTable table(project);
    const int rows = (static_cast<int>(sheet.composed.size()) + kColumns - 1) / kColumns;
    Image out({kColumns * sheet.cut.tile.w, rows * sheet.cut.tile.h});
    for (std::size_t i = 0; i < sheet.composed.size(); ++i) {
        const Image tile = composed_art(table, sheet.composed[i], sheet.cut.tile);
        if (tile.empty()) return nullptr;
        const Box place = place_of(i, sheet.cut.tile);
        for (int y = 0; y < place.h; ++y)
            for (int x = 0; x < place.w; ++x) out.set(place.x + x, place.y + y, tile.at(x, y));
    }
    return std::make_shared<const Image>(std::move(out));
}

} // namespace

Project compose_sheets(Project project) {
    // Derived sheets may be made of others: as often as there are any.
    for (std::size_t round = 0; round < project.sheets.size(); ++round) {
        bool changed = false;
        for (std::size_t i = 0; i < project.sheets.size(); ++i) {
            if (!project.sheets[i]->derived()) continue;
            auto picture = picture_of(project, *project.sheets[i]);
            const Sheet& old = *project.sheets[i];
            if (!picture) {
                if (old.image || !old.trouble.empty()) continue;
                Sheet sheet = old;
                sheet.trouble = "The tiles that it is composed of are gone";
                if (sheet.recolour) sheet.trouble = "The sheet that it has in other colours is gone";
                project.put(std::move(sheet));
                continue;
            }
            if (old.image && *old.image == *picture) continue;
            Sheet sheet = old;
            sheet.image = std::move(picture);
            sheet.trouble = {};
            const auto gaps = sheet.recolour ? sheet::gap_colour(*sheet.image, sheet.cut) : std::nullopt;
            for (Tile& t : sheet.tiles) t.blank = sheet::is_blank(*sheet.image, t.box, gaps);
            project.put(std::move(sheet));
            changed = true;
        }
        if (!changed) break;
    }
    return project;
}

Project add_composed(Project project, level::MaterialId material, const std::vector<Made>& made, level::SheetId id,
                     const std::string& name, const std::string& file) {
    const level::Material* old = project.material(material);
    if (made.empty() || !old) return project;
    level::Material changed = *old;
    Sheet sheet;
    std::map<TileId, Tile> sources;
    {
        const level::TileTable table(project);
        for (const Made& m : made)
            for (const level::Quarter& q : m.of)
                if (const level::TileRef ref = table.find(q.from); ref.tile) sources[q.from] = *ref.tile;
        if (const Sheet* known = project.sheet(id)) {
            sheet = *known;
        } else {
            const level::TileRef first = table.find(made.front().of[0].from);
            if (!first.tile) return project;
            sheet.id = project.next_id++;
            sheet.name = name;
            sheet.file = file;
            sheet.accepted = true;
            sheet.credits = first.sheet->credits;
            sheet.smooth = first.sheet->smooth;
            sheet.cut.tile = sheet::drawn_size(first.sheet->cut);
        }
    }
    for (const Made& m : made) {
        // Properties come from the tile that lends most quarters.
        std::map<TileId, int> lends;
        for (const level::Quarter& q : m.of) ++lends[q.from];
        TileId most = m.of[0].from;
        for (const auto& [tile, n] : lends)
            if (n > lends[most]) most = tile;
        Tile tile;
        if (const auto source = sources.find(most); source != sources.end()) {
            tile = source->second;
            tile.name.clear();
            tile.frames.clear();
            tile.block = {};
            tile.turns = level::kNoTurns;
        }
        tile.id = project.next_tile++;
        tile.box = place_of(sheet.composed.size(), sheet.cut.tile);
        tile.blank = false;
        // The cut fills whole rows; only the tiles that are made are in the sheet.
        sheet.composed.push_back(m.of);
        sheet.tiles.push_back(tile);
        changed.joins.cases[m.mask] = {{tile.id, 100, {}}};
    }
    sheet.image.reset();
    project.put(std::move(sheet));
    project.put(std::move(changed));
    return compose_sheets(std::move(project));
}

} // namespace vic::join
