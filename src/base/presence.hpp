// Tells programs on this machine that a folder is open in one of them.
#pragma once

#include <filesystem>
#include <optional>

namespace vic {

// While it lives, nobody else can claim the folder. It leaves nothing on the disk, needs no right to write there, and
// is given up when the program ends, however that happens.
class Presence {
  public:
    // None where another has claimed it, in this program or another.
    static std::optional<Presence> claim(const std::filesystem::path& folder);
    Presence(Presence&& other) noexcept;
    Presence& operator=(Presence&& other) noexcept;
    ~Presence();

  private:
    explicit Presence(int handle) : handle_(handle) {}
    int handle_ = -1; // -1: nothing could be claimed, as where the folder is gone
};

} // namespace vic
