#include "app/walk/walk_panel.hpp"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>
#include <QSpinBox>
#include <QString>
#include <QStringList>
#include <QVBoxLayout>
#include <cmath>
#include <utility>

#include "app/parts/panel.hpp"
#include "app/session/session.hpp"
#include "level/level.hpp"
#include "player/parcel_view.hpp"
#include "walk/world.hpp"

namespace vic::app {

WalkPanel::WalkPanel(Session& session, WalkCentre& centre, QWidget* parent)
    : QWidget(parent), session_(session), centre_(centre) {
    auto* column = panelColumn(this);
    QLabel* aside = nullptr;
    addHeading(column, tr("Walker"), &aside);
    aside->setText(tr("of this level"));
    view_ = new QComboBox(this);
    view_->setObjectName("levelViewKind");
    view_->addItem(tr("from above"));
    view_->addItem(tr("from the side"));
    addField(column, tr("Seen"), view_);
    const auto number = [&](const char* id, const QString& name, double least, double most, const QString& unit) {
        auto* box = new QDoubleSpinBox(this);
        box->setObjectName(id);
        box->setRange(least, most);
        box->setDecimals(2);
        box->setSingleStep(0.1);
        box->setSuffix(unit);
        box->setKeyboardTracking(false);
        addField(column, name, box);
        connect(box, &QDoubleSpinBox::valueChanged, this, &WalkPanel::change);
        return box;
    };
    width_ = number("walkerWidth", tr("Width"), 0.1, 16, tr(" cells"));
    height_ = number("walkerHeight", tr("Height"), 0.1, 16, tr(" cells"));
    speed_ = number("walkerSpeed", tr("Speed"), 0.5, 40, tr(" cells/s"));
    jump_ = number("walkerJump", tr("Jump"), 0, 20, tr(" cells"));
    connect(view_, &QComboBox::activated, this, &WalkPanel::change);
    addHeading(column, tr("Frame"));
    const auto pixels = [&](const char* id, const QString& name) {
        auto* box = new QSpinBox(this);
        box->setObjectName(id);
        box->setRange(16, 8192);
        box->setSuffix(tr(" px"));
        box->setKeyboardTracking(false);
        addField(column, name, box);
        connect(box, &QSpinBox::valueChanged, this, &WalkPanel::change);
        return box;
    };
    frameWidth_ = pixels("frameWidth", tr("Width"));
    frameHeight_ = pixels("frameHeight", tr("Height"));
    column->addWidget(rule(this));
    addHeading(column, tr("This try"));
    place_ = label({}, "quiet", this);
    place_->setObjectName("walkerPlace");
    state_ = label({}, "quiet", this);
    touched_ = label({}, "quiet", this);
    touched_->setObjectName("touchedMarks");
    touched_->setWordWrap(true);
    for (auto* l : {place_, state_, touched_}) column->addWidget(l);
    auto* again = new QPushButton(tr("Start again"), this);
    again->setObjectName("walkAgain");
    describe(again, tr("Start again"), "R", tr("Puts the walker back to the start"));
    connect(again, &QPushButton::clicked, this, [this] {
        centre_.view()->restart();
        centre_.view()->setFocus();
    });
    column->addWidget(again);
    column->addStretch();
    connect(centre_.view(), &player::ParcelView::ticked, this, &WalkPanel::tick);
}

void WalkPanel::change() {
    if (!session_.isOpen() || !session_.level()) return;
    level::Level next = *session_.level();
    next.view = view_->currentIndex() == 1 ? level::View::from_the_side : level::View::from_above;
    next.walker = {static_cast<int>(std::lround(width_->value() * 64)),
                   static_cast<int>(std::lround(height_->value() * 64)), speed_->value(), jump_->value()};
    next.frame = {frameWidth_->value(), frameHeight_->value()};
    const level::Level& now = *session_.level();
    if (next.view == now.view && next.walker == now.walker && next.frame == now.frame) return;
    session_.applyLevel(tr("The walker and its frame"), std::move(next), "walker");
}

void WalkPanel::refresh() {
    if (!session_.isOpen() || !session_.level()) return;
    const level::Level& level = *session_.level();
    const auto set = [](auto* box, auto value) {
        const QSignalBlocker quiet(box);
        box->setValue(value);
    };
    view_->setCurrentIndex(level.view == level::View::from_the_side ? 1 : 0);
    set(width_, level.walker.width / 64.0);
    set(height_, level.walker.height / 64.0);
    set(speed_, level.walker.speed);
    set(jump_, level.walker.jump);
    jump_->setEnabled(level.view == level::View::from_the_side);
    set(frameWidth_, level.frame.w);
    set(frameHeight_, level.frame.h);
}

void WalkPanel::tick() {
    const auto* view = centre_.view();
    if (!view->isLoaded() || !isVisible()) return;
    const auto foot = view->world().foot();
    place_->setText(tr("foot at %1, %2").arg(foot.x, 0, 'f', 2).arg(foot.y, 0, 'f', 2));
    state_->setText(view->level().from_the_side ? (view->world().grounded() ? tr("on the ground") : tr("in the air"))
                                                : tr("%1 s").arg(view->world().ticks() / walk::kTicks));
    QStringList names;
    for (const auto id : view->world().touched())
        for (const auto& m : view->level().marks)
            if (m.id == id) names << QString::fromStdString(m.name);
    touched_->setText(names.isEmpty() ? tr("no mark touched") : tr("touched: %1").arg(names.join(", ")));
}

} // namespace vic::app
