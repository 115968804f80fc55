// Places set out by chance, none nearer to another than both ask, and where that is wanted so many that there is no
// room for one more.
//
// The plane is cut into tiles, and the tiles into cells so small that no two places fit into one. Tiles are settled in
// four rounds, each taking every other tile of every other row: those of one round are too far from each other to
// meddle, and each sees of its neighbours only what earlier rounds settled. So it does not matter in which order, or by
// how many threads, the tiles of a round are settled; and a tile is settled anew only where what it sees has changed.
// Within a tile each cell gets one dart, in an order that is the same for all; then the boxes that are still open get
// one each and are quartered, until none is open or they are single pixels.
// Sources: L.-Y. Wei, "Parallel Poisson disk sampling", SIGGRAPH 2008 (tiles in rounds); K. B. White, D. Cline and P.
// K. Egbert, "Poisson disk point sets by hierarchical dart throwing", 2007, and M. S. Ebeida et al., "A simple
// algorithm for maximal Poisson-disk sampling in high dimensions", Eurographics 2012 (quartering what is open until
// nothing is).
#pragma once

#include <cstdint>
#include <memory>
#include <unordered_map>
#include <vector>

#include "base/geometry.hpp"

namespace vic::plant {

inline constexpr int kParts = 16;       // distances are in 1/16 pixels
inline constexpr int kMostApart = 4096; // pixels

// What is set out, and how far apart. Two places are at least half the sum of their distances apart, so that equal ones
// are as far apart as they say.
struct Spread {
    struct Kind {
        std::uint32_t weight = 1; // how often it is chosen beside the others; one at least is above 0
        int apart = kParts;       // 1/16 pixels, at 100 per cent; 1 .. 4096 pixels
        int foot = 0;             // the same from obstacles; 0: as far as from each other
    };
    std::uint64_t seed = 1;
    std::vector<Kind> kinds; // 1 .. 255
    int least = 100;         // per cent: how large they are, by chance from least to most, and with that how far apart
    int most = 100;
    int rim = 100; // per cent of that at the rim of the ground, going over into 100 inside; 10 .. 1000
};

// A place, and what stands there.
struct Stand {
    Point at;
    int kind = 0; // of the spread's
    int scale = 100;
    int apart = kParts;       // 1/16 pixels, at its scale
    std::uint32_t chance = 0; // a hash of its own, for what else is left to chance
    bool operator==(const Stand&) const = default;
};

// What keeps places off: half the sum of both, of what stands there its foot. Pixels.
struct Obstacle {
    Point at;
    int apart = kParts; // 1/16 pixels
};
class Obstacles {
  public:
    void add(const Obstacle& obstacle);
    [[nodiscard]] bool empty() const { return buckets_.empty(); }
    [[nodiscard]] int most_apart() const { return most_; }
    // Those that lie in the box, and perhaps a few around it.
    void in(const Box& pixels, std::vector<Obstacle>& out) const;

  private:
    std::unordered_map<std::uint64_t, std::vector<Obstacle>> buckets_;
    int most_ = 0;
};

// Where places may be: a raster of samples, each of grain() × grain() pixels, sample 0, 0 at pixel 0, 0. Asked by
// several threads at once; the same place must get the same answer.
class Ground {
  public:
    virtual ~Ground() = default;
    [[nodiscard]] virtual int grain() const = 0;
    enum class Open : std::uint8_t { none, all, some };
    // Of a box of samples, row by row: 0 where no place may be. Where the answer is none or all `out` is not touched.
    virtual Open open(const Box& samples, std::uint8_t* out) const = 0;
    // How far inside the ground: 0 at the rim, 255 well inside. Asked only of a spread whose rim is not as the rest.
    virtual void inside(const Box& samples, std::uint8_t* out) const;
    // The kind that alone may stand there; -1: any, by their weights.
    [[nodiscard]] virtual int kind_at(Point pixel) const;
};

class Scatter {
  public:
    // Of what lies in `pixels`.
    Scatter(Spread spread, const Box& pixels);
    ~Scatter();
    Scatter(Scatter&&) noexcept;
    Scatter& operator=(Scatter&&) noexcept;

    // Settles all tiles. `threads`: whether two work at it.
    void settle(const Ground& ground, const Obstacles& obstacles, bool threads = true);
    // After ground or obstacles changed in these boxes, as after settle() with the new ones: what lies further away
    // than reach() stays where it is. Returns the boxes of tiles in which something changed.
    std::vector<Box> settle_again(const Ground& ground, const Obstacles& obstacles, const std::vector<Box>& changed,
                                  bool threads = true);
    // Pixels from a change beyond which nothing follows from it.
    [[nodiscard]] int reach() const;
    [[nodiscard]] Size tile() const; // pixels

    // All that lie in the box, tile by tile.
    void in(const Box& pixels, std::vector<Stand>& out) const;
    [[nodiscard]] std::vector<Stand> all() const;
    [[nodiscard]] std::size_t count() const;

  private:
    struct Inner;
    std::unique_ptr<Inner> inner_;
};

} // namespace vic::plant
