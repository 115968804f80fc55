// The one window: workline above, a panel on each side, the level between them, the reading line below.
#pragma once

#include <QElapsedTimer>
#include <QMainWindow>
#include <QString>
#include <QStringList>
#include <QTimer>
#include <functional>
#include <optional>
#include <vector>

#include "app/session/session.hpp"
#include "base/geometry.hpp"
#include "base/text.hpp"

class QAction;
class QCloseEvent;
class QDragEnterEvent;
class QDropEvent;
class QEvent;
class QKeyEvent;
class QKeySequence;
class QLabel;
class QObject;
class QStackedWidget;
class QWidget;

namespace vic::app {

class BoundPanel;
class CasePanel;
class CutCentre;
class Finder;
class HandOverPage;
class HistoryPanel;
class JoinCentre;
class KindPanel;
class LayCommands;
class LevelView;
class MaterialList;
class PlanPanel;
class PropPanel;
class SectionPanel;
class SheetList;
class StrokeList;
class TilePanel;
class ToolRow;
class Tray;
class WalkCentre;
class WalkPanel;
class Workline;

class MainWindow : public QMainWindow {
    Q_OBJECT
  public:
    explicit MainWindow(QWidget* parent = nullptr);

    // False, with a notice in the window, where the project cannot be opened; what was open stays.
    bool openProject(const QString& dir);
    [[nodiscard]] Session& session() { return session_; }
    [[nodiscard]] LevelView* levelView() { return levelView_; }
    [[nodiscard]] QString readingText() const;

  protected:
    void dragEnterEvent(QDragEnterEvent*) override;
    void dropEvent(QDropEvent*) override;
    void closeEvent(QCloseEvent*) override;
    void keyPressEvent(QKeyEvent* event) override;
    bool eventFilter(QObject* object, QEvent* event) override;

  private:
    void buildActions();
    QAction* add(const QString& id, const QString& name, const QKeySequence& key, const QString& help,
                 const std::function<void()>& go);
    void refreshStage();
    void focusCentre();
    void refresh();
    void read();
    void say(const QString& text, bool trouble);
    void save();
    void addFolder(const QString& dir);
    void addSheets(const QStringList& files);
    void askForSheet();
    void askForProject();
    void showPlaceMenu();
    void newLevel();
    void renameLevel();
    void buildLayActions(const std::function<QAction*(const QString&, const QString&, const QKeySequence&,
                                                      const std::function<void()>&)>& levelKey);
    void askForPlan();
    void askForCellSize();
    void askForEdges();
    void find();
    void showKeys();
    void setQuiet(bool on);
    void setDark(bool dark);
    void restore();
    void remember();

    Session session_;
    Workline* workline_;
    QStackedWidget *left_, *centre_, *right_;
    QWidget *leftFrame_, *rightFrame_, *leftLine_, *rightLine_;
    ToolRow* toolRow_;
    LayCommands* commands_;
    SectionPanel* section_;
    StrokeList* strokes_;
    HistoryPanel* history_;
    PlanPanel* plan_;
    SheetList* sheetList_;
    MaterialList* materialList_;
    QWidget* handOverLeft_;
    LevelView* levelView_;
    CutCentre* cut_;
    JoinCentre* join_;
    WalkCentre* walk_;
    HandOverPage* handOver_;
    Tray* tray_;
    PropPanel* propPanel_;
    QStackedWidget* cutSide_;
    TilePanel* tilePanel_;
    KindPanel* kindPanel_;
    CasePanel* casePanel_;
    BoundPanel* boundPanel_;
    WalkPanel* walkPanel_;
    QWidget* readingLine_;
    QLabel *reading_, *waits_, *saved_;
    QWidget* notice_;
    QLabel* noticeText_;
    Finder* finder_;
    std::vector<QAction*> actions_;
    Stage before_ = Stage::lay; // where Esc returns to from Walk
    bool quiet_ = false;
    qint64 savedAt_ = 0;
    QTimer clock_;
    QString message_;
    std::optional<Point> messageAt_; // the cell pointed at when it was said
    QElapsedTimer messageSince_;
    bool messageLeft_ = false; // whether the pointer has been at another one since
    QTimer messageTimer_;
};

} // namespace vic::app
