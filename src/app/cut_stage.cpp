#include "app/cut_stage.hpp"

#include <QPainter>
#include <QTimer>
#include <QVBoxLayout>
#include <cmath>

#include "app/panel.hpp"
#include "app/signs.hpp"
#include "app/spoken.hpp"
#include "app/thumbs.hpp"
#include "app/tokens.hpp"
#include "edit/sheets.hpp"
#include "sheet/cut.hpp"

namespace vic::app {

namespace {

QString cutTitle(const level::Cut& cut) {
    QString text = SheetList::tr("%1 × %2").arg(cut.tile.w).arg(cut.tile.h);
    if (cut.spacing.x || cut.spacing.y)
        text += cut.spacing.x == cut.spacing.y
                    ? SheetList::tr(", gaps %1").arg(cut.spacing.x)
                    : SheetList::tr(", gaps %1 and %2").arg(cut.spacing.x).arg(cut.spacing.y);
    if (cut.margin.x || cut.margin.y)
        text += cut.margin.x == cut.margin.y ? SheetList::tr(", margin %1").arg(cut.margin.x)
                                             : SheetList::tr(", margin %1 and %2").arg(cut.margin.x).arg(cut.margin.y);
    if (cut.scale > 1) text += SheetList::tr(", enlarged ×%1").arg(cut.scale);
    return text;
}

} // namespace

SheetList::SheetList(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 12, 0, 0);
    column->setSpacing(6);
    auto* head = new QHBoxLayout;
    head->setContentsMargins(12, 0, 8, 0);
    head->addWidget(label(tr("Sheets"), "heading"));
    head->addStretch();
    auto* add = toolButton(this, "addSheet", {}, tr("+ add, or drop"), {}, "link");
    describe(add, tr("Add a sheet"), "Ctrl+Shift+A", tr("Choose a PNG; dropping it on the window does the same"));
    connect(add, &QToolButton::clicked, this, &SheetList::addAsked);
    head->addWidget(add);
    column->addLayout(head);
    list_ = new CardList(this);
    list_->setObjectName("sheetList");
    list_->setAccessibleName(tr("Sheets"));
    column->addWidget(list_, 1);
    connect(list_, &CardList::chosen, &session_, &Session::setSheet);
    connect(list_, &CardList::renamed, this, [this](quint32 id, const QString& name) {
        const level::Sheet* s = session_.project().sheet(id);
        if (!s || name.isEmpty() || name.toStdString() == s->name) return follow();
        QTimer::singleShot(0, &session_, [this, id, name] {
            level::Project p = session_.project();
            level::Sheet changed = *p.sheet(id);
            changed.name = name.toStdString();
            p.put(std::move(changed));
            session_.apply(tr("Rename a sheet"), std::move(p));
        });
    });
}

void SheetList::follow() {
    std::vector<Card> cards;
    for (const auto& s : session_.project().sheets) {
        Card card;
        card.id = s->id;
        card.picture = sheetThumb(*s, 40);
        card.title = QString::fromStdString(s->name);
        const auto drawn = std::count_if(s->tiles.begin(), s->tiles.end(), [](const auto& t) { return !t.blank; });
        card.under = tr("%1 px · %2 tiles").arg(s->cut.tile.w).arg(drawn);
        if (s->tiles.size() == 1) card.under = tr("one picture");
        if (!s->image)
            card.state = tr("file lost"), card.looks = true;
        else if (!s->accepted)
            card.state = tr("new: waits for you"), card.looks = true;
        cards.push_back(card);
    }
    list_->setCards(cards, session_.sheetId());
}

ReadingCard::ReadingCard(const QString& title, const QString& reason, bool first, QWidget* parent)
    : QAbstractButton(parent), reason_(reason), first_(first) {
    setText(title);
    setAccessibleName(title);
    setAccessibleDescription(reason);
    setFocusPolicy(Qt::TabFocus);
    setCursor(Qt::PointingHandCursor);
    setToolTip(tr("<b>%1</b><br>%2<br>Click to take it").arg(title.toHtmlEscaped(), reason.toHtmlEscaped()));
}

QSize ReadingCard::sizeHint() const {
    QFont bold = font();
    bold.setWeight(QFont::DemiBold);
    QFont small = font();
    small.setPixelSize(11);
    return {std::min(270, std::max(QFontMetrics(bold).horizontalAdvance(text()),
                                   QFontMetrics(small).horizontalAdvance(reason_)) +
                              24),
            44};
}

