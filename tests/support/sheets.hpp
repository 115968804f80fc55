// Generated sheets as people make them, each with the cut that is right: what readings are measured against.
#pragma once

#include <string>
#include <vector>

#include "base/image.hpp"
#include "level/sheet.hpp"

namespace make {

using namespace vic;

struct SheetCase {
    std::string kind; // the class that rates are given for
    std::string name; // which one, for a failure's explanation
    Image image;
    level::Cut cut;
    Size count; // columns and rows
};

// `each` sheets of every class. The same seed gives the same sheets.
std::vector<SheetCase> sheet_corpus(unsigned seed, int each);

} // namespace make
