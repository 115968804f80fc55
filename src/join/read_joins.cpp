#include "join/read_joins.hpp"

#include <algorithm>
#include <cassert>
#include <cmath>
#include <map>
#include <numeric>
#include <set>

namespace vic::join {

namespace {

constexpr double kForeign = 40.0; // colour distance from which on a pixel is wholly unlike the material
constexpr double kDoubtful = 0.3; // confidence below which a reading is listed as doubtful

struct Colour {
    double r = 0, g = 0, b = 0, a = 0;
};

Colour seen(Rgba c) { return {c.r * c.a / 255.0, c.g * c.a / 255.0, c.b * c.a / 255.0, double(c.a)}; }

double distance(const Colour& p, const Colour& q) {
    return std::sqrt((p.r - q.r) * (p.r - q.r) + (p.g - q.g) * (p.g - q.g) + (p.b - q.b) * (p.b - q.b) +
                     (p.a - q.a) * (p.a - q.a));
}

Colour mean(const Image& image, const Box& box) {
    Colour sum;
    for (int y = box.y; y < box.bottom(); ++y) {
        for (int x = box.x; x < box.right(); ++x) {
            const Colour c = seen(image.at(x, y));
            sum = {sum.r + c.r, sum.g + c.g, sum.b + c.b, sum.a + c.a};
        }
    }
    const double n = double(box.w) * box.h;
    return {sum.r / n, sum.g / n, sum.b / n, sum.a / n};
}

// Bits as in masks: even ones the strips of the sides, odd ones the patches of the corners.
Box border_part(Size size, int bit) {
    const int qx = size.w / 4;
    const int qy = size.h / 4;
    const int px = std::max(1, size.w / 8);
    const int py = std::max(1, size.h / 8);
    switch (bit) {
        case 0:
            return {qx, 0, size.w - 2 * qx, py};
        case 1:
            return {size.w - px, 0, px, py};
        case 2:
            return {size.w - px, qy, px, size.h - 2 * qy};
        case 3:
            return {size.w - px, size.h - py, px, py};
        case 4:
            return {qx, size.h - py, size.w - 2 * qx, py};
        case 5:
            return {0, size.h - py, px, py};
        case 6:
            return {0, qy, px, size.h - 2 * qy};
        default:
            return {0, 0, px, py};
    }
}

// How unlike its own inside the rim of a tile is.
double rim_contrast(const Image& tile) {
    const Size size = tile.size();
    const Colour inside = mean(tile, {size.w / 4, size.h / 4, std::max(1, size.w / 2), std::max(1, size.h / 2)});
    double worst = 0;
    double sum = 0;
    for (int bit = 0; bit < 8; ++bit) {
        const double d = distance(mean(tile, border_part(size, bit)), inside);
        worst = std::max(worst, d);
        sum += d;
    }
    return worst + sum / 8 + (255.0 - inside.a);
}

// How unlike the material a part of a tile's border is: 0 where all its pixels occur in the centre tile, 1.3 at the
// most.
class Likeness {
  public:
    explicit Likeness(const Image& centre) : inside_(mean(centre, box_of(centre.size()))) {
        std::set<std::uint32_t> known;
        for (const Rgba p : centre.pixels()) {
            const std::uint32_t key =
                p.r | (std::uint32_t{p.g} << 8) | (std::uint32_t{p.b} << 16) | (std::uint32_t{p.a} << 24);
            if (known.insert(key).second) palette_.push_back(seen(p));
        }
    }

    [[nodiscard]] double unlike(const Image& tile, const Box& part) {
        double sum = 0;
        for (int y = part.y; y < part.bottom(); ++y)
            for (int x = part.x; x < part.right(); ++x) sum += nearest(tile.at(x, y));
        return sum / (double(part.w) * part.h) +
               0.3 * std::min(distance(mean(tile, part), inside_), kForeign) / kForeign;
    }

  private:
    double nearest(Rgba pixel) {
        const std::uint32_t key =
            pixel.r | (std::uint32_t{pixel.g} << 8) | (std::uint32_t{pixel.b} << 16) | (std::uint32_t{pixel.a} << 24);
        const auto known = cache_.find(key);
        if (known != cache_.end()) return known->second;
        const Colour c = seen(pixel);
        double best = 1e9;
        for (const Colour& p : palette_) best = std::min(best, distance(c, p));
        // Beyond a certain distance foreign is foreign: see-through is not more so than another colour.
        best = std::min(best, kForeign) / kForeign;
        cache_.emplace(key, best);
        return best;
    }

