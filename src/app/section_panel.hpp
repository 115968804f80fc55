// The Section: the level cut open and seen from the side. Every layer is a slab, front at the top, with the walker's
// plane between them. The active slab opens like a drawer.
#pragma once

#include <QScrollArea>
#include <QVBoxLayout>
#include <map>

#include "app/session.hpp"

namespace vic::app {

class SectionPanel;

// One entry of the Section; `layer` 0 is the walker's plane.
class Slab : public QWidget {
    Q_OBJECT
  public:
    Slab(Session& session, SectionPanel& panel, level::LayerId layer, int index);
    [[nodiscard]] int index() const { return index_; }

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

  private:
    void buildDrawer(const level::Layer& layer);
    [[nodiscard]] QColor colour(const level::Layer& layer) const;
    Session& session_;
    SectionPanel& panel_;
    level::LayerId layer_;
    int index_;
    QPoint grip_;
    bool dragging_ = false;
};

class SectionPanel : public QWidget {
    Q_OBJECT
  public:
    SectionPanel(Session& session, QWidget* parent);
    void follow();
    // While a slab is dragged: the place at which it would come to stand, as an index into edit::section_order().
    [[nodiscard]] int dropIndex(QPoint globalPos) const;
    void showDrop(int index);
    void dropped(int from, int to);

  protected:
    void paintEvent(QPaintEvent*) override;

  private:
    void rebuild();
    Session& session_;
    QWidget* list_;
    QVBoxLayout* column_;
    QWidget* marker_;
    std::vector<Slab*> slabs_;
    std::string signature_;
};

} // namespace vic::app
