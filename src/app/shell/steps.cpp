#include "app/shell/steps.hpp"

#include <QDir>
#include <QEvent>
#include <QHBoxLayout>
#include <QLabel>
#include <QPaintEvent>
#include <QPainter>
#include <QPen>
#include <QPushButton>
#include <QRect>
#include <QRectF>
#include <QVBoxLayout>
#include <algorithm>

#include "app/parts/panel.hpp"
#include "app/parts/tokens.hpp"
#include "app/shell/projects.hpp"
#include "app/view/level_view.hpp"
#include "edit/beginnings.hpp"
#include "level/level.hpp"
#include "level/project.hpp"

namespace vic::app {

namespace {

constexpr int kCard = 292;
constexpr int kWatch = 400; // ms between looks at what no signal tells of: a build that is done
constexpr int kAway = 10;   // pixels between the card and the control
constexpr int kInside = 16; // from the corner of a view that fills the middle

} // namespace

StepRing::StepRing(QWidget* parent) : QWidget(parent) {
    setObjectName("stepRing");
    setAttribute(Qt::WA_TransparentForMouseEvents);
    hide();
}

void StepRing::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(tokensOf(this).vermilion, 2));
    p.drawRoundedRect(QRectF(rect()).adjusted(1, 1, -1, -1), 6, 6);
}

Steps::Steps(Session& session, LevelView& view, QWidget* window)
    : QFrame(window), session_(session), view_(view), window_(window) {
    setObjectName("steps");
    setAttribute(Qt::WA_StyledBackground);
    ring_ = new StepRing(window);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 10, 14, 10);
    column->setSpacing(4);
    count_ = label({}, "quiet", this);
    count_->setObjectName("stepCount");
    what_ = label({}, "title", this);
    what_->setObjectName("stepWhat");
    then_ = label({}, "quiet", this);
    then_->setObjectName("stepThen");
    for (QLabel* l : {count_, what_, then_}) {
        l->setWordWrap(true);
        column->addWidget(l);
    }
    column->addSpacing(6);
    auto* row = new QHBoxLayout;
    row->setSpacing(8);
    demo_ = new QPushButton(tr("Take a sheet of the demo"), this);
    demo_->setObjectName("stepDemo");
    guide_ = new QPushButton(tr("Read on in the guide"), this);
    guide_->setObjectName("stepGuide");
    leave_ = new QPushButton(tr("Leave"), this);
    leave_->setObjectName("stepLeave");
    describe(leave_, tr("Leave"), "Esc", tr("They can be taken up again from the menu of the project"));
    for (QPushButton* b : {demo_, guide_, leave_}) {
        b->setFocusPolicy(Qt::TabFocus);
        row->addWidget(b);
    }
    row->addStretch();
    column->addLayout(row);
    connect(demo_, &QPushButton::clicked, this, &Steps::demoArtAsked);
    connect(guide_, &QPushButton::clicked, this, [this] { emit guideAsked({}); });
    connect(leave_, &QPushButton::clicked, this, &Steps::leave);
    settle_.setSingleShot(true);
    settle_.setInterval(0);
    connect(&settle_, &QTimer::timeout, this, &Steps::place);
    watch_.setInterval(kWatch);
    connect(&watch_, &QTimer::timeout, this, &Steps::refresh);
    hide();
    window->installEventFilter(this);
    view.installEventFilter(this);
}

void Steps::begin() {
    on_ = true;
    done_ = {};
    watch_.start();
    refresh();
}

void Steps::leave() {
    on_ = false;
    watch_.stop();
    hide();
    ring_->hide();
}

// Who is still in there has not come back yet.
bool Steps::walked() const {
    return session_.isOpen() && session_.stage() != Stage::walk &&
           (session_.tried() == Session::Tried::walked || session_.tried() == Session::Tried::exit);
}

Steps::Step Steps::first() const {
    if (!session_.isOpen()) return Art;
    const level::Project& p = session_.project();
    const level::Level* level = session_.level();
    const bool accepted = std::any_of(p.sheets.begin(), p.sheets.end(), [](const auto& s) { return s->accepted; });
    const bool laid = level && !edit::is_empty(*level);
    const bool met[kSteps] = {
        !p.sheets.empty(),
        accepted,
        !p.materials.empty(),
        laid || !session_.hand().empty(),
        laid,
        walked() || done_[Walk],
        !QDir(session_.builtDir()).entryList(QDir::Dirs | QDir::NoDotAndDotDot).isEmpty(),
    };
    for (int i = 0; i < kSteps; ++i)
        if (!met[i]) return static_cast<Step>(i);
    return Done;
}

