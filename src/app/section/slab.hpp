// One entry of the Section, drawn as a slab; the active one opens like a drawer.
#pragma once

#include <QColor>
#include <QPoint>
#include <QWidget>

#include "app/section/section_panel.hpp"
#include "level/sheet.hpp"

class QKeyEvent;
class QMouseEvent;
class QPaintEvent;
class QVBoxLayout;

namespace vic::level {
struct Layer;
} // namespace vic::level

namespace vic::app {

class Session;

inline constexpr int kClosed = 52; // pixels of a slab that is not open

// One entry of the Section; `layer` 0 is the walker's plane.
class Slab : public QWidget {
    Q_OBJECT
  public:
    Slab(Session& session, SectionPanel& panel, level::LayerId layer, int index);
    [[nodiscard]] int index() const { return index_; }
    [[nodiscard]] level::LayerId layer() const { return layer_; }
    void setLit(bool on);

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

  private:
    void buildDrawer(const level::Layer& layer);
    void buildMore(const level::Layer& layer, QVBoxLayout& column);
    void buildPlanting(const level::Layer& layer, QVBoxLayout& column); // planting_drawer.cpp
    [[nodiscard]] QColor colour(const level::Layer& layer) const;
    Session& session_;
    SectionPanel& panel_;
    level::LayerId layer_;
    int index_;
    bool lit_ = false;
    QPoint grip_;
    bool dragging_ = false;
};

} // namespace vic::app
