// Where the level leaks and what no one gets to, with what mends it at hand.
#pragma once

#include <QWidget>
#include <memory>
#include <vector>

#include "findings/leaks.hpp"

class QLabel;
class QToolButton;

namespace vic::app {

class CardList;
class LevelView;
class Session;

class LeakList : public QWidget {
    Q_OBJECT
  public:
    LeakList(Session& session, LevelView& view, QWidget* parent);
    void refresh(); // looks anew, in the background, where the level is another one

  private:
    void show(std::vector<findings::Leak> leaks);
    void choose(quint32 index);
    void close();
    void letBe();
    void mend(const findings::Leak& leak);  // what only looks so: it becomes what it looks like
    void leave(const findings::Leak& leak); // likewise: it is meant
    void fill();
    void shift();
    [[nodiscard]] const findings::Leak* chosen() const;
    [[nodiscard]] std::vector<findings::Leak> rims() const;
    Session& session_;
    LevelView& view_;
    level::Level of_;
    std::vector<std::shared_ptr<const level::Sheet>> sheets_;
    std::vector<std::shared_ptr<const level::Material>> materials_;
    std::vector<std::shared_ptr<const level::PropKind>> kinds_;
    std::vector<level::AreaKind> areas_;
    std::vector<findings::Leak> leaks_;
    int chosen_ = -1;
    CardList* list_ = nullptr;
    QLabel* count_ = nullptr;
    QLabel* none_ = nullptr;
    QToolButton *close_ = nullptr, *letBe_ = nullptr, *fill_ = nullptr, *shift_ = nullptr;
};

} // namespace vic::app
