#include "base/pages.hpp"

#include <malloc.h>
#include <sys/mman.h>
#include <unistd.h>

#include <cstdint>
#include <cstdlib>

namespace vic {

namespace {

constexpr std::uintptr_t kPage = std::uintptr_t{2} << 20;
constexpr int kHeapAtOnce = 256 << 20; // addresses, not memory
constexpr int kGrowBy = 16 << 20;
constexpr int kKeep = 64 << 20;     // of what is freed, before it is given back
constexpr int kOwnBlock = 32 << 20; // blocks from this on are the system's, the most that glibc takes here

} // namespace

void ask_for_large_pages() {
    mallopt(M_MMAP_THRESHOLD, kOwnBlock);
    mallopt(M_TRIM_THRESHOLD, kHeapAtOnce + kKeep);
    mallopt(M_TOP_PAD, kHeapAtOnce);
    void* const first = std::malloc(std::size_t{1} << 20); // makes the heap grow
    const std::uintptr_t begin = (reinterpret_cast<std::uintptr_t>(first) + kPage - 1) / kPage * kPage;
    const std::uintptr_t end = reinterpret_cast<std::uintptr_t>(sbrk(0)) / kPage * kPage;
    if (first != nullptr && begin < end && end - begin <= std::uintptr_t{2} * kHeapAtOnce)
        madvise(reinterpret_cast<void*>(begin), end - begin, MADV_HUGEPAGE);
    std::free(first);
    mallopt(M_TOP_PAD, kGrowBy);
}

} // namespace vic
