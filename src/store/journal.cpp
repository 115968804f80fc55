#include "store/journal.hpp"

#include <fcntl.h>
#include <unistd.h>

#include <algorithm>
#include <array>
#include <cerrno>
#include <charconv>
#include <cstdio>
#include <cstring>
#include <string_view>
#include <utility>
#include <vector>

#include "base/error.hpp"
#include "base/hash.hpp"
#include "join/resolve.hpp"
#include "level/limits.hpp"
#include "store/cells.hpp"
#include "store/format.hpp"
#include "store/project_files.hpp"

namespace vic::store {

namespace {

constexpr const char* kJournal = "vicinum-journal";
constexpr std::array<const char*, 3> kKinds = {"apply", "back", "go"};
constexpr std::size_t kMostBoxes = 64; // of a layer that are told one by one

template <class T>
bool take_number(std::string_view& text, T& value, int base) {
    const auto [end, trouble] = std::from_chars(text.data(), text.data() + text.size(), value, base);
    if (trouble != std::errc()) return false;
    text.remove_prefix(static_cast<std::size_t>(end - text.data()));
    return true;
}

// The next record from `at` on, which is moved behind it; nothing where there is no whole one.
std::optional<std::string_view> next_frame(std::string_view all, std::size_t& at) {
    std::string_view rest = all.substr(at);
    std::size_t length = 0;
    std::uint64_t hash = 0;
    if (!take_number(rest, length, 10) || rest.empty() || rest[0] != ' ') return std::nullopt;
    rest.remove_prefix(1);
    if (!take_number(rest, hash, 16) || rest.empty() || rest[0] != '\n') return std::nullopt;
    rest.remove_prefix(1);
    if (length >= rest.size() || rest[length] != '\n') return std::nullopt;
    const std::string_view bytes = rest.substr(0, length);
    if (hash_of(bytes) != hash) return std::nullopt;
    at = all.size() - rest.size() + length + 1;
    return bytes;
}

// --- What differs.

bool same_rest(const level::Project& a, const level::Project& b) {
    return a.name == b.name && a.sheets == b.sheets && a.materials == b.materials && a.prop_kinds == b.prop_kinds &&
           a.note_kinds == b.note_kinds && a.trays == b.trays && a.order_cards == b.order_cards &&
           a.stamps == b.stamps && a.frames == b.frames && a.unit == b.unit && a.engine_shapes == b.engine_shapes &&
           a.deviation == b.deviation && a.thinnest == b.thinnest && a.area_kinds == b.area_kinds &&
           a.movers == b.movers;
}

// The boxes of a level's cells that hold other cells now; `before` may be null.
std::vector<Box> changed_cells(const level::Level* before, const level::Level& after) {
    std::vector<Box> out;
    for (const level::LayerRef& layer : after.layers) {
        if (!layer->has_cells()) continue;
        const level::Layer* old = before && before->size == after.size ? before->layer(layer->id) : nullptr;
        if (old == layer.get()) continue;
        const bool alike =
            old && old->has_cells() && old->kind() == layer->kind() && old->grid().size() == layer->grid().size();
        std::vector<Box> boxes =
            level::differences(alike ? old->grid() : level::Grid(layer->grid().size()), layer->grid());
        if (boxes.size() > kMostBoxes) {
            Box all = boxes.front();
            for (const Box& b : boxes) all = united(all, b);
            boxes = {all};
        }
        for (const Box& b : boxes) out.push_back(intersection(layer->grain().in_level(b), after.cells()));
    }
    return out;
}

Json level_record(const level::Level* before, const level::Level& after, const join::Rules& rules) {
    Json record{{"id", after.id}, {"level", Json::parse(level_to_text(after))}};
    Json cells = Json::array();
    for (const Box& box : changed_cells(before, after))
        cells.push_back({{"box", to_json(box)}, {"text", write_cells(after, rules, box)}});
    if (!cells.empty()) record["cells"] = std::move(cells);
    return record;
}

Json to_json(const JournalStep& step) {
    Json out{{"do", kKinds.at(static_cast<std::size_t>(step.kind))}, {"when", step.when}};
    if (step.kind == JournalStep::Kind::go) {
        out["place"] = step.place;
        return out;
    }
    out["name"] = step.name;
    if (!step.merge.empty()) out["merge"] = step.merge;
    const level::Project &a = *step.before, &b = *step.after;
    if (a.next_tile != b.next_tile || a.next_id != b.next_id) out["numbers"] = {b.next_tile, b.next_id};
    if (!same_rest(a, b)) {
        level::Project rest = b;
        rest.levels.clear();
        out["project"] = Json::parse(project_to_text(rest));
    }
    Json order = Json::array();
    Json levels = Json::array();
    std::optional<join::Rules> rules;
    for (const auto& level : b.levels) {
        order.push_back(level->id);
        const level::Level* before = a.level(level->id);
        if (before == level.get()) continue;
        if (!rules) rules.emplace(b);
        levels.push_back(level_record(before, *level, *rules));
    }
    if (!std::equal(a.levels.begin(), a.levels.end(), b.levels.begin(), b.levels.end(),
                    [](const auto& x, const auto& y) { return x->id == y->id; }))
        out["order"] = std::move(order);
    if (!levels.empty()) out["levels"] = std::move(levels);
    return out;
}

// --- Reading it.

void clear(level::Grid& grid, const Box& cells) {
    for (int cy = cells.y / level::kChunk; cy * level::kChunk < cells.bottom(); ++cy)
        for (int cx = cells.x / level::kChunk; cx * level::kChunk < cells.right(); ++cx) {
            if (!grid.chunk({cx, cy})) continue;
            const Box chunk{cx * level::kChunk, cy * level::kChunk, level::kChunk, level::kChunk};
            const Box part = intersection(cells, chunk);
            if (part == chunk) {
                grid.put({cx, cy}, nullptr);
                continue;
            }
            for (int y = part.y; y < part.bottom(); ++y)
                for (int x = part.x; x < part.right(); ++x) grid.set({x, y}, {}, 0);
            grid.tidy({cx, cy});
        }
}

// Levels that a step leaves as they are must still fit the project that it leads to.
void check_kinds(const level::Project& project, const Field& f) {
    for (const auto& level : project.levels)
        for (const level::LayerRef& layer : level->layers)
            for (const level::Prop& prop : layer->props())
                if (!project.prop_kind(prop.kind)) f.refuse("A prop is of a kind that goes");
}

// The level of a record; `before` is the one of that id before the step, or null.
level::Level read_level(const Field& f, const level::Project& project, const level::Level* before,
                        const join::Rules& rules) {
    const std::string text = f["level"].json().dump();
    level::Level level = level_from_text(text, f.file(), project);
    if (level.id != f["id"].text()) f["id"].refuse("The level has another id");
    // What no box tells is as it was.
    for (const level::LayerRef& l : std::vector(level.layers)) {
        const level::Layer* old = before && before->size == level.size ? before->layer(l->id) : nullptr;
        if (!l->has_cells() || !old || !old->has_cells() || old->kind() != l->kind() ||
            old->grid().size() != l->grid().size())
            continue;
        level.edit(l->id).grid() = old->grid();
    }
    if (!f.has("cells")) return level;
    const std::vector<Field> parts = f["cells"].list();
    std::vector<Box> boxes;
    for (const Field& part : parts) {
        boxes.push_back(part["box"].box(0, level::kMostCells));
        if (intersection(boxes.back(), level.cells()) != boxes.back())
            part["box"].refuse("The box reaches beyond the level");
        for (const level::LayerRef& l : std::vector(level.layers))
            if (l->has_cells()) clear(level.edit(l->id).grid(), l->grain().in_layer(boxes.back()));
    }
    CellReader reader(level, project.next_tile);
    for (std::size_t i = 0; i < boxes.size(); ++i)
        reader.read(parts[i]["text"].text(std::size_t{1} << 30), f.file(), boxes[i]);
    // Only now: what is joined looks at cells of other boxes.
    reader.finish(rules, boxes);
    return level;
}

} // namespace

fs::path journal_place(const fs::path& dir) { return inside(dir, ".vicinum/journal", dir.string(), ""); }

std::string journal_frame(const std::string& bytes) {
    char head[64];
    const int n = std::snprintf(head, sizeof head, "%zu %016llx\n", bytes.size(),
                                static_cast<unsigned long long>(hash_of(bytes)));
    return std::string(head, static_cast<std::size_t>(n)) + bytes + "\n";
}

JournalWriter::JournalWriter(fs::path file, std::uint64_t mark) : file_(std::move(file)) {
    std::error_code trouble;
    fs::create_directories(file_.parent_path(), trouble);
    begun_ = file_.string() + ".begun";
    fs::remove(begun_, trouble); // a link goes, not what it leads to
    handle_ = ::open(begun_.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_NOFOLLOW | O_CLOEXEC | O_APPEND, 0600);
    if (handle_ < 0)
        throw InputError(say("The journal cannot be begun: %1", std::strerror(errno)), file_.string(), "",
                         "Check the free space and who may write there");
    const Json head{{"format", kJournal}, {"version", kJournalVersion}, {"mark", mark}};
    const std::string bytes = journal_frame(head.dump());
    if (::write(handle_, bytes.data(), bytes.size()) != static_cast<ssize_t>(bytes.size())) {
        ::close(std::exchange(handle_, -1));
        throw InputError("The journal cannot be written", file_.string(), "", "Check the free space");
    }
    size_ = bytes.size();
}

JournalWriter::~JournalWriter() {
    if (handle_ >= 0) ::close(handle_);
    std::error_code trouble;
    if (!begun_.empty()) fs::remove(begun_, trouble);
}

void JournalWriter::write(std::span<const JournalStep> steps) {
    std::string bytes;
    for (const JournalStep& step : steps) bytes += journal_frame(to_json(step).dump());
    std::size_t done = 0;
    while (done < bytes.size()) {
        const ssize_t n = ::write(handle_, bytes.data() + done, bytes.size() - done);
        if (n < 0 && errno == EINTR) continue;
        if (n < 0) {
            const int why = errno;
            // What was begun goes again, so that the next step is not lost behind it.
            if (::ftruncate(handle_, static_cast<off_t>(size_)) != 0) ::close(std::exchange(handle_, -1));
            throw InputError(say("The journal cannot be written: %1", std::strerror(why)), file_.string(), "",
                             "Free some space: until then a crash loses what is done");
        }
        done += static_cast<std::size_t>(n);
    }
    size_ += bytes.size();
    if (begun_.empty()) return;
    // Only now: what was there before stands until there is more.
    std::error_code trouble;
    fs::rename(begun_, file_, trouble);
    if (trouble)
        throw InputError(say("The journal cannot be put in place: %1", trouble.message()), file_.string(), "",
                         "Check who may write there");
    begun_.clear();
}

void JournalWriter::flush() {
    if (handle_ >= 0) ::fdatasync(handle_);
}

namespace {

// Whole, or as much as there is of one that is too large.
std::string journal_bytes(const fs::path& file) { return read_file(file, kMostJournal); }

std::uint64_t read_head(std::string_view all, std::size_t& at, const std::string& file) {
    const auto frame = next_frame(all, at);
    if (!frame) throw InputError("This is no journal", file, "its beginning", "Remove the file");
    const Json json = parse_json(std::string(*frame), file);
    const Field root(json, file, "");
    check_format(root, kJournal, kJournalVersion);
    return root["mark"].json().is_number_unsigned() ? root["mark"].json().get<std::uint64_t>() : 0;
}

} // namespace

std::optional<JournalHead> journal_head(const fs::path& file) {
    std::error_code trouble;
    if (fs::symlink_status(file, trouble).type() == fs::file_type::not_found) return std::nullopt;
    const std::string all = journal_bytes(file);
    JournalHead head;
    std::size_t at = 0;
    head.mark = read_head(all, at, file.string());
    std::string_view last;
    while (const auto frame = next_frame(all, at)) {
        ++head.steps;
        last = *frame;
    }
    head.torn = at < all.size();
    try {
        if (head.steps > 0) {
            const Json json = parse_json(std::string(last), file.string());
            head.last = Field(json, file.string(), "")["when"].integer(0, 1LL << 40);
        }
    } catch (const InputError&) {
        head.torn = true;
    }
    return head;
}

JournalReader::JournalReader(const fs::path& file, ProjectRef base, fs::path dir)
    : dir_(std::move(dir)), file_(file.string()), bytes_(journal_bytes(file)), now_(std::move(base)) {
    read_head(bytes_, at_, file_);
}

std::optional<JournalStep> JournalReader::next() {
    if (torn_ || at_ >= bytes_.size()) return std::nullopt;
    const auto frame = next_frame(bytes_, at_);
    if (!frame) {
        torn_ = true;
        return std::nullopt;
    }
    try {
        const Json json = parse_json(std::string(*frame), file_);
        const Field f(json, file_, "");
        JournalStep step;
        step.when = f["when"].integer(0, 1LL << 40);
        step.kind = static_cast<JournalStep::Kind>(f["do"].word({"apply", "back", "go"}));
        if (step.kind == JournalStep::Kind::go) {
            step.place = f["place"].integer(-(1LL << 32), 1LL << 32);
            if (f.has("state")) f["state"].refuse("A way through the history has no state");
            step.after = now_;
            return step;
        }
        step.name = f["name"].text();
        if (f.has("merge")) step.merge = f["merge"].text();
        level::Project next = *now_;
        if (f.has("project")) {
            std::vector<std::string> none;
            next = project_from_text(f["project"].json().dump(), file_, none);
            next.levels = now_->levels;
            give_pictures(next, dir_, *now_);
        }
        if (f.has("numbers")) {
            const auto numbers = f["numbers"].list(2);
            if (numbers.size() != 2) f["numbers"].refuse("There should be two numbers");
            next.next_tile = static_cast<std::uint32_t>(numbers[0].integer(1, level::kMostTiles + 1));
            next.next_id = static_cast<std::uint32_t>(numbers[1].integer(1, UINT32_MAX));
        }
        if (step.kind == JournalStep::Kind::apply) {
            next.next_tile = std::max(next.next_tile, now_->next_tile);
            next.next_id = std::max(next.next_id, now_->next_id);
        }
        if (f.has("levels")) {
            const join::Rules rules(next);
            for (const Field& l : f["levels"].list()) next.put(read_level(l, next, now_->level(l["id"].text()), rules));
        }
        if (f.has("order")) {
            std::vector<std::shared_ptr<const level::Level>> order;
            for (const Field& id : f["order"].list())
                for (const auto& l : next.levels)
                    if (l->id == id.text()) order.push_back(l);
            next.levels = std::move(order);
        }
        if (f.has("project")) check_kinds(next, f["project"]);
        now_ = std::make_shared<const level::Project>(std::move(next));
        step.after = now_;
        return step;
    } catch (const std::exception&) {
        torn_ = true;
        return std::nullopt;
    }
}

} // namespace vic::store