void ReadingCard::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Tokens t = tokensOf(this);
    p.setPen(QPen(hasFocus() ? t.brine : first_ ? t.vermilion : underMouse() ? t.quiet : t.line, first_ ? 2 : 1));
    p.setBrush(t.card);
    p.drawRoundedRect(QRectF(rect()).adjusted(1, 1, -1, -1), 6, 6);
    QFont font = this->font();
    font.setWeight(QFont::DemiBold);
    p.setFont(font);
    p.setPen(t.ink);
    p.drawText(QRect(12, 5, width() - 20, 18), Qt::AlignLeft | Qt::AlignVCenter,
               QFontMetrics(font).elidedText(text(), Qt::ElideRight, width() - 20));
    font.setPixelSize(11);
    font.setWeight(QFont::Normal);
    p.setFont(font);
    p.setPen(t.quiet);
    p.drawText(QRect(12, 23, width() - 20, 15), Qt::AlignLeft | Qt::AlignVCenter,
               QFontMetrics(font).elidedText(reason_, Qt::ElideRight, width() - 20));
}

CutCentre::CutCentre(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    cards_ = new QWidget(this);
    cards_->setFixedHeight(60);
    cardRow_ = new QHBoxLayout(cards_);
    cardRow_->setContentsMargins(12, 8, 12, 8);
    cardRow_->setSpacing(8);
    column->addWidget(cards_);
    column->addWidget(rule(this));

    auto* hand = new QWidget(this);
    hand->setFixedHeight(42);
    auto* row = new QHBoxLayout(hand);
    row->setContentsMargins(12, 4, 12, 4);
    row->setSpacing(5);
    row->addWidget(label(tr("By hand"), "quiet"));
    static const char* ids[7] = {"tileWidth", "tileHeight", "marginX", "marginY", "spacingX", "spacingY", "cutScale"};
    const QString groups[4] = {tr("tile"), tr("margin"), tr("gaps"), tr("enlarged")};
    const QString names[7] = {tr("Tile width"), tr("Tile height"), tr("Left margin"), tr("Upper margin"),
                              tr("Gap across"), tr("Gap down"),    tr("Enlarged by")};
    for (int i = 0; i < 7; ++i) {
        if (i % 2 == 0) {
            row->addSpacing(6);
            row->addWidget(label(groups[i / 2], "quiet"));
        }
        auto* box = new QSpinBox(hand);
        box->setObjectName(ids[i]);
        box->setAccessibleName(names[i]);
        box->setToolTip(names[i] + tr(", in pixels of the image"));
        if (i == 6) box->setToolTip(tr("The whole factor by which the art was enlarged"));
        box->setRange(i < 2 || i == 6 ? 1 : 0, i == 6 ? 64 : 16384);
        box->setKeyboardTracking(false);
        box->setFixedWidth(44);
        box->setAlignment(Qt::AlignCenter);
        connect(box, &QSpinBox::valueChanged, this, &CutCentre::byHand);
        numbers_[static_cast<std::size_t>(i)] = box;
        row->addWidget(box);
    }
    row->addStretch();
    trouble_ = label({}, "warning", hand);
    trouble_->setObjectName("cutTrouble");
    row->addWidget(trouble_);
    takeButton_ = new QPushButton(tr("Take this cut"), hand);
    takeButton_->setObjectName("takeCut");
    takeButton_->setProperty("role", "primary");
    describe(takeButton_, tr("Take this cut"), "Enter", tr("The sheet's tiles are then ready to be laid"));
    connect(takeButton_, &QPushButton::clicked, this, &CutCentre::takeBest);
    row->addWidget(takeButton_);
    column->addWidget(hand);
    column->addWidget(rule(this));

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
}

void CutCentre::addProp(const Box& box) {
    const level::Sheet* s = session_.sheet();
    if (!s) return;
    level::Project p = session_.project();
    const level::PropKindId id = p.next_id++;
    const std::string name = s->name + " " + std::to_string(p.prop_kinds.size() + 1);
    p.put(edit::propose_prop(*s, box, id, name));
    session_.apply(tr("Cut the prop %1").arg(QString::fromStdString(name)), std::move(p));
    emit session_.said(tr("%1 is a prop now: place it in Dress").arg(QString::fromStdString(name)), false);
}

void CutCentre::hover(level::TileId tile) {
    hovered_ = tile;
    follow();
}

