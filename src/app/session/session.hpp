// What the window works on: the document, what is chosen in it, and what follows from both. Widgets read it, ask it for
// changes, and listen to it; they never talk to one another.
#pragma once

#include <QObject>
#include <QString>
#include <QTimer>
#include <cstddef>
#include <cstdint>
#include <memory>
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "app/session/choice.hpp"
#include "app/session/derived.hpp"
#include "app/session/jobs.hpp"
#include "app/session/join_readings.hpp"
#include "app/session/joined_changes.hpp"
#include "app/session/keeper.hpp"
#include "app/session/library.hpp"
#include "app/session/planter.hpp"
#include "app/session/play_clock.hpp"
#include "edit/document.hpp"
#include "findings/check.hpp"
#include "level/project.hpp"

namespace vic::app {

class KitBodies;
class MergedMass;

class Session : public QObject {
    Q_OBJECT
  public:
    explicit Session(QObject* parent = nullptr);
    ~Session() override;

    // Throws InputError; what was open stays open then. Nothing of it is chosen any more else.
    // `looks`: it is open elsewhere and only looked at here; nothing of it can be changed.
    void open(const QString& dir, bool looks = false);
    // As opened by another thread (edit::Document::open()).
    void open(std::unique_ptr<edit::Document> document, std::optional<Presence> presence, bool looks);
    void close();                                    // nothing is open then; what was not saved is in the journal
    void tookOver();                                 // what others changed
    void movedTo(const edit::Document::Saving& all); // the project lies elsewhere now
    [[nodiscard]] bool isOpen() const { return document_ != nullptr; }
    [[nodiscard]] edit::Document& document() { return *document_; }
    [[nodiscard]] const edit::Document& document() const { return *document_; }
    [[nodiscard]] const level::Project& project() const; // one of nothing where none is open

    // Its parts.
    [[nodiscard]] Jobs& jobs() { return jobs_; }
    [[nodiscard]] Library& library() { return library_; }
    [[nodiscard]] Keeper& keeper() { return keeper_; }
    [[nodiscard]] JoinReadings& joins() { return joins_; }
    [[nodiscard]] Derived& derived() { return derived_; }
    [[nodiscard]] Planter& planter() { return planter_; }
    [[nodiscard]] PlayClock& playClock() { return playClock_; }
    [[nodiscard]] KitBodies& bodies() { return *bodies_; }
    [[nodiscard]] MergedMass& mass() { return *mass_; }
    // For a job: what went wrong is said.
    [[nodiscard]] Jobs::Failed complain();

    // What is chosen.
    [[nodiscard]] Stage stage() const { return choice_.stage; }
    [[nodiscard]] const Tool& tool() const { return choice_.tool; }
    [[nodiscard]] const ToolOptions& options() const { return choice_.options; }
    [[nodiscard]] const edit::Hand& hand() const { return choice_.hand; }
    [[nodiscard]] const std::vector<edit::Hand>& lastHands() const { return choice_.lastHands; }
    [[nodiscard]] const level::Level* level() const;                    // null where the project has none
    [[nodiscard]] std::shared_ptr<const level::Level> levelRef() const; // the same, owned
    [[nodiscard]] const level::Layer* activeLayer() const;
    [[nodiscard]] level::LayerId activeLayerId() const { return choice_.layer; }
    [[nodiscard]] level::SheetId sheetId() const { return choice_.sheet; }
    [[nodiscard]] const level::Sheet* sheet() const { return project().sheet(choice_.sheet); }
    [[nodiscard]] level::MaterialId materialId() const { return choice_.material; }
    [[nodiscard]] const level::Material* material() const { return project().material(choice_.material); }
    [[nodiscard]] MaterialRef materialRef() const; // the same, owned
    [[nodiscard]] join::Mask joinCase() const { return choice_.joinCase; }
    [[nodiscard]] const std::vector<level::TileId>& tiles() const { return choice_.tiles; }
    // Those of the chosen sheet, in the order in which they were chosen. Valid until the next change.
    [[nodiscard]] std::vector<const level::Tile*> chosenTiles() const;
    [[nodiscard]] const edit::Chosen& chosen() const { return choice_.chosen; } // props and marks
    [[nodiscard]] level::PropId prop() const;                                   // the only one chosen; else 0
    [[nodiscard]] const level::Mark* mark() const; // the chosen one; null where none is. Valid until the next change.
    // The cells chosen in the level; none for another level than the one shown.
    [[nodiscard]] const level::Region& selection() const { return choice_.selection; }
    // The layers that a command on the selection concerns.
    [[nodiscard]] std::vector<level::LayerId> selectedLayers() const;
    // The block that the Hand holds; null where it holds none.
    [[nodiscard]] const level::Tile* blockInHand() const;

