#include "app/walk/walk_settings.hpp"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QSpinBox>
#include <QVBoxLayout>
#include <QVariant>
#include <algorithm>
#include <cmath>
#include <utility>
#include <vector>

#include "app/parts/panel.hpp"
#include "app/session/session.hpp"
#include "app/walk/setting_sign.hpp"
#include "app/walk/upright_fields.hpp"
#include "level/project.hpp"

namespace vic::app {

namespace {

constexpr int kNames = 82; // pixels of the fields' names

QVBoxLayout* columnIn(QWidget* widget) {
    auto* column = new QVBoxLayout(widget);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    return column;
}

// The control after a small drawing of what it sets.
QWidget* drawnField(Setting setting, QWidget* control, QWidget* parent) {
    auto* both = new QWidget(parent);
    auto* row = new QHBoxLayout(both);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(4);
    row->addWidget(new SettingSign(setting, both));
    control->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed); // the panel's width is what there is
    row->addWidget(control, 1);
    return both;
}

} // namespace

WalkSettings::WalkSettings(Session& session, Change change, QWidget* parent)
    : QWidget(parent), session_(session), change_(std::move(change)) {
    auto* column = columnIn(this);
    side_ = new QWidget(this);
    above_ = new QWidget(this);
    buildSide(columnIn(side_));
    buildAbove(columnIn(above_));
    column->addWidget(side_);
    column->addWidget(above_);
    buildFrame(column);
    upright_ = new UprightFields(session_, "upright", this);
    column->addWidget(upright_);
}

void WalkSettings::buildSide(QVBoxLayout* column) {
    struct Field {
        const char* id;
        QString name;
        double level::Walker::*field;
        double least, most;
        QString unit, none, help;
        Setting setting;
    };
    using W = level::Walker;
    const QString cells = tr(" cells"), pace = tr(" cells/s");
    const Field all[] = {
        {"walkerRun", tr("Runs"), &W::run, 0, 80, pace, tr("does not"), tr("While Shift is held"), Setting::run},
        {"walkerLeastJump", tr("Least jump"), &W::least_jump, 0, 20, cells, tr("whole"),
         tr("How high a jump is whose key is let go at once; longer held it is higher"), Setting::least_jump},
        {"walkerWallJump", tr("Off walls"), &W::wall_jump, 0, 20, cells, tr("does not"),
         tr("How high he jumps off a wall that he touches in the air"), Setting::wall_jump},
        {"walkerGravity",
         tr("Gravity"),
         &W::gravity,
         1,
         400,
         tr(" cells/s²"),
         {},
         tr("How soon a jump turns"),
         Setting::gravity},
        {"walkerFastest", tr("Falls"), &W::fastest, 1, 200, pace, {}, tr("No faster than that"), Setting::fastest},
        {"walkerClimb", tr("Climbs"), &W::climb, 0, 40, pace, tr("does not"), tr("On what tells a ladder"),
         Setting::climb},
        {"walkerSwim", tr("Swims"), &W::swim, 0, 40, pace, tr("does not"), tr("In what tells a water"), Setting::swim}};
    for (const Field& f : all) {
        auto* box = new QDoubleSpinBox(this);
        box->setObjectName(f.id);
        box->setRange(f.least, f.most);
        box->setDecimals(1);
        box->setSingleStep(0.5);
        box->setSuffix(f.unit);
        if (!f.none.isEmpty()) box->setSpecialValueText(f.none);
        describe(box, f.name, {}, f.help);
        addField(column, f.name, drawnField(f.setting, box, this), kNames);
        fields_.bindNumber(
            box, [this, field = f.field] { return session_.level()->walker.*field; },
            [this, field = f.field](double v) { change_([&](level::Level& l) { l.walker.*field = v; }); });
    }
    const auto grace = [&](const char* id, const QString& name, const QString& help, int W::*field, Setting setting) {
        auto* box = new QSpinBox(this);
        box->setObjectName(id);
        box->setRange(0, 1000);
        box->setSingleStep(20);
        box->setSuffix(tr(" ms"));
        describe(box, name, {}, help);
        addField(column, name, drawnField(setting, box, this), kNames);
        fields_.bindInt(
            box, [this, field] { return session_.level()->walker.*field; },
            [this, field](int v) { change_([&](level::Level& l) { l.walker.*field = v; }); });
    };
    grace("walkerGraceEdge", tr("After edges"), tr("So long after an edge he still jumps"), &W::grace_edge,
          Setting::grace_edge);
    grace("walkerGraceLanding", tr("Before landing"), tr("A jump asked for so long before landing is remembered"),
          &W::grace_landing, Setting::grace_landing);
}

