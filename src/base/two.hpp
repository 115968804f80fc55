// Work that falls into independent parts, for two processors.
#pragma once

#include <algorithm>
#include <atomic>
#include <condition_variable>
#include <cstdint>
#include <exception>
#include <memory>
#include <mutex>
#include <system_error>
#include <thread>

namespace vic {

// Calls work(worker, from, to) until all of `from` .. `to` - 1 is done; where it is `large` enough for a second thread
// to be worth its while, by workers 0 and 1 at the same time, each taking a piece whenever it is done with the last.
// So a second processor that has other things to do holds up nobody: a thread that has not begun when all is done is
// not waited for. Else once for the whole, as worker 0. What it throws comes out here.
template <class Work>
void by_two(int from, int to, bool large, const Work& work) {
    constexpr int kPieces = 16;
    const int count = to - from;
    if (!large || count < 2) {
        if (count > 0) work(0, from, to);
        return;
    }
    struct Shared {
        std::mutex mutex;
        std::condition_variable left;
        bool working = false;
        bool over = false; // from here on nothing of the caller is there any more
        std::exception_ptr thrown;
        std::atomic<int> next{0};
    };
    const auto shared = std::make_shared<Shared>();
    const int pieces = std::min(count, kPieces);
    const auto run = [&](int worker) {
        const auto edge = [&](int piece) { return from + static_cast<int>(std::int64_t{count} * piece / pieces); };
        for (int i = shared->next++; i < pieces; i = shared->next++) work(worker, edge(i), edge(i + 1));
    };
    try {
        std::thread([shared, &run] {
            {
                const std::scoped_lock lock(shared->mutex);
                if (shared->over) return;
                shared->working = true;
            }
            std::exception_ptr thrown;
            try {
                run(1);
            } catch (...) {
                thrown = std::current_exception();
            }
            const std::scoped_lock lock(shared->mutex);
            shared->thrown = thrown;
            shared->working = false;
            shared->left.notify_one();
        }).detach();
    } catch (const std::system_error&) { // no thread to be had: one does it all
    }
    const auto finish = [&] {
        std::unique_lock lock(shared->mutex);
        shared->over = true;
        shared->left.wait(lock, [&] { return !shared->working; });
    };
    try {
        run(0);
    } catch (...) {
        shared->next = pieces;
        finish();
        throw;
    }
    finish();
    if (shared->thrown) std::rethrow_exception(shared->thrown);
}

} // namespace vic
