#include "upright/snags.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <set>
#include <string>
#include <tuple>
#include <utility>

#include "scene/metres.hpp"

namespace vic::upright {

using outline::kUnit;

namespace {

constexpr std::size_t kMostOfAKind = 24;
constexpr int kMostHole = 6; // cells; more is a court, not a hole

using Kits = std::vector<std::shared_ptr<const scene::LoadedKit>>;

class Finder {
  public:
    Finder(const Survey& survey, const level::Project& project, const level::Level& level, const Kits& kits)
        : survey_(survey),
          ground_(*survey.ground),
          level_(level),
          kits_(kits),
          storeys_(kits, level.storey_heights),
          placed_(scene::placed_in(project, level, kits, level::kMostStorey)) {}

    std::vector<Snag> all() {
        const level::Mark* start = level_.first_mark(level::MarkKind::start);
        if (start && !survey_.soaked.from) {
            Snag& s = put(Snag::Kind::shut_in, middle_of(*start), low(start->storey));
            s.mark = start->id;
            s.what = say("There is no room for the walker at \"%1\"", start->name);
            s.remedy = "Move the mark to where he can stand, or clear the place";
        }
        stairs();
        if (survey_.soaked.from) {
            marks();
            hold_ups();
            no_return();
        }
        holes();
        return std::move(out_);
    }

  private:
    [[nodiscard]] int low(int storey) const { return static_cast<int>(std::lround(storeys_.low(storey) * kUnit)); }
    [[nodiscard]] std::string in_metres(int units) const {
        const int centimetres = static_cast<int>(std::lround(units * survey_.metres * 100 / kUnit));
        std::string part = std::to_string(centimetres % 100);
        if (part.size() < 2) part.insert(0, "0");
        return std::to_string(centimetres / 100) + "." + part + " m";
    }
    Snag& put(Snag::Kind kind, Point at, int height) {
        Snag& s = out_.emplace_back();
        s.kind = kind;
        s.cell = {floor_div(at.x, kUnit), floor_div(at.y, kUnit)};
        s.height = height;
        s.storey = storeys_.at((height + 1) / double{kUnit});
        return s;
    }
    [[nodiscard]] bool full(Snag::Kind kind) const {
        return static_cast<std::size_t>(std::count_if(out_.begin(), out_.end(),
                                                      [&](const Snag& s) { return s.kind == kind; })) >= kMostOfAKind;
    }
    // visit(place) for all places of a cell.
    template <class Visit>
    void each_of_cell(Point cell, const Visit& visit) const {
        const int per = kUnit / ground_.side();
        for (int y = cell.y * per; y < (cell.y + 1) * per; ++y)
            for (int x = cell.x * per; x < (cell.x + 1) * per; ++x) {
                const auto [first, last] = ground_.column({x, y});
                for (std::size_t i = first; i < last; ++i) visit(i);
            }
    }

    void marks() {
        for (const level::Mark& m : level_.marks) {
            if (m.kind == level::MarkKind::start || full(Snag::Kind::mark)) continue;
            const int from = low(m.storey) - ground_.body().step, to = low(m.storey + 1);
            bool wet = false;
            for (int y = m.cells.y; y < m.cells.bottom() && !wet; ++y)
                for (int x = m.cells.x; x < m.cells.right() && !wet; ++x)
                    each_of_cell({x, y}, [&](std::size_t i) {
                        const Ground::Place& p = ground_.places()[i];
                        wet = wet || (survey_.soaked.at(i) && p.height >= from && p.height < to);
                    });
            if (wet) continue;
            lost_.push_back(&m);
            Snag& s = put(Snag::Kind::mark, middle_of(m), low(m.storey));
            s.mark = m.id;
            s.what = say("The walker does not get to \"%1\"", m.name);
            s.remedy = "Open a way to it, or lay it on the storey where it is meant to be";
        }
    }

    [[nodiscard]] bool in_lost_mark(const Ground::Place& p) const {
        const Point at = ground_.middle(p), cell{floor_div(at.x, kUnit), floor_div(at.y, kUnit)};
        return std::any_of(lost_.begin(), lost_.end(), [&](const level::Mark* m) {
            return m->cells.contains(cell) && p.height >= low(m->storey) - ground_.body().step &&
                   p.height < low(m->storey + 1);
        });
    }

