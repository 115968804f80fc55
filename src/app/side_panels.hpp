// The right sides of Dress, Bound and Walk, and the middle of Walk.
#pragma once

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSpinBox>
#include <QTemporaryDir>
#include <QWidget>

#include "app/level_view.hpp"
#include "player/parcel_view.hpp"

namespace vic::app {

// What the prop in the Hand, or the chosen one, is.
class PropPanel : public QWidget {
    Q_OBJECT
  public:
    PropPanel(Session& session, QWidget* parent);
    void follow();

  private:
    [[nodiscard]] const level::PropKind* kind() const;
    Session& session_;
    QLineEdit* name_;
    QCheckBox* blocks_;
    QLabel* foot_;
};

class BoundPanel : public QWidget {
    Q_OBJECT
  public:
    BoundPanel(Session& session, LevelView& view, QWidget* parent);
    void follow(); // also while a stroke is drawn

  private:
    Session& session_;
    LevelView& view_;
    QLabel *shapes_, *outlines_, *corners_, *oneWay_, *hint_, *aside_;
};

// Builds the level into a folder of its own, reads it back through the runtime and lets one walk in it.
class WalkCentre : public QWidget {
    Q_OBJECT
  public:
    WalkCentre(Session& session, QWidget* parent);
    void enter();
    void leave();
    [[nodiscard]] player::ParcelView* view() const { return view_; }
    [[nodiscard]] QString reading() const;

  signals:
    void readingChanged();

  private:
    Session& session_;
    player::ParcelView* view_;
    std::unique_ptr<QTemporaryDir> dir_;
    std::shared_ptr<const level::Level> built_;
    bool active_ = false;
};

class WalkPanel : public QWidget {
    Q_OBJECT
  public:
    WalkPanel(Session& session, WalkCentre& centre, QWidget* parent);
    void follow();
    void tick();

  private:
    void change();
    Session& session_;
    WalkCentre& centre_;
    QComboBox* view_;
    QDoubleSpinBox *width_, *height_, *speed_, *jump_;
    QSpinBox *frameWidth_, *frameHeight_;
    QLabel *place_, *state_, *touched_;
};

} // namespace vic::app
