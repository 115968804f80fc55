// Keeps programs that work on one folder out of each other's way.
#pragma once

#include <chrono>
#include <filesystem>

namespace vic {

// While it lives, nobody writes in the folder who asks for it in the same way; held for writing, nobody reads either.
// Nothing is left on the disk, and what a killed program held is free at once. Where one thread of this program holds
// the folder already in a way that is as good, that serves; else its other threads are waited for like other programs.
// Where the folder is not there, or its disk knows no locks, nothing is held.
class FolderLock {
  public:
    enum class For { reading, writing };
    // Throws InputError where others do not let go in time.
    FolderLock(const std::filesystem::path& folder, For what,
               std::chrono::milliseconds patience = std::chrono::seconds(20));
    ~FolderLock();
    FolderLock(const FolderLock&) = delete;
    FolderLock& operator=(const FolderLock&) = delete;

  private:
    struct Held;
    Held* held_ = nullptr; // null where nothing is held
};

} // namespace vic
