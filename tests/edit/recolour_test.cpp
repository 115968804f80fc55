// Things in other colours: copies whose art follows that of the other.
#include "edit/recolour.hpp"

#include <algorithm>
#include <catch2/catch.hpp>
#include <cmath>
#include <memory>
#include <set>
#include <string>

#include "base/files.hpp"
#include "edit/stroke.hpp"
#include "join/compose_sheet.hpp"
#include "join/resolve.hpp"
#include "picture/compose.hpp"
#include "sheet/png.hpp"
#include "sheet/recolour.hpp"
#include "store/project_files.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::edit;
using level::Recolour;

namespace {

int spread(Rgba a, Rgba b) { return std::max({std::abs(a.r - b.r), std::abs(a.g - b.g), std::abs(a.b - b.b)}); }

Recolour by(int hue, int saturation = 0, int lightness = 0) {
    Recolour out;
    out.hue = hue;
    out.saturation = saturation;
    out.lightness = lightness;
    return out;
}

Hand material(level::MaterialId id) { return Hand{held::Material{id}}; }

} // namespace

TEST_CASE("hue goes round, lightness ends in white and black, an exchange is exact", "[recolour]") {
    make::Random random(7);
    for (int i = 0; i < 3000; ++i) {
        const auto part = [&] { return static_cast<std::uint8_t>(random.below(256)); };
        const Rgba c{part(), part(), part(), part()};
        CHECK(sheet::recoloured(c, by(0)) == c);
        // There and back is the same, but for what rounding takes.
        const int hue = random.below(360) - 180;
        const Rgba there = sheet::recoloured(c, by(hue));
        CHECK(there.a == c.a);
        if (c.a > 0) CHECK(spread(sheet::recoloured(there, by(-hue)), c) <= 6);
        // Hue keeps the lightest and the darkest part.
        if (c.a > 0) {
            CHECK(std::abs(std::max({there.r, there.g, there.b}) - std::max({c.r, c.g, c.b})) <= 2);
            CHECK(std::abs(std::min({there.r, there.g, there.b}) - std::min({c.r, c.g, c.b})) <= 2);
            CHECK(sheet::recoloured(c, by(0, 0, 100)) == Rgba{255, 255, 255, c.a});
            CHECK(sheet::recoloured(c, by(0, 0, -100)) == Rgba{0, 0, 0, c.a});
            const Rgba grey = sheet::recoloured(c, by(0, -100, 0));
            CHECK(spread({grey.r, grey.r, grey.r}, grey) <= 1);
        }
    }
    CHECK(sheet::recoloured({255, 0, 0, 255}, by(120)) == Rgba{0, 255, 0, 255});
    CHECK(sheet::recoloured({255, 0, 0, 255}, by(-120)) == Rgba{0, 0, 255, 255});
    CHECK(sheet::recoloured({255, 0, 0, 0}, by(120)) == Rgba{255, 0, 0, 0}); // not seen
    Recolour swap = by(90, 10, 10);
    swap.swaps = {{{10, 20, 30, 255}, {200, 100, 50, 255}}};
    CHECK(sheet::recoloured({10, 20, 30, 77}, swap) == Rgba{200, 100, 50, 77});
    CHECK(sheet::recoloured({10, 20, 31, 255}, swap) != Rgba{200, 100, 50, 255});
}

TEST_CASE("a material in other colours joins as the other does, cell by cell", "[recolour]") {
    make::Small small;
    const Hand rock = material(small.project.materials[0]->id);
    REQUIRE(recolour_trouble(small.project, rock, "Moss").empty());
    CHECK_FALSE(recolour_trouble(small.project, rock, "Sand").empty()); // a name that is taken
    CHECK_FALSE(recolour_trouble(small.project, rock, "").empty());
    CHECK_FALSE(recolour_trouble(small.project, Hand{held::Eraser{}}, "Moss").empty());
    const Recoloured made = recoloured(small.project, rock, "Moss", by(100));
    const level::Project& p = made.project;
    REQUIRE(p.sheets.size() == small.project.sheets.size() + 1);
    const level::Material& moss = *p.material(made.hand.material());
    CHECK(moss.name == "Moss");
    CHECK(moss.id != rock.material());
    // Laid in the same shape, every pixel is the other's in the other colour.
    level::Level a = small.level(), b = small.level();
    const join::Rules rules(p);
    level::Region cells(Box{3, 3, 9, 6});
    cells.remove(level::Region(Box{6, 5, 2, 2}));
    a = lay(p, rules, a, small.ground, rock, cells).level;
    b = lay(p, rules, b, small.ground, made.hand, cells).level;
    a.ground = b.ground = {0, 0, 0, 0};
    const Image one = picture::render(p, a, 1), other = picture::render(p, b, 1);
    CHECK(one.pixels() != other.pixels());
    CHECK(sheet::recoloured(one, by(100)).pixels() == other.pixels());
    // Once more in the same colours takes the same sheet, other colours another.
    const Recoloured again = recoloured(p, rock, "Moss two", by(100));
    CHECK(again.project.sheets.size() == p.sheets.size());
    CHECK(recoloured(p, rock, "Moss three", by(90)).project.sheets.size() == p.sheets.size() + 1);
}

