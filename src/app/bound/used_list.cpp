#include "app/bound/used_list.hpp"

#include <QCheckBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QItemSelection>
#include <QItemSelectionModel>
#include <QLabel>
#include <QLocale>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <utility>

#include "app/bound/class_field.hpp"
#include "app/parts/blocking_words.hpp"
#include "app/parts/card_list.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/shape_sign.hpp"
#include "app/parts/thumbs.hpp"
#include "app/parts/tokens.hpp"
#include "app/session/session.hpp"
#include "app/view/level_view.hpp"
#include "edit/areas.hpp"
#include "edit/classes.hpp"
#include "level/project.hpp"

namespace vic::app {

namespace {

constexpr int kLeastList = 188; // pixels: of three one sees that there are more
constexpr int kClassName = 48;

// A number for a thing that stays its own; kinds apart.
quint32 numberOf(const edit::Used& used) { return (static_cast<quint32>(used.kind) << 28) | (used.id & 0x0FFFFFFFU); }

} // namespace

UsedList::UsedList(Session& session, LevelView& view, QWidget* parent)
    : QWidget(parent), session_(session), view_(view) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    addHeading(column, tr("Used here"), &aside_);
    list_ = new CardList(this);
    list_->setObjectName("usedList");
    list_->setAccessibleName(tr("What is used in the level"));
    list_->setSelectionMode(QAbstractItemView::ExtendedSelection);
    list_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    list_->setMinimumHeight(kLeastList);
    column->addWidget(list_, 1);
    connect(list_->selectionModel(), &QItemSelectionModel::selectionChanged, this, [this] { mark(); });
    buildParts();
}

void UsedList::buildParts() {
    auto* rows = new QGridLayout;
    rows->setSpacing(4);
    constexpr int kInRow = 3;
    const std::pair<edit::Blocking, QString> all[] = {{edit::Blocking::full, tr("full")},
                                                      {edit::Blocking::as_drawn, tr("as drawn")},
                                                      {edit::Blocking::one_way, tr("above")},
                                                      {edit::Blocking::opens, tr("may walk")},
                                                      {edit::Blocking::nothing, tr("nothing")}};
    const char* const names[] = {"usedFull", "usedDrawn", "usedOneWay", "usedOpens", "usedNothing"};
    for (std::size_t i = 0; i < std::size(all); ++i) {
        auto* b = toolButton(this, names[i], {}, all[i].second, {}, "card");
        b->setCheckable(true);
        b->setStyleSheet("padding: 5px 2px;");
        b->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
        describe(b, tr("What is chosen %1").arg(blockingWord(all[i].first)), {},
                 tr("In all levels of the project, or in this one alone"));
        connect(b, &QToolButton::clicked, this, [this, blocking = all[i].first] { give(blocking); });
        rows->addWidget(b, static_cast<int>(i) / kInRow, static_cast<int>(i) % kInRow);
        parts_.push_back(b);
    }
    tells_ = toolButton(this, "usedTells", {}, tr("tells…"), {}, "card");
    tells_->setCheckable(true);
    tells_->setStyleSheet("padding: 5px 2px;");
    tells_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    describe(tells_, tr("What is chosen tells the game"), {},
             tr("It does not block; the game is told where it is. The walker swims in what is a water, and climbs "
                "what is a ladder"));
    connect(tells_, &QToolButton::clicked, this, &UsedList::askWhatItTells);
    rows->addWidget(tells_, static_cast<int>(std::size(all)) / kInRow, static_cast<int>(std::size(all)) % kInRow);
    static_cast<QVBoxLayout*>(layout())->addLayout(rows);
    class_ = new ClassField(session_, "usedClass", this);
    addField(static_cast<QVBoxLayout*>(layout()), tr("Class"), class_, kClassName);
    connect(class_, &ClassField::named, this, &UsedList::giveClass);
    buildScope();
}

