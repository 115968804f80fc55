// The left side of Join: the materials with their coverage, and how the chosen one meets others.
#pragma once

#include <QString>
#include <QWidget>
#include <functional>
#include <memory>
#include <string>
#include <utility>
#include <vector>

#include "app/parts/binding.hpp"
#include "app/parts/card_list.hpp"
#include "app/session/session.hpp"
#include "base/geometry.hpp"
#include "level/cell.hpp"
#include "level/sheet.hpp"

class QCheckBox;
class QPushButton;
class QSpinBox;
class QVBoxLayout;

namespace vic::level {
struct JoinSet;
struct Material;
} // namespace vic::level

namespace vic::edit {
struct Rejoined;
} // namespace vic::edit

namespace vic::app {

class CardList;
class Session;

class MaterialList : public QWidget {
    Q_OBJECT
  public:
    MaterialList(Session& session, QWidget* parent);
    void refresh();
    // Which cells the level view shows, for joining those anew.
    void setSeen(std::function<Box()> seen) { seen_ = std::move(seen); }

  private:
    void showNewMenu(QWidget* under);
    void saveTemplate(level::JoinKind kind);
    void rename(quint32 id, const QString& name);
    void listen();
    void buildFoot(QVBoxLayout* column);
    void change(const QString& name, const std::function<void(level::JoinSet&)>& what, const std::string& merge = {});
    void refreshCards();
    void refreshOthers();
    void readPair(level::MaterialId other, level::SheetId sheet);
    void askRejoin();
    void offerRejoin(const std::vector<edit::Rejoined>& counted);
    Session& session_;
    Bindings fields_;
    CardList* list_;
    QWidget* others_;
    QSpinBox* priority_;
    QCheckBox* over_;
    QCheckBox* beyond_;
    QPushButton* rejoin_;
    std::function<Box()> seen_;
    std::shared_ptr<const level::Material> othersFor_;
    std::vector<std::shared_ptr<const level::Material>> othersOf_;
};

} // namespace vic::app
