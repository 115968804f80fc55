// What is at work in the background, once it has taken longer than one waits without asking: how far it is, and a
// button that stops it.
#pragma once

#include <QTimer>
#include <QWidget>

#include "app/session/jobs.hpp"

class QLabel;

namespace vic::app {

class Jobs;

class JobStrip : public QWidget {
    Q_OBJECT
  public:
    JobStrip(Jobs& jobs, QWidget* parent);

  private:
    void refresh();
    Jobs& jobs_;
    QLabel* text_;
    QTimer timer_;
};

} // namespace vic::app
