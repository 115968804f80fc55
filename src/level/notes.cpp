#include "level/notes.hpp"
#include "level/facts.hpp"

#include <algorithm>
#include <cmath>

namespace vic::level {

namespace {

// 0 north … 3 west, -1: none.
int side_of(const std::string& word) {
    const auto& all = side_words();
    const auto at = std::find(all.begin(), all.end(), word);
    return at == all.end() ? -1 : static_cast<int>(at - all.begin());
}

} // namespace

const std::array<std::string, 4>& side_words() {
    static const std::array<std::string, 4> words{"north", "east", "south", "west"};
    return words;
}

bool fits(const NoteKind& kind, const NoteValue& value) {
    switch (kind.type) {
        case NoteType::text:
            return std::holds_alternative<std::string>(value);
        case NoteType::number:
            return std::holds_alternative<double>(value) && std::isfinite(std::get<double>(value));
        case NoteType::yes_no:
            return std::holds_alternative<bool>(value);
        case NoteType::colour:
            return std::holds_alternative<Rgba>(value);
        case NoteType::choice:
            return std::holds_alternative<std::string>(value) &&
                   std::find(kind.choices.begin(), kind.choices.end(), std::get<std::string>(value)) !=
                       kind.choices.end();
        case NoteType::side:
            return std::holds_alternative<std::string>(value) && side_of(std::get<std::string>(value)) >= 0;
    }
    return false;
}

NoteValue first_value(const NoteKind& kind) {
    switch (kind.type) {
        case NoteType::number:
            return 0.0;
        case NoteType::yes_no:
            return true;
        case NoteType::colour:
            return Rgba{23, 117, 110, 255};
        case NoteType::choice:
            return kind.choices.empty() ? std::string() : kind.choices.front();
        case NoteType::side:
            return side_words()[0];
        case NoteType::text:
            break;
    }
    return std::string();
}

NoteValue turned(const NoteKind& kind, const NoteValue& value, Turn turn) {
    if (kind.type != NoteType::side || !fits(kind, value)) return value;
    return side_words()[static_cast<std::size_t>(turned_side(turn, side_of(std::get<std::string>(value))))];
}

std::optional<NoteValue> fact_value(const NoteKind& kind, int value) {
    switch (kind.type) {
        case NoteType::number:
            return static_cast<double>(value);
        case NoteType::yes_no:
            if (value == 0 || value == 1) return value == 1;
            return std::nullopt;
        case NoteType::choice:
            if (value >= 0 && value < static_cast<int>(kind.choices.size()))
                return kind.choices[static_cast<std::size_t>(value)];
            return std::nullopt;
        case NoteType::text:
        case NoteType::colour:
        case NoteType::side:
            break;
    }
    return std::nullopt;
}

std::optional<int> fact_of(const NoteKind& kind, const NoteValue& value) {
    if (!may_be_fact(kind) || !fits(kind, value)) return std::nullopt;
    if (kind.type == NoteType::yes_no) return std::get<bool>(value) ? 1 : 0;
    if (kind.type == NoteType::choice) {
        const auto at = std::find(kind.choices.begin(), kind.choices.end(), std::get<std::string>(value));
        return static_cast<int>(at - kind.choices.begin());
    }
    return static_cast<int>(std::lround(std::clamp<double>(std::get<double>(value), -kMostFact, kMostFact)));
}

} // namespace vic::level
