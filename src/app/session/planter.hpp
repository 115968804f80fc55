// Carries out the recipes of plantings in the background, one change after the other, as single steps of history.
#pragma once

#include <QObject>
#include <QString>
#include <functional>
#include <map>
#include <string>
#include <vector>

#include "level/planting.hpp"
#include "level/sheet.hpp"
#include "plant/grow.hpp"

namespace vic::app {

class Session;

class Planter : public QObject {
    Q_OBJECT
  public:
    explicit Planter(Session& session);
    using What = std::function<void(level::Planting&)>;
    // The recipe of a layer of the level that is shown, as it is or will be when it has grown. The layer must be one.
    [[nodiscard]] const level::Planting& recipe(level::LayerId layer) const;
    // Changes it, and lets it grow; steps with the same `merge`, which the layer's id is added to, become one.
    void change(level::LayerId layer, const QString& name, const What& what, const std::string& merge = {});
    // Lets it grow on the level as it is now.
    void again(level::LayerId layer, const QString& name) {
        change(layer, name, [](level::Planting&) {});
    }
    // What came of its passes when it grew last in this window; null where it did not.
    [[nodiscard]] const std::vector<plant::PassGrown>* grown(level::LayerId layer) const;
    // More than a hundred thousand would grow: the window asks, and calls again with `anyway`.
    struct Order {
        level::LayerId layer = 0;
        QString name; // of the step
        std::string merge;
        level::Planting recipe;
        bool anyway = false;
    };
    void grow(const Order& order);
    void forget(); // another project is open

  signals:
    void changed();
    void many(const vic::app::Planter::Order& order, qulonglong wanted);

  private:
    Session& session_;
    std::map<level::LayerId, level::Planting> pending_;
    std::map<level::LayerId, std::vector<plant::PassGrown>> grown_;
};

} // namespace vic::app
