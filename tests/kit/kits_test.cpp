// Kits in a project: what is painted with their pieces meets as the pieces do.
#include "edit/kits.hpp"

#include <catch2/catch.hpp>
#include <map>
#include <set>

#include "base/error.hpp"
#include "edit/blocking.hpp"
#include "edit/sheets.hpp"
#include "join/mask.hpp"
#include "join/resolve.hpp"
#include "kit/made_kit.hpp"
#include "kit/open_kit.hpp"
#include "store/adopt_kit.hpp"
#include "store/format.hpp"
#include "store/project_files.hpp"
#include "support/make.hpp"

using namespace kit_test;

namespace {

struct Taken {
    KitFile file;
    KitReading read;
    std::vector<edit::KitMaterial> materials;
    edit::PutKit put;
    explicit Taken(const Kit& kit) : file(kit.file()), read(read_kit(file.bodies)) {
        materials = edit::kit_materials(file, read);
        put = edit::put_kit({}, 0, "Walls", "sheets/walls.png", "kits/walls.obj", file, read,
                            draw_sheet(file, read, 16), 16, materials);
    }
    [[nodiscard]] const level::Sheet& sheet() const { return *put.project.sheet(put.sheet); }
    // The sides at which a laid cell couples, north 1, east 2, south 4, west 8.
    [[nodiscard]] unsigned sides_of(level::Cell cell) const {
        std::size_t piece = file.bodies.size();
        for (const level::KitPiece& p : sheet().kit->pieces)
            if (p.tile == cell.tile())
                for (std::size_t i = 0; i < file.bodies.size(); ++i)
                    if (file.bodies[i].name == p.name) piece = i;
        REQUIRE(piece < file.bodies.size());
        unsigned out = 0;
        for (unsigned side = 0; side < 4; ++side)
            if (read.pieces[piece].couplings[side] != 0) {
                unsigned at = side;
                if (cell.turn().mirrored() && at % 2 == 1) at = 4 - at; // left and right change places first
                out |= 1U << ((at + static_cast<unsigned>(cell.turn().quarters())) % 4);
            }
        return out;
    }
};

level::Grid painted(const Taken& taken, unsigned seed, level::MaterialId material) {
    make::Random random(seed);
    level::Grid grid({24, 24});
    for (int i = 0; i < 260; ++i) grid.set({random.below(24), random.below(24)}, {}, material);
    join::resolve(join::Rules(taken.put.project), grid, box_of(grid.size()), seed);
    return grid;
}

// Every laid piece couples at just those sides at which its neighbours are of the material.
void check_meets(const Taken& taken, level::MaterialId material) {
    for (unsigned seed = 1; seed <= 6; ++seed) {
        const level::Grid grid = painted(taken, seed, material);
        const auto is = [&](Point p) { return !box_of(grid.size()).contains(p) || grid.material(p) == material; };
        for (int y = 0; y < 24; ++y)
            for (int x = 0; x < 24; ++x) {
                if (grid.material({x, y}) != material) continue;
                const unsigned wanted = unsigned{is({x, y - 1})} | unsigned{is({x + 1, y})} << 1 |
                                        unsigned{is({x, y + 1})} << 2 | unsigned{is({x - 1, y})} << 3;
                CHECK(taken.sides_of(grid.cell({x, y})) == wanted);
            }
    }
}

} // namespace

