// In the tool row of Dress: where props come to stand, and how far apart those of a row are.
#pragma once

#include <QString>
#include <QWidget>
#include <functional>
#include <vector>

#include "app/session/tool.hpp"

class QMenu;
class QSpinBox;
class QToolButton;

namespace vic::app {

class Session;
struct Tokens;

class StandOptions : public QWidget {
    Q_OBJECT
  public:
    StandOptions(Session& session, QWidget* parent);
    void refresh();
    void setLook(const Tokens& tokens);

  private:
    void change(const std::function<void(ToolOptions&)>& what);
    QToolButton* toggle(const char* id, const char* icon, const QString& name, const QString& help,
                        const std::function<bool&(ToolOptions&)>& which);
    void buildLattice();
    QToolButton* menuOf(const char* id, QMenu*& menu, const char* name, const std::vector<QString>& entries,
                        const std::function<void(ToolOptions&, int)>& take);
    void buildRow();
    Session& session_;
    QToolButton* lattice_ = nullptr;
    QMenu* places_ = nullptr; // of it
    QToolButton* rests_ = nullptr;
    QMenu* restings_ = nullptr;
    QSpinBox* apart_ = nullptr;
    struct Toggle {
        QToolButton* button;
        const char* icon;
        std::function<bool&(ToolOptions&)> which;
    };
    std::vector<Toggle> toggles_;
    QToolButton *toProps_, *curve_, *faces_, *onlyHere_;
};

} // namespace vic::app
