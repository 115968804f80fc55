// What a Renderer draws, from what it was given.
#include <algorithm>
#include <cmath>
#include <cstdint>
#include <glm/glm.hpp>
#include <glm/gtc/matrix_transform.hpp>
#include <glm/gtc/type_ptr.hpp>

#include "render/inside.hpp"
#include "scene/sun.hpp"

namespace vic::render {

namespace {

constexpr int kSamples = 4; // of a pixel, where one does not move
// So many triangles are handed on at a time: where no card draws, the processor's cores fill them while others are
// told.
constexpr int kAtATime = 40'000;

Vec3 floats(const std::array<double, 3>& v) {
    return {static_cast<float>(v[0]), static_cast<float>(v[1]), static_cast<float>(v[2])};
}

Vec4 opaque(const Vec3& c) { return {c[0], c[1], c[2], 1}; }

// The eye is what all lines of sight go through; with 0, the way to one that is far away.
Vec4 eye_of(const Matrix& view) {
    const glm::vec4 eye = glm::inverse(glm::make_mat4(view.data())) * glm::vec4(0, 0, 1, 0);
    const float length = glm::length(glm::vec3(eye));
    if (std::abs(eye.w) > 1e-6F * length) return {eye.x / eye.w, eye.y / eye.w, eye.z / eye.w, 1};
    return {-eye.x, -eye.y, -eye.z, 0};
}

} // namespace

// All of the level as the sun sees it.
Matrix Renderer::Inside::light_of(const Vec3& sun) const {
    const glm::vec3 all(static_cast<float>(cells.w), height, static_cast<float>(cells.h));
    const glm::vec3 middle = all / 2.0F;
    const float reach = glm::length(all) / 2;
    const glm::vec3 from = middle + glm::vec3(sun[0], sun[1], sun[2]) * reach;
    const glm::mat4 m =
        glm::ortho(-reach, reach, -reach, reach, 0.0F, 2 * reach) * glm::lookAt(from, middle, glm::vec3(0, 1, 0.01F));
    Matrix out{};
    std::copy_n(glm::value_ptr(m), 16, out.begin());
    return out;
}

Vec4 Renderer::Inside::cut() const {
    if (!section) return {0, 0, 0, 1};
    return {-to_the_eye[0], -to_the_eye[1], -to_the_eye[2], *section};
}

// In the light they face the sun, so that they throw the shadow of all that is drawn on them.
void Renderer::Inside::draw_cards(const Matrix& view, const Matrix& from, const level::Light& light, bool shadows) {
    if (cards.empty()) return;
    Program& p = shadows ? card_depth : card;
    const Vec3 sun = floats(scene::sun_way(light));
    const float level = std::max(1e-6F, std::hypot(sun[0], sun[2]));
    const Vec3 facing = shadows ? Vec3{sun[0] / level, 0, sun[2] / level} : to_the_eye;
    p.use();
    p.set("view", view);
    p.set("light", from);
    p.set("facing", facing);
    p.set("across", Vec3{facing[2], 0, -facing[0]});
    p.set("cut", cut());
    p.set("picture", 0);
    p.set("sunWay", sun);
    if (!shadows) {
        p.set("shadows", 1);
        p.set("sunColour", floats(scene::sun_colour(light)));
        p.set("fog", static_cast<float>(light.fog));
        p.set("fogColour", background);
    }
    for (auto& [number, shape] : cards) {
        if (shape.count == 0 || !shape.picture) continue;
        shape.vertices.bind();
        shape.picture.bind(0);
        glDrawArraysInstanced(GL_TRIANGLE_STRIP, 0, 4, shape.count);
        ++calls;
    }
}

void Renderer::Inside::draw_shapes(bool shadows, bool rough) {
    Program& p = shadows ? depth : lit;
    std::int64_t told = 0;
    for (auto& [key, shape] : shapes) {
        if (shape.count == 0) continue;
        shape.vertices.bind();
        const kit::KitFile& file = kits[key.first]->file;
        // What faces away is left out where it is never seen: not through holes, nor where the level is cut.
        const bool holes = std::any_of(shape.parts.begin(), shape.parts.end(), [&](const scene::Model::Part& part) {
            return part.finish >= 0 && file.finishes[static_cast<std::size_t>(part.finish)].cut_out;
        });
        const bool all = shadows || section || holes || shape.mirrored || !shape.closed;
        (all ? glDisable : glEnable)(GL_CULL_FACE);
        for (const scene::Model::Part& part : shape.parts) {
            const kit::Finish* const finish =
                part.finish < 0 ? nullptr : &file.finishes[static_cast<std::size_t>(part.finish)];
            const auto picture = finish ? pictures.find({key.first, finish->picture}) : pictures.end();
            (picture == pictures.end() ? white : picture->second).bind(0);
            p.set("cutOut", finish && finish->cut_out);
            const Rgba c = finish ? finish->colour : Rgba{200, 196, 186, 255};
            const auto share = [](std::uint8_t v) { return static_cast<float>(v) / 255; };
            if (!shadows) p.set("colour", Vec4{share(c.r), share(c.g), share(c.b), 1});
            glDrawElementsInstanced(GL_TRIANGLES, part.count, GL_UNSIGNED_INT,
                                    offset(sizeof(GLuint) * static_cast<std::size_t>(part.first)), shape.count);
            ++calls;
            told += std::int64_t{part.count / 3} * shape.count;
            if (rough && told > kAtATime) {
                glFlush();
                told = 0;
            }
        }
    }
    glDisable(GL_CULL_FACE);
}

void Renderer::Inside::draw_ground() {
    if (!ground) return;
    ground_vertices.bind();
    ground.bind(0);
    lit.set("cutOut", false);
    lit.set("colour", Vec4{1, 1, 1, 1});
    glDrawArraysInstanced(GL_TRIANGLE_STRIP, 0, 4, 1);
    ++calls;
}

// They are the same from wherever one looks.
void Renderer::Inside::draw_shadows(const level::Light& light, const Matrix& from) {
    if (shadows_of == light) return;
    shadows_of = light;
    glBindFramebuffer(GL_FRAMEBUFFER, shadow_frame.id());
    glViewport(0, 0, kShadowSide, kShadowSide);
    glClear(GL_DEPTH_BUFFER_BIT);
    depth.use();
    depth.set("view", from);
    depth.set("light", from);
    depth.set("cut", cut());
    if (section) glEnable(GL_CLIP_DISTANCE0);
    depth.set("picture", 0);
    draw_shapes(true);
    draw_cards(from, from, light, true);
    if (section) glDisable(GL_CLIP_DISTANCE0);
}

void Renderer::draw(const Matrix& view, const level::Light& light, const Vec3& background, Size pixels, bool rough) {
    Inside& in = *in_;
    in.calls = 0;
    const Vec3 sun = floats(scene::sun_way(light));
    const Matrix from = in.light_of(sun);
    glEnable(GL_DEPTH_TEST);
    glDepthFunc(GL_LESS);
    glDepthMask(GL_TRUE);
    glColorMask(GL_TRUE, GL_TRUE, GL_TRUE, GL_TRUE);
    for (const GLenum off : {GL_CULL_FACE, GL_BLEND, GL_SCISSOR_TEST, GL_STENCIL_TEST}) glDisable(off);
    in.draw_shadows(light, from);
    Frame& frame = rough ? in.rough : in.fine;
    const Size size = rough ? Size{std::max(1, pixels.w / 2), std::max(1, pixels.h / 2)} : pixels;
    frame.make(size, rough ? 0 : kSamples);
    in.drawn = &frame;
    in.background = background;
    frame.bind();
    glViewport(0, 0, size.w, size.h);
    glClearColor(background[0], background[1], background[2], 1);
    glClear(GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT);
    Program& lit = in.lit;
    lit.use();
    lit.set("view", view);
    lit.set("light", from);
    lit.set("sunWay", sun);
    lit.set("sunColour", floats(scene::sun_colour(light)));
    lit.set("picture", 0);
    lit.set("shadows", 1);
    lit.set("fog", static_cast<float>(light.fog));
    lit.set("fogColour", background);
    lit.set("eye", eye_of(view));
    lit.set("cut", Vec4{0, 0, 0, 1});
    lit.set("section", false);
    glActiveTexture(GL_TEXTURE1);
    glBindTexture(GL_TEXTURE_2D, in.shadow_picture.id());
    in.draw_ground();
    lit.set("cut", in.cut());
    lit.set("section", in.section.has_value());
    lit.set("sectionColour", in.hatch);
    if (in.section) glEnable(GL_CLIP_DISTANCE0);
    in.draw_shapes(false, rough);
    in.draw_cards(view, from, light, false);
    in.draw_wet(view);
    in.draw_mass(view, rough);
    if (in.section) glDisable(GL_CLIP_DISTANCE0);
    Vertices::none();
}

// A veil over the floors.
void Renderer::Inside::draw_wet(const Matrix& view) {
    if (wet_count[0] + wet_count[1] == 0) return;
    glEnable(GL_BLEND);
    glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ZERO, GL_ONE);
    glDepthMask(GL_FALSE);
    line.use();
    line.set("view", view);
    line.set("cut", cut());
    for (std::size_t i = 0; i < 2; ++i) {
        if (wet_count[i] == 0) continue;
        line.set("colour", wash[i]);
        wet_vertices[i].bind();
        glDrawArrays(GL_TRIANGLES, 0, wet_count[i]);
        ++calls;
    }
    glDepthMask(GL_TRUE);
    glDisable(GL_BLEND);
}

