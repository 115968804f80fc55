// A level to plant on.
#pragma once

#include <catch2/catch.hpp>
#include <utility>
#include <vector>

#include "edit/plant.hpp"
#include "edit/stroke.hpp"
#include "plant/grow.hpp"
#include "support/hands.hpp"
#include "support/make.hpp"

namespace plant_test {

using namespace vic;
using namespace vic::plant;
using level::AreaOf;

// A bed of material 1 in the middle of a level of 60 × 50, props of three sizes, and a layer that is planted.
struct Bed : make::Small {
    level::LayerId layer = 800;
    level::PropKindId tree = 801, herb = 802, stone = 803;
    level::Level level;
    Bed() : Small({60, 50}) {
        const auto kind = [&](level::PropKindId id, const char* name, int foot) {
            level::PropKind k = *project.prop_kind(prop);
            k.id = id;
            k.name = name;
            k.box = {0, 0, std::max(4, foot), std::max(4, foot)};
            k.pivot = {foot / 2, foot - 1};
            k.foot = {0, 0, foot, foot};
            project.put(k);
        };
        kind(tree, "Tree", 20);
        kind(herb, "Herb", 4);
        kind(stone, "Stone", 8);
        project.next_id = 2000;
        level = Small::level();
        lay(1, {10, 10, 40, 30});
        level::Layer l;
        l.id = layer;
        l.name = "Planting";
        l.content = level::PlantedProps{};
        level.layers.push_back(std::make_shared<const level::Layer>(std::move(l)));
        recipe().area = {{.of = AreaOf::material, .layer = ground, .material = 1}};
    }
    void lay(level::MaterialId m, const Box& cells) {
        const join::Rules rules(project);
        level = edit::lay(project, rules, level, ground, make::material(m), level::Region(cells)).level;
    }
    level::Planting& recipe() { return level.edit(layer).planted()->recipe; }
    level::Pass& pass(std::vector<level::PlantKind> kinds, int apart = 0) {
        level::Pass p;
        p.name = "pass";
        p.kinds = std::move(kinds);
        p.apart = apart;
        recipe().passes.push_back(p);
        return recipe().passes.back();
    }
    [[nodiscard]] Grown grown(std::size_t most = kAskBeyond) const {
        return grow(project, level, layer, level.layer(layer)->planted()->recipe, most);
    }
    void plant() {
        const edit::Planted p = edit::planted(project, level, layer);
        level = p.level;
        project.next_id = p.next_id;
    }
    [[nodiscard]] std::vector<level::Prop> props() const { return level.layer(layer)->props().all(); }
    [[nodiscard]] bool on_bed(Point p) const {
        return level.layer(ground)->grid().material(level.geometry().cell_at(p)) == 1;
    }
};

} // namespace plant_test
