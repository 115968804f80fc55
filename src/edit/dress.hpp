// Changes to what was chosen of a level's props and marks, several at once.
#pragma once

#include <functional>
#include <set>
#include <string>
#include <vector>

#include "level/project.hpp"
#include "level/standing.hpp"

namespace vic::edit {

struct Chosen {
    std::set<level::PropId> props;
    std::set<level::MarkId> marks;
    [[nodiscard]] bool empty() const { return props.empty() && marks.empty(); }
    [[nodiscard]] std::size_t size() const { return props.size() + marks.size(); }
    bool operator==(const Chosen&) const = default;
};

// What of it is still there.
Chosen settled(const level::Level& level, Chosen chosen);

// Those whose foot, or pivot where they have none, lies in the pixels, or within a line that goes round; and marks that
// do. Of shown, unlocked layers only.
Chosen chosen_in(const level::Project& project, const level::Level& level, const Box& pixels);
Chosen chosen_within(const level::Project& project, const level::Level& level, const level::Spots& line);
// All of the kinds that are chosen, or with a tag, of shown, unlocked layers.
Chosen all_alike(const level::Level& level, const Chosen& chosen);
Chosen all_tagged(const level::Project& project, const level::Level& level, const std::string& tag);
// With all that stand in a group with one of them.
Chosen with_groups(const level::Level& level, Chosen chosen);

// The chosen props, those further back first; valid as long as the level.
std::vector<const level::Prop*> props_of(const level::Level& level, const Chosen& chosen);

// Each chosen prop as `change` leaves it; ids stay, scales and turns are kept within what their kind allows.
level::Level change_props(const level::Project& project, level::Level level, const Chosen& chosen,
                          const std::function<void(level::Prop&)>& change);
// Marks go by whole cells, as far as the level reaches.
level::Level move_chosen(level::Level level, const Chosen& chosen, Point pixels);
level::Level remove_chosen(level::Level level, const Chosen& chosen);

// Copies beside what was chosen, on the same layers; groups are new ones. Marks that are the start do not come.
struct Copied {
    level::Level level;
    Chosen chosen; // the copies
    std::uint32_t next_id = 0;
};
Copied copy_chosen(const level::Level& level, const Chosen& chosen, Point pixels, std::uint32_t next_id);

// By the pixels in which they are seen: at one side or middle of all of them together; or with equal gaps between them,
// the first and the last staying where they are. Those of a group go as one.
enum class Align : std::uint8_t { left, middle, right, top, centre, bottom };
level::Level align(const level::Project& project, level::Level level, const Chosen& chosen, Align how);
level::Level distribute(const level::Project& project, level::Level level, const Chosen& chosen, bool upright);

// What is drawn in front, said by hand: before or behind all that their pictures meet among what they are sorted with
// (their layer, or those that are sorted by feet with it), by as little as does it from where they stand; or
// as they stand again. Among
// themselves the chosen ones keep their order.
enum class Order : std::uint8_t { in_front, behind, as_they_stand };
level::Level in_order(const level::Project& project, level::Level level, const Chosen& chosen, Order how);

level::Level group(level::Level level, const Chosen& chosen, std::uint32_t id); // 0: none any more
// Another kind in their place: the pivot stays where it is, and how they look.
level::Level replace_kind(const level::Project& project, level::Level level, const Chosen& chosen,
                          level::PropKindId kind);
// To another layer that holds props.
level::Level to_layer(level::Level level, const Chosen& chosen, level::LayerId layer);

// The look without turn, scale, mirror and colours, which one key gives back.
inline level::Look usual_look() { return {}; }
// The look within what the kind allows.
level::Look allowed(const level::PropKind& kind, level::Look look);
// The next scale up or down, whole numbers and their parts first: 25, 50, 100, 200, 300 …
int next_scale(const level::PropKind& kind, int scale, int steps);

} // namespace vic::edit
