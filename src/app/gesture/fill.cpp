// Fill and replace: what is like the cell that one clicks, as far as it hangs together or wherever it lies.

#include <QString>
#include <memory>

#include "app/gesture/gesture.hpp"
#include "app/gesture/lay.hpp"
#include "app/parts/camera.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "base/geometry.hpp"
#include "base/text.hpp"
#include "edit/fill.hpp"
#include "level/level.hpp"
#include "level/region.hpp"
#include "level/sheet.hpp"

namespace vic::app {

namespace {

class FillLay : public LayGesture {
  public:
    FillLay(Board& board, bool everywhere) : LayGesture(board), everywhere_(everywhere) {}

  protected:
    level::Region cellsOf(const Stroke& stroke, Point, const Pointer&) const override {
        const Box all = session().work().cells();
        return alike(stroke.layer, stroke.from, stroke.shift ? intersection(camera().seenOf(grain()), all) : all);
    }
    // As far as it is in view.
    level::Region previewCells(const level::Level& work, level::LayerId layer, Point cell) const override {
        return alike(layer, cell, intersection(camera().seenOf(grain()), work.cells()));
    }
    QString deed(const QString& what, const QString& on, const QString&) const override {
        return everywhere_
                   ? translated(say_count(
                         found_.filled,
                         "Replaces one cell in view with %1 on %2, and all others like it; Shift only that one",
                         "Replaces %n cells in view with %1 on %2, and all others like them; Shift only those",
                         what.toStdString(), on.toStdString()))
                   : translated(say_count(
                         found_.filled,
                         "Fills one cell in view with %1 on %2, and all that hangs together with it; Shift only that",
                         "Fills %n cells in view with %1 on %2, and all that hangs together with them; Shift only "
                         "those",
                         what.toStdString(), on.toStdString()));
    }
    bool tellsWhatGivesWay() const override { return !everywhere_; }

  private:
    [[nodiscard]] level::Region alike(level::LayerId layer, Point at, const Box& within) const {
        const level::Region* bound = session().selection().empty() ? nullptr : &session().selection();
        // Outside of the selection one fills outside of it.
        if (bound && !bound->contains(at)) bound = nullptr;
        const auto cells = everywhere_ ? edit::alike_cells : edit::fill_cells;
        return cells(session().work(), layer, at, within, session().options().fill, bound);
    }
    bool everywhere_;
};

} // namespace

std::unique_ptr<Gesture> makeFill(Board& board) { return std::make_unique<FillLay>(board, false); }
std::unique_ptr<Gesture> makeReplace(Board& board) { return std::make_unique<FillLay>(board, true); }

} // namespace vic::app
