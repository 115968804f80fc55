#include "fuzz/targets.hpp"

#include <cstdlib>
#include <exception>
#include <filesystem>
#include <functional>
#include <iostream>
#include <map>
#include <memory>

#include "base/error.hpp"
#include "base/files.hpp"
#include "edit/document.hpp"
#include "findings/check.hpp"
#include "join/resolve.hpp"
#include "kit/models.hpp"
#include "kit/read_gltf.hpp"
#include "kit/read_kit.hpp"
#include "kit/read_obj.hpp"
#include "outline/trace.hpp"
#include "parcel/build.hpp"
#include "plan/read_plan.hpp"
#include "sheet/png.hpp"
#include "sheet/read_cut.hpp"
#include "store/cells.hpp"
#include "store/format.hpp"
#include "store/journal.hpp"
#include "store/project_files.hpp"
#include "support/make.hpp"
#include "vicinum_level.hpp"
#include "walk/world.hpp"

using namespace vic;

namespace fuzz {

namespace {

constexpr std::int64_t kMostUsed = 128 * 128; // cells or pixels; what is larger is read only

void hold(bool it, const char* what) {
    if (it) return;
    std::cerr << "does not hold: " << what << "\n";
    std::abort();
}

std::string corpus(const std::string& name) { return read_file(fs::path(FUZZ_CORPUS) / name); }

// With pictures, little else.
const level::Project& drawn() {
    static const make::Small small = make::rich(3);
    return small.project;
}

// With something of everything but pictures.
const level::Project& base() {
    static const level::Project all = [] {
        std::vector<std::string> ids;
        level::Project p = store::project_from_text(corpus("project/pell-saltern"), "project.json", ids);
        p.put(store::level_from_text(corpus("level/brine-pans"), "level.json", p));
        return p;
    }();
    return all;
}

// Between the records of a journal, whose lengths and hashes no mutation would hit.
const std::string kBetween = "\n---\n";

std::vector<std::string> parts_of(const std::string& bytes) {
    std::vector<std::string> parts;
    std::size_t from = 0;
    while (true) {
        const std::size_t to = bytes.find(kBetween, from);
        parts.push_back(bytes.substr(from, to == std::string::npos ? to : to - from));
        if (to == std::string::npos) return parts;
        from = to + kBetween.size();
    }
}

void use(const level::Project& project) {
    const join::Rules rules(project);
    findings::Checker().check(project);
    static_cast<void>(store::texts(project));
}

void use(const level::Level& level, const level::Project& project) {
    if (static_cast<std::int64_t>(level.size.w) * level.size.h > kMostUsed) return;
    level::Project with = project;
    with.levels.clear();
    with.put(level);
    use(with);
    static_cast<void>(outline::outlines(outline::trace(level, level::TileTable(with))));
}

void read_project(const std::string& bytes) {
    std::vector<std::string> ids;
    const level::Project project = store::project_from_text(bytes, "project.json", ids);
    use(project);
    std::vector<std::string> again_ids;
    // The levels that the text names are in files of their own.
    const std::string text = store::project_to_text(project);
    hold(store::project_to_text(store::project_from_text(text, "project.json", again_ids)) == text, "project = again");
}

void read_level(const std::string& bytes) {
    const level::Level level = store::level_from_text(bytes, "level.json", base());
    const std::string text = store::level_to_text(level);
    hold(store::level_to_text(store::level_from_text(text, "level.json", base())) == text, "level = again");
    use(level, base());
}

level::Level bare() { return store::level_from_text(corpus("level/brine-pans"), "level.json", base()); }

void read_cells(const std::string& bytes) {
    level::Level level = bare();
    store::CellReader reader(level, base().next_tile);
    reader.read(bytes, "a.cells", level.cells());
    const join::Rules rules(base());
    reader.finish(rules);
    const std::string text = store::write_cells(level, rules, level.cells());
    level::Level again = bare();
    store::CellReader once_more(again, base().next_tile);
    once_more.read(text, "a.cells", again.cells());
    once_more.finish(rules);
    for (std::size_t i = 0; i < level.layers.size(); ++i)
        if (level.layers[i]->has_cells()) hold(level.layers[i]->grid() == again.layers[i]->grid(), "cells = again");
    use(level, base());
}

void read_journal(const std::string& bytes) {
    static const make::Folder folder;
    std::string text;
    for (const std::string& part : parts_of(bytes)) text += store::journal_frame(part);
    const fs::path file = folder / "journal";
    write_file(file, text);
    static_cast<void>(store::journal_head(file));
    store::JournalReader reader(file, std::make_shared<const level::Project>(base()), folder.path());
    int steps = 0;
    while (const auto step = reader.next()) {
        if (step->kind == store::JournalStep::Kind::go) continue;
        use(*step->after);
        ++steps;
    }
    if (steps == 0) throw InputError("No step", "journal", {}, {});
    edit::Document document(base(), folder.path());
    store::JournalReader again(file, document.state(), folder.path());
    document.replay(again);
    const auto state = document.state();
    const std::size_t now = document.now();
    hold(now < document.history().size(), "now is in the history");
    document.go_to(0);
    document.go_to(now);
    hold(document.state() == state, "there and back = the same");
}

void read_sheet(const std::string& bytes) {
    const Image image = sheet::decode_png(bytes, "a.png");
    hold(sheet::decode_png(sheet::encode_png(image), "b.png") == image, "picture = again");
    if (static_cast<std::int64_t>(image.width()) * image.height() <= kMostUsed)
        static_cast<void>(sheet::read_cut(image));
}

void read_plan(const std::string& bytes) {
    const Image image = plan::read_picture(bytes, "a.png");
    if (static_cast<std::int64_t>(image.width()) * image.height() > kMostUsed) return;
    std::vector<Rgba> keys;
    std::int64_t all = 0;
    for (const plan::Colour& c : plan::colours(image, 24)) {
        keys.push_back(c.colour);
        all += c.count;
    }
    hold(all <= static_cast<std::int64_t>(image.width()) * image.height(), "no pixel counts twice");
    static_cast<void>(plan::assigned(image, keys, 24));
}

// level.json of a parcel, beside the atlas of one that was built.
const make::Folder& parcel() {
    static const make::Folder folder;
    static const bool built = [] {
        const level::Project& p = drawn();
        parcel::build(p, *p.levels.front(), folder / "built");
        return true;
    }();
    static_cast<void>(built);
    return folder;
}

void read_parcel(const std::string& bytes) {
    const fs::path dir = parcel() / "built";
    write_file(dir / "level.json", bytes);
    const vicinum::Level level = vicinum::load(dir);
    walk::World world(level);
    walk::Input right;
    right.right = true;
    right.jump = true;
    for (int i = 0; i < 60; ++i) world.tick(right);
    hold(world.foot().x == world.foot().x && world.foot().y == world.foot().y, "the walker is somewhere");
    static_cast<void>(walk::frame_around(level, world.foot(), {320, 180}));
}

void read_script(const std::string& bytes) {
    std::int64_t ticks = 0;
    for (const walk::Step& step : walk::parse_script(bytes, "a.walk")) {
        hold(step.ticks >= 0, "a step takes no time back");
        ticks += step.ticks;
    }
    hold(ticks <= 60 * 60 * 60 + 1, "an hour at most");
}

void use(const kit::KitFile& kit) {
    std::size_t triangles = 0;
    for (const kit::Body& body : kit.bodies) {
        triangles += body.mesh.triangles.size();
        for (const auto& t : body.mesh.triangles)
            for (const std::uint32_t corner : t) hold(corner < body.mesh.points.size(), "a corner is a point");
        for (const std::uint16_t finish : body.mesh.finish) hold(finish < kit.finishes.size(), "a finish is one");
    }
    if (triangles > 20'000) return;
    hold(kit::read_kit(kit.bodies).pieces.size() == kit.bodies.size(), "every piece is read");
}

void read_gltf(const std::string& bytes) { use(kit::gltf_from(bytes, "/nowhere", "a.glb")); }
void read_obj(const std::string& bytes) { use(kit::obj_from(bytes, "/nowhere", "a.obj")); }

const std::map<std::string, std::function<void(const std::string&)>>& readers() {
    static const std::map<std::string, std::function<void(const std::string&)>> all{
        {"project", read_project}, {"level", read_level}, {"cells", read_cells},   {"journal", read_journal},
        {"sheet", read_sheet},     {"plan", read_plan},   {"parcel", read_parcel}, {"script", read_script},
        {"gltf", read_gltf},       {"obj", read_obj}};
    return all;
}

std::string a_journal() {
    static const make::Folder folder;
    const fs::path file = folder / "journal";
    auto before = std::make_shared<const level::Project>(base());
    level::Project next = *before;
    level::Level level = *next.levels.front();
    level.name = "Other";
    for (const level::LayerRef& layer : level.layers)
        if (layer->has_cells()) {
            level.edit(layer->id).grid().set({1, 1}, {}, 1);
            break;
        }
    next.put(std::move(level));
    store::JournalWriter writer(file, 7);
    store::JournalStep step;
    step.name = "One";
    step.before = before;
    step.after = std::make_shared<const level::Project>(std::move(next));
    writer.write(step);
    step = {};
    step.kind = store::JournalStep::Kind::go;
    writer.write(step);
    writer.flush();
    // The records alone.
    std::string out;
    const std::string bytes = read_file(file);
    for (std::size_t at = 0; at < bytes.size();) {
        const std::size_t line = bytes.find('\n', at);
        const std::size_t size = std::stoul(bytes.substr(at));
        out += (out.empty() ? "" : kBetween) + bytes.substr(line + 1, size);
        at = line + 1 + size + 1;
    }
    return out;
}

} // namespace

const std::vector<std::string>& targets() {
    static const std::vector<std::string> all = [] {
        std::vector<std::string> names;
        for (const auto& [name, reader] : readers()) names.push_back(name);
        return names;
    }();
    return all;
}

bool read(const std::string& target, const std::string& bytes) {
    try {
        readers().at(target)(bytes);
        return true;
    } catch (const InputError&) {
        return false;
    } catch (const std::runtime_error&) {
        hold(target == "parcel", "only the runtime header throws anything else");
        return false;
    }
}

std::string seed(const std::string& target) {
    if (target == "project") return corpus("project/pell-saltern");
    if (target == "level") return corpus("level/brine-pans");
    if (target == "cells") return corpus("cells/brine-pans");
    if (target == "journal") return a_journal();
    if (target == "parcel") {
        static_cast<void>(parcel());
        const fs::path dir = parcel() / "seed";
        parcel::build(drawn(), *drawn().levels.front(), dir);
        return read_file(dir / "level.json");
    }
    if (target == "gltf") {
        kit_test::Model model;
        model.box("Wall", {-1, 0, -0.1}, {1, 3, 0.1});
        model.box("Floor", {-1, -0.1, -1}, {1, 0, 1}, {4, 0, 0});
        return model.glb();
    }
    if (target == "obj") return "v 0 0 0\nv 2 0 0\nv 2 3 0\nv 0 3 0\nvt 0 1\no Wall 1\nusemtl a\nf 1/1 2/1 3/1 4/1\n";
    if (target == "script") return "60 right # on\n12 right jump\n30 left up\n5 down\n";
    return sheet::encode_png(make::sheet(make::tiles({0, 5, 255, 85}, 8, make::Style::outlined, 1), 2, {1, 1}, {1, 1}));
}

} // namespace fuzz
