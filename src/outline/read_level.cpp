// What the layers of a level block, cell by cell.
#include <algorithm>
#include <array>
#include <functional>
#include <map>
#include <utility>

#include "level/block.hpp"
#include "outline/free.hpp"
#include "outline/solid.hpp"

namespace vic::outline {

using level::Polygon;
using level::Polygons;
using level::TileShape;

namespace {

// Instead of a code of a cell: what lies below does not block.
constexpr SolidCode kOpens = 15;

// Codes of tiles as they were asked for, so that a form is made once.
class Codes {
  public:
    Codes(const level::TileTable& tiles, Forms& forms) : tiles_(tiles), forms_(forms) {}

    SolidCode of(level::Cell cell) {
        const TileShape shape = tiles_.shape(cell);
        if (shape == TileShape::opens) return kOpens;
        if (shape <= TileShape::one_way_west) return forms_.code_of(shape);
        return known(cell, 0, [&] {
            return shape == TileShape::drawn ? forms_.add(units_of(tiles_.polygons(cell))) : forms_.code_of(shape);
        });
    }

    SolidCode of_foot(level::Cell cell, Size foot, Point at) {
        return known(cell, (std::int64_t{foot.w} << 32) + 1 + at.y * foot.w + at.x, [&] {
            const TileShape shape = tiles_.shape(cell);
            return shape == TileShape::opens ? kOpens : forms_.code_of_foot(shape, tiles_.polygons(cell), foot, at);
        });
    }

  private:
    template <class Make>
    SolidCode known(level::Cell cell, std::int64_t part, Make make) {
        const std::pair key{level::Cell(cell.tile(), cell.turn(), false).bits, part};
        const auto found = codes_.find(key);
        return found != codes_.end() ? found->second : codes_.emplace(key, make()).first->second;
    }
    const level::TileTable& tiles_;
    Forms& forms_;
    std::map<std::pair<std::uint32_t, std::int64_t>, SolidCode> codes_; // a foot is told by its width
};

class Reader {
  public:
    Reader(const level::Level& level, const Kinds& kinds, const Box& cells, SolidCode* out, std::size_t stride,
           Forms& forms)
        : level_(level),
          tiles_(*kinds.tiles),
          props_(kinds.props),
          cells_(cells),
          class_(kinds.collision_class),
          passes_(kinds.passes),
          out_(out),
          stride_(stride),
          forms_(forms),
          codes_(tiles_, forms) {
        for (int y = 0; y < cells.h; ++y)
            std::fill_n(out + static_cast<std::size_t>(y) * stride, cells.w, SolidCode{kOpen});
    }

    int read() {
        for (const level::LayerRef& layer : level_.layers) {
            if (layer->storey > 0) continue; // one walks on the lowest; what is above is over his head
            layer_class_ = &layer->collision_class;
            blocks_ = stops({});
            if (const level::Blockers* blockers = layer->blockers()) {
                read_blockers(*blockers);
            } else if (layer->tiles() && (layer->solid() || (tiles_.any_opens() && layer->grain().finer == 1))) {
                heard_ = layer->solid();
                read_tiles(*layer);
            } else if (props_ && layer->has_props()) {
                read_props(*layer);
            }
        }
        while (!pending_.empty()) settle(pending_.begin()->first);
        return shapes_;
    }

  private:
    [[nodiscard]] bool counts(Point cell) const {
        return (forms_.counted.empty() ? cells_ : forms_.counted).contains(cell);
    }
    // Whether what names that class, or none, blocks where the layer at hand does.
    [[nodiscard]] bool stops(const std::string& own) const {
        const std::string& name = own.empty() ? *layer_class_ : own;
        return (!class_ || name == *class_) && !(passes_ && std::binary_search(passes_->begin(), passes_->end(), name));
    }
    void add(Point at, SolidCode code) {
        if (code == kOpen) return;
        const std::size_t index = index_of(at);
        settle(index);
        SolidCode& here = out_[index];
        if (code == kOpens) {
            here = kOpen;
            return;
        }
        if (!blocks_) return;
        here = here == kOpen ? code : forms_.united(here, code);
        shapes_ += counts(at);
    }

