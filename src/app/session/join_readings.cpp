#include "app/session/join_readings.hpp"

#include <cassert>
#include <exception>

#include "app/session/jobs.hpp"
#include "app/session/session.hpp"
#include "edit/sheets.hpp"
#include "join/read_kind.hpp"
#include "level/project.hpp"

namespace vic::app {

JoinReadings::JoinReadings(Session& session) : session_(session) {}

void JoinReadings::forget() {
    for (const auto& [key, asked] : readings_) session_.jobs().stop(asked.job);
    for (const auto& [key, asked] : kinds_) session_.jobs().stop(asked.job);
    readings_.clear();
    kinds_.clear();
}

JoinReadings::Sheet JoinReadings::sheetOf(level::SheetId id) const {
    for (const Sheet& s : session_.project().sheets)
        if (s->id == id && s->image) return s;
    return nullptr;
}

JoinReadings::Look JoinReadings::lookOf(const level::Sheet& sheet) {
    Look look{sheet.image, sheet.cut, {}};
    look.boxes.reserve(sheet.tiles.size());
    for (const level::Tile& t : sheet.tiles) look.boxes.push_back(t.box);
    return look;
}

template <class Value, class Read>
void JoinReadings::ask(Asked<Value>& asked, const Sheet& sheet, bool again, const Read& read) {
    Look look = lookOf(*sheet);
    const bool same = asked.of == look;
    if (same && (asked.value || session_.jobs().running(asked.job) || !again)) return;
    asked.of = std::move(look);
    asked.value.reset();
    asked.then = nullptr;
    session_.jobs().start<Value>(
        asked.job, tr("Reading the joins of %1").arg(QString::fromStdString(sheet->name)),
        [sheet, read](Jobs::Progress& progress) {
            return read(edit::tile_pictures(*sheet), [&progress] { return progress.stopped(); });
        },
        // forget() stops the job before `asked` goes.
        [this, &asked, id = sheet->id](Value& value) {
            const Sheet now = sheetOf(id);
            if (!now || lookOf(*now) != asked.of) return;
            asked.value = std::move(value);
            if (const auto then = std::exchange(asked.then, nullptr)) then(*asked.value);
            emit known();
        },
        session_.complain());
}

JoinReadings::Asked<JoinReadings::Reading>& JoinReadings::askReading(const Sheet& sheet, level::JoinKind kind,
                                                                     bool again) {
    assert(kind != level::JoinKind::plain);
    Asked<Reading>& asked = readings_[{sheet->id, kind}];
    asked.job = QString("joins-%1-%2").arg(sheet->id).arg(static_cast<int>(kind));
    ask(asked, sheet, again, [kind](const std::vector<Image>& tiles, const Stop& stop) {
        return Reading(std::make_shared<join::JoinReading>(join::read_joins(tiles, kind, {}, stop)));
    });
    return asked;
}

JoinReadings::Asked<level::JoinKind>& JoinReadings::askKind(const Sheet& sheet, bool again) {
    Asked<level::JoinKind>& asked = kinds_[sheet->id];
    asked.job = QString("joinKind-%1").arg(sheet->id);
    ask(asked, sheet, again,
        [](const std::vector<Image>& tiles, const Stop& stop) { return join::proposed_kind(tiles, stop); });
    return asked;
}

JoinReadings::Reading JoinReadings::reading(level::SheetId id, level::JoinKind kind) {
    const Sheet sheet = sheetOf(id);
    return sheet ? askReading(sheet, kind, false).value.value_or(nullptr) : nullptr;
}

bool JoinReadings::stopped(level::SheetId id, level::JoinKind kind) {
    const auto asked = readings_.find({id, kind});
    const Sheet sheet = sheetOf(id);
    return sheet && asked != readings_.end() && asked->second.of == lookOf(*sheet) && !asked->second.value &&
           !session_.jobs().running(asked->second.job);
}

void JoinReadings::readAgain(level::SheetId id, level::JoinKind kind) {
    if (const Sheet sheet = sheetOf(id)) askReading(sheet, kind, true);
}

std::optional<level::JoinKind> JoinReadings::kind(level::SheetId id) {
    const Sheet sheet = sheetOf(id);
    if (!sheet || !sheet->accepted || sheet->tiles.size() < 2) return level::JoinKind::full;
    return askKind(sheet, false).value;
}

void JoinReadings::withReading(level::SheetId id, level::JoinKind kind, std::function<void(const Reading&)> then) {
    const Sheet sheet = sheetOf(id);
    if (!sheet) return;
    Asked<Reading>& asked = askReading(sheet, kind, true);
    if (asked.value)
        then(Reading(*asked.value));
    else
        asked.then = std::move(then);
}

void JoinReadings::withKind(level::SheetId id, std::function<void(level::JoinKind)> then) {
    const Sheet sheet = sheetOf(id);
    if (!sheet) return;
    if (!sheet->accepted || sheet->tiles.size() < 2) return then(level::JoinKind::full);
    Asked<level::JoinKind>& asked = askKind(sheet, true);
    if (asked.value)
        then(level::JoinKind(*asked.value));
    else
        asked.then = std::move(then);
}

} // namespace vic::app
