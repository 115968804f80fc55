#include "sheet/ruled.hpp"

#include <algorithm>
#include <map>
#include <vector>

namespace vic::sheet {

namespace {

constexpr int kWidest = 4;    // pixels of a rule
constexpr int kFewest = 3;    // rules each way
constexpr int kLeastStep = 8; // pixels from one to the next

struct Line {
    Rgba colour;
    bool ruled = false; // more than half of it has that colour
};

// The colour that more than half of each line has, by majority vote (Boyer and Moore, "MJRTY", 1981), then counted.
template <class At>
std::vector<Line> lines_of(int lines, int length, At at) {
    std::vector<Line> out(static_cast<std::size_t>(lines));
    for (int i = 0; i < lines; ++i) {
        Rgba major{};
        int lead = 0;
        for (int k = 0; k < length; ++k) {
            const Rgba c = at(i, k);
            if (lead == 0) major = c;
            lead += c == major ? 1 : -1;
        }
        if (major.a < 128) continue;
        int same = 0;
        for (int k = 0; k < length; ++k) same += at(i, k) == major;
        out[static_cast<std::size_t>(i)] = {major, same * 2 > length};
    }
    return out;
}

struct Lines {
    AxisFit fit;
    bool closed = false; // from rim to rim, none missing
};

// The lattice that lines of this colour make.
std::optional<Lines> lattice_of(const std::vector<Line>& lines, Rgba colour) {
    const int n = static_cast<int>(lines.size());
    struct Run {
        int at, width;
    };
    std::vector<Run> runs;
    for (int i = 0; i < n; ++i) {
        const auto is = [&](int at) {
            const Line& l = lines[static_cast<std::size_t>(at)];
            return l.ruled && l.colour == colour;
        };
        if (!is(i)) continue;
        int width = 1;
        while (i + width < n && is(i + width)) ++width;
        runs.push_back({i, width});
        i += width;
    }
    if (runs.size() < kFewest) return std::nullopt;
    std::map<int, int> widths, steps;
    for (const Run& r : runs) ++widths[r.width];
    const auto most = [](const std::map<int, int>& counts) {
        return std::max_element(counts.begin(), counts.end(),
                                [](const auto& a, const auto& b) { return a.second < b.second; });
    };
    const int gap = most(widths)->first;
    if (gap > kWidest) return std::nullopt;
    for (std::size_t i = 1; i < runs.size(); ++i) ++steps[runs[i].at - runs[i - 1].at];
    const int step = most(steps)->first;
    if (step < kLeastStep || step - gap < kLeastTile) return std::nullopt;
    // The place within a step that most of them have.
    std::map<int, int> phases;
    for (const Run& r : runs)
        if (r.width == gap) ++phases[r.at % step];
    const auto phase = most(phases);
    const int fit = phase->second;
    if (fit < kFewest || fit * 4 < static_cast<int>(runs.size()) * 3) return std::nullopt;
    // They stand close: over what they span few are missing.
    int first = -1, last = -1;
    for (const Run& r : runs)
        if (r.width == gap && r.at % step == phase->first) {
            if (first < 0) first = r.at;
            last = r.at;
        }
    const int could = (last - first) / step + 1;
    if (fit * 4 < could * 3 || (last - first) * 3 < n) return std::nullopt;
    // A rim half as wide is the tiles' own frame.
    if (runs.front().at == 0 && runs.front().width < gap) return std::nullopt;
    AxisFit f{AxisFit::Kind::gaps, step - gap, gap, (phase->first + gap) % step, 0};
    f.count = (n - f.margin + gap) / step;
    if (f.count < 2) return std::nullopt;
    f.evidence = 4.0 + fit;
    f.prior = 0;
    return Lines{f, first == 0 && last + gap == n && fit == could};
}

} // namespace

std::optional<Ruled> ruled(const Image& image) {
    const auto columns = lines_of(image.width(), image.height(), [&](int x, int y) { return image.at(x, y); });
    const auto rows = lines_of(image.height(), image.width(), [&](int y, int x) { return image.at(x, y); });
    std::map<std::uint32_t, std::pair<Rgba, int>> colours;
    for (const auto* lines : {&columns, &rows})
        for (const Line& l : *lines)
            if (l.ruled) {
                auto& [colour, count] = colours[std::uint32_t{l.colour.r} | std::uint32_t{l.colour.g} << 8 |
                                                std::uint32_t{l.colour.b} << 16 | std::uint32_t{l.colour.a} << 24];
                colour = l.colour;
                ++count;
            }
    std::optional<Ruled> best;
    for (const auto& [key, of] : colours) {
        if (of.second < 2 * kFewest) continue;
        const auto x = lattice_of(columns, of.first);
        const auto y = lattice_of(rows, of.first);
        if (!x || !y) continue;
        if (!best || x->fit.evidence + y->fit.evidence > best->x.evidence + best->y.evidence)
            best = Ruled{x->fit, y->fit, of.first, x->closed && y->closed};
    }
    return best;
}

} // namespace vic::sheet
