#include "kits.hpp"

#include <array>
#include <cstdio>
#include <map>
#include <vector>

#include "base/chance.hpp"

namespace pell {

using namespace vic;

namespace {

// A file of boxes and slopes, in metres about the middle of a cell: x to the east, y up, z to the south.
class Kit {
  public:
    void finish(const std::string& name, double r, double g, double b) {
        char line[120];
        std::snprintf(line, sizeof line, "newmtl %s\nKd %.3f %.3f %.3f\n", name.c_str(), r, g, b);
        out_.mtl += line;
    }
    void piece(const std::string& name) { out_.obj += "o " + name + "\n"; }
    void box(const std::string& finish, double x0, double y0, double z0, double x1, double y1, double z1) {
        use(finish);
        const std::array<std::array<double, 3>, 8> p{{{x0, y0, z0},
                                                      {x1, y0, z0},
                                                      {x1, y0, z1},
                                                      {x0, y0, z1},
                                                      {x0, y1, z0},
                                                      {x1, y1, z0},
                                                      {x1, y1, z1},
                                                      {x0, y1, z1}}};
        points({p.begin(), p.end()});
        for (const auto& f : {std::array{1, 2, 3, 4}, std::array{8, 7, 6, 5}, std::array{5, 6, 2, 1},
                              std::array{6, 7, 3, 2}, std::array{7, 8, 4, 3}, std::array{8, 5, 1, 4}})
            face({f[0], f[1], f[2], f[3]});
        count_ += 8;
    }
    // A slab that rises to the north: its lower edge in the south at y0, its upper one at y1.
    void slope(const std::string& finish, double x0, double z0, double x1, double z1, double y0, double y1,
               double thick) {
        use(finish);
        points({{x0, y1, z0},
                {x1, y1, z0},
                {x1, y0, z1},
                {x0, y0, z1},
                {x0, y1 - thick, z0},
                {x1, y1 - thick, z0},
                {x1, y0 - thick, z1},
                {x0, y0 - thick, z1}});
        for (const auto& f : {std::array{4, 3, 2, 1}, std::array{5, 6, 7, 8}, std::array{1, 2, 6, 5},
                              std::array{2, 3, 7, 6}, std::array{3, 4, 8, 7}, std::array{4, 1, 5, 8}})
            face({f[0], f[1], f[2], f[3]});
        count_ += 8;
    }
    KitText text(const std::string& mtl) {
        out_.obj = "mtllib " + mtl + "\n" + out_.obj;
        return out_;
    }

