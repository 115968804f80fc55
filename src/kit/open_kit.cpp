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

namespace {

struct Reach {
    Vec least{1e9, 1e9, 1e9}, most{-1e9, -1e9, -1e9};
};
Reach reach_of(const Body& body) {
    Reach out;
    for (const Vec& p : body.mesh.points) {
        out.least = {std::min(out.least.x, p.x), std::min(out.least.y, p.y), std::min(out.least.z, p.z)};
        out.most = {std::max(out.most.x, p.x), std::max(out.most.y, p.y), std::max(out.most.z, p.z)};
    }
    return out;
}

constexpr double kTouch = 0.02;         // metres
constexpr std::size_t kMostParts = 512; // of a thing that is proposed as one

bool looks_whole(const KitFile& file) {
    if (file.bodies.size() < 2 || file.bodies.size() > kMostParts) return false;
    std::vector<Reach> stand;
    bool apart = false, far = false;
    for (const Body& body : file.bodies) {
        Reach r = reach_of(body);
        // Up and down a piece may lie anywhere, so that which way is up does not matter: two of three ways count.
        const int beside = (r.least.x > kTouch || r.most.x < -kTouch ? 1 : 0) +
                           (r.least.y > kTouch || r.most.y < -kTouch ? 1 : 0) +
                           (r.least.z > kTouch || r.most.z < -kTouch ? 1 : 0);
        const bool up_alone = beside == 1 && (r.least.y > kTouch || r.most.y < -kTouch);
        far = far || (beside > 0 && !up_alone);
        apart = apart || dot(body.at - file.bodies[0].at, body.at - file.bodies[0].at) > kTouch * kTouch;
        r.least = r.least + body.at;
        r.most = r.most + body.at;
        stand.push_back(r);
    }
    if (!apart && !far) return false;
    const auto meet = [](const Reach& a, const Reach& b) {
        return a.least.x <= b.most.x + kTouch && b.least.x <= a.most.x + kTouch && a.least.y <= b.most.y + kTouch &&
               b.least.y <= a.most.y + kTouch && a.least.z <= b.most.z + kTouch && b.least.z <= a.most.z + kTouch;
    };
    std::vector<std::size_t> reached{0};
    std::vector<char> seen(stand.size(), 0);
    seen[0] = 1;
    for (std::size_t i = 0; i < reached.size(); ++i)
        for (std::size_t k = 0; k < stand.size(); ++k)
            if (!seen[k] && meet(stand[reached[i]], stand[k])) {
                seen[k] = 1;
                reached.push_back(k);
            }
    return reached.size() == stand.size();
}

// All bodies of a file as one, where they stand.
void make_whole(KitFile& file, const std::string& name) {
    if (file.bodies.size() < 2) return;
    Body all;
    all.name = name;
    const bool drawn = std::all_of(file.bodies.begin(), file.bodies.end(), [](const Body& b) {
        return b.mesh.points.empty() || b.mesh.uv.size() == b.mesh.points.size();
    });
    for (Body& body : file.bodies) {
        const auto first = static_cast<std::uint32_t>(all.mesh.points.size());
        const auto node = static_cast<std::uint16_t>(all.nodes.size());
        for (const Vec& p : body.mesh.points) all.mesh.points.push_back(p + body.at);
        if (drawn || !body.mesh.uv.empty()) {
            all.mesh.uv.resize(first); // those before had none
            all.mesh.uv.insert(all.mesh.uv.end(), body.mesh.uv.begin(), body.mesh.uv.end());
        }
        for (std::array<std::uint32_t, 3> t : body.mesh.triangles) {
            for (std::uint32_t& corner : t) corner += first;
            all.mesh.triangles.push_back(t);
        }
        all.mesh.finish.insert(all.mesh.finish.end(), body.mesh.finish.begin(), body.mesh.finish.end());
        for (const std::uint16_t n : body.mesh.node) all.mesh.node.push_back(static_cast<std::uint16_t>(node + n));
        all.nodes.insert(all.nodes.end(), body.nodes.begin(), body.nodes.end());
    }
    if (!all.mesh.uv.empty()) all.mesh.uv.resize(all.mesh.points.size());
    file.bodies.clear();
    file.bodies.push_back(std::move(all));
}

// Told, or as most files look that have several parts.
void settle_parts(std::vector<std::pair<fs::path, KitFile>>& files, std::optional<bool> told, KitFile& out) {
    std::size_t several = 0, look = 0;
    for (const auto& [path, one] : files) {
        several += one.bodies.size() > 1 ? 1 : 0;
        look += looks_whole(one) ? 1 : 0;
    }
    out.parts = several > 0;
    out.whole = told.value_or(several > 0 && 2 * look > several);
    if (out.whole)
        for (auto& [path, one] : files) make_whole(one, path.stem().string());
}

} // namespace

bool is_kit_file(const fs::path& file) {
    const std::string end = ending(file);
    return end == ".glb" || end == ".gltf" || end == ".obj";
}

namespace {

KitFile open_folder(const fs::path& path, std::optional<bool> whole) {
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
    std::size_t triangles = 0, finishes = 0, bodies = 0;
    std::vector<std::pair<fs::path, KitFile>> read;
    for (const fs::path& file : files) {
        const std::string name = file.lexically_relative(path).string();
        try {
            KitFile one = read_one(file);
            for (const Body& b : one.bodies) triangles += b.mesh.triangles.size();
            finishes += one.finishes.size();
            bodies += one.bodies.size();
            if (triangles > kMostTriangles || finishes > 60'000 || bodies > kMostBodies)
                throw InputError("There is more in the folder than is read", path.string(), Text::verbatim(name),
                                 "Drop a folder with one kit in it");
            read.emplace_back(file, std::move(one));
        } catch (const InputError& e) {
            if (e.file == path.string()) throw;
            out.doubts.push_back(say("%1 is left out: %2", name, e.problem));
        }
    }
    settle_parts(read, whole, out);
    for (auto& [file, one] : read) {
        const std::string folder = file.parent_path().filename().string();
        if (file.parent_path() != path && is_number(folder))
            for (Body& b : one.bodies) b.name = folder;
        append(out, std::move(one), file.lexically_relative(path).string());
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

namespace {

KitFile open_file(const fs::path& path, std::optional<bool> whole) {
    std::vector<std::pair<fs::path, KitFile>> read;
    read.emplace_back(path, read_one(path));
    KitFile how;
    settle_parts(read, whole, how);
    KitFile out = std::move(read.front().second);
    out.parts = how.parts;
    out.whole = how.whole;
    return out;
}

} // namespace

KitFile open_kit(const fs::path& path, std::optional<bool> whole) {
    std::error_code error;
    KitFile out = fs::is_directory(path, error) ? open_folder(path, whole) : open_file(path, whole);
    name_apart(out.bodies);
    std::sort(out.files.begin(), out.files.end());
    out.files.erase(std::unique(out.files.begin(), out.files.end()), out.files.end());
    return out;
}

} // namespace vic::kit
