#include "mass/write_glb.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <set>
#include <tuple>
#include <utility>

#include "level/block.hpp"
#include "level/frame.hpp"
#include "mass/glb_lists.hpp"
#include "mass/plain.hpp"
#include "outline/solid.hpp"
#include "parcel/things.hpp"
#include "picture/compose.hpp"
#include "picture/flat_image.hpp"
#include "scene/metres.hpp"
#include "scene/sun.hpp"
#include "store/format.hpp"

namespace vic::mass {

namespace {

using store::Json;

constexpr const char* kLights = "KHR_lights_punctual";
constexpr int kMostGround = 4096; // pixels a side of the picture of what lies flat
constexpr int kGroundThick = 16;  // 1/64 cells, of the body that the ground is

double linear(std::uint8_t shown) { // colours of factors are linear
    const double v = shown / 255.0;
    return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
}

class Writer : private GlbLists {
  public:
    Writer(const level::Project& project, const level::Level& level,
           const std::vector<std::shared_ptr<const scene::LoadedKit>>& kits)
        : project_(project), level_(level), kits_(kits), metres_(scene::metres_of(kits)), kinds_(project) {}

    std::string write() {
        const std::vector<scene::Placed> placed = scene::placed_in(project_, level_, kits_, level::kMostStorey);
        if (placed.empty() && !stand()) return {};
        Json below = Json::array();
        int highest = 0;
        for (const scene::Placed& p : placed) highest = std::max(highest, p.storey);
        for (int storey = 0; storey <= highest; ++storey)
            if (const int n = pieces_of(placed, storey); n >= 0) below.push_back(n);
        const Mass mass = merged(placed, kits_, scene::Storeys(kits_, level_.storey_heights));
        if (!placed.empty()) below.push_back(blocks(mass));
        below.push_back(flat_blocks(mass));
        if (const int n = marks(); n >= 0) below.push_back(n);
        if (const int n = ground(); n >= 0) below.push_back(n);
        if (const int n = cards(); n >= 0) below.push_back(n);
        below.push_back(sun());
        below.push_back(eye());
        const int root = add(nodes_, {{"name", level_.name}, {"children", below}});
        Json j{{"asset", {{"version", "2.0"}, {"generator", "Vicinum"}}}, {"scene", 0}};
        j["scenes"] = Json::array({{{"name", level_.name}, {"nodes", {root}}}});
        j["extensionsUsed"] = {kLights};
        j["extensions"][kLights]["lights"] = lights_;
        return packed(std::move(j));
    }

