// Functions that are compiled twice, once for wide registers; the program takes what the processor has. (A program
// under ThreadSanitizer chooses before that is ready, and has them once.)
#pragma once

#if defined(__SANITIZE_THREAD__) || !defined(__x86_64__)
#define VIC_WIDE
#else
#define VIC_WIDE [[gnu::target_clones("avx2", "default")]]
#endif
