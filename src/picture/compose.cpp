#include "picture/compose.hpp"

#include <algorithm>
#include <array>
#include <cassert>
#include <cmath>
#include <limits>
#include <optional>

#include "picture/backdrop.hpp"
#include "picture/behind.hpp"
#include "picture/blend.hpp"
#include "picture/blit.hpp"
#include "picture/figures.hpp"

namespace vic::picture {

using level::Layer;
using level::LayerKind;

namespace {

constexpr int kMostAbove = 4; // cells by which an isometric level is higher than its ground

// The last pictures found, so that most cells need no look-up; they stay where they are while more are made.
class Looked {
  public:
    Looked(Art& art, const Lattice& lattice, int small = 0) : art_(art), lattice_(lattice), small_(small) {}
    const Art::Picture* of(level::Cell cell) {
        const std::uint32_t bits = cell.bits & 0x07FFFFFFU;
        Found& slot = found_[(bits ^ (bits >> 21)) & 255U];
        if (slot.picture == nullptr || slot.bits != bits) slot = {bits, art_.tile(cell, lattice_, small_)};
        return slot.picture;
    }

  private:
    struct Found {
        std::uint32_t bits = 0;
        const Art::Picture* picture = nullptr;
    };
    Art& art_;
    Lattice lattice_;
    int small_;
    std::array<Found, 256> found_{};
};

// What of an isometric layer is to be seen in the clip, from the back: what lies further down lies in front.
struct Aslant {
    Point at;
    int depth; // of its foot's foremost cell
    level::Cell cell;
    const Art::Picture* picture; // null for a tile that is gone
    Box box;                     // pixels
};

// How high, in pixels from the lower edge of a cell's box, the layers in front hide what stands in it.
struct Hidden {
    Box cells;
    std::vector<std::uint16_t> height;
    explicit Hidden(const Box& c) : cells(c), height(static_cast<std::size_t>(c.size().area()), 0) {}
    std::uint16_t* at(Point cell) {
        if (!cells.contains(cell)) return nullptr;
        return &height[static_cast<std::size_t>(cell.y - cells.y) * static_cast<std::size_t>(cells.w) +
                       static_cast<std::size_t>(cell.x - cells.x)];
    }
};

// `hidden` is null where the layer does not lie as the others do; what this layer hides is added where it `covers`.
std::vector<Aslant> aslant_in(const level::Level& level, const level::Grid& grid, Art& art, const Box& clip,
                              Hidden* hidden = nullptr, bool covers = false) {
    const Lattice lattice = level.geometry();
    std::vector<Aslant> out;
    Looked looked(art, lattice);
    bool blocks = false;
    const Box seen = art.seen_in(clip, lattice);
    const int highest = art.highest(lattice).value_or(std::numeric_limits<int>::max());
    const auto see = [&](Point at, level::Cell cell, std::uint16_t* height) {
        const Art::Picture* picture = looked.of(cell);
        Box box;
        int depth = at.x + at.y + 2;
        if (const level::Tile* tile = picture && !picture->block ? nullptr : art.table().find(cell.tile()).tile) {
            blocks = blocks || tile->is_block();
            box = level::picture_box(*tile, at, cell.turn(), lattice);
            const Box foot = level::foot_under(*tile, at, cell.turn());
            depth = foot.right() + foot.bottom();
        } else {
            // A picture stands on the lower edge of its cell's box.
            if (height && picture) {
                if (picture->size.h <= *height) return;
                const int hides = picture->opaque ? picture->size.h : picture->diamond ? lattice.cell.h : 0;
                if (covers) *height = static_cast<std::uint16_t>(std::max<int>(*height, hides));
            }
            box = lattice.box(at);
            if (picture) box = {box.x, box.bottom() - picture->size.h, picture->size.w, picture->size.h};
        }
        if (!intersection(box, clip).empty()) out.push_back({at, depth, cell, picture, box});
    };
    level::each_run(
        grid, lattice.cells_in(seen), [&](const level::Chunk& chunk, Point first, std::size_t index, int count) {
            const Lattice::Row row = lattice.row_in(seen, first.y);
            const int skipped = std::max(0, row.from - first.x);
            const int cells = std::min(count, row.to - first.x) - skipped;
            if (cells <= 0) return;
            const Point from{first.x + skipped, first.y};
            std::uint16_t* heights = hidden ? hidden->at(from) : nullptr;
            // Nothing is to be seen where even the highest would be hidden.
            if (heights && std::all_of(heights, heights + cells, [&](std::uint16_t h) { return h >= highest; })) return;
            for (int k = 0; k < cells; ++k) {
                const std::size_t i = index + static_cast<std::size_t>(skipped + k);
                if (chunk.cells[i].bits == 0 && chunk.materials[i] == 0) continue;
                if (level::under_block(chunk.cells[i])) continue;
                see({from.x + k, from.y}, chunk.cells[i], heights ? heights + k : nullptr);
            }
        });
    // Single cells come from the back already where they overlap.
    if (blocks)
        std::sort(out.begin(), out.end(), [](const Aslant& a, const Aslant& b) {
            return std::tuple(a.depth, a.at.x) < std::tuple(b.depth, b.at.x);
        });
    return out;
}

void draw_one(const level::Level& level, const Layer& layer, Canvas& canvas, const Box& clip, const Aslant& a) {
    if (a.picture)
        blit(canvas, clip, *a.picture, a.box.corner(), layer);
    else
        draw_gone(canvas, clip, level.geometry().box(a.at), true);
}

// What is higher than the diamond of its cell stands up.
bool stands_aslant(const Aslant& a, const level::Level& level) {
    return a.picture && (a.picture->block || a.picture->size.h > level.cell.h);
}

void draw_aslant(const level::Level& level, const Layer& layer, Art& art, Canvas& canvas, const Box& clip,
                 const std::vector<Aslant>& seen) {
    const auto draw_all = [&](const std::vector<Aslant>& all) {
        for (const Aslant& a : all) draw_one(level, layer, canvas, clip, a);
    };
    if (art.over()) {
        const Box cells = intersection(level.geometry().cells_in(art.seen_in(clip, level.geometry())), layer.cells());
        draw_all(aslant_in(level, join::underlay(*art.over(), layer.grid(), cells, layer.id), art, clip));
    }
    draw_all(seen);
}

// What of a layer of tiles is to be seen.
struct Seen {
    struct Flat {
        Point at;
        const Art::Picture* picture; // null for a tile that is gone
    };
    struct Block {
        int foot;
        Point at;
        level::Cell cell;
    };
    struct Standing {
        int foot; // in cells: the line on which it stands
        Point at;
        const Art::Picture* picture;
    };
    std::vector<Flat> flats;
    std::vector<Standing> standing; // where those are told apart
    std::vector<Block> blocks;
};

// `covered` tells of the cells which lie under something opaque of a layer in front, a byte each; what this layer
// covers is added. Null where the layer does not lie as the others do. `small`: the level's cells are so much smaller.
Seen seen_of(const level::Level& level, const Layer& layer, Art& art, const Box& cells,
             std::vector<std::uint8_t>* covered, int small = 0, bool by_feet = false) {
    const Lattice lattice = level.geometry();
    Seen out;
    Looked looked(art, lattice, small);
    const bool covers = layer.opacity >= 100;
    level::each_cell(
        layer.grid(), art.table().reach().seen_in(cells), [&](Point at, level::Cell cell, level::MaterialId) {
            const bool inside = cells.contains(at);
            std::uint8_t* hidden =
                covered && inside
                    ? &(*covered)[static_cast<std::size_t>(at.y - cells.y) * static_cast<std::size_t>(cells.w) +
                                  static_cast<std::size_t>(at.x - cells.x)]
                    : nullptr;
            const Art::Picture* picture = looked.of(cell);
            if (picture ? picture->block : !inside) { // only blocks reach over from beyond
                const level::Tile* tile = art.table().find(cell.tile()).tile;
                if (tile && tile->is_block())
                    out.blocks.push_back({level::foot_under(*tile, at, cell.turn()).bottom(), at, cell});
                return;
            }
            if (!inside || level::under_block(cell)) return;
            if (by_feet) {
                const level::Tile* tile = art.table().find(cell.tile()).tile;
                if (tile && tile->rise > 0) {
                    out.standing.push_back({at.y + tile->rise, at, picture});
                    return;
                }
            }
            if (hidden && *hidden != 0) return;
            out.flats.push_back({at, picture});
            if (hidden && covers && (!picture || picture->opaque)) *hidden = 1;
        });
    // Blocks stand on what is flat, and what stands further down stands in front.
    std::sort(out.blocks.begin(), out.blocks.end(), [](const auto& a, const auto& b) {
        return std::tuple(a.foot, a.at.x, a.at.y) < std::tuple(b.foot, b.at.x, b.at.y);
    });
    return out;
}

void draw_block(const level::Level& level, const Layer& layer, Art& art, Canvas& canvas, const Box& clip,
                const Seen::Block& block, int small) {
    const Art::Picture* picture = art.tile(block.cell, level.geometry(), small);
    const Box px =
        level::picture_box(*art.table().find(block.cell.tile()).tile, block.at, block.cell.turn(), level.geometry());
    if (picture)
        blit(canvas, clip, *picture, px.corner(), layer);
    else
        draw_gone(canvas, clip, {block.at.x * level.cell.w, block.at.y * level.cell.h, level.cell.w, level.cell.h});
}

void draw_standing(const level::Level& level, const Layer& layer, Canvas& canvas, const Box& clip,
                   const Seen::Standing& one) {
    const Box cell = level.geometry().box(one.at);
    if (one.picture)
        blit(canvas, clip, *one.picture, cell.corner(), layer);
    else
        draw_gone(canvas, clip, cell);
}

void draw_tiles(const level::Level& level, const Layer& layer, Art& art, Canvas& canvas, const Box& clip,
                const Seen& seen, int small) {
    const int cw = level.cell.w;
    const int ch = level.cell.h;
    if (art.over()) {
        const Box cells = level.geometry().cells_in(clip);
        level::each_cell(join::underlay(*art.over(), layer.grid(), cells, layer.id), cells,
                         [&](Point at, level::Cell cell, level::MaterialId) {
                             if (const Art::Picture* picture = art.tile(cell, level.geometry(), small))
                                 blit(canvas, clip, *picture, {at.x * cw, at.y * ch}, layer);
                         });
    }
    for (const Seen::Flat& flat : seen.flats) {
        if (flat.picture)
            blit(canvas, clip, *flat.picture, {flat.at.x * cw, flat.at.y * ch}, layer);
        else
            draw_gone(canvas, clip, {flat.at.x * cw, flat.at.y * ch, cw, ch});
    }
    for (const Seen::Block& block : seen.blocks) draw_block(level, layer, art, canvas, clip, block, small);
}

Box extent_of(const level::Level& level, Art& art) {
    Box out = level.pixels();
    if (level.lattice == LatticeKind::square) return out;
    const int above = std::min(art.reach(level.geometry()).top * level.cell.h, kMostAbove * level.cell.w);
    out.y -= above;
    out.h += above;
    return out;
}

} // namespace

Box extent(const level::Project& project, const level::Level& level) {
    Art art;
    if (level.lattice != LatticeKind::square) art.update(project);
    return extent_of(level, art);
}

namespace {

// The level with the lattice of one of its layers.
level::Level of_layer(const level::Level& level, const Layer& layer) {
    level::Level out;
    out.lattice = level.lattice;
    out.cell = level.lattice_of(layer).cell;
    out.size = layer.grain().cells(level.size);
    return out;
}

// Pixels by which a layer lies off the others.
Point shift_of(const level::Level& level, const Layer& layer) {
    return {layer.shift.x * level.cell.w / 2, layer.shift.y * level.cell.h / 2};
}

// What of each layer of an isometric level is to be seen, by the layer's index.
std::vector<std::vector<Aslant>> all_aslant(const level::Level& level, Art& art, const Box& clip) {
    const Lattice lattice = level.geometry();
    Hidden hidden(intersection(lattice.cells_in(art.seen_in(clip, lattice)), level.cells()));
    std::vector<std::vector<Aslant>> out(level.layers.size());
    for (std::size_t i = level.layers.size(); i-- > 0;) {
        const Layer& layer = *level.layers[i];
        if (!layer.tiles() || !layer.shown || layer.opacity <= 0) continue;
        const Point shift = shift_of(level, layer);
        const bool as_others = shift == Point{} && !layer.grain().own();
        out[i] = aslant_in(of_layer(level, layer), layer.grid(), art, clip.moved({-shift.x, -shift.y}),
                           as_others ? &hidden : nullptr, layer.opacity >= 100);
    }
    return out;
}

// Draws on a canvas that is moved so that a layer that is shifted lies as the others do.
template <class Draw>
void shifted(Canvas& canvas, const Box& clip, Point shift, Draw draw) {
    const Box there = canvas.box;
    canvas.box = there.moved({-shift.x, -shift.y});
    draw(clip.moved({-shift.x, -shift.y}));
    canvas.box = there;
}

// One that stands up in a run of layers.
struct Upright {
    double foot; // pixels of the level, down; on isometric lattices cells, away from the one at the back
    int kind;    // at one line tiles stand behind props
    std::size_t layer;
    int x;
    std::size_t index; // in what of its kind is seen of the layer
};

// The layers from first to last as one: what lies flat, then what stands up by the lines of its feet. With a `line`
// only what stands further down than that.
void draw_by_feet(const level::Project& project, const level::Level& level, Art& art, Canvas& canvas, const Box& clip,
                  std::pair<std::size_t, std::size_t> run, const std::vector<Seen>& seen_on,
                  const std::vector<std::vector<Aslant>>& aslant_on, int small, std::optional<double> line) {
    enum Kind { tile, block, aslant, prop };
    const bool square = level.lattice == LatticeKind::square;
    const level::PropKinds kinds(project);
    std::vector<std::vector<ShownProp>> props(level.layers.size());
    std::vector<Upright> all;
    for (std::size_t i = run.first; i < run.second; ++i) {
        const Layer& layer = *level.layers[i];
        if (!layer.shown || layer.opacity <= 0) continue;
        const Point shift = shift_of(level, layer);
        const level::Level lies = of_layer(level, layer);
        const int high = lies.cell.h << small;
        if (layer.tiles() && square) {
            Seen flat = seen_on[i];
            flat.blocks.clear();
            if (!line)
                shifted(canvas, clip, shift,
                        [&](const Box& there) { draw_tiles(lies, layer, art, canvas, there, flat, small); });
            for (std::size_t k = 0; k < seen_on[i].standing.size(); ++k)
                all.push_back({double(seen_on[i].standing[k].foot * high + (shift.y << small)), tile, i,
                               seen_on[i].standing[k].at.x, k});
            for (std::size_t k = 0; k < seen_on[i].blocks.size(); ++k)
                all.push_back({double(seen_on[i].blocks[k].foot * high + (shift.y << small)), block, i,
                               seen_on[i].blocks[k].at.x, k});
        } else if (layer.tiles()) {
            std::vector<Aslant> flat;
            for (std::size_t k = 0; k < aslant_on[i].size(); ++k) {
                const Aslant& a = aslant_on[i][k];
                if (stands_aslant(a, lies))
                    all.push_back({(a.depth - 1.0) * layer.grain().wider / layer.grain().finer, aslant, i, a.at.x, k});
                else
                    flat.push_back(a);
            }
            shifted(canvas, clip, shift, [&](const Box& there) { draw_aslant(lies, layer, art, canvas, there, flat); });
        } else {
            props[i] = props_in(kinds, layer, clip.moved({-shift.x, -shift.y}), small);
            for (std::size_t k = 0; k < props[i].size(); ++k) {
                const Point at = props[i][k].piece.sorted_at() + Point{shift.x << small, shift.y << small};
                const CellPlace place = Lattice{level.lattice, {level.cell.w << small, level.cell.h << small}}.place_of(
                    at.x + 0.5, at.y + 1);
                // What lies flat is drawn before all that stands.
                const double before = props[i][k].piece.kind->flat ? 1e9 : 0;
                all.push_back({(square ? at.y + 1.0 : place.x + place.y) - before, prop, i, at.x, k});
            }
        }
    }
    if (line) std::erase_if(all, [&](const Upright& one) { return one.foot <= *line; });
    std::stable_sort(all.begin(), all.end(), [](const Upright& a, const Upright& b) {
        return std::tuple(a.foot, a.kind == prop, a.layer, a.x, a.index) <
               std::tuple(b.foot, b.kind == prop, b.layer, b.x, b.index);
    });
    for (const Upright& one : all) {
        const Layer& layer = *level.layers[one.layer];
        const level::Level lies = of_layer(level, layer);
        shifted(canvas, clip, shift_of(level, layer), [&](const Box& there) {
            if (one.kind == tile) draw_standing(lies, layer, canvas, there, seen_on[one.layer].standing[one.index]);
            if (one.kind == block)
                draw_block(lies, layer, art, canvas, there, seen_on[one.layer].blocks[one.index], small);
            if (one.kind == aslant) draw_one(lies, layer, canvas, there, aslant_on[one.layer][one.index]);
            if (one.kind == prop) draw_prop(project, layer, art, canvas, there, props[one.layer][one.index], small);
        });
    }
}

// Only what is drawn after the walker, where there is one; `small` is 0 then.
void draw_layers(const level::Project& project, const level::Level& level, Art& art, Canvas& canvas, const Box& part,
                 int small, std::optional<level::Spot> walker = std::nullopt) {
    art.update(project);
    const Box clip = intersection(intersection(part, canvas.box), extent_of(level, art));
    if (clip.empty()) return;
    if (!walker) fill_ground(level, canvas, clip);
    if (!walker) draw_reference(project, level, canvas, clip, small, false);
    // From the front on: what lies under something opaque need not be drawn.
    const Lattice lattice = level.geometry();
    const bool square = lattice.square();
    const Box cells = square ? lattice.cells_in(clip) : Box{};
    std::vector<std::uint8_t> covered(static_cast<std::size_t>(cells.size().area()), 0);
    const std::vector<std::vector<Aslant>> aslant_on =
        square ? std::vector<std::vector<Aslant>>() : all_aslant(level, art, clip);
    const auto plane = static_cast<std::size_t>(level.plane);
    std::vector<Seen> seen_on(level.layers.size());
    std::vector<bool> sorts(level.layers.size(), false);
    for (std::size_t i = 0; i < level.layers.size(); ++i)
        for (std::size_t k = i; k < level::run_by_feet(level, i); ++k) sorts[k] = true;
    for (std::size_t i = level.layers.size(); i-- > 0;) {
        const Layer& layer = *level.layers[i];
        if (!square || !layer.tiles() || !layer.shown || layer.opacity <= 0) continue;
        const Point shift = shift_of(level, layer);
        if (layer.grain().own())
            seen_on[i] =
                seen_of(of_layer(level, layer), layer, art,
                        Lattice{level.lattice, level.lattice_of(layer).cell}.cells_in(clip.moved({-shift.x, -shift.y})),
                        nullptr, small, sorts[i]);
        else
            seen_on[i] = shift == Point{}
                             ? seen_of(level, layer, art, cells, &covered, small, sorts[i])
                             : seen_of(level, layer, art, lattice.cells_in(clip.moved({-shift.x, -shift.y})), nullptr,
                                       small, sorts[i]);
    }
    for (std::size_t i = 0; i < level.layers.size(); ++i) {
        if (const std::size_t end = level::run_by_feet(level, i); end > i) {
            // The walker is one of those at whose rim, or within, his plane is.
            const bool among = walker && plane >= i && plane <= end;
            if (!walker || among || plane < i) {
                std::optional<double> line;
                if (among) {
                    const CellPlace at = lattice.place_of(walker->x, walker->y);
                    line = square ? walker->y : at.x + at.y;
                }
                draw_by_feet(project, level, art, canvas, clip, {i, end}, seen_on, aslant_on, small, line);
            }
            i = end - 1;
            continue;
        }
        if (walker && i < plane) continue;
        const level::LayerRef& layer = level.layers[i];
        if (!layer->shown || layer->opacity <= 0) continue;
        // A shifted layer is drawn as it lies, on a canvas that is moved the other way.
        const Point shift = shift_of(level, *layer);
        const Box there = canvas.box;
        canvas.box = there.moved({-shift.x, -shift.y});
        const Box seen = clip.moved({-shift.x, -shift.y});
        switch (layer->kind()) {
            case LayerKind::tiles:
                if (!square)
                    draw_aslant(of_layer(level, *layer), *layer, art, canvas, seen, aslant_on[i]);
                else
                    draw_tiles(of_layer(level, *layer), *layer, art, canvas, seen, seen_on[i], small);
                break;
            case LayerKind::blockers: // what is not seen
            case LayerKind::facts:
                break;
            case LayerKind::props:
            case LayerKind::planting:
                draw_props(project, *layer, art, canvas, seen, small);
                break;
            case LayerKind::backdrop:
                canvas.box = there;
                draw_backdrop(level, *layer, art, canvas, clip, small);
                break;
        }
        canvas.box = there;
    }
    if (!walker) draw_reference(project, level, canvas, clip, small, true);
}

} // namespace

void draw_before(const level::Project& project, const level::Level& level, Art& art, Canvas& canvas, level::Spot foot) {
    draw_layers(project, level, art, canvas, canvas.box, 0, foot);
}

void draw(const level::Project& project, const level::Level& level, Art& art, Canvas& canvas, const Box& part) {
    draw_layers(project, level, art, canvas, part, 0);
}

namespace {

// Whether cells and shifts of the level come out as whole small pixels, so that each is averaged by itself.
bool on_raster(const level::Level& level, int small) {
    const int s = 1 << small;
    // The rims of diamonds share their pixels.
    if (level.lattice != LatticeKind::square) return false;
    if (level.cell.w % s != 0 || level.cell.h % s != 0) return false;
    return std::all_of(level.layers.begin(), level.layers.end(), [&](const level::LayerRef& l) {
        if (const Size own = level.lattice_of(*l).cell; own.w % s != 0 || own.h % s != 0) return false;
        return l->shift == Point{} || (level.cell.w / 2 % s == 0 && level.cell.h / 2 % s == 0);
    });
}

// A layer of tiles whose pictures do not lie on whole small pixels: each is averaged as it lies, and where several
// share a pixel they lie beside each other in it. `out` holds nothing yet.
void draw_tiles_off_raster(const level::Level& level, const Layer& layer, Art& art, Canvas& out, int small,
                           const std::vector<Aslant>& isometric) {
    const int s = 1 << small;
    const level::Level lies = of_layer(level, layer);
    const Lattice lattice = lies.geometry();
    const Point shift = shift_of(level, layer);
    const Box full = Box{out.box.x * s, out.box.y * s, out.box.w * s, out.box.h * s}.moved({-shift.x, -shift.y});
    struct Less { // found last
        const Art::Picture* of = nullptr;
        Point phase;
        const Art::Picture* less = nullptr;
    };
    std::array<Less, 256> known{};
    const auto put = [&](const Art::Picture* picture, const Box& box) {
        const Point corner = box.corner() + shift;
        const Point at{floor_div(corner.x, s), floor_div(corner.y, s)};
        if (!picture)
            return draw_gone(out, out.box, {at.x, at.y, std::max(1, box.w / s), std::max(1, box.h / s)},
                             !lattice.square());
        const Point phase = corner - Point{at.x * s, at.y * s};
        Less& slot =
            known[(reinterpret_cast<std::uintptr_t>(picture) / 64 + static_cast<unsigned>(phase.x * 5 + phase.y)) &
                  255U];
        if (slot.of != picture || slot.phase != phase) slot = {picture, phase, art.small_of(*picture, small, phase)};
        const Art::Picture& less = *slot.less;
        const Box seen = intersection({at.x, at.y, less.size.w, less.size.h}, out.box);
        for (int y = seen.y; y < seen.bottom(); ++y) {
            const std::uint32_t* from =
                &less.pixels[static_cast<std::size_t>((y - at.y) * less.size.w + seen.x - at.x)];
            std::uint32_t* to =
                &out.pixels[static_cast<std::size_t>(y - out.box.y) * static_cast<std::size_t>(out.box.w) +
                            static_cast<std::size_t>(seen.x - out.box.x)];
            if (less.opaque)
                std::copy_n(from, seen.w, to);
            else
                for (int x = 0; x < seen.w; ++x) to[x] = beside(from[x], to[x]);
        }
    };
    const auto put_all = [&](const std::vector<Aslant>& all) {
        for (const Aslant& a : all) put(a.picture, a.picture ? a.box : lattice.box(a.at));
    };
    if (art.over()) {
        const Box cells = intersection(lattice.square() ? art.reach(lattice).seen_in(lattice.cells_in(full))
                                                        : lattice.cells_in(art.seen_in(full, lattice)),
                                       layer.cells());
        const level::Grid under = join::underlay(*art.over(), layer.grid(), cells, layer.id);
        if (lattice.square())
            level::each_cell(under, cells, [&](Point at, level::Cell cell, level::MaterialId) {
                if (const Art::Picture* picture = art.tile(cell, lattice)) put(picture, lattice.box(at));
            });
        else
            put_all(aslant_in(lies, under, art, full));
    }
    if (!lattice.square()) return put_all(isometric);
    const Seen seen = seen_of(lies, layer, art, lattice.cells_in(full), nullptr);
    for (const Seen::Flat& flat : seen.flats) put(flat.picture, lattice.box(flat.at));
    for (const Seen::Block& block : seen.blocks)
        put(art.tile(block.cell, lattice),
            level::picture_box(*art.table().find(block.cell.tile()).tile, block.at, block.cell.turn(), lattice));
}

void draw_off_raster(const level::Project& project, const level::Level& level, Art& art, Canvas& canvas,
                     const Box& part, int small) {
    art.update(project);
    const int s = 1 << small;
    const Box all = extent_of(level, art);
    const Point first{floor_div(all.x, s), floor_div(all.y, s)};
    const Box clip = intersection(intersection(part, canvas.box),
                                  spanning(first, {floor_div(all.right() - 1, s), floor_div(all.bottom() - 1, s)}));
    if (clip.empty()) return;
    fill_ground(level, canvas, clip);
    draw_reference(project, level, canvas, clip, small, false);
    const bool square = level.lattice == LatticeKind::square;
    const auto isometric = square ? std::vector<std::vector<Aslant>>(level.layers.size())
                                  : all_aslant(level, art, {clip.x * s, clip.y * s, clip.w * s, clip.h * s});
    for (std::size_t i = 0; i < level.layers.size(); ++i) {
        const level::LayerRef& layer = level.layers[i];
        if (!layer->shown || layer->opacity <= 0) continue;
        if (layer->tiles()) {
            if (!square && isometric[i].empty() && !art.over()) continue;
            Art::Picture own;
            Canvas laid(clip);
            draw_tiles_off_raster(level, *layer, art, laid, small, isometric[i]);
            own.size = clip.size();
            own.pixels = std::move(laid.pixels);
            blit(canvas, clip, own, clip.corner(), *layer);
            continue;
        }
        if (layer->backdrop())
            draw_backdrop(level, *layer, art, canvas, clip, small);
        else if (layer->has_props())
            draw_props(project, *layer, art, canvas, clip, small);
    }
    draw_reference(project, level, canvas, clip, small, true);
}

} // namespace

void draw_small(const level::Project& project, const level::Level& level, Art& art, Canvas& canvas, const Box& part,
                int small) {
    if (!on_raster(level, small)) return draw_off_raster(project, level, art, canvas, part, small);
    level::Level less = level;
    less.cell = {level.cell.w >> small, level.cell.h >> small};
    draw_layers(project, less, art, canvas, part, small);
}

Image render(const level::Project& project, const level::Level& as_seen, int scale) {
    assert(scale >= 1 && scale <= 16);
    level::Level level = with_figures(project, as_seen);
    level.reference.reset();
    Art art;
    Canvas canvas(extent(project, level));
    canvas.see_through = true;
    draw(project, level, art, canvas, canvas.box);
    Image out(canvas.box.size());
    for (int y = 0; y < out.height(); ++y) {
        for (int x = 0; x < out.width(); ++x) {
            const std::uint32_t p = canvas.pixels[static_cast<std::size_t>(y) * static_cast<std::size_t>(out.width()) +
                                                  static_cast<std::size_t>(x)];
            out.set(x, y, straight(p));
        }
    }
    return resampled(out, {out.width() * scale, out.height() * scale});
}

} // namespace vic::picture
