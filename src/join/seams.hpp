// How well tiles meet at their borders.
//
// Own measure. Two tiles that join go on into each other: the last line of pixels of the one and the first of the other
// differ no more than neighbouring lines within the tiles do. The error of a seam is the mean colour distance across
// it, each pixel compared with the nearest of the three that it meets, less what the tiles themselves show between
// their last two lines; 0 where nothing shows, 1 where the two have nothing in common.
#pragma once

#include <array>
#include <map>
#include <memory>
#include <vector>

#include "base/image.hpp"
#include "join/mask.hpp"
#include "level/project.hpp"

namespace vic::join {

// The four borders of a picture as it is laid: 0 north, 1 east, 2 south, 3 west.
struct Borders {
    struct Line {
        std::vector<std::array<float, 4>> edge,
            inner; // premultiplied colours, 0 .. 255; the last line and the one inside
    };
    std::array<Line, 4> side;
};
Borders borders_of(const Image& laid);

// 0 .. 1; `b` lies on side `side` (0 north … 3 west) of `a`. 1 where their sizes do not fit.
double seam_error(const Borders& a, const Borders& b, int side);
// How unlike the same side of two tiles looks, 0 .. 1.
double unlike_side(const Borders& a, const Borders& b, int side);

// The picture of a tile as it is laid.
Image laid_art(const Image& art, Turn turn);

// Seams between tiles of a project; pictures are looked at once.
class Seams {
  public:
    explicit Seams(const level::Project& project) : table_(project) {}
    // 0 .. 1; 0 where either cell has no picture.
    double error(level::Cell a, level::Cell b, int side);
    // Null where the cell has no picture.
    const Borders* borders(level::Cell cell);

  private:
    bool isometric(const level::Sheet& sheet); // art of isometric tiles is compared as the ground it shows
    level::TileTable table_;
    std::map<level::SheetId, bool> isometric_;
    std::map<std::uint32_t, std::unique_ptr<Borders>> known_; // by tile and turn
};

// Pairs of tiles of a set that can meet and whose seam shows, the worst first. Each case is looked at with every case
// that can lie east or south of it.
struct BadSeam {
    level::Variant a, b;
    Mask of_a = 0, of_b = 0;
    int side = 0; // 1: b lies east of a; 2: south
    double error = 0;
};
struct SeamReport {
    std::int64_t pairs = 0; // pairs of tiles that can meet
    double mean = 0;        // over all of them
    double worst = 0;
    std::vector<BadSeam> bad; // with an error of at least `from`, at most 64
};
SeamReport seam_report(const level::Project& project, const level::JoinSet& set, double from);

// Whether a cell of case `a` can have one of case `b` on its side 1 (east) or 2 (south), both of the same material.
bool can_meet(level::JoinKind kind, Mask a, Mask b, int side);

// A tile that might serve a case, and how well it would.
struct Candidate {
    level::Variant variant;
    double fit = 0; // 0 .. 1
    bool operator==(const Candidate&) const = default;
};
// Of the set's cases the first few variants are compared: those of one case are alike at their sides.
// A turned tile counts as fitting a little worse: light and texture turn with it. Tiles of `sheets` in the turns that
// `turns` and the tile itself allow, best fit first, at most `most`. A side that joins is compared with what `around`
// holds there (empty cells are passed over), or with the set's own tiles where nothing is given; a side that does not
// join with how the set's other tiles look on such a side.
std::vector<Candidate> candidates(const level::Project& project, const level::JoinSet& set, Mask mask,
                                  const std::vector<level::SheetId>& sheets, std::uint8_t turns,
                                  const std::array<level::Cell, 4>& around, std::size_t most);

} // namespace vic::join
