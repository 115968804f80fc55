// The level in the middle of the window: camera, rulers, lattice, guides, and the hand at work on it.
#pragma once

#include <QWidget>
#include <optional>

#include "app/pages.hpp"
#include "app/session.hpp"

namespace vic::app {

class LevelView : public QWidget {
    Q_OBJECT
  public:
    LevelView(Session& session, QWidget* parent = nullptr);

    [[nodiscard]] double zoom() const;
    [[nodiscard]] QPointF centre() const; // in pixels of the level
    void setCamera(double zoom, QPointF centre);
    void zoomStep(int by, QPointF at);
    void fit();

    // The place of a cell's middle in the widget; for tests and for bringing things into view.
    [[nodiscard]] QPoint cellCentre(Point cell) const;
    [[nodiscard]] Point cellAt(QPointF place) const;
    void lookAt(Point cell);
    // The cells that are in view.
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

    // The sentence of the reading line for where the pointer is: rich text, and whether it warns.
    struct Reading {
        QString text;
        bool warns = false;
    };
    [[nodiscard]] Reading reading() const { return reading_; }
    [[nodiscard]] bool stroking() const { return stroke_.has_value() || drag_.has_value(); }

    static constexpr int kRuler = 22;

  signals:
    void readingChanged();
    void cameraChanged();
    void shownChanged(); // what is drawn is another level than before, also during a stroke

  public:
    // The level as drawn now: the document's, or the one of the stroke under way.
    [[nodiscard]] const level::Level& shown() const { return pages_.level(); }
    void follow(); // takes over the session's state

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
        bool box = false; // laid anew as a whole with every move, not added to
        Tool tool = Tool::pencil;
        bool inView = false; // a fill that does not go beyond the view
    };
    struct Drag {
        bool isMark = false;
        std::uint32_t id = 0;
        QPointF grip;
        level::Level level;
    };

    // level_paint.cpp
    void redraw(const QRect& part);
    void paintRulers(QPainter& painter);
    void paintLattice(QPainter& painter, const QRect& part);
    void paintMissing(QPainter& painter, const QRect& part);
    void paintOutlines(QPainter& painter, bool hatched);
    void paintGuides(QPainter& painter);
    void paintHover(QPainter& painter);
    void paintMap(QPainter& painter);
    [[nodiscard]] QRect area() const; // what is left of the widget inside the rulers
    [[nodiscard]] QRectF onScreen(const Box& pixels) const;
    [[nodiscard]] QRect mapRect() const;

    // level_input.cpp
    [[nodiscard]] edit::Hand effectiveHand(Qt::MouseButton button, Qt::KeyboardModifiers modifiers) const;
    [[nodiscard]] std::vector<Point> cellsOf(const Stroke& stroke, Point to) const;
    void pressCells(QMouseEvent* event, Point cell);
    void pressProps(QMouseEvent* event, Point pixel);
    void moveDrag(QPointF place);
    void extend(Point cell);
    void commit();
    void cancel();
    void preview();
    void say();
    void pick(Point cell);
    [[nodiscard]] QString sentence(bool& warns) const;
    [[nodiscard]] Point pixelAt(QPointF place) const;

    void show(const level::Level& level);
    void tick();

    Session& session_;
    Pages pages_;
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
    std::optional<QPointF> pan_;
    bool space_ = false;
    int joined_ = 0;
    int filled_ = 0; // cells that a fill would change in view
    Reading reading_;
};

} // namespace vic::app
