#include <sys/wait.h>
#include <unistd.h>

#include <catch2/catch.hpp>

#include "base/files.hpp"
#include "edit/reshape.hpp"
#include "edit/sheets.hpp"
#include "edit/stroke.hpp"
#include "sheet/cut.hpp"
#include "sheet/png.hpp"
#include "store/cells.hpp"
#include "store/format.hpp"
#include "store/project_files.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::store;

namespace {

void same(const level::Project& a, const level::Project& b) {
    // Text is compared too, but values first: text that forgets a field would be equal to itself.
    CHECK(a.name == b.name);
    CHECK(a.next_tile == b.next_tile);
    REQUIRE(a.sheets.size() == b.sheets.size());
    for (std::size_t i = 0; i < a.sheets.size(); ++i) {
        CHECK(a.sheets[i]->tiles == b.sheets[i]->tiles);
        CHECK(a.sheets[i]->cut == b.sheets[i]->cut);
        CHECK(*a.sheets[i]->image == *b.sheets[i]->image);
    }
    REQUIRE(a.materials.size() == b.materials.size());
    for (std::size_t i = 0; i < a.materials.size(); ++i) CHECK(*a.materials[i] == *b.materials[i]);
    REQUIRE(a.levels.size() == b.levels.size());
    for (std::size_t i = 0; i < a.levels.size(); ++i) {
        const level::Level &x = *a.levels[i], &y = *b.levels[i];
        CHECK(x.marks == y.marks);
        CHECK(x.walker == y.walker);
        CHECK(x.plane == y.plane);
        REQUIRE(x.layers.size() == y.layers.size());
        for (std::size_t l = 0; l < x.layers.size(); ++l) {
            if (x.layers[l]->tiles()) CHECK(x.layers[l]->grid() == y.layers[l]->grid());
            CHECK(x.layers[l]->props() == y.layers[l]->props());
            CHECK(x.layers[l]->name == y.layers[l]->name);
            CHECK(x.layers[l]->opacity == y.layers[l]->opacity);
            CHECK(x.layers[l]->locked == y.layers[l]->locked);
            CHECK(x.layers[l]->solid() == y.layers[l]->solid());
        }
    }
    CHECK(texts(a) == texts(b));
}

} // namespace

TEST_CASE("what is saved is what is loaded", "[store]") {
    for (unsigned seed = 0; seed < 4; ++seed) {
        make::Folder dir;
        const make::Small small = make::rich(seed);
        make::save_with_pictures(small.project, dir.path());
        same(small.project, load(dir.path()));
    }
}

TEST_CASE("text is one thing a line, so that a change is a small difference", "[store]") {
    make::Small small = make::rich(1);
    const auto before = texts(small.project);
    level::Level level = small.level();
    level.edit(small.ground).grid().set({64, 33}, level::Cell(7, {}, true), 1);
    small.set(level);
    const auto after = texts(small.project);
    int lines = 0;
    for (const auto& [name, text] : after) {
        std::istringstream a(before.at(name)), b(text);
        std::string la, lb;
        while (std::getline(a, la) && std::getline(b, lb)) lines += la != lb;
    }
    CHECK(lines == 1);
    for (const auto& [name, text] : after) CHECK(text.back() == '\n');
}

TEST_CASE("saving writes only what differs", "[store]") {
    make::Folder dir;
    make::Small small = make::rich(2);
    make::save_with_pictures(small.project, dir.path());
    const level::Project saved = small.project;
    CHECK(texts(small.project, &saved).empty());
    level::Level level = small.level();
    level.name = "Renamed";
    small.set(level);
    const auto files = texts(small.project, &saved);
    CHECK(files.contains("levels/place.json"));
    CHECK_FALSE(files.contains("levels/place.cells"));
    save(small.project, dir.path(), &saved);
    same(small.project, load(dir.path()));
}

