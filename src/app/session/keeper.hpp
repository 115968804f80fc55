// Keeps what is open and what is on the disk together: the journal of what is not saved yet, and what others change in
// the project's files meanwhile.
#pragma once

#include <QFileSystemWatcher>
#include <QObject>
#include <QString>
#include <QThreadPool>
#include <QTimer>
#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "base/presence.hpp"
#include "edit/document.hpp"
#include "edit/outside.hpp"
#include "edit/trail.hpp"
#include "store/journal.hpp"

namespace vic::app {

class Session;

class Keeper : public QObject {
    Q_OBJECT
  public:
    explicit Keeper(Session& session);
    ~Keeper() override; // all that was done is in the journal then

    // Another project is open; `looks`: it is open elsewhere and only looked at here.
    void opened(std::optional<Presence> presence, bool looks);
    void closed(); // none is
    [[nodiscard]] bool looks() const { return looks_; }

    // Steps that an earlier run did not save. Until it is decided what becomes of them nothing else is written.
    struct Left {
        fs::path file;
        store::JournalHead head;
        bool fits = false; // the project's files are still those that they go on from
    };
    [[nodiscard]] const std::optional<Left>& left() const { return left_; }
    void bringBack();                   // as steps of history
    void keepAside();                   // as a keep-point, or where they do not fit, as a file beside the journal
    void letGo() { presence_.reset(); } // the same project is opened anew
    void flush();                       // waits until all that was done is on the disk
    void saved();                       // what is on the disk is what is open, or was when the save began
    void discard();                     // what is not saved is not wanted
    void lookOutside();                 // whether others have changed something; what is untouched here is taken over
    // Both sides have changed: for each conflict what is to stay.
    void settle(const edit::Outside& outside, const std::map<std::string, edit::Keep>& choices);

  signals:
    void conflict(const vic::edit::Outside& outside);

  private:
    // Of the journal that is being written; the worker's.
    struct Pen;
    void told(const edit::Document::Told& told);
    // The journal anew: from what is on the disk to what there is now, along the history (`whole`: all of it) or, after
    // a change that was told, in short.
    void begin(bool whole = false, const edit::Document::Told* in_short = nullptr);
    void write(std::vector<store::JournalStep> steps); // all or none
    void watch();
    [[nodiscard]] static fs::path elsewhere(const fs::path& dir); // where the project cannot be written
    void trouble(const QString& text);

    Session& session_;
    std::optional<Presence> presence_;
    bool looks_ = false;
    std::optional<Left> left_;
    std::shared_ptr<Pen> pen_;
    edit::ProjectState base_; // what is on the disk
    edit::Trail trail_;
    bool told_ = false;            // of a journal that cannot be written
    QThreadPool worker_, flusher_; // one thread each
    QFileSystemWatcher watcher_;
    QTimer lookTimer_;
};

} // namespace vic::app
