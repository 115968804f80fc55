// Islands: the loose pictures of an irregular sheet, as boxes round connected pixels.
//
// Own method. Pixels that are not ground are labelled by connected component (all eight neighbours). A wave from all
// components at once (chessboard distance) meets between neighbours and gives the number of ground pixels between each
// two; joining them in ascending order answers every join gap without another look at the picture. The proposed gap is
// the one from which on the number of islands stays the same longest; the proposed least area lies where the areas of
// small components make their largest jump. Where the sheet has a lattice whose cells things keep within, parts of one
// cell belong together, however far apart, and those of two never do, though they touch.
#pragma once

#include <optional>
#include <vector>

#include "base/image.hpp"
#include "level/sheet.hpp"

namespace vic::sheet {

struct IslandSettings {
    int join_gap = 0;   // ground pixels up to which two parts belong together, 0 .. 64
    int least_area = 1; // pixels below which an island is a speck, at least 1
    bool cells = false; // what lies in one cell of the lattice is one, whatever it touches
    bool operator==(const IslandSettings&) const = default;
};

class IslandMap {
  public:
    IslandMap() = default;
    // `lattice`: as far as the picture is read to have one. It counts where nearly all things keep within its cells.
    explicit IslandMap(const Image& image, std::optional<level::Cut> lattice = {});

    [[nodiscard]] IslandSettings proposed() const { return proposed_; }
    // Whether things keep within cells, so that IslandSettings::cells says something.
    [[nodiscard]] bool has_cells() const { return !cells_.empty(); }
    // The boxes of the islands in reading order (by rows of islands, then from the left).
    [[nodiscard]] std::vector<Box> boxes(const IslandSettings& settings) const;
    // How many islands the least area leaves out.
    [[nodiscard]] int specks(const IslandSettings& settings) const;

  private:
    struct Part {
        Box box;
        int area = 0;
    };
    struct Neighbours {
        int a, b;
        int gap;
    };
    struct Group {
        Box box;
        int area = 0;
    };
    [[nodiscard]] std::vector<Group> groups(int join_gap, bool cells = false) const;
    void find_cells(const level::Cut& lattice, const Image& image);
    void propose();

    std::vector<Part> parts_;
    std::vector<Neighbours> neighbours_; // by ascending gap
    std::vector<Group> cells_;           // what each cell of the lattice that holds anything holds
    IslandSettings proposed_;
};

// What is ground: see-through where the picture has any such pixel, else the commonest colour along its rim.
Rgba ground_of(const Image& image);

} // namespace vic::sheet
