#include "app/section/planting_drawer.hpp"

#include <QComboBox>
#include <QFont>
#include <QFontMetrics>
#include <QHBoxLayout>
#include <QLabel>
#include <QLayoutItem>
#include <QPushButton>
#include <QSizePolicy>
#include <QSlider>
#include <QSpinBox>
#include <QToolButton>
#include <QVBoxLayout>
#include <QVariant>
#include <algorithm>
#include <exception>
#include <utility>

#include "app/parts/panel.hpp"
#include "app/parts/thumbs.hpp"
#include "app/parts/translated.hpp"
#include "app/session/choice.hpp"
#include "app/session/jobs.hpp"
#include "app/session/session.hpp"
#include "base/text.hpp"
#include "edit/plant.hpp"
#include "level/cell.hpp"
#include "level/project.hpp"

namespace vic::app {

PlantingDrawer::PlantingDrawer(Session& session, level::LayerId layer, QWidget* parent)
    : QWidget(parent), session_(session), id_(layer), column_(new QVBoxLayout(this)), kinds_(new QVBoxLayout) {
    column_->setContentsMargins(0, 0, 0, 0);
    column_->setSpacing(7);
    kinds_->setSpacing(7);
    column_->addLayout(kinds_);
    buildGround();
    buildDensity();
    buildButtons();
}

// As it is, or will be when it has been planted.
const level::Planting& PlantingDrawer::planting() const {
    return pending_ ? *pending_ : session_.level()->layer(id_)->planted()->recipe;
}

void PlantingDrawer::refresh() {
    showKinds();
    lines_.refresh();
    fields_.refresh();
}

void PlantingDrawer::replant(const QString& name, const What& what, const std::string& merge) {
    const level::Layer* layer = session_.level() ? session_.level()->layer(id_) : nullptr;
    if (!layer) return;
    if (layer->locked) return emit session_.said(tr("%1 is locked").arg(QString::fromStdString(layer->name)), true);
    level::Planting recipe = planting();
    what(recipe);
    pending_ = recipe;
    plant(session_, {id_, name, merge.empty() ? merge : merge + std::to_string(id_), recipe}, this);
}

// The drawer may be gone when it is done.
void PlantingDrawer::plant(Session& session, const Order& order, const QPointer<PlantingDrawer>& drawer) {
    const auto onto = session.levelRef();
    level::Level next = *onto;
    next.edit(order.layer).planted()->recipe = order.recipe;
    const auto work = [state = session.document().state(), next, id = order.layer](Jobs::Progress&) {
        return edit::planted(*state, next, id);
    };
    const auto done = [&session, order, drawer, onto](edit::Planted& planted) {
        const level::Layer* layer = session.level() ? session.level()->layer(order.layer) : nullptr;
        if (!layer) return;
        // What was done to the level meanwhile stays, and is planted on.
        if (session.levelRef() != onto) return plant(session, order, drawer);
        const std::string on = layer->name;
        if (drawer) drawer->pending_.reset();
        level::Project p = session.project();
        p.next_id = std::max(p.next_id, planted.next_id);
        p.put(std::move(planted.level));
        session.apply(order.name, std::move(p), order.merge);
        emit session.said(translated(say_count(planted.count, "One stands on %1", "%n stand on %1", on)), false);
    };
    const auto failed = [&session, drawer](const std::exception& e) {
        emit session.said(translated(e), true);
        if (!drawer) return;
        drawer->pending_.reset();
        drawer->refresh();
    };
    session.jobs().start<edit::Planted>("planting", tr("Planting"), work, done, failed);
}

QWidget* PlantingDrawer::field(const QString& name, QWidget* control) {
    addField(column_, name, control, kDrawerNames);
    return control;
}

QWidget* PlantingDrawer::kindLine(std::size_t at) {
    const level::PropKindId id = shown_[at];
    const level::PropKind* kind = session_.project().prop_kind(id);
    auto* line = new QWidget(this);
    auto* row = new QHBoxLayout(line);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(4);
    auto* picture = new QLabel(line);
    if (kind) picture->setPixmap(propThumb(session_.project(), *kind, 20));
    picture->setFixedSize(20, 20);
    row->addWidget(picture);
    const QString text = kind ? QString::fromStdString(kind->name) : tr("gone");
    auto* name = label(text, "quiet", line);
    name->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    name->setToolTip(text);
    QFont small = font();
    small.setPixelSize(12);
    name->setText(QFontMetrics(small).elidedText(text, Qt::ElideRight, 70));
    row->addWidget(name, 1);
    auto* weight = new QSpinBox(line);
    weight->setObjectName(QString("plantWeight-%1").arg(at));
    weight->setRange(0, 1000);
    weight->setSingleStep(10);
    weight->setFixedWidth(46);
    describe(weight, tr("Weight"), {}, tr("How often it is chosen beside the others"));
    row->addWidget(weight);
    lines_.bindInt(
        weight, [this, at] { return at < planting().kinds.size() ? planting().kinds[at].weight : 0; },
        [this, at](int v) {
            replant(tr("What grows"), [at, v](level::Planting& p) {
                if (at < p.kinds.size()) p.kinds[at].weight = v;
            });
        });
    auto* out = toolButton(line, QString("plantOut-%1").arg(at), "remove", {}, {}, "link");
    out->setFixedWidth(26);
    describe(out, tr("Take out"), {}, tr("It grows here no longer"));
    row->addWidget(out);
    connect(out, &QToolButton::clicked, this, [this, id] {
        replant(tr("What grows"),
                [id](level::Planting& p) { std::erase_if(p.kinds, [&](const auto& k) { return k.kind == id; }); });
    });
    return line;
}

void PlantingDrawer::showKinds() {
    std::vector<level::PropKindId> now;
    for (const auto& k : planting().kinds) now.push_back(k.kind);
    if (now == shown_) return;
    shown_ = std::move(now);
    lines_ = {};
    while (QLayoutItem* item = kinds_->takeAt(0)) {
        item->widget()->hide();
        item->widget()->deleteLater();
        delete item;
    }
    for (std::size_t i = 0; i < shown_.size(); ++i) kinds_->addWidget(kindLine(i));
}

void PlantingDrawer::buildGround() {
    auto* more = comboBox(this, "plantMore");
    describe(more, tr("Grows"), {}, tr("A prop that is to grow here"));
    field(tr("Grows"), more);
    fields_.bindChoice(
        more,
        [this] {
            std::vector<Bindings::Choice> out{{shown_.empty() ? tr("a prop…") : tr("one more…"), 0U}};
            for (const auto& kind : session_.project().prop_kinds)
                if (std::find(shown_.begin(), shown_.end(), kind->id) == shown_.end())
                    out.push_back(
                        {QString::fromStdString(kind->name), kind->id, propThumb(session_.project(), *kind, 20)});
            return out;
        },
        [] { return QVariant(0U); },
        [this](const QVariant& v) {
            const level::PropKindId id = v.toUInt();
            if (id != 0) replant(tr("What grows"), [id](level::Planting& p) { p.kinds.push_back({id, 100}); });
        });
    auto* on = comboBox(this, "plantOn");
    describe(on, tr("On"), {}, tr("The layer on which it grows, or any that is shown"));
    field(tr("On"), on);
    fields_.bindChoice(
        on,
        [this] {
            std::vector<Bindings::Choice> out{{tr("any layer"), 0U}};
            const auto& layers = session_.level()->layers;
            for (auto l = layers.rbegin(); l != layers.rend(); ++l)
                if ((*l)->tiles()) out.push_back({QString::fromStdString((*l)->name), (*l)->id});
            return out;
        },
        [this] { return QVariant(planting().on); },
        [this](const QVariant& v) {
            replant(tr("Where it grows"), [on = v.toUInt()](level::Planting& p) { p.on = on; });
        });
    auto* material = comboBox(this, "plantMaterial");
    field(tr("Where"), material);
    fields_.bindChoice(
        material,
        [this] {
            std::vector<Bindings::Choice> out{{tr("anything"), 0U}};
            for (const auto& m : session_.project().materials)
                out.push_back({QString::fromStdString(m->name), unsigned(m->id)});
            return out;
        },
        [this] { return QVariant(unsigned(planting().material)); },
        [this](const QVariant& v) {
            const auto id = static_cast<level::MaterialId>(v.toUInt());
            replant(tr("Where it grows"), [id](level::Planting& p) { p.material = id; });
        });
}

void PlantingDrawer::buildDensity() {
    auto* apart = new QSpinBox(this);
    apart->setObjectName("plantApart");
    apart->setRange(1, 4096);
    apart->setSuffix(tr(" px"));
    describe(apart, tr("Apart"), {}, tr("No two feet are nearer to each other than this"));
    field(tr("Apart"), apart);
    fields_.bindInt(
        apart, [this] { return planting().apart; },
        [this](int v) {
            replant(
                tr("How dense it grows"), [v](level::Planting& p) { p.apart = v; }, "apart-");
        });
    auto* empty = new QSlider(Qt::Horizontal, this);
    empty->setObjectName("plantLeaves");
    empty->setRange(0, 99);
    describe(empty, tr("Places left empty"), {}, tr("The share of places where nothing grows"));
    field(tr("Leaves"), empty);
    fields_.bindInt(
        empty, [this] { return planting().share_empty; },
        [this](int v) {
            replant(
                tr("How dense it grows"), [v](level::Planting& p) { p.share_empty = v; }, "leaves-");
        });
}

void PlantingDrawer::buildButtons() {
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    auto* again = new QPushButton(tr("Plant anew"), this);
    again->setObjectName("plantAgain");
    describe(again, tr("Plant anew"), {},
             tr("On the ground as it is now, by the same chance; what was moved by hand goes back"));
    connect(again, &QPushButton::clicked, this, [this] { replant(tr("Plant anew"), [](level::Planting&) {}); });
    auto* cast = new QPushButton(tr("Cast"), this);
    cast->setObjectName("plantCast");
    describe(cast, tr("Cast again"), {}, tr("Other places by chance"));
    connect(cast, &QPushButton::clicked, this,
            [this] { replant(tr("Cast the planting again"), [](level::Planting& p) { ++p.seed; }); });
    row->addWidget(again, 1);
    row->addWidget(cast);
    column_->addLayout(row);
}

} // namespace vic::app
