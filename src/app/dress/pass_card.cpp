#include "app/dress/pass_card.hpp"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLayoutItem>
#include <QLineEdit>
#include <QMouseEvent>
#include <QSizePolicy>
#include <QSpinBox>
#include <QStringList>
#include <QToolButton>
#include <QVBoxLayout>
#include <QVariant>
#include <algorithm>
#include <utility>

#include "app/dress/term_rows.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/thumbs.hpp"
#include "app/parts/tints.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "edit/plant.hpp"
#include "level/project.hpp"

namespace vic::app {

namespace {

using level::Covers;
using level::Pass;

constexpr int kPassNames = 56; // pixels of a field's name

} // namespace

PassCard::PassCard(Session& session, level::LayerId layer, int index, QWidget* parent)
    : QFrame(parent), session_(session), layer_(layer), index_(index) {
    setObjectName(QString("pass-%1").arg(index));
    setProperty("role", "card");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(10, 8, 10, 8);
    column->setSpacing(4);
    auto* head = new QHBoxLayout;
    head->setSpacing(6);
    head->addWidget(label(QString::number(index + 1), "quiet", this));
    title_ = label({}, "title", this);
    title_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    head->addWidget(title_, 1);
    count_ = label({}, "quiet", this);
    count_->setObjectName(QString("passCount-%1").arg(index));
    head->addWidget(count_);
    column->addLayout(head);
    under_ = label({}, "quiet", this);
    under_->setWordWrap(true);
    column->addWidget(under_);
}

const Pass& PassCard::pass() const {
    static const Pass none;
    const auto& passes = session_.planter().recipe(layer_).passes;
    return static_cast<std::size_t>(index_) < passes.size() ? passes[static_cast<std::size_t>(index_)] : none;
}

void PassCard::change(const QString& name, const What& what, const std::string& merge) {
    session_.planter().change(
        layer_, name,
        [&](level::Planting& p) {
            if (static_cast<std::size_t>(index_) < p.passes.size()) what(p.passes[static_cast<std::size_t>(index_)]);
        },
        merge.empty() ? merge : merge + std::to_string(index_) + "-");
}

void PassCard::mousePressEvent(QMouseEvent*) { emit picked(index_); }

void PassCard::setOpen(bool on) {
    if (on && !inner_) build();
    if (inner_) inner_->setVisible(on);
    setProperty("chosen", on);
    setRole(this, on ? "cardChosen" : "card");
}

void PassCard::build() {
    inner_ = new QWidget(this);
    auto* column = new QVBoxLayout(inner_);
    column->setContentsMargins(0, 4, 0, 0);
    column->setSpacing(6);
    auto* name = new QLineEdit(inner_);
    name->setObjectName(QString("passName-%1").arg(index_));
    addField(column, tr("Name"), name, kPassNames);
    fields_.bindText(
        name, [this] { return QString::fromStdString(pass().name); },
        [this](const QString& text) { change(tr("Rename a pass"), [&](Pass& p) { p.name = text.toStdString(); }); });
    buildKinds(column);
    buildMany(column);
    buildGroups(column);
    buildLook(column);
    buildWhere(column);
    buildButtons(column);
    layout()->addWidget(inner_);
}

QSpinBox* PassCard::number(QWidget* parent, const char* name, int least, int most, const QString& unit,
                           const QString& help) {
    auto* box = new QSpinBox(parent);
    box->setObjectName(QString("%1-%2").arg(name).arg(index_));
    box->setRange(least, most);
    box->setSuffix(unit);
    box->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    box->setMinimumWidth(40);
    describe(box, help, {}, {});
    return box;
}

QWidget* PassCard::kindLine(std::size_t at) {
    const level::PropKindId id = shown_[at];
    const level::PropKind* kind = session_.project().prop_kind(id);
    auto* line = new QWidget(inner_);
    auto* row = new QHBoxLayout(line);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(4);
    auto* picture = new QLabel(line);
    if (kind) picture->setPixmap(propThumb(session_.project(), *kind, 20));
    picture->setFixedSize(22, 22);
    row->addWidget(picture);
    const QString text = kind ? QString::fromStdString(kind->name) : tr("gone");
    auto* name = label(text, "quiet", line);
    name->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    name->setToolTip(text);
    row->addWidget(name, 1);
    auto* weight = number(line, QString("plantWeight-%1").arg(at).toUtf8().constData(), 0, 1000, {},
                          tr("How often it is chosen beside the others"));
    weight->setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed);
    weight->setFixedWidth(58);
    weight->setSingleStep(10);
    row->addWidget(weight);
    lines_.bindInt(
        weight, [this, at] { return at < pass().kinds.size() ? pass().kinds[at].weight : 0; },
        [this, at](int v) {
            change(
                tr("What grows"),
                [at, v](Pass& p) {
                    if (at < p.kinds.size()) p.kinds[at].weight = v;
                },
                "weight-");
        });
    auto* out = toolButton(line, QString("plantOut-%1-%2").arg(at).arg(index_), "remove", {}, {}, "link");
    out->setFixedWidth(26);
    describe(out, tr("Take out"), {}, tr("It grows here no longer"));
    row->addWidget(out);
    connect(out, &QToolButton::clicked, this, [this, id] {
        change(tr("What grows"),
               [id](Pass& p) { std::erase_if(p.kinds, [&](const auto& k) { return k.kind == id; }); });
    });
    return line;
}

