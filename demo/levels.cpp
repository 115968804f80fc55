#include "levels.hpp"

#include <cmath>
#include <functional>
#include <stdexcept>

#include "art.hpp"
#include "edit/plant.hpp"
#include "edit/stroke.hpp"

namespace pell {

using namespace vic;
using level::LayerId;
using level::LayerKind;

namespace {

// Lays whole areas of one level and keeps count of ids.
class Builder {
  public:
    Builder(level::Project& project, const Stock& stock, std::string id, std::string name, level::View view, Size cells)
        : project_(project), stock_(stock), rules_(project) {
        level.id = std::move(id);
        level.name = std::move(name);
        level.view = view;
        level.size = cells;
    }

    LayerId add(const std::string& name, LayerKind kind, bool solid = false, int opacity = 100) {
        level::Layer layer;
        layer.id = project_.next_id++;
        layer.name = name;
        layer.content = level::empty_content(kind, level.size);
        if (level::TileCells* tiles = layer.tiles()) tiles->solid = solid;
        layer.opacity = opacity;
        const LayerId id = layer.id;
        level.layers.push_back(std::make_shared<const level::Layer>(std::move(layer)));
        return id;
    }

    void paint(LayerId layer, const std::string& material, const std::function<bool(int, int)>& where) {
        const edit::Hand hand{material.empty() ? edit::Held(edit::held::Eraser{})
                                               : edit::Held(edit::held::Material{stock_.materials.at(material)})};
        std::vector<Point> cells;
        for (int y = 0; y < level.size.h; ++y)
            for (int x = 0; x < level.size.w; ++x)
                if (where(x, y)) cells.push_back({x, y});
        level = edit::lay(project_, rules_, level, layer, hand, cells).level;
    }

    void paint(LayerId layer, const std::string& material, const Box& box) {
        paint(layer, material, [&](int x, int y) { return box.contains(Point{x, y}); });
    }

    void tile(LayerId layer, const std::string& name, Point at) {
        edit::Hand hand{edit::held::Tile{stock_.tiles.at(name)}};
        const Point cells[] = {at};
        level = edit::lay(project_, rules_, level, layer, hand, cells).level;
    }

    // `at` in cells: the middle of the foot.
    void prop(LayerId layer, const std::string& name, double x, double y, bool mirrored = false) {
        const Point at{static_cast<int>(std::lround(x * level.cell.w)),
                       static_cast<int>(std::lround(y * level.cell.h)) - 1};
        level.edit(layer).props().put({project_.next_id++, stock_.props.at(name), at, {mirrored}});
    }

    // With a figure it is an actor.
    void mark(const std::string& name, level::MarkKind kind, const Box& cells, const std::string& figure = {}) {
        level::Mark mark{project_.next_id++, name, kind, cells};
        if (!figure.empty()) mark.figure = stock_.props.at(figure);
        level.marks.push_back(std::move(mark));
    }

    void backdrop(LayerId layer, level::SheetId picture, Point at, int parallax, int steps_back) {
        level::Layer& l = level.edit(layer);
        l.parallax = {parallax, parallax};
        level::Backdrop& b = *l.backdrop();
        b.sheet = picture;
        b.at = at;
        b.down = false;
        b.steps_back = steps_back;
    }

    // Lets it grow, around all that stands by now.
    void plant(LayerId layer, level::Planting recipe) {
        level.edit(layer).planted()->recipe = std::move(recipe);
        edit::Planted grown = edit::planted(project_, level, layer);
        for (const auto& pass : grown.passes)
            if (pass.count == 0) throw std::runtime_error("A pass of the demo's planting grows nothing");
        level = std::move(grown.level);
        project_.next_id = grown.next_id;
    }

    [[nodiscard]] bool has(LayerId layer, Point at) const { return level.layer(layer)->grid().material(at) != 0; }

    level::Level level;

