#include "sheet/axis.hpp"

#include <algorithm>
#include <cmath>
#include <cstdlib>

namespace vic::sheet {

namespace {

constexpr int kMostTile = 320;
constexpr int kMostGap = 12;
constexpr int kMostMargin = 48;
constexpr double kVotes = 0.5;   // what votes are worth beside what the whole lines say
constexpr double kVoteBar = 1.3; // by which a line has to break off more often than usual
constexpr double kVoteMost = 2.5;
constexpr float kPlain = 0.004F; // up to this share of art a line counts as plain

bool near(Rgba a, Rgba ground, int tolerance) {
    if (ground.a == 0) return a.a <= tolerance;
    return std::abs(a.r - ground.r) <= tolerance && std::abs(a.g - ground.g) <= tolerance &&
           std::abs(a.b - ground.b) <= tolerance && std::abs(a.a - ground.a) <= tolerance;
}

// 0 .. 765: alpha counts as much as the colours together. A see-through pixel has no colour. Without a branch, so that
// the compiler can take many pixels at once.
std::uint32_t difference(Rgba a, Rgba b) {
    const int seen = (a.a != 0) & (b.a != 0);
    const int colours = std::abs(a.r - b.r) + std::abs(a.g - b.g) + std::abs(a.b - b.b);
    return static_cast<std::uint32_t>(std::min(765, 3 * std::abs(a.a - b.a) + seen * colours));
}

// Evidence grows with every line that agrees, but slower and slower: lines of one sheet are no independent witnesses.
double damped(double raw) { return raw <= 0 ? raw : 9.0 * std::log1p(raw / 9.0); }

// How well the lattice fills the picture: a rest at the end that is neither the margin nor a gap is uncommon.
double rest_prior(int lines, const AxisFit& f) {
    const int rest = lines - f.end();
    double p = 0;
    if (f.margin > 0) p -= f.margin == f.gap ? 0.3 : f.margin <= 2 ? 0.6 : f.margin <= 8 ? 1.2 : 2.2;
    if (f.margin > 0 && f.gap == 0) p -= 3.5;
    if (rest == f.margin) return p;
    if (rest == 0) return p - 0.5;
    if (rest == f.gap || rest == f.gap + f.margin) return p - 0.6;
    return p - 2.6;
}

int most_that_fit(int lines, int tile, int gap, int margin) { return (lines - margin + gap) / (tile + gap); }

void keep_best(std::vector<AxisFit>& all, std::vector<AxisFit> some, std::size_t most) {
    std::stable_sort(some.begin(), some.end(),
                     [](const AxisFit& a, const AxisFit& b) { return a.score() > b.score(); });
    if (some.size() > most) some.resize(most);
    all.insert(all.end(), some.begin(), some.end());
}

// Logs of the seam profile, so that one loud line does not outweigh many quiet ones.
std::vector<double> loudness(const SeamProfile& p) {
    std::vector<double> v(p.size(), 0.0);
    for (std::size_t x = 1; x < p.size(); ++x) v[x] = std::log(double(p[x]) + 0.5);
    return v;
}

struct Spread {
    double sum = 0;
    double squares = 0;
    int n = 0;
    void add(double v) {
        sum += v;
        squares += v * v;
        ++n;
    }
    [[nodiscard]] double within() const { return n == 0 ? 0 : std::max(squares - sum * sum / n, 0.0); }
    [[nodiscard]] double mean() const { return n == 0 ? 0 : sum / n; }
};

Spread spread_of(const std::vector<double>& v) {
    Spread all;
    for (std::size_t x = 1; x < v.size(); ++x) all.add(v[x]);
    return all;
}

double at_period(const std::vector<double>& repeats, int period) {
    return period < static_cast<int>(repeats.size()) ? repeats[static_cast<std::size_t>(period)] : 0.0;
}

std::vector<AxisFit> gap_fits(const ArtProfile& p, const std::vector<double>& repeats, float bar, bool see_through) {
    std::vector<AxisFit> out;
    const int n = p.lines();
    std::vector<int> plain_before(static_cast<std::size_t>(n) + 1, 0);
    for (int x = 0; x < n; ++x)
        plain_before[static_cast<std::size_t>(x) + 1] =
            plain_before[static_cast<std::size_t>(x)] + (p.art[static_cast<std::size_t>(x)] <= bar);
    const auto plain = [&](int from, int to) {
        from = std::clamp(from, 0, n);
        to = std::clamp(to, from, n);
        return plain_before[static_cast<std::size_t>(to)] - plain_before[static_cast<std::size_t>(from)];
    };
    int first = 0;
    while (first < n && plain(first, first + 1) == 1) ++first;
    int last = n;
    while (last > first && plain(last - 1, last) == 1) --last;
    if (last - first < 2 * kLeastTile) return out;
    if (plain(first, last) == 0) return out;
    // What a gap in the right place is worth: the less of the sheet is plain, the more.
    const double worth = std::log(double(last - first) / plain(first, last));
    // Where a gap's neighbours hold as much art as the rest of the tile, the tiles fill their cells.
    const auto art = [&](int x) { return x >= 0 && x < n ? double(p.art[static_cast<std::size_t>(x)]) : 0.0; };
    for (int gap = 1; gap <= kMostGap; ++gap) {
        for (int tile = kLeastTile; tile <= std::min(last - first, kMostTile); ++tile) {
            const int period = tile + gap;
            const int least_margin = std::max(0, first - tile + 1);
            for (int margin = least_margin; margin <= std::min(first, kMostMargin); ++margin) {
                // Only lattices that have at least one run just where a gap should be are looked at closely.
                AxisFit f{AxisFit::Kind::gaps, tile, gap, margin, most_that_fit(n, tile, gap, margin)};
                if (f.count < 2) break;
                if (plain(margin + tile, margin + period) != gap) continue;
                double raw = 0;
                int exact = 0;
                int missed = 0;
                double edge = 0;
                int edges = 0, touched = 0; // gaps that hold a little art
                for (int k = 1; k < f.count; ++k) {
                    const int at = margin + k * period - gap;
                    if (at >= last) break; // blank cells at the end say nothing
                    const bool clear = plain(at, at + gap) == gap;
                    const bool left = plain(at - 1, at) == 0;
                    const bool right = plain(at + gap, at + gap + 1) == 0;
                    if (!clear) {
                        if (++missed > std::max(1, f.count / 8)) break;
                        raw -= 5;
                        continue;
                    }
                    for (int x = at; x < at + gap; ++x)
                        if (art(x) > 0) {
                            ++touched;
                            break;
                        }
                    if (left && right) {
                        ++exact;
                        raw += 2.5 + worth;
                    } else {
                        raw += left || right ? 0.5 + 0.5 * worth : 0.1;
                    }
                    edge += (left ? art(at - 1) : 0.0) + (right ? art(at + gap) : 0.0);
                    edges += 2;
                }
                if (missed > std::max(1, f.count / 8) || exact == 0) continue;
                // Where nothing is drawn but what reaches in everywhere there is no gap: it is the tips of hexagons.
                if (see_through && 2 * touched > edges / 2) continue;
                // Plain lines that no gap explains, but for tiles that are wholly blank.
                int stray = 0;
                double inside = 0;
                int inside_lines = 0;
                int blank = 0;
                for (int k = 0; k < f.count; ++k) {
                    const int at = margin + k * period;
                    if (at >= last) break;
                    const int here = plain(at, at + tile);
                    if (here == tile)
                        ++blank;
                    else
                        stray += here;
                    for (int x = at + tile / 4; x < at + tile - tile / 4; ++x) inside += art(x), ++inside_lines;
                }
                if (blank * 5 > 2 * f.count) continue;
                const double tightness =
                    inside > 0 ? std::min(1.0, (edge / std::max(edges, 1)) / (inside / std::max(inside_lines, 1))) : 0;
                raw -= 0.8 * stray;
                if (raw <= 0) continue;
                f.evidence = damped(raw * (0.25 + 0.75 * tightness) + 0.8 * at_period(repeats, period)) - 1.0;
                f.prior = size_prior(tile) + rest_prior(n, f) - (gap > 4 ? 1.0 : gap > 2 ? 0.5 : 0.2) - 0.5 * blank;
                if (f.evidence > 1) out.push_back(f);
            }
        }
    }
    return out;
}

// A picture's things keep within their cells: few boundaries are free of art that goes over them, and the lattice's
// lines are all among them.
std::vector<AxisFit> clear_fits(const ArtProfile& p, const std::vector<double>& repeats) {
    std::vector<AxisFit> out;
    const int n = p.lines();
    if (n < 2 * kLeastTile) return out;
    double mean = 0;
    for (int x = 1; x < n; ++x) mean += p.crossing[static_cast<std::size_t>(x)];
    mean /= std::max(1, n - 1);
    if (mean < 0.02) return out;
    int free = 0;
    int first = n;
    int last = 0;
    for (int x = 1; x < n; ++x) {
        const bool is_free = p.crossing[static_cast<std::size_t>(x)] < 0.05 * mean;
        free += is_free;
    }
    for (int x = 0; x < n; ++x)
        if (p.art[static_cast<std::size_t>(x)] > kPlain) {
            first = std::min(first, x);
            last = x + 1;
        }
    const double rate = std::clamp(double(free) / (n - 1), 0.01, 0.98);
    if (free == 0) return out;
    for (int tile = kLeastTile; tile <= std::min(n / 2, kMostTile); ++tile) {
        for (int margin = 0; margin <= std::min(tile - 1, 8); ++margin) {
            if (margin > first) break;
            if (margin > 0 && (n - margin) % tile != 0 && (n - 2 * margin) % tile != 0) continue;
            AxisFit f{AxisFit::Kind::clear, tile, 0, margin, most_that_fit(n, tile, 0, margin)};
            if (f.count < 2) break;
            double raw = 0;
            int blank = 0;
            for (int k = 1; k < f.count; ++k) {
                const int at = margin + k * tile;
                if (at > last) break;
                const double r = p.crossing[static_cast<std::size_t>(at)] / mean;
                if (r < 0.05)
                    raw += std::log(1 / rate);
                else if (r > 0.4)
                    raw -= 3;
                else
                    raw -= 0.5;
            }
            for (int k = 0; k < f.count && margin + k * tile < last; ++k) {
                bool any = false;
                for (int x = margin + k * tile; x < margin + (k + 1) * tile && !any; ++x)
                    any = p.art[static_cast<std::size_t>(x)] > kPlain;
                blank += !any;
            }
            if (blank * 3 > f.count) continue;
            if (raw <= 0) continue;
            f.evidence = damped(raw + 0.8 * at_period(repeats, tile));
            f.prior = size_prior(tile) + rest_prior(n, f) - 1.0 * blank;
            if (f.evidence > 1) out.push_back(f);
        }
    }
    return out;
}

// What speaks for every second, third … sixth line only being a line: then the lattice is a pattern within larger tiles
// (planks, bricks). Log odds, at least 0.
double coarser(const std::vector<double>& v, int tile, int margin) {
    const int n = static_cast<int>(v.size());
    double worst = 0;
    for (int k = 2; k <= 6; ++k) {
        Spread on;
        Spread all;
        int index = margin > 0 ? 0 : 1;
        for (int x = margin > 0 ? margin : tile; x < n; x += tile, ++index) {
            all.add(v[static_cast<std::size_t>(x)]);
            if (index % k == 0) on.add(v[static_cast<std::size_t>(x)]);
        }
        if (on.n < 1 || all.n < 2 * k) continue;
        const Spread off{all.sum - on.sum, all.squares - on.squares, all.n - on.n};
        const double floor = 0.02 * all.n;
        worst = std::max(worst, 0.5 * all.n * std::log((all.within() + floor) / (on.within() + off.within() + floor)) -
                                    std::log(double(all.n)) - 1.0);
    }
    return worst;
}

// What each boundary's votes are worth as evidence for a line there: log odds against the usual boundary.
std::vector<double> worth_of(const SeamVotes& votes) {
    std::vector<double> out(votes.breaks.size(), 0.0);
    std::vector<double> sorted;
    for (std::size_t x = 1; x < out.size(); ++x) {
        out[x] = std::log((double(votes.breaks[x]) + 0.5) / (double(votes.through[x]) + 0.5));
        sorted.push_back(out[x]);
    }
    if (sorted.empty()) return out;
    std::nth_element(sorted.begin(), sorted.begin() + std::ptrdiff_t(sorted.size() / 2), sorted.end());
    const double usual = sorted[sorted.size() / 2];
    for (std::size_t x = 1; x < out.size(); ++x) out[x] = std::clamp(out[x] - usual - kVoteBar, -kVoteMost, kVoteMost);
    return out;
}

struct Votes {
    double sum = 0;  // of all lines, as far as every second, third … of them goes along
    double even = 0; // 0 .. 1: how far the weakest of those are like the strongest
};
Votes votes_of(const std::vector<double>& worth, int tile, int margin) {
    const int n = static_cast<int>(worth.size());
    const int from = margin > 0 ? margin : tile;
    const int lines = from < n ? (n - 1 - from) / tile + 1 : 0;
    Votes out;
    for (int i = 0; i < lines; ++i) out.sum += worth[static_cast<std::size_t>(from + i * tile)];
    if (out.sum <= 0 || lines == 0) return out;
    double weakest = out.sum / lines, strongest = weakest;
    for (int k = 2; k <= 6 && lines >= 2 * k; ++k)
        for (int first = 0; first < k; ++first) {
            double sum = 0;
            int count = 0;
            for (int i = first; i < lines; i += k, ++count) sum += worth[static_cast<std::size_t>(from + i * tile)];
            weakest = std::min(weakest, sum / count);
            strongest = std::max(strongest, sum / count);
        }
    out.even = std::clamp(weakest / strongest, 0.0, 1.0);
    out.sum = std::min(out.sum, lines * (weakest + 2.0));
    return out;
}

std::vector<AxisFit> all_seam_fits(const SeamProfile& p, const SeamVotes& votes, const std::vector<double>& repeats) {
    std::vector<AxisFit> out;
    const int n = static_cast<int>(p.size());
    if (n < 2 * kLeastTile) return out;
    const auto v = loudness(p);
    const Spread all = spread_of(v);
    const double floor = 1e-3 * all.n;
    if (all.within() <= floor) return out;
    const std::vector<double> worth = worth_of(votes);
    for (int tile = kLeastTile; tile <= std::min(n / 2, kMostTile); ++tile) {
        for (int margin = 0; margin < std::min(tile, 24); ++margin) {
            AxisFit f{AxisFit::Kind::seams, tile, 0, margin, most_that_fit(n, tile, 0, margin)};
            if (f.count < 1) continue;
            // The lines themselves show: they differ from all other places.
            Spread on;
            for (int x = margin > 0 ? margin : tile; x < n; x += tile) on.add(v[static_cast<std::size_t>(x)]);
            if (on.n == 0) continue;
            const Spread off{all.sum - on.sum, all.squares - on.squares, all.n - on.n};
            double raw = 0.5 * all.n * std::log((all.within() + floor) / (on.within() + off.within() + floor)) -
                         0.5 * std::log(double(all.n));
            if (on.mean() < off.mean()) raw = std::min(0.0, -raw) - 1;
            if (on.n < 2) raw = std::min(raw, 2.0);
            // Repetition alone does not tell where the lines are; an even division of the picture does.
            if (margin == 0) raw = std::max(raw, 0.8 * at_period(repeats, tile) + std::min(raw, 0.0));
            // A picture that such tiles divide evenly may hold tiles without any seam between them.
            const bool even = margin == 0 && f.end() == n && f.count > 1 && size_prior(tile) >= -1.1;
            const auto [voted, even_votes] = votes_of(worth, tile, margin);
            if (raw <= 0 && voted <= 0 && !even) continue;
            const double pattern = 0.8 * std::min(coarser(v, tile, margin), 12.0);
            f.evidence = damped(std::max(raw, 0.0)) - pattern;
            // Where the finer lines are breaks as well, the coarser ones are no pattern's.
            f.voted = kVotes * damped(std::max(voted, -6.0)) + even_votes * pattern;
            f.prior = size_prior(tile) + rest_prior(n, f);
            if (f.evidence > 0.8 || f.evidence + f.voted > 0.8 || even) out.push_back(f);
        }
    }
    return out;
}

} // namespace

double size_prior(int size) {
    if (size == 16 || size == 32) return 0;
    if (size == 8 || size == 24 || size == 48 || size == 64) return -0.4;
    if (size < 8) return -7.0;
    if (size == 128 || size == 96 || size == 12 || size == 20 || size == 40 || size == 80) return -0.9;
    if (size > 160) return size % 8 == 0 ? -3.0 : -5.0;
    if (size % 8 == 0) return -1.1;
    if (size % 4 == 0 || size % 10 == 0) return -1.4;
    if (size % 2 == 0) return -2.0;
    return -3.0;
}

ArtProfiles art_profiles(const Image& image, const Box& part, Rgba ground, int tolerance) {
    ArtProfiles out;
    const auto w = static_cast<std::size_t>(part.w);
    const auto h = static_cast<std::size_t>(part.h);
    std::vector<std::uint32_t> column_art(w, 0);
    std::vector<std::uint32_t> column_cross(w, 0);
    std::vector<std::uint8_t> here(w, 0);
    std::vector<std::uint8_t> above(w, 0);
    out.down.art.resize(h);
    out.down.crossing.resize(h);
    for (std::size_t y = 0; y < h; ++y) {
        const Rgba* row = image.row(part.y + static_cast<int>(y)) + part.x;
        std::uint32_t art = 0;
        std::uint32_t cross = 0;
        if (tolerance == 0) {
            const bool clear = ground.a == 0;
            for (std::size_t x = 0; x < w; ++x) {
                const Rgba c = row[x];
                here[x] =
                    clear ? c.a != 0 : !(c.r == ground.r && c.g == ground.g && c.b == ground.b && c.a == ground.a);
            }
        } else {
            for (std::size_t x = 0; x < w; ++x) here[x] = !near(row[x], ground, tolerance);
        }
        for (std::size_t x = 0; x < w; ++x) {
            art += here[x];
            column_art[x] += here[x];
            cross += static_cast<std::uint32_t>(here[x] & above[x]);
        }
        for (std::size_t x = 1; x < w; ++x) column_cross[x] += static_cast<std::uint32_t>(here[x] & here[x - 1]);
        std::swap(here, above);
        out.down.art[y] = float(art) / float(w);
        out.down.crossing[y] = y > 0 ? float(cross) / float(w) : 0.0F;
    }
    out.across.art.resize(w);
    out.across.crossing.resize(w);
    for (std::size_t x = 0; x < w; ++x) {
        out.across.art[x] = float(column_art[x]) / float(h);
        out.across.crossing[x] = float(column_cross[x]) / float(h);
    }
    return out;
}

SeamProfiles seam_profiles(const Image& image, const Box& part) {
    const auto w = static_cast<std::size_t>(part.w);
    const auto h = static_cast<std::size_t>(part.h);
    std::vector<std::uint32_t> columns(w, 0);
    SeamProfiles out{SeamProfile(w, 0.0F), SeamProfile(h, 0.0F)};
    for (std::size_t y = 0; y < h; ++y) {
        const Rgba* row = image.row(part.y + static_cast<int>(y)) + part.x;
        for (std::size_t x = 1; x < w; ++x) columns[x] += difference(row[x], row[x - 1]);
        if (y == 0) continue;
        const Rgba* before = image.row(part.y + static_cast<int>(y) - 1) + part.x;
        std::uint32_t sum = 0;
        for (std::size_t x = 0; x < w; ++x) sum += difference(row[x], before[x]);
        out.down[y] = float(sum) / (3.0F * float(w));
    }
    for (std::size_t x = 1; x < w; ++x) out.across[x] = float(columns[x]) / (3.0F * float(h));
    return out;
}

BothVotes seam_votes(const Image& image, const Box& part) {
    constexpr int kPiece = 4;
    BothVotes out;
    const auto count = [&](SeamVotes& votes, int lines, int length, auto&& at) {
        votes.breaks.assign(static_cast<std::size_t>(lines), 0.0F);
        votes.through.assign(static_cast<std::size_t>(lines), 0.0F);
        std::vector<std::uint32_t> d(static_cast<std::size_t>(lines) + 2, 0);
        // Of a large picture a sample will do.
        const int step = kPiece * std::max(1, length / 512);
        for (int from = 0; from + kPiece <= length; from += step) {
            std::fill(d.begin(), d.end(), 0);
            for (int i = from; i < from + kPiece; ++i)
                for (int x = 1; x < lines; ++x) d[static_cast<std::size_t>(x)] += difference(at(x, i), at(x - 1, i));
            for (int x = 1; x < lines; ++x) {
                const auto s = static_cast<std::size_t>(x);
                const std::uint32_t here = d[s];
                const std::uint32_t near = (x > 2 ? d[s - 2] : 0) + d[s - 1] + d[s + 1] + d[s + 2]; // four of them
                if (here * 2 > near + 4 * kPiece * 24)
                    votes.breaks[s] += 1;
                else if (near > 4 * kPiece * 16 && here * 10 < near * 3)
                    votes.through[s] += 1;
            }
        }
    };
    count(out.across, part.w, part.h, [&](int x, int y) { return image.at(part.x + x, part.y + y); });
    count(out.down, part.h, part.w, [&](int y, int x) { return image.at(part.x + x, part.y + y); });
    return out;
}

std::vector<double> repetition(const SeamProfile& p) {
    const int n = static_cast<int>(p.size());
    const int most = std::min(n / 2, kMostTile + kMostGap);
    std::vector<double> out(static_cast<std::size_t>(std::max(most, 0)) + 1, 0.0);
    if (n < 2 * kLeastTile) return out;
    const auto v = loudness(p);
    const Spread all = spread_of(v);
    const double floor = 1e-3 * all.n;
    if (all.within() <= floor) return out;
    std::vector<Spread> phase;
    for (int period = kLeastTile; period <= most; ++period) {
        phase.assign(static_cast<std::size_t>(period), {});
        int at = 1 % period;
        for (int x = 1; x < n; ++x) {
            phase[static_cast<std::size_t>(at)].add(v[static_cast<std::size_t>(x)]);
            if (++at == period) at = 0;
        }
        double within = floor;
        for (const Spread& s : phase) within += s.within();
        out[static_cast<std::size_t>(period)] = std::max(0.0, 0.5 * all.n * std::log((all.within() + floor) / within) -
                                                                  0.5 * (period - 1) * std::log(double(all.n)));
    }
    return out;
}

std::vector<AxisFit> ground_fits(const ArtProfile& p, const std::vector<double>& repeats, bool see_through) {
    std::vector<AxisFit> out;
    keep_best(out, gap_fits(p, repeats, kPlain, see_through), 8);
    // A stray tile may go over the gaps.
    if (out.empty()) {
        auto bridged = gap_fits(p, repeats, 0.2F, see_through);
        for (AxisFit& f : bridged) f.evidence -= 2;
        keep_best(out, std::move(bridged), 6);
    }
    keep_best(out, clear_fits(p, repeats), 6);
    return out;
}

std::vector<AxisFit> seam_fits(const SeamProfile& p, const SeamVotes& votes, const std::vector<double>& repeats) {
    std::vector<AxisFit> out;
    const std::vector<AxisFit> all = all_seam_fits(p, votes, repeats);
    keep_best(out, all, 10);
    std::vector<AxisFit> by_votes = all;
    std::stable_sort(by_votes.begin(), by_votes.end(),
                     [](const AxisFit& a, const AxisFit& b) { return a.score() + a.voted > b.score() + b.voted; });
    for (std::size_t i = 0; i < std::min<std::size_t>(by_votes.size(), 6); ++i) {
        const AxisFit& f = by_votes[i];
        if (std::none_of(out.begin(), out.end(),
                         [&](const AxisFit& o) { return o.tile == f.tile && o.margin == f.margin; }))
            out.push_back(f);
    }
    return out;
}

} // namespace vic::sheet
