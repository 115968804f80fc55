// What Reach is made of. Only for src/walk.
#pragma once

#include <array>
#include <memory>
#include <utility>
#include <vector>

#include "base/parallel.hpp"
#include "walk/flight.hpp"
#include "walk/jump.hpp"
#include "walk/reach.hpp"
#include "walk/samples.hpp"

namespace vic::walk {

inline constexpr std::size_t kNoLedge = static_cast<std::size_t>(-1);

struct Reach::Inside {
    Inside(const level::Project& project, const level::Level& level);

    // --- Made once.
    Samples samples;
    level::Walker walker;
    std::array<bool, 4> leads{};
    std::vector<Box> exits; // places of exits, 1/64 cells
    Size cells;
    Bits swims, climbs; // places of the corner, whether or not there is room
    bool floats_any = false;
    struct Area { // what is swum in or climbed
        level::AreaKindId kind;
        bool water;
        Samples there;
    };
    std::vector<Area> areas;
    std::vector<level::AreaKindId> ways_out; // areas that are exits

    // --- Follows from the samples.
    Places places;
    std::array<std::unique_ptr<Flights>, kMostWorkers> flights; // one for each thread, made when it is needed
    std::unique_ptr<Runs> held, floats;
    std::vector<std::size_t> ledge_of_held, ledge_of_float;        // by run
    std::vector<std::vector<std::pair<int, std::size_t>>> runs_of; // by ledge: row and run
    std::vector<Ledge> ledges;
    std::vector<Strip> strips;
    std::vector<char> played;   // by ledge: whether `to` is known
    std::vector<Box> looked_at; // likewise: the words (x) and rows (y) of places on which that rests
    std::size_t start = kNoLedge;
    std::vector<Position> arc; // of a jump, far down

    void find_places(int y0, int y1);  // rows y0 .. y1 - 1
    void find_room(int y0, int y1);    // what of it needs only these rows
    void find_footing(int y0, int y1); // and what needs the room of the row below them, too
    void take_areas(int y0, int y1);   // likewise, from the areas' samples
    void find_exits(const level::Project& project, const level::Level& level);
    void find_ledges();
    void measure();
    void play(std::size_t ledge, int worker);
    Flights& flights_of(int worker);
    void search(const level::Level& level);
    void leave_rim();
    // Takes over of what was known what a change within the box (words, rows) cannot have touched.
    struct Before { // a change
        std::vector<Ledge> ledges;
        std::vector<std::vector<std::pair<int, std::size_t>>> runs_of;
        std::vector<char> played;
        std::vector<Box> looked_at;
        std::unique_ptr<Runs> held, floats;
    };
    void take_over(Before before, const Box& changed);
    void find_ways_back();
    template <class Landed>
    void each_landing(std::size_t ledge, Flights& fly, const Landed& landed);
    [[nodiscard]] std::size_t ledge_at(int y, int x) const; // kNoLedge where it is no place of a ledge
    [[nodiscard]] std::size_t under(Point place) const;
    [[nodiscard]] int side() const { return samples.side(); }
    // The middle of the foot at a corner's place, in 1/64 cells.
    [[nodiscard]] int middle(int x) const { return (x - samples.margin) * side() + samples.foot.w * side() / 2; }
    [[nodiscard]] int foot(int y) const { return (y - samples.margin + samples.foot.h) * side(); }
    [[nodiscard]] Strip strip(int y, const Run& run, std::size_t ledge) const {
        return {foot(y), middle(run.from), middle(run.to - 1) + 1, ledge};
    }
    [[nodiscard]] bool body_touches(const Strip& s, const Box& place) const {
        const int half = walker.width / 2;
        return s.from - half < place.right() && s.to + half > place.x && s.y - walker.height < place.bottom() &&
               s.y > place.y;
    }
};

} // namespace vic::walk
