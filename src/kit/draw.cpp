// Own method: triangles are filled row by row into a picture several times as large with a depth for each pixel, which
// is then made small. It serves pictures that are drawn once and kept.
#include "kit/draw.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <map>
#include <optional>
#include <vector>

#include "kit/rims.hpp"

namespace vic::kit {

namespace {

constexpr int kFiner = 4;             // pixels drawn for each of the picture's, each way
constexpr double kStep = 0.5;         // metres one surface stands above the next where a line is drawn
constexpr double kCut = 0.4;          // of a storey: where a plan is cut
constexpr double kSolid = 0.6;        // of that height: down to there it is solid below the cut
constexpr std::size_t kLeastCut = 10; // a tenth of what reaches above the cut is cut through, at the least
constexpr double kFar = -1e9;         // the depth of nothing
const Vec kSun{-0.42, 0.83, 0.37};    // where the light comes from

// Where a place of a piece comes to lie: x to the right and y down in the drawn pixels, z towards the eye.
struct Eye {
    Vec right, down, near; // of a metre
    double x = 0, y = 0;   // of the origin
    [[nodiscard]] Vec seen(Vec p) const { return {dot(p, right) + x, dot(p, down) + y, dot(p, near)}; }
};

struct Canvas {
    Size size;
    std::vector<Rgba> colour;
    std::vector<double> depth;
    // Where it is cut: how many surfaces lie above the cut, and above what is to be solid below it; what is seen under
    // it.
    std::vector<std::uint16_t> above, above_lower;
    std::vector<Rgba> under;
    std::vector<double> under_depth;
    explicit Canvas(Size s) : size(s), colour(static_cast<std::size_t>(s.area())), depth(colour.size(), kFar) {}
    [[nodiscard]] std::size_t at(int x, int y) const {
        return static_cast<std::size_t>(y) * static_cast<std::size_t>(size.w) + static_cast<std::size_t>(x);
    }
};

Rgba times(Rgba c, double by) {
    const auto part = [&](int v) { return static_cast<std::uint8_t>(std::clamp(std::lround(v * by), 0L, 255L)); };
    return {part(c.r), part(c.g), part(c.b), c.a};
}

Rgba multiplied(Rgba a, Rgba b) {
    const auto part = [](int x, int y) { return static_cast<std::uint8_t>((x * y + 127) / 255); };
    return {part(a.r, b.r), part(a.g, b.g), part(a.b, b.b), part(a.a, b.a)};
}

class Painter {
  public:
    Painter(const KitFile& file, const Mesh& mesh, const Eye& eye, Size size, std::optional<double> cut = std::nullopt)
        : file_(file), mesh_(mesh), eye_(eye), cut_(cut), out_(size) {
        if (!cut_) return;
        out_.above.assign(out_.colour.size(), 0);
        out_.above_lower = out_.above;
        out_.under.assign(out_.colour.size(), {});
        out_.under_depth.assign(out_.colour.size(), kFar);
    }

    Canvas draw() {
        for (std::size_t i = 0; i < mesh_.triangles.size(); ++i) triangle(i);
        return std::move(out_);
    }

