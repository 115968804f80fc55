#include "mass/merge.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <set>
#include <tuple>
#include <utility>

#include "outline/free.hpp"

namespace vic::mass {

namespace {

using level::Polygon;
using level::Polygons;
using outline::kUnit;

// A piece as it is turned: what of each section lies in which of the cells round it.
struct Turned {
    struct Layer {
        int from = 0, to = 0;
        std::map<Point, Polygons> by_cell; // in units from the cell's own corner; cells from the piece's first
        std::vector<Point> bends;          // corners that only the lattice made, in units from the piece's first cell
    };
    std::vector<Layer> layers;
    std::set<Point> cells; // all that any of them touches
};

// A place of a piece as it is laid, from the corner of its cells: about their middle it is mirrored first, then turned
// to the right.
Point laid(Point p, Size size, Turn turn) {
    const Point middle{size.w * kUnit / 2, size.h * kUnit / 2};
    p = p - middle;
    if (turn.mirrored()) p.x = -p.x;
    for (int i = 0; i < turn.quarters(); ++i) p = {-p.y, p.x};
    return p + middle;
}

Turned turned(const Sections& sections, Size size, Turn turn) {
    Turned out;
    for (const Section& s : sections.all) {
        Turned::Layer& layer = out.layers.emplace_back();
        layer.from = s.from;
        layer.to = s.to;
        for (Polygon polygon : s.polygons) {
            for (Point& p : polygon) p = laid(p, size, turn);
            if (turn.mirrored()) std::reverse(polygon.begin(), polygon.end());
            Box round{0, 0, 0, 0};
            for (const Point p : polygon) {
                const Point cell{floor_div(p.x, kUnit), floor_div(p.y, kUnit)};
                round = united(round, {cell.x, cell.y, 1, 1});
            }
            for (outline::CellPiece& piece : outline::by_cells(polygon, round)) {
                for (const Point bend : piece.bends)
                    layer.bends.push_back({piece.cell.x * kUnit + bend.x, piece.cell.y * kUnit + bend.y});
                layer.by_cell[piece.cell].push_back(std::move(piece.polygon));
                out.cells.insert(piece.cell);
            }
        }
    }
    return out;
}

// A piece where it stands.
struct Standing {
    const Turned* piece = nullptr;
    Point cell; // its first
    int up = 0; // by how much it is lifted
};

// All pieces, by the cells that they touch. Cells are counted from the corner of all that is touched, so that nothing
// lies beyond the lattice.
class Crowd {
  public:
    Crowd(const std::vector<scene::Placed>& placed, const std::vector<std::shared_ptr<const scene::LoadedKit>>& kits)
        : storey_(storey_units(scene::storey_height(kits))) {
        std::map<std::pair<std::size_t, std::size_t>, Sections> sections;
        std::map<std::tuple<std::size_t, std::size_t, int>, const Turned*> known;
        for (const scene::Placed& p : placed) {
            const auto [cut, fresh] = sections.try_emplace({p.kit, p.piece});
            if (fresh) cut->second = sections_of(scene::model_of(*kits[p.kit], p.piece));
            open_ += cut->second.open > 0 || cut->second.all.empty() ? 1 : 0;
            if (cut->second.all.empty()) continue;
            const Turned*& piece = known[{p.kit, p.piece, p.turn.code}];
            if (!piece) {
                pieces_.push_back(
                    std::make_unique<Turned>(turned(cut->second, kits[p.kit]->read.pieces[p.piece].cells, p.turn)));
                piece = pieces_.back().get();
            }
            standing_.push_back({piece, p.cells.corner(), p.storey * storey_});
            for (const Point c : piece->cells) box_ = united(box_, {p.cells.x + c.x, p.cells.y + c.y, 1, 1});
        }
        at_.resize(static_cast<std::size_t>(box_.size().area()));
        for (std::uint32_t i = 0; i < standing_.size(); ++i)
            for (const Point c : standing_[i].piece->cells) at_[index_of(standing_[i].cell + c)].push_back(i);
    }

    // All heights at which anything begins or ends, and those of storeys in between.
    [[nodiscard]] std::vector<int> heights() const {
        std::set<int> out;
        for (const Standing& s : standing_)
            for (const Turned::Layer& l : s.piece->layers) {
                out.insert(l.from + s.up);
                out.insert(l.to + s.up);
            }
        if (out.empty()) return {};
        for (int y = storey_; y < *out.rbegin(); y += storey_)
            if (y > *out.begin()) out.insert(y);
        return {out.begin(), out.end()};
    }

