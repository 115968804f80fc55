// A sheet's image with its lattice: zoomable and large in Cut, small and fitted in the Tray and in Join.
#pragma once

#include <QImage>
#include <QPoint>
#include <QPointF>
#include <QRectF>
#include <QSize>
#include <QWidget>
#include <cstddef>
#include <memory>
#include <optional>
#include <set>
#include <vector>

#include "app/session/session.hpp"
#include "base/geometry.hpp"
#include "base/image.hpp"
#include "join/mask.hpp"
#include "level/cell.hpp"
#include "level/level.hpp"
#include "level/props.hpp"
#include "level/sheet.hpp"

class QEvent;
class QKeyEvent;
class QMouseEvent;
class QPaintEvent;
class QPainter;
class QResizeEvent;
class QWheelEvent;

namespace vic::level {
struct Sheet;
struct Tile;
} // namespace vic::level

namespace vic::app {

class Session;

class SheetView : public QWidget {
    Q_OBJECT
  public:
    enum class Use { cut, pick, joins }; // zoomable with marks; click to take a tile; with petals
    enum class Mode { lattice, islands };
    // What is shown over the art in Cut.
    enum Mark : unsigned { kShapes = 1, kBlank = 2, kOver = 4, kJoined = 8, kNotes = 16, kAllMarks = 31 };
    SheetView(Session& session, Use use, QWidget* parent);

    void setSheet(level::SheetId id);
    [[nodiscard]] level::SheetId sheetId() const { return sheet_; }
    // In Cut: the cut that is shown instead of the sheet's own, while a proposal is hovered.
    void setShownCut(std::optional<level::Cut> cut);
    void setChosen(const std::set<level::TileId>& tiles);
    void fit();
    // To pick from: each pixel of the picture so many of the screen, whatever room there is; 0: as there is room.
    void setEnlarged(int times);
    void setMarks(unsigned marks);
    [[nodiscard]] unsigned marks() const { return marks_; }
    // In Cut with islands: boxes that are proposed, and the props of the sheet, to be chosen and changed.
    void setMode(Mode mode);
    [[nodiscard]] Mode mode() const { return mode_; }
    void setIslands(std::vector<Box> boxes);
    void setKinds(std::vector<level::PropKindId> kinds);
    [[nodiscard]] const std::vector<level::PropKindId>& kinds() const { return kinds_; }
    // Where a pixel of the image lies in the widget (its corner).
    [[nodiscard]] QPoint placeOf(Point pixel) const;
    // The middle of a tile in the widget; of a block the middle of its tag.
    [[nodiscard]] QPoint tileCentre(std::size_t index) const;
    // The middle of a petal of a tile, in Join.
    [[nodiscard]] QPoint petalCentre(std::size_t index, unsigned bit) const;
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] bool hasHeightForWidth() const override { return use_ != Use::cut; }
    [[nodiscard]] int heightForWidth(int width) const override;

  signals:
    void enlargeAsked(int by); // by the wheel: 1 larger, -1 smaller
    void tileClicked(vic::level::TileId tile, Qt::KeyboardModifiers modifiers);
    // A petal of a tile that serves a case `mask`; bit 0 .. 7 clockwise from north.
    void petalClicked(vic::level::TileId tile, int mask, int bit);
    void tileAsked(vic::level::TileId tile, QPoint at); // by the right button, to pick from; on the screen
    void tilesDragged(std::vector<vic::level::TileId> tiles);
    void tileHovered(vic::level::TileId tile); // 0 for none
    void boxDrawn(vic::Box pixels);            // in Cut with Shift, or among islands: a box for a prop
    void kindsChosen();
    void removeAsked();
    void mergeAsked();
    void kindChanged(vic::level::PropKind kind); // moved, or its pivot pulled
    // A line of the lattice pulled at its grip, or nudged; `done` when the mouse lets go.
    void cutPulled(vic::level::Cut cut, bool done);

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    void leaveEvent(QEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

  private:
    // The grips beside the picture by which the lattice's first lines are pulled.
    struct Grip {
        bool across = true; // along the upper rim; else along the left one
        enum Line { margin, tile, gap } line = margin;
        int at = 0; // pixel of the image
    };
    [[nodiscard]] std::vector<Grip> grips() const;
    [[nodiscard]] QRectF gripPlace(const Grip& grip) const;
    [[nodiscard]] std::optional<Grip> gripAt(QPointF at) const;
    [[nodiscard]] level::Cut pulled(const Grip& grip, QPointF at) const;
    void paintGrips(QPainter& painter);
    void paintIslands(QPainter& painter);
    [[nodiscard]] const level::PropKind* kindAt(QPointF at) const;
    [[nodiscard]] QPointF pivotPlace(const level::PropKind& kind) const;
    void pressIsland(QMouseEvent* event);
    void releaseIsland(QMouseEvent* event);
    [[nodiscard]] const level::Sheet* sheet() const;
    [[nodiscard]] QRectF place(const Box& pixels) const;
    [[nodiscard]] Point pixelAt(QPointF at) const;
    [[nodiscard]] const level::Tile* tileAt(QPointF at) const;
    void paintMarks(QPainter& painter, const level::Sheet& sheet); // this and its parts: sheet_marks.cpp
    void paintCut(QPainter& painter, const std::vector<Box>& boxes);
    void paintJoined(QPainter& painter, const level::Sheet& sheet);
    void paintNoted(QPainter& painter, const level::Sheet& sheet);
    void paintStraddling(QPainter& painter, const level::Sheet& sheet, const std::vector<Box>& boxes);
    void paintNumbers(QPainter& painter, const level::Cut& cut, const std::vector<Box>& boxes);
    void paintLines(QPainter& painter, const level::Sheet& sheet);
    void paintBlocks(QPainter& painter, const level::Sheet& sheet);
    // The tag by which a block is taken, at its upper left corner.
    [[nodiscard]] QRectF blockTag(const level::Tile& block) const;
    void paintPetals(QPainter& painter, const level::Sheet& sheet);
    // Where a petal of a tile with this place lies, and how large it is.
    struct Petal {
        QPointF at;
        double across;
    };
    [[nodiscard]] static Petal petal(const QRectF& tile, unsigned bit);
    struct PetalHit {
        level::TileId tile;
        join::Mask mask;
        int bit;
    };
    [[nodiscard]] std::optional<PetalHit> petalAt(QPointF at) const;

    Session& session_;
    Use use_;
    level::SheetId sheet_ = 0;
    std::shared_ptr<const Image> imageOf_;
    QImage image_;
    std::optional<level::Cut> shownCut_;
    std::set<level::TileId> chosen_;
    double zoom_ = 1;
    QPointF origin_; // where the image's corner lies in the widget
    bool fitted_ = true;
    int enlarged_ = 0;
    std::optional<QPointF> pan_;
    std::optional<QPointF> rubber_;
    QPointF pointer_;
    bool boxing_ = false;
    unsigned marks_ = kAllMarks;
    std::vector<int> over_; // cells that straddle, of the cut and image below
    level::Cut overOf_;
    std::shared_ptr<const Image> overIn_;
    std::optional<Grip> grip_;
    Mode mode_ = Mode::lattice;
    std::vector<Box> islands_;
    std::vector<level::PropKindId> kinds_;
    std::optional<level::PropKind> moved_; // as it will be when the mouse lets go
    bool pivoting_ = false;
    std::vector<level::TileId> playing_; // the frames that animated tiles show now
};

} // namespace vic::app
