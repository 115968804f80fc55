// A number that stands for bytes: to notice changes by chance and mistake, not to withstand an attacker.
#pragma once

#include <cstdint>
#include <string_view>

namespace vic {

// XXH3 of 64 bits (https://github.com/Cyan4973/xxHash). The same on every machine, so it may stand in files.
std::uint64_t hash_of(std::string_view bytes);

} // namespace vic
