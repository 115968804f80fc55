#include "support/sheets.hpp"

#include <algorithm>
#include <cmath>
#include <random>

#include "base/chance.hpp"

namespace make {

namespace {

class Painter {
  public:
    explicit Painter(unsigned seed) : engine_(seed) {}

    int below(int n) { return static_cast<int>(engine_() % static_cast<unsigned>(n)); }
    int between(int a, int b) { return a + below(b - a + 1); }
    bool flip(double chance) { return below(1 << 20) < chance * (1 << 20); }
    unsigned word() { return static_cast<unsigned>(engine_()); }
    template <class T>
    T one_of(std::initializer_list<T> of) {
        return of.begin()[below(static_cast<int>(of.size()))];
    }
    Rgba colour(int least = 20, int most = 235) {
        const auto part = [&] { return static_cast<std::uint8_t>(between(least, most)); };
        return {part(), part(), part(), 255};
    }

  private:
    std::mt19937 engine_;
};

Rgba shade(Rgba c, int by) {
    const auto part = [&](int v) { return static_cast<std::uint8_t>(std::clamp(v + by, 0, 255)); };
    return {part(c.r), part(c.g), part(c.b), c.a};
}

int jitter(unsigned seed, int x, int y, int by) {
    return static_cast<int>((place_hash(seed, x, y) >> 33) % static_cast<unsigned>(2 * by + 1)) - by;
}

// Smooth noise, 0 .. 1.
double cloud(unsigned seed, double x, double y) {
    const int ix = static_cast<int>(std::floor(x));
    const int iy = static_cast<int>(std::floor(y));
    const auto at = [&](int dx, int dy) { return double(place_hash(seed, ix + dx, iy + dy) >> 40) / double(1 << 24); };
    const double fx = x - ix;
    const double fy = y - iy;
    const double top = at(0, 0) + (at(1, 0) - at(0, 0)) * fx;
    const double low = at(0, 1) + (at(1, 1) - at(0, 1)) * fx;
    return top + (low - top) * fy;
}

enum class Art { bordered, grain, planks, bricks, shore, clouds, dither };

// Opaque art that fills its tile.
Image opaque_tile(Painter& p, Size size, Art art, Rgba base, Rgba other) {
    Image out(size);
    const unsigned seed = p.word();
    const int sides = p.below(16);
    const int period = p.between(3, 7);
    for (int y = 0; y < size.h; ++y) {
        for (int x = 0; x < size.w; ++x) {
            Rgba c = base;
            const int rim = std::min({x, y, size.w - 1 - x, size.h - 1 - y});
            switch (art) {
                case Art::bordered:
                    c = rim == 0 ? shade(base, -70) : shade(base, jitter(seed, x, y, 3));
                    break;
                case Art::grain:
                    c = shade(base, jitter(seed, x, y, 22));
                    break;
                case Art::planks:
                    c = y % period == 0 ? shade(base, -60) : shade(base, jitter(seed, x / 5, y / period, 18));
                    break;
                case Art::bricks: {
                    const int row = y / period;
                    const bool joint = y % period == 0 || (x + (row % 2) * period) % (2 * period) == 0;
                    c = joint ? shade(base, 45) : shade(base, jitter(seed, x / 3, y / 3, 9));
                    break;
                }
                case Art::shore: {
                    double depth = 1e9;
                    if (sides & 1) depth = std::min(depth, double(y));
                    if (sides & 2) depth = std::min(depth, double(size.w - 1 - x));
                    if (sides & 4) depth = std::min(depth, double(size.h - 1 - y));
                    if (sides & 8) depth = std::min(depth, double(x));
                    const double edge = std::min(size.w, size.h) * (0.2 + 0.12 * cloud(seed, x / 4.0, y / 4.0));
                    c = depth < edge ? shade(other, jitter(seed, x, y, 8)) : shade(base, jitter(seed + 1, x, y, 8));
                    break;
                }
                case Art::clouds:
                    c = shade(base, static_cast<int>(80 * cloud(seed, x / 5.0, y / 5.0)) - 40);
                    break;
                case Art::dither:
                    c = (place_hash(seed, x, y) >> 20) % 9 == 0 ? shade(base, 40) : base;
                    break;
            }
            out.set(x, y, c);
        }
    }
    return out;
}

// A thing on see-through or plain ground that keeps within its cell, standing on its lower edge or in the middle.
Image thing_tile(Painter& p, Size size, Rgba ground, bool tight) {
    Image out(size, ground);
    const unsigned seed = p.word();
    const Rgba base = p.colour(40, 210);
    const int w = tight ? size.w : std::max(2, p.between(size.w * 5 / 10, size.w));
    const int h = tight ? size.h : std::max(2, p.between(size.h * 5 / 10, size.h));
    const int left = (size.w - w) / 2;
    const int top = p.flip(0.5) ? size.h - h : (size.h - h) / 2;
    const int form = p.below(3);
    for (int y = 0; y < h; ++y) {
        for (int x = 0; x < w; ++x) {
            const double u = (x + 0.5) / w * 2 - 1;
            const double v = (y + 0.5) / h * 2 - 1;
            bool in = true;
            if (form == 0) in = u * u + v * v <= 1;
            if (form == 1) in = std::abs(u) <= (v + 1.3) / 2.3;
            if (form == 2) in = std::abs(u) < 0.35 || v > 0.2;
            if (!in) continue;
            Rgba c = shade(base, jitter(seed, x, y, 14));
            if (form == 0 && u * u + v * v > 0.75) c = shade(base, -60);
            out.set(left + x, top + y, c);
        }
    }
    return out;
}

void paste(Image& onto, const Image& what, Point at) {
    for (int y = 0; y < what.height(); ++y)
        for (int x = 0; x < what.width(); ++x) onto.put(at.x + x, at.y + y, what.at(x, y));
}

struct Plan {
    Size tile{16, 16};
    Point margin;
    Point gap;
    Size count{8, 6};
    int scale = 1;
    Point rest;              // pixels left over at the right and at the bottom
    Rgba ground;             // of margin, gaps and blank cells
    double blank = 0;        // the share of cells with nothing in them
    int blank_tail = 0;      // cells left free at the end
    int caption = 0;         // height of a strip with lettering
    bool caption_top = true; // above or below
    bool things = false;     // things on the ground instead of tiles that fill their cell
    bool tight = false;      // things touch all four edges of their cell
    int groups = 0;          // up to so many cells a side belong to one picture without borders
    int spoil = 0;           // how far every pixel of the finished sheet is off, as after a lossy save
};

Size drawn_size(const Plan& plan) {
    return {2 * plan.margin.x + plan.count.w * (plan.tile.w + plan.gap.x) - plan.gap.x + plan.rest.x,
            2 * plan.margin.y + plan.count.h * (plan.tile.h + plan.gap.y) - plan.gap.y + plan.rest.y};
}

Image cells_of(Painter& p, const Plan& plan) {
    const Size size = drawn_size(plan);
    Image out(size, plan.ground);
    const auto place = [&](int column, int row) {
        return Point{plan.margin.x + column * (plan.tile.w + plan.gap.x),
                     plan.margin.y + row * (plan.tile.h + plan.gap.y)};
    };
    const Rgba water = p.colour();
    const Rgba land = p.colour();
    std::vector<char> done(static_cast<std::size_t>(plan.count.area()), 0);
    for (int row = 0; row < plan.count.h; ++row) {
        const Art row_art = static_cast<Art>(p.below(7));
        for (int column = 0; column < plan.count.w; ++column) {
            const auto index = static_cast<std::size_t>(row * plan.count.w + column);
            if (done[index]) continue;
            const bool tail = plan.count.area() - static_cast<int>(index) <= plan.blank_tail;
            if (tail || p.flip(plan.blank)) continue;
            Size group{1, 1};
            if (plan.groups > 1)
                group = {std::min(p.between(1, plan.groups), plan.count.w - column),
                         std::min(p.between(1, plan.groups), plan.count.h - row)};
            for (int gy = 0; gy < group.h; ++gy)
                for (int gx = 0; gx < group.w; ++gx)
                    if (done[index + static_cast<std::size_t>(gy * plan.count.w + gx)]) group = {1, 1};
            const Size whole{group.w * plan.tile.w, group.h * plan.tile.h};
            const Image art = plan.things ? thing_tile(p, whole, plan.ground, plan.tight)
                                          : opaque_tile(p, whole, p.flip(0.7) ? row_art : static_cast<Art>(p.below(7)),
                                                        row_art == Art::shore ? water : p.colour(), land);
            for (int gy = 0; gy < group.h; ++gy)
                for (int gx = 0; gx < group.w; ++gx) {
                    done[index + static_cast<std::size_t>(gy * plan.count.w + gx)] = 1;
                    paste(out, cropped(art, {gx * plan.tile.w, gy * plan.tile.h, plan.tile.w, plan.tile.h}),
                          place(column + gx, row + gy));
                }
        }
    }
    // What is left over at the right and at the bottom holds the beginnings of tiles, as when a sheet was cropped.
    if (plan.rest.x > plan.gap.x + 1 || plan.rest.y > plan.gap.y + 1) {
        const Point end = place(plan.count.w, plan.count.h);
        for (int row = 0; row < plan.count.h && plan.rest.x > plan.gap.x + 1; ++row)
            paste(out, opaque_tile(p, plan.tile, Art::grain, p.colour(), land), {end.x, place(0, row).y});
        for (int column = 0; column < plan.count.w && plan.rest.y > plan.gap.y + 1; ++column)
            paste(out, opaque_tile(p, plan.tile, Art::grain, p.colour(), land), {place(column, 0).x, end.y});
    }
    return out;
}

// A strip with a line of lettering, on a ground of its own.
Image caption_of(Painter& p, Size size, Rgba sheet_ground) {
    const Rgba ground = p.flip(0.5) ? sheet_ground : p.colour(0, 60);
    const Rgba ink =
        ground.a == 0 || ground.r + ground.g + ground.b > 300 ? Rgba{20, 20, 30, 255} : Rgba{240, 240, 230, 255};
    Image out(size, ground);
    const int letter = std::max(4, size.h - 5);
    int x = p.between(2, 5);
    while (x + 5 < size.w * 3 / 4) {
        if (p.flip(0.15)) {
            x += 4;
            continue;
        }
        const unsigned glyph = p.word();
        for (int gy = 0; gy < letter; ++gy)
            for (int gx = 0; gx < 4; ++gx)
                if ((glyph >> ((gy * 5 / letter) * 4 + gx)) & 1U) out.put(x + gx, 2 + gy, ink);
        x += p.between(5, 6);
    }
    return out;
}

SheetCase made(Painter& p, const std::string& kind, Plan plan) {
    Image art = cells_of(p, plan);
    Point margin = plan.margin;
    if (plan.caption > 0) {
        const Image strip = caption_of(p, {art.width(), plan.caption}, plan.ground);
        Image whole({art.width(), art.height() + plan.caption}, plan.ground);
        paste(whole, strip, {0, plan.caption_top ? 0 : art.height()});
        paste(whole, art, {0, plan.caption_top ? plan.caption : 0});
        art = std::move(whole);
        if (plan.caption_top) margin.y += plan.caption;
    }
    const int s = plan.scale;
    if (s > 1) art = resampled(art, {art.width() * s, art.height() * s});
    if (plan.spoil > 0) {
        const unsigned seed = p.word();
        for (int y = 0; y < art.height(); ++y)
            for (int x = 0; x < art.width(); ++x)
                if (art.at(x, y).a) art.set(x, y, shade(art.at(x, y), jitter(seed, x, y, plan.spoil)));
    }
    SheetCase out;
    out.kind = kind;
    const auto pair = [](int a, int b) { return std::to_string(a) + "x" + std::to_string(b); };
    out.name = pair(plan.tile.w, plan.tile.h) + " margin " + pair(margin.x, margin.y) + " gap " +
               pair(plan.gap.x, plan.gap.y) + " count " + pair(plan.count.w, plan.count.h) + " scale " +
               std::to_string(s) + " rest " + pair(plan.rest.x, plan.rest.y) +
               (plan.caption ? plan.caption_top ? " caption above" : " caption below" : "") +
               (plan.ground.a ? " plain ground" : "");
    out.cut = {{plan.tile.w * s, plan.tile.h * s}, {margin.x * s, margin.y * s}, {plan.gap.x * s, plan.gap.y * s}, s};
    out.count = plan.count;
    out.image = std::move(art);
    return out;
}

Plan usual(Painter& p) {
    Plan plan;
    const int side = p.one_of({8, 16, 16, 16, 24, 32, 32, 48, 64});
    plan.tile = {side, side};
    plan.count = {p.between(4, side > 32 ? 7 : 12), p.between(3, side > 32 ? 5 : 9)};
    return plan;
}

Rgba gap_ground(Painter& p) {
    return p.flip(0.5) ? Rgba{}
                       : p.one_of({Rgba{255, 0, 255, 255}, Rgba{0, 0, 0, 255}, Rgba{255, 255, 255, 255}, p.colour()});
}

} // namespace

std::vector<SheetCase> sheet_corpus(unsigned seed, int each) {
    Painter p(seed);
    std::vector<SheetCase> out;
    for (int i = 0; i < each; ++i) {
        Plan plan = usual(p);
        out.push_back(made(p, "square", plan));

        plan = usual(p);
        do {
            plan.tile = {p.one_of({8, 12, 16, 20, 24, 32, 48, 64}), p.one_of({8, 12, 16, 24, 32, 40, 48, 64, 96})};
        } while (plan.tile.w == plan.tile.h || plan.tile.w > 4 * plan.tile.h || plan.tile.h > 4 * plan.tile.w);
        if (p.flip(0.4)) {
            const int gap = p.between(1, 4);
            plan.gap = {gap, gap};
            plan.ground = gap_ground(p);
        }
        out.push_back(made(p, "not square", plan));

        plan = usual(p);
        plan.ground = gap_ground(p);
        plan.margin = {p.between(1, 6), 0};
        plan.margin.y = p.flip(0.7) ? plan.margin.x : p.between(0, 8);
        const int gap = p.between(1, 3);
        plan.gap = {gap, gap};
        out.push_back(made(p, "margin", plan));

        plan = usual(p);
        plan.ground = gap_ground(p);
        plan.gap = {p.between(0, 10), p.between(0, 10)};
        if (plan.gap.x == 0 && plan.gap.y == 0) plan.gap = {2, 2};
        if (p.flip(0.5)) plan.margin = plan.gap;
        out.push_back(made(p, "gaps", plan));

        plan = usual(p);
        plan.scale = p.between(2, 4);
        plan.tile = p.one_of({Size{8, 8}, Size{16, 16}, Size{16, 16}, Size{24, 24}, Size{16, 32}});
        if (p.flip(0.5)) {
            plan.ground = gap_ground(p);
            plan.gap = {1, 1};
            if (p.flip(0.5)) plan.margin = {1, 1};
        }
        out.push_back(made(p, "enlarged", plan));

        plan = usual(p);
        plan.blank = 0.25;
        plan.blank_tail = p.between(0, plan.count.w + 2);
        plan.ground = p.flip(0.7) ? Rgba{} : p.colour();
        if (p.flip(0.5)) {
            const int g = p.between(1, 2);
            plan.gap = {g, g};
            if (p.flip(0.5)) plan.margin = plan.gap;
        }
        out.push_back(made(p, "blank cells", plan));

        plan = usual(p);
        plan.rest = {p.between(0, plan.tile.w - 1), p.between(0, plan.tile.h - 1)};
        if (p.flip(0.5)) {
            plan.ground = gap_ground(p);
            const int g = p.between(1, 3);
            plan.gap = {g, g};
        }
        out.push_back(made(p, "remainder", plan));

        plan = usual(p);
        plan.caption = p.between(8, 20);
        plan.caption_top = p.flip(0.5);
        plan.ground = gap_ground(p);
        if (p.flip(0.6)) {
            const int g = p.between(1, 3);
            plan.gap = {g, g};
        }
        out.push_back(made(p, "caption", plan));

        plan = usual(p);
        plan.things = true;
        plan.tile = {std::max(plan.tile.w, 16), std::max(plan.tile.h, 16)};
        plan.blank = p.flip(0.3) ? 0.1 : 0.0;
        if (p.flip(0.3)) plan.tile.h *= 2;
        out.push_back(made(p, "things, see-through", plan));

        plan = usual(p);
        plan.things = true;
        plan.tile = {std::max(plan.tile.w, 16), std::max(plan.tile.h, 16)};
        plan.ground = p.colour();
        out.push_back(made(p, "things, plain ground", plan));

        plan = usual(p);
        plan.groups = p.between(2, 4);
        plan.count = {std::max(plan.count.w, 8), std::max(plan.count.h, 6)};
        out.push_back(made(p, "groups", plan));

        plan = usual(p);
        plan.spoil = p.between(2, 6);
        if (p.flip(0.6)) {
            plan.ground = p.one_of({Rgba{250, 0, 250, 255}, Rgba{8, 8, 8, 255}, Rgba{245, 245, 245, 255}});
            const int g = p.between(1, 3);
            plan.gap = {g, g};
            if (p.flip(0.5)) plan.margin = plan.gap;
        }
        out.push_back(made(p, "noise", plan));

        plan = usual(p);
        const int side = p.one_of({10, 12, 14, 18, 20, 28, 36, 40, 50, 60, 72, 80, 96, 100});
        plan.tile = {side, side};
        plan.count = {p.between(4, 9), p.between(3, 6)};
        if (p.flip(0.4)) {
            plan.ground = gap_ground(p);
            const int g = p.between(1, 4);
            plan.gap = {g, g};
        }
        out.push_back(made(p, "odd sizes", plan));
    }
    return out;
}

} // namespace make
