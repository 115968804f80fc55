// A folder of pieces.
#include "kit/open_kit.hpp"

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
