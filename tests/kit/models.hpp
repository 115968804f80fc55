// Files of pieces, made for tests: glTF 2.0 in its binary form.
#pragma once

#include <cstring>
#include <nlohmann/json.hpp>
#include <string>
#include <vector>

#include "kit/body.hpp"

namespace kit_test {

using namespace vic;
using namespace vic::kit;
using Json = nlohmann::json;

// Boxes as nodes of a scene, each with a mesh of its own.
class Model {
  public:
    Json json{{"asset", {{"version", "2.0"}}}, {"scene", 0}, {"scenes", {{{"nodes", Json::array()}}}}};
    std::string bytes; // of the buffer

    // The number of the node.
    std::size_t box(const std::string& name, Vec least, Vec most, Vec at = {}, bool in_scene = true) {
        std::vector<float> points;
        for (int i = 0; i < 8; ++i)
            for (const double v : {i & 1 ? most.x : least.x, i & 2 ? most.y : least.y, i & 4 ? most.z : least.z})
                points.push_back(static_cast<float>(v));
        static const std::vector<std::uint16_t> corners{0, 2, 3, 0, 3, 1, 4, 5, 7, 4, 7, 6, 0, 1, 5, 0, 5, 4,
                                                        2, 6, 7, 2, 7, 3, 0, 4, 6, 0, 6, 2, 1, 3, 7, 1, 7, 5};
        const std::size_t position = accessor(points.data(), points.size() * 4, 5126, "VEC3", 8);
        const std::size_t index = accessor(corners.data(), corners.size() * 2, 5123, "SCALAR", corners.size());
        json["meshes"].push_back({{"primitives", {{{"attributes", {{"POSITION", position}}}, {"indices", index}}}}});
        Json node{{"name", name}, {"mesh", json["meshes"].size() - 1}};
        if (at != Vec{}) node["translation"] = {at.x, at.y, at.z};
        json["nodes"].push_back(node);
        const std::size_t number = json["nodes"].size() - 1;
        if (in_scene) json["scenes"][0]["nodes"].push_back(number);
        return number;
    }
    std::size_t accessor(const void* data, std::size_t size, int type, const char* kind, std::size_t count) {
        while (bytes.size() % 4 != 0) bytes += '\0';
        json["bufferViews"].push_back({{"buffer", 0}, {"byteOffset", bytes.size()}, {"byteLength", size}});
        bytes.append(static_cast<const char*>(data), size);
        json["accessors"].push_back({{"bufferView", json["bufferViews"].size() - 1},
                                     {"componentType", type},
                                     {"count", count},
                                     {"type", kind}});
        return json["accessors"].size() - 1;
    }
    [[nodiscard]] std::string glb() const {
        Json whole = json;
        if (!bytes.empty()) whole["buffers"] = {{{"byteLength", bytes.size()}}};
        std::string text = whole.dump(), data = bytes;
        while (text.size() % 4 != 0) text += ' ';
        while (data.size() % 4 != 0) data += '\0';
        std::string out = "glTF";
        const auto word = [&](std::size_t v) {
            for (int i = 0; i < 4; ++i) out += static_cast<char>(v >> (8 * i) & 0xFF);
        };
        word(2);
        word(12 + 8 + text.size() + (data.empty() ? 0 : 8 + data.size()));
        word(text.size());
        word(0x4E4F534A);
        out += text;
        if (data.empty()) return out;
        word(data.size());
        word(0x004E4942);
        return out + data;
    }
};

} // namespace kit_test
