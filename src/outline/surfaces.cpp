#include "outline/surfaces.hpp"

#include <algorithm>
#include <cmath>
#include <map>
#include <memory>
#include <optional>
#include <tuple>
#include <utility>

#include "level/block.hpp"
#include "outline/free.hpp"

namespace vic::outline {

using level::Notes;

namespace {

constexpr double kInside = 0.5; // units from a line to the place inside that is asked

struct Place {
    double x, y;
};

bool inside(const level::Polygons& polygons, Place at) {
    bool in = false;
    for (const level::Polygon& polygon : polygons)
        for (std::size_t i = 0; i < polygon.size(); ++i) {
            const Point a = polygon[i], b = polygon[(i + 1) % polygon.size()];
            if ((a.y > at.y) == (b.y > at.y)) continue;
            if (at.x < a.x + (at.y - a.y) / (b.y - a.y) * (b.x - a.x)) in = !in;
        }
    return in;
}

// Answers what the surface is like at places of one level.
class Asker {
  public:
    Asker(const level::Project& project, const level::Level& level, const Kinds& kinds) : level_(level), kinds_(kinds) {
        for (const level::NoteKind& k : project.note_kinds)
            if (k.surface) wanted_.push_back(&k);
        for (const level::LayerRef& layer : level.layers) {
            // That layer alone, so that it can be asked whether it blocks a place.
            level::Level alone = level;
            alone.layers = {layer};
            alone_.push_back(std::move(alone));
        }
    }

    // 1/64 cells, within what blocks.
    Notes at(Place place) {
        const Point cell{static_cast<int>(std::floor(place.x / kUnit)), static_cast<int>(std::floor(place.y / kUnit))};
        for (std::size_t i = level_.layers.size(); i-- > 0;) {
            const level::Layer& layer = *level_.layers[i];
            if (!layer.blocks() && !layer.has_props()) continue;
            if (!blocks(i, cell, place)) continue;
            return notes_of(layer, cell, place);
        }
        return {};
    }

  private:
    bool blocks(std::size_t layer, Point cell, Place place) {
        const auto [found, fresh] = codes_.try_emplace({layer, cell.x, cell.y}, kOpen);
        if (fresh) read_solid(alone_[layer], kinds_, {cell.x, cell.y, 1, 1}, &found->second, 1, forms_);
        const SolidCode code = found->second;
        if (solid_of(code) == kFull || one_way_of(code) != 0) return true;
        if (code == kOpen) return any_edge(*level_.layers[layer], cell, place);
        const Place in{place.x - cell.x * kUnit, place.y - cell.y * kUnit};
        if (solid_of(code) == kForm) return inside(forms_[code].polygons, in);
        static constexpr level::TileShape shapes[] = {level::TileShape::slope_ne, level::TileShape::slope_se,
                                                      level::TileShape::slope_sw, level::TileShape::slope_nw};
        return inside(units_of(level::polygons_of(shapes[solid_of(code) - kSlopeNE])), in);
    }
    // A prop whose one-way edge goes through there.
    bool any_edge(const level::Layer& layer, Point, Place place) {
        return layer.has_props() && prop_at(layer, place, true) != nullptr;
    }
    // The prop of the layer that covers the place, by its shape or by its one-way edge's cell; null where none does.
    const level::Prop* prop_at(const level::Layer& layer, Place place, bool edges) {
        if (!kinds_.props) return nullptr;
        const Lattice lattice = level_.geometry();
        const Lattice::Pixels p = lattice.pixel_of({place.x / kUnit, place.y / kUnit});
        const Box near = Box{static_cast<int>(std::floor(p.x)), static_cast<int>(std::floor(p.y)), 1, 1}.grown(
            kinds_.props->reach(layer.props()));
        const level::Prop* best = nullptr;
        layer.props().each_in(near, [&](const level::Prop& prop) {
            kinds_.props->each_piece(prop, [&](const level::Piece& piece) {
                if (!piece.kind->blocks) return;
                bool here = false;
                if (const auto edge = one_way_of(piece, lattice)) {
                    const Box around{std::min(edge->from.x, edge->to.x) - kUnit / 8,
                                     std::min(edge->from.y, edge->to.y) - kUnit / 8,
                                     std::abs(edge->to.x - edge->from.x) + kUnit / 4,
                                     std::abs(edge->to.y - edge->from.y) + kUnit / 4};
                    here = edges && around.contains(Point{static_cast<int>(place.x), static_cast<int>(place.y)});
                } else {
                    here = inside(blocking_units(piece, lattice), place);
                }
                if (!here || (best && best->id > prop.id)) return;
                best = &prop;
                piece_ = *piece.kind;
            });
        });
        return best;
    }

    Notes notes_of(const level::Layer& layer, Point cell, Place place) {
        if (layer.tiles()) {
            const Point own = layer.grain().own() ? layer.grain().touching({cell.x, cell.y, 1, 1}).corner()
                              : layer.shift != Point{}
                                  ? Point{static_cast<int>(std::floor((place.x - layer.shift.x * kUnit / 2.0) / kUnit)),
                                          static_cast<int>(std::floor((place.y - layer.shift.y * kUnit / 2.0) / kUnit))}
                                  : cell;
            level::Cell laid = layer.grid().cell(own);
            const level::Tile* tile = kinds_.tiles->find(laid.tile()).tile;
            if (const level::LaidBlock block = level::block_at(*kinds_.tiles, layer.grid(), own); block.tile) {
                laid = block.cell;
                tile = block.tile;
            }
            return tile ? wanted(tile->notes, laid.turn()) : Notes{};
        }
        if (const level::Blockers* blockers = layer.blockers()) {
            for (auto it = blockers->free().rbegin(); it != blockers->free().rend(); ++it)
                if (it->tells == 0 && !it->opens && inside_any(level::covered(*it), place))
                    return wanted(it->notes, {});
            return {};
        }
        const level::Prop* prop = prop_at(layer, place, true);
        if (!prop) return {};
        Notes out = wanted(piece_.notes, {});
        for (const auto& [id, value] : wanted(prop->of_its_own().notes, {})) out[id] = value;
        return out;
    }
    // Those of a line overlap where it turns.
    static bool inside_any(const level::Polygons& polygons, Place place) {
        return std::any_of(polygons.begin(), polygons.end(),
                           [&](const level::Polygon& p) { return inside({p}, place); });
    }
    Notes wanted(const Notes& notes, Turn turn) const {
        Notes out;
        for (const level::NoteKind* kind : wanted_)
            if (const auto found = notes.find(kind->id); found != notes.end())
                out[kind->id] = level::turned(*kind, found->second, turn);
        return out;
    }

