#include "walk/world.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "walk/body.hpp"

namespace vic::walk {

std::uint8_t keys_of(const Input& input) {
    return static_cast<std::uint8_t>(input.left | (input.right << 1) | (input.up << 2) | (input.down << 3) |
                                     (input.jump << 4) | (input.run << 5));
}

Input input_of(unsigned keys, int towards) {
    return {(keys & 1U) != 0, (keys & 2U) != 0,  (keys & 4U) != 0, (keys & 8U) != 0,
            (keys & 16U) != 0, (keys & 32U) != 0, towards};
}

int towards(Position from, Position to) {
    constexpr double kThere = 0.1; // cells
    const double x = to.x - from.x, y = to.y - from.y;
    if (std::hypot(x, y) < kThere) return -1;
    return (static_cast<int>(std::lround(std::atan2(y, x) * 180 / std::numbers::pi)) + 360) % 360;
}

World::World(const vicinum::Level& level, const std::string& mover) : parts_(std::make_unique<Parts>(level, mover)) {
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
    if (!parts_->fallen && fell_out()) {
        parts_->fallen = true;
        parts_->note(Happening::Kind::fell_out);
    }
}

void World::take_over(const World& other) {
    Parts& to = *parts_;
    const Parts& from = *other.parts_;
    Position foot = other.foot();
    constexpr double step = 0.125, most = 4; // cells
    for (double up = 0; stuck(foot) && up < most; up += step) foot.y -= step;
    to.walker->SetTransform({static_cast<float>(foot.x), static_cast<float>(foot.y) - to.half.y}, 0);
    to.walker->SetLinearVelocity(from.walker->GetLinearVelocity());
    to.ticks = from.ticks;
    to.since_ground = from.since_ground;
    to.jump_held = from.jump_held;
    to.on_ladder = from.on_ladder;
    to.touched = from.touched;
    to.exit = from.exit;
    to.happenings = from.happenings;
}

Position World::foot() const { return parts_->foot(); }

bool World::grounded() const { return parts_->on_ground; }
int World::ticks() const { return parts_->ticks; }
const std::vector<std::uint32_t>& World::touched() const { return parts_->touched; }
bool World::reached_exit() const { return parts_->exit; }
int World::chain_count() const { return parts_->chains; }
bool World::climbing() const { return parts_->on_ladder; }
bool World::swimming() const { return parts_->in_water; }
const std::vector<Happening>& World::happenings() const { return parts_->happenings; }
bool World::stuck(Position foot) const { return parts_->stuck_at(foot); }

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

Position followed(const vicinum::Level& level, Position centre, Position foot) {
    const double x = level.walker.slack.x / 2.0 / level.cell.x, y = level.walker.slack.y / 2.0 / level.cell.y;
    return {std::clamp(centre.x, foot.x - x, foot.x + x), std::clamp(centre.y, foot.y - y, foot.y + y)};
}

Try play(const vicinum::Level& level, const std::vector<Step>& script, std::optional<Position> from) {
    World world(level);
    if (from) world.place(*from);
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