TEST_CASE("numbers are masks, whichever way they are counted", "[edit][kits]") {
    const join::Mask sides[4] = {join::kN, join::kE, join::kS, join::kW};
    for (const bool inverted : {false, true})
        for (const auto& way : ways_of_counting(false)) {
            Codes codes;
            codes.bit_of_side = way;
            codes.inverted = inverted;
            for (int number = 0; number < 16; ++number)
                for (std::size_t side = 0; side < 4; ++side)
                    CHECK(((edit::mask_of(codes, number) & sides[side]) != 0) ==
                          (((number >> way[side]) & 1) != (inverted ? 1 : 0)));
        }
    // Clockwise from the north with corners it is the mask itself; all ways name each corner once.
    Codes codes;
    codes.corners = true;
    codes.bit_of_side = {0, 2, 4, 6};
    codes.bit_of_corner = corner_bits(codes.bit_of_side);
    for (int number = 0; number < 256; ++number)
        CHECK(edit::mask_of(codes, number) == join::canonical(static_cast<join::Mask>(number), level::JoinKind::full));
    for (const auto& way : ways_of_counting(true)) {
        const auto corners = corner_bits(way);
        if (!corners) continue;
        std::set<int> all(way.begin(), way.end());
        all.insert(corners->begin(), corners->end());
        CHECK(all == std::set<int>{0, 1, 2, 3, 4, 5, 6, 7});
    }
    // Row by row: 0 1 2 above, 3 4 beside, 5 6 7 below.
    codes.bit_of_side = {1, 4, 6, 3};
    codes.bit_of_corner = corner_bits(codes.bit_of_side);
    CHECK(edit::mask_of(codes, 1 << 1 | 1 << 4 | 1 << 2) == (join::kN | join::kE | join::kNE));
    // Sides first, then the corners, the other way round.
    codes.bit_of_side = {0, 3, 2, 1};
    codes.bit_of_corner = corner_bits(codes.bit_of_side);
    CHECK(edit::mask_of(codes, 1 << 0 | 1 << 1 | 1 << 4) == (join::kN | join::kW | join::kNW));
}

TEST_CASE("walls by their numbers make a material that meets as they couple", "[edit][kits]") {
    for (const int first : {0, 2})
        for (const int step : {1, -1}) {
            Kit kit;
            kit.first_bit = first;
            kit.step = step;
            kit.all_walls();
            kit.floors(3);
            const Taken taken(kit);
            REQUIRE(taken.put.materials.size() == 2);
            const level::Material& wall = *taken.put.project.material(taken.put.materials[0]);
            CHECK(wall.name == "Wall");
            CHECK(join::coverage(wall.joins).have == 16);
            check_meets(taken, wall.id);
            // Floors couple on all sides: any of them lies anywhere.
            const level::Material& floor = *taken.put.project.material(taken.put.materials[1]);
            CHECK(floor.name == "Floor");
            CHECK(floor.joins.kind == level::JoinKind::plain);
            CHECK(floor.joins.cases.at(255).size() == 3);
            // Walls block as they are drawn, floors do not.
            for (const level::KitPiece& p : taken.sheet().kit->pieces)
                for (const level::Tile& t : taken.sheet().tiles)
                    if (t.id == p.tile) CHECK((t.shape != level::TileShape::none) == p.name.starts_with("wall"));
        }
}

