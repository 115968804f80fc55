#include "store/fields.hpp"

#include <algorithm>
#include <cmath>
#include <cstdio>

namespace vic::store {

namespace {

constexpr std::size_t kDeepest = 64;
constexpr int kMostNames = 4096;   // of one object
constexpr std::size_t kLine = 140; // characters up to which a value stays on one line

// A name may come from a file name in any encoding; what is no UTF-8 is replaced, so that the file stays readable.
std::string flat(const Json& value) { return value.dump(-1, ' ', false, Json::error_handler_t::replace); }

bool holds_objects(const Json& value) {
    for (const auto& item : value)
        if (item.is_object() || (item.is_array() && holds_objects(item))) return true;
    return false;
}

void write_lines(const Json& value, int depth, std::string& out) {
    const std::string whole = value.is_structured() && value.empty() ? flat(value) : "";
    const bool short_enough = value.is_primitive() || !whole.empty() ||
                              (!holds_objects(value) && flat(value).size() <= kLine) ||
                              (value.is_array() && !holds_objects(value) && value.size() <= 4);
    if (short_enough) {
        out += flat(value);
        return;
    }
    const std::string indent(static_cast<std::size_t>(depth) + 1, ' ');
    out += value.is_object() ? "{\n" : "[\n";
    bool first = true;
    for (auto it = value.begin(); it != value.end(); ++it) {
        if (!first) out += ",\n";
        first = false;
        out += indent;
        if (value.is_object()) out += flat(Json(it.key())) + ": ";
        write_lines(*it, depth + 1, out);
    }
    out += "\n" + std::string(static_cast<std::size_t>(depth), ' ') + (value.is_object() ? "}" : "]");
}

// What would cost the parser more than it reads: it calls itself for what is nested, and looks for each name of an
// object among all before it. (Its own hook for this goes through a list once more for each thing in it.)
void check_nesting(const std::string& bytes, const std::string& file, const Text& remedy) {
    const auto refuse = [&](const Text& what, std::size_t at) {
        const auto line = std::count(bytes.begin(), bytes.begin() + static_cast<std::ptrdiff_t>(at), '\n') + 1;
        throw InputError(what, file, say("line %1", line), remedy);
    };
    std::vector<int> names; // of each object that is open
    for (std::size_t i = 0; i < bytes.size(); ++i) {
        switch (bytes[i]) {
            case '"':
                for (++i; i < bytes.size() && bytes[i] != '"'; ++i)
                    if (bytes[i] == '\\') ++i;
                break;
            case '[':
            case '{':
                names.push_back(0);
                if (names.size() > kDeepest) refuse(say("The file is nested more than %1 deep", kDeepest), i);
                break;
            case ']':
            case '}':
                if (!names.empty()) names.pop_back();
                break;
            case ':':
                if (!names.empty() && ++names.back() > kMostNames)
                    refuse(say("Something in the file holds more than %1 names", kMostNames), i);
                break;
            default:
                break;
        }
    }
}

} // namespace

Json parse_json(const std::string& bytes, const std::string& file) {
    const Text remedy = "Restore the file from version control or a backup";
    if (bytes.find_first_not_of(" \t\r\n") == std::string::npos)
        throw InputError("The file is empty", file, "", remedy);
    try {
        check_nesting(bytes, file, remedy);
        return Json::parse(bytes);
    } catch (const nlohmann::json::parse_error& e) {
        const auto end = bytes.begin() + static_cast<std::ptrdiff_t>(std::min(e.byte, bytes.size()));
        const auto line = std::count(bytes.begin(), end, '\n') + 1;
        throw InputError(e.byte >= bytes.size() ? Text("The file is cut off") : Text("The file is not valid JSON"),
                         file, say("line %1", line), remedy);
    } catch (const nlohmann::json::exception&) {
        throw InputError("The file holds a number that is too large", file, "", remedy);
    }
}

std::string json_lines(const Json& value) {
    std::string out;
    write_lines(value, 0, out);
    return out + "\n";
}

bool Field::has(const char* key) const { return value_->is_object() && value_->contains(key); }

Field Field::operator[](const char* key) const {
    if (!value_->is_object()) refuse("This is not an object");
    const auto it = value_->find(key);
    if (it == value_->end()) refuse(say("\"%1\" is missing", key));
    return {*it, *file_, path_.empty() ? key : path_ + "." + key};
}

std::vector<std::pair<std::string, Field>> Field::entries() const {
    if (!value_->is_object()) refuse("This is not an object");
    std::vector<std::pair<std::string, Field>> out;
    for (auto it = value_->begin(); it != value_->end(); ++it)
        out.emplace_back(it.key(), Field{*it, *file_, path_ + "." + it.key()});
    return out;
}

std::vector<Field> Field::list(std::size_t most) const {
    if (!value_->is_array()) refuse("This is not a list");
    if (value_->size() > most) refuse(say("The list has more than %1 entries", most));
    std::vector<Field> out;
    out.reserve(value_->size());
    for (std::size_t i = 0; i < value_->size(); ++i)
        out.emplace_back((*value_)[i], *file_, path_ + "[" + std::to_string(i) + "]");
    return out;
}

std::int64_t Field::integer(std::int64_t least, std::int64_t most) const {
    if (!value_->is_number_integer()) refuse("This is not a whole number");
    const bool huge = value_->is_number_unsigned() && value_->get<std::uint64_t>() > std::uint64_t{INT64_MAX};
    const std::int64_t v = huge ? INT64_MAX : value_->get<std::int64_t>();
    if (v < least || v > most) refuse(say("The number %1 is not between %2 and %3", v, least, most));
    return v;
}

double Field::real(double least, double most) const {
    if (!value_->is_number()) refuse("This is not a number");
    const double v = value_->get<double>();
    if (!std::isfinite(v) || v < least || v > most) {
        char ends[2][32];
        std::snprintf(ends[0], sizeof ends[0], "%g", least);
        std::snprintf(ends[1], sizeof ends[1], "%g", most);
        refuse(say("The number is not between %1 and %2", ends[0], ends[1]));
    }
    return v;
}

std::string Field::text(std::size_t most) const {
    if (!value_->is_string()) refuse("This is not a text");
    const auto& text = value_->get_ref<const std::string&>();
    if (text.size() > most) refuse(say("The text is longer than %1 bytes", most));
    return text;
}

bool Field::yes() const {
    if (!value_->is_boolean()) refuse("This is neither true nor false");
    return value_->get<bool>();
}

namespace {
template <std::size_t Count>
std::array<int, Count> numbers(const Field& field, int least, int most) {
    const auto items = field.list(Count);
    if (items.size() != Count) field.refuse(say("This is not a list of %1 numbers", Count));
    std::array<int, Count> out{};
    for (std::size_t i = 0; i < Count; ++i) out[i] = items[i].number(least, most);
    return out;
}
} // namespace

Point Field::point(int least, int most) const {
    const auto n = numbers<2>(*this, least, most);
    return {n[0], n[1]};
}

Size Field::size(int least, int most) const {
    const auto n = numbers<2>(*this, least, most);
    return {n[0], n[1]};
}

Box Field::box(int least, int most) const {
    const auto n = numbers<4>(*this, least, most);
    if (n[2] < 0 || n[3] < 0) refuse("A box cannot have a negative size");
    return {n[0], n[1], n[2], n[3]};
}

Rgba Field::colour() const {
    const std::string t = text(16);
    const bool shape = (t.size() == 7 || t.size() == 9) && t[0] == '#' &&
                       t.find_first_not_of("0123456789abcdefABCDEF", 1) == std::string::npos;
    if (!shape) refuse(say("\"%1\" is not a colour like #rrggbb or #rrggbbaa", t));
    const auto part = [&](std::size_t at) {
        return static_cast<std::uint8_t>(std::stoi(t.substr(at, 2), nullptr, 16));
    };
    return {part(1), part(3), part(5), t.size() == 9 ? part(7) : std::uint8_t{255}};
}

int Field::word(const std::vector<std::string>& words) const {
    const std::string t = text(256);
    const auto found = std::find(words.begin(), words.end(), t);
    if (found == words.end()) {
        std::string known;
        for (const auto& w : words) known += (known.empty() ? "" : ", ") + w;
        refuse(say("\"%1\" is none of: %2", t, known));
    }
    return static_cast<int>(found - words.begin());
}

void Field::refuse(const Text& what, const Text& remedy) const {
    throw InputError(what, *file_, path_.empty() ? Text("the top level") : Text::verbatim(path_), remedy);
}

Json to_json(Point p) { return {p.x, p.y}; }
Json to_json(Size s) { return {s.w, s.h}; }
Json to_json(const Box& b) { return {b.x, b.y, b.w, b.h}; }

Json to_json(Rgba c) {
    char text[16];
    if (c.a == 255)
        std::snprintf(text, sizeof text, "#%02x%02x%02x", c.r, c.g, c.b);
    else
        std::snprintf(text, sizeof text, "#%02x%02x%02x%02x", c.r, c.g, c.b, c.a);
    return text;
}

int check_format(const Field& root, const std::string& format, int version) {
    const std::string found = root["format"].text(64);
    if (found != format)
        root["format"].refuse(say("This is a \"%1\", not a \"%2\"", found, format), "Choose the right file");
    const auto number = root["version"].integer(1, 1 << 30);
    if (number > version)
        root["version"].refuse(say("The file has format number %1, this program knows up to %2", number, version),
                               "Open it with a newer Vicinum");
    return static_cast<int>(number);
}

} // namespace vic::store
