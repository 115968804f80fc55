// What the window works on: the document, what is chosen in it, and what follows from both. Widgets read it, ask it for
// changes, and listen to it; they never talk to one another.
#pragma once

#include <QElapsedTimer>
#include <QFileSystemWatcher>
#include <QObject>
#include <QString>
#include <QTimer>
#include <cstddef>
#include <cstdint>
#include <map>
#include <memory>
#include <optional>
#include <set>
#include <string>
#include <thread>
#include <utility>
#include <vector>

#include "app/session/tool.hpp"
#include "base/geometry.hpp"
#include "base/image.hpp"
#include "base/lattice.hpp"
#include "base/text.hpp"
#include "edit/document.hpp"
#include "edit/homes.hpp"
#include "edit/joins.hpp"
#include "edit/plans.hpp"
#include "edit/stroke.hpp"
#include "findings/check.hpp"
#include "join/mask.hpp"
#include "join/read_joins.hpp"
#include "level/cell.hpp"
#include "level/level.hpp"
#include "level/material.hpp"
#include "level/project.hpp"
#include "level/region.hpp"
#include "level/sheet.hpp"
#include "outline/trace.hpp"
#include "picture/art.hpp"
#include "sheet/read_cut.hpp"

namespace vic::edit {
class Document;
} // namespace vic::edit

namespace vic::join {
class Rules;
} // namespace vic::join

namespace vic::level {
struct Layer;
struct Material;
struct Plan;
struct Sheet;
struct Tile;
} // namespace vic::level

namespace vic::app {

enum class Stage { cut, join, lay, dress, bound, walk, handOver };
inline constexpr int kStages = 7;
inline bool showsLevel(Stage stage) { return stage == Stage::lay || stage == Stage::dress || stage == Stage::bound; }
inline bool laysCells(Stage stage) { return stage == Stage::lay || stage == Stage::bound; }

class Session : public QObject {
    Q_OBJECT
  public:
    explicit Session(QObject* parent = nullptr);
    ~Session() override;

    // Throws InputError; what was open stays open then.
    void open(const QString& dir);
    [[nodiscard]] bool isOpen() const { return document_ != nullptr; }
    [[nodiscard]] edit::Document& document() { return *document_; }
    [[nodiscard]] const edit::Document& document() const { return *document_; }
    [[nodiscard]] const level::Project& project() const { return document_->project(); }
    [[nodiscard]] const level::Level* level() const; // null where the project has none
    [[nodiscard]] const level::Layer* activeLayer() const;
    // What cells are laid on: the level, or the close-up of the active layer where that has cells of its own.
    [[nodiscard]] level::Level work() const;
    [[nodiscard]] Lattice workLattice() const;
    // One step of history each, for a changed work().
    void applyWork(const QString& name, const level::Level& next);
    void applyWork(const QString& name, const level::Level& next, std::uint32_t nextId);
    [[nodiscard]] level::Level withWork(const level::Level& work) const; // the level with that work

    [[nodiscard]] Stage stage() const { return stage_; }
    [[nodiscard]] const Tool& tool() const { return tool_; }
    [[nodiscard]] const edit::Hand& hand() const { return hand_; }
    // The block that the Hand holds; null where it holds none.
    [[nodiscard]] const level::Tile* blockInHand() const;
    [[nodiscard]] level::LayerId activeLayerId() const { return activeLayer_; }
    [[nodiscard]] level::SheetId sheetId() const { return sheet_; }
    [[nodiscard]] const level::Sheet* sheet() const { return project().sheet(sheet_); }
    [[nodiscard]] level::MaterialId materialId() const { return material_; }
    [[nodiscard]] const level::Material* material() const { return project().material(material_); }
    [[nodiscard]] join::Mask joinCase() const { return case_; }
    [[nodiscard]] const std::vector<level::TileId>& tiles() const { return tiles_; }
    [[nodiscard]] level::PropId prop() const { return prop_; }

