#include "edit/meeting.hpp"

#include <algorithm>

#include "edit/joins.hpp"
#include "edit/sheets.hpp"

namespace vic::edit {

using namespace level;

Project set_meeting(Project project, MaterialId material, MaterialId other, bool same) {
    return change_set(std::move(project), material, [&](JoinSet& set) {
        set.pairs.erase(other);
        std::erase(set.same, other);
        if (same) set.same.insert(std::lower_bound(set.same.begin(), set.same.end(), other), other);
    });
}

Project meet_by_tiles(Project project, MaterialId material, MaterialId other, const Sheet& sheet,
                      const join::JoinReading& reading) {
    return change_set(std::move(project), material, [&](JoinSet& set) {
        std::erase(set.same, other);
        set.pairs[other] = cases_of(sheet, reading);
    });
}

} // namespace vic::edit
