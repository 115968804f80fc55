// The right side of Bound: what the level blocks, in numbers.
#pragma once

#include <QWidget>

class QHideEvent;
class QLabel;
class QVBoxLayout;

namespace vic::app {

class LevelView;
class Session;
class LeakList;
class MoversGrid;
class BlockerList;
class SnagList;
class UsedList;

class BoundPanel : public QWidget {
    Q_OBJECT
  public:
    BoundPanel(Session& session, LevelView& view, QWidget* parent);
    void refresh(); // also while a stroke is drawn

  protected:
    void hideEvent(QHideEvent*) override;

  private:
    void buildShown(QVBoxLayout* column);
    Session& session_;
    LevelView& view_;
    UsedList* used_;
    LeakList* leaks_;
    SnagList* snags_;
    MoversGrid* movers_;
    BlockerList* blockers_;
    QWidget* reached_;
    QLabel* reach_;
    QLabel *shapes_, *outlines_, *corners_, *oneWay_, *rectangles_, *parts_, *saved_, *hint_, *aside_;
};

} // namespace vic::app
