// The level in three dimensions, over the level view: aslant, from the front, or as one walks through. What is pressed
// goes to the tools of the level view, at the place of the active storey's plane under the pointer.
#pragma once

#include <QMatrix4x4>
#include <QOpenGLWidget>
#include <QPointF>
#include <memory>
#include <optional>

#include "app/session/kit_bodies.hpp"
#include "app/session/merged_mass.hpp"
#include "app/solid/gl_scene.hpp"
#include "app/solid/solid_stroll.hpp"

class QEvent;
class QMouseEvent;
class QWheelEvent;

namespace vic::app {

class LevelView;
class Session;

class SolidView : public QOpenGLWidget {
    Q_OBJECT
  public:
    enum class Look : std::uint8_t { aslant, front, through, game }; // game: by the level's own sight and frame
    SolidView(Session& session, LevelView& view);
    ~SolidView() override;
    void look(Look how); // from there, at the middle of the level
    [[nodiscard]] Look looks() const { return look_; }
    [[nodiscard]] Sun sun() const; // the level's
    // Where a place in the widget meets the active storey's plane, in cells; nothing where it does not.
    [[nodiscard]] std::optional<QPointF> cellsAt(QPointF place) const;
    // Where a place of that plane is seen in the widget.
    [[nodiscard]] QPointF placeOf(QPointF cells) const;
    // How many pieces stand, and calls of OpenGL that drew them.
    [[nodiscard]] int pieces() const { return pieces_; }
    [[nodiscard]] int cards() const { return standing_; } // props that stand up
    [[nodiscard]] int calls() const { return scene_ ? scene_->calls() : 0; }
    // Walks from the pointer, or from the start where that is not over it; again, and it ends.
    void toggleWalk();
    [[nodiscard]] SolidStroll& stroll() { return stroll_; }
    [[nodiscard]] int wetPlaces() const { return wetPlaces_; }        // that are drawn
    [[nodiscard]] const QString& trouble() const { return trouble_; } // why nothing can be drawn; empty: nothing

  signals:
    void troubled(const QString& why);

  protected:
    void initializeGL() override;
    void paintGL() override;
    void resizeGL(int w, int h) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void leaveEvent(QEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override; // keys of the level view, while one walks

  private:
    void stale(); // another level is shown
    void take();  // what is shown now, into the scene
    void takeCards(const level::Level& level);
    void takeMass(); // likewise what blocks, in Bound, and what one walks on
    void takeWet(const std::shared_ptr<const DrawnMass>& mass);
    void drawFits(const QMatrix4x4& seen);
    void hideBeside(); // the frame
    [[nodiscard]] QMatrix4x4 gameMatrix() const;
    [[nodiscard]] QRectF gameFrame() const; // in the widget
    void pass(QMouseEvent* event);          // on to the level view
    [[nodiscard]] int storey() const;
    [[nodiscard]] scene::Storeys storeys() const;
    [[nodiscard]] double plane() const; // of the active storey, in cells
    [[nodiscard]] QMatrix4x4 matrix() const;
    void turnBy(QPointF pixels);
    void moveBy(QPointF pixels);

    Session& session_;
    LevelView& view_;
    KitBodies& bodies_;
    MergedMass& mass_;
    std::shared_ptr<const DrawnMass> drawnMass_; // that the scene has, up to a storey
    int drawnStorey_ = -1;
    struct WetOf { // what is wet follows from
        std::shared_ptr<const DrawnMass> mass;
        std::optional<Point> from;
        int storey = 0;
        bool operator==(const WetOf&) const = default;
    };
    WetOf wetOf_;
    double pouredOn_ = 0; // the height of the storey that was worked on then
    int wetPlaces_ = 0;
    SolidStroll stroll_;
    std::unique_ptr<GlScene> scene_;
    QString trouble_;
    Look look_ = Look::aslant;
    // The eye looks at a place from so far away; angles in degrees.
    QVector3D at_{0, 0, 0};
    float away_ = 20, round_ = 45, down_ = 35;
    bool stale_ = true, groundStale_ = true;
    bool came_ = false;   // bodies were read since
    bool framed_ = false; // whether there was anything that stands when it was looked at
    int pieces_ = 0, standing_ = 0;
    std::optional<QPointF> dragged_; // from where the eye is turned or moved
    bool turns_ = false;
    std::optional<Point> pointed_; // the cell under the pointer
};

} // namespace vic::app
