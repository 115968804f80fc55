// Tells a journal what happens to a document: which records lead, read again, through the same states.
#pragma once

#include <cstddef>
#include <cstdint>
#include <map>
#include <string>

#include "edit/document.hpp"
#include "store/journal.hpp"

namespace vic::edit {

// The places of a document's history that a journal can go to. A journal knows nothing of what was done before it
// began: a way to there is written as a step of its own. Each change is one record, so that a journal that ends behind
// any of them leads to a state that there was.
class Trail {
  public:
    Trail() = default;
    // The journal begins with as many `steps` of its own; they lead to the present state, which has this place.
    Trail(std::size_t place, std::int64_t steps);
    // The record for a change of the document to `now`. A way to where the journal cannot go is named `way`.
    store::JournalStep record(const Document::Told& told, const ProjectState& now, const std::string& way);

  private:
    store::JournalStep append(const ProjectState& before, const ProjectState& now, const std::string& name,
                              const std::string& merge);
    store::JournalStep go(std::int64_t to);
    std::map<std::size_t, std::int64_t> known_; // a place in the history → one in the journal
    std::size_t place_ = 0;                     // now, in the history
    std::int64_t at_ = 0;                       // now, in the journal
    std::string merge_;                         // of the record that led to where one is
};

} // namespace vic::edit
