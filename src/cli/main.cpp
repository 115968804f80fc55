// vicinum-cli: the headless command. Exit 0 done, 1 done but findings of severity error, 2 wrong usage, 3 input
// refused.
#include <CLI/CLI.hpp>
#include <functional>
#include <iostream>

#include "cli/commands.hpp"
#include "level/plan.hpp"

namespace {

using namespace vic;

// "16x24" or "16" for both; throws CLI::ValidationError.
Point pair_of(const std::string& text, int least) {
    const auto number = [&](const std::string& part) {
        if (part.empty() || part.size() > 6 || part.find_first_not_of("0123456789") != std::string::npos ||
            std::stoi(part) < least)
            throw CLI::ValidationError("\"" + text + "\" is not a pair like 16x16");
        return std::stoi(part);
    };
    const auto x = text.find('x');
    if (x == std::string::npos) return {number(text), number(text)};
    return {number(text.substr(0, x)), number(text.substr(x + 1))};
}

Size size_of(const std::string& text) {
    const Point p = pair_of(text, 1);
    return {p.x, p.y};
}

} // namespace

int main(int argc, char** argv) {
    CLI::App app{"Vicinum without a window"};
    app.require_subcommand(1);
    app.fallthrough();
    bool as_json = false;
    app.add_flag("--json", as_json, "One JSON object on standard output, and nothing else there");
    std::function<cli::Outcome()> action;

    std::string a, b, c, tile, margin = "0x0", spacing = "0x0", kind = "full", name, view = "above", lattice = "square",
                               size = "96x64", cell = "16";
    int centre = -1, scale = 1;

    auto* read_sheet = app.add_subcommand("read-sheet", "Read how a picture of tiles is cut");
    read_sheet->add_option("IMAGE", a)->required();
    read_sheet->callback([&] { action = [&] { return cli::read_sheet(a); }; });

    int join_gap = -1, least_area = -1;
    auto* read_islands = app.add_subcommand("read-islands", "Find the loose pictures of a sheet without a lattice");
    read_islands->add_option("IMAGE", a)->required();
    read_islands->add_option("--join-gap", join_gap, "Parts up to so many pixels apart belong together")
        ->check(CLI::Range(0, 64));
    read_islands->add_option("--least-area", least_area, "Islands of fewer pixels are specks")
        ->check(CLI::Range(1, 1 << 28));
    read_islands->callback([&] {
        const auto given = [](int v) { return v < 0 ? std::nullopt : std::optional<int>(v); };
        action = [&, given] { return cli::read_islands(a, given(join_gap), given(least_area)); };
    });

    auto* read_joins = app.add_subcommand("read-joins", "Read which neighbours each tile expects");
    read_joins->add_option("IMAGE", a)->required();
    read_joins->add_option("--tile", tile, "WxH in pixels")->required();
    read_joins->add_option("--margin", margin);
    read_joins->add_option("--spacing", spacing);
    read_joins->add_option("--kind", kind)->check(CLI::IsMember({"edges", "corners", "full"}))->required();
    read_joins->add_option("--centre", centre);
    read_joins->callback([&] {
        const cli::JoinsOptions o{a,
                                  kind,
                                  size_of(tile),
                                  pair_of(margin, 0),
                                  pair_of(spacing, 0),
                                  centre >= 0 ? std::optional<int>(centre) : std::nullopt};
        action = [o] { return cli::read_joins(o); };
    });

    std::vector<std::string> keys;
    bool snap = false;
    int gather = level::Plan().gather;
    auto* plan = app.add_subcommand("plan", "Count what the colours of a small picture mean, one pixel a cell");
    plan->add_option("IMAGE", a)->required();
    plan->add_option("--key", keys, "A colour and its name, '#rrggbb=name'; as often as wanted")
        ->check([](const std::string& text) {
            return cli::is_plan_key(text) ? std::string() : "a key is '#rrggbb=name', not '" + text + "'";
        });
    plan->add_flag("--snap", snap, "Take near colours and smoothed edges for the colours that are meant");
    plan->add_option("--gather", gather, "How far off a colour may be with --snap, 0 to 441")
        ->check(CLI::Range(0, 441));
    plan->callback([&] { action = [&] { return cli::plan(a, keys, snap, gather); }; });
    std::string collision_class;
    auto* trace = app.add_subcommand("trace", "Merge what blocks into outlines: of a grid of 0 and 1, or of a level");
    trace->add_option("GRID", a, "A grid, or a project")->required();
    auto* of_level = trace->add_option("--level", b, "Of a project: which level");
    auto* of_class = trace->add_option("--class", collision_class, "Of one collision class alone")->needs(of_level);
    int deviation = 0;
    int thinnest = 0;
    std::string svg;
    trace->add_option("--deviation", deviation, "Fewer corners: how far off outlines may be, in 1/64 cells")
        ->needs(of_level)
        ->check(CLI::Range(0, level::kMostDeviation));
    trace->add_option("--thinnest", thinnest, "Nothing thinner than that, in 1/64 cells")
        ->needs(of_level)
        ->check(CLI::Range(0, level::kMostThinnest));
    trace->add_option("--svg", svg, "Draw it to this file, too")->needs(of_level);
    trace->callback([&, of_level, of_class] {
        const auto only = of_class->count() > 0 ? std::optional(collision_class) : std::nullopt;
        if (of_level->count() > 0)
            action = [&, only] { return cli::trace_level(a, b, only, deviation, thinnest, svg); };
        else
            action = [&] { return cli::trace(a); };
    });
    std::string from;
    auto* soak = app.add_subcommand("soak", "Tell where one gets to, and where a level leaks");
    soak->add_option("PROJECT", a)->required();
    soak->add_option("--level", b);
    soak->add_option("--from", from, "A cell, XxY; the start without one");
    soak->callback([&] {
        const auto at = from.empty() ? std::nullopt : std::optional(pair_of(from, 0));
        action = [&, at] { return cli::soak(a, b, at); };
    });

    auto* reach = app.add_subcommand("reach", "Tell where the walker can stand, and what of that he gets to");
    reach->add_option("PROJECT", a)->required();
    reach->add_option("--level", b);
    reach->callback([&] { action = [&] { return cli::reach(a, b); }; });

    auto* read_kit =
        app.add_subcommand("read-kit", "Tell how the pieces of a kit fit: module, origin, couplings, codes");
    read_kit->add_option("FILE", a, "A .glb, .gltf or .obj, or a folder of them")->required();
    read_kit->callback([&] { action = [&] { return cli::read_kit(a); }; });

    auto* bodies = app.add_subcommand("bodies", "Write a level of kit pieces as one .glb, with what blocks merged");
    bodies->add_option("PROJECT", a)->required();
    bodies->add_option("--level", b);
    bodies->add_option("-o,--out", c, "The .glb")->required();
    bodies->callback([&] { action = [&] { return cli::bodies(a, b, c); }; });

    auto* make = app.add_subcommand("new", "Make an empty project");
    make->add_option("DIR", a)->required();
    make->add_option("--name", name);
    make->callback([&] { action = [&] { return cli::make_project(a, name); }; });

    auto* add_sheet = app.add_subcommand("add-sheet", "Add a picture to a project; without --tile its cut is read");
    add_sheet->add_option("PROJECT", a)->required();
    add_sheet->add_option("IMAGE", b)->required();
    add_sheet->add_option("--name", name);
    add_sheet->add_option("--tile", tile);
    add_sheet->add_option("--margin", margin);
    add_sheet->add_option("--spacing", spacing);
    add_sheet->add_option("--scale", scale)->check(CLI::Range(1, 64));
    add_sheet->callback([&] {
        cli::SheetOptions o{a, b, name, {}, pair_of(margin, 0), pair_of(spacing, 0), scale};
        if (!tile.empty()) o.tile = size_of(tile);
        action = [o] { return cli::add_sheet(o); };
    });

    auto* add_level = app.add_subcommand("add-level", "Add an empty level to a project");
    add_level->add_option("PROJECT", a)->required();
    add_level->add_option("--name", name)->required();
    add_level->add_option("--size", size, "WxH in cells");
    add_level->add_option("--cell", cell, "WxH in pixels");
    add_level->add_option("--view", view)->check(CLI::IsMember({"above", "side"}));
    add_level->add_option("--lattice", lattice)->check(CLI::IsMember({"square", "isometric"}));
    add_level->callback([&] {
        const cli::LevelOptions o{a, name, view, lattice, size_of(size), size_of(cell)};
        action = [o] { return cli::add_level(o); };
    });

    auto* check = app.add_subcommand("check", "List what is wrong or doubtful");
    check->add_option("PROJECT", a)->required();
    check->callback([&] { action = [&] { return cli::check(a); }; });

    auto* build = app.add_subcommand("build", "Build the parcels that an engine loads");
    build->add_option("PROJECT", a)->required();
    build->add_option("--level", b);
    build->add_option("--out", c)->required();
    build->callback([&] { action = [&] { return cli::build(a, b, c); }; });

    auto* verify = app.add_subcommand("verify", "Load a parcel as an engine would");
    verify->add_option("PARCEL", a)->required();
    verify->callback([&] { action = [&] { return cli::verify(a); }; });

    auto* walk = app.add_subcommand("walk", "Play timed inputs against a parcel");
    walk->add_option("PARCEL", a)->required();
    bool proofs = false;
    auto* script = walk->add_option("--script", b);
    auto* kept = walk->add_flag("--proofs", proofs, "Play the tries that were kept, and test the probes, instead");
    script->excludes(kept);
    walk->callback([&, script] {
        if (!proofs && script->count() == 0) throw CLI::RequiredError("--script or --proofs");
        action = [&] { return proofs ? cli::walk_proofs(a) : cli::walk(a, b); };
    });

    std::optional<std::uint32_t> seed;
    auto* plant = app.add_subcommand("plant", "Tell what the recipe of a planting gives");
    plant->add_option("PROJECT", a)->required();
    plant->add_option("--level", b);
    plant->add_option("--layer", c, "The planting's name or id");
    plant->add_option("--seed", seed, "Another seed than the recipe's");
    plant->callback([&] { action = [&] { return cli::plant(a, b, c, seed); }; });

    auto* render = app.add_subcommand("render", "Draw a level into a PNG");
    render->add_option("PROJECT", a)->required();
    render->add_option("--level", b);
    render->add_option("--out", c)->required();
    render->add_option("--scale", scale)->check(CLI::Range(1, 16));
    cli::Depth depth;
    render->add_option("--look", depth.look, "From where: plan, aslant, front, through, or as the game shows it")
        ->check(CLI::IsMember({"plan", "aslant", "front", "through", "game"}));
    render->add_option("--size", depth.size, "In three dimensions: pixels, as 1280x800");
    render->add_option("--storey", depth.storey, "In three dimensions: the highest that is seen, from 0")
        ->check(CLI::Range(0, level::kMostStorey));
    render->add_option("--turn", depth.turn, "In three dimensions: degrees that one goes round it to the right");
    render->callback([&] { action = [&] { return cli::render(a, b, c, scale, depth); }; });

    try {
        app.parse(argc, argv);
    } catch (const CLI::ParseError& e) {
        return app.exit(e, std::cout, std::cerr) == 0 ? 0 : 2;
    }
    try {
        const cli::Outcome outcome = action();
        std::cout << (as_json ? outcome.json.dump(-1, ' ', false, store::Json::error_handler_t::replace) : outcome.text)
                  << '\n'
                  << std::flush;
        if (!std::cout)
            throw InputError("What was worked out cannot be written", "standard output", "",
                             "Check what it goes to; what the command changed is done");
        return outcome.code;
    } catch (const std::exception& trouble) {
        const InputError e = as_input_error(trouble);
        if (as_json)
            std::cout << store::Json{{"error",
                                      {{"what", e.problem.english()},
                                       {"file", e.file},
                                       {"where", e.where.english()},
                                       {"remedy", e.remedy.english()}}}}
                             .dump(-1, ' ', false, store::Json::error_handler_t::replace)
                      << '\n';
        std::cerr << e.what() << '\n';
        return 3;
    }
}
