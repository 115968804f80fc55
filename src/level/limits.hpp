// How much of anything a project may hold: fields of the window and readers of files go by the same numbers.
#pragma once

namespace vic::level {

inline constexpr int kMostNameLetters = 200; // of what the user names; a reader takes four bytes a letter and more
inline constexpr int kMostClassLetters = 64; // of a collision class
inline constexpr int kMostCellPixels = 1024; // a side of a cell
inline constexpr int kMostFrame = 8192;      // pixels a side of what the game shows

} // namespace vic::level
