#include "outline/loose.hpp"

#include <algorithm>
#include <cmath>

namespace vic::outline {

namespace {

constexpr std::array<Point, 8> kStep{{{0, -1}, {1, -1}, {1, 0}, {1, 1}, {0, 1}, {-1, 1}, {-1, 0}, {-1, -1}}};

// A line that ends or begins at a point.
struct Arm {
    Point at;
    Point other;      // its far end; for a line of the lattice any point along it
    std::uint8_t way; // the direction of travel, or kLoose
    bool share_empty;
};

std::vector<Form::Span> spans(SolidCode code, int side, const Forms& forms) {
    if (solid_of(code) == kForm) return forms[code].rim[static_cast<std::size_t>(side)];
    if (kCovered[solid_of(code)] & (1U << side)) return {{0, kUnit}};
    return {};
}

bool is_form(SolidCode code) { return solid_of(code) == kForm; }

class Finder {
  public:
    Finder(const CodeWindow& window, const Forms& forms) : window_(window), forms_(forms) {}

    std::vector<Corner> find(std::vector<LooseTurn>& loose) {
        const Point c = window_.corner;
        const int end_x = c.x + window_.side, end_y = c.y + window_.side;
        for (int y = c.y - 1; y < end_y; ++y)
            for (int x = c.x - 1; x < end_x; ++x) {
                if (is_form(window_.at(x, y))) add_inner({x, y});
                // The cell's east and south sides; together with the row above and the column to the left, all that
                // touch a point of the window.
                add_side({x, y}, true);
                add_side({x, y}, false);
            }
        for (int y = c.y; y < end_y; ++y)
            for (int x = c.x; x < end_x; ++x) add_lattice({x, y});
        std::stable_sort(arms_.begin(), arms_.end(), [](const Arm& a, const Arm& b) {
            return std::pair(a.at.y, a.at.x) < std::pair(b.at.y, b.at.x);
        });
        for (std::size_t i = 0; i < arms_.size();) {
            std::size_t j = i;
            while (j < arms_.size() && arms_[j].at == arms_[i].at) ++j;
            join(i, j);
            i = j;
        }
        // Those that corners refer to come first, so that their numbers stay small.
        loose = std::move(at_corners_);
        loose.insert(loose.end(), others_.begin(), others_.end());
        return std::move(corners_);
    }

  private:
    void add_line(Point from, Point to) {
        const auto owned = [&](Point p) {
            const int x = p.x - window_.corner.x * kUnit, y = p.y - window_.corner.y * kUnit;
            return x >= 0 && y >= 0 && x < window_.side * kUnit && y < window_.side * kUnit;
        };
        if (owned(from)) arms_.push_back({from, to, kLoose, true});
        if (owned(to)) arms_.push_back({to, from, kLoose, false});
    }

    void add_inner(Point cell) {
        const Point base{cell.x * kUnit, cell.y * kUnit};
        for (const Form::Edge& e : forms_[window_.at(cell.x, cell.y)].inner) add_line(base + e.from, base + e.to);
    }

    void add_side(Point cell, bool upright) {
        const SolidCode first = window_.at(cell.x, cell.y);
        const SolidCode second = upright ? window_.at(cell.x + 1, cell.y) : window_.at(cell.x, cell.y + 1);
        if (!is_form(first) && !is_form(second)) return;
        const Point base =
            upright ? Point{(cell.x + 1) * kUnit, cell.y * kUnit} : Point{cell.x * kUnit, (cell.y + 1) * kUnit};
        for (const Residue& r : residue(first, second, upright, forms_)) {
            const Point a = base + (upright ? Point{0, r.from} : Point{r.from, 0});
            const Point b = base + (upright ? Point{0, r.to} : Point{r.to, 0});
            // What blocks lies to the right: going down for the left cell, going west for the upper one.
            if (r.of_first == upright)
                add_line(a, b);
            else
                add_line(b, a);
        }
    }

