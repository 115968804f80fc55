#include "app/solid/gl_scene.hpp"

#include <QVector3D>
#include <algorithm>
#include <array>
#include <cmath>

#include "app/parts/glyphs.hpp"
#include "app/solid/shaders.hpp"
#include "scene/sun.hpp"

namespace vic::app {

using namespace shaders;

namespace {

constexpr int kShadowSide = 2048;
constexpr int kSamples = 4; // of a pixel, where one does not move

std::unique_ptr<QOpenGLShaderProgram> program(const char* vertex, const char* fragment, QString& trouble) {
    auto out = std::make_unique<QOpenGLShaderProgram>();
    if (!out->addShaderFromSourceCode(QOpenGLShader::Vertex, vertex) ||
        !out->addShaderFromSourceCode(QOpenGLShader::Fragment, fragment) || !out->link())
        trouble = out->log();
    return out;
}

std::unique_ptr<QOpenGLTexture> textureOf(const QImage& image) {
    auto out = std::make_unique<QOpenGLTexture>(image.convertToFormat(QImage::Format_RGBA8888),
                                                QOpenGLTexture::DontGenerateMipMaps);
    out->setMinMagFilters(QOpenGLTexture::Nearest, QOpenGLTexture::Nearest);
    out->setWrapMode(QOpenGLTexture::Repeat);
    return out;
}

} // namespace

QVector3D Sun::way() const {
    const auto way = scene::sun_way(light());
    return {static_cast<float>(way[0]), static_cast<float>(way[1]), static_cast<float>(way[2])};
}

QVector3D Sun::colour() const {
    const auto colour = scene::sun_colour(light());
    return {static_cast<float>(colour[0]), static_cast<float>(colour[1]), static_cast<float>(colour[2])};
}

GlScene::~GlScene() {
    if (shadowFrame_ != 0) glDeleteFramebuffers(1, &shadowFrame_);
    if (shadowPicture_ != 0) glDeleteTextures(1, &shadowPicture_);
}

QString GlScene::initialize() {
    if (!initializeOpenGLFunctions()) return QStringLiteral("OpenGL 3.3");
    QString trouble;
    lit_ = program(kPlace, kLit, trouble);
    depth_ = program(kPlace, kDepth, trouble);
    line_ = program(kLineAt, kLine, trouble);
    hatched_ = program(kLineAt, kHatched, trouble);
    dot_ = program(kLineAt, kDot, trouble);
    card_ = program(kCardAt, kCard, trouble);
    cardDepth_ = program(kCardAt, kCardDepth, trouble);
    if (!trouble.isEmpty()) return trouble;
    QImage one(1, 1, QImage::Format_RGBA8888);
    one.fill(Qt::white);
    white_ = textureOf(one);
    glGenTextures(1, &shadowPicture_);
    glBindTexture(GL_TEXTURE_2D, shadowPicture_);
    glTexImage2D(GL_TEXTURE_2D, 0, GL_DEPTH_COMPONENT24, kShadowSide, kShadowSide, 0, GL_DEPTH_COMPONENT,
                 GL_UNSIGNED_INT, nullptr);
    glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_MIN_FILTER, GL_LINEAR);
    glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_MAG_FILTER, GL_LINEAR);
    glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_WRAP_S, GL_CLAMP_TO_EDGE);
    glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_WRAP_T, GL_CLAMP_TO_EDGE);
    glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_COMPARE_MODE, GL_COMPARE_REF_TO_TEXTURE);
    glGenFramebuffers(1, &shadowFrame_);
    glBindFramebuffer(GL_FRAMEBUFFER, shadowFrame_);
    glFramebufferTexture2D(GL_FRAMEBUFFER, GL_DEPTH_ATTACHMENT, GL_TEXTURE_2D, shadowPicture_, 0);
    glDrawBuffer(GL_NONE);
    glReadBuffer(GL_NONE);
    for (auto* buffer : {&groundCorners_, &groundPlace_, &lineCorners_, &massCorners_, &edgeCorners_, &wetCorners_[0],
                         &wetCorners_[1]})
        buffer->create();
    for (auto* vao : {&groundVao_, &lineVao_, &massVao_, &edgeVao_, &wetVao_[0], &wetVao_[1]}) {
        *vao = std::make_unique<QOpenGLVertexArrayObject>();
        (*vao)->create();
    }
    return {};
}

