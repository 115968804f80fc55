#include "app/parts/card_list.hpp"

#include <QAbstractItemView>
#include <QFocusEvent>
#include <QFont>
#include <QFontMetrics>
#include <QItemSelectionModel>
#include <QModelIndex>
#include <QPainter>
#include <QPainterPath>
#include <QPen>
#include <QRectF>
#include <QSize>
#include <QStyle>
#include <QStyleOptionViewItem>
#include <QStyledItemDelegate>
#include <QVariant>
#include <QWidget>
#include <utility>

#include "app/parts/row_model.hpp"
#include "app/parts/tokens.hpp"

namespace vic::app {

class CardModel : public RowModel<Card> {
  public:
    using RowModel::RowModel;
    std::function<void(quint32, QString)> rename;

    QVariant data(const QModelIndex& index, int role) const override {
        if (!index.isValid()) return {};
        const Card& card = row(index);
        if (role == Qt::DisplayRole || role == Qt::EditRole) return card.title;
        if (role == Qt::AccessibleTextRole) return card.title + ", " + card.under;
        return {};
    }
    bool setData(const QModelIndex& index, const QVariant& value, int role) override {
        if (!index.isValid() || role != Qt::EditRole) return false;
        rename(row(index).id, value.toString().trimmed()); // what becomes of it the document will tell
        return true;
    }
    Qt::ItemFlags flags(const QModelIndex& index) const override {
        return index.isValid() ? Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsEditable : Qt::ItemFlags();
    }
};

namespace {

const Card& cardOf(const QModelIndex& index) { return static_cast<const CardModel*>(index.model())->row(index); }

class CardDelegate : public QStyledItemDelegate {
  public:
    using QStyledItemDelegate::QStyledItemDelegate;

    QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex& index) const override {
        return {160, cardOf(index).state.isEmpty() ? 52 : 66};
    }

    void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const Tokens t = tokensOf(static_cast<const QWidget*>(nullptr));
        const Card& card = cardOf(index);
        p->save();
        p->setRenderHint(QPainter::Antialiasing);
        const QRectF r = QRectF(option.rect).adjusted(6.5, 1.5, -6.5, -1.5);
        if (option.state & QStyle::State_Selected) {
            p->setPen(QPen(t.vermilion, 1));
            p->setBrush(t.card);
            p->drawRoundedRect(r, 10, 10);
        } else if (option.state & QStyle::State_MouseOver) {
            p->setPen(Qt::NoPen);
            p->setBrush(t.card);
            p->drawRoundedRect(r, 10, 10);
        }
        const double ring = card.ring;
        const QPixmap& picture = card.picture;
        const double side = ring >= 0 ? 30 : 40;
        const QRectF box(r.left() + 7, ring >= 0 ? r.center().y() - side / 2 : r.top() + 6, side, side);
        QPainterPath clip;
        if (ring >= 0)
            clip.addEllipse(box.adjusted(3, 3, -3, -3));
        else
            clip.addRoundedRect(box, 5, 5);
        p->save();
        p->setClipPath(clip);
        p->fillRect(box, t.window);
        if (!picture.isNull()) p->drawPixmap(box, picture, QRectF(picture.rect()));
        p->restore();
        if (ring >= 0) {
            p->setBrush(Qt::NoBrush);
            p->setPen(QPen(t.line, 2.5));
            p->drawEllipse(box.adjusted(1.5, 1.5, -1.5, -1.5));
            p->setPen(QPen(ring >= 1 ? t.brine : t.ochre, 2.5, Qt::SolidLine, Qt::FlatCap));
            p->drawArc(box.adjusted(1.5, 1.5, -1.5, -1.5), 90 * 16, static_cast<int>(-ring * 360 * 16));
        }
        QFont font = option.font;
        font.setPixelSize(13);
        font.setWeight(option.state & QStyle::State_Selected ? QFont::DemiBold : QFont::Medium);
        p->setFont(font);
        p->setPen(t.ink);
        const double x = box.right() + 10;
        const double w = r.right() - x - 6;
        double y = r.top() + 7;
        p->drawText(QRectF(x, y, w, 17), Qt::AlignLeft | Qt::AlignVCenter,
                    QFontMetrics(font).elidedText(card.title, Qt::ElideRight, static_cast<int>(w)));
        font.setPixelSize(11);
        font.setWeight(QFont::Normal);
        p->setFont(font);
        p->setPen(t.quiet);
        y += 18;
        p->drawText(QRectF(x, y, w, 15), Qt::AlignLeft | Qt::AlignVCenter,
                    QFontMetrics(font).elidedText(card.under, Qt::ElideRight, static_cast<int>(w)));
        if (!card.state.isEmpty()) {
            p->setPen(card.looks ? t.ochre : t.brine);
            p->drawText(QRectF(x, y + 15, w, 15), Qt::AlignLeft | Qt::AlignVCenter,
                        QFontMetrics(font).elidedText(card.state, Qt::ElideRight, static_cast<int>(w)));
        }
        p->restore();
    }

    void updateEditorGeometry(QWidget* editor, const QStyleOptionViewItem& option,
                              const QModelIndex& index) const override {
        const int left = cardOf(index).ring >= 0 ? 50 : 60;
        editor->setGeometry(option.rect.adjusted(left, 4, -12, 0).left(), option.rect.top() + 4,
                            option.rect.width() - left - 14, 26);
    }
};

} // namespace

CardList::CardList(QWidget* parent) : QListView(parent), model_(new CardModel(this)) {
    setModel(model_);
    setItemDelegate(new CardDelegate(this));
    setMouseTracking(true);
    setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed);
    model_->rename = [this](quint32 id, const QString& name) { emit renamed(id, name); };
    connect(selectionModel(), &QItemSelectionModel::currentChanged, this, [this](const QModelIndex& index) {
        if (index.isValid() && !filling_) emit chosen(model_->row(index).id);
    });
}

void CardList::setCards(const std::vector<Card>& cards, quint32 current) {
    filling_ = true;
    model_->setRows(cards);
    if (const QModelIndex index = model_->indexOf(current); index.isValid() && index != currentIndex())
        setCurrentIndex(index);
    filling_ = false;
}

// Qt makes the first card the current one where none is: nobody has chosen that, and the focus comes here by itself,
// too, when the widget that had it is hidden.
void CardList::focusInEvent(QFocusEvent* event) {
    const bool none = !currentIndex().isValid();
    filling_ = true;
    QListView::focusInEvent(event);
    if (none) selectionModel()->setCurrentIndex({}, QItemSelectionModel::NoUpdate);
    filling_ = false;
}

QPoint CardList::cardCentre(quint32 id) const { return visualRect(model_->indexOf(id)).center(); }

const std::vector<Card>& CardList::cards() const { return model_->rows(); }

} // namespace vic::app
