#include "app/cut/tile_panel.hpp"

#include <QAction>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QSignalBlocker>
#include <QSizePolicy>
#include <QSpinBox>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cstdint>
#include <utility>

#include "app/cut/piece_part.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/thumbs.hpp"
#include "app/parts/translated.hpp"
#include "app/session/play_clock.hpp"
#include "base/text.hpp"
#include "edit/pour.hpp"
#include "edit/props.hpp"
#include "edit/replace.hpp"
#include "edit/sheets.hpp"
#include "level/level.hpp"
#include "level/material.hpp"
#include "level/project.hpp"
#include "level/sheet.hpp"

namespace vic::app {

namespace {

QString kindName(level::JoinKind kind) {
    switch (kind) {
        case level::JoinKind::edges:
            return TilePanel::tr("edges");
        case level::JoinKind::corners:
            return TilePanel::tr("corners");
        default:
            return TilePanel::tr("edges + corners");
    }
}

} // namespace

TilePanel::TilePanel(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = panelColumn(this);
    addHeading(column, tr("Tiles"), &count_);
    const PictureHead head = addPictureHead(column, this, 68);
    picture_ = head.picture;
    title_ = head.title;
    under_ = head.under;

    // The head plays what is animated.
    connect(&session_.playClock(), &PlayClock::ticked, this, [this] {
        if (!isVisible() || session_.tiles().empty()) return;
        const level::Tile* t = tilesOf(session_.project()).find(session_.tiles().front()).tile;
        if (!t || t->frames.empty() || level::frame_at(*t, session_.playClock().now()) == shownFrame_) return;
        shownFrame_ = level::frame_at(*t, session_.playClock().now());
        picture_->setPixmap(tileThumb(session_.project(), shownFrame_, 64));
    });

    buildProperties(column);
    buildNext(column);
    pourPart_ = buildPourPart();
    column->addWidget(pourPart_);
    sheetPart_ = buildSheetPart();
    column->addWidget(sheetPart_);
    hint_ = label({}, "quiet", this);
    hint_->setWordWrap(true);
    column->addWidget(hint_);
    column->addStretch();
}

void TilePanel::buildProperties(QVBoxLayout* column) {
    properties_ = new QWidget(this);
    auto* inner = new QVBoxLayout(properties_);
    inner->setContentsMargins(0, 4, 0, 0);
    inner->setSpacing(8);
    block_ = new BlockEditor(session_, properties_);
    inner->addWidget(block_);
    frames_ = new FramesEditor(session_, properties_);
    inner->addWidget(frames_);
    shape_ = new ShapeEditor(session_, properties_);
    inner->addWidget(shape_);
    piece_ = new PiecePart(session_, properties_);
    inner->addWidget(piece_);
    buildName(inner);
    buildHome(inner);
    auto* chance = new QSpinBox(properties_);
    chance->setObjectName("tileChance");
    chance->setRange(0, 1000);
    chance->setSuffix(tr(" %"));
    chance->setToolTip(tr("How often it is chosen next to its fellows"));
    addField(inner, tr("Chance"), chance, 78);
    fields_.bindInt(
        chance, [this] { return session_.chosenTiles().front()->chance; },
        [this](int v) {
            change(
                tr("Chance of tiles"), [v](level::Tile& tile) { tile.chance = v; }, "chance");
        });
    auto* rise = new QSpinBox(properties_);
    rise->setObjectName("tileRise");
    rise->setRange(0, level::kMostRise);
    rise->setSpecialValueText(tr("lies flat"));
    rise->setPrefix(tr("row "));
    rise->setToolTip(
        tr("Stands up, counted from its foot: the lowest row of a wall is row 1, the one above it row 2. On "
           "layers that are drawn in the order of feet"));
    addField(inner, tr("Stands up"), rise, 78);
    fields_.bindInt(
        rise, [this] { return session_.chosenTiles().front()->rise; },
        [this](int v) {
            change(
                tr("Whether tiles stand up"), [v](level::Tile& tile) { tile.rise = v; }, "rise");
        });
    notes_ = new TileNotes(session_, properties_);
    inner->addWidget(notes_);
    auto* props = new QPushButton(tr("Props of these tiles"), properties_);
    props->setObjectName("propsOfTiles");
    describe(props, tr("Make props of tiles"), {},
             tr("To be placed off the lattice and planted; those that neither block nor stand up lie flat"));
    connect(props, &QPushButton::clicked, this, [this] {
        std::vector<level::TileId> tiles;
        for (const level::Tile* t : session_.chosenTiles()) tiles.push_back(t->id);
        auto made = edit::props_of_tiles(session_.project(), session_.sheetId(), tiles);
        if (made.added.empty()) return emit session_.said(tr("Props are made of them already"), false);
        session_.apply(tr("Make props of tiles"), std::move(made.project));
        emit session_.said(translated(say_count(static_cast<std::int64_t>(made.added.size()), "One prop is in the Tray",
                                                "%n props are in the Tray")),
                           false);
    });
    inner->addWidget(props);
    column->addWidget(properties_);
}

void TilePanel::buildName(QVBoxLayout* inner) {
    auto* name = new QLineEdit(properties_);
    name->setObjectName("tileName");
    addField(inner, tr("Name"), name, 78);
    const auto oneName = [this] {
        const auto all = session_.chosenTiles();
        return std::all_of(all.begin(), all.end(), [&](const level::Tile* t) { return t->name == all.front()->name; });
    };
    fields_.bindText(
        name,
        [this, oneName] {
            return oneName() ? QString::fromStdString(session_.chosenTiles().front()->name) : QString();
        },
        [this](const QString& text) {
            const std::string wanted = text.toStdString();
            const Text taken = wanted.empty() || session_.tiles().empty()
                                   ? Text()
                                   : edit::name_taken_by_tile(session_.project(), wanted, session_.tiles().front());
            if (!taken.empty()) return emit session_.said(translated(taken), true);
            change(tr("Name of a tile"), [&](level::Tile& tile) { tile.name = wanted; });
        });
    fields_.follow([name, oneName] { name->setPlaceholderText(oneName() ? tr("no name") : tr("several")); });
}

void TilePanel::buildHome(QVBoxLayout* inner) {
    auto* home = new QComboBox(properties_);
    home->setObjectName("tileHome");
    addField(inner, tr("Home layer"), home, 78);
    const auto layers = [this] {
        std::vector<Bindings::Choice> all{{tr("none"), 0U}};
        if (const level::Level* level = session_.level())
            for (const level::LayerRef& l : level->layers)
                if (l->tiles()) all.push_back({QString::fromStdString(l->name), l->id});
        return all;
    };
    const auto now = [this] {
        const level::Level* level = session_.level();
        return QVariant(level ? level::home_in(*level, session_.chosenTiles().front()->homes) : 0U);
    };
    fields_.bindChoice(home, layers, now, [this](const QVariant& to) {
        const auto id = to.toUInt();
        const level::Level* level = session_.level();
        if (!level) return;
        std::vector<level::LayerId> here;
        for (const level::LayerRef& l : level->layers) here.push_back(l->id);
        change(tr("Home of tiles"), [here, id](level::Tile& tile) {
            std::erase_if(tile.homes,
                          [&](level::LayerId h) { return std::find(here.begin(), here.end(), h) != here.end(); });
            if (id) tile.homes.push_back(id);
        });
    });
}

void TilePanel::buildNext(QVBoxLayout* column) {
    next_ = new QWidget(this);
    auto* steps = new QVBoxLayout(next_);
    steps->setContentsMargins(0, 8, 0, 0);
    addHeading(steps, tr("Next"));
    joins_ = new QPushButton(tr("Read joins: edges + corners"), next_);
    joins_->setObjectName("readJoins");
    describe(joins_, tr("Make a material and read its joins"), "M",
             tr("For sheets whose tiles fit together by their neighbours"));
    connect(joins_, &QPushButton::clicked, this, [this] { session_.makeMaterial(session_.sheetId()); });
    kinds_ = new QMenu(this);
    kinds_->setObjectName("joinKinds");
    for (const level::JoinKind kind : {level::JoinKind::full, level::JoinKind::edges, level::JoinKind::corners}) {
        QAction* action = kinds_->addAction(kindName(kind));
        action->setObjectName(QString("joinKind-%1").arg(static_cast<int>(kind)));
        connect(action, &QAction::triggered, this, [this, kind] { session_.makeMaterial(session_.sheetId(), kind); });
    }
    auto* as = toolButton(next_, "joinAs", {}, tr("as…"), {}, "link");
    describe(as, tr("Read the joins as another kind"), {}, tr("Where the program takes the sheet for the wrong one"));
    as->setPopupMode(QToolButton::InstantPopup);
    as->setMenu(kinds_);
    as->setStyleSheet("QToolButton::menu-indicator { image: none; }");
    plain_ = new QPushButton(tr("Plain material of variants"), next_);
    plain_->setObjectName("plainMaterial");
    describe(plain_, tr("Make a plain material"), {},
             tr("Its tiles are chosen by chance, without looking at neighbours"));
    connect(plain_, &QPushButton::clicked, this,
            [this] { session_.makeMaterial(session_.sheetId(), level::JoinKind::plain); });
    auto* read = new QHBoxLayout;
    read->setSpacing(4);
    joins_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed); // however long the kind's name, the panel keeps
    read->addWidget(joins_, 1);
    read->addWidget(as);
    steps->addLayout(read);
    steps->addWidget(plain_);
    column->addWidget(next_);
}

