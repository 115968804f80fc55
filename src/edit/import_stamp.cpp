#include "edit/import_stamp.hpp"

#include <algorithm>
#include <map>

#include "base/error.hpp"
#include "edit/replace.hpp"
#include "level/standing.hpp"
#include "store/project_files.hpp"
#include "store/stamp_text.hpp"

namespace vic::edit {

using namespace level;

namespace {

class Carrier {
  public:
    Carrier(Project into, const fs::path& dir, const Project& from, const fs::path& from_dir)
        : to_(std::move(into)), dir_(dir), from_(from), from_dir_(from_dir) {}

    // 0 where the source has no such tile.
    TileId tile(TileId id) {
        if (const auto known = tiles_.find(id); known != tiles_.end()) return known->second;
        for (const auto& sheet : from_.sheets)
            for (const Tile& t : sheet->tiles)
                if (t.id == id) {
                    bring_sheet(*sheet);
                    return tiles_[id];
                }
        return tiles_[id] = 0;
    }

    MaterialId material(MaterialId id) {
        if (const auto known = materials_.find(id); known != materials_.end()) return known->second;
        const Material* m = from_.material(id);
        if (!m) return materials_[id] = 0;
        for (const auto& own : to_.materials)
            if (own->name == m->name) return materials_[id] = own->id;
        Material copy = *m;
        copy.id = to_.free_material();
        if (copy.id == 0)
            throw InputError("A project has at most 255 materials", dir_.string(), "",
                             "Remove materials that are not used, then paste again");
        copy.homes.clear();
        copy.joins.same.clear();
        copy.joins.pairs.clear();
        copy.joins.accepted.clear();
        for (auto& [mask, variants] : copy.joins.cases) {
            for (Variant& v : variants) v.tile = tile(v.tile);
            std::erase_if(variants, [](const Variant& v) { return v.tile == 0; });
        }
        names_.push_back(copy.name);
        materials_[id] = copy.id;
        to_.put(std::move(copy));
        return materials_[id];
    }

    PropKindId prop(PropKindId id) {
        if (const auto known = props_.find(id); known != props_.end()) return known->second;
        const PropKind* k = from_.prop_kind(id);
        if (!k || (!k->is_ensemble() && !from_.sheet(k->sheet))) return props_[id] = 0;
        for (const auto& own : to_.prop_kinds)
            if (own->name == k->name) return props_[id] = own->id;
        PropKind copy = *k;
        if (!k->is_ensemble()) copy.sheet = bring_sheet(*from_.sheet(k->sheet));
        // Its body comes along where the project has the kit.
        const Sheet* const there = k->is_ensemble() ? nullptr : to_.sheet(copy.sheet);
        const auto body = tiles_.find(k->body);
        copy.body = there && there->kit && body != tiles_.end() ? body->second : 0;
        for (EnsemblePart& part : copy.parts) {
            part.kind = prop(part.kind);
            part.notes = notes(part.notes);
        }
        std::erase_if(copy.parts, [](const EnsemblePart& part) { return part.kind == 0; });
        if (k->is_ensemble() && copy.parts.empty()) return props_[id] = 0;
        copy.notes = notes(copy.notes);
        copy.variant_of = 0;
        copy.id = to_.next_id++;
        names_.push_back(copy.name);
        props_[id] = copy.id;
        to_.put(std::move(copy));
        return props_[id];
    }

    // The project's note of that name and type, brought along where it has none of the name; 0 where it is of another.
    NoteId note(NoteId id) {
        const NoteKind* kind = from_.note_kind(id);
        if (!kind) return 0;
        for (const NoteKind& own : to_.note_kinds)
            if (own.name == kind->name) return own.type == kind->type && own.choices == kind->choices ? own.id : 0;
        NoteKind copy = *kind;
        copy.id = to_.next_id++;
        names_.push_back(copy.name);
        to_.note_kinds.push_back(copy);
        return copy.id;
    }

    Notes notes(const Notes& from) {
        Notes out;
        for (const auto& [id, value] : from)
            if (const NoteId own = note(id); own != 0) out[own] = value;
        return out;
    }

    // What a prop has of its own, in the words of the project it comes to.
    void own(Prop& p) {
        PropOwn with = p.of_its_own();
        with.notes = notes(with.notes);
        for (auto& [part, change] : with.changes) {
            if (change.kind && *change.kind != 0) change.kind = prop(*change.kind);
            if (change.notes) change.notes = notes(*change.notes);
        }
        p.set_own(std::move(with));
    }

