#include "base/pool.hpp"

#include <array>
#include <catch2/catch.hpp>
#include <cstring>
#include <map>
#include <set>
#include <thread>
#include <vector>

#include "support/make.hpp"

using namespace vic;

TEST_CASE("blocks of a pool are apart and keep what is written into them", "[pool]") {
    for (const std::size_t bytes : {std::size_t{1}, std::size_t{64}, std::size_t{20496}, std::size_t{65536}}) {
        Pool pool(bytes);
        make::Random random(static_cast<unsigned>(bytes));
        std::map<std::byte*, std::byte> taken;
        int turn = 0;
        for (int i = 0; i < 4000; ++i) {
            if (taken.empty() || random.flip(i < 2000 ? 0.7 : 0.3)) {
                auto* block = static_cast<std::byte*>(pool.take());
                REQUIRE(reinterpret_cast<std::uintptr_t>(block) % 64 == 0);
                const std::byte mark{static_cast<unsigned char>(++turn)};
                std::memset(block, static_cast<int>(mark), bytes);
                const auto next = taken.lower_bound(block);
                if (next != taken.end()) REQUIRE(block + bytes <= next->first);
                if (next != taken.begin()) REQUIRE(std::prev(next)->first + bytes <= block);
                taken[block] = mark;
            } else {
                auto at = std::next(taken.begin(), random.below(static_cast<int>(taken.size())));
                REQUIRE(at->first[0] == at->second);
                REQUIRE(at->first[bytes - 1] == at->second);
                pool.give(at->first);
                taken.erase(at);
            }
        }
        for (const auto& [block, mark] : taken) {
            REQUIRE(block[bytes / 2] == mark);
            pool.give(block);
        }
        CHECK(pool.held().used == 0);
        CHECK(pool.held().spare <= Pool::kMostSpare);
    }
}

TEST_CASE("memory of a pool that is not needed any more goes back but for a reserve", "[pool]") {
    Pool pool(32768);
    const std::size_t before = Pool::in_use();
    std::vector<void*> taken;
    for (int i = 0; i < 63 * 60; ++i) taken.push_back(pool.take());
    const Pool::Held most = pool.held();
    CHECK(Pool::in_use() - before == std::size_t{63} * 60 * 32768);
    for (void* block : taken) pool.give(block);
    CHECK(Pool::in_use() == before);
    CHECK(pool.held().used == 0);
#if !defined(__SANITIZE_ADDRESS__) // there each block goes back at once
    CHECK(most.used == 60);
    CHECK(pool.held().spare == Pool::kMostSpare);
#else
    CHECK(most.used == 0);
#endif
}

TEST_CASE("threads share a pool", "[pool]") {
    struct Large {
        std::array<int, 4000> numbers;
    };
    const auto work = [](int seed) {
        make::Random random(static_cast<unsigned>(seed));
        std::vector<std::shared_ptr<Large>> kept;
        for (int i = 0; i < 3000; ++i) {
            if (kept.empty() || random.flip()) {
                kept.push_back(std::allocate_shared<Large>(Pooled<Large>()));
                kept.back()->numbers.fill(seed);
            } else {
                std::swap(kept[static_cast<std::size_t>(random.below(static_cast<int>(kept.size())))], kept.back());
                if (kept.back()->numbers[0] != seed || kept.back()->numbers[3999] != seed) return false;
                kept.pop_back();
            }
        }
        return true;
    };
    bool first = false, second = false;
    std::thread other([&] { second = work(2); });
    first = work(1);
    other.join();
    CHECK(first);
    CHECK(second);
}