TEST_CASE("a save that is killed at any step leaves the old or the new project", "[store]") {
    make::Folder dir;
    make::Small small = make::rich(3);
    make::save_with_pictures(small.project, dir.path());
    const level::Project old_state = small.project;
    level::Level level = small.level();
    level.name = "After";
    level.edit(small.ground).grid().set({1, 1}, level::Cell(9), 1);
    small.set(level);
    small.project.name = "After";
    int olds = 0, news = 0, step_count = 0;
    for (int stop = 0;; ++stop) {
        make::Folder copy;
        fs::copy(dir.path(), copy.path(), fs::copy_options::recursive);
        const pid_t child = ::fork();
        if (child == 0) {
            int step = 0;
            save(small.project, copy.path(), nullptr, {.step = [&] {
                     if (step++ == stop) ::kill(::getpid(), SIGKILL);
                 }});
            ::_exit(0);
        }
        int status = 0;
        ::waitpid(child, &status, 0);
        const level::Project found = load(copy.path());
        if (found.name == "After") {
            ++news;
            same(small.project, found);
        } else {
            ++olds;
            same(old_state, found);
        }
        // The next save finds its way from there.
        level::Project next = found;
        next.name = "Later";
        save(next, copy.path(), &found);
        CHECK_FALSE(fs::exists(copy / ".vicinum"));
        CHECK(load(copy.path()).name == "Later");
        if (WIFEXITED(status)) break;
        ++step_count;
    }
    CHECK(olds >= 4);
    CHECK(news >= 4);
    CHECK(step_count >= 8);
}

TEST_CASE("a save killed at any moment leaves the old or the new project", "[store]") {
    make::Folder dir;
    make::Small small = make::rich(4);
    make::save_with_pictures(small.project, dir.path());
    make::Random random(1);
    for (int round = 0; round < 12; ++round) {
        const pid_t child = ::fork();
        if (child == 0) {
            for (int n = 0;; ++n) {
                small.project.name = "Name " + std::to_string(n);
                level::Level level = small.level();
                level.name = small.project.name;
                small.set(level);
                save(small.project, dir.path());
            }
        }
        ::usleep(static_cast<useconds_t>(3000 + random.below(25000)));
        ::kill(child, SIGKILL);
        ::waitpid(child, nullptr, 0);
        const level::Project found = load(dir.path());
        if (found.name != "Small") CHECK(found.levels[0]->name == found.name);
        make::save_with_pictures(make::rich(4).project, dir.path());
    }
}

TEST_CASE("a project file that is wrong is refused with the place and a remedy", "[store]") {
    make::Folder dir;
    make::save_with_pictures(make::rich(5).project, dir.path());
    const std::string good = read_file(dir / "project.json");
    const auto swapped = [&](const std::string& from, const std::string& to) {
        std::string text = good;
        const auto at = text.find(from);
        REQUIRE(at != std::string::npos);
        return text.replace(at, from.size(), to);
    };
    const std::vector<std::pair<std::string, std::string>> bad{
        {"empty", ""},
        {"blank", " \n\n"},
        {"cut off", good.substr(0, good.size() / 2)},
        {"cut off in a word", good.substr(0, good.size() - 3)},
        {"no JSON", "hello"},
        {"nested 100,000 deep", std::string(100000, '[')},
        {"nested and closed", std::string(100000, '[') + std::string(100000, ']')},
        {"nested objects",
         [] {
             std::string t;
             for (int i = 0; i < 100000; ++i) t += "{\"a\":";
             return t;
         }()},
        {"too many names in one object",
         [] {
             std::string t = "{\"0\":0";
             for (int i = 1; i < 5000; ++i) t += ",\"" + std::to_string(i) + "\":0";
             return t + "}";
         }()},
        {"newer", swapped("\"version\": 1", "\"version\": 2")},
        {"another format", swapped("vicinum-project", "vicinum-level")},
        {"NaN", swapped("\"next_id\": ", "\"next_id\": NaN, \"x\": ")},
        {"infinite", swapped("\"next_id\": ", "\"next_id\": 1e999, \"x\": ")},
        {"half a number", swapped("\"next_tile\": ", "\"next_tile\": 0.5, \"x\": ")},
        {"upwards", swapped("sheets/full.png", "../full.png")},
        {"absolute", swapped("sheets/full.png", "/etc/hostname")},
        {"a list", "[]"},
        {"null", "null"},
        {"missing", swapped("\"sheets\"", "\"sheet\"")},
        {"a mask that is no case", swapped("\"mask\":1,", "\"mask\":2,")},
        {"a tile twice", swapped("\"id\":2,", "\"id\":1,")},
        {"a tile never given out", swapped("\"next_tile\": ", "\"next_tile\": 3, \"x\": ")},
        {"a level outside", swapped("\"place\"", "\"../place\"")},
        {"a negative box", swapped("[0,0,16,16]", "[0,0,-16,16]")},
    };
    for (const auto& [name, text] : bad) {
        INFO(name);
        write_file(dir / "project.json", text);
        const auto before = make::contents(dir.path());
        try {
            load(dir.path());
            FAIL("loaded");
        } catch (const InputError& e) {
            CHECK(e.file.find("project.json") != std::string::npos);
            CHECK(e.problem.english().size() > 5);
            CHECK(e.remedy.english().size() > 5);
        }
        CHECK(make::contents(dir.path()) == before);
    }
    write_file(dir / "project.json", good);
    CHECK(load(dir.path()).name == "Small");
}

