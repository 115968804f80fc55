// Loads a level built by Vicinum (a "parcel": one folder per level) into plain C++17 structs.
// One header; needs only nlohmann-json and the standard library. The format: docs/formats/parcel.md.
//
// Units: cells and pixels as named; outlines and one-way edges in 1/64 cells; y grows downwards. On an isometric level
// a cell is a diamond: its x goes right and down on the screen, its y left and down; see Level::corner and
// picture_place. Errors: load() throws std::runtime_error with the file and what is wrong; nothing is half loaded. A
// parcel may come from anywhere: what load() returns keeps to vicinum::limits, its indices and boxes hold, and its
// outlines can be given to a physics library as they are.
#pragma once

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>
#include <filesystem>
#include <fstream>
#include <map>
#include <nlohmann/json.hpp>
#include <optional>
#include <stdexcept>
#include <string>
#include <system_error>
#include <utility>
#include <vector>

namespace vicinum {

inline constexpr int kParcelVersion = 6;
inline constexpr int kUnit = 64; // outline coordinates per cell

namespace detail {
inline int floor_div(int a, int b) { return a >= 0 ? a / b : -((-a + b - 1) / b); }
} // namespace detail

struct Vec {
    int x = 0, y = 0;
};

struct Rect {
    int x = 0, y = 0, w = 0, h = 0;
};

struct Colour {
    std::uint8_t r = 0, g = 0, b = 0, a = 255;
};

// What lies in one cell. Draw the tile mirrored left-right first (if so), then turned clockwise by quarters.
struct Cell {
    std::uint32_t bits = 0;
    bool empty() const { return (bits & 0xFFFFFFu) == 0; }
    std::size_t tile() const { return (bits & 0xFFFFFFu) - 1; } // index into Level::tiles; only if not empty
    int quarters() const { return int((bits >> 24) & 3u); }
    bool mirrored() const { return ((bits >> 26) & 1u) != 0; }
};

struct Frame {
    std::size_t tile = 0; // in Level::tiles
    int ms = 0;
};

struct Tile {
    std::uint32_t id = 0; // the same in every build of the project
    Rect atlas;           // pixels of the atlas
    std::string name;
    std::string shape; // as drawn: none, full, slope-ne, half-top, thin-se, one-way-top … (see the parcel's schema)
    // A block is several cells large. Its picture begins at the cell where it lies less `pivot`, moved by `offset`
    // (1/16 cells); mirrored, both count from the other side. The upper `stands` rows stand up: draw a layer's blocks
    // after its other tiles, in the order of their lowest rows.
    Vec cells{1, 1}, pivot, offset;
    int stands = 0;
    int rise =
        0; // 0: flat; else it stands up, its foot rise - 1 cells below its lower edge; on layers that are by_feet
    std::vector<Frame> frames; // of an animated tile, round and round from the level's beginning; empty otherwise
    [[nodiscard]] bool is_block() const { return cells.x != 1 || cells.y != 1; }
    std::vector<std::vector<Vec>> polygons; // of the shape "drawn": corners in 1/16 of the cell, clockwise
    std::vector<std::string> tags;
    nlohmann::json notes; // an object: text, number, true or false, "#rrggbb" by the note's name
};

// The picture of an animated tile `ms` milliseconds after the beginning; of any other tile its own.
inline const Rect& picture_at(const std::vector<Tile>& tiles, std::size_t tile, long long ms) {
    long long all = 0;
    for (const Frame& f : tiles[tile].frames) all += f.ms;
    if (all > 0) {
        long long at = ms % all;
        for (const Frame& f : tiles[tile].frames) {
            if (at < f.ms) return tiles[f.tile].atlas;
            at -= f.ms;
        }
    }
    return tiles[tile].atlas;
}

// Of a large picture: a file of the parcel, and where its upper left corner lies in the whole.
struct Piece {
    std::string file;
    Vec at;
};

// A place in pixels or cells, between them, too.
struct Place {
    double x = 0, y = 0;
};

// A part of a picture with a name.
struct Area {
    std::string name;
    Rect box; // pixels within the picture
};

struct PropKind {
    std::uint32_t id = 0;
    std::string name;
    Rect atlas; // pixels of the atlas
    Vec pivot;  // pixels within the picture
    Rect foot;  // pixels within the picture
    bool blocks = false;
    std::string one_way;                   // "north" ..: only what comes across that side of the foot is stopped
    std::vector<std::vector<Place>> shape; // what blocks, in pixels within the picture, clockwise; none: the foot
    int height = 0;                        // pixels that it stands up above its foot's lower edge; 0: not told
    bool flat = false;                     // it lies on the ground: all that stands up is drawn over it
    int frames = 1;                        // of an animated one: as large as `atlas`, from it on to the right
    int frame_ms = 0;                      // how long each is shown
    std::vector<Area> areas;               // that do not block
    std::vector<std::string> tags;
    nlohmann::json notes;      // as those of tiles
    bool smooth = false;       // how it is sampled where it is turned or scaled
    std::vector<Piece> pieces; // where there are any, draw these; `atlas` then only tells the size
    // Where the picture lies in the atlas so many milliseconds after the beginning.
    Rect picture_at(long long ms) const {
        if (frames < 2 || frame_ms < 1) return atlas;
        return {atlas.x + static_cast<int>(ms / frame_ms % frames) * atlas.w, atlas.y, atlas.w, atlas.h};
    }
};

struct Prop {
    std::uint32_t id = 0;
    std::size_t kind = 0; // index into Level::prop_kinds
    Vec at;               // where the pivot stands, in pixels of the level
    bool mirrored = false;
    double turn = 0;  // degrees clockwise, 0 or more and below 360
    double scale = 1; // 0.1 .. 16
    int ahead = 0;    // pixels: it is sorted as if it stood so much lower on screen
    // In three dimensions: 1/64 cells above its storey, tenths of a degree that it leans to the east and to the south.
    int up = 0;
    Vec lean;
    Colour times{255, 255, 255, 255}; // each colour of the picture times this, then …
    Colour plus{0, 0, 0, 255};
    std::string name;     // its own; may be empty
    std::string ensemble; // what it is a part of; the parts of one have the same id
    std::uint32_t group = 0;
    nlohmann::json notes; // its own

    // Where a point of its picture lies in the level, both in pixels: mirrored, then scaled and turned around the
    // middle of the pivot's pixel.
    [[nodiscard]] Place in_level(const PropKind& of, Place p) const {
        const double angle = turn * 3.14159265358979323846 / 180;
        // Quarter turns are exact.
        const double c = turn == 90 || turn == 270 ? 0 : turn == 0 ? 1 : turn == 180 ? -1 : std::cos(angle);
        const double s = turn == 0 || turn == 180 ? 0 : turn == 90 ? 1 : turn == 270 ? -1 : std::sin(angle);
        const double x = (p.x - of.pivot.x - 0.5) * (mirrored ? -scale : scale);
        const double y = (p.y - of.pivot.y - 0.5) * scale;
        return {at.x + 0.5 + c * x - s * y, at.y + 0.5 + s * x + c * y};
    }
};

struct Layer {
    std::uint32_t id = 0;
    std::string name;
    std::string kind; // tiles, props, backdrop
    bool shown = true;
    bool solid = false;
    std::string collision_class; // of a solid layer; see Level::collision_classes
    double opacity = 1;          // 0 .. 1
    Vec cell_size;               // pixels of its cells: of the level, a part, or several
    Rect box;                    // tiles: the cells below, in cells of the layer
    std::vector<Cell> cells;     // tiles: box.w × box.h, row by row
    std::vector<Prop> props;     // props: in drawing order
    std::string image;           // backdrop: a picture in the parcel
    Rect place; // backdrop: the pixels of the level that its picture takes, or one of them; empty: all of the
                // picture's own, from 0, 0 on
    bool repeats_across = true, repeats_down = true; // backdrop: to the left and right; upwards and downwards
    bool smooth = false;                             // backdrop: how it is sampled where it is scaled
    Colour plus{0, 0, 0, 255};                       // backdrop: added after `tint`, as much as it is opaque
    Colour tint{255, 255, 255, 255};                 // multiplied with what lies on it
    double parallax_x = 1, parallax_y = 1;           // how far it goes along when the frame moves over the level
    Vec shift;                                       // pixels that it is drawn right of and below its place
    // What stands up on this layer, and on those right before and behind it that are so, is drawn in the order of its
    // feet after all that lies flat on them; the walker among it where the plane lies within these layers or at their
    // rim. See Level::foot_line().
    bool by_feet = false;