    void read_blockers(const level::Blockers& blockers) {
        level::each_cell(blockers.cells(), cells_, [&](Point at, level::Cell cell, level::MaterialId) {
            const TileShape shape = level::Blockers::shape_of(cell);
            add(at, shape == TileShape::opens ? kOpens : forms_.code_of(shape));
        });
        for (const level::FreeBlocker& free : blockers.free()) {
            if (free.tells != 0 || intersection(level::cells_of(free), cells_).empty()) continue;
            bool counted = false;
            blocks_ = stops(free.collision_class);
            for (const Polygon& polygon : level::covered(free)) add_free(polygon, free.opens, counted);
        }
    }

    [[nodiscard]] std::size_t index_of(Point at) const {
        return static_cast<std::size_t>(at.y - cells_.y) * stride_ + static_cast<std::size_t>(at.x - cells_.x);
    }
    // On a layer that lies half a cell aside a cell's shape is shared out among those that it touches.
    void add_aside(Point at, SolidCode code, Point by) {
        if (code == kOpen) return;
        const Point corner = Point{at.x * kUnit, at.y * kUnit} + by;
        bool counted = false;
        for (Polygon polygon : forms_.polygons(code == kOpens ? SolidCode{kFull} : code)) {
            for (Point& p : polygon) p = p + corner;
            add_free(polygon, code == kOpens, counted);
        }
        if (code == kOpens || !blocks_) return;
        const Point right{kUnit, 0}, down{0, kUnit};
        const std::array<std::pair<Point, Point>, 4> sides = {
            std::pair{Point{}, right}, {right, right + down}, {down, right + down}, {Point{}, down}};
        for (std::size_t side = 0; side < sides.size(); ++side) {
            if ((one_way_of(code) >> side & 1U) == 0) continue;
            const Point from = corner + sides[side].first, to = corner + sides[side].second;
            const Point cell{floor_div(from.x, kUnit), floor_div(from.y, kUnit)};
            if (!intersection(cells_, level_.cells()).contains(cell)) continue;
            forms_.one_way.push_back({from, to, static_cast<int>(side)});
            shapes_ += counts(cell) && !counted;
            counted = true;
        }
    }
    // What waits at a cell is united with what is there, all at once: many shapes on one spot take no longer than they
    // must.
    void settle(std::size_t index) {
        const auto found = pending_.find(index);
        if (found == pending_.end()) return;
        level::Polygons all = std::move(found->second);
        pending_.erase(found);
        out_[index] = forms_.united(out_[index], std::move(all));
    }

    // Counted once, in the first of the cells that it is in.
    void add_free(const Polygon& polygon, bool opens, bool& counted) {
        if (!opens && !blocks_) return;
        for (const CellPiece& piece : by_cells(polygon, intersection(cells_, level_.cells()))) {
            const std::size_t index = index_of(piece.cell);
            if (opens) {
                settle(index);
                if (out_[index] != kOpen) out_[index] = forms_.without(out_[index], {piece.polygon});
            } else {
                level::Polygons& pending = pending_[index];
                pending.push_back(piece.polygon);
                if (pending.size() >= kMostPending) settle(index);
            }
            for (const Point p : piece.bends)
                forms_.bends.push_back(p + Point{piece.cell.x * kUnit, piece.cell.y * kUnit});
        }
        if (counted || opens || polygon.empty()) return;
        const Point first{floor_div(polygon[0].x, kUnit), floor_div(polygon[0].y, kUnit)};
        shapes_ += counts(first);
        counted = true;
    }

    void read_props(const level::Layer& layer) {
        const Lattice lattice = level_.geometry();
        const Box pixels = lattice.box(cells_).grown(props_->reach(layer.props()));
        layer.props().each_in(pixels, [&](const level::Prop& prop) {
            props_->each_piece(prop, [&](const level::Piece& piece) {
                if (!piece.kind->blocks) return;
                blocks_ = stops(piece.kind->collision_class);
                if (piece.kind->shape == TileShape::opens) {
                    bool not_counted = true;
                    for (const Polygon& foot :
                         level::clockwise({in_units(level::foot_corners(piece, lattice), lattice)}))
                        add_free(foot, true, not_counted);
                    return;
                }
                if (const auto edge = one_way_of(piece, lattice)) {
                    if (!blocks_) return;
                    const Point cell{floor_div(edge->from.x, kUnit), floor_div(edge->from.y, kUnit)};
                    if (intersection(cells_, level_.cells()).contains(cell)) {
                        forms_.one_way.push_back(*edge);
                        shapes_ += counts(cell);
                    }
                    return;
                }
                bool counted = false;
                for (const Polygon& polygon : blocking_units(piece, lattice)) add_free(polygon, false, counted);
            });
        });
    }

