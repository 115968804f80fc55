// Reading and writing whole files so that nothing is ever half written.
#pragma once

#include <cstdint>
#include <filesystem>
#include <string>
#include <string_view>

#include "base/text.hpp"

namespace vic {

namespace fs = std::filesystem;

// The file's bytes. Throws InputError where it cannot be read, is no regular file (a pipe would be waited for) or is
// larger than `limit` bytes. A link is followed: see inside() for those that may not be.
std::string read_file(const fs::path& file, std::uintmax_t limit = 1ULL << 30);

// The first bytes of a regular file, as many as there are up to `most`; empty where it cannot be read, or is a link or
// no file.
std::string read_beginning(const fs::path& file, std::size_t most);

// Writes to a new file with a random name beside `file`, flushes it to the disk, renames it. A link in the place of
// `file` is replaced, not followed. Throws InputError; then `file` is as it was.
void write_file(const fs::path& file, std::string_view bytes);

// Removes what writers that were killed in the middle of write_file() left in the folder: files with such a name that
// nobody has written in for an hour. A folder that is not there has none.
void remove_left_parts(const fs::path& folder);

// The place of `relative` inside `root`, which need not exist. Throws InputError for an empty or absolute path, for one
// with ".." and for one that goes through a link or is one, wherever that leads; of `root` itself nothing is asked.
// `said_in` and `where` name the place that holds the path, for the error.
fs::path inside(const fs::path& root, const std::string& relative, const std::string& said_in, const Text& where);

// Flushes a folder's list of names to the disk, so that a rename in it survives a power cut.
void flush_folder(const fs::path& folder);

// A name that is safe in file names and addresses: lower-case letters, digits and dashes; `fallback` if nothing is
// left.
std::string slug(std::string_view name, std::string_view fallback);

} // namespace vic
