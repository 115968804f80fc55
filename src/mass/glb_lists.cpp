#include "mass/glb_lists.hpp"

#include <algorithm>

#include "sheet/png.hpp"

namespace vic::mass {

namespace {

static_assert(std::endian::native == std::endian::little, "the numbers of a .glb are little-endian");

enum Target { kVertices = 34962, kIndices = 34963 };
enum Component { kUint = 5125, kFloat = 5126 };
constexpr int kNearest = 9728;

} // namespace

int GlbLists::view(const void* data, std::size_t size, int target) {
    while (bytes_.size() % 4 != 0) bytes_.push_back('\0');
    Json j{{"buffer", 0}, {"byteOffset", bytes_.size()}, {"byteLength", size}};
    if (target != 0) j["target"] = target;
    bytes_.append(static_cast<const char*>(data), size);
    return add(views_, std::move(j));
}

template <std::size_t N>
int GlbLists::accessor(const std::vector<std::array<float, N>>& all, bool bounds) {
    Json j{{"bufferView", view(all.data(), all.size() * sizeof(all[0]), kVertices)},
           {"componentType", kFloat},
           {"count", all.size()},
           {"type", N == 2 ? "VEC2" : "VEC3"}};
    if (bounds) {
        std::array<float, N> least = all[0], most = all[0];
        for (const auto& v : all)
            for (std::size_t i = 0; i < N; ++i) {
                least[i] = std::min(least[i], v[i]);
                most[i] = std::max(most[i], v[i]);
            }
        j["min"] = least;
        j["max"] = most;
    }
    return add(accessors_, std::move(j));
}

int GlbLists::vectors(const std::vector<std::array<float, 2>>& all) { return accessor(all, false); }
int GlbLists::vectors(const std::vector<std::array<float, 3>>& all, bool bounds) { return accessor(all, bounds); }

int GlbLists::indices(const std::vector<std::uint32_t>& all) {
    return add(accessors_, {{"bufferView", view(all.data(), all.size() * sizeof(all[0]), kIndices)},
                            {"componentType", kUint},
                            {"count", all.size()},
                            {"type", "SCALAR"}});
}

int GlbLists::texture(const Image& picture, int wrap) {
    int& sampler = sampler_numbers_.try_emplace(wrap, -1).first->second;
    if (sampler < 0)
        sampler = add(samplers_, {{"magFilter", kNearest}, {"minFilter", kNearest}, {"wrapS", wrap}, {"wrapT", wrap}});
    const std::string png = sheet::encode_png(picture);
    const int image = add(images_, {{"bufferView", view(png.data(), png.size())}, {"mimeType", "image/png"}});
    return add(textures_, {{"sampler", sampler}, {"source", image}});
}

int GlbLists::padded_texture(const Image& picture, std::array<float, 2>& part) {
    const auto up = [](int v) { return static_cast<int>(std::bit_ceil(static_cast<unsigned>(std::max(1, v)))); };
    Image out({up(picture.size().w), up(picture.size().h)});
    for (int y = 0; y < picture.size().h; ++y)
        for (int x = 0; x < picture.size().w; ++x) out.set(x, y, picture.at(x, y));
    part = {static_cast<float>(picture.size().w) / static_cast<float>(out.size().w),
            static_cast<float>(picture.size().h) / static_cast<float>(out.size().h)};
    return texture(out, kClamp);
}

std::string GlbLists::packed(Json head) const {
    const std::pair<const char*, const Json*> lists[] = {
        {"nodes", &nodes_},       {"meshes", &meshes_},      {"accessors", &accessors_},
        {"bufferViews", &views_}, {"materials", &finishes_}, {"textures", &textures_},
        {"images", &images_},     {"samplers", &samplers_},  {"cameras", &cameras_}};
    for (const auto& [name, list] : lists)
        if (!list->empty()) head[name] = *list;
    head["buffers"] = Json::array({{{"byteLength", bytes_.size()}}});
    std::string words = head.dump(-1, ' ', false, Json::error_handler_t::replace);
    while (words.size() % 4 != 0) words.push_back(' ');
    std::string numbers = bytes_;
    while (numbers.size() % 4 != 0) numbers.push_back('\0');
    std::string out = "glTF";
    const auto number = [&](std::size_t v) {
        const auto n = static_cast<std::uint32_t>(v);
        out.append(reinterpret_cast<const char*>(&n), sizeof n);
    };
    number(2);
    number(12 + 8 + words.size() + 8 + numbers.size());
    number(words.size());
    out += "JSON" + words;
    number(numbers.size());
    out.append("BIN\0", 4);
    return out + numbers;
}

} // namespace vic::mass