QWidget* TilePanel::buildPourPart() {
    auto* part = new QWidget(this);
    auto* inner = new QVBoxLayout(part);
    inner->setContentsMargins(0, 4, 0, 0);
    inner->setSpacing(6);
    auto* head = new QHBoxLayout;
    head->addWidget(label(tr("Pour"), "heading"));
    head->addStretch();
    pourWhat_ = new QMenu(this);
    pourWhat_->setObjectName("pourWhat");
    const std::pair<QString, edit::Pour> kinds[] = {
        {tr("shape"), edit::kPourShape}, {tr("allowed turns"), edit::kPourTurns}, {tr("tags"), edit::kPourTags},
        {tr("notes"), edit::kPourNotes}, {tr("chance"), edit::kPourChance},       {tr("home layer"), edit::kPourHome},
        {tr("joins"), edit::kPourJoins}};
    for (const auto& [text, bit] : kinds) {
        QAction* action = pourWhat_->addAction(text);
        action->setCheckable(true);
        action->setChecked(true);
        action->setData(uint(bit));
    }
    auto* what = toolButton(part, "pourChoose", {}, tr("what…"), tr("What is poured"), "link");
    what->setPopupMode(QToolButton::InstantPopup);
    what->setMenu(pourWhat_);
    what->setStyleSheet("QToolButton::menu-indicator { image: none; }");
    head->addWidget(what);
    inner->addLayout(head);
    pourTake_ = new QPushButton(part);
    pourTake_->setObjectName("pourTake");
    describe(pourTake_, tr("Take as a source"), {},
             tr("Shapes, notes, joins and the rest of these tiles can then be poured onto others"));
    connect(pourTake_, &QPushButton::clicked, this, [this] {
        pourFrom_ = session_.tiles();
        if (pourFrom_.empty() && session_.sheet())
            for (const level::Tile& t : session_.sheet()->tiles) pourFrom_.push_back(t.id);
        emit session_.said(
            translated(say_count(static_cast<std::int64_t>(pourFrom_.size()),
                                 "One tile is the source now: choose others, or another sheet, and pour",
                                 "%n tiles are the source now: choose others, or another sheet, and pour")),
            false);
        refresh();
    });
    pourOnto_ = new QPushButton(part);
    pourOnto_->setObjectName("pourOnto");
    describe(pourOnto_, tr("Pour"), {}, tr("One source serves all; equally many go in order"));
    connect(pourOnto_, &QPushButton::clicked, this, &TilePanel::pour);
    inner->addWidget(pourTake_);
    inner->addWidget(pourOnto_);
    return part;
}

