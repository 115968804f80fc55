#include "app/hand_over/hand_over_page.hpp"

#include <QAbstractItemView>
#include <QComboBox>
#include <QCoreApplication>
#include <QFileInfo>
#include <QFrame>
#include <QHBoxLayout>
#include <QLabel>
#include <QLocale>
#include <QPainter>
#include <QPen>
#include <QPixmap>
#include <QPointF>
#include <QPolygonF>
#include <QProcess>
#include <QPushButton>
#include <QSignalBlocker>
#include <QSpinBox>
#include <QVBoxLayout>
#include <cstddef>
#include <exception>

#include "app/parts/finding_sign.hpp"
#include "app/parts/glyphs.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/tokens.hpp"
#include "app/parts/translated.hpp"
#include "app/session/choice.hpp"
#include "app/session/jobs.hpp"
#include "app/session/session.hpp"
#include "base/text.hpp"
#include "findings/check.hpp"
#include "level/level.hpp"
#include "level/project.hpp"
#include "mass/write_glb.hpp"
#include "outline/thickness.hpp"
#include "outline/trace.hpp"
#include "parcel/build.hpp"
#include "picture/compose.hpp"

namespace vic::app {

namespace {
constexpr std::int64_t kMostSimplified = 1 << 18; // cells of a level whose outlines are counted at once
}

// Pictures are drawn anew only for levels that changed.
void HandOverPage::showLevels() {
    const level::Project& p = session_.project();
    std::erase_if(cards_, [&](auto& entry) {
        const bool gone = p.level(entry.first) != entry.second.first.get();
        if (gone) {
            entry.second.second->hide();
            entry.second.second->deleteLater();
        }
        return gone;
    });
    for (const auto& level : p.levels) {
        auto& [shown, card] = cards_[level->id];
        if (!shown) {
            shown = level;
            QPixmap picture;
            // Larger levels would take too long to draw just for a card.
            if (level->pixels().size().area() <= 4096 * 4096)
                picture = QPixmap::fromImage(toQImage(picture::render(p, *level, 1)))
                              .scaled(432, 276, Qt::KeepAspectRatio, Qt::SmoothTransformation);
            card = new LevelCard(picture, QString::fromStdString(level->name), this);
            card->setObjectName("level-" + QString::fromStdString(level->id));
            connect(card, &LevelCard::clicked, this, [this, id = level->id] {
                session_.setLevel(id);
                session_.setStage(Stage::lay);
            });
            levelRow_->insertWidget(levelRow_->count() - 1, card);
        }
        const QFileInfo built(session_.builtDir() + "/" + QString::fromStdString(level->id) + "/level.json");
        const QString size = tr("%1 × %2 cells").arg(level->size.w).arg(level->size.h);
        card->setUnder(
            built.exists()
                ? tr("%1 · built %2").arg(size, QLocale().toString(built.lastModified(), QLocale::ShortFormat))
                : tr("%1 · not built yet").arg(size),
            !built.exists());
    }
}

HandOverPage::HandOverPage(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(24, 18, 24, 18);
    row->setSpacing(28);
    auto* left = new QVBoxLayout;
    left->setSpacing(8);
    addHeading(left, tr("Levels"));
    levelRow_ = new QHBoxLayout;
    levelRow_->setSpacing(12);
    levelRow_->addStretch();
    left->addLayout(levelRow_);
    left->addSpacing(12);
    addHeading(left, tr("Findings"), &count_);
    findings_ = new CardList(this);
    findings_->setObjectName("findings");
    findings_->setAccessibleName(tr("Findings"));
    findings_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    left->addWidget(findings_, 1);
    none_ = label(tr("Nothing to find fault with: the project can be handed over as it is."), "quiet", this);
    left->addWidget(none_);
    left->addStretch();
    row->addLayout(left, 5);
    row->addWidget([this] {
        auto* line = new QFrame(this);
        line->setProperty("role", "upright");
        return line;
    }());
    auto* right = new QVBoxLayout;
    right->setSpacing(10);
    addHeading(right, tr("Build for the engine"));
    where_ = label({}, "quiet", this);
    where_->setWordWrap(true);
    right->addWidget(where_);
    buildBlocking(right);
    build_ = new QPushButton(tr("Build all levels"), this);
    build_->setObjectName("build");
    build_->setProperty("role", "primary");
    describe(build_, tr("Build all levels"), "Ctrl+B", tr("One folder per level, put in place whole"));
    right->addWidget(build_);
    play_ = new QPushButton(tr("Open in the player"), this);
    play_->setObjectName("openPlayer");
    describe(play_, tr("Open in the player"), {},
             tr("The small stand-in engine; it takes over every new build by itself"));
    right->addWidget(play_);
    results_ = label({}, "quiet", this);
    results_->setObjectName("buildResults");
    results_->setWordWrap(true);
    results_->setTextFormat(Qt::RichText);
    results_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    right->addWidget(results_);
    right->addStretch();
    row->addLayout(right, 2);
    connect(build_, &QPushButton::clicked, this, &HandOverPage::build);
    connect(&session_.jobs(), &Jobs::changed, this, &HandOverPage::refresh);
    connect(play_, &QPushButton::clicked, this, &HandOverPage::play);
    connect(findings_, &CardList::chosen, this, [this](quint32 index) {
        const auto& all = session_.findings();
        if (index < all.size() && all[index].cell)
            emit placeAsked(all[index].level, *all[index].cell, all[index].layer);
    });
}

// How the engine gets what blocks.
void HandOverPage::buildBlocking(QVBoxLayout* right) {
    shapes_ = comboBox(this, "engineShapes");
    describe(shapes_, tr("What blocks, for the engine"), {},
             tr("Outlines are always there; the others come beside them, for engines that want solid shapes"));
    for (const QString& text :
         {tr("outlines alone"), tr("and convex parts"), tr("and the fewest rectangles"), tr("and a box for each cell")})
        shapes_->addItem(text);
    addField(right, tr("What blocks"), shapes_);
    connect(shapes_, &QComboBox::activated, this, [this](int index) {
        level::Project p = session_.project();
        p.engine_shapes = static_cast<level::EngineShapes>(index);
        session_.apply(tr("What blocks, for the engine"), std::move(p));
    });
    deviation_ = new QSpinBox(this);
    deviation_->setObjectName("engineDeviation");
    deviation_->setRange(0, level::kMostDeviation);
    deviation_->setSuffix(tr("/64 cell"));
    deviation_->setSpecialValueText(tr("exact"));
    describe(
        deviation_, tr("How far outlines may be off"), {},
        tr("With fewer corners what blocks gets smaller by at most that: no passage gets narrower, and no gap opens"));
    addField(right, tr("Outlines"), deviation_);
    connect(deviation_, &QSpinBox::valueChanged, this, [this](int units) {
        level::Project p = session_.project();
        if (p.deviation == units) return;
        p.deviation = units;
        session_.apply(tr("How far outlines may be off"), std::move(p), "deviation");
    });
    thinnest_ = new QSpinBox(this);
    thinnest_->setObjectName("engineThinnest");
    thinnest_->setRange(0, level::kMostThinnest);
    thinnest_->setSuffix(tr("/64 cell"));
    thinnest_->setSpecialValueText(tr("as drawn"));
    describe(thinnest_, tr("Nothing thinner than this"), {},
             tr("What blocks and is thinner grows to that, clefts that are narrower are filled: no gap opens"));
    addField(right, tr("Thinnest"), thinnest_);
    connect(thinnest_, &QSpinBox::valueChanged, this, [this](int units) {
        level::Project p = session_.project();
        if (p.thinnest == units) return;
        p.thinnest = units;
        session_.apply(tr("Nothing thinner than this"), std::move(p), "thinnest");
    });
    corners_ = label({}, "quiet", this);
    corners_->setObjectName("engineCorners");
    right->addWidget(corners_);
}

void HandOverPage::refresh() {
    if (!session_.isOpen()) return;
    const Tokens t = tokensOf(this);
    const auto& all = session_.findings();
    std::vector<Card> cards;
    for (std::size_t i = 0; i < all.size(); ++i) {
        Card card;
        card.id = static_cast<quint32>(i);
        card.picture = findingSign(all[i].severity, t);
        card.title = translated(all[i].what);
        const level::Level* l = session_.project().level(all[i].level);
        card.under = (l ? QString::fromStdString(l->name) + " · " : QString()) + translated(all[i].remedy);
        card.ring = -1;
        cards.push_back(card);
    }
    findings_->setCards(cards, 0xFFFFFFFFU);
    findings_->setVisible(!cards.empty());
    none_->setVisible(cards.empty());
    count_->setText(cards.empty() ? QString() : QString::number(cards.size()));
    if (isVisible()) showLevels();
    where_->setText(
        tr("Into the project's folder “%1”, a folder per level: the cells, one atlas with what is used, "
           "outlines, marks and props; and level.glb of levels with pieces of kits, all in one. The same project "
           "gives the same bytes.")
            .arg(QFileInfo(session_.builtDir()).fileName()));
    shapes_->setCurrentIndex(static_cast<int>(session_.project().engine_shapes));
    showDeviation();
    build_->setText(building() ? tr("Building…") : tr("Build all levels"));
    build_->setEnabled(!building() && !session_.project().levels.empty());
    const level::Level* level = session_.level();
    play_->setEnabled(level &&
                      QFileInfo::exists(session_.builtDir() + "/" + QString::fromStdString(level->id) + "/level.json"));
}

// What it comes to in the open level, where that is soon told.
void HandOverPage::showDeviation() {
    const level::Project& project = session_.project();
    const QSignalBlocker quiet(deviation_), quiet_too(thinnest_);
    deviation_->setValue(project.deviation);
    thinnest_->setValue(project.thinnest);
    const level::Level* level = session_.level();
    const bool tells = isVisible() && (project.deviation > 0 || project.thinnest > 0) && level &&
                       level->size.area() <= kMostSimplified;
    corners_->setVisible(tells);
    if (!tells) return;
    const auto outlines = outline::outlines(session_.derived().trace(*level));
    const auto count = [](const std::vector<outline::Outline>& all) {
        std::size_t corners = 0;
        for (const outline::Outline& o : all) corners += o.points.size();
        return static_cast<qulonglong>(corners);
    };
    const QLocale locale;
    corners_->setText(tr("%1 corners instead of %2 in %3")
                          .arg(locale.toString(count(outline::for_engine(project, *level, outlines))),
                               locale.toString(count(outlines)), QString::fromStdString(level->name)));
}

bool HandOverPage::building() const { return session_.jobs().running("build"); }

void HandOverPage::build() {
    if (!session_.isOpen() || building()) return;
    const auto build = [state = session_.document().state(), dir = session_.document().dir(),
                        to = fs::path(session_.builtDir().toStdString())](Jobs::Progress& progress) {
        std::vector<Result> results;
        for (const auto& level : state->levels) {
            if (progress.stopped()) break;
            progress.tell(static_cast<double>(results.size()) / static_cast<double>(state->levels.size()));
            results.push_back(built(*state, *level, dir, to));
        }
        return results;
    };
    session_.jobs().start<std::vector<Result>>(
        "build", tr("Building for the engine"), build, [this](std::vector<Result>& results) { show(results); },
        session_.complain());
}

HandOverPage::Result HandOverPage::built(const level::Project& project, const level::Level& level, const fs::path& dir,
                                         const fs::path& to) {
    Result r;
    r.level = level.name;
    try {
        const auto done =
            parcel::build(project, level, parcel::place(dir, to, level.id), mass::files_along(project, level, dir));
        r.files = done.files;
        r.bytes = done.bytes;
    } catch (const std::exception& e) {
        r.trouble = translated(e);
    }
    return r;
}

void HandOverPage::show(const std::vector<Result>& results) {
    QString text;
    bool good = true;
    const QLocale locale;
    for (const Result& r : results) {
        text += "<p style='margin-top:6px'><b>" + QString::fromStdString(r.level).toHtmlEscaped() + "</b><br>";
        if (r.trouble.isEmpty())
            text += tr("%1 files, %2").arg(r.files).arg(locale.formattedDataSize(static_cast<qint64>(r.bytes)));
        else
            text += r.trouble.toHtmlEscaped();
        text += "</p>";
        good = good && r.trouble.isEmpty();
    }
    results_->setText(text);
    emit session_.said(
        good ? translated(say_count(static_cast<std::int64_t>(results.size()), "Built one level into %1",
                                    "Built %n levels into %1", placeName(session_.builtDir()).toStdString()))
             : tr("Not every level could be built"),
        !good);
    refresh();
    emit wasBuilt(good);
}

void HandOverPage::play() {
    const level::Level* level = session_.level();
    if (!level) return;
    const QString dir = session_.builtDir() + "/" + QString::fromStdString(level->id);
    // Beside this program when built or installed; else wherever the shell finds it.
    const QString own = QCoreApplication::applicationDirPath();
    QString program = "vicinum-player";
    for (const QString& place : {own + "/vicinum-player", own + "/../player/vicinum-player"})
        if (QFileInfo(place).isExecutable()) program = place;
    if (!QProcess::startDetached(program, {dir}))
        emit session_.said(tr("The player could not be started: %1").arg(program), true);
}

} // namespace vic::app
