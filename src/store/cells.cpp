#include "store/cells.hpp"

#include <charconv>
#include <cstring>
#include <set>

#include "base/error.hpp"

namespace vic::store {

using level::Cell;
using level::Grid;
using level::kChunk;
using level::MaterialId;

namespace {

constexpr const char* kHead = "vicinum-cells 2";
constexpr const char* kFirstHead = "vicinum-cells 1"; // every tile is told

struct Content {
    Cell cell;
    MaterialId material = 0;
    bool by_rule = false; // painted, and its tile is as the rules say
    bool operator==(const Content&) const = default;
    [[nodiscard]] bool empty() const { return cell.bits == 0 && material == 0; }
};

void append(std::string& out, long number) {
    char digits[24];
    const auto end = std::to_chars(digits, digits + sizeof digits, number).ptr;
    out.append(digits, end);
}

void append_run(std::string& out, const Content& content, int count) {
    out += ' ';
    if (count > 1) {
        append(out, count);
        out += 'x';
    }
    if (content.empty()) {
        out += '-';
        return;
    }
    if (content.by_rule) {
        out += '~';
        append(out, content.material);
        return;
    }
    append(out, static_cast<long>(content.cell.tile()));
    if (content.cell.turn().code) {
        out += '.';
        append(out, content.cell.turn().code);
    }
    if (content.material) {
        out += '~';
        append(out, content.material);
    }
    if (content.cell.pinned()) out += '!';
}

// One row of a grid without going through the chunk look-up for every cell. Cells that are as in `ruled`, if that is
// given, are told by their material alone.
void read_row(const Grid& grid, const Grid* ruled, int y, int from, int count, std::vector<Content>& row) {
    row.assign(static_cast<std::size_t>(count), {});
    for (int x = from; x < from + count;) {
        const int end = std::min(from + count, (x / kChunk + 1) * kChunk);
        const Point at{x / kChunk, y / kChunk};
        if (const level::Chunk* chunk = grid.chunk(at)) {
            const level::Chunk* rule = ruled ? ruled->chunk(at) : nullptr;
            auto i = static_cast<std::size_t>((y % kChunk) * kChunk + x % kChunk);
            for (int k = x; k < end; ++k, ++i) {
                Content& c = row[static_cast<std::size_t>(k - from)];
                c.material = chunk->materials[i];
                c.by_rule = rule && c.material != 0 && !chunk->cells[i].pinned() && rule->cells[i] == chunk->cells[i];
                if (!c.by_rule) c.cell = chunk->cells[i];
            }
        }
        x = end;
    }
}

// The row as text; empty where it holds nothing.
std::string row_text(const std::vector<Content>& row, int y, int from) {
    std::string line;
    std::size_t first = 0;
    while (first < row.size() && row[first].empty()) ++first;
    if (first == row.size()) return line;
    std::size_t end = row.size();
    while (row[end - 1].empty()) --end;
    append(line, y);
    line += ' ';
    append(line, from + static_cast<long>(first));
    for (std::size_t i = first; i < end;) {
        std::size_t same = i + 1;
        while (same < end && row[same] == row[i]) ++same;
        append_run(line, row[i], static_cast<int>(same - i));
        i = same;
    }
    return line;
}

class Lines {
  public:
    Lines(std::string_view text, const std::string& file) : text_(text), file_(file) {}

    bool next() {
        if (at_ >= text_.size()) return false;
        std::size_t end = text_.find('\n', at_);
        if (end == std::string_view::npos) end = text_.size();
        line_ = text_.substr(at_, end - at_);
        at_ = end + 1;
        ++number_;
        cursor_ = 0;
        return true;
    }

    [[nodiscard]] std::string_view line() const { return line_; }
    [[nodiscard]] bool done() const { return cursor_ >= line_.size(); }

    bool take(char c) {
        if (done() || line_[cursor_] != c) return false;
        ++cursor_;
        return true;
    }

    // Whether a count stands here: digits and an x.
    [[nodiscard]] bool counted() const {
        std::size_t at = cursor_;
        while (at < line_.size() && line_[at] >= '0' && line_[at] <= '9') ++at;
        return at > cursor_ && at < line_.size() && line_[at] == 'x';
    }

    std::uint32_t number(std::uint32_t most) {
        std::uint32_t value = 0;
        const char* from = line_.data() + cursor_;
        const auto [end, problem] = std::from_chars(from, line_.data() + line_.size(), value);
        if (problem != std::errc() || value > most)
            refuse(end == from ? Text("A number is missing") : say("A number is larger than %1", most));
        cursor_ += static_cast<std::size_t>(end - from);
        return value;
    }

    [[noreturn]] void refuse(const Text& what) const {
        throw InputError(what, file_, say("line %1, character %2", number_, cursor_ + 1),
                         "Restore the file from version control or a backup");
    }