  private:
    level::Project& project_;
    const Stock& stock_;
    join::Rules rules_;
};

// Smooth random hills, 0 .. 1, about `scale` cells wide.
double hills(double x, double y, double scale, int seed) {
    x /= scale;
    y /= scale;
    const int ix = static_cast<int>(std::floor(x));
    const int iy = static_cast<int>(std::floor(y));
    const auto soft = [](double t) { return t * t * (3 - 2 * t); };
    const double fx = soft(x - ix), fy = soft(y - iy);
    const double top = chance(ix, iy, seed) * (1 - fx) + chance(ix + 1, iy, seed) * fx;
    const double low = chance(ix, iy + 1, seed) * (1 - fx) + chance(ix + 1, iy + 1, seed) * fx;
    return top * (1 - fy) + low * fy;
}

} // namespace

level::Level brine_pans(level::Project& project, const Stock& stock) {
    Builder b(project, stock, "brine-pans", "Brine Pans", level::View::from_above, {96, 64});
    const LayerId silt = b.add("Silt", LayerKind::backdrop);
    const LayerId clay = b.add("Clay", LayerKind::tiles);
    const LayerId pans = b.add("Pans", LayerKind::tiles, true);
    const LayerId marsh = b.add("Marsh", LayerKind::tiles);
    const LayerId boards = b.add("Boardwalk", LayerKind::tiles);
    const LayerId bank = b.add("Creek bank", LayerKind::planting);
    const LayerId props = b.add("Props", LayerKind::props);
    b.level.plane = 7;
    const LayerId front = b.add("Reeds and gulls", LayerKind::props);
    for (const LayerId stands : {bank, props, front}) b.level.edit(stands).by_feet = true; // the walker goes among them
    *b.level.edit(silt).backdrop() = {stock.silt, rgb(0xD8D2C0)};
    b.level.walker = {44, 60, 6, 0};
    // The road goes on to the west; elsewhere the works end at a fence and at the sea.
    for (const std::size_t side : {0U, 2U}) b.level.sides[side].kind = level::SideKind::blocks;
    b.level.sides[3].kind = level::SideKind::leads;

    const auto creek_middle = [](double y) { return 71 + 4.5 * std::sin(y / 8.5) + 1.5 * std::sin(y / 3.7); };
    const auto shore = [](double y) { return 90 + 2.5 * std::sin(y / 6.0 + 1) + 1.5 * hills(0, y, 5, 9); };
    const auto in_creek = [&](int x, int y) { return std::abs(x - creek_middle(y)) < 2.6 || x > shore(y); };

    // Land, but for a bay of silt in the south-west and pools that the tide leaves.
    b.paint(clay, "Clay", [&](int x, int y) {
        const double bay = std::hypot((x + 2) / 1.5, y - 66.0);
        return bay > 15 + 4 * hills(x, y, 4, 3) && !(x < 4 && y > 40 && hills(x, y, 3, 5) < 0.45);
    });

    // The pans, in rows between dykes of clay.
    const std::vector<Box> basins{
        {8, 5, 13, 9},    {24, 5, 8, 9},    {40, 4, 11, 7},  {54, 5, 10, 9},   {8, 17, 8, 10},
        {19, 17, 13, 10}, {40, 14, 11, 13}, {54, 17, 9, 10}, {12, 36, 9, 8},   {24, 36, 8, 8},
        {40, 36, 14, 7},  {57, 36, 5, 10},  {26, 47, 6, 9},  {40, 46, 14, 11}, {57, 49, 6, 9},
    };
    for (const Box& basin : basins) b.paint(pans, "Brine", basin);
    // Spits into the larger basins: no pan is a plain rectangle for long.
    for (const Box& spit : {Box{13, 10, 2, 4}, Box{44, 20, 4, 2}, Box{27, 22, 2, 5}, Box{46, 52, 2, 5},
                            Box{40, 40, 3, 3}, Box{60, 5, 4, 2}})
        b.paint(pans, "", spit);
    b.paint(pans, "Creek", in_creek);
    // Feeders from the creek to the pans.
    for (const Box& feeder : {Box{65, 9, 6, 2}, Box{62, 40, 5, 2}}) b.paint(pans, "Creek", feeder);

    b.paint(marsh, "Marsh", [&](int x, int y) {
        if (b.has(pans, {x, y}) || !b.has(clay, {x, y})) return false;
        const double bank = std::min(std::abs(x - creek_middle(y)) - 2.6, shore(y) - x);
        const bool near_water = bank < 2.0 + 4.5 * hills(x, y, 5, 21);
        const bool meadow = hills(x, y, 9, 33) > 0.72 && (y > 46 || y < 3 || x < 6);
        const bool way = (y >= 29 && y <= 33) || (x >= 33 && x <= 37);
        return (near_water || meadow) && !way && x > 2;
    });

    // The boardwalk; where it crosses the creek the water's tiles do not block.
    const std::vector<Box> walks{{3, 30, 85, 2}, {34, 3, 2, 57}, {80, 20, 2, 10}, {10, 30, 2, 5}};
    for (const Box& walk : walks) b.paint(boards, "Boardwalk", walk);
    for (const Box& walk : walks)
        for (int y = walk.y; y < walk.bottom(); ++y)
            for (int x = walk.x; x < walk.right(); ++x)
                if (b.has(pans, {x, y})) b.tile(pans, "Creek under boards", {x, y});

    b.prop(props, "Wind pump", 36.8, 14.5);
    b.prop(props, "Wind pump", 83.5, 19.5);
    b.prop(props, "Wind pump", 22.5, 34.8, true);
    for (const auto& [x, y] : {std::pair{22.6, 15.4}, {37.6, 26.0}, {38.0, 44.8}, {55.5, 45.4}, {52.6, 12.8}})
        b.prop(props, "Salt heap", x, y);
    for (const auto& [x, y] : {std::pair{24.6, 15.9},
                               {38.3, 27.6},
                               {32.9, 15.8},
                               {5.8, 16.0},
                               {36.6, 45.9},
                               {57.0, 48.0},
                               {17.6, 28.6},
                               {66.2, 27.8}})
        b.prop(props, "Small salt heap", x, y);
    b.prop(props, "Sluice", 66.0, 8.6);
    b.prop(props, "Sluice", 63.4, 39.6);
    for (const auto& [x, y] : {std::pair{6.5, 29.4}, {37.4, 33.2}, {38.6, 33.6}, {78.8, 28.6}})
        b.prop(props, "Crate", x, y);
    for (const auto& [x, y] : {std::pair{7.8, 29.6}, {33.2, 29.2}, {79.2, 33.4}}) b.prop(props, "Barrel", x, y);
    for (const auto& [x, y] :
         {std::pair{66.6, 29.8}, {66.6, 32.9}, {76.4, 29.8}, {76.4, 32.9}, {87.4, 29.9}, {87.4, 33.0}})
        b.prop(props, "Mooring post", x, y);
    b.prop(props, "Boat", 72.6, 46.0);
    b.prop(props, "Stranded barge", 80.6, 47.4);
    b.prop(props, "Broken sluice", 60.2, 48.4);
    b.prop(props, "Rake", 24.9, 14.9);
    b.prop(props, "Rake", 40.6, 45.0, true);
    b.prop(props, "Boat", 91.5, 27.5, true);

    // Reeds along the water: where the marsh meets it, by chance that depends on the place alone.
    static const char* kinds[3] = {"Reeds", "Tall reeds", "Few reeds"};
    for (int y = 1; y < 63; ++y) {
        for (int x = 1; x < 95; ++x) {
            if (!b.has(marsh, {x, y})) continue;
            bool wet = false;
            for (const Point n : join::kNeighbour) wet = wet || b.has(pans, Point{x, y} + n);
            if (chance(x, y, 51) > (wet ? 0.42 : 0.07)) continue;
            const double dx = chance(x, y, 52) - 0.5;
            b.prop(front, kinds[static_cast<int>(chance(x, y, 53) * 3)], x + 0.5 + dx * 0.8,
                   y + 0.6 + chance(x, y, 54) * 0.4, chance(x, y, 55) < 0.5);
        }
    }
    for (const auto& [x, y] :
         {std::pair{47.0, 17.0}, {29.5, 40.0}, {13.0, 21.5}, {73.0, 14.0}, {92.5, 44.0}, {88.5, 12.0}})
        b.prop(front, "Gull", x, y);

    b.plant(bank, creek_bank(stock, b.level));

    b.mark("Start", level::MarkKind::start, {5, 30, 1, 2}, "Salt raker");
    b.mark("Raking", level::MarkKind::note, {26, 15, 1, 1}, "Salter with rake");
    b.mark("At the heap", level::MarkKind::note, {39, 26, 1, 1}, "Salter in blue");
    b.mark("By the barge", level::MarkKind::note, {77, 49, 1, 1}, "Salter with rake");
    b.mark("Upper pans", level::MarkKind::note, {34, 4, 2, 2});
    b.mark("Exit", level::MarkKind::exit, {86, 30, 2, 2});
    return b.level;
}

level::Level pump_cellar(level::Project& project, const Stock& stock) {
    Builder b(project, stock, "pump-cellar", "Pump Cellar", level::View::from_the_side, {80, 45});
    const LayerId depths = b.add("Depths", LayerKind::backdrop);
    const LayerId vaults = b.add("Vaults", LayerKind::backdrop);
    const LayerId wall = b.add("Back wall", LayerKind::tiles);
    const LayerId pipes = b.add("Pipes", LayerKind::props);
    const LayerId brick = b.add("Brick", LayerKind::tiles, true);
    const LayerId catwalks = b.add("Catwalks", LayerKind::tiles, true);
    const LayerId props = b.add("Props", LayerKind::props);
    b.level.plane = 7;
    const LayerId water = b.add("Water", LayerKind::tiles, false, 90);
    b.level.ground = ink::wall_deep;
    b.level.walker = {44, 96, 6.5, 3.2};

    // Behind the wall more vaults, and what lies behind those; nearer to the colour of the dark the further off they
    // are.
    b.backdrop(depths, stock.depths, {0, 0}, 40, 25);
    b.backdrop(vaults, stock.vaults, {60, 16}, 75, 30);
    b.level.edit(vaults).backdrop()->down = true; // in tiers
    const std::vector<Box> openings{{16, 10, 5, 6}, {38, 20, 5, 6}, {32, 16, 5, 6}, {65, 16, 5, 6}, {71, 16, 5, 6}};
    b.paint(wall, "Cellar wall", b.level.cells());
    for (const Box& opening : openings) {
        b.paint(wall, "", opening);
        b.prop(pipes, "Arch", opening.x + opening.w / 2.0, opening.bottom() + 0.5);
    }
    b.paint(brick, "Brick", b.level.cells());
    const auto carve = [&](const Box& box) { b.paint(brick, "", box); };
    carve({3, 6, 22, 13});   // entrance hall, floor at 19
    carve({25, 9, 4, 14});   // the stair down: filled with slopes below
    carve({29, 11, 26, 16}); // pump hall, floor at 27
    carve({36, 27, 8, 8});   // sump
    carve({55, 8, 6, 13});   // ledge to the east, floor at 21
    carve({61, 8, 4, 17});   // second slope down
    carve({65, 12, 12, 13}); // exit hall, floor at 25
    carve({9, 3, 5, 3});     // light shaft
    carve({68, 9, 5, 3});
    carve({10, 34, 34, 7}); // culvert, floor at 41
    carve({44, 37, 14, 4});
    // Masonry left standing in the halls.
    b.paint(brick, "Brick", Box{3, 15, 3, 4});
    b.paint(brick, "Brick", Box{14, 17, 3, 2});
    b.paint(brick, "Brick", Box{50, 25, 5, 2});
    b.paint(brick, "Brick", Box{53, 21, 2, 6});
    b.paint(brick, "Brick", Box{29, 11, 5, 3});
    b.paint(brick, "Brick", Box{46, 11, 4, 2});
    b.paint(brick, "Brick", Box{70, 23, 3, 2});

    // A stair of slopes from the entrance to the pump hall, and one to the exit.
    const auto slope_down = [&](Point at, int steps, int floor) {
        for (int i = 0; i < steps; ++i) {
            b.paint(brick, "Brick", Box{at.x + i, at.y + i + 1, 1, floor - at.y - i - 1});
            b.tile(brick, "Slope down", {at.x + i, at.y + i});
        }
    };
    b.paint(brick, "Brick", Box{25, 19, 4, 8});
    carve({25, 19, 4, 4});
    slope_down({25, 19}, 4, 23);
    carve({29, 23, 7, 4});
    b.paint(brick, "Brick", Box{29, 23, 4, 4});
    carve({33, 23, 4, 4});
    slope_down({33, 23}, 3, 27);
    b.paint(brick, "Brick", Box{33, 26, 3, 1});
    b.paint(brick, "Brick", Box{36, 26, 1, 1});
    b.tile(brick, "Slope down", {36, 26});
    b.paint(brick, "Brick", Box{61, 21, 4, 4});
    carve({61, 21, 4, 4});
    slope_down({61, 21}, 4, 25);
    // A ramp out of the sump's edge and a slanted ceiling.
    b.tile(brick, "Slope up", {49, 26});
    b.tile(brick, "Ceiling down", {54, 11});
    b.tile(brick, "Ceiling up", {29, 14});

    for (const Box& walk :
         {Box{37, 27, 7, 1}, Box{46, 23, 4, 1}, Box{50, 20, 3, 1}, Box{44, 17, 5, 1}, Box{36, 15, 6, 1},
          Box{9, 13, 6, 1}, Box{18, 15, 5, 1}, Box{38, 36, 4, 1}, Box{36, 33, 3, 1}, Box{41, 30, 3, 1}}) {
        b.paint(catwalks, "Catwalk", walk);
        b.tile(catwalks, "Catwalk end left", {walk.x, walk.y});
        b.tile(catwalks, "Catwalk end right", {walk.right() - 1, walk.y});
    }
    // The culvert's floor steps down to the east, under water that stands as high as its sill.
    b.paint(brick, "Brick", Box{10, 38, 9, 3});
    b.paint(brick, "Brick", Box{19, 39, 6, 2});
    b.tile(brick, "Slope down", {19, 38});
    b.tile(brick, "Slope down", {25, 39});
    b.paint(brick, "Brick", Box{25, 40, 1, 1});
    b.tile(brick, "Slope down", {26, 40});
    b.paint(brick, "Brick", Box{10, 34, 3, 1});
    b.paint(brick, "Brick", Box{24, 34, 5, 1});
    const auto submerged = [&](int x, int y) {
        return x >= 19 && x < 58 && y > 38 && y < 41 &&
               (!b.has(brick, {x, y}) || (x == 25 && y == 39) || (x == 26 && y == 40));
    };
    b.paint(water, "Cellar water", submerged);
    for (int x = 20; x < 58; ++x)
        if (!b.has(brick, {x, 38})) b.tile(water, x % 2 ? "Water surface" : "Water surface 2", {x, 38});

    for (int x = 0; x < 4; ++x) b.prop(pipes, "Pipe", 6 + x * 6, 9.6);
    for (int x = 0; x < 4; ++x) b.prop(pipes, "Pipe", 32.5 + x * 6, 19.2);
    for (int x = 0; x < 3; ++x) b.prop(pipes, "Pipe", 65 + x * 6, 15.4);
    b.prop(pipes, "Brine pump", 30.9, 23.0);
    b.prop(pipes, "Brine pump", 46.8, 27.0);
    b.prop(pipes, "Brine pump", 10.5, 19.0, true);
    for (const auto& [x, y] :
         {std::pair{7.5, 12.0}, {23.2, 12.0}, {38.2, 17.6}, {47.5, 15.0}, {58.0, 12.0}, {69.5, 16.8}, {75.0, 16.8}})
        b.prop(pipes, "Lamp", x, y);
    for (int x = 0; x < 3; ++x) b.prop(pipes, "Pipe", 15 + x * 6, 35.9);
    for (const auto& [x, y] : {std::pair{14.5, 37.0}, {31.0, 37.0}, {51.0, 38.2}}) b.prop(pipes, "Lamp", x, y);
    for (const auto& [x, y] : {std::pair{18.8, 19.0}, {58.6, 21.0}, {68.4, 25.0}, {12.2, 38.0}, {13.4, 38.0}})
        b.prop(props, "Barrel", x, y);
    for (const auto& [x, y] : {std::pair{20.2, 19.0}, {57.2, 21.0}, {71.5, 23.0}, {51.6, 25.0}})
        b.prop(props, "Crate", x, y);

    b.mark("Start", level::MarkKind::start, {7, 17, 1, 2}, "Salt raker");
    b.mark("Keeper", level::MarkKind::note, {44, 25, 1, 2}, "Pump keeper");
    b.mark("Upper gallery", level::MarkKind::note, {38, 13, 2, 2});
    b.mark("Exit", level::MarkKind::exit, {75, 23, 1, 2});
    return b.level;
}

level::Level salt_store(level::Project& project, const Stock& stock) {
    Builder b(project, stock, "salt-store", "Salt store", level::View::from_above, {20, 18});
    b.level.cell = {32, 16};
    b.level.lattice = LatticeKind::isometric;
    b.level.ground = {84, 96, 78, 255};
    const LayerId yard = b.add("Yard", LayerKind::tiles);
    const LayerId floor = b.add("Floor", LayerKind::tiles);
    const LayerId walls = b.add("Walls", LayerKind::tiles, true);
    b.level.edit(walls).by_feet = true;
    b.level.plane = 3;
    const LayerId blockers = b.add("Quay edge", LayerKind::blockers);
    b.paint(yard, "Store yard", Box{0, 0, 20, 18});
    // The store: planks within walls at its back, open to the front; a ramp of planks to the quay.
    const Box store{3, 3, 12, 11};
    b.paint(floor, "Store floor", store);
    b.paint(floor, "Store floor", Box{7, 14, 3, 4});
    for (int i = 0; i < store.w; ++i)
        if (i < 5 || i > 7) b.tile(walls, i % 3 == 1 ? "Store wall 2" : "Store wall 1", {store.x + i, store.y});
    for (int i = 1; i < store.h; ++i)
        b.tile(walls, i % 4 == 2 ? "Store wall 2" : "Store wall 1", {store.x, store.y + i});
    for (const Point p : {Point{5, 5}, {6, 5}, {5, 6}, {7, 5}, {5, 8}, {6, 8}, {5, 9}})
        b.tile(walls, (p.x + p.y) % 2 == 0 ? "Salt heap 1" : "Salt heap 2", p);
    for (const Point p : {Point{12, 5}, {13, 5}, {13, 6}, {12, 11}, {13, 11}, {13, 12}})
        b.tile(walls, (p.x + p.y) % 2 == 0 ? "Crate 1" : "Crate 2", p);
    // Nobody walks off the quay.
    edit::Hand edge = edit::blocker_hand(level::TileShape::full);
    std::vector<Point> rim;
    for (int x = 0; x < 20; ++x)
        for (int y = 0; y < 18; ++y)
            if (x == 19 || y == 17 || x == 0 || y == 0) rim.push_back({x, y});
    b.level = edit::lay(project, join::Rules(project), b.level, blockers, edge, rim).level;
    b.mark("Quay", level::MarkKind::start, {8, 15, 1, 1});
    b.mark("To the pans", level::MarkKind::exit, {9, 4, 1, 1});
    b.level.frame = {320, 224};
    return b.level;
}

} // namespace pell