void PassCard::buildKinds(QVBoxLayout* column) {
    kinds_ = new QVBoxLayout;
    kinds_->setSpacing(4);
    column->addLayout(kinds_);
    auto* more = comboBox(inner_, QString("plantMore-%1").arg(index_));
    describe(more, tr("Grows"), {}, tr("A prop that is to grow in this pass"));
    column->addWidget(more);
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
            if (id != 0) change(tr("What grows"), [id](Pass& p) { p.kinds.push_back({id, 100}); });
        });
    auto* restless = label(tr("More than four kinds make it restless"), "quiet", inner_);
    restless->setWordWrap(true);
    column->addWidget(restless);
    fields_.bindShown(restless, [this] { return pass().kinds.size() > 4; });
}

void PassCard::buildMany(QVBoxLayout* column) {
    auto* apart = number(inner_, "plantApart", 0, level::kMostPlantApart, tr(" px"),
                         tr("No two are nearer to each other than this"));
    apart->setSpecialValueText(tr("by feet"));
    addField(column, tr("Apart"), apart, kPassNames);
    fields_.bindInt(
        apart, [this] { return pass().apart; },
        [this](int v) {
            change(
                tr("How far apart it grows"), [v](Pass& p) { p.apart = v; }, "apart-");
        });
    auto* both = new QWidget(inner_);
    auto* row = new QHBoxLayout(both);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(4);
    auto* how = comboBox(both, QString("plantCovers-%1").arg(index_));
    describe(how, tr("Covers"), {},
             tr("How many there are: no room left for another, a share of that, a share of the "
                "area under their feet, or so many on 100 cells"));
    row->addWidget(how, 1);
    auto* amount = number(both, "plantAmount", 1, 10000, {}, tr("How many"));
    amount->setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed);
    amount->setFixedWidth(64);
    row->addWidget(amount);
    addField(column, tr("Covers"), both, kPassNames);
    fields_.bindChoice(
        how,
        [] {
            return std::vector<Bindings::Choice>{
                {tr("full"), 0}, {tr("% of full"), 1}, {tr("% of the area"), 2}, {tr("on 100 cells"), 3}};
        },
        [this] { return QVariant(static_cast<int>(pass().covers.how)); },
        [this](const QVariant& v) {
            change(tr("How many grow"), [h = static_cast<Covers::How>(v.toInt())](Pass& p) {
                p.covers.how = h;
                if (h != Covers::How::per_cells) p.covers.amount = std::min(p.covers.amount, 100);
            });
        });
    fields_.bindInt(
        amount, [this] { return pass().covers.amount; },
        [this](int v) {
            change(
                tr("How many grow"),
                [v](Pass& p) { p.covers.amount = p.covers.how == Covers::How::per_cells ? v : std::min(v, 100); },
                "amount-");
        });
    fields_.bindShown(amount, [this] { return pass().covers.how != Covers::How::full; });
    auto* even = new QCheckBox(tr("Spread out evenly"), inner_);
    even->setObjectName(QString("plantEven-%1").arg(index_));
    column->addWidget(even);
    fields_.bindCheck(
        even, [this] { return pass().even; },
        [this](bool on) { change(tr("How even it grows"), [on](Pass& p) { p.even = on; }); });
    fields_.bindShown(even, [this] { return pass().covers.how != Covers::How::full; });
}

