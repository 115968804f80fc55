// The settings of a layer, in the drawer of its slab. Made once for a layer while it is the active one; its fields
// follow the document.
#pragma once

#include <QString>
#include <QWidget>
#include <functional>
#include <string>

#include "app/parts/binding.hpp"
#include "base/geometry.hpp"
#include "level/level.hpp"
#include "level/sheet.hpp"

class QHBoxLayout;
class QToolButton;
class QVBoxLayout;

namespace vic::app {

class BackdropDrawer;
class Session;

class LayerDrawer : public QWidget {
    Q_OBJECT
  public:
    LayerDrawer(Session& session, level::LayerId layer, QWidget* parent);
    void refresh();

  private:
    using What = std::function<void(level::Layer&)>;
    [[nodiscard]] const level::Layer* layer() const; // null where it is gone
    [[nodiscard]] static level::LayerId idOf(const level::Layer& layer) { return layer.id; }
    template <class T>
    [[nodiscard]] std::function<T()> of(T level::Layer::*field) const;
    void change(const QString& name, const What& what, const std::string& merge = {});
    // A named row; returns what holds both the name and the control.
    QWidget* row(const QString& name, QWidget* control);

    void buildName();
    void buildLook();
    void buildOrder();
    void buildBlocking();
    void buildOverlay();
    void buildFacts();
    void buildGroup();
    void buildDepth();
    void buildCells();
    void buildButtons();
    // A property that is told across and down.
    struct Pair {
        const char* id;
        QString name;
        Point level::Layer::*field;
        int least = 0, most = 0, step = 1;
        QString unit, help;
        QString what; // the step of history
        std::function<bool()> shown;
    };
    void pair(const Pair& of);
    QToolButton* button(QHBoxLayout* row, const char* id, const QString& text, const QString& help);
    static int code(level::Grain grain);
    void divide(level::Grain grain);

    Session& session_;
    level::LayerId id_;
    QVBoxLayout* column_;
    BackdropDrawer* backdrop_ = nullptr;
    Bindings fields_;
};

} // namespace vic::app
