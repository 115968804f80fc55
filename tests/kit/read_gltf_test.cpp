// Reading glTF: what it tells of pieces, and that nothing in a file does harm.
#include "kit/read_gltf.hpp"

#include <turbojpeg.h>

#include <catch2/catch.hpp>
#include <cstdlib>
#include <fstream>
#include <vector>

#include "base/error.hpp"
#include "kit/models.hpp"
#include "kit/open_kit.hpp"
#include "kit/picture.hpp"
#include "sheet/png.hpp"
#include "support/make.hpp"

using namespace kit_test;

namespace {

KitFile read(const Model& model) { return gltf_from(model.glb(), "/nowhere", "kit.glb"); }

struct Bounds {
    Vec least{1e9, 1e9, 1e9}, most{-1e9, -1e9, -1e9};
    explicit Bounds(const Body& body) {
        for (const Vec v : body.mesh.points) {
            least = {std::min(least.x, v.x), std::min(least.y, v.y), std::min(least.z, v.z)};
            most = {std::max(most.x, v.x), std::max(most.y, v.y), std::max(most.z, v.z)};
        }
    }
};

// Six times the volume that the triangles enclose.
double volume6(const Mesh& mesh) {
    double out = 0;
    for (const auto& t : mesh.triangles) out += dot(mesh.points[t[0]], cross(mesh.points[t[1]], mesh.points[t[2]]));
    return out;
}

std::string trouble(const Model& model) {
    try {
        read(model);
    } catch (const InputError& e) {
        CHECK(e.file == "kit.glb");
        return e.problem.english();
    }
    return {};
}

} // namespace

TEST_CASE("the pieces of a glTF are the nodes of its scene, each about its own origin", "[kit][gltf]") {
    Model model;
    model.box("Wall", {0, 0, 0}, {2, 3, 0.2}, {10, 0, 0});
    const std::size_t post = model.box("Post", {-0.1, 0, -0.1}, {0.1, 3, 0.1}, {0, 0, 4});
    const std::size_t cap = model.box("Cap", {-0.2, 0, -0.2}, {0.2, 0.1, 0.2}, {0, 3, 0}, false);
    model.json["nodes"][post]["children"] = {cap};
    const KitFile kit = read(model);
    REQUIRE(kit.bodies.size() == 2);
    CHECK(kit.bodies[0].name == "Wall");
    const Bounds wall(kit.bodies[0]);
    CHECK(wall.least == Vec{0, 0, 0});
    CHECK(wall.most.x == Approx(2));
    CHECK(volume6(kit.bodies[0].mesh) / 6 == Approx(2 * 3 * 0.2));
    CHECK(kit.bodies[1].nodes == std::vector<std::string>{"Post", "Cap"});
    CHECK(Bounds(kit.bodies[1]).most.y == Approx(3.1));
    CHECK(kit.bodies[1].mesh.triangles.size() == 24);
    CHECK(kit.bodies[1].mesh.node.back() == 1);
    CHECK(kit.doubts.empty());
}

TEST_CASE("turns, scales, matrices and a node that holds all others count", "[kit][gltf]") {
    Model model;
    const std::size_t a = model.box("A", {0, 0, 0}, {1, 2, 4}, {5, 5, 5}, false);
    const std::size_t b = model.box("B", {0, 0, 0}, {1, 2, 4}, {}, false);
    model.json["nodes"][a]["scale"] = {2, 1, -1}; // mirrored: what is outside stays outside
    // Z up turned to y up: x stays, y comes to -z, z to y.
    model.json["nodes"].push_back(
        {{"name", "All"}, {"children", {a, b}}, {"matrix", {1, 0, 0, 0, 0, 0, -1, 0, 0, 1, 0, 0, 7, 8, 9, 1}}});
    model.json["scenes"][0]["nodes"] = {2};
    const KitFile kit = read(model);
    REQUIRE(kit.bodies.size() == 2);
    const Bounds first(kit.bodies[0]), second(kit.bodies[1]);
    CHECK(first.most.x == Approx(2));
    CHECK(first.least.y == Approx(-4));
    CHECK(second.most.y == Approx(4));
    CHECK(second.least.z == Approx(-2));
    CHECK(volume6(kit.bodies[0].mesh) / 6 == Approx(16));
    CHECK(volume6(kit.bodies[1].mesh) / 6 == Approx(8));
    Model turned;
    const std::size_t c = turned.box("C", {0, 0, 0}, {1, 2, 4});
    turned.json["nodes"][c]["rotation"] = {0, std::sqrt(0.5), 0, std::sqrt(0.5)}; // a quarter about y
    const Bounds third(read(turned).bodies[0]);
    CHECK(third.most.x == Approx(4));
    CHECK(third.least.z == Approx(-1));
    CHECK(read(turned).bodies[0].name == "kit"); // one piece goes by its file
}

