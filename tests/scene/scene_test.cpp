// Levels of kit pieces in three dimensions: each piece stands in its cells, turned as it is laid.
#include "scene/scene.hpp"

#include <catch2/catch.hpp>
#include <cmath>

#include "edit/kits.hpp"
#include "edit/storeys.hpp"
#include "kit/made_house.hpp"
#include "support/make.hpp"

namespace {

using kit_test::House;
using namespace vic;

std::array<float, 3> moved(const scene::Placing& by, const std::array<float, 3>& p) {
    std::array<float, 3> out{};
    for (std::size_t i = 0; i < 3; ++i) out[i] = by[i][0] * p[0] + by[i][1] * p[1] + by[i][2] * p[2] + by[i][3];
    return out;
}

} // namespace

TEST_CASE("a piece stands in its cells whichever way it is turned, as its picture does", "[scene]") {
    House house;
    for (int turn = 0; turn < 8; ++turn) {
        house.level = level::make_level(house.project, "House", {12, 10}, {16, 16}, level::View::from_above);
        house.lay({4, 3}, "Lean-to", turn);
        const auto placed = scene::placed_in(house.project, house.level, house.kits, 9);
        REQUIRE(placed.size() == 1);
        CHECK(placed[0].cells == Box{4, 3, 1, 1});
        const scene::Model model = scene::model_of(*house.kit, placed[0].piece);
        const scene::Placing by = scene::placing_of(placed[0], {1, 1}, scene::Storeys(house.kits));
        // What of the cell it covers, in sixteenths, by its triangles and by the picture as it is laid.
        float least_x = 99, most_x = -99, least_z = 99, most_z = -99;
        for (const auto& corner : model.corners) {
            const auto p = moved(by, corner.at);
            least_x = std::min(least_x, p[0]), most_x = std::max(most_x, p[0]);
            least_z = std::min(least_z, p[2]), most_z = std::max(most_z, p[2]);
            CHECK(p[1] >= -1e-5F);
            CHECK(p[1] <= 0.75F + 1e-5F);
        }
        const Image picture = kit::from_above(house.kit->file, house.kit->read, placed[0].piece, 16);
        Box box;
        for (int y = 0; y < 16; ++y)
            for (int x = 0; x < 16; ++x) {
                const Point from = source_pixel({static_cast<std::uint8_t>(turn)}, {x, y}, 16);
                if (picture.at(from.x, from.y).a != 0) box = united(box, {x, y, 1, 1});
            }
        CHECK(box == Box{static_cast<int>(std::lround((least_x - 4) * 16)),
                         static_cast<int>(std::lround((least_z - 3) * 16)),
                         static_cast<int>(std::lround((most_x - least_x) * 16)),
                         static_cast<int>(std::lround((most_z - least_z) * 16))});
    }
}

TEST_CASE("a piece of several cells has a tile for each quarter turn, and stands in its cells", "[scene]") {
    House house;
    const level::TileId first = house.tile("Hall");
    CHECK(edit::turned_piece(house.project, house.tile("Wall 5x"), true) == 0);
    level::TileId round = first;
    for (int i = 0; i < 4; ++i) {
        const level::TileId next = edit::turned_piece(house.project, round, true);
        REQUIRE(next != 0);
        CHECK(edit::turned_piece(house.project, next, false) == round);
        round = next;
    }
    CHECK(round == first);
    for (int turn = 0; turn < 8; ++turn) {
        house.level = level::make_level(house.project, "House", {12, 10}, {16, 16}, level::View::from_above);
        house.lay({4, 3}, "Hall", turn);
        const auto placed = scene::placed_in(house.project, house.level, house.kits, 9);
        REQUIRE(placed.size() == 1);
        CHECK(placed[0].turn.code == turn);
        CHECK(placed[0].cells.size() == (turn % 2 == 0 ? Size{2, 1} : Size{1, 2}));
        const scene::Placing by = scene::placing_of(placed[0], {2, 1}, scene::Storeys(house.kits));
        for (const auto& corner : scene::model_of(*house.kit, placed[0].piece).corners) {
            const auto p = moved(by, corner.at);
            CHECK(p[0] >= static_cast<float>(placed[0].cells.x) - 1e-4F);
            CHECK(p[0] <= static_cast<float>(placed[0].cells.right()) + 1e-4F);
            CHECK(p[2] >= static_cast<float>(placed[0].cells.y) - 1e-4F);
            CHECK(p[2] <= static_cast<float>(placed[0].cells.bottom()) + 1e-4F);
        }
    }
}

TEST_CASE("what is closed all round is told from what has a hole, or is inside out", "[scene]") {
    const auto closed = [](const kit_test::Kit& made) {
        const kit::KitFile file = made.file();
        return scene::is_closed(scene::model_of(file, kit::read_kit(file.bodies), file.bodies.size() - 1));
    };
    kit_test::Kit whole;
    whole.put("Box", {-0.5, 0, -0.5}, {0.5, 1, 0.5});
    CHECK(closed(whole));
    whole.wall("Wall", 7); // bodies that touch
    CHECK(closed(whole));
    kit_test::Kit hole = whole;
    hole.bodies.back().mesh.triangles.pop_back();
    CHECK_FALSE(closed(hole));
    kit_test::Kit turned = whole;
    for (auto& t : turned.bodies.back().mesh.triangles) std::swap(t[0], t[1]);
    CHECK_FALSE(closed(turned));
    kit_test::Kit one = whole; // one face alone is turned round
    auto& faces = one.bodies.back().mesh.triangles;
    std::swap(faces.back()[0], faces.back()[1]);
    CHECK_FALSE(closed(one));
    kit_test::Kit hollow = whole; // a room within, whose faces look into it
    hollow.put("Room", {-0.5, 0, -0.5}, {0.5, 1, 0.5});
    kit::Mesh& mesh = hollow.bodies.back().mesh;
    const std::size_t outer = mesh.triangles.size();
    hollow.add(mesh, {-0.25, 0.25, -0.25}, {0.25, 0.75, 0.25});
    for (std::size_t i = outer; i < mesh.triangles.size(); ++i) std::swap(mesh.triangles[i][0], mesh.triangles[i][1]);
    CHECK_FALSE(closed(hollow));
}

