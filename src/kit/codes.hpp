// What numbers in the names of pieces mean. Only for src/kit.
#pragma once

#include <vector>

#include "kit/read_kit.hpp"

namespace vic::kit {

// Of pieces whose couplings are read: their codes, with the reasons. `meshes` are as they are read, without their
// shift.
void read_codes(const std::vector<Body>& bodies, const std::vector<Mesh>& meshes, const Told& told, KitReading& out);

} // namespace vic::kit
