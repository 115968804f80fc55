// A house of two storeys with a stair, of a kit made for it: cells of two metres, storeys of three.
#pragma once

#include <catch2/catch.hpp>
#include <memory>
#include <string>

#include "edit/kits.hpp"
#include "edit/storeys.hpp"
#include "kit/taken_kit.hpp"
#include "upright/snags.hpp"

namespace upright_test {

using namespace vic;

struct Tower {
    kit_test::Kit made;
    std::shared_ptr<scene::LoadedKit> kit = std::make_shared<scene::LoadedKit>();
    level::Project project;
    level::Level level;
    std::vector<std::shared_ptr<const scene::LoadedKit>> kits;
    level::LayerId below = 0, above = 0;

    // The stair rises to the north, over cells 4, 5 and 4, 4 (two deep), to a floor from 2, 2 to 8, 6.
    Tower() {
        made.put("Floor", {-1, -0.125, -1}, {1, 0, 1});
        made.put("Wall", {-1, 0, -1}, {1, 3, 1});
        made.put("Beam", {-1, 1.25, -1}, {1, 1.5, 1});
        made.put("Post", {-0.25, 0, -0.25}, {0.25, 3, 0.25});
        made.put("Block", {-1, 0, -1}, {1, 1.5, 1});
        made.put("Rail", {-1, 0, -0.03}, {1, 1.1, 0.03});
        stair();
        kit::Told told;
        told.width = 2;
        told.height = 3;
        project = kit_test::taken(made, *kit, told);
        kits = {kit};
        level = level::make_level(project, "Tower", {12, 10}, {16, 16}, level::View::from_above);
        std::uint32_t next = 5000;
        for (const level::LayerRef& l : level.layers)
            if (l->tiles() && below == 0) below = l->id;
        level = edit::with_storey_above(level, 0, false, next);
        for (const level::LayerRef& l : level.layers)
            if (l->tiles() && l->storey == 1 && above == 0) above = l->id;
        REQUIRE(above != 0);
        lay(below, {4, 5}, "Stair"); // what is deep lies by its southern cell
        for (int y = 2; y < 7; ++y)
            for (int x = 2; x < 9; ++x)
                if (x != 4 || y < 4 || y > 5) lay(above, {x, y}, "Floor");
        level.marks.push_back({1, "Start", level::MarkKind::start, {1, 8, 1, 1}, {}, {}, 0, 0});
        level.marks.push_back({2, "Loft", level::MarkKind::exit, {7, 3, 1, 1}, {}, {}, 0, 1});
    }
    void stair() { // ten steps of 0.3 metres, each 0.4 deep, from z = 2 to -2
        made.put("Stair", {-1, 0, 1.6}, {1, 0.3, 2});
        kit::Body& body = made.bodies.back();
        for (int i = 1; i < 10; ++i) made.add(body.mesh, {-1, 0, 1.6 - 0.4 * i}, {1, 0.3 * (i + 1), 2 - 0.4 * i});
    }
    [[nodiscard]] level::TileId tile(const std::string& name) const {
        for (const auto& [tile, piece] : kit->piece_of)
            if (kit->file.bodies[piece].name == name && !kit->turn_of.contains(tile)) return tile;
        FAIL("no piece " << name);
        return 0;
    }
    void lay(level::LayerId layer, Point at, const std::string& name) {
        level.edit(layer).grid().set(at, level::Cell(tile(name), {}, true), 0);
    }
    void clear(level::LayerId layer, Point at) { level.edit(layer).grid().set(at, {}, 0); }
    [[nodiscard]] upright::Survey survey() const { return upright::survey(project, level, kits); }
    [[nodiscard]] std::vector<upright::Snag> snags() const { return upright::snags(survey(), project, level, kits); }
};

} // namespace upright_test