TEST_CASE("seen from above a piece blocks where a body would run into it", "[edit][kits]") {
    Kit kit;
    kit.first_bit = -1;
    for (const unsigned sides : {0U, 1U, 5U, 3U, 11U, 15U}) kit.wall("Wall " + std::to_string(sides) + "x", sides);
    kit.floors(1);
    // Two jambs below a lintel; a rail between posts; a bar across that one walks under.
    kit.put("Gate", {-0.1, 0, -1}, {0.1, 3, -0.5});
    kit.add(kit.bodies.back().mesh, {-0.1, 0, 0.5}, {0.1, 3, 1});
    kit.add(kit.bodies.back().mesh, {-0.1, 2.1, -0.5}, {0.1, 3, 0.5});
    kit.put("Rail", {-0.1, 0.8, -1}, {0.1, 1, 1});
    kit.put("Long", {-2, 0, 0.5}, {2, 3, 1});
    const Taken taken(kit);
    const auto tile = [&](const std::string& name, int turn = 0) {
        for (const level::KitPiece& p : taken.sheet().kit->pieces)
            for (const level::Tile& t : taken.sheet().tiles)
                if (t.id == p.tile && p.name == name && p.turn == turn) return t;
        FAIL("no piece " << name);
        return level::Tile{};
    };
    const auto blocks = [](const level::Tile& t, int x, int y) { // in 1/32 of the piece
        return level::covers(t.shape == level::TileShape::drawn ? t.polygons : level::polygons_of(t.shape), {x, y});
    };
    CHECK_FALSE(blocks(tile("Gate"), 16, 17));
    CHECK(blocks(tile("Gate"), 16, 5));
    CHECK(blocks(tile("Gate"), 16, 29));
    CHECK_FALSE(blocks(tile("Gate"), 5, 5));
    // Told to block as drawn once more, it stays so.
    level::Tile again = tile("Gate");
    edit::give(taken.put.project, again, edit::Blocking::as_drawn);
    CHECK(again == tile("Gate"));
    CHECK(blocks(tile("Rail"), 16, 17));
    CHECK(tile("Floor a").shape == level::TileShape::none);
    // Of two cells, and as it is turned: along its southern side, then its western one.
    CHECK(blocks(tile("Long"), 5, 29));
    CHECK_FALSE(blocks(tile("Long"), 5, 5));
    CHECK(blocks(tile("Long", 1), 3, 5));
    CHECK_FALSE(blocks(tile("Long", 1), 29, 5));
}

TEST_CASE("six walls without numbers serve all sixteen cases by quarter turns", "[edit][kits]") {
    Kit kit;
    kit.first_bit = -1;
    const std::pair<const char*, unsigned> all[] = {{"Wall post", 0},   {"Wall end", 1},  {"Wall straight", 5},
                                                    {"Wall corner", 3}, {"Wall tee", 11}, {"Wall cross", 15}};
    for (const auto& [name, sides] : all) kit.wall(name, sides);
    kit.wall("Wall door", 5);
    const Taken taken(kit);
    REQUIRE(taken.put.materials.size() == 1);
    const level::Material& wall = *taken.put.project.material(taken.put.materials[0]);
    CHECK(wall.name == "Wall");
    CHECK(join::coverage(wall.joins).have == 16);
    CHECK(join::coverage(wall.joins).drawn == 6);
    check_meets(taken, wall.id);
    // No door comes by chance.
    for (const auto& [mask, variants] : wall.joins.cases) CHECK(variants.size() == 1);
}

TEST_CASE("a kit that is read again keeps its tiles by their names, and what was said of them", "[edit][kits]") {
    Kit kit;
    kit.first_bit = 0;
    kit.all_walls();
    kit.put("Hall", {-2, 0, -1}, {2, 3, 1});
    Taken taken(kit);
    std::map<std::string, level::TileId> was;
    for (const level::KitPiece& p : taken.sheet().kit->pieces) was[turned_key(p.name, p.turn)] = p.tile;
    CHECK(was.size() == 17 + 3); // the hall lies four ways
    level::Project project = edit::change_tiles(taken.put.project, {was["wall_5"]}, [](level::Tile& t) {
        t.tags = {"old"};
        t.shape = level::TileShape::none;
    });
    // Its file says the same, and comes back.
    std::vector<std::string> ids;
    const level::Project written = store::project_from_text(store::project_to_text(project), "project", ids);
    CHECK(written.sheet(taken.put.sheet)->kit == project.sheet(taken.put.sheet)->kit);
    std::swap(kit.bodies[0], kit.bodies[7]);
    kit.wall("wall_end", 1);
    const KitFile file = kit.file();
    const KitReading read = read_kit(file.bodies, edit::told_of(*project.sheet(taken.put.sheet)->kit));
    CHECK(read.module == Module{2, 3});
    const Drawn drawn = draw_sheet(file, read, 16, edit::kit_places(*project.sheet(taken.put.sheet)));
    const edit::PutKit again = edit::put_kit(project, taken.put.sheet, "Walls", "sheets/walls-2.png", "kits/walls.obj",
                                             file, read, drawn, 16, {});
    CHECK(again.fresh == 1);
    CHECK(again.materials.empty());
    for (const level::KitPiece& p : again.project.sheet(again.sheet)->kit->pieces)
        if (was.contains(turned_key(p.name, p.turn))) CHECK(p.tile == was[turned_key(p.name, p.turn)]);
    for (const level::Tile& t : again.project.sheet(again.sheet)->tiles)
        if (t.id == was["wall_5"]) {
            CHECK(t.tags == std::vector<std::string>{"old"});
            CHECK(t.shape == level::TileShape::none);
        }
}

