// The right side of Join: the chosen case and what serves it.

#include "app/join/case_panel.hpp"

#include <QComboBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLayout>
#include <QLayoutItem>
#include <QLocale>
#include <QPixmap>
#include <QPushButton>
#include <QSizePolicy>
#include <QSlider>
#include <QSpinBox>
#include <QVBoxLayout>
#include <QVariant>
#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <set>
#include <utility>

#include "app/join/order_menu.hpp"
#include "app/parts/glyphs.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/thumbs.hpp"
#include "app/parts/tokens.hpp"
#include "app/parts/translated.hpp"
#include "base/geometry.hpp"
#include "base/image.hpp"
#include "base/text.hpp"
#include "base/turn.hpp"
#include "edit/joins.hpp"
#include "edit/sheets.hpp"
#include "edit/stroke.hpp"
#include "join/compose.hpp"
#include "join/read_joins.hpp"
#include "join/resolve.hpp"
#include "join/seams.hpp"
#include "level/grid.hpp"
#include "level/material.hpp"
#include "level/project.hpp"
#include "level/sheet.hpp"
#include "sheet/cut.hpp"

namespace vic::app {

namespace {

constexpr std::size_t kMostWeights = 16; // variants that get a field each

} // namespace

CasePanel::CasePanel(Session& session, ProofView& proof, QWidget* parent)
    : QWidget(parent), session_(session), proof_(proof) {
    setObjectName("casePanel");
    auto* column = panelColumn(this);
    addHeading(column, tr("Case"), &aside_);
    const PictureHead card = addPictureHead(column, this, 72);
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
    serveHead_ = label(tr("Would serve"), "heading");
    column->addWidget(serveHead_);
    candidates_ = new QWidget(this);
    candidates_->setObjectName("candidates");
    auto* list = new QVBoxLayout(candidates_);
    list->setContentsMargins(0, 0, 0, 0);
    list->setSpacing(3);
    column->addWidget(candidates_);
    weights_ = new QWidget(this);
    new QVBoxLayout(weights_);
    weights_->layout()->setContentsMargins(0, 0, 0, 0);
    column->addWidget(weights_);
    buildLively(column);
    column->addWidget(rule(this));
    buildSheet(column);
    buildWorks(column);
    column->addStretch();
    bindHead();
    fields_.follow([this] { refreshWeights(); });
    fields_.follow([this] { refreshCandidates(); });
}

void CasePanel::buildLively(QVBoxLayout* column) {
    livelyBox_ = new QWidget(this);
    auto* lively = new QVBoxLayout(livelyBox_);
    lively->setContentsMargins(0, 0, 0, 0);
    lively->setSpacing(3);
    lively_ = new QSlider(Qt::Horizontal, this);
    lively_->setObjectName("lively");
    lively_->setRange(0, 100);
    lively_->setTracking(false);
    lively_->setToolTip(tr("How far variants are spread, so that none lies beside itself; their weights hold"));
    addField(lively, tr("Lively"), lively_, 60);
    repetition_ = label({}, "quiet", this);
    repetition_->setObjectName("repetition");
    lively->addWidget(repetition_);
    column->addWidget(livelyBox_);
    fields_.bindInt(
        lively_, [this] { return session_.material()->joins.lively; },
        [this](int v) {
            change(
                tr("How lively the variants are"), [v](level::JoinSet& set) { set.lively = v; }, "lively");
        });
    fields_.bindShown(livelyBox_, [this] {
        const auto& cases = session_.material()->joins.cases;
        return std::any_of(cases.begin(), cases.end(), [](const auto& c) { return c.second.size() > 1; });
    });
    fields_.bindLabel(repetition_, [this] { return livelyBox_->isHidden() ? QString() : repetitionText(); });
    turns_ = new QComboBox(this);
    turns_->setObjectName("setTurns");
    turns_->setToolTip(
        tr("How a tile may be laid to serve other cases than its own: 6 drawn tiles can then be 16, "
           "and 15 can be 47"));
    addField(column, tr("Tiles may be"), turns_, 78);
    fields_.bindChoice(
        turns_,
        [] {
            return std::vector<Bindings::Choice>{{tr("only as drawn"), uint(level::kNoTurns)},
                                                 {tr("mirrored"), uint(level::kMirrorOnly)},
                                                 {tr("turned"), uint(level::kQuarterTurns)},
                                                 {tr("turned and mirrored"), uint(level::kAllTurns)}};
        },
        [this] { return uint(session_.material()->joins.turns); },
        [this](const QVariant& to) {
            const auto mask = static_cast<std::uint8_t>(to.toUInt());
            change(tr("Turns of a material's tiles"), [mask](level::JoinSet& set) { set.turns = mask; });
        });
    fields_.bindEnabled(turns_, [this] { return !plain(); });
}

void CasePanel::buildSheet(QVBoxLayout* column) {
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
    connect(sheet_, &SheetView::petalClicked, this, &CasePanel::correct);
    fields_.bindChoice(
        sheets_,
        [this] {
            std::vector<Bindings::Choice> all;
            for (const auto& sheet : session_.project().sheets)
                all.push_back({QString::fromStdString(sheet->name), sheet->id});
            return all;
        },
        [this] { return sheetToShow(); },
        [this](const QVariant& to) {
            sheet_->setSheet(to.toUInt());
            refresh();
        });
    fields_.follow([this] {
        sheet_->setSheet(sheets_->currentData().toUInt());
        std::set<level::TileId> chosen;
        for (const auto& v : serving()) chosen.insert(v.tile);
        sheet_->setChosen(chosen);
    });
    auto* hint = label(tr("Click a petal to correct it, a tile to serve the chosen case; Ctrl+click adds a variant."),
                       "quiet", this);
    hint->setWordWrap(true);
    column->addWidget(hint);
}

void CasePanel::buildWorks(QVBoxLayout* column) {
    readAgain_ = new QPushButton(tr("Read again"), this);
    readAgain_->setObjectName("readAgain");
    describe(readAgain_, tr("Read joins again"), {}, tr("Cases that the sheet has no tile for stay as they are"));
    connect(readAgain_, &QPushButton::clicked, this, &CasePanel::readAgain);
    auto* works = new QHBoxLayout;
    works->addWidget(readAgain_, 1);
    otherWay_ = new QPushButton(tr("The other way round"), this);
    otherWay_->setObjectName("otherWay");
    describe(otherWay_, tr("The other way round"), tr("Tab"),
             tr("Of two grounds that meet either may be the material: takes the other reading of the sheet"));
    connect(otherWay_, &QPushButton::clicked, this, &CasePanel::otherWay);
    column->addWidget(otherWay_); // three beside each other would be wider than the panel
    cards_ = new QPushButton(tr("Order …"), this);
    cards_->setObjectName("orderCards");
    describe(
        cards_, tr("Order cards"), {},
        tr("Keep the order of this sheet's tiles for other sheets of the same layout, or lay a kept order over it"));
    connect(cards_, &QPushButton::clicked, this, [this] { showOrderMenu(session_, sheet_->sheetId(), cards_); });
    works->addWidget(cards_);
    column->addLayout(works);
    for (QWidget* w : {readAgain_, cards_}) fields_.bindShown(w, [this] { return !plain(); });
    fields_.bindShown(otherWay_, [this] { return !plain() && session_.derived().joinsRead().other; });
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
            variants.push_back({tile, 100, {}});
    } else {
        variants = {{tile, 100, {}}};
    }
    serveCase(m->id, mask, variants, tile);
}

