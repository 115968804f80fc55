#include "app/section/behind_card.hpp"

#include <QCheckBox>
#include <QColor>
#include <QColorDialog>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QHBoxLayout>
#include <QIcon>
#include <QPixmap>
#include <QSlider>
#include <QSpinBox>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>
#include <utility>
#include <vector>

#include "app/parts/panel.hpp"
#include "app/session/session.hpp"
#include "level/project.hpp"
#include "level/sheet.hpp"

namespace vic::app {

namespace {

constexpr int kNames = 54; // pixels of a field's name, as in the drawers of layers

QColor opaque(Rgba c) { return {c.r, c.g, c.b}; }

} // namespace

BehindCard::BehindCard(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("behindAll");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(12, 6, 12, 0);
    column->setSpacing(6);
    head_ = toolButton(this, "behindHead", {}, {}, {}, "link");
    describe(head_, tr("Behind all"), {}, tr("The background's colour, and a picture to build after"));
    head_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed); // as wide as the panel, whatever it says
    head_->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    connect(head_, &QToolButton::clicked, this, [this] {
        unfolded_ = !unfolded_;
        refresh();
    });
    column->addWidget(head_);
    inner_ = new QWidget(this);
    auto* fields = new QVBoxLayout(inner_);
    fields->setContentsMargins(2, 0, 0, 0);
    fields->setSpacing(7);
    buildGround(fields);
    buildReference(fields);
    buildPlace(fields);
    column->addWidget(inner_);
    refresh();
}

void BehindCard::change(const QString& name, const What& what, const std::string& merge) {
    if (!session_.level()) return;
    level::Level next = *session_.level();
    what(next);
    session_.applyLevel(name, std::move(next), merge);
}

void BehindCard::changeReference(const std::function<void(level::Reference&)>& what, const std::string& merge) {
    if (!reference()) return;
    change(
        tr("The picture to build after"), [&](level::Level& l) { what(*l.reference); }, merge);
}

const level::Reference* BehindCard::reference() const {
    const level::Level* l = session_.level();
    return l && l->reference ? &*l->reference : nullptr;
}

void BehindCard::buildGround(QVBoxLayout* column) {
    colour_ = toolButton(inner_, "levelGround", {}, {}, {}, "card");
    colour_->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    describe(colour_, tr("Background"), {}, tr("The colour where no layer has anything; the engine gets it"));
    addField(column, tr("Colour"), colour_, kNames);
    connect(colour_, &QToolButton::clicked, this, &BehindCard::chooseColour);
    auto* none = new QCheckBox(tr("None: see-through"), inner_);
    none->setObjectName("levelNoGround");
    describe(none, tr("None"), {}, tr("Where no layer has anything the engine draws what it likes"));
    column->addWidget(none);
    fields_.bindCheck(
        none, [this] { return session_.level() && session_.level()->ground.a == 0; },
        [this](bool on) { change(tr("Background"), [on](level::Level& l) { l.ground.a = on ? 0 : 255; }); });
}

void BehindCard::chooseColour() {
    if (!session_.level()) return;
    const QColor c = QColorDialog::getColor(opaque(session_.level()->ground), this, tr("Background"));
    if (!c.isValid()) return;
    change(tr("Background"), [&](level::Level& l) {
        l.ground = {static_cast<std::uint8_t>(c.red()), static_cast<std::uint8_t>(c.green()),
                    static_cast<std::uint8_t>(c.blue()), 255};
    });
}

void BehindCard::buildReference(QVBoxLayout* column) {
    auto* which = new QComboBox(inner_);
    which->setObjectName("referenceSheet");
    describe(which, tr("Picture to build after"), {},
             tr("One of the project's pictures, seen here under or over the level and never built"));
    addField(column, tr("Picture"), which, kNames);
    fields_.bindChoice(
        which,
        [this] {
            std::vector<Bindings::Choice> out{{tr("none"), 0U}};
            for (const auto& s : session_.project().sheets)
                if (s->image) out.push_back({QString::fromStdString(s->name), s->id});
            return out;
        },
        [this] { return QVariant(reference() ? reference()->sheet : 0U); },
        [this](const QVariant& v) {
            change(tr("The picture to build after"), [id = v.toUInt()](level::Level& l) {
                if (id == 0)
                    l.reference.reset();
                else if (l.reference)
                    l.reference->sheet = id;
                else
                    l.reference.emplace().sheet = id;
            });
        });
    auto* opacity = new QSlider(Qt::Horizontal, inner_);
    opacity->setObjectName("referenceOpacity");
    opacity->setRange(0, 100);
    auto* whole = new QWidget(inner_);
    auto* row = new QVBoxLayout(whole);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(7);
    addField(row, tr("Opacity"), opacity, kNames);
    fields_.bindInt(
        opacity, [this] { return reference() ? reference()->opacity : 0; },
        [this](int v) { changeReference([v](level::Reference& r) { r.opacity = v; }, "reference-opacity"); });
    auto* over = new QCheckBox(tr("Over all layers"), whole);
    over->setObjectName("referenceOver");
    row->addWidget(over);
    fields_.bindCheck(
        over, [this] { return reference() && reference()->over; },
        [this](bool on) { changeReference([on](level::Reference& r) { r.over = on; }, {}); });
    auto* shown = new QCheckBox(tr("Shown"), whole);
    shown->setObjectName("referenceShown");
    row->addWidget(shown);
    fields_.bindCheck(
        shown, [this] { return reference() && reference()->shown; },
        [this](bool on) { changeReference([on](level::Reference& r) { r.shown = on; }, {}); });
    column->addWidget(whole);
    fields_.bindShown(whole, [this] { return reference() != nullptr; });
}

