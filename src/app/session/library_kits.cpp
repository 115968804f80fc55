// Kits: sheets whose pictures are drawn from the bodies of their pieces.

#include <QFileInfo>
#include <QString>
#include <algorithm>
#include <exception>
#include <memory>
#include <string>
#include <utility>
#include <vector>

#include "app/session/jobs.hpp"
#include "app/session/library.hpp"
#include "app/session/session.hpp"
#include "base/error.hpp"
#include "base/files.hpp"
#include "edit/kits.hpp"
#include "edit/replace.hpp"
#include "kit/draw.hpp"
#include "kit/open_kit.hpp"
#include "sheet/png.hpp"
#include "store/adopt_kit.hpp"

namespace vic::app {

namespace {

constexpr std::size_t kMostWatched = 512; // files of a kit

struct AdoptedKit {
    std::string source; // relative to the project
    kit::Drawn drawn;
};

struct ReadAnew {
    kit::KitFile file;
    kit::KitReading read;
    kit::Drawn drawn;
};

void writePicture(const fs::path& target, const kit::Drawn& drawn, const std::string& kit) {
    if (drawn.image.empty())
        throw InputError("No piece of the kit can be drawn", kit, {}, "Say how large its cells are");
    std::error_code trouble;
    fs::create_directories(target.parent_path(), trouble);
    write_file(target, sheet::encode_png(drawn.image));
}

} // namespace

std::vector<std::string> Library::kitFiles(const level::Sheet& sheet) const {
    std::vector<std::string> out;
    std::error_code error;
    const fs::path dir = session_.document().dir();
    fs::path from = dir / sheet.kit->file;
    if (!fs::is_directory(from, error)) from = from.parent_path();
    // Nothing beside the project's kits is looked through.
    if (from.lexically_relative(dir / "kits").string().starts_with("..")) return {sheet.kit->file};
    for (auto it = fs::recursive_directory_iterator(from, fs::directory_options::skip_permission_denied, error);
         !error && it != fs::recursive_directory_iterator() && out.size() < kMostWatched; it.increment(error))
        if (it->symlink_status(error).type() == fs::file_type::regular)
            out.push_back(it->path().lexically_relative(dir).string());
    std::sort(out.begin(), out.end());
    return out;
}

std::string Library::kitSign(const level::Sheet& sheet) const {
    std::string out;
    for (const std::string& file : kitFiles(sheet)) {
        std::error_code error;
        const fs::path path = session_.document().dir() / file;
        out += file + ' ' + std::to_string(fs::file_size(path, error)) + ' ' +
               std::to_string(fs::last_write_time(path, error).time_since_epoch().count()) + '\n';
    }
    return out;
}

void Library::addKit(const ChosenKit& kit) {
    const std::string name = edit::free_sheet_name(session_.project(), kit.name.toStdString());
    const std::string file = freeFile("sheets", slug(name, "kit"), 1).toStdString();
    const auto work = [kit, dir = session_.document().dir(), target = ownPath(file)](Jobs::Progress&) {
        AdoptedKit out;
        out.drawn = kit::draw_sheet(*kit.file, kit.read, kit.side);
        if (out.drawn.image.empty())
            throw InputError("No piece of the kit can be drawn", kit.path.toStdString(), {},
                             "Say how large its cells are");
        out.source = store::adopt_kit(dir, kit.path.toStdString(), kit.file->files);
        writePicture(target, out.drawn, kit.path.toStdString());
        return out;
    };
    const auto add = [this, kit, name, file](AdoptedKit& a) {
        edit::PutKit put = edit::put_kit(session_.project(), 0, name, file, a.source, *kit.file, kit.read, a.drawn,
                                         kit.side, kit.materials);
        onDisk_[file] = put.project.sheet(put.sheet)->image;
        const level::SheetId id = put.sheet;
        session_.apply(tr("Add the kit %1").arg(QString::fromStdString(name)), std::move(put.project));
        kitsOnDisk_[id] = kitSign(*session_.project().sheet(id));
        watch();
        session_.setSheet(id);
        session_.setTiles({});
        if (!put.things.empty()) {
            session_.setStage(Stage::dress);
            edit::Hand hand = session_.hand();
            hand.holds = edit::held::Prop{put.things.front(), {}};
            session_.setHand(hand);
            emit session_.said(
                tr("%1: %2 props, to be stood anywhere").arg(QString::fromStdString(name)).arg(put.things.size()),
                false);
            return;
        }
        if (!put.materials.empty()) session_.setMaterial(put.materials.front());
        session_.setStage(put.materials.empty() ? Stage::cut : Stage::join);
        emit session_.said(tr("%1: %2 pieces, %3 materials")
                               .arg(QString::fromStdString(name))
                               .arg(put.fresh)
                               .arg(put.materials.size()),
                           false);
    };
    session_.jobs().start<AdoptedKit>("kit-" + kit.path, tr("Drawing %1").arg(kit.name), work, add,
                                      session_.complain());
}

void Library::lookAtKits() {
    for (const auto& slot : session_.project().sheets) {
        if (!slot->kit) continue;
        const std::string sign = kitSign(*slot);
        if (sign == kitsOnDisk_[slot->id]) continue;
        kitsOnDisk_[slot->id] = sign;
        const std::string file = freeFile("sheets", slug(slot->name, "kit"), 1).toStdString();
        const auto work = [sheet = slot, target = ownPath(file), dir = session_.document().dir()](Jobs::Progress&) {
            ReadAnew out;
            const fs::path path = inside(dir, sheet->kit->file, dir.string(), {});
            out.file = kit::open_kit(path, sheet->kit->whole);
            out.read = kit::read_kit(out.file.bodies, edit::told_of(*sheet->kit));
            out.drawn = kit::draw_sheet(out.file, out.read, sheet->cut.tile.w, edit::kit_places(*sheet));
            if (!(sheet->image && *sheet->image == out.drawn.image)) writePicture(target, out.drawn, path.string());
            return out;
        };
        const auto put = [this, id = slot->id, file](ReadAnew& anew) {
            const level::Sheet* sheet = session_.project().sheet(id);
            if (!sheet || !sheet->kit || (sheet->image && *sheet->image == anew.drawn.image)) return;
            const QString name = QString::fromStdString(sheet->name);
            edit::PutKit put = edit::put_kit(session_.project(), id, sheet->name, file, sheet->kit->file, anew.file,
                                             anew.read, anew.drawn, sheet->cut.tile.w, {});
            onDisk_[file] = put.project.sheet(id)->image;
            session_.apply(tr("%1 has changed on the disk").arg(name), std::move(put.project));
            watch();
            emit session_.said(put.fresh > 0 ? tr("%1 was read again: %2 new pieces").arg(name).arg(put.fresh)
                                             : tr("%1 has changed on the disk and was read again").arg(name),
                               false);
        };
        session_.jobs().start<ReadAnew>("kit-again-" + QString::number(slot->id),
                                        tr("Reading %1").arg(QString::fromStdString(slot->name)), work, put,
                                        session_.complain());
    }
}

} // namespace vic::app
