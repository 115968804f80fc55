// What is used in the level, each with what it is to a walker, to be changed there.
#pragma once

#include <QWidget>
#include <vector>

#include "edit/used.hpp"

class QCheckBox;
class QLabel;
class QMenu;
class QToolButton;

namespace vic::app {

class CardList;
class ClassField;
struct Card;
class LevelView;
class Session;

class UsedList : public QWidget {
    Q_OBJECT
  public:
    UsedList(Session& session, LevelView& view, QWidget* parent);
    void refresh();
    void leave(); // Bound is left: nothing is marked any more
    void choose(const edit::Used& thing);

  private:
    void buildParts();
    void buildScope();
    void giveClass(const QString& name);
    [[nodiscard]] Card cardOf(const edit::Used& used, const level::Project& said) const;
    void mark();
    void give(edit::Blocking blocking);
    void letLayersBlock();
    void askWhatItTells();
    void giveTelling(level::Project project, level::AreaKindId kind); // to what is chosen
    void addAreaEntries(QMenu& menu, const level::AreaKind& kind);    // to change one of the list
    [[nodiscard]] std::vector<edit::Used> chosen() const;
    Session& session_;
    LevelView& view_;
    edit::UsedCounter counter_;
    std::vector<edit::Used> things_;
    CardList* list_ = nullptr;
    QLabel* aside_ = nullptr;
    QLabel* hint_ = nullptr;
    QToolButton* layers_ = nullptr;
    QToolButton* tells_ = nullptr;
    QToolButton* asProject_ = nullptr;
    QCheckBox* hereOnly_ = nullptr;
    ClassField* class_ = nullptr;
    std::vector<QToolButton*> parts_;
};

} // namespace vic::app
