// Memory for many values of one size, as a large level's chunks are. It is asked of the system 2 MiB at a time and in
// large pages where there are any: most of the time of filling a large level would else go into first touching it.
#pragma once

#include <atomic>
#include <cstddef>
#include <memory>
#include <mutex>

namespace vic {

// Blocks of one size, at most 64 KiB. Any thread may take and give.
class Pool {
  public:
    explicit Pool(std::size_t bytes);
    ~Pool(); // all blocks must have been given back
    Pool(const Pool&) = delete;
    Pool& operator=(const Pool&) = delete;

    // Aligned to 64 bytes; throws std::bad_alloc where there is no memory.
    [[nodiscard]] void* take();
    void give(void* block) noexcept;

    // How many pieces of 2 MiB are in use, and how many are kept empty for the next time.
    struct Held {
        std::size_t used = 0;
        std::size_t spare = 0;
    };
    [[nodiscard]] Held held() const;
    static constexpr std::size_t kMostSpare = 24;
    // Bytes of all blocks of all pools that are taken now.
    [[nodiscard]] static std::size_t in_use() { return in_use_.load(std::memory_order_relaxed); }

  private:
    struct Piece;
    void link(Piece* piece) noexcept;
    void unlink(Piece* piece) noexcept;

    static inline std::atomic<std::size_t> in_use_{0};
    std::size_t bytes_;
    std::size_t count_; // blocks of a piece
    mutable std::mutex mutex_;
    Piece* open_ = nullptr;  // pieces with a block free that also have one taken
    Piece* spare_ = nullptr; // pieces without a block taken
    Held held_;
};

// For std::allocate_shared of values that are allocated one by one; all of a type share a pool that lives as long as
// the program.
template <class T>
struct Pooled {
    using value_type = T;
    Pooled() = default;
    template <class U>
    Pooled(const Pooled<U>&) noexcept {}
    [[nodiscard]] T* allocate(std::size_t n) {
        static_assert(alignof(T) <= 64);
        return static_cast<T*>(n == 1 ? pool().take() : ::operator new(n * sizeof(T)));
    }
    void deallocate(T* at, std::size_t n) noexcept {
        if (n == 1)
            pool().give(at);
        else
            ::operator delete(at);
    }
    friend bool operator==(const Pooled&, const Pooled&) { return true; }

    static Pool& pool() {
        static Pool& all = *new Pool(sizeof(T)); // values may outlive any static
        return all;
    }
};

} // namespace vic
