// What a material is in the way of: proposed from the view and the art, set for all its tiles at once.
#include "edit/blocking.hpp"

#include <catch2/catch.hpp>

#include "edit/sheets.hpp"
#include "join/mask.hpp"
#include "join/read_joins.hpp"
#include "outline/trace.hpp"
#include "support/make.hpp"

using namespace vic;
using edit::Blocking;

namespace {

// A project with one material of these pictures, all of one size.
struct One {
    level::Project project;
    level::MaterialId material = 0;
    explicit One(const std::vector<Image>& tiles, const std::string& name = "Stuff") {
        level::SheetId sheet = 0;
        const Size size = tiles[0].size();
        project =
            edit::add_sheet({}, "sheets/a.png", make::sheet(tiles, 4, {}, {}), "a", {size, {}, {}, 1}, true, sheet);
        project = edit::add_material(project, *project.sheet(sheet), level::JoinKind::plain, {}, name, material);
    }
    [[nodiscard]] edit::ProposedBlocking proposed(level::View view) const {
        return edit::proposed_blocking(project, *project.material(material), view);
    }
    [[nodiscard]] Blocking now() const { return edit::blocking_of(project, *project.material(material)); }
};

Image plain(Rgba colour, Box part = {0, 0, 16, 16}) {
    Image out({16, 16});
    for (int y = part.y; y < part.bottom(); ++y)
        for (int x = part.x; x < part.right(); ++x) out.set(x, y, colour);
    return out;
}

constexpr Rgba kGrass{80, 140, 60, 255}, kWater{60, 120, 190, 255}, kStone{120, 120, 124, 255};

} // namespace

TEST_CASE("what one would expect of a material is proposed", "[edit][blocking]") {
    const auto side = level::View::from_the_side, above = level::View::from_above;
    const One grass({plain(kGrass), plain(kGrass)}), water({plain(kWater)});
    CHECK(grass.proposed(side).blocking == Blocking::full);
    CHECK(grass.proposed(above).blocking == Blocking::nothing);
    CHECK(water.proposed(above).blocking == Blocking::full);
    CHECK(One({plain(kStone)}).proposed(above).blocking == Blocking::nothing);
    CHECK(One({plain(kStone)}, "Old brick wall").proposed(above).blocking == Blocking::full);
    CHECK(One({plain(kStone)}, "Wallpaper").proposed(above).blocking == Blocking::nothing);
    const One ragged({plain(kGrass), plain(kGrass, {0, 5, 16, 11})}), ledge({plain(kStone, {0, 0, 16, 5})});
    CHECK(ragged.proposed(side).blocking == Blocking::as_drawn);
    CHECK(ledge.proposed(side).blocking == Blocking::one_way);
    CHECK(ledge.proposed(side).reason.english() == "it is a thin ledge");
}

TEST_CASE("all tiles of a material get the shape, and tell it again", "[edit][blocking]") {
    One m({plain(kGrass), plain(kGrass, {0, 8, 16, 8}), plain(kGrass, {2, 3, 9, 12})});
    CHECK(m.now() == Blocking::nothing);
    for (const Blocking b : {Blocking::full, Blocking::one_way, Blocking::as_drawn, Blocking::nothing}) {
        m.project = edit::with_blocking(m.project, m.material, b);
        CHECK(m.now() == b);
    }
    m.project = edit::with_blocking(m.project, m.material, Blocking::as_drawn);
    const auto& tiles = m.project.sheets[0]->tiles;
    CHECK(tiles[0].shape == level::TileShape::full);
    CHECK(tiles[1].shape == level::TileShape::half_south);
    CHECK(tiles[2].shape == level::TileShape::drawn);
    // A tile by itself is another: then the material is said to be mixed, and that is no wish.
    m.project = edit::change_tiles(m.project, {tiles[0].id}, [](level::Tile& t) { t.shape = level::TileShape::none; });
    CHECK(m.now() == Blocking::mixed);
    CHECK(edit::with_blocking(m.project, m.material, Blocking::mixed).sheets == m.project.sheets);
}
