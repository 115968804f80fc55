// The headless command's contract: results as JSON on standard output alone, and the exit codes.
#include <sys/wait.h>

#include <array>

#include <catch2/catch.hpp>
#include <cstdio>
#include <nlohmann/json.hpp>
#include <set>

#include "base/files.hpp"
#include "edit/kits.hpp"
#include "kit/draw.hpp"
#include "kit/made_kit.hpp"
#include "sheet/png.hpp"
#include "support/make.hpp"

namespace fs = std::filesystem;
using Json = nlohmann::json;
using namespace vic;

namespace {

struct Ran {
    int code;
    std::string out;
    [[nodiscard]] Json json() const { return Json::parse(out); }
};

Ran run(const std::string& arguments) {
    FILE* pipe = ::popen((std::string(CLI) + " " + arguments + " 2>/dev/null").c_str(), "r");
    Ran ran{0, {}};
    char buffer[4096];
    while (const std::size_t n = std::fread(buffer, 1, sizeof buffer, pipe)) ran.out.append(buffer, n);
    const int status = ::pclose(pipe);
    ran.code = WIFEXITED(status) ? WEXITSTATUS(status) : -1;
    return ran;
}

fs::path put_sheet(const make::Folder& dir, const std::string& name = "tiles.png", int gap = 1) {
    const Image image = make::sheet(make::tiles(join::cases(level::JoinKind::full), 16, make::Style::textured, 3), 8,
                                    {gap, gap}, {gap, gap});
    write_file(dir / name, sheet::encode_png(image));
    return dir / name;
}

} // namespace

TEST_CASE("read-sheet reads a cut", "[cli]") {
    make::Folder dir;
    const Ran r = run("read-sheet --json " + put_sheet(dir).string());
    CHECK(r.code == 0);
    const Json j = r.json();
    CHECK(j["width"] == 137);
    CHECK(j["best"]["tile"] == Json({16, 16}));
    CHECK(j["best"]["margin"] == Json({1, 1}));
    CHECK(j["best"]["spacing"] == Json({1, 1}));
    CHECK(j["best"]["columns"] == 8);
    CHECK(j["best"]["rows"] == 6);
    CHECK(j["best"]["scale"] == 1);
    CHECK(j["best"]["confidence"].is_number());
    CHECK(j["others"].is_array());
    CHECK(j["empty"] == Json({47}));
    CHECK(j["straddling"] == Json::array());
    write_file(dir / "dot.png", sheet::encode_png(Image({1, 1})));
    CHECK(run("read-sheet " + (dir / "dot.png").string() + " --json").json()["best"].is_null());
}

TEST_CASE("read-islands finds loose pictures", "[cli]") {
    make::Folder dir;
    Image image({60, 40});
    const auto fill = [&](const Box& b) {
        for (int y = b.y; y < b.bottom(); ++y)
            for (int x = b.x; x < b.right(); ++x) image.set(x, y, {40, 80, 60, 255});
    };
    fill({4, 4, 12, 20});
    fill({30, 6, 16, 8});
    fill({30, 16, 16, 10}); // two pixels below: of the same thing
    fill({55, 35, 1, 1});
    write_file(dir / "props.png", sheet::encode_png(image));
    const std::string file = (dir / "props.png").string();
    const Json j = run("read-islands --json " + file).json();
    CHECK(j["boxes"] == Json({{4, 4, 12, 20}, {30, 6, 16, 20}}));
    CHECK(j["specks"] == 1);
    CHECK(run("read-islands --json --join-gap 0 --least-area 1 " + file).json()["boxes"].size() == 4);
    CHECK(run("read-islands --join-gap 900 " + file).code == 2);
    CHECK(run("read-islands --json " + (dir / "none.png").string()).code == 3);
}

