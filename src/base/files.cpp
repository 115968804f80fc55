#include "base/files.hpp"

#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <chrono>
#include <cstdio>
#include <cstring>
#include <random>

#include "base/error.hpp"

namespace vic {

namespace {

// Closes what was opened, however its function is left.
struct Handle {
    explicit Handle(int opened) : number(opened) {}
    ~Handle() {
        if (number >= 0) ::close(number);
    }
    Handle(const Handle&) = delete;
    Handle& operator=(const Handle&) = delete;
    int number;
};

[[noreturn]] void cannot_open(const fs::path& file, int why) {
    if (why == ENOENT || why == ENOTDIR) throw InputError("There is no such file", file.string(), "", "Check the path");
    if (why == EACCES || why == EPERM)
        throw InputError("The file may not be read", file.string(), "", "Check who may read it");
    throw InputError(say("The file cannot be opened: %1", std::strerror(why)), file.string(), "",
                     "Check the disk and try again");
}

// A name beside `file` that nobody has. Nobody can have put a link there either: it is opened so that it is new.
int open_beside(const fs::path& file, fs::path& name) {
    std::random_device random;
    for (int tries = 0; tries < 100; ++tries) {
        char mark[20];
        std::snprintf(mark, sizeof mark, ".%08x%08x", static_cast<unsigned>(random()), static_cast<unsigned>(random()));
        name = file.string() + mark + ".part";
        const int out = ::open(name.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_NOFOLLOW | O_CLOEXEC, 0644);
        if (out >= 0 || errno != EEXIST) return out;
    }
    return -1;
}

} // namespace

std::string read_file(const fs::path& file, std::uintmax_t limit) {
    // Opening a pipe would wait for whoever writes into it.
    const Handle in(::open(file.c_str(), O_RDONLY | O_NONBLOCK | O_CLOEXEC));
    if (in.number < 0) cannot_open(file, errno);
    struct stat found {};
    if (::fstat(in.number, &found) != 0) cannot_open(file, errno);
    if (S_ISDIR(found.st_mode))
        throw InputError("This is a folder, not a file", file.string(), "", "Name the file itself");
    if (!S_ISREG(found.st_mode))
        throw InputError("This is no file but a pipe, a device or a socket", file.string(), "", "Name a real file");
    const auto size = static_cast<std::uintmax_t>(found.st_size);
    if (size > limit)
        throw InputError(say("The file is too large: %1 bytes", size), file.string(), "",
                         say("At most %1 bytes are read", limit));
    std::string bytes(size, '\0');
    for (std::size_t done = 0; done < bytes.size();) {
        const ssize_t n = ::read(in.number, bytes.data() + done, bytes.size() - done);
        if (n < 0 && errno == EINTR) continue;
        if (n <= 0)
            throw InputError("The file could not be read to its end", file.string(), "",
                             "Check the disk and try again");
        done += static_cast<std::size_t>(n);
    }
    return bytes;
}

std::string read_beginning(const fs::path& file, std::size_t most) {
    const Handle in(::open(file.c_str(), O_RDONLY | O_NONBLOCK | O_CLOEXEC | O_NOFOLLOW));
    struct stat found {};
    if (in.number < 0 || ::fstat(in.number, &found) != 0 || !S_ISREG(found.st_mode)) return {};
    std::string bytes(most, '\0');
    std::size_t done = 0;
    while (done < most) {
        const ssize_t n = ::read(in.number, bytes.data() + done, most - done);
        if (n < 0 && errno == EINTR) continue;
        if (n <= 0) break;
        done += static_cast<std::size_t>(n);
    }
    bytes.resize(done);
    return bytes;
}

void write_file(const fs::path& file, std::string_view bytes) {
    fs::path temporary;
    const auto failed = [&](const Text& doing, int why) {
        std::error_code ignored;
        if (!temporary.empty()) fs::remove(temporary, ignored);
        throw InputError(say("%1: %2", doing, std::strerror(why)), file.string(), "",
                         "Check the free space and who may write there");
    };
    const Handle out(open_beside(file, temporary));
    if (out.number < 0) {
        const int why = errno;
        temporary.clear();
        failed("The file cannot be written", why);
    }
    std::size_t done = 0;
    while (done < bytes.size()) {
        const ssize_t n = ::write(out.number, bytes.data() + done, bytes.size() - done);
        if (n < 0 && errno == EINTR) continue;
        if (n < 0) failed("The file cannot be written", errno);
        done += static_cast<std::size_t>(n);
    }
    if (::fsync(out.number) != 0) failed("The file cannot be flushed", errno);
    if (::rename(temporary.c_str(), file.c_str()) != 0) failed("The file cannot be put in place", errno);
}

fs::path inside(const fs::path& root, const std::string& relative, const std::string& said_in, const Text& where) {
    const auto refuse = [&](const Text& why) {
        throw InputError(why, said_in, where, "Paths in a project are relative and stay inside its folder");
    };
    const fs::path path(relative);
    if (relative.empty()) refuse("A path is empty");
    if (relative.find('\0') != std::string::npos) refuse("A path has a NUL in it");
    if (path.is_absolute()) refuse(say("The path \"%1\" is absolute", relative));
    for (const auto& part : path)
        if (part == "..") refuse(say("The path \"%1\" leads upwards", relative));
    // Links are refused wherever they lead: what is copied, sent or unpacked with a project is its folder alone.
    fs::path whole = root;
    for (const auto& part : path) {
        whole /= part;
        std::error_code trouble;
        const fs::file_status status = fs::symlink_status(whole, trouble);
        if (status.type() == fs::file_type::not_found) break;
        if (status.type() == fs::file_type::symlink)
            throw InputError(say("\"%1\" is a link, and projects hold none", part.string()), whole.string(), where,
                             "Put the file or folder itself in its place");
        if (trouble)
            throw InputError(say("This cannot be looked at: %1", trouble.message()), whole.string(), where,
                             "Check who may read the project's folder");
    }
    return root / path;
}

void remove_left_parts(const fs::path& folder) {
    constexpr std::string_view end = ".part";
    constexpr std::size_t mark = 17; // a dot and sixteen digits
    std::error_code trouble;
    for (fs::directory_iterator at(folder, trouble), last; !trouble && at != last; at.increment(trouble)) {
        const std::string name = at->path().filename().string();
        if (!name.ends_with(end) || name.size() <= mark + end.size()) continue;
        const std::string_view digits = std::string_view(name).substr(name.size() - end.size() - mark, mark);
        if (digits[0] != '.' || digits.substr(1).find_first_not_of("0123456789abcdef") != std::string_view::npos)
            continue;
        std::error_code unknown;
        if (!fs::is_regular_file(at->symlink_status(unknown))) continue;
        const auto age = fs::file_time_type::clock::now() - fs::last_write_time(at->path(), unknown);
        if (!unknown && age > std::chrono::hours(1)) fs::remove(at->path(), unknown);
    }
}

void flush_folder(const fs::path& folder) {
    const int handle = ::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC);
    if (handle < 0) return;
    ::fsync(handle);
    ::close(handle);
}

std::string slug(std::string_view name, std::string_view fallback) {
    std::string out;
    for (const char c : name) {
        const bool digit = c >= '0' && c <= '9';
        const bool lower = c >= 'a' && c <= 'z';
        const bool upper = c >= 'A' && c <= 'Z';
        if (digit || lower)
            out += c;
        else if (upper)
            out += static_cast<char>(c - 'A' + 'a');
        else if (!out.empty() && out.back() != '-')
            out += '-';
        if (out.size() >= 48) break;
    }
    while (!out.empty() && out.back() == '-') out.pop_back();
    return out.empty() ? std::string(fallback) : out;
}

} // namespace vic
