#include "store/format_blockers.hpp"

#include <set>

#include "level/limits.hpp"
#include "store/format.hpp"
#include "store/format_walk.hpp"

namespace vic::store {

using level::FreeBlocker;

namespace {

constexpr int kFarthest = 2 * level::kMostCells * level::kBlockerUnit;

}

Json free_blockers_json(const std::vector<FreeBlocker>& free) {
    Json out = Json::array();
    for (const FreeBlocker& b : free) {
        Json j{{"id", b.id}, {"points", Json::array()}};
        for (const Point p : b.points) j["points"].push_back(to_json(p));
        if (b.width != 0) j["width"] = b.width;
        if (b.opens) j["opens"] = true;
        if (b.tells != 0) j["tells"] = b.tells;
        if (!b.name.empty()) j["name"] = b.name;
        if (!b.collision_class.empty()) j["collision_class"] = b.collision_class;
        put_notes(j, b.notes);
        out.push_back(std::move(j));
    }
    return out;
}

std::vector<FreeBlocker> read_free_blockers(const Field& f, const level::Project& project) {
    std::vector<FreeBlocker> out;
    std::set<level::BlockerId> ids;
    for (const Field& b : f.list(level::kMostFreeBlockers)) {
        FreeBlocker blocker;
        blocker.id = static_cast<level::BlockerId>(b["id"].integer(1, UINT32_MAX));
        if (!ids.insert(blocker.id).second) b["id"].refuse("The blocker comes twice");
        for (const Field& p : b["points"].list(level::kMostBlockerCorners))
            blocker.points.push_back(p.point(-kFarthest, kFarthest));
        if (b.has("width")) blocker.width = b["width"].number(1, level::kMostBlockerWidth);
        blocker.opens = b.has("opens") && b["opens"].yes();
        if (b.has("tells")) blocker.tells = read_tells(b, project);
        if (b.has("name")) blocker.name = b["name"].text();
        blocker.collision_class = read_class(b);
        blocker.notes = read_notes(b, project);
        if (const Text trouble = level::blocker_trouble(blocker); !trouble.empty()) b["points"].refuse(trouble);
        out.push_back(std::move(blocker));
    }
    return out;
}

} // namespace vic::store