void GlScene::setKits(const Kits& kits) {
    if (kits == kits_) return;
    kits_ = kits;
    shapes_.clear();
    pictures_.clear();
    for (std::size_t k = 0; k < kits_.size(); ++k)
        for (std::size_t i = 0; i < kits_[k]->file.pictures.size(); ++i)
            if (!kits_[k]->file.pictures[i].empty())
                pictures_[{k, static_cast<int>(i)}] = textureOf(toQImage(kits_[k]->file.pictures[i]));
}

GlScene::Shape& GlScene::shapeOf(std::size_t kit, std::size_t piece) {
    const auto known = shapes_.find({kit, piece});
    if (known != shapes_.end()) return known->second;
    Shape& shape = shapes_[{kit, piece}];
    const scene::Model model = scene::model_of(*kits_[kit], piece);
    shape.parts = model.parts;
    shape.least.assign(model.least.begin(), model.least.end());
    shape.most.assign(model.most.begin(), model.most.end());
    shape.vao = std::make_unique<QOpenGLVertexArrayObject>();
    shape.vao->create();
    QOpenGLVertexArrayObject::Binder bound(shape.vao.get());
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
    shape.corners.create();
    shape.corners.bind();
    shape.corners.allocate(corners.data(), static_cast<int>(corners.size() * sizeof(scene::Model::Corner)));
    shape.order.create();
    shape.order.bind();
    shape.order.allocate(order.data(), static_cast<int>(order.size() * sizeof(GLuint)));
    constexpr GLsizei kCorner = sizeof(scene::Model::Corner);
    const std::pair<int, std::size_t> parts[] = {{3, 0}, {3, 12}, {2, 24}};
    for (GLuint i = 0; i < 3; ++i) {
        glEnableVertexAttribArray(i);
        glVertexAttribPointer(i, parts[i].first, GL_FLOAT, GL_FALSE, kCorner,
                              reinterpret_cast<const void*>(parts[i].second));
    }
    shape.instances.create();
    shape.instances.bind();
    for (GLuint i = 0; i < 3; ++i) {
        glEnableVertexAttribArray(3 + i);
        glVertexAttribPointer(3 + i, 4, GL_FLOAT, GL_FALSE, 48, reinterpret_cast<const void*>(std::size_t{16} * i));
        glVertexAttribDivisor(3 + i, 1);
    }
    return shape;
}

void GlScene::setPieces(const std::vector<scene::Placed>& placed, const scene::Storeys& storeys) {
    shadowsOf_.reset();
    std::map<std::pair<std::size_t, std::size_t>, std::vector<scene::Placing>> by_piece;
    height_ = 1;
    for (const scene::Placed& p : placed)
        by_piece[{p.kit, p.piece}].push_back(scene::placing_of(p, kits_[p.kit]->read.pieces[p.piece].cells, storeys));
    for (auto& [key, shape] : shapes_) shape.count = 0;
    for (const auto& [key, placings] : by_piece) {
        Shape& shape = shapeOf(key.first, key.second);
        shape.count = static_cast<int>(placings.size());
        shape.instances.bind();
        shape.instances.allocate(placings.data(), static_cast<int>(placings.size() * sizeof(scene::Placing)));
        for (const scene::Placing& p : placings)
            height_ = std::max(height_, static_cast<double>(p[1][3] + shape.most[1]));
    }
}

void GlScene::setGround(const QImage& picture, Size cells) {
    if (!(cells == cells_)) shadowsOf_.reset();
    cells_ = cells;
    ground_ = picture.isNull() ? nullptr : textureOf(picture);
    if (!ground_) return;
    ground_->setWrapMode(QOpenGLTexture::ClampToEdge);
    const auto w = static_cast<float>(cells.w), h = static_cast<float>(cells.h);
    // A hair lower than floors that lie on it.
    constexpr float kY = -0.004F;
    const float corners[4][8] = {
        {0, kY, 0, 0, 1, 0, 0, 0}, {0, kY, h, 0, 1, 0, 0, 1}, {w, kY, 0, 0, 1, 0, 1, 0}, {w, kY, h, 0, 1, 0, 1, 1}};
    QOpenGLVertexArrayObject::Binder bound(groundVao_.get());
    groundCorners_.bind();
    groundCorners_.allocate(corners, sizeof(corners));
    const std::pair<int, std::size_t> parts[] = {{3, 0}, {3, 12}, {2, 24}};
    for (GLuint i = 0; i < 3; ++i) {
        glEnableVertexAttribArray(i);
        glVertexAttribPointer(i, parts[i].first, GL_FLOAT, GL_FALSE, 32,
                              reinterpret_cast<const void*>(parts[i].second));
    }
    const float in_place[12] = {1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0};
    groundPlace_.bind();
    groundPlace_.allocate(in_place, sizeof(in_place));
    for (GLuint i = 0; i < 3; ++i) {
        glEnableVertexAttribArray(3 + i);
        glVertexAttribPointer(3 + i, 4, GL_FLOAT, GL_FALSE, 48, reinterpret_cast<const void*>(std::size_t{16} * i));
        glVertexAttribDivisor(3 + i, 1);
    }
}

