// A level of a made kit's pieces.
#pragma once

#include <catch2/catch.hpp>
#include <memory>
#include <string>
#include <vector>

#include "edit/kits.hpp"
#include "kit/taken_kit.hpp"
#include "scene/scene.hpp"

namespace kit_test {

struct House {
    Kit made;
    std::shared_ptr<scene::LoadedKit> kit = std::make_shared<scene::LoadedKit>();
    level::Project project;
    level::Level level;
    std::vector<std::shared_ptr<const scene::LoadedKit>> kits;

    House() {
        made.first_bit = -1;
        made.thick = 0.25; // whole 1/64 of its cells
        for (const unsigned sides : {0U, 1U, 5U, 3U, 11U, 15U}) made.wall("Wall " + std::to_string(sides) + "x", sides);
        made.put("Hall", {-2, 0, -1}, {2, 3, 1});
        made.put("Lean-to", {-1, 0, -1}, {0, 1.5, 0.5});
        project = taken(made, *kit);
        kits = {kit};
        level = level::make_level(project, "House", {12, 10}, {16, 16}, level::View::from_above);
    }
    [[nodiscard]] level::TileId tile(const std::string& name) const {
        for (const auto& [tile, piece] : kit->piece_of)
            if (kit->file.bodies[piece].name == name && !kit->turn_of.contains(tile)) return tile;
        FAIL("no piece " << name);
        return 0;
    }
    // Mirrored first (4), then turned to the right; what has several cells by its tile for that.
    void lay(Point at, const std::string& name, int turn = 0, std::size_t layer = 0) {
        level::TileId id = tile(name);
        Turn own{static_cast<std::uint8_t>(turn)};
        if (kit->read.pieces[kit->piece_of.at(id)].cells != Size{1, 1}) {
            const int quarters = own.mirrored() ? 4 - own.quarters() : own.quarters();
            for (int i = 0; i < quarters % 4; ++i) id = edit::turned_piece(project, id, true);
            own = {static_cast<std::uint8_t>(turn & 4)};
        }
        level.edit(level.layers[layer]->id).grid().set(at, level::Cell(id, own, true), 0);
    }
};

} // namespace kit_test
