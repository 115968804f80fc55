// The contrast lens: the level by brightness alone, what blocks and what can be used in a colour each, and what looks
// otherwise than it is in a frame.
#pragma once

#include <QImage>
#include <QObject>
#include <QRect>
#include <QString>
#include <memory>
#include <vector>

#include "app/view/pages.hpp"
#include "picture/contrast.hpp"

class QPainter;

namespace vic::app {

class Camera;
class Session;

class ContrastLens : public QObject {
    Q_OBJECT
  public:
    explicit ContrastLens(Session& session);
    [[nodiscard]] bool on() const { return on_; }
    void setOn(bool on, const level::Level& level);
    // The level is another one now. Nothing happens while it is off.
    void show(const level::Level& level);
    void measure(const level::Level& level); // in the background; nothing happens while it is off
    void prepare(int small, const Box& pixels);
    // A page as `pages` has it, in the lens's colours. Valid until the next call.
    [[nodiscard]] const QImage& page(Pages& pages, int small, int x, int y, const QRect& part);
    void paint(QPainter& p, const Camera& camera) const;
    // What is doubtful there, in pixels of the level; empty where nothing is.
    [[nodiscard]] QString reading(Point pixel) const;
    [[nodiscard]] const std::vector<picture::Doubt>& doubts() const { return doubts_; }
    [[nodiscard]] bool measuring() const;
    [[nodiscard]] QString summary() const;

  signals:
    void measured();

  private:
    Session& session_;
    bool on_ = false;
    picture::Without blocking_{false}, either_{true};
    Pages open_;    // without what blocks
    Pages scenery_; // nor what can be used
    QImage image_;
    struct Of { // what doubts follow from
        std::vector<level::LayerRef> layers;
        std::vector<std::shared_ptr<const level::Sheet>> sheets;
        std::vector<std::shared_ptr<const level::PropKind>> kinds;
        level::PartsHere here;
        bool operator==(const Of&) const = default;
    };
    Of measured_;
    std::vector<picture::Doubt> doubts_;
};

} // namespace vic::app
