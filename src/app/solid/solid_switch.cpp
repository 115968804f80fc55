#include "app/solid/solid_switch.hpp"

#include <QEvent>
#include <QFrame>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLocale>
#include <QSlider>
#include <QTime>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

#include "app/parts/panel.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "app/solid/solid_view.hpp"
#include "app/view/level_view.hpp"

namespace vic::app {

SolidSwitch::SolidSwitch(Session& session, LevelView& view)
    : QWidget(&view), session_(session), level_(view), bodies_(session), mass_(session) {
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
        {"lookThrough", tr("Through"), "F8", tr("As one sees it who stands in it")}};
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
    buildLight(column);
    connect(&mass_, &MergedMass::changed, this, &SolidSwitch::sayMerged);
    connect(&session_, &Session::stageChanged, this, &SolidSwitch::sayMerged);
    connect(&session_, &Session::opened, this, [this] { look(Look::plan); });
    level_.installEventFilter(this);
    refresh();
}

// The hour and the warmth of the sun; a way of looking, not of the level.
void SolidSwitch::buildLight(QVBoxLayout* column) {
    lightBox_ = new QFrame(this);
    setRole(lightBox_, "card");
    auto* grid = new QGridLayout(lightBox_);
    grid->setContentsMargins(10, 6, 10, 6);
    grid->setHorizontalSpacing(8);
    grid->setVerticalSpacing(2);
    const auto slider = [&](int line, const char* id, const QString& name, int least, int most, int at, QLabel*& says) {
        auto* s = new QSlider(Qt::Horizontal, lightBox_);
        s->setObjectName(id);
        s->setAccessibleName(name);
        s->setRange(least, most);
        s->setValue(at);
        s->setFocusPolicy(Qt::NoFocus);
        says = label({}, "quiet", lightBox_);
        says->setMinimumWidth(says->fontMetrics().horizontalAdvance("9,000 K"));
        says->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
        grid->addWidget(label(name, "quiet", lightBox_), line, 0);
        grid->addWidget(s, line, 1);
        grid->addWidget(says, line, 2);
        connect(s, &QSlider::valueChanged, this, &SolidSwitch::light);
        return s;
    };
    const Sun sun;
    hour_ = slider(0, "sunHour", tr("Hour"), 5 * 4, 21 * 4, static_cast<int>(sun.hour * 4), hourSays_);
    warmth_ = slider(1, "sunWarmth", tr("Warm"), 25, 90, sun.warmth / 100, warmthSays_);
    warmth_->setInvertedAppearance(true); // to the right it is warmer
    merged_ = label({}, "quiet", lightBox_);
    merged_->setObjectName("solidMerged");
    grid->addWidget(merged_, 2, 0, 1, 3);
    column->addWidget(lightBox_);
    light();
}

void SolidSwitch::light() {
    const Sun sun{hour_->value() / 4.0, warmth_->value() * 100};
    hourSays_->setText(QTime(hour_->value() / 4, hour_->value() % 4 * 15).toString("HH:mm"));
    warmthSays_->setText(tr("%1 K").arg(QLocale().toString(sun.warmth)));
    if (solid_) solid_->setSun(sun);
}

// What comes of the pieces for the engine.
void SolidSwitch::sayMerged() {
    const bool bound = look_ != Look::plan && session_.stage() == Stage::bound;
    const auto mass = bound ? mass_.of(bodies_.all()) : nullptr;
    merged_->setVisible(bound);
    QString text = tr("Merging what blocks…");
    if (mass) {
        text = translated(say_count(mass->pieces, "One piece", "%n pieces")) + tr(", merged: ") +
               translated(say_count(mass->polygons, "one polygon", "%n polygons"));
        if (mass->open > 0) text += "\n" + translated(say_count(mass->open, "One is not closed", "%n are not closed"));
    }
    merged_->setText(text);
    place();
}

void SolidSwitch::look(Look how) {
    if (how != Look::plan && !session_.level()) return;
    look_ = how;
    if (how != Look::plan && !solid_) {
        solid_ = new SolidView(session_, level_, bodies_, mass_);
        light();
        connect(solid_, &SolidView::troubled, this, [this](const QString& why) {
            look(Look::plan);
            emit session_.said(
                tr("There is no OpenGL 3.3 to draw it with (%1): Plan shows the level").arg(why.trimmed()), true);
        });
    }
    if (solid_ && how != Look::plan) solid_->look(static_cast<SolidView::Look>(static_cast<int>(how) - 1));
    settle();
    refresh();
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
    adjustSize();
    move(level_.width() - width() - kAway, kBelow);
    if (solid_) solid_->setGeometry(level_.rect());
}

void SolidSwitch::refresh() {
    const auto& sheets = session_.project().sheets;
    const bool any = session_.isOpen() && session_.level() &&
                     std::any_of(sheets.begin(), sheets.end(), [](const auto& s) { return s->kit.has_value(); });
    setVisible(any);
    lightBox_->setVisible(look_ != Look::plan);
    sayMerged();
    place();
    if (!any && look_ != Look::plan) look(Look::plan);
    for (std::size_t i = 0; i < buttons_.size(); ++i) buttons_[i]->setChecked(static_cast<Look>(i) == look_);
}

bool SolidSwitch::eventFilter(QObject* watched, QEvent* event) {
    if (watched == &level_ && event->type() == QEvent::Resize) place();
    return QWidget::eventFilter(watched, event);
}

} // namespace vic::app
