// What lies over the pieces: what blocks, hatched, and what is wet.
#include <algorithm>

#include "app/solid/gl_scene.hpp"

namespace vic::app {

// Corners of triangles or ends of lines; how many there are.
int GlScene::put(QOpenGLVertexArrayObject& vao, QOpenGLBuffer& buffer, const std::vector<float>& corners) {
    QOpenGLVertexArrayObject::Binder bound(&vao);
    buffer.bind();
    buffer.allocate(corners.data(), static_cast<int>(corners.size() * sizeof(float)));
    glEnableVertexAttribArray(0);
    glVertexAttribPointer(0, 3, GL_FLOAT, GL_FALSE, 0, nullptr);
    return static_cast<int>(corners.size() / 3);
}

void GlScene::setWet(const std::vector<float>& reached, const std::vector<float>& noWayBack) {
    wetCount_[0] = put(*wetVao_[0], wetCorners_[0], reached);
    wetCount_[1] = put(*wetVao_[1], wetCorners_[1], noWayBack);
}

// A veil over the floors.
void GlScene::drawWet(const QMatrix4x4& view) {
    if (wetCount_[0] + wetCount_[1] == 0) return;
    glEnable(GL_BLEND);
    glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ZERO, GL_ONE);
    glDepthMask(GL_FALSE);
    line_->bind();
    line_->setUniformValue("view", view);
    for (std::size_t i = 0; i < 2; ++i) {
        if (wetCount_[i] == 0) continue;
        line_->setUniformValue("colour", wash_[i]);
        QOpenGLVertexArrayObject::Binder bound(wetVao_[i].get());
        glDrawArrays(GL_TRIANGLES, 0, wetCount_[i]);
        ++calls_;
    }
    line_->release();
    glDepthMask(GL_TRUE);
    glDisable(GL_BLEND);
}

void GlScene::drawDots(const QMatrix4x4& view, const std::vector<QVector3D>& at, const QColor& colour) {
    if (at.empty()) return;
    std::vector<float> points;
    for (const QVector3D& p : at)
        for (const float v : {p.x(), p.y(), p.z()}) points.push_back(v);
    put(*lineVao_, lineCorners_, points);
    QOpenGLVertexArrayObject::Binder bound(lineVao_.get());
    dot_->bind();
    dot_->setUniformValue("view", view);
    glDisable(GL_DEPTH_TEST);
    // A light rim, so that they are seen on any ground.
    for (const auto& [size, ink] : {std::pair{14.0F, QColor(Qt::white)}, {10.0F, colour}}) {
        glPointSize(size);
        dot_->setUniformValue("colour", ink);
        glDrawArrays(GL_POINTS, 0, static_cast<int>(at.size()));
        ++calls_;
    }
    glEnable(GL_DEPTH_TEST);
    dot_->release();
}

void GlScene::setMass(const std::vector<float>& faces, const std::vector<float>& lines) {
    massCount_ = put(*massVao_, massCorners_, faces);
    edgeCount_ = put(*edgeVao_, edgeCorners_, lines);
}

// Over the pieces' own faces, which lie at the same places.
void GlScene::drawMass(const QMatrix4x4& view, bool rough) {
    if (massCount_ == 0) return;
    constexpr float kStripe = 7; // pixels
    glDepthFunc(GL_LEQUAL);
    glEnable(GL_POLYGON_OFFSET_FILL);
    glPolygonOffset(-3, -120); // what is merged is rounded, and may lie a hair behind the pieces' faces
    glEnable(GL_BLEND);
    // The picture itself stays opaque: nothing of the plan below is to be seen through it.
    glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ZERO, GL_ONE);
    glDepthMask(GL_FALSE);
    hatched_->bind();
    hatched_->setUniformValue("view", view);
    hatched_->setUniformValue("colour", hatch_);
    hatched_->setUniformValue("stripe", rough ? kStripe / 2 : kStripe);
    {
        QOpenGLVertexArrayObject::Binder bound(massVao_.get());
        glDrawArrays(GL_TRIANGLES, 0, massCount_);
    }
    hatched_->release();
    glDisable(GL_POLYGON_OFFSET_FILL);
    // Lines a hair nearer to the eye than the faces that they bound.
    QMatrix4x4 nearer;
    nearer.translate(0, 0, -0.00001F);
    line_->bind();
    line_->setUniformValue("view", nearer * view);
    line_->setUniformValue("colour", hatch_);
    {
        QOpenGLVertexArrayObject::Binder bound(edgeVao_.get());
        glDrawArrays(GL_LINES, 0, edgeCount_);
    }
    line_->release();
    calls_ += 2;
    glDepthMask(GL_TRUE);
    glDisable(GL_BLEND);
    glDepthFunc(GL_LESS);
}

void GlScene::drawBox(const QMatrix4x4& view, QVector3D a, QVector3D b, const QColor& colour) {
    const QVector3D corner[8] = {{a.x(), a.y(), a.z()}, {b.x(), a.y(), a.z()}, {b.x(), a.y(), b.z()},
                                 {a.x(), a.y(), b.z()}, {a.x(), b.y(), a.z()}, {b.x(), b.y(), a.z()},
                                 {b.x(), b.y(), b.z()}, {a.x(), b.y(), b.z()}};
    static constexpr int lines[24] = {0, 1, 1, 2, 2, 3, 3, 0, 4, 5, 5, 6, 6, 7, 7, 4, 0, 4, 1, 5, 2, 6, 3, 7};
    std::vector<float> points;
    for (const int i : lines)
        for (const float v : {corner[i].x(), corner[i].y(), corner[i].z()}) points.push_back(v);
    QOpenGLVertexArrayObject::Binder bound(lineVao_.get());
    lineCorners_.bind();
    lineCorners_.allocate(points.data(), static_cast<int>(points.size() * sizeof(float)));
    glEnableVertexAttribArray(0);
    glVertexAttribPointer(0, 3, GL_FLOAT, GL_FALSE, 0, nullptr);
    line_->bind();
    line_->setUniformValue("view", view);
    line_->setUniformValue("colour", colour);
    glDisable(GL_DEPTH_TEST);
    glDrawArrays(GL_LINES, 0, 24);
    ++calls_;
    glEnable(GL_DEPTH_TEST);
    line_->release();
}

} // namespace vic::app
