#include "plant/area.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <optional>

#include "outline/solid.hpp"

namespace vic::plant {

using namespace level;

namespace {

constexpr float kEndless = std::numeric_limits<float>::infinity();

// Along one line, of squared distances: the lower envelope of parabolas.
void along(const float* from, float* to, int n, std::ptrdiff_t step, std::vector<int>& at, std::vector<float>& bound) {
    at.assign(static_cast<std::size_t>(n), 0);
    bound.assign(static_cast<std::size_t>(n) + 1, 0);
    int k = -1;
    const auto value = [&](int i) { return from[i * step]; };
    for (int q = 0; q < n; ++q) {
        if (value(q) == kEndless) continue;
        float s = -kEndless;
        while (k >= 0) {
            const int p = at[static_cast<std::size_t>(k)];
            s = ((value(q) + static_cast<float>(q) * static_cast<float>(q)) -
                 (value(p) + static_cast<float>(p) * static_cast<float>(p))) /
                static_cast<float>(2 * (q - p));
            if (s > bound[static_cast<std::size_t>(k)]) break;
            --k;
        }
        ++k;
        at[static_cast<std::size_t>(k)] = q;
        bound[static_cast<std::size_t>(k)] = k == 0 ? -kEndless : s;
        bound[static_cast<std::size_t>(k) + 1] = kEndless;
    }
    if (k < 0) {
        for (int i = 0; i < n; ++i) to[i * step] = kEndless;
        return;
    }
    int m = 0;
    for (int q = 0; q < n; ++q) {
        while (bound[static_cast<std::size_t>(m) + 1] < static_cast<float>(q)) ++m;
        const int p = at[static_cast<std::size_t>(m)];
        to[q * step] = static_cast<float>(q - p) * static_cast<float>(q - p) + value(p);
    }
}

std::vector<float> squared_to(const std::vector<std::uint8_t>& set, Size size, bool inside) {
    std::vector<float> one(set.size()), other(set.size());
    for (std::size_t i = 0; i < set.size(); ++i) one[i] = (set[i] != 0) == inside ? 0 : kEndless;
    std::vector<int> at;
    std::vector<float> bound;
    for (int y = 0; y < size.h; ++y)
        along(&one[static_cast<std::size_t>(y) * static_cast<std::size_t>(size.w)],
              &other[static_cast<std::size_t>(y) * static_cast<std::size_t>(size.w)], size.w, 1, at, bound);
    for (int x = 0; x < size.w; ++x)
        along(&other[static_cast<std::size_t>(x)], &one[static_cast<std::size_t>(x)], size.h, size.w, at, bound);
    return one;
}

// Squared distances to the nearest of the set, or of what is not in it, up to `within`; infinite where they are more:
// down the columns first, then along the rows all that is near.
std::vector<float> squared_within(const std::vector<std::uint8_t>& set, Size size, int within, bool inside) {
    const auto w = static_cast<std::size_t>(size.w), h = static_cast<std::size_t>(size.h);
    const int none = within + 1;
    std::vector<int> down(set.size());
    for (std::size_t y = 0; y < h; ++y)
        for (std::size_t x = 0; x < w; ++x)
            down[y * w + x] = (set[y * w + x] != 0) == inside ? 0
                              : y == 0                        ? none
                                                              : std::min(none, down[(y - 1) * w + x] + 1);
    for (std::size_t y = h - 1; y-- > 0;)
        for (std::size_t x = 0; x < w; ++x) down[y * w + x] = std::min(down[y * w + x], down[(y + 1) * w + x] + 1);
    constexpr int kFar = 1 << 28;
    std::vector<int> row(w + 2 * static_cast<std::size_t>(within), kFar), best(w);
    std::vector<float> out(set.size());
    for (std::size_t y = 0; y < h; ++y) {
        int* const own = row.data() + within;
        bool any = false;
        for (std::size_t x = 0; x < w; ++x) {
            const int v = down[y * w + x];
            own[x] = v > within ? kFar : v * v;
            any = any || v <= within;
        }
        std::fill(best.begin(), best.end(), kFar);
        for (int by = -within; any && by <= within; ++by) {
            const int* const from = own + by;
            const int square = by * by;
            for (std::size_t x = 0; x < w; ++x) best[x] = std::min(best[x], from[x] + square);
        }
        for (std::size_t x = 0; x < w; ++x)
            out[y * w + x] = best[x] > within * within ? kEndless : static_cast<float>(best[x]);
    }
    return out;
}

bool plain(const AreaTerm& t) { return !t.from && t.to == 0 && t.falloff == 0; }

} // namespace

std::vector<float> distances(const std::vector<std::uint8_t>& set, Size size) {
    std::vector<float> out = squared_to(set, size, true);
    const std::vector<float> in = squared_to(set, size, false);
    for (std::size_t i = 0; i < out.size(); ++i) out[i] = set[i] != 0 ? -std::sqrt(in[i]) : std::sqrt(out[i]);
    return out;
}

std::vector<float> distances_within(const std::vector<std::uint8_t>& set, Size size, int within, bool inside,
                                    bool outside) {
    constexpr int kNearEnough = 48; // samples up to which looking at all that is near costs less
    if (size.area() == 0) return {};
    const auto squared = [&](bool in) {
        return within <= kNearEnough ? squared_within(set, size, within, in) : squared_to(set, size, in);
    };
    std::vector<float> out(set.size(), kEndless);
    if (outside) out = squared(true);
    std::vector<float> in;
    if (inside) in = squared(false);
    const float most = static_cast<float>(within) * static_cast<float>(within);
    const auto root = [most](float v) { return v > most ? kEndless : std::sqrt(v); };
    for (std::size_t i = 0; i < out.size(); ++i)
        out[i] = set[i] != 0 ? -(inside ? root(in[i]) : kEndless) : root(out[i]);
    return out;
}

Area::Area(const Project& project, const Level& level, LayerId layer, const Planting& recipe, int pass,
           const std::vector<Obstacles>& earlier, bool at_once, const Area* like)
    : project_(project),
      level_(level),
      layer_(layer),
      recipe_(recipe),
      earlier_(earlier),
      tiles_(project),
      kinds_(project),
      grain_(planting_grain(level.cell)) {
    if (pass >= 0) pass_ = &recipe.passes[static_cast<std::size_t>(pass)];
    if (!at_once) return;
    constexpr std::int64_t kMostAtOnce = 1 << 22; // samples
    const Box pixels = bounds();
    if (pixels.empty()) return;
    const Box all = spanning({floor_div(pixels.x, grain_), floor_div(pixels.y, grain_)},
                             {floor_div(pixels.right() - 1, grain_), floor_div(pixels.bottom() - 1, grain_)});
    if (all.size().area() > kMostAtOnce) return;
    const bool same_for_all =
        std::none_of(recipe.area.begin(), recipe.area.end(), [](const AreaTerm& t) { return t.of == AreaOf::pass; });
    if (same_for_all)
        terms_ = like && like->terms_ && like->whole_box_ == all
                     ? like->terms_
                     : std::make_shared<const Raster>(of_terms(recipe.area, all));
    whole_box_ = all;
    whole_ = worked_out(all);
    if (pass_ && pass_->rim != 100) whole_inside_ = depths(all);
}

Point Area::cell_of(Point sample, const Lattice& lattice) const {
    return lattice.cell_at({sample.x * grain_ + grain_ / 2, sample.y * grain_ + grain_ / 2});
}

void Area::fill(const Box& pixels, const Box& samples, Raster& out) const {
    if (pixels.empty()) return;
    // Those whose middle lies in it; one at least.
    const auto first = [&](int v) { return floor_div(v + grain_ - 1 - grain_ / 2, grain_); };
    const int x0 = first(pixels.x), y0 = first(pixels.y);
    const Box in = intersection(
        {x0, y0, std::max(1, first(pixels.right()) - x0), std::max(1, first(pixels.bottom()) - y0)}, samples);
    for (int y = in.y; y < in.bottom(); ++y)
        std::fill_n(out.begin() + std::ptrdiff_t{y - samples.y} * samples.w + (in.x - samples.x), in.w,
                    std::uint8_t{255});
}

void Area::add_cells(const AreaTerm& term, const Box& samples, Raster& out) const {
    // A material on any layer is one that is seen there from the walker: what lies on it hides it.
    const bool seen = term.of == AreaOf::material && term.layer == 0;
    const auto plane = level_.plane > 0 ? static_cast<std::size_t>(level_.plane) : level_.layers.size();
    for (std::size_t index = 0; index < level_.layers.size(); ++index) {
        const LayerRef& l = level_.layers[index];
        if (seen && (index >= plane || l->overlay_of() != 0)) continue;
        if (!l->tiles() || (term.layer != 0 ? l->id != term.layer : !l->shown)) continue;
        const Lattice lattice = level_.lattice_of(*l);
        const Grid& grid = l->grid();
        const auto in = [&](Point cell) {
            const MaterialId m = grid.material(cell);
            if (term.of == AreaOf::material) return m == term.material;
            const level::Cell c = grid.cell(cell);
            return term.of == AreaOf::tile ? c.bits != 0 && c.tile() == term.tile : c.bits != 0 || m != 0;
        };
        enum Has : std::uint8_t { nothing, it, another };
        std::vector<Has> row(static_cast<std::size_t>(samples.w));
        std::optional<int> row_of; // on squares: of which cells it tells
        for (int y = 0; y < samples.h; ++y) {
            const int line = cell_of({samples.x, samples.y + y}, lattice).y;
            if (!lattice.square() || row_of != line) {
                row_of = line;
                Point last{-1, -1};
                Has has = nothing;
                for (int x = 0; x < samples.w; ++x) {
                    const Point cell = cell_of({samples.x + x, samples.y + y}, lattice);
                    if (x == 0 || cell != last)
                        has = in(cell)                                                          ? it
                              : seen && (grid.material(cell) != 0 || grid.cell(cell).bits != 0) ? another
                                                                                                : nothing;
                    last = cell;
                    row[static_cast<std::size_t>(x)] = has;
                }
            }
            std::uint8_t* const to = out.data() + static_cast<std::size_t>(y) * static_cast<std::size_t>(samples.w);
            for (int x = 0; x < samples.w; ++x)
                if (const Has has = row[static_cast<std::size_t>(x)]; has != nothing) to[x] = has == it ? 255 : 0;
        }
    }
}

// The samples of open cells that touch what blocks below, or above.
void Area::add_edges(bool tops, const Box& samples, Raster& out) const {
    const Lattice lattice = level_.geometry();
    const Box cells = lattice.cells_in(pixels_of(samples)).grown(1);
    if (cells.empty()) return;
    std::vector<outline::SolidCode> codes(static_cast<std::size_t>(cells.size().area()));
    outline::Forms forms;
    outline::read_solid(level_, tiles_, cells, codes.data(), static_cast<std::size_t>(cells.w), forms);
    const auto at = [&](Point cell) {
        return codes[static_cast<std::size_t>(cell.y - cells.y) * static_cast<std::size_t>(cells.w) +
                     static_cast<std::size_t>(cell.x - cells.x)];
    };
    const auto blocks = [&](Point cell) {
        const auto code = at(cell);
        const outline::Solid solid = outline::solid_of(code);
        const unsigned side = tops ? 1U : 4U;
        return solid == outline::kForm || (solid != outline::kOpen && (outline::kCovered[solid] & side) != 0) ||
               (tops && (outline::one_way_of(code) & side) != 0);
    };
    const Box inner = cells.grown(-1);
    for (int y = inner.y; y < inner.bottom(); ++y)
        for (int x = inner.x; x < inner.right(); ++x) {
            const Point cell{x, y}, next{x, tops ? y + 1 : y - 1};
            if (!level_.cells().contains(cell) || outline::solid_of(at(cell)) != outline::kOpen || !blocks(next))
                continue;
            const Box box = lattice.box(cell);
            fill({box.x, tops ? box.bottom() - grain_ : box.y, box.w, grain_}, samples, out);
        }
}

void Area::add_picture(const AreaTerm& term, const Box& samples, Raster& out) const {
    const Sheet* sheet = project_.sheet(term.sheet);
    if (!sheet || !sheet->image) return;
    const Image& image = *sheet->image;
    const Box all = level_.pixels();
    for (int y = 0; y < samples.h; ++y)
        for (int x = 0; x < samples.w; ++x) {
            const std::int64_t px = std::int64_t{samples.x + x} * grain_ + grain_ / 2 - all.x;
            const std::int64_t py = std::int64_t{samples.y + y} * grain_ + grain_ / 2 - all.y;
            if (px < 0 || py < 0 || px >= all.w || py >= all.h) continue;
            const Rgba c =
                image.at(static_cast<int>(px * image.width() / all.w), static_cast<int>(py * image.height() / all.h));
            // Brightness as a screen shows it (ITU-R BT.601).
            const int grey = (299 * c.r + 587 * c.g + 114 * c.b) / 1000;
            out[static_cast<std::size_t>(y) * static_cast<std::size_t>(samples.w) + static_cast<std::size_t>(x)] =
                static_cast<std::uint8_t>(grey * c.a / 255);
        }
}

Area::Raster Area::set_of(const AreaTerm& term, const Box& samples) const {
    Raster out(static_cast<std::size_t>(samples.size().area()), 0);
    switch (term.of) {
        case AreaOf::everywhere:
            std::fill(out.begin(), out.end(), std::uint8_t{255});
            break;
        case AreaOf::painted:
            recipe_.painted.read(samples, out.data());
            break;
        case AreaOf::material:
        case AreaOf::layer:
        case AreaOf::tile:
            add_cells(term, samples, out);
            break;
        case AreaOf::marks:
            for (const Mark& m : level_.marks) fill(level_.geometry().box(m.cells), samples, out);
            break;
        case AreaOf::props:
            for (const LayerRef& l : level_.layers) {
                if (l->id == layer_ || !l->shown || !l->has_props()) continue;
                // Of plantings those under its own.
                if (l->planted() && level_.index_of(l->id) > level_.index_of(layer_)) continue;
                l->props().each_in(pixels_of(samples).grown(kinds_.reach(l->props())), [&](const Prop& p) {
                    if (term.kind == 0 || p.kind == term.kind) fill(kinds_.foot_box(p), samples, out);
                });
            }
            break;
        case AreaOf::pass:
            if (static_cast<std::size_t>(term.pass) < earlier_.size()) {
                std::vector<Obstacle> found;
                earlier_[static_cast<std::size_t>(term.pass)].in(pixels_of(samples), found);
                for (const Obstacle& o : found) fill({o.at.x, o.at.y, 1, 1}, samples, out);
            }
            break;
        case AreaOf::tops:
        case AreaOf::undersides:
            add_edges(term.of == AreaOf::tops, samples, out);
            break;
        case AreaOf::picture:
            add_picture(term, samples, out);
            break;
        case AreaOf::frame: {
            const Box all = level_.pixels();
            const Point corner = level_.frame_at.value_or(
                Point{all.x + (all.w - level_.frame.w) / 2, all.y + (all.h - level_.frame.h) / 2});
            fill({corner.x + level_.frame.w / 2, corner.y + level_.frame.h / 2, 1, 1}, samples, out);
            break;
        }
    }
    return out;
}

Area::Raster Area::of_term(const AreaTerm& term, const Box& samples) const {
    if (plain(term) || term.of == AreaOf::everywhere) return set_of(term, samples);
    const int far = std::max(std::abs(term.from.value_or(0)), std::abs(term.to.value_or(0))) + term.falloff;
    const int around = far / grain_ + 2;
    const Box wide = samples.grown(around);
    const Raster set = set_of(term, wide);
    // Only those that make a difference: how far inside, and how far outside.
    const bool inside = (term.from && *term.from < term.falloff) || (term.to && *term.to < 0);
    const bool outside = (term.from && *term.from > 0) || (term.to && *term.to + term.falloff > 0);
    const std::vector<float> away = distances_within(set, wide.size(), around, inside, outside);
    Raster out(static_cast<std::size_t>(samples.size().area()));
    const auto fades = [&](float over) { // pixels beyond a limit
        if (over <= 0) return 1.0F;
        return term.falloff == 0 ? 0.0F : std::max(0.0F, 1 - over / static_cast<float>(term.falloff));
    };
    const auto g = static_cast<float>(grain_);
    for (int y = 0; y < samples.h; ++y)
        for (int x = 0; x < samples.w; ++x) {
            const float d = away[static_cast<std::size_t>(y + around) * static_cast<std::size_t>(wide.w) +
                                 static_cast<std::size_t>(x + around)];
            // To the rim between two samples, half a sample from the middle of either.
            const float pixels = d < 0 ? d * g + g / 2 : d * g - g / 2;
            float strength = 1;
            if (term.from) strength = std::min(strength, fades(static_cast<float>(*term.from) - pixels));
            if (term.to) strength = std::min(strength, fades(pixels - static_cast<float>(*term.to)));
            out[static_cast<std::size_t>(y) * static_cast<std::size_t>(samples.w) + static_cast<std::size_t>(x)] =
                static_cast<std::uint8_t>(std::lround(255 * strength));
        }
    return out;
}

Area::Raster Area::of_terms(const std::vector<AreaTerm>& terms, const Box& samples) const {
    const bool first_adds = !terms.empty() && terms.front().join == AreaJoin::or_else;
    Raster out(static_cast<std::size_t>(samples.size().area()), first_adds ? 0 : 255);
    for (const AreaTerm& term : terms) {
        const Raster one = of_term(term, samples);
        for (std::size_t i = 0; i < out.size(); ++i) switch (term.join) {
                case AreaJoin::with:
                    out[i] = std::min(out[i], one[i]);
                    break;
                case AreaJoin::or_else:
                    out[i] = std::max(out[i], one[i]);
                    break;
                case AreaJoin::without:
                    out[i] = std::min<std::uint8_t>(out[i], static_cast<std::uint8_t>(255 - one[i]));
                    break;
            }
    }
    return out;
}

Area::Raster Area::part_of(const Raster& whole, const Box& of, const Box& samples) {
    Raster out(static_cast<std::size_t>(samples.size().area()), 0);
    const Box in = intersection(of, samples);
    for (int y = in.y; y < in.bottom(); ++y)
        std::copy_n(whole.begin() + std::ptrdiff_t{y - of.y} * of.w + (in.x - of.x), in.w,
                    out.begin() + std::ptrdiff_t{y - samples.y} * samples.w + (in.x - samples.x));
    return out;
}

Area::Raster Area::strengths(const Box& samples) const {
    return whole_box_.empty() ? worked_out(samples) : part_of(whole_, whole_box_, samples);
}

Area::Raster Area::worked_out(const Box& samples) const {
    Raster out = terms_ && samples == whole_box_ ? *terms_ : of_terms(recipe_.area, samples);
    const auto any = [&] { return std::any_of(out.begin(), out.end(), [](std::uint8_t v) { return v != 0; }); };
    if (!any()) return out;
    if (pass_ && !pass_->where.empty()) {
        const Raster more = of_terms(pass_->where, samples);
        for (std::size_t i = 0; i < out.size(); ++i) out[i] = std::min(out[i], more[i]);
    }
    if (!recipe_.cleared.empty()) {
        Raster gone(out.size());
        recipe_.cleared.read(samples, gone.data());
        for (std::size_t i = 0; i < out.size(); ++i) out[i] = static_cast<std::uint8_t>(out[i] * (255 - gone[i]) / 255);
    }
    // Nothing grows beyond the level.
    const Lattice lattice = level_.geometry();
    const Box cells = level_.cells();
    if (lattice.square() && level_.pixels().contains(pixels_of(samples).corner()) &&
        level_.pixels().contains(Point{pixels_of(samples).right() - 1, pixels_of(samples).bottom() - 1}))
        return out;
    for (int y = 0; y < samples.h; ++y)
        for (int x = 0; x < samples.w; ++x)
            if (!cells.contains(cell_of({samples.x + x, samples.y + y}, lattice)))
                out[static_cast<std::size_t>(y) * static_cast<std::size_t>(samples.w) + static_cast<std::size_t>(x)] =
                    0;
    return out;
}

void Area::strengths(const Box& samples, std::uint8_t* out) const {
    const Raster all = strengths(samples);
    std::copy(all.begin(), all.end(), out);
}

Ground::Open Area::open(const Box& samples, std::uint8_t* out) const {
    const Raster all = strengths(samples);
    const auto [least, most] = std::minmax_element(all.begin(), all.end());
    if (*most == 0) return Open::none;
    if (*least != 0) return Open::all;
    std::copy(all.begin(), all.end(), out);
    return Open::some;
}

Area::Raster Area::depths(const Box& samples) const {
    const int wide = pass_ ? pass_->rim_wide : 1;
    const int around = wide / grain_ + 2;
    const Box grown = samples.grown(around);
    const std::vector<float> away = distances_within(strengths(grown), grown.size(), around, true, false);
    Raster out(static_cast<std::size_t>(samples.size().area()));
    for (int y = 0; y < samples.h; ++y)
        for (int x = 0; x < samples.w; ++x) {
            const float d = -away[static_cast<std::size_t>(y + around) * static_cast<std::size_t>(grown.w) +
                                  static_cast<std::size_t>(x + around)] *
                            static_cast<float>(grain_);
            out[static_cast<std::size_t>(y) * static_cast<std::size_t>(samples.w) + static_cast<std::size_t>(x)] =
                static_cast<std::uint8_t>(std::lround(255 * std::clamp(d / static_cast<float>(wide), 0.0F, 1.0F)));
        }
    return out;
}

void Area::inside(const Box& samples, std::uint8_t* out) const {
    const Raster all = whole_inside_.empty() ? depths(samples) : part_of(whole_inside_, whole_box_, samples);
    std::copy(all.begin(), all.end(), out);
}

Box Area::bounds() const {
    const Box all = level_.pixels();
    if (recipe_.area.empty() || recipe_.area.front().of != AreaOf::painted ||
        recipe_.area.front().join != AreaJoin::with || !recipe_.area.front().to)
        return all;
    if (std::any_of(recipe_.area.begin() + 1, recipe_.area.end(),
                    [](const AreaTerm& t) { return t.join == AreaJoin::or_else; }))
        return all;
    const AreaTerm& t = recipe_.area.front();
    return intersection(pixels_of(recipe_.painted.bounds()).grown(std::max(0, *t.to) + t.falloff), all);
}

double Area::size() const {
    const Box pixels = bounds();
    if (pixels.empty()) return 0;
    const Box all = spanning({floor_div(pixels.x, grain_), floor_div(pixels.y, grain_)},
                             {floor_div(pixels.right() - 1, grain_), floor_div(pixels.bottom() - 1, grain_)});
    constexpr int kPart = 256;
    double out = 0;
    for (int y = all.y; y < all.bottom(); y += kPart)
        for (int x = all.x; x < all.right(); x += kPart)
            for (const std::uint8_t v : strengths(intersection({x, y, kPart, kPart}, all))) out += v / 255.0;
    return out;
}

} // namespace vic::plant