    Cell cell(int x, int y) const {
        if (x < box.x || y < box.y || x >= box.x + box.w || y >= box.y + box.h) return {};
        return cells[static_cast<std::size_t>(y - box.y) * static_cast<std::size_t>(box.w) +
                     static_cast<std::size_t>(x - box.x)];
    }
};

// A closed boundary; what blocks lies to the right of the way along it, seen with y down.
struct Outline {
    bool hole = false;
    std::vector<Vec> points; // 1/64 cells, no collinear ones but where the surface changes
    std::vector<std::size_t>
        surfaces; // of each edge, from point i to the next: in Level::surfaces; empty: nothing said
};

namespace detail {
// Whether a place in cells lies within outlines: an odd number of their lines lies to its right.
inline bool within(const std::vector<Outline>& outlines, double x, double y) {
    const double px = x * kUnit, py = y * kUnit;
    bool in = false;
    for (const Outline& o : outlines)
        for (std::size_t i = 0; i < o.points.size(); ++i) {
            const Vec a = o.points[i], b = o.points[(i + 1) % o.points.size()];
            if ((a.y > py) == (b.y > py)) continue;
            if (px < a.x + (py - a.y) * (b.x - a.x) / (b.y - a.y)) in = !in;
        }
    return in;
}
} // namespace detail

// Stops what comes across it towards the cell it belongs to: from above for "north".
struct OneWay {
    Vec from, to; // 1/64 cells
    std::string side;
    std::size_t surface = 0; // in Level::surfaces
};

struct Mark {
    std::uint32_t id = 0;
    std::string name;
    std::string kind; // start, exit, note
    Rect cells;
    std::optional<Colour> colour; // where the designer gave it one
    nlohmann::json notes;         // an object: values by the notes' names
    std::optional<std::size_t>
        figure; // of an actor: in Level::prop_kinds, how it looks; of the start the player's figure
};

// What a side of the level is: one may leave by it, or it blocks, or it leads on to another level.
struct Side {
    std::string kind = "open"; // open, blocks, leads
    std::string to;            // leads: the other level's id; empty where that is left to the game
};

// What the level says of its cells: values of one note.
struct Facts {
    std::uint32_t id = 0;
    std::string name; // of the layer that it was painted on
    std::string note;
    std::vector<nlohmann::json> values; // numbers, words, or true and false
    Rect box;                           // the cells below
    std::vector<std::uint32_t> cells;   // box.w × box.h, row by row: 0, or the place in `values` plus one

    // Null where nothing is said of the cell.
    const nlohmann::json* value(int x, int y) const {
        if (x < box.x || y < box.y || x >= box.x + box.w || y >= box.y + box.h) return nullptr;
        const std::uint32_t place = cells[static_cast<std::size_t>(y - box.y) * static_cast<std::size_t>(box.w) +
                                          static_cast<std::size_t>(x - box.x)];
        return place == 0 ? nullptr : &values[place - 1];
    }
};

struct Walker {
    int width = 0, height = 0; // 1/64 cells
    double speed = 0;          // cells a second
    double jump = 0;           // cells; side view only
    double run = 0;            // cells a second while the key for it is held; 0: there is none
    // Side view only.
    double least_jump = 0;  // cells that it rises where the key is let go at once; 0: always as high as `jump`
    double gravity = 40;    // cells a second squared
    double fastest = 24;    // cells a second that it falls at most
    int grace_edge = 80;    // milliseconds after an edge in which it still jumps
    int grace_landing = 80; // milliseconds before landing in which a jump is remembered
    double wall_jump = 0;   // cells that it rises off a wall; 0: it does not
    double climb = 4;       // cells a second on ladders; 0: it does not
    double swim = 3;        // cells a second in water; 0: it falls as through air
    // From above only.
    int foot = 0; // 1/64 cells: how deep it is, from its lower edge; 0: as deep as wide, but no deeper than it is high
    int ways = 8; // that it goes: four, eight, or 0 for all
    Vec slack;    // pixels of the frame within which it moves before that follows
    std::string mover; // which of Level::movers it is; empty: all that blocks stops it
};

// One who is stopped by what blocks, but for the classes that it passes.
struct Mover {
    std::string name;
    std::vector<std::string> passes;
    bool own = false; // whether some of this level does not stop it: then these are what does, else those of the level
    std::vector<Outline> outlines;
    std::vector<OneWay> one_way;
};

// Where the level tells something without blocking.
struct Telling {
    std::string name;
    std::string means; // to a walker: tells, water, ladder, hazard, exit
    Colour colour;
    std::vector<Outline> outlines;
};

// A place where the walker must be stopped, or must get through.
struct Probe {
    Vec at; // 1/64 cells
    bool blocks = false;
};

// What was done once to get through the level, and where it led.
struct Proof {
    std::string name;
    Vec from; // 1/64 cells: the middle of the walker's foot
    struct Held {
        int ticks = 0;     // 60 a second
        unsigned keys = 0; // left 1, right 2, up 4, down 8, jump 16, run 32
        int towards = -1;  // where it was led, seen from above: degrees, 0 east, 90 south; below 0: nowhere
    };
    std::vector<Held> held;
    std::vector<Vec> way; // where it was every half second, 1/64 cells
    std::string mark;     // what it touched at last; empty: it came to where its way ends
};

// What blocks on the layers of one collision class alone.
struct CollisionClass {
    std::string name; // empty for layers that name none
    std::vector<Outline> outlines;
    std::vector<OneWay> one_way;
    std::vector<std::vector<Vec>> parts; // see Level
    std::vector<Rect> boxes;
};

struct Level {
    std::filesystem::path folder;
    std::string id, name;
    bool from_the_side = false;
    Vec size; // cells
    Vec cell; // pixels of a cell, or of the box around it
    bool isometric = false;
    int unit = 16; // pixels that are one unit of the engine
    Colour ground;
    Vec frame;         // pixels that the game shows
    int plane = 0;     // how many layers lie behind the walker
    std::string atlas; // a picture in the parcel
    std::vector<Tile> tiles;
    std::vector<std::string> side_notes; // names of notes that hold north, east, south or west, and turn with a tile
    std::vector<PropKind> prop_kinds;
    std::vector<Layer> layers; // back to front
    std::vector<Outline> outlines;
    std::vector<OneWay> one_way;
    // Where the project asks for them: what the outlines enclose once more, as convex parts (clockwise, at most four
    // corners, kUnit to a cell), or as boxes of whole cells and parts for the rest.
    std::vector<std::vector<Vec>> parts;
    std::vector<Rect> boxes;
    bool props_merged = false;                     // what props block is in the outlines, see blocking()
    std::vector<CollisionClass> collision_classes; // the same by class, where any layer names one; else empty
    std::vector<Mark> marks;
    Side sides[4]; // north, east, south, west
    std::vector<Facts> facts;
    Walker walker;
    std::vector<Mover> movers;
    std::vector<Telling> telling;
    // What surfaces are like, objects by the notes' names: those that edges name by number, the first of nothing.
    std::vector<nlohmann::json> surfaces;
    std::vector<Probe> probes;
    std::vector<Proof> proofs;