void GlScene::setCards(std::map<std::uint64_t, Cards> cards) {
    shadowsOf_.reset();
    std::erase_if(cards_, [&](const auto& known) { return !cards.contains(known.first); });
    for (auto& [number, kind] : cards) {
        CardShape& shape = cards_[number];
        if (!kind.picture.isNull()) {
            shape.picture = textureOf(kind.picture);
            shape.picture->setWrapMode(QOpenGLTexture::ClampToEdge);
        }
        if (!shape.vao) {
            shape.vao = std::make_unique<QOpenGLVertexArrayObject>();
            shape.vao->create();
            shape.stand.create();
        }
        QOpenGLVertexArrayObject::Binder bound(shape.vao.get());
        shape.stand.bind();
        shape.stand.allocate(kind.stand.data(), static_cast<int>(kind.stand.size() * sizeof(Cards::Stands)));
        constexpr std::pair<int, std::size_t> kParts[] = {{3, 0}, {4, 12}, {4, 28}, {1, 44}, {2, 48}};
        for (GLuint i = 0; i < 5; ++i) {
            glEnableVertexAttribArray(i);
            glVertexAttribPointer(i, kParts[i].first, GL_FLOAT, GL_FALSE, sizeof(Cards::Stands),
                                  reinterpret_cast<const void*>(kParts[i].second));
            glVertexAttribDivisor(i, 1);
        }
        shape.count = static_cast<int>(kind.stand.size());
    }
}

// In the light they face the sun, so that they throw the shadow of all that is drawn on them.
void GlScene::drawCards(const QMatrix4x4& view, const QMatrix4x4& light, const Sun& sun, bool shadows) {
    if (cards_.empty()) return;
    QOpenGLShaderProgram& p = shadows ? *cardDepth_ : *card_;
    const QVector3D to_sun = QVector3D(sun.way().x(), 0, sun.way().z()).normalized();
    const QVector3D facing = shadows ? to_sun : toTheEye_;
    p.bind();
    p.setUniformValue("view", view);
    p.setUniformValue("light", light);
    p.setUniformValue("facing", facing);
    p.setUniformValue("across", QVector3D(facing.z(), 0, -facing.x()));
    p.setUniformValue("picture", 0);
    p.setUniformValue("sunWay", sun.way());
    if (!shadows) {
        p.setUniformValue("shadows", 1);
        p.setUniformValue("sunColour", sun.colour());
        p.setUniformValue("fog", static_cast<float>(sun.fog));
        p.setUniformValue("fogColour", background_);
    }
    for (auto& [number, shape] : cards_) {
        if (shape.count == 0 || !shape.picture) continue;
        QOpenGLVertexArrayObject::Binder bound(shape.vao.get());
        shape.picture->bind(0);
        glDrawArraysInstanced(GL_TRIANGLE_STRIP, 0, 4, shape.count);
        ++calls_;
    }
    p.release();
}

// All of the level as the sun sees it.
QMatrix4x4 GlScene::lightOf(const Sun& sun) const {
    const QVector3D middle(static_cast<float>(cells_.w) / 2, static_cast<float>(height_) / 2,
                           static_cast<float>(cells_.h) / 2);
    const float reach =
        QVector3D(static_cast<float>(cells_.w), static_cast<float>(height_), static_cast<float>(cells_.h)).length() / 2;
    QMatrix4x4 out;
    out.ortho(-reach, reach, -reach, reach, 0, 2 * reach);
    out.lookAt(middle + sun.way() * reach, middle, {0, 1, 0.01F});
    return out;
}

