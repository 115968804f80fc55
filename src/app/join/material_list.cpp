// The left side of Join: the materials, and how the chosen one meets others.

#include "app/join/material_list.hpp"

#include <QAction>
#include <QBrush>
#include <QCheckBox>
#include <QComboBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QFrame>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QLabel>
#include <QLayoutItem>
#include <QMenu>
#include <QPainter>
#include <QPen>
#include <QPixmap>
#include <QPoint>
#include <QPointF>
#include <QPushButton>
#include <QRectF>
#include <QScrollArea>
#include <QSpinBox>
#include <QToolButton>
#include <QVBoxLayout>
#include <cstdint>
#include <initializer_list>

#include "app/parts/panel.hpp"
#include "app/parts/thumbs.hpp"
#include "app/parts/tokens.hpp"
#include "app/parts/translated.hpp"
#include "base/error.hpp"
#include "base/files.hpp"
#include "base/text.hpp"
#include "edit/joins.hpp"
#include "edit/meeting.hpp"
#include "edit/replace.hpp"
#include "edit/sheets.hpp"
#include "edit/templates.hpp"
#include "edit/tiles.hpp"
#include "join/mask.hpp"
#include "join/read_joins.hpp"
#include "join/template_picture.hpp"
#include "level/level.hpp"
#include "level/material.hpp"
#include "level/project.hpp"
#include "sheet/png.hpp"

namespace vic::app {

MaterialList::MaterialList(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 12, 0, 12);
    column->setSpacing(6);
    auto* head = new QHBoxLayout;
    head->setContentsMargins(12, 0, 8, 0);
    head->addWidget(label(tr("Materials"), "heading"));
    head->addStretch();
    auto* add = toolButton(this, "addMaterial", {}, tr("+ new"), {}, "link");
    describe(add, tr("New material"), {}, tr("From the tiles of a sheet; its joins are read from the art"));
    connect(add, &QToolButton::clicked, this, [this, add] { showNewMenu(add); });
    head->addWidget(add);
    column->addLayout(head);
    list_ = new CardList(this);
    list_->setObjectName("materialList");
    list_->setAccessibleName(tr("Materials"));
    column->addWidget(list_, 1);
    buildFoot(column);
    listen();
}

void MaterialList::buildFoot(QVBoxLayout* column) {
    auto* foot = new QVBoxLayout;
    foot->setContentsMargins(12, 0, 12, 0);
    foot->setSpacing(6);
    addHeading(foot, tr("Where it meets others"));
    others_ = new QWidget(this);
    others_->setObjectName("joinsWith");
    auto* rows = new QVBoxLayout(others_);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setSpacing(2);
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setWidget(others_);
    scroll->setFixedHeight(112);
    foot->addWidget(scroll);
    priority_ = new QSpinBox(this);
    priority_->setObjectName("priority");
    priority_->setRange(0, 255);
    priority_->setKeyboardTracking(false);
    priority_->setToolTip(
        tr("Of two materials that meet, the one with the higher number shows its rim; the other goes "
           "on below it. With equal numbers both show theirs"));
    addField(foot, tr("Rank"), priority_, 60);
    over_ = new QCheckBox(tr("lies over what it meets"), this);
    over_->setObjectName("liesOver");
    over_->setToolTip(tr("The other material is drawn below its rim: for tiles that are see-through there"));
    foot->addWidget(over_);
    beyond_ = new QCheckBox(tr("goes on beyond the level"), this);
    beyond_->setObjectName("beyondIsSame");
    beyond_->setToolTip(tr("What lies beyond the level's edge counts as the same material"));
    foot->addWidget(beyond_);
    auto* stands = comboBox(this, "standsUp");
    stands->setToolTip(tr("On layers that are drawn in the order of feet the walker goes behind what stands up"));
    addField(foot, tr("Stands"), stands, 60);
    fields_.bindChoice(
        stands,
        [this] {
            std::vector<Bindings::Choice> out{
                {tr("lies flat"), 0}, {tr("stands up, 1 row"), 1}, {tr("stands up, 2 rows"), 2}};
            if (session_.material() && !edit::stands_up(session_.project(), session_.material()->id))
                out.push_back({tr("as its tiles say"), -1});
            return out;
        },
        [this] {
            const auto rows = session_.material() ? edit::stands_up(session_.project(), session_.material()->id) : 0;
            return QVariant(rows.value_or(-1));
        },
        [this](const QVariant& v) {
            if (!session_.material() || v.toInt() < 0) return;
            session_.apply(tr("How a material stands"),
                           edit::stand_up(session_.project(), session_.material()->id, v.toInt()));
        });
    fields_.bindEnabled(stands, [this] { return session_.material() != nullptr; });
    rejoin_ = new QPushButton(tr("Join anew …"), this);
    rejoin_->setObjectName("rejoin");
    describe(rejoin_, tr("Join cells anew"), {}, tr("Says first how many cells would change; pinned ones stay"));
    connect(rejoin_, &QPushButton::clicked, this, &MaterialList::askRejoin);
    foot->addWidget(rejoin_);
    column->addLayout(foot);
}

