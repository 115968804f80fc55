// What the chosen tiles block: the named shapes to pick from, and a drawing board for any other.
#pragma once

#include <QDoubleSpinBox>
#include <QImage>
#include <QLabel>
#include <QPushButton>
#include <QToolButton>
#include <map>
#include <optional>

#include "app/session.hpp"

namespace vic::app {

struct Tokens;

// A shape's name, and its sign: how it fills a cell, with a rim, in a square of `side` pixels.
QString shapeName(level::TileShape shape);
QPixmap shapeSign(level::TileShape shape, const Tokens& t, int side = 20);

// The tile's art with its shape over it; corners are dragged on a lattice of 1/16 cell.
class ShapeBoard : public QWidget {
    Q_OBJECT
  public:
    explicit ShapeBoard(QWidget* parent);
    void show(const QImage& art, const level::Polygons& polygons);
    // Where a point of the lattice is drawn, in the widget's pixels.
    [[nodiscard]] QPointF at(Point corner) const;
  signals:
    void drawn(const level::Polygons& polygons);
    void refused(const Text& why);

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent* e) override;
    void mouseMoveEvent(QMouseEvent* e) override;
    void mouseReleaseEvent(QMouseEvent* e) override;
    void leaveEvent(QEvent*) override;
    void keyPressEvent(QKeyEvent* e) override;

  private:
    struct Hit {
        std::size_t part = 0;
        std::size_t corner = 0;
        bool line = false; // between the corner and the next
    };
    [[nodiscard]] std::optional<Hit> hit(QPointF p) const;
    [[nodiscard]] Point cornerAt(QPointF p) const;
    [[nodiscard]] QRectF board() const;
    void remove(const Hit& which);
    QImage art_;
    level::Polygons polygons_;
    level::Polygons before_; // of the drag
    std::optional<Hit> lit_;
    std::optional<Hit> held_;
    std::optional<Point> boxFrom_;
};

class ShapeEditor : public QWidget {
    Q_OBJECT
  public:
    ShapeEditor(Session& session, QWidget* parent);
    void follow(const std::vector<const level::Tile*>& chosen);

  protected:
    void changeEvent(QEvent* event) override;

  private:
    void paintSigns();
    void give(level::TileShape shape, const level::Polygons& polygons);
    void fromArt();
    Session& session_;
    std::map<level::TileShape, QToolButton*> shapes_;
    QToolButton* draw_;
    QWidget* drawing_;
    ShapeBoard* board_;
    QLabel* count_;
    QPushButton* fromArt_;
    QDoubleSpinBox* deviation_;
};

} // namespace vic::app
