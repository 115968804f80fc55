#include "base/parallel.hpp"

#include <array>
#include <atomic>
#include <catch2/catch.hpp>
#include <stdexcept>
#include <vector>

using namespace vic;

TEST_CASE("parallel work does each part once", "[parallel]") {
    for (const int count : {0, 1, 2, 5, 16, 17, 1000})
        for (const bool large : {false, true}) {
            std::vector<int> done(static_cast<std::size_t>(count) + 7, 0);
            std::array<int, 2> by{};
            parallel_pieces(7, 7 + count, large, [&](int worker, int from, int to) {
                for (int i = from; i < to; ++i) ++done[static_cast<std::size_t>(i)];
                by[static_cast<std::size_t>(worker)] += to - from;
            });
            for (int i = 0; i < count + 7; ++i) CHECK(done[static_cast<std::size_t>(i)] == (i < 7 ? 0 : 1));
            CHECK(by[0] + by[1] == count);
            if (!large) CHECK(by[1] == 0);
        }
}

TEST_CASE("parallel work is done however little the second thread gets to do", "[parallel]") {
    for (int round = 0; round < 300; ++round) {
        std::atomic<int> done{0};
        parallel_pieces(0, 40, true, [&](int, int from, int to) { done += to - from; });
        REQUIRE(done == 40);
    }
}

TEST_CASE("what parallel work throws comes out, whoever did it", "[parallel]") {
    for (const int where : {0, 500, 999})
        CHECK_THROWS_AS(parallel_pieces(0, 1000, true,
                                        [&](int, int from, int to) {
                                            if (from <= where && where < to) throw std::runtime_error("there");
                                        }),
                        std::runtime_error);
}
