// Reading OBJ.
#include "kit/read_obj.hpp"

#include <catch2/catch.hpp>

#include "base/error.hpp"
#include "kit/models.hpp"
#include "sheet/png.hpp"
#include "support/make.hpp"

using namespace kit_test;

namespace {

KitFile read_text(const std::string& text) { return obj_from(text, "/nowhere", "kit.obj"); }

std::string obj_trouble(const std::string& text) {
    try {
        read_text(text);
    } catch (const InputError& e) {
        return e.problem.english() + " " + e.where.english();
    }
    return {};
}

const char* const kSquare = "v 0 0 0\nv 2 0 0\nv 2 3 0\nv 0 3 0\n";

} // namespace

TEST_CASE("the pieces of an OBJ are its objects, or its groups", "[kit][obj]") {
    const std::string two =
        std::string("# a comment\r\n") + kSquare + "o Wall low\nf 1 2 3 4\no Half\ng part\nf 1 2 3\n";
    const KitFile kit = read_text(two);
    REQUIRE(kit.bodies.size() == 2);
    CHECK(kit.bodies[0].name == "Wall low");
    CHECK(kit.bodies[0].mesh.triangles.size() == 2);
    CHECK(kit.bodies[0].mesh.points.size() == 4);
    CHECK(kit.bodies[1].mesh.points.size() == 3);
    CHECK(read_text(std::string(kSquare) + "g a\nf 1 2 3\ng b\nf 1 3 4\n").bodies.size() == 2);
    const KitFile one =
        read_text(std::string(kSquare) + "f -4 -3 \\\n -2 -1\n"); // counted from the last, over two lines
    REQUIRE(one.bodies.size() == 1);
    CHECK(one.bodies[0].name == "kit");
    CHECK(one.bodies[0].mesh.triangles.size() == 2);
    CHECK(one.finishes.size() == 1);
    const KitFile plus = read_text("v +1 +2. -3.5e+1\nv 4 0 0\nv 0 0 5\nf 1 2 3\n");
    REQUIRE(plus.bodies.size() == 1);
    CHECK(plus.bodies[0].mesh.points[0] == Vec{1, 2, -35});
}

TEST_CASE("an OBJ's finishes lie beside it", "[kit][obj]") {
    const make::Folder folder;
    write_file(folder / "brick.png", sheet::encode_png(Image({4, 4}, Rgba{90, 30, 20, 255})));
    write_file(folder / "a.mtl", "newmtl Brick\nKd 1 0.5 0\nd 0.5\nmap_Kd brick.png\nnewmtl Lost\nmap_Kd ../out.png\n");
    write_file(folder / "a.obj",
               std::string("mtllib a.mtl\nmtllib none.mtl\n") + kSquare +
                   "vt 0 0\nvt 1 0\nvt 1 1\nusemtl Brick\nf 1/1 2/2 3/3\nusemtl Lost\nf 1//1 3//1 4\n");
    const KitFile kit = read_obj(folder / "a.obj");
    REQUIRE(kit.finishes.size() == 2);
    CHECK(kit.finishes[0].colour == Rgba{255, 128, 0, 128});
    CHECK(kit.finishes[0].picture == 0);
    CHECK(kit.finishes[1].picture == -1);
    CHECK(kit.pictures[0].size() == Size{4, 4});
    CHECK(kit.doubts.size() == 2);
    CHECK(kit.bodies[0].mesh.uv[0] == std::array<float, 2>{0, 1}); // from above
    CHECK(kit.bodies[0].mesh.finish == std::vector<std::uint16_t>{0, 1});
}

TEST_CASE("pictures that an OBJ names as another machine would are found beside it", "[kit][obj]") {
    const make::Folder folder;
    write_file(folder / "brick.png", sheet::encode_png(Image({4, 4}, Rgba{90, 30, 20, 255})));
    fs::create_directories(folder / "art");
    write_file(folder / "art/salt.png", sheet::encode_png(Image({8, 8}, Rgba{240, 240, 240, 255})));
    write_file(folder / "a.mtl",
               "newmtl A\nmap_Kd .\\brick.png\nnewmtl B\nmap_Kd art\\salt.png\nnewmtl C\nmap_Kd "
               "C:\\Works\\brick.png\nnewmtl D\nmap_Kd ..\\brick.png\nnewmtl E\nmap_Kd "
               "C:\\Works\\none.png\n");
    write_file(folder / "a.obj", std::string("mtllib .\\a.mtl\n") + kSquare + "usemtl A\nf 1 2 3\n");
    const KitFile kit = read_obj(folder / "a.obj");
    REQUIRE(kit.finishes.size() == 5);
    const auto wide = [&](std::size_t finish) {
        const int picture = kit.finishes[finish].picture;
        return picture < 0 ? 0 : kit.pictures[static_cast<std::size_t>(picture)].width();
    };
    CHECK(wide(0) == 4);
    CHECK(wide(1) == 8);
    CHECK(wide(2) == 4);
    CHECK(wide(3) == 0); // outside, as with any slash
    CHECK(wide(4) == 0);
    CHECK(kit.doubts.size() == 2);
}

TEST_CASE("what is wrong with an OBJ is told, with its line", "[kit][obj]") {
    CHECK(obj_trouble("v 0 0 zero\n") == "There is something else than a number line 1");
    CHECK(obj_trouble("v 0 0 +-1\n") == "There is something else than a number line 1");
    CHECK(obj_trouble("v 0 0 nan\n") == "There is something else than a number line 1");
    CHECK(obj_trouble("v 0 0\n") == "There is something else than a number line 1");
    CHECK(obj_trouble("v 0 0 1e30\n") == "A point lies too far away line 1");
    CHECK(obj_trouble(std::string(kSquare) + "f 1 2 9\n") == "A corner of a polygon is no point of the file line 5");
    CHECK(obj_trouble(std::string(kSquare) + "f 1 2 0\n") == "A corner of a polygon is no point of the file line 5");
    CHECK(obj_trouble(std::string(kSquare) + "f 1/1 2 3\n") == "A corner of a polygon is no point of the file line 5");
    CHECK(obj_trouble(std::string(kSquare) + "f 1 2\n") == "A polygon has less than three corners line 5");
    CHECK(obj_trouble("hello\n") == "There is nothing in the file that has a surface ");
    CHECK(obj_trouble("") == "There is nothing in the file that has a surface ");
    make::Random random(4);
    const std::string whole = std::string(kSquare) + "o A\nf 1 2 3 4\nusemtl b\nf 1 3 4\n";
    for (int i = 0; i < make::rounds(300, 20'000); ++i) {
        std::string changed = whole;
        for (int k = 0; k < 2; ++k)
            changed[static_cast<std::size_t>(random.below(static_cast<int>(whole.size())))] =
                static_cast<char>(random.below(128));
        try {
            for (const Body& body : read_text(changed).bodies)
                for (const auto& t : body.mesh.triangles)
                    for (const std::uint32_t c : t) REQUIRE(c < body.mesh.points.size());
        } catch (const InputError&) {
        }
    }
}