TEST_CASE("finishes and pictures of a glTF, and what of them is missing", "[kit][gltf]") {
    Model model;
    const std::size_t a = model.box("A", {0, 0, 0}, {1, 1, 1});
    const std::string png = sheet::encode_png(Image({3, 2}, Rgba{10, 20, 30, 255}));
    while (model.bytes.size() % 4 != 0) model.bytes += '\0';
    model.json["bufferViews"].push_back(
        {{"buffer", 0}, {"byteOffset", model.bytes.size()}, {"byteLength", png.size()}});
    model.bytes += png;
    model.json["images"] = {
        {{"bufferView", 2}, {"mimeType", "image/png"}}, {{"uri", "lost.png"}}, {{"uri", "../../etc/passwd"}}};
    model.json["textures"] = {{{"source", 0}}};
    model.json["materials"] = {
        {{"name", "Brick"},
         {"doubleSided", true},
         {"alphaMode", "MASK"},
         {"pbrMetallicRoughness", {{"baseColorFactor", {1, 0.2140411, 0, 1}}, {"baseColorTexture", {{"index", 0}}}}}}};
    model.json["meshes"][0]["primitives"][0]["material"] = 0;
    const KitFile kit = read(model);
    REQUIRE(kit.finishes.size() == 1);
    CHECK(kit.finishes[0] == Finish{"Brick", {255, 127, 0, 255}, 0, true, true});
    REQUIRE(kit.pictures.size() == 3);
    CHECK(kit.pictures[0].size() == Size{3, 2});
    CHECK(kit.pictures[1].size().empty());
    CHECK(kit.pictures[2].size().empty());
    CHECK(kit.doubts.size() == 2);
    CHECK(a == 0);
}

