#include "mass/merge.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <mutex>
#include <set>
#include <tuple>
#include <utility>

#include "base/parallel.hpp"
#include "outline/free.hpp"

namespace vic::mass {

namespace {

using level::Polygon;
using level::Polygons;
using outline::kUnit;

// What of a section lies in one cell, in units from the cell's own corner.
struct Part {
    Polygons polygons;
    std::uint32_t number = 0; // of all parts of all pieces
};

// A piece as it is turned: what of each section lies in which of the cells round it.
struct Turned {
    struct Layer {
        int from = 0, to = 0;
        std::map<Point, Part> by_cell; // cells from the piece's first
        std::vector<Point> bends;      // corners that only the lattice made, in units from the piece's first cell
    };
    std::vector<Layer> layers;
    std::set<Point> cells; // all that any of them touches
};

// A place of a piece of `size` cells as it is laid, from the corner of those that it lies on: about their middle it is
// mirrored first, then turned to the right.
Point laid(Point p, Size size, Size on, Turn turn) {
    const Point middle{on.w * kUnit / 2, on.h * kUnit / 2};
    p = p - Point{size.w * kUnit / 2, size.h * kUnit / 2};
    if (turn.mirrored()) p.x = -p.x;
    for (int i = 0; i < turn.quarters(); ++i) p = {-p.y, p.x};
    return p + middle;
}

Turned turned(const Sections& sections, Size size, Size on, Turn turn) {
    Turned out;
    for (const Section& s : sections.all) {
        Turned::Layer& layer = out.layers.emplace_back();
        layer.from = s.from;
        layer.to = s.to;
        for (Polygon polygon : s.polygons) {
            for (Point& p : polygon) p = laid(p, size, on, turn);
            if (turn.mirrored()) std::reverse(polygon.begin(), polygon.end());
            Box round{0, 0, 0, 0};
            for (const Point p : polygon) {
                const Point cell{floor_div(p.x, kUnit), floor_div(p.y, kUnit)};
                round = united(round, {cell.x, cell.y, 1, 1});
            }
            for (outline::CellPiece& piece : outline::by_cells(polygon, round)) {
                for (const Point bend : piece.bends)
                    layer.bends.push_back({piece.cell.x * kUnit + bend.x, piece.cell.y * kUnit + bend.y});
                layer.by_cell[piece.cell].polygons.push_back(std::move(piece.polygon));
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
    Crowd(const std::vector<scene::Placed>& placed, const std::vector<std::shared_ptr<const scene::LoadedKit>>& kits,
          const scene::Storeys& storeys) {
        for (int storey = 0; storey <= level::kMostStorey; ++storey) {
            const int low = static_cast<int>(std::lround(storeys.low(storey) * kUnit));
            lows_.push_back(storey == 0 ? 0 : std::max(low, lows_.back() + 1));
        }
        std::map<std::pair<std::size_t, std::size_t>, Sections> sections;
        std::map<std::tuple<std::size_t, std::size_t, int>, const Turned*> known;
        for (const scene::Placed& p : placed) {
            const auto [cut, fresh] = sections.try_emplace({p.kit, p.piece});
            if (fresh) cut->second = sections_of(scene::blocking_model_of(*kits[p.kit], p.piece));
            const auto own = kits[p.kit]->blocking.find(p.piece);
            if (own != kits[p.kit]->blocking.end() && own->second.blocks == level::PieceBlocks::nothing) continue;
            open_ += cut->second.open > 0 || cut->second.all.empty() ? 1 : 0;
            if (cut->second.all.empty()) continue;
            const Turned*& piece = known[{p.kit, p.piece, p.turn.code}];
            if (!piece) {
                pieces_.push_back(std::make_unique<Turned>(
                    turned(cut->second, kits[p.kit]->read.pieces[p.piece].cells, p.cells.size(), p.turn)));
                for (Turned::Layer& layer : pieces_.back()->layers)
                    for (auto& [cell, part] : layer.by_cell) {
                        part.number = static_cast<std::uint32_t>(parts_.size());
                        parts_.push_back(std::move(part.polygons));
                    }
                piece = pieces_.back().get();
            }
            standing_.push_back({piece, p.cells.corner(), lows_[static_cast<std::size_t>(p.storey)]});
            for (const Point c : piece->cells) box_ = united(box_, {p.cells.x + c.x, p.cells.y + c.y, 1, 1});
        }
        first_.assign(static_cast<std::size_t>(box_.size().area()) + 1, 0);
        for (const Standing& s : standing_)
            for (const Point c : s.piece->cells) ++first_[index_of(s.cell + c) + 1];
        for (std::size_t i = 1; i < first_.size(); ++i) first_[i] += first_[i - 1];
        at_.resize(first_.back());
        std::vector<std::uint32_t> next(first_.begin(), first_.end() - 1);
        for (std::uint32_t i = 0; i < standing_.size(); ++i)
            for (const Point c : standing_[i].piece->cells) at_[next[index_of(standing_[i].cell + c)]++] = i;
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
        const int least = *out.begin(), most = *out.rbegin();
        for (const int y : lows_)
            if (y > least && y < most && y > 0) out.insert(y);
        return {out.begin(), out.end()};
    }

    // What is filled at a height and, where that is given, not at another one.
    [[nodiscard]] std::vector<outline::Outline> filled(int height, const int* without = nullptr) const {
        const outline::SolidSource source = [&](const Box& cells, outline::SolidCode* out, std::size_t stride,
                                                outline::Forms& forms) {
            std::map<const Filled*, outline::SolidCode> codes; // of the forms that these cells have
            Stack stack, not_in;
            for (int y = 0; y < cells.h; ++y)
                for (int x = 0; x < cells.w; ++x) {
                    const Point cell{cells.x + x, cells.y + y};
                    outline::SolidCode& code = out[static_cast<std::size_t>(y) * stride + static_cast<std::size_t>(x)];
                    code = outline::kOpen;
                    if (cell.x < 0 || cell.y < 0 || cell.x >= box_.w || cell.y >= box_.h) continue;
                    take(cell + box_.corner(), height, stack, &forms.bends);
                    if (stack.empty()) continue;
                    if (without) take(cell + box_.corner(), *without, not_in, nullptr);
                    const Filled& known = what(stack, not_in);
                    code = known.code;
                    if (outline::solid_of(code) != outline::kForm) continue;
                    const auto [found, fresh] = codes.try_emplace(&known, code);
                    if (fresh) found->second = forms.put(known.form);
                    code = found->second;
                }
            return 0;
        };
        std::vector<outline::Outline> out = outline::outlines(outline::trace({box_.w, box_.h}, source));
        for (outline::Outline& o : out)
            for (Point& p : o.points) p = p + Point{box_.x * kUnit, box_.y * kUnit};
        return out;
    }

    [[nodiscard]] int storey_of(int height) const {
        const auto above = std::upper_bound(lows_.begin(), lows_.end(), height);
        return std::max(0, static_cast<int>(above - lows_.begin()) - 1);
    }
    [[nodiscard]] int pieces() const { return static_cast<int>(standing_.size()); }
    [[nodiscard]] int open() const { return open_; }

  private:
    [[nodiscard]] std::size_t index_of(Point cell) const {
        return static_cast<std::size_t>(cell.y - box_.y) * static_cast<std::size_t>(box_.w) +
               static_cast<std::size_t>(cell.x - box_.x);
    }
    // What fills a cell right above a height: numbers of parts of pieces, each once.
    using Stack = std::vector<std::uint32_t>;
    void take(Point cell, int height, Stack& out, std::vector<Point>* bends) const {
        out.clear();
        const std::size_t index = index_of(cell);
        for (std::uint32_t i = first_[index]; i < first_[index + 1]; ++i) {
            const Standing& s = standing_[at_[i]];
            const std::vector<Turned::Layer>& layers = s.piece->layers;
            const auto at = std::partition_point(layers.begin(), layers.end(),
                                                 [&](const Turned::Layer& l) { return l.to + s.up <= height; });
            if (at == layers.end() || at->from + s.up > height) continue;
            const auto part = at->by_cell.find(cell - s.cell);
            if (part == at->by_cell.end()) continue;
            out.push_back(part->second.number);
            if (!bends) continue;
            const Point first{(s.cell.x - box_.x) * kUnit, (s.cell.y - box_.y) * kUnit};
            for (const Point bend : at->bends) bends->push_back(first + bend);
        }
        std::sort(out.begin(), out.end());
        out.erase(std::unique(out.begin(), out.end()), out.end());
    }

    // What parts come to in a cell, less others. The same stand in many cells, and at many heights: each is worked out
    // once.
    struct Filled {
        outline::SolidCode code = outline::kOpen;
        outline::Form form; // where it is one
    };
    const Filled& what(const Stack& parts, const Stack& less) const {
        const std::pair key(parts, less);
        {
            const std::lock_guard lock(known_guard_);
            if (const auto found = known_.find(key); found != known_.end()) return *found->second;
        }
        auto made = std::make_unique<Filled>();
        if (parts != less) {
            outline::Forms forms;
            Polygons all, gone;
            for (const std::uint32_t number : parts)
                all.insert(all.end(), parts_[number].begin(), parts_[number].end());
            for (const std::uint32_t number : less)
                gone.insert(gone.end(), parts_[number].begin(), parts_[number].end());
            made->code = forms.united(outline::kOpen, std::move(all));
            if (!gone.empty()) made->code = forms.without(made->code, gone);
            if (outline::solid_of(made->code) == outline::kForm) made->form = forms[made->code];
        }
        const std::lock_guard lock(known_guard_);
        return *known_.try_emplace(key, std::move(made)).first->second;
    }

    std::vector<int> lows_; // of storeys
    Box box_;               // of cells
    int open_ = 0;
    std::vector<std::unique_ptr<Turned>> pieces_;
    std::vector<Standing> standing_;
    std::vector<std::uint32_t> first_; // by cell: where those that touch it begin in at_; and their end
    std::vector<std::uint32_t> at_;
    std::vector<Polygons> parts_; // by number, in units from the cell's corner
    mutable std::mutex known_guard_;
    mutable std::map<std::pair<Stack, Stack>, std::unique_ptr<Filled>> known_;
};

} // namespace

Mass merged(const std::vector<scene::Placed>& placed, const std::vector<std::shared_ptr<const scene::LoadedKit>>& kits,
            const scene::Storeys& storeys) {
    Mass out;
    const Crowd crowd(placed, kits, storeys);
    out.pieces = crowd.pieces();
    out.open = crowd.open();
    const std::vector<int> heights = crowd.heights();
    if (heights.empty()) return out;
    // Each height is by itself, and so on any thread.
    constexpr int kWorthwhile = 100; // pieces from which on a second one is worth its while
    const bool large = out.pieces >= kWorthwhile;
    std::vector<std::vector<outline::Outline>> at(heights.size() - 1);
    parallel_pieces(0, static_cast<int>(at.size()), large, [&](int, int from, int to) {
        for (int i = from; i < to; ++i)
            at[static_cast<std::size_t>(i)] = crowd.filled(heights[static_cast<std::size_t>(i)]);
    });
    for (std::size_t i = 0; i < at.size(); ++i) {
        if (at[i].empty()) continue;
        Slab slab{heights[i], heights[i + 1], crowd.storey_of(heights[i]), std::move(at[i])};
        Slab* const below = out.slabs.empty() ? nullptr : &out.slabs.back();
        if (below && below->to == slab.from && below->storey == slab.storey && below->outlines == slab.outlines)
            below->to = slab.to;
        else
            out.slabs.push_back(std::move(slab));
    }
    // Within a slab all heights are alike: any of them tells what is filled.
    struct Bound {
        Level level;
        const Slab* slab;
        const Slab* next; // beyond the surface; null where nothing is
    };
    std::vector<Bound> bounds;
    for (std::size_t i = 0; i < out.slabs.size(); ++i) {
        const Slab& slab = out.slabs[i];
        const Slab* const below = i > 0 && out.slabs[i - 1].to == slab.from ? &out.slabs[i - 1] : nullptr;
        const Slab* const above =
            i + 1 < out.slabs.size() && out.slabs[i + 1].from == slab.to ? &out.slabs[i + 1] : nullptr;
        if (!below || below->outlines != slab.outlines)
            bounds.push_back({{slab.from, false, slab.storey, {}}, &slab, below});
        if (!above || above->outlines != slab.outlines)
            bounds.push_back({{slab.to, true, slab.storey, {}}, &slab, above});
    }
    parallel_pieces(0, static_cast<int>(bounds.size()), large, [&](int, int from, int to) {
        for (int i = from; i < to; ++i) {
            Bound& b = bounds[static_cast<std::size_t>(i)];
            b.level.outlines = b.next ? crowd.filled(b.slab->from, &b.next->from) : b.slab->outlines;
        }
    });
    for (Bound& b : bounds)
        if (!b.level.outlines.empty()) out.levels.push_back(std::move(b.level));
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
