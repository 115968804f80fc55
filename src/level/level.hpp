// A level: layers back to front around the walker's plane, with its marks, frame and walker.
#pragma once

#include <array>
#include <map>
#include <memory>
#include <optional>
#include <string>
#include <variant>
#include <vector>

#include "base/image.hpp"
#include "base/lattice.hpp"
#include "level/area_kind.hpp"
#include "level/backdrop.hpp"
#include "level/blockers.hpp"
#include "level/depth.hpp"
#include "level/facts.hpp"
#include "level/grain.hpp"
#include "level/grid.hpp"
#include "level/limits.hpp"
#include "level/notes.hpp"
#include "level/plan.hpp"
#include "level/planting.hpp"
#include "level/prop_kind.hpp"
#include "level/props.hpp"
#include "level/shape.hpp"
#include "level/sheet.hpp"
#include "level/walker.hpp"

namespace vic::level {

using MarkId = std::uint32_t;

// What the kinds of layers hold.
struct TileCells {
    Grid grid;
    bool solid = false;     // whether the shapes of its tiles block
    Grain grain{};          // what blocks is not finer than the level
    LayerId overlay_of = 0; // the layer whose see-through tiles it takes; 0 for none
};

struct PlacedProps {
    Props props;
};

struct PlantedProps {
    Props props; // that came of the recipe; those of pass 0 were placed or changed by hand, and stay
    Planting recipe;
};

enum class LayerKind : std::uint8_t { tiles, props, backdrop, blockers, planting, facts };
using LayerContent =
    std::variant<TileCells, PlacedProps, Backdrop, Blockers, PlantedProps, Facts>; // in the order of LayerKind
// What the numbers of cells stand for.
enum class CellsAre : std::uint8_t { tiles, shapes, values };
// What a new layer of the kind holds: nothing. Where the kind has cells, it has as many as the level: `cells`.
LayerContent empty_content(LayerKind kind, Size cells);

inline constexpr int kMostStorey = 63;
inline constexpr int kMostStoreyHeight = 64 * 64; // 1/64 cells

struct Layer {
    LayerId id = 0;
    std::string name;
    bool shown = true;
    bool locked = false;
    std::string collision_class;   // of those that block: what the engine tells masses apart by; may be empty
    int opacity = 100;             // per cent
    Rgba tint{255, 255, 255, 255}; // multiplied with what lies on it; tiles and props only, its alpha is not used
    Point parallax{100, 100};      // per cent: how far it goes along with the level when the frame moves; 0 .. 400
    Point shift{0, 0};             // half cells, -1 .. 1 each
    bool by_feet = false; // of tiles and props, in levels from above: what stands up on it and on its neighbours that
                          // are so, too, is drawn in the order of their feet, the walker among them
    std::string group;    // "Shore/Plants": what the Section folds together; may be empty
    int storey = 0;       // on which of the level's storeys it lies, 0 the lowest .. kMostStorey
    LayerContent content;

    [[nodiscard]] LayerKind kind() const { return static_cast<LayerKind>(content.index()); }
    [[nodiscard]] const TileCells* tiles() const { return std::get_if<TileCells>(&content); } // null of other kinds
    [[nodiscard]] TileCells* tiles() { return std::get_if<TileCells>(&content); }
    [[nodiscard]] const Blockers* blockers() const { return std::get_if<Blockers>(&content); } // null of other kinds
    [[nodiscard]] Blockers* blockers() { return std::get_if<Blockers>(&content); }
    [[nodiscard]] const Facts* facts() const { return std::get_if<Facts>(&content); } // null of other kinds
    [[nodiscard]] Facts* facts() { return std::get_if<Facts>(&content); }
    [[nodiscard]] const Backdrop* backdrop() const { return std::get_if<Backdrop>(&content); } // null of other kinds
    [[nodiscard]] Backdrop* backdrop() { return std::get_if<Backdrop>(&content); }
    [[nodiscard]] const PlantedProps* planted() const { return std::get_if<PlantedProps>(&content); } // or null
    [[nodiscard]] PlantedProps* planted() { return std::get_if<PlantedProps>(&content); }

    // The cells of tiles, blockers and facts, whatever is in them; those of other kinds are none. To change them the
    // layer must have cells.
    [[nodiscard]] const Grid& grid() const;
    [[nodiscard]] Grid& grid();
    // The props that were placed or planted; of other kinds none. To change them the layer must have props.
    [[nodiscard]] const Props& props() const;
    [[nodiscard]] Props& props();

