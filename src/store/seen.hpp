// What a program knows of a project's files: so that it notices what others have changed since.
#pragma once

#include <cstdint>
#include <map>
#include <mutex>
#include <string>
#include <string_view>
#include <vector>

#include "base/files.hpp"

namespace vic::store {

// The texts and cells of a project as they were when they were last read or written here; pictures are not among them.
// Any thread may use it.
class Seen {
  public:
    Seen() = default;
    Seen(const Seen& other);
    Seen& operator=(const Seen& other);

    void note(const std::string& relative, std::string_view bytes);
    void forget(const std::string& relative);
    // The files that hold other bytes now, or are gone. Reads them all; what cannot be read counts as changed.
    [[nodiscard]] std::vector<std::string> changed(const fs::path& dir) const;
    // Stands for all of it: the same files with the same bytes give the same number.
    [[nodiscard]] std::uint64_t mark() const;
    [[nodiscard]] std::vector<std::string> names() const;

  private:
    struct Bytes {
        std::uintmax_t size = 0;
        std::uint64_t hash = 0;
        bool operator==(const Bytes&) const = default;
    };
    static Bytes of(std::string_view bytes);
    mutable std::mutex guard_;
    std::map<std::string, Bytes> files_;
};

} // namespace vic::store