    Project to_;
    std::vector<std::string> names_; // of what came along

  private:
    SheetId bring_sheet(const Sheet& sheet) {
        if (const auto known = sheets_.find(sheet.id); known != sheets_.end()) return known->second;
        if (!sheet.image)
            throw InputError(say("The picture of the sheet \"%1\" cannot be read", sheet.name), from_dir_.string(), "",
                             "Open that project, find the picture again and save it");
        for (const auto& own : to_.sheets) {
            if (!own->image || !(*own->image == *sheet.image)) continue;
            for (const Tile& t : sheet.tiles)
                for (const Tile& o : own->tiles)
                    if (o.box == t.box && o.block == t.block) tiles_[t.id] = o.id;
            return sheets_[sheet.id] = own->id;
        }
        Sheet copy = sheet;
        copy.id = to_.next_id++;
        copy.name = free_sheet_name(to_, sheet.name);
        copy.file = store::adopt_picture(dir_, from_dir_ / sheet.file);
        copy.recolour.reset();
        copy.kit.reset();      // its pictures alone come along
        copy.composed.clear(); // its picture is its own from here on
        copy.retired.clear();
        for (Tile& t : copy.tiles) {
            const TileId fresh = to_.next_tile++;
            tiles_[t.id] = fresh;
            t.id = fresh;
            t.homes.clear();
            t.notes.clear();
        }
        for (Tile& t : copy.tiles) {
            for (TileFrame& f : t.frames)
                if (const auto known = tiles_.find(f.tile); known != tiles_.end()) f.tile = known->second;
            std::erase_if(t.frames, [&](const TileFrame& f) {
                return std::none_of(copy.tiles.begin(), copy.tiles.end(),
                                    [&](const Tile& o) { return o.id == f.tile; });
            });
        }
        names_.push_back(copy.name);
        sheets_[sheet.id] = copy.id;
        to_.put(std::move(copy));
        return sheets_[sheet.id];
    }

    fs::path dir_;
    const Project& from_;
    fs::path from_dir_;
    std::map<TileId, TileId> tiles_;
    std::map<MaterialId, MaterialId> materials_;
    std::map<PropKindId, PropKindId> props_;
    std::map<SheetId, SheetId> sheets_;
};

} // namespace

ImportedStamp import_stamp(const Project& project, const fs::path& dir, const fs::path& source_dir,
                           const std::string& stamp_text) {
    const Project source = store::load(source_dir);
    Stamp stamp;
    try {
        stamp = store::stamp_from_text(stamp_text, source_dir.string(), source);
    } catch (const InputError& e) {
        // What was made there since it was saved is not on disk yet.
        throw InputError(e.problem, e.file, e.where, "Save the project it was copied from, then copy again");
    }
    Carrier carrier(project, dir, source, source_dir);
    for (StampLayer& l : stamp.layers) {
        l.from = 0;
        if (auto* tiles = std::get_if<StampTiles>(&l.content)) {
            const Grid from = tiles->grid;
            tiles->grid = Grid(from.size());
            each_cell(from, box_of(from.size()), [&](Point p, Cell c, MaterialId m) {
                const MaterialId own = m == 0 ? MaterialId{0} : carrier.material(m);
                const TileId tile = c.tile() == 0 ? 0 : carrier.tile(c.tile());
                tiles->grid.set(p, Cell(tile, c.turn(), c.pinned() && tile != 0), own);
            });
        }
        if (auto* facts = std::get_if<Facts>(&l.content)) facts->set_note(carrier.note(facts->note()));
        if (StampProps* taken = l.props()) {
            for (Prop& p : taken->props) {
                p.kind = carrier.prop(p.kind);
                carrier.own(p);
            }
            std::erase_if(taken->props, [](const Prop& p) { return p.kind == 0; });
        }
    }
    ImportedStamp out;
    out.changed = !carrier.names_.empty();
    std::string names;
    for (const std::string& n : carrier.names_) names += (names.empty() ? "" : ", ") + n;
    if (out.changed) out.says = say("Brought along: %1", names);
    out.project = std::move(carrier.to_);
    level::fit_ensembles(out.project);
    out.stamp = std::move(stamp);
    return out;
}

} // namespace vic::edit