    // Whether one gets up on the piece itself, step by step, to the storey above.
    [[nodiscard]] bool rises(const scene::Placed& p) {
        if (p.free) return false; // a house may have stairs of its own
        const auto [known, fresh] = rises_.try_emplace({p.kit, p.piece, p.storey}, false);
        if (!fresh) return known->second;
        const int high = low(p.storey + 1) - low(p.storey), step = std::max(1, ground_.body().step);
        int at = 0;
        for (const mass::Section& s : mass::sections_of(scene::blocking_model_of(*kits_[p.kit], p.piece)).all)
            if (s.to > 0 && s.to - at <= step) at = s.to;
        return known->second = at >= high - step;
    }

    // On what rises from a storey to the next one needs one's height above it.
    void stairs() {
        std::set<std::pair<int, Point>> floors; // storeys and cells with pieces
        for (const scene::Placed& p : placed_)
            for (int y = p.cells.y; y < p.cells.bottom() && !p.free; ++y)
                for (int x = p.cells.x; x < p.cells.right(); ++x) floors.insert({p.storey, {x, y}});
        for (const scene::Placed& p : placed_) {
            if (full(Snag::Kind::stair)) break;
            const int from = low(p.storey), to = low(p.storey + 1), step = std::max(1, ground_.body().step);
            if (!rises(p)) continue;
            std::vector<Point> opening;
            int least = Ground::kFree;
            Point at;
            for (int y = p.cells.y; y < p.cells.bottom(); ++y)
                for (int x = p.cells.x; x < p.cells.right(); ++x) {
                    bool knocks = false;
                    each_of_cell({x, y}, [&](std::size_t i) {
                        const Ground::Place& place = ground_.places()[i];
                        if (place.height <= from || place.height > to) return;
                        if (place.height + place.head < to - step || place.head >= ground_.body().tall) return;
                        knocks = true;
                        if (place.head < least) least = place.head, at = ground_.middle(place);
                    });
                    if (knocks && floors.contains({p.storey + 1, {x, y}})) opening.push_back({x, y});
                }
            if (opening.empty()) continue;
            Snag& s = put(Snag::Kind::stair, at, from);
            s.storey = p.storey;
            s.opening = std::move(opening);
            s.what = say("\"%1\" leads against the floor above: %2 are free, the walker has %3",
                         kits_[p.kit]->file.bodies[p.piece].name, in_metres(least), in_metres(ground_.body().tall));
            s.remedy = say_count(static_cast<std::int64_t>(s.opening.size()), "Open the floor over it: one cell",
                                 "Open the floor over it: %n cells");
        }
    }

