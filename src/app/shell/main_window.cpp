#include "app/shell/main_window.hpp"

#include <QApplication>
#include <QDateTime>
#include <QDragEnterEvent>
#include <QDropEvent>
#include <QFileInfo>
#include <QFrame>
#include <QHBoxLayout>
#include <QLabel>
#include <QScrollArea>
#include <QSettings>
#include <QSizePolicy>
#include <QStackedWidget>
#include <QToolButton>
#include <QUrl>
#include <QVBoxLayout>
#include <QWidget>
#include <initializer_list>
#include <string>

#include "app/bound/bound_panel.hpp"
#include "app/commands/lay_commands.hpp"
#include "app/cut/cut_centre.hpp"
#include "app/cut/kind_panel.hpp"
#include "app/cut/sheet_list.hpp"
#include "app/cut/tile_panel.hpp"
#include "app/dress/prop_panel.hpp"
#include "app/hand_over/hand_over_page.hpp"
#include "app/join/case_panel.hpp"
#include "app/join/join_centre.hpp"
#include "app/join/material_list.hpp"
#include "app/lay/plan_panel.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/tokens.hpp"
#include "app/parts/translated.hpp"
#include "app/section/section_panel.hpp"
#include "app/section/stroke_list.hpp"
#include "app/session/session.hpp"
#include "app/sheet/sheet_view.hpp"
#include "app/shell/finder.hpp"
#include "app/shell/history_panel.hpp"
#include "app/shell/tool_row.hpp"
#include "app/shell/workline.hpp"
#include "app/tray/tray.hpp"
#include "app/view/level_view.hpp"
#include "app/walk/walk_centre.hpp"
#include "app/walk/walk_panel.hpp"
#include "base/error.hpp"
#include "findings/check.hpp"
#include "level/sheet.hpp"
#include "player/parcel_view.hpp"

