// What grows on a layer of planting: in the drawer of its slab. Every change plants anew.

#include <QComboBox>
#include <QFont>
#include <QFontMetrics>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QSizePolicy>
#include <QSlider>
#include <QSpinBox>
#include <QString>
#include <QTimer>
#include <QToolButton>
#include <QVBoxLayout>
#include <QWidget>
#include <algorithm>
#include <cstddef>
#include <functional>
#include <string>
#include <utility>

#include "app/parts/panel.hpp"
#include "app/parts/thumbs.hpp"
#include "app/parts/translated.hpp"
#include "app/section/slab.hpp"
#include "app/session/session.hpp"
#include "base/error.hpp"
#include "base/text.hpp"
#include "edit/plant.hpp"
#include "level/cell.hpp"
#include "level/level.hpp"
#include "level/project.hpp"
#include "level/sheet.hpp"

namespace vic::app {

namespace {

// Free, because a slab may be gone by the time an edit of its drawer arrives.
void replant(Session& session, level::LayerId id, const QString& name,
             const std::function<void(level::Planting&)>& what, const std::string& merge = {}) {
    const level::Layer* layer = session.level() ? session.level()->layer(id) : nullptr;
    if (!layer) return;
    if (layer->locked)
        return emit session.said(Slab::tr("%1 is locked").arg(QString::fromStdString(layer->name)), true);
    level::Level next = *session.level();
    what(next.edit(id).planting);
    try {
        edit::Planted planted = edit::planted(session.project(), next, id);
        level::Project p = session.project();
        p.next_id = std::max(p.next_id, planted.next_id);
        p.put(std::move(planted.level));
        session.apply(name, std::move(p), merge);
        emit session.said(translated(say_count(planted.count, "One stands on %1", "%n stand on %1", layer->name)),
                          false);
    } catch (const InputError& e) {
        emit session.said(translated(e), true);
    }
}

} // namespace

void Slab::buildPlanting(const level::Layer& layer, QVBoxLayout& column) {
    const level::Project& project = session_.project();
    const level::Planting& planting = layer.planting;
    const auto later = [s = &session_, id = layer_](const QString& name,
                                                    const std::function<void(level::Planting&)>& what,
                                                    const std::string& merge = {}) {
        QTimer::singleShot(0, s, [s, id, name, what, merge] { replant(*s, id, name, what, merge); });
    };
    for (std::size_t i = 0; i < planting.kinds.size(); ++i) {
        const level::PropKind* kind = project.prop_kind(planting.kinds[i].kind);
        if (!kind) continue;
        auto* line = new QWidget(this);
        auto* row = new QHBoxLayout(line);
        row->setContentsMargins(0, 0, 0, 0);
        row->setSpacing(4);
        auto* picture = new QLabel(line);
        picture->setPixmap(propThumb(project, *kind, 20, false));
        picture->setFixedSize(20, 20);
        row->addWidget(picture);
        auto* name = label(QString::fromStdString(kind->name), "quiet", line);
        name->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
        name->setToolTip(name->text());
        QFont small = font();
        small.setPixelSize(12);
        name->setText(QFontMetrics(small).elidedText(name->text(), Qt::ElideRight, 70));
        row->addWidget(name, 1);
        auto* weight = new QSpinBox(line);
        weight->setObjectName(QString("plantWeight-%1").arg(i));
        weight->setRange(0, 1000);
        weight->setSingleStep(10);
        weight->setKeyboardTracking(false);
        weight->setValue(planting.kinds[i].weight);
        weight->setFixedWidth(46);
        describe(weight, tr("Weight"), {}, tr("How often it is chosen beside the others"));
        row->addWidget(weight);
        connect(weight, &QSpinBox::valueChanged, this, [later, i](int v) {
            later(Slab::tr("What grows"), [i, v](level::Planting& p) {
                if (i < p.kinds.size()) p.kinds[i].weight = v;
            });
        });
        auto* out = toolButton(line, QString("plantOut-%1").arg(i), "remove", {}, {}, "link");
        out->setFixedWidth(26);
        describe(out, tr("Take out"), {}, tr("It grows here no longer"));
        row->addWidget(out);
        connect(out, &QToolButton::clicked, this, [later, id = planting.kinds[i].kind] {
            later(Slab::tr("What grows"),
                  [id](level::Planting& p) { std::erase_if(p.kinds, [&](const auto& k) { return k.kind == id; }); });
        });
        column.addWidget(line);
    }
    auto* more = new QComboBox(this);
    more->setObjectName("plantMore");
    more->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    describe(more, tr("Grows"), {}, tr("A prop that is to grow here"));
    more->addItem(planting.kinds.empty() ? tr("a prop…") : tr("one more…"), 0U);
    for (const auto& kind : project.prop_kinds)
        if (std::none_of(planting.kinds.begin(), planting.kinds.end(),
                         [&](const auto& k) { return k.kind == kind->id; }))
            more->addItem(propThumb(project, *kind, 20, false), QString::fromStdString(kind->name), kind->id);
    addField(&column, tr("Grows"), more, 54);
    connect(more, &QComboBox::activated, this, [later, more] {
        const level::PropKindId id = more->currentData().toUInt();
        if (id == 0) return;
        later(Slab::tr("What grows"), [id](level::Planting& p) { p.kinds.push_back({id, 100}); });
    });

    auto* on = new QComboBox(this);
    on->setObjectName("plantOn");
    on->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    describe(on, tr("On"), {}, tr("The layer on which it grows, or any that is shown"));
    on->addItem(tr("any layer"), 0U);
    for (auto l = session_.level()->layers.rbegin(); l != session_.level()->layers.rend(); ++l)
        if ((*l)->kind == level::LayerKind::tiles) on->addItem(QString::fromStdString((*l)->name), (*l)->id);
    on->setCurrentIndex(std::max(0, on->findData(planting.on)));
    addField(&column, tr("On"), on, 54);
    connect(on, &QComboBox::activated, this, [later, on] {
        const level::LayerId id = on->currentData().toUInt();
        later(Slab::tr("Where it grows"), [id](level::Planting& p) { p.on = id; });
    });
    auto* material = new QComboBox(this);
    material->setObjectName("plantMaterial");
    material->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    material->addItem(tr("anything"), 0U);
    for (const auto& m : project.materials) material->addItem(QString::fromStdString(m->name), uint(m->id));
    material->setCurrentIndex(std::max(0, material->findData(uint(planting.material))));
    addField(&column, tr("Where"), material, 54);
    connect(material, &QComboBox::activated, this, [later, material] {
        const auto id = static_cast<level::MaterialId>(material->currentData().toUInt());
        later(Slab::tr("Where it grows"), [id](level::Planting& p) { p.material = id; });
    });
    auto* apart = new QSpinBox(this);
    apart->setObjectName("plantApart");
    apart->setRange(1, 4096);
    apart->setSuffix(tr(" px"));
    apart->setKeyboardTracking(false);
    apart->setValue(planting.apart);
    describe(apart, tr("Apart"), {}, tr("No two feet are nearer to each other than this"));
    addField(&column, tr("Apart"), apart, 54);
    connect(apart, &QSpinBox::valueChanged, this, [later, id = layer_](int v) {
        later(
            Slab::tr("How dense it grows"), [v](level::Planting& p) { p.apart = v; }, "apart-" + std::to_string(id));
    });
    auto* share_empty = new QSlider(Qt::Horizontal, this);
    share_empty->setObjectName("plantLeaves");
    share_empty->setRange(0, 99);
    share_empty->setValue(planting.share_empty);
    describe(share_empty, tr("Places left empty"), {}, tr("The share of places where nothing grows"));
    addField(&column, tr("Leaves"), share_empty, 54);
    connect(share_empty, &QSlider::valueChanged, this, [later, id = layer_](int v) {
        later(
            Slab::tr("How dense it grows"), [v](level::Planting& p) { p.share_empty = v; },
            "leaves-" + std::to_string(id));
    });
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    auto* again = new QPushButton(tr("Plant anew"), this);
    again->setObjectName("plantAgain");
    describe(again, tr("Plant anew"), {},
             tr("On the ground as it is now, by the same chance; what was moved by hand goes back"));
    connect(again, &QPushButton::clicked, this, [later] { later(Slab::tr("Plant anew"), [](level::Planting&) {}); });
    auto* cast = new QPushButton(tr("Cast"), this);
    cast->setObjectName("plantCast");
    describe(cast, tr("Cast again"), {}, tr("Other places by chance"));
    connect(cast, &QPushButton::clicked, this,
            [later] { later(Slab::tr("Cast the planting again"), [](level::Planting& p) { ++p.seed; }); });
    row->addWidget(again, 1);
    row->addWidget(cast);
    column.addLayout(row);
}

} // namespace vic::app
