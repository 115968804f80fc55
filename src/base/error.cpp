#include "base/error.hpp"

#include <filesystem>
#include <new>

namespace vic {

InputError as_input_error(const std::exception& trouble) {
    if (const auto* known = dynamic_cast<const InputError*>(&trouble)) return *known;
    if (const auto* file = dynamic_cast<const std::filesystem::filesystem_error*>(&trouble))
        return {say("The system refuses: %1", file->code().message()), file->path1().string(), "",
                "Look whether the file or folder is there and may be read and written"};
    if (dynamic_cast<const std::bad_alloc*>(&trouble))
        return {"There is not enough memory for this", "", "",
                "Nothing was changed. Close other programs, or do it in smaller parts"};
    return {say("Something went wrong: %1", trouble.what()), "", "",
            "Nothing was changed. Save, and tell the makers of Vicinum what you did"};
}

} // namespace vic