TEST_CASE("read-joins reads masks", "[cli]") {
    make::Folder dir;
    const Ran r = run("read-joins --json --kind full --tile 16x16 --margin 1x1 --spacing 1 " + put_sheet(dir).string());
    CHECK(r.code == 0);
    const Json j = r.json();
    REQUIRE(j["tiles"].size() == 47);
    for (std::size_t i = 0; i < 47; ++i) {
        CHECK(j["tiles"][i]["index"] == i);
        CHECK(j["tiles"][i]["mask"] == join::cases(level::JoinKind::full)[i]);
    }
    CHECK(j["missing"].empty());
    CHECK(j["doubtful"].is_array());
    CHECK(j["doubled"].is_array());
    const Ran wide = run("read-joins --json --kind full --tile 600x600 " + (dir / "tiles.png").string());
    CHECK(wide.code == 3);
    CHECK(wide.json()["error"]["remedy"].get<std::string>().size() > 5);
    CHECK(run("read-joins --kind some --tile 16x16 " + (dir / "tiles.png").string()).code == 2);
    CHECK(run("read-joins --kind full --tile big " + (dir / "tiles.png").string()).code == 2);
}

TEST_CASE("plan counts what colours mean, exactly or snapped", "[cli]") {
    make::Folder dir;
    Image p({10, 6}, {40, 90, 120, 255});
    for (int y = 0; y < 6; ++y)
        for (int x = 0; x < 4; ++x) p.set(x, y, {200, 180, 150, 255});
    for (int y = 0; y < 6; ++y) p.set(4, y, {120, 135, 135, 255}); // a smoothed edge
    p.set(9, 5, {43, 88, 124, 255});                               // the noise of compression
    p.set(0, 0, {255, 0, 255, 255});                               // nothing that is known
    write_file(dir / "plan.png", sheet::encode_png(p));
    const std::string keys = " --key '#c8b496=clay' --key '#285a78=creek'";
    const Ran exact = run("plan --json " + (dir / "plan.png").string() + keys);
    CHECK(exact.code == 0);
    CHECK(exact.json()["counts"]["clay"] == 23);
    CHECK(exact.json()["counts"]["creek"] == 29);
    CHECK(exact.json()["unknown"] == 8);
    const Ran snapped = run("plan --json " + (dir / "plan.png").string() + keys + " --snap");
    CHECK(snapped.json()["counts"]["clay"].get<int>() + snapped.json()["counts"]["creek"].get<int>() == 59);
    CHECK(snapped.json()["counts"]["creek"].get<int>() >= 30);
    CHECK(snapped.json()["unknown"] == 1);
    CHECK(run("plan " + (dir / "plan.png").string() + " --key clay").code == 2);
    CHECK(run("plan " + (dir / "none.png").string() + keys).code == 3);
    write_file(dir / "huge.png", sheet::encode_png(Image({2000, 3}, {1, 2, 3, 255})));
    const Ran huge = run("plan --json " + (dir / "huge.png").string() + keys);
    CHECK(huge.code == 3);
    CHECK(huge.json()["error"]["what"].get<std::string>().find("2000") != std::string::npos);
}

TEST_CASE("trace merges a grid", "[cli]") {
    make::Folder dir;
    write_file(dir / "grid.csv", "1,1,1,0\n1,0,1,0\n1,1,1,1\n0,0,0,0\n0,1,0,0\n");
    const Ran r = run("trace --json " + (dir / "grid.csv").string());
    CHECK(r.code == 0);
    CHECK(r.json() == Json{{"area", 10},
                           {"components", 2},
                           {"holes", 1},
                           {"perimeter", 14 + 4 + 4},
                           {"vertices", 6 + 4 + 4},
                           {"outlines", 3},
                           {"rectangles", 5}}); // the ring and its tail in four
    for (const char* bad : {"", "1,1\n1\n", "1,2\n", "1 1\n", "1,,1\n", "x", "1,\n"}) {
        write_file(dir / "bad.csv", bad);
        INFO(bad);
        CHECK(run("trace --json " + (dir / "bad.csv").string()).code == 3);
    }
}

