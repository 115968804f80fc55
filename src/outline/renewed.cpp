// Outlines after a change, of which only those near it are linked anew.
#include <algorithm>
#include <utility>

#include "outline/trace.hpp"

namespace vic::outline {

namespace {

constexpr int kNear = 4; // 1/64 cells: outlines further apart than this share no point

Box round(const Outline& outline) {
    Point least = outline.points.front(), most = least;
    for (const Point p : outline.points) {
        least = {std::min(least.x, p.x), std::min(least.y, p.y)};
        most = {std::max(most.x, p.x), std::max(most.y, p.y)};
    }
    return Box{least.x, least.y, most.x - least.x + 1, most.y - least.y + 1}.grown(kNear);
}

// What of a part lies there (1/64 cells); null where nothing does.
std::shared_ptr<const Part> part_in(const Part& part, int top, std::size_t rows, const Box& window) {
    auto out = std::make_shared<Part>();
    out->straight = part.straight;
    constexpr std::uint16_t kGone = 0xFFFF;
    std::vector<std::uint16_t> turn_of(part.loose.size(), kGone); // what is left of them is numbered anew
    for (std::size_t i = 0; i < part.loose.size(); ++i)
        if (window.contains(part.loose[i].at)) {
            turn_of[i] = static_cast<std::uint16_t>(out->loose.size());
            out->loose.push_back(part.loose[i]);
        }
    std::array<std::uint16_t, level::kChunk + 1> in_row{};
    for (Corner corner : part.corners) {
        if (!window.contains(Point{corner.x * kUnit, corner.y * kUnit})) continue;
        if (corner.in == kLoose || corner.out == kLoose) corner.turn = turn_of[corner.turn];
        ++in_row[static_cast<std::size_t>(corner.y - top) + 1];
        out->corners.push_back(corner);
    }
    for (std::size_t row = 0; row < rows; ++row)
        out->row_start[row + 1] = static_cast<std::uint16_t>(out->row_start[row] + in_row[row + 1]);
    if (out->corners.empty() && out->loose.empty()) return nullptr;
    return out;
}

Trace trace_in(const Trace& trace, const Box& window) {
    Trace out(trace.cells, trace.grain);
    const int side = static_cast<int>(trace.grain), units = side * kUnit;
    for (int y = 0; y < trace.part_count.h; ++y)
        for (int x = 0; x < trace.part_count.w; ++x) {
            const auto number = static_cast<std::size_t>(y * trace.part_count.w + x);
            const auto& part = trace.parts[number];
            const Box own{x * units, y * units, units + 1, units + 1};
            const Box there = intersection(own, window);
            if (!part || there.empty()) continue;
            out.parts[number] = there == own ? part : part_in(*part, y * side, static_cast<std::size_t>(side), window);
        }
    return out;
}

} // namespace

std::vector<Outline> outlines(const Trace& trace, const std::vector<Outline>& before, const std::vector<Box>& differ,
                              Point by) {
    if (differ.empty()) return before;
    const auto all_anew = [&] {
        std::vector<Outline> out = outlines(trace);
        for (Outline& o : out)
            for (Point& p : o.points) p = p + by;
        return out;
    };
    // Bends are left out where no line comes near, whosesoever: that is asked of all at once.
    if (std::any_of(trace.parts.begin(), trace.parts.end(), [](const auto& p) { return p && !p->bends.empty(); }))
        return all_anew();
    Box window;
    for (const Box& box : differ)
        window = united(window, Box{box.x * kUnit, box.y * kUnit, box.w * kUnit + 1, box.h * kUnit + 1}.grown(kUnit));
    // Until each outline lies wholly within or away from it; those within are linked again.
    std::vector<Box> boxes;
    boxes.reserve(before.size());
    for (const Outline& o : before) {
        const Box box = round(o);
        boxes.push_back({box.x - by.x, box.y - by.y, box.w, box.h});
    }
    std::vector<char> within(before.size(), 0);
    std::size_t count = 0;
    for (bool grew = true; grew;) {
        const Box was = window;
        for (std::size_t i = 0; i < boxes.size(); ++i) {
            if (within[i] || intersection(boxes[i], window).empty()) continue;
            within[i] = 1;
            ++count;
            window = united(window, boxes[i]);
        }
        grew = window != was;
    }
    if (2 * count > before.size()) return all_anew();
    std::vector<Outline> fresh = outlines(trace_in(trace, window));
    for (Outline& o : fresh)
        for (Point& p : o.points) p = p + by;
    const auto earlier = [](const Outline& a, const Outline& b) {
        return std::pair(a.points.front().y, a.points.front().x) < std::pair(b.points.front().y, b.points.front().x);
    };
    std::vector<Outline> out;
    out.reserve(before.size() - count + fresh.size());
    auto next = fresh.begin();
    for (std::size_t i = 0; i < before.size(); ++i) {
        if (within[i]) continue;
        for (; next != fresh.end() && earlier(*next, before[i]); ++next) out.push_back(std::move(*next));
        out.push_back(before[i]);
    }
    std::move(next, fresh.end(), std::back_inserter(out));
    return out;
}

} // namespace vic::outline
