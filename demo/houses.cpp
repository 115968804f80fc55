#include "houses.hpp"

#include <cmath>
#include <functional>
#include <map>
#include <string>
#include <tuple>
#include <vector>

#include "art.hpp"
#include "base/error.hpp"
#include "edit/kits.hpp"
#include "edit/sheets.hpp"
#include "edit/storeys.hpp"
#include "edit/stroke.hpp"
#include "kit/open_kit.hpp"
#include "kits.hpp"
#include "sheet/png.hpp"
#include "sheet/read_cut.hpp"
#include "sheets.hpp"
#include "store/project_files.hpp"

namespace pell {

using namespace vic;
using level::LayerId;

namespace {

constexpr int kSide = 32; // pixels a cell

using Where = std::function<bool(int, int)>;

class Site {
  public:
    explicit Site(fs::path dir) : dir_(std::move(dir)) {
        project.name = "Pump House";
        fs::create_directories(dir_ / "sheets");
    }

    // The kit's files go into the project, and its pieces become a sheet and materials, as when it is dropped.
    void add_kit(const std::string& name, const std::string& file, const KitText& text, const kit::Told& told = {}) {
        const fs::path folder = fs::path("kits") / file;
        fs::create_directories(dir_ / folder);
        write_file(dir_ / folder / (file + ".obj"), text.obj);
        write_file(dir_ / folder / (file + ".mtl"), text.mtl);
        const kit::KitFile kit = kit::open_kit(dir_ / folder / (file + ".obj"));
        const kit::KitReading read = kit::read_kit(kit.bodies, told);
        const kit::Drawn drawn = kit::draw_sheet(kit, read, kSide);
        const std::string picture = "sheets/" + file + ".png";
        write_file(dir_ / picture, sheet::encode_png(drawn.image));
        edit::PutKit put = edit::put_kit(std::move(project), 0, name, picture, (folder / (file + ".obj")).string(), kit,
                                         read, drawn, kSide, edit::kit_materials(kit, read));
        project = std::move(put.project);
        level::Sheet sheet = *project.sheet(put.sheet);
        sheet.credits = {"The Vicinum developers", "MIT", "made by demo/kits.cpp of Vicinum", ""};
        project.put(std::move(sheet));
        for (const level::KitPiece& p : project.sheet(put.sheet)->kit->pieces) pieces_[{p.name, p.turn}] = p.tile;
        for (const level::MaterialId m : put.materials) materials_[project.material(m)->name] = m;
        for (const level::PropKindId id : put.things) props_[project.prop_kind(id)->name] = id;
    }

    // Tiles of 16 pixels, in cells twice as large; the joins are read.
    void add_material(const std::string& name, const Image& image, level::TileShape shape = level::TileShape::none) {
        const auto cut = sheet::read_cut(image);
        if (!cut.best)
            throw InputError("The cut of the demo's own sheet is misread", name, "", "Mend the reading or the art");
        const level::SheetId id = add_picture(name, image, cut.best->cut);
        const level::Sheet& sheet = *project.sheet(id);
        level::MaterialId added = 0;
        project = edit::add_material(std::move(project), sheet, level::JoinKind::full,
                                     join::read_joins(edit::tile_pictures(sheet), level::JoinKind::full), name, added);
        materials_[name] = added;
        std::vector<level::TileId> tiles;
        for (const level::Tile& t : project.sheet(id)->tiles)
            if (!t.blank) tiles.push_back(t.id);
        project = edit::change_tiles(std::move(project), tiles, [&](level::Tile& t) { t.shape = shape; });
    }
    void add_props(const std::string& name, const Image& image, const std::vector<PropArt>& arts) {
        const level::SheetId id = add_picture(name, image, {image.size(), {}, {}, 1});
        for (const PropArt& art : arts) {
            level::PropKind kind = edit::propose_prop(*project.sheet(id), art.box, project.next_id++, art.name);
            kind.blocks = art.blocks;
            kind.flat = art.flat;
            kind.frames = art.frames;
            kind.frame_ms = art.frame_ms;
            kind.factor = 2;
            if (art.foot) {
                kind.foot = *art.foot;
                kind.pivot = {art.foot->x + art.foot->w / 2, art.foot->bottom() - 1};
            }
            props_[art.name] = kind.id;
            project.put(std::move(kind));
        }
    }
    LayerId add_props_layer(const std::string& name) {
        level::Layer layer;
        layer.id = project.next_id++;
        layer.name = name;
        layer.content = level::empty_content(level::LayerKind::props, level.size);
        layer.by_feet = true;
        level.layers.push_back(std::make_shared<const level::Layer>(std::move(layer)));
        return level.layers.back()->id;
    }
    // `at` in cells: the middle of the foot's lower edge.
    void prop(LayerId layer, const std::string& name, double x, double y, bool mirrored = false) {
        const Point at{static_cast<int>(x * kSide), static_cast<int>(y * kSide) - 1};
        level.edit(layer).props().put({project.next_id++, props_.at(name), at, {mirrored}});
    }
    // A thing with a body: its middle in cells, and how it is turned to the right, in degrees.
    void thing(LayerId layer, const std::string& name, double x, double y, int degrees) {
        level::Look look;
        look.turn = static_cast<std::int16_t>(degrees * 10);
        const Point at{static_cast<int>(x * kSide), static_cast<int>(y * kSide)};
        level.edit(layer).props().put({project.next_id++, props_.at(name), at, look});
    }

