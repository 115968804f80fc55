// Reading a plan: the colours of a small picture, one pixel a cell, and which of them each cell means.
#pragma once

#include <cstdint>
#include <string>
#include <vector>

#include "base/image.hpp"
#include "level/plan.hpp"

namespace vic::plan {

struct Colour {
    Rgba colour;
    std::int64_t count = 0; // pixels
};

// How far two colours are apart: the Euclidean distance over red, green, blue in steps of sRGB, 0 .. 441. What is
// see-through is one colour, far from all others.
int distance(Rgba a, Rgba b);

// The colours of the picture that mean something, the most frequent first, with the pixels that are theirs. Colours
// nearer than `gather` to a more frequent one are that one (the noise of compression); a rarer colour that lies between
// two others wherever it occurs is the smoothed edge between them. At most kMostPlanKeys.
std::vector<Colour> colours(const Image& picture, int gather);

// For each pixel the index of its colour among `keys`, kNoKey where none fits. Without `snap` only the very colour
// counts; with it also one nearer than `gather`, and a mixture of two keys beside it is the nearer of these; what
// noise or compression moved further is the key that is clearly the nearest, neighbours counted.
std::vector<std::uint8_t> assigned(const Image& picture, const std::vector<Rgba>& keys, int gather, bool snap = true);

// The picture as the level shows it: turned upside down for one that is drawn bottom up.
Image upright(const Image& picture, bool bottom_up);

// The picture of a plan: throws InputError for one that is no PNG or larger than kMostPlan a side.
Image read_picture(const std::string& bytes, const std::string& file);

} // namespace vic::plan