TEST_CASE("links that lead out of the project are refused", "[store]") {
    make::Folder dir, other;
    make::save_with_pictures(make::rich(6).project, dir.path());
    write_file(other / "x.png", read_file(dir / "sheets/full.png"));
    fs::remove(dir / "sheets/full.png");
    fs::create_symlink(other / "x.png", dir / "sheets/full.png");
    CHECK_THROWS_WITH(load(dir.path()), Catch::Contains("link"));
    fs::remove(dir / "sheets/full.png");
    write_file(dir / "sheets/full.png", read_file(other / "x.png"));
    fs::rename(dir / "levels", other / "levels");
    fs::create_directory_symlink(other / "levels", dir / "levels");
    CHECK_THROWS_WITH(load(dir.path()), Catch::Contains("link"));
}

TEST_CASE("a level file that is wrong is refused", "[store]") {
    make::Folder dir;
    make::save_with_pictures(make::rich(7).project, dir.path());
    const std::string good = read_file(dir / "levels/place.json");
    for (const auto& [from, to] : {std::pair<std::string, std::string>{"[130,90]", "[17000,90]"},
                                   {"[130,90]", "[0,90]"},
                                   {"\"plane\": 3", "\"plane\": 8"},
                                   {"\"above\"", "\"below\""},
                                   {"\"opacity\":40", "\"opacity\":140"},
                                   {"\"id\": \"place\"", "\"id\": \"other\""},
                                   {"#3a4542", "red"},
                                   {"\"speed\":3.25", "\"speed\":-1"}}) {
        std::string text = good;
        auto at = text.find(from);
        if (at == std::string::npos) { // short values stand on one line with others
            std::string spaced = from;
            spaced.replace(spaced.find(':') + 1, 0, " ");
            at = text.find(spaced);
            REQUIRE(at != std::string::npos);
            text.replace(at, spaced.size(), to);
        } else {
            text.replace(at, from.size(), to);
        }
        INFO(to);
        write_file(dir / "levels/place.json", text);
        CHECK_THROWS_AS(load(dir.path()), InputError);
    }
    write_file(dir / "levels/place.json", good);
    fs::remove(dir / "levels/place.cells");
    CHECK_THROWS_AS(load(dir.path()), InputError);
}

TEST_CASE("other rules do not change what an unchanged level shows when it is opened again", "[store]") {
    make::Folder dir;
    make::Small small = make::rich(12);
    make::save_with_pictures(small.project, dir.path());
    // A rule changes, but the level's cells are left as they are.
    level::Project next = small.project;
    level::Material m = *next.material(1);
    m.joins.cases[255] = {{3, 100, {}}};
    next.put(m);
    save(next, dir.path(), &small.project);
    const level::Project back = load(dir.path());
    CHECK(back.level(small.id)->layer(small.ground)->grid() == small.level().layer(small.ground)->grid());
}