TEST_CASE("a project is made, built, verified, walked and drawn from a script", "[cli]") {
    make::Folder dir;
    const std::string project = (dir / "works").string();
    CHECK(run("new " + project + " --name Works --json").json()["name"] == "Works");
    CHECK(run("new " + project).code == 3);
    const Json sheet = run("add-sheet --json " + project + " " + put_sheet(dir).string()).json();
    CHECK(sheet["tile"] == Json({16, 16}));
    CHECK(sheet["columns"] == 8);
    CHECK(sheet["tiles"].size() == 48);
    CHECK(sheet["file"] == "sheets/tiles.png");
    const Json level = run("add-level --json " + project + " --name 'Lower Works' --size 40x30 --view side").json();
    CHECK(level["level"] == "lower-works");
    CHECK(run("add-level " + project + " --name X --size 17000x17000").code == 3);
    CHECK(run("add-level " + project + " --name X --view below").code == 2);

    const Ran check = run("check --json " + project);
    CHECK(check.code == 0);
    std::set<std::string> codes;
    const Json found = check.json();
    for (const auto& f : found["findings"]) codes.insert(f["code"]);
    CHECK(codes.contains("no-start"));

    const std::string out = (dir / "out").string();
    const Ran build = run("build --json " + project + " --out " + out);
    CHECK(build.code == 0);
    REQUIRE(build.json()["levels"].size() == 1);
    CHECK(build.json()["levels"][0]["id"] == "lower-works");
    CHECK(build.json()["levels"][0]["bytes"] > 100);
    CHECK(run("build " + project + " --level nowhere --out " + out).code == 3);

    const Ran verify = run("verify --json " + out + "/lower-works");
    CHECK(verify.code == 0);
    const Json v = verify.json();
    CHECK(v["ok"] == true);
    CHECK(v["layers"] == 3);
    for (const char* key : {"tiles", "outlines", "vertices", "convex_parts", "props", "marks"}) CHECK(v[key] == 0);
    CHECK(run("verify --json " + project).code == 3);

    write_file(dir / "a.walk", "10\n30 right\n");
    const Json walk = run("walk --json " + out + "/lower-works --script " + (dir / "a.walk").string()).json();
    CHECK(walk["ticks"] == 40);
    CHECK(walk["path"].size() > 4);
    CHECK(walk["path"][0].size() == 3);
    CHECK(walk["end"].size() == 2);
    CHECK(walk["fell_out"] == false);
    CHECK(walk["touched"] == Json::array());

    const std::string picture = (dir / "level.png").string();
    CHECK(run("render --json " + project + " --level lower-works --out " + picture + " --scale 2").json()["width"] ==
          40 * 32);
    CHECK(sheet::read_png(picture).size() == Size{40 * 32, 30 * 32});
}

TEST_CASE("a level is drawn in three dimensions without a display", "[cli][render]") {
    make::Folder dir;
    const std::string project = (fs::path(SOURCE_DIR) / "demo/pump-house").string();
    const auto drawn = [&](const std::string& how) {
        const std::string file = (dir / "level.png").string();
        const Ran r = run("render --json " + project + " --level pump-house --out " + file + " --size 480x300 " + how);
        INFO(r.out);
        REQUIRE(r.code == 0);
        CHECK(r.json()["width"] == 480);
        Image image = sheet::read_png(file);
        REQUIRE(image.size() == Size{480, 300});
        std::set<std::array<std::uint8_t, 3>> colours;
        for (const Rgba& p : image.pixels()) colours.insert({p.r, p.g, p.b});
        CHECK(colours.size() > 200); // bricks, planks and shadows
        return image;
    };
    const Image aslant = drawn("--look aslant");
    CHECK(drawn("--look aslant") == aslant);
    CHECK_FALSE(drawn("--look aslant --turn 90") == aslant);
    CHECK_FALSE(drawn("--look aslant --storey 0") == aslant); // without the roof
    CHECK_FALSE(drawn("--look front") == aslant);
    CHECK_FALSE(drawn("--look through") == aslant);
    CHECK_FALSE(drawn("--look game") == aslant);
    CHECK(run("render " + project + " --level pump-house --out x.png --look aslant --size 0x9").code == 3);
    CHECK(run("render " + project + " --level pump-house --out x.png --look sideways").code == 2);
    const std::string flat = (fs::path(SOURCE_DIR) / "demo/pell-saltern").string();
    CHECK(run("render " + flat + " --level pump-cellar --out x.png --look aslant").code == 3); // from the side
    CHECK(run("render " + flat + " --level brine-pans --out " + (dir / "b.png").string() + " --look aslant").code == 0);
}

