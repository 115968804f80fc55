// What a program says to the system about its memory as it begins.
#pragma once

namespace vic {

// To be called once, first thing in main(): the heap's first kHeapAtOnce bytes are asked to lie on large pages
// (2 MiB), and what is freed is kept for the next value. Tracing and reach go through tens of megabytes in no order,
// and a system that gives large pages to those who ask alone (as "madvise" does) else looks up each 4 KiB by itself.
// Where the system knows neither, nothing changes. Nothing is allocated that is not used.
void ask_for_large_pages();

} // namespace vic
