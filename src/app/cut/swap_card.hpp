// One sheet in the place of another through a level or all of them: opened at its button, with what has no counterpart
// said before anything changes.
#pragma once

#include <QFrame>
#include <QPoint>
#include <string>
#include <vector>

#include "level/sheet.hpp"

class QComboBox;
class QHBoxLayout;
class QLabel;
class QPushButton;

namespace vic::app {

class Session;

class SwapCard : public QFrame {
    Q_OBJECT
  public:
    SwapCard(Session& session, QWidget* parent);
    void open(level::SheetId from, QPoint upperRight); // on the screen

  private:
    void tell();
    void swap();
    [[nodiscard]] std::vector<std::string> levels() const;
    Session& session_;
    level::SheetId from_ = 0;
    QLabel *head_, *says_;
    QComboBox *to_, *where_;
    QHBoxLayout* alone_;
    QPushButton* go_;
};

} // namespace vic::app