  private:
    void use(const std::string& finish) { out_.obj += "usemtl " + finish + "\n"; }
    void points(const std::vector<std::array<double, 3>>& all) {
        for (const auto& p : all) {
            char line[80];
            std::snprintf(line, sizeof line, "v %.3f %.3f %.3f\n", p[0], p[1], p[2]);
            out_.obj += line;
        }
    }
    void face(const std::vector<int>& corners) {
        out_.obj += "f";
        for (const int c : corners) out_.obj += " " + std::to_string(count_ + c);
        out_.obj += "\n";
    }
    KitText out_;
    int count_ = 0;
};

constexpr double kHalf = 1, kHigh = 3; // of a cell, and of a storey
constexpr double kThick = 0.14;        // half of a wall

// From the middle to the sides that are set (north 1, east 2, south 4, west 8), with a height from .. to.
void arms(Kit& kit, const std::string& finish, unsigned sides, double thick, double from, double to) {
    kit.box(finish, -thick, from, -thick, thick, to, thick);
    if (sides & 1U) kit.box(finish, -thick, from, -kHalf, thick, to, -thick);
    if (sides & 2U) kit.box(finish, thick, from, -thick, kHalf, to, thick);
    if (sides & 4U) kit.box(finish, -thick, from, thick, thick, to, kHalf);
    if (sides & 8U) kit.box(finish, -kHalf, from, -thick, -thick, to, thick);
}

// Courses of brick between a plinth and a coping.
void brick_wall(Kit& kit, unsigned sides) {
    arms(kit, "stone", sides, kThick + 0.05, 0, 0.3);
    for (int course = 0; course < 5; ++course)
        arms(kit, course % 2 == 0 ? "brick" : "brick-dark", sides, kThick, 0.3 + course * 0.5, 0.8 + course * 0.5);
    arms(kit, "coping", sides, kThick + 0.04, 2.8, kHigh);
}

// A wall to the north and south with a gap in it: from `low` to `high`, so wide.
void pierced(Kit& kit, double low, double high, double wide) {
    const double w = wide / 2;
    for (const double side : {-1.0, 1.0}) {
        const auto part = [&](const std::string& finish, double thick, double from, double to) {
            const double a = side * w, b = side * kHalf;
            kit.box(finish, -thick, from, std::min(a, b), thick, to, std::max(a, b));
        };
        part("stone", kThick + 0.05, 0, 0.3);
        for (int course = 0; course < 5; ++course)
            part(course % 2 == 0 ? "brick" : "brick-dark", kThick, 0.3 + course * 0.5, 0.8 + course * 0.5);
        part("coping", kThick + 0.04, 2.8, kHigh);
    }
    if (low > 0) kit.box("brick", -kThick, 0, -w, kThick, low, w);
    kit.box("brick", -kThick, high, -w, kThick, 2.8, w);
    kit.box("coping", -kThick - 0.04, 2.8, -w, kThick + 0.04, kHigh, w);
    kit.box("timber", -kThick - 0.03, high - 0.12, -w, kThick + 0.03, high, w); // the lintel
}

void floor_of(Kit& kit, const std::string& name, const std::vector<std::string>& finishes, int boards, double thick) {
    kit.piece(name);
    const double wide = 2 * kHalf / boards;
    for (int i = 0; i < boards; ++i)
        kit.box(finishes[static_cast<std::size_t>(i) % finishes.size()], -kHalf + i * wide, -thick, -kHalf,
                -kHalf + (i + 1) * wide, 0, kHalf);
}

void railing(Kit& kit, const std::string& name, unsigned sides) {
    kit.piece(name);
    kit.box("timber", -0.06, 0, -0.06, 0.06, 1.05, 0.06);
    for (const double y : {0.45, 0.95}) arms(kit, "timber-light", sides, 0.03, y, y + 0.08);
}

} // namespace

KitText pump_house_kit() {
    Kit kit;
    kit.finish("brick", 0.56, 0.30, 0.23);
    kit.finish("brick-dark", 0.50, 0.26, 0.20);
    kit.finish("stone", 0.55, 0.53, 0.48);
    kit.finish("stone-dark", 0.47, 0.46, 0.43);
    kit.finish("coping", 0.66, 0.40, 0.32);
    kit.finish("timber", 0.36, 0.26, 0.17);
    kit.finish("timber-light", 0.50, 0.37, 0.24);
    kit.finish("plank", 0.72, 0.56, 0.36);
    kit.finish("plank-dark", 0.66, 0.50, 0.31);
    kit.finish("slate", 0.36, 0.39, 0.42);
    kit.finish("slate-dark", 0.31, 0.34, 0.38);
    kit.finish("iron", 0.28, 0.34, 0.36);
    kit.finish("brass", 0.70, 0.56, 0.26);
    const std::pair<const char*, unsigned> walls[] = {{"Brick wall post", 0},     {"Brick wall end", 1},
                                                      {"Brick wall straight", 5}, {"Brick wall corner", 3},
                                                      {"Brick wall tee", 11},     {"Brick wall cross", 15}};
    for (const auto& [name, sides] : walls) {
        kit.piece(name);
        brick_wall(kit, sides);
    }
    kit.piece("Brick wall door");
    pierced(kit, 0, 2.2, 1);
    kit.piece("Brick wall window");
    pierced(kit, 0.9, 2.1, 1.1);
    kit.piece("Brick wall gate");
    pierced(kit, 0, 2.6, 1.6);
    floor_of(kit, "Plank floor a", {"plank", "plank-dark"}, 8, 0.1);
    floor_of(kit, "Plank floor b", {"plank-dark", "plank", "plank"}, 8, 0.1);
    floor_of(kit, "Plank floor c", {"plank", "plank", "plank-dark", "plank"}, 8, 0.1);
    floor_of(kit, "Quay a", {"stone", "stone-dark"}, 4, 0.5);
    floor_of(kit, "Quay b", {"stone-dark", "stone"}, 4, 0.5);
    kit.piece("Boardwalk straight");
    for (int i = 0; i < 8; ++i)
        kit.box(i % 2 ? "timber-light" : "plank-dark", -0.8, 0.05, -kHalf + i * 0.25, 0.8, 0.15,
                -kHalf + i * 0.25 + 0.25);
    for (const double x : {-0.7, 0.7}) kit.box("timber", x - 0.08, -0.4, -0.08, x + 0.08, 0.05, 0.08);
    kit.piece("Stairs");
    for (int i = 0; i < 12; ++i)
        kit.box(i % 2 ? "stone" : "stone-dark", -0.8, 0, -2 + i / 3.0, 0.8, kHigh - i * 0.25, -2 + (i + 1) / 3.0);
    railing(kit, "Railing straight", 5);
    railing(kit, "Railing corner", 3);
    railing(kit, "Railing end", 1);
    railing(kit, "Railing tee", 11);
    railing(kit, "Railing post", 0);
    railing(kit, "Railing cross", 15);
    for (const auto& [name, top] : {std::pair{"Roof lower", 0.9}, std::pair{"Roof upper", 1.8}}) {
        kit.piece(name);
        for (int i = 0; i < 4; ++i) {
            const double a = top - 0.82 + i * 0.225, z = kHalf - i * 0.5;
            kit.slope(i % 2 ? "slate" : "slate-dark", -kHalf, z - 0.5, kHalf, z, a, a + 0.225, 0.08);
        }
    }
    kit.piece("Chimney");
    kit.box("brick-dark", -0.35, 0, -0.35, 0.35, 2.2, 0.35);
    kit.box("coping", -0.42, 2.2, -0.42, 0.42, 2.4, 0.42);
    kit.piece("Pump");
    kit.box("stone", -0.7, 0, -0.7, 0.7, 0.3, 0.7);
    kit.box("iron", -0.45, 0.3, -0.45, 0.45, 1.2, 0.45);
    kit.box("brass", -0.2, 1.2, -0.2, 0.2, 1.7, 0.2);
    kit.box("iron", -0.1, 0.7, 0.45, 0.1, 0.9, 0.9);
    kit.piece("Sluice");
    for (const double x : {-0.9, 0.8}) kit.box("timber", x, 0, -0.1, x + 0.1, 2, 0.1);
    kit.box("timber-light", -0.8, 0.1, -0.05, 0.8, 1.3, 0.05);
    kit.box("timber", -kHalf, 1.9, -0.12, kHalf, 2.1, 0.12);
    return kit.text("pump-house.mtl");
}

KitText salt_walls_kit() {
    Kit kit;
    kit.finish("salt", 0.87, 0.86, 0.81);
    kit.finish("salt-dark", 0.78, 0.77, 0.73);
    kit.finish("clay", 0.63, 0.52, 0.38);
    kit.finish("clay-dark", 0.58, 0.47, 0.34);
    for (unsigned sides = 0; sides < 16; ++sides) {
        kit.piece("salt_" + std::to_string(sides));
        arms(kit, "salt-dark", sides, 0.4, 0, 0.4);
        arms(kit, "salt", sides, 0.34, 0.4, 1.9);
        arms(kit, "salt-dark", sides, 0.3, 1.9, 2.2);
    }
    floor_of(kit, "Clay floor a", {"clay", "clay-dark"}, 2, 0.2);
    floor_of(kit, "Clay floor b", {"clay", "clay", "clay-dark"}, 3, 0.2);
    floor_of(kit, "Clay floor c", {"clay-dark", "clay", "clay", "clay"}, 4, 0.2);
    return kit.text("salt-walls.mtl");
}

KitText quay_things_kit() {
    Kit kit;
    kit.finish("timber", 0.36, 0.26, 0.17);
    kit.finish("timber-light", 0.50, 0.37, 0.24);
    kit.finish("plank", 0.72, 0.56, 0.36);
    kit.finish("plank-dark", 0.66, 0.50, 0.31);
    kit.finish("iron", 0.28, 0.34, 0.36);
    kit.finish("salt", 0.87, 0.86, 0.81);
    kit.finish("brine", 0.42, 0.58, 0.60);
    kit.piece("Salt cart");
    for (const double x : {-0.52, 0.44}) { // wheels of two boxes, which is round enough for their size
        kit.box("timber", x, 0, -0.18, x + 0.08, 0.6, 0.18);
        kit.box("timber", x, 0.12, -0.3, x + 0.08, 0.48, 0.3);
    }
    kit.box("iron", -0.44, 0.26, -0.04, 0.44, 0.34, 0.04);
    kit.box("timber-light", -0.4, 0.4, -0.7, 0.4, 0.46, 0.6);
    for (const double x : {-0.4, 0.34}) kit.box("plank", x, 0.46, -0.7, x + 0.06, 0.8, 0.6);
    for (const double z : {-0.7, 0.54}) kit.box("plank-dark", -0.34, 0.46, z, 0.34, 0.8, z + 0.06);
    kit.box("salt", -0.34, 0.46, -0.64, 0.34, 0.86, 0.54);
    kit.box("salt", -0.22, 0.86, -0.44, 0.22, 1.0, 0.34);
    for (const double x : {-0.34, 0.28}) kit.box("timber", x, 0.4, 0.6, x + 0.06, 0.46, 1.1);
    kit.piece("Hoist");
    kit.box("timber", -0.5, 0, -0.08, 0.5, 0.14, 0.08);
    kit.box("timber", -0.08, 0, -0.5, 0.08, 0.14, 0.5);
    kit.box("timber", -0.09, 0.14, -0.09, 0.09, 2.7, 0.09);
    kit.box("timber-light", -0.07, 2.46, -0.5, 0.07, 2.62, 1.3);
    kit.box("iron", -0.015, 1.5, 1.15, 0.015, 2.46, 1.18);
    kit.box("plank", -0.24, 1.06, 0.92, 0.24, 1.5, 1.4);
    kit.piece("Brine vat");
    kit.box("plank", -0.5, 0, -0.36, 0.5, 0.9, 0.36);
    kit.box("plank-dark", -0.36, 0, -0.5, 0.36, 0.9, 0.5);
    for (const double y : {0.16, 0.66}) {
        kit.box("iron", -0.52, y, -0.38, 0.52, y + 0.06, 0.38);
        kit.box("iron", -0.38, y, -0.52, 0.38, y + 0.06, 0.52);
    }
    kit.box("brine", -0.4, 0.9, -0.4, 0.4, 0.91, 0.4);
    kit.piece("Stack of planks");
    for (int i = 0; i < 4; ++i)
        kit.box(i % 2 ? "plank" : "plank-dark", -0.42 + 0.02 * i, 0.14 * i, -0.95 + 0.05 * i, 0.40 - 0.03 * i,
                0.14 * i + 0.12, 0.9 - 0.04 * i);
    return kit.text("quay-things.mtl");
}

// Walls on every second row and column; in each cell of the maze the way to the north or to the west is open.
Image salt_maze_plan() {
    constexpr int kSide = 32;
    const Rgba wall{222, 219, 207, 255}, floor{160, 132, 96, 255};
    Image out({kSide, kSide}, wall);
    for (int y = 1; y < kSide - 1; y += 2)
        for (int x = 1; x < kSide - 1; x += 2) {
            out.set(x, y, floor);
            const bool north = y > 1 && (x == 1 || (place_hash(31, x, y) & 1U) != 0);
            if (north)
                out.set(x, y - 1, floor);
            else if (x > 1)
                out.set(x - 1, y, floor);
        }
    return out;
}

} // namespace pell
