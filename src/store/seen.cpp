#include "store/seen.hpp"

#include "base/error.hpp"
#include "base/hash.hpp"

namespace vic::store {

Seen::Seen(const Seen& other) {
    const std::lock_guard lock(other.guard_);
    files_ = other.files_;
}

Seen& Seen::operator=(const Seen& other) {
    if (this == &other) return *this;
    const std::scoped_lock lock(guard_, other.guard_);
    files_ = other.files_;
    return *this;
}

Seen::Bytes Seen::of(std::string_view bytes) { return {bytes.size(), hash_of(bytes)}; }

void Seen::note(const std::string& relative, std::string_view bytes) {
    const Bytes now = of(bytes);
    const std::lock_guard lock(guard_);
    files_[relative] = now;
}

void Seen::forget(const std::string& relative) {
    const std::lock_guard lock(guard_);
    files_.erase(relative);
}

std::vector<std::string> Seen::changed(const fs::path& dir) const {
    std::map<std::string, Bytes> files;
    {
        const std::lock_guard lock(guard_);
        files = files_;
    }
    std::vector<std::string> out;
    for (const auto& [name, seen] : files) {
        std::error_code trouble;
        const fs::path file = dir / name;
        const auto size = fs::file_size(file, trouble);
        bool same = !trouble && size == seen.size;
        try {
            if (same) same = of(read_file(inside(dir, name, dir.string(), ""))) == seen;
        } catch (const InputError&) {
            same = false;
        }
        if (!same) out.push_back(name);
    }
    return out;
}

std::uint64_t Seen::mark() const {
    const std::lock_guard lock(guard_);
    std::string all;
    for (const auto& [name, bytes] : files_)
        all += name + '\n' + std::to_string(bytes.size) + ' ' + std::to_string(bytes.hash) + '\n';
    return hash_of(all);
}

std::vector<std::string> Seen::names() const {
    const std::lock_guard lock(guard_);
    std::vector<std::string> out;
    for (const auto& [name, bytes] : files_) out.push_back(name);
    return out;
}

} // namespace vic::store
