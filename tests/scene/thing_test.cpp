// Pieces that stand free of the lattice, as props: where they stand, what they fill, what a line meets of them.
#include <algorithm>
#include <catch2/catch.hpp>
#include <cmath>
#include <nlohmann/json.hpp>
#include <set>

#include "base/files.hpp"
#include "edit/placing.hpp"
#include "edit/props.hpp"
#include "edit/resting.hpp"
#include "kit/open_kit.hpp"
#include "mass/merge.hpp"
#include "mass/write_glb.hpp"
#include "parcel/build.hpp"
#include "scene/hit.hpp"
#include "store/project_files.hpp"
#include "support/make.hpp"
#include "upright/made_tower.hpp"
#include "vicinum_level.hpp"

using namespace vic;

namespace {

// The tower's kit, with its pieces as props, and a level with nothing in it.
struct Things : upright_test::Tower {
    level::LayerId props = 0;
    Things() {
        std::vector<level::TileId> tiles;
        for (const auto& [tile, piece] : kit->piece_of) tiles.push_back(tile);
        project = edit::props_of_tiles(project, kit->sheet, tiles).project;
        level = level::make_level(project, "Yard", {12, 10}, {16, 16}, level::View::from_above);
        level::Layer standing;
        standing.id = props = 4000;
        standing.name = "Things";
        standing.content = level::PlacedProps{};
        level.layers.push_back(std::make_shared<const level::Layer>(std::move(standing)));
        for (const level::LayerRef& l : level.layers)
            if (l->tiles()) below = l->id;
    }
    [[nodiscard]] const level::PropKind& kind(const std::string& name) const {
        for (const auto& k : project.prop_kinds)
            if (k->name == name) return *k;
        FAIL("no prop " << name);
        return *project.prop_kinds.front();
    }
    level::Prop stand(const std::string& name, Point at, level::Look look = {}, int up = 0, Point lean = {}) {
        level::Prop p;
        p.id = next++;
        p.kind = kind(name).id;
        p.at = at;
        p.look = look;
        level::PropOwn own;
        own.up = up;
        own.lean = lean;
        p.set_own(own);
        level.edit(props).props().put(p);
        return p;
    }
    [[nodiscard]] std::vector<scene::Placed> placed() const {
        return scene::placed_in(project, level, kits, level::kMostStorey);
    }
    [[nodiscard]] mass::Mass mass() const { return mass::merged(placed(), kits, storeys()); }
    [[nodiscard]] scene::Storeys storeys() const { return scene::Storeys(kits, level.storey_heights); }
    std::uint32_t next = 9000;
};

bool alike(const scene::Placing& a, const scene::Placing& b) {
    for (std::size_t row = 0; row < 3; ++row)
        for (std::size_t column = 0; column < 4; ++column)
            if (std::abs(a[row][column] - b[row][column]) > 1e-4F) return false;
    return true;
}

} // namespace

TEST_CASE("pieces become props with their bodies, once each, however often their tiles are turned", "[scene][thing]") {
    const Things t;
    CHECK(t.project.prop_kinds.size() == t.kit->file.bodies.size());
    const level::PropKind& stair = t.kind("Stair");
    CHECK(stair.body == t.tile("Stair"));
    CHECK(stair.box.size() == Size{16, 32});
    CHECK(stair.pivot == Point{8, 16});
    const level::PropKind& post = t.kind("Post");
    CHECK(post.foot == Box{6, 6, 4, 4}); // half a metre of two
    CHECK(post.blocks);
    CHECK(t.kind("Floor").flat);
    level::Project again = edit::props_of_tiles(t.project, t.kit->sheet, {stair.body}).project;
    CHECK(again.prop_kinds.size() == t.project.prop_kinds.size());
}

TEST_CASE("a prop that is a piece stands as the same piece on the lattice does, in all turns", "[scene][thing]") {
    const auto code = static_cast<std::uint8_t>(GENERATE(range(0, 8)));
    const Turn turn{code};
    for (const char* name : {"Rail", "Block", "Wall"}) {
        Things t;
        t.level.edit(t.below).grid().set({3, 4}, level::Cell(t.tile(name), turn, true), 0);
        level::Look look;
        look.mirrored = turn.mirrored();
        look.turn = static_cast<std::int16_t>(turn.quarters() * 900);
        const mass::Mass laid = t.mass();
        t.stand(name, {3 * 16 + 8, 4 * 16 + 8}, look);
        const auto all = t.placed();
        REQUIRE(all.size() == 2);
        CHECK(all[1].prop != 0);
        CHECK(all[1].cells == Box{3, 4, 1, 1});
        CHECK(alike(scene::placing_of(all[0], {1, 1}, t.storeys()), scene::placing_of(all[1], {1, 1}, t.storeys())));
        t.level.edit(t.below).grid().set({3, 4}, {}, 0);
        const mass::Mass stood = t.mass();
        CHECK(mass::volume2(stood) == mass::volume2(laid));
        REQUIRE(stood.slabs.size() == laid.slabs.size());
        for (std::size_t i = 0; i < laid.slabs.size(); ++i) CHECK(*stood.slabs[i].outlines == *laid.slabs[i].outlines);
    }
}

