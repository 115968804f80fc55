// What blocks in a level, drawn into samples as dark as need be, with the lines that are crossed one way only.
#pragma once

#include <array>
#include <cstdint>
#include <map>
#include <utility>
#include <vector>

#include "outline/solid.hpp"
#include "walk/bit_rows.hpp"

namespace vic::walk {

// Lines that are crossed one way only: by the row or column of the foot's upper left corner, the stretches in which it
// is stopped.
struct OneWays {
    std::map<int, std::vector<Run>> down, up;                // from this row to the next, to the one before
    std::map<int, std::vector<std::pair<int, bool>>> across; // by row: a place, and whether one is stopped going right
};

class Samples {
  public:
    // `foot`: the box that is moved, in 1/64 cells. `margin`: cells around the level that are drawn, too; there nothing
    // blocks. At most `most` samples: fewer to a cell where the level is very large.
    Samples(const level::Level& level, const outline::Kinds& kinds, Size foot, int margin = 0,
            std::int64_t most = std::int64_t{1} << 28);

    int grain;    // samples of a cell each way: 16, or fewer
    int margin;   // samples around the level
    Size foot;    // in samples, as large as need be
    Bits blocked; // a sample that any of what blocks lies in
    OneWays ways; // with the margin counted

    // After cells of the level became different: as if it were drawn anew. What was drawn around it stays.
    void redraw(const level::Level& level, const outline::Kinds& kinds, const std::vector<Box>& changed);
    // The rows of cells (their top and one more than the last) that it looks at again for those.
    static std::vector<std::pair<int, int>> rows_of(Size cells, const std::vector<Box>& changed);

    [[nodiscard]] int side() const { return outline::kUnit / grain; } // 1/64 cells of a sample
    [[nodiscard]] Size in_samples(Size units) const;
    // Where the upper left corner of a box can be.
    [[nodiscard]] Size places(Size box) const { return {blocked.size.w - box.w + 1, blocked.size.h - box.h + 1}; }
    // The places at which such a box would not have room.
    [[nodiscard]] Bits without_room(Size box) const {
        Bits out = blocked;
        spread_from(out, box);
        return out;
    }

  private:
    void read_rows(const level::Level& level, const outline::Kinds& kinds, int top);
    void gather_ways();
    void read_one_way(Point from, Point to, int looks, OneWays& into);
    void draw(Point cell, outline::SolidCode code, const outline::Forms& forms, OneWays& into);
    const std::array<std::uint16_t, 16>& mask(outline::SolidCode code, const outline::Forms& forms);
    std::map<outline::SolidCode, std::array<std::uint16_t, 16>> masks_; // of the rows at hand
    std::vector<OneWays> ways_of_;                                      // by rows that are read together
};

} // namespace vic::walk
