// History as a list with pictures, and the keep-points: opened under its button.
#pragma once

#include <QFrame>
#include <QPixmap>
#include <QPoint>
#include <cstddef>

class QWidget;

namespace vic::app {

class PictureList;
class Session;

class HistoryPanel : public QFrame {
    Q_OBJECT
  public:
    HistoryPanel(Session& session, QWidget* parent);
    void open(QPoint upperRight); // on the screen

  private:
    void fill();
    [[nodiscard]] QPixmap pictureOf(std::size_t step) const;
    Session& session_;
    PictureList *steps_, *kept_;
};

} // namespace vic::app
