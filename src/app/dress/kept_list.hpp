// What was done to a planting by hand, and stays when it grows again: how much of it, and each, on request.
#pragma once

#include <QString>
#include <QWidget>
#include <vector>

#include "base/geometry.hpp"
#include "level/planting.hpp"
#include "level/prop.hpp"

class QHideEvent;
class QLabel;
class QToolButton;

namespace vic::app {

class CardList;
class Session;

class KeptList : public QWidget {
    Q_OBJECT
  public:
    KeptList(Session& session, QWidget* parent);
    void show(level::LayerId layer); // of the open level, a planting; hides where nothing was done

  signals:
    void placeAsked(Point cell, const Box& cells); // is to be seen, the cells outlined
    void placeLeft();                              // nothing is outlined any more

  protected:
    void hideEvent(QHideEvent* event) override;

  private:
    struct Row {
        level::PropId prop = 0;      // that is kept
        level::TakenAway taken = {}; // else what was taken away
    };
    void choose(quint32 row);
    void forget(); // the chosen, or all
    Session& session_;
    level::LayerId layer_ = 0;
    std::vector<Row> rows_;
    quint32 chosen_ = 0; // number of the row from 1 on; 0: none
    QLabel* says_ = nullptr;
    QToolButton* more_ = nullptr;
    QToolButton* forget_ = nullptr;
    CardList* list_ = nullptr;
};

} // namespace vic::app
