// Notes: typed values that designers write to tiles for the game; a schema per project, so that the same note has the
// same type everywhere.
#pragma once

#include <array>
#include <cstdint>
#include <map>
#include <string>
#include <variant>
#include <vector>

#include "base/image.hpp"
#include "base/turn.hpp"

namespace vic::level {

using NoteId = std::uint32_t;

enum class NoteType : std::uint8_t { text, number, yes_no, colour, choice, side };

struct NoteKind {
    NoteId id = 0;
    std::string name; // no other note of the project has it
    NoteType type = NoteType::text;
    std::vector<std::string> choices; // for NoteType::choice: at least one, no two the same
    bool surface = false;             // whether it is of what blocks: outlines are told apart by it
    bool operator==(const NoteKind&) const = default;
};

// What a note of NoteType::side says, of the tile as drawn: clockwise from north.
const std::array<std::string, 4>& side_words();

// Text, choice and side are a string.
using NoteValue = std::variant<std::string, double, bool, Rgba>;
using Notes = std::map<NoteId, NoteValue>;

// Whether the value is one that the kind allows: of its type, finite, among its choices.
bool fits(const NoteKind& kind, const NoteValue& value);

// What a note of the kind holds when it is first written.
NoteValue first_value(const NoteKind& kind);

// What the note says of a tile that is laid turned: sides turn with it, all else stays.
NoteValue turned(const NoteKind& kind, const NoteValue& value, Turn turn);

} // namespace vic::level