  private:
    std::string_view text_;
    const std::string& file_;
    std::string_view line_;
    std::size_t at_ = 0;
    std::size_t cursor_ = 0;
    int number_ = 0;
};

void fill(Grid& grid, Point from, int count, const Content& content) {
    for (int x = from.x; x < from.x + count;) {
        const int end = std::min(from.x + count, (x / kChunk + 1) * kChunk);
        level::Chunk& chunk = grid.edit({x / kChunk, from.y / kChunk});
        auto i = static_cast<std::size_t>((from.y % kChunk) * kChunk + x % kChunk);
        for (; x < end; ++x, ++i) {
            chunk.cells[i] = content.cell;
            chunk.materials[i] = content.material;
        }
    }
}

// found(first column, content, count) for every run of the row that holds anything.
template <class Found>
void read_row_line(Lines& lines, std::uint32_t next_tile, const Box& part, int& last_row, Found found) {
    const int y = static_cast<int>(lines.number(static_cast<std::uint32_t>(part.bottom() - 1)));
    if (y < part.y) lines.refuse("The row lies in another block");
    if (y <= last_row) lines.refuse("The rows are not in ascending order");
    last_row = y;
    if (!lines.take(' ')) lines.refuse("A space is missing");
    int x = static_cast<int>(lines.number(static_cast<std::uint32_t>(part.right() - 1)));
    if (x < part.x) lines.refuse("The cells lie in another block");
    while (!lines.done()) {
        if (!lines.take(' ')) lines.refuse("A space is missing");
        std::uint32_t count = 1;
        Content content;
        const auto cell = [&] { // after its count
            if (lines.take('-')) return;
            if (lines.take('~')) {
                content.material = static_cast<MaterialId>(lines.number(255));
                content.by_rule = true;
                return;
            }
            const std::uint32_t tile = lines.number(level::kMostTiles);
            if (tile >= next_tile) lines.refuse(say("Tile %1 was never given out", tile));
            Turn turn;
            if (lines.take('.')) turn.code = static_cast<std::uint8_t>(lines.number(7));
            if (lines.take('~')) content.material = static_cast<MaterialId>(lines.number(255));
            content.cell = Cell(tile, turn, lines.take('!'));
        };
        if (lines.counted()) {
            count = lines.number(level::kMostTiles);
            lines.take('x');
        }
        cell();
        if (count == 0 || x + std::int64_t{count} > part.right())
            lines.refuse("The cells go over the level's right edge");
        if (!content.empty()) found(Point{x, y}, content, static_cast<int>(count));
        x += static_cast<int>(count);
    }
}

class TooManyCells : public InputError {
  public:
    TooManyCells(const std::string& file, level::LayerId layer, int row)
        : InputError("The project holds more cells than fit into memory", file, say("layer %1, row %2", layer, row),
                     "Divide it into several projects") {}
};

} // namespace

bool in_blocks(const level::Level& level) { return level.size.w > kBlock || level.size.h > kBlock; }

std::vector<Point> blocks_of(const level::Level& level) {
    std::vector<Point> out;
    if (!in_blocks(level)) return out;
    const auto holds = [&](Point block) {
        for (const level::LayerRef& l : level.layers) {
            if (!l->has_cells()) continue;
            const Box own =
                intersection(l->grain().in_layer(Box{block.x * kBlock, block.y * kBlock, kBlock, kBlock}), l->cells());
            if (own.empty()) continue;
            for (int y = own.y / kChunk; y * kChunk < own.bottom(); ++y)
                for (int x = own.x / kChunk; x * kChunk < own.right(); ++x)
                    if (l->grid().chunk({x, y})) return true;
        }
        return false;
    };
    for (int y = 0; y * kBlock < level.size.h; ++y)
        for (int x = 0; x * kBlock < level.size.w; ++x)
            if (holds({x, y})) out.push_back({x, y});
    return out;
}

std::vector<std::string> write_rows(const Grid& grid) {
    std::vector<std::string> out;
    std::vector<Content> row;
    for (int y = 0; y < grid.size().h; ++y) {
        read_row(grid, nullptr, y, 0, grid.size().w, row);
        if (std::string line = row_text(row, y, 0); !line.empty()) out.push_back(std::move(line));
    }
    return out;
}

Grid read_rows(const std::vector<std::string>& rows, Size size, const std::string& file, const std::string& where,
               std::uint32_t next_tile) {
    Grid grid(size);
    int last_row = -1;
    for (const std::string& row : rows) {
        try {
            Lines lines(row, file);
            lines.next();
            read_row_line(lines, next_tile, box_of(size), last_row,
                          [&](Point at, const Content& c, int count) { fill(grid, at, count, c); });
        } catch (const InputError& e) {
            throw InputError(e.problem, file, Text::verbatim(where), e.remedy);
        }
    }
    return grid;
}

std::string write_cells(const level::Level& level, const join::Rules& rules, const Box& wanted) {
    const Box level_part = intersection(wanted, level.cells());
    std::string out = std::string(kHead) + "\n";
    std::vector<Content> row;
    for (const level::LayerRef& layer : level.layers) {
        if (!layer->has_cells()) continue;
        out += "layer " + std::to_string(layer->id) + "\n";
        const Box part = layer->grain().in_layer(level_part);
        Grid ruled = layer->grid();
        join::resolve(rules, ruled, part, layer->id);
        for (int y = part.y; y < part.bottom(); ++y) {
            read_row(layer->grid(), &ruled, y, part.x, part.w, row);
            const std::string line = row_text(row, y, part.x);
            if (line.empty()) continue;
            out += line;
            out += '\n';
        }
    }
    out += "end\n";
    return out;
}

CellReader::CellReader(level::Level& level, std::uint32_t next_tile, CellBudget* budget)
    : level_(level),
      next_tile_(next_tile),
      budget_(budget),
      rows_(static_cast<std::size_t>((level.size.h + kBlock - 1) / kBlock)) {
    for (const level::LayerRef& l : std::vector(level.layers))
        if (l->has_cells()) {
            grids_[l->id] = &level.edit(l->id).grid();
            grains_[l->id] = l->grain();
            are_[l->id] = l->cells_are();
        }
}

void CellReader::read(std::string_view text, const std::string& file, const Box& wanted,
                      std::vector<DamagedCells>* damaged) {
    const Box level_part = intersection(wanted, level_.cells());
    Box part = level_part; // in cells of the layer that is read
    Part& own = rows_[static_cast<std::size_t>(level_part.y / kBlock)];
    Lines lines(text, file);
    if (!lines.next()) throw InputError("The file is empty", file, "", "Restore it from version control or a backup");
    if (lines.line() != kHead && lines.line() != kFirstHead) {
        if (lines.line().starts_with("vicinum-cells "))
            throw InputError("The file has another format number than this program knows", file, "line 1",
                             "Open it with a newer Vicinum");
        lines.refuse("This is not a file of cells");
    }
    Grid* grid = nullptr;
    level::LayerId id = 0;
    int last_row = -1;
    bool passes = false; // over the rest of a damaged layer
    bool ended = false;
    std::set<level::LayerId> seen;
    while (!ended && lines.next()) {
        try {
            if (lines.line() == "end") {
                ended = true;
            } else if (lines.line().starts_with("layer ")) {
                for (int i = 0; i < 6; ++i) lines.take("layer "[i]);
                id = lines.number(UINT32_MAX);
                if (!grids_.contains(id)) lines.refuse(say("The level has no layer of cells %1", id));
                if (!seen.insert(id).second) lines.refuse(say("Layer %1 comes twice", id));
                grid = grids_.at(id);
                part = grains_.at(id).in_layer(level_part);
                last_row = part.y - 1;
                passes = false;
            } else if (!passes) {
                if (!grid) lines.refuse("Cells come before any layer");
                auto& told = own.told[id];
                bool& by_rule = own.by_rule[id];
                const level::CellsAre are = are_.at(id);
                const std::uint32_t limit = are == level::CellsAre::tiles    ? next_tile_
                                            : are == level::CellsAre::shapes ? level::kTileShapes
                                                                             : level::Facts::kCodes;
                read_row_line(lines, limit, part, last_row, [&](Point at, const Content& c, int count) {
                    if (are == level::CellsAre::shapes && c.material != 0) lines.refuse("Blockers have no material");
                    if (are == level::CellsAre::values && (c.material != 0 || !level::Facts::holds(c.cell)))
                        lines.refuse("This is no value of a cell");
                    if (budget_ && budget_->left.fetch_sub(count) < count) throw TooManyCells(file, id, at.y);
                    fill(*grid, at, count, c);
                    by_rule = by_rule || c.by_rule;
                    if (!c.by_rule && c.material != 0 && !c.cell.pinned())
                        for (int i = 0; i < count; ++i) told.push_back({{at.x + i, at.y}, c.cell});
                });
            }
        } catch (const TooManyCells&) {
            throw;
        } catch (const InputError& e) {
            if (!damaged || !grid) throw;
            damaged->push_back({id, file, say("%1 (%2)", e.problem, e.where)});
            passes = true;
        }
    }
    if (ended) return;
    const InputError cut("The file is cut off", file, "its end", "Restore it from version control or a backup");
    if (!damaged) throw cut;
    // The layer it broke off in, and all that should come after.
    for (const auto& [own_id, own_grid] : grids_)
        if (own_id == id || !seen.contains(own_id))
            damaged->push_back({own_id, file, say("%1 (%2)", cut.problem, cut.where)});
}

void CellReader::finish(const join::Rules& rules) { finish(rules, std::vector{level_.cells()}); }

void CellReader::finish(const join::Rules& rules, const std::vector<Box>& parts) {
    for (const auto& [id, grid] : grids_) {
        bool by_rule = false;
        for (const Part& p : rows_)
            if (const auto found = p.by_rule.find(id); found != p.by_rule.end()) by_rule = by_rule || found->second;
        if (!by_rule) continue;
        for (const Box& part : parts) join::resolve(rules, *grid, grains_.at(id).touching(part), id);
        for (const Part& p : rows_)
            if (const auto found = p.told.find(id); found != p.told.end())
                for (const Told& t : found->second) grid->set(t.at, t.cell, grid->material(t.at));
    }
}

} // namespace vic::store
