#include "level/notes.hpp"

#include <algorithm>
#include <cmath>

namespace vic::level {

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
        case NoteType::text:
            break;
    }
    return std::string();
}

} // namespace vic::level
