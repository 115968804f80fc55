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

#include "app/parts/facts_look.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/shape_sign.hpp"
#include "app/parts/thumbs.hpp"
#include "app/parts/tokens.hpp"
#include "app/parts/translated.hpp"
#include "app/tray/recolour_dialog.hpp"
#include "edit/homes.hpp"
#include "edit/recolour.hpp"
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
    buildColourRow();
    buildBlockerRow();
    buildFactRow();
    buildStampRow();
}

void HandOptions::buildHomeRow() {
    homeRow_ = row(tr("Home"));
    auto* home = new QComboBox(homeRow_);
    home->setObjectName("handHome");
    describe(home, tr("Home layer"), "H", tr("Where it is laid unless Ctrl is held; H takes the one that is proposed"));
    homeRow_->layout()->addWidget(home);
    const auto layers = [this] {
        const auto proposed = session_.derived().proposedHome();
        std::vector<Bindings::Choice> all{{proposed ? tr("none yet") : tr("none"), 0U}};
        const auto& slabs = session_.level()->layers;
        for (auto l = slabs.rbegin(); l != slabs.rend(); ++l) {
            if (!(*l)->tiles()) continue;
            const QString name = QString::fromStdString((*l)->name);
            all.push_back({proposed && proposed->layer == (*l)->id ? tr("%1 – proposed").arg(name) : name, (*l)->id});
        }
        return all;
    };
    fields_.bindChoice(
        home, layers,
        [this] { return QVariant(edit::home_of(session_.project(), *session_.level(), session_.hand())); },
        [this](const QVariant& layer) {
            session_.apply(tr("Give a home"),
                           edit::set_home(session_.project(), *session_.level(), session_.hand(), layer.toUInt()));
        });
    fields_.follow([this, home] {
        if (const auto proposed = session_.derived().proposedHome())
            home->setToolTip(tr("Proposed because %1; H takes it").arg(translated(proposed->why)));
    });
}

// A copy in other colours, whose art follows.
void HandOptions::buildColourRow() {
    colourRow_ = row({});
    auto* colours = toolButton(colourRow_, "handColours", {}, tr("In other colours…"), {}, "link");
    describe(colours, tr("In other colours"), {},
             tr("A copy with another hue, lightness, or one colour for another; it follows the art of this one"));
    colours->setStyleSheet("padding-left: 0;"); // under the other rows' names
    connect(colours, &QToolButton::clicked, this, [this] { RecolourDialog(session_, this).exec(); });
    colourRow_->layout()->addWidget(colours);
    static_cast<QHBoxLayout*>(colourRow_->layout())->addStretch();
    fields_.follow([this, colours] {
        colours->setText(edit::recolour_of(session_.project(), session_.hand()) ? tr("Its colours…")
                                                                                : tr("In other colours…"));
    });
}

void HandOptions::buildShareRow() {
    shareEmptyRow_ = row(tr("Leaves"));
    auto* shareEmpty = new QSlider(Qt::Horizontal, shareEmptyRow_);
    shareEmpty->setObjectName("handLeaves");
    shareEmpty->setRange(0, 99);
    describe(shareEmpty, tr("Cells left as they are"), {},
             tr("The share of cells that nothing is laid on; what is shown under the pointer is what will be laid"));
    shareEmptyRow_->layout()->addWidget(shareEmpty);
    auto* share = label({}, "quiet", shareEmptyRow_);
    share->setObjectName("handShare");
    share->setFixedWidth(34);
    share->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    shareEmptyRow_->layout()->addWidget(share);
    auto* cast = new QPushButton(tr("Cast"), shareEmptyRow_);
    cast->setObjectName("handCast");
    describe(cast, tr("Cast again"), "Shift+C", tr("Another choice by chance, also in what is selected"));
    shareEmptyRow_->layout()->addWidget(cast);
    const auto left = [this] { return session_.hand().share_empty; };
    fields_.bindInt(shareEmpty, left, [this](int v) {
        edit::Hand hand = session_.hand();
        hand.share_empty = v;
        session_.setHand(hand);
    });
    fields_.bindLabel(share, [left] { return tr("%1 %").arg(left()); });
    fields_.bindEnabled(cast, [this, left] { return left() > 0 || session_.hand().is<edit::held::Spread>(); });
    connect(cast, &QPushButton::clicked, this, [this] { commands_.castAgain(); });
}

void HandOptions::buildBlockerRow() {
    blockerRow_ = row({});
    blockerRow_->layout()->setSpacing(2);
    for (const auto shape :
         {level::TileShape::full, level::TileShape::half_south, level::TileShape::slope_se, level::TileShape::thin_se,
          level::TileShape::thick_se, level::TileShape::one_way_north, level::TileShape::opens}) {
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
        fields_.follow([this, b, shape] {
            const auto* held = session_.hand().as<edit::held::Blocker>();
            if (held) b->setIcon(shapeSign(shape, tokensOf(this)));
            b->setChecked(held && held->shape == shape);
        });
    }
    static_cast<QHBoxLayout*>(blockerRow_->layout())->addStretch();
}

