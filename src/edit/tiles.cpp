#include "edit/tiles.hpp"

#include <algorithm>
#include <cassert>
#include <map>
#include <optional>
#include <utility>
#include <vector>

#include "edit/sheets.hpp"
#include "join/mask.hpp"

namespace vic::edit {

using namespace level;

Project animate(Project project, const std::vector<TileId>& tiles, int ms) {
    assert(!tiles.empty());
    return change_tiles(std::move(project), {tiles.front()}, [&](Tile& t) {
        t.frames.clear();
        for (const TileId id : tiles)
            if (t.frames.size() < kMostFrames) t.frames.push_back({id, ms});
    });
}

Project time_frames(Project project, TileId tile, const std::set<int>& places, int ms) {
    return change_tiles(std::move(project), {tile}, [&](Tile& t) {
        for (std::size_t i = 0; i < t.frames.size(); ++i)
            if (places.empty() || places.contains(static_cast<int>(i))) t.frames[i].ms = ms;
    });
}

namespace {

// The row of each of its tiles, were it to stand up by so many.
std::map<TileId, int> rows_of(const Material& material, int rows) {
    std::map<TileId, int> out;
    const auto add = [&](const Cases& cases) {
        for (const auto& [mask, variants] : cases) {
            const bool corners = material.joins.kind == JoinKind::corners;
            const bool goes_on = material.joins.kind != JoinKind::plain &&
                                 (corners ? (mask & join::kSE) && (mask & join::kSW) : (mask & join::kS) != 0);
            const int row = rows >= 2 && goes_on ? 2 : std::min(rows, 1);
            for (const Variant& v : variants) {
                const auto [found, fresh] = out.try_emplace(v.tile, row);
                if (!fresh) found->second = std::min(found->second, row); // open once is open
            }
        }
    };
    add(material.joins.cases);
    for (const auto& [other, cases] : material.joins.pairs) add(cases);
    return out;
}

} // namespace

Project stand_up(Project project, MaterialId material, int rows) {
    const Material* m = project.material(material);
    assert(m);
    const auto wanted = rows_of(*m, rows);
    std::vector<TileId> tiles;
    for (const auto& [tile, row] : wanted) tiles.push_back(tile);
    return change_tiles(std::move(project), tiles, [&](Tile& t) { t.rise = wanted.at(t.id); });
}

std::optional<int> stands_up(const Project& project, MaterialId material) {
    const Material* m = project.material(material);
    if (!m) return std::nullopt;
    const TileTable table(project);
    for (int rows = 0; rows <= 2; ++rows) {
        const auto wanted = rows_of(*m, rows);
        const bool so = std::all_of(wanted.begin(), wanted.end(), [&](const auto& w) {
            const TileRef ref = table.find(w.first);
            return !ref.tile || ref.tile->rise == w.second;
        });
        if (so) return rows;
    }
    return std::nullopt;
}

Block fitted(const Block& block) {
    Block b = block;
    b.pivot = {std::clamp(b.pivot.x, 0, b.cells.w - 1), std::clamp(b.pivot.y, 0, b.cells.h - 1)};
    b.offset = {std::clamp(b.offset.x, -64, 64), std::clamp(b.offset.y, -64, 64)};
    b.stands = std::clamp(b.stands, 0, b.cells.h - 1);
    return b;
}

} // namespace vic::edit
