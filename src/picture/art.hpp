// Art of tiles and props, made ready for drawing.
#pragma once

#include <cstdint>
#include <optional>
#include <unordered_map>
#include <vector>

#include "join/resolve.hpp"
#include "level/block.hpp"

namespace vic::picture {

// Art of tiles and props, made ready for drawing and kept until the project's sheets change.
class Art {
  public:
    struct Picture {
        Size size;
        std::vector<std::uint32_t> pixels; // 0xAARRGGBB, premultiplied
        bool opaque = false;
        bool diamond = false; // on an isometric lattice: hides all of its cell
        bool block = false;   // of a tile that is a block
    };

    // Call before drawing, whenever the project may have changed. Cheap when nothing has.
    void follow(const level::Project& project);

    // A tile as large as level::picture_size() says; null where no tile has the id or its picture is lost.
    const Picture* tile(level::Cell cell, const Lattice& lattice);
    const Picture* tile(level::Cell cell, Size pixels) { return tile(cell, Lattice{LatticeKind::square, pixels}); }
    // How far the pictures of the tiles go beyond their cells.
    const level::Reach& reach(const Lattice& lattice);
    // The time of animated tiles, in milliseconds; 0 at first. Returns whether any of them shows another frame now.
    bool set_clock(std::int64_t ms);
    [[nodiscard]] bool animated(level::TileId tile) const { return tile < frames_.size() && frames_[tile] != 0; }
    [[nodiscard]] const level::TileTable& table() const { return table_; }
    // The rules by which materials lie over others; null where none does.
    [[nodiscard]] const join::Rules* over() const { return over_ ? &*over_ : nullptr; }
    const Picture* prop(const level::PropKind& kind, bool mirrored);
    const Picture* whole(level::SheetId sheet);
    // From here on tiles, props and wholes are pictures of 1/2^small of their size, averaged; 0 at first. `pixels` of
    // tile() are then those of the small cell. A small prop whose corner lies `phase` pixels inside its first pixel.
    void set_small(int small) { small_ = small; }
    const Picture* small_prop(const level::PropKind& kind, bool mirrored, Point phase);
    // Any of the pictures above at 1/2^small, if its corner lies `phase` pixels inside its first small one.
    const Picture* small_of(const Picture& picture, int small, Point phase);

  private:
    level::TileTable table_;
    std::vector<std::shared_ptr<const level::Sheet>> sheets_; // keeps what table_ points into
    std::vector<std::shared_ptr<const level::Material>> materials_;
    std::optional<join::Rules> over_;
    std::vector<level::TileId> frames_;      // by tile: whose picture an animated one shows now; empty without such
    std::vector<const level::Tile*> played_; // the animated ones, in sheets_
    std::int64_t clock_ = 0;
    std::optional<std::pair<Lattice, level::Reach>> aslant_; // the reach on the last isometric lattice
    std::unordered_map<std::uint64_t, Picture> tiles_;
    std::unordered_map<std::uint64_t, Picture> props_;
    std::unordered_map<level::SheetId, Picture> wholes_;
    std::unordered_map<std::uint64_t, Picture> shrunk_; // props and wholes at small scales
    int small_ = 0;
};

} // namespace vic::picture
