// Cells of a byte each as the codes that tracing asks for.
#pragma once

#include <cstdint>

#include "outline/solid.hpp"

// The compiler may take many at once, so that it is tracing that is timed and not what feeds it.
__attribute__((optimize("O3"))) inline void widen(const std::uint8_t* from, int count, vic::outline::SolidCode* to) {
    for (int i = 0; i < count; ++i) to[i] = from[i];
}
