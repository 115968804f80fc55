// Who is stopped by what: the project's movers against the collision classes.
#pragma once

#include <QString>
#include <QWidget>
#include <string>
#include <vector>

class QGridLayout;
class QLabel;
class QToolButton;

namespace vic::app {

class Session;

class MoversGrid : public QWidget {
    Q_OBJECT
  public:
    MoversGrid(Session& session, QWidget* parent);
    void refresh();

  private:
    void build(const std::vector<std::string>& classes);
    void addMover();
    void rename(const QString& name);
    Session& session_;
    QWidget* table_ = nullptr;
    QLabel* hint_ = nullptr;
    QToolButton* add_ = nullptr;
    std::vector<std::string> rows_, columns_; // classes and movers that are shown
    std::vector<std::vector<std::string>> passes_;
};

} // namespace vic::app
