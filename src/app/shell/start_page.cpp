#include "app/shell/start_page.hpp"

#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLocale>
#include <QPixmap>
#include <QPointF>
#include <QScrollArea>
#include <QSize>
#include <QVBoxLayout>
#include <memory>

#include "app/parts/panel.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "app/shell/projects.hpp"
#include "app/shell/start_cards.hpp"
#include "base/text.hpp"
#include "level/level.hpp"
#include "level/project.hpp"
#include "store/project_files.hpp"

namespace vic::app {

namespace {

constexpr int kWidth = 1112; // of all of it, pixels
constexpr int kColumn = 544;
constexpr std::size_t kShownRecents = 4;

// A heading on the left and a quiet word on the right.
QLabel* addTitle(QVBoxLayout* column, const QString& title, const QString& aside, QWidget* parent) {
    auto* row = new QHBoxLayout;
    row->addWidget(label(title, "heading", parent));
    row->addStretch();
    auto* quiet = label(aside, "quiet", parent);
    row->addWidget(quiet);
    column->addLayout(row);
    return quiet;
}

QString dayOf(const QDateTime& when) {
    const QDate today = QDate::currentDate();
    const QString time = QLocale().toString(when.time(), "HH:mm");
    if (when.date() == today) return StartPage::tr("today %1").arg(time);
    if (when.date() == today.addDays(-1)) return StartPage::tr("yesterday %1").arg(time);
    return QLocale().toString(when.date(), when.date().year() == today.year() ? "d MMMM" : "d MMMM yyyy");
}

} // namespace

StartPage::StartPage(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("startPage");
    auto* outer = new QVBoxLayout(this);
    outer->setContentsMargins(0, 0, 0, 0);
    auto* scroll = new QScrollArea(this);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setWidgetResizable(true);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    outer->addWidget(scroll);
    auto* inside = new QWidget(scroll);
    scroll->setWidget(inside);
    auto* middle = new QHBoxLayout(inside);
    middle->setContentsMargins(24, 0, 24, 0);
    auto* page = new QWidget(inside);
    page->setMaximumWidth(kWidth);
    middle->addStretch();
    middle->addWidget(page, 100);
    middle->addStretch();
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(0, 24, 0, 16);
    column->setSpacing(6);
    auto* name = label(tr("Vicinum"), "title", page);
    name->setStyleSheet("font-size: 30px; font-weight: 700;");
    column->addWidget(name);
    auto* row = new QHBoxLayout;
    row->addWidget(label(tr("A level, from a picture to playable."), "quiet", page));
    row->addStretch();
    row->addWidget(label(tr("F1 help · Shift+F1 all keys · Ctrl+D the dark look"), "quiet", page));
    column->addLayout(row);
    column->addSpacing(8);
    column->addWidget(new StartWay(page));
    column->addSpacing(10);
    auto* halves = new QHBoxLayout;
    halves->setSpacing(24);
    halves->addWidget(buildBegin(), 1);
    halves->addWidget(buildGoOn(), 1);
    column->addLayout(halves);
    column->addStretch();
}

QWidget* StartPage::buildBegin() {
    auto* half = new QWidget(this);
    half->setMaximumWidth(kColumn);
    auto* column = new QVBoxLayout(half);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    addTitle(column, tr("Begin with art"), tr("a project of it is made in %1").arg(placeName(projectsFolder())), half);
    drop_ = new DropArea(half);
    connect(drop_, &DropArea::pictureAsked, this, &StartPage::pictureAsked);
    connect(drop_, &DropArea::projectAsked, this, &StartPage::projectAsked);
    column->addWidget(drop_);
    column->addSpacing(12);
    addTitle(column, tr("Or with an empty place"), tr("all of it can be changed later"), half);
    const auto add = [&](edit::Beginning beginning, const char* id, const QString& title, const QString& what) {
        const edit::BeginningShape shape = edit::shape_of(beginning);
        const QString cell = shape.cell.w == shape.cell.h ? QString::number(shape.cell.w)
                                                          : QString("%1 × %2").arg(shape.cell.w).arg(shape.cell.h);
        auto* card = new StartCard(
            title, tr("%1 · %2 × %3 cells of %4 px").arg(what).arg(shape.size.w).arg(shape.size.h).arg(cell),
            StartCard::Picture::beside, half);
        card->setObjectName(id);
        card->setPicture(drawingOf(beginning, {86, 52}, devicePixelRatioF()));
        connect(card, &StartCard::clicked, this, [this, beginning] { emit beginningChosen(beginning); });
        column->addWidget(card);
    };
    add(edit::Beginning::from_above, "startAbove", tr("From above"), tr("ground, walls, things in front"));
    add(edit::Beginning::from_the_side, "startSide", tr("From the side"), tr("ground that blocks, ledges, a jump"));
    add(edit::Beginning::isometric, "startIsometric", tr("Isometric"), tr("diamonds, seen aslant"));
    column->addStretch();
    return half;
}

QWidget* StartPage::buildGoOn() {
    auto* half = new QWidget(this);
    half->setMaximumWidth(kColumn);
    auto* column = new QVBoxLayout(half);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    goOn_ = new QWidget(half);
    auto* list = new QVBoxLayout(goOn_);
    list->setContentsMargins(0, 0, 0, 12);
    list->setSpacing(8);
    count_ = addTitle(list, tr("Go on with"), {}, goOn_);
    recents_ = new QGridLayout;
    recents_->setSpacing(12);
    recents_->setColumnStretch(2, 1);
    list->addLayout(recents_);
    column->addWidget(goOn_);
    addDemo(column);
    column->addStretch();
    return half;
}

void StartPage::addDemo(QVBoxLayout* column) {
    addTitle(column, tr("See how it is done"), {}, this);
    auto* steps =
        new StartCard(tr("A first level in five minutes"), tr("seven steps, with art of your own or the demo's"),
                      StartCard::Picture::beside, this);
    steps->setObjectName("startSteps");
    steps->setPicture(drawingOf(edit::Beginning::from_the_side, {86, 52}, devicePixelRatioF()));
    connect(steps, &StartCard::clicked, this, &StartPage::stepsAsked);
    column->addWidget(steps);
    const QString demo = demoFolder();
    if (demo.isEmpty()) return;
    demo_ = new StartCard(tr("The demo: Pell Saltern"), tr("three levels of a salt works by the sea"),
                          StartCard::Picture::beside, this);
    demo_->setObjectName("startDemo");
    demo_->setWaits(tr("opens as a copy of your own"), false);
    connect(demo_, &StartCard::clicked, this, &StartPage::demoAsked);
    column->addWidget(demo_);
    // Its picture comes when it is drawn.
    using Loaded = std::shared_ptr<const level::Project>;
    session_.jobs().start<Loaded>(
        "startDemo", {},
        [demo](Jobs::Progress&) { return std::make_shared<const level::Project>(store::load(demo.toStdString())); },
        [this](Loaded& project) {
            if (project->levels.empty()) return;
            const level::Level& first = *project->levels.front();
            const Box all = first.pixels();
            demo_->setPicture(
                levelPiece(*project, first, QPointF(all.x + all.w * 0.1, all.y + all.h * 0.12), {86, 52}));
        },
        [](const std::exception&) {}); // the card does without
}

void StartPage::refresh() {
    const std::vector<Recent> all = recentProjects(kShownRecents);
    clearLayout(recents_);
    goOn_->setVisible(!all.empty());
    count_->setText(translated(say_count(static_cast<std::int64_t>(all.size()), "one project", "%n projects")));
    for (std::size_t i = 0; i < all.size(); ++i) {
        const Recent& r = all[i];
        auto* card = new StartCard(r.project, r.level, StartCard::Picture::above, goOn_);
        card->setObjectName(QString("recent-%1").arg(i));
        card->setToolTip(placeName(r.dir));
        card->setPicture(r.picture);
        if (r.left > 0)
            card->setWaits(translated(say_count(r.left, "one step was not saved: it is kept",
                                                "%n steps were not saved: they are kept")),
                           true);
        else if (r.findings > 0)
            card->setWaits(dayOf(r.when) + " · " + translated(say_count(r.findings, "1 finding", "%n findings")),
                           false);
        else
            card->setWaits(dayOf(r.when), false);
        connect(card, &StartCard::clicked, this, [this, dir = r.dir] { emit recentChosen(dir); });
        recents_->addWidget(card, static_cast<int>(i) / 2, static_cast<int>(i) % 2);
        card->show();
    }
}

void StartPage::setLit(bool lit) { drop_->setLit(lit); }

void StartPage::focusFirst() {
    if (auto* recent = findChild<StartCard*>("recent-0")) return recent->setFocus();
    if (auto* picture = drop_->findChild<QWidget*>("startPicture")) picture->setFocus();
}

} // namespace vic::app
