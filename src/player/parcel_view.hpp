// Shows a parcel and plays it: the level as an engine would draw it from the atlas, with the walker in it. The player's
// window and the Walk stage are this widget.
#pragma once

#include <QBasicTimer>
#include <QElapsedTimer>
#include <QImage>
#include <QPoint>
#include <QPointF>
#include <QWidget>
#include <cstddef>
#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <vector>

#include "walk/proofs.hpp"
#include "walk/world.hpp"

namespace vic::player {

class ParcelView : public QWidget {
    Q_OBJECT
  public:
    explicit ParcelView(QWidget* parent = nullptr);
    ~ParcelView() override;

    // Loads the parcel through the runtime header. The walker starts anew, or stays where it is. Throws
    // std::runtime_error; what was shown before is then shown on.
    void load(const QString& dir, bool keepPlace);
    void unload();
    [[nodiscard]] bool isLoaded() const { return game_ != nullptr; }
    [[nodiscard]] const vicinum::Level& level() const;
    [[nodiscard]] const walk::World& world() const;

    void setRunning(bool on);
    // Where the walker begins instead of at the start, from the next load or restart on.
    void setBeginning(std::optional<walk::Position> foot) { beginning_ = foot; }
    void restart();
    // What was done since the walker began, and the ways of the tries before that, the last three.
    [[nodiscard]] const walk::Recorder& recorder() const { return *recorder_; }
    [[nodiscard]] const std::vector<std::vector<walk::Position>>& trails() const { return trails_; }
    // What happened in the try before this one.
    struct Tried {
        std::vector<walk::Happening> happenings;
        std::vector<walk::Position> way;
    };
    [[nodiscard]] const Tried& last() const { return last_; }
    // A place that is shown instead of the walker, with a pin in it; back to him without one.
    void lookAt(std::optional<walk::Position> place);
    void setOutlines(bool on);
    [[nodiscard]] bool showsOutlines() const { return outlines_; }
    // One tick by hand; for tests and for stepping.
    void step();

  signals:
    void ticked();
    void leaveAsked(); // Esc
    void ended(bool exit);
    void left(int side); // by a side that leads on (0 north .. 3 west); the walker is at the start again

  protected:
    void paintEvent(QPaintEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void keyReleaseEvent(QKeyEvent*) override;
    void focusOutEvent(QFocusEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void timerEvent(QTimerEvent*) override;

  private:
    struct Game;
    void setKey(int key, bool down);
    void lead();
    // Where in the widget the frame is: `frame` in pixels of the level, each `zoom` large.
    struct Shown {
        int zoom = 1;
        QPoint corner;
        vicinum::Rect frame;
    };
    [[nodiscard]] Shown shown() const;
    // What stands up in layers that are sorted by feet, and how it is painted.
    struct Upright {
        double foot;
        int kind; // at one line tiles come before props, and those before the walker
        std::size_t layer;
        int x;
        std::function<void()> paint;
    };
    // An animated one goes on where it moves, and else shows its first frame.
    void paintActor(QPainter& painter, std::size_t kind, vicinum::Vec at, bool mirrored, bool moves);
    void paintWalker(QPainter& painter);
    void paintCell(QPainter& painter, const vicinum::Layer& layer, const QImage& atlas, QPoint at);
    void paintLayer(QPainter& painter, std::size_t index, const vicinum::Rect& frame,
                    std::vector<Upright>* uprights = nullptr);
    [[nodiscard]] std::vector<QPoint> aslantIn(const vicinum::Layer& layer, const vicinum::Rect& frame) const;
    void paintProp(QPainter& painter, const vicinum::Layer& layer, const vicinum::Prop& prop,
                   const vicinum::Rect& frame);
    void paintOutlines(QPainter& painter);
    std::unique_ptr<Game> game_;
    walk::Input input_;
    std::optional<QPointF> led_; // where the mouse is held
    QBasicTimer timer_;
    QElapsedTimer clock_;
    qint64 behind_ = 0; // nanoseconds that have passed and were not yet played
    bool outlines_ = false;
    bool looksLeft_ = false; // the walker's figure
    bool said_ = false;
    std::optional<walk::Position> beginning_;
    std::optional<walk::Position> look_;
    std::unique_ptr<walk::Recorder> recorder_;
    std::vector<std::vector<walk::Position>> trails_;
    Tried last_;
    walk::Position centre_; // what the frame is around
    void begin();
    void keepTrail();
    void paintTrails(QPainter& painter);
};

} // namespace vic::player