void PassCard::buildGroups(QVBoxLayout* column) {
    auto* both = new QWidget(inner_);
    auto* row = new QHBoxLayout(both);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(4);
    auto* size =
        number(both, "plantClumps", 0, level::kMostPlantApart, tr(" px"), tr("How wide a clump is; none at 0"));
    size->setSpecialValueText(tr("none"));
    size->setSingleStep(8);
    auto* most = number(both, "plantInOne", 0, 100000, {}, tr("How many there are in one at the most"));
    most->setSpecialValueText(tr("any"));
    row->addWidget(size, 1);
    row->addWidget(most, 1);
    addField(column, tr("Clumps"), both, kPassNames);
    fields_.bindInt(
        size, [this] { return pass().clumps.size; },
        [this](int v) {
            change(
                tr("Clumps of a pass"), [v](Pass& p) { p.clumps.size = v; }, "clumps-");
        });
    fields_.bindInt(
        most, [this] { return pass().clumps.most; },
        [this](int v) {
            change(
                tr("Clumps of a pass"), [v](Pass& p) { p.clumps.most = v; }, "inone-");
        });
    fields_.bindShown(most, [this] { return pass().clumps.size > 0; });
    auto* kind = new QCheckBox(tr("Each of one kind"), inner_);
    kind->setObjectName(QString("plantByKind-%1").arg(index_));
    column->addWidget(kind);
    fields_.bindCheck(
        kind, [this] { return pass().clumps.by_kind; },
        [this](bool on) { change(tr("Clumps of a pass"), [on](Pass& p) { p.clumps.by_kind = on; }); });
    fields_.bindShown(kind, [this] { return pass().clumps.size > 0 && pass().kinds.size() > 1; });
}

void PassCard::range(QVBoxLayout* column, const QString& title, const char* name, int least, int most,
                     const QString& unit, int Pass::*from, int Pass::*to, int times, const QString& help) {
    auto* both = new QWidget(inner_);
    auto* row = new QHBoxLayout(both);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(4);
    for (const bool low : {true, false}) {
        auto* box = number(both, QString("%1%2").arg(name, low ? "Least" : "Most").toUtf8().constData(), least, most,
                           unit, help);
        row->addWidget(box, 1);
        fields_.bindInt(
            box, [this, low, from, to, times] { return pass().*(low ? from : to) / times; },
            [this, low, from, to, times, title, name](int v) {
                change(
                    title,
                    [&](Pass& p) {
                        p.*(low ? from : to) = v * times;
                        if (p.*from > p.*to) p.*(low ? to : from) = v * times;
                    },
                    std::string(name) + (low ? "l-" : "m-"));
            });
    }
    addField(column, title, both, kPassNames);
}

