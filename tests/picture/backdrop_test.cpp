// Backdrops against an oracle that asks pixel by pixel, and what the frame sees of them.
#include <catch2/catch.hpp>
#include <cmath>

#include "edit/backdrop.hpp"
#include "level/standing.hpp"
#include "picture/backdrop.hpp"
#include "sheet/seam.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::picture;

namespace {

Image noise(Size size, unsigned seed, bool see_through) {
    make::Random random(seed);
    Image out(size);
    for (int y = 0; y < size.h; ++y)
        for (int x = 0; x < size.w; ++x) {
            const auto v = [&] { return static_cast<std::uint8_t>(random.below(256)); };
            out.set(x, y, {v(), v(), v(), static_cast<std::uint8_t>(see_through && random.flip() ? 0 : 255)});
        }
    return out;
}

struct Backed : make::Small {
    level::LayerId layer = 700;
    level::SheetId sheet = 0;
    level::Level level;
    explicit Backed(Image picture, int plane = 0) {
        level::Sheet s;
        s.id = 500;
        s.name = "hills";
        s.file = "sheets/hills.png";
        s.image = std::make_shared<const Image>(std::move(picture));
        project.put(s);
        sheet = s.id;
        level = Small::level();
        for (auto& l : level.layers) level.edit(l->id).shown = false;
        level::Layer back;
        back.id = layer;
        back.name = "Hills";
        back.content = level::Backdrop{};
        back.backdrop()->sheet = sheet;
        level.layers.insert(level.layers.begin() + plane, std::make_shared<const level::Layer>(back));
        level.plane = 1;
    }
    [[nodiscard]] const Image& picture() const { return *project.sheet(sheet)->image; }
    level::Backdrop& backdrop() { return *level.edit(layer).backdrop(); }
};

int part(int v, int times, int plus) { return std::min(255, (v * times + 127) / 255 + plus); }

// What is seen of a crisp backdrop in one pixel; nothing where it has nothing there.
Rgba asked(const Backed& b, int x, int y) {
    const level::Backdrop& d = *b.level.layer(b.layer)->backdrop();
    const Box box = d.box(b.picture().size());
    const Rgba ground = b.level.ground;
    int u = x - box.x, v = y - box.y;
    if (d.across) u = ((u % box.w) + box.w) % box.w;
    if (d.down) v = ((v % box.h) + box.h) % box.h;
    if (u < 0 || v < 0 || u >= box.w || v >= box.h) return ground;
    const Rgba p = b.picture().at(u * b.picture().width() / box.w, v * b.picture().height() / box.h);
    if (p.a == 0) return ground;
    const level::Wash w = level::wash_of(d, b.level);
    return {static_cast<std::uint8_t>(part(p.r, w.times.r, w.plus.r)),
            static_cast<std::uint8_t>(part(p.g, w.times.g, w.plus.g)),
            static_cast<std::uint8_t>(part(p.b, w.times.b, w.plus.b)), 255};
}

} // namespace

TEST_CASE("a crisp backdrop shows what one asks for pixel by pixel, wherever it is placed", "[backdrop]") {
    make::Random random(11);
    for (int round = 0; round < 40; ++round) {
        Backed b(noise({3 + random.below(60), 3 + random.below(40)}, static_cast<unsigned>(round), round % 2 == 0));
        level::Backdrop& d = b.backdrop();
        d.at = {random.below(300) - 100, random.below(300) - 100};
        d.across = random.flip();
        d.down = random.flip();
        d.steps_back = random.below(101);
        d.tint = {200, 255, 128, 255};
        if (random.flip()) d.drawn = {1 + random.below(200), 1 + random.below(200)};
        const Image out = render(b.project, b.level, 1);
        for (int i = 0; i < 500; ++i) {
            const int x = random.below(out.width()), y = random.below(out.height());
            const Rgba is = out.at(x, y), want = asked(b, x, y);
            REQUIRE(std::max({std::abs(is.r - want.r), std::abs(is.g - want.g), std::abs(is.b - want.b)}) <= 1);
        }
    }
}

TEST_CASE("stepping back goes from what is drawn to the background", "[backdrop]") {
    Backed b(noise({16, 16}, 3, false));
    const Image near = render(b.project, b.level, 1);
    b.backdrop().steps_back = 100;
    const Image far = render(b.project, b.level, 1);
    CHECK(far.at(5, 5) == b.level.ground);
    b.backdrop().steps_back = 50;
    const Image half = render(b.project, b.level, 1);
    CHECK(std::abs(half.at(5, 5).r - (near.at(5, 5).r + far.at(5, 5).r) / 2) <= 1);
}