bool CasePanel::plain() const { return session_.material()->joins.kind == level::JoinKind::plain; }

join::Mask CasePanel::mask() const { return plain() ? join::Mask{255} : session_.joinCase(); }

std::vector<level::Variant> CasePanel::serving() const { return join::serving(session_.material()->joins, mask()); }

void CasePanel::bindHead() {
    fields_.bindLabel(aside_, [this] {
        return plain() ? tr("plain") : tr("mask %1").arg(join::file_mask(mask(), session_.material()->joins.kind));
    });
    fields_.bindLabel(title_, [this] {
        if (plain()) return tr("Variants");
        QString t = translated(join::describe(mask(), session_.material()->joins.kind));
        t[0] = t[0].toUpper();
        return t;
    });
    fields_.follow([this] {
        const auto variants = serving();
        const bool have = !variants.empty();
        const bool own = session_.material()->joins.cases.contains(mask());
        text_->setText(!have ? tr("no tile")
                       : own ? turnWord(variants.front().turn)
                             : tr("by a tile that is %1").arg(turnWord(variants.front().turn)));
        setRole(text_, have ? "quiet" : "warning");
        picture_->setPixmap(have ? tileThumb(session_.project(), variants.front().tile, 68, variants.front().turn)
                                 : QPixmap());
    });
    fields_.bindLabel(inProof_, [this] {
        const auto here = edit::cells_of_case(session_.project(), session_.level(), session_.material()->id, mask());
        const auto in_proof = proof_.cellsOfCase(mask());
        return here < 0
                   ? tr("in the proof: %1").arg(in_proof)
                   : tr("in the proof: %1, in the level: %2").arg(in_proof).arg(QLocale().toString(qlonglong(here)));
    });
    fields_.bindLabel(variants_, [this] { return tr("variants: %1").arg(serving().size()); });
}

// The sheet that the material's tiles come from, unless the designer has chosen another.
level::SheetId CasePanel::sheetToShow() {
    const level::Material& m = *session_.material();
    if (sheetFor_ == m.id && session_.project().sheet(sheet_->sheetId())) return sheet_->sheetId();
    sheetFor_ = m.id;
    if (m.joins.cases.empty() || m.joins.cases.rbegin()->second.empty()) return sheet_->sheetId();
    const level::TileId tile = m.joins.cases.rbegin()->second.front().tile;
    for (const auto& s : session_.project().sheets)
        for (const auto& t : s->tiles)
            if (t.id == tile) return s->id;
    return sheet_->sheetId();
}

