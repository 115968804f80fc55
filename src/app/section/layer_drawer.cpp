#include "app/section/layer_drawer.hpp"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QSizePolicy>
#include <QSlider>
#include <QSpinBox>
#include <QToolButton>
#include <QVBoxLayout>
#include <QVariant>
#include <utility>
#include <vector>

#include "app/parts/panel.hpp"
#include "app/parts/tints.hpp"
#include "app/parts/tokens.hpp"
#include "app/parts/translated.hpp"
#include "app/section/backdrop_drawer.hpp"
#include "app/session/session.hpp"
#include "edit/close_up.hpp"
#include "edit/levels.hpp"

namespace vic::app {

LayerDrawer::LayerDrawer(Session& session, level::LayerId layer, QWidget* parent)
    : QWidget(parent), session_(session), id_(layer), column_(new QVBoxLayout(this)) {
    column_->setContentsMargins(0, 0, 0, 0);
    column_->setSpacing(7);
    buildName();
    buildLook();
    buildOrder();
    buildBlocking();
    buildFacts();
    if (this->layer()->planted()) {
        auto* says = label(tr("Its recipe is on the right, in Dress"), "quiet", this);
        says->setWordWrap(true);
        column_->addWidget(says);
    }
    buildOverlay();
    if (this->layer()->backdrop()) {
        backdrop_ = new BackdropDrawer(session_, id_, this);
        column_->addWidget(backdrop_);
    }
    buildGroup();
    buildDepth();
    buildCells();
    buildButtons();
    refresh();
}

void LayerDrawer::refresh() {
    if (!layer()) return;
    fields_.refresh();
    if (backdrop_) backdrop_->refresh();
}

const level::Layer* LayerDrawer::layer() const { return session_.level() ? session_.level()->layer(id_) : nullptr; }

template <class T>
std::function<T()> LayerDrawer::of(T level::Layer::*field) const {
    return [this, field] { return layer()->*field; };
}

void LayerDrawer::change(const QString& name, const What& what, const std::string& merge) {
    if (!layer()) return;
    level::Level next = *session_.level();
    what(next.edit(id_));
    session_.applyLevel(name, std::move(next), merge.empty() ? merge : merge + std::to_string(id_));
}

QWidget* LayerDrawer::row(const QString& name, QWidget* control) {
    auto* whole = new QWidget(this);
    auto* inner = new QVBoxLayout(whole);
    inner->setContentsMargins(0, 0, 0, 0);
    addField(inner, name, control, kDrawerNames);
    column_->addWidget(whole);
    return whole;
}

void LayerDrawer::buildName() {
    auto* name = new QLineEdit(this);
    name->setObjectName("layerName");
    row(tr("Name"), name);
    fields_.bindText(
        name, [this] { return QString::fromStdString(layer()->name); },
        [this](const QString& text) {
            if (text.isEmpty()) return;
            change(tr("Rename a layer"), [&](level::Layer& l) { l.name = text.toStdString(); });
        });
}

// Nobody sees blockers and facts.
void LayerDrawer::buildLook() {
    if (layer()->blockers() || layer()->facts()) return;
    auto* opacity = new QSlider(Qt::Horizontal, this);
    opacity->setObjectName("layerOpacity");
    opacity->setRange(0, 100);
    row(tr("Opacity"), opacity);
    fields_.bindInt(opacity, of(&level::Layer::opacity), [this](int v) {
        change(
            tr("Opacity of a layer"), [v](level::Layer& l) { l.opacity = v; }, "opacity-");
    });
}

// From the side nothing is behind another by where it stands.
void LayerDrawer::buildOrder() {
    if (!layer()->tiles() && !layer()->has_props()) return;
    auto* feet = new QCheckBox(tr("Drawn in the order of feet"), this);
    feet->setObjectName("layerByFeet");
    describe(
        feet, tr("Drawn in the order of feet"), {},
        tr("Props, blocks and tiles that stand up, here and on the layers beside it that are so, too; and the walker "
           "where his plane is at them"));
    column_->addWidget(feet);
    fields_.bindCheck(
        feet, [this] { return layer()->by_feet; },
        [this](bool on) { change(tr("In which order a layer is drawn"), [on](level::Layer& l) { l.by_feet = on; }); });
    fields_.bindShown(feet, [this] { return session_.level() && session_.level()->view == level::View::from_above; });
}

void LayerDrawer::buildBlocking() {
    if (layer()->tiles()) {
        auto* solid = new QCheckBox(tr("Its tiles block the walker"), this);
        solid->setObjectName("layerSolid");
        column_->addWidget(solid);
        fields_.bindCheck(
            solid, [this] { return layer()->solid(); },
            [this](bool on) {
                change(tr("What a layer blocks"), [on](level::Layer& l) {
                    if (level::TileCells* tiles = l.tiles()) tiles->solid = on;
                });
            });
        fields_.bindShown(solid, [this] { return layer()->grain().finer == 1; });
    }
    if (!layer()->tiles() && !layer()->blockers()) return;
    auto* name = new QLineEdit(this);
    name->setObjectName("layerClass");
    name->setPlaceholderText(tr("none"));
    name->setMaxLength(level::kMostClassLetters);
    describe(name, tr("Collision class"), {},
             tr("A name by which the engine tells what blocks here from what blocks elsewhere: water, wall …"));
    QWidget* whole = row(tr("Class"), name);
    fields_.bindText(
        name, [this] { return QString::fromStdString(layer()->collision_class); },
        [this](const QString& text) {
            change(tr("Collision class of a layer"), [&](level::Layer& l) { l.collision_class = text.toStdString(); });
        });
    fields_.bindShown(whole, [this] { return layer()->blocks(); });
}

void LayerDrawer::buildFacts() {
    if (!layer()->facts()) return;
    auto* note = comboBox(this, "factsNote");
    describe(note, tr("Note"), {}, tr("What its values are values of; the engine gets them by this name"));
    row(tr("Note"), note);
    fields_.bindChoice(
        note,
        [this] {
            std::vector<Bindings::Choice> out;
            if (layer()->facts()->note() == 0) out.push_back({tr("none yet"), 0U});
            for (const level::NoteKind& k : session_.project().note_kinds)
                if (level::may_be_fact(k)) out.push_back({QString::fromStdString(k.name), k.id});
            return out;
        },
        [this] { return QVariant(layer()->facts()->note()); },
        [this](const QVariant& v) {
            change(tr("Note of a layer"), [&](level::Layer& l) { l.facts()->set_note(v.toUInt()); });
        });
    auto* look = comboBox(this, "factsLook");
    describe(look, tr("Seen as"), {}, tr("As colours, as words or as both; the project does not keep it"));
    row(tr("Seen as"), look);
    fields_.bindChoice(
        look,
        [] {
            return std::vector<Bindings::Choice>{{tr("both"), 0}, {tr("colours"), 1}, {tr("words"), 2}};
        },
        [this] { return QVariant(static_cast<int>(session_.factsLook())); },
        [this](const QVariant& v) { session_.setFactsLook(static_cast<FactsLook>(v.toInt())); });
}

void LayerDrawer::buildOverlay() {
    auto* says = label({}, "quiet", this);
    says->setWordWrap(true);
    column_->addWidget(says);
    const auto below = [this] { return session_.level()->layer(layer()->overlay_of()); };
    fields_.bindLabel(says, [below] {
        return below() ? tr("takes what one sees through, laid on %1").arg(QString::fromStdString(below()->name))
                       : QString();
    });
    fields_.bindShown(says, [below] { return below() != nullptr; });
}

void LayerDrawer::buildGroup() {
    auto* group = new QLineEdit(this);
    group->setObjectName("layerGroup");
    group->setPlaceholderText(tr("none"));
    row(tr("Group"), group);
    fields_.bindText(
        group, [this] { return QString::fromStdString(layer()->group); },
        [this](const QString& text) {
            change(tr("Group of a layer"), [&](level::Layer& l) { l.group = text.toStdString(); });
        });
}

// Tint and parallax: how far away it looks.
void LayerDrawer::buildDepth() {
    if (layer()->blockers() || layer()->facts()) return;
    if (!layer()->backdrop()) {
        auto* tint = comboBox(this, "layerTint");
        row(tr("Tint"), tint);
        bindTint(
            fields_, tint, false, [this] { return layer()->tint; },
            [this](Rgba c) { change(tr("Tint of a layer"), [c](level::Layer& l) { l.tint = c; }); });
    }
    pair({.id = "layerParallax",
          .name = tr("Moves"),
          .field = &level::Layer::parallax,
          .least = 0,
          .most = 400,
          .step = 5,
          .unit = tr(" %"),
          .help = tr("How far it goes along when the frame moves over the level, across and down: 50 % is further "
                     "away, 150 % is nearer; seen in Walk"),
          .what = tr("Parallax of a layer"),
          .shown = [] { return true; }});
}

// Of a choice among cells: finer ones above, wider ones below zero.
int LayerDrawer::code(level::Grain grain) { return grain.wider > 1 ? -grain.wider : grain.finer; }

void LayerDrawer::buildCells() {
    if (!layer()->tiles()) return;
    auto* cells = comboBox(this, "layerFiner");
    describe(cells, tr("Cells"), {},
             tr("The size of its cells: those of the level, a whole part of them, or several in one"));
    row(tr("Cells"), cells);
    fields_.bindChoice(
        cells,
        [this] {
            std::vector<Bindings::Choice> out;
            const Size cell = session_.level()->cell;
            const auto offer = [&](level::Grain grain) {
                const Size own = grain.cell(cell);
                const QString name = grain.own() ? tr("%1 × %2 px").arg(own.w).arg(own.h) : tr("of the level");
                out.push_back({name, code(grain)});
            };
            for (int n = level::kMostGrain; n > 1; --n)
                if (std::max(cell.w, cell.h) * n <= level::kMostCellPixels && (n <= 4 || layer()->grain().wider == n))
                    offer({1, n});
            // What blocks is not finer than the level.
            for (int n = 1; n <= (layer()->solid() ? 1 : level::kMostGrain); ++n)
                if ((cell.w % n == 0 && cell.h % n == 0) || n == layer()->grain().finer) offer({n, 1});
            return out;
        },
        [this] { return QVariant(code(layer()->grain())); },
        [this](const QVariant& v) {
            const int n = v.toInt();
            divide(n > 0 ? level::Grain{n, 1} : level::Grain{1, -n});
        });
    pair({.id = "layerShift",
          .name = tr("Shift"),
          .field = &level::Layer::shift,
          .least = -1,
          .most = 1,
          .unit = tr(" ½"),
          .help = tr("Half cells that it lies right of and below the lattice"),
          .what = tr("Shift of a layer"),
          .shown = [] { return true; }});
}

void LayerDrawer::divide(level::Grain grain) {
    if (!layer() || layer()->grain() == grain) return;
    edit::Refined next = edit::refined(*session_.level(), id_, grain);
    session_.setSelection({});
    if (next.done) session_.applyLevel(tr("Cells of a layer"), std::move(next.level));
    emit session_.said(translated(next.says), !next.done);
}

void LayerDrawer::pair(const Pair& of) {
    auto* both = new QWidget(this);
    auto* inner = new QHBoxLayout(both);
    inner->setContentsMargins(0, 0, 0, 0);
    inner->setSpacing(4);
    for (const bool across : {true, false}) {
        auto* box = new QSpinBox(both);
        box->setObjectName(QString("%1%2").arg(of.id, across ? "X" : "Y"));
        box->setRange(of.least, of.most);
        box->setSingleStep(of.step);
        box->setSuffix(of.unit);
        box->setMinimumWidth(40);
        box->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
        describe(box, of.name, {}, of.help);
        inner->addWidget(box);
        const auto axis = across ? &Point::x : &Point::y;
        fields_.bindInt(
            box, [this, field = of.field, axis] { return (layer()->*field).*axis; },
            [this, field = of.field, axis, what = of.what](int v) {
                change(
                    what, [&](level::Layer& l) { (l.*field).*axis = v; }, what.toStdString());
            });
    }
    fields_.bindShown(row(of.name, both), of.shown);
}

QToolButton* LayerDrawer::button(QHBoxLayout* row, const char* id, const QString& text, const QString& help) {
    auto* b = toolButton(this, id, {}, {}, {}, "card");
    b->setStyleSheet("padding: 5px 7px;");
    describe(b, text, {}, help);
    row->addWidget(b);
    return b;
}

void LayerDrawer::buildButtons() {
    auto* row = new QHBoxLayout;
    row->setSpacing(4);
    auto* show = button(row, "layerShown", tr("Show"), tr("Hidden layers are hidden in the game too"));
    connect(show, &QToolButton::clicked, this, [this] {
        const bool shown = layer()->shown;
        change(shown ? tr("Hide a layer") : tr("Show a layer"), [&](level::Layer& l) { l.shown = !shown; });
    });
    auto* lock = button(row, "layerLocked", tr("Lock"), tr("Nothing is laid on a locked layer"));
    connect(lock, &QToolButton::clicked, this, [this] {
        const bool locked = layer()->locked;
        change(locked ? tr("Unlock a layer") : tr("Lock a layer"), [&](level::Layer& l) { l.locked = !locked; });
    });
    auto* alone = button(row, "layerSolo", tr("Alone"),
                         tr("Looks at this layer alone, or at several that are so; nothing of the level changes. "
                            "Shift+Q shows all again"));
    fields_.bindCheck(
        alone, [this] { return session_.isAlone(id_); }, [this](bool on) { session_.setAlone(id_, on); });
    row->addStretch();
    auto* remove = button(row, "layerRemove", tr("Remove the layer"), tr("Undo brings it back"));
    connect(remove, &QToolButton::clicked, this,
            [this] { session_.applyLevel(tr("Remove a layer"), edit::remove_layer(*session_.level(), id_)); });
    fields_.follow([this, show, lock, alone, remove] {
        const Tokens t = tokensOf(this);
        show->setIcon(icon(layer()->shown ? "shown" : "hidden", t.ink));
        describe(show, layer()->shown ? tr("Hide") : tr("Show"), {}, tr("Hidden layers are hidden in the game too"));
        lock->setIcon(icon(layer()->locked ? "locked" : "open", t.ink));
        describe(lock, layer()->locked ? tr("Unlock") : tr("Lock"), {}, tr("Nothing is laid on a locked layer"));
        alone->setIcon(icon("alone", alone->isChecked() ? t.panel : t.ink));
        remove->setIcon(icon("remove", t.ink));
    });
    column_->addLayout(row);
}

} // namespace vic::app
