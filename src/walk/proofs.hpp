// Tries that are kept: recorded while one walks, and played again without a window to see whether they still hold.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "level/walker.hpp"
#include "walk/world.hpp"

namespace vic::walk {

// What was held down and where that led, tick by tick.
class Recorder {
  public:
    explicit Recorder(Position from) : from_(from), way_{from} {}
    void note(const Input& input, Position foot); // after each tick
    [[nodiscard]] int ticks() const { return ticks_; }
    [[nodiscard]] bool full() const { return ticks_ >= level::kMostProofTicks; }
    [[nodiscard]] Position from() const { return from_; }
    [[nodiscard]] const std::vector<Position>& way() const { return way_; } // every sixth tick, from the beginning on
    // What was done so far, without an id. `mark`: what it is to touch; empty: it is to end where this did.
    [[nodiscard]] level::Proof proof(const std::string& name, const std::string& mark) const;

  private:
    Position from_, last_{};
    int ticks_ = 0;
    std::vector<level::Held> held_;
    std::vector<Position> way_;
};

// As parcels have it.
vicinum::Proof as_built(const level::Proof& proof);
// The mark that ends a level and that has been touched; empty where none has.
std::string exit_touched(const vicinum::Level& level, const World& world);

struct Proved {
    bool holds = false;
    int ticks = 0; // that were played
    Position at;   // where it ended, or
    // where it went astray: the first place more than a cell from where it had been, with that and its tick.
    std::optional<Position> was;
    int astray = 0;
};
Proved prove(const vicinum::Level& level, const vicinum::Proof& proof);

// Whether a probe is as it must be: the walker has no room there, or has.
bool holds(const World& world, const vicinum::Probe& probe);

} // namespace vic::walk
