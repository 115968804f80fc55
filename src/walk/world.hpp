// Walking through a level as it was built: physics from a parcel, by Box2D. The window, the player and `vicinum-cli
// walk` run this same code.
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "vicinum_level.hpp"
#include "walk/motion.hpp"

namespace vic::walk {

// What the player of the game holds down during a tick.
struct Input {
    bool left = false;
    bool right = false;
    bool up = false;   // seen from above only
    bool down = false; // seen from above; from the side: drop through a one-way edge
    bool jump = false; // seen from the side only
};

struct Position {
    double x = 0; // cells: the middle of the walker's foot
    double y = 0;
    bool operator==(const Position&) const = default;
};

// Level and walker as bodies. One cell is one metre. Outlines are chains (smooth across corners), one-way edges are
// passed from behind, feet of blocking props are boxes, a level's sides block where it says so.
class World {
  public:
    // The level must outlive the world. Starts at the start mark; in the middle of the level where there is none.
    explicit World(const vicinum::Level& level);
    ~World();
    World(World&&) noexcept;
    World& operator=(World&&) noexcept;

    void tick(const Input& input);
    void place(Position foot); // stands still there

    [[nodiscard]] Position foot() const;
    [[nodiscard]] bool grounded() const;
    [[nodiscard]] bool fell_out() const; // more than two cells outside the level
    // The side of the level that leads on (0 north .. 3 west) over which the walker's middle (from above:
    // that of its foot) has gone; none yet.
    [[nodiscard]] std::optional<int> left_by() const;
    [[nodiscard]] int ticks() const;
    // Ids of the marks whose cells the walker has touched, in the order of the first touch.
    [[nodiscard]] const std::vector<std::uint32_t>& touched() const;
    [[nodiscard]] bool reached_exit() const;
    [[nodiscard]] int chain_count() const;

  private:
    struct Parts;
    std::unique_ptr<Parts> parts_;
};

// The pixels that the game's frame shows, around the walker and kept inside the level; a level smaller than the frame
// is centred. `frame` in pixels.
vicinum::Rect frame_around(const vicinum::Level& level, Position foot, vicinum::Vec frame);

// Timed inputs: a line "TICKS [left] [right] [up] [down] [jump]"; # begins a comment.
struct Step {
    int ticks = 0;
    Input input;
};
// Throws InputError with the line.
std::vector<Step> parse_script(const std::string& text, const std::string& file);

struct Try {
    int ticks = 0;
    std::vector<std::pair<int, Position>> path; // every sixth tick, and the last
    Position end;
    bool fell_out = false;
    bool reached_exit = false;
    std::vector<std::uint32_t> touched;
    std::optional<int> left_by; // see World
};
// Stops early where the walker falls out or leaves by a side that leads on.
Try play(const vicinum::Level& level, const std::vector<Step>& script);

} // namespace vic::walk
