// What is written for engines that load a level alone, by the validator of those who keep the format.
#include <catch2/catch.hpp>
#include <cstdlib>
#include <nlohmann/json.hpp>

#include "base/files.hpp"
#include "support/make.hpp"

namespace fs = std::filesystem;

namespace {

const fs::path kLevels = fs::path(SOURCE_DIR) / "demo/pump-house";

// Where tools/setup puts it.
fs::path validator() {
    const char* const cache = std::getenv("XDG_CACHE_HOME");
    const char* const home = std::getenv("HOME");
    return (cache && *cache ? fs::path(cache) : fs::path(home ? home : "") / ".cache") / "vicinum/gltf-validator";
}

} // namespace

TEST_CASE("levels of pieces are valid glTF without a word", "[glb]") {
    if (!fs::exists(validator() / "gltf_validator.dart.js")) {
        WARN("The validator is not there (tools/setup fetches it): what is written was not validated");
        return;
    }
    make::Folder dir;
    for (const std::string level : {"pump-house", "salt-maze", "reed-bank"}) {
        const fs::path file = dir / (level + ".glb"), report = dir / (level + ".json");
        REQUIRE(std::system((std::string(CLI) + " bodies " + kLevels.string() + " --level " + level + " -o " +
                             file.string() + " > /dev/null")
                                .c_str()) == 0);
        REQUIRE(std::system(("node " + std::string(SOURCE_DIR) + "/tests/house/validate.js " + validator().string() +
                             " " + file.string() + " > " + report.string())
                                .c_str()) == 0);
        const auto told = nlohmann::json::parse(vic::read_file(report));
        INFO(told.at("issues").dump(2));
        for (const char* const kind : {"numErrors", "numWarnings", "numInfos", "numHints"})
            CHECK(told.at("issues").at(kind) == 0);
        CHECK(told.at("info").at("totalTriangleCount") > 50);
        CHECK(told.at("info").at("extensionsUsed") == nlohmann::json{"KHR_lights_punctual"});
    }
}
