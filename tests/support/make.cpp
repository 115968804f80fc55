#include "support/make.hpp"

#include <unistd.h>
#include <cstdlib>

#include <cmath>

#include "base/chance.hpp"
#include "base/files.hpp"
#include "edit/sheets.hpp"
#include "level/standing.hpp"
#include "sheet/png.hpp"
#include "store/project_files.hpp"

namespace make {

Folder::Folder() {
    std::string name = (std::filesystem::temp_directory_path() / "vicinum-test-XXXXXX").string();
    path_ = ::mkdtemp(name.data());
}

Folder::~Folder() {
    std::error_code ignored;
    std::filesystem::remove_all(path_, ignored);
}

int rounds(int usual, int many) { return std::getenv("VICINUM_MANY") ? many : usual; }

std::map<std::string, std::string> contents(const std::filesystem::path& folder) {
    std::map<std::string, std::string> out;
    for (const auto& entry : std::filesystem::recursive_directory_iterator(folder))
        if (entry.is_regular_file())
            out[std::filesystem::relative(entry.path(), folder).string()] = read_file(entry.path());
    return out;
}

namespace {

// How far a point lies from the lines that go from the middle to the sides that join.
double off_lines(join::Mask mask, double x, double y, double side, double bend) {
    using namespace vic::join;
    const double m = side / 2;
    // Half way to the rim a line lies aside by `bend`; at the rim and in the middle it does not.
    const auto aside = [&](double along) { return bend * std::sin(along / m * 3.14159265); };
    double off = std::hypot(x - m, y - m) + (mask == 0 ? 0 : side / 16);
    if ((mask & kN) && y < m) off = std::min(off, std::abs(x - m - aside(y)));
    if ((mask & kS) && y >= m) off = std::min(off, std::abs(x - m + aside(side - y)));
    if ((mask & kW) && x < m) off = std::min(off, std::abs(y - m - aside(x)));
    if ((mask & kE) && x >= m) off = std::min(off, std::abs(y - m + aside(side - x)));
    return off;
}

// How far a point lies from the nearest side that is open; `side` where all join.
double off_open(join::Mask mask, double x, double y, double side) {
    using namespace vic::join;
    double off = side;
    if (!(mask & kN)) off = std::min(off, y);
    if (!(mask & kE)) off = std::min(off, side - x);
    if (!(mask & kS)) off = std::min(off, side - y);
    if (!(mask & kW)) off = std::min(off, x);
    return off;
}

Image as_others_draw(join::Mask mask, int side, Style style, unsigned seed) {
    Image out({side, side});
    const double wide = std::max(1.5, side / 10.0);
    const double bend = (static_cast<double>(place_hash(seed, 7, 7) >> 40 & 255) / 255 - 0.5) * side / 4;
    for (int y = 0; y < side; ++y)
        for (int x = 0; x < side; ++x) {
            const unsigned h = static_cast<unsigned>(place_hash(seed, x, y) >> 40);
            const double px = x + 0.5, py = y + 0.5;
            const auto shade = [&](Rgba c, int by) {
                const int d = static_cast<int>(h % static_cast<unsigned>(2 * by + 1)) - by;
                const auto part = [&](int v) { return static_cast<std::uint8_t>(std::clamp(v + d, 0, 255)); };
                return Rgba{part(c.r), part(c.g), part(c.b), c.a};
            };
            const double line = off_lines(mask, px, py, side, bend);
            const double open = off_open(mask, px, py, side);
            // A rim that wobbles along the side.
            const double wobble = 0.5 + static_cast<double>(place_hash(seed, x / 3 + 100, y / 3) >> 40 & 255) / 255;
            Rgba c;
            switch (style) {
                case Style::line:
                case Style::line_on_ground:
                    c = line < wide            ? shade({40, 90, 190, 255}, 8)
                        : line < wide * 1.6    ? Rgba{30, 60, 40, 255}
                        : style == Style::line ? Rgba{}
                                               : shade({120, 150, 80, 255}, 10);
                    break;
                case Style::rim_only:
                    c = open < side * 0.16 * wobble   ? shade({60, 120, 50, 255}, 10)
                        : open < side * 0.24 * wobble ? Rgba{40, 60, 150, 255}
                                                      : Rgba{};
                    break;
                case Style::blob: {
                    const double full = std::clamp((open / side - 0.04) * 4 * wobble, 0.0, 1.0);
                    c = shade({140, 90, 30, 255}, 30);
                    c.a = static_cast<std::uint8_t>(255 * full * full);
                    break;
                }
                default: // ragged: dithered as pixel art is, with a colour that both grounds have
                    c = open < side * 0.22 * wobble ? (h % 3 == 0   ? Rgba{60, 130, 40, 255}
                                                       : h % 3 == 1 ? Rgba{80, 150, 50, 255}
                                                                    : Rgba{50, 110, 35, 255})
                                                    : (h % 3 == 0   ? Rgba{60, 130, 40, 255}
                                                       : h % 3 == 1 ? Rgba{20, 50, 20, 255}
                                                                    : Rgba{30, 80, 30, 255});
            }
            out.set(x, y, c);
        }
    return out;
}

} // namespace

Image tile(join::Mask mask, int side, Style style, unsigned seed) {
    if (style >= Style::line) return as_others_draw(mask, side, style, seed);
    using namespace vic::join;
    Image out({side, side});
    const double rim = side / 4.0;
    for (int y = 0; y < side; ++y) {
        for (int x = 0; x < side; ++x) {
            const double px = x + 0.5, py = y + 0.5;
            double depth = side;
            if (!(mask & kN)) depth = std::min(depth, py);
            if (!(mask & kE)) depth = std::min(depth, side - px);
            if (!(mask & kS)) depth = std::min(depth, side - py);
            if (!(mask & kW)) depth = std::min(depth, px);
            const auto notch = [&](Mask corner, Mask a, Mask b, double cx, double cy) {
                if ((mask & a) && (mask & b) && !(mask & corner)) depth = std::min(depth, std::hypot(px - cx, py - cy));
            };
            notch(kNE, kN, kE, side, 0);
            notch(kSE, kE, kS, side, side);
            notch(kSW, kS, kW, 0, side);
            notch(kNW, kW, kN, 0, 0);
            const unsigned h = static_cast<unsigned>(place_hash(seed, x, y) >> 40);
            const auto shade = [&](Rgba c, int by) {
                const int d = static_cast<int>(h % static_cast<unsigned>(2 * by + 1)) - by;
                const auto part = [&](int v) { return static_cast<std::uint8_t>(std::clamp(v + d, 0, 255)); };
                return Rgba{part(c.r), part(c.g), part(c.b), c.a};
            };
            const Rgba inside{70, 150, 140, 255}, outside{190, 160, 110, 255}, line{60, 40, 30, 255};
            Rgba c;
            switch (style) {
                // Here and there a lighter pixel, as in any drawing: without it the art could as well be enlarged.
                case Style::outlined:
                    c = depth < rim * 0.6 ? line : h % 23 == 0 ? Rgba{95, 175, 160, 255} : inside;
                    break;
                case Style::textured:
                    c = shade(depth < rim ? outside : inside, 12);
                    break;
                case Style::noisy:
                    c = shade(depth < rim * (0.7 + 0.6 * (h % 97) / 97.0) ? outside : inside, 6);
                    break;
                case Style::shaded: {
                    const double deep = std::clamp((depth - rim) / (side / 2.0 - rim), 0.0, 1.0);
                    const auto part = [&](int v) { return static_cast<std::uint8_t>(v * (1 - 0.45 * deep)); };
                    c = depth < rim * 0.6 ? line : shade({part(inside.r), part(inside.g), part(inside.b), 255}, 3);
                    break;
                }
                case Style::see_through:
                default:
                    c = depth < rim * 0.7 ? Rgba{} : depth < rim ? line : shade(inside, 8);
                    break;
            }
            out.set(x, y, c);
        }
    }
    return out;
}

std::vector<Image> tiles(const std::vector<join::Mask>& masks, int side, Style style, unsigned seed) {
    std::vector<Image> out;
    for (std::size_t i = 0; i < masks.size(); ++i)
        out.push_back(tile(masks[i], side, style, seed + static_cast<unsigned>(i) * 31));
    return out;
}

Image sheet(const std::vector<Image>& tiles, int columns, Point margin, Point gap, Rgba gap_colour) {
    const Size t = tiles.front().size();
    const int rows = (static_cast<int>(tiles.size()) + columns - 1) / columns;
    Image out({2 * margin.x + columns * t.w + (columns - 1) * gap.x, 2 * margin.y + rows * t.h + (rows - 1) * gap.y},
              gap_colour);
    for (std::size_t i = 0; i < tiles.size(); ++i) {
        const Point at{margin.x + static_cast<int>(i) % columns * (t.w + gap.x),
                       margin.y + static_cast<int>(i) / columns * (t.h + gap.y)};
        for (int y = 0; y < t.h; ++y)
            for (int x = 0; x < t.w; ++x) out.set(at.x + x, at.y + y, tiles[i].at(x, y));
    }
    return out;
}

Small::Small(Size cells, level::View view) {
    project.name = "Small";
    const auto& masks = join::cases(level::JoinKind::full);
    level::SheetId full = 0;
    project =
        edit::add_sheet(std::move(project), "sheets/full.png", sheet(tiles(masks, 16, Style::outlined, 1), 8, {}, {}),
                        "Full", {{16, 16}, {}, {}, 1}, true, full);
    level::SheetId plain = 0;
    project = edit::add_sheet(std::move(project), "sheets/plain.png",
                              sheet(tiles({255, 255, 255, 255}, 16, Style::textured, 7), 4, {}, {}), "Plain",
                              {{16, 16}, {}, {}, 1}, true, plain);
    for (const level::SheetId id : {full, plain}) {
        level::Sheet credited = *project.sheet(id);
        credited.credits = {"The tests", "MIT", "", ""};
        project.put(std::move(credited));
    }
    const level::Sheet s = *project.sheet(full);
    const level::Sheet sand = *project.sheet(plain);
    join::JoinReading reading;
    for (std::size_t i = 0; i < masks.size(); ++i) reading.tiles.push_back({static_cast<int>(i), masks[i], 1.0});
    level::MaterialId id1 = 0, id2 = 0;
    project = edit::add_material(std::move(project), s, level::JoinKind::full, reading, "Rock", id1);
    project = edit::add_material(std::move(project), sand, level::JoinKind::plain, {}, "Sand", id2);
    std::vector<level::TileId> all;
    for (const auto& t : project.sheet(full)->tiles) all.push_back(t.id);
    project = edit::change_tiles(std::move(project), all, [](level::Tile& t) {
        t.shape = t.blank ? level::TileShape::none : level::TileShape::full;
    });
    prop = project.next_id++;
    level::PropKind kind{prop, "Post", full, {0, 0, 16, 32}, {8, 31}, {2, 24, 12, 8}, true};
    project.put(kind);
    level::Level level = level::make_level(project, "Place", cells, {16, 16}, view);
    id = level.id;
    ground = level.layers[0]->id;
    props = level.layers[1]->id;
    front = level.layers[2]->id;
    project.put(std::move(level));
}

void save_with_pictures(const level::Project& project, const std::filesystem::path& dir) {
    std::filesystem::create_directories(dir / "sheets");
    for (const auto& s : project.sheets) write_file(dir / s->file, sheet::encode_png(*s->image));
    store::save(project, dir);
}

Small rich(unsigned seed) {
    Small small({130, 90});
    Random random(seed);
    level::Level level = small.level();
    for (int i = 0; i < 900; ++i) {
        const Point p{random.below(130), random.below(90)};
        level.edit(small.ground)
            .grid()
            .set(p,
                 level::Cell(static_cast<level::TileId>(random.below(52)), {static_cast<std::uint8_t>(random.below(8))},
                             random.flip()),
                 static_cast<level::MaterialId>(random.below(3)));
    }
    level.edit(small.props).props() = level::Props({{90, small.prop, {-5, 77}, {true}}, {91, small.prop, {500, 9}}});
    level.edit(small.front).opacity = 40;
    level.edit(small.front).locked = true;
    level.edit(small.front).by_feet = true;
    level.marks = {{92, "Tür \"A\"", level::MarkKind::start, {3, 4, 1, 2}},
                   {93, "", level::MarkKind::exit, {0, 0, 5, 5}}};
    // Of its own, so that all else stays what it was.
    Random said(seed + 1);
    level::NoteKind ore, kind;
    ore.id = 94;
    ore.name = "Ore";
    ore.type = level::NoteType::number;
    kind.id = 95;
    kind.name = "Ground";
    kind.type = level::NoteType::choice;
    kind.choices = {"soft", "hard"};
    kind.surface = true;
    small.project.note_kinds = {ore, kind};
    level::Layer facts;
    facts.id = 96;
    facts.name = "Ore";
    level::Facts values(level.size, ore.id);
    for (int i = 0; i < 200; ++i) values.set({said.below(130), said.below(90)}, said.below(19) - 9);
    facts.content = std::move(values);
    level.layers.push_back(std::make_shared<const level::Layer>(std::move(facts)));
    level.marks.back().colour = Rgba{1, 200, 3, 255};
    level.marks.back().figure = small.prop;
    level.marks.back().notes = {{ore.id, 2.5}, {kind.id, std::string("hard")}};
    level.sides = {level::LevelSide{level::SideKind::blocks, {}}, {level::SideKind::leads, "elsewhere"}, {}, {}};
    // Props with all that they may have, and an ensemble.
    level::PropKind post = *small.project.prop_kind(small.prop);
    post.blocks = true;
    post.shape = level::TileShape::drawn;
    post.polygons = {{{0, 0}, {4, 0}, {4, 4}}};
    small.project.engine_shapes = level::EngineShapes::rectangles;
    post.height = 12;
    post.areas = {{"seat", {1, 2, 3, 4}}};
    post.tags = {"post", "wood"};
    post.notes = {{ore.id, 1.5}};
    post.least = 50;
    post.most = 800;
    small.project.put(post);
    level::PropKind second = post;
    second.id = 100;
    second.name = "Second";
    second.variant_of = post.id;
    second.chance = 30;
    second.lit = true;
    second.flat = true;
    second.frames = 3;
    second.frame_ms = 90;
    small.project.put(second);
    level::PropKind stall;
    stall.id = 97;
    stall.name = "Stall";
    stall.parts = {{1, post.id, {-9, 0}, {true, 900, 200, -20, 70, {1, 2, 3, 255}}, "left", {{ore.id, 4.0}}},
                   {2, post.id, {9, 3}}};
    small.project.put(stall);
    level::fit_ensembles(small.project);
    level::PropOwn own;
    own.name = "The stall at the sluice";
    own.notes = {{kind.id, std::string("soft")}};
    own.changes[1].tint = Rgba{9, 8, 7, 255};
    own.changes[1].notes = level::Notes{};
    own.changes[2].kind = 0;
    level::Prop copy{98, stall.id, {300, 200}, {false, 155, 150, 30, 90, {200, 210, 220, 255}}, 98};
    copy.set_own(own);
    copy.look.ahead = -7;
    level.edit(small.props).props().put(copy);
    level.edit(small.props).props().put({99, post.id, {340, 210}, {}, 98});
    level::Layer back;
    back.id = 101;
    back.name = "Far";
    back.content =
        level::Backdrop{small.project.sheets[1]->id, {10, 20, 30, 255}, true, false, {-7, 12}, {90, 45}, true, 35};
    back.parallax = {40, 100};
    level.layers.push_back(std::make_shared<const level::Layer>(std::move(back)));
    level::Layer herbs;
    herbs.id = 102;
    herbs.name = "Herbs";
    herbs.content = level::PlantedProps{};
    level::Planting& recipe = herbs.planted()->recipe;
    recipe.area = {
        {.of = level::AreaOf::material, .layer = small.ground, .material = 1, .from = -40, .to = 12, .falloff = 9},
        {.of = level::AreaOf::painted, .join = level::AreaJoin::or_else, .to = std::nullopt}};
    level::Pass pass;
    pass.name = "Posts";
    pass.kinds = {{post.id, 30, 50}, {100}};
    pass.covers = {level::Covers::How::per_cells, 120};
    pass.clumps = {40, 90, 5, true};
    pass.even = true;
    pass.where = {{.of = level::AreaOf::props, .join = level::AreaJoin::without, .kind = post.id, .to = 20}};
    pass.least_scale = 80;
    pass.most_scale = 130;
    pass.rim = 60;
    pass.rim_wide = 48;
    pass.least_turn = -150;
    pass.most_turn = 150;
    pass.mirrors = false;
    pass.most_light = 15;
    pass.opacity = 50;
    pass.tint = {1, 2, 3, 255};
    pass.tint_to = Rgba{4, 5, 6, 255};
    pass.minds_placed = false;
    recipe.passes = {pass, pass};
    recipe.passes[1].muted = true;
    recipe.passes[1].ignores = 1;
    recipe.passes[1].where = {{.of = level::AreaOf::pass, .to = 30}};
    recipe.painted.set({70, 3}, 255);
    recipe.painted.set({71, 3}, 120);
    recipe.cleared.set({-2, -70}, 60);
    recipe.taken = {{{30, 40}, 7}};
    level::Prop herb{103, post.id, {222, 111}};
    herb.pass = 1;
    herbs.props().put(herb);
    level.layers.push_back(std::make_shared<const level::Layer>(std::move(herbs)));
    level::Layer words;
    words.id = small.project.next_id++;
    words.name = "Own words";
    level::Blockers spoken(level.size);
    spoken.set({3, 2}, level::TileShape::opens);
    spoken.set({4, 2}, level::TileShape::full);
    spoken.set_free({{1, {{70, 40}, {300, 55}, {200, 190}}, 0, false, 0, "Chain", {}},
                     {2, {{10, 400}, {500, 420}, {520, 600}}, 40, true, 0, {}, {}}});
    words.content = spoken;
    level.layers.push_back(std::make_shared<const level::Layer>(std::move(words)));
    level.here.tiles[2] = {level::TileShape::drawn, {{{0, 0}, {16, 0}, {16, 16}}}, 0};
    level.here.props[post.id] = {level::TileShape::none, {}, 0};
    small.project.deviation = 4;
    small.project.thinnest = 6;
    level.walker.speed = 3.25;
    level.plane = 3;
    small.set(level);
    const std::vector<level::TileId> some{1, 5, 9};
    small.project = edit::change_tiles(small.project, some, [&](level::Tile& t) {
        t.name = "Kachel " + std::to_string(t.id);
        t.chance = 17;
        t.rise = 2;
        t.shape = level::TileShape::one_way_north;
        t.homes = {small.front};
    });
    small.project = edit::change_tiles(small.project, std::vector<level::TileId>{12},
                                       [&](level::Tile& t) { t.shape = level::TileShape::opens; });
    return small;
}

} // namespace make
