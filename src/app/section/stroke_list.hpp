// The last strokes with their layer, below the Section. One that went to the wrong layer is dragged onto the slab of
// the right one.
#pragma once

#include <QPixmap>
#include <QPoint>
#include <QSize>
#include <QString>
#include <QWidget>
#include <vector>

#include "app/section/section_panel.hpp"
#include "base/turn.hpp"
#include "edit/document.hpp"
#include "edit/lift.hpp"
#include "level/sheet.hpp"

class QMouseEvent;
class QPaintEvent;

namespace vic::app {

class SectionPanel;
class Session;

class StrokeList : public QWidget {
    Q_OBJECT
  public:
    StrokeList(Session& session, SectionPanel& section, QWidget* parent);
    void refresh();
    [[nodiscard]] int count() const { return static_cast<int>(strokes_.size()); }
    [[nodiscard]] QPoint rowCentre(int row) const;
    [[nodiscard]] QSize sizeHint() const override;

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;

  private:
    struct Row {
        edit::LaidStroke stroke;
        edit::ProjectState before, after;
        QString name;
        QPixmap picture;
    };
    void lift(const Row& row, level::LayerId to);
    Session& session_;
    SectionPanel& section_;
    std::vector<Row> strokes_; // the latest first
    edit::ProjectState of_;
    int grip_ = -1;
    QPoint pressed_;
    bool dragging_ = false;
};

} // namespace vic::app
