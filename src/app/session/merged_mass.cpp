#include "app/session/merged_mass.hpp"

#include <utility>

#include "app/session/jobs.hpp"
#include "app/session/session.hpp"
#include "outline/solid.hpp"

namespace vic::app {

namespace {

constexpr float kCell = outline::kUnit;
constexpr int kPlain = mass::kStep; // units: what is no higher, as the steps of a roof, is hatched without its edges

DrawnMass::Storey& storeyOf(DrawnMass& out, int storey) {
    if (out.storeys.size() <= static_cast<std::size_t>(storey))
        out.storeys.resize(static_cast<std::size_t>(storey) + 1);
    return out.storeys[static_cast<std::size_t>(storey)];
}

void put(std::vector<float>& to, int x, int y, int z) {
    for (const int v : {x, y, z}) to.push_back(static_cast<float>(v) / kCell);
}

DrawnMass drawn(std::shared_ptr<const upright::Survey> survey) {
    const mass::Mass& mass = survey->mass;
    auto made = std::make_shared<const mass::Shell>(mass::shell_of(mass));
    const mass::Shell& shell = *made;
    DrawnMass out;
    out.survey = std::move(survey);
    out.shell = std::move(made);
    out.pieces = mass.pieces;
    out.open = mass.open;
    out.polygons = shell.polygons;
    for (const mass::Shell::Triangle& t : shell.triangles)
        for (const std::uint32_t corner : t.corners) {
            const auto& p = shell.points[corner];
            put(storeyOf(out, t.storey).faces, p[0], p[1], p[2]);
        }
    for (const mass::Slab& slab : mass.slabs) {
        if (slab.to - slab.from <= kPlain) continue;
        std::vector<float>& lines = storeyOf(out, slab.storey).lines;
        for (const outline::Outline& o : slab.outlines)
            for (std::size_t i = 0; i < o.points.size(); ++i) {
                const Point a = o.points[i], b = o.points[(i + 1) % o.points.size()];
                for (const int height : {slab.from, slab.to}) {
                    put(lines, a.x, height, a.y);
                    put(lines, b.x, height, b.y);
                }
                put(lines, a.x, slab.from, a.y);
                put(lines, a.x, slab.to, a.y);
            }
    }
    return out;
}

} // namespace

MergedMass::MergedMass(Session& session) : session_(session) {
    connect(&session_, &Session::opened, this, [this] {
        level_.reset();
        mass_.reset();
    });
}

std::shared_ptr<const DrawnMass> MergedMass::of(const std::vector<std::shared_ptr<const scene::LoadedKit>>& kits) {
    const std::shared_ptr<const level::Level> level = session_.levelRef();
    if (!level || kits.empty()) return nullptr;
    if (level == level_ && kits == kits_) return mass_;
    if (level_ && level_->id != level->id) mass_.reset();
    level_ = level;
    kits_ = kits;
    session_.jobs().start<DrawnMass>(
        "mass", {},
        [state = session_.document().state(), level, kits](Jobs::Progress&) {
            DrawnMass out = drawn(std::make_shared<const upright::Survey>(upright::survey(*state, *level, kits)));
            out.snags = upright::snags(*out.survey, *state, *level, kits);
            out.level = level;
            return out;
        },
        [this](DrawnMass& mass) {
            mass_ = std::make_shared<const DrawnMass>(std::move(mass));
            emit changed();
        },
        session_.complain());
    return mass_;
}

} // namespace vic::app
