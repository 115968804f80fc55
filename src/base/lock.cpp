#include "base/lock.hpp"

#include <fcntl.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <map>
#include <mutex>
#include <thread>
#include <utility>

#include "base/error.hpp"

namespace vic {

struct FolderLock::Held {
    int handle = -1;
    For what = For::reading;
    int times = 0;
    pid_t by = 0; // the thread that holds it for writing
};

namespace {

using Key = std::pair<dev_t, ino_t>;

std::mutex guard;

} // namespace

FolderLock::FolderLock(const std::filesystem::path& folder, For what, std::chrono::milliseconds patience) {
    static std::map<Key, Held> all; // of this program; entries stay
    const int handle = ::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC);
    struct stat status {};
    if (handle < 0 || ::fstat(handle, &status) != 0) {
        if (handle >= 0) ::close(handle);
        return;
    }
    const auto end = std::chrono::steady_clock::now() + patience;
    for (;;) {
        {
            const std::lock_guard lock(guard);
            Held& held = all[{status.st_dev, status.st_ino}];
            const bool serves = held.times > 0 && (held.what == For::writing ? held.by == ::gettid()
                                                                             : what == For::reading);
            const bool free = held.times == 0;
            const int asked = (what == For::writing ? LOCK_EX : LOCK_SH) | LOCK_NB;
            if (serves || (free && (::flock(handle, asked) == 0 || errno != EWOULDBLOCK))) {
                if (serves) {
                    ::close(handle);
                } else {
                    held.handle = handle;
                    held.what = what;
                    held.by = ::gettid();
                }
                ++held.times;
                held_ = &held;
                return;
            }
        }
        if (std::chrono::steady_clock::now() >= end) break;
        std::this_thread::sleep_for(std::chrono::milliseconds(10));
    }
    ::close(handle);
    throw InputError("Another program is at work on this project", folder.string(), "",
                     "Wait until it is done, then try again");
}

FolderLock::~FolderLock() {
    if (!held_) return;
    const std::lock_guard lock(guard);
    if (--held_->times > 0) return;
    ::close(held_->handle); // with the last handle the lock goes
    held_->handle = -1;
}

} // namespace vic
