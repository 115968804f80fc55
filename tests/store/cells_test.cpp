// Cells as they are written, read back and refused.
#include "store/cells.hpp"

#include <catch2/catch.hpp>

#include "base/error.hpp"
#include "edit/levels.hpp"
#include "edit/stroke.hpp"
#include "support/hands.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::store;

namespace {

std::string cells_text(const make::Small& small) {
    return write_cells(small.level(), join::Rules(small.project), small.level().cells());
}
level::Level emptied(const make::Small& small) {
    level::Level level = small.level();
    for (const level::LayerRef& l : small.level().layers)
        if (l->kind() == level::LayerKind::tiles) level.edit(l->id).grid() = level::Grid(level.size);
    return level;
}
void read_all(const make::Small& small, const std::string& text, const std::string& file, level::Level& into,
              std::vector<DamagedCells>* damaged = nullptr) {
    CellReader reader(into, small.project.next_tile);
    reader.read(text, file, into.cells(), damaged);
    reader.finish(join::Rules(small.project));
}

} // namespace

TEST_CASE("damaged cells are refused with line and character", "[cells]") {
    const make::Small small = make::rich(8);
    const std::string good = cells_text(small);
    const auto empty = [&] { return emptied(small); };
    level::Level back = empty();
    read_all(small, good, "a.cells", back);
    CHECK(back.layer(small.ground)->grid() == small.level().layer(small.ground)->grid());

    const std::string layer = "layer " + std::to_string(small.ground) + "\n";
    const std::string head = "vicinum-cells 1\n";
    const std::vector<std::string> bad{"",
                                       "vicinum-cells 3\nend\n",
                                       "something\nend\n",
                                       head,
                                       good.substr(0, good.size() - 4),
                                       head + "3 4 5\nend\n",
                                       head + "layer 99999\nend\n",
                                       head + "layer x\nend\n",
                                       head + layer + layer + "end\n",
                                       head + layer + "90 0 1\nend\n",
                                       head + layer + "0 130 1\nend\n",
                                       head + layer + "0 129 1 1\nend\n",
                                       head + layer + "0 0 131x1\nend\n",
                                       head + layer + "0 0 0x1\nend\n",
                                       head + layer + "0 0 4294967295x1\nend\n",
                                       head + layer + "0 0 99999\nend\n",
                                       head + layer + "0 0 1.8\nend\n",
                                       head + layer + "0 0 1~256\nend\n",
                                       head + layer + "0 0 1?\nend\n",
                                       head + layer + "5 0 1\n4 0 1\nend\n",
                                       head + layer + "5 0 1\n5 3 1\nend\n",
                                       head + layer + "-1 0 1\nend\n"};
    for (const std::string& text : bad) {
        INFO(text.substr(0, 60));
        level::Level into = empty();
        CHECK_THROWS_AS(read_all(small, text, "a.cells", into), InputError);
    }
    try {
        level::Level into = empty();
        read_all(small, head + layer + "3 4 1 2 x\nend\n", "a.cells", into);
    } catch (const InputError& e) {
        CHECK(e.where.english() == "line 3, character 9");
    }
}

TEST_CASE("cells beyond the budget are refused with their place, damage or not", "[cells]") {
    const make::Small small = make::rich(8);
    const std::string good = cells_text(small);
    const auto read = [&](std::int64_t left) {
        CellBudget budget;
        budget.left = left;
        level::Level into = emptied(small);
        CellReader reader(into, small.project.next_tile, &budget);
        std::vector<DamagedCells> damaged;
        reader.read(good, "a.cells", into.cells(), &damaged);
        CHECK(damaged.empty());
        return budget.left.load();
    };
    const std::int64_t held = 5000 - read(5000);
    CHECK(held > 100);
    CHECK(read(held) == 0);
    try {
        read(held - 1);
        FAIL("accepted");
    } catch (const InputError& e) {
        CHECK(e.file == "a.cells");
        CHECK(e.where.english().starts_with("layer "));
    }
}

TEST_CASE("random damage to cells never does worse than be refused", "[cells]") {
    const make::Small small = make::rich(9);
    const std::string good = cells_text(small);
    make::Random random(2);
    for (int i = 0; i < 500; ++i) {
        std::string text = good;
        for (int k = 0; k <= random.below(3); ++k)
            text[static_cast<std::size_t>(random.below(static_cast<int>(text.size())))] =
                static_cast<char>(32 + random.below(95));
        level::Level level = emptied(small);
        try {
            read_all(small, text, "a", level);
        } catch (const InputError&) {
        }
        // With the damaged told of instead, only a file that is none at all is refused.
        level::Level most = emptied(small);
        std::vector<DamagedCells> damaged;
        try {
            read_all(small, text, "a", most, &damaged);
        } catch (const InputError&) {
        }
    }
    SUCCEED();
}

TEST_CASE("painted cells are told by their material, and any that are otherwise are told whole", "[cells]") {
    make::Small small({30, 20});
    const join::Rules rules(small.project);
    edit::Hand rock{edit::held::Material{1}};
    level::Level level =
        edit::lay(small.project, rules, small.level(), small.ground, rock, edit::box_cells({2, 2, 9, 6})).level;
    small.set(level);
    const std::string text = cells_text(small);
    CHECK(text.find("\n3 2 9x~1\n") != std::string::npos);
    // One cell that the rules would choose otherwise: it stays as it is.
    level.edit(small.ground).grid().set({5, 4}, level::Cell(7, {}, false), 1);
    small.set(level);
    const std::string odd = cells_text(small);
    CHECK(odd.find("\n4 2 3x~1 7~1 5x~1\n") != std::string::npos);
    level::Level back = emptied(small);
    read_all(small, odd, "a", back);
    CHECK(back.layer(small.ground)->grid() == level.layer(small.ground)->grid());
    // The first format told every tile; it is still read.
    std::string first = "vicinum-cells 1\nlayer " + std::to_string(small.ground) + "\n";
    for (const std::string& row : write_rows(level.layer(small.ground)->grid())) first += row + "\n";
    level::Level old = emptied(small);
    read_all(small, first + "layer " + std::to_string(small.front) + "\nend\n", "a", old);
    CHECK(old.layer(small.ground)->grid() == level.layer(small.ground)->grid());
}

TEST_CASE("blockers are told by shape, and hold nothing else", "[cells]") {
    make::Small small({30, 20});
    level::Level level = small.level();
    const level::LayerId id = small.project.next_id++;
    level = edit::add_layer(level, id, "Fence", level::LayerKind::blockers, small.front);
    level = edit::lay(small.project, join::Rules(small.project), level, id,
                      edit::blocker_hand(level::TileShape::slope_sw), edit::box_cells({4, 3, 5, 1}))
                .level;
    small.set(level);
    level::Level back = emptied(small);
    read_all(small, cells_text(small), "a", back);
    CHECK(back.layer(id)->blockers()->shape({8, 3}) == level::TileShape::slope_sw);
    CHECK(back.layer(id)->blockers()->shape({9, 3}) == level::TileShape::none);
    CHECK(*back.layer(id)->blockers() == *level.layer(id)->blockers());

    // A material, a tile that follows a material, and a number that is no shape.
    const std::string head = "vicinum-cells 2\nlayer " + std::to_string(id) + "\n";
    read_all(small, head + "3 0 2x2!\nend\n", "a", back);
    for (const char* bad : {"3 0 2!~1", "3 0 ~1", "3 0 5~2", "3 0 32!", "3 0 200!"}) {
        INFO(bad);
        level::Level into = emptied(small);
        CHECK_THROWS_AS(read_all(small, head + bad + "\nend\n", "a", into), InputError);
    }
}