    void begin(const std::string& name, Size cells) {
        rules_.emplace(project);
        level = level::Level();
        level.id = project.free_level_id(name);
        level.name = name;
        level.view = level::View::from_above;
        level.size = cells;
        level.cell = {kSide, kSide};
        level.walker = {20, 20, 4, 0};
        for (level::LevelSide& side : level.sides) side.kind = level::SideKind::blocks;
    }
    LayerId add(const std::string& name, bool solid) {
        level::Layer layer;
        layer.id = project.next_id++;
        layer.name = name;
        layer.content = level::empty_content(level::LayerKind::tiles, level.size);
        layer.tiles()->solid = solid;
        level.layers.push_back(std::make_shared<const level::Layer>(std::move(layer)));
        return level.layers.back()->id;
    }
    void paint(LayerId layer, const std::string& material, const Where& where) {
        if (!materials_.contains(material))
            throw InputError("The kit has no such material", material, "", "Mend the reading or the kit");
        lay(layer, edit::Hand{edit::held::Material{materials_.at(material)}}, where);
    }
    void clear(LayerId layer, const Where& where) { lay(layer, edit::Hand{edit::held::Eraser{}}, where); }
    // `turn`: quarter turns to the right.
    void piece(LayerId layer, const std::string& name, Point at, int turn = 0) {
        // What has several cells has a tile for each turn.
        const auto turned = pieces_.find({name, turn});
        const level::Cell cell = turned != pieces_.end()
                                     ? level::Cell(turned->second, {}, true)
                                     : level::Cell(pieces_.at({name, 0}), {static_cast<std::uint8_t>(turn)}, true);
        level.edit(layer).grid().set(at, cell, 0);
    }
    void mark(const std::string& name, level::MarkKind kind, const Box& cells, int storey = 0) {
        level.marks.push_back({project.next_id++, name, kind, cells});
        level.marks.back().storey = storey;
    }
    // A storey above all that there are; the ids of its layers.
    std::vector<LayerId> storey() {
        const int top = edit::storeys_of(level).back();
        level = edit::with_storey_above(level, top, false, project.next_id);
        std::erase_if(level.layers, [](const level::LayerRef& l) { return l->storey > 0 && l->name == "Creek"; });
        std::vector<LayerId> out;
        for (const level::LayerRef& l : level.layers)
            if (l->storey == top + 1) out.push_back(l->id);
        return out;
    }
    void put() {
        level.plane = static_cast<int>(level.layers.size());
        project.put(std::move(level));
    }

    level::Project project;
    level::Level level;

