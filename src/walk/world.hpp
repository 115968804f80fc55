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
    bool up = false;   // seen from above; from the side: climbs, and swims up
    bool down = false; // seen from above; from the side: drops through a one-way edge, climbs and swims down
    bool jump = false; // seen from the side only
    bool run = false;
    int towards = -1; // of a walker that goes all ways, seen from above: degrees in the level, 0 east, 90 south; below
                      // 0: nowhere. Counts before the keys.
    bool operator==(const Input&) const = default;
};
struct Position {
    double x = 0; // cells: the middle of the walker's foot
    double y = 0;
    bool operator==(const Position&) const = default;
};

// As proofs keep it: left 1, right 2, up 4, down 8, jump 16, run 32.
std::uint8_t keys_of(const Input& input);
Input input_of(unsigned keys, int towards = -1);
// The degrees from one place to another; below 0 where they are nearer than a tenth of a cell.
int towards(Position from, Position to);

// Something that came to pass while one walked.
struct Happening {
    enum class Kind : std::uint8_t { bump, landed, touched, told, fell_out, left };
    Kind kind = Kind::bump;
    int tick = 0;
    Position foot;        // where the walker stood
    Position at;          // of a bump: where it was stopped; else as `foot`
    std::uint32_t id = 0; // touched: the mark's id; told: place in Level::telling; left: the side
};
inline constexpr std::size_t kMostHappenings = 4096;

// Level and walker as bodies. One cell is one metre. Outlines are chains (smooth across corners), one-way edges are
// passed from behind, feet of blocking props are boxes, a level's sides block where it says so.
class World {
  public:
    // The level must outlive the world. Starts at the start mark; in the middle of the level where there is none.
    explicit World(const vicinum::Level& level) : World(level, level.walker.mover) {}
    World(const vicinum::Level& level, const std::string& mover);
    ~World();
    World(World&&) noexcept;
    World& operator=(World&&) noexcept;

    void tick(const Input& input);
    void place(Position foot); // stands still there
    // Goes on where the walker of the other world is, as fast as that, with what it has touched. Where the new level
    // has no room there it is put upon the nearest place above that has some.
    void take_over(const World& other);

    [[nodiscard]] Position foot() const;
    [[nodiscard]] bool grounded() const;
    [[nodiscard]] bool fell_out() const; // more than two cells outside the level
    // The side of the level that leads on (0 north .. 3 west) over which the walker's middle (from above:
    // that of its foot) has gone; none yet.
    [[nodiscard]] std::optional<int> left_by() const;
    [[nodiscard]] int ticks() const;
    // Ids of the marks whose cells the walker has touched, in the order of the first touch.
    [[nodiscard]] const std::vector<std::uint32_t>& touched() const;
    [[nodiscard]] bool reached_exit() const; // a mark or an area that is one
    [[nodiscard]] int chain_count() const;
    [[nodiscard]] bool climbing() const;
    [[nodiscard]] bool swimming() const;
    // In the order in which it happened; each place that stops once in a while, each mark and area once. The first
    // kMostHappenings.
    [[nodiscard]] const std::vector<Happening>& happenings() const;
    // Whether a walker that stood there would be within what blocks.
    [[nodiscard]] bool stuck(Position foot) const;

  private:
    struct Parts;
    std::unique_ptr<Parts> parts_;
};

// The pixels that the game's frame shows, around the walker and kept inside the level; a level smaller than the frame
// is centred. `frame` in pixels.
vicinum::Rect frame_around(const vicinum::Level& level, Position foot, vicinum::Vec frame);

// What the frame is around, after the walker has moved within it: he pushes it along where he leaves the slack in its
// middle.
Position followed(const vicinum::Level& level, Position centre, Position foot);

// Timed inputs: a line "TICKS [left] [right] [up] [down] [jump] [run] [towards DEGREES]"; # begins a comment.
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
// Stops early where the walker falls out or leaves by a side that leads on. `from`: where it begins, else as World
// does.
Try play(const vicinum::Level& level, const std::vector<Step>& script, std::optional<Position> from = std::nullopt);

} // namespace vic::walk
