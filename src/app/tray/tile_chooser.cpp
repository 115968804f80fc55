#include "app/tray/tile_chooser.hpp"

#include <QAction>
#include <QComboBox>
#include <QFrame>
#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QPoint>
#include <QScrollArea>
#include <QSettings>
#include <QStackedWidget>
#include <QStringList>
#include <QVBoxLayout>
#include <QWidgetAction>
#include <algorithm>
#include <cstdint>
#include <set>

#include "app/parts/panel.hpp"
#include "app/parts/picture_list.hpp"
#include "app/parts/shape_sign.hpp"
#include "app/parts/thumbs.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "app/session/size_badge.hpp"
#include "app/sheet/sheet_view.hpp"
#include "edit/homes.hpp"
#include "edit/sheets.hpp"
#include "edit/stroke.hpp"
#include "join/mask.hpp"
#include "level/material.hpp"
#include "level/project.hpp"

namespace vic::app {

namespace {

constexpr int kFits = 32;  // pixels a side of a tile in the list, where no size was chosen
constexpr int kMost = 128; // and at most

} // namespace

QStringList tileFacts(const Session& session, level::TileId id, std::int64_t laid) {
    const level::Project& p = session.project();
    const level::TileRef ref = level::TileTable(p).find(id);
    if (!ref.tile) return {};
    QStringList out{translated(edit::tile_name(p, id)), TileChooser::tr("%1 × %2 px of %3")
                                                            .arg(ref.tile->box.w)
                                                            .arg(ref.tile->box.h)
                                                            .arg(QString::fromStdString(ref.sheet->name))};
    for (const auto& m : p.materials)
        for (const auto& [mask, variants] : m->joins.cases)
            for (const level::Variant& v : variants)
                if (v.tile == id)
                    out << (m->joins.kind == level::JoinKind::plain
                                ? TileChooser::tr("a variant of %1").arg(QString::fromStdString(m->name))
                                : TileChooser::tr("%1: %2").arg(QString::fromStdString(m->name),
                                                                translated(join::describe(mask, m->joins.kind))));
    out << (ref.tile->shape == level::TileShape::none ? TileChooser::tr("blocks nothing")
                                                      : TileChooser::tr("blocks: %1").arg(shapeName(ref.tile->shape)));
    if (const level::Level* l = session.level())
        if (const level::Layer* home = l->layer(edit::home_of(p, *l, {edit::held::Tile{id}})))
            out << TileChooser::tr("at home on %1").arg(QString::fromStdString(home->name));
    if (!ref.tile->tags.empty()) {
        QStringList tags;
        for (const std::string& t : ref.tile->tags) tags << QString::fromStdString(t);
        out << TileChooser::tr("tags: %1").arg(tags.join(", "));
    }
    if (laid >= 0)
        out << translated(say_count(laid, "lies in one cell of this level", "lies in %n cells of this level"));
    return out;
}

TileChooser::TileChooser(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("tileChooser");
    build();
    connect(sheets_, &QComboBox::activated, this, [this] {
        sheet_->setSheet(sheets_->currentData().toUInt());
        flow();
    });
    connect(size_, &QComboBox::activated, this, &TileChooser::enlarge);
    connect(order_, &QComboBox::activated, this, [this] {
        QSettings().setValue("tray/order", order_->currentIndex());
        refresh();
    });
    connect(sheet_, &SheetView::enlargeAsked, this, [this](int by) {
        size_->setCurrentIndex(std::clamp(size_->currentIndex() + by, 0, size_->count() - 1));
        enlarge();
    });
    connect(sheet_, &SheetView::tilesDragged, this, &TileChooser::dragged);
    connect(sheet_, &SheetView::tileClicked, this, &TileChooser::picked);
    connect(sheet_, &SheetView::tileAsked, this, &TileChooser::ask);
    connect(list_, &PictureList::picked, this, &TileChooser::picked);
    connect(list_, &QWidget::customContextMenuRequested, this, [this](QPoint at) {
        if (const auto tile = list_->at(at)) ask(*tile, list_->viewport()->mapToGlobal(at));
    });
}

void TileChooser::build() {
    auto* inner = new QVBoxLayout(this);
    inner->setContentsMargins(0, 0, 0, 0);
    inner->setSpacing(6);
    sheets_ = new QComboBox(this);
    sheets_->setObjectName("traySheets");
    sheets_->setAccessibleName(tr("Sheet"));
    inner->addWidget(sheets_);
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    order_ = new QComboBox(this);
    order_->setObjectName("trayOrder");
    describe(
        order_, tr("Which tiles, and how they are arranged"), {},
        tr("As they are on the sheet; one behind the other without gaps and blank ones; those that lie in this level"));
    order_->addItems({tr("as on the sheet"), tr("without gaps"), tr("used in this level")});
    order_->setCurrentIndex(std::clamp(QSettings().value("tray/order", 0).toInt(), 0, 2));
    row->addWidget(order_, 1);
    size_ = new QComboBox(this);
    size_->setObjectName("traySize");
    describe(size_, tr("How large the tiles are shown"), tr("Ctrl+wheel"), {});
    size_->addItem(tr("fits"), 0);
    for (const int times : {1, 2, 3, 4, 6}) size_->addItem(tr("%1 %").arg(times * 100), times);
    row->addWidget(size_);
    inner->addLayout(row);
    stack_ = new QStackedWidget(this);
    auto* scroll = new QScrollArea(stack_);
    scroll->setObjectName("traySheetScroll");
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setWidgetResizable(true);
    scroll->setFocusPolicy(Qt::NoFocus);
    sheet_ = new SheetView(session_, SheetView::Use::pick, scroll);
    sheet_->setObjectName("traySheet");
    scroll->setWidget(sheet_);
    list_ = new PictureList("trayFlow", tr("Tiles"), stack_);
    list_->setContextMenuPolicy(Qt::CustomContextMenu);
    stack_->addWidget(scroll);
    stack_->addWidget(list_);
    inner->addWidget(stack_, 1);
    size_->setCurrentIndex(std::max(0, size_->findData(QSettings().value("tray/size", 0).toInt())));
    sheet_->setEnlarged(size_->currentData().toInt());
}

level::SheetId TileChooser::sheetId() const { return sheet_->sheetId(); }

TileChooser::Order TileChooser::order() const { return static_cast<Order>(order_->currentIndex()); }

void TileChooser::forget() {
    names_.clear();
    shown_.clear();
}

void TileChooser::enlarge() {
    QSettings().setValue("tray/size", size_->currentData());
    sheet_->setEnlarged(size_->currentData().toInt());
    shown_.clear(); // the pictures have another size
    flow();
}

void TileChooser::refresh() {
    refreshNames();
    const edit::Hand& hand = session_.hand();
    const bool tile = hand.is<edit::held::Tile>();
    sheet_->setChosen(tile ? std::set<level::TileId>{hand.tile()} : std::set<level::TileId>{});
    stack_->setCurrentIndex(order() == Arranged ? 0 : 1);
    if (order() == Used) count();
    flow();
    list_->setCurrent(tile ? std::optional<quint32>(hand.tile()) : std::nullopt);
}

// The sheets to choose from, with how each is drawn in the level where that is not as it is.
void TileChooser::refreshNames() {
    std::vector<std::pair<QString, level::SheetId>> names;
    for (const auto& s : session_.project().sheets)
        if (s->image && s->tiles.size() > 1) {
            const QString badge = sizeBadge(session_, s->id);
            const QString name = QString::fromStdString(s->name);
            names.emplace_back(badge.isEmpty() ? name : tr("%1 · %2").arg(name, badge), s->id);
        }
    if (names == names_) return;
    names_ = std::move(names);
    const auto current = sheet_->sheetId();
    sheets_->clear();
    for (const auto& [name, id] : names_) sheets_->addItem(name, id);
    sheets_->setCurrentIndex(std::max(0, sheets_->findData(current)));
    sheet_->setSheet(sheets_->currentData().toUInt());
}

void TileChooser::flow() {
    if (order() == Arranged) return;
    const level::Sheet* sheet = session_.project().sheet(sheet_->sheetId());
    std::vector<level::TileId> tiles;
    std::vector<PictureRow> rows;
    if (sheet)
        for (const level::Tile& t : sheet->tiles)
            if (!t.blank && (order() == Flowing || counts_.contains(t.id))) {
                tiles.push_back(t.id);
                rows.push_back({t.id, {}, QString::fromStdString(t.name)});
            }
    if (tiles == shown_ && !tiles.empty()) return;
    shown_ = std::move(tiles);
    const int times = size_->currentData().toInt();
    const Size art = sheet ? Size{sheet->cut.tile.w / sheet->cut.scale, sheet->cut.tile.h / sheet->cut.scale} : Size{};
    const int side = times == 0 ? kFits : std::clamp(std::max(art.w, art.h) * times, 8, kMost);
    list_->layInBoxes({side + 8, side + 8}, {side + 6, side + 6}, 1);
    list_->setDraw({side, side}, [this, side](quint32 id) { return tileThumb(session_.project(), id, side); });
    list_->setRows(std::move(rows));
    list_->redraw();
}

void TileChooser::count() {
    const auto& levels = session_.project().levels;
    const auto found =
        std::find_if(levels.begin(), levels.end(), [&](const auto& l) { return l.get() == session_.level(); });
    if (found == levels.end() || *found == countedOf_) return;
    countedOf_ = *found;
    using Counts = std::map<level::TileId, std::int64_t>;
    session_.jobs().start<Counts>(
        "trayUsed", {}, [level = countedOf_](Jobs::Progress&) { return edit::tile_counts(*level); },
        [this](Counts& counts) {
            counts_ = std::move(counts);
            flow();
        },
        session_.complain());
}

void TileChooser::ask(level::TileId tile, QPoint at) {
    const auto laid = counts_.find(tile);
    const bool counted = countedOf_ && countedOf_.get() == session_.level();
    const QStringList facts = tileFacts(session_, tile, !counted ? -1 : laid == counts_.end() ? 0 : laid->second);
    if (facts.isEmpty()) return;
    auto* menu = new QMenu(this);
    menu->setObjectName("tileMenu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    // What is said is no command: text, not dimmed.
    for (const QString& fact : facts) {
        auto* said = new QWidgetAction(menu);
        said->setText(fact);
        auto* text = label(fact, "quiet", menu);
        text->setContentsMargins(14, 3, 14, 3);
        said->setDefaultWidget(text);
        menu->addAction(said);
    }
    menu->addSeparator();
    connect(menu->addAction(tr("Take it into the Hand")), &QAction::triggered, this,
            [this, tile] { emit picked(tile); });
    connect(menu->addAction(tr("Show it in Cut")), &QAction::triggered, this, [this, tile] {
        session_.setSheet(sheet_->sheetId());
        session_.setTiles({tile});
        session_.setStage(Stage::cut);
    });
    menu->popup(at);
}

} // namespace vic::app
