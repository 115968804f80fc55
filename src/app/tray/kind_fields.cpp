#include "app/tray/kind_fields.hpp"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QIcon>
#include <QLabel>
#include <QLineEdit>
#include <QScrollArea>
#include <QSpinBox>
#include <QStringList>
#include <QTimer>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cstdint>

#include "app/parts/area_board.hpp"
#include "app/parts/foot_board.hpp"
#include "app/parts/glyphs.hpp"
#include "app/parts/note_rows.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/shape_board.hpp"
#include "app/parts/shape_sign.hpp"
#include "app/parts/tokens.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "edit/notes.hpp"
#include "edit/props.hpp"
#include "level/project.hpp"
#include "level/standing.hpp"
#include "sheet/png.hpp"

namespace vic::app {

namespace {

constexpr int kNames = 54; // pixels of the fields' names
constexpr int kNothing = -1, kAsDrawn = static_cast<int>(level::TileShape::drawn);

bool isOfProps(level::TileShape shape) { return shape != level::TileShape::none; }

// Once it has got its place.
void bringIntoView(QWidget* widget) {
    for (QWidget* at = widget->parentWidget(); at; at = at->parentWidget())
        if (auto* scroll = qobject_cast<QScrollArea*>(at)) return scroll->ensureWidgetVisible(widget, 0, 12);
}

} // namespace

KindFields::KindFields(Session& session, std::function<std::vector<level::PropKind>()> kinds, const QString& prefix,
                       QWidget* parent)
    : QWidget(parent), session_(session), kinds_(std::move(kinds)), prefix_(prefix) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    buildBlocking(column);
    buildStanding(column);
    buildVariants(column);
    buildWords(column);
    buildAreas(column);
}

level::PropKind KindFields::first() const {
    const auto all = kinds_();
    return all.empty() ? level::PropKind{} : all.front();
}

bool KindFields::ofAll(const std::function<bool(const level::PropKind&)>& what) const {
    const auto all = kinds_();
    return !all.empty() && std::all_of(all.begin(), all.end(), what);
}

void KindFields::change(const QString& name, const std::function<void(level::PropKind&)>& what, bool merges) {
    level::Project p = session_.project();
    std::string merge = "kind-" + name.toStdString();
    for (level::PropKind k : kinds_()) {
        what(k);
        merge += "-" + std::to_string(k.id);
        p.put(std::move(k));
    }
    level::fit_ensembles(p);
    session_.apply(name, std::move(p), merges ? merge : std::string());
}

void KindFields::buildBlocking(QVBoxLayout* column) {
    auto* shape = comboBox(this, id("Blocks"));
    describe(shape, tr("What blocks"), {}, tr("Of its foot, over which the shape is stretched"));
    addField(column, tr("Blocks"), shape, kNames);
    fields_.bindEnabled(shape, [this] { return ofAll([](const level::PropKind& k) { return !k.is_ensemble(); }); });
    fields_.bindChoice(
        shape,
        [this] {
            std::vector<Bindings::Choice> out{{tr("nothing"), kNothing},
                                              {tr("its foot"), static_cast<int>(level::TileShape::full)}};
            out.push_back({tr("as drawn in its foot"), kAsDrawn});
            for (int i = 0; i < level::kTileShapes; ++i) {
                const auto s = static_cast<level::TileShape>(i);
                if (isOfProps(s) && s != level::TileShape::full && s != level::TileShape::drawn)
                    out.push_back({shapeName(s), i, QIcon(shapeSign(s, tokensOf(this)))});
            }
            return out;
        },
        [this] { return QVariant(first().blocks ? static_cast<int>(first().shape) : kNothing); },
        [this](const QVariant& v) { setShape(v.toInt()); });
    // What is drawn is mended by hand, of one kind at a time.
    board_ = new ShapeBoard(this);
    board_->setObjectName(id("ShapeBoard"));
    column->addWidget(board_, 0, Qt::AlignHCenter);
    const auto wanted = [this] {
        const auto all = kinds_();
        return all.size() == 1 && all.front().blocks && all.front().shape == level::TileShape::drawn;
    };
    fields_.bindShown(board_, wanted);
    fields_.follow([this, wanted] {
        if (!wanted()) return;
        board_->setLattice(first().box.size());
        board_->show(art(), first().polygons);
    });
    connect(board_, &ShapeBoard::drawn, this, &KindFields::setOutline);
    connect(board_, &ShapeBoard::refused, this, [this](const Text& why) {
        fields_.refresh();
        emit session_.said(translated(why), true);
    });
}

void KindFields::setOutline(const level::Polygons& drawn) {
    const level::Polygons polygons = level::clockwise(drawn);
    change(tr("What a prop blocks"), [&](level::PropKind& k) {
        k.shape = polygons.empty() ? level::TileShape::full : level::TileShape::drawn;
        k.polygons = polygons;
    });
}

