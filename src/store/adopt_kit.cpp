#include "store/adopt_kit.hpp"

#include "base/error.hpp"

namespace vic::store {

std::string adopt_kit(const fs::path& dir, const fs::path& path, const std::vector<fs::path>& files) {
    std::error_code error;
    const bool folder = fs::is_directory(path, error);
    const fs::path base = fs::absolute(folder ? path : path.parent_path()).lexically_normal();
    const fs::path kits = inside(dir, "kits", dir.string(), {});
    const fs::path own = fs::absolute(kits).lexically_normal();
    const fs::path known = base.lexically_relative(own);
    if (!known.empty() && *known.begin() != ".." && known != ".")
        return folder ? ("kits" / known).string() : ("kits" / known / path.filename()).string();
    const std::string name = slug((folder ? path.filename() : path.stem()).string(), "kit");
    fs::path target;
    std::string relative;
    for (int n = 1; target.empty(); ++n) {
        relative = "kits/" + name + (n == 1 ? "" : "-" + std::to_string(n));
        const fs::path wanted = inside(dir, relative, dir.string(), {});
        if (!fs::exists(fs::symlink_status(wanted, error))) target = wanted;
    }
    try {
        for (const fs::path& file : files) {
            const fs::path within = fs::absolute(file).lexically_normal().lexically_relative(base);
            if (within.empty() || *within.begin() == "..")
                throw InputError("A file of the kit lies outside its folder", file.string(), {},
                                 "Put it beside the others");
            fs::create_directories((target / within).parent_path(), error);
            write_file(target / within, read_file(file, kit::kMostKitBytes));
        }
    } catch (const InputError&) {
        fs::remove_all(target, error);
        throw;
    }
    return folder ? relative : relative + "/" + path.filename().string();
}

} // namespace vic::store
