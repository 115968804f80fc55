// What ships with the program: the demo project, its schemas, the example.
#include <catch2/catch.hpp>
#include <cstdio>
#include <nlohmann/json.hpp>
#include <valijson/adapters/nlohmann_json_adapter.hpp>
#include <valijson/schema.hpp>
#include <valijson/schema_parser.hpp>
#include <valijson/validator.hpp>

#include "base/files.hpp"
#include "findings/check.hpp"
#include "parcel/build.hpp"
#include "store/journal.hpp"
#include "store/project_files.hpp"
#include "support/make.hpp"
#include "vicinum_level.hpp"
#include "walk/world.hpp"

namespace fs = std::filesystem;
using Json = nlohmann::json;

namespace {

const fs::path kDemo = fs::path(SOURCE_DIR) / "demo/pell-saltern";
const fs::path kHouses = fs::path(SOURCE_DIR) / "demo/pump-house";

// What is wrong with a document by a schema of docs/formats; empty if nothing is.
std::string faults(const Json& document, const std::string& schema_name) {
    const Json text = Json::parse(vic::read_file(fs::path(SOURCE_DIR) / "docs/formats" / schema_name));
    valijson::Schema schema;
    valijson::SchemaParser parser;
    parser.populateSchema(valijson::adapters::NlohmannJsonAdapter(text), schema);
    valijson::Validator validator;
    valijson::ValidationResults results;
    if (validator.validate(schema, valijson::adapters::NlohmannJsonAdapter(document), &results)) return {};
    std::string out;
    valijson::ValidationResults::Error error;
    while (results.popError(error)) {
        for (const auto& part : error.context) out += part;
        out += ": " + error.description + "\n";
    }
    return out.empty() ? "refused" : out;
}

Json read(const fs::path& file) { return Json::parse(vic::read_file(file)); }

struct Built {
    make::Folder dir;
    vic::level::Project project = vic::store::load(kDemo);
    fs::path level(const std::string& id) {
        vic::parcel::build(project, *project.level(id), dir / id);
        return dir / id;
    }
};

} // namespace

TEST_CASE("the demo is what its program draws", "[demo]") {
    for (const auto& [what, project] : {std::pair{"", kDemo}, std::pair{" houses", kHouses}}) {
        make::Folder dir;
        REQUIRE(std::system((std::string(DRAW) + " " + dir.path().string() + what).c_str()) == 0);
        const auto drawn = make::contents(dir.path());
        const auto kept = make::contents(project);
        CHECK(drawn.size() == kept.size());
        for (const auto& [name, bytes] : drawn) {
            INFO(name << ": run build/…/draw-pell-saltern " << project << what << " and look at what changed");
            REQUIRE(kept.contains(name));
            CHECK(kept.at(name) == bytes);
        }
    }
}

TEST_CASE("shipped files are as their schemas say", "[schema]") {
    CHECK(faults(read(kDemo / "project.json"), "project.schema.json") == "");
    for (const char* id : {"brine-pans", "pump-cellar"}) {
        CHECK(faults(read(kDemo / "levels" / (std::string(id) + ".json")), "level.schema.json") == "");
        Built built;
        CHECK(faults(read(built.level(id) / "level.json"), "parcel.schema.json") == "");
    }
}

TEST_CASE("what has something of everything is as the schemas say", "[schema]") {
    make::Folder dir;
    const make::Small small = make::rich(3);
    make::save_with_pictures(small.project, dir.path());
    CHECK(faults(read(dir / "project.json"), "project.schema.json") == "");
    CHECK(faults(read(dir / "levels" / (small.id + ".json")), "level.schema.json") == "");
    vic::parcel::build(small.project, small.level(), dir / "built");
    CHECK(faults(read(dir / "built" / "level.json"), "parcel.schema.json") == "");
    Json wrong = read(dir / "levels" / (small.id + ".json"));
    wrong["sides"][1]["kind"] = "burns";
    CHECK_FALSE(faults(wrong, "level.schema.json").empty());
}

TEST_CASE("the schemas refuse what the program refuses", "[schema]") {
    Built built;
    const Json parcel = read(built.level("pump-cellar") / "level.json");
    const Json project = read(kDemo / "project.json");
    const Json level = read(kDemo / "levels/pump-cellar.json");
    const auto without = [](Json j, const char* key) {
        j.erase(key);
        return j;
    };
    for (const char* key : {"format", "version", "size", "layers", "outlines", "tiles", "walker"})
        CHECK_FALSE(faults(without(parcel, key), "parcel.schema.json").empty());
    for (const char* key : {"format", "sheets", "materials", "next_tile"})
        CHECK_FALSE(faults(without(project, key), "project.schema.json").empty());
    for (const char* key : {"format", "view", "layers", "plane"})
        CHECK_FALSE(faults(without(level, key), "level.schema.json").empty());
    Json wrong = level;
    wrong["layers"][0]["kind"] = "clouds";
    CHECK_FALSE(faults(wrong, "level.schema.json").empty());
    wrong = parcel;
    wrong["outlines"][0]["points"][0] = 0.5;
    CHECK_FALSE(faults(wrong, "parcel.schema.json").empty());
    wrong = project;
    wrong["sheets"][0]["file"] = "../outside.png";
    CHECK_FALSE(faults(wrong, "project.schema.json").empty());
}

