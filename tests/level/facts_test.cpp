#include "level/facts.hpp"

#include <catch2/catch.hpp>
#include <set>
#include <string>

#include "support/make.hpp"

using namespace vic;
using namespace vic::level;

namespace {

NoteKind kind_of(NoteType type) {
    NoteKind kind;
    kind.id = 3;
    kind.name = "Ore";
    kind.type = type;
    if (type == NoteType::choice) kind.choices = {"poor", "rich"};
    return kind;
}

} // namespace

TEST_CASE("every value of a cell is told apart, and comes back", "[facts]") {
    make::Random random(3);
    std::set<std::uint32_t> codes;
    for (const int value : {0, 1, -1, 5, -5, kMostFact, -kMostFact}) {
        const Cell cell = Facts::cell_of(value);
        CHECK(Facts::value_of(cell) == value);
        CHECK(Facts::holds(cell));
        CHECK(cell.tile() < Facts::kCodes);
        CHECK(codes.insert(cell.bits).second);
    }
    for (int i = 0; i < 2000; ++i) {
        const int value = random.below(2 * kMostFact + 1) - kMostFact;
        CHECK(Facts::value_of(Facts::cell_of(value)) == value);
    }
    CHECK_FALSE(Facts::value_of(Cell()));
    CHECK_FALSE(Facts::holds(Cell()));
    CHECK_FALSE(Facts::holds(Cell(kMostFact + 2, {}, true)));
    CHECK_FALSE(Facts::holds(Cell(Facts::kCodes, {}, true)));
    CHECK_FALSE(Facts::holds(Cell(5, Turn{1}, true)));
}

TEST_CASE("values are what their note says of them", "[facts]") {
    for (const NoteType type : {NoteType::text, NoteType::colour, NoteType::side})
        CHECK_FALSE(may_be_fact(kind_of(type)));
    const NoteKind number = kind_of(NoteType::number), yes = kind_of(NoteType::yes_no),
                   word = kind_of(NoteType::choice);
    CHECK(fact_value(number, -7) == NoteValue(-7.0));
    CHECK(fact_value(yes, 1) == NoteValue(true));
    CHECK_FALSE(fact_value(yes, 2));
    CHECK(fact_value(word, 1) == NoteValue(std::string("rich")));
    CHECK_FALSE(fact_value(word, 2));
    CHECK_FALSE(fact_value(word, -1));
    CHECK(fact_of(number, 4.6) == 5);
    CHECK(fact_of(number, 1e12) == kMostFact);
    CHECK(fact_of(word, std::string("rich")) == 1);
    CHECK_FALSE(fact_of(word, std::string("gone")));
    CHECK(fact_of(yes, false) == 0);
    for (const NoteKind& kind : {number, yes, word})
        for (const int value : {0, 1}) CHECK(fact_of(kind, *fact_value(kind, value)) == value);
}
