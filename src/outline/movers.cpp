#include "outline/movers.hpp"

#include <algorithm>
#include <set>

namespace vic::outline {

std::vector<std::string> classes_in(const level::Level& level) {
    std::set<std::string> out;
    for (const level::LayerRef& layer : level.layers)
        if (layer->blocks() || layer->has_props()) out.insert(layer->collision_class);
    return {out.begin(), out.end()};
}

bool passes_any(const level::Level& level, const level::Mover& mover) {
    const auto classes = classes_in(level);
    return std::any_of(classes.begin(), classes.end(), [&](const std::string& name) {
        return std::binary_search(mover.passes.begin(), mover.passes.end(), name);
    });
}

Trace trace_for(const level::Level& level, const Kinds& kinds, const level::Mover& mover) {
    Kinds of = kinds;
    of.passes = &mover.passes;
    return trace(level, of);
}

} // namespace vic::outline
