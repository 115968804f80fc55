#include "app/cut/swap_card.hpp"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cstddef>
#include <tuple>
#include <utility>

#include "app/parts/panel.hpp"
#include "app/parts/thumbs.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "base/text.hpp"
#include "edit/swap.hpp"
#include "level/level.hpp"
#include "level/project.hpp"

namespace vic::app {

namespace {

constexpr int kWide = 340;
constexpr std::size_t kShownAlone = 8; // pictures of tiles without a counterpart
constexpr int kSide = 28;

} // namespace

SwapCard::SwapCard(Session& session, QWidget* parent) : QFrame(parent, Qt::Popup), session_(session) {
    setObjectName("swapCard");
    setStyleSheet("#swapCard { background: palette(base); border: 1px solid palette(mid); }");
    setFixedWidth(kWide);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 12, 14, 12);
    column->setSpacing(8);
    head_ = label({}, "title", this);
    head_->setWordWrap(true);
    column->addWidget(head_);
    to_ = new QComboBox(this);
    to_->setObjectName("swapTo");
    addField(column, tr("For"), to_, 54);
    where_ = new QComboBox(this);
    where_->setObjectName("swapWhere");
    where_->addItems({tr("in this level"), tr("in all levels")});
    addField(column, tr("Where"), where_, 54);
    says_ = label({}, "quiet", this);
    says_->setObjectName("swapSays");
    says_->setWordWrap(true);
    column->addWidget(says_);
    alone_ = new QHBoxLayout;
    alone_->setSpacing(4);
    column->addLayout(alone_);
    go_ = new QPushButton(tr("Swap"), this);
    go_->setObjectName("swapGo");
    setRole(go_, "primary");
    column->addWidget(go_);
    connect(to_, &QComboBox::activated, this, &SwapCard::tell);
    connect(where_, &QComboBox::activated, this, &SwapCard::tell);
    connect(go_, &QPushButton::clicked, this, &SwapCard::swap);
}

std::vector<std::string> SwapCard::levels() const {
    if (where_->currentIndex() == 1 || !session_.level()) return {};
    return {session_.level()->id};
}

void SwapCard::open(level::SheetId from, QPoint upperRight) {
    const level::Sheet* sheet = session_.project().sheet(from);
    if (!sheet) return;
    from_ = from;
    head_->setText(tr("Swap %1 for another sheet").arg(QString::fromStdString(sheet->name)));
    // Those that fit best come first: tiles of the same size, many counterparts, and what was added last.
    struct Other {
        bool same = false;
        std::size_t counterparts = 0;
        const level::Sheet* sheet = nullptr;
    };
    std::vector<Other> others;
    for (const auto& s : session_.project().sheets)
        if (s->id != from && s->image && s->accepted && s->tiles.size() > 1)
            others.push_back({s->cut.tile == sheet->cut.tile,
                              edit::counterparts(session_.project(), from, s->id).tiles.size(), s.get()});
    std::sort(others.begin(), others.end(), [](const Other& a, const Other& b) {
        return std::tuple(a.same, a.counterparts, a.sheet->id) > std::tuple(b.same, b.counterparts, b.sheet->id);
    });
    to_->clear();
    for (const Other& o : others)
        to_->addItem(tr("%1 · %2 counterparts").arg(QString::fromStdString(o.sheet->name)).arg(o.counterparts),
                     o.sheet->id);
    where_->setCurrentIndex(0);
    where_->setEnabled(session_.project().levels.size() > 1);
    tell();
    move(upperRight - QPoint(width(), 0));
    show();
    to_->setFocus();
}

void SwapCard::tell() {
    clearLayout(alone_);
    go_->setEnabled(to_->count() > 0);
    if (to_->count() == 0) {
        says_->setText(tr("There is no other sheet with tiles: drop one of the same layout"));
        adjustSize();
        return;
    }
    const level::SheetId to = to_->currentData().toUInt();
    const edit::Counterparts pairs = edit::counterparts(session_.project(), from_, to);
    const edit::Swapped next = edit::swapped(session_.project(), from_, to, levels());
    QString text = translated(say_count(next.cells, "One cell changes", "%n cells change"));
    if (next.stayed > 0) text += translated(say_count(next.stayed, "; one stays as it is", "; %n stay as they are"));
    if (next.made > 0)
        text += translated(say_count(next.made, "; a material is made of the same cases",
                                     "; %n materials are made of the same cases"));
    if (!pairs.alone.empty())
        text +=
            translated(say_count(static_cast<std::int64_t>(pairs.alone.size()),
                                 ". One tile in use has no counterpart:", ". %n tiles in use have no counterpart:"));
    says_->setText(text);
    says_->setMinimumHeight(says_->heightForWidth(kWide - 30));
    for (std::size_t i = 0; i < std::min(pairs.alone.size(), kShownAlone); ++i) {
        auto* picture = new QLabel(this);
        picture->setFixedSize(kSide, kSide);
        picture->setPixmap(tileThumb(session_.project(), pairs.alone[i], kSide));
        alone_->addWidget(picture);
    }
    alone_->addStretch();
    go_->setEnabled(next.cells > 0);
    adjustSize();
}

void SwapCard::swap() {
    const level::SheetId to = to_->currentData().toUInt();
    const QString was = QString::fromStdString(session_.project().sheet(from_)->name);
    const QString now = QString::fromStdString(session_.project().sheet(to)->name);
    edit::Swapped next = edit::swapped(session_.project(), from_, to, levels());
    const std::int64_t cells = next.cells;
    hide();
    session_.apply(tr("Swap %1 for %2").arg(was, now), std::move(next.project));
    emit session_.said(translated(say_count(cells, "One cell shows %1 now", "%n cells show %1 now",
                                            session_.project().sheet(to)->name)),
                       false);
}

} // namespace vic::app
