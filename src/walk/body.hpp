// What a World is made of: the bodies of level and walker, and how the walker moves in a tick. Only for src/walk.
#pragma once

#include <box2d/box2d.h>

#include <cstdint>
#include <string>
#include <vector>

#include "walk/world.hpp"

namespace vic::walk {

// Bits of fixtures, so that a contact knows what it is.
enum class FixtureKind : std::uintptr_t { walker = 1, solid, one_way };

inline constexpr float kSteepest = 0.6F; // the least upward part of a normal that counts as ground

inline float metres(int units) { return static_cast<float>(units) / vicinum::kUnit; }

// What touches the walker, and counts: visit(manifold, the normal towards him) until that says false.
template <class Visit>
void each_touch(const b2Body& walker, const Visit& visit) {
    for (const b2ContactEdge* e = walker.GetContactList(); e; e = e->next) {
        if (!e->contact->IsTouching() || !e->contact->IsEnabled()) continue;
        b2WorldManifold manifold;
        e->contact->GetWorldManifold(&manifold);
        b2Vec2 normal = manifold.normal; // from A to B
        if (e->contact->GetFixtureB()->GetBody() != &walker) normal = -normal;
        if (!visit(manifold, normal)) return;
    }
}

struct World::Parts : b2ContactListener {
    Parts(const vicinum::Level& l, const std::string& as_mover);

    void add_chain(const std::vector<vicinum::Vec>& points);
    void add_foot(const vicinum::Prop& prop);
    void add_sides();
    void add_one_way(const vicinum::OneWay& e);
    void add_walker();
    // One-way edges stop only what was wholly outside when it came; from inside one passes.
    void PreSolve(b2Contact* contact, const b2Manifold* before) override;

    // The steepest upward normal among the enabled contacts.
    [[nodiscard]] bool find_ground(b2Vec2& normal) const;
    // 1 where a wall to the right of the walker is touched, -1 to the left, 0 for none.
    [[nodiscard]] int find_wall() const;
    // How far below the foot the ground is, up to `reach`; negative where there is none.
    [[nodiscard]] float ground_below(float reach) const;
    // Whether the walker's middle or, of water, his middle or feet are in an area that means that.
    [[nodiscard]] bool within(const char* means) const;

    [[nodiscard]] bool in_area(const vicinum::Telling& area) const;

    void tick_side(const Input& input);
    void tick_above(const Input& input);
    void note_touches();
    void note_bumps(const b2Vec2& wanted);
    void note(Happening::Kind kind, std::uint32_t id = 0);
    [[nodiscard]] Position foot() const;
    [[nodiscard]] bool stuck_at(Position foot) const;

    const vicinum::Level* level;
    std::string mover;
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
    float jumped_from = 0; // how high the foot was
    bool jumping = false;  // rising from a jump that can be cut short
    int pushed = 0;        // ticks in which it still goes away from a wall, to the right; negative to the left
    bool jump_held = false;
    bool dropping = false;
    bool on_ground = false;
    bool on_ladder = false;
    bool in_water = false;
    bool exit = false;
    bool fallen = false; // out of the level; told once
    bool across = false; // of four ways: the one that was gone last
    std::vector<std::uint32_t> touched;
    std::vector<char> told; // by place in Level::telling
    std::vector<Happening> happenings;
    Position bumped{-1e9, -1e9}; // the last place
    int bumped_at = -1000;       // its tick

  private:
    [[nodiscard]] bool climb(const Input& input, float wanted);
    [[nodiscard]] bool swim(const Input& input, float wanted);
    void fly(const Input& input, float wanted);
    [[nodiscard]] float pace(const Input& input) const;
};

} // namespace vic::walk
