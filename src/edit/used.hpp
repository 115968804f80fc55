// What a level is made of, and what each of that is to a walker: which link of tile, layer and prop decides.
#pragma once

#include <cstdint>
#include <memory>
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "edit/blocking.hpp"
#include "level/region.hpp"
#include "level/standing.hpp"

namespace vic::edit {

enum class UsedKind : std::uint8_t { material, tile, block, prop, blockers, backdrop };

// One of the things that lie or stand in a level.
struct Used {
    UsedKind kind = UsedKind::material;
    std::uint32_t id = 0; // of the material, tile or kind of prop, or the layer of blockers or of the backdrop
    int count = 0;        // cells, or props, of the level; of blockers cells and those that lie free; of a backdrop 1
    int heard = 0; // of those on layers that block: elsewhere it blocks nothing, whatever it says; props and what
                   // opens are all heard
    Blocking blocking = Blocking::nothing; // what it says
    bool here = false;                     // whether it says that in this level alone
    // It would block, and none of it lies where that is heard.
    [[nodiscard]] bool unheard() const { return blocking != Blocking::nothing && heard == 0; }
    bool operator==(const Used&) const = default;
};

// Materials in the project's order, then tiles and blocks that were laid by hand (those that were painted count with
// their material), then kinds of props, the more of them the sooner; blockers and backdrops, which are nothing to a
// walker, come last. Those of an ensemble count by themselves.
std::vector<Used> used_in(const level::Project& project, const level::Level& level);

// The same for a level that is counted again and again: layers that are as they were are not counted anew.
class UsedCounter {
  public:
    std::vector<Used> used_in(const level::Project& project, const level::Level& level);

  private:
    struct Count {
        UsedKind kind;
        std::uint32_t id;
        int count;
    };
    static std::vector<Count> count(const level::Project& project, const level::Layer& layer,
                                    const level::TileTable& tiles, const level::PropKinds& kinds);
    std::vector<std::pair<level::LayerRef, std::vector<Count>>> known_; // of the level that was counted last
    std::vector<std::shared_ptr<const level::Sheet>> sheets_;
    std::vector<std::shared_ptr<const level::PropKind>> kinds_;
};

// What a thing says, wherever it lies; `mixed` of blockers, `nothing` of what is gone and of backdrops. For what a
// level alone says, ask as_in() of it.
Blocking said_by(const level::Project& project, const Used& thing);

// All of them say that from now on, in all levels. Blank tiles block nothing; what an ensemble blocks its parts say.
level::Project with_blocking(level::Project project, const std::vector<Used>& things, Blocking blocking);

// They say that in this level alone; where the project says the same, nothing is said here.
level::Level with_blocking_here(const level::Project& project, level::Level level, const std::vector<Used>& things,
                                Blocking blocking);
// They say in this level what they say in `wanted`, another state of the project.
level::Level said_here(const level::Project& project, level::Level level, const std::vector<Used>& things,
                       const level::Project& wanted);
// They say in the level what they say in the project.
level::Level as_in_project(const level::Project& project, level::Level level, const std::vector<Used>& things);
// The tiles that a thing is made of.
std::vector<level::TileId> tiles_of(const level::Project& project, const Used& thing);

// The layers on which any of them lies in the level block from now on.
level::Level with_layers_blocking(const level::Project& project, const level::Level& level,
                                  const std::vector<Used>& things);

// Where it lies or stands in the level: cells, of props those of their feet.
level::Region where_used(const level::Project& project, const level::Level& level, const Used& thing);

// Who decides over a cell of the level, and what.
struct Decided {
    enum class By : std::uint8_t { nobody, blocker, tile, prop, layer_open };
    By by = By::nobody;
    bool blocks = false;      // at least a part of the cell
    bool one_way = false;     // from one side only
    bool opens = false;       // it lets one walk, whatever lies below
    level::LayerId layer = 0; // on which the one that decides lies
    Text says;                // one sentence
    // The one that decides, to be changed; nothing where nobody does.
    std::optional<Used> thing{};
    level::BlockerId free = 0;     // of free blockers the one, else 0
    std::string collision_class{}; // of what blocks; may be empty
};
Decided decided_at(const level::Project& project, const level::Level& level, Point cell);

} // namespace vic::edit
