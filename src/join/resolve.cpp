#include "join/resolve.hpp"

#include <array>
#include <bit>
#include <cstring>
#include <map>

#include "base/blue_noise.hpp"
#include "base/chance.hpp"
#include "base/parallel.hpp"
#include "join/rows.hpp"

namespace vic::join {

using level::Cell;
using level::Grid;
using level::kChunk;
using level::MaterialId;

namespace {

// How badly a tile drawn for `have` stands in for `want`: a wrong side shows more than a wrong corner.
int misfit(Mask have, Mask want) {
    const auto wrong = static_cast<unsigned>(have ^ want);
    return 3 * std::popcount(wrong & kSides) + std::popcount(wrong & kCorners);
}

std::uint32_t bits_of(const level::Variant& v) { return Cell(v.tile, v.turn, false).bits; }

static_assert(sizeof(Cell) == sizeof(std::uint32_t));

} // namespace

std::uint32_t Rules::entry_of(const std::vector<level::Variant>& variants, int lively) {
    std::uint32_t total = 0;
    std::uint32_t count = 0;
    for (const auto& v : variants)
        if (v.weight > 0) {
            total += static_cast<std::uint32_t>(v.weight);
            ++count;
        }
    if (count == 1)
        for (const auto& v : variants)
            if (v.weight > 0) return bits_of(v);
    std::vector<Choice> list{{static_cast<std::uint32_t>(lively), total}};
    Variants few;
    std::uint64_t sum = 0;
    for (const auto& v : variants) {
        if (v.weight <= 0) continue;
        if (few.count < Variants::kFew) {
            few.from[few.count] = static_cast<std::uint32_t>(((sum << 32) + total - 1) / total);
            few.cells[few.count] = bits_of(v);
        }
        ++few.count;
        sum += static_cast<std::uint64_t>(v.weight);
        list.push_back({static_cast<std::uint32_t>(sum), bits_of(v)});
    }
    few.always = lively >= 100 ? ~0U : 0U;
    few.lively = static_cast<std::uint32_t>(
        ((std::uint64_t{static_cast<std::uint32_t>(std::min(lively, 99))} << 32) + 99) / 100);
    choices_.push_back(std::move(list));
    few_.push_back(few);
    return kMany | static_cast<std::uint32_t>(choices_.size() - 1);
}

void Rules::lay_out(const level::JoinSet& set, const level::Cases& cases_of, std::size_t at, std::uint8_t* missing) {
    level::JoinSet own;
    own.kind = set.kind;
    own.turns = set.turns;
    own.cases = cases_of;
    // One entry per case that is served.
    std::vector<std::pair<Mask, std::uint32_t>> served;
    for (const Mask mask : cases(set.kind))
        if (const auto variants = serving(own, mask); !variants.empty())
            served.emplace_back(mask, entry_of(variants, set.lively));
    for (int m = 0; m < 256; ++m) {
        const Mask want = canonical(static_cast<Mask>(m), set.kind);
        int best = 1000;
        for (const auto& [have, entry] : served) {
            const int miss = misfit(have, want);
            if (miss <= best) { // of equals the one that joins more
                best = miss;
                table_[at + static_cast<std::size_t>(m)] = entry;
            }
        }
        missing[m] = best != 0;
    }
}

Rules::Rules(const level::Project& project)
    : table_(256 * 256, 0), missing_(256 * 256, 0), same_(256 * 256, 0), pairs_(256) {
    std::array<int, 256> priority{};
    for (const auto& material : project.materials) priority[material->id] = material->joins.priority;
    for (const auto& material : project.materials) {
        const auto& set = material->joins;
        const std::size_t own = std::size_t{material->id} << 8;
        lay_out(set, set.cases, own, &missing_[own]);
        for (const Mask mask : cases(set.kind)) lacking_[material->id] |= missing_[own | mask];
        same_[own] = set.beyond_is_same;
        same_[own | material->id] = 1;
        for (const MaterialId other : set.same)
            if (other != 0 && other != material->id) same_[own | other] = related_[material->id] = 1;
        for (const auto& other : project.materials)
            if (priority[other->id] > set.priority) same_[own | other->id] = related_[material->id] = 1;
        over_[material->id] = set.over;
        any_over_ = any_over_ || set.over;
    }
    for (const auto& material : project.materials)
        for (const auto& [other, cases_of] : material->joins.pairs) {
            if (other == 0 || other == material->id) continue;
            const auto at = static_cast<std::uint32_t>(table_.size());
            table_.resize(table_.size() + 256, 0);
            missing_.resize(missing_.size() + 256, 1);
            lay_out(material->joins, cases_of, at, &missing_[at]);
            pairs_[material->id].push_back({other, at});
            related_[material->id] = 1;
        }
    for (const std::uint8_t r : related_) any_related_ = any_related_ || r;
}

std::uint32_t Rules::variant(std::uint32_t entry, int x, int y, std::uint32_t seed) const {
    const std::vector<Choice>& list = choices_[entry & ~kMany];
    const std::uint32_t lively = list[0].up_to;
    const auto column = static_cast<std::uint32_t>(x);
    const auto row = static_cast<std::uint32_t>(y);
    // Places that are lively take a spread threshold, the others a random one: both come evenly, so that the weights
    // hold whatever the strength.
    const bool spread =
        lively >= 100 || (lively > 0 && scaled(cell_hash(seed ^ 0x51ED270BU, column, row), 100) < lively);
    const std::uint32_t threshold = spread ? spread_threshold(seed, x, y) : cell_hash(seed, column, row);
    const std::uint32_t pick = scaled(threshold, list[0].cell);
    std::size_t i = 1;
    while (i + 1 < list.size() && pick >= list[i].up_to) ++i;
    return list[i].cell;
}

void Rules::pick_row(std::uint32_t* cells, int x, int y, std::uint32_t seed, int n) const {
    // Most rows choose among the variants of few cases; each of these is done for the whole row at once.
    constexpr int kMostPasses = 6;
    int passes = 0;
    for (int i = 0; i < n; ++i) {
        const std::uint32_t entry = cells[i];
        if (!(entry & kMany)) continue;
        const Variants& few = few_[entry & ~kMany];
        if (few.count <= Variants::kFew && passes < kMostPasses) {
            choose_row(few, entry, seed, x + i, y, n - i, cells + i);
            ++passes;
        } else {
            cells[i] = variant(entry, x + i, y, seed);
        }
    }
}

bool Rules::inside_rows(MaterialId m, int x, int y, int w, int h, std::uint32_t seed, Cell* out) const {
    const std::uint32_t entry = table_[(std::size_t{m} << 8) | 255U];
    if (m == 0 || related_[m] || !(entry & kMany) || w > kRowPart) return false;
    const Variants& few = few_[entry & ~kMany];
    if (few.count > Variants::kFew) return false;
    for (int row = 0; row < h; ++row) {
        std::uint32_t* cells = &out[static_cast<std::size_t>(row) * static_cast<std::size_t>(w)].bits;
        std::fill_n(cells, w, entry);
        choose_row(few, entry, seed, x, y + row, w, cells);
    }
    return true;
}

Mask Rules::mask(const Around& at) const {
    unsigned out = 0;
    const std::size_t own = std::size_t{at.own} << 8;
    for (unsigned i = 0; i < 8; ++i) {
        const bool beyond = (at.beyond >> i) & 1U;
        const bool same = beyond ? same_[own] != 0 : at.others[i] != 0 && same_[own | at.others[i]] != 0;
        out |= same ? 1U << i : 0U;
    }
    return static_cast<Mask>(out);
}

const Rules::Pair* Rules::pair(const Around& at) const {
    const Pair* best = nullptr;
    int most = 0;
    for (const Pair& p : pairs_[at.own]) {
        int n = 0; // a side counts more than a corner
        for (std::size_t i = 0; i < 8; ++i)
            if (!((at.beyond >> i) & 1U) && at.others[i] == p.other) n += i % 2 == 0 ? 3 : 1;
        if (n > most) {
            most = n;
            best = &p;
        }
    }
    return best;
}

Cell Rules::choose(const Around& at, int x, int y, std::uint32_t seed) const {
    const Mask m = mask(at);
    if (const Pair* p = pair(at); p && !missing_[p->table | m]) return Cell(picked(table_[p->table | m], x, y, seed));
    return choose(at.own, m, x, y, seed);
}

bool Rules::missing(const Around& at) const {
    const Mask m = mask(at);
    if (const Pair* p = pair(at); p && !missing_[p->table | m]) return false;
    return missing(at.own, m);
}

Cell Rules::below(const Around& at, int x, int y, std::uint32_t seed) const {
    if (!over_[at.own]) return {};
    std::array<std::uint8_t, 8> counts{};
    std::size_t best = 8;
    for (std::size_t i = 0; i < 8; ++i) {
        const MaterialId other = at.others[i];
        if (other == 0 || same_[(std::size_t{at.own} << 8) | other]) continue;
        std::size_t first = 0;
        while (at.others[first] != other) ++first;
        counts[first] = static_cast<std::uint8_t>(counts[first] + (i % 2 == 0 ? 3 : 1));
        if (best == 8 || counts[first] > counts[best]) best = first;
    }
    return best == 8 ? Cell{} : choose(at.others[best], 255, x, y, seed);
}

bool Rules::join_row(const MaterialId* above, const MaterialId* here, const MaterialId* below, int count, int x0, int y,
                     std::uint32_t seed, const Cell* was, Cell* out) const {
    std::array<std::uint8_t, kRowPart> masks;
    std::uint32_t changed = 0;
    for (int from = 0; from < count; from += kRowPart) {
        const int n = std::min(kRowPart, count - from);
        const MaterialId* h = here + from;
        const Cell* old = was + from;
        Cell* cells = out + from;
        const RowState row =
            look_up_row(above + from, h, below + from, n, masks.data(), table_.data(), &old[0].bits, &cells[0].bits);
        changed |= row.changed;
        if (any_related_) {
            changed = 1;
            for (int i = 0; i < n; ++i) {
                if (!related_[h[i]] || old[i].pinned()) continue;
                const MaterialId* a = above + from + i;
                const MaterialId* b = below + from + i;
                const Around at{h[i], {a[0], a[1], h[i + 1], b[1], b[0], b[-1], h[i - 1], a[-1]}, 0};
                cells[i] = choose(at, x0 + from + i, y, seed);
            }
        }
        if (row.any & kMany) {
            changed = 1;
            pick_row(&cells[0].bits, x0 + from, y, seed, n);
        }
    }
    return changed != 0;
}

Around around(const Grid& grid, Point at) {
    Around out{grid.material(at), {}, 0};
    for (unsigned i = 0; i < 8; ++i) {
        const Point p = at + kNeighbour[i];
        if (box_of(grid.size()).contains(p))
            out.others[i] = grid.material(p);
        else
            out.beyond = static_cast<Mask>(out.beyond | (1U << i));
    }
    return out;
}

Mask neighbourhood(const Grid& grid, Point at, bool beyond_is_same) {
    const Around a = around(grid, at);
    unsigned mask = 0;
    for (unsigned i = 0; i < 8; ++i)
        mask |= ((a.beyond >> i) & 1U ? beyond_is_same : a.others[i] == a.own) ? 1U << i : 0U;
    return static_cast<Mask>(mask);
}

namespace {

constexpr std::int64_t kLarge = 1 << 20; // cells from which a second thread is worth its while

// Chunks that were shared and have changed; to be put into the grid when nobody reads it any more.
using Fresh = std::vector<std::pair<Point, std::shared_ptr<const level::Chunk>>>;

// Joins the cells `part` of one chunk. Reads materials of the chunks around, writes cells of its own only.
// `next` is the chunk that will be joined after it, if any.
void resolve_part(const Rules& rules, Grid& grid, Point at, const Box& part, std::uint32_t seed,
                  const level::Chunk* next, Fresh& fresh) {
    constexpr int kStride = kChunk + 2;
    std::array<MaterialId, static_cast<std::size_t>(kStride) * kStride> plane;
    std::array<Cell, kChunk> line;
    const Box inner = box_of(grid.size()).grown(-1);
    const level::Chunk* chunk = grid.chunk(at);
    grid.read_materials(part.grown(1), plane.data(), kStride);
    level::Chunk* out = nullptr; // known with the first row that changes
    for (int y = part.y; y < part.bottom(); ++y) {
        const std::size_t row = static_cast<std::size_t>(y - part.y + 1) * kStride + 1;
        const auto first = static_cast<std::size_t>((y - at.y * kChunk) * kChunk + (part.x - at.x * kChunk));
        if (next) { // chunks lie anywhere in memory, where the processor does not look ahead by itself
            const auto ahead = static_cast<std::size_t>(y - at.y * kChunk) * kChunk;
            for (std::size_t i = 0; i < kChunk; i += 16) __builtin_prefetch(&next->cells[ahead + i], 1);
            __builtin_prefetch(&next->materials[ahead]);
        }
        const Cell* was = out ? &out->cells[first] : &chunk->cells[first];
        // Once the chunk is known to change, rows are joined in their place.
        Cell* now = out ? &out->cells[first] : line.data();
        bool changed = rules.join_row(&plane[row - kStride], &plane[row], &plane[row + kStride], part.w, part.x, y,
                                      seed, was, now);
        // At the level's edge it depends on the material what lies beyond; few cells, done one by one.
        const bool edge_row = y < inner.y || y >= inner.bottom();
        for (int x = part.x; x < part.right(); ++x) {
            if (!edge_row && x >= inner.x && x < inner.right()) {
                x = std::max(x, std::min(part.right(), inner.right()) - 1);
                continue;
            }
            const auto i = static_cast<std::size_t>(x - part.x);
            if (plane[row + i] == 0 || was[i].pinned()) continue;
            now[i] = rules.choose(around(grid, {x, y}), x, y, seed);
            changed = true;
        }
        const std::size_t bytes = static_cast<std::size_t>(part.w) * sizeof(Cell);
        if (out || !changed || std::memcmp(was, now, bytes) == 0) continue;
        out = grid.own(at);
        if (!out) {
            auto copy = level::make_chunk(*chunk);
            out = copy.get();
            fresh.emplace_back(at, std::move(copy));
        }
        std::memcpy(&out->cells[first], now, bytes);
    }
}

// Chunks that a fill has made share one content. Where such a chunk lies among its like, each of its cells is inside
// the material, and the joined chunk can be shared as well.
class Solid {
  public:
    Solid(const Rules& rules, const Grid& grid) : rules_(rules), grid_(grid) {}

