#include "edit/recipe_text.hpp"

#include <algorithm>
#include <map>
#include <vector>

#include "base/error.hpp"
#include "store/format_planting.hpp"

namespace vic::edit {

using namespace level;
using store::Json;

namespace {

constexpr const char* kFormat = "vicinum-recipe";
constexpr int kVersion = 1;

// visit(term) for all of a recipe.
template <class Visit>
void each_term(Planting& recipe, Visit visit) {
    for (AreaTerm& t : recipe.area) visit(t);
    for (Pass& p : recipe.passes)
        for (AreaTerm& t : p.where) visit(t);
}

// By the number that the text has, what of the same name is here; 0 where nothing is.
using Here = std::map<std::uint32_t, std::uint32_t>;
template <class Find>
Here read_names(const Json& j, const char* key, Find find) {
    Here out;
    if (j.contains(key) && j[key].is_array())
        for (const Json& one : j[key])
            if (one.is_array() && one.size() == 2 && one[0].is_number_unsigned() && one[1].is_string())
                out[one[0].get<std::uint32_t>()] = find(one[1].get<std::string>());
    return out;
}

template <class All>
std::uint32_t named(const All& all, const std::string& name) {
    for (const auto& one : all)
        if (one->name == name) return one->id;
    return 0;
}

// The recipe in the numbers of this project; false where a term is of something that is not here.
bool brought(AreaTerm& t, const Here& materials, const Here& layers, const Here& kinds, const Here& sheets) {
    const auto now = [](const Here& here, std::uint32_t id) {
        const auto found = here.find(id);
        return found == here.end() ? 0U : found->second;
    };
    if (t.layer != 0) t.layer = now(layers, t.layer);
    if (t.of == AreaOf::layer && t.layer == 0) return false;
    if (t.of == AreaOf::material && (t.material = static_cast<MaterialId>(now(materials, t.material))) == 0)
        return false;
    if (t.of == AreaOf::picture && (t.sheet = now(sheets, t.sheet)) == 0) return false;
    if (t.of == AreaOf::props && t.kind != 0 && (t.kind = now(kinds, t.kind)) == 0) return false;
    return t.of != AreaOf::tile; // tiles have no names
}

} // namespace

std::string recipe_text(const Project& project, const Level& level, const Planting& recipe) {
    Planting plain = recipe;
    plain.painted.clear();
    plain.cleared.clear();
    plain.taken.clear();
    Json j{{"format", kFormat}, {"version", kVersion}, {"recipe", store::planting_json(plain)}};
    for (const char* key : {"kinds", "materials", "layers", "sheets"}) j[key] = Json::array();
    const auto tell = [&](const char* key, std::uint32_t id, const std::string& name) {
        const Json one{id, name};
        if (std::find(j[key].begin(), j[key].end(), one) == j[key].end()) j[key].push_back(one);
    };
    const auto kind = [&](PropKindId id) {
        if (const PropKind* k = project.prop_kind(id)) tell("kinds", id, k->name);
    };
    for (const Pass& p : plain.passes)
        for (const PlantKind& k : p.kinds) kind(k.kind);
    each_term(plain, [&](const AreaTerm& t) {
        if (t.kind != 0) kind(t.kind);
        if (const Material* m = t.material != 0 ? project.material(t.material) : nullptr)
            tell("materials", m->id, m->name);
        if (const Layer* l = t.layer != 0 ? level.layer(t.layer) : nullptr) tell("layers", l->id, l->name);
        if (const Sheet* s = t.sheet != 0 ? project.sheet(t.sheet) : nullptr) tell("sheets", s->id, s->name);
    });
    return j.dump(1);
}

Planting recipe_of(const Project& project, const Level& level, const std::string& text) {
    const std::string where = "the recipe";
    const Json j = Json::parse(text, nullptr, false);
    if (j.is_discarded() || !j.is_object())
        throw InputError("This is no recipe of a planting", where, "", "Copy one from a planting's panel");
    const store::Field root(j, where, "");
    store::check_format(root, kFormat, kVersion);
    const Here kinds = read_names(j, "kinds", [&](const std::string& n) { return named(project.prop_kinds, n); });
    const Here materials =
        read_names(j, "materials", [&](const std::string& n) { return named(project.materials, n); });
    const Here layers = read_names(j, "layers", [&](const std::string& n) { return named(level.layers, n); });
    const Here sheets = read_names(j, "sheets", [&](const std::string& n) { return named(project.sheets, n); });
    // Kinds that are not the project's are dropped in reading, so their numbers are brought over before.
    Json recipe = root["recipe"].json();
    if (recipe.is_object() && recipe.contains("passes") && recipe["passes"].is_array())
        for (Json& pass : recipe["passes"])
            if (pass.is_object() && pass.contains("kinds") && pass["kinds"].is_array())
                for (Json& k : pass["kinds"])
                    if (k.is_object() && k.contains("kind") && k["kind"].is_number_unsigned()) {
                        const auto found = kinds.find(k["kind"].get<std::uint32_t>());
                        k["kind"] = found == kinds.end() || found->second == 0 ? UINT32_MAX : found->second;
                    }
    Planting out = store::read_planting(store::Field(recipe, where, "recipe"), project);
    const auto gone = [&](AreaTerm& t) { return !brought(t, materials, layers, kinds, sheets); };
    const bool somewhere = !out.area.empty();
    std::erase_if(out.area, gone);
    if (somewhere && out.area.empty()) { // rather than everywhere
        out.area.emplace_back();
        out.area.back().of = AreaOf::painted;
    }
    for (Pass& p : out.passes) std::erase_if(p.where, gone);
    out.painted.clear();
    out.cleared.clear();
    out.taken.clear();
    return out;
}

} // namespace vic::edit
