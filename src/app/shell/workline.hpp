// The top of the window: project and level, the seven stages with their states, undo, redo and find.
#pragma once

#include <QAbstractButton>
#include <QSize>
#include <QString>
#include <QWidget>
#include <array>
#include <utility>

#include "app/parts/tokens.hpp"
#include "app/session/session.hpp"

class QPaintEvent;
class QToolButton;

namespace vic::app {

class Session;

enum class StageMark { none, look, complete };

class StageButton : public QAbstractButton {
    Q_OBJECT
  public:
    StageButton(Stage stage, const QString& name, QWidget* parent);
    void setState(const QString& state, StageMark mark, bool current);
    [[nodiscard]] QString state() const { return state_; }
    [[nodiscard]] StageMark mark() const { return mark_; }
    [[nodiscard]] QSize sizeHint() const override { return {118, 64}; }

  protected:
    void paintEvent(QPaintEvent*) override;

  private:
    Stage stage_;
    QString state_;
    StageMark mark_ = StageMark::none;
    bool current_ = false;
};

struct Tokens;

class Workline : public QWidget {
    Q_OBJECT
  public:
    Workline(Session& session, QWidget* parent);
    void refresh();
    void setLook(const Tokens& tokens);
    [[nodiscard]] QToolButton* place() const { return place_; }
    [[nodiscard]] QToolButton* find() const { return find_; }

  signals:
    void placeAsked();
    void findAsked();

  protected:
    void paintEvent(QPaintEvent*) override;

  private:
    [[nodiscard]] std::pair<QString, StageMark> stateOf(Stage stage) const;
    Session& session_;
    QToolButton* place_;
    QToolButton* undo_;
    QToolButton* redo_;
    QToolButton* find_;
    std::array<StageButton*, kStages> stages_{};
};

} // namespace vic::app
