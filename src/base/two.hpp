// Work that falls into independent parts, for two processors.
#pragma once

#include <algorithm>
#include <atomic>
#include <cstdint>
#include <future>

namespace vic {

// Calls work(worker, from, to) until all of `from` .. `to` - 1 is done; where it is `large` enough for a second thread
// to be worth its while, by workers 0 and 1 at the same time, each taking a piece whenever it is done with the last, so
// that the one whose processor has other things to do holds up nobody. Else once for the whole, as worker 0. What it
// throws comes out here.
template <class Work>
void by_two(int from, int to, bool large, const Work& work) {
    constexpr int kPieces = 16;
    const int count = to - from;
    if (!large || count < 2) {
        if (count > 0) work(0, from, to);
        return;
    }
    const int pieces = std::min(count, kPieces);
    std::atomic<int> next{0};
    const auto edge = [&](int piece) { return from + static_cast<int>(std::int64_t{count} * piece / pieces); };
    const auto run = [&](int worker) {
        for (int i = next++; i < pieces; i = next++) work(worker, edge(i), edge(i + 1));
    };
    auto other = std::async(std::launch::async, run, 1);
    run(0);
    other.get();
}

} // namespace vic