void MaterialList::listen() {
    // A plain material looks at no neighbours.
    const auto joins = [this]() -> const level::JoinSet* {
        const level::Material* m = session_.material();
        return m && m->joins.kind != level::JoinKind::plain ? &m->joins : nullptr;
    };
    fields_.bindInt(
        priority_, [joins] { return joins() ? joins()->priority : 0; },
        [this](int v) {
            change(
                tr("Rank of a material"), [v](level::JoinSet& set) { set.priority = v; }, "priority");
        });
    fields_.bindCheck(
        over_, [joins] { return joins() && joins()->over; },
        [this](bool on) { change(tr("Lies over others"), [on](level::JoinSet& set) { set.over = on; }); });
    fields_.bindCheck(
        beyond_, [joins] { return joins() && joins()->beyond_is_same; },
        [this](bool on) {
            change(tr("What lies beyond the edge"), [on](level::JoinSet& set) { set.beyond_is_same = on; });
        });
    for (QWidget* w : std::initializer_list<QWidget*>{beyond_, over_, priority_, others_})
        fields_.bindEnabled(w, [joins] { return joins() != nullptr; });
    fields_.bindEnabled(rejoin_, [this] { return session_.level() != nullptr; });
    fields_.follow([this] { refreshCards(); });
    fields_.follow([this] { refreshOthers(); });
    connect(list_, &CardList::chosen, this,
            [this](quint32 id) { session_.setMaterial(static_cast<level::MaterialId>(id)); });
    connect(list_, &CardList::renamed, this, &MaterialList::rename);
}

void MaterialList::showNewMenu(QWidget* under) {
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    for (const auto& s : session_.project().sheets) {
        if (!s->image || s->tiles.size() < 2) continue;
        auto* sub = menu->addMenu(QString::fromStdString(s->name));
        connect(sub->addAction(tr("Edges + corners, read from the art")), &QAction::triggered, this,
                [this, id = s->id] { session_.makeMaterial(id, level::JoinKind::full); });
        connect(sub->addAction(tr("Edges, read from the art")), &QAction::triggered, this,
                [this, id = s->id] { session_.makeMaterial(id, level::JoinKind::edges); });
        connect(sub->addAction(tr("Corners, read from the art")), &QAction::triggered, this,
                [this, id = s->id] { session_.makeMaterial(id, level::JoinKind::corners); });
        connect(sub->addAction(tr("Plain, its tiles as variants")), &QAction::triggered, this,
                [this, id = s->id] { session_.makeMaterial(id, level::JoinKind::plain); });
    }
    if (menu->isEmpty()) menu->addAction(tr("First add a sheet in Cut"))->setEnabled(false);
    menu->addSeparator();
    auto* empty = menu->addMenu(tr("A template to draw on"));
    empty->setObjectName("templateMenu");
    for (const auto& [text, kind] : std::initializer_list<std::pair<QString, level::JoinKind>>{
             {tr("Edges + corners: 47 cases…"), level::JoinKind::full},
             {tr("Edges: 16 cases…"), level::JoinKind::edges},
             {tr("Corners: 16 cases…"), level::JoinKind::corners}})
        connect(empty->addAction(text), &QAction::triggered, this, [this, k = kind] { saveTemplate(k); });
    menu->setObjectName("newMaterialMenu");
    menu->popup(under->mapToGlobal(QPoint(0, under->height())));
}

// The cases as an empty picture; one that comes back drawn is known again by the card that is kept with it.
void MaterialList::saveTemplate(level::JoinKind kind) {
    const level::Level* level = session_.level();
    bool ok = false;
    const int side =
        QInputDialog::getInt(this, tr("A template to draw on"), tr("Pixels of a tile, a side:"),
                             level ? level->cell.w : 16, join::kLeastTemplate, join::kMostTemplate, 1, &ok);
    if (!ok) return;
    const QString name = tr("template-%1-%2px").arg(join::cases(kind).size()).arg(side);
    const QString file =
        QFileDialog::getSaveFileName(this, tr("Save the template"), name + ".png", tr("Pictures (*.png)"));
    if (file.isEmpty()) return;
    try {
        write_file(file.toStdString(), sheet::encode_png(join::template_picture(kind, {side, side})));
    } catch (const InputError& e) {
        return emit session_.said(translated(e), true);
    }
    level::Project next = edit::with_template(session_.project(), kind, {side, side}, name.toStdString());
    if (next.order_cards != session_.project().order_cards) session_.apply(tr("Give out a template"), std::move(next));
    emit session_.said(tr("Saved %1: add it as a sheet when it is drawn, and its tiles are known by their places")
                           .arg(QFileInfo(file).fileName()),
                       false);
}

