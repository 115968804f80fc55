#include <cmath>

#include "sheets.hpp"

namespace pell {

namespace {

Image windpump() {
    Image image({58, 72});
    // A tapered tower of brick, lit from the left.
    polygon(image, {{22, 28}, {36, 28}, {41, 68}, {17, 68}}, [](int x, int y) {
        const double middle = 29.0;
        const double half = 7.0 + (y - 28) * 5.0 / 40.0;
        const double side = (x - middle) / half;
        const bool joint = y % 4 == 3 || (x + (y / 4 % 2) * 3) % 7 == 0;
        if (side > 0.45) return joint ? ink::brick_deep : ink::brick_dark;
        if (side < -0.55) return joint ? ink::brick : ink::brick_light;
        return joint ? ink::brick_dark : chance(x / 4, y / 4, 3) < 0.3 ? ink::mortar : ink::brick;
    });
    fill(image, {26, 58, 6, 10}, ink::umber);
    fill(image, {27, 59, 2, 9}, ink::oak);
    fill(image, {26, 40, 4, 5}, ink::dark);
    fill(image, {26, 40, 4, 1}, ink::stone_light);
    polygon(image, {{29, 17}, {40, 29}, {18, 29}}, [](int x, int) { return x < 28 ? ink::plank : ink::oak; });
    // Four sails of laths and cloth.
    const Point hub{29, 24};
    for (int i = 0; i < 4; ++i) {
        const double a = M_PI / 4 + i * M_PI / 2 + 0.18;
        const double cx = std::cos(a), cy = std::sin(a);
        for (int r = 7; r < 27; ++r)
            for (int w = 0; w < 6; ++w) {
                const int x = static_cast<int>(std::lround(hub.x + cx * r - cy * w));
                const int y = static_cast<int>(std::lround(hub.y + cy * r + cx * w));
                image.put(x, y, r % 5 == 0 || w == 5 ? ink::straw : ink::salt);
            }
        line(image, hub,
             {static_cast<int>(std::lround(hub.x + cx * 27)), static_cast<int>(std::lround(hub.y + cy * 27))},
             ink::umber, 2);
    }
    disc(image, hub, 2, [](int, int) { return ink::dark; });
    outline(image, ink::dark);
    return image;
}

Image salt_heap(int width, int height, int seed) {
    Image image({width + 2, height + 2});
    polygon(image, {{width / 2 + 1, 1}, {width, height}, {width - 1, height + 1}, {2, height + 1}, {1, height}},
            [&](int x, int y) {
                const double edge = width / 2.0 + 1 + (y - 1) * 0.22 + (chance(0, y / 2, seed) - 0.5) * 3;
                if (x > edge) return chance(x, y, seed) < 0.2 ? ink::salt_deep : ink::salt_shade;
                return chance(x, y, seed) < 0.12 ? ink::salt_shade : ink::salt;
            });
    outline(image, ink::peat);
    return image;
}

Image reeds(int blades, int seed) {
    Image image({15, 18});
    for (int i = 0; i < blades; ++i) {
        const int x = 2 + i * 11 / std::max(1, blades - 1);
        const int top = 2 + static_cast<int>(chance(i, 1, seed) * 7);
        const int lean = static_cast<int>(chance(i, 2, seed) * 3) - 1;
        line(image, {x + lean, top}, {x, 16}, i % 3 == 0 ? ink::moss_deep : i % 3 == 1 ? ink::moss : ink::reed);
        if (chance(i, 3, seed) < 0.4)
            fill(image, {x + lean, top - 1, 1, 3}, ink::oak);
        else
            image.put(x + lean, top, ink::reed_pale);
    }
    return image;
}

Image sluice() {
    Image image({34, 26});
    fill(image, {2, 2, 4, 23}, ink::oak);
    fill(image, {28, 2, 4, 23}, ink::oak);
    fill(image, {2, 2, 1, 23}, ink::straw);
    fill(image, {28, 2, 1, 23}, ink::straw);
    fill(image, {1, 4, 32, 3}, ink::plank);
    fill(image, {1, 4, 32, 1}, ink::straw);
    for (int y = 9; y < 24; ++y)
        fill(image, {6, y, 22, 1}, y % 4 == 0 ? ink::umber : chance(0, y / 4, 2) < 0.5 ? ink::oak : ink::peat);
    fill(image, {16, 1, 2, 22}, ink::iron_dark);
    disc(image, {17, 5}, 3, [](int x, int y) { return (x + y) % 2 ? ink::iron : ink::iron_light; });
    outline(image, ink::dark);
    return image;
}

Image crate() {
    Image image({18, 17});
    fill(image, {1, 1, 16, 15}, ink::plank);
    fill(image, {1, 1, 16, 4}, ink::straw);
    for (int x = 1; x < 17; x += 4) fill(image, {x, 5, 1, 11}, ink::oak);
    line(image, {2, 6}, {15, 14}, ink::umber);
    fill(image, {1, 5, 16, 1}, ink::umber);
    outline(image, ink::dark);
    return image;
}

Image barrel() {
    Image image({14, 19});
    for (int y = 1; y < 18; ++y) {
        const int inset = y < 3 || y > 15 ? 1 : 0;
        for (int x = 1 + inset; x < 13 - inset; ++x)
            image.set(x, y,
                      y == 5 || y == 13 ? ink::iron
                      : x < 4           ? ink::straw
                      : x > 9           ? ink::umber
                      : x % 3 == 0      ? ink::oak
                                        : ink::plank);
    }
    fill(image, {3, 1, 8, 2}, ink::peat);
    outline(image, ink::dark);
    return image;
}

Image post() {
    Image image({8, 22});
    fill(image, {2, 2, 4, 19}, ink::oak);
    fill(image, {2, 2, 1, 19}, ink::straw);
    fill(image, {5, 2, 1, 19}, ink::umber);
    fill(image, {1, 6, 6, 2}, ink::salt_shade);
    outline(image, ink::dark);
    return image;
}

Image gull() {
    Image image({15, 11});
    line(image, {2, 3}, {6, 6}, ink::salt, 2);
    line(image, {12, 2}, {8, 6}, ink::salt, 2);
    disc(image, {7, 7}, 2, [](int, int y) { return y < 8 ? ink::salt : ink::salt_shade; });
    fill(image, {1, 2, 2, 1}, ink::dark);
    fill(image, {12, 1, 2, 1}, ink::dark);
    fill(image, {9, 8, 2, 1}, ink::lamp);
    outline(image, ink::salt_deep);
    return image;
}

Image pump() {
    Image image({50, 50});
    fill(image, {4, 40, 42, 9}, ink::stone);
    fill(image, {4, 40, 42, 1}, ink::stone_light);
    fill(image, {10, 16, 12, 24}, ink::iron);
    fill(image, {10, 16, 3, 24}, ink::iron_light);
    fill(image, {19, 16, 3, 24}, ink::iron_dark);
    for (int y = 20; y < 40; y += 8) fill(image, {9, y, 14, 2}, ink::rust);
    fill(image, {12, 8, 8, 8}, ink::iron_dark);
    const Point hub{36, 26};
    disc(image, hub, 11, [&](int x, int y) {
        const int dx = x - hub.x, dy = y - hub.y;
        const int r = dx * dx + dy * dy;
        if (r > 78) return dx < 0 ? ink::iron_light : ink::iron;
        return std::abs(dx) < 1 || std::abs(dy) < 1 || std::abs(dx - dy) < 1 || std::abs(dx + dy) < 1 || r < 9
                   ? ink::rust
                   : ink::none;
    });
    fill(image, {34, 36, 5, 5}, ink::iron_dark);
    line(image, {16, 9}, {36, 16}, ink::iron_light, 2);
    outline(image, ink::dark);
    return image;
}

Image lamp() {
    Image image({12, 20});
    fill(image, {5, 1, 2, 6}, ink::iron_dark);
    polygon(image, {{3, 7}, {9, 7}, {11, 11}, {1, 11}}, [](int x, int) { return x < 5 ? ink::iron_light : ink::iron; });
    fill(image, {3, 11, 6, 5}, ink::lamp);
    fill(image, {4, 12, 2, 3}, ink::salt);
    fill(image, {4, 16, 4, 1}, ink::rust);
    outline(image, ink::dark);
    return image;
}

Image pipe(int length) {
    Image image({length, 12});
    fill(image, {0, 2, length, 8}, ink::iron);
    fill(image, {0, 2, length, 1}, ink::iron_dark);
    fill(image, {0, 3, length, 2}, ink::iron_light);
    fill(image, {0, 8, length, 2}, ink::iron_dark);
    for (int x = 4; x < length; x += 24) {
        fill(image, {x, 0, 5, 12}, ink::iron_dark);
        fill(image, {x + 1, 1, 3, 10}, ink::rust);
    }
    return image;
}

Image boat() {
    Image image({44, 22});
    polygon(image, {{2, 10}, {8, 4}, {34, 3}, {42, 8}, {36, 18}, {10, 19}}, [](int x, int y) {
        return y > 14 ? ink::umber : (x + y) % 7 == 0 ? ink::peat : ink::oak;
    });
    polygon(image, {{7, 10}, {11, 7}, {32, 6}, {37, 8}, {33, 13}, {12, 14}},
            [](int x, int) { return x % 9 < 2 ? ink::plank : ink::peat; });
    outline(image, ink::dark);
    return image;
}

} // namespace

Image props_sheet(std::vector<PropArt>& props) {
    const std::vector<std::tuple<const char*, Image, bool>> all{
        {"Wind pump", windpump(), true},
        {"Salt heap", salt_heap(40, 26, 1), true},
        {"Small salt heap", salt_heap(24, 16, 2), true},
        {"Reeds", reeds(7, 1), false},
        {"Tall reeds", reeds(9, 2), false},
        {"Few reeds", reeds(4, 3), false},
        {"Sluice", sluice(), true},
        {"Crate", crate(), true},
        {"Barrel", barrel(), true},
        {"Mooring post", post(), true},
        {"Gull", gull(), false},
        {"Boat", boat(), true},
        {"Brine pump", pump(), false},
        {"Lamp", lamp(), false},
        {"Pipe", pipe(96), false},
    };
    Image sheet({256, 160});
    Point at{2, 2};
    int shelf = 0;
    for (const auto& [name, art, blocks] : all) {
        if (at.x + art.width() + 2 > sheet.width()) at = {2, at.y + shelf + 2}, shelf = 0;
        paste(sheet, art, at);
        PropArt is;
        is.name = name;
        is.box = {at.x, at.y, art.width(), art.height()};
        is.blocks = blocks;
        props.push_back(is);
        at.x += art.width() + 2;
        shelf = std::max(shelf, art.height());
    }
    return sheet;
}

} // namespace pell
