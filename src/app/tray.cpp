#include "app/tray.hpp"

#include <QHBoxLayout>
#include <QInputDialog>
#include <QMouseEvent>
#include <QPainter>
#include <QScrollArea>
#include <QVBoxLayout>

#include "app/panel.hpp"
#include "app/shape_editor.hpp"
#include "app/signs.hpp"
#include "app/spoken.hpp"
#include "app/thumbs.hpp"
#include "app/tokens.hpp"
#include "edit/clips.hpp"

namespace vic::app {

QPixmap handPicture(const level::Project& project, const edit::Hand& hand, int side) {
    switch (hand.kind) {
        case edit::Hand::Kind::material:
            if (const auto* m = project.material(hand.material)) return materialThumb(project, *m, side);
            break;
        case edit::Hand::Kind::tile:
            return tileThumb(project, hand.tile, side, hand.turn);
        case edit::Hand::Kind::prop:
            if (const auto* k = project.prop_kind(hand.prop)) return propThumb(project, *k, side, hand.turn.mirrored());
            break;
        case edit::Hand::Kind::spread: {
            // Four of the things it chooses from.
            QPixmap out(side, side);
            out.fill(Qt::transparent);
            QPainter p(&out);
            const int half = side / 2;
            for (std::size_t i = 0; i < std::min<std::size_t>(4, hand.spread.size()); ++i) {
                const edit::SpreadItem& item = hand.spread[i];
                const auto* m = project.material(item.material);
                p.drawPixmap(
                    static_cast<int>(i % 2) * half, static_cast<int>(i / 2) * half,
                    m ? materialThumb(project, *m, half - 1) : tileThumb(project, item.tile, half - 1, item.turn));
            }
            return out;
        }
        case edit::Hand::Kind::stamp: {
            const Turn turn = Lattice{hand.stamp->lattice, hand.stamp->cell}.of_places(hand.turn);
            return stampThumb(project, turn.code == 0 ? *hand.stamp : edit::turned(project, *hand.stamp, turn), side);
        }
        case edit::Hand::Kind::blocker:
            return shapeSign(level::blocker_shape(level::Cell(hand.tile, hand.turn, false)), paper(), side);
        default:
            break;
    }
    return {};
}

QString handName(const level::Project& project, const edit::Hand& hand) {
    switch (hand.kind) {
        case edit::Hand::Kind::material:
            if (const auto* m = project.material(hand.material)) return QString::fromStdString(m->name);
            break;
        case edit::Hand::Kind::tile:
            return spoken(edit::tile_name(project, hand.tile));
        case edit::Hand::Kind::prop:
            if (const auto* k = project.prop_kind(hand.prop)) return QString::fromStdString(k->name);
            break;
        case edit::Hand::Kind::spread:
            return HandCard::tr("Spread of %1").arg(hand.spread.size());
        case edit::Hand::Kind::stamp:
            return hand.stamp->name.empty() ? HandCard::tr("Copied") : QString::fromStdString(hand.stamp->name);
        case edit::Hand::Kind::blocker:
            return HandCard::tr("Blocker");
        default:
            break;
    }
    return HandCard::tr("Empty");
}

HandCard::HandCard(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("handCard");
    setFixedHeight(132);
}

void HandCard::follow() {
    if (!session_.isOpen()) return;
    setAccessibleName(tr("Hand: %1").arg(handName(session_.project(), session_.hand())));
    update();
}

void HandCard::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Tokens t = tokensOf(this);
    p.setPen(QPen(t.line, 1));
    p.setBrush(t.card);
    p.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 10, 10);
    if (!session_.isOpen()) return;
    const edit::Hand& hand = session_.hand();
    const level::Project& project = session_.project();
    const QRect box(11, 14, 102, 102);
    paintChequer(p, box, t.window, t.panel);
    p.drawPixmap(box.topLeft() + QPoint(3, 3), handPicture(project, hand, 96));
    QFont font = this->font();
    const int x = 124;
    const int w = width() - x - 12;
    font.setPixelSize(14);
    font.setWeight(QFont::DemiBold);
    p.setFont(font);
    p.setPen(hand.kind == edit::Hand::Kind::empty ? t.quiet : t.ink);
    p.drawText(QRect(x, 12, w, 20), Qt::AlignLeft | Qt::AlignVCenter,
               QFontMetrics(font).elidedText(handName(project, hand), Qt::ElideRight, w));
    font.setPixelSize(12);
    font.setWeight(QFont::Normal);
    p.setFont(font);
    p.setPen(t.quiet);
    if (hand.kind == edit::Hand::Kind::empty) {
        p.drawText(QRect(x, 34, w, 84), Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap,
                   tr("Pick something from the Tray, or Alt+click it in the level."));
        return;
    }
    QString kind;
    if (hand.kind == edit::Hand::Kind::material) {
        const auto* m = project.material(hand.material);
        kind = m && m->joins.kind == level::JoinKind::plain ? tr("plain, by chance") : tr("joins by itself");
    } else if (hand.kind == edit::Hand::Kind::tile) {
        const level::Tile* block = session_.blockInHand();
        kind =
            block ? tr("a block of %1 × %2").arg(block->block.cells.w).arg(block->block.cells.h) : tr("a tile, pinned");
    } else if (hand.kind == edit::Hand::Kind::blocker) {
        kind = shapeName(level::blocker_shape(level::Cell(hand.tile, hand.turn, false)));
    } else if (hand.kind == edit::Hand::Kind::spread) {
        kind = tr("by chance, steady");
    } else if (hand.kind == edit::Hand::Kind::stamp) {
        kind = tr("%1 × %2 cells").arg(hand.stamp->size.w).arg(hand.stamp->size.h);
    } else {
        kind = tr("a prop");
    }
    p.drawText(QRect(x, 32, w, 16), Qt::AlignLeft | Qt::AlignVCenter, kind);
    std::vector<std::pair<QString, QString>> rows;
    if (hand.kind != edit::Hand::Kind::prop && hand.kind != edit::Hand::Kind::stamp)
        rows.emplace_back(tr("Size"), hand.round ? tr("%1, round").arg(hand.size) : QString("%1 × %1").arg(hand.size));
    if (hand.kind == edit::Hand::Kind::tile || hand.kind == edit::Hand::Kind::prop ||
        hand.kind == edit::Hand::Kind::stamp) {
        QString turn = hand.turn.quarters() == 0 ? (hand.turn.mirrored() ? QString() : tr("as drawn"))
                                                 : QString("%1°").arg(hand.turn.quarters() * 90);
        if (hand.turn.mirrored()) turn += turn.isEmpty() ? tr("mirrored") : tr(", mirrored");
        rows.emplace_back(tr("Turn"), turn);
    }
    if (hand.kind == edit::Hand::Kind::stamp) {
        rows.emplace_back(tr("Layers"), QString::number(hand.stamp->layers.size()));
    } else if (session_.level()) {
        const auto target = edit::target_of(project, *session_.level(), hand, session_.activeLayerId(), false);
        const level::Layer* layer = session_.level()->layer(target.layer);
        rows.emplace_back(target.went_home ? tr("Home") : tr("Layer"),
                          layer ? QString::fromStdString(layer->name) : tr("none"));
    }
    int y = 54;
    for (const auto& [name, value] : rows) {
        p.setPen(t.quiet);
        p.drawText(QRect(x, y, w, 18), Qt::AlignLeft | Qt::AlignVCenter, name);
        p.setPen(t.ink);
        const int room = w - QFontMetrics(font).horizontalAdvance(name) - 8;
        p.drawText(QRect(x, y, w, 18), Qt::AlignRight | Qt::AlignVCenter,
                   QFontMetrics(font).elidedText(value, Qt::ElideRight, room));
        y += 20;
    }
}