namespace {

// Walls in all turns, mirrored too, drawn aslant from a file that may have all its faces once more, turned round.
Image drawn_walls(bool both_ways, const std::string& how) {
    make::Folder dir;
    kit_test::Kit made;
    made.first_bit = 0;
    made.all_walls();
    kit_test::Kit file = made;
    for (kit::Body& body : file.bodies)
        for (std::size_t i = 0, count = both_ways ? body.mesh.triangles.size() : 0; i < count; ++i) {
            const auto t = body.mesh.triangles[i];
            body.mesh.triangles.push_back({t[2], t[1], t[0]});
        }
    make::Small small({12, 12});
    const kit::KitFile read_of = made.file();
    const kit::KitReading read = kit::read_kit(read_of.bodies);
    edit::PutKit put = edit::put_kit(small.project, 0, "Walls", "sheets/walls.png", "kits/walls/walls.obj", read_of,
                                     read, kit::draw_sheet(read_of, read, 16), 16, edit::kit_materials(read_of, read));
    level::Level level = *put.project.level(small.id);
    level::Grid& grid = level.edit(small.ground).grid();
    const auto& pieces = put.project.sheets.back()->kit->pieces;
    for (int i = 0; i < 72; ++i)
        grid.set({i % 12, i / 12 * 2},
                 level::Cell(pieces[static_cast<std::size_t>(i) % pieces.size()].tile,
                             {static_cast<std::uint8_t>(i % 8)}, true),
                 0);
    const std::string id = level.id;
    put.project.put(std::move(level));
    make::save_with_pictures(put.project, dir.path());
    fs::create_directories(dir / "kits/walls");
    write_file(dir / "kits/walls/walls.obj", file.obj());
    const std::string picture = (dir / "level.png").string();
    const Ran r =
        run("render --json " + dir.path().string() + " --level " + id + " --out " + picture + " --size 480x300 " + how);
    INFO(r.out);
    REQUIRE(r.code == 0);
    return sheet::read_png(picture);
}

} // namespace

TEST_CASE("faces that are left out since they face away are not missed", "[cli][render]") {
    for (const std::string how : {"--look aslant", "--look aslant --turn 200", "--look front"}) {
        const Image once = drawn_walls(false, how);
        std::set<std::array<std::uint8_t, 3>> colours;
        for (const Rgba& p : once.pixels()) colours.insert({p.r, p.g, p.b});
        CHECK(colours.size() > 20);
        // Where faces meet within a wall a pixel may be that of one or of the other.
        const Image twice = drawn_walls(true, how);
        int differ = 0;
        for (std::size_t i = 0; i < once.pixels().size(); ++i) differ += once.pixels()[i] == twice.pixels()[i] ? 0 : 1;
        INFO(how);
        CHECK(differ < 100); // of 144,000
    }
}

TEST_CASE("errors of severity error end with 1", "[cli]") {
    make::Folder dir;
    make::Small small;
    level::Level level = small.level();
    level.edit(small.ground).grid().set({1, 1}, level::Cell(5), 0);
    small.set(level);
    make::save_with_pictures(small.project, dir / "p");
    CHECK(run("check " + (dir / "p").string()).code == 0);
    fs::remove(dir / "p/sheets/full.png");
    const Ran r = run("check --json " + (dir / "p").string());
    CHECK(r.code == 1);
    CHECK(r.json()["findings"][0]["code"] == "picture-lost");
    CHECK(r.json()["findings"][0]["severity"] == "error");
}

TEST_CASE("wrong usage ends with 2, refused input with 3 and a JSON error", "[cli]") {
    CHECK(run("").code == 2);
    CHECK(run("fly").code == 2);
    CHECK(run("read-sheet").code == 2);
    CHECK(run("read-sheet a b").code == 2);
    CHECK(run("--help").code == 0);
    make::Folder dir;
    write_file(dir / "no.png", "nothing");
    for (const std::string& arguments :
         {"read-sheet " + (dir / "no.png").string(), "read-sheet " + (dir / "none.png").string(),
          "check " + dir.path().string(), "verify " + dir.path().string(), "trace " + (dir / "none").string(),
          "render " + dir.path().string() + " --out x.png"}) {
        INFO(arguments);
        const Ran r = run(arguments + " --json");
        CHECK(r.code == 3);
        const Json error = r.json()["error"];
        for (const char* key : {"what", "file", "where", "remedy"}) CHECK(error.contains(key));
        CHECK(error["what"].get<std::string>().size() > 5);
        CHECK(run(arguments).out.empty()); // without --json nothing is on standard output
    }
}

