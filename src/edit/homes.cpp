#include "edit/homes.hpp"

#include <algorithm>
#include <map>

#include "edit/overlay.hpp"

namespace vic::edit {

using namespace level;

namespace {

const Tile* tile_of(const Project& project, TileId id) {
    for (const auto& sheet : project.sheets)
        for (const Tile& t : sheet->tiles)
            if (t.id == id) return &t;
    return nullptr;
}

// How many cells of the grid hold it; no more than `most` chunks are looked at, spread evenly.
std::int64_t used(const Grid& grid, const Hand& hand) {
    std::int64_t n = 0;
    const Size all = grid.chunks();
    const int step = std::max(1, static_cast<int>(all.area() / 512));
    for (std::int64_t i = 0; i < all.area(); i += step) {
        const Chunk* c = grid.chunk({static_cast<int>(i % all.w), static_cast<int>(i / all.w)});
        if (!c) continue;
        for (std::size_t k = 0; k < c->cells.size(); ++k)
            n += hand.is<held::Tile>() ? c->cells[k].tile() == hand.tile() : c->materials[k] == hand.material();
    }
    return n;
}

LayerId layer_named(const Level& level, const std::string& name) {
    for (const LayerRef& l : level.layers)
        if (l->tiles() && !l->grain().own() && l->name == name) return l->id;
    return 0;
}

std::vector<LayerId>* homes_in(Project& project, const Hand& hand, std::shared_ptr<const Sheet>*& sheet,
                               Sheet& sheet_copy, Material& material_copy) {
    if (hand.is<held::Material>()) {
        const Material* m = project.material(hand.material());
        if (!m) return nullptr;
        material_copy = *m;
        return &material_copy.homes;
    }
    for (auto& slot : project.sheets)
        for (std::size_t i = 0; i < slot->tiles.size(); ++i)
            if (slot->tiles[i].id == hand.tile()) {
                sheet = &slot;
                sheet_copy = *slot;
                return &sheet_copy.tiles[i].homes;
            }
    return nullptr;
}

} // namespace

LayerId home_of(const Project& project, const Level& level, const Hand& hand) {
    if (hand.is<held::Material>()) {
        const Material* m = project.material(hand.material());
        return m ? home_in(level, m->homes) : 0;
    }
    if (!hand.is<held::Tile>()) return 0;
    const Tile* t = tile_of(project, hand.tile());
    if (const LayerId own = t ? home_in(level, t->homes) : 0) return own;
    const Material* m = project.material(material_of(project, hand.tile()));
    return m ? home_in(level, m->homes) : 0;
}

std::optional<HomeProposal> propose_home(const Project& project, const Level& level, const Hand& hand) {
    if (!hand.is<held::Tile>() && !hand.is<held::Material>()) return std::nullopt;
    if (home_of(project, level, hand) != 0) return std::nullopt;
    // How it was used before, here and elsewhere.
    std::map<LayerId, std::int64_t> uses;
    for (const auto& other : project.levels)
        for (const LayerRef& l : other->layers) {
            if (!l->tiles()) continue;
            const LayerId here = other->id == level.id ? l->id : layer_named(level, l->name);
            if (here != 0) uses[here] += used(l->grid(), hand);
        }
    const auto most =
        std::max_element(uses.begin(), uses.end(), [](const auto& a, const auto& b) { return a.second < b.second; });
    if (most != uses.end() && most->second > 0 && level.layer(most->first))
        return HomeProposal{most->first, "most of it lies there"};
    // By its looks.
    const Layer* lowest = nullptr;
    const Layer* solid = nullptr;
    const Layer* front = nullptr; // the first in front of the walker
    const Layer* above = nullptr; // the frontmost behind the walker that does not block
    for (std::size_t i = 0; i < level.layers.size(); ++i) {
        const Layer& l = *level.layers[i];
        if (!l.tiles() || l.overlay_of() != 0 || l.grain().own()) continue;
        if (!lowest) lowest = &l;
        if (l.solid() && !solid) solid = &l;
        const bool behind = static_cast<int>(i) < level.plane;
        if (!behind && !front) front = &l;
        if (behind && !l.solid() && &l != lowest) above = &l;
    }
    if (!lowest) return std::nullopt;
    bool blocks = false;
    bool shows_through = false;
    if (hand.is<held::Tile>()) {
        const Tile* t = tile_of(project, hand.tile());
        blocks = t && t->shape != TileShape::none;
        shows_through = see_through(project, hand.tile(), level.geometry());
    } else if (const Material* m = project.material(hand.material())) {
        for (const auto& [mask, variants] : m->joins.cases)
            for (const Variant& v : variants) {
                const Tile* t = tile_of(project, v.tile);
                blocks = blocks || (t && t->shape != TileShape::none);
                if (mask == 255) shows_through = shows_through || see_through(project, v.tile, level.geometry());
            }
    }
    if (blocks && solid) return HomeProposal{solid->id, "it blocks, and so does this layer"};
    if (shows_through && !blocks) {
        if (above) return HomeProposal{above->id, "one sees through it, so it lies over the ground"};
        if (front) return HomeProposal{front->id, "one sees through it, and this layer is in front"};
    }
    return HomeProposal{lowest->id, "it is ground"};
}

Project set_home(Project project, const Level& level, const Hand& hand, LayerId layer) {
    if (!hand.is<held::Tile>() && !hand.is<held::Material>()) return project;
    std::shared_ptr<const Sheet>* sheet = nullptr;
    Sheet sheet_copy;
    Material material_copy;
    std::vector<LayerId>* homes = homes_in(project, hand, sheet, sheet_copy, material_copy);
    if (!homes) return project;
    std::erase_if(*homes, [&](LayerId id) { return level.layer(id) != nullptr; });
    if (layer != 0) homes->push_back(layer);
    if (sheet)
        *sheet = std::make_shared<const Sheet>(std::move(sheet_copy));
    else
        project.put(std::move(material_copy));
    return project;
}

} // namespace vic::edit