void WalkSettings::buildAbove(QVBoxLayout* column) {
    auto* foot = new QDoubleSpinBox(this);
    foot->setObjectName("walkerFoot");
    foot->setRange(0, 16);
    foot->setDecimals(2);
    foot->setSingleStep(0.1);
    foot->setSuffix(tr(" cells deep"));
    foot->setSpecialValueText(tr("as wide"));
    describe(foot, tr("Foot"), {},
             tr("What of him collides, seen from above: his lower part, so deep; else as deep as he is wide"));
    addField(column, tr("Foot"), drawnField(Setting::foot, foot, this), kNames);
    fields_.bindNumber(
        foot, [this] { return session_.level()->walker.foot / 64.0; },
        [this](double v) { change_([&](level::Level& l) { l.walker.foot = static_cast<int>(std::lround(v * 64)); }); });
    auto* ways = comboBox(this, "walkerWays");
    describe(ways, tr("Ways"), {},
             tr("The directions in which he goes. Of all: towards where the mouse is held, or by the keys"));
    addField(column, tr("Ways"), drawnField(Setting::ways, ways, this), kNames);
    fields_.bindChoice(
        ways,
        [] {
            return std::vector<Bindings::Choice>{{tr("eight"), 8}, {tr("four"), 4}, {tr("all"), level::kAllWays}};
        },
        [this] { return QVariant(session_.level()->walker.ways); },
        [this](const QVariant& v) { change_([&](level::Level& l) { l.walker.ways = v.toInt(); }); });
    auto* run = new QDoubleSpinBox(this);
    run->setObjectName("walkerRunAbove");
    run->setRange(0, 80);
    run->setDecimals(1);
    run->setSingleStep(0.5);
    run->setSuffix(tr(" cells/s"));
    run->setSpecialValueText(tr("does not"));
    describe(run, tr("Runs"), {}, tr("While Shift is held"));
    addField(column, tr("Runs"), drawnField(Setting::run, run, this), kNames);
    fields_.bindNumber(
        run, [this] { return session_.level()->walker.run; },
        [this](double v) { change_([&](level::Level& l) { l.walker.run = v; }); });
}

void WalkSettings::buildFrame(QVBoxLayout* column) {
    auto* mover = comboBox(this, "walkerMover");
    describe(mover, tr("Is a"), {}, tr("Which of the project's movers he is: what stops him is said in Bound"));
    addField(column, tr("Is a"), mover, kNames);
    fields_.bindChoice(
        mover,
        [this] {
            std::vector<Bindings::Choice> out{{tr("walker like any"), QString()}};
            for (const level::Mover& m : session_.project().movers) {
                const QString name = QString::fromStdString(m.name);
                out.push_back({name, name});
            }
            return out;
        },
        [this] { return QVariant(QString::fromStdString(session_.level()->walker.mover)); },
        [this](const QVariant& v) { change_([&](level::Level& l) { l.walker.mover = v.toString().toStdString(); }); });
    const auto slack = [&](const char* id, const QString& name, int Size::*field) {
        auto* box = new QSpinBox(this);
        box->setObjectName(id);
        box->setRange(0, 4096);
        box->setSingleStep(8);
        box->setSuffix(tr(" px"));
        box->setSpecialValueText(tr("none"));
        describe(box, name, {}, tr("The middle of the frame in which he moves before that follows him"));
        addField(column, name, box, kNames);
        fields_.bindInt(
            box, [this, field] { return session_.level()->walker.slack.*field; },
            [this, field](int v) { change_([&](level::Level& l) { l.walker.slack.*field = v; }); });
    };
    slack("frameSlackWidth", tr("Slack across"), &Size::w);
    slack("frameSlackHeight", tr("Slack down"), &Size::h);
}

void WalkSettings::refresh() {
    const bool side = session_.level()->view == level::View::from_the_side;
    side_->setVisible(side);
    above_->setVisible(!side);
    const auto& sheets = session_.project().sheets;
    upright_->setVisible(!side &&
                         std::any_of(sheets.begin(), sheets.end(), [](const auto& s) { return s->kit.has_value(); }));
    upright_->refresh();
    fields_.refresh();
}

} // namespace vic::app