void TilePanel::pour() {
    std::vector<level::TileId> to = session_.tiles();
    if (to.empty() && session_.sheet())
        for (const level::Tile& t : session_.sheet()->tiles) to.push_back(t.id);
    if (const Text trouble = edit::pour_trouble(session_.project(), pourFrom_, to); !trouble.empty()) {
        emit session_.said(translated(trouble), true);
        return;
    }
    unsigned what = 0;
    for (const QAction* action : pourWhat_->actions())
        if (action->isChecked()) what |= action->data().toUInt();
    edit::Poured poured = edit::pour(session_.project(), pourFrom_, to, static_cast<std::uint8_t>(what));
    session_.apply(translated(say_count(poured.tiles, "Pour onto one tile", "Pour onto %n tiles")),
                   std::move(poured.project));
    emit session_.said(poured.made
                           ? translated(say_count(poured.tiles, "Poured onto one tile, new materials: %1",
                                                  "Poured onto %n tiles, new materials: %1", poured.made))
                           : translated(say_count(poured.tiles, "Poured onto one tile", "Poured onto %n tiles")),
                       false);
}

void TilePanel::change(const QString& name, const std::function<void(level::Tile&)>& what, const std::string& merge) {
    if (session_.tiles().empty()) return;
    std::string key = merge;
    if (!key.empty())
        for (const auto id : session_.tiles()) key += "-" + std::to_string(id);
    session_.apply(name, edit::change_tiles(session_.project(), session_.tiles(), what), key);
}

