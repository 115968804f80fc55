#include "app/cut/cut_centre.hpp"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QKeySequence>
#include <QLabel>
#include <QLayoutItem>
#include <QPushButton>
#include <QShortcut>
#include <QSignalBlocker>
#include <QSizePolicy>
#include <QSpinBox>
#include <QStackedWidget>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <optional>
#include <utility>

#include "app/cut/cut_words.hpp"
#include "app/cut/reading_card.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/translated.hpp"
#include "base/text.hpp"
#include "edit/beginnings.hpp"
#include "edit/props.hpp"
#include "edit/sheets.hpp"
#include "level/level.hpp"
#include "level/project.hpp"
#include "level/props.hpp"
#include "level/sheet.hpp"
#include "sheet/cut.hpp"
#include "sheet/read_cut.hpp"

namespace vic::app {

namespace {

// As the fields show them.
std::array<int, 7> cutNumbers(const level::Cut& cut) {
    return {cut.tile.w, cut.tile.h, cut.margin.x, cut.margin.y, cut.spacing.x, cut.spacing.y, cut.scale};
}

} // namespace

CutCentre::CutCentre(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    cards_ = new QWidget(this);
    cards_->setFixedHeight(60);
    cardRow_ = new QHBoxLayout(cards_);
    cardRow_->setContentsMargins(12, 8, 12, 8);
    cardRow_->setSpacing(8);
    cards_->setSizePolicy(QSizePolicy::Ignored,
                          QSizePolicy::Fixed); // the last of many give way to what takes the first
    auto* top = new QHBoxLayout;
    top->setContentsMargins(0, 0, 0, 0);
    top->addWidget(cards_, 1);
    buildTake(top);
    column->addLayout(top);
    column->addWidget(rule(this));

    auto* second = new QWidget(this);
    second->setFixedHeight(42);
    auto* row = new QHBoxLayout(second);
    row->setContentsMargins(12, 0, 12, 0);
    row->setSpacing(3);
    const QString modes[2] = {tr("Lattice"), tr("Islands")};
    const QString helps[2] = {tr("Tiles of one size in rows and columns"),
                              tr("Loose pictures of any size, each a prop of its own")};
    for (int i = 0; i < 2; ++i) {
        auto* b = toolButton(second, i == 0 ? "modeLattice" : "modeIslands", {}, modes[i], {}, "toggle");
        describe(b, modes[i], i == 0 ? "Shift+L" : "Shift+I", helps[i]);
        b->setCheckable(true);
        connect(b, &QToolButton::clicked, this, [this, i] { setMode(static_cast<SheetView::Mode>(i)); });
        modes_[static_cast<std::size_t>(i)] = b;
        row->addWidget(b);
    }
    rows_ = new QStackedWidget(second);
    rows_->addWidget(buildHandRow());
    rows_->addWidget(buildIslandRow());
    row->addWidget(rows_, 1);
    column->addWidget(second);
    column->addWidget(rule(this));
    buildWaiting(column);
    buildView(column);
    column->addWidget(rule(this));
    showRow_ = buildShowRow();
    column->addWidget(showRow_);
    const auto lattice = [this] { return view_->mode() == SheetView::Mode::lattice; };
    fields_.follow([this, lattice] {
        modes_[0]->setChecked(lattice());
        modes_[1]->setChecked(!lattice());
        rows_->setCurrentIndex(lattice() ? 0 : 1);
    });
    for (QWidget* w : {cards_, showRow_}) fields_.bindShown(w, lattice);
    for (const auto& [key, mode] :
         {std::pair{tr("Shift+L"), SheetView::Mode::lattice}, {tr("Shift+I"), SheetView::Mode::islands}}) {
        auto* shortcut = new QShortcut(QKeySequence(key), this);
        shortcut->setContext(Qt::WidgetWithChildrenShortcut);
        connect(shortcut, &QShortcut::activated, this, [this, mode = mode] { setMode(mode); });
    }
}

void CutCentre::buildWaiting(QVBoxLayout* column) {
    waitStrip_ = new QWidget(this);
    waitStrip_->setObjectName("waitStrip");
    auto* waitRow = new QHBoxLayout(waitStrip_);
    waitRow->setContentsMargins(14, 6, 12, 6);
    waitText_ = label({}, "warning", waitStrip_);
    waitText_->setObjectName("waitText");
    waitText_->setWordWrap(true);
    waitRow->addWidget(waitText_, 1);
    auto* go = new QPushButton(tr("Do it"), waitStrip_);
    go->setObjectName("waitGo");
    auto* leave = new QPushButton(tr("Leave it as it is"), waitStrip_);
    leave->setObjectName("waitLeave");
    connect(go, &QPushButton::clicked, this, [this] { session_.answer(true); });
    connect(leave, &QPushButton::clicked, this, [this] { session_.answer(false); });
    waitRow->addWidget(go);
    waitRow->addWidget(leave);
    fields_.bindShown(waitStrip_, [this] { return session_.waiting().has_value(); });
    fields_.bindLabel(waitText_, [this] {
        if (!session_.waiting()) return QString();
        return tr("%1: %2. Undo would bring it back.")
            .arg(session_.waiting()->name, translated(session_.waiting()->losses));
    });
    column->addWidget(waitStrip_);
}

void CutCentre::buildView(QVBoxLayout* column) {
    view_ = new SheetView(session_, SheetView::Use::cut, this);
    view_->setObjectName("sheetView");
    column->addWidget(view_, 1);
    connect(view_, &SheetView::tileClicked, this, [this](level::TileId id, Qt::KeyboardModifiers modifiers) {
        std::vector<level::TileId> tiles =
            modifiers & Qt::ControlModifier ? session_.tiles() : std::vector<level::TileId>{};
        const auto at = std::find(tiles.begin(), tiles.end(), id);
        if (at == tiles.end())
            tiles.push_back(id);
        else
            tiles.erase(at);
        session_.setTiles(tiles);
    });
    connect(view_, &SheetView::tilesDragged, &session_, &Session::setTiles);
    connect(view_, &SheetView::tileHovered, this, &CutCentre::hover);
    connect(view_, &SheetView::boxDrawn, this, &CutCentre::addProp);
    connect(view_, &SheetView::cutPulled, this, &CutCentre::pull);
    connect(view_, &SheetView::kindsChosen, this, &CutCentre::modeChanged);
    connect(view_, &SheetView::kindChanged, this, [this](const level::PropKind& kind) {
        session_.apply(tr("Move %1 on its sheet").arg(QString::fromStdString(kind.name)),
                       edit::change_kind(session_.project(), kind), "kind-" + std::to_string(kind.id));
    });
}

void CutCentre::buildTake(QHBoxLayout* row) {
    takeButton_ = new QPushButton(tr("Take this cut"), this);
    takeButton_->setObjectName("takeCut");
    takeButton_->setProperty("role", "primary");
    describe(takeButton_, tr("Take this cut"), "Enter", tr("The sheet's tiles are then ready to be laid"));
    connect(takeButton_, &QPushButton::clicked, this, &CutCentre::takeBest);
    fields_.bindShown(takeButton_, [this] {
        const level::Sheet* s = session_.sheet();
        return s && s->image && !s->accepted && view_->mode() == SheetView::Mode::lattice;
    });
    fields_.follow([this] { takeButton_->setText(takeText()); });
    row->addWidget(takeButton_);
    row->addSpacing(12);
}

QWidget* CutCentre::buildHandRow() {
    auto* hand = new QWidget(this);
    auto* row = new QHBoxLayout(hand);
    row->setContentsMargins(6, 0, 0, 0);
    row->setSpacing(4);
    static const char* ids[7] = {"tileWidth", "tileHeight", "marginX", "marginY", "spacingX", "spacingY", "cutScale"};
    const QString groups[4] = {tr("tile"), tr("margin"), tr("gaps"), tr("enlarged")};
    const QString names[7] = {tr("Tile width"), tr("Tile height"), tr("Left margin"), tr("Upper margin"),
                              tr("Gap across"), tr("Gap down"),    tr("Enlarged by")};
    for (int i = 0; i < 7; ++i) {
        if (i % 2 == 0) {
            row->addSpacing(1);
            row->addWidget(label(groups[i / 2], "quiet"));
        }
        auto* box = new QSpinBox(hand);
        box->setObjectName(ids[i]);
        box->setAccessibleName(names[i]);
        box->setToolTip(names[i] + tr(", in pixels of the picture"));
        if (i == 6) box->setToolTip(tr("The whole factor by which the art was enlarged"));
        box->setRange(i < 2 || i == 6 ? 1 : 0, i == 6 ? 64 : 16384);
        box->setFixedWidth(i < 2 ? 44 : 38);
        box->setAlignment(Qt::AlignCenter);
        const auto at = static_cast<std::size_t>(i);
        fields_.bindInt(
            box, [this, box, at] { return session_.sheet() ? cutNumbers(session_.sheet()->cut)[at] : box->value(); },
            [this](int) { byHand(); });
        fields_.bindEnabled(box, [this] { return session_.sheet() && session_.sheet()->image; });
        numbers_[at] = box;
        row->addWidget(box);
    }
    row->addStretch();
    return hand;
}

QWidget* CutCentre::buildIslandRow() {
    auto* bar = new QWidget(this);
    auto* row = new QHBoxLayout(bar);
    row->setContentsMargins(6, 0, 0, 0);
    row->setSpacing(4);
    const auto number = [&](const char* id, const QString& before, const QString& help, int least, int most) {
        row->addSpacing(5);
        row->addWidget(label(before, "quiet"));
        auto* box = new QSpinBox(bar);
        box->setObjectName(id);
        box->setAccessibleName(before);
        box->setToolTip(help);
        box->setRange(least, most);
        box->setSuffix(tr(" px"));
        box->setFixedWidth(66);
        connect(box, &QSpinBox::valueChanged, this, [this] { findIslands(false); });
        row->addWidget(box);
        return box;
    };
    joinGap_ =
        number("joinGap", tr("join parts within"), tr("Parts that are no further apart belong to one island"), 0, 64);
    leastArea_ = number("leastArea", tr("specks under"), tr("Islands of fewer pixels are left out"), 1, 1 << 20);
    byCells_ = new QCheckBox(tr("one a cell"), bar);
    byCells_->setObjectName("byCells");
    byCells_->setToolTip(tr(
        "What lies in one cell of the lattice is one island, however far apart its parts are and whatever they touch"));
    connect(byCells_, &QCheckBox::toggled, this, [this] { findIslands(false); });
    row->addSpacing(5);
    row->addWidget(byCells_);
    row->addSpacing(8);
    islandCount_ = label({}, "quiet", bar);
    islandCount_->setObjectName("islandCount");
    row->addWidget(islandCount_);
    row->addStretch();
    takeIslands_ = new QPushButton(bar);
    takeIslands_->setObjectName("takeIslands");
    takeIslands_->setProperty("role", "primary");
    connect(takeIslands_, &QPushButton::clicked, this, &CutCentre::takeIslands);
    row->addWidget(takeIslands_);
    return bar;
}

QWidget* CutCentre::buildShowRow() {
    auto* bar = new QWidget(this);
    bar->setFixedHeight(32);
    auto* row = new QHBoxLayout(bar);
    row->setContentsMargins(12, 0, 12, 0);
    row->setSpacing(4);
    trouble_ = label({}, "warning", bar);
    trouble_->setObjectName("cutTrouble");
    row->addWidget(trouble_);
    row->addStretch();
    row->addWidget(label(tr("Show"), "quiet"));
    const struct {
        const char* id;
        QString name, help;
        unsigned mark;
    } entries[] = {
        {"showShapes", tr("shapes"), tr("What a tile blocks, at its lower right"), SheetView::kShapes},
        {"showBlank", tr("blank"), tr("Cells with nothing in them"), SheetView::kBlank},
        {"showOver", tr("over the line"), tr("Cells whose art goes over a line that should be clear"),
         SheetView::kOver},
        {"showJoined", tr("in materials"), tr("Tiles that serve a case of a material, at their upper right"),
         SheetView::kJoined},
        {"showNotes", tr("notes"), tr("Tiles with notes or tags, at their upper left"), SheetView::kNotes},
    };
    for (const auto& e : entries) {
        auto* b = toolButton(bar, e.id, {}, e.name, {}, "pill");
        describe(b, e.name, {}, e.help);
        b->setCheckable(true);
        b->setChecked(true);
        connect(b, &QToolButton::toggled, this, [this, mark = e.mark](bool on) {
            view_->setMarks(on ? view_->marks() | mark : view_->marks() & ~mark);
        });
        row->addWidget(b);
    }
    return bar;
}

void CutCentre::setMode(SheetView::Mode mode) {
    view_->setMode(mode);
    refresh();
    emit modeChanged();
}

void CutCentre::pull(const level::Cut& cut, bool done) {
    const auto values = cutNumbers(cut);
    for (std::size_t i = 0; i < 7; ++i) {
        const QSignalBlocker quiet(numbers_[i]);
        numbers_[i]->setValue(values[i]);
    }
    if (done) byHand();
}

void CutCentre::addProp(const Box& box) {
    const level::Sheet* s = session_.sheet();
    if (!s) return;
    level::Project p = session_.project();
    const level::PropKindId id = p.next_id++;
    const std::string name = s->name + " " + std::to_string(p.prop_kinds.size() + 1);
    p.put(edit::propose_prop(*s, box, id, name));
    view_->setKinds({id});
    session_.apply(tr("Cut the prop %1").arg(QString::fromStdString(name)), std::move(p));
    emit modeChanged();
    emit session_.said(tr("%1 is a prop now: place it in Dress").arg(QString::fromStdString(name)), false);
}

void CutCentre::hover(level::TileId tile) {
    hovered_ = tile;
    refresh();
}

void CutCentre::refresh() {
    if (!session_.isOpen()) return;
    const level::Sheet* s = session_.sheet();
    view_->setSheet(session_.sheetId());
    view_->setChosen({session_.tiles().begin(), session_.tiles().end()});
    const bool islands = view_->mode() == SheetView::Mode::islands;
    if (islands && s && s->image) {
        if (islandsOf_ != s->image)
            findIslands(true);
        else
            refreshIslands();
        std::vector<level::PropKindId> kinds = view_->kinds();
        std::erase_if(kinds, [&](level::PropKindId id) { return !session_.project().prop_kind(id); });
        if (kinds != view_->kinds()) view_->setKinds(kinds);
    }
    rebuildCards();
    fields_.refresh();
    if (!s) {
        reading_ = tr("No sheet yet: drop a PNG on the window");
        emit readingChanged();
        return;
    }
    trouble_->clear();
    if (islands) {
        reading_ =
            tr("Islands of <b>%1</b>: click chooses, drag draws or moves, arrows nudge, J merges, Delete removes")
                .arg(QString::fromStdString(s->name).toHtmlEscaped());
        emit readingChanged();
        return;
    }
    if (!s->accepted && what() != sheet::What::tiles) {
        reading_ = whatText();
        emit readingChanged();
        return;
    }
    const Size count = s->image ? sheet::columns_rows(s->cut, s->image->size()) : Size{};
    const auto blank = std::count_if(s->tiles.begin(), s->tiles.end(), [](const auto& t) { return t.blank; });
    QString text =
        s->accepted ? tr("Cut as <b>%1</b>").arg(cutTitle(s->cut)) : tr("Enter takes <b>%1</b>").arg(cutTitle(s->cut));
    text += tr(" · %1 × %2 tiles").arg(count.w).arg(count.h);
    if (blank) text += tr(" · %1 blank").arg(blank);
    if (const level::Level* level = session_.level()) {
        const Size drawn = sheet::drawn_size(s->cut);
        const Size cell = s->accepted ? Size() : edit::cell_of_first_art(session_.project(), s->id);
        text += !cell.empty() ? tr(" · the level gets cells of %1 × %2 px with it").arg(cell.w).arg(cell.h)
                : drawn == level->cell
                    ? tr(" · fits the level's %1 px cells").arg(level->cell.w)
                    : tr(" · drawn at %1 px, the level's cells have %2").arg(drawn.w).arg(level->cell.w);
    }
    if (hovered_)
        for (std::size_t i = 0; i < s->tiles.size(); ++i)
            if (s->tiles[i].id == hovered_) text = tileText(*s, i, count.w);
    reading_ = text;
    emit readingChanged();
}

void CutCentre::byHand() {
    const level::Sheet* s = session_.sheet();
    if (!s || !s->image) return;
    level::Cut cut{{numbers_[0]->value(), numbers_[1]->value()},
                   {numbers_[2]->value(), numbers_[3]->value()},
                   {numbers_[4]->value(), numbers_[5]->value()},
                   numbers_[6]->value()};
    // How many columns and rows there are holds for the size it was read with.
    if (cut.tile == s->cut.tile && cut.spacing == s->cut.spacing) cut.count = s->cut.count;
    if (const auto trouble = sheet::cut_trouble(cut, s->image->size())) {
        trouble_->setText(translated(*trouble));
        return;
    }
    trouble_->clear();
    if (cut == s->cut) return;
    session_.propose(tr("Cut %1 as %2").arg(QString::fromStdString(s->name), cutTitle(cut)),
                     edit::recut_sheet(session_.project(), s->id, cut, s->accepted), "cut-" + std::to_string(s->id));
}

} // namespace vic::app
