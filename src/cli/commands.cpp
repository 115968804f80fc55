#include "cli/commands.hpp"

#include <algorithm>
#include <cctype>
#include <cmath>

#include "base/lock.hpp"
#include "edit/sheets.hpp"
#include "findings/check.hpp"
#include "join/read_sheet.hpp"
#include "mass/write_glb.hpp"
#include "outline/convex.hpp"
#include "outline/rectangles.hpp"
#include "parcel/build.hpp"
#include "picture/compose.hpp"
#include "plan/read_plan.hpp"
#include "plant/grow.hpp"
#include "sheet/cut.hpp"
#include "sheet/inspect.hpp"
#include "sheet/islands.hpp"
#include "sheet/png.hpp"
#include "store/format.hpp"
#include "store/project_files.hpp"
#include "upright/snags.hpp"
#include "walk/world.hpp"

namespace vic::cli {

using store::to_json;

namespace {

// Cells the command reads from a grid at most; a side of 16384.
constexpr std::size_t kMostGridCells = std::size_t{1} << 28;

Json reading_json(const sheet::CutReading& r) {
    return {{"tile", to_json(r.cut.tile)},
            {"margin", to_json(r.cut.margin)},
            {"spacing", to_json(r.cut.spacing)},
            {"columns", r.columns},
            {"rows", r.rows},
            {"scale", r.cut.scale},
            {"confidence", std::round(r.confidence * 1000) / 1000},
            {"reason", r.reason.english()}};
}

std::string size_text(Size s) { return std::to_string(s.w) + " × " + std::to_string(s.h); }

void check_cut(const level::Cut& cut, Size image, const std::string& file) {
    if (const auto trouble = sheet::cut_trouble(cut, image))
        throw InputError(*trouble, file, "the cut", "Give a tile size, margin and spacing that fit the picture");
}

} // namespace

const level::Level& level_of(const level::Project& project, const std::string& id, const std::string& dir) {
    if (id.empty() && project.levels.size() == 1) return *project.levels.front();
    const level::Level* found = project.level(id);
    if (!found) {
        std::string known;
        for (const auto& l : project.levels) known += (known.empty() ? "" : ", ") + l->id;
        throw InputError(say("There is no level \"%1\"", id), dir, "levels", say("Choose one of: %1", known));
    }
    return *found;
}

Outcome read_islands(const std::string& file, std::optional<int> join_gap, std::optional<int> least_area) {
    const Image image = sheet::read_png(file);
    const sheet::IslandMap map(image, sheet::cells_read(sheet::read_cut(image)));
    sheet::IslandSettings settings = map.proposed();
    if (join_gap) settings.join_gap = *join_gap;
    if (least_area) settings.least_area = *least_area;
    Outcome out;
    out.json = {{"boxes", Json::array()},
                {"join_gap", settings.join_gap},
                {"least_area", settings.least_area},
                {"specks", map.specks(settings)}};
    for (const Box& b : map.boxes(settings)) out.json["boxes"].push_back(to_json(b));
    out.text = std::to_string(out.json["boxes"].size()) + " islands, parts up to " + std::to_string(settings.join_gap) +
               " px apart joined, " + std::to_string(map.specks(settings)) + " specks under " +
               std::to_string(settings.least_area) + " px left out";
    return out;
}

Outcome read_sheet(const std::string& file) {
    const Image image = sheet::read_png(file);
    const sheet::SheetReading reading = join::read_sheet(image);
    Outcome out;
    out.json = {{"width", image.width()}, {"height", image.height()}};
    out.json["best"] = reading.best ? reading_json(*reading.best) : Json();
    out.json["others"] = Json::array();
    for (const auto& r : reading.others) out.json["others"].push_back(reading_json(r));
    out.json["empty"] = reading.blank;
    out.json["straddling"] = reading.straddling;
    const auto what_json = [](const sheet::WhatReading::One& one) {
        static const char* words[] = {"tiles", "things", "prop", "backdrop"};
        return Json{{"what", words[static_cast<std::size_t>(one.what)]}, {"reason", one.reason.english()}};
    };
    out.json["what"] = what_json(reading.what.best);
    out.json["what"]["others"] = Json::array();
    for (const auto& other : reading.what.others) out.json["what"]["others"].push_back(what_json(other));
    out.text = reading.best ? size_text(reading.best->cut.tile) + ", " + reading.best->reason.english() + " (" +
                                  std::to_string(std::lround(reading.best->confidence * 100)) + " %)"
                            : "no lattice found";
    return out;
}

Outcome read_joins(const JoinsOptions& o) {
    const Image image = sheet::read_png(o.image);
    const level::Cut cut{o.tile, o.margin, o.spacing, 1};
    check_cut(cut, image.size(), o.image);
    std::vector<Image> tiles;
    const auto between = sheet::gap_colour(image, cut);
    for (const Box& box : sheet::cut_boxes(cut, image.size()))
        tiles.push_back(sheet::is_blank(image, box, between) ? Image() : cropped(image, box));
    if (o.centre && (*o.centre < 0 || *o.centre >= static_cast<int>(tiles.size())))
        throw InputError(say("There is no tile %1", *o.centre), o.image, "--centre",
                         say("Tiles are numbered from 0 to %1", tiles.size() - 1));
    const auto kind = o.kind == "edges"     ? level::JoinKind::edges
                      : o.kind == "corners" ? level::JoinKind::corners
                                            : level::JoinKind::full;
    const join::JoinReading reading = join::read_joins(tiles, kind, o.centre);
    Outcome out;
    const auto outward = [&](join::Mask mask) { return join::file_mask(mask, kind); };
    const auto told = [&](const join::JoinReading& r) {
        Json j{{"tiles", Json::array()},
               {"missing", Json::array()},
               {"doubtful", Json::array()},
               {"doubled", Json::array()},
               {"contradictory", Json::array()}};
        for (const join::Mask m : r.missing) j["missing"].push_back(outward(m));
        for (const auto& t : r.tiles)
            j["tiles"].push_back({{"index", t.index},
                                  {"mask", outward(t.mask)},
                                  {"confidence", std::round(t.confidence * 1000) / 1000}});
        for (const auto& d : r.doubtful) j["doubtful"].push_back({{"index", d.index}, {"why", d.why.english()}});
        for (const auto& d : r.doubled) j["doubled"].push_back({{"mask", outward(d.mask)}, {"indices", d.indices}});
        for (const auto& d : r.contradictory)
            j["contradictory"].push_back({{"index", d.index}, {"why", d.why.english()}});
        return j;
    };
    out.json = told(reading);
    out.json["others"] = Json::array();
    for (const join::JoinReading& r : reading.others) out.json["others"].push_back(told(r));
    out.text = std::to_string(reading.tiles.size()) + " tiles read, " + std::to_string(reading.missing.size()) +
               " cases missing, " + std::to_string(reading.doubtful.size()) + " doubtful";
    return out;
}

Outcome trace(const std::string& file) {
    const std::string text = read_file(file);
    std::vector<std::uint8_t> cells;
    Size size;
    int column = 0;
    int line = 1;
    const auto refuse = [&](const Text& what) {
        throw InputError(what, file, say("line %1", line), "Rows of 0 and 1 with commas between, all equally long");
    };
    bool value_due = true;
    const auto end_row = [&] {
        if (column == 0) return;
        if (value_due) refuse("A row ends with a comma");
        if (size.w == 0) size.w = column;
        if (column != size.w) refuse(say("The row has %1 cells, not %2", column, size.w));
        ++size.h;
        column = 0;
        value_due = true;
    };
    for (const char c : text) {
        if (c == '\n') {
            end_row();
            ++line;
        } else if (c == '0' || c == '1') {
            if (!value_due) refuse("A comma is missing");
            cells.push_back(c == '1');
            ++column;
            value_due = false;
            if (cells.size() > kMostGridCells) refuse("The grid is too large");
        } else if (c == ',') {
            if (value_due) refuse("A value is missing");
            value_due = true;
        } else if (c != '\r' && c != ' ' && c != '\t') {
            refuse(say("\"%1\" is neither 0 nor 1", std::string(1, c)));
        }
    }
    end_row();
    if (size.empty()) throw InputError("The grid is empty", file, "", "Rows of 0 and 1 with commas between");
    if (size.w > 16384 || size.h > 16384)
        throw InputError("The grid is too large", file, "", "At most 16384 cells a side");

    const outline::Trace traced =
        outline::trace(size, [&](const Box& box, outline::SolidCode* codes, std::size_t stride, outline::Forms&) {
            for (int y = 0; y < box.h; ++y)
                for (int x = 0; x < box.w; ++x) {
                    const Point p{box.x + x, box.y + y};
                    codes[static_cast<std::size_t>(y) * stride + static_cast<std::size_t>(x)] =
                        box_of(size).contains(p)
                            ? cells[static_cast<std::size_t>(p.y) * static_cast<std::size_t>(size.w) +
                                    static_cast<std::size_t>(p.x)]
                            : 0;
                }
            return 0;
        });
    std::int64_t area = 0;
    for (const auto c : cells) area += c;
    std::int64_t perimeter = 0;
    std::int64_t vertices = 0;
    int holes = 0;
    const auto outlines = outline::outlines(traced);
    for (const auto& o : outlines) {
        vertices += static_cast<std::int64_t>(o.points.size());
        holes += o.hole;
        for (std::size_t i = 0; i < o.points.size(); ++i) {
            const Point d = o.points[(i + 1) % o.points.size()] - o.points[i];
            perimeter += (std::abs(d.x) + std::abs(d.y)) / outline::kUnit;
        }
    }
    Outcome out;
    out.json = {{"area", area},
                {"components", static_cast<int>(outlines.size()) - holes},
                {"holes", holes},
                {"perimeter", perimeter},
                {"vertices", vertices},
                {"outlines", outlines.size()},
                {"rectangles", outline::fewest_rectangles(size, cells).size()}};
    out.text = std::to_string(outlines.size()) + " outlines with " + std::to_string(vertices) + " corners";
    return out;
}

bool is_plan_key(const std::string& text) {
    return text.size() > 8 && text[0] == '#' && text[7] == '=' &&
           std::all_of(text.begin() + 1, text.begin() + 7, [](unsigned char c) { return std::isxdigit(c) != 0; });
}

Outcome plan(const std::string& file, const std::vector<std::string>& keys, bool snap, int gather) {
    const Image picture = plan::read_picture(read_file(file), file);
    std::vector<Rgba> colours;
    std::vector<std::string> names;
    for (const std::string& key : keys) {
        const unsigned long v = std::stoul(key.substr(1, 6), nullptr, 16);
        colours.push_back(
            {static_cast<std::uint8_t>(v >> 16), static_cast<std::uint8_t>(v >> 8), static_cast<std::uint8_t>(v), 255});
        names.push_back(key.substr(8));
    }
    Outcome out;
    out.json = {{"counts", Json::object()}, {"unknown", 0}};
    for (const std::string& name : names) out.json["counts"][name] = 0;
    std::int64_t unknown = 0;
    for (const std::uint8_t k : plan::assigned(picture, colours, gather, snap)) {
        if (k == level::kNoKey)
            ++unknown;
        else
            out.json["counts"][names[k]] = out.json["counts"][names[k]].get<std::int64_t>() + 1;
    }
    out.json["unknown"] = unknown;
    for (const auto& [name, count] : out.json["counts"].items())
        out.text += name + " " + std::to_string(count.get<std::int64_t>()) + "\n";
    out.text += "unknown " + std::to_string(unknown);
    return out;
}

Outcome make_project(const std::string& dir, const std::string& name) {
    level::Project project;
    project.name = name.empty() ? fs::path(dir).filename().string() : name;
    store::create(project, dir);
    Outcome out;
    out.json = {{"project", dir}, {"name", project.name}};
    out.text = "made " + dir;
    return out;
}

Outcome add_sheet(const SheetOptions& o) {
    const FolderLock lock(o.project, FolderLock::For::writing); // from reading to saving, that nothing is lost between
    level::Project project = store::load(o.project);
    const Image image = sheet::read_png(o.image);
    level::Cut cut;
    if (o.tile) {
        cut = {*o.tile, o.margin, o.spacing, o.scale};
    } else {
        const auto reading = join::read_sheet(image);
        if (reading.best)
            cut = reading.best->cut;
        else
            cut = {image.size(), {}, {}, 1};
    }
    check_cut(cut, image.size(), o.image);
    const std::string relative = store::adopt_picture(o.project, o.image);
    level::SheetId id = 0;
    const std::string name = o.name.empty() ? fs::path(o.image).filename().string() : o.name;
    const level::Project before = project;
    project = edit::add_sheet(std::move(project), relative, image, name, cut, o.tile.has_value(), id);
    store::save(project, o.project, &before);
    const level::Sheet& sheet = *project.sheet(id);
    const Size count = sheet::columns_rows(cut, image.size());
    Json tiles = Json::array();
    for (const auto& t : sheet.tiles) tiles.push_back(t.id);
    Outcome out;
    out.json = {{"sheet", id},        {"file", relative}, {"tile", to_json(cut.tile)},
                {"columns", count.w}, {"rows", count.h},  {"tiles", tiles}};
    out.text = "added " + relative + ": " + std::to_string(count.w) + " × " + std::to_string(count.h) + " tiles";
    return out;
}

Outcome add_level(const LevelOptions& o) {
    const auto in_range = [](Size s, int most) { return s.w >= 1 && s.h >= 1 && s.w <= most && s.h <= most; };
    if (!in_range(o.size, level::kMostCells))
        throw InputError(say("A level cannot have %1 cells", size_text(o.size)), "", "--size",
                         say("1 to %1 a side", level::kMostCells));
    if (!in_range(o.cell, 1024))
        throw InputError(say("A cell cannot have %1 pixels", size_text(o.cell)), "", "--cell", "1 to 1024 a side");
    const FolderLock lock(o.project, FolderLock::For::writing); // from reading to saving, that nothing is lost between
    level::Project project = store::load(o.project);
    const level::Project before = project;
    level::Level level = level::make_level(project, o.name, o.size, o.cell,
                                           o.view == "side" ? level::View::from_the_side : level::View::from_above);
    if (o.lattice == "isometric") {
        if (level.view != level::View::from_above)
            throw InputError("An isometric level is seen from above", "", "--lattice", "Leave out --view side");
        level.lattice = LatticeKind::isometric;
    }
    Json layers = Json::array();
    for (const level::LayerRef& layer : level.layers) layers.push_back({{"id", layer->id}, {"name", layer->name}});
    Outcome out;
    out.json = {{"level", level.id}, {"layers", layers}};
    out.text = "added the level " + level.id;
    project.put(std::move(level));
    store::save(project, o.project, &before);
    return out;
}

Outcome check(const std::string& dir) {
    const level::Project project = store::load(dir);
    Outcome out;
    out.json["findings"] = Json::array();
    std::vector<findings::Finding> all = findings::check(project);
    for (findings::Finding& f : upright::check(project, dir)) all.push_back(std::move(f));
    for (const auto& f : all) {
        if (f.severity == findings::Severity::error) out.code = 1;
        out.json["findings"].push_back({{"code", f.code},
                                        {"severity", findings::word(f.severity)},
                                        {"level", f.level.empty() ? Json() : Json(f.level)},
                                        {"layer", f.layer ? Json(f.layer) : Json()},
                                        {"cell", f.cell ? to_json(*f.cell) : Json()},
                                        {"what", f.what.english()},
                                        {"remedy", f.remedy.english()}});
        out.text += (out.text.empty() ? "" : "\n") + std::string(findings::word(f.severity)) + ": " + f.what.english() +
                    ". " + f.remedy.english();
    }
    if (out.text.empty()) out.text = "no findings";
    return out;
}

Outcome build(const std::string& dir, const std::string& id, const std::string& to) {
    const level::Project project = store::load(dir);
    std::vector<const level::Level*> wanted;
    if (id.empty())
        for (const auto& l : project.levels) wanted.push_back(l.get());
    else
        wanted.push_back(&level_of(project, id, dir));
    for (const level::Level* level : wanted) (void)parcel::place(dir, to, level->id);
    std::error_code trouble;
    fs::create_directories(to, trouble);
    Outcome out;
    out.json["levels"] = Json::array();
    for (const level::Level* level : wanted) {
        const auto built =
            parcel::build(project, *level, parcel::place(dir, to, level->id), mass::files_along(project, *level, dir));
        out.json["levels"].push_back(
            {{"id", level->id}, {"dir", built.dir.string()}, {"files", built.files}, {"bytes", built.bytes}});
        out.text += (out.text.empty() ? "" : "\n") + std::string("built ") + built.dir.string() + ": " +
                    std::to_string(built.files) + " files, " + std::to_string(built.bytes) + " bytes";
        for (const auto& f : findings::check(project, *level))
            if (f.severity == findings::Severity::error) out.code = 1;
    }
    return out;
}

Outcome verify(const std::string& dir) {
    const vicinum::Level level = load_parcel(dir);
    const Image atlas = sheet::read_png(fs::path(dir) / level.atlas);
    bool ok = true;
    for (const auto& t : level.tiles)
        ok = ok && box_of(atlas.size()).contains(Box{t.atlas.x, t.atlas.y, t.atlas.w, t.atlas.h});
    std::vector<outline::Outline> outlines;
    std::int64_t area = 0;
    std::size_t vertices = 0;
    std::size_t props = 0;
    for (const auto& o : level.outlines) {
        outline::Outline copy;
        copy.hole = o.hole;
        for (const auto p : o.points) copy.points.push_back({p.x, p.y});
        vertices += o.points.size();
        ok = ok && (outline::area2(copy) < 0) == o.hole;
        area += outline::area2(copy);
        outlines.push_back(std::move(copy));
    }
    std::int64_t slack = 0;
    const auto parts = outline::convex_parts(outlines, &slack);
    std::int64_t parts_area = 0;
    for (const auto& part : parts) parts_area += outline::area2({part, false});
    ok = ok && std::abs(parts_area - area) <= slack;
    for (const vicinum::Layer& layer : level.layers) {
        props += layer.props.size();
        if (!layer.image.empty()) sheet::read_png(fs::path(dir) / layer.image);
    }
    walk::World world(level);
    for (int i = 0; i < 10; ++i) world.tick({});
    ok = ok && world.chain_count() == static_cast<int>(level.outlines.size()) && std::isfinite(world.foot().x) &&
         std::isfinite(world.foot().y);
    Outcome out;
    out.code = ok ? 0 : 1;
    out.json = {{"layers", level.layers.size()},     {"tiles", level.tiles.size()},
                {"outlines", level.outlines.size()}, {"vertices", vertices},
                {"convex_parts", parts.size()},      {"props", props},
                {"marks", level.marks.size()},       {"ok", ok}};
    out.text = std::string(ok ? "ok: " : "not ok: ") + std::to_string(level.layers.size()) + " layers, " +
               std::to_string(level.tiles.size()) + " tiles, " + std::to_string(level.outlines.size()) +
               " outlines with " + std::to_string(vertices) + " corners";
    return out;
}

namespace {

// A layer of plantings by id or name; the only one where none is named.
const level::Layer& planting_of(const level::Level& level, const std::string& named, const std::string& dir) {
    std::vector<const level::Layer*> all, fit;
    std::string known;
    for (const level::LayerRef& l : level.layers) {
        if (!l->planted()) continue;
        all.push_back(l.get());
        known += (known.empty() ? "" : ", ") + l->name;
        if (named == l->name || named == std::to_string(l->id)) fit.push_back(l.get());
    }
    if (named.empty() && all.size() == 1) return *all.front();
    if (fit.size() == 1) return *fit.front();
    if (all.empty())
        throw InputError("The level has no planting", dir, Text::verbatim("levels/" + level.id),
                         "Add a layer of plantings in the window");
    throw InputError(named.empty()    ? Text("The level has several plantings")
                     : fit.size() > 1 ? say("Several plantings are called \"%1\"", named)
                                      : say("There is no planting \"%1\"", named),
                     dir, "--layer", say("Choose one of: %1", known));
}

} // namespace

Outcome plant(const std::string& dir, const std::string& id, const std::string& layer,
              std::optional<std::uint32_t> seed) {
    const level::Project project = store::load(dir);
    const level::Level& level = level_of(project, id, dir);
    const level::Layer& planted = planting_of(level, layer, dir);
    level::Planting recipe = planted.planted()->recipe;
    if (seed) recipe.seed = *seed;
    const plant::Grown grown = plant::grow(project, level, planted.id, recipe, plant::kMostGrown);
    if (grown.wanted > 0)
        throw InputError(say("About %1 props would grow", static_cast<std::int64_t>(grown.wanted)), dir,
                         Text::verbatim("levels/" + level.id),
                         say("At most %1 do: set them further apart, or on less of the level",
                             static_cast<std::int64_t>(plant::kMostGrown)));
    const auto rounded = [](double v) { return std::round(v * 1000) / 1000; };
    Outcome out;
    out.json = {{"passes", Json::array()}, {"props", Json::array()}};
    for (std::size_t i = 0; i < grown.passes.size(); ++i) {
        const plant::PassGrown& g = grown.passes[i];
        Json pass{{"name", recipe.passes[i].name}, {"count", g.count},          {"nearest", rounded(g.nearest)},
                  {"mean", rounded(g.mean)},       {"alike", rounded(g.alike)}, {"covers", rounded(g.covers)}};
        if (!g.says.empty()) pass["says"] = g.says.english();
        out.json["passes"].push_back(std::move(pass));
        out.text += recipe.passes[i].name + ": " + std::to_string(g.count) +
                    (g.says.empty() ? "" : " (" + g.says.english() + ")") + "\n";
    }
    for (const level::Prop& p : grown.props) out.json["props"].push_back({p.kind, p.at.x, p.at.y, p.pass, false});
    for (const level::Prop& p : planted.props())
        if (p.pass == 0) out.json["props"].push_back({p.kind, p.at.x, p.at.y, 0, true});
    out.text += std::to_string(out.json["props"].size()) + " props";
    return out;
}

Outcome render(const std::string& dir, const std::string& id, const std::string& to, int scale, const Depth& depth) {
    const level::Project project = store::load(dir);
    const level::Level& level = level_of(project, id, dir);
    if (depth.look != "plan") return render_depth(project, level, dir, to, depth);
    const std::int64_t pixels = level.pixels().size().area() * scale * scale;
    if (pixels > sheet::kMostPixels)
        throw InputError(say("The picture would have %1 pixels", pixels), to, "--scale",
                         say("At most %1 are written", sheet::kMostPixels));
    const Image image = picture::render(project, level, scale);
    write_file(to, sheet::encode_png(image));
    Outcome out;
    out.json = {{"file", to}, {"width", image.width()}, {"height", image.height()}};
    out.text = "drew " + to;
    return out;
}

} // namespace vic::cli