void UsedList::buildScope() {
    auto* scope = new QHBoxLayout;
    scope->setContentsMargins(0, 0, 0, 0);
    hereOnly_ = new QCheckBox(tr("In this level only"), this);
    hereOnly_->setObjectName("usedHereOnly");
    describe(hereOnly_, tr("In this level only"), {},
             tr("What is said above then holds in this level; the project and its other levels stay as they are"));
    scope->addWidget(hereOnly_);
    scope->addStretch();
    asProject_ = toolButton(this, "usedAsProject", {}, tr("as in the project"), {}, "link");
    describe(asProject_, tr("As in the project"), {}, tr("What this level says of it alone is taken back"));
    connect(asProject_, &QToolButton::clicked, this, [this] {
        session_.applyLevel(tr("As in the project"),
                            edit::as_in_project(session_.project(), *session_.level(), chosen()));
        refresh();
    });
    scope->addWidget(asProject_);
    static_cast<QVBoxLayout*>(layout())->addLayout(scope);
    layers_ = toolButton(this, "usedLayers", {}, tr("Let its layers block"), {}, "link");
    describe(layers_, tr("Let its layers block"), {},
             tr("What it says is heard on layers whose tiles block; those on which it lies are, from then on"));
    connect(layers_, &QToolButton::clicked, this, &UsedList::letLayersBlock);
    layout()->addWidget(layers_);
    hint_ = label({}, "quiet", this);
    hint_->setWordWrap(true);
    layout()->addWidget(hint_);
}

std::vector<edit::Used> UsedList::chosen() const {
    std::vector<edit::Used> out;
    for (const QModelIndex& index : list_->selectionModel()->selectedIndexes())
        if (static_cast<std::size_t>(index.row()) < things_.size())
            out.push_back(things_[static_cast<std::size_t>(index.row())]);
    return out;
}

Card UsedList::cardOf(const edit::Used& used, const level::Project& said) const {
    const level::Project& project = session_.project();
    const QLocale locale;
    Card card;
    card.id = numberOf(used);
    const bool prop = used.kind == edit::UsedKind::prop;
    const level::Layer* blockers = used.kind == edit::UsedKind::blockers ? session_.level()->layer(used.id) : nullptr;
    if (used.kind == edit::UsedKind::material) {
        const level::Material* m = project.material(static_cast<level::MaterialId>(used.id));
        card.title = m ? QString::fromStdString(m->name) : tr("a material that is gone");
        if (m) card.picture = materialThumb(project, *m, 40);
    } else if (blockers) {
        card.title = QString::fromStdString(blockers->name);
        card.picture = shapeSign(level::TileShape::full, tokensOf(this), 40);
    } else if (used.kind == edit::UsedKind::backdrop) {
        const level::Layer* layer = session_.level()->layer(used.id);
        card.title = QString::fromStdString(layer->name);
        if (const level::Sheet* sheet = project.sheet(layer->backdrop()->sheet)) card.picture = sheetThumb(*sheet, 40);
    } else if (prop) {
        const level::PropKind* k = project.prop_kind(used.id);
        card.title = k ? QString::fromStdString(k->name) : tr("a prop that is gone");
        if (k) card.picture = propThumb(project, *k, 40);
    } else {
        const level::TileRef ref = level::TileTable(project).find(used.id);
        card.title = !ref.tile ? tr("a tile that is gone")
                     : ref.tile->name.empty()
                         ? tr("%1, tile %2").arg(QString::fromStdString(ref.sheet->name)).arg(used.id)
                         : QString::fromStdString(ref.tile->name);
        if (ref.tile) card.picture = tileThumb(project, used.id, 40);
    }
    card.under =
        used.kind == edit::UsedKind::backdrop ? tr("a backdrop") : tr("%1 here").arg(locale.toString(used.count));
    // Where it lies on layers that do not listen it blocks nothing, whatever it says.
    const bool deaf = used.unheard();
    const bool partly = !deaf && used.blocking != edit::Blocking::nothing && used.heard < used.count;
    card.state = deaf     ? tr("%1, its layer does not").arg(blockingWord(used.blocking))
                 : partly ? tr("%1, %2 of them").arg(blockingWord(used.blocking)).arg(locale.toString(used.heard))
                 : blockers
                     ? tr("blockers: %n of them free", nullptr, static_cast<int>(blockers->blockers()->free().size()))
                     : blockingWord(used.blocking);
    if (const level::AreaKind* told = project.area_kind(edit::told_by(said, {used})))
        card.state = used.blocking == edit::Blocking::nothing
                         ? tr("tells: %1").arg(QString::fromStdString(told->name))
                         : tr("%1 · tells: %2").arg(card.state, QString::fromStdString(told->name));
    const auto named = edit::class_of(project, *session_.level(), {used});
    if (named && !named->empty() && used.blocking != edit::Blocking::nothing)
        card.state = tr("%1 · %2").arg(card.state, QString::fromStdString(*named));
    if (used.here) card.state = tr("%1 · here only").arg(card.state);
    card.looks = deaf;
    return card;
}