void BehindCard::buildPlace(QVBoxLayout* column) {
    auto* whole = new QWidget(inner_);
    auto* rows = new QVBoxLayout(whole);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setSpacing(7);
    auto* size = new QSpinBox(whole);
    size->setObjectName("referenceScale");
    size->setRange(1, level::kMostReferenceScale);
    size->setSuffix(tr(" %"));
    addField(rows, tr("Size"), size, kNames);
    fields_.bindInt(
        size, [this] { return reference() ? reference()->scale : 100; },
        [this](int v) { changeReference([v](level::Reference& r) { r.scale = v; }, "reference-scale"); });
    // A length that one knows: so many pixels of the picture are a cell.
    auto* cell = new QSpinBox(whole);
    cell->setObjectName("referenceCell");
    cell->setRange(1, 4096);
    cell->setSuffix(tr(" px"));
    describe(cell, tr("A cell"), {}, tr("So many pixels of the picture are as long as a cell of the level"));
    addField(rows, tr("A cell is"), cell, kNames);
    fields_.bindInt(
        cell,
        [this] {
            return reference()
                       ? std::max(1, (session_.level()->cell.w * 100 + reference()->scale / 2) / reference()->scale)
                       : 1;
        },
        [this](int v) {
            const int side = session_.level()->cell.w;
            changeReference(
                [&](level::Reference& r) {
                    r.scale = std::clamp((side * 100 + v / 2) / v, 1, level::kMostReferenceScale);
                },
                "reference-scale");
        });
    // Or a length in the level that one knows.
    auto* known = new QDoubleSpinBox(whole);
    known->setObjectName("referenceMeasured");
    known->setRange(0.01, level::kMostCells);
    known->setSuffix(tr(" cells"));
    describe(
        known, tr("What was measured"), {},
        tr("Drag with the measuring tool along something whose length you know, and say here how many cells it is"));
    addField(rows, tr("Measured"), known, kNames);
    fields_.bindNumber(
        known, [this] { return session_.measured() ? measuredLength() / session_.level()->cell.w : 0.0; },
        [this](double cells) { scaleTo(cells); });
    fields_.bindEnabled(known, [this] { return reference() && measuredLength() >= 1; });
    auto* both = new QWidget(whole);
    auto* inner = new QHBoxLayout(both);
    inner->setContentsMargins(0, 0, 0, 0);
    inner->setSpacing(4);
    for (const bool across : {true, false}) {
        auto* at = new QSpinBox(both);
        at->setObjectName(across ? "referenceX" : "referenceY");
        at->setRange(-(1 << 20), 1 << 20);
        inner->addWidget(at);
        fields_.bindInt(
            at, [this, across] { return !reference() ? 0
                                        : across     ? reference()->at.x
                                                     : reference()->at.y; },
            [this, across](int v) {
                changeReference([&](level::Reference& r) { (across ? r.at.x : r.at.y) = v; },
                                across ? "reference-x" : "reference-y");
            });
    }
    addField(rows, tr("At"), both, kNames);
    column->addWidget(whole);
    fields_.bindShown(whole, [this] { return reference() != nullptr; });
}

double BehindCard::measuredLength() const {
    if (!session_.measured()) return 0;
    const auto [a, b] = *session_.measured();
    return std::hypot(b.x - a.x, b.y - a.y);
}

// The line that was measured comes to be as many cells long; its beginning stays where it lies on the picture.
void BehindCard::scaleTo(double cells) {
    if (!reference() || measuredLength() < 1) return;
    const auto [a, b] = *session_.measured();
    const level::Reference old = *reference();
    const double wanted = old.scale * cells * session_.level()->cell.w / measuredLength();
    const int scale = std::clamp(static_cast<int>(std::lround(wanted)), 1, level::kMostReferenceScale);
    const double by = double(scale) / old.scale;
    const auto from_a = [&, a = a](Point p) {
        return Point{a.x + static_cast<int>(std::lround((p.x - a.x) * by)),
                     a.y + static_cast<int>(std::lround((p.y - a.y) * by))};
    };
    const Point end = from_a(b);
    changeReference(
        [&](level::Reference& r) {
            r.scale = scale;
            r.at = from_a(old.at);
        },
        "reference-measured");
    session_.setMeasured(std::pair(a, end));
}

QString BehindCard::words() const {
    const level::Level& l = *session_.level();
    const QString ground = l.ground.a == 0 ? tr("none") : opaque(l.ground).name();
    return reference() ? tr("%1 · a picture").arg(ground) : ground;
}

void BehindCard::refresh() {
    const level::Level* l = session_.isOpen() ? session_.level() : nullptr;
    setVisible(l != nullptr);
    if (!l) return;
    QPixmap swatch(14, 14);
    swatch.fill(l->ground.a == 0 ? QColor(Qt::transparent) : opaque(l->ground));
    head_->setIcon(swatch);
    head_->setText((unfolded_ ? tr("▾ Behind all: %1") : tr("▸ Behind all: %1")).arg(words()));
    colour_->setIcon(swatch);
    colour_->setText(opaque(l->ground).name());
    colour_->setEnabled(l->ground.a != 0);
    inner_->setVisible(unfolded_);
    if (unfolded_) fields_.refresh();
}

} // namespace vic::app
