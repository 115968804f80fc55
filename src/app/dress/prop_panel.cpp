#include "app/dress/prop_panel.hpp"

#include <QAction>
#include <QColorDialog>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPixmap>
#include <QSlider>
#include <QSpinBox>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>
#include <cstdint>
#include <set>
#include <utility>

#include "app/commands/dress_commands.hpp"
#include "app/dress/note_head.hpp"
#include "app/parts/note_rows.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/thumbs.hpp"
#include "app/parts/tokens.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "app/tray/kind_fields.hpp"
#include "base/text.hpp"
#include "edit/dress.hpp"
#include "edit/levels.hpp"
#include "edit/replace.hpp"
#include "level/level.hpp"
#include "level/project.hpp"
#include "level/standing.hpp"

namespace vic::app {

namespace {

constexpr int kNames = 54;   // pixels of the fields' names
constexpr int kPicture = 52; // pixels

QSlider* slider(QWidget* parent, const char* id, int least, int most) {
    auto* s = new QSlider(Qt::Horizontal, parent);
    s->setObjectName(id);
    s->setRange(least, most);
    s->setPageStep(10);
    return s;
}

} // namespace

PropPanel::PropPanel(Session& session, DressCommands& commands, QWidget* parent)
    : QWidget(parent), session_(session), commands_(commands) {
    setObjectName("propPanel");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(12, 0, 12, 12);
    column->setSpacing(8);
    buildHead(column);
    buildStance(column);
    buildColours(column);
    buildOrder(column);
    buildDepth(column);
    buildArrange(column);
    buildWords(column);
    buildKind(column);
}

bool PropPanel::held() const { return session_.hand().is<edit::held::Prop>(); }

std::vector<level::Prop> PropPanel::props() const {
    std::vector<level::Prop> out;
    if (!session_.level()) return out;
    if (held()) {
        const auto& hand = *session_.hand().as<edit::held::Prop>();
        return {{0, hand.kind, {}, hand.look}};
    }
    const level::Level level = session_.dressed();
    for (const level::Prop* p : edit::props_of(level, session_.chosen())) out.push_back(*p);
    return out;
}

std::vector<level::PropKind> PropPanel::kinds() const {
    std::vector<level::PropKind> out;
    std::set<level::PropKindId> seen;
    for (const level::Prop& p : props())
        if (seen.insert(p.kind).second)
            if (const level::PropKind* kind = session_.project().prop_kind(p.kind)) out.push_back(*kind);
    return out;
}

level::Look PropPanel::look() const {
    const auto all = props();
    return all.empty() ? level::Look{} : all.front().look;
}

void PropPanel::buildHead(QVBoxLayout* column) {
    auto* head = new QHBoxLayout;
    head->addWidget(label(tr("Prop"), "heading"));
    head->addStretch();
    auto* reset = toolButton(this, "propReset", {}, tr("as drawn"), {}, "link");
    describe(reset, tr("As drawn"), "X", tr("Takes back turn, scale, mirror and colours"));
    connect(reset, &QToolButton::clicked, this, [this] { commands_.reset(); });
    head->addWidget(reset);
    column->addLayout(head);
    const PictureHead picture = addPictureHead(column, this, kPicture);
    picture_ = picture.picture;
    title_ = picture.title;
    under_ = picture.under;
    title_->setObjectName("propTitle");
    fields_.bindShown(reset, [this] {
        const auto all = props();
        return std::any_of(all.begin(), all.end(), [](const level::Prop& p) { return p.look != level::Look{}; });
    });
}

// How it is turned and scaled, and whether it is mirrored, in one line.
void PropPanel::buildStance(QVBoxLayout* column) {
    auto* all = new QWidget(this);
    auto* row = new QHBoxLayout(all);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(4);
    auto* turn = new QDoubleSpinBox(all);
    turn->setObjectName("propTurn");
    turn->setRange(0, 359.9);
    turn->setDecimals(1);
    turn->setSingleStep(15);
    turn->setWrapping(true);
    turn->setSuffix(tr("°"));
    turn->setButtonSymbols(QAbstractSpinBox::NoButtons);
    describe(turn, tr("Turn"), tr(", and ."), tr("Clockwise; by 15° with the keys, by 1° with Alt and them"));
    row->addWidget(turn, 1);
    auto* scale = new QSpinBox(all);
    scale->setObjectName("propScale");
    scale->setRange(level::kLeastScale, level::kMostScale);
    scale->setSingleStep(100);
    scale->setSuffix(tr(" %"));
    scale->setButtonSymbols(QAbstractSpinBox::NoButtons);
    describe(scale, tr("Scale"), tr("Ctrl++"), tr("Of its picture; whole numbers keep pixels crisp"));
    row->addWidget(scale, 1);
    mirror_ = toolButton(all, "propMirror", "mirror", {}, {}, "toggle");
    mirror_->setCheckable(true);
    describe(mirror_, tr("Mirrored"), "/", tr("Left and right change places"));
    row->addWidget(mirror_);
    addField(column, tr("Stands"), all, kNames);
    fields_.bindNumber(
        turn, [this] { return look().turn / 10.0; },
        [this](double v) {
            commands_.changeLook(
                tr("Turn props"),
                [v](level::Look& l) { l.turn = level::turned_by(static_cast<int>(std::lround(v * 10)), 0); }, "turn");
        });
    fields_.bindEnabled(turn, [this] {
        const auto of = kinds();
        return std::any_of(of.begin(), of.end(), [](const level::PropKind& k) { return !k.lit; });
    });
    fields_.bindInt(
        scale, [this] { return int{look().scale}; },
        [this](int v) {
            commands_.changeLook(
                tr("Scale props"), [v](level::Look& l) { l.scale = static_cast<std::int16_t>(v); }, "scale");
        });
    connect(mirror_, &QToolButton::clicked, this, [this] { commands_.mirror(); });
    fields_.follow([this] { mirror_->setChecked(look().mirrored); });
}

void PropPanel::buildColours(QVBoxLayout* column) {
    auto* both = new QWidget(this);
    auto* row = new QHBoxLayout(both);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(8);
    tint_ = toolButton(both, "propTint", {}, {}, {}, "card");
    describe(tint_, tr("Tint"), {}, tr("Every colour of the picture is multiplied with it"));
    connect(tint_, &QToolButton::clicked, this, &PropPanel::chooseTint);
    row->addWidget(tint_);
    QSlider* light = slider(both, "propLight", -100, 100);
    describe(light, tr("Darker or lighter"), {}, tr("Towards black on the left, towards white on the right"));
    row->addWidget(light, 1);
    addField(column, tr("Colour"), both, kNames);
    fields_.bindInt(
        light, [this] { return int{look().light}; },
        [this](int v) {
            commands_.changeLook(
                tr("Lightness of props"), [v](level::Look& l) { l.light = static_cast<std::int8_t>(v); }, "light");
        });
    QSlider* opacity = slider(this, "propOpacity", 0, 100);
    describe(opacity, tr("Opacity"), {}, tr("How much of it is seen"));
    addField(column, tr("Opacity"), opacity, kNames);
    fields_.bindInt(
        opacity, [this] { return int{look().opacity}; },
        [this](int v) {
            commands_.changeLook(
                tr("Opacity of props"), [v](level::Look& l) { l.opacity = static_cast<std::uint8_t>(v); }, "opacity");
        });
}

void PropPanel::chooseTint() {
    const Rgba now = look().tint;
    const QColor c = QColorDialog::getColor(QColor(now.r, now.g, now.b), this, tr("Tint"));
    if (!c.isValid()) return;
    const auto part = [](int v) { return static_cast<std::uint8_t>(v); };
    commands_.changeLook(tr("Tint props"), [&](level::Look& l) {
        l.tint = {part(c.red()), part(c.green()), part(c.blue()), 255};
    });
}

// In front or behind by hand, where the feet say otherwise.
void PropPanel::buildOrder(QVBoxLayout* column) {
    auto* all = new QWidget(this);
    auto* row = new QHBoxLayout(all);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(4);
    auto* ahead = new QSpinBox(all);
    ahead->setObjectName("propAhead");
    ahead->setRange(-level::kMostAhead, level::kMostAhead);
    ahead->setSuffix(tr(" px"));
    ahead->setButtonSymbols(QAbstractSpinBox::NoButtons);
    ahead->setFixedWidth(64);
    describe(ahead, tr("Ahead"), {},
             tr("What stands further down is drawn in front; it counts as standing so much lower, below 0 higher"));
    row->addWidget(ahead);
    const auto button = [&](const char* id, const QString& text, const QString& key, const QString& help,
                            edit::Order how) {
        auto* b = toolButton(all, id, {}, text, {}, "card");
        b->setToolButtonStyle(Qt::ToolButtonTextOnly);
        describe(b, text, key, help);
        b->setStyleSheet("padding: 5px 2px;");
        b->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
        connect(b, &QToolButton::clicked, this, [this, how] { commands_.order(how); });
        row->addWidget(b, 1);
        return b;
    };
    auto* front = button("propFront", tr("In front"), "Ctrl+Up", tr("Of all that its picture meets on its layer"),
                         edit::Order::in_front);
    auto* behind = button("propBehind", tr("Behind"), "Ctrl+Down", tr("All that its picture meets on its layer"),
                          edit::Order::behind);
    addField(column, tr("Order"), all, kNames);
    fields_.bindEnabled(front, [this] { return !held(); });
    fields_.bindEnabled(behind, [this] { return !held(); });
    fields_.bindInt(
        ahead, [this] { return int{look().ahead}; },
        [this](int v) {
            commands_.changeLook(
                tr("Order of props"), [v](level::Look& l) { l.ahead = static_cast<std::int16_t>(v); }, "ahead");
        });
}

// In three dimensions: how high it stands, and to whom a picture turns.
void PropPanel::buildDepth(QVBoxLayout* column) {
    const auto part = [this, column](QVBoxLayout*& inner) {
        auto* box = new QWidget(this);
        inner = new QVBoxLayout(box);
        inner->setContentsMargins(0, 0, 0, 0);
        column->addWidget(box);
        return box;
    };
    QVBoxLayout *lifted = nullptr, *facing = nullptr;
    QWidget *const upPart = part(lifted), *const facesPart = part(facing);
    auto* up = new QDoubleSpinBox(this);
    up->setObjectName("propUp");
    up->setRange(-level::kMostUp / 64.0, level::kMostUp / 64.0);
    up->setDecimals(2);
    up->setSingleStep(0.25);
    up->setSuffix(tr(" cells"));
    describe(up, tr("Lifted"), {}, tr("In three dimensions: above the floor of its storey, or below it"));
    addField(lifted, tr("Lifted"), up, kNames);
    fields_.bindNumber(
        up,
        [this] {
            const auto all = props();
            return all.empty() ? 0.0 : all.front().of_its_own().up / 64.0;
        },
        [this](double v) {
            changeOwn(tr("Lift props"), [v](level::PropOwn& own) { own.up = static_cast<int>(std::lround(v * 64)); });
        });
    auto* faces = comboBox(this, "propFaces");
    describe(faces, tr("Faces"), {},
             tr("In three dimensions: this one turned to whoever looks, as it is laid, or crossed"));
    addField(facing, tr("Faces"), faces, kNames);
    fields_.bindChoice(
        faces,
        [] {
            return std::vector<Bindings::Choice>{{tr("as its kind"), -1},
                                                 {tr("the eye"), static_cast<int>(level::Stands::facing)},
                                                 {tr("as it is laid"), static_cast<int>(level::Stands::fixed)},
                                                 {tr("that, crossed"), static_cast<int>(level::Stands::crossed)}};
        },
        [this] {
            const auto all = props();
            const auto own = all.empty() ? std::nullopt : all.front().of_its_own().stands;
            return QVariant(own ? static_cast<int>(*own) : -1);
        },
        [this](const QVariant& v) {
            const int how = v.toInt();
            changeOwn(tr("How props stand"), [how](level::PropOwn& own) {
                own.stands = how < 0 ? std::nullopt : std::optional(static_cast<level::Stands>(how));
            });
        });
    const auto in_depth = [this] {
        const auto& sheets = session_.project().sheets;
        return !held() && std::any_of(sheets.begin(), sheets.end(), [](const auto& s) { return s->kit.has_value(); });
    };
    fields_.bindShown(upPart, in_depth);
    fields_.bindShown(facesPart, [this, in_depth] {
        const auto of = kinds();
        return in_depth() &&
               std::any_of(of.begin(), of.end(), [](const level::PropKind& k) { return k.body == 0 && !k.flat; });
    });
}

void PropPanel::buildArrange(QVBoxLayout* column) {
    arrange_ = new QWidget(this);
    auto* row = new QHBoxLayout(arrange_);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(4);
    auto* align = toolButton(arrange_, "propArrange", {}, tr("Arrange"), {}, "card");
    align->setToolButtonStyle(Qt::ToolButtonTextOnly);
    describe(align, tr("Arrange"), {}, tr("What is chosen, in line or evenly"));
    auto* menu = new QMenu(align);
    menu->setObjectName("arrangeMenu");
    const std::pair<QString, edit::Align> sides[] = {
        {tr("Left sides in line"), edit::Align::left},       {tr("Middles in line, upright"), edit::Align::middle},
        {tr("Right sides in line"), edit::Align::right},     {tr("Tops in line"), edit::Align::top},
        {tr("Middles in line, level"), edit::Align::centre}, {tr("Feet in line"), edit::Align::bottom}};
    for (const auto& [name, how] : sides)
        connect(menu->addAction(name), &QAction::triggered, this, [this, h = how] { commands_.align(h); });
    menu->addSeparator();
    connect(menu->addAction(tr("Even gaps from left to right")), &QAction::triggered, this,
            [this] { commands_.distribute(false); });
    connect(menu->addAction(tr("Even gaps from top to bottom")), &QAction::triggered, this,
            [this] { commands_.distribute(true); });
    connect(align, &QToolButton::clicked, menu,
            [align, menu] { menu->popup(align->mapToGlobal(QPoint(0, align->height()))); });
    align->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    row->addWidget(align, 1);
    const auto button = [&](const char* id, const QString& text, const QString& key, const QString& help,
                            const std::function<void()>& go) {
        auto* b = toolButton(arrange_, id, {}, text, {}, "card");
        b->setToolButtonStyle(Qt::ToolButtonTextOnly);
        describe(b, text, key, help);
        b->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
        connect(b, &QToolButton::clicked, this, go);
        row->addWidget(b, 1);
        return b;
    };
    auto* group = button("propGroup", tr("Group"), "Ctrl+G", tr("Those of a group are chosen together"), [this] {
        const auto all = props();
        const bool one =
            !all.empty() && all.front().group != 0 &&
            std::all_of(all.begin(), all.end(), [&](const level::Prop& p) { return p.group == all.front().group; });
        commands_.group(!one);
    });
    fields_.follow([this, group] {
        const auto all = props();
        const bool one =
            !all.empty() && all.front().group != 0 &&
            std::all_of(all.begin(), all.end(), [&](const level::Prop& p) { return p.group == all.front().group; });
        group->setText(one ? tr("Ungroup") : tr("Group"));
    });
    column->addWidget(arrange_);
}

void PropPanel::changeOwn(const QString& name, const std::function<void(level::PropOwn&)>& what) {
    if (!session_.level() || held()) return;
    session_.applyDressed(
        name, edit::change_props(session_.project(), session_.dressed(), session_.chosen(), [&](level::Prop& p) {
            level::PropOwn own = p.of_its_own();
            what(own);
            p.set_own(std::move(own));
        }));
}

void PropPanel::buildWords(QVBoxLayout* column) {
    words_ = new QWidget(this);
    auto* inner = new QVBoxLayout(words_);
    inner->setContentsMargins(0, 0, 0, 0);
    inner->setSpacing(8);
    auto* name = new QLineEdit(words_);
    name->setObjectName("propOwnName");
    name->setPlaceholderText(tr("as its kind"));
    describe(name, tr("Its own name"), {}, tr("The engine gets it; several may have the same"));
    addField(inner, tr("Name"), name, kNames);
    fields_.bindText(
        name,
        [this] {
            const auto all = props();
            return all.empty() ? QString() : QString::fromStdString(all.front().of_its_own().name);
        },
        [this](const QString& text) {
            changeOwn(tr("Name a prop"), [t = text.toStdString()](level::PropOwn& own) { own.name = t; });
        });
    addNoteHead(inner, words_, session_, "addPropNote");
    notes_ = new NoteRows(
        [this](const QString& step, const std::function<void(level::Notes&)>& what) {
            changeOwn(step, [&](level::PropOwn& own) { what(own.notes); });
        },
        {}, words_);
    inner->addWidget(notes_);
    column->addWidget(words_);
}

void PropPanel::buildKind(QVBoxLayout* column) {
    more_ = toolButton(this, "propKindMore", {}, {}, {}, "link");
    more_->setCheckable(true);
    describe(more_, tr("The kind"), {}, tr("What holds for all props of this kind, in all levels"));
    column->addWidget(more_, 0, Qt::AlignLeft);
    auto* inside = new QWidget(this);
    auto* inner = new QVBoxLayout(inside);
    inner->setContentsMargins(0, 0, 0, 0);
    inner->setSpacing(8);
    auto* name = new QLineEdit(inside);
    name->setObjectName("propName");
    addField(inner, tr("Name"), name, kNames);
    fields_.bindEnabled(name, [this] { return kinds().size() == 1; });
    fields_.bindText(
        name, [this] { return kinds().size() == 1 ? QString::fromStdString(kinds().front().name) : QString(); },
        [this](const QString& typed) {
            const auto all = kinds();
            const std::string text = typed.toStdString();
            if (all.size() != 1 || text.empty()) return;
            level::Project p = session_.project();
            if (const Text taken = edit::name_taken_by_prop(p, text, all.front().id); !taken.empty())
                return emit session_.said(translated(taken), true);
            level::PropKind changed = all.front();
            changed.name = text;
            p.put(std::move(changed));
            session_.apply(tr("Rename a prop"), std::move(p));
        });
    kind_ = new KindFields(
        session_, [this] { return kinds(); }, "prop", inside);
    inner->addWidget(kind_);
    column->addWidget(inside);
    inside->hide();
    connect(more_, &QToolButton::toggled, this, [this, inside](bool on) {
        inside->setVisible(on);
        refresh();
        if (on) emit moreShown(inside);
    });
    fields_.follow([this] {
        const auto all = kinds();
        more_->setText(all.size() == 1 ? tr("The kind: %1").arg(QString::fromStdString(all.front().name))
                                       : tr("The %1 kinds").arg(all.size()));
    });
}

void PropPanel::refresh() {
    if (!session_.isOpen()) return;
    const auto all = props();
    setVisible(!all.empty() && session_.stage() == Stage::dress);
    if (isHidden()) return;
    const auto of = kinds();
    if (of.empty()) return hide();
    fields_.refresh();
    const level::PropKind& k = of.front();
    picture_->setPixmap(propThumb(session_.project(), k, kPicture, all.front().look));
    const std::string& own = all.front().of_its_own().name;
    title_->setText(all.size() > 1 ? tr("%1 props").arg(all.size())
                                   : QString::fromStdString(own.empty() ? k.name : own));
    under_->setText(of.size() > 1 ? tr("of %1 kinds").arg(of.size())
                    : k.is_ensemble()
                        ? tr("ensemble of %1 · Enter opens").arg(k.parts.size())
                        : tr("%1 × %2 px · foot %3 × %4").arg(k.box.w).arg(k.box.h).arg(k.foot.w).arg(k.foot.h));
    const Rgba tint = all.front().look.tint;
    QPixmap swatch(16, 16);
    swatch.fill(QColor(tint.r, tint.g, tint.b));
    tint_->setIcon(swatch);
    mirror_->setIcon(icon("mirror", mirror_->isChecked() ? tokensOf(this).panel : tokensOf(this).ink));
    arrange_->setVisible(!held() && all.size() > 1);
    words_->setVisible(!held());
    std::vector<const level::Notes*> notes;
    for (const level::Prop& p : all) notes.push_back(&p.of_its_own().notes);
    notes_->refresh(session_.project().note_kinds, notes);
    if (more_->isChecked()) kind_->refresh();
}

} // namespace vic::app