// Over the pieces' own faces, which lie at the same places.
void Renderer::Inside::draw_mass(const Matrix& view, bool rough_now) {
    if (mass_count == 0) return;
    constexpr float kStripe = 7; // pixels
    glDepthFunc(GL_LEQUAL);
    glEnable(GL_POLYGON_OFFSET_FILL);
    glPolygonOffset(-3, -120); // what is merged is rounded, and may lie a hair behind the pieces' faces
    glEnable(GL_BLEND);
    // The picture itself stays opaque: nothing of the plan below is to be seen through it.
    glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ZERO, GL_ONE);
    glDepthMask(GL_FALSE);
    hatched.use();
    hatched.set("view", view);
    hatched.set("colour", opaque(hatch));
    hatched.set("cut", cut());
    hatched.set("stripe", rough_now ? kStripe / 2 : kStripe);
    mass_vertices.bind();
    glDrawArrays(GL_TRIANGLES, 0, mass_count);
    glDisable(GL_POLYGON_OFFSET_FILL);
    // Lines a hair nearer to the eye than the faces that they bound.
    Matrix nearer = view;
    constexpr float kHair = 0.00001F;
    for (std::size_t column = 0; column < 4; ++column) nearer[column * 4 + 2] -= kHair * view[column * 4 + 3];
    line.use();
    line.set("view", nearer);
    line.set("colour", opaque(hatch));
    line.set("cut", cut());
    edge_vertices.bind();
    glDrawArrays(GL_LINES, 0, edge_count);
    calls += 2;
    glDepthMask(GL_TRUE);
    glDisable(GL_BLEND);
    glDepthFunc(GL_LESS);
}