Pockets::Pockets(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("pockets");
    setAccessibleName(tr("Pockets"));
    setFixedHeight(30);
    setToolTip(
        tr("<b>Pockets</b>&nbsp;&nbsp;1 – 9<br>An empty pocket keeps the Hand, a full one gives it back; right click "
           "puts the Hand in"));
}

void Pockets::use(int index) {
    const edit::Hand& kept = hands_[static_cast<std::size_t>(index)];
    if (kept.kind == edit::Hand::Kind::empty)
        keep(index);
    else
        session_.setHand(kept);
}

void Pockets::keep(int index) {
    hands_[static_cast<std::size_t>(index)] = session_.hand();
    update();
}

QString Pockets::packed() const {
    QStringList all;
    for (const auto& h : hands_) {
        QStringList spread;
        for (const edit::SpreadItem& i : h.spread)
            spread << QString("%1/%2/%3/%4").arg(i.material).arg(i.tile).arg(i.turn.code).arg(i.weight);
        all << QStringList{QString::number(static_cast<int>(h.kind)),
                           QString::number(h.material),
                           QString::number(h.tile),
                           QString::number(h.prop),
                           QString::number(h.turn.code),
                           QString::number(h.size),
                           QString::number(h.round),
                           QString::number(h.leaves),
                           QString::number(h.seed),
                           spread.join(','),
                           QString::number(h.stamp ? h.stamp->id : 0)}
                   .join(':');
    }
    return all.join(' ');
}

