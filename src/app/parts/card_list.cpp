#include "app/parts/card_list.hpp"

#include <QAbstractItemView>
#include <QFont>
#include <QFontMetrics>
#include <QListWidgetItem>
#include <QModelIndex>
#include <QPainter>
#include <QPainterPath>
#include <QPen>
#include <QRectF>
#include <QSize>
#include <QStyle>
#include <QStyleOptionViewItem>
#include <QStyledItemDelegate>
#include <QWidget>
#include <cstddef>

#include "app/parts/tokens.hpp"

namespace vic::app {

namespace {

enum Role { IdRole = Qt::UserRole, PictureRole, UnderRole, StateRole, LooksRole, RingRole };

class CardDelegate : public QStyledItemDelegate {
  public:
    using QStyledItemDelegate::QStyledItemDelegate;

    QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex& index) const override {
        return {160, index.data(StateRole).toString().isEmpty() ? 52 : 66};
    }

    void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const Tokens t = tokensOf(static_cast<const QWidget*>(nullptr));
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
        const double ring = index.data(RingRole).toDouble();
        const QPixmap picture = index.data(PictureRole).value<QPixmap>();
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
        p->drawText(
            QRectF(x, y, w, 17), Qt::AlignLeft | Qt::AlignVCenter,
            QFontMetrics(font).elidedText(index.data(Qt::DisplayRole).toString(), Qt::ElideRight, static_cast<int>(w)));
        font.setPixelSize(11);
        font.setWeight(QFont::Normal);
        p->setFont(font);
        p->setPen(t.quiet);
        y += 18;
        p->drawText(
            QRectF(x, y, w, 15), Qt::AlignLeft | Qt::AlignVCenter,
            QFontMetrics(font).elidedText(index.data(UnderRole).toString(), Qt::ElideRight, static_cast<int>(w)));
        if (const QString state = index.data(StateRole).toString(); !state.isEmpty()) {
            p->setPen(index.data(LooksRole).toBool() ? t.ochre : t.brine);
            p->drawText(QRectF(x, y + 15, w, 15), Qt::AlignLeft | Qt::AlignVCenter,
                        QFontMetrics(font).elidedText(state, Qt::ElideRight, static_cast<int>(w)));
        }
        p->restore();
    }

    void updateEditorGeometry(QWidget* editor, const QStyleOptionViewItem& option,
                              const QModelIndex& index) const override {
        const int left = index.data(RingRole).toDouble() >= 0 ? 50 : 60;
        editor->setGeometry(option.rect.adjusted(left, 4, -12, 0).left(), option.rect.top() + 4,
                            option.rect.width() - left - 14, 26);
    }
};

} // namespace

CardList::CardList(QWidget* parent) : QListWidget(parent) {
    setItemDelegate(new CardDelegate(this));
    setMouseTracking(true);
    setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed);
    connect(this, &QListWidget::currentItemChanged, this, [this](QListWidgetItem* item) {
        if (item && !filling_) emit chosen(item->data(IdRole).toUInt());
    });
    connect(this, &QListWidget::itemChanged, this, [this](QListWidgetItem* item) {
        if (!filling_) emit renamed(item->data(IdRole).toUInt(), item->text().trimmed());
    });
}

void CardList::setCards(const std::vector<Card>& cards, quint32 current) {
    filling_ = true;
    while (count() > static_cast<int>(cards.size())) delete takeItem(count() - 1);
    for (int i = 0; i < static_cast<int>(cards.size()); ++i) {
        const Card& card = cards[static_cast<std::size_t>(i)];
        if (i >= count()) addItem(new QListWidgetItem);
        QListWidgetItem* at = item(i);
        at->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsEditable);
        at->setData(IdRole, card.id);
        at->setData(PictureRole, card.picture);
        at->setText(card.title);
        at->setData(UnderRole, card.under);
        at->setData(StateRole, card.state);
        at->setData(LooksRole, card.looks);
        at->setData(RingRole, card.ring);
        at->setData(Qt::AccessibleTextRole, card.title + ", " + card.under);
        if (card.id == current) setCurrentItem(at);
    }
    filling_ = false;
}

QPoint CardList::cardCentre(quint32 id) const {
    for (int i = 0; i < count(); ++i)
        if (item(i)->data(IdRole).toUInt() == id) return visualItemRect(item(i)).center();
    return {};
}

} // namespace vic::app
