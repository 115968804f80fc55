// The level in the middle of the window: camera, rulers, lattice, guides, and the hand at work on it.
#pragma once

#include <QImage>
#include <QPoint>
#include <QPointF>
#include <QPolygonF>
#include <QRect>
#include <QRectF>
#include <QString>
#include <QTransform>
#include <QWidget>
#include <cstdint>
#include <map>
#include <memory>
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "app/session/session.hpp"
#include "app/view/pages.hpp"
#include "base/geometry.hpp"
#include "base/lattice.hpp"
#include "base/text.hpp"
#include "edit/clips.hpp"
#include "edit/stroke.hpp"
#include "level/level.hpp"
#include "level/region.hpp"
#include "level/sheet.hpp"
#include "level/stamp.hpp"

class QEvent;
class QKeyEvent;
class QMouseEvent;
class QPaintEvent;
class QPainter;
class QResizeEvent;
class QWheelEvent;

namespace vic::level {
struct Material;
} // namespace vic::level

namespace vic::app {

class Session;

class LevelView : public QWidget {
    Q_OBJECT
  public:
    LevelView(Session& session, QWidget* parent = nullptr);

    [[nodiscard]] double zoom() const;
    [[nodiscard]] QPointF centre() const; // in pixels of the level
    void setCamera(double zoom, QPointF centre);
    void zoomStep(int by, QPointF at);
    void fit();

    // The place of a cell's middle in the widget, and the cell at a place; of those that one works on.
    [[nodiscard]] QPoint cellCentre(Point cell) const;
    [[nodiscard]] Point cellAt(QPointF place) const;
    void lookAt(Point cell);
    // The cells of the level that are in view.
    [[nodiscard]] Box seenCells() const;
    // The next (or earlier) variant for the cell under the pointer, pinned there.
    void stepVariant(int by);

    [[nodiscard]] bool showsLattice() const { return lattice_; }
    [[nodiscard]] bool showsOutlines() const { return outlines_; }
    [[nodiscard]] bool showsFrame() const { return frameGuide_; }
    void setLattice(bool on);
    void setOutlines(bool on);
    void setFrameGuide(bool on);
    void setQuiet(bool on);
    void zoomTo(const Box& cells); // as large as they fit
    // The walker's figure: at the start, or where it is parked, or at the pointer; with the arc of its jump.
    void setFigureAtPointer(bool on);
    void parkFigure();
    void setJumpArc(bool on);
    [[nodiscard]] bool figureAtPointer() const { return figureAtPointer_; }
    [[nodiscard]] bool showsJumpArc() const { return jumpArc_; }
    // The ground it stands on, in pixels of the level: the middle of its foot.
    [[nodiscard]] Point figureFoot() const;
    [[nodiscard]] Box framePixels() const; // where the frame's guide stands
    // The cell under the pointer; none outside of the view.
    [[nodiscard]] std::optional<Point> pointedCell() const;
    // The layer that the next click lays on; 0 for none.
    [[nodiscard]] level::LayerId targetLayer() const { return target_; }
    // Shows another level in the place of the session's, to be looked at only; null ends that.
    void setTrial(std::optional<level::Level> level);

    // The sentence of the reading line for where the pointer is: rich text, and whether it warns.
    struct Reading {
        QString text;
        bool warns = false;
    };
    [[nodiscard]] Reading reading() const { return reading_; }
    [[nodiscard]] bool stroking() const {
        return stroke_.has_value() || drag_.has_value() || moving_.has_value() || marquee_.has_value();
    }

    static constexpr int kRuler = 22;

  signals:
    void readingChanged();
    void cameraChanged();
    void shownChanged(); // what is drawn is another level than before, also during a stroke

  public:
    // The level as drawn now: the document's, or the one of the stroke under way.
    [[nodiscard]] const level::Level& shown() const { return pages_.level(); }
    void refresh(); // takes over the session's state

