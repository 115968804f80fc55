// What the fuzzer begins with and what it once tripped over is read again: see docs/architecture.md.
#include <catch2/catch.hpp>
#include <filesystem>

#include "base/files.hpp"
#include "fuzz/targets.hpp"

TEST_CASE("files from anywhere are read or refused", "[fuzz]") {
    for (const std::string& target : fuzz::targets()) {
        INFO(target);
        CHECK(fuzz::read(target, fuzz::seed(target)));
        const std::filesystem::path dir = std::filesystem::path(FUZZ_CORPUS) / target;
        int files = 0;
        for (const auto& file : std::filesystem::directory_iterator(dir)) {
            INFO(file.path().string());
            static_cast<void>(fuzz::read(target, vic::read_file(file.path())));
            ++files;
        }
        CHECK(files > 0);
    }
}
