#include "kit/read_kit.hpp"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <cstdio>
#include <map>
#include <utility>

#include "kit/codes.hpp"
#include "kit/rims.hpp"

namespace vic::kit {

namespace {

constexpr double kThin = 0.4;                           // of a module: what is less is a wall's thickness, or a railing
constexpr double kExact = 0.002;                        // metres, and
constexpr double kNearly = 0.01;                        // of a length: measured so far off it is still that
constexpr std::size_t kMostCandidates = 512;            // lengths that are tried
constexpr std::size_t kMostMeasured = 200'000;          // triangles of a piece whose rims are looked for
constexpr double kLeastFloat = 2e-4, kMostFloat = 0.08; // metres: what is less is rounding, what is more is meant

std::string metres(double v) {
    char text[32];
    std::snprintf(text, sizeof text, "%.3g", v);
    return std::string(text) + " m";
}

// Whether `length` is a whole number of modules, at least one.
bool multiple(double length, double module) {
    const double k = std::round(length / module);
    return k >= 1 && std::abs(length - k * module) <= std::max(kExact, kNearly * module);
}

struct Best {
    double value = 0;
    int fits = 0, of = 0;
};

// Lengths in millimetres of which the others may be multiples: those that come most often, and their parts.
std::vector<long> candidates_in(const std::vector<double>& lengths) {
    std::map<long, int> often;
    for (const double l : lengths)
        for (int k = 1; k <= 4; ++k)
            if (l / k >= 0.05) ++often[std::lround(l / k * 1000)];
    std::vector<std::pair<int, long>> order;
    for (const auto& [length, count] : often) order.emplace_back(-count, length);
    std::sort(order.begin(), order.end());
    if (order.size() > kMostCandidates) order.resize(kMostCandidates);
    std::vector<long> out;
    for (const auto& [count, length] : order) out.push_back(length);
    std::sort(out.begin(), out.end());
    return out;
}

// The largest length of which most are multiples.
Best common_length(const std::vector<double>& lengths) {
    const std::vector<long> candidates = candidates_in(lengths);
    Best best;
    double most = 0;
    // Slabs and rails lie flat beside what stands.
    const double tall = lengths.empty() ? 0 : *std::max_element(lengths.begin(), lengths.end());
    for (const long c : candidates) {
        const double m = static_cast<double>(c) / 1000;
        double score = 0;
        int fits = 0, of = 0;
        for (const double l : lengths) {
            if (l < kThin * m || l < 0.25 * tall) continue;
            ++of;
            if (multiple(l, m)) {
                ++fits;
                // One module is likelier than many.
                score += 1 / std::round(l / m);
            } else {
                score -= 0.7;
            }
        }
        if (score > most + 1e-9 || (score > most - 1e-9 && m > best.value)) {
            most = score;
            best = {m, fits, of};
        }
    }
    return best;
}

// Words in a name, in lower case.
bool says(const std::string& name, std::initializer_list<const char*> words) {
    std::string lower;
    for (const char c : name) lower += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return std::any_of(words.begin(), words.end(), [&](const char* w) { return lower.find(w) != std::string::npos; });
}

// What lies flat is thin along what is up, what stands is not.
bool z_is_up(const std::vector<Body>& bodies) {
    int y = 0, z = 0;
    for (const Body& b : bodies) {
        const Bounds box = bounds_of(b.mesh);
        const double high = box.most.y - box.least.y, deep = box.most.z - box.least.z;
        if (says(b.name, {"floor", "ground", "ceiling", "path", "plank", "tile"})) (high <= deep ? y : z) += 1;
        if (says(b.name, {"wall", "door", "window", "fence", "railing"}) &&
            std::abs(high - deep) > 0.2 * std::max(high, deep)) {
            const double wide = box.most.x - box.least.x;
            if (std::min({wide, high, deep}) == high) z += 1;
            if (std::min({wide, high, deep}) == deep) y += 1;
        }
    }
    return z > y;
}

// Where a length begins on the lattice, nearest to where it is.
double nearest_step(double at, double step) { return std::round(at / step) * step; }

// By quarter turns to the right, seen from above: from north (-z) to east (+x).
Mesh turned_right(Mesh mesh, int quarters) {
    for (int i = 0; i < (quarters & 3); ++i)
        for (Vec& v : mesh.points) v = {-v.z, v.y, v.x};
    return mesh;
}

class KitReader {
  public:
    KitReader(const std::vector<Body>& bodies, const Told& told) : bodies_(bodies), told_(told) {
        out_.turn = told.turn & 3;
        out_.z_up = told.z_up.value_or(z_is_up(bodies));
        for (const Body& b : bodies) {
            meshes_.push_back(turned_right(out_.z_up ? turned_up(b.mesh) : b.mesh, told.turn));
            rims_.push_back(b.mesh.triangles.size() <= kMostMeasured ? open_edges(meshes_.back())
                                                                     : std::vector<Edge>{});
            boxes_.push_back(bounds_of(meshes_.back()));
        }
        out_.pieces.resize(bodies.size());
    }
    KitReading read() {
        if (out_.z_up && !told_.z_up) out_.reasons.emplace_back("Floors are thin along z: z is up in the file");
        read_module();
        if (out_.module.width > 0) {
            for (std::size_t i = 0; i < bodies_.size(); ++i) read_piece(i);
            read_couplings();
        }
        read_codes(bodies_, meshes_, told_, out_);
        out_.things = (out_.couplings.empty() || by_chance()) &&
                      std::none_of(out_.codes.begin(), out_.codes.end(), [](const Codes& c) { return c.taken; });
        if (bodies_.size() == 1 && out_.module.width > 0) out_.things = !meets_itself();
        if (out_.things) {
            out_.couplings.clear(); // what lies in one plane by chance
            for (PieceReading& piece : out_.pieces) {
                piece.couplings = {};
                piece.joints = {};
            }
            if (out_.module.width > 0) make_room();
            doubt_unit();
        }
        return std::move(out_);
    }

