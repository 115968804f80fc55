#include "app/cut/kind_panel.hpp"

#include <QEvent>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QPen>
#include <QPixmap>
#include <QPointF>
#include <QPushButton>
#include <QSpinBox>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <string>
#include <utility>

#include "app/parts/panel.hpp"
#include "app/parts/thumbs.hpp"
#include "app/parts/tokens.hpp"
#include "app/parts/translated.hpp"
#include "app/tray/kind_fields.hpp"
#include "base/geometry.hpp"
#include "base/image.hpp"
#include "base/text.hpp"
#include "edit/props.hpp"
#include "edit/replace.hpp"
#include "level/project.hpp"
#include "level/sheet.hpp"
#include "sheet/islands.hpp"
#include "sheet/pieces.hpp"
#include "sheet/png.hpp"

namespace vic::app {

KindPanel::KindPanel(Session& session, SheetView& view, QWidget* parent)
    : QWidget(parent), session_(session), view_(view) {
    auto* column = panelColumn(this);
    addHeading(column, tr("Props of this sheet"), &count_);
    const PictureHead head = addPictureHead(column, this, 68);
    picture_ = head.picture;
    title_ = head.title;
    under_ = head.under;

    one_ = new QWidget(this);
    auto* inner = new QVBoxLayout(one_);
    inner->setContentsMargins(0, 4, 0, 0);
    inner->setSpacing(8);
    buildName(inner);
    column->addWidget(one_);

    buildPivots(inner);
    buildSize(inner);
    more_ = new KindFields(
        session_, [this] { return chosen(); }, "kind", one_);
    inner->addWidget(more_);
    buildDeeds(inner);
    hint_ = label({}, "quiet", this);
    hint_->setWordWrap(true);
    column->addWidget(hint_);
    column->addStretch();
    connect(&view_, &SheetView::removeAsked, this, &KindPanel::removeChosen);
    connect(&view_, &SheetView::mergeAsked, this, &KindPanel::mergeChosen);
}

void KindPanel::buildName(QVBoxLayout* inner) {
    name_ = new QLineEdit(one_);
    name_->setObjectName("kindName");
    addField(inner, tr("Name"), name_, 54);
    fields_.bindEnabled(name_, [this] { return chosen().size() == 1; });
    fields_.bindText(
        name_, [this] { return chosen().size() == 1 ? QString::fromStdString(chosen().front().name) : QString(); },
        [this](const QString& name) {
            const auto all = chosen();
            const std::string text = name.toStdString();
            if (all.size() != 1 || text.empty()) return;
            const Text taken = edit::name_taken_by_prop(session_.project(), text, all.front().id);
            if (!taken.empty()) return emit session_.said(translated(taken), true);
            level::Project p = session_.project();
            level::PropKind changed = all.front();
            changed.name = text;
            p.put(std::move(changed));
            session_.apply(tr("Rename a prop"), std::move(p));
        });
}

void KindPanel::buildPivots(QVBoxLayout* inner) {
    QLabel* aside = nullptr;
    addHeading(inner, tr("Pivot"), &aside);
    aside->setText(tr("or drag its cross"));
    auto* grid = new QGridLayout;
    grid->setSpacing(3);
    const QString names[9] = {tr("Top left"),    tr("Top middle"),    tr("Top right"),
                              tr("Left middle"), tr("Middle"),        tr("Right middle"),
                              tr("Bottom left"), tr("Bottom middle"), tr("Bottom right")};
    for (int i = 0; i < 9; ++i) {
        auto* b = toolButton(one_, QString("pivot-%1").arg(i), {}, {}, {}, "tool");
        describe(b, names[i], {}, tr("Where the prop is held when it is placed, and by which it is sorted"));
        b->setCheckable(true);
        b->setFixedSize(30, 26);
        b->setIconSize({20, 18});
        b->setStyleSheet("padding: 0");
        connect(b, &QToolButton::clicked, this, [this, i] {
            level::Project p = session_.project();
            for (level::PropKind k : chosen()) {
                k.pivot = edit::pivot_preset(k.box.size(), i % 3, i / 3);
                p = edit::change_kind(std::move(p), std::move(k));
            }
            session_.apply(tr("Pivot of props"), std::move(p));
        });
        grid->addWidget(b, i / 3, i % 3);
        pivots_[static_cast<std::size_t>(i)] = b;
        fields_.follow([this, b, i] {
            b->setChecked(ofAll(
                [i](const level::PropKind& k) { return k.pivot == edit::pivot_preset(k.box.size(), i % 3, i / 3); }));
        });
    }
    paintSigns();
    grid->setColumnStretch(3, 1);
    inner->addLayout(grid);
}

void KindPanel::buildSize(QVBoxLayout* inner) {
    const auto number = [&](const char* id, const QString& title, int least, int most) {
        auto* spin = new QSpinBox(one_);
        spin->setObjectName(id);
        spin->setRange(least, most);
        addField(inner, title, spin, 54);
        return spin;
    };
    factor_ = number("kindFactor", tr("Size"), 1, 16);
    factor_->setPrefix(tr("× "));
    factor_->setToolTip(tr("By how much its art is enlarged in levels; the file stays as it is"));
    fields_.bindInt(
        factor_, [this] { return chosen().front().factor; },
        [this](int v) { change(tr("Size of props"), [v](level::PropKind& k) { k.factor = v; }); });
    piece_ = number("kindPiece", tr("Pieces"), 0, sheet::kMostSide);
    piece_->setSingleStep(128);
    piece_->setSpecialValueText(tr("whole"));
    piece_->setPrefix(tr("at most "));
    piece_->setSuffix(tr(" px"));
    piece_->setToolTip(
        tr("A large picture stays one thing here and is built as equal pieces; empty ones are left out"));
    fields_.bindInt(
        piece_, [this] { return chosen().front().piece; },
        [this](int v) {
            const int most = v > 0 ? std::max(v, sheet::kLeastPiece) : 0;
            change(tr("Pieces of a picture"), [most](level::PropKind& k) { k.piece = most; });
        });
    pieces_ = label({}, "quiet", one_);
    pieces_->setObjectName("kindPieces");
    pieces_->setWordWrap(true);
    fields_.bindLabel(pieces_, [this] { return piecesText(); });
    fields_.bindShown(pieces_, [this] { return !pieces_->text().isEmpty(); });
    inner->addWidget(pieces_);
}

void KindPanel::buildDeeds(QVBoxLayout* inner) {
    merge_ = new QPushButton(tr("Merge into one"), one_);
    merge_->setObjectName("mergeKinds");
    describe(merge_, tr("Merge into one"), "J", tr("The chosen boxes become one prop; placed ones follow"));
    connect(merge_, &QPushButton::clicked, this, &KindPanel::mergeChosen);
    split_ = new QPushButton(tr("Split into its parts"), one_);
    split_->setObjectName("splitKind");
    describe(split_, tr("Split into its parts"), {}, tr("Every part that stands apart becomes a prop of its own"));
    connect(split_, &QPushButton::clicked, this, &KindPanel::split);
    remove_ = new QPushButton(tr("Remove"), one_);
    remove_->setObjectName("removeKinds");
    describe(remove_, tr("Remove"), "Del", tr("The picture stays; only the prop goes"));
    connect(remove_, &QPushButton::clicked, this, &KindPanel::removeChosen);
    inner->addWidget(merge_);
    inner->addWidget(split_);
    inner->addWidget(remove_);
}

void KindPanel::paintSigns() {
    const Tokens t = tokensOf(this);
    for (int i = 0; i < 9; ++i) {
        QPixmap pixmap(20, 18);
        pixmap.fill(Qt::transparent);
        QPainter p(&pixmap);
        p.setPen(QPen(t.faint, 1));
        p.drawRect(4, 2, 11, 13);
        const int row = i / 3;
        const QPointF at(4 + i % 3 * 5.5, 2 + row * 6.5);
        p.setRenderHint(QPainter::Antialiasing);
        p.setPen(Qt::NoPen);
        p.setBrush(t.ink);
        p.drawEllipse(at + QPointF(0.5, 0.5), 3, 3);
        p.end();
        pivots_[static_cast<std::size_t>(i)]->setIcon(pixmap);
    }
}

void KindPanel::changeEvent(QEvent* event) {
    if (pivots_[8] && (event->type() == QEvent::StyleChange || event->type() == QEvent::PaletteChange)) paintSigns();
    QWidget::changeEvent(event);
}

std::vector<level::PropKind> KindPanel::chosen() const {
    std::vector<level::PropKind> out;
    for (const auto id : view_.kinds())
        if (const level::PropKind* k = session_.project().prop_kind(id)) out.push_back(*k);
    return out;
}

bool KindPanel::ofAll(const std::function<bool(const level::PropKind&)>& what) const {
    const auto all = chosen();
    return std::all_of(all.begin(), all.end(), what);
}

// As how many pieces the first of them will be built; counted on the picture as it is in the level.
QString KindPanel::piecesText() const {
    const level::PropKind first = chosen().front();
    const level::Sheet* s = session_.sheet();
    if (first.piece <= 0 || !s || !s->image) return {};
    const sheet::Pieces cut =
        sheet::pieces_of(resampled(cropped(*s->image, first.box), first.drawn(), s->smooth), first.piece);
    return tr("built as %1 × %2 pieces of %3 × %4 px")
               .arg(cut.count.w)
               .arg(cut.count.h)
               .arg(cut.size.w)
               .arg(cut.size.h) +
           (cut.empty ? tr(", %1 empty ones left out").arg(cut.empty) : QString());
}

void KindPanel::change(const QString& name, const std::function<void(level::PropKind&)>& what, bool merges) {
    level::Project p = session_.project();
    std::string merge = name.toStdString();
    for (level::PropKind k : chosen()) {
        what(k);
        merge += "-" + std::to_string(k.id);
        p.put(std::move(k));
    }
    session_.apply(name, std::move(p), merges ? merge : std::string());
}

void KindPanel::mergeChosen() {
    const auto all = chosen();
    if (all.size() < 2) return;
    std::vector<level::PropKindId> ids;
    for (const auto& k : all) ids.push_back(k.id);
    view_.setKinds({ids.front()});
    session_.apply(tr("Merge %1 props").arg(ids.size()), edit::merge_kinds(session_.project(), ids));
}

void KindPanel::split() {
    const auto all = chosen();
    const level::Sheet* s = session_.sheet();
    if (all.size() != 1 || !s || !s->image) return;
    const level::PropKind& k = all.front();
    const sheet::IslandMap map(cropped(*s->image, k.box));
    std::vector<Box> parts = map.boxes({0, map.proposed().least_area});
    for (Box& b : parts) b = b.moved(k.box.corner());
    if (parts.size() < 2) {
        emit session_.said(tr("%1 is of one piece").arg(QString::fromStdString(k.name)), false);
        return;
    }
    session_.apply(tr("Split %1 into %2").arg(QString::fromStdString(k.name)).arg(parts.size()),
                   edit::split_kind(session_.project(), k.id, parts));
}

void KindPanel::removeChosen() {
    const auto all = chosen();
    if (all.empty()) return;
    std::vector<level::PropKindId> ids;
    int standing = 0;
    for (const auto& k : all) {
        ids.push_back(k.id);
        standing += edit::placed(session_.project(), k.id);
    }
    if (standing > 0 && warned_ != ids) {
        warned_ = ids;
        emit session_.said(
            translated(say_count(standing,
                                 "One of them stands in a level and would go with it: remove once more to do it",
                                 "%n of them stand in levels and would go with them: remove once more to do it")),
            true);
        return;
    }
    warned_.clear();
    view_.setKinds({});
    session_.apply(translated(say_count(static_cast<std::int64_t>(ids.size()), "Remove one prop", "Remove %n props")),
                   edit::remove_kinds(session_.project(), ids));
}

void KindPanel::refresh() {
    if (!session_.isOpen()) return;
    const level::Sheet* s = session_.sheet();
    const auto all = chosen();
    int whole = 0;
    for (const auto& k : session_.project().prop_kinds) whole += s && k->sheet == s->id;
    count_->setText(tr("%1 of %2 chosen").arg(all.size()).arg(whole));
    one_->setVisible(!all.empty());
    if (all.empty()) {
        picture_->clear();
        if (s) picture_->setPixmap(sheetThumb(*s, 64));
        title_->setText(s ? QString::fromStdString(s->name) : tr("No sheet"));
        under_->setText(whole == 1 ? tr("one prop") : whole ? tr("%1 props").arg(whole) : tr("no props yet"));
        hint_->setText(whole
                           ? tr("Click a box to choose it, Ctrl adds. Drag a chosen box to move it, drag anywhere else "
                                "to draw a new one.")
                           : tr("Dashed boxes are what the program found. Set how far apart parts may be and how small "
                                "a speck is, then take them; or drag a box yourself."));
        return;
    }
    const level::PropKind& first = all.front();
    picture_->setPixmap(propThumb(session_.project(), first, 64));
    title_->setText(all.size() > 1 ? tr("%1 props").arg(all.size()) : QString::fromStdString(first.name));
    under_->setText(tr("%1 × %2 px at %3, %4").arg(first.box.w).arg(first.box.h).arg(first.box.x).arg(first.box.y));
    fields_.refresh();
    more_->refresh();
    merge_->setEnabled(all.size() > 1);
    split_->setEnabled(all.size() == 1);
    hint_->setText(tr("Arrow keys nudge the box by a pixel. What stands in levels keeps its place."));
}

} // namespace vic::app