TEST_CASE("a copy follows the art of the other, is kept, and changes its colours as a whole", "[recolour]") {
    make::Small small;
    const Hand rock = material(small.project.materials[0]->id);
    Recoloured made = recoloured(small.project, rock, "Moss", by(100));
    const level::SheetId source = sheets_of(made.project, rock).front();
    const level::SheetId derived = sheets_of(made.project, made.hand).front();
    // Drawn over.
    level::Project next = made.project;
    level::Sheet sheet = *next.sheet(source);
    Image art = *sheet.image;
    for (int x = 0; x < 8; ++x) art.set(x, 3, {200, 30, 40, 255});
    sheet.image = std::make_shared<const Image>(art);
    next.put(std::move(sheet));
    next = join::compose_sheets(std::move(next));
    CHECK(next.sheet(derived)->image->pixels() == sheet::recoloured(art, by(100)).pixels());
    // On the disk and back; the source's file alone says what the copy looks like.
    make::Folder dir;
    make::save_with_pictures(next, dir.path());
    const level::Project loaded = store::load(dir.path());
    CHECK(loaded.sheet(derived)->recolour == next.sheet(derived)->recolour);
    CHECK(store::texts(loaded) == store::texts(next));
    write_file(dir / loaded.sheet(source)->file, sheet::encode_png(sheet::recoloured(art, by(0, 0, 20))));
    CHECK(store::load(dir.path()).sheet(derived)->image->pixels() ==
          sheet::recoloured(sheet::recoloured(art, by(0, 0, 20)), by(100)).pixels());
    // Its colours are changed later.
    REQUIRE(recolour_of(next, made.hand));
    CHECK_FALSE(recolour_of(next, rock));
    const level::Project other = recolour_again(next, made.hand, by(-40, 20));
    CHECK(other.sheet(derived)->image->pixels() == sheet::recoloured(art, by(-40, 20)).pixels());
    CHECK(other.sheet(derived)->recolour->of == source);
    CHECK(other.sheet(source)->image->pixels() == art.pixels());
    // The sample is of the art before it is coloured.
    CHECK(colour_sample(other, made.hand).pixels() == colour_sample(other, rock).pixels());
}

TEST_CASE("a tile and a prop have copies too", "[recolour]") {
    make::Small small;
    const level::TileId tile = small.project.sheets[0]->tiles[5].id;
    const Recoloured made = recoloured(small.project, Hand{held::Tile{tile}}, "Red stone", by(150));
    const level::TileTable table(made.project);
    const level::TileRef copy = table.find(made.hand.tile());
    REQUIRE(copy.tile);
    CHECK(copy.tile->name == "Red stone");
    CHECK(copy.tile->box == table.find(tile).tile->box);
    CHECK(copy.tile->shape == table.find(tile).tile->shape);
    // All tiles have numbers of their own.
    std::set<level::TileId> ids;
    std::size_t count = 0;
    for (const auto& s : made.project.sheets)
        for (const level::Tile& t : s->tiles) {
            ids.insert(t.id);
            ++count;
        }
    CHECK(ids.size() == count);
    CHECK(*ids.rbegin() < made.project.next_tile);
    const Recoloured prop = recoloured(made.project, Hand{held::Prop{small.prop}}, "Red post", by(150));
    const level::PropKind& kind = *prop.project.prop_kind(prop.hand.prop());
    CHECK(kind.name == "Red post");
    CHECK(kind.box == prop.project.prop_kind(small.prop)->box);
    CHECK(prop.project.sheet(kind.sheet)->recolour->of == prop.project.prop_kind(small.prop)->sheet);
}
