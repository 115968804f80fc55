// Wavefront OBJ: a text of points and polygons, with finishes in MTL files beside it.
#pragma once

#include "base/files.hpp"
#include "kit/body.hpp"

namespace vic::kit {

// The pieces of a file: what follows an `o`, or where there is none a `g`; else all of it is one. Its numbers are taken
// as metres and y as up; whoever made it may have meant otherwise, see read_kit(). Polygons with more than three
// corners are cut into triangles about their first corner. Normals, curves and everything else are left out.
//
// Throws InputError naming the file and the line for what is no OBJ or lies beyond the limits of body.hpp. Finishes and
// pictures that are missing are told among the doubts.
KitFile read_obj(const fs::path& file);
// The same of bytes; `folder` is where files lie that they refer to.
KitFile obj_from(std::string_view bytes, const fs::path& folder, const std::string& file);

} // namespace vic::kit
