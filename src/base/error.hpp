// The one exception for trouble with input and output. Broken invariants are asserted, not thrown.
#pragma once

#include <stdexcept>
#include <string>

namespace vic {

class InputError : public std::runtime_error {
  public:
    // what happened; to which file; where in it ("line 12", "sheets[3].cut", may be empty); what the user can do.
    InputError(std::string what, std::string file, std::string where, std::string remedy)
        : std::runtime_error(sentence(what, file, where, remedy)),
          problem(std::move(what)),
          file(std::move(file)),
          where(std::move(where)),
          remedy(std::move(remedy)) {}

    std::string problem;
    std::string file;
    std::string where;
    std::string remedy;

  private:
    static std::string sentence(const std::string& what, const std::string& file, const std::string& where,
                                const std::string& remedy) {
        std::string text = what;
        if (!file.empty())
            text += " (" + file + (where.empty() ? "" : ", " + where) + ")";
        else if (!where.empty())
            text += " (" + where + ")";
        if (!remedy.empty()) text += ". " + remedy;
        return text;
    }
};

} // namespace vic