  private:
    // A piece's mesh, made when it is first asked for; -1 where it has no triangles.
    int mesh_of(std::size_t kit, std::size_t piece) {
        const auto [found, fresh] = mesh_numbers_.try_emplace({kit, piece}, -1);
        if (!fresh) return found->second;
        const scene::Model model = scene::model_of(*kits_[kit], piece);
        Json primitives = Json::array();
        for (const scene::Model::Part& part : model.parts) {
            const bool pictured = has_picture(kit, part.finish);
            std::map<std::array<float, 8>, std::uint32_t> numbers; // so that corners that are alike are one
            std::vector<std::array<float, 3>> at, normal;
            std::vector<std::array<float, 2>> uv;
            std::vector<std::uint32_t> order;
            for (int i = part.first; i < part.first + part.count; ++i) {
                const scene::Model::Corner& c = model.corners[static_cast<std::size_t>(i)];
                const std::array<float, 3> place{metres(c.at[0]), metres(c.at[1]), metres(c.at[2])};
                const std::array<float, 8> key{place[0],
                                               place[1],
                                               place[2],
                                               c.normal[0],
                                               c.normal[1],
                                               c.normal[2],
                                               pictured ? c.uv[0] : 0.0F,
                                               pictured ? c.uv[1] : 0.0F};
                const auto [number, unknown] = numbers.try_emplace(key, static_cast<std::uint32_t>(at.size()));
                order.push_back(number->second);
                if (!unknown) continue;
                at.push_back(place);
                normal.push_back(c.normal);
                if (pictured) uv.push_back(c.uv);
            }
            Json attributes{{"POSITION", vectors(at, true)}, {"NORMAL", vectors(normal)}};
            if (pictured) attributes["TEXCOORD_0"] = vectors(uv);
            Json primitive{{"attributes", std::move(attributes)}, {"indices", indices(order)}};
            if (part.finish >= 0) primitive["material"] = finish_of(kit, part.finish);
            primitives.push_back(std::move(primitive));
        }
        if (primitives.empty()) return -1;
        found->second = add(meshes_, {{"name", kits_[kit]->file.bodies[piece].name}, {"primitives", primitives}});
        return found->second;
    }
    [[nodiscard]] bool has_picture(std::size_t kit, int finish) const {
        const kit::KitFile& file = kits_[kit]->file;
        if (finish < 0) return false;
        const int picture = file.finishes[static_cast<std::size_t>(finish)].picture;
        return picture >= 0 && static_cast<std::size_t>(picture) < file.pictures.size() &&
               !file.pictures[static_cast<std::size_t>(picture)].size().empty();
    }
    int finish_of(std::size_t kit, int number) {
        const auto [found, fresh] = finish_numbers_.try_emplace({kit, number}, 0);
        if (!fresh) return found->second;
        const kit::Finish& finish = kits_[kit]->file.finishes[static_cast<std::size_t>(number)];
        Json pbr{{"baseColorFactor",
                  {linear(finish.colour.r), linear(finish.colour.g), linear(finish.colour.b),
                   finish.cut_out ? finish.colour.a / 255.0 : 1.0}},
                 {"metallicFactor", 0},
                 {"roughnessFactor", 1}};
        if (has_picture(kit, number)) pbr["baseColorTexture"] = {{"index", texture_of(kit, finish.picture)}};
        Json j{{"name", finish.name}, {"pbrMetallicRoughness", std::move(pbr)}};
        if (finish.name.empty()) j.erase("name");
        if (finish.both_sides) j["doubleSided"] = true;
        if (finish.cut_out) j["alphaMode"] = "MASK";
        return found->second = add(finishes_, std::move(j));
    }
    int texture_of(std::size_t kit, int picture) {
        const auto [found, fresh] = texture_numbers_.try_emplace({kit, picture}, 0);
        if (!fresh) return found->second;
        return found->second = texture(kits_[kit]->file.pictures[static_cast<std::size_t>(picture)], kRepeat);
    }
    // Four corners in turn, counter-clockwise as they are seen, the first below on the left; all of them `normal`.
    int quad(const std::string& name, const std::array<std::array<float, 3>, 4>& at, const std::array<float, 3>& normal,
             const std::array<float, 2>& part, bool mirrored, int finish) {
        const float left = mirrored ? part[0] : 0, right = mirrored ? 0 : part[0];
        const std::vector<std::array<float, 2>> uv{{left, part[1]}, {right, part[1]}, {right, 0}, {left, 0}};
        Json attributes{{"POSITION", vectors(std::vector(at.begin(), at.end()), true)},
                        {"NORMAL", vectors(std::vector(4, normal))},
                        {"TEXCOORD_0", vectors(uv)}};
        return add(meshes_, {{"name", name},
                             {"primitives", Json::array({{{"attributes", std::move(attributes)},
                                                          {"indices", indices({0, 1, 2, 0, 2, 3})},
                                                          {"material", finish}}})}});
    }

