#include <cmath>

#include "sheets.hpp"

namespace pell {

using vic::join::Mask;

namespace {

// The 47 cases, then `more` further tiles of the last one. paint(mask, seed) draws one.
std::vector<Image> full_set(int more, const std::function<Image(Mask, int)>& paint) {
    std::vector<Image> tiles;
    int seed = 1;
    for (const Mask m : vic::join::cases(vic::level::JoinKind::full)) tiles.push_back(paint(m, seed++));
    for (int i = 0; i < more; ++i) tiles.push_back(paint(255, seed++));
    return tiles;
}

Image each_pixel(const std::function<Rgba(int, int)>& colour) {
    Image tile({kTile, kTile});
    for (int y = 0; y < kTile; ++y)
        for (int x = 0; x < kTile; ++x) tile.set(x, y, colour(x, y));
    return tile;
}

// Short strokes that stay inside the tile, so that any two tiles may stand side by side.
void ripples(Image& tile, int seed, Rgba light, Rgba pale, double least_depth, Mask mask) {
    const int count = static_cast<int>(0.6 + chance(1, 2, seed) * 3.2);
    for (int i = 0; i < count; ++i) {
        const int x = 2 + static_cast<int>(chance(i, 3, seed) * 7);
        const int y = 2 + static_cast<int>(chance(i, 4, seed) * 12);
        const int length = 3 + static_cast<int>(chance(i, 5, seed) * 5);
        for (int k = 0; k < length; ++k) {
            const Point p{x + k, y + (k == 0 || k == length - 1 ? 0 : -1)};
            if (p.x > 13 || p.y < 1 || depth_inside(mask, p, 5) < least_depth) continue;
            tile.set(p.x, p.y, k == length / 2 ? pale : light);
        }
    }
}

Rgba speckled_clay(int x, int y, int seed) {
    const double c = chance(x, y, seed);
    if (c < 0.035) return ink::clay_deep;
    if (c < 0.11) return ink::clay_wet;
    if (c > 0.972) return ink::clay_pale;
    if (c > 0.88) return ink::clay_dry;
    return ink::clay;
}

Image clay_tile(Mask mask, int seed) {
    Image tile = each_pixel([&](int x, int y) {
        const double d = depth_inside(mask, {x, y}, 6) - 0.4 - chance(x, y, seed + 500) * 0.5;
        if (d < 0.3) return ink::none;
        if (d < 1.3) return ink::peat;
        if (d < 2.6) return ink::clay_deep;
        if (d < 4.2) return chance(x, y, seed) < 0.75 ? ink::clay_wet : ink::clay;
        return speckled_clay(x, y, seed);
    });
    if (mask != 255) return tile;
    // A few pebbles, a crack or a tuft: each on some tiles only.
    const double kind = chance(9, 9, seed);
    const int x = 3 + static_cast<int>(chance(7, 1, seed) * 8);
    const int y = 3 + static_cast<int>(chance(7, 2, seed) * 8);
    if (kind < 0.25) {
        fill(tile, {x, y, 2, 1}, ink::clay_pale);
        fill(tile, {x, y + 1, 2, 1}, ink::clay_deep);
    } else if (kind < 0.4) {
        line(tile, {x, y}, {x + 3, y + 1}, ink::clay_deep);
        line(tile, {x + 3, y + 1}, {x + 4, y + 3}, ink::clay_deep);
    } else if (kind < 0.5) {
        line(tile, {x, y}, {x, y + 2}, ink::moss);
        line(tile, {x + 2, y + 1}, {x + 2, y + 2}, ink::reed);
    }
    return tile;
}

Image brine_tile(Mask mask, int seed) {
    Image tile = each_pixel([&](int x, int y) {
        const double d = depth_inside(mask, {x, y}, 5);
        const double c = chance(x, y, seed);
        if (d < 2.0) return d < 1.0 || c < 0.2 ? ink::umber : ink::peat;
        if (d < 3.0) return c < 0.15 ? ink::salt_shade : ink::salt;
        if (d < 4.0) return c < 0.35 ? ink::salt : ink::brine_pale;
        if (d < 5.6) return c < 0.12 ? ink::brine_pale : ink::brine_light;
        if (d < 6.8) return c < 0.5 ? ink::brine_light : ink::brine;
        return c < 0.04 ? ink::brine_deep : ink::brine;
    });
    ripples(tile, seed, ink::brine_light, ink::brine_pale, 7.0, mask);
    if (chance(4, 4, seed) < 0.45) ripples(tile, seed + 900, ink::brine_deep, ink::brine_light, 7.0, mask);
    // Salt that floats up: single bright pixels.
    for (int i = 0; i < 2; ++i) {
        const Point p{1 + static_cast<int>(chance(i, 8, seed) * 14), 1 + static_cast<int>(chance(i, 9, seed) * 14)};
        if (chance(i, 10, seed) < 0.45 && depth_inside(mask, p, 5) > 6) tile.set(p.x, p.y, ink::salt);
    }
    return tile;
}

Image creek_tile(Mask mask, int seed) {
    Image tile = each_pixel([&](int x, int y) {
        const double d = depth_inside(mask, {x, y}, 6);
        const double c = chance(x, y, seed);
        if (d < 1.2) return ink::moss_deep;
        if (d < 2.4) return c < 0.3 ? ink::moss : ink::peat;
        if (d < 3.4) return c < 0.4 ? ink::creek_pale : ink::creek_light;
        if (d < 5.2) return c < 0.25 ? ink::creek : ink::creek_light;
        if (d < 8.0) return c < 0.12 ? ink::creek_light : ink::creek;
        return c < 0.10 ? ink::creek_deep : ink::creek;
    });
    ripples(tile, seed, ink::creek_light, ink::creek_pale, 6.0, mask);
    return tile;
}

Image marsh_tile(Mask mask, int seed) {
    Image tile = each_pixel([&](int x, int y) {
        const double c = chance(x, y, seed);
        const double d = depth_inside(mask, {x, y}, 7) - 0.9 - chance(x, y, seed + 300) * 1.5;
        if (d < 0.4) return ink::none;
        if (d < 1.8) return ink::moss_dark;
        if (c < 0.16) return ink::moss_deep;
        if (c < 0.24) return ink::reed;
        return ink::moss;
    });
    const int tufts = static_cast<int>(chance(3, 3, seed) * 4);
    for (int i = 0; i < tufts; ++i) {
        const int x = 2 + static_cast<int>(chance(i, 11, seed) * 11);
        const int y = 4 + static_cast<int>(chance(i, 12, seed) * 10);
        if (depth_inside(mask, {x, y}, 7) < 4) continue;
        line(tile, {x, y - 3}, {x, y}, ink::reed);
        line(tile, {x + 1, y - 2}, {x + 1, y}, ink::reed_pale);
        tile.put(x - 1, y, ink::moss_deep);
    }
    return tile;
}

// Planks lie across the way: level where it goes on north and south and is open to a side, upright elsewhere.
Image boardwalk_tile(Mask mask, int seed) {
    using namespace vic::join;
    const bool upright = !((mask & kN) && (mask & kS)) || ((mask & kE) && (mask & kW));
    return each_pixel([&](int x, int y) {
        const double d = depth_inside(mask, {x, y}, 1.5);
        if (d < 1.0) return ink::dark;
        if (d < 2.0) return ink::umber;
        if (d < 3.0) return ink::oak;
        const int across = upright ? x : y;
        const int along = upright ? y : x;
        const int board = across / 4;
        if (across % 4 == 3) return ink::umber;
        const double tone = chance(board, upright ? 1 : 2, seed);
        if (across % 4 == 0) return tone < 0.5 ? ink::plank : ink::straw;
        if ((along == 3 || along == 12) && across % 4 == 1) return ink::peat; // nails
        if (chance(x, y, seed + 40) < 0.05) return ink::oak;
        return tone < 0.35 ? ink::oak : ink::plank;
    });
}

constexpr std::array<Rgba, 3> kBricks{ink::brick, ink::brick, ink::brick_light};
constexpr std::array<Rgba, 3> kDeepBricks{ink::brick_deep, ink::brick_deep, ink::brick_dark};

Rgba brick_colour(int x, int y, double d, int seed) {
    const bool deep = d > 4.0;
    return brick_at(x, y, seed, deep ? kDeepBricks : kBricks, deep ? ink::joint : ink::mortar);
}

// Coping stones: 8 pixels long, with a lit upper edge.
Rgba coping(int along, int down) {
    if (along % 8 == 7) return ink::stone_dark;
    return down < 1 ? ink::stone_light : down < 3 ? ink::stone : ink::stone_dark;
}

Image brick_tile(Mask mask, int seed) {
    using namespace vic::join;
    return each_pixel([&](int x, int y) {
        const double d = depth_inside(mask, {x, y}, 1.0);
        if (!(mask & kN) && y < 4) return y == 0 ? ink::stone_light : coping(x, y);
        // The coping of a neighbour that is open above turns the inner corner.
        const bool notch_w = (mask & kN) && (mask & kW) && !(mask & kNW) && x < 2 && y < 4;
        const bool notch_e = (mask & kN) && (mask & kE) && !(mask & kNE) && x > 13 && y < 4;
        if (notch_w || notch_e) return y == 0 ? ink::stone_light : ink::stone_dark;
        if (d < 1.0) return ink::dark;
        if (d < 2.0) return ink::brick_light;
        return brick_colour(x, y, d, seed);
    });
}

// `inside(x, y)` is the distance from the slanted face in pixels, negative outside.
Image slope_tile(const std::function<double(int, int)>& inside, bool floor, int seed) {
    return each_pixel([&](int x, int y) {
        const double d = inside(x, y);
        if (d < 0) return ink::none;
        if (floor && d < 3.2)
            return d < 1.0 ? ink::stone_light : (x % 8 == 7 ? ink::stone_dark : d < 2.2 ? ink::stone : ink::stone_dark);
        if (d < 1.0) return ink::dark;
        if (d < 2.0) return ink::brick_light;
        return brick_colour(x, y, d, seed);
    });
}

} // namespace

Image clay_sheet() { return sheet_of(full_set(9, clay_tile), 8, 0, 0, ink::none); }
Image brine_sheet() { return sheet_of(full_set(7, brine_tile), 8, 2, 1, ink::none); }
Image marsh_sheet() { return sheet_of(full_set(3, marsh_tile), 10, 0, 0, ink::none); }
Image boardwalk_sheet() { return sheet_of(full_set(1, boardwalk_tile), 8, 0, 0, ink::none); }
Image brick_sheet() { return sheet_of(full_set(7, brick_tile), 9, 1, 2, ink::none); }

Image creek_sheet() {
    auto tiles = full_set(6, creek_tile);
    tiles.push_back(creek_tile(255, 999));
    return sheet_of(tiles, 9, 0, 0, ink::none);
}

Image cellar_wall_sheet() {
    const std::array<Rgba, 3> stones{ink::wall_deep, ink::wall, ink::wall_light};
    std::vector<Image> tiles;
    for (int seed = 0; seed < 8; ++seed) {
        Image tile = each_pixel([&](int x, int y) {
            Rgba c = brick_at(x, y, 700 + seed, {stones[0], stones[1], stones[1]}, stones[0]);
            if (chance(x, y, 720 + seed) < 0.02) c = stones[2];
            return c;
        });
        if (seed == 5) fill(tile, {9, 5, 6, 2}, ink::wall_light);
        if (seed == 6) line(tile, {6, 1}, {7, 9}, ink::moss_deep);
        tiles.push_back(tile);
    }
    return sheet_of(tiles, 4, 0, 0, ink::none);
}

Image catwalk_sheet() {
    std::vector<Image> tiles;
    for (int seed = 0; seed < 4; ++seed) {
        // A grating of five pixels, a strut below; the last two end left and right.
        Image tile({kTile, kTile});
        fill(tile, {0, 0, 16, 1}, ink::iron_light);
        fill(tile, {0, 1, 16, 1}, ink::iron);
        for (int x = 0; x < 16; ++x) tile.set(x, 2, x % 4 < 2 ? ink::iron_dark : ink::iron);
        fill(tile, {0, 3, 16, 1}, ink::iron_dark);
        if (seed == 1) {
            line(tile, {2, 4}, {7, 9}, ink::iron_dark);
            line(tile, {13, 4}, {8, 9}, ink::iron_dark);
            fill(tile, {6, 9, 4, 1}, ink::iron);
        }
        if (seed == 2 || seed == 3) {
            const int x = seed == 2 ? 1 : 13;
            fill(tile, {x, 3, 2, 11}, ink::iron_dark);
            fill(tile, {x, 3, 1, 11}, ink::iron);
            fill(tile, {x - 1, 12, 4, 2}, ink::rust);
        }
        tiles.push_back(tile);
    }
    return sheet_of(tiles, 4, 0, 0, ink::none);
}

Image slope_sheet() {
    const double unit = std::sqrt(0.5);
    std::vector<Image> tiles;
    tiles.push_back(slope_tile([&](int x, int y) { return (x - y) * unit; }, false, 31));
    tiles.push_back(slope_tile([&](int x, int y) { return (x + y - 15) * unit; }, true, 32));
    tiles.push_back(slope_tile([&](int x, int y) { return (y - x) * unit; }, true, 33));
    tiles.push_back(slope_tile([&](int x, int y) { return (15 - x - y) * unit; }, false, 34));
    return sheet_of(tiles, 4, 0, 0, ink::none);
}

Image water_sheet() {
    std::vector<Image> tiles;
    for (int seed = 0; seed < 6; ++seed) {
        tiles.push_back(each_pixel([&](int x, int y) {
            Rgba c = seed < 2 && y < 3 ? ink::none : ink::brine_deep;
            if (seed < 2 && y == 3) c = ink::brine_pale;
            if (seed < 2 && y == 4) c = chance(x / 2, seed, 5) < 0.5 ? ink::brine_light : ink::brine;
            if (c.a && y > 5 && chance(x / 3, y, 60 + seed) < 0.05) c = ink::brine;
            if (c.a) c.a = seed < 2 && y < 5 ? 230 : 165;
            return c;
        }));
    }
    return sheet_of(tiles, 6, 0, 0, ink::none);
}

Image crust_sheet() {
    Image sheet({6 * kTile, kTile});
    for (int tile = 0; tile < 6; ++tile) {
        // A few blobs, each a little round, so that the ground shows between them.
        struct Blob {
            double x, y, r;
        };
        std::vector<Blob> blobs;
        const int many = tile < 4 ? 2 + tile % 3 : 0;
        for (int i = 0; i < many; ++i)
            blobs.push_back(
                {4 + 8 * chance(i, tile, 901), 4 + 8 * chance(i, tile, 902), 1.6 + 2.4 * chance(i, tile, 903)});
        for (int y = 0; y < kTile; ++y)
            for (int x = 0; x < kTile; ++x) {
                const double c = chance(x, y, 910 + tile);
                Rgba colour = ink::none;
                for (const Blob& b : blobs) {
                    const double d = std::hypot(x - b.x, (y - b.y) * 1.3) + 0.8 * c;
                    if (d < b.r)
                        colour = c > 0.8 ? ink::salt_shade : ink::salt;
                    else if (d < b.r + 0.9 && colour.a == 0)
                        colour = y > b.y ? ink::salt_deep : ink::salt_shade;
                }
                if (tile == 4 && c > 0.93) colour = c > 0.965 ? ink::stone_light : ink::stone;
                if (tile == 5 && (x + 2 * y) % 7 == 0 && c > 0.45) colour = c > 0.75 ? ink::straw : ink::oak;
                sheet.set(tile * kTile + x, y, colour);
            }
    }
    return sheet;
}

Image north_pans_plan() {
    Image plan({32, 32}, ink::clay);
    // Three rows of pans with dykes of clay between them, a creek at the right, marsh beyond it.
    for (int row = 0; row < 3; ++row)
        for (int column = 0; column < 2; ++column) fill(plan, {2 + column * 10, 3 + row * 9, 8, 6}, ink::brine);
    for (int y = 0; y < 32; ++y) {
        const int bank = 24 + static_cast<int>(std::lround(1.6 * std::sin(y / 5.0)));
        fill(plan, {bank, y, 4, 1}, ink::creek);
        fill(plan, {bank + 4, y, 32 - bank - 4, 1}, ink::moss);
    }
    fill(plan, {0, 10, 32, 1}, ink::plank); // the boardwalk, also over the creek
    plan.set(3, 30, ink::vermilion);        // where the walker begins
    return plan;
}

Image silt_backdrop() {
    constexpr int side = 64;
    Image image({side, side});
    for (int y = 0; y < side; ++y)
        for (int x = 0; x < side; ++x) {
            // Periodic ripples of wet silt.
            const double wave = std::sin(2 * M_PI * (y + 2.5 * std::sin(2 * M_PI * x / side)) / 16.0);
            const double c = chance(x, y, 4242);
            Rgba colour = wave > 0.55 ? ink::clay_wet : wave < -0.7 ? ink::peat : ink::clay_deep;
            if (c < 0.03) colour = ink::clay;
            image.set(x, y, colour);
        }
    return image;
}

Image gravel_sheet() {
    return sheet_of(full_set(5,
                             [](Mask mask, int seed) {
                                 return each_pixel([&](int x, int y) {
                                     const double d = depth_inside(mask, {x, y}, 5);
                                     const double c = chance(x, y, seed + 80);
                                     if (d < 1.0) return ink::none;
                                     if (d < 2.0) return ink::stone_dark;
                                     if (c < 0.14) return ink::stone_dark;
                                     return c > 0.72 ? ink::stone_light : ink::stone;
                                 });
                             }),
                    8, 2, 1, ink::none);
}

} // namespace pell