void KindFields::setShape(int what) {
    int left = 0;
    change(tr("What a prop blocks"), [&](level::PropKind& k) {
        if (k.is_ensemble()) return;
        k.blocks = what != kNothing;
        if (what == kNothing) return;
        const auto shape = static_cast<level::TileShape>(what);
        level::Polygons drawn;
        if (shape == level::TileShape::drawn) {
            drawn = edit::shape_in_foot(session_.project(), k);
        }
        const bool nothing = shape == level::TileShape::drawn && drawn.empty();
        left += nothing;
        k.shape = nothing ? level::TileShape::full : shape;
        k.polygons = std::move(drawn);
    });
    if (left > 0) emit session_.said(tr("Nothing is drawn in its foot: the whole foot blocks"), false);
}

void KindFields::buildStanding(QVBoxLayout* column) {
    auto* height = new QSpinBox(this);
    height->setObjectName(id("Height"));
    height->setRange(0, sheet::kMostSide);
    height->setSuffix(tr(" px"));
    height->setSpecialValueText(tr("not told"));
    describe(height, tr("Height"), {}, tr("How far it stands up above its foot's lower edge; the engine gets it"));
    addField(column, tr("Height"), height, kNames);
    fields_.bindInt(
        height, [this] { return first().height; },
        [this](int v) {
            change(
                tr("How high props are"), [v](level::PropKind& k) { k.height = v; }, true);
        });
    auto* both = new QWidget(this);
    auto* row = new QHBoxLayout(both);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(4);
    const auto scale = [&](const char* name, const QString& text, const QString& says, int level::PropKind::*which,
                           int least, int most) {
        auto* spin = new QSpinBox(both);
        spin->setObjectName(id(name));
        spin->setRange(least, most);
        spin->setSingleStep(25);
        spin->setPrefix(text);
        spin->setSuffix(tr(" %"));
        describe(spin, says, {}, tr("By how much it may be scaled where it is placed"));
        row->addWidget(spin);
        fields_.bindInt(
            spin, [this, which] { return first().*which; },
            [this, which](int v) {
                change(
                    tr("Scales of props"), [&](level::PropKind& k) { k.*which = v; }, true);
            });
    };
    scale("Least", {}, tr("The least scale"), &level::PropKind::least, level::kLeastScale, 100);
    scale("Most", {}, tr("The largest scale"), &level::PropKind::most, 100, level::kMostScale);
    addField(column, tr("Scales"), both, kNames);
    buildFoot(column);
    buildFrames(column);
    buildChecks(column);
}

bool KindFields::one() const {
    const auto all = kinds_();
    return all.size() == 1 && !all.front().is_ensemble();
}

QImage KindFields::art() const {
    const level::PropKind kind = first();
    const level::Sheet* sheet = session_.project().sheet(kind.sheet);
    return sheet && sheet->image ? toQImage(cropped(*sheet->image, kind.box)) : QImage();
}

// Proposed where it was cut; of one kind at a time it is drawn.
void KindFields::buildFoot(QVBoxLayout* column) {
    auto* row = new QWidget(this);
    auto* fields = new QHBoxLayout(row);
    fields->setContentsMargins(0, 0, 0, 0);
    fields->setSpacing(4);
    auto* size = label({}, "quiet", row);
    size->setObjectName(id("FootSize"));
    auto* draw = toolButton(row, id("FootDraw"), {}, tr("Draw"), {}, {});
    describe(draw, tr("Draw the foot"), {}, tr("The ground that it stands on, as a box on the picture"));
    draw->setCheckable(true);
    fields->addWidget(size, 1);
    fields->addWidget(draw);
    addField(column, tr("Foot"), row, kNames);
    foot_ = new FootBoard(this);
    foot_->setObjectName(id("FootBoard"));
    column->addWidget(foot_, 0, Qt::AlignHCenter);
    fields_.bindShown(foot_, [this, draw] { return one() && draw->isChecked(); });
    fields_.bindEnabled(draw, [this] { return one(); });
    fields_.follow([this, size] {
        const Box foot = first().foot;
        size->setText(first().is_ensemble() ? tr("follows from its parts")
                      : !one()              ? tr("each its own")
                      : foot.empty()        ? tr("none")
                                            : tr("%1 × %2 px").arg(foot.w).arg(foot.h));
        if (one()) foot_->show(art(), first().box.size(), foot, first().pivot);
    });
    connect(draw, &QToolButton::toggled, this, [this, draw](bool on) {
        draw->setText(on ? tr("Done") : tr("Draw"));
        fields_.refresh();
        if (on) QTimer::singleShot(0, foot_, [this] { bringIntoView(foot_); });
    });
    connect(foot_, &FootBoard::changed, this,
            [this](const Box& foot) { change(tr("Foot of a prop"), [&](level::PropKind& k) { k.foot = foot; }); });
}

