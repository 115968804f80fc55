// Islands: the loose pictures of an irregular sheet, as boxes round connected pixels.
//
// Own method. Pixels that are not ground are labelled by connected component (all eight neighbours). A wave from all
// components at once (chessboard distance) meets between neighbours and gives the number of ground pixels between each
// two; joining them in ascending order answers every join gap without another look at the picture. The proposed gap is
// the one from which on the number of islands stays the same longest; the proposed least area lies where the areas of
// small components make their largest jump.
#pragma once

#include <optional>
#include <vector>

#include "base/image.hpp"

namespace vic::sheet {

struct IslandSettings {
    int join_gap = 0;   // ground pixels up to which two parts belong together, 0 .. 64
    int least_area = 1; // pixels below which an island is a speck, at least 1
    bool operator==(const IslandSettings&) const = default;
};

class IslandMap {
  public:
    IslandMap() = default;
    explicit IslandMap(const Image& image);

    [[nodiscard]] IslandSettings proposed() const { return proposed_; }
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
    [[nodiscard]] std::vector<Group> groups(int join_gap) const;
    void propose();

    std::vector<Part> parts_;
    std::vector<Neighbours> neighbours_; // by ascending gap
    IslandSettings proposed_;
};

// What is ground: see-through where the picture has any such pixel, else the commonest colour along its rim.
Rgba ground_of(const Image& image);

} // namespace vic::sheet
