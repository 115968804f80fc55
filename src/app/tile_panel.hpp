// The right side of Cut on a lattice: the properties of the chosen tiles.
#pragma once

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QSpinBox>
#include <QToolButton>
#include <array>

#include "app/block_editor.hpp"
#include "app/frames_editor.hpp"
#include "app/session.hpp"
#include "app/shape_editor.hpp"
#include "app/tile_notes.hpp"
#include "sheet/cut.hpp"

namespace vic::app {

class TilePanel : public QWidget {
    Q_OBJECT
  public:
    TilePanel(Session& session, QWidget* parent);
    void follow();

  private:
    void change(const QString& name, const std::function<void(level::Tile&)>& what, const std::string& merge = {});
    Session& session_;
    QLabel* count_;
    QLabel* picture_;
    QLabel* title_;
    QLabel* under_;
    QWidget* properties_;
    QLineEdit* name_;
    QSpinBox* chance_;
    QComboBox* home_;
    TileNotes* notes_;
    ShapeEditor* shape_;
    BlockEditor* block_;
    FramesEditor* frames_;
    level::TileId shownFrame_ = 0;
    QWidget* buildSheetPart();
    void followSheet();
    static QString unevenFit(const sheet::Fit& how, Size drawn, Size cell);
    QWidget* buildPourPart();
    void pour();
    QWidget* pourPart_;
    QPushButton* pourTake_;
    QPushButton* pourOnto_;
    QMenu* pourWhat_;
    std::vector<level::TileId> pourFrom_;
    QWidget* sheetPart_; // when no tile is chosen
    QPushButton* unused_;
    QPushButton* replace_;
    QPushButton* findAgain_;
    QPushButton* putBack_;
    std::array<QLineEdit*, 4> credits_{};
    QLabel* fit_;
    QLabel* scale_;
    QComboBox* smooth_;
    QSpinBox* unit_;
    QPushButton* whole_;
    QWidget* next_;
    QPushButton* joins_;
    QMenu* kinds_;
    QPushButton* plain_;
    QLabel* hint_;
};

} // namespace vic::app
