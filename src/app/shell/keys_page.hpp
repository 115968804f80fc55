// All keys: what can be done and how, by stage, the one in use first. A key is changed by a click on it.
#pragma once

#include <QFrame>
#include <QKeySequence>
#include <QString>
#include <vector>

#include "app/session/choice.hpp"
#include "app/shell/keys.hpp"

class QEvent;
class QKeyEvent;
class QLabel;
class QLineEdit;
class QScrollArea;
class QToolButton;
class QVBoxLayout;

namespace vic::app {

class KeysPage : public QFrame {
    Q_OBJECT
  public:
    KeysPage(Keys& keys, QWidget* parent);
    void open(Where here, const QString& stage);

  protected:
    void keyPressEvent(QKeyEvent* event) override;
    bool eventFilter(QObject* object, QEvent* event) override;

  private:
    struct Row {
        QAction* action = nullptr; // null for what is done with the mouse
        QWidget* whole = nullptr;
        QToolButton* key = nullptr;
        QString text; // that is searched
    };
    struct Group {
        QWidget* whole = nullptr;
        std::vector<Row> rows;
    };
    void fill();
    void addGroup(QVBoxLayout* column, const QString& name, const std::vector<QAction*>& actions);
    void addMouse(QVBoxLayout* column);
    QWidget* addRow(Group& group, QWidget* parent, const QString& name, const QString& help);
    void filter();
    void wait(QAction* action); // for its new key; null: for none
    void take(const QKeySequence& key);
    void show(const Row& row);
    void tell();
    Keys& keys_;
    Where here_ = Where::level;
    QString stage_;
    QLineEdit* field_;
    QLabel* said_;
    QScrollArea* scroll_;
    std::vector<Group> groups_;
    QAction* waiting_ = nullptr;
    QKeySequence asked_; // which another command has
};

} // namespace vic::app