    // What stops a mover; one that the level does not know is stopped by all.
    const std::vector<Outline>& outlines_for(const std::string& mover) const {
        const Mover* m = own_of(mover);
        return m ? m->outlines : outlines;
    }
    const std::vector<OneWay>& one_way_for(const std::string& mover) const {
        const Mover* m = own_of(mover);
        return m ? m->one_way : one_way;
    }
    // Whether a place (cells, and parts of them) lies within what stops the mover. Looks at all outlines.
    bool blocked(double x, double y, const std::string& mover = {}) const {
        return detail::within(outlines_for(mover), x, y);
    }
    // What is told of a place: places in `telling`.
    std::vector<std::size_t> told(double x, double y) const {
        std::vector<std::size_t> out;
        for (std::size_t i = 0; i < telling.size(); ++i)
            if (detail::within(telling[i].outlines, x, y)) out.push_back(i);
        return out;
    }

    // The upper left corner of the box around a cell, in pixels. Of an isometric level some lie left of 0.
    Vec corner(int x, int y) const { return corner(x, y, cell); }
    Vec corner(int x, int y, Vec c) const { // `c`: pixels of a cell, for layers with cells of their own
        if (!isometric) return {x * c.x, y * c.y};
        return {detail::floor_div((x - y - 1) * c.x, 2), detail::floor_div((x + y) * c.y, 2)};
    }
    // Pixels of a place given in cells and parts of them: x and y of the result.
    std::pair<double, double> pixel(double x, double y) const {
        if (!isometric) return {x * cell.x, y * cell.y};
        return {(x - y) * cell.x / 2, (x + y) * cell.y / 2};
    }
    // The other way round.
    std::pair<double, double> place(double px, double py) const {
        if (!isometric) return {px / cell.x, py / cell.y};
        const double across = 2 * px / cell.x, down = 2 * py / cell.y;
        return {(down + across) / 2, (down - across) / 2};
    }
    // Where the layers end that are sorted by feet together, from the one at `first` on; `first` where that one is not.
    std::size_t run_by_feet(std::size_t first) const {
        std::size_t end = first;
        while (end < layers.size() && layers[end].by_feet) ++end;
        return end;
    }
    // Where the figure of a mark stands: its pivot, in pixels.
    Vec stand_of(const Mark& mark) const {
        const double x = mark.cells.x + mark.cells.w / 2.0;
        if (!isometric) return {static_cast<int>(x * cell.x), (mark.cells.y + mark.cells.h) * cell.y - 1};
        const auto at = pixel(x, mark.cells.y + mark.cells.h / 2.0);
        return {static_cast<int>(at.first), static_cast<int>(at.second)};
    }
    // By what things are sorted on layers that are `by_feet`, the least first; at one line tiles and blocks come before
    // props, and props before the walker. Seen from above it is the line on which the foot stands, in pixels down; on
    // isometric lattices how far it is from the back, in cells. What lies flat comes before all that stands.
    double foot_line(const Layer& layer, int x, int y, const Cell& cell) const {
        const Tile& tile = tiles[cell.tile()];
        if (isometric) {
            const Rect f = foot_cells(x, y, cell);
            return (f.x + f.w + f.y + f.h - 1.0) * layer.cell_size.x / this->cell.x;
        }
        const int rows = tile.is_block() ? y - tile.pivot.y + tile.cells.y : y + tile.rise;
        return rows * layer.cell_size.y + layer.shift.y;
    }
    double foot_line(const Layer& layer, const Prop& prop) const {
        constexpr double before = 1e9;
        const double x = prop.at.x + layer.shift.x + 0.5, y = prop.at.y + prop.ahead + layer.shift.y + 1;
        const double flat = prop_kinds[prop.kind].flat ? before : 0;
        if (!isometric) return y - flat;
        const auto at = place(x, y);
        return at.first + at.second - flat;
    }
    double foot_line(double x, double y) const { return isometric ? x + y : y * cell.y; } // of one who stands at a cell
    // Whether what lies in a cell stands up.
    bool rises(const Layer& layer, const Cell& cell) const {
        const Tile& tile = tiles[cell.tile()];
        return tile.is_block() || (isometric ? tile.atlas.h > layer.cell_size.y : tile.rise > 0);
    }

    // What of a prop blocks, in cells: closed outlines without their first corner again; none where it does not block.
    // On isometric lattices a foot is the diamond in its box, and of a shape the same share of that blocks.
    std::vector<std::vector<Place>> blocking(const Prop& prop) const {
        const PropKind& kind = prop_kinds[prop.kind];
        const Rect f = kind.foot;
        std::vector<std::vector<Place>> out;
        if (!kind.blocks || !kind.one_way.empty() || f.w <= 0 || f.h <= 0) return out;
        out = kind.shape;
        const double l = f.x, t = f.y, r = f.x + f.w, b = f.y + f.h;
        if (out.empty()) out = {{{l, t}, {r, t}, {r, b}, {l, b}}};
        double left = 1e9, top = 1e9, right = -1e9, bottom = -1e9; // of the foot in the level, in pixels
        for (const Place corner : {Place{l, t}, Place{r, t}, Place{r, b}, Place{l, b}}) {
            const Place p = prop.in_level(kind, corner);
            left = std::min(left, p.x);
            right = std::max(right, p.x);
            top = std::min(top, p.y);
            bottom = std::max(bottom, p.y);
        }
        const auto middle = place((left + right) / 2, (top + bottom) / 2);
        for (std::vector<Place>& outline : out) {
            for (Place& p : outline) {
                if (isometric) {
                    const double x = (p.x - l) / f.w, side = (right - left) / cell.x;
                    p = {middle.first + ((prop.mirrored ? 1 - x : x) - 0.5) * side,
                         middle.second + ((p.y - t) / f.h - 0.5) * side};
                    continue;
                }
                const Place in = prop.in_level(kind, p);
                p = {in.x / cell.x, in.y / cell.y};
            }
            if (prop.mirrored) std::reverse(outline.begin(), outline.end()); // clockwise again
        }
        return out;
    }
    // The pixels of all cells.
    Rect bounds() const {
        if (!isometric) return {0, 0, size.x * cell.x, size.y * cell.y};
        const int left = corner(0, size.y - 1).x, right = corner(size.x - 1, 0).x + cell.x;
        return {left, 0, right - left, corner(size.x - 1, size.y - 1).y + cell.y};
    }
    // Where the picture of what lies in a cell of a layer is drawn, in pixels; its box of the atlas is to be scaled to
    // that where it has another size (a tile that lies on layers of different cells). Mirrored left-right where
    // Cell::mirrored() says so. On isometric levels that is all that a cell's turn changes; draw those from the back,
    // by the sum of x and y of the foot's last cell.
    Rect picture_place(const Layer& layer, int x, int y, Cell what) const {
        const Tile& t = tiles[what.tile()];
        const Vec c = layer.cell_size;
        const int column = what.mirrored() ? t.cells.x - 1 - t.pivot.x : t.pivot.x;
        const int aside = what.mirrored() ? -t.offset.x : t.offset.x;
        const Vec moved{detail::floor_div(aside * c.x, 16), detail::floor_div(t.offset.y * c.y, 16)};
        const int w = t.cells.x * c.x;
        if (!isometric) {
            const Vec at = corner(x - column, y - t.pivot.y, c);
            return {at.x + moved.x, at.y + moved.y, w, t.cells.y * c.y};
        }
        const int h = t.atlas.w > 0 ? (t.atlas.h * w + t.atlas.w / 2) / t.atlas.w : c.y;
        const Rect foot = foot_cells(x, y, what);
        const int left = corner(foot.x, foot.y + foot.h - 1, c).x;
        const int right = corner(foot.x + foot.w - 1, foot.y, c).x + c.x;
        const int bottom = corner(foot.x + foot.w - 1, foot.y + foot.h - 1, c).y + c.y;
        return {left + detail::floor_div(right - left - w, 2) + moved.x, bottom - h + moved.y, w, h};
    }
    // The cells on which a tile or block stands.
    Rect foot_cells(int x, int y, Cell what) const {
        const Tile& t = tiles[what.tile()];
        const int column = what.mirrored() ? t.cells.x - 1 - t.pivot.x : t.pivot.x;
        return {x - column, y - t.pivot.y + t.stands, t.cells.x, t.cells.y - t.stands};
    }

