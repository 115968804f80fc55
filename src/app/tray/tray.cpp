#include "app/tray/tray.hpp"

#include <QAbstractItemView>
#include <QAction>
#include <QButtonGroup>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPixmap>
#include <QShowEvent>
#include <QStackedWidget>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cstddef>
#include <memory>
#include <string>
#include <utility>

#include "app/gesture/tools.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/picture_list.hpp"
#include "app/parts/thumbs.hpp"
#include "app/session/choice.hpp"
#include "app/session/tool.hpp"
#include "app/tray/tile_chooser.hpp"
#include "edit/clips.hpp"
#include "edit/stroke.hpp"
#include "level/cell.hpp"
#include "level/project.hpp"
#include "level/stamp.hpp"

namespace vic::app {

Tray::Tray(Session& session, LayCommands& commands, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("tray");
    auto* column = panelColumn(this);
    QLabel* aside = nullptr;
    addHeading(column, tr("Hand"), &aside);
    aside->setText(tr("Esc to empty"));
    aside->setToolTip(tr("Shift+H offers the last ten"));
    card_ = new HandCard(session_, this);
    column->addWidget(card_);
    options_ = new HandOptions(session_, commands, this);
    column->addWidget(options_);
    buildSearch(column);
    buildTabs(column);
    buildLists(column);
    empty_ = label({}, "quiet", this);
    empty_->setWordWrap(true);
    column->insertWidget(column->indexOf(stack_), empty_);
    addHeading(column, tr("Pockets"));
    pockets_ = new Pockets(session_, this);
    column->addWidget(pockets_);

    listen();
    setTab(Materials);
}

void Tray::buildSearch(QVBoxLayout* column) {
    auto* look = new QHBoxLayout;
    look->setSpacing(6);
    search_ = new QLineEdit(this);
    search_->setObjectName("traySearch");
    search_->setPlaceholderText(tr("Search"));
    search_->setClearButtonEnabled(true);
    describe(search_, tr("Search the Tray"), "Ctrl+F",
             tr("Names and tags of materials, tiles and props, as one types"));
    look->addWidget(search_, 1);
    which_ = toolButton(this, "trayWhich", {}, tr("Trays"), {}, "link");
    describe(which_, tr("Trays"), {}, tr("What was used lately, and trays of your own"));
    which_->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    which_->setPopupMode(QToolButton::InstantPopup);
    which_->setStyleSheet("QToolButton::menu-indicator { image: none; }");
    menu_ = new QMenu(this);
    menu_->setObjectName("trayMenu");
    which_->setMenu(menu_);
    connect(menu_, &QMenu::aboutToShow, this, &Tray::buildMenu);
    look->addWidget(which_);
    column->addLayout(look);
    connect(search_, &QLineEdit::textChanged, this, [this](const QString& text) {
        if (!text.trimmed().isEmpty())
            setSource(Source::search);
        else if (source_ == Source::search)
            setSource(Source::tabs);
    });
    connect(search_, &QLineEdit::returnPressed, this, [this] {
        if (!gathered_.empty()) take(gathered_.front());
    });
}

void Tray::buildTabs(QVBoxLayout* column) {
    auto* row = new QHBoxLayout;
    row->setSpacing(4);
    tabs_ = new QButtonGroup(this);
    const QString names[kTabs] = {tr("Materials"), tr("Tiles"), tr("Props"), tr("Stamps")};
    static const char* ids[kTabs] = {"trayMaterials", "trayTiles", "trayProps", "trayStamps"};
    for (int i = 0; i < kTabs; ++i) {
        auto* b = toolButton(this, ids[i], {}, names[i], {}, "pill");
        b->setCheckable(true);
        b->setStyleSheet("padding: 2px 6px;");
        tabs_->addButton(b, i);
        row->addWidget(b);
    }
    row->addStretch();
    column->addLayout(row);
}

void Tray::buildLists(QVBoxLayout* column) {
    stack_ = new QStackedWidget(this);
    const auto list = [&](const char* id, const QString& name) {
        auto* l = new PictureList(id, name, stack_);
        l->layInBoxes(kTrayGrid, kTrayItem, 11);
        return l;
    };
    materials_ = list("materialTray", tr("Materials"));
    props_ = list("propTray", tr("Props"));
    stamps_ = list("stampTray", tr("Stamps"));
    found_ = list("foundTray", tr("Gathered"));
    constexpr QSize kPicture{48, 48};
    materials_->setDraw(kPicture, [this](quint32 id) {
        const level::Material* m = session_.project().material(static_cast<level::MaterialId>(id));
        return m ? materialThumb(session_.project(), *m, 48) : QPixmap();
    });
    props_->setDraw(kPicture, [this](quint32 id) {
        const level::PropKind* k = session_.project().prop_kind(id);
        return k ? propThumb(session_.project(), *k, 48) : QPixmap();
    });
    stamps_->setDraw(kPicture, [this](quint32 id) {
        const auto s = session_.project().stamp(id);
        return s ? stampThumb(session_.project(), *s, 48) : QPixmap();
    });
    found_->setDraw(kPicture, [this](quint32 row) { return gatheredPicture(row); });
    tiles_ = new TileChooser(session_, stack_);
    stack_->addWidget(materials_);
    stack_->addWidget(tiles_);
    stack_->addWidget(props_);
    stack_->addWidget(stamps_);
    stack_->addWidget(found_);
    column->addWidget(stack_, 1);
}

void Tray::listen() {
    connect(tabs_, &QButtonGroup::idClicked, this, [this](int tab) {
        search_->clear();
        setSource(Source::tabs);
        setTab(tab);
    });
    connect(found_, &PictureList::picked, this, [this](quint32 row) {
        if (row < gathered_.size()) take(gathered_[row]);
    });
    connect(&session_, &Session::handChanged, this, [this] {
        const auto item = inHand();
        if (!item) return;
        std::erase(recents_, *item);
        recents_.push_front(*item);
        if (recents_.size() > 24) recents_.pop_back();
    });
    connect(materials_, &PictureList::picked, this, [this](quint32 id) {
        take({level::TrayItem::Kind::material, id});
    });
    connect(props_, &PictureList::picked, this, [this](quint32 id) { take({level::TrayItem::Kind::prop, id}); });
    connect(stamps_, &PictureList::picked, this, [this](quint32 id) {
        const auto stamp = session_.project().stamp(id);
        if (!stamp) return;
        if (!kindOf(session_.tool()).lays || session_.tool() == Tool::eraser) session_.setTool(Tool::pencil);
        session_.setHand({edit::held::Stamp{stamp}});
    });
    stamps_->setContextMenuPolicy(Qt::CustomContextMenu);
    connect(stamps_, &QWidget::customContextMenuRequested, this, &Tray::showStampMenu);
    connect(tiles_, &TileChooser::dragged, this, &Tray::takeTiles);
    connect(tiles_, &TileChooser::picked, this, [this](level::TileId tile) {
        take({level::TrayItem::Kind::tile, tile});
    });
    connect(&session_, &Session::handChanged, this, &Tray::refresh);
    connect(&session_, &Session::stageChanged, this, [this] {
        if (source_ != Source::tabs) return;
        if (session_.stage() == Stage::dress)
            setTab(Props);
        else if (session_.stage() == Stage::lay && stack_->currentIndex() == Props)
            setTab(Materials);
    });
}

// Several tiles, in their arrangement.
void Tray::takeTiles(const std::vector<level::TileId>& tiles) {
    const level::Sheet* sheet = session_.project().sheet(tiles_->sheetId());
    if (!sheet || !session_.level() || tiles.size() < 2) return;
    auto stamp = edit::stamp_of_tiles(*sheet, tiles, *session_.level());
    if (stamp.layers.empty()) return;
    if (!kindOf(session_.tool()).lays || session_.tool() == Tool::eraser) session_.setTool(Tool::pencil);
    const Size size = stamp.layers.front().grid().size();
    session_.setHand({edit::held::Stamp{std::make_shared<const level::Stamp>(std::move(stamp))}});
    emit session_.said(tr("%1 × %2 tiles are in the Hand as they lie in the sheet").arg(size.w).arg(size.h), false);
}

void Tray::setTab(int tab) {
    // What is gathered belongs to no tab.
    tabs_->setExclusive(tab != Gathered);
    for (int i = 0; i < kTabs; ++i) tabs_->button(i)->setChecked(i == tab);
    stack_->setCurrentIndex(tab);
    refresh();
}

void Tray::fill() {
    const auto named = [](const auto& things) {
        std::vector<PictureRow> rows;
        rows.reserve(things.size());
        for (const auto& t : things) {
            const QString name = QString::fromStdString(t->name);
            rows.push_back({t->id, name, name.toHtmlEscaped()});
        }
        return rows;
    };
    const level::Project& p = session_.project();
    materials_->setRows(named(p.materials));
    props_->setRows(named(p.prop_kinds));
    stamps_->setRows(named(p.stamps));
    for (PictureList* list : {materials_, props_, stamps_}) list->redraw();
}

void Tray::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    refresh();
}

