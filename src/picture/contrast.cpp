#include "picture/contrast.hpp"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <map>
#include <optional>
#include <set>
#include <tuple>
#include <utility>

#include "level/project.hpp"
#include "picture/compose.hpp"

namespace vic::picture {

using namespace level;

namespace {

// Brightness from 0 to 100, as the eye weighs the three colours.
double bright(std::uint32_t p) {
    return (((p >> 16) & 255U) * 0.2126 + ((p >> 8) & 255U) * 0.7152 + (p & 255U) * 0.0722) / 2.55;
}
double bright(Rgba c) { return (c.r * 0.2126 + c.g * 0.7152 + c.b * 0.0722) / 2.55; }

constexpr int kRing = 4;          // pixels around a thing that count as what lies around it
constexpr double kBlends = 6;     // per cent of brightness that are not told apart from afar
constexpr double kRimBlends = 14; // and at its rim, where a dark line would help
constexpr double kStands = 8;     // from which on it stands out
constexpr double kWhole = 0.4;    // share of its box that it covers, to look solid

// How a prop's picture looks, without what lies around.
struct Looks {
    Image picture;
    double bright = 0; // mean
    double whole = 0;  // share of the box that is opaque
};

bool opaque(const Image& picture, int x, int y) {
    return x >= 0 && y >= 0 && x < picture.width() && y < picture.height() && picture.at(x, y).a >= 128;
}

Looks looks_of(const Project& project, Art& art, const Prop& prop) {
    Looks out;
    out.picture = prop_picture(project, art, prop);
    double sum = 0;
    int count = 0;
    for (int y = 0; y < out.picture.height(); ++y)
        for (int x = 0; x < out.picture.width(); ++x)
            if (opaque(out.picture, x, y)) {
                sum += bright(out.picture.at(x, y));
                ++count;
            }
    if (count > 0) {
        out.bright = sum / count;
        out.whole = double(count) / double(out.picture.size().area());
    }
    return out;
}

// Pictures of props that look the same are made once.
class Known {
  public:
    Known(const Project& project, Art& art) : project_(project), art_(art) {}
    const Looks& of(const Prop& prop) {
        if (!prop.of_its_own().changes.empty()) return own_ = looks_of(project_, art_, prop);
        const Look& l = prop.look;
        const std::tuple key(prop.kind, l.mirrored, l.turn, l.scale, l.light, l.opacity, l.tint.r, l.tint.g, l.tint.b);
        const auto [found, fresh] = known_.try_emplace(key);
        if (fresh) found->second = looks_of(project_, art_, prop);
        return found->second;
    }

  private:
    const Project& project_;
    Art& art_;
    std::map<std::tuple<PropKindId, bool, int, int, int, int, int, int, int>, Looks> known_;
    Looks own_;
};

// Mean brightness of pixels of a drawn part of the level.
class Drawn {
  public:
    Drawn(const Project& project, const Level& level, Art& art, const Box& pixels) : canvas_(pixels) {
        draw(project, level, art, canvas_, pixels);
    }
    [[nodiscard]] const Box& box() const { return canvas_.box; }
    [[nodiscard]] double at(int x, int y) const {
        const Box& b = canvas_.box;
        return bright(canvas_.pixels[static_cast<std::size_t>(y - b.y) * static_cast<std::size_t>(b.w) +
                                     static_cast<std::size_t>(x - b.x)]);
    }
    [[nodiscard]] double mean(const Box& pixels) const {
        const Box seen = intersection(pixels, canvas_.box);
        double sum = 0;
        for (int y = seen.y; y < seen.bottom(); ++y)
            for (int x = seen.x; x < seen.right(); ++x) sum += at(x, y);
        return seen.empty() ? 0 : sum / double(seen.size().area());
    }
    // By how much its pixels differ from that, on the average.
    [[nodiscard]] double apart(const Box& pixels, double from) const {
        const Box seen = intersection(pixels, canvas_.box);
        double sum = 0;
        for (int y = seen.y; y < seen.bottom(); ++y)
            for (int x = seen.x; x < seen.right(); ++x) sum += std::abs(at(x, y) - from);
        return seen.empty() ? 0 : sum / double(seen.size().area());
    }

