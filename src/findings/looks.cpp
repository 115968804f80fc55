#include "findings/looks.hpp"

#include <algorithm>
#include <array>
#include <cctype>
#include <map>
#include <set>
#include <string>
#include <utility>

#include "level/standing.hpp"
#include "level/telling.hpp"
#include "outline/solid.hpp"

namespace vic::findings {

using namespace level;

namespace {

constexpr std::size_t kMostGaps = 8;
constexpr std::int64_t kMostLooked = 1 << 18; // cells

std::string cell_text(Point cell) { return std::to_string(cell.x) + ", " + std::to_string(cell.y); }

Leak look_at(Leak::Kind kind, Point cell, LayerId layer) {
    Leak out;
    out.kind = kind;
    out.cells = {cell.x, cell.y, 1, 1};
    out.layer = layer;
    return out;
}

// The first of the words that stands in a name by itself.
template <class Words>
std::string word_in(const std::string& name, const Words& words) {
    std::string word;
    for (const char c : name + " ") {
        if (std::isalpha(static_cast<unsigned char>(c))) {
            word += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
            continue;
        }
        for (const char* of : words)
            if (word == of) return word;
        word.clear();
    }
    return {};
}

// Names of what one stands on in levels from the side.
std::string ground_word(const std::string& name) {
    static constexpr std::array words{"ground", "floor", "platform", "ledge", "earth", "dirt", "stone", "soil"};
    const std::string wall = telling_word(name);
    // One does not stand on what one swims in.
    for (const char* water : {"water", "sea", "lake", "river", "ocean", "lava"})
        if (wall == water) return {};
    return wall.empty() ? word_in(name, words) : wall;
}

std::string usable_word(const std::string& name) {
    static constexpr std::array words{"door",   "gate",  "hatch",  "ladder", "lever",
                                      "switch", "chest", "button", "sign",   "stairs"};
    return word_in(name, words);
}

// What lies in a level as one thing: a material, or a tile that was laid by hand.
struct Thing {
    std::string name;
    bool shaped = false, heard = false, tells = false;
    LayerId layer = 0; // of its first cell
    std::vector<Point> cells;
};
using Things = std::map<std::pair<MaterialId, TileId>, Thing>;

Things things_in(const Project& project, const Level& level, const TileTable& tiles) {
    Things out;
    for (const LayerRef& layer : level.layers) {
        if (!layer->tiles() || !layer->shown || layer->grain().finer != 1) continue;
        const Grain grain = layer->grain();
        each_cell(layer->grid(), layer->cells(), [&](Point at, Cell cell, MaterialId material) {
            const TileRef ref = tiles.find(cell.tile());
            if (!ref.tile && material == 0) return;
            Thing& thing = out[{material, material != 0 ? 0 : cell.tile()}];
            if (thing.cells.empty()) {
                const Material* m = material != 0 ? project.material(material) : nullptr;
                thing.name = m ? m->name : ref.tile ? ref.tile->name : std::string();
                thing.layer = layer->id;
            }
            const TileShape shape = tiles.shape(cell);
            thing.shaped = thing.shaped || (shape != TileShape::none && shape != TileShape::opens);
            thing.heard = thing.heard || layer->solid();
            thing.tells = thing.tells || (ref.tile && ref.tile->tells != 0);
            thing.cells.push_back(grain.own() ? grain.in_level(Box{at.x, at.y, 1, 1}).corner() : at);
        });
    }
    return out;
}

// Whether most of its cells are in nobody's way, whatever says so.
bool open_mostly(const Thing& thing, const std::vector<outline::SolidCode>& codes, Size size) {
    std::size_t open = 0;
    for (const Point at : thing.cells)
        open +=
            codes[static_cast<std::size_t>(at.y) * static_cast<std::size_t>(size.w) + static_cast<std::size_t>(at.x)] ==
            outline::kOpen;
    return 2 * open > thing.cells.size();
}

void check_things(const Level& level, const Things& things, const std::vector<outline::SolidCode>& codes,
                  std::vector<Leak>& out) {
    for (const auto& [key, thing] : things) {
        const bool unheard = thing.shaped && !thing.heard;
        const std::string word = level.view == View::from_the_side && !thing.shaped && !thing.tells && key.first != 0
                                     ? ground_word(thing.name)
                                     : std::string();
        if ((!unheard && word.empty()) || !open_mostly(thing, codes, level.size)) continue;
        const std::string name = thing.name.empty() ? "tile " + std::to_string(key.second) : thing.name;
        Leak leak = look_at(unheard ? Leak::Kind::unheard : Leak::Kind::solid, thing.cells.front(), thing.layer);
        leak.material = key.first;
        leak.tile = key.second;
        if (unheard) {
            leak.brief = say("\"%1\" blocks nobody", name);
            leak.what = say("\"%1\" has a shape that blocks nobody: no layer on which it lies blocks; first at %2",
                            name, cell_text(thing.cells.front()));
            leak.remedy = "Let its layers block under Used here in Bound, or say there that it blocks nothing";
        } else {
            leak.brief = say("\"%1\" is in nobody's way", name);
            leak.what = say("\"%1\" is called %2, and nobody stands on it or is stopped by it; first at %3", name, word,
                            cell_text(thing.cells.front()));
            leak.remedy = "Say what it is under Used here in Bound";
        }
        out.push_back(std::move(leak));
    }
}

// Kinds of props whose name or tags say that one does something with them, and that are told to nobody.
void check_props(const Level& level, const PropKinds& kinds, std::vector<Leak>& out) {
    std::set<PropKindId> told;
    for (const LayerRef& layer : level.layers)
        for (const Prop& prop : layer->props()) {
            if (!layer->shown || prop.pass != 0) continue;
            const PropKind* kind = kinds.find(prop.kind);
            if (!kind || kind->is_ensemble() || told.contains(kind->id)) continue;
            std::string word = usable_word(kind->name);
            for (const std::string& tag : kind->tags)
                if (word.empty()) word = usable_word(tag);
            const PropOwn& own = prop.of_its_own();
            if (word.empty() || !kind->areas.empty() || !kind->notes.empty() || !own.notes.empty() || !own.name.empty())
                continue;
            const Box near = level.geometry().cells_in(kinds.box(prop));
            if (std::any_of(level.marks.begin(), level.marks.end(),
                            [&](const Mark& m) { return !intersection(m.cells, near).empty(); }))
                continue;
            told.insert(kind->id);
            const Point cell = level.geometry().cell_at(prop.at);
            Leak leak = look_at(Leak::Kind::usable, cell, layer->id);
            leak.prop = kind->id;
            leak.brief = say("\"%1\" tells nobody", kind->name);
            leak.what =
                say("\"%1\" at %2 is called %3, and the game is told nothing of it", kind->name, cell_text(cell), word);
            leak.remedy = "Give its kind an area that tells or a note, the prop a name, or put a mark there";
            leak.word = std::move(word);
            out.push_back(std::move(leak));
        }
}

// Single open cells in thin rows of blockers.
void check_gaps(const Level& level, const std::vector<outline::SolidCode>& codes, std::vector<Leak>& out) {
    std::size_t found = 0;
    const auto open = [&](Point at) {
        return codes[static_cast<std::size_t>(at.y) * static_cast<std::size_t>(level.size.w) +
                     static_cast<std::size_t>(at.x)] == outline::kOpen;
    };
    for (const LayerRef& layer : level.layers) {
        const Blockers* blockers = layer->blockers();
        if (!blockers) continue;
        const auto full = [&](Point at) { return blockers->shape(at) == TileShape::full; };
        each_cell(blockers->cells(), level.cells(), [&](Point at, Cell cell, MaterialId) {
            if (Blockers::shape_of(cell) != TileShape::full) return;
            for (const Point along : {Point{1, 0}, Point{0, 1}}) {
                const Point gap = at + along, after = gap + along, across{along.y, along.x};
                if (!full(at - along) || !full(after) || !full(after + along) || full(gap) || !open(gap)) continue;
                // Of a wide mass it is a dent or a pit.
                bool thin = true;
                for (const Point p : {at, after})
                    for (const Point beside : {p + across, p - across})
                        thin = thin && level.cells().contains(beside) && open(beside);
                for (const Point beside : {gap + across, gap - across})
                    thin = thin && level.cells().contains(beside) && open(beside);
                const bool meant = std::any_of(level.marks.begin(), level.marks.end(), [&](const Mark& m) {
                    return !intersection(m.cells, Box{gap.x, gap.y, 1, 1}.grown(1)).empty();
                });
                if (!thin || meant || found == kMostGaps) continue;
                ++found;
                Leak leak = look_at(Leak::Kind::gap, gap, layer->id);
                leak.brief = "A gap of one cell";
                leak.what = say("A row of blockers on \"%1\" has a gap of one cell at %2", layer->name, cell_text(gap));
                leak.remedy = "Close it with May not walk (Shift+N), or put a mark there if it is meant";
                out.push_back(std::move(leak));
            }
        });
    }
}

} // namespace

std::vector<Leak> looks(const Project& project, const Level& level) {
    std::vector<Leak> out;
    if (level.size.area() > kMostLooked) return out;
    const TileTable tiles(project, level);
    const PropKinds kinds(project, level);
    check_props(level, kinds, out);
    const Things things = things_in(project, level, tiles);
    const bool asks = std::any_of(things.begin(), things.end(), [](const auto& t) {
        return (t.second.shaped && !t.second.heard) || !t.second.shaped;
    });
    const bool rows = std::any_of(level.layers.begin(), level.layers.end(),
                                  [](const LayerRef& l) { return l->blockers() != nullptr; });
    if (!asks && !rows) return out;
    std::vector<outline::SolidCode> codes(static_cast<std::size_t>(level.size.area()));
    outline::Forms forms;
    outline::read_solid(level, {tiles, kinds}, level.cells(), codes.data(), static_cast<std::size_t>(level.size.w),
                        forms);
    check_things(level, things, codes, out);
    check_gaps(level, codes, out);
    return out;
}

} // namespace vic::findings
