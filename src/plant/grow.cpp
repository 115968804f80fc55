#include "plant/grow.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>
#include <memory>
#include <mutex>
#include <unordered_map>

#include "base/chance.hpp"
#include "level/standing.hpp"
#include "plant/area.hpp"

namespace vic::plant {

using namespace level;

namespace {

constexpr double kJammed = 0.7; // places of a full pass in a square as wide as they are apart, about

// Where clumps are: around one place in each square of a lattice.
class Groups {
  public:
    Groups(const Clumps& clumps, std::uint64_t seed)
        : clumps_(clumps), pitch_(clumps.apart > 0 ? clumps.apart : 3 * clumps.size), seed_(mix(seed ^ 0xC1)) {}
    struct Found {
        std::uint64_t id = 0;
        double strength = 0; // 1 well inside, 0 outside
    };
    [[nodiscard]] Found at(Point p) const {
        const Point own{floor_div(p.x, pitch_), floor_div(p.y, pitch_)};
        double nearest = std::numeric_limits<double>::infinity();
        Found out;
        for (int y = own.y - 1; y <= own.y + 1; ++y)
            for (int x = own.x - 1; x <= own.x + 1; ++x) {
                const std::uint64_t h = place_hash(seed_, x, y);
                // In the middle half of the square, so that two are never much nearer than they should be.
                const auto part = [&](std::uint32_t v) { return pitch_ * (0.25 + v / 4294967296.0 / 2); };
                const double d = std::hypot(x * pitch_ + part(static_cast<std::uint32_t>(h)) - p.x,
                                            y * pitch_ + part(static_cast<std::uint32_t>(h >> 32)) - p.y);
                if (d < nearest) {
                    nearest = d;
                    out.id = h;
                }
            }
        const double share = 2 * nearest / std::max(1, clumps_.size);
        out.strength = share <= 0.5 ? 1 : std::max(0.0, 2 - 2 * share);
        return out;
    }
    // Share of the plane that lies in clumps, by their strength: the middle half of a disk, and a rim that fades.
    [[nodiscard]] double share() const {
        return std::min(1.0, 0.5833 * 3.14159265 / 4 * clumps_.size * clumps_.size / (double(pitch_) * pitch_));
    }