    [[nodiscard]] const ToolOptions& options() const { return options_; }
    void setOptions(const ToolOptions& options);
    // The cells chosen in the level; none for another level than the one shown.
    [[nodiscard]] const level::Region& selection() const { return selection_; }
    void setSelection(level::Region cells);
    // The layers that a command on the selection concerns.
    [[nodiscard]] std::vector<level::LayerId> selectedLayers() const;
    // The layers that are seen alone; none of them where all are seen. A way of looking, not of the project.
    [[nodiscard]] bool anyAlone() const { return !alone_.empty(); }
    [[nodiscard]] bool isAlone(level::LayerId layer) const { return alone_.contains(layer); }
    void setAlone(level::LayerId layer, bool on);
    void noneAlone();
    // The level as it is looked at.
    [[nodiscard]] level::Level seen(const level::Level& level) const;
    // The home that is proposed for the Hand; worked out once for a Hand, not for every stroke.
    [[nodiscard]] const std::optional<edit::HomeProposal>& proposedHome();
    // The last ten Hands, the latest first.
    [[nodiscard]] const std::vector<edit::Hand>& lastHands() const { return lastHands_; }

    void setStage(Stage stage);
    void setTool(const Tool& tool);
    void setHand(const edit::Hand& hand);
    void setLevel(const std::string& id);
    void setActiveLayer(level::LayerId id);
    void setSheet(level::SheetId id);
    void setMaterial(level::MaterialId id);
    void setCase(join::Mask mask);
    void setTiles(std::vector<level::TileId> tiles);
    void setProp(level::PropId id);

    // One step of history each.
    void apply(const QString& name, level::Project next, const std::string& merge = {});
    void applyLevel(const QString& name, level::Level next, const std::string& merge = {});
    // The same for changes that gave out ids.
    void applyLevel(const QString& name, level::Level next, std::uint32_t nextId);
    void goTo(std::size_t place);        // in the history
    void keepPoint(const QString& name); // these three throw InputError
    void goBack(std::size_t keepPoint);
    void forget(std::size_t keepPoint);
    void undo();
    void redo();
    void save(); // throws InputError

    // Adds a picture from anywhere as a sheet with the cut as read; goes to Cut with it. Throws InputError.
    void addPicture(const QString& file);
    // All PNG pictures of a folder as one sheet, each a prop; a folder that was added before brings its sheet up to
    // date. Throws InputError.
    void addFolder(const QString& dir);
    // Another picture for the sheet, with everything kept that the new one has room for. Throws InputError.
    void replacePicture(level::SheetId sheet, const QString& file);
    // Gives back the pictures of all sheets whose file is gone, from a folder that holds them under their old names;
    // the file itself serves for `sheet`. Returns how many were found. Throws InputError.
    int findAgain(level::SheetId sheet, const QString& file);
    // Writes the picture of a sheet whose file has vanished back from memory. Throws InputError.
    void putBack(level::SheetId sheet);
    // Whether the sheet's file has vanished since it was read.
    [[nodiscard]] bool fileGone(level::SheetId sheet) const { return gone_.contains(sheet); }

    // Lays a level after a plan and keeps it as what the level follows. The picture comes from `file`, relative to the
    // project; cells that were changed by hand since are listed in planKept(). Throws InputError.
    edit::Followed planned(const level::Plan& plan) const;
    void layPlan(const level::Plan& plan);
    // Copies a picture from anywhere into the project's plans; returns its relative path. Throws InputError.
    QString adoptPlan(const QString& file);
    [[nodiscard]] const std::vector<Point>& planKept() const { return planKept_; }

    // A change that loses something in use waits for an answer; any other is applied at once.
    void propose(const QString& name, level::Project next, const std::string& merge = {});
    struct Waiting {
        QString name;
        std::shared_ptr<const level::Project> next;
        Text losses;
    };
    [[nodiscard]] const std::optional<Waiting>& waiting() const { return waiting_; }
    void answer(bool go);
    // A material from the sheet, its joins read from the art; goes to Join with it.
    void makeMaterial(level::SheetId sheet, level::JoinKind kind);
    // The kind of joins that the sheet's art fits best; edges + corners for sheets too large to be one set.
    [[nodiscard]] level::JoinKind kindOf(level::SheetId sheet);

    // The joins of the sheet that most of a material's tiles come from, read again; empty for plain materials.
    struct JoinsRead {
        level::SheetId sheet = 0;
        join::JoinReading reading;
        std::vector<edit::DoubtfulTile> doubtful; // not yet accepted
    };
    [[nodiscard]] const JoinsRead& joinsRead();