TEST_CASE("nothing is wrong in the demo", "[demo]") {
    const auto project = vic::store::load(kDemo);
    for (const auto& f : vic::findings::check(project)) {
        INFO(f.what.english());
        CHECK(f.severity == vic::findings::Severity::hint);
    }
    CHECK(project.levels.size() == 3);
    CHECK(project.level("brine-pans")->size == vic::Size{96, 64});
    CHECK(project.level("pump-cellar")->size == vic::Size{80, 45});
}

TEST_CASE("both demo levels are walked from start to exit", "[demo]") {
    Built built;
    for (const char* id : {"brine-pans", "pump-cellar"}) {
        const vicinum::Level level = vicinum::load(built.level(id));
        const fs::path script = fs::path(SOURCE_DIR) / "demo/walks" / (std::string(id) + ".walk");
        const auto tried = vic::walk::play(level, vic::walk::parse_script(vic::read_file(script), script.string()));
        CHECK(tried.reached_exit);
        CHECK_FALSE(tried.fell_out);
    }
}

TEST_CASE("the water of Brine Pans blocks, its bridge does not", "[demo]") {
    Built built;
    const vicinum::Level level = vicinum::load(built.level("brine-pans"));
    const auto right_from = [&](double x, double y, int ticks) {
        vic::walk::World world(level);
        world.place({x, y});
        vic::walk::Input right;
        right.right = true;
        for (int i = 0; i < ticks; ++i) world.tick(right);
        return world.foot().x;
    };
    CHECK(right_from(60, 31.6, 240) > 80); // over the boardwalk
    CHECK(right_from(65, 34.5, 240) < 72); // into the creek beside it
    CHECK(right_from(6, 12, 120) < 9);     // into a pan
}

TEST_CASE("the runtime's example reads a parcel", "[runtime]") {
    Built built;
    const std::string command = std::string(EXAMPLE) + " " + built.level("pump-cellar").string();
    FILE* pipe = ::popen(command.c_str(), "r");
    REQUIRE(pipe);
    std::string out;
    char buffer[512];
    while (std::fgets(buffer, sizeof buffer, pipe)) out += buffer;
    CHECK(::pclose(pipe) == 0);
    CHECK(out.find("Pump Cellar: 80 x 45 cells of 16 x 16 pixels") == 0);
    CHECK(out.find("exit \"Exit\"") != std::string::npos);
    CHECK(std::system((std::string(EXAMPLE) + " /nowhere 2>/dev/null").c_str()) != 0);
    int lines = 0;
    for (const char c : vic::read_file(fs::path(SOURCE_DIR) / "runtime/example.cpp")) lines += c == '\n';
    CHECK(lines <= 45);
}

TEST_CASE("a journal is as its schema says", "[schema]") {
    make::Folder dir;
    const auto before = std::make_shared<const vic::level::Project>(vic::store::load(kDemo));
    vic::level::Project next = *before;
    next.name = "Other";
    ++next.next_id;
    vic::level::Level level = *next.levels[0];
    for (const vic::level::LayerRef& layer : std::vector(level.layers))
        if (layer->tiles()) level.edit(layer->id).grid().set({3, 3}, {}, 0);
    next.put(std::move(level));
    next.remove_level("pump-cellar");
    {
        vic::store::JournalWriter writer(dir / "journal", 5);
        vic::store::JournalStep step;
        step.name = "Step";
        step.merge = "merge";
        step.before = before;
        step.after = std::make_shared<const vic::level::Project>(std::move(next));
        writer.write(step);
        step.kind = vic::store::JournalStep::Kind::back;
        writer.write(step);
        step.kind = vic::store::JournalStep::Kind::go;
        step.place = -1;
        writer.write(step);
    }
    std::string all = vic::read_file(dir / "journal");
    int records = 0;
    while (!all.empty()) {
        const std::size_t length = std::stoul(all), begin = all.find('\n') + 1;
        const Json record = Json::parse(all.substr(begin, length));
        INFO(record.dump().substr(0, 300));
        CHECK(faults(record, "journal.schema.json") == "");
        all = all.substr(begin + length + 1);
        ++records;
    }
    CHECK(records == 4);
    CHECK(faults(Json{{"do", "burn"}}, "journal.schema.json") != "");
}