    // Whether any prop stands up.
    bool stand() {
        cards_ = scene::cards_in(kinds_, level_, scene::Storeys(kits_, level_.storey_heights), level::kMostStorey);
        return !cards_.empty();
    }
    // What lies flat on the lowest storey; -1 where that is too large for a picture.
    int ground() {
        const level::Level flat = scene::flat_of(project_, level_, kits_);
        const Box all = flat.pixels();
        if (std::max(all.w, all.h) > kMostGround) return -1;
        picture::Art art;
        art.update(project_);
        picture::Canvas canvas(all);
        picture::draw(project_, flat, art, canvas, all);
        const Image image = picture::flat_image(canvas);
        std::array<float, 2> part{};
        const int texture = padded_texture(image, part);
        const int finish = add(
            finishes_, {{"name", "Ground"},
                        {"pbrMetallicRoughness",
                         {{"baseColorTexture", {{"index", texture}}}, {"metallicFactor", 0}, {"roughnessFactor", 1}}}});
        constexpr float kBelow = -0.004F; // a hair lower than floors that lie on it
        const float w = metres(static_cast<float>(level_.size.w)), h = metres(static_cast<float>(level_.size.h)),
                    y = metres(kBelow);
        const int mesh = quad("Ground", {{{0, y, h}, {w, y, h}, {w, y, 0}, {0, y, 0}}}, {0, 1, 0}, part, false, finish);
        return add(nodes_, {{"name", "Ground"}, {"mesh", mesh}});
    }
    // Props that stand up; -1 where there are none.
    int cards() {
        if (!stand()) return -1;
        struct Picture {
            int texture = -1;
            std::array<float, 2> part{};
        };
        std::map<level::PropKindId, Picture> pictures;
        std::map<std::pair<level::PropKindId, std::uint32_t>, int> finishes;
        std::map<std::tuple<int, bool, float, float, float, float>, int> meshes;
        static const char* const ways[] = {"facing", "fixed", "crossed"};
        Json children = Json::array();
        for (const scene::Card& card : cards_) {
            const level::Sheet* const sheet = project_.sheet(card.kind->sheet);
            if (!sheet || !sheet->image) continue;
            const Box box = intersection(card.kind->box, box_of(sheet->image->size()));
            if (box.empty()) continue;
            Picture& picture = pictures[card.kind->id];
            if (picture.texture < 0) picture.texture = padded_texture(cropped(*sheet->image, box), picture.part);
            const Rgba times = card.wash.times;
            int& finish =
                finishes.try_emplace({card.kind->id, times.r << 16 | times.g << 8 | times.b}, -1).first->second;
            if (finish < 0)
                finish =
                    add(finishes_, {{"name", card.kind->name},
                                    {"alphaMode", "MASK"},
                                    {"doubleSided", true},
                                    {"pbrMetallicRoughness",
                                     {{"baseColorFactor", {linear(times.r), linear(times.g), linear(times.b), 1.0}},
                                      {"baseColorTexture", {{"index", picture.texture}}},
                                      {"metallicFactor", 0},
                                      {"roughnessFactor", 1}}}});
            int& mesh = meshes.try_emplace({finish, card.mirrored, card.left, card.right, card.top, card.bottom}, -1)
                            .first->second;
            if (mesh < 0) {
                const float l = metres(-card.left), r = metres(card.right), t = metres(card.top),
                            b = metres(-card.bottom);
                mesh = quad(card.kind->name, {{{l, b, 0}, {r, b, 0}, {r, t, 0}, {l, t, 0}}}, {0, 0, 1}, picture.part,
                            card.mirrored, finish);
            }
            Json node{{"name", card.kind->name},
                      {"mesh", mesh},
                      {"translation", {metres(card.foot[0]), metres(card.foot[1]), metres(card.foot[2])}},
                      {"extras", {{"stands", ways[static_cast<std::size_t>(card.stands)]}}}};
            if (card.turned && *card.turned != 0)
                node["rotation"] = {0.0, std::sin(-*card.turned / 2), 0.0, std::cos(-*card.turned / 2)};
            children.push_back(add(nodes_, std::move(node)));
        }
        return children.empty() ? -1 : add(nodes_, {{"name", "Standing"}, {"children", std::move(children)}});
    }

    // Looking there, from the north (which is -z) `right` radians round and `up`.
    static Json looking(double right, double up) {
        const double cy = std::cos(-right / 2), sy = std::sin(-right / 2), cx = std::cos(up / 2), sx = std::sin(up / 2);
        return {cy * sx, sy * cx, -sy * sx, cy * cx};
    }
    int sun() {
        const auto way = scene::sun_way(level_.light), colour = scene::sun_colour(level_.light);
        const double most = *std::max_element(colour.begin(), colour.end());
        lights_.push_back({{"type", "directional"},
                           {"name", "Sun"},
                           {"color", {colour[0] / most, colour[1] / most, colour[2] / most}},
                           {"intensity", 3.0}});
        return add(nodes_, {{"name", "Sun"},
                            {"rotation", looking(std::atan2(-way[0], way[2]), std::asin(-way[1]))},
                            {"extensions", {{kLights, {{"light", 0}}}}}});
    }
    // As the game looks at it.
    int eye() {
        const level::Sight& sight = level_.sight;
        const Box frame = level::frame_box(level_);
        const double cell_w = level_.cell.w, cell_h = level_.cell.h, radians = std::acos(-1.0) / 180;
        const double wide = frame.w / cell_w * metres_, high = frame.h / cell_h * metres_;
        const double tilt = sight.tilt * radians, turn = sight.turn * radians;
        const double away = sight.lens == 0 ? std::max(wide, high) * 4 : high / 2 / std::tan(sight.lens * radians / 2);
        const double x = (frame.x + frame.w / 2.0) / cell_w * metres_, z = (frame.y + frame.h / 2.0) / cell_h * metres_;
        const double near = away / 50, far = away * 4 + 400 * metres_;
        if (sight.lens == 0)
            cameras_.push_back(
                {{"type", "orthographic"},
                 {"orthographic", {{"xmag", wide / 2}, {"ymag", high / 2}, {"znear", near}, {"zfar", far}}}});
        else
            cameras_.push_back(
                {{"type", "perspective"},
                 {"perspective",
                  {{"aspectRatio", wide / high}, {"yfov", sight.lens * radians}, {"znear", near}, {"zfar", far}}}});
        return add(nodes_, {{"name", "What the game sees"},
                            {"camera", 0},
                            {"translation",
                             {x - std::sin(turn) * std::cos(tilt) * away, std::sin(tilt) * away,
                              z + std::cos(turn) * std::cos(tilt) * away}},
                            {"rotation", looking(turn, -tilt)}});
    }

