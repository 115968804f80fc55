// A kit as it is dropped: one file, or a folder of them.
#pragma once

#include <optional>

#include "base/files.hpp"
#include "kit/body.hpp"

namespace vic::kit {

// Whether a name ends as those of files do that are read: .glb, .gltf or .obj.
bool is_kit_file(const fs::path& file);

// Whether there is anything of a kit: such a file, or a folder in which one lies, or in one of its folders.
bool is_kit(const fs::path& path);

// The pieces of a file, or of all that lie in a folder and the folders in it, in the order of their names. Of a folder
// those in folders that are named by a number alone go by it ("17/b.glb" is a variant of 17). Throws InputError for
// what cannot be read and where there is nothing to read; in a folder files that cannot be read are told among the
// doubts, as long as one can. Links in it are not followed.
//
// `whole`: whether each file is one piece, with its parts where they stand in it; else as proposed. Own method: it is
// where the parts hang together as they stand, and either stand apart from one another's origins or are drawn far from
// their own. Pieces of a kit are drawn about their own origin, and stand apart or all at one place.
KitFile open_kit(const fs::path& path, std::optional<bool> whole = std::nullopt);

inline constexpr std::size_t kMostKitFiles = 1024;

} // namespace vic::kit
