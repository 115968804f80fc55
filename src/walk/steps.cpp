// How the walker moves in a tick.
#include <algorithm>
#include <cmath>
#include <numbers>

#include "level/walker.hpp"
#include "walk/body.hpp"

namespace vic::walk {

namespace {

constexpr float kStepDown = 0.3F; // cells: how far down the walker keeps to the ground
constexpr float kSink = 0.25F;    // share of the speed of swimming with which it sinks

} // namespace

bool World::Parts::find_ground(b2Vec2& normal) const {
    bool found = false;
    float best = kSteepest;
    each_touch(*walker, [&](const b2WorldManifold&, const b2Vec2& n) {
        if (-n.y >= best) {
            best = -n.y;
            normal = n;
            found = true;
        }
        return true;
    });
    return found;
}

int World::Parts::find_wall() const {
    int wall = 0;
    each_touch(*walker, [&](const b2WorldManifold&, const b2Vec2& n) {
        if (std::abs(n.x) > 0.9F) wall = n.x < 0 ? 1 : -1;
        return wall == 0;
    });
    return wall;
}

float World::Parts::ground_below(float reach) const {
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

float World::Parts::pace(const Input& input) const {
    return static_cast<float>(input.run && level->walker.run > 0 ? level->walker.run : level->walker.speed);
}

// On a ladder nothing pulls down. It is taken with up or down, and left by a jump or at its end.
bool World::Parts::climb(const Input& input, float wanted) {
    const bool here = level->walker.climb > 0 && within("ladder");
    if (here && (input.up || (input.down && !on_ground))) on_ladder = true;
    const bool jumps = input.jump && !jump_held && !input.up;
    if (!here || jumps) on_ladder = false;
    if (!on_ladder) return false;
    const auto speed = static_cast<float>(level->walker.climb);
    walker->SetLinearVelocity({wanted, (input.down ? speed : 0) - (input.up ? speed : 0)});
    dropping = true; // of one-way edges it goes through
    since_ground = 0;
    jumping = false;
    jump_held = input.jump;
    on_ground = false;
    return true;
}

// In water one goes up and down, too; with a jump one leaves it upwards.
bool World::Parts::swim(const Input& input, float wanted) {
    const bool was = in_water;
    in_water = level->walker.swim > 0 && within("water");
    if (!in_water) {
        if (was && (input.jump || input.up) && level->walker.jump > 0) {
            const b2Vec2 v = walker->GetLinearVelocity();
            walker->SetLinearVelocity({v.x, motion_of(level->walker).take_off(level->walker.jump)});
            rising = 4;
            on_ground = false;
            jumping = false;
            jump_held = true;
            return true;
        }
        return false;
    }
    const auto speed = static_cast<float>(level->walker.swim);
    const float along = std::clamp(wanted, -speed, speed);
    const bool up = input.jump || input.up;
    walker->SetLinearVelocity({along, up ? -speed : input.down ? speed : kSink * speed});
    dropping = input.down;
    jump_held = input.jump;
    since_ground = 100;
    jumping = false;
    b2Vec2 normal;
    on_ground = find_ground(normal);
    return true;
}

void World::Parts::tick_side(const Input& input) {
    float wanted = ((input.right ? 1.0F : 0.0F) - (input.left ? 1.0F : 0.0F)) * pace(input);
    if (pushed != 0) {
        wanted = pushed > 0 ? pace(input) : -pace(input);
        pushed += pushed > 0 ? -1 : 1;
    }
    dropping = input.down;
    if (climb(input, wanted)) return;
    if (swim(input, wanted)) return note_bumps({wanted, 0});
    fly(input, wanted);
    note_bumps({wanted, 0});
}

// On the ground and in the air.
void World::Parts::fly(const Input& input, float wanted) {
    const Motion motion = motion_of(level->walker);
    b2Vec2 normal(0, -1);
    const bool was = on_ground;
    on_ground = rising == 0 && find_ground(normal);
    if (on_ground && !was && since_ground > 10 && ticks > 10) note(Happening::Kind::landed);
    since_ground = on_ground ? 0 : since_ground + 1;
    since_jump = input.jump && !jump_held ? 0 : since_jump + 1;
    jump_held = input.jump;
    if (rising > 0) --rising;

    b2Vec2 v = walker->GetLinearVelocity();
    const bool remembered = since_jump <= ticks_of(level->walker.grace_landing);
    const int wall = level->walker.wall_jump > 0 && !on_ground ? find_wall() : 0;
    const bool takes_off =
        remembered && !dropping && since_ground <= ticks_of(level->walker.grace_edge) && level->walker.jump > 0;
    const auto leap = [&](double height) {
        v.y = motion.take_off(height);
        rising = 4;
        since_jump = since_ground = 100;
        on_ground = false;
        jumping = true;
        jumped_from = walker->GetPosition().y;
    };
    if (takes_off) {
        v.x = wanted;
        leap(level->walker.jump);
    } else if (remembered && wall != 0) {
        v.x = wall > 0 ? -pace(input) : pace(input);
        leap(level->walker.wall_jump);
        pushed = wall > 0 ? -kPushOff : kPushOff;
    } else if (on_ground && !dropping) {
        // Along the ground, not into it: on a level floor nothing moves up or down at all.
        v = wanted * b2Vec2(-normal.y, normal.x);
        jumping = false;
    } else {
        v.x = wanted;
        v.y = motion.falling(v.y);
        // A key let go ends the rise.
        const double least = level->walker.least_jump;
        if (jumping && !input.jump && v.y < 0 && least > 0 && jumped_from - walker->GetPosition().y >= least) v.y = 0;
        if (v.y >= 0) jumping = false;
        // Over the brow of a slope the foot keeps to the ground.
        if (since_ground == 1 && rising == 0 && !dropping) {
            const float gap = ground_below(kStepDown);
            if (gap > 0.0F) v.y = std::max(v.y, gap / kTick);
            if (gap >= 0.0F) since_ground = 0;
        }
    }
    walker->SetLinearVelocity(v);
}

void World::Parts::tick_above(const Input& input) {
    b2Vec2 way(static_cast<float>(input.right) - static_cast<float>(input.left),
               static_cast<float>(input.down) - static_cast<float>(input.up));
    // Of four ways the one that was not gone before counts where two keys are down.
    if (level->walker.ways == 4 && way.x != 0 && way.y != 0)
        (across ? way.x : way.y) = 0;
    else if (way.x != 0 || way.y != 0)
        across = way.x != 0;
    // The keys go by the screen: right is x more and y less, down both more.
    if (level->isometric) way = {way.x + way.y, way.y - way.x};
    if (way.LengthSquared() > 0) way.Normalize();
    if (level->walker.ways == level::kAllWays && input.towards >= 0) {
        const float turn = static_cast<float>(input.towards) * std::numbers::pi_v<float> / 180;
        way = {std::cos(turn), std::sin(turn)};
    }
    walker->SetLinearVelocity(pace(input) * way);
    on_ground = true;
    note_bumps(way);
}

} // namespace vic::walk
