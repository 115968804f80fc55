// Where a pass of a planting may grow, and how strongly: the recipe's area, what the pass says besides, and what was
// cleared, over the level as it is.
#pragma once

#include <cstdint>
#include <memory>
#include <vector>

#include "level/project.hpp"
#include "level/standing.hpp"
#include "plant/scatter.hpp"

namespace vic::plant {

// Looks at project and level whenever it is asked; both must outlive it. With `at_once` what is not too large is worked
// out when it is made, for one who asks for all of it.
class Area : public Ground {
  public:
    // Of the recipe of the layer and its pass at `pass`; without one (-1) of the recipe's area alone.
    // `earlier` are the places of earlier passes, by their index; it must outlive this. What the recipe's area gives is
    // taken over from `like`, of another pass of the same recipe, where that was worked out at once.
    Area(const level::Project& project, const level::Level& level, level::LayerId layer, const level::Planting& recipe,
         int pass, const std::vector<Obstacles>& earlier, bool at_once = true, const Area* like = nullptr);

    [[nodiscard]] int grain() const override { return grain_; }
    Open open(const Box& samples, std::uint8_t* out) const override;
    void inside(const Box& samples, std::uint8_t* out) const override;
    // How strongly, 0 .. 255, of a box of samples, row by row.
    void strengths(const Box& samples, std::uint8_t* out) const;
    // The pixels outside of which there is none of it.
    [[nodiscard]] Box bounds() const;
    // How much of it there is, in samples, each counted by its strength.
    [[nodiscard]] double size() const;

  private:
    using Raster = std::vector<std::uint8_t>;
    [[nodiscard]] Raster strengths(const Box& samples) const;
    [[nodiscard]] Raster worked_out(const Box& samples) const;
    [[nodiscard]] Raster depths(const Box& samples) const;
    static Raster part_of(const Raster& whole, const Box& of, const Box& samples);
    [[nodiscard]] Raster of_terms(const std::vector<level::AreaTerm>& terms, const Box& samples) const;
    [[nodiscard]] Raster of_term(const level::AreaTerm& term, const Box& samples) const;
    // The set of a term: 0 or 255; of what is painted and of pictures how strongly.
    [[nodiscard]] Raster set_of(const level::AreaTerm& term, const Box& samples) const;
    void add_cells(const level::AreaTerm& term, const Box& samples, Raster& out) const;
    void add_edges(bool tops, const Box& samples, Raster& out) const;
    void add_picture(const level::AreaTerm& term, const Box& samples, Raster& out) const;
    void fill(const Box& pixels, const Box& samples, Raster& out) const;
    [[nodiscard]] Point cell_of(Point sample, const Lattice& lattice) const;
    [[nodiscard]] Box pixels_of(const Box& samples) const {
        return {samples.x * grain_, samples.y * grain_, samples.w * grain_, samples.h * grain_};
    }

    const level::Project& project_;
    const level::Level& level_;
    level::LayerId layer_;
    const level::Planting& recipe_;
    const level::Pass* pass_ = nullptr;
    const std::vector<Obstacles>& earlier_;
    level::TileTable tiles_;
    level::PropKinds kinds_;
    int grain_;
    Box whole_box_; // samples; all of it that there is, where that is worked out at once
    Raster whole_, whole_inside_;
    std::shared_ptr<const Raster> terms_; // of the recipe's area alone, in the same box; null where passes see another
};

// How far each sample is from the set (those not 0), in samples between their middles; below 0 inside, where it is how
// far the nearest outside is. Both sides are infinite where there is none.
// Source: P. F. Felzenszwalb and D. P. Huttenlocher, "Distance transforms of sampled functions", 2012.
std::vector<float> distances(const std::vector<std::uint8_t>& set, Size size);
// The same as far as `within` samples; what is further is infinite. A side that is not wanted is infinite as well.
std::vector<float> distances_within(const std::vector<std::uint8_t>& set, Size size, int within, bool inside,
                                    bool outside);

} // namespace vic::plant
