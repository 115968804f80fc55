#include "app/shell/main_window.hpp"

#include <QAction>
#include <QApplication>
#include <QEvent>
#include <QFrame>
#include <QHelpEvent>
#include <QKeyEvent>
#include <QObject>
#include <QScrollArea>
#include <QSettings>
#include <QSplitter>
#include <QStackedWidget>
#include <QToolTip>
#include <QVBoxLayout>
#include <QWidget>
#include <exception>
#include <initializer_list>
#include <string>

#include "app/commands/dress_commands.hpp"
#include "app/join/proof_view.hpp"
#include "app/lay/why_card.hpp"
#include "app/parts/tokens.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "app/sheet/sheet_view.hpp"
#include "app/shell/application.hpp"
#include "app/shell/projects.hpp"
#include "app/solid/solid_switch.hpp"
#include "app/walk/upright_fields.hpp"
#include "base/geometry.hpp"
#include "level/sheet.hpp"
#include "player/parcel_view.hpp"

namespace vic::app {

namespace {

constexpr int kLeftWidth = 214; // pixels, of panels that were never widened
constexpr int kRightWidth = 268;
constexpr int kMostWidth = 560;

// In a panel that scrolls upright only.
QScrollArea* scrolling(QWidget* what, QWidget* parent) {
    auto* scroll = new QScrollArea(parent);
    scroll->setWidget(what);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setFocusPolicy(Qt::NoFocus);
    return scroll;
}

QVBoxLayout* columnOf(QWidget* widget) {
    auto* column = new QVBoxLayout(widget);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    return column;
}

} // namespace

MainWindow::MainWindow(QWidget* parent) : QMainWindow(parent) {
    setObjectName("mainWindow");
    const bool dark = QSettings().value("look/dark", false).toBool();
    applyLook(*qApp, dark ? slate() : paper()); // before anything would have to be polished anew
    setAcceptDrops(true);
    setWindowIcon(applicationIcon());
    setMinimumSize(1024, 700);
    resize(1280, 800);
    auto* whole = new QWidget(this);
    setCentralWidget(whole);
    auto* column = columnOf(whole);
    pages_ = new QStackedWidget(whole);
    start_ = new StartPage(session_, pages_);
    auto* bench = new QWidget(pages_);
    pack_ = new PackPage(session_, pages_);
    kit_ = new KitPage(session_, pages_);
    for (QWidget* page :
         {static_cast<QWidget*>(start_), bench, static_cast<QWidget*>(pack_), static_cast<QWidget*>(kit_)})
        pages_->addWidget(page);
    column->addWidget(pages_, 1);
    auto* benchColumn = columnOf(bench);
    workline_ = new Workline(session_, bench);
    benchColumn->addWidget(workline_);
    split_ = new QSplitter(Qt::Horizontal, bench);
    split_->setObjectName("panels");
    split_->setChildrenCollapsible(false);
    split_->setHandleWidth(1); // a line; its grip is wider
    benchColumn->addWidget(split_, 1);
    buildLeft();
    buildMiddle();
    buildRight();
    split_->setStretchFactor(1, 1);
    split_->setSizes({kLeftWidth, width() - kLeftWidth - kRightWidth, kRightWidth});
    notice_ = new Notice(whole);
    column->addWidget(notice_);
    readingLine_ = new ReadingLine(session_, whole);
    column->addWidget(readingLine_);
    finder_ = new Finder(this);
    history_ = new HistoryPanel(session_, this);
    keysPage_ = new KeysPage(keys_, this);
    help_ = new HelpCard(this);
    steps_ = new Steps(session_, *levelView_, whole);
    buildActions();
    showLook(dark ? slate() : paper());
    listen();
    listenToPanels();
    listenToStart();
    refreshStage();
    showStart();
}

void MainWindow::buildLeft() {
    left_ = new QStackedWidget(split_);
    left_->setObjectName("leftPanels");
    left_->setMinimumWidth(kLeftWidth);
    left_->setMaximumWidth(kMostWidth);
    auto* levelSide = new QWidget(left_);
    auto* column = columnOf(levelSide);
    section_ = new SectionPanel(session_, levelSide);
    strokes_ = new StrokeList(session_, *section_, levelSide);
    column->addWidget(section_, 1);
    column->addWidget(strokes_);
    sheetList_ = new SheetList(session_, left_);
    materialList_ = new MaterialList(session_, left_);
    for (QWidget* w : std::initializer_list<QWidget*>{levelSide, sheetList_, materialList_}) left_->addWidget(w);
    split_->addWidget(left_);
}

void MainWindow::buildMiddle() {
    auto* middle = new QWidget(split_);
    middle->setMinimumWidth(420);
    auto* column = columnOf(middle);
    levelView_ = new LevelView(session_, middle);
    commands_ = new LayCommands(session_, *levelView_, this);
    dress_ = new DressCommands(session_, this);
    connect(levelView_, &LevelView::scaleAsked, dress_, &DressCommands::scale);
    whyCard_ = new WhyCard(session_, *levelView_);
    toolRow_ = new ToolRow(session_, *levelView_, *commands_, middle);
    column->addWidget(toolRow_);
    clash_ = new SizeClash(session_, middle);
    column->addWidget(clash_);
    centre_ = new QStackedWidget(middle);
    cut_ = new CutCentre(session_, centre_);
    join_ = new JoinCentre(session_, centre_);
    walk_ = new WalkCentre(session_, centre_);
    handOver_ = new HandOverPage(session_, centre_);
    for (QWidget* w : std::initializer_list<QWidget*>{levelView_, cut_, join_, walk_, handOver_}) centre_->addWidget(w);
    column->addWidget(centre_, 1);
    materialList_->setSeen([this] { return levelView_->seenCells(); });
    split_->addWidget(middle);
}

void MainWindow::buildRight() {
    right_ = new QStackedWidget(split_);
    right_->setObjectName("rightPanels");
    right_->setMinimumWidth(kRightWidth);
    right_->setMaximumWidth(kMostWidth);
    auto* trayPage = new QWidget(right_);
    auto* trayColumn = columnOf(trayPage);
    tray_ = new Tray(session_, *commands_, trayPage);
    propPanel_ = new PropPanel(session_, *dress_, trayPage);
    propSide_ = scrolling(propPanel_, trayPage);
    connect(propPanel_, &PropPanel::moreShown, this, [this](QWidget* fields) {
        refreshDressed();
        QTimer::singleShot(0, propSide_, [this, fields] {
            propSide_->ensureVisible(0, fields->y() + propSide_->viewport()->height() - 40, 0, 0);
        });
    });
    markPanel_ = new MarkPanel(session_, trayPage);
    planting_ = new PlantingPanel(session_, trayPage);
    connect(planting_, &PlantingPanel::trayAsked, this, &MainWindow::refreshDressed);
    connect(&session_.planter(), &Planter::many, this, &MainWindow::askMany);
    trayColumn->addWidget(planting_, 1);
    trayColumn->addWidget(tray_, 1);
    trayColumn->addWidget(propSide_, 1);
    trayColumn->addWidget(markPanel_);
    cutSide_ = new QStackedWidget(right_);
    tilePanel_ = new TilePanel(session_, cutSide_);
    kindPanel_ = new KindPanel(session_, *cut_->view(), cutSide_);
    cutSide_->addWidget(scrolling(tilePanel_, cutSide_));
    cutSide_->addWidget(scrolling(kindPanel_, cutSide_));
    casePanel_ = new CasePanel(session_, *join_->proof(), right_);
    connect(join_, &JoinCentre::otherWanted, casePanel_, &CasePanel::otherWay);
    boundPanel_ = new BoundPanel(session_, *levelView_, right_);
    walkPanel_ = new WalkPanel(session_, *walk_, right_);
    heightPanel_ = new HeightPanel(session_, right_);
    plan_ = new PlanPanel(session_, *levelView_, right_);
    for (QWidget* w :
         std::initializer_list<QWidget*>{trayPage, cutSide_, scrolling(casePanel_, right_), boundPanel_,
                                         scrolling(walkPanel_, right_), plan_, scrolling(heightPanel_, right_)})
        right_->addWidget(w);
    split_->addWidget(right_);
}

// What is chosen, or in the Hand, below the Tray: as high as it needs to be, and at most half.
void MainWindow::refreshDressed() {
    propPanel_->refresh();
    markPanel_->refresh();
    planting_->refresh();
    planting_->setVisible(planting_->wanted());
    tray_->setVisible(!planting_->wanted());
    propSide_->setVisible(!propPanel_->isHidden());
    propSide_->setMaximumHeight(propPanel_->sizeHint().height());
}

void MainWindow::listen() {
    connect(&session_.keeper(), &Keeper::conflict, this, &MainWindow::askOutside);
    retry_.setSingleShot(true);
    retry_.setInterval(20000);
    connect(&retry_, &QTimer::timeout, this, &MainWindow::save);
    itself_.setSingleShot(true);
    itself_.setInterval(30000);
    connect(&itself_, &QTimer::timeout, this, &MainWindow::save);
    connect(&session_, &Session::changed, this, [this] {
        if (savesItself() && session_.isOpen() && session_.document().unsaved() && !itself_.isActive()) itself_.start();
    });
    connect(&session_, &Session::changed, this, &MainWindow::refresh);
    connect(&session_, &Session::handChanged, this, [this] {
        toolRow_->refresh();
        refreshDressed();
        refreshClash();
        read();
    });
    connect(&session_, &Session::selectionChanged, toolRow_, &ToolRow::refresh);
    connect(&session_, &Session::stageChanged, this, &MainWindow::refreshStage);
    connect(&session_, &Session::stageChanged, this, &MainWindow::sortActions);
    connect(&session_, &Session::findingsChanged, this, [this] {
        workline_->refresh();
        handOver_->refresh();
        read();
    });
    connect(&session_, &Session::said, this, &MainWindow::say);
    connect(readingLine_, &ReadingLine::stale, this, &MainWindow::read);
    if (auto* application = qobject_cast<Application*>(qApp))
        connect(application, &Application::trouble, this, [this](const QString& text) { say(text, true); });
    connect(&session_, &Session::opened, this, &MainWindow::sortActions);
    qApp->installEventFilter(this);
}

void MainWindow::listenToPanels() {
    listenToPages();
    connect(help_, &HelpCard::guideAsked, this, &MainWindow::showGuide);
    connect(&session_, &Session::changed, steps_, &Steps::refresh);
    connect(&session_, &Session::handChanged, steps_, &Steps::refresh);
    connect(&session_, &Session::stageChanged, steps_, &Steps::refresh);
    connect(&session_, &Session::opened, steps_, &Steps::refresh);
    connect(steps_, &Steps::guideAsked, this, &MainWindow::showGuide);
    connect(steps_, &Steps::demoArtAsked, this, [this] { beginWith({demoFolder() + "/sheets/crust.png"}); });
    connect(help_, &HelpCard::keysAsked, this, &MainWindow::showKeys);
    connect(plan_, &PlanPanel::activeChanged, this, &MainWindow::refreshStage);
    connect(levelView_, &LevelView::readingChanged, this, &MainWindow::read);
    connect(cut_, &CutCentre::readingChanged, this, &MainWindow::read);
    connect(cut_, &CutCentre::modeChanged, this, &MainWindow::refresh);
    connect(join_, &JoinCentre::readingChanged, this, &MainWindow::read);
    connect(heightPanel_, &HeightPanel::againAsked, this, [this] {
        toolRow_->solid().setWalking(false);
        refreshStage();
    });
    connect(walk_, &WalkCentre::readingChanged, this, &MainWindow::read);
    connect(&toolRow_->solid(), &SolidSwitch::walked, this, [this] { session_.setStage(before_); });
    connect(&toolRow_->solid(), &SolidSwitch::looked, this, [this] {
        if (session_.stage() == Stage::walk) refreshStage(); // it goes on in that look
    });
    connect(walk_, &WalkCentre::fallsThrough, this, &MainWindow::offerGround);
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
}

void MainWindow::refresh() {
    if (!session_.isOpen()) return;
    workline_->refresh();
    refreshStagePanels();
    toolRow_->refresh();
    refreshClash();
    setWindowTitle(
        tr("%1%2 – Vicinum")
            .arg(session_.document().unsaved() ? "• " : "", QString::fromStdString(session_.project().name)));
    read();
}

QString MainWindow::readingText() const { return readingLine_->text(); }

void MainWindow::read() {
    if (!session_.isOpen())
        return readingLine_->read(tr("<b>Drop</b> art or a project anywhere in this window"), false, {});
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
            text = walksInHeight()
                       ? tr("Walking in three dimensions · arrow keys, Space jumps · F5 to F9 look otherwise · "
                            "Esc leaves")
                       : walk_->reading();
            break;
        case Stage::handOver:
            text = tr("Ctrl+B builds every level for the engine");
            break;
        case Stage::lay:
        case Stage::dress:
        case Stage::bound:
            text = levelView_->reading().text;
            warns = levelView_->reading().warns;
            if (clash_->open() && !warns)
                text = clash_->reading(), warns = true;
            else if (const QString fate = clash_->reading(); !fate.isEmpty() && !warns)
                text += " · " + fate;
            if (const QString uneven = levelView_->honestyThere(); !uneven.isEmpty()) text = uneven + " · " + text;
            if (const QString doubt = levelView_->contrastThere(); !doubt.isEmpty()) text = doubt, warns = true;
            if (const QString who = levelView_->decidedThere(); !who.isEmpty()) text = who + " · " + text;
            section_->lightSlab(levelView_->targetLayer());
    }
    readingLine_->read(text, warns, levelView_->pointedCell());
}

