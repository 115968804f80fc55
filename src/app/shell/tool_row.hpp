// The row of tools above the level: the tools of the stage, how the one in use goes about it, and what is shown.
#pragma once

#include <QString>
#include <QWidget>
#include <map>
#include <utility>
#include <vector>

#include "app/commands/lay_commands.hpp"
#include "app/session/session.hpp"
#include "app/session/tool.hpp"
#include "app/view/level_view.hpp"

class QLabel;
class QResizeEvent;
class QToolButton;

namespace vic::app {

struct Tokens;

class SolidSwitch;
class StandOptions;

class ToolRow : public QWidget {
    Q_OBJECT
  public:
    ToolRow(Session& session, LevelView& view, LayCommands& commands, QWidget* parent);
    void refresh();
    void refreshStage();
    void setLook(const Tokens& tokens);
    [[nodiscard]] QToolButton* outlines() const { return outlines_; }
    [[nodiscard]] QToolButton* frame() const { return frame_; }
    [[nodiscard]] QToolButton* lattice() const { return lattice_; }
    [[nodiscard]] QToolButton* jump() const { return jump_; }
    [[nodiscard]] QToolButton* soak() const { return soak_; }
    [[nodiscard]] SolidSwitch& solid() { return *solid_; }
    [[nodiscard]] QToolButton* reach() const { return reach_; }

  protected:
    void resizeEvent(QResizeEvent*) override;

  private:
    void makeRoom(); // what matters least gives way in a narrow window
    void buildTools();
    void buildOptions();
    QToolButton* toggle(const char* id, const char* icon, const QString& name, const QString& key, const QString& help);
    void showFrameMenu();
    void showLatticeMenu();
    Session& session_;
    LevelView& view_;
    LayCommands& commands_;
    QWidget* options_;
    SolidSwitch* solid_ = nullptr;
    StandOptions* stand_;
    std::vector<std::pair<Tool, QToolButton*>> tools_;
    std::map<QToolButton*, const char*> icons_;
    QToolButton *round_, *rim_, *blockerLine_, *blockerOpens_, *corners_, *alike_, *allLayers_, *replaces_, *keepStamp_,
        *grow_, *shrink_;
    QToolButton *outlines_, *soak_, *reach_, *frame_, *lattice_, *jump_;
    QLabel *cell_, *zoom_;
};

} // namespace vic::app