    // The joined chunk for the place; null where it has to be gone through.
    std::shared_ptr<const level::Chunk> at(Point chunk, std::uint32_t seed) {
        const level::Chunk* here = grid_.chunk(chunk);
        for (const Point by : kNeighbour)
            if (grid_.chunk(chunk + by) != here) return nullptr;
        const auto [known, fresh] = known_.try_emplace(here);
        UniformChunk& k = known->second;
        if (fresh) {
            k.material = only_material(*here);
            if (const auto cell = rules_.inside(k.material)) {
                auto shared = level::make_chunk(*here);
                shared->cells.fill(*cell);
                k.joined = std::move(shared);
            }
        }
        if (k.joined || k.material == 0) return k.joined;
        auto own = level::make_chunk();
        own->materials.fill(k.material);
        return rules_.inside_rows(k.material, chunk.x * kChunk, chunk.y * kChunk, kChunk, kChunk, seed,
                                  own->cells.data())
                   ? own
                   : nullptr;
    }

  private:
    struct UniformChunk {
        MaterialId material = 0; // that it is full of, without pinned cells
        std::shared_ptr<const level::Chunk> joined;
    };
    static MaterialId only_material(const level::Chunk& chunk) {
        const MaterialId m = chunk.materials.front();
        if (std::any_of(chunk.materials.begin(), chunk.materials.end(), [&](MaterialId o) { return o != m; }) ||
            std::any_of(chunk.cells.begin(), chunk.cells.end(), [](Cell c) { return c.pinned(); }))
            return 0;
        return m;
    }

