#include "app/solid/solid_switch.hpp"

#include <QEvent>
#include <QHBoxLayout>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

#include "app/parts/panel.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "app/solid/light_card.hpp"
#include "app/solid/solid_view.hpp"
#include "app/view/level_view.hpp"

namespace vic::app {

namespace {

// Whether it can be looked at in three dimensions.
bool stands(const level::Level& level) { return level.view == level::View::from_above && level.geometry().square(); }

} // namespace

SolidSwitch::SolidSwitch(Session& session, LevelView& view) : QWidget(&view), session_(session), level_(view) {
    setObjectName("solidSwitch");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    auto* row = new QHBoxLayout;
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(3);
    struct Way {
        const char* id;
        QString name, key, help;
    };
    const Way all[] = {
        {"lookPlan", tr("Plan"), "F5", tr("From above, as it is painted")},
        {"lookAslant", tr("Aslant"), "F6",
         tr("In three dimensions; the middle button turns it, with Shift moves it, the wheel comes nearer. All tools "
            "work here, too")},
        {"lookFront", tr("Front"), "F7", tr("From the south, with right angles")},
        {"lookThrough", tr("Through"), "F8", tr("As one sees it who stands in it")},
        {"lookGame", tr("Game"), "F9", tr("What the game shows: the frame, by the level's own tilt and lens")}};
    for (std::size_t i = 0; i < buttons_.size(); ++i) {
        buttons_[i] = toolButton(this, all[i].id, {}, all[i].name, {}, "card");
        buttons_[i]->setCheckable(true);
        buttons_[i]->setStyleSheet("padding: 4px 6px;");
        buttons_[i]->setMinimumWidth(buttons_[i]->fontMetrics().horizontalAdvance(all[i].name) + 18);
        describe(buttons_[i], all[i].name, all[i].key, all[i].help);
        connect(buttons_[i], &QToolButton::clicked, this, [this, i] { look(static_cast<Look>(i)); });
        row->addWidget(buttons_[i]);
    }
    column->addLayout(row);
    light_ = new LightCard(session_, this);
    column->addWidget(light_);
    connect(light_, &LightCard::sectionAsked, this, [this](double share) {
        if (solid_) solid_->setSection(share);
    });
    connect(&session_.mass(), &MergedMass::changed, this, &SolidSwitch::sayMerged);
    connect(&session_, &Session::stageChanged, this, &SolidSwitch::sayMerged);
    connect(&session_, &Session::changed, light_, &LightCard::refresh);
    connect(&session_.bodies(), &KitBodies::changed, light_, &LightCard::refresh);
    connect(&session_, &Session::opened, this, [this] { look(Look::plan); });
    level_.installEventFilter(this);
    refresh();
}

// What comes of the pieces for the engine.
void SolidSwitch::sayMerged() {
    const bool bound = look_ != Look::plan && session_.stage() == Stage::bound;
    const auto mass = bound ? session_.mass().of(session_.bodies().all()) : nullptr;
    QString text = tr("Merging what blocks…");
    if (mass) {
        text = translated(say_count(mass->pieces, "One piece", "%n pieces")) + tr(", merged: ") +
               translated(say_count(mass->polygons, "one polygon", "%n polygons"));
        if (mass->open > 0) text += "\n" + translated(say_count(mass->open, "One is not closed", "%n are not closed"));
    }
    light_->say(text, bound && !(mass && mass->pieces == 0)); // of flat art alone nothing is merged
    place();
}

void SolidSwitch::look(Look how) {
    if (how != Look::plan && !session_.level()) return;
    if (how != Look::plan && !stands(*session_.level()))
        return emit session_.said(
            tr("Levels that are seen from above, on squares, can be looked at in three dimensions"), true);
    look_ = how;
    if (how != Look::plan && !solid_) {
        solid_ = new SolidView(session_, level_);
        connect(&solid_->stroll(), &SolidStroll::moved, this, [this] {
            if (!walking_ || solid_->stroll().on()) return;
            walking_ = false;
            emit walked();
        });
        connect(solid_, &SolidView::troubled, this, [this](const QString& why) {
            look(Look::plan);
            emit session_.said(
                tr("There is no OpenGL 3.3 to draw it with (%1): Plan shows the level").arg(why.trimmed()), true);
        });
    }
    if (solid_ && how != Look::plan) solid_->look(static_cast<SolidView::Look>(static_cast<int>(how) - 1));
    settle();
    refresh();
    emit looked();
}

bool SolidSwitch::toggleWalk() {
    if (look_ == Look::plan || !solid_) return false;
    solid_->toggleWalk();
    return true;
}

void SolidSwitch::setWalking(bool on, std::optional<QPointF> from) {
    const bool begins = on && look_ != Look::plan && solid_ && !solid_->stroll().on();
    walking_ = on && look_ != Look::plan;
    if (!solid_) return;
    if (begins) solid_->walk(from);
    if (!on) solid_->stroll().end();
}

void SolidSwitch::settle() {
    const bool on = look_ != Look::plan;
    level_.setCovered(on);
    if (!solid_) return;
    place();
    solid_->setVisible(on);
    if (on) solid_->raise();
    raise();
}

void SolidSwitch::place() {
    constexpr int kAway = 10, kBelow = 30; // pixels from the right, and from above: below the ruler
    // Rows that have gone or come since are counted at once.
    light_->layout()->invalidate();
    light_->layout()->activate();
    layout()->invalidate();
    layout()->activate();
    adjustSize();
    move(level_.width() - width() - kAway, kBelow);
    if (solid_) solid_->setGeometry(level_.rect());
}

void SolidSwitch::refresh() {
    const auto& sheets = session_.project().sheets;
    // Where there is no kit it is there once it was asked for.
    const bool can = session_.isOpen() && session_.level() && stands(*session_.level());
    const bool any = can && (look_ != Look::plan || std::any_of(sheets.begin(), sheets.end(),
                                                                [](const auto& s) { return s->kit.has_value(); }));
    setVisible(any);
    light_->setVisible(look_ != Look::plan);
    light_->setGame(look_ == Look::game);
    sayMerged();
    place();
    if (!can && look_ != Look::plan) look(Look::plan);
    for (std::size_t i = 0; i < buttons_.size(); ++i) buttons_[i]->setChecked(static_cast<Look>(i) == look_);
}

bool SolidSwitch::eventFilter(QObject* watched, QEvent* event) {
    if (watched == &level_ && event->type() == QEvent::Resize) place();
    return QWidget::eventFilter(watched, event);
}

} // namespace vic::app
