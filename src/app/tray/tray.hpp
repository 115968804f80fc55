// The right side of Lay, Dress and Bound: the Hand, the Tray and the pockets.
#pragma once

#include <QPoint>
#include <QSize>
#include <QString>
#include <QWidget>
#include <deque>
#include <optional>
#include <vector>

#include "app/commands/lay_commands.hpp"
#include "app/session/session.hpp"
#include "app/tray/hand_card.hpp"
#include "app/tray/hand_options.hpp"
#include "app/tray/pockets.hpp"
#include "app/tray/tile_chooser.hpp"
#include "edit/document.hpp"
#include "level/own_tray.hpp"

class QButtonGroup;
class QLabel;
class QLineEdit;
class QMenu;
class QShowEvent;
class QStackedWidget;
class QToolButton;
class QVBoxLayout;

namespace vic::level {
struct OwnTray;
} // namespace vic::level

namespace vic::app {

class HandCard;
class HandOptions;
class LayCommands;
class PictureList;
class Pockets;
class Session;
class TileChooser;

// Three things a row, also beside a scroll bar, so that most names have room.
inline constexpr QSize kTrayGrid{77, 76};
inline constexpr QSize kTrayItem{75, 74};

class Tray : public QWidget {
    Q_OBJECT
  public:
    Tray(Session& session, LayCommands& commands, QWidget* parent);
    void refresh();
    [[nodiscard]] Pockets* pockets() const { return pockets_; }
    [[nodiscard]] QString packedRecents() const; // for the settings
    void unpackRecents(const QString& text);
    void search(); // goes to the field
    void showLastHands();

  protected:
    void showEvent(QShowEvent* event) override;

  private:
    void listen();
    void buildLists(QVBoxLayout* column);
    void buildTabs(QVBoxLayout* column);
    void buildSearch(QVBoxLayout* column);
    enum Tab { Materials, Tiles, Props, Stamps, Gathered };
    static constexpr int kTabs = 4;
    // What is gathered: what the search finds, what was in the Hand lately, or a tray of one's own.
    enum class Source { tabs, search, recent, own };
    void takeTiles(const std::vector<level::TileId>& tiles);
    void setTab(int tab);
    void setSource(Source source, level::OwnTrayId own = 0);
    void gather();
    [[nodiscard]] QPixmap gatheredPicture(std::size_t row) const;
    void refreshWhich();
    void take(const level::TrayItem& item);
    void buildMenu();
    void editTray(level::OwnTrayId id); // 0: a new one
    [[nodiscard]] const level::OwnTray* own() const;
    [[nodiscard]] std::optional<level::TrayItem> inHand() const;
    void fill();
    void showStampMenu(QPoint at);
    Source source_ = Source::tabs;
    level::OwnTrayId own_ = 0;
    std::deque<level::TrayItem> recents_;
    std::vector<level::TrayItem> gathered_;
    edit::ProjectState gatheredOf_;
    QLineEdit* search_;
    QToolButton* which_;
    QMenu* menu_;
    PictureList* found_;
    Session& session_;
    HandCard* card_;
    HandOptions* options_;
    QButtonGroup* tabs_;
    QStackedWidget* stack_;
    PictureList* materials_;
    PictureList* props_;
    PictureList* stamps_;
    TileChooser* tiles_;
    QLabel* empty_;
    Pockets* pockets_;
    edit::ProjectState filledFor_;
};

} // namespace vic::app