void Renderer::draw_dots(const Matrix& view, const std::vector<Vec3>& at, const Vec3& colour) {
    if (at.empty()) return;
    Inside& in = *in_;
    std::vector<float> points;
    for (const Vec3& p : at) points.insert(points.end(), p.begin(), p.end());
    Inside::put(in.line_vertices, in.line_corners, points);
    in.line_vertices.bind();
    in.dot.use();
    in.dot.set("view", view);
    glDisable(GL_DEPTH_TEST);
    // A light rim, so that they are seen on any ground.
    for (const auto& [size, ink] : {std::pair{14.0F, Vec3{1, 1, 1}}, {10.0F, colour}}) {
        glPointSize(size);
        in.dot.set("colour", opaque(ink));
        glDrawArrays(GL_POINTS, 0, static_cast<GLsizei>(at.size()));
        ++in.calls;
    }
    glEnable(GL_DEPTH_TEST);
    Vertices::none();
}

void Renderer::draw_box(const Matrix& view, const Vec3& a, const Vec3& b, const Vec3& colour) {
    Inside& in = *in_;
    const Vec3 corner[8] = {{a[0], a[1], a[2]}, {b[0], a[1], a[2]}, {b[0], a[1], b[2]}, {a[0], a[1], b[2]},
                            {a[0], b[1], a[2]}, {b[0], b[1], a[2]}, {b[0], b[1], b[2]}, {a[0], b[1], b[2]}};
    static constexpr int kLines[24] = {0, 1, 1, 2, 2, 3, 3, 0, 4, 5, 5, 6, 6, 7, 7, 4, 0, 4, 1, 5, 2, 6, 3, 7};
    std::vector<float> points;
    for (const int i : kLines) points.insert(points.end(), corner[i].begin(), corner[i].end());
    Inside::put(in.line_vertices, in.line_corners, points);
    in.line_vertices.bind();
    in.line.use();
    in.line.set("view", view);
    in.line.set("colour", opaque(colour));
    in.line.set("cut", Vec4{0, 0, 0, 1});
    glDisable(GL_DEPTH_TEST);
    glDrawArrays(GL_LINES, 0, 24);
    ++in.calls;
    glEnable(GL_DEPTH_TEST);
    Vertices::none();
}

