#include "houses.hpp"

#include <functional>
#include <map>
#include <string>
#include <vector>

#include "base/error.hpp"
#include "edit/kits.hpp"
#include "edit/storeys.hpp"
#include "edit/stroke.hpp"
#include "kit/open_kit.hpp"
#include "kits.hpp"
#include "sheet/png.hpp"
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
    void add_kit(const std::string& name, const std::string& file, const KitText& text) {
        const fs::path folder = fs::path("kits") / file;
        fs::create_directories(dir_ / folder);
        write_file(dir_ / folder / (file + ".obj"), text.obj);
        write_file(dir_ / folder / (file + ".mtl"), text.mtl);
        const kit::KitFile kit = kit::open_kit(dir_ / folder / (file + ".obj"));
        const kit::KitReading read = kit::read_kit(kit.bodies);
        const kit::Drawn drawn = kit::draw_sheet(kit, read, kSide);
        const std::string picture = "sheets/" + file + ".png";
        write_file(dir_ / picture, sheet::encode_png(drawn.image));
        edit::PutKit put = edit::put_kit(std::move(project), 0, name, picture, (folder / (file + ".obj")).string(), kit,
                                         read, drawn, kSide, edit::kit_materials(kit, read));
        project = std::move(put.project);
        level::Sheet sheet = *project.sheet(put.sheet);
        sheet.credits = {"The Vicinum developers", "MIT", "made by demo/kits.cpp of Vicinum", ""};
        project.put(std::move(sheet));
        for (const level::KitPiece& p : project.sheet(put.sheet)->kit->pieces) pieces_[p.name] = p.tile;
        for (const level::MaterialId m : put.materials) materials_[project.material(m)->name] = m;
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
        level.edit(layer).grid().set(at, level::Cell(pieces_.at(name), {static_cast<std::uint8_t>(turn)}, true), 0);
    }
    void mark(const std::string& name, level::MarkKind kind, const Box& cells) {
        level.marks.push_back({project.next_id++, name, kind, cells});
    }
    // A storey above all that there are; the ids of its layers.
    std::vector<LayerId> storey() {
        const int top = edit::storeys_of(level).back();
        level = edit::with_storey_above(level, top, false, project.next_id);
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
    void lay(LayerId layer, const edit::Hand& hand, const Where& where) {
        std::vector<Point> cells;
        for (int y = 0; y < level.size.h; ++y)
            for (int x = 0; x < level.size.w; ++x)
                if (where(x, y)) cells.push_back({x, y});
        level = edit::lay(project, *rules_, level, layer, hand, cells).level;
    }
    fs::path dir_;
    std::optional<join::Rules> rules_;
    std::map<std::string, level::TileId> pieces_;
    std::map<std::string, level::MaterialId> materials_;
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
    const LayerId floors = site.add("Floors", true), walls = site.add("Walls", true),
                  things = site.add("Fittings", true);
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
    site.piece(things, "Stairs", {21, 6});
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
    site.clear(first[0], [](int x, int y) { return x == 21 && (y == 6 || y == 7); });
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
    site.mark("Start", level::MarkKind::start, {8, 15, 1, 1});
    site.mark("Terrace", level::MarkKind::exit, {8, 7, 1, 1});
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
    pump_house(site);
    salt_maze(site);
    store::save(site.project, dir);
}

} // namespace pell
