#include "store/pack_folder.hpp"

#include <algorithm>
#include <cctype>
#include <cstdint>
#include <map>
#include <optional>
#include <system_error>
#include <utility>

#include "base/error.hpp"

namespace vic::store {

namespace {

constexpr std::size_t kMostText = 1U << 16; // bytes of a licence file that are looked at
constexpr std::size_t kMostLine = 400;      // and of one of its lines

std::string lower(std::string text) {
    std::transform(text.begin(), text.end(), text.begin(),
                   [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    return text;
}

// The sizes in the head of a PNG: the signature, then the chunk IHDR with two big-endian numbers (PNG, 2nd edition,
// 11.2.2).
std::optional<Size> png_size(const fs::path& file) {
    const std::string head = read_beginning(file, 24);
    if (head.size() < 24 || head.compare(0, 8, "\x89PNG\r\n\x1a\n") != 0 || head.compare(12, 4, "IHDR") != 0)
        return std::nullopt;
    const auto number = [&](std::size_t at) {
        std::uint32_t n = 0;
        for (std::size_t i = 0; i < 4; ++i) n = n << 8 | static_cast<unsigned char>(head[at + i]);
        return n;
    };
    const std::uint32_t w = number(16), h = number(20);
    if (w == 0 || h == 0 || w > 1U << 20 || h > 1U << 20) return std::nullopt;
    return Size{static_cast<int>(w), static_cast<int>(h)};
}

bool tells_of_rights(const fs::path& file) {
    const std::string name = lower(file.stem().string());
    const std::string ending = lower(file.extension().string());
    if (!ending.empty() && ending != ".txt" && ending != ".md") return false;
    for (const char* word : {"licen", "readme", "read me", "read_me", "credit", "copying", "attribution"})
        if (name.find(word) != std::string::npos) return true;
    return false;
}

std::string trimmed(const std::string& text) {
    const char* space = " \t\r\n*#>-_\"'";
    const auto from = text.find_first_not_of(space);
    if (from == std::string::npos) return {};
    return text.substr(from, text.find_last_not_of(space) - from + 1);
}

// " 4.0" where the text begins with a version, after a word or two; else nothing.
std::string version_in(const std::string& text) {
    for (std::size_t i = 0; i + 2 < text.size() && text[i] != '\n'; ++i)
        if (text[i] >= '1' && text[i] <= '4' && text[i + 1] == '.' && text[i + 2] >= '0' && text[i + 2] <= '9')
            return " " + text.substr(i, 3);
    return {};
}

// Who is named where a line begins as such lines do.
std::string author_in(const std::string& line) {
    const std::string low = lower(line);
    for (const char* word : {"author", "artist", "created by", "made by", "drawn by", "art by", "graphics by",
                             "sprites by", "tiles by", "copyright (c)", "copyright", "(c)", "\xC2\xA9"}) {
        if (!low.starts_with(word)) continue;
        std::string name = line.substr(std::string(word).size());
        // Years and colons come before the name.
        const auto from = name.find_first_not_of(" \t:,-0123456789");
        if (from == std::string::npos) return {};
        name = name.substr(from);
        if (lower(name).starts_with("by ")) name = name.substr(3);
        name = name.substr(0, name.find_first_of("(<|,;"));
        if (const auto end = name.find(". "); end != std::string::npos) name.resize(end);
        name = trimmed(name);
        return name.size() >= 2 && name.size() <= 80 ? name : std::string();
    }
    return {};
}

// The first address in a line that is not that of a licence.
std::string address_in(const std::string& line) {
    for (std::size_t at = 0; (at = line.find("http", at)) != std::string::npos; ++at) {
        std::string rest = line.substr(at, line.find_first_of(" \t)>]\"'", at) - at);
        if (!rest.starts_with("http://") && !rest.starts_with("https://")) continue;
        const bool licence =
            rest.find("creativecommons.org") != std::string::npos || rest.find("gnu.org") != std::string::npos;
        if (!licence && rest.size() > 11 && rest.size() <= 200) return rest;
    }
    return {};
}

// What is empty in the one is taken from the other.
level::Credits filled(level::Credits a, const level::Credits& b) {
    if (a.author.empty()) a.author = b.author;
    if (a.licence.empty()) a.licence = b.licence;
    if (a.source.empty()) a.source = b.source;
    if (a.note.empty()) a.note = b.note;
    return a;
}

struct Walk {
    PackFolder out;

    void folder(const fs::path& dir, const std::string& within, level::Credits credits, int depth) {
        std::vector<fs::path> files, folders;
        std::error_code trouble;
        for (fs::directory_iterator it(dir, trouble), end; !trouble && it != end; it.increment(trouble)) {
            const auto status = it->symlink_status(trouble);
            if (trouble) break;
            if (fs::is_directory(status))
                folders.push_back(it->path());
            else if (fs::is_regular_file(status))
                files.push_back(it->path());
        }
        std::sort(files.begin(), files.end());
        std::sort(folders.begin(), folders.end());
        level::Credits here;
        for (const fs::path& file : files)
            if (tells_of_rights(file)) here = filled(here, credits_in(read_beginning(file, kMostText)));
        credits = filled(here, credits);
        for (const fs::path& file : files) {
            if (lower(file.extension().string()) != ".png") continue;
            const auto size = png_size(file);
            if (!size) continue;
            if (out.pictures.size() >= kMostPackPictures) {
                out.more = true;
                return;
            }
            out.pictures.push_back({file, within, file.stem().string(), *size, credits});
        }
        if (depth >= kMostPackDepth) {
            out.more = out.more || !folders.empty();
            return;
        }
        for (const fs::path& sub : folders) {
            const std::string name = sub.filename().string();
            if (name.starts_with(".")) continue;
            std::string inner = within;
            if (!inner.empty()) inner += '/';
            inner += name;
            folder(sub, inner, credits, depth + 1);
        }
    }
};

} // namespace

bool PackFolder::has_folders() const {
    return std::any_of(pictures.begin(), pictures.end(), [](const PackPicture& p) { return !p.folder.empty(); });
}

level::Credits credits_in(const std::string& text) {
    level::Credits out;
    const std::string all = lower(text);
    // The most special first; what is there of versions is read behind the name.
    const std::pair<const char*, const char*> names[] = {
        {"by-nc-sa", "CC BY-NC-SA"},
        {"by-nc-nd", "CC BY-NC-ND"},
        {"by-nc", "CC BY-NC"},
        {"by-nd", "CC BY-ND"},
        {"by-sa", "CC BY-SA"},
        {"cc0", "CC0"},
        {"cc-0", "CC0"},
        {"cc-by", "CC BY"},
        {"cc by", "CC BY"},
        {"creative commons zero", "CC0"},
        {"creative commons attribution-sharealike", "CC BY-SA"},
        {"creative commons attribution", "CC BY"},
        {"public domain", "Public domain"},
        {"gnu general public license", "GPL"},
        {"gpl", "GPL"},
        {"sil open font license", "OFL"},
        {"mit license", "MIT"},
        {"oga-by", "OGA-BY"},
    };
    for (const auto& [word, name] : names) {
        const auto at = all.find(word);
        if (at == std::string::npos) continue;
        out.licence = name;
        const bool has_versions = out.licence.starts_with("CC BY") || out.licence == "CC0" || out.licence == "GPL";
        if (has_versions) out.licence += version_in(all.substr(at + std::string(word).size(), 32));
        break;
    }
    for (std::size_t from = 0; from < text.size();) {
        const std::size_t end = std::min(text.find('\n', from), text.size());
        const std::string line = trimmed(text.substr(from, std::min(end - from, kMostLine)));
        if (out.author.empty()) out.author = author_in(line);
        if (out.source.empty()) out.source = address_in(line);
        from = end + 1;
    }
    return out;
}

PackFolder read_pack(const fs::path& folder) {
    std::error_code trouble;
    fs::directory_iterator probe(folder, trouble);
    if (trouble)
        throw InputError(say("The folder cannot be read (%1)", Text::verbatim(trouble.message())), folder.string(), "",
                         "Check its rights, or choose another");
    Walk walk;
    walk.out.name = folder.filename().string();
    walk.folder(folder, {}, {}, 0);
    return walk.out;
}

} // namespace vic::store
