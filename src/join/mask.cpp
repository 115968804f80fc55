#include "join/mask.hpp"

#include <algorithm>
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
        case JoinKind::full:
            break;
    }
    Mask out = kind == JoinKind::corners ? Mask{0} : static_cast<Mask>(mask & kSides);
    for (int corner = 1; corner < 8; corner += 2) {
        const unsigned sides = (1U << (corner - 1)) | (1U << ((corner + 1) % 8));
        if ((mask & sides) != sides || !(mask & (1U << corner))) continue;
        out = static_cast<Mask>(out | (1U << corner) | (kind == JoinKind::corners ? sides : 0U));
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

Mask of_corners(Mask corners) {
    unsigned out = 0;
    for (int corner = 1; corner < 8; corner += 2)
        if (corners & (1U << corner)) out |= (1U << corner) | (1U << (corner - 1)) | (1U << ((corner + 1) % 8));
    return static_cast<Mask>(out);
}

int joined_sides(Mask mask) { return std::popcount(static_cast<unsigned>(mask & kSides)); }

int joined_corners(Mask mask) { return std::popcount(static_cast<unsigned>(mask & kCorners)); }

Mask turned(Mask mask, Turn turn) {
    unsigned out = 0;
    for (int i = 0; i < 4; ++i) {
        if (mask & (1U << (2 * i))) out |= 1U << (2 * turned_side(turn, i));
        if (mask & (2U << (2 * i))) out |= 2U << (2 * turned_corner(turn, i));
    }
    return static_cast<Mask>(out);
}

namespace {

bool any_weight(const std::vector<level::Variant>& variants) {
    return std::any_of(variants.begin(), variants.end(), [](const level::Variant& v) { return v.weight > 0; });
}

} // namespace

std::vector<level::Variant> serving(const level::JoinSet& set, Mask mask) {
    const Mask want = canonical(mask, set.kind);
    if (const auto own = set.cases.find(want); own != set.cases.end() && any_weight(own->second)) return own->second;
    if (set.kind == JoinKind::plain) return {};
    for (std::uint8_t code = 1; code < 8; ++code) {
        if (!((set.turns >> code) & 1)) continue;
        for (const auto& [have, variants] : set.cases) {
            if (canonical(turned(have, {code}), set.kind) != want || !any_weight(variants)) continue;
            std::vector<level::Variant> out = variants;
            for (level::Variant& v : out) v.turn = after(v.turn, {code});
            return out;
        }
    }
    return {};
}

Coverage coverage(const level::JoinSet& set) {
    Coverage out{0, static_cast<int>(cases(set.kind).size()), 0};
    for (const Mask mask : cases(set.kind)) {
        const auto own = set.cases.find(mask);
        const bool drawn = own != set.cases.end() && any_weight(own->second);
        out.drawn += drawn;
        out.have += drawn || !serving(set, mask).empty();
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
    if (open.empty() && notches.empty()) return "joined all round";
    if (notches.empty()) return say("open to the %1", listed(open));
    if (open.empty()) return say("inner corner %1", listed(notches));
    return say("open to the %1, inner corner %2", listed(open), listed(notches));
}

Text describe(Mask mask, level::JoinKind kind) {
    if (kind == level::JoinKind::edges)
        for (unsigned i = 1; i < 8; i += 2)
            if ((mask & (1U << (i - 1))) && (mask & (1U << ((i + 1) % 8)))) mask = static_cast<Mask>(mask | 1U << i);
    return describe(mask);
}

} // namespace vic::join
