// Props, however they are turned, scaled and tinted.

#include <algorithm>
#include <cmath>
#include <vector>

#include "level/standing.hpp"
#include "picture/blend.hpp"
#include "picture/blit.hpp"

namespace vic::picture {

namespace {

constexpr int kMostPictureSide = 4096;

using level::Piece;
using level::Placing;

// Between the middles of pixels; beside the picture there is nothing.
std::uint32_t between(const Art::Picture& picture, double x, double y) {
    x -= 0.5;
    y -= 0.5;
    const int x0 = static_cast<int>(std::floor(x)), y0 = static_cast<int>(std::floor(y));
    const auto fx = static_cast<std::uint32_t>((x - x0) * 256), fy = static_cast<std::uint32_t>((y - y0) * 256);
    std::uint32_t out = 0;
    const auto pixel = [&](int px, int py) -> std::uint32_t {
        if (px < 0 || py < 0 || px >= picture.size.w || py >= picture.size.h) return 0;
        return picture.pixels[static_cast<std::size_t>(py * picture.size.w + px)];
    };
    const std::uint32_t nw = pixel(x0, y0), ne = pixel(x0 + 1, y0), sw = pixel(x0, y0 + 1), se = pixel(x0 + 1, y0 + 1);
    for (int shift = 0; shift < 32; shift += 8) {
        const auto part = [&](std::uint32_t p) { return (p >> shift) & 255U; };
        const std::uint32_t top = part(nw) * (256 - fx) + part(ne) * fx;
        const std::uint32_t low = part(sw) * (256 - fx) + part(se) * fx;
        out |= ((top * (256 - fy) + low * fy + 32768) >> 16) << shift;
    }
    return out;
}

// What of a piece is seen in the clip, as a picture of just that, at full size.
Art::Picture turned_picture(const Art::Picture& art, const Placing& placing, const Box& seen, bool smooth) {
    Art::Picture out;
    out.size = seen.size();
    out.pixels.resize(static_cast<std::size_t>(seen.size().area()));
    std::uint32_t* to = out.pixels.data();
    for (int y = seen.y; y < seen.bottom(); ++y)
        for (int x = seen.x; x < seen.right(); ++x, ++to) {
            if (smooth) {
                const level::Spot s = placing.in_picture({x + 0.5, y + 0.5});
                *to = between(art, s.x, s.y);
                continue;
            }
            const Point p = placing.seen_in({x, y});
            if (p.x >= 0 && p.y >= 0 && p.x < art.size.w && p.y < art.size.h)
                *to = art.pixels[static_cast<std::size_t>(p.y * art.size.w + p.x)];
        }
    return out;
}

// The same in small pixels, out of a picture that is made smaller first by as much as still leaves a pixel for each.
Art::Picture small_turned(Art& art, const Piece& piece, const Placing& placing, const Box& seen, int small) {
    const int s = 1 << small;
    int less = 0;
    while (less < small && (2 << less) * 100 <= s * 100 * 100 / piece.look.scale) ++less;
    const Art::Picture* from = less == 0 ? art.prop(*piece.kind, false) : art.small_prop(*piece.kind, false, less, {});
    Art::Picture out;
    out.size = seen.size();
    out.pixels.resize(static_cast<std::size_t>(seen.size().area()));
    if (!from) return out;
    std::uint32_t* to = out.pixels.data();
    const double f = 1 << less;
    for (int y = seen.y; y < seen.bottom(); ++y)
        for (int x = seen.x; x < seen.right(); ++x, ++to) {
            const level::Spot p = placing.in_picture({(x + 0.5) * s, (y + 0.5) * s});
            *to = between(*from, p.x / f, p.y / f);
        }
    return out;
}

void draw_piece(const level::Project& project, const level::Layer& layer, Art& art, Canvas& canvas, const Box& clip,
                const Piece& piece, const Box& box, int small) {
    const int s = 1 << small;
    const Point corner{floor_div(box.x, s), floor_div(box.y, s)};
    const Box small_box{corner.x, corner.y, std::max(1, floor_div(box.right() + s - 1, s) - corner.x),
                        std::max(1, floor_div(box.bottom() + s - 1, s) - corner.y)};
    const Placing placing = piece.placing();
    const bool mirrored = piece.look.mirrored;
    if (placing.plain()) {
        const Art::Picture* picture =
            small == 0 ? art.prop(*piece.kind, mirrored)
                       : art.small_prop(*piece.kind, mirrored, small, box.corner() - Point{corner.x * s, corner.y * s});
        if (picture) return blit_washed(canvas, clip, *picture, corner, layer, piece.wash);
    } else if (const Art::Picture* picture = art.prop(*piece.kind, false)) {
        const Box seen = intersection(small_box, clip);
        if (seen.empty()) return;
        const level::Sheet* sheet = project.sheet(piece.kind->sheet);
        const Art::Picture turned = small == 0 ? turned_picture(*picture, placing, seen, sheet && sheet->smooth)
                                               : small_turned(art, piece, placing, seen, small);
        return blit_washed(canvas, clip, turned, seen.corner(), layer, piece.wash);
    }
    draw_gone(canvas, clip, small_box);
}

} // namespace

Image prop_picture(const level::Project& project, Art& art, const level::Prop& prop) {
    const level::PropKinds kinds(project);
    const Box box = kinds.box(prop);
    if (box.empty() || box.w > kMostPictureSide || box.h > kMostPictureSide) return {};
    level::Layer alone;
    level::PlacedProps placed;
    placed.props.put(prop);
    alone.content = std::move(placed);
    Canvas canvas(box);
    canvas.see_through = true;
    draw_props(project, alone, art, canvas, box, 0);
    Image out(box.size());
    for (int y = 0; y < box.h; ++y)
        for (int x = 0; x < box.w; ++x) out.set(x, y, straight(canvas.pixels[static_cast<std::size_t>(y * box.w + x)]));
    return out;
}

std::vector<ShownProp> props_in(const level::PropKinds& kinds, const level::Layer& layer, const Box& clip, int small) {
    std::vector<ShownProp> seen;
    if (layer.props().empty()) return seen;
    const int s = 1 << small;
    const Box clip_full{clip.x * s, clip.y * s, clip.w * s, clip.h * s};
    layer.props().each_in(clip_full.grown(kinds.reach(layer.props())), [&](const level::Prop& prop) {
        kinds.each_piece(prop, [&](const Piece& piece) {
            const Box box = piece.box();
            if (!intersection(box, clip_full).empty()) seen.push_back({piece, box});
        });
    });
    std::sort(seen.begin(), seen.end(),
              [](const ShownProp& a, const ShownProp& b) { return level::before(a.piece, b.piece); });
    return seen;
}

void draw_prop(const level::Project& project, const level::Layer& layer, Art& art, Canvas& canvas, const Box& clip,
               const ShownProp& prop, int small) {
    draw_piece(project, layer, art, canvas, clip, prop.piece, prop.box, small);
}

void draw_props(const level::Project& project, const level::Layer& layer, Art& art, Canvas& canvas, const Box& clip,
                int small) {
    for (const ShownProp& one : props_in(level::PropKinds(project), layer, clip, small))
        draw_prop(project, layer, art, canvas, clip, one, small);
}

} // namespace vic::picture
