// The right side of Cut on a lattice: the properties of the chosen tiles.
#pragma once

#include <QString>
#include <QWidget>
#include <array>
#include <functional>
#include <string>
#include <vector>

#include "app/cut/block_editor.hpp"
#include "app/cut/frames_editor.hpp"
#include "app/cut/shape_editor.hpp"
#include "app/cut/tile_notes.hpp"
#include "app/parts/binding.hpp"
#include "app/session/session.hpp"
#include "base/geometry.hpp"
#include "level/cell.hpp"

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;
class QMenu;
class QPushButton;
class QSpinBox;
class QVBoxLayout;

namespace vic::level {
struct Tile;
} // namespace vic::level

namespace vic::sheet {
struct Fit;
} // namespace vic::sheet

namespace vic::app {

class BlockEditor;
class FramesEditor;
class Session;
class ShapeEditor;
class SwapCard;
class TileNotes;
class PiecePart;

class TilePanel : public QWidget {
    Q_OBJECT
  public:
    TilePanel(Session& session, QWidget* parent);
    void refresh();

  private:
    void buildNext(QVBoxLayout* column);
    void buildProperties(QVBoxLayout* column);
    void buildHome(QVBoxLayout* inner);
    void buildName(QVBoxLayout* inner);
    void buildCredits(QVBoxLayout* inner);
    void buildScale(QVBoxLayout* inner);
    void buildMending(QVBoxLayout* inner);
    void buildUses(QVBoxLayout* inner);
    void attempt(const std::function<void()>& what);
    void change(const QString& name, const std::function<void(level::Tile&)>& what, const std::string& merge = {});
    Session& session_;
    Bindings fields_; // of what is chosen; at least one is
    QLabel* count_;
    QLabel* picture_;
    QLabel* title_;
    QLabel* under_;
    QWidget* properties_;
    TileNotes* notes_;
    ShapeEditor* shape_;
    PiecePart* piece_;
    BlockEditor* block_;
    FramesEditor* frames_;
    level::TileId shownFrame_ = 0;
    QWidget* buildSheetPart();
    void refreshSheet();
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
    QCheckBox* anySize_;
    QPushButton* swap_;
    SwapCard* swapCard_;
    QSpinBox* unit_;
    QPushButton* whole_;
    QWidget* next_;
    QPushButton* joins_;
    QMenu* kinds_;
    QPushButton* plain_;
    QLabel* hint_;
};

} // namespace vic::app
