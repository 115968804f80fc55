// Small pictures of levels whose cells do not come out as whole small pixels.
#include <catch2/catch.hpp>

#include "base/parallel.hpp"
#include "edit/levels.hpp"
#include "edit/stroke.hpp"
#include "picture/blend.hpp"
#include "picture/compose.hpp"
#include "support/hands.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::picture;
using level::Region;

namespace {

// How far the small picture is off the mean of the full one, in steps of a colour: on average, and at most.
struct Off {
    double mean = 0;
    int most = 0;
};
Off off_by(const level::Project& project, const level::Level& level, int small) {
    const int s = 1 << small;
    const Box all = extent(project, level);
    const Image whole = render(project, level, 1);
    const Box inner = spanning({floor_div(all.x + s - 1, s), floor_div(all.y + s - 1, s)},
                               {floor_div(all.right(), s) - 1, floor_div(all.bottom(), s) - 1});
    Art art;
    Canvas canvas(inner);
    draw_small(project, level, art, canvas, inner, small);
    // Drawn in parts it is the same.
    Art again;
    Canvas parts(inner);
    for (int y = 0; y < inner.h; y += 9)
        for (int x = 0; x < inner.w; x += 7) {
            const Box part = intersection({inner.x + x, inner.y + y, 7, 9}, inner);
            draw_small(project, level, again, parts, part, small);
        }
    CHECK(parts.pixels == canvas.pixels);
    Off out;
    for (int y = 0; y < inner.h; ++y)
        for (int x = 0; x < inner.w; ++x) {
            const std::uint32_t p = canvas.pixels[static_cast<std::size_t>(y * inner.w + x)];
            REQUIRE((p >> 24) == 255);
            int sum[3] = {0, 0, 0};
            for (int fy = 0; fy < s; ++fy)
                for (int fx = 0; fx < s; ++fx) {
                    const Rgba c = whole.at((inner.x + x) * s + fx - all.x, (inner.y + y) * s + fy - all.y);
                    sum[0] += c.r, sum[1] += c.g, sum[2] += c.b;
                }
            for (int i = 0; i < 3; ++i) {
                const int d = std::abs(static_cast<int>((p >> (16 - 8 * i)) & 255U) - sum[i] / (s * s));
                out.mean += d / (3.0 * inner.w * inner.h);
                out.most = std::max(out.most, d);
            }
        }
    return out;
}

level::Level painted(const make::Small& small, level::Level level, unsigned seed) {
    const join::Rules rules(small.project);
    make::Random random(seed);
    level = edit::lay(small.project, rules, level, small.ground, make::material(2), Region(level.cells())).level;
    for (int i = 0; i < 30; ++i)
        level = edit::lay(small.project, rules, level, small.ground, make::material(1 + random.below(2)),
                          Region(Box{random.below(40), random.below(30), 1 + random.below(9), 1 + random.below(9)}))
                    .level;
    return level;
}

// The first tile becomes a diamond of one colour, drawn as art is: each pixel belongs to one cell.
level::TileId with_diamond(level::Project& project) {
    level::Sheet sheet = *project.sheets[0];
    Image art = *sheet.image;
    // A tile twice as wide as high, so that it is no higher than its cell.
    Box box = sheet.tiles[0].box;
    box.h = box.w / 2;
    sheet.tiles[0].box = box;
    for (int y = 0; y < box.h; ++y)
        for (int x = 0; x < box.w; ++x) {
            const double off = std::abs(2.0 * x + 1 - box.w) / box.w + std::abs(2.0 * y + 1 - box.h) / box.h;
            art.set(box.x + x, box.y + y, off < 1 ? Rgba{90, 160, 120, 255} : Rgba{0, 0, 0, 0});
        }
    sheet.image = std::make_shared<const Image>(art);
    const level::TileId id = sheet.tiles[0].id;
    project.put(sheet);
    return id;
}

} // namespace