    const level::Level& level_;
    const Kinds& kinds_;
    std::vector<const level::NoteKind*> wanted_;
    std::vector<level::Level> alone_;
    Forms forms_;
    std::map<std::tuple<std::size_t, int, int>, SolidCode> codes_;
    level::PropKind piece_; // of the prop found last
};

std::uint32_t number_of(std::vector<Notes>& surfaces, const Notes& notes) {
    const auto at = std::find(surfaces.begin(), surfaces.end(), notes) - surfaces.begin();
    if (at == std::ssize(surfaces)) surfaces.push_back(notes);
    return static_cast<std::uint32_t>(at);
}

// Calls piece(to, notes) for the parts of an edge that lie in one cell each; `normal` leads inside, a unit long.
template <class Visit>
void each_part(Asker& asker, Point a, Point b, Place normal, const Visit& piece) {
    std::vector<double> cuts;
    const auto cross = [&](int from, int to) {
        if (from == to) return;
        const int least = std::min(from, to), most = std::max(from, to);
        for (int line = floor_div(least, kUnit) + 1; line * kUnit < most; ++line)
            cuts.push_back(double(line * kUnit - from) / (to - from));
    };
    cross(a.x, b.x);
    cross(a.y, b.y);
    std::sort(cuts.begin(), cuts.end());
    cuts.push_back(1);
    double before = 0;
    for (const double cut : cuts) {
        if (cut - before < 1e-9) continue;
        const double middle = (before + cut) / 2;
        const Place at{a.x + middle * (b.x - a.x) + normal.x * kInside,
                       a.y + middle * (b.y - a.y) + normal.y * kInside};
        const Point to = cut == 1 ? b
                                  : Point{static_cast<int>(std::lround(a.x + cut * (b.x - a.x))),
                                          static_cast<int>(std::lround(a.y + cut * (b.y - a.y)))};
        piece(to, asker.at(at));
        before = cut;
    }
}

} // namespace

bool any_surfaces(const level::Project& project) {
    return std::any_of(project.note_kinds.begin(), project.note_kinds.end(), [](const auto& k) { return k.surface; });
}

Surfaced with_surfaces(const level::Project& project, const level::Level& level, const Kinds& kinds,
                       std::vector<Outline> outlines, std::vector<Notes>& surfaces) {
    Surfaced out;
    if (surfaces.empty()) surfaces.emplace_back();
    if (!any_surfaces(project)) {
        for (const Outline& o : outlines) out.of.emplace_back(o.points.size(), 0);
        out.outlines = std::move(outlines);
        return out;
    }
    Asker asker(project, level, kinds);
    for (const Outline& o : outlines) {
        Outline cut{{}, o.hole};
        std::vector<std::uint32_t> of;
        for (std::size_t i = 0; i < o.points.size(); ++i) {
            const Point a = o.points[i], b = o.points[(i + 1) % o.points.size()];
            const double length = std::hypot(b.x - a.x, b.y - a.y);
            Point from = a;
            std::optional<std::uint32_t> now;
            Point reached = a;
            each_part(asker, a, b, {-(b.y - a.y) / length, (b.x - a.x) / length}, [&](Point to, const Notes& notes) {
                const std::uint32_t number = number_of(surfaces, notes);
                if (now && *now != number && reached != from) {
                    cut.points.push_back(from);
                    of.push_back(*now);
                    from = reached;
                }
                now = number;
                reached = to;
            });
            cut.points.push_back(from);
            of.push_back(now.value_or(0));
        }
        out.outlines.push_back(std::move(cut));
        out.of.push_back(std::move(of));
    }
    return out;
}

SurfacedEdges with_surfaces(const level::Project& project, const level::Level& level, const Kinds& kinds,
                            const std::vector<OneWayEdge>& edges, std::vector<Notes>& surfaces) {
    SurfacedEdges out;
    if (surfaces.empty()) surfaces.emplace_back();
    if (!any_surfaces(project)) return {edges, std::vector<std::uint32_t>(edges.size(), 0)};
    Asker asker(project, level, kinds);
    // The cell that it belongs to lies behind it, as seen from the side that it stops.
    static constexpr Place behind[] = {{0, 1}, {-1, 0}, {0, -1}, {1, 0}};
    for (const OneWayEdge& e : edges) {
        OneWayEdge now = e;
        std::optional<std::uint32_t> number;
        Point reached = e.from;
        each_part(asker, e.from, e.to, behind[e.side], [&](Point to, const Notes& notes) {
            const std::uint32_t here = number_of(surfaces, notes);
            if (number && *number != here && reached != now.from) {
                out.edges.push_back({now.from, reached, e.side});
                out.of.push_back(*number);
                now.from = reached;
            }
            number = here;
            reached = to;
        });
        out.edges.push_back(now);
        out.of.push_back(number.value_or(0));
    }
    return out;
}

} // namespace vic::outline
