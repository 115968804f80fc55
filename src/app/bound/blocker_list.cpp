#include "app/bound/blocker_list.hpp"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QPen>
#include <QPixmap>
#include <QPolygonF>
#include <QToolButton>
#include <QVBoxLayout>
#include <QVariant>
#include <algorithm>

#include "app/bound/class_field.hpp"
#include "app/parts/card_list.hpp"
#include "app/parts/note_rows.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/tokens.hpp"
#include "app/session/session.hpp"
#include "app/view/level_view.hpp"
#include "level/project.hpp"

namespace vic::app {

namespace {

constexpr int kNames = 54; // pixels of the fields' names
constexpr std::size_t kMostRows = 500;
constexpr int kListHeight = 132;
constexpr int kBlocks = 0, kOpens = -1; // of the choice; above 0 an area that tells

QPixmap signOf(const level::FreeBlocker& blocker, const Tokens& t, const QColor& colour) {
    constexpr int kSide = 40;
    QPixmap out(kSide, kSide);
    out.fill(Qt::transparent);
    const auto polygons = level::covered(blocker);
    QRectF all;
    std::vector<QPolygonF> drawn;
    for (const auto& polygon : polygons) {
        drawn.emplace_back();
        for (const Point p : polygon) drawn.back() << QPointF(p.x, p.y);
        all = all.united(drawn.back().boundingRect());
    }
    const double scale = (kSide - 10) / std::max({all.width(), all.height(), 1.0});
    QPainter p(&out);
    p.setRenderHint(QPainter::Antialiasing);
    p.translate(kSide / 2.0, kSide / 2.0);
    p.scale(scale, scale);
    p.translate(-all.center());
    QColor wash = colour;
    wash.setAlpha(110);
    QPen pen(t.ink, 1);
    pen.setCosmetic(true);
    p.setPen(drawn.size() == 1 ? pen : QPen(Qt::NoPen));
    p.setBrush(wash);
    for (const QPolygonF& polygon : drawn) p.drawPolygon(polygon);
    return out;
}

QColor colourOf(const level::Project& project, const level::FreeBlocker& blocker, const Tokens& t) {
    if (const level::AreaKind* told = project.area_kind(blocker.tells))
        return {told->colour.r, told->colour.g, told->colour.b};
    return blocker.opens ? t.brine : t.vermilion;
}

} // namespace

BlockerList::BlockerList(Session& session, LevelView& view, QWidget* parent)
    : QWidget(parent), session_(session), view_(view) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    addHeading(column, tr("Drawn blockers"), &count_);
    list_ = new CardList(this);
    list_->setObjectName("blockerList");
    list_->setAccessibleName(tr("Blockers drawn free of the lattice"));
    list_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    list_->setFixedHeight(kListHeight);
    column->addWidget(list_);
    connect(list_, &CardList::chosen, this, &BlockerList::choose);
    fields_ = new QWidget(this);
    auto* inner = new QVBoxLayout(fields_);
    inner->setContentsMargins(0, 0, 0, 0);
    inner->setSpacing(6);
    auto* name = new QLineEdit(fields_);
    name->setObjectName("blockerName");
    name->setPlaceholderText(tr("without a name"));
    addField(inner, tr("Name"), name, kNames);
    bound_.bindText(
        name, [this] { return chosen() ? QString::fromStdString(chosen()->name) : QString(); },
        [this](const QString& text) {
            change(tr("Name a blocker"), [&](level::FreeBlocker& b) { b.name = text.toStdString(); });
        });
    auto* is = comboBox(fields_, "blockerIs");
    describe(is, tr("What it is"), {}, tr("It blocks, lets one walk whatever lies below, or only tells the game"));
    addField(inner, tr("Is"), is, kNames);
    bound_.bindChoice(
        is,
        [this] {
            std::vector<Bindings::Choice> out{{tr("in the way"), kBlocks}, {tr("where one may walk"), kOpens}};
            for (const level::AreaKind& k : session_.project().area_kinds)
                out.push_back({tr("tells: %1").arg(QString::fromStdString(k.name)), static_cast<int>(k.id)});
            return out;
        },
        [this] {
            const level::FreeBlocker* b = chosen();
            return QVariant(!b ? kBlocks : b->tells != 0 ? static_cast<int>(b->tells) : b->opens ? kOpens : kBlocks);
        },
        [this](const QVariant& v) {
            change(tr("What a blocker is"), [&](level::FreeBlocker& b) {
                b.opens = v.toInt() == kOpens;
                b.tells = v.toInt() > 0 ? static_cast<level::AreaKindId>(v.toInt()) : 0;
            });
        });
    class_ = new ClassField(session_, "blockerClass", fields_);
    addField(inner, tr("Class"), class_, kNames);
    connect(class_, &ClassField::named, this, [this](const QString& name) {
        change(tr("Collision class"), [&](level::FreeBlocker& b) { b.collision_class = name.toStdString(); });
    });
    notes_ = new NoteRows(
        [this](const QString& step, const std::function<void(level::Notes&)>& what) {
            change(step, [&](level::FreeBlocker& b) { what(b.notes); });
        },
        {}, fields_);
    inner->addWidget(notes_);
    auto* away = toolButton(fields_, "blockerAway", {}, tr("Take it away"), {}, "link");
    connect(away, &QToolButton::clicked, this, &BlockerList::take);
    inner->addWidget(away, 0, Qt::AlignLeft);
    column->addWidget(fields_);
}

