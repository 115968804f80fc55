// The application is a house of rooms: what each may look into, how large its files and functions are, and that its
// headers carry little.
#include <algorithm>
#include <catch2/catch.hpp>
#include <filesystem>
#include <map>
#include <regex>
#include <set>
#include <sstream>

#include "base/files.hpp"

namespace fs = std::filesystem;

namespace {

// A room may use those of lower rank, and those of its own rank only where it is named: rooms of stages do not know
// one another.
const std::map<std::string, int> kRooms{{"parts", 1},     {"session", 2},  {"gesture", 3}, {"view", 4},  {"sheet", 4},
                                        {"solid", 5},     {"commands", 5}, {"section", 6}, {"tray", 6},  {"cut", 7},
                                        {"join", 7},      {"lay", 7},      {"dress", 7},   {"bound", 7}, {"walk", 7},
                                        {"hand_over", 7}, {"shell", 8}};
constexpr int kMostLines = 500;
constexpr int kMostFunction = 80;
constexpr int kMostCoreHeaders = 10;

struct Source {
    std::string room, name, text;
    [[nodiscard]] bool header() const { return name.ends_with(".hpp"); }
};

std::vector<Source> sources() {
    std::vector<Source> out;
    for (const auto& entry : fs::recursive_directory_iterator(fs::path(SOURCE_DIR) / "src/app")) {
        const auto ending = entry.path().extension();
        if (ending != ".cpp" && ending != ".hpp") continue;
        const fs::path place = fs::relative(entry.path(), fs::path(SOURCE_DIR) / "src/app");
        const std::string room = place.has_parent_path() ? place.begin()->string() : "";
        out.push_back({room, place.string(), vic::read_file(entry.path())});
    }
    std::sort(out.begin(), out.end(), [](const Source& a, const Source& b) { return a.name < b.name; });
    return out;
}

std::vector<std::string> lines_of(const std::string& text) {
    std::vector<std::string> out;
    std::istringstream in(text);
    for (std::string line; std::getline(in, line);) out.push_back(line);
    return out;
}

// The lines of each function, which clang-format lets begin and end at the same depth: those of classes' members and of
// free functions begin without an indent.
std::map<std::string, int> functions_of(const Source& source) {
    std::map<std::string, int> out;
    const std::vector<std::string> lines = lines_of(source.text);
    int from = -1;
    for (int i = 0; i < static_cast<int>(lines.size()); ++i) {
        const std::string& line = lines[static_cast<std::size_t>(i)];
        if (!line.empty() && line[0] != ' ' && line[0] != '}' && line[0] != '#' && line[0] != '/' &&
            line.rfind("namespace", 0) != 0 && from < 0)
            from = i;
        if (line.empty() && from >= 0 && from + 1 == i) from = -1;
        if (line == "}" || line == "};") {
            if (from >= 0) out[source.name + ": " + lines[static_cast<std::size_t>(from)]] = i - from + 1;
            from = -1;
        } else if (!line.empty() && line[0] != ' ' && line.back() == ';') {
            from = -1; // a declaration
        } else if (!line.empty() && line[0] != ' ' && line.back() == '}' && line.size() > 1) {
            from = -1; // on one line
        }
    }
    return out;
}

} // namespace

TEST_CASE("rooms of the application look only into those below them", "[house][rooms]") {
    const std::regex include("#include \"app/([a-z_]+)/[^\"]+\"");
    std::set<std::string> seen;
    for (const Source& source : sources()) {
        if (source.room.empty()) continue; // main.cpp, the door
        INFO(source.name);
        REQUIRE(kRooms.contains(source.room));
        seen.insert(source.room);
        for (std::sregex_iterator it(source.text.begin(), source.text.end(), include), end; it != end; ++it) {
            const std::string other = (*it)[1];
            INFO("looks into " << other);
            REQUIRE(kRooms.contains(other));
            CHECK((other == source.room || kRooms.at(other) < kRooms.at(source.room)));
        }
    }
    for (const auto& [room, rank] : kRooms) {
        INFO(room << " is empty");
        CHECK(seen.contains(room));
    }
}

TEST_CASE("headers of the application carry little", "[house][rooms]") {
    const std::regex core("#include \"(?!app/)[a-z_]+/[^\"]+\"");
    for (const Source& source : sources()) {
        if (!source.header()) continue;
        const auto count = std::distance(std::sregex_iterator(source.text.begin(), source.text.end(), core), {});
        INFO(source.name << " includes " << count << " headers of the core");
        CHECK(count < kMostCoreHeaders);
    }
}

TEST_CASE("no file of the application is long, and no function", "[house][rooms]") {
    int functions = 0;
    for (const Source& source : sources()) {
        const auto lines = lines_of(source.text).size();
        INFO(source.name << " has " << lines << " lines");
        CHECK(lines <= kMostLines);
        if (source.header()) continue;
        for (const auto& [name, length] : functions_of(source)) {
            ++functions;
            INFO(name << " has " << length << " lines");
            CHECK(length <= kMostFunction);
        }
    }
    CHECK(functions > 400); // they are found at all
}

TEST_CASE("what runs in the background runs in one place", "[house][rooms]") {
    const std::regex loose("std::(thread|jthread|async)\\b|\\.detach\\(\\)|QtConcurrent");
    for (const auto& entry : fs::recursive_directory_iterator(fs::path(SOURCE_DIR) / "src")) {
        const auto ending = entry.path().extension();
        if (ending != ".cpp" && ending != ".hpp") continue;
        INFO(entry.path());
        CHECK_FALSE(std::regex_search(vic::read_file(entry.path()), loose));
    }
}
