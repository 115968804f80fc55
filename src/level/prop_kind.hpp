// A kind of props: a picture cut from a sheet by a box, or several props that are placed and edited as one.
#pragma once

#include <algorithm>
#include <cstdint>
#include <string>
#include <vector>

#include "level/cell.hpp"
#include "level/depth.hpp"
#include "level/notes.hpp"
#include "level/prop.hpp"
#include "level/shape.hpp"
#include "level/sheet.hpp"

namespace vic::level {

// A part of a prop that does not block, and of which the engine is told: where one may sit, what is hot.
// It is one of the project's areas that tell where it has the name of one.
struct PropArea {
    std::string name;
    Box box; // pixels within the kind's box
    bool operator==(const PropArea&) const = default;
};

// One of the props of an ensemble.
struct EnsemblePart {
    PartId id = 0;
    PropKindId kind = 0;
    Point at; // of its pivot, in pixels from the ensemble's
    Look look{};
    std::string name{};
    Notes notes{};
    bool operator==(const EnsemblePart&) const = default;
};
inline constexpr std::size_t kMostPropAreas = 256;
inline constexpr std::size_t kMostParts = 256;
inline constexpr int kMostEnsembleDepth = 8; // ensembles may hold ensembles, so deep
inline constexpr int kMostPropFrames = 64;
inline constexpr int kMostPieces = 4096; // pictures of an ensemble, those of its ensembles counted

struct PropKind {
    PropKindId id = 0;
    std::string name;
    SheetId sheet = 0;
    Box box;                           // pixels of the sheet's image; of an ensemble only its size counts
    Point pivot;                       // pixels within `box`: the point that is placed, and by which props are sorted
    Box foot;                          // pixels within `box`: the ground it stands on
    bool blocks = false;               // whether the walker is stopped by its shape
    int factor = 1;                    // by which its art is enlarged in the level, 1 .. 16
    int piece = 0;                     // pixels: the build cuts its picture into pieces of at most this side; 0: whole
    TileShape shape = TileShape::full; // what of the foot blocks: a shape of tiles stretched over it, no edge
    Polygons polygons{};               // of a drawn shape, in pixels within `box`; empty otherwise
    int height = 0;                    // pixels that it stands up above its foot's lower edge; 0: not told
    std::vector<PropArea> areas{};
    std::vector<std::string> tags{}; // sorted, no two the same, none empty
    Notes notes{};
    PropKindId variant_of = 0; // the kind that it may stand in for when that is placed; 0: none
    int chance = 100;          // how often it is chosen among the variants, 0 .. 1000
    bool lit = false;          // whether light is painted in: it is not turned
    bool flat = false;         // whether it lies on the ground: what stands up is drawn over it, and may stand on it
    Stands stands = Stands::facing; // of what is not flat
    int least = 25;                 // per cent: the scales that it may be placed with
    int most = 400;
    int frames = 1;                    // of an animated one: pictures as large as `box`, from it on to the right
    int frame_ms = 150;                // how long each is shown, 10 .. 60,000 milliseconds
    std::vector<EnsemblePart> parts{}; // of an ensemble, which has no picture of its own; empty otherwise
    std::string collision_class{};     // of what it blocks; empty: that of the layer it stands on
    TileId body = 0; // of its sheet, which is a kit's: the tile of the piece that it is; 0: it is a picture alone

    [[nodiscard]] bool is_ensemble() const { return !parts.empty(); }
    // How many of the frames lie in a picture of that size; at least one.
    [[nodiscard]] int frames_in(Size image) const {
        return std::clamp(box.w > 0 ? (image.w - box.x) / box.w : 1, 1, std::max(1, frames));
    }
    // The box of the one that is seen so long after the beginning.
    [[nodiscard]] Box box_at(std::int64_t ms, Size image) const {
        const int count = frames_in(image);
        const std::int64_t shown = (ms < 0 ? ms - frame_ms + 1 : ms) / std::max(1, frame_ms) % count;
        const int at = static_cast<int>(shown < 0 ? shown + count : shown);
        return {box.x + at * box.w, box.y, box.w, box.h};
    }
    // Size, pivot and foot as they are in the level, in pixels.
    [[nodiscard]] Size drawn() const { return {box.w * factor, box.h * factor}; }
    [[nodiscard]] Point drawn_pivot() const { return {pivot.x * factor, pivot.y * factor}; }
    [[nodiscard]] Box drawn_foot() const {
        return {foot.x * factor, foot.y * factor, foot.w * factor, foot.h * factor};
    }
    bool operator==(const PropKind&) const = default;
};

} // namespace vic::level
