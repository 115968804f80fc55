#include "app/window.hpp"

#include <QImage>

#include "app/view/pages.hpp"
#include "edit/stroke.hpp"
#include "join/resolve.hpp"
#include "level/cell.hpp"
#include "level/project.hpp"
#include "picture/art.hpp"
#include "picture/compose.hpp"
#include "support/hands.hpp"

using namespace app_test;

TEST_CASE("patched pages are pages drawn anew, at every scale", "[app][pages]") {
    make::Small small({100, 80});
    const join::Rules rules(small.project);
    picture::Art art, other;
    Pages lived(art);
    const auto state = std::make_shared<const level::Project>(small.project);
    make::Random random(6);
    level::Level level = small.level();
    lived.show(state, level, false);
    const auto touch = [&](Pages& pages) {
        std::vector<QImage> out;
        for (int scale = 0; scale <= Pages::kLeast; ++scale)
            for (int y = 0; y <= (1280 / Pages::kSide) >> scale; ++y)
                for (int x = 0; x <= (1600 / Pages::kSide) >> scale; ++x) out.push_back(pages.page(scale, x, y));
        return out;
    };
    touch(lived);
    for (int i = 0; i < 40; ++i) {
        const edit::Hand hand = random.flip(0.3) ? make::eraser() : make::material(1 + random.below(2));
        level =
            edit::lay(small.project, rules, level, random.flip() ? small.ground : small.front, hand,
                      edit::box_cells({random.below(100), random.below(80), 1 + random.below(12), 1 + random.below(9)}))
                .level;
        if (random.flip(0.4))
            level.edit(small.props)
                .props()
                .put({static_cast<std::uint32_t>(5000 + i),
                      small.prop,
                      {random.below(1600), random.below(1280)},
                      random.flip()});
        const auto changed = lived.show(state, level, false);
        REQUIRE(changed);
    }
    Pages fresh(other);
    fresh.show(state, level, false);
    const auto a = touch(lived), b = touch(fresh);
    REQUIRE(a.size() == b.size());
    for (std::size_t i = 0; i < a.size(); ++i) CHECK(a[i] == b[i]);
}

TEST_CASE("what changes nothing redraws nothing, what changes all redraws all", "[app][pages]") {
    make::Small small;
    picture::Art art;
    Pages pages(art);
    const auto state = std::make_shared<const level::Project>(small.project);
    CHECK_FALSE(pages.show(state, small.level(), false));
    auto changed = pages.show(state, small.level(), false);
    REQUIRE(changed);
    CHECK(changed->empty());
    CHECK_FALSE(pages.show(state, small.level(), true)); // other tones
    level::Level hidden = small.level();
    hidden.edit(small.ground).shown = false;
    CHECK_FALSE(pages.show(state, hidden, true));
}

TEST_CASE("small pages are the mean of what they stand for", "[app][pages]") {
    make::Small small({64, 64});
    level::Level level = small.level();
    make::Random random(2);
    for (int i = 0; i < 2000; ++i)
        level.edit(small.ground)
            .grid()
            .set({random.below(64), random.below(64)}, level::Cell(static_cast<level::TileId>(1 + random.below(51))),
                 0);
    picture::Art art;
    Pages pages(art);
    pages.show(std::make_shared<const level::Project>(small.project), level, false);
    const QImage half = pages.page(1, 0, 0);
    const Image whole = picture::render(small.project, level, 1);
    for (int i = 0; i < 2000; ++i) {
        const int x = random.below(512), y = random.below(512);
        int sum = 0;
        for (int k = 0; k < 4; ++k) sum += whole.at(2 * x + k % 2, 2 * y + k / 2).g;
        REQUIRE(std::abs(qGreen(half.pixel(x, y)) - sum / 4.0) <= 1);
    }
}

TEST_CASE("a small page drawn at once is the mean of the large ones", "[app][pages]") {
    make::Small small({128, 128});
    const join::Rules rules(small.project);
    level::Level level = small.level();
    make::Random random(5);
    for (int i = 0; i < 60; ++i) {
        const edit::Hand hand = make::material(1 + random.below(2));
        level = edit::lay(
                    small.project, rules, level, random.flip() ? small.ground : small.front, hand,
                    edit::box_cells({random.below(128), random.below(128), 1 + random.below(30), 1 + random.below(20)}))
                    .level;
    }
    for (int i = 0; i < 40; ++i)
        level.edit(small.props)
            .props()
            .put({static_cast<std::uint32_t>(7000 + i),
                  small.prop,
                  {random.below(2048), random.below(2048)},
                  random.flip()});
    level.edit(small.front).opacity = 60;
    picture::Art art;
    Pages pages(art);
    pages.show(std::make_shared<const level::Project>(small.project), level, false);
    const Image whole = picture::render(small.project, level, 1);
    for (const int scale : {1, 3, 4}) {
        const int s = 1 << scale;
        double off = 0;
        int most = 0;
        int n = 0;
        for (int y = 0; y < 2048 / s; y += 3)
            for (int x = 0; x < 2048 / s; x += 3) {
                const QImage& page = pages.page(scale, x / Pages::kSide, y / Pages::kSide);
                int sum = 0;
                for (int k = 0; k < s * s; ++k) sum += whole.at(x * s + k % s, y * s + k / s).g;
                const int d =
                    std::abs(qGreen(page.pixel(x % Pages::kSide, y % Pages::kSide)) - (sum + s * s / 2) / (s * s));
                most = std::max(most, d);
                off += d;
                ++n;
            }
        INFO("scale " << scale << " most " << most);
        CHECK(off / n < 1.0); // exact but for roundings, and for what lies see-through over an edge
    }
}
