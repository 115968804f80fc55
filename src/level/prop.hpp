// A prop as it stands in a level: what of it is its own, and what of its kind.
#pragma once

#include <cstdint>
#include <map>
#include <memory>
#include <optional>
#include <string>

#include "base/geometry.hpp"
#include "base/image.hpp"
#include "level/depth.hpp"
#include "level/notes.hpp"

namespace vic::level {

using PropKindId = std::uint32_t;
using PropId = std::uint32_t;
using PartId = std::uint32_t; // of an ensemble; no two parts of one have the same

inline constexpr int kFullTurn = 3600; // tenths of a degree
inline constexpr int kLeastScale = 10, kMostScale = 1600;
inline constexpr int kMostAhead = 4096;
inline constexpr int kMostUp = 64 * 4096;
inline constexpr int kMostLean = 600;

// How it differs from its kind's picture. It is mirrored first, then scaled and turned around the middle of its pivot's
// pixel; then tinted, then made lighter or darker.
struct Look {
    bool mirrored = false;         // left and right
    std::int16_t turn = 0;         // tenths of a degree clockwise, 0 .. kFullTurn - 1
    std::int16_t scale = 100;      // per cent, kLeastScale .. kMostScale
    std::int8_t light = 0;         // per cent of the way to white, below 0 to black; -100 .. 100
    std::uint8_t opacity = 100;    // per cent
    Rgba tint{255, 255, 255, 255}; // multiplied with the picture; its alpha is not used
    std::int16_t ahead = 0; // pixels: it is drawn as if it stood so much lower on screen; -kMostAhead .. kMostAhead
    bool operator==(const Look&) const = default;
};

// What a copy of an ensemble has of its own in one of the parts; in all else it follows.
struct PartChange {
    std::optional<PropKindId> kind; // another picture; 0: the part is missing here
    std::optional<Rgba> tint;
    std::optional<Notes> notes;
    bool operator==(const PartChange&) const = default;
};

// What few props have.
struct PropOwn {
    std::string name;
    Notes notes;
    std::map<PartId, PartChange> changes{};
    // In three dimensions.
    int up = 0;                     // 1/64 cells that it stands above its storey, -kMostUp .. kMostUp
    Point lean{};                   // tenths of a degree to the east and to the south, -kMostLean .. kMostLean
    std::optional<Stands> stands{}; // of a picture: otherwise than its kind
    [[nodiscard]] bool empty() const { return *this == PropOwn{}; }
    bool operator==(const PropOwn&) const = default;
};

struct Prop {
    PropId id = 0;
    PropKindId kind = 0;
    Point at; // where the pivot stands, in pixels of the level
    Look look{};
    std::uint32_t group = 0;              // those with the same number are chosen together; 0: none
    std::shared_ptr<const PropOwn> own{}; // null where it has nothing of its own
    std::uint8_t pass = 0; // of what was planted: the recipe's pass that it came of, from 1 on; 0: by hand

    [[nodiscard]] const PropOwn& of_its_own() const {
        static const PropOwn none;
        return own ? *own : none;
    }
    // Keeps nothing where it is empty.
    void set_own(PropOwn with) { own = with.empty() ? nullptr : std::make_shared<const PropOwn>(std::move(with)); }
    friend bool operator==(const Prop& a, const Prop& b) {
        return a.id == b.id && a.kind == b.kind && a.at == b.at && a.look == b.look && a.pass == b.pass &&
               a.group == b.group && (a.own == b.own || a.of_its_own() == b.of_its_own());
    }
};

} // namespace vic::level