void TilePanel::refresh() {
    if (!session_.isOpen()) return;
    const level::Sheet* s = session_.sheet();
    const std::vector<const level::Tile*> chosen = session_.chosenTiles();
    count_->setText(s ? tr("%1 of %2 chosen").arg(chosen.size()).arg(s->tiles.size()) : QString());
    properties_->setVisible(!chosen.empty());
    const bool poured = !pourFrom_.empty() && edit::pour_trouble(session_.project(), pourFrom_, pourFrom_).empty();
    if (!poured) pourFrom_.clear();
    pourPart_->setVisible(s && s->accepted && s->tiles.size() > 1);
    pourTake_->setText(chosen.empty() ? tr("Take the sheet as a source") : tr("Take as a source"));
    pourOnto_->setVisible(poured);
    pourOnto_->setText(chosen.empty() ? tr("Pour onto the sheet") : tr("Pour onto these"));
    sheetPart_->setVisible(s && chosen.empty());
    if (s && chosen.empty()) refreshSheet();
    next_->setVisible(s && s->image && s->accepted && s->tiles.size() > 1);
    if (next_->isVisibleTo(this)) {
        const auto kind = session_.joins().kind(s->id);
        joins_->setText(kind ? tr("Read joins: %1").arg(kindName(*kind)) : tr("Read joins"));
    }
    joins_->setProperty("role", "primary");
    if (chosen.empty()) {
        picture_->clear();
        title_->setText(s ? QString::fromStdString(s->name) : tr("No sheet"));
        under_->setText(s && s->image ? tr("%1 × %2 px").arg(s->image->width()).arg(s->image->height()) : QString());
        if (s) picture_->setPixmap(sheetThumb(*s, 64));
        hint_->setText(!s             ? tr("Drop a PNG on the window to begin.")
                       : !s->accepted ? tr("Hover a proposal to see it over the picture; one click or Enter takes it. "
                                           "Numbers can be set by hand in the row above the picture.")
                                      : tr("Click tiles to choose them, drag for several, Ctrl adds. Shift+drag cuts a "
                                           "prop out of the picture."));
        return;
    }
    hint_->clear();
    const level::Tile& first = *chosen.front();
    shownFrame_ = level::frame_at(first, session_.playClock().now());
    picture_->setPixmap(tileThumb(session_.project(), shownFrame_, 64));
    title_->setText(first.name.empty() ? tr("Tile %1").arg(first.id) : QString::fromStdString(first.name));
    under_->setText(chosen.size() > 1 ? tr("and %1 more").arg(chosen.size() - 1)
                    : first.blank     ? tr("blank")
                                      : QString());
    fields_.refresh();
    shape_->refresh();
    piece_->refresh();
    block_->refresh();
    frames_->refresh();
    notes_->refresh();
}

} // namespace vic::app