TEST_CASE("small pages of a placed and scaled backdrop have its colours", "[backdrop][small]") {
    for (const bool smooth : {false, true})
        for (const Size drawn : {Size{}, Size{97, 61}, Size{20, 9}}) {
            Backed b(noise({40, 24}, 5, false));
            b.backdrop().at = {7, -3};
            b.backdrop().drawn = drawn;
            b.backdrop().smooth = smooth;
            Art art;
            const auto mean = [&](int small) {
                Canvas canvas({0, 0, 640 >> small, 480 >> small});
                draw_small(b.project, b.level, art, canvas, canvas.box, small);
                double sum = 0;
                for (const std::uint32_t p : canvas.pixels) sum += p & 255U;
                return sum / double(canvas.pixels.size());
            };
            CHECK(std::abs(mean(0) - mean(1)) < 3);
            CHECK(std::abs(mean(0) - mean(3)) < 3);
        }
}

TEST_CASE("a smooth backdrop has no step where a crisp one has", "[backdrop]") {
    Image two({2, 1});
    two.set(0, 0, {0, 0, 0, 255});
    two.set(1, 0, {200, 200, 200, 255});
    Backed b(two);
    b.backdrop().drawn = {200, 100};
    b.backdrop().across = false;
    const auto largest_step = [&] {
        const Image out = render(b.project, b.level, 1);
        int most = 0;
        for (int x = 1; x < 200; ++x) most = std::max(most, std::abs(out.at(x, 20).r - out.at(x - 1, 20).r));
        return most;
    };
    CHECK(largest_step() == 200);
    b.backdrop().smooth = true;
    CHECK(largest_step() <= 4);
}

TEST_CASE("a layer that goes along by half is seen over half the way", "[backdrop]") {
    Backed b(noise({64, 64}, 6, false)); // 640 × 480, the frame 320 × 224
    const auto seen = [&](Point parallax) {
        b.level.edit(b.layer).parallax = parallax;
        return level::seen_of(b.level, *b.level.layer(b.layer));
    };
    CHECK(seen({100, 100}) == Box{0, 0, 640, 480});
    CHECK(seen({50, 0}) == Box{0, 0, 480, 224});
    CHECK(seen({200, 100}) == Box{0, 0, 960, 480});
    // The frame that goes over the level sees just this much of it: at its end the last pixel is the last of the frame.
    for (const int p : {0, 30, 50, 75, 100, 150, 400}) {
        const Box box = seen({p, p});
        const int corner = 640 - 320;
        CHECK(box.right() - 1 == corner + 319 - static_cast<int>(std::lround(corner * (1 - p / 100.0))));
    }
}

TEST_CASE("a picture that ends before what is seen of its layer has gaps, and fitting closes them", "[backdrop]") {
    Backed b(noise({200, 100}, 7, false));
    const auto gaps = [&] { return level::gaps_of(b.level, *b.level.layer(b.layer), b.picture().size()); };
    CHECK_FALSE(gaps().any());
    b.backdrop().across = b.backdrop().down = false;
    CHECK(gaps() == level::Gaps{0, 440, 0, 380});
    b.backdrop().at = {20, -10};
    CHECK(gaps() == level::Gaps{20, 420, 0, 390});
    for (const Point parallax : {Point{100, 100}, Point{40, 20}, Point{0, 0}, Point{130, 100}}) {
        b.level.edit(b.layer).parallax = parallax;
        const auto fit = [&](edit::Fit to) {
            const level::Backdrop next = edit::fitted(b.level, *b.level.layer(b.layer), b.picture().size(), to);
            b.backdrop() = next;
        };
        fit(edit::Fit::height);
        CHECK((gaps().above == 0 && gaps().below == 0));
        fit(edit::Fit::width);
        CHECK((gaps().left == 0 && gaps().right == 0));
    }
    b.level.edit(b.layer).parallax = {0, 0};
    b.backdrop() = edit::fitted(b.level, *b.level.layer(b.layer), b.picture().size(), edit::Fit::frame);
    CHECK_FALSE(gaps().any());
}

