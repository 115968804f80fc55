// Which pieces of kits fit where, by their couplings: what closes with what stands beside it.
#pragma once

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
};
Joint joint_of(const std::vector<std::shared_ptr<const LoadedKit>>& kits, std::size_t kit, std::size_t piece, Turn turn,
               int side);
// Whether two that meet fit to one another; not where nothing couples.
bool closes(const std::vector<std::shared_ptr<const LoadedKit>>& kits, const Joint& a, const Joint& b);

struct Fit {
    level::TileId tile = 0;
    Turn turn;
    int closed = 0; // sides that close
    int open = 0;   // that couple with nothing
    bool operator==(const Fit&) const = default;
};

// Own method. A piece fits where each side on which a neighbour couples closes with it, and none couples otherwise.
// Only pieces of one cell are looked at, as what fits and as neighbours. The project, the level's layer and the kits
// must outlive it.
class Fits {
  public:
    Fits(const level::Project& project, const std::vector<std::shared_ptr<const LoadedKit>>& kits);
    // All that fit in a cell of a layer, whatever stands there now: first those of which the fewest sides stay open, of
    // each piece the first turn of those that are alike. Nothing where no neighbour couples.
    [[nodiscard]] std::vector<Fit> at(const level::Layer& layer, Point cell) const;
    // How the piece that a tile shows is to be turned to fit there: as `turn` where that fits as well as any, else the
    // nearest to it, mirrored as that is. Nothing where it does not fit, or no neighbour couples.
    [[nodiscard]] std::optional<Turn> turn_for(const level::Layer& layer, Point cell, level::TileId tile,
                                               Turn turn) const;
    // The sides of a piece laid there that would close, and those on which a neighbour couples in vain.
    struct Sides {
        std::array<bool, 4> closed{}, missed{};
        int open = 0;
    };
    [[nodiscard]] Sides sides(const level::Layer& layer, Point cell, level::TileId tile, Turn turn) const;

    // The layers whose pieces count where one lays on a layer: that which lies over it and takes what is see-through,
    // if there is one, then that itself.
    [[nodiscard]] static std::vector<const level::Layer*> layers_for(const level::Level& level, level::LayerId on);

  private:
    struct Known {
        std::size_t kit, piece;
    };
    [[nodiscard]] std::array<Joint, 4> beside(const level::Layer& layer, Point cell) const;
    [[nodiscard]] Sides sides(const std::array<Joint, 4>& beside, const Known& known, Turn turn) const;
    const std::vector<std::shared_ptr<const LoadedKit>>& kits_;
    std::map<level::TileId, Known> single_; // pieces of one cell
};

} // namespace vic::scene
