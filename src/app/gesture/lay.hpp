// Laying cells: what pencil, line, rectangle, ellipse, fill, replace, eraser and stamps have in common. Each says which
// cells it is about; the preview and the stroke are the same calculation of the core.
#pragma once

#include <QString>
#include <cstdint>
#include <optional>
#include <vector>

#include "app/gesture/gesture.hpp"
#include "base/geometry.hpp"
#include "edit/stroke.hpp"
#include "level/level.hpp"
#include "level/region.hpp"
#include "level/sheet.hpp"
#include "level/stamp.hpp"

class QPainter;

namespace vic::level {
struct Layer;
} // namespace vic::level

namespace vic::app {

class LayGesture : public Gesture {
  public:
    using Gesture::Gesture;
    bool takes(const Pointer& at) const override;
    bool press(const Pointer& at) override;
    void move(const Pointer& at) override;
    void release(const Pointer& at) override;
    void cancel() override;
    bool preview(const Pointer& at) override;
    void forget() override { found_ = {}; }
    void paint(QPainter& painter, const std::optional<Pointer>& at) const override;
    Sentence sentence(const Pointer& at) const override;
    level::LayerId target() const override { return found_.target; }

  protected:
    struct Stroke {
        level::Level level; // as it is now
        edit::Hand hand;
        level::LayerId layer = 0;
        Point from, last;
        level::Level before;      // as it was, with the same size
        std::uint32_t nextId = 0; // of the project, if ids were given out
        Point grown{};            // cells that came to it on the left and above
        bool shift = false;       // held when it was pressed
        bool swaps = false;       // what it lays takes the place of what is there
    };
    // What the last stroke or preview came to.
    struct Found {
        level::LayerId target = 0;
        int joined = 0;
        std::int64_t filled = 0;    // cells that a fill would change in view
        std::int64_t onOverlay = 0; // cells that would go to, or leave, the overlay
        std::int64_t stayedOut = 0; // cells that would, but it is locked or hidden
        int noLayer = 0;            // layers of a stamp that have no place
    };

    // The cells from where the stroke is to `to`; of one laid as a whole, all of them.
    [[nodiscard]] virtual level::Region cellsOf(const Stroke& stroke, Point to, const Pointer& at) const = 0;
    // Those of a click there, as far as they are shown before it.
    [[nodiscard]] virtual level::Region previewCells(const level::Level& work, level::LayerId layer, Point cell) const;
    // Whether the stroke is laid anew as a whole with every move, not added to.
    [[nodiscard]] virtual bool whole() const { return true; }
    // The cells of a tip, of which the sentence tells all; one for other tools.
    [[nodiscard]] virtual std::vector<Point> tip(Point cell) const { return {cell}; }
    // The box that is drawn around the pointer.
    [[nodiscard]] virtual Box marked(Point cell) const { return {cell.x, cell.y, 1, 1}; }
    [[nodiscard]] virtual QString deed(const QString& what, const QString& on, const QString& at) const;
    [[nodiscard]] virtual bool tellsWhatGivesWay() const { return true; }
    // Lays what the stroke is about onto a level.
    virtual void layOnto(const level::Level& onto, const level::Region& cells, const Pointer& at);
    [[nodiscard]] virtual bool needsTarget(const edit::Hand&) const { return true; }

    [[nodiscard]] edit::Hand handFor(Qt::MouseButton button) const;
    // A kit's piece turned so that it closes with what stands beside the cell, on the layer of that, where it takes the
    // place of the piece that is there; where nothing closes, as it is.
    struct Fitted {
        edit::Hand hand;
        level::LayerId layer = 0;
        bool swaps = false;
    };
    [[nodiscard]] Fitted fitted(edit::Hand hand, level::LayerId layer, Point cell) const;
    [[nodiscard]] edit::Target targetOf(const edit::Hand& hand, bool stay) const;
    [[nodiscard]] static bool stays(const edit::Hand& hand, const Pointer& at);
    [[nodiscard]] level::Stamp stampFor(const edit::Hand& hand, const std::optional<Box>& box) const;
    void layStamp(const level::Level& onto, const level::Stamp& stamp, Point corner, const Pointer& at);

    std::optional<Stroke> stroke_;
    Found found_;

  private:
    void growFor(const Box& cells);
    void extend(Point to, const Pointer& at);
    void showStroke();
    void commit();
    [[nodiscard]] QString strokeName(const Stroke& stroke) const;

    // lay_sentence.cpp
    [[nodiscard]] std::optional<Sentence> obstacle(const edit::Hand& hand, const edit::Target& target,
                                                   const level::Layer* layer) const;
    [[nodiscard]] QString cellSentence(const edit::Hand& hand, const edit::Target& target, const level::Layer& layer,
                                       Point cell, const QString& at) const;
    [[nodiscard]] QString tipSentence(const edit::Hand& hand, const edit::Target& target, const std::vector<Point>& tip,
                                      const QString& at) const;
    [[nodiscard]] QString nameOf(const edit::Hand& hand) const;
    [[nodiscard]] QString wayOf(const edit::Hand& hand, const edit::Target& target) const;
    [[nodiscard]] QString homeOf(const edit::Target& target) const;
    [[nodiscard]] QString joinsOf() const;
};

} // namespace vic::app
