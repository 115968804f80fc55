// Of two readings that are nearly as good, both as painted patches side by side, so that nothing is painted inside out
// unseen.
#pragma once

#include <QWidget>
#include <memory>
#include <set>
#include <tuple>
#include <vector>

#include "app/session/memo.hpp"
#include "app/session/session.hpp"
#include "level/project.hpp"

class QToolButton;

namespace vic::app {

class TwoWays : public QWidget {
    Q_OBJECT
  public:
    TwoWays(Session& session, QWidget* parent);
    // Whether the chosen material can be read another way, and the designer has not said yet that it is right.
    [[nodiscard]] bool open() const;
    void refresh();

  signals:
    void otherWanted();
    void settled(); // it is right as it is

  private:
    [[nodiscard]] level::Project otherProject() const; // with the chosen material read the other way
    Session& session_;
    QToolButton* now_;
    QToolButton* other_;
    std::set<level::MaterialId> right_; // as they are read: the designer has said so
    using Key = std::tuple<MaterialRef, std::vector<SheetRef>, JoinReadings::Reading>;
    Memo<Key, bool> shownFor_;
};

} // namespace vic::app