    // Lines of the lattice at a point that a form touches.
    void add_lattice(Point p) {
        const SolidCode a = window_.at(p.x - 1, p.y - 1), b = window_.at(p.x, p.y - 1), c = window_.at(p.x - 1, p.y),
                        d = window_.at(p.x, p.y);
        if (!is_form(a) && !is_form(b) && !is_form(c) && !is_form(d)) return;
        const auto covers = [&](SolidCode code, int side) { return (kCovered[solid_of(code)] >> side & 1) != 0; };
        const auto arm = [&](unsigned way, bool share_empty) {
            const Point at{p.x * kUnit, p.y * kUnit};
            const Point step = kStep[share_empty ? way : (way + 4) & 7];
            arms_.push_back({at, at + step, static_cast<std::uint8_t>(way), share_empty});
        };
        enum : unsigned { N, NE, E, SE, S, SW, W, NW };
        if (!is_form(b) && !is_form(d)) {
            if (covers(d, 0) && !covers(b, 2)) arm(E, true);
            if (covers(b, 2) && !covers(d, 0)) arm(W, false);
        }
        if (!is_form(a) && !is_form(c)) {
            if (covers(c, 0) && !covers(a, 2)) arm(E, false);
            if (covers(a, 2) && !covers(c, 0)) arm(W, true);
        }
        if (!is_form(a) && !is_form(b)) {
            if (covers(a, 1) && !covers(b, 3)) arm(S, false);
            if (covers(b, 3) && !covers(a, 1)) arm(N, true);
        }
        if (!is_form(c) && !is_form(d)) {
            if (covers(c, 1) && !covers(d, 3)) arm(S, true);
            if (covers(d, 3) && !covers(c, 1)) arm(N, false);
        }
        if (solid_of(a) == kSlopeNE) arm(NW, true);
        if (solid_of(a) == kSlopeSW) arm(SE, false);
        if (solid_of(b) == kSlopeSE) arm(NE, true);
        if (solid_of(b) == kSlopeNW) arm(SW, false);
        if (solid_of(c) == kSlopeNW) arm(SW, true);
        if (solid_of(c) == kSlopeSE) arm(NE, false);
        if (solid_of(d) == kSlopeSW) arm(SE, true);
        if (solid_of(d) == kSlopeNE) arm(NW, false);
    }

    // Pairs the lines at one point: what blocks begins at the line one came along and goes round counter-clockwise to
    // the first line that leaves.
    void join(std::size_t begin, std::size_t end) {
        const auto angle = [](const Arm& a) { // clockwise on screen
            return std::atan2(static_cast<double>(a.other.y - a.at.y), static_cast<double>(a.other.x - a.at.x));
        };
        constexpr double kRound = 6.283185307179586;
        for (std::size_t i = begin; i < end; ++i) {
            const Arm& in = arms_[i];
            if (in.share_empty) continue;
            const Arm* out = nullptr;
            double nearest = 3 * kRound;
            for (std::size_t j = begin; j < end; ++j) {
                if (!arms_[j].share_empty) continue;
                double back = angle(in) - angle(arms_[j]);
                if (back <= 1e-9) back += kRound;
                if (back < nearest) {
                    nearest = back;
                    out = &arms_[j];
                }
            }
            if (!out) continue;
            const bool comes_loose = in.way == kLoose, goes_loose = out->way == kLoose;
            if (!comes_loose && !goes_loose && in.way == out->way) continue;
            const LooseTurn turn{comes_loose ? in.other : in.at, in.at, goes_loose ? out->other : in.at};
            if (comes_loose && goes_loose) {
                others_.push_back(turn);
                continue;
            }
            Corner c{static_cast<std::uint16_t>(in.at.x / kUnit), static_cast<std::uint16_t>(in.at.y / kUnit), in.way,
                     out->way};
            if (comes_loose || goes_loose) {
                c.turn = static_cast<std::uint16_t>(at_corners_.size());
                at_corners_.push_back(turn);
            }
            corners_.push_back(c);
        }
    }

    const CodeWindow& window_;
    const Forms& forms_;
    std::vector<Arm> arms_;
    std::vector<LooseTurn> at_corners_, others_;
    std::vector<Corner> corners_;
};

} // namespace

bool covers_side(SolidCode code, int side, const Forms& forms) {
    const auto all = spans(code, side, forms);
    return all.size() == 1 && all[0] == Form::Span{0, kUnit};
}

std::vector<Residue> residue(SolidCode first, SolidCode second, bool upright, const Forms& forms) {
    const auto a = spans(first, upright ? 1 : 2, forms);
    const auto b = spans(second, upright ? 3 : 0, forms);
    std::vector<int> ends;
    for (const auto* side : {&a, &b})
        for (const Form::Span& s : *side) {
            ends.push_back(s.from);
            ends.push_back(s.to);
        }
    std::sort(ends.begin(), ends.end());
    ends.erase(std::unique(ends.begin(), ends.end()), ends.end());
    const auto holds = [](const std::vector<Form::Span>& side, int from) {
        return std::any_of(side.begin(), side.end(), [&](const auto& s) { return s.from <= from && from < s.to; });
    };
    std::vector<Residue> out;
    for (std::size_t i = 0; i + 1 < ends.size(); ++i) {
        const bool in_a = holds(a, ends[i]), in_b = holds(b, ends[i]);
        if (in_a != in_b) out.push_back({ends[i], ends[i + 1], in_a});
    }
    return out;
}

std::vector<Corner> find_loose(const CodeWindow& window, const Forms& forms, std::vector<LooseTurn>& loose) {
    return Finder(window, forms).find(loose);
}

} // namespace vic::outline
