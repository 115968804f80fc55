// The left side of Cut: the sheets with their state.
#pragma once

#include "app/card_list.hpp"
#include "app/session.hpp"

namespace vic::app {

class SheetList : public QWidget {
    Q_OBJECT
  public:
    SheetList(Session& session, QWidget* parent);
    void follow();

  signals:
    void addAsked();

  private:
    Session& session_;
    CardList* list_;
};

} // namespace vic::app
