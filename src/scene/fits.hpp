// Which pieces of kits fit where, by their couplings: what closes with what stands beside it.
#pragma once

#include <map>
#include <memory>
#include <optional>
#include <vector>

#include "scene/scene.hpp"

namespace vic::scene {

// What couples on a side of a cell. Sides: 0 north, 1 east, 2 south, 3 west.
struct Joint {
    std::size_t kit = 0;
    int coupling = 0;      // of the kit, from 1; 0: nothing couples there
    bool mirrored = false; // the other half of it
    bool operator==(const Joint&) const = default;
};
// `along`: which cell of that side, from left to right as it is seen from outside.
Joint joint_of(const std::vector<std::shared_ptr<const LoadedKit>>& kits, std::size_t kit, std::size_t piece, Turn turn,
               int side, int along = 0);
// Whether two that meet fit to one another; not where nothing couples.
bool closes(const std::vector<std::shared_ptr<const LoadedKit>>& kits, const Joint& a, const Joint& b);

struct Fit {
    level::TileId tile = 0; // pieces of several cells have one for each turn
    Turn turn;
    int closed = 0; // sides of cells that close
    int open = 0;   // that couple with nothing
    bool operator==(const Fit&) const = default;
};

// Own method. A piece fits where each side of its cells on which a neighbour couples closes with it, and none couples
// otherwise. What lies in its way is not asked: it goes. The project, the level's layer and the kits must outlive it.
class Fits {
  public:
    Fits(const level::Project& project, const std::vector<std::shared_ptr<const LoadedKit>>& kits);
    // All that fit where they are laid in a cell of a layer, whatever stands there now: first those of which the fewest
    // sides stay open, of each piece the first turn of those that are alike. Nothing where no neighbour couples.
    [[nodiscard]] std::vector<Fit> at(const level::Layer& layer, Point cell) const;
    // How the piece that a tile shows is to be laid to fit there: as `turn` where that fits as well as any, else the
    // nearest to it, mirrored as that is. Nothing where it does not fit, or no neighbour couples.
    [[nodiscard]] std::optional<Fit> turned(const level::Layer& layer, Point cell, level::TileId tile, Turn turn) const;
    // The sides of a piece laid there: which would close, and on which a neighbour couples in vain.
    struct Side {
        Point cell;
        int side = 0;
        bool closed = false, missed = false;
    };
    struct Sides {
        std::vector<Side> all; // round its cells: by side, each from left to right as it is seen from outside
        int open = 0;
    };
    [[nodiscard]] Sides sides(const level::Layer& layer, Point cell, level::TileId tile, Turn turn) const;

    // The layers whose pieces count where one lays on a layer: that which lies over it and takes what is see-through,
    // if there is one, then that itself.
    [[nodiscard]] static std::vector<const level::Layer*> layers_for(const level::Level& level, level::LayerId on);

  private:
    struct Known {
        std::size_t kit, piece;
        bool block; // of several cells: it turns by other tiles
        friend auto operator<=>(const Known&, const Known&) = default;
    };
    struct Stands {
        const Known* what = nullptr;
        Box cells;
        Turn turn; // of the piece
    };
    // What stands there, by cell, looked for once.
    using Around = std::map<Point, Stands>;
    [[nodiscard]] const Stands& standing(const level::Layer& layer, Point cell, Around& around) const;
    [[nodiscard]] Stands laid(level::TileId tile, Point at, Turn turn) const;
    [[nodiscard]] Joint joint(const Stands& stands, Point cell, int side) const;
    [[nodiscard]] Sides sides(const level::Layer& layer, const Stands& stands, Around& around) const;
    // The four ways to lay a piece, with how far each is turned; as mirrored as told.
    [[nodiscard]] std::vector<std::pair<level::TileId, Turn>> ways(const Known& known, level::TileId tile,
                                                                   bool mirrored) const;
    const std::vector<std::shared_ptr<const LoadedKit>>& kits_;
    level::TileTable tiles_;
    std::map<level::TileId, Known> known_;
    std::map<Known, std::vector<level::TileId>> tiles_of_;
};

} // namespace vic::scene
