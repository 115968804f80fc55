// In the properties of tiles: making a block of the chosen ones, and where a block stands.
#pragma once

#include <QWidget>
#include <array>
#include <cstddef>
#include <vector>

#include "app/session/session.hpp"

class QLabel;
class QPushButton;
class QSpinBox;
class QVBoxLayout;

namespace vic::level {
struct Tile;
} // namespace vic::level

namespace vic::app {

class Session;

class BlockEditor : public QWidget {
    Q_OBJECT
  public:
    BlockEditor(Session& session, QWidget* parent);
    void refresh();

  private:
    void buildNumbers(QVBoxLayout* inner);
    void setNumber(std::size_t which, int v);
    Session& session_;
    QPushButton* make_;
    QWidget* fields_;
    QLabel* size_;
    std::array<QSpinBox*, 5> numbers_{}; // pivot column and row, offset right and down, rows that stand up
    QPushButton* apart_;
};

} // namespace vic::app