  private:
    level::SheetId add_picture(const std::string& name, const Image& image, const level::Cut& cut) {
        const std::string file = "sheets/" + slug(name, "sheet") + ".png";
        write_file(dir_ / file, sheet::encode_png(image));
        level::SheetId id = 0;
        project = edit::add_sheet(std::move(project), file, image, name, cut, true, id);
        level::Sheet sheet = *project.sheet(id);
        sheet.credits = {"The Vicinum developers", "MIT", "drawn by demo/art.cpp of Vicinum", ""};
        project.put(std::move(sheet));
        return id;
    }
    void lay(LayerId layer, const edit::Hand& hand, const Where& where) {
        std::vector<Point> cells;
        for (int y = 0; y < level.size.h; ++y)
            for (int x = 0; x < level.size.w; ++x)
                if (where(x, y)) cells.push_back({x, y});
        level = edit::lay(project, *rules_, level, layer, hand, cells).level;
    }
    fs::path dir_;
    std::optional<join::Rules> rules_;
    std::map<std::pair<std::string, int>, level::TileId> pieces_; // by quarter turns
    std::map<std::string, level::MaterialId> materials_;
    std::map<std::string, level::PropKindId> props_;
};

Where in(const Box& box) {
    return [box](int x, int y) { return box.contains(Point{x, y}); };
}
Where round(const Box& box) { // its outermost cells
    return [box](int x, int y) {
        return box.contains(Point{x, y}) && !Box{box.x + 1, box.y + 1, box.w - 2, box.h - 2}.contains(Point{x, y});
    };
}

void pump_house(Site& site) {
    site.begin("Pump House", {28, 20});
    const Box hall{12, 5, 11, 4}, engine{6, 4, 7, 7}, quay{3, 3, 22, 10};
    const LayerId water = site.add("Creek", true), floors = site.add("Floors", true), walls = site.add("Walls", true),
                  things = site.add("Fittings", true), loose = site.add_props_layer("On the quay");
    const auto jetty = [](int x, int y) { return (x == 8 || x == 18) && y >= 13 && y < 18; };
    site.paint(water, "Creek", [&](int x, int y) { return !quay.contains(Point{x, y}) && !jetty(x, y); });
    site.paint(floors, "Quay", in(quay));
    for (const Box& inside : {hall, engine}) site.paint(floors, "Plank floor", in(inside));
    for (const Box& house : {hall, engine}) site.paint(walls, "Brick wall", round(house));
    // Ways in, and between the two; a wall that runs from west to east is turned.
    site.piece(walls, "Brick wall door", {17, 8}, 1);
    site.piece(walls, "Brick wall gate", {9, 10}, 1);
    site.piece(walls, "Brick wall gate", {12, 7});
    for (const int x : {14, 20}) site.piece(walls, "Brick wall window", {x, 8}, 1);
    for (const int x : {14, 17, 20}) site.piece(walls, "Brick wall window", {x, 5}, 1);
    for (const int y : {6, 8}) site.piece(walls, "Brick wall window", {6, y});
    site.piece(things, "Pump", {8, 6});
    site.piece(things, "Pump", {10, 6});
    site.piece(things, "Pump", {9, 8}, 2);
    site.piece(things, "Stairs", {20, 6}, 1); // up to the east, along the northern wall
    // Jetties to the south, with a sluice between.
    for (const int x : {8, 18})
        for (int y = 13; y < 18; ++y) site.piece(floors, "Boardwalk straight", {x, y});
    site.paint(things, "Railing", [&](int x, int y) {
        return y == quay.bottom() - 1 && x >= quay.x && x < quay.right() && x != 8 && x != 18 && (x < 12 || x > 14);
    });
    site.paint(things, "Railing", [&](int x, int y) {
        return (x == quay.x || x == quay.right() - 1) && y >= quay.y && y < quay.bottom();
    });
    for (const int x : {12, 13, 14}) site.piece(things, "Sluice", {x, 12});

    const std::vector<LayerId> first = site.storey();
    site.paint(first[0], "Plank floor", in(hall));
    site.paint(first[0], "Plank floor", in(engine));
    site.clear(first[0], [](int x, int y) { return y == 6 && (x == 20 || x == 21); });
    site.paint(first[1], "Brick wall", round(hall));
    site.piece(first[1], "Brick wall door", {12, 7});
    for (const int x : {14, 16, 18, 20})
        for (const int y : {5, 8}) site.piece(first[1], "Brick wall window", {x, y}, 1);
    site.piece(first[1], "Brick wall window", {22, 6});
    // The engine room's roof is a terrace.
    site.paint(first[2], "Railing", [&](int x, int y) { return round(engine)(x, y) && x < 12; });

    const std::vector<LayerId> roof = site.storey();
    for (int x = hall.x; x < hall.right(); ++x) {
        site.piece(roof[0], "Roof lower", {x, 8});
        site.piece(roof[0], "Roof upper", {x, 7});
        site.piece(roof[0], "Roof upper", {x, 6}, 2);
        site.piece(roof[0], "Roof lower", {x, 5}, 2);
    }
    site.piece(roof[2], "Chimney", {20, 6});
    // On the quay.
    for (const auto& [name, x, y] : {std::tuple{"Barrel", 15.5, 11.6},
                                     {"Barrel", 16.1, 11.9},
                                     {"Crate", 19.4, 11.4},
                                     {"Crate", 20.2, 11.8},
                                     {"Mooring post", 7.4, 14.6},
                                     {"Mooring post", 17.4, 15.6},
                                     {"Pump keeper", 9.4, 12.2},
                                     {"Salter in blue", 18.4, 11.2},
                                     {"Lamp", 13.5, 9.8},
                                     {"Salt heap", 22.2, 11.0},
                                     {"Boat", 20.8, 16.4}})
        site.prop(loose, name, x, y);
    for (const auto& [name, x, y, turned] : {std::tuple{"Hoist", 15.4, 12.2, 0},
                                             {"Salt cart", 21.6, 11.6, 65},
                                             {"Salt cart", 5.2, 11.7, -30},
                                             {"Brine vat", 4.6, 4.4, 12},
                                             {"Brine vat", 5.5, 4.2, 70},
                                             {"Stack of planks", 23.6, 9.8, 8},
                                             {"Stack of planks", 4.5, 9.0, 100}})
        site.thing(loose, name, x, y, (turned + 360) % 360);
    site.mark("Start", level::MarkKind::start, {8, 15, 1, 1});
    site.mark("Terrace", level::MarkKind::exit, {8, 7, 1, 1}, 1); // up the stairs, and out over the engine room
    site.put();
}

// Flat art that stands on a painted bank, for a low sun.
void reed_bank(Site& site) {
    site.begin("Reed Bank", {40, 28});
    const LayerId clay = site.add("Clay", true), water = site.add("Creek", true), marsh = site.add("Marsh", true),
                  things = site.add_props_layer("Growth");
    const auto shore = [](int x) { return 17 + 2.2 * std::sin(x * 0.33) + 1.3 * std::sin(x * 0.71 + 1); };
    site.paint(clay, "Clay", [](int, int) { return true; });
    site.paint(water, "Creek", [&](int x, int y) { return y > shore(x); });
    site.paint(marsh, "Marsh", [&](int x, int y) {
        return y <= shore(x) && y > shore(x) - 5 - 2 * std::sin(x * 0.5) && (x < 15 || x > 22);
    });
    // Reeds thickest at the water's edge, then what grows drier and higher.
    const struct {
        const char* name;
        double nearest, furthest; // cells from the water
        int of_a_hundred;
    } growth[] = {{"Tall reeds", -0.6, 1.2, 46}, {"Reeds", 0.2, 2.4, 34},    {"Few reeds", 0.8, 3.4, 20},
                  {"Sedge", 1.8, 5.2, 14},       {"Thin sedge", 2.4, 7, 10}, {"Sea lavender", 3, 8, 7},
                  {"Marsh marigold", 2, 6, 7},   {"Stone", 3, 12, 2},        {"Alder", 5.5, 12, 3},
                  {"Young willow", 4.5, 11, 3},  {"Thrift", 5, 14, 4}};
    int seed = 40;
    for (const auto& g : growth) {
        ++seed;
        for (int y = 1; y < 27; ++y)
            for (int x = 1; x < 39; ++x) {
                const double px = x + chance(x, y, seed + 100), py = y + chance(x, y, seed + 200);
                const double away = shore(static_cast<int>(px)) - py;
                const bool path = px > 16.5 && px < 21; // down to the boat
                const bool mill = std::abs(px - 31) < 3 && py > 2 && py < 9;
                if (away < g.nearest || away > g.furthest || path || mill) continue;
                if (chance(x, y, seed) * 100 < g.of_a_hundred)
                    site.prop(things, g.name, px, py, chance(x, y, seed + 300) < 0.5);
            }
    }
    site.prop(things, "Boat", 18.6, 19.2);
    site.prop(things, "Mooring post", 20.6, 18.2);
    site.prop(things, "Salt raker", 18, 13);
    site.prop(things, "Lamp", 16.6, 14);
    site.prop(things, "Wind pump", 31, 7);
    site.mark("Start", level::MarkKind::start, {18, 10, 1, 1});
    site.mark("Boat", level::MarkKind::exit, {18, 16, 1, 1});
    // Late in the day, as one comes down to the water.
    site.level.light = {17 * 60 + 30, 3000, 0};
    site.level.sight = {28, 34, 0};
    site.put();
}

void salt_maze(Site& site) {
    const Image plan = salt_maze_plan();
    site.begin("Salt Maze", plan.size());
    const LayerId floors = site.add("Floors", true), walls = site.add("Walls", true);
    const Rgba wall = plan.at(0, 0);
    site.paint(floors, "Clay floor", [](int, int) { return true; });
    site.paint(walls, "Salt", [&](int x, int y) { return plan.at(x, y) == wall; });
    site.mark("Start", level::MarkKind::start, {1, 1, 1, 1});
    site.mark("Way out", level::MarkKind::exit, {29, 29, 1, 1});
    site.put();
}

} // namespace

void make_houses(const fs::path& dir) {
    Site site(dir);
    site.add_kit("Pump house", "pump-house", pump_house_kit());
    site.add_kit("Salt walls", "salt-walls", salt_walls_kit());
    site.add_material("Clay", clay_sheet());
    site.add_material("Creek", creek_sheet(), level::TileShape::full);
    site.add_material("Marsh", marsh_sheet());
    std::vector<PropArt> arts;
    const Image works = props_sheet(arts);
    site.add_props("Saltworks props", works, arts);
    arts.clear();
    const Image along = shore_sheet(arts);
    site.add_props("Along the shore", along, arts);
    arts.clear();
    const Image figures = figures_sheet(arts);
    site.add_props("Figures", figures, arts);
    kit::Told cells;
    cells.width = 2;
    cells.height = 3;
    site.add_kit("On the quay", "quay-things", quay_things_kit(), cells);
    pump_house(site);
    salt_maze(site);
    reed_bank(site);
    store::save(site.project, dir);
}

} // namespace pell
