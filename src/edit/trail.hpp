// Tells a journal what happens to a document: which records lead, read again, through the same states.
#pragma once

#include <cstddef>
#include <cstdint>
#include <map>
#include <string>
#include <vector>

#include "edit/document.hpp"
#include "store/journal.hpp"

namespace vic::edit {

// The places of a document's history that a journal can go to. It counts them from the state on the disk: what was done
// before it began has numbers below 0, and is told step by step as one goes there. Each change is one record, so that a
// journal that ends behind any of them leads to a state that there was.
class Trail {
  public:
    Trail() = default;
    // A journal begins at this place of the history.
    explicit Trail(std::size_t place);
    // A journal begins at `base`, what is on the disk. Returns the records that lead from there to the document's
    // state, if possible along its history: `whole`, all of it, or only what lies between. Where base is no part of
    // that there is one record, named `way`.
    std::vector<store::JournalStep> begin(const Document& document, const ProjectState& base, bool whole,
                                          const std::string& way);
    // The same with no more than two records: to the state before the last change, and that one.
    std::vector<store::JournalStep> begin_short(const Document::Told& told, const ProjectState& now,
                                                const ProjectState& base, const std::string& way);
    // The record for a change of the document to `now`. A way to where the journal cannot go is named `way`.
    store::JournalStep record(const Document::Told& told, const ProjectState& now, const std::string& way);

  private:
    store::JournalStep append(const ProjectState& before, const ProjectState& now, const std::string& name,
                              const std::string& merge);
    store::JournalStep go(std::int64_t to);
    std::map<std::size_t, std::int64_t> known_; // a place in the history → one in the journal
    std::size_t place_ = 0;                     // now, in the history
    std::int64_t at_ = 0;                       // now, in the journal
    std::int64_t first_ = 0;                    // the lowest that it knows
    std::string merge_;                         // of the record that led to where one is
};

} // namespace vic::edit
