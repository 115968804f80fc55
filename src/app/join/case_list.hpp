// The cases of a join set, each with the tile that serves it.
#pragma once

#include <QPoint>
#include <QRect>
#include <QSize>
#include <QString>
#include <QWidget>
#include <set>
#include <utility>
#include <vector>

#include "app/session/session.hpp"
#include "join/mask.hpp"

class QKeyEvent;
class QMouseEvent;
class QPaintEvent;
class QResizeEvent;

namespace vic::app {

class Session;

// One case as a tile; missing ones are empty with a dashed line.
class CaseList : public QWidget {
    Q_OBJECT
  public:
    CaseList(Session& session, QWidget* parent);
    void refresh();
    [[nodiscard]] QPoint caseCentre(join::Mask mask) const;
    [[nodiscard]] QSize sizeHint() const override;

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void resizeEvent(QResizeEvent*) override;

  public:
    // Cases that would have to be drawn, marked until the table changes.
    void setToDraw(const std::vector<join::Mask>& masks);

  private:
    void layOut();
    Session& session_;
    std::set<join::Mask> toDraw_;
    std::vector<std::pair<join::Mask, QRect>> places_;
    std::vector<std::pair<QString, QRect>> titles_;
    int height_ = 200;
};

} // namespace vic::app
