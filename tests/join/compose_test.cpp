// Seams between tiles, tiles made of quarters, and what has to be drawn at the least.
#include <bit>
#include <catch2/catch.hpp>

#include "edit/joins.hpp"
#include "edit/sheets.hpp"
#include "join/compose_sheet.hpp"
#include "join/proof.hpp"
#include "join/resolve.hpp"
#include "sheet/png.hpp"
#include "store/project_files.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::join;
using level::Cell;
using level::JoinKind;

namespace {

// A project with one sheet of these cases as the material 1.
level::Project drawn(const std::vector<Mask>& masks, make::Style style, int side, JoinKind kind = JoinKind::full,
                     unsigned seed = 4) {
    level::Project p;
    level::SheetId id = 0;
    p = edit::add_sheet(std::move(p), "sheets/few.png", make::sheet(make::tiles(masks, side, style, seed), 4, {}, {}),
                        "Few", {{side, side}, {}, {}, 1}, true, id);
    JoinReading reading;
    for (std::size_t i = 0; i < masks.size(); ++i) reading.tiles.push_back({static_cast<int>(i), masks[i], 1.0});
    level::MaterialId m = 0;
    return edit::add_material(p, *p.sheet(id), kind, reading, "Few", m);
}

const std::vector<Mask> kBlock = {kE | kSE | kS, kE | kSE | kS | kSW | kW, kS | kSW | kW, kN | kNE | kE | kSE | kS,
                                  255,           kN | kS | kSW | kW | kNW, kN | kNE | kE, kN | kNE | kE | kW | kNW,
                                  kN | kW | kNW};
std::vector<Mask> with(std::vector<Mask> masks, std::vector<Mask> more) {
    masks.insert(masks.end(), more.begin(), more.end());
    return masks;
}

// The worst seam between neighbours in the proof.
double worst_in_proof(const level::Project& p) {
    const level::Grid grid = paint_proof(make_proof(p.material(1)->joins.kind, 1), p, 1);
    Seams seams(p);
    double worst = 0;
    for (int y = 0; y < grid.size().h; ++y)
        for (int x = 0; x < grid.size().w; ++x) {
            if (grid.cell({x, y}).empty()) continue;
            for (const int side : {1, 2}) {
                const Cell other = grid.cell({x + (side == 1), y + (side == 2)});
                if (!other.empty()) worst = std::max(worst, seams.error(grid.cell({x, y}), other, side));
            }
        }
    return worst;
}

} // namespace

TEST_CASE("what lies side by side in any level can meet, and nothing else", "[seams]") {
    make::Random random(8);
    for (const JoinKind kind : {JoinKind::edges, JoinKind::corners, JoinKind::full}) {
        std::set<std::tuple<Mask, Mask, int>> seen;
        for (int round = 0; round < 60; ++round) {
            level::Grid grid(Size{48, 48});
            const double full = 0.3 + 0.01 * round;
            for (int y = 0; y < 48; ++y)
                for (int x = 0; x < 48; ++x)
                    if (random.flip(full)) grid.set({x, y}, {}, 1);
            for (int y = 1; y < 46; ++y)
                for (int x = 1; x < 46; ++x)
                    for (const int side : {1, 2}) {
                        const Point q{x + (side == 1), y + (side == 2)};
                        if (grid.material({x, y}) && grid.material(q))
                            seen.insert({canonical(neighbourhood(grid, {x, y}, false), kind),
                                         canonical(neighbourhood(grid, q, false), kind), side});
                    }
        }
        std::size_t can = 0;
        for (const Mask a : cases(kind))
            for (const Mask b : cases(kind))
                for (const int side : {1, 2}) can += can_meet(kind, a, b, side);
        CHECK(seen.size() == can);
        for (const auto& [a, b, side] : seen) CHECK(can_meet(kind, a, b, side));
    }
}