    // The node of a storey; -1 where nothing stands on it.
    int pieces_of(const std::vector<scene::Placed>& placed, int storey) {
        Json children = Json::array();
        const scene::Storeys storeys(kits_, level_.storey_heights);
        for (const scene::Placed& p : placed) {
            if (p.storey != storey) continue;
            const int mesh = mesh_of(p.kit, p.piece);
            if (mesh < 0) continue;
            const scene::Placing at = scene::placing_of(p, kits_[p.kit]->read.pieces[p.piece].cells, storeys);
            Json node{{"name", kits_[p.kit]->file.bodies[p.piece].name},
                      {"mesh", mesh},
                      {"extras", {{"cell", {p.cells.x, p.cells.y}}}}};
            const Json there{metres(at[0][3]), metres(at[1][3]), metres(at[2][3])};
            if (p.free) { // by columns
                for (std::size_t column = 0; column < 3; ++column)
                    for (std::size_t row = 0; row < 4; ++row)
                        node["matrix"].push_back(row < 3 ? at[row][column] : 0.0F);
                for (const Json& v : there) node["matrix"].push_back(v);
                node["matrix"].push_back(1);
                node["extras"]["prop"] = p.prop;
                children.push_back(add(nodes_, std::move(node)));
                continue;
            }
            node["translation"] = there;
            // To the right, seen from above, is against the way in which glTF turns about y.
            const double half = -p.turn.quarters() * std::acos(-1.0) / 4;
            if (p.turn.quarters() != 0) node["rotation"] = {0.0, std::sin(half), 0.0, std::cos(half)};
            if (p.turn.mirrored()) node["scale"] = {-1, 1, 1};
            children.push_back(add(nodes_, std::move(node)));
        }
        if (children.empty()) return -1;
        return add(nodes_,
                   {{"name", "Storey " + std::to_string(storey + 1)},
                    {"children", std::move(children)},
                    {"extras", {{"storey", storey}, {"height", metres(static_cast<float>(storeys.low(storey)))}}}});
    }

    // A node of those triangles, three corners each.
    int block(const std::string& name, const Shell& shell, std::vector<std::uint32_t> order, Json extras) {
        constexpr std::uint32_t kUnknown = 0xFFFFFFFF;
        std::vector<std::uint32_t> numbers(shell.points.size(), kUnknown); // of the corners that they need
        std::vector<std::array<float, 3>> at;
        for (std::uint32_t& corner : order) {
            std::uint32_t& number = numbers[corner];
            if (number == kUnknown) {
                number = static_cast<std::uint32_t>(at.size());
                const std::array<int, 3>& p = shell.points[corner];
                at.push_back({in_units(p[0]), in_units(p[1]), in_units(p[2])});
            }
            corner = number;
        }
        extras["blocks"] = true;
        const int mesh = add(meshes_, {{"name", name},
                                       {"primitives", Json::array({{{"attributes", {{"POSITION", vectors(at, true)}}},
                                                                    {"indices", indices(order)}}})}});
        return add(nodes_, {{"name", name}, {"mesh", mesh}, {"extras", std::move(extras)}});
    }

    int blocks(const Mass& mass) {
        const Shell shell = shell_of(mass);
        std::map<int, std::vector<std::uint32_t>> by_storey;
        for (const Shell::Triangle& t : shell.triangles)
            by_storey[t.storey].insert(by_storey[t.storey].end(), t.corners.begin(), t.corners.end());
        Json node{{"name", "Blocks"}, {"extras", {{"blocks", true}}}};
        for (auto& [storey, order] : by_storey)
            node["children"].push_back(
                block("Blocks " + std::to_string(storey + 1), shell, std::move(order), {{"storey", storey}}));
        return add(nodes_, std::move(node));
    }