TEST_CASE("a backdrop stands on the floor where the walker starts", "[backdrop]") {
    Backed b(noise({200, 100}, 8, true));
    b.level.view = level::View::from_the_side;
    b.level.marks = {{1, "start", level::MarkKind::start, {3, 20, 1, 2}}};
    for (const int parallax : {100, 40, 0}) {
        b.level.edit(b.layer).parallax = {parallax, parallax};
        const level::Backdrop fit =
            edit::fitted(b.level, *b.level.layer(b.layer), b.picture().size(), edit::Fit::floor);
        b.backdrop() = fit;
        // In the frame around the walker its lower edge is at his feet: nothing of it is below.
        const int foot = 22 * 16, top = foot - 16 - 112;
        Art art;
        Canvas canvas({0, top, 320, 224});
        b.backdrop().down = false;
        draw_frame(b.project, b.level, art, canvas);
        const std::uint32_t ground = canvas.pixels.back();
        for (int y = foot; y < canvas.box.bottom(); ++y)
            for (int x = 0; x < 320; ++x)
                REQUIRE(canvas.pixels[static_cast<std::size_t>((y - top) * 320 + x)] == ground);
        int above = 0;
        for (int x = 0; x < 320; ++x)
            above += canvas.pixels[static_cast<std::size_t>((foot - 1 - top) * 320 + x)] != ground;
        CHECK(above > 50);
    }
}

TEST_CASE("scaling keeps the point one scales about, and whole numbers come first", "[backdrop]") {
    level::Backdrop d;
    d.at = {100, 50};
    const Size picture{200, 100};
    for (const double by : {2.0, 3.0, 0.5, 1.7}) {
        const level::Backdrop s = edit::drawn_at_scale(d, picture, by, {150, 100});
        const Box box = s.box(picture);
        CHECK(edit::scale_of(s, picture) == Approx(by));
        CHECK(std::abs(box.x + 0.25 * box.w - 150) <= 1);
        CHECK(std::abs(box.y + 0.5 * box.h - 100) <= 1);
    }
    CHECK(edit::drawn_at_scale(edit::drawn_at_scale(d, picture, 2, {0, 0}), picture, 1, {0, 0}) ==
          d); // its own size is no other
    CHECK(edit::whole_scale(1.08) == 1);
    CHECK(edit::whole_scale(1.95) == 2);
    CHECK(edit::whole_scale(1.5) == 1.5);
    CHECK(edit::whole_scale(0.52) == 0.5);
    CHECK(edit::whole_scale(0.95) == 1);
    CHECK(edit::whole_scale(0.7) == 0.7);
    CHECK(edit::whole_scale(0.1) == 0.1);
}

TEST_CASE("the frame shows each layer as far along as it goes", "[backdrop]") {
    Backed b(noise({64, 48}, 9, false));
    for (auto& l : b.level.layers) b.level.edit(l->id).shown = true;
    Art art;
    // With nothing set the frame shows the level.
    Canvas frame({64, 32, 320, 224}), plain({64, 32, 320, 224});
    draw_frame(b.project, b.level, art, frame);
    draw(b.project, b.level, art, plain, plain.box);
    CHECK(frame.pixels == plain.pixels);
    // What goes along by half lies half as far aside.
    b.level.edit(b.layer).parallax = {50, 100};
    for (auto& l : b.level.layers)
        if (l->id != b.layer) b.level.edit(l->id).shown = false;
    draw_frame(b.project, b.level, art, frame);
    Canvas aside({32, 32, 320, 224});
    draw(b.project, b.level, art, aside, aside.box);
    CHECK(frame.pixels == aside.pixels);
}

TEST_CASE("where a picture does not close with itself is told", "[backdrop][seam]") {
    // A wave that comes round, over a sky with a gradient.
    const auto hills = [](Size size, double waves) {
        Image out(size);
        for (int y = 0; y < size.h; ++y)
            for (int x = 0; x < size.w; ++x) {
                const double edge = size.h * (0.6 + 0.15 * std::sin(2 * 3.14159265 * waves * x / size.w));
                const auto sky = static_cast<std::uint8_t>(120 + y);
                out.set(x, y, y > edge ? Rgba{40, 90, 60, 255} : Rgba{90, sky, 220, 255});
            }
        return out;
    };
    CHECK(sheet::seam_of(hills({256, 100}, 2), true).closes);
    const sheet::Seam seam = sheet::seam_of(hills({256, 100}, 1.75), true);
    CHECK_FALSE(seam.closes);
    REQUIRE(seam.open.size() == 1);
    CHECK(std::abs(seam.open[0].first - 45) <= 2); // between where the wave ends and where it begins
    CHECK(std::abs(seam.open[0].second - 60) <= 2);
    // Down: the sky's upper rim meets the hills' foot.
    CHECK_FALSE(sheet::seam_of(hills({256, 100}, 2), false).closes);
    // Noise closes with itself everywhere.
    CHECK(sheet::seam_of(noise({64, 64}, 2, false), true).closes);
    CHECK(sheet::seam_of(Image({1, 1}), true).closes);
}
