// The Join stage: materials with their coverage, the proof and the cases, the chosen case with what would serve it.
#pragma once

#include <QCheckBox>
#include <QComboBox>
#include <QGridLayout>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QWidget>

#include "app/card_list.hpp"
#include "app/sheet_view.hpp"
#include "join/proof.hpp"

namespace vic::app {

class MaterialList : public QWidget {
    Q_OBJECT
  public:
    MaterialList(Session& session, QWidget* parent);
    void follow();

  private:
    Session& session_;
    CardList* list_;
    QCheckBox* beyond_;
};

// The proof, painted with the material as its rules are now. A click chooses the cell's case.
class ProofView : public QWidget {
    Q_OBJECT
  public:
    ProofView(Session& session, QWidget* parent);
    void follow();
    void newPatch();
    [[nodiscard]] bool hasHeightForWidth() const override { return true; }
    [[nodiscard]] int heightForWidth(int width) const override;
    [[nodiscard]] QSize sizeHint() const override { return {760, 320}; }
    [[nodiscard]] int cellsOfCase(join::Mask mask) const;
    [[nodiscard]] QPoint cellCentre(Point cell) const;
    // The first cell of a case; (-1, -1) where there is none.
    [[nodiscard]] Point firstCell(join::Mask mask) const;

  signals:
    void cellHovered(vic::Point cell, int mask); // mask -1 for none

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void leaveEvent(QEvent*) override;

  private:
    [[nodiscard]] join::Mask maskAt(Point cell) const;
    [[nodiscard]] int cellSide(int width, int columns) const;
    [[nodiscard]] int side() const; // screen pixels of a cell
    Session& session_;
    std::uint32_t seed_ = 1;
    level::JoinKind kind_ = level::JoinKind::full;
    join::ProofPatch patch_;
    level::Grid grid_;
    QImage picture_;
    edit::ProjectState madeFor_;
    level::MaterialId madeOf_ = 0;
    Point hover_{-1, -1};
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

  private:
    void layOut();
    Session& session_;
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
    void nextMissing();

  signals:
    void readingChanged();

  private:
    Session& session_;
    QLabel* proofAside_;
    QLabel* casesAside_;
    ProofView* proof_;
    CaseList* cases_;
    QString reading_;
};

class CasePanel : public QWidget {
    Q_OBJECT
  public:
    CasePanel(Session& session, ProofView& proof, QWidget* parent);
    void follow();

  private:
    void serve(level::TileId tile, Qt::KeyboardModifiers modifiers);
    Session& session_;
    ProofView& proof_;
    QLabel* aside_;
    QLabel* picture_;
    QLabel* title_;
    QLabel* text_;
    QLabel* inProof_;
    QLabel* variants_;
    QWidget* weights_;
    QComboBox* sheets_;
    SheetView* sheet_;
    QPushButton* readAgain_;
    level::MaterialId sheetFor_ = 0;
    std::string weightsOf_;
};

} // namespace vic::app
