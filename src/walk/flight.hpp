// Flying over samples: all places at once that a walker can be at. Only for src/walk.
#pragma once

#include <algorithm>
#include <array>
#include <climits>
#include <cstdint>
#include <functional>
#include <utility>
#include <vector>

#include "level/walker.hpp"
#include "walk/samples.hpp"

namespace vic::walk {

// Places in one row, as bits between two words.
struct Row {
    std::vector<std::uint64_t> bits;
    std::size_t lo = 0, hi = 0; // words in which any may be set: lo .. hi - 1

    explicit Row(std::size_t words) : bits(words) {}
    void clear();
    void trim();
    void set(int x) { set(x, x + 1); }
    void set(int from, int to); // to: one more than the last
    [[nodiscard]] bool any() const;
};

// Where the walker's upper left corner has room, is held up, swims or climbs; rows are those of the corner.
struct Places {
    Size size;
    Bits room, held, floats; // held: room, and none below; floats: room, within a ladder or a water
    Bits drops;              // of those held: by a one-way edge alone
    Bits holds;              // stopped by a one-way edge on the way down, whether or not there is room
};

// How high the walker is after each tick, in whole samples from where he began, downwards.
struct Profile {
    std::vector<int> row;     // row[0] = 0
    std::vector<char> rising; // whether the tick that leads there goes up, and he can be let fall at its end
    // Beyond the last entry he falls so many samples a tick, in 1/1024.
    int last = 0;
};

// Which words of a raster are not all 0, so that whole rows are passed over at once.
class Summary {
  public:
    Summary(const Bits& bits, bool inverted);
    void follow(int y0, int y1); // rows y0 .. y1 - 1 have changed
    [[nodiscard]] bool any(int y, std::size_t lo, std::size_t hi) const {
        const std::uint64_t* const row = of_.data() + static_cast<std::size_t>(y) * words_;
        for (; lo < hi; lo = (lo / 64 + 1) * 64) {
            std::uint64_t word = row[lo / 64] >> (lo % 64);
            const std::size_t count = std::min(hi - lo, 64 - lo % 64);
            if (count < 64) word &= (std::uint64_t{1} << count) - 1;
            if (word != 0) return true;
        }
        return false;
    }

  private:
    const Bits& bits_;
    bool inverted_;
    std::size_t words_;
    std::vector<std::uint64_t> of_;
};

// For each word of a raster the next row, from one on downwards, in which it is not 0, so that rows are passed over at
// once on the way down.
class Below {
  public:
    explicit Below(const Bits& bits);
    void follow(int y0, int y1); // rows y0 .. y1 - 1 have changed
    // The first row from y on in which any of the words is not 0; the number of rows where there is none.
    [[nodiscard]] int first(int y, std::size_t lo, std::size_t hi) const {
        const std::int32_t* const row = rows_.data() + static_cast<std::size_t>(y) * bits_.words;
        std::int32_t out = bits_.size.h;
        for (; lo < hi; ++lo) out = std::min(out, row[lo]);
        return out;
    }

  private:
    bool take(int y); // whether anything of it is different now
    const Bits& bits_;
    std::vector<std::int32_t> rows_; // as many as the raster has words
};

class Flights {
  public:
    Flights(const Places& places, const level::Walker& walker, int grain);

    // All that can be reached through the air from the places of a row: `landed(row, x from, x to)` for each stretch
    // where he lands or comes to float.
    using Landed = std::function<void(int y, int from, int to)>;
    // Jumps from there, held to the ground or to a ladder before.
    void jump(int y, const Row& from);
    // Falls from there, at rest; with grace he still jumps on the way.
    void fall(int y, const Row& from, bool grace);
    // Whether any place of that box is come to from now on, is told by seen().
    void watch(const Box& box) {
        watched_ = box;
        seen_ = false;
    }
    [[nodiscard]] bool seen() const { return seen_; }
    // Rows y0 .. y1 - 1 of the places have changed; nothing is begun.
    void follow(int y0, int y1);
    // Words (x) and rows (y) of the places that the flights since the last call could look at: those that they came to,
    // and beside them.
    Box looked_at() {
        const Seen s = std::exchange(seen_at_, Seen{});
        if (s.lo >= s.hi) return {};
        return {static_cast<int>(s.lo) - 1, s.top - 1, static_cast<int>(s.hi - s.lo) + 2, s.bottom - s.top + 3};
    }
    // Plays all that was begun.
    void run(const Landed& landed);

  private:
    enum class Kind : std::uint8_t { jump, off_left, off_right, fall };
    struct Flight {
        Kind kind;
        bool grace;
        int y;
        Row row;
    };
    void begin(Kind kind, int y, const Row& from, bool grace);
    void play(Flight& flight, const Landed& landed);
    void on_the_way(const Row& row, int y, const Landed& landed);
    [[nodiscard]] int samples_in(std::size_t tick) const;
    Row fresh(); // empty
    void put_back(Row row);
    void spread(Row& row, int y, int by) const;
    void shift(Row& row, int y, int by) const; // to the left where negative
    bool step_down(Row& row, int& y, int to, const Landed& landed);
    void step_up(Row& row, int& y);
    void off_walls(const Row& row, int y);
    [[nodiscard]] const Profile& profile(Kind kind) const;

    const Places& places_;
    Below held_;
    Summary no_room_;
    bool floats_any_ = false;
    Box watched_; // empty: nothing is
    struct Seen {
        std::size_t lo = SIZE_MAX, hi = 0; // words
        int top = INT_MAX, bottom = 0;     // rows
    };
    Seen seen_at_;
    void note(std::size_t lo, std::size_t hi, int top, int bottom) {
        seen_at_.lo = std::min(seen_at_.lo, lo);
        seen_at_.hi = std::max(seen_at_.hi, hi);
        seen_at_.top = std::min(seen_at_.top, top);
        seen_at_.bottom = std::max(seen_at_.bottom, bottom);
    }
    bool seen_ = false;
    void look(const Row& row, int y);
    bool wall_jumps_ = false, cuts_ = false;
    int grace_ = 0;          // ticks
    int least_ = 0;          // samples that a jump rises at least
    double pace_ = 0;        // samples a tick
    std::vector<int> aside_; // whole samples in each of the first ticks
    Profile jump_, off_, fall_;
    static constexpr std::size_t kKinds = 5; // grace apart
    std::array<std::vector<Flight>, kKinds> open_;
    std::array<std::vector<std::int32_t>, kKinds> open_at_; // by row: the last of those that are open there, or -1
    std::vector<Bits> begun_;                               // by kind
    struct Touched {
        std::size_t which;
        int y;
        std::size_t lo, hi;
    };
    std::vector<Touched> touched_; // of begun_
    std::vector<std::uint64_t> scratch_;
    std::vector<Row> spare_;
};

} // namespace vic::walk
