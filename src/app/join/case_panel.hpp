// The right side of Join: the chosen case with what would serve it.
#pragma once

#include <QString>
#include <QWidget>
#include <array>
#include <functional>
#include <memory>
#include <optional>
#include <tuple>
#include <vector>

#include "app/join/proof_view.hpp"
#include "app/parts/binding.hpp"
#include "app/session/memo.hpp"
#include "app/session/session.hpp"
#include "app/sheet/sheet_view.hpp"
#include "join/compose.hpp"
#include "join/mask.hpp"
#include "join/resolve.hpp"
#include "join/seams.hpp"
#include "level/cell.hpp"
#include "level/material.hpp"

class QComboBox;
class QLabel;
class QPushButton;
class QSlider;
class QSpinBox;
class QVBoxLayout;

namespace vic::level {
struct Sheet;
} // namespace vic::level

namespace vic::app {

class ProofView;
class Session;
class SheetView;

class CasePanel : public QWidget {
    Q_OBJECT
  public:
    CasePanel(Session& session, ProofView& proof, QWidget* parent);
    void otherWay(); // takes the other of two readings of the sheet, where there are two
    void refresh();

  private:
    void buildWorks(QVBoxLayout* column);
    void buildSheet(QVBoxLayout* column);
    void buildLively(QVBoxLayout* column);
    void readAgain();
    void takeReading(const QString& name, level::SheetId from, const JoinReadings::Reading& all,
                     const join::JoinReading& read, bool afresh);
    void serveCase(level::MaterialId id, join::Mask mask, const std::vector<level::Variant>& variants,
                   level::TileId tile);
    // What might serve the case: tiles, and one that can be composed.
    struct Candidates {
        std::vector<join::Candidate> tiles;
        std::optional<join::Made> made;
    };
    [[nodiscard]] static QString turnWord(Turn turn);
    void showCandidates(const Candidates& found);
    void serve(level::TileId tile, Qt::KeyboardModifiers modifiers);
    void change(const QString& name, const std::function<void(level::JoinSet&)>& what, const std::string& merge = {});
    void correct(level::TileId tile, int mask, int bit);
    void bindHead();
    // Of the chosen material, which there is.
    [[nodiscard]] bool plain() const;
    [[nodiscard]] join::Mask mask() const;
    [[nodiscard]] std::vector<level::Variant> serving() const;
    [[nodiscard]] level::SheetId sheetToShow();
    [[nodiscard]] QString repetitionText();
    QSpinBox* weightField(QWidget* parent, std::size_t place, level::TileId tile);
    void refreshCandidates();
    void refreshWeights();
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
    QPushButton* otherWay_;
    QPushButton* cards_;
    level::MaterialId sheetFor_ = 0;
    Bindings fields_;
    Bindings weightFields_;
    using WeightsOf = std::tuple<level::MaterialId, join::Mask, std::vector<level::Variant>>;
    WeightsOf weightsOf_{};
    Memo<std::shared_ptr<const level::Material>, join::Repetition> repetitionOf_;
    std::shared_ptr<const level::Material> candidatesFor_;
    join::Mask candidatesMask_ = 0;
    std::array<level::Cell, 4> candidatesAround_{};
    std::vector<std::shared_ptr<const level::Sheet>> candidatesIn_;
};

} // namespace vic::app
