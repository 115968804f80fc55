// What a picture is, before one asks how it is cut: tiles, loose things, one thing, or something that stands behind
// all.
//
// Own method. A lattice that is read clearly says tiles. Where none is, what stands on the ground (see-through, or one
// plain colour) is counted: one thing is a prop, several are loose things; what fills the picture, or reaches from its
// left rim to its right one and stands on its lower one, as hills do, is a backdrop.
#pragma once

#include <cstdint>
#include <vector>

#include "base/image.hpp"
#include "base/text.hpp"

namespace vic::sheet {

struct SheetReading;

enum class What : std::uint8_t { tiles, things, prop, backdrop };

struct WhatReading {
    struct One {
        What what = What::tiles;
        Text reason; // in words, for the designer; empty of tiles, whose cuts have reasons of their own
    };
    One best;
    std::vector<One> others; // what it may be besides, the likeliest first
    Box bounds;              // of all that is no ground, in pixels; specks are passed over
    int things = 0;          // islands, where they were counted
};

// `reading`: how the picture is cut, as far as that could be read.
WhatReading what_is(const Image& image, const SheetReading& reading);

} // namespace vic::sheet