TEST_CASE("what cannot be written to standard output ends with 3", "[cli]") {
    make::Folder dir;
    const std::string sheet = put_sheet(dir).string();
    CHECK(run("read-sheet " + sheet + " >/dev/null").code == 0);
    CHECK(run("read-sheet " + sheet + " >/dev/full").code == 3);
    CHECK(run("read-sheet " + sheet + " --json >/dev/full").code == 3);
}

TEST_CASE("plant tells what a recipe gives, the same each time, and writes nothing", "[cli]") {
    make::Folder dir;
    make::Small small;
    level::Level level = small.level();
    level::Layer layer;
    layer.id = 700;
    layer.name = "Herbs";
    layer.content = level::PlantedProps{};
    level::Pass pass;
    pass.name = "herbs";
    pass.kinds = {{small.prop}};
    pass.apart = 30;
    layer.planted()->recipe.passes = {pass, level::Pass{}};
    layer.props().put({900, small.prop, {100, 100}});
    level.layers.push_back(std::make_shared<const level::Layer>(layer));
    small.project.put(level);
    small.project.next_id = 2000;
    make::save_with_pictures(small.project, dir / "p");
    const auto before = make::contents(dir / "p");
    const std::string at = "plant --json " + (dir / "p").string();
    const Ran r = run(at);
    REQUIRE(r.code == 0);
    const Json j = r.json();
    REQUIRE(j["passes"].size() == 2);
    CHECK(j["passes"][0]["name"] == "herbs");
    const int count = j["passes"][0]["count"];
    CHECK(count > 50);
    CHECK(j["passes"][0]["nearest"] >= 30);
    CHECK(j["passes"][1]["says"] == "It has no props yet");
    CHECK(j["props"].size() == static_cast<std::size_t>(count) + 1);
    CHECK(j["props"].back() == Json({small.prop, 100, 100, 0, true}));
    CHECK(run(at).out == r.out);
    CHECK(run(at + " --layer Herbs --seed 1").out == r.out);
    CHECK(run(at + " --seed 2").out != r.out);
    CHECK(make::contents(dir / "p") == before);
    CHECK(run(at + " --layer Trees").code == 3);
    CHECK(run(at + " --layer Trees").json()["error"]["remedy"] == "Choose one of: Herbs");
}

TEST_CASE("read-kit tells how pieces fit", "[cli]") {
    const make::Folder dir;
    std::string text;
    int points = 0;
    // A floor and walls from side to side, one of which floats by five millimetres.
    const auto box = [&](const std::string& name, const std::array<double, 6>& b) {
        text += "o " + name + "\n";
        for (int i = 0; i < 8; ++i)
            text += "v " + std::to_string(b[i & 1 ? 3 : 0]) + " " + std::to_string(b[i & 2 ? 4 : 1]) + " " +
                    std::to_string(b[i & 4 ? 5 : 2]) + "\n";
        for (const std::array<int, 4>& f :
             {std::array{1, 3, 4, 2}, {5, 6, 8, 7}, {1, 2, 6, 5}, {3, 7, 8, 4}, {1, 5, 7, 3}, {2, 4, 8, 6}}) {
            text += "f";
            for (const int corner : f) text += " " + std::to_string(points + corner);
            text += "\n";
        }
        points += 8;
    };
    box("Floor", {-1.5, -0.1, -1.5, 1.5, 0, 1.5});
    box("Wall", {-1.5, 0, -0.1, 1.5, 2.5, 0.1});
    box("Wall low", {-1.5, 0, -0.1, 1.5, 2.5, 0.1});
    box("Wall off", {-1.5, 0.005, -0.1, 1.5, 2.505, 0.1});
    write_file(dir / "kit.obj", text);
    const Ran r = run("read-kit --json " + (dir / "kit.obj").string());
    CHECK(r.code == 0);
    const Json j = r.json();
    CHECK(j["module"] == Json({3.0, 3.0, 2.5}));
    CHECK(j["origin"] == "middle");
    CHECK(j["up"] == "y");
    REQUIRE(j["pieces"].size() == 4);
    CHECK(j["pieces"][0]["fills"] == true);
    CHECK(j["pieces"][3]["shift"] == Json({0.0, -0.005, 0.0}));
    CHECK(j["pieces"][1]["couplings"]["east"] == j["pieces"][2]["couplings"]["west"]);
    write_file(dir / "none.glb", "nothing");
    CHECK(run("read-kit --json " + (dir / "none.glb").string()).code == 3);
}
