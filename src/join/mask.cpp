#include "join/mask.hpp"

#include <bit>
#include <set>

namespace vic::join {

using level::JoinKind;

Mask canonical(Mask mask, JoinKind kind) {
    switch (kind) {
        case JoinKind::plain:
            return 255;
        case JoinKind::edges:
            return mask & kSides;
        case JoinKind::corners:
            return mask & kCorners;
        case JoinKind::full:
            break;
    }
    Mask out = mask & kSides;
    for (int corner = 1; corner < 8; corner += 2) {
        const auto before = static_cast<Mask>(1U << (corner - 1));
        const auto after = static_cast<Mask>(1U << ((corner + 1) % 8));
        if ((mask & before) && (mask & after)) out = static_cast<Mask>(out | (mask & (1U << corner)));
    }
    return out;
}

const std::vector<Mask>& cases(JoinKind kind) {
    static const auto all = [] {
        std::array<std::vector<Mask>, 4> lists;
        for (std::size_t k = 0; k < lists.size(); ++k) {
            std::set<Mask> masks;
            for (int m = 0; m < 256; ++m) masks.insert(canonical(static_cast<Mask>(m), static_cast<JoinKind>(k)));
            lists[k].assign(masks.begin(), masks.end());
        }
        return lists;
    }();
    return all[static_cast<std::size_t>(kind)];
}

int joined_sides(Mask mask) { return std::popcount(static_cast<unsigned>(mask & kSides)); }

int joined_corners(Mask mask) { return std::popcount(static_cast<unsigned>(mask & kCorners)); }

Coverage coverage(const level::JoinSet& set) {
    Coverage out{0, static_cast<int>(cases(set.kind).size())};
    for (const auto& [mask, variants] : set.cases)
        for (const auto& v : variants)
            if (v.weight > 0) {
                ++out.have;
                break;
            }
    return out;
}

Text describe(Mask mask) {
    static const Text side_names[4] = {"north", "east", "south", "west"};
    static const Text corner_names[4] = {"north-east", "south-east", "south-west", "north-west"};
    std::vector<Text> open;
    for (int i = 0; i < 4; ++i)
        if (!(mask & (1U << (2 * i)))) open.emplace_back(side_names[i]);
    std::vector<Text> notches;
    for (int i = 0; i < 4; ++i) {
        const bool between = (mask & (1U << (2 * i))) && (mask & (1U << ((2 * i + 2) % 8)));
        if (between && !(mask & (1U << (2 * i + 1)))) notches.emplace_back(corner_names[i]);
    }
    if (open.size() == 4 && (mask & kCorners) == 0) return "alone";
    if (open.size() == 4) { // of a set of corners
        std::vector<Text> joined;
        for (int i = 0; i < 4; ++i)
            if (mask & (2U << (2 * i))) joined.emplace_back(corner_names[i]);
        return joined.size() == 4 ? Text("joined at all corners") : say("joined at the corner %1", listed(joined));
    }
    if (open.empty() && notches.empty()) return "joined all round";
    if (notches.empty()) return say("open to the %1", listed(open));
    if (open.empty()) return say("inner corner %1", listed(notches));
    return say("open to the %1, inner corner %2", listed(open), listed(notches));
}

} // namespace vic::join
