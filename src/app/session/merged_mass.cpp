#include "app/session/merged_mass.hpp"

#include <algorithm>
#include <array>
#include <cstdint>
#include <map>
#include <mutex>
#include <utility>

#include "app/session/jobs.hpp"
#include "app/session/session.hpp"
#include "outline/solid.hpp"
#include "scene/metres.hpp"

namespace vic::app {

namespace {

constexpr float kCell = outline::kUnit;
constexpr int kPlain = mass::kStep; // units: what is no higher, as the steps of a roof, is hatched without its edges

DrawnMass::Storey& storeyOf(std::vector<DrawnMass::Storey>& out, int storey) {
    if (out.size() <= static_cast<std::size_t>(storey)) out.resize(static_cast<std::size_t>(storey) + 1);
    return out[static_cast<std::size_t>(storey)];
}

void put(std::vector<float>& to, int x, int y, int z) {
    for (const int v : {x, y, z}) to.push_back(static_cast<float>(v) / kCell);
}

// The sides of a body where two of its faces meet at an angle.
void putEdges(std::vector<float>& to, const mass::Body& body) {
    using Normal = std::array<std::int64_t, 3>;
    std::map<std::pair<std::uint32_t, std::uint32_t>, Normal> one;
    for (const auto& t : body.triangles) {
        const auto &a = body.points[t[0]], &b = body.points[t[1]], &c = body.points[t[2]];
        Normal n{};
        for (std::size_t k = 0; k < 3; ++k) {
            const std::size_t u = (k + 1) % 3, v = (k + 2) % 3;
            n[k] = std::int64_t{b[u] - a[u]} * (c[v] - a[v]) - std::int64_t{b[v] - a[v]} * (c[u] - a[u]);
        }
        for (std::size_t k = 0; k < 3; ++k) {
            const auto [other, fresh] = one.try_emplace(std::minmax(t[k], t[(k + 1) % 3]), n);
            if (fresh) continue;
            const Normal& m = other->second;
            const bool plane = n[0] * m[1] == n[1] * m[0] && n[1] * m[2] == n[2] * m[1] && n[2] * m[0] == n[0] * m[2];
            for (const std::uint32_t corner : {other->first.first, other->first.second})
                if (!plane) put(to, body.points[corner][0], body.points[corner][1], body.points[corner][2]);
        }
    }
}

void putRound(std::vector<float>& to, const outline::Outline& outline, int height) {
    for (std::size_t i = 0; i < outline.points.size(); ++i)
        for (const Point p : {outline.points[i], outline.points[(i + 1) % outline.points.size()]})
            put(to, p.x, height, p.y);
}

// A hair above the floor.
std::vector<DrawnMass::Storey> drawnFlat(const mass::Plain& plain) {
    std::vector<DrawnMass::Storey> out;
    for (mass::Slab slab : plain.blocked) {
        slab.to = slab.from + 1;
        DrawnMass::Storey& storey = storeyOf(out, slab.storey);
        const mass::Shell shell = mass::raised(slab);
        for (const mass::Shell::Triangle& t : shell.triangles)
            for (const std::uint32_t corner : t.corners)
                put(storey.faces, shell.points[corner][0], shell.points[corner][1], shell.points[corner][2]);
        for (const outline::Outline& o : *slab.outlines) putRound(storey.lines, o, slab.to);
    }
    return out;
}

DrawnMass drawn(mass::Mass merged) {
    DrawnMass out;
    out.mass = std::move(merged);
    const mass::Mass& mass = out.mass;
    auto made = std::make_shared<const mass::Shell>(mass::shell_of(mass));
    const mass::Shell& shell = *made;
    out.shell = std::move(made);
    out.pieces = mass.pieces;
    out.open = mass.open;
    out.polygons = shell.polygons;
    for (const mass::Shell::Triangle& t : shell.triangles)
        for (const std::uint32_t corner : t.corners) {
            const auto& p = shell.points[corner];
            put(storeyOf(out.storeys, t.storey).faces, p[0], p[1], p[2]);
        }
    for (const auto& body : mass.bodies) putEdges(storeyOf(out.storeys, body->storey).lines, *body);
    for (const mass::Wall& wall : mass::walls_of(mass)) {
        if (wall.to - wall.from <= kPlain) continue;
        std::vector<float>& lines = storeyOf(out.storeys, wall.storey).lines;
        for (const int height : {wall.from, wall.to}) putRound(lines, *wall.outline, height);
        for (const Point p : wall.outline->points)
            for (const int height : {wall.from, wall.to}) put(lines, p.x, height, p.y);
    }
    return out;
}

} // namespace

// One job at a time is at it; of those that follow one another the one before may still be.
struct MergedMass::Shared {
    std::mutex guard;
    mass::Merger merger;
};

MergedMass::MergedMass(Session& session) : session_(session) {
    connect(&session_, &Session::opened, this, &MergedMass::forget);
}

void MergedMass::forget() {
    level_.reset();
    mass_.reset();
    surveyed_.reset();
    walked_.reset();
    surveying_.reset();
    walking_.reset();
    merger_ = std::make_shared<Shared>();
}

std::shared_ptr<const DrawnMass> MergedMass::of(const Kits& kits) {
    const std::shared_ptr<const level::Level> level = session_.levelRef();
    const auto& sheets = session_.project().sheets;
    const bool awaited = std::any_of(sheets.begin(), sheets.end(), [](const auto& s) { return s->kit.has_value(); });
    if (!level || (kits.empty() && awaited)) return nullptr;
    if (level == level_ && kits == kits_) return mass_;
    if (!level_ || level_->id != level->id) forget();
    level_ = level;
    kits_ = kits;
    session_.jobs().start<DrawnMass>(
        "mass", {},
        [state = session_.document().state(), level, kits, with = merger_](Jobs::Progress& progress) {
            const std::lock_guard lock(with->guard);
            if (progress.stopped()) return DrawnMass{};
            DrawnMass out = drawn(with->merger.update(scene::placed_in(*state, *level, kits, level::kMostStorey), kits,
                                                      scene::Storeys(kits, level->storey_heights)));
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

std::shared_ptr<const SurveyedMass> MergedMass::surveyed(const Kits& kits) {
    const std::shared_ptr<const DrawnMass> mass = of(kits);
    if (!mass || mass == surveying_) return surveyed_;
    surveying_ = mass;
    session_.jobs().start<SurveyedMass>(
        "survey", {},
        [state = session_.document().state(), mass, kits](Jobs::Progress&) {
            SurveyedMass out;
            out.of = mass;
            out.survey =
                std::make_shared<const upright::Survey>(upright::survey(*state, *mass->level, kits, mass->mass));
            out.flat = drawnFlat(out.survey->plain);
            out.snags = upright::snags(*out.survey, *state, *mass->level, kits);
            return out;
        },
        [this](SurveyedMass& surveyed) {
            surveyed_ = std::make_shared<const SurveyedMass>(std::move(surveyed));
            emit changed();
        },
        session_.complain());
    return surveyed_;
}

std::shared_ptr<const WalkedMass> MergedMass::walked(const Kits& kits) {
    const std::shared_ptr<const DrawnMass> mass = of(kits);
    if (!mass || mass == walking_) return walked_;
    walking_ = mass;
    session_.jobs().start<WalkedMass>(
        "terrain", {},
        [state = session_.document().state(), mass, kits](Jobs::Progress&) {
            return WalkedMass{mass, std::make_shared<upright::Terrain>(
                                        *mass->shell, mass::plain_of(*state, *mass->level, kits, mass->mass),
                                        scene::metres_of(kits))};
        },
        [this](WalkedMass& walked) {
            walked_ = std::make_shared<const WalkedMass>(std::move(walked));
            emit changed();
        },
        session_.complain());
    return walked_;
}

} // namespace vic::app
