#include "kit/read_obj.hpp"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <map>
#include <utility>

#include "base/error.hpp"
#include "kit/picture.hpp"
#include "sheet/png.hpp"

namespace vic::kit {

namespace {

constexpr std::size_t kMostCorners = 4096; // of a polygon

bool blank(char c) { return c == ' ' || c == '\t' || c == '\r'; }

// The words of a line, one after the other.
class Words {
  public:
    explicit Words(std::string_view line) : left_(line) {}
    std::string_view next() {
        while (!left_.empty() && blank(left_.front())) left_.remove_prefix(1);
        std::size_t size = 0;
        while (size < left_.size() && !blank(left_[size])) ++size;
        const std::string_view out = left_.substr(0, size);
        left_.remove_prefix(size);
        return out;
    }
    // All that is left, without blanks at its ends.
    std::string rest() {
        while (!left_.empty() && blank(left_.front())) left_.remove_prefix(1);
        while (!left_.empty() && blank(left_.back())) left_.remove_suffix(1);
        return std::string(left_);
    }

  private:
    std::string_view left_;
};

// visit(number of the line, from 1; words), comments left out; lines that end in a backslash go on.
template <class Visit>
void each_line(std::string_view bytes, const Visit& visit) {
    std::string joined;
    std::size_t number = 0, first = 0;
    for (std::size_t at = 0; at < bytes.size();) {
        const std::size_t end = std::min(bytes.find('\n', at), bytes.size());
        std::string_view line = bytes.substr(at, end - at);
        at = end + 1;
        ++number;
        if (!line.empty() && line.back() == '\r') line.remove_suffix(1);
        line = line.substr(0, line.find('#'));
        if (joined.empty()) first = number;
        const bool goes_on = !line.empty() && line.back() == '\\';
        if (goes_on || !joined.empty()) {
            joined += line.substr(0, line.size() - (goes_on ? 1 : 0));
            joined += ' ';
            if (goes_on && at < bytes.size()) continue;
            visit(first, Words(joined));
            joined.clear();
        } else {
            visit(number, Words(line));
        }
    }
}

class ObjReader {
  public:
    ObjReader(fs::path folder, std::string file) : folder_(std::move(folder)), file_(std::move(file)) {}

    KitFile read(std::string_view bytes) {
        bool objects = false;
        each_line(bytes, [&](std::size_t, Words words) { objects = objects || words.next() == "o"; });
        std::string name;
        each_line(bytes, [&](std::size_t number, Words words) {
            line_ = number;
            const std::string_view what = words.next();
            if (what == "v") {
                points_.push_back(vec(words));
                if (points_.size() > 3 * kMostTriangles) refuse("There are more points than are read");
            } else if (what == "vt") {
                const double u = this->number(words.next()), v = this->number(words.next(), 0);
                uv_.push_back({static_cast<float>(u), static_cast<float>(1 - v)}); // counted from below there
                if (uv_.size() > 3 * kMostTriangles) refuse("There are more points than are read");
            } else if (what == "f") {
                polygon(words);
            } else if (what == (objects ? "o" : "g")) {
                begin(words.rest());
            } else if (what == "usemtl") {
                finish_ = finish_of(words.rest());
            } else if (what == "mtllib") {
                read_finishes(words.rest());
            }
        });
        std::erase_if(out_.bodies, [](const Body& b) { return b.mesh.triangles.empty(); });
        if (out_.bodies.empty()) {
            line_ = 0;
            refuse("There is nothing in the file that has a surface");
        }
        if (out_.bodies.size() == 1) out_.bodies.front().name = fs::path(file_).stem().string();
        for (Body& b : out_.bodies) b.nodes = {b.name};
        return std::move(out_);
    }

