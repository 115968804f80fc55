#include "base/parallel.hpp"

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>
#include <tbb/parallel_invoke.h>
#include <tbb/partitioner.h>
#include <tbb/task_arena.h>

#include <algorithm>
#include <cstddef>

namespace vic {

void parallel_pieces(int from, int to, bool large, const std::function<void(int, int, int)>& work) {
    constexpr int kPieces = 16;
    const int count = to - from;
    if (!large || count < 2) {
        if (count > 0) work(0, from, to);
        return;
    }
    tbb::task_arena arena(kWorkers);
    arena.execute([&] {
        tbb::parallel_for(
            tbb::blocked_range<int>(from, to, static_cast<std::size_t>(std::max(1, count / kPieces))),
            [&](const tbb::blocked_range<int>& piece) {
                work(tbb::this_task_arena::current_thread_index(), piece.begin(), piece.end());
            },
            tbb::simple_partitioner());
    });
}

void parallel_both(bool large, const std::function<void()>& one, const std::function<void()>& other) {
    if (large) {
        tbb::parallel_invoke(one, other);
    } else {
        one();
        other();
    }
}

} // namespace vic
