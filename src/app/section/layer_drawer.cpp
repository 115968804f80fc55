// The settings of the active layer, in the drawer of its slab.

#include <QCheckBox>
#include <QColor>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QSizePolicy>
#include <QSlider>
#include <QSpinBox>
#include <QString>
#include <QTimer>
#include <QToolButton>
#include <QVBoxLayout>
#include <QWidget>
#include <algorithm>
#include <cstdint>
#include <functional>
#include <initializer_list>
#include <string>
#include <utility>

#include "app/parts/panel.hpp"
#include "app/parts/tokens.hpp"
#include "app/parts/translated.hpp"
#include "app/section/slab.hpp"
#include "app/session/session.hpp"
#include "base/geometry.hpp"
#include "base/image.hpp"
#include "edit/close_up.hpp"
#include "edit/levels.hpp"
#include "level/level.hpp"
#include "level/sheet.hpp"

namespace vic::app {

namespace {

// Free, because a slab may be gone by the time an edit of its drawer arrives.
void change(Session& session, level::LayerId layer, const QString& name, const std::function<void(level::Layer&)>& what,
            const std::string& merge = {}) {
    if (!session.level() || !session.level()->layer(layer)) return;
    level::Level next = *session.level();
    what(next.edit(layer));
    session.applyLevel(name, std::move(next), merge);
}

const std::initializer_list<std::pair<const char*, Rgba>> kTints{
    {QT_TRANSLATE_NOOP("vic::app::Slab", "as drawn"), {255, 255, 255, 255}},
    {QT_TRANSLATE_NOOP("vic::app::Slab", "clay"), {216, 210, 192, 255}},
    {QT_TRANSLATE_NOOP("vic::app::Slab", "dusk"), {176, 160, 190, 255}},
    {QT_TRANSLATE_NOOP("vic::app::Slab", "sea"), {150, 200, 205, 255}},
    {QT_TRANSLATE_NOOP("vic::app::Slab", "night"), {96, 110, 140, 255}}};

} // namespace

// Group, tint, parallax and shift.
void Slab::buildMore(const level::Layer& layer, QVBoxLayout& column) {
    auto* group = new QLineEdit(QString::fromStdString(layer.group), this);
    group->setObjectName("layerGroup");
    group->setPlaceholderText(tr("none"));
    addField(&column, tr("Group"), group, 54);
    connect(group, &QLineEdit::editingFinished, this, [s = &session_, id = layer_, group, was = layer.group] {
        const std::string text = group->text().trimmed().toStdString();
        if (text == was) return;
        QTimer::singleShot(
            0, s, [s, id, text] { change(*s, id, tr("Group of a layer"), [&](level::Layer& l) { l.group = text; }); });
    });
    const auto pair = [&](const char* id, const QString& name, Point now, int least, int most, int step,
                          const QString& unit, const QString& help, const QString& what, Point level::Layer::*field) {
        auto* row = new QWidget(this);
        auto* inner = new QHBoxLayout(row);
        inner->setContentsMargins(0, 0, 0, 0);
        inner->setSpacing(4);
        for (const bool across : {true, false}) {
            auto* box = new QSpinBox(row);
            box->setObjectName(QString("%1%2").arg(id, across ? "X" : "Y"));
            box->setRange(least, most);
            box->setSingleStep(step);
            box->setSuffix(unit);
            box->setKeyboardTracking(false);
            box->setValue(across ? now.x : now.y);
            box->setMinimumWidth(40);
            box->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
            describe(box, name, {}, help);
            inner->addWidget(box);
            connect(box, &QSpinBox::valueChanged, this, [s = &session_, layer = layer_, across, what, field](int v) {
                QTimer::singleShot(0, s, [s, layer, across, what, field, v] {
                    change(
                        *s, layer, what, [&](level::Layer& l) { (across ? (l.*field).x : (l.*field).y) = v; },
                        what.toStdString() + std::to_string(layer));
                });
            });
        }
        addField(&column, name, row, 54);
    };
    if (layer.kind == level::LayerKind::blockers) return; // nobody sees them
    if (layer.kind != level::LayerKind::backdrop) {
        auto* tint = new QComboBox(this);
        tint->setObjectName("layerTint");
        tint->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
        for (const auto& [text, c] : kTints) tint->addItem(tr(text), QColor(c.r, c.g, c.b));
        const QColor now(layer.tint.r, layer.tint.g, layer.tint.b);
        if (tint->findData(now) < 0) tint->addItem(tr("its own"), now);
        tint->setCurrentIndex(tint->findData(now));
        addField(&column, tr("Tint"), tint, 54);
        connect(tint, &QComboBox::activated, this, [s = &session_, id = layer_, tint] {
            const QColor c = tint->currentData().value<QColor>();
            QTimer::singleShot(0, s, [s, id, c] {
                change(*s, id, tr("Tint of a layer"), [&](level::Layer& l) {
                    l.tint = {static_cast<std::uint8_t>(c.red()), static_cast<std::uint8_t>(c.green()),
                              static_cast<std::uint8_t>(c.blue()), 255};
                });
            });
        });
    }
    pair(
        "layerParallax", tr("Moves"), layer.parallax, 0, 400, 5, tr(" %"),
        tr("How far it goes along when the frame moves over the level, across and down: 50 % is further away, 150 % is "
           "nearer; seen in Walk"),
        tr("Parallax of a layer"), &level::Layer::parallax);
    if (layer.kind == level::LayerKind::tiles && !layer.solid) {
        auto* subdivision = new QComboBox(this);
        subdivision->setObjectName("layerFiner");
        subdivision->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
        const level::Level& level = *session_.level();
        for (int n = 1; n <= level::kMostSubdivision; ++n)
            if ((level.cell.w % n == 0 && level.cell.h % n == 0) || n == layer.subdivision)
                subdivision->addItem(
                    n == 1 ? tr("of the level") : tr("%1 × %2 px").arg(level.cell.w / n).arg(level.cell.h / n), n);
        subdivision->setCurrentIndex(std::max(0, subdivision->findData(layer.subdivision)));
        describe(subdivision, tr("Cells"), {},
                 tr("The size of its cells: those of the level, or a whole part of them"));
        addField(&column, tr("Cells"), subdivision, 54);
        connect(subdivision, &QComboBox::activated, this, [s = &session_, id = layer_, subdivision] {
            const int n = subdivision->currentData().toInt();
            QTimer::singleShot(0, s, [s, id, n] {
                const level::Layer* now = s->level() ? s->level()->layer(id) : nullptr;
                if (!now || now->subdivision == n) return;
                edit::Refined next = edit::refined(*s->level(), id, n);
                s->setSelection({});
                if (next.done) s->applyLevel(tr("Cells of a layer"), std::move(next.level));
                emit s->said(translated(next.says), !next.done);
            });
        });
        pair("layerShift", tr("Shift"), layer.shift, -1, 1, 1, tr(" ½"),
             tr("Half cells that it lies right of and below the lattice"), tr("Shift of a layer"),
             &level::Layer::shift);
    }
}

void Slab::buildDrawer(const level::Layer& layer) {
    const QString title = QString::fromStdString(layer.name);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, kClosed + 2, 12, 12);
    column->setSpacing(7);

