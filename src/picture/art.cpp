#include "picture/art.hpp"

#include <algorithm>
#include <array>
#include <numeric>

#include "base/chance.hpp"
#include "picture/blend.hpp"
#include "sheet/cut.hpp"

namespace vic::picture {

namespace {

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

// The same of a picture that repeats without end, until the small one repeats as well.
Art::Picture shrunk_endless(const Art::Picture& from, int small) {
    const int s = 1 << small;
    Art::Picture out;
    out.opaque = from.opaque;
    out.size = {from.size.w / std::gcd(from.size.w, s), from.size.h / std::gcd(from.size.h, s)};
    // Sums of s pixels of each row, then of s rows of those.
    std::vector<std::array<std::uint32_t, 4>> rows(static_cast<std::size_t>(out.size.w) *
                                                   static_cast<std::size_t>(from.size.h));
    for (int y = 0; y < from.size.h; ++y)
        for (int x = 0; x < out.size.w; ++x) {
            auto& sum = rows[static_cast<std::size_t>(y * out.size.w + x)];
            for (int fx = x * s; fx < (x + 1) * s; ++fx) {
                const std::uint32_t p = from.pixels[static_cast<std::size_t>(y * from.size.w + fx % from.size.w)];
                for (std::size_t i = 0; i < 4; ++i) sum[i] += (p >> (8 * i)) & 255U;
            }
        }
    const std::uint32_t all = static_cast<std::uint32_t>(s) * static_cast<std::uint32_t>(s);
    out.pixels.reserve(static_cast<std::size_t>(out.size.area()));
    for (int y = 0; y < out.size.h; ++y)
        for (int x = 0; x < out.size.w; ++x) {
            std::array<std::uint32_t, 4> sum{};
            for (int fy = y * s; fy < (y + 1) * s; ++fy)
                for (std::size_t i = 0; i < 4; ++i)
                    sum[i] += rows[static_cast<std::size_t>(fy % from.size.h * out.size.w + x)][i];
            std::uint32_t pixel = 0;
            for (std::size_t i = 0; i < 4; ++i) pixel |= ((sum[i] + all / 2) / all) << (8 * i);
            out.pixels.push_back(pixel);
        }
    return out;
}

// Whether every pixel whose middle lies in the cell's diamond, at the lower edge of the picture, is opaque.
bool fills_diamond(const Image& art, Size cell) {
    if (art.width() < cell.w || art.height() < cell.h) return false;
    for (int y = 0; y < cell.h; ++y)
        for (int x = 0; x < cell.w; ++x) {
            const bool inside =
                std::abs(2 * x + 1 - cell.w) * cell.h + std::abs(2 * y + 1 - cell.h) * cell.w < cell.w * cell.h;
            if (inside && art.at(x, art.height() - cell.h + y).a < 255) return false;
        }
    return true;
}

std::uint64_t place_key(const level::PropKind& kind, const Box& box, bool mirrored) {
    std::uint64_t key = mix((std::uint64_t{kind.id} << 1) | (mirrored ? 1U : 0U));
    for (const int v : {box.x, box.y, box.w, box.h, kind.factor}) key = mix(key ^ static_cast<std::uint32_t>(v));
    return key;
}

} // namespace

void Art::update(const level::Project& project) {
    if (materials_ != project.materials) {
        materials_ = project.materials;
        over_.reset();
        if (std::any_of(materials_.begin(), materials_.end(), [](const auto& m) { return m->joins.over; }))
            over_.emplace(project);
    }
    if (kinds_ != project.prop_kinds) {
        kinds_ = project.prop_kinds;
        moving_.clear();
        for (const auto& kind : kinds_)
            if (kind->frames > 1) moving_.push_back(kind);
    }
    if (follows_ && sheets_ == project.sheets) return;
    follows_ = true;
    sheets_ = project.sheets;
    table_ = level::TileTable(project);
    isometric_.clear();
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
    bool changed = std::any_of(moving_.begin(), moving_.end(), [&](const auto& kind) {
        return ms / std::max(1, kind->frame_ms) != clock_ / std::max(1, kind->frame_ms);
    });
    clock_ = ms;
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
    return lattice.square() ? table_.reach() : isometric(lattice).reach;
}

const Art::Aslant& Art::isometric(const Lattice& lattice) {
    const std::scoped_lock lock(making_);
    for (const Aslant& known : isometric_)
        if (known.lattice == lattice) return known;
    level::Project sheets;
    sheets.sheets = sheets_;
    Aslant& out = isometric_.emplace_back(
        Aslant{lattice, level::reach_of(sheets, lattice), level::beyond_of(sheets, lattice), false});
    for (const auto& sheet : sheets_) // blocks are the last of a sheet's tiles
        out.blocks = out.blocks || (!sheet->tiles.empty() && sheet->tiles.back().is_block());
    return out;
}

Box Art::seen_in(const Box& pixels, const Lattice& lattice) {
    const level::Beyond& b = isometric(lattice).beyond;
    return {pixels.x - b.aside, pixels.y - b.below, pixels.w + 2 * b.aside, pixels.h + b.above + b.below};
}

std::optional<int> Art::highest(const Lattice& lattice) {
    const Aslant& a = isometric(lattice);
    return a.blocks ? std::nullopt : std::optional(lattice.cell.h + a.beyond.above);
}

const Art::Picture* Art::tile(level::Cell cell, const Lattice& lattice, int small) {
    const std::scoped_lock lock(making_);
    return made_tile(cell, lattice, small);
}

const Art::Picture* Art::made_tile(level::Cell laid, const Lattice& lattice, int small) {
    const Size pixels = lattice.cell;
    level::Cell cell = laid;
    if (animated(laid.tile())) cell = level::Cell(frames_[laid.tile()], laid.turn(), false);
    const std::uint64_t key =
        (std::uint64_t{cell.tile()} << 32) | (std::uint64_t{cell.turn().code} << 28) |
        (static_cast<std::uint64_t>(pixels.w & 0x3FFF) << 14) | static_cast<std::uint64_t>(pixels.h & 0x3FFF) |
        (static_cast<std::uint64_t>(small) << 56) | (lattice.square() ? 0 : std::uint64_t{1} << 31);
    const auto known = tiles_.find(key);
    if (known != tiles_.end()) return &known->second;
    if (small != 0) {
        const Picture* whole = made_tile(laid, {LatticeKind::square, {pixels.w << small, pixels.h << small}}, 0);
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
        picture.diamond = !picture.block && fills_diamond(art, pixels);
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
    const std::scoped_lock lock(making_);
    return made_prop(kind, mirrored);
}

const Art::Picture* Art::made_prop(const level::PropKind& kind, bool mirrored) {
    for (const auto& sheet : sheets_) {
        if (sheet->id != kind.sheet || !sheet->image) continue;
        // The box is part of the key: a prop that was cut anew is another picture.
        const Box box = kind.box_at(clock_, sheet->image->size());
        const std::uint64_t key = place_key(kind, box, mirrored);
        const auto known = props_.find(key);
        if (known != props_.end()) return &known->second;
        Image art = resampled(cropped(*sheet->image, box), kind.drawn(), sheet->smooth);
        if (mirrored)
            for (int y = 0; y < art.height(); ++y) std::reverse(art.row(y), art.row(y) + art.width());
        return &props_.emplace(key, prepared(art)).first->second;
    }
    return nullptr;
}

const Art::Picture* Art::small_prop(const level::PropKind& kind, bool mirrored, int small, Point phase) {
    const std::scoped_lock lock(making_);
    Box box = kind.box;
    for (const auto& sheet : sheets_)
        if (kind.frames > 1 && sheet->id == kind.sheet && sheet->image) box = kind.box_at(clock_, sheet->image->size());
    std::uint64_t key = place_key(kind, box, mirrored);
    for (const int v : {kind.sheet > 0 ? static_cast<int>(kind.sheet) : 0, small, phase.x, phase.y})
        key = mix(key ^ static_cast<std::uint32_t>(v));
    const auto known = shrunk_.find(key);
    if (known != shrunk_.end()) return &known->second;
    const Picture* whole = made_prop(kind, mirrored);
    return whole ? &shrunk_.emplace(key, shrunk(*whole, small, phase)).first->second : nullptr;
}

const Art::Picture* Art::whole_picture(level::SheetId id, int small) {
    const std::scoped_lock lock(making_);
    return made_whole(id, small);
}

const Art::Picture* Art::made_whole(level::SheetId id, int small) {
    if (small != 0) {
        const std::uint64_t key = mix((std::uint64_t{id} << 8) | static_cast<std::uint64_t>(small));
        const auto small_known = shrunk_.find(key);
        if (small_known != shrunk_.end()) return &small_known->second;
        const Picture* full = made_whole(id, 0);
        return full ? &shrunk_.emplace(key, shrunk_endless(*full, small)).first->second : nullptr;
    }
    const auto known = wholes_.find(id);
    if (known != wholes_.end()) return &known->second;
    for (const auto& sheet : sheets_)
        if (sheet->id == id && sheet->image) return &wholes_.emplace(id, prepared(*sheet->image)).first->second;
    return nullptr;
}

const Art::Picture* Art::halved_picture(level::SheetId id, int times) {
    if (times == 0) return whole_picture(id);
    const std::scoped_lock lock(making_);
    const std::uint64_t key = mix((std::uint64_t{id} << 8) | 0x80U | static_cast<std::uint64_t>(times));
    const auto known = shrunk_.find(key);
    if (known != shrunk_.end()) return &known->second;
    for (const auto& sheet : sheets_)
        if (sheet->id == id && sheet->image) {
            const Size size{std::max(1, sheet->image->width() >> times), std::max(1, sheet->image->height() >> times)};
            return &shrunk_.emplace(key, prepared(resampled(*sheet->image, size, true))).first->second;
        }
    return nullptr;
}

const Art::Picture* Art::small_of(const Picture& picture, int small, Point phase) {
    const std::scoped_lock lock(making_);
    std::uint64_t key = mix(reinterpret_cast<std::uintptr_t>(&picture));
    for (const int v : {small, phase.x, phase.y}) key = mix(key ^ static_cast<std::uint32_t>(v));
    const auto known = shrunk_.find(key);
    return &(known != shrunk_.end() ? known : shrunk_.emplace(key, shrunk(picture, small, phase)).first)->second;
}

} // namespace vic::picture
