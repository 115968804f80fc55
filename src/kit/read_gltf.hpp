// glTF 2.0 (https://registry.khronos.org/glTF/specs/2.0/), as .glb or .gltf.
#pragma once

#include "base/files.hpp"
#include "kit/body.hpp"

namespace vic::kit {

// The pieces of a file: the nodes of its scene, each with all that hangs below it, but for a single node without a mesh
// that only holds the others. A piece's own turn and scale count, where it stands in the scene does not. What moves or
// deforms is read as it rests.
//
// Throws InputError naming the file and the place in it for what is no glTF 2.0, is damaged or cut off, needs an
// extension that is not known here, refers to files outside its folder or through links, hangs together in a ring,
// has numbers that are none or lie beyond the limits of body.hpp. Pictures that are missing or of another kind than PNG
// or JPEG are told among the doubts.
KitFile read_gltf(const fs::path& file);
// The same of bytes; `folder` is where files lie that they refer to.
KitFile gltf_from(std::string_view bytes, const fs::path& folder, const std::string& file);

} // namespace vic::kit
