#include "sheet/read_cut.hpp"

#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>
#include <utility>

#include "base/parallel.hpp"
#include "sheet/axis.hpp"
#include "sheet/cut.hpp"
#include "sheet/cut_candidates.hpp"
#include "sheet/inspect.hpp"
#include "sheet/ruled.hpp"

namespace vic::sheet {

namespace {

constexpr double kNothing = 0.02; // below this a proposal is a guess
constexpr double kSure = 0.9;     // from here on other proposals only get in the way
constexpr double kHalfOver = 0.6; // confidence at most where half a tile is left over
constexpr double kBreaks = 1;     // nats of the votes of an axis
constexpr double kTorn = 0.75;    // confidence at most where two ways of reading differ

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

// What the picture is enlarged by, as far as it is worth shrinking it.
int scale_of(const Image& image) {
    const int scale = read_scale(image);
    const bool room = image.width() / scale >= 2 * kLeastTile && image.height() / scale >= 2 * kLeastTile;
    return room ? scale : 1;
}

// Small and square: most likely a tile by itself. As long as so many squares: a row of frames or variants.
void add_small(std::vector<Candidate>& found, Size size) {
    if (size.w == size.h && size.w <= 64) {
        Candidate one;
        one.x = one.y = {AxisFit::Kind::single, size.w, 0, 0, 1};
        one.score = size_prior(size.w) + (size.w <= 24 ? 6.0 : size.w <= 32 ? 5.0 : 1.5);
        one.evidence = 6;
        found.push_back(one);
    }
    const int s = std::min(size.w, size.h), l = std::max(size.w, size.h);
    if (s >= 8 && s <= 128 && l > s && l % s == 0 && l / s <= 32) {
        Candidate strip;
        strip.x = {AxisFit::Kind::single, s, 0, 0, size.w / s};
        strip.y = {AxisFit::Kind::single, s, 0, 0, size.h / s};
        strip.score = size_prior(s) + (s >= 24 ? 9.5 : s >= 16 ? 4.5 : 1.5);
        strip.evidence = 5;
        found.push_back(strip);
    }
}

std::vector<Candidate> all_candidates(const Image& drawn) {
    Grounded exact;
    std::vector<Seams> seams;
    parallel_both(
        drawn.size().area() >= kLarge, [&] { exact = grounded(drawn, 0); }, [&] { seams = seams_of(drawn); });
    std::vector<Candidate> found = candidates(drawn, seams, exact, true);
    double best = -1e9;
    for (const Candidate& c : found) best = std::max(best, c.score);
    // Saved with loss, no colour is quite plain.
    const bool gaps = std::any_of(found.begin(), found.end(), [&](const Candidate& c) {
        return c.score >= best - 1 && c.x.kind == AxisFit::Kind::gaps && c.y.kind == AxisFit::Kind::gaps;
    });
    if (!gaps) {
        auto more = candidates(drawn, seams, grounded(drawn, 14), false);
        for (Candidate& c : more) c.score -= 0.7;
        found.insert(found.end(), more.begin(), more.end());
    }
    add_small(found, drawn.size());
    if (const auto rules = ruled(drawn)) {
        Candidate c{rules->x, rules->y, 0, rules->x.evidence + rules->y.evidence, false};
        c.score = rules->x.evidence + rules->y.evidence;
        c.rules = true;
        // Lines from rim to rim belong to no tile: whoever takes them for a part of one has one of them left over.
        const auto holds_rules = [](const AxisFit& f, const AxisFit& r) {
            const bool same = f.tile == r.tile && f.gap == r.gap && f.margin == r.margin;
            return !same && (f.tile + f.gap) % (r.tile + r.gap) == 0;
        };
        if (rules->closed)
            std::erase_if(found, [&](const Candidate& f) { return holds_rules(f.x, c.x) || holds_rules(f.y, c.y); });
        found.push_back(c);
    }
    std::erase_if(found, [&](const Candidate& c) { return c.x.end() > drawn.width() || c.y.end() > drawn.height(); });
    return found;
}

bool better(const Candidate& a, const Candidate& b) { return a.score > b.score; }

// Sorts, best first. Gaps speak for themselves; where there are none, the lines' votes count as well. Whether those say
// something else than all else does.
bool rank(std::vector<Candidate>& found) {
    std::stable_sort(found.begin(), found.end(), better);
    if (found.empty() || found.front().x.gap != 0 || found.front().y.gap != 0) return false;
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
    std::stable_sort(found.begin(), found.end(), better);
    return found.front().x.tile != before.x.tile || found.front().y.tile != before.y.tile;
}

// A part of the picture is ruled in another way than the best reading cuts it: either may be meant.
void add_partly_ruled(std::vector<Candidate>& found, const Image& drawn) {
    constexpr double kAlmost = 0.3; // nats behind the best
    if (found.empty() || found.front().rules) return;
    const auto rules = ruled_in_part(drawn);
    if (!rules || rules->x.end() > drawn.width() || rules->y.end() > drawn.height()) return;
    const auto every = [](const AxisFit& f) { return f.tile + f.gap; };
    const Candidate& best = found.front();
    if (every(best.x) == every(rules->x) && every(best.y) == every(rules->y)) return;
    Candidate c{rules->x, rules->y, best.score - kAlmost, best.evidence, false};
    c.rules = true;
    found.insert(found.begin() + 1, c);
}

// Twice the tile is what is read wrong the most: where the best is not sure, or leaves half a tile over, the half of it
// is among the proposals in the place of the least likely one.
// Where half a tile is left over and the half's own lines speak for it, the half is the best itself.
void add_half(std::vector<CutReading>& all, const std::vector<Candidate>& found, int scale, Size image) {
    CutReading& best = all.front();
    const level::Cut& cut = best.cut;
    if (cut.spacing != Point{} || cut.margin != Point{} || cut.tile.w % 2 != 0 || cut.tile.h % 2 != 0) return;
    level::Cut half = cut;
    half.tile = {cut.tile.w / 2, cut.tile.h / 2};
    half.count = {};
    if (std::min(half.tile.w, half.tile.h) < 2 * kLeastTile) return;
    const bool divides = image.w % half.tile.w == 0 && image.h % half.tile.h == 0;
    const bool half_over = divides && (image.w % cut.tile.w != 0 || image.h % cut.tile.h != 0);
    if (half_over) best.confidence = std::min(best.confidence, kHalfOver);
    if (best.confidence > kSure || !divides) return;
    for (CutReading& r : all) r.confidence = std::min(r.confidence, best.confidence);
    const bool breaks = std::any_of(found.begin(), found.end(), [&](const Candidate& c) {
        const bool is = c.x.gap == 0 && c.y.gap == 0 && c.x.margin == 0 && c.y.margin == 0 &&
                        c.x.tile * scale == half.tile.w && c.y.tile * scale == half.tile.h;
        return is && c.x.voted > kBreaks && c.y.voted > kBreaks;
    });
    const bool first = half_over && breaks;
    if (first) std::erase_if(all, [&](const CutReading& r) { return r.cut == half; });
    if (std::any_of(all.begin(), all.end(), [&](const CutReading& r) { return r.cut == half; })) return;
    CutReading r;
    r.cut = half;
    const Size count = columns_rows(half, image);
    r.columns = count.w;
    r.rows = count.h;
    r.confidence = first ? best.confidence : half_over ? best.confidence / 3 : std::min(kNothing, best.confidence / 2);
    r.reason =
        half_over ? say("half of %1 px, which leaves half a tile over", cut.tile.w) : say("half of %1 px", cut.tile.w);
    if (all.size() == 4) all.pop_back();
    const auto behind = first ? all.begin() : std::find_if(all.begin() + 1, all.end(), [&](const CutReading& other) {
        return other.confidence < r.confidence;
    });
    all.insert(behind, std::move(r));
}

// The best as readings, no two with the same cut, with their confidence.
std::vector<CutReading> best_of(const std::vector<Candidate>& found, bool torn, int scale, Size image) {
    std::vector<CutReading> out;
    std::vector<Candidate> kept;
    for (const Candidate& c : found) {
        const int rest_x = image.w / scale - c.x.end();
        const int rest_y = image.h / scale - c.y.end();
        const bool cut_off = !c.strip && (rest_x > c.x.margin + c.x.gap || rest_y > c.y.margin + c.y.gap);
        CutReading r = reading_of(c, scale, image, cut_off);
        if (c.x.kind == AxisFit::Kind::single && c.y.kind == AxisFit::Kind::single)
            r.reason = c.x.count * c.y.count == 1 ? Text("the picture is as small as one tile")
                                                  : say("a strip of %1 squares", c.x.count * c.y.count);
        if (std::any_of(out.begin(), out.end(), [&](const CutReading& d) { return d.cut == r.cut; })) continue;
        out.push_back(std::move(r));
        kept.push_back(c);
        if (out.size() == 4) break;
    }
    if (out.empty() || kept.front().score < -6) return {};
    // The share of the best among all, and how much there was to go by.
    double sum = 0;
    for (const Candidate& c : kept) sum += std::exp(c.score - kept.front().score);
    for (std::size_t i = 0; i < out.size(); ++i) {
        const double share = std::exp(kept[i].score - kept.front().score) / sum;
        out[i].confidence = std::min(torn ? kTorn : 0.98, share * (1 - std::exp(-kept[i].evidence / 9)));
    }
    if (out.front().confidence < kNothing) {
        out.front().reason = say("a guess: nothing in the picture tells; %1 × %2 px is common and divides it",
                                 out.front().cut.tile.w, out.front().cut.tile.h);
        out.front().confidence = kNothing;
    }
    for (CutReading& r : out) r.confidence = std::min(r.confidence, out.front().confidence);
    add_half(out, found, scale, image);
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

SheetReading reading_of(const Image& image, std::vector<CutReading> ranked) {
    SheetReading out;
    if (image.empty()) return out;
    if (!ranked.empty()) {
        out.best = ranked.front();
        out.others.assign(ranked.begin() + 1, ranked.end());
    }
    const auto find_blank = [&] {
        const auto boxes = cut_boxes(out.best->cut, image.size());
        const auto between = gap_colour(image, out.best->cut);
        for (std::size_t i = 0; i < boxes.size(); ++i)
            if (is_blank(image, boxes[i], between)) out.blank.push_back(static_cast<int>(i));
    };
    if (out.best)
        parallel_both(
            image.size().area() >= kLarge, [&] { out.straddling = straddling_cells(image, out.best->cut); },
            find_blank);
    out.what = what_is(image, out);
    return out;
}

SheetReading read_cut(const Image& image) {
    if (image.empty() || (image.width() < kLeastTile && image.height() < kLeastTile)) return reading_of(image, {});
    const int scale = scale_of(image);
    const Image shrunk = scale == 1 ? Image() : resampled(image, {image.width() / scale, image.height() / scale});
    std::vector<Candidate> found = all_candidates(scale == 1 ? image : shrunk);
    const Image& drawn = scale == 1 ? image : shrunk;
    bool torn = rank(found);
    add_partly_ruled(found, drawn);
    torn = torn || (!found.empty() && !found.front().rules && ruled_otherwise(drawn, found.front().x, found.front().y));
    return reading_of(image, best_of(found, torn, scale, image.size()));
}

} // namespace vic::sheet
