// The right side of Dress, below the Tray: the chosen mark.
#pragma once

#include <QWidget>
#include <functional>
#include <string>

#include "app/parts/binding.hpp"
#include "level/level.hpp"

class QMenu;
class QToolButton;
class QVBoxLayout;

namespace vic::app {

class NoteRows;
class Session;

// What a mark is called and is, its colour, the cells that it stands for, and its notes.
class MarkPanel : public QWidget {
    Q_OBJECT
  public:
    MarkPanel(Session& session, QWidget* parent);
    void refresh();

  private:
    void change(const QString& name, const std::function<void(level::Mark&)>& what, const std::string& merge = {});
    void buildWhat(QVBoxLayout* column);
    void buildCells(QVBoxLayout* column);
    void buildNotes(QVBoxLayout* column);
    void chooseColour();

    Session& session_;
    QToolButton* colour_ = nullptr;
    NoteRows* notes_ = nullptr;
    Bindings fields_;
};

} // namespace vic::app
