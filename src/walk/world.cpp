#include "walk/world.hpp"

#include <box2d/box2d.h>

#include <algorithm>
#include <cmath>

namespace vic::walk {

namespace {

constexpr float kAirControl = 0.2F; // share of the wanted speed taken on a tick in the air
constexpr int kJumpGrace = 5;       // ticks after leaving the ground in which a jump still counts
constexpr int kJumpBuffer = 5;      // ticks before landing in which a jump is remembered
constexpr float kStepDown = 0.3F;   // cells: how far down the walker keeps to the ground
constexpr float kSteepest = 0.6F;   // the least upward part of a normal that counts as ground

// Bits of fixtures, so that a contact knows what it is.
enum class FixtureKind : std::uintptr_t { walker = 1, solid, one_way };

float metres(int units) { return static_cast<float>(units) / vicinum::kUnit; }

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

struct World::Parts : b2ContactListener {
    explicit Parts(const vicinum::Level& l) : level(&l), world(b2Vec2(0, 0)), side(l.from_the_side) {
        half = {metres(std::max(8, l.walker.width)) / 2, metres(std::max(8, l.walker.height)) / 2};
        b2BodyDef ground;
        mass = world.CreateBody(&ground);
        for (const vicinum::Outline& o : l.outlines) add_chain(o.points);
        if (!l.props_merged)
            for (const vicinum::Layer& layer : l.layers)
                for (const vicinum::Prop& p : layer.props) add_foot(p);
        for (const vicinum::OneWay& e : l.one_way) add_one_way(e);
        add_sides();
        add_walker();
        world.SetContactListener(this);
    }

