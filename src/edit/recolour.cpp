#include "edit/recolour.hpp"

#include <algorithm>
#include <map>
#include <set>
#include <utility>
#include <vector>

#include "base/files.hpp"
#include "join/compose_sheet.hpp"

namespace vic::edit {

using namespace level;

namespace {

void each_case(JoinSet& set, const std::function<void(Cases&)>& what) {
    what(set.cases);
    for (auto& [other, cases] : set.pairs) what(cases);
}

std::string free_file(const Project& project, const std::string& name) {
    for (int n = 1;; ++n) {
        std::string file = "sheets/" + slug(name, "colours");
        file += (n == 1 ? "" : "-" + std::to_string(n)) + ".png";
        if (std::none_of(project.sheets.begin(), project.sheets.end(), [&](const auto& s) { return s->file == file; }))
            return file;
    }
}

// The sheet of these colours that is derived from `of`, made where there is none.
SheetId derived_from(Project& project, SheetId of, const std::string& name, Recolour by) {
    by.of = of;
    for (const auto& s : project.sheets)
        if (s->recolour == by) return s->id;
    Sheet sheet = *project.sheet(of);
    sheet.id = project.next_id++;
    sheet.name += " (" + name + ")";
    sheet.file = free_file(project, sheet.name);
    sheet.composed.clear();
    sheet.parts.clear();
    sheet.retired.clear();
    sheet.recolour = std::move(by);
    sheet.accepted = true;
    std::map<TileId, TileId> fresh;
    for (Tile& t : sheet.tiles) {
        const TileId before = t.id;
        t.id = project.next_tile++;
        fresh[before] = t.id;
    }
    for (Tile& t : sheet.tiles)
        for (TileFrame& f : t.frames)
            if (const auto to = fresh.find(f.tile); to != fresh.end()) f.tile = to->second;
    const SheetId id = sheet.id;
    sheet.image.reset();
    project.put(std::move(sheet));
    return id;
}

// Tiles of one sheet by those of the other with the same boxes.
void add_counterparts(const Sheet& from, const Sheet& to, std::map<TileId, TileId>& out) {
    std::map<Box, TileId> there;
    for (const Tile& t : to.tiles) there.emplace(t.box, t.id);
    for (const Tile& t : from.tiles)
        if (const auto found = there.find(t.box); found != there.end()) out[t.id] = found->second;
}

} // namespace

std::vector<SheetId> sheets_of(const Project& project, const Hand& hand) {
    const TileTable table(project);
    std::set<SheetId> out;
    const auto add = [&](TileId tile) {
        if (const TileRef ref = table.find(tile); ref.tile) out.insert(ref.sheet->id);
    };
    if (hand.is<held::Tile>()) add(hand.tile());
    if (const PropKind* kind = project.prop_kind(hand.prop()); kind && project.sheet(kind->sheet))
        out.insert(kind->sheet);
    if (const Material* material = project.material(hand.material())) {
        JoinSet set = material->joins;
        each_case(set, [&](Cases& cases) {
            for (const auto& [mask, variants] : cases)
                for (const Variant& v : variants) add(v.tile);
        });
    }
    return {out.begin(), out.end()};
}

Text recolour_trouble(const Project& project, const Hand& hand, const std::string& name) {
    const std::vector<SheetId> sheets = sheets_of(project, hand);
    if (sheets.empty()) return "There is no art to colour";
    for (const SheetId id : sheets)
        if (!project.sheet(id)->image) return say("The picture of \"%1\" could not be read", project.sheet(id)->name);
    if (name.empty()) return "It needs a name";
    if (hand.is<held::Material>()) {
        for (const auto& m : project.materials)
            if (m->name == name) return say("There is a material \"%1\" already", name);
        if (project.free_material() == 0) return "The project has as many materials as there can be";
    }
    for (const auto& k : project.prop_kinds)
        if (hand.is<held::Prop>() && k->name == name) return say("There is a prop \"%1\" already", name);
    return {};
}

Recoloured recoloured(Project project, const Hand& hand, const std::string& name, const Recolour& by) {
    Recoloured out;
    out.hand = hand;
    std::map<TileId, TileId> tiles;
    std::map<SheetId, SheetId> sheets;
    for (const SheetId id : sheets_of(project, hand)) {
        sheets[id] = derived_from(project, id, name, by);
        add_counterparts(*project.sheet(id), *project.sheet(sheets[id]), tiles);
    }
    if (const Material* old = project.material(hand.material())) {
        Material copy = *old;
        copy.id = project.free_material();
        copy.name = name;
        each_case(copy.joins, [&](Cases& cases) {
            for (auto& [mask, variants] : cases)
                for (Variant& v : variants)
                    if (const auto to = tiles.find(v.tile); to != tiles.end()) v.tile = to->second;
        });
        for (TileId& t : copy.joins.accepted)
            if (const auto to = tiles.find(t); to != tiles.end()) t = to->second;
        std::sort(copy.joins.accepted.begin(), copy.joins.accepted.end());
        out.hand.holds = held::Material{copy.id};
        project.put(std::move(copy));
    } else if (hand.is<held::Tile>()) {
        const TileId copy = tiles.at(hand.tile());
        Sheet sheet = *project.sheet(sheets.begin()->second);
        for (Tile& t : sheet.tiles)
            if (t.id == copy) t.name = name;
        project.put(std::move(sheet));
        out.hand.holds = held::Tile{copy};
    } else if (const PropKind* kind = project.prop_kind(hand.prop())) {
        PropKind copy = *kind;
        copy.id = project.next_id++;
        copy.name = name;
        copy.sheet = sheets.at(kind->sheet);
        out.hand.holds = held::Prop{copy.id};
        project.put(std::move(copy));
    }
    out.project = join::compose_sheets(std::move(project));
    return out;
}

Image colour_sample(const Project& project, const Hand& hand) {
    const auto source = [&](const Sheet& sheet) -> const Image* {
        const Sheet* of = sheet.recolour ? project.sheet(sheet.recolour->of) : &sheet;
        return of && of->image ? of->image.get() : nullptr;
    };
    if (const PropKind* kind = project.prop_kind(hand.prop())) {
        const Sheet* sheet = project.sheet(kind->sheet);
        const Image* image = sheet ? source(*sheet) : nullptr;
        return image ? cropped(*image, kind->box) : Image();
    }
    std::vector<TileId> tiles;
    if (hand.is<held::Tile>()) tiles.push_back(hand.tile());
    if (const Material* material = project.material(hand.material()))
        for (const auto& [mask, variants] : material->joins.cases)
            for (const Variant& v : variants) tiles.push_back(v.tile);
    const TileTable table(project);
    std::vector<Image> art;
    for (const TileId id : tiles)
        if (const TileRef ref = table.find(id); ref.tile && art.size() < 16)
            if (const Image* image = source(*ref.sheet)) art.push_back(cropped(*image, ref.tile->box));
    if (art.empty()) return {};
    const int side = art.size() <= 1 ? 1 : art.size() <= 4 ? 2 : art.size() <= 9 ? 3 : 4;
    const Size cell = art.front().size();
    Image out({side * cell.w, side * cell.h}, {});
    for (std::size_t i = 0; i < art.size(); ++i)
        for (int y = 0; y < std::min(cell.h, art[i].height()); ++y)
            for (int x = 0; x < std::min(cell.w, art[i].width()); ++x)
                out.set(static_cast<int>(i) % side * cell.w + x, static_cast<int>(i) / side * cell.h + y,
                        art[i].at(x, y));
    return out;
}

Project recolour_again(Project project, const Hand& hand, Recolour by) {
    for (const SheetId id : sheets_of(project, hand)) {
        Sheet sheet = *project.sheet(id);
        if (!sheet.recolour) continue;
        by.of = sheet.recolour->of;
        sheet.recolour = by;
        project.put(std::move(sheet));
    }
    return join::compose_sheets(std::move(project));
}

const Recolour* recolour_of(const Project& project, const Hand& hand) {
    for (const SheetId id : sheets_of(project, hand))
        if (const auto& by = project.sheet(id)->recolour) return &*by;
    return nullptr;
}

} // namespace vic::edit
