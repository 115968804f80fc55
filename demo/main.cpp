// draw-pell-saltern DIR [houses]: draws the art of the demo project and lays its levels, through the same readings and
// strokes that the window uses. The same program makes the same bytes.
#include <iostream>

#include "base/error.hpp"
#include "edit/sheets.hpp"
#include "houses.hpp"
#include "kits.hpp"
#include "levels.hpp"
#include "sheet/cut.hpp"
#include "sheet/png.hpp"
#include "sheets.hpp"
#include "store/project_files.hpp"

namespace {

using namespace vic;
using level::JoinKind;
using level::TileShape;

class Maker {
  public:
    explicit Maker(fs::path dir) : dir_(std::move(dir)) {
        project.name = "Pell Saltern";
        fs::create_directories(dir_ / "sheets");
    }

    // Writes the picture and takes the program's own reading of its cut, which has to be right.
    level::SheetId add(const std::string& name, const Image& image) {
        const auto reading = sheet::read_cut(image);
        if (!reading.best || reading.best->cut.tile != Size{pell::kTile, pell::kTile})
            throw InputError("The cut of the demo's own sheet is misread", name, "", "Mend the reading or the art");
        return put(name, image, reading.best->cut);
    }

    level::SheetId put(const std::string& name, const Image& image, const level::Cut& cut) {
        const level::SheetId id = put_bare(name, image, cut);
        level::Sheet sheet = *project.sheet(id);
        sheet.credits = {"The Vicinum developers", "MIT", "drawn by demo/art.cpp of Vicinum", ""};
        project.put(std::move(sheet));
        return id;
    }

    level::SheetId put_bare(const std::string& name, const Image& image, const level::Cut& cut) {
        const std::string file = "sheets/" + slug(name, "sheet") + ".png";
        write_file(dir_ / file, sheet::encode_png(image));
        level::SheetId id = 0;
        project = edit::add_sheet(std::move(project), file, image, name, cut, true, id);
        return id;
    }

    void material(const std::string& name, level::SheetId id, JoinKind kind, TileShape shape = TileShape::none) {
        const level::Sheet& sheet = *project.sheet(id);
        join::JoinReading reading;
        if (kind == JoinKind::full) {
            reading = join::read_joins(edit::tile_pictures(sheet), kind);
            if (!reading.missing.empty() || !reading.doubtful.empty())
                throw InputError("The joins of the demo's own sheet are misread", name, "",
                                 "Mend the reading or the art");
        }
        level::MaterialId added = 0;
        project = edit::add_material(std::move(project), sheet, kind, reading, name, added);
        stock.materials[name] = added;
        if (shape != TileShape::none) {
            std::vector<level::TileId> tiles;
            for (const auto& t : project.sheet(id)->tiles)
                if (!t.blank) tiles.push_back(t.id);
            project = edit::change_tiles(std::move(project), tiles, [&](level::Tile& t) { t.shape = shape; });
        }
    }

    level::TileId tile(level::SheetId sheet, std::size_t index) const {
        return project.sheet(sheet)->tiles.at(index).id;
    }

    void name_tile(level::SheetId sheet, std::size_t index, const std::string& name, TileShape shape) {
        const level::TileId id = tile(sheet, index);
        project = edit::change_tiles(std::move(project), {id}, [&](level::Tile& t) {
            t.name = name;
            t.shape = shape;
        });
        stock.tiles[name] = id;
    }

    // Takes tiles out of the choice of a case; they stay part of the material and are laid by hand.
    void never_choose(const std::string& material, const std::vector<level::TileId>& tiles) {
        auto variants = project.material(stock.materials.at(material))->joins.cases.at(255);
        for (auto& v : variants)
            for (const level::TileId t : tiles)
                if (v.tile == t) v.weight = 0;
        project = edit::set_case(std::move(project), stock.materials.at(material), 255, variants);
    }

    // The sheet's pictures as kinds of props.
    void props(level::SheetId sheet, const std::vector<pell::PropArt>& arts) {
        for (const auto& art : arts) {
            level::PropKind kind = edit::propose_prop(*project.sheet(sheet), art.box, project.next_id++, art.name);
            kind.blocks = art.blocks;
            kind.flat = art.flat;
            kind.height = art.height;
            kind.frames = art.frames;
            kind.frame_ms = art.frame_ms;
            if (art.foot) {
                kind.foot = *art.foot;
                kind.pivot = {art.foot->x + art.foot->w / 2, art.foot->bottom() - 1};
            }
            stock.props[art.name] = kind.id;
            project.put(std::move(kind));
        }
    }

