// What follows from the document: rules, art, readings, outlines. Each is made when it is first asked for and kept as
// long as that from which it follows.
#pragma once

#include <QObject>
#include <QTimer>
#include <cstddef>
#include <map>
#include <memory>
#include <optional>
#include <string>
#include <tuple>
#include <utility>
#include <vector>

#include "app/session/join_readings.hpp"
#include "app/session/memo.hpp"
#include "edit/homes.hpp"
#include "edit/joins.hpp"
#include "outline/trace.hpp"
#include "picture/art.hpp"
#include "plant/lively.hpp"
#include "sheet/read_cut.hpp"
#include "sheet/seam.hpp"

namespace vic::join {
class Rules;
} // namespace vic::join

namespace vic::app {

class Session;

using SheetRef = std::shared_ptr<const level::Sheet>;
using MaterialRef = std::shared_ptr<const level::Material>;

// The joins of the sheet that most of a material's tiles come from; empty for plain materials.
struct JoinsRead {
    bool known = true; // false while they are being read, and where that was stopped
    bool stopped = false;
    std::vector<edit::DoubtfulTile> doubtful; // not yet accepted
    bool other = false;                       // there is a second reading that is nearly as good
};

class Derived : public QObject {
    Q_OBJECT
  public:
    explicit Derived(Session& session);
    ~Derived() override;

    [[nodiscard]] const join::Rules& rules();
    [[nodiscard]] picture::Art& art() { return art_; }
    // How the sheet's picture is cut; null while it is being read, then counted() is emitted, and without a picture.
    // Valid until the next call.
    [[nodiscard]] const sheet::SheetReading* reading(level::SheetId sheet);
    // Whether its reading was asked for, and is neither there nor on its way any more; and asks for it again.
    [[nodiscard]] bool readingStopped(level::SheetId sheet);
    void readAgain(level::SheetId sheet);
    // The reading was made elsewhere, of this very image.
    void take(level::SheetId sheet, std::shared_ptr<const Image> image, sheet::SheetReading reading);
    [[nodiscard]] const JoinsRead& joinsRead(); // of the chosen material
    void readJoinsAgain();                      // of it, where that was stopped
    // The home that is proposed for the Hand.
    [[nodiscard]] std::optional<edit::HomeProposal> proposedHome();
    // Whether the picture closes with itself where it is repeated. Valid until the next call.
    // How lively the props of a layer look. Valid until the next call.
    [[nodiscard]] const plant::Lively& lively(const level::Level& level, const level::LayerRef& layer);
    [[nodiscard]] const sheet::Seam& seam(const std::shared_ptr<const Image>& picture, bool across);
    // The trace of `level`, made from the last one where that is possible.
    [[nodiscard]] const outline::Trace& trace(const level::Level& level);
    // How many outlines the trace has; counted once per state, and not for huge ones (then -1).
    [[nodiscard]] int outlineCount(const level::Level& level);
    // The corners of all of them, counted with them; -1 likewise.
    [[nodiscard]] int cornerCount(const level::Level& level);
    // The fewest rectangles for what blocks whole cells; -1 of very large levels.
    [[nodiscard]] int rectangleCount(const level::Level& level);
    // The convex parts that the outlines enclose; -1 likewise.
    [[nodiscard]] int partCount(const level::Level& level);
    void forget(); // another project is open

  signals:
    void counted(); // the outlines of a very large level; or a picture was read

  private:
    struct SeamRead {
        std::shared_ptr<const Image> picture;
        bool across;
        sheet::Seam seam;
    };
    std::vector<SeamRead> seams_; // the last few
    Memo<std::pair<level::LayerRef, std::vector<std::shared_ptr<const level::PropKind>>>, plant::Lively> lively_;
    // What a proposal of a home follows from.
    struct HomeKey {
        edit::Hand hand; // what it holds alone
        std::string level;
        std::size_t layers = 0;
        std::vector<SheetRef> sheets;
        std::vector<MaterialRef> materials;
        bool operator==(const HomeKey&) const = default;
    };
    Session& session_;
    picture::Art art_;
    Memo<std::vector<MaterialRef>, std::unique_ptr<join::Rules>> rules_;
    std::map<level::SheetId, Memo<std::shared_ptr<const Image>, sheet::SheetReading>> readings_;
    std::map<level::SheetId, std::shared_ptr<const Image>> reads_; // what is being read, or was when that was stopped
    Memo<std::tuple<MaterialRef, std::vector<SheetRef>, JoinReadings::Reading, bool>, JoinsRead> joinsRead_;
    Memo<HomeKey, std::optional<edit::HomeProposal>> home_;
    // The trace follows changes piece by piece.
    outline::Trace trace_;
    level::Level traceOf_;
    std::vector<SheetRef> traceSheets_;
    std::vector<std::shared_ptr<const level::PropKind>> traceKinds_;
    int outlineCount_ = 0, cornerCount_ = 0, rectangleCount_ = 0, partCount_ = 0;
    bool rectanglesCounted_ = false, partsCounted_ = false;
    bool counted_ = false;
    bool countNow_ = false;
    QTimer countTimer_;
};

} // namespace vic::app
