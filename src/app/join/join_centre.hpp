// The middle of Join: the proof and the cases.
#pragma once

#include <QString>
#include <QWidget>
#include <array>
#include <memory>
#include <utility>
#include <vector>

#include "app/join/case_list.hpp"
#include "app/join/proof_view.hpp"
#include "app/parts/binding.hpp"
#include "app/session/memo.hpp"
#include "app/session/session.hpp"
#include "base/geometry.hpp"
#include "edit/blocking.hpp"
#include "join/mask.hpp"
#include "join/seams.hpp"

class QLabel;
class QResizeEvent;
class QComboBox;
class QToolButton;
class QVBoxLayout;

namespace vic::level {
struct JoinSet;
struct Material;
struct Sheet;
} // namespace vic::level

namespace vic::edit {
struct DoubtfulTile;
} // namespace vic::edit

namespace vic::app {

class CaseList;
class TwoWays;
class Session;

class JoinCentre : public QWidget {
    Q_OBJECT
  public:
    JoinCentre(Session& session, QWidget* parent);
    void refresh();
    [[nodiscard]] QString reading() const { return reading_; }
    [[nodiscard]] ProofView* proof() const { return proof_; }
    [[nodiscard]] ProofView* freePatch() const { return free_; }
    void nextMissing();
    void nextDoubtful();
    void accept(); // the doubtful tile of the chosen case
    void composeMissing();
    void nextBlocking(); // what the material is in the way of

  signals:
    void readingChanged();
    void otherWanted(); // the other of two readings

  protected:
    void resizeEvent(QResizeEvent*) override;

  private:
    void tellCell(Point cell, int mask);
    void buildWorks(QVBoxLayout* column);
    void buildPatches(QVBoxLayout* column);
    void buildHead(QVBoxLayout* column);
    void setMode(ProofView::Mode mode);
    void tellPatch();
    void showLeast();
    void bind();
    void block(edit::Blocking blocking);
    [[nodiscard]] const level::JoinSet* joins() const; // of a material that looks at its neighbours
    [[nodiscard]] int composable();                    // missing cases that can be composed
    [[nodiscard]] std::vector<join::Mask> leastToDraw(bool compose) const;
    [[nodiscard]] const edit::DoubtfulTile* doubtHere() const;
    [[nodiscard]] QString casesText() const;
    [[nodiscard]] QString readingText() const;
    Session& session_;
    QLabel* proofAside_;
    QLabel* casesAside_;
    std::array<QToolButton*, 2> modes_{};
    QToolButton* heat_;
    QComboBox* blocks_;
    TwoWays* ways_;
    ProofView* proof_;
    ProofView* free_;
    CaseList* cases_;
    QToolButton* missing_;
    QToolButton* doubtful_;
    QToolButton* accept_;
    QToolButton* compose_;
    QToolButton* least_;
    QString reading_;
    std::shared_ptr<const level::Material> of_; // whose cases are shown
    // What follows from a material and the art.
    using ArtOf = std::pair<std::shared_ptr<const level::Material>, std::vector<std::shared_ptr<const level::Sheet>>>;
    Memo<ArtOf, join::SeamReport> seams_;
    Memo<ArtOf, int> composable_;
    Bindings fields_;
};

} // namespace vic::app
