// What is drawn in the order of feet, against a painter who asks for every pixel by itself what stands in front there.
#include <algorithm>
#include <catch2/catch.hpp>
#include <optional>
#include <tuple>

#include "level/standing.hpp"
#include "parcel/build.hpp"
#include "picture/compose.hpp"
#include "picture/figures.hpp"
#include "support/make.hpp"
#include "vicinum_level.hpp"

using namespace vic;

namespace {

// A level of two layers of tiles and two of props, some tiles standing, all drawn by feet.
struct Standing : make::Small {
    static constexpr level::PropKindId flat = 901;
    explicit Standing(unsigned seed) : Small({24, 18}) {
        make::Random random(seed);
        level::Sheet sheet = *project.sheets[0];
        for (level::Tile& t : sheet.tiles) t.rise = static_cast<int>(t.id % 4); // 0 lies flat
        project.put(sheet);
        level::PropKind mat = *project.prop_kind(prop);
        mat.id = flat;
        mat.flat = true;
        project.put(mat);
        level::Level l = level();
        level::Layer more = *l.layer(props);
        more.id = project.next_id++;
        l.layers.push_back(std::make_shared<const level::Layer>(std::move(more)));
        for (const level::LayerRef& layer : std::vector(l.layers)) l.edit(layer->id).by_feet = true;
        for (int i = 0; i < 120; ++i)
            l.edit(random.flip() ? ground : front)
                .grid()
                .set({random.below(24), random.below(18)},
                     level::Cell(static_cast<level::TileId>(1 + random.below(47)), {}, true), 1);
        for (int i = 0; i < 60; ++i) {
            level::Prop p{
                project.next_id++, random.below(4) == 0 ? flat : prop, {random.below(24 * 16), random.below(18 * 16)}};
            p.look.mirrored = random.flip();
            if (random.flip()) p.look.scale = 200;
            l.edit(random.flip() ? props : l.layers.back()->id).props().put(p);
        }
        set(l);
    }
};

// Which of all that stands or lies is seen in the pixel, and its colour.
std::optional<Rgba> front_at(const Standing& s, Point pixel) {
    const level::TileTable tiles(s.project);
    const level::PropKinds kinds(s.project);
    using Key = std::tuple<int, double, int, std::size_t, int,
                           std::uint32_t>; // tile that lies, prop, all that stands; foot, kind, layer, x, id
    std::optional<std::pair<Key, Rgba>> best;
    const auto see = [&](const Key& key, Rgba colour) {
        if (colour.a == 255 && (!best || best->first < key)) best = {key, colour};
    };
    for (std::size_t i = 0; i < s.level().layers.size(); ++i) {
        const level::Layer& layer = *s.level().layers[i];
        if (layer.tiles()) {
            const Point cell{pixel.x / 16, pixel.y / 16};
            const level::TileRef ref = tiles.find(layer.grid().cell(cell).tile());
            if (!ref.tile) continue;
            const Rgba c = ref.sheet->image->at(ref.tile->box.x + pixel.x % 16, ref.tile->box.y + pixel.y % 16);
            const int rise = ref.tile->rise;
            see({rise > 0 ? 2 : 0, rise > 0 ? (cell.y + rise) * 16.0 : 0, 0, i, cell.x, 0}, c);
        }
        for (const level::Prop& p : layer.props())
            kinds.each_piece(p, [&](const level::Piece& piece) {
                const Point at = piece.placing().seen_in(pixel);
                if (!box_of(piece.kind->drawn()).contains(at)) return;
                const level::Sheet& sheet = *s.project.sheet(piece.kind->sheet);
                see({piece.kind->flat ? 1 : 2, p.at.y + 1.0, 1, i, p.at.x, p.id},
                    sheet.image->at(piece.kind->box.x + at.x, piece.kind->box.y + at.y));
            });
    }
    return best ? std::optional(best->second) : std::nullopt;
}

} // namespace

TEST_CASE("what stands up is drawn in the order of its feet, over all layers that are so", "[feet]") {
    for (unsigned seed = 1; seed <= 4; ++seed) {
        const Standing s(seed);
        const Image drawn = picture::render(s.project, s.level(), 1);
        int wrong = 0, seen = 0;
        for (int y = 0; y < drawn.height(); ++y)
            for (int x = 0; x < drawn.width(); ++x)
                if (const auto front = front_at(s, {x, y})) {
                    ++seen;
                    wrong += !(drawn.at(x, y) == *front);
                }
        CHECK(seen > 10000);
        CHECK(wrong == 0);
        // A part of it drawn anew is the same.
        picture::Art art;
        picture::Canvas canvas({0, 0, drawn.width(), drawn.height()});
        picture::draw(s.project, s.level(), art, canvas, canvas.box);
        const auto whole = canvas.pixels;
        picture::draw(s.project, s.level(), art, canvas, {50, 40, 61, 57});
        CHECK(canvas.pixels == whole);
    }
}