void KindFields::buildFrames(QVBoxLayout* column) {
    auto* strip = new QWidget(this);
    auto* frames = new QHBoxLayout(strip);
    frames->setContentsMargins(0, 0, 0, 0);
    frames->setSpacing(4);
    const auto number = [&](const char* name, int least, int most, const QString& suffix, const QString& says,
                            const QString& help) {
        auto* spin = new QSpinBox(strip);
        spin->setObjectName(id(name));
        spin->setRange(least, most);
        spin->setSuffix(suffix);
        describe(spin, says, {}, help);
        frames->addWidget(spin);
        return spin;
    };
    QSpinBox* count = number("Frames", 1, level::kMostPropFrames, {}, tr("Frames"),
                             tr("Of an animated one: pictures of its size beside each other, its own the first on the "
                                "left"));
    QSpinBox* time = number("FrameMs", 10, 60'000, tr(" ms"), tr("How long a frame is shown"),
                            tr("All of them alike; they go round and round"));
    addField(column, tr("Frames"), strip, kNames);
    fields_.bindInt(
        count, [this] { return first().frames; },
        [this](int v) {
            change(
                tr("Frames of props"),
                [this, v](level::PropKind& k) {
                    const level::Sheet* sheet = session_.project().sheet(k.sheet);
                    k.frames = v;
                    if (sheet && sheet->image) k.frames = k.frames_in(sheet->image->size());
                },
                true);
        });
    fields_.bindInt(
        time, [this] { return first().frame_ms; },
        [this](int v) {
            change(
                tr("Time of frames"), [v](level::PropKind& k) { k.frame_ms = v; }, true);
        });
    fields_.bindEnabled(time, [this] { return first().frames > 1; });
}

void KindFields::buildChecks(QVBoxLayout* column) {
    auto* lit = new QCheckBox(tr("Light is painted in: never turned"), this);
    lit->setObjectName(id("Lit"));
    column->addWidget(lit);
    fields_.bindCheck(
        lit, [this] { return ofAll([](const level::PropKind& k) { return k.lit; }); },
        [this](bool on) { change(tr("Whether light is painted in"), [on](level::PropKind& k) { k.lit = on; }); });
    auto* flat = new QCheckBox(tr("Lies flat: all that stands is over it"), this);
    flat->setObjectName(id("Flat"));
    column->addWidget(flat);
    fields_.bindCheck(
        flat, [this] { return ofAll([](const level::PropKind& k) { return k.flat; }); },
        [this](bool on) { change(tr("Whether props lie flat"), [on](level::PropKind& k) { k.flat = on; }); });
    auto* stands = comboBox(this, id("Stands"));
    describe(stands, tr("How it stands"), {},
             tr("In three dimensions: turned to whoever looks, as it is laid, or that twice, crossed"));
    addField(column, tr("Stands"), stands, kNames);
    fields_.bindChoice(
        stands,
        [] {
            const std::pair<QString, level::Stands> all[] = {{KindFields::tr("facing the eye"), level::Stands::facing},
                                                             {KindFields::tr("fixed"), level::Stands::fixed},
                                                             {KindFields::tr("crossed"), level::Stands::crossed}};
            std::vector<Bindings::Choice> out;
            for (const auto& [name, value] : all) out.push_back({name, static_cast<int>(value)});
            return out;
        },
        [this] { return QVariant(static_cast<int>(first().stands)); },
        [this](const QVariant& v) {
            change(tr("How props stand"),
                   [how = static_cast<level::Stands>(v.toInt())](level::PropKind& k) { k.stands = how; });
        });
    fields_.bindEnabled(stands,
                        [this] { return !ofAll([](const level::PropKind& k) { return k.flat || k.body != 0; }); });
}

void KindFields::buildVariants(QVBoxLayout* column) {
    auto* of = comboBox(this, id("VariantOf"));
    describe(of, tr("A variant of"), {}, tr("When that is placed, this one stands there as often as its chance says"));
    addField(column, tr("Varies"), of, kNames);
    fields_.bindChoice(
        of,
        [this] {
            std::vector<Bindings::Choice> out{{tr("no other prop"), 0U}};
            for (const auto& k : session_.project().prop_kinds)
                if (k->id != first().id && k->variant_of == 0) out.push_back({QString::fromStdString(k->name), k->id});
            return out;
        },
        [this] { return QVariant(first().variant_of); },
        [this](const QVariant& v) {
            const auto head = static_cast<level::PropKindId>(v.toUInt());
            change(tr("Variants of props"), [head](level::PropKind& k) {
                if (k.id != head) k.variant_of = head;
            });
        });
    auto* chance = new QSpinBox(this);
    chance->setObjectName(id("Chance"));
    chance->setRange(0, 1000);
    describe(chance, tr("Chance"), {}, tr("How often it is chosen among the variants"));
    addField(column, tr("Chance"), chance, kNames);
    fields_.bindInt(
        chance, [this] { return first().chance; },
        [this](int v) {
            change(
                tr("Chance of props"), [v](level::PropKind& k) { k.chance = v; }, true);
        });
    fields_.bindEnabled(chance, [this] { return edit::variants_of(session_.project(), first().id).size() > 1; });
}

