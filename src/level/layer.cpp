#include "level/level.hpp"
#include "level/stamp.hpp"

#include "base/match.hpp"

namespace vic::level {

namespace {

const Grid kNoCells;
const Props kNoProps;

} // namespace

static_assert(std::variant_size_v<LayerContent> == static_cast<std::size_t>(LayerKind::facts) + 1);

LayerContent empty_content(LayerKind kind, Size cells) {
    switch (kind) {
        case LayerKind::tiles:
            return TileCells{Grid(cells)};
        case LayerKind::props:
            return PlacedProps{};
        case LayerKind::backdrop:
            return Backdrop{};
        case LayerKind::blockers:
            return Blockers(cells);
        case LayerKind::planting:
            return PlantedProps{};
        case LayerKind::facts:
            return Facts(cells, 0);
    }
    return {};
}

const Grid& Layer::grid() const {
    if (const TileCells* t = tiles()) return t->grid;
    if (const Blockers* b = blockers()) return b->cells();
    return facts() ? facts()->cells() : kNoCells;
}

Grid& Layer::grid() {
    if (TileCells* t = tiles()) return t->grid;
    if (Facts* f = facts()) return f->cells();
    return std::get<Blockers>(content).cells();
}

const Props& Layer::props() const {
    if (const auto* placed = std::get_if<PlacedProps>(&content)) return placed->props;
    return planted() ? planted()->props : kNoProps;
}

Props& Layer::props() {
    if (auto* placed = std::get_if<PlacedProps>(&content)) return placed->props;
    return std::get<PlantedProps>(content).props;
}

LayerKind StampLayer::kind() const {
    return match(
        content, [](const StampTiles&) { return LayerKind::tiles; },
        [](const StampProps& p) { return p.planted ? LayerKind::planting : LayerKind::props; },
        [](const Blockers&) { return LayerKind::blockers; }, [](const Facts&) { return LayerKind::facts; });
}

Grain StampLayer::grain() const {
    const auto* tiles = std::get_if<StampTiles>(&content);
    return tiles ? tiles->grain : Grain{};
}

const Grid& StampLayer::grid() const {
    if (const auto* tiles = std::get_if<StampTiles>(&content)) return tiles->grid;
    if (const auto* facts = std::get_if<Facts>(&content)) return facts->cells();
    const auto* blockers = std::get_if<Blockers>(&content);
    return blockers ? blockers->cells() : kNoCells;
}

Grid& StampLayer::grid() {
    if (auto* tiles = std::get_if<StampTiles>(&content)) return tiles->grid;
    if (auto* facts = std::get_if<Facts>(&content)) return facts->cells();
    return std::get<Blockers>(content).cells();
}

Point stand_of(const Level& level, const Mark& mark) {
    const Lattice lattice = level.geometry();
    const double x = mark.cells.x + mark.cells.w / 2.0;
    if (lattice.square()) return {static_cast<int>(x * level.cell.w), mark.cells.bottom() * level.cell.h - 1};
    const Lattice::Pixels at = lattice.pixel_of({x, mark.cells.y + mark.cells.h / 2.0});
    return {static_cast<int>(at.x), static_cast<int>(at.y)};
}

std::size_t run_by_feet(const Level& level, std::size_t first) {
    std::size_t end = first;
    if (level.view != View::from_above) return first;
    for (std::size_t i = first; i < level.layers.size(); ++i) {
        const Layer& layer = *level.layers[i];
        if (layer.blockers() || layer.facts()) {
            if (i == first) return first;
            continue;
        }
        if (!layer.by_feet || layer.backdrop()) break;
        end = i + 1;
    }
    return end;
}

} // namespace vic::level
