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
        level::Project p = session().project();
        const level::MarkId id = p.next_id++;
        p.put(edit::place_mark(*session().level(), id, kind_, tr(name_).toStdString(), cell));
        session().apply(tr("Place the mark %1").arg(tr(name_)), std::move(p));
        session().setTool(Tool::props);
        return false;
    }
    void paint(QPainter& p, const std::optional<Pointer>& at) const override {
        if (!at) return;
        const Point cell = cellAt(*at);
        p.setPen(QPen(tokensOf(QGuiApplication::palette()).vermilion, 2));
        p.setBrush(Qt::NoBrush);
        camera().drawCells(p, grain(), {cell.x, cell.y, 1, 1});
    }
    Sentence sentence(const Pointer& at) const override {
        if (const auto outside = beyond(at)) return *outside;
        return {tr("Places a mark in %1").arg(placeName(at))};
    }

  private:
    level::MarkKind kind_;
    const char* name_;
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