    auto* name = new QLineEdit(title, this);
    name->setObjectName("layerName");
    connect(name, &QLineEdit::editingFinished, this, [s = &session_, id = layer_, name, title] {
        const QString text = name->text().trimmed();
        if (text.isEmpty() || text == title) return;
        QTimer::singleShot(0, s, [s, id, text] {
            change(*s, id, tr("Rename a layer"), [&](level::Layer& l) { l.name = text.toStdString(); });
        });
    });
    addField(column, tr("Name"), name, 54);

    auto* opacity = new QSlider(Qt::Horizontal, this);
    opacity->setObjectName("layerOpacity");
    opacity->setRange(0, 100);
    opacity->setValue(layer.opacity);
    opacity->setVisible(layer.kind != level::LayerKind::blockers);
    if (layer.kind != level::LayerKind::blockers) addField(column, tr("Opacity"), opacity, 54);
    connect(opacity, &QSlider::valueChanged, this, [s = &session_, id = layer_](int v) {
        change(
            *s, id, tr("Opacity of a layer"), [&](level::Layer& l) { l.opacity = v; }, "opacity-" + std::to_string(id));
    });
    const auto check = [&](const QString& text, const char* id, bool on, const QString& step,
                           bool level::Layer::*field) {
        auto* box = new QCheckBox(text, this);
        box->setObjectName(id);
        box->setChecked(on);
        connect(box, &QCheckBox::toggled, this, [s = &session_, id = layer_, step, field](bool v) {
            QTimer::singleShot(
                0, s, [s, id, step, field, v] { change(*s, id, step, [&](level::Layer& l) { l.*field = v; }); });
        });
        column->addWidget(box);
    };
    if (layer.kind == level::LayerKind::tiles && layer.subdivision == 1)
        check(tr("Its tiles block the walker"), "layerSolid", layer.solid, tr("What a layer blocks"),
              &level::Layer::solid);
    if (layer.blocks()) {
        auto* name_of = new QLineEdit(QString::fromStdString(layer.collision_class), this);
        name_of->setObjectName("layerClass");
        name_of->setPlaceholderText(tr("none"));
        name_of->setMaxLength(64);
        describe(name_of, tr("Collision class"), {},
                 tr("A name by which the engine tells what blocks here from what blocks elsewhere: water, wall …"));
        addField(column, tr("Class"), name_of, 54);
        connect(name_of, &QLineEdit::editingFinished, this,
                [s = &session_, id = layer_, name_of, was = layer.collision_class] {
                    const std::string text = name_of->text().trimmed().toStdString();
                    if (text == was) return;
                    QTimer::singleShot(0, s, [s, id, text] {
                        change(*s, id, tr("Collision class of a layer"),
                               [&](level::Layer& l) { l.collision_class = text; });
                    });
                });
    }
    if (layer.kind == level::LayerKind::planting) buildPlanting(layer, *column);
    if (layer.overlay_of != 0)
        if (const level::Layer* below = session_.level()->layer(layer.overlay_of))
            column->addWidget(label(
                tr("takes what one sees through, laid on %1").arg(QString::fromStdString(below->name)), "quiet", this));
    if (layer.kind == level::LayerKind::backdrop) {
        auto* picture = new QComboBox(this);
        picture->setObjectName("backdropPicture");
        picture->addItem(tr("no picture"), 0U);
        for (const auto& s : session_.project().sheets) picture->addItem(QString::fromStdString(s->name), s->id);
        picture->setCurrentIndex(std::max(0, picture->findData(layer.backdrop.sheet)));
        addField(column, tr("Picture"), picture, 54);
        connect(picture, &QComboBox::activated, this, [s = &session_, id = layer_, picture] {
            const auto sheet = picture->currentData().toUInt();
            QTimer::singleShot(0, s, [s, id, sheet] {
                change(*s, id, tr("Picture of a backdrop"), [&](level::Layer& l) { l.backdrop.sheet = sheet; });
            });
        });
        auto* tint = new QComboBox(this);
        tint->setObjectName("backdropTint");
        const std::initializer_list<std::pair<QString, Rgba>> tints{
            {tr("as drawn"), {255, 255, 255, 255}}, {tr("paler"), {255, 255, 255, 170}},
            {tr("clay"), {216, 210, 192, 255}},     {tr("dusk"), {176, 160, 190, 255}},
            {tr("sea"), {150, 200, 205, 255}},      {tr("night"), {96, 110, 140, 255}}};
        for (const auto& [text, c] : tints) tint->addItem(text, QColor(c.r, c.g, c.b, c.a));
        const Rgba now = layer.backdrop.tint;
        const int at = tint->findData(QColor(now.r, now.g, now.b, now.a));
        if (at < 0) tint->addItem(tr("its own"), QColor(now.r, now.g, now.b, now.a));
        tint->setCurrentIndex(at < 0 ? tint->count() - 1 : at);
        addField(column, tr("Tint"), tint, 54);
        connect(tint, &QComboBox::activated, this, [s = &session_, id = layer_, tint] {
            const QColor c = tint->currentData().value<QColor>();
            QTimer::singleShot(0, s, [s, id, c] {
                change(*s, id, tr("Tint of a backdrop"), [&](level::Layer& l) {
                    l.backdrop.tint = {static_cast<std::uint8_t>(c.red()), static_cast<std::uint8_t>(c.green()),
                                       static_cast<std::uint8_t>(c.blue()), static_cast<std::uint8_t>(c.alpha())};
                });
            });
        });
    }
    buildMore(layer, *column);
    auto* row = new QHBoxLayout;
    row->setSpacing(4);
    const Tokens t = tokensOf(&panel_);
    const auto button = [&](const char* id, const QString& iconName, const QString& text, const QString& help) {
        auto* b = toolButton(&panel_, id, iconName, {}, {}, "card");
        b->setIcon(icon(iconName, t.ink));
        b->setStyleSheet("padding: 5px 7px;");
        describe(b, text, {}, help);
        row->addWidget(b);
        return b;
    };
    const bool shown = layer.shown;
    const bool locked = layer.locked;
    auto* show = button("layerShown", shown ? "shown" : "hidden", shown ? tr("Hide") : tr("Show"),
                        tr("Hidden layers are hidden in the game too"));
    connect(show, &QToolButton::clicked, this, [s = &session_, id = layer_, shown] {
        QTimer::singleShot(0, s, [s, id, shown] {
            change(*s, id, shown ? tr("Hide a layer") : tr("Show a layer"), [&](level::Layer& l) { l.shown = !shown; });
        });
    });
    auto* lock = button("layerLocked", locked ? "locked" : "open", locked ? tr("Unlock") : tr("Lock"),
                        tr("Nothing is laid on a locked layer"));
    connect(lock, &QToolButton::clicked, this, [s = &session_, id = layer_, locked] {
        QTimer::singleShot(0, s, [s, id, locked] {
            change(*s, id, locked ? tr("Unlock a layer") : tr("Lock a layer"),
                   [&](level::Layer& l) { l.locked = !locked; });
        });
    });
    auto* alone = button("layerSolo", "alone", session_.isAlone(layer_) ? tr("With the others") : tr("Alone"),
                         tr("Looks at this layer alone, or at several that are so; nothing of the level changes. "
                            "Shift+Q shows all again"));
    alone->setCheckable(true);
    alone->setChecked(session_.isAlone(layer_));
    if (alone->isChecked()) alone->setIcon(icon("alone", t.panel));
    connect(alone, &QToolButton::clicked, this,
            [s = &session_, id = layer_](bool on) { QTimer::singleShot(0, s, [s, id, on] { s->setAlone(id, on); }); });
    row->addStretch();
    auto* remove = button("layerRemove", "remove", tr("Remove the layer"), tr("Undo brings it back"));
    connect(remove, &QToolButton::clicked, this, [this] {
        QTimer::singleShot(0, &session_, [s = &session_, id = layer_] {
            s->applyLevel(tr("Remove a layer"), edit::remove_layer(*s->level(), id));
        });
    });
    column->addLayout(row);
}

} // namespace vic::app
