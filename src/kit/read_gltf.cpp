#include "kit/read_gltf.hpp"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <map>
#include <nlohmann/json.hpp>
#include <optional>
#include <set>
#include <utility>

#include "base/error.hpp"
#include "kit/picture.hpp"
#include "sheet/png.hpp"

namespace vic::kit {

namespace {

using Json = nlohmann::json;

constexpr std::size_t kMostDepth = 128; // of the JSON, and of nodes below nodes

std::uint32_t word_at(std::string_view bytes, std::size_t at) {
    std::uint32_t out = 0;
    for (std::size_t i = 0; i < 4; ++i) out |= std::uint32_t{static_cast<unsigned char>(bytes[at + i])} << (8 * i);
    return out;
}

std::optional<std::string> from_base64(std::string_view text) {
    static constexpr std::string_view digits = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/";
    while (!text.empty() && text.back() == '=') text.remove_suffix(1);
    std::string out;
    out.reserve(text.size() * 3 / 4);
    std::uint32_t bits = 0;
    int have = 0;
    for (const char c : text) {
        const std::size_t digit = digits.find(c);
        if (digit == std::string_view::npos) return std::nullopt;
        bits = (bits << 6) | static_cast<std::uint32_t>(digit);
        have += 6;
        if (have >= 8) {
            have -= 8;
            out += static_cast<char>(bits >> have & 0xFFU);
        }
    }
    return out;
}

// %20 and the like, as addresses have them.
std::string without_escapes(const std::string& uri) {
    const auto value = [](char c) {
        return c >= '0' && c <= '9'   ? c - '0'
               : c >= 'a' && c <= 'f' ? c - 'a' + 10
               : c >= 'A' && c <= 'F' ? c - 'A' + 10
                                      : -1;
    };
    std::string out;
    for (std::size_t i = 0; i < uri.size(); ++i) {
        if (uri[i] == '%' && i + 2 < uri.size() && value(uri[i + 1]) >= 0 && value(uri[i + 2]) >= 0) {
            out += static_cast<char>(value(uri[i + 1]) * 16 + value(uri[i + 2]));
            i += 2;
        } else {
            out += uri[i];
        }
    }
    return out;
}

// A turn, scale and shift, by columns.
struct Placing {
    Vec x{1, 0, 0}, y{0, 1, 0}, z{0, 0, 1}, at{};
    [[nodiscard]] Vec turned(Vec v) const { return x * v.x + y * v.y + z * v.z; }
    [[nodiscard]] Vec operator()(Vec v) const { return turned(v) + at; }
    [[nodiscard]] Placing operator*(const Placing& o) const {
        return {turned(o.x), turned(o.y), turned(o.z), (*this)(o.at)};
    }
    [[nodiscard]] bool mirrors() const { return dot(cross(x, y), z) < 0; }
};

class GltfReader {
  public:
    GltfReader(std::string_view bytes, fs::path folder, std::string file)
        : folder_(std::move(folder)), file_(std::move(file)) {
        std::string_view text = bytes;
        if (bytes.substr(0, 4) == "glTF") text = chunks(bytes);
        std::size_t deepest = 0;
        try {
            root_ = Json::parse(text.begin(), text.end(), [&](int depth, Json::parse_event_t, Json&) {
                deepest = std::max(deepest, static_cast<std::size_t>(depth));
                if (deepest > kMostDepth) refuse("Its JSON is nested too deep", "");
                return true;
            });
        } catch (const Json::exception&) {
            refuse("The file is no glTF 2.0, or is damaged", "");
        }
    }

    KitFile read() {
        const Json& asset = member(root_, "asset", "asset");
        const std::string version = asset.value("version", std::string());
        if (version.substr(0, 2) != "2.") refuse(say("The file is glTF \"%1\", not 2.0", version), "asset");
        static const std::set<std::string> known{"KHR_mesh_quantization", "KHR_materials_unlit",
                                                 "KHR_texture_transform", "KHR_materials_specular",
                                                 "KHR_materials_ior",     "KHR_materials_emissive_strength",
                                                 "KHR_lights_punctual"};
        for (const Json& name : list(root_, "extensionsRequired"))
            if (!name.is_string() || !known.contains(name.get<std::string>()))
                refuse(say("The file needs \"%1\", which is not known here",
                           name.is_string() ? name.get<std::string>() : std::string("?")),
                       "extensionsRequired");
        read_finishes();
        read_bodies();
        return std::move(out_);
    }