    void read_tiles(const level::Layer& layer) {
        const level::Grain grain = layer.grain();
        const Point aside{layer.shift.x * kUnit / 2, layer.shift.y * kUnit / 2};
        const Box read = level::touching(cells_, layer.shift);
        const auto put = [&](Point at, SolidCode code) {
            if (aside == Point{})
                add(at, code);
            else
                add_aside(at, code, aside);
        };
        // Its shape is stretched over all that a wider cell covers.
        const auto add_wide = [&](Point at, level::Cell cell) {
            const level::Tile* tile = tiles_.find(cell.tile()).tile;
            if (!tile) return;
            const Box foot = grain.in_level(level::foot_under(*tile, at, cell.turn()));
            const Box seen = intersection(intersection(foot, read), level_.cells());
            for (int y = seen.y; y < seen.bottom(); ++y)
                for (int x = seen.x; x < seen.right(); ++x)
                    put({x, y}, codes_.of_foot(cell, foot.size(), {x - foot.x, y - foot.y}));
        };
        // A level has few different cells at any place; what they block is looked up once each.
        struct ReadCell {
            std::uint32_t bits = 0;
            SolidCode code = kOpen;
            bool block = false, stops = true;
        };
        std::array<ReadCell, 256> known{};
        level::each_cell(layer.grid(), tiles_.reach().seen_in(grain.touching(read)),
                         [&](Point at, level::Cell cell, level::MaterialId) {
                             ReadCell& k = known[(cell.bits ^ (cell.bits >> 20)) & 255U];
                             if (cell.bits != k.bits) {
                                 const level::Tile* tile = tiles_.find(cell.tile()).tile;
                                 k.bits = cell.bits;
                                 k.block = tile && tile->is_block();
                                 k.stops = heard_ && stops(tile ? tile->collision_class : std::string());
                                 k.code = k.block ? SolidCode{kOpen} : codes_.of(cell);
                             }
                             blocks_ = k.stops;
                             if (grain.own() || k.block)
                                 add_wide(at, cell);
                             else if (read.contains(at))
                                 put(at, k.code);
                         });
    }

    const level::Level& level_;
    const level::TileTable& tiles_;
    const level::PropKinds* props_;
    Box cells_;
    const std::string* class_;
    const std::vector<std::string>* passes_;
    const std::string* layer_class_ = nullptr;
    bool heard_ = true;  // whether tiles of the layer at hand block
    bool blocks_ = true; // whether what is being read blocks here
    SolidCode* out_;
    std::size_t stride_;
    Forms& forms_;
    Codes codes_;
    int shapes_ = 0;
    static constexpr std::size_t kMostPending = 32;
    std::map<std::size_t, level::Polygons> pending_; // free shapes, by the place in `out_`
};

} // namespace

int read_solid(const level::Level& level, const Kinds& kinds, const Box& cells, SolidCode* out, std::size_t stride,
               Forms& forms) {
    return Reader(level, kinds, cells, out, stride, forms).read();
}

std::vector<std::uint8_t> full_cells(const level::Level& level, const Kinds& kinds) {
    constexpr int kRows = level::kChunk;
    std::vector<std::uint8_t> out;
    out.reserve(static_cast<std::size_t>(level.size.area()));
    std::vector<SolidCode> codes(static_cast<std::size_t>(level.size.w) * kRows);
    for (int top = 0; top < level.size.h; top += kRows) {
        const Box strip = intersection({0, top, level.size.w, kRows}, level.cells());
        Forms forms;
        read_solid(level, kinds, strip, codes.data(), static_cast<std::size_t>(strip.w), forms);
        for (std::size_t i = 0; i < static_cast<std::size_t>(strip.size().area()); ++i)
            out.push_back(solid_of(codes[i]) == kFull);
    }
    return out;
}

} // namespace vic::outline
