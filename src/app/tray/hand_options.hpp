// What can be said of the Hand below its card: its home, what it leaves out, what it spreads, how a stamp is laid.
#pragma once

#include <QString>
#include <QWidget>
#include <map>
#include <vector>

#include "app/commands/lay_commands.hpp"
#include "app/session/session.hpp"
#include "edit/stroke.hpp"
#include "level/shape.hpp"

class QCheckBox;
class QComboBox;
class QLabel;
class QPushButton;
class QSlider;
class QToolButton;
class QVBoxLayout;

namespace vic::app {

class LayCommands;
class Session;

class HandOptions : public QWidget {
    Q_OBJECT
  public:
    HandOptions(Session& session, LayCommands& commands, QWidget* parent);
    void refresh();

  private:
    void buildStampRow();
    void buildBlockerRow();
    void buildShareRow();
    void buildHomeRow();
    QWidget* row(const QString& name);
    void fillSpread(const std::vector<edit::SpreadItem>& items);
    Session& session_;
    LayCommands& commands_;
    QVBoxLayout* column_;
    QWidget *homeRow_, *shareEmptyRow_, *stampRow_, *spreadBox_, *blockerRow_;
    std::map<level::TileShape, QToolButton*> shapes_;
    QComboBox* home_;
    QSlider* shareEmpty_;
    QLabel* share_;
    QPushButton *cast_, *keep_;
    QCheckBox *pins_, *nine_;
    QVBoxLayout* spread_;
    std::vector<edit::SpreadItem> shown_;
};

// The Hand with one thing more to choose from: what it holds and the new thing become a spread.
edit::Hand with_more(const edit::Hand& hand, const edit::SpreadItem& item);

} // namespace vic::app
