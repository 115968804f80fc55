// Facts: what a level says of its cells for the game: a value of one of the project's notes for each (ore: 5). A value,
// as cheap to copy as a grid.
#pragma once

#include <cstdlib>
#include <optional>

#include "level/grid.hpp"
#include "level/notes.hpp"

namespace vic::level {

inline constexpr int kMostFact = 1'000'000; // to either side of 0

class Facts {
  public:
    Facts() = default;
    Facts(Size cells, NoteId note) : note_(note), cells_(cells) {} // 1 .. kMostCells a side
    // Of cells that came out of cells() of others, moved or cut to size.
    static Facts of(NoteId note, Grid cells) {
        Facts out;
        out.note_ = note;
        out.cells_ = std::move(cells);
        return out;
    }

    // The kind of note whose values these are; 0 for none yet.
    [[nodiscard]] NoteId note() const { return note_; }
    void set_note(NoteId note) { note_ = note; }

    // Of numbers the number itself, of choices which of them, of yes and no 1 and 0. Nothing is said of cells without.
    [[nodiscard]] std::optional<int> value(Point at) const { return value_of(cells_.cell(at)); }
    void set(Point at, std::optional<int> value) { cells_.set(at, value ? cell_of(*value) : Cell(), 0); }

    // As cells, for what moves, copies, compares or writes cells whatever they hold. Only cell_of() and value_of() know
    // what is in them; what is put there must have come out of cell_of() or of other facts. They lie in no turn.
    [[nodiscard]] const Grid& cells() const { return cells_; }
    [[nodiscard]] Grid& cells() { return cells_; }

    // `value`: -kMostFact .. kMostFact.
    static Cell cell_of(int value) {
        return Cell(static_cast<TileId>(value < 0 ? kNegative - value : 1 + value), {}, true);
    }
    static std::optional<int> value_of(Cell cell) {
        if (cell.empty()) return std::nullopt;
        const auto code = static_cast<int>(cell.tile());
        return code > kNegative ? kNegative - code : code - 1;
    }
    // Whether a cell that was read from a file can stand among facts.
    static bool holds(Cell cell) {
        const auto value = value_of(cell);
        return cell.turn() == Turn{} && value && std::abs(*value) <= kMostFact;
    }
    static constexpr TileId kCodes = (1U << 23) + kMostFact + 1; // all that cell_of() gives are below

    bool operator==(const Facts& other) const { return note_ == other.note_ && cells_ == other.cells_; }

  private:
    static constexpr int kNegative = 1 << 23; // codes of negative values count from here
    NoteId note_ = 0;
    Grid cells_;
};

// Whether cells can have values of the kind: whole numbers, yes or no, one of some choices.
inline bool may_be_fact(const NoteKind& kind) {
    return kind.type == NoteType::number || kind.type == NoteType::yes_no || kind.type == NoteType::choice;
}
// The value as the note says it; nothing where it is none of the kind's (a choice that is gone).
std::optional<NoteValue> fact_value(const NoteKind& kind, int value);
// The other way round; numbers are rounded.
std::optional<int> fact_of(const NoteKind& kind, const NoteValue& value);

} // namespace vic::level