namespace vic::app {

namespace {

constexpr int kLeftWidth = 214;
constexpr int kRightWidth = 268;
constexpr int kMessage = 5000; // milliseconds that a message stays
constexpr int kMessageAtLeast = 1200;

} // namespace

MainWindow::MainWindow(QWidget* parent) : QMainWindow(parent) {
    setObjectName("mainWindow");
    setAcceptDrops(true);
    setWindowIcon(applicationIcon());
    setMinimumSize(1024, 700);
    resize(1280, 800);
    auto* whole = new QWidget(this);
    setCentralWidget(whole);
    auto* column = new QVBoxLayout(whole);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    workline_ = new Workline(session_, whole);
    column->addWidget(workline_);
    auto* row = new QHBoxLayout;
    row->setSpacing(0);
    column->addLayout(row, 1);

    left_ = new QStackedWidget(whole);
    leftFrame_ = left_;
    left_->setFixedWidth(kLeftWidth);
    auto* levelSide = new QWidget(left_);
    auto* levelColumn = new QVBoxLayout(levelSide);
    levelColumn->setContentsMargins(0, 0, 0, 0);
    levelColumn->setSpacing(0);
    section_ = new SectionPanel(session_, levelSide);
    strokes_ = new StrokeList(session_, *section_, levelSide);
    levelColumn->addWidget(section_, 1);
    levelColumn->addWidget(strokes_);
    sheetList_ = new SheetList(session_, left_);
    materialList_ = new MaterialList(session_, left_);
    left_->addWidget(levelSide);
    left_->addWidget(sheetList_);
    left_->addWidget(materialList_);
    row->addWidget(left_);
    leftLine_ = uprightLine(whole);
    row->addWidget(leftLine_);

    auto* middle = new QVBoxLayout;
    middle->setSpacing(0);
    row->addLayout(middle, 1);
    levelView_ = new LevelView(session_, whole);
    commands_ = new LayCommands(session_, *levelView_, this);
    toolRow_ = new ToolRow(session_, *levelView_, *commands_, whole);
    middle->addWidget(toolRow_);
    centre_ = new QStackedWidget(whole);
    cut_ = new CutCentre(session_, centre_);
    join_ = new JoinCentre(session_, centre_);
    walk_ = new WalkCentre(session_, centre_);
    handOver_ = new HandOverPage(session_, centre_);
    for (QWidget* w : std::initializer_list<QWidget*>{levelView_, cut_, join_, walk_, handOver_}) centre_->addWidget(w);
    middle->addWidget(centre_, 1);

    rightLine_ = uprightLine(whole);
    row->addWidget(rightLine_);
    right_ = new QStackedWidget(whole);
    rightFrame_ = right_;
    right_->setFixedWidth(kRightWidth);
    auto* trayPage = new QWidget(right_);
    auto* trayColumn = new QVBoxLayout(trayPage);
    trayColumn->setContentsMargins(0, 0, 0, 0);
    trayColumn->setSpacing(0);
    tray_ = new Tray(session_, *commands_, trayPage);
    propPanel_ = new PropPanel(session_, trayPage);
    trayColumn->addWidget(tray_, 1);
    trayColumn->addWidget(propPanel_);
    cutSide_ = new QStackedWidget(right_);
    tilePanel_ = new TilePanel(session_, cutSide_);
    kindPanel_ = new KindPanel(session_, *cut_->view(), cutSide_);
    auto* scroll = new QScrollArea(cutSide_);
    scroll->setWidget(tilePanel_);
    scroll->setWidgetResizable(true);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setFocusPolicy(Qt::NoFocus);
    cutSide_->addWidget(scroll);
    cutSide_->addWidget(kindPanel_);
    materialList_->setSeen([this] { return levelView_->seenCells(); });
    auto* caseScroll = new QScrollArea(right_);
    caseScroll->setWidgetResizable(true);
    caseScroll->setFrameShape(QFrame::NoFrame);
    caseScroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    casePanel_ = new CasePanel(session_, *join_->proof(), caseScroll);
    caseScroll->setWidget(casePanel_);
    boundPanel_ = new BoundPanel(session_, *levelView_, right_);
    walkPanel_ = new WalkPanel(session_, *walk_, right_);
    plan_ = new PlanPanel(session_, *levelView_, right_);
    for (QWidget* w : std::initializer_list<QWidget*>{trayPage, cutSide_, caseScroll, boundPanel_, walkPanel_, plan_})
        right_->addWidget(w);
    row->addWidget(right_);

    notice_ = new QWidget(whole);
    notice_->setObjectName("notice");
    notice_->setAttribute(Qt::WA_StyledBackground);
    auto* noticeRow = new QHBoxLayout(notice_);
    noticeRow->setContentsMargins(14, 6, 8, 6);
    noticeText_ = new QLabel(notice_);
    noticeText_->setObjectName("noticeText");
    noticeText_->setWordWrap(true);
    noticeText_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    noticeRow->addWidget(noticeText_, 1);
    auto* close = toolButton(notice_, "noticeClose", "remove", {}, tr("Close"), "link");
    connect(close, &QToolButton::clicked, notice_, &QWidget::hide);
    noticeRow->addWidget(close);
    notice_->hide();
    column->addWidget(notice_);

    readingLine_ = new QWidget(whole);
    readingLine_->setObjectName("readingLine");
    readingLine_->setAttribute(Qt::WA_StyledBackground);
    readingLine_->setFixedHeight(30);
    auto* line = new QHBoxLayout(readingLine_);
    line->setContentsMargins(14, 0, 14, 0);
    line->setSpacing(24);
    reading_ = new QLabel(readingLine_);
    reading_->setObjectName("reading");
    reading_->setTextFormat(Qt::RichText);
    reading_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    waits_ = new QLabel(readingLine_);
    waits_->setObjectName("waits");
    saved_ = new QLabel(readingLine_);
    saved_->setObjectName("saved");
    line->addWidget(reading_, 1);
    line->addWidget(waits_);
    line->addWidget(saved_);
    column->addWidget(readingLine_);
    finder_ = new Finder(this);
    history_ = new HistoryPanel(session_, this);

    buildActions();
    setDark(QSettings().value("look/dark", false).toBool());

    connect(&session_, &Session::changed, this, &MainWindow::refresh);
    connect(&session_, &Session::handChanged, this, [this] {
        toolRow_->refresh();
        propPanel_->refresh();
        read();
    });
    connect(&session_, &Session::selectionChanged, toolRow_, &ToolRow::refresh);
    connect(plan_, &PlanPanel::activeChanged, this, &MainWindow::refreshStage);
    connect(&session_, &Session::stageChanged, this, &MainWindow::refreshStage);
    connect(&session_, &Session::findingsChanged, this, [this] {
        workline_->refresh();
        handOver_->refresh();
        read();
    });
    connect(&session_, &Session::said, this, &MainWindow::say);
    connect(levelView_, &LevelView::readingChanged, this, &MainWindow::read);
    connect(cut_, &CutCentre::readingChanged, this, &MainWindow::read);
    connect(cut_, &CutCentre::modeChanged, this, &MainWindow::refresh);
    connect(join_, &JoinCentre::readingChanged, this, &MainWindow::read);
    connect(walk_, &WalkCentre::readingChanged, this, &MainWindow::read);
    connect(walk_->view(), &player::ParcelView::leaveAsked, this, [this] { session_.setStage(before_); });
    connect(workline_, &Workline::placeAsked, this, &MainWindow::showPlaceMenu);
    connect(workline_, &Workline::findAsked, this, &MainWindow::find);
    connect(sheetList_, &SheetList::addAsked, this, &MainWindow::askForSheet);
    connect(handOver_, &HandOverPage::placeAsked, this,
            [this](const std::string& level, Point cell, level::LayerId layer) {
                session_.setLevel(level);
                if (layer) session_.setActiveLayer(layer);
                session_.setStage(Stage::lay);
                levelView_->lookAt(cell);
            });
    clock_.setInterval(5000);
    connect(&clock_, &QTimer::timeout, this, &MainWindow::read);
    clock_.start();
    messageTimer_.setSingleShot(true);
    connect(&messageTimer_, &QTimer::timeout, this, [this] {
        message_.clear();
        read();
    });
    qApp->installEventFilter(this);
    refreshStage();
}

void MainWindow::refreshStage() {
    const Stage stage = session_.stage();
    if (stage != Stage::walk)
        before_ = stage == Stage::cut || stage == Stage::join || stage == Stage::handOver ? Stage::lay : stage;
    left_->setCurrentWidget(stage == Stage::cut    ? static_cast<QWidget*>(sheetList_)
                            : stage == Stage::join ? static_cast<QWidget*>(materialList_)
                                                   : section_->parentWidget());
    QWidget* centres[kStages] = {cut_, join_, levelView_, levelView_, levelView_, walk_, handOver_};
    centre_->setCurrentWidget(centres[static_cast<int>(stage)]);
    const bool level = stage == Stage::lay || stage == Stage::dress || stage == Stage::bound;
    toolRow_->setVisible(level && !quiet_);
    toolRow_->refreshStage();
    if (stage != Stage::lay) plan_->leave();
    right_->setCurrentIndex(stage == Stage::cut     ? 1
                            : stage == Stage::join  ? 2
                            : stage == Stage::bound ? 3
                            : stage == Stage::walk  ? 4
                            : plan_->active()       ? 5
                                                    : 0);
    rightFrame_->setVisible(stage != Stage::handOver && !quiet_);
    leftFrame_->setVisible(stage != Stage::handOver && !quiet_);
    leftLine_->setVisible(leftFrame_->isVisibleTo(this));
    rightLine_->setVisible(rightFrame_->isVisibleTo(this));
    if (stage == Stage::walk)
        walk_->enter();
    else
        walk_->leave();
    focusCentre();
    refresh();
}

void MainWindow::refresh() {
    if (!session_.isOpen()) return;
    workline_->refresh();
    const Stage stage = session_.stage();
    if (stage == Stage::cut) {
        sheetList_->refresh();
        cut_->refresh();
        const bool islands = cut_->view()->mode() == SheetView::Mode::islands;
        cutSide_->setCurrentIndex(islands ? 1 : 0);
        if (islands)
            kindPanel_->refresh();
        else
            tilePanel_->refresh();
    } else if (stage == Stage::join) {
        materialList_->refresh();
        join_->refresh();
        casePanel_->refresh();
    } else if (stage == Stage::handOver) {
        handOver_->refresh();
    } else if (stage == Stage::walk) {
        walkPanel_->refresh();
    } else {
        tray_->refresh();
        propPanel_->refresh();
        if (stage == Stage::bound) boundPanel_->refresh();
    }
    toolRow_->refresh();
    setWindowTitle(
        tr("%1%2 – Vicinum")
            .arg(session_.document().unsaved() ? "• " : "", QString::fromStdString(session_.project().name)));
    read();
}

QString MainWindow::readingText() const { return reading_->text(); }

void MainWindow::read() {
    if (!session_.isOpen()) return;
    QString text;
    bool warns = false;
    switch (session_.stage()) {
        case Stage::cut:
            text = cut_->reading();
            break;
        case Stage::join:
            text = join_->reading();
            break;
        case Stage::walk:
            text = walk_->reading();
            break;
        case Stage::handOver:
            text = tr("Ctrl+B builds every level for the engine");
            break;
        default:
            text = levelView_->reading().text;
            warns = levelView_->reading().warns;
            section_->lightSlab(levelView_->targetLayer());
    }
    // A message gives way to what a click would do where the pointer has gone since, once there was time to read it.
    messageLeft_ = messageLeft_ || (levelView_->pointedCell() && levelView_->pointedCell() != messageAt_);
    if (messageLeft_ && messageSince_.hasExpired(kMessageAtLeast)) message_.clear();
    if (!message_.isEmpty() && !warns) text = message_;
    // On the dark line the tool's colour is the lighter vermilion, warnings ochre.
    const QString strong = warns ? slate().ochre.name() : "#F2A48F";
    text.replace("<b>", QString("<b style='color:%1'>").arg(strong));
    reading_->setText(warns ? QString("<span style='color:%1'>⚠ %2</span>").arg(slate().ochre.name(), text) : text);
    QString waits;
    int more = 0;
    for (const auto& f : session_.findings()) {
        if (f.severity == findings::Severity::hint) continue;
        if (waits.isEmpty())
            waits = translated(f.what);
        else
            ++more;
    }
    if (!waits.isEmpty()) {
        waits = fontMetrics().elidedText(waits, Qt::ElideRight, 330);
        if (more) waits += tr(" · %1 more").arg(more);
    }
    waits_->setText(waits);
    waits_->setVisible(session_.stage() != Stage::handOver);
    if (session_.document().unsaved()) {
        saved_->setText(tr("not saved · Ctrl+S"));
    } else if (savedAt_ == 0) {
        saved_->setText(tr("as saved"));
    } else {
        const qint64 seconds = (QDateTime::currentMSecsSinceEpoch() - savedAt_) / 1000;
        saved_->setText(seconds < 5    ? tr("saved just now")
                        : seconds < 90 ? tr("saved %1 s ago").arg(seconds / 5 * 5)
                                       : tr("saved %1 min ago").arg(seconds / 60));
    }
}

void MainWindow::say(const QString& text, bool trouble) {
    if (trouble) {
        noticeText_->setText(text);
        notice_->show();
        return;
    }
    notice_->hide();
    message_ = text.toHtmlEscaped();
    messageAt_ = levelView_->pointedCell();
    messageLeft_ = false;
    messageSince_.start();
    messageTimer_.start(kMessage);
    // The pointer may have gone on before it had been there long enough, and rest by then.
    QTimer::singleShot(kMessageAtLeast + 20, Qt::PreciseTimer, this, &MainWindow::read);
    read();
}

bool MainWindow::openProject(const QString& dir) {
    try {
        remember();
        session_.open(QFileInfo(dir).absoluteFilePath());
    } catch (const InputError& e) {
        say(translated(e), true);
        return false;
    }
    notice_->hide();
    savedAt_ = 0;
    restore();
    QSettings().setValue("project", QFileInfo(dir).absoluteFilePath());
    return true;
}

void MainWindow::save() {
    if (!session_.isOpen()) return;
    try {
        session_.save();
        savedAt_ = QDateTime::currentMSecsSinceEpoch();
        notice_->hide();
        read();
    } catch (const InputError& e) {
        say(translated(e), true);
    }
}

void MainWindow::addSheets(const QStringList& files) {
    for (const QString& file : files) {
        try {
            notice_->hide();
            session_.addPicture(file);
        } catch (const InputError& e) {
            say(translated(e), true);
        }
    }
}

void MainWindow::addFolder(const QString& dir) {
    try {
        notice_->hide();
        session_.addFolder(dir);
    } catch (const InputError& e) {
        say(translated(e), true);
    }
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
    for (const QUrl& url : event->mimeData()->urls())
        if (url.isLocalFile()) return event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event) {
    QStringList pictures;
    for (const QUrl& url : event->mimeData()->urls()) {
        const QFileInfo info(url.toLocalFile());
        if (info.isDir() && (!session_.isOpen() || QFileInfo::exists(info.filePath() + "/project.json")))
            openProject(info.filePath());
        else if (info.isDir())
            addFolder(info.filePath());
        else if (info.fileName() == "project.json")
            openProject(info.path());
        else
            pictures << info.filePath();
    }
    if (session_.isOpen())
        addSheets(pictures);
    else if (!pictures.isEmpty())
        say(tr("Open or make a project first, then drop the picture again"), true);
    event->acceptProposedAction();
}

void MainWindow::setQuiet(bool on) {
    quiet_ = on;
    workline_->setVisible(!on);
    readingLine_->setVisible(!on);
    levelView_->setQuiet(on);
    refreshStage();
}

void MainWindow::setDark(bool dark) {
    const Tokens t = dark ? slate() : paper();
    applyLook(*qApp, t);
    QSettings().setValue("look/dark", dark);
    // The reading line is dark in both looks.
    readingLine_->setStyleSheet(
        QString("#readingLine { background: %1; } QLabel { color: %2; font-size: 12px; } #waits, #saved { color: %3; }")
            .arg(dark ? "#121816" : "#22302D", "#FBF8F1", "#A5B2AB"));
    notice_->setStyleSheet(
        QString("#notice { background: %1; border-top: 2px solid %2; }").arg(t.card.name(), t.vermilion.name()));
    toolRow_->setLook(t);
    for (auto* b : workline_->findChildren<QToolButton*>())
        if (b->objectName() == "undo" || b->objectName() == "redo") b->setIcon(icon(b->objectName(), t.ink));
    section_->refresh();
    refresh();
}

} // namespace vic::app