TEST_CASE("what stands free fills as much, however it is turned, scaled, mirrored and lifted", "[scene][thing][mass]") {
    make::Random chance(5);
    for (int i = 0; i < 40; ++i) {
        Things t;
        level::Look look;
        look.turn = static_cast<std::int16_t>(chance.below(3600));
        look.scale = static_cast<std::int16_t>(60 + chance.below(160));
        look.mirrored = chance.below(2) == 1;
        const int up = static_cast<int>(chance.below(200)) - 100;
        const Point lean = i % 2 == 0 ? Point{} : Point{static_cast<int>(chance.below(800)) - 400, 150};
        t.stand(i % 3 == 0 ? "Post" : "Block",
                {40 + static_cast<int>(chance.below(100)), 40 + static_cast<int>(chance.below(80))}, look, up, lean);
        const double s = look.scale / 100.0;
        const double cells = (i % 3 == 0 ? 0.25 * 0.25 * 1.5 : 0.75) * s * s * s; // a cell is two metres
        const mass::Mass mass = t.mass();
        CHECK(mass.pieces == 1);
        CHECK(mass.open == 0);
        INFO(look.turn << " " << look.scale << " " << up << " " << lean.x);
        // Corners are rounded to whole units, so that each side is off by one at most.
        const double units = 64 * s * (i % 3 == 0 ? 0.25 : 1);
        CHECK(static_cast<double>(mass::volume2(mass)) / 2.0 / 64 / 64 / 64 ==
              Approx(cells).epsilon(2.5 / units + (lean == Point{} ? 0.0 : 0.08)));
        if (lean != Point{}) continue;
        REQUIRE_FALSE(mass.slabs.empty());
        CHECK(mass.slabs.front().from == up);
    }
}

TEST_CASE("things lie on what is highest below a place", "[scene][thing][hit]") {
    make::Random chance(11);
    for (int round = 0; round < 60; ++round) {
        Things t;
        struct Stood {
            Point at;
            int turn, up;
        };
        std::vector<Stood> blocks;
        for (int i = 0; i < 6; ++i) {
            level::Look look;
            look.turn = static_cast<std::int16_t>(chance.below(3600));
            const Point at{60 + static_cast<int>(chance.below(40)), 60 + static_cast<int>(chance.below(40))};
            const int up = static_cast<int>(chance.below(40)) - 10; // its top is 48 higher, the ceiling 96
            t.stand("Block", at, look, up);
            blocks.push_back({at, look.turn, up});
        }
        scene::Models models(t.kits);
        const auto placed = t.placed();
        for (int k = 0; k < 40; ++k) {
            const double x = (50 + chance.below(60)) / 16.0 + 0.013, y = (50 + chance.below(60)) / 16.0 + 0.017;
            int highest = 0;
            bool any = false;
            for (const Stood& b : blocks) {
                const double turn = b.turn * 3.14159265358979 / 1800;
                const double dx = x - b.at.x / 16.0, dy = y - b.at.y / 16.0;
                const double own_x = std::cos(turn) * dx + std::sin(turn) * dy;
                const double own_y = -std::sin(turn) * dx + std::cos(turn) * dy;
                if (std::abs(own_x) >= 0.5 || std::abs(own_y) >= 0.5) continue;
                highest = any ? std::max(highest, b.up + 48) : b.up + 48;
                any = true;
            }
            const scene::Rest rest = scene::rest_at(placed, models, t.storeys(), 0, {x, y});
            CHECK(rest.up == highest);
            CHECK(rest.lean == Point{});
        }
    }
}