  private:
    // From open rim to open rim where there are two that face away from one another, else from end to end.
    [[nodiscard]] std::pair<double, double> ends(std::size_t i, int axis) const {
        const Bounds& box = boxes_[i];
        std::pair<double, double> out{along(box.least, axis), along(box.most, axis)};
        const auto planes = rim_planes(rims_[i], axis);
        if (planes.size() >= 2) out = {planes.front(), planes.back()};
        return out;
    }
    // How well ends of pieces lie where a module would have them, and how many of them do.
    struct Fit {
        double score = 0;
        int ends = 0, of = 0;
    };
    [[nodiscard]] Fit fit_of(double m, Origin origin) const {
        Fit out;
        const double close = std::max(kExact, kNearly * m);
        for (std::size_t i = 0; i < bodies_.size(); ++i)
            for (const int axis : {0, 2}) {
                const auto [a, b] = ends_[i][axis == 0 ? 0 : 1];
                if (b - a < 1e-3) continue;
                const double cells = std::max(1.0, std::round((b - a) / m));
                // Of an even number of cells the middle lies on a line.
                const double line = origin == Origin::corner || static_cast<int>(cells) % 2 == 0 ? 0 : m / 2;
                // A wall's thickness ends anywhere, and of an arm one end alone lies on a line.
                const bool tells = b - a >= kThin * m;
                bool any = false;
                for (const double end : {a, b}) {
                    if (std::abs(end - line - nearest_step(end - line, m)) > close) continue;
                    any = true;
                    out.score += 1 / cells; // one module is likelier than many
                }
                out.of += tells;
                out.ends += tells && any;
            }
        return out;
    }
    void read_module() {
        std::vector<double> high;
        std::vector<double> flat;
        for (std::size_t i = 0; i < bodies_.size(); ++i) {
            ends_.push_back({ends(i, 0), ends(i, 2)});
            for (const auto& [a, b] : ends_.back()) flat.push_back(b - a);
            const auto [a, b] = ends(i, 1);
            if (b - a > 1e-3) high.push_back(b - a);
        }
        Fit width;
        const auto candidates =
            told_.width > 0 ? std::vector<long>{std::max(1L, std::lround(told_.width * 1000))} : candidates_in(flat);
        for (const long c : candidates)
            for (const Origin origin : {Origin::middle, Origin::corner}) {
                if (told_.origin && origin != *told_.origin) continue;
                const double m = static_cast<double>(c) / 1000;
                const Fit fit = fit_of(m, origin);
                if (fit.score < width.score - 1e-9 || (fit.score < width.score + 1e-9 && m <= out_.module.width))
                    continue;
                width = fit;
                out_.module.width = m;
                out_.origin = origin;
            }
        const Best height = common_length(high);
        if (width.of > 0) {
            out_.reasons.push_back(say("%1 of %2 lengths of pieces reach the lines of cells of %3", width.ends,
                                       width.of, metres(out_.module.width)));
            out_.reasons.push_back(out_.origin == Origin::corner ? Text("Their origin is a corner of the cell")
                                                                 : Text("Their origin is the middle of the cell"));
        }
        // Floors alone tell no height.
        out_.module.height = height.value > kThin * out_.module.width ? height.value : 0;
        if (told_.height > 0)
            out_.module.height = told_.height;
        else if (out_.module.height > 0)
            out_.reasons.push_back(
                say("%1 of %2 pieces that stand are %3 high", height.fits, height.of, metres(height.value)));
        else if (out_.module.width > 0)
            out_.reasons.emplace_back("No piece stands as high as a storey: its height is to be said");
        const int of = width.of + (out_.module.height > 0 ? height.of : 0);
        const int fits = width.ends + (out_.module.height > 0 ? height.fits : 0);
        out_.sure = of == 0 ? 0 : static_cast<double>(fits) / of;
    }
    [[nodiscard]] int count_along(double length, double step) const {
        return std::max(1, static_cast<int>(std::lround(length / step)));
    }
    // Whether a single piece couples with another of itself: on a side that it has opposite, too.
    [[nodiscard]] bool meets_itself() const {
        const auto whole = [&](int axis) {
            const auto [a, b] = ends(0, axis);
            return multiple(b - a, out_.module.width);
        };
        const std::array<int, 4>& sides = out_.pieces[0].couplings;
        return ((sides[1] != 0 || sides[3] != 0) && whole(0)) || ((sides[0] != 0 || sides[2] != 0) && whole(2));
    }
    // Files of some programs count centimetres, or whatever was set.
    void doubt_unit() {
        constexpr double kLong = 50; // metres
        double longest = 0;
        for (const Bounds& box : boxes_)
            for (int axis = 0; axis < 3; ++axis)
                longest = std::max(longest, along(box.most, axis) - along(box.least, axis));
        if (longest > kLong)
            out_.reasons.push_back(
                say("The longest is %1 long: where the file does not count metres, its cell is to be "
                    "said in what it counts",
                    metres(longest)));
    }
    // Whether nothing speaks for couplings but that a piece's own sides are alike, where few reach the lines of cells.
    [[nodiscard]] bool by_chance() const {
        constexpr double kFew = 0.5;
        if (bodies_.size() < 2 || out_.sure >= kFew) return false;
        std::vector<std::size_t> first(out_.couplings.size() + 1, bodies_.size()); // the piece that has it
        const auto alone = [&](std::size_t piece, int coupling) {
            if (coupling == 0) return true;
            std::size_t& has = first[static_cast<std::size_t>(coupling)];
            if (has == bodies_.size()) has = piece;
            return has == piece;
        };
        for (std::size_t i = 0; i < bodies_.size(); ++i)
            for (std::size_t side = 0; side < 4; ++side) {
                if (!alone(i, out_.pieces[i].couplings[side])) return false;
                for (const PieceReading::Joint& j : out_.pieces[i].joints[side])
                    if (!alone(i, j.coupling)) return false;
            }
        return true;
    }
    // Of things all is to be seen in their cells.
    void make_room() {
        for (std::size_t i = 0; i < bodies_.size(); ++i)
            for (const int axis : {0, 2}) {
                const auto [a, b] = ends(i, axis);
                int& count = axis == 0 ? out_.pieces[i].cells.w : out_.pieces[i].cells.h;
                count = std::max(count, static_cast<int>(std::ceil((b - a) / out_.module.width - kNearly)));
            }
    }
    static double slight(double off) { return std::abs(off) >= kLeastFloat && std::abs(off) <= kMostFloat ? -off : 0; }
    void read_piece(std::size_t i) {
        PieceReading& piece = out_.pieces[i];
        const double m = out_.module.width;
        std::array<bool, 2> whole{};
        for (const int axis : {0, 2}) {
            const auto [a, b] = ends(i, axis);
            const int count = count_along(b - a, m);
            (axis == 0 ? piece.cells.w : piece.cells.h) = count;
            whole[axis == 0 ? 0 : 1] = multiple(b - a, m);
            if (!multiple(b - a, m)) continue;
            const double wanted =
                out_.origin == Origin::corner ? nearest_step(a, m) : nearest_step((a + b) / 2, m / 2) - (b - a) / 2;
            (axis == 0 ? piece.shift.x : piece.shift.z) = slight(a - wanted);
            // What the mesh has beyond its rims.
            const double before = a - along(boxes_[i].least, axis), behind = along(boxes_[i].most, axis) - b;
            piece.out[axis == 0 ? 3 : 0] = before > kExact ? before : 0;
            piece.out[axis == 0 ? 1 : 2] = behind > kExact ? behind : 0;
        }
        piece.fills = whole[0] && whole[1];
        const double low = boxes_[i].least.y, high = boxes_[i].most.y, h = out_.module.height;
        piece.storeys = h > 0 && high - low > kThin * h ? count_along(high - low, h) : 1;
        // It stands on its storey, or what is flat lies under it.
        const double step = h > 0 ? h : 1e6;
        const double base = low - nearest_step(low, step), top = high - nearest_step(high, step);
        const bool flat = high - low < kThin * (h > 0 ? h : m);
        piece.shift.y = slight(flat && std::abs(top) < std::abs(base) ? top : base);
        piece.top = high + piece.shift.y;
        const double beyond = (high - low) - piece.storeys * h;
        piece.over = h > 0 && beyond > std::max(kExact, kNearly * h) ? beyond : 0;
        if (piece.shift != Vec{})
            out_.reasons.push_back(say("\"%1\" floats off its place by %2", bodies_[i].name,
                                       metres(std::sqrt(dot(piece.shift, piece.shift)))));
        for (std::size_t side = 0; side < 4; ++side)
            if (piece.out[side] > 0)
                out_.reasons.push_back(say("\"%1\" sticks out by %2", bodies_[i].name, metres(piece.out[side])));
    }

