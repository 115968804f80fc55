// Drawing a level of kit pieces with OpenGL 3.3: each piece once in memory, and once told for all that stand.
#pragma once

#include <QColor>
#include <QImage>
#include <QMatrix4x4>
#include <QOpenGLBuffer>
#include <QOpenGLFramebufferObject>
#include <QOpenGLFunctions_3_3_Core>
#include <QOpenGLShaderProgram>
#include <QOpenGLTexture>
#include <QOpenGLVertexArrayObject>
#include <QString>
#include <array>
#include <cstdint>
#include <map>
#include <memory>
#include <optional>
#include <utility>
#include <vector>

#include "scene/scene.hpp"

namespace vic::app {

// Where the light comes from, and of what colour it is.
struct Sun {
    double hour = 16;  // of the day, 0 .. 24: low in the east at 6, in the south at noon, low in the west at 18
    int warmth = 5200; // kelvins, 2500 .. 9000
    int fog = 0;       // cells from the eye to where half is hidden; 0: there is none
    bool operator==(const Sun&) const = default;
    [[nodiscard]] level::Light light() const { return {static_cast<int>(hour * 60), warmth, fog}; }
    [[nodiscard]] QVector3D way() const; // towards it
    [[nodiscard]] QVector3D colour() const;
};

// Props of one picture that stand up.
struct Cards {
    QImage picture;
    struct Stands {
        float foot[3];
        float reach[4];  // left, right, up, down, in cells
        float tint[4];   // that its colours are multiplied with
        float turned;    // 1: mirrored
        float across[2]; // to its right, x and z; 0, 0: it faces the eye
    };
    std::vector<Stands> stand;
};

using Kits = std::vector<std::shared_ptr<const scene::LoadedKit>>;

// All of it needs its context to be current, but the constructor.
class GlScene : protected QOpenGLFunctions_3_3_Core {
  public:
    GlScene() = default;
    ~GlScene() override;
    GlScene(const GlScene&) = delete;
    GlScene& operator=(const GlScene&) = delete;
    // What is wrong where it cannot be drawn; empty where all is well.
    QString initialize();
    void setKits(const Kits& kits);
    void setPieces(const std::vector<scene::Placed>& placed, const scene::Storeys& storeys);
    // By any number that tells pictures apart; a picture that is empty is the one of before.
    void setCards(std::map<std::uint64_t, Cards> cards);
    // What lies flat on the lowest storey, over so many cells.
    void setGround(const QImage& picture, Size cells);
    // What blocks, hatched over the pieces: corners of triangles and ends of lines, in cells. Empty: nothing.
    void setMass(const std::vector<float>& faces, const std::vector<float>& lines);
    // Floors that are wet, as triangles in cells, and those of them from which nothing leads back.
    void setWet(const std::vector<float>& reached, const std::vector<float>& noWayBack);
    void setWash(const QColor& reached, const QColor& noWayBack) { wash_ = {reached, noWayBack}; }
    void setHatch(const QColor& colour) { hatch_ = colour; }
    // Which way the eye is from what it looks at; the height does not count.
    void setEye(QVector3D way) { toTheEye_ = QVector3D(way.x(), 0, way.z()).normalized(); }
    // `view`: from cells to what is seen. Calls of OpenGL that drew are counted. `rough`: at half the size and with
    // hard edges, while one moves.
    void draw(const QMatrix4x4& view, const Sun& sun, const QColor& background, QSize pixels, bool rough);
    // What was drawn, with boxes, into the frame of the widget.
    void show(QSize pixels);
    // A box of lines, in cells; `to` is the corner opposite `from`.
    void drawBox(const QMatrix4x4& view, QVector3D from, QVector3D to, const QColor& colour);
    void drawDots(const QMatrix4x4& view, const std::vector<QVector3D>& at, const QColor& colour);
    [[nodiscard]] int calls() const { return calls_; }

  private:
    struct Shape {
        std::unique_ptr<QOpenGLVertexArrayObject> vao;
        QOpenGLBuffer corners, instances, order{QOpenGLBuffer::IndexBuffer};
        std::vector<scene::Model::Part> parts;
        std::vector<float> least, most;
        int count = 0; // instances
    };
    Shape& shapeOf(std::size_t kit, std::size_t piece);
    void drawShadows(const Sun& sun, const QMatrix4x4& light);
    void drawShapes(bool shadows);
    void drawGround();
    void drawCards(const QMatrix4x4& view, const QMatrix4x4& light, const Sun& sun, bool shadows);
    void drawMass(const QMatrix4x4& view, bool rough);
    void drawWet(const QMatrix4x4& view);
    int put(QOpenGLVertexArrayObject& vao, QOpenGLBuffer& buffer, const std::vector<float>& corners);
    [[nodiscard]] QMatrix4x4 lightOf(const Sun& sun) const;

    Kits kits_;
    std::map<std::pair<std::size_t, std::size_t>, Shape> shapes_;
    std::map<std::pair<std::size_t, int>, std::unique_ptr<QOpenGLTexture>> pictures_; // by kit, and picture of it
    struct CardShape {
        std::unique_ptr<QOpenGLVertexArrayObject> vao;
        QOpenGLBuffer stand;
        std::unique_ptr<QOpenGLTexture> picture;
        int count = 0;
    };
    std::map<std::uint64_t, CardShape> cards_;
    QVector3D toTheEye_{0, 0, 1}; // level
    std::unique_ptr<QOpenGLTexture> white_, ground_;
    std::unique_ptr<QOpenGLShaderProgram> lit_, depth_, line_, hatched_, dot_, card_, cardDepth_;
    std::unique_ptr<QOpenGLVertexArrayObject> groundVao_, lineVao_, massVao_, edgeVao_;
    QOpenGLBuffer groundCorners_, groundPlace_, lineCorners_, massCorners_, edgeCorners_;
    int massCount_ = 0, edgeCount_ = 0;                               // corners
    std::array<std::unique_ptr<QOpenGLVertexArrayObject>, 2> wetVao_; // reached, and those without a way back
    std::array<QOpenGLBuffer, 2> wetCorners_;
    std::array<int, 2> wetCount_{};
    std::array<QColor, 2> wash_{};
    QColor hatch_{Qt::black};
    QVector3D background_;
    GLuint shadowFrame_ = 0, shadowPicture_ = 0;
    std::unique_ptr<QOpenGLFramebufferObject> fine_, rough_; // what is drawn into; kept while its size is the same
    QOpenGLFramebufferObject* drawn_ = nullptr;
    std::optional<Sun> shadowsOf_; // by which sun the shadows are; none where they are stale
    Size cells_{1, 1};
    double height_ = 1; // cells: of the highest piece
    int calls_ = 0;
};

} // namespace vic::app
