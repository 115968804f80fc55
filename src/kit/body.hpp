// Pieces of a kit as they stand in files: triangles with their finishes.
#pragma once

#include <array>
#include <cstdint>
#include <string>
#include <vector>

#include "base/files.hpp"
#include "base/image.hpp"
#include "base/text.hpp"

namespace vic::kit {

// Metres; x to the right, y up, z towards whoever looks at the front.
struct Vec {
    double x = 0, y = 0, z = 0;
    bool operator==(const Vec&) const = default;
};
inline Vec operator+(Vec a, Vec b) { return {a.x + b.x, a.y + b.y, a.z + b.z}; }
inline Vec operator-(Vec a, Vec b) { return {a.x - b.x, a.y - b.y, a.z - b.z}; }
inline Vec operator*(Vec a, double k) { return {a.x * k, a.y * k, a.z * k}; }
inline double dot(Vec a, Vec b) { return a.x * b.x + a.y * b.y + a.z * b.z; }
inline Vec cross(Vec a, Vec b) { return {a.y * b.z - a.z * b.y, a.z * b.x - a.x * b.z, a.x * b.y - a.y * b.x}; }

// How a surface looks.
struct Finish {
    std::string name;
    Rgba colour{255, 255, 255, 255}; // that its picture is multiplied with
    int picture = -1;                // of the file's; -1: none
    bool both_sides = false;         // seen from behind, too
    bool cut_out = false;            // by its picture's alpha
    bool operator==(const Finish&) const = default;
};

struct Mesh {
    std::vector<Vec> points;                             // all finite
    std::vector<std::array<float, 2>> uv;                // by point, 0, 0 the picture's upper left; or empty
    std::vector<std::array<std::uint32_t, 3>> triangles; // counter-clockwise seen from outside
    std::vector<std::uint16_t> finish;                   // by triangle
    std::vector<std::uint16_t> node;                     // by triangle: which of the body's nodes it belongs to
};

struct Body {
    std::string name;               // its node's; that of the file, where there is one body
    std::string key{};              // tells it apart from others of its name in the kit; empty where there is none
    std::vector<std::string> nodes; // the node itself, and those below it that have triangles
    Mesh mesh;                      // about the node's own origin
    Vec at{};                       // where that is in the file's scene
};

// By which a piece is found again.
inline const std::string& key_of(const Body& body) { return body.key.empty() ? body.name : body.key; }

struct KitFile {
    std::vector<Body> bodies; // in the file's order
    std::vector<Finish> finishes;
    std::vector<Image> pictures; // empty ones could not be read
    std::vector<Text> doubts;    // what was left out, in a sentence each
    std::vector<fs::path> files; // all that was read of it, each once
    bool parts = false;          // some file has several nodes, which may be pieces, or parts of one
    bool whole = false;          // each file is one piece
};

inline constexpr std::size_t kMostBodies = 4096;              // of a file
inline constexpr std::size_t kMostNodes = 65'536;             // likewise
inline constexpr std::size_t kMostTriangles = 4'000'000;      // likewise
inline constexpr std::uintmax_t kMostKitBytes = 512ULL << 20; // a file, or what one refers to
inline constexpr double kMostMetres = 1e6;                    // how far from its origin a point may lie

} // namespace vic::kit