void Pockets::unpack(const QString& text) {
    const QStringList all = text.split(' ', Qt::SkipEmptyParts);
    for (std::size_t i = 0; i < hands_.size(); ++i) {
        hands_[i] = {};
        if (static_cast<qsizetype>(i) >= all.size()) continue;
        const QStringList parts = all[static_cast<qsizetype>(i)].split(':');
        if (parts.size() < 6) continue;
        edit::Hand h;
        h.kind = static_cast<edit::Hand::Kind>(std::clamp(parts[0].toInt(), 0, 6));
        h.material = static_cast<level::MaterialId>(parts[1].toUInt());
        h.tile = parts[2].toUInt();
        h.prop = parts[3].toUInt();
        h.turn.code = static_cast<std::uint8_t>(parts[4].toUInt() & 7U);
        h.size = std::clamp(parts[5].toInt(), 1, 16);
        if (parts.size() > 10) {
            h.round = parts[6].toInt() != 0;
            h.leaves = std::clamp(parts[7].toInt(), 0, 99);
            h.seed = parts[8].toUInt();
            for (const QString& one : parts[9].split(',', Qt::SkipEmptyParts)) {
                const QStringList of = one.split('/');
                if (of.size() == 4)
                    h.spread.push_back({static_cast<level::MaterialId>(of[0].toUInt()), of[1].toUInt(),
                                        Turn{static_cast<std::uint8_t>(of[2].toUInt() & 7U)},
                                        std::clamp(of[3].toInt(), 0, 1000)});
            }
            if (h.kind == edit::Hand::Kind::stamp) h.stamp = session_.project().stamp(parts[10].toUInt());
        }
        // What was only copied does not outlive the window.
        if ((h.kind == edit::Hand::Kind::stamp && !h.stamp) || (h.kind == edit::Hand::Kind::spread && h.spread.empty()))
            h = {};
        hands_[i] = h;
    }
    update();
}

void Pockets::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Tokens t = tokensOf(this);
    QFont font = this->font();
    font.setPixelSize(9);
    p.setFont(font);
    const double step = width() / 9.0;
    for (int i = 0; i < 9; ++i) {
        const QRectF r(i * step, 1, step - 4, 28);
        const auto& hand = hands_[static_cast<std::size_t>(i)];
        p.setPen(QPen(t.line, 1));
        p.setBrush(t.card);
        p.drawRoundedRect(r.adjusted(0.5, 0.5, -0.5, -0.5), 5, 5);
        if (session_.isOpen() && hand.kind != edit::Hand::Kind::empty) {
            const QPixmap picture = handPicture(session_.project(), hand, 16);
            p.drawPixmap(QPointF(r.center().x() - 8, r.top() + 9), picture);
        }
        p.setPen(t.quiet);
        p.drawText(r.adjusted(3, 0, 0, 0), Qt::AlignLeft | Qt::AlignTop, QString::number(i + 1));
    }
}

