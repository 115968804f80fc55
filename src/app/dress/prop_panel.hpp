// The right side of Dress, below the Tray: the prop in the Hand, or the chosen ones.
#pragma once

#include <QString>
#include <QWidget>
#include <functional>
#include <string>
#include <vector>

#include "app/parts/binding.hpp"
#include "level/prop.hpp"
#include "level/prop_kind.hpp"

class QLabel;
class QToolButton;
class QVBoxLayout;

namespace vic::app {

class DressCommands;
class KindFields;
class NoteRows;
class Session;

// How it stands and looks, its name and notes, and what its kind is.
class PropPanel : public QWidget {
    Q_OBJECT
  public:
    PropPanel(Session& session, DressCommands& commands, QWidget* parent);
    void refresh();

  signals:
    void moreShown(QWidget* fields); // of the kind; they may lie out of view

  private:
    void buildHead(QVBoxLayout* column);
    void buildStance(QVBoxLayout* column);
    void buildColours(QVBoxLayout* column);
    void buildOrder(QVBoxLayout* column);
    void buildDepth(QVBoxLayout* column);
    void buildArrange(QVBoxLayout* column);
    void buildWords(QVBoxLayout* column);
    void buildKind(QVBoxLayout* column);
    void chooseTint();
    [[nodiscard]] std::vector<level::Prop> props() const; // the chosen ones, or one as the Hand would place it
    [[nodiscard]] std::vector<level::PropKind> kinds() const;
    [[nodiscard]] bool held() const;
    [[nodiscard]] level::Look look() const; // of the first
    void changeOwn(const QString& name, const std::function<void(level::PropOwn&)>& what);
    Session& session_;
    DressCommands& commands_;
    Bindings fields_;
    QLabel* picture_ = nullptr;
    QLabel* title_ = nullptr;
    QLabel* under_ = nullptr;
    QToolButton *tint_ = nullptr, *mirror_ = nullptr;
    QWidget* arrange_ = nullptr;
    QWidget* words_ = nullptr;
    QToolButton* more_ = nullptr;
    KindFields* kind_ = nullptr;
    NoteRows* notes_ = nullptr;
};

} // namespace vic::app
