// Where one can be in a level of kit pieces, floor over floor: places to stand on, and what leads from one to the next.
// All lengths are in 1/64 cells, heights too.
#pragma once

#include <cstdint>
#include <memory>
#include <optional>
#include <vector>

#include "level/depth.hpp"
#include "mass/merge.hpp"
#include "mass/plain.hpp"

namespace vic::upright {

// Whoever walks.
struct Body {
    int wide = 1, tall = 1;
    int step = 0;   // that it goes up
    int jump = 0;   // that it gets up by a jump; at least `step`
    int drop = 0;   // that it goes down
    int slope = 90; // degrees that it walks up
    bool operator==(const Body&) const = default;
};
inline constexpr int kMostWide = 128; // what is wider counts as so wide: looking about costs the square of it
// `metres`: of a cell.
Body body_of(const level::Upright& upright, double metres);

// Own method. Slabs are drawn as rasters of 8 samples a cell, fewer in very large levels; what is thinner, as a rail,
// as one sample. Of each column of samples the tops on which something is free are kept, with how much. A place is
// clear where nothing within the body's width stands higher than a step, or lower than its head. What is flat and
// blocks fills its place, and nobody stands on it.
class Ground {
  public:
    struct Place {
        int x = 0, y = 0;   // sample
        int height = 0;     // that one stands at
        int head = 0;       // free above it; kFree: all
        bool clear = false; // a body has room, and it is not too steep for it
        int slope = 0;      // degrees by which it leans, where it is a ramp
    };
    static constexpr int kFree = 1 << 20;

    Ground(const mass::Mass& mass, const mass::Plain& plain, const Body& body);

    [[nodiscard]] const Body& body() const { return body_; }
    [[nodiscard]] int side() const { return side_; }                           // of a sample
    [[nodiscard]] Size samples() const { return size_; }                       // of the level
    [[nodiscard]] const std::vector<Place>& places() const { return places_; } // by column, from below
    // The places of a column, as [first, last); none outside the level.
    [[nodiscard]] std::pair<std::size_t, std::size_t> column(Point sample) const;
    // The clear place nearest to there, no further than a cell; up and down counts twice.
    [[nodiscard]] std::optional<std::size_t> near(Point at, int height) const;
    // visit(number of a place) for all clear ones to which a way leads from that one: a step or a slope to the column
    // beside it, and off an edge or up on one by a jump as far as the body is wide.
    template <class Visit>
    void each_next(std::size_t from, const Visit& visit) const {
        each_beside(from, [&](std::size_t to, int away) {
            if (leads(places_[from], places_[to], away)) visit(to);
        });
    }
    // Likewise all clear ones from which a way leads to that one.
    template <class Visit>
    void each_before(std::size_t to, const Visit& visit) const {
        each_beside(to, [&](std::size_t from, int away) {
            if (leads(places_[from], places_[to], away)) visit(from);
        });
    }
    // The middle of a place.
    [[nodiscard]] Point middle(const Place& p) const { return {p.x * side_ + side_ / 2, p.y * side_ + side_ / 2}; }

  private:
    template <class Visit>
    void each_beside(std::size_t place, const Visit& visit) const {
        const Place& p = places_[place];
        const int most = body_.wide / 2 / side_ + 2;
        for (const Point by : {Point{1, 0}, Point{-1, 0}, Point{0, 1}, Point{0, -1}})
            for (int away = 1; away <= most; ++away) {
                const auto [first, last] = column({p.x + by.x * away, p.y + by.y * away});
                for (std::size_t i = first; i < last; ++i)
                    if (places_[i].clear) visit(i, away);
            }
    }
    [[nodiscard]] bool leads(const Place& from, const Place& to, int away) const;
    void stand(const mass::Mass& mass, const mass::Plain& plain);
    void find_clear();
    Body body_;
    int side_ = 8;
    Size size_;
    std::vector<Place> places_;
    std::vector<std::uint32_t> first_; // by column, and the end
};

enum class Wet : std::uint8_t { dry, reached, no_way_back };
struct Soaked {
    std::vector<Wet> wet;            // by place
    std::optional<std::size_t> from; // none where there is no room at the start
    [[nodiscard]] bool at(std::size_t place) const { return place < wet.size() && wet[place] != Wet::dry; }
};
// From a place: all that one gets to, and whether from there back.
Soaked soak(const Ground& ground, std::optional<std::size_t> from);

} // namespace vic::upright