  private:
    void triangle(std::size_t index) {
        const auto& corner = mesh_.triangles[index];
        const Vec a = mesh_.points[corner[0]], b = mesh_.points[corner[1]], c = mesh_.points[corner[2]];
        const Vec across = cross(b - a, c - a);
        const double length = std::sqrt(dot(across, across));
        if (length < 1e-12) return;
        const Finish* finish =
            mesh_.finish[index] < file_.finishes.size() ? &file_.finishes[mesh_.finish[index]] : nullptr;
        double light = dot(across, kSun) / length;
        const bool behind = dot(across, eye_.near) < 0;
        // What is seen from behind is seen all the same: kits are often drawn with loose sides.
        if (behind) light = -light;
        const double bright = 0.62 + 0.38 * std::max(0.0, light);
        const Vec p = eye_.seen(a), q = eye_.seen(b), r = eye_.seen(c);
        const double area = (q.x - p.x) * (r.y - p.y) - (r.x - p.x) * (q.y - p.y);
        if (std::abs(area) < 1e-9) return;
        // Places may lie further off than an int goes.
        const auto within = [](double v, int count) {
            return static_cast<int>(std::clamp(v, -1.0, double{1} * count));
        };
        const int top = std::max(0, within(std::ceil(std::min({p.y, q.y, r.y}) - 0.5), out_.size.h));
        const int bottom = std::min(out_.size.h - 1, within(std::floor(std::max({p.y, q.y, r.y}) - 0.5), out_.size.h));
        const int left = std::max(0, within(std::ceil(std::min({p.x, q.x, r.x}) - 0.5), out_.size.w));
        const int right = std::min(out_.size.w - 1, within(std::floor(std::max({p.x, q.x, r.x}) - 0.5), out_.size.w));
        for (int y = top; y <= bottom; ++y)
            for (int x = left; x <= right; ++x) {
                // Hardly ever on an edge that two triangles share, so that each surface is met once.
                const double px = x + 0.50137, py = y + 0.49789;
                const double u = ((q.x - px) * (r.y - py) - (r.x - px) * (q.y - py)) / area;
                const double v = ((r.x - px) * (p.y - py) - (p.x - px) * (r.y - py)) / area;
                const double w = 1 - u - v;
                if (u < 0 || v < 0 || w < 0) continue;
                const double depth = u * p.z + v * q.z + w * r.z;
                const std::size_t here = out_.at(x, y);
                if (cut_) {
                    out_.above[here] += depth > *cut_;
                    out_.above_lower[here] += depth > *cut_ * kSolid;
                }
                const bool under = cut_ && depth <= *cut_ && depth > out_.under_depth[here];
                if (depth <= out_.depth[here] && !under) continue;
                const Rgba colour = times(colour_at(finish, corner, {u, v, w}), bright);
                if (colour.a < 128) continue;
                if (under) {
                    out_.under_depth[here] = depth;
                    out_.under[here] = {colour.r, colour.g, colour.b, 255};
                }
                if (depth <= out_.depth[here]) continue;
                out_.depth[here] = depth;
                out_.colour[here] = {colour.r, colour.g, colour.b, 255};
            }
    }
    [[nodiscard]] Rgba colour_at(const Finish* finish, const std::array<std::uint32_t, 3>& corner,
                                 const std::array<double, 3>& share) const {
        if (!finish) return {200, 196, 186, 255};
        Rgba out = finish->colour;
        if (!finish->cut_out) out.a = 255;
        const auto number = static_cast<std::size_t>(finish->picture);
        if (finish->picture < 0 || number >= file_.pictures.size() || mesh_.uv.empty()) return out;
        const Image& picture = file_.pictures[number];
        if (picture.size().empty()) return out;
        double u = 0, v = 0;
        for (std::size_t i = 0; i < 3; ++i) {
            u += share[i] * double{mesh_.uv[corner[i]][0]};
            v += share[i] * double{mesh_.uv[corner[i]][1]};
        }
        const auto pixel = [](double at, int count) {
            const double whole = (at - std::floor(at)) * count;
            return std::clamp(std::isfinite(whole) ? static_cast<int>(whole) : 0, 0, count - 1);
        };
        Rgba seen = picture.at(pixel(u, picture.size().w), pixel(v, picture.size().h));
        if (!finish->cut_out) seen.a = 255;
        return multiplied(out, seen);
    }