    // Where another body gets on, and the first place of each area that it gets to.
    struct Beyond {
        Ground::Place place, lowest; // the first one, and the one with the least above it
        Point far;                   // the first place that the walker himself could stand at
        int rise = 0;                // to the first one from the one before it
        bool mark = false;           // whether one would get to a mark there
        std::size_t area = 0;
    };
    [[nodiscard]] std::vector<Beyond> beyond(const Body& body) const {
        const Ground ground(survey_.mass, survey_.plain, body);
        const Ground::Place& start = ground_.places()[*survey_.soaked.from];
        const auto from = ground.near(ground_.middle(start), start.height);
        std::vector<Beyond> out;
        if (!from) return out;
        std::vector<char> seen(ground.places().size(), 0);
        std::vector<std::pair<std::size_t, std::size_t>> order{{*from, *from}}; // place, and the one before it
        seen[*from] = 1;
        for (std::size_t i = 0; i < order.size(); ++i)
            ground.each_next(order[i].first, [&](std::size_t next) {
                if (!std::exchange(seen[next], 1)) order.emplace_back(next, order[i].first);
            });
        // Columns have the same places, whoever walks.
        const auto fresh = [&](std::size_t i) { return seen[i] != 0 && !survey_.soaked.at(i); };
        std::vector<char> counted(seen.size(), 0);
        for (const auto& [place, before] : order) {
            if (!fresh(place) || counted[place]) continue;
            const Ground::Place& first = ground.places()[place];
            Beyond b{first, first, ground.middle(first), first.height - ground.places()[before].height, false, 0};
            std::vector<std::size_t> todo{place};
            counted[place] = 1;
            for (std::size_t k = 0; k < todo.size(); ++k) {
                const std::size_t here = todo[k];
                b.mark = b.mark || in_lost_mark(ground.places()[here]);
                if (ground.places()[here].head < b.lowest.head) b.lowest = ground.places()[here];
                // A place beside what one gets to anyway is only nearer to the wall.
                if (ground_.places()[here].clear && b.area++ == 0) b.far = ground.middle(ground.places()[here]);
                ground.each_next(here, [&](std::size_t next) {
                    if (fresh(next) && !std::exchange(counted[next], 1)) todo.push_back(next);
                });
            }
            out.push_back(b);
        }
        return out;
    }
    void hold_ups() {
        const Body own = ground_.body();
        const auto per = static_cast<std::size_t>(kUnit / ground_.side());
        const auto each = [&](Snag::Kind kind, const Body& body, const auto& tell) {
            for (const Beyond& b : beyond(body)) {
                // What is high is mostly meant to be: it is told only where it keeps one from something.
                if (b.area < per * per || full(kind) || (kind == Snag::Kind::high && !b.mark)) continue;
                const Point at = ground_.middle(b.place);
                const bool low = kind == Snag::Kind::low;
                Snag& s = put(kind, low ? ground_.middle(b.lowest) : Point{(at.x + b.far.x) / 2, (at.y + b.far.y) / 2},
                              low ? b.lowest.height : b.place.height);
                tell(s, b);
            }
        };
        Body crouched = own;
        crouched.tall = std::max(1, own.tall / 2);
        each(Snag::Kind::low, crouched, [&](Snag& s, const Beyond& b) {
            s.what = say("It is too low here: %1 are free, the walker has %2", in_metres(b.lowest.head),
                         in_metres(own.tall));
            s.remedy = "Raise what lies above it, or give him another way";
        });
        Body thin = own;
        thin.wide = 1;
        each(Snag::Kind::narrow, thin, [&](Snag& s, const Beyond&) {
            s.what = say("It is too narrow here for the walker, who is %1 wide", in_metres(own.wide));
            s.remedy = "Widen it, or give him another way";
        });
        Body leaping = own;
        leaping.jump = 2 * std::max(own.jump, own.step) + kUnit / 8;
        each(Snag::Kind::high, leaping, [&](Snag& s, const Beyond& b) {
            s.what = say("It is %1 up here, the walker gets up %2", in_metres(b.rise), in_metres(own.jump));
            s.remedy = "Put a step or a stair there, or give him another way";
        });
        if (survey_.mass.bodies.empty()) return; // nothing leans
        Body climbing = own;
        climbing.slope = 90;
        each(Snag::Kind::steep, climbing, [&](Snag& s, const Beyond& b) {
            s.what = say("It is too steep here: %1°, the walker gets up %2°", b.place.slope, own.slope);
            s.remedy = "Lead it up over more cells, or let it block as its steps do";
        });
    }

    void no_return() {
        const auto per = static_cast<std::size_t>(kUnit / ground_.side());
        const auto& places = ground_.places();
        std::vector<char> counted(places.size(), 0);
        for (std::size_t i = 0; i < places.size() && !full(Snag::Kind::no_return); ++i) {
            if (survey_.soaked.wet[i] != Wet::no_way_back || counted[i]) continue;
            std::vector<std::size_t> todo{i};
            counted[i] = 1;
            std::size_t area = 0;
            while (!todo.empty()) {
                const std::size_t here = todo.back();
                todo.pop_back();
                ++area;
                ground_.each_next(here, [&](std::size_t next) {
                    if (survey_.soaked.wet[next] == Wet::no_way_back && !std::exchange(counted[next], 1))
                        todo.push_back(next);
                });
            }
            if (area < per * per) continue;
            Snag& s = put(Snag::Kind::no_return, ground_.middle(places[i]), places[i].height);
            s.what = "One gets down here, and not back";
            s.remedy = "Put a stair there, or a rail where one falls, if it is not meant";
        }
    }

