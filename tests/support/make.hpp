// Things that many tests need: folders that vanish, random numbers, small sheets and projects.
#pragma once

#include <filesystem>
#include <functional>
#include <map>
#include <random>
#include <set>
#include <string>
#include <vector>

#include "base/error.hpp"
#include "join/mask.hpp"
#include "level/project.hpp"

namespace make {

using namespace vic;

class Folder {
  public:
    Folder();
    ~Folder();
    Folder(const Folder&) = delete;
    Folder& operator=(const Folder&) = delete;
    [[nodiscard]] const std::filesystem::path& path() const { return path_; }
    [[nodiscard]] std::filesystem::path operator/(const std::string& name) const { return path_ / name; }

  private:
    std::filesystem::path path_;
};

struct Random {
    explicit Random(unsigned seed) : engine(seed) {}
    int below(int n) { return static_cast<int>(engine() % static_cast<unsigned>(n)); }
    bool flip(double chance = 0.5) { return below(1 << 20) < chance * (1 << 20); }
    std::mt19937 engine;
};

// How often a property is tried: `usual`, or `many` times where the environment has VICINUM_MANY (by hand, for hours).
int rounds(int usual, int many);

// The bytes of every file below a folder, by relative path.
std::map<std::string, std::string> contents(const std::filesystem::path& folder);

// How a tile of the test's own art looks: the four styles in which joins are read, and art that gets darker from its
// rim inwards.
// The rest is drawn as others draw, for sides only: a thin line on nothing or on a ground, a rim around an empty
// middle, a soft blob that fades out, two busy grounds that share colours and meet in a ragged rim.
enum class Style { outlined, textured, noisy, see_through, shaded, line, line_on_ground, rim_only, blob, ragged };
// A tile of `side` pixels that expects `mask`: the material inside, a rim of a quarter where it does not join.
Image tile(join::Mask mask, int side, Style style, unsigned seed);
// The tiles of all cases of a kind, in the order of `masks`.
std::vector<Image> tiles(const std::vector<join::Mask>& masks, int side, Style style, unsigned seed);
Image sheet(const std::vector<Image>& tiles, int columns, Point margin, Point gap, Rgba gap_colour = {0, 0, 0, 0});

// A project with one sheet of the 47 cases (tile i + 1 serves case i, shape full) as the material 1, a plain sheet of
// four tiles as the material 2, a prop, and one level of `cells` with layers ground (solid), props, front.
struct Small {
    explicit Small(Size cells = {40, 30}, level::View view = level::View::from_above);
    level::Project project;
    level::LayerId ground = 0, props = 0, front = 0;
    level::PropKindId prop = 0;
    std::string id;
    [[nodiscard]] const level::Level& level() const { return *project.level(id); }
    void set(level::Level level) { project.put(std::move(level)); }
};

// Saves a Small project with its pictures into a folder and returns it as loaded.
void save_with_pictures(const level::Project& project, const std::filesystem::path& dir);

// A project with something of everything in it, the same for the same seed.
Small rich(unsigned seed);

} // namespace make