    const KitFile& file_;
    const Mesh& mesh_;
    Eye eye_;
    std::optional<double> cut_;
    Canvas out_;
};

// Where the plan goes through what is solid that is seen, cut; beside that what lies under the cut.
void take_cut(Canvas& drawn, double cut) {
    const auto solid = [&](std::size_t i) { return drawn.above[i] % 2 == 1 && drawn.above_lower[i] % 2 == 1; };
    std::size_t high = 0, through = 0;
    for (std::size_t i = 0; i < drawn.above.size(); ++i) {
        high += drawn.above[i] > 0;
        through += solid(i);
    }
    if (through * kLeastCut < high || through == 0) return; // a roof, say: it is seen as it is
    for (std::size_t i = 0; i < drawn.above.size(); ++i) {
        if (drawn.above[i] == 0) continue;
        if (solid(i)) {
            drawn.depth[i] = cut;
            continue;
        }
        drawn.depth[i] = drawn.under_depth[i];
        drawn.colour[i] = drawn.under[i];
    }
}

// A line where something stands out above what is beside it, on the lower one.
void draw_steps(Canvas& drawn, double step) {
    const std::vector<double>& depth = drawn.depth;
    std::vector<std::uint8_t> dark(depth.size(), 0);
    constexpr int kWide = kFiner / 2;
    for (int y = 0; y < drawn.size.h; ++y)
        for (int x = 0; x < drawn.size.w; ++x) {
            const double here = depth[drawn.at(x, y)];
            if (here == kFar) continue;
            for (int by = -kWide; by <= kWide; ++by)
                for (const Point at : {Point{x + by, y}, Point{x, y + by}}) {
                    if (at.x < 0 || at.y < 0 || at.x >= drawn.size.w || at.y >= drawn.size.h) continue;
                    if (depth[drawn.at(at.x, at.y)] > here + step) dark[drawn.at(x, y)] = 1;
                }
        }
    for (std::size_t i = 0; i < dark.size(); ++i)
        if (dark[i] != 0) drawn.colour[i] = times(drawn.colour[i], 0.45);
}

Image made_small(const Canvas& drawn) {
    const Size size{drawn.size.w / kFiner, drawn.size.h / kFiner};
    Image out(size);
    for (int y = 0; y < size.h; ++y)
        for (int x = 0; x < size.w; ++x) {
            int r = 0, g = 0, b = 0, count = 0;
            for (int j = 0; j < kFiner; ++j)
                for (int i = 0; i < kFiner; ++i) {
                    const Rgba c = drawn.colour[drawn.at(x * kFiner + i, y * kFiner + j)];
                    if (c.a == 0) continue;
                    r += c.r, g += c.g, b += c.b, ++count;
                }
            // Tiles have hard edges: half a pixel or more is one.
            if (count * 2 < kFiner * kFiner) continue;
            out.set(x, y,
                    {static_cast<std::uint8_t>(r / count), static_cast<std::uint8_t>(g / count),
                     static_cast<std::uint8_t>(b / count), 255});
        }
    return out;
}

} // namespace

Image from_above(const KitFile& file, const KitReading& kit, std::size_t piece, int side) {
    const PieceReading& read = kit.pieces[piece];
    const Size size{read.cells.w * side, read.cells.h * side};
    if (kit.module.width <= 0 || side < 1 || size.empty() || size.w > kMostPictureSide || size.h > kMostPictureSide)
        return {};
    const Mesh mesh = as_read(file.bodies[piece], kit, piece);
    const double metre = side * kFiner / kit.module.width;
    const Vec corner = corner_of(mesh, kit, piece);
    const Eye eye{{metre, 0, 0}, {0, 0, metre}, {0, 1, 0}, -corner.x * metre, -corner.z * metre};
    const double cut = (kit.module.height > 0 ? kit.module.height : kit.module.width) * kCut;
    Canvas drawn = Painter(file, mesh, eye, {size.w * kFiner, size.h * kFiner}, cut).draw();
    take_cut(drawn, cut);
    // A storey up is lighter by a fifth.
    const double storey = kit.module.height > 0 ? kit.module.height : kit.module.width;
    for (std::size_t i = 0; i < drawn.colour.size(); ++i)
        if (drawn.depth[i] != kFar)
            drawn.colour[i] = times(drawn.colour[i], 0.94 + 0.12 * std::clamp(drawn.depth[i] / storey, 0.0, 1.0));
    draw_steps(drawn, kStep);
    Image out = made_small(drawn);
    const auto& pixels = out.pixels();
    if (std::any_of(pixels.begin(), pixels.end(), [](const Rgba& p) { return p.a != 0; }) || mesh.points.empty())
        return out;
    // So thin that nothing of it is left: a line where it stands.
    Vec least = mesh.points[0], most = least;
    for (const Vec& p : mesh.points) {
        least = {std::min(least.x, p.x), 0, std::min(least.z, p.z)};
        most = {std::max(most.x, p.x), 0, std::max(most.z, p.z)};
    }
    const auto pixel = [&](double v, double from) {
        return static_cast<int>(std::floor((v - from) * side / kit.module.width));
    };
    const bool finished = !mesh.finish.empty() && mesh.finish[0] < file.finishes.size();
    Rgba colour = finished ? file.finishes[mesh.finish[0]].colour : Rgba{128, 126, 120, 255};
    colour.a = 255;
    const int left = pixel(least.x, corner.x), top = pixel(least.z, corner.z);
    for (int y = top; y < std::max(top + 1, pixel(most.z, corner.z)); ++y)
        for (int x = left; x < std::max(left + 1, pixel(most.x, corner.x)); ++x) out.put(x, y, colour);
    return out;
}

std::string turned_key(const std::string& key, int turn) {
    return turn == 0 ? key : key + "\n" + std::to_string(turn); // no name has a line's end
}

namespace {

Image turned_right(const Image& image) {
    Image out({image.height(), image.width()});
    for (int y = 0; y < image.height(); ++y)
        for (int x = 0; x < image.width(); ++x) out.set(image.height() - 1 - y, x, image.at(x, y));
    return out;
}

} // namespace

Drawn draw_sheet(const KitFile& file, const KitReading& kit, int side,
                 const std::vector<std::pair<std::string, Box>>& before) {
    struct Entry {
        std::size_t piece;
        int turn;
        Image picture;
    };
    Drawn out;
    out.places.resize(kit.pieces.size());
    out.turned.resize(kit.pieces.size());
    const auto place_of = [&](const Entry& e) -> Box& {
        return e.turn == 0 ? out.places[e.piece] : out.turned[e.piece][static_cast<std::size_t>(e.turn - 1)];
    };
    std::vector<Entry> entries;
    int columns = kSheetColumns, rows = 0;
    for (std::size_t i = 0; i < kit.pieces.size(); ++i) {
        Image picture = from_above(file, kit, i, side);
        if (picture.empty()) continue;
        const bool one = kit.pieces[i].cells == Size{1, 1};
        for (int turn = 0; turn < (one ? 1 : 4); ++turn) {
            if (turn > 0) picture = turned_right(picture);
            columns = std::max(columns, picture.width() / side);
            entries.push_back({i, turn, picture});
        }
    }
    std::map<std::string, Box> known;
    for (const auto& [name, box] : before) {
        known.emplace(name, box);
        columns = std::max(columns, box.right() / side);
        rows = std::max(rows, box.bottom() / side);
    }
    const int first_new = rows; // what went leaves its place empty
    // Those that are new stand in rows as high as the highest of them.
    int x = 0, high = 0;
    rows = first_new;
    for (const Entry& e : entries) {
        const Size size = e.picture.size();
        const auto found = known.find(turned_key(key_of(file.bodies[e.piece]), e.turn));
        if (found != known.end() && found->second.size() == size) {
            place_of(e) = found->second;
            known.erase(found);
            continue;
        }
        const Size cells{size.w / side, size.h / side};
        if (x + cells.w > columns) {
            rows += high;
            x = high = 0;
        }
        if ((rows + cells.h) * side > kMostPictureSide || columns * side > kMostPictureSide) continue;
        place_of(e) = {x * side, rows * side, size.w, size.h};
        x += cells.w;
        high = std::max(high, cells.h);
    }
    rows += high;
    if (rows == 0 || columns * side > kMostPictureSide) return out;
    out.image = Image({columns * side, rows * side});
    for (const Entry& e : entries) {
        const Box& place = place_of(e);
        for (int y = 0; y < place.h; ++y) std::copy_n(e.picture.row(y), place.w, out.image.row(place.y + y) + place.x);
    }
    return out;
}

Image aslant(const KitFile& file, const KitReading& kit, std::size_t piece, Size size, int turn) {
    if (size.empty() || size.w > kMostPictureSide || size.h > kMostPictureSide) return {};
    const Mesh mesh = as_read(file.bodies[piece], kit, piece);
    if (mesh.points.empty()) return Image(size);
    // Half a right angle round, and thirty degrees down.
    constexpr double kHalf = 0.70710678118654752, kDown = 0.5, kFlat = 0.86602540378443865;
    Vec right{kHalf, 0, -kHalf}, back{kHalf, 0, kHalf};
    for (int i = 0; i < turn % 4; ++i) {
        right = {right.z, 0, -right.x};
        back = {back.z, 0, -back.x};
    }
    Eye eye{right, {back.x * kDown, -kFlat, back.z * kDown}, {back.x * kFlat, kDown, back.z * kFlat}};
    double left = std::numeric_limits<double>::max(), top = left, far_right = -left, bottom = -left;
    for (const Vec& p : mesh.points) {
        const Vec s = eye.seen(p);
        left = std::min(left, s.x), far_right = std::max(far_right, s.x);
        top = std::min(top, s.y), bottom = std::max(bottom, s.y);
    }
    const double wide = std::max(1e-6, far_right - left), high = std::max(1e-6, bottom - top);
    const double metre = std::min(size.w * kFiner * 0.94 / wide, size.h * kFiner * 0.94 / high);
    eye.right = eye.right * metre;
    eye.down = eye.down * metre;
    eye.x = (size.w * kFiner - wide * metre) / 2 - left * metre;
    eye.y = (size.h * kFiner - high * metre) / 2 - top * metre;
    Canvas drawn = Painter(file, mesh, eye, {size.w * kFiner, size.h * kFiner}).draw();
    draw_steps(drawn, std::max(wide, high) * 0.08);
    return made_small(drawn);
}

} // namespace vic::kit