    // What carries, and what blocks, where no piece is.
    int flat_blocks(const Mass& mass) {
        const auto whole = [&](const std::string& name, const Slab& slab, Json extras) {
            const Shell shell = raised(slab);
            std::vector<std::uint32_t> order;
            for (const Shell::Triangle& t : shell.triangles)
                order.insert(order.end(), t.corners.begin(), t.corners.end());
            return block(name, shell, std::move(order), std::move(extras));
        };
        const Plain plain = plain_of(project_, level_, kits_, mass);
        const int w = level_.size.w * outline::kUnit, h = level_.size.h * outline::kUnit;
        Slab ground{-kGroundThick, 0, 0, {}};
        ground.outlines = std::make_shared<const std::vector<outline::Outline>>(
            std::vector<outline::Outline>{{{{0, 0}, {w, 0}, {w, h}, {0, h}}, false}});
        Json children = Json::array({whole("Flat ground", ground, {{"ground", true}})});
        for (const Slab& slab : plain.blocked)
            children.push_back(whole("Flat " + std::to_string(slab.storey + 1), slab, {{"storey", slab.storey}}));
        return add(nodes_, {{"name", "Flat blocks"}, {"children", children}, {"extras", {{"blocks", true}}}});
    }

    int marks() {
        Json children = Json::array();
        const scene::Storeys storeys(kits_, level_.storey_heights);
        for (const level::Mark& m : level_.marks) {
            Json extras{{"mark", store::mark_words().at(static_cast<std::size_t>(m.kind))},
                        {"cells", {m.cells.x, m.cells.y, m.cells.w, m.cells.h}}};
            if (!m.notes.empty()) extras["notes"] = parcel::notes_json(project_, m.notes);
            children.push_back(
                add(nodes_, {{"name", m.name},
                             {"translation",
                              {metres(static_cast<float>(m.cells.x) + static_cast<float>(m.cells.w) / 2),
                               metres(static_cast<float>(storeys.low(m.storey))),
                               metres(static_cast<float>(m.cells.y) + static_cast<float>(m.cells.h) / 2)}},
                             {"extras", std::move(extras)}}));
        }
        return children.empty() ? -1 : add(nodes_, {{"name", "Marks"}, {"children", std::move(children)}});
    }

    [[nodiscard]] float metres(float cells) const { return static_cast<float>(cells * metres_) + 0.0F; }
    [[nodiscard]] float in_units(int units) const { return static_cast<float>(units * metres_ / outline::kUnit); }

    const level::Project& project_;
    const level::Level& level_;
    const std::vector<std::shared_ptr<const scene::LoadedKit>>& kits_;
    double metres_; // a cell
    Json lights_ = Json::array();
    std::map<std::pair<std::size_t, std::size_t>, int> mesh_numbers_;
    std::map<std::pair<std::size_t, int>, int> finish_numbers_, texture_numbers_;
    level::PropKinds kinds_;
    std::vector<scene::Card> cards_;
};

// Whether there is anything in three dimensions, told without the kits' bodies.
bool stands_in(const level::Project& project, const level::Level& level) {
    std::set<level::TileId> pieces;
    bool any = false;
    for (const auto& sheet : project.sheets)
        if (sheet->kit)
            for (const level::KitPiece& p : sheet->kit->pieces) pieces.insert(p.tile);
    if (pieces.empty() || level.view != level::View::from_above || level.lattice != LatticeKind::square) return false;
    const level::PropKinds kinds(project);
    for (const level::LayerRef& layer : level.layers) {
        if (!any && layer->tiles() && layer->grain().finer == 1)
            level::each_cell(layer->grid(), layer->cells(), [&](Point, level::Cell cell, level::MaterialId) {
                any = any || pieces.contains(cell.tile());
            });
        if (!any && layer->shown && layer->has_props())
            for (const level::Prop& prop : layer->props())
                kinds.each_piece(prop, [&](const level::Piece& piece) { any = any || !piece.kind->flat; });
    }
    return any;
}

} // namespace

std::string level_glb(const level::Project& project, const level::Level& level,
                      const std::vector<std::shared_ptr<const scene::LoadedKit>>& kits) {
    return Writer(project, level, kits).write();
}

std::map<std::string, std::string> files_along(const level::Project& project, const level::Level& level,
                                               const fs::path& dir) {
    if (!stands_in(project, level)) return {};
    std::string bytes = level_glb(project, level, scene::load_kits(project, dir));
    if (bytes.empty()) return {};
    return {{"level.glb", std::move(bytes)}};
}

} // namespace vic::mass
