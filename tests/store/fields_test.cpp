#include <catch2/catch.hpp>

#include "store/fields.hpp"

using namespace vic;
using namespace vic::store;

namespace {

std::string refusal(const std::string& json, const std::function<void(const Field&)>& read) {
    const Json value = parse_json(json, "a.json");
    const std::string file = "a.json";
    try {
        read(Field(value, file, ""));
    } catch (const InputError& e) {
        CHECK(e.file == "a.json");
        return e.where.english() + ": " + e.problem.english();
    }
    return "";
}

} // namespace

TEST_CASE("a field is refused with its place in the file", "[fields]") {
    CHECK(refusal("{\"a\": {\"b\": [1, \"x\"]}}", [](const Field& f) { (void)f["a"]["b"].list()[1].number(0, 9); }) ==
          "a.b[1]: This is not a whole number");
    CHECK(refusal("{\"a\": 1}", [](const Field& f) { (void)f["b"].number(0, 9); }) ==
          "the top level: \"b\" is missing");
    CHECK(refusal("[]", [](const Field& f) { (void)f["b"].yes(); }) == "the top level: This is not an object");
    CHECK(refusal("{\"a\": 12}", [](const Field& f) { (void)f["a"].number(0, 9); }) ==
          "a: The number 12 is not between 0 and 9");
    CHECK(refusal("{\"a\": 18446744073709551615}", [](const Field& f) {
              (void)f["a"].number(0, 9);
          }).find("not between") != std::string::npos);
    CHECK(refusal("{\"a\": -9223372036854775808}", [](const Field& f) {
              (void)f["a"].number(0, 9);
          }).find("not between") != std::string::npos);
    CHECK(refusal("{\"a\": 1.0}", [](const Field& f) { (void)f["a"].number(0, 9); }) ==
          "a: This is not a whole number");
    CHECK(refusal("{\"a\": true}", [](const Field& f) { (void)f["a"].real(0, 9); }) == "a: This is not a number");
    CHECK(refusal("{\"a\": 1}", [](const Field& f) { (void)f["a"].yes(); }) == "a: This is neither true nor false");
    CHECK(refusal("{\"a\": \"long\"}", [](const Field& f) { (void)f["a"].text(3); }) ==
          "a: The text is longer than 3 bytes");
    CHECK(refusal("{\"a\": [1,2,3]}", [](const Field& f) { (void)f["a"].list(2); }) ==
          "a: The list has more than 2 entries");
    CHECK(refusal("{\"a\": [1]}", [](const Field& f) { (void)f["a"].point(0, 9); }) ==
          "a: This is not a list of 2 numbers");
    CHECK(refusal("{\"a\": [1,2,-3,4]}", [](const Field& f) { (void)f["a"].box(-9, 9); }) ==
          "a: A box cannot have a negative size");
    CHECK(refusal("{\"a\": \"up\"}", [](const Field& f) {
              (void)f["a"].word({"left", "right"});
          }) == "a: \"up\" is none of: left, right");
    for (const char* bad : {"red", "#12345", "#12345g", "#1234567", ""})
        CHECK_FALSE(
            refusal("{\"a\": \"" + std::string(bad) + "\"}", [](const Field& f) { (void)f["a"].colour(); }).empty());
}

TEST_CASE("fields give what was written", "[fields]") {
    const Json value = parse_json(
        "{\"n\": -3, \"r\": 2.5, \"t\": \"Straße\", \"y\": true, \"p\": [1, 2], \"b\": [3, 4, 5, 6], \"c\": "
        "\"#0a0B0c80\", \"w\": \"two\"}",
        "a");
    const std::string file = "a";
    const Field f(value, file, "");
    CHECK(f["n"].number(-5, 5) == -3);
    CHECK(f["n"].real(-5, 5) == -3.0);
    CHECK(f["r"].real(0, 5) == 2.5);
    CHECK(f["t"].text() == "Straße");
    CHECK(f["y"].yes());
    CHECK(f["p"].point(0, 9) == Point{1, 2});
    CHECK(f["b"].box(0, 9) == Box{3, 4, 5, 6});
    CHECK(f["c"].colour() == Rgba{10, 11, 12, 128});
    CHECK(f["w"].word({"one", "two"}) == 1);
    CHECK(f.has("n"));
    CHECK_FALSE(f.has("nothing"));
    CHECK(to_json(Rgba{10, 11, 12, 128}) == "#0a0b0c80");
    CHECK(to_json(Rgba{255, 0, 0, 255}) == "#ff0000");
}

TEST_CASE("text is one thing a line and reads back as it was", "[fields]") {
    Json value{{"name", "x"}, {"empty", Json::array()}, {"pair", {1, 2}}};
    for (int i = 0; i < 3; ++i) value["things"].push_back({{"id", i}, {"box", {i, i, 2, 2}}});
    const std::string text = json_lines(value);
    CHECK(text ==
          "{\n \"name\": \"x\",\n \"empty\": [],\n \"pair\": [1,2],\n \"things\": [\n  {\"id\":0,\"box\":[0,0,2,2]},\n "
          " {\"id\":1,\"box\":[1,1,2,2]},\n  {\"id\":2,\"box\":[2,2,2,2]}\n ]\n}\n");
    CHECK(parse_json(text, "a") == value);
}

TEST_CASE("formats are checked by name and number", "[fields]") {
    const auto check = [](const std::string& json) {
        return refusal(json, [](const Field& f) { check_format(f, "vicinum-thing", 3); });
    };
    CHECK(check("{\"format\": \"vicinum-thing\", \"version\": 3}").empty());
    CHECK(check("{\"format\": \"vicinum-thing\", \"version\": 1}").empty());
    CHECK(check("{\"format\": \"vicinum-thing\", \"version\": 4}").find("format number 4") != std::string::npos);
    CHECK(check("{\"format\": \"other\", \"version\": 1}").find("format") == 0);
    CHECK(check("{\"version\": 1}").find("missing") != std::string::npos);
    CHECK_FALSE(check("{\"format\": \"vicinum-thing\", \"version\": 0}").empty());
}

TEST_CASE("the line of a JSON mistake is named", "[fields]") {
    try {
        parse_json("{\n \"a\": 1,\n \"b\": oops,\n \"c\": 2\n}\n", "a.json");
        FAIL("parsed");
    } catch (const InputError& e) {
        CHECK(e.where.english() == "line 3");
        CHECK(e.problem.english() == "The file is not valid JSON");
    }
}
