#include "store/beside.hpp"

#include "base/error.hpp"

namespace vic::store {

void copy_beside(const fs::path& from, const fs::path& to) {
    for (const char* name : {"kits", "plans"}) {
        const fs::path folder = from / name;
        if (fs::symlink_status(folder).type() != fs::file_type::directory) continue;
        try {
            for (const auto& entry : fs::recursive_directory_iterator(folder)) {
                if (entry.symlink_status().type() != fs::file_type::regular) continue;
                const fs::path target = to / entry.path().lexically_relative(from);
                fs::create_directories(target.parent_path());
                fs::copy_file(entry.path(), target, fs::copy_options::skip_existing);
            }
        } catch (const fs::filesystem_error& e) {
            throw InputError(say("It cannot be copied: %1", e.code().message()), folder.string(), "",
                             "Check the free space and who may write there");
        }
    }
}

} // namespace vic::store
