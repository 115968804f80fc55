#include "app/shell/stand_options.hpp"

#include <QAction>
#include <QHBoxLayout>
#include <QIcon>
#include <QMenu>
#include <QSpinBox>
#include <QToolButton>
#include <algorithm>

#include "app/gesture/tools.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/tokens.hpp"
#include "app/session/session.hpp"
#include "edit/placing.hpp"

namespace vic::app {

StandOptions::StandOptions(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("standOptions");
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(2);
    buildLattice();
    toProps_ = toggle("optionToProps", "edges", tr("To other props"),
                      tr("Free props snap to edges, middles and equal distances of others"),
                      [](ToolOptions& o) -> bool& { return o.toProps; });
    toggle("optionDrops", "drop", tr("Onto the ground"),
           tr("Seen from the side they drop until they stand, and tilt where it slopes; from above onto the floor of "
              "their cell"),
           [](ToolOptions& o) -> bool& { return o.drops; });
    buildRow();
    onlyHere_ =
        toggle("optionOnlyHere", "onehere", tr("Only in this copy"),
               tr("Pictures, tints and notes of the ensemble's parts are changed in this copy alone; else in all"),
               [](ToolOptions& o) -> bool& { return o.onlyHere; });
}

void StandOptions::change(const std::function<void(ToolOptions&)>& what) {
    ToolOptions o = session_.options();
    what(o);
    session_.setOptions(o);
}

QToolButton* StandOptions::toggle(const char* id, const char* icon, const QString& name, const QString& help,
                                  const std::function<bool&(ToolOptions&)>& which) {
    auto* b = toolButton(this, id, icon, {}, {}, "toggle");
    describe(b, name, {}, help);
    b->setCheckable(true);
    layout()->addWidget(b);
    connect(b, &QToolButton::clicked, this, [this, which](bool on) { change([&](ToolOptions& o) { which(o) = on; }); });
    toggles_.push_back({b, icon, which});
    return b;
}

QToolButton* StandOptions::menuOf(const char* id, QMenu*& menu, const char* name, const std::vector<QString>& entries,
                                  const std::function<void(ToolOptions&, int)>& take) {
    QToolButton* const button = toolButton(this, id, {}, {}, {}, "link");
    menu = new QMenu(button);
    menu->setObjectName(name);
    for (std::size_t i = 0; i < entries.size(); ++i)
        connect(menu->addAction(entries[i]), &QAction::triggered, this,
                [this, take, i] { change([&](ToolOptions& o) { take(o, static_cast<int>(i)); }); });
    connect(button, &QToolButton::clicked, this,
            [button, menu] { menu->popup(button->mapToGlobal(QPoint(0, button->height()))); });
    layout()->addWidget(button);
    return button;
}

void StandOptions::buildLattice() {
    lattice_ = menuOf("optionLattice", places_, "standMenu",
                      {tr("anywhere"), tr("on cells"), tr("on half cells"), tr("on quarter cells")},
                      [](ToolOptions& o, int i) { o.lattice = static_cast<edit::Lattices>(i); });
    describe(lattice_, tr("Where props come to stand"), {}, tr("On the lattice's cells or parts of them, or anywhere"));
    rests_ = menuOf("optionRests", restings_, "restMenu",
                    {tr("on the storey"), tr("on what lies there"), tr("along its slope")},
                    [](ToolOptions& o, int i) { o.rests = static_cast<edit::Rests>(i); });
    describe(rests_, tr("How high they stand"), {},
             tr("On the storey's floor, or on the pieces of kits that lie there: upright, or as these slope"));
}

void StandOptions::buildRow() {
    apart_ = new QSpinBox(this);
    apart_->setObjectName("rowApart");
    apart_->setRange(0, 1024);
    apart_->setSpecialValueText(tr("foot to foot"));
    apart_->setSuffix(tr(" px"));
    describe(apart_, tr("Apart"), {},
             tr("From one of a row to the next; foot to foot where it is 0, or half the picture where that is wider"));
    layout()->addWidget(apart_);
    connect(apart_, &QSpinBox::valueChanged, this, [this](int v) { change([v](ToolOptions& o) { o.rowApart = v; }); });
    curve_ = toggle("optionCurve", "curve", tr("Along a curve"), tr("As one drags; else straight, as with Shift"),
                    [](ToolOptions& o) -> bool& { return o.curve; });
    faces_ = toggle("optionAlong", "along", tr("Turned along"), tr("Each is turned as the line goes"),
                    [](ToolOptions& o) -> bool& { return o.rowFaces; });
}

void StandOptions::refresh() {
    const unsigned options = kindOf(session_.tool()).options;
    const bool stands = (options & ToolKind::stands) != 0, rows = (options & ToolKind::rows) != 0;
    setVisible(stands);
    const ToolOptions& o = session_.options();
    lattice_->setText(places_->actions().at(static_cast<int>(o.lattice))->text());
    lattice_->setVisible(!rows);
    rests_->setText(restings_->actions().at(static_cast<int>(o.rests))->text());
    const auto& sheets = session_.project().sheets;
    rests_->setVisible(!rows && session_.isOpen() &&
                       std::any_of(sheets.begin(), sheets.end(), [](const auto& s) { return s->kit.has_value(); }));
    toProps_->setVisible(!rows && o.lattice == edit::Lattices::free);
    for (QWidget* w : {static_cast<QWidget*>(apart_), static_cast<QWidget*>(curve_), static_cast<QWidget*>(faces_)})
        w->setVisible(rows);
    onlyHere_->setVisible(session_.ensemble() != 0);
    if (!apart_->hasFocus()) {
        const QSignalBlocker quiet(apart_);
        apart_->setValue(o.rowApart);
    }
    ToolOptions copy = o;
    for (const Toggle& t : toggles_) t.button->setChecked(t.which(copy));
}

void StandOptions::setLook(const Tokens& t) {
    for (const Toggle& one : toggles_) {
        QIcon both = icon(one.icon, t.ink);
        both.addPixmap(icon(one.icon, t.panel).pixmap(40, 40), QIcon::Normal, QIcon::On);
        one.button->setIcon(both);
    }
}

} // namespace vic::app