void MaterialList::rename(quint32 id, const QString& name) {
    level::Project p = session_.project();
    const auto material = static_cast<level::MaterialId>(id);
    const level::Material* m = p.material(material);
    if (!m || name.isEmpty() || name.toStdString() == m->name) return refresh();
    if (const Text taken = edit::name_taken_by_material(p, name.toStdString(), material); !taken.empty()) {
        emit session_.said(translated(taken), true);
        return refresh();
    }
    level::Material changed = *m;
    changed.name = name.toStdString();
    p.put(std::move(changed));
    session_.apply(tr("Rename a material"), std::move(p));
}

void MaterialList::refresh() { fields_.refresh(); }

void MaterialList::refreshCards() {
    std::vector<Card> cards;
    for (const auto& m : session_.project().materials) {
        const auto cover = join::coverage(m->joins);
        Card card;
        card.id = m->id;
        card.picture = materialThumb(session_.project(), *m, 32);
        card.title = QString::fromStdString(m->name);
        if (m->joins.kind == level::JoinKind::plain) {
            const auto it = m->joins.cases.find(255);
            card.under =
                translated(say_count(it == m->joins.cases.end() ? 0 : static_cast<std::int64_t>(it->second.size()),
                                     "plain · one tile", "plain · %n variants"));
        } else {
            const QString kind = m->joins.kind == level::JoinKind::edges     ? tr("edges")
                                 : m->joins.kind == level::JoinKind::corners ? tr("corners")
                                                                             : tr("edges + corners");
            card.under = tr("%1 · %2 / %3").arg(kind).arg(cover.have).arg(cover.of);
        }
        card.ring = cover.of ? double(cover.have) / cover.of : 0;
        cards.push_back(card);
    }
    list_->setCards(cards, session_.materialId());
}

void MaterialList::change(const QString& name, const std::function<void(level::JoinSet&)>& what,
                          const std::string& merge) {
    const level::Material* m = session_.material();
    if (!m) return;
    session_.applyJoined(
        {name, [id = m->id, what](level::Project p) { return edit::change_set(std::move(p), id, what); }, merge, {}});
}

// One line for every other material: a dot that says how the two meet.
void MaterialList::refreshOthers() {
    const level::Material* m = session_.material();
    const auto& all = session_.project().materials;
    if (othersFor_.get() == m && othersOf_ == all) return;
    othersFor_ = session_.materialRef();
    othersOf_ = all;
    QLayoutItem* item = nullptr;
    while ((item = others_->layout()->takeAt(0))) {
        if (item->widget()) item->widget()->hide(), item->widget()->deleteLater();
        delete item;
    }
    if (!m || m->joins.kind == level::JoinKind::plain) return;
    const Tokens t = tokensOf(this);
    for (const auto& other : all) {
        if (other->id == m->id) continue;
        const auto& set = m->joins;
        const bool same = std::binary_search(set.same.begin(), set.same.end(), other->id);
        const bool pair = set.pairs.contains(other->id);
        QPixmap dot(14, 14);
        dot.fill(Qt::transparent);
        QPainter p(&dot);
        p.setRenderHint(QPainter::Antialiasing);
        p.setPen(QPen(same || pair ? t.brine : t.quiet, 1.5));
        p.setBrush(same ? QBrush(t.brine) : Qt::NoBrush);
        p.drawEllipse(QPointF(7, 7), 4.5, 4.5);
        if (pair) {
            p.setBrush(t.brine);
            p.drawPie(QRectF(2.5, 2.5, 9, 9), 90 * 16, 180 * 16);
        }
        p.end();
        auto* line = toolButton(others_, QString("meets-%1").arg(other->id), {},
                                QString::fromStdString(other->name).left(16), {}, "link");
        line->setIcon(dot);
        line->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
        line->setPopupMode(QToolButton::InstantPopup);
        line->setToolTip(same   ? tr("%1 counts as the same").arg(QString::fromStdString(other->name))
                         : pair ? tr("Tiles of their own where the two meet")
                                : tr("Ends where %1 begins").arg(QString::fromStdString(other->name)));
        auto* menu = new QMenu(line);
        const auto option = [&](const QString& text, bool on, const std::function<void()>& go) {
            auto* action = menu->addAction(text);
            action->setCheckable(true);
            action->setChecked(on);
            connect(action, &QAction::triggered, this, go);
        };
        const auto id = other->id;
        const auto meet = [this, id](const QString& name, bool same) {
            if (const level::Material* now = session_.material())
                session_.apply(name, edit::set_meeting(session_.project(), now->id, id, same));
        };
        option(tr("ends here"), !same && !pair, [meet] { meet(tr("Materials apart"), false); });
        option(tr("counts as the same"), same, [meet] { meet(tr("Materials as the same"), true); });
        auto* sheets = menu->addMenu(tr("has tiles of its own for the two, from"));
        for (const auto& s : session_.project().sheets) {
            if (!s->image || s->tiles.size() < 2) continue;
            connect(sheets->addAction(QString::fromStdString(s->name)), &QAction::triggered, this,
                    [this, id, sheet = s->id] { readPair(id, sheet); });
        }
        line->setMenu(menu);
        others_->layout()->addWidget(line);
    }
    static_cast<QVBoxLayout*>(others_->layout())->addStretch();
}

