// The fuzzer: libFuzzer's main with the target that VICINUM_FUZZ names. tools/fuzz runs it.
#include <cstdint>
#include <cstdlib>
#include <cstring>
#include <filesystem>
#include <nlohmann/json.hpp>
#include <random>
#include <string>
#include <vector>

#include "base/files.hpp"
#include "fuzz/targets.hpp"

extern "C" std::size_t LLVMFuzzerMutate(std::uint8_t* data, std::size_t size, std::size_t most);

namespace {

using Json = nlohmann::ordered_json;

const std::string& target() {
    static const std::string name = [] {
        const char* given = std::getenv("VICINUM_FUZZ");
        return std::string(given ? given : "project");
    }();
    return name;
}

void gather(Json& at, std::vector<Json*>& all) {
    all.push_back(&at);
    if (at.is_structured())
        for (Json& child : at) gather(child, all);
}

// What readers trip over: ends of ranges, other kinds of values, twice the same, nothing.
Json odd(std::mt19937& random) {
    static const std::vector<Json> values{0,
                                          -1,
                                          1,
                                          2,
                                          255,
                                          256,
                                          32767,
                                          65535,
                                          65536,
                                          INT32_MAX,
                                          INT32_MIN,
                                          UINT32_MAX,
                                          INT64_MAX,
                                          INT64_MIN,
                                          UINT64_MAX,
                                          0.5,
                                          -0.0,
                                          1e-300,
                                          1e300,
                                          "",
                                          "..",
                                          "a/../../b",
                                          "x\n",
                                          nullptr,
                                          true,
                                          false,
                                          Json::array(),
                                          Json::object(),
                                          Json::array({0, 0}),
                                          Json::array({1, 1, 1, 1})};
    return values[random() % values.size()];
}

void change(Json& json, std::mt19937& random) {
    std::vector<Json*> all;
    gather(json, all);
    Json& at = *all[random() % all.size()];
    Json& other = *all[random() % all.size()];
    switch (random() % 7) {
        case 0:
            at = odd(random);
            break;
        case 1:
            at = Json(other);
            break; // what stands elsewhere
        case 2:
            if (at.is_structured() && !at.empty()) at.erase(std::next(at.begin(), long(random() % at.size())));
            break;
        case 3:
            if (at.is_array() && !at.empty()) at.push_back(Json(at[random() % at.size()]));
            break;
        case 4:
            if (at.is_number_integer()) at = at.get<std::uint64_t>() + (random() % 2 != 0 ? 1U : ~std::uint64_t{0});
            break;
        case 5:
            if (at.is_number_integer())
                at = random() % 2 != 0 ? at.get<std::int64_t>() / 2 : -(at.get<std::int64_t>() / 2);
            break;
        case 6:
            if (at.is_array() && at.size() > 1) std::swap(at[random() % at.size()], at[random() % at.size()]);
            break;
    }
}

} // namespace

// Where VICINUM_SEEDS names a folder, what the fuzzer begins with is written there and nothing else done: for when a
// format has changed. Of projects, levels and cells the demo's own files are the seeds.
extern "C" int LLVMFuzzerInitialize(int*, char***) {
    const char* to = std::getenv("VICINUM_SEEDS");
    if (!to) return 0;
    for (const char* name : {"journal", "parcel", "plan", "script", "sheet"}) {
        const std::filesystem::path dir = std::filesystem::path(to) / name;
        std::filesystem::create_directories(dir);
        vic::write_file(dir / "seed", fuzz::seed(name));
    }
    std::exit(0);
}

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    fuzz::read(target(), std::string(reinterpret_cast<const char*>(data), size));
    return 0;
}

// Every other time what stands in JSON is changed as JSON: few changes of bytes leave anything that is read further.
extern "C" std::size_t LLVMFuzzerCustomMutator(std::uint8_t* data, std::size_t size, std::size_t most, unsigned seed) {
    std::mt19937 random(seed);
    const std::string text(reinterpret_cast<const char*>(data), size);
    const std::size_t from = target() == "journal" ? text.rfind("\n---\n") : std::string::npos;
    const std::size_t begin = from == std::string::npos ? 0 : from + 5;
    if (size < begin + 2 || text[begin] != '{' || random() % 2 == 0) return LLVMFuzzerMutate(data, size, most);
    Json json = Json::parse(text.substr(begin), nullptr, false);
    if (json.is_discarded()) return LLVMFuzzerMutate(data, size, most);
    for (unsigned i = random() % 3 + 1; i > 0; --i) change(json, random);
    const std::string out = text.substr(0, begin) + json.dump(-1, ' ', false, Json::error_handler_t::replace);
    if (out.size() > most) return LLVMFuzzerMutate(data, size, most);
    std::memcpy(data, out.data(), out.size());
    return out.size();
}