TEST_CASE("along a slope a thing leans as what it stands on does", "[scene][thing][hit]") {
    make::Random chance(3);
    for (int i = 0; i < 50; ++i) {
        Things t;
        const Point lean{static_cast<int>(chance.below(300)) - 150, static_cast<int>(chance.below(300)) - 150};
        level::Look look;
        look.turn = static_cast<std::int16_t>(chance.below(3600));
        t.stand("Block", {80, 80}, look, -20, lean);
        scene::Models models(t.kits);
        const scene::Rest rest = scene::rest_at(t.placed(), models, t.storeys(), 0, {5, 5});
        CHECK(std::abs(rest.lean.x - lean.x) <= 1);
        CHECK(std::abs(rest.lean.y - lean.y) <= 1);
    }
}

TEST_CASE("a line meets what is nearest, as the picture shows it", "[scene][thing][hit]") {
    Things t;
    t.stand("Block", {40, 80});
    t.stand("Post", {120, 80});
    const auto placed = t.placed();
    scene::Models models(t.kits);
    // From the west, half a metre up: the block's side, then nothing before it.
    const auto met = scene::hit(placed, models, t.storeys(), {{0, 0.25, 5}, {1, 0, 0}});
    REQUIRE(met);
    CHECK(placed[met->placed].prop == 9000);
    CHECK(met->along == Approx(2.0));
    CHECK(met->normal[0] == Approx(-1));
    // Over the block, the post.
    const auto over = scene::hit(placed, models, t.storeys(), {{0, 1, 5}, {1, 0, 0}});
    REQUIRE(over);
    CHECK(placed[over->placed].prop == 9001);
    CHECK(over->at[0] == Approx(7.5 - 0.125));
    CHECK_FALSE(scene::hit(placed, models, t.storeys(), {{0, 1, 5}, {-1, 0, 0}}));
    CHECK_FALSE(scene::hit(placed, models, t.storeys(), {{0, 2, 5}, {1, 0, 0}}));
    // A card that faces the ray, whose picture has a hole on its left.
    scene::Card card;
    card.foot = {5, 0, 5};
    card.left = card.right = 1;
    card.top = 2;
    card.prop = 7;
    const auto left_open = [](const scene::Card&, double u, double) { return u >= 0.5; };
    CHECK(scene::hit({card}, {{5.5, 1, 9}, {0, 0, -1}}, left_open));
    CHECK_FALSE(scene::hit({card}, {{4.5, 1, 9}, {0, 0, -1}}, left_open));
    CHECK(scene::hit({card}, {{4.5, 1, 1}, {0, 0, 1}}, left_open)); // from behind it turns
    card.mirrored = true;
    CHECK(scene::hit({card}, {{4.5, 1, 9}, {0, 0, -1}}, left_open));
    CHECK_FALSE(scene::hit({card}, {{5.5, 2.5, 9}, {0, 0, -1}}, left_open)); // over it
}

TEST_CASE("by whole cells a piece's own cells lie on the level's, by halves and quarters between", "[edit][thing]") {
    const Things t;
    const level::PropKind &post = t.kind("Post"), &stair = t.kind("Stair"); // 1 by 1, and 1 by 2
    using edit::Lattices;
    CHECK(edit::on_lattice(t.level, {35, 50}, Lattices::cells, post, 0) == Point{40, 56});
    CHECK(edit::on_lattice(t.level, {35, 50}, Lattices::cells, stair, 0) == Point{40, 48});
    CHECK(edit::on_lattice(t.level, {35, 50}, Lattices::cells, stair, 900) == Point{32, 56});
    CHECK(edit::on_lattice(t.level, {35, 50}, Lattices::halves, post, 0) == Point{32, 48});
    CHECK(edit::on_lattice(t.level, {35, 50}, Lattices::quarters, post, 0) == Point{36, 52});
    CHECK(edit::on_lattice(t.level, {35, 50}, Lattices::free, post, 0) == Point{35, 50});
}

TEST_CASE("props on other storeys are not in the way", "[edit][thing]") {
    Things t;
    std::uint32_t next = 20000;
    t.level = edit::with_storey_above(t.level, 0, false, next);
    level::Layer above;
    above.id = 4100;
    above.storey = 1;
    above.content = level::PlacedProps{};
    t.level.layers.push_back(std::make_shared<const level::Layer>(std::move(above)));
    const level::Prop first = t.stand("Block", {80, 80});
    level::Prop second = first;
    second.id = 9500;
    CHECK(edit::Ground(t.project, t.level, {}).stand(second).way == edit::InTheWay::another);
    CHECK(edit::Ground(t.project, t.level, {}, 1).stand(second).way == edit::InTheWay::nothing);
    t.level.edit(4100).props().put(second);
    CHECK(edit::push_free(t.project, t.level, {9500}).moved == 0);
}

