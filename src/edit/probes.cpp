#include "edit/probes.hpp"

#include <algorithm>
#include <cstdlib>

namespace vic::edit {

level::Level with_probe(const level::Level& level, Point at, bool blocks) {
    constexpr int kNear = 24; // 1/64 cells within which a probe is meant
    level::Level out = level;
    const auto near = std::find_if(out.probes.begin(), out.probes.end(), [&](const level::Probe& p) {
        return std::abs(p.at.x - at.x) <= kNear && std::abs(p.at.y - at.y) <= kNear;
    });
    if (near != out.probes.end()) {
        if (near->blocks == blocks)
            out.probes.erase(near);
        else
            near->blocks = blocks;
        return out;
    }
    if (out.probes.size() >= level::kMostProbes) return out;
    const std::uint32_t id = out.probes.empty() ? 1 : out.probes.back().id + 1;
    out.probes.push_back({id, at, blocks});
    return out;
}

} // namespace vic::edit
