// Changes after which cells are joined anew, in every level: at once where the project is small, else in the
// background.
#pragma once

#include <QString>
#include <deque>
#include <functional>
#include <string>

#include "level/project.hpp"

namespace vic::app {

class Session;

struct JoinedChange {
    QString name; // of the step in the history
    // Works on a thread of its own, on the project as it is then, perhaps more than once: it may not look at anything
    // else that changes.
    std::function<level::Project(level::Project)> change;
    std::string merge;          // as in Session::apply()
    std::function<void()> then; // when it is done, on the window's thread
};

class JoinedChanges {
  public:
    explicit JoinedChanges(Session& session) : session_(session) {}

    // One step of history each, in the order in which they were asked for. Where one goes on working meanwhile it is
    // worked out again on what there is then; where the job is stopped, nothing has changed.
    void apply(JoinedChange change);

  private:
    void work();
    Session& session_;
    std::deque<JoinedChange> waiting_; // the first is at work
};

} // namespace vic::app