void PassCard::buildLook(QVBoxLayout* column) {
    range(column, tr("Scale"), "plantScale", level::kLeastScale, level::kMostScale, tr(" %"), &Pass::least_scale,
          &Pass::most_scale, 1, tr("From how small to how large, by chance"));
    range(column, tr("Turn"), "plantTurn", -180, 180, tr("°"), &Pass::least_turn, &Pass::most_turn, 10,
          tr("From how far to the left to how far to the right"));
    range(column, tr("Light"), "plantLight", -100, 100, tr(" %"), &Pass::least_light, &Pass::most_light, 1,
          tr("From how dark to how light"));
    for (const bool first : {true, false}) {
        auto* field = comboBox(inner_, QString("plantTint%1-%2").arg(first ? "From" : "To").arg(index_));
        describe(field, first ? tr("Tint") : tr("Tint, to"), {},
                 tr("Each has a tint on the way from the one to the other, by chance"));
        addField(column, first ? tr("Tint") : tr("Tint to"), field, kPassNames);
        bindTint(
            fields_, field, false, [this, first] { return first ? pass().tint : pass().tint_to.value_or(pass().tint); },
            [this, first](Rgba c) {
                change(tr("Tint of a pass"), [&](Pass& p) {
                    if (first)
                        p.tint = c;
                    else
                        p.tint_to = c;
                    if (p.tint_to == p.tint) p.tint_to.reset();
                });
            });
    }
    auto* both = new QWidget(inner_);
    auto* row = new QHBoxLayout(both);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(4);
    auto* rim = number(both, "plantRim", 10, 1000, tr(" %"), tr("How large it is at the rim of where it grows"));
    auto* wide = number(both, "plantRimWide", 1, level::kMostPlantApart, tr(" px"), tr("How far in that reaches"));
    row->addWidget(rim, 1);
    row->addWidget(wide, 1);
    addField(column, tr("At the rim"), both, kPassNames);
    fields_.bindInt(
        rim, [this] { return pass().rim; },
        [this](int v) {
            change(
                tr("Size at the rim"), [v](Pass& p) { p.rim = v; }, "rim-");
        });
    fields_.bindInt(
        wide, [this] { return pass().rim_wide; },
        [this](int v) {
            change(
                tr("Size at the rim"), [v](Pass& p) { p.rim_wide = v; }, "rimwide-");
        });
    fields_.bindShown(wide, [this] { return pass().rim != 100; });
    auto* opacity = number(inner_, "plantOpacity", 1, 100, tr(" %"), tr("Stains and worn places at half strength"));
    addField(column, tr("Opacity"), opacity, kPassNames);
    fields_.bindInt(
        opacity, [this] { return pass().opacity; },
        [this](int v) {
            change(
                tr("Opacity of a pass"), [v](Pass& p) { p.opacity = v; }, "opacity-");
        });
    auto* mirrors = new QCheckBox(tr("Every other one mirrored"), inner_);
    mirrors->setObjectName(QString("plantMirrors-%1").arg(index_));
    column->addWidget(mirrors);
    fields_.bindCheck(
        mirrors, [this] { return pass().mirrors; },
        [this](bool on) { change(tr("Mirrored ones of a pass"), [on](Pass& p) { p.mirrors = on; }); });
}

void PassCard::buildWhere(QVBoxLayout* column) {
    column->addWidget(label(tr("Within the area, where"), "quiet", inner_));
    where_ = new TermRows(
        session_, QString("passWhere%1").arg(index_), index_,
        [this]() -> const TermRows::Terms& { return pass().where; },
        [this](const std::function<void(TermRows::Terms&)>& what, const std::string& merge) {
            change(
                tr("Where a pass grows"), [&](Pass& p) { what(p.where); }, merge);
        },
        inner_);
    column->addWidget(where_);
    auto* placed = new QCheckBox(tr("Keeps off placed props"), inner_);
    placed->setObjectName(QString("plantMindsPlaced-%1").arg(index_));
    column->addWidget(placed);
    fields_.bindCheck(
        placed, [this] { return pass().minds_placed; },
        [this](bool on) { change(tr("What a pass keeps off"), [on](Pass& p) { p.minds_placed = on; }); });
    if (index_ == 0) return;
    auto* earlier = new QCheckBox(tr("Keeps off earlier passes"), inner_);
    earlier->setObjectName(QString("plantMindsPasses-%1").arg(index_));
    column->addWidget(earlier);
    fields_.bindCheck(
        earlier, [this] { return pass().ignores == 0; },
        [this](bool on) {
            change(tr("What a pass keeps off"), [on](Pass& p) { p.ignores = on ? 0 : ~std::uint64_t{0}; });
        });
}

