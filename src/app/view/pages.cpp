#include "app/view/pages.hpp"

#include <algorithm>
#include <cstddef>
#include <cstring>
#include <utility>

#include "app/parts/tokens.hpp"
#include "base/chance.hpp"
#include "base/lattice.hpp"
#include "base/parallel.hpp"
#include "level/cell.hpp"
#include "level/grid.hpp"
#include "level/standing.hpp"
#include "picture/compose.hpp"
#include "picture/figures.hpp"

namespace vic::app {

namespace {

constexpr std::size_t kMostPages = 320; // of 1 MiB each
constexpr std::size_t kManyBlocks = 4;  // from which on a second thread is worth its while

// Grey of the same lightness, its dark half taken up, most of the way to paper.
std::uint32_t toned(std::uint32_t p) {
    const std::uint32_t grey = (((p >> 16) & 255U) * 77 + ((p >> 8) & 255U) * 150 + (p & 255U) * 29) >> 8;
    const auto part = [&](std::uint32_t paper) { return (paper * 200 + (128 + grey / 2) * 56) >> 8; };
    return 0xFF000000U | (part(0xF4) << 16) | (part(0xEE) << 8) | part(0xE2);
}

// In small pixels, those that it has a part of.
Box small_extent(const Box& extent, int small) {
    return spanning({extent.x >> small, extent.y >> small},
                    {(extent.right() - 1) >> small, (extent.bottom() - 1) >> small});
}

} // namespace

std::optional<std::vector<Box>> Pages::show(const edit::ProjectState& project, const level::Level& level, bool tone) {
    const bool sheetsSame =
        project_ && project_->sheets == project->sheets && project_->prop_kinds == project->prop_kinds;
    level::Level drawn = picture::with_figures(*project, level);
    const level::Difference difference = level::difference(drawn_, drawn, *project);
    // What lies over its neighbours can change without any cell.
    const auto over = [](const auto& p) {
        return std::any_of(p->materials.begin(), p->materials.end(), [](const auto& m) { return m->joins.over; });
    };
    const bool joinsSame =
        project_ && (project_->materials == project->materials || (!over(project_) && !over(project)));
    const bool all = !joinsSame || !sheetsSame || difference.everything || tone != toned_;
    level_ = level;
    drawn_ = std::move(drawn);
    project_ = project;
    toned_ = tone;
    const Box before = extent_;
    extent_ = picture::extent(*project_, level_);
    if (all || before != extent_) {
        pages_.clear();
        return std::nullopt;
    }
    for (const Box& cells : difference.cells) {
        if (const Box pixels = intersection(level_.geometry().box(cells), extent_); !pixels.empty()) patch(pixels);
    }
    return difference.cells;
}

std::vector<Box> Pages::tick(std::int64_t ms, const Box& seen) {
    std::vector<Box> drawn;
    if (!project_) return drawn;
    art_.update(*project_);
    if (!art_.set_clock(ms)) return drawn;
    const level::PropKinds kinds(*project_);
    for (const level::LayerRef& layer : drawn_.layers) {
        if (!layer->shown || !art_.moves()) continue;
        if (layer->has_props())
            layer->props().each_in(
                level_.geometry().box(seen).grown(kinds.reach(layer->props())), [&](const level::Prop& prop) {
                    bool moves = false;
                    kinds.each_piece(prop, [&](const level::Piece& piece) { moves = moves || piece.kind->frames > 1; });
                    if (moves) drawn.push_back(level_.geometry().cells_in(kinds.box(prop)));
                });
        if (!layer->tiles()) continue;
        level::each_cell(layer->grid(), art_.reach(level_.geometry()).seen_in(seen),
                         [&](Point at, level::Cell cell, level::MaterialId) {
                             if (!art_.animated(cell.tile())) return;
                             const Box own{at.x, at.y, 1, 1};
                             const Box box = level_.lattice != LatticeKind::square ||
                                                     art_.table().find(cell.tile()).tile->is_block()
                                                 ? art_.reach(level_.geometry()).seen_from(own)
                                                 : own;
                             // Water lies in runs: one patch for each.
                             if (!drawn.empty() && drawn.back().y == box.y && drawn.back().h == box.h &&
                                 drawn.back().right() >= box.x)
                                 drawn.back().w = box.right() - drawn.back().x;
                             else
                                 drawn.push_back(box);
                         });
    }
    if (drawn.size() > 64) {
        Box all;
        for (const Box& box : drawn) all = united(all, box);
        drawn = {intersection(all, seen)};
    }
    for (Box& box : drawn) {
        if (level_.lattice == LatticeKind::square) box = intersection(box, level_.cells());
        if (const Box pixels = intersection(level_.geometry().box(box), extent_); !pixels.empty()) patch(pixels);
    }
    return drawn;
}

Pages::Target Pages::targetOf(QImage& image, int x, int y) {
    return {reinterpret_cast<std::uint32_t*>(image.bits()), {x * kSide, y * kSide}};
}

// May be called by several threads for different parts.
void Pages::draw(const Target& target, const Box& part, int small) {
    picture::Canvas canvas(part);
    if (small == 0)
        picture::draw(*project_, drawn_, art_, canvas, part);
    else
        picture::draw_small(*project_, drawn_, art_, canvas, part, small);
    for (int y = 0; y < part.h; ++y) {
        std::uint32_t* to = target.pixels + static_cast<std::ptrdiff_t>(part.y - target.corner.y + y) * kSide +
                            (part.x - target.corner.x);
        const std::uint32_t* from = &canvas.pixels[static_cast<std::size_t>(y) * static_cast<std::size_t>(part.w)];
        if (toned_)
            std::transform(from, from + part.w, to, toned);
        else
            std::memcpy(to, from, static_cast<std::size_t>(part.w) * 4);
    }
}

const QImage& Pages::page(int small, int x, int y, const QRect& part) {
    const Box wanted = intersection({part.x(), part.y(), part.width(), part.height()}, {0, 0, kSide, kSide});
    prepare(small, wanted.moved({x * kSide, y * kSide}));
    return known(small, x, y).image;
}

Pages::Page& Pages::known(int small, int x, int y) {
    Page& page = pages_[{small, x, y}];
    page.used = ++clock_;
    if (page.image.isNull()) page.image = QImage(kSide, kSide, QImage::Format_RGB32);
    return page;
}

void Pages::prepare(int small, const Box& pixels) {
    if (pixels.empty()) return;
    trim();
    art_.update(*project_);
    struct Missing {
        Target to;
        Box block;
    };
    std::vector<Missing> missing;
    for (int y = floor_div(pixels.y, kBlock); y <= floor_div(pixels.bottom() - 1, kBlock); ++y)
        for (int x = floor_div(pixels.x, kBlock); x <= floor_div(pixels.right() - 1, kBlock); ++x) {
            const Point at{floor_div(x, kBlocks), floor_div(y, kBlocks)};
            Page& page = known(small, at.x, at.y);
            const std::uint32_t bit = 1U << ((y - at.y * kBlocks) * kBlocks + x - at.x * kBlocks);
            if (page.drawn & bit) continue;
            page.drawn |= bit;
            missing.push_back({targetOf(page.image, at.x, at.y), {x * kBlock, y * kBlock, kBlock, kBlock}});
        }
    parallel_pieces(0, static_cast<int>(missing.size()), missing.size() >= kManyBlocks, [&](int, int from, int to) {
        for (int i = from; i < to; ++i) {
            const Missing& m = missing[static_cast<std::size_t>(i)];
            drawBlock(small, m.to, m.block);
        }
    });
}

void Pages::drawBlock(int small, const Target& to, const Box& own) {
    const Box covered{own.x << small, own.y << small, own.w << small, own.h << small};
    if (!extent_.contains(covered)) // beyond the level's edge
        for (int row = 0; row < own.h; ++row)
            std::fill_n(
                to.pixels + static_cast<std::ptrdiff_t>(own.y - to.corner.y + row) * kSide + (own.x - to.corner.x),
                own.w, 0xFF000000U);
    if (!intersection(covered, extent_).empty()) draw(to, intersection(own, small_extent(extent_, small)), small);
}

void Pages::patch(const Box& pixels) {
    for (int small = 0; small <= kLeast; ++small) {
        const Box scaled{pixels.x >> small, pixels.y >> small,
                         ((pixels.right() - 1) >> small) - (pixels.x >> small) + 1,
                         ((pixels.bottom() - 1) >> small) - (pixels.y >> small) + 1};
        for (int y = floor_div(scaled.y, kSide); y <= floor_div(scaled.bottom() - 1, kSide); ++y) {
            for (int x = floor_div(scaled.x, kSide); x <= floor_div(scaled.right() - 1, kSide); ++x) {
                const auto found = pages_.find({small, x, y});
                if (found == pages_.end()) continue;
                Page& page = found->second;
                const Box part = intersection(scaled, {x * kSide, y * kSide, kSide, kSide});
                for (int k = 0; k < kBlocks * kBlocks; ++k) {
                    if ((page.drawn >> k & 1U) == 0) continue; // drawn when it is needed
                    const Box block{x * kSide + k % kBlocks * kBlock, y * kSide + k / kBlocks * kBlock, kBlock, kBlock};
                    const Box seen = intersection(part, block);
                    if (!seen.empty()) draw(targetOf(page.image, x, y), seen, small);
                }
            }
        }
    }
}

void Pages::trim() {
    if (pages_.size() < kMostPages) return;
    // The less recently used half goes.
    std::vector<std::uint64_t> used;
    for (const auto& [key, page] : pages_) used.push_back(page.used);
    std::nth_element(used.begin(), used.begin() + static_cast<std::ptrdiff_t>(used.size() / 2), used.end());
    const std::uint64_t limit = used[used.size() / 2];
    std::erase_if(pages_, [&](const auto& entry) { return entry.second.used < limit; });
}

} // namespace vic::app
