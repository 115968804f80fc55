// The level in three dimensions, over the level view: aslant, from the front, or as one walks through. What is pressed
// goes to the tools of the level view, at the place of the active storey's plane under the pointer. OpenGL draws into
// memory, and what it drew is painted as any picture: a widget of OpenGL would have the whole window composed by OpenGL
// from then on, at each stroke in the plan, too.
#pragma once

#include <QElapsedTimer>
#include <QImage>
#include <QOffscreenSurface>
#include <QOpenGLContext>
#include <QPointF>
#include <QTimer>
#include <QWidget>
#include <memory>
#include <optional>
#include <utility>

#include "app/session/kit_bodies.hpp"
#include "app/session/merged_mass.hpp"
#include "app/solid/solid_stroll.hpp"
#include "render/level_picture.hpp"

class QEvent;
class QMouseEvent;
class QPainter;
class QWheelEvent;

namespace vic::app {

class LevelView;
class Session;

class SolidView : public QWidget {
    Q_OBJECT
  public:
    using Look = render::Look;
    SolidView(Session& session, LevelView& view);
    ~SolidView() override;
    void look(Look how); // from there, at the middle of the level
    [[nodiscard]] Look looks() const { return look_; }
    [[nodiscard]] level::Light light() const; // the level's
    // Cuts the level upright, across the way one looks: by 0 nothing of it is cut, by 1 all.
    void setSection(double share);
    // Where a place in the widget meets the active storey's plane, in cells; nothing where it does not.
    [[nodiscard]] std::optional<QPointF> cellsAt(QPointF place) const;
    // Where a place of that plane is seen in the widget.
    [[nodiscard]] QPointF placeOf(QPointF cells) const;
    [[nodiscard]] QPointF seenPlace(const render::Vec3& cells) const; // of any place, in cells
    // How many pieces stand, and calls of OpenGL that drew them.
    [[nodiscard]] int pieces() const { return pieces_; }
    [[nodiscard]] int cards() const { return standing_; } // props that stand up
    [[nodiscard]] int calls() const { return scene_ ? scene_->calls() : 0; }
    // Walks from the pointer, or from the start where that is not over it; again, and it ends.
    void toggleWalk();
    void walk(std::optional<QPointF> place); // from there, or from the start
    [[nodiscard]] SolidStroll& stroll() { return stroll_; }
    [[nodiscard]] int wetPlaces() const { return wetPlaces_; }        // that are drawn
    [[nodiscard]] int hinderedSeen() const { return hinderedSeen_; }  // props shown to be in each other's way
    [[nodiscard]] const QString& trouble() const { return trouble_; } // why nothing can be drawn; empty: nothing

  signals:
    void troubled(const QString& why);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void leaveEvent(QEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override; // keys of the level view, while one walks

  private:
    void begin(); // OpenGL; see trouble()
    void draw();  // what is seen, into picture_
    [[nodiscard]] bool roughly() const;
    void stale(); // another level is shown
    void take();  // what is shown now, into the scene
    void takeCards(const level::Level& level);
    void takeMass(); // likewise what blocks, in Bound, and what one walks on
    void takeWet();
    void drawFits(const render::Matrix& seen);
    void drawProps(const render::Matrix& seen);
    void drawWalker(const render::Matrix& seen);
    [[nodiscard]] std::optional<float> sectionAlong(const render::Vec3& toEye) const;
    void follow();
    void hideBeside(QPainter& p) const; // the frame
    [[nodiscard]] render::Matrix gameMatrix() const;
    [[nodiscard]] QRectF gameFrame() const; // in the widget
    void pass(QMouseEvent* event);          // on to the level view
    struct Seen {
        level::PropId prop = 0; // 0: a piece on the lattice
        QPointF at;             // cells: where it is seen
        QPointF stands;         // cells: a place of the plan that is its own
    };
    [[nodiscard]] std::optional<scene::Ray> rayAt(QPointF place) const;
    [[nodiscard]] std::optional<Seen> seenAt(QPointF place);
    [[nodiscard]] std::optional<QPointF> exactAt(QPointF place);
    [[nodiscard]] int storey() const;
    [[nodiscard]] int highest() const; // that is seen
    [[nodiscard]] scene::Storeys storeys() const;
    [[nodiscard]] double plane() const; // of the active storey, in cells
    [[nodiscard]] render::Matrix matrix() const;
    void turnBy(QPointF pixels);
    void moveBy(QPointF pixels);

    Session& session_;
    LevelView& view_;
    KitBodies& bodies_;
    MergedMass& mass_;
    std::shared_ptr<const DrawnMass> drawnMass_;
    std::shared_ptr<const SurveyedMass> drawnFlat_; // that the scene has, up to a storey
    int drawnStorey_ = -1;
    std::pair<int, int> wetOf_{-1, -1}; // the lens's turn and the storey that what is wet follows from
    int wetPlaces_ = 0;
    SolidStroll stroll_;
    bool strolled_ = false; // whether it was on when it was drawn last
    QOffscreenSurface surface_;
    QOpenGLContext context_;
    std::unique_ptr<render::Renderer> scene_; // in that context
    QImage picture_;
    qint64 fineTook_ = 0; // milliseconds of the last picture at its full size
    QTimer nears_;        // runs while the wheel turns
    QString trouble_;
    Look look_ = Look::aslant;
    render::Camera camera_;
    double section_ = 0;
    std::pair<render::Vec3, std::optional<float>> cut_; // as it was drawn: see Renderer::set_section()
    bool stale_ = true, groundStale_ = true;
    bool came_ = false;   // bodies were read since
    bool framed_ = false; // whether there was anything that stands when it was looked at
    int pieces_ = 0, standing_ = 0;
    int hinderedSeen_ = 0;
    struct PickOf { // what is pointed at follows from
        std::shared_ptr<const level::Level> level;
        std::vector<std::shared_ptr<const scene::LoadedKit>> kits;
        int storey = 0;
        bool operator==(const PickOf&) const = default;
    };
    PickOf pickOf_;
    std::vector<scene::Placed> placed_; // of it
    std::optional<QPointF> held_;       // cells from the plane to what was taken hold of
    std::optional<QPointF> dragged_;    // from where the eye is turned or moved
    bool turns_ = false;
    std::optional<Point> pointed_; // the cell under the pointer
};

} // namespace vic::app
