// A first level in five minutes: seven steps, each said beside the control it is about. A step that is done goes on to
// the next by itself; nothing waits for it, and what is done already is passed over.
#pragma once

#include <QFrame>
#include <QPoint>
#include <QString>
#include <QTimer>
#include <QWidget>
#include <array>

#include "app/session/session.hpp"

class QEvent;
class QLabel;
class QPaintEvent;
class QPushButton;

namespace vic::app {

class LevelView;

// A line around what a step is about.
class StepRing : public QWidget {
    Q_OBJECT
  public:
    explicit StepRing(QWidget* parent);

  protected:
    void paintEvent(QPaintEvent*) override;
};

class Steps : public QFrame {
    Q_OBJECT
  public:
    Steps(Session& session, LevelView& view, QWidget* window);
    void begin(); // or go on, where they were left
    void leave();
    [[nodiscard]] bool on() const { return on_; }
    void refresh();

  signals:
    void demoArtAsked();
    void guideAsked(const QString& heading);

  protected:
    bool eventFilter(QObject* object, QEvent* event) override;

  private:
    enum Step { Art, Cut, Joins, Take, Paint, Walk, Build, Done };
    static constexpr int kSteps = Done;
    // What is said, and beside which control: its object name.
    struct Said {
        QString what, then;
        const char* beside;
    };
    [[nodiscard]] Step first() const; // that is not done
    [[nodiscard]] bool walked() const;
    [[nodiscard]] Said said(Step step) const;
    void place();
    Session& session_;
    LevelView& view_;
    QWidget* window_;
    StepRing* ring_;
    QLabel *count_, *what_, *then_;
    QPushButton *demo_, *leave_, *guide_;
    QTimer settle_; // until panels are where they will be
    QTimer watch_;
    std::array<bool, kSteps> done_{};
    const char* beside_ = nullptr;
    bool on_ = false;
    bool pressed_ = false; // a stroke is drawn: nothing lies over the cells
};

} // namespace vic::app