TEST_CASE("a large level is kept in blocks, and one cell changes one of them", "[store]") {
    make::Folder dir;
    make::Small small({1300, 700});
    const join::Rules rules(small.project);
    edit::Hand rock{edit::held::Material{1}};
    small.set(edit::lay(small.project, rules, small.level(), small.ground, rock, level::Region(Box{500, 400, 300, 200}))
                  .level);
    make::save_with_pictures(small.project, dir.path());
    const auto files = make::contents(dir.path());
    CHECK(files.contains("levels/place/0-0.cells"));
    CHECK(files.contains("levels/place/1-1.cells"));
    CHECK_FALSE(files.contains("levels/place/2-0.cells")); // nothing lies there
    CHECK_FALSE(files.contains("levels/place.cells"));
    CHECK(load(dir.path()).level(small.id)->layer(small.ground)->grid() == small.level().layer(small.ground)->grid());
    level::Project next = small.project;
    next.put(edit::lay(next, rules, small.level(), small.ground, rock, std::vector<Point>{{1250, 20}}).level);
    save(next, dir.path(), &small.project);
    int changed = 0;
    for (const auto& [name, bytes] : make::contents(dir.path()))
        if (!files.contains(name) || files.at(name) != bytes) ++changed;
    CHECK(changed == 2); // the block that is new, and the level that names it
    CHECK(load(dir.path()).level(small.id)->layer(small.ground)->grid() ==
          next.level(small.id)->layer(small.ground)->grid());
    // Cropped to less than a block it is one file, and the blocks are gone.
    level::Project small_again = next;
    small_again.put(edit::extended(rules, *next.level(small.id), {-500, -400, -500, -100}));
    save(small_again, dir.path(), &next);
    const auto after = make::contents(dir.path());
    CHECK(after.contains("levels/place.cells"));
    CHECK_FALSE(after.contains("levels/place/0-0.cells"));
    CHECK(load(dir.path()).level(small.id)->layer(small.ground)->grid() ==
          small_again.level(small.id)->layer(small.ground)->grid());
}

TEST_CASE("a damaged layer is named, locked and kept aside; the others open", "[store]") {
    make::Folder dir;
    const make::Small small = make::rich(13);
    make::save_with_pictures(small.project, dir.path());
    const std::string good = read_file(dir / "levels/place.cells");
    const std::string mark = "layer " + std::to_string(small.front) + "\n";
    for (const bool cut_off : {false, true}) {
        std::string bad = good;
        const auto at = bad.find(mark) + mark.size();
        if (cut_off)
            bad = bad.substr(0, at);
        else
            bad.insert(at, "0 0 what\n");
        write_file(dir / "levels/place.cells", bad);
        CHECK_THROWS_AS(load(dir.path()), InputError); // where nobody asks for what is left
        std::vector<Damage> damages;
        const level::Project p = load(dir.path(), &damages);
        REQUIRE(damages.size() >= 1);
        CHECK(damages[0].level == small.id);
        CHECK(damages[0].layer == small.front);
        CHECK(damages[0].what.english().find(cut_off ? "cut off" : "line") != std::string::npos);
        CHECK(read_file(damages[0].aside) == bad);
        CHECK(p.level(small.id)->layer(small.front)->locked);
        CHECK(p.level(small.id)->layer(small.ground)->grid() == small.level().layer(small.ground)->grid());
        CHECK_FALSE(p.level(small.id)->layer(small.ground)->locked);
        save(p, dir.path());
        CHECK(load(dir.path()).levels.size() == small.project.levels.size()); // sound again
        CHECK(read_file(damages[0].aside) == bad);
    }
}

TEST_CASE("a picture that is lost or broken leaves the project open", "[store]") {
    make::Folder dir;
    make::save_with_pictures(make::rich(10).project, dir.path());
    write_file(dir / "sheets/plain.png", "no picture");
    fs::remove(dir / "sheets/full.png");
    const level::Project p = load(dir.path());
    for (const auto& s : p.sheets) {
        CHECK(s->image == nullptr);
        CHECK(s->trouble.english().find(s->file) != std::string::npos);
        CHECK_FALSE(s->tiles.empty());
    }
}

