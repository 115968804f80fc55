// The left side of Cut: the sheets with their state.
#pragma once

#include <QPixmap>
#include <QString>
#include <QWidget>
#include <map>
#include <memory>

#include "app/parts/card_list.hpp"
#include "app/session/session.hpp"
#include "level/sheet.hpp"

namespace vic::level {
struct Sheet;
} // namespace vic::level

namespace vic::app {

class CardList;
class Session;

class SheetList : public QWidget {
    Q_OBJECT
  public:
    SheetList(Session& session, QWidget* parent);
    void refresh();

  signals:
    void addAsked();

  private:
    struct SheetLook {
        std::shared_ptr<const level::Sheet> of;
        QPixmap picture;
        QString under;
    };
    Session& session_;
    std::map<level::SheetId, SheetLook> known_;
    CardList* list_;
};

} // namespace vic::app
