#include "mass/crowd.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <set>

#include "outline/free.hpp"

namespace vic::mass {

using level::Polygon;
using level::Polygons;
using outline::kUnit;

// A piece as it is turned: what of each section lies in which of the cells round it.
struct Crowd::Shape {
    struct Layer {
        int from = 0, to = 0;
        std::vector<std::uint32_t> parts; // by cell: the number of what lies there, or kNobody
        std::vector<Point> bends;         // corners that only the lattice made, in units from the piece's first cell
    };
    std::vector<Layer> layers;
    std::vector<Point> cells; // all that any of them touches, from the piece's first
    Box round;                // all of these
};

namespace {

// A place of a piece of `size` cells as it is laid, from the corner of those that it lies on: about their middle it is
// mirrored first, then turned to the right.
Point laid(Point p, Size size, Size on, Turn turn) {
    const Point middle{on.w * kUnit / 2, on.h * kUnit / 2};
    p = p - Point{size.w * kUnit / 2, size.h * kUnit / 2};
    if (turn.mirrored()) p.x = -p.x;
    for (int i = 0; i < turn.quarters(); ++i) p = {-p.y, p.x};
    return p + middle;
}

// Whether any face is neither level nor upright.
bool is_aslant(const scene::Model& model) {
    constexpr float kStraight = 1e-3F;
    for (std::size_t i = 0; i + 2 < model.corners.size(); i += 3) {
        const auto &a = model.corners[i].at, &b = model.corners[i + 1].at, &c = model.corners[i + 2].at;
        const float up = std::abs((b[2] - a[2]) * (c[0] - a[0]) - (b[0] - a[0]) * (c[2] - a[2]));
        const float east = (b[1] - a[1]) * (c[2] - a[2]) - (b[2] - a[2]) * (c[1] - a[1]);
        const float south = (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);
        const float across = std::hypot(east, south), all = std::hypot(up, across);
        if (up > kStraight * all && across > kStraight * all) return true;
    }
    return false;
}

// A convex model with its places rounded, and what it fills in steps.
std::shared_ptr<Body> body_of(const scene::Model& model, const Sections& sections) {
    auto out = std::make_shared<Body>();
    std::map<std::array<int, 3>, std::uint32_t> numbers;
    for (std::size_t i = 0; i + 2 < model.corners.size(); i += 3) {
        std::array<std::uint32_t, 3> triangle{};
        for (std::size_t k = 0; k < 3; ++k) {
            std::array<int, 3> at{};
            for (std::size_t axis = 0; axis < 3; ++axis)
                at[axis] = static_cast<int>(std::lround(double{model.corners[i + k].at[axis]} * kUnit));
            const auto [number, fresh] = numbers.try_emplace(at, static_cast<std::uint32_t>(out->points.size()));
            if (fresh) out->points.push_back(at);
            triangle[k] = number->second;
        }
        if (triangle[0] == triangle[1] || triangle[1] == triangle[2] || triangle[2] == triangle[0]) continue;
        out->triangles.push_back(triangle);
        const auto &a = out->points[triangle[0]], &b = out->points[triangle[1]], &c = out->points[triangle[2]];
        const double ux = b[0] - a[0], uy = b[1] - a[1], uz = b[2] - a[2];
        const double vx = c[0] - a[0], vy = c[1] - a[1], vz = c[2] - a[2];
        const double up = uz * vx - ux * vz, across = std::hypot(uy * vz - uz * vy, ux * vy - uy * vx);
        constexpr double kDegrees = 180 / 3.14159265358979;
        // What is nearly upright is its side.
        if (const double slope = std::atan2(across, up) * kDegrees; up > 0 && slope < 85)
            out->slope = std::max(out->slope, static_cast<int>(std::lround(slope)));
    }
    for (const Section& s : sections.all) {
        std::vector<outline::Outline> outlines;
        for (const Polygon& polygon : s.polygons) outlines.push_back({polygon, false});
        out->steps.push_back(
            {s.from, s.to, 0, std::make_shared<const std::vector<outline::Outline>>(std::move(outlines))});
    }
    return out;
}

Box moved(const Box& box, Point by) { return {box.x + by.x, box.y + by.y, box.w, box.h}; }

} // namespace

Crowd::Crowd(std::vector<std::shared_ptr<const scene::LoadedKit>> kits, std::vector<int> lows)
    : kits_(std::move(kits)), lows_(std::move(lows)) {}

Crowd::~Crowd() = default;

std::size_t Crowd::Hash::operator()(const Stacks& key) const {
    std::size_t out = key.parts.size();
    for (const Stack* stack : {&key.parts, &key.less})
        for (const std::uint32_t v : *stack) out = (out ^ v) * 0x9E3779B97F4A7C15ULL + 1;
    return out ^ (out >> 29);
}

const Crowd::Shape* Crowd::keep(const Sections& sections, Size size, Size on, Turn turn, Point half) {
    auto out = std::make_unique<Shape>();
    std::set<Point> cells;
    std::vector<std::map<Point, Polygons>> by_cell; // of each layer, in units from the cell's corner
    for (const Section& s : sections.all) {
        Shape::Layer& layer = out->layers.emplace_back();
        layer.from = s.from;
        layer.to = s.to;
        by_cell.emplace_back();
        for (Polygon polygon : s.polygons) {
            for (Point& p : polygon) p = laid(p, size, on, turn) + Point{half.x * kUnit / 2, half.y * kUnit / 2};
            if (turn.mirrored()) std::reverse(polygon.begin(), polygon.end());
            Box round{0, 0, 0, 0};
            for (const Point p : polygon) {
                const Point cell{floor_div(p.x, kUnit), floor_div(p.y, kUnit)};
                round = united(round, {cell.x, cell.y, 1, 1});
            }
            for (outline::CellPiece& piece : outline::by_cells(polygon, round)) {
                for (const Point bend : piece.bends)
                    layer.bends.push_back({piece.cell.x * kUnit + bend.x, piece.cell.y * kUnit + bend.y});
                by_cell.back()[piece.cell].push_back(std::move(piece.polygon));
                cells.insert(piece.cell);
            }
        }
    }
    out->cells.assign(cells.begin(), cells.end());
    for (std::size_t i = 0; i < by_cell.size(); ++i)
        for (const Point c : out->cells) {
            const auto part = by_cell[i].find(c);
            out->layers[i].parts.push_back(part == by_cell[i].end() ? kNobody
                                                                    : static_cast<std::uint32_t>(parts_.size()));
            if (part != by_cell[i].end()) parts_.push_back(std::move(part->second));
        }
    for (const Point c : out->cells) out->round = united(out->round, {c.x, c.y, 1, 1});
    shapes_.push_back(std::move(out));
    return shapes_.back().get();
}

Crowd::Cut Crowd::shape_of(const scene::Placed& p) {
    const auto open = [](const Sections& s) { return s.open > 0 || s.all.empty(); };
    const scene::LoadedKit& kit = *kits_[p.kit];
    const auto own = kit.blocking.find(p.piece);
    const bool convex = own != kit.blocking.end() && (own->second.blocks == level::PieceBlocks::hull ||
                                                      own->second.blocks == level::PieceBlocks::ramp);
    if (p.free) {
        // Off the lattice its triangles are cut as they stand there.
        scene::Placing at = *p.free;
        at[0][3] -= static_cast<float>(p.cells.x); // so that all of it lies near
        at[2][3] -= static_cast<float>(p.cells.y);
        const auto [known, fresh] = free_.try_emplace({p.kit, p.piece, at});
        if (fresh) {
            const scene::Model model = scene::at_its_place(scene::blocking_model_of(kit, p.piece), at);
            const Sections cut = sections_of(model);
            if (convex && is_aslant(model))
                known->second = {nullptr, open(cut), body_of(model, cut)};
            else
                known->second = {cut.all.empty() ? nullptr : keep(cut, {0, 0}, {0, 0}, {}, {}), open(cut)};
        }
        return known->second;
    }
    const auto [known, fresh] = laid_.try_emplace({p.kit, p.piece, p.turn.code, p.half});
    if (!fresh) return known->second;
    const Size size = kit.read.pieces[p.piece].cells;
    if (convex)
        if (scene::Model model = scene::blocking_model_of(kit, p.piece); is_aslant(model)) {
            scene::Placed here = p;
            here.cells = {0, 0, p.cells.w, p.cells.h};
            here.storey = 0;
            model = scene::at_its_place(std::move(model), scene::placing_of(here, size, scene::Storeys({})));
            const Sections cut = sections_of(model);
            known->second = {nullptr, open(cut), body_of(model, cut)};
            return known->second;
        }
    const auto [cut, first] = sections_.try_emplace({p.kit, p.piece});
    if (first) cut->second = sections_of(scene::blocking_model_of(kit, p.piece));
    known->second = {cut->second.all.empty() ? nullptr : keep(cut->second, size, p.cells.size(), p.turn, p.half),
                     open(cut->second)};
    return known->second;
}

Crowd::Standing Crowd::standing(const scene::Placed& p) {
    const Cut cut = shape_of(p);
    return {cut.shape, p.cells.corner(), p.free ? 0 : lows_[static_cast<std::size_t>(p.storey)], cut.open,
            cut.apart.get()};
}

std::vector<Crowd::Number> Crowd::add(const std::vector<const scene::Placed*>& placed) {
    std::vector<Number> out;
    Box all;
    for (const scene::Placed* p : placed) {
        const auto own = kits_[p->kit]->blocking.find(p->piece);
        if (own != kits_[p->kit]->blocking.end() && own->second.blocks == level::PieceBlocks::nothing) {
            out.push_back(kNobody);
            continue;
        }
        if (unused_.empty()) {
            unused_.push_back(static_cast<Number>(standing_.size()));
            standing_.emplace_back();
        }
        out.push_back(unused_.back());
        unused_.pop_back();
        Standing& s = standing_[out.back()] = standing(*p);
        if (s.shape) all = united(all, moved(s.shape->round, s.cell));
    }
    if (!all.empty() && united(box_, all) != box_) reach(all);
    for (const Number number : out) {
        if (number == kNobody) continue;
        const Standing& s = standing_[number];
        open_ += s.open ? 1 : 0;
        pieces_ += s.shape || s.apart ? 1 : 0;
        if (!s.shape) continue;
        put(number);
        for (const Shape::Layer& l : s.shape->layers) {
            ++heights_[l.from + s.up];
            ++heights_[l.to + s.up];
        }
    }
    return out;
}

void Crowd::remove(Number number) {
    Standing& s = standing_[number];
    open_ -= s.open ? 1 : 0;
    pieces_ -= s.shape || s.apart ? 1 : 0;
    if (s.shape) {
        for (const Point c : s.shape->cells) {
            std::vector<Touch>& here = at_[index_of(s.cell + c)];
            here.erase(std::find_if(here.begin(), here.end(), [number](const Touch& t) { return t.number == number; }));
        }
        for (const Shape::Layer& l : s.shape->layers)
            for (const int height : {l.from + s.up, l.to + s.up}) {
                const auto at = heights_.find(height);
                if (--at->second == 0) heights_.erase(at);
            }
    }
    s = {};
    unused_.push_back(number);
}

// Makes room for more cells, by whole parts of a trace.
void Crowd::reach(const Box& cells) {
    constexpr int kPart = static_cast<int>(outline::Grain::fine);
    const Box all = united(box_, cells);
    const Point corner{floor_div(all.x, kPart) * kPart, floor_div(all.y, kPart) * kPart};
    const Point end{floor_div(all.right() - 1, kPart) * kPart + kPart,
                    floor_div(all.bottom() - 1, kPart) * kPart + kPart};
    std::vector<std::vector<Touch>> before = std::move(at_);
    const Box was = std::exchange(box_, {corner.x, corner.y, end.x - corner.x, end.y - corner.y});
    at_.assign(static_cast<std::size_t>(box_.size().area()), {});
    std::size_t i = 0;
    for (int y = was.y; y < was.bottom(); ++y)
        for (int x = was.x; x < was.right(); ++x) at_[index_of({x, y})] = std::move(before[i++]);
}

void Crowd::put(Number number) {
    const Standing& s = standing_[number];
    for (std::uint32_t i = 0; i < s.shape->cells.size(); ++i)
        at_[index_of(s.cell + s.shape->cells[i])].push_back({number, i});
}

Crowd::Span Crowd::span(Number number) const {
    const Standing& s = standing_[number];
    if (!s.shape) return {};
    return {moved(s.shape->round, s.cell), s.shape->layers.front().from + s.up, s.shape->layers.back().to + s.up};
}

std::shared_ptr<const Body> Crowd::body(Number number) const {
    const Standing& s = standing_[number];
    if (!s.apart) return nullptr;
    auto out = std::make_shared<Body>(*s.apart);
    const Point by{s.cell.x * kUnit, s.cell.y * kUnit};
    for (std::array<int, 3>& p : out->points) p = {p[0] + by.x, p[1] + s.up, p[2] + by.y};
    out->storey = storey_of(out->steps.empty() ? s.up : out->steps.front().from + s.up);
    for (Slab& step : out->steps) {
        step.from += s.up;
        step.to += s.up;
        step.storey = out->storey;
        std::vector<outline::Outline> outlines = *step.outlines;
        for (outline::Outline& o : outlines)
            for (Point& p : o.points) p = p + by;
        step.outlines = std::make_shared<const std::vector<outline::Outline>>(std::move(outlines));
    }
    return out;
}

std::vector<int> Crowd::heights() const {
    if (heights_.empty()) return {};
    std::set<int> out;
    for (const auto& [height, count] : heights_) out.insert(height);
    const int least = *out.begin(), most = *out.rbegin();
    for (const int y : lows_)
        if (y > least && y < most && y > 0) out.insert(y);
    return {out.begin(), out.end()};
}

int Crowd::storey_of(int height) const {
    const auto above = std::upper_bound(lows_.begin(), lows_.end(), height);
    return std::max(0, static_cast<int>(above - lows_.begin()) - 1);
}

outline::SolidSource Crowd::filled(int height, std::optional<int> without) const {
    return
        [this, height, without](const Box& cells, outline::SolidCode* out, std::size_t stride, outline::Forms& forms) {
            std::map<const Filled*, outline::SolidCode> codes; // of the forms that these cells have
            Stack stack, not_in;
            // Cells beside each other often hold the same.
            Stack last, last_not;
            const Filled* last_known = nullptr;
            for (int y = 0; y < cells.h; ++y)
                for (int x = 0; x < cells.w; ++x) {
                    const Point cell{cells.x + x, cells.y + y};
                    outline::SolidCode& code = out[static_cast<std::size_t>(y) * stride + static_cast<std::size_t>(x)];
                    code = outline::kOpen;
                    if (cell.x < 0 || cell.y < 0 || cell.x >= box_.w || cell.y >= box_.h) continue;
                    take(cell + box_.corner(), height, stack, &forms.bends);
                    if (stack.empty()) continue;
                    if (without) take(cell + box_.corner(), *without, not_in, nullptr);
                    if (!last_known || stack != last || not_in != last_not) {
                        last_known = &what(stack, not_in);
                        last = stack;
                        last_not = not_in;
                    }
                    const Filled& known = *last_known;
                    code = known.code;
                    if (outline::solid_of(code) != outline::kForm) continue;
                    const auto [found, fresh] = codes.try_emplace(&known, code);
                    if (fresh) found->second = forms.put(known.form);
                    code = found->second;
                }
            return 0;
        };
}

void Crowd::take(Point cell, int height, Stack& out, std::vector<Point>* bends) const {
    out.clear();
    for (const Touch& touch : at_[index_of(cell)]) {
        const Standing& s = standing_[touch.number];
        const std::vector<Shape::Layer>& layers = s.shape->layers;
        const auto at = std::partition_point(layers.begin(), layers.end(),
                                             [&](const Shape::Layer& l) { return l.to + s.up <= height; });
        if (at == layers.end() || at->from + s.up > height) continue;
        const std::uint32_t part = at->parts[touch.cell];
        if (part == kNobody) continue;
        out.push_back(part);
        if (!bends) continue;
        const Point first{(s.cell.x - box_.x) * kUnit, (s.cell.y - box_.y) * kUnit};
        for (const Point bend : at->bends) bends->push_back(first + bend);
    }
    std::sort(out.begin(), out.end());
    out.erase(std::unique(out.begin(), out.end()), out.end());
}

// What parts come to in a cell, less others. The same stand in many cells, and at many heights: each is worked out
// once.
const Crowd::Filled& Crowd::what(const Stack& parts, const Stack& less) const {
    {
        const std::lock_guard lock(known_guard_);
        if (const auto found = known_.find(Stacks{parts, less}); found != known_.end()) return *found->second;
    }
    auto made = std::make_unique<Filled>();
    if (parts != less) {
        outline::Forms forms;
        Polygons all, gone;
        for (const std::uint32_t number : parts) all.insert(all.end(), parts_[number].begin(), parts_[number].end());
        for (const std::uint32_t number : less) gone.insert(gone.end(), parts_[number].begin(), parts_[number].end());
        made->code = forms.united(outline::kOpen, std::move(all));
        if (!gone.empty()) made->code = forms.without(made->code, gone);
        if (outline::solid_of(made->code) == outline::kForm) made->form = forms[made->code];
    }
    const std::lock_guard lock(known_guard_);
    return *known_.try_emplace({parts, less}, std::move(made)).first->second;
}

} // namespace vic::mass
