#include "base/text.hpp"

#include <catch2/catch.hpp>

#include "base/error.hpp"

using namespace vic;

TEST_CASE("a sentence takes its values in English", "[text]") {
    CHECK(say("There is no tile %1", 7).english() == "There is no tile 7");
    CHECK(say("%2 before %1", "a", std::string("b")).english() == "b before a");
    CHECK(say("100 % of %1 %", 3).english() == "100 % of 3 %");
    CHECK(say("%1 and %2", say("tile %1", 4), Text::verbatim("%1")).english() == "tile 4 and %1");
    CHECK(say_count(1, "one tile of %1", "%n tiles of %1", "pans").english() == "one tile of pans");
    CHECK(say_count(3, "one tile of %1", "%n tiles of %1", "pans").english() == "3 tiles of pans");
    CHECK(say_count(0, "one tile", "%n tiles").english() == "0 tiles");
    CHECK(listed({"a", "b", "c"}).english() == "a, b and c");
    CHECK(listed({}).empty());
}

TEST_CASE("a sentence is translated before its values go in, and values that are sentences by themselves", "[text]") {
    const auto other = [](const Text& t) -> std::string {
        if (t.pattern() == "%1 has no tile for %2") return "für %2 hat %1 nichts";
        if (t.pattern() == "alone") return "allein";
        if (t.pattern() == "%n cells") return t.count() == 2 ? "zwei Zellen" : "%n Zellen";
        FAIL("asked for " << t.pattern());
        return "";
    };
    CHECK(say("%1 has no tile for %2", "alone", Text("alone")).in(other) == "für allein hat alone nichts");
    CHECK(say_count(2, "one cell", "%n cells").in(other) == "zwei Zellen");
    CHECK(say_count(9, "one cell", "%n cells").in(other) == "9 Zellen");
}

TEST_CASE("an error is one sentence of which every part can be translated", "[text]") {
    const InputError e(say("The picture is damaged: %1", "bad CRC"), "a.png", say("byte %1", 12), "Export it again");
    CHECK(std::string(e.what()) == "The picture is damaged: bad CRC (a.png, byte 12). Export it again");
    std::vector<std::string> asked;
    const std::string said = e.text().in([&](const Text& t) {
        asked.push_back(t.pattern());
        return t.pattern();
    });
    CHECK(said == e.what());
    CHECK(asked == std::vector<std::string>{"%1. %2", "%1 (%2, %3)", "The picture is damaged: %1", "byte %1",
                                            "Export it again"});
}