TEST_CASE("a kit's files are copied into the project as they lie, or not at all", "[store][kits]") {
    const make::Folder folder, project;
    Kit kit;
    kit.first_bit = 0;
    kit.all_walls();
    fs::create_directories(folder / "set/skins");
    write_file(folder / "set/walls.obj", "mtllib skins/a.mtl\n" + kit.obj());
    write_file(folder / "set/skins/a.mtl", "newmtl brick\nKd 1 0 0\n");
    write_file(folder / "set/notes.txt", "not wanted");
    const KitFile one = open_kit(folder / "set/walls.obj");
    REQUIRE(one.files.size() == 2);
    CHECK(store::adopt_kit(project.path(), folder / "set/walls.obj", one.files) == "kits/walls/walls.obj");
    CHECK(fs::exists(project / "kits/walls/skins/a.mtl"));
    CHECK_FALSE(fs::exists(project / "kits/walls/notes.txt"));
    // A folder; a name that is taken.
    const KitFile all = open_kit(folder / "set");
    CHECK(store::adopt_kit(project.path(), folder / "set", all.files) == "kits/set");
    CHECK(store::adopt_kit(project.path(), folder / "set", all.files) == "kits/set-2");
    CHECK(open_kit(project / "kits/set-2").bodies.size() == 16);
    // What lies there already stays.
    CHECK(store::adopt_kit(project.path(), project / "kits/set", all.files) == "kits/set");
    // A file that is gone: nothing is left of what was copied.
    std::vector<fs::path> more = one.files;
    more.push_back(folder / "set/gone.png");
    CHECK_THROWS_AS(store::adopt_kit(project.path(), folder / "set/walls.obj", more), InputError);
    CHECK_FALSE(fs::exists(project / "kits/walls-2"));
    more.back() = folder / "outside.png";
    write_file(folder / "outside.png", "x");
    CHECK_THROWS_AS(store::adopt_kit(project.path(), folder / "set/walls.obj", more), InputError);
    CHECK_FALSE(fs::exists(project / "kits/walls-2"));
}

TEST_CASE("a kit that would be read from outside its project is refused before anything is read", "[store][kits]") {
    const make::Folder project, elsewhere;
    Kit kit;
    kit.first_bit = 0;
    kit.all_walls();
    write_file(elsewhere / "walls.obj", kit.obj());
    const auto saved_with = [&](const std::string& file) {
        Taken taken(kit);
        level::Sheet sheet = taken.sheet();
        sheet.kit->file = file;
        taken.put.project.name = "Walls";
        taken.put.project.put(std::move(sheet));
        make::save_with_pictures(taken.put.project, project.path());
    };
    saved_with("kits/walls.obj"); // not there: that is told when it is asked for
    CHECK_NOTHROW(store::load(project.path()));
    saved_with("../" + elsewhere.path().filename().string() + "/walls.obj");
    CHECK_THROWS_AS(store::load(project.path()), InputError);
    saved_with((elsewhere / "walls.obj").string());
    CHECK_THROWS_AS(store::load(project.path()), InputError);
    // Through a link, too.
    fs::create_directories(project / "kits");
    fs::create_symlink(elsewhere / "walls.obj", project / "kits/linked.obj");
    saved_with("kits/linked.obj");
    CHECK_THROWS_AS(store::load(project.path()), InputError);
}
