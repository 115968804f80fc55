// Work that falls into two independent halves, for two processors.
#pragma once

#include <future>

namespace vic {

// Calls work(half, from, to) for the two halves 0 and 1 of `from` .. `to` - 1; at the same time where it is `large`
// enough for a second thread to be worth its while, else once for the whole as half 0. What it throws comes out here.
template <class Work>
void in_halves(int from, int to, bool large, const Work& work) {
    const int middle = from + (to - from) / 2;
    if (!large || middle == from) {
        work(0, from, to);
        return;
    }
    auto other = std::async(std::launch::async, [&] { work(1, middle, to); });
    work(0, from, middle);
    other.get();
}

} // namespace vic
