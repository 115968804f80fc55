// What a level has in three dimensions, to be set where it is seen: its light, how the game looks at it, how high its
// storeys are; and what comes of its pieces when they are merged.
#pragma once

#include <QFrame>

#include "app/parts/binding.hpp"

class QGridLayout;
class QLabel;
class QSlider;
class QWidget;

namespace vic::level {
struct Level;
}

namespace vic::app {

class Session;

class LightCard : public QFrame {
    Q_OBJECT
  public:
    LightCard(Session& session, QWidget* parent);
    void refresh();
    void setGame(bool on); // whether it is seen as the game shows it
    void say(const QString& merged, bool shown);

  signals:
    void sectionAsked(double share); // of the level that is cut away, 0 .. 1

  private:
    struct Part {
        const char* id;
        QString name, help;
        int least, most;
        bool game = false; // only where it is seen as the game shows it
    };
    QSlider* slider(const Part& part, int (*get)(const level::Level&), void (*set)(level::Level&, int),
                    QString (*says)(const level::Level&));
    void buildLight();
    void buildSight();
    void buildStorey();
    void buildSection();
    Session& session_;
    Bindings fields_;
    QGridLayout* grid_;
    int line_ = 0;
    bool game_ = false;
    QLabel* merged_;
};

} // namespace vic::app