TEST_CASE("layers that are drawn as they lie are so, by feet or not, seen from the side", "[feet]") {
    Standing s(9);
    level::Level side = s.level();
    side.view = level::View::from_the_side;
    CHECK(level::run_by_feet(side, 0) == 0);
    CHECK(level::run_by_feet(s.level(), 0) == s.level().layers.size());
    level::Level plain = side;
    for (const level::LayerRef& layer : side.layers) plain.edit(layer->id).by_feet = false;
    CHECK(picture::render(s.project, side, 1) == picture::render(s.project, plain, 1));
    // What lies flat is the same in any order.
    level::Level flat = s.level();
    for (const level::LayerRef& layer : s.level().layers)
        if (layer->has_props()) flat.edit(layer->id).props() = level::Props();
    level::Project p = s.project;
    level::Sheet sheet = *p.sheets[0];
    for (level::Tile& t : sheet.tiles) t.rise = 0;
    p.put(sheet);
    level::Level as_layers = flat;
    for (const level::LayerRef& layer : flat.layers) as_layers.edit(layer->id).by_feet = false;
    CHECK(picture::render(p, flat, 1) == picture::render(p, as_layers, 1));
}

TEST_CASE("an actor stands among the rest as a prop of its figure would, but for the start's", "[feet][actors]") {
    Standing s(6);
    level::Level level = s.level();
    level.plane = 2;
    make::Random random(4);
    level::Level placed = level;
    std::uint32_t id = 5000;
    for (int i = 0; i < 12; ++i) {
        level::Mark mark{id++, "actor", level::MarkKind::note, {random.below(23), random.below(17), 1, 1}};
        mark.figure = s.prop;
        level.marks.push_back(mark);
        placed.edit(s.props).props().put({mark.id, s.prop, level::stand_of(level, mark)});
    }
    level::Mark start{id++, "start", level::MarkKind::start, {3, 3, 1, 1}};
    start.figure = s.prop;
    level.marks.push_back(start);
    const level::Level with = picture::with_figures(s.project, level);
    CHECK(with.layers.size() == level.layers.size() + 1);
    CHECK(with.layers[2]->props().size() == 12);
    CHECK(with.plane == 3);
    // All layers are sorted together: it does not matter on which of them they stand, but at one line.
    const Image actors = picture::render(s.project, level, 1), props = picture::render(s.project, placed, 1);
    const Image none = picture::render(s.project, s.level(), 1);
    int different = 0, seen = 0;
    for (int y = 0; y < actors.height(); ++y)
        for (int x = 0; x < actors.width(); ++x) {
            different += !(actors.at(x, y) == props.at(x, y));
            seen += !(actors.at(x, y) == none.at(x, y));
        }
    CHECK(seen > 500);
    CHECK(different < seen / 20);
}

TEST_CASE("the parcel tells what is sorted by feet, and the runtime by which lines", "[feet][parcel]") {
    Standing s(2);
    make::Folder dir;
    parcel::build(s.project, s.level(), dir / "p");
    const vicinum::Level built = vicinum::load(dir / "p");
    CHECK(built.run_by_feet(0) == built.layers.size());
    int rising = 0, lying = 0;
    for (const vicinum::Layer& layer : built.layers) {
        for (int y = 0; y < 18; ++y)
            for (int x = 0; x < 24; ++x) {
                const vicinum::Cell cell = layer.cell(x, y);
                if (cell.empty() || !built.rises(layer, cell)) continue;
                ++rising;
                CHECK(built.foot_line(layer, x, y, cell) == (y + built.tiles[cell.tile()].rise) * 16);
            }
        double last = 0;
        for (const vicinum::Prop& p : layer.props) {
            const bool flat = built.prop_kinds[p.kind].flat;
            lying += flat;
            if (flat) {
                CHECK(built.foot_line(layer, p) < 0); // before all that stands
                continue;
            }
            CHECK(built.foot_line(layer, p) >= last);
            last = built.foot_line(layer, p);
        }
    }
    CHECK(lying > 5);
    CHECK(rising > 20);
}
