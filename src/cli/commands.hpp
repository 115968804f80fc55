// The commands of vicinum-cli. Each takes its options and returns what it found; main.cpp prints it.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/geometry.hpp"
#include "level/project.hpp"
#include "store/fields.hpp"

namespace vicinum {
struct Level;
} // namespace vicinum

namespace vic::cli {

using store::Json;

struct Outcome {
    Json json;
    std::string text; // for people, when --json was not asked for
    int code = 0;     // 0 done, 1 done but findings of severity error
};

// All throw InputError.
// The level with the id; the only one where that is empty.
const level::Level& level_of(const level::Project& project, const std::string& id, const std::string& dir);
Outcome read_sheet(const std::string& image);
Outcome read_islands(const std::string& image, std::optional<int> join_gap, std::optional<int> least_area);
struct JoinsOptions {
    std::string image, kind = "full";
    Size tile;
    Point margin, spacing;
    std::optional<int> centre;
};
Outcome read_joins(const JoinsOptions& options);
Outcome trace(const std::string& grid);
// Keys are "#rrggbb=name"; several colours may have one name. `gather` only counts with `snap`.
Outcome plan(const std::string& image, const std::vector<std::string>& keys, bool snap, int gather);
// Whether the text is such a key.
bool is_plan_key(const std::string& text);
Outcome make_project(const std::string& dir, const std::string& name);
struct SheetOptions {
    std::string project, image, name;
    std::optional<Size> tile;
    Point margin, spacing;
    int scale = 1;
};
Outcome add_sheet(const SheetOptions& options);
struct LevelOptions {
    std::string project, name = "Level", view = "above", lattice = "square";
    Size size{96, 64};
    Size cell{16, 16};
};
Outcome add_level(const LevelOptions& options);
Outcome check(const std::string& project);
Outcome build(const std::string& project, const std::string& level, const std::string& out);
vicinum::Level load_parcel(const std::string& dir);
Outcome verify(const std::string& parcel);
// How the pieces of a kit fit: of a file, or a folder of them.
Outcome read_kit(const std::string& path);
// A level of kit pieces as one .glb at `to`; what is merged of it.
Outcome bodies(const std::string& project, const std::string& level, const std::string& to);
Outcome walk(const std::string& parcel, const std::string& script);
// The parcel's proofs and probes, tested in its physics; fails where one does not hold.
Outcome walk_proofs(const std::string& parcel);
// What the recipe of a planting gives, nothing of which is written; `layer` is a name or an id, and may be empty.
Outcome plant(const std::string& project, const std::string& level, const std::string& layer,
              std::optional<std::uint32_t> seed);
// What a level blocks; of one collision class alone where that is given.
// `deviation`, `thinnest`: see outline::simplified() and no_thinner(). `svg`: a file to draw it to; empty: none.
Outcome trace_level(const std::string& project, const std::string& level, const std::optional<std::string>& of_class,
                    int deviation = 0, int thinnest = 0, const std::string& svg = {});
// Where one gets to from the start, or from a cell.
Outcome soak(const std::string& project, const std::string& level, const std::optional<Point>& from);
// Of a level seen from the side: where one can stand, in 1/64 cells, and what of that is reached from the start.
Outcome reach(const std::string& dir, const std::string& level);
// How it is looked at in three dimensions: see render::PictureOf; `size` as "1280x800".
struct Depth {
    std::string look = "plan", size = "1280x800";
    int storey = -1, turn = 0;
};
Outcome render(const std::string& project, const std::string& level, const std::string& out, int scale,
               const Depth& depth = {});
Outcome render_depth(const level::Project& project, const level::Level& level, const std::string& dir,
                     const std::string& out, const Depth& depth);

} // namespace vic::cli