void Renderer::draw_body(const Matrix& view, const Vec3& a, const Vec3& b, const Vec3& colour) {
    Inside& in = *in_;
    std::vector<float> points;
    for (std::size_t axis = 0; axis < 3; ++axis)
        for (const Vec3& end : {a, b}) {
            // Two triangles of the face that lies there across the axis.
            const std::size_t u = (axis + 1) % 3, v = (axis + 2) % 3;
            const auto corner = [&](bool right, bool up) {
                Vec3 p{};
                p[axis] = end[axis];
                p[u] = right ? b[u] : a[u];
                p[v] = up ? b[v] : a[v];
                points.insert(points.end(), p.begin(), p.end());
            };
            for (const auto& [right, up] :
                 {std::pair{false, false}, {true, false}, {true, true}, {false, false}, {true, true}, {false, true}})
                corner(right, up);
        }
    const int count = Inside::put(in.line_vertices, in.line_corners, points);
    glEnable(GL_BLEND);
    glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ZERO, GL_ONE);
    in.line.use();
    in.line.set("view", view);
    in.line.set("cut", Vec4{0, 0, 0, 1});
    in.line.set("colour", Vec4{colour[0], colour[1], colour[2], 0.6F});
    in.line_vertices.bind();
    glDrawArrays(GL_TRIANGLES, 0, count);
    ++in.calls;
    glDisable(GL_BLEND);
    Vertices::none();
    draw_box(view, a, b, colour);
}

Size Renderer::drawn() const { return in_->drawn->size(); }

void Renderer::read(std::span<std::uint32_t> into) {
    Inside& in = *in_;
    const Size size = drawn();
    if (in.drawn == &in.fine) { // what has several samples of a pixel cannot be read itself
        in.plain.make(size, 0);
        glBindFramebuffer(GL_READ_FRAMEBUFFER, in.fine.id());
        glBindFramebuffer(GL_DRAW_FRAMEBUFFER, in.plain.id());
        glBlitFramebuffer(0, 0, size.w, size.h, 0, 0, size.w, size.h, GL_COLOR_BUFFER_BIT, GL_NEAREST);
        in.plain.bind();
    } else {
        in.drawn->bind();
    }
    glPixelStorei(GL_PACK_ALIGNMENT, 4);
    glReadPixels(0, 0, size.w, size.h, GL_BGRA, GL_UNSIGNED_INT_8_8_8_8_REV, into.data());
    const auto row = [&](int y) { return into.begin() + std::ptrdiff_t{y} * size.w; };
    for (int y = 0; y < size.h / 2; ++y) std::swap_ranges(row(y), row(y + 1), row(size.h - 1 - y));
}

Image Renderer::picture() {
    std::vector<std::uint32_t> pixels(static_cast<std::size_t>(drawn().area()));
    read(pixels);
    Image out(drawn());
    auto from = pixels.begin();
    for (int y = 0; y < out.height(); ++y)
        for (int x = 0; x < out.width(); ++x, ++from)
            out.set(x, y,
                    {static_cast<std::uint8_t>(*from >> 16), static_cast<std::uint8_t>(*from >> 8),
                     static_cast<std::uint8_t>(*from), static_cast<std::uint8_t>(*from >> 24)});
    return out;
}

} // namespace vic::render
