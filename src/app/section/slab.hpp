// One entry of the Section, drawn as a slab; the active one opens like a drawer.
#pragma once

#include <QColor>
#include <QPoint>
#include <QString>
#include <QWidget>

#include "app/section/layer_drawer.hpp"
#include "app/session/session.hpp"
#include "level/sheet.hpp"

class QKeyEvent;
class QMouseEvent;
class QPaintEvent;
class QPainter;

namespace vic::level {
struct Layer;
} // namespace vic::level

namespace vic::app {

class SectionPanel;

inline constexpr int kClosed = 52; // pixels of a slab that is not open

// `layer` 0 is the walker's plane.
class Slab : public QWidget {
    Q_OBJECT
  public:
    Slab(Session& session, SectionPanel& panel, level::LayerId layer);
    [[nodiscard]] int index() const { return index_; } // in the order of the Section
    void setIndex(int index) { index_ = index; }
    [[nodiscard]] level::LayerId layer() const { return layer_; }
    void setLit(bool on);
    void refresh();

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

  private:
    void openDrawer();
    void closeDrawer();
    void showMenu(QPoint globalPos);
    void paintWalker(QPainter& painter) const;
    void paintCard(QPainter& painter, bool active) const;
    void paintBlock(QPainter& painter, const level::Layer& layer) const;
    void paintWords(QPainter& painter, const level::Layer& layer, bool active) const;
    [[nodiscard]] QString words(const level::Layer& layer) const;
    [[nodiscard]] QColor colour(const level::Layer& layer) const;
    Session& session_;
    SectionPanel& panel_;
    level::LayerId layer_;
    int index_ = 0;
    LayerDrawer* drawer_ = nullptr; // of the active one
    bool lit_ = false;
    QPoint grip_;
    bool dragging_ = false;
};

} // namespace vic::app
