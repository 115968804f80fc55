// History as a list with pictures, and the keep-points: opened under its button.
#pragma once

#include <QFrame>
#include <QPoint>

class QListWidget;
class QWidget;

namespace vic::app {

class Session;

class HistoryPanel : public QFrame {
    Q_OBJECT
  public:
    HistoryPanel(Session& session, QWidget* parent);
    void open(QPoint upperRight); // on the screen

  private:
    void fill();
    Session& session_;
    QListWidget *steps_, *kept_;
};

} // namespace vic::app
