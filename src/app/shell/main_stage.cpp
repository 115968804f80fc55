// What the window shows in each stage.
#include <QSplitter>
#include <QStackedWidget>
#include <QWidget>
#include <utility>

#include "app/sheet/sheet_view.hpp"
#include "app/shell/main_window.hpp"
#include "app/solid/solid_switch.hpp"
#include "app/walk/upright_fields.hpp"
#include "player/parcel_view.hpp"

namespace vic::app {

bool MainWindow::walksInHeight() const {
    return session_.stage() == Stage::walk && session_.level() && toolRow_->solid().looks() != SolidSwitch::Look::plan;
}

void MainWindow::refreshStage() {
    const Stage stage = session_.stage();
    const bool level = showsLevel(stage);
    if (stage != Stage::walk) before_ = level ? stage : Stage::lay;
    left_->setCurrentIndex(stage == Stage::cut ? 1 : stage == Stage::join ? 2 : 0);
    // As one looks at the level, so one walks in it.
    const bool inHeight = walksInHeight();
    QWidget* const walks = inHeight ? static_cast<QWidget*>(levelView_) : walk_;
    QWidget* centres[kStages] = {cut_, join_, levelView_, levelView_, levelView_, walks, handOver_};
    centre_->setCurrentWidget(centres[static_cast<int>(stage)]);
    toolRow_->setVisible(level && !quiet_);
    toolRow_->refreshStage();
    if (stage != Stage::lay) plan_->leave();
    right_->setCurrentIndex(stage == Stage::cut     ? 1
                            : stage == Stage::join  ? 2
                            : stage == Stage::bound ? 3
                            : inHeight              ? 6
                            : stage == Stage::walk  ? 4
                            : plan_->active()       ? 5
                                                    : 0);
    for (QWidget* side : {left_, right_}) side->setVisible(stage != Stage::handOver && !quiet_);
    if (stage == Stage::walk && !inHeight)
        walk_->enter();
    else
        walk_->leave();
    toolRow_->solid().setWalking(inHeight, std::exchange(walkFrom_, std::nullopt));
    focusCentre();
    refresh();
}

void MainWindow::refreshStagePanels() {
    switch (session_.stage()) {
        case Stage::cut: {
            sheetList_->refresh();
            cut_->refresh();
            const bool islands = cut_->view()->mode() == SheetView::Mode::islands;
            cutSide_->setCurrentIndex(islands ? 1 : 0);
            if (islands)
                kindPanel_->refresh();
            else
                tilePanel_->refresh();
            break;
        }
        case Stage::join:
            materialList_->refresh();
            join_->refresh();
            casePanel_->refresh();
            break;
        case Stage::handOver:
            handOver_->refresh();
            break;
        case Stage::walk:
            walksInHeight() ? heightPanel_->refresh() : walkPanel_->refresh();
            break;
        case Stage::bound:
            boundPanel_->refresh();
            [[fallthrough]];
        case Stage::lay:
        case Stage::dress:
            tray_->refresh();
            refreshDressed();
    }
}

void MainWindow::focusCentre() {
    switch (session_.stage()) {
        case Stage::cut:
            return cut_->view()->setFocus();
        case Stage::walk:
            return walksInHeight() ? levelView_->setFocus() : walk_->view()->setFocus();
        case Stage::join:
        case Stage::handOver:
            return centralWidget()->setFocus();
        case Stage::lay:
        case Stage::dress:
        case Stage::bound:
            return levelView_->setFocus();
    }
}

} // namespace vic::app
