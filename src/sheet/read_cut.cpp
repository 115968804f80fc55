#include "sheet/read_cut.hpp"

#include <cmath>
#include <numeric>

#include "sheet/cut.hpp"

namespace vic::sheet {

namespace {

constexpr int kLeastTile = 4; // pixels as drawn
constexpr int kMostGap = 8;
constexpr int kMostMargin = 16;
// From this many standard errors on, seams are taken as certain as they get.
constexpr double kSureSurplus = 14.0;

struct AxisFit {
    int tile = 0;
    int gap = 0;
    int margin = 0;
    double strength = 0; // 0 .. 1
};

// The picture seen along one axis: `lines` columns (or rows), each of `depth` pixels.
struct AxisView {
    const Image& image;
    bool columns;
    [[nodiscard]] int lines() const { return columns ? image.width() : image.height(); }
    [[nodiscard]] int depth() const { return columns ? image.height() : image.width(); }
    [[nodiscard]] Rgba at(int line, int i) const { return columns ? image.at(line, i) : image.at(i, line); }
};

double difference(Rgba a, Rgba b) {
    const double alpha = std::abs(a.a - b.a);
    const double seen = std::min(a.a, b.a) / 255.0;
    return alpha + seen * (std::abs(a.r - b.r) + std::abs(a.g - b.g) + std::abs(a.b - b.b)) / 3.0;
}

// How common a tile size is in practice; breaks ties, never decides against clear pixels.
double commonness(int size) {
    if (size == 16 || size == 32) return 1.0;
    if (size == 8 || size == 24 || size == 48 || size == 64) return 0.95;
    if (size % 8 == 0) return 0.9;
    if (size % 4 == 0) return 0.85;
    return 0.75;
}

std::vector<double> gutter_shares(const AxisView& view, Rgba colour) {
    std::vector<double> share(static_cast<std::size_t>(view.lines()));
    for (int x = 0; x < view.lines(); ++x) {
        int same = 0;
        for (int i = 0; i < view.depth(); ++i) same += looks_same(view.at(x, i), colour);
        share[static_cast<std::size_t>(x)] = double(same) / view.depth();
    }
    return share;
}

// The best lattice with gaps of one colour, or strength 0.
std::vector<AxisFit> fit_gaps(const AxisView& view, Rgba colour) {
    const auto share = gutter_shares(view, colour);
    const double mean = std::accumulate(share.begin(), share.end(), 0.0) / double(share.size());
    // Where most of the sheet has the gap's colour anyway, only wholly plain columns count; else a stray tile may
    // touch.
    const double bar = mean > 0.5 ? 0.9999 : 0.8;
    const int lines = view.lines();
    std::vector<int> plain_before(static_cast<std::size_t>(lines) + 1, 0);
    for (int x = 0; x < lines; ++x)
        plain_before[static_cast<std::size_t>(x) + 1] =
            plain_before[static_cast<std::size_t>(x)] + (share[static_cast<std::size_t>(x)] >= bar);
    const auto plain = [&](int from, int to) {
        from = std::clamp(from, 0, lines);
        to = std::clamp(to, from, lines);
        return plain_before[static_cast<std::size_t>(to)] - plain_before[static_cast<std::size_t>(from)];
    };
    int first = 0; // the first column with art
    while (first < lines && plain(first, first + 1) == 1) ++first;
    int last = lines; // behind the last column with art
    while (last > first && plain(last - 1, last) == 1) --last;

    std::vector<AxisFit> fits;
    if (last - first < 2 * kLeastTile) return fits;
    const int inner_plain = plain(first, last);
    if (inner_plain == 0) return fits;
    for (int gap = 1; gap <= kMostGap; ++gap) {
        for (int tile = kLeastTile; tile <= (lines - gap) / 2; ++tile) {
            const int period = tile + gap;
            for (int margin = std::max(0, first - tile + 1); margin <= std::min(first, kMostMargin); ++margin) {
                const int count = (lines - margin + gap) / period;
                if (count < 2 || margin + count * period - gap < last) continue;
                int clear = 0;
                int bordered = 0;
                int explained = 0;
                for (int k = 1; k < count; ++k) {
                    const int at = margin + k * period - gap;
                    clear += plain(at, at + gap) == gap;
                    bordered += (plain(at - 1, at) == 0) + (plain(at + gap, at + gap + 1) == 0);
                    explained += plain(std::max(at, first), std::min(at + gap, last));
                }
                if (clear < count - 1) continue;
                const double precision = double(bordered) / (2.0 * (count - 1));
                const double recall = double(explained) / inner_plain;
                // A lattice of two tiles is thin evidence.
                const double evidence = 1.0 - 0.5 / (count - 1);
                const int rest = lines - (margin + count * period - gap);
                const double even = rest == 0 || rest == margin || rest == gap ? 1.0 : 0.93;
                const double strength = precision * recall * evidence * even;
                if (strength > 0.3) fits.push_back({tile, gap, margin, strength});
            }
        }
    }
    std::stable_sort(fits.begin(), fits.end(),
                     [](const AxisFit& a, const AxisFit& b) { return a.strength > b.strength; });
    if (fits.size() > 6) fits.resize(6);
    return fits;
}

// Mean difference between each column and the one before it; index 0 is unused.
std::vector<double> seam_profile(const AxisView& view) {
    std::vector<double> d(static_cast<std::size_t>(view.lines()), 0.0);
    for (int x = 1; x < view.lines(); ++x) {
        double sum = 0;
        for (int i = 0; i < view.depth(); ++i) sum += difference(view.at(x, i), view.at(x - 1, i));
        d[static_cast<std::size_t>(x)] = sum / view.depth();
    }
    return d;
}

// The surplus of difference at the lines of a lattice without gaps, in standard errors.
double seam_surplus(const std::vector<double>& profile, int tile, int margin) {
    const int lines = static_cast<int>(profile.size());
    double on = 0;
    double off = 0;
    double squares = 0;
    int on_count = 0;
    int off_count = 0;
    for (int x = 1; x < lines; ++x) {
        const double v = profile[static_cast<std::size_t>(x)];
        if (x >= margin && (x - margin) % tile == 0) {
            on += v;
            ++on_count;
        } else {
            off += v;
            squares += v * v;
            ++off_count;
        }
    }
    if (on_count < 1 || off_count < 2) return 0;
    on /= on_count;
    off /= off_count;
    const double spread = std::sqrt(std::max(squares / off_count - off * off, 0.0)) + 0.05 * off + 0.5;
    // A single line is thin evidence.
    return (on - off) / spread * std::sqrt(double(on_count)) * (1.0 - 0.5 / on_count);
}

// The share of the profile's variance that goes by the place within a period, corrected for the number of places; 0
// .. 1. Art that keeps its borders at the same distance from the lines repeats even where the lines themselves don't
// show.
double repetition(const std::vector<double>& profile, int period) {
    const int n = static_cast<int>(profile.size()) - 1;
    if (n < 2 * period) return 0;
    std::vector<double> sum(static_cast<std::size_t>(period), 0.0);
    std::vector<int> count(static_cast<std::size_t>(period), 0);
    double mean = 0;
    for (int x = 1; x <= n; ++x) {
        sum[static_cast<std::size_t>(x % period)] += profile[static_cast<std::size_t>(x)];
        ++count[static_cast<std::size_t>(x % period)];
        mean += profile[static_cast<std::size_t>(x)] / n;
    }
    double within = 0;
    double total = 0;
    for (int x = 1; x <= n; ++x) {
        const double v = profile[static_cast<std::size_t>(x)];
        const auto phase = static_cast<std::size_t>(x % period);
        const double here = sum[phase] / count[phase];
        within += (v - here) * (v - here);
        total += (v - mean) * (v - mean);
    }
    if (total <= 1e-9 || n - period < 1) return 0;
    return std::clamp(1.0 - within / total * double(n - 1) / double(n - period), 0.0, 1.0);
}

std::vector<AxisFit> fit_seams(const AxisView& view) {
    const auto profile = seam_profile(view);
    const int lines = view.lines();
    std::vector<AxisFit> fits;
    for (int tile = kLeastTile; tile <= lines; ++tile) {
        for (int margin = 0; margin < std::min(tile, kMostMargin); ++margin) {
            if (lines - margin < tile) break;
            const int rest = (lines - margin) % tile;
            if (margin > 0 && rest != margin && rest != 0) continue;
            double surplus = seam_surplus(profile, tile, margin);
            if (margin > 0) surplus *= 0.4; // an offset without gaps is rare
            if ((lines - margin) / tile < 2) surplus *= 0.3;
            if (rest != 0) surplus *= 0.7;
            if (surplus <= 0.8) continue;
            const double seam = std::min(1.0, surplus / kSureSurplus);
            const double repeats = margin == 0 && rest == 0 ? 0.85 * repetition(profile, tile) : 0.0;
            fits.push_back({tile, 0, margin, 1.0 - (1.0 - seam) * (1.0 - repeats)});
        }
    }
    std::stable_sort(fits.begin(), fits.end(), [](const AxisFit& a, const AxisFit& b) {
        return a.strength * commonness(a.tile) > b.strength * commonness(b.tile);
    });
    if (fits.size() > 8) fits.resize(8);
    return fits;
}

Text pixels_word(Point v) { return v.x == v.y ? say("%1 px", v.x) : say("%1 and %2 px", v.x, v.y); }

CutReading reading_of(const AxisFit& x, const AxisFit& y, int scale, Size image) {
    CutReading out;
    out.cut = {
        {x.tile * scale, y.tile * scale}, {x.margin * scale, y.margin * scale}, {x.gap * scale, y.gap * scale}, scale};
    const Size count = columns_rows(out.cut, image);
    out.columns = count.w;
    out.rows = count.h;
    double strength = std::sqrt(std::max(x.strength, 0.0) * std::max(y.strength, 0.0));
    strength *= std::sqrt(commonness(x.tile) * commonness(y.tile));
    if (x.tile != y.tile) strength *= 0.8;
    if ((x.gap == 0) != (y.gap == 0))
        strength *= 0.7;
    else if (x.gap != y.gap)
        strength *= 0.9;
    out.confidence = strength;
    if (x.gap || y.gap)
        out.reason = say("gaps of %1 every %2 px", pixels_word(out.cut.spacing), (x.tile + x.gap) * scale);
    else if (x.tile == y.tile)
        out.reason = say("seams every %1 px", out.cut.tile.w);
    else
        out.reason = say("seams every %1 × %2 px", out.cut.tile.w, out.cut.tile.h);
    if (x.margin || y.margin) out.reason = say("%1, a margin of %2", out.reason, pixels_word(out.cut.margin));
    if (scale > 1) out.reason = say("%1, enlarged ×%2", out.reason, scale);
    return out;
}

// Cells of a cut with gaps whose neighbouring gap pixels are not all of the gap's colour.
std::vector<int> straddling_cells(const Image& image, const level::Cut& cut) {
    std::vector<int> found;
    if (cut.spacing.x == 0 && cut.spacing.y == 0) return found;
    const auto boxes = cut_boxes(cut, image.size());
    // The gap's colour is the commonest at the crossings right below each tile.
    std::vector<std::pair<Rgba, int>> tally;
    for (const Box& b : boxes) {
        const Point at{b.right(), b.bottom()};
        if (at.x >= image.width() || at.y >= image.height()) continue;
        const Rgba c = image.at(at.x, at.y);
        const auto old =
            std::find_if(tally.begin(), tally.end(), [&](const auto& t) { return looks_same(t.first, c); });
        if (old == tally.end())
            tally.emplace_back(c, 1);
        else
            ++old->second;
    }
    if (tally.empty()) return found;
    const Rgba gutter = std::max_element(tally.begin(), tally.end(), [](const auto& a, const auto& b) {
                            return a.second < b.second;
                        })->first;
    const auto foreign = [&](const Box& strip) {
        const Box inside = intersection(strip, box_of(image.size()));
        for (int y = inside.y; y < inside.bottom(); ++y)
            for (int x = inside.x; x < inside.right(); ++x)
                if (!looks_same(image.at(x, y), gutter)) return true;
        return false;
    };
    for (std::size_t i = 0; i < boxes.size(); ++i) {
        const Box& b = boxes[i];
        const bool right = cut.spacing.x > 0 && b.right() < image.width() && foreign({b.right(), b.y, 1, b.h});
        const bool below = cut.spacing.y > 0 && b.bottom() < image.height() && foreign({b.x, b.bottom(), b.w, 1});
        if (right || below) found.push_back(static_cast<int>(i));
    }
    return found;
}

bool same_cut(const CutReading& a, const CutReading& b) { return a.cut == b.cut; }

} // namespace

int read_scale(const Image& image) {
    int factor = std::gcd(image.width(), image.height());
    for (int y = 0; y < image.height() && factor > 1; ++y)
        for (int x = 1; x < image.width(); ++x)
            if (x % factor != 0 && !looks_same(image.at(x, y), image.at(x - 1, y))) factor = std::gcd(factor, x);
    for (int y = 1; y < image.height() && factor > 1; ++y)
        for (int x = 0; x < image.width(); ++x)
            if (y % factor != 0 && !looks_same(image.at(x, y), image.at(x, y - 1))) {
                factor = std::gcd(factor, y);
                break;
            }
    if (factor <= 16) return std::max(factor, 1);
    // Blocks larger than that are flat tiles, not enlarged pixels.
    return 1;
}

SheetReading read_cut(const Image& image) {
    SheetReading out;
    if (image.empty() || (image.width() < kLeastTile && image.height() < kLeastTile)) return out;
    int scale = read_scale(image);
    while (scale > 1 && (image.width() / scale < 2 * kLeastTile || image.height() / scale < 2 * kLeastTile)) scale = 1;
    const Image drawn = scale == 1 ? image : resampled(image, {image.width() / scale, image.height() / scale});
    const AxisView across{drawn, true};
    const AxisView down{drawn, false};

    std::vector<CutReading> found;
    std::vector<Rgba> gutters{{0, 0, 0, 0}};
    for (const Point corner : {Point{0, 0}, Point{drawn.width() - 1, drawn.height() - 1}}) {
        const Rgba c = drawn.at(corner.x, corner.y);
        if (std::none_of(gutters.begin(), gutters.end(), [&](Rgba g) { return looks_same(g, c); }))
            gutters.push_back(c);
    }
    // A sheet without margin has no gap pixel at its corner; the commonest colour of the most plain column stands in.
    if (drawn.width() > kLeastTile) {
        for (int x = kLeastTile; x < drawn.width(); ++x) {
            bool plain = true;
            for (int y = 1; y < drawn.height() && plain; ++y) plain = looks_same(drawn.at(x, y), drawn.at(x, 0));
            if (!plain) continue;
            const Rgba c = drawn.at(x, 0);
            if (std::none_of(gutters.begin(), gutters.end(), [&](Rgba g) { return looks_same(g, c); }))
                gutters.push_back(c);
            break;
        }
    }
    for (const Rgba gutter : gutters) {
        const auto fits_x = fit_gaps(across, gutter);
        const auto fits_y = fit_gaps(down, gutter);
        for (const AxisFit& x : fits_x)
            for (const AxisFit& y : fits_y) found.push_back(reading_of(x, y, scale, image.size()));
        // A strip of one row has gaps one way only.
        for (const AxisFit& x : fits_x)
            if (drawn.height() <= x.tile + 2 * x.margin && drawn.height() >= x.tile + x.margin)
                found.push_back(reading_of(x, {x.tile, x.gap, x.margin, x.strength}, scale, image.size()));
    }
    const auto seams_x = fit_seams(across);
    const auto seams_y = fit_seams(down);
    for (const AxisFit& x : seams_x)
        for (const AxisFit& y : seams_y) found.push_back(reading_of(x, y, scale, image.size()));
    for (const AxisFit& x : seams_x)
        if (drawn.height() == x.tile) found.push_back(reading_of(x, x, scale, image.size()));
    for (const AxisFit& y : seams_y)
        if (drawn.width() == y.tile) found.push_back(reading_of(y, y, scale, image.size()));
    // Small and square: most likely a tile by itself.
    if (drawn.width() == drawn.height() && drawn.width() <= 64 && drawn.width() >= kLeastTile) {
        const double strength = drawn.width() <= 24 ? 0.75 : drawn.width() <= 32 ? 0.6 : 0.5;
        CutReading single =
            reading_of({drawn.width(), 0, 0, strength}, {drawn.width(), 0, 0, strength}, scale, image.size());
        single.reason = "the picture is as small as one tile";
        found.push_back(single);
    }
    std::stable_sort(found.begin(), found.end(),
                     [](const CutReading& a, const CutReading& b) { return a.confidence > b.confidence; });
    std::vector<CutReading> distinct;
    for (const CutReading& r : found) {
        if (std::any_of(distinct.begin(), distinct.end(), [&](const CutReading& d) { return same_cut(d, r); }))
            continue;
        distinct.push_back(r);
        if (distinct.size() == 4) break;
    }
    if (distinct.empty()) return out;
    // What a close runner-up takes away in certainty.
    CutReading& best = distinct.front();
    const double rival = distinct.size() > 1 ? distinct[1].confidence / best.confidence : 0.0;
    const double strength = best.confidence;
    best.confidence = std::min(0.99, strength * (1.0 - 0.45 * rival * rival));
    for (std::size_t i = 1; i < distinct.size(); ++i)
        distinct[i].confidence = std::min(distinct[i].confidence * 0.6, best.confidence * 0.9);
    out.best = best;
    out.others.assign(distinct.begin() + 1, distinct.end());
    const auto boxes = cut_boxes(best.cut, image.size());
    for (std::size_t i = 0; i < boxes.size(); ++i)
        if (is_blank(image, boxes[i])) out.blank.push_back(static_cast<int>(i));
    out.straddling = straddling_cells(image, best.cut);
    return out;
}

} // namespace vic::sheet
