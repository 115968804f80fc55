#include "walk/bit_rows.hpp"

namespace vic::walk {

Bits::Bits(Size s)
    : size(s), words((static_cast<std::size_t>(s.w) + 63) / 64), of(words * static_cast<std::size_t>(s.h)) {}

namespace {

// change(word, ones) for the words of a row with the ones of from .. to - 1.
template <class Change>
void each_word(std::uint64_t* row, int from, int to, const Change& change) {
    for (int x = from; x < to;) {
        const int bit = x % 64, count = std::min(64 - bit, to - x);
        const std::uint64_t ones = count == 64 ? ~std::uint64_t{0} : (std::uint64_t{1} << count) - 1;
        change(row[x / 64], ones << bit);
        x += count;
    }
}

} // namespace

void Bits::set(int y, int from, int to) {
    each_word(row(y), from, to, [](std::uint64_t& word, std::uint64_t ones) { word |= ones; });
}

void Bits::clear(int y, int from, int to) {
    each_word(row(y), from, to, [](std::uint64_t& word, std::uint64_t ones) { word &= ~ones; });
}

namespace {

// Each bit becomes what it was, or the one `by` to its right was.
void take_from_right(std::uint64_t* row, std::size_t words, int by) {
    const auto whole = static_cast<std::size_t>(by / 64);
    const int rest = by % 64;
    for (std::size_t i = 0; i + whole < words; ++i) {
        std::uint64_t v = row[i + whole] >> rest;
        if (rest != 0 && i + whole + 1 < words) v |= row[i + whole + 1] << (64 - rest);
        row[i] |= v;
    }
}

} // namespace

void spread_from(Bits& bits, Size box) {
    for (int y = 0; y < bits.size.h; ++y) {
        int done = 1;
        for (; done * 2 <= box.w; done *= 2) take_from_right(bits.row(y), bits.words, done);
        if (done < box.w) take_from_right(bits.row(y), bits.words, box.w - done);
    }
    const auto down = [&](int by) {
        for (int y = 0; y + by < bits.size.h; ++y)
            for (std::size_t i = 0; i < bits.words; ++i) bits.row(y)[i] |= bits.row(y + by)[i];
    };
    int done = 1;
    for (; done * 2 <= box.h; done *= 2) down(done);
    if (done < box.h) down(box.h - done);
}

void spread_down(Bits& bits, int rows) {
    const auto take = [&](int by) {
        for (int y = bits.size.h - 1; y >= by; --y)
            for (std::size_t i = 0; i < bits.words; ++i) bits.row(y)[i] |= bits.row(y - by)[i];
    };
    int done = 1;
    for (; done * 2 <= rows; done *= 2) take(done);
    if (done < rows) take(rows - done);
}

Runs::Runs(const Bits& bits, Size within, bool ones) {
    row_start.push_back(0);
    for (int y = 0; y < within.h; ++y) {
        each_run(bits.row(y), within.w, ones, [&](int from, int to) { all.push_back({from, to}); });
        row_start.push_back(all.size());
    }
}

} // namespace vic::walk
