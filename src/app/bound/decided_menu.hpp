// Who decides over a cell, and what can be changed of that, offered where it was asked.
#pragma once

#include <QObject>
#include <QString>

#include "edit/used.hpp"

class QMenu;

namespace vic::app {

class LevelView;
class Session;

class DecidedMenu : public QObject {
    Q_OBJECT
  public:
    DecidedMenu(Session& session, LevelView& view, QObject* parent);
    void open(Point cell); // of the level at hand; beside the cell

  signals:
    void wanted(const edit::Used& thing); // to be chosen among what is used

  private:
    void addParts(QMenu& menu, const edit::Used& thing, const QString& name, bool here);
    void addOwnWords(QMenu& menu, Point cell);
    Session& session_;
    LevelView& view_;
};

} // namespace vic::app
