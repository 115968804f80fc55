#include "app/lay/plan_panel.hpp"

#include <QCheckBox>
#include <QColor>
#include <QHBoxLayout>
#include <QLabel>
#include <QPixmap>
#include <QPushButton>
#include <QSignalBlocker>
#include <QSlider>
#include <QVBoxLayout>
#include <algorithm>
#include <cstdint>
#include <optional>
#include <utility>
#include <vector>

#include "app/parts/glyphs.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/picture_list.hpp"
#include "app/parts/translated.hpp"
#include "base/error.hpp"
#include "base/files.hpp"
#include "base/geometry.hpp"
#include "base/text.hpp"
#include "edit/plans.hpp"
#include "edit/stroke.hpp"
#include "level/cell.hpp"
#include "level/level.hpp"
#include "level/project.hpp"
#include "plan/read_plan.hpp"

namespace vic::app {

using level::PlanKey;

PlanPanel::PlanPanel(Session& session, LevelView& view, QWidget* parent)
    : QWidget(parent), session_(session), view_(view) {
    setObjectName("planPanel");
    auto* column = panelColumn(this);
    QLabel* aside = nullptr;
    addHeading(column, tr("Level from a picture"), &aside);
    aside->setText(tr("one pixel a cell"));
    buildHead(column);
    gather_ = new QSlider(Qt::Horizontal, this);
    gather_->setObjectName("planGather");
    gather_->setRange(0, 120);
    describe(gather_, tr("Gather near colours"), {},
             tr("How far a colour may be off and still be the same: smoothed edges and the noise of compression"));
    addField(column, tr("Gather"), gather_, 54);
    keys_ = new PlanKeys([this](std::size_t key) { return meanings(plan_.keys[key]); }, this);
    column->addWidget(keys_, 1);
    result_ = label({}, "quiet", this);
    result_->setObjectName("planResult");
    result_->setWordWrap(true);
    column->addWidget(result_);
    byHand_ = new PictureList("planByHand", tr("Cells changed by hand"), this);
    byHand_->setFixedHeight(84);
    column->addWidget(byHand_);
    auto* row = new QHBoxLayout;
    lay_ = new QPushButton(tr("Lay it"), this);
    lay_->setObjectName("planLay");
    lay_->setProperty("role", "primary");
    auto* away = new QPushButton(tr("Close"), this);
    away->setObjectName("planClose");
    connect(away, &QPushButton::clicked, this, &PlanPanel::leave);
    row->addWidget(lay_, 1);
    row->addWidget(away);
    column->addLayout(row);
    picker_ = new TilePicker(session_, this);
    connect(picker_, &TilePicker::picked, this, [this](level::TileId tile) {
        if (picking_ >= plan_.keys.size()) return;
        mean(picking_, {plan_.keys[picking_].colour, PlanKey::Kind::tile, tile, {}});
    });
    listen();
}

void PlanPanel::buildHead(QVBoxLayout* column) {
    auto* head = new QHBoxLayout;
    head->setSpacing(10);
    preview_ = new QLabel(this);
    preview_->setObjectName("planPicture");
    preview_->setFixedSize(96, 96);
    head->addWidget(preview_);
    auto* side = new QVBoxLayout;
    facts_ = label({}, "quiet", this);
    facts_->setObjectName("planFacts");
    facts_->setWordWrap(true);
    side->addWidget(facts_);
    bottomUp_ = new QCheckBox(tr("bottom up"), this);
    bottomUp_->setObjectName("planBottomUp");
    describe(bottomUp_, tr("Bottom up"), {}, tr("The picture's lowest row is the level's uppermost"));
    side->addWidget(bottomUp_);
    side->addStretch();
    head->addLayout(side, 1);
    column->addLayout(head);
}

void PlanPanel::listen() {
    later_.setSingleShot(true);
    later_.setInterval(60);
    connect(&later_, &QTimer::timeout, this, &PlanPanel::trial);
    connect(lay_, &QPushButton::clicked, this, &PlanPanel::lay);
    connect(bottomUp_, &QCheckBox::toggled, this, [this](bool on) {
        plan_.bottom_up = on;
        fill();
        later_.start();
    });
    connect(gather_, &QSlider::valueChanged, this, [this](int v) {
        plan_.gather = v;
        readAgain();
    });
    connect(keys_, &PlanKeys::meant, this, &PlanPanel::mean);
    connect(keys_, &PlanKeys::elsewhere, this, [this](std::size_t key, QWidget* at) {
        picking_ = key;
        picker_->popUp(at);
    });
    connect(byHand_, &PictureList::picked, this, [this](quint32 i) { view_.lookAt(byHandCells_[i]); });
}

void PlanPanel::begin(const QString& file) {
    if (!session_.level()) return;
    const QString relative = session_.library().adoptPlan(file);
    const fs::path path = session_.document().dir() / relative.toStdString();
    picture_ = std::make_shared<const Image>(plan::read_picture(read_file(path), path.string()));
    const bool same = session_.level()->plan && session_.level()->plan->file == relative.toStdString();
    plan_ = edit::proposed_plan(session_.project(), session_.level(), *picture_, relative.toStdString(),
                                same ? session_.level()->plan->gather : level::Plan().gather,
                                same && session_.level()->plan->bottom_up);
    if (plan_.layer == 0) plan_.layer = session_.activeLayerId();
    levelId_ = session_.level()->id;
    active_ = true;
    const QSignalBlocker a(gather_), b(bottomUp_);
    gather_->setValue(plan_.gather);
    bottomUp_->setChecked(plan_.bottom_up);
    fill();
    trial();
    emit activeChanged();
}

void PlanPanel::again() {
    if (!session_.level() || !session_.level()->plan)
        return emit session_.said(tr("This level follows no plan yet"), false);
    begin(QString::fromStdString((session_.document().dir() / session_.level()->plan->file).string()));
}

void PlanPanel::leave() {
    if (!active_) return;
    active_ = false;
    later_.stop();
    view_.setTrial(std::nullopt);
    emit activeChanged();
}

void PlanPanel::readAgain() {
    if (!picture_) return;
    // What has a meaning already keeps it.
    level::Level before = *session_.level();
    level::Plan kept = plan_;
    std::erase_if(kept.keys, [](const PlanKey& k) { return k.kind == PlanKey::Kind::nothing; });
    before.plan = kept;
    level::Plan next =
        edit::proposed_plan(session_.project(), &before, *picture_, plan_.file, plan_.gather, plan_.bottom_up);
    next.layer = plan_.layer;
    next.at = plan_.at;
    plan_ = std::move(next);
    fill();
    later_.start();
}

void PlanPanel::fill() {
    const Image shown = plan::upright(*picture_, plan_.bottom_up);
    preview_->setPixmap(
        QPixmap::fromImage(toQImage(shown).scaled(96, 96, Qt::KeepAspectRatio, Qt::FastTransformation)));
    facts_->setText(tr("%1 × %2 cells\n%3 colours").arg(shown.width()).arg(shown.height()).arg(plan_.keys.size()));
    const std::vector<std::int64_t> counts = edit::key_counts(plan_, shown);
    std::vector<PlanKeyRow> rows;
    for (std::size_t i = 0; i < plan_.keys.size(); ++i) {
        const PlanKey& key = plan_.keys[i];
        const auto all = meanings(key);
        const auto now = std::find_if(all.begin(), all.end(), [&](const auto& m) { return m.key == key; });
        rows.push_back({static_cast<quint32>(i), QColor(key.colour.r, key.colour.g, key.colour.b, key.colour.a),
                        counts[i], now == all.end() ? QString() : now->text});
    }
    keys_->setKeys(std::move(rows));
}

// What a colour may mean, in the order in which it is offered.
std::vector<PlanKeys::Meaning> PlanPanel::meanings(const PlanKey& key) const {
    const level::Project& p = session_.project();
    std::vector<PlanKeys::Meaning> all;
    const auto offer = [&](const QString& text, PlanKey::Kind kind, std::uint32_t id, const QString& name = {}) {
        all.push_back({text, PlanKey{key.colour, kind, id, name.toStdString()}});
    };
    offer(tr("nothing"), PlanKey::Kind::nothing, 0);
    for (const auto& m : p.materials) offer(QString::fromStdString(m->name), PlanKey::Kind::material, m->id);
    const level::TileId held = session_.hand().tile();
    if (session_.hand().is<edit::held::Tile>())
        offer(tr("%1, in the Hand").arg(translated(edit::tile_name(p, held))), PlanKey::Kind::tile, held);
    if (key.kind == PlanKey::Kind::tile && (key.id != held || !session_.hand().is<edit::held::Tile>()))
        offer(translated(edit::tile_name(p, key.id)), PlanKey::Kind::tile, key.id);
    all.push_back({tr("a tile…"), std::nullopt});
    for (const auto& k : p.prop_kinds)
        offer(tr("prop %1").arg(QString::fromStdString(k->name)), PlanKey::Kind::prop, k->id);
    offer(tr("the start"), PlanKey::Kind::start, 0, tr("Start"));
    offer(tr("an exit"), PlanKey::Kind::exit, 0, tr("Exit"));
    offer(tr("a mark"), PlanKey::Kind::mark, 0, tr("Mark"));
    return all;
}

void PlanPanel::mean(std::size_t key, const PlanKey& now) {
    plan_.keys[key] = now;
    fill();
    later_.start();
}

void PlanPanel::trial() {
    if (!active_ || !session_.level() || session_.level()->id != levelId_) return leave();
    session_.library().plan(plan_, picture_, [this](const edit::Followed& f) {
        if (active_) show(f);
    });
}

void PlanPanel::show(const edit::Followed& f) {
    view_.setTrial(f.level);
    QString text = translated(say_count(f.laid, "One cell would be laid", "%n cells would be laid"));
    if (f.unknown > 0)
        text += translated(say_count(f.unknown, " · one pixel is near no colour", " · %n pixels are near no colour"));
    result_->setText(text);
    byHandCells_ = f.by_hand;
    std::vector<PictureRow> rows;
    for (const Point cell : f.by_hand)
        rows.push_back({static_cast<quint32>(rows.size()),
                        tr("cell %1, %2 was changed by hand and stays").arg(cell.x).arg(cell.y)});
    byHand_->setRows(std::move(rows));
    byHand_->setVisible(!f.by_hand.empty());
}

void PlanPanel::lay() {
    if (!active_) return;
    leave();
    session_.library().layPlan(plan_, picture_);
}

} // namespace vic::app
