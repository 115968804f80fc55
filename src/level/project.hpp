// Everything that a project holds, as one value. Copying it is cheap; history, preview and background work rest on
// that.
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <unordered_map>
#include <vector>

#include "level/area_kind.hpp"
#include "level/level.hpp"
#include "level/material.hpp"
#include "level/notes.hpp"
#include "level/order_card.hpp"
#include "level/own_tray.hpp"
#include "level/sheet.hpp"
#include "level/stamp.hpp"

namespace vic::level {

// What parcels have of what blocks beside its outlines: nothing, convex parts, the fewest rectangles and parts for the
// rest, or a box for each cell and parts for the rest.
enum class EngineShapes : std::uint8_t { outlines, parts, rectangles, cells };
inline constexpr int kMostDeviation = 64;
inline constexpr int kMostThinnest = 32;

struct Project {
    std::string name;
    std::vector<std::shared_ptr<const Sheet>> sheets;
    std::vector<std::shared_ptr<const Material>> materials;
    std::vector<std::shared_ptr<const PropKind>> prop_kinds;
    std::vector<std::shared_ptr<const Level>> levels;
    std::vector<NoteKind> note_kinds;
    std::vector<AreaKind> area_kinds;
    std::vector<Mover> movers;
    std::vector<OwnTray> trays; // in the order of their making
    std::vector<OrderCard> order_cards;
    std::vector<std::shared_ptr<const Stamp>> stamps;
    std::vector<FrameSize> frames;                       // what devices show, to choose a level's frame from
    EngineShapes engine_shapes = EngineShapes::outlines; // how parcels tell what blocks
    int deviation = 0; // 1/64 cells that their outlines may be off, to have fewer corners; 0 .. kMostDeviation
    int thinnest = 0;  // 1/64 cells than which nothing that they enclose or leave open is thinner; 0 .. kMostThinnest
    int unit = 16;     // pixels of a level that are one unit of the engine; 1 .. 4096
    std::uint32_t next_tile = 1; // the next free TileId
    std::uint32_t next_id = 1;   // the next free id of any other thing

    [[nodiscard]] const Sheet* sheet(SheetId id) const;
    [[nodiscard]] const Material* material(MaterialId id) const;
    [[nodiscard]] const PropKind* prop_kind(PropKindId id) const;
    [[nodiscard]] const Level* level(const std::string& id) const;
    [[nodiscard]] const NoteKind* note_kind(NoteId id) const;
    [[nodiscard]] const AreaKind* area_kind(AreaKindId id) const;
    [[nodiscard]] const Mover* mover(const std::string& name) const; // null where there is none
    [[nodiscard]] std::shared_ptr<const Stamp> stamp(StampId id) const;
    [[nodiscard]] MaterialId free_material() const; // 0 where all 255 are taken

    // Puts a thing in the place of the one with its id, or behind the last.
    void put(Sheet sheet);
    void put(Material material);
    void put(PropKind kind);
    void put(Level level);
    void put(Stamp stamp);
    void remove_level(const std::string& id);

    // A level id made from `name` that no level has.
    [[nodiscard]] std::string free_level_id(const std::string& name) const;
};

// What a tile id stands for.
struct TileRef {
    const Sheet* sheet = nullptr;
    const Tile* tile = nullptr;
};

// How far pictures and feet of a project's blocks go beyond the cell where they are laid, in cells; all zero without
// blocks.
struct Reach {
    int left = 0, top = 0, right = 0, bottom = 0;
    [[nodiscard]] bool none() const { return left == 0 && top == 0 && right == 0 && bottom == 0; }
    // The cells that a change in `box` can be seen in.
    [[nodiscard]] Box seen_from(const Box& box) const {
        return {box.x - left, box.y - top, box.w + left + right, box.h + top + bottom};
    }
    // The cells where something may be laid that is seen in `box`.
    [[nodiscard]] Box seen_in(const Box& box) const {
        return {box.x - right, box.y - bottom, box.w + left + right, box.h + top + bottom};
    }
};
Reach reach_of(const Project& project);
// How far the pictures of tiles go beyond the cell where they are laid on this lattice: of isometric tiles all that
// stand higher than a cell, too.
Reach reach_of(const Project& project, const Lattice& lattice);
// The same in pixels beyond the box of the cell, to either side, up and down; for isometric lattices.
struct Beyond {
    int aside = 0, above = 0, below = 0;
};
Beyond beyond_of(const Project& project, const Lattice& lattice);

// Finds tiles by id in constant time. Points into the project it was made from, which must outlive it.
class TileTable {
  public:
    TileTable() = default;
    explicit TileTable(const Project& project);
    // With what the level alone says of what they block and tell.
    TileTable(const Project& project, const Level& level);
    // Null pointers where no tile has the id.
    [[nodiscard]] TileRef find(TileId id) const { return id < refs_.size() ? refs_[id] : TileRef{}; }
    [[nodiscard]] TileShape shape(Cell cell) const {
        const TileRef ref = find(cell.tile());
        return ref.tile ? turned(ref.tile->shape, cell.turn()) : TileShape::none;
    }
    // What a cell with a drawn shape blocks, turned as the cell is.
    [[nodiscard]] Polygons polygons(Cell cell) const {
        const TileRef ref = find(cell.tile());
        return ref.tile ? turned(ref.tile->polygons, cell.turn()) : Polygons{};
    }

    [[nodiscard]] const Reach& reach() const { return reach_; }
    [[nodiscard]] bool any_opens() const { return any_opens_; } // whether a tile opens what lies below it
    [[nodiscard]] bool any_class() const { return any_class_; } // whether a tile names a collision class

  private:
    bool any_opens_ = false, any_class_ = false;
    std::vector<TileRef> refs_;
    std::vector<std::shared_ptr<const Tile>> own_; // those that are otherwise in a level
    Reach reach_;
};

// The project with tiles and kinds of props as they are in the level: what that alone says of them.
Project as_in(Project project, const Level& level);

// The layer of `level` among `homes`; 0 where none is.
LayerId home_in(const Level& level, const std::vector<LayerId>& homes);

// The material whose join set uses the tile; 0 where none does.
MaterialId material_of(const Project& project, TileId tile);

// What the layers of a new level are called.
struct LayerNames {
    std::string ground = "Ground";
    std::string props = "Props";
    std::string front = "In front";
};

// A level with three empty layers to start on: ground, things, in front; the walker's plane before the last.
Level make_level(Project& project, const std::string& name, Size cells, Size cell, View view,
                 const LayerNames& names = {});

} // namespace vic::level