    const Rules& rules_;
    const Grid& grid_;
    std::map<const level::Chunk*, UniformChunk> known_;
};

} // namespace

void resolve(const Rules& rules, Grid& grid, const Box& cells, std::uint32_t seed) {
    const Box box = intersection(cells, box_of(grid.size()));
    if (box.empty()) return;
    const int first = box.y / kChunk;
    const int last = (box.bottom() - 1) / kChunk;
    std::array<Fresh, 2> freshes;
    std::array<Solid, 2> solids{Solid(rules, grid), Solid(rules, grid)};
    const auto join = [&](int worker, int from, int to) {
        Fresh& fresh = freshes[static_cast<std::size_t>(worker)];
        Solid& solid = solids[static_cast<std::size_t>(worker)];
        for (int cy = from; cy < to; ++cy)
            for (int cx = box.x / kChunk; cx <= (box.right() - 1) / kChunk; ++cx)
                if (!grid.chunk({cx, cy}))
                    continue;
                else if (auto shared = box.contains(Box{cx * kChunk, cy * kChunk, kChunk, kChunk})
                                           ? solid.at({cx, cy}, seed)
                                           : nullptr)
                    fresh.emplace_back(Point{cx, cy}, std::move(shared));
                else
                    resolve_part(rules, grid, {cx, cy}, intersection(box, {cx * kChunk, cy * kChunk, kChunk, kChunk}),
                                 seed, grid.chunk({cx + 1, cy}), fresh);
    };
    parallel_pieces(first, last + 1, box.size().area() >= kLarge, join);
    for (auto& list : freshes)
        for (auto& [at, chunk] : list) grid.put(at, std::move(chunk));
}

Grid underlay(const Rules& rules, const Grid& grid, const Box& cells, std::uint32_t seed) {
    Grid out(grid.size());
    if (!rules.any_over()) return out;
    level::each_cell(grid, cells, [&](Point p, Cell, MaterialId material) {
        if (!rules.over(material)) return;
        if (const Cell below = rules.below(around(grid, p), p.x, p.y, seed); !below.empty()) out.set(p, below, 0);
    });
    return out;
}

Repetition repetition(const level::Project& project, const Grid& grid, MaterialId material) {
    Repetition out;
    const level::Material* m = project.material(material);
    if (!m) return out;
    const Rules rules(project);
    // Which choice a cell has, and how likely two of the kind are the same.
    std::vector<double> alike(256, -1.0);
    for (const Mask mask : cases(m->joins.kind)) {
        const auto variants = serving(m->joins, mask);
        double total = 0;
        double squares = 0;
        int real = 0;
        for (const auto& v : variants)
            if (v.weight > 0) {
                total += v.weight;
                squares += double(v.weight) * v.weight;
                ++real;
            }
        if (real > 1) alike[mask] = squares / (total * total);
    }
    double expected = 0;
    const auto case_at = [&](Point p) { return canonical(rules.mask(around(grid, p)), m->joins.kind); };
    level::each_cell(grid, box_of(grid.size()), [&](Point p, Cell cell, MaterialId of) {
        if (of != material) return;
        const Mask mask = case_at(p);
        if (alike[mask] < 0) return;
        for (const Point by : {Point{1, 0}, Point{0, 1}}) {
            const Point q = p + by;
            if (grid.material(q) != material || case_at(q) != mask) continue;
            ++out.pairs;
            out.alike += grid.cell(q) == cell;
            expected += alike[mask];
        }
    });
    out.by_chance = out.pairs == 0 ? 0 : expected / double(out.pairs);
    return out;
}

} // namespace vic::join
