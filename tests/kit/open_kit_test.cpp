// A folder of pieces.
#include "kit/open_kit.hpp"

#include <algorithm>
#include <catch2/catch.hpp>

#include "base/error.hpp"
#include "kit/models.hpp"
#include "kit/read_kit.hpp"
#include "support/make.hpp"

using namespace kit_test;

TEST_CASE("a folder of files is one kit, numbered folders are variants", "[kit][open-kit]") {
    const make::Folder folder;
    CHECK_THROWS_AS(open_kit(folder.path()), InputError);
    const auto put = [&](const std::string& name, const char* node) {
        Model model;
        model.box(node, {-1, 0, -1}, {1, 2, 1});
        model.json["materials"] = {{{"name", name}}};
        model.json["meshes"][0]["primitives"][0]["material"] = 0;
        fs::create_directories((folder / name).parent_path());
        write_file(folder / name, model.glb());
    };
    put("wall.glb", "a");
    put("17/b.glb", "b");
    put("17/a.GLB", "c");
    write_file(folder / "post.obj", "v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n");
    write_file(folder / "broken.glb", "glTF");
    write_file(folder / "readme.txt", "by somebody");
    fs::create_symlink(folder / "wall.glb", folder / "linked.glb");
    const KitFile kit = open_kit(folder.path());
    std::vector<std::string> names;
    for (const Body& b : kit.bodies) names.push_back(b.name);
    CHECK(names == std::vector<std::string>{"17", "17", "post", "wall"});
    CHECK(kit.finishes.size() == 4);
    CHECK(kit.finishes[kit.bodies[3].mesh.finish[0]].name == "wall.glb");
    REQUIRE(kit.doubts.size() == 1);
    CHECK(kit.doubts[0].english() == "broken.glb is left out: The file is cut off");
    CHECK(open_kit(folder / "wall.glb").bodies.size() == 1);
    CHECK_THROWS_AS(open_kit(folder / "nothing.glb"), InputError);
}

namespace {

Vec furthest(const Mesh& mesh) {
    Vec out{-1e9, -1e9, -1e9};
    for (const Vec& p : mesh.points) out = {std::max(out.x, p.x), std::max(out.y, p.y), std::max(out.z, p.z)};
    return out;
}

} // namespace

TEST_CASE("a file whose nodes hang together as they stand is one thing, unless it is told otherwise",
          "[kit][open-kit]") {
    const make::Folder folder;
    const auto save = [&](const std::string& name, const Model& model) {
        write_file(folder / name, model.glb());
        return open_kit(folder / name);
    };
    // Parts where they stand in the house, as one draws it.
    Model house;
    house.box("walls", {-2, 0, -1.5}, {2, 3, 1.5});
    house.box("roof", {-2.2, 3, -1.7}, {2.2, 3.4, 1.7});
    house.box("porch", {-0.6, 0, 1.5}, {0.6, 0.2, 2.2});
    const KitFile one = save("house.glb", house);
    CHECK(one.parts);
    CHECK(one.whole);
    REQUIRE(one.bodies.size() == 1);
    CHECK(one.bodies[0].name == "house");
    CHECK(one.bodies[0].nodes == std::vector<std::string>{"walls", "roof", "porch"});
    CHECK(one.bodies[0].mesh.points.size() == 24);
    CHECK(one.bodies[0].mesh.triangles.size() == 36);
    CHECK(one.bodies[0].mesh.finish.size() == 36);
    CHECK(one.bodies[0].mesh.node.back() == 2);
    CHECK(furthest(one.bodies[0].mesh).z == Approx(2.2));
    const KitFile apart = open_kit(folder / "house.glb", false);
    CHECK(apart.parts);
    CHECK(apart.bodies.size() == 3);
    // The same, each part drawn about itself and moved to its place.
    Model moved;
    moved.box("walls", {-2, 0, -1.5}, {2, 3, 1.5}, {10, 0, 5});
    moved.box("roof", {-2.2, 0, -1.7}, {2.2, 0.4, 1.7}, {10, 3, 5});
    moved.box("porch", {-0.6, 0, 0}, {0.6, 0.2, 0.7}, {10, 0, 6.5});
    const KitFile there = save("moved.glb", moved);
    CHECK(there.whole);
    CHECK(furthest(there.bodies.at(0).mesh).x == Approx(12.2));
    CHECK(furthest(there.bodies.at(0).mesh).y == Approx(3.4));
    // Pieces of a kit: all at one origin, or beside each other.
    Model kit, spread;
    for (int i = 0; i < 4; ++i) {
        const Vec least{-1, 0, i == 0 ? -1.0 : -0.1}, most{1, i == 0 ? 0.1 : 3.0, i == 0 ? 1.0 : 0.1};
        kit.box("piece " + std::to_string(i), least, most);
        spread.box("piece " + std::to_string(i), least, most, {3.0 * i, 0, 0});
    }
    CHECK_FALSE(save("kit.glb", kit).whole);
    CHECK(save("spread.glb", spread).bodies.size() == 4);
    CHECK(open_kit(folder / "spread.glb", true).bodies.size() == 1);
    // In a folder as most look.
    const make::Folder houses;
    write_file(houses / "a.glb", house.glb());
    write_file(houses / "b.glb", moved.glb());
    const KitFile all = open_kit(houses.path());
    CHECK(all.whole);
    CHECK(all.bodies.size() == 2);
}
