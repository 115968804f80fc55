#include "app/tray/hand_options.hpp"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLayoutItem>
#include <QPushButton>
#include <QSignalBlocker>
#include <QSlider>
#include <QSpinBox>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cstddef>
#include <initializer_list>
#include <memory>
#include <utility>

#include "app/parts/panel.hpp"
#include "app/parts/shape_sign.hpp"
#include "app/parts/thumbs.hpp"
#include "app/parts/tokens.hpp"
#include "app/parts/translated.hpp"
#include "edit/homes.hpp"
#include "level/cell.hpp"
#include "level/level.hpp"
#include "level/material.hpp"
#include "level/project.hpp"
#include "level/sheet.hpp"
#include "level/stamp.hpp"

namespace vic::app {

edit::Hand with_more(const edit::Hand& hand, const edit::SpreadItem& item) {
    edit::Hand out = hand;
    edit::held::Spread spread;
    if (const auto* had = hand.as<edit::held::Spread>())
        spread = *had;
    else if (hand.is<edit::held::Material>() || hand.is<edit::held::Tile>())
        spread.items = {{hand.material(), hand.tile(), hand.turn, 100}};
    out.turn = {};
    const auto same = [&](const edit::SpreadItem& i) { return i.material == item.material && i.tile == item.tile; };
    if (const auto known = std::find_if(spread.items.begin(), spread.items.end(), same); known != spread.items.end())
        spread.items.erase(known);
    else
        spread.items.push_back(item);
    out.holds = std::move(spread);
    return out;
}

HandOptions::HandOptions(Session& session, LayCommands& commands, QWidget* parent)
    : QWidget(parent), session_(session), commands_(commands) {
    setObjectName("handOptions");
    column_ = new QVBoxLayout(this);
    column_->setContentsMargins(0, 0, 0, 0);
    column_->setSpacing(5);
    spreadBox_ = new QWidget(this);
    spread_ = new QVBoxLayout(spreadBox_);
    spread_->setContentsMargins(0, 0, 0, 0);
    spread_->setSpacing(3);
    column_->addWidget(spreadBox_);

    buildHomeRow();
    buildShareRow();
    buildBlockerRow();
    buildStampRow();
}

void HandOptions::buildHomeRow() {
    homeRow_ = row(tr("Home"));
    home_ = new QComboBox(homeRow_);
    home_->setObjectName("handHome");
    describe(home_, tr("Home layer"), "H",
             tr("Where it is laid unless Ctrl is held; H takes the one that is proposed"));
    homeRow_->layout()->addWidget(home_);
    connect(home_, &QComboBox::activated, this, [this] {
        const level::LayerId layer = home_->currentData().toUInt();
        session_.apply(tr("Give a home"),
                       edit::set_home(session_.project(), *session_.level(), session_.hand(), layer));
    });
}

void HandOptions::buildShareRow() {
    shareEmptyRow_ = row(tr("Leaves"));
    shareEmpty_ = new QSlider(Qt::Horizontal, shareEmptyRow_);
    shareEmpty_->setObjectName("handLeaves");
    shareEmpty_->setRange(0, 99);
    describe(shareEmpty_, tr("Cells left as they are"), {},
             tr("The share of cells that nothing is laid on; what is shown under the pointer is what will be laid"));
    shareEmptyRow_->layout()->addWidget(shareEmpty_);
    share_ = label({}, "quiet", shareEmptyRow_);
    share_->setObjectName("handShare");
    share_->setFixedWidth(34);
    share_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    shareEmptyRow_->layout()->addWidget(share_);
    cast_ = new QPushButton(tr("Cast"), shareEmptyRow_);
    cast_->setObjectName("handCast");
    describe(cast_, tr("Cast again"), "Shift+C", tr("Another choice by chance, also in what is selected"));
    shareEmptyRow_->layout()->addWidget(cast_);
    connect(shareEmpty_, &QSlider::valueChanged, this, [this](int v) {
        edit::Hand hand = session_.hand();
        if (hand.share_empty == v) return;
        hand.share_empty = v;
        session_.setHand(hand);
    });
    connect(cast_, &QPushButton::clicked, this, [this] { commands_.castAgain(); });
}

void HandOptions::buildBlockerRow() {
    blockerRow_ = row({});
    blockerRow_->layout()->setSpacing(2);
    for (const auto shape : {level::TileShape::full, level::TileShape::half_south, level::TileShape::slope_se,
                             level::TileShape::thin_se, level::TileShape::thick_se, level::TileShape::one_way_north}) {
        auto* b = toolButton(blockerRow_, QString("blocker-%1").arg(static_cast<int>(shape)), {}, {}, {}, "tool");
        describe(b, shapeName(shape), {}, tr("What blocks in the cells that are laid; , and . turn it, / mirrors it"));
        b->setCheckable(true);
        connect(b, &QToolButton::clicked, this, [this, shape] {
            edit::Hand hand = edit::blocker_hand(shape);
            hand.size = session_.hand().size;
            hand.round = session_.hand().round;
            session_.setHand(hand);
        });
        blockerRow_->layout()->addWidget(b);
        shapes_[shape] = b;
    }
    static_cast<QHBoxLayout*>(blockerRow_->layout())->addStretch();
}

void HandOptions::buildStampRow() {
    stampRow_ = row({});
    pins_ = new QCheckBox(tr("as taken"), stampRow_);
    pins_->setObjectName("stampPins");
    describe(pins_, tr("As it was taken"), {}, tr("Painted cells stay as they are in the stamp and do not join anew"));
    nine_ = new QCheckBox(tr("stretches"), stampRow_);
    nine_->setObjectName("stampNine");
    describe(
        nine_, tr("Stretches"), {},
        tr("Drawn with the rectangle its corners stay and its rims and middle repeat; else it repeats as a whole"));
    keep_ = new QPushButton(tr("Keep"), stampRow_);
    keep_->setObjectName("stampKeep");
    describe(keep_, tr("Keep as a stamp"), "Ctrl+T", tr("It goes into the Tray"));
    for (QWidget* w : std::initializer_list<QWidget*>{pins_, nine_, keep_}) stampRow_->layout()->addWidget(w);
    connect(pins_, &QCheckBox::clicked, this, [this](bool on) {
        edit::Hand hand = session_.hand();
        if (auto* held = hand.as<edit::held::Stamp>()) held->pins = on;
        session_.setHand(hand);
    });
    connect(nine_, &QCheckBox::clicked, this, [this](bool on) {
        edit::Hand hand = session_.hand();
        auto* held = hand.as<edit::held::Stamp>();
        if (!held) return;
        level::Stamp stamp = *held->stamp;
        stamp.nine = on;
        if (stamp.id != 0) {
            level::Project p = session_.project();
            p.put(stamp);
            session_.apply(tr("Whether a stamp stretches"), std::move(p));
            held->stamp = session_.project().stamp(stamp.id);
        } else {
            held->stamp = std::make_shared<const level::Stamp>(std::move(stamp));
        }
        session_.setHand(hand);
    });
    connect(keep_, &QPushButton::clicked, this, [this] { commands_.keepStamp(); });
}

QWidget* HandOptions::row(const QString& name) {
    auto* whole = new QWidget(this);
    auto* inner = new QHBoxLayout(whole);
    inner->setContentsMargins(0, 0, 0, 0);
    inner->setSpacing(6);
    column_->addWidget(whole);
    if (name.isEmpty()) return whole;
    auto* l = label(name, "quiet", whole);
    l->setFixedWidth(48);
    inner->addWidget(l);
    return whole;
}

void HandOptions::fillSpread(const std::vector<edit::SpreadItem>& items) {
    const auto same = [](const edit::SpreadItem& a, const edit::SpreadItem& b) {
        return a.material == b.material && a.tile == b.tile;
    };
    if (items.size() == shown_.size() && std::equal(items.begin(), items.end(), shown_.begin(), same)) {
        // Only weights changed: the fields live on.
        for (std::size_t i = 0; i < items.size(); ++i)
            if (auto* box = spreadBox_->findChild<QSpinBox*>(QString("spreadWeight-%1").arg(i))) {
                const QSignalBlocker quiet(box);
                box->setValue(items[i].weight);
            }
        shown_ = items;
        return;
    }
    shown_ = items;
    while (QLayoutItem* item = spread_->takeAt(0)) {
        item->widget()->setObjectName({});
        for (auto* child : item->widget()->findChildren<QWidget*>()) child->setObjectName({});
        item->widget()->hide();
        item->widget()->deleteLater();
        delete item;
    }
    const level::Project& p = session_.project();
    for (std::size_t i = 0; i < items.size(); ++i) {
        auto* line = new QWidget(spreadBox_);
        auto* row = new QHBoxLayout(line);
        row->setContentsMargins(0, 0, 0, 0);
        row->setSpacing(6);
        auto* picture = new QLabel(line);
        const level::Material* m = p.material(items[i].material);
        picture->setPixmap(m ? materialThumb(p, *m, 20) : tileThumb(p, items[i].tile, 20, items[i].turn));
        picture->setFixedSize(20, 20);
        row->addWidget(picture);
        row->addWidget(
            label(m ? QString::fromStdString(m->name) : translated(edit::tile_name(p, items[i].tile)), "quiet", line),
            1);
        auto* weight = new QSpinBox(line);
        weight->setObjectName(QString("spreadWeight-%1").arg(i));
        weight->setRange(0, 1000);
        weight->setSingleStep(10);
        weight->setKeyboardTracking(false);
        weight->setValue(items[i].weight);
        describe(weight, tr("Weight"), {}, tr("How often it is chosen beside the others"));
        row->addWidget(weight);
        connect(weight, &QSpinBox::valueChanged, this, [this, i](int v) {
            edit::Hand hand = session_.hand();
            auto* spread = hand.as<edit::held::Spread>();
            if (!spread || i >= spread->items.size()) return;
            spread->items[i].weight = v;
            session_.setHand(hand);
        });
        auto* out = toolButton(line, QString("spreadOut-%1").arg(i), "remove", {}, tr("Take out"), "link");
        describe(out, tr("Take out"), {}, tr("It is no longer among the things to choose from"));
        row->addWidget(out);
        connect(out, &QToolButton::clicked, this, [this, item = items[i]] {
            edit::Hand hand = with_more(session_.hand(), item);
            if (const auto* spread = hand.as<edit::held::Spread>(); spread && spread->items.empty()) hand = {};
            session_.setHand(hand);
        });
        spread_->addWidget(line);
    }
}

void HandOptions::refresh() {
    const edit::Hand& hand = session_.hand();
    const level::Level* level = session_.isOpen() ? session_.level() : nullptr;
    const auto* spread = hand.as<edit::held::Spread>();
    const auto* stamp = hand.as<edit::held::Stamp>();
    const auto* blocker = hand.as<edit::held::Blocker>();
    const bool single = hand.is<edit::held::Material>() || hand.is<edit::held::Tile>();
    const bool lays = single || spread;
    setVisible(level && (lays || stamp || blocker));
    if (!level) return;
    homeRow_->setVisible(single);
    shareEmptyRow_->setVisible(lays);
    spreadBox_->setVisible(spread);
    stampRow_->setVisible(stamp);
    blockerRow_->setVisible(blocker);
    if (blocker)
        for (const auto& [shape, button] : shapes_) {
            button->setIcon(shapeSign(shape, tokensOf(this)));
            button->setChecked(blocker->shape == shape);
        }
    if (single) {
        const QSignalBlocker quiet(home_);
        home_->clear();
        const auto& proposed = session_.derived().proposedHome();
        home_->addItem(proposed ? tr("none yet") : tr("none"), 0U);
        for (auto l = level->layers.rbegin(); l != level->layers.rend(); ++l)
            if ((*l)->tiles()) {
                QString name = QString::fromStdString((*l)->name);
                if (proposed && proposed->layer == (*l)->id) name = tr("%1 – proposed").arg(name);
                home_->addItem(name, (*l)->id);
            }
        home_->setCurrentIndex(std::max(0, home_->findData(edit::home_of(session_.project(), *level, hand))));
        if (proposed) home_->setToolTip(tr("Proposed because %1; H takes it").arg(translated(proposed->why)));
    }
    const QSignalBlocker quiet(shareEmpty_);
    shareEmpty_->setValue(hand.share_empty);
    share_->setText(tr("%1 %").arg(hand.share_empty));
    cast_->setEnabled(hand.share_empty > 0 || spread);
    if (spread) fillSpread(spread->items);
    if (stamp) {
        pins_->setChecked(stamp->pins);
        nine_->setChecked(stamp->stamp->nine);
        keep_->setVisible(stamp->stamp->id == 0);
    }
}

} // namespace vic::app
