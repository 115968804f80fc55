// The salt store, seen aslant: what is laid flat is drawn from above and then tilted, what stands up gets sides.
#include <cmath>

#include "sheets.hpp"

namespace pell {

using vic::join::Mask;

namespace {

constexpr int kWide = 32; // of a diamond
constexpr int kHigh = 16;

// A flat picture of kWide × kWide pixels as a diamond, `down` pixels below the picture's upper edge.
void tilt(Image& onto, const Image& flat, int down) {
    for (int y = 0; y < kHigh; ++y)
        for (int x = 0; x < kWide; ++x) {
            const double across = (2.0 * x + 1 - kWide) / kWide;
            const double along = (2.0 * y + 1) / kHigh;
            const double u = (along + across) / 2;
            const double v = (along - across) / 2;
            if (u < 0 || v < 0 || u >= 1 || v >= 1) continue;
            const Rgba c = flat.at(static_cast<int>(u * kWide), static_cast<int>(v * kWide));
            if (c.a > 0) onto.set(x, y + down, c);
        }
}

Image flat_of(const std::function<Rgba(int, int)>& colour) {
    Image flat({kWide, kWide});
    for (int y = 0; y < kWide; ++y)
        for (int x = 0; x < kWide; ++x) flat.set(x, y, colour(x, y));
    return flat;
}

// Planks along the y of the lattice, with a dark edge where the floor ends.
Image floor_tile(Mask mask, int seed) {
    Image tile({kWide, kHigh});
    tilt(tile, flat_of([&](int x, int y) {
             const double d = depth_inside(mask, {x / 2, y / 2}, 2);
             if (d < 0.6) return ink::none;
             if (d < 1.6) return ink::dark;
             if (d < 2.6) return ink::umber;
             const int board = x / 8;
             if (x % 8 == 7) return ink::umber;
             const double tone = chance(board, 1, seed);
             if (x % 8 < 2) return tone < 0.5 ? ink::plank : ink::straw;
             if ((y == 7 || y == 24) && x % 8 == 4) return ink::peat;
             if (chance(x / 2, y / 2, seed + 40) < 0.05) return ink::oak;
             return tone < 0.35 ? ink::oak : ink::plank;
         }),
         0);
    return tile;
}

Image yard_tile(int seed) {
    Image tile({kWide, kHigh});
    tilt(tile, flat_of([&](int x, int y) {
             const double c = chance(x / 2, y / 2, seed);
             if (c < 0.04) return ink::clay_deep;
             if (c < 0.13) return ink::clay_wet;
             if (c > 0.97) return ink::salt_shade;
             return c > 0.88 ? ink::clay_dry : ink::clay;
         }),
         0);
    return tile;
}

// A box of `high` pixels: its top, the side that looks left and the darker one that looks right.
Image block_tile(int high, const std::function<Rgba(int, int)>& top, const std::function<Rgba(int, int)>& left,
                 const std::function<Rgba(int, int)>& right) {
    Image tile({kWide, kHigh + high});
    for (int x = 0; x < kWide; ++x) {
        const int from = kHigh / 2 + (x < kWide / 2 ? x / 2 : (kWide - 1 - x) / 2); // where the top ends
        for (int y = from; y < from + high; ++y)
            tile.set(x, y, x < kWide / 2 ? left(x, y - from) : right(x - kWide / 2, y - from));
    }
    tilt(tile, flat_of(top), 0);
    return tile;
}

Image wall_tile(int seed) {
    const auto bricks = [seed](const std::array<Rgba, 3>& b, Rgba joint) {
        return [b, joint, seed](int x, int y) { return brick_at(x, y, seed, b, joint); };
    };
    return block_tile(
        20,
        [](int x, int y) {
            return x % 16 == 15 || y % 16 == 15 ? ink::stone_dark : (x + y) % 7 == 0 ? ink::stone : ink::stone_light;
        },
        bricks({ink::brick, ink::brick_light, ink::brick}, ink::mortar),
        bricks({ink::brick_dark, ink::brick, ink::brick_dark}, ink::joint));
}

// Salt, heaped: a cone on the diamond.
Image heap_tile(int seed, int high) {
    Image tile({kWide, kHigh + 20});
    const int foot = tile.height() - kHigh / 2;
    for (int y = 0; y < tile.height(); ++y)
        for (int x = 0; x < kWide; ++x) {
            const double across = std::abs(2.0 * x + 1 - kWide) / (kWide - 2);
            // The outline: a rounded cone that stands on the lower half of an ellipse.
            const double up = (foot - y) / double(high);
            const bool in_foot = across * across + std::pow((y - foot) / (kHigh * 0.46), 2) <= 1 && y >= foot;
            if (!in_foot && (up < 0 || up > 1 || across > 1 - std::pow(up, 0.85))) continue;
            const double light = (kWide / 2.0 - x) / kWide + up * 0.5 + chance(x, y, seed) * 0.25;
            tile.set(x, y, light > 0.42 ? ink::salt : light > 0.05 ? ink::salt_shade : ink::salt_deep);
        }
    return tile;
}

Image crate_tile(int seed) {
    const auto side = [seed](Rgba board, Rgba seam) {
        return [board, seam, seed](int x, int y) {
            if (x == 0 || x == kWide / 2 - 1 || y == 0 || y == 13) return ink::umber;
            return y % 5 == 4 ? seam : chance(x, y, seed) < 0.07 ? ink::peat : board;
        };
    };
    return block_tile(
        14,
        [](int x, int y) {
            return x < 2 || y < 2 || x > 29 || y > 29 ? ink::umber : x % 8 == 7 ? ink::oak : ink::straw;
        },
        side(ink::plank, ink::oak), side(ink::oak, ink::umber));
}

// All of one height, so that they lie on one sheet; what is lower stands at its lower edge.
Image standing(const Image& tile) {
    Image out({kWide, kHigh + 20});
    paste(out, tile, {0, out.height() - tile.height()});
    return out;
}

} // namespace

Image store_floor_sheet() {
    std::vector<Image> tiles;
    int seed = 1;
    for (const Mask m : vic::join::cases(vic::level::JoinKind::full)) tiles.push_back(floor_tile(m, seed++));
    tiles.push_back(floor_tile(255, seed++));
    return sheet_of(tiles, 8, 0, 0, ink::none);
}

Image yard_sheet() {
    std::vector<Image> tiles;
    for (int seed = 900; seed < 904; ++seed) tiles.push_back(yard_tile(seed));
    return sheet_of(tiles, 4, 0, 0, ink::none);
}

Image store_sheet() {
    return sheet_of({standing(wall_tile(61)), standing(wall_tile(62)), standing(heap_tile(71, 26)),
                     standing(heap_tile(72, 20)), standing(crate_tile(81)), standing(crate_tile(82))},
                    6, 0, 0, ink::none);
}

} // namespace pell
