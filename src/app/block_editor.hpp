// In the properties of tiles: making a block of the chosen ones, and where a block stands.
#pragma once

#include <QLabel>
#include <QPushButton>
#include <QSpinBox>
#include <array>

#include "app/session.hpp"

namespace vic::app {

class BlockEditor : public QWidget {
    Q_OBJECT
  public:
    BlockEditor(Session& session, QWidget* parent);
    void follow(const std::vector<const level::Tile*>& chosen);

  private:
    Session& session_;
    QPushButton* make_;
    QWidget* fields_;
    QLabel* size_;
    std::array<QSpinBox*, 5> numbers_{}; // pivot column and row, offset right and down, rows that stand up
    QPushButton* apart_;
};

} // namespace vic::app
