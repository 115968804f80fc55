#include "base/files.hpp"

#include <fcntl.h>
#include <unistd.h>

#include <cerrno>
#include <cstring>
#include <fstream>

#include "base/error.hpp"

namespace vic {

std::string read_file(const fs::path& file, std::uintmax_t limit) {
    std::error_code trouble;
    const auto status = fs::status(file, trouble);
    if (trouble || status.type() == fs::file_type::not_found)
        throw InputError("There is no such file", file.string(), "", "Check the path");
    if (fs::is_directory(status))
        throw InputError("This is a folder, not a file", file.string(), "", "Name the file itself");
    const auto size = fs::file_size(file, trouble);
    if (!trouble && size > limit)
        throw InputError(say("The file is too large: %1 bytes", size), file.string(), "",
                         say("At most %1 bytes are read", limit));
    std::ifstream in(file, std::ios::binary);
    if (!in) throw InputError("The file cannot be opened", file.string(), "", "Check who may read it");
    std::string bytes;
    bytes.resize(trouble ? 0 : size);
    in.read(bytes.data(), static_cast<std::streamsize>(bytes.size()));
    if (in.bad() || static_cast<std::size_t>(in.gcount()) != bytes.size())
        throw InputError("The file could not be read to its end", file.string(), "", "Check the disk and try again");
    return bytes;
}

void write_file(const fs::path& file, std::string_view bytes) {
    const fs::path temporary = file.string() + ".part";
    const auto failed = [&](const Text& doing) {
        const std::string reason = std::strerror(errno);
        std::error_code ignored;
        fs::remove(temporary, ignored);
        throw InputError(say("%1: %2", doing, reason), file.string(), "",
                         "Check the free space and who may write there");
    };
    const int out = ::open(temporary.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, 0644);
    if (out < 0) failed("The file cannot be written");
    std::size_t done = 0;
    while (done < bytes.size()) {
        const ssize_t n = ::write(out, bytes.data() + done, bytes.size() - done);
        if (n < 0 && errno == EINTR) continue;
        if (n < 0) {
            ::close(out);
            failed("The file cannot be written");
        }
        done += static_cast<std::size_t>(n);
    }
    if (::fsync(out) != 0) {
        ::close(out);
        failed("The file cannot be flushed");
    }
    ::close(out);
    if (::rename(temporary.c_str(), file.c_str()) != 0) failed("The file cannot be put in place");
}

fs::path inside(const fs::path& root, const std::string& relative, const std::string& said_in, const Text& where) {
    const auto refuse = [&](const Text& why) {
        throw InputError(why, said_in, where, "Paths in a project are relative and stay inside its folder");
    };
    const fs::path path(relative);
    if (relative.empty()) refuse("A path is empty");
    if (path.is_absolute()) refuse(say("The path \"%1\" is absolute", relative));
    for (const auto& part : path)
        if (part == "..") refuse(say("The path \"%1\" leads upwards", relative));
    fs::path whole = root / path;
    std::error_code trouble;
    const fs::path real_root = fs::weakly_canonical(root, trouble);
    const fs::path real = fs::weakly_canonical(whole, trouble);
    const auto [end, rest] = std::mismatch(real_root.begin(), real_root.end(), real.begin(), real.end());
    if (trouble || end != real_root.end()) refuse(say("The path \"%1\" follows a link out of the project", relative));
    return whole;
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
