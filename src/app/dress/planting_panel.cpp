#include "app/dress/planting_panel.hpp"

#include <QClipboard>
#include <QColor>
#include <QComboBox>
#include <QFrame>
#include <QGridLayout>
#include <QGuiApplication>
#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QPixmap>
#include <QPointF>
#include <QPushButton>
#include <QScrollArea>
#include <QSize>
#include <QStringList>
#include <QToolButton>
#include <QVBoxLayout>
#include <QVariant>
#include <algorithm>
#include <cstdint>
#include <map>
#include <utility>

#include "app/dress/kept_list.hpp"
#include "app/dress/pass_card.hpp"
#include "app/dress/term_rows.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/thumbs.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "base/error.hpp"
#include "edit/plant.hpp"
#include "edit/recipe_text.hpp"
#include "level/project.hpp"

namespace vic::app {

PlantingPanel::PlantingPanel(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("plantingPanel");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(12, 10, 0, 10);
    column->setSpacing(8);
    buildHead(column);
    scroll_ = new QScrollArea(this);
    scroll_->setWidgetResizable(true);
    scroll_->setFrameShape(QFrame::NoFrame);
    scroll_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_ = new QWidget;
    auto* inner = new QVBoxLayout(list_);
    inner->setContentsMargins(0, 0, 12, 0);
    inner->setSpacing(8);
    auto* where = new QFrame(list_);
    where->setProperty("role", "card");
    where_ = new QVBoxLayout(where);
    where_->setContentsMargins(10, 8, 10, 8);
    where_->setSpacing(6);
    where_->addWidget(label(tr("Where"), "heading", where));
    inner->addWidget(where);
    cards_ = new QVBoxLayout;
    cards_->setSpacing(8);
    inner->addLayout(cards_);
    auto* more = comboBox(list_, "addPass");
    describe(more, tr("Add a pass"), {}, tr("Of a prop; more of them can come to it. From the large to the small"));
    fields_.bindChoice(
        more,
        [this] {
            std::vector<Bindings::Choice> out{{tr("+ pass of …"), 0U}};
            for (const auto& kind : session_.project().prop_kinds)
                out.push_back({QString::fromStdString(kind->name), kind->id, propThumb(session_.project(), *kind, 20)});
            return out;
        },
        [] { return QVariant(0U); },
        [this](const QVariant& v) {
            if (v.toUInt() != 0) addPass(v.toUInt());
        });
    inner->addWidget(more);
    inner->addStretch();
    scroll_->setWidget(list_);
    column->addWidget(scroll_, 1);
    buildFoot(column);
    connect(&session_.planter(), &Planter::changed, this, &PlantingPanel::refresh);
}

void PlantingPanel::buildHead(QVBoxLayout* column) {
    auto* row = new QHBoxLayout;
    row->setContentsMargins(0, 0, 8, 0);
    title_ = label({}, "heading", this);
    row->addWidget(title_);
    aside_ = label({}, "aside", this);
    aside_->setObjectName("plantingCount");
    row->addStretch();
    row->addWidget(aside_);
    auto* tray = toolButton(this, "plantingTray", {}, tr("Tray"), {}, "link");
    describe(tray, tr("The Tray"), {}, tr("To place single props by hand; a click on the planting's slab comes back"));
    connect(tray, &QToolButton::clicked, this, [this] {
        away_ = session_.activeLayerId();
        emit trayAsked();
    });
    row->addWidget(tray);
    column->addLayout(row);
}

void PlantingPanel::buildFoot(QVBoxLayout* column) {
    kinds_ = label({}, "quiet", this);
    kinds_->setObjectName("plantingKinds");
    kinds_->setWordWrap(true);
    kinds_->setContentsMargins(0, 0, 12, 0);
    column->addWidget(kinds_);
    lively_ = label({}, "quiet", this);
    lively_->setObjectName("plantingLively");
    lively_->setWordWrap(true);
    lively_->setContentsMargins(0, 0, 12, 0);
    auto* lively = new QHBoxLayout;
    lively->setContentsMargins(0, 0, 8, 0);
    lively->addWidget(label(tr("Lively"), "quiet", this));
    lively->addStretch();
    heat_ = toolButton(this, "plantingHeat", {}, tr("heat"), {}, "link");
    describe(heat_, tr("Repetition as heat"), "Shift+O", tr("Warm is what is seen again nearby"));
    connect(heat_, &QToolButton::clicked, this, &PlantingPanel::heatAsked);
    lively->addWidget(heat_);
    auto* afar = toolButton(this, "plantingAfar", {}, tr("from afar"), {}, "link");
    describe(afar, tr("From afar"), "Shift+Home", tr("As small as one sees it when it repeats; and back"));
    connect(afar, &QToolButton::clicked, this, &PlantingPanel::afarAsked);
    lively->addWidget(afar);
    column->addLayout(lively);
    column->addWidget(lively_);
    kept_ = new KeptList(session_, this);
    connect(kept_, &KeptList::placeAsked, this, &PlantingPanel::placeAsked);
    connect(kept_, &KeptList::placeLeft, this, &PlantingPanel::placeLeft);
    column->addWidget(kept_);
    auto* recipe = new QHBoxLayout;
    recipe->setContentsMargins(0, 0, 8, 0);
    recipe->addWidget(label(tr("Recipe"), "quiet", this));
    recipe->addStretch();
    const auto link = [&](const char* id, const QString& text, const QString& help, auto go) {
        auto* b = toolButton(this, id, {}, text, {}, "link");
        describe(b, text, {}, help);
        connect(b, &QToolButton::clicked, this, go);
        recipe->addWidget(b);
    };
    link("recipeCopy", tr("copy"), tr("As text, for other levels and projects: props and materials go by their names"),
         [this] {
             const auto& now = session_.planter().recipe(layer_);
             QGuiApplication::clipboard()->setText(
                 QString::fromStdString(edit::recipe_text(session_.project(), *session_.level(), now)));
             emit session_.said(tr("The recipe is copied"), false);
         });
    link("recipePaste", tr("paste"), tr("Grows here by a recipe that was copied"), [this] { pasteRecipe(); });
    column->addLayout(recipe);
    auto* row = new QHBoxLayout;
    row->setContentsMargins(0, 0, 12, 0);
    row->setSpacing(6);
    const auto button = [&](const char* id, const QString& text, const QString& help, auto go) {
        auto* b = new QPushButton(text, this);
        b->setObjectName(id);
        b->setStyleSheet("padding: 5px 4px;");
        describe(b, text, {}, help);
        connect(b, &QPushButton::clicked, this, go);
        row->addWidget(b, 1);
    };
    button("plantAgain", tr("Plant anew"), tr("On the level as it is now; what was done by hand stays"),
           [this] { session_.planter().again(layer_, tr("Plant anew")); });
    button("plantSeeds", tr("Seeds…"), tr("Six other ways to choose from"), [this] { showSeeds(); });
    button("plantFreeze", tr("Make props"), tr("They stay as they are, and the recipe goes"), [this] { makeProps(); });
    column->addLayout(row);
}

bool PlantingPanel::wanted() const {
    const level::Layer* l = session_.isOpen() && session_.level() ? session_.activeLayer() : nullptr;
    return l && l->planted() && session_.stage() == Stage::dress && away_ != l->id && session_.chosen().empty();
}

void PlantingPanel::showLayer() {
    if (std::exchange(layer_, session_.activeLayerId()) == layer_ && terms_) return;
    delete terms_;
    for (PassCard* card : std::exchange(passes_, {})) {
        card->hide();
        card->deleteLater();
    }
    open_ = -1;
    terms_ = new TermRows(
        session_, "area", 0, [this]() -> const TermRows::Terms& { return session_.planter().recipe(layer_).area; },
        [this](const std::function<void(TermRows::Terms&)>& what, const std::string& merge) {
            session_.planter().change(
                layer_, tr("Where it grows"), [&](level::Planting& p) { what(p.area); }, merge);
        },
        list_);
    where_->addWidget(terms_);
}

void PlantingPanel::showPasses() {
    const std::size_t count = session_.planter().recipe(layer_).passes.size();
    while (passes_.size() > count) {
        passes_.back()->hide();
        passes_.back()->deleteLater();
        passes_.pop_back();
    }
    while (passes_.size() < count) {
        auto* card = new PassCard(session_, layer_, static_cast<int>(passes_.size()), list_);
        card->setOpen(false);
        connect(card, &PassCard::picked, this, &PlantingPanel::open);
        cards_->addWidget(card);
        passes_.push_back(card);
    }
    for (PassCard* card : passes_) card->refresh();
}

void PlantingPanel::open(int pass) {
    open_ = open_ == pass ? -1 : pass;
    for (std::size_t i = 0; i < passes_.size(); ++i) {
        passes_[i]->setOpen(static_cast<int>(i) == open_);
        passes_[i]->refresh();
    }
}

void PlantingPanel::addPass(level::PropKindId of) {
    const level::PropKind* kind = session_.project().prop_kind(of);
    if (!kind) return;
    level::Pass pass;
    pass.kinds.push_back({of, 100});
    pass.name = kind->name;
    const int at = static_cast<int>(passes_.size());
    session_.planter().change(layer_, tr("Add a pass"), [&](level::Planting& p) {
        if (p.passes.size() < level::kMostPasses) p.passes.push_back(pass);
    });
    showPasses();
    if (static_cast<std::size_t>(at) < passes_.size()) open(at);
}

// Where they stand as seen from above, those with large feet as large dots.
QPixmap PlantingPanel::dots(const std::vector<level::Prop>& props) const {
    Box around;
    for (const level::Prop& p : props) around = united(around, {p.at.x, p.at.y, 1, 1});
    if (around.empty()) around = session_.level()->pixels();
    constexpr int kSide = 96;
    const double scale = double(kSide - 8) / std::max(around.w, around.h);
    QPixmap out(kSide, kSide);
    out.fill(QColor("#D9C9A0"));
    QPainter p(&out);
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(Qt::NoPen);
    const QPointF corner((kSide - around.w * scale) / 2, (kSide - around.h * scale) / 2);
    for (const level::Prop& prop : props) {
        const level::PropKind* kind = session_.project().prop_kind(prop.kind);
        const double r = std::max(1.0, (kind ? kind->drawn_foot().w : 4) * scale / 2);
        p.setBrush(QColor::fromHsv(80 + static_cast<int>(prop.kind * 37 % 90), 150, 110));
        p.drawEllipse(corner + QPointF(prop.at.x - around.x, prop.at.y - around.y) * scale, r, r);
    }
    return out;
}

// Six beside each other: as it is, and five others.
void PlantingPanel::showSeeds() {
    auto* card = new QFrame(this, Qt::Popup);
    card->setObjectName("seedCard");
    card->setAttribute(Qt::WA_DeleteOnClose);
    card->setProperty("role", "card");
    auto* grid = new QGridLayout(card);
    grid->setContentsMargins(8, 8, 8, 8);
    grid->setSpacing(6);
    const level::Planting recipe = session_.planter().recipe(layer_);
    for (std::uint32_t i = 0; i < 6; ++i) {
        level::Planting other = recipe;
        other.seed = recipe.seed + i;
        const plant::Grown grown = plant::grow(session_.project(), *session_.level(), layer_, other);
        auto* b = toolButton(card, QString("seed-%1").arg(i), {}, {}, {}, "card");
        b->setToolButtonStyle(Qt::ToolButtonTextUnderIcon);
        b->setIcon(dots(grown.props));
        b->setIconSize(QSize(96, 96));
        b->setText(i == 0 ? tr("as it is · %1").arg(grown.props.size())
                          : tr("seed %1 · %2").arg(other.seed).arg(grown.props.size()));
        b->setCheckable(true);
        b->setChecked(i == 0);
        grid->addWidget(b, static_cast<int>(i / 3), static_cast<int>(i % 3));
        connect(b, &QToolButton::clicked, this, [this, card, seed = other.seed] {
            card->close();
            session_.planter().change(layer_, tr("Another seed"), [seed](level::Planting& p) { p.seed = seed; });
        });
    }
    const auto* button = findChild<QPushButton*>("plantSeeds");
    const QSize size = card->sizeHint();
    card->move(button->mapToGlobal(QPoint(button->width() - size.width(), -size.height() - 4)));
    card->show();
}

// Where it grows stays painted as it is here.
void PlantingPanel::pasteRecipe() {
    try {
        const level::Planting pasted =
            edit::recipe_of(session_.project(), *session_.level(), QGuiApplication::clipboard()->text().toStdString());
        session_.planter().change(layer_, tr("Paste a recipe"), [&](level::Planting& p) {
            p.area = pasted.area;
            p.passes = pasted.passes;
            p.seed = pasted.seed;
        });
    } catch (const InputError& e) {
        emit session_.said(translated(e), true);
    }
}

void PlantingPanel::makeProps() {
    level::Project p = session_.project();
    p.put(edit::frozen(*session_.level(), layer_));
    session_.applyGrown(tr("Make props of a planting"), std::move(p));
}

// How many of each kind, and what their pictures take of memory.
QString PlantingPanel::kindsText() const {
    std::map<level::PropKindId, int> counts;
    for (const level::Prop& p : session_.level()->layer(layer_)->props()) ++counts[p.kind];
    std::vector<std::pair<int, QString>> all;
    std::int64_t bytes = 0;
    for (const auto& [id, count] : counts) {
        const level::PropKind* kind = session_.project().prop_kind(id);
        if (!kind) continue;
        all.emplace_back(count, tr("%1 %2").arg(QString::fromStdString(kind->name)).arg(count));
        bytes += kind->box.size().area() * 4 * kind->frames;
    }
    if (all.empty()) return {};
    // The most of them first; all when the pointer rests on it.
    std::stable_sort(all.begin(), all.end(), [](const auto& a, const auto& b) { return a.first > b.first; });
    QStringList out, every;
    constexpr qsizetype kShown = 4;
    for (const auto& [count, text] : all) {
        every << text;
        if (out.size() < kShown) out << text;
    }
    kinds_->setToolTip(every.join("\n"));
    if (every.size() > kShown) out << tr("%n more kinds", nullptr, static_cast<int>(every.size() - kShown));
    return tr("%1 · pictures %2 KiB").arg(out.join(tr(", "))).arg(static_cast<double>(bytes) / 1024, 0, 'f', 1);
}

QString PlantingPanel::livelyText() const {
    const level::Level& level = *session_.level();
    const int at = level.index_of(layer_);
    if (level.layer(layer_)->props().size() < 2) return {};
    const plant::Lively& lively = session_.derived().lively(level, level.layers[static_cast<std::size_t>(at)]);
    const QString same = lively.alike > 0 ? tr("alike from %1 cells on").arg(lively.alike / level.cell.w, 0, 'f', 1)
                                          : tr("no two alike nearby");
    const QString spread = lively.evenness < 0.8   ? tr("in heaps")
                           : lively.evenness > 1.3 ? tr("even")
                                                   : tr("as by chance");
    return tr("%1 · %2 (%3) · %4\u00a0% covered")
        .arg(same, spread)
        .arg(lively.evenness, 0, 'f', 2)
        .arg(lively.covered * 100, 0, 'f', 0);
}

void PlantingPanel::refresh() {
    const level::Layer* l = session_.isOpen() && session_.level() ? session_.activeLayer() : nullptr;
    if (l && l->id != away_) away_ = 0;
    if (!l || !l->planted() || !wanted()) return;
    showLayer();
    title_->setText(QString::fromStdString(l->name));
    aside_->setText(tr("planting · %n props", nullptr, static_cast<int>(l->props().size())));
    terms_->refresh();
    fields_.refresh();
    showPasses();
    const QString lively = livelyText(), kinds = kindsText();
    kinds_->setText(kinds);
    kinds_->setVisible(!kinds.isEmpty());
    lively_->setText(lively);
    lively_->setVisible(!lively.isEmpty());
    heat_->setVisible(!lively.isEmpty());
    kept_->show(layer_);
}

} // namespace vic::app
