// The Section: the level cut open and seen from the side. Every layer is a slab, front at the top, with the walker's
// plane between them. The active slab opens like a drawer.
#pragma once

#include <QPoint>
#include <QWidget>
#include <map>
#include <set>
#include <string>
#include <utility>
#include <vector>

#include "app/section/slab.hpp"
#include "level/notes.hpp"
#include "level/sheet.hpp"

class QAction;
class QPaintEvent;
class QScrollArea;
class QMenu;
class QToolButton;
class QVBoxLayout;

namespace vic::level {
struct Level;
} // namespace vic::level

namespace vic::app {

class BehindCard;
class SidesCard;
class Session;
class Slab;

class SectionPanel : public QWidget {
    Q_OBJECT
  public:
    SectionPanel(Session& session, QWidget* parent);
    void refresh();
    // While a slab is dragged: the place at which it would come to stand, as an index into edit::section_order().
    [[nodiscard]] int dropIndex(QPoint globalPos) const;
    void showDrop(int index);
    void dropped(int from, int to);
    // The layer whose slab is there; 0 for none.
    [[nodiscard]] level::LayerId layerAt(QPoint globalPos) const;
    void lightSlab(level::LayerId layer); // 0: none
    // Commands on the active layer that the slab's menu offers.
    void setMenuActions(std::vector<QAction*> actions) { menuActions_ = std::move(actions); }
    [[nodiscard]] const std::vector<QAction*>& menuActions() const { return menuActions_; }
    [[nodiscard]] bool folded(const std::string& group) const { return folded_.contains(group); }
    void fold(const std::string& group, bool on);

  protected:
    void paintEvent(QPaintEvent*) override;

  private:
    void showAddMenu(QWidget* under);
    void addFacts(level::NoteKind kind);
    void addStoreys(QMenu* menu);
    void layOut(const level::Level& level);
    Slab* slabOf(level::LayerId layer);
    [[nodiscard]] QToolButton* headOf(const std::string& group);
    Session& session_;
    QScrollArea* scroll_ = nullptr;
    QWidget* list_;
    QVBoxLayout* column_;
    QWidget* marker_;
    SidesCard* sides_ = nullptr;
    BehindCard* behind_;
    std::vector<Slab*> slabs_;                  // front to back
    std::map<std::string, QToolButton*> heads_; // by group
    std::vector<QAction*> menuActions_;
    std::set<std::string> folded_; // groups whose slabs are not shown
    std::string level_;            // whose slabs they are
    level::LayerId seen_ = 0;      // the active one whose slab came into view
};

} // namespace vic::app
