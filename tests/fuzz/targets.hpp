// What reads files that may come from anywhere, each as one function of bytes: for the fuzzer and for the test that
// reads the corpus again.
#pragma once

#include <string>
#include <vector>

namespace fuzz {

// project, level, cells, journal, sheet, plan, parcel, script, gltf, obj.
const std::vector<std::string>& targets();

// Reads the bytes as that; an error that is told is all right, anything else ends the program. What was read is used
// as the program would, and written and read once more. Whether it was accepted.
bool read(const std::string& target, const std::string& bytes);

// Something of that target that is accepted, to begin with.
std::string seed(const std::string& target);

} // namespace fuzz
