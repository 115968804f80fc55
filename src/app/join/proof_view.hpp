// The proof in Join: a patch in which every case occurs, and one to paint on freely.
#pragma once

#include <QImage>
#include <QPoint>
#include <QPolygonF>
#include <QWidget>
#include <array>
#include <cstdint>
#include <optional>
#include <vector>

#include "app/session/session.hpp"
#include "base/geometry.hpp"
#include "base/lattice.hpp"
#include "edit/document.hpp"
#include "join/mask.hpp"
#include "join/proof.hpp"
#include "level/cell.hpp"
#include "level/grid.hpp"
#include "level/material.hpp"

class QEvent;
class QMouseEvent;
class QPaintEvent;
class QPainter;

namespace vic::app {

class Session;

// A patch drawn by the same code as any level, in cells of the level's size; of diamonds where `aslant`, of `cell`
// then.
QImage patchPicture(Session& session, const level::Project& project, const level::Grid& grid,
                    std::optional<Size> aslant = {});

// The proof, painted with the material as its rules are now, or a patch to paint on freely. A click in the proof
// chooses the cell's case.
class ProofView : public QWidget {
    Q_OBJECT
  public:
    enum class Mode { cases, pairs, free };
    ProofView(Session& session, Mode mode, QWidget* parent);
    void refresh();
    void newPatch();
    void setMode(Mode mode);
    [[nodiscard]] Mode mode() const { return mode_; }
    void setHeat(bool on);
    // How many times larger than at least its cells are drawn; 1 and more.
    void setZoom(int zoom);
    [[nodiscard]] int cellsOfCase(join::Mask mask) const;
    [[nodiscard]] QPoint cellCentre(Point cell) const;
    // The first cell of a case; (-1, -1) where there is none.
    [[nodiscard]] Point firstCell(join::Mask mask) const;
    // What lies north, east, south and west of the cell that stands for the case: the one that was clicked, or the
    // first. Empty cells where there is nothing.
    [[nodiscard]] std::array<level::Cell, 4> around(join::Mask mask) const;
    [[nodiscard]] const join::ProofPatch& patch() const { return patch_; }
    [[nodiscard]] const level::Grid& grid() const { return grid_; }
    // The worst seam in the patch, 0 .. 1.
    [[nodiscard]] double worstSeam() const;

  signals:
    void cellHovered(vic::Point cell, int mask); // mask -1 for none
    void painted();

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void leaveEvent(QEvent*) override;

  private:
    [[nodiscard]] join::Mask maskAt(Point cell) const;
    [[nodiscard]] int side() const; // screen pixels of a cell
    // How the patch lies: as diamonds for art that is drawn aslant. In pixels of the widget, from `corner_` on.
    [[nodiscard]] Lattice lattice() const;
    [[nodiscard]] QPolygonF shapeOf(Point cell, double inset) const;
    void fitSize();
    [[nodiscard]] Point cellAt(QPoint at) const;
    void dab(Point cell);
    void paintHeat(QPainter& painter);
    struct Seam {
        Point cell;
        int side; // 1 east, 2 south
        double error;
    };
    Session& session_;
    Mode mode_;
    int zoom_ = 1;
    bool heat_ = false;
    std::uint32_t seed_ = 1;
    level::JoinKind kind_ = level::JoinKind::full;
    join::ProofPatch patch_;
    join::ProofPatch free_; // what was painted freely
    level::Grid grid_;
    std::vector<Seam> seams_;
    QImage picture_;
    bool isometric_ = false;
    Point corner_; // of the patch's first cell, in the widget
    edit::ProjectState madeFor_;
    level::MaterialId madeOf_ = 0;
    Point hover_{-1, -1};
    Point clicked_{-1, -1};
    int painting_ = -1; // 1 lays, 0 takes away, while a button is held
};

} // namespace vic::app
