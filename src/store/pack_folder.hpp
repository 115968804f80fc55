// A pack of art as it comes from elsewhere: a folder with pictures in sub-folders, and texts that say who made it and
// what it may be used for.
#pragma once

#include <string>
#include <vector>

#include "base/files.hpp"
#include "base/geometry.hpp"
#include "level/sheet.hpp"

namespace vic::store {

inline constexpr int kMostPackDepth = 8; // folders within folders
inline constexpr std::size_t kMostPackPictures = 4000;

struct PackPicture {
    fs::path file;
    std::string folder;     // within the pack, with slashes; empty at its top
    std::string name;       // without its ending
    Size size;              // pixels, by the file's head
    level::Credits credits; // of the text nearest to it: in its folder, or in one around it
};

struct PackFolder {
    std::string name;
    std::vector<PackPicture> pictures; // by folder, then name
    bool more = false;                 // there were more than are taken
    [[nodiscard]] bool has_folders() const;
};

// All PNG pictures of the folder and those in it, as far as their heads can be read. Links are not followed, only
// regular files are looked at. Throws InputError where the folder itself cannot be read.
PackFolder read_pack(const fs::path& folder);

// What a licence or read-me file says: a licence that is known by name, the line that names the author, an address.
// What it does not say stays empty.
level::Credits credits_in(const std::string& text);

} // namespace vic::store
