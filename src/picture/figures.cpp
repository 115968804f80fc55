#include "picture/figures.hpp"

#include <algorithm>
#include <utility>

namespace vic::picture {

using namespace level;

Level with_figures(const Project& project, const Level& level) {
    PlacedProps figures;
    for (const Mark& mark : level.marks)
        if (mark.figure != 0 && mark.kind != MarkKind::start && project.prop_kind(mark.figure))
            figures.props.put({mark.id, mark.figure, stand_of(level, mark)});
    if (figures.props.empty()) return level;
    Layer layer;
    layer.id = UINT32_MAX; // of no other
    layer.by_feet = level.view == View::from_above;
    layer.content = std::move(figures);
    Level out = level;
    out.layers.insert(out.layers.begin() + std::clamp(level.plane, 0, static_cast<int>(level.layers.size())),
                      std::make_shared<const Layer>(std::move(layer)));
    ++out.plane;
    return out;
}

} // namespace vic::picture
