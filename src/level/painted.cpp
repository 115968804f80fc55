#include "level/painted.hpp"

#include <algorithm>

namespace vic::level {

namespace {

std::pair<int, int> painted_chunk(Point sample) {
    return {floor_div(sample.y, Painted::kSide), floor_div(sample.x, Painted::kSide)};
}

Point in_chunk(Point sample, std::pair<int, int> chunk) {
    return {sample.x - chunk.second * Painted::kSide, sample.y - chunk.first * Painted::kSide};
}

} // namespace

int Painted::at(Point sample) const {
    const auto where = painted_chunk(sample);
    const auto found = chunks_.find(where);
    return found == chunks_.end() ? 0 : (*found->second)[index(in_chunk(sample, where))];
}

void Painted::set(Point sample, int strength) {
    const auto where = painted_chunk(sample);
    const auto v = static_cast<std::uint8_t>(std::clamp(strength, 0, 255));
    const auto found = chunks_.find(where);
    if (found == chunks_.end() ? v == 0 : (*found->second)[index(in_chunk(sample, where))] == v) return;
    auto next = found == chunks_.end() ? std::make_shared<Chunk>() : std::make_shared<Chunk>(*found->second);
    (*next)[index(in_chunk(sample, where))] = v;
    if (v == 0 && std::all_of(next->begin(), next->end(), [](std::uint8_t s) { return s == 0; }))
        chunks_.erase(where);
    else
        chunks_[where] = std::move(next);
}

Box Painted::bounds() const {
    Box out;
    for (const auto& [where, chunk] : chunks_)
        out = united(out, {where.second * kSide, where.first * kSide, kSide, kSide});
    return out;
}

void Painted::read(const Box& samples, std::uint8_t* out) const {
    std::fill_n(out, samples.size().area(), std::uint8_t{0});
    for (const auto& [where, chunk] : chunks_) {
        const Box part = intersection({where.second * kSide, where.first * kSide, kSide, kSide}, samples);
        for (int y = part.y; y < part.bottom(); ++y)
            std::copy_n(&(*chunk)[index(in_chunk({part.x, y}, where))], part.w,
                        out + std::ptrdiff_t{y - samples.y} * samples.w + (part.x - samples.x));
    }
}

Painted Painted::moved(Point by) const {
    if (by.x % kSide == 0 && by.y % kSide == 0) {
        Painted out;
        for (const auto& [where, chunk] : chunks_)
            out.chunks_[{where.first + by.y / kSide, where.second + by.x / kSide}] = chunk;
        return out;
    }
    Painted out;
    each_run([&](Point at, int length, int strength) {
        for (int i = 0; i < length; ++i) out.set(at + by + Point{i, 0}, strength);
    });
    return out;
}

bool operator==(const Painted& a, const Painted& b) {
    return std::equal(a.chunks_.begin(), a.chunks_.end(), b.chunks_.begin(), b.chunks_.end(),
                      [](const auto& x, const auto& y) {
                          return x.first == y.first && (x.second == y.second || *x.second == *y.second);
                      });
}

} // namespace vic::level
