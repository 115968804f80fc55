#include "sheet/cut_candidates.hpp"

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdlib>
#include <functional>
#include <map>
#include <numeric>
#include <utility>

#include "base/geometry.hpp"
#include "base/parallel.hpp"

namespace vic::sheet {

namespace {

constexpr int kLeastStrip = 5; // the height of a strip with a caption, in pixels as drawn
constexpr int kMostStrip = 40;
constexpr int kSampled = 96; // pixels of a line looked at where a sample does

// Without branches: this is asked of very many pixels.
bool close(Rgba a, Rgba b, int tolerance) {
    const bool both_clear = (a.a | b.a) == 0;
    const bool near = (std::abs(a.r - b.r) <= tolerance) & (std::abs(a.g - b.g) <= tolerance) &
                      (std::abs(a.b - b.b) <= tolerance) & (std::abs(a.a - b.a) <= tolerance);
    return both_clear | near;
}

// The colours that some column or row is nearly full of: by majority vote (Boyer and Moore, "MJRTY", 1981), then
// counted. Most columns and rows first.
std::vector<Ground> grounds(const Image& image, int tolerance) {
    std::vector<std::pair<Rgba, int>> tally;
    const auto vote = [&](Rgba colour, int by) {
        for (auto& [known, count] : tally)
            if (close(known, colour, tolerance)) {
                count += by;
                return;
            }
        tally.emplace_back(colour, by);
    };
    // A sample of each line will do; both ways are taken row by row, as the picture lies in memory.
    struct Line {
        Rgba major;
        int lead = 0;
        int same = 0;
        void weigh(Rgba c, int t) {
            if (lead == 0) major = c;
            lead += close(c, major, t) ? 1 : -1;
        }
    };
    std::vector<Line> columns(static_cast<std::size_t>(image.width()));
    const int step_y = std::max(1, image.height() / kSampled);
    const int step_x = std::max(1, image.width() / kSampled);
    const int seen_y = (image.height() + step_y - 1) / step_y;
    const int seen_x = (image.width() + step_x - 1) / step_x;
    for (int y = 0; y < image.height(); y += step_y)
        for (std::size_t x = 0; x < columns.size(); ++x) columns[x].weigh(image.row(y)[x], tolerance);
    for (int y = 0; y < image.height(); y += step_y)
        for (std::size_t x = 0; x < columns.size(); ++x)
            columns[x].same += close(image.row(y)[x], columns[x].major, tolerance);
    const auto judge = [&](const Line& line, int seen) {
        if (line.same * 100 >= seen * 78) vote(line.major.a ? line.major : Rgba{}, 1);
    };
    for (const Line& column : columns) judge(column, seen_y);
    for (int y = 0; y < image.height(); ++y) {
        Line line;
        for (int x = 0; x < image.width(); x += step_x) line.weigh(image.at(x, y), tolerance);
        for (int x = 0; x < image.width(); x += step_x) line.same += close(image.at(x, y), line.major, tolerance);
        judge(line, seen_x);
    }
    std::stable_sort(tally.begin(), tally.end(), [](const auto& a, const auto& b) { return a.second > b.second; });
    std::vector<Ground> out;
    for (const auto& [colour, count] : tally)
        if (out.size() < 3 && (out.empty() || count >= 2)) out.push_back({colour, tolerance});
    return out;
}

std::vector<float> part_of(const std::vector<float>& v, int from, int to) {
    std::vector<float> out(v.begin() + from, v.begin() + to);
    return out;
}

// The means over all rows less those over some of them.
std::vector<float> without(std::vector<float> all, int all_depth, const std::vector<float>& some, int some_depth) {
    for (std::size_t i = 0; i < all.size(); ++i)
        all[i] =
            std::max(0.0F, (all[i] * float(all_depth) - some[i] * float(some_depth)) / float(all_depth - some_depth));
    return all;
}

// Where a strip with a caption may end or begin: where the picture changes most from one row to the next.
std::vector<Band> bands(const SeamProfile& down) {
    const int n = static_cast<int>(down.size());
    std::vector<Band> out{{0, n}};
    const auto strongest = [&](int from, int to, auto&& add) {
        std::vector<int> order;
        for (int y = std::max(from, 1); y < std::min(to, n); ++y) order.push_back(y);
        const auto loud = [&](int y) { return down[static_cast<std::size_t>(y)]; };
        std::sort(order.begin(), order.end(), [&](int a, int b) { return loud(a) > loud(b); });
        for (std::size_t i = 0; i < std::min<std::size_t>(order.size(), 3); ++i) add(order[i]);
    };
    if (n < 4 * kLeastStrip) return out;
    strongest(kLeastStrip, std::min(kMostStrip, n / 3), [&](int y) { out.push_back({y, n}); });
    strongest(n - std::min(kMostStrip, n / 3), n - kLeastStrip, [&](int y) { out.push_back({0, y}); });
    return out;
}

double pair_prior(const AxisFit& x, const AxisFit& y) {
    double p = 0;
    if (x.tile != y.tile) {
        const double ratio = double(std::max(x.tile, y.tile)) / std::min(x.tile, y.tile);
        p -= ratio <= 2 ? 2.9 : ratio < 2.5 ? 3.2 : ratio <= 3 ? 4.5 : ratio <= 4 ? 6.5 : 14.0;
    }
    if ((x.gap == 0) != (y.gap == 0))
        p -= 1.8;
    else if (x.gap != y.gap)
        p -= 1.2;
    if (x.margin != y.margin) p -= 0.6;
    return p;
}

Box outside(const Band& band, Size size) {
    return band.from > 0 ? Box{0, 0, size.w, band.from} : Box{0, band.to, size.w, size.h - band.to};
}

// `goes_on` tells whether the strip beside the band looks like one more row of the lattice.
void add_pairs(std::vector<Candidate>& out, const std::vector<AxisFit>& across, const std::vector<AxisFit>& down,
               Size whole, const Band& band, const std::function<bool(const AxisFit&)>& goes_on) {
    const Size size{whole.w, band.to - band.from};
    const int strip = whole.h - size.h;
    const auto add = [&](const AxisFit& x, AxisFit y, bool on) {
        Candidate c{x, y, 0, std::max(0.0, x.evidence) + std::max(0.0, y.evidence), strip > 0};
        c.score = x.score() + y.score() + pair_prior(x, y);
        if (strip > 0) {
            // A strip just as high as rows of tiles is taken for rows of tiles.
            const int rest = band.from > 0 ? band.from + y.margin : strip + (size.h - y.end());
            const int odd = rest % (y.tile + y.gap);
            const bool rows = strip >= y.tile && (odd == 0 || odd == y.gap || odd == x.margin || odd == y.margin);
            c.score -= rows ? 12.0 : on ? 4.5 : 2.5;
        }
        c.y.margin += band.from;
        out.push_back(c);
    };
    for (const AxisFit& x : across) {
        const bool on = strip > 0 && goes_on(x);
        for (const AxisFit& y : down) add(x, y, on);
    }
    // A picture of one row or column shows its lattice one way only; its tiles are taken to be square.
    const auto single = [](const AxisFit& of, int lines) {
        const int room = lines - of.tile;
        const bool fits = room == 0 || room == of.margin || room == 2 * of.margin || room == of.gap;
        AxisFit one{AxisFit::Kind::single, of.tile, of.gap, room == 2 * of.margin || room == of.margin ? of.margin : 0,
                    1};
        one.prior = fits ? -0.5 : -6;
        return one;
    };
    for (const AxisFit& x : across)
        if (size.h >= x.tile && size.h < 2 * x.tile + x.gap) add(x, single(x, size.h), strip > 0 && goes_on(x));
    for (const AxisFit& y : down)
        if (size.w >= y.tile && size.w < 2 * y.tile + y.gap) add(single(y, size.w), y, true);
}

// Whether the part may hold a caption: most of it has one colour, and what stands on it are thin strokes, not tiles
// that fill it from top to bottom (a last row with few tiles is flat, too).
bool lettered(const Image& image, const Box& part) {
    Rgba major{};
    int lead = 0;
    constexpr int kTolerance = 12;
    for (int y = part.y; y < part.bottom(); ++y)
        for (int x = part.x; x < part.right(); ++x) {
            const Rgba c = image.at(x, y);
            if (lead == 0) major = c;
            lead += close(c, major, kTolerance) ? 1 : -1;
        }
    std::int64_t same = 0;
    int written = 0;
    int full = 0;
    for (int x = part.x; x < part.right(); ++x) {
        int other = 0;
        for (int y = part.y; y < part.bottom(); ++y) other += !close(image.at(x, y), major, kTolerance);
        same += part.h - other;
        written += other > 0;
        full += other * 100 >= part.h * 66;
    }
    return same * 100 >= part.size().area() * 55 && 3 * full <= written;
}

// Whether the lattice of the band goes on in the strip beside it, as far as its columns tell: then the strip is one
// more row of tiles.
bool goes_on(const AxisFit& x, const std::vector<float>& band, const std::vector<float>& strip) {
    double on[2] = {0, 0};
    double off[2] = {0, 0};
    int lines = 0;
    int others = 0;
    for (int i = 1; i < static_cast<int>(band.size()); ++i) {
        const int place = (i - x.margin) % (x.tile + x.gap);
        const bool line = i > x.margin && (x.gap == 0 ? place == 0 : place >= x.tile);
        const auto at = static_cast<std::size_t>(i);
        (line ? on : off)[0] += band[at];
        (line ? on : off)[1] += strip[at];
        ++(line ? lines : others);
    }
    if (lines == 0 || others == 0) return true;
    const auto loud = [&](int which) { return (on[which] / lines + 0.02) / (off[which] / others + 0.02); };
    const double here = std::log(loud(0));
    const double there = std::log(loud(1));
    return std::abs(there) > 0.5 * std::abs(here) && (here < 0) == (there < 0);
}

} // namespace

std::vector<Seams> seams_of(const Image& drawn) {
    std::vector<Seams> out;
    const Size size = drawn.size();
    const SeamProfiles whole = seam_profiles(drawn, box_of(size));
    const BothVotes votes = seam_votes(drawn, box_of(size));
    for (const Band& band : bands(whole.down)) {
        Seams s{band, whole, votes, {}, {}, {}, {}, {}};
        if (band.to - band.from < size.h) {
            const Box rest = outside(band, size);
            if (!lettered(drawn, rest)) continue;
            s.strip = seam_profiles(drawn, rest).across;
            s.profile.across = without(whole.across, size.h, s.strip, rest.h);
            s.profile.down = part_of(whole.down, band.from, band.to);
            s.votes.down = {part_of(votes.down.breaks, band.from, band.to),
                            part_of(votes.down.through, band.from, band.to)};
        }
        // A strip is too small a part of the columns to change what repeats in them.
        s.across_repeats = out.empty() ? repetition(s.profile.across) : out.front().across_repeats;
        s.down_repeats = repetition(s.profile.down);
        s.across = seam_fits(s.profile.across, s.votes.across, s.across_repeats);
        s.down = seam_fits(s.profile.down, s.votes.down, s.down_repeats);
        out.push_back(std::move(s));
    }
    return out;
}

// The profiles of a large picture are counted on two threads; what comes of it is the same.
Grounded grounded(const Image& drawn, int tolerance) {
    Grounded out{grounds(drawn, tolerance), {}};
    out.wholes.resize(out.grounds.size());
    const auto count = [&](std::size_t first, std::size_t step) {
        for (std::size_t i = first; i < out.grounds.size(); i += step)
            out.wholes[i] = art_profiles(drawn, box_of(drawn.size()), out.grounds[i].colour, out.grounds[i].tolerance);
    };
    parallel_both(
        drawn.size().area() >= kLarge && out.grounds.size() > 1, [&] { count(0, 2); }, [&] { count(1, 2); });
    return out;
}

// All readings of the picture as drawn, for one set of grounds.
std::vector<Candidate> candidates(const Image& drawn, const std::vector<Seams>& seams, const Grounded& use,
                                  bool with_seams_alone) {
    std::vector<Candidate> out;
    const Size size = drawn.size();
    if (with_seams_alone)
        for (const Seams& s : seams)
            add_pairs(out, s.across, s.down, size, s.band,
                      [&](const AxisFit& x) { return goes_on(x, s.profile.across, s.strip); });
    for (std::size_t i = 0; i < use.grounds.size(); ++i) {
        const Ground& g = use.grounds[i];
        const ArtProfiles& whole = use.wholes[i];
        for (const Seams& s : seams) {
            ArtProfile across = whole.across;
            ArtProfile down = whole.down;
            std::vector<float> strip;
            if (s.band.to - s.band.from < size.h) {
                const Box rest = outside(s.band, size);
                const ArtProfile other = art_profiles(drawn, rest, g.colour, g.tolerance).across;
                across.art = without(across.art, size.h, other.art, rest.h);
                across.crossing = without(across.crossing, size.h, other.crossing, rest.h);
                strip = other.art;
                down.art = part_of(down.art, s.band.from, s.band.to);
                down.crossing = part_of(down.crossing, s.band.from, s.band.to);
            }
            const auto fx = ground_fits(across, s.across_repeats, g.colour.a == 0);
            const auto fy = ground_fits(down, s.down_repeats, g.colour.a == 0);
            const auto on = [&](const AxisFit& x) {
                return x.kind == AxisFit::Kind::seams ? goes_on(x, s.profile.across, s.strip)
                                                      : goes_on(x, across.art, strip);
            };
            add_pairs(out, fx, fy, size, s.band, on);
            add_pairs(out, fx, s.down, size, s.band, on);
            add_pairs(out, s.across, fy, size, s.band, on);
        }
    }
    return out;
}

} // namespace vic::sheet
