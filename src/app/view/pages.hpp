// The level as ready-made images: pages of 512 pixels at full scale, and at half, quarter, eighth … scale, where each
// pixel is the mean of those it stands for. A change re-draws its own rectangle only.
#pragma once

#include <QImage>
#include <QRect>
#include <cstdint>
#include <map>
#include <optional>
#include <tuple>
#include <vector>

#include "base/geometry.hpp"
#include "edit/document.hpp"
#include "level/level.hpp"

namespace vic::picture {
class Art;
} // namespace vic::picture

namespace vic::app {

class Pages {
  public:
    static constexpr int kSide = 512;  // pixels of a page
    static constexpr int kBlock = 128; // pixels of the blocks in which a page is drawn as they are needed
    static constexpr int kLeast = 4;   // the smallest scale is 1/2^kLeast

    explicit Pages(picture::Art& art) : art_(art) {}

    // What the pages show from now on. Returns the boxes of cells whose picture may have changed; nothing where all
    // may. `toned`: the art steps back in tones of paper, so that what blocks can be drawn over it.
    std::optional<std::vector<Box>> show(const edit::ProjectState& project, const level::Level& level, bool toned);

    // Lets animated tiles show the frame of this time. Returns the boxes of cells among `seen` that were drawn anew.
    std::vector<Box> tick(std::int64_t ms, const Box& seen);

    // Draws what is missing of the scale's pixels, in two threads where it is much. Without it page() draws the same.
    void prepare(int small, const Box& pixels);
    // The page at column x, row y of scale 1/2^small, of which at least the pixels `part` are drawn. Stays valid until
    // the next call.
    const QImage& page(int small, int x, int y, const QRect& part = {0, 0, kSide, kSide});

    [[nodiscard]] const level::Level& level() const { return level_; }
    // The pixels that the level shows anything in. Pages lie on a raster from pixel 0, 0 on, also left of and above it.
    [[nodiscard]] const Box& extent() const { return extent_; }
    [[nodiscard]] bool empty() const { return project_ == nullptr; }

  private:
    static constexpr int kBlocks = kSide / kBlock; // a side
    struct Page {
        QImage image;
        std::uint32_t drawn = 0; // a bit for each block
        std::uint64_t used = 0;
    };
    using Key = std::tuple<int, int, int>;
    // The pixels of a page and where they begin.
    struct Target {
        std::uint32_t* pixels = nullptr;
        Point corner;
    };
    static Target targetOf(QImage& image, int x, int y);
    Page& known(int small, int x, int y);
    void draw(const Target& to, const Box& part, int small);
    void drawBlock(int small, const Target& to, const Box& own);
    void patch(const Box& pixels);
    void trim();

    picture::Art& art_;
    edit::ProjectState project_;
    level::Level level_;
    level::Level drawn_; // with the figures of its marks
    Box extent_;
    bool toned_ = false;
    std::map<Key, Page> pages_;
    std::uint64_t clock_ = 0;
};

} // namespace vic::app
