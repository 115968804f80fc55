// What Cut does with islands: finds them, tells how many, makes props of them.
#include <QCheckBox>
#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>
#include <QSpinBox>
#include <QString>
#include <cstdint>
#include <memory>
#include <utility>
#include <vector>

#include "app/cut/cut_centre.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "base/text.hpp"
#include "edit/props.hpp"
#include "level/project.hpp"
#include "level/props.hpp"
#include "level/sheet.hpp"
#include "sheet/islands.hpp"
#include "sheet/read_cut.hpp"

namespace vic::app {

void CutCentre::findIslands(bool propose) {
    const level::Sheet* s = session_.sheet();
    if (!s || !s->image) return;
    if (islandsOf_ != s->image) return readIslands();
    if (propose) {
        const QSignalBlocker quietGap(joinGap_);
        const QSignalBlocker quietArea(leastArea_);
        joinGap_->setValue(islandMap_.proposed().join_gap);
        leastArea_->setValue(islandMap_.proposed().least_area);
        const QSignalBlocker quietCells(byCells_);
        byCells_->setChecked(islandMap_.proposed().cells);
    }
    byCells_->setVisible(islandMap_.has_cells());
    joinGap_->setEnabled(!islandSettings().cells);
    islands_ = islandMap_.boxes(islandSettings());
    view_->setIslands(islands_);
    refreshIslands();
}

// In the background: a large picture takes a second. What was found before goes at once.
void CutCentre::readIslands() {
    const std::shared_ptr<const Image> image = session_.sheet()->image;
    islands_.clear();
    view_->setIslands(islands_);
    const bool asked = std::exchange(islandsRead_, image) == image;
    const bool stopped = asked && !session_.jobs().running("islands");
    islandCount_->setText(stopped ? tr("the search was stopped") : tr("the picture is being read"));
    takeIslands_->setText(tr("Find islands"));
    takeIslands_->setEnabled(stopped);
    if (asked) return;
    session_.jobs().start<sheet::IslandMap>(
        "islands", tr("Finding islands"),
        [image](Jobs::Progress&) { return sheet::IslandMap(*image, sheet::cells_read(sheet::read_cut(*image))); },
        [this, image](sheet::IslandMap& map) {
            islandMap_ = std::move(map);
            islandsOf_ = image;
            const level::Sheet* s = session_.isOpen() ? session_.sheet() : nullptr;
            if (s && s->image == image) findIslands(true);
            refresh();
        },
        session_.complain());
}

sheet::IslandSettings CutCentre::islandSettings() const {
    return {joinGap_->value(), leastArea_->value(), islandMap_.has_cells() && byCells_->isChecked()};
}

void CutCentre::refreshIslands() {
    const level::Sheet* s = session_.sheet();
    if (!s) return;
    int fresh = 0;
    for (const Box& b : islands_) {
        fresh += !edit::is_taken(session_.project(), s->id, b);
    }
    const QString islandsFound =
        translated(say_count(static_cast<std::int64_t>(islands_.size()), "one island", "%n islands"));
    const int specks = islandMap_.specks(islandSettings());
    islandCount_->setText(specks
                              ? tr("%1, %2").arg(islandsFound, translated(say_count(specks, "one speck", "%n specks")))
                              : islandsFound);
    takeIslands_->setText(fresh == 0 ? tr("All are props")
                          : fresh == static_cast<int>(islands_.size())
                              ? translated(say_count(fresh, "Make one prop", "Make %n props"))
                              : translated(say_count(fresh, "Make one more prop", "Make %n more props")));
    takeIslands_->setEnabled(fresh > 0);
}

void CutCentre::takeIslands() {
    const level::Sheet* s = session_.sheet();
    if (!s || !s->image) return;
    if (islandsOf_ != s->image) { // they were not found: the search was stopped
        islandsRead_.reset();
        return findIslands(true);
    }
    auto taken = edit::take_islands(session_.project(), s->id, islands_, s->name);
    const auto count = static_cast<int>(taken.added.size());
    if (count == 0) return;
    level::Sheet changed = *taken.project.sheet(s->id);
    changed.accepted = true; // nothing waits for an answer any more
    taken.project.put(std::move(changed));
    session_.apply(translated(say_count(count, "Make one prop", "Make %n props")), std::move(taken.project));
    emit session_.said(translated(say_count(count, "One prop of %1: place it in Dress",
                                            "%n props of %1: place them in Dress", session_.sheet()->name)),
                       false);
}

} // namespace vic::app
