// What the pieces of the open level fill, merged in the background for Bound to show.
#pragma once

#include <QObject>
#include <memory>
#include <vector>

#include "mass/shell.hpp"
#include "scene/scene.hpp"
#include "upright/snags.hpp"

namespace vic::app {

class Session;

// Ready to be drawn, in cells; parts by storey, from the lowest.
struct DrawnMass {
    struct Storey {
        std::vector<float> faces; // x, y, z of three corners each
        std::vector<float> lines; // of two ends each: where faces meet at an angle
    };
    std::vector<Storey> storeys;
    int pieces = 0, open = 0, polygons = 0;
    // What walking there is like, and what holds one up; of which level it is.
    std::shared_ptr<const upright::Survey> survey;
    std::shared_ptr<const mass::Shell> shell;
    std::vector<upright::Snag> snags;
    std::shared_ptr<const level::Level> level;
};

class MergedMass : public QObject {
    Q_OBJECT
  public:
    explicit MergedMass(Session& session);
    // That of the open level with these kits; while it is worked out the last one, and changed() is emitted then. Null
    // where there is none yet.
    [[nodiscard]] std::shared_ptr<const DrawnMass> of(const std::vector<std::shared_ptr<const scene::LoadedKit>>& kits);
    // The last one, whatever became of the level since; it is not worked out for this.
    [[nodiscard]] const std::shared_ptr<const DrawnMass>& last() const { return mass_; }

  signals:
    void changed();

  private:
    Session& session_;
    std::shared_ptr<const level::Level> level_; // of which it is, or is being worked out
    std::vector<std::shared_ptr<const scene::LoadedKit>> kits_;
    std::shared_ptr<const DrawnMass> mass_;
};

} // namespace vic::app
