// The one window: workline above, a panel on each side, the level between them, the reading line below.
#pragma once

#include <QMainWindow>
#include <QPointF>
#include <QString>
#include <QStringList>
#include <functional>
#include <vector>

#include "app/bound/bound_panel.hpp"
#include "app/commands/lay_commands.hpp"
#include "app/cut/cut_centre.hpp"
#include "app/cut/kind_panel.hpp"
#include "app/cut/sheet_list.hpp"
#include "app/cut/tile_panel.hpp"
#include "app/dress/mark_panel.hpp"
#include "app/dress/planting_panel.hpp"
#include "app/dress/prop_panel.hpp"
#include "app/hand_over/hand_over_page.hpp"
#include "app/join/case_panel.hpp"
#include "app/join/join_centre.hpp"
#include "app/join/material_list.hpp"
#include "app/lay/plan_panel.hpp"
#include "app/lay/size_clash.hpp"
#include "app/section/section_panel.hpp"
#include "app/section/stroke_list.hpp"
#include "app/session/session.hpp"
#include "app/shell/finder.hpp"
#include "app/shell/help.hpp"
#include "app/shell/history_panel.hpp"
#include "app/shell/keys.hpp"
#include "app/shell/keys_page.hpp"
#include "app/shell/kit_page.hpp"
#include "app/shell/notice.hpp"
#include "app/shell/pack_page.hpp"
#include "app/shell/reading_line.hpp"
#include "app/shell/start_page.hpp"
#include "app/shell/steps.hpp"
#include "app/shell/tool_row.hpp"
#include "app/shell/workline.hpp"
#include "app/tray/tray.hpp"
#include "app/view/level_view.hpp"
#include "app/walk/walk_centre.hpp"
#include "app/walk/walk_panel.hpp"
#include "base/text.hpp"
#include "edit/beginnings.hpp"

class QAction;
class QCloseEvent;
class QDragEnterEvent;
class QDragLeaveEvent;
class QDropEvent;
class QEvent;
class QKeyEvent;
class QKeySequence;
class QObject;
class QSplitter;
class QStackedWidget;
class QWidget;

namespace vic::edit {
struct Outside;
} // namespace vic::edit

namespace vic::app {

class BoundPanel;
class CasePanel;
class CutCentre;
class Finder;
class HandOverPage;
class Guide;
class HelpCard;
class HistoryPanel;
class JoinCentre;
class KeysPage;
class KindPanel;
class LayCommands;
class WhyCard;
class LevelView;
class MaterialList;
class Notice;
class KitPage;
class PackPage;
class PlanPanel;
class PlantingPanel;
class PropPanel;
class DressCommands;
class ReadingLine;
class SectionPanel;
class SheetList;
class SizeClash;
class StartPage;
class Steps;
class StrokeList;
class TilePanel;
class ToolRow;
class Tray;
class WalkCentre;
class HeightPanel;
class WalkPanel;
class Workline;

class MainWindow : public QMainWindow {
    Q_OBJECT
  public:
    explicit MainWindow(QWidget* parent = nullptr);

    // False, with a notice in the window, where the project cannot be opened; what was open stays.
    bool openProject(const QString& dir);
    void endNow(); // without a question; what was done is in the journal
    [[nodiscard]] Session& session() { return session_; }
    [[nodiscard]] LevelView* levelView() { return levelView_; }
    [[nodiscard]] QString readingText() const;

  protected:
    void dragEnterEvent(QDragEnterEvent*) override;
    void dragLeaveEvent(QDragLeaveEvent*) override;
    void dropEvent(QDropEvent*) override;
    void closeEvent(QCloseEvent*) override;
    void keyPressEvent(QKeyEvent* event) override;
    bool eventFilter(QObject* object, QEvent* event) override;

  private:
    using Go = std::function<void()>;

    void buildLeft();
    void buildMiddle();
    void buildRight();
    void listen();
    void listenToPanels();
    void refreshStage();
    [[nodiscard]] bool walksInHeight() const;
    void focusCentre();
    void refresh();
    void refreshStagePanels();
    void refreshClash();
    [[nodiscard]] static bool writing(); // whether one types into a field
    void read();
    void say(const QString& text, bool trouble);
    void offerGround(level::MaterialId fallen); // which the walker fell through
    // Does it; what goes wrong is said in a notice. Whether it went well.
    bool attempt(const Go& what);
    void setQuiet(bool on);
    void setDark(bool dark);
    void showLook(const Tokens& tokens);

