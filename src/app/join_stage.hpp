// The Join stage: materials with their coverage, the proof and the cases, the chosen case with what would serve it.
#pragma once

#include <QCheckBox>
#include <QComboBox>
#include <QGridLayout>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QSlider>
#include <QSpinBox>
#include <QToolButton>
#include <QWidget>
#include <array>
#include <functional>
#include <set>

#include "app/card_list.hpp"
#include "app/sheet_view.hpp"
#include "join/proof.hpp"

namespace vic::app {

class MaterialList : public QWidget {
    Q_OBJECT
  public:
    MaterialList(Session& session, QWidget* parent);
    void follow();
    // Which cells the level view shows, for joining those anew.
    void setSeen(std::function<Box()> seen) { seen_ = std::move(seen); }

  private:
    void change(const QString& name, const std::function<void(level::JoinSet&)>& what, const std::string& merge = {});
    void followOthers();
    void readPair(level::MaterialId other, level::SheetId sheet);
    void askRejoin();
    Session& session_;
    CardList* list_;
    QWidget* others_;
    QSpinBox* priority_;
    QCheckBox* over_;
    QCheckBox* beyond_;
    QPushButton* rejoin_;
    std::function<Box()> seen_;
    const level::Material* othersFor_ = nullptr;
    std::vector<std::shared_ptr<const level::Material>> othersOf_;
};

// The proof, painted with the material as its rules are now, or a patch to paint on freely. A click in the proof
// chooses the cell's case.
class ProofView : public QWidget {
    Q_OBJECT
  public:
    enum class Mode { cases, pairs, free };
    ProofView(Session& session, Mode mode, QWidget* parent);
    void follow();
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
    bool aslant_ = false;
    Point corner_; // of the patch's first cell, in the widget
    edit::ProjectState madeFor_;
    level::MaterialId madeOf_ = 0;
    Point hover_{-1, -1};
    Point clicked_{-1, -1};
    int painting_ = -1; // 1 lays, 0 takes away, while a button is held
};

// One case as a tile; missing ones are empty with a dashed line.
class CaseList : public QWidget {
    Q_OBJECT
  public:
    CaseList(Session& session, QWidget* parent);
    void follow();
    [[nodiscard]] QPoint caseCentre(join::Mask mask) const;
    [[nodiscard]] QSize sizeHint() const override;

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void resizeEvent(QResizeEvent*) override;

  public:
    // Cases that would have to be drawn, marked until the table changes.
    void setToDraw(const std::vector<join::Mask>& masks);

  private:
    void layOut();
    Session& session_;
    std::set<join::Mask> toDraw_;
    std::vector<std::pair<join::Mask, QRect>> places_;
    std::vector<std::pair<QString, QRect>> titles_;
    int height_ = 200;
};

class JoinCentre : public QWidget {
    Q_OBJECT
  public:
    JoinCentre(Session& session, QWidget* parent);
    void follow();
    [[nodiscard]] QString reading() const { return reading_; }
    [[nodiscard]] ProofView* proof() const { return proof_; }
    [[nodiscard]] ProofView* freePatch() const { return free_; }
    void nextMissing();
    void nextDoubtful();
    void accept(); // the doubtful tile of the chosen case
    void composeMissing();

  signals:
    void readingChanged();

  protected:
    void resizeEvent(QResizeEvent*) override;

  private:
    void setMode(ProofView::Mode mode);
    void tellPatch();
    void showLeast();
    Session& session_;
    QLabel* proofAside_;
    QLabel* casesAside_;
    std::array<QToolButton*, 2> modes_{};
    QToolButton* heat_;
    join::SeamReport seams_;
    const level::Material* seamsFor_ = nullptr;
    std::vector<std::shared_ptr<const level::Sheet>> seamsIn_;
    ProofView* proof_;
    ProofView* free_;
    CaseList* cases_;
    QToolButton* missing_;
    QToolButton* doubtful_;
    QToolButton* accept_;
    QToolButton* compose_;
    QToolButton* least_;
    QString reading_;
    const level::Material* composableFor_ = nullptr;
    std::vector<std::shared_ptr<const level::Sheet>> composableIn_;
    int composable_ = 0;
};

class CasePanel : public QWidget {
    Q_OBJECT
  public:
    CasePanel(Session& session, ProofView& proof, QWidget* parent);
    void follow();

  private:
    void serve(level::TileId tile, Qt::KeyboardModifiers modifiers);
    void change(const QString& name, const std::function<void(level::JoinSet&)>& what, const std::string& merge = {});
    void correct(level::TileId tile, int mask, int bit);
    void followCandidates(const level::Material& m, join::Mask mask);
    void followWeights(const level::Material& m, join::Mask mask);
    void followLively(const level::Material& m);
    void showCards();
    Session& session_;
    ProofView& proof_;
    QLabel* aside_;
    QLabel* picture_;
    QLabel* title_;
    QLabel* text_;
    QLabel* inProof_;
    QLabel* variants_;
    QLabel* serveHead_;
    QWidget* candidates_;
    QWidget* weights_;
    QWidget* livelyBox_;
    QSlider* lively_;
    QLabel* repetition_;
    QComboBox* turns_;
    QComboBox* sheets_;
    SheetView* sheet_;
    QPushButton* readAgain_;
    QPushButton* cards_;
    level::MaterialId sheetFor_ = 0;
    std::string weightsOf_;
    const level::Material* candidatesFor_ = nullptr;
    const level::Material* livelyFor_ = nullptr;
    join::Mask candidatesMask_ = 0;
    std::array<level::Cell, 4> candidatesAround_{};
    std::vector<std::shared_ptr<const level::Sheet>> candidatesIn_;
};

} // namespace vic::app
