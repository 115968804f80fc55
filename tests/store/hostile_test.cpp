// Projects as they may come from strangers: they are looked at, and nothing outside them is touched.
#include <sys/stat.h>

#include <catch2/catch.hpp>

#include "base/error.hpp"
#include "base/files.hpp"
#include "edit/stroke.hpp"
#include "level/standing.hpp"
#include "store/project_files.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::store;

namespace {

// A saved project beside a folder of the user's with one file in it.
struct Stranger {
    make::Folder dir;
    make::Small small = make::rich(3);
    fs::path project = dir / "project";
    fs::path home = dir / "home";
    Stranger() {
        make::save_with_pictures(small.project, project);
        fs::create_directories(home / "pending");
        write_file(home / "mine.txt", "precious");
        write_file(home / "pending/mine.txt", "precious");
    }
    ~Stranger() { // whatever was tried
        CHECK(read_file(home / "mine.txt") == "precious");
        CHECK(read_file(home / "pending/mine.txt") == "precious");
        CHECK(make::contents(home).size() == 2);
    }
    Stranger(const Stranger&) = delete;
    Stranger& operator=(const Stranger&) = delete;
    void damage_cells() const {
        std::string text = read_file(project / "levels/place.cells");
        text.insert(text.find("layer ") + 9, "0 0 what\n");
        write_file(project / "levels/place.cells", text);
    }
};

} // namespace

TEST_CASE("a link in the place of the work folder is refused, by reading and by saving", "[hostile]") {
    const Stranger s;
    fs::create_directory_symlink(s.home, s.project / ".vicinum");
    CHECK_THROWS_WITH(load(s.project), Catch::Contains("link"));
    CHECK_THROWS_WITH(save(s.small.project, s.project), Catch::Contains("link"));
    CHECK(kept_states(s.project).empty());
    CHECK_THROWS_AS(keep_state(s.small.project, s.project, "Name", 1), InputError);
    CHECK_THROWS_AS(forget_kept(s.project, "pending"), InputError);
}

TEST_CASE("links in the places of folders and of temporary names lead nowhere", "[hostile]") {
    SECTION("the damaged file that is kept aside") {
        const Stranger s;
        s.damage_cells();
        fs::create_symlink(s.home / "mine.txt", s.project / "levels/place.cells.damaged");
        fs::create_symlink(s.home / "mine.txt", s.project / "levels/place.cells.damaged.part");
        fs::create_symlink(s.home / "mine.txt", s.project / "levels/place.cells.damaged-2.part");
        std::vector<Damage> damages;
        CHECK_NOTHROW(load(s.project, &damages));
        REQUIRE_FALSE(damages.empty());
        CHECK(damages[0].aside.ends_with(".damaged-2"));
    }
    SECTION("a picture that is taken in") {
        const Stranger s;
        const fs::path picture = s.dir / "new.png";
        write_file(picture, read_file(s.project / "sheets/full.png"));
        fs::create_symlink(s.home / "mine.txt", s.project / "sheets/new.png.part");
        fs::create_symlink(s.home / "nothing.txt", s.project / "sheets/new.png");
        CHECK(adopt_picture(s.project, picture) == "sheets/new-2.png");
    }
    for (const char* folder : {"sheets", "levels"}) {
        const Stranger s;
        fs::rename(s.project / folder, s.dir / "moved");
        fs::create_directory_symlink(s.home, s.project / folder);
        INFO(folder);
        CHECK_THROWS_WITH(load(s.project), Catch::Contains("link"));
        CHECK_THROWS_AS(adopt_picture(s.project, s.dir / "moved/full.png"), InputError);
        level::Project changed = s.small.project;
        changed.name = "Other";
        if (std::string(folder) == "levels") CHECK_THROWS_WITH(save(changed, s.project), Catch::Contains("link"));
    }
    SECTION("a link among the files of a save") {
        const Stranger s;
        fs::create_directories(s.project / ".vicinum/commit/sheets");
        fs::create_symlink(s.home / "mine.txt", s.project / ".vicinum/commit/project.json");
        CHECK_THROWS_WITH(load(s.project), Catch::Contains("link"));
        CHECK_THROWS_WITH(save(s.small.project, s.project), Catch::Contains("link"));
    }
}

TEST_CASE("a pipe in the place of any file of a project is refused", "[hostile]") {
    for (const char* file : {"project.json", "levels/place.json", "levels/place.cells"}) {
        const Stranger s;
        fs::remove(s.project / file);
        REQUIRE(::mkfifo((s.project / file).c_str(), 0600) == 0);
        INFO(file);
        CHECK_THROWS_WITH(load(s.project), Catch::Contains("pipe"));
    }
    const Stranger s; // a picture that cannot be read leaves the project open
    fs::remove(s.project / "sheets/full.png");
    REQUIRE(::mkfifo((s.project / "sheets/full.png").c_str(), 0600) == 0);
    CHECK_FALSE(load(s.project).sheets[0]->trouble.empty());
}

