#include "app/bound/bound_panel.hpp"

#include <QFileDialog>
#include <QFrame>
#include <QHBoxLayout>
#include <QHideEvent>
#include <QLabel>
#include <QLocale>
#include <QScrollArea>
#include <QSizePolicy>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <exception>
#include <utility>
#include <vector>

#include "app/bound/blocker_list.hpp"
#include "app/bound/decided_menu.hpp"
#include "app/bound/leak_list.hpp"
#include "app/bound/movers_grid.hpp"
#include "app/bound/save_drawing.hpp"
#include "app/bound/snag_list.hpp"
#include "app/bound/used_list.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "app/view/level_view.hpp"
#include "level/level.hpp"
#include "outline/trace.hpp"

namespace vic::app {

BoundPanel::BoundPanel(Session& session, LevelView& view, QWidget* parent)
    : QWidget(parent), session_(session), view_(view) {
    setObjectName("boundPanel");
    // Higher than most windows where much is to be told.
    auto* outer = new QVBoxLayout(this);
    outer->setContentsMargins(0, 0, 0, 0);
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    outer->addWidget(scroll);
    auto* inside = new QWidget(scroll);
    scroll->setWidget(inside);
    auto* column = panelColumn(inside);
    used_ = new UsedList(session_, view_, this);
    column->addWidget(used_, 1);
    auto* decided = new DecidedMenu(session_, view_, this);
    connect(decided, &DecidedMenu::wanted, used_, &UsedList::choose);
    column->addSpacing(6);
    leaks_ = new LeakList(session_, view_, this);
    column->addWidget(leaks_);
    snags_ = new SnagList(session_, view_, this);
    column->addWidget(snags_);
    column->addSpacing(6);
    addHeading(column, tr("Merged"), &aside_);
    aside_->setText(tr("live"));
    column->addSpacing(2);
    buildShown(column);
    shapes_ = addFigure(column, tr("shapes in"), "shapesIn");
    outlines_ = addFigure(column, tr("outlines"), "outlinesOut");
    corners_ = addFigure(column, tr("corners"), "cornersOut");
    rectangles_ = addFigure(column, tr("or rectangles, the fewest"), "rectanglesOut");
    parts_ = addFigure(column, tr("or convex parts"), "partsOut");
    saved_ = addFigure(column, tr("saved by merging"), "savedOut");
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
    blockers_ = new BlockerList(session_, view_, this);
    column->addWidget(blockers_);
    movers_ = new MoversGrid(session_, this);
    column->addWidget(movers_);
    connect(&view_.reach(), &ReachLens::reachedAnew, this, [this] {
        if (isVisible()) refresh();
    });
    connect(&view_, &LevelView::shownChanged, this, [this] {
        if (isVisible()) refresh();
    });
}

// What is seen, one key each, and the way out as a file.
void BoundPanel::buildShown(QVBoxLayout* column) {
    auto* row = new QHBoxLayout;
    row->setSpacing(4);
    using Bounds = LevelView::Bounds;
    struct Way {
        const char* id;
        QString name, key, help;
        Bounds shown;
    };
    const Way all[] = {{"boundsSection", tr("section"), "Alt+1", tr("What blocks alone"), Bounds::section},
                       {"boundsArt", tr("art"), "Alt+2", tr("The art alone"), Bounds::art},
                       {"boundsBoth", tr("both"), "Alt+3", tr("What blocks over the art"), Bounds::both}};
    const auto add = [&](const char* id, const QString& name, const QString& key, const QString& help) {
        auto* b = toolButton(this, id, {}, name, {}, "card");
        b->setCheckable(true);
        b->setStyleSheet("padding: 5px 2px;");
        b->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
        describe(b, name, key, help);
        row->addWidget(b, 1);
        return b;
    };
    std::vector<std::pair<QToolButton*, Bounds>> ways;
    for (const Way& w : all) {
        ways.emplace_back(add(w.id, w.name, w.key, w.help), w.shown);
        connect(ways.back().first, &QToolButton::clicked, this, [this, shown = w.shown] { view_.setBounds(shown); });
    }
    auto* before = add("boundsUnmerged", tr("before"), "Alt+4",
                       tr("A box or shape for each cell, as it was before merging; and back"));
    connect(before, &QToolButton::clicked, this, [this](bool on) { view_.setUnmerged(on); });
    column->addLayout(row);
    const auto mark = [this, ways, before] {
        for (const auto& [button, shown] : ways) button->setChecked(view_.bounds() == shown);
        before->setChecked(view_.showsUnmerged());
    };
    connect(&view_, &LevelView::boundsChanged, this, mark);
    mark();
    auto* save = toolButton(this, "boundsSave", {}, tr("save the drawing…"), {}, "link");
    describe(save, tr("Save the drawing"), {}, tr("What is seen of these, as SVG or PNG"));
    connect(save, &QToolButton::clicked, this, [this] {
        const QString file = QFileDialog::getSaveFileName(this, tr("Save the drawing"),
                                                          QString::fromStdString(session_.level()->id + ".svg"),
                                                          tr("Drawings (*.svg);;Pictures (*.png)"));
        if (file.isEmpty()) return;
        try {
            saveDrawing(session_, view_.bounds(), file);
            emit session_.said(tr("Saved as %1").arg(file), false);
        } catch (const std::exception& e) {
            emit session_.said(translated(e), true);
        }
    });
    column->addWidget(save, 0, Qt::AlignLeft);
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
        snags_->refresh();
        movers_->refresh();
        blockers_->refresh();
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
        const int parts = session_.derived().partCount(level);
        parts_->setText(parts < 0 ? tr("many") : locale.toString(parts));
        const int shapes = trace.shape_count();
        saved_->setText(shapes > 0 && outlines >= 0
                            ? tr("%1 %").arg(std::max(0.0, 100.0 * (shapes - outlines) / shapes), 0, 'f', 0)
                            : tr("nothing"));
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
