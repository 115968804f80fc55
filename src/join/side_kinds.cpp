#include "join/side_kinds.hpp"

#include <algorithm>
#include <cassert>
#include <cmath>
#include <limits>
#include <optional>
#include <set>

namespace vic::join {

namespace {

constexpr std::size_t kMostCompared = 96; // tiles
constexpr int kMostKinds = 6;             // of one direction
constexpr float kForeignSide = 120;       // colours further apart than this are just different

// Which of a few hundred colours a pixel is; all that is see-through is one.
std::size_t coarse(Rgba p) {
    if (p.a < 64) return 0;
    return 1 + ((std::size_t{p.r} >> 5) << 6 | (std::size_t{p.g} >> 5) << 3 | std::size_t{p.b} >> 5);
}
constexpr std::size_t kCoarse = 1 + 512;

// Where a list of numbers falls into two groups (Otsu's threshold); none where all are alike.
std::optional<float> threshold(std::vector<float> values) {
    std::sort(values.begin(), values.end());
    double total = 0, below = 0, best = 0;
    for (const float v : values) total += static_cast<double>(v);
    std::optional<float> out;
    const auto n = static_cast<double>(values.size());
    for (std::size_t i = 0; i + 1 < values.size(); ++i) {
        below += static_cast<double>(values[i]);
        const double n0 = static_cast<double>(i) + 1;
        const double apart = (total - below) / (n - n0) - below / n0;
        if (values[i + 1] == values[i] || n0 * (n - n0) * apart * apart <= best) continue;
        best = n0 * (n - n0) * apart * apart;
        out = (values[i] + values[i + 1]) / 2;
    }
    return out;
}

using Shares = std::array<float, kCoarse>; // of a picture's pixels, by colour

Shares shares(const Image& image, const Box& box) {
    Shares out{};
    const float one = 1.0F / (static_cast<float>(box.w) * static_cast<float>(box.h));
    for (int y = box.y; y < box.bottom(); ++y)
        for (int x = box.x; x < box.right(); ++x) out[coarse(image.at(x, y))] += one;
    return out;
}

} // namespace

SideKinds::SideKinds(const std::vector<const Image*>& tiles, bool corners, const Stop& stop) : tiles_(tiles.size()) {
    for (int b = 0; b < kBins; ++b)
        weight_[static_cast<std::size_t>(b)] = b >= kBins / 4 && b < kBins - kBins / 4 ? 1.0F : corners ? 0.0F : 0.5F;
    const auto seen = [](Rgba p) {
        const float a = static_cast<float>(p.a) / 255;
        return Colour{static_cast<float>(p.r) * a, static_cast<float>(p.g) * a, static_cast<float>(p.b) * a,
                      static_cast<float>(p.a)};
    };
    const auto mean = [&](const Image& image, Box box) {
        Colour sum;
        for (int y = box.y; y < box.bottom(); ++y)
            for (int x = box.x; x < box.right(); ++x) {
                const Colour c = seen(image.at(x, y));
                sum = {sum.r + c.r, sum.g + c.g, sum.b + c.b, sum.a + c.a};
            }
        const auto n = static_cast<float>(box.w) * static_cast<float>(box.h);
        return Colour{sum.r / n, sum.g / n, sum.b / n, sum.a / n};
    };
    Shares middles{};
    for (const Image* image : tiles) {
        const Size s = image->size();
        const Shares of = shares(*image, {s.w * 3 / 8, s.h * 3 / 8, std::max(1, s.w / 4), std::max(1, s.h / 4)});
        for (std::size_t i = 0; i < kCoarse; ++i) middles[i] += of[i] / static_cast<float>(tiles.size());
    }
    const auto unlike_middles = [&](const Image& image, const Box& box) {
        const Shares of = shares(image, box);
        float both = 0;
        for (std::size_t i = 0; i < kCoarse; ++i) both += std::min(of[i], middles[i]);
        return 1 - both;
    };
    for (const Image* image : tiles) {
        look(stop);
        const Size s = image->size();
        const int dx = std::max(1, s.w / 16), dy = std::max(1, s.h / 16);
        const auto profile = [&](Box box, bool along_x) {
            Profile out;
            const int length = along_x ? box.w : box.h;
            for (int b = 0; b < kBins; ++b) {
                const int from = b * length / kBins;
                const int to = std::max(from + 1, (b + 1) * length / kBins);
                out[static_cast<std::size_t>(b)] =
                    mean(*image, along_x ? Box{from, box.y, to - from, box.h} : Box{box.x, from, box.w, to - from});
            }
            return out;
        };
        for (const Box& box : {Box{0, 0, s.w, dy}, Box{0, s.h - dy, s.w, dy}}) {
            rows_.profiles.push_back(profile(box, true));
            rows_.inside.push_back(unlike_middles(*image, box));
        }
        for (const Box& box : {Box{0, 0, dx, s.h}, Box{s.w - dx, 0, dx, s.h}}) {
            columns_.profiles.push_back(profile(box, false));
            columns_.inside.push_back(unlike_middles(*image, box));
        }
    }
    gather(rows_, stop);
    gather(columns_, stop);
}

float SideKinds::distance(const Profile& a, const Profile& b) const {
    float sum = 0;
    float weights = 0;
    for (std::size_t i = 0; i < kBins; ++i) {
        const float dr = a[i].r - b[i].r, dg = a[i].g - b[i].g, db = a[i].b - b[i].b, da = a[i].a - b[i].a;
        sum += weight_[i] * std::min(std::sqrt(dr * dr + dg * dg + db * db + da * da), kForeignSide);
        weights += weight_[i];
    }
    return sum / weights / kForeignSide;
}

void SideKinds::gather(Direction& d, const Stop& stop) const {
    const std::size_t count = std::min(tiles_, kMostCompared);
    for (std::size_t i = 0; i < count; ++i) {
        const std::size_t tile = i * tiles_ / count;
        d.some.push_back(2 * tile);
        d.some.push_back(2 * tile + 1);
    }
    const std::size_t n = d.some.size(), all = d.profiles.size();
    d.to_some.resize(all * n);
    for (std::size_t i = 0; i < all; ++i) {
        look(stop);
        for (std::size_t j = 0; j < n; ++j) d.to_some[i * n + j] = distance(d.profiles[i], d.profiles[d.some[j]]);
    }
    d.far.resize(n * n);
    for (std::size_t i = 0; i < n; ++i)
        for (std::size_t j = 0; j < n; ++j) d.far[i * n + j] = d.to_some[d.some[i] * n + j];
}

std::vector<std::vector<int>> SideKinds::cuts(const Direction& d, const Stop& stop) const {
    const std::size_t n = d.some.size();
    std::vector<float> far = d.far;
    std::vector<int> kind(n);
    std::vector<int> size(n, 1);
    for (std::size_t i = 0; i < n; ++i) kind[i] = static_cast<int>(i);
    std::vector<std::size_t> alive(n);
    for (std::size_t i = 0; i < n; ++i) alive[i] = i;
    std::vector<std::vector<int>> out;
    while (alive.size() > 1) {
        look(stop);
        if (alive.size() <= kMostKinds) out.push_back(kind);
        std::size_t a = 0, b = 1;
        float least = std::numeric_limits<float>::max();
        for (std::size_t i = 0; i < alive.size(); ++i)
            for (std::size_t j = i + 1; j < alive.size(); ++j)
                if (far[alive[i] * n + alive[j]] < least) {
                    least = far[alive[i] * n + alive[j]];
                    a = i;
                    b = j;
                }
        const std::size_t into = alive[a], from = alive[b];
        const auto wa = static_cast<float>(size[into]), wb = static_cast<float>(size[from]);
        for (const std::size_t other : alive) {
            if (other == into || other == from) continue;
            const float mean = (wa * far[into * n + other] + wb * far[from * n + other]) / (wa + wb);
            far[into * n + other] = far[other * n + into] = mean;
        }
        size[into] += size[from];
        for (int& k : kind)
            if (k == static_cast<int>(from)) k = static_cast<int>(into);
        alive.erase(alive.begin() + static_cast<std::ptrdiff_t>(b));
    }
    return out;
}

std::vector<SideKinds::Labels> SideKinds::candidates(const Direction& d, const Stop& stop) const {
    std::set<Labels> found;
    const std::size_t n = d.some.size();
    for (const std::vector<int>& kind : cuts(d, stop)) {
        for (const int joins : std::set<int>(kind.begin(), kind.end())) {
            look(stop);
            bool first = false, second = false; // whether it has sides of both directions
            std::vector<std::size_t> in, out;   // of `some`
            for (std::size_t i = 0; i < n; ++i) {
                if (kind[i] != joins) {
                    out.push_back(i);
                    continue;
                }
                in.push_back(i);
                (d.some[i] % 2 == 0 ? first : second) = true;
            }
            if (!first || !second) continue;
            Labels labels(d.profiles.size());
            for (const std::size_t side : in) labels[d.some[side]] = true;
            if (n < d.profiles.size()) { // those that were not compared go with the nearest
                for (std::size_t i = 0; i < d.profiles.size(); ++i) {
                    const auto nearest = [&](const std::vector<std::size_t>& sides) {
                        float least = std::numeric_limits<float>::max();
                        for (const std::size_t s : sides) least = std::min(least, d.to_some[i * n + s]);
                        return least;
                    };
                    labels[i] = nearest(in) <= nearest(out);
                }
            }
            found.insert(std::move(labels));
        }
    }
    // Likewise by one number each: how like the middles a side is, and how opaque.
    std::vector<float> opaque;
    for (const Profile& p : d.profiles) {
        float a = 0;
        for (const Colour& c : p) a += c.a;
        opaque.push_back(-a);
    }
    for (const std::vector<float>& values : {d.inside, opaque})
        if (const auto at = threshold(values)) {
            Labels labels(values.size());
            for (std::size_t i = 0; i < values.size(); ++i) labels[i] = values[i] < *at;
            found.insert(std::move(labels));
        }
    return {found.begin(), found.end()};
}

SideKinds::Judged SideKinds::judge(const Direction& d, const Labels& labels) const {
    Judged out;
    const std::size_t n = d.some.size();
    // A silhouette (Rousseeuw 1987), against the nearest third of the others rather than all: what does not join may be
    // of several kinds.
    double apart = 0;
    out.sure.assign(labels.size(), 0.0);
    std::vector<float> own, other;
    for (std::size_t i = 0; i < labels.size(); ++i) {
        own.clear();
        other.clear();
        for (std::size_t j = 0; j < n; ++j) {
            const std::size_t s = d.some[j];
            if (s == i) continue;
            (labels[s] == labels[i] ? own : other).push_back(d.to_some[i * n + j]);
        }
        const auto near = [](std::vector<float>& all) {
            if (all.empty()) return 1.0;
            const std::size_t count = std::max<std::size_t>(1, all.size() / 3);
            std::nth_element(all.begin(), all.begin() + static_cast<std::ptrdiff_t>(count - 1), all.end());
            double sum = 0;
            for (std::size_t k = 0; k < count; ++k) sum += static_cast<double>(all[k]);
            return sum / static_cast<double>(count);
        };
        const double a = near(own), b = near(other);
        out.sure[i] = (b - a) / std::max({a, b, 0.02});
        apart += out.sure[i];
    }
    out.apart = apart / static_cast<double>(labels.size());
    double in = 0, not_in = 0;
    std::size_t joins = 0;
    for (std::size_t i = 0; i < labels.size(); ++i) {
        (labels[i] ? in : not_in) += static_cast<double>(d.inside[i]);
        joins += labels[i];
    }
    const std::size_t open = labels.size() - joins;
    if (joins > 0) in /= static_cast<double>(joins);
    if (open > 0) not_in /= static_cast<double>(open);
    out.inside = joins > 0 && open > 0 ? (not_in - in) / std::max(0.05, not_in + in) : 0;
    for (std::size_t i = 0; i < labels.size(); ++i)
        if (labels[i])
            for (std::size_t b = 0; b < kBins; ++b) {
                const auto share = static_cast<float>(1.0 / static_cast<double>(joins));
                const Colour& c = d.profiles[i][b];
                Colour& to = out.joins[b];
                to = {to.r + c.r * share, to.g + c.g * share, to.b + c.b * share, to.a + c.a * share};
            }
    return out;
}

SideReading SideKinds::combined(const Labels& rows, const Judged& r, const Labels& columns, const Judged& c) const {
    SideReading out;
    std::set<int> masks;
    std::size_t joins = 0;
    for (std::size_t i = 0; i < tiles_; ++i) {
        out.joins.push_back({rows[2 * i], columns[2 * i + 1], rows[2 * i + 1], columns[2 * i]});
        out.sure.push_back({r.sure[2 * i], c.sure[2 * i + 1], r.sure[2 * i + 1], c.sure[2 * i]});
        int mask = 0;
        for (std::size_t s = 0; s < 4; ++s)
            if (out.joins.back()[s]) mask |= 1 << s, ++joins;
        masks.insert(mask);
    }
    // Sets come with variants of some cases.
    const double most = 0.6 * static_cast<double>(std::min<std::size_t>(16, tiles_));
    const auto cases = static_cast<double>(masks.size());
    out.cases = std::min(1.0, cases / most) + 0.25 * cases / static_cast<double>(std::min<std::size_t>(16, tiles_));
    out.apart = (r.apart + c.apart) / 2;
    out.inside = (r.inside + c.inside) / 2;
    const double across = static_cast<double>(distance(r.joins, c.joins));
    out.score = 1.0 * out.cases + 1.0 * out.apart + 0.6 * out.inside - 0.8 * across;
    return out;
}

std::vector<SideReading> SideKinds::readings(std::size_t most, const Stop& stop) const {
    const std::vector<Labels> rows = candidates(rows_, stop), columns = candidates(columns_, stop);
    std::vector<Judged> r, c;
    for (const Labels& l : rows) {
        look(stop);
        r.push_back(judge(rows_, l));
    }
    for (const Labels& l : columns) {
        look(stop);
        c.push_back(judge(columns_, l));
    }
    std::vector<SideReading> out;
    for (std::size_t i = 0; i < rows.size(); ++i)
        for (std::size_t j = 0; j < columns.size(); ++j) out.push_back(combined(rows[i], r[i], columns[j], c[j]));
    std::stable_sort(out.begin(), out.end(), [](const auto& a, const auto& b) { return a.score > b.score; });
    if (out.size() > most) out.resize(most);
    return out;
}

SideReading SideKinds::judged(const SideLabels& labels) const {
    assert(labels.size() == tiles_);
    Labels rows(2 * tiles_), columns(2 * tiles_);
    for (std::size_t i = 0; i < tiles_; ++i) {
        rows[2 * i] = labels[i][0];
        rows[2 * i + 1] = labels[i][2];
        columns[2 * i] = labels[i][3];
        columns[2 * i + 1] = labels[i][1];
    }
    return combined(rows, judge(rows_, rows), columns, judge(columns_, columns));
}

} // namespace vic::join