  private:
    [[noreturn]] void refuse(const Text& what, const std::string& where) const {
        throw InputError(what, file_, Text::verbatim(where),
                         "Export it again as glTF 2.0 (.glb), without compression, or drop another file");
    }

    // The JSON of a .glb; keeps its binary chunk.
    std::string_view chunks(std::string_view bytes) {
        if (bytes.size() < 20) refuse("The file is cut off", "header");
        if (word_at(bytes, 4) != 2)
            refuse(say("The file is version %1 of glTF's binary form, not 2", word_at(bytes, 4)), "header");
        if (word_at(bytes, 8) > bytes.size()) refuse("The file is cut off", "header");
        bytes = bytes.substr(0, word_at(bytes, 8));
        std::string_view json;
        for (std::size_t at = 12; at + 8 <= bytes.size();) {
            const std::uint32_t size = word_at(bytes, at), type = word_at(bytes, at + 4);
            if (size > bytes.size() - at - 8) refuse("The file is cut off", "chunk");
            const std::string_view inside = bytes.substr(at + 8, size);
            if (type == 0x4E4F534AU && json.empty()) json = inside;
            if (type == 0x004E4942U && !binary_) binary_ = inside;
            at += 8 + size + (4 - size % 4) % 4;
        }
        if (json.empty()) refuse("The file has no JSON", "chunk");
        return json;
    }

    const Json& member(const Json& of, const char* name, const std::string& where) const {
        if (!of.is_object() || !of.contains(name)) refuse(say("\"%1\" is missing", name), where);
        return of.at(name);
    }
    // A list that may be missing.
    const Json& list(const Json& of, const char* name) const {
        static const Json none = Json::array();
        if (!of.is_object() || !of.contains(name)) return none;
        const Json& out = of.at(name);
        if (!out.is_array()) refuse(say("\"%1\" is no list", name), name);
        return out;
    }
    std::size_t whole(const Json& of, const char* name, const std::string& where, std::size_t otherwise) const {
        if (!of.contains(name)) return otherwise;
        const Json& v = of.at(name);
        if (!v.is_number_integer() || v < 0 || v > std::uint64_t{1} << 40)
            refuse(say("\"%1\" is no count", name), where);
        return v.get<std::size_t>();
    }
    double number(const Json& v, const std::string& where) const {
        if (!v.is_number() || !std::isfinite(v.get<double>())) refuse("There is something else than a number", where);
        return v.get<double>();
    }
    // The thing of a list that an index names.
    const Json& at(const char* of, std::size_t index) const {
        const Json& all = list(root_, of);
        if (index >= all.size()) refuse(say("There is no %1 %2", of, index), of);
        if (!all[index].is_object()) refuse("It is no object", named(of, index));
        return all[index];
    }
    static std::string named(const char* of, std::size_t index) {
        return std::string(of) + "[" + std::to_string(index) + "]";
    }

    std::string_view buffer(std::size_t index) {
        const auto known = buffers_.find(index);
        if (known != buffers_.end()) return known->second;
        const Json& b = at("buffers", index);
        const std::string where = named("buffers", index);
        if (!b.contains("uri")) {
            if (index != 0 || !binary_) refuse("The buffer has no bytes", where);
            return *binary_;
        }
        if (!b.at("uri").is_string()) refuse("The address is no text", where);
        return buffers_.emplace(index, bytes_of(b.at("uri").get<std::string>(), where)).first->second;
    }
    std::string bytes_of(const std::string& uri, const std::string& where) {
        if (uri.compare(0, 5, "data:") == 0) {
            const std::size_t comma = uri.find(";base64,");
            std::optional<std::string> out;
            if (comma != std::string::npos) out = from_base64(std::string_view(uri).substr(comma + 8));
            if (!out) refuse("The bytes are not written in base64", where);
            return *out;
        }
        const fs::path path = inside(folder_, without_escapes(uri), file_, Text::verbatim(where));
        std::string out = read_file(path, kMostKitBytes);
        out_.files.push_back(path);
        return out;
    }
    std::string_view view(std::size_t index, std::size_t* stride = nullptr) {
        const Json& v = at("bufferViews", index);
        const std::string where = named("bufferViews", index);
        const std::string_view all = buffer(whole(v, "buffer", where, SIZE_MAX));
        const std::size_t from = whole(v, "byteOffset", where, 0), size = whole(v, "byteLength", where, SIZE_MAX);
        if (from > all.size() || size > all.size() - from) refuse("It reaches beyond its buffer", where);
        if (stride) *stride = whole(v, "byteStride", where, 0);
        return all.substr(from, size);
    }

