#include "base/parallel.hpp"

#include <tbb/blocked_range.h>
#include <tbb/global_control.h>
#include <tbb/parallel_for.h>
#include <tbb/parallel_invoke.h>
#include <tbb/partitioner.h>
#include <tbb/task_arena.h>

#include <algorithm>
#include <cstddef>

// oneTBB is not built for ThreadSanitizer, and nor is this file: what is handed over to another thread is told here.
#if defined(VICINUM_THREAD_SANITIZER)
extern "C" void __tsan_acquire(void* address); // NOLINT: its name
extern "C" void __tsan_release(void* address); // NOLINT
#endif

namespace vic {

namespace {

void release([[maybe_unused]] void* address) {
#if defined(VICINUM_THREAD_SANITIZER)
    __tsan_release(address);
#endif
}

void acquire([[maybe_unused]] void* address) {
#if defined(VICINUM_THREAD_SANITIZER)
    __tsan_acquire(address);
#endif
}

// What one thread has done before begins() is seen by those between begins() and ends(), and what they do after that by
// the first one.
struct HandOver {
    int out = 0;
    int back = 0;
    HandOver() { release(&out); }
    void begins() { acquire(&out); }
    void ends() { release(&back); }
    void done() { acquire(&back); }
};

int workers = 2;

} // namespace

// The pool has no more threads than there are processors, else.
struct WithWorkers::Limit {
    tbb::global_control control{tbb::global_control::max_allowed_parallelism, static_cast<std::size_t>(kMostWorkers)};
};

WithWorkers::WithWorkers(int count) : limit_(std::make_unique<Limit>()), before_(workers) {
    workers = std::clamp(count, 1, kMostWorkers);
}

WithWorkers::~WithWorkers() { workers = before_; }

void parallel_pieces(int from, int to, bool large, const std::function<void(int, int, int)>& work) {
    constexpr int kPieces = 16;
    const int count = to - from;
    if (!large || count < 2) {
        if (count > 0) work(0, from, to);
        return;
    }
    tbb::task_arena arena(workers);
    HandOver hand_over;
    arena.execute([&] {
        tbb::parallel_for(
            tbb::blocked_range<int>(from, to, static_cast<std::size_t>(std::max(1, count / kPieces))),
            [&](const tbb::blocked_range<int>& piece) {
                hand_over.begins();
                work(tbb::this_task_arena::current_thread_index(), piece.begin(), piece.end());
                hand_over.ends();
            },
            tbb::simple_partitioner());
    });
    hand_over.done();
}

void parallel_both(bool large, const std::function<void()>& one, const std::function<void()>& other) {
    if (!large) {
        one();
        other();
        return;
    }
    HandOver hand_over;
    const auto run = [&](const std::function<void()>& what) {
        hand_over.begins();
        what();
        hand_over.ends();
    };
    tbb::parallel_invoke([&] { run(one); }, [&] { run(other); });
    hand_over.done();
}

} // namespace vic