    // Kept up to date with the project.
    [[nodiscard]] const join::Rules& rules();
    [[nodiscard]] picture::Art& art() { return art_; }
    // As of a moment ago: looked for in the background, on a snapshot, after the project has changed.
    [[nodiscard]] const std::vector<findings::Finding>& findings() const { return findings_; }
    [[nodiscard]] const sheet::SheetReading& reading(level::SheetId sheet);
    // The trace of `level`, made from the last one where that is possible.
    [[nodiscard]] const outline::Trace& trace(const level::Level& level);
    // How many outlines the trace has; counted once per state, and not for huge ones (then -1).
    [[nodiscard]] int outlineCount(const level::Level& level);

    // What the last try in Walk came to; forgotten when the level changes.
    enum class Tried { no, walked, exit, fell };
    [[nodiscard]] Tried tried() const;
    void setTried(Tried tried);
    [[nodiscard]] QString builtDir() const; // where parcels of the project are built

    // Milliseconds since the project was opened, for animated tiles; stands still while they do not play.
    [[nodiscard]] qint64 clock() const { return clock_; }
    [[nodiscard]] bool playing() const { return playing_; }
    void setPlaying(bool on);

  signals:
    void ticked();  // another time for animated tiles
    void changed(); // the project, or what is chosen
    void stageChanged();
    void findingsChanged();
    void handChanged();
    void selectionChanged();
    void said(const QString& text, bool trouble); // a message for the reading line

  private:
    void lookForFindings();
    void watchPictures();
    void lookAtPictures();
    void keepEarlierPictures();
    void followPlans(); // whose pictures have changed on disk
    [[nodiscard]] level::LayerId closeUpOf() const;
    void choose(); // after the project changed: what was chosen and is gone is replaced
    std::unique_ptr<edit::Document> document_;
    std::string levelId_;
    Stage stage_ = Stage::lay;
    Tool tool_ = Tool::pencil;
    edit::Hand hand_;
    std::vector<edit::Hand> lastHands_;
    ToolOptions options_;
    level::Region selection_;
    std::set<level::LayerId> alone_;
    std::optional<edit::HomeProposal> proposed_;
    struct {
        edit::Hand hand;
        std::string level;
        std::size_t layers = 0;
        std::vector<std::shared_ptr<const level::Sheet>> sheets;
        std::vector<std::shared_ptr<const level::Material>> materials;
    } proposedOf_;
    std::vector<Point> planKept_;
    std::map<std::string, std::string> planBytes_; // by relative file, as last followed
    level::LayerId activeLayer_ = 0;
    level::SheetId sheet_ = 0;
    level::MaterialId material_ = 0;
    join::Mask case_ = 255;
    std::vector<level::TileId> tiles_;
    level::PropId prop_ = 0;

    picture::Art art_;
    std::unique_ptr<join::Rules> rules_;
    std::vector<std::shared_ptr<const level::Material>> rulesOf_;
    std::vector<findings::Finding> findings_;
    edit::ProjectState findingsOf_;
    QTimer findingsTimer_;
    std::thread findingsWork_;
    findings::Checker checker_; // used by findingsWork_ alone
    bool findingsBusy_ = false;
    std::map<level::SheetId, std::pair<std::shared_ptr<const Image>, sheet::SheetReading>> readings_;
    std::map<level::SheetId, std::pair<std::shared_ptr<const level::Sheet>, level::JoinKind>> kinds_;
    JoinsRead joinsRead_;
    std::shared_ptr<const level::Material> joinsReadOf_;
    std::vector<std::shared_ptr<const level::Sheet>> joinsReadIn_;
    std::optional<Waiting> waiting_;
    QFileSystemWatcher watcher_;
    QTimer watchTimer_;
    std::set<level::SheetId> gone_;
    std::map<std::string, std::shared_ptr<const Image>> onDisk_; // by relative file, as last read or written
    QTimer playTimer_;
    QElapsedTimer playSince_;
    qint64 clock_ = 0, clockBefore_ = 0;
    bool playing_ = true;
    std::vector<std::shared_ptr<const level::Sheet>> playSheets_; // those that toPlay_ was found in
    bool toPlay_ = false;
    void play(); // runs the clock if there is something to play
    outline::Trace trace_;
    level::Level traceOf_;
    std::vector<std::shared_ptr<const level::Sheet>> traceSheets_;
    int outlineCount_ = 0;
    bool counted_ = false;
    bool countNow_ = false;
    QTimer countTimer_;
    Tried tried_ = Tried::no;
    std::shared_ptr<const level::Level> triedLevel_;
};

} // namespace vic::app