    void add_chain(const std::vector<vicinum::Vec>& points) {
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

    void add_foot(const vicinum::Prop& prop) {
        for (const std::vector<vicinum::Place>& outline : level->blocking(prop)) {
            std::vector<b2Vec2> corners;
            for (const vicinum::Place p : outline)
                corners.emplace_back(static_cast<float>(p.x), static_cast<float>(p.y));
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

    void add_sides() {
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

    void add_one_way(const vicinum::OneWay& e) {
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

    void add_walker() {
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
            foot_half = std::min(half.x, half.y);
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

    // One-way edges stop only what was wholly outside when it came; from inside one passes.
    void PreSolve(b2Contact* contact, const b2Manifold*) override {
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

    // The steepest upward normal among the enabled contacts.
    [[nodiscard]] bool find_ground(b2Vec2& normal) const {
        bool found = false;
        float best = kSteepest;
        for (const b2ContactEdge* e = walker->GetContactList(); e; e = e->next) {
            if (!e->contact->IsTouching() || !e->contact->IsEnabled()) continue;
            b2WorldManifold manifold;
            e->contact->GetWorldManifold(&manifold);
            b2Vec2 n = manifold.normal; // from A to B
            if (e->contact->GetFixtureB()->GetBody() != walker) n = -n;
            if (-n.y >= best) {
                best = -n.y;
                normal = n;
                found = true;
            }
        }
        return found;
    }

    // How far below the foot the ground is, up to `reach`; negative where there is none.
    [[nodiscard]] float ground_below(float reach) const {
        struct Nearest : b2RayCastCallback {
            float fraction = -1;
            float ReportFixture(b2Fixture* f, const b2Vec2&, const b2Vec2& n, float at) override {
                if (static_cast<FixtureKind>(f->GetUserData().pointer) == FixtureKind::walker || -n.y < kSteepest)
                    return -1;
                fraction = at;
                return at;
            }
        };
        float best = -1;
        for (const float dx : {-half.x + 0.09F, 0.0F, half.x - 0.09F}) {
            Nearest nearest;
            const b2Vec2 from = walker->GetPosition() + b2Vec2(dx, half.y - 0.05F);
            world.RayCast(&nearest, from, from + b2Vec2(0, reach + 0.05F));
            if (nearest.fraction < 0) continue;
            const float distance = nearest.fraction * (reach + 0.05F) - 0.05F;
            if (best < 0 || distance < best) best = std::max(distance, 0.0F);
        }
        return best;
    }

    void tick_side(const Input& input) {
        const float wanted =
            ((input.right ? 1.0F : 0.0F) - (input.left ? 1.0F : 0.0F)) * static_cast<float>(level->walker.speed);
        dropping = input.down;
        b2Vec2 normal(0, -1);
        on_ground = rising == 0 && find_ground(normal);
        since_ground = on_ground ? 0 : since_ground + 1;
        since_jump = input.jump && !jump_held ? 0 : since_jump + 1;
        jump_held = input.jump;
        if (rising > 0) --rising;

        b2Vec2 v = walker->GetLinearVelocity();
        if (since_jump <= kJumpBuffer && since_ground <= kJumpGrace && level->walker.jump > 0 && !dropping) {
            v.y = take_off(level->walker.jump);
            v.x = wanted;
            rising = 4;
            since_jump = kJumpBuffer + 1;
            since_ground = kJumpGrace + 1;
            on_ground = false;
        } else if (on_ground && !dropping) {
            // Along the ground, not into it: on a level floor nothing moves up or down at all.
            const b2Vec2 tangent(-normal.y, normal.x);
            v = wanted * tangent;
        } else {
            v.x += (wanted - v.x) * kAirControl;
            v.y = falling(v.y);
            // Over the brow of a slope the foot keeps to the ground.
            if (since_ground == 1 && rising == 0 && !dropping) {
                const float gap = ground_below(kStepDown);
                if (gap > 0.0F) v.y = std::max(v.y, gap / kTick);
                if (gap >= 0.0F) {
                    v.x = wanted;
                    since_ground = 0;
                }
            }
        }
        walker->SetLinearVelocity(v);
    }

    void tick_above(const Input& input) {
        b2Vec2 way(static_cast<float>(input.right) - static_cast<float>(input.left),
                   static_cast<float>(input.down) - static_cast<float>(input.up));
        // The keys go by the screen: right is x more and y less, down both more.
        if (level->isometric) way = {way.x + way.y, way.y - way.x};
        if (way.LengthSquared() > 0) way.Normalize();
        walker->SetLinearVelocity(static_cast<float>(level->walker.speed) * way);
        on_ground = true;
    }

    void note_touches() {
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
            exit = exit || m.kind == "exit";
        }
    }

    const vicinum::Level* level;
    b2World world;
    bool side;
    b2Body* mass = nullptr;
    b2Body* walker = nullptr;
    b2Vec2 half{0, 0};
    float foot_half = 0;
    int chains = 0;
    int ticks = 0;
    int rising = 0; // ticks after a jump in which the ground is not looked for
    int since_ground = 100;
    int since_jump = 100;
    bool jump_held = false;
    bool dropping = false;
    bool on_ground = false;
    bool exit = false;
    std::vector<std::uint32_t> touched;
};

World::World(const vicinum::Level& level) : parts_(std::make_unique<Parts>(level)) {
    Position start{level.size.x / 2.0, level.size.y / 2.0};
    for (const vicinum::Mark& m : level.marks) {
        if (m.kind != "start") continue;
        start = {m.cells.x + m.cells.w / 2.0,
                 level.isometric ? m.cells.y + m.cells.h / 2.0 : double(m.cells.y + m.cells.h)};
        break;
    }
    place(start);
}

World::~World() = default;
World::World(World&&) noexcept = default;
World& World::operator=(World&&) noexcept = default;

void World::place(Position foot) {
    // A hair above the floor, so that the first tick settles and does not push.
    const float y = static_cast<float>(foot.y) - parts_->half.y - (parts_->side ? 0.02F : 0.0F);
    parts_->walker->SetTransform({static_cast<float>(foot.x), y}, 0);
    parts_->walker->SetLinearVelocity({0, 0});
    parts_->note_touches();
}

void World::tick(const Input& input) {
    if (parts_->side)
        parts_->tick_side(input);
    else
        parts_->tick_above(input);
    parts_->world.Step(kTick, 8, 4);
    ++parts_->ticks;
    parts_->note_touches();
}

Position World::foot() const {
    const b2Vec2 p = parts_->walker->GetPosition();
    return {p.x, double(p.y) + parts_->half.y};
}

bool World::grounded() const { return parts_->on_ground; }
int World::ticks() const { return parts_->ticks; }
const std::vector<std::uint32_t>& World::touched() const { return parts_->touched; }
bool World::reached_exit() const { return parts_->exit; }
int World::chain_count() const { return parts_->chains; }

std::optional<int> World::left_by() const {
    b2Vec2 p = parts_->walker->GetPosition();
    if (!parts_->side) p.y += parts_->half.y - (parts_->level->isometric ? 0 : parts_->foot_half); // of its foot
    const auto& size = parts_->level->size;
    const bool out[4] = {p.y<0, p.x> static_cast<float>(size.x), p.y > static_cast<float>(size.y), p.x < 0};
    for (int side = 0; side < 4; ++side)
        if (out[side] && parts_->level->sides[side].kind == "leads") return side;
    return std::nullopt;
}

bool World::fell_out() const {
    const Position p = foot();
    const auto& size = parts_->level->size;
    return p.x < -2 || p.y < -2.0 - 2.0 * parts_->half.y || p.x > size.x + 2.0 ||
           p.y > size.y + 2.0 + 2.0 * parts_->half.y;
}

vicinum::Rect frame_around(const vicinum::Level& level, Position foot, vicinum::Vec frame) {
    const auto along = [](double centre, int shown, int from, int whole) {
        if (whole <= shown) return from + (whole - shown) / 2;
        return std::clamp(static_cast<int>(std::lround(centre - shown / 2.0)), from, from + whole - shown);
    };
    const double height = double(level.walker.height) / vicinum::kUnit;
    const vicinum::Rect all = level.bounds();
    const auto [x, y] = level.pixel(foot.x, foot.y);
    const double upright = level.isometric ? level.cell.x / 2.0 : level.cell.y; // pixels of a cell's height
    return {along(x, frame.x, all.x, all.w), along(y - height / 2 * upright, frame.y, all.y, all.h), frame.x, frame.y};
}

Try play(const vicinum::Level& level, const std::vector<Step>& script) {
    World world(level);
    Try out;
    out.path.emplace_back(0, world.foot());
    for (const Step& step : script) {
        for (int i = 0; i < step.ticks && !world.fell_out() && !world.left_by(); ++i) {
            world.tick(step.input);
            if (world.ticks() % 6 == 0) out.path.emplace_back(world.ticks(), world.foot());
        }
    }
    out.ticks = world.ticks();
    out.end = world.foot();
    if (out.path.back().first != out.ticks) out.path.emplace_back(out.ticks, out.end);
    out.fell_out = world.fell_out();
    out.reached_exit = world.reached_exit();
    out.left_by = world.left_by();
    out.touched = world.touched();
    return out;
}

} // namespace vic::walk
