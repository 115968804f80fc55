// Start, exit and marks, placed with one click.

#include <QCoreApplication>
#include <QGuiApplication>
#include <QPainter>
#include <QPalette>
#include <QPen>
#include <QString>
#include <memory>
#include <optional>
#include <utility>

#include "app/gesture/gesture.hpp"
#include "app/parts/camera.hpp"
#include "app/parts/tokens.hpp"
#include "app/session/session.hpp"
#include "app/session/tool.hpp"
#include "base/geometry.hpp"
#include "edit/levels.hpp"
#include "level/level.hpp"
#include "level/project.hpp"

namespace vic::app {

namespace {

class PlaceMark : public Gesture {
  public:
    PlaceMark(Board& board, level::MarkKind kind, const char* name) : Gesture(board), kind_(kind), name_(name) {}
    bool takes(const Pointer& at) const override {
        return session().stage() == Stage::dress && (at.left() || at.button == Qt::NoButton);
    }
    bool press(const Pointer& at) override {
        const Point cell = cellAt(at);
        if (!session().level()->cells().contains(cell)) return false;
        from_ = to_ = cell;
        return true;
    }
    void move(const Pointer& at) override {
        to_ = cellAt(at);
        board_.drawAgain();
    }
    void release(const Pointer&) override {
        const Box cells = box();
        from_.reset();
        level::Project p = session().project();
        const level::MarkId id = p.next_id++;
        level::Level level = edit::place_mark_over(*session().level(), id, kind_, tr(name_).toStdString(), cells);
        if (const level::Layer* const layer = session().activeLayer())
            level = edit::change_mark(std::move(level), id, [&](level::Mark& m) { m.storey = layer->storey; });
        p.put(std::move(level));
        session().apply(tr("Place the mark %1").arg(tr(name_)), std::move(p));
        session().setTool(Tool::props);
        session().setMark(id);
    }
    void cancel() override { from_.reset(); }
    bool holds() const override { return false; }
    void paint(QPainter& p, const std::optional<Pointer>& at) const override {
        if (!at) return;
        const Point cell = cellAt(*at);
        p.setPen(QPen(tokensOf(QGuiApplication::palette()).vermilion, 2));
        p.setBrush(Qt::NoBrush);
        camera().drawCells(p, grain(), from_ ? box() : Box{cell.x, cell.y, 1, 1});
    }
    Sentence sentence(const Pointer& at) const override {
        if (const auto outside = beyond(at)) return *outside;
        if (from_ && box().size() != Size{1, 1})
            return {tr("Places a mark of %1 × %2 cells").arg(box().w).arg(box().h)};
        return {tr("Places a mark in %1; drag for a box").arg(placeName(at))};
    }

  private:
    [[nodiscard]] Box box() const { return intersection(spanning(*from_, to_), session().level()->cells()); }
    level::MarkKind kind_;
    const char* name_;
    std::optional<Point> from_; // while a box is dragged
    Point to_;
};

} // namespace

std::unique_ptr<Gesture> makeStart(Board& board) {
    return std::make_unique<PlaceMark>(board, level::MarkKind::start, QT_TRANSLATE_NOOP("Gesture", "Start"));
}
std::unique_ptr<Gesture> makeExit(Board& board) {
    return std::make_unique<PlaceMark>(board, level::MarkKind::exit, QT_TRANSLATE_NOOP("Gesture", "Exit"));
}
std::unique_ptr<Gesture> makeMark(Board& board) {
    return std::make_unique<PlaceMark>(board, level::MarkKind::note, QT_TRANSLATE_NOOP("Gesture", "Mark"));
}

} // namespace vic::app
