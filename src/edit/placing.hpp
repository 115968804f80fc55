// Where a prop comes to stand: snapped to the lattice, to other props, to the ground; what is in its way there.
#pragma once

#include <optional>
#include <set>
#include <vector>

#include "level/project.hpp"
#include "level/standing.hpp"

namespace vic::edit {

enum class Lattices : std::uint8_t { free, cells, halves, quarters };
// On what, where there are pieces of kits: on the storey's floor, on what lies there, or that and along its slope.
enum class Rests : std::uint8_t { storey, on_top, slope };

// The place on the lattice: with whole cells the middle of a cell's lower edge, where things stand; with parts of them
// also the places between.
Point on_lattice(const level::Level& level, Point pixel, Lattices step);

// The same for what a piece of a kit is, turned by `turn`: by whole cells its own cells lie on the level's.
Point on_lattice(const level::Level& level, Point pixel, Lattices step, const level::PropKind& piece, int turn);

// Why a place was taken: a line that is shown.
struct SnapLine {
    bool upright = false;
    int at = 0;                               // pixels of the level
    int from = 0, to = 0;                     // along the line
    std::optional<std::pair<int, int>> gap{}; // the length of an equal distance: from and to across, at `at` along
};
struct Snapped {
    Point at;
    std::vector<SnapLine> lines;
};
// To edges, middles and centres of the props around, and to equal distances from them: the nearest within `tolerance`
// pixels, each way by itself; where there is none `wanted` stays. `kept` are not looked at, as they move along.
Snapped to_props(const level::Project& project, const level::Level& level, const level::Prop& moving,
                 const std::set<level::PropId>& kept, int tolerance);

// What stands in the way of a prop's feet.
enum class InTheWay : std::uint8_t { nothing, another, blocks, beyond };
struct Stand {
    InTheWay way = InTheWay::nothing;
    level::PropId other = 0; // where it is another
};

// A level as something that props are stood in. Made once for many questions; the project must outlive it.
class Ground {
  public:
    // `kept` are not in the way. Nor are plants: they give way. What lies on other storeys than `storey` is not there.
    Ground(const level::Project& project, const level::Level& level, std::set<level::PropId> kept, int storey = 0);

    [[nodiscard]] Stand stand(const level::Prop& prop) const;
    // The nearest place within `most` pixels where nothing is in its way; where it stands, if nothing is there.
    [[nodiscard]] std::optional<Point> nearest_free(const level::Prop& prop, int most) const;
    // Down to where its foot meets what blocks, seen from the side; up where it stands in that. Where nothing is
    // below, and seen from above, onto the floor of its cell.
    [[nodiscard]] Point dropped(const level::Prop& prop) const;
    // The turn with which it lies on the slope below it, within 45°; 0 on level ground and where it may not turn.
    // In tenths of a degree.
    [[nodiscard]] std::int16_t tilt(const level::Prop& prop) const;

  private:
    [[nodiscard]] bool meets_ground(const std::vector<level::Spots>& feet) const;
    [[nodiscard]] std::vector<level::Spots> feet_of(const level::Prop& prop,
                                                    bool flat) const; // that lie flat, or that do not // pixels
    [[nodiscard]] std::vector<level::Spots> all_feet_of(const level::Prop& prop) const;
    [[nodiscard]] std::optional<int> fall(std::vector<level::Spots> feet) const; // pixels down, below 0 up
    const level::Project& project_;
    level::Level level_;
    std::set<level::PropId> kept_;
    level::PropKinds kinds_;
    level::TileTable tiles_;
};

// The prop on the ground, tilted where that slopes and it may be.
level::Prop on_ground(const Ground& ground, level::Prop prop);

// What of the chosen stands in something goes to the nearest free place within eight cells.
struct Pushed {
    level::Level level;
    int moved = 0, stuck = 0; // for the latter there is none
};
Pushed push_free(const level::Project& project, const level::Level& level, const std::set<level::PropId>& props);

// Copies of a prop at places, as their chance varies them; those whose foot would stand in another's or off the level
// are left out. The first gets the id `next_id`.
struct Row {
    level::Level level;
    std::size_t count = 0, obstructed = 0;
    std::uint32_t next_id = 0;
};
struct RowOptions {
    bool drops = false; // onto the ground
    bool along = false; // each turned as the way goes
};
Row row_of(const level::Project& project, const level::Level& level, level::LayerId layer, const level::Prop& like,
           const std::vector<level::Spot>& places, RowOptions options, std::uint32_t next_id);

// Places along a line, the first at its beginning, each `apart` pixels further on the way; the last leaves less than
// that. `smooth`: the line is a curve through its points (E. Catmull, R. Rom, "A class of local interpolating splines",
// 1974). Nothing for no points; apart at least 1.
std::vector<level::Spot> places_along(const std::vector<level::Spot>& line, double apart, bool smooth);

// The turn by which the lower side of a picture, its front, looks from one place to another; by steps of 15° unless
// `freely`. In tenths of a degree.
std::int16_t facing(Point from, Point to, bool freely);

} // namespace vic::edit
