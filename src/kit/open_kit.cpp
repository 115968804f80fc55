#include "kit/open_kit.hpp"

#include <algorithm>
#include <cctype>
#include <map>
#include <utility>

#include "base/error.hpp"
#include "kit/read_gltf.hpp"
#include "kit/read_obj.hpp"

namespace vic::kit {

namespace {

std::string ending(const fs::path& file) {
    std::string out = file.extension().string();
    for (char& c : out) c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return out;
}

KitFile read_one(const fs::path& file) { return ending(file) == ".obj" ? read_obj(file) : read_gltf(file); }

bool is_number(const std::string& text) {
    return !text.empty() && std::all_of(text.begin(), text.end(), [](unsigned char c) { return std::isdigit(c) != 0; });
}

void append(KitFile& all, KitFile one, const std::string& file) {
    const auto finishes = static_cast<std::uint16_t>(all.finishes.size());
    const int pictures = static_cast<int>(all.pictures.size());
    for (Finish& f : one.finishes) {
        if (f.picture >= 0) f.picture += pictures;
        all.finishes.push_back(std::move(f));
    }
    for (Body& b : one.bodies) {
        for (std::uint16_t& f : b.mesh.finish) f = static_cast<std::uint16_t>(f + finishes);
        all.bodies.push_back(std::move(b));
    }
    for (Image& p : one.pictures) all.pictures.push_back(std::move(p));
    all.files.insert(all.files.end(), one.files.begin(), one.files.end());
    for (const Text& doubt : one.doubts) all.doubts.push_back(say("%1: %2", file, doubt));
}

} // namespace

bool is_kit_file(const fs::path& file) {
    const std::string end = ending(file);
    return end == ".glb" || end == ".gltf" || end == ".obj";
}

namespace {

KitFile open_folder(const fs::path& path) {
    std::error_code error;
    std::vector<fs::path> files;
    for (auto it = fs::recursive_directory_iterator(path, fs::directory_options::skip_permission_denied, error);
         !error && it != fs::recursive_directory_iterator(); it.increment(error)) {
        if (it.depth() >= 2) it.disable_recursion_pending();
        if (it->is_symlink(error)) {
            it.disable_recursion_pending();
            continue;
        }
        if (it->is_regular_file(error) && is_kit_file(it->path())) files.push_back(it->path());
        if (files.size() > kMostKitFiles)
            throw InputError(say("There are more than %1 files of pieces in the folder", kMostKitFiles), path.string(),
                             {}, "Drop a folder with one kit in it");
    }
    std::sort(files.begin(), files.end());
    KitFile out;
    std::size_t triangles = 0;
    for (const fs::path& file : files) {
        const std::string name = file.lexically_relative(path).string();
        try {
            KitFile one = read_one(file);
            const std::string folder = file.parent_path().filename().string();
            if (file.parent_path() != path && is_number(folder))
                for (Body& b : one.bodies) b.name = folder;
            for (const Body& b : one.bodies) triangles += b.mesh.triangles.size();
            if (triangles > kMostTriangles || out.finishes.size() + one.finishes.size() > 60'000 ||
                out.bodies.size() + one.bodies.size() > kMostBodies)
                throw InputError("There is more in the folder than is read", path.string(), Text::verbatim(name),
                                 "Drop a folder with one kit in it");
            append(out, std::move(one), name);
        } catch (const InputError& e) {
            if (e.file == path.string()) throw;
            out.doubts.push_back(say("%1 is left out: %2", name, e.problem));
        }
    }
    if (out.bodies.empty())
        throw InputError("There are no pieces in the folder", path.string(), {},
                         "Drop a folder with .glb, .gltf or .obj files");
    return out;
}

} // namespace

namespace {

// By their names pieces are found again: of several with one name the later ones get a number.
void name_apart(std::vector<Body>& bodies) {
    std::map<std::string, int> count;
    for (Body& b : bodies)
        if (const int n = ++count[b.name]; n > 1) b.key = b.name + " (" + std::to_string(n) + ")";
}

} // namespace

bool is_kit(const fs::path& path) {
    std::error_code error;
    if (!fs::is_directory(path, error)) return is_kit_file(path);
    constexpr int kLooked = 20'000; // entries; a folder that is larger is no kit
    int looked = 0;
    for (auto it = fs::recursive_directory_iterator(path, fs::directory_options::skip_permission_denied, error);
         !error && it != fs::recursive_directory_iterator() && ++looked < kLooked; it.increment(error)) {
        if (it.depth() >= 2 || it->is_symlink(error)) it.disable_recursion_pending();
        if (it->symlink_status(error).type() == fs::file_type::regular && is_kit_file(it->path())) return true;
    }
    return false;
}

KitFile open_kit(const fs::path& path) {
    std::error_code error;
    KitFile out = fs::is_directory(path, error) ? open_folder(path) : read_one(path);
    name_apart(out.bodies);
    std::sort(out.files.begin(), out.files.end());
    out.files.erase(std::unique(out.files.begin(), out.files.end()), out.files.end());
    return out;
}

} // namespace vic::kit