TEST_CASE("pictures are taken in under a free name and never replace another", "[store]") {
    make::Folder dir, from;
    const auto put = [&](const std::string& name, unsigned seed) {
        write_file(from / name, sheet::encode_png(make::tile(255, 8, make::Style::textured, seed)));
    };
    put("Ünsere Kacheln.png", 1);
    CHECK(adopt_picture(dir.path(), from / "Ünsere Kacheln.png") == "sheets/nsere-kacheln.png");
    CHECK(adopt_picture(dir.path(), from / "Ünsere Kacheln.png") == "sheets/nsere-kacheln.png"); // the same bytes serve
    put("Ünsere Kacheln.png", 2);
    CHECK(adopt_picture(dir.path(), from / "Ünsere Kacheln.png") == "sheets/nsere-kacheln-2.png");
    write_file(from / "bad.png", "nothing");
    CHECK_THROWS_AS(adopt_picture(dir.path(), from / "bad.png"), InputError);
    CHECK(make::contents(dir.path()).size() == 2);
}

TEST_CASE("names in no known encoding do not spoil a project", "[store]") {
    make::Folder dir;
    level::Project p;
    p.name = "Sal\xff\xfeine";
    create(p, dir / "new");
    const level::Project back = load(dir / "new");
    CHECK(back.name.find("Sal") == 0);
    CHECK(back.name.find("ine") != std::string::npos);
}

TEST_CASE("a new project needs room of its own", "[store]") {
    make::Folder dir;
    level::Project p;
    p.name = "New";
    create(p, dir / "new");
    CHECK(load(dir / "new").name == "New");
    CHECK_THROWS_AS(create(p, dir / "new"), InputError);
    write_file(dir / "file", "x");
    CHECK_THROWS_AS(create(p, dir / "file"), InputError);
    CHECK_THROWS_AS(load(dir / "nowhere"), InputError);
    CHECK_THROWS_AS(load(dir.path()), InputError);
}

TEST_CASE("shapes of every kind, blocks and frames are loaded as they were, blocks behind the lattice", "[store]") {
    make::Small small;
    level::Sheet sheet = *small.project.sheets[0];
    for (std::size_t i = 0; i < static_cast<std::size_t>(level::kTileShapes); ++i)
        sheet.tiles[i].shape = static_cast<level::TileShape>(i);
    level::Tile& drawn = sheet.tiles[static_cast<std::size_t>(level::TileShape::drawn)];
    drawn.polygons = {{{0, 4}, {16, 0}, {16, 16}}, {{0, 12}, {4, 16}, {0, 16}}};
    sheet.tiles[0].frames = {{1, 40}, {2, 60000}};
    sheet = sheet::add_block(sheet, {0, 0, 2, 2}, small.project.next_tile);
    std::rotate(sheet.tiles.begin(), sheet.tiles.end() - 1, sheet.tiles.end()); // as a hand might write it
    small.project.put(sheet);
    make::Folder dir;
    make::save_with_pictures(small.project, dir / "p");
    const auto loaded = store::load(dir / "p");
    std::rotate(sheet.tiles.begin(), sheet.tiles.begin() + 1, sheet.tiles.end());
    CHECK(loaded.sheets[0]->tiles == sheet.tiles);

    // What is no shape, no block, no frame is refused with its place.
    const std::string good = read_file(dir / "p/project.json");
    const auto refused = [&](const std::string& from, const std::string& to) {
        std::string text = good;
        const auto at = text.find(from);
        REQUIRE(at != std::string::npos);
        text.replace(at, from.size(), to);
        write_file(dir / "p/project.json", text);
        try {
            store::load(dir / "p");
            return std::string("taken");
        } catch (const InputError& e) {
            return e.what() + std::string(" ");
        }
    };
    CHECK(refused("[0,4],[16,0],[16,16]", "[0,4],[16,0],[8,2]").find("area") != std::string::npos);
    CHECK(refused("[0,4],[16,0],[16,16]", "[0,4],[17,0],[16,16]").find("polygons") != std::string::npos);
    CHECK(refused("[1,40]", "[1,5]").find("frames") != std::string::npos);
    CHECK(refused("\"cells\":[2,2]", "\"cells\":[1,1]").find("at least two") != std::string::npos);
    CHECK(refused("\"stands\":1", "\"stands\":2").find("stands") != std::string::npos);
    CHECK(refused("\"half-top\"", "\"half-way\"").find("shape") != std::string::npos);
}
