#include "outline/rectangles.hpp"

#include <algorithm>
#include <cstddef>
#include <limits>

namespace vic::outline {

namespace {

// A cut along the lattice between two dents, level or upright: from `from` to `to` along the line `line`.
struct Chord {
    int line, from, to;
};

// Full cells with a rim of open ones, so that every lattice point has four.
class Mass {
  public:
    Mass(Size cells, const std::vector<std::uint8_t>& full)
        : cells_(cells), stride_(static_cast<std::size_t>(cells.w) + 2) {
        at_.assign(stride_ * (static_cast<std::size_t>(cells.h) + 2), 0);
        for (int y = 0; y < cells.h; ++y)
            for (int x = 0; x < cells.w; ++x)
                at_[index(x, y)] = full[static_cast<std::size_t>(y) * static_cast<std::size_t>(cells.w) +
                                        static_cast<std::size_t>(x)] != 0;
    }
    [[nodiscard]] std::size_t index(int x, int y) const {
        return static_cast<std::size_t>(y + 1) * stride_ + static_cast<std::size_t>(x + 1);
    }
    [[nodiscard]] bool full(int x, int y) const { return at_[index(x, y)] != 0; }
    // Of the four cells around a lattice point all but one are full.
    [[nodiscard]] bool dent(int x, int y) const {
        return full(x - 1, y - 1) + full(x, y - 1) + full(x - 1, y) + full(x, y) == 3;
    }
    [[nodiscard]] Size cells() const { return cells_; }

  private:
    Size cells_;
    std::size_t stride_;
    std::vector<std::uint8_t> at_;
};

// The cuts from dent to dent along level lines, or upright ones. No two along one line meet: a dent is open to one
// side.
std::vector<Chord> chords(const Mass& mass, bool level) {
    std::vector<Chord> out;
    const int lines = level ? mass.cells().h : mass.cells().w, length = level ? mass.cells().w : mass.cells().h;
    const auto inside = [&](int line, int at) { // whether the stretch from `at` on lies in the mass
        return level ? mass.full(at, line - 1) && mass.full(at, line) : mass.full(line - 1, at) && mass.full(line, at);
    };
    for (int line = 1; line < lines; ++line) {
        int from = -1;
        for (int at = 1; at < length; ++at) {
            if (from >= 0 && !inside(line, at - 1)) from = -1;
            if (!(level ? mass.dent(at, line) : mass.dent(line, at))) continue;
            if (from >= 0) out.push_back({line, from, at});
            from = inside(line, at) ? at : -1;
        }
    }
    return out;
}

// Level chords against the upright ones they meet: the largest matching, and which chords no two of which meet are the
// most (D. König).
class Matching {
  public:
    Matching(const std::vector<Chord>& level, const std::vector<Chord>& upright, Size cells) {
        const std::size_t stride = static_cast<std::size_t>(cells.w) + 1;
        std::vector<std::uint32_t> there(stride * (static_cast<std::size_t>(cells.h) + 1), kNone);
        for (std::size_t v = 0; v < upright.size(); ++v)
            for (int y = upright[v].from; y <= upright[v].to; ++y)
                there[static_cast<std::size_t>(y) * stride + static_cast<std::size_t>(upright[v].line)] =
                    static_cast<std::uint32_t>(v);
        first_.push_back(0);
        for (const Chord& c : level) {
            for (int x = c.from; x <= c.to; ++x)
                if (const std::uint32_t v =
                        there[static_cast<std::size_t>(c.line) * stride + static_cast<std::size_t>(x)];
                    v != kNone)
                    meets_.push_back(v);
            first_.push_back(meets_.size());
        }
        of_level_.assign(level.size(), kNone);
        of_upright_.assign(upright.size(), kNone);
        match();
    }

    [[nodiscard]] std::size_t size() const { return size_; }

    // Level and upright ones that are kept.
    void independent(std::vector<bool>& level, std::vector<bool>& upright) const {
        // From the level ones without a partner along ways that change between being matched and not: what is reached
        // of the level ones stays, of the upright ones goes.
        level.assign(of_level_.size(), false);
        upright.assign(of_upright_.size(), true);
        std::vector<std::uint32_t> open;
        for (std::size_t i = 0; i < of_level_.size(); ++i)
            if (of_level_[i] == kNone) {
                level[i] = true;
                open.push_back(static_cast<std::uint32_t>(i));
            }
        while (!open.empty()) {
            const std::size_t i = open.back();
            open.pop_back();
            for (std::size_t k = first_[i]; k < first_[i + 1]; ++k) {
                const std::uint32_t v = meets_[k];
                if (!upright[v]) continue;
                upright[v] = false;
                const std::uint32_t next = of_upright_[v];
                if (next != kNone && !level[next]) {
                    level[next] = true;
                    open.push_back(next);
                }
            }
        }
    }

  private:
    static constexpr std::uint32_t kNone = std::numeric_limits<std::uint32_t>::max();

