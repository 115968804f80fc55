// A level from a picture: its colours with what each means, shown in the level before it is done.
#pragma once

#include <QString>
#include <QTimer>
#include <QWidget>
#include <cstddef>
#include <memory>
#include <string>
#include <vector>

#include "app/lay/plan_keys.hpp"
#include "app/session/session.hpp"
#include "app/sheet/tile_picker.hpp"
#include "app/view/level_view.hpp"
#include "base/geometry.hpp"
#include "base/image.hpp"
#include "level/plan.hpp"

class QCheckBox;
class QLabel;
class QPushButton;
class QSlider;
class QVBoxLayout;

namespace vic::edit {
struct Followed;
} // namespace vic::edit

namespace vic::app {

class LevelView;
class PictureList;
class Session;
class TilePicker;

class PlanPanel : public QWidget {
    Q_OBJECT
  public:
    PlanPanel(Session& session, LevelView& view, QWidget* parent);
    // Takes a picture from anywhere as the plan of the present level. Throws InputError.
    void begin(const QString& file);
    void again(); // the plan that the level follows
    void leave();
    [[nodiscard]] bool active() const { return active_; }

  signals:
    void activeChanged();

  private:
    void listen();
    void buildHead(QVBoxLayout* column);
    void readAgain(); // the colours, after another gathering
    void fill();
    [[nodiscard]] std::vector<PlanKeys::Meaning> meanings(const level::PlanKey& key) const;
    void mean(std::size_t key, const level::PlanKey& now);
    void trial();
    void show(const edit::Followed& f);
    void lay();
    Session& session_;
    LevelView& view_;
    level::Plan plan_;
    std::string levelId_;
    std::shared_ptr<const Image> picture_;
    bool active_ = false;
    QLabel *preview_, *facts_, *result_;
    QSlider* gather_;
    QCheckBox* bottomUp_;
    PlanKeys* keys_;
    PictureList* byHand_;
    std::vector<Point> byHandCells_;
    QPushButton* lay_;
    QTimer later_;
    TilePicker* picker_;
    std::size_t picking_ = 0; // the key that a tile is chosen for
};

} // namespace vic::app
