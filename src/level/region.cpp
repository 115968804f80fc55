#include "level/region.hpp"

#include <algorithm>

namespace vic::level {

namespace {

constexpr Region::Rows kBlank{};

Point chunk_of(Point cell) { return {floor_div(cell.x, kChunk), floor_div(cell.y, kChunk)}; }

// Bits from .. to - 1 of a word.
std::uint64_t run(int from, int to) {
    if (to <= from) return 0;
    const std::uint64_t upto = to >= 64 ? ~std::uint64_t{0} : (std::uint64_t{1} << to) - 1;
    return upto & ~((std::uint64_t{1} << from) - 1);
}

} // namespace

Region::Region(std::span<const Point> cells) {
    for (const Point p : cells) add(p);
}

bool Region::contains(Point cell) const {
    const Point chunk = chunk_of(cell);
    const Rows* r = rows(chunk);
    return r && ((*r)[static_cast<std::size_t>(cell.y - chunk.y * kChunk)] >> (cell.x - chunk.x * kChunk) & 1U) != 0;
}

std::int64_t Region::count() const {
    std::int64_t n = 0;
    for (const auto& [at, rows] : chunks_)
        for (const std::uint64_t row : rows) n += std::popcount(row);
    return n;
}

Box Region::bounds() const {
    Box out;
    for (const auto& [at, rows] : chunks_) {
        std::uint64_t all = 0;
        int top = kChunk;
        int bottom = 0;
        for (int y = 0; y < kChunk; ++y) {
            const std::uint64_t row = rows[static_cast<std::size_t>(y)];
            if (row == 0) continue;
            all |= row;
            top = std::min(top, y);
            bottom = y + 1;
        }
        const int left = std::countr_zero(all);
        out = united(
            out, {at.second * kChunk + left, at.first * kChunk + top, 64 - std::countl_zero(all) - left, bottom - top});
    }
    return out;
}

const Region::Rows* Region::rows(Point chunk) const {
    const auto found = chunks_.find({chunk.y, chunk.x});
    return found == chunks_.end() ? nullptr : &found->second;
}

void Region::put(Point chunk, const Rows& rows) {
    if (rows == kBlank)
        chunks_.erase({chunk.y, chunk.x});
    else
        at(chunk) = rows;
}

void Region::tidy() {
    std::erase_if(chunks_, [](const auto& chunk) { return chunk.second == kBlank; });
}

void Region::add(Point cell) {
    const Point chunk = chunk_of(cell);
    at(chunk)[static_cast<std::size_t>(cell.y - chunk.y * kChunk)] |= std::uint64_t{1} << (cell.x - chunk.x * kChunk);
}

void Region::add(const Box& cells) {
    if (cells.empty()) return;
    const Point first = chunk_of(cells.corner());
    const Point last = chunk_of({cells.right() - 1, cells.bottom() - 1});
    for (int cy = first.y; cy <= last.y; ++cy)
        for (int cx = first.x; cx <= last.x; ++cx) {
            const Box part = intersection(cells, {cx * kChunk, cy * kChunk, kChunk, kChunk});
            const std::uint64_t bits = run(part.x - cx * kChunk, part.right() - cx * kChunk);
            Rows& r = at({cx, cy});
            for (int y = part.y; y < part.bottom(); ++y) r[static_cast<std::size_t>(y - cy * kChunk)] |= bits;
        }
}

void Region::add(const Region& other) {
    for (const auto& [key, rows] : other.chunks_) {
        Rows& r = chunks_[key];
        for (std::size_t y = 0; y < kChunk; ++y) r[y] |= rows[y];
    }
}

void Region::remove(Point cell) {
    const Point chunk = chunk_of(cell);
    if (!rows(chunk)) return;
    at(chunk)[static_cast<std::size_t>(cell.y - chunk.y * kChunk)] &=
        ~(std::uint64_t{1} << (cell.x - chunk.x * kChunk));
    tidy();
}

void Region::remove(const Region& other) {
    for (auto& [key, r] : chunks_)
        if (const auto found = other.chunks_.find(key); found != other.chunks_.end())
            for (std::size_t y = 0; y < kChunk; ++y) r[y] &= ~found->second[y];
    tidy();
}

void Region::keep(const Region& other) {
    for (auto& [key, r] : chunks_) {
        const auto found = other.chunks_.find(key);
        for (std::size_t y = 0; y < kChunk; ++y) r[y] = found == other.chunks_.end() ? 0 : r[y] & found->second[y];
    }
    tidy();
}

void Region::keep(const Box& box) {
    for (auto& [key, r] : chunks_) {
        const int x = key.second * kChunk;
        const std::uint64_t bits = run(std::clamp(box.x - x, 0, kChunk), std::clamp(box.right() - x, 0, kChunk));
        for (int y = 0; y < kChunk; ++y) {
            const int line = key.first * kChunk + y;
            r[static_cast<std::size_t>(y)] &= line >= box.y && line < box.bottom() ? bits : 0;
        }
    }
    tidy();
}

Region Region::moved(Point by) const {
    const Point whole = chunk_of(by);
    const Point rest = by - Point{whole.x * kChunk, whole.y * kChunk};
    Region out;
    for (const auto& [key, rows] : chunks_)
        for (int y = 0; y < kChunk; ++y) {
            const std::uint64_t row = rows[static_cast<std::size_t>(y)];
            if (row == 0) continue;
            const int line = y + rest.y;
            const Point to{key.second + whole.x, key.first + whole.y + line / kChunk};
            const auto at_row = static_cast<std::size_t>(line % kChunk);
            if (const std::uint64_t left = row << rest.x; left != 0) out.at(to)[at_row] |= left;
            if (rest.x != 0)
                if (const std::uint64_t right = row >> (kChunk - rest.x); right != 0)
                    out.at(to + Point{1, 0})[at_row] |= right;
        }
    return out;
}

Region Region::grown(bool corners) const {
    Region out = *this;
    for (const Point by : {Point{0, -1}, {1, 0}, {0, 1}, {-1, 0}}) out.add(moved(by));
    if (corners)
        for (const Point by : {Point{1, -1}, {1, 1}, {-1, 1}, {-1, -1}}) out.add(moved(by));
    return out;
}

Region Region::shrunk(bool corners, const Box& within) const {
    // What is outside grows, but nothing grows in from beyond the edge.
    Region outside(intersection(bounds().grown(1), within));
    outside.remove(*this);
    Region out = *this;
    out.remove(outside.grown(corners));
    return out;
}

Region Region::rim() const {
    Region inner = *this;
    for (const Point by : {Point{0, -1}, {1, 0}, {0, 1}, {-1, 0}}) inner.keep(moved(by));
    Region out = *this;
    out.remove(inner);
    return out;
}

std::vector<Point> Region::cells() const {
    std::vector<Point> out;
    out.reserve(static_cast<std::size_t>(count()));
    each([&](Point p) { out.push_back(p); });
    std::sort(out.begin(), out.end(), [](Point a, Point b) { return std::pair(a.y, a.x) < std::pair(b.y, b.x); });
    return out;
}

std::vector<Side> sides(const Region& region, const Box& within) {
    std::vector<Side> out;
    const Box box = intersection(region.bounds(), within);
    // Lines between cells, level ones and then upright ones; a run ends where the two cells are alike again.
    for (const bool upright : {false, true}) {
        const int lines = upright ? box.w : box.h;
        const int length = upright ? box.h : box.w;
        for (int line = 0; line <= lines; ++line) {
            int from = -1;
            for (int i = 0; i <= length; ++i) {
                bool edge = false;
                if (i < length) {
                    const Point after = upright ? Point{box.x + line, box.y + i} : Point{box.x + i, box.y + line};
                    const Point before = after - (upright ? Point{1, 0} : Point{0, 1});
                    edge = region.contains(before) != region.contains(after);
                }
                if (edge && from < 0) from = i;
                if (edge || from < 0) continue;
                if (upright)
                    out.push_back({{box.x + line, box.y + from}, {box.x + line, box.y + i}});
                else
                    out.push_back({{box.x + from, box.y + line}, {box.x + i, box.y + line}});
                from = -1;
            }
        }
    }
    return out;
}

} // namespace vic::level