    [[nodiscard]] Box cells() const { return box_of(grid().size()); } // its own
    [[nodiscard]] bool has_cells() const { return tiles() || blockers() || facts(); }
    [[nodiscard]] CellsAre cells_are() const {
        return blockers() ? CellsAre::shapes : facts() ? CellsAre::values : CellsAre::tiles;
    }
    [[nodiscard]] bool has_props() const { return std::holds_alternative<PlacedProps>(content) || planted(); }
    [[nodiscard]] Grain grain() const { return tiles() ? tiles()->grain : Grain{}; }
    [[nodiscard]] LayerId overlay_of() const { return tiles() ? tiles()->overlay_of : 0; }
    [[nodiscard]] bool solid() const { return tiles() && tiles()->solid; } // tiles whose shapes block
    [[nodiscard]] bool blocks() const { return blockers() || (solid() && grain().finer == 1); }
};

enum class View : std::uint8_t { from_above, from_the_side };

enum class MarkKind : std::uint8_t { start, exit, note };

struct Mark {
    MarkId id = 0;
    std::string name;
    MarkKind kind = MarkKind::note;
    Box cells;
    std::optional<Rgba> colour{}; // as it is shown; that of its kind without
    Notes notes{};
    PropKindId figure = 0; // of an actor: a kind of prop with a picture, by which it is seen; of the start the walker's
    int storey = 0;        // on which it lies, where the level has storeys
    bool operator==(const Mark&) const = default;
};

// What a tile or a kind of prop is to walkers in one level, instead of what the project says of it.
struct PartHere {
    TileShape shape = TileShape::none; // `none`: it blocks nothing
    Polygons polygons{};               // of a drawn shape; in its tile's 1/16, of a prop in pixels within its box
    AreaKindId tells = 0;              // instead of what it tells elsewhere; a prop with its whole picture
    bool telling = false;              // of props: whether `tells` is said at all, else they tell what they tell
    bool operator==(const PartHere&) const = default;
};

struct PartsHere {
    std::map<TileId, PartHere> tiles;
    std::map<PropKindId, PartHere> props;
    [[nodiscard]] bool empty() const { return tiles.empty() && props.empty(); }
    bool operator==(const PartsHere&) const = default;
};

// What a side of a level is to whoever comes there.
enum class SideKind : std::uint8_t { open, blocks, leads };
struct LevelSide {
    SideKind kind = SideKind::open;
    std::string to; // leads: the id of the level that it leads on to; empty where that is left to the game
    bool operator==(const LevelSide&) const = default;
};
using LevelSides = std::array<LevelSide, 4>; // north, east, south, west

using LayerRef = std::shared_ptr<const Layer>;

// A picture to build after: seen in the window, under or over the level, and never built.
struct Reference {
    SheetId sheet = 0;
    Point at;         // pixels of the level, of its upper left corner
    int scale = 100;  // per cent of its size, 1 .. 3200
    int opacity = 50; // per cent
    bool over = true; // whether it lies over all layers, or on the ground under them
    bool shown = true;
    bool operator==(const Reference&) const = default;
};
inline constexpr int kMostReferenceScale = 3200;

// A line to build along.
struct Guide {
    bool upright = false;
    int at = 0; // pixels from the level's left or upper edge
    auto operator<=>(const Guide&) const = default;
};

struct Level {
    std::string id; // names its files; never changes
    std::string name;
    View view = View::from_above;
    Size size;                                        // cells
    Size cell{16, 16};                                // pixels; of the box around a cell
    LatticeKind lattice = LatticeKind::square;        // isometric levels are seen from above
    Rgba ground{58, 69, 66, 255};                     // seen where no layer has anything; alpha 0: nothing is
    std::vector<std::shared_ptr<const Layer>> layers; // back to front
    int plane = 0;                                    // how many layers lie behind the walker
    std::vector<Mark> marks;
    std::vector<Probe> probes; // by id
    std::vector<Proof> proofs; // in the order in which they were kept
    Size frame{320, 224};      // pixels that the game shows
    Walker walker;
    bool grows = false;            // whether laying beyond an edge moves the edge, by whole chunks
    std::optional<Point> frame_at; // where the frame's guide stands, its corner in pixels; around the start without
    int lines_every = 0;           // cells between the stronger lines of the lattice; 0 for none
    std::vector<Guide> guides;     // sorted
    std::optional<Plan> plan;      // the picture that the level follows
    std::optional<Reference> reference;
    LevelSides sides;
    PartsHere here;
    Light light;
    Sight sight;
    std::map<int, int>
        storey_heights; // by storey, 1/64 cells, 1 .. kMostStoreyHeight; those not told are as the kit is

    [[nodiscard]] const Layer* layer(LayerId id) const;
    [[nodiscard]] int index_of(LayerId id) const; // -1 where there is none
    // A copy of the layer that this level alone holds, to be changed at once. The layer must exist.
    Layer& edit(LayerId id);
    [[nodiscard]] const Mark* first_mark(MarkKind kind) const;
    [[nodiscard]] Box cells() const { return box_of(size); }
    [[nodiscard]] Lattice geometry() const { return {lattice, cell}; }
    // How the cells of a layer lie.
    [[nodiscard]] Lattice lattice_of(const Layer& layer) const {
        const bool square = lattice == LatticeKind::square;
        return {lattice, layer.grain().cell(cell),
                square ? Point{layer.shift.x * cell.w / 2, layer.shift.y * cell.h / 2} : Point{}};
    }
    // The pixels of its cells. What stands up at the back of an isometric level reaches above them.
    [[nodiscard]] Box pixels() const { return geometry().box(cells()); }
};

// The level's cells that cells of a layer touch that lies aside by `shift`; and the other way round.
inline Box touched_by(const Box& own, Point shift) {
    return own.empty()
               ? own
               : Box{own.x - (shift.x < 0), own.y - (shift.y < 0), own.w + (shift.x != 0), own.h + (shift.y != 0)};
}
inline Box touching(const Box& level, Point shift) { return touched_by(level, {-shift.x, -shift.y}); }

// Where a mark's figure stands: the place of its pivot, in pixels, in the middle of the lower edge of its cells; on an
// isometric lattice in their middle.
Point stand_of(const Level& level, const Mark& mark);

// Where the run of layers ends that are sorted by feet together, from the one at `first` on; `first` itself where that
// one is not. Layers that are never seen are passed over. Such a run has the walker in it where his plane lies within
// it or at its rim.
std::size_t run_by_feet(const Level& level, std::size_t first);

// What of the picture changed between two states of a level.
struct Difference {
    bool everything = false; // size, order or settings of layers changed
    std::vector<Box> cells;  // otherwise: the boxes of cells whose picture may differ
};

struct Project;
Difference difference(const Level& a, const Level& b, const Project& kinds);

} // namespace vic::level
