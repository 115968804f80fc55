#include "base/files.hpp"

#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

#include <catch2/catch.hpp>
#include <chrono>
#include <csignal>
#include <fstream>
#include <future>

#include "base/error.hpp"
#include "base/lock.hpp"
#include "support/make.hpp"

using namespace vic;

TEST_CASE("a file is written whole and read back", "[files]") {
    make::Folder dir;
    std::string bytes;
    for (int i = 0; i < 100000; ++i) bytes += static_cast<char>(i * 31);
    write_file(dir / "a.bin", bytes);
    CHECK(read_file(dir / "a.bin") == bytes);
    write_file(dir / "a.bin", "short");
    CHECK(read_file(dir / "a.bin") == "short");
    CHECK(make::contents(dir.path()).size() == 1); // nothing temporary is left
}

TEST_CASE("what cannot be written leaves the old file", "[files]") {
    make::Folder dir;
    write_file(dir / "a", "old");
    fs::create_directories(dir / "b/in the way");
    CHECK_THROWS_AS(write_file(dir / "b", "new"), InputError);
    CHECK_THROWS_AS(write_file(dir / "nowhere/a", "new"), InputError);
    CHECK(read_file(dir / "a") == "old");
    CHECK(make::contents(dir.path()).size() == 1); // nothing temporary is left
}

TEST_CASE("reading says what is wrong and where", "[files]") {
    make::Folder dir;
    write_file(dir / "big", std::string(1000, 'x'));
    for (const auto& [file, limit] : {std::pair{dir / "none", 10000}, {dir.path(), 10000}, {dir / "big", 999}}) {
        try {
            read_file(file, static_cast<std::uintmax_t>(limit));
            FAIL("read " << file);
        } catch (const InputError& e) {
            CHECK(e.file == file.string());
            CHECK_FALSE(e.problem.empty());
            CHECK_FALSE(e.remedy.empty());
        }
    }
    CHECK(read_file(dir / "big", 1000).size() == 1000);
}

TEST_CASE("writing replaces a link and never goes through one", "[files]") {
    make::Folder dir;
    write_file(dir / "mine", "precious");
    fs::create_symlink(dir / "mine", dir / "a");
    fs::create_symlink(dir / "mine", dir / "a.part");
    write_file(dir / "a", "new");
    CHECK(read_file(dir / "mine") == "precious");
    CHECK(read_file(dir / "a") == "new");
    CHECK_FALSE(fs::is_symlink(dir / "a"));
}

TEST_CASE("a pipe or a device in the place of a file is refused and not waited for", "[files]") {
    make::Folder dir;
    REQUIRE(::mkfifo((dir / "pipe").c_str(), 0600) == 0);
    for (const fs::path& file : {dir / "pipe", fs::path("/dev/zero")}) {
        try {
            read_file(file);
            FAIL("read " << file);
        } catch (const InputError& e) {
            CHECK(e.problem.english().find("pipe") != std::string::npos);
            CHECK(e.file == file.string());
        }
    }
}

