// The pictures of sheets: added, replaced, watched on the disk, lost and found again.

#include <QDir>
#include <QFileInfo>
#include <QString>
#include <QStringList>
#include <memory>
#include <set>
#include <string>
#include <utility>
#include <vector>

#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "base/error.hpp"
#include "base/files.hpp"
#include "base/image.hpp"
#include "base/text.hpp"
#include "edit/props.hpp"
#include "edit/replace.hpp"
#include "edit/sheets.hpp"
#include "level/project.hpp"
#include "level/sheet.hpp"
#include "sheet/pack.hpp"
#include "sheet/png.hpp"
#include "sheet/read_cut.hpp"
#include "store/project_files.hpp"

namespace vic::app {

namespace {
QString nameOf(const level::Sheet& s) { return QString::fromStdString(s.name); }
} // namespace

void Session::addPicture(const QString& file) {
    const fs::path path = file.toStdString();
    Image image = sheet::read_png(path);
    const std::string relative = store::adopt_picture(document_->dir(), path);
    for (const auto& s : project().sheets) {
        if (s->file != relative) continue;
        // The very same picture: one sheet is enough, and two would quarrel over its cut.
        setSheet(s->id);
        setStage(Stage::cut);
        emit said(tr("This picture is the sheet %1 already").arg(nameOf(*s)), true);
        return;
    }
    const sheet::SheetReading read = sheet::read_cut(image);
    const level::Cut cut = read.best ? read.best->cut : level::Cut{image.size(), {}, {}, 1};
    level::SheetId id = 0;
    const std::string name = edit::free_sheet_name(project(), QFileInfo(file).completeBaseName().toStdString());
    level::Project next = edit::add_sheet(project(), relative, std::move(image), name, cut, false, id);
    readings_[id] = {next.sheet(id)->image, read};
    onDisk_[relative] = next.sheet(id)->image;
    sheet_ = id;
    tiles_.clear();
    apply(tr("Add the sheet %1").arg(QString::fromStdString(name)), std::move(next));
    watchPictures();
    setStage(Stage::cut);
    emit changed();
}

void Session::addFolder(const QString& dir) {
    const QFileInfo info(dir);
    std::vector<sheet::NamedPicture> pictures;
    for (const QFileInfo& file : QDir(dir).entryInfoList({"*.png", "*.PNG"}, QDir::Files, QDir::Name))
        pictures.push_back({file.completeBaseName().toStdString(), sheet::read_png(file.filePath().toStdString())});
    if (pictures.empty())
        throw InputError("There are no PNG pictures in the folder", dir.toStdString(), "",
                         "Drop a folder with pictures, or one that holds project.json");
    const std::string name = info.fileName().toStdString();
    const level::Sheet* known = nullptr;
    for (const auto& s : project().sheets)
        if (s->name == name && !s->parts.empty() && s->image) known = s.get();
    const auto packed = sheet::pack_pictures(std::move(pictures), known ? known->parts : std::vector<level::Part>(),
                                             known ? *known->image : Image());
    if (!packed)
        throw InputError("The pictures are too large for one sheet", dir.toStdString(), "",
                         say("Drop them in smaller folders; a sheet has at most %1 pixels a side", sheet::kMostSide));
    // The sheet's file is new each time, so that the state before can be brought back.
    const fs::path sheets = document_->dir() / "sheets";
    std::error_code trouble;
    fs::create_directories(sheets, trouble);
    std::string relative;
    for (int n = 1;; ++n) {
        relative = "sheets/" + slug(name, "pictures") + (n == 1 ? "" : "-" + std::to_string(n)) + ".png";
        if (!fs::exists(document_->dir() / relative, trouble)) break;
    }
    write_file(document_->dir() / relative, sheet::encode_png(packed->image));
    auto image = std::make_shared<const Image>(packed->image);
    onDisk_[relative] = image;

    edit::PutFolder put = edit::put_folder(project(), known ? known->id : 0, name, relative, image, packed->parts);
    const bool old = known != nullptr; // `known` is of the project before
    sheet_ = put.sheet;
    tiles_.clear();
    apply(old ? tr("Bring %1 up to date").arg(info.fileName()) : tr("Add the folder %1").arg(info.fileName()),
          std::move(put.project));
    watchPictures();
    setStage(Stage::cut);
    emit said(tr("%1: %2 pictures, %3 new props").arg(info.fileName()).arg(packed->parts.size()).arg(put.fresh), false);
    emit changed();
}

void Session::propose(const QString& name, level::Project next, const std::string& merge) {
    const edit::Losses lost = edit::losses(project(), next);
    if (!lost.any()) return apply(name, std::move(next), merge);
    waiting_ = {name, std::make_shared<const level::Project>(std::move(next)), lost.text()};
    emit changed();
}

void Session::answer(bool go) {
    if (!waiting_) return;
    const Waiting w = *waiting_;
    waiting_.reset();
    if (go)
        apply(w.name, *w.next);
    else
        emit changed();
}

void Session::replacePicture(level::SheetId id, const QString& file) {
    const level::Sheet* s = project().sheet(id);
    if (!s) return;
    const fs::path path = file.toStdString();
    auto image = std::make_shared<const Image>(sheet::read_png(path));
    const std::string relative = store::adopt_picture(document_->dir(), path);
    onDisk_[relative] = image;
    propose(tr("Replace the picture of %1").arg(nameOf(*s)), edit::replace_image(project(), id, image, relative));
    watchPictures();
}

void Session::watchPictures() {
    if (!watcher_.files().isEmpty()) watcher_.removePaths(watcher_.files());
    if (!watcher_.directories().isEmpty()) watcher_.removePaths(watcher_.directories());
    QStringList paths;
    for (const auto& s : project().sheets) {
        if (!s->composed.empty()) continue; // its picture follows from others
        const QString file = QString::fromStdString((document_->dir() / s->file).string());
        if (QFileInfo::exists(file)) paths << file;
        // The folder tells of files that come back.
        if (const QString dir = QFileInfo(file).path(); QFileInfo::exists(dir) && !paths.contains(dir)) paths << dir;
    }
    for (const auto& l : project().levels) {
        if (!l->plan) continue;
        const QString file = QString::fromStdString((document_->dir() / l->plan->file).string());
        if (QFileInfo::exists(file) && !paths.contains(file)) paths << file;
        if (const QString dir = QFileInfo(file).path(); QFileInfo::exists(dir) && !paths.contains(dir)) paths << dir;
    }
    if (!paths.isEmpty()) watcher_.addPaths(paths);
}

void Session::lookAtPictures() {
    if (!document_) return;
    std::set<level::SheetId> gone;
    for (const auto& slot : std::vector(project().sheets)) {
        if (!slot->composed.empty()) continue;
        const fs::path path = document_->dir() / slot->file;
        std::error_code trouble;
        if (!fs::exists(path, trouble)) {
            gone.insert(slot->id);
            if (!gone_.contains(slot->id) && slot->image)
                emit said(tr("The file of %1 is gone from the disk; its picture is kept in memory").arg(nameOf(*slot)),
                          true);
            continue;
        }
        std::shared_ptr<const Image> image;
        try {
            image = std::make_shared<const Image>(sheet::read_png(path));
        } catch (const InputError& e) {
            // Half written, perhaps: the next change tells. The picture in memory stays.
            emit said(translated(e), true);
            continue;
        }
        auto& known = onDisk_[slot->file];
        if (known && *known == *image) continue;
        known = image;
        if (slot->image && *slot->image == *image) continue;
        propose(tr("%1 has changed on the disk").arg(nameOf(*slot)),
                edit::replace_image(project(), slot->id, image, slot->file));
        if (!waiting_) emit said(tr("%1 has changed on the disk and was read again").arg(nameOf(*slot)), false);
    }
    gone_ = std::move(gone);
    followPlans();
    watchPictures();
    emit changed();
}

int Session::findAgain(level::SheetId id, const QString& file) {
    const QDir folder = QFileInfo(file).dir();
    level::Project next = project();
    int found = 0;
    for (const auto& slot : project().sheets) {
        const fs::path target = document_->dir() / slot->file;
        std::error_code trouble;
        if (!slot->composed.empty() || (slot->image && fs::exists(target, trouble))) continue;
        const QString name = QString::fromStdString(fs::path(slot->file).filename().string());
        const QString from = slot->id == id ? file : folder.filePath(name);
        if (!QFileInfo::exists(from)) continue;
        const std::string bytes = read_file(from.toStdString());
        auto image = std::make_shared<const Image>(sheet::decode_png(bytes, from.toStdString()));
        fs::create_directories(target.parent_path(), trouble);
        write_file(target, bytes);
        onDisk_[slot->file] = image;
        next = edit::replace_image(std::move(next), slot->id, image, slot->file);
        gone_.erase(slot->id);
        ++found;
    }
    if (found > 0) propose(tr("Find pictures again"), std::move(next));
    watchPictures();
    emit changed();
    return found;
}

void Session::putBack(level::SheetId id) {
    const level::Sheet* s = project().sheet(id);
    if (!s || !s->image) return;
    const fs::path target = document_->dir() / s->file;
    std::error_code trouble;
    fs::create_directories(target.parent_path(), trouble);
    write_file(target, sheet::encode_png(*s->image));
    onDisk_[s->file] = s->image;
    gone_.erase(id);
    watchPictures();
    emit said(tr("The picture of %1 is on the disk again").arg(nameOf(*s)), false);
    emit changed();
}

// After an undo a sheet may show an earlier picture than its file has. What is saved has to show the same when it is
// opened again, and the newer file is not ours to overwrite: the earlier picture gets a file of its own.
void Session::keepEarlierPictures() {
    level::Project next = project();
    bool any = false;
    for (const auto& slot : project().sheets) {
        const auto known = onDisk_.find(slot->file);
        if (!slot->composed.empty() || !slot->image || known == onDisk_.end() || known->second == slot->image ||
            *known->second == *slot->image)
            continue;
        const fs::path folder = (document_->dir() / slot->file).parent_path();
        const std::string stem = fs::path(slot->file).stem().string();
        std::string file;
        std::error_code trouble;
        for (int n = 2;; ++n) {
            file = (fs::path(slot->file).parent_path() / (stem + "-" + std::to_string(n) + ".png")).string();
            if (!fs::exists(document_->dir() / file, trouble)) break;
        }
        fs::create_directories(folder, trouble);
        write_file(document_->dir() / file, sheet::encode_png(*slot->image));
        level::Sheet changed = *slot;
        changed.file = file;
        onDisk_[file] = slot->image;
        next.put(std::move(changed));
        any = true;
    }
    if (!any) return;
    apply(tr("Keep the earlier picture in a file of its own"), std::move(next));
    watchPictures();
}

} // namespace vic::app
