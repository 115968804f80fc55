// The right side of Lay, Dress and Bound: the Hand, the Tray and the pockets.
#pragma once

#include <QButtonGroup>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QStackedWidget>
#include <QToolButton>
#include <QWidget>
#include <deque>
#include <optional>

#include "app/hand_options.hpp"
#include "app/sheet_view.hpp"

namespace vic::app {

QPixmap handPicture(const level::Project& project, const edit::Hand& hand, int side);
QString handName(const level::Project& project, const edit::Hand& hand);

// Three things a row, also beside a scroll bar, so that most names have room.
inline constexpr QSize kTrayGrid{77, 76};
inline constexpr QSize kTrayItem{75, 74};

// What will be laid, drawn as it would look.
class HandCard : public QWidget {
    Q_OBJECT
  public:
    HandCard(Session& session, QWidget* parent);
    void follow();
    [[nodiscard]] QSize sizeHint() const override { return {240, 132}; }

  protected:
    void paintEvent(QPaintEvent*) override;

  private:
    Session& session_;
};

// Nine numbered slots that keep a Hand.
class Pockets : public QWidget {
    Q_OBJECT
  public:
    Pockets(Session& session, QWidget* parent);
    void use(int index);  // 0 .. 8: takes what it holds, or keeps the present Hand where it is empty
    void keep(int index); // puts the present Hand into it
    [[nodiscard]] QSize sizeHint() const override { return {240, 34}; }
    [[nodiscard]] QString packed() const; // for the settings
    void unpack(const QString& text);

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;

  private:
    Session& session_;
    std::array<edit::Hand, 9> hands_{};
};

class Tray : public QWidget {
    Q_OBJECT
  public:
    Tray(Session& session, LayCommands& commands, QWidget* parent);
    void follow();
    [[nodiscard]] Pockets* pockets() const { return pockets_; }
    [[nodiscard]] QString packedRecents() const; // for the settings
    void unpackRecents(const QString& text);
    void search(); // goes to the field
    void showLastHands();

  protected:
    void showEvent(QShowEvent* event) override;

  private:
    enum Tab { Materials, Tiles, Props, Stamps, Gathered };
    static constexpr int kTabs = 4;
    // What is gathered: what the search finds, what was in the Hand lately, or a tray of one's own.
    enum class Source { tabs, search, recent, own };
    void setTab(int tab);
    void setSource(Source source, level::OwnTrayId own = 0);
    void gather();
    void followWhich();
    void take(const level::TrayItem& item);
    void buildMenu();
    void editTray(level::OwnTrayId id); // 0: a new one
    [[nodiscard]] const level::OwnTray* own() const;
    [[nodiscard]] std::optional<level::TrayItem> inHand() const;
    void fill(QListWidget* list, Tab tab);
    void showStampMenu(QPoint at);
    Source source_ = Source::tabs;
    level::OwnTrayId own_ = 0;
    std::deque<level::TrayItem> recents_;
    std::vector<level::TrayItem> gathered_;
    edit::ProjectState gatheredOf_;
    QLineEdit* search_;
    QToolButton* which_;
    QMenu* menu_;
    QListWidget* found_;
    Session& session_;
    HandCard* card_;
    HandOptions* options_;
    QButtonGroup* tabs_;
    QStackedWidget* stack_;
    QListWidget* materials_;
    QListWidget* props_;
    QListWidget* stamps_;
    QComboBox* sheets_;
    SheetView* sheet_;
    QLabel* empty_;
    Pockets* pockets_;
    edit::ProjectState filledFor_;
};

} // namespace vic::app
