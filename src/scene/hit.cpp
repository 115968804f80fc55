#include "scene/hit.hpp"

#include <algorithm>
#include <cmath>

namespace vic::scene {

namespace {

using Vec = std::array<double, 3>;

Vec minus(const Vec& a, const Vec& b) { return {a[0] - b[0], a[1] - b[1], a[2] - b[2]}; }
Vec cross(const Vec& a, const Vec& b) {
    return {a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]};
}
double dot(const Vec& a, const Vec& b) { return a[0] * b[0] + a[1] * b[1] + a[2] * b[2]; }
Vec doubles(const std::array<float, 3>& v) { return {v[0], v[1], v[2]}; }

// Into the model's own place; nothing where it is flat.
std::optional<Ray> into(const Placing& at, const Ray& ray) {
    const Vec columns[3] = {
        {at[0][0], at[1][0], at[2][0]}, {at[0][1], at[1][1], at[2][1]}, {at[0][2], at[1][2], at[2][2]}};
    const Vec rows[3] = {cross(columns[1], columns[2]), cross(columns[2], columns[0]), cross(columns[0], columns[1])};
    const double whole = dot(columns[0], rows[0]);
    if (std::abs(whole) < 1e-12) return std::nullopt;
    const Vec from = minus(ray.from, {at[0][3], at[1][3], at[2][3]});
    Ray out;
    for (std::size_t i = 0; i < 3; ++i) {
        out.from[i] = dot(rows[i], from) / whole;
        out.way[i] = dot(rows[i], ray.way) / whole;
    }
    return out;
}

bool meets_box(const Ray& ray, const Model& model) {
    double least = 0, most = 1e30;
    for (std::size_t i = 0; i < 3; ++i) {
        constexpr double kHair = 1e-6;
        const double low = double{model.least[i]} - kHair, high = double{model.most[i]} + kHair;
        if (std::abs(ray.way[i]) < 1e-15) {
            if (ray.from[i] < low || ray.from[i] > high) return false;
            continue;
        }
        const auto [a, b] = std::minmax({(low - ray.from[i]) / ray.way[i], (high - ray.from[i]) / ray.way[i]});
        least = std::max(least, a);
        most = std::min(most, b);
    }
    return least <= most;
}

std::optional<double> meets(const Ray& ray, const Vec& a, const Vec& b, const Vec& c) {
    const Vec ab = minus(b, a), ac = minus(c, a), across = cross(ray.way, ac);
    const double whole = dot(ab, across);
    if (std::abs(whole) < 1e-15) return std::nullopt;
    const Vec from = minus(ray.from, a);
    const double u = dot(from, across) / whole;
    if (u < 0 || u > 1) return std::nullopt;
    const Vec turned = cross(from, ab);
    const double v = dot(ray.way, turned) / whole;
    if (v < 0 || u + v > 1) return std::nullopt;
    const double t = dot(ac, turned) / whole;
    return t >= 0 ? std::optional(t) : std::nullopt;
}

} // namespace

const Model& Models::of(std::size_t kit, std::size_t piece) {
    const auto [known, fresh] = known_.try_emplace({kit, piece});
    if (fresh) known->second = model_of(*kits_[kit], piece);
    return known->second;
}

