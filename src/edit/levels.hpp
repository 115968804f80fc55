// Changes to levels, layers, props and marks: each takes a level and gives the changed one.
#pragma once

#include <functional>
#include <optional>
#include <string>

#include "level/project.hpp"

namespace vic::edit {

// A new layer right in front of `behind` (at the very back for 0), on the same side of the walker as that layer.
level::Level add_layer(level::Level level, level::LayerId id, const std::string& name, level::LayerKind kind,
                       level::LayerId behind);
level::Level remove_layer(level::Level level, level::LayerId id);

// The order of the Section is one list: layers back to front with the walker's plane between them. Moves the entry at
// `from` so that it comes to stand at `to`. Entries: 0 .. number of layers.
struct SectionEntry {
    level::LayerId layer = 0; // 0 for the walker's plane
};
std::vector<SectionEntry> section_order(const level::Level& level);
level::Level move_entry(level::Level level, int from, int to);

level::Level add_prop(level::Level level, level::LayerId layer, const level::Prop& prop);
level::Level move_prop(level::Level level, level::PropId prop, Point at);
level::Level remove_prop(level::Level level, level::PropId prop);

// The prop with the id; null where the level has none.
const level::Prop* find_prop(const level::Level& level, level::PropId prop);

// The prop under a pixel of the level, the frontmost first; of shown, unlocked layers only. A see-through pixel is no
// hit, unless it lies within the foot.
struct PropHit {
    level::LayerId layer = 0;
    level::Prop prop;
};
std::optional<PropHit> prop_at(const level::Project& project, const level::Level& level, Point pixel);

// Puts a mark of one cell there. A level has one start: placing it again moves it. The cell must lie in the level.
level::Level place_mark(level::Level level, level::MarkId id, level::MarkKind kind, const std::string& name,
                        Point cell);
// The same with a box of cells, within the level.
level::Level place_mark_over(level::Level level, level::MarkId id, level::MarkKind kind, const std::string& name,
                             const Box& cells);
// What is changed of a mark keeps its id; its cells stay within the level. One that becomes the start takes the place
// of the other.
level::Level change_mark(level::Level level, level::MarkId id, const std::function<void(level::Mark&)>& what);
// Moves a mark's corner as far as the level reaches.
level::Level move_mark(level::Level level, level::MarkId id, Point corner);
level::Level remove_mark(level::Level level, level::MarkId id);
// The smallest mark whose cells hold the cell; null where none does.
const level::Mark* mark_at(const level::Level& level, Point cell);

// A pixel position snapped to the middle of a cell's lower edge, where things stand.
Point snapped(const level::Level& level, Point pixel);

// A copy with a name and ids of its own. What is at home on one of its layers is at home on the copy's, too.
level::Level duplicate(level::Project& project, const level::Level& level, const std::string& name);
// A level of that size like another, with nothing on it: its cells, view, walker, frame, ground and layers, which are
// home to what those are home to. Plantings keep their recipe; what was planted, marks, guides and a plan do not come.
level::Level level_like(level::Project& project, const level::Level& level, const std::string& name, Size size);

// What is shown in numbers.
int prop_count(const level::Level& level);

} // namespace vic::edit