    // The numbers of an accessor, `parts` to an element.
    std::vector<double> numbers(std::size_t index, std::size_t parts) {
        const Json& a = at("accessors", index);
        const std::string where = named("accessors", index);
        static const std::map<std::string, std::size_t> kinds{{"SCALAR", 1}, {"VEC2", 2}, {"VEC3", 3}, {"VEC4", 4}};
        const auto kind = kinds.find(a.value("type", std::string()));
        if (kind == kinds.end() || kind->second != parts) refuse("It holds something else than is asked of it", where);
        const std::size_t count = whole(a, "count", where, 0), type = whole(a, "componentType", where, 0);
        if (count > 3 * kMostTriangles) refuse(say("%1 elements are more than are read", count), where);
        const bool scaled = a.value("normalized", false);
        std::vector<double> out(count * parts, 0);
        if (a.contains("bufferView")) {
            std::size_t stride = 0;
            const std::string_view bytes = view(whole(a, "bufferView", where, SIZE_MAX), &stride);
            read_into(out, parts, bytes, whole(a, "byteOffset", where, 0), stride, type, scaled, where);
        }
        if (a.contains("sparse")) read_sparse(a.at("sparse"), out, parts, type, scaled, where + ".sparse");
        return out;
    }
    void read_sparse(const Json& sparse, std::vector<double>& out, std::size_t parts, std::size_t type, bool scaled,
                     const std::string& where) {
        const std::size_t count = whole(sparse, "count", where, 0);
        const Json &which = member(sparse, "indices", where), &values = member(sparse, "values", where);
        if (count > out.size() / parts) refuse("More is replaced than there is", where);
        std::vector<double> indices(count), replaced(count * parts);
        read_into(indices, 1, view(whole(which, "bufferView", where, SIZE_MAX)), whole(which, "byteOffset", where, 0),
                  0, whole(which, "componentType", where, 0), false, where);
        read_into(replaced, parts, view(whole(values, "bufferView", where, SIZE_MAX)),
                  whole(values, "byteOffset", where, 0), 0, type, scaled, where);
        const std::size_t elements = out.size() / parts;
        for (std::size_t i = 0; i < count; ++i) {
            if (indices[i] < 0 || indices[i] >= static_cast<double>(elements))
                refuse("It replaces what is not there", where);
            for (std::size_t k = 0; k < parts; ++k)
                out[static_cast<std::size_t>(indices[i]) * parts + k] = replaced[i * parts + k];
        }
    }
    void read_into(std::vector<double>& out, std::size_t parts, std::string_view bytes, std::size_t from,
                   std::size_t stride, std::size_t type, bool scaled, const std::string& where) const {
        static const std::map<std::size_t, std::size_t> sizes{{5120, 1}, {5121, 1}, {5122, 2},
                                                              {5123, 2}, {5125, 4}, {5126, 4}};
        const auto size = sizes.find(type);
        if (size == sizes.end()) refuse(say("Numbers of type %1 are not known", type), where);
        const std::size_t each = size->second * parts, count = out.size() / parts;
        if (stride == 0) stride = each;
        if (stride > 4096 || stride < each) refuse("Its elements lie in one another", where);
        if (count == 0) return;
        if (from > bytes.size() || (count - 1) * stride + each > bytes.size() - from)
            refuse("It reaches beyond its bytes", where);
        for (std::size_t i = 0; i < count; ++i)
            for (std::size_t k = 0; k < parts; ++k) {
                const double v = one(bytes.data() + from + i * stride + k * size->second, type, scaled);
                if (!std::isfinite(v)) refuse("There is something else than a number", where);
                out[i * parts + k] = v;
            }
    }
    static double one(const char* at, std::size_t type, bool scaled) {
        const auto take = [&](auto kind) {
            std::memcpy(&kind, at, sizeof kind);
            return static_cast<double>(kind);
        };
        switch (type) {
            case 5120:
                return scaled ? std::max(-1.0, take(std::int8_t{}) / 127) : take(std::int8_t{});
            case 5121:
                return take(std::uint8_t{}) / (scaled ? 255 : 1);
            case 5122:
                return scaled ? std::max(-1.0, take(std::int16_t{}) / 32767) : take(std::int16_t{});
            case 5123:
                return take(std::uint16_t{}) / (scaled ? 65535 : 1);
            case 5125:
                return take(std::uint32_t{});
            default:
                return take(float{});
        }
    }

