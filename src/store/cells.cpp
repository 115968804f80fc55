#include "store/cells.hpp"

#include <charconv>
#include <cstring>
#include <set>

#include "base/error.hpp"

namespace vic::store {

using level::Cell;
using level::Grid;
using level::kChunk;
using level::Layer;
using level::LayerKind;
using level::MaterialId;

namespace {

constexpr const char* kHead = "vicinum-cells 1";

struct Content {
    Cell cell;
    MaterialId material = 0;
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

// One row of a grid without going through the chunk look-up for every cell.
void read_row(const Grid& grid, int y, std::vector<Content>& row) {
    row.assign(static_cast<std::size_t>(grid.size().w), {});
    level::each_cell(grid, {0, y, grid.size().w, 1}, [&](Point at, Cell cell, MaterialId material) {
        row[static_cast<std::size_t>(at.x)] = {cell, material};
    });
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

void read_row_line(Lines& lines, std::uint32_t next_tile, Size size, Grid& grid, int& last_row) {
    const int y = static_cast<int>(lines.number(static_cast<std::uint32_t>(size.h - 1)));
    if (y <= last_row) lines.refuse("The rows are not in ascending order");
    last_row = y;
    if (!lines.take(' ')) lines.refuse("A space is missing");
    int x = static_cast<int>(lines.number(static_cast<std::uint32_t>(size.w - 1)));
    while (!lines.done()) {
        if (!lines.take(' ')) lines.refuse("A space is missing");
        std::uint32_t count = 1;
        Content content;
        if (!lines.take('-')) {
            std::uint32_t first = lines.number(level::kMostTiles);
            bool empty = false;
            if (lines.take('x')) {
                count = first;
                empty = lines.take('-');
                if (!empty) first = lines.number(level::kMostTiles);
            }
            if (!empty) {
                if (first >= next_tile) lines.refuse(say("Tile %1 was never given out", first));
                Turn turn;
                if (lines.take('.')) turn.code = static_cast<std::uint8_t>(lines.number(7));
                if (lines.take('~')) content.material = static_cast<MaterialId>(lines.number(255));
                content.cell = Cell(first, turn, lines.take('!'));
            }
        }
        if (count == 0 || x + std::int64_t{count} > size.w) lines.refuse("The cells go over the level's right edge");
        if (!content.empty()) fill(grid, {x, y}, static_cast<int>(count), content);
        x += static_cast<int>(count);
    }
}

} // namespace

std::vector<std::string> write_rows(const Grid& grid) {
    std::vector<std::string> out;
    std::vector<Content> row;
    for (int y = 0; y < grid.size().h; ++y) {
        read_row(grid, y, row);
        std::size_t first = 0;
        while (first < row.size() && row[first].empty()) ++first;
        if (first == row.size()) continue;
        std::size_t end = row.size();
        while (row[end - 1].empty()) --end;
        std::string& line = out.emplace_back();
        append(line, y);
        line += ' ';
        append(line, static_cast<long>(first));
        for (std::size_t i = first; i < end;) {
            std::size_t same = i + 1;
            while (same < end && row[same] == row[i]) ++same;
            append_run(line, row[i], static_cast<int>(same - i));
            i = same;
        }
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
            read_row_line(lines, next_tile, size, grid, last_row);
        } catch (const InputError& e) {
            throw InputError(e.problem, file, Text::verbatim(where), e.remedy);
        }
    }
    return grid;
}

std::string write_cells(const level::Level& level) {
    std::string out = std::string(kHead) + "\n";
    for (const level::LayerRef& layer : level.layers) {
        if (layer->kind != LayerKind::tiles) continue;
        out += "layer " + std::to_string(layer->id) + "\n";
        for (const std::string& line : write_rows(layer->grid)) {
            out += line;
            out += '\n';
        }
    }
    out += "end\n";
    return out;
}

void read_cells(std::string_view text, const std::string& file, std::uint32_t next_tile, level::Level& level) {
    Lines lines(text, file);
    if (!lines.next()) throw InputError("The file is empty", file, "", "Restore it from version control or a backup");
    if (lines.line() != kHead) {
        if (lines.line().starts_with("vicinum-cells "))
            throw InputError("The file has another format number than this program knows", file, "line 1",
                             "Open it with a newer Vicinum");
        lines.refuse("This is not a file of cells");
    }
    Grid* grid = nullptr;
    int last_row = -1;
    std::set<level::LayerId> seen;
    while (lines.next()) {
        if (lines.line() == "end") return;
        if (lines.line().starts_with("layer ")) {
            for (int i = 0; i < 6; ++i) lines.take("layer "[i]);
            const level::LayerId id = lines.number(UINT32_MAX);
            const Layer* layer = level.layer(id);
            if (!layer || layer->kind != LayerKind::tiles) lines.refuse(say("The level has no tile layer %1", id));
            if (!seen.insert(id).second) lines.refuse(say("Layer %1 comes twice", id));
            grid = &level.edit(id).grid;
            last_row = -1;
            continue;
        }
        if (!grid) lines.refuse("Cells come before any layer");
        read_row_line(lines, next_tile, level.size, *grid, last_row);
    }
    throw InputError("The file is cut off", file, "its end", "Restore it from version control or a backup");
}

} // namespace vic::store
