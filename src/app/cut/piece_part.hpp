// What of a kit's piece blocks in height, where a tile that shows one is chosen.
#pragma once

#include <QWidget>
#include <string>
#include <vector>

#include "app/parts/binding.hpp"

namespace vic::app {

class Session;

class PiecePart : public QWidget {
    Q_OBJECT
  public:
    PiecePart(Session& session, QWidget* parent);
    void refresh() { fields_.refresh(); }

  private:
    std::vector<std::string> nodes();
    Session& session_;
    Bindings fields_;
};

} // namespace vic::app
