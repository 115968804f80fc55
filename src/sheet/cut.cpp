#include "sheet/cut.hpp"

#include <cassert>
#include <map>
#include <numeric>

#include "sheet/inspect.hpp"

namespace vic::sheet {

std::optional<Text> cut_trouble(const level::Cut& cut, Size image) {
    if (cut.tile.w < 1 || cut.tile.h < 1) return Text("A tile is at least 1 × 1 pixel");
    if (cut.margin.x < 0 || cut.margin.y < 0) return Text("The margin cannot be negative");
    if (cut.spacing.x < 0 || cut.spacing.y < 0) return Text("The spacing cannot be negative");
    if (cut.count.w < 0 || cut.count.h < 0) return Text("The number of columns and rows cannot be negative");
    if (cut.scale < 1) return Text("The scale is a whole number of at least 1");
    if (cut.tile.w % cut.scale != 0 || cut.tile.h % cut.scale != 0)
        return say("The scale %1 does not divide the tile size", cut.scale);
    if (std::int64_t{cut.margin.x} + cut.tile.w > image.w || std::int64_t{cut.margin.y} + cut.tile.h > image.h)
        return say("A tile of %1 × %2 pixels does not fit into the picture of %3 × %4", cut.tile.w, cut.tile.h, image.w,
                   image.h);
    const Size count = columns_rows(cut, image);
    if (count.area() > 1 << 20) return Text("The cut would make more than a million tiles");
    return std::nullopt;
}

Size columns_rows(const level::Cut& cut, Size image) {
    const Size most{(image.w - cut.margin.x + cut.spacing.x) / (cut.tile.w + cut.spacing.x),
                    (image.h - cut.margin.y + cut.spacing.y) / (cut.tile.h + cut.spacing.y)};
    return {cut.count.w > 0 ? std::min(cut.count.w, most.w) : most.w,
            cut.count.h > 0 ? std::min(cut.count.h, most.h) : most.h};
}

std::vector<Box> cut_boxes(const level::Cut& cut, Size image) {
    const Size count = columns_rows(cut, image);
    std::vector<Box> boxes;
    boxes.reserve(static_cast<std::size_t>(count.area()));
    for (int row = 0; row < count.h; ++row)
        for (int column = 0; column < count.w; ++column)
            boxes.push_back({cut.margin.x + column * (cut.tile.w + cut.spacing.x),
                             cut.margin.y + row * (cut.tile.h + cut.spacing.y), cut.tile.w, cut.tile.h});
    return boxes;
}

Fit fit_of(Size drawn, Size cell) {
    if (drawn == cell) return {};
    const Size up{cell.w / drawn.w, cell.h / drawn.h};
    if (cell.w % drawn.w == 0 && cell.h % drawn.h == 0 && up.w == up.h) return {Fit::Kind::enlarged, up};
    if (drawn.w % cell.w == 0 && drawn.h % cell.h == 0) return {Fit::Kind::cells, {drawn.w / cell.w, drawn.h / cell.h}};
    const int across = std::gcd(drawn.w, cell.w);
    const int along = std::gcd(drawn.h, cell.h);
    return {Fit::Kind::uneven,
            {1, 1},
            {cell.w / across, cell.h / along},
            {drawn.w / across, drawn.h / along},
            std::min(up.w, up.h)};
}

Honest honest_in(Size art, Size place) {
    Honest out;
    if (art.empty() || place.empty()) return out;
    out.is = place.w % art.w == 0 && place.h % art.h == 0;
    const int less = std::min(place.w / art.w, place.h / art.h);
    const int more = std::max((place.w + art.w - 1) / art.w, (place.h + art.h - 1) / art.h);
    if (less > 0) out.below = {art.w * less, art.h * less};
    out.above = {art.w * more, art.h * more};
    return out;
}

level::Sheet recut(const level::Sheet& sheet, const level::Cut& cut, std::uint32_t& next_tile) {
    assert(sheet.image && !cut_trouble(cut, sheet.image->size()));
    std::map<Box, level::Tile> known, blocks; // a block of one column may have the box that a larger tile once had
    for (const auto& tile : sheet.retired) (tile.is_block() ? blocks : known).emplace(tile.box, tile);
    for (const auto& tile : sheet.tiles) (tile.is_block() ? blocks : known).insert_or_assign(tile.box, tile);

    level::Sheet out = sheet;
    out.cut = cut;
    out.tiles.clear();
    out.retired.clear();
    const auto gaps = gap_colour(*sheet.image, cut);
    for (const Box& box : cut_boxes(cut, sheet.image->size())) {
        level::Tile tile;
        if (const auto old = known.find(box); old != known.end()) {
            tile = old->second;
            known.erase(old);
        } else {
            tile.id = next_tile++;
            tile.box = box;
        }
        tile.blank = is_blank(*sheet.image, box, gaps);
        out.tiles.push_back(std::move(tile));
    }
    for (auto& [box, tile] : blocks) {
        const Box cells = block_cells(cut, sheet.image->size(), box);
        if (cells.size() == tile.block.cells) {
            tile.blank = false;
            out.tiles.push_back(std::move(tile));
        } else {
            out.retired.push_back(std::move(tile));
        }
    }
    for (auto& [box, tile] : known) out.retired.push_back(std::move(tile));
    return out;
}

std::size_t lattice_tiles(const level::Sheet& sheet) {
    std::size_t n = sheet.tiles.size();
    while (n > 0 && sheet.tiles[n - 1].is_block()) --n;
    return n;
}

Box block_box(const level::Cut& cut, Size image, const Box& cells) {
    const Size all = columns_rows(cut, image);
    if (cells.empty() || !box_of(all).contains(cells)) return {};
    const int dx = cut.tile.w + cut.spacing.x, dy = cut.tile.h + cut.spacing.y;
    return {cut.margin.x + cells.x * dx, cut.margin.y + cells.y * dy, cells.w * dx - cut.spacing.x,
            cells.h * dy - cut.spacing.y};
}

Box block_cells(const level::Cut& cut, Size image, const Box& box) {
    const int dx = cut.tile.w + cut.spacing.x, dy = cut.tile.h + cut.spacing.y;
    const Box cells{floor_div(box.x - cut.margin.x, dx), floor_div(box.y - cut.margin.y, dy),
                    (box.w + cut.spacing.x) / dx, (box.h + cut.spacing.y) / dy};
    return block_box(cut, image, cells) == box ? cells : Box{};
}

level::Sheet add_block(const level::Sheet& sheet, const Box& cells, std::uint32_t& next_tile) {
    level::Sheet out = sheet;
    level::Tile tile;
    tile.id = next_tile++;
    tile.box = block_box(sheet.cut, sheet.image->size(), cells);
    assert(!tile.box.empty() && cells.size().area() != 1);
    tile.block = {cells.size(), {(cells.w - 1) / 2, cells.h - 1}, {}, cells.h - 1};
    tile.turns = level::kMirrorOnly;
    out.tiles.push_back(std::move(tile));
    return out;
}

Image tile_art(const level::Sheet& sheet, const level::Tile& tile) {
    if (!sheet.image) return {};
    if (tile.is_block()) {
        const level::Cut& cut = sheet.cut;
        Image art({tile.block.cells.w * cut.tile.w, tile.block.cells.h * cut.tile.h});
        for (int y = 0; y < art.height(); ++y)
            for (int x = 0; x < art.width(); ++x) {
                const Point from{tile.box.x + x + x / cut.tile.w * cut.spacing.x,
                                 tile.box.y + y + y / cut.tile.h * cut.spacing.y};
                if (box_of(sheet.image->size()).contains(from)) art.set(x, y, sheet.image->at(from.x, from.y));
            }
        return cut.scale == 1 ? art : resampled(art, {art.width() / cut.scale, art.height() / cut.scale});
    }
    const Image art = cropped(*sheet.image, tile.box);
    return sheet.cut.scale == 1
               ? art
               : resampled(art, {std::max(1, tile.box.w / sheet.cut.scale), std::max(1, tile.box.h / sheet.cut.scale)});
}

} // namespace vic::sheet
