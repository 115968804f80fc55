// The level in the middle of the window: camera, pages, what is drawn over them, and the gestures at work on it.
#pragma once

#include <QImage>
#include <QPoint>
#include <QPointF>
#include <QRect>
#include <QRectF>
#include <QSize>
#include <QWidget>
#include <map>
#include <memory>
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "app/gesture/gesture.hpp"
#include "app/parts/camera.hpp"
#include "app/session/tool.hpp"
#include "app/view/contrast_lens.hpp"
#include "app/view/live_try.hpp"
#include "app/view/pages.hpp"
#include "app/view/reach_lens.hpp"
#include "app/view/soak_lens.hpp"
#include "base/geometry.hpp"
#include "base/lattice.hpp"
#include "base/text.hpp"
#include "level/level.hpp"
#include "level/sheet.hpp"
#include "picture/art.hpp"

class QColor;
class QEvent;
class QKeyEvent;
class QMouseEvent;
class QPaintEvent;
class QPainter;
class QResizeEvent;
class QWheelEvent;

namespace vic::level {
struct FreeBlocker;
struct Material;
} // namespace vic::level

namespace vic::outline {
struct Drawing;
} // namespace vic::outline

namespace vic::app {

class Gesture;
class Session;

class LevelView : public QWidget, private Board {
    Q_OBJECT
  public:
    LevelView(Session& session, QWidget* parent = nullptr);
    ~LevelView() override;

    [[nodiscard]] double zoom() const { return camera_.zoom(); }
    [[nodiscard]] QPointF centre() const { return camera_.centre(); } // in pixels of the level
    void setCamera(double zoom, QPointF centre);
    void zoomStep(int by, QPointF at);
    void fit();
    void zoomTo(const Box& cells); // as large as they fit
    void lookAt(Point cell);
    void lookAtAll(const Box& cells); // at all of them: from further away where they are not in view

    // The place of a cell's middle in the widget, and the cell at a place; of those that one works on.
    bool giveKey(int key); // to the tool in use, as if it had been pressed here; whether it has a use for it
    [[nodiscard]] QPoint cellCentre(Point cell) const;
    [[nodiscard]] Point cellAt(QPointF place) const;
    // The cells of the level that are in view.
    [[nodiscard]] Box seenCells() const;
    // The cell under the pointer; none outside of the view.
    [[nodiscard]] std::optional<Point> pointedCell() const;

    // The place under the pointer, in cells of the level and parts of them; none outside of the level.
    [[nodiscard]] std::optional<QPointF> pointedPlace() const;

    [[nodiscard]] bool showsLattice() const { return lattice_; }
    [[nodiscard]] bool showsOutlines() const { return outlines_; }
    // What is seen of the level in Bound: what blocks, the art, or both.
    enum class Bounds : std::uint8_t { both, section, art };
    [[nodiscard]] Bounds bounds() const { return bounds_; }
    void setBounds(Bounds shown);
    // Whether what blocks is drawn as it would be without merging: a box or shape for each cell.
    [[nodiscard]] bool showsUnmerged() const { return unmerged_; }
    void setUnmerged(bool on);
    [[nodiscard]] bool showsFrame() const { return frameGuide_; }
    void setLattice(bool on);
    // Marks every tile of which a pixel is not a whole number of the level's.
    void setHonesty(bool on);
    [[nodiscard]] bool showsHonesty() const { return honesty_; }
    // By brightness: what blocks, what can be used, and scenery.
    void setContrast(bool on);
    // Repetition on the active layer of props as heat.
    void setHeat(bool on);
    [[nodiscard]] bool showsHeat() const { return heat_; }
    // As small as one sees it when it repeats; and back to where one was.
    void setAfar(bool on);
    [[nodiscard]] bool afar() const { return afar_.has_value(); }
    [[nodiscard]] ContrastLens& contrast() { return contrast_; }
    [[nodiscard]] SoakLens& soak() { return soak_; }
    [[nodiscard]] ReachLens& reach() { return reach_; }
    // Walking in the level as it is shown, from the pointer on, while one paints.
    [[nodiscard]] LiveTry& liveTry() { return liveTry_; }
    void setLiveTry(bool on);
    void setProbe(bool blocks); // where the pointer is, or takes it away
    void setReach(bool on);     // in levels seen from the side
    void pointReach();          // where the pointer is now
    void pointLiveTry();        // likewise
    void paintProbes(QPainter& p) const;
    // From the pointer, or from the start where that is not in the level; off where it was on.
    void soakFromPointer();
    void setSoak(bool on); // from the start
    // What is said of the tile under the pointer then; empty where all is well.
    [[nodiscard]] QString honestyThere() const;
    [[nodiscard]] QString contrastThere() const;
    // In Bound: who decides there, and what.
    [[nodiscard]] QString decidedThere() const;
    // A place in cells of the level, in this widget; also where that is not in view.
    [[nodiscard]] QPointF placeOf(QPointF cells) const;
    // Another view lies over this one, and passes on what is pressed there: places out of view count, too, and nothing
    // that this one draws over the level is in the way.
    void setCovered(bool on);
    [[nodiscard]] QPoint placeBelow(Point cell) const; // in this widget: right below a cell of the level
    void setOutlines(bool on);
    void setFrameGuide(bool on);
    void setQuiet(bool on);
    // The walker's figure: at the start, or where it is parked, or at the pointer; with the arc of its jump.
    void setFigureAtPointer(bool on);
    void parkFigure();
    void setJumpArc(bool on);
    [[nodiscard]] bool figureAtPointer() const { return figureAtPointer_; }
    [[nodiscard]] bool showsJumpArc() const { return jumpArc_; }
    // The ground it stands on, in pixels of the level: the middle of its foot.
    [[nodiscard]] Point figureFoot() const;
    // Whether more than four fifths of the figure were behind something when it was drawn last.
    [[nodiscard]] bool figureHidden() const { return figureHidden_; }
    [[nodiscard]] Box framePixels() const override; // where the frame's guide stands

