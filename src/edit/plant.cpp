#include "edit/plant.hpp"

#include <algorithm>
#include <cassert>
#include <unordered_map>

#include "base/chance.hpp"
#include "base/error.hpp"

namespace vic::edit {

using namespace level;

namespace {

constexpr std::int64_t kMostPlaces = 1'000'000;

struct Dart {
    std::uint32_t order;
    Point at; // pixels
    auto operator<=>(const Dart&) const = default;
};

// Places taken so far, by squares as wide as they must be apart.
class Taken {
  public:
    explicit Taken(int apart) : apart_(apart) {}
    [[nodiscard]] bool near(Point p) const {
        const Point own{floor_div(p.x, apart_), floor_div(p.y, apart_)};
        for (int y = own.y - 1; y <= own.y + 1; ++y)
            for (int x = own.x - 1; x <= own.x + 1; ++x) {
                const auto found = squares_.find(key({x, y}));
                if (found == squares_.end()) continue;
                for (const Point o : found->second) {
                    const std::int64_t dx = o.x - p.x, dy = o.y - p.y;
                    if (dx * dx + dy * dy < std::int64_t{apart_} * apart_) return true;
                }
            }
        return false;
    }
    void add(Point p) { squares_[key({floor_div(p.x, apart_), floor_div(p.y, apart_)})].push_back(p); }

  private:
    static std::uint64_t key(Point p) {
        return (std::uint64_t{static_cast<std::uint32_t>(p.x)} << 32) | static_cast<std::uint32_t>(p.y);
    }
    int apart_;
    std::unordered_map<std::uint64_t, std::vector<Point>> squares_;
};

PropKindId kind_of(const Planting& planting, std::uint32_t chance) {
    std::uint32_t total = 0;
    for (const Planting::Kind& k : planting.kinds) total += static_cast<std::uint32_t>(k.weight);
    if (total == 0) return planting.kinds.front().kind;
    std::uint32_t at = scaled(chance, total);
    for (const Planting::Kind& k : planting.kinds) {
        if (at < static_cast<std::uint32_t>(k.weight)) return k.kind;
        at -= static_cast<std::uint32_t>(k.weight);
    }
    return planting.kinds.back().kind;
}

} // namespace

Region planting_ground(const Level& level, const Planting& planting) {
    Region out;
    for (const LayerRef& l : level.layers) {
        if (!l->tiles() || (planting.on != 0 ? l->id != planting.on : !l->shown)) continue;
        each_cell(l->grid(), l->cells(), [&](Point own, Cell c, MaterialId m) {
            if (planting.material != 0 ? m == planting.material : c.bits != 0 || m != 0)
                out.add(intersection(l->grain().in_level(Box{own.x, own.y, 1, 1}), level.cells()));
        });
    }
    return out;
}

Planted planted(const Project& project, const Level& level, LayerId id) {
    const Layer* layer = level.layer(id);
    assert(layer && layer->kind() == LayerKind::planting);
    Planting planting = layer->planted()->recipe;
    std::erase_if(planting.kinds, [&](const Planting::Kind& k) { return !project.prop_kind(k.kind); });
    Planted out{level, project.next_id, 0};
    Layer& to = out.level.edit(id);
    to.props().clear();
    if (planting.kinds.empty()) return out;
    const Region ground = planting_ground(level, planting);
    if (ground.empty()) return out;
    // Darts on a raster fine enough that no room stays free for long; each somewhere in its square.
    const Lattice lattice = level.geometry();
    const int pitch = std::max(1, planting.apart / 2);
    const std::int64_t area = std::int64_t{level.cell.w} * level.cell.h / (lattice.square() ? 1 : 2);
    if (ground.count() * area / (std::int64_t{pitch} * pitch) > kMostPlaces)
        throw InputError(say("More than %1 places would have to be tried", kMostPlaces), "", "",
                         "Set them further apart, or name a material that covers less");
    std::vector<Dart> darts;
    ground.each([&](Point cell) {
        // The squares that begin in this cell's box; a dart that falls beyond the ground is none.
        const Box box = lattice.box(cell);
        for (int y = floor_div(box.y + pitch - 1, pitch); y * pitch < box.bottom(); ++y)
            for (int x = floor_div(box.x + pitch - 1, pitch); x * pitch < box.right(); ++x) {
                if (lattice.cell_at({x * pitch, y * pitch}) != cell) continue;
                const std::uint64_t h = place_hash((std::uint64_t{planting.seed} << 32) | id, x, y);
                const Point at{x * pitch + static_cast<int>(scaled(static_cast<std::uint32_t>(h), pitch)),
                               y * pitch + static_cast<int>(scaled(static_cast<std::uint32_t>(h >> 32), pitch))};
                if (ground.contains(lattice.cell_at(at)))
                    darts.push_back({static_cast<std::uint32_t>(mix(h) >> 32), at});
            }
    });
    std::sort(darts.begin(), darts.end());
    Taken taken(planting.apart);
    std::vector<Prop> props;
    for (const Dart& dart : darts) {
        if (taken.near(dart.at)) continue;
        taken.add(dart.at);
        const std::uint64_t h =
            place_hash((std::uint64_t{planting.seed} << 32) ^ ~std::uint64_t{id}, dart.at.x, dart.at.y);
        // A place that stays empty keeps its room.
        if (scaled(static_cast<std::uint32_t>(h), 100) < static_cast<std::uint32_t>(planting.share_empty)) continue;
        props.push_back({0, kind_of(planting, static_cast<std::uint32_t>(h >> 32)), dart.at, {(mix(h) & 1U) != 0}});
    }
    // In reading order, so that the file changes little when the ground does.
    std::sort(props.begin(), props.end(),
              [](const Prop& a, const Prop& b) { return std::tuple(a.at.y, a.at.x) < std::tuple(b.at.y, b.at.x); });
    for (Prop& p : props) p.id = out.next_id++;
    to.props() = Props(props);
    out.count = static_cast<int>(props.size());
    return out;
}

} // namespace vic::edit
