// The house has five floors: a folder includes its own floor and those below, and no folders include each other in a
// ring.
#include <catch2/catch.hpp>
#include <filesystem>
#include <functional>
#include <map>
#include <regex>
#include <set>

#include "base/files.hpp"

namespace fs = std::filesystem;

namespace {

const std::map<std::string, int> kFloors{
    {"base", 1},  {"level", 2},   {"sheet", 2},   {"join", 2},   {"outline", 2},  {"plan", 2}, {"kit", 2},
    {"scene", 3}, {"picture", 3}, {"store", 3},   {"parcel", 3}, {"findings", 3}, {"walk", 3}, {"plant", 3},
    {"edit", 4},  {"mass", 4},    {"upright", 4}, {"render", 4}, {"app", 5},      {"cli", 5},  {"player", 5}};

std::map<std::string, std::set<std::string>> uses() {
    std::map<std::string, std::set<std::string>> out;
    const std::regex include("#include \"([a-z_]+)/[^\"]+\"");
    for (const auto& entry : fs::recursive_directory_iterator(fs::path(SOURCE_DIR) / "src")) {
        if (entry.path().extension() != ".cpp" && entry.path().extension() != ".hpp") continue;
        const std::string folder = fs::relative(entry.path(), fs::path(SOURCE_DIR) / "src").begin()->string();
        const std::string text = vic::read_file(entry.path());
        for (std::sregex_iterator it(text.begin(), text.end(), include), end; it != end; ++it)
            if ((*it)[1] != folder) out[folder].insert((*it)[1]);
    }
    return out;
}

} // namespace

TEST_CASE("no folder uses one on a floor above", "[house]") {
    const auto all = uses();
    CHECK(all.size() >= 12);
    for (const auto& [folder, used] : all) {
        REQUIRE(kFloors.contains(folder));
        for (const std::string& other : used) {
            INFO(folder << " uses " << other);
            REQUIRE(kFloors.contains(other));
            CHECK(kFloors.at(other) <= kFloors.at(folder));
        }
    }
}

TEST_CASE("no folders use each other in a ring", "[house]") {
    const auto all = uses();
    std::map<std::string, int> state; // 1 on the way, 2 done
    std::function<void(const std::string&)> visit = [&](const std::string& folder) {
        state[folder] = 1;
        if (all.contains(folder))
            for (const std::string& other : all.at(folder)) {
                INFO(folder << " uses " << other);
                REQUIRE(state[other] != 1);
                if (state[other] == 0) visit(other);
            }
        state[folder] = 2;
    };
    for (const auto& [folder, used] : all)
        if (state[folder] == 0) visit(folder);
}

TEST_CASE("the core knows nothing of windows", "[house]") {
    const std::regex qt("#include <(Q[A-Z]|Qt)");
    for (const auto& entry : fs::recursive_directory_iterator(fs::path(SOURCE_DIR) / "src")) {
        const std::string folder = fs::relative(entry.path(), fs::path(SOURCE_DIR) / "src").begin()->string();
        if (!entry.is_regular_file() || folder == "app" || folder == "player") continue;
        INFO(entry.path());
        CHECK_FALSE(std::regex_search(vic::read_file(entry.path()), qt));
    }
    // The runtime stands alone.
    const std::string runtime = vic::read_file(fs::path(SOURCE_DIR) / "runtime/vicinum_level.hpp");
    CHECK(runtime.find("#include \"") == std::string::npos);
}

TEST_CASE("links in the documents lead somewhere, and pictures are few", "[house]") {
    const std::regex link("\\]\\(([^)#:]+)(#[^)]*)?\\)");
    int links = 0;
    std::vector<fs::path> documents{fs::path(SOURCE_DIR) / "README.md", fs::path(SOURCE_DIR) / "CONTRIBUTING.md"};
    for (const auto& entry : fs::recursive_directory_iterator(fs::path(SOURCE_DIR) / "docs"))
        if (entry.path().extension() == ".md") documents.push_back(entry.path());
    for (const fs::path& document : documents) {
        const std::string text = vic::read_file(document);
        for (std::sregex_iterator it(text.begin(), text.end(), link), end; it != end; ++it) {
            ++links;
            INFO(document << " links to " << (*it)[1]);
            CHECK(fs::exists(document.parent_path() / (*it)[1].str()));
        }
    }
    CHECK(links > 15);
    int pictures = 0;
    for (const auto& entry : fs::directory_iterator(fs::path(SOURCE_DIR) / "docs/screenshots"))
        pictures += entry.path().extension() == ".png";
    CHECK(pictures >= 8);
    CHECK(pictures < 20);
}