TEST_CASE("what a glTF names again and again is not read without end", "[kit][gltf]") {
    Model model;
    model.box("A", {0, 0, 0}, {1, 1, 1});
    // A mesh with many points and no triangle, in thousands of nodes.
    const std::vector<float> points(3 * 100'000, 1.0F);
    const std::size_t many = model.accessor(points.data(), points.size() * 4, 5126, "VEC3", 100'000);
    const std::size_t none = model.accessor(points.data(), 4, 5125, "SCALAR", 0);
    model.json["meshes"].push_back({{"primitives", {{{"attributes", {{"POSITION", many}}}, {"indices", none}}}}});
    for (int i = 0; i < 4000; ++i) {
        model.json["nodes"].push_back({{"mesh", 1}});
        model.json["scenes"][0]["nodes"].push_back(model.json["nodes"].size() - 1);
    }
    CHECK(trouble(model) == "There are more points than are read");
    if (make::rounds(0, 1) == 0) return; // what follows takes seconds
    // One large picture, named a thousand times.
    Model painted;
    painted.box("A", {0, 0, 0}, {1, 1, 1});
    const std::string png = sheet::encode_png(Image({8192, 4096}, Rgba{1, 2, 3, 255}));
    while (painted.bytes.size() % 4 != 0) painted.bytes += '\0';
    painted.json["bufferViews"].push_back(
        {{"buffer", 0}, {"byteOffset", painted.bytes.size()}, {"byteLength", png.size()}});
    painted.bytes += png;
    for (int i = 0; i < 1000; ++i) painted.json["images"].push_back({{"bufferView", 2}});
    const KitFile kit = read(painted);
    CHECK(kit.pictures.size() == 1000);
    CHECK(kit.doubts.size() == 998);
}

TEST_CASE("files beside a glTF are read, none outside its folder", "[kit][gltf]") {
    const make::Folder folder;
    Model model;
    model.box("A", {0, 0, 0}, {1, 1, 1});
    write_file(folder.path() / "data with blank.bin", model.bytes);
    model.json["buffers"] = {{{"byteLength", model.bytes.size()}, {"uri", "data%20with%20blank.bin"}}};
    write_file(folder.path() / "a.gltf", model.json.dump());
    CHECK(read_gltf(folder.path() / "a.gltf").bodies.size() == 1);
    for (const char* uri : {"../a.bin", "/etc/passwd", "%2e%2e/a.bin", "https://example.org/a.bin", "nothing.bin"}) {
        model.json["buffers"][0]["uri"] = uri;
        write_file(folder.path() / "a.gltf", model.json.dump());
        CHECK_THROWS_AS(read_gltf(folder.path() / "a.gltf"), InputError);
    }
}

TEST_CASE("what is wrong with a glTF is told, with its place", "[kit][gltf]") {
    const auto with = [](const std::function<void(Model&)>& change) {
        Model model;
        model.box("A", {0, 0, 0}, {1, 1, 1});
        model.box("B", {0, 0, 0}, {1, 1, 1}, {2, 0, 0});
        change(model);
        return trouble(model);
    };
    CHECK(with([](Model&) {}).empty());
    CHECK(with([](Model& m) { m.json["asset"]["version"] = "1.0"; }) == "The file is glTF \"1.0\", not 2.0");
    CHECK(with([](Model& m) { m.json["extensionsRequired"] = {"KHR_draco_mesh_compression"}; }) ==
          "The file needs \"KHR_draco_mesh_compression\", which is not known here");
    CHECK(with([](Model& m) { m.json["bufferViews"][0]["byteLength"] = 100'000; }) == "It reaches beyond its buffer");
    CHECK(with([](Model& m) { m.json["accessors"][0]["count"] = 9; }) == "It reaches beyond its bytes");
    CHECK(with([](Model& m) { m.json["accessors"][0]["count"] = std::uint64_t{1} << 39; }).ends_with("than are read"));
    CHECK(with([](Model& m) { m.json["accessors"][0]["count"] = -1; }) == "\"count\" is no count");
    CHECK(with([](Model& m) { m.bytes[96] = 8; }) == "A corner of a triangle is no point of it");
    CHECK(with([](Model& m) {
              const float none = std::nanf("");
              std::memcpy(m.bytes.data(), &none, 4);
          }) == "There is something else than a number");
    CHECK(with([](Model& m) {
              const float far = 1e30F;
              std::memcpy(m.bytes.data(), &far, 4);
          }) == "A point lies too far away");
    CHECK(with([](Model& m) { m.json["nodes"][0]["children"] = {0}; }) == "Nodes hang together in a ring");
    CHECK(with([](Model& m) { m.json["nodes"][0]["children"] = {7}; }) == "There is no such node");
    CHECK(with([](Model& m) { m.json["nodes"][0]["mesh"] = 7; }) == "There is no meshes 7");
    CHECK(with([](Model& m) { m.json["nodes"][0]["name"] = 7; }).starts_with("The file is no glTF"));
    CHECK(with([](Model& m) { m.json["scenes"][0]["nodes"] = Json::array(); }) ==
          "There is nothing in the file that has a surface");
    // Cut off anywhere, or with any byte changed: read or refused.
    Model model;
    model.box("A", {0, 0, 0}, {1, 1, 1});
    const std::string whole = model.glb();
    for (std::size_t size = 0; size < whole.size(); size += 7) {
        try {
            gltf_from(std::string_view(whole).substr(0, size), "/nowhere", "kit.glb");
            CHECK(size + 4 > whole.size());
        } catch (const InputError&) {
        }
    }
    make::Random random(3);
    int refused = 0;
    for (int i = 0; i < make::rounds(400, 20'000); ++i) {
        std::string changed = whole;
        for (int k = 0; k < 3; ++k)
            changed[static_cast<std::size_t>(random.below(static_cast<int>(whole.size())))] =
                static_cast<char>(random.below(256));
        try {
            const KitFile kit = gltf_from(changed, "/nowhere", "kit.glb");
            for (const Body& body : kit.bodies)
                for (const auto& t : body.mesh.triangles)
                    for (const std::uint32_t c : t) REQUIRE(c < body.mesh.points.size());
        } catch (const InputError&) {
            ++refused;
        }
    }
    CHECK(refused > 20);
}

TEST_CASE("a finish may be a JPEG", "[kit][jpeg]") {
    // 8 by 8 pixels of one colour, written by libjpeg-turbo.
    std::vector<unsigned char> rgb;
    for (int i = 0; i < 64; ++i) rgb.insert(rgb.end(), {180, 90, 40});
    unsigned char* bytes = nullptr;
    unsigned long size = 0;
    const tjhandle writer = tjInitCompress();
    REQUIRE(tjCompress2(writer, rgb.data(), 8, 0, 8, TJPF_RGB, &bytes, &size, TJSAMP_444, 95, 0) == 0);
    const std::string jpeg(reinterpret_cast<const char*>(bytes), size);
    tjFree(bytes);
    tjDestroy(writer);
    const vic::Image image = vic::kit::decode_picture(jpeg, "a.jpg");
    CHECK(image.size() == vic::Size{8, 8});
    const vic::Rgba c = image.at(3, 4);
    CHECK(std::abs(c.r - 180) < 6);
    CHECK(std::abs(c.g - 90) < 6);
    CHECK(std::abs(c.b - 40) < 6);
    CHECK(c.a == 255);
    // Cut off anywhere it is refused, or what was there is shown; and what is neither is refused.
    for (std::size_t n = 0; n < jpeg.size(); n += 7) {
        try {
            const vic::Image what_is_there = vic::kit::decode_picture(jpeg.substr(0, n), "a.jpg");
            CHECK(what_is_there.size() == vic::Size{8, 8});
        } catch (const vic::InputError& e) {
            CHECK(e.file == "a.jpg");
        }
    }
    CHECK_THROWS_AS(vic::kit::decode_picture("GIF89a", "a.gif"), vic::InputError);
    // In an OBJ's library, by its own name.
    make::Folder dir;
    vic::write_file(dir.path() / "brick.jpg", jpeg);
    vic::write_file(dir.path() / "a.mtl", "newmtl brick\nmap_Kd brick.jpg\n");
    vic::write_file(dir.path() / "a.obj", "mtllib a.mtl\no Wall\nusemtl brick\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n");
    const vic::kit::KitFile kit = vic::kit::open_kit(dir.path() / "a.obj");
    REQUIRE(kit.pictures.size() == 1);
    CHECK(kit.pictures[0].size() == vic::Size{8, 8});
}