    // What is filled at a height and, where that is given, not at another one.
    [[nodiscard]] std::vector<outline::Outline> filled(int height, const int* without = nullptr) const {
        const outline::SolidSource source = [&](const Box& cells, outline::SolidCode* out, std::size_t stride,
                                                outline::Forms& forms) {
            std::map<std::tuple<const Turned*, std::size_t, Point>, outline::SolidCode> known;
            for (int y = 0; y < cells.h; ++y)
                for (int x = 0; x < cells.w; ++x) {
                    const Point cell{cells.x + x, cells.y + y};
                    outline::SolidCode& code = out[static_cast<std::size_t>(y) * stride + static_cast<std::size_t>(x)];
                    code = outline::kOpen;
                    if (cell.x < 0 || cell.y < 0 || cell.x >= box_.w || cell.y >= box_.h) continue;
                    each(cell + box_.corner(), height, [&](const Standing& s, std::size_t number, Point part) {
                        const auto [found, fresh] = known.try_emplace({s.piece, number, part}, outline::kOpen);
                        if (fresh)
                            for (const Polygon& p : s.piece->layers[number].by_cell.at(part))
                                found->second = forms.united(found->second, Polygons{p});
                        code = code == outline::kOpen ? found->second : forms.united(code, found->second);
                        const Point first{(s.cell.x - box_.x) * kUnit, (s.cell.y - box_.y) * kUnit};
                        for (const Point bend : s.piece->layers[number].bends) forms.bends.push_back(first + bend);
                    });
                    if (!without || code == outline::kOpen) continue;
                    Polygons covered;
                    each(cell + box_.corner(), *without, [&](const Standing& s, std::size_t number, Point part) {
                        const Polygons& more = s.piece->layers[number].by_cell.at(part);
                        covered.insert(covered.end(), more.begin(), more.end());
                    });
                    if (!covered.empty()) code = forms.without(code, covered);
                }
            return 0;
        };
        std::vector<outline::Outline> out = outline::outlines(outline::trace({box_.w, box_.h}, source));
        for (outline::Outline& o : out)
            for (Point& p : o.points) p = p + Point{box_.x * kUnit, box_.y * kUnit};
        return out;
    }

    [[nodiscard]] int storey_of(int height) const { return std::max(0, floor_div(height, storey_)); }
    [[nodiscard]] int pieces() const { return static_cast<int>(standing_.size()); }
    [[nodiscard]] int open() const { return open_; }

  private:
    [[nodiscard]] std::size_t index_of(Point cell) const {
        return static_cast<std::size_t>(cell.y - box_.y) * static_cast<std::size_t>(box_.w) +
               static_cast<std::size_t>(cell.x - box_.x);
    }
    // visit(piece, its layer, which of the cells round it this is) of what fills part of a cell right above a height.
    template <class Visit>
    void each(Point cell, int height, const Visit& visit) const {
        for (const std::uint32_t i : at_[index_of(cell)]) {
            const Standing& s = standing_[i];
            const std::vector<Turned::Layer>& layers = s.piece->layers;
            const auto layer = std::partition_point(layers.begin(), layers.end(),
                                                    [&](const Turned::Layer& l) { return l.to + s.up <= height; });
            if (layer == layers.end() || layer->from + s.up > height) continue;
            const Point part = cell - s.cell;
            if (layer->by_cell.contains(part)) visit(s, static_cast<std::size_t>(layer - layers.begin()), part);
        }
    }

    int storey_;
    Box box_; // of cells
    int open_ = 0;
    std::vector<std::unique_ptr<Turned>> pieces_;
    std::vector<Standing> standing_;
    std::vector<std::vector<std::uint32_t>> at_; // by cell
};

} // namespace

int storey_units(double cells) { return std::max(1, static_cast<int>(std::lround(cells * kUnit))); }

Mass merged(const std::vector<scene::Placed>& placed,
            const std::vector<std::shared_ptr<const scene::LoadedKit>>& kits) {
    Mass out;
    const Crowd crowd(placed, kits);
    out.pieces = crowd.pieces();
    out.open = crowd.open();
    const std::vector<int> heights = crowd.heights();
    for (std::size_t i = 0; i + 1 < heights.size(); ++i) {
        Slab slab{heights[i], heights[i + 1], crowd.storey_of(heights[i]), crowd.filled(heights[i])};
        if (slab.outlines.empty()) continue;
        Slab* const below = out.slabs.empty() ? nullptr : &out.slabs.back();
        if (below && below->to == slab.from && below->storey == slab.storey && below->outlines == slab.outlines)
            below->to = slab.to;
        else
            out.slabs.push_back(std::move(slab));
    }
    const auto add = [&](int height, bool up, const Slab& slab, std::vector<outline::Outline> outlines) {
        if (!outlines.empty()) out.levels.push_back({height, up, slab.storey, std::move(outlines)});
    };
    for (std::size_t i = 0; i < out.slabs.size(); ++i) {
        const Slab& slab = out.slabs[i];
        const Slab* const below = i > 0 && out.slabs[i - 1].to == slab.from ? &out.slabs[i - 1] : nullptr;
        const Slab* const above =
            i + 1 < out.slabs.size() && out.slabs[i + 1].from == slab.to ? &out.slabs[i + 1] : nullptr;
        // Within a slab all heights are alike: any of them tells what is filled.
        if (!below)
            add(slab.from, false, slab, slab.outlines);
        else if (below->outlines != slab.outlines)
            add(slab.from, false, slab, crowd.filled(slab.from, &below->from));
        if (!above)
            add(slab.to, true, slab, slab.outlines);
        else if (above->outlines != slab.outlines)
            add(slab.to, true, slab, crowd.filled(slab.from, &above->from));
    }
    std::stable_sort(out.levels.begin(), out.levels.end(), [](const Level& a, const Level& b) {
        return std::pair(a.height, !a.up) < std::pair(b.height, !b.up);
    });
    return out;
}

std::int64_t volume2(const Mass& mass) {
    std::int64_t sum = 0;
    for (const Slab& slab : mass.slabs)
        for (const outline::Outline& o : slab.outlines) sum += outline::area2(o) * (slab.to - slab.from);
    return sum;
}

} // namespace vic::mass
