// Walking through parcels without a window.
#include <cmath>
#include <stdexcept>
#include <string>

#include "base/error.hpp"
#include "base/files.hpp"
#include "cli/commands.hpp"
#include "level/notes.hpp"
#include "vicinum_level.hpp"
#include "walk/proofs.hpp"
#include "walk/world.hpp"

namespace vic::cli {

namespace {

double rounded(double v) { return std::round(v * 10000) / 10000; }

} // namespace

vicinum::Level load_parcel(const std::string& dir) {
    try {
        return vicinum::load(dir);
    } catch (const std::runtime_error& e) {
        throw InputError(Text::verbatim(e.what()), dir, "", "Build the level again");
    }
}

Outcome walk(const std::string& dir, const std::string& script) {
    const vicinum::Level level = load_parcel(dir);
    const walk::Try tried = walk::play(level, walk::parse_script(read_file(script, 1U << 24), script));
    Json path = Json::array();
    for (const auto& [tick, p] : tried.path) path.push_back({tick, rounded(p.x), rounded(p.y)});
    Json touched = Json::array();
    for (const auto id : tried.touched)
        for (const auto& m : level.marks)
            if (m.id == id) touched.push_back({{"id", id}, {"name", m.name}, {"kind", m.kind}});
    Outcome out;
    out.json = {{"ticks", tried.ticks},
                {"path", path},
                {"end", {rounded(tried.end.x), rounded(tried.end.y)}},
                {"fell_out", tried.fell_out},
                {"reached_exit", tried.reached_exit},
                {"touched", touched}};
    if (tried.left_by) out.json["left_by"] = level::side_words().at(static_cast<std::size_t>(*tried.left_by));
    out.text = std::string(tried.reached_exit ? "reached the exit"
                           : tried.fell_out   ? "fell out of the level"
                           : tried.left_by    ? "left by a side that leads on"
                                              : "ended") +
               " at " + std::to_string(rounded(tried.end.x)) + ", " + std::to_string(rounded(tried.end.y)) + " after " +
               std::to_string(tried.ticks) + " ticks";
    return out;
}

Outcome walk_proofs(const std::string& dir) {
    const vicinum::Level level = load_parcel(dir);
    const walk::World world(level);
    Outcome out;
    out.json = {{"proofs", Json::array()}, {"probes", Json::array()}};
    int failed = 0;
    for (const vicinum::Proof& proof : level.proofs) {
        const walk::Proved proved = walk::prove(level, proof);
        Json j{{"name", proof.name},
               {"holds", proved.holds},
               {"ticks", proved.ticks},
               {"end", {rounded(proved.at.x), rounded(proved.at.y)}}};
        if (proved.was) {
            j["astray"] = {{"tick", proved.astray}, {"was", {rounded(proved.was->x), rounded(proved.was->y)}}};
            out.text += "\"" + proof.name + "\" went astray after " + std::to_string(proved.astray) + " ticks at " +
                        std::to_string(rounded(proved.at.x)) + ", " + std::to_string(rounded(proved.at.y)) + "\n";
        }
        failed += !proved.holds;
        out.json["proofs"].push_back(std::move(j));
    }
    for (const vicinum::Probe& probe : level.probes) {
        const bool right = walk::holds(world, probe);
        failed += !right;
        out.json["probes"].push_back({{"at", {probe.at.x, probe.at.y}}, {"blocks", probe.blocks}, {"holds", right}});
    }
    out.text += std::to_string(level.proofs.size()) + " proofs and " + std::to_string(level.probes.size()) +
                " probes, " + std::to_string(failed) + " fail";
    out.code = failed > 0 ? 1 : 0;
    return out;
}

} // namespace vic::cli
