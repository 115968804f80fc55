#include "app/dress/term_rows.hpp"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLayoutItem>
#include <QSizePolicy>
#include <QSpinBox>
#include <QStringList>
#include <QToolButton>
#include <QVBoxLayout>
#include <QVariant>
#include <optional>

#include "app/parts/panel.hpp"
#include "app/session/session.hpp"
#include "level/project.hpp"

namespace vic::app {

namespace {

using level::AreaOf;
using level::AreaTerm;

constexpr int kAny = -level::kMostPlantApart - 1; // of a distance that nobody gave

// What a term is of, as one word; of those with an id that, too.
QString codeOf(const AreaTerm& t) {
    const auto kind = static_cast<int>(t.of);
    const unsigned id = t.of == AreaOf::material  ? t.material
                        : t.of == AreaOf::layer   ? t.layer
                        : t.of == AreaOf::tile    ? t.tile
                        : t.of == AreaOf::props   ? t.kind
                        : t.of == AreaOf::picture ? t.sheet
                        : t.of == AreaOf::pass    ? static_cast<unsigned>(t.pass)
                                                  : 0U;
    return QString("%1:%2").arg(kind).arg(id);
}

void setCode(AreaTerm& t, const QString& code) {
    const QStringList parts = code.split(':');
    const unsigned id = parts.value(1).toUInt();
    t.of = static_cast<AreaOf>(parts.value(0).toInt());
    t.material = t.of == AreaOf::material ? static_cast<level::MaterialId>(id) : level::MaterialId{0};
    t.layer = t.of == AreaOf::layer ? id : t.of == AreaOf::material || t.of == AreaOf::tile ? t.layer : 0;
    t.kind = t.of == AreaOf::props ? id : 0;
    t.sheet = t.of == AreaOf::picture ? id : 0;
    t.pass = t.of == AreaOf::pass ? static_cast<int>(id) : 0;
}

bool reachesOut(AreaOf of) { return of != AreaOf::everywhere && of != AreaOf::picture; }

} // namespace

TermRows::TermRows(Session& session, const QString& prefix, int passes, Get get, Change change, QWidget* parent)
    : QWidget(parent),
      session_(session),
      prefix_(prefix),
      passes_(passes),
      get_(std::move(get)),
      change_(std::move(change)),
      rows_(new QVBoxLayout) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    rows_->setSpacing(6);
    column->addLayout(rows_);
    auto* more = comboBox(this, prefix_ + "Add");
    describe(more, tr("Add a place"), {}, tr("On what it grows, near to what, or clear of what"));
    column->addWidget(more);
    fields_.bindChoice(
        more, [this] { return choices(true); }, [] { return QVariant(QString()); },
        [this](const QVariant& v) {
            if (v.toString().isEmpty()) return;
            change_(
                [&](Terms& terms) {
                    AreaTerm t;
                    setCode(t, v.toString());
                    if (t.of == AreaOf::marks || t.of == AreaOf::props || t.of == AreaOf::pass || t.of == AreaOf::frame)
                        t.to = 32;
                    terms.push_back(t);
                },
                {});
        });
}

std::vector<Bindings::Choice> TermRows::choices(bool adds) const {
    std::vector<Bindings::Choice> out;
    const auto add = [&](const QString& text, AreaOf of, unsigned id = 0) {
        out.push_back({text, QString("%1:%2").arg(static_cast<int>(of)).arg(id)});
    };
    if (adds) out.push_back({get_().empty() ? tr("everywhere; or …") : tr("and …"), QString()});
    add(tr("where it is painted"), AreaOf::painted);
    for (const auto& m : session_.project().materials) add(QString::fromStdString(m->name), AreaOf::material, m->id);
    if (const level::Level* level = session_.level())
        for (auto l = level->layers.rbegin(); l != level->layers.rend(); ++l)
            if ((*l)->tiles()) add(tr("layer %1").arg(QString::fromStdString((*l)->name)), AreaOf::layer, (*l)->id);
    for (int i = 0; i < passes_; ++i) add(tr("pass %1").arg(i + 1), AreaOf::pass, static_cast<unsigned>(i));
    add(tr("marks"), AreaOf::marks);
    add(tr("placed props"), AreaOf::props);
    for (const auto& k : session_.project().prop_kinds)
        add(tr("prop %1").arg(QString::fromStdString(k->name)), AreaOf::props, k->id);
    add(tr("tops of what blocks"), AreaOf::tops);
    add(tr("undersides of it"), AreaOf::undersides);
    add(tr("the frame's middle"), AreaOf::frame);
    for (const auto& s : session_.project().sheets)
        if (s->image) add(tr("picture %1").arg(QString::fromStdString(s->name)), AreaOf::picture, s->id);
    return out;
}