void KindFields::buildWords(QVBoxLayout* column) {
    auto* tags = new QLineEdit(this);
    tags->setObjectName(id("Tags"));
    tags->setPlaceholderText(tr("words, with commas"));
    addField(column, tr("Tags"), tags, kNames);
    fields_.bindText(
        tags, [this] { return QString::fromStdString(edit::tags_text(first().tags)); },
        [this](const QString& text) {
            change(tr("Tags of props"),
                   [words = edit::parse_tags(text.toStdString())](level::PropKind& k) { k.tags = words; });
        });
    notes_ = new NoteRows(
        [this](const QString& name, const std::function<void(level::Notes&)>& what) {
            change(name, [&](level::PropKind& k) { what(k.notes); });
        },
        {}, this);
    column->addWidget(notes_);
}

// Of one kind at a time: where one sits, what is hot.
void KindFields::buildAreas(QVBoxLayout* column) {
    auto* row = new QWidget(this);
    auto* fields = new QHBoxLayout(row);
    fields->setContentsMargins(0, 0, 0, 0);
    fields->setSpacing(4);
    auto* name = new QLineEdit(row);
    name->setObjectName(id("AreaName"));
    describe(name, tr("The area's name"), {}, tr("What the engine is told of the chosen part; it does not block"));
    auto* draw = toolButton(row, id("AreasDraw"), {}, tr("Draw"), {}, {});
    describe(draw, tr("Draw areas that tell"), {},
             tr("Parts that do not block and that the engine is told of, as boxes on the picture"));
    draw->setCheckable(true);
    fields->addWidget(name, 1);
    fields->addWidget(draw);
    addField(column, tr("Areas"), row, kNames);
    areas_ = new AreaBoard(this);
    areas_->setObjectName(id("AreaBoard"));
    column->addWidget(areas_, 0, Qt::AlignHCenter);
    fields_.bindShown(areas_, [this, draw] { return one() && draw->isChecked(); });
    fields_.bindEnabled(draw, [this] { return one(); });
    fields_.follow([this] {
        if (!one()) return;
        areas_->show(art(), first().box.size(), first().areas);
    });
    fields_.bindEnabled(name, [this] { return one() && areas_->chosen() >= 0; });
    fields_.bindText(
        name, [this] { return one() ? areaNames() : QString(); },
        [this](const QString& text) {
            const auto which = static_cast<std::size_t>(areas_->chosen());
            if (text.trimmed().isEmpty()) return fields_.refresh();
            change(tr("Name of an area"), [&](level::PropKind& k) {
                if (which < k.areas.size()) k.areas[which].name = text.trimmed().toStdString();
            });
        });
    connect(draw, &QToolButton::toggled, this, [this, draw](bool on) {
        areas_->choose(on && !first().areas.empty() ? 0 : -1);
        draw->setText(on ? tr("Done") : tr("Draw"));
        fields_.refresh();
        if (on) QTimer::singleShot(0, areas_, [this] { bringIntoView(areas_); });
    });
    connect(areas_, &AreaBoard::choiceChanged, this, [this] { fields_.refresh(); });
    connect(areas_, &AreaBoard::changed, this, [this](const std::vector<level::PropArea>& areas) {
        change(tr("Areas of props"), [&](level::PropKind& k) { k.areas = areas; });
    });
}

// Of the chosen one, or of all where none is.
QString KindFields::areaNames() const {
    const auto areas = first().areas;
    const auto which = static_cast<std::size_t>(areas_->chosen());
    if (areas_->chosen() >= 0 && which < areas.size()) return QString::fromStdString(areas[which].name);
    QStringList out;
    for (const level::PropArea& a : areas) out << QString::fromStdString(a.name);
    return out.join(", ");
}

void KindFields::refresh() {
    const auto all = kinds_();
    setVisible(!all.empty());
    if (all.empty()) return;
    fields_.refresh();
    std::vector<const level::Notes*> notes;
    for (const level::PropKind& k : all) notes.push_back(&k.notes);
    notes_->refresh(session_.project().note_kinds, notes);
}

} // namespace vic::app