    // The layer that the next click lays on; 0 for none.
    [[nodiscard]] level::LayerId targetLayer() const;
    // Shows another level in the place of the session's, to be looked at only; null ends that.
    void setTrial(std::optional<level::Level> level);
    // Outlines cells, of those that one works on, until others are.
    void setMarked(level::Region cells);
    // The sentence of the reading line for where the pointer is.
    [[nodiscard]] const Sentence& reading() const { return reading_; }
    // Whether a gesture is under way that shows a level or a choice of its own.
    [[nodiscard]] bool stroking() const { return active_ && active_->holds(); }
    // The level as drawn now: the document's, or the one of the gesture under way.
    [[nodiscard]] const level::Level& shown() const override { return pages_.level(); }
    [[nodiscard]] const std::optional<Hindered>& hindered() const { return hindered_; } // of what is shown
    void refresh(); // takes over the session's state

    static constexpr int kRuler = 22;

  signals:
    void scaleAsked(int steps); // Ctrl+wheel over props
    void readingChanged();
    void cameraChanged();
    void boundsChanged(); // bounds() or showsUnmerged()
    void shownChanged();  // what is drawn is another level than before, also during a stroke

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
    // The board that gestures work on; level_board.cpp
    [[nodiscard]] Session& session() const override { return session_; }
    [[nodiscard]] const Camera& camera() const override { return camera_; }
    void show(const level::Level& level) override;
    void hinder(const Hindered& hindered) override { hindered_ = hindered; }
    void shift(QPointF pixels) override { camera_.move(pixels); }
    void centreOn(QPointF pixel) override { setCamera(zoom(), pixel); }
    void setPointerShape(Qt::CursorShape shape) override { setCursor(shape); }
    void drawAgain() override { update(); }
    [[nodiscard]] QRect mapPlace() const override;
    [[nodiscard]] Box mapPixels() const override { return pages_.extent(); }
    [[nodiscard]] int ruler() const override { return quiet_ ? 0 : kRuler; }
    [[nodiscard]] QRect frameTag() const override;
    [[nodiscard]] bool spaceHeld() const override { return space_; }

    // level_input.cpp
    [[nodiscard]] bool open() const;                      // a level is there
    [[nodiscard]] std::optional<Pointer> pointer() const; // where it is in the area
    [[nodiscard]] Gesture* gestureFor(const Pointer& at) const;
    [[nodiscard]] Gesture& toolGesture() const;
    void end(); // of a gesture
    void press(QMouseEvent* event, bool twice);
    void dismiss();
    void preview();
    void say();
    [[nodiscard]] Sentence sentence() const;

