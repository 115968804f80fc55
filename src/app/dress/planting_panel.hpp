// A planting in Dress: where it grows, its passes, how lively it looks, and what was done by hand.
#pragma once

#include <QPixmap>
#include <QString>
#include <QWidget>
#include <vector>

#include "app/parts/binding.hpp"
#include "base/geometry.hpp"
#include "level/prop.hpp"
#include "level/sheet.hpp"

class QLabel;
class QPushButton;
class QScrollArea;
class QToolButton;
class QVBoxLayout;

namespace vic::app {

class KeptList;
class PassCard;
class Session;
class TermRows;

class PlantingPanel : public QWidget {
    Q_OBJECT
  public:
    PlantingPanel(Session& session, QWidget* parent);
    // Whether it is to be seen: the active layer is a planting, and it was not put away for the Tray.
    [[nodiscard]] bool wanted() const;
    void refresh();

  signals:
    void trayAsked(); // wanted() has changed
    void heatAsked(); // repetition is to be shown, or not
    void afarAsked();
    void placeAsked(Point cell, const Box& cells); // is to be seen, the cells outlined
    void placeLeft();                              // nothing is outlined any more

  private:
    void buildHead(QVBoxLayout* column);
    void buildFoot(QVBoxLayout* column);
    void showLayer(); // makes what is of one layer, when another is active
    void showPasses();
    void open(int pass);
    void addPass(level::PropKindId of);
    void showSeeds();
    void makeProps();
    void pasteRecipe();
    [[nodiscard]] QPixmap dots(const std::vector<level::Prop>& props) const;
    [[nodiscard]] QString kindsText() const;
    [[nodiscard]] QString livelyText() const;

    Session& session_;
    level::LayerId layer_ = 0;
    level::LayerId away_ = 0; // the layer for which the Tray is seen instead
    int open_ = -1;
    QLabel* aside_ = nullptr;
    QLabel* title_ = nullptr;
    QLabel* kinds_ = nullptr;
    QLabel* lively_ = nullptr;
    KeptList* kept_ = nullptr;
    QToolButton* heat_ = nullptr;
    QScrollArea* scroll_ = nullptr;
    QWidget* list_ = nullptr;
    QVBoxLayout* where_ = nullptr;
    QVBoxLayout* cards_ = nullptr;
    TermRows* terms_ = nullptr;
    std::vector<PassCard*> passes_;
    Bindings fields_;
};

} // namespace vic::app
