// What the pieces of the open level fill, merged in the background for Bound to show.
#pragma once

#include <QObject>
#include <memory>
#include <vector>

#include "mass/merge.hpp"
#include "mass/shell.hpp"
#include "scene/scene.hpp"
#include "upright/snags.hpp"
#include "upright/stroll.hpp"

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
    mass::Mass mass;
    std::shared_ptr<const mass::Shell> shell;
    std::shared_ptr<const level::Level> level; // of which it is
};

// What walking there is like, and what holds one up.
struct SurveyedMass {
    std::shared_ptr<const DrawnMass> of;
    std::shared_ptr<const upright::Survey> survey;
    std::vector<DrawnMass::Storey> flat; // where something flat blocks, on the floor of each storey
    std::vector<upright::Snag> snags;
};

// A walker's physics there.
struct WalkedMass {
    std::shared_ptr<const DrawnMass> of;
    std::shared_ptr<upright::Terrain> terrain;
};

// Each asks for that of the open level with these kits; while it is worked out in the background the last one is given,
// and changed() is emitted then. Null where there is none yet.
class MergedMass : public QObject {
    Q_OBJECT
  public:
    using Kits = std::vector<std::shared_ptr<const scene::LoadedKit>>;
    explicit MergedMass(Session& session);
    [[nodiscard]] std::shared_ptr<const DrawnMass> of(const Kits& kits);
    [[nodiscard]] std::shared_ptr<const SurveyedMass> surveyed(const Kits& kits);
    [[nodiscard]] std::shared_ptr<const WalkedMass> walked(const Kits& kits);
    // The last one, whatever became of the level since; it is not worked out for this.
    [[nodiscard]] const std::shared_ptr<const DrawnMass>& last() const { return mass_; }

  signals:
    void changed();

  private:
    struct Shared;
    void forget();
    Session& session_;
    std::shared_ptr<const level::Level> level_; // of which it is, or is being worked out
    Kits kits_;
    std::shared_ptr<Shared> merger_; // keeps what did not change
    std::shared_ptr<const DrawnMass> mass_;
    std::shared_ptr<const SurveyedMass> surveyed_;
    std::shared_ptr<const WalkedMass> walked_;
    std::shared_ptr<const DrawnMass> surveying_, walking_; // of which these are, or are being worked out
};

} // namespace vic::app