  protected:
    void paintEvent(QPaintEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void mouseDoubleClickEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void leaveEvent(QEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void keyReleaseEvent(QKeyEvent*) override;

  private:
    struct Stroke {
        level::Level level; // as it is now
        edit::Hand hand;
        level::LayerId layer;
        Point from, last;
        level::Level before;      // as it was, with the same size
        std::uint32_t nextId = 0; // of the project, if ids were given out
        Point grown{};            // cells that came to it on the left and above
        bool box = false;         // laid anew as a whole with every move, not added to
        Tool tool = Tool::pencil;
        bool inView = false; // a fill that does not go beyond the view
    };
    // A selection being drawn.
    struct Marquee {
        enum class Mode { fresh, add, remove };
        Tool tool = Tool::select;
        Mode mode = Mode::fresh;
        Point from, last;
        std::vector<edit::Place> line; // lasso
    };
    // What is selected, being moved.
    struct Moving {
        Point from, last;
        edit::Stamped moved;
    };
    // A guide, or the frame, being dragged. A guide that is let go over its ruler is gone.
    struct Pull {
        bool frame = false;
        level::Guide guide;
        QPointF grip;
    };
    struct Drag {
        bool isMark = false;
        std::uint32_t id = 0;
        QPointF grip;
        level::Level level;
    };

    // level_paint.cpp
    void redraw(const QRect& part);
    bool scroll(QPointF by);
    void paintLattice(QPainter& painter, const QRect& part);
    void paintIsometricLattice(QPainter& painter, const QRect& part);
    [[nodiscard]] QPolygonF footShape(const Box& foot) const;
    void paintMissing(QPainter& painter, const QRect& part);
    void paintOutlines(QPainter& painter, bool hatched);
    void paintBlockers(QPainter& painter);
    void paintGuides(QPainter& painter);
    void paintHover(QPainter& painter);
    void paintMap(QPainter& painter);
    // The lattice of the level.
    [[nodiscard]] Lattice geometry() const { return pages_.level().geometry(); }
    // That of the cells one works on: of the active layer, where it has cells of its own. All that is pointed at and
    // selected is told in these.
    [[nodiscard]] Lattice grain() const { return session_.workLattice(); }
    // From cells (and parts of them) to the widget.
    [[nodiscard]] QTransform cellsToScreen(const Lattice& lattice) const;
    // Cells as they lie on the screen: their outline, and the box around that.
    [[nodiscard]] QPolygonF shapeOf(const Lattice& lattice, const Box& cells) const;
    [[nodiscard]] QRectF around(const Lattice& lattice, const Box& cells) const { return onScreen(lattice.box(cells)); }
    void drawCells(QPainter& painter, const Lattice& lattice, const Box& cells, double inset = 0) const;
    [[nodiscard]] Box seenOf(const Lattice& lattice) const; // boxes of cells in view, also beyond the level
    [[nodiscard]] std::optional<Point> pointedLevelCell() const;
    [[nodiscard]] Box extent() const { return pages_.extent(); }
    [[nodiscard]] QRect area() const; // what is left of the widget inside the rulers
    [[nodiscard]] QRectF onScreen(const Box& pixels) const;
    [[nodiscard]] QRect mapRect() const;

    void paintSelection(QPainter& painter);
    // level_guides.cpp
    void paintFrame(QPainter& painter);
    QRectF paintFigureAndArc(QPainter& painter); // where the figure stands, in pixels of the widget
    void paintUserGuides(QPainter& painter);
    void paintMeasure(QPainter& painter);
    bool pressGuides(QMouseEvent* event);
    void movePull(QPointF place);
    void releasePull(QPointF place);
    [[nodiscard]] QRect frameTag() const;
    [[nodiscard]] std::optional<level::Guide> guideAt(QPoint place) const; // its sign on a ruler
    [[nodiscard]] QPointF measuredCells() const;
    [[nodiscard]] QString measured() const;

    // level_select.cpp
    void pressSelect(QMouseEvent* event, Point cell);
    void moveSelect(QPointF place);
    void releaseSelect();
    void pickSeveral();
    [[nodiscard]] level::Region marqueeCells() const;
    [[nodiscard]] QString selectSentence(Point cell, const QString& at) const;
    [[nodiscard]] Point stampCorner(const level::Stamp& stamp, Point cell) const;
    [[nodiscard]] level::Stamp stampFor(const edit::Hand& hand, const std::optional<Box>& box) const;

    // level_rulers.cpp
    void paintRulers(QPainter& painter);
    void paintPixelMarks(QPainter& painter);
    void paintEdgeNumbers(QPainter& painter);

    // level_reading.cpp
    [[nodiscard]] QString sentence(bool& warns) const;
    [[nodiscard]] QString dressSentence(bool& warns, const QString& at) const;
    [[nodiscard]] QString laySentence(const edit::Hand& hand, bool& warns, Point cell, const QString& at) const;
    [[nodiscard]] QString tipSentence(const edit::Hand& hand, const edit::Target& target, const std::vector<Point>& tip,
                                      const QString& at) const;
    // Parts of it.
    [[nodiscard]] QString nameOf(const edit::Hand& hand) const;
    [[nodiscard]] QString wayOf(const edit::Hand& hand, const edit::Target& target) const;
    [[nodiscard]] QString homeOf(const edit::Target& target) const;
    [[nodiscard]] QString joinsOf() const;
    void say();

    // level_props.cpp
    void pressProps(QMouseEvent* event, Point pixel);
    void moveDrag(QPointF place);

    // level_input.cpp
    void layStroke(const level::Level& onto, const level::Region& cells);
    void growFor(const Box& cells);
    [[nodiscard]] edit::Hand effectiveHand(Qt::MouseButton button, Qt::KeyboardModifiers modifiers) const;
    [[nodiscard]] level::Region cellsOf(const Stroke& stroke, Point to) const;
    [[nodiscard]] level::Region alike(level::LayerId layer, Point at, Tool tool, const Box& within) const;
    // The target of a Hand as the level is looked at: what is not seen is hidden.
    [[nodiscard]] edit::Target targetOf(const edit::Hand& hand, bool stay) const;
    void pressCells(QMouseEvent* event, Point cell);
    void extend(Point cell);
    void commit();
    void cancel();
    void preview();
    void pick(Point cell);
    [[nodiscard]] level::LayerId pickedFirst() const;
    [[nodiscard]] Point pixelAt(QPointF place) const;

    void show(const level::Level& level);
    void tick();

    Session& session_;
    Pages pages_;
    Lattice drawnGrain_;                                          // whose lines are drawn
    std::vector<std::shared_ptr<const level::Material>> marksOf_; // by whose rules missing cases are marked
    QImage frame_;                                                // the art and lattice of the present camera
    int zoomIndex_ = 5;
    QPointF origin_; // the level's pixel at the area's upper left corner
    std::string cameraOf_;
    bool lattice_ = true, outlines_ = false, frameGuide_ = true, quiet_ = false;
    std::optional<QPointF> pointer_;
    Qt::KeyboardModifiers modifiers_;
    std::optional<Stroke> stroke_;
    std::optional<Drag> drag_;
    std::optional<Marquee> marquee_;
    std::optional<Moving> moving_;
    std::optional<Pull> pull_;
    std::optional<std::pair<Point, Point>> measure_; // pixels of the level
    bool measuring_ = false;
    bool figureAtPointer_ = false, jumpArc_ = false;
    std::map<std::string, Point> parked_; // by level
    std::optional<QPointF> pan_;
    bool space_ = false;
    int joined_ = 0;
    std::int64_t filled_ = 0;    // cells that a fill would change in view
    std::int64_t onOverlay_ = 0; // cells that would go to, or leave, the overlay
    std::int64_t stayedOut_ = 0; // cells that would, but it is locked or hidden
    level::LayerId target_ = 0;
    std::optional<level::Level> trial_;
    int noLayer_ = 0; // layers of a stamp that have no place
    Reading reading_;
};

} // namespace vic::app