    void read_finishes() {
        for (std::size_t i = 0; i < list(root_, "images").size(); ++i) out_.pictures.push_back(picture(i));
        const std::size_t count = list(root_, "materials").size();
        if (count > 4096) refuse("There are more materials than are read", "materials");
        for (std::size_t i = 0; i < count; ++i) {
            const Json& m = at("materials", i);
            const std::string where = named("materials", i);
            Finish finish;
            finish.name = m.value("name", std::string());
            finish.both_sides = m.value("doubleSided", false);
            const std::string mode = m.value("alphaMode", std::string("OPAQUE"));
            finish.cut_out = mode != "OPAQUE";
            if (m.contains("pbrMetallicRoughness")) {
                const Json& pbr = m.at("pbrMetallicRoughness");
                const Json& colour = list(pbr, "baseColorFactor");
                if (colour.size() == 4) {
                    const auto part = [&](std::size_t k) {
                        // Colours of factors are linear; those of pictures are not.
                        const double v = std::clamp(number(colour[k], where), 0.0, 1.0);
                        const double shown = k == 3           ? v
                                             : v <= 0.0031308 ? v * 12.92
                                                              : 1.055 * std::pow(v, 1 / 2.4) - 0.055;
                        return static_cast<std::uint8_t>(std::lround(shown * 255));
                    };
                    finish.colour = {part(0), part(1), part(2), part(3)};
                }
                if (pbr.is_object() && pbr.contains("baseColorTexture"))
                    finish.picture = picture_of(pbr.at("baseColorTexture"), where);
            }
            out_.finishes.push_back(std::move(finish));
        }
    }
    int picture_of(const Json& texture, const std::string& where) const {
        const Json& t = at("textures", whole(texture, "index", where, SIZE_MAX));
        if (!t.contains("source")) return -1;
        const std::size_t source = whole(t, "source", where, 0);
        if (source >= out_.pictures.size()) refuse(say("There is no image %1", source), where);
        return static_cast<int>(source);
    }
    Image picture(std::size_t index) {
        const Json& image = at("images", index);
        const std::string where = named("images", index);
        std::string name = image.value("name", where);
        if (pixels_ >= sheet::kMostPixels) {
            out_.doubts.push_back(say("The picture \"%1\" is not shown: there are more than are read", name));
            return {};
        }
        try {
            Image out = decoded(image, where, name);
            pixels_ += out.size().area();
            return out;
        } catch (const InputError& e) {
            out_.doubts.push_back(say("The picture \"%1\" is not shown: %2", name, e.problem));
            return {};
        }
    }
    Image decoded(const Json& image, const std::string& where, std::string& name) {
        if (image.contains("bufferView")) return decode_picture(view(whole(image, "bufferView", where, 0)), file_);
        if (!image.contains("uri") || !image.at("uri").is_string()) refuse("The picture has no bytes", where);
        const std::string uri = image.at("uri").get<std::string>();
        if (uri.compare(0, 5, "data:") != 0) name = uri;
        return decode_picture(bytes_of(uri, where), name);
    }

    Placing placing_of(const Json& node, const std::string& where) const {
        Placing out;
        const Json& m = list(node, "matrix");
        if (!m.empty()) {
            if (m.size() != 16) refuse("The matrix has not sixteen numbers", where);
            const auto column = [&](std::size_t c) {
                return Vec{number(m[4 * c], where), number(m[4 * c + 1], where), number(m[4 * c + 2], where)};
            };
            return {column(0), column(1), column(2), column(3)};
        }
        const auto vec = [&](const char* name, Vec otherwise) {
            const Json& v = list(node, name);
            if (v.empty()) return otherwise;
            if (v.size() < 3) refuse(say("\"%1\" has not three numbers", name), where);
            return Vec{number(v[0], where), number(v[1], where), number(v[2], where)};
        };
        const Vec scale = vec("scale", {1, 1, 1});
        const Json& r = list(node, "rotation");
        if (!r.empty()) {
            if (r.size() != 4) refuse("The rotation has not four numbers", where);
            double x = number(r[0], where), y = number(r[1], where), z = number(r[2], where), w = number(r[3], where);
            const double length = std::sqrt(x * x + y * y + z * z + w * w);
            if (length < 1e-9) refuse("The rotation is none", where);
            x /= length, y /= length, z /= length, w /= length;
            out.x = {1 - 2 * (y * y + z * z), 2 * (x * y + z * w), 2 * (x * z - y * w)};
            out.y = {2 * (x * y - z * w), 1 - 2 * (x * x + z * z), 2 * (y * z + x * w)};
            out.z = {2 * (x * z + y * w), 2 * (y * z - x * w), 1 - 2 * (x * x + y * y)};
        }
        out.x = out.x * scale.x;
        out.y = out.y * scale.y;
        out.z = out.z * scale.z;
        out.at = vec("translation", {});
        return out;
    }

