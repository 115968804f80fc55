#include "app/bound/bound_panel.hpp"

#include <QHideEvent>
#include <QLabel>
#include <QLocale>
#include <QVBoxLayout>

#include "app/bound/leak_list.hpp"
#include "app/bound/movers_grid.hpp"
#include "app/bound/used_list.hpp"
#include "app/parts/panel.hpp"
#include "app/session/session.hpp"
#include "app/view/level_view.hpp"
#include "level/level.hpp"
#include "outline/trace.hpp"

namespace vic::app {

BoundPanel::BoundPanel(Session& session, LevelView& view, QWidget* parent)
    : QWidget(parent), session_(session), view_(view) {
    setObjectName("boundPanel");
    auto* column = panelColumn(this);
    used_ = new UsedList(session_, view_, this);
    column->addWidget(used_, 1);
    column->addSpacing(6);
    addHeading(column, tr("Merged"), &aside_);
    aside_->setText(tr("live"));
    column->addSpacing(2);
    shapes_ = addFigure(column, tr("shapes in"), "shapesIn");
    outlines_ = addFigure(column, tr("outlines"), "outlinesOut");
    corners_ = addFigure(column, tr("corners"), "cornersOut");
    rectangles_ = addFigure(column, tr("or rectangles, the fewest"), "rectanglesOut");
    oneWay_ = addFigure(column, tr("one-way edges"), "oneWayOut");
    reached_ = new QWidget(this);
    auto* inner = new QVBoxLayout(reached_);
    inner->setContentsMargins(0, 0, 0, 0);
    reach_ = addFigure(inner, tr("cells to stand on, reached"), "reachOut");
    column->addWidget(reached_);
    hint_ = label({}, "quiet", this);
    hint_->setWordWrap(true);
    column->addWidget(hint_);
    column->addSpacing(6);
    movers_ = new MoversGrid(session_, this);
    column->addWidget(movers_);
    leaks_ = new LeakList(session_, view_, this);
    column->addWidget(leaks_);
    connect(&view_.reach(), &ReachLens::reachedAnew, this, [this] {
        if (isVisible()) refresh();
    });
    connect(&view_, &LevelView::shownChanged, this, [this] {
        if (isVisible()) refresh();
    });
}

void BoundPanel::hideEvent(QHideEvent* event) {
    used_->leave();
    QWidget::hideEvent(event);
}

void BoundPanel::refresh() {
    if (!session_.isOpen() || !session_.level()) return;
    if (!view_.stroking()) {
        used_->refresh();
        leaks_->refresh();
        movers_->refresh();
    }
    const level::Level& level = view_.stroking() ? view_.shown() : *session_.level();
    const outline::Trace& trace = session_.derived().trace(level);
    const QLocale locale;
    shapes_->setText(locale.toString(trace.shape_count()));
    const int outlines = session_.derived().outlineCount(level);
    outlines_->setText(outlines < 0 ? tr("many") : locale.toString(outlines));
    const int corners = session_.derived().cornerCount(level);
    corners_->setText(corners < 0 ? tr("many") : locale.toString(corners));
    if (!view_.stroking()) {
        const int rectangles = session_.derived().rectangleCount(level);
        rectangles_->setText(rectangles < 0 ? tr("many") : locale.toString(rectangles));
    }
    oneWay_->setText(locale.toString(static_cast<int>(outline::one_way_edges(trace).size())));
    const walk::Reach* reach = view_.reach().reach();
    reached_->setVisible(reach != nullptr);
    if (reach)
        reach_->setText(tr("%1 of %2")
                            .arg(locale.toString(static_cast<qlonglong>(reach->reachable())),
                                 locale.toString(static_cast<qlonglong>(reach->standable()))));
    bool solid = false;
    for (const level::LayerRef& l : level.layers) solid = solid || (l->tiles() && l->solid());
    hint_->setText(
        !solid ? tr("No layer blocks yet. Open a tile layer in the Section and tick “Its tiles block the walker”.")
        : trace.shape_count() == 0 ? tr("The layers that block have no tiles with a shape. Give tiles a shape in Cut.")
                                   : QString());
    hint_->setVisible(!hint_->text().isEmpty());
}

} // namespace vic::app
