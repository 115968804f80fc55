#include "base/pool.hpp"

#include <sys/mman.h>

#include <cassert>
#include <cstdint>
#include <new>

namespace vic {

namespace {

constexpr std::size_t kPiece = std::size_t{2} << 20; // the size of a large page, to which pieces are aligned
constexpr std::size_t kHead = 64;

#if defined(__SANITIZE_ADDRESS__)
constexpr bool kWatched = true; // each block by itself, so that use after its end is seen
#else
constexpr bool kWatched = false;
#endif

// Aligned to its own size.
void* piece_of_memory() {
    void* got = mmap(nullptr, 2 * kPiece, PROT_READ | PROT_WRITE, MAP_PRIVATE | MAP_ANONYMOUS, -1, 0);
    if (got == MAP_FAILED) throw std::bad_alloc();
    auto* from = static_cast<std::byte*>(got);
    const std::size_t before = (kPiece - reinterpret_cast<std::uintptr_t>(from) % kPiece) % kPiece;
    if (before > 0) munmap(from, before);
    munmap(from + before + kPiece, kPiece - before);
    madvise(from + before, kPiece, MADV_HUGEPAGE); // a wish: without large pages it is slower, no more
    return from + before;
}

} // namespace

// At the beginning of its memory.
struct Pool::Piece {
    struct Free {
        Free* next;
    };
    Piece* next = nullptr;
    Piece* before = nullptr;
    Free* free = nullptr;  // blocks that were given back
    std::size_t fresh = 0; // blocks from this one on were never taken
    std::size_t taken = 0;
};

Pool::Pool(std::size_t bytes) : bytes_((bytes + 63) / 64 * 64), count_((kPiece - kHead) / bytes_) {
    static_assert(sizeof(Piece) <= kHead);
    assert(bytes > 0 && bytes <= 65536);
}

Pool::~Pool() {
    assert(held_.used == 0);
    for (Piece* piece = spare_; piece != nullptr;) {
        Piece* next = piece->next;
        munmap(piece, kPiece);
        piece = next;
    }
}

void Pool::link(Piece* piece) noexcept {
    piece->before = nullptr;
    piece->next = open_;
    if (open_) open_->before = piece;
    open_ = piece;
}

void Pool::unlink(Piece* piece) noexcept {
    (piece->before ? piece->before->next : open_) = piece->next;
    if (piece->next) piece->next->before = piece->before;
}

void* Pool::take() {
    in_use_.fetch_add(bytes_, std::memory_order_relaxed);
    if (kWatched) return ::operator new (bytes_, std::align_val_t{64});
    const std::scoped_lock lock(mutex_);
    if (!open_) {
        Piece* piece = spare_;
        if (piece) {
            spare_ = piece->next;
            --held_.spare;
        } else {
            piece = new (piece_of_memory()) Piece;
        }
        ++held_.used;
        link(piece);
    }
    Piece& piece = *open_;
    void* block;
    if (piece.free) {
        block = piece.free;
        piece.free = piece.free->next;
    } else {
        block = reinterpret_cast<std::byte*>(&piece) + kHead + bytes_ * piece.fresh++;
    }
    if (++piece.taken == count_) unlink(&piece);
    return block;
}

void Pool::give(void* block) noexcept {
    in_use_.fetch_sub(bytes_, std::memory_order_relaxed);
    if (kWatched) return ::operator delete (block, std::align_val_t{64});
    const std::scoped_lock lock(mutex_);
    auto* piece = reinterpret_cast<Piece*>(reinterpret_cast<std::uintptr_t>(block) & ~(kPiece - 1));
    piece->free = new (block) Piece::Free{piece->free};
    if (piece->taken-- == count_) link(piece);
    if (piece->taken > 0) return;
    unlink(piece);
    --held_.used;
    if (held_.spare == kMostSpare) {
        munmap(piece, kPiece);
        return;
    }
    piece->next = spare_;
    spare_ = piece;
    ++held_.spare;
}

Pool::Held Pool::held() const {
    const std::scoped_lock lock(mutex_);
    return held_;
}

} // namespace vic
