#include "sheet/what.hpp"

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <iterator>
#include <utility>

#include "sheet/islands.hpp"
#include "sheet/read_cut.hpp"

namespace vic::sheet {

namespace {

constexpr double kClear = 0.4;        // confidence from which on a lattice says tiles
constexpr int kLeastBackdrop = 96;    // pixels a side
constexpr double kFloor = 0.9;        // of the lower rim that is art, where something stands on it
constexpr double kMostGround = 0.002; // of a picture that has no ground
constexpr int kTileSides[] = {8, 10, 12, 16, 20, 24, 32, 40, 48, 64};

struct Rims {
    bool left = false, right = false; // art reaches there
    double floor = 0;                 // share of the lower rim
    double ground = 0;                // share of the picture that is see-through
};

Rims rims_of(const Image& image) {
    Rims out;
    const auto art = [&](int x, int y) { return image.at(x, y).a > 127; };
    for (int y = 0; y < image.height(); ++y) {
        out.left = out.left || art(0, y);
        out.right = out.right || art(image.width() - 1, y);
    }
    std::int64_t floor = 0, ground = 0;
    for (int x = 0; x < image.width(); ++x) floor += art(x, image.height() - 1);
    for (const Rgba c : image.pixels()) ground += c.a == 0;
    out.floor = static_cast<double>(floor) / image.width();
    out.ground = static_cast<double>(ground) / static_cast<double>(image.size().area());
    return out;
}

} // namespace

WhatReading what_is(const Image& image, const SheetReading& reading) {
    WhatReading out;
    out.bounds = box_of(image.size());
    const Rims rims = rims_of(image);
    const bool large = image.width() >= kLeastBackdrop && image.height() >= kLeastBackdrop;
    const bool fills = rims.ground <= kMostGround;
    const bool clear = reading.best && reading.best->confidence >= kClear;
    if (clear && reading.best->columns * reading.best->rows > 1) {
        out.best = {What::tiles, {}};
        if (reading.best->cut.spacing == Point{} && cells_read(reading)) // gaps are between tiles
            out.others.push_back({What::things, "each cell of the lattice holds one thing"});
        if (fills && large) out.others.push_back({What::backdrop, "as it is, behind everything"}); // a wall of bricks
        return out;
    }
    const IslandMap map(image);
    const std::vector<Box> boxes = map.boxes(map.proposed());
    out.things = static_cast<int>(boxes.size());
    if (!boxes.empty()) {
        out.bounds = {};
        for (const Box& b : boxes) out.bounds = united(out.bounds, b);
    }
    const auto add = [&](What what, Text reason) { out.others.push_back({what, std::move(reason)}); };
    const bool stands = rims.left && rims.right && rims.floor >= kFloor;
    const Text one = say("one thing of %1 × %2 px", out.bounds.w, out.bounds.h);
    if (reading.best && reading.best->columns * reading.best->rows == 1) {
        // A picture that was cropped to what stands on it has any size.
        const bool common =
            std::find(std::begin(kTileSides), std::end(kTileSides), reading.best->cut.tile.w) != std::end(kTileSides);
        out.best = {What::tiles, {}};
        add(What::prop, one);
        if (!common && rims.ground > kMostGround) {
            out.best = {What::prop, one};
            out.others.clear();
        }
    } else if (fills && large && out.things <= 1) {
        out.best = {What::backdrop, "it fills its whole picture, and no lattice was found"};
        add(What::prop, one);
    } else if (stands && image.width() >= kLeastBackdrop && 2 * image.width() >= image.height()) {
        out.best = {What::backdrop, "it reaches from rim to rim and stands on the lower one"};
        add(What::prop, one);
    } else if (out.things >= 2) {
        out.best = {What::things, say("%1 things stand apart on a ground", out.things)};
        add(What::prop, say("all of it as one, %1 × %2 px", out.bounds.w, out.bounds.h));
        if (large && image.width() >= 2 * kLeastBackdrop) add(What::backdrop, "as it is, behind everything");
    } else {
        out.best = {What::prop, one};
        if (large) add(What::backdrop, "as it is, behind everything");
    }
    if (out.best.what != What::tiles) add(What::tiles, {});
    return out;
}

} // namespace vic::sheet
