// The size of a layer's cells, told by the level's.
#pragma once

#include "base/geometry.hpp"

namespace vic::level {

inline constexpr int kMostGrain = 8;

struct Grain {
    int finer = 1; // so many of the layer's cells make one of the level's, a side; 1 .. 8
    int wider = 1; // so many of the level's make one of the layer's, a side; 1 .. 8, and 1 where `finer` is not

    // Whether they are other cells than the level's.
    [[nodiscard]] bool own() const { return finer != 1 || wider != 1; }

    // As many as cover a level of that size; the last of wider ones may reach beyond its edges.
    [[nodiscard]] Size cells(Size level) const {
        return {(level.w * finer + wider - 1) / wider, (level.h * finer + wider - 1) / wider};
    }
    // The size of one in pixels, of a level whose cell this is.
    [[nodiscard]] Size cell(Size level) const { return {level.w * wider / finer, level.h * wider / finer}; }
    // The level's cell in which the layer's has its upper left corner.
    [[nodiscard]] Point in_level(Point own) const {
        return {floor_div(own.x * wider, finer), floor_div(own.y * wider, finer)};
    }
    // The level's cells that any of these touch.
    [[nodiscard]] Box in_level(const Box& own) const {
        if (!this->own() || own.empty()) return own;
        if (finer == 1) return {own.x * wider, own.y * wider, own.w * wider, own.h * wider};
        return spanning(in_level(own.corner()), in_level(Point{own.right() - 1, own.bottom() - 1}));
    }
    // The layer's cells that have their upper left corner in these: of boxes that lie side by side no cell is in two.
    [[nodiscard]] Box in_layer(const Box& level) const {
        if (wider == 1) return {level.x * finer, level.y * finer, level.w * finer, level.h * finer};
        const auto first = [&](int at) { return floor_div(at + wider - 1, wider); };
        const Point from{first(level.x), first(level.y)};
        return {from.x, from.y, first(level.right()) - from.x, first(level.bottom()) - from.y};
    }
    // The layer's cells that touch these.
    [[nodiscard]] Box touching(const Box& level) const {
        if (wider == 1 || level.empty()) return in_layer(level);
        return spanning({floor_div(level.x, wider), floor_div(level.y, wider)},
                        {floor_div(level.right() - 1, wider), floor_div(level.bottom() - 1, wider)});
    }
    bool operator==(const Grain&) const = default;
};

} // namespace vic::level