// What is said of the cells: a number, or one of a few words.
void HandOptions::buildFactRow() {
    factRow_ = row({});
    const auto kind = [this]() -> const level::NoteKind* {
        const auto* held = session_.hand().as<edit::held::Fact>();
        return held ? session_.project().note_kind(held->note) : nullptr;
    };
    const auto isNumber = [kind] { return !kind() || kind()->type == level::NoteType::number; };
    const auto value = [this] {
        const auto* held = session_.hand().as<edit::held::Fact>();
        return held ? held->value : 0;
    };
    const auto hold = [this](int v) {
        edit::Hand hand = session_.hand();
        if (auto* held = hand.as<edit::held::Fact>()) held->value = v;
        session_.setHand(hand);
    };
    auto* number = new QSpinBox(factRow_);
    number->setObjectName("factValue");
    number->setRange(-level::kMostFact, level::kMostFact);
    describe(number, tr("Value"), {}, tr("What is said of the cells that are laid"));
    auto* word = new QComboBox(factRow_);
    word->setObjectName("factWord");
    describe(word, tr("Value"), {}, tr("What is said of the cells that are laid"));
    auto* name = label({}, "quiet", factRow_);
    auto* layout = static_cast<QHBoxLayout*>(factRow_->layout());
    layout->addWidget(name);
    layout->addWidget(number, 1);
    layout->addWidget(word, 1);
    fields_.bindLabel(name, [kind] { return kind() ? QString::fromStdString(kind()->name) : tr("Value"); });
    fields_.bindInt(number, value, hold);
    fields_.bindChoice(
        word,
        [kind, isNumber] {
            std::vector<Bindings::Choice> out;
            if (isNumber()) return out;
            const int count = kind()->type == level::NoteType::yes_no ? 2 : static_cast<int>(kind()->choices.size());
            for (int i = 0; i < count; ++i) out.push_back({factWord(kind(), i), i});
            return out;
        },
        [value] { return QVariant(value()); }, [hold](const QVariant& v) { hold(v.toInt()); });
    fields_.bindShown(number, isNumber);
    fields_.bindShown(word, [isNumber] { return !isNumber(); });
}

void HandOptions::buildStampRow() {
    stampRow_ = row({});
    auto* pins = new QCheckBox(tr("as taken"), stampRow_);
    pins->setObjectName("stampPins");
    describe(pins, tr("As it was taken"), {}, tr("Painted cells stay as they are in the stamp and do not join anew"));
    auto* nine = new QCheckBox(tr("stretches"), stampRow_);
    nine->setObjectName("stampNine");
    describe(
        nine, tr("Stretches"), {},
        tr("Drawn with the rectangle its corners stay and its rims and middle repeat; else it repeats as a whole"));
    auto* keep = new QPushButton(tr("Keep"), stampRow_);
    keep->setObjectName("stampKeep");
    describe(keep, tr("Keep as a stamp"), "Ctrl+T", tr("It goes into the Tray"));
    for (QWidget* w : std::initializer_list<QWidget*>{pins, nine, keep}) stampRow_->layout()->addWidget(w);
    const auto held = [this] { return session_.hand().as<edit::held::Stamp>(); };
    fields_.bindCheck(
        pins, [held] { return held() && held()->pins; },
        [this](bool on) {
            edit::Hand hand = session_.hand();
            if (auto* stamp = hand.as<edit::held::Stamp>()) stamp->pins = on;
            session_.setHand(hand);
        });
    fields_.bindCheck(
        nine, [held] { return held() && held()->stamp->nine; }, [this](bool on) { stretch(on); });
    fields_.bindShown(keep, [held] { return held() && held()->stamp->id == 0; });
    connect(keep, &QPushButton::clicked, this, [this] { commands_.keepStamp(); });
}

// Whether the stamp in the Hand is stretched or repeated: one that is kept is changed in the project.
void HandOptions::stretch(bool on) {
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
    const bool single = hand.is<edit::held::Material>() || hand.is<edit::held::Tile>();
    const bool lays = single || spread;
    const bool stamp = hand.is<edit::held::Stamp>();
    const bool blocker = hand.is<edit::held::Blocker>();
    const bool fact = hand.is<edit::held::Fact>();
    const bool prop = hand.is<edit::held::Prop>();
    setVisible(level && (lays || stamp || blocker || fact || prop));
    if (!level) return;
    homeRow_->setVisible(single);
    shareEmptyRow_->setVisible(lays);
    spreadBox_->setVisible(spread);
    stampRow_->setVisible(stamp);
    blockerRow_->setVisible(blocker);
    factRow_->setVisible(fact);
    colourRow_->setVisible(single || prop);
    fields_.refresh();
    if (spread) fillSpread(spread->items);
}

} // namespace vic::app
