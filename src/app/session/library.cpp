#include "app/session/library.hpp"

#include <QDir>
#include <QFileInfo>
#include <QImageReader>
#include <QSize>
#include <QStringList>
#include <algorithm>
#include <exception>
#include <utility>

#include "app/parts/translated.hpp"
#include "app/parts/watch_paths.hpp"
#include "app/session/choice.hpp"
#include "app/session/jobs.hpp"
#include "app/session/session.hpp"
#include "base/error.hpp"
#include "base/files.hpp"
#include "base/text.hpp"
#include "edit/props.hpp"
#include "edit/replace.hpp"
#include "edit/sheets.hpp"
#include "edit/templates.hpp"
#include "join/read_sheet.hpp"
#include "level/project.hpp"
#include "sheet/pack.hpp"
#include "sheet/png.hpp"
#include "sheet/read_cut.hpp"
#include "store/project_files.hpp"

namespace vic::app {

namespace {

QString nameOf(const level::Sheet& s) { return QString::fromStdString(s.name); }

// A picture that came from elsewhere.
struct Adopted {
    std::string file; // relative to the project
    std::shared_ptr<const Image> image;
    sheet::SheetReading reading;
};

struct Packed {
    std::shared_ptr<const Image> image;
    std::vector<level::Part> parts;
    edit::FolderAs as = edit::FolderAs::props;
};

QStringList picturesOf(const QString& dir) {
    QStringList out;
    for (const QFileInfo& file : QDir(dir).entryInfoList({"*.png", "*.PNG"}, QDir::Files, QDir::Name))
        out << file.filePath();
    return out;
}

// The pictures as one; `known` is the sheet that they were packed into before.
Packed packed(const QStringList& files, const QString& where, const fs::path& target,
              const std::shared_ptr<const level::Sheet>& known) {
    if (files.isEmpty())
        throw InputError("There are no PNG pictures in the folder", where.toStdString(), "",
                         "Drop a folder with pictures, or one that holds project.json");
    std::vector<sheet::NamedPicture> pictures;
    for (const QString& file : files)
        pictures.push_back({QFileInfo(file).completeBaseName().toStdString(), sheet::read_png(file.toStdString())});
    const std::vector<level::Part> before = known ? known->parts : std::vector<level::Part>();
    const bool even =
        sheet::are_even(pictures) &&
        (!known || (sheet::are_even(before) && before.front().box.size() == pictures.front().image.size()));
    auto all = even ? sheet::pack_even(pictures, before, known ? *known->image : Image())
                    : sheet::pack_pictures(pictures, before, known ? *known->image : Image());
    if (!all)
        throw InputError("The pictures are too large for one sheet", where.toStdString(), "",
                         say("Drop them in smaller folders; a sheet has at most %1 pixels a side", sheet::kMostSide));
    std::error_code trouble;
    fs::create_directories(target.parent_path(), trouble);
    write_file(target, sheet::encode_png(all->image));
    const bool tiles = even && (!known || edit::folder_is(*known) == edit::FolderAs::tiles);
    return {std::make_shared<const Image>(std::move(all->image)), std::move(all->parts),
            tiles ? edit::FolderAs::tiles : edit::FolderAs::props};
}

// Whose a sheet is, where nothing is said of it yet.
void credit(level::Project& project, level::SheetId id, const level::Credits& credits) {
    const level::Sheet* sheet = project.sheet(id);
    if (!sheet || !sheet->credits.empty() || credits.empty()) return;
    level::Sheet changed = *sheet;
    changed.credits = credits;
    project.put(std::move(changed));
}

} // namespace

Library::Library(Session& session) : session_(session) {
    watchTimer_.setSingleShot(true);
    watchTimer_.setInterval(250); // programs write in several steps
    connect(&watchTimer_, &QTimer::timeout, this, &Library::look);
    connect(&watcher_, &QFileSystemWatcher::fileChanged, &watchTimer_, qOverload<>(&QTimer::start));
    connect(&watcher_, &QFileSystemWatcher::directoryChanged, &watchTimer_, qOverload<>(&QTimer::start));
}

void Library::opened() {
    gone_.clear();
    onDisk_.clear();
    planKept_.clear();
    for (const auto& s : session_.project().sheets)
        if (s->image) onDisk_[s->file] = s->image;
    kitsOnDisk_.clear();
    for (const auto& s : session_.project().sheets)
        if (s->kit) kitsOnDisk_[s->id] = kitSign(*s);
    watch();
}

void Library::closed() {
    gone_.clear();
    onDisk_.clear();
    planKept_.clear();
    const QStringList watched = watcher_.files() + watcher_.directories();
    if (!watched.isEmpty()) watcher_.removePaths(watched);
}

fs::path Library::pathOf(const std::string& relative) const { return session_.document().dir() / relative; }

fs::path Library::ownPath(const std::string& relative) const {
    return inside(session_.document().dir(), relative, (session_.document().dir() / "project.json").string(), "");
}

// "folder/stem.png", or with the first number, from `first` on, that no file has.
QString Library::freeFile(const QString& folder, const std::string& stem, int first) const {
    for (int n = first;; ++n) {
        const std::string name = folder.toStdString() + "/" + stem + (n == 1 ? "" : "-" + std::to_string(n)) + ".png";
        std::error_code trouble;
        if (!fs::exists(fs::symlink_status(pathOf(name), trouble))) return QString::fromStdString(name);
    }
}

void Library::addPicture(const QString& file, const level::Credits& credits) {
    const auto read = [dir = session_.document().dir(), path = fs::path(file.toStdString())](Jobs::Progress&) {
        Adopted out;
        out.image = std::make_shared<const Image>(sheet::read_png(path));
        out.file = store::adopt_picture(dir, path);
        out.reading = join::read_sheet(*out.image);
        return out;
    };
    const auto add = [this, file, credits](Adopted& a) {
        for (const auto& s : session_.project().sheets) {
            if (s->file != a.file) continue;
            // The very same picture: one sheet is enough, and two would quarrel over its cut.
            session_.setSheet(s->id);
            session_.setStage(Stage::cut);
            emit session_.said(tr("This picture is the sheet %1 already").arg(nameOf(*s)), true);
            return;
        }
        // What is not read as tiles waits as one picture.
        const bool tiles = a.reading.best && a.reading.what.best.what == sheet::What::tiles;
        level::Cut cut = tiles ? a.reading.best->cut : level::Cut{a.image->size(), {}, {}, 1};
        const auto drawn = edit::template_cells(session_.project(), a.image->size());
        if (drawn) cut = {*drawn, {}, {}, 1};
        level::SheetId id = 0;
        const std::string name =
            edit::free_sheet_name(session_.project(), QFileInfo(file).completeBaseName().toStdString());
        level::Project next =
            edit::add_sheet(session_.project(), a.file, Image(*a.image), name, cut, drawn.has_value(), id);
        credit(next, id, credits);
        const auto image = next.sheet(id)->image;
        session_.derived().take(id, image, std::move(a.reading));
        onDisk_[a.file] = image;
        session_.apply(tr("Add the sheet %1").arg(QString::fromStdString(name)), std::move(next));
        watch();
        session_.setSheet(id);
        session_.setStage(Stage::cut);
    };
    session_.jobs().start<Adopted>("picture-" + file, tr("Reading %1").arg(QFileInfo(file).fileName()), read, add,
                                   session_.complain());
}

void Library::addFolder(const QString& dir) { pack(QFileInfo(dir).fileName(), dir, picturesOf(dir), true); }

void Library::addPictures(const QStringList& files) {
    const auto each = [this, files] {
        for (const QString& file : files) addPicture(file);
    };
    if (files.size() < 2) return each();
    // Their sizes say whether they belong together.
    std::vector<Size> sizes;
    for (const QString& file : files) {
        const QSize size = QImageReader(file).size();
        sizes.push_back({size.width(), size.height()});
    }
    const bool even = sizes.front().w > 0 && sizes.front().w == sizes.front().h &&
                      sizes.front().w <= sheet::kMostEven &&
                      std::all_of(sizes.begin(), sizes.end(), [&](Size s) { return s == sizes.front(); });
    if (!even) return each();
    const QFileInfo first(files.front());
    pack(first.dir().dirName(), first.path(), files, false);
}

void Library::addChosen(const QString& title, const std::vector<Chosen>& chosen) {
    QStringList together;
    level::Credits credits;
    for (const Chosen& c : chosen) {
        if (c.sheet) continue;
        together << c.file;
        if (credits.empty()) credits = c.credits;
    }
    for (const Chosen& c : chosen)
        if (c.sheet) addPicture(c.file, c.credits);
    if (together.size() == 1)
        addPicture(together.front(), credits);
    else if (!together.isEmpty())
        pack(title, QFileInfo(together.front()).path(), together, false, credits);
}

// `known`: a sheet of the name that was packed before is brought up to date.
void Library::pack(const QString& title, const QString& where, const QStringList& files, bool known,
                   const level::Credits& credits) {
    const std::string name = title.toStdString();
    std::shared_ptr<const level::Sheet> before;
    for (const auto& s : session_.project().sheets)
        if (known && s->name == name && !s->parts.empty() && s->image) before = s;
    // The sheet's file is new each time, so that the state before can be brought back.
    const std::string file = freeFile("sheets", slug(name, "pictures"), 1).toStdString();
    const auto work = [files, where, target = ownPath(file), before](Jobs::Progress&) {
        return packed(files, where, target, before);
    };
    const auto add = [this, title, name, file, credits, id = before ? before->id : 0](Packed& p) {
        onDisk_[file] = p.image;
        edit::PutFolder put = edit::put_folder(session_.project(), id, name, file, p.image, p.parts, p.as);
        credit(put.project, put.sheet, credits);
        session_.apply(id ? tr("Bring %1 up to date").arg(title) : tr("Add the folder %1").arg(title),
                       std::move(put.project));
        watch();
        session_.setSheet(put.sheet);
        session_.setTiles({});
        session_.setStage(Stage::cut);
        const QString said = p.as == edit::FolderAs::tiles ? tr("%1: %2 pictures, %3 new tiles of one sheet")
                                                           : tr("%1: %2 pictures, %3 new props");
        emit session_.said(said.arg(title).arg(p.parts.size()).arg(put.fresh), false);
    };
    session_.jobs().start<Packed>("folder-" + where, tr("Reading %1").arg(title), work, add, session_.complain());
}

void Library::replacePicture(level::SheetId id, const QString& file) {
    const level::Sheet* s = session_.project().sheet(id);
    if (!s) return;
    const auto read = [dir = session_.document().dir(), path = fs::path(file.toStdString())](Jobs::Progress&) {
        Adopted out;
        out.image = std::make_shared<const Image>(sheet::read_png(path));
        out.file = store::adopt_picture(dir, path);
        return out;
    };
    const auto put = [this, id](Adopted& a) {
        const level::Sheet* now = session_.project().sheet(id);
        if (!now) return;
        onDisk_[a.file] = a.image;
        session_.propose(tr("Replace the picture of %1").arg(nameOf(*now)),
                         edit::replace_image(session_.project(), id, a.image, a.file));
        watch();
    };
    session_.jobs().start<Adopted>("picture-" + file, tr("Reading %1").arg(QFileInfo(file).fileName()), read, put,
                                   session_.complain());
}

void Library::watch() {
    QStringList paths;
    const auto add = [&](const std::string& relative) {
        const QString file = QString::fromStdString(pathOf(relative).string());
        if (QFileInfo::exists(file) && !paths.contains(file)) paths << file;
        // The folder tells of files that come back.
        if (const QString dir = QFileInfo(file).path(); QFileInfo::exists(dir) && !paths.contains(dir)) paths << dir;
    };
    for (const auto& s : session_.project().sheets)
        if (!s->derived()) add(s->file); // the picture of the others follows from these
    for (const auto& l : session_.project().levels)
        if (l->plan) add(l->plan->file);
    for (const auto& s : session_.project().sheets)
        if (s->kit) {
            add(s->kit->file);
            for (const std::string& file : kitFiles(*s)) add(file);
        }
    watchOnly(watcher_, paths);
}

void Library::look() {
    if (!session_.isOpen()) return;
    lookAtKits();
    std::vector<std::pair<level::SheetId, std::string>> files;
    for (const auto& s : session_.project().sheets)
        if (!s->derived()) files.emplace_back(s->id, s->file);
    const auto read = [dir = session_.document().dir(), files](Jobs::Progress& progress) {
        std::vector<Seen> out;
        for (const auto& [id, file] : files) {
            if (progress.stopped()) break;
            Seen seen{id, file, false, nullptr, {}};
            std::error_code trouble;
            seen.there = fs::exists(fs::symlink_status(dir / file, trouble));
            try {
                const fs::path path = inside(dir, file, dir.string(), "");
                if (seen.there) seen.image = std::make_shared<const Image>(sheet::read_png(path));
            } catch (const std::exception& e) {
                // Half written, perhaps: the next change tells. The picture in memory stays.
                seen.trouble = translated(e);
            }
            out.push_back(std::move(seen));
        }
        return out;
    };
    session_.jobs().start<std::vector<Seen>>(
        "watch", {}, read, [this](std::vector<Seen>& seen) { take(seen); }, session_.complain());
}

void Library::take(const std::vector<Seen>& all) {
    std::set<level::SheetId> gone;
    for (const Seen& seen : all) {
        const level::Sheet* sheet = session_.project().sheet(seen.sheet);
        if (!sheet || sheet->file != seen.file) continue;
        if (!seen.there) {
            gone.insert(seen.sheet);
            if (!gone_.contains(seen.sheet) && sheet->image)
                emit session_.said(
                    tr("The file of %1 is gone from the disk; its picture is kept in memory").arg(nameOf(*sheet)),
                    true);
            continue;
        }
        if (!seen.image) {
            emit session_.said(seen.trouble, true);
            continue;
        }
        auto& known = onDisk_[sheet->file];
        if (known && *known == *seen.image) continue;
        known = seen.image;
        if (sheet->image && *sheet->image == *seen.image) continue;
        const QString name = nameOf(*sheet);
        session_.propose(tr("%1 has changed on the disk").arg(name),
                         edit::replace_image(session_.project(), seen.sheet, seen.image, sheet->file));
        if (!session_.waiting())
            emit session_.said(tr("%1 has changed on the disk and was read again").arg(name), false);
    }
    gone_ = std::move(gone);
    followPlans();
    watch();
    emit session_.changed();
}

void Library::findAgain(level::SheetId id, const QString& file) {
    struct Lost {
        level::SheetId sheet;
        std::string file; // of the project
        fs::path from, target;
        std::shared_ptr<const Image> image = nullptr;
    };
    const QDir folder = QFileInfo(file).dir();
    std::vector<Lost> lost;
    for (const auto& slot : session_.project().sheets) {
        const fs::path target = ownPath(slot->file);
        std::error_code trouble;
        if (slot->derived() || (slot->image && fs::exists(target, trouble))) continue;
        const QString name = QString::fromStdString(fs::path(slot->file).filename().string());
        const QString from = slot->id == id ? file : folder.filePath(name);
        if (QFileInfo::exists(from)) lost.push_back({slot->id, slot->file, from.toStdString(), target});
    }
    if (lost.empty()) return emit session_.said(tr("None of the pictures lies there"), true);
    session_.jobs().start<std::vector<Lost>>(
        "find again", tr("Reading pictures"),
        [lost](Jobs::Progress& progress) {
            std::vector<Lost> found;
            for (Lost one : lost) {
                if (progress.stopped()) break;
                const std::string bytes = read_file(one.from);
                one.image = std::make_shared<const Image>(sheet::decode_png(bytes, one.from.string()));
                std::error_code trouble;
                fs::create_directories(one.target.parent_path(), trouble);
                write_file(one.target, bytes);
                found.push_back(std::move(one));
            }
            return found;
        },
        [this](std::vector<Lost>& found) {
            level::Project next = session_.project();
            for (const Lost& one : found) {
                if (!next.sheet(one.sheet)) continue;
                onDisk_[one.file] = one.image;
                next = edit::replace_image(std::move(next), one.sheet, one.image, one.file);
                gone_.erase(one.sheet);
            }
            session_.propose(tr("Find pictures again"), std::move(next));
            watch();
            emit session_.said(translated(say_count(static_cast<std::int64_t>(found.size()), "One picture found again",
                                                    "%n pictures found again")),
                               false);
            emit session_.changed();
        },
        session_.complain());
}

void Library::putBack(level::SheetId id) {
    const level::Sheet* s = session_.project().sheet(id);
    if (!s || !s->image) return;
    const fs::path target = ownPath(s->file);
    session_.jobs().start(
        "put back", tr("Writing the picture"),
        [target, image = s->image](Jobs::Progress&) {
            std::error_code trouble;
            fs::create_directories(target.parent_path(), trouble);
            write_file(target, sheet::encode_png(*image));
        },
        [this, id, file = s->file, image = s->image, name = nameOf(*s)] {
            onDisk_[file] = image;
            gone_.erase(id);
            watch();
            emit session_.said(tr("The picture of %1 is on the disk again").arg(name), false);
            emit session_.changed();
        },
        session_.complain());
}

// After an undo a sheet may show an earlier picture than its file has. What is saved has to show the same when it is
// opened again, and the newer file is not ours to overwrite.
void Library::keepEarlierPictures() {
    level::Project next = session_.project();
    bool any = false;
    for (const auto& slot : session_.project().sheets) {
        const auto known = onDisk_.find(slot->file);
        if (slot->derived() || !slot->image || known == onDisk_.end() || known->second == slot->image ||
            *known->second == *slot->image)
            continue;
        const fs::path was(slot->file);
        const std::string file =
            freeFile(QString::fromStdString(was.parent_path().string()), was.stem().string(), 2).toStdString();
        std::error_code trouble;
        fs::create_directories(ownPath(file).parent_path(), trouble);
        write_file(ownPath(file), sheet::encode_png(*slot->image));
        level::Sheet changed = *slot;
        changed.file = file;
        onDisk_[file] = slot->image;
        next.put(std::move(changed));
        any = true;
    }
    if (!any) return;
    session_.apply(tr("Keep the earlier picture in a file of its own"), std::move(next));
    watch();
}

} // namespace vic::app
