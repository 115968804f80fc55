#include "edit/resting.hpp"

#include <algorithm>
#include <utility>
#include <vector>

namespace vic::edit {

Resting resting(const level::Project& project, const level::Level& level, scene::Models& models, level::LayerId layer,
                level::Prop prop, const std::set<level::PropId>& moving, Rests how) {
    Resting out{std::move(prop), {}, false};
    const level::Layer* const on = level.layer(layer);
    if (how == Rests::storey || models.kits().empty() || !on) return out;
    std::vector<scene::Placed> placed = scene::placed_in(project, level, models.kits(), on->storey);
    std::erase_if(placed, [&](const scene::Placed& p) {
        return p.prop != 0 && (p.prop == out.prop.id || moving.contains(p.prop));
    });
    const scene::Storeys storeys(models.kits(), level.storey_heights);
    const scene::Rest rest = scene::rest_at(
        placed, models, storeys, on->storey,
        {out.prop.at.x / std::max(1.0, double(level.cell.w)), out.prop.at.y / std::max(1.0, double(level.cell.h))});
    level::PropOwn own = out.prop.of_its_own();
    own.up = rest.up;
    own.lean = how == Rests::slope ? rest.lean : Point{};
    out.prop.set_own(std::move(own));
    out.on_top = rest.up > 0;
    const double foot = storeys.low(on->storey) + rest.up / 64.0;
    for (const scene::Placed& p : placed) {
        if (p.prop == 0) continue;
        const scene::Model& model = models.of(p.kit, p.piece);
        const scene::Placing& at = *p.free;
        double top = -1e9;
        for (const scene::Model::Corner& c : model.corners)
            top = std::max(top, double{at[1][0] * c.at[0] + at[1][1] * c.at[1] + at[1][2] * c.at[2] + at[1][3]});
        if (top <= foot + 1.0 / 32) out.under.insert(p.prop);
    }
    return out;
}

} // namespace vic::edit
