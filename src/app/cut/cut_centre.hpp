// The middle of the Cut stage: a sheet with its proposals, numbers and islands.
#pragma once

#include <QString>
#include <QWidget>
#include <array>
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
    void rebuildCards();
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
