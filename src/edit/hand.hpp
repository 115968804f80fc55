// The Hand: what is laid, and how.
#pragma once

#include <cstdint>
#include <memory>
#include <variant>
#include <vector>

#include "base/turn.hpp"
#include "level/notes.hpp"
#include "level/cell.hpp"
#include "level/props.hpp"
#include "level/shape.hpp"

namespace vic::level {
struct Stamp;
}

namespace vic::edit {

// One of the things that a spread chooses from.
struct SpreadItem {
    level::MaterialId material = 0; // either this
    level::TileId tile = 0;         // or that
    Turn turn{};                    // of the tile
    int weight = 100;               // 0 .. 1000
    bool operator==(const SpreadItem&) const = default;
};

// What the Hand may hold.
namespace held {

struct Nothing {
    bool operator==(const Nothing&) const = default;
};
struct Material {
    level::MaterialId id = 0;
    bool operator==(const Material&) const = default;
};
struct Tile {
    level::TileId id = 0;
    bool operator==(const Tile&) const = default;
};
struct Eraser {
    bool operator==(const Eraser&) const = default;
};
struct Prop {
    level::PropKindId kind = 0;
    level::Look look{}; // as it will stand
    bool operator==(const Prop&) const = default;
};
// One of several for each cell, steady per cell.
struct Spread {
    std::vector<SpreadItem> items;
    bool operator==(const Spread&) const = default;
};
struct Stamp {
    std::shared_ptr<const level::Stamp> stamp; // never null
    bool pins = false;                         // painted cells stay as they were taken, they do not join anew
    bool operator==(const Stamp&) const = default;
};
struct Blocker {
    level::TileShape shape = level::TileShape::full; // before the Hand's turn
    bool operator==(const Blocker&) const = default;
};
// What a layer of facts says of a cell: see level::Facts.
struct Fact {
    level::NoteId note = 0; // 0: of layers that have none yet
    int value = 1;
    bool operator==(const Fact&) const = default;
};

} // namespace held

using Held = std::variant<held::Nothing, held::Material, held::Tile, held::Eraser, held::Prop, held::Spread,
                          held::Stamp, held::Blocker, held::Fact>;

struct Hand {
    Held holds{};
    Turn turn{};            // of tiles, blockers and stamps
    int size = 1;           // cells a side of the pencil and the eraser, 1 .. 16
    bool round = false;     // whether the pencil's tip is round
    int share_empty = 0;    // per cent of the cells that are left as they are, 0 .. 99
    std::uint32_t seed = 0; // another one, another choice of the spread and of what is left

    template <class What>
    [[nodiscard]] bool is() const {
        return std::holds_alternative<What>(holds);
    }
    // Null where it holds something else.
    template <class What>
    [[nodiscard]] const What* as() const {
        return std::get_if<What>(&holds);
    }
    template <class What>
    [[nodiscard]] What* as() {
        return std::get_if<What>(&holds);
    }
    // 0 and null where it holds something else.
    [[nodiscard]] level::MaterialId material() const { return is<held::Material>() ? as<held::Material>()->id : 0; }
    [[nodiscard]] level::TileId tile() const { return is<held::Tile>() ? as<held::Tile>()->id : 0; }
    [[nodiscard]] level::PropKindId prop() const { return is<held::Prop>() ? as<held::Prop>()->kind : 0; }
    [[nodiscard]] const level::Stamp* stamp() const {
        return is<held::Stamp>() ? as<held::Stamp>()->stamp.get() : nullptr;
    }
    [[nodiscard]] bool empty() const { return is<held::Nothing>(); }
    bool operator==(const Hand&) const = default;
};

// Whether it may lay on cells: it is a material, a tile, a spread, a blocker, a fact or the eraser.
bool lays_cells(const Hand& hand);

} // namespace vic::edit