    void home(const std::string& name, const level::Level& level, const std::string& layer) {
        level::Material m = *project.material(stock.materials.at(name));
        for (const auto& l : level.layers)
            if (l->name == layer) m.homes.push_back(l->id);
        project.put(std::move(m));
    }

    level::Project project;
    pell::Stock stock;

  private:
    fs::path dir_;
};

void make(const fs::path& dir) {
    Maker m(dir);
    const auto clay = m.add("Clay", pell::clay_sheet());
    const auto brine = m.add("Brine", pell::brine_sheet());
    const auto creek = m.add("Creek", pell::creek_sheet());
    const auto marsh = m.add("Marsh", pell::marsh_sheet());
    const auto boards = m.add("Boardwalk", pell::boardwalk_sheet());
    const auto brick = m.add("Brick", pell::brick_sheet());
    const level::Cut plain{{pell::kTile, pell::kTile}, {}, {}, 1};
    const auto wall = m.put("Cellar wall", pell::cellar_wall_sheet(), plain);
    const auto catwalk = m.put("Catwalk", pell::catwalk_sheet(), plain);
    const auto slopes = m.put("Slopes", pell::slope_sheet(), plain);
    const auto water = m.put("Cellar water", pell::water_sheet(), plain);

    m.material("Clay", clay, JoinKind::full);
    m.material("Brine", brine, JoinKind::full, TileShape::full);
    m.material("Creek", creek, JoinKind::full, TileShape::full);
    m.material("Marsh", marsh, JoinKind::full);
    m.material("Boardwalk", boards, JoinKind::full);
    m.material("Brick", brick, JoinKind::full, TileShape::full);
    m.material("Cellar wall", wall, JoinKind::plain);
    m.material("Catwalk", catwalk, JoinKind::plain, TileShape::one_way_north);
    m.material("Cellar water", water, JoinKind::plain);

    m.name_tile(creek, 53, "Creek under boards", TileShape::none);
    m.never_choose("Creek", {m.tile(creek, 53)});
    m.name_tile(catwalk, 2, "Catwalk end left", TileShape::one_way_north);
    m.name_tile(catwalk, 3, "Catwalk end right", TileShape::one_way_north);
    m.never_choose("Catwalk", {m.tile(catwalk, 2), m.tile(catwalk, 3)});
    m.name_tile(water, 0, "Water surface", TileShape::none);
    m.name_tile(water, 1, "Water surface 2", TileShape::none);
    m.never_choose("Cellar water", {m.tile(water, 0), m.tile(water, 1)});
    // The surface laps to and fro, the two out of step.
    const level::TileId lap[2] = {m.tile(water, 0), m.tile(water, 1)};
    for (const int i : {0, 1})
        m.project = edit::change_tiles(std::move(m.project), {lap[i]}, [&](level::Tile& t) {
            t.frames = {{lap[i], 480}, {lap[1 - i], 480}};
        });
    m.name_tile(slopes, 0, "Ceiling down", TileShape::slope_ne);
    m.name_tile(slopes, 1, "Slope up", TileShape::slope_se);
    m.name_tile(slopes, 2, "Slope down", TileShape::slope_sw);
    m.name_tile(slopes, 3, "Ceiling up", TileShape::slope_nw);
    // Slopes belong to the brick: its cells join them as their own.
    auto brick_centre = m.project.material(m.stock.materials.at("Brick"))->joins.cases.at(255);
    for (std::size_t i = 0; i < 4; ++i) brick_centre.push_back({m.tile(slopes, i), 0});
    m.project = edit::set_case(std::move(m.project), m.stock.materials.at("Brick"), 255, brick_centre);

    const auto picture = [&](const std::string& name, const Image& image) {
        return m.put(name, image, {image.size(), {}, {}, 1});
    };
    m.stock.silt = picture("Silt", pell::silt_backdrop());
    std::vector<pell::PropArt> arts;
    const Image props = pell::props_sheet(arts);
    m.props(picture("Saltworks props", props), arts);
    arts.clear();
    const Image shore = pell::shore_sheet(arts);
    m.props(picture("Along the shore", shore), arts);
    arts.clear();
    const Image figures = pell::figures_sheet(arts);
    m.props(picture("Figures", figures), arts);
    m.stock.vaults = picture("Vaults", pell::vaults_backdrop());
    m.stock.depths = picture("Depths", pell::depths_backdrop());
    const Image arch = pell::arch_prop();
    m.props(picture("Arch", arch), {{"Arch", box_of(arch.size())}});

    const level::Level pans = pell::brine_pans(m.project, m.stock);
    for (const auto& [material, layer] : {std::pair{"Clay", "Clay"},
                                          {"Brine", "Pans"},
                                          {"Creek", "Pans"},
                                          {"Marsh", "Marsh"},
                                          {"Boardwalk", "Boardwalk"}})
        m.home(material, pans, layer);
    m.project.put(pans);
    const level::Level cellar = pell::pump_cellar(m.project, m.stock);
    for (const auto& [material, layer] : {std::pair{"Brick", "Brick"},
                                          {"Cellar wall", "Back wall"},
                                          {"Catwalk", "Catwalks"},
                                          {"Cellar water", "Water"}})
        m.home(material, cellar, layer);
    m.project.put(cellar);
    // What lies over the ground: see-through, so that it goes to an overlay.
    const auto crust = m.put("Crust", pell::crust_sheet(), plain);
    for (std::size_t i = 0; i < 4; ++i) m.name_tile(crust, i, "Salt crust " + std::to_string(i + 1), TileShape::none);
    m.name_tile(crust, 4, "Pebbles", TileShape::none);
    m.name_tile(crust, 5, "Straw", TileShape::none);
    // The salt store, on an isometric lattice.
    const level::Cut diamonds{{32, 16}, {}, {}, 1};
    const auto floor = m.put("Store floor", pell::store_floor_sheet(), diamonds);
    const auto yard = m.put("Store yard", pell::yard_sheet(), diamonds);
    const auto store = m.put("Store walls", pell::store_sheet(), {{32, 36}, {}, {}, 1});
    m.material("Store floor", floor, JoinKind::full);
    m.material("Store yard", yard, JoinKind::plain);
    for (const std::size_t i : {0U, 1U}) m.name_tile(store, i, "Store wall " + std::to_string(i + 1), TileShape::full);
    for (const std::size_t i : {2U, 3U}) m.name_tile(store, i, "Salt heap " + std::to_string(i - 1), TileShape::full);
    for (const std::size_t i : {4U, 5U}) m.name_tile(store, i, "Crate " + std::to_string(i - 3), TileShape::full);
    const level::Level salt_store = pell::salt_store(m.project, m.stock);
    for (const auto& [material, layer] : {std::pair{"Store floor", "Floor"}, {"Store yard", "Yard"}})
        m.home(material, salt_store, layer);
    m.project.put(salt_store);
    // One swims in the cellar's water, and so gets back out of the culvert.
    m.project.area_kinds.push_back({m.project.next_id++, "Water", {46, 134, 140, 255}, level::AreaMeans::water});
    const level::AreaKindId told = m.project.area_kinds.front().id;
    std::vector<level::TileId> wet;
    for (const level::Tile& t : m.project.sheet(water)->tiles)
        if (!t.blank) wet.push_back(t.id);
    m.project = edit::change_tiles(std::move(m.project), wet, [told](level::Tile& t) { t.tells = told; });
    store::save(m.project, dir);
    // Not part of the project: a sheet to drop on the window, for the first level of the guide.
    fs::create_directories(dir / "to-add");
    write_file(dir / "to-add/gravel.png", sheet::encode_png(pell::gravel_sheet()));
    // And a small picture from which a level can be laid.
    write_file(dir / "to-add/north-pans.png", sheet::encode_png(pell::north_pans_plan()));
    // Kits to drop, and a maze to lay with the second.
    for (const auto& [name, kit] :
         {std::pair{"pump-house", pell::pump_house_kit()}, std::pair{"salt-walls", pell::salt_walls_kit()}}) {
        write_file(dir / "to-add" / (std::string(name) + ".obj"), kit.obj);
        write_file(dir / "to-add" / (std::string(name) + ".mtl"), kit.mtl);
    }
    write_file(dir / "to-add/salt-maze.png", sheet::encode_png(pell::salt_maze_plan()));
}

} // namespace

int main(int argc, char** argv) {
    const bool houses = argc == 3 && std::string(argv[2]) == "houses"; // the second project
    if (argc != 2 && !houses) {
        std::cerr << "usage: draw-pell-saltern DIR [houses]\n";
        return 2;
    }
    try {
        houses ? pell::make_houses(argv[1]) : make(argv[1]);
    } catch (const std::exception& e) {
        std::cerr << e.what() << '\n';
        return 1;
    }
}