TEST_CASE("a folder that is written in is neither read nor written by others", "[files]") {
    using namespace std::chrono_literals;
    using For = FolderLock::For;
    make::Folder dir;
    const auto elsewhere = [&](For what) { // another thread stands for another program
        return std::async(std::launch::async,
                          [&] {
                              try {
                                  const FolderLock lock(dir.path(), what, 30ms);
                                  return true;
                              } catch (const InputError&) {
                                  return false;
                              }
                          })
            .get();
    };
    {
        const FolderLock writing(dir.path(), For::writing);
        const FolderLock again(dir.path(), For::writing, 0ms); // one's own is no hindrance
        const FolderLock reading(dir.path(), For::reading, 0ms);
        CHECK_FALSE(elsewhere(For::reading));
        CHECK_FALSE(elsewhere(For::writing));
    }
    {
        const FolderLock reading(dir.path(), For::reading);
        CHECK(elsewhere(For::reading));
        CHECK_FALSE(elsewhere(For::writing));
    }
    CHECK(elsewhere(For::writing));
    // Between programs, too: a child holds it until it is killed.
    int ready[2];
    REQUIRE(::pipe(ready) == 0);
    const pid_t child = ::fork();
    if (child == 0) {
        const FolderLock lock(dir.path(), For::writing);
        if (::write(ready[1], "x", 1) != 1) ::_exit(1);
        for (;;) ::pause();
    }
    char got = 0;
    REQUIRE(::read(ready[0], &got, 1) == 1);
    CHECK_FALSE(elsewhere(For::reading));
    ::kill(child, SIGKILL);
    ::waitpid(child, nullptr, 0);
    CHECK(elsewhere(For::writing));
    ::close(ready[0]);
    ::close(ready[1]);
    CHECK_NOTHROW(FolderLock(dir / "nowhere", For::writing, 0ms));
}

TEST_CASE("what killed writers left is removed, and nothing else", "[files]") {
    const make::Folder dir;
    const auto old = fs::file_time_type::clock::now() - std::chrono::hours(2);
    const auto put = [&](const std::string& name, bool aged) {
        write_file(dir / name, "x");
        if (aged) fs::last_write_time(dir / name, old);
    };
    put("dyke.png.0123456789abcdef.part", true);
    put("sluice.png.0123456789abcdef.part", false); // may be being written
    put("drawing.part", true);
    put("a.0123456789abcdeg.part", true);
    fs::create_directory(dir / "b.0123456789abcdef.part");
    fs::create_symlink("drawing.part", dir / "c.0123456789abcdef.part");
    remove_left_parts(dir.path());
    remove_left_parts(dir / "nowhere");
    CHECK_FALSE(fs::exists(dir / "dyke.png.0123456789abcdef.part"));
    for (const char* name : {"sluice.png.0123456789abcdef.part", "drawing.part", "a.0123456789abcdeg.part",
                             "b.0123456789abcdef.part", "c.0123456789abcdef.part"})
        CHECK(fs::exists(dir / name));
}

TEST_CASE("paths stay inside the project", "[files]") {
    make::Folder dir;
    fs::create_directories(dir / "project/sheets");
    write_file(dir / "secret.png", "x");
    fs::create_symlink(dir / "secret.png", dir / "project/sheets/link.png");
    fs::create_directory_symlink(dir.path(), dir / "project/out");
    fs::create_symlink("real.png", dir / "project/sheets/within.png");
    const fs::path root = dir / "project";
    for (const char* bad : {"", "..", "../secret.png", "sheets/../../secret.png", "/etc/passwd", "sheets/link.png",
                            "out/secret.png", "sheets/within.png", "out/not/yet/there"}) {
        INFO(bad);
        CHECK_THROWS_AS(inside(root, bad, "project.json", "sheets[0]"), InputError);
    }
    for (const char* good : {"sheets/a.png", "a", "sheets/not/yet/there.png", "..a/b"}) {
        INFO(good);
        CHECK(inside(root, good, "project.json", "") == root / good);
    }
}

TEST_CASE("slugs are safe names", "[files]") {
    CHECK(slug("Brine Pans", "x") == "brine-pans");
    CHECK(slug("  --Upper  Pans (2)!", "x") == "upper-pans-2");
    CHECK(slug("Köln/../etc", "x") == "k-ln-etc");
    CHECK(slug("///", "level") == "level");
    CHECK(slug(std::string(500, 'a'), "x").size() <= 48);
}

TEST_CASE("an error reads as a sentence", "[files]") {
    const InputError e("The picture is damaged", "a.png", "byte 12", "Export it again");
    CHECK(std::string(e.what()) == "The picture is damaged (a.png, byte 12). Export it again");
    CHECK(std::string(InputError("It broke", "", "", "").what()) == "It broke");
}
