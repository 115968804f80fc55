// What lies behind all layers, at the bottom of the Section: the background's colour, or none, and a picture to build
// after.
#pragma once

#include <QString>
#include <QWidget>
#include <functional>
#include <string>

#include "app/parts/binding.hpp"
#include "level/level.hpp"

class QToolButton;
class QVBoxLayout;

namespace vic::app {

class Session;

class BehindCard : public QWidget {
    Q_OBJECT
  public:
    BehindCard(Session& session, QWidget* parent);
    void refresh();

  private:
    using What = std::function<void(level::Level&)>;
    void change(const QString& name, const What& what, const std::string& merge = {});
    void changeReference(const std::function<void(level::Reference&)>& what, const std::string& merge);
    void buildGround(QVBoxLayout* column);
    void buildReference(QVBoxLayout* column);
    void buildPlace(QVBoxLayout* column);
    void chooseColour();
    [[nodiscard]] const level::Reference* reference() const; // null where there is none
    [[nodiscard]] double measuredLength() const;             // pixels of the level; 0 where nothing was measured
    void scaleTo(double cells);
    [[nodiscard]] QString words() const;
    Session& session_;
    QToolButton* head_;
    QWidget* inner_;
    QToolButton* colour_;
    Bindings fields_;
    bool unfolded_ = false;
};

} // namespace vic::app
