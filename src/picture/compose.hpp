// Drawing a level into pixels, as the engine would show it. The window, `render` and the previews all use this.
#pragma once

#include <cstdint>
#include <unordered_map>
#include <vector>

#include <optional>

#include "join/resolve.hpp"
#include "level/block.hpp"

namespace vic::picture {

// Opaque pixels as 0xFFRRGGBB, row by row: the format that is fastest to show.
struct Canvas {
    Box box; // which pixels of the level these are, at its full scale
    std::vector<std::uint32_t> pixels;

    Canvas() = default;
    explicit Canvas(const Box& b) : box(b), pixels(static_cast<std::size_t>(b.size().area())) {}
};

// Art of tiles and props, made ready for drawing and kept until the project's sheets change.
class Art {
  public:
    struct Picture {
        Size size;
        std::vector<std::uint32_t> pixels; // 0xAARRGGBB, premultiplied
        bool opaque = false;
        bool block = false; // of a tile that is a block
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

// Draws the pixels `part` (cut to the canvas) of the level. Cells whose tile is gone, and painted cells without a tile,
// get a crossed box, so that no hole is silent.
void draw(const level::Project& project, const level::Level& level, Art& art, Canvas& canvas, const Box& part);

// The same at 1/2^small of its size: `canvas` and `part` are in small pixels. Each picture is averaged by itself, which
// is the mean of the whole where pictures lie on whole small pixels. To be used where can_draw_small() says so.
void draw_small(const level::Project& project, const level::Level& level, Art& art, Canvas& canvas, const Box& part,
                int small);
// Whether cells, backdrops and shifts of the level come out as whole small pixels.
bool can_draw_small(const level::Project& project, const level::Level& level, int small);

// The pixels in which a level shows anything: those of its cells, and above an isometric level what its highest tiles
// can reach.
Box extent(const level::Project& project, const level::Level& level);

// The whole level, each pixel enlarged `scale` times (1 .. 16).
Image render(const level::Project& project, const level::Level& level, int scale);

// The pixels of a prop in the level.
Box prop_box(const level::Prop& prop, const level::PropKind& kind);
// The foot of a prop in the level.
Box foot_box(const level::Prop& prop, const level::PropKind& kind);

} // namespace vic::picture