    std::vector<std::size_t> indices(const Json& of, const char* name, const std::string& where) const {
        std::vector<std::size_t> out;
        for (const Json& v : list(of, name)) {
            if (!v.is_number_integer() || v < 0 || v >= list(root_, "nodes").size())
                refuse("There is no such node", where);
            out.push_back(v.get<std::size_t>());
        }
        return out;
    }

    void read_bodies() {
        const Json& nodes = list(root_, "nodes");
        if (nodes.size() > kMostNodes) refuse(say("%1 nodes are more than are read", nodes.size()), "nodes");
        std::vector<std::size_t> roots;
        if (!list(root_, "scenes").empty()) {
            roots = indices(at("scenes", whole(root_, "scene", "scene", 0)), "nodes", "scenes");
        } else { // without a scene all that hang below none
            std::set<std::size_t> below;
            for (std::size_t i = 0; i < nodes.size(); ++i)
                for (const std::size_t k : indices(at("nodes", i), "children", named("nodes", i))) below.insert(k);
            for (std::size_t i = 0; i < nodes.size(); ++i)
                if (!below.contains(i)) roots.push_back(i);
        }
        Placing holder;
        for (std::size_t depth = 0; roots.size() == 1; ++depth) {
            const Json& only = at("nodes", roots.front());
            const auto children = indices(only, "children", named("nodes", roots.front()));
            if (only.contains("mesh") || children.size() < 2) break;
            if (depth > kMostDepth) refuse("Nodes hang together in a ring", "nodes");
            holder = holder * placing_of(only, named("nodes", roots.front()));
            roots = children;
        }
        std::set<std::size_t> seen;
        for (const std::size_t root : roots) {
            const Json& node = at("nodes", root);
            Body body;
            body.name = node.value("name", std::string());
            Placing placing = holder * placing_of(node, named("nodes", root));
            body.at = placing.at;
            placing.at = {};
            add(body, root, placing, 0, seen);
            if (body.mesh.triangles.empty()) continue;
            if (out_.bodies.size() == kMostBodies) refuse("There are more pieces than are read", "nodes");
            if (body.name.empty()) body.name = "Piece " + std::to_string(out_.bodies.size() + 1);
            out_.bodies.push_back(std::move(body));
        }
        if (out_.bodies.empty()) refuse("There is nothing in the file that has a surface", "nodes");
        if (out_.bodies.size() == 1) out_.bodies.front().name = fs::path(file_).stem().string();
    }

    void add(Body& body, std::size_t index, const Placing& placing, std::size_t depth, std::set<std::size_t>& seen) {
        const std::string where = named("nodes", index);
        if (depth > kMostDepth || !seen.insert(index).second) refuse("Nodes hang together in a ring", where);
        const Json& node = at("nodes", index);
        if (node.contains("mesh")) {
            body.nodes.push_back(node.value("name", std::string()));
            const std::size_t mesh = whole(node, "mesh", where, 0);
            const Json& primitives = list(at("meshes", mesh), "primitives");
            for (std::size_t i = 0; i < primitives.size(); ++i)
                add_primitive(body, primitives[i], placing,
                              named("meshes", mesh) + ".primitives[" + std::to_string(i) + "]");
        }
        for (const std::size_t child : indices(node, "children", where))
            add(body, child, placing * placing_of(at("nodes", child), named("nodes", child)), depth + 1, seen);
    }