    const Mover* own_of(const std::string& mover) const {
        for (const Mover& m : movers)
            if (m.own && m.name == mover) return &m;
        return nullptr;
    }

    // What a note says of the tile as it lies in the cell: a side is turned with it. Null where it has no such note.
    nlohmann::json note(Cell cell, const std::string& name) const {
        if (cell.empty() || cell.tile() >= tiles.size()) return {};
        const nlohmann::json& notes = tiles[cell.tile()].notes;
        const auto at = notes.find(name);
        if (at == notes.end()) return {};
        bool side = false;
        for (const std::string& n : side_notes) side = side || n == name;
        if (!side) return *at;
        static const char* const words[4] = {"north", "east", "south", "west"};
        for (int i = 0; i < 4; ++i)
            if (*at == words[i]) return words[((cell.mirrored() ? 4 - i : i) + cell.quarters()) % 4];
        return *at;
    }
};

// What load() accepts. What is beyond is refused with its file and place before any memory is taken for it.
namespace limits {
inline constexpr std::uintmax_t file_bytes = std::uintmax_t{1} << 30;
inline constexpr int depth = 64;              // of what is nested in level.json
inline constexpr int cells = 16384;           // a side of a level
inline constexpr int cell_pixels = 1024;      // a side of a cell
inline constexpr int finer = 8;               // cells of a layer in one of the level's, a side
inline constexpr int frame_pixels = 8192;     // a side of what the game shows
inline constexpr int pixels = 1 << 26;        // any place or size in pixels, either way from 0
inline constexpr int frames = 64;             // of a prop
inline constexpr int ticks = 60 * 60 * 30;    // of a proof
inline constexpr int units = 1 << 22;         // any coordinate of an outline in 1/64 cells, either way from 0
inline constexpr std::size_t letters = 65536; // bytes of a text
} // namespace limits

namespace detail {

using json = nlohmann::json;

[[noreturn]] inline void fail(const std::filesystem::path& file, const std::string& what) {
    throw std::runtime_error(file.string() + ": " + what);
}

inline std::string bytes_of(const std::filesystem::path& file) {
    std::error_code trouble;
    // A pipe or device would be waited for.
    if (!std::filesystem::is_regular_file(file, trouble)) fail(file, "is not there or no regular file");
    if (std::filesystem::file_size(file, trouble) > limits::file_bytes || trouble) fail(file, "is too large");
    std::ifstream in(file, std::ios::binary);
    if (!in) fail(file, "cannot be opened");
    return {std::istreambuf_iterator<char>(in), std::istreambuf_iterator<char>()};
}

// The parser calls itself for what is nested, and so would run out of stack.
inline void check_depth(const std::filesystem::path& file, const std::string& text) {
    int depth = 0;
    bool quoted = false;
    for (std::size_t i = 0; i < text.size(); ++i) {
        const char c = text[i];
        if (quoted) {
            if (c == '\\') ++i;
            if (c == '"') quoted = false;
        } else if (c == '"') {
            quoted = true;
        } else if (c == '[' || c == '{') {
            if (++depth > limits::depth) fail(file, "is nested too deep at byte " + std::to_string(i));
        } else if (c == ']' || c == '}') {
            --depth;
        }
    }
}

// Reads values of level.json; `what` says in an error which one was wrong.
struct Reader {
    const std::filesystem::path& file;