void CasePanel::refresh() {
    setEnabled(session_.material() != nullptr);
    if (session_.material()) return fields_.refresh();
    title_->setText(tr("No material"));
    text_->clear();
    picture_->clear();
}

// A field for the weight of each variant of the case, where there are several.
void CasePanel::refreshWeights() {
    const level::Material& m = *session_.material();
    const WeightsOf of{m.id, mask(), [&] {
                           std::vector<level::Variant> own;
                           if (const auto found = m.joins.cases.find(mask()); found != m.joins.cases.end())
                               own = found->second;
                           for (auto& v : own) v.weight = 0; // other weights are the same fields
                           return own;
                       }()};
    if (of != weightsOf_) {
        weightsOf_ = of;
        weightFields_ = {};
        clearLayout(weights_->layout());
        const auto& [material, at, own] = of;
        if (own.size() > 1 && own.size() <= kMostWeights) {
            auto* grid = new QWidget(weights_);
            auto* cells = new QGridLayout(grid);
            cells->setContentsMargins(0, 0, 0, 0);
            cells->setSpacing(5);
            for (const int spins : {1, 3, 5}) cells->setColumnStretch(spins, 1);
            int i = 0;
            for (const auto& v : own) {
                auto* icon = new QLabel(grid);
                icon->setPixmap(tileThumb(session_.project(), v.tile, 24, v.turn));
                cells->addWidget(icon, i / 3, i % 3 * 2);
                cells->addWidget(weightField(grid, static_cast<std::size_t>(i), v.tile), i / 3, i % 3 * 2 + 1);
                ++i;
            }
            weights_->layout()->addWidget(label(tr("Variants and their weights"), "heading"));
            weights_->layout()->addWidget(grid);
        }
    }
    weightFields_.refresh();
}

QSpinBox* CasePanel::weightField(QWidget* parent, std::size_t place, level::TileId tile) {
    auto* box = new QSpinBox(parent);
    box->setObjectName(QString("weight-%1").arg(tile));
    box->setAccessibleName(tr("Weight of tile %1").arg(tile));
    box->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed); // three stand beside each other
    box->setMinimumWidth(36);
    box->setRange(0, 1000);
    const auto& [material, at, variants] = weightsOf_;
    weightFields_.bindInt(
        box,
        [this, place, id = material, mask = at] {
            return session_.project().material(id)->joins.cases.at(mask)[place].weight;
        },
        [this, place, tile, id = material, mask = at](int w) {
            auto all = session_.project().material(id)->joins.cases.at(mask);
            all[place].weight = w;
            const auto weigh = [id, mask, all](level::Project p) {
                return p.material(id) ? edit::rejoin(edit::set_case(std::move(p), id, mask, all)) : p;
            };
            session_.applyJoined({tr("Weight of a variant"), weigh, "weight-" + std::to_string(tile), {}});
        });
    return box;
}

void CasePanel::change(const QString& name, const std::function<void(level::JoinSet&)>& what,
                       const std::string& merge) {
    const level::Material* m = session_.material();
    if (!m) return;
    session_.applyJoined(
        {name, [id = m->id, what](level::Project p) { return edit::change_set(std::move(p), id, what); }, merge, {}});
}

void CasePanel::correct(level::TileId tile, int mask, int bit) {
    const level::Material* m = session_.material();
    if (!m) return;
    const join::Mask to = edit::with_petal(m->joins.kind, static_cast<join::Mask>(mask), bit);
    if (to == mask) {
        emit session_.said(tr("A corner between sides that are not both joined says nothing"), false);
        return;
    }
    const auto move = [id = m->id, tile, to](level::Project p) { return edit::move_tile(std::move(p), id, tile, to); };
    session_.applyJoined({tr("Correct a reading"), move, {}, {}});
    session_.setCase(to);
}

// How often variants lie beside themselves, on a field of nothing but the material.
QString CasePanel::repetitionText() {
    const level::Material& m = *session_.material();
    const join::Repetition& r = repetitionOf_.get(session_.materialRef(), [&] {
        level::Grid field(Size{64, 64});
        for (int y = 0; y < 64; ++y)
            for (int x = 0; x < 64; ++x) field.set({x, y}, {}, m.id);
        join::resolve(session_.derived().rules(), field, box_of(field.size()), 1);
        return join::repetition(session_.project(), field, m.id);
    });
    return r.pairs == 0 ? tr("the inside has one tile only")
                        : tr("beside itself %1 %, by chance %2 %")
                              .arg(std::lround(100 * r.share()))
                              .arg(std::lround(100 * r.by_chance));
}

} // namespace vic::app