    // Cells of a storey that are open to below, though floor lies all round them.
    void holes() {
        int highest = 0;
        for (const scene::Placed& p : placed_) highest = std::max(highest, p.storey);
        for (int storey = 1; storey <= highest; ++storey) holes_in(storey);
    }
    enum class Floor : std::uint8_t { none, carried, open, stair };
    [[nodiscard]] Floor floor_at(Point cell, int storey) const {
        const int at = low(storey), step = ground_.body().step, before = low(storey - 1);
        const int half = kUnit / ground_.side() * (kUnit / ground_.side()) / 2;
        int open = 0, carried = 0, rising = 0;
        each_of_cell(cell, [&](std::size_t i) {
            const Ground::Place& p = ground_.places()[i];
            if (p.height < at - step && p.height + p.head > at + step) {
                ++open;
                if (p.height > before + 2 * step) ++rising;
            } else if (std::abs(p.height - at) <= step) {
                ++carried;
            }
        });
        if (open >= half) return rising > 0 ? Floor::stair : Floor::open;
        return carried > 0 ? Floor::carried : Floor::none; // a wall
    }
    void holes_in(int storey) {
        const Size size = level_.size;
        std::map<Point, Floor> cells;
        for (int y = 0; y < size.h; ++y)
            for (int x = 0; x < size.w; ++x)
                if (const Floor f = floor_at({x, y}, storey); f == Floor::open || f == Floor::stair) cells[{x, y}] = f;
        std::set<Point> seen;
        for (const auto& [cell, kind] : cells) {
            if (!seen.insert(cell).second) continue;
            std::vector<Point> hole{cell};
            bool closed = true, stair = false;
            for (std::size_t i = 0; i < hole.size(); ++i) {
                stair = stair || cells.at(hole[i]) == Floor::stair;
                for (const Point by : {Point{1, 0}, Point{-1, 0}, Point{0, 1}, Point{0, -1}}) {
                    const Point next = hole[i] + by;
                    if (!level_.cells().contains(next)) closed = false;
                    if (cells.contains(next) && seen.insert(next).second) hole.push_back(next);
                }
            }
            if (!closed || stair || hole.size() > kMostHole || full(Snag::Kind::hole)) continue;
            Snag& s = put(Snag::Kind::hole, {cell.x * kUnit + kUnit / 2, cell.y * kUnit + kUnit / 2}, low(storey));
            s.storey = storey;
            s.what = say_count(static_cast<std::int64_t>(hole.size()), "The floor has a hole of one cell",
                               "The floor has a hole of %n cells");
            s.remedy = "Close it, or lead a stair up through it";
        }
    }

    const Survey& survey_;
    const Ground& ground_;
    const level::Level& level_;
    const Kits& kits_;
    scene::Storeys storeys_;
    std::vector<scene::Placed> placed_;
    std::map<std::tuple<std::size_t, std::size_t, int>, bool> rises_; // by kit, piece and storey
    std::vector<const level::Mark*> lost_;                            // that one does not get to
    std::vector<Snag> out_;
};

} // namespace

Point middle_of(const level::Mark& m) {
    return {m.cells.x * kUnit + m.cells.w * kUnit / 2, m.cells.y * kUnit + m.cells.h * kUnit / 2};
}

findings::Finding finding_of(const level::Level& level, const Snag& s) {
    static const std::array<const char*, 9> codes{"height-shut-in", "height-mark",      "stair-closed",
                                                  "height-low",     "height-narrow",    "height-high",
                                                  "height-steep",   "height-no-return", "floor-hole"};
    return {codes.at(static_cast<std::size_t>(s.kind)),
            s.kind == Snag::Kind::no_return ? findings::Severity::hint : findings::Severity::warning,
            level.id,
            0,
            s.cell,
            s.what,
            s.remedy};
}

std::vector<findings::Finding> check(const level::Project& project, const fs::path& dir) {
    std::vector<findings::Finding> out;
    if (std::none_of(project.sheets.begin(), project.sheets.end(), [](const auto& s) { return s->kit.has_value(); }))
        return out;
    const Kits kits = scene::load_kits(project, dir);
    for (const auto& level : project.levels) {
        if (scene::placed_in(project, *level, kits, level::kMostStorey).empty()) continue;
        const Survey all = survey(project, *level, kits);
        for (const Snag& s : snags(all, project, *level, kits)) out.push_back(finding_of(*level, s));
    }
    return out;
}

Survey survey(const level::Project& project, const level::Level& level, const Kits& kits) {
    const scene::Storeys storeys(kits, level.storey_heights);
    return survey(project, level, kits,
                  mass::merged(scene::placed_in(project, level, kits, level::kMostStorey), kits, storeys));
}

Survey survey(const level::Project& project, const level::Level& level, const Kits& kits, mass::Mass mass) {
    Survey out;
    out.metres = scene::metres_of(kits);
    out.mass = std::move(mass);
    const scene::Storeys storeys(kits, level.storey_heights);
    out.plain = mass::plain_of(project, level, kits, out.mass);
    out.ground = std::make_unique<Ground>(out.mass, out.plain, body_of(level.walker.upright, out.metres));
    std::optional<std::size_t> from;
    if (const level::Mark* start = level.first_mark(level::MarkKind::start))
        from = out.ground->near(middle_of(*start), static_cast<int>(std::lround(storeys.low(start->storey) * kUnit)));
    out.soaked = soak(*out.ground, from);
    return out;
}

std::vector<Snag> snags(const Survey& survey, const level::Project& project, const level::Level& level,
                        const Kits& kits) {
    return Finder(survey, project, level, kits).all();
}

} // namespace vic::upright
