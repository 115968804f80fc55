// In the properties of tiles: the pictures of an animated tile and how long each is shown.
#pragma once

#include <QWidget>
#include <set>
#include <vector>

#include "app/parts/binding.hpp"
#include "app/session/session.hpp"
#include "level/cell.hpp"

class QLabel;
class QPushButton;
class QSpinBox;

namespace vic::level {
struct Tile;
struct TileFrame;
} // namespace vic::level

namespace vic::app {

class PictureList;
class Session;

class FramesEditor : public QWidget {
    Q_OBJECT
  public:
    FramesEditor(Session& session, QWidget* parent);
    void refresh();

  private:
    void bind();
    [[nodiscard]] const std::vector<level::TileFrame>& frames() const;
    [[nodiscard]] std::set<int> chosenRows() const;
    [[nodiscard]] int shownDuration() const;
    void setDuration(int ms);
    Session& session_;
    std::vector<level::TileId> of_; // whose frames were shown last
    Bindings bound_;
    Bindings ofRows_; // what follows the chosen frames, too
    QPushButton* make_;
    QWidget* fields_;
    QLabel* sum_;
    PictureList* frames_;
    QSpinBox* duration_;
    QPushButton* stop_;
};

} // namespace vic::app