    void match() {
        // Whoever finds a free partner takes it; few ways have to be changed then.
        for (std::size_t i = 0; i < of_level_.size(); ++i)
            for (std::size_t k = first_[i]; k < first_[i + 1]; ++k)
                if (of_upright_[meets_[k]] == kNone) {
                    of_level_[i] = meets_[k];
                    of_upright_[meets_[k]] = static_cast<std::uint32_t>(i);
                    ++size_;
                    break;
                }
        std::vector<std::uint32_t> depth(of_level_.size()), queue;
        std::vector<std::size_t> next(of_level_.size());
        for (bool more = true; more;) {
            more = false;
            std::fill(depth.begin(), depth.end(), kNone);
            queue.clear();
            for (std::size_t i = 0; i < of_level_.size(); ++i)
                if (of_level_[i] == kNone) {
                    depth[i] = 0;
                    queue.push_back(static_cast<std::uint32_t>(i));
                }
            bool found = false;
            for (std::size_t q = 0; q < queue.size(); ++q)
                for (std::size_t k = first_[queue[q]]; k < first_[queue[q] + 1]; ++k) {
                    const std::uint32_t other = of_upright_[meets_[k]];
                    if (other == kNone)
                        found = true;
                    else if (depth[other] == kNone) {
                        depth[other] = depth[queue[q]] + 1;
                        queue.push_back(other);
                    }
                }
            if (!found) return;
            for (std::size_t i = 0; i < next.size(); ++i) next[i] = first_[i];
            for (std::size_t i = 0; i < of_level_.size(); ++i)
                if (of_level_[i] == kNone && augment(static_cast<std::uint32_t>(i), depth, next)) {
                    ++size_;
                    more = true;
                }
        }
    }

    // Along the layers of `depth`; without recursion, for ways may be long.
    bool augment(std::uint32_t root, std::vector<std::uint32_t>& depth, std::vector<std::size_t>& next) {
        std::vector<std::uint32_t> way{root};
        while (!way.empty()) {
            const std::uint32_t i = way.back();
            if (next[i] == first_[i + 1]) {
                depth[i] = kNone; // leads nowhere
                way.pop_back();
                if (!way.empty()) ++next[way.back()];
                continue;
            }
            const std::uint32_t other = of_upright_[meets_[next[i]]];
            if (other == kNone) {
                for (const std::uint32_t step : way) {
                    of_level_[step] = meets_[next[step]];
                    of_upright_[meets_[next[step]]] = step;
                }
                return true;
            }
            if (depth[other] == depth[i] + 1)
                way.push_back(other);
            else
                ++next[i];
        }
        return false;
    }

    std::vector<std::size_t> first_; // into meets_, by level chord
    std::vector<std::uint32_t> meets_;
    std::vector<std::uint32_t> of_level_, of_upright_;
    std::size_t size_ = 0;
};

constexpr std::uint8_t kCutAbove = 1, kCutLeft = 2;

} // namespace

std::vector<Box> fewest_rectangles(Size cells, const std::vector<std::uint8_t>& full) {
    std::vector<Box> out;
    if (cells.empty()) return out;
    const Mass mass(cells, full);
    const std::vector<Chord> level = chords(mass, true), upright = chords(mass, false);
    std::vector<bool> keeps_level, keeps_upright;
    Matching(level, upright, cells).independent(keeps_level, keeps_upright);

    const auto width = static_cast<std::size_t>(cells.w) + 1;
    std::vector<std::uint8_t> cuts(width * (static_cast<std::size_t>(cells.h) + 1), 0);
    std::vector<bool> settled(cuts.size(), false); // dents that a cut ends in
    const auto at = [&](int x, int y) { return static_cast<std::size_t>(y) * width + static_cast<std::size_t>(x); };
    for (std::size_t i = 0; i < level.size(); ++i)
        if (keeps_level[i]) {
            for (int x = level[i].from; x < level[i].to; ++x) cuts[at(x, level[i].line)] |= kCutAbove;
            settled[at(level[i].from, level[i].line)] = settled[at(level[i].to, level[i].line)] = true;
        }
    for (std::size_t i = 0; i < upright.size(); ++i)
        if (keeps_upright[i]) {
            for (int y = upright[i].from; y < upright[i].to; ++y) cuts[at(upright[i].line, y)] |= kCutLeft;
            settled[at(upright[i].line, upright[i].from)] = settled[at(upright[i].line, upright[i].to)] = true;
        }
    // The other dents are cut off along their level line, up to what is there.
    for (int y = 1; y < cells.h; ++y)
        for (int x = 1; x < cells.w; ++x) {
            if (settled[at(x, y)] || !mass.dent(x, y)) continue;
            const bool right = mass.full(x, y - 1) && mass.full(x, y);
            for (int cell = right ? x : x - 1; mass.full(cell, y - 1) && mass.full(cell, y); cell += right ? 1 : -1) {
                if ((cuts[at(cell, y)] & kCutAbove) != 0) break;
                cuts[at(cell, y)] |= kCutAbove;
                const int edge = right ? cell + 1 : cell; // an upright cut there ends it
                if ((cuts[at(edge, y)] & kCutLeft) != 0 && (cuts[at(edge, y - 1)] & kCutLeft) != 0) break;
            }
        }
    std::vector<bool> taken(static_cast<std::size_t>(cells.area()), false);
    const auto cell = [&](int x, int y) {
        return static_cast<std::size_t>(y) * static_cast<std::size_t>(cells.w) + static_cast<std::size_t>(x);
    };
    for (int y = 0; y < cells.h; ++y)
        for (int x = 0; x < cells.w; ++x) {
            if (!mass.full(x, y) || taken[cell(x, y)]) continue;
            Box box{x, y, 1, 1};
            while (mass.full(box.right(), y) && !taken[cell(std::min(box.right(), cells.w - 1), y)] &&
                   (cuts[at(box.right(), y)] & kCutLeft) == 0)
                ++box.w;
            while (mass.full(x, box.bottom()) && (cuts[at(x, box.bottom())] & kCutAbove) == 0) ++box.h;
            for (int v = box.y; v < box.bottom(); ++v)
                for (int u = box.x; u < box.right(); ++u) taken[cell(u, v)] = true;
            out.push_back(box);
        }
    return out;
}

} // namespace vic::outline