    void add_primitive(Body& body, const Json& p, const Placing& placing, const std::string& where) {
        const std::size_t mode = whole(p, "mode", where, 4);
        if (mode < 4 || mode > 6) { // points and lines have no surface
            out_.doubts.push_back(say("Points and lines of \"%1\" are left out", body.name));
            return;
        }
        const Json& attributes = member(p, "attributes", where);
        if (!attributes.contains("POSITION")) refuse("It has no points", where);
        const std::vector<double> points = numbers(whole(attributes, "POSITION", where, 0), 3);
        const std::size_t count = points.size() / 3;
        Mesh& mesh = body.mesh;
        const auto first = static_cast<std::uint32_t>(mesh.points.size());
        points_ += count;
        if (points_ > 3 * kMostTriangles) refuse("There are more points than are read", where);
        for (std::size_t i = 0; i < count; ++i) {
            const Vec v = placing({points[3 * i], points[3 * i + 1], points[3 * i + 2]});
            if (!(std::abs(v.x) < kMostMetres && std::abs(v.y) < kMostMetres && std::abs(v.z) < kMostMetres))
                refuse("A point lies too far away", where);
            mesh.points.push_back(v);
        }
        std::vector<double> uv;
        if (attributes.contains("TEXCOORD_0")) uv = numbers(whole(attributes, "TEXCOORD_0", where, 0), 2);
        if (!uv.empty() && uv.size() != 2 * count) refuse("It has not as many places in the picture as points", where);
        mesh.uv.resize(first, {0, 0});
        for (std::size_t i = 0; i < count; ++i)
            mesh.uv.push_back(
                uv.empty() ? std::array<float, 2>{0, 0}
                           : std::array<float, 2>{static_cast<float>(uv[2 * i]), static_cast<float>(uv[2 * i + 1])});
        std::vector<std::uint32_t> order;
        if (p.contains("indices")) {
            for (const double v : numbers(whole(p, "indices", where, 0), 1)) {
                if (v < 0 || v >= static_cast<double>(count)) refuse("A corner of a triangle is no point of it", where);
                order.push_back(static_cast<std::uint32_t>(v));
            }
        } else {
            for (std::uint32_t i = 0; i < count; ++i) order.push_back(i);
        }
        const std::size_t material = whole(p, "material", where, SIZE_MAX);
        if (material != SIZE_MAX && material >= out_.finishes.size())
            refuse(say("There is no material %1", material), where);
        const auto finish = material == SIZE_MAX ? plain() : static_cast<std::uint16_t>(material);
        const auto node = static_cast<std::uint16_t>(body.nodes.size() - 1);
        const auto put = [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
            if (a == b || b == c || a == c) return;
            if (++triangles_ > kMostTriangles) refuse("There are more triangles than are read", where);
            if (placing.mirrors()) std::swap(b, c);
            mesh.triangles.push_back({first + a, first + b, first + c});
            mesh.finish.push_back(finish);
            mesh.node.push_back(node);
        };
        for (std::size_t i = 0; i + 2 < order.size(); i += mode == 4 ? 3 : 1) {
            if (mode == 6)
                put(order[0], order[i + 1], order[i + 2]);
            else if (mode == 5 && i % 2 == 1)
                put(order[i + 1], order[i], order[i + 2]);
            else
                put(order[i], order[i + 1], order[i + 2]);
        }
    }
    // The finish of what has none.
    std::uint16_t plain() {
        const auto found = std::find_if(out_.finishes.begin(), out_.finishes.end(),
                                        [](const Finish& f) { return f.name == "(none)"; });
        if (found != out_.finishes.end()) return static_cast<std::uint16_t>(found - out_.finishes.begin());
        out_.finishes.push_back({"(none)", {200, 200, 200, 255}, -1, false, false});
        return static_cast<std::uint16_t>(out_.finishes.size() - 1);
    }

    fs::path folder_;
    std::string file_;
    Json root_;
    std::optional<std::string_view> binary_;
    std::map<std::size_t, std::string> buffers_;
    std::size_t triangles_ = 0, points_ = 0; // of all bodies
    std::int64_t pixels_ = 0;                // of all pictures
    KitFile out_;
};

} // namespace

KitFile gltf_from(std::string_view bytes, const fs::path& folder, const std::string& file) {
    try {
        return GltfReader(bytes, folder, file).read();
    } catch (const Json::exception&) { // a value of another type than is asked of it
        throw InputError("The file is no glTF 2.0, or is damaged", file, {},
                         "Export it again as glTF 2.0 (.glb), without compression, or drop another file");
    }
}

KitFile read_gltf(const fs::path& file) {
    KitFile out = gltf_from(read_file(file, kMostKitBytes), file.parent_path(), file.string());
    out.files.push_back(file);
    return out;
}

} // namespace vic::kit
