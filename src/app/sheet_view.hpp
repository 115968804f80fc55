// A sheet's image with its lattice: zoomable and large in Cut, small and fitted in the Tray and in Join.
#pragma once

#include <QImage>
#include <QWidget>
#include <optional>
#include <set>

#include "app/session.hpp"

namespace vic::app {

class SheetView : public QWidget {
    Q_OBJECT
  public:
    enum class Use { cut, pick, joins }; // zoomable with marks; click to take a tile; with petals
    SheetView(Session& session, Use use, QWidget* parent);

    void setSheet(level::SheetId id);
    [[nodiscard]] level::SheetId sheetId() const { return sheet_; }
    // In Cut: the cut that is shown instead of the sheet's own, while a proposal is hovered.
    void setShownCut(std::optional<level::Cut> cut);
    void setChosen(const std::set<level::TileId>& tiles);
    void fit();
    // The middle of a tile in the widget.
    [[nodiscard]] QPoint tileCentre(std::size_t index) const;
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] bool hasHeightForWidth() const override { return use_ != Use::cut; }
    [[nodiscard]] int heightForWidth(int width) const override;

  signals:
    void tileClicked(vic::level::TileId tile, Qt::KeyboardModifiers modifiers);
    void tilesDragged(std::vector<vic::level::TileId> tiles);
    void tileHovered(vic::level::TileId tile); // 0 for none
    void boxDrawn(vic::Box pixels);            // in Cut with Shift: a box for a prop

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    void leaveEvent(QEvent*) override;

  private:
    [[nodiscard]] const level::Sheet* sheet() const;
    [[nodiscard]] QRectF place(const Box& pixels) const;
    [[nodiscard]] Point pixelAt(QPointF at) const;
    [[nodiscard]] const level::Tile* tileAt(QPointF at) const;
    void paintMarks(QPainter& painter, const level::Sheet& sheet);
    void paintPetals(QPainter& painter, const level::Sheet& sheet);

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
    std::optional<QPointF> pan_;
    std::optional<QPointF> rubber_;
    QPointF pointer_;
    bool boxing_ = false;
};

} // namespace vic::app
