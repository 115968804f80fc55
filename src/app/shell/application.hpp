// The program: where whatever escapes from the window's code ends, in a message and with an unharmed document.
#pragma once

#include <QApplication>
#include <QString>

class QEvent;
class QObject;

namespace vic::app {

class Application : public QApplication {
    Q_OBJECT
  public:
    Application(int& argc, char** argv) : QApplication(argc, argv) {}
    bool notify(QObject* receiver, QEvent* event) override;

  signals:
    void trouble(const QString& text);
};

} // namespace vic::app