    void read_couplings() {
        const double m = out_.module.width;
        struct Side {
            std::size_t piece, side, cell; // along it
            bool mirrored;
        };
        std::map<Profile, std::vector<Side>> sides; // by the lesser of a profile and its mirror
        for (std::size_t i = 0; i < bodies_.size(); ++i) {
            const PieceReading& piece = out_.pieces[i];
            if (meshes_[i].triangles.size() > kMostMeasured) continue;
            for (std::size_t side = 0; side < 4; ++side) {
                const int axis = side % 2 == 0 ? 2 : 0;
                const auto [a, b] = ends(i, axis);
                // Only where it reaches a side of its cells.
                const double shift = axis == 0 ? piece.shift.x : piece.shift.z;
                const double plane = (side == 1 || side == 2) ? b : a;
                const int count = axis == 0 ? piece.cells.w : piece.cells.h;
                const double at = plane + shift;
                const double off =
                    out_.origin == Origin::corner ? at - nearest_step(at, m) : std::abs(at) - count * m / 2;
                if (std::abs(off) > kExact) continue;
                const int across = axis == 0 ? 2 : 0;
                const double cells = across == 0 ? piece.cells.w : piece.cells.h;
                const double middle = out_.origin == Origin::corner ? cells * m / 2 : 0;
                const Profile profile = profile_of(meshes_[i], rims_[i], axis, plane,
                                                   (across == 0 ? piece.shift.x : piece.shift.z) - middle,
                                                   piece.shift.y, side == 0 || side == 1);
                const auto along = static_cast<std::size_t>(across == 0 ? piece.cells.w : piece.cells.h);
                const auto at_cell = [&](std::size_t k) {
                    return static_cast<int>(std::lround((double(k) - double(along) / 2) * m * 1000));
                };
                for (std::size_t k = 0; k < along; ++k) {
                    const Profile part = part_of(profile, at_cell(k), at_cell(k + 1));
                    const Profile other = mirrored(part);
                    if (!part.empty()) sides[std::min(part, other)].push_back({i, side, k, other < part});
                }
            }
        }
        std::vector<std::pair<std::size_t, Profile>> order;
        for (const auto& [profile, all] : sides) order.emplace_back(all.size(), profile);
        std::stable_sort(order.begin(), order.end(), [](const auto& a, const auto& b) { return a.first > b.first; });
        for (const auto& [count, profile] : order) {
            Coupling coupling;
            const std::size_t number = out_.couplings.size();
            coupling.name = (number >= 26 ? std::string(1, static_cast<char>('A' + number / 26 - 1)) : std::string()) +
                            static_cast<char>('A' + number % 26);
            coupling.sides = static_cast<int>(count);
            coupling.symmetric = mirrored(profile) == profile;
            out_.couplings.push_back(coupling);
            for (const Side& s : sides[profile]) {
                PieceReading& piece = out_.pieces[s.piece];
                const auto length = static_cast<std::size_t>(s.side % 2 == 0 ? piece.cells.w : piece.cells.h);
                piece.joints[s.side].resize(length);
                piece.joints[s.side][s.cell] = {static_cast<int>(out_.couplings.size()), s.mirrored};
            }
        }
        for (PieceReading& piece : out_.pieces)
            for (std::size_t side = 0; side < 4; ++side) {
                std::vector<PieceReading::Joint>& all = piece.joints[side];
                const auto first = std::find_if(all.begin(), all.end(), [](const auto& j) { return j.coupling != 0; });
                if (first != all.end()) {
                    piece.couplings[side] = first->coupling;
                    piece.mirrored[side] = first->mirrored;
                }
                if (all.size() < 2) all.clear();
            }
    }

