#include "sheet/inspect.hpp"

#include <algorithm>
#include <set>

#include "sheet/cut.hpp"

namespace vic::sheet {

namespace {

constexpr std::size_t kSampledCells = 400; // whose borders tell the commonest colour

// Calls see(pixel) for the pixels of `box` inside the picture until it gives false; tells whether it never did.
template <class See>
bool all_of(const Image& image, const Box& box, See see) {
    const Box inside = intersection(box, box_of(image.size()));
    for (int y = inside.y; y < inside.bottom(); ++y)
        for (int x = inside.x; x < inside.right(); ++x)
            if (!see(image.at(x, y))) return false;
    return true;
}

// How often the colours come; of very many different ones only the first are counted.
class Tally {
  public:
    void add(Rgba c) {
        ++all_;
        if (last_ < counts_.size() && looks_same(counts_[last_].first, c)) {
            ++counts_[last_].second;
            return;
        }
        for (std::size_t i = 0; i < counts_.size(); ++i)
            if (looks_same(counts_[i].first, c)) {
                last_ = i;
                ++counts_[i].second;
                return;
            }
        if (counts_.size() < 24) counts_.emplace_back(c, 1);
    }
    // The commonest, where at least `per_cent` of all have it.
    [[nodiscard]] std::optional<Rgba> most(int per_cent) const {
        const auto most = std::max_element(counts_.begin(), counts_.end(),
                                           [](const auto& a, const auto& b) { return a.second < b.second; });
        if (most == counts_.end() || most->second * 100 < all_ * per_cent) return std::nullopt;
        return most->first;
    }

  private:
    std::vector<std::pair<Rgba, std::int64_t>> counts_;
    std::size_t last_ = 0;
    std::int64_t all_ = 0;
};

// The line of pixels of a cell on one side (0 north, 1 east, 2 south, 3 west), `out` pixels outside it (0: its own).
Box side_line(const Box& b, int side, int out) {
    switch (side) {
        case 0:
            return {b.x, b.y - out, b.w, 1};
        case 1:
            return {b.right() - 1 + out, b.y, 1, b.h};
        case 2:
            return {b.x, b.bottom() - 1 + out, b.w, 1};
        default:
            return {b.x - out, b.y, 1, b.h};
    }
}

std::vector<int> over_gaps(const Image& image, const level::Cut& cut, Rgba gutter) {
    const auto boxes = cut_boxes(cut, image.size());
    const int columns = columns_rows(cut, image.size()).w;
    const auto plain = [&](const Box& line) {
        return all_of(image, line, [&](Rgba c) { return looks_same(c, gutter); });
    };
    std::set<int> found;
    for (std::size_t i = 0; i < boxes.size(); ++i) {
        const int cell = static_cast<int>(i);
        for (int side = 0; side < 4; ++side) {
            const int gap = side % 2 ? cut.spacing.x : cut.spacing.y;
            if (gap == 0 || plain(side_line(boxes[i], side, 1))) continue;
            const int step[4] = {-columns, 1, columns, -1};
            const int other = cell + step[side];
            const bool there = other >= 0 && other < static_cast<int>(boxes.size()) &&
                               (side % 2 == 0 || other / columns == cell / columns);
            // A gap of one pixel is beside two cells: the one whose art stops short at its far side was shifted.
            if (gap == 1 && there) {
                const bool this_shifted = plain(side_line(boxes[i], (side + 2) % 4, 0));
                const bool other_shifted = plain(side_line(boxes[static_cast<std::size_t>(other)], side, 0));
                if (other_shifted && !this_shifted) continue;
                // Where neither is shifted, the cell before the gap has grown over it.
                if (!other_shifted && !this_shifted && (side == 0 || side == 3)) continue;
            }
            found.insert(cell);
        }
    }
    return {found.begin(), found.end()};
}

std::vector<int> over_lines(const Image& image, const level::Cut& cut) {
    const auto boxes = cut_boxes(cut, image.size());
    const int columns = columns_rows(cut, image.size()).w;
    // The ground that things stand on: the commonest colour along the cells' borders.
    Tally tally;
    for (std::size_t i = 0; i < boxes.size(); i += std::max<std::size_t>(1, boxes.size() / kSampledCells))
        for (int side = 0; side < 4; ++side)
            all_of(image, side_line(boxes[i], side, 0), [&](Rgba c) {
                tally.add(c);
                return true;
            });
    const auto ground = tally.most(20);
    if (!ground) return {};
    std::set<int> found;
    int borders = 0;
    int crossed = 0;
    for (std::size_t i = 0; i < boxes.size(); ++i) {
        for (const int side : {1, 2}) {
            const int other = static_cast<int>(i) + (side == 1 ? 1 : columns);
            if (other >= static_cast<int>(boxes.size()) || (side == 1 && other % columns == 0)) continue;
            ++borders;
            const Box here = side_line(boxes[i], side, 0);
            const Point across = side == 1 ? Point{1, 0} : Point{0, 1};
            bool meets = false;
            for (int k = 0; k < (side == 1 ? here.h : here.w) && !meets; ++k) {
                const Point p{here.x + (side == 1 ? 0 : k), here.y + (side == 1 ? k : 0)};
                meets = !looks_same(image.at(p.x, p.y), *ground) &&
                        !looks_same(image.at(p.x + across.x, p.y + across.y), *ground);
            }
            if (!meets) continue;
            ++crossed;
            found.insert(static_cast<int>(i));
            found.insert(other);
        }
    }
    // Where art meets on many lines, it is meant to.
    if (5 * crossed > borders) return {};
    return {found.begin(), found.end()};
}

} // namespace

std::optional<Rgba> gap_colour(const Image& image, const level::Cut& cut) {
    if (cut.spacing.x == 0 && cut.spacing.y == 0) return std::nullopt;
    Tally tally;
    const auto boxes = cut_boxes(cut, image.size());
    for (std::size_t i = 0; i < boxes.size(); i += std::max<std::size_t>(1, boxes.size() / kSampledCells)) {
        const Box& b = boxes[i];
        for (const int side : {1, 2}) {
            if ((side == 1 ? cut.spacing.x : cut.spacing.y) == 0) continue;
            all_of(image, side_line(b, side, 1), [&](Rgba c) {
                tally.add(c);
                return true;
            });
        }
    }
    return tally.most(70);
}

bool is_blank(const Image& image, const Box& box, const std::optional<Rgba>& gaps) {
    return all_of(image, box, [](Rgba c) { return c.a == 0; }) ||
           (gaps && all_of(image, box, [&](Rgba c) { return looks_same(c, *gaps); }));
}

std::vector<int> straddling_cells(const Image& image, const level::Cut& cut) {
    if (cut.spacing.x == 0 && cut.spacing.y == 0) return over_lines(image, cut);
    const auto gutter = gap_colour(image, cut);
    return gutter ? over_gaps(image, cut, *gutter) : std::vector<int>();
}

} // namespace vic::sheet
