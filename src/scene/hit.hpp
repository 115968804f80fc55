// What a line meets first of the pieces of a level: for picking, and for standing things on one another.
#pragma once

#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <utility>
#include <vector>

#include "scene/scene.hpp"

namespace vic::scene {

// The models of kits, each made when it is first asked for. The kits must outlive it; for one thread.
class Models {
  public:
    explicit Models(std::vector<std::shared_ptr<const LoadedKit>> kits) : kits_(std::move(kits)) {}
    const Model& of(std::size_t kit, std::size_t piece);
    [[nodiscard]] const std::vector<std::shared_ptr<const LoadedKit>>& kits() const { return kits_; }

  private:
    std::vector<std::shared_ptr<const LoadedKit>> kits_;
    std::map<std::pair<std::size_t, std::size_t>, Model> known_;
};

struct Hit {
    std::size_t placed = 0;         // which of those that were given
    double along = 0;               // the ray's ways from where it begins
    std::array<double, 3> at{};     // in cells
    std::array<double, 3> normal{}; // of length 1, against the ray
};
// Own method: each ray is taken into the piece's own place, where it meets its box and then its triangles from either
// side (T. Moeller, B. Trumbore, "Fast, Minimum Storage Ray/Triangle Intersection", 1997). Nothing behind its
// beginning.
std::optional<Hit> hit(const std::vector<Placed>& placed, Models& models, const Storeys& storeys, const Ray& ray);

// Likewise of cards; those that face whoever looks face the ray. `solid` says whether a card is seen at a place of its
// picture, from its left and its top, 0 .. 1.
struct CardHit {
    std::size_t card = 0;
    double along = 0;
};
std::optional<CardHit> hit(const std::vector<Card>& cards, const Ray& ray,
                           const std::function<bool(const Card&, double, double)>& solid);

// How a thing stands on what lies below a place, seen from the height of the next storey: `up` 1/64 cells above its
// own, `lean` in tenths of a degree to the east and the south. On the storey itself where nothing does.
struct Rest {
    int up = 0;
    Point lean;
    bool operator==(const Rest&) const = default;
};
Rest rest_at(const std::vector<Placed>& placed, Models& models, const Storeys& storeys, int storey,
             std::array<double, 2> cells);

} // namespace vic::scene
