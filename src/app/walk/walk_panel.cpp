#include "app/walk/walk_panel.hpp"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QPushButton>
#include <QSpinBox>
#include <QString>
#include <QStringList>
#include <QVBoxLayout>
#include <QVariant>
#include <cmath>
#include <utility>
#include <vector>

#include "app/parts/panel.hpp"
#include "app/session/session.hpp"
#include "level/level.hpp"
#include "player/parcel_view.hpp"
#include "walk/world.hpp"

namespace vic::app {

WalkPanel::WalkPanel(Session& session, WalkCentre& centre, QWidget* parent)
    : QWidget(parent), session_(session), centre_(centre) {
    setObjectName("walkPanel");
    auto* column = panelColumn(this);
    QLabel* aside = nullptr;
    addHeading(column, tr("Walker"), &aside);
    aside->setText(tr("of this level"));
    buildWalker(column);
    addHeading(column, tr("Frame"));
    buildFrame(column);
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

void WalkPanel::buildWalker(QVBoxLayout* column) {
    using level::View;
    auto* view = new QComboBox(this);
    view->setObjectName("levelViewKind");
    addField(column, tr("Seen"), view);
    fields_.bindChoice(
        view,
        [] {
            return std::vector<Bindings::Choice>{{tr("from above"), static_cast<int>(View::from_above)},
                                                 {tr("from the side"), static_cast<int>(View::from_the_side)}};
        },
        [this] { return QVariant(static_cast<int>(session_.level()->view)); },
        [this](const QVariant& v) { change([&](level::Level& l) { l.view = static_cast<View>(v.toInt()); }); });
    const auto number = [&](const char* id, const QString& name, double least, double most, const QString& unit) {
        auto* box = new QDoubleSpinBox(this);
        box->setObjectName(id);
        box->setRange(least, most);
        box->setDecimals(2);
        box->setSingleStep(0.1);
        box->setSuffix(unit);
        addField(column, name, box);
        return box;
    };
    // In 1/64 cells in the level.
    const auto side = [&](const char* id, const QString& name, int level::Walker::*field) {
        fields_.bindNumber(
            number(id, name, 0.1, 16, tr(" cells")), [this, field] { return session_.level()->walker.*field / 64.0; },
            [this, field](double v) {
                change([&](level::Level& l) { l.walker.*field = static_cast<int>(std::lround(v * 64)); });
            });
    };
    const auto pace = [&](QDoubleSpinBox* box, double level::Walker::*field) {
        fields_.bindNumber(
            box, [this, field] { return session_.level()->walker.*field; },
            [this, field](double v) { change([&](level::Level& l) { l.walker.*field = v; }); });
    };
    side("walkerWidth", tr("Width"), &level::Walker::width);
    side("walkerHeight", tr("Height"), &level::Walker::height);
    pace(number("walkerSpeed", tr("Speed"), 0.5, 40, tr(" cells/s")), &level::Walker::speed);
    auto* jump = number("walkerJump", tr("Jump"), 0, 20, tr(" cells"));
    pace(jump, &level::Walker::jump);
    fields_.bindEnabled(jump, [this] { return session_.level()->view == View::from_the_side; });
}

void WalkPanel::buildFrame(QVBoxLayout* column) {
    const auto pixels = [&](const char* id, const QString& name, int Size::*field) {
        auto* box = new QSpinBox(this);
        box->setObjectName(id);
        box->setRange(16, level::kMostFrame);
        box->setSuffix(tr(" px"));
        addField(column, name, box);
        fields_.bindInt(
            box, [this, field] { return session_.level()->frame.*field; },
            [this, field](int v) { change([&](level::Level& l) { l.frame.*field = v; }); });
    };
    pixels("frameWidth", tr("Width"), &Size::w);
    pixels("frameHeight", tr("Height"), &Size::h);
}

void WalkPanel::change(const std::function<void(level::Level&)>& what) {
    if (!session_.isOpen() || !session_.level()) return;
    level::Level next = *session_.level();
    what(next);
    session_.applyLevel(tr("The walker and its frame"), std::move(next), "walker");
}

void WalkPanel::refresh() {
    if (session_.isOpen() && session_.level()) fields_.refresh();
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