std::optional<Hit> hit(const std::vector<Placed>& placed, Models& models, const Storeys& storeys, const Ray& ray) {
    std::optional<Hit> out;
    for (std::size_t i = 0; i < placed.size(); ++i) {
        const Placed& p = placed[i];
        const Model& model = models.of(p.kit, p.piece);
        if (model.corners.empty()) continue;
        const Placing at = placing_of(p, models.kits()[p.kit]->read.pieces[p.piece].cells, storeys);
        const auto own = into(at, ray); // as far along as the ray itself
        if (!own || !meets_box(*own, model)) continue;
        for (std::size_t k = 0; k + 2 < model.corners.size(); k += 3) {
            const Vec a = doubles(model.corners[k].at), b = doubles(model.corners[k + 1].at),
                      c = doubles(model.corners[k + 2].at);
            const auto t = meets(*own, a, b, c);
            if (!t || (out && out->along <= *t)) continue;
            out = Hit{i, *t, {}, {}};
            for (std::size_t axis = 0; axis < 3; ++axis) out->at[axis] = ray.from[axis] + *t * ray.way[axis];
            Model face;
            face.corners = {model.corners[k], model.corners[k + 1], model.corners[k + 2]};
            face = at_its_place(std::move(face), at);
            const Vec p0 = doubles(face.corners[0].at);
            Vec normal = cross(minus(doubles(face.corners[1].at), p0), minus(doubles(face.corners[2].at), p0));
            const double length = std::sqrt(dot(normal, normal)) * (dot(normal, ray.way) > 0 ? -1 : 1);
            for (std::size_t axis = 0; axis < 3; ++axis) out->normal[axis] = length == 0 ? 0 : normal[axis] / length;
        }
    }
    return out;
}

std::optional<CardHit> hit(const std::vector<Card>& cards, const Ray& ray,
                           const std::function<bool(const Card&, double, double)>& solid) {
    std::optional<CardHit> out;
    const double level = std::hypot(ray.way[0], ray.way[2]);
    for (std::size_t i = 0; i < cards.size(); ++i) {
        const Card& card = cards[i];
        // To its right as it is seen; what faces the ray has that at a right angle to it.
        double right[2] = {1, 0};
        if (card.turned) {
            right[0] = std::cos(double{*card.turned});
            right[1] = std::sin(double{*card.turned});
        } else if (level > 1e-9) {
            right[0] = -ray.way[2] / level;
            right[1] = ray.way[0] / level;
        }
        const double normal[2] = {-right[1], right[0]};
        const double towards = ray.way[0] * normal[0] + ray.way[2] * normal[1];
        if (std::abs(towards) < 1e-12) continue;
        const double t =
            ((double{card.foot[0]} - ray.from[0]) * normal[0] + (double{card.foot[2]} - ray.from[2]) * normal[1]) /
            towards;
        if (t < 0 || (out && out->along <= t)) continue;
        const double across = (ray.from[0] + t * ray.way[0] - double{card.foot[0]}) * right[0] +
                              (ray.from[2] + t * ray.way[2] - double{card.foot[2]}) * right[1];
        const double above = ray.from[1] + t * ray.way[1] - double{card.foot[1]};
        const double wide = double{card.left} + double{card.right}, high = double{card.top} + double{card.bottom};
        if (wide <= 0 || high <= 0) continue;
        double u = (across + double{card.left}) / wide;
        const double v = (double{card.top} - above) / high;
        if (u < 0 || u >= 1 || v < 0 || v >= 1) continue;
        if (card.mirrored) u = 1 - u;
        if (solid(card, u, v)) out = CardHit{i, t};
    }
    return out;
}

Rest rest_at(const std::vector<Placed>& placed, Models& models, const Storeys& storeys, int storey,
             std::array<double, 2> cells) {
    constexpr double kBelow = 1.0 / 128; // cells under the next storey's floor
    const double low = storeys.low(storey);
    const auto met = hit(placed, models, storeys, {{cells[0], storeys.low(storey + 1) - kBelow, cells[1]}, {0, -1, 0}});
    if (!met) return {};
    Rest out;
    out.up = std::clamp(static_cast<int>(std::lround((met->at[1] - low) * 64)), -level::kMostUp, level::kMostUp);
    constexpr double kTenths = 1800 / 3.14159265358979;
    const auto lean = [&](double across) {
        return std::clamp(static_cast<int>(std::lround(std::atan2(across, std::max(1e-9, met->normal[1])) * kTenths)),
                          -level::kMostLean, level::kMostLean);
    };
    out.lean = {lean(met->normal[0]), lean(met->normal[2])};
    return out;
}

} // namespace vic::scene
