// The keys of the commands: as the program has them, and as the designer changed them.
#pragma once

#include <QAction>
#include <QKeySequence>
#include <QString>
#include <QStringList>
#include <map>
#include <vector>

namespace vic::app {

// Where a command can be given: also without a project, with one, or in some of its stages.
// `level`: Lay, Dress and Bound; `lay`: of these, where cells are laid.
enum class Where { always, everywhere, level, lay, dress, bound, cut, join };

class Keys {
  public:
    // The key that the action has now is its usual one; a changed one is taken from the settings.
    void add(QAction* action, Where where);
    [[nodiscard]] const std::vector<QAction*>& actions() const { return actions_; }
    [[nodiscard]] static Where where(const QAction* action);
    [[nodiscard]] QKeySequence usual(const QAction* action) const;
    // The command that has the key where this one can be given, too; null where none has.
    [[nodiscard]] QAction* holder(const QKeySequence& key, const QAction* of) const;
    // Kept in the settings. Whoever has it where this command can be given loses it.
    void set(QAction* action, const QKeySequence& key);
    void reset(QAction* action);
    void resetAll();
    [[nodiscard]] bool changed(const QAction* action) const;
    // Letters, with and without Shift, that no command has there.
    [[nodiscard]] QStringList freeLetters(Where where) const;
    // A tool tip with the keys as they are now, where it tells a usual one.
    [[nodiscard]] QString current(const QString& tip, const QString& usual) const;

  private:
    void keep(const QAction* action) const;
    std::vector<QAction*> actions_;
    std::map<const QAction*, QKeySequence> usual_;
};

} // namespace vic::app
