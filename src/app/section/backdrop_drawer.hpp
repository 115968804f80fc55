// The settings of a backdrop, in the drawer of its slab: picture, tint, how far it steps back, where and how large it
// is, whether it repeats; and what one would not like to see of it in the game.
#pragma once

#include <QString>
#include <QWidget>
#include <functional>
#include <string>

#include "app/parts/binding.hpp"
#include "edit/backdrop.hpp"
#include "level/level.hpp"

class QHBoxLayout;
class QSpinBox;
class QToolButton;
class QVBoxLayout;

namespace vic::app {

class Session;

class BackdropDrawer : public QWidget {
    Q_OBJECT
  public:
    BackdropDrawer(Session& session, level::LayerId layer, QWidget* parent);
    void refresh();

  private:
    using What = std::function<void(level::Backdrop&)>;
    [[nodiscard]] const level::Layer& layer() const;
    [[nodiscard]] const level::Backdrop& backdrop() const { return *layer().backdrop(); }
    [[nodiscard]] const level::Sheet* sheet() const; // with a picture; or null
    void change(const QString& name, const What& what, const std::string& merge = {});
    void buildPicture();
    void buildRepeats();
    void buildPlace();
    void buildFit();
    [[nodiscard]] QString trouble() const; // seams that do not close, and gaps

    Session& session_;
    level::LayerId id_;
    QVBoxLayout* column_;
    Bindings fields_;
};

} // namespace vic::app