    [[noreturn]] void refuse(const std::string& what, const std::string& why) const { fail(file, what + " " + why); }
    const json& of(const json& j, const char* key) const {
        if (!j.is_object()) refuse(std::string("what should hold \"") + key + "\"", "is no object");
        const auto at = j.find(key);
        if (at == j.end()) refuse(std::string("\"") + key + "\"", "is missing");
        return *at;
    }
    // The entries of a list; none where it may be missing and is.
    const json& list(const json& j, const char* key, bool needed = true) const {
        static const json none = json::array();
        if (!needed && !j.contains(key)) return none;
        const json& all = of(j, key);
        if (!all.is_array()) refuse(std::string("\"") + key + "\"", "is no list");
        return all;
    }
    std::int64_t whole(const json& j, std::int64_t least, std::int64_t most, const char* what) const {
        if (!j.is_number_integer()) refuse(what, "is no whole number");
        const bool huge = j.is_number_unsigned() && j.get<std::uint64_t>() > std::uint64_t{INT64_MAX};
        const std::int64_t v = huge ? INT64_MAX : j.get<std::int64_t>();
        if (v < least || v > most)
            refuse(what, "is not between " + std::to_string(least) + " and " + std::to_string(most));
        return v;
    }
    int number(const json& j, int least, int most, const char* what) const {
        return static_cast<int>(whole(j, least, most, what));
    }
    std::uint32_t id(const json& j) const {
        return static_cast<std::uint32_t>(whole(of(j, "id"), 0, UINT32_MAX, "an id"));
    }
    double real(const json& j, double least, double most, const char* what) const {
        if (!j.is_number()) refuse(what, "is no number");
        const double v = j.get<double>();
        if (!(v >= least && v <= most)) refuse(what, "is out of range");
        return v;
    }
    bool yes(const json& j, const char* key) const {
        const json& v = of(j, key);
        if (!v.is_boolean()) refuse(std::string("\"") + key + "\"", "is neither true nor false");
        return v.get<bool>();
    }
    std::string text(const json& v, const char* what) const {
        if (!v.is_string()) refuse(what, "is no text");
        const auto& t = v.get_ref<const std::string&>();
        if (t.size() > limits::letters) refuse(what, "is too long");
        return t;
    }
    std::string text(const json& j, const char* key, const char* fallback) const {
        return fallback && !j.contains(key) ? std::string(fallback) : text(of(j, key), key);
    }
    Vec vec(const json& j, int least, int most, const char* what) const {
        if (!j.is_array() || j.size() != 2) refuse(what, "are not two numbers");
        return {number(j[0], least, most, what), number(j[1], least, most, what)};
    }
    Vec size(const json& j, int most, const char* what) const { return vec(j, 1, most, what); }
    Vec place(const json& j, const char* what) const { return vec(j, -limits::pixels, limits::pixels, what); }
    Rect rect(const json& j, int least, int most, const char* what) const {
        if (!j.is_array() || j.size() != 4) refuse(what, "are not four numbers");
        return {number(j[0], least, most, what), number(j[1], least, most, what), number(j[2], 0, most, what),
                number(j[3], 0, most, what)};
    }
    // "#rrggbb" or "#rrggbbaa"
    Colour colour(const json& j) const {
        const std::string t = text(j, "a colour");
        const bool good = (t.size() == 7 || t.size() == 9) && t[0] == '#' &&
                          t.find_first_not_of("0123456789abcdefABCDEF", 1) == std::string::npos;
        if (!good) refuse("\"" + t + "\"", "is no colour");
        const auto part = [&](std::size_t at) {
            return static_cast<std::uint8_t>(std::stoi(t.substr(at, 2), nullptr, 16));
        };
        return {part(1), part(3), part(5), t.size() > 7 ? part(7) : std::uint8_t{255}};
    }
    // A file of the parcel by its plain name; names that lead elsewhere are refused.
    std::string plain_name(const json& j) const {
        std::string name = text(j, "a file name");
        // Also what only another system takes for a way to another folder, or to a drive.
        if (name.empty() || name.find_first_of(std::string("/\\:\0", 4)) != std::string::npos || name == "." ||
            name == "..")
            refuse("\"" + name + "\"", "is no file name");
        return name;
    }
};

inline std::vector<std::uint32_t> numbers_of(const std::filesystem::path& file, const Rect& box) {
    const std::string raw = bytes_of(file);
    if (raw.size() != std::uint64_t(box.w) * std::uint64_t(box.h) * 4)
        fail(file, "has not the size that the level says");
    std::vector<std::uint32_t> out(raw.size() / 4);
    for (std::size_t i = 0; i < out.size(); ++i)
        for (std::size_t b = 0; b < 4; ++b)
            out[i] |= std::uint32_t(static_cast<unsigned char>(raw[4 * i + b])) << (8 * b);
    return out;
}

inline std::vector<Cell> cells_of(const std::filesystem::path& file, const Rect& box, std::size_t tiles) {
    const std::vector<std::uint32_t> numbers = numbers_of(file, box);
    std::vector<Cell> cells(numbers.size());
    for (std::size_t i = 0; i < cells.size(); ++i) {
        cells[i].bits = numbers[i];
        if (!cells[i].empty() && cells[i].tile() >= tiles) fail(file, "names a tile that the level does not have");
    }
    return cells;
}

// A physics library takes no points at one place and none between two others on a line.
inline void check_corners(const Reader& read, const std::vector<Vec>& points,
                          const std::vector<std::size_t>& surfaces) {
    if (points.size() < 3) read.refuse("an outline", "has fewer than three points");
    if (!surfaces.empty() && surfaces.size() != points.size())
        read.refuse("an outline", "has not a surface for each edge");
    for (std::size_t i = 0; i < points.size(); ++i) {
        const Vec a = points[i], b = points[(i + 1) % points.size()], c = points[(i + 2) % points.size()];
        const std::int64_t cross = std::int64_t(b.x - a.x) * (c.y - b.y) - std::int64_t(b.y - a.y) * (c.x - b.x);
        const bool changes = !surfaces.empty() && surfaces[i] != surfaces[(i + 1) % points.size()];
        if (cross == 0 && !changes)
            read.refuse("an outline's point " + std::to_string(b.x) + ", " + std::to_string(b.y),
                        "lies on its neighbours' line");
    }
}

inline std::vector<Outline> outlines_of(const Reader& read, const json& list) {
    std::vector<Outline> out;
    for (const json& o : list) {
        Outline outline;
        outline.hole = read.yes(o, "hole");
        const json& points = read.list(o, "points");
        if (points.size() % 2 != 0) read.refuse("an outline", "has half a point");
        for (std::size_t i = 0; i + 1 < points.size(); i += 2)
            outline.points.push_back({read.number(points[i], -limits::units, limits::units, "an outline's x"),
                                      read.number(points[i + 1], -limits::units, limits::units, "an outline's y")});
        for (const json& s : read.list(o, "surfaces", false))
            outline.surfaces.push_back(static_cast<std::size_t>(read.number(s, 0, limits::units, "a surface")));
        check_corners(read, outline.points, outline.surfaces);
        out.push_back(std::move(outline));
    }
    return out;
}

// Convex parts; one with a dent, or without an area, is refused.
inline std::vector<std::vector<Vec>> parts_of(const Reader& read, const json& list) {
    std::vector<std::vector<Vec>> out;
    for (const json& points : list) {
        if (!points.is_array() || points.size() < 6 || points.size() > 16 || points.size() % 2 != 0)
            read.refuse("a part of what blocks", "has not three to eight corners");
        std::vector<Vec> part;
        for (std::size_t i = 0; i + 1 < points.size(); i += 2)
            part.push_back({read.number(points[i], -limits::units, limits::units, "a part's x"),
                            read.number(points[i + 1], -limits::units, limits::units, "a part's y")});
        for (std::size_t i = 0; i < part.size(); ++i) {
            const Vec a = part[i], b = part[(i + 1) % part.size()], c = part[(i + 2) % part.size()];
            if (std::int64_t(b.x - a.x) * (c.y - b.y) - std::int64_t(b.y - a.y) * (c.x - b.x) <= 0)
                read.refuse("a part of what blocks", "is not convex");
        }
        out.push_back(std::move(part));
    }
    return out;
}

inline std::vector<Rect> boxes_of(const Reader& read, const json& list) {
    std::vector<Rect> out;
    for (const json& box : list) {
        out.push_back(read.rect(box, 0, limits::cells, "a box of what blocks"));
        if (out.back().w < 1 || out.back().h < 1) read.refuse("a box of what blocks", "is empty");
    }
    return out;
}

inline std::vector<OneWay> one_way_of(const Reader& read, const json& list) {
    std::vector<OneWay> out;
    for (const json& e : list) {
        OneWay edge{read.vec(read.of(e, "from"), -limits::units, limits::units, "a one-way edge"),
                    read.vec(read.of(e, "to"), -limits::units, limits::units, "a one-way edge"),
                    read.text(read.of(e, "side"), "a side")};
        if (edge.from.x == edge.to.x && edge.from.y == edge.to.y) read.refuse("a one-way edge", "has no length");
        if (edge.side != "north" && edge.side != "east" && edge.side != "south" && edge.side != "west")
            read.refuse("\"" + edge.side + "\"", "is no side");
        edge.surface =
            static_cast<std::size_t>(read.number(e.value("surface", json(0)), 0, limits::units, "a surface"));
        out.push_back(std::move(edge));
    }
    return out;
}

inline json notes_of(const Reader& read, const json& j, const char* what) {
    json notes = j.value("notes", json::object());
    if (!notes.is_object()) read.refuse(what, "are no object");
    return notes;
}

inline Place spot_of(const Reader& read, const json& j) {
    if (!j.is_array() || j.size() != 2) read.refuse("a corner", "is not two numbers");
    return {read.real(j[0], -limits::pixels, limits::pixels, "a corner"),
            read.real(j[1], -limits::pixels, limits::pixels, "a corner")};
}

inline Prop prop_of(const Reader& read, const json& p, std::size_t kind) {
    Prop out;
    out.id = read.id(p);
    out.kind = kind;
    out.at = read.place(read.of(p, "at"), "a prop's place");
    out.mirrored = read.yes(p, "mirrored");
    if (p.contains("turn")) out.turn = read.real(p["turn"], 0, 360, "a prop's turn");
    if (p.contains("scale")) out.scale = read.real(p["scale"], 0.1, 16, "a prop's scale");
    out.ahead = read.number(p.value("ahead", json(0)), -limits::pixels, limits::pixels, "how far a prop is ahead");
    if (p.contains("up")) out.up = read.number(p["up"], -limits::units, limits::units, "how high a prop stands");
    if (p.contains("lean")) out.lean = read.vec(p["lean"], -900, 900, "how a prop leans");
    if (p.contains("times")) out.times = read.colour(p["times"]);
    if (p.contains("plus")) out.plus = read.colour(p["plus"]);
    out.name = read.text(p, "name", "");
    out.ensemble = read.text(p, "ensemble", "");
    if (p.contains("group")) out.group = static_cast<std::uint32_t>(read.whole(p["group"], 0, UINT32_MAX, "a group"));
    out.notes = notes_of(read, p, "a prop's notes");
    return out;
}

inline Layer layer_of(const Reader& read, const json& j, const Level& level) {
    Layer out;
    out.id = read.id(j);
    out.name = read.text(read.of(j, "name"), "a layer's name");
    out.kind = read.text(read.of(j, "kind"), "a layer's kind");
    out.shown = read.yes(j, "shown");
    out.opacity = read.real(read.of(j, "opacity"), 0, 1, "an opacity");
    out.cell_size = j.contains("cell") ? read.size(j["cell"], limits::cell_pixels, "a layer's cells") : level.cell;
    if (j.contains("tint")) out.tint = read.colour(j["tint"]);
    if (j.contains("parallax")) {
        const json& p = read.list(j, "parallax");
        if (p.size() != 2) read.refuse("a parallax", "are not two numbers");
        out.parallax_x = read.real(p[0], 0, 1000, "a parallax");
        out.parallax_y = read.real(p[1], 0, 1000, "a parallax");
    }
    if (j.contains("by_feet")) out.by_feet = read.yes(j, "by_feet");
    if (j.contains("shift")) out.shift = read.vec(j["shift"], -limits::cell_pixels, limits::cell_pixels, "a shift");
    if (out.kind == "tiles") {
        out.solid = read.yes(j, "solid");
        out.collision_class = read.text(j, "collision_class", "");
        const json& cells = read.of(j, "cells");
        out.box = read.rect(read.of(cells, "box"), 0, limits::cells * limits::finer, "a layer's box");
        if (out.box.x + out.box.w > level.size.x * limits::finer ||
            out.box.y + out.box.h > level.size.y * limits::finer)
            read.refuse("a layer's box", "lies beyond the level");
        if (out.box.w > 0 && out.box.h > 0)
            out.cells = cells_of(level.folder / read.plain_name(read.of(cells, "file")), out.box, level.tiles.size());
        else
            out.box = {};
    } else if (out.kind == "props") {
        for (const json& p : read.list(j, "props")) {
            const std::int64_t kind = read.whole(read.of(p, "kind"), 0, INT32_MAX, "a prop's kind");
            if (static_cast<std::size_t>(kind) >= level.prop_kinds.size())
                read.refuse("a prop", "is of a kind that the level does not have");
            out.props.push_back(prop_of(read, p, static_cast<std::size_t>(kind)));
        }
    } else if (out.kind == "backdrop") {
        out.image = read.plain_name(read.of(j, "image"));
        if (j.contains("place")) {
            out.place = read.rect(j["place"], -limits::pixels, limits::pixels, "a backdrop's place");
            if (out.place.w < 1 || out.place.h < 1) read.refuse("a backdrop's place", "is empty");
        }
        if (j.contains("repeats")) {
            const json& r = read.list(j, "repeats");
            if (r.size() != 2 || !r[0].is_boolean() || !r[1].is_boolean())
                read.refuse("how a backdrop repeats", "is not told by true or false, across and down");
            out.repeats_across = r[0];
            out.repeats_down = r[1];
        }
        if (j.contains("smooth")) out.smooth = read.yes(j, "smooth");
        if (j.contains("plus")) out.plus = read.colour(j["plus"]);
    } else {
        read.refuse("\"" + out.kind + "\"", "is no kind of layer");
    }
    return out;
}

inline Facts facts_of(const Reader& read, const json& j, const Level& level) {
    Facts out;
    out.id = read.id(j);
    out.name = read.text(read.of(j, "name"), "a layer's name");
    out.note = read.text(read.of(j, "note"), "a note's name");
    for (const json& value : read.list(j, "values")) {
        if (!value.is_number() && !value.is_boolean() && !value.is_string())
            read.refuse("a value of a cell", "is no number, no word, and neither true nor false");
        out.values.push_back(value);
    }
    const json& cells = read.of(j, "cells");
    const Rect box = read.rect(read.of(cells, "box"), 0, limits::cells, "a box of facts");
    if (box.x + box.w > level.size.x || box.y + box.h > level.size.y)
        read.refuse("a box of facts", "lies beyond the level");
    if (box.w == 0 || box.h == 0) return out;
    out.box = box;
    const auto file = level.folder / read.plain_name(read.of(cells, "file"));
    out.cells = numbers_of(file, box);
    for (const std::uint32_t place : out.cells)
        if (place > out.values.size()) fail(file, "names a value that the level does not have");
    return out;
}

inline void read_sides(const Reader& read, const json& j, Level& out) {
    if (!j.contains("sides")) return;
    const json& sides = read.list(j, "sides");
    if (sides.size() != 4) read.refuse("the sides", "are not four");
    for (std::size_t i = 0; i < 4; ++i) {
        Side& side = out.sides[i];
        side.kind = read.text(read.of(sides[i], "kind"), "a side's kind");
        if (side.kind != "open" && side.kind != "blocks" && side.kind != "leads")
            read.refuse("\"" + side.kind + "\"", "is nothing that a side can be");
        side.to = read.text(sides[i], "to", "");
    }
}

inline Tile tile_of(const Reader& read, const json& t) {
    Tile tile;
    tile.id = read.id(t);
    tile.atlas = read.rect(read.of(t, "box"), 0, limits::pixels, "a tile's box");
    if (tile.atlas.w < 1 || tile.atlas.h < 1) read.refuse("a tile's box", "is empty");
    tile.name = read.text(read.of(t, "name"), "a tile's name");
    tile.shape = read.text(read.of(t, "shape"), "a tile's shape");
    if (t.contains("block")) {
        const json& b = t["block"];
        tile.cells = read.size(read.of(b, "cells"), 64, "a block's cells");
        tile.pivot = read.vec(read.of(b, "pivot"), 0, 63, "a block's pivot");
        tile.offset = read.vec(read.of(b, "offset"), -1024, 1024, "a block's offset");
        tile.stands = read.number(read.of(b, "stands"), 0, tile.cells.y - 1, "how far a block stands up");
        if (tile.pivot.x >= tile.cells.x || tile.pivot.y >= tile.cells.y)
            read.refuse("a block's pivot", "is none of its cells");
    }
    if (t.contains("rise")) tile.rise = read.number(t["rise"], 0, 64, "how a tile stands up");
    for (const json& tag : read.list(t, "tags", false)) tile.tags.push_back(read.text(tag, "a tag"));
    tile.notes = notes_of(read, t, "a tile's notes");
    for (const json& part : read.list(t, "polygons", false)) {
        if (!part.is_array() || part.size() < 3) read.refuse("a shape", "has fewer than three corners");
        tile.polygons.emplace_back();
        for (const json& corner : part) tile.polygons.back().push_back(read.vec(corner, 0, 16, "a corner of a shape"));
    }
    return tile;
}

// Frames name tiles that may come later in the list.
inline void read_frames(const Reader& read, const json& tiles, Level& level) {
    std::map<std::uint32_t, std::size_t> by_id;
    for (std::size_t i = 0; i < level.tiles.size(); ++i) by_id.emplace(level.tiles[i].id, i);
    for (std::size_t i = 0; i < level.tiles.size(); ++i)
        for (const json& f : read.list(tiles[i], "frames", false)) {
            if (!f.is_array() || f.size() != 2) read.refuse("a frame", "is not a tile and a time");
            const auto which =
                by_id.find(static_cast<std::uint32_t>(read.whole(f[0], 0, UINT32_MAX, "a frame's tile")));
            if (which == by_id.end()) read.refuse("a frame", "names a tile that is not there");
            level.tiles[i].frames.push_back({which->second, read.number(f[1], 1, 1 << 24, "a frame's time")});
        }
}

inline PropKind kind_of(const Reader& read, const json& k) {
    PropKind kind;
    kind.id = read.id(k);
    kind.name = read.text(read.of(k, "name"), "the name of a kind of prop");
    kind.atlas = read.rect(read.of(k, "box"), 0, limits::pixels, "a prop's box");
    if (kind.atlas.w < 1 || kind.atlas.h < 1) read.refuse("a prop's box", "is empty");
    kind.pivot = read.place(read.of(k, "pivot"), "a pivot");
    kind.foot = read.rect(read.of(k, "foot"), -limits::pixels, limits::pixels, "a foot");
    kind.blocks = read.yes(k, "blocks");
    if (const json& f = read.list(k, "frames", false); !f.empty()) {
        if (f.size() != 2) read.refuse("the frames of a prop", "are not two numbers");
        kind.frames = read.number(f[0], 1, limits::frames, "frames");
        kind.frame_ms = read.number(f[1], 1, 1 << 24, "a frame's time");
    }
    if (k.contains("one_way")) kind.one_way = read.text(k["one_way"], "a one-way side");
    kind.flat = k.contains("flat") && read.yes(k, "flat");
    kind.height = read.number(k.value("height", json(0)), 0, limits::pixels, "a height");
    for (const json& polygon : read.list(k, "shape", false)) {
        if (!polygon.is_array() || polygon.size() < 3) read.refuse("a prop's shape", "is no outline");
        kind.shape.emplace_back();
        for (const json& c : polygon) kind.shape.back().push_back(spot_of(read, c));
    }
    for (const json& a : read.list(k, "areas", false))
        kind.areas.push_back({read.text(read.of(a, "name"), "the name of an area"),
                              read.rect(read.of(a, "box"), -limits::pixels, limits::pixels, "an area")});
    for (const json& t : read.list(k, "tags", false)) kind.tags.push_back(read.text(t, "a tag"));
    kind.notes = notes_of(read, k, "the notes of a kind of prop");
    kind.smooth = k.contains("smooth") && read.yes(k, "smooth");
    for (const json& p : read.list(k, "pieces", false))
        kind.pieces.push_back({read.plain_name(read.of(p, "file")), read.place(read.of(p, "at"), "a piece's place")});
    return kind;
}

// Width and height of a PNG picture as its header says them; 0 × 0 where it is none.
inline Vec png_size(const std::filesystem::path& file) {
    std::error_code trouble;
    if (!std::filesystem::is_regular_file(file, trouble)) return {};
    std::ifstream in(file, std::ios::binary);
    unsigned char head[24] = {};
    if (!in.read(reinterpret_cast<char*>(head), sizeof head) || head[1] != 'P' || head[2] != 'N' || head[3] != 'G')
        return {};
    const auto number = [&](int at) {
        const std::uint32_t v = (std::uint32_t(head[at]) << 24) | (std::uint32_t(head[at + 1]) << 16) |
                                (std::uint32_t(head[at + 2]) << 8) | std::uint32_t(head[at + 3]);
        return v > std::uint32_t(limits::pixels) ? 0 : static_cast<int>(v);
    };
    return {number(16), number(20)};
}

// Boxes of tiles, and of props that are not in pieces, lie in the atlas.
inline void check_atlas(const Reader& read, const Level& level) {
    const Vec size = png_size(level.folder / level.atlas);
    const auto check = [&](const Rect& box, const std::string& name) {
        if (box.x + std::int64_t{box.w} > size.x || box.y + std::int64_t{box.h} > size.y)
            read.refuse("the box of \"" + name + "\"", "lies outside " + level.atlas);
    };
    for (const Tile& t : level.tiles) check(t.atlas, t.name.empty() ? std::to_string(t.id) : t.name);
    for (const PropKind& k : level.prop_kinds)
        if (k.pieces.empty()) {
            check(k.atlas, k.name);
            if (k.atlas.x + std::int64_t{k.atlas.w} * k.frames > size.x)
                read.refuse("the frames of \"" + k.name + "\"", "lie outside " + level.atlas);
        }
}

inline void read_walker(const Reader& read, const json& w, Walker& out) {
    const auto real = [&](const char* name, double least, double& value) {
        if (w.contains(name)) value = read.real(w[name], least, 1e4, "a number of the walker");
    };
    real("run", 0, out.run);
    real("least_jump", 0, out.least_jump);
    real("gravity", 0.1, out.gravity);
    real("fastest", 0.1, out.fastest);
    real("wall_jump", 0, out.wall_jump);
    real("climb", 0, out.climb);
    real("swim", 0, out.swim);
    const auto whole = [&](const char* name, int most, int& value) {
        if (w.contains(name)) value = read.number(w[name], 0, most, "a number of the walker");
    };
    whole("grace_edge", 10000, out.grace_edge);
    whole("grace_landing", 10000, out.grace_landing);
    whole("foot", 64 * kUnit, out.foot);
    whole("ways", 8, out.ways);
    if (w.contains("slack")) out.slack = read.vec(w["slack"], 0, limits::frame_pixels, "the frame's slack");
    out.mover = read.text(w, "mover", "");
}

inline void read_head(const Reader& read, const json& j, Level& out) {
    out.id = read.text(read.of(j, "id"), "the level's id");
    out.name = read.text(read.of(j, "name"), "the level's name");
    out.from_the_side = read.text(read.of(j, "view"), "the view") == "side";
    out.size = read.size(read.of(j, "size"), limits::cells, "the level's size");
    out.cell = read.size(read.of(j, "cell"), limits::cell_pixels, "a cell's size");
    const std::string lattice = read.text(j, "lattice", "square");
    if (lattice != "square" && lattice != "isometric") read.refuse("\"" + lattice + "\"", "is no lattice");
    out.isometric = lattice == "isometric";
    if (j.contains("unit")) out.unit = read.number(j["unit"], 1, limits::pixels, "the engine's unit");
    out.ground = read.colour(read.of(j, "ground"));
    out.frame = read.size(read.of(j, "frame"), limits::frame_pixels, "the frame");
    out.atlas = read.plain_name(read.of(read.of(j, "atlas"), "file"));
    for (const json& n : read.list(j, "side_notes", false)) out.side_notes.push_back(read.text(n, "a note's name"));
    for (const json& m : read.list(j, "marks")) {
        out.marks.push_back({read.id(m),
                             read.text(read.of(m, "name"), "a mark's name"),
                             read.text(read.of(m, "kind"), "a mark's kind"),
                             read.rect(read.of(m, "cells"), -limits::cells, 2 * limits::cells, "a mark's cells"),
                             {},
                             notes_of(read, m, "a mark's notes"),
                             {}});
        if (m.contains("figure")) {
            const std::int64_t kind = read.whole(m["figure"], 0, INT32_MAX, "a mark's figure");
            if (static_cast<std::size_t>(kind) >= out.prop_kinds.size())
                read.refuse("a mark's figure", "is of a kind that the level does not have");
            out.marks.back().figure = static_cast<std::size_t>(kind);
        }
        if (m.contains("colour")) out.marks.back().colour = read.colour(m["colour"]);
    }
    read_sides(read, j, out);
    const json& w = read.of(j, "walker");
    const Vec size = read.size(read.of(w, "size"), 64 * kUnit, "the walker's size");
    out.walker.width = size.x;
    out.walker.height = size.y;
    out.walker.speed = read.real(read.of(w, "speed"), 0, 1000, "the walker's speed");
    out.walker.jump = read.real(read.of(w, "jump"), 0, 1000, "how high the walker jumps");
    read_walker(read, w, out.walker);
}

// The level's movers, what it tells, probes and proofs.
inline void read_walking(const Reader& read, const json& j, Level& out) {
    for (const json& m : read.list(j, "movers", false)) {
        Mover mover;
        mover.name = read.text(read.of(m, "name"), "a mover's name");
        for (const json& p : read.list(m, "passes", false)) mover.passes.push_back(read.text(p, "a collision class"));
        mover.own = m.contains("outlines");
        if (mover.own) {
            mover.outlines = outlines_of(read, read.list(m, "outlines"));
            mover.one_way = one_way_of(read, read.list(m, "one_way"));
        }
        out.movers.push_back(std::move(mover));
    }
    for (const json& t : read.list(j, "telling", false))
        out.telling.push_back({read.text(read.of(t, "name"), "what is told"),
                               read.text(read.of(t, "means"), "what it means"), read.colour(read.of(t, "colour")),
                               outlines_of(read, read.list(t, "outlines"))});
    for (const json& p : read.list(j, "probes", false))
        out.probes.push_back(
            {read.vec(read.of(p, "at"), -2 * limits::units, 2 * limits::units, "a probe"), read.yes(p, "blocks")});
    for (const json& p : read.list(j, "proofs", false)) {
        Proof proof;
        proof.name = read.text(read.of(p, "name"), "a proof's name");
        proof.from = read.vec(read.of(p, "from"), -2 * limits::units, 2 * limits::units, "where a proof begins");
        for (const json& h : read.list(p, "held", false)) {
            if (!h.is_array() || h.size() < 2 || h.size() > 3)
                read.refuse("what is held in a proof", "is not ticks, keys and where it was led");
            proof.held.push_back({read.number(h[0], 1, limits::ticks, "ticks"),
                                  static_cast<unsigned>(read.number(h[1], 0, 63, "keys")),
                                  h.size() == 3 ? read.number(h[2], 0, 359, "degrees") : -1});
        }
        for (const json& at : read.list(p, "way", false))
            proof.way.push_back(read.vec(at, -2 * limits::units, 2 * limits::units, "a proof's way"));
        proof.mark = read.text(p, "mark", "");
        out.proofs.push_back(std::move(proof));
    }
}

// What surfaces there are; every edge must name one of them.
inline void read_surfaces(const Reader& read, const json& j, Level& out) {
    for (const json& s : read.list(j, "surfaces", false)) {
        if (!s.is_object()) read.refuse("a surface", "is no object");
        out.surfaces.push_back(s);
    }
    if (out.surfaces.empty()) out.surfaces.push_back(json::object());
    const auto check = [&](const std::vector<Outline>& outlines, const std::vector<OneWay>& edges) {
        bool known = true;
        for (const Outline& o : outlines)
            for (const std::size_t s : o.surfaces) known = known && s < out.surfaces.size();
        for (const OneWay& e : edges) known = known && e.surface < out.surfaces.size();
        if (!known) read.refuse("an edge", "has a surface that the level does not");
    };
    check(out.outlines, out.one_way);
    for (const auto& c : out.collision_classes) check(c.outlines, c.one_way);
    for (const Mover& m : out.movers) check(m.outlines, m.one_way);
}

inline Level level_of(const std::filesystem::path& folder, const Reader& read, const json& j) {
    Level out;
    out.folder = folder;
    for (const json& k : read.list(j, "prop_kinds")) out.prop_kinds.push_back(kind_of(read, k));
    read_head(read, j, out);
    const json& tiles = read.list(j, "tiles");
    for (const json& t : tiles) out.tiles.push_back(tile_of(read, t));
    read_frames(read, tiles, out);
    for (const json& l : read.list(j, "layers")) out.layers.push_back(layer_of(read, l, out));
    for (const json& f : read.list(j, "facts", false)) out.facts.push_back(facts_of(read, f, out));
    out.plane = read.number(read.of(j, "plane"), 0, static_cast<int>(out.layers.size()), "the walker's plane");
    out.props_merged = j.contains("props_merged") && read.yes(j, "props_merged");
    out.outlines = outlines_of(read, read.list(j, "outlines"));
    out.one_way = one_way_of(read, read.list(j, "one_way"));
    for (const json& c : read.list(j, "collision_classes", false))
        out.collision_classes.push_back(
            {read.text(read.of(c, "name"), "a collision class"), outlines_of(read, read.list(c, "outlines")),
             one_way_of(read, read.list(c, "one_way")), parts_of(read, read.list(c, "parts", false)),
             boxes_of(read, read.list(c, "boxes", false))});
    out.parts = parts_of(read, read.list(j, "parts", false));
    out.boxes = boxes_of(read, read.list(j, "boxes", false));
    read_walking(read, j, out);
    read_surfaces(read, j, out);
    check_atlas(read, out);
    return out;
}

} // namespace detail

inline Level load(const std::filesystem::path& folder) {
    using namespace detail;
    const std::filesystem::path file = folder / "level.json";
    const std::string text = bytes_of(file);
    check_depth(file, text);
    const Reader read{file};
    try {
        const json j = json::parse(text);
        if (!j.is_object() || j.value("format", json()) != "vicinum-parcel") fail(file, "is no Vicinum parcel");
        if (read.whole(read.of(j, "version"), 1, INT32_MAX, "the version") > kParcelVersion)
            fail(file, "was built by a newer Vicinum");
        return level_of(folder, read, j);
    } catch (const json::exception& e) {
        fail(file, std::string("is damaged: ") + e.what());
    }
}

} // namespace vicinum