TEST_CASE("storeys stand on one another, those above are cut away, and blocks take all their cells", "[scene]") {
    House house;
    house.lay({1, 1}, "Wall 5x");
    house.lay({3, 1}, "Hall");
    std::uint32_t next = house.project.next_id + 1000;
    house.level = edit::with_storey_above(house.level, 0, true, next);
    const auto all = scene::placed_in(house.project, house.level, house.kits, 9);
    REQUIRE(all.size() == 4);
    CHECK(scene::placed_in(house.project, house.level, house.kits, 0).size() == 2);
    CHECK(scene::Storeys(house.kits).height(0) == Approx(1.5));
    for (const scene::Placed& p : all) {
        const scene::Model model = scene::model_of(*house.kit, p.piece);
        const scene::Placing by =
            scene::placing_of(p, house.kit->read.pieces[p.piece].cells, scene::Storeys(house.kits));
        CHECK(moved(by, model.least)[1] == Approx(p.storey * 1.5).margin(1e-5));
        if (house.kit->file.bodies[p.piece].name != "Hall") continue;
        CHECK(p.cells == Box{3, 1, 2, 1});
        CHECK(moved(by, model.least)[0] == Approx(3).margin(1e-5));
        CHECK(moved(by, model.most)[0] == Approx(5).margin(1e-5));
    }
    // A layer that is not shown has none.
    house.level.edit(house.level.layers[0]->id).shown = false;
    CHECK(scene::placed_in(house.project, house.level, house.kits, 9).size() == 2);
    // What lies flat is all but the pieces of the lowest storey.
    const level::Level flat = scene::flat_of(house.project, house.level, house.kits);
    for (const level::LayerRef& layer : flat.layers)
        if (layer->storey == 0 && layer->tiles()) CHECK(layer->grid().count() == 0);
}

TEST_CASE("a ray meets a storey's plane where it comes to it", "[scene]") {
    const scene::Ray down{{2, 10, 3}, {0.5, -1, 0}};
    REQUIRE(scene::on_storey(down, 1.5));
    CHECK((*scene::on_storey(down, 1.5))[0] == Approx(2 + 8.5 / 2));
    CHECK((*scene::on_storey(down, 1.5))[1] == Approx(3));
    CHECK_FALSE(scene::on_storey(down, 20));
    CHECK_FALSE(scene::on_storey({{0, 1, 0}, {1, 0, 0}}, 0));
}

TEST_CASE("props that stand are upright cards about their feet, and what lies flat stays on the ground", "[scene]") {
    House house;
    level::PropKind tall, flat;
    tall.id = house.project.next_id++;
    tall.name = "Reeds";
    tall.sheet = house.kit->sheet;
    tall.box = {0, 0, 8, 24};
    tall.foot = {2, 18, 4, 4};
    tall.pivot = {4, 21};
    flat = tall;
    flat.id = house.project.next_id++;
    flat.flat = true;
    house.project.put(tall);
    house.project.put(flat);
    level::LayerId props = 0;
    for (const level::LayerRef& layer : house.level.layers)
        if (layer->has_props()) props = layer->id;
    REQUIRE(props != 0);
    house.level.edit(props).props().put({1, tall.id, {40, 60}, {}});
    house.level.edit(props).props().put({2, flat.id, {80, 60}, {}});
    level::Look turned;
    turned.turn = 90;
    turned.mirrored = true;
    house.level.edit(props).props().put({3, tall.id, {120, 60}, turned});
    const level::PropKinds kinds(house.project);
    const auto cards = scene::cards_in(kinds, house.level, scene::Storeys(house.kits), 0);
    REQUIRE(cards.size() == 2);
    // The foot: pixels 38 to 41 of the level across, its lower edge at 61; cells of 16.
    CHECK(cards[0].foot[0] == Approx(40 / 16.0));
    CHECK(cards[0].foot[1] == 0);
    CHECK(cards[0].foot[2] == Approx(61 / 16.0));
    CHECK(cards[0].left == Approx(4 / 16.0));
    CHECK(cards[0].right == Approx(4 / 16.0));
    CHECK(cards[0].top == Approx(22 / 16.0));
    CHECK(cards[0].bottom == Approx(2 / 16.0));
    CHECK(cards[1].mirrored);
    CHECK(cards[1].top == Approx(22 / 16.0)); // it stands, however it lies in the plan
    // A storey higher they stand higher, and are cut away with it.
    house.level.edit(props).storey = 2;
    CHECK(scene::cards_in(kinds, house.level, scene::Storeys(house.kits), 1).empty());
    CHECK(scene::cards_in(kinds, house.level, scene::Storeys(house.kits), 2)[0].foot[1] == Approx(3));
    house.level.edit(props).storey = 0;
    const level::Level ground = scene::flat_of(house.project, house.level, house.kits);
    CHECK(ground.layer(props)->props().size() == 1);
    CHECK(ground.layer(props)->props().find(2));
}
