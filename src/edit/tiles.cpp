#include "edit/tiles.hpp"

#include <algorithm>
#include <cassert>

#include "edit/sheets.hpp"

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

Block fitted(const Block& block) {
    Block b = block;
    b.pivot = {std::clamp(b.pivot.x, 0, b.cells.w - 1), std::clamp(b.pivot.y, 0, b.cells.h - 1)};
    b.offset = {std::clamp(b.offset.x, -64, 64), std::clamp(b.offset.y, -64, 64)};
    b.stands = std::clamp(b.stands, 0, b.cells.h - 1);
    return b;
}

} // namespace vic::edit
