// Loads a level built by Vicinum (a "parcel": one folder per level) into plain C++17 structs.
// One header; needs only nlohmann-json and the standard library. The format: docs/formats/parcel.md.
//
// Units: cells and pixels as named; outlines and one-way edges in 1/64 cells; y grows downwards. On an isometric level
// a cell is a diamond: its x goes right and down on the screen, its y left and down; see Level::corner and
// picture_place. Errors: load() throws std::runtime_error with the file and what is wrong; nothing is half loaded.
#pragma once

#include <array>
#include <cstdint>
#include <filesystem>
#include <fstream>
#include <nlohmann/json.hpp>
#include <stdexcept>
#include <string>
#include <utility>
#include <vector>

namespace vicinum {

inline constexpr int kParcelVersion = 2;
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

struct PropKind {
    std::uint32_t id = 0;
    std::string name;
    Rect atlas; // pixels of the atlas
    Vec pivot;  // pixels within the picture
    Rect foot;  // pixels within the picture
    bool blocks = false;
    std::vector<Piece> pieces; // where there are any, draw these; `atlas` then only tells the size
};

struct Prop {
    std::uint32_t id = 0;
    std::size_t kind = 0; // index into Level::prop_kinds
    Vec at;               // where the pivot stands, in pixels of the level
    bool mirrored = false;
};

struct Layer {
    std::uint32_t id = 0;
    std::string name;
    std::string kind; // tiles, props, backdrop
    bool shown = true;
    bool solid = false;
    std::string collision_class;           // of a solid layer; see Level::collision_classes
    double opacity = 1;                    // 0 .. 1
    Vec cell_size;                         // pixels of its cells: those of the level, or a whole part of them
    Rect box;                              // tiles: the cells below, in cells of the layer
    std::vector<Cell> cells;               // tiles: box.w × box.h, row by row
    std::vector<Prop> props;               // props: in drawing order
    std::string image;                     // backdrop: a picture in the parcel, repeated over the level
    Colour tint{255, 255, 255, 255};       // multiplied with what lies on it
    double parallax_x = 1, parallax_y = 1; // how far it goes along when the frame moves over the level
    Vec shift;                             // pixels that it is drawn right of and below its place

