#include "app/join/two_ways.hpp"

#include <QHBoxLayout>
#include <QIcon>
#include <QImage>
#include <QLabel>
#include <QPixmap>
#include <QSize>
#include <QToolButton>
#include <QVBoxLayout>
#include <cstdint>

#include "app/join/proof_view.hpp"
#include "app/parts/panel.hpp"
#include "edit/joins.hpp"
#include "edit/sheets.hpp"
#include "edit/templates.hpp"
#include "join/mask.hpp"
#include "join/proof.hpp"
#include "level/level.hpp"
#include "level/material.hpp"
#include "sheet/isometric.hpp"

namespace vic::app {

namespace {

// A lake with a bay, an island and a spit: what one sees at a glance whether it is inside out.
constexpr QSize kMost{200, 100}; // pixels of a picture
constexpr Size kPatch{10, 5};
constexpr const char* kRows =
    "0000000000"
    "0111110010"
    "0111111110"
    "0011001110"
    "0000000000";

join::ProofPatch patch() {
    join::ProofPatch out{kPatch, {}};
    for (int i = 0; i < kPatch.area(); ++i) out.cells.push_back(static_cast<std::uint8_t>(kRows[i] - '0'));
    return out;
}

} // namespace

TwoWays::TwoWays(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("twoWays");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    auto* head = new QHBoxLayout;
    head->addWidget(label(tr("Which of the two is the material?"), "heading", this));
    head->addStretch();
    column->addLayout(head);
    auto* row = new QHBoxLayout;
    row->setSpacing(10);
    const auto card = [&](const char* name, const QString& text, const QString& key, const QString& help) {
        auto* b = toolButton(this, name, {}, text, {}, "card");
        b->setToolButtonStyle(Qt::ToolButtonTextUnderIcon);
        describe(b, text, key, help);
        row->addWidget(b);
        return b;
    };
    now_ = card("waysNow", tr("As it is read"), {}, tr("It is right so: the question goes"));
    other_ = card("waysOther", tr("The other way round"), "Tab", tr("Reads the sheet so; the same key goes back"));
    row->addStretch();
    column->addLayout(row);
    connect(now_, &QToolButton::clicked, this, [this] {
        right_.insert(session_.materialId());
        emit settled();
    });
    connect(other_, &QToolButton::clicked, this, [this] {
        right_.insert(session_.materialId());
        emit otherWanted();
    });
}

bool TwoWays::open() const {
    const level::Material* m = session_.material();
    if (!m || m->joins.kind == level::JoinKind::plain || right_.contains(m->id)) return false;
    // Where half of the cases have no tile there are other questions first.
    const join::Coverage cover = join::coverage(m->joins);
    if (2 * cover.have < cover.of) return false;
    const level::Sheet* sheet = session_.project().sheet(edit::main_sheet(session_.project(), m->joins));
    // Of a kit's pieces their bodies have told it.
    if (sheet && sheet->kit) return false;
    // Of a template it is known which is which.
    if (sheet && edit::template_of(session_.project(), *sheet, m->joins.kind)) return false;
    return sheet && !sheet::is_isometric(*sheet) && session_.derived().joinsRead().other;
}

level::Project TwoWays::otherProject() const {
    const level::Material& m = *session_.material();
    const level::Project& p = session_.project();
    const level::Sheet* sheet = p.sheet(edit::main_sheet(p, m.joins));
    const JoinReadings::Reading reading = sheet ? session_.joins().reading(sheet->id, m.joins.kind) : nullptr;
    if (!reading || reading->others.empty()) return p;
    const join::JoinReading& other = reading->others.front();
    return edit::read_into(p, m.id, *sheet, edit::fits_better(*sheet, m.joins, other, *reading) ? *reading : other,
                           true);
}

void TwoWays::refresh() {
    if (!open()) return;
    const level::Material& m = *session_.material();
    const level::SheetId sheet = edit::main_sheet(session_.project(), m.joins);
    (void)shownFor_.get(
        {session_.materialRef(), session_.project().sheets, session_.joins().reading(sheet, m.joins.kind)}, [&] {
            const auto show = [&](QToolButton* b, const level::Project& project) {
                const QImage image = patchPicture(session_, project, join::paint_proof(patch(), project, m.id));
                const QSize size = image.size().boundedTo(image.size().scaled(kMost, Qt::KeepAspectRatio));
                b->setIcon(QPixmap::fromImage(image.scaled(size, Qt::KeepAspectRatio, Qt::SmoothTransformation)));
                b->setIconSize(size);
            };
            show(now_, session_.project());
            show(other_, otherProject());
            return true;
        });
}

} // namespace vic::app
