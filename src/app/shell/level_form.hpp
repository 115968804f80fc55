// The question for a new level, or for another lattice of one: name, size, cells, view; with a drawing of its cells.
#pragma once

#include <QDialog>
#include <QString>
#include <functional>
#include <string>
#include <vector>

#include "base/geometry.hpp"
#include "base/lattice.hpp"
#include "level/level.hpp"
#include "level/project.hpp"

class QButtonGroup;
class QLabel;
class QLineEdit;
class QPushButton;
class QSpinBox;
class QToolButton;
class QVBoxLayout;
class QComboBox;
class QWidget;

namespace vic::app {

struct LevelShape {
    QString name;
    Size size{96, 64}; // cells
    Size cell{16, 16}; // pixels
    LatticeKind lattice = LatticeKind::square;
    level::View view = level::View::from_above;
    std::string like;     // the id of the level whose layers, walker and frame it gets; empty: plain ones
    Size frame{320, 224}; // pixels; to be counted
};

class LevelForm : public QDialog {
    Q_OBJECT
  public:
    // With `fresh` it asks for all of it, and offers levels to be like (each with its `like` set); else for the lattice
    // alone. `says` tells what the choice would do; may be empty.
    LevelForm(const LevelShape& shape, bool fresh, std::function<QString(const LevelShape&)> says, QWidget* parent,
              std::vector<LevelShape> likes = {});
    [[nodiscard]] LevelShape shape() const;

  private:
    QWidget* pair(const char* id, Size now, int most, const QString& unit, QSpinBox*& w, QSpinBox*& h);
    QToolButton* choice(const char* id, const QString& text, const QString& help, bool on, QButtonGroup* group);
    QWidget* both(QToolButton* a, QToolButton* b);
    void buildButtons(QVBoxLayout* column);
    void refresh();
    void readName();
    void buildLikes(QVBoxLayout* column);
    void takeLike(int which);
    [[nodiscard]] QString measures() const;
    LevelShape was_;
    bool fresh_;
    std::vector<LevelShape> likes_;
    QComboBox* like_ = nullptr;
    std::function<QString(const LevelShape&)> says_;
    QLineEdit* name_;
    QSpinBox *width_, *height_, *cellWidth_, *cellHeight_;
    QToolButton *square_, *isometric_, *above_, *side_;
    QWidget* drawing_;
    QLabel* sentence_;
    QPushButton* ok_;
};

// What the layers of a new level are called, in the language of the window.
level::LayerNames layerNames();

} // namespace vic::app