void CutCentre::rebuildCards() {
    const level::Sheet* s = session_.sheet();
    std::string key = s ? std::to_string(s->id) + (s->accepted ? "a" : "n") +
                              std::to_string(s->image ? s->image->pixels().size() : 0) + cutTitle(s->cut).toStdString()
                        : "";
    if (key == cardsOf_) return;
    cardsOf_ = key;
    while (cardRow_->count() > 0) {
        QLayoutItem* item = cardRow_->takeAt(0);
        if (item->widget()) {
            item->widget()->hide();
            item->widget()->setObjectName({}); // a new card will have the name
            item->widget()->deleteLater();
        }
        delete item;
    }
    if (!s || !s->image) return;
    cardRow_->addWidget(label(s->accepted ? tr("Cut as") : tr("Read as"), "quiet"));
    const auto& reading = session_.reading(s->id);
    std::vector<sheet::CutReading> all;
    if (reading.best) all.push_back(*reading.best);
    for (const auto& r : reading.others)
        if (all.size() < 3) all.push_back(r);
    int n = 0;
    for (const auto& r : all) {
        auto* card =
            new ReadingCard(cutTitle(r.cut), tr("%1 % · %2").arg(std::lround(r.confidence * 100)).arg(spoken(r.reason)),
                            r.cut == s->cut, cards_);
        card->setObjectName(QString("reading-%1").arg(n++));
        connect(card, &ReadingCard::clicked, this, [this, cut = r.cut] { take(cut); });
        connect(card, &ReadingCard::hovered, this,
                [this, cut = r.cut](bool on) { view_->setShownCut(on ? std::optional(cut) : std::nullopt); });
        cardRow_->addWidget(card);
    }
    if (all.empty())
        cardRow_->addWidget(
            label(tr("no lattice found: one tile as large as the picture, or set it by hand"), "quiet"));
    cardRow_->addStretch();
}

void CutCentre::follow() {
    if (!session_.isOpen()) return;
    const level::Sheet* s = session_.sheet();
    view_->setSheet(session_.sheetId());
    view_->setChosen({session_.tiles().begin(), session_.tiles().end()});
    rebuildCards();
    for (auto* box : numbers_) box->setEnabled(s && s->image);
    takeButton_->setVisible(s && s->image && !s->accepted);
    if (!s) {
        reading_ = tr("No sheet yet: drop a PNG on the window");
        emit readingChanged();
        return;
    }
    const int values[7] = {s->cut.tile.w,    s->cut.tile.h,    s->cut.margin.x, s->cut.margin.y,
                           s->cut.spacing.x, s->cut.spacing.y, s->cut.scale};
    for (std::size_t i = 0; i < 7; ++i) {
        const QSignalBlocker quiet(numbers_[i]);
        numbers_[i]->setValue(values[i]);
    }
    trouble_->clear();
    const Size count = s->image ? sheet::columns_rows(s->cut, s->image->size()) : Size{};
    const auto blank = std::count_if(s->tiles.begin(), s->tiles.end(), [](const auto& t) { return t.blank; });
    QString text =
        s->accepted ? tr("Cut as <b>%1</b>").arg(cutTitle(s->cut)) : tr("Enter takes <b>%1</b>").arg(cutTitle(s->cut));
    text += tr(" · %1 × %2 tiles").arg(count.w).arg(count.h);
    if (blank) text += tr(" · %1 blank").arg(blank);
    if (const level::Level* level = session_.level()) {
        const Size drawn = sheet::drawn_size(s->cut);
        text += drawn == level->cell
                    ? tr(" · fits the level's %1 px cells").arg(level->cell.w)
                    : tr(" · drawn at %1 px, the level's cells have %2").arg(drawn.w).arg(level->cell.w);
    }
    if (hovered_)
        for (std::size_t i = 0; i < s->tiles.size(); ++i)
            if (s->tiles[i].id == hovered_)
                text = tr("Tile %1%2 · column %3, row %4 · %5 × %6 px at %7, %8 · Shift+drag cuts a prop")
                           .arg(i)
                           .arg(s->tiles[i].name.empty()
                                    ? QString()
                                    : tr(" <b>%1</b>").arg(QString::fromStdString(s->tiles[i].name).toHtmlEscaped()))
                           .arg(static_cast<int>(i) % std::max(1, count.w))
                           .arg(static_cast<int>(i) / std::max(1, count.w))
                           .arg(s->tiles[i].box.w)
                           .arg(s->tiles[i].box.h)
                           .arg(s->tiles[i].box.x)
                           .arg(s->tiles[i].box.y);
    reading_ = text;
    emit readingChanged();
}