void Tray::refresh() {
    if (!session_.isOpen()) return;
    card_->refresh();
    options_->refresh();
    pockets_->update();
    if (!isVisible()) return; // its many small pictures are drawn when it is seen again
    const level::Project& p = session_.project();
    if (!filledFor_ || filledFor_->sheets != p.sheets || filledFor_->materials != p.materials ||
        filledFor_->prop_kinds != p.prop_kinds || filledFor_->stamps != p.stamps) {
        filledFor_ = session_.document().state();
        fill();
        tiles_->forget();
    }
    tiles_->refresh();
    const edit::Hand& hand = session_.hand();
    const auto mark = [](PictureList* list, bool on, quint32 id) {
        list->setCurrent(on ? std::optional(id) : std::nullopt);
    };
    if (source_ != Source::tabs) gather();
    refreshWhich();
    mark(materials_, hand.is<edit::held::Material>(), hand.material());
    mark(props_, hand.is<edit::held::Prop>(), hand.prop());
    mark(stamps_, hand.is<edit::held::Stamp>(), hand.is<edit::held::Stamp>() ? hand.stamp()->id : 0);
    QString hint;
    if (source_ == Source::search && gathered_.empty())
        hint = tr("Nothing is called or tagged like that.");
    else if (source_ == Source::own && gathered_.empty())
        hint =
            tr("Nothing in it yet: take something into the Hand and put it in from the menu above, or give the tray "
               "sheets or tags.");
    else if (source_ == Source::recent && gathered_.empty())
        hint = tr("Nothing was in the Hand yet.");
    if (stack_->currentIndex() == Materials && p.materials.empty())
        hint = p.sheets.empty()
                   ? tr("No materials yet: drop a PNG of tiles on the window, take its cut, then read its joins.")
                   : tr("No materials yet: read the joins of a sheet in Join. Single tiles are under Tiles.");
    if (stack_->currentIndex() == Tiles && p.sheets.empty())
        hint = tr("No tiles yet: drop a PNG of tiles on the window.");
    if (stack_->currentIndex() == Stamps && p.stamps.empty())
        hint = tr("No stamps yet: select cells in the level and press Ctrl+T.");
    if (stack_->currentIndex() == Props && p.prop_kinds.empty())
        hint = tr("No props yet: in Cut, hold Shift and draw a box around one.");
    empty_->setText(hint);
    empty_->setVisible(!hint.isEmpty());
}

void Tray::showStampMenu(QPoint at) {
    const auto pointed = stamps_->at(at);
    if (!pointed) return;
    const level::StampId id = *pointed;
    auto* menu = new QMenu(this);
    menu->setObjectName("stampMenu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    connect(menu->addAction(tr("Rename…")), &QAction::triggered, this, [this, id] {
        const auto stamp = session_.project().stamp(id);
        bool ok = false;
        const QString name = QInputDialog::getText(this, tr("Rename the stamp"), tr("Name:"), QLineEdit::Normal,
                                                   QString::fromStdString(stamp->name), &ok)
                                 .trimmed();
        if (!ok || name.isEmpty()) return;
        session_.apply(tr("Rename a stamp"), edit::keep_stamp(session_.project(), *stamp, name.toStdString()));
    });
    connect(menu->addAction(tr("Remove")), &QAction::triggered, this,
            [this, id] { session_.apply(tr("Remove a stamp"), edit::remove_stamp(session_.project(), id)); });
    menu->popup(stamps_->mapToGlobal(at));
}

} // namespace vic::app