TEST_CASE("a picture cut in two has no seam, strangers have one", "[seams]") {
    make::Random random(2);
    Image smooth({32, 16});
    for (int y = 0; y < 16; ++y)
        for (int x = 0; x < 32; ++x)
            smooth.set(x, y,
                       {static_cast<std::uint8_t>(x * 6), static_cast<std::uint8_t>(y * 9),
                        static_cast<std::uint8_t>(90 + random.below(6)), 255});
    const Borders left = borders_of(cropped(smooth, {0, 0, 16, 16}));
    const Borders right = borders_of(cropped(smooth, {16, 0, 16, 16}));
    CHECK(seam_error(left, right, 1) < 0.02);
    CHECK(seam_error(right, left, 3) == Approx(seam_error(left, right, 1)));
    CHECK(seam_error(right, left, 1) > 0.3); // the far ends do not fit
    CHECK(seam_error(left, borders_of(Image({16, 8}, {1, 2, 3, 255})), 1) == 1);
    CHECK(unlike_side(left, left, 2) == 0);
}

TEST_CASE("a laid picture is turned as every other one is", "[seams]") {
    Image art({3, 3});
    for (int i = 0; i < 9; ++i) art.set(i % 3, i / 3, {static_cast<std::uint8_t>(i * 20), 0, 0, 255});
    for (std::uint8_t code = 0; code < 8; ++code) {
        const Image laid = laid_art(art, {code});
        for (int y = 0; y < 3; ++y)
            for (int x = 0; x < 3; ++x) {
                const Point from = source_pixel({code}, {x, y}, 3);
                CHECK(laid.at(x, y) == art.at(from.x, from.y));
            }
    }
    Image oblong({4, 2});
    oblong.set(3, 0, {9, 9, 9, 255});
    CHECK(laid_art(oblong, {1}).size() == Size{2, 4});
    CHECK(laid_art(oblong, {1}).at(1, 3) == Rgba{9, 9, 9, 255});
}

TEST_CASE("the tile that was taken away is the best candidate for its case", "[seams]") {
    for (const make::Style style : {make::Style::outlined, make::Style::textured, make::Style::see_through}) {
        const level::Project p = drawn(cases(JoinKind::full), style, 16);
        int first = 0;
        int near = 0;
        for (const auto& [mask, variants] : p.material(1)->joins.cases) {
            level::JoinSet set = p.material(1)->joins;
            set.cases.erase(mask);
            const auto ranked = candidates(p, set, mask, {p.sheets.front()->id}, level::kNoTurns, {}, 3);
            REQUIRE(ranked.size() == 3);
            for (std::size_t i = 0; i + 1 < ranked.size(); ++i)
                CHECK(ranked[i].fit >= ranked[i + 1].fit); // as drawn, nothing is put back
            first += ranked[0].variant == variants.front();
            for (const Candidate& c : ranked) near += c.variant == variants.front();
        }
        INFO("style " << int(style) << ": first " << first << ", among three " << near << " of 47");
        CHECK(first >= 38);
        CHECK(near >= 44);
    }
}

