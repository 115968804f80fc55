// The one exception for trouble with input and output, and the one that ends work. Broken invariants are asserted, not
// thrown.
#pragma once

#include <exception>
#include <functional>
#include <stdexcept>
#include <string>

#include "base/text.hpp"

namespace vic {

class InputError : public std::runtime_error {
  public:
    // what happened; to which file; where in it ("line 12", "sheets[3].cut", may be empty); what the user can do.
    InputError(const Text& what, const std::string& file, const Text& where, const Text& remedy)
        : std::runtime_error(sentence(what, file, where, remedy).english()),
          problem(what),
          file(file),
          where(where),
          remedy(remedy) {}

    // All of it in one Text; what() is its English.
    [[nodiscard]] Text text() const { return sentence(problem, file, where, remedy); }

    Text problem;
    std::string file;
    Text where;
    Text remedy;

  private:
    static Text sentence(const Text& what, const std::string& file, const Text& where, const Text& remedy) {
        Text text = what;
        if (!file.empty() && !where.empty())
            text = say("%1 (%2, %3)", what, file, where);
        else if (!file.empty())
            text = say("%1 (%2)", what, file);
        else if (!where.empty())
            text = say("%1 (%2)", what, where);
        return remedy.empty() ? text : say("%1. %2", text, remedy);
    }
};

// Work was told to stop, and did. Not for the user's eyes.
class Stopped : public std::exception {
  public:
    [[nodiscard]] const char* what() const noexcept override { return "stopped"; }
};
// Asked now and then by long work; an empty one never says yes.
using Stop = std::function<bool()>;
inline void look(const Stop& stop) {
    if (stop && stop()) throw Stopped();
}

// Of whatever was thrown: an InputError as it is; what the system says of files, and that memory gave out, in
// our words.
InputError as_input_error(const std::exception& trouble);

} // namespace vic
