#include "base/presence.hpp"

#include <sys/socket.h>
#include <sys/stat.h>
#include <sys/un.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <cstddef>
#include <string>
#include <utility>

namespace vic {

// A socket with an abstract name can be bound once, and its name is free when the last who holds it is gone.
std::optional<Presence> Presence::claim(const std::filesystem::path& folder) {
    struct stat status {};
    if (::stat(folder.c_str(), &status) != 0) return Presence(-1);
    const int handle = ::socket(AF_UNIX, SOCK_STREAM | SOCK_CLOEXEC, 0);
    if (handle < 0) return Presence(-1);
    const std::string name = "vicinum-" + std::to_string(status.st_dev) + "-" + std::to_string(status.st_ino);
    sockaddr_un address{};
    address.sun_family = AF_UNIX;
    std::copy(name.begin(), name.end(), address.sun_path + 1);
    const auto length = static_cast<socklen_t>(offsetof(sockaddr_un, sun_path) + 1 + name.size());
    if (::bind(handle, reinterpret_cast<const sockaddr*>(&address), length) == 0) return Presence(handle);
    const bool taken = errno == EADDRINUSE;
    ::close(handle);
    if (taken) return std::nullopt;
    return Presence(-1);
}

Presence::Presence(Presence&& other) noexcept : handle_(std::exchange(other.handle_, -1)) {}

Presence& Presence::operator=(Presence&& other) noexcept {
    std::swap(handle_, other.handle_);
    return *this;
}

Presence::~Presence() {
    if (handle_ >= 0) ::close(handle_);
}

} // namespace vic
