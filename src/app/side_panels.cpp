#include "app/side_panels.hpp"

#include <cmath>

#include "app/panel.hpp"
#include "app/spoken.hpp"
#include "app/tokens.hpp"
#include "base/error.hpp"
#include "edit/levels.hpp"
#include "edit/replace.hpp"
#include "parcel/build.hpp"

namespace vic::app {

PropPanel::PropPanel(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(12, 0, 12, 12);
    column->setSpacing(8);
    addHeading(column, tr("Prop"));
    name_ = new QLineEdit(this);
    name_->setObjectName("propName");
    addField(column, tr("Name"), name_, 54);
    blocks_ = new QCheckBox(tr("Its foot blocks the walker"), this);
    blocks_->setObjectName("propBlocks");
    column->addWidget(blocks_);
    foot_ = label({}, "quiet", this);
    column->addWidget(foot_);
    connect(name_, &QLineEdit::editingFinished, this, [this] {
        const level::PropKind* k = kind();
        const std::string text = name_->text().trimmed().toStdString();
        if (!k || text.empty() || text == k->name) return;
        level::Project p = session_.project();
        if (const Text taken = edit::name_taken_by_prop(p, text, k->id); !taken.empty()) {
            emit session_.said(spoken(taken), true);
            return follow();
        }
        level::PropKind changed = *k;
        changed.name = text;
        p.put(std::move(changed));
        session_.apply(tr("Rename a prop"), std::move(p));
    });
    connect(blocks_, &QCheckBox::clicked, this, [this](bool on) {
        const level::PropKind* k = kind();
        if (!k) return;
        level::Project p = session_.project();
        level::PropKind changed = *k;
        changed.blocks = on;
        p.put(std::move(changed));
        session_.apply(tr("Whether a prop blocks"), std::move(p));
    });
}

const level::PropKind* PropPanel::kind() const {
    if (session_.hand().kind == edit::Hand::Kind::prop) return session_.project().prop_kind(session_.hand().prop);
    if (const level::Level* level = session_.level())
        for (const level::LayerRef& layer : level->layers)
            for (const level::Prop& prop : layer->props)
                if (prop.id == session_.prop()) return session_.project().prop_kind(prop.kind);
    return nullptr;
}

void PropPanel::follow() {
    if (!session_.isOpen()) return;
    const level::PropKind* k = kind();
    setVisible(k && session_.stage() == Stage::dress);
    if (!k) return;
    if (!name_->hasFocus()) name_->setText(QString::fromStdString(k->name));
    blocks_->setChecked(k->blocks);
    foot_->setText(tr("%1 × %2 px · foot %3 × %4 px").arg(k->box.w).arg(k->box.h).arg(k->foot.w).arg(k->foot.h));
}

BoundPanel::BoundPanel(Session& session, LevelView& view, QWidget* parent)
    : QWidget(parent), session_(session), view_(view) {
    auto* column = panelColumn(this);
    addHeading(column, tr("Merged"), &aside_);
    aside_->setText(tr("live"));
    column->addSpacing(2);
    shapes_ = addFigure(column, tr("tile shapes in"), "shapesIn");
    outlines_ = addFigure(column, tr("outlines"), "outlinesOut");
    corners_ = addFigure(column, tr("corners"), "cornersOut");
    oneWay_ = addFigure(column, tr("one-way edges"), "oneWayOut");
    hint_ = label({}, "quiet", this);
    hint_->setWordWrap(true);
    column->addWidget(hint_);
    column->addStretch();
    connect(&view_, &LevelView::shownChanged, this, [this] {
        if (isVisible()) follow();
    });
}

void BoundPanel::follow() {
    if (!session_.isOpen() || !session_.level()) return;
    const level::Level& level = view_.stroking() ? view_.shown() : *session_.level();
    const outline::Trace& trace = session_.trace(level);
    const QLocale locale;
    shapes_->setText(locale.toString(trace.shape_count()));
    const int outlines = session_.outlineCount(level);
    outlines_->setText(outlines < 0 ? tr("many") : locale.toString(outlines));
    corners_->setText(locale.toString(trace.corner_count()));
    oneWay_->setText(locale.toString(static_cast<int>(outline::one_way_edges(trace).size())));
    bool solid = false;
    for (const level::LayerRef& l : level.layers) solid = solid || (l->kind == level::LayerKind::tiles && l->solid);
    hint_->setText(
        !solid ? tr("No layer blocks yet. Open a tile layer in the Section and tick “Its tiles block the walker”.")
        : trace.shape_count() == 0 ? tr("The layers that block have no tiles with a shape. Give tiles a shape in Cut.")
                                   : tr("What blocks is hatched under its outline. Tiles get their shape in Cut, "
                                        "layers block or not in the Section. One can paint here as in Lay."));
}

WalkCentre::WalkCentre(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    view_ = new player::ParcelView(this);
    column->addWidget(view_);
    connect(view_, &player::ParcelView::ended, this, [this](bool exit) {
        session_.setTried(exit ? Session::Tried::exit : Session::Tried::fell);
        emit session_.said(exit ? tr("The exit is reached") : tr("The walker fell out of the level and starts again"),
                           !exit);
    });
    connect(view_, &player::ParcelView::ticked, this, &WalkCentre::readingChanged);
    connect(&session_, &Session::changed, this, [this] {
        // Changed while one walks (undo, the walker's size): built anew, the walker stays where it is.
        if (active_ && session_.level() != built_.get()) enter();
    });
}

void WalkCentre::enter() {
    if (!session_.isOpen() || !session_.level()) return;
    const bool again = active_ && view_->isLoaded();
    active_ = true;
    for (const auto& l : session_.project().levels)
        if (l.get() == session_.level()) built_ = l;
    try {
        if (!dir_) dir_ = std::make_unique<QTemporaryDir>();
        const fs::path to = fs::path(dir_->path().toStdString()) / session_.level()->id;
        parcel::build(session_.project(), *session_.level(), to);
        view_->load(QString::fromStdString(to.string()), again);
        view_->setRunning(true);
        view_->setFocus();
        if (!again && session_.tried() == Session::Tried::no) session_.setTried(Session::Tried::walked);
    } catch (const std::exception& e) {
        view_->unload();
        emit session_.said(spoken(e), true);
    }
    emit readingChanged();
}

void WalkCentre::leave() {
    active_ = false;
    view_->setRunning(false);
}

QString WalkCentre::reading() const {
    if (!view_->isLoaded()) return tr("The level could not be built");
    return view_->level().from_the_side
               ? tr("<b>Arrows</b> walk · <b>Space</b> jumps · Down drops through one-way edges · R starts again · O "
                    "outlines · Esc returns")
               : tr("<b>Arrows</b> walk in eight directions · R starts again · O outlines · Esc returns");
}

WalkPanel::WalkPanel(Session& session, WalkCentre& centre, QWidget* parent)
    : QWidget(parent), session_(session), centre_(centre) {
    auto* column = panelColumn(this);
    QLabel* aside = nullptr;
    addHeading(column, tr("Walker"), &aside);
    aside->setText(tr("of this level"));
    view_ = new QComboBox(this);
    view_->setObjectName("levelViewKind");
    view_->addItem(tr("from above"));
    view_->addItem(tr("from the side"));
    addField(column, tr("Seen"), view_);
    const auto number = [&](const char* id, const QString& name, double least, double most, const QString& unit) {
        auto* box = new QDoubleSpinBox(this);
        box->setObjectName(id);
        box->setRange(least, most);
        box->setDecimals(2);
        box->setSingleStep(0.1);
        box->setSuffix(unit);
        box->setKeyboardTracking(false);
        addField(column, name, box);
        connect(box, &QDoubleSpinBox::valueChanged, this, &WalkPanel::change);
        return box;
    };
    width_ = number("walkerWidth", tr("Width"), 0.1, 16, tr(" cells"));
    height_ = number("walkerHeight", tr("Height"), 0.1, 16, tr(" cells"));
    speed_ = number("walkerSpeed", tr("Speed"), 0.5, 40, tr(" cells/s"));
    jump_ = number("walkerJump", tr("Jump"), 0, 20, tr(" cells"));
    connect(view_, &QComboBox::activated, this, &WalkPanel::change);
    addHeading(column, tr("Frame"));
    const auto pixels = [&](const char* id, const QString& name) {
        auto* box = new QSpinBox(this);
        box->setObjectName(id);
        box->setRange(16, 8192);
        box->setSuffix(tr(" px"));
        box->setKeyboardTracking(false);
        addField(column, name, box);
        connect(box, &QSpinBox::valueChanged, this, &WalkPanel::change);
        return box;
    };
    frameWidth_ = pixels("frameWidth", tr("Width"));
    frameHeight_ = pixels("frameHeight", tr("Height"));
    column->addWidget(rule(this));
    addHeading(column, tr("This try"));
    place_ = label({}, "quiet", this);
    place_->setObjectName("walkerPlace");
    state_ = label({}, "quiet", this);
    touched_ = label({}, "quiet", this);
    touched_->setObjectName("touchedMarks");
    touched_->setWordWrap(true);
    for (auto* l : {place_, state_, touched_}) column->addWidget(l);
    auto* again = new QPushButton(tr("Start again"), this);
    again->setObjectName("walkAgain");
    describe(again, tr("Start again"), "R", tr("Puts the walker back to the start"));
    connect(again, &QPushButton::clicked, this, [this] {
        centre_.view()->restart();
        centre_.view()->setFocus();
    });
    column->addWidget(again);
    column->addStretch();
    connect(centre_.view(), &player::ParcelView::ticked, this, &WalkPanel::tick);
}

void WalkPanel::change() {
    if (!session_.isOpen() || !session_.level()) return;
    level::Level next = *session_.level();
    next.view = view_->currentIndex() == 1 ? level::View::from_the_side : level::View::from_above;
    next.walker = {static_cast<int>(std::lround(width_->value() * 64)),
                   static_cast<int>(std::lround(height_->value() * 64)), speed_->value(), jump_->value()};
    next.frame = {frameWidth_->value(), frameHeight_->value()};
    const level::Level& now = *session_.level();
    if (next.view == now.view && next.walker == now.walker && next.frame == now.frame) return;
    session_.applyLevel(tr("The walker and its frame"), std::move(next), "walker");
}

void WalkPanel::follow() {
    if (!session_.isOpen() || !session_.level()) return;
    const level::Level& level = *session_.level();
    const auto set = [](auto* box, auto value) {
        const QSignalBlocker quiet(box);
        box->setValue(value);
    };
    view_->setCurrentIndex(level.view == level::View::from_the_side ? 1 : 0);
    set(width_, level.walker.width / 64.0);
    set(height_, level.walker.height / 64.0);
    set(speed_, level.walker.speed);
    set(jump_, level.walker.jump);
    jump_->setEnabled(level.view == level::View::from_the_side);
    set(frameWidth_, level.frame.w);
    set(frameHeight_, level.frame.h);
}

void WalkPanel::tick() {
    const auto* view = centre_.view();
    if (!view->isLoaded() || !isVisible()) return;
    const auto foot = view->world().foot();
    place_->setText(tr("foot at %1, %2").arg(foot.x, 0, 'f', 2).arg(foot.y, 0, 'f', 2));
    state_->setText(view->level().from_the_side ? (view->world().grounded() ? tr("on the ground") : tr("in the air"))
                                                : tr("%1 s").arg(view->world().ticks() / walk::kTicks));
    QStringList names;
    for (const auto id : view->world().touched())
        for (const auto& m : view->level().marks)
            if (m.id == id) names << QString::fromStdString(m.name);
    touched_->setText(names.isEmpty() ? tr("no mark touched") : tr("touched: %1").arg(names.join(", ")));
}

} // namespace vic::app