TEST_CASE("what stands free is in the level's file, where it stands", "[scene][thing][glb]") {
    Things t;
    level::Look look;
    look.turn = 450;
    look.scale = 200;
    look.mirrored = true;
    t.stand("Block", {80, 80}, look, 32);
    const make::Folder dir;
    write_file(dir.path() / "level.glb", mass::level_glb(t.project, t.level, t.kits));
    const kit::KitFile file = kit::open_kit(dir.path() / "level.glb");
    kit::Vec least{1e9, 1e9, 1e9}, most{-1e9, -1e9, -1e9};
    int corners = 0;
    for (const kit::Body& body : file.bodies)
        for (std::size_t i = 0; i < body.mesh.triangles.size(); ++i) {
            if (body.nodes[body.mesh.node[i]] != "Block") continue;
            for (const auto corner : body.mesh.triangles[i]) {
                const kit::Vec p = body.mesh.points[corner];
                least = {std::min(least.x, p.x), std::min(least.y, p.y), std::min(least.z, p.z)};
                most = {std::max(most.x, p.x), std::max(most.y, p.y), std::max(most.z, p.z)};
                ++corners;
            }
        }
    CHECK(corners == 36);
    // Two metres a cell: its middle at 10, 10, half its diagonal of four metres to each side, lifted by a metre.
    CHECK(least.x == Approx(10 - 2 * std::sqrt(2)).margin(1e-3));
    CHECK(most.z == Approx(10 + 2 * std::sqrt(2)).margin(1e-3));
    CHECK(least.y == Approx(1).margin(1e-3));
    CHECK(most.y == Approx(4).margin(1e-3));
}

TEST_CASE("things are saved and loaded, and follow their kit's pictures", "[store][thing]") {
    Things t;
    level::Prop p = t.stand("Block", {80, 80}, {}, 96, {120, -50});
    level::PropOwn own = p.of_its_own();
    own.stands = level::Stands::crossed;
    p.set_own(own);
    t.level.edit(t.props).props().put(p);
    t.project.levels = {std::make_shared<const level::Level>(t.level)};
    const make::Folder dir;
    store::save(t.project, dir.path());
    const level::Project back = store::load(dir.path());
    CHECK(back.prop_kinds.size() == t.project.prop_kinds.size());
    for (std::size_t i = 0; i < back.prop_kinds.size(); ++i) CHECK(*back.prop_kinds[i] == *t.project.prop_kinds[i]);
    const level::Prop* found = nullptr;
    for (const level::LayerRef& layer : back.levels[0]->layers)
        if (layer->has_props() && layer->props().find(p.id)) found = layer->props().find(p.id);
    REQUIRE(found);
    CHECK(*found == p);
    // A piece more, that is drawn before: those that come again keep their place, or their props go along.
    kit_test::Kit more = t.made;
    more.put("Crate", {-0.5, 0, -0.5}, {0.5, 1, 0.5});
    kit::Told told;
    told.width = 2;
    told.height = 3;
    const kit::KitFile file = more.file();
    const kit::KitReading read = kit::read_kit(file.bodies, told);
    const edit::PutKit put = edit::put_kit(t.project, t.kit->sheet, "Walls", "w2.png", "w.obj", file, read,
                                           kit::draw_sheet(file, read, 16), 16, {}); // drawn without what was before
    for (const auto& k : put.project.prop_kinds) {
        const level::Sheet& sheet = *put.project.sheet(t.kit->sheet);
        const auto tile = std::find_if(sheet.tiles.begin(), sheet.tiles.end(),
                                       [&](const level::Tile& tile) { return tile.id == k->body; });
        if (tile != sheet.tiles.end()) CHECK(tile->box == k->box);
    }
    CHECK(put.things.empty()); // what is made once is not made again
}

TEST_CASE("the parcel tells how things stand", "[parcel][thing]") {
    Things t;
    t.stand("Block", {80, 80}, {}, 96, {120, -50});
    const make::Folder dir;
    parcel::build(t.project, t.level, dir / "p");
    const vicinum::Level back = vicinum::load(dir / "p");
    int found = 0;
    for (const vicinum::Layer& layer : back.layers)
        for (const vicinum::Prop& p : layer.props) {
            CHECK(p.up == 96);
            CHECK((p.lean.x == 120 && p.lean.y == -50));
            ++found;
        }
    CHECK(found == 1);
    const auto json = nlohmann::json::parse(read_file(dir / "p/level.json"));
    CHECK(json["prop_kinds"][0]["body"] == "Block");
}

