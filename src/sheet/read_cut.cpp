#include "sheet/read_cut.hpp"

#include <algorithm>
#include <cmath>
#include <functional>
#include <map>
#include <numeric>

#include "base/parallel.hpp"
#include "sheet/axis.hpp"
#include "sheet/cut.hpp"
#include "sheet/inspect.hpp"
#include "sheet/ruled.hpp"

namespace vic::sheet {

namespace {

constexpr std::int64_t kLarge = 1 << 20; // pixels from which a second thread is worth its while

constexpr double kNothing = 0.02; // below this a proposal is a guess
constexpr double kTorn = 0.75;    // confidence at most where two ways of reading differ

constexpr int kLeastStrip = 5; // the height of a strip with a caption, in pixels as drawn
constexpr int kMostStrip = 40;
constexpr int kSampled = 96; // pixels of a line looked at where a sample does

// What may lie between the tiles.
struct Ground {
    Rgba colour;
    int tolerance = 0;
};

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

// Rows of the picture that hold the lattice; what is above or below may be a caption.
struct Band {
    int from = 0;
    int to = 0;
};

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

struct Candidate {
    AxisFit x, y;
    double score = 0;
    double evidence = 0;
    bool strip = false; // something above or below the lattice is no part of it
    bool rules = false; // the gaps are lines of one colour
};

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

Text pixels_word(Point v) { return v.x == v.y ? say("%1 px", v.x) : say("%1 and %2 px", v.x, v.y); }

CutReading reading_of(const Candidate& c, int scale, Size image, bool cut_off) {
    CutReading out;
    out.cut = {{c.x.tile * scale, c.y.tile * scale},
               {c.x.margin * scale, c.y.margin * scale},
               {c.x.gap * scale, c.y.gap * scale},
               scale};
    const Size most = columns_rows(out.cut, image);
    out.columns = c.x.count;
    out.rows = c.y.count;
    // Only what is fewer than would fit is worth saying.
    if (out.columns < most.w) out.cut.count.w = out.columns;
    if (out.rows < most.h) out.cut.count.h = out.rows;
    const Size tile = out.cut.tile;
    const auto every = [&](const AxisFit& f) { return (f.tile + f.gap) * scale; };
    if (c.rules && every(c.x) == every(c.y)) {
        out.reason = say("ruled with lines of %1 every %2 px", pixels_word(out.cut.spacing), every(c.x));
    } else if (c.rules) {
        out.reason = say("ruled with lines of %1 every %2 px across and every %3 px down", pixels_word(out.cut.spacing),
                         every(c.x), every(c.y));
    } else if (c.x.gap || c.y.gap) {
        if (every(c.x) == every(c.y))
            out.reason = say("gaps of %1 every %2 px", pixels_word(out.cut.spacing), every(c.x));
        else
            out.reason = say("gaps of %1 every %2 px across and every %3 px down", pixels_word(out.cut.spacing),
                             every(c.x), every(c.y));
    } else if (c.x.kind == AxisFit::Kind::clear || c.y.kind == AxisFit::Kind::clear) {
        out.reason = tile.w == tile.h ? say("things keep within cells of %1 px", tile.w)
                                      : say("things keep within cells of %1 × %2 px", tile.w, tile.h);
    } else {
        out.reason =
            tile.w == tile.h ? say("seams every %1 px", tile.w) : say("seams every %1 × %2 px", tile.w, tile.h);
    }
    if (c.strip && c.y.margin > 0)
        out.reason = say("%1, below a strip of %2 px", out.reason, c.y.margin * scale);
    else if (c.x.margin || c.y.margin)
        out.reason = say("%1, a margin of %2", out.reason, pixels_word(out.cut.margin));
    if (c.strip && c.y.margin == 0) out.reason = say("%1, above a strip that is no part of it", out.reason);
    if (scale > 1) out.reason = say("%1, enlarged ×%2", out.reason, scale);
    if (cut_off) out.reason = say("%1; the last tiles are cut off", out.reason);
    return out;
}

// What is told by differences alone, for one band of rows.
struct Seams {
    Band band;
    SeamProfiles profile;
    BothVotes votes;
    SeamProfile strip; // of the rows outside the band
    std::vector<double> across_repeats, down_repeats;
    std::vector<AxisFit> across, down;
};

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

// Grounds with how the art lies on them.
struct Grounded {
    std::vector<Ground> grounds;
    std::vector<ArtProfiles> wholes;
};

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
            const auto fx = ground_fits(across, s.across_repeats);
            const auto fy = ground_fits(down, s.down_repeats);
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

} // namespace

int read_scale(const Image& image) {
    // Blocks larger than sixteen are flat tiles, not enlarged pixels.
    constexpr int kMostScale = 16;
    int factor = 0;
    int changes = 0;
    for (int y = 0; y < image.height() && factor != 1; ++y)
        for (int x = 1; x < image.width(); ++x)
            if ((factor == 0 || x % factor != 0) && !looks_same(image.at(x, y), image.at(x - 1, y))) {
                factor = std::gcd(factor, x);
                ++changes;
            }
    for (int y = 1; y < image.height() && factor != 1; ++y)
        for (int x = 0; x < image.width(); ++x)
            if ((factor == 0 || y % factor != 0) && !looks_same(image.at(x, y), image.at(x, y - 1))) {
                factor = std::gcd(factor, y);
                ++changes;
                break;
            }
    if (changes == 0) return 1;
    if (image.width() % factor != 0 || image.height() % factor != 0)
        factor = std::gcd(factor, std::gcd(image.width(), image.height()));
    return factor <= kMostScale ? std::max(factor, 1) : 1;
}

std::optional<level::Cut> cells_read(const SheetReading& reading) {
    constexpr double kClear = 0.5;
    if (!reading.best || reading.best->confidence < kClear) return std::nullopt;
    return reading.best->cut;
}

SheetReading read_cut(const Image& image) {
    SheetReading out;
    if (image.empty() || (image.width() < kLeastTile && image.height() < kLeastTile)) return out;
    int scale = read_scale(image);
    while (scale > 1 && (image.width() / scale < 2 * kLeastTile || image.height() / scale < 2 * kLeastTile)) scale = 1;
    const Image shrunk = scale == 1 ? Image() : resampled(image, {image.width() / scale, image.height() / scale});
    const Image& drawn = scale == 1 ? image : shrunk;

    const bool large = drawn.size().area() >= kLarge;
    Grounded exact;
    std::vector<Seams> seams;
    parallel_both(
        large, [&] { exact = grounded(drawn, 0); }, [&] { seams = seams_of(drawn); });
    std::vector<Candidate> found = candidates(drawn, seams, exact, true);
    const auto best_score = [&] {
        double best = -1e9;
        for (const Candidate& c : found) best = std::max(best, c.score);
        return best;
    };
    // Saved with loss, no colour is quite plain.
    bool gaps = false;
    const double bar = best_score() - 1;
    for (const Candidate& c : found)
        gaps = gaps || (c.score >= bar && c.x.kind == AxisFit::Kind::gaps && c.y.kind == AxisFit::Kind::gaps);
    if (!gaps) {
        auto more = candidates(drawn, seams, grounded(drawn, 14), false);
        for (Candidate& c : more) c.score -= 0.7;
        found.insert(found.end(), more.begin(), more.end());
    }
    // Small and square: most likely a tile by itself.
    if (drawn.width() == drawn.height() && drawn.width() <= 64) {
        Candidate one;
        one.x = one.y = {AxisFit::Kind::single, drawn.width(), 0, 0, 1};
        one.score = size_prior(drawn.width()) + (drawn.width() <= 24 ? 6.0 : drawn.width() <= 32 ? 5.0 : 1.5);
        one.evidence = 6;
        found.push_back(one);
    }
    // A strip as long as so many squares: a row of frames or variants.
    if (const int s = std::min(drawn.width(), drawn.height()), l = std::max(drawn.width(), drawn.height());
        s >= 8 && s <= 128 && l > s && l % s == 0 && l / s <= 32) {
        Candidate strip;
        strip.x = {AxisFit::Kind::single, s, 0, 0, drawn.width() / s};
        strip.y = {AxisFit::Kind::single, s, 0, 0, drawn.height() / s};
        strip.score = size_prior(s) + (s >= 24 ? 8.0 : s >= 16 ? 4.5 : 1.5);
        strip.evidence = 5;
        found.push_back(strip);
    }
    if (const auto rules = ruled(drawn)) {
        Candidate c{rules->x, rules->y, 0, rules->x.evidence + rules->y.evidence, false};
        c.score = rules->x.evidence + rules->y.evidence;
        c.rules = true;
        found.push_back(c);
    }
    std::erase_if(found, [&](const Candidate& c) { return c.x.end() > drawn.width() || c.y.end() > drawn.height(); });
    const auto by_score = [](const Candidate& a, const Candidate& b) { return a.score > b.score; };
    std::stable_sort(found.begin(), found.end(), by_score);
    // Gaps speak for themselves. Where there are none, the lines' votes count as well.
    bool torn = false; // whether they say something else than all else does
    if (!found.empty() && found.front().x.gap == 0 && found.front().y.gap == 0) {
        const Candidate before = found.front();
        // Lattices with gaps have the votes of those that take a gap for a part of the tile.
        std::map<int, double> of_period[2];
        for (const Candidate& c : found)
            for (const auto& [axis, f] : {std::pair(0, &c.x), std::pair(1, &c.y)})
                if (f->gap == 0) of_period[axis][f->tile] = std::max(of_period[axis][f->tile], f->voted);
        for (Candidate& c : found) {
            for (const auto& [axis, f] : {std::pair(0, &c.x), std::pair(1, &c.y)})
                if (f->gap > 0) f->voted = of_period[axis][f->tile + f->gap];
            const double voted = c.x.voted + c.y.voted;
            c.score += voted;
            c.evidence += std::max(0.0, voted);
        }
        std::stable_sort(found.begin(), found.end(), by_score);
        torn = found.front().x.tile != before.x.tile || found.front().y.tile != before.y.tile;
    }
    std::vector<CutReading> distinct;
    std::vector<Candidate> kept;
    for (const Candidate& c : found) {
        const int rest_x = drawn.width() - c.x.end();
        const int rest_y = drawn.height() - c.y.end();
        const bool cut_off = !c.strip && (rest_x > c.x.margin + c.x.gap || rest_y > c.y.margin + c.y.gap);
        CutReading r = reading_of(c, scale, image.size(), cut_off);
        if (c.x.kind == AxisFit::Kind::single && c.y.kind == AxisFit::Kind::single)
            r.reason = c.x.count * c.y.count == 1 ? Text("the picture is as small as one tile")
                                                  : say("a strip of %1 squares", c.x.count * c.y.count);
        if (std::any_of(distinct.begin(), distinct.end(), [&](const CutReading& d) { return d.cut == r.cut; }))
            continue;
        distinct.push_back(std::move(r));
        kept.push_back(c);
        if (distinct.size() == 4) break;
    }
    if (distinct.empty() || kept.front().score < -6) return out;
    // The share of the best among all, and how much there was to go by.
    double sum = 0;
    for (const Candidate& c : kept) sum += std::exp(c.score - kept.front().score);
    for (std::size_t i = 0; i < distinct.size(); ++i) {
        const double share = std::exp(kept[i].score - kept.front().score) / sum;
        distinct[i].confidence = std::min(torn ? kTorn : 0.98, share * (1 - std::exp(-kept[i].evidence / 9)));
    }
    if (distinct.front().confidence < kNothing) {
        distinct.front().reason = say("a guess: nothing in the picture tells; %1 × %2 px is common and divides it",
                                      distinct.front().cut.tile.w, distinct.front().cut.tile.h);
        distinct.front().confidence = kNothing;
    }
    out.best = distinct.front();
    for (std::size_t i = 1; i < distinct.size(); ++i)
        distinct[i].confidence = std::min(distinct[i].confidence, out.best->confidence);
    out.others.assign(distinct.begin() + 1, distinct.end());
    const auto find_blank = [&] {
        const auto boxes = cut_boxes(out.best->cut, image.size());
        const auto between = gap_colour(image, out.best->cut);
        for (std::size_t i = 0; i < boxes.size(); ++i)
            if (is_blank(image, boxes[i], between)) out.blank.push_back(static_cast<int>(i));
    };
    parallel_both(
        large, [&] { out.straddling = straddling_cells(image, out.best->cut); }, find_blank);
    return out;
}

} // namespace vic::sheet
