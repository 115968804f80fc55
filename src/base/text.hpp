// What the core has to say to people: a sentence in English with places for values. The window puts the sentence into
// its own language before the values go in; the command says it as it is.
#pragma once

#include <concepts>
#include <cstdint>
#include <functional>
#include <string>
#include <vector>

namespace vic {

class Text {
  public:
    Text() = default;

    // A sentence without places. Only literals, so that every sentence can be found in the source.
    template <std::size_t N>
    Text(const char (&sentence)[N]) : pattern_(sentence) {} // NOLINT: implicit, so that a literal is a Text

    // Something that is the same in every language: a name, a number, a path.
    static Text verbatim(std::string value) {
        Text out;
        out.pattern_ = std::move(value);
        out.verbatim_ = true;
        return out;
    }

    [[nodiscard]] bool empty() const { return pattern_.empty(); }
    [[nodiscard]] bool is_verbatim() const { return verbatim_; }
    // The English sentence with its places %1 … %9 and, where it is counted, %n.
    [[nodiscard]] const std::string& pattern() const { return pattern_; }
    // For one thing instead of many; empty where the sentence is not counted.
    [[nodiscard]] const std::string& pattern_for_one() const { return one_; }
    [[nodiscard]] std::int64_t count() const { return count_; }
    [[nodiscard]] const std::vector<Text>& values() const { return values_; }

    [[nodiscard]] std::string english() const;

    // `sentence` gives the pattern of a Text in the wanted language; it is not asked for what is verbatim.
    using Sentence = std::function<std::string(const Text&)>;
    [[nodiscard]] std::string in(const Sentence& sentence) const;

    bool operator==(const Text&) const = default;

  private:
    template <std::size_t N, class... V>
    friend Text say(const char (&pattern)[N], const V&... values);
    template <std::size_t N, std::size_t M, class... V>
    friend Text say_count(std::int64_t count, const char (&one)[N], const char (&many)[M], const V&... values);

    static Text value(const Text& t) { return t; }
    static Text value(const std::string& s) { return verbatim(s); }
    static Text value(const char* s) { return verbatim(s); }
    static Text value(std::integral auto n) { return verbatim(std::to_string(n)); }

    std::string pattern_;
    std::string one_;
    std::int64_t count_ = -1;
    bool verbatim_ = false;
    std::vector<Text> values_;
};

// say("There is no tile %1", 7). A value that is a Text is translated by itself; anything else goes in as it is.
template <std::size_t N, class... V>
Text say(const char (&pattern)[N], const V&... values) {
    Text out(pattern);
    (out.values_.push_back(Text::value(values)), ...);
    return out;
}

// say_count(n, "one tile is gone", "%n tiles are gone"): by number, as the language has it.
template <std::size_t N, std::size_t M, class... V>
Text say_count(std::int64_t count, const char (&one)[N], const char (&many)[M], const V&... values) {
    Text out(many);
    out.one_ = one;
    out.count_ = count;
    (out.values_.push_back(Text::value(values)), ...);
    return out;
}

// "a", "a and b", "a, b and c".
Text listed(const std::vector<Text>& items);

} // namespace vic