namespace {

kit_test::Kit walls_alone() {
    kit_test::Kit out;
    out.put("Wall", {-1, 0, -0.1}, {1, 3, 0.1});
    return out;
}

} // namespace

TEST_CASE("a kit of whole things is told from one of pieces that meet", "[edit][thing]") {
    kit_test::Kit things;
    things.put("House", {-2.3, 0, -1.7}, {2.3, 5.1, 1.7});
    things.add(things.bodies[0].mesh, {-2.6, 3, -2}, {2.6, 3.4, 1.9}); // its roof ends in the plane of a side by chance
    kit::Told told;
    told.width = 2;
    const kit::KitFile file = things.file();
    const kit::KitReading read = kit::read_kit(file.bodies, told);
    CHECK(read.things);
    const edit::PutKit put =
        edit::put_kit({}, 0, "House", "h.png", "h.obj", file, read, kit::draw_sheet(file, read, 16), 16, {});
    REQUIRE(put.things.size() == 1);
    const level::PropKind& house = *put.project.prop_kind(put.things[0]);
    CHECK(house.name == "House");
    CHECK(house.box.size() == Size{48, 32});                              // three cells by two
    CHECK_FALSE(kit::read_kit(walls_alone().file().bodies, told).things); // a wall goes on in another
    CHECK(house.blocks);
    Things walls;
    kit_test::Kit met = walls.made;
    met.wall("Wall cross", 15);
    met.wall("Wall end", 1);
    CHECK_FALSE(kit::read_kit(met.file().bodies, told).things);
}

TEST_CASE("a node of its own blocks in a piece's place, and is not seen", "[scene][thing]") {
    Things t;
    auto kit = std::make_shared<scene::LoadedKit>(*t.kit);
    const std::size_t post = kit->piece_of.at(t.tile("Post"));
    kit::Body& body = kit->file.bodies[post];
    const std::size_t seen = body.mesh.triangles.size();
    body.nodes = {"Post", "Post blocks"};
    body.mesh.node.assign(seen, 0);
    t.made.add(body.mesh, {-1, 0, -1}, {1, 1.5, 1}); // wider, and half as high
    body.mesh.node.resize(body.mesh.triangles.size(), 1);
    body.mesh.finish.resize(body.mesh.triangles.size(), 0);
    kit->blocking[post] = {level::PieceBlocks::node, 0, "Post blocks"};
    CHECK(scene::model_of(*kit, post).corners.size() == seen * 3);
    CHECK(scene::blocking_model_of(*kit, post).corners.size() == 36);
    t.level.edit(t.below).grid().set({3, 4}, level::Cell(t.tile("Post"), {}, true), 0);
    t.kits = {kit};
    CHECK(mass::volume2(t.mass()) / 2 == 64 * 64 * 48);
    // It is kept with the kit, in all its turns.
    const level::Project said =
        edit::with_piece_blocking(t.project, t.tile("Post"), level::PieceBlocks::node, "Post blocks");
    const make::Folder dir;
    store::save(said, dir.path());
    const level::Project back = store::load(dir.path());
    const level::KitPiece* piece = edit::piece_of(*back.sheet(t.kit->sheet), t.tile("Post"));
    REQUIRE(piece);
    CHECK(piece->blocks == level::PieceBlocks::node);
    CHECK(piece->as == "Post blocks");
}