void Pockets::mousePressEvent(QMouseEvent* event) {
    const int index = std::clamp(static_cast<int>(event->position().x() * 9 / std::max(1, width())), 0, 8);
    if (event->button() == Qt::RightButton)
        keep(index);
    else
        use(index);
}

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
    stack_ = new QStackedWidget(this);
    const auto list = [&](const char* id, const QString& name) {
        auto* l = new QListWidget(stack_);
        l->setObjectName(id);
        l->setAccessibleName(name);
        l->setViewMode(QListView::IconMode);
        l->setIconSize({48, 48});
        l->setGridSize(kTrayGrid);
        l->setResizeMode(QListView::Adjust);
        l->setMovement(QListView::Static);
        l->setUniformItemSizes(true);
        l->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
        l->setTextElideMode(Qt::ElideRight);
        l->setWordWrap(false);
        return l;
    };
    materials_ = list("materialTray", tr("Materials"));
    props_ = list("propTray", tr("Props"));
    stamps_ = list("stampTray", tr("Stamps"));
    stamps_->setEditTriggers(QAbstractItemView::EditKeyPressed);
    found_ = list("foundTray", tr("Gathered"));
    auto* tiles = new QWidget(stack_);
    auto* inner = new QVBoxLayout(tiles);
    inner->setContentsMargins(0, 0, 0, 0);
    sheets_ = new QComboBox(tiles);
    sheets_->setObjectName("traySheets");
    sheets_->setAccessibleName(tr("Sheet"));
    inner->addWidget(sheets_);
    sheet_ = new SheetView(session_, SheetView::Use::pick, tiles);
    sheet_->setObjectName("traySheet");
    inner->addWidget(sheet_);
    inner->addStretch();
    stack_->addWidget(materials_);
    stack_->addWidget(tiles);
    stack_->addWidget(props_);
    stack_->addWidget(stamps_);
    stack_->addWidget(found_);
    column->addWidget(stack_, 1);
    empty_ = label({}, "quiet", this);
    empty_->setWordWrap(true);
    column->addWidget(empty_);
    addHeading(column, tr("Pockets"));
    pockets_ = new Pockets(session_, this);
    column->addWidget(pockets_);

    connect(tabs_, &QButtonGroup::idClicked, this, [this](int tab) {
        search_->clear();
        setSource(Source::tabs);
        setTab(tab);
    });
    connect(found_, &QListWidget::itemClicked, this, [this](QListWidgetItem* item) {
        const auto i = static_cast<std::size_t>(found_->row(item));
        if (i < gathered_.size()) take(gathered_[i]);
    });
    connect(&session_, &Session::handChanged, this, [this] {
        const auto item = inHand();
        if (!item) return;
        std::erase(recents_, *item);
        recents_.push_front(*item);
        if (recents_.size() > 24) recents_.pop_back();
    });
    connect(materials_, &QListWidget::itemClicked, this, [this](QListWidgetItem* item) {
        take({level::TrayItem::Kind::material, item->data(Qt::UserRole).toUInt()});
    });
    connect(props_, &QListWidget::itemClicked, this, [this](QListWidgetItem* item) {
        take({level::TrayItem::Kind::prop, item->data(Qt::UserRole).toUInt()});
    });
    connect(stamps_, &QListWidget::itemClicked, this, [this](QListWidgetItem* item) {
        edit::Hand hand;
        hand.kind = edit::Hand::Kind::stamp;
        hand.stamp = session_.project().stamp(item->data(Qt::UserRole).toUInt());
        if (!hand.stamp) return;
        if (session_.tool() > Tool::replace) session_.setTool(Tool::pencil);
        session_.setHand(hand);
    });
    stamps_->setContextMenuPolicy(Qt::CustomContextMenu);
    connect(stamps_, &QWidget::customContextMenuRequested, this, &Tray::showStampMenu);
    connect(sheets_, &QComboBox::activated, this, [this] { sheet_->setSheet(sheets_->currentData().toUInt()); });
    connect(sheet_, &SheetView::tileClicked, this, [this](level::TileId tile) {
        take({level::TrayItem::Kind::tile, tile});
    });
    connect(&session_, &Session::handChanged, this, &Tray::follow);
    connect(&session_, &Session::stageChanged, this, [this] {
        if (source_ != Source::tabs) return;
        if (session_.stage() == Stage::dress)
            setTab(Props);
        else if (session_.stage() == Stage::lay && stack_->currentIndex() == Props)
            setTab(Materials);
    });
    setTab(Materials);
}