const level::FreeBlocker* BlockerList::chosen() const {
    const level::Layer* layer = chosen_ && session_.level() ? session_.level()->layer(chosen_->layer) : nullptr;
    if (!layer || !layer->blockers()) return nullptr;
    const auto& all = layer->blockers()->free();
    const auto found = std::find_if(all.begin(), all.end(), [&](const auto& b) { return b.id == chosen_->id; });
    return found == all.end() ? nullptr : &*found;
}

void BlockerList::change(const QString& step, const std::function<void(level::FreeBlocker&)>& what) {
    if (!chosen()) return;
    if (session_.level()->layer(chosen_->layer)->locked)
        return emit session_.said(tr("The layer of blockers is locked: unlock it in the Section"), true);
    session_.applyLevel(step, edit::change_free_blocker(*session_.level(), *chosen_, what));
}

void BlockerList::take() {
    if (!chosen()) return;
    if (session_.level()->layer(chosen_->layer)->locked)
        return emit session_.said(tr("The layer of blockers is locked: unlock it in the Section"), true);
    const edit::FreeHit gone = *std::exchange(chosen_, std::nullopt);
    session_.applyLevel(tr("Take a blocker away"), edit::without_free_blocker(*session_.level(), gone));
}

void BlockerList::choose(quint32 row) {
    chosen_.reset();
    if (row == 0 || row > rows_.size()) return refresh();
    chosen_ = rows_[row - 1];
    if (const level::FreeBlocker* b = chosen()) {
        const Box cells = intersection(level::cells_of(*b), session_.level()->cells());
        view_.setMarked(level::Region(cells));
        view_.lookAt({cells.x + cells.w / 2, cells.y + cells.h / 2});
    }
    refresh();
}

void BlockerList::refresh() {
    if (!session_.level()) return;
    const Tokens t = tokensOf(this);
    rows_.clear();
    std::vector<Card> cards;
    std::size_t count = 0;
    quint32 current = 0;
    for (const level::LayerRef& layer : session_.level()->layers) {
        if (!layer->blockers()) continue;
        count += layer->blockers()->free().size();
        for (const level::FreeBlocker& b : layer->blockers()->free()) {
            if (rows_.size() == kMostRows) break;
            rows_.push_back({layer->id, b.id});
            const auto number = static_cast<quint32>(rows_.size());
            if (chosen_ == rows_.back()) current = number;
            const Box cells = level::cells_of(b);
            const level::AreaKind* told = session_.project().area_kind(b.tells);
            const QString name = b.name.empty() ? (b.line() ? tr("line %1") : tr("shape %1")).arg(number)
                                                : QString::fromStdString(b.name);
            const QString is = told      ? tr("tells: %1").arg(QString::fromStdString(told->name))
                               : b.opens ? tr("one may walk there")
                                         : tr("in the way");
            cards.push_back(
                {number, signOf(b, t, colourOf(session_.project(), b, t)), name,
                 tr("%1, at cell %2, %3").arg(QString::fromStdString(layer->name)).arg(cells.x).arg(cells.y), is});
        }
    }
    setVisible(count > 0);
    count_->setText(count > kMostRows ? tr("%1, the first %2").arg(count).arg(kMostRows) : QString::number(count));
    list_->setCards(cards, current);
    const level::FreeBlocker* b = chosen();
    if (!b) chosen_.reset();
    fields_->setVisible(b != nullptr);
    if (!b) return;
    bound_.refresh();
    class_->setEnabled(!b->opens && b->tells == 0);
    class_->show(QString::fromStdString(b->collision_class));
    notes_->refresh(session_.project().note_kinds, {&b->notes});
}

} // namespace vic::app