    const std::vector<Body>& bodies_;
    const Told& told_;
    std::vector<Mesh> meshes_;
    std::vector<std::vector<Edge>> rims_;
    std::vector<Bounds> boxes_;
    std::vector<std::array<std::pair<double, double>, 2>> ends_; // along x and z
    KitReading out_;
};

} // namespace

KitReading read_kit(const std::vector<Body>& bodies, const Told& told) { return KitReader(bodies, told).read(); }

Mesh as_read(const Body& body, const KitReading& kit, std::size_t piece) {
    Mesh out = turned_right(kit.z_up ? turned_up(body.mesh) : body.mesh, kit.turn);
    for (Vec& v : out.points) v = v + kit.pieces[piece].shift;
    return out;
}

Vec corner_of(const Mesh& mesh, const KitReading& kit, std::size_t piece) {
    const Bounds box = bounds_of(mesh);
    const double m = kit.module.width;
    const auto start = [&](double low, double high, int cells) {
        const double length = cells * m;
        // Where it lies within the cells that its origin tells, it is those.
        const double told = kit.origin == Origin::corner ? 0 : -length / 2;
        if (m <= 0 || (low >= told - kExact && high <= told + length + kExact)) return told;
        return kit.origin == Origin::corner ? nearest_step(low, m) : nearest_step((low + high) / 2, m / 2) - length / 2;
    };
    const PieceReading& read = kit.pieces[piece];
    return {start(box.least.x, box.most.x, read.cells.w), 0, start(box.least.z, box.most.z, read.cells.h)};
}

} // namespace vic::kit
