#include "base/hash.hpp"

#include <xxhash.h>

namespace vic {

std::uint64_t hash_of(std::string_view bytes) { return XXH3_64bits(bytes.data(), bytes.size()); }

} // namespace vic
