#include "sheet/seam.hpp"

#include <algorithm>
#include <cstdint>
#include <cstdlib>

namespace vic::sheet {

namespace {

constexpr int kSeen = 6; // of 255: what less differs nobody sees
constexpr int kMostRows = 1024;

// The largest difference of a colour as it is seen; what is see-through has none.
int between(Rgba a, Rgba b) {
    const auto part = [](int v, int alpha) { return v * alpha / 255; };
    return std::max({std::abs(part(a.r, a.a) - part(b.r, b.a)), std::abs(part(a.g, a.a) - part(b.g, b.a)),
                     std::abs(part(a.b, a.a) - part(b.b, b.a)), std::abs(a.a - b.a)});
}

} // namespace

Seam seam_of(const Image& image, bool across) {
    Seam out;
    const int length = across ? image.width() : image.height(), rows = across ? image.height() : image.width();
    if (length < 2 || rows < 2) return out;
    const auto at = [&](int along, int row) { return across ? image.at(along, row) : image.at(row, along); };
    // In each row a jump is what is half as large again as nearly all that is in the row.
    std::vector<int> jumps(static_cast<std::size_t>(length), 0); // by the column before; the last is the seam
    std::vector<int> open;
    std::vector<int> steps(static_cast<std::size_t>(length)), sorted;
    const int every = std::max(1, rows / kMostRows);
    for (int row = 0; row < rows; row += every) {
        for (int x = 0; x < length; ++x)
            steps[static_cast<std::size_t>(x)] = between(at(x, row), at((x + 1) % length, row));
        sorted.assign(steps.begin(), steps.end() - 1);
        const auto most = sorted.begin() + static_cast<std::ptrdiff_t>(sorted.size() * 19 / 20);
        std::nth_element(sorted.begin(), most, sorted.end());
        const int jump = std::max(kSeen, *most * 3 / 2 + 4);
        for (int x = 0; x < length; ++x)
            if (steps[static_cast<std::size_t>(x)] > jump) ++jumps[static_cast<std::size_t>(x)];
        if (steps.back() > jump) open.push_back(row);
    }
    const int at_seam = jumps.back();
    jumps.pop_back();
    const auto most = jumps.begin() + static_cast<std::ptrdiff_t>(jumps.size() * 49 / 50);
    std::nth_element(jumps.begin(), most, jumps.end());
    if (at_seam <= std::max(*most, rows / every / 50)) return out;
    out.closes = false;
    const int together = 4 * every;
    for (const int row : open) {
        if (!out.open.empty() && row - out.open.back().second < together)
            out.open.back().second = std::min(rows, row + every);
        else
            out.open.emplace_back(row, std::min(rows, row + every));
    }
    return out;
}

} // namespace vic::sheet
