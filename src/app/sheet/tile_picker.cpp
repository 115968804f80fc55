#include "app/sheet/tile_picker.hpp"

#include <QComboBox>
#include <QPoint>
#include <QRect>
#include <QScreen>
#include <QString>
#include <QVBoxLayout>
#include <QVariant>
#include <QWidget>
#include <algorithm>

namespace vic::app {

namespace {
constexpr int kWidth = 300;
constexpr int kHeight = 300;
} // namespace

TilePicker::TilePicker(Session& session, QWidget* parent) : QFrame(parent, Qt::Popup), session_(session) {
    setObjectName("tilePicker");
    setAccessibleName(tr("Choose a tile"));
    setStyleSheet("#tilePicker { background: palette(base); border: 1px solid palette(mid); }");
    setFixedSize(kWidth, kHeight);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(10, 10, 10, 10);
    column->setSpacing(8);
    sheets_ = new QComboBox(this);
    sheets_->setObjectName("pickerSheets");
    sheets_->setAccessibleName(tr("Sheet"));
    column->addWidget(sheets_);
    view_ = new SheetView(session_, SheetView::Use::pick, this);
    view_->setObjectName("pickerSheet");
    column->addWidget(view_);
    column->addStretch();
    connect(sheets_, &QComboBox::activated, this, [this] { view_->setSheet(sheets_->currentData().toUInt()); });
    connect(view_, &SheetView::tileClicked, this, [this](level::TileId tile) {
        close();
        emit picked(tile);
    });
}

void TilePicker::popUp(QWidget* at) {
    const QVariant last = sheets_->currentData();
    sheets_->clear();
    for (const auto& sheet : session_.project().sheets)
        if (!sheet->tiles.empty()) sheets_->addItem(QString::fromStdString(sheet->name), sheet->id);
    sheets_->setCurrentIndex(std::max(0, sheets_->findData(last)));
    view_->setSheet(sheets_->currentData().toUInt());
    QPoint place = at->mapToGlobal(QPoint(at->width() - kWidth, at->height() + 2));
    const QRect screen = at->screen()->availableGeometry();
    if (place.y() + kHeight > screen.bottom()) place.setY(at->mapToGlobal(QPoint(0, 0)).y() - kHeight - 2);
    move(std::max(screen.left(), place.x()), std::max(screen.top(), place.y()));
    show();
    sheets_->setFocus();
}

} // namespace vic::app
