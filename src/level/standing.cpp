#include "level/standing.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <numbers>
#include <tuple>

namespace vic::level {

namespace {

constexpr double kNudge = 1e-7; // pixels: what lies between two pixels counts to the right and lower one

std::uint8_t times(std::uint8_t a, std::uint8_t b) { return static_cast<std::uint8_t>((a * b + 127) / 255); }

// Cosine and sine; exact for whole quarters.
std::pair<double, double> direction(int turn) {
    switch (turn) {
        case 0:
            return {1, 0};
        case kFullTurn / 4:
            return {0, 1};
        case kFullTurn / 2:
            return {-1, 0};
        case kFullTurn / 4 * 3:
            return {0, -1};
        default:
            break;
    }
    const double angle = turn * std::numbers::pi / (kFullTurn / 2.0);
    return {std::cos(angle), std::sin(angle)};
}

int first_pixel(double edge) { return static_cast<int>(std::ceil(edge - 0.5 - kNudge)); }

double twice_area(const Spots& spots) {
    double sum = 0;
    for (std::size_t i = 0; i < spots.size(); ++i) {
        const Spot& a = spots[i];
        const Spot& b = spots[(i + 1) % spots.size()];
        sum += a.x * b.y - b.x * a.y;
    }
    return sum;
}

} // namespace

Wash wash_of(const Look& look) {
    Wash out;
    const int rest = 100 - std::abs(int{look.light});
    const auto part = [&](std::uint8_t tint) { return static_cast<std::uint8_t>((tint * rest + 50) / 100); };
    out.times = {part(look.tint.r), part(look.tint.g), part(look.tint.b),
                 static_cast<std::uint8_t>((look.opacity * 255 + 50) / 100)};
    if (look.light > 0) {
        const auto white = static_cast<std::uint8_t>((look.light * 255 + 50) / 100);
        out.plus = {white, white, white, 0};
    }
    return out;
}

Wash washed(const Wash& inner, const Wash& outer) {
    const auto plus = [](std::uint8_t a, std::uint8_t f, std::uint8_t b) {
        return static_cast<std::uint8_t>(std::min(255, times(a, f) + b));
    };
    return {{times(inner.times.r, outer.times.r), times(inner.times.g, outer.times.g),
             times(inner.times.b, outer.times.b), times(inner.times.a, outer.times.a)},
            {plus(inner.plus.r, outer.times.r, outer.plus.r), plus(inner.plus.g, outer.times.g, outer.plus.g),
             plus(inner.plus.b, outer.times.b, outer.plus.b), 0}};
}

Placing::Placing(const PropKind& kind, Point at, const Look& look) : plain_(look.turn == 0 && look.scale == 100) {
    const auto [cosine, sine] = direction(look.turn);
    const double scale = look.scale / 100.0;
    const double side = look.mirrored ? -1 : 1;
    xx_ = cosine * scale * side;
    xy_ = -sine * scale;
    yx_ = sine * scale * side;
    yy_ = cosine * scale;
    const Point pivot = kind.drawn_pivot();
    dx_ = at.x + 0.5 - xx_ * (pivot.x + 0.5) - xy_ * (pivot.y + 0.5);
    dy_ = at.y + 0.5 - yx_ * (pivot.x + 0.5) - yy_ * (pivot.y + 0.5);
    ux_ = cosine / scale * side;
    uy_ = sine / scale * side;
    vx_ = -sine / scale;
    vy_ = cosine / scale;
}

Point Placing::seen_in(Point pixel) const {
    const Spot s = in_picture({pixel.x + 0.5 + kNudge, pixel.y + 0.5 + kNudge});
    return {static_cast<int>(std::floor(s.x)), static_cast<int>(std::floor(s.y))};
}

Spots Placing::corners(const Box& b) const {
    Spots out;
    for (const Point c : {b.corner(), Point{b.right(), b.y}, Point{b.right(), b.bottom()}, Point{b.x, b.bottom()}})
        out.push_back(in_level({double(c.x), double(c.y)}));
    if (twice_area(out) < 0) std::reverse(out.begin(), out.end());
    return out;
}

Box Placing::around(const Box& picture) const {
    if (picture.empty()) return {};
    double left = std::numeric_limits<double>::max(), top = left;
    double right = std::numeric_limits<double>::lowest(), bottom = right;
    for (const Spot& s : corners(picture)) {
        left = std::min(left, s.x);
        right = std::max(right, s.x);
        top = std::min(top, s.y);
        bottom = std::max(bottom, s.y);
    }
    // Something is seen of the smallest, too.
    const int x = first_pixel(left), y = first_pixel(top);
    return {x, y, std::max(1, first_pixel(right) - x), std::max(1, first_pixel(bottom) - y)};
}

bool before(const Piece& one, const Piece& other) {
    const Point a = one.sorted_at(), b = other.sorted_at();
    return std::tie(a.y, a.x, one.prop, one.part) < std::tie(b.y, b.x, other.prop, other.part);
}

bool is_told(const Project& project, const PropArea& area) {
    return std::any_of(project.area_kinds.begin(), project.area_kinds.end(),
                       [&](const AreaKind& k) { return k.name == area.name; });
}

PropKind as_said(const Project& project, PropKind kind, const PartHere& part) {
    kind.blocks = part.shape != TileShape::none;
    kind.shape = kind.blocks ? part.shape : TileShape::full;
    kind.polygons = part.polygons;
    if (!part.telling) return kind;
    std::erase_if(kind.areas, [&](const PropArea& a) { return is_told(project, a); });
    if (const AreaKind* area = project.area_kind(part.tells))
        kind.areas.push_back({area->name, box_of(kind.box.size())});
    return kind;
}

PropKinds::PropKinds(const Project& project) {
    kinds_.reserve(project.prop_kinds.size());
    for (const auto& kind : project.prop_kinds) {
        kinds_.emplace(kind->id, kind.get());
        const Size size = kind->drawn();
        side_ = std::max({side_, size.w, size.h});
        // A pivot may lie outside.
        const Point p = kind->drawn_pivot();
        const double x = std::max({std::abs(p.x), std::abs(size.w - p.x), size.w}) + 1;
        const double y = std::max({std::abs(p.y), std::abs(size.h - p.y), size.h}) + 1;
        side_ = std::max(side_, static_cast<int>(std::max(x, y)));
        diagonal_ = std::max(diagonal_, static_cast<int>(std::ceil(std::hypot(x, y))));
    }
}

PropKinds::PropKinds(const Project& project, const Level& level) : PropKinds(project) {
    for (const auto& [id, part] : level.here.props) {
        const auto found = kinds_.find(id);
        if (found == kinds_.end() || found->second->is_ensemble()) continue;
        own_.push_back(std::make_shared<const PropKind>(as_said(project, *found->second, part)));
        found->second = own_.back().get();
    }
}

const PropKind* PropKinds::find(PropKindId id) const {
    const auto found = kinds_.find(id);
    return found == kinds_.end() ? nullptr : found->second;
}

int PropKinds::reach(int most_scale, bool turned) const {
    return (turned ? diagonal_ : side_) * std::max(100, most_scale) / 100 + 1;
}

void PropKinds::each_part(const Piece& ensemble, const PropOwn& own,
                          const std::function<void(const Piece&)>& visit) const {
    if (ensemble.part.size() >= kMostEnsembleDepth) return;
    for (const EnsemblePart& part : ensemble.kind->parts) {
        const auto own_change = own.changes.find(part.id);
        const PartChange* change = own_change == own.changes.end() ? nullptr : &own_change->second;
        const PropKind* kind = find(part.kind);
        if (change && change->kind) { // never an ensemble, so that none comes to hold itself
            const PropKind* other = find(*change->kind);
            if (*change->kind == 0) continue;
            if (other && !other->is_ensemble()) kind = other;
        }
        if (!kind) continue;
        Look look = part.look;
        if (change && change->tint) look.tint = *change->tint;
        Piece piece{kind,
                    ensemble.prop,
                    ensemble.part,
                    part_place(ensemble.at, ensemble.look, part.at),
                    part_look(ensemble.look, look),
                    washed(wash_of(look), ensemble.wash),
                    &part};
        piece.part.push_back(part.id);
        if (kind->is_ensemble())
            each_part(piece, {}, visit);
        else
            visit(piece);
    }
}

std::vector<Piece> PropKinds::pieces(const Prop& prop) const {
    std::vector<Piece> out;
    each_piece(prop, [&](const Piece& piece) { out.push_back(piece); });
    return out;
}

Box PropKinds::box(const Prop& prop) const {
    Box out;
    each_piece(prop, [&](const Piece& piece) { out = united(out, piece.box()); });
    return out;
}

Box PropKinds::foot_box(const Prop& prop) const {
    Box out;
    each_piece(prop, [&](const Piece& piece) { out = united(out, piece.foot_box()); });
    return out;
}

std::int16_t turned_by(int turn, int by) {
    return static_cast<std::int16_t>((((turn + by) % kFullTurn) + kFullTurn) % kFullTurn);
}

Point part_place(Point at, const Look& ensemble, Point part) {
    const auto [cosine, sine] = direction(ensemble.turn);
    const double x = part.x * (ensemble.mirrored ? -1 : 1) * ensemble.scale / 100.0;
    const double y = part.y * ensemble.scale / 100.0;
    return {at.x + static_cast<int>(std::lround(cosine * x - sine * y)),
            at.y + static_cast<int>(std::lround(sine * x + cosine * y))};
}

Look part_look(const Look& ensemble, const Look& part) {
    Look out = part;
    // Mirrored, what was turned one way is turned the other.
    out.turn = turned_by(ensemble.turn, ensemble.mirrored ? -part.turn : part.turn);
    out.mirrored = ensemble.mirrored != part.mirrored;
    out.scale =
        static_cast<std::int16_t>(std::clamp((ensemble.scale * part.scale + 50) / 100, kLeastScale, kMostScale));
    out.ahead = static_cast<std::int16_t>(std::clamp(ensemble.ahead + part.ahead, -kMostAhead, kMostAhead));
    return out;
}

std::vector<Spots> blocking_shape(const PropKind& kind) {
    std::vector<Spots> out;
    if (!kind.blocks || kind.foot.empty()) return out;
    if (kind.shape == TileShape::drawn) {
        for (const Polygon& polygon : kind.polygons) {
            Spots spots;
            for (const Point c : polygon) spots.push_back({double(c.x * kind.factor), double(c.y * kind.factor)});
            out.push_back(std::move(spots));
        }
        return out;
    }
    const Box foot = kind.drawn_foot();
    for (const Polygon& polygon : polygons_of(kind.shape)) {
        Spots spots;
        for (const Point c : polygon)
            spots.push_back({foot.x + c.x * foot.w / double(kShapeSide), foot.y + c.y * foot.h / double(kShapeSide)});
        out.push_back(std::move(spots));
    }
    return out;
}

namespace {

// Aslant: the square that a foot stands on, as wide as its box; `share` of it, 0 .. 1 each way, as the shape has it.
Spots aslant(const Piece& piece, const Lattice& lattice, const Spots& share) {
    const Box box = piece.foot_box();
    const CellPlace middle = lattice.place_of(box.x + box.w / 2.0, box.y + box.h / 2.0);
    const double side = box.w / double(lattice.cell.w);
    Spots out;
    for (const Spot& s : share) {
        const Lattice::Pixels p = lattice.pixel_of({middle.x + (s.x - 0.5) * side, middle.y + (s.y - 0.5) * side});
        out.push_back({p.x, p.y});
    }
    return out;
}

Spots clockwise(Spots spots) {
    if (twice_area(spots) < 0) std::reverse(spots.begin(), spots.end());
    return spots;
}

} // namespace

Spots foot_of(const Piece& piece, const Lattice& lattice) {
    if (lattice.square()) return piece.placing().corners(piece.kind->drawn_foot());
    return clockwise(aslant(piece, lattice, {{0, 0}, {1, 0}, {1, 1}, {0, 1}}));
}

Spots foot_corners(const Piece& piece, const Lattice& lattice) {
    const double left = piece.look.mirrored ? 1 : 0, right = 1 - left;
    if (!lattice.square()) return aslant(piece, lattice, {{left, 0}, {right, 0}, {right, 1}, {left, 1}});
    const Box f = piece.kind->drawn_foot();
    const Placing placing = piece.placing();
    Spots out;
    for (const Point p : {f.corner(), Point{f.right(), f.y}, Point{f.right(), f.bottom()}, Point{f.x, f.bottom()}})
        out.push_back(placing.in_level({double(p.x), double(p.y)}));
    return out;
}

std::vector<Spots> blocking_of(const Piece& piece, const Lattice& lattice) {
    std::vector<Spots> out;
    const Box foot = piece.kind->drawn_foot();
    const Placing placing = piece.placing();
    for (const Spots& shape : blocking_shape(*piece.kind)) {
        Spots spots;
        if (lattice.square()) {
            for (const Spot& s : shape) spots.push_back(placing.in_level(s));
        } else {
            Spots share;
            for (const Spot& s : shape)
                share.push_back(
                    {(piece.look.mirrored ? foot.right() - s.x : s.x - foot.x) / foot.w, (s.y - foot.y) / foot.h});
            spots = aslant(piece, lattice, share);
        }
        out.push_back(clockwise(std::move(spots)));
    }
    return out;
}

bool overlap(const Spots& a, const Spots& b) {
    if (a.size() < 3 || b.size() < 3) return false;
    // Two outlines without dents are apart where a line along one of their sides parts them.
    for (const Spots* sides : {&a, &b}) {
        for (std::size_t i = 0; i < sides->size(); ++i) {
            const Spot& from = (*sides)[i];
            const Spot& to = (*sides)[(i + 1) % sides->size()];
            const double nx = to.y - from.y, ny = from.x - to.x;
            const auto reach = [&](const Spots& spots) {
                double least = std::numeric_limits<double>::max(), most = std::numeric_limits<double>::lowest();
                for (const Spot& s : spots) {
                    const double d = s.x * nx + s.y * ny;
                    least = std::min(least, d);
                    most = std::max(most, d);
                }
                return std::pair(least, most);
            };
            const auto [a0, a1] = reach(a);
            const auto [b0, b1] = reach(b);
            const double hair = 1e-6 * std::hypot(nx, ny);
            if (a1 <= b0 + hair || b1 <= a0 + hair) return false;
        }
    }
    return true;
}

PropKind fitted(const Project& project, PropKind ensemble) {
    const PropKinds kinds(project);
    std::erase_if(ensemble.parts, [&](const EnsemblePart& p) { return !kinds.find(p.kind); });
    Box seen, foot;
    for (const EnsemblePart& part : ensemble.parts) {
        const Prop alone{1, part.kind, part.at, part.look};
        seen = united(seen, kinds.box(alone));
        foot = united(foot, kinds.foot_box(alone));
    }
    ensemble.sheet = 0;
    ensemble.factor = 1;
    ensemble.piece = 0;
    ensemble.box = box_of(seen.size());
    ensemble.pivot = Point{} - seen.corner();
    ensemble.foot = foot.moved(ensemble.pivot);
    return ensemble;
}

std::unordered_map<PropKindId, int> piece_counts(const Project& project) {
    std::unordered_map<PropKindId, int> out;
    for (const auto& kind : project.prop_kinds) out[kind->id] = kind->is_ensemble() ? 0 : 1;
    // Round by round one step further from those with pictures of their own, at the most as far as is drawn.
    for (int round = 0; round < kMostEnsembleDepth; ++round) {
        std::unordered_map<PropKindId, int> next = out;
        for (const auto& kind : project.prop_kinds) {
            if (!kind->is_ensemble()) continue;
            int n = 0;
            for (const EnsemblePart& part : kind->parts)
                if (const auto found = out.find(part.kind); found != out.end())
                    n = std::min(kMostPieces + 1, n + found->second);
            next[kind->id] = n;
        }
        if (next == out) break;
        out = std::move(next);
    }
    return out;
}

Text ensembles_trouble(const Project& project) {
    // How deep each is; one that holds itself comes to no end.
    std::unordered_map<PropKindId, int> depth;
    bool changed = true;
    for (int round = 0; changed && round <= kMostEnsembleDepth; ++round) {
        changed = false;
        for (const auto& kind : project.prop_kinds) {
            if (!kind->is_ensemble()) continue;
            int deepest = 0;
            for (const EnsemblePart& part : kind->parts)
                if (const auto found = depth.find(part.kind); found != depth.end())
                    deepest = std::max(deepest, found->second);
            if (deepest >= kMostEnsembleDepth)
                return say("The ensemble \"%1\" holds itself, or more than %2 others in one another", kind->name,
                           kMostEnsembleDepth);
            int& now = depth[kind->id];
            changed = changed || now != deepest + 1;
            now = deepest + 1;
        }
    }
    const auto counts = piece_counts(project);
    for (const auto& kind : project.prop_kinds) {
        if (!kind->is_ensemble()) continue;
        if (kind->parts.size() > kMostParts || counts.at(kind->id) > kMostPieces)
            return say("The ensemble \"%1\" holds more than %2 props", kind->name, kMostPieces);
    }
    return {};
}

void fit_ensembles(Project& project) {
    if (std::none_of(project.prop_kinds.begin(), project.prop_kinds.end(),
                     [](const auto& k) { return k->is_ensemble(); }))
        return;
    // Those that are held come before those that hold them, at the latest after as many rounds as they are deep.
    for (int round = 0; round <= kMostEnsembleDepth; ++round) {
        bool changed = false;
        for (std::size_t i = 0; i < project.prop_kinds.size(); ++i) {
            if (!project.prop_kinds[i]->is_ensemble()) continue;
            PropKind now = fitted(project, *project.prop_kinds[i]);
            if (now == *project.prop_kinds[i]) continue;
            changed = true;
            if (now.is_ensemble())
                project.put(std::move(now));
            else
                project.prop_kinds.erase(project.prop_kinds.begin() + static_cast<std::ptrdiff_t>(i--));
        }
        if (!changed) return;
    }
}

} // namespace vic::level