    // The lattice of the level.
    [[nodiscard]] Lattice geometry() const { return pages_.level().geometry(); }
    // That of the cells one works on: of the active layer, where it has cells of its own.
    [[nodiscard]] Lattice grain() const;
    [[nodiscard]] QRect wholeArea() const; // what is left of the widget inside the rulers
    [[nodiscard]] std::optional<Point> pointedLevelCell() const;
    [[nodiscard]] QPointF firstLook(const level::Level& level) const;
    bool scroll(QPointF by);
    void tick();

    // level_paint.cpp, level_lattice.cpp
    void redraw(const QRect& part);
    void drawPages(QPainter& painter, const QRect& part);
    void paintAround(QPainter& p, const level::Region& cells, const QColor& colour);
    void paintUnknown(QPainter& p); // of the plan on trial
    void paintMissing(QPainter& painter, const QRect& part);
    void paintDishonest(QPainter& p, const QRect& part);
    void paintHeat(QPainter& p);
    void paintLattice(QPainter& painter, const QRect& part);
    void paintFineLines(QPainter& painter, const QRect& part);
    void paintIsometricLattice(QPainter& painter, const QRect& part);
    void paintSelection(QPainter& painter);
    void paintMap(QPainter& painter);
    void paintNothing(QPainter& painter);
    // level_outlines.cpp
    void paintOutlines(QPainter& painter, bool hatched);
    void paintUnmerged(QPainter& painter, const outline::Drawing& drawing);
    void paintMasses(QPainter& painter, const outline::Drawing& drawing);
    void paintBlockers(QPainter& painter);
    void paintOwnWords(QPainter& painter);
    void paintFreeBlocker(QPainter& painter, const level::FreeBlocker& free);
    void paintFacts(QPainter& painter);
    void paintSides(QPainter& painter);
    [[nodiscard]] QPointF unitsToScreen(Point units) const; // 1/64 cells
    void anchorHatching(QPainter& painter) const;
    void paintOneWayCell(QPainter& painter, Point cell, int side, const QColor& ink) const;
    // level_guides.cpp
    void paintGuides(QPainter& painter);
    void paintFrame(QPainter& painter);
    bool paintActor(QPainter& painter, level::PropKindId figure, Point at, picture::Art& art) const;
    void paintBeforeFigure(QPainter& painter, const QRectF& figure, Point foot);
    QRectF paintFigureAndArc(QPainter& painter); // where the figure stands, in pixels of the widget
    void paintArc(QPainter& painter, QPointF from);
    void paintUserGuides(QPainter& painter);
    void paintMarks(QPainter& painter, const QRectF& figure);
    // level_rulers.cpp
    void paintRulers(QPainter& painter);
    void paintRuler(QPainter& painter, int axis, Size cell, QSize count, Point hover);
    void paintGuideSigns(QPainter& painter);
    void paintPixelMarks(QPainter& painter);
    void paintEdgeNumbers(QPainter& painter);

    Session& session_;
    Pages pages_;
    picture::Art still_; // of the walker's figure, which stands
    ContrastLens contrast_;
    SoakLens soak_;
    ReachLens reach_;
    LiveTry liveTry_;
    Camera camera_;
    bool covered_ = false; // by another view
    std::vector<std::unique_ptr<Gesture>> common_;
    std::vector<std::pair<Tool, std::unique_ptr<Gesture>>> tools_;
    Gesture* active_ = nullptr;                                   // under way
    Gesture* offered_ = nullptr;                                  // whose preview is shown
    Lattice drawnGrain_;                                          // whose lines are drawn
    std::vector<std::shared_ptr<const level::Material>> marksOf_; // by whose rules missing cases are marked
    QImage frame_;                                                // the art and lattice of the present camera
    std::string cameraOf_;
    Size cellOf_; // of that, when the camera was set
    bool honesty_ = false, heat_ = false;
    std::optional<std::pair<double, QPointF>> afar_; // zoom and middle to come back to
    double settledZoom_ = 0;
    QPointF middle_, settledAt_; // of the camera: before it got other sizes, and after the last one
    Bounds bounds_ = Bounds::both;
    std::optional<Hindered> hindered_;
    bool unmerged_ = false;
    bool lattice_ = true, outlines_ = false, frameGuide_ = true, quiet_ = false;
    std::optional<QPointF> place_; // of the pointer
    Qt::KeyboardModifiers modifiers_;
    bool figureAtPointer_ = false, jumpArc_ = false;
    bool figureHidden_ = false;
    std::map<std::string, Point> parked_; // by level
    bool space_ = false;
    std::optional<level::Level> trial_;
    level::Region marked_;
    Sentence reading_;
};

} // namespace vic::app