  private:
    Clumps clumps_;
    int pitch_;
    std::uint64_t seed_;
};

struct Work {
    const Project& project;
    const Level& level;
    const Planting& recipe;
    PropKinds kinds;
    struct Feet { // what lies flat has room under what stands
        std::vector<Obstacle> standing, flat;
        [[nodiscard]] std::vector<Obstacle>& of(bool lies) { return lies ? flat : standing; }
        [[nodiscard]] const std::vector<Obstacle>& of(bool lies) const { return lies ? flat : standing; }
    };
    Feet kept;                     // in the layer by hand
    Feet placed;                   // on other layers
    std::vector<Obstacles> places; // of earlier passes
    std::vector<Feet> feet;
    [[nodiscard]] bool flat(const PropKindId id) const {
        const PropKind* kind = kinds.find(id);
        return kind && kind->flat;
    }
};

// Of what keeps others off: as wide as its foot's corners are apart, so that nothing stands in these either.
int across(const Box& box) { return static_cast<int>(std::lround(std::hypot(box.w, box.h) * kParts)) + 1; }

int wider(const Box& box) { return std::max(1, std::max(box.w, box.h)) * kParts; }

Work prepared(const Project& project, const Level& level, LayerId layer, const Planting& recipe) {
    Work out{project, level, recipe, PropKinds(project), {}, {}, {}, {}};
    const int at = level.index_of(layer);
    for (int i = 0; i < static_cast<int>(level.layers.size()); ++i) {
        const LayerRef& l = level.layers[static_cast<std::size_t>(i)];
        const bool own = i == at;
        // Of plantings it sees those that lie under it, so that no two see each other.
        if (!own && (!l->shown || !l->has_props() || (l->planted() && i > at) || l->parallax != Layer().parallax))
            continue;
        for (const Prop& p : l->props())
            if (!own || p.pass == 0) { // of its own what is by hand
                const Box foot = out.kinds.foot_box(p);
                (own ? out.kept : out.placed)
                    .of(out.flat(p.kind))
                    .push_back({{foot.x + foot.w / 2, foot.y + foot.h / 2}, across(foot)});
            }
    }
    out.places.resize(recipe.passes.size());
    out.feet.resize(recipe.passes.size());
    return out;
}

Spread spread_of(const Work& work, const Pass& pass, std::uint64_t seed) {
    Spread out;
    out.seed = seed;
    for (const PlantKind& k : pass.kinds) {
        const PropKind* kind = work.kinds.find(k.kind);
        const int apart = k.apart > 0      ? k.apart * kParts
                          : pass.apart > 0 ? pass.apart * kParts
                          : kind           ? apart_of_foot(*kind)
                                           : kParts;
        out.kinds.push_back({kind ? static_cast<std::uint32_t>(k.weight) : 0U,
                             std::clamp(apart, kParts, kMostApart * kParts), kind ? apart_of_foot(*kind) : kParts});
    }
    out.least = pass.least_scale;
    out.most = std::max(pass.least_scale, pass.most_scale);
    out.rim = pass.rim;
    return out;
}

class Everywhere : public Ground {
  public:
    [[nodiscard]] int grain() const override { return 1 << 20; }
    Open open(const Box&, std::uint8_t*) const override { return Open::all; }
};

// How many places of a full spread there are in a square pixel, away from any rim: by trying, for of mixed sizes no
// formula is known. The same for the same spread, so that nothing far off depends on how large the area is.
double density_of(Spread spread) {
    spread.rim = 100;
    double apart = 0, weights = 0;
    for (const auto& k : spread.kinds) {
        apart += double(k.weight) * k.apart / kParts * (spread.least + spread.most) / 200;
        weights += k.weight;
    }
    if (weights == 0) return 0;
    if (spread.kinds.size() == 1 && spread.least == spread.most) return kJammed / (apart * apart / (weights * weights));
    // A slider asks for the same again and again.
    static std::mutex guard;
    static std::map<std::vector<int>, double> known;
    std::vector<int> key{spread.least, spread.most};
    for (const auto& k : spread.kinds) key.insert(key.end(), {static_cast<int>(k.weight), k.apart});
    {
        const std::scoped_lock lock(guard);
        if (const auto found = known.find(key); found != known.end()) return found->second;
    }
    spread.seed = 1;
    const int side = std::max(64, static_cast<int>(apart / weights * 28));
    Scatter some(spread, {0, 0, side, side});
    some.settle(Everywhere(), {}, false);
    std::vector<Stand> in;
    some.in({side / 8, side / 8, side * 3 / 4, side * 3 / 4}, in);
    const double density = double(in.size()) / (0.75 * side * 0.75 * side);
    constexpr std::size_t kMostKnown = 1024;
    const std::scoped_lock lock(guard);
    if (known.size() >= kMostKnown) known.clear();
    known[key] = density;
    return density;
}

double foot_of(const Work& work, const Pass& pass) { // mean area of a foot, square pixels
    double area = 0, weights = 0;
    const double scale = (pass.least_scale + pass.most_scale) / 200.0;
    for (const PlantKind& k : pass.kinds)
        if (const PropKind* kind = work.kinds.find(k.kind)) {
            const Box foot = kind->drawn_foot();
            area +=
                double(k.weight) * static_cast<double>(std::max<std::int64_t>(1, foot.size().area())) * scale * scale;
            weights += k.weight;
        }
    return weights > 0 ? area / weights : 0;
}

// The share of full that is wanted.
double share_of(const Work& work, const Pass& pass, double density) {
    switch (pass.covers.how) {
        case Covers::How::full:
            return 1;
        case Covers::How::part:
            return pass.covers.amount / 100.0;
        case Covers::How::area:
            return pass.covers.amount / 100.0 / std::max(1e-9, foot_of(work, pass) * density);
        case Covers::How::per_cells: {
            const double cell =
                double(work.level.cell.w) * work.level.cell.h / (work.level.geometry().square() ? 1 : 2);
            return pass.covers.amount / 100.0 / (cell * density);
        }
    }
    return 1;
}

Prop prop_of(const Work& work, const Pass& pass, int index, const Stand& s) {
    Prop out;
    const PropKind* kind = work.kinds.find(pass.kinds[static_cast<std::size_t>(s.kind)].kind);
    out.kind = kind->id;
    out.at = s.at;
    out.pass = static_cast<std::uint8_t>(index + 1);
    std::uint64_t h = mix((std::uint64_t{s.chance} << 20) ^ static_cast<std::uint64_t>(index));
    const auto within = [&](int least, int most) {
        h = mix(h);
        return least + static_cast<int>(scaled(static_cast<std::uint32_t>(h),
                                               static_cast<std::uint32_t>(std::max(0, most - least) + 1)));
    };
    out.look.mirrored = within(0, 1) == 1 && pass.mirrors;
    const int turn = kind->lit ? 0 : within(pass.least_turn, pass.most_turn);
    out.look.turn = static_cast<std::int16_t>((turn % kFullTurn + kFullTurn) % kFullTurn);
    out.look.scale = static_cast<std::int16_t>(std::clamp(s.scale, std::max(kLeastScale, kind->least),
                                                          std::min(kMostScale, std::max(kind->least, kind->most))));
    out.look.light = static_cast<std::int8_t>(within(pass.least_light, pass.most_light));
    out.look.opacity = static_cast<std::uint8_t>(pass.opacity);
    out.look.tint = pass.tint;
    if (pass.tint_to) {
        const int way = within(0, 16); // few steps, so that pictures are few
        const auto between = [way](std::uint8_t from, std::uint8_t to) {
            return static_cast<std::uint8_t>(from + (to - from) * way / 16);
        };
        out.look.tint = {between(pass.tint.r, pass.tint_to->r), between(pass.tint.g, pass.tint_to->g),
                         between(pass.tint.b, pass.tint_to->b), 255};
    }
    return out;
}

// Nearest of all, mean, and nearest of two that look the same.
void measure(const std::vector<Prop>& props, double apart, PassGrown& out) {
    if (props.size() < 2) return;
    const int side = std::max(1, static_cast<int>(apart * 1.5));
    std::unordered_map<std::uint64_t, std::vector<std::size_t>> squares;
    const auto key = [](int x, int y) {
        return (std::uint64_t{static_cast<std::uint32_t>(x)} << 32) | static_cast<std::uint32_t>(y);
    };
    for (std::size_t i = 0; i < props.size(); ++i)
        squares[key(floor_div(props[i].at.x, side), floor_div(props[i].at.y, side))].push_back(i);
    double sum = 0, least = std::numeric_limits<double>::infinity(), alike = least;
    int counted = 0;
    for (std::size_t i = 0; i < props.size(); ++i) {
        double nearest = std::numeric_limits<double>::infinity();
        const Point own{floor_div(props[i].at.x, side), floor_div(props[i].at.y, side)};
        for (int ring = 0; ring <= 4; ++ring) {
            if (nearest <= double(ring - 1) * side) break;
            for (int y = own.y - ring; y <= own.y + ring; ++y)
                for (int x = own.x - ring; x <= own.x + ring; ++x) {
                    if (std::max(std::abs(x - own.x), std::abs(y - own.y)) != ring) continue;
                    const auto found = squares.find(key(x, y));
                    if (found == squares.end()) continue;
                    for (const std::size_t k : found->second) {
                        if (k == i) continue;
                        const double d = std::hypot(props[k].at.x - props[i].at.x, props[k].at.y - props[i].at.y);
                        nearest = std::min(nearest, d);
                        if (props[k].kind == props[i].kind && props[k].look == props[i].look)
                            alike = std::min(alike, d);
                    }
                }
        }
        if (nearest == std::numeric_limits<double>::infinity()) continue;
        sum += nearest;
        ++counted;
        least = std::min(least, nearest);
    }
    if (counted == 0) return;
    out.nearest = least;
    out.mean = sum / counted;
    if (alike != std::numeric_limits<double>::infinity()) out.alike = alike;
}

Obstacles obstacles_of(const Work& work, const Pass& pass, int index) {
    Obstacles out;
    const auto lies = [&](const PlantKind& k) { return work.flat(k.kind); };
    const bool some_lie = std::any_of(pass.kinds.begin(), pass.kinds.end(), lies);
    const bool all_lie = std::all_of(pass.kinds.begin(), pass.kinds.end(), lies);
    const auto add = [&](const Work::Feet& feet) {
        if (some_lie)
            for (const Obstacle& o : feet.flat) out.add(o);
        if (!all_lie)
            for (const Obstacle& o : feet.standing) out.add(o);
    };
    add(work.kept);
    if (pass.minds_placed) add(work.placed);
    for (int i = 0; i < index; ++i)
        if (((pass.ignores >> i) & 1U) == 0) add(work.feet[static_cast<std::size_t>(i)]);
    // Nothing comes again within the radius: two keep half their distances' sum.
    for (const TakenAway& t : work.recipe.taken) out.add({t.at, std::max(kParts, 2 * t.radius * kParts)});
    return out;
}

// Those that stay of a full pass: by the area's strength, by how much of it is wanted, and by clumps.
std::vector<Stand> chosen(const Area& area, const std::vector<Stand>& all, const Pass& pass, double share,
                          std::uint64_t seed) {
    const Groups groups(pass.clumps, seed);
    const bool clumps = pass.clumps.size > 0;
    const double within = clumps ? std::min(1.0, share / std::max(1e-9, groups.share())) : share;
    std::vector<Stand> out;
    std::unordered_map<std::uint64_t, std::vector<Stand>> in_one;
    const int g = area.grain();
    constexpr int kBlock = 128; // samples that are looked up at once
    std::unordered_map<std::uint64_t, std::vector<std::uint8_t>> blocks;
    const auto strength = [&](Point p) {
        const Point sample{floor_div(p.x, g), floor_div(p.y, g)};
        const Point block{floor_div(sample.x, kBlock), floor_div(sample.y, kBlock)};
        auto& known =
            blocks[(std::uint64_t{static_cast<std::uint32_t>(block.x)} << 32) | static_cast<std::uint32_t>(block.y)];
        if (known.empty()) {
            known.assign(std::size_t{kBlock} * kBlock, 0);
            area.strengths({block.x * kBlock, block.y * kBlock, kBlock, kBlock}, known.data());
        }
        return known[static_cast<std::size_t>(sample.y - block.y * kBlock) * kBlock +
                     static_cast<std::size_t>(sample.x - block.x * kBlock)] /
               255.0;
    };
    for (const Stand& s : all) {
        double stays = within * strength(s.at);
        Groups::Found group;
        if (clumps) {
            group = groups.at(s.at);
            stays *= group.strength;
        }
        if (s.chance / 4294967296.0 >= stays) continue;
        if (clumps && pass.clumps.most > 0)
            in_one[group.id].push_back(s);
        else
            out.push_back(s);
    }
    if (in_one.empty()) return out;
    for (auto& [id, stands] : in_one) {
        const auto most = static_cast<std::size_t>(pass.clumps.most);
        if (stands.size() <= most) continue;
        std::nth_element(
            stands.begin(), stands.begin() + static_cast<std::ptrdiff_t>(most), stands.end(),
            [](const Stand& a, const Stand& b) { return std::tuple(a.chance, a.at) < std::tuple(b.chance, b.at); });
        stands.resize(most);
    }
    for (const auto& [id, stands] : in_one) out.insert(out.end(), stands.begin(), stands.end());
    std::sort(out.begin(), out.end(),
              [](const Stand& a, const Stand& b) { return std::tuple(a.at.y, a.at.x) < std::tuple(b.at.y, b.at.x); });
    return out;
}

// A planting where the kinds go by clumps.
class ByGroup : public Ground {
  public:
    ByGroup(const Area& area, const Pass& pass, std::uint64_t seed) : area_(area), groups_(pass.clumps, seed) {
        for (const PlantKind& k : pass.kinds) weights_.push_back(static_cast<std::uint32_t>(k.weight));
    }
    [[nodiscard]] int grain() const override { return area_.grain(); }
    Open open(const Box& samples, std::uint8_t* out) const override { return area_.open(samples, out); }
    void inside(const Box& samples, std::uint8_t* out) const override { area_.inside(samples, out); }
    [[nodiscard]] int kind_at(Point at) const override {
        std::uint32_t all = 0;
        for (const std::uint32_t w : weights_) all += w;
        std::uint32_t v = scaled(static_cast<std::uint32_t>(mix(groups_.at(at).id) >> 32), all);
        for (std::size_t i = 0; i < weights_.size(); ++i) {
            if (v < weights_[i]) return static_cast<int>(i);
            v -= weights_[i];
        }
        return -1;
    }

