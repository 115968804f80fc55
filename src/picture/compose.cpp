#include "picture/compose.hpp"

#include <algorithm>
#include <array>
#include <cassert>
#include <cmath>

#include "base/chance.hpp"
#include "sheet/cut.hpp"

namespace vic::picture {

using level::Layer;
using level::LayerKind;

namespace {

constexpr std::uint32_t kGoneInk = 0xFFC2452D;
constexpr std::uint32_t kGonePaper = 0xFFF1ECE0;
constexpr int kMostAbove = 4; // cells by which an isometric level is higher than its ground

std::uint32_t premultiplied(Rgba c) {
    const auto scale = [&](unsigned v) { return (v * c.a + 127) / 255; };
    return (std::uint32_t{c.a} << 24) | (scale(c.r) << 16) | (scale(c.g) << 8) | scale(c.b);
}

Art::Picture prepared(const Image& image) {
    Art::Picture out;
    out.size = image.size();
    out.pixels.reserve(image.pixels().size());
    out.opaque = true;
    for (const Rgba c : image.pixels()) {
        out.pixels.push_back(premultiplied(c));
        out.opaque = out.opaque && c.a == 255;
    }
    return out;
}

// Each of the four bytes times f / 255, rounded; two bytes at a time.
std::uint32_t scaled_bytes(std::uint32_t p, std::uint32_t f) {
    std::uint32_t even = (p & 0x00FF00FF) * f + 0x00800080;
    std::uint32_t odd = ((p >> 8) & 0x00FF00FF) * f + 0x00800080;
    even = ((even + ((even >> 8) & 0x00FF00FF)) >> 8) & 0x00FF00FF;
    odd = (odd + ((odd >> 8) & 0x00FF00FF)) & 0xFF00FF00;
    return even | odd;
}

std::uint32_t over(std::uint32_t above, std::uint32_t below) {
    return above + scaled_bytes(below, 255 - (above >> 24));
}

std::uint32_t tinted(std::uint32_t p, Rgba tint) {
    const auto part = [&](int shift, unsigned by) { return (((p >> shift) & 255U) * by + 127) / 255; };
    return (part(24, tint.a) << 24) | (part(16, tint.r * tint.a / 255U) << 16) |
           (part(8, tint.g * tint.a / 255U) << 8) | part(0, tint.b * tint.a / 255U);
}

// The mean of each 2^small pixels across and down; the picture begins `phase` pixels inside the first of them.
Art::Picture shrunk(const Art::Picture& from, int small, Point phase) {
    const int s = 1 << small;
    Art::Picture out;
    out.block = from.block;
    out.size = {(from.size.w + phase.x + s - 1) / s, (from.size.h + phase.y + s - 1) / s};
    out.opaque = from.opaque && phase == Point{} && from.size.w % s == 0 && from.size.h % s == 0;
    out.pixels.resize(static_cast<std::size_t>(out.size.area()));
    const std::uint32_t all = static_cast<std::uint32_t>(s) * static_cast<std::uint32_t>(s);
    for (int y = 0; y < out.size.h; ++y)
        for (int x = 0; x < out.size.w; ++x) {
            std::array<std::uint32_t, 4> sum{};
            for (int fy = std::max(0, y * s - phase.y); fy < std::min(from.size.h, (y + 1) * s - phase.y); ++fy)
                for (int fx = std::max(0, x * s - phase.x); fx < std::min(from.size.w, (x + 1) * s - phase.x); ++fx) {
                    const std::uint32_t p = from.pixels[static_cast<std::size_t>(fy * from.size.w + fx)];
                    for (std::size_t i = 0; i < 4; ++i) sum[i] += (p >> (8 * i)) & 255U;
                }
            std::uint32_t pixel = 0;
            for (std::size_t i = 0; i < 4; ++i) pixel |= ((sum[i] + all / 2) / all) << (8 * i);
            out.pixels[static_cast<std::size_t>(y * out.size.w + x)] = pixel;
        }
    return out;
}

// Each colour of a premultiplied pixel times that of the tint.
std::uint32_t coloured(std::uint32_t p, Rgba tint) {
    const auto part = [&](int shift, unsigned by) { return ((((p >> shift) & 255U) * by + 127) / 255) << shift; };
    return (p & 0xFF000000U) | part(16, tint.r) | part(8, tint.g) | part(0, tint.b);
}

void blit(Canvas& canvas, const Box& clip, const Art::Picture& picture, Point at, const Layer& layer) {
    const Box seen = intersection({at.x, at.y, picture.size.w, picture.size.h}, clip);
    const auto alpha = static_cast<std::uint32_t>((layer.opacity * 255 + 50) / 100);
    const bool tints = layer.tint.r != 255 || layer.tint.g != 255 || layer.tint.b != 255;
    for (int y = seen.y; y < seen.bottom(); ++y) {
        const std::uint32_t* from =
            &picture.pixels[static_cast<std::size_t>((y - at.y) * picture.size.w + seen.x - at.x)];
        std::uint32_t* to =
            &canvas.pixels[static_cast<std::size_t>(y - canvas.box.y) * static_cast<std::size_t>(canvas.box.w) +
                           static_cast<std::size_t>(seen.x - canvas.box.x)];
        if (tints)
            for (int x = 0; x < seen.w; ++x) to[x] = over(scaled_bytes(coloured(from[x], layer.tint), alpha), to[x]);
        else if (picture.opaque && alpha == 255)
            std::copy(from, from + seen.w, to);
        else if (alpha == 255)
            for (int x = 0; x < seen.w; ++x) to[x] = over(from[x], to[x]);
        else
            for (int x = 0; x < seen.w; ++x) to[x] = over(scaled_bytes(from[x], alpha), to[x]);
    }
}

void draw_gone(Canvas& canvas, const Box& clip, const Box& cell, bool diamond = false) {
    const Box seen = intersection(cell, clip);
    for (int y = seen.y; y < seen.bottom(); ++y) {
        for (int x = seen.x; x < seen.right(); ++x) {
            const int dx = x - cell.x;
            const int dy = y - cell.y;
            bool rim = dx == 0 || dy == 0 || dx == cell.w - 1 || dy == cell.h - 1;
            bool cross = dx * cell.h / cell.w == dy || dx * cell.h / cell.w == cell.h - 1 - dy;
            if (diamond) {
                const double off = std::abs(2.0 * dx + 1 - cell.w) / cell.w + std::abs(2.0 * dy + 1 - cell.h) / cell.h;
                if (off > 1) continue;
                cross = dx == cell.w / 2 || dy == cell.h / 2;
                rim = off > 1 - 4.0 / cell.h;
            }
            canvas.pixels[static_cast<std::size_t>(y - canvas.box.y) * static_cast<std::size_t>(canvas.box.w) +
                          static_cast<std::size_t>(x - canvas.box.x)] = rim || cross ? kGoneInk : kGonePaper;
        }
    }
}

// What of an isometric layer is to be seen in the clip, from the back: what lies further down lies in front.
struct Aslant {
    Point at;
    int depth; // of its foot's foremost cell
    level::Cell cell;
    const Art::Picture* picture; // null for a tile that is gone
    Box box;                     // pixels
};
std::vector<Aslant> aslant_in(const level::Level& level, const level::Grid& grid, Art& art, const Box& clip) {
    const Lattice lattice = level.geometry();
    std::vector<Aslant> out;
    level::each_cell(grid, art.reach(lattice).seen_in(lattice.cells_in(clip)),
                     [&](Point at, level::Cell cell, level::MaterialId) {
                         const level::Tile* tile = art.table().find(cell.tile()).tile;
                         const Box box = tile ? level::picture_box(*tile, at, cell.turn(), lattice) : lattice.box(at);
                         if (intersection(box, clip).empty()) return;
                         const Box foot = tile ? level::foot_under(*tile, at, cell.turn()) : Box{at.x, at.y, 1, 1};
                         out.push_back({at, foot.right() + foot.bottom(), cell, art.tile(cell, lattice), box});
                     });
    std::sort(out.begin(), out.end(), [](const Aslant& a, const Aslant& b) {
        return std::tuple(a.depth, a.at.x) < std::tuple(b.depth, b.at.x);
    });
    return out;
}

void draw_aslant(const level::Level& level, const Layer& layer, Art& art, Canvas& canvas, const Box& clip) {
    const auto draw_all = [&](const level::Grid& grid) {
        for (const Aslant& a : aslant_in(level, grid, art, clip)) {
            if (a.picture)
                blit(canvas, clip, *a.picture, a.box.corner(), layer);
            else
                draw_gone(canvas, clip, level.geometry().box(a.at), true);
        }
    };
    if (art.over()) {
        const Box cells =
            intersection(art.reach(level.geometry()).seen_in(level.geometry().cells_in(clip)), layer.cells());
        draw_all(join::underlay(*art.over(), layer.grid, cells, layer.id));
    }
    draw_all(layer.grid);
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
    std::vector<Flat> flats;
    std::vector<Block> blocks;
};

// `covered` tells of the cells which lie under something opaque of a layer in front, a byte each; what this layer
// covers is added. Null where the layer does not lie as the others do.
Seen seen_of(const level::Level& level, const Layer& layer, Art& art, const Box& cells,
             std::vector<std::uint8_t>* covered) {
    const Lattice lattice = level.geometry();
    Seen out;
    // The last pictures found, so that most cells need no look-up; they stay where they are while more are made.
    struct Found {
        std::uint32_t bits = 0;
        const Art::Picture* picture = nullptr;
    };
    std::array<Found, 256> found{};
    const bool covers = layer.opacity >= 100;
    level::each_cell(
        layer.grid, art.table().reach().seen_in(cells), [&](Point at, level::Cell cell, level::MaterialId) {
            const bool inside = cells.contains(at);
            std::uint8_t* hidden =
                covered && inside
                    ? &(*covered)[static_cast<std::size_t>(at.y - cells.y) * static_cast<std::size_t>(cells.w) +
                                  static_cast<std::size_t>(at.x - cells.x)]
                    : nullptr;
            const std::uint32_t bits = cell.bits & 0x07FFFFFFU;
            Found& slot = found[(bits ^ (bits >> 21)) & 255U];
            if (slot.picture == nullptr || slot.bits != bits) slot = {bits, art.tile(cell, lattice)};
            const Art::Picture* picture = slot.picture;
            if (picture ? picture->block : !inside) { // only blocks reach over from beyond
                const level::Tile* tile = art.table().find(cell.tile()).tile;
                if (tile && tile->is_block())
                    out.blocks.push_back({level::foot_under(*tile, at, cell.turn()).bottom(), at, cell});
                return;
            }
            if (!inside || (hidden && *hidden != 0)) return;
            out.flats.push_back({at, picture});
            if (hidden && covers && (!picture || picture->opaque)) *hidden = 1;
        });
    // Blocks stand on what is flat, and what stands further down stands in front.
    std::sort(out.blocks.begin(), out.blocks.end(), [](const auto& a, const auto& b) {
        return std::tuple(a.foot, a.at.x, a.at.y) < std::tuple(b.foot, b.at.x, b.at.y);
    });
    return out;
}

void draw_tiles(const level::Level& level, const Layer& layer, Art& art, Canvas& canvas, const Box& clip,
                const Seen& seen) {
    const int cw = level.cell.w;
    const int ch = level.cell.h;
    if (art.over()) {
        const Box cells = level.geometry().cells_in(clip);
        level::each_cell(join::underlay(*art.over(), layer.grid, cells, layer.id), cells,
                         [&](Point at, level::Cell cell, level::MaterialId) {
                             if (const Art::Picture* picture = art.tile(cell, level.cell))
                                 blit(canvas, clip, *picture, {at.x * cw, at.y * ch}, layer);
                         });
    }
    for (const Seen::Flat& flat : seen.flats) {
        if (flat.picture)
            blit(canvas, clip, *flat.picture, {flat.at.x * cw, flat.at.y * ch}, layer);
        else
            draw_gone(canvas, clip, {flat.at.x * cw, flat.at.y * ch, cw, ch});
    }
    for (const Seen::Block& block : seen.blocks) {
        const Art::Picture* picture = art.tile(block.cell, level.cell);
        const Box px = level::picture_box(*art.table().find(block.cell.tile()).tile, block.at, block.cell.turn(),
                                          level.geometry());
        if (picture)
            blit(canvas, clip, *picture, px.corner(), layer);
        else
            draw_gone(canvas, clip, {block.at.x * cw, block.at.y * ch, cw, ch});
    }
}

// `small`: the canvas is in small pixels.
void draw_props(const level::Project& project, const Layer& layer, Art& art, Canvas& canvas, const Box& clip,
                int small) {
    const int s = 1 << small;
    const Box clip_full{clip.x * s, clip.y * s, clip.w * s, clip.h * s};
    std::vector<const level::Prop*> seen;
    for (const level::Prop& prop : layer.props) {
        const level::PropKind* kind = project.prop_kind(prop.kind);
        if (kind && !intersection(prop_box(prop, *kind), clip_full).empty()) seen.push_back(&prop);
    }
    // What stands further down stands in front.
    std::sort(seen.begin(), seen.end(), [](const level::Prop* a, const level::Prop* b) {
        return std::tuple(a->at.y, a->at.x, a->id) < std::tuple(b->at.y, b->at.x, b->id);
    });
    for (const level::Prop* prop : seen) {
        const level::PropKind& kind = *project.prop_kind(prop->kind);
        const Box box = prop_box(*prop, kind);
        const Point corner{floor_div(box.x, s), floor_div(box.y, s)};
        const Art::Picture* picture =
            small == 0 ? art.prop(kind, prop->mirrored)
                       : art.small_prop(kind, prop->mirrored, box.corner() - Point{corner.x * s, corner.y * s});
        if (picture)
            blit(canvas, clip, *picture, corner, layer);
        else
            draw_gone(canvas, clip, {corner.x, corner.y, std::max(1, box.w / s), std::max(1, box.h / s)});
    }
}

int wrapped(int v, int size) { return v - floor_div(v, size) * size; }

void draw_backdrop(const Layer& layer, Art& art, Canvas& canvas, const Box& clip) {
    const Art::Picture* picture = art.whole(layer.backdrop.sheet);
    if (!picture) return;
    const auto alpha = static_cast<std::uint32_t>((layer.opacity * 255 + 50) / 100);
    for (int y = clip.y; y < clip.bottom(); ++y) {
        for (int x = clip.x; x < clip.right(); ++x) {
            const std::uint32_t p = picture->pixels[static_cast<std::size_t>(
                wrapped(y, picture->size.h) * picture->size.w + wrapped(x, picture->size.w))];
            std::uint32_t& to =
                canvas.pixels[static_cast<std::size_t>(y - canvas.box.y) * static_cast<std::size_t>(canvas.box.w) +
                              static_cast<std::size_t>(x - canvas.box.x)];
            to = over(scaled_bytes(tinted(p, layer.backdrop.tint), alpha), to);
        }
    }
}

std::uint64_t place_key(const level::PropKind& kind, bool mirrored) {
    std::uint64_t key = mix((std::uint64_t{kind.id} << 1) | (mirrored ? 1U : 0U));
    for (const int v : {kind.box.x, kind.box.y, kind.box.w, kind.box.h, kind.factor})
        key = mix(key ^ static_cast<std::uint32_t>(v));
    return key;
}

Box placed(const level::Prop& prop, const level::PropKind& kind, const Box& within) {
    const int width = kind.drawn().w;
    const Point middle = kind.drawn_pivot();
    const int x = prop.mirrored ? width - within.right() : within.x;
    const int pivot = prop.mirrored ? width - 1 - middle.x : middle.x;
    return {prop.at.x - pivot + x, prop.at.y - middle.y + within.y, within.w, within.h};
}

} // namespace

Box prop_box(const level::Prop& prop, const level::PropKind& kind) { return placed(prop, kind, box_of(kind.drawn())); }

Box foot_box(const level::Prop& prop, const level::PropKind& kind) { return placed(prop, kind, kind.drawn_foot()); }

void Art::follow(const level::Project& project) {
    if (materials_ != project.materials) {
        materials_ = project.materials;
        over_.reset();
        if (std::any_of(materials_.begin(), materials_.end(), [](const auto& m) { return m->joins.over; }))
            over_.emplace(project);
    }
    if (sheets_ == project.sheets && !sheets_.empty()) return;
    sheets_ = project.sheets;
    table_ = level::TileTable(project);
    aslant_.reset();
    frames_.clear();
    played_.clear();
    for (const auto& sheet : sheets_)
        for (const level::Tile& t : sheet->tiles)
            if (!t.frames.empty() && t.id < project.next_tile) played_.push_back(&t);
    if (!played_.empty()) frames_.resize(project.next_tile, 0);
    set_clock(clock_);
    tiles_.clear();
    props_.clear();
    wholes_.clear();
    shrunk_.clear();
}

bool Art::set_clock(std::int64_t ms) {
    clock_ = ms;
    bool changed = false;
    for (const level::Tile* t : played_) {
        level::TileId now = level::frame_at(*t, ms);
        // A frame that is gone, or of another size, leaves the tile's own picture.
        const level::Tile* frame = table_.find(now).tile;
        if (!frame || frame->block.cells != t->block.cells) now = t->id;
        changed = changed || frames_[t->id] != now;
        frames_[t->id] = now;
    }
    return changed;
}

const level::Reach& Art::reach(const Lattice& lattice) {
    if (lattice.square()) return table_.reach();
    if (!aslant_ || aslant_->first != lattice) {
        level::Project sheets;
        sheets.sheets = sheets_;
        aslant_ = {lattice, level::reach_of(sheets, lattice)};
    }
    return aslant_->second;
}

const Art::Picture* Art::tile(level::Cell laid, const Lattice& lattice) {
    const Size pixels = lattice.cell;
    level::Cell cell = laid;
    if (animated(laid.tile())) cell = level::Cell(frames_[laid.tile()], laid.turn(), false);
    const std::uint64_t key =
        (std::uint64_t{cell.tile()} << 32) | (std::uint64_t{cell.turn().code} << 28) |
        (static_cast<std::uint64_t>(pixels.w & 0x3FFF) << 14) | static_cast<std::uint64_t>(pixels.h & 0x3FFF) |
        (static_cast<std::uint64_t>(small_) << 56) | (lattice.square() ? 0 : std::uint64_t{1} << 31);
    const auto known = tiles_.find(key);
    if (known != tiles_.end()) return &known->second;
    if (small_ != 0) {
        const int small = small_;
        small_ = 0;
        const Picture* whole = tile(laid, {pixels.w << small, pixels.h << small});
        small_ = small;
        return whole ? &tiles_.emplace(key, shrunk(*whole, small, {})).first->second : nullptr;
    }
    const level::TileRef ref = table_.find(cell.tile());
    if (!ref.tile || !ref.sheet->image) return nullptr;
    if (!lattice.square()) {
        Image art = resampled(sheet::tile_art(*ref.sheet, *ref.tile), level::picture_size(*ref.tile, lattice),
                              ref.sheet->smooth);
        if (cell.turn().mirrored())
            for (int y = 0; y < art.height(); ++y) std::reverse(art.row(y), art.row(y) + art.width());
        Picture& picture = tiles_.emplace(key, prepared(art)).first->second;
        picture.block = ref.tile->is_block();
        return &picture;
    }
    if (ref.tile->is_block()) {
        const Size all{ref.tile->block.cells.w * pixels.w, ref.tile->block.cells.h * pixels.h};
        Image art = resampled(sheet::tile_art(*ref.sheet, *ref.tile), all, ref.sheet->smooth);
        if (cell.turn().mirrored())
            for (int y = 0; y < art.height(); ++y) std::reverse(art.row(y), art.row(y) + art.width());
        Picture& picture = tiles_.emplace(key, prepared(art)).first->second;
        picture.block = true;
        return &picture;
    }
    Image art = resampled(sheet::tile_art(*ref.sheet, *ref.tile), pixels, ref.sheet->smooth);
    if (cell.turn().code != 0 && pixels.w == pixels.h) {
        Image turned(pixels);
        for (int y = 0; y < pixels.h; ++y)
            for (int x = 0; x < pixels.w; ++x) {
                const Point from = source_pixel(cell.turn(), {x, y}, pixels.w);
                turned.set(x, y, art.at(from.x, from.y));
            }
        art = std::move(turned);
    }
    return &tiles_.emplace(key, prepared(art)).first->second;
}

const Art::Picture* Art::prop(const level::PropKind& kind, bool mirrored) {
    for (const auto& sheet : sheets_) {
        if (sheet->id != kind.sheet || !sheet->image) continue;
        // The box is part of the key: a prop that was cut anew is another picture.
        const std::uint64_t key = place_key(kind, mirrored);
        const auto known = props_.find(key);
        if (known != props_.end()) return &known->second;
        Image art = resampled(cropped(*sheet->image, kind.box), kind.drawn(), sheet->smooth);
        if (mirrored)
            for (int y = 0; y < art.height(); ++y) std::reverse(art.row(y), art.row(y) + art.width());
        return &props_.emplace(key, prepared(art)).first->second;
    }
    return nullptr;
}

const Art::Picture* Art::small_prop(const level::PropKind& kind, bool mirrored, Point phase) {
    std::uint64_t key = place_key(kind, mirrored);
    for (const int v : {kind.sheet > 0 ? static_cast<int>(kind.sheet) : 0, small_, phase.x, phase.y})
        key = mix(key ^ static_cast<std::uint32_t>(v));
    const auto known = shrunk_.find(key);
    if (known != shrunk_.end()) return &known->second;
    const Picture* whole = prop(kind, mirrored);
    return whole ? &shrunk_.emplace(key, shrunk(*whole, small_, phase)).first->second : nullptr;
}

const Art::Picture* Art::whole(level::SheetId id) {
    if (small_ != 0) {
        const std::uint64_t key = mix((std::uint64_t{id} << 8) | static_cast<std::uint64_t>(small_));
        const auto small_known = shrunk_.find(key);
        if (small_known != shrunk_.end()) return &small_known->second;
        const int small = small_;
        small_ = 0;
        const Picture* full = whole(id);
        small_ = small;
        return full ? &shrunk_.emplace(key, shrunk(*full, small, {})).first->second : nullptr;
    }
    const auto known = wholes_.find(id);
    if (known != wholes_.end()) return &known->second;
    for (const auto& sheet : sheets_)
        if (sheet->id == id && sheet->image) return &wholes_.emplace(id, prepared(*sheet->image)).first->second;
    return nullptr;
}

namespace {

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
    if (level.lattice != LatticeKind::square) art.follow(project);
    return extent_of(level, art);
}

namespace {

// The level with the lattice of one of its layers.
level::Level of_layer(const level::Level& level, const Layer& layer) {
    level::Level out;
    out.lattice = level.lattice;
    out.cell = level.lattice_of(layer).cell;
    out.size = {level.size.w * layer.finer, level.size.h * layer.finer};
    return out;
}

void draw_layers(const level::Project& project, const level::Level& level, Art& art, Canvas& canvas, const Box& part,
                 int small) {
    art.follow(project);
    const Box clip = intersection(intersection(part, canvas.box), extent_of(level, art));
    if (clip.empty()) return;
    const std::uint32_t ground = premultiplied({level.ground.r, level.ground.g, level.ground.b, 255});
    for (int y = clip.y; y < clip.bottom(); ++y) {
        std::uint32_t* row =
            &canvas.pixels[static_cast<std::size_t>(y - canvas.box.y) * static_cast<std::size_t>(canvas.box.w) +
                           static_cast<std::size_t>(clip.x - canvas.box.x)];
        std::fill(row, row + clip.w, ground);
    }
    // From the front on: what lies under something opaque need not be drawn.
    const Lattice lattice = level.geometry();
    const bool square = lattice.square();
    const Box cells = square ? lattice.cells_in(clip) : Box{};
    std::vector<std::uint8_t> covered(static_cast<std::size_t>(cells.size().area()), 0);
    std::vector<Seen> seen_on(level.layers.size());
    for (std::size_t i = level.layers.size(); i-- > 0;) {
        const Layer& layer = *level.layers[i];
        if (!square || layer.kind != LayerKind::tiles || !layer.shown || layer.opacity <= 0) continue;
        const Point shift{layer.shift.x * level.cell.w / 2, layer.shift.y * level.cell.h / 2};
        if (layer.finer != 1)
            seen_on[i] = seen_of(of_layer(level, layer), layer, art,
                                 level.lattice_of(layer).cells_in(clip.moved({-shift.x, -shift.y})), nullptr);
        else
            seen_on[i] = shift == Point{}
                             ? seen_of(level, layer, art, cells, &covered)
                             : seen_of(level, layer, art, lattice.cells_in(clip.moved({-shift.x, -shift.y})), nullptr);
    }
    for (std::size_t i = 0; i < level.layers.size(); ++i) {
        const level::LayerRef& layer = level.layers[i];
        if (!layer->shown || layer->opacity <= 0) continue;
        // A shifted layer is drawn as it lies, on a canvas that is moved the other way.
        const Point shift{layer->shift.x * level.cell.w / 2, layer->shift.y * level.cell.h / 2};
        const Box there = canvas.box;
        canvas.box = there.moved({-shift.x, -shift.y});
        const Box seen = clip.moved({-shift.x, -shift.y});
        switch (layer->kind) {
            case LayerKind::tiles:
                if (!square)
                    draw_aslant(of_layer(level, *layer), *layer, art, canvas, seen);
                else
                    draw_tiles(of_layer(level, *layer), *layer, art, canvas, seen, seen_on[i]);
                break;
            case LayerKind::blockers: // what is not seen
                break;
            case LayerKind::props:
            case LayerKind::planting:
                draw_props(project, *layer, art, canvas, seen, small);
                break;
            case LayerKind::backdrop:
                canvas.box = there;
                draw_backdrop(*layer, art, canvas, clip);
                break;
        }
        canvas.box = there;
    }
}

} // namespace

void draw(const level::Project& project, const level::Level& level, Art& art, Canvas& canvas, const Box& part) {
    draw_layers(project, level, art, canvas, part, 0);
}

bool can_draw_small(const level::Project& project, const level::Level& level, int small) {
    const int s = 1 << small;
    // The rims of diamonds share their pixels: their means are not the mean of the whole.
    if (level.lattice != LatticeKind::square) return false;
    if (level.cell.w % s != 0 || level.cell.h % s != 0) return false;
    return std::all_of(level.layers.begin(), level.layers.end(), [&](const level::LayerRef& l) {
        if (l->finer != 1 && (level.cell.w / l->finer % s != 0 || level.cell.h / l->finer % s != 0)) return false;
        if (l->shift != Point{} && (level.cell.w / 2 % s != 0 || level.cell.h / 2 % s != 0)) return false;
        if (l->kind != LayerKind::backdrop) return true;
        const level::Sheet* sheet = project.sheet(l->backdrop.sheet);
        return !sheet || !sheet->image || (sheet->image->width() % s == 0 && sheet->image->height() % s == 0);
    });
}

void draw_small(const level::Project& project, const level::Level& level, Art& art, Canvas& canvas, const Box& part,
                int small) {
    level::Level less = level;
    less.cell = {level.cell.w >> small, level.cell.h >> small};
    art.set_small(small);
    draw_layers(project, less, art, canvas, part, small);
    art.set_small(0);
}

Image render(const level::Project& project, const level::Level& level, int scale) {
    assert(scale >= 1 && scale <= 16);
    Art art;
    Canvas canvas(extent(project, level));
    draw(project, level, art, canvas, canvas.box);
    Image out(canvas.box.size());
    for (int y = 0; y < out.height(); ++y) {
        for (int x = 0; x < out.width(); ++x) {
            const std::uint32_t p = canvas.pixels[static_cast<std::size_t>(y) * static_cast<std::size_t>(out.width()) +
                                                  static_cast<std::size_t>(x)];
            out.set(x, y,
                    {static_cast<std::uint8_t>(p >> 16), static_cast<std::uint8_t>(p >> 8),
                     static_cast<std::uint8_t>(p), 255});
        }
    }
    return resampled(out, {out.width() * scale, out.height() * scale});
}

} // namespace vic::picture
