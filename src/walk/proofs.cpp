#include "walk/proofs.hpp"

#include <algorithm>
#include <cmath>

namespace vic::walk {

namespace {

constexpr int kTicksOfTrail = 6;
constexpr double kAstray = 1;   // cells
constexpr double kClear = 0.03; // cells above what it stands on

Point units(Position p) {
    return {static_cast<int>(std::lround(p.x * vicinum::kUnit)), static_cast<int>(std::lround(p.y * vicinum::kUnit))};
}

Position cells(vicinum::Vec p) { return {double(p.x) / vicinum::kUnit, double(p.y) / vicinum::kUnit}; }

double apart(Position a, Position b) { return std::hypot(a.x - b.x, a.y - b.y); }

} // namespace

void Recorder::note(const Input& input, Position foot) {
    if (full()) return;
    const std::uint8_t keys = keys_of(input);
    const auto towards = static_cast<std::int16_t>(std::max(-1, input.towards));
    if (held_.empty() || held_.back().keys != keys || held_.back().towards != towards)
        held_.push_back({0, keys, towards});
    ++held_.back().ticks;
    last_ = foot;
    if (++ticks_ % kTicksOfTrail == 0) way_.push_back(foot);
}

level::Proof Recorder::proof(const std::string& name, const std::string& mark) const {
    level::Proof out;
    out.name = name;
    out.from = units(from_);
    out.held = held_;
    out.mark = mark;
    constexpr std::size_t every = level::kTicksOfWay / kTicksOfTrail;
    for (std::size_t i = every; i < way_.size(); i += every) out.way.push_back(units(way_[i]));
    if (ticks_ > 0) out.way.push_back(units(last_));
    return out;
}

vicinum::Proof as_built(const level::Proof& proof) {
    vicinum::Proof out;
    out.name = proof.name;
    out.from = {proof.from.x, proof.from.y};
    for (const level::Held& h : proof.held) out.held.push_back({h.ticks, h.keys, h.towards});
    for (const Point at : proof.way) out.way.push_back({at.x, at.y});
    out.mark = proof.mark;
    return out;
}

std::string exit_touched(const vicinum::Level& level, const World& world) {
    for (const vicinum::Mark& m : level.marks)
        if (m.kind == "exit" &&
            std::find(world.touched().begin(), world.touched().end(), m.id) != world.touched().end())
            return m.name;
    return {};
}

Proved prove(const vicinum::Level& level, const vicinum::Proof& proof) {
    World world(level);
    world.place(cells(proof.from));
    Proved out;
    std::size_t next = 0;
    const auto look = [&] {
        if (next >= proof.way.size() || out.was) return;
        const Position was = cells(proof.way[next++]);
        if (apart(was, world.foot()) <= kAstray) return;
        out.was = was;
        out.at = world.foot();
        out.astray = world.ticks();
    };
    const auto touched = [&] {
        return std::any_of(level.marks.begin(), level.marks.end(), [&](const vicinum::Mark& m) {
            return m.name == proof.mark &&
                   std::find(world.touched().begin(), world.touched().end(), m.id) != world.touched().end();
        });
    };
    for (const auto& [ticks, keys, towards] : proof.held)
        for (int i = 0; i < ticks && !world.fell_out(); ++i) {
            world.tick(input_of(keys, towards));
            if (world.ticks() % level::kTicksOfWay == 0) look();
        }
    const Position end = world.foot();
    out.ticks = world.ticks();
    out.holds = !proof.mark.empty() ? touched() : proof.way.empty() || apart(end, cells(proof.way.back())) <= kAstray;
    if (out.holds || !out.was) out.at = end;
    if (out.holds) out.was.reset();
    return out;
}

bool holds(const World& world, const vicinum::Probe& probe) {
    const Position at = cells(probe.at);
    return world.stuck({at.x, at.y - kClear}) == probe.blocks;
}

} // namespace vic::walk
