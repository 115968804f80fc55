// What a name says of how one meets a thing.
#pragma once

#include <cctype>
#include <string>

namespace vic::level {

// The word of a name that says that one cannot walk there (a water, a wall, a pit); empty where none does.
inline std::string telling_word(const std::string& name) {
    std::string word;
    for (const char c : name + " ") {
        if (std::isalpha(static_cast<unsigned char>(c))) {
            word += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
            continue;
        }
        for (const char* of : {"wall", "walls", "cliff", "cliffs", "rock", "rocks", "hedge", "fence", "water", "sea",
                               "lake", "river", "ocean", "lava", "roof", "brick", "bricks", "pit"})
            if (word == of) return word;
        word.clear();
    }
    return {};
}

} // namespace vic::level
