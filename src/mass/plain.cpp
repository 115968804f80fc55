#include "mass/plain.hpp"

#include <algorithm>
#include <cmath>
#include <polyclipping/clipper.hpp>
#include <set>
#include <utility>

#include "outline/solid.hpp"

namespace vic::mass {

namespace {

ClipperLib::Paths paths_of(const std::vector<outline::Outline>& outlines) {
    ClipperLib::Paths out;
    for (const outline::Outline& o : outlines) {
        ClipperLib::Path& path = out.emplace_back();
        for (const Point p : o.points) path.emplace_back(p.x, p.y);
    }
    return out;
}

std::vector<outline::Outline> outlines_of(const ClipperLib::Paths& paths) {
    std::vector<outline::Outline> out;
    for (const ClipperLib::Path& path : paths) {
        outline::Outline& o = out.emplace_back();
        o.hole = !ClipperLib::Orientation(path);
        for (const ClipperLib::IntPoint& p : path) o.points.push_back({static_cast<int>(p.X), static_cast<int>(p.Y)});
    }
    return out;
}

ClipperLib::Paths combined(ClipperLib::ClipType how, const ClipperLib::Paths& a, const ClipperLib::Paths& b) {
    ClipperLib::Clipper work;
    work.StrictlySimple(true);
    work.AddPaths(a, ClipperLib::ptSubject, true);
    work.AddPaths(b, ClipperLib::ptClip, true);
    ClipperLib::Paths out;
    work.Execute(how, out, ClipperLib::pftNonZero, ClipperLib::pftNonZero);
    return out;
}

std::vector<outline::Outline> blocked_by(const level::Project& project, const level::Level& flat, int storey,
                                         std::size_t first) {
    level::Level one = flat;
    one.layers.erase(one.layers.begin(), one.layers.begin() + static_cast<std::ptrdiff_t>(first));
    std::erase_if(one.layers, [&](const level::LayerRef& layer) { return layer->storey != storey; });
    for (std::size_t i = 0; storey != 0 && i < one.layers.size(); ++i) one.edit(one.layers[i]->id).storey = 0;
    const level::TileTable tiles(project, one);
    const level::PropKinds props(project, one);
    return outline::outlines(outline::trace(one, {tiles, props}));
}

} // namespace

Plain plain_of(const level::Project& project, const level::Level& level,
               const std::vector<std::shared_ptr<const scene::LoadedKit>>& kits, const Mass& merged) {
    Plain out{level.size, {}};
    const level::Level flat = scene::without_pieces(project, level, kits);
    const scene::Storeys storeys(kits, level.storey_heights);
    const auto low = [&](int storey) { return static_cast<int>(std::lround(storeys.low(storey) * outline::kUnit)); };
    const std::vector<scene::Placed> placed = scene::placed_in(project, level, kits, level::kMostStorey);
    std::set<int> all;
    for (const level::LayerRef& layer : level.layers) all.insert(layer->storey);
    for (const int storey : all) {
        Slab slab{low(storey), std::min(low(storey) + kFlatHigh, low(storey + 1)), storey, {}};
        std::size_t front = 0; // the first layer in front of all that are laid on the storey
        for (const scene::Placed& p : placed)
            if (p.storey == storey && !p.free)
                front = std::max(front, static_cast<std::size_t>(level.index_of(p.layer)) + 1);
        std::vector<outline::Outline> blocked = blocked_by(project, flat, storey, 0);
        if (blocked.empty()) continue;
        ClipperLib::Paths carried;
        for (const Slab& s : merged.slabs)
            if (front > 0 && s.from < slab.to && s.to > slab.from - kFlatHigh / 2 && s.to <= slab.from + kFlatHigh / 2)
                for (ClipperLib::Path& path : paths_of(*s.outlines)) carried.push_back(std::move(path));
        if (!carried.empty()) {
            const ClipperLib::Paths paths = paths_of(blocked);
            const ClipperLib::Paths before =
                combined(ClipperLib::ctIntersection, paths, paths_of(blocked_by(project, flat, storey, front)));
            blocked =
                outlines_of(combined(ClipperLib::ctUnion, combined(ClipperLib::ctDifference, paths, carried), before));
            if (blocked.empty()) continue;
        }
        slab.outlines = std::make_shared<const std::vector<outline::Outline>>(std::move(blocked));
        out.blocked.push_back(std::move(slab));
    }
    return out;
}

Shell raised(const Slab& slab) {
    Mass one;
    one.slabs = {slab};
    one.levels = {{slab.from, false, slab.storey, slab.outlines}, {slab.to, true, slab.storey, slab.outlines}};
    return shell_of(one);
}

} // namespace vic::mass
