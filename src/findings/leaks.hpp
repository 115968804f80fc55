// Where a level leaks, and what in it no one gets to: what soaking it from its start shows, and in a level seen from
// the side, where it depends on how far one jumps, Reach.
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "findings/finding.hpp"
#include "walk/reach.hpp"
#include "walk/soak.hpp"

namespace vic::findings {

struct Leak {
    enum class Kind : std::uint8_t {
        shut_in, // there is no room at the start
        rim,     // one gets out over a side where nothing leads on
        mark,    // a mark that one does not get to
        telling, // one walks on what is called water, or a wall
        dry,     // one could walk there, and does not get there
        ledge,   // seen from the side: a ledge that is nearly reached
        trap,    // likewise: one gets there, and neither back nor on to an exit
        // What looks otherwise than it is, see findings/looks.hpp.
        unheard, // a shape on layers that do not block
        solid,   // it is called ground or wall, and is in nobody's way
        usable,  // a kind of props of whose use the game is told nothing
        gap,     // of one cell in a row of blockers
    };
    Kind kind = Kind::rim;
    Box cells;     // where
    int side = -1; // of a rim: 0 north .. 3 west
    level::MarkId mark = 0;
    level::MaterialId material = 0; // of what is told
    std::vector<Box> rims;          // of a side: all cells over which one gets out
    Text brief;                     // what it is, in a few words
    Text what;
    Text remedy;
    std::optional<Point> fill{};        // the cell that brings a ledge or mark within reach
    std::optional<walk::Shift> shift{}; // or how what the ledge lies on is moved for that
    level::LayerId layer = 0;           // of what looks otherwise: where it lies
    level::TileId tile = 0;             // which, if it is of no material
    level::PropKindId prop = 0;         // of what is usable
    std::string word{};                 // likewise: by which its name says so
};

// In order of how much they matter. `soaked` must be of this level, from its start.
std::vector<Leak> leaks(const level::Project& project, const level::Level& level, const walk::Soaked& soaked);
// Of a level seen from the side, likewise. `remedies`: whether cells that would mend it are looked for, which takes
// longer than all else.
std::vector<Leak> leaks(const level::Project& project, const level::Level& level, const walk::Reach& reach,
                        bool remedies);
// The same, soaked or reached for it; none for levels without a start.
std::vector<Leak> leaks(const level::Project& project, const level::Level& level, bool remedies = false);

// What a ledge lacks, in cells: "0.6 too high", "1.2 too far", or both.
Text lack_text(const walk::Reach::Lack& lack);

Finding finding_of(const level::Level& level, const Leak& leak);

// For levels that are asked for again and again: one is soaked anew only where what it follows from has changed.
class LeakChecker {
  public:
    const std::vector<Leak>& of(const level::Project& project, const level::Level& level);
    // Probes and proofs that fail; likewise.
    const std::vector<Finding>& tries(const level::Project& project, const level::Level& level);

  private:
    struct Known;
    Known& known(const level::Project& project, const level::Level& level);
    struct Known {
        level::Level level;
        std::vector<std::shared_ptr<const level::Sheet>> sheets;
        std::vector<std::shared_ptr<const level::Material>> materials;
        std::vector<std::shared_ptr<const level::PropKind>> kinds;
        std::vector<level::AreaKind> areas;
        std::vector<level::Mover> movers;
        std::vector<Finding> tries;
        std::vector<Leak> leaks;
    };
    std::vector<Known> known_;
};

} // namespace vic::findings
