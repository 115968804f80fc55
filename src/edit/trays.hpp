// What lies in the Tray: trays of one's own, and looking for things.
#pragma once

#include <functional>
#include <string>
#include <vector>

#include "level/project.hpp"

namespace vic::edit {

// Why a tray cannot be like that, as a sentence: no name, or one that its folder has already. Empty where it can.
Text tray_trouble(const level::Project& project, const level::OwnTray& tray);

// Adds the tray (id 0: the id is given out) or puts it in the place of the one with its id. `folder` is tidied: no
// empty parts, no blanks around them. The tray must be without trouble.
level::Project put_tray(level::Project project, level::OwnTray tray);
level::Project remove_tray(level::Project project, level::OwnTrayId id);

// What is in a tray now: its items in their order, then the tiles of its sheets and those with its tags; each once,
// nothing that is gone, no blank tiles.
std::vector<level::TrayItem> tray_content(const level::Project& project, const level::OwnTray& tray);

// The things whose text `fits`: the names of materials and kinds of props, and of tiles their name, tags and the name
// of their sheet. At most `most`.
std::vector<level::TrayItem> find_things(const level::Project& project,
                                         const std::function<bool(const std::string& text)>& fits, std::size_t most);

// Whether the project has the thing, and a name for it.
bool exists(const level::Project& project, const level::TrayItem& item);
Text name_of(const level::Project& project, const level::TrayItem& item);

} // namespace vic::edit