  private:
    const Area& area_;
    Groups groups_;
    std::vector<std::uint32_t> weights_;
};

Text trouble_of(const Work& work, const Pass& pass) {
    if (pass.kinds.empty()) return "It has no props yet";
    bool there = false, weighs = false;
    for (const PlantKind& k : pass.kinds) {
        const bool known = work.kinds.find(k.kind) != nullptr;
        there = there || known;
        weighs = weighs || (known && k.weight > 0);
    }
    if (!there) return "Its props are gone from the project";
    if (!weighs) return "All its weights are 0";
    return {};
}

} // namespace

int would_come(const Project& project, const Level& level, LayerId layer, const Planting& now, const Planting& then,
               const std::vector<PassGrown>& grown, const Box& where) {
    const std::vector<Obstacles> none;
    const auto size = [&](const Planting& recipe) { // square pixels
        const Area area(project, level, layer, recipe, -1, none, false);
        const int g = area.grain();
        const Box samples = spanning({floor_div(where.x, g), floor_div(where.y, g)},
                                     {floor_div(where.right() - 1, g), floor_div(where.bottom() - 1, g)});
        std::vector<std::uint8_t> strength(static_cast<std::size_t>(samples.size().area()));
        area.strengths(samples, strength.data());
        double sum = 0;
        for (const std::uint8_t s : strength) sum += s;
        return sum / 255 * g * g;
    };
    if (where.empty()) return 0;
    const double fresh = size(then) - size(now);
    double out = 0;
    for (const PassGrown& g : grown)
        if (g.area > 0) out += g.count * fresh / g.area;
    return static_cast<int>(std::lround(out));
}

int apart_of_foot(const PropKind& kind) { return wider(kind.drawn_foot()); }

Grown grow(const Project& project, const Level& level, LayerId layer, const Planting& recipe, std::size_t most,
           bool threads) {
    Grown out;
    out.passes.resize(recipe.passes.size());
    Work work = prepared(project, level, layer, recipe);
    std::unique_ptr<const Area> before; // whose area they share
    for (int index = 0; index < static_cast<int>(recipe.passes.size()); ++index) {
        const Pass& pass = recipe.passes[static_cast<std::size_t>(index)];
        PassGrown& grown = out.passes[static_cast<std::size_t>(index)];
        if (pass.muted) continue;
        grown.says = trouble_of(work, pass);
        if (!grown.says.empty()) continue;
        auto made = std::make_unique<const Area>(project, level, layer, recipe, index, work.places, true, before.get());
        const Area& area = *made;
        grown.area = area.size() * area.grain() * area.grain();
        if (grown.area == 0) {
            grown.says = "Its area is empty";
            continue;
        }
        const std::uint64_t seed =
            mix((std::uint64_t{recipe.seed} << 32) ^ (std::uint64_t{layer} << 8) ^ static_cast<std::uint64_t>(index));
        Spread spread = spread_of(work, pass, seed);
        double density = density_of(spread);
        double share = share_of(work, pass, density);
        if (pass.even && share < 1) {
            // As far apart as so many can be.
            const double by = std::sqrt(1 / std::max(share, 1e-6));
            for (auto& k : spread.kinds)
                k.apart = static_cast<int>(std::min(double(kMostApart * kParts), k.apart * by));
            density = density_of(spread);
            share = 1;
        }
        const double about = grown.area * density;
        if (about * std::min(1.0, share) > double(most) || about > double(kMostGrown)) {
            out.wanted = static_cast<std::size_t>(about * std::min(1.0, share));
            out.props.clear();
            return out;
        }
        Scatter scatter(spread, area.bounds());
        const Obstacles obstacles = obstacles_of(work, pass, index);
        const bool by_kind = pass.clumps.size > 0 && pass.clumps.by_kind && pass.kinds.size() > 1;
        if (by_kind)
            scatter.settle(ByGroup(area, pass, seed), obstacles, threads);
        else
            scatter.settle(area, obstacles, threads);
        const std::vector<Stand> stands = chosen(area, scatter.all(), pass, share, seed);
        std::vector<Prop> props;
        double feet = 0;
        for (const Stand& s : stands) {
            props.push_back(prop_of(work, pass, index, s));
            const Box foot = work.kinds.foot_box(props.back());
            feet += double(foot.size().area());
            work.places[static_cast<std::size_t>(index)].add({s.at, s.apart});
            work.feet[static_cast<std::size_t>(index)]
                .of(work.flat(props.back().kind))
                .push_back({{foot.x + foot.w / 2, foot.y + foot.h / 2}, across(foot)});
        }
        grown.count = static_cast<int>(props.size());
        grown.covers = feet / grown.area;
        measure(props, 1 / std::sqrt(std::max(density, 1e-9)), grown);
        int least = kMostApart;
        for (const auto& k : spread.kinds) least = std::min(least, k.apart / kParts);
        if (grown.count == 0)
            grown.says = "There is no room for any";
        else if (double(least) * least > grown.area)
            grown.says = "They are further apart than the area is wide";
        before = std::move(made);
        out.props.insert(out.props.end(), props.begin(), props.end());
        if (out.props.size() > most) {
            out.wanted = out.props.size();
            out.props.clear();
            return out;
        }
    }
    return out;
}

} // namespace vic::plant
