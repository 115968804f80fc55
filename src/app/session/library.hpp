// The pictures of the project: added, replaced, watched on the disk, lost and found again; and the plans that levels
// follow. Reading runs in the background.
#pragma once

#include <QFileSystemWatcher>
#include <QObject>
#include <QString>
#include <QTimer>
#include <functional>
#include <map>
#include <memory>
#include <set>
#include <string>
#include <tuple>
#include <vector>

#include "app/session/memo.hpp"
#include "base/files.hpp"
#include "base/geometry.hpp"
#include "base/image.hpp"
#include "edit/document.hpp"
#include "edit/kits.hpp"
#include "edit/plans.hpp"
#include "level/plan.hpp"
#include "level/sheet.hpp"

namespace vic::level {
struct Plan;
} // namespace vic::level

namespace vic::app {

class Session;

// A picture of a pack that is wanted.
struct Chosen {
    QString file;
    bool sheet = false; // it becomes a sheet of its own; others go onto one together
    level::Credits credits;
};

// A kit as it was read, to be taken.
struct ChosenKit {
    QString path; // a file or a folder
    QString name;
    std::shared_ptr<const kit::KitFile> file;
    kit::KitReading read;
    int side = 32; // pixels of a cell in its pictures
    std::vector<edit::KitMaterial> materials;
};

class Library : public QObject {
    Q_OBJECT
  public:
    explicit Library(Session& session);
    void opened();      // another project is open
    void closed();      // none is
    void followPlans(); // whose pictures have changed on disk

    // Adds a picture from anywhere as a sheet with the cut as read; goes to Cut with it. What goes wrong is said.
    void addPicture(const QString& file, const level::Credits& credits = {});
    // All PNG pictures of a folder as one sheet: its tiles where they are squares of one size, else each a prop. A
    // folder that was added before brings its sheet up to date. What goes wrong is said.
    void addFolder(const QString& dir);
    // Pictures that were dropped at once: tiles of one sheet where they are squares of one size, else a sheet each.
    void addPictures(const QStringList& files);
    // Those of a pack: a sheet each for what has several tiles, and one of the pack's name for the rest.
    void addChosen(const QString& title, const std::vector<Chosen>& chosen);
    // A sheet of the kit's pieces, and materials; its files are copied into the project. Goes to Join where there are
    // materials, else to Cut. What goes wrong is said.
    void addKit(const ChosenKit& kit);
    // Another picture for the sheet, with everything kept that the new one has room for. What goes wrong is said.
    void replacePicture(level::SheetId sheet, const QString& file);
    // Gives back the pictures of all sheets whose file is gone, from a folder that holds them under their old names;
    // the file itself serves for `sheet`. What goes wrong later is said; throws InputError where a link is in the way.
    void findAgain(level::SheetId sheet, const QString& file);
    // Writes the picture of a sheet whose file has vanished back from memory. Throws like findAgain().
    void putBack(level::SheetId sheet);
    // Whether the sheet's file has vanished since it was read.
    [[nodiscard]] bool fileGone(level::SheetId sheet) const { return gone_.contains(sheet); }
    // Before a save: a sheet that shows an earlier picture than its file has gets a file of its own. Throws InputError.
    void keepEarlierPictures();

    // What laying the chosen level after a plan with this picture comes to; told when it is worked out, unless another
    // is asked for before.
    using PlanDone = std::function<void(const edit::Followed&)>;
    void plan(const level::Plan& plan, std::shared_ptr<const Image> picture, PlanDone done);
    // Lays it, and keeps the plan as what the level follows; cells that were changed by hand since are listed in
    // planKept().
    void layPlan(const level::Plan& plan, std::shared_ptr<const Image> picture);
    // Copies a picture from anywhere into the project's plans; returns its relative path. Throws InputError.
    QString adoptPlan(const QString& file);
    [[nodiscard]] const std::vector<Point>& planKept() const { return planKept_; }

  private:
    // What a look at the disk found of a sheet's file.
    struct Seen {
        level::SheetId sheet = 0;
        std::string file; // that was looked at; the sheet may have another by now
        bool there = false;
        std::shared_ptr<const Image> image; // null where it could not be read
        QString trouble;
    };
    void pack(const QString& name, const QString& where, const QStringList& files, bool known,
              const level::Credits& credits = {});
    void watch();
    void lookAtKits(); // those whose files have changed are read again
    // Relative to the project: the files that lie in the kit's folder, or beside its file; and what they look like.
    [[nodiscard]] std::vector<std::string> kitFiles(const level::Sheet& sheet) const;
    [[nodiscard]] std::string kitSign(const level::Sheet& sheet) const;
    void look();
    void take(const std::vector<Seen>& seen);
    [[nodiscard]] QString freeFile(const QString& folder, const std::string& stem, int first) const;
    [[nodiscard]] fs::path pathOf(const std::string& relative) const;
    // The same for what is to be read or written: throws InputError where a link would lead away.
    [[nodiscard]] fs::path ownPath(const std::string& relative) const;

    Session& session_;
    QFileSystemWatcher watcher_;
    QTimer watchTimer_;
    std::set<level::SheetId> gone_;
    std::map<level::SheetId, std::string> kitsOnDisk_;           // what their files looked like: sizes and times
    std::map<std::string, std::shared_ptr<const Image>> onDisk_; // by relative file, as last read or written
    std::vector<Point> planKept_;
    Memo<std::tuple<edit::ProjectState, std::string, level::Plan>, edit::Followed> planned_;
};

} // namespace vic::app