TEST_CASE("small pictures off the raster are the mean of the full one", "[compose][small]") {
    make::Small small({40, 30});
    for (const Size cell : {Size{24, 24}, Size{25, 17}, Size{10, 12}}) {
        level::Level level = painted(small, small.level(), 3);
        level.cell = cell;
        for (const int scale : {1, 2, 3, 4}) {
            INFO(cell.w << " x " << cell.h << " at 1/" << (1 << scale));
            const Off off = off_by(small.project, level, scale);
            CHECK(off.mean < 1.5); // roundings of each picture that has a part of the pixel
            CHECK(off.most <= 12);
        }
    }
}

TEST_CASE("small pictures of shifted layers are the mean of the full one", "[compose][small]") {
    make::Small small({40, 30});
    level::Level level = painted(small, small.level(), 4);
    level.edit(small.ground).shift = {1, 1};
    for (const int scale : {1, 3, 4}) {
        const Off off = off_by(small.project, level, scale);
        CHECK(off.mean < 1.5);
        CHECK(off.most <= 12);
    }
}

TEST_CASE("small backdrops of any size are the mean of the full one", "[compose][small]") {
    make::Small small({24, 20});
    for (const Size size : {Size{37, 23}, Size{48, 20}, Size{64, 32}, Size{3, 5}}) {
        level::Project project = small.project;
        make::Random random(static_cast<unsigned>(size.w));
        Image art(size);
        for (int y = 0; y < size.h; ++y)
            for (int x = 0; x < size.w; ++x)
                art.set(x, y,
                        {static_cast<std::uint8_t>(random.below(256)), static_cast<std::uint8_t>(x * 6), 90, 255});
        level::Sheet sheet = *project.sheets[1];
        sheet.image = std::make_shared<const Image>(art);
        project.put(sheet);
        level::Level level = small.level();
        level::Layer back;
        back.id = 900;
        back.content = level::Backdrop{};
        back.backdrop()->sheet = sheet.id;
        level.layers.insert(level.layers.begin(), std::make_shared<const level::Layer>(back));
        for (const Size cell : {Size{16, 16}, Size{25, 17}}) {
            level.cell = cell;
            for (const int scale : {1, 2, 3, 4}) {
                INFO(size.w << " x " << size.h << " at 1/" << (1 << scale) << ", cells " << cell.w);
                CHECK(off_by(project, level, scale).most <= 1);
            }
        }
    }
}

TEST_CASE("what layers in front hide of an isometric level makes no difference", "[compose][small]") {
    make::Small small({20, 16});
    const level::TileId flat = with_diamond(small.project);
    const join::Rules rules(small.project);
    make::Random random(7);
    for (int round = 0; round < 12; ++round) {
        level::Level level = small.level();
        level.lattice = LatticeKind::isometric;
        level.cell = {32, 16};
        // Flat diamonds, pictures with holes, and others that stand up and hide what is behind them.
        for (int i = 0; i < 24; ++i)
            level = edit::lay(small.project, rules, level, random.flip() ? small.ground : small.front,
                              make::laying(random.flip(0.6) ? flat : static_cast<level::TileId>(1 + random.below(50))),
                              Region(Box{random.below(20), random.below(16), 1 + random.below(8), 1 + random.below(8)}))
                        .level;
        if (round % 3 == 0) level.edit(small.front).opacity = 40;
        Art art;
        Canvas drawn(extent(small.project, level));
        draw(small.project, level, art, drawn, drawn.box);
        // All of it, from the back.
        Canvas all(drawn.box);
        std::fill(all.pixels.begin(), all.pixels.end(),
                  0xFF000000U | (level.ground.r << 16) | (level.ground.g << 8) | level.ground.b);
        const Lattice lattice = level.geometry();
        for (const level::LayerRef& layer : level.layers) {
            std::vector<Point> cells;
            level::each_cell(layer->grid(), level.cells(),
                             [&](Point p, level::Cell, level::MaterialId) { cells.push_back(p); });
            std::sort(cells.begin(), cells.end(),
                      [](Point a, Point b) { return std::pair(a.x + a.y, a.x) < std::pair(b.x + b.y, b.x); });
            const auto alpha = static_cast<std::uint32_t>((layer->opacity * 255 + 50) / 100);
            for (const Point p : cells) {
                const Art::Picture& picture = *art.tile(layer->grid().cell(p), lattice);
                const Box box = lattice.box(p);
                for (int y = 0; y < picture.size.h; ++y)
                    for (int x = 0; x < picture.size.w; ++x) {
                        const Point at{box.x + x, box.bottom() - picture.size.h + y};
                        if (!all.box.contains(at)) continue;
                        std::uint32_t& to =
                            all.pixels[static_cast<std::size_t>((at.y - all.box.y) * all.box.w + at.x - all.box.x)];
                        const std::uint32_t from = picture.pixels[static_cast<std::size_t>(y * picture.size.w + x)];
                        to = over(alpha == 255 ? from : scaled_bytes(from, alpha), to);
                    }
            }
        }
        // Of a pixel on the rim of diamonds either neighbour may be seen.
        int other = 0;
        for (std::size_t i = 0; i < all.pixels.size(); ++i) other += all.pixels[i] != drawn.pixels[i];
        INFO("round " << round << ": " << other << " of " << all.pixels.size());
        CHECK(other == 0);
    }
}