    // main_actions.cpp, lay_actions.cpp
    QAction* add(Where where, const QString& id, const QString& name, const QKeySequence& key, const Go& go,
                 const QString& help = {});
    void buildActions();
    void buildProjectActions();
    void buildViewActions();
    void buildBoundActions();
    void buildTryActions();
    void buildToolActions();
    void buildReadingActions();
    void buildSelectionActions();
    void buildHandActions();
    void buildDressActions();
    void buildChosenActions();
    void askForEnsemble();
    void refreshDressed();
    void buildLayerActions();
    void buildLevelActions();
    void buildShapeActions();
    void sortActions(); // those of other stages are off
    // main_start.cpp
    void listenToStart();
    void showStart();
    bool leaveProject();
    void closeProject();
    bool newProject(const QString& name, edit::Beginning beginning);
    void beginWith(const QStringList& dropped);
    void beginWithPictures(const QStringList& files);
    void beginWithFolder(const QString& dir);
    void openDemo();
    void askForProject();
    void saveAs();
    bool saveElsewhere(const QString& to);
    [[nodiscard]] QString projectDir() const;
    // main_files.cpp
    void addFolder(const QString& dir);
    void listenToPages();
    void showPage(QWidget* page); // in the place of the stages; null: those again
    void takePack(const QString& title, const std::vector<Chosen>& chosen);
    void takeKit(const ChosenKit& kit);
    void openKit(const QString& path); // read, and shown as a page
    // main_open.cpp
    void save();
    void saveFailed(const std::exception& e);
    enum class Elsewhere { look, copy, leave };
    Elsewhere askElsewhere(const QString& dir); // that another window has open
    bool openCopy(const QString& dir);
    void askLeft();
    void askOutside(const edit::Outside& outside);
    void askMany(const Planter::Order& order, qulonglong wanted);
    bool keepBeside(QString& place);
    void askGone();
    [[nodiscard]] static bool savesItself();
    void addSheets(const QStringList& files);
    void askForSheet();
    void askForPlan();
    void remember();
    void restore();
    [[nodiscard]] QString settingsGroup() const;
    // main_levels.cpp
    void newLevel();
    void duplicateLevel();
    void renameLevel();
    void removeLevel();
    void askForCellSize();
    void askForEdges();
    void askForThinShare();
    // main_find.cpp
    void showPlaceMenu();
    void find();
    void showKeys();
    void showHelp();
    void blink(); // to the last keep-point, as long as its key is held
    void unblink();
    void beginSteps();
    void showGuide(const QString& heading);

    Session session_;
    QTimer retry_;  // a save that failed
    QTimer itself_; // the next save that nobody asked for
    bool asking_ = false;
    bool ended_ = false;
    QStackedWidget* pages_; // the start page, and the bench
    StartPage* start_;
    PackPage* pack_;
    KitPage* kit_;
    Workline* workline_;
    QSplitter* split_;
    QStackedWidget *left_, *centre_, *right_, *cutSide_;
    ToolRow* toolRow_;
    SizeClash* clash_;
    LayCommands* commands_;
    DressCommands* dress_;
    WhyCard* whyCard_;
    SectionPanel* section_;
    StrokeList* strokes_;
    HistoryPanel* history_;
    PlanPanel* plan_;
    SheetList* sheetList_;
    MaterialList* materialList_;
    LevelView* levelView_;
    CutCentre* cut_;
    JoinCentre* join_;
    WalkCentre* walk_;
    HandOverPage* handOver_;
    Tray* tray_;
    MarkPanel* markPanel_ = nullptr;
    PropPanel* propPanel_;
    PlantingPanel* planting_ = nullptr;
    QScrollArea* propSide_; // with that in it
    TilePanel* tilePanel_;
    KindPanel* kindPanel_;
    CasePanel* casePanel_;
    BoundPanel* boundPanel_;
    WalkPanel* walkPanel_;
    HeightPanel* heightPanel_;
    ReadingLine* readingLine_;
    Notice* notice_;
    Finder* finder_;
    Keys keys_;
    KeysPage* keysPage_;
    HelpCard* help_;
    Steps* steps_;
    Guide* guide_ = nullptr;          // made when it is asked for
    Stage before_ = Stage::lay;       // where Esc returns to from Walk
    std::optional<QPointF> walkFrom_; // cells: where the next walk in three dimensions begins, else at the start
    bool quiet_ = false;
    bool blinking_ = false;
};

} // namespace vic::app