    Colour inside_;
    std::vector<Colour> palette_;
    std::map<std::uint32_t, double> cache_;
};

struct Split {
    double threshold = 0;
    double low = 0;  // mean of the group below
    double high = 0; // mean of the group above
};

// Otsu's threshold on a list of numbers.
Split split(std::vector<double> values) {
    std::sort(values.begin(), values.end());
    Split best;
    if (values.empty()) return best;
    const double total = std::accumulate(values.begin(), values.end(), 0.0);
    double below = 0;
    double best_variance = -1;
    best = {values.back() + 1, total / double(values.size()), values.back() + 2};
    for (std::size_t i = 0; i + 1 < values.size(); ++i) {
        below += values[i];
        if (values[i + 1] == values[i]) continue;
        const double n0 = double(i) + 1;
        const double n1 = double(values.size()) - n0;
        const double m0 = below / n0;
        const double m1 = (total - below) / n1;
        const double variance = n0 * n1 * (m1 - m0) * (m1 - m0);
        if (variance > best_variance) {
            best_variance = variance;
            best = {(m0 + m1) / 2, m0, m1};
        }
    }
    return best;
}

double certainty(double value, const Split& s) {
    const double half = std::max((s.high - s.low) / 2, 1e-9);
    return std::clamp(std::abs(value - s.threshold) / half, 0.0, 1.0);
}

bool blank(const Image& tile) {
    return std::all_of(tile.pixels().begin(), tile.pixels().end(), [](Rgba p) { return p.a == 0; });
}

void list_cases(JoinReading& out, level::JoinKind kind) {
    std::map<Mask, std::vector<int>> by_mask;
    for (const TileReading& t : out.tiles) by_mask[t.mask].push_back(t.index);
    for (const Mask m : cases(kind)) {
        const auto found = by_mask.find(m);
        if (found == by_mask.end())
            out.missing.push_back(m);
        else if (found->second.size() > 1)
            out.doubled.push_back({m, found->second});
    }
}

} // namespace

JoinReading read_joins(const std::vector<Image>& tiles, level::JoinKind kind, std::optional<int> centre) {
    assert(kind != level::JoinKind::plain);
    JoinReading out;
    std::vector<int> drawn;
    for (std::size_t i = 0; i < tiles.size(); ++i)
        if (!tiles[i].empty() && !blank(tiles[i])) drawn.push_back(static_cast<int>(i));
    if (drawn.empty()) {
        out.missing = cases(kind);
        return out;
    }
    const auto tile = [&](int index) -> const Image& { return tiles[static_cast<std::size_t>(index)]; };
    out.centre = centre.value_or(*std::min_element(
        drawn.begin(), drawn.end(), [&](int a, int b) { return rim_contrast(tile(a)) < rim_contrast(tile(b)); }));

    Likeness likeness(tile(out.centre));
    std::vector<std::array<double, 8>> unlike(drawn.size());
    for (std::size_t i = 0; i < drawn.size(); ++i)
        for (int bit = 0; bit < 8; ++bit)
            unlike[i][static_cast<std::size_t>(bit)] =
                likeness.unlike(tile(drawn[i]), border_part(tile(drawn[i]).size(), bit));

    std::vector<double> sides;
    for (const auto& u : unlike)
        for (std::size_t bit = 0; bit < 8; bit += 2) sides.push_back(u[bit]);
    Split side_split = split(sides);
    std::vector<double> corners;
    for (const auto& u : unlike) {
        for (std::size_t bit = 1; bit < 8; bit += 2) {
            const bool between = u[bit - 1] <= side_split.threshold && u[(bit + 1) % 8] <= side_split.threshold;
            if (kind == level::JoinKind::corners || between) corners.push_back(u[bit]);
        }
    }
    Split corner_split = split(corners);
    // Corners that differ far less than sides do are all of one kind: the sheet has no inner corners.
    if (kind != level::JoinKind::corners &&
        corner_split.high - corner_split.low < 0.2 * (side_split.high - side_split.low))
        corner_split = side_split;

    for (std::size_t i = 0; i < drawn.size(); ++i) {
        TileReading reading{drawn[i], 0, 1.0};
        int weakest = -1;
        const auto judge = [&](unsigned bit, const Split& s) {
            const double u = unlike[i][bit];
            if (u <= s.threshold) reading.mask = static_cast<Mask>(reading.mask | (1U << bit));
            if (const double sure = certainty(u, s); sure < reading.confidence) {
                reading.confidence = sure;
                weakest = static_cast<int>(bit);
            }
        };
        if (kind != level::JoinKind::corners)
            for (unsigned bit = 0; bit < 8; bit += 2) judge(bit, side_split);
        for (unsigned bit = 1; bit < 8; bit += 2) {
            const bool between = (reading.mask & (1U << (bit - 1))) && (reading.mask & (1U << ((bit + 1) % 8)));
            if (kind == level::JoinKind::corners || (kind == level::JoinKind::full && between))
                judge(bit, corner_split);
        }
        reading.mask = canonical(reading.mask, kind);
        if (reading.confidence < kDoubtful && weakest >= 0) {
            static const Text names[8] = {"north side", "north-east corner", "east side", "south-east corner",
                                          "south side", "south-west corner", "west side", "north-west corner"};
            out.doubtful.push_back(
                {drawn[i], say("its %1 is neither clearly like the material nor clearly unlike it", names[weakest])});
        }
        out.tiles.push_back(reading);
    }
    list_cases(out, kind);
    return out;
}

} // namespace vic::join