    Cell cell(int x, int y) const {
        if (x < box.x || y < box.y || x >= box.x + box.w || y >= box.y + box.h) return {};
        return cells[static_cast<std::size_t>(y - box.y) * static_cast<std::size_t>(box.w) +
                     static_cast<std::size_t>(x - box.x)];
    }
};

// A closed boundary; what blocks lies to the right of the way along it, seen with y down.
struct Outline {
    bool hole = false;
    std::vector<Vec> points; // 1/64 cells, no collinear ones
};

// Stops what comes across it towards the cell it belongs to: from above for "north".
struct OneWay {
    Vec from, to; // 1/64 cells
    std::string side;
};

struct Mark {
    std::uint32_t id = 0;
    std::string name;
    std::string kind; // start, exit, note
    Rect cells;
};

struct Walker {
    int width = 0, height = 0; // 1/64 cells
    double speed = 0;          // cells a second
    double jump = 0;           // cells; side view only
};

// What blocks on the layers of one collision class alone.
struct CollisionClass {
    std::string name; // empty for layers that name none
    std::vector<Outline> outlines;
    std::vector<OneWay> one_way;
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
    std::vector<CollisionClass> collision_classes; // the same by class, where any layer names one; else empty
    std::vector<Mark> marks;
    Walker walker;

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

namespace detail {

using json = nlohmann::json;

[[noreturn]] inline void fail(const std::filesystem::path& file, const std::string& what) {
    throw std::runtime_error(file.string() + ": " + what);
}

inline std::string bytes_of(const std::filesystem::path& file) {
    std::ifstream in(file, std::ios::binary);
    if (!in) fail(file, "cannot be opened");
    return {std::istreambuf_iterator<char>(in), std::istreambuf_iterator<char>()};
}

inline Vec vec(const json& j) { return {j.at(0).get<int>(), j.at(1).get<int>()}; }
inline Rect rect(const json& j) {
    return {j.at(0).get<int>(), j.at(1).get<int>(), j.at(2).get<int>(), j.at(3).get<int>()};
}

inline Colour colour(const json& j) {
    const std::string t = j.get<std::string>();
    const auto part = [&](std::size_t at) {
        return static_cast<std::uint8_t>(std::stoi(t.substr(at, 2), nullptr, 16));
    };
    return {part(1), part(3), part(5), t.size() > 7 ? part(7) : std::uint8_t{255}};
}

// A file of the parcel by its plain name; names that lead elsewhere are refused.
inline std::string plain_name(const std::filesystem::path& file, const json& j) {
    std::string name = j.get<std::string>();
    // Also what only another system takes for a way to another folder, or to a drive.
    if (name.empty() || name.find_first_of(std::string("/\\:\0", 4)) != std::string::npos || name == "." ||
        name == "..")
        fail(file, "\"" + name + "\" is no file name");
    return name;
}

inline std::vector<Cell> cells_of(const std::filesystem::path& file, const Rect& box, std::size_t tiles) {
    const std::string raw = bytes_of(file);
    if (box.w < 0 || box.h < 0 || raw.size() != std::size_t(box.w) * std::size_t(box.h) * 4)
        fail(file, "has not the size that the level says");
    std::vector<Cell> cells(raw.size() / 4);
    for (std::size_t i = 0; i < cells.size(); ++i) {
        std::uint32_t bits = 0;
        for (std::size_t b = 0; b < 4; ++b)
            bits |= std::uint32_t(static_cast<unsigned char>(raw[4 * i + b])) << (8 * b);
        cells[i].bits = bits;
        if (!cells[i].empty() && cells[i].tile() >= tiles) fail(file, "names a tile that the level does not have");
    }
    return cells;
}

inline std::vector<Outline> outlines_of(const std::filesystem::path& file, const json& list) {
    std::vector<Outline> out;
    for (const json& o : list) {
        Outline outline;
        outline.hole = o.at("hole");
        const json& points = o.at("points");
        for (std::size_t i = 0; i + 1 < points.size(); i += 2)
            outline.points.push_back({points[i].get<int>(), points[i + 1].get<int>()});
        if (outline.points.size() < 3) fail(file, "an outline has fewer than three points");
        out.push_back(std::move(outline));
    }
    return out;
}

inline std::vector<OneWay> one_way_of(const json& list) {
    std::vector<OneWay> out;
    for (const json& e : list) out.push_back({vec(e.at("from")), vec(e.at("to")), e.at("side")});
    return out;
}

inline Layer layer_of(const std::filesystem::path& file, const json& j, const Level& level) {
    Layer out;
    out.id = j.at("id");
    out.name = j.at("name");
    out.kind = j.at("kind");
    out.shown = j.at("shown");
    out.opacity = j.at("opacity");
    out.cell_size = j.contains("cell") ? vec(j.at("cell")) : level.cell;
    if (out.cell_size.x < 1 || out.cell_size.y < 1) fail(file, "a layer's cells have no size");
    if (j.contains("tint")) out.tint = colour(j.at("tint"));
    if (j.contains("parallax")) {
        out.parallax_x = j.at("parallax").at(0);
        out.parallax_y = j.at("parallax").at(1);
    }
    if (j.contains("shift")) out.shift = vec(j.at("shift"));
    if (out.kind == "tiles") {
        out.solid = j.at("solid");
        out.collision_class = j.value("collision_class", std::string());
        const json& cells = j.at("cells");
        out.box = rect(cells.at("box"));
        if (out.box.w > 0)
            out.cells = cells_of(level.folder / plain_name(file, cells.at("file")), out.box, level.tiles.size());
    } else if (out.kind == "props") {
        for (const json& p : j.at("props")) {
            Prop prop{p.at("id"), p.at("kind"), vec(p.at("at")), p.at("mirrored")};
            if (prop.kind >= level.prop_kinds.size()) fail(file, "a prop is of a kind that the level does not have");
            out.props.push_back(prop);
        }
    } else if (out.kind == "backdrop") {
        out.image = plain_name(file, j.at("image"));
    } else {
        fail(file, "unknown kind of layer \"" + out.kind + "\"");
    }
    return out;
}

} // namespace detail

inline Level load(const std::filesystem::path& folder) {
    using namespace detail;
    const std::filesystem::path file = folder / "level.json";
    const std::string text = bytes_of(file);
    try {
        const json j = json::parse(text);
        if (j.at("format") != "vicinum-parcel") fail(file, "is no Vicinum parcel");
        if (j.at("version").get<int>() > kParcelVersion) fail(file, "was built by a newer Vicinum");
        Level out;
        out.folder = folder;
        out.id = j.at("id");
        out.name = j.at("name");
        out.from_the_side = j.at("view") == "side";
        out.size = vec(j.at("size"));
        out.cell = vec(j.at("cell"));
        const std::string lattice = j.value("lattice", std::string("square"));
        if (lattice != "square" && lattice != "isometric") fail(file, "unknown lattice \"" + lattice + "\"");
        out.isometric = lattice == "isometric";
        out.unit = j.value("unit", 16);
        if (out.unit < 1) fail(file, "the engine's unit is less than a pixel");
        out.ground = colour(j.at("ground"));
        out.frame = vec(j.at("frame"));
        out.plane = j.at("plane");
        out.atlas = plain_name(file, j.at("atlas").at("file"));
        for (const json& t : j.at("tiles")) {
            Tile tile{t.at("id"), rect(t.at("box")), t.at("name"), t.at("shape"), {1, 1}, {}, {}, 0, {}, {}, {}, {}};
            if (t.contains("block")) {
                const json& b = t.at("block");
                tile.cells = vec(b.at("cells"));
                tile.pivot = vec(b.at("pivot"));
                tile.offset = vec(b.at("offset"));
                tile.stands = b.at("stands");
                if (tile.cells.x < 1 || tile.cells.y < 1 || tile.cells.x > 64 || tile.cells.y > 64)
                    fail(file, "a block has no or too many cells");
            }
            tile.tags = t.value("tags", std::vector<std::string>());
            tile.notes = t.value("notes", nlohmann::json::object());
            for (const json& part : t.value("polygons", json::array())) {
                tile.polygons.emplace_back();
                for (const json& corner : part) tile.polygons.back().push_back(vec(corner));
            }
            out.tiles.push_back(std::move(tile));
        }
        out.side_notes = j.value("side_notes", std::vector<std::string>());
        // Frames name tiles that may come later in the list.
        for (std::size_t i = 0; i < out.tiles.size(); ++i)
            for (const json& f : j.at("tiles")[i].value("frames", json::array())) {
                std::size_t which = 0;
                while (which < out.tiles.size() && out.tiles[which].id != f.at(0).get<std::uint32_t>()) ++which;
                if (which == out.tiles.size()) fail(file, "a frame names a tile that is not there");
                if (f.at(1).get<int>() < 1) fail(file, "a frame is shown for no time");
                out.tiles[i].frames.push_back({which, f.at(1)});
            }
        for (const json& k : j.at("prop_kinds")) {
            PropKind kind{
                k.at("id"), k.at("name"), rect(k.at("box")), vec(k.at("pivot")), rect(k.at("foot")), k.at("blocks"),
                {}};
            for (const json& p : k.value("pieces", json::array()))
                kind.pieces.push_back({plain_name(file, p.at("file")), vec(p.at("at"))});
            out.prop_kinds.push_back(std::move(kind));
        }
        for (const json& l : j.at("layers")) out.layers.push_back(layer_of(file, l, out));
        out.outlines = outlines_of(file, j.at("outlines"));
        out.one_way = one_way_of(j.at("one_way"));
        for (const json& c : j.value("collision_classes", json::array()))
            out.collision_classes.push_back(
                {c.at("name"), outlines_of(file, c.at("outlines")), one_way_of(c.at("one_way"))});
        for (const json& m : j.at("marks"))
            out.marks.push_back({m.at("id"), m.at("name"), m.at("kind"), rect(m.at("cells"))});
        const json& w = j.at("walker");
        out.walker = {w.at("size").at(0), w.at("size").at(1), w.at("speed"), w.at("jump")};
        return out;
    } catch (const nlohmann::json::exception& e) {
        fail(file, std::string("is damaged: ") + e.what());
    } catch (const std::logic_error& e) { // from reading colours
        fail(file, std::string("is damaged: ") + e.what());
    }
}

} // namespace vicinum
