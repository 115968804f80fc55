// SIGTERM, SIGINT and SIGHUP as a signal of the event loop.
#pragma once

#include <QObject>

namespace vic::app {

// At most one lives at a time.
class Signals : public QObject {
    Q_OBJECT
  public:
    explicit Signals(QObject* parent = nullptr);
    ~Signals() override;

  signals:
    void asked(); // the program is to end
};

} // namespace vic::app