  private:
    [[noreturn]] void refuse(const Text& what) const {
        throw InputError(what, file_, line_ == 0 ? Text() : say("line %1", line_),
                         "Export it again as OBJ or as glTF 2.0, or drop another file");
    }
    double number(std::string_view word, double otherwise = NAN) const {
        if (word.empty() && !std::isnan(otherwise)) return otherwise;
        double out = 0;
        if (word.size() > 1 && word[0] == '+' && word[1] != '-') word.remove_prefix(1);
        const auto [end, error] = std::from_chars(word.data(), word.data() + word.size(), out);
        if (error != std::errc() || end != word.data() + word.size() || !std::isfinite(out))
            refuse("There is something else than a number");
        return out;
    }
    Vec vec(Words& words) const {
        const double x = number(words.next()), y = number(words.next()), z = number(words.next());
        if (!(std::abs(x) < kMostMetres && std::abs(y) < kMostMetres && std::abs(z) < kMostMetres))
            refuse("A point lies too far away");
        return {x, y, z};
    }
    // The place in a list that a number names: counted from 1, or back from the last.
    std::size_t place(std::string_view word, std::size_t size) const {
        long out = 0;
        const auto [end, error] = std::from_chars(word.data(), word.data() + word.size(), out);
        if (error != std::errc() || end != word.data() + word.size()) refuse("There is something else than a number");
        if (out < 0) out += static_cast<long>(size) + 1;
        if (out < 1 || out > static_cast<long>(size)) refuse("A corner of a polygon is no point of the file");
        return static_cast<std::size_t>(out - 1);
    }
    void begin(const std::string& name) {
        if (out_.bodies.size() == kMostBodies) refuse("There are more pieces than are read");
        out_.bodies.push_back({name.empty() ? "Piece " + std::to_string(out_.bodies.size() + 1) : name, {}, {}, {}});
        mine_.clear();
    }
    void polygon(Words& words) {
        if (out_.bodies.empty()) begin({});
        Mesh& mesh = out_.bodies.back().mesh;
        std::vector<std::uint32_t> corners;
        for (std::string_view word = words.next(); !word.empty(); word = words.next()) {
            const std::size_t slash = word.find('/');
            const std::size_t point = place(word.substr(0, slash), points_.size());
            std::size_t uv = SIZE_MAX;
            if (slash != std::string_view::npos) {
                const std::string_view second = word.substr(slash + 1, word.find('/', slash + 1) - slash - 1);
                if (!second.empty()) uv = place(second, uv_.size());
            }
            const auto [known, anew] =
                mine_.emplace(std::pair(point, uv), static_cast<std::uint32_t>(mesh.points.size()));
            if (anew) {
                mesh.points.push_back(points_[point]);
                mesh.uv.push_back(uv == SIZE_MAX ? std::array<float, 2>{0, 0} : uv_[uv]);
            }
            corners.push_back(known->second);
            if (corners.size() > kMostCorners) refuse("A polygon has more corners than are read");
        }
        if (corners.size() < 3) refuse("A polygon has less than three corners");
        for (std::size_t i = 1; i + 1 < corners.size(); ++i) {
            if (corners[0] == corners[i] || corners[i] == corners[i + 1] || corners[0] == corners[i + 1]) continue;
            if (++triangles_ > kMostTriangles) refuse("There are more triangles than are read");
            if (finish_ < 0) finish_ = finish_of("(none)");
            mesh.triangles.push_back({corners[0], corners[i], corners[i + 1]});
            mesh.finish.push_back(static_cast<std::uint16_t>(finish_));
            mesh.node.push_back(0);
        }
    }
    int finish_of(const std::string& name) {
        const auto found =
            std::find_if(out_.finishes.begin(), out_.finishes.end(), [&](const Finish& f) { return f.name == name; });
        if (found != out_.finishes.end()) return static_cast<int>(found - out_.finishes.begin());
        if (out_.finishes.size() >= 4096) refuse("There are more materials than are read");
        out_.finishes.push_back({name, {200, 200, 200, 255}, -1, true, false});
        return static_cast<int>(out_.finishes.size() - 1);
    }
    void read_finishes(const std::string& name) {
        std::string bytes;
        try {
            const fs::path path = beside(name);
            bytes = read_file(path, kMostKitBytes);
            out_.files.push_back(path);
        } catch (const InputError& e) {
            out_.doubts.push_back(say("The materials \"%1\" are not read: %2", name, e.problem));
            return;
        }
        int at = -1;
        each_line(bytes, [&](std::size_t, Words words) {
            const std::string_view what = words.next();
            if (what == "newmtl") {
                at = finish_of(words.rest());
                return;
            }
            if (at < 0) return;
            Finish& finish = out_.finishes[static_cast<std::size_t>(at)];
            const auto part = [&](std::string_view word) {
                double v = 0;
                std::from_chars(word.data(), word.data() + word.size(), v);
                return static_cast<std::uint8_t>(std::lround(std::clamp(std::isfinite(v) ? v : 0.0, 0.0, 1.0) * 255));
            };
            if (what == "Kd") {
                const auto r = part(words.next()), g = part(words.next()), b = part(words.next());
                finish.colour = {r, g, b, finish.colour.a};
            } else if (what == "d") {
                finish.colour.a = part(words.next());
            } else if (what == "map_Kd") {
                finish.picture = picture(words.rest());
            } else if (what == "map_d") {
                finish.cut_out = true;
            }
        });
    }
    // Programs write paths as the machine has them on which they run, with its slashes and drives: where there is
    // nothing at such a place, what lies beside the file by that name is meant.
    fs::path beside(std::string name) const {
        std::replace(name.begin(), name.end(), '\\', '/');
        fs::path path = inside(folder_, name, file_, {});
        const fs::path last = fs::path(name).filename();
        std::error_code none;
        if (fs::exists(path, none) || last.empty() || last == "..") return path;
        fs::path here = inside(folder_, last.string(), file_, {});
        return fs::exists(here, none) ? here : path;
    }
    int picture(const std::string& name) {
        const auto known = pictures_.find(name);
        if (known != pictures_.end()) return known->second;
        try {
            if (pixels_ >= sheet::kMostPixels) throw InputError("There are more than are read", file_, {}, {});
            const fs::path path = beside(name);
            out_.pictures.push_back(decode_picture(read_file(path), path.string()));
            out_.files.push_back(path);
            pixels_ += out_.pictures.back().size().area();
            return pictures_[name] = static_cast<int>(out_.pictures.size() - 1);
        } catch (const InputError& e) {
            out_.doubts.push_back(say("The picture \"%1\" is not shown: %2", name, e.problem));
            return pictures_[name] = -1;
        }
    }

    fs::path folder_;
    std::string file_;
    std::size_t line_ = 0, triangles_ = 0;
    std::int64_t pixels_ = 0; // of all pictures
    std::vector<Vec> points_;
    std::vector<std::array<float, 2>> uv_;
    std::map<std::pair<std::size_t, std::size_t>, std::uint32_t> mine_; // points of the body at hand
    std::map<std::string, int> pictures_;
    int finish_ = -1;
    KitFile out_;
};

} // namespace

KitFile obj_from(std::string_view bytes, const fs::path& folder, const std::string& file) {
    return ObjReader(folder, file).read(bytes);
}

KitFile read_obj(const fs::path& file) {
    KitFile out = obj_from(read_file(file, kMostKitBytes), file.parent_path(), file.string());
    out.files.push_back(file);
    return out;
}

} // namespace vic::kit
