// Art in the Hand that is not of the size of the level's cells: the ways to settle that, as cards above the level, each
// with a picture of what comes of it.
#pragma once

#include <QString>
#include <QWidget>
#include <optional>
#include <vector>

#include "edit/clash.hpp"

class QHBoxLayout;
class QLabel;

namespace vic::app {

class Session;

class SizeClash : public QWidget {
    Q_OBJECT
  public:
    SizeClash(Session& session, QWidget* parent);
    void refresh();
    [[nodiscard]] bool open() const { return isVisibleTo(parentWidget()); }
    void takeFirst();
    void later(); // until something of another sheet is in the Hand
    // What would become of the Hand's art here; empty where it is as large as the cells.
    [[nodiscard]] QString reading() const;

  private:
    void fill();
    void settle(edit::Settlement way);
    [[nodiscard]] QString title(edit::Settlement way) const;
    [[nodiscard]] QString under(edit::Settlement way) const;
    [[nodiscard]] QPixmap picture(edit::Settlement way, int side) const;
    [[nodiscard]] QString fate() const;
    Session& session_;
    QLabel* head_;
    QHBoxLayout* cards_;
    std::optional<edit::Clash> clash_;
    std::vector<edit::Settlement> ways_;
    level::SheetId put_off_ = 0;
};

} // namespace vic::app
