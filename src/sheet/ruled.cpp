#include "sheet/ruled.hpp"

#include <algorithm>
#include <map>
#include <vector>

namespace vic::sheet {

namespace {

constexpr int kWidest = 4;        // pixels of a rule
constexpr int kFewest = 3;        // rules each way
constexpr int kLeastStep = 8;     // pixels from one to the next
constexpr int kMany = 6;          // lines of a colour that mean something
constexpr int kLeastStretch = 64; // pixels of a rule that goes through a part of the picture

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

// The colour of the longest stretch of each line, where that is a good part of it.
template <class At>
std::vector<Line> stretches_of(int lines, int length, At at) {
    std::vector<Line> out(static_cast<std::size_t>(lines));
    for (int i = 0; i < lines; ++i) {
        int longest = 0, from = 0;
        for (int k = 1; k <= length; ++k) {
            if (k < length && at(i, k) == at(i, from)) continue;
            if (k - from > longest && at(i, from).a >= 128) {
                longest = k - from;
                out[static_cast<std::size_t>(i)].colour = at(i, from);
            }
            from = k;
        }
        out[static_cast<std::size_t>(i)].ruled = longest >= std::max(kLeastStretch, length / 6);
    }
    return out;
}

// How much of a colour's lines must be rules of one lattice, and how much of the picture that must span.
struct Asked {
    int fit_parts, fit_of, span;
};
constexpr Asked kWhole{3, 4, 3}, kPart{1, 2, 4};

struct Lines {
    AxisFit fit;
    bool closed = false; // from rim to rim, none missing
};

// The lattice that lines of this colour make.
std::optional<Lines> lattice_of(const std::vector<Line>& lines, Rgba colour, const Asked& asked) {
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
    if (fit < kFewest || fit * asked.fit_of < static_cast<int>(runs.size()) * asked.fit_parts) return std::nullopt;
    // They stand close: over what they span few are missing.
    int first = -1, last = -1;
    for (const Run& r : runs)
        if (r.width == gap && r.at % step == phase->first) {
            if (first < 0) first = r.at;
            last = r.at;
        }
    const int could = (last - first) / step + 1;
    if (fit * 4 < could * 3 || (last - first) * asked.span < n) return std::nullopt;
    // A rim half as wide is the tiles' own frame.
    if (runs.front().at == 0 && runs.front().width < gap) return std::nullopt;
    AxisFit f{AxisFit::Kind::gaps, step - gap, gap, (phase->first + gap) % step, 0};
    f.count = (n - f.margin + gap) / step;
    if (f.count < 2) return std::nullopt;
    f.evidence = 4.0 + fit;
    f.prior = 0;
    return Lines{f, first == 0 && last + gap == n && fit == could};
}

// The lattice of one colour that has the most rules.
std::optional<Ruled> best_of_colours(const std::vector<Line>& columns, const std::vector<Line>& rows,
                                     const Asked& asked) {
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
        const auto x = lattice_of(columns, of.first, asked);
        const auto y = lattice_of(rows, of.first, asked);
        if (!x || !y) continue;
        if (!best || x->fit.evidence + y->fit.evidence > best->x.evidence + best->y.evidence)
            best = Ruled{x->fit, y->fit, of.first, x->closed && y->closed};
    }
    return best;
}

// Whether many thin lines of one colour lie elsewhere than between tiles or at their rims.
bool lie_across(const std::vector<Line>& lines, const AxisFit& fit) {
    std::map<std::uint32_t, std::pair<int, int>> of; // by colour: how many, and how many where they may be
    const int n = static_cast<int>(lines.size());
    for (int i = 0; i < n;) {
        const Line& l = lines[static_cast<std::size_t>(i)];
        int width = 1;
        while (i + width < n && lines[static_cast<std::size_t>(i + width)].ruled == l.ruled &&
               lines[static_cast<std::size_t>(i + width)].colour == l.colour)
            ++width;
        if (l.ruled && width <= kWidest) {
            auto& [all, there] = of[std::uint32_t{l.colour.r} | std::uint32_t{l.colour.g} << 8 |
                                    std::uint32_t{l.colour.b} << 16 | std::uint32_t{l.colour.a} << 24];
            const int every = fit.tile + fit.gap;
            const int at = ((i - fit.margin) % every + every) % every;
            ++all;
            there += at == 0 || at >= fit.tile - 1;
        }
        i += width;
    }
    return std::any_of(of.begin(), of.end(), [](const auto& c) {
        const auto [all, there] = c.second;
        return all >= kMany && there * 4 < all * 3;
    });
}

} // namespace

std::optional<Ruled> ruled(const Image& image) {
    const auto columns = lines_of(image.width(), image.height(), [&](int x, int y) { return image.at(x, y); });
    const auto rows = lines_of(image.height(), image.width(), [&](int y, int x) { return image.at(x, y); });
    return best_of_colours(columns, rows, kWhole);
}

std::optional<Ruled> ruled_in_part(const Image& image) {
    const auto columns = stretches_of(image.width(), image.height(), [&](int x, int y) { return image.at(x, y); });
    const auto rows = stretches_of(image.height(), image.width(), [&](int y, int x) { return image.at(x, y); });
    return best_of_colours(columns, rows, kPart);
}

bool ruled_otherwise(const Image& image, const AxisFit& x, const AxisFit& y) {
    return lie_across(stretches_of(image.width(), image.height(), [&](int u, int v) { return image.at(u, v); }), x) ||
           lie_across(stretches_of(image.height(), image.width(), [&](int v, int u) { return image.at(u, v); }), y);
}

} // namespace vic::sheet