TEST_CASE("on a layer that lies half a cell aside pieces stand on the lines", "[scene][thing][mass]") {
    for (const Point half : {Point{1, 1}, Point{-1, 1}, Point{1, 0}}) {
        Things t;
        t.level.edit(t.below).shift = half;
        t.level.edit(t.below).grid().set({3, 4}, level::Cell(t.tile("Block"), {}, true), 0);
        t.level.edit(t.below).grid().set({4, 4}, level::Cell(t.tile("Post"), {1}, true), 0);
        const mass::Mass laid = t.mass();
        const auto placed = t.placed();
        REQUIRE(placed.size() == 2);
        CHECK(scene::placing_of(placed[0], {1, 1}, t.storeys())[0][3] == Approx(3 + half.x / 2.0));
        CHECK(scene::placing_of(placed[0], {1, 1}, t.storeys())[2][3] == Approx(4 + half.y / 2.0));
        // As the same pieces do that stand free.
        t.level.edit(t.below).grid().set({3, 4}, {}, 0);
        t.level.edit(t.below).grid().set({4, 4}, {}, 0);
        t.stand("Block", {3 * 16 + 8 + half.x * 8, 4 * 16 + 8 + half.y * 8});
        t.stand("Post", {4 * 16 + 8 + half.x * 8, 4 * 16 + 8 + half.y * 8});
        const mass::Mass stood = t.mass();
        REQUIRE(stood.slabs.size() == laid.slabs.size());
        for (std::size_t i = 0; i < laid.slabs.size(); ++i) {
            CHECK(stood.slabs[i].from == laid.slabs[i].from);
            CHECK(*stood.slabs[i].outlines == *laid.slabs[i].outlines);
        }
        // What points at a layer points at its own cells.
        const Lattice own = t.level.lattice_of(*t.level.layer(t.below));
        CHECK(own.corner({3, 4}) == Point{48 + half.x * 8, 64 + half.y * 8});
        for (int i = 0; i < 200; ++i) {
            const Point pixel{i * 7 % 160 - 20, i * 13 % 170 - 20};
            CHECK(own.box(own.cell_at(pixel)).contains(pixel));
            const CellPlace place = own.place_of(pixel.x + 0.5, pixel.y + 0.5);
            CHECK(static_cast<int>(std::floor(place.x)) == own.cell_at(pixel).x);
            CHECK(own.pixel_of(place).y == Approx(pixel.y + 0.5));
        }
        CHECK(own.step({2, 1}) == Point{32, 16});
        CHECK(own.box(Box{1, 1, 2, 3}) == Box{16 + half.x * 8, 16 + half.y * 8, 32, 48});
    }
}

TEST_CASE("an ensemble of things stands as its parts do, turned and lifted as one", "[scene][thing]") {
    Things t;
    level::PropKind pair;
    pair.id = 9999;
    pair.name = "Pair";
    level::Look turned;
    turned.turn = 900;
    pair.parts = {{1, t.kind("Block").id, {0, 0}, {}, {}, {}}, {2, t.kind("Post").id, {32, 0}, turned, {}, {}}};
    t.project.put(level::fitted(t.project, pair));
    level::Look look;
    look.turn = 900;
    t.stand("Pair", {80, 80}, look, 32);
    const auto placed = t.placed();
    REQUIRE(placed.size() == 2);
    CHECK(placed[0].prop == placed[1].prop);
    const auto middle = [](const scene::Placing& at) { // of a cell's floor
        return std::array{at[0][0] / 2 + at[0][2] / 2 + at[0][3], at[1][3], at[2][0] / 2 + at[2][2] / 2 + at[2][3]};
    };
    const auto block = middle(*placed[0].free), post = middle(*placed[1].free);
    CHECK(block[0] == Approx(5).margin(0.01));
    CHECK(block[2] == Approx(5).margin(0.01));
    CHECK(post[0] == Approx(5).margin(0.01)); // turned to the right, what was east is south
    CHECK(post[2] == Approx(7).margin(0.01));
    CHECK(block[1] == Approx(0.5));
    CHECK(post[1] == Approx(0.5));
    CHECK(t.mass().pieces == 2);
}

TEST_CASE("what a thing stands on is not in its way, what stands beside it there is", "[edit][thing]") {
    Things t;
    const level::Prop below = t.stand("Block", {80, 80});
    scene::Models models(t.kits);
    level::Prop post = below;
    post.id = 9700;
    post.kind = t.kind("Post").id;
    const auto rests = [&](edit::Rests how) {
        return edit::resting(t.project, t.level, models, t.props, post, {}, how);
    };
    const auto way = [&](const edit::Resting& r) {
        return edit::Ground(t.project, t.level, r.under).stand(r.prop).way;
    };
    CHECK_FALSE(rests(edit::Rests::storey).on_top);
    CHECK(way(rests(edit::Rests::storey)) == edit::InTheWay::another);
    const edit::Resting on = rests(edit::Rests::on_top);
    CHECK(on.on_top);
    CHECK(on.prop.of_its_own().up == 48);
    CHECK(on.under == std::set<level::PropId>{below.id});
    CHECK(way(on) == edit::InTheWay::nothing);
    // Another on the same block is in its way.
    t.stand("Post", {82, 80}, {}, 48);
    CHECK(way(rests(edit::Rests::storey)) == edit::InTheWay::another);
    post.at = {85, 80};
    CHECK(way(rests(edit::Rests::on_top)) == edit::InTheWay::another);
}
