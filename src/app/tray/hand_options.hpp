// What can be said of the Hand below its card: its home, what it leaves out, what it spreads, how a stamp is laid.
#pragma once

#include <QString>
#include <QWidget>
#include <vector>

#include "app/commands/lay_commands.hpp"
#include "app/parts/binding.hpp"
#include "app/session/session.hpp"
#include "edit/stroke.hpp"

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
    void buildFactRow();
    void buildColourRow();
    void buildShareRow();
    void buildHomeRow();
    QWidget* row(const QString& name);
    void fillSpread(const std::vector<edit::SpreadItem>& items);
    void stretch(bool on);
    Session& session_;
    LayCommands& commands_;
    Bindings fields_;
    QVBoxLayout* column_;
    QWidget *homeRow_, *shareEmptyRow_, *stampRow_, *spreadBox_, *blockerRow_, *factRow_, *colourRow_;
    QVBoxLayout* spread_;
    std::vector<edit::SpreadItem> shown_;
};

// The Hand with one thing more to choose from: what it holds and the new thing become a spread.
edit::Hand with_more(const edit::Hand& hand, const edit::SpreadItem& item);

} // namespace vic::app