TEST_CASE("a full set comes of the block of nine and four inner corners, of five tiles, of sixteen and corners",
          "[compose]") {
    std::vector<Mask> sixteen;
    for (const Mask m : cases(JoinKind::edges)) { // all corners between joined sides joined
        Mask mask = m;
        for (int c = 1; c < 8; c += 2)
            if ((m & (1 << (c - 1))) && (m & (1 << ((c + 1) % 8)))) mask = static_cast<Mask>(mask | (1 << c));
        sixteen.push_back(mask);
    }
    const std::vector<Mask> inner = {255 & ~kNE, 255 & ~kSE, 255 & ~kSW, 255 & ~kNW};
    const std::vector<std::pair<std::string, std::vector<Mask>>> sources = {
        {"nine and four", with(kBlock, inner)},
        {"five", {0, kN | kS, kE | kW, kSides, 255}},
        {"six", {0, kN | kS, kE | kW, kSides, 255, kE | kSE | kS}},
        {"sixteen and four", with(sixteen, inner)}};
    for (const auto& [name, masks] : sources)
        for (const make::Style style : {make::Style::outlined, make::Style::textured, make::Style::see_through}) {
            const level::Project before = drawn(masks, style, 16);
            const auto done = edit::compose_missing(before, 1);
            INFO(name << ", style " << int(style));
            const auto cover = coverage(done.project.material(1)->joins);
            CHECK(cover.have == 47);
            CHECK(done.left == 0);
            CHECK(done.made == 47 - static_cast<int>(masks.size()));
            CHECK(edit::tile_pictures(*done.project.sheets.back()).size() == static_cast<std::size_t>(done.made));
            // No worse than the source's own seams; of so few tiles that hardly any can meet, no worse than those of a
            // set of which every tile was drawn, drawn three times for the chance in its texture.
            double own = seam_report(before, before.material(1)->joins, 1).worst;
            for (unsigned seed = 4; masks.size() < 9 && seed < 7; ++seed)
                own = std::max(own, worst_in_proof(drawn(cases(JoinKind::full), style, 16, JoinKind::full, seed * 50)));
            CHECK(worst_in_proof(done.project) <= own + 1e-6);
            // And each composed tile is read as the case that it was made for.
            if (style == make::Style::see_through) continue;
            std::vector<Image> all = edit::tile_pictures(*done.project.sheets.front());
            const std::size_t first = all.size();
            for (const Image& i : edit::tile_pictures(*done.project.sheets.back())) all.push_back(i);
            int right = 0;
            std::map<level::TileId, Mask> serves;
            for (const auto& [mask, variants] : done.project.material(1)->joins.cases)
                serves[variants.front().tile] = mask;
            for (const TileReading& t : read_joins(all, JoinKind::full).tiles) {
                if (static_cast<std::size_t>(t.index) < first) continue;
                const auto& tile = done.project.sheets.back()->tiles[static_cast<std::size_t>(t.index) - first];
                right += serves.at(tile.id) == t.mask;
            }
            CHECK(right == done.made);
        }
}

TEST_CASE("composed tiles take turned quarters where the set allows it", "[compose]") {
    const level::Project p = drawn({0, 255, kSides, kN | kS}, make::Style::outlined, 16);
    CHECK(composable(p, p.material(1)->joins, level::kNoTurns).size() < 43);
    level::Project turned = edit::change_set(p, 1, [](level::JoinSet& set) { set.turns = level::kQuarterTurns; });
    const auto done = edit::compose_missing(turned, 1);
    CHECK(coverage(done.project.material(1)->joins).have == 47);
}

TEST_CASE("a composed tile is made of its quarters, pixel by pixel", "[compose]") {
    const level::Project p = drawn({0, kN | kS, kE | kW, kSides, 255}, make::Style::textured, 15); // odd: halves differ
    const level::TileTable table(p);
    for (const Made& made : composable(p, p.material(1)->joins, level::kNoTurns)) {
        const Image art = composed_art(table, made.of, {15, 15});
        for (int y = 0; y < 15; ++y)
            for (int x = 0; x < 15; ++x) {
                const std::size_t q = y < 7 ? (x < 7 ? 0 : 1) : (x < 7 ? 3 : 2);
                const auto ref = table.find(made.of[q].from);
                CHECK(art.at(x, y) == ref.sheet->image->at(ref.tile->box.x + x, ref.tile->box.y + y));
            }
    }
    CHECK(composed_art(table, {}, {15, 15}).empty());
}

