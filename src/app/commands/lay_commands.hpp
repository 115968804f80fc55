// The commands of Lay: what is done to a selection, to a Hand, and to a level as a whole. The window gives them keys.
#pragma once

#include <QObject>
#include <QString>
#include <cstdint>

#include "base/geometry.hpp"
#include "base/lattice.hpp"
#include "base/turn.hpp"
#include "edit/fill.hpp"

namespace vic::edit {
struct Edges;
} // namespace vic::edit

namespace vic::app {

class LevelView;
class Session;

class LayCommands : public QObject {
    Q_OBJECT
  public:
    LayCommands(Session& session, LevelView& view, QObject* parent);

    void selectAll();
    void selectAlike(edit::Alike alike); // as what lies under the pointer
    void grow(bool outwards);
    void copy(); // into the Hand's clipboard, also for other windows
    void cut();
    void paste(); // takes what was copied into the Hand
    void remove();
    // Turns what is selected in its place; without a selection the Hand.
    void turn(Turn (*how)(Turn));
    void keepStamp();
    void stampIntoTray(const QString& name);
    void toActiveLayer(); // moves what is selected there from all other shown layers of its kind
    void thinOut();       // by the share that was chosen last
    [[nodiscard]] int thinShare() const { return thinShare_; } // per cent
    void setThinShare(int perCent) { thinShare_ = perCent; }
    void castAgain(); // another choice of the spread, in the Hand and where it is selected
    void makeHome();  // takes the proposed home
    void stepVariant(int by);
    void whatFits(); // a menu of the pieces that close with what stands beside the cell under the pointer // of the
                     // cell under the pointer: the next, or the earlier one, pinned
    void zoomToSelection();

    void turnLevel(Turn turn);
    void cropToContent();
    void cropToSelection();
    void setGrows(bool on);
    void extendLevel(const edit::Edges& by);
    void setCells(Size cell, LatticeKind kind);
    void duplicateLayer();
    void mergeDown();
    void planPicture(const QString& file); // the level as a plan picture

  private:
    [[nodiscard]] bool anySelected(); // says so where nothing is
    Session& session_;
    LevelView& view_;
    std::uint32_t thinSeed_ = 0;
    int thinShare_ = 25;
};

} // namespace vic::app
