// Faults of the cells of tile layers: tiles that are gone, and cases without a tile of their own.
#pragma once

#include <map>
#include <vector>

#include "join/resolve.hpp"

namespace vic::findings {

struct CellFaults {
    int gone = 0;
    Point first_gone; // in the layer's cells, in reading order of the chunks
    struct Case {
        int count = 0;
        Point first;
    };
    std::map<std::pair<level::MaterialId, join::Mask>, Case> missing;
    [[nodiscard]] bool none() const { return gone == 0 && missing.empty(); }
    friend bool operator==(const CellFaults& a, const CellFaults& b);
};

// Keeps what it found in each layer, so that asking again looks only at the chunks that changed since, and at those
// beside them. What it tells is the same as when it looks at all.
class CellChecker {
  public:
    // Call before layers of a project are asked for; layers that are no longer there are forgotten.
    void follow(const level::Project& project);
    CellFaults of(const std::string& level, const level::Layer& layer);
    // Cells looked at by the last call of of().
    [[nodiscard]] std::int64_t looked_at() const { return looked_at_; }

  private:
    struct LayerFaults {
        level::Grid grid;
        std::map<std::pair<int, int>, CellFaults> faults; // by row and column of chunks that have any
    };
    CellFaults chunk_faults(const level::Grid& grid, Point chunk) const;

    std::vector<std::shared_ptr<const level::Sheet>> sheets_;
    std::vector<std::shared_ptr<const level::Material>> materials_;
    std::vector<std::uint8_t> there_;          // by tile
    std::array<std::uint8_t, 256> open_{};     // materials of which a case has no tile
    std::array<level::JoinKind, 256> kinds_{}; // of materials
    std::unique_ptr<join::Rules> rules_;       // where a material is open
    std::map<std::pair<std::string, level::LayerId>, LayerFaults> known_;
    std::int64_t looked_at_ = 0;
};

} // namespace vic::findings
