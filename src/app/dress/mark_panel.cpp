#include "app/dress/mark_panel.hpp"

#include <QColorDialog>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPixmap>
#include <QSpinBox>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cstdint>

#include "app/dress/note_head.hpp"
#include "app/parts/glyphs.hpp"
#include "app/parts/note_rows.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/thumbs.hpp"
#include "app/session/session.hpp"
#include "edit/levels.hpp"
#include "level/project.hpp"

namespace vic::app {

namespace {

constexpr int kMarkNames = 54; // pixels of a field's name

} // namespace

MarkPanel::MarkPanel(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("markPanel");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(12, 0, 12, 12);
    column->setSpacing(8);
    addHeading(column, tr("Mark"));
    buildWhat(column);
    buildCells(column);
    buildNotes(column);
}

void MarkPanel::change(const QString& name, const std::function<void(level::Mark&)>& what, const std::string& merge) {
    const level::Mark* mark = session_.mark();
    if (!mark) return;
    session_.applyLevel(name, edit::change_mark(*session_.level(), mark->id, what),
                        merge.empty() ? merge : merge + std::to_string(mark->id));
}

void MarkPanel::buildWhat(QVBoxLayout* column) {
    auto* name = new QLineEdit(this);
    name->setObjectName("markName");
    addField(column, tr("Name"), name, kMarkNames);
    fields_.bindText(
        name, [this] { return session_.mark() ? QString::fromStdString(session_.mark()->name) : QString(); },
        [this](const QString& text) {
            if (!text.isEmpty()) change(tr("Rename a mark"), [&](level::Mark& m) { m.name = text.toStdString(); });
        });
    auto* kind = new QComboBox(this);
    kind->setObjectName("markKind");
    describe(kind, tr("What it is"), {}, tr("A level has one start; reaching an exit wins it"));
    addField(column, tr("Is"), kind, kMarkNames);
    fields_.bindChoice(
        kind,
        [] {
            return std::vector<Bindings::Choice>{{tr("the start"), 0}, {tr("an exit"), 1}, {tr("a mark"), 2}};
        },
        [this] { return QVariant(session_.mark() ? static_cast<int>(session_.mark()->kind) : 2); },
        [this](const QVariant& v) {
            change(tr("What a mark is"), [k = static_cast<level::MarkKind>(v.toInt())](level::Mark& m) { m.kind = k; });
        });
    auto* figure = comboBox(this, "markFigure");
    describe(figure, tr("Its figure"), {},
             tr("An actor: seen by the picture of a prop, true to size; the start's is what the walker looks like"));
    addField(column, tr("Figure"), figure, kMarkNames);
    fields_.bindChoice(
        figure,
        [this] {
            std::vector<Bindings::Choice> out{{tr("none"), 0U}};
            for (const auto& k : session_.project().prop_kinds)
                if (!k->is_ensemble())
                    out.push_back({QString::fromStdString(k->name), k->id, propThumb(session_.project(), *k, 20)});
            return out;
        },
        [this] { return QVariant(session_.mark() ? session_.mark()->figure : 0U); },
        [this](const QVariant& v) {
            change(tr("Figure of a mark"),
                   [id = static_cast<level::PropKindId>(v.toUInt())](level::Mark& m) { m.figure = id; });
        });
    auto* high = new QWidget(this);
    auto* inner = new QVBoxLayout(high);
    inner->setContentsMargins(0, 0, 0, 0);
    auto* storey = new QSpinBox(high);
    storey->setObjectName("markStorey");
    storey->setRange(0, level::kMostStorey);
    storey->setToolTip(tr("On which storey it lies, in a level of a kit's pieces; 0 the lowest"));
    addField(inner, tr("Storey"), storey, kMarkNames);
    fields_.bindInt(
        storey, [this] { return session_.mark() ? session_.mark()->storey : 0; },
        [this](int v) { change(tr("Storey of a mark"), [v](level::Mark& m) { m.storey = v; }); });
    fields_.bindShown(high, [this] {
        const auto& sheets = session_.project().sheets;
        return std::any_of(sheets.begin(), sheets.end(), [](const auto& s) { return s->kit.has_value(); });
    });
    column->addWidget(high);
    auto* both = new QWidget(this);
    auto* row = new QHBoxLayout(both);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(4);
    colour_ = toolButton(both, "markColour", {}, {}, {}, "card");
    colour_->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    describe(colour_, tr("Colour"), {}, tr("How it is seen here; the engine gets it too"));
    connect(colour_, &QToolButton::clicked, this, &MarkPanel::chooseColour);
    row->addWidget(colour_, 1);
    auto* usual = toolButton(both, "markUsualColour", {}, tr("usual"), {}, "link");
    describe(usual, tr("The usual colour"), {}, tr("That of starts and exits, or of marks"));
    connect(usual, &QToolButton::clicked, this,
            [this] { change(tr("Colour of a mark"), [](level::Mark& m) { m.colour.reset(); }); });
    row->addWidget(usual);
    addField(column, tr("Colour"), both, kMarkNames);
    fields_.bindShown(usual, [this] { return session_.mark() && session_.mark()->colour; });
}

void MarkPanel::chooseColour() {
    const level::Mark* mark = session_.mark();
    if (!mark) return;
    const Rgba now = mark->colour.value_or(Rgba{201, 130, 43, 255});
    const QColor c = QColorDialog::getColor(QColor(now.r, now.g, now.b), this, tr("Colour of the mark"));
    if (!c.isValid()) return;
    const auto part = [](int v) { return static_cast<std::uint8_t>(v); };
    change(tr("Colour of a mark"), [&](level::Mark& m) {
        m.colour = Rgba{part(c.red()), part(c.green()), part(c.blue()), 255};
    });
}

// Where it lies and how large it is, in cells.
void MarkPanel::buildCells(QVBoxLayout* column) {
    struct Field {
        const char* id;
        int Box::*part;
        int least;
    };
    const auto pair = [&](const QString& name, const Field& first, const Field& second) {
        auto* both = new QWidget(this);
        auto* row = new QHBoxLayout(both);
        row->setContentsMargins(0, 0, 0, 0);
        row->setSpacing(4);
        for (const Field& f : {first, second}) {
            auto* field = new QSpinBox(both);
            field->setObjectName(f.id);
            field->setRange(f.least, level::kMostCells);
            row->addWidget(field);
            fields_.bindInt(
                field, [this, f] { return session_.mark() ? session_.mark()->cells.*f.part : f.least; },
                [this, f](int v) {
                    change(
                        tr("Cells of a mark"), [&](level::Mark& m) { m.cells.*f.part = v; }, f.id);
                });
        }
        addField(column, name, both, kMarkNames);
    };
    pair(tr("At"), {"markX", &Box::x, 0}, {"markY", &Box::y, 0});
    pair(tr("Cells"), {"markWidth", &Box::w, 1}, {"markHeight", &Box::h, 1});
}

void MarkPanel::buildNotes(QVBoxLayout* column) {
    addNoteHead(column, this, session_, "addMarkNote");
    notes_ = new NoteRows(
        [this](const QString& name, const std::function<void(level::Notes&)>& what) {
            change(name, [&](level::Mark& m) { what(m.notes); });
        },
        {}, this);
    column->addWidget(notes_);
}

void MarkPanel::refresh() {
    if (!session_.isOpen()) return;
    const level::Mark* mark = session_.mark();
    setVisible(mark && session_.stage() == Stage::dress);
    if (!mark) return;
    fields_.refresh();
    QPixmap swatch(14, 14);
    swatch.fill(mark->colour ? QColor(mark->colour->r, mark->colour->g, mark->colour->b) : QColor(Qt::transparent));
    colour_->setIcon(swatch);
    colour_->setText(mark->colour ? QColor(mark->colour->r, mark->colour->g, mark->colour->b).name() : tr("usual"));
    notes_->refresh(session_.project().note_kinds, {&mark->notes});
}

} // namespace vic::app
