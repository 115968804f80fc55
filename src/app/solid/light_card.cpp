#include "app/solid/light_card.hpp"

#include <QDoubleSpinBox>
#include <QGridLayout>
#include <QLabel>
#include <QLocale>
#include <QSlider>
#include <QTime>
#include <algorithm>
#include <cmath>
#include <utility>

#include "app/parts/panel.hpp"
#include "app/session/kit_bodies.hpp"
#include "app/session/session.hpp"
#include "edit/storeys.hpp"
#include "scene/metres.hpp"

namespace vic::app {

namespace {

constexpr int kQuarter = 15; // minutes
constexpr int kFogSteps = 20, kFogStep = 4;

} // namespace

LightCard::LightCard(Session& session, QWidget* parent) : QFrame(parent), session_(session) {
    setRole(this, "card");
    grid_ = new QGridLayout(this);
    grid_->setContentsMargins(10, 6, 10, 6);
    grid_->setHorizontalSpacing(8);
    grid_->setVerticalSpacing(2);
    buildLight();
    buildSight();
    buildStorey();
    buildSection();
    merged_ = label({}, "quiet", this);
    merged_->setObjectName("solidMerged");
    grid_->addWidget(merged_, line_, 0, 1, 3);
}

// Of the level: what is set is one step of the history, however far one drags.
QSlider* LightCard::slider(const Part& part, int (*get)(const level::Level&), void (*set)(level::Level&, int),
                           QString (*says)(const level::Level&)) {
    auto* name = label(part.name, "quiet", this);
    auto* s = new QSlider(Qt::Horizontal, this);
    s->setObjectName(part.id);
    s->setAccessibleName(part.name);
    s->setRange(part.least, part.most);
    s->setFocusPolicy(Qt::NoFocus);
    describe(s, part.name, {}, part.help);
    auto* value = label({}, "quiet", this);
    value->setMinimumWidth(value->fontMetrics().horizontalAdvance("9,000 K"));
    value->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    grid_->addWidget(name, line_, 0);
    grid_->addWidget(s, line_, 1);
    grid_->addWidget(value, line_++, 2);
    fields_.bindInt(
        s, [this, get] { return session_.level() ? get(*session_.level()) : 0; },
        [this, set, part](int v) {
            if (!session_.level()) return;
            level::Level level = *session_.level();
            set(level, v);
            session_.applyLevel(part.name, std::move(level), part.id);
        });
    fields_.bindLabel(value, [this, says] { return session_.level() ? says(*session_.level()) : QString(); });
    if (part.game)
        for (QWidget* w : {static_cast<QWidget*>(name), static_cast<QWidget*>(s), static_cast<QWidget*>(value)})
            fields_.bindShown(w, [this] { return game_; });
    return s;
}

void LightCard::buildLight() {
    using level::Level;
    slider(
        {"sunHour", tr("Hour"), tr("Low in the east at six, in the south at noon, low in the west at eighteen"), 5 * 4,
         21 * 4},
        [](const Level& l) { return l.light.minute / kQuarter; },
        [](Level& l, int v) { l.light.minute = v * kQuarter; },
        [](const Level& l) { return QTime(l.light.minute / 60 % 24, l.light.minute % 60).toString("HH:mm"); });
    slider(
        {"sunWarmth", tr("Warm"), tr("The colour of the sun, in kelvins: to the right it is warmer"),
         level::kLeastWarmth / 100, level::kMostWarmth / 100},
        [](const Level& l) { return l.light.warmth / 100; }, [](Level& l, int v) { l.light.warmth = v * 100; },
        [](const Level& l) { return tr("%1 K").arg(QLocale().toString(l.light.warmth)); })
        ->setInvertedAppearance(true);
    slider(
        {"fog", tr("Fog"), tr("At how many cells from the eye half is hidden; seen in Through and Game"), 0, kFogSteps},
        [](const Level& l) {
            return l.light.fog == 0 ? 0 : std::clamp(kFogSteps + 1 - l.light.fog / kFogStep, 1, kFogSteps);
        },
        [](Level& l, int v) { l.light.fog = v == 0 ? 0 : (kFogSteps + 1 - v) * kFogStep; },
        [](const Level& l) { return l.light.fog == 0 ? tr("none") : tr("%n cells", nullptr, l.light.fog); });
}

void LightCard::buildSight() {
    using level::Level;
    slider(
        {"sightTilt", tr("Tilt"), tr("By how much the game looks down"), level::kLeastTilt, level::kMostTilt, true},
        [](const Level& l) { return l.sight.tilt; }, [](Level& l, int v) { l.sight.tilt = v; },
        [](const Level& l) { return tr("%1°").arg(l.sight.tilt); });
    slider(
        {"sightLens", tr("Lens"), tr("How much is seen from top to bottom; on the left all lines stay parallel"),
         level::kLeastLens - 1, level::kMostLens, true},
        [](const Level& l) { return std::max(level::kLeastLens - 1, l.sight.lens); },
        [](Level& l, int v) { l.sight.lens = v < level::kLeastLens ? 0 : v; },
        [](const Level& l) { return l.sight.lens == 0 ? tr("parallel") : tr("%1°").arg(l.sight.lens); });
    slider(
        {"sightTurn", tr("Turn"), tr("Where the game looks to: the north on the left, and round to the right"), 0, 71,
         true},
        [](const Level& l) { return l.sight.turn / 5; }, [](Level& l, int v) { l.sight.turn = v * 5; },
        [](const Level& l) { return tr("%1°").arg(l.sight.turn); });
}

// Of the storey that one works on.
void LightCard::buildStorey() {
    auto* name = label({}, "quiet", this);
    auto* high = new QDoubleSpinBox(this);
    high->setObjectName("storeyHeight");
    high->setAccessibleName(tr("Height of the storey"));
    high->setDecimals(2);
    high->setSingleStep(0.25);
    high->setRange(0.05, 200);
    high->setSuffix(tr(" m"));
    high->setKeyboardTracking(false);
    describe(high, tr("Height of the storey"), {},
             tr("From its floor to the next one; as the kit has it, until it is set"));
    grid_->addWidget(name, line_, 0);
    grid_->addWidget(high, line_++, 1, 1, 2);
    const auto storey = [this] { return session_.activeLayer() ? session_.activeLayer()->storey : 0; };
    fields_.bindLabel(name, [storey] { return tr("Storey %1").arg(storey()); });
    fields_.bindNumber(
        high,
        [this, storey] {
            const auto kits = session_.bodies().all();
            if (!session_.level()) return 0.0;
            return scene::Storeys(kits, session_.level()->storey_heights).height(storey()) * scene::metres_of(kits);
        },
        [this, storey](double v) {
            if (!session_.level()) return;
            const auto kits = session_.bodies().all();
            const double cells = v / scene::metres_of(kits);
            const bool plain = std::abs(cells - scene::Storeys(kits).plain()) < 0.5 / 64;
            const int units = plain ? 0 : std::max(1, static_cast<int>(std::lround(cells * 64)));
            session_.applyLevel(tr("Height of a storey"), edit::with_storey_height(*session_.level(), storey(), units),
                                "storey-height");
        });
}

// Of what is seen, not of the level.
void LightCard::buildSection() {
    auto* cut = new QSlider(Qt::Horizontal, this);
    cut->setObjectName("solidSection");
    cut->setAccessibleName(tr("Section"));
    cut->setRange(0, 100);
    cut->setFocusPolicy(Qt::NoFocus);
    describe(cut, tr("Section"), {}, tr("Cuts the level across the way one looks: what is nearer is not seen"));
    auto* value = label(tr("none"), "quiet", this);
    value->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    grid_->addWidget(label(tr("Section"), "quiet", this), line_, 0);
    grid_->addWidget(cut, line_, 1);
    grid_->addWidget(value, line_++, 2);
    connect(cut, &QSlider::valueChanged, this, [this, value](int v) {
        value->setText(v == 0 ? tr("none") : tr("%1 %").arg(v));
        emit sectionAsked(v / 100.0);
    });
}

void LightCard::setGame(bool on) {
    game_ = on;
    refresh();
}

void LightCard::say(const QString& merged, bool shown) {
    merged_->setText(merged);
    merged_->setVisible(shown);
}

void LightCard::refresh() { fields_.refresh(); }

} // namespace vic::app