void Tray::setTab(int tab) {
    // What is gathered belongs to no tab.
    tabs_->setExclusive(tab != Gathered);
    for (int i = 0; i < kTabs; ++i) tabs_->button(i)->setChecked(i == tab);
    stack_->setCurrentIndex(tab);
    follow();
}

void Tray::fill(QListWidget* list, Tab tab) {
    list->clear();
    const level::Project& p = session_.project();
    const auto add = [&](const QPixmap& picture, const std::string& name, quint32 id) {
        // The chosen one looks as drawn too; by itself Qt would tint it.
        QIcon both(picture);
        both.addPixmap(picture, QIcon::Selected);
        auto* item = new QListWidgetItem(both, QString::fromStdString(name), list);
        item->setSizeHint(kTrayItem);
        item->setData(Qt::UserRole, id);
        item->setToolTip(QString::fromStdString(name));
        QFont font = list->font();
        font.setPixelSize(11);
        item->setFont(font);
    };
    if (tab == Materials)
        for (const auto& m : p.materials) add(materialThumb(p, *m, 48), m->name, m->id);
    else if (tab == Props)
        for (const auto& k : p.prop_kinds) add(propThumb(p, *k, 48), k->name, k->id);
    else
        for (const auto& s : p.stamps) add(stampThumb(p, *s, 48), s->name, s->id);
}

void Tray::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    follow();
}

void Tray::follow() {
    if (!session_.isOpen()) return;
    card_->follow();
    options_->follow();
    pockets_->update();
    if (!isVisible()) return; // its many small pictures are drawn when it is seen again
    const level::Project& p = session_.project();
    if (!filledFor_ || filledFor_->sheets != p.sheets || filledFor_->materials != p.materials ||
        filledFor_->prop_kinds != p.prop_kinds || filledFor_->stamps != p.stamps) {
        filledFor_ = session_.document().state();
        fill(materials_, Materials);
        fill(props_, Props);
        fill(stamps_, Stamps);
        const auto current = sheet_->sheetId();
        sheets_->clear();
        for (const auto& s : p.sheets)
            if (s->image && s->tiles.size() > 1) sheets_->addItem(QString::fromStdString(s->name), s->id);
        sheets_->setCurrentIndex(std::max(0, sheets_->findData(current)));
        sheet_->setSheet(sheets_->currentData().toUInt());
    }
    const edit::Hand& hand = session_.hand();
    const auto mark = [](QListWidget* list, bool on, quint32 id) {
        list->setCurrentItem(nullptr);
        for (int i = 0; on && i < list->count(); ++i)
            if (list->item(i)->data(Qt::UserRole).toUInt() == id) list->setCurrentItem(list->item(i));
    };
    if (source_ != Source::tabs) gather();
    followWhich();
    mark(materials_, hand.kind == edit::Hand::Kind::material, hand.material);
    mark(props_, hand.kind == edit::Hand::Kind::prop, hand.prop);
    mark(stamps_, hand.kind == edit::Hand::Kind::stamp, hand.kind == edit::Hand::Kind::stamp ? hand.stamp->id : 0);
    sheet_->setChosen(hand.kind == edit::Hand::Kind::tile ? std::set<level::TileId>{hand.tile}
                                                          : std::set<level::TileId>{});
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
        hint = tr("No materials yet: drop a PNG of tiles on the window, take its cut, then read its joins.");
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
    const QListWidgetItem* item = stamps_->itemAt(at);
    if (!item) return;
    const level::StampId id = item->data(Qt::UserRole).toUInt();
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
