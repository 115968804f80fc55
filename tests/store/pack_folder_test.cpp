// Folders of art from elsewhere, and what their texts say.
#include "store/pack_folder.hpp"

#include <sys/stat.h>
#include <catch2/catch.hpp>

#include "base/error.hpp"
#include "sheet/png.hpp"
#include "support/make.hpp"

using namespace vic;

namespace {

void put(const fs::path& file, Size size) {
    fs::create_directories(file.parent_path());
    write_file(file, sheet::encode_png(Image(size, {90, 80, 70, 255})));
}

} // namespace

TEST_CASE("a pack is all pictures in its folders, with the sizes in their heads", "[pack-folder]") {
    make::Folder folder;
    put(folder / "Marsh/ground.png", {64, 32});
    put(folder / "Marsh/props/post.png", {16, 40});
    put(folder / "Marsh/props/barrel.PNG", {24, 24});
    put(folder / "Marsh/.hidden/no.png", {8, 8});
    write_file(folder / "Marsh/props/broken.png", "\x89PNG\r\n\x1a\n and then nothing");
    write_file(folder / "Marsh/notes.json", "{}");
    fs::create_symlink(folder / "Marsh/ground.png", folder / "Marsh/link.png");
    fs::create_directory_symlink(folder.path(), folder / "Marsh/round");
    REQUIRE(::mkfifo((folder / "Marsh/pipe.png").c_str(), 0600) == 0);
    const store::PackFolder pack = store::read_pack(folder / "Marsh");
    CHECK(pack.name == "Marsh");
    CHECK(pack.has_folders());
    CHECK_FALSE(pack.more);
    REQUIRE(pack.pictures.size() == 3);
    CHECK(pack.pictures[0].name == "ground");
    CHECK(pack.pictures[0].size == Size{64, 32});
    CHECK(pack.pictures[1].folder == "props");
    CHECK(pack.pictures[1].name == "barrel");
    CHECK(pack.pictures[2].size == Size{16, 40});
    CHECK_THROWS_AS(store::read_pack(folder / "nowhere"), InputError);
}

TEST_CASE("the text nearest to a picture says whose it is", "[pack-folder]") {
    make::Folder folder;
    put(folder / "p/a.png", {8, 8});
    put(folder / "p/b/b.png", {8, 8});
    write_file(folder / "p/License.txt", "Art by Ida Sund (c) 2019\nLicence: CC-BY 4.0\nhttps://example.org/marsh\n");
    write_file(folder / "p/b/README.md", "# Boats\n\nAuthor: Olaf\n");
    const store::PackFolder pack = store::read_pack(folder / "p");
    REQUIRE(pack.pictures.size() == 2);
    CHECK(pack.pictures[0].credits.author == "Ida Sund");
    CHECK(pack.pictures[0].credits.licence == "CC BY 4.0");
    CHECK(pack.pictures[0].credits.source == "https://example.org/marsh");
    CHECK(pack.pictures[1].credits.author == "Olaf");
    CHECK(pack.pictures[1].credits.licence == "CC BY 4.0"); // of the folder around it
}

TEST_CASE("licences are told by their names", "[pack-folder]") {
    const std::pair<const char*, const char*> texts[] = {
        {"Released as CC0 1.0 Universal", "CC0 1.0"},
        {"Creative Commons Attribution-ShareAlike 3.0 Unported", "CC BY-SA 3.0"},
        {"License: CC-BY-SA", "CC BY-SA"},
        {"This is in the public domain.", "Public domain"},
        {"GNU General Public License version 2.0 or later", "GPL 2.0"},
        {"The MIT License\n\nCopyright (c) 2020 Nobody", "MIT"},
        {"You may not use this at all", ""},
    };
    for (const auto& [text, licence] : texts) {
        INFO(text);
        CHECK(store::credits_in(text).licence == licence);
    }
    CHECK(store::credits_in("Copyright (c) 2004-2008 Jan Brak <jan@example.org>").author == "Jan Brak");
    CHECK(store::credits_in("see https://creativecommons.org/licenses/by/4.0/ and http://art.example/x").source ==
          "http://art.example/x");
    // Whatever is in the file, it is read in no time.
    make::Random random(4);
    for (int i = 0; i < 200; ++i) {
        std::string noise(static_cast<std::size_t>(random.below(4000)), ' ');
        for (char& c : noise) c = static_cast<char>(random.below(3) == 0 ? random.below(256) : ' ');
        const level::Credits credits = store::credits_in("author" + noise);
        CHECK(credits.author.size() <= 80);
        CHECK(credits.source.size() <= 200);
    }
}

TEST_CASE("a pack of more than can be taken says so", "[pack-folder]") {
    make::Folder folder;
    fs::path deep = folder / "p";
    for (int i = 0; i < store::kMostPackDepth + 3; ++i) {
        put(deep / "a.png", {8, 8});
        deep /= "in";
    }
    const store::PackFolder pack = store::read_pack(folder / "p");
    CHECK(pack.more);
    CHECK(pack.pictures.size() == store::kMostPackDepth + 1U);
}