void CutCentre::take(const level::Cut& cut) {
    const level::Sheet* s = session_.sheet();
    if (!s || !s->image) return;
    view_->setShownCut({});
    session_.apply(tr("Cut %1 as %2").arg(QString::fromStdString(s->name), cutTitle(cut)),
                   edit::recut_sheet(session_.project(), s->id, cut, true));
    emit session_.said(tr("%1 is cut: %2 tiles")
                           .arg(QString::fromStdString(session_.sheet()->name))
                           .arg(session_.sheet()->tiles.size()),
                       false);
}

void CutCentre::takeBest() {
    const level::Sheet* s = session_.sheet();
    if (s && s->image && !s->accepted) take(s->cut);
}

void CutCentre::byHand() {
    const level::Sheet* s = session_.sheet();
    if (!s || !s->image) return;
    const level::Cut cut{{numbers_[0]->value(), numbers_[1]->value()},
                         {numbers_[2]->value(), numbers_[3]->value()},
                         {numbers_[4]->value(), numbers_[5]->value()},
                         numbers_[6]->value()};
    if (const auto trouble = sheet::cut_trouble(cut, s->image->size())) {
        trouble_->setText(spoken(*trouble));
        return;
    }
    trouble_->clear();
    if (cut == s->cut) return;
    session_.apply(tr("Cut %1 as %2").arg(QString::fromStdString(s->name), cutTitle(cut)),
                   edit::recut_sheet(session_.project(), s->id, cut, s->accepted), "cut-" + std::to_string(s->id));
}

TilePanel::TilePanel(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = panelColumn(this);
    addHeading(column, tr("Tiles"), &count_);
    auto* card = new QWidget(this);
    auto* row = new QHBoxLayout(card);
    row->setContentsMargins(0, 0, 0, 0);
    picture_ = new QLabel(card);
    picture_->setFixedSize(68, 68);
    picture_->setAlignment(Qt::AlignCenter);
    row->addWidget(picture_);
    auto* texts = new QVBoxLayout;
    title_ = label({}, "title", card);
    title_->setWordWrap(true);
    under_ = label({}, "quiet", card);
    under_->setWordWrap(true);
    texts->addStretch();
    texts->addWidget(title_);
    texts->addWidget(under_);
    texts->addStretch();
    row->addLayout(texts, 1);
    card->setFixedHeight(72);
    column->addWidget(card);

    properties_ = new QWidget(this);
    auto* inner = new QVBoxLayout(properties_);
    inner->setContentsMargins(0, 4, 0, 0);
    inner->setSpacing(8);
    QLabel* aside = nullptr;
    addHeading(inner, tr("Shape"), &aside);
    aside->setText(tr("turns with the tile"));
    auto* shapes = new QHBoxLayout;
    shapes->setSpacing(3);
    const QString names[7] = {tr("None"),
                              tr("Full"),
                              tr("Slope, mass north-east"),
                              tr("Slope, mass south-east"),
                              tr("Slope, mass south-west"),
                              tr("Slope, mass north-west"),
                              tr("One-way top")};
    const Tokens t = tokensOf(this);
    for (int i = 0; i < 7; ++i) {
        auto* b = toolButton(properties_, QString("shape-%1").arg(i), {}, {}, {}, "tool");
        describe(b, names[i], {}, tr("What the chosen tiles block"));
        b->setCheckable(true);
        b->setFixedSize(31, 31);
        QPixmap pixmap(22, 22);
        pixmap.fill(Qt::transparent);
        QPainter p(&pixmap);
        p.setPen(QPen(t.faint, 1, Qt::DotLine));
        p.drawRect(2, 2, 17, 17);
        p.setRenderHint(QPainter::Antialiasing);
        p.setPen(QPen(t.ink, 1.5));
        p.setBrush(t.line);
        QPolygonF corners{QPointF(19.5, 2.5), QPointF(19.5, 19.5), QPointF(2.5, 19.5), QPointF(2.5, 2.5)};
        if (i == 1) p.drawPolygon(corners);
        if (i >= 2 && i <= 5) {
            corners.remove((i - 2 + 2) % 4);
            p.drawPolygon(corners);
        }
        if (i == 6) {
            p.setPen(QPen(t.ink, 2, Qt::DashLine));
            p.drawLine(QPointF(2, 4), QPointF(20, 4));
            p.setPen(QPen(t.ink, 1.5));
            p.drawLine(QPointF(11, 17), QPointF(11, 8));
            p.drawLine(QPointF(11, 8), QPointF(8, 11));
            p.drawLine(QPointF(11, 8), QPointF(14, 11));
        }
        p.end();
        b->setIcon(pixmap);
        b->setIconSize({22, 22});
        connect(b, &QToolButton::clicked, this, [this, i] {
            change(tr("Shape of tiles"), [i](level::Tile& tile) { tile.shape = static_cast<level::TileShape>(i); });
        });
        shapes->addWidget(b);
        shapes_[static_cast<std::size_t>(i)] = b;
    }
    shapes->addStretch();
    inner->addLayout(shapes);
    name_ = new QLineEdit(properties_);
    name_->setObjectName("tileName");
    addField(inner, tr("Name"), name_);
    connect(name_, &QLineEdit::editingFinished, this, [this] {
        if (!name_->isModified()) return;
        name_->setModified(false);
        change(tr("Name of a tile"),
               [text = name_->text().trimmed().toStdString()](level::Tile& tile) { tile.name = text; });
    });
    home_ = new QComboBox(properties_);
    home_->setObjectName("tileHome");
    addField(inner, tr("Home layer"), home_);
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
    addField(inner, tr("Chance"), chance_);
    connect(chance_, &QSpinBox::valueChanged, this, [this](int v) {
        change(
            tr("Chance of tiles"), [v](level::Tile& tile) { tile.chance = v; }, "chance");
    });
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
            [this] { session_.makeMaterial(session_.sheetId(), level::JoinKind::full); });
    plain_ = new QPushButton(tr("Plain material of variants"), next_);
    plain_->setObjectName("plainMaterial");
    describe(plain_, tr("Make a plain material"), {},
             tr("Its tiles are chosen by chance, without looking at neighbours"));
    connect(plain_, &QPushButton::clicked, this,
            [this] { session_.makeMaterial(session_.sheetId(), level::JoinKind::plain); });
    steps->addWidget(joins_);
    steps->addWidget(plain_);
    column->addWidget(next_);
    hint_ = label({}, "quiet", this);
    hint_->setWordWrap(true);
    column->addWidget(hint_);
    column->addStretch();
}