void MaterialList::readPair(level::MaterialId other, level::SheetId id) {
    const level::Material* m = session_.material();
    if (!m || m->joins.kind == level::JoinKind::plain) return;
    const auto meet = [this, of = m->id, other, id](const JoinReadings::Reading& read) {
        const level::Project& p = session_.project();
        const level::Sheet* sheet = p.sheet(id);
        if (!sheet || !p.material(of) || !p.material(other)) return;
        session_.applyJoined({tr("Tiles where two materials meet"),
                              [of, other, id, read](level::Project now) {
                                  const level::Sheet* from = now.sheet(id);
                                  if (!from || !now.material(of) || !now.material(other)) return now;
                                  return edit::meet_by_tiles(now, of, other, *from, *read);
                              },
                              {},
                              {}});
        emit session_.said(
            translated(say_count(static_cast<std::int64_t>(read->tiles.size()),
                                 "Read one tile for the two: missing cases %1, which the material's own tiles serve",
                                 "Read %n tiles for the two: missing cases %1, which the material's own tiles serve",
                                 read->missing.size())),
            false);
    };
    session_.joins().withReading(id, m->joins.kind, meet);
}

// Counts first what each way would change, and offers them then.
void MaterialList::askRejoin() {
    if (!session_.level()) return;
    const edit::ProjectState state = session_.document().state();
    const std::string id = session_.level()->id;
    const Box all = session_.level()->cells();
    const Box seen = seen_ ? seen_() : all;
    using Counted = std::vector<edit::Rejoined>;
    session_.jobs().start<Counted>(
        "rejoin", tr("Counting what would change"),
        [state, id, all, seen](Jobs::Progress& progress) {
            Counted counted;
            for (const auto& [cells, pinned] : {std::pair(seen, false), {all, false}, {all, true}}) {
                if (progress.stopped()) break;
                counted.push_back(edit::rejoin_part(*state, id, cells, pinned));
                progress.tell(static_cast<double>(counted.size()) / 3);
            }
            return counted;
        },
        [this, state](Counted& counted) {
            if (session_.document().state() == state) offerRejoin(counted);
        },
        [this](const std::exception& e) { emit session_.said(translated(e), true); });
}

void MaterialList::offerRejoin(const std::vector<edit::Rejoined>& counted) {
    auto* menu = new QMenu(this);
    menu->setObjectName("rejoinMenu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const std::pair<QString, QString> names[] = {{"rejoinView", tr("What Lay shows")},
                                                 {"rejoinLevel", tr("The whole level")},
                                                 {"rejoinPinned", tr("The whole level, pinned cells too")}};
    for (std::size_t i = 0; i < counted.size(); ++i) {
        const auto again = std::make_shared<edit::Rejoined>(counted[i]);
        auto* action = menu->addAction(translated(say_count(
            again->cells, "%1: one cell would change", "%1: %n cells would change", names[i].second.toStdString())));
        action->setObjectName(names[i].first);
        action->setEnabled(again->cells > 0);
        connect(action, &QAction::triggered, this, [this, again] {
            session_.apply(tr("Join anew"), again->project);
            emit session_.said(
                translated(say_count(again->cells, "Joined anew: one cell changed", "Joined anew: %n cells changed")),
                false);
        });
    }
    menu->popup(rejoin_->mapToGlobal(QPoint(0, rejoin_->height())));
}

} // namespace vic::app