QWidget* TermRows::row(std::size_t index) {
    auto* whole = new QWidget(this);
    auto* column = new QVBoxLayout(whole);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    auto* line = new QHBoxLayout;
    line->setSpacing(4);
    const QString id = QString("%1-%2").arg(prefix_).arg(index);
    auto* join = comboBox(whole, id + "-join");
    join->setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed);
    join->setFixedWidth(62);
    line->addWidget(join);
    const auto term = [this, index]() -> AreaTerm { return index < get_().size() ? get_()[index] : AreaTerm{}; };
    const auto change = [this, index](const std::function<void(AreaTerm&)>& what, const std::string& merge = {}) {
        change_(
            [&](Terms& terms) {
                if (index < terms.size()) what(terms[index]);
            },
            merge);
    };
    lines_.bindChoice(
        join,
        [index] {
            return std::vector<Bindings::Choice>{{index == 0 ? tr("on") : tr("and"), 0}, {tr("or"), 1}, {tr("not"), 2}};
        },
        [term] { return QVariant(static_cast<int>(term().join)); },
        [change](const QVariant& v) {
            change([&](AreaTerm& t) { t.join = static_cast<level::AreaJoin>(v.toInt()); });
        });
    auto* what = comboBox(whole, id + "-of");
    line->addWidget(what, 1);
    lines_.bindChoice(
        what, [this] { return choices(false); }, [term] { return QVariant(codeOf(term())); },
        [change](const QVariant& v) { change([&](AreaTerm& t) { setCode(t, v.toString()); }); });
    auto* out = toolButton(whole, id + "-out", "remove", {}, {}, "link");
    out->setFixedWidth(26);
    describe(out, tr("Take out"), {}, tr("The area follows from this no longer"));
    connect(out, &QToolButton::clicked, this, [this, index] {
        change_(
            [&](Terms& terms) {
                if (index < terms.size()) terms.erase(terms.begin() + static_cast<std::ptrdiff_t>(index));
            },
            {});
    });
    line->addWidget(out);
    column->addLayout(line);
    if (reachesOut(term().of)) column->addWidget(reaches(index, whole));
    return whole;
}

// From how far inside of it to how far outside, and over how much it fades.
QWidget* TermRows::reaches(std::size_t index, QWidget* parent) {
    auto* whole = new QWidget(parent);
    auto* line = new QHBoxLayout(whole);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(4);
    const QString id = QString("%1-%2").arg(prefix_).arg(index);
    const auto term = [this, index]() -> AreaTerm { return index < get_().size() ? get_()[index] : AreaTerm{}; };
    const auto field = [&](const char* name, const QString& title, const QString& help, int least,
                           const std::function<int()>& get, const std::function<void(AreaTerm&, int)>& set) {
        line->addWidget(label(title, "quiet", whole));
        auto* box = new QSpinBox(whole);
        box->setObjectName(id + name);
        box->setRange(least, level::kMostPlantApart);
        if (least == kAny) box->setSpecialValueText(tr("any"));
        box->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
        box->setMinimumWidth(36);
        describe(box, title, {}, help);
        line->addWidget(box, 1);
        lines_.bindInt(box, get, [this, index, set, merge = (prefix_ + name).toStdString()](int v) {
            change_(
                [&](Terms& terms) {
                    if (index < terms.size()) set(terms[index], v);
                },
                merge);
        });
    };
    const auto told = [](int v) { return v == kAny ? std::optional<int>() : std::optional(v); };
    field(
        "-from", tr("from"), tr("Pixels from its rim, below 0 within it; any: however deep within"), kAny,
        [term] { return term().from.value_or(kAny); }, [told](AreaTerm& t, int v) { t.from = told(v); });
    field(
        "-to", tr("to"), tr("Pixels from its rim, below 0 within it; any: however far"), kAny,
        [term] { return term().to.value_or(kAny); }, [told](AreaTerm& t, int v) { t.to = told(v); });
    field(
        "-fade", tr("fades"), tr("Pixels over which it becomes less beyond that"), 0, [term] { return term().falloff; },
        [](AreaTerm& t, int v) { t.falloff = v; });
    return whole;
}

void TermRows::rebuild() {
    std::vector<AreaOf> now;
    for (const AreaTerm& t : get_()) now.push_back(t.of);
    if (now == shown_) return;
    shown_ = std::move(now);
    lines_ = {};
    while (QLayoutItem* item = rows_->takeAt(0)) {
        item->widget()->hide();
        item->widget()->deleteLater();
        delete item;
    }
    for (std::size_t i = 0; i < shown_.size(); ++i) rows_->addWidget(row(i));
}

void TermRows::refresh() {
    rebuild();
    lines_.refresh();
    fields_.refresh();
}

} // namespace vic::app
