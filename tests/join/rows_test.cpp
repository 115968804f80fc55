#include <catch2/catch.hpp>

#include "join/resolve.hpp"
#include "join/rows.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::join;

TEST_CASE("narrow and wide registers join alike, and as cells one by one", "[resolve][rows]") {
    make::Random random(11);
    for (int round = 0; round < 300; ++round) {
        Variants v;
        v.count = static_cast<std::uint32_t>(1 + random.below(Variants::kFew));
        std::uint32_t from = 0;
        for (std::uint32_t k = 0; k < v.count; ++k) {
            v.from[k] = from;
            v.cells[k] = 100 + k;
            from += static_cast<std::uint32_t>(random.below(1 << 29));
        }
        v.always = random.below(3) == 0 ? ~0U : 0U;
        v.lively = random.below(3) == 0 ? 0U : static_cast<std::uint32_t>(random.engine());
        const int n = 1 + random.below(kRowPart);
        const auto seed = static_cast<std::uint32_t>(random.engine());
        const int x = random.below(1 << 14), y = random.below(1 << 14);
        std::vector<std::uint32_t> wide(static_cast<std::size_t>(n));
        for (auto& c : wide) c = random.flip(0.7) ? 0x80000001U : static_cast<std::uint32_t>(random.below(50));
        auto narrow = wide;
        const auto before = wide;
        choose_row(v, 0x80000001U, seed, x, y, n, wide.data());
        plain::choose_row(v, 0x80000001U, seed, x, y, n, narrow.data());
        REQUIRE(wide == narrow);
        for (std::size_t i = 0; i < wide.size(); ++i)
            if (before[i] != 0x80000001U)
                REQUIRE(wide[i] == before[i]);
            else
                REQUIRE((wide[i] >= 100 && wide[i] < 100 + v.count));
    }
    std::vector<std::uint32_t> table(256 * 256);
    for (auto& t : table) t = static_cast<std::uint32_t>(random.engine());
    for (int round = 0; round < 300; ++round) {
        const int n = 1 + random.below(kRowPart);
        std::vector<level::MaterialId> rows(3 * static_cast<std::size_t>(n + 2));
        for (auto& m : rows) m = static_cast<level::MaterialId>(random.below(4));
        const auto row = [&](int i) { return &rows[static_cast<std::size_t>(i * (n + 2) + 1)]; };
        std::vector<std::uint32_t> old(static_cast<std::size_t>(n)), wide(old.size()), narrow(old.size());
        for (auto& o : old) o = static_cast<std::uint32_t>(random.below(1 << 20)) | (random.flip(0.2) ? 1U << 27 : 0U);
        std::vector<std::uint8_t> masks(old.size());
        const RowState a = look_up_row(row(0), row(1), row(2), n, masks.data(), table.data(), old.data(), wide.data());
        const RowState b =
            plain::look_up_row(row(0), row(1), row(2), n, masks.data(), table.data(), old.data(), narrow.data());
        REQUIRE(wide == narrow);
        CHECK(a.any == b.any);
        CHECK((a.changed != 0) == (b.changed != 0));
        CHECK((a.changed != 0) == (wide != old));
    }
}

TEST_CASE("a case with more variants than a row chooses at once follows the same weights", "[resolve][rows]") {
    make::Small small({64, 64});
    level::Material m = *small.project.material(1);
    auto& inside = m.joins.cases[255];
    inside.clear();
    const int many = Variants::kFew + 4;
    for (int i = 0; i < many; ++i) inside.push_back({static_cast<level::TileId>(1 + i), 10 + i, {}});
    small.project.put(m);
    const Rules rules(small.project);
    level::Grid grid(Size{64, 64});
    for (int y = 0; y < 64; ++y)
        for (int x = 0; x < 64; ++x) grid.set({x, y}, {}, 1);
    resolve(rules, grid, {0, 0, 64, 64}, 5);
    std::map<level::TileId, int> counts;
    for (int y = 1; y < 63; ++y)
        for (int x = 1; x < 63; ++x) {
            CHECK(grid.cell({x, y}) == rules.choose(1, 255, x, y, 5));
            ++counts[grid.cell({x, y}).tile()];
        }
    CHECK(counts.size() == static_cast<std::size_t>(many));
    CHECK(counts[static_cast<level::TileId>(many)] > counts[1]);
}
