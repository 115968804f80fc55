// Drawing a level of kit pieces with OpenGL 3.3: each piece once in memory, and once told for all that stand. The
// window and `vicinum-cli render` draw by this.
#pragma once

#include <cstdint>
#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <span>
#include <string>
#include <vector>

#include "base/image.hpp"
#include "render/camera.hpp"
#include "scene/scene.hpp"

namespace vic::render {

// Props of one picture that stand up.
struct Cards {
    Image picture; // empty: the one of before
    struct Stands {
        float foot[3];
        float reach[4];  // left, right, up, down, in cells
        float tint[4];   // that its colours are multiplied with
        float turned;    // 1: mirrored
        float across[2]; // to its right, x and z; 0, 0: it faces the eye
    };
    std::vector<Stands> stand;
};
// Of all that stand up; pictures are made by `picture` for kinds that are not yet in what comes back.
std::map<std::uint64_t, Cards> cards_of(const std::vector<scene::Card>& cards,
                                        const std::function<Image(const level::PropKind&)>& picture);

using Kits = std::vector<std::shared_ptr<const scene::LoadedKit>>;

// A context of OpenGL must be current wherever it is made, used and ended.
class Renderer {
  public:
    Renderer();
    ~Renderer();
    Renderer(const Renderer&) = delete;
    Renderer& operator=(const Renderer&) = delete;
    // What is wrong where it cannot draw, in English; empty where all is well.
    std::string initialize();
    void set_kits(const Kits& kits);
    void set_pieces(const std::vector<scene::Placed>& placed, const scene::Storeys& storeys);
    void set_cards(const std::map<std::uint64_t, Cards>& cards); // by any number that tells pictures apart
    void set_ground(const Image& picture, Size cells);           // what lies flat on the lowest storey, over so many
    // What blocks, hatched over the pieces: corners of triangles and ends of lines, in cells. Empty: nothing.
    void set_mass(const std::vector<float>& faces, const std::vector<float>& lines);
    // Floors that are wet, as triangles in cells, and those of them from which nothing leads back.
    void set_wet(const std::vector<float>& reached, const std::vector<float>& no_way_back);
    void set_wash(const Vec4& reached, const Vec4& no_way_back);
    void set_hatch(const Vec3& colour);
    // Which way the eye is from what it looks at; the height does not count.
    void set_eye(const Vec3& way);
    // Where the level is cut: seen is what is at most so far, in cells, along the way to the eye; nothing: all is seen.
    void set_section(std::optional<float> along);
    // Calls of OpenGL that draw are counted. `rough`: at half the size and with hard edges, while one moves.
    void draw(const Matrix& view, const level::Light& light, const Vec3& background, Size pixels, bool rough);
    // What was drawn, with boxes: how large that is, its pixels from above as 0xffRRGGBB, and as a picture.
    [[nodiscard]] Size drawn() const;
    void read(std::span<std::uint32_t> into); // as many as there are
    [[nodiscard]] Image picture();
    // A box of lines, in cells; `to` is the corner opposite `from`.
    void draw_box(const Matrix& view, const Vec3& from, const Vec3& to, const Vec3& colour);
    // The same filled, half seen through.
    void draw_body(const Matrix& view, const Vec3& from, const Vec3& to, const Vec3& colour);
    void draw_dots(const Matrix& view, const std::vector<Vec3>& at, const Vec3& colour);
    [[nodiscard]] int calls() const;

  private:
    struct Inside;
    std::unique_ptr<Inside> in_;
};

} // namespace vic::render
