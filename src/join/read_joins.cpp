#include "join/read_joins.hpp"

#include <algorithm>
#include <cassert>
#include <cmath>
#include <map>
#include <numeric>
#include <set>

#include "join/read_centre.hpp"
#include "join/seams.hpp"
#include "join/side_kinds.hpp"

namespace vic::join {

namespace {

constexpr std::size_t kReadings = 24; // of the sides, that are compared
constexpr int kFineTile = 48;         // pixels a side: more say nothing more of how a side looks
constexpr double kLead = 0.1;         // by which a reading of the sides has to be better than that from the centre
constexpr double kLeadOfFew = 0.5;    // the same for a few tiles, whose sides are few to tell kinds by
constexpr std::size_t kFew = 8;
constexpr double kNear = 0.7; // by how much a second reading may be worse and is still worth a look

bool blank(const Image& tile) {
    return std::all_of(tile.pixels().begin(), tile.pixels().end(), [](Rgba p) { return p.a == 0; });
}

SideLabels sides_of(const JoinReading& reading) {
    SideLabels out;
    for (const TileReading& t : reading.tiles)
        out.push_back({(t.mask & kN) != 0, (t.mask & kE) != 0, (t.mask & kS) != 0, (t.mask & kW) != 0});
    return out;
}

// How far a reading of the sides is to be believed as a whole: as its kinds are told apart, and as it is clear which of
// them is inside.
double trust(const SideReading& r, double next) {
    const double apart = std::clamp((r.apart - 0.45) / 0.3, 0.0, 1.0);
    const double inside = std::clamp(0.4 + 3 * r.inside, 0.0, 1.0);
    const double lead = std::clamp((r.score - next) / 0.12, 0.0, 1.0);
    return apart * inside * (0.4 + 0.6 * lead);
}

// The share of sides that two readings see differently.
double differ(const SideLabels& a, const SideLabels& b) {
    std::size_t n = 0;
    for (std::size_t i = 0; i < a.size(); ++i)
        for (std::size_t s = 0; s < 4; ++s) n += a[i][s] != b[i][s];
    return static_cast<double>(n) / static_cast<double>(std::max<std::size_t>(1, 4 * a.size()));
}

// Of corners either ground may be the material, unless what is outside is see-through.
JoinReading with_inverse(JoinReading reading, const std::vector<Image>& tiles) {
    double opaque = 0, open = 0;
    for (const TileReading& t : reading.tiles) {
        const Image& image = tiles[static_cast<std::size_t>(t.index)];
        for (int bit = 1; bit < 8; bit += 2)
            if (!(t.mask & (1 << bit))) {
                opaque += corner_alpha(image, bit);
                ++open;
            }
    }
    if (open == 0 || opaque < 128 * open) return reading;
    JoinReading other;
    other.centre = -1;
    for (TileReading t : reading.tiles) {
        t.mask = of_corners(static_cast<Mask>(~t.mask & (kNE | kSE | kSW | kNW)));
        other.tiles.push_back(t);
    }
    other.doubtful = reading.doubtful;
    other.contradictory = reading.contradictory;
    list_cases(other, level::JoinKind::corners);
    reading.others.push_back(std::move(other));
    return reading;
}

void doubt(JoinReading& reading, TileReading& tile, double confidence, const Text& why) {
    tile.confidence = std::min(tile.confidence, confidence);
    const auto same = [&](const JoinReading::Doubt& d) { return d.index == tile.index; };
    if (tile.confidence < 0.5 && std::none_of(reading.doubtful.begin(), reading.doubtful.end(), same))
        reading.doubtful.push_back({tile.index, why});
}

} // namespace

JoinReading read_joins(const std::vector<Image>& drawn_tiles, level::JoinKind kind, std::optional<int> centre,
                       const Stop& stop) {
    assert(kind != level::JoinKind::plain);
    std::vector<Image> smaller;
    const auto first = std::find_if(drawn_tiles.begin(), drawn_tiles.end(), [](const Image& t) { return !t.empty(); });
    if (first != drawn_tiles.end())
        if (const int by = std::min(first->width(), first->height()) / kFineTile; by > 1)
            for (const Image& t : drawn_tiles)
                smaller.push_back(t.empty() ? t : resampled(t, {t.width() / by, t.height() / by}, true));
    const std::vector<Image>& tiles = smaller.empty() ? drawn_tiles : smaller;
    std::vector<int> drawn;
    for (std::size_t i = 0; i < tiles.size(); ++i)
        if (look(stop); !tiles[i].empty() && !blank(tiles[i])) drawn.push_back(static_cast<int>(i));
    if (drawn.empty()) {
        JoinReading out;
        out.missing = cases(kind);
        return out;
    }
    const auto tile = [&](int index) -> const Image& { return tiles[static_cast<std::size_t>(index)]; };
    const int middle = centre ? *centre : centre_of(tiles, drawn, stop);
    JoinReading by_centre = read_from_centre(tiles, drawn, kind, middle, stop);
    if (kind == level::JoinKind::corners) return with_inverse(std::move(by_centre), tiles);
    if (drawn.size() < 4) return by_centre;
    // Nobody reads nearly all of 47 cases by mistake. (Sixteen, one does: turned inside out they are sixteen again.)
    if (kind == level::JoinKind::full && by_centre.missing.size() * 8 < cases(kind).size()) return by_centre;

    std::vector<const Image*> pictures;
    for (const int index : drawn) pictures.push_back(&tile(index));
    const SideKinds sides(pictures, kind == level::JoinKind::full, stop);
    const SideReading old = sides.judged(sides_of(by_centre));
    std::vector<SideReading> by_sides = sides.readings(kReadings, stop);
    if (centre) // it joins all round: that says which kind is inside
        std::erase_if(by_sides, [&](const SideReading& r) {
            const auto at = static_cast<std::size_t>(std::find(drawn.begin(), drawn.end(), *centre) - drawn.begin());
            return at == drawn.size() || r.joins[at] != std::array{true, true, true, true};
        });
    const bool other =
        !by_sides.empty() && by_sides.front().score > old.score + (drawn.size() < kFew ? kLeadOfFew : kLead);
    const SideReading& best = other ? by_sides.front() : old;
    // The best of those that say something else of more than a few sides.
    const auto next = std::find_if(by_sides.begin(), by_sides.end(),
                                   [&](const SideReading& r) { return differ(r.joins, best.joins) > 0.2; });
    const double believed = trust(best, next == by_sides.end() ? 0 : next->score);
    JoinReading out;
    if (other && differ(best.joins, old.joins) > 0) {
        out = read_with_sides(tiles, drawn, kind, middle, best, stop);
        for (std::size_t i = 0; i < out.tiles.size(); ++i)
            if (out.tiles[i].mask == by_centre.tiles[i].mask)
                out.tiles[i].confidence = std::max(out.tiles[i].confidence, by_centre.tiles[i].confidence);
    } else {
        out = std::move(by_centre);
    }
    for (std::size_t i = 0; i < out.tiles.size(); ++i) {
        TileReading& t = out.tiles[i];
        // Two ways of reading that agree are worth more than either.
        const bool agree =
            !by_sides.empty() && by_sides.front().joins[i] == best.joins[i] && old.joins[i] == best.joins[i];
        const double least = *std::min_element(best.sure[i].begin(), best.sure[i].end());
        double sure = std::clamp(least / kSureSide, 0.0, 1.0) * believed;
        if (agree) sure = std::max(sure, t.confidence * std::min(1.0, 0.2 + 2 * believed));
        doubt(out, t, sure, "what its sides are like leaves open which of them join");
    }
    if (next != by_sides.end() && next->score > best.score - kNear)
        out.others.push_back(read_with_sides(tiles, drawn, kind, middle, *next, stop));
    return out;
}

} // namespace vic::join
