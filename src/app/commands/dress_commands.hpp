// What is done to chosen props and marks, or to the prop in the Hand. The window gives it keys.
#pragma once

#include <QObject>
#include <QString>
#include <functional>
#include <string>

#include "edit/dress.hpp"
#include "level/prop.hpp"

namespace vic::app {

class Session;

class DressCommands : public QObject {
    Q_OBJECT
  public:
    DressCommands(Session& session, QObject* parent);

    // Of what is chosen, else of the Hand. `merge`: one step of history as long as it goes on.
    void changeLook(const QString& name, const std::function<void(level::Look&)>& what, const std::string& merge = {});
    void turn(int tenths); // of a degree clockwise
    void scale(int steps);
    void mirror();
    void reset(); // as drawn: turn, scale, mirror and colours
    void nextVariant(int by);

    void chooseAll();
    void chooseAlike();
    void chooseTagged(); // with a tag of what is chosen
    void group(bool on);
    void align(edit::Align how);
    void distribute(bool upright);
    void order(edit::Order how);
    void replaceByHand(); // what is chosen becomes the prop in the Hand
    void toActiveLayer();
    void pushFree(); // what stands in something goes to the nearest free place
    void drop();     // onto the ground
    void copyBeside();

    void makeEnsemble(const QString& name);
    void takeApart();
    void openEnsemble(); // the chosen one; leaves an opened one

  private:
    [[nodiscard]] bool anyChosen(); // says so where nothing is
    void apply(const QString& name, const level::Level& next, const std::string& merge = {});
    Session& session_;
};

} // namespace vic::app
