// Pencil and eraser: cells under the tip, along the way.

#include <QGuiApplication>
#include <QPainter>
#include <QPalette>
#include <QPen>
#include <cstdlib>
#include <memory>
#include <optional>
#include <vector>

#include "app/gesture/gesture.hpp"
#include "app/gesture/lay.hpp"
#include "app/parts/camera.hpp"
#include "app/parts/tokens.hpp"
#include "app/session/session.hpp"
#include "app/session/tool.hpp"
#include "base/geometry.hpp"
#include "base/turn.hpp"
#include "edit/kits.hpp"
#include "edit/stroke.hpp"
#include "level/block.hpp"
#include "level/level.hpp"
#include "level/region.hpp"
#include "level/sheet.hpp"

namespace vic::app {

namespace {

class Pencil : public LayGesture {
  public:
    using LayGesture::LayGesture;

    void paint(QPainter& p, const std::optional<Pointer>& at) const override {
        // Of a block it shows the foot within the picture.
        const level::Tile* block = at ? oneBlock() : nullptr;
        if (block && grain().square()) {
            p.setPen(QPen(tokensOf(QGuiApplication::palette()).vermilion, 1, Qt::DashLine));
            p.setBrush(Qt::NoBrush);
            camera().drawCells(p, grain(), level::foot_under(*block, cellAt(*at), turn()), 2);
        }
        LayGesture::paint(p, at);
    }

    bool press(const Pointer& at) override {
        quarters_ = at.left() && session().hand().is<edit::held::Tile>()
                        ? edit::facing_pieces(session().project(), session().hand().tile())
                        : std::vector<level::TileId>{};
        return LayGesture::press(at);
    }
    // As it was faced the next one will be, too.
    void release(const Pointer& at) override {
        edit::Hand hand = session().hand();
        hand.holds = stroke_->hand.holds;
        const bool faced = !quarters_.empty() && !(hand == session().hand());
        LayGesture::release(at);
        if (faced) session().setHand(hand);
    }

  protected:
    // A piece of several cells is laid once, and faces where one drags to.
    void layOnto(const level::Level& onto, const level::Region& cells, const Pointer& at) override {
        const Point by = cellAt(at) - stroke_->from;
        if (!quarters_.empty() && by != Point{}) {
            const std::size_t way = std::abs(by.x) > std::abs(by.y) ? (by.x > 0 ? 3 : 1) : by.y > 0 ? 0 : 2;
            stroke_->hand.holds = edit::held::Tile{quarters_[way]};
        }
        LayGesture::layOnto(onto, cells, at);
    }
    level::Region cellsOf(const Stroke& stroke, Point to, const Pointer&) const override {
        level::Region cells;
        if (!quarters_.empty()) {
            cells.add(stroke.from);
            return cells;
        }
        for (const Point p : edit::line_cells(stroke.last, to))
            for (const Point t : edit::pencil_cells(p, stroke.hand.size, stroke.hand.round)) cells.add(t);
        return cells;
    }
    level::Region previewCells(const level::Level&, level::LayerId, Point cell) const override {
        return level::Region(tip(cell));
    }
    bool whole() const override { return !quarters_.empty(); }
    std::vector<Point> tip(Point cell) const override {
        return edit::pencil_cells(cell, session().hand().size, session().hand().round);
    }
    Box marked(Point cell) const override {
        if (const level::Tile* block = oneBlock())
            return grain().square() ? level::cells_under(*block, cell, turn())
                                    : level::foot_under(*block, cell, turn());
        const int size = session().hand().size;
        return {cell.x - (size - 1) / 2, cell.y - (size - 1) / 2, size, size};
    }

  private:
    std::vector<level::TileId> quarters_; // of a piece that faces where one drags to, by its turns
    // The block in the Hand, where it would be laid.
    [[nodiscard]] const level::Tile* oneBlock() const {
        const bool one = session().tool() == Tool::pencil && session().hand().size == 1;
        return one ? session().blockInHand() : nullptr;
    }
    [[nodiscard]] Turn turn() const { return board_.shown().geometry().shown(session().hand().turn); }
};

} // namespace

std::unique_ptr<Gesture> makePencil(Board& board) { return std::make_unique<Pencil>(board); }

} // namespace vic::app
