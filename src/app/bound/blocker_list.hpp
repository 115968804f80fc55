// The blockers of the level that were drawn free of the lattice, one after the other, so that none is forgotten.
#pragma once

#include <QWidget>
#include <functional>
#include <vector>

#include "app/parts/binding.hpp"
#include "edit/free_blockers.hpp"

class QLabel;
class QToolButton;

namespace vic::app {

class CardList;
class ClassField;
class LevelView;
class NoteRows;
class Session;

class BlockerList : public QWidget {
    Q_OBJECT
  public:
    BlockerList(Session& session, LevelView& view, QWidget* parent);
    void refresh();

  private:
    void choose(quint32 row);
    [[nodiscard]] const level::FreeBlocker* chosen() const; // null: none
    void change(const QString& step, const std::function<void(level::FreeBlocker&)>& what);
    void take();
    Session& session_;
    LevelView& view_;
    std::vector<edit::FreeHit> rows_;
    std::optional<edit::FreeHit> chosen_;
    QLabel* count_ = nullptr;
    CardList* list_ = nullptr;
    QWidget* fields_ = nullptr;
    NoteRows* notes_ = nullptr;
    Bindings bound_;
    ClassField* class_ = nullptr;
};

} // namespace vic::app
