#include "render/renderer.hpp"

#include <algorithm>
#include <cmath>

#include "render/inside.hpp"
#include "render/shaders.hpp"

namespace vic::render {

namespace {

// Places, normals and places in the picture, one after another.
void corner_parts() {
    constexpr std::pair<int, std::size_t> kParts[] = {{3, 0}, {3, 12}, {2, 24}};
    for (GLuint i = 0; i < 3; ++i) {
        glEnableVertexAttribArray(i);
        glVertexAttribPointer(i, kParts[i].first, GL_FLOAT, GL_FALSE, 32, offset(kParts[i].second));
    }
}

// The three rows that place an instance.
void instance_parts() {
    for (GLuint i = 0; i < 3; ++i) {
        glEnableVertexAttribArray(3 + i);
        glVertexAttribPointer(3 + i, 4, GL_FLOAT, GL_FALSE, 48, offset(std::size_t{16} * i));
        glVertexAttribDivisor(3 + i, 1);
    }
}

bool mirrors(const scene::Placing& p) {
    return p[0][0] * (p[1][1] * p[2][2] - p[1][2] * p[2][1]) - p[0][1] * (p[1][0] * p[2][2] - p[1][2] * p[2][0]) +
               p[0][2] * (p[1][0] * p[2][1] - p[1][1] * p[2][0]) <
           0;
}

} // namespace

std::map<std::uint64_t, Cards> cards_of(const std::vector<scene::Card>& cards,
                                        const std::function<Image(const level::PropKind&)>& picture) {
    std::map<std::uint64_t, Cards> out;
    for (const scene::Card& card : cards) {
        Cards& kind = out[card.kind->id];
        if (kind.stand.empty()) kind.picture = picture(*card.kind);
        const auto part = [](std::uint8_t v) { return static_cast<float>(v) / 255; };
        kind.stand.push_back(
            {{card.foot[0], card.foot[1], card.foot[2]},
             {card.left, card.right, card.top, card.bottom},
             {part(card.wash.times.r), part(card.wash.times.g), part(card.wash.times.b), 1},
             card.mirrored ? 1.0F : 0.0F,
             {card.turned ? std::cos(*card.turned) : 0.0F, card.turned ? std::sin(*card.turned) : 0.0F}});
    }
    return out;
}

Renderer::Renderer() : in_(std::make_unique<Inside>()) {}
Renderer::~Renderer() = default;

std::string Renderer::initialize() {
    if (epoxy_gl_version() < 33) return "OpenGL 3.3";
    Inside& in = *in_;
    const std::pair<Program*, std::pair<const char*, const char*>> programs[] = {
        {&in.lit, {shaders::kPlace, shaders::kLit}},
        {&in.depth, {shaders::kPlace, shaders::kDepth}},
        {&in.line, {shaders::kLineAt, shaders::kLine}},
        {&in.hatched, {shaders::kLineAt, shaders::kHatched}},
        {&in.dot, {shaders::kLineAt, shaders::kDot}},
        {&in.card, {shaders::kCardAt, shaders::kCard}},
        {&in.card_depth, {shaders::kCardAt, shaders::kCardDepth}}};
    for (const auto& [program, source] : programs)
        if (std::string trouble = program->make(source.first, source.second); !trouble.empty()) return trouble;
    in.white = Texture(Image({1, 1}, {255, 255, 255, 255}));
    GLuint id = 0;
    glGenTextures(1, &id);
    in.shadow_picture.reset(id);
    glBindTexture(GL_TEXTURE_2D, id);
    glTexImage2D(GL_TEXTURE_2D, 0, GL_DEPTH_COMPONENT24, kShadowSide, kShadowSide, 0, GL_DEPTH_COMPONENT,
                 GL_UNSIGNED_INT, nullptr);
    const std::pair<GLenum, GLint> ways[] = {{GL_TEXTURE_MIN_FILTER, GL_LINEAR},
                                             {GL_TEXTURE_MAG_FILTER, GL_LINEAR},
                                             {GL_TEXTURE_WRAP_S, GL_CLAMP_TO_EDGE},
                                             {GL_TEXTURE_WRAP_T, GL_CLAMP_TO_EDGE},
                                             {GL_TEXTURE_COMPARE_MODE, GL_COMPARE_REF_TO_TEXTURE}};
    for (const auto& [what, how] : ways) glTexParameteri(GL_TEXTURE_2D, what, how);
    GLuint frame = 0;
    glGenFramebuffers(1, &frame);
    in.shadow_frame.reset(frame);
    glBindFramebuffer(GL_FRAMEBUFFER, frame);
    glFramebufferTexture2D(GL_FRAMEBUFFER, GL_DEPTH_ATTACHMENT, GL_TEXTURE_2D, id, 0);
    glDrawBuffer(GL_NONE);
    glReadBuffer(GL_NONE);
    return {};
}

void Renderer::set_kits(const Kits& kits) {
    if (kits == in_->kits) return;
    in_->kits = kits;
    in_->shapes.clear();
    in_->pictures.clear();
    for (std::size_t k = 0; k < kits.size(); ++k)
        for (std::size_t i = 0; i < kits[k]->file.pictures.size(); ++i)
            if (!kits[k]->file.pictures[i].empty())
                in_->pictures[{k, static_cast<int>(i)}] = Texture(kits[k]->file.pictures[i]);
}

Renderer::Inside::Shape& Renderer::Inside::shape_of(std::size_t kit, std::size_t piece) {
    const auto known = shapes.find({kit, piece});
    if (known != shapes.end()) return known->second;
    Shape& shape = shapes[{kit, piece}];
    const scene::Model model = scene::model_of(*kits[kit], piece);
    shape.parts = model.parts;
    shape.most = model.most[1];
    shape.closed = scene::is_closed(model);
    shape.vertices.bind();
    // Corners that triangles share are worked out once.
    std::vector<scene::Model::Corner> corners;
    std::vector<GLuint> order;
    std::map<std::array<float, 8>, GLuint> numbers;
    for (const scene::Model::Corner& c : model.corners) {
        const std::array<float, 8> key{c.at[0],     c.at[1],     c.at[2], c.normal[0],
                                       c.normal[1], c.normal[2], c.uv[0], c.uv[1]};
        const auto [found, fresh] = numbers.emplace(key, static_cast<GLuint>(corners.size()));
        if (fresh) corners.push_back(c);
        order.push_back(found->second);
    }
    static_assert(sizeof(scene::Model::Corner) == 32);
    shape.corners.put(corners.data(), corners.size() * sizeof(scene::Model::Corner));
    shape.order.put(order.data(), order.size() * sizeof(GLuint), GL_ELEMENT_ARRAY_BUFFER);
    corner_parts();
    shape.instances.bind();
    instance_parts();
    Vertices::none();
    return shape;
}

void Renderer::set_pieces(const std::vector<scene::Placed>& placed, const scene::Storeys& storeys) {
    Inside& in = *in_;
    in.shadows_of.reset();
    std::map<std::pair<std::size_t, std::size_t>, std::vector<scene::Placing>> by_piece;
    in.height = 1;
    for (const scene::Placed& p : placed)
        by_piece[{p.kit, p.piece}].push_back(scene::placing_of(p, in.kits[p.kit]->read.pieces[p.piece].cells, storeys));
    for (auto& [key, shape] : in.shapes) shape.count = 0;
    for (const auto& [key, placings] : by_piece) {
        Inside::Shape& shape = in.shape_of(key.first, key.second);
        shape.count = static_cast<int>(placings.size());
        shape.instances.put(placings.data(), placings.size() * sizeof(scene::Placing));
        shape.mirrored = false;
        for (const scene::Placing& p : placings) {
            in.height = std::max(in.height, p[1][3] + shape.most);
            shape.mirrored = shape.mirrored || mirrors(p);
        }
    }
}

void Renderer::set_ground(const Image& picture, Size cells) {
    Inside& in = *in_;
    if (!(cells == in.cells)) in.shadows_of.reset();
    in.cells = cells;
    in.ground = picture.empty() ? Texture() : Texture(picture, false);
    if (!in.ground) return;
    const auto w = static_cast<float>(cells.w), h = static_cast<float>(cells.h);
    constexpr float kY = -0.004F; // a hair lower than floors that lie on it
    const float corners[4][8] = {
        {0, kY, 0, 0, 1, 0, 0, 0}, {0, kY, h, 0, 1, 0, 0, 1}, {w, kY, 0, 0, 1, 0, 1, 0}, {w, kY, h, 0, 1, 0, 1, 1}};
    in.ground_vertices.bind();
    in.ground_corners.put(corners, sizeof(corners));
    corner_parts();
    const float in_place[12] = {1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0};
    in.ground_place.put(in_place, sizeof(in_place));
    instance_parts();
    Vertices::none();
}

void Renderer::set_cards(const std::map<std::uint64_t, Cards>& cards) {
    Inside& in = *in_;
    in.shadows_of.reset();
    std::erase_if(in.cards, [&](const auto& known) { return !cards.contains(known.first); });
    for (const auto& [number, kind] : cards) {
        Inside::CardShape& shape = in.cards[number];
        if (!kind.picture.empty()) shape.picture = Texture(kind.picture, false);
        shape.vertices.bind();
        shape.stand.put(kind.stand.data(), kind.stand.size() * sizeof(Cards::Stands));
        constexpr std::pair<int, std::size_t> kParts[] = {{3, 0}, {4, 12}, {4, 28}, {1, 44}, {2, 48}};
        for (GLuint i = 0; i < 5; ++i) {
            glEnableVertexAttribArray(i);
            glVertexAttribPointer(i, kParts[i].first, GL_FLOAT, GL_FALSE, sizeof(Cards::Stands),
                                  offset(kParts[i].second));
            glVertexAttribDivisor(i, 1);
        }
        shape.count = static_cast<int>(kind.stand.size());
    }
    Vertices::none();
}

// Corners of triangles or ends of lines; how many there are.
int Renderer::Inside::put(Vertices& vertices, Buffer& buffer, const std::vector<float>& corners) {
    vertices.bind();
    buffer.put(corners.data(), corners.size() * sizeof(float));
    glEnableVertexAttribArray(0);
    glVertexAttribPointer(0, 3, GL_FLOAT, GL_FALSE, 0, nullptr);
    Vertices::none();
    return static_cast<int>(corners.size() / 3);
}

void Renderer::set_mass(const std::vector<float>& faces, const std::vector<float>& lines) {
    in_->mass_count = Inside::put(in_->mass_vertices, in_->mass_corners, faces);
    in_->edge_count = Inside::put(in_->edge_vertices, in_->edge_corners, lines);
}

void Renderer::set_wet(const std::vector<float>& reached, const std::vector<float>& no_way_back) {
    in_->wet_count[0] = Inside::put(in_->wet_vertices[0], in_->wet_corners[0], reached);
    in_->wet_count[1] = Inside::put(in_->wet_vertices[1], in_->wet_corners[1], no_way_back);
}

void Renderer::set_wash(const Vec4& reached, const Vec4& no_way_back) { in_->wash = {reached, no_way_back}; }
void Renderer::set_hatch(const Vec3& colour) { in_->hatch = colour; }
void Renderer::set_section(std::optional<float> along) {
    if (along != in_->section) in_->shadows_of.reset(); // what is cut away throws none
    in_->section = along;
}
int Renderer::calls() const { return in_->calls; }

void Renderer::set_eye(const Vec3& way) {
    const float length = std::hypot(way[0], way[2]);
    if (length <= 0) return;
    const Vec3 level{way[0] / length, 0, way[2] / length};
    if (in_->section && level != in_->to_the_eye) in_->shadows_of.reset();
    in_->to_the_eye = level;
}

} // namespace vic::render
