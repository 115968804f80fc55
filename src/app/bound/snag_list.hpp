// What holds the walker up, or lets him fall, in a level of kit pieces; with what mends it at hand.
#pragma once

#include <QWidget>
#include <memory>

#include "app/session/merged_mass.hpp"

class QLabel;
class QToolButton;

namespace vic::app {

class CardList;
class LevelView;
class Session;

class SnagList : public QWidget {
    Q_OBJECT
  public:
    SnagList(Session& session, LevelView& view, QWidget* parent);
    void refresh(); // looks anew, in the background, where the level is another one

  private:
    void show();
    void choose(quint32 index);
    void open();
    [[nodiscard]] const upright::Snag* chosen() const;
    Session& session_;
    LevelView& view_;
    std::shared_ptr<const SurveyedMass> mass_;
    int chosen_ = -1;
    CardList* list_;
    QLabel *count_ = nullptr, *none_, *remedy_;
    QToolButton* open_;
};

} // namespace vic::app