void PassCard::buildButtons(QVBoxLayout* column) {
    auto* row = new QHBoxLayout;
    row->setSpacing(4);
    const auto button = [&](const char* id, const QString& text, const QString& help, const std::function<void()>& go) {
        auto* b = toolButton(inner_, QString("%1-%2").arg(id).arg(index_), {}, text, {}, "link");
        describe(b, text, {}, help);
        connect(b, &QToolButton::clicked, this, go);
        row->addWidget(b);
        return b;
    };
    auto* mute = button("passMute", tr("mute"), tr("It grows nothing until it is let grow again"),
                        [this] { change(tr("Mute a pass"), [](Pass& p) { p.muted = !p.muted; }); });
    fields_.follow([this, mute] { mute->setText(pass().muted ? tr("let grow") : tr("mute")); });
    const auto swap = [this](int by) {
        session_.planter().change(layer_, tr("Order of passes"), [&](level::Planting& p) {
            const int to = index_ + by;
            if (to >= 0 && static_cast<std::size_t>(std::max(to, index_)) < p.passes.size())
                edit::swap_passes(p, static_cast<std::size_t>(index_), static_cast<std::size_t>(to));
        });
        emit picked(index_ + by);
    };
    button("passUp", tr("earlier"), tr("Grows before the one above"), [swap] { swap(-1); })->setEnabled(index_ > 0);
    button("passDown", tr("later"), tr("Grows after the one below"), [swap] { swap(1); });
    row->addStretch();
    auto* out = toolButton(inner_, QString("passRemove-%1").arg(index_), "remove", {}, {}, "link");
    describe(out, tr("Remove the pass"), {}, tr("Undo brings it back"));
    connect(out, &QToolButton::clicked, this, [this] {
        session_.planter().change(layer_, tr("Remove a pass"), [this](level::Planting& p) {
            if (static_cast<std::size_t>(index_) < p.passes.size())
                edit::remove_pass(p, static_cast<std::size_t>(index_));
        });
    });
    row->addWidget(out);
    column->addLayout(row);
}

void PassCard::showKinds() {
    if (!kinds_) return;
    std::vector<level::PropKindId> now;
    for (const auto& k : pass().kinds) now.push_back(k.kind);
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

int PassCard::count() const {
    int out = 0;
    for (const level::Prop& p : session_.level()->layer(layer_)->props()) out += p.pass == index_ + 1;
    return out;
}

QString PassCard::summary() const {
    const Pass& p = pass();
    QStringList out;
    if (p.muted) return tr("muted");
    const auto* grown = session_.planter().grown(layer_);
    const bool known = grown && static_cast<std::size_t>(index_) < grown->size();
    if (known && !(*grown)[static_cast<std::size_t>(index_)].says.empty())
        return translated((*grown)[static_cast<std::size_t>(index_)].says);
    if (p.clumps.size > 0) out << tr("in clumps");
    if (known && (*grown)[static_cast<std::size_t>(index_)].count > 1) {
        const auto& g = (*grown)[static_cast<std::size_t>(index_)];
        const double cell = session_.level()->cell.w;
        out << tr("%1 cells apart, %2 on the whole").arg(g.nearest / cell, 0, 'f', 1).arg(g.mean / cell, 0, 'f', 1);
        if (const int unit = session_.project().unit; unit != session_.level()->cell.w)
            out << tr("%1 units of the engine").arg(g.mean / unit, 0, 'f', 1);
        out << tr("covers %1 %").arg(g.covers * 100, 0, 'f', g.covers < 0.1 ? 1 : 0);
    }
    return out.join(tr(" · "));
}

void PassCard::refresh() {
    if (!session_.level() || !session_.level()->layer(layer_)) return;
    const QString name = QString::fromStdString(pass().name);
    title_->setText(name.isEmpty() ? tr("Pass") : name);
    count_->setText(QString::number(count()));
    const QString under = summary();
    under_->setText(under);
    under_->setVisible(!under.isEmpty());
    if (!inner_) return;
    showKinds();
    lines_.refresh();
    fields_.refresh();
    where_->refresh();
}

} // namespace vic::app
