#include "app/cut/tile_panel.hpp"

#include <QAction>
#include <QComboBox>
#include <QFileDialog>
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
#include <cstddef>
#include <cstdint>
#include <utility>

#include "app/cut/block_editor.hpp"
#include "app/cut/frames_editor.hpp"
#include "app/cut/shape_editor.hpp"
#include "app/cut/tile_notes.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/thumbs.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "base/error.hpp"
#include "base/text.hpp"
#include "edit/pour.hpp"
#include "edit/replace.hpp"
#include "edit/sheets.hpp"
#include "edit/stroke.hpp"
#include "level/level.hpp"
#include "level/material.hpp"
#include "level/project.hpp"
#include "level/sheet.hpp"
#include "sheet/cut.hpp"

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
    name_ = new QLineEdit(properties_);
    name_->setObjectName("tileName");
    addField(inner, tr("Name"), name_, 78);
    connect(name_, &QLineEdit::editingFinished, this, [this] {
        if (!name_->isModified()) return;
        name_->setModified(false);
        const std::string wanted = name_->text().trimmed().toStdString();
        const Text taken = wanted.empty() || session_.tiles().empty()
                               ? Text()
                               : edit::name_taken_by_tile(session_.project(), wanted, session_.tiles().front());
        if (!taken.empty()) {
            emit session_.said(translated(taken), true);
            return refresh();
        }
        change(tr("Name of a tile"),
               [text = name_->text().trimmed().toStdString()](level::Tile& tile) { tile.name = text; });
    });
    home_ = new QComboBox(properties_);
    home_->setObjectName("tileHome");
    addField(inner, tr("Home layer"), home_, 78);
    connect(home_, &QComboBox::activated, this, [this] {
        const auto id = home_->currentData().toUInt();
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
    chance_ = new QSpinBox(properties_);
    chance_->setObjectName("tileChance");
    chance_->setRange(0, 1000);
    chance_->setSuffix(tr(" %"));
    chance_->setKeyboardTracking(false);
    chance_->setToolTip(tr("How often it is chosen next to its fellows"));
    addField(inner, tr("Chance"), chance_, 78);
    connect(chance_, &QSpinBox::valueChanged, this, [this](int v) {
        change(
            tr("Chance of tiles"), [v](level::Tile& tile) { tile.chance = v; }, "chance");
    });
    notes_ = new TileNotes(session_, properties_);
    inner->addWidget(notes_);
    column->addWidget(properties_);

    next_ = new QWidget(this);
    auto* steps = new QVBoxLayout(next_);
    steps->setContentsMargins(0, 8, 0, 0);
    addHeading(steps, tr("Next"));
    joins_ = new QPushButton(tr("Read joins: edges + corners"), next_);
    joins_->setObjectName("readJoins");
    describe(joins_, tr("Make a material and read its joins"), "M",
             tr("For sheets whose tiles fit together by their neighbours"));
    connect(joins_, &QPushButton::clicked, this,
            [this] { session_.makeMaterial(session_.sheetId(), session_.derived().kindOf(session_.sheetId())); });
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
    pourPart_ = buildPourPart();
    column->addWidget(pourPart_);
    sheetPart_ = buildSheetPart();
    column->addWidget(sheetPart_);
    hint_ = label({}, "quiet", this);
    hint_->setWordWrap(true);
    column->addWidget(hint_);
    column->addStretch();
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
        emit session_.said(tr("%n tiles are the source now: choose others, or another sheet, and pour", nullptr,
                              static_cast<int>(pourFrom_.size())),
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
    session_.apply(tr("Pour onto %n tiles", nullptr, poured.tiles), std::move(poured.project));
    emit session_.said(poured.made
                           ? tr("Poured onto %1 tiles, with %2 new materials").arg(poured.tiles).arg(poured.made)
                           : tr("Poured onto %1 tiles").arg(poured.tiles),
                       false);
}

QWidget* TilePanel::buildSheetPart() {
    auto* part = new QWidget(this);
    auto* inner = new QVBoxLayout(part);
    inner->setContentsMargins(0, 4, 0, 0);
    inner->setSpacing(8);
    const auto attempt = [this](const std::function<void()>& what) {
        try {
            what();
        } catch (const InputError& e) {
            emit session_.said(translated(e), true);
        }
    };
    fit_ = label({}, "warning", part);
    fit_->setObjectName("sheetFit");
    fit_->setWordWrap(true);
    inner->addWidget(fit_);
    unused_ = new QPushButton(tr("Choose the unused tiles"), part);
    unused_->setObjectName("chooseUnused");
    describe(unused_, tr("Choose the unused tiles"), {}, tr("Those that lie in no level and serve no material"));
    connect(unused_, &QPushButton::clicked, this, [this] {
        const level::Sheet* s = session_.sheet();
        if (!s) return;
        auto tiles = edit::unused_tiles(session_.project(), *s);
        if (tiles.empty())
            emit session_.said(tr("Every tile of %1 is in use").arg(QString::fromStdString(s->name)), false);
        else
            session_.setTiles(std::move(tiles));
    });
    inner->addWidget(unused_);
    whole_ = new QPushButton(tr("Use it as one large picture"), part);
    whole_->setObjectName("wholePicture");
    describe(whole_, tr("Use it as one large picture"), {},
             tr("A prop of the whole picture, placed in Dress; the build cuts it into equal pieces"));
    connect(whole_, &QPushButton::clicked, this, [this] {
        const edit::LargePicture made = edit::add_large_picture(session_.project(), session_.sheetId());
        session_.apply(tr("A large picture"), made.project);
        edit::Hand hand;
        hand.kind = edit::Hand::Kind::prop;
        hand.prop = made.kind;
        session_.setHand(hand);
        emit session_.said(tr("In the Hand: place it in Dress. Its pieces are set among the islands of the sheet"),
                           false);
    });
    inner->addWidget(whole_);
    replace_ = new QPushButton(tr("Replace the picture…"), part);
    replace_->setObjectName("replacePicture");
    describe(
        replace_, tr("Replace the picture"), {},
        tr("Tiles, placements and joins are kept by their place in the picture. A file that changes on the disk is "
           "read again by itself"));
    connect(replace_, &QPushButton::clicked, this, [this, attempt] {
        const QString file =
            QFileDialog::getOpenFileName(this, tr("Replace the picture"), {}, tr("PNG pictures (*.png)"));
        if (!file.isEmpty()) attempt([&] { session_.library().replacePicture(session_.sheetId(), file); });
    });
    findAgain_ = new QPushButton(tr("Find it again…"), part);
    findAgain_->setObjectName("findAgain");
    describe(findAgain_, tr("Find it again"), {}, tr("Mends all sheets whose pictures lie in the same folder"));
    connect(findAgain_, &QPushButton::clicked, this, [this, attempt] {
        const QString file =
            QFileDialog::getOpenFileName(this, tr("Where is the picture now?"), {}, tr("PNG pictures (*.png)"));
        if (file.isEmpty()) return;
        attempt([&] {
            const int n = session_.library().findAgain(session_.sheetId(), file);
            emit session_.said(tr("%n pictures found again", nullptr, n), n == 0);
        });
    });
    putBack_ = new QPushButton(tr("Write it back to the disk"), part);
    putBack_->setObjectName("putBack");
    describe(putBack_, tr("Write it back to the disk"), {}, tr("The picture is still in memory"));
    connect(putBack_, &QPushButton::clicked, this,
            [this, attempt] { attempt([&] { session_.library().putBack(session_.sheetId()); }); });
    inner->addWidget(replace_);
    inner->insertWidget(0, findAgain_); // what mends comes first
    inner->insertWidget(1, putBack_);
    inner->addSpacing(4);
    QLabel* aside = nullptr;
    scale_ = new QLabel(part);
    addHeading(inner, tr("Scale"), &scale_);
    smooth_ = new QComboBox(part);
    smooth_->setObjectName("sheetSampling");
    smooth_->addItems({tr("crisp, pixel by pixel"), tr("smooth")});
    smooth_->setToolTip(tr("How its art is drawn at another size than its own"));
    addField(inner, tr("Art is"), smooth_, 54);
    connect(smooth_, &QComboBox::activated, this, [this](int i) {
        const level::Sheet* s = session_.sheet();
        if (!s || s->smooth == (i == 1)) return;
        level::Sheet changed = *s;
        changed.smooth = i == 1;
        level::Project p = session_.project();
        p.put(std::move(changed));
        session_.apply(tr("Sampling of %1").arg(QString::fromStdString(s->name)), std::move(p));
    });
    unit_ = new QSpinBox(part);
    unit_->setObjectName("engineUnit");
    unit_->setRange(1, 4096);
    unit_->setSuffix(tr(" px"));
    unit_->setKeyboardTracking(false);
    unit_->setToolTip(tr("Pixels of a level that are one unit of the engine, in the whole project"));
    addField(inner, tr("1 unit"), unit_, 54);
    connect(unit_, &QSpinBox::valueChanged, this, [this](int v) {
        level::Project p = session_.project();
        p.unit = v;
        session_.apply(tr("How large the engine's unit is"), std::move(p), "unit");
    });
    addHeading(inner, tr("Credits"), &aside);
    aside->setText(tr("go with the build"));
    const QString names[4] = {tr("Author"), tr("Licence"), tr("Source"), tr("Note")};
    static const char* ids[4] = {"creditAuthor", "creditLicence", "creditSource", "creditNote"};
    static std::string level::Credits::*const fields[4] = {&level::Credits::author, &level::Credits::licence,
                                                           &level::Credits::source, &level::Credits::note};
    for (int i = 0; i < 4; ++i) {
        auto* edit = new QLineEdit(part);
        edit->setObjectName(ids[i]);
        addField(inner, names[i], edit, 54);
        connect(edit, &QLineEdit::editingFinished, this, [this, edit, i] {
            const level::Sheet* s = session_.sheet();
            const std::string text = edit->text().trimmed().toStdString();
            if (!s || s->credits.*fields[i] == text) return;
            level::Project p = session_.project();
            level::Sheet changed = *s;
            changed.credits.*fields[i] = text;
            p.put(std::move(changed));
            session_.apply(tr("Credits of %1").arg(QString::fromStdString(s->name)), std::move(p));
        });
        credits_[static_cast<std::size_t>(i)] = edit;
    }
    return part;
}

void TilePanel::refreshSheet() {
    const level::Sheet* s = session_.sheet();
    const bool gone = session_.library().fileGone(s->id);
    replace_->setVisible(s->image != nullptr);
    whole_->setVisible(s->image && s->tiles.size() <= 1);
    unused_->setVisible(s->tiles.size() > 1);
    findAgain_->setVisible(!s->image || gone);
    putBack_->setVisible(s->image && gone);
    const std::string* texts[4] = {&s->credits.author, &s->credits.licence, &s->credits.source, &s->credits.note};
    for (std::size_t i = 0; i < 4; ++i)
        if (!credits_[i]->hasFocus()) {
            credits_[i]->setText(QString::fromStdString(*texts[i]));
            credits_[i]->setCursorPosition(0);
            credits_[i]->setToolTip(QString::fromStdString(*texts[i]).toHtmlEscaped());
        }
    const level::Level* level = session_.level();
    QString fit;
    if (level && s->image && s->tiles.size() > 1) {
        const Size drawn = sheet::drawn_size(s->cut);
        const sheet::Fit how = sheet::fit_of(drawn, level->cell);
        if (how.kind == sheet::Fit::Kind::enlarged)
            fit = tr("Drawn at %1 px: ×%2 fits the level's %3 px cells, and is shown so")
                      .arg(drawn.w)
                      .arg(how.by.w)
                      .arg(level->cell.w);
        else if (how.kind == sheet::Fit::Kind::cells)
            fit = tr("A tile is %1 × %2 cells of the level large; in a cell it is shown shrunk")
                      .arg(how.by.w)
                      .arg(how.by.h);
        else if (how.kind == sheet::Fit::Kind::uneven)
            fit = unevenFit(how, drawn, level->cell);
    }
    smooth_->setCurrentIndex(s->smooth ? 1 : 0);
    const QSignalBlocker quietUnit(unit_);
    const int unit = session_.project().unit;
    unit_->setValue(unit);
    scale_->setText(!level || level->cell.w % unit == 0 || unit % level->cell.w == 0
                        ? tr("a cell is %1 px").arg(level ? level->cell.w : unit)
                        : tr("a cell of %1 px is no whole number of units").arg(level->cell.w));
    fit_->setText(fit);
    fit_->setVisible(!fit.isEmpty());
}

// What it takes to make a tile fill its cell, and what would keep the pixels even.
QString TilePanel::unevenFit(const sheet::Fit& how, Size drawn, Size cell) {
    const auto factor = [](int up, int down) {
        const int whole = up / down;
        if (up % down == 0) return QString("×%1").arg(whole);
        return whole > 0 ? QString("×%1 %2/%3").arg(whole).arg(up % down).arg(down)
                         : QString("×%1/%2").arg(up).arg(down);
    };
    const QString across = factor(how.up.w, how.down.w);
    const QString along = factor(how.up.h, how.down.h);
    const QString by = across == along ? across : tr("%1 across and %2 down").arg(across, along);
    const QString need = tr("%1 × %2 px fill the level's %3 × %4 px cells at %5, which makes pixels uneven")
                             .arg(drawn.w)
                             .arg(drawn.h)
                             .arg(cell.w)
                             .arg(cell.h)
                             .arg(by);
    const int even = std::max(how.within, 1);
    return tr("%1. At ×%2 they would fit cells of %3 × %4 px")
        .arg(need)
        .arg(even)
        .arg(drawn.w * even)
        .arg(drawn.h * even);
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
    std::vector<const level::Tile*> chosen;
    if (s)
        for (const auto id : session_.tiles())
            for (const level::Tile& t : s->tiles)
                if (t.id == id) chosen.push_back(&t);
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
    if (next_->isVisibleTo(this)) joins_->setText(tr("Read joins: %1").arg(kindName(session_.derived().kindOf(s->id))));
    joins_->setProperty("role", "primary");
    if (chosen.empty()) {
        picture_->clear();
        title_->setText(s ? QString::fromStdString(s->name) : tr("No sheet"));
        under_->setText(s && s->image ? tr("%1 × %2 px").arg(s->image->width()).arg(s->image->height()) : QString());
        if (s) picture_->setPixmap(sheetThumb(*s, 64));
        hint_->setText(!s             ? tr("Drop a PNG on the window to begin.")
                       : !s->accepted ? tr("Hover a proposal to see it over the image; one click or Enter takes it. "
                                           "Numbers can be set by hand in the row above the picture.")
                                      : tr("Click tiles to choose them, drag for several, Ctrl adds. Shift+drag cuts a "
                                           "prop from the image."));
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
    const auto all = [&](auto get) {
        return std::all_of(chosen.begin(), chosen.end(), [&](const level::Tile* t) { return get(*t) == get(first); });
    };
    const bool oneName = all([](const level::Tile& t) { return t.name; });
    if (!name_->hasFocus() || !name_->isModified())
        name_->setText(oneName ? QString::fromStdString(first.name) : QString());
    name_->setPlaceholderText(oneName ? tr("no name") : tr("several"));
    shape_->refresh(chosen);
    block_->refresh(chosen);
    frames_->refresh(chosen);
    notes_->refresh(chosen);
    const QSignalBlocker quiet(chance_);
    chance_->setValue(first.chance);
    home_->clear();
    home_->addItem(tr("none"), 0U);
    if (const level::Level* level = session_.level()) {
        for (const level::LayerRef& l : level->layers)
            if (l->kind == level::LayerKind::tiles) home_->addItem(QString::fromStdString(l->name), l->id);
        home_->setCurrentIndex(std::max(0, home_->findData(level::home_in(*level, first.homes))));
    }
}

} // namespace vic::app
