#include "level/grid.hpp"

#include <algorithm>
#include <cassert>
#include <cstring>
#include <unordered_set>

#include "base/pool.hpp"

namespace vic::level {

namespace {

std::size_t index_in_chunk(Point at) { return static_cast<std::size_t>((at.y % kChunk) * kChunk + at.x % kChunk); }

// The least box of unequal cells in two chunks, in cells of the chunk; null stands for a blank one.
Box difference(const Chunk* a, const Chunk* b) {
    if (a == b) return {};
    static const Chunk blank;
    if (!a) a = &blank;
    if (!b) b = &blank;
    Box found;
    for (int y = 0; y < kChunk; ++y) {
        const std::size_t row = static_cast<std::size_t>(y) * kChunk;
        if (std::memcmp(&a->cells[row], &b->cells[row], kChunk * sizeof(Cell)) == 0 &&
            std::memcmp(&a->materials[row], &b->materials[row], kChunk) == 0)
            continue;
        const auto differs = [&](int x) {
            const std::size_t i = row + static_cast<std::size_t>(x);
            return a->cells[i] != b->cells[i] || a->materials[i] != b->materials[i];
        };
        int from = 0;
        while (!differs(from)) ++from;
        int to = kChunk - 1;
        while (!differs(to)) --to;
        found = united(found, {from, y, to - from + 1, 1});
    }
    return found;
}

} // namespace

bool Chunk::blank() const {
    static const Chunk none;
    return *this == none;
}

Grid::Grid(Size cells) : size_(cells) {
    assert(cells.w >= 1 && cells.h >= 1 && cells.w <= kMostCells && cells.h <= kMostCells);
    rows_.resize(static_cast<std::size_t>(chunks().h));
}

Size Grid::chunks() const { return {(size_.w + kChunk - 1) / kChunk, (size_.h + kChunk - 1) / kChunk}; }

const Chunk* Grid::chunk(Point chunk) const {
    if (chunk.x < 0 || chunk.y < 0 || chunk.x >= chunks().w || chunk.y >= chunks().h) return nullptr;
    const auto& row = rows_[static_cast<std::size_t>(chunk.y)];
    return row ? (*row)[static_cast<std::size_t>(chunk.x)].get() : nullptr;
}

Cell Grid::cell(Point at) const {
    if (!box_of(size_).contains(at)) return {};
    const Chunk* c = chunk({at.x / kChunk, at.y / kChunk});
    return c ? c->cells[index_in_chunk(at)] : Cell{};
}

MaterialId Grid::material(Point at) const {
    if (!box_of(size_).contains(at)) return 0;
    const Chunk* c = chunk({at.x / kChunk, at.y / kChunk});
    return c ? c->materials[index_in_chunk(at)] : MaterialId{0};
}

void Grid::put(Point chunk, std::shared_ptr<const Chunk> content) {
    auto& row = rows_[static_cast<std::size_t>(chunk.y)];
    if (!row && !content) return;
    // A row that only this grid holds is changed in place; const is taken off what was made non-const here.
    if (!row)
        row = std::make_shared<Row>(static_cast<std::size_t>(chunks().w));
    else if (row.use_count() > 1)
        row = std::make_shared<Row>(*row);
    auto& slot = const_cast<Row&>(*row)[static_cast<std::size_t>(chunk.x)];
    const bool empties = !content;
    slot = std::move(content);
    if (empties && std::none_of(row->begin(), row->end(), [](const auto& c) { return c != nullptr; })) row.reset();
}

std::shared_ptr<Chunk> make_chunk() { return std::allocate_shared<Chunk>(Pooled<Chunk>()); }
std::shared_ptr<Chunk> make_chunk(const Chunk& like) { return std::allocate_shared<Chunk>(Pooled<Chunk>(), like); }

Chunk& Grid::edit(Point chunk) {
    auto& row = rows_[static_cast<std::size_t>(chunk.y)];
    // A row or chunk that only this grid holds is changed in place; const is taken off what was made non-const here.
    if (!row)
        row = std::make_shared<Row>(static_cast<std::size_t>(chunks().w));
    else if (row.use_count() > 1)
        row = std::make_shared<Row>(*row);
    auto& slot = const_cast<Row&>(*row)[static_cast<std::size_t>(chunk.x)];
    if (!slot)
        slot = make_chunk();
    else if (slot.use_count() > 1)
        slot = make_chunk(*slot);
    return const_cast<Chunk&>(*slot);
}

Chunk* Grid::own(Point chunk) {
    const auto& row = rows_[static_cast<std::size_t>(chunk.y)];
    if (!row || row.use_count() > 1) return nullptr;
    const auto& slot = (*row)[static_cast<std::size_t>(chunk.x)];
    return slot && slot.use_count() == 1 ? const_cast<Chunk*>(slot.get()) : nullptr;
}

void Grid::tidy(Point chunk_at) {
    const Chunk* c = chunk(chunk_at);
    if (c && c->blank()) put(chunk_at, nullptr);
}

void Grid::set(Point at, Cell cell, MaterialId material) {
    if (!box_of(size_).contains(at)) return;
    const Point where{at.x / kChunk, at.y / kChunk};
    const bool clears = cell.bits == 0 && material == 0;
    if (clears && !chunk(where)) return;
    Chunk& c = edit(where);
    c.cells[index_in_chunk(at)] = cell;
    c.materials[index_in_chunk(at)] = material;
    if (clears) tidy(where);
}

void Grid::read_materials(const Box& cells, MaterialId* out, std::size_t stride, MaterialId beyond) const {
    for (int y = cells.y; y < cells.bottom(); ++y) {
        MaterialId* line = out + static_cast<std::size_t>(y - cells.y) * stride;
        if (y < 0 || y >= size_.h) {
            std::memset(line, beyond, static_cast<std::size_t>(cells.w));
            continue;
        }
        for (int x = cells.x; x < cells.right();) {
            MaterialId* to = line + (x - cells.x);
            if (x < 0 || x >= size_.w) {
                *to = beyond;
                ++x;
                continue;
            }
            const int end = std::min({cells.right(), size_.w, (x / kChunk + 1) * kChunk});
            const auto count = static_cast<std::size_t>(end - x);
            const Chunk* c = chunk({x / kChunk, y / kChunk});
            if (c)
                std::memcpy(to, &c->materials[index_in_chunk({x, y})], count);
            else
                std::memset(to, 0, count);
            x = end;
        }
    }
}

Grid Grid::resized(Size cells) const { return moved({0, 0}, cells); }

Grid Grid::moved(Point by, Size cells) const {
    Grid out(cells);
    const bool whole = by.x % kChunk == 0 && by.y % kChunk == 0;
    const Point chunks_by{by.x / kChunk, by.y / kChunk};
    for (int cy = 0; cy < chunks().h; ++cy) {
        if (!rows_[static_cast<std::size_t>(cy)]) continue;
        for (int cx = 0; cx < chunks().w; ++cx) {
            const std::shared_ptr<const Chunk>& from =
                (*rows_[static_cast<std::size_t>(cy)])[static_cast<std::size_t>(cx)];
            if (!from) continue;
            const Box here = intersection({cx * kChunk, cy * kChunk, kChunk, kChunk}, box_of(size_)).moved(by);
            if (whole && box_of(cells).contains(here)) {
                out.put(Point{cx, cy} + chunks_by, from);
                continue;
            }
            each_cell(*this, here.moved({-by.x, -by.y}),
                      [&](Point at, Cell cell, MaterialId material) { out.set(at + by, cell, material); });
        }
    }
    return out;
}

Box Grid::bounds() const {
    Box found;
    for (int cy = 0; cy < chunks().h; ++cy)
        for (int cx = 0; cx < chunks().w; ++cx) {
            const Box part = difference(chunk({cx, cy}), nullptr);
            if (!part.empty()) found = united(found, part.moved({cx * kChunk, cy * kChunk}));
        }
    return found;
}

std::int64_t Grid::count() const {
    std::int64_t n = 0;
    for (const auto& row : rows_) {
        if (!row) continue;
        for (const auto& chunk : *row) {
            if (!chunk) continue;
            for (const Cell c : chunk->cells) n += c.tile() != 0;
        }
    }
    return n;
}

std::vector<Box> differences(const Grid& a, const Grid& b) {
    assert(a.size_ == b.size_);
    std::vector<Box> found;
    for (std::size_t cy = 0; cy < a.rows_.size(); ++cy) {
        const auto& row_a = a.rows_[cy];
        const auto& row_b = b.rows_[cy];
        if (row_a == row_b) continue;
        for (int cx = 0; cx < a.chunks().w; ++cx) {
            const Point at{cx, static_cast<int>(cy)};
            const Chunk* in_a = a.chunk(at);
            const Chunk* in_b = b.chunk(at);
            if (in_a == in_b) continue;
            const Box part = difference(in_a, in_b);
            if (!part.empty()) found.push_back(part.moved({at.x * kChunk, at.y * kChunk}));
        }
    }
    return found;
}

std::size_t unshared(const Grid& a, const Grid& b) {
    std::unordered_set<const Chunk*> own; // one chunk may lie at many places
    for (std::size_t cy = 0; cy < a.rows_.size(); ++cy) {
        if (!a.rows_[cy] || (cy < b.rows_.size() && a.rows_[cy] == b.rows_[cy])) continue;
        for (int cx = 0; cx < a.chunks().w; ++cx) {
            const Point at{cx, static_cast<int>(cy)};
            const Chunk* chunk = a.chunk(at);
            if (chunk && (cy >= b.rows_.size() || cx >= b.chunks().w || chunk != b.chunk(at))) own.insert(chunk);
        }
    }
    return own.size();
}

bool operator==(const Grid& a, const Grid& b) { return a.size_ == b.size_ && differences(a, b).empty(); }

} // namespace vic::level
