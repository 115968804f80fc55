#include "app/lay/plan_keys.hpp"

#include <QAbstractItemView>
#include <QComboBox>
#include <QFontMetrics>
#include <QLocale>
#include <QModelIndex>
#include <QPainter>
#include <QRect>
#include <QSize>
#include <QStyle>
#include <QStyleOptionComboBox>
#include <QStyleOptionViewItem>
#include <QStyledItemDelegate>
#include <QTimer>
#include <QVariant>
#include <QWidget>
#include <utility>

#include "app/parts/row_model.hpp"
#include "app/parts/tokens.hpp"

namespace vic::app {

namespace {

constexpr int kRow = 32, kSwatch = 22, kField = 86; // where the meaning begins

QRect fieldOf(const QRect& row) { return row.adjusted(kField, 2, -4, -2); }

// A list of meanings that is there for as long as it is open.
class MeaningBox : public QComboBox {
  public:
    using QComboBox::QComboBox;
    void hidePopup() override {
        QComboBox::hidePopup();
        setObjectName({});
        deleteLater();
    }
};

class KeyDelegate : public QStyledItemDelegate {
  public:
    explicit KeyDelegate(PlanKeys* view);
    QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const override { return {10, kRow}; }
    void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override;

  private:
    QComboBox* face_; // never seen: how lists look
};

} // namespace

class PlanKeyModel : public RowModel<PlanKeyRow> {
  public:
    using RowModel::RowModel;
    QVariant data(const QModelIndex& index, int role) const override {
        if (!index.isValid()) return {};
        const PlanKeyRow& r = row(index);
        if (role == Qt::DisplayRole) return r.meaning;
        if (role == Qt::AccessibleTextRole) return PlanKeys::tr("%1: %2").arg(r.colour.name(), r.meaning);
        return {};
    }
};

namespace {

KeyDelegate::KeyDelegate(PlanKeys* view) : QStyledItemDelegate(view), face_(new QComboBox(view)) { face_->hide(); }

void KeyDelegate::paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const {
    const PlanKeyRow& r = static_cast<const PlanKeyModel*>(index.model())->row(index);
    const Tokens t = tokensOf(option.widget);
    p->save();
    p->setFont(option.font);
    const QRect swatch(option.rect.left() + 4, option.rect.center().y() - kSwatch / 2, kSwatch, kSwatch);
    p->fillRect(swatch, r.colour);
    p->setPen(t.quiet);
    p->drawText(QRect(swatch.right() + 8, option.rect.top(), 44, option.rect.height()),
                Qt::AlignRight | Qt::AlignVCenter, QLocale().toString(r.count));
    QStyleOptionComboBox box;
    box.initFrom(face_);
    box.rect = fieldOf(option.rect);
    box.state = QStyle::State_Enabled | (option.state & QStyle::State_MouseOver);
    box.currentText = QFontMetrics(option.font).elidedText(r.meaning, Qt::ElideRight, box.rect.width() - 34);
    face_->style()->drawComplexControl(QStyle::CC_ComboBox, &box, p, face_);
    face_->style()->drawControl(QStyle::CE_ComboBoxLabel, &box, p, face_);
    p->restore();
}

} // namespace

PlanKeys::PlanKeys(Offer offer, QWidget* parent)
    : QListView(parent), offer_(std::move(offer)), model_(new PlanKeyModel(this)) {
    setObjectName("planKeys");
    setAccessibleName(tr("Colours of the plan"));
    setModel(model_);
    setItemDelegate(new KeyDelegate(this));
    setUniformItemSizes(true);
    setMouseTracking(true);
    setEditTriggers(QAbstractItemView::NoEditTriggers);
    setSelectionMode(QAbstractItemView::NoSelection);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    connect(this, &QListView::clicked, this,
            [this](const QModelIndex& index) { open(static_cast<std::size_t>(index.row())); });
    connect(this, &QListView::activated, this,
            [this](const QModelIndex& index) { open(static_cast<std::size_t>(index.row())); });
}

void PlanKeys::setKeys(std::vector<PlanKeyRow> rows) { model_->setRows(std::move(rows)); }

QRect PlanKeys::field(std::size_t key) const { return fieldOf(visualRect(model_->index(static_cast<int>(key)))); }

void PlanKeys::open(std::size_t key) {
    const QString name = QString("planKey-%1").arg(key);
    if (viewport()->findChild<QComboBox*>(name)) return; // a double click comes twice
    auto* box = new MeaningBox(viewport());
    box->setObjectName(name);
    box->setAccessibleName(tr("What the colour means"));
    box->setMaxVisibleItems(24);
    const std::vector<Meaning> meanings = offer_(key);
    for (const Meaning& m : meanings) box->addItem(m.text);
    box->setCurrentText(model_->rows()[key].meaning);
    box->setGeometry(field(key));
    connect(box, &QComboBox::activated, this, [this, key, meanings](int at) {
        const auto& chosen = meanings[static_cast<std::size_t>(at)].key;
        if (chosen)
            emit meant(key, *chosen);
        else
            emit elsewhere(key, viewport());
    });
    box->show();
    box->showPopup();
}

} // namespace vic::app