void UsedList::refresh() {
    if (!session_.isOpen() || !session_.level()) return;
    const level::Project& project = session_.project();
    std::vector<edit::Used> now = counter_.used_in(project, *session_.level());
    std::vector<quint32> keep;
    for (const edit::Used& used : chosen()) keep.push_back(numberOf(used));
    things_ = std::move(now);
    const level::Project said = level::as_in(project, *session_.level());
    std::vector<Card> cards;
    for (const edit::Used& used : things_) cards.push_back(cardOf(used, said));
    aside_->setText(things_.size() == 1 ? tr("one thing") : tr("%1 things").arg(things_.size()));
    list_->setCards(cards, keep.empty() ? 0 : keep.front());
    QItemSelection selection;
    for (int row = 0; row < static_cast<int>(things_.size()); ++row)
        if (std::find(keep.begin(), keep.end(), numberOf(things_[static_cast<std::size_t>(row)])) != keep.end())
            selection.select(list_->model()->index(row, 0), list_->model()->index(row, 0));
    list_->selectionModel()->select(selection, QItemSelectionModel::ClearAndSelect);
    mark();
}

void UsedList::leave() { view_.setMarked({}); }

// What is chosen is outlined in the level, and the buttons say what it is.
void UsedList::mark() {
    const std::vector<edit::Used> all = chosen();
    if (isVisible() && session_.level()) {
        level::Region cells;
        for (const edit::Used& used : all) cells.add(edit::where_used(session_.project(), *session_.level(), used));
        view_.setMarked(std::move(cells));
    }
    const edit::Blocking ways[] = {edit::Blocking::full, edit::Blocking::as_drawn, edit::Blocking::one_way,
                                   edit::Blocking::opens, edit::Blocking::nothing};
    for (std::size_t i = 0; i < parts_.size(); ++i) {
        parts_[i]->setEnabled(std::any_of(all.begin(), all.end(), [](const auto& u) {
            return u.kind != edit::UsedKind::blockers && u.kind != edit::UsedKind::backdrop;
        }));
        parts_[i]->setChecked(
            !all.empty() && std::all_of(all.begin(), all.end(), [&](const auto& u) { return u.blocking == ways[i]; }));
    }
    const auto named = session_.level() ? edit::class_of(session_.project(), *session_.level(), all) : std::nullopt;
    const bool names =
        std::any_of(all.begin(), all.end(), [](const auto& u) { return u.kind != edit::UsedKind::backdrop; });
    class_->setEnabled(names);
    if (named || !names)
        class_->show(QString::fromStdString(named.value_or(std::string())));
    else
        class_->showMixed();
    tells_->setEnabled(parts_.front()->isEnabled());
    tells_->setChecked(!all.empty() && session_.level() &&
                       edit::told_by(level::as_in(session_.project(), *session_.level()), all) != 0);
    asProject_->setVisible(std::any_of(all.begin(), all.end(), [](const auto& u) { return u.here; }));
    layers_->setVisible(std::any_of(all.begin(), all.end(), [](const auto& u) { return u.unheard(); }));
    hint_->setText(all.empty() ? tr("Choose one, or several with Ctrl and Shift, to say what they are to a walker.")
                               : QString());
    hint_->setVisible(all.empty());
}

void UsedList::give(edit::Blocking blocking) {
    const std::vector<edit::Used> all = chosen();
    if (hereOnly_->isChecked())
        session_.applyLevel(tr("What things block here"),
                            edit::with_blocking_here(session_.project(), *session_.level(), all, blocking));
    else
        session_.apply(tr("What things block"), edit::with_blocking(session_.project(), all, blocking));
    refresh();
}

void UsedList::giveClass(const QString& name) {
    session_.apply(tr("Collision class"),
                   edit::with_class(session_.project(), session_.level()->id, chosen(), name.toStdString()));
    refresh();
}

void UsedList::choose(const edit::Used& thing) {
    refresh();
    for (std::size_t row = 0; row < things_.size(); ++row)
        if (things_[row].kind == thing.kind && things_[row].id == thing.id) {
            const QModelIndex index = list_->model()->index(static_cast<int>(row), 0);
            list_->selectionModel()->select(index, QItemSelectionModel::ClearAndSelect);
            list_->scrollTo(index);
        }
}

void UsedList::letLayersBlock() {
    session_.applyLevel(tr("Let layers block"),
                        edit::with_layers_blocking(session_.project(), *session_.level(), chosen()));
    refresh();
}

} // namespace vic::app
