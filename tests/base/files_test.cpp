#include <sys/stat.h>

#include <catch2/catch.hpp>
#include <fstream>

#include "base/files.hpp"
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
    fs::create_directory(dir / "a.part"); // in the way of the temporary name
    CHECK_THROWS_AS(write_file(dir / "a", "new"), InputError);
    CHECK(read_file(dir / "a") == "old");
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

TEST_CASE("paths stay inside the project", "[files]") {
    make::Folder dir;
    fs::create_directories(dir / "project/sheets");
    write_file(dir / "secret.png", "x");
    fs::create_symlink(dir / "secret.png", dir / "project/sheets/link.png");
    fs::create_directory_symlink(dir.path(), dir / "project/out");
    fs::create_symlink("real.png", dir / "project/sheets/within.png");
    const fs::path root = dir / "project";
    for (const char* bad :
         {"", "..", "../secret.png", "sheets/../../secret.png", "/etc/passwd", "sheets/link.png", "out/secret.png"}) {
        INFO(bad);
        CHECK_THROWS_AS(inside(root, bad, "project.json", "sheets[0]"), InputError);
    }
    for (const char* good : {"sheets/a.png", "a", "sheets/within.png", "sheets/not/yet/there.png", "..a/b"}) {
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