TEST_CASE("small pictures of an isometric level show no seams", "[compose][small]") {
    make::Small small({40, 30});
    const level::TileId diamond = with_diamond(small.project);
    level::Level level = small.level();
    level.lattice = LatticeKind::isometric;
    level.cell = {32, 16};
    const join::Rules rules(small.project);
    level = edit::lay(small.project, rules, level, small.ground, make::laying(diamond), Region(level.cells())).level;
    for (const int scale : {1, 2, 3, 4}) {
        const int s = 1 << scale;
        // Well inside the level.
        const Lattice lattice = level.geometry();
        const Box middle = lattice.box(Box{12, 10, 8, 6});
        const Box part{floor_div(middle.x + 64, s), floor_div(middle.y + 32, s), 128 / s, 64 / s};
        Art drawn;
        Canvas canvas(part);
        draw_small(small.project, level, drawn, canvas, part, scale);
        for (const std::uint32_t p : canvas.pixels) {
            INFO("1/" << s);
            // The full picture has holes between diamonds of 16 pixels enlarged; no small pixel is darker than its
            // mean.
            CHECK(std::abs(static_cast<int>((p >> 8) & 255U) - 160) <= 24);
        }
        const Off off = off_by(small.project, level, scale);
        CHECK(off.mean < 6);
    }
}

TEST_CASE("two threads draw with the same art what one draws", "[compose][small]") {
    make::Small small({60, 60});
    level::Level level = painted(small, small.level(), 8);
    level::Layer back;
    back.id = small.project.next_id++;
    back.name = "Sky";
    back.content = level::Backdrop{};
    back.backdrop()->sheet = small.project.sheets[0]->id;
    level.layers.insert(level.layers.begin(), std::make_shared<const level::Layer>(back));
    level.edit(small.props).props().put({90, small.prop, {300, 300}});
    for (const auto kind : {LatticeKind::square, LatticeKind::isometric})
        for (const int scale : {0, 1, 3}) {
            level.lattice = kind;
            level.cell = kind == LatticeKind::square ? Size{16, 16} : Size{32, 16};
            const Box all = extent(small.project, level);
            const Box part{floor_div(all.x, 1 << scale), 0, 700 >> scale, 512 >> scale};
            const auto drawn = [&](Art& art, const Box& of) {
                Canvas canvas(of);
                if (scale == 0)
                    draw(small.project, level, art, canvas, of);
                else
                    draw_small(small.project, level, art, canvas, of, scale);
                return canvas.pixels;
            };
            Art one;
            const std::vector<std::uint32_t> whole = drawn(one, part);
            Art shared;
            shared.update(small.project);
            std::vector<std::uint32_t> both(whole.size());
            parallel_pieces(0, part.h, true, [&](int, int from, int to) {
                const auto rows = drawn(shared, {part.x, part.y + from, part.w, to - from});
                std::copy(rows.begin(), rows.end(), both.begin() + std::ptrdiff_t{part.w} * from);
            });
            CHECK(both == whole);
        }
}