    void setStage(Stage stage);
    void setTool(const Tool& tool);
    void setOptions(const ToolOptions& options);
    [[nodiscard]] FactsLook factsLook() const { return choice_.factsLook; } // how values of cells are seen
    void setFactsLook(FactsLook look);
    void setHand(const edit::Hand& hand);
    void setLevel(const std::string& id);
    void setActiveLayer(level::LayerId id);
    void setSheet(level::SheetId id);
    void setMaterial(level::MaterialId id);
    void setCase(join::Mask mask);
    void setTiles(std::vector<level::TileId> tiles);
    void setProp(level::PropId id); // that alone; 0 for nothing
    void setMark(level::MarkId id);
    void setChosen(edit::Chosen chosen);
    // An ensemble's copy whose parts are worked on in its place; 0 for none.
    [[nodiscard]] level::PropId ensemble() const { return choice_.ensemble; }
    void openEnsemble(level::PropId prop);
    // What is dressed: the level, or it with the opened ensemble's parts; and the layer that props go to.
    [[nodiscard]] level::Level dressed() const;
    [[nodiscard]] level::LayerId dressedLayer() const;
    // What of a level lies on the storey that is worked on, as if that were the lowest.
    [[nodiscard]] level::Level onStorey(const level::Level& level) const;
    // A changed dressed(), as one step; what changed of parts is changed in all copies of the ensemble. False where
    // that cannot be, which was said.
    bool applyDressed(const QString& name, const level::Level& next, const std::string& merge = {},
                      std::uint32_t nextId = 0);
    void setSelection(level::Region cells);
    // The line that was measured last in the level that is shown, in its pixels.
    [[nodiscard]] const std::optional<std::pair<Point, Point>>& measured() const { return choice_.measured; }
    void setMeasured(std::optional<std::pair<Point, Point>> line);
    // The layers that are seen alone; none of them where all are seen. A way of looking, not of the project.
    [[nodiscard]] bool anyAlone() const { return !choice_.seenAlone.empty(); }
    [[nodiscard]] bool isAlone(level::LayerId layer) const { return choice_.seenAlone.contains(layer); }
    void setAlone(level::LayerId layer, bool on);
    void noneAlone();
    // The level as it is looked at.
    [[nodiscard]] level::Level seen(const level::Level& level) const;

    // What cells are laid on: the level, or the close-up of the active layer where that has cells of its own.
    [[nodiscard]] level::Level work() const;
    [[nodiscard]] Lattice workLattice() const;
    [[nodiscard]] level::Level withWork(const level::Level& work) const; // the level with that work

    // One step of history each.
    void apply(const QString& name, level::Project next, const std::string& merge = {});
    void applyLevel(const QString& name, level::Level next, const std::string& merge = {});
    // A step in which plantings grew: what differs there is not by hand.
    void applyGrown(const QString& name, level::Project next, const std::string& merge = {});
    // The same for changes that gave out ids; and for a changed work().
    void applyLevel(const QString& name, level::Level next, std::uint32_t nextId);
    void applyWork(const QString& name, const level::Level& next);
    void applyWork(const QString& name, const level::Level& next, std::uint32_t nextId);
    void applyJoined(JoinedChange change) { joined_.apply(std::move(change)); }
    void undo();
    void redo();
    void goTo(std::size_t place);        // in the history
    void keepPoint(const QString& name); // these two say what goes wrong
    void goBack(std::size_t keepPoint);
    // Reads what was kept, in the background; then `done` with its place among the keep-points.
    void readKept(std::size_t keepPoint, const std::function<void(std::size_t)>& done);
    void forget(std::size_t keepPoint);
    void save(); // throws InputError
    // The same while one goes on working; `done` or `failed` is called when the disk has it. Throws InputError where it
    // cannot begin. While one is under way the next waits for it.
    void saveInBackground(std::function<void()> done, std::function<void(const std::exception&)> failed);
    void finishSaving(); // waits for what is under way

    // A change that loses something in use waits for an answer; any other is applied at once.
    void propose(const QString& name, level::Project next, const std::string& merge = {});
    struct Waiting {
        QString name;
        std::shared_ptr<const level::Project> next;
        Text losses;
    };
    [[nodiscard]] const std::optional<Waiting>& waiting() const { return waiting_; }
    void answer(bool go);

    // A material from the sheet, its joins read from the art, as the kind that fits best where none is given; goes to
    // Join with it.
    void makeMaterial(level::SheetId sheet);
    void makeMaterial(level::SheetId sheet, level::JoinKind kind);

    // As of a moment ago: looked for in the background, on a snapshot, after the project has changed.
    [[nodiscard]] const std::vector<findings::Finding>& findings() const { return findings_; }

    // What the last try in Walk came to; forgotten when the level changes.
    enum class Tried { no, walked, exit, fell };
    [[nodiscard]] Tried tried() const;
    void setTried(Tried tried);
    [[nodiscard]] QString builtDir() const; // where parcels of the project are built

  signals:
    void changed(); // the project, or what is chosen
    void opened();  // another project, or none
    void stageChanged();
    void findingsChanged();
    void handChanged();
    void selectionChanged();
    void said(const QString& text, bool trouble); // a message for the reading line
    void whoAsked(Point cell);                    // who decides there is asked, in Bound

  private:
    std::function<void()> saveNext_; // waits for the save that is under way
    void addMaterial(level::SheetId sheet, level::JoinKind kind, const join::JoinReading& read);
    void lookForFindings();
    void tellDamages();
    void moved(); // the document is in another state
    void settle();
    [[nodiscard]] level::LayerId closeUpOf() const;

    std::unique_ptr<edit::Document> document_;
    Choice choice_;
    std::optional<Waiting> waiting_;
    Derived derived_;
    Planter planter_;
    PlayClock playClock_;
    std::vector<findings::Finding> findings_;
    edit::ProjectState findingsOf_;
    std::shared_ptr<findings::Checker> checker_; // used by one job at a time
    QTimer findingsTimer_;
    Tried tried_ = Tried::no;
    std::shared_ptr<const level::Level> triedLevel_;
    Jobs jobs_; // before what its jobs report to
    JoinReadings joins_;
    JoinedChanges joined_;
    Library library_;
    Keeper keeper_;
    std::unique_ptr<KitBodies> bodies_;
    std::unique_ptr<MergedMass> mass_;
};

} // namespace vic::app
