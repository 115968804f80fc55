#include "walk/body.hpp"

#include <algorithm>
#include <cmath>
#include <utility>

namespace vic::walk {

namespace {

// Whether the physics takes it as one mass: no dents, and not too many corners.
bool is_solid(const std::vector<b2Vec2>& corners) {
    if (corners.size() > b2_maxPolygonVertices) return false;
    for (std::size_t i = 0; i < corners.size(); ++i) {
        const b2Vec2& a = corners[i];
        const b2Vec2& b = corners[(i + 1) % corners.size()];
        if (b2Cross(b - a, corners[(i + 2) % corners.size()] - b) < 0) return false;
    }
    return true;
}

b2Vec2 outward(const std::string& side) {
    if (side == "north") return {0, -1};
    if (side == "east") return {1, 0};
    if (side == "south") return {0, 1};
    return {-1, 0};
}

} // namespace

World::Parts::Parts(const vicinum::Level& l, const std::string& as_mover)
    : level(&l), mover(as_mover), world(b2Vec2(0, 0)), side(l.from_the_side), told(l.telling.size()) {
    half = {metres(std::max(8, l.walker.width)) / 2, metres(std::max(8, l.walker.height)) / 2};
    b2BodyDef ground;
    mass = world.CreateBody(&ground);
    for (const vicinum::Outline& o : l.outlines_for(mover)) add_chain(o.points);
    if (!l.props_merged)
        for (const vicinum::Layer& layer : l.layers)
            for (const vicinum::Prop& p : layer.props) add_foot(p);
    for (const vicinum::OneWay& e : l.one_way_for(mover)) add_one_way(e);
    add_sides();
    add_walker();
    world.SetContactListener(this);
}

void World::Parts::add_chain(const std::vector<vicinum::Vec>& points) {
    std::vector<b2Vec2> corners;
    for (const vicinum::Vec p : points) corners.emplace_back(metres(p.x), metres(p.y));
    b2ChainShape chain;
    chain.CreateLoop(corners.data(), static_cast<int>(corners.size()));
    b2FixtureDef def;
    def.shape = &chain;
    def.friction = 0;
    def.userData.pointer = static_cast<std::uintptr_t>(FixtureKind::solid);
    mass->CreateFixture(&def);
    ++chains;
}

void World::Parts::add_foot(const vicinum::Prop& prop) {
    for (const std::vector<vicinum::Place>& outline : level->blocking(prop)) {
        std::vector<b2Vec2> corners;
        for (const vicinum::Place p : outline) corners.emplace_back(static_cast<float>(p.x), static_cast<float>(p.y));
        b2PolygonShape solid;
        b2ChainShape rim;
        b2FixtureDef def;
        if (is_solid(corners)) {
            solid.Set(corners.data(), static_cast<int>(corners.size()));
            def.shape = &solid;
        } else {
            rim.CreateLoop(corners.data(), static_cast<int>(corners.size()));
            def.shape = &rim;
        }
        def.friction = 0;
        def.userData.pointer = static_cast<std::uintptr_t>(FixtureKind::solid);
        mass->CreateFixture(&def);
    }
}

void World::Parts::add_sides() {
    const auto w = static_cast<float>(level->size.x), h = static_cast<float>(level->size.y);
    const b2Vec2 corners[4] = {{0, 0}, {w, 0}, {w, h}, {0, h}};
    for (int i = 0; i < 4; ++i) {
        if (level->sides[i].kind != "blocks") continue;
        b2EdgeShape edge;
        edge.SetTwoSided(corners[i], corners[(i + 1) % 4]);
        b2FixtureDef def;
        def.shape = &edge;
        def.friction = 0;
        def.userData.pointer = static_cast<std::uintptr_t>(FixtureKind::solid);
        mass->CreateFixture(&def);
    }
}

void World::Parts::add_one_way(const vicinum::OneWay& e) {
    b2EdgeShape edge;
    const b2Vec2 a(metres(e.from.x), metres(e.from.y));
    const b2Vec2 b(metres(e.to.x), metres(e.to.y));
    // Box2D lets an edge stop what comes from its right (in its own axes); the outside has to be there.
    const b2Vec2 out = outward(e.side);
    const bool forward = b2Cross(b - a, out) < 0;
    const b2Vec2 from = forward ? a : b;
    const b2Vec2 to = forward ? b : a;
    edge.SetOneSided(from + (from - to), from, to, to + (to - from));
    b2FixtureDef def;
    def.shape = &edge;
    def.friction = 0;
    def.userData.pointer = static_cast<std::uintptr_t>(FixtureKind::one_way);
    mass->CreateFixture(&def);
}

void World::Parts::add_walker() {
    b2BodyDef def;
    def.type = b2_dynamicBody;
    def.fixedRotation = true;
    def.allowSleep = false;
    def.bullet = true;
    walker = world.CreateBody(&def);
    // The corners at the foot are cut off a little, so that no ledge is caught by a hair.
    const float cut = std::min(0.08F, half.x / 2);
    const b2Vec2 corners[6] = {{-half.x, -half.y},     {half.x, -half.y},       {half.x, half.y - cut},
                               {half.x - cut, half.y}, {-half.x + cut, half.y}, {-half.x, half.y - cut}};
    b2PolygonShape shape;
    if (side) {
        shape.Set(corners, 6);
    } else {
        // Seen from above only the foot collides: as deep as it is wide, but no deeper than the figure.
        foot_half =
            level->walker.foot > 0 ? std::min(metres(level->walker.foot) / 2, half.y) : std::min(half.x, half.y);
        // Aslant it stands in the middle of its foot.
        if (level->isometric) foot_half = half.x;
        shape.SetAsBox(half.x, foot_half, {0, half.y - (level->isometric ? 0 : foot_half)}, 0);
    }
    b2FixtureDef fixture;
    fixture.shape = &shape;
    fixture.density = 1;
    fixture.friction = 0;
    fixture.userData.pointer = static_cast<std::uintptr_t>(FixtureKind::walker);
    walker->CreateFixture(&fixture);
}

void World::Parts::PreSolve(b2Contact* contact, const b2Manifold*) {
    const auto kind_of = [](b2Fixture* f) { return static_cast<FixtureKind>(f->GetUserData().pointer); };
    b2Fixture* edge_fixture = kind_of(contact->GetFixtureA()) == FixtureKind::one_way   ? contact->GetFixtureA()
                              : kind_of(contact->GetFixtureB()) == FixtureKind::one_way ? contact->GetFixtureB()
                                                                                        : nullptr;
    if (!edge_fixture) return;
    const auto* edge = static_cast<const b2EdgeShape*>(edge_fixture->GetShape());
    b2Vec2 along = edge->m_vertex2 - edge->m_vertex1;
    along.Normalize();
    const b2Vec2 out = b2Cross(along, 1.0F); // the right-hand normal: the outside
    const float depth = half.x * std::abs(out.x) + half.y * std::abs(out.y);
    const float distance = b2Dot(walker->GetPosition() - edge->m_vertex1, out) - depth;
    const float speed = b2Dot(walker->GetLinearVelocity(), out);
    const bool drops = dropping && out.y < -0.5F;
    if (distance < -0.06F || speed > 0.01F || drops) contact->SetEnabled(false);
}

void World::Parts::note_touches() {
    const b2Vec2 p = walker->GetPosition();
    const float below = level->isometric ? foot_half : 0; // the foot's middle
    const float top = side ? p.y - half.y : p.y + half.y + below - 2 * foot_half;
    for (const vicinum::Mark& m : level->marks) {
        const bool apart = p.x + half.x <= static_cast<float>(m.cells.x) ||
                           p.x - half.x >= static_cast<float>(m.cells.x + m.cells.w) ||
                           p.y + half.y + below <= static_cast<float>(m.cells.y) ||
                           top >= static_cast<float>(m.cells.y + m.cells.h);
        if (apart || std::find(touched.begin(), touched.end(), m.id) != touched.end()) continue;
        touched.push_back(m.id);
        note(Happening::Kind::touched, m.id);
        exit = exit || m.kind == "exit";
    }
    for (std::size_t i = 0; i < level->telling.size(); ++i) {
        if (told[i] || !in_area(level->telling[i])) continue;
        told[i] = 1;
        exit = exit || level->telling[i].means == "exit";
        note(Happening::Kind::told, static_cast<std::uint32_t>(i));
    }
}

// The middle of the body, or its feet; from above the middle of the foot.
bool World::Parts::in_area(const vicinum::Telling& area) const {
    const b2Vec2 p = walker->GetPosition();
    const double low = double(p.y) + half.y;
    if (!side) return vicinum::detail::within(area.outlines, p.x, low - (level->isometric ? 0 : foot_half));
    return vicinum::detail::within(area.outlines, p.x, p.y) ||
           (area.means != "water" && vicinum::detail::within(area.outlines, p.x, low - 0.05));
}

bool World::Parts::within(const char* means) const {
    return std::any_of(level->telling.begin(), level->telling.end(),
                       [&](const vicinum::Telling& t) { return t.means == means && in_area(t); });
}

Position World::Parts::foot() const {
    const b2Vec2 p = walker->GetPosition();
    return {p.x, double(p.y) + half.y};
}

void World::Parts::note(Happening::Kind kind, std::uint32_t id) {
    if (happenings.size() < kMostHappenings) happenings.push_back({kind, ticks, foot(), foot(), id});
}

// A way that was wanted and is not gone: where it was stopped, once a second and for each place.
void World::Parts::note_bumps(const b2Vec2& wanted) {
    if (wanted.LengthSquared() == 0 || happenings.size() >= kMostHappenings) return;
    each_touch(*walker, [&](const b2WorldManifold& manifold, const b2Vec2& n) {
        if (b2Dot(n, wanted) > -0.7F * wanted.Length()) return true;
        const Position at{manifold.points[0].x, manifold.points[0].y};
        const bool near = std::hypot(at.x - bumped.x, at.y - bumped.y) < 1;
        const int since = ticks - std::exchange(bumped_at, ticks);
        if (near && since < kTicks) return false;
        bumped = at;
        happenings.push_back({Happening::Kind::bump, ticks, foot(), at, 0});
        return false;
    });
}

bool World::Parts::stuck_at(Position foot) const {
    const b2Vec2 at(static_cast<float>(foot.x), static_cast<float>(foot.y) - half.y);
    const double middle = side ? at.y : foot.y - foot_half;
    if (vicinum::detail::within(level->outlines_for(mover), at.x, level->isometric ? foot.y : middle)) return true;
    struct Touching : b2QueryCallback {
        b2PolygonShape shape;
        b2Transform at;
        bool any = false;
        bool ReportFixture(b2Fixture* f) override {
            if (static_cast<FixtureKind>(f->GetUserData().pointer) != FixtureKind::solid) return true;
            for (int i = 0; i < f->GetShape()->GetChildCount() && !any; ++i)
                any = b2TestOverlap(f->GetShape(), i, &shape, 0, f->GetBody()->GetTransform(), at);
            return !any;
        }
    } touching;
    // A little smaller than he is: what he only touches, he is not in.
    constexpr float skin = 0.04F;
    const float high = side ? half.y : foot_half;
    const float down = side ? 0 : half.y - (level->isometric ? 0 : foot_half);
    touching.shape.SetAsBox(std::max(0.01F, half.x - skin), std::max(0.01F, high - skin), {0, down}, 0);
    touching.at.Set(at, 0);
    b2AABB box;
    touching.shape.ComputeAABB(&box, touching.at, 0);
    world.QueryAABB(&touching, box);
    return touching.any;
}

} // namespace vic::walk
