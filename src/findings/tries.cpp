#include "findings/tries.hpp"

#include <cmath>
#include <cstdio>
#include <string>

#include "walk/bones.hpp"
#include "walk/proofs.hpp"

namespace vic::findings {

namespace {

std::string with_tenths(double v) {
    char text[32];
    std::snprintf(text, sizeof text, "%.1f", v);
    return text;
}

std::string place_text(walk::Position p) { return with_tenths(p.x) + ", " + with_tenths(p.y); }

} // namespace

std::vector<Finding> failed_tries(const level::Project& project, const level::Level& level) {
    std::vector<Finding> out;
    if (level.probes.empty() && level.proofs.empty()) return out;
    const vicinum::Level bones = walk::bones_of(project, level);
    const walk::World world(bones);
    for (const vicinum::Probe& probe : bones.probes) {
        if (walk::holds(world, probe)) continue;
        const Point cell{floor_div(probe.at.x, vicinum::kUnit), floor_div(probe.at.y - 1, vicinum::kUnit)};
        const std::string at = std::to_string(cell.x) + ", " + std::to_string(cell.y);
        out.push_back({probe.blocks ? "probe-open" : "probe-blocked", Severity::error, level.id, 0, cell,
                       probe.blocks ? say("The walker has room at %1, where he must be stopped", at)
                                    : say("The walker has no room at %1, where he must get through", at),
                       "Mend what blocks there in Bound, or take the probe away"});
    }
    for (const vicinum::Proof& proof : bones.proofs) {
        const walk::Proved proved = walk::prove(bones, proof);
        if (proved.holds) continue;
        const Point cell{static_cast<int>(std::floor(proved.at.x)), static_cast<int>(std::floor(proved.at.y - 0.05))};
        const std::string after = with_tenths(double(proved.was ? proved.astray : proved.ticks) / walk::kTicks);
        out.push_back({"proof-broken", Severity::error, level.id, 0, cell,
                       proved.was ? say("\"%1\" no longer holds: after %2 s it went astray at %3", proof.name, after,
                                        place_text(proved.at))
                                  : say("\"%1\" no longer holds: it ended at %2 after %3 s", proof.name,
                                        place_text(proved.at), after),
                       "Look there in Walk, or keep another try instead"});
    }
    return out;
}

} // namespace vic::findings
