// The tiles of a sheet to choose from: arranged as they are there, or without gaps and blank ones, or those alone that
// lie in the level.
#pragma once

#include <QString>
#include <QWidget>
#include <map>
#include <memory>
#include <utility>
#include <vector>

#include "edit/document.hpp"
#include "level/level.hpp"
#include "level/sheet.hpp"

class QComboBox;
class QPoint;
class QStackedWidget;

namespace vic::app {

class PictureList;
class Session;
class SheetView;

class TileChooser : public QWidget {
    Q_OBJECT
  public:
    TileChooser(Session& session, QWidget* parent);
    void refresh();
    void forget(); // the pictures may be others
    [[nodiscard]] level::SheetId sheetId() const;

  signals:
    void picked(vic::level::TileId tile);
    void dragged(std::vector<vic::level::TileId> tiles); // over several, as they are arranged

  private:
    enum Order { Arranged, Flowing, Used };
    void build();
    void refreshNames();
    void enlarge();
    void flow();
    void count(); // what the level uses, in the background
    void ask(level::TileId tile, QPoint at);
    [[nodiscard]] Order order() const;
    Session& session_;
    QComboBox *sheets_, *size_, *order_;
    QStackedWidget* stack_;
    SheetView* sheet_;
    PictureList* list_;
    std::vector<std::pair<QString, level::SheetId>> names_;
    std::vector<level::TileId> shown_; // in the list
    std::shared_ptr<const level::Level> countedOf_;
    std::map<level::TileId, std::int64_t> counts_;
};

// What is known of a tile, a line each: its name, size, cases, shape, home, tags, and how often it lies in the level
// where that was counted (-1 where not).
QStringList tileFacts(const Session& session, level::TileId tile, std::int64_t laid);

} // namespace vic::app
