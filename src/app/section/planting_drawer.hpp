// What grows on a layer of planting: in the drawer of its slab. Every change plants anew.
#pragma once

#include <QPointer>
#include <QString>
#include <QWidget>
#include <cstddef>
#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "app/parts/binding.hpp"
#include "level/level.hpp"
#include "level/props.hpp"
#include "level/sheet.hpp"

class QVBoxLayout;

namespace vic::app {

class Session;

class PlantingDrawer : public QWidget {
    Q_OBJECT
  public:
    PlantingDrawer(Session& session, level::LayerId layer, QWidget* parent);
    void refresh();

  private:
    using What = std::function<void(level::Planting&)>;
    [[nodiscard]] const level::Planting& planting() const;
    // Changes the recipe and plants anew; says where that cannot be.
    void replant(const QString& name, const What& what, const std::string& merge = {});
    // What is to be planted.
    struct Order {
        level::LayerId layer = 0;
        QString name; // of the step
        std::string merge;
        level::Planting recipe;
    };
    static void plant(Session& session, const Order& order, const QPointer<PlantingDrawer>& drawer);
    void buildGround();
    void buildDensity();
    void buildButtons();
    void showKinds(); // a line for each
    QWidget* kindLine(std::size_t at);
    QWidget* field(const QString& name, QWidget* control);

    Session& session_;
    level::LayerId id_;
    QVBoxLayout* column_;
    QVBoxLayout* kinds_;
    std::optional<level::Planting> pending_; // being planted
    std::vector<level::PropKindId> shown_;
    Bindings lines_; // of the kinds
    Bindings fields_;
};

} // namespace vic::app