Steps::Said Steps::said(Step step) const {
    const Stage stage = session_.stage();
    // Where the step is in another stage, the way there comes first.
    const auto at = [&](Stage of, const char* button, const QString& what, const QString& then,
                        const char* beside) -> Said {
        if (stage == of) return {what, then, beside};
        return {tr("Go to %1")
                    .arg(of == Stage::cut   ? tr("Cut")
                         : of == Stage::lay ? tr("Lay")
                                            : tr("Hand over")),
                what, button};
    };
    switch (step) {
        case Art:
            if (!session_.isOpen())
                return {tr("Drop a sheet of tiles here"),
                        tr("A project of it is made; its tiles and gaps are read, and the level takes its cells."),
                        "dropArea"};
            return at(Stage::cut, "stage-cut", tr("Drop a sheet of tiles into the window"),
                      tr("Its tiles and gaps are read, and the level takes its cells."), "sheetView");
        case Cut:
            return at(Stage::cut, "stage-cut", tr("Enter takes the cut"),
                      tr("It is what the program read in the picture; other readings stand beside it."), "takeCut");
        case Joins:
            return at(Stage::cut, "stage-cut", tr("M reads how the tiles meet"),
                      tr("They become a material that paints its own edges and corners."), "readJoins");
        case Take:
            return at(Stage::lay, "stage-lay", tr("Click the material: it is in the Hand"),
                      tr("What a click would lay is seen under the pointer before it."), "tray");
        case Paint:
            return at(Stage::lay, "stage-lay", tr("Draw ground with the left button held"),
                      tr("Edges join by themselves. The right button takes away, Ctrl+Z takes back."), "levelView");
        case Walk:
            if (stage == Stage::walk)
                return {tr("Walk with the arrow keys"), tr("Up or Space jumps in a side view. Esc comes back."),
                        "walkPanel"};
            return {tr("Try it: Ctrl+6"), tr("A figure true to size walks in what was drawn."), "stage-walk"};
        case Build:
            return at(Stage::handOver, "stage-hand-over", tr("Ctrl+B builds it for the engine"),
                      tr("A parcel with pictures, cells and outlines; it is played beside here."), "build");
        case Done:
            return {tr("That was a level"),
                    tr("From a picture to what an engine loads. F1 tells of what is under "
                       "the pointer, Shift+F1 all keys."),
                    "stage-lay"};
    }
    return {};
}

void Steps::refresh() {
    if (!on_) return;
    if (walked()) done_[Walk] = true;
    const Step step = first();
    const Said text = said(step);
    count_->setText(step == Done ? tr("Seven of seven") : tr("%1 of %2").arg(step + 1).arg(kSteps));
    what_->setText(text.what);
    then_->setText(text.then);
    beside_ = text.beside;
    demo_->setVisible(step == Art && !demoFolder().isEmpty());
    guide_->setVisible(step == Done);
    leave_->setText(step == Done ? tr("Close") : tr("Leave"));
    setAccessibleName(text.what);
    settle_.start();
}

void Steps::place() {
    if (!on_) return;
    QWidget* control = nullptr;
    for (QWidget* w : window_->findChildren<QWidget*>(beside_))
        if (w->isVisible()) control = w;
    const bool seen = control && !pressed_;
    for (QWidget* w : findChildren<QWidget*>()) w->ensurePolished();
    setFixedWidth(kCard);
    for (QLabel* l : {count_, what_, then_}) l->setMinimumHeight(l->heightForWidth(kCard - 32));
    layout()->activate();
    resize(kCard, layout()->totalSizeHint().height());
    if (seen) {
        const QRect of(control->mapTo(window_, QPoint()), control->size());
        const bool fills = of.width() > window_->width() / 3 && of.height() > window_->height() / 3;
        const QRect room = window_->rect().adjusted(8, 8, -8, -8);
        QPoint at(of.center().x() - width() / 2, of.bottom() + kAway);
        if (fills)
            at = of.bottomLeft() + QPoint(kInside, -kInside - height());
        else if (at.y() + height() > room.bottom() || of.height() > window_->height() / 3)
            at = QPoint(of.left() - kAway - width(), of.center().y() - height() / 2); // of a panel on the right
        if (at.x() < room.left() && !fills) at.setX(of.right() + kAway);
        at.setX(std::clamp(at.x(), room.left(), std::max(room.left(), room.right() - width())));
        at.setY(std::clamp(at.y(), room.top(), std::max(room.top(), room.bottom() - height())));
        move(at);
        ring_->setGeometry(fills ? QRect() : of.adjusted(-3, -3, 3, 3));
        raise();
        ring_->raise();
    }
    setVisible(seen);
    ring_->setVisible(seen && !ring_->geometry().isEmpty());
}

bool Steps::eventFilter(QObject* object, QEvent* event) {
    if (!on_) return false;
    if (object == window_ && event->type() == QEvent::Resize) settle_.start();
    if (object == &view_ &&
        (event->type() == QEvent::MouseButtonPress || event->type() == QEvent::MouseButtonRelease)) {
        pressed_ = event->type() == QEvent::MouseButtonPress;
        settle_.start();
    }
    return false;
}

} // namespace vic::app
