// Work that falls into independent parts, shared by threads of a pool that lives as long as the program (oneTBB).
#pragma once

#include <functional>
#include <memory>

namespace vic {

inline constexpr int kMostWorkers = 4; // so many at most are at work on one call; two unless WithWorkers says otherwise

// As long as it lives that many are at work on a call, 1 .. kMostWorkers, also where there are fewer processors: to show
// that nothing depends on it. Of one thread only, and not while work is under way.
class WithWorkers {
  public:
    explicit WithWorkers(int count);
    ~WithWorkers();
    WithWorkers(const WithWorkers&) = delete;
    WithWorkers& operator=(const WithWorkers&) = delete;

  private:
    struct Limit;
    std::unique_ptr<Limit> limit_;
    int before_;
};

// Calls work(worker, from, to) until all of `from` .. `to` - 1 is done: where it is `large` enough for a second thread
// to be worth its while, by workers 0, 1 … at the same time, each taking a piece whenever it is done with the last;
// else once for the whole, as worker 0. No two calls under way at once have the same worker, so each may have scratch
// space of its own. A second processor that has other things to do holds up nobody: a thread that has not begun when
// all is done is not waited for. What `work` throws comes out here. May be called from any thread, also from within
// `work`, where it has workers of its own.
void parallel_pieces(int from, int to, bool large, const std::function<void(int worker, int from, int to)>& work);

// Does both, at the same time where they are `large`. What either throws comes out here.
void parallel_both(bool large, const std::function<void()>& one, const std::function<void()>& other);

} // namespace vic
