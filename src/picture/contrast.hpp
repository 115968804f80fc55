// Brightness as a signal: what one can use or is stopped by ought to stand out, and scenery to step back.
#pragma once

#include <cstdint>
#include <memory>
#include <utility>
#include <vector>

#include "level/standing.hpp"

namespace vic::picture {

// What a thing is to one who plays.
enum class Role : std::uint8_t {
    scenery, // neither of both
    usable,  // one stands on it, or the engine is told of a part of it
    blocks,
};
Role role_of(const level::PropKind& kind);
// Of a prop the strongest of its pieces.
Role role_of(const level::PropKinds& kinds, const level::Prop& prop);
// Of a tile that lies on the layer.
Role role_of(const level::Layer& layer, const level::TileTable& tiles, level::Cell cell);

// The level without what blocks, and where `usable_too` without what can be used. Backdrops stay.
level::Level without(const level::Project& project, const level::Level& level, bool usable_too);

// The same for a level that is looked at again and again: layers that are as they were are not gone through anew, and
// stay the same.
class Without {
  public:
    explicit Without(bool usable_too) : usable_too_(usable_too) {}
    level::Level of(const level::Project& project, const level::Level& level);

  private:
    bool usable_too_;
    std::vector<std::pair<level::LayerRef, level::LayerRef>> known_; // of the level that was asked for last
    std::vector<std::shared_ptr<const level::Sheet>> sheets_;
    std::vector<std::shared_ptr<const level::PropKind>> kinds_;
    level::PartsHere here_;
};

// Where brightness says something else than what is so.
struct Doubt {
    enum class What : std::uint8_t {
        looks_usable, // as bright and whole as what blocks here, and scenery
        blends,       // blocks or can be used, and is as bright as what lies around it
        lies_open,    // a tile that has a part, on a layer where it has none
    };
    What what = What::looks_usable;
    Box pixels; // of the level
    level::LayerId layer = 0;
    level::PropId prop = 0; // 0: of tiles
    int bright = 0;         // per cent: how bright it is, and what lies around it
    int around = 0;
    bool operator==(const Doubt&) const = default;
};
inline constexpr std::size_t kMostDoubts = 2000;

// Of all that is shown and goes along with the level, layer by layer; at most kMostDoubts.
std::vector<Doubt> doubts(const level::Project& project, const level::Level& level);

} // namespace vic::picture
