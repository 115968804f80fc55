// The left side of Cut: the sheets with their state.
#pragma once

#include <map>
#include <memory>

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
    struct Known {
        std::shared_ptr<const level::Sheet> of;
        QPixmap picture;
        QString under;
    };
    Session& session_;
    std::map<level::SheetId, Known> known_;
    CardList* list_;
};

} // namespace vic::app
