// What the art of sheets says of joins: read in the background, kept for as long as the tiles look the same.
#pragma once

#include <QObject>
#include <QString>
#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <utility>
#include <vector>

#include "base/geometry.hpp"
#include "join/read_joins.hpp"
#include "level/material.hpp"
#include "level/sheet.hpp"

namespace vic::app {

class Session;

class JoinReadings : public QObject {
    Q_OBJECT
  public:
    using Reading = std::shared_ptr<const join::JoinReading>;

    explicit JoinReadings(Session& session);
    void forget(); // another project is open

    // The sheet's joins read as `kind`; null while that is being worked out (then known() is emitted), and for sheets
    // without a picture. `kind` must not be plain.
    [[nodiscard]] Reading reading(level::SheetId sheet, level::JoinKind kind);
    // The kind of joins that the art fits best; edges + corners for sheets too large to be one set. None while that is
    // being worked out.
    [[nodiscard]] std::optional<level::JoinKind> kind(level::SheetId sheet);

    // Whether the reading was asked for, and is neither there nor on its way any more.
    [[nodiscard]] bool stopped(level::SheetId sheet, level::JoinKind kind);
    void readAgain(level::SheetId sheet, level::JoinKind kind); // what was stopped

    // Calls `then` with the same: at once where it is known, else when it is; never where the tiles look different by
    // then, where the work is stopped, or where the same is asked for again with another `then`.
    void withReading(level::SheetId sheet, level::JoinKind kind, std::function<void(const Reading&)> then);
    void withKind(level::SheetId sheet, std::function<void(level::JoinKind)> then);

  signals:
    void known();

  private:
    // What a reading follows from.
    struct Look {
        std::shared_ptr<const Image> image;
        level::Cut cut;
        std::vector<Box> boxes;
        bool operator==(const Look&) const = default;
    };
    using Sheet = std::shared_ptr<const level::Sheet>;
    // One thing that is read from a sheet.
    template <class Value>
    struct Asked {
        QString job; // its key
        std::optional<Look> of;
        std::optional<Value> value;
        std::function<void(const Value&)> then;
    };
    // Begins to read unless the value is there or on its way; where it was stopped, only with `again`.
    template <class Value, class Read>
    void ask(Asked<Value>& asked, const Sheet& sheet, bool again, const Read& read);
    Asked<Reading>& askReading(const Sheet& sheet, level::JoinKind kind, bool again);
    Asked<level::JoinKind>& askKind(const Sheet& sheet, bool again);
    static Look lookOf(const level::Sheet& sheet);
    [[nodiscard]] Sheet sheetOf(level::SheetId id) const; // null where it has no picture

    Session& session_;
    std::map<std::pair<level::SheetId, level::JoinKind>, Asked<Reading>> readings_;
    std::map<level::SheetId, Asked<level::JoinKind>> kinds_;
};

} // namespace vic::app
