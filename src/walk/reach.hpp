// Reach: on which surfaces of a level seen from the side the walker can stand, and to which of them he gets by walking,
// falling, jumping, climbing and swimming.
//
// Own method. The level is drawn into samples (walk/samples.hpp); the places at which the walker has room and is held
// up hang together as ledges. From each ledge the one motion model (walk/motion.hpp) is played forward, tick by tick,
// for all places of the ledge and all that could be held down at once: since one steers sideways freely, the places
// that can be had at a tick are a row of bits, which spreads by as much as the walker goes in a tick and loses what has
// no room. Where bits cannot go down he lands. What is too near to call (a sample, 1/16 cell or less) is taken as
// possible.
#pragma once

#include <array>
#include <cstdint>
#include <memory>
#include <optional>
#include <utility>
#include <vector>

#include "level/project.hpp"
#include "level/region.hpp"
#include "outline/solid.hpp"

namespace vic::walk {

enum class Gets : std::uint8_t {
    reached,     // from the start, and back there or to an exit
    no_way_back, // from the start; neither the start nor an exit can be reached from there
    not_reached,
};

// A stretch of a surface, in 1/64 cells: places of the middle of the walker's foot.
struct Strip {
    int y = 0;
    int from = 0, to = 0;
    std::size_t ledge = 0;
    bool operator==(const Strip&) const = default;
};

struct Ledge {
    Box around;                  // of its strips, 1/64 cells, the walker's width with them
    std::vector<std::size_t> to; // ledges that are reached from it in one go, without itself
    std::int64_t length = 0;     // 1/64 cells of surface
    Gets gets = Gets::not_reached;
    bool floats = false; // no ground: a ladder or a water
};

class Reach {
  public:
    // Everything must outlive the call only. Levels seen from above have no ledges.
    Reach(const level::Project& project, const level::Level& level);
    // After what lies in some cells has become different and nothing else of the level and the project: the same as if
    // it were made anew, sooner. False where it must be made anew (the level has another size); then nothing has
    // changed.
    [[nodiscard]] bool follow(const level::Project& project, const level::Level& level,
                              const std::vector<Box>& changed);
    ~Reach();
    Reach(Reach&&) noexcept;
    Reach& operator=(Reach&&) noexcept;

    [[nodiscard]] const std::vector<Ledge>& ledges() const;
    [[nodiscard]] const std::vector<Strip>& strips() const; // from above to below, then from left to right
    [[nodiscard]] bool begins() const;                      // whether there is a place to stand where the walker begins
    [[nodiscard]] std::size_t start() const;                // the ledge on which he begins
    // The ledge on which one stands at a place, or onto which one falls from there; 1/64 cells.
    [[nodiscard]] std::optional<std::size_t> ledge_under(Point place) const;
    // Where one lands from a ledge in one go: stretches of other ledges.
    [[nodiscard]] std::vector<Strip> landings(std::size_t from) const;
    // Whether any of that place (1/64 cells) is touched by the walker's body where he stands or floats on a ledge that
    // is reached, or on his way through the air from one.
    [[nodiscard]] bool touches(const Box& place) const;
    // Cells of surface, and how many of them are reached.
    [[nodiscard]] std::int64_t standable() const;
    [[nodiscard]] std::int64_t reachable() const;

    // The ledge that is reached and needs least to get to another: how far that is too high (1/64 cells, 0: high
    // enough) and too far (likewise). Nothing where none is near.
    struct Lack {
        std::size_t from = 0;
        int height = 0;
        int gap = 0;
    };
    [[nodiscard]] std::optional<Lack> lack_of(std::size_t ledge) const;
    // What a jump from one stretch to the other would lack, were nothing in its way. `from` and `ledge` are not set.
    [[nodiscard]] Lack lack_between(const Strip& from, const Strip& to) const;

  private:
    struct Inside;
    std::unique_ptr<Inside> in_;
};

// The cell that, filled, lets the walker get to the ledge that is now out of reach: of those that do the nearest to it.
// Nothing where one cell is not enough. Tries at most `most` of them.
std::optional<Point> remedy_for(const level::Project& project, const level::Level& level, const Reach& reach,
                                std::size_t ledge, int most = 60);

// All that a ledge lies on, moved by so many cells.
struct Shift {
    level::Region mass; // cells
    Point by;
};
// Likewise, where the ledge lies on a mass of its own that touches no other and not the level's rim, of at most
// kMostShifted cells, none of which has a shape off the lattice: the shortest way of moving it, up to three cells each
// way.
std::optional<Shift> shift_for(const level::Project& project, const level::Level& level, const Reach& reach,
                               std::size_t ledge, int most = 48);
inline constexpr std::size_t kMostShifted = 48;

} // namespace vic::walk