void TilePanel::change(const QString& name, const std::function<void(level::Tile&)>& what, const std::string& merge) {
    if (session_.tiles().empty()) return;
    std::string key = merge;
    if (!key.empty())
        for (const auto id : session_.tiles()) key += "-" + std::to_string(id);
    session_.apply(name, edit::change_tiles(session_.project(), session_.tiles(), what), key);
}

void TilePanel::follow() {
    if (!session_.isOpen()) return;
    const level::Sheet* s = session_.sheet();
    std::vector<const level::Tile*> chosen;
    if (s)
        for (const auto id : session_.tiles())
            for (const level::Tile& t : s->tiles)
                if (t.id == id) chosen.push_back(&t);
    count_->setText(s ? tr("%1 of %2 chosen").arg(chosen.size()).arg(s->tiles.size()) : QString());
    properties_->setVisible(!chosen.empty());
    next_->setVisible(s && s->image && s->accepted && s->tiles.size() > 1);
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
    picture_->setPixmap(tileThumb(session_.project(), first.id, 64));
    title_->setText(first.name.empty() ? tr("Tile %1").arg(first.id) : QString::fromStdString(first.name));
    under_->setText(chosen.size() > 1 ? tr("and %1 more").arg(chosen.size() - 1)
                    : first.blank     ? tr("blank")
                                      : QString());
    const auto all = [&](auto get) {
        return std::all_of(chosen.begin(), chosen.end(), [&](const level::Tile* t) { return get(*t) == get(first); });
    };
    const bool oneShape = all([](const level::Tile& t) { return t.shape; });
    for (int i = 0; i < 7; ++i)
        shapes_[static_cast<std::size_t>(i)]->setChecked(oneShape && static_cast<int>(first.shape) == i);
    const bool oneName = all([](const level::Tile& t) { return t.name; });
    if (!name_->hasFocus() || !name_->isModified())
        name_->setText(oneName ? QString::fromStdString(first.name) : QString());
    name_->setPlaceholderText(oneName ? tr("no name") : tr("several"));
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
