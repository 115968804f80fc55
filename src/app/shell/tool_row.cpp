#include "app/shell/tool_row.hpp"

#include <QAction>
#include <QColor>
#include <QCoreApplication>
#include <QHBoxLayout>
#include <QIcon>
#include <QInputDialog>
#include <QKeySequence>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPoint>
#include <QRegularExpression>
#include <QToolButton>
#include <algorithm>
#include <functional>
#include <initializer_list>

#include "app/gesture/tools.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/tokens.hpp"
#include "app/session/session.hpp"
#include "app/shell/stand_options.hpp"
#include "app/solid/solid_switch.hpp"
#include "base/geometry.hpp"
#include "base/lattice.hpp"
#include "edit/fill.hpp"
#include "edit/stroke.hpp"
#include "level/level.hpp"
#include "level/project.hpp"
#include "level/stamp.hpp"

namespace vic::app {

ToolRow::ToolRow(Session& session, LevelView& view, LayCommands& commands, QWidget* parent)
    : QWidget(parent), session_(session), view_(view), commands_(commands) {
    setObjectName("toolRow");
    setFixedHeight(40);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(10, 4, 10, 4);
    row->setSpacing(2);
    solid_ = new SolidSwitch(session_, view_);
    buildTools();
    row->addSpacing(4);
    row->addWidget(uprightLine(this));
    row->addSpacing(4);
    options_ = new QWidget(this);
    auto* inner = new QHBoxLayout(options_);
    inner->setContentsMargins(0, 0, 0, 0);
    inner->setSpacing(2);
    row->addWidget(options_);
    buildOptions();
    stand_ = new StandOptions(session_, this);
    row->addWidget(stand_);
    row->addStretch();
    outlines_ = toggle("showOutlines", "outline", tr("Outlines"), "O", tr("Draws what blocks over the art"));
    frame_ =
        toggle("showFrame", "frame", tr("Frame"), "F",
               tr("What the game shows; dragged by its tag while the Hand is empty, the right button offers devices"));
    jump_ = toggle("showJump", "jump", tr("Jump"), "J", tr("How high and far the figure jumps, from where it stands"));
    soak_ =
        toggle("showSoak", "soak", tr("Soak"), "D",
               tr("A colour runs from the start over all that the walker can be moved over: what is wet is reached, "
                  "and where it leaks is marked"));
    reach_ = toggle("showReach", "reach", tr("Reach"), "Shift+Y",
                    tr("On which surfaces one can stand, and which of them the walker gets to from the start; where he "
                       "lands from the one that is pointed at is drawn thick"));
    lattice_ = toggle("showLattice", "snap", tr("Lattice"), "L",
                      tr("Lines between the cells; the right button offers stronger ones"));
    for (auto* b : {outlines_, soak_, reach_, frame_, jump_, lattice_}) row->addWidget(b);
    frame_->setChecked(true);
    lattice_->setChecked(true);
    connect(outlines_, &QToolButton::toggled, &view_, &LevelView::setOutlines);
    connect(soak_, &QToolButton::clicked, &view_, &LevelView::setSoak);
    connect(reach_, &QToolButton::clicked, &view_, &LevelView::setReach);
    connect(frame_, &QToolButton::toggled, &view_, &LevelView::setFrameGuide);
    connect(lattice_, &QToolButton::toggled, &view_, &LevelView::setLattice);
    connect(jump_, &QToolButton::toggled, &view_, &LevelView::setJumpArc);
    for (auto* b : {frame_, lattice_}) b->setContextMenuPolicy(Qt::CustomContextMenu);
    connect(frame_, &QWidget::customContextMenuRequested, this, &ToolRow::showFrameMenu);
    connect(lattice_, &QWidget::customContextMenuRequested, this, &ToolRow::showLatticeMenu);
    row->addSpacing(6);
    cell_ = label({}, "quiet", this);
    row->addWidget(cell_);
    row->addSpacing(6);
    zoom_ = label({}, "quiet", this);
    zoom_->setObjectName("zoom");
    zoom_->setMinimumWidth(36);
    zoom_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    row->addWidget(zoom_);
    connect(&view_, &LevelView::cameraChanged, this, [this] {
        const double z = view_.zoom() * 100;
        zoom_->setText(tr("%1 %").arg(z < 10 ? QString::number(z, 'f', 1) : QString::number(z)));
    });
}

void ToolRow::buildTools() {
    for (const ToolKind& kind : allTools()) {
        const QString name = QCoreApplication::translate("Tools", kind.name);
        auto* b = toolButton(this, QString("tool%1").arg(kind.tool.id), kind.icon, name, {}, "tool");
        describe(b, name, kind.key.toString(QKeySequence::NativeText), QCoreApplication::translate("Tools", kind.help));
        b->setCheckable(true);
        // Signs alone: there are many, and the reading line says what the one in use does.
        b->setToolButtonStyle(Qt::ToolButtonIconOnly);
        connect(b, &QToolButton::clicked, this, [this, tool = kind.tool] { session_.setTool(tool); });
        tools_.emplace_back(kind.tool, b);
        icons_[b] = kind.icon;
        layout()->addWidget(b);
    }
}

QToolButton* ToolRow::toggle(const char* id, const char* iconName, const QString& name, const QString& key,
                             const QString& help) {
    auto* b = toolButton(this, id, iconName, {}, {}, "toggle");
    describe(b, name, key, help);
    b->setCheckable(true);
    icons_[b] = iconName;
    return b;
}

void ToolRow::buildOptions() {
    const auto option = [&](const char* id, const char* iconName, const QString& name, const QString& key,
                            const QString& help, const std::function<void(ToolOptions&, bool)>& set) {
        auto* b = toggle(id, iconName, name, key, help);
        options_->layout()->addWidget(b);
        connect(b, &QToolButton::clicked, this, [this, set](bool on) {
            ToolOptions o = session_.options();
            set(o, on);
            session_.setOptions(o);
        });
        return b;
    };
    round_ = toggle("optionRound", "round", tr("Round tip"), {}, tr("The pencil's tip is round instead of square"));
    options_->layout()->addWidget(round_);
    connect(round_, &QToolButton::clicked, this, [this](bool on) {
        edit::Hand hand = session_.hand();
        hand.round = on;
        session_.setHand(hand);
    });
    rim_ = option("optionRim", "rim", tr("Rim only"), {}, tr("One cell thick, with nothing inside"),
                  [](ToolOptions& o, bool on) { o.rim = on; });
    blockerLine_ = option("optionBlockerLine", "line", tr("As a line"), {},
                          tr("Lines with a width instead of boxes and shapes; Ctrl+wheel changes it"),
                          [](ToolOptions& o, bool on) { o.blockerLine = on; });
    blockerOpens_ = option("optionBlockerOpens", "maywalk", tr("Lets one walk"), {},
                           tr("Nothing that lies below it blocks, instead of it blocking"),
                           [](ToolOptions& o, bool on) { o.blockerOpens = on; });
    alike_ = toolButton(this, "optionAlike", {}, {}, {}, "link");
    alike_->setPopupMode(QToolButton::InstantPopup);
    alike_->setStyleSheet("QToolButton::menu-indicator { image: none; }");
    describe(alike_, tr("What counts as alike"), {}, tr("By which cells are filled, replaced and selected together"));
    auto* menu = new QMenu(alike_);
    menu->setObjectName("alikeMenu");
    const std::initializer_list<std::pair<QString, edit::Alike>> kinds{{tr("by content"), edit::Alike::content},
                                                                       {tr("by tile"), edit::Alike::tile},
                                                                       {tr("by material"), edit::Alike::material}};
    for (const auto& [text, kind] : kinds)
        connect(menu->addAction(text), &QAction::triggered, this, [this, k = kind] {
            ToolOptions o = session_.options();
            o.fill.alike = k;
            session_.setOptions(o);
        });
    alike_->setMenu(menu);
    options_->layout()->addWidget(alike_);
    corners_ = option("optionCorners", "corners", tr("Over corners"), {},
                      tr("Cells hang together at their corners, too: eight neighbours instead of four"),
                      [](ToolOptions& o, bool on) { o.fill.corners = on; });
    allLayers_ =
        option("optionAllLayers", "layers", tr("All shown layers"), {},
               tr("Counts what lies on every shown layer, not on one alone"), [this](ToolOptions& o, bool on) {
                   ((kindOf(session_.tool()).options & ToolKind::selects) != 0 ? o.allLayers : o.fill.all_layers) = on;
               });
    replaces_ = option("optionReplaces", "instead", tr("In its place"), "X",
                       tr("See-through tiles take the place of what is there; else they go over it, to its overlay"),
                       [](ToolOptions& o, bool on) { o.replaces = on; });
    const auto button = [&](const char* id, const char* icon, const QString& name, const QString& key,
                            const QString& help) {
        auto* b = toolButton(this, id, icon, {}, {}, "toggle");
        describe(b, name, key, help);
        icons_[b] = icon;
        options_->layout()->addWidget(b);
        return b;
    };
    grow_ = button("selectGrow", "add", tr("Grow the selection"), tr("Ctrl++"), tr("By one cell on all sides"));
    shrink_ = button("selectShrink", "less", tr("Shrink the selection"), tr("Ctrl+-"), tr("By one cell on all sides"));
    keepStamp_ = button("selectKeep", "stamp", tr("Keep as a stamp"), tr("Ctrl+T"),
                        tr("What is selected goes into the Tray, to be laid again"));
    connect(grow_, &QToolButton::clicked, this, [this] { commands_.grow(true); });
    connect(shrink_, &QToolButton::clicked, this, [this] { commands_.grow(false); });
    connect(keepStamp_, &QToolButton::clicked, this, [this] { commands_.keepStamp(); });
}

void ToolRow::showFrameMenu() {
    if (!session_.level()) return;
    auto* menu = new QMenu(this);
    menu->setObjectName("frameMenu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    std::vector<level::FrameSize> sizes = session_.project().frames;
    for (const auto& [name, size] :
         std::initializer_list<std::pair<QString, Size>>{{tr("Handheld, 20 × 14 cells"), {320, 224}},
                                                         {tr("Wide, 16 : 9"), {384, 216}},
                                                         {tr("Wide, large"), {640, 360}}})
        if (std::none_of(sizes.begin(), sizes.end(), [&, s = size](const auto& f) { return f.size == s; }))
            sizes.push_back({name.toStdString(), size});
    for (const level::FrameSize& f : sizes) {
        auto* a =
            menu->addAction(tr("%1 · %2 × %3 px").arg(QString::fromStdString(f.name)).arg(f.size.w).arg(f.size.h));
        a->setCheckable(true);
        a->setChecked(f.size == session_.level()->frame);
        connect(a, &QAction::triggered, this, [this, f] {
            level::Project p = session_.project();
            if (std::find(p.frames.begin(), p.frames.end(), f) == p.frames.end()) p.frames.push_back(f);
            level::Level next = *session_.level();
            next.frame = f.size;
            p.put(std::move(next));
            session_.apply(tr("Another frame"), std::move(p));
        });
    }
    connect(menu->addAction(tr("Another size…")), &QAction::triggered, this, [this] {
        bool ok = false;
        const QString text =
            QInputDialog::getText(this, tr("A device's frame"), tr("Name and size in pixels (\"Tablet 480x320\"):"),
                                  QLineEdit::Normal, {}, &ok);
        const auto m = QRegularExpression("^(.*?)\\s*(\\d{2,5})\\s*[x×]\\s*(\\d{2,5})\\s*$").match(text);
        if (!ok || !m.hasMatch()) return;
        level::Project p = session_.project();
        const Size size{m.captured(2).toInt(), m.captured(3).toInt()};
        p.frames.push_back(
            {m.captured(1).trimmed().toStdString(), {std::clamp(size.w, 16, 65536), std::clamp(size.h, 16, 65536)}});
        level::Level next = *session_.level();
        next.frame = p.frames.back().size;
        p.put(std::move(next));
        session_.apply(tr("Another frame"), std::move(p));
    });
    menu->addSeparator();
    auto* back = menu->addAction(tr("Around the start again"));
    back->setEnabled(session_.level()->frame_at.has_value());
    connect(back, &QAction::triggered, this, [this] {
        level::Level next = *session_.level();
        next.frame_at.reset();
        session_.applyLevel(tr("Move the frame"), std::move(next));
    });
    menu->popup(frame_->mapToGlobal(QPoint(0, frame_->height())));
}

void ToolRow::showLatticeMenu() {
    if (!session_.level()) return;
    auto* menu = new QMenu(this);
    menu->setObjectName("latticeMenu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    for (const int every : {0, 2, 4, 5, 8, 10, 16, 32}) {
        auto* a =
            menu->addAction(every == 0 ? tr("No stronger lines") : tr("A stronger line every %1 cells").arg(every));
        a->setCheckable(true);
        a->setChecked(session_.level()->lines_every == every);
        connect(a, &QAction::triggered, this, [this, every] {
            level::Level next = *session_.level();
            next.lines_every = every;
            session_.applyLevel(tr("Stronger lines of the lattice"), std::move(next));
        });
    }
    menu->popup(lattice_->mapToGlobal(QPoint(0, lattice_->height())));
}

void ToolRow::refreshStage() {
    const bool dress = session_.stage() == Stage::dress;
    const bool bound = session_.stage() == Stage::bound;
    for (auto& [tool, button] : tools_) button->setVisible(tool.dresses == dress && (bound || !tool.bounds));
    outlines_->setVisible(!bound);
    soak_->setVisible(bound);
    refresh();
}

void ToolRow::refresh() {
    solid_->refresh();
    reach_->setVisible(session_.level() && session_.level()->view == level::View::from_the_side);
    for (auto& [tool, button] : tools_) button->setChecked(session_.tool() == tool);
    const ToolKind& kind = kindOf(session_.tool());
    const auto has = [&](unsigned option) { return (kind.options & option) != 0; };
    const ToolOptions& o = session_.options();
    const edit::Hand& hand = session_.hand();
    round_->setVisible(has(ToolKind::tip));
    round_->setChecked(hand.round);
    rim_->setVisible(has(ToolKind::box));
    rim_->setChecked(o.rim);
    for (auto* b : {blockerLine_, blockerOpens_}) b->setVisible(has(ToolKind::draws));
    blockerLine_->setChecked(o.blockerLine);
    blockerOpens_->setChecked(o.blockerOpens);
    corners_->setVisible(has(ToolKind::hangs));
    corners_->setChecked(o.fill.corners);
    alike_->setVisible(has(ToolKind::alike));
    alike_->setText(o.fill.alike == edit::Alike::tile       ? tr("by tile")
                    : o.fill.alike == edit::Alike::material ? tr("by material")
                                                            : tr("by content"));
    allLayers_->setVisible(has(ToolKind::alike | ToolKind::selects));
    allLayers_->setChecked(has(ToolKind::selects) ? o.allLayers : o.fill.all_layers);
    const bool tiles = hand.is<edit::held::Tile>() || hand.is<edit::held::Spread>();
    replaces_->setVisible(kind.lays && session_.tool() != Tool::eraser && tiles);
    replaces_->setChecked(o.replaces);
    for (auto* b : {grow_, shrink_, keepStamp_}) b->setVisible(has(ToolKind::selects) && !session_.selection().empty());
    const level::Level* level = session_.isOpen() ? session_.level() : nullptr;
    const bool isometric = level && level->lattice != LatticeKind::square;
    cell_->setText(!level                           ? QString()
                   : isometric                      ? tr("◇ %1 × %2 px").arg(level->cell.w).arg(level->cell.h)
                   : level->cell.w == level->cell.h ? tr("%1 px").arg(level->cell.w)
                                                    : tr("%1 × %2 px").arg(level->cell.w).arg(level->cell.h));
    cell_->setToolTip(isometric ? tr("A cell of the isometric lattice: the box around its diamond, in pixels")
                                : tr("A cell of the lattice, in pixels"));
    stand_->refresh();
    makeRoom();
}

void ToolRow::resizeEvent(QResizeEvent*) { makeRoom(); }

void ToolRow::makeRoom() {
    for (auto* l : {cell_, zoom_}) l->show();
    for (auto* l : {cell_, zoom_}) {
        layout()->activate();
        if (layout()->totalMinimumSize().width() <= width()) break;
        l->hide();
    }
    zoom_->setToolTip(cell_->isVisibleTo(this) ? QString() : tr("A cell is %1").arg(cell_->text()));
}

void ToolRow::setLook(const Tokens& t) {
    stand_->setLook(t);
    for (auto& [button, name] : icons_) {
        QIcon both = icon(name, t.ink);
        const bool tool = button->property("role").toString() == "tool";
        const QIcon lit = icon(name, !tool ? t.panel : t.dark ? t.window : QColor("#FFFFFF"));
        both.addPixmap(lit.pixmap(40, 40), QIcon::Normal, QIcon::On);
        button->setIcon(both);
    }
}

} // namespace vic::app
