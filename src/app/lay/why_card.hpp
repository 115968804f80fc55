// Pointing at a sore spot: beside a cell that looks wrong, its case, why it shows that tile, what else would fit, and
// two ways to mend it: the rule, or this cell alone.
#pragma once

#include <QFrame>
#include <QString>
#include <optional>

#include "base/geometry.hpp"
#include "edit/why.hpp"
#include "level/level.hpp"

class QVBoxLayout;

namespace vic::app {

class LevelView;
class Session;

class WhyCard : public QFrame {
    Q_OBJECT
  public:
    WhyCard(Session& session, LevelView& view);
    // Looks at the cell under the pointer in the background, then opens beside it. Says so where nothing is painted.
    void look();

  protected:
    void hideEvent(QHideEvent*) override; // the cells that would change are no longer outlined

  private:
    void open(level::LayerId layer, Point cell, const edit::Why& why);
    void addHead(QVBoxLayout* column, const level::Layer& layer, const edit::Why& why);
    void addOther(QVBoxLayout* column, int row, const join::Candidate& other);
    [[nodiscard]] QString reason(const edit::Why& why) const;
    [[nodiscard]] QString verdict(const edit::Why& why) const;
    void mend(const level::Variant& variant);
    void pin(const level::Variant& variant);

    Session& session_;
    LevelView& view_;
    QWidget* body_ = nullptr; // of the cell that was looked at last
    level::LayerId layer_ = 0;
    Point cell_;
    edit::Why why_;
};

} // namespace vic::app
