// What the window shows while no project is open: ways to begin, and projects to go on with.
#pragma once

#include <QString>
#include <QStringList>
#include <QWidget>

#include "edit/beginnings.hpp"

class QGridLayout;
class QLabel;
class QVBoxLayout;

namespace vic::app {

class DropArea;
class Session;
class StartCard;

class StartPage : public QWidget {
    Q_OBJECT
  public:
    StartPage(Session& session, QWidget* parent);
    void refresh();        // what can be gone on with may have changed
    void setLit(bool lit); // something is held over the window
    void focusFirst();     // what one most likely wants

  signals:
    void pictureAsked();
    void projectAsked();
    void beginningChosen(vic::edit::Beginning beginning);
    void recentChosen(const QString& dir);
    void demoAsked();
    void stepsAsked();

  private:
    QWidget* buildBegin();
    QWidget* buildGoOn();
    void addDemo(QVBoxLayout* column);
    Session& session_;
    DropArea* drop_;
    QLabel* count_;
    QGridLayout* recents_;
    QWidget* goOn_;
    StartCard* demo_ = nullptr; // null where the demo is not there
};

} // namespace vic::app
