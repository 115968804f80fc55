#include "app/parts/picture_list.hpp"

#include <QFont>
#include <QIcon>
#include <QModelIndex>
#include <QPalette>
#include <QPoint>
#include <QVariant>
#include <algorithm>
#include <utility>

#include "app/parts/row_model.hpp"

namespace vic::app {

class PictureModel : public RowModel<PictureRow> {
  public:
    using RowModel::RowModel;

    std::function<QPixmap(quint32)> draw;
    QSize item;
    int letters = 0; // their height; 0: as the view has them

    QVariant data(const QModelIndex& index, int role) const override {
        if (!index.isValid()) return {};
        const PictureRow& r = row(index);
        switch (role) {
            case Qt::DisplayRole:
                return r.text.isEmpty() ? QVariant() : r.text;
            case Qt::ToolTipRole:
                return r.help.isEmpty() ? QVariant() : r.help;
            case Qt::UserRole:
                return r.id;
            case Qt::SizeHintRole:
                return item.isEmpty() ? QVariant() : item;
            case Qt::ForegroundRole:
                return r.faint ? QPalette().placeholderText() : QVariant();
            case Qt::FontRole: {
                if (letters == 0 && !r.strong) return {};
                QFont font;
                if (letters > 0) font.setPixelSize(letters);
                if (r.strong) font.setWeight(QFont::DemiBold);
                return font;
            }
            case Qt::DecorationRole:
                return draw && !r.dead ? picture(r.id) : QVariant();
            default:
                return {};
        }
    }

    Qt::ItemFlags flags(const QModelIndex& index) const override {
        return !index.isValid() || row(index).dead ? Qt::ItemFlags(Qt::NoItemFlags)
                                                   : Qt::ItemIsEnabled | Qt::ItemIsSelectable;
    }

    void redraw() {
        drawn_.clear();
        if (rowCount() > 0) emit dataChanged(index(0), index(rowCount() - 1), {Qt::DecorationRole});
    }

  private:
    QIcon picture(quint32 id) const {
        auto& icon = drawn_[id];
        if (icon.isNull()) {
            const QPixmap pixmap = draw(id);
            icon = QIcon(pixmap);
            icon.addPixmap(pixmap, QIcon::Selected); // the chosen one looks as drawn too; Qt would tint it
        }
        return icon;
    }
    mutable QHash<quint32, QIcon> drawn_;
};

PictureList::PictureList(const char* name, const QString& title, QWidget* parent)
    : QListView(parent), model_(new PictureModel(this)) {
    setObjectName(name);
    setAccessibleName(title);
    setModel(model_);
    setEditTriggers(QAbstractItemView::NoEditTriggers);
    setUniformItemSizes(true);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setTextElideMode(Qt::ElideRight);
    setWordWrap(false);
    connect(this, &QListView::clicked, this, [this](const QModelIndex& index) {
        if (!model_->row(index).dead) emit picked(model_->row(index).id);
    });
}

void PictureList::layInBoxes(QSize grid, QSize item, int letters) {
    setViewMode(QListView::IconMode);
    setGridSize(grid);
    setResizeMode(QListView::Adjust);
    setMovement(QListView::Static);
    model_->item = item;
    model_->letters = letters;
}

void PictureList::setDraw(QSize size, std::function<QPixmap(quint32)> draw) {
    setIconSize(size);
    model_->draw = std::move(draw);
}

void PictureList::setRows(std::vector<PictureRow> rows) { model_->setRows(std::move(rows)); }

void PictureList::redraw() { model_->redraw(); }

void PictureList::setCurrent(std::optional<quint32> id) {
    const QModelIndex index = id ? model_->indexOf(*id) : QModelIndex();
    if (index == currentIndex()) return;
    if (index.isValid())
        setCurrentIndex(index);
    else
        selectionModel()->clear();
}

std::optional<quint32> PictureList::current() const {
    const QModelIndex index = currentIndex();
    return index.isValid() && !model_->row(index).dead ? std::optional(model_->row(index).id) : std::nullopt;
}

std::optional<quint32> PictureList::at(QPoint place) const {
    const QModelIndex index = indexAt(place);
    return index.isValid() ? std::optional(model_->row(index).id) : std::nullopt;
}

void PictureList::step(int by) {
    if (count() == 0) return;
    setCurrentIndex(model_->index(std::clamp(currentIndex().row() + by, 0, count() - 1)));
}

int PictureList::count() const { return model_->rowCount(); }

} // namespace vic::app