TEST_CASE("a derived sheet follows its source, is saved with its picture, and comes back", "[compose]") {
    const level::Project p = edit::compose_missing(drawn(kBlock, make::Style::outlined, 16), 1).project;
    make::Folder folder;
    make::save_with_pictures(p, folder.path());
    const level::Project back = store::load(folder.path());
    CHECK(back.sheets.back()->composed == p.sheets.back()->composed);
    CHECK(*back.sheets.back()->image == *p.sheets.back()->image);
    CHECK(sheet::read_png(folder / p.sheets.back()->file) == *p.sheets.back()->image);
    // Another red pixel in the source is another red pixel in whatever takes that quarter.
    level::Sheet source = *back.sheets.front();
    Image art = *source.image;
    const level::TileId taken = back.sheets.back()->composed.front()[0].from;
    const level::Tile& tile = *level::TileTable(back).find(taken).tile;
    art.set(tile.box.x + 2, tile.box.y + 2, {255, 0, 0, 255});
    source.image = std::make_shared<const Image>(std::move(art));
    level::Project changed = back;
    changed.put(std::move(source));
    changed = compose_sheets(std::move(changed));
    int red = 0;
    for (const Rgba c : changed.sheets.back()->image->pixels()) red += c == Rgba{255, 0, 0, 255};
    int uses = 0;
    for (const level::Composed& c : back.sheets.back()->composed) uses += c[0].from == tile.id;
    CHECK(uses > 0);
    CHECK(red == uses);
    // Without its source it keeps nothing it cannot make, and says so.
    level::Project alone = back;
    level::Sheet lost = *alone.sheets.front();
    lost.image.reset();
    alone.put(std::move(lost));
    level::Sheet derived = *alone.sheets.back();
    derived.image.reset();
    alone.put(std::move(derived));
    CHECK_FALSE(compose_sheets(alone).sheets.back()->trouble.empty());
}

TEST_CASE("the least to draw is enough, and nothing less is", "[compose]") {
    CHECK(least_to_draw(JoinKind::full, {}, level::kNoTurns, true).size() == 5);
    CHECK(least_to_draw(JoinKind::edges, {}, level::kNoTurns, true).size() == 4);
    CHECK(least_to_draw(JoinKind::full, {}, level::kQuarterTurns, false).size() == 15);
    CHECK(least_to_draw(JoinKind::edges, {}, level::kQuarterTurns, false).size() == 6);
    CHECK(least_to_draw(JoinKind::full, {}, level::kNoTurns, false).size() == 47);
    CHECK(least_to_draw(JoinKind::plain, {}, level::kNoTurns, true) == std::vector<Mask>{255});
    make::Random random(5);
    for (const JoinKind kind : {JoinKind::edges, JoinKind::corners, JoinKind::full})
        for (const std::uint8_t turns : {level::kNoTurns, level::kMirrorOnly, level::kQuarterTurns, level::kAllTurns})
            for (int round = 0; round < 4; ++round) {
                std::set<Mask> have;
                for (const Mask m : cases(kind))
                    if (random.flip(0.05 * round)) have.insert(m);
                const auto more = least_to_draw(kind, have, turns, true);
                // Drawn for real, everything can be made.
                std::vector<Mask> masks(have.begin(), have.end());
                masks.insert(masks.end(), more.begin(), more.end());
                level::Project p = edit::change_set(drawn(masks, make::Style::outlined, 8, kind), 1,
                                                    [&](level::JoinSet& set) { set.turns = turns; });
                INFO("kind " << int(kind) << ", turns " << int(turns) << ", have " << have.size());
                CHECK(coverage(edit::compose_missing(p, 1).project.material(1)->joins).have ==
                      static_cast<int>(cases(kind).size()));
                // And without the last of them not.
                if (more.empty()) continue;
                masks.pop_back();
                if (masks.empty()) continue;
                p = edit::change_set(drawn(masks, make::Style::outlined, 8, kind), 1,
                                     [&](level::JoinSet& set) { set.turns = turns; });
                CHECK(coverage(edit::compose_missing(p, 1).project.material(1)->joins).have <
                      static_cast<int>(cases(kind).size()));
            }
}
