// The right side of Join: the chosen case and what serves it.
#include <QSpinBox>

#include "app/join_stage.hpp"
#include "app/panel.hpp"
#include "app/spoken.hpp"
#include "app/thumbs.hpp"
#include "edit/sheets.hpp"

namespace vic::app {

CasePanel::CasePanel(Session& session, ProofView& proof, QWidget* parent)
    : QWidget(parent), session_(session), proof_(proof) {
    auto* column = panelColumn(this);
    addHeading(column, tr("Case"), &aside_);
    const PictureHead card = addPictureHead(column, this, 84);
    picture_ = card.picture;
    title_ = card.title;
    title_->setObjectName("caseTitle");
    text_ = card.under;
    auto* figures = new QHBoxLayout;
    inProof_ = label({}, "quiet", this);
    variants_ = label({}, "quiet", this);
    figures->addWidget(inProof_);
    figures->addStretch();
    figures->addWidget(variants_);
    column->addLayout(figures);
    column->addWidget(rule(this));
    weights_ = new QWidget(this);
    new QVBoxLayout(weights_);
    weights_->layout()->setContentsMargins(0, 0, 0, 0);
    column->addWidget(weights_);
    auto* head = new QHBoxLayout;
    head->addWidget(label(tr("Sheet as read"), "heading"));
    head->addStretch();
    sheets_ = new QComboBox(this);
    sheets_->setObjectName("joinSheet");
    sheets_->setAccessibleName(tr("Sheet"));
    head->addWidget(sheets_);
    column->addLayout(head);
    sheet_ = new SheetView(session_, SheetView::Use::joins, this);
    sheet_->setObjectName("joinSheetView");
    column->addWidget(sheet_);
    connect(sheet_, &SheetView::tileClicked, this, &CasePanel::serve);
    connect(sheets_, &QComboBox::activated, this, [this] { sheet_->setSheet(sheets_->currentData().toUInt()); });
    auto* hint = label(tr("Petals show which neighbours a tile expects. Click a tile to serve the chosen case, "
                          "Ctrl+click to add it as a variant."),
                       "quiet", this);
    hint->setWordWrap(true);
    column->addWidget(hint);
    readAgain_ = new QPushButton(tr("Read this sheet's joins again"), this);
    readAgain_->setObjectName("readAgain");
    describe(readAgain_, tr("Read joins again"), {}, tr("Cases that the sheet has no tile for stay as they are"));
    connect(readAgain_, &QPushButton::clicked, this, [this] {
        const level::Sheet* s = session_.project().sheet(sheet_->sheetId());
        const level::Material* m = session_.material();
        if (!s || !s->image || !m || m->joins.kind == level::JoinKind::plain) return;
        const auto read = join::read_joins(edit::tile_pictures(*s), m->joins.kind);
        session_.apply(tr("Read the joins of %1").arg(QString::fromStdString(m->name)),
                       edit::rejoin(edit::read_into(session_.project(), m->id, *s, read)));
        emit session_.said(tr("Read %1 tiles: %2 cases missing, %3 doubtful")
                               .arg(read.tiles.size())
                               .arg(read.missing.size())
                               .arg(read.doubtful.size()),
                           false);
    });
    column->addWidget(readAgain_);
    column->addStretch();
}

void CasePanel::serve(level::TileId tile, Qt::KeyboardModifiers modifiers) {
    const level::Material* m = session_.material();
    if (!m) return;
    const join::Mask mask = m->joins.kind == level::JoinKind::plain ? join::Mask{255} : session_.joinCase();
    std::vector<level::Variant> variants;
    if (modifiers & Qt::ControlModifier) {
        if (const auto found = m->joins.cases.find(mask); found != m->joins.cases.end()) variants = found->second;
        const auto at = std::find_if(variants.begin(), variants.end(), [&](const auto& v) { return v.tile == tile; });
        if (at != variants.end())
            variants.erase(at);
        else
            variants.push_back({tile, 100});
    } else {
        variants = {{tile, 100}};
    }
    session_.apply(tr("Tile of a case of %1").arg(QString::fromStdString(m->name)),
                   edit::rejoin(edit::set_case(session_.project(), m->id, mask, variants)));
}

void CasePanel::follow() {
    const level::Material* m = session_.material();
    setEnabled(m != nullptr);
    if (!m) {
        title_->setText(tr("No material"));
        text_->clear();
        picture_->clear();
        return;
    }
    const bool plain = m->joins.kind == level::JoinKind::plain;
    const join::Mask mask = plain ? join::Mask{255} : session_.joinCase();
    const auto found = m->joins.cases.find(mask);
    const bool have = found != m->joins.cases.end() && !found->second.empty();
    aside_->setText(plain ? tr("plain") : tr("mask %1").arg(mask));
    title_->setText(plain ? tr("Variants") : [&] {
        QString t = spoken(join::describe(mask));
        t[0] = t[0].toUpper();
        return t;
    }());
    text_->setText(have ? QString() : tr("no tile"));
    setRole(text_, have ? "quiet" : "warning");
    picture_->setPixmap(have ? tileThumb(session_.project(), found->second.front().tile, 80) : QPixmap());
    inProof_->setText(tr("in the proof: %1").arg(proof_.cellsOfCase(mask)));
    variants_->setText(tr("variants: %1").arg(have ? found->second.size() : 0));

    std::string key = std::to_string(m->id) + "/" + std::to_string(mask);
    std::set<level::TileId> chosen;
    if (have)
        for (const auto& v : found->second) {
            chosen.insert(v.tile);
            key += "," + std::to_string(v.tile);
        }
    if (key != weightsOf_) {
        weightsOf_ = key;
        QLayoutItem* item = nullptr;
        while ((item = weights_->layout()->takeAt(0))) {
            if (item->widget()) item->widget()->hide(), item->widget()->deleteLater();
            delete item;
        }
        if (chosen.size() > 1 && chosen.size() <= 16) {
            auto* grid = new QWidget(weights_);
            auto* cells = new QGridLayout(grid);
            cells->setContentsMargins(0, 0, 0, 0);
            cells->setSpacing(5);
            int i = 0;
            for (const auto& v : found->second) {
                auto* icon = new QLabel(grid);
                icon->setPixmap(tileThumb(session_.project(), v.tile, 24));
                auto* box = new QSpinBox(grid);
                box->setObjectName(QString("weight-%1").arg(v.tile));
                box->setAccessibleName(tr("Weight of tile %1").arg(v.tile));
                box->setRange(0, 1000);
                box->setValue(v.weight);
                box->setKeyboardTracking(false);
                connect(box, &QSpinBox::valueChanged, this, [this, id = m->id, mask, tile = v.tile](int w) {
                    const level::Material* now = session_.project().material(id);
                    if (!now || !now->joins.cases.contains(mask)) return;
                    auto all = now->joins.cases.at(mask);
                    for (auto& one : all)
                        if (one.tile == tile) one.weight = w;
                    session_.apply(tr("Weight of a variant"),
                                   edit::rejoin(edit::set_case(session_.project(), id, mask, all)),
                                   "weight-" + std::to_string(tile));
                });
                cells->addWidget(icon, i / 3, i % 3 * 2);
                cells->addWidget(box, i / 3, i % 3 * 2 + 1);
                ++i;
            }
            weights_->layout()->addWidget(label(tr("Variants and their weights"), "heading"));
            weights_->layout()->addWidget(grid);
        }
    }
    // The sheet that the material's tiles come from, unless the designer has chosen another.
    const QSignalBlocker quiet(sheets_);
    const auto current = sheet_->sheetId();
    sheets_->clear();
    for (const auto& s : session_.project().sheets) sheets_->addItem(QString::fromStdString(s->name), s->id);
    level::SheetId wanted = current;
    if (sheetFor_ != m->id || !session_.project().sheet(current)) {
        sheetFor_ = m->id;
        for (const auto& s : session_.project().sheets)
            for (const auto& t : s->tiles)
                if (!m->joins.cases.empty() && !m->joins.cases.rbegin()->second.empty() &&
                    t.id == m->joins.cases.rbegin()->second.front().tile)
                    wanted = s->id;
    }
    sheets_->setCurrentIndex(std::max(0, sheets_->findData(wanted)));
    sheet_->setSheet(sheets_->currentData().toUInt());
    sheet_->setChosen(chosen);
    readAgain_->setVisible(!plain);
}

} // namespace vic::app
