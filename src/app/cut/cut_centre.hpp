// The middle of the Cut stage: a sheet with its proposals, numbers and islands.
#pragma once

#include <QString>
#include <QWidget>
#include <array>
#include <functional>
#include <memory>
#include <string>
#include <vector>

#include "app/parts/binding.hpp"
#include "app/session/session.hpp"
#include "app/sheet/sheet_view.hpp"
#include "base/geometry.hpp"
#include "base/image.hpp"
#include "level/cell.hpp"
#include "sheet/islands.hpp"
#include "sheet/what.hpp"

class QCheckBox;
class QHBoxLayout;
class QLabel;
class QPushButton;
class QSpinBox;
class QStackedWidget;
class QToolButton;
class QVBoxLayout;

namespace vic::level {
struct Cut;
} // namespace vic::level

namespace vic::app {

class Session;

class CutCentre : public QWidget {
    Q_OBJECT
  public:
    CutCentre(Session& session, QWidget* parent);
    void refresh();
    [[nodiscard]] SheetView* view() const { return view_; }
    [[nodiscard]] QString reading() const { return reading_; }
    void takeBest(); // Enter

  signals:
    void readingChanged();
    void modeChanged();

  private:
    void buildView(QVBoxLayout* column);
    void buildWaiting(QVBoxLayout* column);
    void buildTake(QHBoxLayout* row);
    QWidget* buildHandRow();
    QWidget* buildIslandRow();
    QWidget* buildShowRow();
    void setMode(SheetView::Mode mode);
    void findIslands(bool propose);
    void readIslands();
    void takeIslands();
    void pull(const level::Cut& cut, bool done);
    void refreshIslands();
    void take(const level::Cut& cut);
    void byHand();
    void hover(level::TileId tile);
    // The cards above the picture: what it is, how it is cut, and what taking one does.
    void rebuildCards();
    void addCards(const level::Sheet& sheet, const sheet::SheetReading& reading);
    void addFolderCards(const level::Sheet& sheet);
    void addStopped();
    void addCard(const char* name, const QString& title, const QString& reason, bool first,
                 const std::function<void()>& go);
    [[nodiscard]] sheet::What what() const; // the chosen sheet is, as far as it is read
    [[nodiscard]] QString takeText() const;
    [[nodiscard]] QString whatText() const; // for the reading line, of what is not read as tiles
    void takeAs(sheet::What what);
    void takeProp();
    void takeBackdrop();
    void addProp(const Box& box);
    Session& session_;
    Bindings fields_;
    SheetView* view_;
    QWidget* cards_;
    QHBoxLayout* cardRow_;
    std::array<QSpinBox*, 7> numbers_{};
    QPushButton* takeButton_;
    QLabel* trouble_;
    QStackedWidget* rows_;
    QWidget* waitStrip_;
    QLabel* waitText_;
    QWidget* showRow_;
    std::array<QToolButton*, 2> modes_{};
    QSpinBox* joinGap_;
    QSpinBox* leastArea_;
    QCheckBox* byCells_; // shown where the sheet has cells that things keep within
    QLabel* islandCount_;
    QPushButton* takeIslands_;
    sheet::IslandMap islandMap_;
    std::shared_ptr<const Image> islandsRead_; // what is being looked at, or was when that was stopped
    [[nodiscard]] sheet::IslandSettings islandSettings() const;
    std::shared_ptr<const Image> islandsOf_;
    std::vector<Box> islands_;
    QString reading_;
    std::string cardsOf_;
    level::TileId hovered_ = 0;
};

} // namespace vic::app