void GlScene::drawShapes(bool shadows) {
    QOpenGLShaderProgram& p = shadows ? *depth_ : *lit_;
    for (auto& [key, shape] : shapes_) {
        if (shape.count == 0) continue;
        QOpenGLVertexArrayObject::Binder bound(shape.vao.get());
        const kit::KitFile& file = kits_[key.first]->file;
        for (const scene::Model::Part& part : shape.parts) {
            const kit::Finish* finish =
                part.finish < 0 ? nullptr : &file.finishes[static_cast<std::size_t>(part.finish)];
            const auto picture = finish ? pictures_.find({key.first, finish->picture}) : pictures_.end();
            (picture == pictures_.end() ? white_ : picture->second)->bind(0);
            p.setUniformValue("cutOut", finish && finish->cut_out);
            const Rgba c = finish ? finish->colour : Rgba{200, 196, 186, 255};
            if (!shadows) p.setUniformValue("colour", QColor(c.r, c.g, c.b, 255));
            glDrawElementsInstanced(
                GL_TRIANGLES, part.count, GL_UNSIGNED_INT,
                reinterpret_cast<const void*>(sizeof(GLuint) * static_cast<std::size_t>(part.first)), shape.count);
            ++calls_;
        }
    }
}

void GlScene::drawGround() {
    if (!ground_) return;
    QOpenGLVertexArrayObject::Binder bound(groundVao_.get());
    ground_->bind(0);
    lit_->setUniformValue("cutOut", false);
    lit_->setUniformValue("colour", QColor(Qt::white));
    glDrawArraysInstanced(GL_TRIANGLE_STRIP, 0, 4, 1);
    ++calls_;
}

// They are the same from wherever one looks.
void GlScene::drawShadows(const Sun& sun, const QMatrix4x4& light) {
    if (shadowsOf_ == sun) return;
    shadowsOf_ = sun;
    glBindFramebuffer(GL_FRAMEBUFFER, shadowFrame_);
    glViewport(0, 0, kShadowSide, kShadowSide);
    glClear(GL_DEPTH_BUFFER_BIT);
    glActiveTexture(GL_TEXTURE0);
    depth_->bind();
    depth_->setUniformValue("view", light);
    depth_->setUniformValue("light", light);
    depth_->setUniformValue("picture", 0);
    drawShapes(true);
    drawCards(light, light, sun, true);
}

void GlScene::draw(const QMatrix4x4& view, const Sun& sun, const QColor& background, QSize pixels, bool rough) {
    calls_ = 0;
    const QMatrix4x4 light = lightOf(sun);
    glEnable(GL_DEPTH_TEST);
    glDepthFunc(GL_LESS);
    glDisable(GL_CULL_FACE);
    glDisable(GL_BLEND);
    drawShadows(sun, light);
    std::unique_ptr<QOpenGLFramebufferObject>& frame = rough ? rough_ : fine_;
    const QSize size = rough ? QSize(std::max(1, pixels.width() / 2), std::max(1, pixels.height() / 2)) : pixels;
    if (!frame || frame->size() != size) {
        QOpenGLFramebufferObjectFormat format;
        format.setAttachment(QOpenGLFramebufferObject::Depth);
        format.setSamples(rough ? 0 : kSamples);
        frame = std::make_unique<QOpenGLFramebufferObject>(size, format);
    }
    drawn_ = frame.get();
    background_ = {static_cast<float>(background.redF()), static_cast<float>(background.greenF()),
                   static_cast<float>(background.blueF())};
    drawn_->bind();
    glViewport(0, 0, size.width(), size.height());
    glClearColor(background.redF(), background.greenF(), background.blueF(), 1);
    glClear(GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT);
    lit_->bind();
    lit_->setUniformValue("view", view);
    lit_->setUniformValue("light", light);
    lit_->setUniformValue("sunWay", sun.way());
    lit_->setUniformValue("sunColour", sun.colour());
    lit_->setUniformValue("picture", 0);
    lit_->setUniformValue("shadows", 1);
    lit_->setUniformValue("fog", static_cast<float>(sun.fog));
    lit_->setUniformValue("fogColour", background_);
    glActiveTexture(GL_TEXTURE1);
    glBindTexture(GL_TEXTURE_2D, shadowPicture_);
    glActiveTexture(GL_TEXTURE0);
    drawGround();
    drawShapes(false);
    lit_->release();
    drawCards(view, light, sun, false);
    drawWet(view);
    drawMass(view, rough);
}

void GlScene::show(QSize pixels) {
    QOpenGLFramebufferObject::blitFramebuffer(nullptr, QRect(QPoint(), pixels), drawn_, QRect(QPoint(), drawn_->size()),
                                              GL_COLOR_BUFFER_BIT, drawn_ == rough_.get() ? GL_LINEAR : GL_NEAREST);
    QOpenGLFramebufferObject::bindDefault();
}

} // namespace vic::app
