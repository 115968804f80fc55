// A tile out of all sheets, chosen from a window that pops up where it is asked for.
#pragma once

#include <QFrame>

#include "app/session/session.hpp"
#include "app/sheet/sheet_view.hpp"
#include "level/cell.hpp"

class QComboBox;
class QWidget;

namespace vic::app {

class Session;
class SheetView;

class TilePicker : public QFrame {
    Q_OBJECT
  public:
    TilePicker(Session& session, QWidget* parent);
    // Below a widget, or above it where there is no room; on the sheet that was shown last.
    void popUp(QWidget* at);

  signals:
    void picked(vic::level::TileId tile);

  private:
    Session& session_;
    QComboBox* sheets_;
    SheetView* view_;
};

} // namespace vic::app