TEST_CASE("reading changes nothing, and reads what a save that was cut short had completed", "[store]") {
    const Stranger s;
    level::Project next = s.small.project;
    next.name = "The new one";
    // As a save is when it is killed after the renaming that decides.
    fs::create_directories(s.project / ".vicinum/commit");
    for (const auto& [name, text] : texts(next, &s.small.project)) {
        fs::create_directories((s.project / ".vicinum/commit" / name).parent_path());
        write_file(s.project / ".vicinum/commit" / name, text);
    }
    fs::create_directories(s.project / ".vicinum/pending");
    write_file(s.project / ".vicinum/pending/project.json", "what another program is writing");
    const auto before = make::contents(s.project);
    CHECK(load(s.project).name == "The new one");
    CHECK(make::contents(s.project) == before);
    next.name = "A newer one";
    save(next, s.project);
    CHECK(load(s.project).name == "A newer one");
    CHECK_FALSE(fs::exists(s.project / ".vicinum/commit"));
}

TEST_CASE("what could not be read again is not saved, and the disk stays as it is", "[store]") {
    const Stranger s;
    const auto before = make::contents(s.project);
    level::Level level = s.small.level();
    level.edit(s.small.front).name = std::string(4500, 'x');
    level::Project next = s.small.project;
    next.put(level);
    CHECK_THROWS_AS(save(next, s.project, &s.small.project), InputError);
    CHECK(make::contents(s.project) == before);
    level.edit(s.small.front).name = "Front";
    std::string class_name;
    for (int i = 0; i < 64; ++i) class_name += "ä"; // as many letters as a field takes
    level.edit(s.small.ground).collision_class = class_name;
    next.put(level);
    save(next, s.project, &s.small.project);
    CHECK(load(s.project).level(s.small.id)->layer(s.small.ground)->collision_class == class_name);
}

TEST_CASE("a tile without an area is refused", "[hostile]") {
    const Stranger s;
    std::string text = read_file(s.project / "project.json");
    const std::string box = "\"box\":[0,0,16,16]";
    REQUIRE(text.find(box) != std::string::npos);
    text.replace(text.find(box), box.size(), "\"box\":[0,0,0,16]");
    write_file(s.project / "project.json", text);
    CHECK_THROWS_WITH(load(s.project), Catch::Contains("empty"));
}

TEST_CASE("ensembles from strangers that hold themselves, or a layer of too many pictures, are refused", "[hostile]") {
    make::Small small;
    level::PropKind many;
    many.id = small.project.next_id++;
    many.name = "Many";
    for (level::PartId i = 1; i <= 64; ++i) many.parts.push_back({i, small.prop, {}});
    level::PropKind more = many;
    more.id = small.project.next_id++;
    more.name = "More";
    for (level::EnsemblePart& part : more.parts) part.kind = many.id;
    small.project.put(many);
    small.project.put(more);
    level::fit_ensembles(small.project);
    level::Level level = small.level();
    for (int i = 0; i < 1024; ++i) // 4,096 pictures each
        level.edit(small.props).props().put({small.project.next_id++, more.id, {i, i}});
    small.set(level);
    make::Folder dir;
    make::save_with_pictures(small.project, dir / "p");
    CHECK(load(dir / "p").prop_kind(more.id)->parts.size() == 64);
    const fs::path file = dir / "p/levels" / (small.id + ".json");
    std::string text = read_file(file);
    const std::string one = "{\"id\":" + std::to_string(small.project.next_id - 1);
    REQUIRE(text.find(one) != std::string::npos);
    text.insert(text.find(one), "{\"id\":900000,\"kind\":" + std::to_string(more.id) + ",\"at\":[1,1]},");
    write_file(file, text);
    CHECK_THROWS_WITH(load(dir / "p"), Catch::Contains("pictures of props"));
    // And one that holds itself.
    const fs::path project = dir / "p/project.json";
    text = read_file(project);
    const std::string of = "\"kind\":" + std::to_string(many.id);
    REQUIRE(text.find(of) != std::string::npos);
    text.replace(text.find(of), of.size(), "\"kind\":" + std::to_string(more.id));
    write_file(project, text);
    CHECK_THROWS_WITH(load(dir / "p"), Catch::Contains("holds itself"));
}