void MainWindow::say(const QString& text, bool trouble) {
    if (trouble) return notice_->say(text);
    notice_->hide();
    readingLine_->say(text, levelView_->pointedCell());
}

bool MainWindow::attempt(const Go& what) {
    try {
        notice_->hide();
        what();
        return true;
    } catch (const std::exception& e) {
        say(translated(e), true);
        return false;
    }
}

// Enter settles only where there is something to settle: elsewhere the key belongs to what has the focus.
void MainWindow::refreshClash() {
    clash_->refresh();
    if (auto* settle = findChild<QAction*>("settleSizeAction")) settle->setEnabled(session_.isOpen() && clash_->open());
}

bool MainWindow::writing() {
    const QWidget* focus = QApplication::focusWidget();
    return focus && (focus->inherits("QLineEdit") || focus->inherits("QAbstractSpinBox"));
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
    showLook(t);
}

void MainWindow::showLook(const Tokens& t) {
    readingLine_->setDark(t.dark);
    notice_->setLook(t);
    toolRow_->setLook(t);
    workline_->setLook(t);
    section_->refresh();
    refresh();
}

bool MainWindow::eventFilter(QObject* object, QEvent* event) {
    // While one types into a field, keys without Ctrl are text and not commands.
    if (event->type() == QEvent::ShortcutOverride && isActiveWindow()) {
        auto* focus = QApplication::focusWidget();
        if (focus && (focus->inherits("QLineEdit") || focus->inherits("QAbstractSpinBox"))) {
            const auto* key = static_cast<QKeyEvent*>(event);
            if (!(key->modifiers() & (Qt::ControlModifier | Qt::AltModifier)) && key->key() < Qt::Key_F1)
                event->accept();
        } else if (focus && (focus->inherits("QComboBox") || focus->inherits("QAbstractSlider")) &&
                   static_cast<QKeyEvent*>(event)->text().isEmpty() &&
                   static_cast<QKeyEvent*>(event)->key() < Qt::Key_F1) {
            event->accept(); // Home, End and the arrows move in a list; others stay commands
        }
    }
    if (event->type() == QEvent::KeyPress && static_cast<QKeyEvent*>(event)->key() == Qt::Key_Escape &&
        isActiveWindow() && clash_->open() && !QApplication::activePopupWidget() && !writing()) {
        clash_->later();
        refreshClash();
        read();
        return true;
    }
    if (event->type() == QEvent::KeyRelease && blinking_ && !static_cast<QKeyEvent*>(event)->isAutoRepeat()) unblink();
    // Esc leaves the steps where it has nothing else to leave.
    if (event->type() == QEvent::KeyPress && static_cast<QKeyEvent*>(event)->key() == Qt::Key_Escape &&
        isActiveWindow() && steps_->on() && session_.hand().empty() && session_.stage() != Stage::walk)
        steps_->leave();
    if (event->type() == QEvent::ToolTip && object->isWidgetType()) {
        const auto* widget = static_cast<QWidget*>(object);
        const QString now = keys_.current(widget->toolTip(), widget->property("key").toString());
        if (now != widget->toolTip()) {
            QToolTip::showText(static_cast<QHelpEvent*>(event)->globalPos(), now);
            return true;
        }
    }
    // Enter in a field ends the typing: the keys belong to the view again.
    if (event->type() == QEvent::KeyRelease && (static_cast<QKeyEvent*>(event)->key() == Qt::Key_Return ||
                                                static_cast<QKeyEvent*>(event)->key() == Qt::Key_Enter)) {
        auto* field = qobject_cast<QWidget*>(object);
        if (field && field->window() == this && field->hasFocus() &&
            (field->inherits("QLineEdit") || field->inherits("QAbstractSpinBox")))
            focusCentre();
    }
    return QMainWindow::eventFilter(object, event);
}

// Esc is the level's, wherever in the panels one clicked last.
void MainWindow::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape && centre_->currentWidget() == levelView_ && !levelView_->hasFocus()) {
        levelView_->setFocus();
        QApplication::sendEvent(levelView_, event);
        return;
    }
    QMainWindow::keyPressEvent(event);
}

} // namespace vic::app
