#include "edit/pins.hpp"

#include <algorithm>
#include <cmath>
#include <set>
#include <string>
#include <utility>

#include "edit/used.hpp"

namespace vic::edit {

using namespace level;

namespace {

constexpr int kTicksOfWay = 6;

Point cell_at(walk::Position p) { return {static_cast<int>(std::floor(p.x)), static_cast<int>(std::floor(p.y))}; }

std::string at_text(Point cell) { return std::to_string(cell.x) + ", " + std::to_string(cell.y); }

// The cell that stopped him: the one beyond the place, as seen from his middle.
Point stopped_by(const Level& level, const walk::Happening& h) {
    const double up = level.view == View::from_the_side ? level.walker.height / 128.0 : 0;
    const double dx = h.at.x - h.foot.x, dy = h.at.y - (h.foot.y - up);
    const double length = std::max(0.01, std::hypot(dx, dy));
    return cell_at({h.at.x + dx / length * 0.1, h.at.y + dy / length * 0.1});
}

// What lies in the cells of the walker on layers that do not block, though it has a shape.
void find_passed(const Project& project, const Level& level, const std::vector<walk::Position>& way,
                 std::vector<Pin>& out) {
    const TileTable tiles(project, level);
    std::set<std::pair<LayerId, std::uint32_t>> told;
    const int high = level.view == View::from_the_side ? std::max(1, (level.walker.height + 63) / 64) : 1;
    for (std::size_t i = 0; i < way.size(); ++i)
        for (int up = 0; up < high; ++up) {
            const Point at = cell_at({way[i].x, way[i].y - 0.1 - up});
            for (const LayerRef& layer : level.layers) {
                if (!layer->tiles() || layer->solid() || layer->grain().own() || !layer->shown) continue;
                const Cell cell = layer->grid().cell(at);
                const TileShape shape = tiles.shape(cell);
                if (shape == TileShape::none || shape == TileShape::opens) continue;
                const MaterialId material = layer->grid().material(at);
                if (!told.insert({layer->id, material != 0 ? 0x80000000U + material : cell.tile()}).second) continue;
                const Material* m = material != 0 ? project.material(material) : nullptr;
                const Tile* tile = tiles.find(cell.tile()).tile;
                const std::string name = m ? m->name : tile && !tile->name.empty() ? tile->name : "a tile";
                out.push_back({Pin::Kind::passed, static_cast<int>(i) * kTicksOfWay, way[i],
                               say("Passed through at %1", at_text(at)),
                               say("\"%1\" does not block, though \"%2\" on it has a shape", layer->name, name)});
            }
        }
}

} // namespace

std::vector<Pin> pins_of(const Project& project, const Level& level, const vicinum::Level& built,
                         const std::vector<walk::Happening>& happenings, const std::vector<walk::Position>& way) {
    std::vector<Pin> out;
    for (const walk::Happening& h : happenings) {
        Pin pin{Pin::Kind::bump, h.tick, h.at, {}, {}};
        switch (h.kind) {
            case walk::Happening::Kind::bump: {
                const Point cell = stopped_by(level, h);
                if (!level.cells().contains(cell)) {
                    pin.title = say("Stopped at the rim, %1", at_text(cell));
                    pin.says = "The level's side blocks; see Sides in the Section";
                } else {
                    pin.title = say("Stopped at %1", at_text(cell));
                    pin.says = decided_at(project, level, cell).says;
                }
                break;
            }
            case walk::Happening::Kind::landed:
                pin.kind = Pin::Kind::landed;
                pin.title = say("Landed at %1", at_text(cell_at({h.foot.x, h.foot.y - 0.1})));
                pin.says = decided_at(project, level, cell_at({h.foot.x, h.foot.y + 0.1})).says;
                break;
            case walk::Happening::Kind::touched: {
                const Mark* mark = nullptr;
                for (const Mark& m : level.marks)
                    if (m.id == h.id) mark = &m;
                if (mark && mark->kind == MarkKind::start) continue; // where he begins
                pin.kind = Pin::Kind::touched;
                pin.title = say("Touched \"%1\"", mark ? mark->name : "a mark");
                pin.says = mark && mark->kind == MarkKind::exit ? say("An exit") : say("A mark, told to the game");
                break;
            }
            case walk::Happening::Kind::told:
                if (h.id >= built.telling.size()) continue;
                pin.kind = Pin::Kind::told;
                pin.title =
                    say("Told \"%1\" at %2", built.telling[h.id].name, at_text(cell_at({h.foot.x, h.foot.y - 0.1})));
                pin.says = say("It does not block; to the walker it is: %1", built.telling[h.id].means);
                break;
            case walk::Happening::Kind::fell_out:
                pin.kind = Pin::Kind::fell;
                pin.title = say("Fell out of the level at column %1", cell_at(h.foot).x);
                pin.says = "Nothing below blocks, and the side is open";
                break;
            case walk::Happening::Kind::left:
                continue;
        }
        out.push_back(std::move(pin));
    }
    find_passed(project, level, way, out);
    std::stable_sort(out.begin(), out.end(), [](const Pin& a, const Pin& b) { return a.tick < b.tick; });
    if (out.size() > kMostPins) out.erase(out.begin(), out.end() - static_cast<std::ptrdiff_t>(kMostPins));
    return out;
}

} // namespace vic::edit
