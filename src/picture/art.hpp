// Art of tiles and props, made ready for drawing.
#pragma once

#include <cstdint>
#include <list>
#include <mutex>
#include <optional>
#include <unordered_map>
#include <vector>

#include "join/resolve.hpp"
#include "level/block.hpp"

namespace vic::picture {

// Art of tiles and props, made ready for drawing and kept until the project's sheets change. Several threads may ask
// for pictures at the same time, as long as none calls follow() with another project or set_clock(); what they are
// given stays where it is until then. `small`: averaged to 1/2^small of the size.
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
    void update(const level::Project& project);

    // A tile as large as level::picture_size() says; null where no tile has the id or its picture is lost. The cells of
    // the lattice are those at the small size, which must be square for it.
    const Picture* tile(level::Cell cell, const Lattice& lattice, int small = 0);
    const Picture* tile(level::Cell cell, Size pixels) { return tile(cell, Lattice{LatticeKind::square, pixels}); }
    // How far the pictures of the tiles go beyond their cells.
    const level::Reach& reach(const Lattice& lattice);
    // The pixels in which the box of a cell lies whose picture, on an isometric lattice, is seen in `pixels`.
    Box seen_in(const Box& pixels, const Lattice& lattice);
    // The height of the highest picture of a tile of one cell on an isometric lattice; nothing where there are blocks.
    std::optional<int> highest(const Lattice& lattice);
    // The time of animated tiles and props, in milliseconds; 0 at first. Returns whether any of them shows another
    // frame now.
    bool set_clock(std::int64_t ms);
    [[nodiscard]] bool moves() const { return !moving_.empty() || !played_.empty(); } // whether anything is animated
    [[nodiscard]] bool animated(level::TileId tile) const { return tile < frames_.size() && frames_[tile] != 0; }
    [[nodiscard]] const level::TileTable& table() const { return table_; }
    // The rules by which materials lie over others; null where none does.
    [[nodiscard]] const join::Rules* over() const { return over_ ? &*over_ : nullptr; }
    const Picture* prop(const level::PropKind& kind, bool mirrored);
    // The picture of a sheet; a small one is that of the picture repeated without end, up to where it repeats itself.
    const Picture* whole_picture(level::SheetId sheet, int small = 0);
    // The same halved so often, but to no less than a pixel a side; not as if it were repeated.
    const Picture* halved_picture(level::SheetId sheet, int times);
    // A prop, or any picture of full size that came from here, whose corner lies `phase` pixels inside its first small
    // one.
    const Picture* small_prop(const level::PropKind& kind, bool mirrored, int small, Point phase);
    const Picture* small_of(const Picture& picture, int small, Point phase);

  private:
    const Picture* made_tile(level::Cell cell, const Lattice& lattice, int small);
    const Picture* made_prop(const level::PropKind& kind, bool mirrored);
    const Picture* made_whole(level::SheetId sheet, int small);

    std::mutex making_; // guards the pictures kept, and aslant_
    bool follows_ = false;
    level::TileTable table_;
    std::vector<std::shared_ptr<const level::Sheet>> sheets_; // keeps what table_ points into
    std::vector<std::shared_ptr<const level::Material>> materials_;
    std::optional<join::Rules> over_;
    std::vector<level::TileId> frames_;      // by tile: whose picture an animated one shows now; empty without such
    std::vector<const level::Tile*> played_; // the animated ones, in sheets_
    std::int64_t clock_ = 0;
    std::vector<std::shared_ptr<const level::PropKind>> moving_; // the animated kinds of props
    std::vector<std::shared_ptr<const level::PropKind>> kinds_;
    // What holds on an isometric lattice.
    struct Aslant {
        Lattice lattice;
        level::Reach reach;
        level::Beyond beyond;
        bool blocks = false;
    };
    const Aslant& isometric(const Lattice& lattice);
    std::list<Aslant> isometric_;
    std::unordered_map<std::uint64_t, Picture> tiles_;
    std::unordered_map<std::uint64_t, Picture> props_;
    std::unordered_map<level::SheetId, Picture> wholes_;
    std::unordered_map<std::uint64_t, Picture> shrunk_; // props and wholes at small scales
};

} // namespace vic::picture
