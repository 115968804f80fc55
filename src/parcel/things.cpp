#include "parcel/things.hpp"

#include <algorithm>

#include "level/standing.hpp"
#include "sheet/pieces.hpp"
#include "sheet/png.hpp"
#include "store/format.hpp"
#include "store/format_props.hpp"

namespace vic::parcel {

using namespace level;
using store::to_json;

Json notes_json(const Project& project, const level::Notes& notes) {
    Json out = Json::object();
    for (const auto& [id, value] : notes)
        if (const NoteKind* kind = project.note_kind(id)) out[kind->name] = to_json(value);
    return out;
}

Json tiles_json(const Project& project, const Used& used, const Atlas& atlas) {
    Json tiles = Json::array();
    for (std::size_t i = 0; i < used.tiles.size(); ++i) {
        const Tile& t = *used.tiles[i].tile;
        tiles.push_back({{"id", t.id},
                         {"box", to_json(atlas.places[i])},
                         {"name", t.name},
                         {"shape", store::shape_words().at(static_cast<std::size_t>(t.shape))}});
        if (t.shape == level::TileShape::drawn) tiles.back()["polygons"] = to_json(t.polygons);
        for (const TileFrame& f : t.frames)
            if (f.tile < used.index.size() && used.index[f.tile]) tiles.back()["frames"].push_back({f.tile, f.ms});
        if (t.is_block())
            tiles.back()["block"] = {{"cells", to_json(t.block.cells)},
                                     {"pivot", to_json(t.block.pivot)},
                                     {"offset", to_json(t.block.offset)},
                                     {"stands", t.block.stands}};
        if (t.rise != 0) tiles.back()["rise"] = t.rise;
        if (!t.tags.empty()) tiles.back()["tags"] = t.tags;
        if (const Json notes = notes_json(project, t.notes); !notes.empty()) tiles.back()["notes"] = notes;
    }
    return tiles;
}

namespace {

// A prop's picture as large as it is in the level.
Image art_of(const Project& project, const PropKind& kind) {
    const Sheet& sheet = *project.sheet(kind.sheet);
    return resampled(cropped(*sheet.image, kind.box), kind.drawn(), sheet.smooth);
}

// Its frames beside each other; one in pieces shows the first alone.
int frames_of(const Project& project, const PropKind& kind) {
    return kind.piece ? 1 : kind.frames_in(project.sheet(kind.sheet)->image->size());
}

} // namespace

Image strip_of(const Project& project, const PropKind& kind) {
    const int frames = frames_of(project, kind);
    const Sheet& sheet = *project.sheet(kind.sheet);
    Image out({kind.drawn().w * frames, kind.drawn().h});
    for (int i = 0; i < frames; ++i) {
        const Image one =
            resampled(cropped(*sheet.image, kind.box.moved({i * kind.box.w, 0})), kind.drawn(), sheet.smooth);
        for (int y = 0; y < one.height(); ++y)
            for (int x = 0; x < one.width(); ++x) out.set(i * one.width() + x, y, one.at(x, y));
    }
    return out;
}

namespace {

// What only some kinds have.
void put_finer(Json& j, const Project& project, const PropKind& k) {
    static const char* const sides[] = {"north", "east", "south", "west"};
    if (k.blocks && level::is_one_way(k.shape)) j["one_way"] = sides[level::one_way_side(k.shape)];
    if (k.blocks && k.shape != level::TileShape::full)
        for (const level::Spots& spots : level::blocking_shape(k)) {
            Json corners = Json::array();
            for (const level::Spot& s : spots) corners.push_back({s.x, s.y});
            j["shape"].push_back(std::move(corners));
        }
    if (k.flat) j["flat"] = true;
    if (const Sheet* sheet = k.body == 0 ? nullptr : project.sheet(k.sheet); sheet && sheet->kit)
        for (const level::KitPiece& piece : sheet->kit->pieces)
            if (piece.tile == k.body) j["body"] = piece.name;
    if (k.stands != level::Stands::facing) j["stands"] = store::stands_words().at(static_cast<std::size_t>(k.stands));
    if (k.height > 0) j["height"] = k.height * k.factor;
    for (const level::PropArea& area : k.areas) {
        const Box box{area.box.x * k.factor, area.box.y * k.factor, area.box.w * k.factor, area.box.h * k.factor};
        j["areas"].push_back({{"name", area.name}, {"box", to_json(box)}});
    }
    if (!k.tags.empty()) j["tags"] = k.tags;
    if (const Json notes = notes_json(project, k.notes); !notes.empty()) j["notes"] = notes;
    if (const Sheet* sheet = project.sheet(k.sheet); sheet && sheet->smooth) j["smooth"] = true;
}

} // namespace

Json kinds_json(const Project& project, const Used& used, const Atlas& atlas, std::map<std::string, std::string>& out) {
    Json kinds = Json::array();
    for (std::size_t i = 0; i < used.kinds.size(); ++i) {
        const PropKind& k = *used.kinds[i];
        Box box = k.piece ? box_of(k.drawn()) : atlas.places[used.tiles.size() + i];
        box.w = k.drawn().w; // of the first frame
        kinds.push_back({{"id", k.id},
                         {"name", k.name},
                         {"box", to_json(box)},
                         {"pivot", to_json(k.drawn_pivot())},
                         {"foot", to_json(k.drawn_foot())},
                         {"blocks", k.blocks && k.shape != level::TileShape::opens}});
        put_finer(kinds.back(), project, k);
        if (const int frames = frames_of(project, k); frames > 1) kinds.back()["frames"] = {frames, k.frame_ms};
        if (!k.piece) continue;
        const Image art = art_of(project, k);
        kinds.back()["pieces"] = Json::array();
        for (const Box& piece : sheet::pieces_of(art, k.piece).boxes) {
            const std::string name = "piece-" + std::to_string(k.id) + "-" + std::to_string(piece.x / piece.w) + "-" +
                                     std::to_string(piece.y / piece.h) + ".png";
            out[name] = sheet::encode_png(cropped(art, piece));
            kinds.back()["pieces"].push_back({{"file", name}, {"at", to_json(piece.corner())}});
        }
    }
    return kinds;
}

Json props_json(const Project& project, const Layer& layer, const Used& used) {
    struct Shown {
        const Prop* prop;
        level::Piece piece;
    };
    std::vector<Shown> shown;
    const level::PropKinds props(project);
    for (const Prop& p : layer.props())
        props.each_piece(p, [&](const level::Piece& piece) { shown.push_back({&p, piece}); });
    std::sort(shown.begin(), shown.end(),
              [](const Shown& a, const Shown& b) { return level::before(a.piece, b.piece); });
    std::map<PropKindId, std::size_t> index;
    for (std::size_t i = 0; i < used.kinds.size(); ++i) index[used.kinds[i]->id] = i;
    Json out = Json::array();
    for (const auto& [prop, piece] : shown) {
        const auto kind = index.find(piece.kind->id);
        if (kind == index.end()) continue;
        Json j{{"id", prop->id}, {"kind", kind->second}, {"at", to_json(piece.at)}, {"mirrored", piece.look.mirrored}};
        if (piece.look.turn != 0) j["turn"] = piece.look.turn / 10.0;
        if (piece.look.scale != 100) j["scale"] = piece.look.scale / 100.0;
        if (piece.look.ahead != 0) j["ahead"] = piece.look.ahead;
        if (piece.wash.times != level::Wash{}.times) j["times"] = to_json(piece.wash.times);
        if (piece.wash.plus != level::Wash{}.plus) {
            Rgba plus = piece.wash.plus;
            plus.a = 255;
            j["plus"] = to_json(plus);
        }
        const level::PropOwn& own = prop->of_its_own();
        std::string name = own.name;
        level::Notes notes = own.notes;
        if (piece.from) { // the part's own words, and what this copy says instead
            j["ensemble"] = props.find(prop->kind)->name;
            if (!piece.from->name.empty()) name = piece.from->name;
            const auto change = own.changes.find(piece.part.front());
            const bool other = piece.part.size() == 1 && change != own.changes.end() && change->second.notes;
            for (const auto& [id, value] : other ? *change->second.notes : piece.from->notes) notes[id] = value;
        }
        if (!name.empty()) j["name"] = name;
        if (own.up != 0) j["up"] = own.up;
        if (own.lean != Point{}) j["lean"] = to_json(own.lean);
        if (own.stands) j["stands"] = store::stands_words().at(static_cast<std::size_t>(*own.stands));
        if (prop->group != 0) j["group"] = prop->group;
        if (const Json said = notes_json(project, notes); !said.empty()) j["notes"] = said;
        out.push_back(std::move(j));
    }
    return out;
}

} // namespace vic::parcel