  private:
    Canvas canvas_;
};

struct Around {
    double ring = 0; // how bright it is around it
    double rim = 0;  // by how much its rim differs from that, on the average
};

// What lies around the picture, whose corner is at `at`; nothing where all of that is off the level.
std::optional<Around> around(const Image& picture, Point at, const Drawn& drawn) {
    double ring = 0, rim = 0;
    int outside = 0, at_rim = 0;
    for (int y = -kRing; y < picture.height() + kRing; ++y)
        for (int x = -kRing; x < picture.width() + kRing; ++x) {
            const Point pixel = at + Point{x, y};
            if (!drawn.box().contains(pixel)) continue;
            if (opaque(picture, x, y)) continue;
            bool near = false;
            for (int k = 1; k <= kRing && !near; ++k)
                near = opaque(picture, x - k, y) || opaque(picture, x + k, y) || opaque(picture, x, y - k) ||
                       opaque(picture, x, y + k);
            if (!near) continue;
            ring += drawn.at(pixel.x, pixel.y);
            ++outside;
        }
    if (outside == 0) return std::nullopt;
    ring /= outside;
    for (int y = 0; y < picture.height(); ++y)
        for (int x = 0; x < picture.width(); ++x) {
            const bool edge = opaque(picture, x, y) && !(opaque(picture, x - 1, y) && opaque(picture, x + 1, y) &&
                                                         opaque(picture, x, y - 1) && opaque(picture, x, y + 1));
            if (!edge) continue;
            rim += std::abs(bright(picture.at(x, y)) - ring);
            ++at_rim;
        }
    return Around{ring, at_rim > 0 ? rim / at_rim : 0};
}

bool counts(const Layer& layer) { return layer.shown && layer.opacity > 0 && layer.parallax == Layer().parallax; }

// How bright what blocks or is used is, all in all; nothing where there is none.
std::optional<double> bright_of_use(const Level& level, const PropKinds& kinds, const TileTable& tiles, Known& known) {
    double sum = 0;
    int count = 0;
    std::map<TileId, std::pair<double, int>> used;
    for (const LayerRef& layer : level.layers) {
        if (!counts(*layer)) continue;
        for (const Prop& prop : layer->props())
            if (role_of(kinds, prop) != Role::scenery) {
                sum += known.of(prop).bright;
                ++count;
            }
        if (!layer->blocks() || !layer->tiles()) continue;
        each_cell(layer->grid(), layer->cells(), [&](Point, Cell cell, MaterialId) {
            if (role_of(*layer, tiles, cell) != Role::scenery) ++used[cell.tile()].second;
        });
    }
    for (const auto& [id, many] : used) {
        const TileRef ref = tiles.find(id);
        if (!ref.tile || !ref.sheet->image) continue;
        double own = 0;
        int pixels = 0;
        const Box b = intersection(ref.tile->box, box_of(ref.sheet->image->size()));
        for (int y = b.y; y < b.bottom(); ++y)
            for (int x = b.x; x < b.right(); ++x)
                if (const Rgba c = ref.sheet->image->at(x, y); c.a >= 128) {
                    own += bright(c);
                    ++pixels;
                }
        if (pixels == 0) continue;
        sum += own / pixels * many.second;
        count += many.second;
    }
    return count > 0 ? std::optional(sum / count) : std::nullopt;
}

// Of a prop, in a part of the level that shows it and what lies around it.
std::optional<Doubt> doubt_of(const Level& level, const Layer& layer, const Prop& prop, Role role, const Looks& looks,
                              const Box& box, const Drawn& drawn, const std::optional<double>& use) {
    const auto lies = around(looks.picture, box.corner(), drawn);
    if (!lies) return std::nullopt;
    Doubt out{Doubt::What::blends,
              box,
              layer.id,
              prop.id,
              static_cast<int>(std::lround(looks.bright)),
              static_cast<int>(std::lround(lies->ring))};
    const double apart = std::abs(looks.bright - lies->ring);
    if (role != Role::scenery) return apart < kBlends && lies->rim < kRimBlends ? std::optional(out) : std::nullopt;
    // Not less than half as large as the walker, whole, and no darker than what blocks.
    const int wide = level.walker.width * level.cell.w / 128, high = level.walker.height * level.cell.h / 128;
    if (box.w < wide || box.h < high || looks.whole < kWhole) return std::nullopt;
    if (apart < kStands && lies->rim < 2 * kStands) return std::nullopt;
    if (use && looks.bright < *use - kStands) return std::nullopt;
    out.what = Doubt::What::looks_usable;
    return out;
}

void add_props(const Project& project, const Level& level, Art& art, const PropKinds& kinds, Known& known,
               const std::optional<double>& use, std::vector<Doubt>& out) {
    constexpr int kPart = 512; // pixels of what is drawn at once
    struct Candidate {
        const Layer* layer;
        Prop prop;
        Role role;
        Box box;
    };
    std::map<std::pair<int, int>, std::vector<Candidate>> parts;
    for (const LayerRef& layer : level.layers) {
        if (!counts(*layer)) continue;
        for (const Prop& prop : layer->props()) {
            const PropKind* kind = kinds.find(prop.kind);
            if (!kind || kind->flat) continue;
            const Box box = kinds.box(prop);
            if (box.empty()) continue;
            parts[{floor_div(prop.at.y, kPart), floor_div(prop.at.x, kPart)}].push_back(
                {layer.get(), prop, role_of(kinds, prop), box});
        }
    }
    for (const auto& [place, candidates] : parts) {
        Box all;
        for (const Candidate& c : candidates) all = united(all, c.box.grown(kRing));
        const Drawn drawn(project, level, art, intersection(all, level.pixels()));
        for (const Candidate& c : candidates) {
            if (out.size() >= kMostDoubts) return;
            if (const auto doubt = doubt_of(level, *c.layer, c.prop, c.role, known.of(c.prop), c.box, drawn, use))
                out.push_back(*doubt);
        }
    }
}

// Tiles that would block on another layer, in runs along rows.
void add_open(const Level& level, const TileTable& tiles, std::vector<Doubt>& out) {
    for (const LayerRef& layer : level.layers) {
        if (!counts(*layer) || !layer->tiles() || layer->blocks()) continue;
        // Art of a material that blocks nowhere in the level is no promise.
        const bool elsewhere = std::any_of(level.layers.begin(), level.layers.end(),
                                           [](const LayerRef& l) { return l->tiles() && l->blocks(); });
        if (!elsewhere) continue;
        const Lattice lattice = level.lattice_of(*layer);
        Box run;
        const auto flush = [&] {
            if (!run.empty() && out.size() < kMostDoubts)
                out.push_back({Doubt::What::lies_open, lattice.box(run), layer->id, 0, 0, 0});
            run = {};
        };
        std::map<int, std::vector<int>> rows;
        each_cell(layer->grid(), layer->cells(), [&](Point at, Cell cell, MaterialId) {
            if (tiles.shape(cell) != TileShape::none) rows[at.y].push_back(at.x);
        });
        for (auto& [y, xs] : rows) {
            std::sort(xs.begin(), xs.end());
            for (const int x : xs) {
                if (!run.empty() && run.y == y && run.right() == x) {
                    ++run.w;
                    continue;
                }
                flush();
                run = {x, y, 1, 1};
            }
        }
        flush();
    }
}

// Runs of tiles that blend and lie right above one another become one, which tells of the uppermost.
void join_runs(std::vector<Doubt>& all) {
    std::vector<Doubt> joined;
    std::map<std::tuple<LayerId, int, int, int>, std::size_t> above; // by layer, left, width and lower edge
    for (const Doubt& d : all) {
        if (d.what != Doubt::What::blends || d.prop != 0) {
            joined.push_back(d);
            continue;
        }
        const auto found = above.find({d.layer, d.pixels.x, d.pixels.w, d.pixels.y});
        std::size_t at = joined.size();
        if (found == above.end()) {
            joined.push_back(d);
        } else {
            at = found->second;
            above.erase(found);
            joined[at].pixels.h += d.pixels.h;
        }
        above[{d.layer, d.pixels.x, d.pixels.w, joined[at].pixels.bottom()}] = at;
    }
    all = std::move(joined);
}

// Where a mass of tiles is as bright as the open cell beside it, and its rim is, too; in runs along rows.
void add_masses(const Project& project, const Level& level, Art& art, const TileTable& tiles, std::vector<Doubt>& out) {
    if (!level.geometry().square()) return;
    constexpr int kPart = 32; // cells of what is drawn at once
    const Size c = level.cell;
    for (const LayerRef& layer : level.layers) {
        if (!counts(*layer) || !layer->tiles() || !layer->blocks()) continue;
        std::map<std::pair<int, int>, std::vector<Point>> parts;
        const auto blocks = [&](Point at) { return role_of(*layer, tiles, layer->grid().cell(at)) == Role::blocks; };
        each_cell(layer->grid(), layer->cells(), [&](Point at, Cell, MaterialId) {
            if (!blocks(at) || tiles.shape(layer->grid().cell(at)) != TileShape::full) return;
            for (const Point by : {Point{0, -1}, {1, 0}, {0, 1}, {-1, 0}})
                if (level.cells().contains(at + by) && !blocks(at + by)) {
                    parts[{floor_div(at.y, kPart), floor_div(at.x, kPart)}].push_back(at);
                    return;
                }
        });
        for (const auto& [place, cells] : parts) {
            const Drawn drawn(project, level, art,
                              intersection(level.geometry().box(
                                               Box{place.second * kPart, place.first * kPart, kPart, kPart}.grown(1)),
                                           level.pixels()));
            for (const Point at : cells) {
                if (out.size() >= kMostDoubts) return;
                const Box own{at.x * c.w, at.y * c.h, c.w, c.h};
                const double inside = drawn.mean(own);
                for (const Point by : {Point{0, -1}, {1, 0}, {0, 1}, {-1, 0}}) {
                    if (!level.cells().contains(at + by) || blocks(at + by)) continue;
                    const double beside = drawn.mean(own.moved({by.x * c.w, by.y * c.h}));
                    const int rw = std::max(1, c.w / 8), rh = std::max(1, c.h / 8);
                    const Box rim = by.x == 0 ? Box{own.x, by.y < 0 ? own.y : own.bottom() - rh, own.w, rh}
                                              : Box{by.x < 0 ? own.x : own.right() - rw, own.y, rw, own.h};
                    if (std::abs(inside - beside) >= kBlends || drawn.apart(rim, beside) >= kRimBlends) continue;
                    const bool goes_on = !out.empty() && out.back().what == Doubt::What::blends &&
                                         out.back().prop == 0 && out.back().layer == layer->id &&
                                         out.back().pixels.y == own.y && out.back().pixels.right() == own.x;
                    if (goes_on)
                        out.back().pixels.w += own.w;
                    else
                        out.push_back({Doubt::What::blends, own, layer->id, 0, static_cast<int>(std::lround(inside)),
                                       static_cast<int>(std::lround(beside))});
                    break;
                }
            }
        }
    }
    join_runs(out);
}

} // namespace

Role role_of(const PropKind& kind) {
    if (kind.blocks && kind.shape != level::TileShape::opens && !kind.foot.empty()) return Role::blocks;
    return kind.areas.empty() ? Role::scenery : Role::usable;
}

Role role_of(const PropKinds& kinds, const Prop& prop) {
    Role out = Role::scenery;
    kinds.each_piece(prop, [&](const Piece& piece) { out = std::max(out, role_of(*piece.kind)); });
    return out;
}

Role role_of(const Layer& layer, const TileTable& tiles, Cell cell) {
    if (!layer.tiles() || !layer.blocks()) return Role::scenery;
    const TileShape shape = tiles.shape(cell);
    if (shape == TileShape::none) return Role::scenery;
    return is_one_way(shape) ? Role::usable : Role::blocks;
}

Level without(const Project& project, const Level& level, bool usable_too) {
    return Without(usable_too).of(project, level);
}

Level Without::of(const Project& project, const Level& level) {
    const PropKinds kinds(project, level);
    const TileTable tiles(project, level);
    if (sheets_ != project.sheets || kinds_ != project.prop_kinds || here_ != level.here) known_.clear();
    sheets_ = project.sheets;
    kinds_ = project.prop_kinds;
    here_ = level.here;
    const auto goes = [&](Role role) { return role == Role::blocks || (usable_too_ && role == Role::usable); };
    const auto rest_of = [&](const LayerRef& layer) -> LayerRef {
        Layer rest = *layer;
        if (layer->has_props()) {
            rest.props().remove_if([&](const Prop& prop) { return goes(role_of(kinds, prop)); });
        } else if (layer->tiles() && layer->blocks()) {
            std::vector<Point> gone;
            each_cell(layer->grid(), layer->cells(), [&](Point at, Cell cell, MaterialId) {
                if (goes(role_of(*layer, tiles, cell))) gone.push_back(at);
            });
            for (const Point at : gone) rest.grid().set(at, Cell(), 0);
        } else {
            return layer;
        }
        return std::make_shared<const Layer>(std::move(rest));
    };
    std::vector<std::pair<LayerRef, LayerRef>> now;
    Level out = level;
    for (LayerRef& layer : out.layers) {
        const auto before =
            std::find_if(known_.begin(), known_.end(), [&](const auto& known) { return known.first == layer; });
        const LayerRef rest = before != known_.end() ? before->second : rest_of(layer);
        now.emplace_back(layer, rest);
        layer = rest;
    }
    known_ = std::move(now);
    return out;
}

std::vector<Doubt> doubts(const Project& project, const Level& level) {
    std::vector<Doubt> out;
    Art art;
    art.update(project);
    const PropKinds kinds(project, level);
    const TileTable tiles(project, level);
    Known known(project, art);
    add_props(project, level, art, kinds, known, bright_of_use(level, kinds, tiles, known), out);
    add_open(level, tiles, out);
    add_masses(project, level, art, tiles, out);
    return out;
}

} // namespace vic::picture
